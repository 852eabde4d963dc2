using Gradus.Core.Bench;
using Gradus.Core.Coaching;
using Gradus.Core.Inspection;
using Gradus.Core.Joints;
using Gradus.Core.Library;
using Gradus.Server.Readiness;

namespace Gradus.Server.Coupons;

/// <summary>A coupon as the bench shows it.</summary>
public sealed record CouponView(
    Guid Id,
    string Stamp,
    CouponStudent Student,
    CouponTest Test,
    string? DrillId,
    IReadOnlyDictionary<string, string> Variants,
    int? Booth,
    bool AsTest,
    DateTimeOffset StartedAt,
    DateTimeOffset? ClosedAt,
    FitUpView FitUp,
    IReadOnlyList<SectionView> Sections,
    IReadOnlyList<BeadView> Beads,
    NextStep Next,
    IReadOnlyList<PassCard> Cards,
    IReadOnlyList<FindingView> Findings,
    IReadOnlyList<NoteView> Notes,
    VerdictView Verdict,
    ReadinessShift Readiness,
    FitUpNumbers Numbers,
    LifeView Life,
    IReadOnlyList<PhotoView> Photos
);

public sealed record CouponStudent(Guid Id, string Name, OperatorHand Hand);

/// <summary>What the bench needs of the test, the coupon's variants applied.</summary>
public sealed record CouponTest(
    string Id,
    string Title,
    Product Product,
    string Position,
    string ProfileId,
    string ProfileName,
    double ThicknessMm,
    double? LengthMm,
    IReadOnlyList<Stage> Stages,
    FitUpPlan FitUp,
    JointPlan Joint,
    IReadOnlyList<Caution> Cautions,
    IReadOnlyList<Specimen> Specimens,
    IReadOnlyList<string> HoldPoints,
    TestRules Rules,
    Temperatures? Temperatures,
    IReadOnlyList<Half> Halves
);

/// <summary>The fit-up that stands, and how it checks out. <c>measured</c> is null before the first.</summary>
public sealed record FitUpView(Guid? Id, FitUpMeasured? Measured, FitUpOutcome Outcome, IReadOnlyList<FitUpLine> Lines);

/// <summary>A planned bead with the pass that laid it, if one did.</summary>
/// <param name="Card">Which of the coupon's cards it starts from.</param>
public sealed record BeadView(string Key, Stage Stage, int Layer, int BeadInLayer, string? Half, int Card, PassView? Pass);

public sealed record PassView(
    Guid Id,
    DateTimeOffset RecordedAt,
    string RecordedBy,
    Process Process,
    string ElectrodeClass,
    double DiameterMm,
    Polarity Polarity,
    double Amps,
    double? Volts,
    double? WireFeedMmPerMin,
    string? Gas,
    BeadTechnique Technique,
    Progression Progression,
    OperatorHand Hand,
    double? InterpassC,
    double? BelowFlushMm,
    string? StartAt,
    string? StopAt
);

public sealed record FindingView(
    Guid Id,
    DiscontinuityKind Kind,
    string Name,
    Stage Stage,
    string? Clock,
    double? FromStartMm,
    double? DepthMm,
    double? HeightMm,
    double? LengthMm,
    double? DiameterMm,
    double? WidthMm,
    int? Count,
    VerdictKind Outcome,
    LimitReason? Deciding,
    IReadOnlyList<LikelyCause> Causes,
    string? ChosenCause,
    IReadOnlyList<int> Threatens,
    IReadOnlyList<RepairView> Repairs,
    string RecordedBy,
    DateTimeOffset RecordedAt
);

/// <summary>What was done about a finding.</summary>
public sealed record RepairView(Guid Id, RepairAction Action, string RecordedBy, DateTimeOffset RecordedAt);

/// <summary>An event that stands, with who recorded it.</summary>
public sealed record EventView(Guid Id, BenchEventKind Kind, BenchEventBody Body, string RecordedBy, DateTimeOffset RecordedAt);

/// <summary>The life of a coupon beside its passes: how far it came, what runs, what waits, what was broken.</summary>
/// <param name="PositionStands">False: have the position witnessed before the next pass.</param>
/// <param name="Measures">Heights of face and root; a verdict counts them after the findings.</param>
/// <param name="Downgraded">True when a breach makes a coupon under test evidence of coached work only.</param>
public sealed record LifeView(
    CouponState State,
    VoidReason? VoidReason,
    bool PositionStands,
    IReadOnlyList<RunningTimer> Timers,
    IReadOnlyList<OpenHold> Holds,
    IReadOnlyList<string> HoldsDue,
    IReadOnlyList<Breach> Breaches,
    bool Downgraded,
    IReadOnlyList<EventView> Measures,
    IReadOnlyList<SpecimenVerdict> Specimens,
    IReadOnlyList<EventView> Events
);

/// <summary>What happened to a coupon, latest first. <c>older</c> goes into the next call; null at the end.</summary>
public sealed record HistoryPage(IReadOnlyList<HistoryRow> Rows, DateTimeOffset? Older);

/// <summary>One thing that somebody did.</summary>
/// <param name="At">When it happened.</param>
/// <param name="TakenBack">True when it took a record back, false when it made one.</param>
/// <param name="ArrivedAt">When it reached the server; null when that was at once.</param>
/// <param name="SentBy">Who was signed in where it was sent from; null when that was who did it.</param>
public sealed record HistoryRow(DateTimeOffset At, string By, string Says, bool TakenBack, DateTimeOffset? ArrivedAt, string? SentBy);

public sealed record NoteView(Guid Id, string Text, string RecordedBy, DateTimeOffset RecordedAt);

/// <summary>The verdict as it stands: of this moment while open, the snapshot once closed.</summary>
public sealed record VerdictView(
    VerdictKind Kind,
    IReadOnlyList<LimitReason> Reasons,
    IReadOnlyList<LimitReason> Passed,
    IReadOnlyList<Stage> Missing,
    string ProfileId,
    int ProfileVersion,
    int TemplateVersion,
    string? ProgramVersion,
    DateTimeOffset? ClosedAt,
    string? ClosedBy,
    IReadOnlyList<HalfVerdict> Halves
);

/// <summary>What this coupon does to the chance: without it, and with it as it stands.</summary>
public sealed record ReadinessShift(ChanceView Before, ChanceView After);
