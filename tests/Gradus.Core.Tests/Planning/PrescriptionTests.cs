using Gradus.Core.Inspection;
using Gradus.Core.Library;
using Gradus.Core.Planning;
using Gradus.Core.Readiness;
using Gradus.Core.Welding;

namespace Gradus.Core.Tests.Planning;

public class PrescriptionTests
{
    private static readonly Dictionary<string, double> Prices = Price.Shipped.ToDictionary(price => price.Id, price => price.Amount);
    private static readonly PractiserFacts Facts = new(true, 4, null, new Dictionary<string, VariantUse>(), LoggedWork.None);
    private const double Hours = 2.5;

    private static IReadOnlyList<PrescribedItem> Of(TestTemplate test, Func<string, bool> clean, PractiserFacts? facts = null)
    {
        var asked = SkillTest.Of(test);
        var state = ReadinessState.New(ReadinessConstants.Defaults);
        for (var day = 0; day < 8; day++)
        {
            state.Fold(asked, new CouponEvidence(day, true, false, asked.Elements.ToDictionary(name => name, clean)));
        }

        var standing = state.On(asked, 8, new Bar(0.8, 0.6));
        var offers = Prescription.Offers(test, standing, facts ?? Facts, Prices, Hours);
        var gains = state.Gains(asked, 8, [.. offers.Select(offer => offer.Practice)], Prescription.TimesAhead);
        return Prescription.Of(test, standing, offers, gains, facts ?? Facts);
    }

    [Fact]
    public void A_period_is_filled_and_no_more()
    {
        foreach (var test in TestLibrary.Shipped.Values)
        {
            var items = Of(test, name => !name.StartsWith("root", StringComparison.Ordinal));
            Assert.All(items, item => Assert.Equal(item.Gains.OrderDescending(), item.Gains));
            Assert.All(items, item => Assert.All(item.Gains, gain => Assert.InRange(gain, 0, 1)));
            Assert.Equal(items.Count, items.DistinctBy(item => item.Id).Count());
            foreach (var item in items)
            {
                // A coupon that runs over by a little is finished all the same; nothing is added to one.
                Assert.InRange(item.Work.BoothMinutes, 1, item.Parts.Count == 1 ? item.Periods * 1.1 * 60 * Hours : 60 * Hours + 1e-9);
                Assert.Equal(item.Parts.Sum(part => part.Minutes), item.Work.BoothMinutes - (8 * (item.Parts.Count - 1)), 1e-6);
            }
        }
    }

    [Fact]
    public void A_drill_is_offered_only_for_the_weakest_part_or_the_fault_that_comes_back()
    {
        var test = TestLibrary.Shipped["R3"];
        var items = Of(test, name => !name.StartsWith("root", StringComparison.Ordinal));
        var drills = items
            .SelectMany(item => item.Parts)
            .Where(part => part.DrillId is not (null or "fitUpOnly"))
            .Select(part => part.DrillId)
            .Distinct();
        Assert.NotEmpty(drills);
        Assert.All(drills, id => Assert.Contains(Stage.Root, test.StagesOf(id)));
        var undercut = new ReturningFault(DiscontinuityKind.Undercut, Stage.Cap, null, 3, 4);
        var also = Of(test, name => !name.StartsWith("root", StringComparison.Ordinal), Facts with { Returning = undercut });
        Assert.Contains(also.SelectMany(item => item.Parts), part => part.DrillId == "capOnly");
    }

    [Fact]
    public void What_the_advice_asks_for_comes_first_and_is_made_under_test_rules_whatever_the_chance()
    {
        var test = TestLibrary.Shipped["P4"];
        var asked = Facts with { Asked = new AskedFor(3, true, "Three more as under test, one cut open") };
        var items = Of(test, _ => false, asked);
        Assert.True(items[0].Asked > 0);
        Assert.Equal(ItemKind.UnderRules, items[0].Kind);
        Assert.Contains("three more as under test, one cut open", items[0].Why, StringComparison.Ordinal);
        Assert.Contains(Of(test, _ => false), item => item.Kind == ItemKind.Coached);
        Assert.Equal(ItemKind.Coached, Of(test, _ => false, asked with { SafetySigned = false }).First(item => item.DrillId is null).Kind);
    }

    /// <summary>What the week before will bring is not brought again by the next one.</summary>
    [Fact]
    public void Practice_that_is_planned_before_leaves_less_to_gain()
    {
        var test = TestLibrary.Shipped["P4"];
        var asked = SkillTest.Of(test);
        var state = ReadinessState.New(ReadinessConstants.Defaults);
        var once = asked.Elements.ToDictionary(name => name, _ => 1.0);
        double[] Gains(int times, double ahead) =>
            [.. state.Gains(asked, 0, [once], times, ahead > 0 ? asked.Elements.ToDictionary(name => name, _ => ahead) : null)[0]];
        var all = Gains(8, 0);
        Assert.Equal(all.Sum(), all.Take(4).Sum() + Gains(4, 4).Sum(), 1e-9); // four, then four more, are eight
        Assert.True(Gains(1, 4)[0] < Gains(1, 0)[0]);
    }

