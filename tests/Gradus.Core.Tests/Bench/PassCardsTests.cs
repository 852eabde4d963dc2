using Gradus.Core.Bench;
using Gradus.Core.Library;
using Gradus.Core.Traces;

namespace Gradus.Core.Tests.Bench;

public sealed class PassCardsTests
{
    private static readonly TestTemplate Test = TestLibrary.Shipped["P8"];
    private static readonly Guid Here = Guid.NewGuid();
    private static readonly Guid There = Guid.NewGuid();

    private static RecentPass Root(double amps, bool? clean, Guid? booth = null, string filler = "E71T-11", double diameter = 1.143) =>
        new("root-1-1", Stage.Root, Process.FcawS, filler, diameter, amps, 18.5, 4000, OperatorHand.Left, booth, clean);

    private static PassCard Card(params RecentPass[] latestFirst) => PassCards.Build(Test, OperatorHand.Right, latestFirst, Here)[0];

    [Fact]
    public void Somebody_new_starts_in_the_middle_of_the_range()
    {
        var range = Test.Passes[0].Settings.Amps;
        var card = Card();
        Assert.Equal(range.Min + ((range.Max - range.Min) / 2), card.Amps);
        Assert.Equal((false, null, OperatorHand.Right), (card.FromLast, card.Clean, card.Hand));
    }

    [Fact]
    public void What_was_not_judged_yet_is_offered_as_the_last_it_was() =>
        Assert.Equal(
            (187, true, OperatorHand.Left),
            (Card(Root(187, null), Root(150, null)).Amps, Card(Root(187, null)).FromLast, Card(Root(187, null)).Hand)
        );

    [Fact]
    public void The_middle_of_what_came_out_clean_comes_before_the_last()
    {
        var card = Card(Root(250, false), Root(190, true), Root(200, true), Root(196, true));
        Assert.Equal((196, 3, 4, false), (card.Amps, card.Clean!.CleanPasses, card.Clean.Passes, card.SameBooth));
    }

    [Fact]
    public void Three_judged_passes_on_one_machine_say_more_than_all_machines_together()
    {
        RecentPass[] elsewhere = [.. Enumerable.Range(0, 5).Select(_ => Root(170, true, There))];
        Assert.Equal(
            (210, true),
            (Card([.. elsewhere, Root(210, true, Here), Root(210, true, Here), Root(240, false, Here)]) is var here ? here.Amps : 0, here.SameBooth)
        );
        Assert.Equal((170, false), (Card([.. elsewhere, Root(210, true, Here), Root(210, true, Here)]) is var few ? few.Amps : 0, few.SameBooth));
        var noneClean = Card([.. elsewhere, Root(210, false, Here), Root(210, false, Here), Root(240, false, Here)]);
        Assert.Equal((170, false), (noneClean.Amps, noneClean.SameBooth));
    }

    private static BeadArc Arc(double amps, double volts) => new(60, 0, amps, volts, 1, 0, 0, null, null, null, null, null, null, null);

    /// <summary>The current that burnt is told beside what was set, and is not set in its place: a dial is turned to the number on it.</summary>
    [Fact]
    public void What_burnt_at_the_arc_is_told_beside_what_was_set()
    {
        var card = Card(
            Root(190, true) with
            {
                Arc = Arc(181, 17.9),
            },
            Root(200, true) with
            {
                Arc = Arc(187, 18.1),
            },
            Root(240, false) with
            {
                Arc = Arc(300, 25),
            }, // was not clean
            Root(200, true)
        );
        Assert.Equal((200, 4, 3), (card.Amps, card.Clean!.Passes, card.Clean.CleanPasses));
        Assert.Equal(new ArcSettings(184, 18, 2, null), card.Clean.AtArc);
        Assert.Null(Card(Root(190, true)).Clean!.AtArc);
    }

    /// <summary>A wire's machine is set in volts, a rod's in amps. Under 10 % off is what IEC 60974-14 allows a standard machine (from memory).</summary>
    [Theory]
    [InlineData(16.5, 3, -0.108)]
    [InlineData(16.5, 2, null)] // too few to say so of a machine
    [InlineData(17.0, 3, null)]
    [InlineData(20.5, 3, 0.108)]
    public void A_machine_that_gives_another_value_than_it_is_set_to_is_told(double volts, int beads, double? off)
    {
        var card = Card([.. Enumerable.Repeat(Root(190, true) with { Arc = Arc(120, volts) }, beads)]);
        Assert.Equal(off, Rounded(card.Clean!));
        var amps = StudentCard.Of([.. Enumerable.Repeat(new CardPass(100, null, null, true, Arc(80, 24)), beads)])!;
        Assert.Equal(beads < 3 ? (double?)null : -0.2, Rounded(amps));
        static double? Rounded(CleanSettings of) => of.AtArc!.OffShare is { } share ? Math.Round(share, 3) : null;
    }

    [Fact]
    public void Another_filler_or_size_is_another_card()
    {
        Assert.False(Card(Root(187, true, filler: "E7018")).FromLast);
        Assert.False(Card(Root(187, true, diameter: 1.6)).FromLast);
    }

    [Fact]
    public void Each_half_of_a_split_coupon_has_a_card_of_its_own()
    {
        var split = TestLibrary.Shipped["R4"];
        var fill = split.Passes.First(pass => pass is { Stage: Stage.Fill, Half: "lowHydrogen" });
        RecentPass Fill(string half) =>
            new(
                $"fill-3-1@{half}",
                Stage.Fill,
                fill.Process,
                fill.Filler.Classification,
                fill.Filler.DiameterMm,
                99,
                null,
                null,
                OperatorHand.Right,
                null,
                true
            );
        PassCard Of(string half) =>
            PassCards.Build(split, OperatorHand.Right, [Fill(half)]).Single(card => card is { Stage: Stage.Fill, Half: "lowHydrogen" });
        Assert.Equal((99, true), (Of("lowHydrogen").Amps, Of("lowHydrogen").FromLast));
        Assert.False(Of("cellulosic").FromLast);
    }
}
