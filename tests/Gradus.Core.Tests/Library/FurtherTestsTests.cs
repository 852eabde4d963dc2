using Gradus.Core.Inspection;
using Gradus.Core.Joints;
using Gradus.Core.Library;
using Gradus.Core.Qualification;
using Gradus.Core.Welding;

namespace Gradus.Core.Tests.Library;

/// <summary>What the further tests of the library ask of the engine: tacks, plugs, a branch, the ring of 6GR, aluminium and sheet.</summary>
public class FurtherTestsTests
{
    private static TestTemplate Test(string id, params (string Group, string Option)[] choices) =>
        TestLibrary.Shipped[id].With(choices.ToDictionary(one => one.Group, one => one.Option));

    private static Qualified Range(TestTemplate test, string code) =>
        Qualifier.Combine(Positions.Of(code)!, [TestQualification.PassesOf(test, code).Single()]);

    /// <summary>AWS D1.1 Table 4.10 (2015), 6.10 (2020): plug tests qualify plug and slot welds, and nothing else. From memory, 75 %.</summary>
    [Fact]
    public void A_plug_qualifies_plugs_alone()
    {
        var range = Range(Test("F10"), "aws-d1.1");
        Assert.Equal(WeldKind.Plug, range.Own!.Weld);
        Assert.Equal(["F"], range.Own.Positions);
        Assert.Empty(range.PlateGroove.Concat(range.PipeGroove).Concat(range.Fillet));
        var weld = new JobWeld("plug", Product.Plate, WeldKind.Plug, "F", 6, 6, null, true, "SMAW", 4, Progression.None);
        var passes = TestQualification.PassesOf(Test("F10"), "aws-d1.1");
        var table = Positions.Of("aws-d1.1")!;
        Assert.Empty(Coverage.Missing(table, weld, passes));
        Assert.NotEmpty(Coverage.Missing(table, weld with { Weld = WeldKind.Fillet }, passes));
        Assert.NotEmpty(Coverage.Missing(table, weld with { Weld = WeldKind.Tack }, passes));
        Assert.NotEmpty(Coverage.Missing(table, weld with { Position = "OH" }, passes));
        Assert.NotEmpty(Coverage.Missing(table, weld, TestQualification.PassesOf(Test("F1"), "aws-d1.1")));
    }

    /// <summary>AWS D1.1, tack welders: fused to the root, no pore or slag over 3/32 in; their sum is not limited. From memory, 85 %.</summary>
    [Theory]
    [InlineData(true, new[] { 2.3, 2.3, 2.3, 2.3, 2.3 }, VerdictKind.Accept)]
    [InlineData(true, new[] { 2.5 }, VerdictKind.Reject)]
    [InlineData(false, new double[0], VerdictKind.Reject)]
    public void A_tack_is_broken_by_limits_of_its_own(bool fused, double[] pores, VerdictKind verdict)
    {
        var specimen = new FilletBreakSpecimen(false, fused, false, [.. pores.Select(size => (double?)size)], LengthMm: 50.8);
        var profile = AcceptanceProfiles.Shipped["aws-d1.1"];
        Assert.Equal(verdict, BreakAndMacroJudge.FilletBreak(profile, [specimen], WeldKind.Tack).Kind);

        // A fillet of that length has its share of 3/8 in in 6 in as well.
        Assert.Equal(VerdictKind.Reject, BreakAndMacroJudge.FilletBreak(profile, [specimen with { InclusionsMm = [2.3, 2.3] }]).Kind);
        Assert.Equal(VerdictKind.CannotJudge, BreakAndMacroJudge.FilletBreak(AcceptanceProfiles.Shipped["asme-ix"], [specimen], WeldKind.Tack).Kind);
    }

