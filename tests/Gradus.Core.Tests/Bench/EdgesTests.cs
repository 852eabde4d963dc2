using Gradus.Core.Bench;
using Gradus.Core.Inspection;
using Gradus.Core.Joints;
using Gradus.Core.Library;
using Gradus.Core.Measure;

namespace Gradus.Core.Tests.Bench;

/// <summary>Where what may be recorded ends, and which of two neighbours counts: the edges of the bench.</summary>
public sealed class EdgesTests
{
    private static readonly DateTimeOffset Noon = new(2031, 3, 4, 12, 0, 0, TimeSpan.Zero);
    private static readonly TestTemplate Plate = TestLibrary.Shipped["P8"];
    private static readonly TestTemplate Pipe = TestLibrary.Shipped["R3"];
    private static readonly LoggedFinding Undercut = new(
        new Guid("00000000-0000-7000-8000-000000000001"),
        Noon,
        null,
        DiscontinuityKind.Undercut,
        Stage.Cap,
        Place.At(ClockPosition.Parse("3"))
    );

    private static CouponLog Log(TestTemplate test, CouponRecords? records = null, string? drill = null, bool asTest = false) =>
        new(test, AcceptanceProfiles.Shipped["aws-d1.1"], drill, asTest, records ?? CouponRecords.None);

    private static BenchEvent At(double minute, BenchEventKind kind, BenchEventBody? body = null) =>
        new(Guid.CreateVersion7(), kind, Noon.AddMinutes(minute), body ?? new BenchEventBody());

    private static string? Fault(CouponLog log, BenchEventKind kind, BenchEventBody body) => MayRecord.Event(log, kind, body)?.Field;

    [Theory]
    [InlineData(25, null)]
    [InlineData(-25, null)]
    [InlineData(25.1, "body.heightMm")]
    [InlineData(-25.1, "body.heightMm")]
    public void A_height_is_within_an_inch_either_way(double mm, string? fault) =>
        Assert.Equal(fault, Fault(Log(Plate), BenchEventKind.Measured, new(Side: JointSide.Face, At: "start", HeightMm: mm)));

    [Fact]
    public void A_height_says_which_side_and_where_and_only_the_root_is_seen_from_a_member()
    {
        var log = Log(Plate);
        Assert.Equal("body.side", Fault(log, BenchEventKind.Measured, new(At: "start", HeightMm: 1)));
        Assert.Equal("body.at", Fault(log, BenchEventKind.Measured, new(Side: JointSide.Face, At: "6:00", HeightMm: 1)));
        Assert.Equal("body.member", Fault(log, BenchEventKind.Measured, new(Side: JointSide.Face, At: "start", HeightMm: 1, Member: JointMember.A)));
        Assert.Null(Fault(log, BenchEventKind.Measured, new(Side: JointSide.Root, At: "start", HeightMm: 1, Member: JointMember.A)));
    }

    [Theory]
    [InlineData(2000, 1000, null)]
    [InlineData(0, 1, null)]
    [InlineData(2000.5, 1, "body.finding")]
    [InlineData(-0.1, 1, "body.finding")]
    [InlineData(1, 0, "body.finding.count")]
    [InlineData(1, 1001, "body.finding.count")]
    public void A_finding_put_right_keeps_the_bounds_of_a_finding(double mm, int count, string? fault)
    {
        var log = Log(Pipe, new CouponRecords([], [], [Undercut], []));
        BenchEventBody Body(FindingValues values) => new(FindingId: Undercut.Id, Finding: values);
        Assert.Equal(
            fault,
            Fault(log, BenchEventKind.FindingCorrected, Body(new(DiscontinuityKind.Porosity, Stage.Cap, "3", LengthMm: mm, DepthMm: 1, Count: count)))
        );
        Assert.Equal("body.finding", Fault(log, BenchEventKind.FindingCorrected, Body(new(null, Stage.Cap, "3"))));
        Assert.Equal("body.findingId", Fault(log, BenchEventKind.FindingCorrected, new(Finding: new(DiscontinuityKind.Crack, Stage.Cap, "3"))));
    }

