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

    // The parts of the test by their number in the filter: what is left to gain on each, and which each element has.
    private readonly Dictionary<int, double[]> left = [];
    private readonly int[][] partsOf;

    // Of each hypothesis that is drawn: its pace, its forgetting, and by part what was practised.
    private readonly (double Pace, double ForgetDays, IReadOnlyList<double> Practice)[] ways;

    // What each kind of day multiplies the odds against by, and how often such a day is.
    private readonly (double[] Odds, double Share)[] dayOdds;

    // How much each draw counts; they add up to 1.
    private readonly double[] weights;

    // Used again and again while chances are worked out: by day, of one element, and of one element on one day.
    private readonly double[][] against;
    private readonly double[] element;
    private readonly double[] onDay;

    /// <param name="withGains">Whether it is to be asked what more practice would bring; that costs more.</param>
    public Outlook(SkillFilter filter, SkillTest test, bool withGains = false)
    {
        var rows = filter.Begin(test);
        partsOf = rows.Of;
        elements = partsOf.Length;
        var live = Live(filter);
        count = live.Count * DrawsEach;
        odds = [.. Enumerable.Range(0, elements).Select(_ => new double[count])];
        dayOdds = [.. Days.Select(day => (new double[count], day.Share))];
        weights = new double[count];
        ways = [.. live.Select(one => (one.One.Pace, one.One.ForgetDays, (IReadOnlyList<double>)[.. one.One.Practice]))];
        int[] gains = [.. rows.Counts.Select(part => filter.Parts[part.Part].Gain).Distinct()];
        var normals = Normals.GetOrAdd(elements + gains.Length, StandardNormals);
        var drawn = gains.Select(_ => new double[withGains ? count : 0]).ToArray();
        var open = rows.Counts.ToDictionary(part => part.Part, _ => new double[withGains ? count : 0]);
        var risen = new double[filter.Parts.Count];

        // Each row is a sum of numbers of the state: the log-odds of the elements, then the gains. How often each counts is another matter.
        (int At, int Risen)[][] sums =
        [
            .. partsOf.Select(of => of.SelectMany(part => new[] { (filter.Parts[part].Start, -1), (filter.Parts[part].Gain, part) }).ToArray()),
            .. gains.Take(withGains ? gains.Length : 0).Select(gain => new[] { (gain, -1) }),
        ];
        foreach (var (index, (one, weight)) in live.Index())
        {
            var at = index * DrawsEach;
            foreach (var (day, (node, _)) in Days.Index())
            {
                Array.Fill(dayOdds[day].Odds, Math.Exp(-one.DaySpread * node), at, DrawsEach);
            }

            Array.Fill(weights, weight / DrawsEach, at, DrawsEach);
            SkillFilter.Risen(one, rows, risen);

            var (means, covariance) = Of(one, sums, risen);
            var factor = covariance.Cholesky().Factor;
            for (var row = 0; row < sums.Length; row++)
            {
                Draw(factor, row, means[row], normals, (row < elements ? odds[row] : drawn[row - elements]).AsSpan(at, DrawsEach));
            }

            foreach (var (part, toGain) in withGains ? open : [])
            {
                Array.Fill(toGain, 1 - risen[part], at, DrawsEach);
            }
        }

        foreach (var (part, toGain) in withGains ? open : [])
        {
            TensorPrimitives.Multiply(toGain, drawn[Array.IndexOf(gains, filter.Parts[part].Gain)], toGain);
            left[part] = toGain;
        }

        (against, element, onDay) = Scratch();
    }

    private Outlook(Outlook all, int step)
    {
        double[] Every(double[] values) => [.. values.Where((_, draw) => draw % step == 0)];
        (elements, partsOf, ways) = (all.elements, all.partsOf, all.ways);
        odds = [.. all.odds.Select(Every)];
        left = all.left.ToDictionary(part => part.Key, part => Every(part.Value));
        dayOdds = [.. all.dayOdds.Select(day => (Every(day.Odds), day.Share))];
        var kept = Every(all.weights);
        count = kept.Length;
        weights = [.. kept.Select(weight => weight / kept.Sum())];
        (against, element, onDay) = Scratch();
    }

    private (double[][], double[], double[]) Scratch() => ([.. Days.Select(_ => new double[count])], new double[count], new double[count]);

    /// <summary>Every so many of the draws: enough for what is only a forecast.</summary>
    public Outlook Thinned(int step) => new(this, step);

    /// <summary>For each draw the chance that a full coupon is clean, after so much more practice.</summary>
    /// <param name="each">What one time adds to the practice of each part of the filter.</param>
    /// <param name="times">How many times; 0 or more.</param>
    /// <param name="gap">Days before each, in which practice is forgotten.</param>
    /// <param name="only">The elements that count; all of them when left out.</param>
    public double[] Chances(double[]? each = null, int times = 1, double gap = 0, IReadOnlyList<bool>? only = null)
    {
        var brings = each is null || times == 0 ? [] : Brings(each, times, gap);
        Array.ForEach(against, day => Array.Fill(day, 1));
        for (var e = 0; e < elements; e++)
        {
            if (only?[e] == false)
            {
                continue;
            }

            TensorPrimitives.Negate(odds[e], element);
            foreach (var part in partsOf[e])
            {
                if (brings.TryGetValue(part, out var brought))
                {
                    TensorPrimitives.Subtract(element, brought, element);
                }
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

    /// <summary>The draws in so many groups of the same weight, from those that go worst to those that go best; of each group the mean at every step.</summary>
    public IReadOnlyList<double[]> Ways(List<double[]> steps, int groups)
    {
        var order = Enumerable.Range(0, count).OrderBy(draw => steps.Sum(chances => chances[draw])).ToList();
        var ways = Enumerable.Range(0, groups).Select(_ => new double[steps.Count]).ToList();
        var (below, share) = (0.0, 1.0 / groups);
        foreach (var draw in order)
        {
            // A draw that lies across the edge of two groups counts in both.
            var (from, to) = (below, below + weights[draw]);
            for (var group = Math.Min(groups - 1, (int)(from / share)); group < groups && group * share < to; group++)
            {
                var part = Math.Min(to, (group + 1) * share) - Math.Max(from, group * share);
                for (var step = 0; step < steps.Count && part > 0; step++)
                {
                    ways[group][step] += steps[step][draw] * part / share;
                }
            }

            below = to;
        }

        return ways;
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

    /// <summary>What so much practice adds to the log-odds of each part, for each draw.</summary>
    private Dictionary<int, double[]> Brings(double[] each, int times, double gap)
    {
        var brings = new Dictionary<int, double[]>();
        var draws = count / ways.Length;
        foreach (var (part, open) in left.Where(one => each[one.Key] > 0 || gap > 0))
        {
            var share = brings[part] = new double[count];
            foreach (var (index, (pace, forgetDays, practice)) in ways.Index())
            {
                // After each gap a part is kept, and one more is added.
                var keptEach = Math.Exp(-gap / forgetDays);
                var kept = Math.Pow(keptEach, times);
                var added = gap > 0 ? (1 - kept) / (1 - keptEach) : times;
                var more = (practice[part] * (kept - 1)) + (each[part] * added);
                share.AsSpan(index * draws, draws).Fill(1 - Math.Exp(-more / pace));
            }

            TensorPrimitives.Multiply(open, share, share);
        }

        return brings;
    }

    /// <summary>Mean and covariance of some sums of numbers of the state, each counted once or by how much of its part has risen.</summary>
    private static (double[] Means, Matrix<double> Covariance) Of(Hypothesis one, (int At, int Risen)[][] sums, double[] risen)
    {
        var means = new double[sums.Length];
        var covariance = Matrix<double>.Build.Dense(sums.Length, sums.Length);
        var with = new double[one.Size];
        for (var row = 0; row < sums.Length; row++)
        {
            Array.Clear(with);
            foreach (var (at, part) in sums[row])
            {
                var times = part < 0 ? 1 : risen[part];
                means[row] += times * one.Mean[at];
                TensorPrimitives.MultiplyAdd(one.Covariance.AsSpan(at * one.Size, one.Size), times, with, with);
            }

            for (var column = 0; column <= row; column++)
            {
                var sum = row == column ? Jitter : 0;
                foreach (var (at, part) in sums[column])
                {
                    sum += (part < 0 ? 1 : risen[part]) * with[at];
                }

                covariance[row, column] = covariance[column, row] = sum;
            }
        }

        return (means, covariance);
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
    private static List<(Hypothesis One, double Weight)> Live(SkillFilter filter)
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
