using MathNet.Numerics.Distributions;

namespace Gradus.Core.Readiness;

/// <summary>One way in which the constants and this student's pace and forgetting may be, with the Gaussian state that follows if they are.</summary>
internal sealed class Hypothesis
{
    public Hypothesis(Element[] elements, ReadinessConstants constants, double[] point)
    {
        var size = SizeFor(elements.Length);
        double Doubted(double value, int axis) => value * Math.Exp(constants.Doubt * point[axis]);
        Pace = constants.PaceCoupons * Math.Exp(constants.PaceSpread * point[0]);
        ForgetDays = constants.ForgetDays * Math.Exp(constants.ForgetSpread * point[1]);
        DaySpread = Doubted(constants.DaySpread, 2);
        WanderPerCoupon = Doubted(constants.WanderPerCoupon, 3);
        WanderPerDay = Doubted(constants.WanderPerDay, 3);

        // How far students differ is in doubt too: some are further from the middle than a normal distribution has them.
        var scale = Math.Exp(2 * constants.Doubt * point[4]);
        Practice = new double[elements.Length];
        Mean = new double[size];
        Covariance = new double[size * size];
        var start = Math.Pow(constants.StartChance, 1.0 / elements.Length);
        var middling = Math.Log(start / (1 - start));
        var gain = elements.Length;
        Mean[gain] = constants.GainMean;
        Covariance[(gain * size) + gain] = scale * constants.GainSpread * constants.GainSpread;
        for (var row = 0; row < elements.Length; row++)
        {
            var one = elements[row];
            Mean[row] =
                middling + constants.Offsets.GetValueOrDefault(one.Stage) + (one.Zone is null ? 0 : constants.Offsets.GetValueOrDefault(one.Zone));
            for (var column = 0; column < elements.Length; column++)
            {
                Covariance[(row * size) + column] = scale * one.CovarianceWith(elements[column], constants);
            }

            Covariance[(row * size) + gain] = Covariance[(gain * size) + row] =
                scale * constants.GainWithStart * constants.GeneralSpread * constants.GainSpread;
        }
    }

    private Hypothesis(Hypothesis other)
    {
        (Pace, ForgetDays, DaySpread) = (other.Pace, other.ForgetDays, other.DaySpread);
        (WanderPerCoupon, WanderPerDay, LogWeight) = (other.WanderPerCoupon, other.WanderPerDay, other.LogWeight);
        (Practice, Mean, Covariance) = ([.. other.Practice], [.. other.Mean], [.. other.Covariance]);
    }

    /// <summary>Length of the state: the starts, the gain and the day's effect, padded to whole vectors.</summary>
    public static int SizeFor(int elements)
    {
        var width = System.Numerics.Vector<double>.Count;
        return (elements + 2 + width - 1) / width * width;
    }

    public double Pace { get; }
    public double ForgetDays { get; }
    public double DaySpread { get; }
    public double WanderPerCoupon { get; }
    public double WanderPerDay { get; }
    public double LogWeight { get; set; }

    /// <summary>Coupons practised, by element, less what was forgotten.</summary>
    public double[] Practice { get; }

    /// <summary>Mean of the starts, the gain, and the day's effect.</summary>
    public double[] Mean { get; }

    /// <summary>Their covariance, row by row.</summary>
    public double[] Covariance { get; }

    public Hypothesis Copy() => new(this);
}

/// <summary>The fixed set of hypotheses: points of equal prior weight, normal in each axis, spread evenly.</summary>
internal static class HypothesisSet
{
    public const int Count = 24;
    private const int Axes = 5;

    public static IReadOnlyList<double[]> Points { get; } =
    [.. Enumerable.Range(0, Count).Select(index => EvenPoints.At(index, Axes).Select(share => Normal.InvCDF(0, 1, share)).ToArray())];
}

/// <summary>Points that fill the unit cube evenly, always the same ones: the additive recurrence on the powers of the generalised golden ratio.</summary>
internal static class EvenPoints
{
    /// <summary>A point of the sequence; each coordinate is over 0 and under 1.</summary>
    public static double[] At(int index, int dimensions)
    {
        // The root over 1 of x^(d+1) = x + 1.
        var ratio = 2.0;
        for (var step = 0; step < 64; step++)
        {
            ratio = Math.Pow(1 + ratio, 1.0 / (dimensions + 1));
        }

        return
        [
            .. Enumerable
                .Range(1, dimensions)
                .Select(axis => (0.5 + ((index + 1) * Math.Pow(1 / ratio, axis))) % 1)
                .Select(share => Math.Clamp(share, 1e-9, 1 - 1e-9)),
        ];
    }
}

/// <summary>A Gaussian log-odds that is seen once as clean or not: the chance of that, and the moments afterwards.</summary>
internal static class LogisticMoments
{
    // Gauss-Hermite nodes and weights for the standard normal, 7 points (Abramowitz and Stegun, table 25.10, scaled by sqrt 2 and 1/sqrt pi).
    private static readonly double[] Nodes =
    [
        -3.750439717725742,
        -2.366759410734541,
        -1.154405394739968,
        0,
        1.154405394739968,
        2.366759410734541,
        3.750439717725742,
    ];
    private static readonly double[] Shares =
    [
        5.482688559722178e-4,
        3.075712396758650e-2,
        2.401231786050127e-1,
        4.571428571428571e-1,
        2.401231786050127e-1,
        3.075712396758650e-2,
        5.482688559722178e-4,
    ];

    /// <returns>Log of the chance of what was seen, by how much the mean moves, and the variance afterwards.</returns>
    public static (double LogChance, double ToMean, double ToVariance) Of(double mean, double variance, bool clean)
    {
        var spread = Math.Sqrt(variance);
        Span<double> chances = stackalloc double[7];
        for (var point = 0; point < Nodes.Length; point++)
        {
            chances[point] = clean ? mean + (spread * Nodes[point]) : -mean - (spread * Nodes[point]);
        }

        System.Numerics.Tensors.TensorPrimitives.Sigmoid(chances, chances);
        var (chance, first, second) = (0.0, 0.0, 0.0);
        for (var point = 0; point < Nodes.Length; point++)
        {
            var weight = Shares[point] * chances[point];
            chance += weight;
            first += weight * Nodes[point];
            second += weight * Nodes[point] * Nodes[point];
        }

        chance = Math.Max(chance, double.Epsilon);
        var shift = first / chance;
        var share = Math.Clamp((second / chance) - (shift * shift), 1e-6, 1);
        return (Math.Log(chance), spread * shift, variance * share);
    }
}
