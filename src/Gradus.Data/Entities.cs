using Gradus.Core.Bench;
using Gradus.Core.Inspection;
using Gradus.Core.Joints;
using Gradus.Core.Planning;
using Gradus.Core.Readiness;

namespace Gradus.Data;

/// <summary>The school; one row.</summary>
public sealed class School
{
    public Guid Id { get; init; }
    public required string Name { get; set; }

    /// <summary>IANA time zone in which days and times are shown.</summary>
    public required string TimeZone { get; set; }
    public bool IsDemo { get; init; }
}

/// <summary>Someone who logs coupons and signs decisions.</summary>
public sealed class Instructor
{
    public Guid Id { get; init; }
    public required string Name { get; set; }
    public bool IsLead { get; set; }

    /// <summary>Salted hash of the PIN.</summary>
    public required string PinHash { get; set; }
}

/// <summary>A class: the students who come on the same days.</summary>
public sealed class ClassGroup
{
    public Guid Id { get; init; }
    public required string Name { get; set; }

    /// <summary>Days on which it meets.</summary>
    public required List<DayOfWeek> MeetsOn { get; set; }
}

/// <summary>A welding booth.</summary>
public sealed class Booth
{
    private const int BoothsInRow = 6;

    public Guid Id { get; init; }
    public int Number { get; init; }

    /// <summary>The processes that it is set up for, by name.</summary>
    public required List<string> Processes { get; set; }
    public BoothTraits Has { get; set; }

    /// <summary>Where it stands in the shop: column and row from the top left corner.</summary>
    public int Column { get; set; }
    public int Row { get; set; }

    /// <summary>Since when and why it cannot be used; null while it can.</summary>
    public DateTimeOffset? ClosedAt { get; set; }
    public string? ClosedWhy { get; set; }

    /// <summary>A new booth that runs everything and takes pipe, in rows of six; the school says what it really has.</summary>
    public static Booth New(Guid id, int number) =>
        new()
        {
            Id = id,
            Number = number,
            Processes = ["SMAW", "GTAW", "GMAW", "FCAW-G", "FCAW-S"],
            Has = BoothTraits.Pipe,
            Column = (number - 1) % BoothsInRow,
            Row = (number - 1) / BoothsInRow,
        };
}

/// <summary>A student, with the test that they work toward.</summary>
public sealed class Student
{
    public Guid Id { get; init; }
    public required string Name { get; set; }
    public Guid ClassGroupId { get; set; }
    public OperatorHand Hand { get; set; }
    public required string TargetTestId { get; set; }
    public string? Note { get; set; }

    /// <summary>When and by whom safety was signed off; null while it is not.</summary>
    public DateTimeOffset? SafetySignedAt { get; set; }
    public Guid? SafetySignedBy { get; set; }
    public DateTimeOffset CreatedAt { get; init; }
    public ClassGroup? ClassGroup { get; init; }
}

/// <summary>A practice coupon. What happens to it is kept in the records that belong to it.</summary>
public sealed class Coupon
{
    public Guid Id { get; init; }

    /// <summary>Running number; the stamp is made from it.</summary>
    public long Number { get; init; }

    /// <summary>Short mark to be struck into the steel.</summary>
    public required string Stamp { get; init; }
    public Guid StudentId { get; init; }
    public required string TestId { get; init; }
    public int TestVersion { get; init; }

    /// <summary>The drill, or null for a full coupon.</summary>
    public string? DrillId { get; init; }

    /// <summary>The chosen option of each variant group.</summary>
    public required Dictionary<string, string> Variants { get; init; }
    public Guid? BoothId { get; init; }

    /// <summary>True when made unaided under the rules of the test.</summary>
    public bool AsTest { get; init; }
    public DateTimeOffset StartedAt { get; init; }
    public Guid StartedBy { get; init; }

    /// <summary>When the closing that stands was made; null while the coupon is open.</summary>
    public DateTimeOffset? ClosedAt { get; set; }

