using Gradus.Core.Bench;
using Gradus.Core.Inspection;
using Gradus.Core.Vocabulary;

namespace Gradus.Core.Readiness;

/// <summary>A full coupon as the gates of a decision look at it.</summary>
/// <param name="AsTest">Made unaided under the rules of the test.</param>
/// <param name="Tested">Specimens that were bent, broken, etched or shot...</param>
/// <param name="Failed">...and how many of them failed.</param>
/// <param name="Passing">The chance of passing everything right after it, 0 to 1; null for coupons from longer ago.</param>
public sealed record RecentCoupon(
    DateTimeOffset At,
    bool AsTest,
    bool Clean,
    int Tested,
    int Failed,
    bool? FitUpGo,
    List<SeenFault> Faults,
    double? Passing = null
)
{
    private const int RepeatedIn = 3;
    private const int CommonIn = 6;
    private const int CommonFrom = 2;

    /// <summary>What the gates ask for, from the latest full coupons, oldest first.</summary>
    /// <param name="fullCoupons">How many full coupons there were at all.</param>
    /// <param name="canJudge">Whether the limits that the test is judged by are entered.</param>
    /// <param name="sat">The last sitting of the test.</param>
    /// <param name="signedTestNow">When "test now" was signed, where that is the decision in force.</param>
    public static DecisionFacts Facts(
        IReadOnlyList<RecentCoupon> recent,
        int fullCoupons,
        TestPolicy policy,
        DateTimeOffset now,
        bool canJudge,
        bool safetySigned,
        SatBefore? sat = null,
        DateTimeOffset? signedTestNow = null
    )
    {
        var since = now.AddDays(-policy.WithinDays);
        var asTest = recent.Where(one => one.AsTest).ToList();
        return new DecisionFacts(
            canJudge,
            fullCoupons,
            asTest.Count(one => one.At >= since),
            asTest.LastOrDefault()?.Clean,
            asTest.AsEnumerable().Reverse().TakeWhile(one => one.Clean).Count(),
            recent.LastOrDefault(one => one.Tested > 0) is { } cut ? cut.Failed == 0 : null,
            Repeated([.. recent.TakeLast(RepeatedIn)]),
            Common([.. recent.TakeLast(CommonIn)]),
            asTest.Exists(one => one.FitUpGo == true),
            safetySigned,
            sat,
            sat is null ? 0 : asTest.Count(one => one.Clean && one.At >= sat.From),
            signedTestNow is not null,
            sat is not null && signedTestNow >= sat.From
        );
    }

    private static string? Repeated(List<RecentCoupon> latest) =>
        latest.Count < RepeatedIn
            ? null
            : latest
                .Select(one => one.Faults.Select(fault => (fault.Kind, fault.Stage)))
                .Aggregate((both, own) => both.Intersect(own))
                .Select(fault => Words(fault.Kind, fault.Stage))
                .FirstOrDefault();

    private static CommonFault? Common(List<RecentCoupon> latest) =>
        latest
            .SelectMany(one => one.Faults.Select(fault => (fault.Kind, fault.Stage)).Distinct())
            .CountBy(fault => fault)
            .Where(fault => fault.Value >= CommonFrom)
            .OrderByDescending(fault => fault.Value)
            .Select(fault => new CommonFault(Words(fault.Key.Kind, fault.Key.Stage), fault.Value, latest.Count))
            .FirstOrDefault();

    private static string Words(DiscontinuityKind kind, Stage stage) =>
        $"{Discontinuities.Of(kind).Name.ToLowerInvariant()} in {new Element("", CouponSeen.ElementOf(stage), null).Words}";
}
