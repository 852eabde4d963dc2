using Google.OrTools.LinearSolver;
using Gradus.Core.Planning;
using LinearSolver = Google.OrTools.LinearSolver.Solver;

namespace Gradus.Solver;

/// <summary>
/// Cuts lengths from bars so that as little new stock as may be is begun: ways of cutting one bar are found as the linear master asks for them
/// (Gilmore and Gomory, 1961), and the whole numbers of each are then chosen exactly.
/// </summary>
public static class BarCutter
{
    // Lengths are counted in half millimetres, rounded up, so that no plan comes out short.
    private const double StepsPerMm = 2;
    private const double Slack = 1e-6;
    private const int MostRounds = 400;
    private const double SecondsForWhole = 5;

    // A piece that cannot be cut weighs more than any bar.
    private const double MissingMm = 1e6;

    // Metal of an off-cut is paid for; a little is counted so that no more of them are begun than are needed.
    private const double OffCutShare = 0.05;

    private sealed record Way(int Rack, int[] Counts);

    /// <summary>Plans the cutting of one section.</summary>
    /// <param name="pieces">Pieces; those of one length are cut alike.</param>
    /// <param name="rack">Bars there are.</param>
    public static CutPlan Cut(IReadOnlyList<CutPiece> pieces, IReadOnlyList<RackBar> rack, Saw saw)
    {
        var lengths = pieces.Select(piece => piece.LengthMm).Distinct().OrderDescending().ToArray();
        var wanted = lengths.Select(length => pieces.Where(piece => piece.LengthMm == length).Sum(piece => piece.Count)).ToArray();
        if (wanted.Sum() == 0)
        {
            return new CutPlan([], 0, 0, []);
        }

        var sizes = lengths.Select(length => (int)Math.Ceiling((length + saw.KerfMm) * StepsPerMm)).ToArray();
        var room = rack.Select(bar => (int)Math.Floor((bar.LengthMm - saw.GripMm + saw.KerfMm) * StepsPerMm)).ToArray();
        var ways = First(rack, sizes, wanted, room);
        var bound = 0.0;
        for (var round = 0; round < MostRounds; round++)
        {
            var (value, piecePrices, rackPrices) = Master(ways, rack, wanted);
            bound = value;
            var found = Enumerable
                .Range(0, rack.Count)
                .Select(index => Best(index, Cost(rack[index]) - rackPrices[index], piecePrices, sizes, wanted, room[index]))
                .OfType<Way>()
                .ToList();
            if (found.Count == 0)
            {
                break;
            }

            ways.AddRange(found);
        }

        return Whole(ways, rack, lengths, wanted, saw, pieces, bound);
    }

    private static double Cost(RackBar bar) => bar.OffCut ? bar.LengthMm * OffCutShare : bar.LengthMm;

    /// <summary>To begin with: each length by itself, and bars filled longest first.</summary>
    private static List<Way> First(IReadOnlyList<RackBar> rack, int[] sizes, int[] wanted, int[] room)
    {
        var ways = new List<Way>();
        for (var bar = 0; bar < rack.Count; bar++)
        {
            for (var piece = 0; piece < sizes.Length; piece++)
            {
                var counts = new int[sizes.Length];
                counts[piece] = Math.Min(wanted[piece], Math.Max(0, room[bar]) / sizes[piece]);
                var left = room[bar] - (counts[piece] * sizes[piece]);
                for (var other = 0; other < sizes.Length; other++)
                {
                    if (other != piece)
                    {
                        counts[other] = Math.Min(wanted[other], Math.Max(0, left) / sizes[other]);
                        left -= counts[other] * sizes[other];
                    }
                }

                if (counts.Any(count => count > 0))
                {
                    ways.Add(new Way(bar, counts));
                }
            }
        }

        return ways;
    }

    private static (double Value, double[] Pieces, double[] Rack) Master(List<Way> ways, IReadOnlyList<RackBar> rack, int[] wanted)
    {
        using var solver = LinearSolver.CreateSolver("GLOP");
        var (_, demand, limits) = Build(solver, ways, rack, wanted, whole: false);
        solver.Solve();
        return (solver.Objective().Value(), [.. demand.Select(row => row.DualValue())], [.. limits.Select(row => row.DualValue())]);
    }

