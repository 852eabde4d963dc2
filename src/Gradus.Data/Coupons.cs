using Gradus.Core.Bench;
using Gradus.Core.Inspection;
using Gradus.Core.Joints;
using Gradus.Core.Library;
using Gradus.Core.Measure;

namespace Gradus.Data;

/// <summary>A practice coupon. What happens to it is kept in the records that belong to it.</summary>
public sealed class Coupon
{
    public Guid Id { get; init; }

    /// <summary>Running number; the stamp is made from it.</summary>
    public long Number { get; init; }

    /// <summary>Short mark to be struck into the steel.</summary>
    public required string Stamp { get; init; }
    public Guid StudentId { get; set; }
    public required string TestId { get; set; }
    public int TestVersion { get; set; }

    /// <summary>The drill, or null for a full coupon.</summary>
    public string? DrillId { get; set; }

    /// <summary>The chosen option of each variant group.</summary>
    public required Dictionary<string, string> Variants { get; set; }
    public Guid? BoothId { get; set; }

    /// <summary>True when made unaided under the rules of the test.</summary>
    public bool AsTest { get; set; }

    /// <summary>The profile that it is judged by in place of its test's own; null for that.</summary>
    public string? JudgedBy { get; set; }

    /// <summary>The sitting that it was made at; null for practice.</summary>
    public Guid? SittingId { get; init; }

    /// <summary>What it was made under there, as it was when it was started; null for what the test says.</summary>
    public SittingTerms? Terms { get; init; }

    /// <summary>What it was started as, where that was put right since; null while it stands as it was started.</summary>
    public CouponCorrection? StartedAs { get; set; }

    /// <summary>When it was started, as the clock of the school has it.</summary>
    public DateTimeOffset StartedAt { get; init; }
    public Guid StartedBy { get; init; }

    /// <summary>When that reached the server; null on coupons from before it was kept, and then as good as at once.</summary>
    public DateTimeOffset? ArrivedAt { get; init; }

    /// <summary>Who was signed in where it was sent from; null when that was its author.</summary>
    public Guid? SentBy { get; init; }

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

    /// <summary>What arc loggers measured of its beads, where that was loaded with it.</summary>
    public List<TraceRecord> Traces { get; init; } = [];

    /// <summary>Every record that was loaded with it, those that were taken back as well.</summary>
    public IEnumerable<CouponRecord> AllRecords() => [.. FitUps, .. Passes, .. Findings, .. Notes, .. Events, .. Photos, .. Closings];

    /// <summary>What was started, without who and when and what was put right since: a retried start has the same content.</summary>
    public object Content
    {
        get
        {
            var was = StartedAs ?? Said();
            return new
            {
                was.StudentId,
                was.TestId,
                was.DrillId,
                Variants = new SortedDictionary<string, string>(was.Variants!, StringComparer.Ordinal),
                was.BoothId,
                was.AsTest,
                was.JudgedBy,
            };
        }
    }

    /// <summary>All that was said of it, as it stands.</summary>
    public CouponCorrection Said() => new(StudentId, TestId, TestVersion, DrillId, DrillId is null, new(Variants), BoothId, AsTest, JudgedBy);
}

/// <summary>What a coupon of a sitting is made under.</summary>
/// <param name="Rules">The rules of the sitting; null for those of the test.</param>
/// <param name="ByFilm">True when film is taken in place of bends.</param>
public sealed record SittingTerms(TestRules? Rules, bool ByFilm);

/// <summary>What every record on a coupon has: an id made by whoever wrote it, when and by whom, and whether it was taken back.</summary>
public abstract class CouponRecord
{
    public Guid Id { get; init; }
    public Guid CouponId { get; init; }

    /// <summary>When it happened, as the clock of the school has it.</summary>
    public DateTimeOffset HappenedAt { get; init; }

    /// <summary>When it reached the server.</summary>
    public DateTimeOffset RecordedAt { get; init; }

    /// <summary>Who recorded it.</summary>
    public Guid RecordedBy { get; init; }

    /// <summary>Who was signed in where it was sent from; null when that was its author.</summary>
    public Guid? SentBy { get; init; }

    /// <summary>True when a student wrote it of their own coupon: an instructor confirms it, or it counts for less.</summary>
    public bool Proposed { get; init; }

