using Gradus.Core.Bench;
using Gradus.Core.Inspection;
using Gradus.Core.Joints;
using Gradus.Core.Library;
using Gradus.Core.Measure;
using Gradus.Core.Readiness;

namespace Gradus.Core.Tests.Bench;

/// <summary>A coupon as plain values: what may be recorded on it, and what follows.</summary>
public sealed class CouponLogTests
{
    private const double Inch = 25.4;
    private static readonly DateTimeOffset Noon = new(2031, 3, 4, 12, 0, 0, TimeSpan.Zero);
    private static readonly TestTemplate Plate = TestLibrary.Shipped["P8"];
    private static readonly TestTemplate Pipe = TestLibrary.Shipped["R3"];

    private static CouponLog Log(CouponRecords records, TestTemplate? test = null, string? drill = null, bool asTest = true) =>
        new(test ?? Plate, AcceptanceProfiles.Shipped[(test ?? Plate).Code], drill, asTest, records);

    private static Guid Id(int n) => new($"00000000-0000-7000-8000-{n:D12}");

    private static LoggedPass Pass(string key, double minute, double amps = 200, int n = 0) =>
        new(
            Id(n == 0 ? key.GetHashCode(StringComparison.Ordinal) & 0xFFFFFF : n),
            Noon.AddMinutes(minute),
            key,
            Enum.Parse<Stage>(key.Split('-')[0], ignoreCase: true),
            1,
            Process.FcawS,
            "E71T-11",
            1.143,
            Polarity.Dcen,
            amps
        );

    private static List<LoggedPass> All(TestTemplate test, Func<string, bool>? but = null) =>
        [.. test.Beads().Where(bead => but is null || !but(bead.Key)).Select((bead, index) => Pass(bead.Key, index * 5))];

    private static LoggedFinding Finding(DiscontinuityKind kind, Stage stage, double? at = 50, double? depth = null, double minute = 60, int n = 1) =>
        new(Id(n), Noon.AddMinutes(minute), null, kind, stage, at is { } mm ? Place.At(mm) : null, DepthMm: depth);

    private static BenchEvent Event(BenchEventKind kind, BenchEventBody? body = null, double minute = 70, int n = 9) =>
        new(Id(n), kind, Noon.AddMinutes(minute), body ?? new BenchEventBody());

    private static CouponRecords With(
        List<LoggedPass> passes,
        List<LoggedFinding>? findings = null,
        List<BenchEvent>? events = null,
        LoggedClosing? closing = null,
        List<LoggedFitUp>? fitUps = null
    ) => new(fitUps ?? [], passes, findings ?? [], events ?? [], closing);

    private static string? Field(NotPossible? why) => why?.Field;

    [Fact]
    public void A_crack_rejects_a_coupon_whatever_else_is_clean() // AWS D1.1: no crack
    {
        var log = Log(With(All(Plate), [Finding(DiscontinuityKind.Crack, Stage.Cap)]));
        var (made, why) = log.Close(Noon.AddHours(2));
        Assert.Null(why);
        Assert.Equal(VerdictKind.Reject, made!.Verdict.Kind);
        Assert.Equal((true, false), (made.Verdict.StageClean[Stage.Root], made.Verdict.StageClean[Stage.Cap]));
        Assert.Equal((DiscontinuityKind.Crack, Stage.Cap), (made.Facts.Faults[0].Kind, made.Facts.Faults[0].Stage));
        Assert.False(made.Facts.ElementClean["cap"]);
    }

    [Fact]
    public void A_stage_counts_once_all_its_beads_are_laid()
    {
        var verdict = Log(With(All(Plate, key => key.StartsWith("cap", StringComparison.Ordinal) && key.EndsWith('3')))).Verdict();
        Assert.Equal(VerdictKind.CannotJudge, verdict.Kind);
        Assert.Equal([Stage.Cap], verdict.Missing);
        Assert.DoesNotContain(Stage.Cap, verdict.StageClean.Keys);
    }

