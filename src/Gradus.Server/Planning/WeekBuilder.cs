using Gradus.Core.Planning;
using Gradus.Data;
using Gradus.Server.Library;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Planning;

/// <summary>A week ready to be solved, with what the cells of its solution stand for.</summary>
public sealed record WeekFacts(
    DateOnly Monday,
    Setup Setup,
    WeekProblem Week,
    IReadOnlyDictionary<Guid, StudentPractice> Practice,
    IReadOnlyDictionary<(string Student, string Item), PrescribedItem> Items,
    IReadOnlyList<Sitting> Sittings,
    IReadOnlyList<Absence> Absences,
    IReadOnlyList<Booth> Booths,
    WeekPlan? Plan,
    IReadOnlyList<ClassGroup> Classes
)
{
    public const string SittingItem = "sitting";

    /// <summary>The cells of a solution with what they stand for.</summary>
    public IReadOnlyList<PlannedCell> Describe(IReadOnlyList<WeekCell> cells)
    {
        var times = new Dictionary<(string, string), int>();
        return
        [
            .. cells
                .OrderBy(cell => cell.Period)
                .Select(cell =>
                {
                    var time = times[(cell.Student, cell.Item)] = times.GetValueOrDefault((cell.Student, cell.Item)) + 1;
                    return Describe(cell, time - 1);
                }),
        ];
    }

    private PlannedCell Describe(WeekCell cell, int time)
    {
        var studentId = Guid.Parse(cell.Student);
        var isPinned = Week.Pins.Any(pin => pin.Student == cell.Student && pin.Period == cell.Period);
        if (!Items.TryGetValue((cell.Student, cell.Item), out var item))
        {
            var sitting = Sittings.First(one => $"{SittingItem}:{one.Id}" == cell.Item);
            return new PlannedCell(
                studentId,
                cell.Period,
                Guid.Parse(cell.Booth!),
                cell.Item,
                sitting.TestId,
                null,
                null,
                "Sitting",
                new Dictionary<string, string>(),
                "Booked.",
                0,
                0,
                true
            );
        }

        var fit = WeekBuilder.FitOf(item, Setup);
        return new PlannedCell(
            studentId,
            cell.Period,
            Guid.Parse(cell.Booth!),
            cell.Item,
            item.TestId,
            item.Kind,
            item.DrillId,
            item.IsToKeep ? item.Name
                : fit.Periods > 1 ? $"{item.Name}, part {(time % fit.Periods) + 1} of {fit.Periods}"
                : fit.Times > 1 ? $"{item.Name}, {fit.Times} times"
                : item.Name,
            item.Variants,
            item.Why,
            fit.Gains(item.Gains).ElementAtOrDefault(time),
            item.IsToKeep ? item.Work.Cost : item.Work.Cost * fit.Times / fit.Periods,
            isPinned
        );
    }
}

/// <summary>Puts a week together from what the school has: who comes, what they should do next, booths, stock, sittings and the plan so far.</summary>
public sealed class WeekBuilder(GradusContext db, PracticeBook practice, SetupBook setups, StockBook stock, SchoolLibrary library)
{
    private const int ItemsPerStudent = 6;
    private const double LeastWorth = 0.01;

