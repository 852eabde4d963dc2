using Gradus.Core.Inspection;
using Gradus.Core.Library;
using Gradus.Core.Measure;

namespace Gradus.Core.Bench;

/// <summary>A verdict on a coupon: its visual verdict, what of it was not welded yet, and the rules that it was made with.</summary>
/// <param name="Kind">The verdict on the whole coupon.</param>
/// <param name="Missing">Stages of the coupon or drill that are not finished.</param>
/// <param name="StageClean">For each stage exercised or found at fault: true when nothing there was rejected.</param>
/// <param name="ProfileVersion">Version of the limits, and with it the template's and the program's.</param>
/// <param name="Specimens">The specimens that were cut and tested; a rejected one rejects the coupon.</param>
/// <param name="ByEye">The verdict without the specimens; null on closings from before it was kept by itself.</param>
/// <param name="Says">What decides besides limits, or is wanting, in words: the places of a repair drill.</param>
/// <param name="Halves">One verdict for each half of a split coupon; none for a coupon that is one.</param>
public sealed record CouponVerdict(
    VerdictKind Kind,
    Verdict Visual,
    IReadOnlyList<Stage> Missing,
    IReadOnlyDictionary<Stage, bool> StageClean,
    string ProfileId,
    int ProfileVersion,
    string TemplateId,
    int TemplateVersion,
    IReadOnlyList<HalfVerdict>? Halves = null,
    IReadOnlyList<SpecimenVerdict>? Specimens = null,
    VerdictKind? ByEye = null,
    IReadOnlyList<string>? Says = null
)
{
    /// <summary>The verdict by eye alone.</summary>
    [System.Text.Json.Serialization.JsonIgnore]
    public VerdictKind Seen => ByEye ?? (Visual.Kind == VerdictKind.Accept && Missing.Count > 0 ? VerdictKind.CannotJudge : Visual.Kind);

    /// <summary>The verdict of what was cut open; null while nothing was.</summary>
    [System.Text.Json.Serialization.JsonIgnore]
    public VerdictKind? Inside => Specimens is { Count: > 0 } cut ? CouponJudge.Worst([.. cut.Select(one => one.Verdict.Kind)]) : null;

    /// <summary>
    /// True when it decides: every stage was welded and could be judged, or one was rejected. A coupon given up after a bad root counts as it stands, whatever
    /// was never welded.
    /// </summary>
    public bool Decides => Kind == VerdictKind.Reject || (Missing.Count == 0 && (Seen != VerdictKind.CannotJudge || Kind == VerdictKind.Accept));

    /// <summary>True when the eye leaves open nothing but what lies inside: what is cut open settles it.</summary>
    [System.Text.Json.Serialization.JsonIgnore]
    internal bool IsOpenInside => Visual.IsOpenInside && Missing.Count == 0 && Says is null or [];
}

/// <summary>The verdict on one of the test's specimens.</summary>
public sealed record SpecimenVerdict(int Specimen, string Kind, TestVerdict Verdict)
{
    /// <summary>As it is said, with its number among all of the test: <c>root bend 2</c>.</summary>
    [System.Text.Json.Serialization.JsonIgnore]
    public string Name => NameOf(Kind, Specimen);

    /// <summary>How a specimen is said, by its kind and its number among all of the test, from 0.</summary>
    public static string NameOf(string kind, int specimen) => $"{NameOf(kind)} {specimen + 1}";

    private static string NameOf(string kind) =>
        kind switch
        {
            "root" or "face" or "side" => $"{kind} bend",
            "nickBreak" => "nick break",
            "filletBreak" => "fillet break",
            _ => kind,
        };
}

/// <summary>The verdict on one half of a split coupon, by its findings and the stages finished on it.</summary>
public sealed record HalfVerdict(string HalfId, string Name, VerdictKind Kind, IReadOnlyList<Stage> Missing);

