using FluentValidation;
using Gradus.Core.Planning;
using Gradus.Server.Hosting;
using Gradus.Solver;

namespace Gradus.Server.Planning;

/// <summary>A week to be planned, by itself. Periods are numbered from 0.</summary>
public sealed record SolveRequest(
    int? Periods,
    int? HoldPointsPerPeriod,
    double? SecondsLimit,
    IReadOnlyList<SolveBooth?>? Booths,
    IReadOnlyList<SolveStudent?>? Students
)
{
    /// <summary>The week as the core takes it; only once it was validated.</summary>
    public WeekProblem ToWeek() =>
        new(
            Periods!.Value,
            WeekProblem.Holds(Periods.Value, HoldPointsPerPeriod!.Value),
            [.. Booths!.Select(booth => new WeekBooth(booth!.Id!, [.. booth.Processes!.Select(one => one!)], Traits(booth.Pipe, booth.Purge), []))],
            [
                .. Students!.Select(student => new WeekStudent(
                    student!.Id!,
                    student.Available!,
                    student.MinPeriods ?? 0,
                    student.MaxPeriods ?? Periods.Value,
                    [
                        .. student.Items!.Select(item => new WeekItem(
                            item!.Id!,
                            item.Process!,
                            Traits(item.NeedsPipe, item.NeedsPurge),
                            item.HoldPoints ?? 0,
                            item.Gains!,
                            new Dictionary<string, double>()
                        )),
                    ]
                )),
            ],
            new Dictionary<string, double>(),
            [],
            [],
            0
        );

    private static BoothTraits Traits(bool? pipe, bool? purge) =>
        (pipe == true ? BoothTraits.Pipe : BoothTraits.None) | (purge == true ? BoothTraits.Purge : BoothTraits.None);
}

/// <param name="Pipe">Whether it has what pipe needs; no when left out.</param>
public sealed record SolveBooth(string? Id, IReadOnlyList<string?>? Processes, bool? Pipe, bool? Purge);

/// <param name="Available">The periods in which the student comes.</param>
/// <param name="MaxPeriods">As many as there are when left out.</param>
public sealed record SolveStudent(string? Id, IReadOnlyList<int>? Available, int? MinPeriods, int? MaxPeriods, IReadOnlyList<SolveItem?>? Items);

/// <param name="Gains">What the first, second ... time adds; never rising, 0 or more.</param>
public sealed record SolveItem(string? Id, string? Process, bool? NeedsPipe, bool? NeedsPurge, int? HoldPoints, IReadOnlyList<double>? Gains);

public sealed record SolveAssignment(string Student, int Period, string Booth, string Item);

/// <param name="Bound">What no plan can exceed.</param>
/// <param name="Conflicts">Which needs clash, in words. With status <c>infeasible</c> the assignments are the best part of the plan.</param>
public sealed record SolveAnswer(
    IReadOnlyList<SolveAssignment> Assignments,
    double Objective,
    double Bound,
    WeekStatus Status,
    IReadOnlyList<string> Conflicts,
    double Seconds
)
{
    public static SolveAnswer From(WeekSolution solution) =>
        new(
            [
                .. solution
                    .Cells.OrderBy(cell => cell.Period)
                    .ThenBy(cell => cell.Student, StringComparer.Ordinal)
                    .Select(cell => new SolveAssignment(cell.Student, cell.Period, cell.Booth!, cell.Item)),
            ],
            solution.Objective,
            solution.Bound,
            solution.Status,
            solution.Conflicts,
            solution.Seconds
        );
}

public sealed class SolveRequestValidator : AbstractValidator<SolveRequest>
{
    private const int MostPeriods = 60;
    private const int MostBooths = 200;
    private const int MostStudents = 300;
    private const int MostItems = 40;
    private const int MostHolds = 1000;
    private const int MostChoices = 120_000;
    private const double MostSeconds = 60;
    private const int IdLength = 80;
    private static readonly string[] Processes = ["SMAW", "GTAW", "GMAW", "FCAW", "FCAW-G", "FCAW-S", "SAW", "OFW"];

