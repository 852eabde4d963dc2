using Gradus.Core.Bench;
using Gradus.Core.Coaching;
using Gradus.Core.Inspection;
using Gradus.Core.Joints;
using Gradus.Core.Library;
using Gradus.Core.Measure;
using Gradus.Core.Readiness;

namespace Gradus.Core.Tests.Bench;

/// <summary>Runs, added beads, repairs, what comes after closing, corrections and the rules of a test: whatever happens can be logged.</summary>
public sealed class AsItHappenedTests
{
    private static readonly DateTimeOffset Noon = new(2031, 3, 4, 12, 0, 0, TimeSpan.Zero);
    private static readonly TestTemplate Plate = TestLibrary.Shipped["P8"];
    private static readonly TestTemplate Pipe = TestLibrary.Shipped["R3"];
    private static readonly TestTemplate Split = TestLibrary.Shipped["R4"];
    private static readonly TestTemplate Popping = TestLibrary.Shipped["R9"];

    public static TheoryData<string> AllTests => [.. TestLibrary.Shipped.Keys];

    private static CouponLog Log(TestTemplate test, CouponRecords records, string? drill = null, bool asTest = true) =>
        new(test, Limits(test), drill, asTest, records);

    // A profile that ships without limits is judged here as a school might fill it.
    private static AcceptanceProfile Limits(TestTemplate test) =>
        AcceptanceProfiles.Shipped[test.Code] is { LimitsEntered: true } entered ? entered : AcceptanceProfiles.Shipped["aws-d1.1"];

    private static Guid Id(int n) => new($"00000000-0000-7000-8000-{n:D12}");

    private static LoggedPass Run(
        TestTemplate test,
        string key,
        double minute,
        string? from = null,
        string? to = null,
        PipeSide? side = null,
        OperatorHand hand = OperatorHand.Right
    )
    {
        Place? At(string? text) => Place.TryParse(text, test.Product, out var place) ? place : null;
        var plan = test.Passes[0];
        return new LoggedPass(
            Id((int)(minute * 100) + 100_000),
            Noon.AddMinutes(minute),
            key,
            Enum.Parse<Stage>(key.Split('-')[0], ignoreCase: true),
            1,
            plan.Process,
            plan.Filler.Classification,
            plan.Filler.DiameterMm,
            plan.Polarity,
            (plan.Settings.Amps.Min + plan.Settings.Amps.Max) / 2,
            Hand: hand,
            StartAt: At(from),
            StopAt: At(to),
            Part: from is not null,
            Side: side
        );
    }

    private static List<LoggedPass> Whole(TestTemplate test, Func<string, bool>? but = null) =>
        [.. test.Beads().Where(bead => but?.Invoke(bead.Key) != true).Select((bead, index) => Run(test, bead.Key, index * 5))];

    private static LoggedFinding Finding(DiscontinuityKind kind, Stage stage, string clock, int n = 1, double? depth = null) =>
        new(Id(n), Noon.AddMinutes(40 + n), null, kind, stage, Place.At(ClockPosition.Parse(clock)), DepthMm: depth);

    private static BenchEvent Told(BenchEventKind kind, BenchEventBody body, double minute, int n) => new(Id(n), kind, Noon.AddMinutes(minute), body);

    private static List<BenchEvent> Repair(int finding, bool? sound, double minute, params RepairAction[] actions) =>
        [
            .. actions.Select(
                (action, index) =>
                    Told(
                        BenchEventKind.Repaired,
                        new(FindingId: Id(finding), Action: action, Minutes: action == RepairAction.Cool ? 5 : null),
                        minute + index,
                        (finding * 1000) + (int)(minute * 10) + index
                    )
            ),
            .. sound is null
                ? Array.Empty<BenchEvent>()
                :
                [
                    Told(
                        BenchEventKind.LookedAgain,
                        new(FindingId: Id(finding), Sound: sound),
                        minute + actions.Length,
                        (finding * 1000) + (int)(minute * 10) + actions.Length
                    ),
                ],
        ];

    private static readonly LoggedFitUp Fitted = new(Id(700), Noon, new FitUpMeasured([], [], new Dictionary<string, bool>()));

    private static readonly RepairAction[] Cured = [RepairAction.Cool, RepairAction.Taper, RepairAction.Refill];

    // ---- Runs

    // Where the section is cut, the drawing shows what lies there: a run by nine o'clock reaches six, nine and twelve, and not three.
    [Theory]
    [InlineData("6:00", "12:00", PipeSide.Nine, "12 6 9")]
    [InlineData("6:00", "12:00", PipeSide.Three, "12 3 6")]
    [InlineData("6:00", "9:00", PipeSide.Nine, "6 9")]
    [InlineData("7:00", "8:00", PipeSide.Nine, "")]
    public void A_bead_in_runs_is_laid_at_the_hours_that_they_reach(string from, string to, PipeSide side, string hours)
    {
        var log = Log(Pipe, CouponRecords.None with { Passes = [Run(Pipe, "root-1-1", 1, from, to, side)] });
        var bead = log.Beads.Single(one => one.Key == "root-1-1");
        Assert.False(log.IsLaid(bead.Key));
        Assert.Equal(hours, string.Join(' ', log.LaidAt(bead)));
    }

    // Two runs of one bead, by three and then by nine: what explains a finding is the run that it lies in, not the one that came last.
    [Theory]
    [InlineData("3:00", 80)]
    [InlineData("4:30", 80)]
    [InlineData("9:00", 90)]
    [InlineData("6:00", 90)]
    public void A_finding_belongs_to_the_run_that_it_lies_in(string clock, double amps)
    {
        var runs = new[]
        {
            Run(Pipe, "root-1-1", 1, "6:00", "12:00", PipeSide.Three) with
            {
                Amps = 80,
            },
            Run(Pipe, "root-1-1", 9, "6:00", "12:00", PipeSide.Nine) with
            {
                Amps = 90,
            },
        };
        var finding = Finding(DiscontinuityKind.Porosity, Stage.Root, clock);
        Assert.Equal(amps, Log(Pipe, CouponRecords.None with { Passes = runs }).CauseFactsOf(finding).Amps);
    }

    [Theory]
    [InlineData(600, 240, 710, true)] // ten to two over twelve
    [InlineData(600, 240, 60, true)]
    [InlineData(600, 240, 120, true)]
    [InlineData(600, 240, 121, false)]
    [InlineData(600, 240, 599, false)]
    [InlineData(0, 720, 300, true)]
    public void A_stretch_holds_what_lies_in_it_over_twelve_o_clock_as_well(double from, double length, double at, bool holds) =>
        Assert.Equal(holds, new Reach(from, length).Holds(at, round: true));

    [Theory]
    [InlineData(10, 50, 60, true)]
    [InlineData(10, 50, 60.1, false)]
    [InlineData(10, 50, 9.9, false)]
    public void A_stretch_of_plate_has_two_ends(double from, double length, double at, bool holds) =>
        Assert.Equal(holds, new Reach(from, length).Holds(at, round: false));

