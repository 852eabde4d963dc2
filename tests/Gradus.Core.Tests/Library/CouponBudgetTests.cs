using Gradus.Core.Joints;
using Gradus.Core.Library;
using Gradus.Core.Measure;
using Gradus.Core.Safety;

namespace Gradus.Core.Tests.Library;

public sealed class CouponBudgetTests
{
    // Metal in is metal down: what the passes of a split coupon deposit together is the groove round the pipe, each half half of the way.
    [Fact]
    public void The_halves_of_a_split_coupon_fill_one_groove_together()
    {
        var test = TestLibrary.Shipped["R4"];
        var shape = JointShape.Of(test.Joint);
        var whole = Gradus.Core.Welding.BeadPlanner.ToFillMm2(shape, test.Joint.Backing.Kind);
        var pipe = test.Joint.PipeSize()!;
        var round = Math.PI * (pipe.OutsideDiameter.Mm - pipe.Wall.Mm);
        var steel = whole * round * 7850 / 1e9; // density of steel, kg/m3
        Assert.Equal(1, CouponBudget.Of(test).Fillers.Sum(filler => filler.DepositKg) / steel, 0.03);
    }

    // Common practice: a coupon cools between its layers, so one layer never does and four do three times.
    [Fact]
    public void A_coupon_cools_between_its_layers_only()
    {
        var each = TradeNumbers.Of("coolMinutesPerLayer");
        var four = TestLibrary.Shipped["P8"];
        Assert.Equal(4, four.Passes.Sum(pass => pass.Layers.Count));
        Assert.Equal(3 * each, CouponBudget.Of(four).CoolingMinutes, 9);
        Assert.Equal(0, CouponBudget.Of(TestLibrary.Shipped["R9"]).CoolingMinutes);
        Assert.Equal(0, CouponBudget.Of(four, four.Drills.Single(drill => drill.Id == "rootOnly")).CoolingMinutes);
    }

    // ANSI Z49.1, lens table, from memory: where two rows meet, the darker lens is worn.
    [Theory]
    [InlineData(Process.Smaw, 159.9, 8)]
    [InlineData(Process.Smaw, 160, 10)]
    [InlineData(Process.Gtaw, 149.9, 8)]
    [InlineData(Process.Gtaw, 150, 10)]
    public void At_the_boundary_of_two_rows_the_darker_lens_holds(Process process, double amps, int least) =>
        Assert.Equal(least, Cautions.Shade(process, amps)!.Least);

    // The arc time of a covered electrode goes by the middle of its current: twice the current takes half the time.
    [Fact]
    public void Arc_time_goes_by_the_middle_of_the_range()
    {
        var test = TestLibrary.Shipped["R3"];
        TestTemplate Run(double min, double max) =>
            test with
            {
                Passes = [.. test.Passes.Select(pass => pass with { Settings = pass.Settings with { Amps = new Span(min, max) } })],
            };
        Assert.Equal(CouponBudget.Of(Run(100, 100)).ArcMinutes, CouponBudget.Of(Run(60, 140)).ArcMinutes, 9);
        Assert.Equal(CouponBudget.Of(Run(100, 100)).ArcMinutes / 2, CouponBudget.Of(Run(200, 200)).ArcMinutes, 9);
    }
}