    public SolveRequestValidator()
    {
        RuleFor(request => request.Periods)
            .Must(count => count is >= 1 and <= MostPeriods)
            .WithMessage($"Give the number of periods, 1 to {MostPeriods}.");
        RuleFor(request => request.HoldPointsPerPeriod)
            .Must(count => count is >= 0 and <= MostHolds)
            .WithMessage($"Give how many hold points can be answered in a period, 0 to {MostHolds}.");
        RuleFor(request => request.SecondsLimit).Needs(0.1, MostSeconds, "the seconds that it may take");
        RuleFor(request => request.Booths)
            .Must(booths => booths is { Count: <= MostBooths } && Distinct(booths.Select(booth => booth?.Id)))
            .WithMessage($"Give the booths, at most {MostBooths}, each with an id of its own of 1 to {IdLength} characters.");
        RuleForEach(request => request.Booths)
            .ChildRules(booth =>
                booth
                    .RuleFor(one => one!.Processes)
                    .Must(runs => runs is { Count: <= 20 } && runs.All(one => Processes.Contains(one)))
                    .WithMessage($"Give the processes that the booth runs: any of {string.Join(", ", Processes)}.")
            );
        RuleFor(request => request.Students)
            .Must(students => students is { Count: <= MostStudents } && Distinct(students.Select(student => student?.Id)))
            .WithMessage($"Give the students, at most {MostStudents}, each with an id of its own of 1 to {IdLength} characters.");
        RuleFor(request => request.Students)
            .Must(students => students is null || students.Sum(one => (one?.Available?.Count ?? 0) * (one?.Items?.Count ?? 0)) <= MostChoices)
            .WithMessage($"That is too large a week: at most {MostChoices} times a student's periods and items together.");
        RuleForEach(request => request.Students)
            .ChildRules(student =>
            {
                student
                    .RuleFor(one => one!.Available)
                    .Must(periods =>
                        periods is { Count: <= MostPeriods } && periods.Distinct().Count() == periods.Count && periods.All(period => period >= 0)
                    )
                    .WithMessage("Give the periods in which the student comes, counted from 0, each once.");
                student
                    .RuleFor(one => one!.MinPeriods)
                    .Must(count => count is null or (>= 0 and <= MostPeriods))
                    .WithMessage($"From 0 to {MostPeriods}, or left out.");
                student
                    .RuleFor(one => one!.MaxPeriods)
                    .Must((one, count) => count is null || (count >= (one!.MinPeriods ?? 0) && count <= MostPeriods))
                    .WithMessage($"From the least number of periods to {MostPeriods}, or left out.");
                student
                    .RuleFor(one => one!.Items)
                    .Must(items => items is { Count: <= MostItems } && Distinct(items.Select(item => item?.Id)))
                    .WithMessage($"Give the student's items, at most {MostItems}, each with an id of its own.");
                student.RuleForEach(one => one!.Items).ChildRules(Item);
            });
        RuleFor(request => request.Students)
            .Must(
                (request, students) =>
                    request.Periods is not { } periods
                    || students is null
                    || students.All(one => one?.Available?.All(period => period < periods) != false)
            )
            .WithMessage("A student comes in a period that there is not. Periods are counted from 0.");
    }

    private static void Item(InlineValidator<SolveItem?> item)
    {
        item.RuleFor(one => one!.Process).NeedsOneOf(Processes);
        item.RuleFor(one => one!.HoldPoints)
            .Must(count => count is null or (>= 0 and <= 100))
            .WithMessage("Hold points are from 0 to 100, or left out.");
        item.RuleFor(one => one!.Gains)
            .Must(gains =>
                gains is { Count: >= 1 and <= MostPeriods }
                && gains.All(gain => gain is >= 0 and <= 1000)
                && gains.Zip(gains.Skip(1)).All(pair => pair.First >= pair.Second)
            )
            .WithMessage("Give what the first, second ... time adds: numbers from 0 to 1000 that never rise.");
    }

    private static bool Distinct(IEnumerable<string?> ids)
    {
        var all = ids.ToList();
        return all.All(id => id is { Length: >= 1 and <= IdLength }) && all.Distinct(StringComparer.Ordinal).Count() == all.Count;
    }
}
