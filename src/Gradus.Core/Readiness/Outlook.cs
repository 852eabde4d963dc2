using System.Collections.Concurrent;
using System.Numerics.Tensors;
using Gradus.Core.Measure;
using MathNet.Numerics;
using MathNet.Numerics.Distributions;
using MathNet.Numerics.LinearAlgebra;

namespace Gradus.Core.Readiness;

/// <summary>
/// A student as he or she may be on one day: for each hypothesis as many draws of the element log-odds, spread evenly over what is known and
/// weighted by how likely the hypothesis is. The same knowledge gives the same draws, to the bit. Kept element by element, so that each step runs over all draws at once. Not for several threads.
/// </summary>
internal sealed class Outlook
{
    private const int DrawsEach = 64;
    private const double LeastWeight = 1e-5;
    private const double Jitter = 1e-9;

    // How wide the interval is, in log-odds, as times that of the draws; chosen on simulated students of another make (docs/readiness.md). Few
    // coupons cannot tell nearly always from always, and some students leap: the surer the middle, the further up it reaches.
    private const double Width = 0.95;
    private const double UpwardsByOdds = 0.5;

    // Gauss-Hermite for the day's effect, 5 points for the standard normal (Abramowitz and Stegun, table 25.10, scaled).
    private static readonly (double Node, double Share)[] Days =
    [
        (-2.856970013872806, 0.011257411327721),
        (-1.355626179974266, 0.222075922005613),
        (0, 0.533333333333333),
        (1.355626179974266, 0.222075922005613),
        (2.856970013872806, 0.011257411327721),
    ];
    private static readonly ConcurrentDictionary<int, double[][]> Normals = new();

    private readonly int elements;
    private readonly int count;
    private readonly double[][] odds;

    // What is left to gain on each element.
    private readonly double[][] left;
    private readonly double[] paces;

    // What each kind of day multiplies the odds against by, and how often such a day is.
    private readonly (double[] Odds, double Share)[] dayOdds;

    // How much each draw counts; they add up to 1.
    private readonly double[] weights;

    // Used again and again while chances are worked out: by day, of one element, and of one element on one day.
    private readonly double[][] against;
    private readonly double[] element;
    private readonly double[] onDay;

    public Outlook(GrowthFilter filter)
    {
        elements = filter.Elements;
        var live = Live(filter);
        count = live.Count * DrawsEach;
        odds = [.. Enumerable.Range(0, elements).Select(_ => new double[count])];
        left = [.. Enumerable.Range(0, elements).Select(_ => new double[count])];
        var daySpreads = new double[count];
        (paces, weights) = (new double[count], new double[count]);
        var normals = Normals.GetOrAdd(elements + 1, StandardNormals);
        var size = Hypothesis.SizeFor(elements);
        var gain = new double[DrawsEach];
        foreach (var ((one, weight), index) in live.Select((one, index) => (one, index)))
        {
            var at = index * DrawsEach;
            Array.Fill(paces, one.Pace, at, DrawsEach);
            Array.Fill(daySpreads, one.DaySpread, at, DrawsEach);
            Array.Fill(weights, weight / DrawsEach, at, DrawsEach);
            var factor = Matrix<double>
                .Build.Dense(elements + 1, elements + 1, (row, column) => one.Covariance[(row * size) + column] + (row == column ? Jitter : 0))
                .Cholesky()
                .Factor;
            Draw(factor, elements, one.Mean[elements], normals, gain);
            for (var e = 0; e < elements; e++)
            {
                var own = odds[e].AsSpan(at, DrawsEach);
                var open = Math.Exp(-one.Practice[e] / one.Pace);
                Draw(factor, e, one.Mean[e], normals, own);
                TensorPrimitives.FusedMultiplyAdd(gain, 1 - open, own, own);
                TensorPrimitives.Multiply(gain, open, left[e].AsSpan(at, DrawsEach));
            }
        }

        dayOdds = [.. Days.Select(day => (daySpreads.Select(spread => Math.Exp(-spread * day.Node)).ToArray(), day.Share))];
        (against, element, onDay) = Scratch();
    }