/// <summary>Judges a coupon as logged.</summary>
public static class CouponJudge
{
    /// <summary>
    /// The verdict on what was logged. A rejected finding decides at once; otherwise stages that are not finished leave it open. Each half of
    /// a split coupon is judged by itself; a finding without a place counts against both.
    /// </summary>
    /// <param name="template">The test, with the coupon's variants applied.</param>
    /// <param name="drillId">The drill, or null for a full coupon.</param>
    /// <param name="finished">The stages that are finished: of a half by its id, of the whole for null.</param>
    /// <param name="fillets">What was measured of a fillet itself, place by place.</param>
    public static CouponVerdict Judge(
        TestTemplate template,
        AcceptanceProfile profile,
        string? drillId,
        Func<string?, IReadOnlyCollection<Stage>> finished,
        IReadOnlyList<MeasuredFinding> findings,
        IReadOnlyList<SpecimenVerdict>? specimens = null,
        IReadOnlyList<FilletMeasures>? fillets = null
    )
    {
        var joint = template.Inspected;
        var visual = VisualJudge.Judge(profile, joint, findings, fillets);
        var stages = template.StagesOf(drillId);
        var done = finished(null);
        var missing = Missing(stages, done);
        var rejected = Faults(profile, joint, findings, visual).Select(index => findings[index].Stage).ToHashSet();
        return new CouponVerdict(
            Whole(
                Open(visual.Kind, missing),
                visual.IsOpenInside && missing.Length == 0 && specimens?.Count >= template.Specimens.Count,
                [.. (specimens ?? []).Select(one => one.Verdict.Kind)]
            ),
            visual,
            missing,
            stages
                .Where(done.Contains)
                .Concat(rejected.OfType<Stage>())
                .Distinct()
                .Order()
                .ToDictionary(stage => stage, stage => !rejected.Contains(stage)),
            profile.Id,
            profile.Version,
            template.Id,
            template.Version,
            [
                .. template.Halves.Select(half =>
                {
                    var own = VisualJudge.Judge(profile, joint, [.. findings.Where(finding => LiesIn(half, finding.ClockMinutes))]);
                    var lacking = Missing(stages, finished(half.Id));
                    return new HalfVerdict(half.Id, half.Name, Open(own.Kind, lacking), lacking);
                }),
            ],
            specimens ?? [],
            Open(visual.Kind, missing)
        );
    }

    /// <summary>True when a place on the clock belongs to a half; its start does, its end does not. Without a place it belongs to both.</summary>
    public static bool LiesIn(Half half, int? clockMinutes) => clockMinutes is not { } at || half.Holds(at);

    /// <summary>The findings that are faults of their passes, by their index: those that are rejected, and those covered since that would be.</summary>
    internal static IReadOnlyList<int> Faults(
        AcceptanceProfile profile,
        InspectedJoint joint,
        IReadOnlyList<MeasuredFinding> findings,
        Verdict visual
    ) =>
        [
            .. visual
                .Reasons.Where(reason =>
                    reason.Finding >= 0
                    && reason.Finding < findings.Count
                    && (reason.Outcome == VerdictKind.Reject || (reason.Inside && VisualJudge.IsFault(profile, joint, findings[reason.Finding])))
                )
                .Select(reason => reason.Finding)
                .Distinct(),
        ];

    /// <summary>The verdict by eye and by what was cut open: the worst of them, save that what lies inside is for what was cut open to say.</summary>
    /// <param name="settled">The eye left open only what lies inside, and every specimen of the test was looked at.</param>
    internal static VerdictKind Whole(VerdictKind seen, bool settled, IReadOnlyList<VerdictKind> inside) =>
        settled && inside.Count > 0 ? Worst(inside) : Worst([seen, .. inside]);

    /// <summary>The worst of some verdicts.</summary>
    internal static VerdictKind Worst(IReadOnlyList<VerdictKind> kinds) =>
        kinds.Contains(VerdictKind.Reject) ? VerdictKind.Reject
        : kinds.Contains(VerdictKind.CannotJudge) ? VerdictKind.CannotJudge
        : VerdictKind.Accept;

    private static VerdictKind Open(VerdictKind kind, Stage[] missing) =>
        kind == VerdictKind.Accept && missing.Length > 0 ? VerdictKind.CannotJudge : kind;

    private static Stage[] Missing(IReadOnlyList<Stage> stages, IReadOnlyCollection<Stage> done) =>
        [.. stages.Where(stage => stage != Stage.FitUp && !done.Contains(stage))];
}
