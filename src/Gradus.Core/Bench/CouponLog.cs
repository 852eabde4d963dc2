using Gradus.Core.Coaching;
using Gradus.Core.Inspection;
using Gradus.Core.Joints;
using Gradus.Core.Library;
using Gradus.Core.Measure;
using Gradus.Core.Welding;

namespace Gradus.Core.Bench;

/// <summary>
/// A coupon as plain values, and what follows from them: its plan, its sections, what is next, what is due, its verdict. Pure: whoever asks
/// brings the record, and the time where it counts. What may be recorded on it is in <see cref="MayRecord"/>.
/// </summary>
public sealed class CouponLog
{
    private readonly IReadOnlyList<PlannedBead> plannedBeads;
    private readonly FitUpMeasured measured;

    /// <param name="test">The test with the coupon's variants applied.</param>
    /// <param name="drillId">The drill; null for a full coupon.</param>
    /// <param name="asTest">True when it is made unaided under the rules of the test.</param>
    /// <exception cref="ArgumentException">The test has no such drill.</exception>
    public CouponLog(TestTemplate test, AcceptanceProfile profile, string? drillId, bool asTest, CouponRecords records)
    {
        (Test, Profile, DrillId, AsTest) = (test, profile, drillId, asTest);
        Stages = test.StagesOf(drillId);
        FitUp = InOrder(records.FitUps, one => (one.At, one.Id)) is [.., var last] ? last : null;
        Passes = InOrder(records.Passes, one => (one.At, one.Id));
        Findings = InOrder(records.Findings, one => (one.At, one.Id));
        Events = InOrder(records.Events, one => (one.At, one.Id));
        Closing = records.Closing;
        measured = FitUp?.Measured ?? new FitUpMeasured([], [], new Dictionary<string, bool>());
        Measures = [.. Events.Where(one => one.Kind == BenchEventKind.Measured).Select(MeasuredAt).OfType<MeasuredFinding>()];
        plannedBeads = test.Beads();
        FitUpReport = FitUpCheck.Check(test.FitUp, measured, test.Specimens);
    }

    public TestTemplate Test { get; }
    public AcceptanceProfile Profile { get; }
    public string? DrillId { get; }
    public bool AsTest { get; }

    /// <summary>The stages that are welded.</summary>
    public IReadOnlyList<Stage> Stages { get; }

    /// <summary>The fit-up that stands; the last one that was recorded.</summary>
    public LoggedFitUp? FitUp { get; }

    /// <summary>The passes, in the order in which they were laid.</summary>
    public IReadOnlyList<LoggedPass> Passes { get; }

    /// <summary>The findings, in the order in which they were made.</summary>
    public IReadOnlyList<LoggedFinding> Findings { get; }

    /// <summary>Everything else that happened, in order.</summary>
    public IReadOnlyList<BenchEvent> Events { get; }

    /// <summary>The closing that stands; null while the coupon is open.</summary>
    public LoggedClosing? Closing { get; }

    /// <summary>Heights of face and root as they were measured, as findings; they follow the findings in a verdict.</summary>
    public IReadOnlyList<MeasuredFinding> Measures { get; }

    public FitUpReport FitUpReport { get; }

    public FitUpNumbers FitUpNumbers => FitUpNumbers.Of(Test.Joint, Test.FitUp, Test.Positions[0], measured);

    public CouponState State => CouponLife.State(Events, FitUp is not null, Passes.Count > 0, Closing is not null);

    /// <summary>Whether it is closed and whether it was given up, each since when. A coupon that was given up is closed with it.</summary>
    public CouponStanding Standing
    {
        get
        {
            var voided = Events.LastOrDefault(one => one.Kind == BenchEventKind.Voided)?.At;
            return new CouponStanding(Closing?.At ?? voided, voided);
        }
    }

    /// <summary>The position was witnessed, at the fit-up or since.</summary>
    public bool PositionStands => CouponLife.PositionStands(Events, measured.Answers.GetValueOrDefault("position"));

