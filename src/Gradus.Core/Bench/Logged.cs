using System.Text.Json.Serialization;
using Gradus.Core.Inspection;
using Gradus.Core.Joints;
using Gradus.Core.Library;
using Gradus.Core.Traces;

namespace Gradus.Core.Bench;

/// <summary>A fit-up that stands.</summary>
public sealed record LoggedFitUp(Guid Id, DateTimeOffset At, FitUpMeasured Measured);

/// <summary>A pass that stands, with the settings it was run at. Lengths in mm, wire feed in mm/min, temperature in °C.</summary>
/// <param name="BeadKey">The planned bead that it laid.</param>
/// <param name="BelowFlushMm">How far below flush the joint was after it.</param>
/// <param name="Part">True for one of several runs that make the bead together, from where it was started to where it was stopped.</param>
/// <param name="Side">On pipe the side by which it went.</param>
/// <param name="Despite">What it was laid in spite of, under the rules of a test; null where nobody asked.</param>
/// <param name="Arc">What an arc logger measured of it; null where none did.</param>
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
    Place? StopAt = null,
    bool Part = false,
    PipeSide? Side = null,
    RunMeasures? Measured = null,
    IReadOnlyList<Concern>? Despite = null,
    BeadArc? Arc = null
)
{
    /// <summary>The stretch that it took; null where its ends were not said.</summary>
    public Stretch? Stretch => StartAt is { } from && StopAt is { } to ? new Stretch(from, to, Side) : null;
}

/// <summary>Something that has to be done before work goes on under the rules of a test.</summary>
public enum Concern
{
    /// <summary>A hold point was not answered with a go.</summary>
    HoldPoint,

    /// <summary>The position was not witnessed.</summary>
    Position,

    /// <summary>The preheat was not measured, or is under the least.</summary>
    Preheat,

    /// <summary>The purge did not run for as long as it has to.</summary>
    Purge,

    /// <summary>It is hotter than it may be between passes.</summary>
    Interpass,

    /// <summary>Safety was not signed off for the welder.</summary>
    Safety,

    /// <summary>The sitting is timed, and its timer does not run.</summary>
    SittingTimer,
}

/// <summary>A concern, in words.</summary>
public sealed record OpenConcern(Concern Concern, string Says);

/// <summary>A finding that stands. Lengths in mm.</summary>
/// <param name="PassId">The pass that it was found in; null where that was not said.</param>
/// <param name="Place">Where it lies; null on old records that do not say.</param>
/// <param name="Toe">The member at whose toe it lies; null where it was not said, or where it lies in between.</param>
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
    int? Count = null,
    JointMember? Toe = null,
    double? FaceHeightThereMm = null,
    FindingShape? Shape = null
)
{
    /// <summary>Minutes past twelve on pipe; null on plate.</summary>
    public int? ClockMinutes => Place?.Clock?.Minutes;

    /// <summary>The finding as it is judged.</summary>
    public MeasuredFinding ToMeasured() => new(Kind, Stage, DepthMm, HeightMm, LengthMm, DiameterMm, WidthMm, Count, ClockMinutes);
}

/// <summary>A closing that stands. The first is signed by whoever looked at the coupon; a later one stands beside it, and says why.</summary>
/// <param name="Because">Why it was made; null for the first.</param>
/// <param name="EventId">What came to be known since, that it was made for; null for the first.</param>
public sealed record LoggedClosing(Guid Id, DateTimeOffset At, CouponVerdict Verdict, string? Because = null, Guid? EventId = null);

/// <summary>Everything that stands on a coupon, in any order.</summary>
/// <param name="Closing">The first closing, by eye; null while the coupon is open.</param>
/// <param name="Later">The closings beside it, as more came to be known.</param>
/// <param name="SafetySigned">Whether safety was signed off for whoever welds it.</param>
public sealed record CouponRecords(
    IReadOnlyList<LoggedFitUp> FitUps,
    IReadOnlyList<LoggedPass> Passes,
    IReadOnlyList<LoggedFinding> Findings,
    IReadOnlyList<BenchEvent> Events,
    LoggedClosing? Closing = null,
    IReadOnlyList<LoggedClosing>? Later = null,
    bool SafetySigned = false
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
/// <param name="ByMeasure">True when it was not seen but measured: a height or a depth over its limit.</param>
public sealed record SeenFault(DiscontinuityKind Kind, Stage Stage, string? Zone, string? CauseId, bool AtStop, bool ByMeasure = false);

/// <summary>What readiness and learning read of a closing.</summary>
/// <param name="ElementClean">By element of the test, see <see cref="TestElements"/>.</param>
/// <param name="Tested">Specimens that were bent, broken, etched or shot...</param>
/// <param name="Failed">...and how many of them failed.</param>
/// <param name="FitUpGo">Whether the fit-up passed; null when there was none.</param>
/// <param name="GapClosed">Whether the root opening was under its least anywhere.</param>
/// <param name="AmpsOffCard">Whether a pass was run outside the test's range of current.</param>
/// <param name="Minutes">From the first pass to the last, with the arc of the first where it was measured; null with fewer than two.</param>
/// <param name="ArcMinutes">How long the arc burnt; null where that of some pass was not measured.</param>
/// <param name="Repaired">Faults that were repaired and are sound.</param>
/// <param name="Sides">On fixed pipe welded by sides: how each came out.</param>
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
    double? FillShare = null,
    List<SeenFault>? Repaired = null,
    List<SideSeen>? Sides = null,
    [property: JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] double? ArcMinutes = null
);

/// <summary>How one side of a fixed pipe came out by the hand that welded it.</summary>
public sealed record SideSeen(PipeSide Side, OperatorHand Hand, bool Clean);

/// <summary>What a closing keeps.</summary>
/// <param name="Downgraded">True when a coupon under test broke a rule of the sitting: it counts as coached work only.</param>
/// <param name="Hidden">True when it was worked on in a way that hides a fault: it is no evidence of a whole test.</param>
public sealed record Closing(CouponVerdict Verdict, ClosingFacts Facts, bool Downgraded, bool Hidden = false);

/// <summary>Whether a coupon is closed, and whether it was given up as evidence; each since when.</summary>
public readonly record struct CouponStanding(DateTimeOffset? ClosedAt, DateTimeOffset? VoidedAt);