    [Fact]
    public void Nothing_finished_and_nothing_rejected_is_nothing_to_judge()
    {
        Assert.Equal("passes", Field(Log(CouponRecords.None).Close(Noon).Refusal));
        Assert.Null(Log(With([], [Finding(DiscontinuityKind.Crack, Stage.Root)])).Close(Noon).Refusal); // a lost root ends a coupon
    }

    [Fact]
    public void A_finding_without_the_measure_that_its_limit_needs_keeps_a_coupon_open()
    {
        Assert.Equal("findings", Field(Log(With(All(Plate), [Finding(DiscontinuityKind.Undercut, Stage.Cap)])).Close(Noon).Refusal));
        Assert.Null(Log(With(All(Plate), [Finding(DiscontinuityKind.Undercut, Stage.Cap, depth: Inch / 64)])).Close(Noon).Refusal);
    }

    [Fact]
    public void A_closed_coupon_takes_nothing_but_its_giving_up_and_gives_back_only_what_decides_nothing()
    {
        var open = Log(With(All(Plate)));
        var closing = new LoggedClosing(Id(77), Noon.AddHours(2), open.Verdict());
        var log = Log(With(All(Plate), closing: closing));
        Assert.Equal((closing.At, null), (log.Standing.ClosedAt, log.Standing.VoidedAt));
        Assert.Equal("couponId", Field(MayRecord.Pass(log, "cap-4-1", null, null)));
        Assert.Equal("couponId", Field(MayRecord.Finding(log, null, Stage.Cap, null, 10)));
        Assert.Equal("couponId", Field(MayRecord.FitUp(log, new FitUpMeasured([], [], new Dictionary<string, bool>()))));
        Assert.Equal("couponId", Field(MayRecord.Event(log, BenchEventKind.TakenDown, new BenchEventBody())));
        Assert.Equal("couponId", Field(log.Close(Noon.AddHours(3)).Refusal));
        Assert.Null(MayRecord.Event(log, BenchEventKind.Voided, new BenchEventBody(Reason: VoidReason.Quenched)));
        Assert.Equal("couponId", Field(MayRecord.TakeBack(log, BenchRecord.Pass)));
        Assert.Equal("couponId", Field(MayRecord.TakeBack(log, BenchRecord.Event, Event(BenchEventKind.Breach))));
        Assert.All([BenchRecord.Closing, BenchRecord.Note, BenchRecord.Photo], record => Assert.Null(MayRecord.TakeBack(log, record)));
        Assert.Null(MayRecord.TakeBack(open, BenchRecord.Pass));
    }

    [Fact]
    public void A_coupon_that_was_given_up_is_closed_with_it_once_and_opens_again_when_that_is_taken_back()
    {
        var voided = Event(BenchEventKind.Voided, new BenchEventBody(Reason: VoidReason.Moved), 30);
        var log = Log(With([Pass("root-1-1", 1)], events: [voided]));
        Assert.Equal(new CouponStanding(voided.At, voided.At), log.Standing);
        Assert.Equal(CouponState.Void, log.State);
        Assert.Equal("kind", Field(MayRecord.Event(log, BenchEventKind.Voided, voided.Body)));
        Assert.Equal("couponId", Field(MayRecord.Pass(log, "fill-2-1", null, null)));
        Assert.Null(MayRecord.TakeBack(log, BenchRecord.Event, voided));
        Assert.Equal(new CouponStanding(null, null), Log(With([Pass("root-1-1", 1)])).Standing);

        // Closed first and given up after: it stays closed since it was.
        var closing = new LoggedClosing(Id(77), Noon.AddMinutes(20), Log(With(All(Plate))).Verdict());
        Assert.Equal(new CouponStanding(closing.At, voided.At), Log(With(All(Plate), events: [voided], closing: closing)).Standing);
    }

