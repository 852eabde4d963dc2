using FluentValidation;
using Gradus.Core.Bench;
using Gradus.Core.Coaching;
using Gradus.Core.Inspection;
using Gradus.Core.Joints;
using Gradus.Core.Library;
using Gradus.Core.Measure;
using Gradus.Core.Welding;
using Gradus.Server.Hosting;
using Gradus.Server.Library;

namespace Gradus.Server.Coupons;

/// <summary>Starts a coupon. <c>drillId</c> null means a full coupon; <c>asTest</c> means unaided, under the rules of the test.</summary>
public sealed record StartCoupon(Guid? StudentId, string? TestId, string? DrillId, Dictionary<string, string>? Variants, Guid? BoothId, bool? AsTest);

/// <summary>A fit-up as measured.</summary>
public sealed record RecordFitUp(IReadOnlyList<FitUpPoint>? Points, IReadOnlyList<Tack>? Tacks, Dictionary<string, bool>? Answers);

/// <summary>A pass. Settings that the process does not have are left out.</summary>
public sealed record RecordPass(
    string? BeadKey,
    Process? Process,
    string? ElectrodeClass,
    double? DiameterMm,
    Polarity? Polarity,
    double? Amps,
    double? Volts,
    double? WireFeedMmPerMin,
    string? Gas,
    BeadTechnique? Technique,
    Progression? Progression,
    OperatorHand? Hand,
    double? InterpassC = null,
    double? BelowFlushMm = null,
    string? StartAt = null,
    string? StopAt = null
);

/// <summary>A finding at its place: <c>clock</c> on pipe (<c>4:30</c>), <c>fromStartMm</c> on plate.</summary>
public sealed record RecordFinding(
    Guid? PassId,
    DiscontinuityKind? Kind,
    Stage? Stage,
    string? Clock,
    double? FromStartMm,
    double? DepthMm,
    double? HeightMm,
    double? LengthMm,
    double? DiameterMm,
    double? WidthMm,
    int? Count
);

public sealed record RecordNote(string? Text);

/// <summary>Anything else that happens to a coupon; the body carries what its kind needs.</summary>
public sealed record RecordEvent(BenchEventKind? Kind, BenchEventBody? Body);

/// <summary>What was written, and whether this call wrote it (false: it was there already and nothing changed).</summary>
public sealed record Written(Guid Id, bool IsNew);

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

/// <summary>The joint section at one point; <c>at</c> null: as planned, before it is measured there.</summary>
public sealed record SectionView(string? At, JointSection Section);

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

/// <summary>What comes next.</summary>
public enum NextKind
{
    FitUp,
    Pass,
    Look,
    Closed,
}

/// <param name="BeadKey">The bead to lay next, when that is what is next.</param>
public sealed record NextStep(NextKind Kind, string? BeadKey, Stage? Stage, int? Layer, int? BeadInLayer, int? Card = null);

