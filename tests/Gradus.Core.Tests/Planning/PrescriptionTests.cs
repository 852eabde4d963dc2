using Gradus.Core.Library;
using Gradus.Core.Planning;
using Gradus.Core.Readiness;
using Gradus.Core.Welding;

namespace Gradus.Core.Tests.Planning;

public class PrescriptionTests
{
    private static readonly Dictionary<string, double> Prices = Price.Shipped.ToDictionary(price => price.Id, price => price.Amount);
    private static readonly PractiserFacts Facts = new(true, 4, null, new Dictionary<string, int>(), LoggedWork.None);

    private static IReadOnlyList<PrescribedItem> Of(TestTemplate test, Func<string, bool> clean, PractiserFacts? facts = null)
    {
        var asked = SkillTest.Of(test);
        var state = ReadinessState.New(ReadinessConstants.Defaults);
        for (var day = 0; day < 8; day++)
        {
            state.Fold(asked, new CouponEvidence(day, true, false, asked.Elements.ToDictionary(name => name, clean)));
        }

        return Prescription.Of(
            test,
            state.On(asked, 8, new Bar(0.8, 0.6)),
            state.Gains(asked, 8, Prescription.Worked(test), Prescription.TimesAhead),
            facts ?? Facts,
            Prices
        );
    }

    [Fact]
    public void No_drill_is_offered_that_gains_less_in_an_hour_than_the_whole_coupon()
    {
        foreach (var test in TestLibrary.Shipped.Values)
        {
            var items = Of(test, _ => true);
            var whole = items.Single(item => item.Kind != ItemKind.Drill);
            Assert.All(items.Where(item => item.Kind == ItemKind.Drill), drill => Assert.True(drill.GainPerHour > whole.GainPerHour));
            Assert.Equal(items.OrderByDescending(item => item.GainPerHour), items);
            Assert.All(items, item => Assert.Equal(item.Gains.OrderDescending(), item.Gains));
            Assert.All(items, item => Assert.All(item.Gains, gain => Assert.InRange(gain, 0, 1)));
        }
    }

    [Fact]
    public void What_keeps_failing_is_what_is_worked_on()
    {
        var items = Of(TestLibrary.Shipped["P4"], name => name != "root");
        Assert.Equal(Stage.Root, items[0].Stage);
        Assert.Contains("root", items[0].Why, StringComparison.OrdinalIgnoreCase);
        Assert.True(items[0].Gains[0] > Of(TestLibrary.Shipped["P4"], _ => true)[0].Gains[0]);
    }

    [Fact]
    public void Nothing_is_made_under_test_rules_before_safety_is_signed_off() // ANSI Z49.1: trained in safe practice first; from memory
    {
        var items = Of(TestLibrary.Shipped["P4"], _ => true, Facts with { SafetySigned = false });
        Assert.DoesNotContain(items, item => item.Kind == ItemKind.UnderRules);
    }

    [Fact]
    public void The_variant_that_was_used_least_comes_next()
    {
        var test = TestLibrary.Shipped.Values.First(one => one.Variants.Any(group => group.Options.Count > 1));
        var group = test.Variants.First(one => one.Options.Count > 1);
        var used = group.Options.Skip(1).Select(option => $"{group.Id}/{option.Id}").Prepend($"{group.Id}/{group.Options[0].Id}");
        var uses = used.Select((key, index) => (key, index)).ToDictionary(one => one.key, one => 9 - one.index);
        Assert.Equal(group.Options[^1].Id, Of(test, _ => true, Facts with { VariantUses = uses })[0].Variants[group.Id]);
    }

    [Fact]
    public void Stainless_asks_for_extraction_and_purge() // OSHA 29 CFR 1910.1026, hexavalent chromium; from memory
    {
        var needs = Prescription.Needs(TestLibrary.Shipped["R5"]);
        Assert.Equal(BoothTraits.Pipe | BoothTraits.Purge | BoothTraits.Extraction, needs);
        Assert.Equal(BoothTraits.None, Prescription.Needs(TestLibrary.Shipped["P4"]));
    }

