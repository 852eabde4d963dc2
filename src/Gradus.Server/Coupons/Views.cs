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
    ReadinessShift? Readiness,
    FitUpNumbers Numbers,
    LifeView Life,
    IReadOnlyList<PhotoView> Photos,
    Guid? BoothId,
    IReadOnlyList<Ask> Asks,
    IReadOnlyList<ProposalView> Proposals
);

/// <summary>What a student proposed and nobody has confirmed.</summary>
public sealed record ProposalView(Guid Id, string Says, string By, DateTimeOffset At);

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

/// <summary>A bead with the pass that laid it, if one did.</summary>
/// <param name="Card">Which of the coupon's cards it starts from.</param>
/// <param name="Pass">The pass that made it whole; null while it is not.</param>
/// <param name="Patch">A short bead in a low place, added to the plan.</param>
/// <param name="Runs">Everything that was laid of it, whole or in part.</param>
/// <param name="Asks">What can be said of it besides its settings, by the ids of the coupon's <c>asks</c>.</param>
/// <param name="RunsLeft">The runs that are usual for it and not laid yet.</param>
/// <param name="LaidAt">Of the places that are measured, those to which its runs reach.</param>
public sealed record BeadView(
    string Key,
    Stage Stage,
    int Layer,
    int BeadInLayer,
    string? Half,
    int Card,
    PassView? Pass,
    bool Patch,
    IReadOnlyList<PassView> Runs,
    IReadOnlyList<PlannedRun> RunsLeft,
    IReadOnlyList<string> Asks,
    IReadOnlyList<string> LaidAt
);

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
    string? StopAt,
    bool Part,
    PipeSide? Side,
    RunMeasures? Measured,
    IReadOnlyList<Concern> Despite,
    RunNumbers Numbers
);

/// <summary>A repair that can be made of a finding, and what this sitting says to it.</summary>
public sealed record RepairChoice(RepairAction Action, RepairLeave Leave);

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
    JointMember? Toe,
    double? FaceHeightThereMm,
    FindingShape? Shape,
    VerdictKind Outcome,
    LimitReason? Deciding,
    IReadOnlyList<LikelyCause> Causes,
    string? ChosenCause,
    IReadOnlyList<int> Threatens,
    IReadOnlyList<RepairView> Repairs,
    string RecordedBy,
    DateTimeOffset RecordedAt,
    Repair Repair,
    IReadOnlyList<RepairChoice> RepairChoices
);

/// <summary>What was done about a finding.</summary>
public sealed record RepairView(Guid Id, RepairAction Action, string RecordedBy, DateTimeOffset RecordedAt);

/// <summary>An event that stands, with who recorded it.</summary>
public sealed record EventView(Guid Id, BenchEventKind Kind, BenchEventBody Body, string RecordedBy, DateTimeOffset RecordedAt);

/// <summary>The life of a coupon beside its passes: how far it came, what runs, what waits, what was broken.</summary>
/// <param name="PositionStands">False: have the position witnessed before the next pass.</param>
/// <param name="Measures">Heights of face and root; a verdict counts them after the findings.</param>
/// <param name="Concerns">What has to be done before the next pass, under the rules of a test.</param>
/// <param name="Scores">The places of a repair drill; empty when the test is none.</param>
/// <param name="PurgeMinutes">How long to purge before the root; 0 where nothing is purged.</param>
/// <param name="CoolMinutes">How long a layer is usually let cool.</param>
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
    IReadOnlyList<EventView> Events,
    IReadOnlyList<OpenConcern> Concerns,
    IReadOnlyList<RepairScore> Scores,
    bool SafetySigned,
    double PurgeMinutes,
    double CoolMinutes
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
/// <param name="ByEye">The verdict by eye alone; <c>inside</c> that of what was cut open, null while nothing was.</param>
/// <param name="Sentence">Both together in words.</param>
/// <param name="Says">What decides besides limits, or is wanting.</param>
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
    IReadOnlyList<HalfVerdict> Halves,
    VerdictKind ByEye,
    VerdictKind? Inside,
    string Sentence,
    IReadOnlyList<string> Says,
    IReadOnlyList<ClosingView> Closings,
    TodayView? Today
);

/// <summary>What today's limits make of a verdict that was signed by earlier ones.</summary>
/// <param name="Says">What decides today, in words.</param>
/// <param name="Counts">True when it counts in readiness; false once a lead let the signed one count.</param>
public sealed record TodayView(VerdictKind Kind, string Sentence, string Says, int ProfileVersion, bool Counts);

/// <summary>A closing that stands on a coupon: the signed one first, then those that stand beside it.</summary>
/// <param name="Because">Why it was made; null for the signed one.</param>
public sealed record ClosingView(Guid Id, VerdictKind Kind, string Sentence, string? Because, string By, DateTimeOffset At);

/// <summary>What this coupon does to the chance: without it, and with it as it stands.</summary>
public sealed record ReadinessShift(ChanceView Before, ChanceView After);