/// <summary>The settings that a pass of a stage starts from, ready to be logged in one tap.</summary>
/// <param name="Clean">The student's settings that came out clean, when there are any: they are the ones offered.</param>
/// <param name="SameBooth">True when those settings come from this booth alone, and so from its machine.</param>
/// <param name="FromLast">True when they are this student's last on this stage, false when they are the middle of the test's range.</param>
public sealed record PassCard(
    Stage Stage,
    string? Half,
    Process Process,
    string ElectrodeClass,
    double DiameterMm,
    string DiameterText,
    Polarity Polarity,
    double Amps,
    double? Volts,
    double? WireFeedMmPerMin,
    string? Gas,
    BeadTechnique Technique,
    Progression Progression,
    OperatorHand Hand,
    bool FromLast,
    SettingRanges Ranges,
    string? Note,
    CleanSettings? Clean,
    bool SameBooth
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
/// <param name="TakenBack">True when it took a record back, false when it made one.</param>
public sealed record HistoryRow(DateTimeOffset At, string By, string Says, bool TakenBack);

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

public sealed record ChanceView(double Mean, double Lower, double Upper, int Coupons, int CleanCoupons, double EffectiveCoupons, bool TooLittleToTell)
{
    public static ChanceView From(Gradus.Core.Readiness.ChanceEstimate estimate) =>
        new(
            estimate.Mean.Value,
            estimate.Lower.Value,
            estimate.Upper.Value,
            estimate.Coupons,
            estimate.CleanCoupons,
            estimate.EffectiveCoupons,
            estimate.TooLittleToTell
        );

    /// <summary>A chance that stands on the coupons of a record.</summary>
    public static ChanceView From(Gradus.Data.ReadinessRecord record, Gradus.Core.Readiness.ChanceBand band) =>
        From(Readiness.ReadinessBook.Estimate(record with { Standing = record.Standing with { Whole = band } }).Whole);
}

public sealed class StartCouponValidator : AbstractValidator<StartCoupon>
{
    public StartCouponValidator(SchoolLibrary library)
    {
        RuleFor(request => request.StudentId).NotNull().WithMessage("Choose a student.");
        RuleFor(request => request.AsTest).NotNull().WithMessage("Say true for a coupon under test rules, false for a coached one.");
        RuleFor(request => request.TestId).NeedsOneOf(() => library.Tests.Keys);
        When(
            request => request.TestId is not null && library.Tests.ContainsKey(request.TestId),
            () =>
            {
                RuleFor(request => request.DrillId)
                    .Must((request, drill) => drill is null || library.Tests[request.TestId!].Drills.Any(one => one.Id == drill))
                    .WithMessage(request =>
                        $"Leave out for a full coupon, or give one of: {string.Join(", ", library.Tests[request.TestId!].Drills.Select(one => one.Id))}."
                    );
                RuleFor(request => request.Variants)
                    .Must((request, chosen) => chosen is null || chosen.All(one => IsOption(library.Tests[request.TestId!], one)))
                    .WithMessage("Give for each variant group of the test one of its options.");
            }
        );
    }

    private static bool IsOption(TestTemplate template, KeyValuePair<string, string> chosen) =>
        template.Variants.Any(group => group.Id == chosen.Key && group.Options.Any(option => option.Id == chosen.Value));
}

public sealed class RecordFitUpValidator : AbstractValidator<RecordFitUp>
{
    private const int MostPoints = 24;

    public RecordFitUpValidator()
    {
        RuleFor(request => request.Points)
            .Must(points => points is { Count: <= MostPoints } && points.All(point => point is not null))
            .WithMessage($"Give the points that were measured, at most {MostPoints}.");
        RuleForEach(request => request.Points)
            .ChildRules(point =>
            {
                point.RuleFor(one => one.At).NeedsText(8, "the point: a clock position, start or end");
                point.RuleFor(one => one.BevelDegA).MayBe(0, BevelAngle.MaxDegrees, "A bevel angle in degrees from square");
                point.RuleFor(one => one.BevelDegB).MayBe(0, BevelAngle.MaxDegrees, "A bevel angle in degrees from square");
                point.RuleFor(one => one.RootOpeningMm).MayBe(0, 50, "A root opening in mm");
                point.RuleFor(one => one.RootFaceMm).MayBe(0, 50, "A root face in mm");
                point.RuleFor(one => one.OffsetMm).MayBe(0, 25, "An offset in mm");
                point.RuleFor(one => one.StripGapMm).MayBe(0, 25, "A gap at the strip in mm");
                point.RuleFor(one => one.RingGapMm).MayBe(0, 25, "A gap of the ring in mm");
            });
        RuleFor(request => request.Tacks)
            .Must(tacks =>
                tacks is { Count: <= MostPoints } && tacks.All(tack => tack is { At: { Length: > 0 and <= 16 }, LengthMm: > 0 and <= 200 })
            )
            .WithMessage($"Give the tacks, at most {MostPoints}, each with its place and a length over 0 and at most 200 mm.");
        RuleFor(request => request.Answers).NotNull().WithMessage("Give the answers, an empty map when none is answered yet.");
    }
}

public sealed class RecordPassValidator : AbstractValidator<RecordPass>
{
    public RecordPassValidator()
    {
        RuleFor(request => request.BeadKey).NeedsText(40, "the bead that was laid");
        RuleFor(request => request.Process).NeedsOneOf();
        RuleFor(request => request.ElectrodeClass).NeedsText(40, "the electrode classification");
        RuleFor(request => request.DiameterMm).NeedsOver0(12, "the electrode diameter in mm");
        RuleFor(request => request.Polarity).NeedsOneOf();
        RuleFor(request => request.Amps).NeedsOver0(1000, "the current in amps");
        RuleFor(request => request.Volts).MayBe(1, 100, "The voltage");
        RuleFor(request => request.WireFeedMmPerMin).MayBe(100, 50_000, "The wire feed in mm/min");
        RuleFor(request => request.Gas).Must(gas => gas is null or { Length: <= 40 }).WithMessage("At most 40 characters.");
        RuleFor(request => request.Technique).NeedsOneOf();
        RuleFor(request => request.Progression).NeedsOneOf();
        RuleFor(request => request.Hand).NeedsOneOf();
        RuleFor(request => request.InterpassC).MayBe(-40, 1200, "The temperature before the pass in °C");
        RuleFor(request => request.BelowFlushMm).MayBe(0, 200, "The fill level below flush in mm");
        RuleFor(request => request.StartAt)
            .Must(at => at is null or { Length: <= 16 })
            .WithMessage("Where the pass was started, at most 16 characters.");
        RuleFor(request => request.StopAt)
            .Must(at => at is null or { Length: <= 16 })
            .WithMessage("Where the pass was stopped, at most 16 characters.");
    }
}

public sealed class RecordFindingValidator : AbstractValidator<RecordFinding>
{
    private const double MostMm = 2000;

    public RecordFindingValidator()
    {
        RuleFor(request => request.Kind).NeedsOneOf();
        RuleFor(request => request.Stage).NeedsOneOf();
        RuleFor(request => request.Clock)
            .Must(clock => clock is null || ClockPosition.TryParse(clock, out _))
            .WithMessage("A place on the clock, 1:00 to 12:59.");
        RuleFor(request => request.FromStartMm).MayBe(0, MostMm, "The distance from the start in mm");
        RuleFor(request => request.DepthMm).MayBe(0, MostMm, "A depth in mm");
        RuleFor(request => request.HeightMm).MayBe(0, MostMm, "A height in mm");
        RuleFor(request => request.LengthMm).MayBe(0, MostMm, "A length in mm");
        RuleFor(request => request.DiameterMm).MayBe(0, MostMm, "A diameter in mm");
        RuleFor(request => request.WidthMm).MayBe(0, MostMm, "A width in mm");
        RuleFor(request => request.Count)
            .Must(count => count is null or (>= 1 and <= 1000))
            .WithMessage("A count is a whole number from 1 to 1000, or left out.");
    }
}

public sealed class RecordEventValidator : AbstractValidator<RecordEvent>
{
    public RecordEventValidator()
    {
        RuleFor(request => request.Kind).NeedsOneOf();
        RuleFor(request => request.Body).NotNull().WithMessage("Give what the kind needs; an empty object when it needs nothing.");
        RuleFor(request => request.Body!.Note)
            .Must(note => note is null or { Length: <= 500 })
            .WithMessage("At most 500 characters.")
            .When(request => request.Body is not null);
    }
}

public sealed class RecordNoteValidator : AbstractValidator<RecordNote>
{
    public RecordNoteValidator() => RuleFor(request => request.Text).NeedsText(2000, "the note");
}
