using CsCheck;
using Gradus.Core.Joints;
using Gradus.Core.Library;
using Gradus.Core.Measure;
using Gradus.Core.Welding;

namespace Gradus.Core.Tests.Welding;

public class BeadPlanTests
{
    [Fact]
    public void Beads_fill_any_measured_groove_whatever_its_bevels_gap_face_and_offset()
    {
        var template = TestLibrary.Shipped["R3"];
        Gen.Select(Gen.Double[4, 40], Gen.Double[10, 45], Gen.Double[10, 45], Gen.Double[0.5, 8], Gen.Double[0, 0.3], Gen.Double[0, 2])
            .Sample(
                (t, a, b, gap, face, offset) =>
                {
                    var groove = new SingleVGroove(
                        Length.FromMm(t),
                        BevelAngle.FromDegrees(a),
                        BevelAngle.FromDegrees(b),
                        Length.FromMm(gap),
                        Length.FromMm(face * t)
                    );
                    var beads = BeadPlanner.Plan(groove, offset, template.Passes, template.Joint.Backing).Beads;
                    var toFill =
                        groove.AreaMm2
                        + groove.ReinforcementAreaMm2(Length.FromMm(BeadPlanner.CapHeightMm), Length.FromMm(BeadPlanner.ToeOverlapMm))
                        + (2.0 / 3 * gap * BeadPlanner.RootReinforcementMm);
                    // An offset tilts the section: what it adds is at most the offset over half of the cap width.
                    var slack = (0.03 * toFill) + (offset * (groove.FaceWidthMm + 4) / 2);
                    return beads.Count == 8 && beads.All(bead => bead.AreaMm2 > 0) && Math.Abs(beads.Sum(bead => bead.AreaMm2) - toFill) <= slack;
                },
                iter: 2000
            );
    }

    [Fact]
    public void Beads_are_planned_from_the_root_up_and_keys_are_unique()
    {
        var template = TestLibrary.Shipped["P8"];
        var groove = new SingleVGroove(
            Length.FromMm(9.525),
            BevelAngle.FromDegrees(22.5),
            BevelAngle.FromDegrees(22.5),
            Length.FromMm(6.35),
            Length.FromMm(0)
        );
        var beads = BeadPlanner.Plan(groove, 0, template.Passes, template.Joint.Backing).Beads;
        Assert.Equal([1, 2, 2, 3], beads.GroupBy(bead => bead.Layer).Select(layer => layer.Count()));
        Assert.Equal(beads.Count, beads.Select(bead => bead.Key).Distinct().Count());
        Assert.Equal(beads.Select(bead => bead.Stage).Order(), beads.Select(bead => bead.Stage));
        Assert.All(beads.Where(bead => bead.Stage != Stage.Cap), bead => Assert.All(bead.Outline, point => Assert.True(point.Y < 9.525)));
    }
}