    [Theory]
    [InlineData("cap-9-9", null, null, "beadKey")]
    [InlineData("root-1-1", null, null, "beadKey")] // laid already
    [InlineData("fill-2-1", "160", null, "startAt")] // the plate is 152.4 mm long
    [InlineData("fill-2-1", "0", "nowhere", "stopAt")]
    [InlineData("fill-2-1", "57.150000000000006", "152.4", null)]
    [InlineData("fill-2-1", "152.6", null, null)] // a tap on a drawing may land a hair behind the end
    [InlineData("fill-2-1", "start", "end", null)]
    public void A_pass_lays_a_planned_bead_once_between_places_of_the_joint(string key, string? start, string? stop, string? field) =>
        Assert.Equal(field, Field(MayRecord.Pass(Log(With([Pass("root-1-1", 1)])), key, start, stop)));

    [Theory]
    [InlineData("P8", null, 10.0, null)]
    [InlineData("P8", null, 152.9, null)]
    [InlineData("P8", null, 153.0, "fromStartMm")]
    [InlineData("P8", "6:00", null, "fromStartMm")]
    [InlineData("P8", null, null, "fromStartMm")]
    [InlineData("R3", "6:00", null, null)]
    [InlineData("R3", "start", null, "clock")]
    [InlineData("R3", null, null, "clock")]
    [InlineData("R3", "6:00", 10.0, "clock")]
    public void A_finding_lies_on_the_clock_of_a_pipe_or_along_a_plate(string test, string? clock, double? from, string? field) =>
        Assert.Equal(field, Field(MayRecord.Finding(Log(CouponRecords.None, TestLibrary.Shipped[test]), null, Stage.Root, clock, from)));

    [Fact]
    public void A_finding_belongs_to_a_pass_and_a_stage_that_the_coupon_has()
    {
        var log = Log(With([Pass("root-1-1", 1, n: 5)]), drill: "rootOnly");
        Assert.Null(MayRecord.Finding(log, Id(5), Stage.Root, null, 1));
        Assert.Equal(NotPossibleKind.Unknown, MayRecord.Finding(log, Id(6), Stage.Root, null, 1)!.Kind);
        Assert.Equal("stage", Field(MayRecord.Finding(log, null, Stage.Cap, null, 1)));
        Assert.Null(MayRecord.Finding(log, null, Stage.FitUp, null, 1)); // a fit-up can be found fault with on any
    }

    [Fact]
    public void A_fit_up_is_measured_at_the_points_of_the_test_with_tacks_on_the_joint()
    {
        var log = Log(CouponRecords.None);
        static FitUpMeasured Measured(string at = "start", double face = 0, string tack = "end", string question = "cleaned") =>
            new([new FitUpPoint(at, RootFaceMm: face)], [new Tack(tack, 12.7, true)], new Dictionary<string, bool> { [question] = true });
        Assert.Null(MayRecord.FitUp(log, Measured()));
        Assert.Null(MayRecord.FitUp(log, Measured(tack: "57.150000000000006")));
        Assert.Equal("points", Field(MayRecord.FitUp(log, Measured(at: "12"))));
        Assert.Equal("points", Field(MayRecord.FitUp(log, Measured(face: Plate.Joint.ThicknessMm + 0.01))));
        Assert.Null(MayRecord.FitUp(log, Measured(face: Plate.Joint.ThicknessMm)));
        Assert.Equal("tacks", Field(MayRecord.FitUp(log, Measured(tack: "200"))));
        Assert.Equal("tacks", Field(MayRecord.FitUp(log, Measured(tack: "on the back"))));
        Assert.Equal("answers", Field(MayRecord.FitUp(log, Measured(question: "polished"))));
    }