    /// <summary>When it was given up as evidence; null while it counts.</summary>
    public DateTimeOffset? VoidedAt { get; set; }
    public Student? Student { get; init; }
    public Booth? Booth { get; init; }
    public List<FitUpRecord> FitUps { get; init; } = [];
    public List<PassRecord> Passes { get; init; } = [];
    public List<FindingRecord> Findings { get; init; } = [];
    public List<NoteRecord> Notes { get; init; } = [];
    public List<EventRecord> Events { get; init; } = [];
    public List<PhotoRecord> Photos { get; init; } = [];
    public List<ClosingRecord> Closings { get; init; } = [];
}

/// <summary>What every record on a coupon has: an id made by whoever wrote it, when and by whom, and whether it was taken back.</summary>
public abstract class CouponRecord
{
    public Guid Id { get; init; }
    public Guid CouponId { get; init; }
    public DateTimeOffset RecordedAt { get; init; }
    public Guid RecordedBy { get; init; }

    /// <summary>When it was taken back. The record itself is never changed or deleted.</summary>
    public DateTimeOffset? WithdrawnAt { get; set; }
    public Guid? WithdrawnBy { get; set; }

    /// <summary>What was recorded, without who and when: a retried write has the same content.</summary>
    public abstract object Content { get; }
}

/// <summary>A fit-up as measured; the last one that stands is the coupon's.</summary>
public sealed class FitUpRecord : CouponRecord
{
    public required FitUpMeasured Measured { get; init; }

    /// <inheritdoc/>
    public override object Content => Measured;
}

/// <summary>One pass with the settings it was run at. Lengths in mm, wire feed in mm/min, gas flow in L/min.</summary>
public sealed class PassRecord : CouponRecord
{
    /// <summary>The planned bead that it laid.</summary>
    public required string BeadKey { get; init; }
    public Stage Stage { get; init; }
    public int Layer { get; init; }
    public Process Process { get; init; }
    public required string ElectrodeClass { get; init; }
    public double DiameterMm { get; init; }
    public Polarity Polarity { get; init; }
    public double Amps { get; init; }
    public double? Volts { get; init; }
    public double? WireFeedMmPerMin { get; init; }
    public string? Gas { get; init; }
    public BeadTechnique Technique { get; init; }
    public Progression Progression { get; init; }
    public OperatorHand Hand { get; init; }

    /// <summary>Temperature before the pass, in °C.</summary>
    public double? InterpassC { get; init; }

    /// <summary>How far below flush the joint was after the pass.</summary>
    public double? BelowFlushMm { get; init; }

    /// <summary>Where the pass was started and stopped: clock positions on pipe, mm from the start on plate.</summary>
    public string? StartAt { get; init; }
    public string? StopAt { get; init; }

    /// <inheritdoc/>
    public override object Content =>
        new
        {
            BeadKey,
            Stage,
            Layer,
            Process,
            ElectrodeClass,
            DiameterMm,
            Polarity,
            Amps,
            Volts,
            WireFeedMmPerMin,
            Gas,
            Technique,
            Progression,
            Hand,
            InterpassC,
            BelowFlushMm,
            StartAt,
            StopAt,
        };
}

/// <summary>A discontinuity at its place. Lengths in mm; clock in minutes past twelve.</summary>
public sealed class FindingRecord : CouponRecord
{
    public Guid? PassId { get; init; }
    public DiscontinuityKind Kind { get; init; }
    public Stage Stage { get; init; }
    public int? ClockMinutes { get; init; }
    public double? FromStartMm { get; init; }
    public double? DepthMm { get; init; }
    public double? HeightMm { get; init; }
    public double? LengthMm { get; init; }
    public double? DiameterMm { get; init; }
    public double? WidthMm { get; init; }
    public int? Count { get; init; }

    /// <summary>The finding as the core judges it.</summary>
    public MeasuredFinding ToMeasured() => new(Kind, Stage, DepthMm, HeightMm, LengthMm, DiameterMm, WidthMm, Count, ClockMinutes);