    [Fact]
    public void A_bead_that_is_whole_is_laid_everywhere_and_one_not_begun_nowhere()
    {
        var log = Log(Pipe, CouponRecords.None with { Passes = [Run(Pipe, "root-1-1", 1)] });
        Assert.Equal(Pipe.FitUp.Points, log.LaidAt(log.Beads.First()));
        Assert.All(log.Beads.Skip(1), bead => Assert.Empty(log.LaidAt(bead)));
        var half = Log(Plate, CouponRecords.None with { Passes = [Run(Plate, Plate.Beads()[0].Key, 1, "start", "middle")] });
        Assert.Equal(["start"], half.LaidAt(half.Beads.First()));
    }

    [Fact]
    public void A_drill_threatens_no_specimen_and_a_finding_without_a_place_none_either()
    {
        var finding = Finding(DiscontinuityKind.Undercut, Stage.Cap, "1:30", depth: 1.5);
        Assert.Equal(VerdictKind.Reject, Log(Pipe, CouponRecords.None).Preview(finding).Outcome);
        Assert.NotEmpty(Log(Pipe, CouponRecords.None).Preview(finding).Threatens);
        Assert.Empty(Log(Pipe, CouponRecords.None, Pipe.Drills[0].Id).Preview(finding).Threatens);
        Assert.Empty(Log(Pipe, CouponRecords.None).Preview(finding with { Place = null }).Threatens);
    }

    [Theory]
    [InlineData("6:00", "12:00", PipeSide.Nine, 360, 360)] // by nine: clockwise from six
    [InlineData("6:00", "12:00", PipeSide.Three, 0, 360)]
    [InlineData("12:00", "6:00", PipeSide.Three, 0, 360)] // downhill by three is the same stretch
    [InlineData("6:00", "3:00", null, 180, 180)] // the shorter way
    [InlineData("11:00", "1:00", null, 660, 120)] // over the top
    [InlineData("6:00", "4:00", PipeSide.Three, 240, 120)]
    [InlineData("6:00", "6:00", null, 360, 720)] // once round
    public void A_stretch_of_a_pipe_goes_by_its_side(string from, string to, PipeSide? side, double at, double length)
    {
        var reach = new Stretch(Place.At(ClockPosition.Parse(from)), Place.At(ClockPosition.Parse(to)), side).On(0)!.Value;
        Assert.Equal((at, length), (reach.From, reach.Length));
    }

    [Fact]
    public void Half_round_without_a_side_could_be_either_and_plate_has_one_way()
    {
        Assert.Null(new Stretch(Place.At(ClockPosition.Parse("6")), Place.At(ClockPosition.Parse("12")), null).On(0));
        Assert.Equal(new Reach(50, 102.4), new Stretch(Place.At(PlateMark.End), Place.At(50), null).On(152.4)!.Value);
    }

    [Fact]
    public void A_bead_by_two_sides_is_whole_with_the_second_and_its_next_run_is_the_other_side()
    {
        var key = "root-1-1";
        var nine = Run(Pipe, key, 1, "6:00", "12:00", PipeSide.Nine);
        var half = Log(Pipe, new CouponRecords([], [nine], [], []));
        var bead = half.Beads.First(one => one.Key == key);
        Assert.False(half.IsLaid(key));
        Assert.Equal([new PlannedRun("6", "12", PipeSide.Three)], half.RunsLeft(bead, OperatorHand.Right));
        Assert.Null(MayRecord.Pass(half, key, "6:00", "12:00", true, PipeSide.Three));
        Assert.Equal("side", MayRecord.Pass(half, key, "6:00", "12:00", true)?.Field); // by which one
        Assert.Equal("startAt", MayRecord.Pass(half, key, null, null, true)?.Field);
        Assert.Equal("beadKey", MayRecord.Pass(half, key, "6:00", "12:00", true, PipeSide.Nine)?.Field); // that side is laid
        Assert.Equal("beadKey", MayRecord.Pass(half, key, "7:00", "9:00", true)?.Field);
        Assert.Equal("beadKey", MayRecord.Pass(half, key, null, null)?.Field); // a whole bead over a half: taken for a double tap
        var whole = Log(Pipe, new CouponRecords([], [nine, Run(Pipe, key, 8, "6:00", "12:00", PipeSide.Three)], [], []));
        Assert.True(whole.IsLaid(key));
        Assert.Empty(whole.RunsLeft(bead, OperatorHand.Right));
        Assert.Equal("beadKey", MayRecord.Pass(whole, key, "6:00", "3:00", true)?.Field);
    }

    [Theory]
    [InlineData("P8", "50", "50", null, "stopAt")] // nowhere
    [InlineData("P8", "start", "end", PipeSide.Nine, "side")] // a plate has no clock
    [InlineData("P8", "0", "400", null, "stopAt")] // the plate is 6 in long
    [InlineData("R3", "6", null, PipeSide.Nine, "stopAt")]
    [InlineData("R3", "start", "end", null, "stopAt")]
    [InlineData("R3", "12", "12", null, null)] // once round
    [InlineData("P8", "end", "start", null, null)]
    public void A_run_goes_from_one_place_of_its_joint_to_another(string id, string from, string? to, PipeSide? side, string? fault) =>
        Assert.Equal(fault, MayRecord.Pass(Log(TestLibrary.Shipped[id], CouponRecords.None), "root-1-1", from, to, true, side)?.Field);

    [Fact]
    public void Runs_that_leave_a_gap_do_not_make_a_bead() // 2 in of the plate are bare
    {
        var key = "root-1-1";
        Assert.False(Log(Plate, new CouponRecords([], [Run(Plate, key, 1, "0", "50"), Run(Plate, key, 2, "101", "152.4")], [], [])).IsLaid(key));
        Assert.True(Log(Plate, new CouponRecords([], [Run(Plate, key, 1, "0", "80"), Run(Plate, key, 2, "80", "152")], [], [])).IsLaid(key));
    }

    [Fact]
    public void A_pass_of_before_there_were_runs_is_a_whole_bead_wherever_it_was_stopped()
    {
        var old = Run(Pipe, "root-1-1", 1) with { StartAt = Place.At(ClockPosition.Parse("6")), StopAt = Place.At(ClockPosition.Parse("9")) };
        Assert.True(Log(Pipe, new CouponRecords([], [old], [], [])).IsLaid("root-1-1"));
    }

