using Google.OrTools.Sat;
using Gradus.Core.Qualification;

namespace Gradus.Solver;

/// <summary>What is to be least.</summary>
public enum CoverageAim
{
    /// <summary>The number of tests; of as many, the cheaper ones.</summary>
    Fewest,

    /// <summary>The cost of the tests together.</summary>
    Cheapest,
}

/// <summary>A test to take, with the options of its variants; null as it is first described.</summary>
public sealed record ChosenTest(string Test, IReadOnlyDictionary<string, string>? Variants, string? Way);

/// <summary>A weld of the job that is covered, by which test.</summary>
public sealed record CoveredWeld(string Weld, IReadOnlyList<string> By);

/// <summary>A weld that no choice of tests covers: the test that comes nearest, and what it lacks.</summary>
public sealed record UncoveredWeld(string Weld, string? Nearest, IReadOnlyList<Shortfall> Missing);

/// <summary>The tests to take.</summary>
/// <param name="Tests">Their ids.</param>
/// <param name="Chosen">Each with the way in which it is taken; one test can be among them in several ways.</param>
/// <param name="Proved">True when no better choice exists; false when time ran out before that was shown.</param>
public sealed record CoverageAnswer(
    IReadOnlyList<string> Tests,
    IReadOnlyList<ChosenTest> Chosen,
    double Cost,
    bool Proved,
    IReadOnlyList<CoveredWeld> Covered,
    IReadOnlyList<UncoveredWeld> Uncovered
);

/// <summary>From what a job needs to the fewest or cheapest tests that cover it: exact, as a set cover over every way in which each can be taken.</summary>
public static class CoverageFinder
{
    private const int CentsPerUnit = 100;
    private const double SecondsLimit = 10;

    /// <summary>
    /// Chooses tests. Every weld that can be covered is covered; among those choices the aim is met, proved by the solver.
    /// </summary>
    /// <param name="table">The position table of the code.</param>
    /// <param name="candidates">Tests that may be taken, each with a cost from 0 to 1 000 000; ids differ.</param>
    public static CoverageAnswer Find(
        PositionTable table,
        IReadOnlyList<JobWeld> welds,
        IReadOnlyList<CandidateTest> candidates,
        CoverageAim aim,
        CancellationToken cancel = default
    )
    {
        var covering = Coverage.Covering(table, welds, candidates);
        var model = new CpModel();
        var taken = candidates.Select(candidate => model.NewBoolVar(candidate.Name)).ToArray();
        foreach (var choices in covering.Where(choices => choices.Count > 0))
        {
            model.AddBoolOr(choices.Select(index => taken[index]));
        }

        var cents = candidates.Select(candidate => (long)Math.Round(candidate.Cost * CentsPerUnit)).ToArray();

        // One test less is worth more than all the money.
        var perTest = aim == CoverageAim.Fewest ? cents.Sum() + 1 : 0;
        model.Minimize(LinearExpr.WeightedSum(taken, cents.Select(cost => cost + perTest).ToArray()));
        var solver = new CpSolver { StringParameters = $"num_workers:1,random_seed:1,max_time_in_seconds:{SecondsLimit}" };
        using var stop = cancel.Register(solver.StopSearch);
        var status = solver.Solve(model);
        cancel.ThrowIfCancellationRequested();
        var chosen = Enumerable.Range(0, candidates.Count).Where(index => solver.BooleanValue(taken[index])).ToHashSet();
        return new CoverageAnswer(
            [.. chosen.Order().Select(index => candidates[index].Id).Distinct()],
            [.. chosen.Order().Select(index => new ChosenTest(candidates[index].Id, candidates[index].Choices, candidates[index].Way))],
            chosen.Sum(index => candidates[index].Cost),
            status == CpSolverStatus.Optimal,
            [
                .. welds
                    .Zip(covering)
                    .Where(one => one.Second.Count > 0)
                    .Select(one => new CoveredWeld(one.First.Name, [candidates[one.Second.First(chosen.Contains)].Name])),
            ],
            [.. welds.Zip(covering).Where(one => one.Second.Count == 0).Select(one => Nearest(table, one.First, candidates))]
        );
    }

    private static UncoveredWeld Nearest(PositionTable table, JobWeld weld, IReadOnlyList<CandidateTest> candidates)
    {
        var nearest = candidates
            .SelectMany(candidate => candidate.Passes.Select(pass => (Id: candidate.Name, Missing: Coverage.Missing(table, weld, [pass]))))
            .OrderBy(one => one.Missing.Any(gap => gap.Variable == "process"))
            .ThenBy(one => one.Missing.Count)
            .FirstOrDefault();
        return new UncoveredWeld(weld.Name, nearest.Id, nearest.Missing ?? Coverage.Missing(table, weld, []));
    }
}
