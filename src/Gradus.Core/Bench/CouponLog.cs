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
public sealed partial class CouponLog
{
    private readonly IReadOnlyList<PlannedBead> plannedBeads;
    private readonly FitUpMeasured measured;
    private readonly HashSet<string> laid;
    private readonly bool safetySigned;
    private IReadOnlyList<MeasuredFinding>? seen;

    /// <param name="test">The test with the coupon's variants applied.</param>
    /// <param name="drillId">The drill; null for a full coupon.</param>
    /// <param name="asTest">True when it is made unaided under the rules of the test.</param>
    /// <exception cref="ArgumentException">The test has no such drill.</exception>
    public CouponLog(TestTemplate test, AcceptanceProfile profile, string? drillId, bool asTest, CouponRecords records)
    {
        (Profile, DrillId, AsTest) = (profile, drillId, asTest);
        Events = InOrder(records.Events, one => (one.At, one.Id));
        var beads = CouponBeads.Of(test, Events, InOrder(records.Passes, one => (one.At, one.Id)));
        (Test, plannedBeads, Passes) = (beads.Test, beads.Beads, beads.Passes);
        Stages = Test.StagesOf(drillId);
        FitUp = InOrder(records.FitUps, one => (one.At, one.Id)) is [.., var last] ? last : null;
        Findings = [.. InOrder(records.Findings, one => (one.At, one.Id)).Select(Corrected)];
        safetySigned = records.SafetySigned;
        Closings =
        [
            .. records.Closing is { } first ? [first] : Array.Empty<LoggedClosing>(),
            .. InOrder(records.Later ?? [], one => (one.At, one.Id)),
        ];
        measured = FitUp?.Measured ?? new FitUpMeasured([], [], new Dictionary<string, bool>());
        Measures = [.. Events.Where(one => one.Kind == BenchEventKind.Measured).Select(MeasuredAt).OfType<MeasuredFinding>()];

        // From a drill no strip is cut.
        FitUpReport = FitUpCheck.Check(Test.FitUp, measured, drillId is null ? Test.Specimens : []);
        laid =
        [
            .. Passes
                .GroupBy(pass => pass.BeadKey)
                .Where(runs => plannedBeads.FirstOrDefault(bead => bead.Key == runs.Key) is { } bead && BeadRuns.AreWhole(Test, bead, [.. runs]))
                .Select(runs => runs.Key),
        ];
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

    /// <summary>The closings that stand: the one that was signed first, and those that stand beside it since.</summary>
    public IReadOnlyList<LoggedClosing> Closings { get; }

    /// <summary>The closing that counts, the latest; null while the coupon is open.</summary>
    public LoggedClosing? Closing => Closings is [.., var last] ? last : null;

    /// <summary>The closing that was signed first, by eye; null while the coupon is open.</summary>
    public LoggedClosing? FirstClosing => Closings is [var first, ..] ? first : null;

    /// <summary>What was repaired, of each finding.</summary>
    public Repair RepairOf(LoggedFinding finding) => Repairs.Of(finding.Id, Events);

    /// <summary>How each place of a repair drill came out; empty when the test is no such drill.</summary>
    public IReadOnlyList<RepairScore> Scores => Repairs.Scores(Test.Repairing, Findings, Events);

    /// <summary>The runs that a bead was laid in so far.</summary>
    public IReadOnlyList<LoggedPass> RunsOf(string beadKey) => [.. Passes.Where(pass => pass.BeadKey == beadKey)];

    /// <summary>The usual runs of a bead that were not laid yet, for a welder of that hand.</summary>
    public IReadOnlyList<PlannedRun> RunsLeft(PlannedBead bead, OperatorHand hand) =>
        CouponBeads.IsPatch(bead.Key) ? [] : BeadRuns.Left(Test, bead, hand, RunsOf(bead.Key));

    /// <summary>Of the places that are measured, those to which the runs of a bead reach so far: all of them once it is laid from end to end.</summary>
    public IReadOnlyList<string> LaidAt(PlannedBead bead)
    {
        var runs = RunsOf(bead.Key);
        return IsLaid(bead.Key) ? Test.FitUp.Points : [.. Test.FitUp.Points.Where(at => runs.Any(run => Reaches(run, PlaceOf(at)) == true))];
    }

    /// <summary>Whether a bead is a patch, by its key.</summary>
    public static bool IsPatch(string beadKey) => CouponBeads.IsPatch(beadKey);

    /// <summary>What is asked when a bead is laid.</summary>
    public IEnumerable<Ask> AskedOf(PlannedBead bead) => Asks.Of(Test, bead, plannedBeads, Passes);

    /// <summary>Whether a bead is laid from end to end.</summary>
    public bool IsLaid(string beadKey) => laid.Contains(beadKey);

    /// <summary>The hold point of the test that is named, by its id or as it is said; null when it has none.</summary>
    public HoldPoint? HoldNamed(string? named) => Test.Rules.HoldPoints.FirstOrDefault(point => CouponLife.Names(point, named));

    /// <summary>The hold points that wait for the instructor.</summary>
    public IReadOnlyList<OpenHold> Holds => CouponLife.Holds(Events, Test.Rules.HoldPoints);

    /// <summary>Heights of face and root as they were measured, as findings; they follow the findings in a verdict.</summary>
    public IReadOnlyList<MeasuredFinding> Measures { get; }

    public FitUpReport FitUpReport { get; }

    public FitUpNumbers FitUpNumbers => FitUpNumbers.Of(Test.Joint, Test.FitUp, Test.Positions[0], measured);

    public CouponState State => CouponLife.State(Events, FitUp is not null, Passes.Count > 0, Closings.Count > 0);

    /// <summary>Whether it is closed and whether it was given up, each since when. A coupon that was given up is closed with it.</summary>
    public CouponStanding Standing
    {
        get
        {
            var voided = Events.LastOrDefault(one => one.Kind == BenchEventKind.Voided)?.At;
            return new CouponStanding(FirstClosing?.At ?? voided, voided);
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
    public IReadOnlyList<HoldPoint> HoldsDue => HoldsBefore(Next().Stage);

    /// <summary>What comes next.</summary>
    public NextStep Next()
    {
        if (Closing is not null)
        {
            return new NextStep(NextKind.Closed, null, null, null, null);
        }

        var bead = Beads.FirstOrDefault(bead => !laid.Contains(bead.Key));
        return FitUp is null ? new NextStep(NextKind.FitUp, null, null, null, null)
            : bead is null ? new NextStep(NextKind.Look, null, null, null, null)
            : new NextStep(NextKind.Pass, bead.Key, bead.Stage, bead.Layer, bead.BeadInLayer, bead.Pass);
    }

    /// <summary>The section at each point where the fit-up was measured, or the planned one before that.</summary>
    public IEnumerable<SectionView> Sections()
    {
        var points = MeasuredPoints();
        return points.Count == 0
            ? Test.Halves.Count == 0
                ? [new SectionView(null, Section(null, null))]
                : Test.FitUp.Points.Select(at => new SectionView(at, Section(null, at)))
            : points.Select(point => new SectionView(point.At, Section(point, point.At)));
    }

    private JointSection Section(FitUpPoint? point, string? at)
    {
        var section = Test.Section(point, at is null ? null : HalfAt(at));
        var patches = plannedBeads.Where(bead => CouponBeads.IsPatch(bead.Key)).ToList();
        return patches.Count == 0
            ? section
            : section with
            {
                Beads =
                [
                    .. section.Beads,
                    .. patches.Select((bead, index) => bead with { Outline = BeadPlanner.Patch(section, index, patches.Count) }),
                ],
            };
    }

    /// <summary>What was recorded around a finding, for the ranking of its causes.</summary>
    public CauseFacts CauseFactsOf(LoggedFinding finding)
    {
        var point = Nearest(finding);
        var pass = PassOf(finding);
        var plan = pass is null ? Test.Passes.FirstOrDefault(one => one.Stage == finding.Stage && IsOfHalf(one, finding)) : PlanOf(pass);
        var capPlanned = plannedBeads.Count(bead => bead.Stage == Stage.Cap);
        var capLaid = Passes.Where(one => one.Stage == Stage.Cap).Select(one => one.BeadKey).Distinct().Count();
        return new CauseFacts(
            finding.Stage,
            point?.RootOpeningMm,
            Test.Joint.RootOpeningMm,
            point?.RootFaceMm,
            Test.Joint.RootFaceMm,
            point?.OffsetMm,
            point?.StripGapMm,
            pass?.Arc?.MeanAmps ?? pass?.Amps,
            plan?.Settings.Amps,
            pass?.Arc?.MeanVolts ?? pass?.Volts,
            plan?.Settings.Volts,
            pass?.WireFeedMmPerMin,
            plan?.Settings.WireFeedMmPerMin,
            StickOutMm: OfProcess(pass, run => run.StickOutMm),
            CardStickOut: plan?.Settings.StickOutMm,
            GasFlowLPerMin: OfProcess(pass, run => run.GasFlowLPerMin),
            CardGasFlow: plan?.Settings.GasFlowLPerMin,
            StartStopAwayMm: AwayMm(finding, pass),
            FillBelowFlushMm: finding.Stage == Stage.Cap ? BelowFlush(finding) : null,
            CapBeads: finding.Stage == Stage.Cap && capLaid > 0 && capLaid < capPlanned ? capLaid : null,
            PlannedCapBeads: capPlanned,
            ClockMinutes: finding.ClockMinutes,
            PurgeMinutes: PurgedMinutes(),
            PurgeNeededMinutes: CouponBudget.PurgeOf(Test).Minutes is > 0 and var needed ? needed : null,
            KeyholeLarge: pass?.Measured?.Keyhole is { } keyhole ? keyhole == Keyhole.Large : null,
            GapAtTieInMm: pass?.Measured?.GapAtTieInMm,
            ElectrodeMm: pass?.DiameterMm,
            RodOutHours: OfProcess(pass, run => run.RodOutHours),
            BrushedOnly: pass?.Measured?.Cleaned is { } cleaned ? cleaned == Cleaning.Brushed : null,
            StopAsIs: pass?.Measured?.StopDress is { } dress ? dress == StopDress.AsIs : null,
            OxygenPercent: pass?.Measured?.OxygenPercent,
            CupNumber: (int?)OfProcess(pass, run => run.CupNumber),
            Process: pass?.Process ?? plan?.Process,
            Position: Test.Positions[0],
            Joint: CoachBook.JointOf(Test),
            Family: plan?.Family,
            Metal: Test.BaseMetal,
            Shape: finding.Shape ?? ShapeOf(finding.Toe),
            LongArcShare: pass?.Arc?.LongArcShare,
            RhythmCv: pass?.Arc?.RhythmCv,
            ArcDriftVolts: pass?.Arc?.DriftVolts,
            TipDriftShare: pass?.Arc?.TipDriftShare,
            FeedSpread: pass?.Arc?.FeedSpread,
            FailedStarts: pass?.Arc?.FailedStarts,
            AtTheArc: pass?.Arc is not null
        );
    }

    /// <summary>What the toe at which a finding lies says of its shape. Member A of a section that lies is the lower one.</summary>
    private FindingShape? ShapeOf(JointMember? toe) =>
        toe is not { } member ? null
        : BeadPlanner.OrderIn(Test.Positions[0]) == BeadOrder.SideToSide ? FindingShape.OneWall
        : member == JointMember.A ? FindingShape.LowerToe
        : FindingShape.UpperToe;

    /// <summary>The specimens that a finding threatens.</summary>
    public IReadOnlyList<int> Threatened(LoggedFinding finding) =>
        CouponLife.Threatened(
            Test.Specimens,
            finding.ClockMinutes,
            finding.Place?.AlongMm(Test.Joint.LengthMm ?? 0),
            Test.Joint.Pipe is null ? 0 : CouponBudget.JointLengthMm(Test)
        );

    /// <summary>Where the fit-up was measured, of the places that the test asks for.</summary>
    private List<FitUpPoint> MeasuredPoints() => [.. measured.Points.Where(point => Test.FitUp.Points.Contains(point.At))];

    /// <summary>The pass that a finding was made in: the one that it names, else the last of its stage that reaches to its place.</summary>
    private LoggedPass? PassOf(LoggedFinding finding)
    {
        var own = Passes.Where(one => one.Stage == finding.Stage).ToList();
        return Passes.LastOrDefault(one => one.Id == finding.PassId) ?? own.LastOrDefault(one => Reaches(one, finding)) ?? own.LastOrDefault();
    }

    /// <summary>Whether a pass was laid where a finding lies, by its half and by its stretch.</summary>
    private bool Reaches(LoggedPass pass, LoggedFinding finding)
    {
        if (plannedBeads.FirstOrDefault(bead => bead.Key == pass.BeadKey) is { } bead && !IsOfHalf(Test.Passes[bead.Pass], finding))
        {
            return false;
        }

        return !pass.Part || Reaches(pass, finding.Place) != false;
    }

    /// <summary>Whether a place lies in the stretch of a pass; null where the stretch or the place is not known.</summary>
    private bool? Reaches(LoggedPass pass, Place? place)
    {
        var length = Test.Joint.LengthMm ?? 0;
        return pass.Stretch?.On(length) is { } reach && (place?.Clock?.Minutes ?? place?.AlongMm(length)) is { } at
            ? reach.Holds(at, Test.Product == Product.Pipe)
            : null;
    }

    private bool IsOfHalf(PassPlan plan, LoggedFinding finding) =>
        plan.Half is null || Test.Halves.FirstOrDefault(half => half.Id == plan.Half) is not { } own || CouponJudge.LiesIn(own, finding.ClockMinutes);

    /// <summary>What was measured with a pass, or last before it with one of its process: it is asked once, not with every pass.</summary>
    private double? OfProcess(LoggedPass? pass, Func<RunMeasures, double?> measure) =>
        pass is null
            ? null
            : Passes
                .Where(one => one.Process == pass.Process && one.At <= pass.At && one.Measured is not null)
                .Select(one => measure(one.Measured!))
                .LastOrDefault(value => value is not null);

    /// <summary>How far below flush the fill was under the cap: at the level that was measured nearest to a finding, else as it was told for all.</summary>
    private double? BelowFlush(LoggedFinding finding)
    {
        var under = Passes.Where(one => one.Stage < Stage.Cap).ToList();
        return under
                .SelectMany(one => one.Measured?.Levels ?? [])
                .Where(level => PlaceOf(level.At) is not null)
                .MinBy(level => AlongMm(finding, PlaceOf(level.At)!.Value) ?? double.MaxValue)
                ?.BelowFlushMm
            ?? under.LastOrDefault(one => one.BelowFlushMm is not null)?.BelowFlushMm;
    }

    /// <summary>What is planned for a pass: of the bead that it laid.</summary>
    private PassPlan? PlanOf(LoggedPass pass) =>
        plannedBeads.FirstOrDefault(bead => bead.Key == pass.BeadKey) is { } bead
            ? Test.Passes[bead.Pass]
            : Test.Passes.FirstOrDefault(plan => plan.Stage == pass.Stage);

    /// <summary>Whether a finding lies at a tack, a start or a stop, where the grinder may be used in most sittings.</summary>
    private bool IsAtTackOrStop(LoggedFinding finding)
    {
        var reach = TradeNumbers.Of("restartReachMm");
        return finding.Kind == DiscontinuityKind.PoorRestart
            || Passes.Where(pass => pass.Stage == finding.Stage).Any(pass => AwayMm(finding, pass) <= reach)
            || measured.Tacks.Any(tack => PlaceOf(tack.At) is { } at && AlongMm(finding, at) <= reach);
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
    private double? AwayMm(LoggedFinding finding, LoggedPass? pass) =>
        new[] { pass?.StartAt, pass?.StopAt }.OfType<Place>().Select(at => AlongMm(finding, at)).Min();

    /// <summary>How far along the joint a place lies from a finding, in mm; null when that cannot be told.</summary>
    private double? AlongMm(LoggedFinding finding, Place at)
    {
        var round = CouponBudget.JointLengthMm(Test);
        return finding.ClockMinutes is { } minutes && at.Clock is { } clock ? clock.MinutesFrom(minutes) * round / ClockPosition.MinutesRound
            : Math.Abs((at.AlongMm(round) - finding.Place?.AlongMm(round)) ?? double.NaN) is var away && double.IsNaN(away) ? null
            : away;
    }

    /// <summary>How long it was purged before the first pass; null when no purge was timed.</summary>
    private double? PurgedMinutes()
    {
        var first = Passes.Count > 0 ? Passes[0].At : (DateTimeOffset?)null;
        return first is { } began && Events.Any(one => one.Body.Timer == BenchTimer.Purge)
            ? CouponLife.Minutes(Events, BenchTimer.Purge, began)
            : null;
    }

    private MeasuredFinding? MeasuredAt(BenchEvent one) =>
        CouponLife.Finding(one.Body, PlaceOf(one.Body.At)?.Clock?.Minutes) is { } finding
            ? finding with
            {
                AtMm = AlongWeldMm(PlaceOf(one.Body.At)),
                FaceHeightThereMm = FaceHeightAt(PlaceOf(one.Body.At)),
            }
            : null;

    internal Place? PlaceOf(string? at) => Place.TryParse(at, Test.Product, out var place) ? place : null;

    /// <summary>The hold points that a pass of a stage stands before.</summary>
    public IReadOnlyList<HoldPoint> HoldsBefore(Stage? stage) =>
        CouponLife.HoldsDue(Test.Rules.HoldPoints, Events, stage, [.. Passes.Select(pass => pass.Stage).Distinct()]);

    /// <summary>A finding as it was put right last.</summary>
    private LoggedFinding Corrected(LoggedFinding finding)
    {
        var said = Events.LastOrDefault(one => one.Kind == BenchEventKind.FindingCorrected && one.Body.FindingId == finding.Id)?.Body.Finding;
        return said is null
            ? finding
            : finding with
            {
                Kind = said.Kind ?? finding.Kind,
                Stage = said.Stage ?? finding.Stage,
                Place =
                    ClockPosition.TryParse(said.Clock, out var clock) ? Place.At(clock)
                    : said.FromStartMm is { } mm ? Place.At(mm)
                    : finding.Place,
                DepthMm = said.DepthMm,
                HeightMm = said.HeightMm,
                LengthMm = said.LengthMm,
                DiameterMm = said.DiameterMm,
                WidthMm = said.WidthMm,
                Count = said.Count,
                Toe = said.Toe,
                FaceHeightThereMm = said.FaceHeightThereMm,
                Shape = said.Shape,
            };
    }

    /// <summary>The half of a split coupon in which a clock position lies; null for a coupon that is one.</summary>
    private string? HalfAt(string at) => Test.Halves.FirstOrDefault(half => CouponJudge.LiesIn(half, PlaceOf(at)?.Clock?.Minutes))?.Id;

    private static IReadOnlyList<T> InOrder<T>(IReadOnlyList<T> records, Func<T, (DateTimeOffset At, Guid Id)> order) =>
        [.. records.OrderBy(one => order(one).At).ThenBy(one => order(one).Id)];
}
