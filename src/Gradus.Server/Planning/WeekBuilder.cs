using System.Globalization;
using Gradus.Core.Planning;
using Gradus.Data;
using Gradus.Server.Library;
using Gradus.Server.School;
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
    IReadOnlyList<ClassGroup> Classes,
    IReadOnlyDictionary<Guid, IReadOnlyList<int>> Comes
)
{
    public const string SittingItem = "sitting";

    // What the time adds beside all others of its test; without the weight of a day that is near.
    private double GainOf(WeekCell cell, PrescribedItem item, int time, int ofTest)
    {
        var own = Week.Students.First(one => one.Id == cell.Student).Items.First(one => one.Id == cell.Item);
        var weight = item.Gains[0] > 0 ? own.FirstGain / item.Gains[0] : 1;
        return (own.Gains.ElementAtOrDefault(time) + (own.Shared?.ElementAtOrDefault(ofTest) ?? 0)) / weight;
    }

    /// <summary>Cells of the plan in periods that are over: they stay as they are.</summary>
    public IReadOnlyList<PlannedCell> Past => [.. (Plan?.Cells ?? []).Where(cell => cell.Slot < Week.FirstOpen)];

    /// <summary>Why somebody has no place in what is left of the week, in a sentence; null when they have one, or the week has no plan.</summary>
    public string? WhyWithout(StudentPractice one)
    {
        var student = Week.Students.First(other => other.Id == one.Student.Id.ToString());
        var cells = (Plan?.Cells ?? []).Where(cell => cell.Slot >= Week.FirstOpen).ToList();
        if (Plan is null || cells.Exists(cell => cell.StudentId == one.Student.Id) || Week.FirstOpen >= Setup.Slots)
        {
            return null;
        }

        var items = student.Items.Where(item => !item.IsSitting).ToList();
        if (items.Count == 0)
        {
            return one.Withheld.Count > 0 ? one.Withheld[0] : "Nothing to practise.";
        }

        if (student.Available.Count == 0)
        {
            return student.Had > 0 ? "Does not come any more this week." : "Does not come this week.";
        }

        if (student.MaxPeriods == 0)
        {
            return string.Create(CultureInfo.InvariantCulture, $"Had {student.Had} periods this week; {Setup.Week.MaxPeriods} are the most.");
        }

        bool IsFree(WeekBooth booth, int period) => !cells.Exists(cell => cell.Slot == period && cell.BoothId.ToString() == booth.Id);
        int Holds(int period) =>
            cells
                .Where(cell => cell.Slot == period)
                .Sum(cell =>
                    Week.Students.FirstOrDefault(other => other.Id == cell.StudentId.ToString())
                        ?.Items.FirstOrDefault(item => item.Id == cell.ItemId)
                        ?.HoldPoints
                    ?? 0
                );
        var takes = student.Available.Where(period => items.Exists(item => Week.Booths.Any(booth => WeekProblem.Fits(booth, item, period)))).ToList();
        if (takes.Count == 0)
        {
            return $"No open booth takes {string.Join(" or ", items.Select(item => item.Process).Distinct())} with what it needs.";
        }

        var free = takes
            .Where(period => items.Exists(item => Week.Booths.Any(booth => WeekProblem.Fits(booth, item, period) && IsFree(booth, period))))
            .ToList();
        return free.Count == 0 ? "Every booth that would do is taken when they come."
            : free.TrueForAll(period => items.TrueForAll(item => Holds(period) + item.HoldPoints > Week.HoldPoints[period]))
                ? "Nobody could look at the hold points when they come."
            : "A booth is free: plan again.";
    }

    /// <summary>What speaks of ids said with names and numbers.</summary>
    public string InWords(string text)
    {
        foreach (var (id, one) in Practice)
        {
            text = text.Replace(id.ToString(), one.Student.Name, StringComparison.Ordinal);
        }

        foreach (var booth in Booths)
        {
            text = text.Replace(booth.Id.ToString(), $"{booth.Number}", StringComparison.Ordinal);
        }

        foreach (var item in Items.Values.DistinctBy(item => item.Id).OrderByDescending(item => item.Id.Length))
        {
            text = text.Replace(item.Id, $"{item.TestId}, {item.Name}", StringComparison.Ordinal);
        }

        foreach (var sitting in Sittings)
        {
            text = text.Replace($"{SittingItem}:{sitting.Id}", $"the sitting of {sitting.TestId}", StringComparison.Ordinal);
        }

        return System.Text.RegularExpressions.Regex.Replace(
            text,
            "[Pp]eriod (\\d+)",
            match =>
                int.Parse(match.Groups[1].Value, CultureInfo.InvariantCulture) is var slot && slot < Setup.Slots
                    ? string.Create(
                        CultureInfo.InvariantCulture,
                        $"{Setup.DayOf(Monday, slot):ddd d MMM} {Setup.Week.PeriodNames[Setup.PeriodOf(slot)].ToLowerInvariant()}"
                    )
                    : match.Value
        );
    }

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
                    var test = Items.TryGetValue((cell.Student, cell.Item), out var item) && !item.IsToKeep ? item.TestId : cell.Item;
                    int Next(string key) => (times[(cell.Student, key)] = times.GetValueOrDefault((cell.Student, key)) + 1) - 1;
                    return Describe(cell, Next(cell.Item), Next($"\n{test}"));
                }),
        ];
    }

    private PlannedCell Describe(WeekCell cell, int time, int ofTest)
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

        return new PlannedCell(
            studentId,
            cell.Period,
            Guid.Parse(cell.Booth!),
            cell.Item,
            item.TestId,
            item.Kind,
            item.DrillId,
            item.Periods > 1 ? $"{item.Name}, part {(time % item.Periods) + 1} of {item.Periods}" : item.Name,
            item.Variants,
            item.Why,
            GainOf(cell, item, time, ofTest),
            item.Work.Cost / item.Periods,
            isPinned,
            item.Parts,
            item.Periods
        );
    }
}

