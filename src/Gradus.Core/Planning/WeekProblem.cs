namespace Gradus.Core.Planning;

/// <summary>What a booth has beyond a power source, and what an item needs of it.</summary>
[Flags]
public enum BoothTraits
{
    None = 0,

    /// <summary>Stands and jigs for pipe.</summary>
    Pipe = 1,

    /// <summary>Gas for the inside of a closed pipe.</summary>
    Purge = 2,

    /// <summary>Fume extraction at the arc, without which no stainless is welded.</summary>
    Extraction = 4,

    /// <summary>A positioner that turns the work.</summary>
    Positioner = 8,
}

/// <summary>A booth as the week sees it.</summary>
/// <param name="Processes">The processes that it is set up for, by name.</param>
/// <param name="Closed">Periods in which it cannot be used.</param>
public sealed record WeekBooth(string Id, IReadOnlyList<string> Processes, BoothTraits Has, IReadOnlyList<int> Closed);

/// <summary>Something that a student may be given in a period.</summary>
/// <param name="HoldPoints">How often the instructor must come and look.</param>
/// <param name="Gains">What the first, second ... time adds; falling, 0 or more. A time beyond them adds nothing.</param>
/// <param name="Draws">What it takes from stock, by the stock's id.</param>
/// <param name="IsSitting">A booked sitting: it is only ever given where it is pinned.</param>
/// <param name="Asked">So many times of it are asked for before anything is gained...</param>
/// <param name="Group">Items of a student that bring much the same have the same name here: what they share falls with every one of them, and any of them is what is asked for.</param>
/// <param name="Shared">What the first, second ... time of any item of the group adds, beside the item's own gains; the same for all of them, falling, 0 or more.</param>
/// <param name="Most">It is given no more often than this; null for as often as there is room.</param>
public sealed record WeekItem(
    string Id,
    string Process,
    BoothTraits Needs,
    int HoldPoints,
    IReadOnlyList<double> Gains,
    IReadOnlyDictionary<string, double> Draws,
    bool IsSitting = false,
    int Asked = 0,
    string? Group = null,
    IReadOnlyList<double>? Shared = null,
    int? Most = null
)
{
    /// <summary>What it adds when nothing of its group was given before.</summary>
    public double FirstGain => (Gains is [var own, ..] ? own : 0) + (Shared is [var shared, ..] ? shared : 0);
}

/// <summary>A student with the periods in which they come and what they may be given.</summary>
/// <param name="Had">Periods that they had in this week before those that are planned: they count when the week is shared out.</param>
public sealed record WeekStudent(string Id, IReadOnlyList<int> Available, int MinPeriods, int MaxPeriods, IReadOnlyList<WeekItem> Items, int Had = 0);

/// <summary>Who is where on what in a period. Without a booth where none has been chosen yet.</summary>
public sealed record WeekCell(string Student, int Period, string Item, string? Booth);

