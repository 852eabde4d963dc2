using System.Text.RegularExpressions;
using FluentValidation;
using Gradus.Data;
using Gradus.Server.Hosting;
using Gradus.Server.School;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Accounts;

/// <summary>How the school is set up.</summary>
/// <param name="Currency">In which prices and costs are told; three letters of ISO 4217.</param>
/// <param name="Address">Where it is reached in the shop's network; null where that was not said.</param>
/// <param name="StudentsSeeChance">Whether students see the chance that is worked out for them.</param>
/// <param name="IdleMinutes">After so many minutes without a touch a tablet of the shop asks who is there.</param>
public sealed record SchoolSettings(string? Name, string? TimeZone, string? Currency, string? Address, bool? StudentsSeeChance, int? IdleMinutes);

public sealed partial class SchoolSettingsValidator : AbstractValidator<SchoolSettings>
{
    public SchoolSettingsValidator()
    {
        RuleFor(request => request.Name).NeedsText(120, "the school's name");
        RuleFor(request => request.TimeZone)
            .Must(zone => zone is not null && TimeZoneInfo.TryFindSystemTimeZoneById(zone, out _))
            .WithMessage("Give a time zone such as Europe/Oslo or America/Chicago.");
        RuleFor(request => request.Currency)
            .Must(currency => currency is not null && Currency().IsMatch(currency))
            .WithMessage("Give the three letters of a currency, such as USD or EUR.");
        RuleFor(request => request.Address)
            .Must(address => address is null || IsAddress(address))
            .WithMessage("Give the address as https://name:port or http://name:port, without a path, or leave it out.");
        RuleFor(request => request.StudentsSeeChance).NotNull().WithMessage("true or false.");
        RuleFor(request => request.IdleMinutes).Must(minutes => minutes is >= 1 and <= 240).WithMessage("Give 1 to 240 minutes.");
    }

    private static bool IsAddress(string address) =>
        address.Length <= 200
        && Uri.TryCreate(address, UriKind.Absolute, out var uri)
        && uri.Scheme is "http" or "https"
        && uri is { PathAndQuery: "/", Fragment: "", UserInfo: "" };

    [GeneratedRegex("^[A-Z]{3}$")]
    private static partial Regex Currency();
}

/// <summary>What the lead sets of the school.</summary>
public static class SchoolEndpoints
{
    public static void MapSchool(this IEndpointRouteBuilder routes)
    {
        var group = routes.MapGroup("/api/school").WithTags("School");
        group.MapGet("", Read).Produces<SchoolSettings>();
        group.MapPut("", Save).Validated<SchoolSettings>().Writes().Produces<SchoolSettings>();
    }

    private static async Task<SchoolSettings> Read(GradusContext db, CancellationToken cancel) =>
        View(await db.Schools.AsNoTracking().SingleAsync(cancel));

    private static async Task<SchoolSettings> Save(
        SchoolSettings request,
        GradusContext db,
        SchoolClock clock,
        Writes writes,
        CancellationToken cancel
    )
    {
        var school = await db.Schools.SingleAsync(cancel);
        (school.Name, school.TimeZone, school.Currency) = (request.Name!.Trim(), request.TimeZone!, request.Currency!);
        (school.Address, school.StudentsSeeChance) = (request.Address?.TrimEnd('/'), request.StudentsSeeChance!.Value);
        school.IdleMinutes = request.IdleMinutes!.Value;
        await db.SaveChangesAsync(cancel);
        writes.OnCommit(() => clock.Use(request.TimeZone!));
        return View(school);
    }

    private static SchoolSettings View(Data.School school) =>
        new(school.Name, school.TimeZone, school.Currency, school.Address, school.StudentsSeeChance, school.IdleMinutes);
}
