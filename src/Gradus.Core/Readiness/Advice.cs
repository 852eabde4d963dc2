using Gradus.Core.Measure;

namespace Gradus.Core.Readiness;

/// <summary>A sitting that came out.</summary>
/// <param name="Note">What was said of it, if anything.</param>
/// <param name="From">From when on what is made and signed comes after it.</param>
public sealed record SatBefore(DateOnly Day, bool Passed, string Note, DateTimeOffset From);

/// <summary>A fault that the latest full coupons were rejected for.</summary>
/// <param name="Words">As it is said: undercut in the cap.</param>
/// <param name="Coupons">On how many of them...</param>
/// <param name="OfCoupons">...of how many looked at.</param>
public sealed record CommonFault(string Words, int Coupons, int OfCoupons);

/// <summary>What the record says that the gates ask for. Null where nothing was recorded.</summary>
/// <param name="CanJudge">False while the limits that the test is judged by are not entered.</param>
/// <param name="FullCoupons">Full coupons on this test.</param>
/// <param name="FullInWindow">Full coupons under test rules, unaided, within the policy's days.</param>
/// <param name="CleanRun">Clean full coupons under test rules up to now, without a rejected one between.</param>
/// <param name="LatestCutSound">Whether the latest coupon that was bent, broken, etched or shot was sound; null when none was.</param>
/// <param name="RepeatedFault">The fault, in words, that all of the last three full coupons were rejected for.</param>
/// <param name="Common">The fault that came most among the latest; null when none came twice.</param>
/// <param name="LastSitting">The last sitting of this test.</param>
/// <param name="CleanSinceSitting">Clean full coupons under test rules since then.</param>
/// <param name="SignedTestNow">Whether "test now" is the decision in force.</param>
/// <param name="SignedSinceSitting">Whether that was signed after the last sitting: it answers a failed one.</param>
public sealed record DecisionFacts(
    bool CanJudge,
    int FullCoupons,
    int FullInWindow,
    bool? LastFullClean,
    int CleanRun,
    bool? LatestCutSound,
    string? RepeatedFault,
    CommonFault? Common,
    bool? FitUpUnaided,
    bool SafetySignedOff,
    SatBefore? LastSitting = null,
    int CleanSinceSitting = 0,
    bool SignedTestNow = false,
    bool SignedSinceSitting = false
);

/// <summary>What is advised.</summary>
public enum Advised
{
    TestNow,
    Practise,

    /// <summary>Something must be put right before anything else.</summary>
    Hold,

    /// <summary>The record does not show enough yet.</summary>
    NotEnough,

    /// <summary>The last sitting was passed.</summary>
    Passed,
}

/// <summary>What a gate that is not met means.</summary>
public enum GateKind
{
    /// <summary>There is too little to go on.</summary>
    Evidence,

    /// <summary>Something stands in the way.</summary>
    Stop,
}

/// <summary>A gate: what the policy asks for first, and whether it is met.</summary>
/// <param name="Id">The setting of the policy that asks for it, or <c>canJudge</c>.</param>
/// <param name="Lifts">What would meet it.</param>
public sealed record Gate(string Id, GateKind Kind, string Asks, bool Met, string Lifts);

/// <summary>What a run of clean coupons shows.</summary>
/// <param name="Reliability90">With 90 % confidence the chance of a clean coupon is at least this: success run, C = 1 - R^k.</param>
/// <param name="JeffreysLower">Lower end of the one-sided 95 % Jeffreys interval of k clean ones of k.</param>
public sealed record RunShows(int Clean, double Reliability90, double JeffreysLower);

/// <summary>How many more full coupons are expected to be needed.</summary>
/// <param name="Expected">After so many the expected chance reaches what is asked for.</param>
/// <param name="Least">The quickest in twenty of the students who fit the evidence...</param>
/// <param name="Most">...and the slowest; null when that is further than the forecast looks.</param>
public sealed record More(int Expected, int? Least, int? Most);

/// <summary>The advice with its grounds, the same wherever it is shown. An instructor decides.</summary>
/// <param name="Says">What to do, in a few words.</param>
/// <param name="Why">Why, in one sentence.</param>
/// <param name="TakeBack">True when "test now" is signed and not advised any more.</param>
/// <param name="More">With <see cref="Advised.Practise"/>: how many full coupons; null when the bar is not in sight by routine, and elsewhere.</param>
/// <param name="Weakest">The element with the least chance.</param>
/// <param name="Passing">The chance of passing everything: a clean coupon times no hidden fault.</param>
/// <param name="HiddenFree">The chance that a coupon which looks clean passes its bends, breaks or film.</param>
/// <param name="TooLittleToTell">True when the interval is too wide for the number to mean anything.</param>
/// <param name="WouldChange">What would change the advice, in sentences.</param>
/// <param name="AsTest">So many whole coupons as under test it asks for before anything else: to show enough, or clean since a failed sitting. 0 for none.</param>
/// <param name="CutOne">Whether one of them is to be cut open.</param>
public sealed record Advice(
    Advised Kind,
    string Says,
    string Why,
    bool TakeBack,
    More? More,
    string Weakest,
    ChanceBand Passing,
    Chance HiddenFree,
    bool TooLittleToTell,
    IReadOnlyList<Gate> Gates,
    RunShows Run,
    IReadOnlyList<string> WouldChange,
    int AsTest = 0,
    bool CutOne = false
);