    [Theory] // chosen default, contested among practitioners: a right-hander finds 6-9-12 the harder
    [InlineData(OperatorHand.Right, "difficultFirst", "Nine Three")]
    [InlineData(OperatorHand.Left, "difficultFirst", "Three Nine")]
    [InlineData(OperatorHand.Right, "difficultLast", "Three Nine")]
    public void The_difficult_side_is_first_or_last_as_the_variant_says(OperatorHand hand, string side, string order)
    {
        var test = Pipe.With(new Dictionary<string, string> { ["side"] = side });
        var runs = BeadRuns.Of(test, test.Beads()[0], hand);
        Assert.Equal(order, string.Join(" ", runs.Select(run => run.Side)));
        Assert.All(runs, run => Assert.Equal(("6", "12"), (run.From, run.To))); // uphill
    }

    [Fact]
    public void Large_pipe_goes_by_opposite_quarters_plate_in_one_and_the_halves_of_a_split_each_by_their_side()
    {
        var large = Pipe with { Joint = Pipe.Joint with { Pipe = new PipeReference("8", "60") } };
        Assert.Equal(["6-9", "3-12", "6-3", "9-12"], BeadRuns.Of(large, large.Beads()[0], OperatorHand.Right).Select(run => $"{run.From}-{run.To}"));
        Assert.Equal([new PlannedRun("start", "end", null)], BeadRuns.Of(Plate, Plate.Beads()[0], OperatorHand.Right));
        PlannedRun Of(string half) => Assert.Single(BeadRuns.Of(Split, Split.Beads().First(bead => bead.Half == half), OperatorHand.Right));
        Assert.Equal(new PlannedRun("6", "12", PipeSide.Three), Of("lowHydrogen")); // uphill
        Assert.Equal(new PlannedRun("12", "6", PipeSide.Nine), Of("cellulosic")); // downhill
    }

    [Fact]
    public void Halves_take_turns_layer_by_layer_or_one_goes_first_as_the_variant_says()
    {
        string Turns(string option) =>
            string.Join(
                " ",
                Split
                    .With(new Dictionary<string, string> { ["turns"] = option })
                    .Beads()
                    .Where(bead => bead.Half is not null)
                    .Select(bead => $"{bead.Layer}{bead.Half![0]}")
                    .Distinct()
            );
        Assert.Equal("3l 3c 4l 4c 5l 5c", Turns("alternate"));
        Assert.Equal("3l 4l 5l 3c 4c 5c", Turns("oneFirst"));
    }

    [Fact]
    public void The_low_half_of_a_split_is_measured_by_its_own_card()
    {
        // E7018 on its half: 100 to 115 A on the card; E8010 on the other: 110 to 140 A.
        LoggedPass Fill(string half, double amps) => Run(Split, $"fill-3-1@{half}", 10) with { Stage = Stage.Fill, Amps = amps };
        Assert.True(Facts(Fill("lowHydrogen", 130)).AmpsOffCard);
        Assert.False(Facts(Fill("cellulosic", 130)).AmpsOffCard);
        ClosingFacts Facts(LoggedPass pass) =>
            Log(Split, new CouponRecords([], [pass], [Finding(DiscontinuityKind.Crack, Stage.Fill, "2")], [])).Close(Noon.AddHours(1)).Made!.Facts;
    }

    // ---- Beads beyond the plan

    [Fact]
    public void A_bead_more_in_the_cap_is_drawn_asked_for_next_and_wanted_by_the_verdict()
    {
        var added = Told(BenchEventKind.BeadAdded, new(Stage: Stage.Cap), 1, 1);
        var planned = Plate.Beads().Count(bead => bead.Stage == Stage.Cap);
        var log = Log(Plate, new CouponRecords([Fitted], Whole(Plate), [], [added]));
        Assert.Equal(planned + 1, log.Beads.Count(bead => bead.Stage == Stage.Cap));
        Assert.Equal(planned + 1, log.Sections().First().Section.Beads.Count(bead => bead.Stage == Stage.Cap));
        Assert.Equal($"cap-4-{planned + 1}", log.Next().BeadKey);
        Assert.Equal([Stage.Cap], log.Verdict().Missing);
        Assert.True(CouponBudget.Of(log.Test).CleaningMinutes > CouponBudget.Of(Plate).CleaningMinutes);
        var laid = Log(Plate, new CouponRecords([], [.. Whole(Plate), Run(Plate, $"cap-4-{planned + 1}", 90)], [], [added]));
        Assert.Equal(VerdictKind.Accept, laid.Verdict().Kind);
    }

    [Fact]
    public void A_bead_left_out_is_missed_by_nobody_and_one_that_is_laid_stays()
    {
        var last = Plate.Beads()[^1].Key;
        var open = Log(Plate, new CouponRecords([Fitted], Whole(Plate, key => key == last), [], []));
        Assert.Equal(last, open.Next().BeadKey);
        Assert.Null(MayRecord.Event(open, BenchEventKind.BeadLeftOut, new(BeadKey: last)));
        Assert.Equal("beadKey", MayRecord.Event(open, BenchEventKind.BeadLeftOut, new(BeadKey: "root-1-1"))?.Field);
        var without = Log(
            Plate,
            new CouponRecords([Fitted], Whole(Plate, key => key == last), [], [Told(BenchEventKind.BeadLeftOut, new(BeadKey: last), 1, 1)])
        );
        Assert.Equal(NextKind.Look, without.Next().Kind);
        Assert.Equal(VerdictKind.Accept, without.Verdict().Kind);
    }

    [Fact]
    public void A_patch_comes_before_the_cap_and_can_be_taken_back_until_it_is_laid()
    {
        var patch = Told(BenchEventKind.BeadAdded, new(Patch: true), 1, 77);
        var log = Log(Plate, new CouponRecords([Fitted], Whole(Plate, key => key.StartsWith("cap", StringComparison.Ordinal)), [], [patch]));
        var key = log.Next().BeadKey!;
        Assert.StartsWith("patch-", key, StringComparison.Ordinal);
        Assert.Equal(Stage.Fill, log.Next().Stage);
        Assert.Null(MayRecord.TakeBack(log, BenchRecord.Event, patch));
        var outline = log.Sections().First().Section.Beads.Single(bead => bead.Key == key).Outline;
        Assert.InRange(outline.Max(point => point.Y), 0, Plate.Joint.ThicknessMm + 3);
        var laid = Log(Plate, new CouponRecords([Fitted], [.. log.Passes, Run(Plate, "fill-2-1", 60) with { BeadKey = key }], [], [patch]));
        Assert.Equal(Stage.Cap, laid.Next().Stage);
        Assert.Equal("id", MayRecord.TakeBack(laid, BenchRecord.Event, patch)?.Field);
    }

    [Fact]
    public void A_layer_that_loses_all_its_beads_keeps_its_number_for_those_above()
    {
        var fill = Plate.Beads().Where(bead => bead.Layer == 2).ToList();
        var events = fill.Select((bead, index) => Told(BenchEventKind.BeadLeftOut, new(BeadKey: bead.Key), 1, index + 1)).ToList();
        var log = Log(Plate, new CouponRecords([Fitted], [], [], events));
        Assert.DoesNotContain(log.Beads, bead => bead.Layer == 2);
        Assert.Equal(Plate.Beads().Where(bead => bead.Layer != 2).Select(bead => bead.Key), log.Beads.Select(bead => bead.Key));
    }

