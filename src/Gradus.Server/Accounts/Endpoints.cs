using System.Security.Claims;
using FluentValidation;
using Gradus.Core.Vocabulary;
using Gradus.Data;
using Gradus.Server.Hosting;
using Gradus.Server.School;
using Microsoft.AspNetCore.Authentication;
using Microsoft.AspNetCore.Authentication.Cookies;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Accounts;

/// <summary>Who is at the tablet, and whose school it is. Before a school is set up, <c>school</c> is null.</summary>
/// <param name="Person">Who is signed in; null for nobody.</param>
/// <param name="Instructor">The same, when it is somebody who instructs, leads or inspects; null for a student.</param>
/// <param name="Instructors">The names to choose from when signing in.</param>
/// <param name="Classes">On a tablet of the shop: the students of each class who have a PIN. Empty elsewhere: a name is typed there.</param>
/// <param name="Tablet">The name of the tablet of the shop that this is; null elsewhere.</param>
/// <param name="DemoPin">The PIN of the demo school's invented people; null on a real school.</param>
/// <param name="AuthorTicket">As in <see cref="SignedIn"/>; null when nobody is signed in.</param>
/// <param name="Today">The day at the school.</param>
/// <param name="Wall">How students are named, on a wall screen; null elsewhere.</param>
/// <param name="IdleMinutes">After so many minutes without a touch a tablet of the shop asks who is there.</param>
/// <param name="Erased">How many students were erased so far: a tablet that knew of fewer forgets what it has read.</param>
public sealed record SessionView(
    SchoolView? School,
    SessionPerson? Person,
    InstructorView? Instructor,
    IReadOnlyList<InstructorView> Instructors,
    IReadOnlyList<ClassOfStudents> Classes,
    string? Tablet,
    string? DemoPin,
    string? AuthorTicket,
    DateOnly Today,
    WallNames? Wall,
    int IdleMinutes,
    int Erased
);

public sealed record SchoolView(string Name, string TimeZone, bool IsDemo, string Currency);

/// <param name="Language">In which they are spoken to, by ISO 639-1.</param>
/// <param name="Units">The units that they chose, <c>in</c> or <c>mm</c>; null where they chose none.</param>
public sealed record SessionPerson(Guid Id, string Name, PersonRole Role, string Language, string? Units);

public sealed record InstructorView(Guid Id, string Name, bool IsLead, PersonRole Role);

/// <summary>The students of a class who can sign in.</summary>
public sealed record ClassOfStudents(Guid Id, string Name, IReadOnlyList<NamedStudent> Students);

public sealed record NamedStudent(Guid Id, string Name);

/// <summary>Who has signed in.</summary>
/// <param name="AuthorTicket">Goes with each record that waits on the tablet, and says who wrote it; good for nothing else.</param>
public sealed record SignedIn(Guid Id, string Name, bool IsLead, PersonRole Role, string AuthorTicket);

/// <summary>A sign-in: by the id of whoever is on the list, or by a name as it is typed.</summary>
/// <param name="InstructorId">The id of a person, a student's too.</param>
public sealed record SignInRequest(Guid? InstructorId, string? Name, string? Pin);

/// <summary>A new PIN of one's own.</summary>
public sealed record ChangePin(string? Pin, string? NewPin);

/// <summary>How somebody likes to be spoken to; what is left out stays.</summary>
/// <param name="Language">By ISO 639-1, one of those there are.</param>
/// <param name="Units"><c>in</c> or <c>mm</c>.</param>
public sealed record LikesRequest(string? Language, string? Units);

/// <summary>Makes this a tablet of the shop.</summary>
public sealed record PairTablet(string? Name);

/// <summary>The first-run page: a school, its lead instructor, its booths.</summary>
public sealed record SetupRequest(string? SchoolName, string? TimeZone, string? InstructorName, string? Pin, int? Booths);

public sealed class SignInValidator : AbstractValidator<SignInRequest>
{
    public SignInValidator()
    {
        RuleFor(request => request.InstructorId)
            .Must((request, id) => id is not null || !string.IsNullOrWhiteSpace(request.Name))
            .WithMessage("Choose who you are, or type your name.");
        RuleFor(request => request.Name).MaximumLength(PeopleRules.NameLength).WithMessage(PeopleRules.NameTooLong);
        RuleFor(request => request.Pin).NeedsText(PinRules.Longest, "your PIN");
    }
}

