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
public sealed record WeekItem(
    string Id,
    string Process,
    BoothTraits Needs,
    int HoldPoints,
    IReadOnlyList<double> Gains,
    IReadOnlyDictionary<string, double> Draws,
    bool IsSitting = false
);

/// <summary>A student with the periods in which they come and what they may be given.</summary>
public sealed record WeekStudent(string Id, IReadOnlyList<int> Available, int MinPeriods, int MaxPeriods, IReadOnlyList<WeekItem> Items);

/// <summary>Who is where on what in a period. Without a booth where none has been chosen yet.</summary>
public sealed record WeekCell(string Student, int Period, string Item, string? Booth);

/// <summary>A week to be planned.</summary>
/// <param name="HoldPointsPerPeriod">How many hold points the instructor can answer in a period.</param>
/// <param name="Stock">What there is of each stock that items draw on; a stock that is not named is not short.</param>
/// <param name="Pins">Cells that stay as they are.</param>
/// <param name="Before">The plan that there was; cells that stay as they were count <paramref name="KeepWorth"/> each.</param>
public sealed record WeekProblem(
    int Periods,
    int HoldPointsPerPeriod,
    IReadOnlyList<WeekBooth> Booths,
    IReadOnlyList<WeekStudent> Students,
    IReadOnlyDictionary<string, double> Stock,
    IReadOnlyList<WeekCell> Pins,
    IReadOnlyList<WeekCell> Before,
    double KeepWorth
)
{
    /// <summary>Whether a booth can take an item in a period.</summary>
    public static bool Fits(WeekBooth booth, WeekItem item, int period) =>
        booth.Processes.Contains(item.Process) && (booth.Has & item.Needs) == item.Needs && !booth.Closed.Contains(period);

    /// <summary>What a plan is worth: the gains of each student's items, each time in its turn.</summary>
    public double Worth(IEnumerable<WeekCell> cells)
    {
        var items = Students
            .SelectMany(student => student.Items.Select(item => (student.Id, item)))
            .ToDictionary(one => (one.Id, one.item.Id), one => one.item);
        return cells.GroupBy(cell => (cell.Student, cell.Item)).Sum(group => items[group.Key].Gains.Take(group.Count()).Sum());
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
