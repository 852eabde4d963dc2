using MathNet.Numerics.Distributions;

namespace Gradus.Core.Readiness;

/// <summary>One way in which the constants and this student's pace and forgetting may be, with the Gaussian state that follows if they are.</summary>
internal sealed class Hypothesis
{
    private static readonly int Width = System.Numerics.Vector<double>.Count;

    public Hypothesis(ReadinessConstants constants, double[] point)
    {
        double Doubted(double value, int axis) => value * Math.Exp(constants.Doubt * point[axis]);
        Pace = constants.PaceCoupons * Math.Exp(constants.PaceSpread * point[0]);
        ForgetDays = constants.ForgetDays * Math.Exp(constants.ForgetSpread * point[1]);
        DaySpread = Doubted(constants.DaySpread, 2);
        WanderPerCoupon = Doubted(constants.WanderPerCoupon, 3);
        WanderPerDay = Doubted(constants.WanderPerDay, 3);

        // How far students differ is in doubt too: some are further from the middle than a normal distribution has them.
        Scale = Math.Exp(2 * constants.Doubt * point[4]);
        Misread = Math.Min(constants.Misread * Math.Exp(constants.MisreadSpread * point[5]), ReadinessConstants.MostMisread);
        Size = Width;
        (Mean, Covariance) = (new double[Size], new double[Size * Size]);
    }

    private Hypothesis(Hypothesis other)
    {
        (Pace, ForgetDays, DaySpread, Scale, Misread) = (other.Pace, other.ForgetDays, other.DaySpread, other.Scale, other.Misread);
        (WanderPerCoupon, WanderPerDay, LogWeight, Surprise) = (other.WanderPerCoupon, other.WanderPerDay, other.LogWeight, other.Surprise);
        (Size, Practice, Mean, Covariance) = (other.Size, [.. other.Practice], [.. other.Mean], [.. other.Covariance]);
    }

    public double Pace { get; }
    public double ForgetDays { get; }
    public double DaySpread { get; }
    public double WanderPerCoupon { get; }
    public double WanderPerDay { get; }

    /// <summary>By how much the variances between students are over those of the constants.</summary>
    public double Scale { get; }

    /// <summary>How often an element is taken for what it is not, either way.</summary>
    public double Misread { get; }
    public double LogWeight { get; set; }

    /// <summary>By how much the latest coupons came out better (over 0) or worse than foretold: standard normal when all is as foretold.</summary>
    public double Surprise { get; set; }

    /// <summary>Coupons practised, by part, less what was forgotten.</summary>
    public List<double> Practice { get; } = [];

    /// <summary>Room in the state, a whole number of vectors.</summary>
    public int Size { get; private set; }

    /// <summary>Mean of the day's effect, then of the starts and gains as they were taken in.</summary>
    public double[] Mean { get; private set; }

    /// <summary>Their covariance, row by row.</summary>
    public double[] Covariance { get; private set; }

    public Hypothesis Copy() => new(this);

    /// <summary>Takes in one more number of the state.</summary>
    public void Take(int at, double mean, double spread)
    {
        if (at == Size)
        {
            Grow();
        }

        Mean[at] = mean;
        Covariance[(at * Size) + at] = Scale * spread * spread;
    }

    private void Grow()
    {
        var size = ((Size * 3 / 2) + Width - 1) / Width * Width;
        var (mean, covariance) = (new double[size], new double[size * size]);
        Mean.CopyTo(mean, 0);
        for (var row = 0; row < Size; row++)
        {
            Array.Copy(Covariance, row * Size, covariance, row * size, Size);
        }

        (Size, Mean, Covariance) = (size, mean, covariance);
    }
}

/// <summary>The fixed set of hypotheses: points of equal prior weight, normal in each axis, spread evenly.</summary>
internal static class HypothesisSet
{
    public const int Count = 12;
    private const int Axes = 6;

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

    private const double MostDoubt = 1.5;

    /// <param name="misread">How often clean is taken for rejected, and the other way round; 0 to 0.5.</param>
    /// <returns>Log of the chance of what was seen, by how much the mean moves, and the variance afterwards.</returns>
    public static (double LogChance, double ToMean, double ToVariance) Of(double mean, double variance, bool clean, double misread)
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
            var weight = Shares[point] * (misread + ((1 - (2 * misread)) * chances[point]));
            chance += weight;
            first += weight * Nodes[point];
            second += weight * Nodes[point] * Nodes[point];
        }

        chance = Math.Max(chance, double.Epsilon);
        var shift = first / chance;
        // What is far from foretold may as well be misread: the doubt can grow by it.
        var share = Math.Clamp((second / chance) - (shift * shift), 1e-6, MostDoubt);
        return (Math.Log(chance), spread * shift, variance * share);
    }

    /// <summary>A coupon that was not passed, looked at along one standard direction: each element's log-odds moves by its slope.</summary>
    /// <param name="sound">The chance, 0 to 1, that a clean one is sound inside.</param>
    /// <returns>The chance of that, by how much the mean moves, the variance afterwards (1 before), and the chance that all elements were clean.</returns>
    public static (double Chance, double ToMean, double ToVariance, double AllClean) NotAll(double[] means, double[] slopes, double sound)
    {
        var (chance, first, second, clean) = (0.0, 0.0, 0.0, 0.0);
        for (var point = 0; point < Nodes.Length; point++)
        {
            var all = 1.0;
            for (var element = 0; element < means.Length; element++)
            {
                all /= 1 + Math.Exp(-means[element] - (slopes[element] * Nodes[point]));
            }

            clean += Shares[point] * all;
            var weight = Shares[point] * (1 - (sound * all));
            chance += weight;
            first += weight * Nodes[point];
            second += weight * Nodes[point] * Nodes[point];
        }

        chance = Math.Max(chance, double.Epsilon);
        var shift = first / chance;
        return (chance, shift, Math.Clamp((second / chance) - (shift * shift), 1e-6, MostDoubt), clean);
    }
}