    [Theory]
    [InlineData(1440, 500, null)]
    [InlineData(1441, 500, "body.minutes")]
    [InlineData(0, 500, "body.minutes")]
    [InlineData(5, 500.5, "body.holeMm")]
    [InlineData(5, 0, "body.holeMm")]
    public void A_repair_is_timed_within_a_day_and_its_hole_is_of_this_world(double minutes, double hole, string? fault)
    {
        var log = Log(Pipe, new CouponRecords([], [], [Undercut], []));
        var body = new BenchEventBody(FindingId: Undercut.Id, Action: RepairAction.Cool, Minutes: minutes, HoleMm: hole, TaperMm: 25);
        Assert.Equal(fault, Fault(log, BenchEventKind.Repaired, body));
        Assert.Equal("body.taperMm", Fault(log, BenchEventKind.Repaired, new(FindingId: Undercut.Id, Action: RepairAction.Taper, TaperMm: 501)));
        Assert.Equal("body.action", Fault(log, BenchEventKind.Repaired, new(FindingId: Undercut.Id)));
        Assert.Equal(
            minutes is > 0 and <= 1440 ? null : "body.minutes",
            Fault(log, BenchEventKind.TimerStarted, new(Timer: BenchTimer.Cool, Minutes: minutes))
        );
    }

    [Theory]
    [InlineData("nickBreak", "body.nickBreak")]
    [InlineData("filletBreak", "body.filletBreak")]
    [InlineData("macro", "body.macro")]
    [InlineData("radiograph", "body.indications")]
    [InlineData("side", "body.bend")]
    public void A_specimen_takes_what_is_seen_on_its_kind(string kind, string wanted)
    {
        var test = Plate with { Specimens = [new Specimen(kind, 10, 20, null)] };
        var log = Log(test);
        BenchEventBody[] all =
        [
            new(Specimen: 0, NickBreak: new(true, true, 10, 1, [1000], [new BreakSlag(1, 1, 1)])),
            new(Specimen: 0, FilletBreak: new(true, true, false, [0])),
            new(Specimen: 0, Macro: new(true, false, true, 0, 6, 6, 6, 8, 1, 0, 0)),
            new(Specimen: 0, Indications: [new(IndicationKind.Rounded, 1, 5)]),
            new(Specimen: 0, Bend: new(null, [new(1, false, false)])),
        ];
        Assert.Single(all, body => Fault(log, BenchEventKind.SpecimenTested, body) is null);
        Assert.All(
            all.Select(body => Fault(log, BenchEventKind.SpecimenTested, body)).Where(fault => fault is not null),
            fault => Assert.Equal(wanted, fault)
        );
        Assert.Equal("body.specimen", Fault(log, BenchEventKind.SpecimenTested, all[0] with { Specimen = 1 }));
        Assert.Equal("body.specimen", Fault(log, BenchEventKind.SpecimenTested, all[0] with { Specimen = -1 }));
        Assert.Equal("body.specimen", Fault(Log(Plate with { Specimens = [] }), BenchEventKind.SpecimenTested, all[0]));
    }

    [Fact]
    public void A_size_on_a_specimen_is_from_0_to_a_metre()
    {
        var log = Log(Plate);
        BenchEventBody Bend(double mm) => new(Specimen: 0, Bend: new BendSpecimen(null, [new BendDiscontinuity(mm, false, false)]));
        Assert.Null(Fault(log, BenchEventKind.SpecimenTested, Bend(0)));
        Assert.Null(Fault(log, BenchEventKind.SpecimenTested, Bend(1000)));
        Assert.Equal("body.bend", Fault(log, BenchEventKind.SpecimenTested, Bend(-0.1)));
        Assert.Equal("body.bend", Fault(log, BenchEventKind.SpecimenTested, Bend(1000.1)));
    }

