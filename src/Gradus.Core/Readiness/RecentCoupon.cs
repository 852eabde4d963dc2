using Gradus.Core.Bench;
using Gradus.Core.Inspection;

namespace Gradus.Core.Readiness;

/// <summary>A full coupon as the gates of a decision look at it.</summary>
/// <param name="AsTest">Made unaided under the rules of the test.</param>
/// <param name="Tested">Specimens that were bent, broken, etched or shot...</param>
/// <param name="Failed">...and how many of them failed.</param>
public sealed record RecentCoupon(DateTimeOffset At, bool AsTest, bool Clean, int Tested, int Failed, bool? FitUpGo, List<SeenFault> Faults)
{
    private const int RepeatedIn = 3;

    /// <summary>What the gates ask for, from the latest full coupons, oldest first.</summary>
    /// <param name="canJudge">Whether the limits that the test is judged by are entered.</param>
    public static DecisionFacts Facts(IReadOnlyList<RecentCoupon> recent, TestPolicy policy, DateTimeOffset now, bool canJudge, bool safetySigned)
    {
        var since = now.AddDays(-policy.WithinDays);
        var asTest = recent.Where(one => one.AsTest).ToList();
        var tested = recent.Where(one => one.Tested > 0).ToList();
        return new DecisionFacts(
            canJudge,
            asTest.Count(one => one.At >= since),
            asTest.LastOrDefault()?.Clean,
            asTest.AsEnumerable().Reverse().TakeWhile(one => one.Clean).Count(),
            tested.Count,
            tested.Count(one => one.Failed > 0),
            Repeated([.. recent.TakeLast(RepeatedIn)]),
            asTest.Exists(one => one.FitUpGo == true),
            safetySigned
        );
    }

    private static string? Repeated(List<RecentCoupon> latest) =>
        latest.Count < RepeatedIn
            ? null
            : latest
                .Select(one => one.Faults.Select(fault => (fault.Kind, fault.Stage)))
                .Aggregate((both, own) => both.Intersect(own))
                .Select(fault => $"{Discontinuities.Of(fault.Kind).Name.ToLowerInvariant()} in the {CouponSeen.ElementOf(fault.Stage)}")
                .FirstOrDefault();
}