    public static TheoryData<BenchEventKind, BenchEventBody, string?> Bodies =>
        new()
        {
            { BenchEventKind.Voided, new(), "body.reason" },
            { BenchEventKind.HoldCalled, new(Point: "Lunch"), "body.point" },
            { BenchEventKind.HoldCalled, new(Point: "Root"), null },
            { BenchEventKind.HoldAnswered, new(Point: "Root"), "body.go" },
            { BenchEventKind.HoldAnswered, new(Point: "Root", Go: false), null },
            { BenchEventKind.TimerStarted, new(), "body.timer" },
            { BenchEventKind.TimerStarted, new(Timer: BenchTimer.Cool, Minutes: 0), "body.minutes" },
            { BenchEventKind.TimerStarted, new(Timer: BenchTimer.Cool, Minutes: 1440), null },
            { BenchEventKind.TimerStopped, new(Timer: BenchTimer.Cool, Minutes: 1440.1), "body.minutes" },
            { BenchEventKind.Repaired, new(FindingId: Id(2), Action: RepairAction.Grind), "body.findingId" },
            { BenchEventKind.Repaired, new(FindingId: Id(1)), "body.action" },
            { BenchEventKind.Repaired, new(FindingId: Id(1), Action: RepairAction.Grind), null },
            { BenchEventKind.CauseChosen, new(FindingId: Id(1), CauseId: "the moon"), "body.causeId" },
            { BenchEventKind.Measured, new(Side: JointSide.Face, At: "middle", HeightMm: 1, Member: JointMember.A), "body.member" },
            { BenchEventKind.Measured, new(At: "middle", HeightMm: 1), "body.side" },
            { BenchEventKind.Measured, new(Side: JointSide.Face, At: "12", HeightMm: 1), "body.at" },
            { BenchEventKind.Measured, new(Side: JointSide.Face, At: "middle", HeightMm: 25.1), "body.heightMm" },
            { BenchEventKind.Measured, new(Side: JointSide.Root, At: "end", HeightMm: -25, Member: JointMember.B), null },
            { BenchEventKind.SpecimenTested, new(Specimen: 2), "body.specimen" },
            { BenchEventKind.SpecimenTested, new(Specimen: 1), "body.bend" },
            { BenchEventKind.SpecimenTested, new(Specimen: 1, Bend: new(null, [new(1001, false, false)])), "body.bend" },
            { BenchEventKind.SpecimenTested, new(Specimen: 1, Bend: new(null, [new(2, false, false)])), null },
            { BenchEventKind.Breach, new(), "body.rule" },
            { BenchEventKind.Breach, new(Rule: SittingRule.Help), null },
        };

    [Theory]
    [MemberData(nameof(Bodies), DisableDiscoveryEnumeration = true)]
    public void An_event_brings_what_its_kind_needs(BenchEventKind kind, BenchEventBody body, string? field) =>
        Assert.Equal(field, Field(MayRecord.Event(Log(With(All(Plate), [Finding(DiscontinuityKind.Undercut, Stage.Cap)])), kind, body)));

    [Fact]
    public void What_comes_next_goes_from_fit_up_over_the_beads_in_order_to_the_looking()
    {
        var fitUp = new LoggedFitUp(Id(3), Noon, new FitUpMeasured([], [], new Dictionary<string, bool>()));
        Assert.Equal(NextKind.FitUp, Log(With(All(Plate))).Next().Kind);
        var next = Log(With([Pass("root-1-1", 1)], fitUps: [fitUp])).Next();
        Assert.Equal((NextKind.Pass, "fill-2-1", Stage.Fill, 2, 1), (next.Kind, next.BeadKey, next.Stage, next.Layer, next.BeadInLayer));
        Assert.Equal(NextKind.Look, Log(With(All(Plate), fitUps: [fitUp])).Next().Kind);
        Assert.Equal(["Root"], Log(With([Pass("root-1-1", 1)], fitUps: [fitUp])).HoldsDue.Select(point => point.Title));
    }

