using CsCheck;
using Gradus.Core.Coaching;
using Gradus.Core.Library;
using Gradus.Core.Safety;

namespace Gradus.Core.Tests.Coaching;

public class ProceduresTests
{
    private const double EighthInch = 3.175;

    /// <summary>Common practice, with chosen limits: a gap that closes is re-cut, before that the heat is raised.</summary>
    [Theory]
    [InlineData("S1", 1.0, EighthInch, GapVerdict.ReCut)]
    [InlineData("S1", 1.6, EighthInch, GapVerdict.RaiseHeat)]
    [InlineData("S1", 2.38125, EighthInch, GapVerdict.GoOn)] // 3/32 in with a 1/8 in rod
    [InlineData("S1", 4.2, EighthInch, GapVerdict.TooWide)]
    [InlineData("S3", 1.3, EighthInch, GapVerdict.RaiseHeat)]
    [InlineData("T1", 2.6, EighthInch, GapVerdict.GoOn)]
    [InlineData("T1", EighthInch, 2.38125, GapVerdict.TooWide)] // 3/32 in wire in a 1/8 in gap is dipped
    [InlineData("T2", EighthInch, 2.38125, GapVerdict.GoOn)]
    [InlineData("T3", 2.7, EighthInch, GapVerdict.ReCut)]
    [InlineData("M1", 1.5, 0.889, GapVerdict.ReCut)] // under 1/16 in
    [InlineData("M1", 3.175, 0.889, GapVerdict.GoOn)]
    public void What_is_left_of_a_gap_says_what_to_do(string card, double gapMm, double diameterMm, GapVerdict verdict) =>
        Assert.Equal(verdict, GapLeft.Of(card, gapMm, diameterMm, Wording.English)!.Verdict);

    [Fact]
    public void A_gap_says_nothing_where_no_root_is_open() => Assert.Null(GapLeft.Of("S8", 2, EighthInch, Wording.English));

    [Fact]
    public void A_wider_gap_never_asks_for_more_heat() =>
        Gen.Select(Gen.Double[0, 6], Gen.Double[0, 6], Gen.OneOf([.. Cards.Select(Gen.Const)]))
            .Sample((a, b, card) => Of(card, Math.Min(a, b)) <= Of(card, Math.Max(a, b)), iter: 500);

    private static readonly string[] Cards = ["S1", "S3", "T1", "T2", "T3", "M1"];

    private static GapVerdict Of(string card, double gap) => GapLeft.Of(card, gap, EighthInch, Wording.English)!.Verdict;

    /// <summary>Blodgett: shrinkage 0.1 of the mean width; a width of 10 mm closes by 1 mm with two tacks, less the more hold it.</summary>
    [Fact]
    public void A_joint_closes_the_less_the_more_holds_it()
    {
        double Closes(int tacks, bool held) => GapLeft.Forecast(3, 1, Product.Plate, tacks, held, []).ClosesMm;
        Assert.Equal(1, Closes(2, false), 9);
        Assert.Equal(0.6, Closes(3, false), 9);
        Assert.Equal(0.3, Closes(4, true), 9);
        Assert.Equal(2, GapLeft.Forecast(3, 1, Product.Plate, 2, false, []).EndMm, 9);
    }

    /// <summary>The half that is welded first draws its side shut and opens the other: it begins wider than it was fitted.</summary>
    [Fact]
    public void The_second_half_of_a_pipe_begins_wider_and_ends_tighter()
    {
        var forecast = GapLeft.Forecast(2.4, 1, Product.Pipe, 3, false, []);
        Assert.Equal(2.4 - 0.6, forecast.EndMm, 9);
        Assert.True(forecast.SecondStartMm > 2.4 && forecast.SecondEndMm < 2.4);
        Assert.True(forecast.SecondEndMm > forecast.EndMm); // what opened first has more to close
    }

    [Fact]
    public void Five_roots_of_ones_own_replace_the_handbook()
    {
        Assert.False(GapLeft.Forecast(3, 1, Product.Plate, 2, false, [0.2, 0.2, 0.2, 0.2]).FromOwn);
        var own = GapLeft.Forecast(3, 1, Product.Plate, 2, false, [0.1, 0.5, 0.4, 0.2, 0.9]);
        Assert.Equal((true, 0.4), (own.FromOwn, own.ClosesMm));
    }

    private const double In = 25.4;

    /// <summary>Common practice: depth below flush before the cap.</summary>
    [Theory]
    [InlineData(0, CapStep.NoGuide)]
    [InlineData(In / 64, CapStep.Cap)]
    [InlineData(In / 32, CapStep.Cap)]
    [InlineData(In / 16, CapStep.Cap)]
    [InlineData(In * 3 / 32, CapStep.ThinFill)]
    [InlineData(In / 8, CapStep.FillLayer)]
    [InlineData(In * 3 / 16, CapStep.FillLayer)]
    public void The_level_before_the_cap_says_what_comes_first(double below, CapStep step) => Assert.Equal(step, Level([below, below, below]).Step);

    private static CapLevelAdvice Level(double[] below) =>
        CapLevel.Of([.. below.Select((depth, index) => new FillLevel($"{index}", depth))], 16, 8, 20, Wording.English)!;

