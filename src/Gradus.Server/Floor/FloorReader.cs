using Gradus.Core.Bench;
using Gradus.Core.Joints;
using Gradus.Core.Library;
using Gradus.Core.Planning;
using Gradus.Data;
using Gradus.Server.Coupons;
using Gradus.Server.Hosting;
using Gradus.Server.Library;
using Gradus.Server.Planning;
using Gradus.Server.Readiness;
using Gradus.Server.School;
using Gradus.Server.Students;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Floor;

/// <summary>Reads the floor, or some students of it.</summary>
public sealed class FloorReader(
    GradusContext db,
    ReadinessBook readiness,
    ReadinessRenewal renewal,
    SchoolLibrary library,
    WeekBuilder weeks,
    SetupBook setups,
    SchoolClock clock
)
{
    public async Task<FloorView> Read(CancellationToken cancel)
    {
        await db.Database.OpenConnectionAsync(cancel); // one for all that is read here
        var today = clock.Today;
        var booths = await db
            .Booths.Standing()
            .OrderBy(booth => booth.Number)
            .Select(booth => new BoothView(
                booth.Id,
                booth.Number,
                booth.Column,
                booth.Row,
                booth.ClosedAt == null ? null : booth.ClosedWhy ?? "Closed"
            ))
            .Take(Limits.PageRows)
            .ToListAsync(cancel);
        var (students, holds, classes) = await Students(null, today, cancel);
        var setup = await setups.Read(cancel);
        var monday = WeekDays.MondayOf(today);
        var plan = await weeks.Plan(monday, cancel);
        var period = setup.PeriodAt(clock.TimeOfDay);
        var numbers = booths.ToDictionary(booth => booth.Id, booth => booth.Number);
        return new FloorView(
            today,
            classes,
            booths,
            students,
            holds,
            [
                .. (plan?.Cells ?? [])
                    .Where(cell => setup.DayOf(monday, cell.Slot) == today && numbers.ContainsKey(cell.BoothId))
                    .Select(cell => new FloorPlanned(
                        cell.StudentId,
                        setup.PeriodOf(cell.Slot),
                        cell.Slot,
                        cell.BoothId,
                        numbers[cell.BoothId],
                        cell.ItemId,
                        cell.TestId,
                        cell.Kind,
                        cell.DrillId,
                        cell.Name,
                        cell.Variants,
                        cell.Why
                    )),
            ],
            await db
                .Absences.Where(one => one.Day == today && (one.Period == null || one.Period == period))
                .Select(one => one.StudentId)
                .Distinct()
                .ToListAsync(cancel),
            period,
            setup.Week.PeriodNames
        );
    }

    /// <summary>Some students as the floor shows them now, with their hold points.</summary>
    public async Task<(IReadOnlyList<FloorStudent> Students, IReadOnlyList<FloorHold> Holds)> Some(
        IReadOnlyCollection<Guid> studentIds,
        CancellationToken cancel
    )
    {
        var (rows, holds, _) = await Students(studentIds, clock.Today, cancel);
        return (rows, holds);
    }

    /// <summary>Whose coupons these are.</summary>
    public Task<List<Guid>> StudentsOf(IReadOnlyCollection<Guid> coupons, CancellationToken cancel) =>
        db.Coupons.Where(coupon => coupons.Contains(coupon.Id)).Select(coupon => coupon.StudentId).Distinct().ToListAsync(cancel);

    private async Task<(IReadOnlyList<FloorStudent> Students, IReadOnlyList<FloorHold> Holds, IReadOnlyList<string> Meeting)> Students(
        IReadOnlyCollection<Guid>? only,
        DateOnly today,
        CancellationToken cancel
    )
    {
        var now = clock.Now;
        var classes = await db.ClassGroups.AsNoTracking().ToListAsync(cancel);
        var students = await db
            .Students.Present()
            .AsNoTracking()
            .Where(student => only == null || only.Contains(student.Id))
            .OrderBy(student => student.Name)
            .Take(Limits.ActiveStudents)
            .ToListAsync(cancel);
        var ids = students.Select(student => student.Id).ToList();
        var open = (await CouponLoad.Open(db, ids, cancel)).ToLookup(coupon => coupon.StudentId);
        var lastDecisions = await LastDecisions.Of(db, ids, cancel);
        // Each by itself is one step in an index; grouped, every coupon of ten years would be read.
        var lastClosed = await db
            .Students.Where(student => only == null || only.Contains(student.Id))
            .Select(student => new
            {
                student.Id,
                At = db.Coupons.Where(coupon => coupon.StudentId == student.Id && coupon.ClosedAt != null).Max(coupon => coupon.ClosedAt),
            })
            .ToDictionaryAsync(one => one.Id, one => one.At, cancel);
        var (known, areOld) = await readiness.OfTargets(only, ReadyReader.MostAtOnce, cancel);
        if (areOld)
        {
            renewal.Start();
        }

        var policies = await readiness.Policies(cancel);
        var recent = await RecentPasses.Read(
            db,
            [.. open.Select(group => group.Key)],
            now,
            cancel,
            [.. open.SelectMany(group => group).Select(coupon => coupon.TestId).Distinct()]
        );

        var rows = new List<FloorStudent>();
        foreach (var student in students)
        {
            var group = classes.Single(one => one.Id == student.ClassGroupId);
            var template = library.Tests[student.TargetTestId];
            var coupon = open[student.Id].FirstOrDefault();
            var record = known.GetValueOrDefault(student.Id) ?? readiness.Begin(student.Id, template.Id, null);
            var advice = readiness.Advise(
                record,
                policies.Of(template.Id),
                student.SafetySignedAt is not null,
                lastDecisions.GetValueOrDefault((student.Id, template.Id))
            );
            rows.Add(
                new FloorStudent(
                    student.Id,
                    student.Name,
                    group.Name,
                    group.MeetsOn.Contains(today.DayOfWeek),
                    template.Id,
                    template.Title,
                    ChanceView.From(ReadinessBook.Estimate(record).Whole),
                    advice.Kind,
                    advice.Says,
                    advice.Why,
                    lastClosed.GetValueOrDefault(student.Id),
                    coupon is null ? null : CouponOf(coupon, student, recent[(student.Id, coupon.TestId)])
                )
            );
        }

        var meeting = classes.Where(one => one.MeetsOn.Contains(today.DayOfWeek)).Select(one => one.Name).Order().ToList();
        var names = students.ToDictionary(student => student.Id, student => student.Name);
        var holds = open.SelectMany(group => group)
            .SelectMany(coupon => Holds(coupon, names[coupon.StudentId]))
            .OrderBy(hold => hold.CalledAt)
            .ToList();
        return (rows, holds, meeting);
    }

    private IEnumerable<FloorHold> Holds(Coupon coupon, string name) =>
        coupon.Events.Exists(one => one.Kind == BenchEventKind.HoldCalled)
            ? CouponLogs
                .Of(coupon, library)
                .Holds.Select(hold => new FloorHold(coupon.Id, coupon.Stamp, coupon.StudentId, name, coupon.Booth?.Number, hold.Point, hold.CalledAt))
            : [];

    private FloorCoupon CouponOf(Coupon coupon, Student student, IEnumerable<RecentPass> recent)
    {
        var log = CouponLogs.Of(coupon, library);
        var next = log.Next();
        var cards = next.Kind == NextKind.Pass ? PassCards.Build(log.Test, student.Hand, recent, coupon.BoothId) : [];
        return new FloorCoupon(
            coupon.Id,
            coupon.Stamp,
            coupon.TestId,
            log.Test.Title,
            coupon.DrillId,
            coupon.AsTest,
            coupon.StartedAt,
            coupon.Booth?.Number,
            log.FitUpReport.Outcome,
            log.Beads.Count(bead => log.IsLaid(bead.Key)),
            log.Beads.Count(),
            log.Findings.Count,
            next,
            next.Card is { } card ? cards[card] : null,
            log.PositionStands,
            CouponLife.Timers(log.Events),
            next is { Kind: NextKind.Pass, Stage: { } stage } ? [.. log.Concerns(stage, null, clock.Now).Select(one => one.Says)] : [],
            Sketch(log, next.BeadKey)
        );
    }

    private static SectionSketch Sketch(CouponLog log, string? next)
    {
        // On a split coupon each half is cut by itself.
        var sections = log.Sections().Select(one => one.Section);
        var section = (next is null ? null : sections.FirstOrDefault(one => one.Beads.Any(bead => bead.Key == next))) ?? sections.First();
        var own = log.Beads.Select(bead => bead.Key).ToHashSet(StringComparer.Ordinal);
        return new SectionSketch(
            [.. new[] { section.MemberA, section.MemberB, section.Strip, section.Insert }.OfType<IReadOnlyList<SectionPoint>>().Select(Flat)],
            [
                .. section
                    .Beads.Where(bead => own.Contains(bead.Key))
                    .Select(bead => new BeadSketch(bead.Key, bead.Layer, bead.BeadInLayer, log.IsLaid(bead.Key), Flat(bead.Outline))),
            ]
        );

        // Finer than a hair on a screen: a picture, no measure.
        static IReadOnlyList<double> Flat(IReadOnlyList<SectionPoint> outline) =>
            [.. outline.SelectMany(point => new[] { Math.Round(point.X, 2), Math.Round(point.Y, 2) })];
    }
}