    [Fact]
    public void The_record_is_read_in_the_order_in_which_it_happened_however_it_arrived()
    {
        LoggedFitUp FitUp(int n, double minute) => new(Id(n), Noon.AddMinutes(minute), new FitUpMeasured([], [], new Dictionary<string, bool>()));
        var log = Log(With([Pass("fill-2-1", 20), Pass("root-1-1", 10)], fitUps: [FitUp(2, 5), FitUp(1, 3)]));
        Assert.Equal(["root-1-1", "fill-2-1"], log.Passes.Select(pass => pass.BeadKey));
        Assert.Equal(Id(2), log.FitUp!.Id);
        Assert.Equal(Id(2), Log(With([], fitUps: [FitUp(2, 5), FitUp(1, 5)])).FitUp!.Id); // of one moment the later id
    }

    [Fact]
    public void A_breach_makes_a_coupon_under_test_coached_work_and_leaves_a_coached_one_as_it_is()
    {
        var down = Event(BenchEventKind.TakenDown);
        var made = Log(With(All(Plate), events: [down])).Close(Noon.AddHours(2)).Made!;
        Assert.True(made.Downgraded);
        Assert.False(Log(With(All(Plate), events: [down]), asTest: false).Close(Noon.AddHours(2)).Made!.Downgraded);
        Assert.False(Log(With(All(Plate))).Close(Noon.AddHours(2)).Made!.Downgraded);
        var log = Log(With(All(Plate), events: [down]));
        Assert.True(log.Evidence(log.Verdict(), Noon.AddHours(2)).Aided);
        Assert.True(log.Evidence(log.Verdict(), Noon.AddHours(2)).Full);
        Assert.False(Log(With(All(Plate)), drill: "rootOnly").Evidence(log.Verdict(), Noon).Full);
    }

    [Fact]
    public void A_specimen_counts_as_it_was_tested_last()
    {
        static BenchEvent Bend(double open, double minute, int n) =>
            Event(BenchEventKind.SpecimenTested, new(Specimen: 0, Bend: new(null, [new(open, false, false)])), minute, n);
        var log = Log(With(All(Plate), events: [Bend(4, 10, 1), Bend(1, 20, 2)])); // AWS D1.1: none over 1/8 in
        Assert.Equal(VerdictKind.Accept, Assert.Single(log.Specimens()).Verdict.Kind);
        var failed = Log(With(All(Plate), events: [Bend(1, 10, 1), Bend(4, 20, 2)])).Close(Noon.AddHours(1)).Made!;
        Assert.Equal((VerdictKind.Reject, 1, 1), (failed.Verdict.Kind, failed.Facts.Tested, failed.Facts.Failed));
    }

    [Fact]
    public void A_measured_height_is_judged_after_the_findings()
    {
        static BenchEvent Cap(double height) => Event(BenchEventKind.Measured, new(Side: JointSide.Face, At: "middle", HeightMm: height));
        Assert.Equal(VerdictKind.Reject, Log(With(All(Plate), events: [Cap(3.2)])).Verdict().Kind); // AWS D1.1: at most 1/8 in
        Assert.Equal(VerdictKind.Accept, Log(With(All(Plate), events: [Cap(3.1)])).Verdict().Kind);
        var both = Log(With(All(Plate), [Finding(DiscontinuityKind.Undercut, Stage.Cap, depth: 0.1)], [Cap(3.2)])).Close(Noon.AddHours(1)).Made!;
        Assert.Equal((true, null), (Assert.Single(both.Facts.Faults).ByMeasure, both.Facts.Faults[0].CauseId)); // named, but no finding of its own
        Assert.False(both.Facts.ElementClean["cap"]);
    }

