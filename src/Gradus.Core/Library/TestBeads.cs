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

    /// <summary>Every bead of a test in the order of welding: those of the whole joint, then those of the halves, in the turn that the test has them.</summary>
    public static IReadOnlyList<PlannedBead> Beads(this TestTemplate test) =>
        test.Halves.Count == 0
            ? test.Section().Beads
            :
            [
                .. test
                    .Halves.SelectMany(half => test.Section(null, half.Id).Beads)
                    .DistinctBy(bead => bead.Key)
                    .OrderBy(bead => bead.Half is not null)
                    .ThenBy(bead => bead.Half is null || test.HalvesBy == HalfTurn.OneFirst ? 0 : bead.Layer),
            ];

    /// <summary>
    /// A test with other numbers of beads in its layers: so many more, or fewer when negative, by stage, layer of the whole joint and half. A
    /// layer keeps its number when it loses all its beads.
    /// </summary>
    public static TestTemplate Adjusted(this TestTemplate test, IReadOnlyDictionary<(Stage Stage, int Layer, string? Half), int> more)
    {
        if (more.Count == 0)
        {
            return test;
        }

        var numbers = new Dictionary<string, int>(StringComparer.Ordinal);
        var changed = new Dictionary<PassPlan, PassPlan>(ReferenceEqualityComparer.Instance);
        foreach (var pass in test.Passes.OrderBy(pass => pass.Stage))
        {
            // Layers are counted over the passes of a half and those of the whole joint.
            var first = pass.Half is null
                ? numbers.Values.DefaultIfEmpty().Max()
                : Math.Max(numbers.GetValueOrDefault(""), numbers.GetValueOrDefault(pass.Half));
            changed[pass] = pass with
            {
                Layers =
                [
                    .. pass.Layers.Select((beads, index) => Math.Max(0, beads + more.GetValueOrDefault((pass.Stage, first + index + 1, pass.Half)))),
                ],
            };
            numbers[pass.Half ?? ""] = first + pass.Layers.Count;
        }

        return test with
        {
            Passes = [.. test.Passes.Select(pass => changed[pass])],
        };
    }
}
