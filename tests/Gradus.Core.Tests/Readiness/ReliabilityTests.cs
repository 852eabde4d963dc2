using Gradus.Core.Readiness;

namespace Gradus.Core.Tests.Readiness;

/// <summary>What was said beside what came.</summary>
public class ReliabilityTests
{
    private static (double, bool)[] Sat(double said, int passed, int sittings) =>
        [.. Enumerable.Range(0, sittings).Select(index => (said, index < passed))];

    /// <summary>
    /// With one and the same chance for all, the count is binomial. 682 of 925 against 3/4: p = 0.3825, two-sided and exact, as in Conover,
    /// Practical Nonparametric Statistics, 1971, p. 97 (the value as other statistics programs print it, from memory).
    /// </summary>
    [Fact]
    public void The_departure_is_the_exact_binomial_test_when_all_chances_are_alike() =>
        Assert.Equal(0.3825, Reliability.Of(Sat(0.75, 682, 925)).Departs!.Value.Value, 4);

    /// <summary>Two unlike coins by hand: none with 0.1 x 0.4, one with 0.9 x 0.4 + 0.1 x 0.6, both with 0.9 x 0.6.</summary>
    [Theory]
    [InlineData(false, false, 0.04)]
    [InlineData(true, false, 0.04 + 0.42)]
    [InlineData(true, true, 1)]
    public void The_departure_of_unlike_chances_is_their_sum_by_hand(bool first, bool second, double expected) =>
        Assert.Equal(expected, Reliability.Of([(0.9, first), (0.6, second)]).Departs!.Value.Value, 12);

    [Fact]
    public void Each_class_counts_its_own_and_the_score_of_a_right_and_sure_teller_is_0()
    {
        var picture = Reliability.Of([.. Sat(0, 0, 3), .. Sat(0.5, 2, 4), .. Sat(1, 2, 2)]);
        Assert.Equal((9, 4, 4.0), (picture.Sittings, picture.Passed, picture.Expected));
        Assert.Equal([3, 0, 4, 0, 2], picture.Classes.Select(one => one.Sittings));
        Assert.Equal([0, 0, 2, 0, 2], picture.Classes.Select(one => one.Passed));
        Assert.Null(picture.Classes[1].Share);
        Assert.Equal(4 * 0.25 / 9, picture.Brier!.Value, 12);
        Assert.Equal(4.0 / 9 * (5.0 / 9), picture.BrierOfShare!.Value, 12);
        Assert.Equal(0, Reliability.Of([(1, true), (0, false)]).Brier);
    }

    /// <summary>
    /// Brown, Cai and DasGupta, Interval Estimation for a Binomial Proportion, Statistical Science 2001: the interval is equivariant, and closed
    /// at 0 and 1. Of many sittings it nears the normal one: the share and 1.645 standard errors.
    /// </summary>
    [Fact]
    public void The_interval_mirrors_ends_at_the_edges_and_nears_the_normal_one()
    {
        var (three, seven) = (Reliability.Share(3, 10), Reliability.Share(7, 10));
        Assert.Equal(1 - three.Lower.Value, seven.Upper.Value, 9);
        Assert.InRange(0.3, three.Lower.Value, three.Upper.Value);
        Assert.Equal(0, Reliability.Share(0, 5).Lower.Value);
        Assert.Equal(1, Reliability.Share(5, 5).Upper.Value);
        var many = Reliability.Share(4000, 10_000);
        var half = 1.6449 * Math.Sqrt(0.4 * 0.6 / 10_000);
        Assert.Equal(0.4 - half, many.Lower.Value, 1e-4);
        Assert.Equal(0.4 + half, many.Upper.Value, 1e-4);
    }

    [Fact]
    public void Nothing_is_said_of_nothing()
    {
        var none = Reliability.Of([]);
        Assert.Equal((0, null, null), (none.Sittings, none.Brier, none.Departs));
        Assert.All(none.Classes, one => Assert.Equal((0, null), (one.Sittings, one.Said)));
    }
}