    /// <summary>AWS D1.1, plug macro: no crack, fused to the base and the wall of the hole, slag 1/4 in together at most. From memory, 92 %.</summary>
    [Theory]
    [InlineData(6.3, VerdictKind.Accept)]
    [InlineData(6.5, VerdictKind.Reject)]
    [InlineData(null, VerdictKind.CannotJudge)]
    public void A_plug_is_cut_through_for_its_slag(double? slag, VerdictKind verdict)
    {
        var section = new MacroSpecimen(false, false, true, null, null, null, null, null, null, null, null, Plug: true, SlagMm: slag);
        Assert.Equal(verdict, BreakAndMacroJudge.Macro(AcceptanceProfiles.Shipped["aws-d1.1"], [section]).Kind);
        Assert.Equal(
            VerdictKind.Reject,
            BreakAndMacroJudge.Macro(AcceptanceProfiles.Shipped["aws-d1.1"], [section with { SlagMm = 0, FusionComplete = false }]).Kind
        );
        Assert.Equal(VerdictKind.CannotJudge, BreakAndMacroJudge.Macro(AcceptanceProfiles.Shipped["aws-d1.6"], [section with { SlagMm = 0 }]).Kind);
    }

    /// <summary>The volume of a plug is that of its hole, π/4·d²·t (geometry): 2.71 cm³ of a 3/4 in hole in 3/8 in plate, 21 g of steel, one and a half rods.</summary>
    [Fact]
    public void A_plug_takes_the_metal_of_its_hole()
    {
        var budget = CouponBudget.Of(Test("F10"));
        var flush = Math.PI / 4 * 19.05 * 19.05 * 9.525 * 7850 / 1e9;
        Assert.InRange(budget.Fillers.Single().DepositKg, flush, flush * 1.2); // and a face of 1/16 in
        Assert.InRange(budget.Fillers.Single().Rods!.Value, 1, 2);
    }

    /// <summary>The joint of two equal pipes is 1.216 of the girth (the length of the curve in which equal cylinders meet, 7.640 r).</summary>
    [Fact]
    public void A_branch_is_longer_than_the_girth()
    {
        var (branch, butt) = (Test("R16"), TestLibrary.Shipped["R3"]);
        Assert.Equal(7.6404 * 168.275 / 2, branch.WeldLengthMm!.Value, 0.05);
        Assert.Equal(Math.PI * 168.275, butt.WeldLengthMm!.Value, 1e-6);
        Assert.Equal(["nickBreak", "nickBreak", "nickBreak", "nickBreak"], branch.Specimens.Select(one => one.Kind)); // API 1104 6.5.6
    }

    /// <summary>API 1104: a branch covers no butt and a butt no branch.</summary>
    [Fact]
    public void A_branch_and_a_butt_do_not_cover_each_other()
    {
        var rules = CoveringRules.ByCode["api-1104"];
        var asked = new AskedWeld(Product.Pipe, WeldKind.Groove, "V", 7, 168.275, Backed.None, "SMAW", 3, Progression.Downhill);
        PassedCoupon Of(string id)
        {
            var root = TestQualification.PassesOf(Test(id), "api-1104").First(one => !one.Backing);
            return new PassedCoupon(
                root.Product,
                root.Weld,
                root.Position,
                root.ThicknessMm,
                root.OutsideDiameterMm,
                Backed.None,
                root.Process,
                root.FNumber,
                root.Progression,
                Joint: root.Joint
            );
        }

        Assert.False(Covering.Of(rules, [Of("R16")], asked).Covered);
        Assert.True(Covering.Of(rules, [Of("R16")], asked with { Joint = PipeJoint.Branch }).Covered);
        Assert.True(Covering.Of(rules, [Of("R15")], asked).Covered);
        Assert.False(Covering.Of(rules, [Of("R15")], asked with { Joint = PipeJoint.Branch }).Covered);

        // Nor does the finder take a branch for a job's butt.
        var butt = new JobWeld("butt", Product.Pipe, WeldKind.Groove, "V", 7, 7, 168.275, false, "SMAW", 3, Progression.Downhill);
        IReadOnlyList<Shortfall> Missing(string id) =>
            Coverage.Missing(Positions.Of("api-1104")!, butt, TestQualification.PassesOf(Test(id), "api-1104"));
        Assert.Equal(["joint"], Missing("R16").Select(one => one.Variable));
        Assert.Empty(Missing("R15"));
    }