/// <summary>From when on a week is open.</summary>
public enum OpenFrom
{
    /// <summary>From the first period that is not over: what is changed by hand or accepted.</summary>
    NotOver,

    /// <summary>From the first that has not begun: what is planned anew.</summary>
    NotBegun,

    /// <summary>All of it, also what is over: a school that is only being made up.</summary>
    Monday,
}

/// <summary>Puts a week together from what the school has: who comes, what they should do next, booths, stock, sittings and the plan so far.</summary>
public sealed class WeekBuilder(GradusContext db, PracticeBook practice, SetupBook setups, StockBook stock, SchoolLibrary library, SchoolClock clock)
{
    private const int ItemsPerStudent = 6;
    private const int MostWeeksAhead = 8;

    /// <summary>Puts it together.</summary>
    /// <param name="fewestMoves">Whether cells of the plan so far count more than any gain.</param>
    /// <param name="solved">A week that was put together before: what was offered then can be given still.</param>
    public async Task<WeekFacts> Build(
        DateOnly monday,
        bool fewestMoves,
        CancellationToken cancel,
        OpenFrom open = OpenFrom.NotOver,
        WeekFacts? solved = null
    )
    {
        var setup = await setups.Read(cancel);
        var classes = await db.ClassGroups.AsNoTracking().ToListAsync(cancel);
        var students = await db.Students.Present().Select(one => one.Id).ToListAsync(cancel);
        var plan = await Plan(monday, cancel);
        var firstOpen = FirstOpen(setup, monday, open);
        var ahead = await Ahead(setup, monday, cancel);
        var known = await practice.Read(students, cancel, ahead);
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
        var levels = await stock.Levels(cancel);
        var there = levels
            .GroupBy(level => level.Stock)
            .ToDictionary(group => group.Key, group => group.Sum(level => level.Usable(setup.Saw)), StringComparer.Ordinal);
        var items = new Dictionary<(string, string), PrescribedItem>();
        var away = absences.ToLookup(one => one.StudentId);
        // A blank that was never kept is not there; other things that were never counted are not short.
        foreach (var blank in known.SelectMany(one => one.Items).SelectMany(item => item.Work.Draws).Select(draw => draw.Stock).Where(IsBlank))
        {
            there.TryAdd(blank, 0);
        }

        var weekStudents = new List<WeekStudent>();
        var coming = new Dictionary<Guid, IReadOnlyList<int>>();
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
            var planned = (plan?.Cells ?? []).Where(cell => cell.StudentId == one.Student.Id).ToList();
            var had = planned.Count(cell => cell.Slot < firstOpen && comes.Contains(cell.Slot));
            coming[one.Student.Id] = [.. comes];
            comes.RemoveAll(slot => slot < firstOpen);
            var dates = own.Concat(later.Where(sitting => sitting.StudentId == one.Student.Id)).Select(sitting => sitting.Day);
            var weight = Nearness.Weight(one.By is { } by ? dates.Append(by) : dates, monday);

            // What was planned before stays possible beside what would be chosen by now.
            var offered = one.Items.Where((item, index) => index < ItemsPerStudent || planned.Exists(cell => cell.ItemId == item.Id)).ToList();
            offered.AddRange(
                (solved?.Items ?? new Dictionary<(string, string), PrescribedItem>())
                    .Where(other => other.Key.Student == id && !offered.Exists(item => item.Id == other.Key.Item))
                    .Select(other => other.Value)
            );
            foreach (var item in offered)
            {
                items[(id, item.Id)] = item;
            }

            weekStudents.Add(
                new WeekStudent(
                    id,
                    comes,
                    Math.Clamp(setup.Week.MinPeriods - had, 0, offered.Count == 0 ? 0 : comes.Count),
                    Math.Max(Math.Max(0, setup.Week.MaxPeriods - had), own.Count),
                    [
                        .. offered
                            .GroupBy(item => item.IsToKeep ? item.Id : item.TestId)
                            .SelectMany(items => WeekProblem.Together(items.Key, [.. items.Select(item => ToWeek(item, weight, there))])),
                        .. own.Select(sitting => new WeekItem(
                            $"{WeekFacts.SittingItem}:{sitting.Id}",
                            Prescription.ProcessOf(library.Tests[sitting.TestId]),
                            Prescription.Needs(library.Tests[sitting.TestId]),
                            Math.Max(1, library.Tests[sitting.TestId].Rules.HoldPoints.Count),
                            [0],
                            new Dictionary<string, double>(),
                            IsSitting: true
                        )),
                    ],
                    had
                )
            );
        }

