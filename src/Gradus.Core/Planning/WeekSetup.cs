namespace Gradus.Core.Planning;

/// <summary>How the school's week is made up.</summary>
/// <param name="PeriodNames">The periods of a day, in order.</param>
/// <param name="PeriodStarts">When each begins, in the school's time.</param>
/// <param name="HoursPerPeriod">Booth time in one of them.</param>
/// <param name="HoldPointsPerPeriod">How many hold points one instructor can answer in a period.</param>
/// <param name="ClassPeriods">In which periods of its days a class comes, by the class's id; all when it is not named.</param>
/// <param name="ClassTeachers">Who teaches a class, by the class's id; one instructor when it is not named.</param>
/// <param name="TeacherHoldPoints">How many hold points an instructor can answer where that is not as many as usual, by their id.</param>
public sealed record WeekSetup(
    IReadOnlyList<string> PeriodNames,
    IReadOnlyList<TimeOnly> PeriodStarts,
    double HoursPerPeriod,
    int HoldPointsPerPeriod,
    int MinPeriods,
    int MaxPeriods,
    IReadOnlyDictionary<Guid, IReadOnlyList<int>> ClassPeriods,
    IReadOnlyDictionary<Guid, IReadOnlyList<Guid>>? ClassTeachers = null,
    IReadOnlyDictionary<Guid, int>? TeacherHoldPoints = null
);