    /// <inheritdoc/>
    public override object Content =>
        new
        {
            PassId,
            Kind,
            Stage,
            ClockMinutes,
            FromStartMm,
            DepthMm,
            HeightMm,
            LengthMm,
            DiameterMm,
            WidthMm,
            Count,
        };
}

/// <summary>A remark on a coupon.</summary>
public sealed class NoteRecord : CouponRecord
{
    public required string Text { get; init; }

    /// <inheritdoc/>
    public override object Content => Text;
}

/// <summary>Anything else that happened to a coupon: its life, timers, hold points, repairs, measurements, specimens, breaches.</summary>
public sealed class EventRecord : CouponRecord
{
    public BenchEventKind Kind { get; init; }
    public required BenchEventBody Body { get; init; }

    /// <inheritdoc/>
    public override object Content => new { Kind, Body };
}

/// <summary>A photo; its picture lies in a file named by its id.</summary>
public sealed class PhotoRecord : CouponRecord
{
    public int WidthPx { get; init; }
    public int HeightPx { get; init; }

    /// <inheritdoc/>
    public override object Content => new { WidthPx, HeightPx };
}

/// <summary>The closing of a coupon: the verdict of that moment with the rules that made it.</summary>
public sealed class ClosingRecord : CouponRecord
{
    public VerdictKind Kind { get; init; }
    public required CouponVerdict Verdict { get; init; }

    /// <summary>What readiness reads of the verdict, by itself because it is read for every coupon of every student.</summary>
    public required Dictionary<Stage, bool> StageClean { get; init; }

    /// <summary>What readiness and learning read of it besides; null on closings from before zones were told apart.</summary>
    public ClosingFacts? Facts { get; init; }

    /// <summary>As <see cref="CouponVerdict.Decides"/>.</summary>
    public bool Decides { get; init; }

    /// <summary>True when a coupon under test broke a rule of the sitting: it counts as coached work only.</summary>
    public bool Downgraded { get; init; }
    public required string ProgramVersion { get; init; }

    /// <inheritdoc/>
    public override object Content => CouponId;
}

/// <summary>A fault that a coupon was rejected for.</summary>
/// <param name="Zone">On fixed pipe; null elsewhere, or where the finding has no place.</param>
/// <param name="CauseId">The cause that the instructor settled on.</param>
/// <param name="AtStop">Whether it lay at a start or stop of its pass.</param>
public sealed record SeenFault(DiscontinuityKind Kind, Stage Stage, string? Zone, string? CauseId, bool AtStop);

/// <summary>What readiness and learning read of a closing.</summary>
/// <param name="ElementClean">By element of the readiness model.</param>
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

/// <summary>A full coupon as the gates of a decision look at it.</summary>
public sealed record RecentCoupon(DateTimeOffset At, bool AsTest, bool Clean, int Tested, int Failed, bool? FitUpGo, List<SeenFault> Faults);

/// <summary>What a library entry holds.</summary>
public enum LibraryKind
{
    Test,
    Profile,
}

/// <summary>One version of a test or of an acceptance profile. Versions are added and never changed, so that a coupon finds its own again.</summary>
public sealed class LibraryEntry
{
    public Guid Id { get; init; }
    public LibraryKind Kind { get; init; }

    /// <summary>The id of the test or profile: <c>P8</c>, <c>aws-d1.1</c>.</summary>
    public required string Key { get; init; }
    public int Version { get; init; }

    /// <summary>The test or profile as the core reads it.</summary>
    public required string Body { get; init; }

    /// <summary>True when it came with the program and nobody of the school changed it.</summary>
    public bool Shipped { get; init; }
    public DateTimeOffset SavedAt { get; init; }

    /// <summary>Who of the school saved it; null for a shipped one.</summary>
    public Guid? SavedBy { get; init; }

