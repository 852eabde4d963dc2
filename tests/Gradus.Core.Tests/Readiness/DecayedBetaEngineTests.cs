using CsCheck;
using Gradus.Core.Readiness;
using MathNet.Numerics.Integration;

namespace Gradus.Core.Tests.Readiness;

public class DecayedBetaEngineTests
{
    private static readonly DecayedBetaEngine Engine = new();

    private static CouponEvidence Coupon(double day, bool clean, bool full = true, bool aided = false) =>
        new(day, full, aided, new Dictionary<string, bool> { ["root"] = clean, ["cap"] = true });

    private static ReadinessEstimate Evaluate(double today, params CouponEvidence[] coupons) => Engine.Evaluate(["root", "cap"], coupons, today);

    // Reference: the Jeffreys posterior of x clean in n, its mass below a limit found by numerical quadrature of the density p^(x-1/2) (1-p)^(n-x-1/2).
    [Theory]
    [InlineData(5, 10)]
    [InlineData(2, 7)]
    [InlineData(9, 12)]
    public void Fresh_coupons_give_the_jeffreys_interval_with_5_percent_on_either_side(int clean, int all)
    {
        var whole = Evaluate(0, [.. Enumerable.Range(0, all).Select(index => Coupon(0, index < clean))]).Whole;
        double Density(double p) => Math.Pow(p, clean - 0.5) * Math.Pow(1 - p, all - clean - 0.5);
        double Mass(double from, double to) => DoubleExponentialTransformation.Integrate(Density, from, to, 1e-10);
        var total = Mass(0, 1);
        Assert.Equal(0.05, Mass(0, whole.Lower.Value) / total, 6);
        Assert.Equal(0.05, Mass(whole.Upper.Value, 1) / total, 6);
        Assert.Equal((clean + 0.5) / (all + 1), whole.Mean.Value, 12);
    }

    [Fact]
    public void Without_evidence_it_is_too_little_to_tell() => Assert.True(Evaluate(0).Whole.TooLittleToTell);

    [Fact]
    public void One_clean_coupon_is_too_little_and_ten_are_not()
    {
        Assert.True(Evaluate(0, Coupon(0, true)).Whole.TooLittleToTell);
        Assert.False(Evaluate(0, [.. Enumerable.Range(0, 10).Select(_ => Coupon(0, true))]).Whole.TooLittleToTell);
    }

    [Fact]
    public void A_year_later_the_same_coupons_are_too_little() =>
        Assert.True(Evaluate(365, [.. Enumerable.Range(0, 10).Select(_ => Coupon(0, true))]).Whole.TooLittleToTell);

    [Fact]
    public void A_drill_counts_for_its_stage_and_not_for_the_whole()
    {
        var estimate = Evaluate(0, Coupon(0, true, full: false));
        Assert.Equal((0, 1), (estimate.Whole.Coupons, estimate.Elements["root"].Coupons));
    }

    [Fact]
    public void A_coached_coupon_says_less() =>
        Assert.True(Evaluate(0, Coupon(0, true, aided: true)).Whole.EffectiveCoupons < Evaluate(0, Coupon(0, true)).Whole.EffectiveCoupons);

    private static readonly Gen<CouponEvidence> AnyCoupon = Gen.Select(Gen.Double[0, 100], Gen.Bool, Gen.Bool, Gen.Bool)
        .Select((day, clean, full, aided) => Coupon(day, clean, full, aided));

    [Fact]
    public void The_order_of_evidence_changes_nothing_to_the_bit() =>
        AnyCoupon.Array[0, 20].Sample(coupons => Evaluate(101, coupons).Whole == Evaluate(101, [.. coupons.Reverse()]).Whole);

    [Fact]
    public void A_clean_coupon_never_lowers_the_chance_and_a_rejected_one_never_raises_it() =>
        AnyCoupon
            .Array[0, 20]
            .Sample(coupons =>
            {
                var before = Evaluate(101, coupons).Whole.Mean.Value;
                return Evaluate(101, [.. coupons, Coupon(101, true)]).Whole.Mean.Value >= before
                    && Evaluate(101, [.. coupons, Coupon(101, false)]).Whole.Mean.Value <= before;
            });
}