    private static (Variable[] Ways, Constraint[] Demand, Constraint[] Limits) Build(
        LinearSolver solver,
        List<Way> ways,
        IReadOnlyList<RackBar> rack,
        int[] wanted,
        bool whole
    )
    {
        var objective = solver.Objective();
        objective.SetMinimization();
        var demand = wanted.Select(count => solver.MakeConstraint(count, double.PositiveInfinity)).ToArray();
        var limits = rack.Select(bar => solver.MakeConstraint(double.NegativeInfinity, bar.Count)).ToArray();
        var variables = ways.Select(way =>
            {
                var used = solver.MakeVar(0, double.PositiveInfinity, whole, "");
                objective.SetCoefficient(used, Cost(rack[way.Rack]));
                limits[way.Rack].SetCoefficient(used, 1);
                for (var piece = 0; piece < way.Counts.Length; piece++)
                {
                    demand[piece].SetCoefficient(used, way.Counts[piece]);
                }

                return used;
            })
            .ToArray();
        foreach (var row in demand)
        {
            var missing = solver.MakeVar(0, double.PositiveInfinity, whole, "");
            objective.SetCoefficient(missing, MissingMm);
            row.SetCoefficient(missing, 1);
        }

        return (variables, demand, limits);
    }

    /// <summary>The way of cutting one bar that is worth most at these prices, when it is worth more than the bar costs: a knapsack over its length.</summary>
    private static Way? Best(int rack, double cost, double[] prices, int[] sizes, int[] wanted, int room)
    {
        if (room <= 0)
        {
            return null;
        }

        var worth = new double[room + 1];
        var taken = new int[sizes.Length][];
        for (var piece = 0; piece < sizes.Length; piece++)
        {
            taken[piece] = new int[room + 1];
            var next = (double[])worth.Clone();
            for (var at = sizes[piece]; at <= room; at++)
            {
                for (var count = 1; count <= wanted[piece] && count * sizes[piece] <= at; count++)
                {
                    var value = worth[at - (count * sizes[piece])] + (count * prices[piece]);
                    if (value > next[at] + Slack)
                    {
                        (next[at], taken[piece][at]) = (value, count);
                    }
                }
            }

            worth = next;
        }

        if (worth[room] <= cost + Slack)
        {
            return null;
        }

        var counts = new int[sizes.Length];
        for (var (piece, at) = (sizes.Length - 1, room); piece >= 0; piece--)
        {
            counts[piece] = taken[piece][at];
            at -= counts[piece] * sizes[piece];
        }

        return new Way(rack, counts);
    }

    private static CutPlan Whole(
        List<Way> ways,
        IReadOnlyList<RackBar> rack,
        double[] lengths,
        int[] wanted,
        Saw saw,
        IReadOnlyList<CutPiece> pieces,
        double relaxed
    )
    {
        using var solver = LinearSolver.CreateSolver("SCIP");
        var (variables, _, _) = Build(solver, ways, rack, wanted, whole: true);
        solver.SetTimeLimit((long)(SecondsForWhole * 1000));
        solver.Solve();
        var left = (int[])wanted.Clone();
        var bars = new List<CutBar>();
        foreach (var (way, count) in ways.Zip(variables, (way, variable) => (way, (int)Math.Round(variable.SolutionValue()))))
        {
            for (var bar = 0; bar < count; bar++)
            {
                var cuts = new List<double>();
                for (var piece = 0; piece < lengths.Length; piece++)
                {
                    var take = Math.Min(left[piece], way.Counts[piece]);
                    left[piece] -= take;
                    cuts.AddRange(Enumerable.Repeat(lengths[piece], take));
                }

                if (cuts.Count > 0)
                {
                    var rest = Math.Max(0, rack[way.Rack].LengthMm - cuts.Sum() - (saw.KerfMm * cuts.Count));
                    bars.Add(new CutBar(rack[way.Rack].LengthMm, rack[way.Rack].OffCut, cuts, rest, rest >= saw.KeepMm));
                }
            }
        }

        var bought = bars.Where(bar => !bar.OffCut).Sum(bar => bar.LengthMm);
        return new CutPlan(
            [.. bars.OrderByDescending(bar => bar.OffCut).ThenByDescending(bar => bar.LengthMm).ThenBy(bar => bar.LeftMm)],
            bought,
            Math.Min(bought, NewLength(relaxed, rack)),
            [
                .. left.Select((count, piece) => (count, piece))
                    .Where(one => one.count > 0)
                    .Select(one => Missing(lengths[one.piece], one.count, pieces)),
            ]
        );
    }

    /// <summary>The relaxed cost as a length of new bars: not less than it, in whole bars where all new bars are alike.</summary>
    private static double NewLength(double relaxed, IReadOnlyList<RackBar> rack)
    {
        var news = rack.Where(bar => !bar.OffCut).Select(bar => bar.LengthMm).Distinct().ToList();
        var offCuts = rack.Where(bar => bar.OffCut).Sum(bar => Cost(bar) * bar.Count);
        var least = Math.Max(0, relaxed - offCuts);
        return news.Count == 1 ? Math.Ceiling((least / news[0]) - Slack) * news[0] : least;
    }

    private static CutPiece Missing(double length, int count, IReadOnlyList<CutPiece> pieces) =>
        new(length, count, string.Join(", ", pieces.Where(piece => piece.LengthMm == length).Select(piece => piece.For).Distinct()));
}