    [Fact]
    public void What_was_logged_to_another_test_lies_on_the_beads_of_this_one()
    {
        var passes = Whole(TestLibrary.Shipped["P1"]); // weave root, weave hot, two fills, three cap beads
        var log = Log(
            TestLibrary.Shipped["P10"],
            new CouponRecords([], passes.Where(pass => pass.Stage != Stage.Hot).ToList() is var kept ? kept : [], [], [])
        );
        Assert.Equal(kept.Count, log.Passes.Count);
        Assert.All(log.Passes, pass => Assert.Contains(log.Beads, bead => bead.Key == pass.BeadKey));
        Assert.Equal(log.Passes.Count, log.Passes.Select(pass => pass.BeadKey).Distinct().Count());
    }

    // ---- Repairs

    [Fact]
    public void A_repaired_fault_that_is_sound_is_judged_no_more_and_says_nothing_of_the_bead()
    {
        var hole = Finding(DiscontinuityKind.BurnThrough, Stage.Root, "5:30");
        CouponLog With(List<BenchEvent> events) => Log(Pipe, new CouponRecords([], Whole(Pipe), [hole], events), asTest: false);
        Assert.Equal(VerdictKind.Reject, With([]).Verdict().Kind);
        Assert.Equal(VerdictKind.Reject, With(Repair(1, null, 50, Cured)).Verdict().Kind); // repaired, and not looked at
        Assert.Equal(VerdictKind.Reject, With(Repair(1, false, 50, Cured)).Verdict().Kind);
        var sound = With(Repair(1, true, 50, Cured));
        Assert.Equal(VerdictKind.Accept, sound.Verdict().Kind);
        var facts = sound.Close(Noon.AddHours(3)).Made!.Facts;
        Assert.Empty(facts.Faults);
        Assert.Equal((DiscontinuityKind.BurnThrough, "bottom"), (facts.Repaired![0].Kind, facts.Repaired[0].Zone));
        Assert.DoesNotContain("root/bottom", facts.ElementClean.Keys); // silent
        Assert.True(facts.ElementClean["root/top"]);

        // A repair after the look opens it again.
        Assert.Equal(VerdictKind.Reject, With([.. Repair(1, true, 50, Cured), .. Repair(1, null, 60, RepairAction.Grind)]).Verdict().Kind);
    }

    [Fact]
    public void A_reason_still_points_to_its_finding_when_one_before_it_is_repaired()
    {
        var (first, second) = (Finding(DiscontinuityKind.BurnThrough, Stage.Root, "3", 1), Finding(DiscontinuityKind.Crack, Stage.Cap, "9", 2));
        var log = Log(Pipe, new CouponRecords([], Whole(Pipe), [first, second], Repair(1, true, 50, Cured)), asTest: false);
        Assert.Equal(
            [1],
            log.Verdict().Visual.Reasons.Where(reason => reason.Outcome == VerdictKind.Reject).Select(reason => reason.Finding).Distinct()
        );
        Assert.Equal(DiscontinuityKind.Crack, log.Close(Noon.AddHours(3)).Made!.Facts.Faults.Single().Kind);
    }

    [Theory]
    [InlineData(GrinderRule.Free, RepairAction.Grind, false, RepairLeave.Allowed)]
    [InlineData(GrinderRule.TacksAndStopsOnly, RepairAction.Grind, true, RepairLeave.Allowed)]
    [InlineData(GrinderRule.TacksAndStopsOnly, RepairAction.Taper, false, RepairLeave.Breach)]
    [InlineData(GrinderRule.FileOnly, RepairAction.Grind, true, RepairLeave.Breach)]
    [InlineData(GrinderRule.FileOnly, RepairAction.File, false, RepairLeave.Allowed)]
    [InlineData(GrinderRule.None, RepairAction.File, false, RepairLeave.Breach)]
    [InlineData(GrinderRule.None, RepairAction.Refill, false, RepairLeave.Allowed)]
    [InlineData(GrinderRule.None, RepairAction.Cool, false, RepairLeave.Allowed)]
    public void The_tool_rule_of_a_sitting_decides_over_a_repair(GrinderRule rule, RepairAction action, bool atStop, RepairLeave leave) =>
        Assert.Equal(leave, Repairs.Leave(rule, action, Finding(DiscontinuityKind.SlagInclusion, Stage.Fill, "4"), atStop));

    [Fact]
    public void Toes_dressed_to_hide_undercut_are_no_evidence_of_a_test() // common practice: the real test forbids it
    {
        var undercut = Finding(DiscontinuityKind.Undercut, Stage.Cap, "4", 1, depth: 1.2);
        Assert.Equal(RepairLeave.Void, Repairs.Leave(GrinderRule.Free, RepairAction.File, undercut, true));
        var log = Log(Pipe, new CouponRecords([], Whole(Pipe), [undercut], Repair(1, true, 50, RepairAction.File)));
        var made = log.Close(Noon.AddHours(3)).Made!;
        Assert.Equal((true, true), (made.Downgraded, made.Hidden));
        var evidence = log.Evidence(made.Verdict, Noon.AddHours(3));
        Assert.Equal((false, true), (evidence.Full, evidence.Aided));
    }

    [Fact]
    public void The_repair_drill_is_passed_by_popping_cooling_tapering_refilling_and_looking_at_every_clock_point()
    {
        string[] clock = ["12", "3", "6", "9"];
        List<LoggedFinding> holes = [.. clock.Select((at, index) => Finding(DiscontinuityKind.BurnThrough, Stage.Root, at, index + 1))];
        List<BenchEvent> sound = [.. holes.SelectMany((_, index) => Repair(index + 1, true, 50 + (index * 10), Cured))];
        CouponLog Drill(List<LoggedFinding> made, List<BenchEvent> events) =>
            Log(Popping, new CouponRecords([], Whole(Popping), made, events), asTest: false);

        var passed = Drill(holes, sound);
        Assert.Equal(VerdictKind.Accept, passed.Verdict().Kind);
        Assert.All(passed.Scores, score => Assert.Equal((true, 1, 5.0), (score.Passed, score.Tries, score.CooledMinutes)));
        Assert.All(passed.Close(Noon.AddHours(3)).Made!.Facts.ElementClean.Values, Assert.True);

        var three = Drill(holes[..3], sound);
        Assert.Equal(VerdictKind.CannotJudge, three.Verdict().Kind);
        Assert.Contains("9 o'clock: Not made yet.", three.Verdict().Says!);

        // Five refills at six o'clock are more than the four that a cut-out comes after.
        List<BenchEvent> stubborn =
        [
            .. sound.Where(one => one.Body.FindingId != Id(3)),
            .. Repair(3, true, 90, [RepairAction.Cool, RepairAction.Grind, .. Enumerable.Repeat(RepairAction.Refill, 5)]),
        ];
        var failed = Drill(holes, stubborn);
        Assert.Equal(VerdictKind.Reject, failed.Verdict().Kind);
        Assert.Equal((false, true), (failed.ElementClean(failed.Verdict())["root/bottom"], failed.ElementClean(failed.Verdict())["root/top"]));
        Assert.Equal(
            VerdictKind.Reject,
            Drill(holes, [.. sound.Where(one => one.Body.FindingId != Id(1)), .. Repair(1, true, 90, RepairAction.Taper, RepairAction.Refill)])
                .Verdict()
                .Kind
        ); // not cooled
    }