    [Fact]
    public void A_root_drill_takes_root_rods_and_steel_and_a_cap_drill_no_steel()
    {
        var test = TestLibrary.Shipped["R3"];
        ItemWork Work(string? drill) => ItemWork.Of(test, test.Drills.FirstOrDefault(one => one.Id == drill), LoggedWork.None, Prices);
        Assert.DoesNotContain(Work("rootOnly").Draws, draw => draw.Stock.StartsWith("E7018", StringComparison.Ordinal));
        Assert.Contains(Work("rootOnly").Steel, piece => piece is { Stock: "Pipe NPS 6 schedule 80", LengthMm: 127, Count: 2 });
        Assert.Empty(Work("capOnly").Steel);
        Assert.True(Work("rootOnly").BoothMinutes < Work(null).BoothMinutes);
        Assert.True(Work("capOnly").Cost < Work(null).Cost);

        // NPS 6 schedule 80 weighs 28.57 lb/ft (ASME B36.10M), so ten inches of it 23.8 lb or 10.8 kg.
        var pipe = Work(null).Draws.Single(draw => draw.Stock.StartsWith("Pipe", StringComparison.Ordinal));
        Assert.Equal(10.8 * Prices["pipe"], pipe.Cost, 0.2);
    }

    [Fact]
    public void Minutes_are_learned_once_there_are_enough_coupons()
    {
        var test = TestLibrary.Shipped["P4"];
        var (few, many) = (ItemWork.Of(test, null, new([90, 95], []), Prices), ItemWork.Of(test, null, new([90, 95, 100, 105, 300], []), Prices));
        Assert.Equal(0, few.FromCoupons);
        Assert.Equal(5, many.FromCoupons);
        Assert.Equal(20 + 100 + 10, many.BoothMinutes); // fitting up, the middle one of the five, looking: common practice
    }

    /// <summary>The joints of five coupons took a fifth more than planned in the middle: so do the rods, and the pipe no more than before.</summary>
    [Fact]
    public void Filler_is_learned_from_the_fit_up_of_enough_coupons()
    {
        var test = TestLibrary.Shipped["R3"];
        double Drawn(LoggedWork logged, string stock) =>
            ItemWork
                .Of(test, null, logged, Prices)
                .Draws.Where(draw => draw.Stock.StartsWith(stock, StringComparison.Ordinal))
                .Sum(draw => draw.Amount);
        var wide = new LoggedWork([], [1.0, 1.1, 1.2, 1.3, 1.9]);
        Assert.Equal(1.2 * Drawn(LoggedWork.None, "E7018"), Drawn(wide, "E7018"), 1e-9);
        Assert.Equal(Drawn(LoggedWork.None, "Pipe"), Drawn(wide, "Pipe"));
        Assert.Equal(Drawn(LoggedWork.None, "E7018"), Drawn(new([], [1.9, 1.9, 1.9, 1.9]), "E7018"));
    }

    [Fact]
    public void Pipe_in_the_flat_positions_asks_for_a_positioner() // AWS A3.0: 1G of pipe is rotated
    {
        var rolled = TestLibrary.Shipped["R2"] with { Positions = ["1G"] };
        Assert.True(Prescription.Needs(rolled).HasFlag(BoothTraits.Positioner));
        Assert.False(Prescription.Needs(TestLibrary.Shipped["R2"]).HasFlag(BoothTraits.Positioner));
        Assert.False(Prescription.Needs(TestLibrary.Shipped["P1"]).HasFlag(BoothTraits.Positioner));
    }

    [Theory]
    [InlineData(11, 1, 4)]
    [InlineData(70, 1, 2)]
    [InlineData(160, 1, 1)] // runs over by a little
    [InlineData(200, 2, 1)]
    public void Short_items_are_repeated_in_a_period_and_long_ones_take_several(double minutes, int periods, int times)
    {
        var fit = SlotFit.Of(minutes, 2.5);
        Assert.Equal((periods, times), (fit.Periods, fit.Times));
        double[] gains = [0.4, 0.3, 0.2, 0.1];
        Assert.Equal(1.0, fit.Gains(gains).Sum(), 1e-12);
    }
}
