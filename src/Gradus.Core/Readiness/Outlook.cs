using System.Collections.Concurrent;
using System.Numerics.Tensors;
using Gradus.Core.Measure;
using MathNet.Numerics;
using MathNet.Numerics.Distributions;
using MathNet.Numerics.LinearAlgebra;

namespace Gradus.Core.Readiness;

/// <summary>
/// A student as he or she may be on one day: for each hypothesis as many draws of the element log-odds, spread evenly over what is known and
/// weighted by how likely the hypothesis is. The same knowledge gives the same draws, to the bit. Kept element by element, so that each step runs over all draws at once.
/// </summary>
internal sealed class Outlook
{
    private const int DrawsEach = 64;
    private const double LeastWeight = 1e-5;
    private const double Jitter = 1e-9;

    // The interval allows for students who do not learn as the model says: its half-widths in log-odds are so much wider. Chosen on simulated
    // students of another make (docs/readiness.md).
    private const double ModelError = 1.04;

    // Gauss-Hermite for the day's effect, 5 points for the standard normal (Abramowitz and Stegun, table 25.10, scaled).
    private static readonly (double Node, double Share)[] Days =
    [
        (-2.856970013872806, 0.011257411327721),
        (-1.355626179974266, 0.222075922005613),
        (0, 0.533333333333333),
        (1.355626179974266, 0.222075922005613),
        (2.856970013872806, 0.011257411327721),
    ];
    private static readonly ConcurrentDictionary<int, Matrix<double>> Normals = new();

    private readonly int elements;
    private readonly int count;
    private readonly double[][] odds;

    // What is left to gain on each element.
    private readonly double[][] left;
    private readonly double[] paces;
    private readonly double[] daySpreads;

    // How much each draw counts; they add up to 1.
    private readonly double[] weights;

    public Outlook(GrowthFilter filter)
    {
        elements = filter.Elements;
        var live = Live(filter);
        count = live.Count * DrawsEach;
        odds = [.. Enumerable.Range(0, elements).Select(_ => new double[count])];
        left = [.. Enumerable.Range(0, elements).Select(_ => new double[count])];
        (paces, daySpreads, weights) = (new double[count], new double[count], new double[count]);
        var normals = Normals.GetOrAdd(elements + 1, StandardNormals);
        var next = 0;
        foreach (var (one, weight) in live)
        {
            var size = Hypothesis.SizeFor(elements);
            var covariance = Matrix<double>.Build.Dense(
                elements + 1,
                elements + 1,
                (row, column) => one.Covariance[(row * size) + column] + (row == column ? Jitter : 0)
            );
            var states = covariance.Cholesky().Factor * normals;
            var open = one.Practice.Select(practice => Math.Exp(-practice / one.Pace)).ToArray();
            for (var index = 0; index < DrawsEach; index++, next++)
            {
                var gain = one.Mean[elements] + states[elements, index];
                (paces[next], daySpreads[next], weights[next]) = (one.Pace, one.DaySpread, weight / DrawsEach);
                for (var e = 0; e < elements; e++)
                {
                    odds[e][next] = one.Mean[e] + states[e, index] + (gain * (1 - open[e]));
                    left[e][next] = gain * open[e];
                }
            }
        }
    }

    private Outlook(Outlook all, int step)
    {
        double[] Every(double[] values) => [.. values.Where((_, draw) => draw % step == 0)];
        elements = all.elements;
        (odds, left) = ([.. all.odds.Select(Every)], [.. all.left.Select(Every)]);
        (paces, daySpreads) = (Every(all.paces), Every(all.daySpreads));
        count = paces.Length;
        var kept = Every(all.weights);
        weights = [.. kept.Select(weight => weight / kept.Sum())];
    }

    /// <summary>Every so many of the draws: enough for what is only a forecast.</summary>
    public Outlook Thinned(int step) => new(this, step);

    /// <summary>For each draw the chance that a full coupon is clean, after so much more practice on each element.</summary>
    /// <param name="only">The elements that count; all of them when left out.</param>
    public double[] Chances(IReadOnlyList<double>? more = null, IReadOnlyList<bool>? only = null)
    {
        var (sum, all, day) = (new double[count], new double[count], new double[count]);
        var then = more is null ? odds : After(more);
        foreach (var (node, share) in Days)
        {
            Array.Fill(all, share);
            for (var e = 0; e < elements; e++)
            {
                if (only?[e] == false)
                {
                    continue;
                }

                Clean(then[e], node, day);
                TensorPrimitives.Multiply(all, day, all);
            }

            TensorPrimitives.Add(sum, all, sum);
        }

        return sum;
    }

