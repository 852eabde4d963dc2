using Gradus.Core.Readiness;

namespace Gradus.Core.Tests.Readiness;

public class DecisionAdviceTests
{
    private static readonly string[] Plate = ["root", "fill", "cap"];
    private static readonly DecisionFacts AllMet = new(true, 5, true, 5, 3, 0, null, true, true);

    private static Standing After(int coupons, bool clean)
    {
        var test = new SkillTest("asked", null, Plate);
        var state = ReadinessState.New(ReadinessConstants.Defaults);
        for (var index = 0; index < coupons; index++)
        {
            state.Fold(test, new CouponEvidence(index, true, false, Plate.ToDictionary(name => name, _ => clean)));
        }

        return state.On(test, coupons, 0.8);
    }

    private static Advice Of(Standing standing, DecisionFacts facts, TestPolicy? policy = null) =>
        DecisionAdvice.Of(policy ?? TestPolicy.Defaults, standing, facts);

    [Fact]
    public void Ready_and_all_gates_met_is_test_now() => Assert.Equal(Advised.TestNow, Of(After(40, true), AllMet).Kind);

    public static TheoryData<string> Gates =>
        ["canJudge", "leastFullCoupons", "lastClean", "destructive", "noRepeatedFault", "fitUpUnaided", "safetySignOff"];

    [Theory]
    [MemberData(nameof(Gates))]
    public void It_never_says_ready_with_a_gate_unmet(string gate)
    {
        var facts = gate switch
        {
            "canJudge" => AllMet with { CanJudge = false },
            "leastFullCoupons" => AllMet with { FullInWindow = 1 },
            "lastClean" => AllMet with { LastFullClean = null },
            "destructive" => AllMet with { DestructivelyTested = 0 },
            "noRepeatedFault" => AllMet with { RepeatedFault = "undercut in the cap" },
            "fitUpUnaided" => AllMet with { FitUpUnaided = false },
            _ => AllMet with { SafetySignedOff = false },
        };
        var advice = Of(After(40, true), facts);
        Assert.Equal(Advised.Hold, advice.Kind);
        Assert.Equal([gate], advice.Gates.Where(one => !one.Met).Select(one => one.Id));
        Assert.Contains(advice.Reasons, reason => reason.StartsWith("Not met yet", StringComparison.Ordinal));
    }

    [Fact]
    public void Under_the_bar_it_says_how_many_more_and_what_they_do()
    {
        var advice = Of(After(4, true), AllMet);
        Assert.Equal(Advised.Practise, advice.Kind);
        Assert.InRange(advice.Coupons, 1, 12);
        Assert.True(advice.Ahead[advice.Coupons].Chance > advice.Ahead[0].Chance);
        Assert.NotEmpty(advice.WouldChange);
    }

    [Fact]
    public void A_school_that_counts_a_run_asks_for_the_run()
    {
        var policy = TestPolicy.Defaults with { School = ReadinessSchool.RunOfClean, RunLength = 3 };
        Assert.Equal(Advised.TestNow, Of(After(2, true), AllMet with { CleanRun = 3 }, policy).Kind);
        var short1 = Of(After(2, true), AllMet with { CleanRun = 2 }, policy);
        Assert.Equal((Advised.Practise, 1), (short1.Kind, short1.Coupons));
    }

    // Success run theorem: 22 of 22 show a reliability of 0.90 with 90 % confidence, 1 of 1 only 0.10 (standard tables of reliability testing).
    [Theory]
    [InlineData(1, 0.100)]
    [InlineData(3, 0.464)]
    [InlineData(5, 0.631)]
    [InlineData(22, 0.901)]
    public void A_run_shows_what_the_success_run_theorem_says(int clean, double reliability) =>
        Assert.Equal(reliability, DecisionAdvice.RunOf(clean).Reliability90, 0.001);

    // Brown, Cai and DasGupta 2001, table 5 (n = 5, x = 5, Jeffreys 95 %, alpha/2 = 0.025 a side) gives 0.621; here the lower end is one-sided 95 %.
    [Fact]
    public void The_lower_end_of_five_of_five_lies_between_the_published_two_sided_end_and_one() =>
        Assert.InRange(DecisionAdvice.RunOf(5).JeffreysLower, 0.621, 0.75);

    [Fact]
    public void The_cheapest_number_of_coupons_follows_the_costs()
    {
        var cheapCoupons = Of(After(4, true), AllMet, TestPolicy.Defaults with { CouponCost = 1, SittingCost = 2000 });
        var dearCoupons = Of(After(4, true), AllMet, TestPolicy.Defaults with { CouponCost = 500, SittingCost = 100 });
        Assert.True(cheapCoupons.Ahead.MinBy(one => one.Cost)!.Coupons > 0);
        Assert.Equal(0, dearCoupons.Ahead.MinBy(one => one.Cost)!.Coupons);
    }

    [Fact]
    public void Failed_bends_lower_the_chance_of_passing_everything()
    {
        var (sound, failed) = (Of(After(20, true), AllMet), Of(After(20, true), AllMet with { DestructivelyFailed = 2 }));
        Assert.True(failed.Passing.Mean.Value < sound.Passing.Mean.Value);
        Assert.True(failed.HiddenFree.Value < sound.HiddenFree.Value);
    }
}
