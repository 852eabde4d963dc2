using Gradus.Core.Bench;
using Gradus.Core.Library;

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