    /// <summary>AWS D1.1 Table 4.11/6.11: NPS 6 Sch 120 or NPS 8 Sch 80 without an upper limit of thickness; the ring stands at most 1/2 in off.</summary>
    [Theory]
    [InlineData("6-120")]
    [InlineData("8-80")]
    public void The_ring_test_has_no_upper_thickness_and_shows_its_ring(string size)
    {
        var test = Test("R14", ("size", size));
        Assert.Null(Range(With(test, Stage.Fill), "aws-d1.1").ThicknessMm!.Max);
        var section = test.Section();
        Assert.Equal(12.7, section.RestrictionRing!.Min(point => point.X) - section.MemberB[^2].X + RingShown, 6);
        Assert.Empty(TestQualification.PassesOf(test, "asme-ix")); // 6GR is no position of ASME IX
        Assert.Null(TestLibrary.Shipped["R3"].Section().RestrictionRing);

        static TestTemplate With(TestTemplate test, Stage stage) => test with { Passes = [.. test.Passes.Where(pass => pass.Stage >= stage)] };
    }

    // The member is drawn to the far side of the ring: 1/2 in off and 1/2 in thick.
    private const double RingShown = 25.4;

    /// <summary>ASME IX QW-452.1(b): 1/2 in of weld metal in three layers has no upper limit; less has twice its thickness. Of these walls a gas tungsten root leaves less.</summary>
    [Theory]
    [InlineData("R11")]
    [InlineData("R12")]
    [InlineData("R13")]
    public void Each_process_of_the_pipe_tests_counts_by_what_it_laid(string id)
    {
        var test = Test(id);
        var passes = TestQualification.PassesOf(test, "asme-ix");
        Assert.Equal(["GTAW", "SMAW"], passes.Select(one => one.Process).Order());
        Assert.Equal(test.Joint.ThicknessMm, passes.Sum(one => one.ThicknessMm), 0.01);
        Assert.All(passes, one => Assert.Equal(2 * one.ThicknessMm, Range(one).ThicknessMm!.Max!.Value, 1e-6));

        static Qualified Range(PassedTest one) => Qualifier.Combine(Positions.Of("asme-ix")!, [one]);
    }

    /// <summary>Aluminium F21 to F26 cover each other (ASME IX QW-433); ISO 9606-1 and D1.1 are for steel.</summary>
    [Theory]
    [InlineData("R17")]
    [InlineData("P20")]
    public void Aluminium_qualifies_by_the_codes_for_aluminium(string id)
    {
        var test = Test(id);
        Assert.Equal(["asme-ix", "aws-d1.2"], Positions.Codes.Where(code => TestQualification.PassesOf(test, code).Count > 0).Order());
        Assert.All(
            TestQualification.PassesOf(test, "aws-d1.2"),
            one => Assert.Contains(23, Qualifier.Combine(Positions.Of("aws-d1.2")!, [one]).FNumbers)
        );
    }

    /// <summary>AWS D1.3: the tested thickness and over, here to twice it within the 3/16 in of the code; undercut an eighth of the weld together, whatever its depth (80 %).</summary>
    [Fact]
    public void Sheet_is_judged_and_qualified_by_its_own_code()
    {
        var lap = Test("F7");
        var range = Range(lap, "aws-d1.3");
        Assert.Equal(["F", "H"], range.Fillet);
        Assert.Empty(range.PlateGroove);
        Assert.Equal(0.1046 * 25.4, range.ThicknessMm!.Min, 9);
        Assert.Equal(3.0 / 16 * 25.4, range.ThicknessMm.Max!.Value, 9);
        var profile = AcceptanceProfiles.Shipped["aws-d1.3"];
        MeasuredFinding Undercut(double length) => new(DiscontinuityKind.Undercut, Stage.Root, LengthMm: length, DepthMm: 2);
        Assert.Equal(VerdictKind.Accept, VisualJudge.Judge(profile, lap.Inspected, [Undercut(19)]).Kind);
        Assert.Equal(VerdictKind.Reject, VisualJudge.Judge(profile, lap.Inspected, [Undercut(19.1)]).Kind);
    }

