using CsCheck;
using Gradus.Core.Planning;
using Gradus.Solver;

namespace Gradus.Server.Tests;

public class BarCutterTests
{
    /// <summary>The paper machine of the textbook cutting-stock problem: rolls of 5600 mm, 13 widths, 73 rolls at the least (from memory).</summary>
    [Fact]
    public void The_textbook_example_takes_73_rolls()
    {
        double[] widths = [1380, 1520, 1560, 1710, 1820, 1880, 1930, 2000, 2050, 2100, 2140, 2150, 2200];
        int[] counts = [22, 25, 12, 14, 18, 18, 20, 10, 12, 14, 16, 18, 20];
        var pieces = widths.Zip(counts, (width, count) => new CutPiece(width, count, "")).ToList();
        RackBar[] rack = [new(5600, 200, false)];
        var plan = BarCutter.Cut(pieces, rack, new Saw(0, 0, 100));
        Assert.Equal(73, plan.Bars.Count);
        Assert.True(plan.Proved);
        Assert.Empty(plan.Errors(pieces, rack, new Saw(0, 0, 100)));
    }

    [Fact]
    public void Kerf_and_grip_are_kept_and_off_cuts_go_first()
    {
        // Three of 100 with two or three cuts of 2 take 304 to 306, and the vice holds 10: not out of 310, out of 316.
        CutPiece[] three = [new(100, 3, "Ann")];
        var saw = new Saw(2, 10, 50);
        Assert.Equal(2, BarCutter.Cut(three, [new(310, 9, false)], saw).Bars.Count);
        Assert.Single(BarCutter.Cut(three, [new(316, 9, false)], saw).Bars);
        var mixed = BarCutter.Cut(three, [new(6096, 1, false), new(400, 1, true)], saw);
        Assert.True(mixed.Bars.Single().OffCut);
        Assert.Equal(0, mixed.BoughtMm);
        Assert.True(mixed.Bars.Single() is { Kept: true, LeftMm: 94 });
    }

    [Fact]
    public void What_the_rack_does_not_reach_for_is_missing()
    {
        Assert.Equal(2, BarCutter.Cut([new(500, 3, "Ann")], [new(600, 1, false)], new Saw(2, 10, 50)).Missing.Single().Count);
        Assert.Equal(3, BarCutter.Cut([new(500, 3, "Ann")], [], new Saw(2, 10, 50)).Missing.Single().Count);
        Assert.Empty(BarCutter.Cut([], [new(600, 1, false)], new Saw(2, 10, 50)).Bars);
    }

    [Fact]
    public void Every_plan_holds_and_begins_no_less_than_its_bound() =>
        Gen.Select(Gen.Select(Gen.Int[60, 900], Gen.Int[1, 8]).Array[1, 5], Gen.Select(Gen.Int[1000, 6000], Gen.Int[0, 12], Gen.Bool).Array[1, 3])
            .Sample(
                (wanted, bars) =>
                {
                    var pieces = wanted.Select(one => new CutPiece(one.Item1, one.Item2, "")).ToList();
                    var rack = bars.Select(one => new RackBar(one.Item1, one.Item2, one.Item3))
                        .DistinctBy(bar => (bar.LengthMm, bar.OffCut))
                        .ToList();
                    var saw = new Saw(1.6, 50, 150);
                    var plan = BarCutter.Cut(pieces, rack, saw);
                    Assert.Empty(plan.Errors(pieces, rack, saw));
                    Assert.True(plan.BoundMm <= plan.BoughtMm + 1e-6);
                },
                iter: 40
            );
}
