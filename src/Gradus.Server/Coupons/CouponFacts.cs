using Gradus.Core.Bench;
using Gradus.Core.Coaching;
using Gradus.Core.Inspection;
using Gradus.Core.Joints;
using Gradus.Core.Library;
using Gradus.Core.Measure;
using Gradus.Core.Readiness;
using Gradus.Core.Welding;
using Gradus.Data;
using Gradus.Server.Library;

namespace Gradus.Server.Coupons;

/// <summary>What follows from a coupon's record: its plan, its sections, what is next, its verdict. Pure; the record is loaded before.</summary>
public sealed class CouponFacts
{
    private readonly Coupon coupon;
    private readonly IReadOnlyList<PlannedBead> plannedBeads;
    private readonly FitUpMeasured measured;

    public CouponFacts(Coupon coupon, SchoolLibrary library)
    {
        this.coupon = coupon;
        Template = library.Test(coupon.TestId, coupon.TestVersion).With(coupon.Variants);
        Profile = library.Profiles[Template.Code];
        Stages = Template.StagesOf(coupon.DrillId);
        FitUp = Standing(coupon.FitUps).LastOrDefault();
        Passes = [.. Standing(coupon.Passes)];
        Findings = [.. Standing(coupon.Findings)];
        EventRecords = [.. Standing(coupon.Events)];
        Events = [.. EventRecords.Select(record => new BenchEvent(record.Id, record.Kind, record.RecordedAt, record.Body))];
        Measures = [.. Events.Where(one => one.Kind == BenchEventKind.Measured).Select(MeasuredAt).OfType<MeasuredFinding>()];
        measured = FitUp?.Measured ?? new FitUpMeasured([], [], new Dictionary<string, bool>());
        FitUpReport = FitUpCheck.Check(Template.FitUp, measured, Template.Specimens);
        plannedBeads = Template.Beads();
    }

    public TestTemplate Template { get; }
    public AcceptanceProfile Profile { get; }
    public IReadOnlyList<Stage> Stages { get; }
    public FitUpRecord? FitUp { get; }
    public IReadOnlyList<PassRecord> Passes { get; }
    public IReadOnlyList<FindingRecord> Findings { get; }
    public FitUpReport FitUpReport { get; }
    public IReadOnlyList<EventRecord> EventRecords { get; }
    public IReadOnlyList<BenchEvent> Events { get; }

    /// <summary>Heights of face and root as they were measured, as findings; they follow the findings in a verdict.</summary>
    public IReadOnlyList<MeasuredFinding> Measures { get; }

    public FitUpNumbers FitUpNumbers => FitUpNumbers.Of(Template.Joint, Template.FitUp, Template.Positions[0], measured);

    public CouponState State => CouponLife.State(Events, FitUp is not null, Passes.Count > 0, Closing is not null);

    /// <summary>The position was witnessed, at the fit-up or since.</summary>
    public bool PositionStands => CouponLife.PositionStands(Events, measured.Answers.GetValueOrDefault("position"));

    /// <summary>The hold points that the next pass stands before.</summary>
    public IReadOnlyList<string> HoldsDue =>
        CouponLife.HoldsDue(Template.Rules.HoldPoints, Events, Next().Stage, [.. Passes.Select(pass => pass.Stage).Distinct()]);

    /// <summary>The rules of the sitting that were broken, as they stand at a moment.</summary>
    public IReadOnlyList<Breach> Breaches(DateTimeOffset now) =>
        CouponLife.Breaches(
            Template.Rules,
            Events,
            [.. Passes.Select(pass => new LaidPass(pass.Technique, pass.RecordedAt))],
            [.. Findings.Select(finding => finding.ToMeasured())],
            Closing?.RecordedAt ?? now
        );

    /// <summary>The specimens as they were tested last, by their number in the test.</summary>
    public IReadOnlyList<SpecimenVerdict> Specimens() =>
        [
            .. Events
                .Where(one => one.Kind == BenchEventKind.SpecimenTested)
                .GroupBy(one => one.Body.Specimen!.Value)
                .Select(group => group.Last())
                .Select(one => (one.Body.Specimen, Verdict: CouponLife.Judge(Profile, Template.Joint.ThicknessMm, one.Body)))
                .Where(one => one.Verdict is not null)
                .Select(one => new SpecimenVerdict(one.Specimen!.Value, Template.Specimens[one.Specimen.Value].Kind, one.Verdict!))
                .OrderBy(one => one.Specimen),
        ];

    /// <summary>The beads of the coupon or drill, in the order of welding.</summary>
    public IEnumerable<PlannedBead> Beads => plannedBeads.Where(bead => Stages.Contains(bead.Stage));

    public ClosingRecord? Closing => Standing(coupon.Closings).LastOrDefault();

