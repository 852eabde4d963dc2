using System.Text.Json.Serialization;
using Gradus.Core.Inspection;

namespace Gradus.Core.Bench;

/// <summary>What can happen to a coupon beside its fit-up, passes and findings.</summary>
public enum BenchEventKind
{
    /// <summary>Material cut and bevelled.</summary>
    Cut,

    /// <summary>Given up as evidence, for a reason.</summary>
    Voided,
    PositionWitnessed,
    TakenDown,

    /// <summary>The student calls the instructor to a hold point.</summary>
    HoldCalled,
    HoldAnswered,
    TimerStarted,
    TimerStopped,

    /// <summary>A repair that belongs to a finding.</summary>
    Repaired,

    /// <summary>The cause of a finding that the instructor settled on.</summary>
    CauseChosen,

    /// <summary>Face or root measured at a place.</summary>
    Measured,

    /// <summary>A specimen was bent, broken, etched or shot, and looked at.</summary>
    SpecimenTested,

    /// <summary>A rule of the sitting was broken, as seen by the instructor.</summary>
    Breach,

    /// <summary>A repaired finding was looked at again: sound or not.</summary>
    LookedAgain,

    /// <summary>What was said of a finding was put right.</summary>
    FindingCorrected,

    /// <summary>A bead beyond the plan: one more in a layer, or a patch in a low stretch.</summary>
    BeadAdded,

    /// <summary>A planned bead is left out.</summary>
    BeadLeftOut,

    /// <summary>A closed coupon was opened again, for a reason.</summary>
    Reopened,

    /// <summary>What was said when the coupon was started was put right.</summary>
    Corrected,

    /// <summary>The questions before the arc were answered for a bead.</summary>
    Preflight,
}

/// <summary>Why a coupon is no evidence.</summary>
public enum VoidReason
{
    Quenched,
    Moved,
    Helped,
    WrongPosition,
    ToesDressed,
    CapBuiltToMask,

    /// <summary>It was made to another test than it was meant for.</summary>
    WrongTest,

    /// <summary>Another reason, in words.</summary>
    Other,
}

/// <summary>What a timer counts.</summary>
public enum BenchTimer
{
    Purge,

    /// <summary>Cooling to the interpass temperature.</summary>
    Cool,
    Arc,
    Sitting,
}

/// <summary>The side of the joint that was measured.</summary>
public enum JointSide
{
    Face,
    Root,
}

/// <summary>The member from whose side the root was looked at.</summary>
public enum JointMember
{
    A,
    B,
}

/// <summary>What the rules of a sitting forbid.</summary>
public enum SittingRule
{
    TimeLimit,
    Grinder,
    Help,
    TakeDown,
    ArcStrike,
    PositionNotWitnessed,
    StringersOnly,

    /// <summary>Work went on past something that had to be done first.</summary>
    WentOn,

    /// <summary>Done in a way that hides a fault from the eye: no evidence of a test at all.</summary>
    Hidden,
}

/// <summary>A finding as it should have been said: its kind, place and sizes. Lengths in mm.</summary>
public sealed record FindingValues(
    DiscontinuityKind? Kind,
    Stage? Stage,
    string? Clock = null,
    double? FromStartMm = null,
    double? DepthMm = null,
    double? HeightMm = null,
    double? LengthMm = null,
    double? DiameterMm = null,
    double? WidthMm = null,
    int? Count = null,
    JointMember? Toe = null,
    double? FaceHeightThereMm = null,
    FindingShape? Shape = null
);

/// <summary>What a coupon is, as far as it is put right; null is left as it was.</summary>
/// <param name="DrillId">A drill of the test...</param>
/// <param name="Full">...or true for a full coupon.</param>
/// <param name="JudgedBy">The profile that it is judged by in place of its test's own.</param>
public sealed record CouponCorrection(
    Guid? StudentId = null,
    string? TestId = null,
    int? TestVersion = null,
    string? DrillId = null,
    bool? Full = null,
    Dictionary<string, string>? Variants = null,
    Guid? BoothId = null,
    bool? AsTest = null,
    string? JudgedBy = null
);

/// <summary>What is told of an event; what its kind does not need is null.</summary>
/// <param name="Minutes">How long a timer runs until it is due; null for one that only counts.</param>
/// <param name="At">Where on the joint: a clock position on pipe, or <c>start</c>, <c>middle</c>, <c>end</c>.</param>
/// <param name="HeightMm">Above flush, or under it when negative.</param>
/// <param name="Fillet">Legs, throat and face of a fillet at a place, in place of a height.</param>
/// <param name="Member">For the root: from whose side it was seen.</param>
/// <param name="Specimen">Which of the test's specimens, from 0.</param>
/// <param name="Sound">Whether a repair is sound.</param>
/// <param name="HoleMm">Width of the hole that is repaired, and length of the taper ground to it.</param>
/// <param name="Patch">An added bead that is a short one in a low place, not one more of its layer.</param>
/// <param name="No">The questions before the arc that were answered with no; empty when all was as it should be.</param>
/// <param name="Was">What a correction put right, as it was before; filled in when it is recorded.</param>
/// <param name="LabOrder">The order under which a laboratory saw this on a specimen; filled in when it is taken over.</param>
public sealed record BenchEventBody(
    VoidReason? Reason = null,
    string? Point = null,
    bool? Go = null,
    BenchTimer? Timer = null,
    double? Minutes = null,
    Guid? FindingId = null,
    RepairAction? Action = null,
    string? CauseId = null,
    JointSide? Side = null,
    string? At = null,
    double? HeightMm = null,
    JointMember? Member = null,
    int? Specimen = null,
    BendSpecimen? Bend = null,
    NickBreakSpecimen? NickBreak = null,
    FilletBreakSpecimen? FilletBreak = null,
    MacroSpecimen? Macro = null,
    IReadOnlyList<Indication>? Indications = null,
    SittingRule? Rule = null,
    string? Note = null,
    bool? Sound = null,
    double? HoleMm = null,
    double? TaperMm = null,
    string? BeadKey = null,
    Stage? Stage = null,
    bool? Patch = null,
    FindingValues? Finding = null,
    CouponCorrection? Correction = null,
    CouponCorrection? Was = null,
    FilletMeasures? Fillet = null,
    IReadOnlyList<string>? No = null,
    [property: JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] Guid? LabOrder = null
);

/// <summary>An event that stands, in the order in which it happened.</summary>
public sealed record BenchEvent(Guid Id, BenchEventKind Kind, DateTimeOffset At, BenchEventBody Body);
