using Gradus.Core.Joints;
using Gradus.Core.Measure;

namespace Gradus.Core.Library;

/// <summary>What the shape of a file cannot say: that a test holds together.</summary>
public static class TemplateCheck
{
    /// <summary>Everything that is wrong with a test, in words; empty when it is sound.</summary>
    /// <param name="profiles">The acceptance profiles that there are.</param>
    public static IReadOnlyList<string> Errors(TestTemplate template, IEnumerable<string> profiles)
    {
        var joint = template.Joint;
        List<(bool Wrong, string Error)> checks =
        [
            (!profiles.Contains(template.Code), $"Unknown code '{template.Code}'."),
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
            (
                template.Passes.Any(pass => pass.Layers.Count is 0 or > 40 || pass.Layers.Any(beads => beads is < 1 or > 20)),
                "A pass has 1 to 40 layers of 1 to 20 beads."
            ),
            (template.Passes.Any(pass => pass.BeadShare <= 0), "A bead share is over 0."),
            (
                template.Passes.Any(pass => pass.Half is not null && template.Halves.All(half => half.Id != pass.Half)),
                "A pass names a half that is not there."
            ),
            (template.Drills.Any(drill => drill.Stages.Count == 0), "A drill exercises at least one stage."),
            (template.Variants.Any(group => group.Options.Count < 2), "A variant group has at least two options."),
            (joint.Form is JointForm.TeeFillet or JointForm.LapFillet && joint.LegMm is not > 0, "A fillet has a leg."),
            ((joint.Form == JointForm.Plug) != (template.Weld == WeldKind.Plug), "A plug weld fills a plug joint, and no other does."),
            (joint.Form == JointForm.Branch && template.Product != Product.Pipe, "A branch is a joint of pipe."),
            (joint.RingMm is <= 0 or > 100, "A ring stands up to 100 mm off the groove."),
            (joint.Form == JointForm.SingleJ && joint.JRadiusMm is not > 0, "A J preparation has a root radius."),
            (joint.Backing.Kind == BackingKind.Insert != joint.Insert is not null, "Backing by an insert names the insert, and no other does."),
            (
                template.Halves.Any(half => !ClockPosition.TryParse(half.FromClock, out _) || !ClockPosition.TryParse(half.ToClock, out _)),
                "A half runs from one clock position to another."
            ),
            (template.Title.Length is 0 or > 120 || template.Id.Length is 0 or > 12, "An id has 1 to 12 characters, a title 1 to 120."),
            (
                template.Passes.Any(pass => pass.Settings.Amps.Min <= 0 || pass.Settings.Amps.Min > pass.Settings.Amps.Max),
                "Amps run from over 0 upward."
            ),
            (template.FitUp.Points.Count == 0, "A fit-up is measured somewhere."),
            (
                joint.Pipe is not null && template.FitUp.Points.Any(point => !ClockPosition.TryParse(point, out _)),
                "Fit-up points on pipe are clock positions."
            ),
            (
                template.Rules.HoldPoints.Any(point => point.Id.Length is 0 or > 80 || point.Title.Length is 0 or > 80)
                    || template.Rules.HoldPoints.DistinctBy(point => point.Id).Count() < template.Rules.HoldPoints.Count,
                "A hold point has an id of its own and a title, each at most 80 characters."
            ),
            (
                template.Repairing is { } drill && (drill.MostTries < 1 || !drill.Points.All(point => ClockPosition.TryParse(point, out _))),
                "A drill of repairing names clock positions and at least one try."
            ),
            (template.FitUp.Tolerances.Any(tolerance => tolerance.Min > tolerance.Max), "A tolerance runs from low to high."),
        ];
        var errors = checks.Where(check => check.Wrong).Select(check => check.Error).ToList();
        return errors;
    }

    /// <summary>Everything that keeps a sound test, or one of its options, from being drawn and planned; empty when nothing does.</summary>
    public static IReadOnlyList<string> PlanErrors(TestTemplate template) => [.. Ways(template).SelectMany(Unplannable)];

    /// <summary>The test as it stands and with each option of each variant by itself.</summary>
    private static IEnumerable<(string Name, Func<TestTemplate> Test)> Ways(TestTemplate template) =>
        template
            .Variants.SelectMany(group =>
                group.Options.Select(option =>
                    (
                        $"{group.Name}, {option.Name}",
                        (Func<TestTemplate>)(() => template.With(new Dictionary<string, string> { [group.Id] = option.Id }))
                    )
                )
            )
            .Prepend(("As it stands", () => template));

    /// <summary>What keeps one way of the test from being drawn and planned.</summary>
    private static IEnumerable<string> Unplannable((string Name, Func<TestTemplate> Test) way)
    {
        string? error = null;
        try
        {
            if (way.Test().Beads().Any(bead => !(bead.AreaMm2 > 0)))
            {
                error = "A bead has no area.";
            }
        }
        catch (Exception broken) when (broken is ArgumentException or InvalidOperationException)
        {
            error = broken.Message;
        }

        return error is null ? [] : [$"{way.Name}: {error}"];
    }
}