    /// <summary>Puts it together.</summary>
    /// <param name="fewestMoves">Whether cells of the plan so far count more than any gain.</param>
    public async Task<WeekFacts> Build(DateOnly monday, bool fewestMoves, CancellationToken cancel)
    {
        var setup = await setups.Read(cancel);
        var classes = await db.ClassGroups.AsNoTracking().ToListAsync(cancel);
        var students = await db.Students.Present().Select(one => one.Id).ToListAsync(cancel);
        var known = await practice.Read(students, cancel);
        var booths = await db.Booths.Standing().AsNoTracking().OrderBy(one => one.Number).ToListAsync(cancel);
        var end = monday.AddDays(7);
        var absences = await db
            .Absences.AsNoTracking()
            .Where(one => one.Day >= monday && one.Day < end && students.Contains(one.StudentId))
            .ToListAsync(cancel);
        var later = await db
            .Sittings.AsNoTracking()
            .Standing()
            .Where(one => one.Day >= monday && students.Contains(one.StudentId))
            .ToListAsync(cancel);
        var sittings = later.Where(one => one.Day < end).ToList();
        var plan = await Plan(monday, cancel);
        var levels = await stock.Levels(cancel);
        var there = levels
            .GroupBy(level => level.Stock)
            .ToDictionary(group => group.Key, group => group.Sum(level => level.Usable(setup.Saw)), StringComparer.Ordinal);
        var items = new Dictionary<(string, string), PrescribedItem>();
        var away = absences.ToLookup(one => one.StudentId);
        // What ends is kept before anything is gained.
        var first = 2 * known.SelectMany(one => one.Items).SelectMany(item => item.Gains).DefaultIfEmpty(0).Max();
        var weekStudents = new List<WeekStudent>();
        foreach (var one in known)
        {
            var id = one.Student.Id.ToString();
            var group = classes.First(other => other.Id == one.Student.ClassGroupId);
            var own = sittings.Where(sitting => sitting.StudentId == one.Student.Id).ToList();
            var comes = Comes(group, setup, monday)
                .Union(own.Select(sitting => setup.SlotOf(sitting.Day, monday, sitting.Period)))
                .Where(slot =>
                    !away[one.Student.Id]
                        .Any(absence =>
                            absence.Day == setup.DayOf(monday, slot) && (absence.Period is null || absence.Period == setup.PeriodOf(slot))
                        )
                )
                .Order()
                .ToList();
            var dates = own.Concat(later.Where(sitting => sitting.StudentId == one.Student.Id)).Select(sitting => sitting.Day);
            var weight = Nearness.Weight(one.By is { } by ? dates.Append(by) : dates, monday);

            // What was planned before stays possible beside what would be chosen by now.
            var planned = (plan?.Cells ?? []).Where(cell => cell.StudentId == one.Student.Id).Select(cell => cell.ItemId).ToHashSet();
            var offered = one.Items.Where((item, index) => index < ItemsPerStudent || planned.Contains(item.Id)).ToList();
            foreach (var item in offered)
            {
                items[(id, item.Id)] = item;
            }

            weekStudents.Add(
                new WeekStudent(
                    id,
                    comes,
                    Math.Min(setup.Week.MinPeriods, offered.Count == 0 ? 0 : comes.Count),
                    Math.Max(setup.Week.MaxPeriods, own.Count),
                    [
                        .. offered.Select(item => ToWeek(item, weight, first, setup, there)),
                        .. own.Select(sitting => new WeekItem(
                            $"{WeekFacts.SittingItem}:{sitting.Id}",
                            Prescription.ProcessOf(library.Tests[sitting.TestId]),
                            Prescription.Needs(library.Tests[sitting.TestId]),
                            Math.Max(1, library.Tests[sitting.TestId].Rules.HoldPoints.Count),
                            [0],
                            new Dictionary<string, double>(),
                            IsSitting: true
                        )),
                    ]
                )
            );
        }

        var processes = weekStudents.SelectMany(student => student.Items).Select(item => item.Process).Distinct().ToList();
        var before = (plan?.Cells ?? [])
            .Select(cell => new WeekCell(cell.StudentId.ToString(), cell.Slot, cell.ItemId, cell.BoothId.ToString()))
            .ToList();
        var week = new WeekProblem(
            setup.Slots,
            setup.Week.HoldPointsPerPeriod,
            [
                .. booths.Select(booth => new WeekBooth(
                    booth.Id.ToString(),
                    [.. processes.Where(process => process.Split('+').All(booth.Processes.Contains))],
                    booth.Has,
                    booth.ClosedAt is null ? [] : [.. Enumerable.Range(0, setup.Slots)]
                )),
            ],
            weekStudents,
            there,
            [
                .. sittings.Select(sitting => new WeekCell(
                    sitting.StudentId.ToString(),
                    setup.SlotOf(sitting.Day, monday, sitting.Period),
                    $"{WeekFacts.SittingItem}:{sitting.Id}",
                    booths.Find(booth => booth.Id == sitting.BoothId && booth.ClosedAt is null)?.Id.ToString()
                )),
                .. (plan?.Cells ?? [])
                    .Where(cell => cell.Pinned && !cell.ItemId.StartsWith(WeekFacts.SittingItem, StringComparison.Ordinal))
                    .Select(cell => new WeekCell(cell.StudentId.ToString(), cell.Slot, cell.ItemId, cell.BoothId.ToString())),
            ],
            before,
            fewestMoves ? weekStudents.SelectMany(student => student.Items).SelectMany(item => item.Gains).DefaultIfEmpty(0).Max() * 2 : 0
        );
        return new WeekFacts(monday, setup, week, known.ToDictionary(one => one.Student.Id), items, sittings, absences, booths, plan, classes);
    }

