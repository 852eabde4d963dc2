using System.Text.Json.Serialization;
using Gradus.Core.Measure;
using Gradus.Core.Traces;
using MathNet.Numerics.Distributions;
using MathNet.Numerics.Integration;
using MathNet.Numerics.Statistics;

namespace Gradus.Core.Bench;

/// <summary>A pass of a student with its settings, and whether its stage came out clean.</summary>
/// <param name="Arc">What burnt, where it was measured.</param>
public sealed record CardPass(double Amps, double? Volts, double? WireFeedMmPerMin, bool Clean, BeadArc? Arc = null);

/// <summary>The settings with which a student's passes of a stage came out clean: their medians, and of how many passes.</summary>
/// <param name="AtArc">What burnt in those whose arc was measured; null where none was.</param>
public sealed record CleanSettings(
    double Amps,
    double? Volts,
    double? WireFeedMmPerMin,
    int CleanPasses,
    int Passes,
    [property: JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] ArcSettings? AtArc = null
);

/// <summary>What burnt at the arc of clean passes: medians.</summary>
/// <param name="OffShare">By which share the machine gives more than it was set to, less when negative; null while too few passes say it, or it is little.</param>
public sealed record ArcSettings(double Amps, double Volts, int Passes, double? OffShare);

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
    /// <param name="isWire">True where the volts are set and the current follows from the feed.</param>
    public static CleanSettings? Of(IReadOnlyList<CardPass> passes, bool isWire = false)
    {
        var clean = passes.Where(pass => pass.Clean).ToList();
        return clean.Count == 0
            ? null
            : new CleanSettings(
                clean.Select(pass => pass.Amps).Median(),
                Middle(clean.Select(pass => pass.Volts)),
                Middle(clean.Select(pass => pass.WireFeedMmPerMin)),
                clean.Count,
                passes.Count,
                AtArc(clean, isWire)
            );
    }

    private static ArcSettings? AtArc(List<CardPass> clean, bool isWire)
    {
        var measured = clean.Where(pass => pass.Arc is not null).ToList();
        if (measured.Count == 0)
        {
            return null;
        }

        var off = measured
            .Select(pass => isWire ? pass.Arc!.MeanVolts / pass.Volts : pass.Arc!.MeanAmps / pass.Amps)
            .OfType<double>()
            .Select(share => share - 1)
            .ToList();
        var isOff = off.Count >= TraceThresholds.Of("machineBeads") && Math.Abs(off.Median()) > TraceThresholds.Of("machineOff");
        return new ArcSettings(
            measured.Select(pass => pass.Arc!.MeanAmps).Median(),
            measured.Select(pass => pass.Arc!.MeanVolts).Median(),
            measured.Count,
            isOff ? off.Median() : null
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
