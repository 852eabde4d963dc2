using Gradus.Core.Bench;
using Gradus.Core.Inspection;
using Gradus.Core.Readiness;

namespace Gradus.Core.Tests.Readiness;

/// <summary>What the gates of a decision read of the latest full coupons.</summary>
public sealed class RecentCouponTests
{
    private static readonly DateTimeOffset Now = new(2031, 3, 4, 12, 0, 0, TimeSpan.Zero);

    private static RecentCoupon Coupon(
        double daysAgo,
        bool clean = true,
        bool asTest = true,
        int tested = 0,
        int failed = 0,
        bool? fitUp = null,
        params SeenFault[] faults
    ) => new(Now.AddDays(-daysAgo), asTest, clean, tested, failed, fitUp, [.. faults]);

    private static DecisionFacts Facts(params RecentCoupon[] recent) => RecentCoupon.Facts(recent, TestPolicy.Defaults, Now, true, true);

    private static readonly SeenFault Undercut = new(DiscontinuityKind.Undercut, Stage.Cap, null, null, false);
    private static readonly SeenFault Slag = new(DiscontinuityKind.SlagInclusion, Stage.Fill, null, null, false);

    [Fact]
    public void Only_coupons_under_test_rules_within_the_policys_days_count_for_the_window()
    {
        var days = TestPolicy.Defaults.WithinDays;
        Assert.Equal(2, Facts(Coupon(days + 0.01), Coupon(days), Coupon(3, asTest: false), Coupon(1)).FullInWindow);
        Assert.Null(Facts(Coupon(3, asTest: false)).LastFullClean);
    }

    [Fact]
    public void A_run_is_counted_back_to_the_last_one_that_was_rejected_coached_ones_left_out()
    {
        Assert.Equal(2, Facts(Coupon(9), Coupon(8, clean: false), Coupon(7), Coupon(6, clean: false, asTest: false), Coupon(5)).CleanRun);
        Assert.Equal((0, false), Facts(Coupon(2), Coupon(1, clean: false)) is var facts ? (facts.CleanRun, facts.LastFullClean!.Value) : default);
    }

    [Fact]
    public void A_fault_is_repeated_when_all_of_the_last_three_were_rejected_for_it()
    {
        Assert.Equal(
            "undercut in the cap",
            Facts(Coupon(3, faults: [Undercut, Slag]), Coupon(2, faults: [Undercut]), Coupon(1, faults: [Undercut])).RepeatedFault
        );
        Assert.Null(
            Facts(
                Coupon(4, faults: [Undercut]),
                Coupon(3, faults: [Undercut]),
                Coupon(2, faults: [Slag]),
                Coupon(1, faults: [Undercut])
            ).RepeatedFault
        );
        Assert.Null(Facts(Coupon(2, faults: [Undercut]), Coupon(1, faults: [Undercut])).RepeatedFault);
    }

    [Fact]
    public void Coupons_that_were_cut_are_counted_once_however_many_specimens_failed()
    {
        var facts = Facts(Coupon(3, tested: 2, failed: 2), Coupon(2, tested: 4), Coupon(1));
        Assert.Equal((2, 1), (facts.DestructivelyTested, facts.DestructivelyFailed));
        Assert.True(Facts(Coupon(1, fitUp: true)).FitUpUnaided);
        Assert.False(Facts(Coupon(1, asTest: false, fitUp: true)).FitUpUnaided);
    }
}
