using Gradus.Core.Inspection;
using Gradus.Core.Measure;
using Gradus.Core.Welding;

namespace Gradus.Core.Library;

/// <summary>What the shape of a file cannot say: that a test holds together.</summary>
public static class TemplateCheck
{
    /// <summary>Everything that is wrong with a test, in words; empty when it is sound.</summary>
    public static IReadOnlyList<string> Errors(TestTemplate template)
    {
        var joint = template.Joint;
        List<(bool Wrong, string Error)> checks =
        [
            (!AcceptanceProfiles.Shipped.ContainsKey(template.Code), $"Unknown code '{template.Code}'."),
            (template.Positions.Count == 0, "A test has at least one position."),
            (joint.ThicknessMm is not (> 0 and <= 200), "Thickness is over 0 and at most 200 mm."),
            (joint.RootFaceMm > joint.ThicknessMm, "The root face cannot be thicker than the material."),
            (!BevelAngle.IsPossible(joint.BevelDegA) || !BevelAngle.IsPossible(joint.BevelDegB), "A bevel is from 0 to 75 degrees."),
            (template.Product == Product.Pipe != joint.Pipe is not null, "A pipe test names its pipe size, and no other does."),
            (
                joint.Pipe is not null && joint.PipeSize()?.Wall.Mm is { } wall && Math.Abs(wall - joint.ThicknessMm) > 0.01,
                "The thickness is not the wall of that pipe."
            ),
            (joint.Pipe is null && joint.LengthMm is null, "A plate or sheet test has a length."),
            (template.Passes.Count == 0, "A test has passes."),
            (template.Passes.Any(pass => pass.Layers.Count == 0 || pass.Layers.Any(beads => beads is < 1 or > 20)), "A layer has 1 to 20 beads."),
            (template.Passes.Any(pass => pass.BeadShare <= 0), "A bead share is over 0."),
            (
                template.Passes.Any(pass => pass.Half is not null && template.Halves.All(half => half.Id != pass.Half)),
                "A pass names a half that is not there."
            ),
            (template.Drills.Any(drill => drill.Stages.Count == 0), "A drill exercises at least one stage."),
            (template.Variants.Any(group => group.Options.Count < 2), "A variant group has at least two options."),
            (template.FitUp.Points.Count == 0, "A fit-up is measured somewhere."),
            (
                joint.Pipe is not null && template.FitUp.Points.Any(point => !ClockPosition.TryParse(point, out _)),
                "Fit-up points on pipe are clock positions."
            ),
            (template.FitUp.Tolerances.Any(tolerance => tolerance.Min > tolerance.Max), "A tolerance runs from low to high."),
        ];
        return [.. checks.Where(check => check.Wrong).Select(check => check.Error)];
    }
}
