using Gradus.Core.Coaching;
using Gradus.Core.Inspection;

namespace Gradus.Core.Bench;

/// <summary>A specimen that a finding lies in, by its number among those of the test, from 0.</summary>
/// <param name="Name">As it is said: <c>root bend 2</c>.</param>
public sealed record ThreatenedSpecimen(int Specimen, string Name);

/// <summary>What a finding would come to if it were kept.</summary>
/// <param name="Outcome">By itself, against the visual limits of the coupon's profile.</param>
/// <param name="Limits">How it stands against each limit, the deciding one first.</param>
/// <param name="Threatens">The specimens whose strip it lies in; empty while it has no place, and on a drill, from which none is cut.</param>
/// <param name="Causes">Likeliest first.</param>
public sealed record FindingPreview(
    VerdictKind Outcome,
    IReadOnlyList<LimitReason> Limits,
    IReadOnlyList<ThreatenedSpecimen> Threatens,
    IReadOnlyList<LikelyCause> Causes
);

public sealed partial class CouponLog
{
    /// <summary>What a finding would come to if it were kept, judged and explained as one that is.</summary>
    /// <param name="finding">Its place may be missing: then no specimen is threatened, and its causes are those of the whole stage.</param>
    public FindingPreview Preview(LoggedFinding finding)
    {
        var verdict = VisualJudge.Judge(Profile, Test.Inspected, [AsMeasured(finding)]);
        return new FindingPreview(
            verdict.Kind,
            [.. verdict.Reasons, .. verdict.Passed],
            DrillId is null
                ? [.. Threatened(finding).Select(index => new ThreatenedSpecimen(index, SpecimenVerdict.NameOf(Test.Specimens[index].Kind, index)))]
                : [],
            CauseFinder.Rank(finding.Kind, CauseFactsOf(finding))
        );
    }
}