    [Fact]
    public void A_closing_keeps_what_the_fit_up_and_the_settings_were()
    {
        var fit = new FitUpMeasured(
            [.. Plate.FitUp.Points.Select(at => new FitUpPoint(at, 22.5, 22.5, Inch / 4, 0, 0, 0))],
            [.. Enumerable.Range(0, 4).Select(index => new Tack(index < 2 ? "start" : "end", 12.7, true))],
            Plate.FitUp.Questions.ToDictionary(question => question.Id, _ => true)
        );
        Closing Close(FitUpMeasured measured, double amps) =>
            Log(With([.. All(Plate).Select(pass => pass with { Amps = amps })], fitUps: [new LoggedFitUp(Id(3), Noon, measured)]))
                .Close(Noon.AddHours(2))
                .Made!;
        var range = Plate.Passes[0].Settings.Amps;
        var good = Close(fit, range.Max).Facts;
        Assert.Equal((true, false, false), (good.FitUpGo, good.GapClosed, good.AmpsOffCard));
        Assert.Equal(5 * (Plate.Beads().Count - 1), good.Minutes!.Value, 9); // from the first pass to the last
        Assert.Equal(1, good.FillShare!.Value, 9); // fitted as planned it takes what is planned
        Assert.True(Close(fit, range.Max + 1).Facts.AmpsOffCard);
        Assert.True(Close(fit, range.Min - 1).Facts.AmpsOffCard);
        var tight = fit with { Points = [.. fit.Points.Select(point => point with { RootOpeningMm = (Inch / 4) - 0.5 })] };
        Assert.Equal((false, true), (Close(tight, range.Min).Facts.FitUpGo, Close(tight, range.Min).Facts.GapClosed)); // 1/4 in, -0
        Assert.True(Close(tight, range.Min).Facts.FillShare < 1);
        Assert.Null(Log(With(All(Plate))).Close(Noon).Made!.Facts.FitUpGo);
    }

    [Fact]
    public void A_fault_at_a_start_or_stop_is_told_from_one_between()
    {
        List<LoggedPass> passes =
        [
            .. All(Pipe)
                .Select(pass =>
                    pass.Stage == Stage.Cap
                        ? pass with
                        {
                            StartAt = Place.At(ClockPosition.Parse("6")),
                            StopAt = Place.At(ClockPosition.Parse("12")),
                        }
                        : pass
                ),
        ];
        SeenFault Fault(string clock, BenchEvent? chosen = null) =>
            Assert.Single(
                Log(
                        With(
                            passes,
                            [
                                new LoggedFinding(
                                    Id(1),
                                    Noon.AddHours(1),
                                    null,
                                    DiscontinuityKind.Crack,
                                    Stage.Cap,
                                    Place.At(ClockPosition.Parse(clock))
                                ),
                            ],
                            chosen is null ? [] : [chosen]
                        ),
                        Pipe
                    )
                    .Close(Noon.AddHours(2))
                    .Made!.Facts.Faults
            );
        Assert.Equal((true, "bottom"), (Fault("6:05").AtStop, Fault("6:05").Zone));
        Assert.Equal((false, "side"), (Fault("3:00").AtStop, Fault("3:00").Zone));
        Assert.Equal("porosity-arc", Fault("3:00", Event(BenchEventKind.CauseChosen, new(FindingId: Id(1), CauseId: "porosity-arc"))).CauseId);
        Assert.Null(Fault("3:00", Event(BenchEventKind.CauseChosen, new(FindingId: Id(2), CauseId: "porosity-arc"))).CauseId);
    }