    [Fact]
    public void A_cap_drill_takes_a_kept_coupon_and_its_dressing()
    {
        var test = TestLibrary.Shipped["P8"];
        var cap = test.Drills.Single(drill => drill.Id == "capOnly");
        Assert.Equal("Blank P8, filled", ItemWork.BlankOf(test, cap));
        Assert.Null(ItemWork.BlankOf(test, test.Drills.Single(drill => drill.Id == "rootOnly")));
        var part = new PeriodPart("capOnly", cap.Name, 3, 0);
        var work = ItemWork.OfParts(test, [part], LoggedWork.None, Prices);
        Assert.Equal(3, work.Draws.Single(draw => draw.Stock == "Blank P8, filled").Amount);
        var budget = CouponBudget.Of(test, cap);
        Assert.Equal(3 * (budget.BoothMinutes + 10), work.BoothMinutes, 1e-9); // ten minutes with the grinder each time: common practice
    }

    [Fact]
    public void Repeats_in_one_go_teach_less_than_as_many_apart()
    {
        var test = TestLibrary.Shipped["P4"];
        double Of(params int[] times) => PeriodPart.Practice(test, times.Select(count => new PeriodPart("rootOnly", "", count, 0)))["root"];
        Assert.Equal(1, Of(1), 1e-12);
        Assert.True(Of(4) < Of(1, 1, 1, 1));
        Assert.True(Of(4) > Of(3));
        Assert.DoesNotContain("cap", PeriodPart.Practice(test, [new PeriodPart("rootOnly", "", 2, 0)]).Keys);
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
    public void The_variant_that_worked_comes_next_once_all_were_tried()
    {
        var test = TestLibrary.Shipped.Values.First(one => one.Variants.Any(group => group.Options.Count == 2));
        var group = test.Variants.First(one => one.Options.Count == 2);
        string Chosen(params (int Made, int Clean)[] uses) =>
            Of(
                test,
                _ => true,
                Facts with
                {
                    Variants = group
                        .Options.Zip(uses)
                        .ToDictionary(one => $"{group.Id}/{one.First.Id}", one => new VariantUse(one.Second.Made, one.Second.Clean)),
                }
            )[0].Variants[group.Id];
        Assert.Equal(group.Options[1].Id, Chosen((3, 3), (1, 0))); // not tried enough
        Assert.Equal(group.Options[0].Id, Chosen((4, 4), (4, 1))); // what worked
        Assert.Equal(group.Options[1].Id, Chosen((7, 7), (4, 1))); // and now and then the other one
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
        var (few, many) = (
            ItemWork.Of(test, null, new([90, 95], [], []), Prices),
            ItemWork.Of(test, null, new([90, 95, 100, 105, 300], [], []), Prices)
        );
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
        var wide = new LoggedWork([], [1.0, 1.1, 1.2, 1.3, 1.9], []);
        Assert.Equal(1.2 * Drawn(LoggedWork.None, "E7018"), Drawn(wide, "E7018"), 1e-9);
        Assert.Equal(Drawn(LoggedWork.None, "Pipe"), Drawn(wide, "Pipe"));
        Assert.Equal(Drawn(LoggedWork.None, "E7018"), Drawn(new([], [1.9, 1.9, 1.9, 1.9], []), "E7018"));
    }

    /// <summary>The arc burns half as long again here as on paper: gas flows for as long, and a drill takes as much longer as its own arc.</summary>
    [Fact]
    public void Gas_and_the_minutes_of_a_drill_are_learned_from_timed_arcs()
    {
        var test = TestLibrary.Shipped.Values.First(one => one is { Drills.Count: > 0 } && CouponBudget.Of(one).ShieldingGasL > 0);
        var drill = test.Drills[0];
        var (whole, part) = (CouponBudget.Of(test), CouponBudget.Of(test, drill));
        double Gas(LoggedWork logged) =>
            ItemWork.Of(test, null, logged, Prices).Draws.Single(draw => draw.Stock.StartsWith("Gas", StringComparison.Ordinal)).Amount;
        LoggedWork Timed(int coupons) => new([], [], [.. Enumerable.Repeat(1.5 * whole.ArcMinutes, coupons)]);
        Assert.Equal(Gas(LoggedWork.None), Gas(Timed(4)));
        Assert.Equal(1.5 * Gas(LoggedWork.None), Gas(Timed(5)), 1e-9);
        var (planned, learned) = (ItemWork.Of(test, drill, LoggedWork.None, Prices), ItemWork.Of(test, drill, Timed(5), Prices));
        Assert.Equal(planned.BoothMinutes + (part.ArcMinutes / 2), learned.BoothMinutes, 1e-9);
        Assert.Equal((0, 5), (planned.FromCoupons, learned.FromCoupons));
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
    }
}
