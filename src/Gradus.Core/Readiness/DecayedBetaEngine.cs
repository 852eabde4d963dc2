using Gradus.Core.Measure;
using MathNet.Numerics.Distributions;

namespace Gradus.Core.Readiness;

/// <summary>
/// The first form of readiness: each coupon counts as a success or a failure with a weight that halves with age and is less when aided; the
/// chance is Beta(½ + Σ clean weights, ½ + Σ other weights), that is with the Jeffreys prior (Jeffreys 1946; Brown, Cai and DasGupta 2001 for
/// the interval). It takes stages as independent of each other and knows no learning within the half-life: the full engine will.
/// </summary>
public sealed class DecayedBetaEngine : IReadinessEngine
{
    private const double Prior = 0.5;
    private static readonly Constants Defaults = CoreJson.ReadEmbedded<Constants>("Readiness/decayed-beta.json");

    /// <inheritdoc/>
    public ReadinessEstimate Evaluate(IReadOnlyList<string> elements, IReadOnlyList<CouponEvidence> coupons, double today)
    {
        var known = coupons.Where(coupon => coupon.Day <= today).ToList();
        var whole = Estimate(known.Where(coupon => coupon.Full).Select(coupon => (Weight(coupon, today), coupon.AllClean)));
        var each = elements.ToDictionary(
            element => element,
            element =>
                Estimate(known.Where(coupon => coupon.Clean.ContainsKey(element)).Select(coupon => (Weight(coupon, today), coupon.Clean[element]))),
            StringComparer.Ordinal
        );
        return new ReadinessEstimate(whole, each, Defaults.Method, Defaults.Version);
    }

    private static double Weight(CouponEvidence coupon, double today) =>
        Math.Pow(0.5, (today - coupon.Day) / Defaults.HalfLifeDays) * (coupon.Aided ? Defaults.AidedWeight : 1);

    private static ChanceEstimate Estimate(IEnumerable<(double Weight, bool Clean)> observations)
    {
        // Sorted before it is summed: the same evidence in another order gives the same bits.
        var all = observations.OrderBy(one => one.Weight).ThenBy(one => one.Clean).ToList();
        var clean = all.Where(one => one.Clean).Sum(one => one.Weight);
        var weight = all.Sum(one => one.Weight);
        var beta = new Beta(Prior + clean, Prior + all.Where(one => !one.Clean).Sum(one => one.Weight));
        var (lower, upper) = (beta.InverseCumulativeDistribution(0.05), beta.InverseCumulativeDistribution(0.95));
        return new ChanceEstimate(
            Chance.Of(beta.Mean),
            Chance.Of(Math.Clamp(lower, 0, 1)),
            Chance.Of(Math.Clamp(upper, 0, 1)),
            all.Count,
            all.Count(one => one.Clean),
            weight,
            weight < Defaults.LeastEffectiveCoupons || upper - lower > Defaults.WidestInterval
        );
    }

    private sealed record Constants(
        string Version,
        double HalfLifeDays,
        double AidedWeight,
        double LeastEffectiveCoupons,
        double WidestInterval,
        string Method,
        string Source
    );
}
