namespace Gradus.Core.Traces;

/// <summary>A stretch of samples, the last one not in it.</summary>
internal readonly record struct Samples(int From, int To)
{
    public int Count => To - From;
}

/// <summary>Sums over samples of which some are not known.</summary>
internal static class Signal
{
    private const double NormalMad = 0.6745; // of a normal distribution's standard deviation
    private const double SecondDifference = 6; // variance of one, in variances of the noise

    /// <summary>Each value as the mean of those around it; not known where none of them is.</summary>
    /// <param name="samples">How many go into one, made odd.</param>
    public static double[] Mean(IReadOnlyList<double> values, double samples)
    {
        var reach = Math.Max(0, (int)Math.Round((samples - 1) / 2, MidpointRounding.ToZero));
        var (sums, counts) = (new double[values.Count + 1], new int[values.Count + 1]);
        for (var at = 0; at < values.Count; at++)
        {
            var isKnown = !double.IsNaN(values[at]);
            sums[at + 1] = sums[at] + (isKnown ? values[at] : 0);
            counts[at + 1] = counts[at] + (isKnown ? 1 : 0);
        }

        var means = new double[values.Count];
        for (var at = 0; at < means.Length; at++)
        {
            var (from, to) = (Math.Max(0, at - reach), Math.Min(values.Count, at + reach + 1));
            var known = counts[to] - counts[from];
            means[at] = known == 0 || double.IsNaN(values[at]) ? double.NaN : (sums[to] - sums[from]) / known;
        }

        return means;
    }

    /// <summary>Each value as the middle one of those around it; not known where it is not.</summary>
    /// <param name="samples">How many are looked at for one, made odd.</param>
    public static double[] Medians(double[] values, double samples)
    {
        var reach = Math.Max(0, (int)Math.Round((samples - 1) / 2, MidpointRounding.ToZero));
        return
        [
            .. values.Select(
                (value, at) => double.IsNaN(value) ? value : Median(values[Math.Max(0, at - reach)..Math.Min(values.Length, at + reach + 1)])!.Value
            ),
        ];
    }

    /// <summary>Each value as the middle one of three: what stands alone goes, edges stay where they are.</summary>
    public static double[] MiddleOfThree(IReadOnlyList<double> values) =>
        [
            .. values.Select(
                (value, at) =>
                {
                    var (before, after) = (values[Math.Max(0, at - 1)], values[Math.Min(values.Count - 1, at + 1)]);
                    return double.IsNaN(before) || double.IsNaN(after)
                        ? value
                        : Math.Max(Math.Min(before, after), Math.Min(Math.Max(before, after), value));
                }
            ),
        ];

    /// <summary>The value under which a share of those that are known lies; null where none is.</summary>
    public static double? Quantile(IEnumerable<double> values, double share)
    {
        var known = values.Where(value => !double.IsNaN(value)).ToArray();
        if (known.Length == 0)
        {
            return null;
        }

        Array.Sort(known);
        var at = share * (known.Length - 1);
        var low = (int)at;
        return low + 1 == known.Length ? known[low] : known[low] + ((at - low) * (known[low + 1] - known[low]));
    }

    /// <summary>The middle one of those that are known; null where none is.</summary>
    public static double? Median(IEnumerable<double> values) => Quantile(values, 0.5);

    /// <summary>Mean of those that are known, and standard deviation; null with fewer than two.</summary>
    public static (double Mean, double Sd)? Spread(IEnumerable<double> values)
    {
        var known = values.Where(value => !double.IsNaN(value)).ToList();
        if (known.Count < 2)
        {
            return null;
        }

        var mean = known.Average();
        return (mean, Math.Sqrt(known.Sum(value => (value - mean) * (value - mean)) / (known.Count - 1)));
    }

    /// <summary>The noise of single samples, as a standard deviation: by second differences, which what goes slowly does not have.</summary>
    public static double Noise(IReadOnlyList<double> values)
    {
        var bends = Enumerable.Range(1, Math.Max(0, values.Count - 2)).Select(at => Math.Abs(values[at - 1] - (2 * values[at]) + values[at + 1]));
        return (Median(bends) ?? 0) / NormalMad / Math.Sqrt(SecondDifference);
    }

    /// <summary>The slope of values one step apart, as the median of the slopes between any two of them (Theil and Sen); null with fewer than two.</summary>
    public static double? Slope(IReadOnlyList<double> values) =>
        Median(
            from a in Enumerable.Range(0, values.Count)
            from b in Enumerable.Range(a + 1, values.Count - a - 1)
            select (values[b] - values[a]) / (b - a)
        );

    /// <summary>The stretches in which something holds; two that lie no further apart than <paramref name="join"/> samples are one.</summary>
    public static List<Samples> Stretches(Samples within, Func<int, bool> holds, double join = 0) =>
        Joined(Enumerable.Range(within.From, within.Count).Where(holds).Select(at => new Samples(at, at + 1)), join);

    /// <summary>Stretches in order, of which two that lie no further apart than <paramref name="join"/> samples are one.</summary>
    public static List<Samples> Joined(IEnumerable<Samples> stretches, double join)
    {
        var found = new List<Samples>();
        foreach (var one in stretches)
        {
            if (found.Count > 0 && one.From - found[^1].To <= join)
            {
                found[^1] = found[^1] with { To = one.To };
            }
            else
            {
                found.Add(one);
            }
        }

        return found;
    }
}
