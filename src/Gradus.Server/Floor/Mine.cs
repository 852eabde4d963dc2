using System.Security.Claims;
using Gradus.Core.Library;
using Gradus.Core.Planning;
using Gradus.Core.Vocabulary;
using Gradus.Data;
using Gradus.Server.Accounts;
using Gradus.Server.Coupons;
using Gradus.Server.Library;
using Gradus.Server.Planning;
using Gradus.Server.Qualifications;
using Gradus.Server.Readiness;
using Gradus.Server.School;
using Gradus.Server.Sittings;
using Gradus.Server.Students;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Floor;

/// <summary>What a student sees of their own.</summary>
/// <param name="SafetySignedAt">When safety was signed off; null while it is not.</param>
/// <param name="Today">What the plan of this day has for them, in order.</param>
/// <param name="Open">The coupon in work, with what comes next on it; null when none is.</param>
/// <param name="Steps">Their way, from what is behind to the goal.</param>
/// <param name="Held">What they hold and until when, the first to end first.</param>
/// <param name="Sittings">The sittings that are booked for them, with the rules.</param>
/// <param name="Chance">The chance of passing the test that they work toward; null where the school does not show it.</param>
public sealed record MyView(
    string Name,
    string ClassName,
    string TargetTestId,
    string TargetTitle,
    DateTimeOffset? SafetySignedAt,
    IReadOnlyList<MyItem> Today,
    FloorCoupon? Open,
    IReadOnlyList<MyStep> Steps,
    IReadOnlyList<Held> Held,
    IReadOnlyList<MySitting> Sittings,
    ChanceView? Chance,
    CouponPage Coupons
);

/// <summary>An item of the day.</summary>
/// <param name="Why">Why it is planned; empty where that tells the chance and the school does not show it.</param>
public sealed record MyItem(string Period, int Booth, string Name, string Why, bool IsNow);

/// <summary>A sitting that is booked for a student, with what is to be known of it.</summary>
public sealed record MySitting(SittingRow Row, TestRules Rules, string? Procedure, IReadOnlyList<string> Specimens);

/// <summary>A step of the way.</summary>
public sealed record MyStep(string Test, string Title, StepState State, bool IsTarget);

/// <summary>A student's own page.</summary>
public static class Mine
{
    public static void MapMine(this IEndpointRouteBuilder routes) =>
        routes.MapGet("/api/me", Read).WithTags("Students").Produces<MyView>().ProducesProblem(StatusCodes.Status403Forbidden);

    private static async Task<IResult> Read(
        ClaimsPrincipal user,
        GradusContext db,
        FloorReader floor,
        StudentReader reader,
        PracticeBook practice,
        WeekBuilder weeks,
        HoldsReader holds,
        SittingReader sittings,
        SetupBook setups,
        SchoolLibrary library,
        SchoolClock clock,
        Speaker speaker,
        CancellationToken cancel
    )
    {
        var me = user.PersonId();
        var words = await speaker.Words(cancel);
        var student = await db.Students.AsNoTracking().Include(one => one.ClassGroup).SingleAsync(one => one.Id == me, cancel);
        var row = (await floor.Some([me], cancel)).Students.Single();
        var way = (await practice.Read([me], cancel)).Single();
        var setup = await setups.Read(cancel);
        var monday = WeekDays.MondayOf(clock.Today);
        var plan = await weeks.Plan(monday, cancel);
        var booths = await db.Booths.AsNoTracking().ToDictionaryAsync(one => one.Id, one => one.Number, cancel);
        var now = setup.PeriodAt(clock.TimeOfDay);
        var isShown = await db.Schools.Select(one => one.StudentsSeeChance).SingleAsync(cancel);
        return TypedResults.Ok(
            new MyView(
                student.Name,
                student.ClassGroup!.Name,
                student.TargetTestId,
                words.Say(library.Tests[student.TargetTestId].Title),
                student.SafetySignedAt,
                [
                    .. (plan?.Cells ?? [])
                        .Where(cell => cell.StudentId == me && setup.DayOf(monday, cell.Slot) == clock.Today && booths.ContainsKey(cell.BoothId))
                        .OrderBy(cell => cell.Slot)
                        .Select(cell => new MyItem(
                            setup.Week.PeriodNames[setup.PeriodOf(cell.Slot)],
                            booths[cell.BoothId],
                            words.Language == Wording.Source ? cell.Name : InWords(cell, words),
                            isShown || !cell.Why.Contains('%', StringComparison.Ordinal) ? cell.Why : "",
                            setup.PeriodOf(cell.Slot) == now
                        )),
                ],
                row.Open,
                [.. way.Way.Select(step => new MyStep(step.Test, words.Say(library.Tests[step.Test].Title), step.State, step.IsTarget))],
                [.. (await holds.Read([me], cancel)).OrderBy(one => one.Keeping.EndsOn)],
                await Sittings(me, sittings, cancel),
                isShown ? row.Chance : null,
                await reader.Coupons(me, null, cancel)
            )
        );
    }

    /// <summary>What a period is filled with, in another language than that in which the plan was made.</summary>
    private static string InWords(PlannedCell cell, Wording words) =>
        string.Join("; ", cell.Filling.Select(part => words.Say(part.Name) + (part.Times > 1 ? $" × {part.Times}" : "")));

    private static async Task<IReadOnlyList<MySitting>> Sittings(Guid me, SittingReader reader, CancellationToken cancel)
    {
        List<MySitting> mine = [];
        foreach (var row in (await reader.List(me, cancel)).Open.Take(MostSittings))
        {
            var view = (await reader.Read(row.Id, cancel))!;
            mine.Add(new MySitting(row, view.Rules, view.Procedure, view.Specimens));
        }

        return mine;
    }

    private const int MostSittings = 5;
}
