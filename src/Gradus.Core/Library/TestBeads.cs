using Gradus.Core.Joints;
using Gradus.Core.Welding;

namespace Gradus.Core.Library;

/// <summary>The beads of a test.</summary>
public static class TestBeads
{
    /// <summary>The section of a test as planned, or as measured at a point; on a split coupon with the beads of one half.</summary>
    /// <param name="half">The half whose beads are wanted; null for a coupon that is one.</param>
    public static JointSection Section(this TestTemplate test, FitUpPoint? measured = null, string? half = null) =>
        BeadPlanner.Plan(test.Joint, test.Passes, test.Positions[0], measured, half);

    /// <summary>Every bead of a test: those of the whole joint, then those of each half in turn.</summary>
    public static IReadOnlyList<PlannedBead> Beads(this TestTemplate test) =>
        test.Halves.Count == 0
            ? test.Section().Beads
            :
            [
                .. test
                    .Halves.SelectMany(half => test.Section(null, half.Id).Beads)
                    .DistinctBy(bead => bead.Key)
                    .OrderBy(bead => bead.Half is not null),
            ];
}