    [Fact]
    public void A_drill_of_cutting_out_is_passed_once_a_cut_out_is_made_and_sound()
    {
        var test = TestLibrary.Shipped["R5"];
        List<LoggedPass> root = [.. Whole(test).Where(pass => pass.Stage == Stage.Root)];
        CouponLog Drill(List<BenchEvent> events) => Log(test, new CouponRecords([], root, [], events), "cutOut", asTest: false);
        BenchEvent Made(RepairAction action, double at, int n) => Told(BenchEventKind.Repaired, new(Action: action), at, n);
        BenchEvent Looked(bool sound) => Told(BenchEventKind.LookedAgain, new(Sound: sound), 60, 9);
        Assert.Equal(VerdictKind.CannotJudge, Drill([]).Verdict().Kind);
        Assert.Null(MayRecord.Event(Drill([]), BenchEventKind.Repaired, new(Action: RepairAction.CutOutAndRegap)));
        List<BenchEvent> done = [Made(RepairAction.CutOutAndRegap, 50, 1), Made(RepairAction.Refill, 55, 2)];
        Assert.Equal(VerdictKind.CannotJudge, Drill(done).Verdict().Kind);
        Assert.Equal(VerdictKind.Accept, Drill([.. done, Looked(true)]).Verdict().Kind);
        Assert.Equal(VerdictKind.Reject, Drill([.. done, Looked(false)]).Verdict().Kind);
        Assert.Equal(
            "body.findingId",
            MayRecord.Event(Log(test, CouponRecords.None), BenchEventKind.Repaired, new(Action: RepairAction.Grind))?.Field
        );
    }

    [Fact]
    public void A_repair_is_looked_at_again_only_once_it_was_made()
    {
        var log = Log(Pipe, new CouponRecords([], Whole(Pipe), [Finding(DiscontinuityKind.BurnThrough, Stage.Root, "6")], []));
        Assert.Equal("findingId", MayRecord.Event(log, BenchEventKind.LookedAgain, new(FindingId: Id(1), Sound: true))?.Field);
        Assert.Equal("body.sound", MayRecord.Event(log, BenchEventKind.LookedAgain, new(FindingId: Id(1)))?.Field);
    }

    // ---- After closing

    [Fact]
    public void A_bend_that_comes_back_stands_beside_the_signed_verdict_and_the_signed_one_stays()
    {
        var open = Log(Plate, new CouponRecords([], Whole(Plate), [], []));
        var signed = new LoggedClosing(Id(500), Noon.AddHours(2), open.Close(Noon.AddHours(2)).Made!.Verdict);
        var closed = Log(Plate, new CouponRecords([], Whole(Plate), [], [], signed));
        var bend = new BenchEventBody(Specimen: 1, Bend: new BendSpecimen(9.525, [new BendDiscontinuity(5, false, false)])); // over 1/8 in
        Assert.Null(MayRecord.Event(closed, BenchEventKind.SpecimenTested, bend));
        Assert.NotNull(MayRecord.Event(closed, BenchEventKind.Measured, new(Side: JointSide.Face, At: "start", HeightMm: 1)));
        var back = Told(BenchEventKind.SpecimenTested, bend, 48 * 60, 501);
        var later = Log(Plate, new CouponRecords([], Whole(Plate), [], [back], signed)).Later()!.Value;
        Assert.Equal("rejected by root bend 2", later.Because);
        Assert.Equal(
            (VerdictKind.Reject, VerdictKind.Accept, VerdictKind.Reject),
            (later.Made.Verdict.Kind, later.Made.Verdict.Seen, later.Made.Verdict.Inside)
        );
        Assert.Equal("accept by eye, rejected by root bend 2", CouponLog.Sentence(later.Made.Verdict));
        Assert.Equal((1, 1), (later.Made.Facts.Tested, later.Made.Facts.Failed));

        var beside = new LoggedClosing(Id(502), Noon.AddHours(48), later.Made.Verdict, later.Because, back.Id);
        var both = Log(Plate, new CouponRecords([], Whole(Plate), [], [back], signed, [beside]));
        Assert.Equal((VerdictKind.Accept, VerdictKind.Reject), (both.FirstClosing!.Verdict.Kind, both.Closing!.Verdict.Kind));
        Assert.Equal(signed.At, both.Standing.ClosedAt); // closed since it was signed
        Assert.Null(MayRecord.TakeBack(both, BenchRecord.Event, back));
        Assert.Null(MayRecord.Event(both, BenchEventKind.Reopened, new(Note: "wrong plate bent")));
        Assert.Equal("body.note", MayRecord.Event(both, BenchEventKind.Reopened, new())?.Field);
        Assert.Equal("kind", MayRecord.Event(open, BenchEventKind.Reopened, new(Note: "x"))?.Field);
    }

    [Fact]
    public void A_reject_by_measure_is_named() // AWS D1.1: face reinforcement at most 1/8 in
    {
        var high = Told(BenchEventKind.Measured, new(Side: JointSide.Face, At: "middle", HeightMm: 4.5), 60, 1);
        var fault = Log(Plate, new CouponRecords([], Whole(Plate), [], [high])).Close(Noon.AddHours(2)).Made!.Facts.Faults.Single();
        Assert.Equal((DiscontinuityKind.ExcessFaceReinforcement, Stage.Cap, true), (fault.Kind, fault.Stage, fault.ByMeasure));
    }

    // ---- Corrections

    [Fact]
    public void A_finding_put_right_is_judged_as_it_should_have_been_said()
    {
        var said = Finding(DiscontinuityKind.Crack, Stage.Cap, "3");
        var right = new BenchEventBody(FindingId: Id(1), Finding: new FindingValues(DiscontinuityKind.Undercut, Stage.Cap, "4:30", DepthMm: 0.3));
        var open = Log(Pipe, new CouponRecords([], Whole(Pipe), [said], []));
        Assert.Null(MayRecord.Event(open, BenchEventKind.FindingCorrected, right));
        Assert.Equal(
            "body.finding.clock",
            MayRecord.Event(open, BenchEventKind.FindingCorrected, right with { Finding = right.Finding! with { Clock = null } })?.Field
        );
        var log = Log(Pipe, new CouponRecords([], Whole(Pipe), [said], [Told(BenchEventKind.FindingCorrected, right, 60, 2)]));
        Assert.Equal((DiscontinuityKind.Undercut, 270), (log.Findings[0].Kind, log.Findings[0].ClockMinutes));
        Assert.Equal((VerdictKind.Reject, VerdictKind.Accept), (open.Verdict().Kind, log.Verdict().Kind));
    }