    /// <summary>When an instructor confirmed what was proposed; null while nobody did.</summary>
    public DateTimeOffset? ConfirmedAt { get; set; }
    public Guid? ConfirmedBy { get; set; }

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
    /// <summary>The bead that it laid.</summary>
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

    /// <summary>True for one of several runs that make the bead together.</summary>
    public bool Part { get; init; }

    /// <summary>On pipe the side by which it went.</summary>
    public PipeSide? Side { get; init; }

    /// <summary>What was measured of it besides; null when nothing was.</summary>
    public RunMeasures? Measured { get; init; }

    /// <summary>What it was laid in spite of, under the rules of a test; null on passes from before that was kept.</summary>
    public List<Concern>? Despite { get; init; }

    /// <inheritdoc/>
    public override object Content =>
        new
        {
            BeadKey,
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
            Side,
            Measured,
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

    /// <summary>How high the face stands over flush at its place, for what is missing at the root.</summary>
    public double? FaceHeightThereMm { get; init; }
    public int? Count { get; init; }

    /// <summary>The member at whose toe it lies; null where it was not said.</summary>
    public JointMember? Toe { get; init; }

    /// <summary>How it lies; null where it was not said.</summary>
    public FindingShape? Shape { get; init; }

    /// <inheritdoc/>
    public override object Content =>
        new
        {
            PassId,
            Kind,
            Stage,
            Clock = ClockMinutes is { } minutes ? ClockPosition.FromMinutes(minutes).ToString() : null,
            FromStartMm,
            DepthMm,
            HeightMm,
            LengthMm,
            DiameterMm,
            WidthMm,
            Count,
            Toe,
            FaceHeightThereMm,
            Shape,
        };
}

/// <summary>A remark on a coupon.</summary>
public sealed class NoteRecord : CouponRecord
{
    public required string Text { get; init; }

    /// <inheritdoc/>
    public override object Content => new { Text };
}

/// <summary>Anything else that happened to a coupon: its life, timers, hold points, repairs, measurements, specimens, breaches.</summary>
public sealed class EventRecord : CouponRecord
{
    public BenchEventKind Kind { get; init; }
    public required BenchEventBody Body { get; init; }

    /// <inheritdoc/>
    public override object Content => new { Kind, Body = Body with { Was = null } };
}

/// <summary>A photo; its picture lies in a file named by its id.</summary>
public sealed class PhotoRecord : CouponRecord
{
    public int WidthPx { get; init; }
    public int HeightPx { get; init; }

    /// <summary>SHA-256 of the file as it was sent, in hex; null on photos from before it was kept.</summary>
    public string? SentHash { get; init; }

    /// <inheritdoc/>
    public override object Content => new { Photo = SentHash };
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

    /// <summary>How much of what the verdict stands on a student proposed and nobody had confirmed.</summary>
    public int Unconfirmed { get; init; }

    /// <summary>True when a coupon under test broke a rule of the sitting: it counts as coached work only.</summary>
    public bool Downgraded { get; init; }
    public required string ProgramVersion { get; init; }

    /// <summary>Why it was made, when it stands beside an earlier one; null for the first.</summary>
    public string? Because { get; init; }

    /// <summary>The event that it was made for, when it stands beside an earlier one.</summary>
    public Guid? EventId { get; init; }

    /// <summary>The later closing that counts in its stead, or the event that opened the coupon again; null for the one that counts.</summary>
    public Guid? EndedBy { get; set; }

    /// <inheritdoc/>
    public override object Content => new { CouponId };
}

/// <summary>What today's limits make of a closing that was signed by earlier ones. The closing itself stays as it was signed.</summary>
public sealed class TodaysVerdict
{
    public Guid ClosingId { get; init; }
    public Guid CouponId { get; init; }

    /// <summary>The version of the profile that it was judged anew by.</summary>
    public int ProfileVersion { get; set; }

    /// <summary>True when the verdict, or what it tells of an element of the test, is another one.</summary>
    public bool Differs { get; set; }

    /// <summary>The verdict of today; null where nothing differs.</summary>
    public CouponVerdict? Verdict { get; set; }
    public ClosingFacts? Facts { get; set; }

    /// <summary>As <see cref="ClosingRecord.Decides"/>.</summary>
    public bool Decides { get; set; }
    public DateTimeOffset At { get; set; }

    /// <summary>When the lead let the signed one stand in readiness, too; null while today's counts there.</summary>
    public DateTimeOffset? DeclinedAt { get; set; }
    public Guid? DeclinedBy { get; set; }
}
