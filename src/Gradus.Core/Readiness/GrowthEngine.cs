using Gradus.Core.Measure;

namespace Gradus.Core.Readiness;

/// <summary>A chance with its 90 % interval.</summary>
public sealed record ChanceBand(Chance Mean, Chance Lower, Chance Upper);

/// <summary>The readiness of a student by the growth model, with what it was right after each coupon.</summary>
/// <param name="Whole">The chance that a full coupon made now is clean.</param>
/// <param name="Elements">The chance of each element of the test, in its order.</param>
/// <param name="Trace">The whole chance right after each coupon, in the order of the days.</param>
public sealed record GrowthEstimate(ChanceBand Whole, IReadOnlyList<Chance> Elements, IReadOnlyList<ChanceBand> Trace);

/// <summary>Readiness by the growth model; see docs/readiness.md for the model in words and in formulas. Pure.</summary>
public static class GrowthEngine
{
    /// <summary>The readiness on a day, from the coupons up to then. The order in which they are given does not matter.</summary>
    /// <param name="elements">The elements of the test: at least one, none twice.</param>
    /// <param name="withTrace">Whether the trace is wanted; without it the answer comes faster and the trace is empty.</param>
    public static GrowthEstimate Evaluate(
        IReadOnlyList<string> elements,
        IReadOnlyList<CouponEvidence> coupons,
        double today,
        ReadinessConstants constants,
        bool withTrace = true
    )
    {
        var filter = new GrowthFilter(elements, constants);
        var trace = new List<ChanceBand>();
        foreach (var coupon in InOrder(coupons).Where(coupon => coupon.Day <= today))
        {
            Fold(filter, coupon);
            if (withTrace)
            {
                trace.Add(Now(filter));
            }
        }

        filter.Advance(today);
        var outlook = new Outlook(filter);
        return new GrowthEstimate(outlook.Band(outlook.Chances()), [.. outlook.ElementChances().Select(Chance.Of)], trace);
    }

    /// <summary>Log of the chance that the model foretold for the outcomes of each coupon, summed: the one-step-ahead log score.</summary>
    public static double LogScore(IReadOnlyList<string> elements, IReadOnlyList<CouponEvidence> coupons, ReadinessConstants constants, int hypotheses)
    {
        var filter = new GrowthFilter(elements, constants, hypotheses);
        return InOrder(coupons).Sum(coupon => Fold(filter, coupon));
    }

    internal static double Fold(GrowthFilter filter, CouponEvidence coupon)
    {
        filter.Advance(coupon.Day);
        var observed = coupon
            .Clean.Select(one => (Element: filter.IndexOf(one.Key), Clean: one.Value))
            .Where(one => one.Element >= 0)
            .OrderBy(one => one.Element)
            .ToList();
        return filter.Observe(observed, coupon.Aided);
    }

    /// <summary>By day; coupons of one moment by what they hold, so that the order of writing does not matter.</summary>
    internal static IEnumerable<CouponEvidence> InOrder(IEnumerable<CouponEvidence> coupons) =>
        coupons
            .OrderBy(coupon => coupon.Day)
            .ThenBy(coupon => coupon.Aided)
            .ThenBy(
                coupon => string.Join(' ', coupon.Clean.OrderBy(one => one.Key, StringComparer.Ordinal).Select(one => $"{one.Key}={one.Value}")),
                StringComparer.Ordinal
            );

    internal static ChanceBand Now(GrowthFilter filter)
    {
        var outlook = new Outlook(filter);
        return outlook.Band(outlook.Chances());
    }
}