public sealed class ChangePinValidator : AbstractValidator<ChangePin>
{
    public ChangePinValidator()
    {
        RuleFor(request => request.Pin).NeedsText(PinRules.Longest, "your PIN as it is");
        RuleFor(request => request.NewPin).NeedsPin();
    }
}

public sealed class LikesValidator : AbstractValidator<LikesRequest>
{
    public LikesValidator()
    {
        RuleFor(request => request.Language)
            .Must(language => language is null || Wording.All.Any(one => one.Language == language))
            .WithMessage($"Leave out, or give one of: {string.Join(", ", Wording.All.Select(one => one.Language))}.");
        RuleFor(request => request.Units).Must(units => units is null or "in" or "mm").WithMessage("Leave out, or give in or mm.");
    }
}

public sealed class PairTabletValidator : AbstractValidator<PairTablet>
{
    public PairTabletValidator() => RuleFor(request => request.Name).NeedsText(40, "a name for this tablet, such as the place where it lies");
}

public sealed class SetupValidator : AbstractValidator<SetupRequest>
{
    public const int MostBooths = 60;

    public SetupValidator()
    {
        RuleFor(request => request.SchoolName).NeedsText(120, "the school's name");
        RuleFor(request => request.InstructorName).NeedsText(PeopleRules.NameLength, "your name");
        RuleFor(request => request.TimeZone)
            .Must(zone => zone is not null && TimeZoneInfo.TryFindSystemTimeZoneById(zone, out _))
            .WithMessage("Give a time zone such as Europe/Oslo or America/Chicago.");
        RuleFor(request => request.Pin).NeedsPin();
        RuleFor(request => request.Booths)
            .Must(count => count is >= 1 and <= MostBooths)
            .WithMessage($"Give the number of booths, 1 to {MostBooths}.");
    }
}

/// <summary>Signing in and out, and the first-run page.</summary>
public static class Endpoints
{
    /// <summary>The PIN of the demo's invented people; shown on the sign-in page of the demo only.</summary>
    public const string DemoPin = "2468";

    // Whoever types a name is looked for among so many of that name.
    private const int MostAlike = 5;

    public static void MapAccounts(this IEndpointRouteBuilder routes)
    {
        var group = routes.MapGroup("/api").WithTags("Accounts");
        group.MapGet("/session", Session).Produces<SessionView>();
        group
            .MapPost("/session", SignIn)
            .Validated<SignInRequest>()
            .Produces<SignedIn>()
            .ProducesProblem(StatusCodes.Status401Unauthorized)
            .ProducesProblem(StatusCodes.Status429TooManyRequests);
        group.MapDelete("/session", SignOut).Produces(StatusCodes.Status204NoContent);
        group.MapPost("/session/everywhere", EndEverywhere).Writes().Produces(StatusCodes.Status204NoContent);
        group
            .MapPut("/session/pin", Change)
            .Validated<ChangePin>()
            .Writes()
            .Produces<SignedIn>()
            .ProducesProblem(StatusCodes.Status403Forbidden)
            .ProducesProblem(StatusCodes.Status429TooManyRequests);
        group.MapPut("/session/likes", Like).Validated<LikesRequest>().Writes().Produces(StatusCodes.Status204NoContent);
        group.MapPost("/session/tablet", Pair).Validated<PairTablet>().Writes().Produces(StatusCodes.Status204NoContent);
        group.MapDelete("/session/tablet", Unpair).Writes().Produces(StatusCodes.Status204NoContent);
        group.MapPost("/setup", SetUp).Validated<SetupRequest>().Writes().Produces<SignedIn>().ProducesProblem(StatusCodes.Status409Conflict);
    }

    /// <summary>Who is signed in.</summary>
    public static Guid PersonId(this ClaimsPrincipal user) => Guid.Parse(user.FindFirstValue(ClaimTypes.NameIdentifier)!);