        var processes = weekStudents.SelectMany(student => student.Items).Select(item => item.Process).Distinct().ToList();
        var before = (plan?.Cells ?? []).Where(cell => cell.Slot >= firstOpen).Select(cell => cell.Bare).ToList();
        var week = new WeekProblem(
            setup.Slots,
            [.. Enumerable.Range(0, setup.Slots).Select(slot => setup.HoldPointsIn(classes, monday, slot))],
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
                .. sittings
                    .Where(sitting => setup.SlotOf(sitting.Day, monday, sitting.Period) >= firstOpen)
                    .Select(sitting => new WeekCell(
                        sitting.StudentId.ToString(),
                        setup.SlotOf(sitting.Day, monday, sitting.Period),
                        $"{WeekFacts.SittingItem}:{sitting.Id}",
                        Standing(booths, sitting.BoothId)
                    )),
                .. (plan?.Cells ?? [])
                    .Where(cell => cell.Slot >= firstOpen && cell.Pinned && !cell.ItemId.StartsWith(WeekFacts.SittingItem, StringComparison.Ordinal))
                    .Select(cell => cell.Bare with { Booth = Standing(booths, cell.BoothId) }),
            ],
            before,
            fewestMoves ? weekStudents.SelectMany(student => student.Items).Select(item => item.FirstGain).DefaultIfEmpty(0).Max() * 2 : 0,
            firstOpen,
            Fair: !fewestMoves
        );
        return new WeekFacts(
            monday,
            setup,
            week,
            known.ToDictionary(one => one.Student.Id),
            items,
            sittings,
            absences,
            booths,
            plan,
            classes,
            coming
        );
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

    // What stands in a booth that is out goes on in another one.
    private static string? Standing(List<Booth> booths, Guid? id) => booths.Find(booth => booth.Id == id && booth.ClosedAt is null)?.Id.ToString();

    private static bool IsBlank(string stock) => stock.StartsWith(ItemWork.BlankWord + " ", StringComparison.Ordinal);

    /// <summary>The first slot of a week that is open at this moment.</summary>
    public int FirstOpen(Setup setup, DateOnly monday, OpenFrom open)
    {
        var today = clock.Today;
        if (open == OpenFrom.Monday || today < monday)
        {
            return 0;
        }

        if (today >= monday.AddDays(WeekDays.Count))
        {
            return setup.Slots;
        }

        var now = clock.TimeOfDay;
        var past = setup.Week.PeriodStarts.Index().Count(period => open == OpenFrom.NotBegun ? period.Item <= now : setup.EndOf(period.Index) <= now);
        return setup.SlotOf(today, monday, past);
    }

    /// <summary>What is planned between now and a week that is still to come: its gains are not counted again.</summary>
    private async Task<ILookup<Guid, PlannedCell>> Ahead(Setup setup, DateOnly monday, CancellationToken cancel)
    {
        List<PlannedCell> cells = [];
        for (
            var week = clock.Monday;
            week < monday && week < clock.Monday.AddDays(MostWeeksAhead * WeekDays.Count);
            week = week.AddDays(WeekDays.Count)
        )
        {
            var from = FirstOpen(setup, week, OpenFrom.NotBegun);
            cells.AddRange((await Plan(week, cancel))?.Cells.Where(cell => cell.Slot >= from) ?? []);
        }

        return cells.ToLookup(cell => cell.StudentId);
    }

    private static WeekItem ToWeek(PrescribedItem item, double weight, Dictionary<string, double> there) =>
        new(
            item.Id,
            item.Process,
            item.Needs,
            item.HoldPoints,
            [.. item.Gains.Select(gain => gain * weight)],
            item.Work.Draws.Where(draw => there.ContainsKey(draw.Stock))
                .ToDictionary(draw => draw.Stock, draw => draw.Amount / item.Periods, StringComparer.Ordinal),
            Asked: item.Asked,
            Most: item.IsToKeep ? item.Asked : null
        );

    private static IEnumerable<int> Comes(ClassGroup group, Setup setup, DateOnly monday) =>
        Enumerable.Range(0, setup.Slots).Where(slot => setup.Meets(group, setup.DayOf(monday, slot), setup.PeriodOf(slot)));
}
