using System.Collections.Concurrent;
using System.Numerics.Tensors;
using MathNet.Numerics.Distributions;
using MathNet.Numerics.LinearAlgebra;

namespace Gradus.Core.Readiness;

/// <summary>
/// A student as he or she may be on one day: a fixed number of draws of the element log-odds, spread evenly over what is known. The same
/// knowledge gives the same draws, to the bit. Kept element by element, so that each step runs over all draws at once.
/// </summary>
internal sealed class Outlook
{
    private const int Draws = 512;
    private const double LeastWeight = 1e-4;
    private const double Jitter = 1e-9;

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

    public Outlook(GrowthFilter filter)
    {
        (elements, count) = (filter.Elements, Draws);
        odds = [.. Enumerable.Range(0, elements).Select(_ => new double[Draws])];
        left = [.. Enumerable.Range(0, elements).Select(_ => new double[Draws])];
        (paces, daySpreads) = (new double[Draws], new double[Draws]);
        var normals = Normals.GetOrAdd(elements + 1, StandardNormals);
        var next = 0;
        foreach (var (one, share) in Shares(filter))
        {
            var size = Hypothesis.SizeFor(elements);
            var covariance = Matrix<double>.Build.Dense(
                elements + 1,
                elements + 1,
                (row, column) => one.Covariance[(row * size) + column] + (row == column ? Jitter : 0)
            );
            var states = covariance.Cholesky().Factor * normals.SubMatrix(0, elements + 1, next, share);
            var open = one.Practice.Select(practice => Math.Exp(-practice / one.Pace)).ToArray();
            for (var index = 0; index < share; index++, next++)
            {
                var gain = one.Mean[elements] + states[elements, index];
                (paces[next], daySpreads[next]) = (one.Pace, one.DaySpread);
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
                    return one.Share * TensorPrimitives.Sum<double>(day) / count;
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

    /// <summary>How many draws each hypothesis gets: by its weight, the rest to the largest remainders, in order.</summary>
    private static List<(Hypothesis One, int Count)> Shares(GrowthFilter filter)
    {
        var kept = filter.Weights().Select(weight => weight < LeastWeight ? 0 : weight).ToArray();
        var sum = kept.Sum();
        var exact = kept.Select(weight => weight / sum * Draws).ToArray();
        var counts = exact.Select(share => (int)Math.Floor(share)).ToArray();
        foreach (var index in Enumerable.Range(0, exact.Length).OrderByDescending(index => exact[index] - counts[index]).Take(Draws - counts.Sum()))
        {
            counts[index]++;
        }

        return [.. filter.Hypotheses.Select((one, index) => (one, counts[index])).Where(one => one.Item2 > 0)];
    }

    // A run of neighbouring points fills the space by itself, so each hypothesis takes the next ones.
    private static Matrix<double> StandardNormals(int dimensions) =>
        Matrix<double>.Build.DenseOfColumns(
            Enumerable.Range(0, Draws).Select(index => EvenPoints.At(index, dimensions).Select(share => Normal.InvCDF(0, 1, share)))
        );
}