    private static async Task<SessionView> Session(
        ClaimsPrincipal user,
        HttpContext context,
        GradusContext db,
        AuthorTickets tickets,
        Tablets tablets,
        SchoolClock clock,
        ErasureList erased,
        CancellationToken cancel
    )
    {
        var school = await db.Schools.AsNoTracking().SingleOrDefaultAsync(cancel);
        var instructors = await db
            .People.AsNoTracking()
            .Where(one => one.Role != PersonRole.Student && one.LeftAt == null)
            .OrderByDescending(one => one.Role == PersonRole.Lead)
            .ThenBy(one => one.Name)
            .Select(one => new InstructorView(one.Id, one.Name, one.Role == PersonRole.Lead, one.Role))
            .Take(Limits.PageRows)
            .ToListAsync(cancel);
        var tablet = await tablets.Of(context, cancel);
        var me = user.Role() is { } role ? await db.People.AsNoTracking().SingleAsync(one => one.Id == user.PersonId(), cancel) : null;
        return new SessionView(
            school is null ? null : new SchoolView(school.Name, school.TimeZone, school.IsDemo, school.Currency),
            me is null ? null : new SessionPerson(me.Id, me.Name, me.Role, Wording.In(me.Language).Language, me.Units),
            me is null ? null : instructors.FirstOrDefault(one => one.Id == me.Id),
            instructors,
            tablet is null ? [] : await ClassesOf(db, cancel),
            tablet?.Name,
            school?.IsDemo == true ? DemoPin : null,
            me is null ? null : tickets.Issue(me.Id),
            clock.Today,
            user.WallNames(),
            school?.IdleMinutes ?? Data.School.DefaultIdleMinutes,
            erased.Read().Count
        );
    }

    private static async Task<NoContent> Like(LikesRequest request, ClaimsPrincipal user, GradusContext db, CancellationToken cancel)
    {
        var me = await db.People.SingleAsync(one => one.Id == user.PersonId(), cancel);
        (me.Language, me.Units) = (request.Language ?? me.Language, request.Units ?? me.Units);
        await db.SaveChangesAsync(cancel);
        return TypedResults.NoContent();
    }

    private static async Task<List<ClassOfStudents>> ClassesOf(GradusContext db, CancellationToken cancel)
    {
        var students = await db
            .Students.Present()
            .Where(student => db.People.Any(one => one.Id == student.Id && one.LeftAt == null))
            .OrderBy(student => student.Name)
            .Select(student => new
            {
                student.Id,
                student.Name,
                student.ClassGroupId,
                Class = student.ClassGroup!.Name,
            })
            .Take(Limits.ActiveStudents)
            .ToListAsync(cancel);
        return
        [
            .. students
                .GroupBy(one => (one.ClassGroupId, one.Class))
                .OrderBy(group => group.Key.Class)
                .Select(group => new ClassOfStudents(
                    group.Key.ClassGroupId,
                    group.Key.Class,
                    [.. group.Select(one => new NamedStudent(one.Id, one.Name))]
                )),
        ];
    }

    private static async Task<IResult> SignIn(
        SignInRequest request,
        HttpContext context,
        GradusContext db,
        PinCheck pins,
        Writes writes,
        AuthorTickets tickets,
        CancellationToken cancel
    )
    {
        var ids = request.InstructorId is { } one ? [one] : await OfThatName(db, request.Name!, cancel);
        var candidates = await db.People.AsNoTracking().Where(person => person.LeftAt == null && ids.Contains(person.Id)).ToListAsync(cancel);
        var (person, refusal) = await pins.Try(candidates, request.Pin!, context, cancel);
        return refusal is not null ? refusal.ToResult() : await writes.Whole(() => Admit(context, db, person!, tickets, cancel), _ => true, cancel);
    }

    // However it is typed: small or large, and with whatever room between.
    private static async Task<List<Guid>> OfThatName(GradusContext db, string typed, CancellationToken cancel)
    {
        static string Plain(string name) => string.Join(' ', name.Split(' ', StringSplitOptions.RemoveEmptyEntries)).ToUpperInvariant();
        var name = Plain(typed);
        var present = await db.People.AsNoTracking().Where(one => one.LeftAt == null).Select(one => new { one.Id, one.Name }).ToListAsync(cancel);
        return [.. present.Where(one => Plain(one.Name) == name).Select(one => one.Id).Take(MostAlike)];
    }