    /// <summary>The weighted mean of one number for each draw.</summary>
    public double Mean(double[] values) => TensorPrimitives.Dot<double>(values, weights);

    /// <summary>The values below which each of the given shares of the weight lies, between neighbouring draws by a straight line.</summary>
    /// <param name="shares">Rising, 0 to 1.</param>
    public double[] Quantiles(double[] values, params ReadOnlySpan<double> shares)
    {
        var (sorted, by) = ((double[])values.Clone(), (double[])weights.Clone());
        Array.Sort(sorted, by);
        var answers = new double[shares.Length];
        var (at, below) = (0, by[0] / 2);
        for (var index = 0; index < shares.Length; index++)
        {
            while (at + 1 < count && below + ((by[at] + by[at + 1]) / 2) < shares[index])
            {
                below += (by[at] + by[at + 1]) / 2;
                at++;
            }

            var (from, to) = (sorted[at], sorted[Math.Min(at + 1, count - 1)]);
            var step = at + 1 < count ? (by[at] + by[at + 1]) / 2 : 1;
            answers[index] = from + ((to - from) * Math.Clamp((shares[index] - below) / step, 0, 1));
        }

        return answers;
    }

    /// <summary>The chance with its 90 % interval.</summary>
    public ChanceBand Band(double[] chances)
    {
        var ends = Quantiles(chances, 0.05, 0.5, 0.95);
        static double Odds(double chance) => SpecialFunctions.Logit(Math.Clamp(chance, Jitter, 1 - Jitter));
        Chance Wider(double end) => Chance.Of(SpecialFunctions.Logistic(Odds(ends[1]) + (ModelError * (Odds(end) - Odds(ends[1])))));
        return new ChanceBand(Chance.Of(Math.Clamp(Mean(chances), 0, 1)), Wider(ends[0]), Wider(ends[2]));
    }

    /// <summary>The chance that each element is clean.</summary>
    public double[] ElementChances()
    {
        var day = new double[count];
        return
        [
            .. odds.Select(element =>
                Days.Sum(one =>
                {
                    Clean(element, one.Node, day);
                    return one.Share * TensorPrimitives.Dot<double>(day, weights);
                })
            ),
        ];
    }

    private void Clean(double[] element, double node, double[] into)
    {
        TensorPrimitives.MultiplyAdd(daySpreads, node, element, into);
        TensorPrimitives.Sigmoid(into, into);
    }

    private double[][] After(IReadOnlyList<double> more)
    {
        var risen = more.Distinct().ToDictionary(coupons => coupons, coupons => paces.Select(pace => 1 - Math.Exp(-coupons / pace)).ToArray());
        return
        [
            .. odds.Select(
                (now, e) =>
                {
                    var then = new double[count];
                    TensorPrimitives.MultiplyAdd(left[e], risen[more[e]], now, then);
                    return then;
                }
            ),
        ];
    }

    /// <summary>The hypotheses that still count, with their weights. A kink where one falls out would show in the chance, so the bound is low.</summary>
    private static List<(Hypothesis One, double Weight)> Live(GrowthFilter filter)
    {
        var weights = filter.Weights();
        var kept = weights.Where(weight => weight >= LeastWeight).Sum();
        return [.. filter.Hypotheses.Zip(weights).Where(one => one.Second >= LeastWeight).Select(one => (one.First, one.Second / kept))];
    }

    // The same points for every hypothesis: an outcome that changes their weights moves the chance smoothly. Few points in many dimensions
    // spread a little too narrowly and askew, so they are made to have mean 0 and covariance 1 exactly.
    private static Matrix<double> StandardNormals(int dimensions)
    {
        var points = Matrix<double>.Build.DenseOfColumns(
            Enumerable.Range(0, DrawsEach).Select(index => EvenPoints.At(index, dimensions).Select(share => Normal.InvCDF(0, 1, share)))
        );
        var centred = Matrix<double>.Build.DenseOfRows(points.EnumerateRows().Select(row => row.Subtract(row.Average()).AsEnumerable()));
        return (centred * centred.Transpose() / DrawsEach).Cholesky().Factor.Solve(centred);
    }
}
