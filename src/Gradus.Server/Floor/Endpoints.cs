using Gradus.Core.Bench;
using Gradus.Core.Joints;
using Gradus.Core.Library;
using Gradus.Core.Welding;
using Gradus.Data;
using Gradus.Server.Coupons;
using Gradus.Server.Decisions;
using Gradus.Server.Hosting;
using Gradus.Server.Library;
using Gradus.Server.Readiness;
using Gradus.Server.Students;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Floor;

/// <summary>Today's floor: the booths with what is in them, and everyone who comes today.</summary>
/// <param name="ClassesToday">The classes that meet today; empty on a free day.</param>
public sealed record FloorView(
    DateOnly Today,
    IReadOnlyList<string> ClassesToday,
    IReadOnlyList<BoothView> Booths,
    IReadOnlyList<FloorStudent> Students,
    IReadOnlyList<FloorHold> Holds
);

/// <summary>A hold point that waits for the instructor; the queue is oldest first.</summary>
public sealed record FloorHold(Guid CouponId, string Stamp, Guid StudentId, string StudentName, int? Booth, string Point, DateTimeOffset CalledAt);

public sealed record BoothView(Guid Id, int Number);

/// <param name="Chance">For a clean full coupon of the target test.</param>
/// <param name="Open">The coupon in work, if there is one.</param>
public sealed record FloorStudent(
    Guid Id,
    string Name,
    string ClassName,
    bool ExpectedToday,
    string TargetTestId,
    string TargetTitle,
    ChanceView Chance,
    DateTimeOffset? LastClosedAt,
    DecisionKind? LastDecision,
    FloorCoupon? Open
);

/// <summary>A coupon in work: enough to log its next pass clean in one tap.</summary>
public sealed record FloorCoupon(
    Guid Id,
    string Stamp,
    string TestId,
    string TestTitle,
    string? DrillId,
    bool AsTest,
    int? Booth,
    FitUpOutcome FitUp,
    int BeadsLaid,
    int BeadsPlanned,
    int Findings,
    NextStep Next,
    PassCard? NextCard,
    bool PositionStands,
    IReadOnlyList<RunningTimer> Timers
);

public static class Endpoints
{
    public static void MapFloor(this IEndpointRouteBuilder routes) =>
        routes.MapGet("/api/floor", Read).WithTags("Floor").RequireAuthorization().Produces<FloorView>();

    private static async Task<FloorView> Read(
        GradusContext db,
        ReadinessBook readiness,
        SchoolLibrary library,
        TimeProvider time,
        CancellationToken cancel
    )
    {
        var now = time.GetUtcNow();
        var school = await db.Schools.AsNoTracking().SingleAsync(cancel);
        var today = DateOnly.FromDateTime(TimeZoneInfo.ConvertTime(now, TimeZoneInfo.FindSystemTimeZoneById(school.TimeZone)).DateTime);
        var booths = await db
            .Booths.OrderBy(booth => booth.Number)
            .Select(booth => new BoothView(booth.Id, booth.Number))
            .Take(Limits.PageRows)
            .ToListAsync(cancel);
        var classes = await db.ClassGroups.AsNoTracking().ToListAsync(cancel);
        var students = await db.Students.AsNoTracking().OrderBy(student => student.Name).Take(Limits.PageRows).ToListAsync(cancel);
        var ids = students.Select(student => student.Id).ToList();
        var open = (
            await db
                .Coupons.AsNoTracking()
                .Where(coupon => coupon.ClosedAt == null && ids.Contains(coupon.StudentId))
                .OrderByDescending(coupon => coupon.StartedAt)
                .Take(Limits.PageRows)
                .Include(coupon => coupon.Booth)
                .Include(coupon => coupon.FitUps)
                .Include(coupon => coupon.Passes)
                .Include(coupon => coupon.Findings)
                .Include(coupon => coupon.Events.Where(one => one.WithdrawnAt == null))
                .Include(coupon => coupon.Closings)
                .ToListAsync(cancel)
        ).ToLookup(coupon => coupon.StudentId);
        var lastDecisions = await DecisionBook.Last(db, ids, cancel);
        var lastClosed = await db
            .Coupons.Where(coupon => ids.Contains(coupon.StudentId) && coupon.ClosedAt != null)
            .GroupBy(coupon => coupon.StudentId)
            .Select(group => new { group.Key, At = group.Max(coupon => coupon.ClosedAt) })
            .ToDictionaryAsync(one => one.Key, one => one.At, cancel);
        var known = (await readiness.Read(ids, cancel)).ToDictionary(record => (record.StudentId, record.TestId));
        var recent = await PassCards.Recent(db, [.. open.Select(group => group.Key)], now, cancel);

        var rows = new List<FloorStudent>();
        foreach (var student in students)
        {
            var group = classes.Single(one => one.Id == student.ClassGroupId);
            var template = library.Tests[student.TargetTestId];
            var coupon = open[student.Id].FirstOrDefault();
            rows.Add(
                new FloorStudent(
                    student.Id,
                    student.Name,
                    group.Name,
                    group.MeetsOn.Contains(today.DayOfWeek),
                    template.Id,
                    template.Title,
                    ChanceView.From(
                        ReadinessBook.Estimate(known.GetValueOrDefault((student.Id, template.Id)) ?? readiness.Begin(student.Id, template.Id)).Whole
                    ),
                    lastClosed.GetValueOrDefault(student.Id),
                    lastDecisions.TryGetValue((student.Id, template.Id), out var decision) ? decision.Kind : null,
                    coupon is null ? null : CouponOf(coupon, student, recent[(student.Id, coupon.TestId)], library)
                )
            );
        }

        var meeting = classes.Where(one => one.MeetsOn.Contains(today.DayOfWeek)).Select(one => one.Name).Order().ToList();
        var names = students.ToDictionary(student => student.Id, student => student.Name);
        var holds = open.SelectMany(group => group)
            .SelectMany(coupon => Holds(coupon, names[coupon.StudentId]))
            .OrderBy(hold => hold.CalledAt)
            .ToList();
        return new FloorView(today, meeting, booths, rows, holds);
    }

    private static IEnumerable<FloorHold> Holds(Coupon coupon, string name) =>
        CouponLife
            .Holds([.. coupon.Events.OrderBy(one => one.RecordedAt).Select(one => new BenchEvent(one.Id, one.Kind, one.RecordedAt, one.Body))])
            .Select(hold => new FloorHold(coupon.Id, coupon.Stamp, coupon.StudentId, name, coupon.Booth?.Number, hold.Point, hold.CalledAt));

    private static FloorCoupon CouponOf(Coupon coupon, Student student, IEnumerable<RecentPass> recent, SchoolLibrary library)
    {
        var facts = new CouponFacts(coupon, library);
        var next = facts.Next();
        var cards = next.Kind == NextKind.Pass ? PassCards.Build(facts.Template, student.Hand, recent, coupon.BoothId) : [];
        return new FloorCoupon(
            coupon.Id,
            coupon.Stamp,
            coupon.TestId,
            facts.Template.Title,
            coupon.DrillId,
            coupon.AsTest,
            coupon.Booth?.Number,
            facts.FitUpReport.Outcome,
            facts.Passes.Count,
            facts.Beads.Count(),
            facts.Findings.Count,
            next,
            next.Card is { } card ? cards[card] : null,
            facts.PositionStands,
            CouponLife.Timers(facts.Events)
        );
    }
}