    private static async Task<IResult> SignOut(HttpContext context, GradusContext db, SessionBook sessions, Writes writes, CancellationToken cancel)
    {
        if (context.User.SessionId() is { } session)
        {
            await writes.Whole(() => db.Sessions.Where(one => one.Id == session).ExecuteDeleteAsync(cancel), _ => true, cancel);
            sessions.Changed(context.User.PersonId());
        }

        await context.SignOutAsync();
        return TypedResults.NoContent();
    }

    private static async Task<IResult> EndEverywhere(HttpContext context, PeopleBook people, CancellationToken cancel)
    {
        await people.End((await people.Find(context.User.PersonId(), cancel))!, cancel);
        await context.SignOutAsync();
        return TypedResults.NoContent();
    }

    private static async Task<IResult> Change(
        ChangePin request,
        HttpContext context,
        GradusContext db,
        PinCheck pins,
        PeopleBook people,
        AuthorTickets tickets,
        CancellationToken cancel
    )
    {
        var me = (await people.Find(context.User.PersonId(), cancel))!;
        if ((await pins.Try([me], request.Pin!, context, cancel)).Refusal is { } wrong)
        {
            return PinCheck.NotYours(wrong).ToResult();
        }

        // Every other device is signed out; this one goes on.
        return await people.GivePin(me, request.NewPin!, cancel) is { } refusal
            ? Refusal.Field("newPin", refusal.Errors.First().Value[0]).ToResult()
            : await Admit(context, db, me, tickets, cancel);
    }

    private static async Task<IResult> Pair(PairTablet request, HttpContext context, Tablets tablets, CancellationToken cancel)
    {
        await tablets.Pair(context, request.Name!.Trim(), cancel);
        return TypedResults.NoContent();
    }

    private static async Task<IResult> Unpair(HttpContext context, Tablets tablets, CancellationToken cancel)
    {
        await tablets.Unpair(context, cancel);
        return TypedResults.NoContent();
    }

    private static async Task<IResult> SetUp(
        SetupRequest request,
        HttpContext context,
        GradusContext db,
        PeopleBook people,
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

        db.Schools.Add(
            new Data.School
            {
                Id = Guid.CreateVersion7(),
                Name = request.SchoolName!.Trim(),
                TimeZone = request.TimeZone!,
            }
        );
        db.Booths.AddRange(Enumerable.Range(1, request.Booths!.Value).Select(number => Booth.New(Guid.CreateVersion7(), number)));
        db.ClassGroups.Add(
            new ClassGroup
            {
                Id = Guid.CreateVersion7(),
                Name = "Day class",
                MeetsOn = [DayOfWeek.Monday, DayOfWeek.Tuesday, DayOfWeek.Wednesday, DayOfWeek.Thursday, DayOfWeek.Friday],
            }
        );
        var (lead, refusal) = await people.Add(Guid.CreateVersion7(), request.InstructorName!, PersonRole.Lead, request.Pin!);
        if (refusal is not null)
        {
            return refusal.ToResult();
        }

        await db.SaveChangesAsync(cancel);
        writes.OnCommit(() => clock.Use(request.TimeZone!));
        return await Admit(context, db, lead!, tickets, cancel);
    }

    /// <summary>Begins a session; to be called inside a whole write.</summary>
    private static async Task<IResult> Admit(HttpContext context, GradusContext db, Person person, AuthorTickets tickets, CancellationToken cancel)
    {
        var now = context.RequestServices.GetRequiredService<TimeProvider>().GetUtcNow();
        var session = new SignedSession
        {
            Id = Guid.CreateVersion7(),
            PersonId = person.Id,
            StartedAt = now,
        };
        await db.Sessions.Where(one => one.PersonId == person.Id && one.StartedAt < now - SessionCookie.Longest).ExecuteDeleteAsync(cancel);
        db.Sessions.Add(session);
        await db.SaveChangesAsync(cancel);
        await context.SignInAsync(SessionCookie.Principal(session, person), new AuthenticationProperties { IsPersistent = true });
        return TypedResults.Ok(new SignedIn(person.Id, person.Name, person.Role == PersonRole.Lead, person.Role, tickets.Issue(person.Id)));
    }
}
