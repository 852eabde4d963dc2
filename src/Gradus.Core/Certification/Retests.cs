using Gradus.Core.Qualification;

namespace Gradus.Core.Certification;

/// <summary>As what a sitting is taken.</summary>
public enum SittingTurn
{
    /// <summary>The first, or one that stands by itself.</summary>
    First,

    /// <summary>The test repeated at once after a failure.</summary>
    AtOnce,

    /// <summary>The test taken anew after further training.</summary>
    AfterTraining,
}

/// <summary>A way in which a failed test may be taken again.</summary>
/// <param name="Coupons">Coupons of each type and position that failed; all must pass.</param>
/// <param name="Needs">What must be shown first, in words; null for nothing.</param>
public sealed record RetestWay(SittingTurn Turn, int Coupons, string? Needs);

/// <summary>What a code allows after a failure.</summary>
public static class Retests
{
    /// <summary>
    /// The ways in which a failed test may be taken again. A test that was repeated at once and failed again is not repeated at once a second time: training
    /// comes first.
    /// </summary>
    /// <param name="failed">As what the sitting that failed was taken.</param>
    public static IReadOnlyList<RetestWay> After(RetestRule rule, SittingTurn failed) =>
        failed == SittingTurn.AtOnce
            ? [AfterTraining(rule)]
            : [new RetestWay(SittingTurn.AtOnce, rule.ImmediateCoupons, rule.ImmediateNeeds), AfterTraining(rule)];

    private static RetestWay AfterTraining(RetestRule rule) =>
        new(SittingTurn.AfterTraining, rule.AfterTrainingCoupons, "Further training or practice, on record.");
}