    [Fact]
    public void What_a_signed_verdict_was_made_by_is_not_put_right_under_it()
    {
        var signed = new LoggedClosing(Id(500), Noon.AddHours(2), Log(Plate, new CouponRecords([], Whole(Plate), [], [])).Verdict());
        var closed = Log(Plate, new CouponRecords([], Whole(Plate), [], [], signed));
        NotPossible? Correct(CouponLog log, CouponCorrection what) => MayRecord.Event(log, BenchEventKind.Corrected, new(Correction: what));
        Assert.Equal("couponId", Correct(closed, new(TestId: "P7"))?.Field);
        Assert.Equal("couponId", Correct(closed, new(AsTest: false))?.Field);
        Assert.Null(Correct(closed, new(StudentId: Id(7))));
        Assert.Null(Correct(closed, new(BoothId: Id(7))));
        Assert.Equal("body.correction", Correct(closed, new())?.Field);
        Assert.Null(Correct(Log(Plate, CouponRecords.None), new(TestId: "P7")));
    }

    [Fact]
    public void Another_reason_to_give_a_coupon_up_is_said_in_words()
    {
        var log = Log(Plate, CouponRecords.None);
        Assert.Equal("body.note", MayRecord.Event(log, BenchEventKind.Voided, new(Reason: VoidReason.Other))?.Field);
        Assert.Null(MayRecord.Event(log, BenchEventKind.Voided, new(Reason: VoidReason.Other, Note: "Cut up for a bench vice")));
        Assert.Null(MayRecord.Event(log, BenchEventKind.Voided, new(Reason: VoidReason.WrongTest)));
    }

    // ---- The rules hold

    private static string Concerns(CouponLog log, Stage stage, double? interpassC = null) =>
        string.Join(" ", log.Concerns(stage, interpassC, Noon.AddHours(1)).Select(one => one.Concern));

    [Fact]
    public void Under_the_rules_of_a_test_what_is_wanting_is_told_before_the_pass()
    {
        var chrome = TestLibrary.Shipped["R6"]; // preheated to 150 °C at least, at most 315 °C between passes, purged
        Assert.Equal("HoldPoint Position Preheat Purge Safety", Concerns(Log(chrome, CouponRecords.None), Stage.Root));
        Assert.Equal("", Concerns(Log(chrome, CouponRecords.None, asTest: false), Stage.Root));
        var purge = CouponBudget.PurgeOf(chrome).Minutes;
        List<BenchEvent> done =
        [
            Told(BenchEventKind.HoldAnswered, new(Point: "fitUp", Go: true), 1, 1),
            Told(BenchEventKind.PositionWitnessed, new(), 2, 2),
            Told(BenchEventKind.TimerStarted, new(Timer: BenchTimer.Purge, Minutes: purge), 4, 4),
        ];
        Assert.Equal("", Concerns(Log(chrome, new CouponRecords([], [], [], done, SafetySigned: true)), Stage.Root, 160));
        Assert.Equal("Preheat", Concerns(Log(chrome, new CouponRecords([], [], [], done, SafetySigned: true)), Stage.Root, 140));
        Assert.Equal("Interpass", Concerns(Log(chrome, new CouponRecords([], [], [], done, SafetySigned: true)), Stage.Root, 320));
        Assert.Equal(
            "HoldPoint",
            Concerns(Log(chrome, new CouponRecords([], [Run(chrome, "root-1-1", 30)], [], done, SafetySigned: true)), Stage.Hot, 160)
        );

        var timed = TestLibrary.Shipped["P6"]; // 120 minutes
        Assert.Contains("SittingTimer", Concerns(Log(timed, CouponRecords.None), Stage.Root), StringComparison.Ordinal);
        var runs = Told(BenchEventKind.TimerStarted, new(Timer: BenchTimer.Sitting), 1, 1);
        Assert.DoesNotContain("SittingTimer", Concerns(Log(timed, new CouponRecords([], [], [], [runs])), Stage.Root), StringComparison.Ordinal);
    }

    [Fact]
    public void Going_on_all_the_same_is_in_the_record_and_counts_as_coached()
    {
        List<LoggedPass> passes = [.. Whole(Plate).Select((pass, index) => index == 2 ? pass with { Despite = [Concern.HoldPoint] } : pass)];
        var made = Log(Plate, new CouponRecords([], passes, [], [])).Close(Noon.AddHours(2)).Made!;
        Assert.True(made.Downgraded);
        var coached = Log(Plate, new CouponRecords([], passes, [], []), asTest: false);
        Assert.Empty(coached.Breaches(Noon.AddHours(2)));
        Assert.False(Log(Plate, new CouponRecords([], Whole(Plate), [], [])).IsDowngraded(Noon.AddHours(2))); // passes of before this was kept
    }

    [Fact]
    public void A_hold_point_that_was_kept_by_its_title_is_still_that_point()
    {
        var kept = System.Text.Json.JsonSerializer.Deserialize<IReadOnlyList<HoldPoint>>(
            """["Root","Before the cap","By the window"]""",
            CoreJson.Options
        )!;
        Assert.Equal([new("root", "Root", Stage.Root), new("cap", "Before the cap", Stage.Cap), new("By the window", "By the window", null)], kept);
        var written = System.Text.Json.JsonSerializer.Serialize(kept, CoreJson.Options);
        Assert.Equal(kept, System.Text.Json.JsonSerializer.Deserialize<IReadOnlyList<HoldPoint>>(written, CoreJson.Options)!);
    }

    // ---- What is asked

    [Fact]
    public void Nothing_is_asked_that_no_cause_and_no_sum_uses()
    {
        string[] sums = ["travel", "heat", "verdict"];
        Assert.All(Asks.All, ask => Assert.All(ask.UsedBy, use => Assert.True(sums.Contains(use) || CauseFinder.KnownFacts.Contains(use), use)));
        var fields = typeof(RunMeasures).GetProperties().Select(one => char.ToLowerInvariant(one.Name[0]) + one.Name[1..]).ToHashSet();
        Assert.All(Asks.All, ask => Assert.Contains(ask.Id, fields));
    }