    [Fact]
    public void How_far_a_coupon_has_come_is_the_furthest_thing_that_happened()
    {
        CouponState State(bool fitted, bool welded, bool closed, params BenchEventKind[] kinds) =>
            CouponLife.State([.. kinds.Select((kind, index) => At(index, kind))], fitted, welded, closed);
        Assert.Equal(CouponState.Planned, State(false, false, false));
        Assert.Equal(CouponState.Cut, State(false, false, false, BenchEventKind.Cut));
        Assert.Equal(CouponState.FittedUp, State(true, false, false, BenchEventKind.Cut));
        Assert.Equal(CouponState.InWeld, State(true, true, false, BenchEventKind.Cut));
        Assert.Equal(CouponState.LookedAt, State(true, true, false, BenchEventKind.Cut, BenchEventKind.Measured));
        Assert.Equal(CouponState.CutAndBroken, State(true, true, false, BenchEventKind.SpecimenTested, BenchEventKind.Measured));
        Assert.Equal(CouponState.Closed, State(true, true, true, BenchEventKind.SpecimenTested));
        Assert.Equal(CouponState.Void, State(true, true, true, BenchEventKind.Cut, BenchEventKind.Voided));
    }

    [Fact]
    public void A_timer_is_due_after_its_minutes_and_a_stopped_one_runs_no_more()
    {
        BenchEventBody Cool(double? minutes = null) => new(Timer: BenchTimer.Cool, Minutes: minutes);
        var running = Assert.Single(CouponLife.Timers([At(0, BenchEventKind.TimerStarted, Cool(5)), At(1, BenchEventKind.TimerStarted, Cool(3))]));
        Assert.Equal(Noon.AddMinutes(4), running.DueAt);
        Assert.Null(Assert.Single(CouponLife.Timers([At(0, BenchEventKind.TimerStarted, Cool())])).DueAt);
        Assert.Empty(CouponLife.Timers([At(0, BenchEventKind.TimerStarted, Cool(5)), At(1, BenchEventKind.TimerStopped, Cool())]));
        BenchEvent[] twice =
        [
            At(0, BenchEventKind.TimerStarted, Cool()),
            At(4, BenchEventKind.TimerStopped, Cool()),
            At(10, BenchEventKind.TimerStarted, Cool()),
        ];
        Assert.Equal(6, CouponLife.Minutes(twice, BenchTimer.Cool, Noon.AddMinutes(12)));
        Assert.Equal(2, CouponLife.Minutes(twice, BenchTimer.Cool, Noon.AddMinutes(2)));
        Assert.Equal(0, CouponLife.Minutes(twice, BenchTimer.Purge, Noon.AddMinutes(12)));
    }

    [Theory]
    [InlineData(JointSide.Face, 0.5, DiscontinuityKind.ExcessFaceReinforcement, Stage.Cap)]
    [InlineData(JointSide.Face, 0, DiscontinuityKind.ExcessFaceReinforcement, Stage.Cap)] // flush is no underfill
    [InlineData(JointSide.Face, -0.5, DiscontinuityKind.Underfill, Stage.Cap)]
    [InlineData(JointSide.Root, 0, DiscontinuityKind.ExcessPenetration, Stage.Root)]
    [InlineData(JointSide.Root, -0.5, DiscontinuityKind.RootConcavity, Stage.Root)]
    public void A_height_above_flush_stands_proud_and_one_below_it_is_hollow(JointSide side, double mm, DiscontinuityKind kind, Stage stage)
    {
        var finding = CouponLife.Finding(new BenchEventBody(Side: side, HeightMm: mm), 90)!;
        Assert.Equal((kind, stage, 90), (finding.Kind, finding.Stage, finding.ClockMinutes));
        Assert.Equal(Math.Abs(mm), (finding.HeightMm ?? finding.DepthMm)!.Value);
        Assert.Null(CouponLife.Finding(new BenchEventBody(Side: side), 90));
    }