/// <summary>A week to be planned.</summary>
/// <param name="HoldPoints">How many hold points can be answered in each period, by all who teach then together.</param>
/// <param name="Stock">What there is of each stock that items draw on; a stock that is not named is not short.</param>
/// <param name="Pins">Cells that stay as they are.</param>
/// <param name="Before">The plan that there was; cells that stay as they were count <paramref name="KeepWorth"/> each.</param>
/// <param name="FirstOpen">The first period that can still be planned; those before it are over.</param>
/// <param name="Fair">Whether a plan is chosen by <see cref="Order"/> before gains are looked at: everybody has a period, then what is asked for, then nobody has one more while another could have the one fewer.</param>
public sealed record WeekProblem(
    int Periods,
    IReadOnlyList<int> HoldPoints,
    IReadOnlyList<WeekBooth> Booths,
    IReadOnlyList<WeekStudent> Students,
    IReadOnlyDictionary<string, double> Stock,
    IReadOnlyList<WeekCell> Pins,
    IReadOnlyList<WeekCell> Before,
    double KeepWorth,
    int FirstOpen = 0,
    bool Fair = false
)
{
    /// <summary>The same number of hold points in every period.</summary>
    public static IReadOnlyList<int> Holds(int periods, int each) => [.. Enumerable.Repeat(each, periods)];

    /// <summary>How many students have at least one period, at least two, at least three ...: a plan with more at the first of these that differs is the fairer.</summary>
    public IReadOnlyList<int> Shares(IEnumerable<WeekCell> cells)
    {
        var counts = cells.CountBy(cell => cell.Student).ToDictionary(StringComparer.Ordinal);
        var had = Students.Select(student => student.Had + counts.GetValueOrDefault(student.Id)).ToList();
        return
        [
            .. Enumerable
                .Range(1, Students.Select(student => student.Had + student.MaxPeriods).DefaultIfEmpty(0).Max())
                .Select(least => had.Count(count => count >= least)),
        ];
    }

    /// <summary>
    /// By what a fair plan is chosen before its gains: how many students have a period at all, how many periods hold what is asked for, then how many students have two
    /// periods, three ... Of two plans the one with more at the first of these that differs is the better.
    /// </summary>
    public IReadOnlyList<int> Order(IReadOnlyCollection<WeekCell> cells)
    {
        var shares = Shares(cells);
        return [.. shares.Take(1), AskedMet(cells), .. shares.Skip(1)];
    }

    /// <summary>Periods of a plan in which somebody does what is asked for, no more than so often.</summary>
    public int AskedMet(IEnumerable<WeekCell> cells)
    {
        var items = Items();
        return cells
            .Select(cell => (cell.Student, Item: items[(cell.Student, cell.Item)]))
            .Where(cell => cell.Item.Asked > 0)
            .GroupBy(cell => (cell.Student, cell.Item.Group ?? cell.Item.Id))
            .Sum(group => Math.Min(group.Count(), group.Max(cell => cell.Item.Asked)));
    }

    /// <summary>Whether a booth can take an item in a period.</summary>
    public static bool Fits(WeekBooth booth, WeekItem item, int period) =>
        booth.Processes.Contains(item.Process) && (booth.Has & item.Needs) == item.Needs && !booth.Closed.Contains(period);

    /// <summary>What a plan is worth: the gains of each student's items, each time in its turn.</summary>
    public double Worth(IEnumerable<WeekCell> cells)
    {
        var items = Items();
        var given = cells.Select(cell => (cell.Student, Item: items[(cell.Student, cell.Item)])).ToList();
        return given.GroupBy(cell => (cell.Student, cell.Item.Id)).Sum(times => times.First().Item.Gains.Take(times.Count()).Sum())
            + given
                .Where(cell => cell.Item.Shared is not null)
                .GroupBy(cell => (cell.Student, cell.Item.Group))
                .Sum(times => times.First().Item.Shared!.Take(times.Count()).Sum());
    }

    private Dictionary<(string Student, string Item), WeekItem> Items() =>
        Students.SelectMany(student => student.Items.Select(item => (student.Id, item))).ToDictionary(one => (one.Id, one.item.Id), one => one.item);

    /// <summary>Items that bring much the same: what the least of them brings is shared, and falls with every one of them; each adds what it brings beyond that.</summary>
    /// <param name="items">Of one student, on one test.</param>
    public static IEnumerable<WeekItem> Together(string group, IReadOnlyList<WeekItem> items)
    {
        if (items.Count < 2)
        {
            return items.Select(item => item with { Group = group });
        }

        var times = items.Max(item => item.Gains.Count);
        double[] shared = [.. Enumerable.Range(0, times).Select(time => items.Min(item => item.Gains.ElementAtOrDefault(time)))];
        return items.Select(item =>
        {
            var least = double.PositiveInfinity;
            return item with
            {
                Group = group,
                Shared = shared,
                Gains = [.. item.Gains.Select((gain, time) => least = Math.Min(least, gain - shared[time]))],
            };
        });
    }
}

/// <summary>How far a week's solution came.</summary>
public enum WeekStatus
{
    /// <summary>No plan is worth more; proved.</summary>
    Optimal,

    /// <summary>All needs are met; time ran out before it was proved best.</summary>
    Feasible,

    /// <summary>Not all needs can be met; the plan is the best part of them.</summary>
    Infeasible,
}

/// <summary>A week as solved.</summary>
/// <param name="Objective">What the plan is worth.</param>
/// <param name="Bound">What no plan can exceed.</param>
/// <param name="Conflicts">Which needs clash, in words; empty when all are met.</param>
public sealed record WeekSolution(
    IReadOnlyList<WeekCell> Cells,
    double Objective,
    double Bound,
    WeekStatus Status,
    IReadOnlyList<string> Conflicts,
    double Seconds
);