    [Fact]
    public void One_low_stretch_is_patched_and_a_low_whole_is_filled()
    {
        var patch = Level([In / 16, In * 5 / 64, In / 16]);
        Assert.Equal(CapStep.Patch, patch.Step);
        Assert.Equal(["1"], patch.LowAt);
        Assert.Equal(CapStep.ThinFill, Level([In * 5 / 64, In * 5 / 64, In / 16]).Step);
        var deep = Level([In / 8, In / 8, In / 8]);
        Assert.Equal(2, deep.Beads); // (1/8 - 3/64 in) x 16 mm over 20 mm² a bead: 1.6
        Assert.Equal("A fill layer of 2 first", deep.Says);
    }

    /// <summary>Beads of a width over a width, half over half: a table of the trade.</summary>
    [Theory]
    [InlineData(4, 8, 3)]
    [InlineData(4, 10, 4)]
    [InlineData(4, 12, 5)]
    [InlineData(6, 8, 2)]
    [InlineData(6, 12, 3)]
    public void The_cap_takes_as_many_beads_as_its_width_asks(int bead16ths, int width16ths, int beads) =>
        Assert.Equal(beads, CapLevel.Of([new FillLevel("start", 1)], width16ths * In / 16, bead16ths * In / 16, 20, Wording.English)!.CapBeads);

    [Fact]
    public void The_difficult_side_is_the_hands_until_there_are_beads_enough()
    {
        PipeSide Side(OperatorHand hand, params SideRecord[] own) => SideBook.Of(hand, own, Wording.English).Side;
        Assert.Equal(PipeSide.Nine, Side(OperatorHand.Right));
        Assert.Equal(PipeSide.Three, Side(OperatorHand.Left));
        Assert.Equal(PipeSide.Nine, Side(OperatorHand.Right, new(PipeSide.Three, 1, 5), new(PipeSide.Nine, 5, 5)));
        Assert.Equal(PipeSide.Three, Side(OperatorHand.Right, new(PipeSide.Three, 3, 6), new(PipeSide.Nine, 6, 8)));
        Assert.Equal(PipeSide.Nine, Side(OperatorHand.Right, new(PipeSide.Three, 3, 6), new(PipeSide.Nine, 4, 8))); // alike: the hand decides
    }

    [Fact]
    public void All_is_asked_at_first_and_after_a_change_only_what_it_touches()
    {
        var test = TestLibrary.Shipped["P6"];
        var (root, hot, fill) = (test.Passes[0], test.Passes[1], test.Passes.First(pass => pass.Process == Process.Smaw));
        var first = Ids(test, root, null);
        Assert.Superset(new HashSet<string> { "polarity", "workLead", "tungsten", "gas", "ampsAfterTacks" }, first.ToHashSet());
        Assert.DoesNotContain("oven", first);
        Assert.DoesNotContain("purge", first); // nothing closes this plate
        Assert.Empty(Ids(test, hot, root)); // same process, wire and polarity
        var change = Ids(test, fill, hot);
        Assert.Superset(new HashSet<string> { "polarity", "settings", "oven", "arcForce" }, change.ToHashSet());
        Assert.DoesNotContain("workLead", change);
        Assert.DoesNotContain("gas", change);
        Assert.Contains("purge", Ids(TestLibrary.Shipped["R5"], TestLibrary.Shipped["R5"].Passes[0], null));
    }

    private static List<string> Ids(TestTemplate test, PassPlan pass, PassPlan? before) =>
        [.. Procedures.PreflightOf(test, pass, before).Select(check => check.Id)];

    [Fact]
    public void Each_caution_is_said_once_and_where_its_work_begins()
    {
        foreach (var test in TestLibrary.Shipped.Values)
        {
            var steps = Cautions.BySteps(test, test.Beads());
            var all = steps.SelectMany(step => step.Texts).ToList();
            Assert.Equal(all.Count, all.Distinct().Count());
            Assert.DoesNotContain(all, text => text.Contains("Lens shade", StringComparison.Ordinal));
        }

        var mixed = TestLibrary.Shipped["P6"];
        var beads = mixed.Beads();
        string At(string words) =>
            Cautions.BySteps(mixed, beads).Single(step => step.Texts.Any(text => text.Contains(words, StringComparison.Ordinal))).At;
        Assert.Equal(beads[0].Key, At("Hot work"));
        Assert.Equal(beads[0].Key, At("Thoriated"));
        Assert.Equal(beads[1].Key, At("Before you grind"));
        Assert.Equal(beads.First(bead => bead.Stage == Stage.Fill).Key, At("Low-hydrogen rods"));
        Assert.Equal("fitUp", At("cut-off disc"));
        Assert.Equal("look", At("hands off the ram"));
    }

    /// <summary>A fillet taken with cored wire at 200 A asks for the shade of its own process (ANSI Z49.1, from memory).</summary>
    [Fact]
    public void A_variant_has_the_shade_of_its_own_process()
    {
        var cored = TestLibrary.Shipped["F1"].With(new Dictionary<string, string> { ["process"] = "fcaw" });
        Assert.Equal(10, Cautions.Shade(cored.Passes[0].Process, 200)!.Least);
        Assert.All(Cautions.Shades.Where(row => row.Processes.Contains(Process.Gmaw) && row.AmpsFrom >= 60), row => Assert.True(row.Least >= 10));
    }
}