    public NextStep Next()
    {
        if (Closing is not null)
        {
            return new NextStep(NextKind.Closed, null, null, null, null);
        }

        var laid = Passes.Select(pass => pass.BeadKey).ToHashSet();
        var bead = Beads.FirstOrDefault(bead => !laid.Contains(bead.Key));
        return FitUp is null ? new NextStep(NextKind.FitUp, null, null, null, null)
            : bead is null ? new NextStep(NextKind.Look, null, null, null, null)
            : new NextStep(NextKind.Pass, bead.Key, bead.Stage, bead.Layer, bead.BeadInLayer, bead.Pass);
    }

    /// <summary>The verdict as it stands. A stage counts once all its planned beads are laid: half a cap is not a clean cap.</summary>
    public CouponVerdict Verdict()
    {
        var laid = Passes.Select(pass => pass.BeadKey).ToHashSet();
        return CouponJudge.Judge(
            Template,
            Profile,
            coupon.DrillId,
            Finished,
            [.. Findings.Select(finding => finding.ToMeasured()), .. Measures],
            Specimens()
        );

        IReadOnlyCollection<Stage> Finished(string? half)
        {
            var stages = Beads
                .Where(bead => half is null || bead.Half is null || bead.Half == half)
                .GroupBy(bead => bead.Stage)
                .Where(stage => stage.All(bead => laid.Contains(bead.Key)))
                .Select(stage => stage.Key);
            return [.. FitUp is null ? stages : stages.Append(Stage.FitUp)];
        }
    }

    /// <summary>The section at each point where the fit-up was measured, or the planned one before that.</summary>
    public IReadOnlyList<SectionView> Sections()
    {
        var points = MeasuredPoints();
        return points.Count == 0
            ? Template.Halves.Count == 0
                ? [new SectionView(null, Template.Section())]
                : [.. Template.FitUp.Points.Select(at => new SectionView(at, Template.Section(null, HalfAt(at))))]
            : [.. points.Select(point => new SectionView(point.At, Template.Section(point, HalfAt(point.At))))];
    }

    /// <summary>What the coupon tells of readiness, as it stands on a day.</summary>
    public CouponEvidence Evidence(CouponVerdict verdict, DateTimeOffset at) =>
        new(Days(at), Full: coupon.DrillId is null && verdict.Decides, Aided: !coupon.AsTest || Breaches(at).Count > 0, ElementClean(verdict));

    /// <summary>What readiness and learning read of the closing with a verdict.</summary>
    public ClosingFacts ClosingFacts(CouponVerdict verdict)
    {
        var specimens = Specimens();
        var rejected = verdict
            .Visual.Reasons.Where(reason => reason.Outcome == VerdictKind.Reject && reason.Finding < Findings.Count)
            .Select(reason => Findings[reason.Finding])
            .Distinct()
            .ToList();
        var least = Template.FitUp.Tolerances.FirstOrDefault(one => one.Measure == FitUpMeasure.RootOpeningMm)?.Min;
        var minutes = Passes.Count < 2 ? (double?)null : (Passes.Max(pass => pass.RecordedAt) - Passes.Min(pass => pass.RecordedAt)).TotalMinutes;
        return new ClosingFacts(
            ElementClean(verdict),
            specimens.Count,
            specimens.Count(one => one.Verdict.Kind == VerdictKind.Reject),
            FitUp is null ? null : FitUpReport.Outcome is FitUpOutcome.Go or FitUpOutcome.Warn,
            [.. rejected.Select(Fault)],
            measured.Points.Any(point => point.RootOpeningMm < least),
            Passes.Any(pass =>
                Template.Passes.FirstOrDefault(plan => plan.Stage == pass.Stage)?.Settings.Amps is { } range
                && (pass.Amps < range.Min || pass.Amps > range.Max)
            ),
            minutes,
            FillShare()
        );
    }

    private double? FillShare()
    {
        double ToFill(FitUpPoint? point) => BeadPlanner.ToFillMm2(JointShape.Of(Template.Joint, point), Template.Joint.Backing.Kind);
        var points = MeasuredPoints();
        var planned = ToFill(null);
        return points.Count == 0 || planned <= 0 ? null : points.Average(ToFill) / planned;
    }

    /// <summary>Where the fit-up was measured, of the places that the test asks for.</summary>
    private List<FitUpPoint> MeasuredPoints() => [.. measured.Points.Where(point => Template.FitUp.Points.Contains(point.At))];

    private SeenFault Fault(FindingRecord finding)
    {
        var zoned = TestElements.IsZoned(Template) && finding.ClockMinutes is not null;
        var away = CauseFactsOf(finding).StartStopAwayMm;
        return new SeenFault(
            finding.Kind,
            finding.Stage,
            zoned ? TestElements.ZoneOf(finding.ClockMinutes!.Value) : null,
            EventRecords.LastOrDefault(one => one.Kind == BenchEventKind.CauseChosen && one.Body.FindingId == finding.Id)?.Body.CauseId,
            away <= Core.Measure.TradeNumbers.Of("restartReachMm")
        );
    }

