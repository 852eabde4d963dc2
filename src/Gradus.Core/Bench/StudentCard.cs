using Gradus.Core.Measure;
using MathNet.Numerics.Distributions;
using MathNet.Numerics.Integration;
using MathNet.Numerics.Statistics;

namespace Gradus.Core.Bench;

/// <summary>A pass of a student with its settings, and whether its stage came out clean.</summary>
public sealed record CardPass(double Amps, double? Volts, double? WireFeedMmPerMin, bool Clean);

/// <summary>The settings with which a student's passes of a stage came out clean: their medians, and of how many passes.</summary>
public sealed record CleanSettings(double Amps, double? Volts, double? WireFeedMmPerMin, int CleanPasses, int Passes);

/// <summary>How one way of doing it compares with another for a student.</summary>
/// <param name="ChanceBetter">Chance, 0 to 1, that the first is the better one; a half when nothing tells.</param>
public sealed record VariantComparison(
    string Group,
    string First,
    string Second,
    double ChanceBetter,
    int FirstClean,
    int FirstCoupons,
    int SecondClean,
    int SecondCoupons
);

/// <summary>What a student's own record says of settings and variants.</summary>
public static class StudentCard
{
    /// <summary>The settings of the clean passes; null when none was clean yet.</summary>
    public static CleanSettings? Of(IReadOnlyList<CardPass> passes)
    {
        var clean = passes.Where(pass => pass.Clean).ToList();
        return clean.Count == 0
            ? null
            : new CleanSettings(
                clean.Select(pass => pass.Amps).Median(),
                Middle(clean.Select(pass => pass.Volts)),
                Middle(clean.Select(pass => pass.WireFeedMmPerMin)),
                clean.Count,
                passes.Count
            );
    }

    /// <summary>
    /// The chance that the share of clean coupons is larger with the first way than with the second, both unknown, each with the Jeffreys prior:
    /// the integral of the first's density times the second's distribution.
    /// </summary>
    public static Chance ChanceBetter(int firstClean, int firstCoupons, int secondClean, int secondCoupons)
    {
        const double Prior = 0.5;
        const double Edge = 1e-12;
        var first = new Beta(firstClean + Prior, firstCoupons - firstClean + Prior);
        var second = new Beta(secondClean + Prior, secondCoupons - secondClean + Prior);

        // Over the first's quantiles instead of its density, which has poles at 0 and 1.
        var chance = DoubleExponentialTransformation.Integrate(
            share => second.CumulativeDistribution(first.InverseCumulativeDistribution(Math.Clamp(share, Edge, 1 - Edge))),
            0,
            1,
            1e-8
        );
        return Chance.Of(Math.Clamp(chance, 0, 1));
    }

    private static double? Middle(IEnumerable<double?> values)
    {
        var known = values.OfType<double>().ToList();
        return known.Count == 0 ? null : known.Median();
    }
}
