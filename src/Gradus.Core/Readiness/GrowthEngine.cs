using Gradus.Core.Measure;

namespace Gradus.Core.Readiness;

/// <summary>A chance with its 90 % interval.</summary>
public sealed record ChanceBand(Chance Mean, Chance Lower, Chance Upper)
{
    /// <summary>The chance that both come true. What is not known of the one has nothing to do with the other, so the distances of the ends, in logarithms, add up in squares.</summary>
    public ChanceBand And(ChanceBand other)
    {
        var mean = Mean.Value * other.Mean.Value;
        double Far(double one, double two) => mean == 0 ? 0 : Math.Sqrt((one * one) + (two * two));
        double Below(ChanceBand band) => Math.Log(band.Mean.Value / Math.Max(band.Lower.Value, double.Epsilon));
        double Above(ChanceBand band) => Math.Log(band.Upper.Value / band.Mean.Value);
        var upper = mean * Math.Exp(Far(Above(this), Above(other)));
        return new(
            Chance.Of(mean),
            Chance.Of(mean * Math.Exp(-Far(Below(this), Below(other)))),
            Chance.Of(Math.Clamp(upper, mean, Math.Max(mean, Math.Min(Upper.Value, other.Upper.Value))))
        );
    }
}

/// <summary>The readiness of a student by the growth model, with what it was right after each coupon.</summary>
/// <param name="Whole">The chance that a full coupon made now is clean.</param>
/// <param name="Elements">The chance of each element of the test, in its order.</param>
/// <param name="Trace">The whole chance right after each coupon, in the order of the days.</param>
/// <param name="Passing">The chance that such a coupon passes everything: clean, and sound where it is cut open.</param>
public sealed record GrowthEstimate(ChanceBand Whole, IReadOnlyList<Chance> Elements, IReadOnlyList<ChanceBand> Trace, ChanceBand Passing);

/// <summary>What a student made on one test.</summary>
public sealed record TestHistory(SkillTest Test, IReadOnlyList<CouponEvidence> Coupons);

/// <summary>Readiness by the growth model; see docs/readiness.md for the model in words and in formulas. Pure.</summary>
public static class GrowthEngine
{
    /// <summary>The readiness on a day, from the coupons up to then. The order in which they are given does not matter.</summary>
    /// <param name="withTrace">Whether the trace is wanted; without it the answer comes faster and the trace is empty.</param>
    /// <param name="earlier">Coupons of the student on other tests: they tell of what those have in common with the asked one.</param>
    public static GrowthEstimate Evaluate(
        SkillTest asked,
        IReadOnlyList<CouponEvidence> coupons,
        double today,
        ReadinessConstants constants,
        bool withTrace = true,
        IReadOnlyList<TestHistory>? earlier = null,
        CancellationToken cancel = default
    )
    {
        var filter = new SkillFilter(constants);
        var inside = new InsideBelief();
        var trace = new List<ChanceBand>();
        foreach (var (test, coupon) in InOrder([.. earlier ?? [], new TestHistory(asked, coupons)]).Where(one => one.Coupon.Day <= today))
        {
            cancel.ThrowIfCancellationRequested();
            Fold(filter, inside, test, coupon);
            if (withTrace && test == asked)
            {
                trace.Add(Now(filter, asked));
            }
        }

        filter.Advance(today);
        var outlook = new Outlook(filter, asked);
        var whole = outlook.Band(outlook.Chances());
        return new GrowthEstimate(whole, [.. outlook.ElementChances().Select(Chance.Of)], trace, whole.And(inside.Of(asked)));
    }

    /// <summary>Log of the chance that the model foretold for the outcomes of each coupon, summed: the one-step-ahead log score.</summary>
    public static double LogScore(IReadOnlyList<TestHistory> histories, ReadinessConstants constants, int hypotheses)
    {
        var filter = new SkillFilter(constants, hypotheses);
        var inside = new InsideBelief();
        return InOrder(histories).Sum(one => Fold(filter, inside, one.Test, one.Coupon));
    }

    /// <summary>Folds a coupon in; answers the logarithm of the chance that was foretold for what it showed by eye, or for a sitting's result.</summary>
    internal static double Fold(SkillFilter filter, InsideBelief inside, SkillTest test, CouponEvidence coupon)
    {
        filter.AdvanceToCoupon(coupon.Day);
        if (coupon.SittingPassed is { } passed)
        {
            return FoldSitting(filter, inside, test, passed, coupon.Trust);
        }

        if (coupon.Inside is { } isSound)
        {
            inside.See(test, isSound ? 1 : 0, isSound ? 0 : 1);
        }

        var observed = test
            .Elements.Index()
            .Where(one => coupon.Clean.ContainsKey(one.Item))
            .Select(one => (one.Index, coupon.Clean[one.Item]))
            .ToList();
        return filter.Observe(test, observed, coupon.Aided, coupon.Trust);
    }

    // A sitting is a full coupon, unaided, under the rules, that is seen inside too. When it was passed all of that was in order; when it was
    // failed something was not, and by how likely each was, both are blamed.
    private static double FoldSitting(SkillFilter filter, InsideBelief inside, SkillTest test, bool passed, double trust)
    {
        if (passed)
        {
            inside.See(test, trust, 0);
            return filter.Observe(test, [.. test.Elements.Select((_, index) => (index, true))], aided: false, trust);
        }

        var sound = inside.Of(test).Mean.Value;
        var (foretold, clean) = filter.ObserveNotAllClean(test, sound);
        var hidden = clean * (1 - sound) / (1 - (clean * sound));
        inside.See(test, 0, hidden);
        return foretold;
    }

    /// <summary>By day; coupons of one moment by test and by what they hold, so that the order of writing does not matter.</summary>
    internal static IEnumerable<(SkillTest Test, CouponEvidence Coupon)> InOrder(IReadOnlyList<TestHistory> histories) =>
        histories
            .SelectMany(history => history.Coupons.Select(coupon => (history.Test, Coupon: coupon)))
            .OrderBy(one => one.Coupon.Day)
            .ThenBy(one => one.Test.Id, StringComparer.Ordinal)
            .ThenBy(one => one.Coupon.Aided)
            .ThenBy(one => one.Coupon.Inside)
            .ThenBy(one => one.Coupon.SittingPassed)
            .ThenBy(one => one.Coupon.Trust)
            .ThenBy(one => one.Coupon.Clean.Values.Count(clean => clean)) // so that a better coupon never moves behind a worse one
            .ThenBy(
                one =>
                    string.Join(' ', one.Coupon.Clean.OrderBy(seen => seen.Key, StringComparer.Ordinal).Select(seen => $"{seen.Key}={seen.Value}")),
                StringComparer.Ordinal
            );

    internal static ChanceBand Now(SkillFilter filter, SkillTest test)
    {
        var outlook = new Outlook(filter, test);
        return outlook.Band(outlook.Chances());
    }
}
