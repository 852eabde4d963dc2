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

/// <summary>What was done about a finding.</summary>
public enum RepairAction
{
    Cool,
    Grind,
    Taper,
    Refill,
    CutOutAndRegap,
    File,
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
}

/// <summary>What is told of an event; what its kind does not need is null.</summary>
/// <param name="Minutes">How long a timer runs until it is due; null for one that only counts.</param>
/// <param name="At">Where on the joint: a clock position on pipe, or <c>start</c>, <c>middle</c>, <c>end</c>.</param>
/// <param name="HeightMm">Above flush, or under it when negative.</param>
/// <param name="Member">For the root: from whose side it was seen.</param>
/// <param name="Specimen">Which of the test's specimens, from 0.</param>
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
    string? Note = null
);

/// <summary>An event that stands, in the order in which it happened.</summary>
public sealed record BenchEvent(Guid Id, BenchEventKind Kind, DateTimeOffset At, BenchEventBody Body);