    /// <summary>The beads of the coupon or drill, in the order of welding.</summary>
    public IEnumerable<PlannedBead> Beads => plannedBeads.Where(bead => Stages.Contains(bead.Stage));

    /// <summary>The places where face and root are measured, as they are written.</summary>
    public IReadOnlyList<string> MeasuredPlaces => Test.Product == Product.Pipe ? Test.FitUp.Points : PlateMarks;

    private static readonly string[] PlateMarks = [.. Enum.GetValues<PlateMark>().Select(mark => Place.At(mark).ToString())];

    /// <summary>The hold points that the next pass stands before.</summary>
    public IReadOnlyList<string> HoldsDue =>
        CouponLife.HoldsDue(Test.Rules.HoldPoints, Events, Next().Stage, [.. Passes.Select(pass => pass.Stage).Distinct()]);

    /// <summary>The rules of the sitting that were broken, as they stand at a moment.</summary>
    public IReadOnlyList<Breach> Breaches(DateTimeOffset now) =>
        CouponLife.Breaches(
            Test.Rules,
            Events,
            [.. Passes.Select(pass => new LaidPass(pass.Technique, pass.At))],
            [.. Findings.Select(finding => finding.ToMeasured())],
            Closing?.At ?? now
        );

    /// <summary>True when a coupon under test broke a rule of the sitting: it counts as coached work only.</summary>
    public bool IsDowngraded(DateTimeOffset now) => AsTest && Breaches(now).Count > 0;

    /// <summary>The specimens as they were tested last, by their number in the test.</summary>
    public IReadOnlyList<SpecimenVerdict> Specimens() =>
        [
            .. Events
                .Where(one => one.Kind == BenchEventKind.SpecimenTested)
                .GroupBy(one => one.Body.Specimen!.Value)
                .Select(group => group.Last())
                .Select(one => (one.Body.Specimen, Verdict: CouponLife.Judge(Profile, Test.Joint.ThicknessMm, one.Body)))
                .Where(one => one.Verdict is not null)
                .Select(one => new SpecimenVerdict(one.Specimen!.Value, Test.Specimens[one.Specimen.Value].Kind, one.Verdict!))
                .OrderBy(one => one.Specimen),
        ];

    /// <summary>What comes next.</summary>
    public NextStep Next()
    {
        if (Closing is not null)
        {
            return new NextStep(NextKind.Closed, null, null, null, null);
        }

        var laid = Laid();
        var bead = Beads.FirstOrDefault(bead => !laid.Contains(bead.Key));
        return FitUp is null ? new NextStep(NextKind.FitUp, null, null, null, null)
            : bead is null ? new NextStep(NextKind.Look, null, null, null, null)
            : new NextStep(NextKind.Pass, bead.Key, bead.Stage, bead.Layer, bead.BeadInLayer, bead.Pass);
    }

