using Gradus.Core.Library;
using Gradus.Core.Welding;

namespace Gradus.Core.Inspection;

/// <summary>A verdict on a coupon: its visual verdict, what of it was not welded yet, and the rules that it was made with.</summary>
/// <param name="Kind">The verdict on the whole coupon.</param>
/// <param name="Missing">Stages of the coupon or drill that are not finished.</param>
/// <param name="StageClean">For each stage exercised or found at fault: true when nothing there was rejected.</param>
/// <param name="ProfileVersion">Version of the limits, and with it the template's and the program's.</param>
public sealed record CouponVerdict(
    VerdictKind Kind,
    Verdict Visual,
    IReadOnlyList<Stage> Missing,
    IReadOnlyDictionary<Stage, bool> StageClean,
    string ProfileId,
    int ProfileVersion,
    string TemplateId,
    int TemplateVersion
)
{
    /// <summary>
    /// True when it decides: every stage was welded, or one was rejected. A coupon given up after a bad root counts as it stands, whatever
    /// was never welded.
    /// </summary>
    public bool Decides => Missing.Count == 0 || Kind == VerdictKind.Reject;
}

/// <summary>Judges a coupon as logged.</summary>
public static class CouponJudge
{
    /// <summary>
    /// The verdict on what was logged. A rejected finding decides at once; otherwise stages that are not finished leave it open.
    /// </summary>
    /// <param name="template">The test, with the coupon's variants applied.</param>
    /// <param name="drillId">The drill, or null for a full coupon.</param>
    /// <param name="loggedStages">Stages that are finished.</param>
    public static CouponVerdict Judge(
        TestTemplate template,
        AcceptanceProfile profile,
        string? drillId,
        IReadOnlyCollection<Stage> loggedStages,
        IReadOnlyList<MeasuredFinding> findings
    )
    {
        var joint = new InspectedJoint(template.Product, template.Joint.ThicknessMm, template.OpenRoot);
        var visual = VisualJudge.Judge(profile, joint, findings);
        var stages = template.StagesOf(drillId);
        Stage[] missing = [.. stages.Where(stage => stage != Stage.FitUp && !loggedStages.Contains(stage))];
        var rejected = visual
            .Reasons.Where(reason => reason.Outcome == VerdictKind.Reject)
            .Select(reason => findings[reason.Finding].Stage)
            .ToHashSet();
        return new CouponVerdict(
            visual.Kind == VerdictKind.Accept && missing.Length > 0 ? VerdictKind.CannotJudge : visual.Kind,
            visual,
            missing,
            stages
                .Where(loggedStages.Contains)
                .Concat(rejected.OfType<Stage>())
                .Distinct()
                .Order()
                .ToDictionary(stage => stage, stage => !rejected.Contains(stage)),
            profile.Id,
            profile.Version,
            template.Id,
            template.Version
        );
    }
}