    [Theory]
    [InlineData("P1", "root-1-1", "cleaned rodOutHours")] // a strip, low-hydrogen rods
    [InlineData("R3", "root-1-1", "cleaned gapAtTieInMm keyhole stopDress")]
    [InlineData("P8", "root-1-1", "cleaned stickOutMm")] // self-shielded: no gas
    [InlineData("P8", "fill-3-2", "cleaned levels stickOutMm")]
    [InlineData("R5", "root-1-1", "cupNumber gapAtTieInMm gasFlowLPerMin keyhole oxygenPercent stopDress")]
    [InlineData("R5", "cap-4-2", "cupNumber gasFlowLPerMin")]
    [InlineData("R1", "root-1-1", "ballPassed cupNumber gapAtTieInMm gasFlowLPerMin keyhole stopDress")]
    public void A_bead_is_asked_what_its_process_and_stage_bring(string id, string key, string asked)
    {
        var test = TestLibrary.Shipped[id];
        var log = Log(test, CouponRecords.None);
        string[] always = ["arcSeconds", "rodsUsed", "runLengthMm"];
        var bead = log.Beads.First(one => one.Key == key);
        Assert.Equal(asked, string.Join(" ", log.AskedOf(bead).Select(ask => ask.Id).Except(always).Order(StringComparer.Ordinal)));

        // What is asked once of a process is not asked of its second bead.
        if (bead.Stage == Stage.Root && id != "R3")
        {
            var laid = Log(test, new CouponRecords([], [Run(test, key, 1)], [], []));
            Assert.DoesNotContain(
                laid.AskedOf(laid.Beads.Skip(1).First(one => one.Stage != Stage.Root)),
                ask => ask.FirstOfProcess && ask.Id is not ("gasFlowLPerMin" or "cupNumber")
            );
        }
    }

    [Fact]
    public void What_was_measured_points_to_its_cause()
    {
        var root = Run(Pipe, "root-1-1", 1) with { Measured = new RunMeasures(Keyhole: Keyhole.Large, GapAtTieInMm: 0.8, StopDress: StopDress.AsIs) };
        CouponLog With(LoggedFinding finding) => Log(Pipe, new CouponRecords([], [root], [finding], []));
        var hole = Finding(DiscontinuityKind.BurnThrough, Stage.Root, "6");
        Assert.True(With(hole).CauseFactsOf(hole).KeyholeLarge);
        Assert.Equal("keyholePause", CauseFinder.Rank(DiscontinuityKind.BurnThrough, With(hole).CauseFactsOf(hole))[0].Id);
        var cold = Finding(DiscontinuityKind.IncompleteJointPenetration, Stage.Root, "12");
        Assert.Contains(
            "at the tie-in",
            string.Join(" ", CauseFinder.Rank(cold.Kind, With(cold).CauseFactsOf(cold))[0].Grounds),
            StringComparison.Ordinal
        );

        // Asked once, with the first pass of the process: it holds for the later ones.
        List<LoggedPass> filled =
        [
            Run(Plate, "root-1-1", 1) with
            {
                Measured = new RunMeasures(StickOutMm: 6),
            },
            Run(Plate, "fill-2-1", 9) with
            {
                Measured = new RunMeasures(Levels: [new FillLevel("start", 3), new FillLevel("end", 1)]),
            },
            Run(Plate, "cap-4-1", 20),
        ];
        LoggedFinding At(double mm) => new(Id(1), Noon.AddMinutes(40), null, DiscontinuityKind.Undercut, Stage.Cap, Place.At(mm));
        CauseFacts Facts(double mm) => Log(Plate, new CouponRecords([], filled, [At(mm)], [])).CauseFactsOf(At(mm));
        Assert.Equal((6.0, 3.0), (Facts(10).StickOutMm, Facts(10).FillBelowFlushMm));
        Assert.Equal(1.0, Facts(150).FillBelowFlushMm);
    }

    [Theory]
    [InlineData(5, 14.2, "flowHigh")] // 30 ft3/h through a cup that takes 10 to 20 (common practice)
    [InlineData(5, 9.44, null)]
    [InlineData(8, 4.72, "flowLow")] // 10 ft3/h through one that takes 15 to 25
    [InlineData(10, 14.2, null)] // no row for it: says nothing
    public void Gas_is_held_against_the_cup_that_it_comes_through(int cup, double flow, string? cause)
    {
        var test = TestLibrary.Shipped["F3"];
        var key = test.Beads()[0].Key;
        var pass = Run(test, key, 1) with { Measured = new RunMeasures(GasFlowLPerMin: flow, CupNumber: cup) };
        var pores = new LoggedFinding(Id(1), Noon.AddMinutes(40), null, DiscontinuityKind.Porosity, test.Passes[0].Stage, Place.At(20));
        var facts = Log(test, new CouponRecords([], [pass], [pores], [])).CauseFactsOf(pores);
        var grounds = CauseFinder
            .Rank(DiscontinuityKind.Porosity, facts)
            .Where(one => one.Grounds.Any(says => says.Contains("through a cup", StringComparison.Ordinal)));
        Assert.Equal(cause is null ? [] : [cause], grounds.Select(one => one.Id));
    }

    [Theory]
    [InlineData(true, VerdictKind.Accept, true)]
    [InlineData(null, VerdictKind.Accept, true)] // not tried: no evidence
    [InlineData(false, VerdictKind.Reject, false)]
    public void A_ball_that_does_not_pass_the_bore_rejects_the_root(bool? passed, VerdictKind verdict, bool clean)
    {
        var test = TestLibrary.Shipped["R1"];
        var laid = Whole(test);
        laid[0] = laid[0] with { Measured = new RunMeasures(BallPassed: passed) };
        var fitUp = new LoggedFitUp(Id(9), Noon, new FitUpMeasured([], [], new Dictionary<string, bool>()));
        var said = Log(test, new CouponRecords([fitUp], laid, [], [])).Verdict();
        Assert.Equal((verdict, clean), (said.Seen, said.StageClean[Stage.Root]));
        Assert.Equal(passed == false, said.Says?.Any(one => one.Contains("ball", StringComparison.Ordinal)) == true);
    }

    [Fact]
    public void How_a_stop_is_taken_up_again_reaches_rules_and_budget()
    {
        var dip = Pipe.With(new Dictionary<string, string> { ["restart"] = "dip" });
        Assert.Equal((RestartWay.CutOut, RestartWay.Dip), (Pipe.RestartBy!.Value, dip.RestartBy!.Value));
        CouponLog Cut(TestTemplate test, bool asTest = true) =>
            Log(
                test,
                new CouponRecords([], [Run(test, "root-1-1", 1) with { Measured = new RunMeasures(StopDress: StopDress.CutOut) }], [], []),
                asTest: asTest
            );
        bool Broken(CouponLog log) => log.IsDowngraded(Noon) && log.Breaches(Noon).Any(one => one.Rule == SittingRule.Grinder);
        Assert.False(Broken(Cut(Pipe)));
        Assert.True(Broken(Cut(dip)));
        Assert.False(Broken(Cut(dip, asTest: false)));
        Assert.True(Broken(Cut(Pipe with { Rules = Pipe.Rules with { Grinder = GrinderRule.FileOnly } })));

        // One minute and a fiftieth of a disc for each stop of the root (chosen defaults): the rods of the root less one.
        var (cut, dipped) = (CouponBudget.Of(Pipe), CouponBudget.Of(dip));
        var stops = cut.CleaningMinutes - dipped.CleaningMinutes;
        Assert.InRange(stops, 1, 8);
        Assert.Equal(stops, Math.Round(stops), 9);
        Assert.Equal(stops * 0.02, cut.Discs - dipped.Discs, 9);
    }