    [Fact]
    public void What_is_still_to_be_done_at_a_place_of_the_repair_drill_is_said()
    {
        var test = TestLibrary.Shipped["R9"];
        LoggedFinding Hole(string clock) =>
            Undercut with
            {
                Kind = DiscontinuityKind.BurnThrough,
                Stage = Stage.Root,
                Place = Place.At(ClockPosition.Parse(clock)),
            };
        RepairScore Score(string clock, bool? sound, params RepairAction[] actions)
        {
            var events = actions.Select((action, index) => At(index, BenchEventKind.Repaired, new(FindingId: Undercut.Id, Action: action))).ToList();
            if (sound is { } looked)
            {
                events.Add(At(90, BenchEventKind.LookedAgain, new(FindingId: Undercut.Id, Sound: looked)));
            }

            return Repairs.Scores(test.Repairing, [Hole(clock)], events).Single(score => score.At == "6");
        }

        RepairAction[] refills = [.. Enumerable.Repeat(RepairAction.Refill, 4)];
        Assert.Equal((null, "Let it cool, grind the taper, refill."), (Score("6", null).Passed, Score("6", null).Says));
        Assert.Equal(
            (null, "Look at it again: sound or not."),
            (Score("6", null, RepairAction.Refill).Passed, Score("6", null, RepairAction.Refill).Says)
        );
        Assert.Null(Score("6", false, RepairAction.Refill).Passed); // tries are left
        Assert.False(Score("6", false, refills).Passed); // four, and cut out after
        Assert.True(Score("6", true, [RepairAction.Cool, RepairAction.Grind, .. refills]).Passed); // ground instead of tapered
        Assert.Equal("Sound, but no taper was ground.", Score("6", true, RepairAction.Cool, RepairAction.Refill).Says);
        Assert.Equal("Sound, but it was not refilled.", Score("6", true, RepairAction.Cool, RepairAction.Taper).Says);
        Assert.Equal("Sound, but it was not let cool.", Score("6", true, RepairAction.Taper, RepairAction.Refill).Says);
        Assert.NotNull(Score("7:29", true, RepairAction.Refill).Passed); // nearer to six than to nine
        Assert.Equal("Not made yet.", Score("7:30", true, RepairAction.Refill).Says);

        // Of two holes at one place the one that does not hold counts.
        var second = Hole("6:10") with
        {
            Id = Guid.CreateVersion7(),
        };
        List<BenchEvent> one =
        [
            At(0, BenchEventKind.Repaired, new(FindingId: Undercut.Id, Action: RepairAction.Refill)),
            At(1, BenchEventKind.LookedAgain, new(FindingId: Undercut.Id, Sound: true)),
        ];
        Assert.Null(Repairs.Scores(test.Repairing, [Hole("6"), second], one).Single(score => score.At == "6").Passed);
    }

    [Fact]
    public void A_repair_adds_up_what_was_told_of_it()
    {
        BenchEvent Made(double at, RepairAction action, double? minutes = null, double? hole = null, double? taper = null) =>
            At(at, BenchEventKind.Repaired, new(FindingId: Undercut.Id, Action: action, Minutes: minutes, HoleMm: hole, TaperMm: taper));
        var repair = Repairs.Of(
            Undercut.Id,
            [
                Made(1, RepairAction.Cool, 4, hole: 3),
                Made(2, RepairAction.Taper, taper: 25),
                Made(3, RepairAction.Refill),
                Made(4, RepairAction.Cool, 6),
                Made(5, RepairAction.Refill),
            ]
        );
        Assert.Equal((10.0, 2, 3.0, 25.0, RepairState.Begun), (repair.CooledMinutes, repair.Tries, repair.HoleMm, repair.TaperMm, repair.State));
        Assert.Null(Repairs.Of(Undercut.Id, [Made(1, RepairAction.Cool)]).CooledMinutes); // not timed
        Assert.Equal(RepairState.None, Repairs.Of(Guid.CreateVersion7(), [Made(1, RepairAction.Refill)]).State);
    }

    [Fact]
    public void Settings_that_were_clean_give_their_volts_and_feed_too_and_a_booth_speaks_once_it_has_enough()
    {
        var booth = Guid.CreateVersion7();
        RecentPass Of(double amps, bool? clean, Guid? where, double? volts = 19, double? feed = 4000) =>
            new("root-1-1", Stage.Root, Process.FcawS, "E71T-11", 1.143, amps, volts, feed, OperatorHand.Left, where, clean);
        PassCard Card(params RecentPass[] passes) => PassCards.Build(Plate, OperatorHand.Right, passes, booth)[0];
        var mixed = Card(Of(210, true, null, 20, 4200), Of(150, true, booth, 18, 3600), Of(152, true, booth, 18, 3600));
        Assert.False(mixed.SameBooth); // two of this booth are not enough
        var own = Card(Of(210, true, null, 20, 4200), Of(150, true, booth, 18, 3600), Of(152, true, booth, 18, 3600), Of(154, true, booth, 18, 3600));
        Assert.Equal((true, 152.0, 18.0, 3600.0), (own.SameBooth, own.Amps, own.Volts, own.WireFeedMmPerMin));
        Assert.False(Card(Of(210, true, null), Of(150, false, booth), Of(152, false, booth), Of(154, false, booth)).SameBooth); // none of them clean
        Assert.Equal((true, OperatorHand.Left), (Card(Of(200, null, null)).FromLast, Card(Of(200, null, null)).Hand));
        Assert.False(Card().FromLast);
        Assert.False(Card(Of(200, true, null) with { DiameterMm = 1.6 }).FromLast); // another wire
        Assert.False(Card(Of(200, true, null) with { Process = Process.FcawG }).FromLast);
    }

