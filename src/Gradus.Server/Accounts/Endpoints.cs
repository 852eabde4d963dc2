using System.Security.Claims;
using FluentValidation;
using Gradus.Data;
using Gradus.Server.Hosting;
using Gradus.Server.School;
using Microsoft.AspNetCore.Authentication;
using Microsoft.AspNetCore.Authentication.Cookies;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Accounts;

/// <summary>Who is at the tablet, and whose school it is. Before a school is set up, <c>school</c> is null.</summary>
/// <param name="Instructors">The names to choose from when signing in.</param>
/// <param name="DemoPin">The PIN of the demo school's invented instructors; null on a real school.</param>
/// <param name="AuthorTicket">As in <see cref="SignedIn"/>; null when nobody is signed in.</param>
/// <param name="Today">The day at the school.</param>
/// <param name="Wall">How students are named, on a wall screen; null elsewhere.</param>
public sealed record SessionView(
    SchoolView? School,
    InstructorView? Instructor,
    IReadOnlyList<InstructorView> Instructors,
    string? DemoPin,
    string? AuthorTicket,
    DateOnly Today,
    WallNames? Wall
);

public sealed record SchoolView(string Name, string TimeZone, bool IsDemo);

public sealed record InstructorView(Guid Id, string Name, bool IsLead);

/// <summary>Who has signed in.</summary>
/// <param name="AuthorTicket">Goes with each record that waits on the tablet, and says who wrote it; good for nothing else.</param>
public sealed record SignedIn(Guid Id, string Name, bool IsLead, string AuthorTicket);

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

    /// <summary>The PIN of the demo's invented instructors; shown on the sign-in page of the demo only.</summary>
    public const string DemoPin = "2468";

    public static void MapAccounts(this IEndpointRouteBuilder routes)
    {
        var group = routes.MapGroup("/api").AllowAnonymous().WithTags("Accounts");
        group.MapGet("/session", Session).Produces<SessionView>();
        group
            .MapPost("/session", SignIn)
            .Validated<SignInRequest>()
            .Produces<SignedIn>()
            .ProducesProblem(StatusCodes.Status401Unauthorized)
            .ProducesProblem(StatusCodes.Status429TooManyRequests)
            .RequireRateLimiting(SignInLimit);
        group.MapDelete("/session", (Delegate)SignOut).Produces(StatusCodes.Status204NoContent);
        group.MapPost("/setup", SetUp).Validated<SetupRequest>().Writes().Produces<SignedIn>().ProducesProblem(StatusCodes.Status409Conflict);
    }

    /// <summary>The instructor who is signed in.</summary>
    public static Guid InstructorId(this ClaimsPrincipal user) => Guid.Parse(user.FindFirstValue(ClaimTypes.NameIdentifier)!);

    private static async Task<SessionView> Session(
        ClaimsPrincipal user,
        GradusContext db,
        AuthorTickets tickets,
        SchoolClock clock,
        CancellationToken cancel
    )
    {
        var school = await db.Schools.AsNoTracking().SingleOrDefaultAsync(cancel);
        var instructors = await db
            .Instructors.OrderByDescending(one => one.IsLead)
            .ThenBy(one => one.Name)
            .Select(one => new InstructorView(one.Id, one.Name, one.IsLead))
            .Take(Limits.PageRows)
            .ToListAsync(cancel);
        var me =
            user.Identity?.IsAuthenticated == true && user.WallNames() is null
                ? instructors.FirstOrDefault(one => one.Id == user.InstructorId())
                : null;
        return new SessionView(
            school is null ? null : new SchoolView(school.Name, school.TimeZone, school.IsDemo),
            me,
            instructors,
            school?.IsDemo == true ? DemoPin : null,
            me is null ? null : tickets.Issue(me.Id),
            clock.Today,
            user.WallNames()
        );
    }

    private static async Task<IResult> SignIn(
        SignInRequest request,
        HttpContext context,
        GradusContext db,
        IPasswordHasher<Instructor> hasher,
        AuthorTickets tickets,
        CancellationToken cancel
    )
    {
        var instructor = await db.Instructors.FindAsync([request.InstructorId!.Value], cancel);
        if (instructor is null || hasher.VerifyHashedPassword(instructor, instructor.PinHash, request.Pin!) == PasswordVerificationResult.Failed)
        {
            var errors = new Dictionary<string, string[]> { ["pin"] = ["That PIN does not belong to that name."] };
            return new Refusal(StatusCodes.Status401Unauthorized, "Not signed in.", errors).ToResult();
        }

        return await Admit(context, instructor, tickets);
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
        SchoolClock clock,
        Writes writes,
        AuthorTickets tickets,
        CancellationToken cancel
    )
    {
        if (await db.Schools.AnyAsync(cancel))
        {
            return Refusal.Conflict("schoolName", "The school is set up already. Sign in.").ToResult();
        }

        var lead = NewInstructor(hasher, request.InstructorName!.Trim(), request.Pin!, isLead: true);
        db.Schools.Add(
            new Data.School
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
        writes.OnCommit(() => clock.Use(request.TimeZone!));
        return await Admit(context, lead, tickets);
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

    private static async Task<IResult> Admit(HttpContext context, Instructor instructor, AuthorTickets tickets)
    {
        var identity = new ClaimsIdentity(
            [new Claim(ClaimTypes.NameIdentifier, instructor.Id.ToString())],
            CookieAuthenticationDefaults.AuthenticationScheme
        );
        await context.SignInAsync(new ClaimsPrincipal(identity), new AuthenticationProperties { IsPersistent = true });
        return TypedResults.Ok(new SignedIn(instructor.Id, instructor.Name, instructor.IsLead, tickets.Issue(instructor.Id)));
    }
}