    /// <summary>The plan of a week that holds, without the cells of students who have left since and of sittings that were called off; null when there is none.</summary>
    public async Task<WeekPlan?> Plan(DateOnly monday, CancellationToken cancel)
    {
        var plan = await Latest(db, monday, cancel);
        if (plan is not null)
        {
            var present = (await db.Students.Present().Select(one => one.Id).ToListAsync(cancel)).ToHashSet();
            var sat = plan
                .Cells.Where(cell => cell.ItemId.StartsWith(WeekFacts.SittingItem, StringComparison.Ordinal))
                .Select(cell => Guid.Parse(cell.ItemId[(WeekFacts.SittingItem.Length + 1)..]))
                .ToList();
            var standing = (
                sat.Count == 0
                    ? []
                    : await db.Sittings.Standing().Where(one => sat.Contains(one.Id)).Select(one => new { one.Id, one.Day }).ToListAsync(cancel)
            ).ToDictionary(one => $"{WeekFacts.SittingItem}:{one.Id}", one => one.Day);
            var end = monday.AddDays(7);
            plan.Cells =
            [
                .. plan
                    .Cells.Where(cell => present.Contains(cell.StudentId))
                    .Where(cell =>
                        !cell.ItemId.StartsWith(WeekFacts.SittingItem, StringComparison.Ordinal)
                        || (standing.TryGetValue(cell.ItemId, out var day) && day >= monday && day < end)
                    ),
            ];
        }

        return plan;
    }

    /// <summary>The plan of a week that holds, as it was accepted; null when there is none.</summary>
    public static Task<WeekPlan?> Latest(GradusContext db, DateOnly monday, CancellationToken cancel) =>
        db
            .WeekPlans.AsNoTracking()
            .Where(one => one.Monday == monday)
            .OrderByDescending(one => one.AcceptedAt)
            .ThenByDescending(one => one.Id)
            .FirstOrDefaultAsync(cancel);

    public static SlotFit FitOf(PrescribedItem item, Setup setup) => SlotFit.Of(item.Work.BoothMinutes, setup.Week.HoursPerPeriod);

    private static WeekItem ToWeek(PrescribedItem item, double weight, double first, Setup setup, Dictionary<string, double> there)
    {
        var fit = FitOf(item, setup);
        return new WeekItem(
            item.Id,
            item.Process,
            item.Needs,
            // Repetitions of a drill are looked at together.
            item.Kind == ItemKind.Drill
                ? item.HoldPoints
                : (int)Math.Ceiling((double)item.HoldPoints * fit.Times / fit.Periods),
            item.IsToKeep ? [Math.Max(first, LeastWorth)] : [.. fit.Gains(item.Gains).Select(gain => gain * weight)],
            item.Work.Draws.Where(draw => there.ContainsKey(draw.Stock))
                .ToDictionary(draw => draw.Stock, draw => draw.Amount * fit.Times / fit.Periods, StringComparer.Ordinal)
        );
    }

    private static IEnumerable<int> Comes(ClassGroup group, Setup setup, DateOnly monday) =>
        Enumerable.Range(0, setup.Slots).Where(slot => setup.Meets(group, setup.DayOf(monday, slot), setup.PeriodOf(slot)));
}