    [Fact]
    public void Downhill_a_pipe_is_run_from_twelve_to_six()
    {
        var down = Pipe with { Passes = [.. Pipe.Passes.Select(pass => pass with { Progression = Progression.Downhill })] };
        Assert.Equal(
            [new PlannedRun("12", "6", PipeSide.Nine), new PlannedRun("12", "6", PipeSide.Three)],
            BeadRuns.Of(down, down.Beads()[0], OperatorHand.Right)
        );
        var large = down with { Joint = Pipe.Joint with { Pipe = new PipeReference("8", "60") } };
        Assert.Equal(["12-9", "3-6", "12-3", "9-6"], BeadRuns.Of(large, large.Beads()[0], OperatorHand.Right).Select(run => $"{run.From}-{run.To}"));
        foreach (var position in new[] { "5G", "6G", "6GR" })
        {
            Assert.Equal(2, BeadRuns.Of(Pipe with { Positions = [position] }, Pipe.Beads()[0], OperatorHand.Right).Count);
        }

        Assert.Single(BeadRuns.Of(Pipe with { Positions = ["2G"] }, Pipe.Beads()[0], OperatorHand.Right)); // upright pipe lies alike all round
    }

    [Theory] // NPS 6: a gap of a quarter of an hour on the clock is 4 mm
    [InlineData("11:45", true)]
    [InlineData("11:44", false)]
    public void Runs_may_leave_a_hair_between_them_and_no_more(string end, bool whole)
    {
        LoggedPass Run(string from, string to, PipeSide side) =>
            new(
                Guid.CreateVersion7(),
                Noon,
                "root-1-1",
                Stage.Root,
                1,
                Process.Smaw,
                "E6010",
                3.175,
                Polarity.Dcep,
                88,
                StartAt: Place.At(ClockPosition.Parse(from)),
                StopAt: Place.At(ClockPosition.Parse(to)),
                Part: true,
                Side: side
            );
        Assert.Equal(
            whole,
            Log(Pipe, new CouponRecords([], [Run("6", "12", PipeSide.Three), Run("6", end, PipeSide.Nine)], [], [])).IsLaid("root-1-1")
        );
    }

    [Theory]
    [InlineData(0, "root/top")]
    [InlineData(359, "root/bottom")]
    public void A_side_is_clean_when_nothing_on_it_was_rejected(int minutes, string element)
    {
        LoggedPass Run(PipeSide side, OperatorHand hand, int n) =>
            new(
                new Guid($"00000000-0000-7000-8000-0000000000{n:D2}"),
                Noon.AddMinutes(n),
                "root-1-1",
                Stage.Root,
                1,
                Process.Smaw,
                "E6010",
                3.175,
                Polarity.Dcep,
                88,
                Hand: hand,
                StartAt: Place.At(ClockPosition.Parse("6")),
                StopAt: Place.At(ClockPosition.Parse("12")),
                Part: true,
                Side: side
            );
        var crack = Undercut with { Kind = DiscontinuityKind.Crack, Stage = Stage.Root, Place = Place.At(ClockPosition.FromMinutes(minutes)) };
        var made = Log(
                Pipe,
                new CouponRecords([], [Run(PipeSide.Three, OperatorHand.Right, 10), Run(PipeSide.Nine, OperatorHand.Left, 11)], [crack], [])
            )
            .Close(Noon.AddHours(1))
            .Made!;
        Assert.Equal(
            [new SideSeen(PipeSide.Three, OperatorHand.Right, false), new SideSeen(PipeSide.Nine, OperatorHand.Left, true)],
            made.Facts.Sides!
        );
        Assert.False(made.Facts.ElementClean[element]);
    }
}
