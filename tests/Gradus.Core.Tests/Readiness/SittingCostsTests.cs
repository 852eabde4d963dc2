using Gradus.Core.Measure;
using Gradus.Core.Readiness;

namespace Gradus.Core.Tests.Readiness;

/// <summary>What sitting now and practising first cost, against sums that can be done on paper.</summary>
public sealed class SittingCostsTests
{
    private static readonly TestPolicy Policy = TestPolicy.Defaults with
    {
        SittingCost = 400,
        CouponCost = 40,
        RetestWaitCost = 0,
        CleanAfterFailed = 0,
    };

    private static ChanceBand Band(double mean, double half = 0.05) =>
        new(Chance.Of(mean), Chance.Of(mean - half), Chance.Of(Math.Min(1, mean + half)));

    /// <summary>A student whose chance by eye is known and goes up with practice as given; sound inside for certain.</summary>
    private static Standing Known(Func<int, double> chance, double inside = 1)
    {
        IReadOnlyList<double> way = [.. Forecast.Coupons.Select(chance)];
        var sound = inside >= 1 ? new ChanceBand(Chance.Of(1), Chance.Of(1), Chance.Of(1)) : Band(inside);
        return new Standing(
            Band(chance(0)),
            [],
            new Dictionary<string, ChanceBand>(),
            new Forecast([.. way.Select(one => one * inside)], way, null, null, null, [way]),
            [],
            sound,
            Band(chance(0) * inside)
        );
    }

    private static double Cost(CostOutlook costs, SittingStep step) => costs.Steps.Single(one => one.Step == step).Cost;

    [Fact]
    public void With_a_chance_that_stays_the_cost_of_sitting_is_that_of_a_geometric_number_of_sittings()
    {
        // Mean number of trials until the first success is 1 / p (any textbook of probability): 400 / 0.5.
        Assert.Equal(800, Cost(SittingCosts.Of(Policy, Known(_ => 0.5)), SittingStep.Sit), 6);
        Assert.Equal(400, Cost(SittingCosts.Of(Policy, Known(_ => 1)), SittingStep.Sit), 6);
    }

    [Fact]
    public void Practice_that_adds_nothing_costs_what_the_coupon_costs_and_never_pays()
    {
        var costs = SittingCosts.Of(Policy, Known(_ => 0.5));
        Assert.Equal(840, Cost(costs, SittingStep.Practise), 6);
        Assert.Equal(SittingStep.Sit, costs.Steps[0].Step);
        Assert.Null(costs.BreakEven);
    }

    [Fact]
    public void Practice_that_adds_much_pays_as_soon_as_its_coupon_is_cheaper_than_what_it_saves()
    {
        // From 0.5 to 1 by one coupon: 40 + 400 against 400 + half of (the sittings left, after one more coupon's worth was not made).
        var rising = Known(coupons => coupons == 0 ? 0.5 : 1);
        var costs = SittingCosts.Of(Policy, rising);
        Assert.Equal(440, Cost(costs, SittingStep.Practise), 6);
        Assert.Equal(SittingStep.Practise, costs.Steps[0].Step);
        Assert.Equal(SittingStep.Sit, SittingCosts.Of(Policy with { CouponCost = 500 }, rising).Steps[0].Step);
    }

    [Fact]
    public void The_break_even_is_where_both_cost_the_same()
    {
        // 0.8 now, 0.9 after one coupon, and no more: sitting costs 400 + 0.2 (F + V), practising 40 + 400 + 0.1 (F + V).
        var standing = Known(coupons => coupons == 0 ? 0.8 : 0.9);
        var cheap = Policy with { SittingCost = 100, RetestWaitCost = 50 };
        var costs = SittingCosts.Of(cheap, standing);
        Assert.Equal(SittingStep.Sit, costs.Steps[0].Step);
        Assert.NotNull(costs.BreakEven);
        var at = cheap with { RetestWaitCost = costs.BreakEven!.Value - cheap.SittingCost };
        var even = SittingCosts.Of(at, standing);
        Assert.Equal(Cost(even, SittingStep.Sit), Cost(even, SittingStep.Practise), Cost(even, SittingStep.Sit) * 0.01);
        Assert.Equal(SittingStep.Practise, SittingCosts.Of(at with { RetestWaitCost = at.RetestWaitCost * 1.1 }, standing).Steps[0].Step);
        Assert.Equal(150, costs.FailedSitting, 6);
    }

    [Fact]
    public void A_failed_sitting_costs_its_wait_and_the_coupons_that_must_be_clean_before_the_next()
    {
        var policy = Policy with { RetestWaitCost = 100, CleanAfterFailed = 2 };
        Assert.Equal(400 + 100 + (2 * 40 / 0.5), SittingCosts.Of(policy, Known(_ => 0.5)).FailedSitting, 6);
    }

    [Fact]
    public void Cutting_one_open_costs_the_coupon_and_what_it_takes_to_cut_those_that_are_clean()
    {
        var costs = SittingCosts.Of(Policy with { CutCost = 15 }, Known(_ => 0.5));
        Assert.Equal(840 + (0.5 * 15), Cost(costs, SittingStep.CutOpen), 6);
    }

    [Fact]
    public void Hidden_faults_cost_sittings()
    {
        var sound = SittingCosts.Of(Policy, Known(_ => 0.8));
        var doubtful = SittingCosts.Of(Policy, Known(_ => 0.8, inside: 0.7));
        Assert.True(Cost(doubtful, SittingStep.Sit) > Cost(sound, SittingStep.Sit) * 1.3);
    }

    [Fact]
    public void Who_may_be_weak_or_strong_learns_from_a_coupon_which_it_is()
    {
        // Two students as likely: one who always passes, one who hardly does and learns fast. The mean alone could not tell when to sit.
        IReadOnlyList<double> strong = [.. Forecast.Coupons.Select(_ => 0.99)];
        IReadOnlyList<double> weak = [.. Forecast.Coupons.Select(coupons => Math.Min(0.99, 0.05 + (0.3 * coupons)))];
        IReadOnlyList<double> both = [.. strong.Zip(weak, (a, b) => (a + b) / 2)];
        var mixed = Known(_ => 0.5) with { Forecast = new Forecast(both, both, null, null, null, [weak, strong]) };
        var costs = SittingCosts.Of(Policy with { RetestWaitCost = 2000 }, mixed);
        Assert.Equal(SittingStep.Practise, costs.Steps[0].Step);
        Assert.True(Cost(costs, SittingStep.Practise) < Cost(costs, SittingStep.Sit) - 100);
    }
}