    // ---- Numbers of a run

    [Fact]
    public void Travel_and_heat_follow_from_the_length_and_the_time_of_a_run()
    {
        // 24 V, 200 A at 250 mm/min: 1.152 kJ/mm (ASME QW-409.1)
        var run = Run(Plate, "root-1-1", 1) with
        {
            Volts = 24,
            Amps = 200,
            Measured = new RunMeasures(RunLengthMm: 125, ArcSeconds: 30),
        };
        var numbers = RunNumbers.Of(Plate, run);
        Assert.Equal(250, numbers.TravelMmPerMin!.Value, 9);
        Assert.Equal(1.152, numbers.HeatKJPerMm!.Value, 9);
        Assert.False(numbers.VoltsEstimated);

        // A covered electrode at 100 A: 24 V by the load line of IEC 60974-1.
        var rod = run with
        {
            Process = Process.Smaw,
            Volts = null,
            Amps = 100,
        };
        Assert.Equal((0.576, true), (Math.Round(RunNumbers.Of(Plate, rod).HeatKJPerMm!.Value, 9), RunNumbers.Of(Plate, rod).VoltsEstimated));
        Assert.Null(RunNumbers.Of(Plate, run with { Measured = null }).TravelMmPerMin);

        // One 1/8 E7018 leaves 20.84 g at 0.16 g/min A: 130 s at 60 A over 152.4 mm (the deposit is that of EN ISO 2401, recovery 1.10).
        var backed = TestLibrary.Shipped["P1"];
        var burnt = Run(backed, "root-1-1", 1) with { Amps = 60, Measured = new RunMeasures(RodsUsed: 1) };
        var byRods = RunNumbers.Of(backed, burnt);
        Assert.Equal(152.4 / (20.84 / (0.16 * 60)), byRods.TravelMmPerMin!.Value, 1);
        Assert.True(byRods.TravelEstimated);
        Assert.Null(RunNumbers.Of(backed, burnt with { Process = Process.Gtaw }).TravelMmPerMin);

        // Half of the way round NPS 6 Sch 80 at the middle of its wall: pi (6.625 - 0.432) / 2 in.
        var half = Run(Pipe, "root-1-1", 1, "6", "12", PipeSide.Nine);
        Assert.Equal(Math.PI * (6.625 - 0.432) / 2 * 25.4, RunNumbers.Of(Pipe, half).LengthMm!.Value, 6);
    }

    // ---- All of it, on every test of the library

    [Theory]
    [MemberData(nameof(AllTests))]
    public void Every_test_is_welded_from_fit_up_to_verdict_in_runs_with_one_repair_and_one_bead_more(string id)
    {
        var test = TestLibrary.Shipped[id];
        var fitUp = new LoggedFitUp(
            Id(1),
            Noon,
            new FitUpMeasured(
                [.. test.FitUp.Points.Select(at => new FitUpPoint(at, RootOpeningMm: test.Joint.RootOpeningMm))],
                [],
                test.FitUp.Questions.ToDictionary(question => question.Id, _ => true)
            )
        );
        var stage = test.Stages[^1];
        var where = test.Product == Product.Pipe ? Place.At(ClockPosition.Parse("6")) : Place.At(20);
        var finding = new LoggedFinding(
            Id(2),
            Noon.AddMinutes(500),
            null,
            DiscontinuityKind.Crack,
            test.Repairing is null ? stage : Stage.Root,
            where
        );
        var events = new List<BenchEvent> { Told(BenchEventKind.BeadAdded, new(Stage: stage), 1, 3) };
        var passes = new List<LoggedPass>();
        CouponLog Now(params LoggedFinding[] findings) => Log(test, new CouponRecords([fitUp], passes, findings, events), asTest: false);

        for (var (step, log) = (0, Now()); log.Next() is { Kind: NextKind.Pass, BeadKey: { } key } && step < 400; step++, log = Now())
        {
            var bead = log.Beads.First(one => one.Key == key);
            var left = log.RunsLeft(bead, OperatorHand.Left);
            Assert.NotEmpty(left);
            Assert.Null(MayRecord.Pass(log, key, left[0].From, left[0].To, true, left[0].Side));
            passes.Add(Run(test, key, 2 + step, left[0].From, left[0].To, left[0].Side, OperatorHand.Left));
        }

        Assert.Equal(test.Beads().Count + 1, passes.Select(pass => pass.BeadKey).Distinct().Count());
        Assert.Equal(NextKind.Look, Now().Next().Kind);
        if (test.Repairing is { } drill)
        {
            var holes = drill.Points.Select((at, index) => Finding(drill.Fault, Stage.Root, at, 10 + index)).ToArray();
            events.AddRange(holes.SelectMany((_, index) => Repair(10 + index, true, 600 + (index * 10), Cured)));
            Assert.Equal(VerdictKind.Accept, Now(holes).Close(Noon.AddDays(1)).Made!.Verdict.Kind);
            return;
        }

        Assert.Equal(VerdictKind.Reject, Now(finding).Verdict().Kind);
        events.AddRange(Repair(2, true, 600, RepairAction.Cool, RepairAction.Grind, RepairAction.Refill));
        if (test.Joint.LegMm is { } leg && Now().Profile.Fillet?.LegsAsAsked == true && test.Weld == WeldKind.Fillet)
        {
            // One leg alone leaves a fillet open, and a short one rejects it.
            events.Add(Told(BenchEventKind.Measured, new(Side: JointSide.Face, At: "middle", Fillet: new FilletMeasures(LegAMm: leg)), 690, 80));
            Assert.Equal("fillet", Now(finding).Close(Noon.AddDays(1)).Refusal!.Field);
            var measured = new BenchEventBody(Side: JointSide.Face, At: "middle", Fillet: new FilletMeasures(LegAMm: leg - 0.1, LegBMm: leg));
            Assert.Null(MayRecord.Event(Now(finding), BenchEventKind.Measured, measured));
            events.Add(Told(BenchEventKind.Measured, measured, 700, 90));
            Assert.Equal(VerdictKind.Reject, Now(finding).Verdict().Kind);
            events.Add(Told(BenchEventKind.Measured, measured with { Fillet = new FilletMeasures(LegAMm: leg, LegBMm: leg) }, 710, 91));
        }

        var (made, why) = Now(finding).Close(Noon.AddDays(1));
        Assert.Null(why);
        Assert.Equal((VerdictKind.Accept, 1), (made!.Verdict.Kind, made.Facts.Repaired!.Count));
    }
}
