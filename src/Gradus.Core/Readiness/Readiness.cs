using Gradus.Core.Measure;

namespace Gradus.Core.Readiness;

/// <summary>What one coupon showed of the elements that it exercised.</summary>
/// <param name="Day">When it was closed, in days on any scale; only differences count.</param>
/// <param name="Full">True for a full coupon, false for a drill.</param>
/// <param name="Aided">True when it was coached or made outside the rules of the test.</param>
/// <param name="Clean">By element (a stage, or a stage and zone such as <c>root/bottom</c>): true when nothing was found there that the test's acceptance rejects.</param>
/// <param name="Inside">True when every specimen that was cut passed, false when one failed; null when nothing was cut open.</param>
/// <param name="SittingPassed">For a sitting of the test whether it was passed, in place of elements: its result is all that is known. Null for practice.</param>
/// <param name="Trust">How far it is believed, 0 to 1: 1 for what was looked at here, less for what others say; see <see cref="Trust"/>.</param>
public sealed record CouponEvidence(
    double Day,
    bool Full,
    bool Aided,
    IReadOnlyDictionary<string, bool> Clean,
    bool? Inside = null,
    bool? SittingPassed = null,
    double Trust = 1
)
{
    /// <summary>True when every element of the coupon was clean, and nothing that was cut of it failed.</summary>
    public bool AllClean => Inside != false && Clean.Count > 0 && Clean.Values.All(clean => clean);
}

/// <summary>A chance with its 90 % interval and the evidence that it stands on.</summary>
/// <param name="Coupons">How many coupons were looked at.</param>
/// <param name="CleanCoupons">How many of them were clean.</param>
/// <param name="EffectiveCoupons">What they weigh together, after age and aid.</param>
/// <param name="TooLittleToTell">True when the interval is too wide, or the weight too small, for the number to mean anything.</param>
public sealed record ChanceEstimate(
    Chance Mean,
    Chance Lower,
    Chance Upper,
    int Coupons,
    int CleanCoupons,
    double EffectiveCoupons,
    bool TooLittleToTell
);

/// <summary>The readiness of one student for one test.</summary>
/// <param name="Whole">The chance that a full coupon made now comes out clean.</param>
/// <param name="Elements">The same for each element by itself.</param>
/// <param name="Method">How it was reached, in a sentence.</param>
/// <param name="MethodVersion">Which method made it, to be kept beside a decision.</param>
public sealed record ReadinessEstimate(
    ChanceEstimate Whole,
    IReadOnlyDictionary<string, ChanceEstimate> Elements,
    string Method,
    string MethodVersion
);
