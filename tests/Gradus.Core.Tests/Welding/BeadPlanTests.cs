using CsCheck;
using Gradus.Core.Joints;
using Gradus.Core.Library;
using Gradus.Core.Measure;
using Gradus.Core.Welding;
using MathNet.Numerics.Integration;

namespace Gradus.Core.Tests.Welding;

public class BeadPlanTests
{
    private static readonly TestTemplate Pipe = TestLibrary.Shipped["R3"];

    [Fact]
    public void Beads_fill_any_measured_groove_whatever_its_bevels_gap_face_and_offset() =>
        Gen.Select(Gen.Double[4, 40], Gen.Double[10, 45], Gen.Double[10, 45], Gen.Double[0.5, 8], Gen.Double[0, 0.3], Gen.Double[0, 2])
            .Sample(
                (t, a, b, gap, face, offset) =>
                {
                    var joint = Pipe.Joint with { ThicknessMm = t, Pipe = null };
                    var measured = new FitUpPoint("12", a, b, gap, face * t, offset);
                    var section = (Pipe with { Joint = joint }).Section(measured);
                    var exact = new SingleVGroove(
                        Length.FromMm(t),
                        BevelAngle.FromDegrees(a),
                        BevelAngle.FromDegrees(b),
                        Length.FromMm(gap),
                        Length.FromMm(face * t)
                    );
                    var shape = JointShape.Of(joint, measured);
                    var toFill = BeadPlanner.ToFillMm2(shape, BackingKind.None);
                    // An offset tilts the section: what it adds is at most the offset over half of the cap width.
                    var slack = (0.03 * toFill) + (offset * (exact.FaceWidthMm + 4) / 2);
                    return Math.Abs(shape.AreaMm2 - exact.AreaMm2) < 1e-9 * exact.AreaMm2
                        && section.Beads.Count == 8
                        && section.Beads.All(bead => bead.AreaMm2 > 0)
                        && Math.Abs(section.Beads.Sum(bead => bead.AreaMm2) - toFill) <= slack;
                },
                iter: 2000
            );

    [Fact]
    public void Beads_are_planned_from_the_root_up_and_keys_are_unique()
    {
        var beads = TestLibrary.Shipped["P8"].Section().Beads;
        Assert.Equal([1, 2, 2, 3], beads.GroupBy(bead => bead.Layer).Select(layer => layer.Count()));
        Assert.Equal(beads.Count, beads.Select(bead => bead.Key).Distinct().Count());
        Assert.Equal(beads.Select(bead => bead.Stage).Order(), beads.Select(bead => bead.Stage));
        Assert.All(beads.Where(bead => bead.Stage != Stage.Cap), bead => Assert.All(bead.Outline, point => Assert.True(point.Y < 9.525)));
    }

    [Fact]
    public void A_j_preparation_has_the_area_that_integration_finds()
    {
        // One side of a J: level arc of radius r above the face, then the bevel. Reference: numeric integration of its width over the height.
        var (t, f, r, degrees, g) = (20.0, 2.0, 5.0, 20.0, 3.0);
        var bevel = degrees * Math.PI / 180;
        var arcTop = f + (r * (1 - Math.Sin(bevel)));
        double Width(double y) =>
            y <= f ? 0
            : y <= arcTop ? Math.Sqrt((r * r) - ((f + r - y) * (f + r - y)))
            : (r * Math.Cos(bevel)) + ((y - arcTop) * Math.Tan(bevel));
        var side = GaussLegendreRule.Integrate(Width, f, arcTop, 64) + GaussLegendreRule.Integrate(Width, arcTop, t, 8);
        var shape = JointShape.Butt(
            Length.FromMm(t),
            BevelAngle.FromDegrees(degrees),
            BevelAngle.FromDegrees(degrees),
            Length.FromMm(g),
            Length.FromMm(f),
            Length.FromMm(r)
        );
        Assert.Equal((g * t) + (2 * side), shape.AreaMm2, 0.1);
        Assert.Equal(g + (2 * Width(t)), shape.FaceWidthMm, 1e-6);
    }

    [Fact]
    public void A_fillet_lies_on_its_flange_and_against_its_web()
    {
        var section = TestLibrary.Shipped["F1"].With(new Dictionary<string, string> { ["position"] = "2F" }).Section();
        Assert.Equal(BeadOrder.BottomUp, section.Order);
        Assert.All(section.Beads.SelectMany(bead => bead.Outline), point => Assert.True(point.X > -1e-6 && point.Y > -1e-6));
        var (first, second) = (section.Beads[^2], section.Beads[^1]);
        Assert.True(first.Outline.Average(point => point.Y) < second.Outline.Average(point => point.Y), "the first lies on the flange");
    }

    [Fact]
    public void A_horizontal_layer_is_laid_from_the_lower_plate_up()
    {
        var section = TestLibrary.Shipped["P2"].Section();
        var root = section.Beads.Where(bead => bead.Layer == 1).ToList();
        Assert.Equal((BeadOrder.BottomUp, 2), (section.Order, root.Count));
        Assert.True(root[0].Outline.Max(point => point.X) <= root[1].Outline.Max(point => point.X)); // member A is the lower plate
    }

    [Fact]
    public void Settings_give_layers_that_hold_what_the_joint_needs() =>
        Gen.Select(Gen.Double[5, 30], Gen.Double[15, 40], Gen.Double[1, 7], Gen.Double[8, 25], Gen.Double[5, 12])
            .Sample(
                (t, bevel, gap, area, width) =>
                {
                    var shape = JointShape.Butt(
                        Length.FromMm(t),
                        BevelAngle.FromDegrees(bevel),
                        BevelAngle.FromDegrees(bevel),
                        Length.FromMm(gap),
                        Length.FromMm(0),
                        Length.FromMm(0)
                    );
                    var plan = LayerPlanner.Suggest(shape, area, Length.FromMm(width), 0.5);
                    var fill = plan.Layers.SkipLast(1).Sum() * area;
                    var top = shape.AreaTo(t - BeadPlanner.FillBelowFlushMm(shape));
                    return plan.Layers[0] == 1 && fill >= top - 1e-6 && fill - top <= Math.Max(area, area + 1e-6);
                }
            );

    [Theory] // common practice: the cap is started 1/32 to 1/16 in below flush
    [InlineData(1.2, false, false)]
    [InlineData(2.5, true, false)]
    [InlineData(0.2, false, true)]
    public void The_fill_level_decides_what_comes_before_the_cap(double belowMm, bool fillFirst, bool tooFull)
    {
        var advice = LayerPlanner.Cap(JointShape.Of(TestLibrary.Shipped["P8"].Joint), belowMm, Length.FromInches(3.0 / 8), 0.5);
        Assert.Equal((fillFirst, tooFull, 3), (advice.FillFirst, advice.TooFull, advice.Beads)); // 0.686 in wide with 3/8 in beads: three
    }
}