    private Outlook(Outlook all, int step)
    {
        double[] Every(double[] values) => [.. values.Where((_, draw) => draw % step == 0)];
        elements = all.elements;
        (odds, left) = ([.. all.odds.Select(Every)], [.. all.left.Select(Every)]);
        paces = Every(all.paces);
        dayOdds = [.. all.dayOdds.Select(day => (Every(day.Odds), day.Share))];
        count = paces.Length;
        var kept = Every(all.weights);
        weights = [.. kept.Select(weight => weight / kept.Sum())];
        (against, element, onDay) = Scratch();
    }

    private (double[][], double[], double[]) Scratch() => ([.. Days.Select(_ => new double[count])], new double[count], new double[count]);

    /// <summary>Every so many of the draws: enough for what is only a forecast.</summary>
    public Outlook Thinned(int step) => new(this, step);

    /// <summary>For each draw the chance that a full coupon is clean, after so much more practice on each element.</summary>
    /// <param name="only">The elements that count; all of them when left out.</param>
    public double[] Chances(IReadOnlyList<double>? more = null, IReadOnlyList<bool>? only = null)
    {
        var risen = more?.Distinct().ToDictionary(coupons => coupons, Risen);
        Array.ForEach(against, day => Array.Fill(day, 1));
        for (var e = 0; e < elements; e++)
        {
            if (only?[e] == false)
            {
                continue;
            }

            if (risen is null)
            {
                TensorPrimitives.Negate(odds[e], element);
            }
            else
            {
                TensorPrimitives.FusedMultiplyAdd(left[e], risen[more![e]], odds[e], element);
                TensorPrimitives.Negate(element, element);
            }

            // 1 / chance = 1 + odds against, and a day multiplies those odds: no exponential of its own for each day.
            TensorPrimitives.Exp(element, element);
            for (var day = 0; day < against.Length; day++)
            {
                TensorPrimitives.FusedMultiplyAdd(element, dayOdds[day].Odds, 1, onDay);
                TensorPrimitives.Multiply(against[day], onDay, against[day]);
            }
        }

        var sum = new double[count];
        for (var day = 0; day < against.Length; day++)
        {
            TensorPrimitives.Divide(dayOdds[day].Share, against[day], onDay);
            TensorPrimitives.Add(sum, onDay, sum);
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
        var middle = Odds(ends[1]);
        Chance End(double end, double width) => Chance.Of(SpecialFunctions.Logistic(middle + (width * (Odds(end) - middle))));
        return new ChanceBand(
            Chance.Of(Math.Clamp(Mean(chances), 0, 1)),
            End(ends[0], Width),
            End(ends[2], Width + (UpwardsByOdds * Math.Max(0, middle)))
        );
    }

    /// <summary>The chance that each element is clean.</summary>
    public double[] ElementChances() =>
        [.. Enumerable.Range(0, elements).Select(e => Mean(Chances(only: [.. Enumerable.Range(0, elements).Select(other => other == e)])))];

    /// <summary>The share of what is left to gain that so many coupons bring, for each draw.</summary>
    private double[] Risen(double coupons)
    {
        var share = new double[count];
        TensorPrimitives.Divide(-coupons, paces, share);
        TensorPrimitives.Exp(share, share);
        TensorPrimitives.Subtract(1, share, share);
        return share;
    }

    /// <summary>One row of the state in every draw: its mean and the rows of standard normals that its covariance mixes.</summary>
    private static void Draw(Matrix<double> factor, int row, double mean, double[][] normals, Span<double> into)
    {
        into.Fill(mean);
        for (var column = 0; column <= row; column++)
        {
            TensorPrimitives.FusedMultiplyAdd(normals[column], factor[row, column], into, into);
        }
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
    private static double[][] StandardNormals(int dimensions)
    {
        var points = Matrix<double>.Build.DenseOfColumns(
            Enumerable.Range(0, DrawsEach).Select(index => EvenPoints.At(index, dimensions).Select(share => Normal.InvCDF(0, 1, share)))
        );
        var centred = Matrix<double>.Build.DenseOfRows(points.EnumerateRows().Select(row => row.Subtract(row.Average()).AsEnumerable()));
        return (centred * centred.Transpose() / DrawsEach).Cholesky().Factor.Solve(centred).ToRowArrays();
    }
}
