using Gradus.Core.Inspection;
using Gradus.Core.Joints;
using Gradus.Core.Library;

namespace Gradus.Core.Bench;

/// <summary>A fit-up that stands.</summary>
public sealed record LoggedFitUp(Guid Id, DateTimeOffset At, FitUpMeasured Measured);

/// <summary>A pass that stands, with the settings it was run at. Lengths in mm, wire feed in mm/min, temperature in °C.</summary>
/// <param name="BeadKey">The planned bead that it laid.</param>
/// <param name="BelowFlushMm">How far below flush the joint was after it.</param>
public sealed record LoggedPass(
    Guid Id,
    DateTimeOffset At,
    string BeadKey,
    Stage Stage,
    int Layer,
    Process Process,
    string ElectrodeClass,
    double DiameterMm,
    Polarity Polarity,
    double Amps,
    double? Volts = null,
    double? WireFeedMmPerMin = null,
    string? Gas = null,
    BeadTechnique Technique = BeadTechnique.Stringer,
    Progression Progression = Progression.None,
    OperatorHand Hand = OperatorHand.Right,
    double? InterpassC = null,
    double? BelowFlushMm = null,
    Place? StartAt = null,
    Place? StopAt = null
);

/// <summary>A finding that stands. Lengths in mm.</summary>
/// <param name="PassId">The pass that it was found in; null where that was not said.</param>
/// <param name="Place">Where it lies; null on old records that do not say.</param>
public sealed record LoggedFinding(
    Guid Id,
    DateTimeOffset At,
    Guid? PassId,
    DiscontinuityKind Kind,
    Stage Stage,
    Place? Place,
    double? DepthMm = null,
    double? HeightMm = null,
    double? LengthMm = null,
    double? DiameterMm = null,
    double? WidthMm = null,
    int? Count = null
)
{
    /// <summary>Minutes past twelve on pipe; null on plate.</summary>
    public int? ClockMinutes => Place?.Clock?.Minutes;

    /// <summary>The finding as it is judged.</summary>
    public MeasuredFinding ToMeasured() => new(Kind, Stage, DepthMm, HeightMm, LengthMm, DiameterMm, WidthMm, Count, ClockMinutes);
}

/// <summary>The closing that stands.</summary>
public sealed record LoggedClosing(Guid Id, DateTimeOffset At, CouponVerdict Verdict);

/// <summary>Everything that stands on a coupon, in any order.</summary>
public sealed record CouponRecords(
    IReadOnlyList<LoggedFitUp> FitUps,
    IReadOnlyList<LoggedPass> Passes,
    IReadOnlyList<LoggedFinding> Findings,
    IReadOnlyList<BenchEvent> Events,
    LoggedClosing? Closing = null
)
{
    /// <summary>A coupon on which nothing was recorded yet.</summary>
    public static CouponRecords None { get; } = new([], [], [], []);
}

/// <summary>What comes next on a coupon.</summary>
public enum NextKind
{
    FitUp,
    Pass,
    Look,
    Closed,
}

/// <summary>The next thing to do; with a pass, the bead to lay.</summary>
/// <param name="Card">Which of the coupon's cards the bead starts from.</param>
public sealed record NextStep(NextKind Kind, string? BeadKey, Stage? Stage, int? Layer, int? BeadInLayer, int? Card = null);

/// <summary>The joint section at one point; <c>At</c> null: as planned, before it is measured there.</summary>
public sealed record SectionView(string? At, Welding.JointSection Section);

/// <summary>A fault that a coupon was rejected for.</summary>
/// <param name="Zone">On fixed pipe; null elsewhere, or where the finding has no place.</param>
/// <param name="CauseId">The cause that the instructor settled on.</param>
/// <param name="AtStop">Whether it lay at a start or stop of its pass.</param>
public sealed record SeenFault(DiscontinuityKind Kind, Stage Stage, string? Zone, string? CauseId, bool AtStop);

/// <summary>What readiness and learning read of a closing.</summary>
/// <param name="ElementClean">By element of the test, see <see cref="TestElements"/>.</param>
/// <param name="Tested">Specimens that were bent, broken, etched or shot...</param>
/// <param name="Failed">...and how many of them failed.</param>
/// <param name="FitUpGo">Whether the fit-up passed; null when there was none.</param>
/// <param name="GapClosed">Whether the root opening was under its least anywhere.</param>
/// <param name="AmpsOffCard">Whether a pass was run outside the test's range of current.</param>
/// <param name="Minutes">From the first pass to the last; null with fewer than two.</param>
/// <param name="FillShare">What the joint took to fill as it was fitted up, as a share of what it takes as planned; null when it was not measured.</param>
public sealed record ClosingFacts(
    Dictionary<string, bool> ElementClean,
    int Tested,
    int Failed,
    bool? FitUpGo,
    List<SeenFault> Faults,
    bool GapClosed,
    bool AmpsOffCard,
    double? Minutes,
    double? FillShare = null
);

/// <summary>What a closing keeps.</summary>
/// <param name="Downgraded">True when a coupon under test broke a rule of the sitting: it counts as coached work only.</param>
public sealed record Closing(CouponVerdict Verdict, ClosingFacts Facts, bool Downgraded);

/// <summary>Whether a coupon is closed, and whether it was given up as evidence; each since when.</summary>
public readonly record struct CouponStanding(DateTimeOffset? ClosedAt, DateTimeOffset? VoidedAt);
