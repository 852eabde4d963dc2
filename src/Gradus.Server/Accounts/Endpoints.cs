using System.Security.Claims;
using FluentValidation;
using Gradus.Data;
using Gradus.Server.Hosting;
using Microsoft.AspNetCore.Authentication;
using Microsoft.AspNetCore.Authentication.Cookies;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Accounts;

/// <summary>Who is at the tablet, and whose school it is. Before a school is set up, <c>school</c> is null.</summary>
/// <param name="Instructors">The names to choose from when signing in.</param>
/// <param name="DemoPin">The PIN of the demo school's invented instructors; null on a real school.</param>
public sealed record SessionView(SchoolView? School, InstructorView? Instructor, IReadOnlyList<InstructorView> Instructors, string? DemoPin);

public sealed record SchoolView(string Name, string TimeZone, bool IsDemo);

public sealed record InstructorView(Guid Id, string Name, bool IsLead);

public sealed record SignInRequest(Guid? InstructorId, string? Pin);

/// <summary>The first-run page: a school, its lead instructor, its booths.</summary>
public sealed record SetupRequest(string? SchoolName, string? TimeZone, string? InstructorName, string? Pin, int? Booths);

public sealed class SignInValidator : AbstractValidator<SignInRequest>
{
    public SignInValidator()
    {
        RuleFor(request => request.InstructorId).NotNull().WithMessage("Choose who you are.");
        RuleFor(request => request.Pin).NeedsText(12, "your PIN");
    }
}

public sealed class SetupValidator : AbstractValidator<SetupRequest>
{
    public const int MostBooths = 60;

    public SetupValidator()
    {
        RuleFor(request => request.SchoolName).NeedsText(120, "the school's name");
        RuleFor(request => request.InstructorName).NeedsText(80, "your name");
        RuleFor(request => request.TimeZone)
            .Must(zone => zone is not null && TimeZoneInfo.TryFindSystemTimeZoneById(zone, out _))
            .WithMessage("Give a time zone such as Europe/Oslo or America/Chicago.");
        RuleFor(request => request.Pin)
            .Must(pin => pin is { Length: >= 4 and <= 12 } && pin.All(char.IsAsciiDigit))
            .WithMessage("Choose a PIN of 4 to 12 digits.");
        RuleFor(request => request.Booths)
            .Must(count => count is >= 1 and <= MostBooths)
            .WithMessage($"Give the number of booths, 1 to {MostBooths}.");
    }
}

public static class Endpoints
{
    public const string SignInLimit = "sign-in";

    public static void MapAccounts(this IEndpointRouteBuilder routes)
    {
        var group = routes.MapGroup("/api").AllowAnonymous().WithTags("Accounts");
        group.MapGet("/session", Session).Produces<SessionView>();
        group
            .MapPost("/session", SignIn)
            .Validated<SignInRequest>()
            .Produces<InstructorView>()
            .ProducesProblem(StatusCodes.Status401Unauthorized)
            .ProducesProblem(StatusCodes.Status429TooManyRequests)
            .RequireRateLimiting(SignInLimit);
        group.MapDelete("/session", (Delegate)SignOut).Produces(StatusCodes.Status204NoContent);
        group.MapPost("/setup", SetUp).Validated<SetupRequest>().Produces<InstructorView>().ProducesProblem(StatusCodes.Status409Conflict);
    }

    /// <summary>The instructor who is signed in.</summary>
    public static Guid InstructorId(this ClaimsPrincipal user) => Guid.Parse(user.FindFirstValue(ClaimTypes.NameIdentifier)!);

    private static async Task<SessionView> Session(ClaimsPrincipal user, GradusContext db, CancellationToken cancel)
    {
        var school = await db.Schools.AsNoTracking().SingleOrDefaultAsync(cancel);
        var instructors = await db
            .Instructors.OrderByDescending(one => one.IsLead)
            .ThenBy(one => one.Name)
            .Select(one => new InstructorView(one.Id, one.Name, one.IsLead))
            .Take(Limits.PageRows)
            .ToListAsync(cancel);
        var me = user.Identity?.IsAuthenticated == true ? instructors.FirstOrDefault(one => one.Id == user.InstructorId()) : null;
        return new SessionView(
            school is null ? null : new SchoolView(school.Name, school.TimeZone, school.IsDemo),
            me,
            instructors,
            school?.IsDemo == true ? Demo.DemoSchool.Pin : null
        );
    }

    private static async Task<IResult> SignIn(
        SignInRequest request,
        HttpContext context,
        GradusContext db,
        IPasswordHasher<Instructor> hasher,
        CancellationToken cancel
    )
    {
        var instructor = await db.Instructors.FindAsync([request.InstructorId!.Value], cancel);
        if (instructor is null || hasher.VerifyHashedPassword(instructor, instructor.PinHash, request.Pin!) == PasswordVerificationResult.Failed)
        {
            var errors = new Dictionary<string, string[]> { ["pin"] = ["That PIN does not belong to that name."] };
            return new Refusal(StatusCodes.Status401Unauthorized, "Not signed in.", errors).ToResult();
        }

        return await Admit(context, instructor);
    }

    private static async Task<IResult> SignOut(HttpContext context)
    {
        await context.SignOutAsync();
        return TypedResults.NoContent();
    }

    private static async Task<IResult> SetUp(
        SetupRequest request,
        HttpContext context,
        GradusContext db,
        IPasswordHasher<Instructor> hasher,
        CancellationToken cancel
    )
    {
        if (await db.Schools.AnyAsync(cancel))
        {
            return Refusal.Conflict("schoolName", "The school is set up already. Sign in.").ToResult();
        }

        var lead = NewInstructor(hasher, request.InstructorName!.Trim(), request.Pin!, isLead: true);
        db.Schools.Add(
            new School
            {
                Id = Guid.CreateVersion7(),
                Name = request.SchoolName!.Trim(),
                TimeZone = request.TimeZone!,
            }
        );
        db.Instructors.Add(lead);
        db.Booths.AddRange(Enumerable.Range(1, request.Booths!.Value).Select(number => Booth.New(Guid.CreateVersion7(), number)));
        db.ClassGroups.Add(
            new ClassGroup
            {
                Id = Guid.CreateVersion7(),
                Name = "Day class",
                MeetsOn = [DayOfWeek.Monday, DayOfWeek.Tuesday, DayOfWeek.Wednesday, DayOfWeek.Thursday, DayOfWeek.Friday],
            }
        );
        await db.SaveChangesAsync(cancel);
        return await Admit(context, lead);
    }

    internal static Instructor NewInstructor(IPasswordHasher<Instructor> hasher, string name, string pin, bool isLead)
    {
        var instructor = new Instructor
        {
            Id = Guid.CreateVersion7(),
            Name = name,
            IsLead = isLead,
            PinHash = "",
        };
        instructor.PinHash = hasher.HashPassword(instructor, pin);
        return instructor;
    }

    private static async Task<IResult> Admit(HttpContext context, Instructor instructor)
    {
        var identity = new ClaimsIdentity(
            [new Claim(ClaimTypes.NameIdentifier, instructor.Id.ToString())],
            CookieAuthenticationDefaults.AuthenticationScheme
        );
        await context.SignInAsync(new ClaimsPrincipal(identity), new AuthenticationProperties { IsPersistent = true });
        return TypedResults.Ok(new InstructorView(instructor.Id, instructor.Name, instructor.IsLead));
    }
}