    /// <summary>Welders of these tests stand in another position than the first by a choice; what it qualifies goes along.</summary>
    [Theory]
    [InlineData("P11", "2G", "aws-d1.1", new[] { "F", "H" })]
    [InlineData("P12", "4G", "aws-d1.1", new[] { "F", "OH" })]
    [InlineData("P13", "1G", "aws-d1.1", new[] { "F" })]
    [InlineData("P14", "4G", "aws-d1.1", new[] { "F", "OH" })]
    [InlineData("P19", "3G", "asme-ix", new[] { "F", "V" })]
    public void A_position_that_is_chosen_is_the_one_that_counts(string id, string position, string code, string[] positions)
    {
        var test = Test(id, ("position", position));
        Assert.Equal([position], test.Positions);
        Assert.All(TestQualification.PassesOf(test, code), one => Assert.Equal(positions, Qualifier.Combine(Positions.Of(code)!, [one]).PlateGroove));
        Assert.All(test.Passes, pass => Assert.Equal(position == "3G" ? Progression.Uphill : Progression.None, pass.Progression));
    }

    /// <summary>Two beads over the face of 3/8 in plate or of NPS 6 pipe have to be about half an inch wide each; the section says so (geometry).</summary>
    [Theory]
    [InlineData("R3", "cap", "two", 0.49)] // 2.38 + 2·(10.97 − 2.38)·tan 37.5° and 1/16 in over each edge: 18.7 mm over 1.5
    [InlineData("R3", "cap", "three", 0.37)]
    [InlineData("P7", "capBeads", "two", 0.54)]
    [InlineData("P8", "capBeads", "three", 0.34)]
    public void The_section_says_how_wide_the_beads_of_the_cap_have_to_be(string id, string group, string option, double inches) =>
        Assert.Equal(inches, Test(id, (group, option)).Section().CapBeadMm!.Value / 25.4, 0.01);

    /// <summary>Ranges of welders of that test (common practice), as the library gives them: the whole machine band, not one person's numbers.</summary>
    [Theory]
    [InlineData("P7", 22, 27, 250, 400)]
    [InlineData("P8", 15, 20, 110, 180)]
    [InlineData("P15", 23, 26, 250, 350)]
    [InlineData("P14", 17, 19.5, 180, 260)]
    public void Ranges_of_wire_are_those_of_the_trade(string id, double leastVolts, double mostVolts, double leastFeed, double mostFeed)
    {
        var passes = Test(id).Passes;
        Assert.Equal((leastVolts, mostVolts), (passes.Min(pass => pass.Settings.Volts!.Min), passes.Max(pass => pass.Settings.Volts!.Max)));
        Assert.Equal(leastFeed * 25.4, passes.Min(pass => pass.Settings.WireFeedMmPerMin!.Min), 0.1);
        Assert.Equal(mostFeed * 25.4, passes.Max(pass => pass.Settings.WireFeedMmPerMin!.Max), 0.1);
    }

    /// <summary>A wire that is laid in the gap is about as thick as the gap is wide: it may not fall through, nor need forcing (common practice).</summary>
    [Fact]
    public void A_wire_that_is_laid_fits_its_gap() =>
        Assert.All(
            TestLibraryTests
                .Ways.Select(row => row.Data)
                .Select(way => TestLibrary.Shipped[way.Item1].With(new Dictionary<string, string> { [way.Item2] = way.Item3 })),
            test =>
                Assert.All(
                    test.Passes.Where(pass => pass.Technique == BeadTechnique.LayWire),
                    pass => Assert.InRange(pass.Filler.DiameterMm / test.Joint.RootOpeningMm, 0.9, 1.34)
                )
        );

    /// <summary>1 in plate: 20 to 30 beads in 8 to 12 layers; the pipe tests as many layers as the trade counts (common practice).</summary>
    [Theory]
    [InlineData("P11", 8, 10, 20, 30)]
    [InlineData("P12", 9, 12, 20, 36)]
    [InlineData("R13", 5, 7, 8, 14)]
    [InlineData("R14", 6, 8, 8, 14)]
    [InlineData("R15", 4, 6, 4, 7)]
    [InlineData("P18", 4, 4, 7, 9)]
    [InlineData("P19", 3, 5, 4, 5)]
    public void The_heavy_joints_have_the_layers_of_the_trade(string id, int leastLayers, int mostLayers, int least, int most)
    {
        var beads = Test(id).Beads();
        Assert.InRange(beads.Select(bead => bead.Layer).Distinct().Count(), leastLayers, mostLayers);
        Assert.InRange(beads.Count, least, most);
    }
}
