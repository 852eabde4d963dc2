using System.Diagnostics;
using Gradus.Core.Planning;

namespace Gradus.Solver;

/// <summary>How far the solving is: the worth of the best plan so far, what no plan can exceed, and the seconds it took.</summary>
public sealed record WeekProgress(double Best, double Bound, double Seconds);

/// <summary>
/// Plans a week: where it is to be fair, periods are shared out first, so that the least have as many as can be; then it maximises the summed gain. A plan by hand comes at once, one near the linear relaxation within a second or two, and the exact
/// search goes on until it is proved or time is up. Which booth of its kind is a small second step.
/// </summary>
public static class WeekSolver
{
    // In the largest single gains: a need that is not met weighs more than any gain it could cost, a pin more than a need.
    private const double NeedWeight = 50;
    private const double PinWeight = 500;
    private const double NearShare = 0.3;
    private const double ShareShare = 0.3;

    // Once nobody has so many periods, nobody has more; the two numbers before that do not tell it.
    private const int LastAsked = 2;
    private const double LeastSeconds = 0.05;
    private const double Proved = 1e-6;

    /// <summary>Solves a week.</summary>
    /// <param name="secondsLimit">Over 0.</param>
    /// <param name="progress">Told after each step.</param>
    /// <param name="cancel">Stops the search; the best plan so far is answered.</param>
    public static WeekSolution Solve(
        WeekProblem week,
        double secondsLimit,
        IProgress<WeekProgress>? progress = null,
        CancellationToken cancel = default
    )
    {
        var watch = Stopwatch.StartNew();
        var model = new WeekModel(week, NeedWeight, PinWeight);
        var best = HandRules.Greedy(week);
        var bestValue = model.ValueOf(best);
        var bound = double.PositiveInfinity;
        Tell();
        var isShareProved = true;
        var shares = week.Fair ? Shares() : [];
        if (model.Relaxed(shares) is { } relaxed)
        {
            bound = relaxed.Bound;
            Tell();
            if (!cancel.IsCancellationRequested && model.Near(relaxed.Values, shares, Left() * NearShare) is { } near)
            {
                Take(near);
            }
        }

        if (!cancel.IsCancellationRequested && !IsProved())
        {
            var exact = model.Exact(best, shares, Left(), cancel);
            bound = Math.Min(bound, exact.Bound);
            if (exact.Cells is not null)
            {
                Take(exact.Cells);
            }
        }

        var placed = BoothChoice.Place(week, best);
        var conflicts = WeekConflicts.Of(week, placed);
        Tell();
        return new WeekSolution(
            placed,
            week.Worth(placed),
            model.GainsAlone(bound, placed),
            conflicts.Count > 0 ? WeekStatus.Infeasible
                : IsProved() && isShareProved ? WeekStatus.Optimal
                : WeekStatus.Feasible,
            conflicts,
            watch.Elapsed.TotalSeconds
        );

        List<int> Shares()
        {
            var levels = new List<int>();
            var count = week.Shares(best).Count == 0 ? 0 : week.Order(best).Count;
            while (levels.Count < count && !(levels.Count > LastAsked && levels[^1] == 0))
            {
                (var most, best, var isMost) = model.Level(levels, best, Left() * ShareShare, cancel);
                isShareProved &= isMost;
                levels.Add(most);
                bestValue = model.ValueOf(best);
            }

            return levels;
        }

        void Tell() => progress?.Report(new WeekProgress(week.Worth(best), model.GainsAlone(bound, best), watch.Elapsed.TotalSeconds));
        double Left() => Math.Max(LeastSeconds, secondsLimit - watch.Elapsed.TotalSeconds);
        bool IsProved() => bound - bestValue <= Proved * Math.Max(1, Math.Abs(bound));
        void Take(IReadOnlyList<WeekCell> cells)
        {
            if (model.ValueOf(cells) is var value && value > bestValue)
            {
                (best, bestValue) = (cells, value);
                Tell();
            }
        }
    }
}