    /// <summary>The verdict as it stands. A stage counts once all its planned beads are laid: half a cap is not a clean cap.</summary>
    public CouponVerdict Verdict()
    {
        var laid = Laid();
        return CouponJudge.Judge(Test, Profile, DrillId, Finished, [.. Findings.Select(finding => finding.ToMeasured()), .. Measures], Specimens());

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

    /// <summary>The closing of this moment, with everything that is kept of it; or why it cannot be closed.</summary>
    public (Closing? Made, NotPossible? Refusal) Close(DateTimeOffset at)
    {
        var verdict = Verdict();
        return MayRecord.Close(this, verdict) is { } refusal ? (null, refusal) : (new Closing(verdict, FactsOf(verdict), IsDowngraded(at)), null);
    }

    /// <summary>The section at each point where the fit-up was measured, or the planned one before that.</summary>
    public IReadOnlyList<SectionView> Sections()
    {
        var points = MeasuredPoints();
        return points.Count == 0
            ? Test.Halves.Count == 0
                ? [new SectionView(null, Test.Section())]
                : [.. Test.FitUp.Points.Select(at => new SectionView(at, Test.Section(null, HalfAt(at))))]
            : [.. points.Select(point => new SectionView(point.At, Test.Section(point, HalfAt(point.At))))];
    }

    /// <summary>Which elements of the test were clean by a verdict.</summary>
    public Dictionary<string, bool> ElementClean(CouponVerdict verdict)
    {
        List<MeasuredFinding> judged = [.. Findings.Select(finding => finding.ToMeasured()), .. Measures];
        return TestElements.Clean(
            Test,
            verdict.StageClean,
            [
                .. verdict
                    .Visual.Reasons.Where(reason => reason.Outcome == VerdictKind.Reject && reason.Finding < judged.Count)
                    .Select(reason => judged[reason.Finding]),
            ]
        );
    }

    /// <summary>What was recorded around a finding, for the ranking of its causes.</summary>
    public CauseFacts CauseFactsOf(LoggedFinding finding)
    {
        var point = Nearest(finding);
        var plan = Test.Passes.FirstOrDefault(pass => pass.Stage == finding.Stage);
        var pass = Passes.LastOrDefault(one => one.Id == finding.PassId) ?? Passes.LastOrDefault(one => one.Stage == finding.Stage);
        var capPlanned = plannedBeads.Count(bead => bead.Stage == Stage.Cap);
        var capLaid = Passes.Count(one => one.Stage == Stage.Cap);
        var beforeCap = Passes.LastOrDefault(one => one.Stage < Stage.Cap && one.BelowFlushMm is not null);
        return new CauseFacts(
            finding.Stage,
            point?.RootOpeningMm,
            Test.Joint.RootOpeningMm,
            point?.RootFaceMm,
            Test.Joint.RootFaceMm,
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
            PurgeNeededMinutes: CouponBudget.PurgeOf(Test).Minutes is > 0 and var needed ? needed : null
        );
    }

    /// <summary>The specimens that a finding threatens.</summary>
    public IReadOnlyList<int> Threatened(LoggedFinding finding) =>
        CouponLife.Threatened(
            Test.Specimens,
            finding.ClockMinutes,
            finding.Place?.AlongMm(Test.Joint.LengthMm ?? 0),
            Test.Joint.Pipe is null ? 0 : CouponBudget.JointLengthMm(Test)
        );

    private ClosingFacts FactsOf(CouponVerdict verdict)
    {
        var specimens = Specimens();
        var rejected = verdict
            .Visual.Reasons.Where(reason => reason.Outcome == VerdictKind.Reject && reason.Finding < Findings.Count)
            .Select(reason => Findings[reason.Finding])
            .Distinct()
            .ToList();
        var least = Test.FitUp.Tolerances.FirstOrDefault(one => one.Measure == FitUpMeasure.RootOpeningMm)?.Min;
        var minutes = Passes.Count < 2 ? (double?)null : (Passes.Max(pass => pass.At) - Passes.Min(pass => pass.At)).TotalMinutes;
        return new ClosingFacts(
            ElementClean(verdict),
            specimens.Count,
            specimens.Count(one => one.Verdict.Kind == VerdictKind.Reject),
            FitUp is null ? null : FitUpReport.Outcome is FitUpOutcome.Go or FitUpOutcome.Warn,
            [.. rejected.Select(Fault)],
            measured.Points.Any(point => point.RootOpeningMm < least),
            Passes.Any(pass =>
                Test.Passes.FirstOrDefault(plan => plan.Stage == pass.Stage)?.Settings.Amps is { } range
                && (pass.Amps < range.Min || pass.Amps > range.Max)
            ),
            minutes,
            FillShare()
        );
    }

    private double? FillShare()
    {
        double ToFill(FitUpPoint? point) => BeadPlanner.ToFillMm2(JointShape.Of(Test.Joint, point), Test.Joint.Backing.Kind);
        var points = MeasuredPoints();
        var planned = ToFill(null);
        return points.Count == 0 || planned <= 0 ? null : points.Average(ToFill) / planned;
    }

    /// <summary>Where the fit-up was measured, of the places that the test asks for.</summary>
    private List<FitUpPoint> MeasuredPoints() => [.. measured.Points.Where(point => Test.FitUp.Points.Contains(point.At))];

    private SeenFault Fault(LoggedFinding finding)
    {
        var zoned = TestElements.IsZoned(Test) && finding.ClockMinutes is not null;
        var away = CauseFactsOf(finding).StartStopAwayMm;
        return new SeenFault(
            finding.Kind,
            finding.Stage,
            zoned ? TestElements.ZoneOf(finding.ClockMinutes!.Value) : null,
            Events.LastOrDefault(one => one.Kind == BenchEventKind.CauseChosen && one.Body.FindingId == finding.Id)?.Body.CauseId,
            away <= TradeNumbers.Of("restartReachMm")
        );
    }

    /// <summary>The point of the fit-up that lies nearest to a finding: on the clock, or at the nearer end of a plate.</summary>
    private FitUpPoint? Nearest(LoggedFinding finding)
    {
        var length = Test.Joint.LengthMm ?? 0;
        return finding.ClockMinutes is { } minutes
            ? measured
                .Points.Where(point => PlaceOf(point.At)?.Clock is not null)
                .MinBy(point => PlaceOf(point.At)!.Value.Clock!.Value.MinutesFrom(minutes))
            : measured.Points.MinBy(point => Math.Abs((PlaceOf(point.At)?.AlongMm(length) ?? 0) - (finding.Place?.AlongMm(length) ?? 0)));
    }

    /// <summary>How far along the joint the nearest start or stop of a pass lies; null when none was noted.</summary>
    private double? AwayMm(LoggedFinding finding, LoggedPass? pass)
    {
        var round = CouponBudget.JointLengthMm(Test);
        var from = finding.Place?.AlongMm(round);
        return new[] { pass?.StartAt, pass?.StopAt }
            .OfType<Place>()
            .Select(at =>
                finding.ClockMinutes is { } minutes && at.Clock is { } clock
                    ? clock.MinutesFrom(minutes) * round / ClockPosition.MinutesRound
                    : Math.Abs((at.AlongMm(round) - from) ?? double.NaN)
            )
            .Where(away => !double.IsNaN(away))
            .Select(away => (double?)away)
            .Min();
    }

    /// <summary>How long it was purged before the first pass; null when no purge was timed.</summary>
    private double? PurgedMinutes()
    {
        var first = Passes.Count > 0 ? Passes[0].At : (DateTimeOffset?)null;
        return first is { } began && Events.Any(one => one.Body.Timer == BenchTimer.Purge)
            ? CouponLife.Minutes(Events, BenchTimer.Purge, began)
            : null;
    }

    private MeasuredFinding? MeasuredAt(BenchEvent one) => CouponLife.Finding(one.Body, PlaceOf(one.Body.At)?.Clock?.Minutes);

    internal Place? PlaceOf(string? at) => Place.TryParse(at, Test.Product, out var place) ? place : null;

    private HashSet<string> Laid() => [.. Passes.Select(pass => pass.BeadKey)];

    /// <summary>The half of a split coupon in which a clock position lies; null for a coupon that is one.</summary>
    private string? HalfAt(string at) => Test.Halves.FirstOrDefault(half => CouponJudge.LiesIn(half, PlaceOf(at)?.Clock?.Minutes))?.Id;

    private static IReadOnlyList<T> InOrder<T>(IReadOnlyList<T> records, Func<T, (DateTimeOffset At, Guid Id)> order) =>
        [.. records.OrderBy(one => order(one).At).ThenBy(one => order(one).Id)];
}