    [Fact]
    public void What_stands_around_a_finding_is_what_lies_nearest_to_it()
    {
        FitUpPoint Point(string at, double gap) => new(at, 37.5, 37.5, gap, 2.4, 0);
        var fit = new LoggedFitUp(
            Id(3),
            Noon,
            new FitUpMeasured([Point("12", 3), Point("3", 2.5), Point("6", 2), Point("9", 2.7)], [], new Dictionary<string, bool>())
        );
        double? Gap(string clock) =>
            Log(With([], fitUps: [fit]), Pipe)
                .CauseFactsOf(new LoggedFinding(Id(1), Noon, null, DiscontinuityKind.Porosity, Stage.Root, Place.At(ClockPosition.Parse(clock))))
                .GapMm;
        Assert.Equal((2, 3, 2.7), (Gap("5:00"), Gap("11:30"), Gap("8:00")));

        var plate = new LoggedFitUp(
            Id(3),
            Noon,
            new FitUpMeasured(
                [new FitUpPoint("start", RootOpeningMm: 6), new FitUpPoint("end", RootOpeningMm: 7)],
                [],
                new Dictionary<string, bool>()
            )
        );
        double? At(double mm) => Log(With([], fitUps: [plate])).CauseFactsOf(Finding(DiscontinuityKind.Porosity, Stage.Root, mm)).GapMm;
        Assert.Equal((6, 7), (At(70), At(80)));
    }

    [Fact]
    public void The_purge_counts_up_to_the_first_pass_and_too_few_cap_beads_are_told()
    {
        var purge = new[]
        {
            Event(BenchEventKind.TimerStarted, new(Timer: BenchTimer.Purge), -10, 21),
            Event(BenchEventKind.TimerStopped, new(Timer: BenchTimer.Purge), 30, 22),
        };
        var facts = Log(With([Pass("root-1-1", 0), Pass("cap-4-1", 40)], events: [.. purge]))
            .CauseFactsOf(Finding(DiscontinuityKind.Undercut, Stage.Cap));
        Assert.Equal(10, facts.PurgeMinutes);
        Assert.Equal((1, 3), (facts.CapBeads, facts.PlannedCapBeads));
        Assert.Null(Log(With(All(Plate))).CauseFactsOf(Finding(DiscontinuityKind.Undercut, Stage.Cap)).CapBeads);
        Assert.Null(Log(With(All(Plate))).CauseFactsOf(Finding(DiscontinuityKind.Undercut, Stage.Cap)).PurgeMinutes);
        var low = Log(With([Pass("fill-2-1", 1) with { BelowFlushMm = 3 }, Pass("fill-3-1", 2) with { BelowFlushMm = 2 }, Pass("cap-4-1", 3)]));
        Assert.Equal(2, low.CauseFactsOf(Finding(DiscontinuityKind.Undercut, Stage.Cap)).FillBelowFlushMm);
        Assert.Null(low.CauseFactsOf(Finding(DiscontinuityKind.SlagInclusion, Stage.Fill)).FillBelowFlushMm);
    }

    [Fact]
    public void Each_half_of_a_split_coupon_has_its_sections_and_its_verdict()
    {
        var split = TestLibrary.Shipped["R4"];
        var log = Log(With([.. split.Beads().Where(bead => bead.Half != "cellulosic").Select((bead, index) => Pass(bead.Key, index))]), split);
        Assert.Equal(split.FitUp.Points.Count, log.Sections().Count());
        Assert.All(log.Sections(), section => Assert.NotNull(section.At));
        var halves = log.Verdict().Halves!.ToDictionary(half => half.HalfId, half => half.Kind);
        Assert.Equal(VerdictKind.Accept, halves["lowHydrogen"]);
        Assert.Equal(VerdictKind.CannotJudge, halves["cellulosic"]);
    }

    [Fact]
    public void The_order_in_which_records_arrive_changes_nothing()
    {
        var (passes, findings) = (
            All(Plate),
            new List<LoggedFinding>
            {
                Finding(DiscontinuityKind.Undercut, Stage.Cap, depth: 2),
                Finding(DiscontinuityKind.Porosity, Stage.Root, minute: 61, n: 2),
            }
        );
        var verdict = Log(With(passes, findings)).Verdict();
        var turned = Log(With([.. passes.AsEnumerable().Reverse()], [.. findings.AsEnumerable().Reverse()])).Verdict();
        Assert.Equal(verdict.Kind, turned.Kind);
        Assert.Equal(verdict.Visual.Reasons, turned.Visual.Reasons);
    }
}