    private Dictionary<string, bool> ElementClean(CouponVerdict verdict)
    {
        List<MeasuredFinding> judged = [.. Findings.Select(finding => finding.ToMeasured()), .. Measures];
        return TestElements.Clean(
            Template,
            verdict.StageClean,
            [
                .. verdict
                    .Visual.Reasons.Where(reason => reason.Outcome == VerdictKind.Reject && reason.Finding < judged.Count)
                    .Select(reason => judged[reason.Finding]),
            ]
        );
    }

    /// <summary>The element of the readiness model that a stage is.</summary>
    public static string ElementOf(Stage stage) => System.Text.Json.JsonNamingPolicy.CamelCase.ConvertName(stage.ToString());

    /// <summary>Days since the epoch, with fractions.</summary>
    public static double Days(DateTimeOffset at) => at.ToUnixTimeMilliseconds() / (24.0 * 60 * 60 * 1000);

    /// <summary>What was recorded around a finding, for the ranking of its causes.</summary>
    public CauseFacts CauseFactsOf(FindingRecord finding)
    {
        var point = Nearest(finding);
        var plan = Template.Passes.FirstOrDefault(pass => pass.Stage == finding.Stage);
        var pass = Passes.LastOrDefault(one => one.Id == finding.PassId) ?? Passes.LastOrDefault(one => one.Stage == finding.Stage);
        var capPlanned = plannedBeads.Count(bead => bead.Stage == Stage.Cap);
        var capLaid = Passes.Count(one => one.Stage == Stage.Cap);
        var beforeCap = Passes.LastOrDefault(one => one.Stage < Stage.Cap && one.BelowFlushMm is not null);
        return new CauseFacts(
            finding.Stage,
            point?.RootOpeningMm,
            Template.Joint.RootOpeningMm,
            point?.RootFaceMm,
            Template.Joint.RootFaceMm,
            point?.OffsetMm,
            point?.StripGapMm,
            pass?.Amps,
            plan?.Settings.Amps,
            pass?.Volts,
            plan?.Settings.Volts,
            pass?.WireFeedMmPerMin,
            plan?.Settings.WireFeedMmPerMin,
            StartStopAwayMm: AwayMm(finding, pass),
            FillBelowFlushMm: finding.Stage == Stage.Cap ? beforeCap?.BelowFlushMm : null,
            CapBeads: finding.Stage == Stage.Cap && capLaid > 0 && capLaid < capPlanned ? capLaid : null,
            PlannedCapBeads: capPlanned,
            ClockMinutes: finding.ClockMinutes,
            PurgeMinutes: PurgedMinutes(),
            PurgeNeededMinutes: CouponBudget.PurgeOf(Template).Minutes is > 0 and var needed ? needed : null
        );
    }

    /// <summary>The point of the fit-up that lies nearest to a finding: on the clock, or at the nearer end of a plate.</summary>
    private FitUpPoint? Nearest(FindingRecord finding)
    {
        var points = measured.Points;
        return finding.ClockMinutes is { } minutes
            ? points.Where(point => ClockPosition.TryParse(point.At, out _)).MinBy(point => ClockPosition.Parse(point.At).MinutesFrom(minutes))
            : points.MinBy(point => Math.Abs((point.At == "end" ? Template.Joint.LengthMm ?? 0 : 0) - (finding.FromStartMm ?? 0)));
    }

    /// <summary>How far along the joint the nearest start or stop of a pass lies; null when none was noted.</summary>
    private double? AwayMm(FindingRecord finding, PassRecord? pass)
    {
        var round = CouponBudget.JointLengthMm(Template);
        return new[] { pass?.StartAt, pass?.StopAt }
            .Select(at =>
                finding.ClockMinutes is { } minutes && ClockPosition.TryParse(at, out var clock)
                    ? clock.MinutesFrom(minutes) * round / ClockPosition.MinutesRound
                : finding.FromStartMm is { } from && double.TryParse(at, System.Globalization.CultureInfo.InvariantCulture, out var mm)
                    ? Math.Abs(mm - from)
                : (double?)null
            )
            .Min();
    }

    /// <summary>How long it was purged before the first pass; null when no purge was timed.</summary>
    private double? PurgedMinutes()
    {
        var first = Passes.Count > 0 ? Passes[0].RecordedAt : (DateTimeOffset?)null;
        return first is { } began && Events.Any(one => one.Body.Timer == BenchTimer.Purge)
            ? CouponLife.Minutes(Events, BenchTimer.Purge, began)
            : null;
    }

    private MeasuredFinding? MeasuredAt(BenchEvent one) =>
        CouponLife.Finding(one.Body, ClockPosition.TryParse(one.Body.At, out var at) ? at.Minutes : null);

    /// <summary>The half of a split coupon in which a clock position lies; null for a coupon that is one.</summary>
    private string? HalfAt(string at) => Template.Halves.FirstOrDefault(half => CouponJudge.LiesIn(half, ClockPosition.Parse(at).Minutes))?.Id;

    private static IEnumerable<T> Standing<T>(IEnumerable<T> records)
        where T : CouponRecord =>
        records.Where(record => record.WithdrawnAt is null).OrderBy(record => record.RecordedAt).ThenBy(record => record.Id);
}
