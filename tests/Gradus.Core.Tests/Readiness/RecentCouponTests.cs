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

    private static DecisionFacts Facts(params RecentCoupon[] recent) =>
        RecentCoupon.Facts(recent, recent.Length, TestPolicy.Defaults, Now, true, true);

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
    public void Of_the_coupons_that_were_cut_the_latest_counts()
    {
        Assert.True(Facts(Coupon(3, tested: 2, failed: 2), Coupon(2, tested: 4), Coupon(1)).LatestCutSound);
        Assert.False(Facts(Coupon(3, tested: 4), Coupon(2, tested: 4, failed: 1), Coupon(1)).LatestCutSound);
        Assert.Null(Facts(Coupon(1)).LatestCutSound);
    }

    [Fact]
    public void The_fault_that_came_most_is_told_with_its_counts_once_it_came_twice()
    {
        Assert.Equal(
            new CommonFault("slag inclusion in the fill", 2, 4),
            Facts(Coupon(4, faults: [Slag, Slag]), Coupon(3, faults: [Undercut]), Coupon(2, faults: [Slag]), Coupon(1)).Common
        );
        Assert.Null(Facts(Coupon(2, faults: [Slag, Slag]), Coupon(1, faults: [Undercut])).Common);
    }

    [Fact]
    public void What_was_made_and_signed_before_a_sitting_does_not_answer_it()
    {
        var sat = new SatBefore(new DateOnly(2031, 3, 1), false, "", Now.AddDays(-2.5));
        DecisionFacts After(double? signedDaysAgo, params RecentCoupon[] recent) =>
            RecentCoupon.Facts(
                recent,
                recent.Length,
                TestPolicy.Defaults,
                Now,
                true,
                true,
                sat,
                signedDaysAgo is { } days ? Now.AddDays(-days) : null
            );
        Assert.Equal(1, After(null, Coupon(3), Coupon(2), Coupon(1, clean: false), Coupon(0.5, asTest: false)).CleanSinceSitting);
        Assert.Equal((true, false), After(3) is var before ? (before.SignedTestNow, before.SignedSinceSitting) : default);
        Assert.True(After(1).SignedSinceSitting);
    }

    [Fact]
    public void A_fit_up_counts_that_was_made_without_help()
    {
        Assert.True(Facts(Coupon(1, fitUp: true)).FitUpUnaided);
        Assert.False(Facts(Coupon(1, asTest: false, fitUp: true)).FitUpUnaided);
    }
}