    /// <summary>Why it was changed, in the words of who did.</summary>
    public string? Why { get; init; }
}

/// <summary>Readiness of a student on a test, kept so that nothing is worked out twice. Whatever touches its closings marks it stale in the database.</summary>
public sealed record ReadinessRecord
{
    public Guid StudentId { get; init; }
    public required string TestId { get; init; }
    public bool Stale { get; set; }

    /// <summary>The constants that it was worked out with.</summary>
    public required string ConstantsVersion { get; set; }
    public int Coupons { get; set; }
    public int CleanCoupons { get; set; }

    /// <summary>Day of the last coupon, in days since the epoch.</summary>
    public double LastDay { get; set; }

    /// <summary>The day, counted since the epoch, that <see cref="Standing"/> is for.</summary>
    public int StandingDay { get; set; }
    public required Standing Standing { get; set; }

    /// <summary>The latest full coupons, oldest first: what the gates look at.</summary>
    public required List<RecentCoupon> Recent { get; set; }

    /// <summary>The whole chance right after each of the latest coupons.</summary>
    public required List<TracePoint> Trace { get; set; }

    /// <summary>The filter, as the core keeps it.</summary>
    public required byte[] State { get; set; }
}

/// <summary>The chance right after a coupon.</summary>
public sealed record TracePoint(Guid CouponId, DateTimeOffset At, bool Full, bool Aided, bool Clean, ChanceBand Chance);

/// <summary>A school's policy for a test; the latest one holds.</summary>
public sealed class PolicyRecord
{
    public Guid Id { get; init; }
    public required string TestId { get; init; }
    public required TestPolicy Policy { get; init; }
    public DateTimeOffset SavedAt { get; init; }
    public Guid SavedBy { get; init; }
}

/// <summary>What an instructor decided.</summary>
public enum DecisionKind
{
    TestNow,
    Practise,
    Hold,
}

/// <summary>A signed decision with the numbers that it was made on.</summary>
public sealed class Decision
{
    public Guid Id { get; init; }
    public Guid StudentId { get; init; }
    public required string TestId { get; init; }
    public DecisionKind Kind { get; init; }
    public required string Reason { get; init; }

    /// <summary>The readiness of that moment.</summary>
    public required ReadinessEstimate Estimate { get; init; }

    /// <summary>What was advised at that moment; null on decisions from before advice was given.</summary>
    public Advice? Advice { get; init; }
    public DateTimeOffset SignedAt { get; init; }
    public Guid SignedBy { get; init; }
}

/// <summary>How a sitting of a test came out, beside what was said of the chance before it.</summary>
public sealed class SittingResult
{
    public Guid Id { get; init; }
    public Guid StudentId { get; init; }
    public required string TestId { get; init; }
    public DateOnly Day { get; init; }
    public bool Passed { get; init; }
    public required string Note { get; init; }

    /// <summary>The chance of passing everything, as it was said before the sitting.</summary>
    public required ChanceBand Said { get; init; }

    /// <summary>How many full coupons that stood on; 0 when it was only what is believed of anybody.</summary>
    public int Coupons { get; init; }
    public DateTimeOffset RecordedAt { get; init; }
    public Guid RecordedBy { get; init; }
}

/// <summary>A change of the constants that readiness goes by; the latest one holds.</summary>
public sealed class ModelChange
{
    public Guid Id { get; init; }

    /// <summary>Fitted to the school's own history; null for the shipped ones.</summary>
    public ReadinessConstants? Constants { get; init; }

    /// <summary>Mean log score of a coupon, one step ahead, on students held out: with the constants from before, and with the fitted ones.</summary>
    public double? ScoreBefore { get; init; }
    public double? ScoreAfter { get; init; }
    public int Students { get; init; }
    public int Coupons { get; init; }

    /// <summary>False when the fitted ones scored no better and everything stayed as it was.</summary>
    public bool Adopted { get; init; }
    public DateTimeOffset At { get; init; }
    public Guid By { get; init; }
}
