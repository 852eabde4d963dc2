namespace Gradus.Core.Planning;

/// <summary>How the school's week is made up.</summary>
/// <param name="PeriodNames">The periods of a day, in order.</param>
/// <param name="PeriodStarts">When each begins, in the school's time.</param>
/// <param name="HoursPerPeriod">Booth time in one of them.</param>
/// <param name="ClassPeriods">In which periods of its days a class comes, by the class's id; all when it is not named.</param>
public sealed record WeekSetup(
    IReadOnlyList<string> PeriodNames,
    IReadOnlyList<TimeOnly> PeriodStarts,
    double HoursPerPeriod,
    int HoldPointsPerPeriod,
    int MinPeriods,
    int MaxPeriods,
    IReadOnlyDictionary<Guid, IReadOnlyList<int>> ClassPeriods
);
