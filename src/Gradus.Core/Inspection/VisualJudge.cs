using System.Text.Json.Serialization;

namespace Gradus.Core.Inspection;

/// <summary>The joint that is looked at. Thickness in mm, of the plate or of the pipe wall.</summary>
public sealed record InspectedJoint(Product Product, double ThicknessMm, bool OpenRoot);

/// <summary>A discontinuity as it was found and measured; a measure that was not taken is null.</summary>
/// <param name="ClockMinutes">Where it lies on pipe, in minutes past twelve; it tells the halves of a split coupon apart.</param>
public sealed record MeasuredFinding(
    DiscontinuityKind Kind,
    Stage? Stage = null,
    double? DepthMm = null,
    double? HeightMm = null,
    double? LengthMm = null,
    double? DiameterMm = null,
    double? WidthMm = null,
    int? Count = null,
    int? ClockMinutes = null
)
{
    /// <summary>The measure's value; a finding without a count is one.</summary>
    public double? Of(FindingMeasure measure) =>
        measure switch
        {
            FindingMeasure.DepthMm => DepthMm,
            FindingMeasure.HeightMm => HeightMm,
            FindingMeasure.LengthMm => LengthMm,
            FindingMeasure.DiameterMm => DiameterMm,
            FindingMeasure.WidthMm => WidthMm,
            _ => Count ?? 1,
        };
}

/// <summary>What a judgement came to.</summary>
public enum VerdictKind
{
    Accept,
    Reject,

    /// <summary>A limit needs a measure that was not taken.</summary>
    [JsonStringEnumMemberName("cannot-judge")]
    CannotJudge,
}

/// <summary>How one finding stands against one limit.</summary>
/// <param name="Finding">Index of the finding that was judged; -1 when the profile has no limits to judge by.</param>
/// <param name="Measure">The measure that decided; null when the profile sets no limit for the kind.</param>
/// <param name="Measured">What was measured; null when it was not.</param>
/// <param name="Limit">The limit for this joint; null when the profile sets none, or when it cannot be worked out without a missing measure.</param>
/// <param name="Outcome">How this one limit came out.</param>
/// <param name="Rule">The limit in words.</param>
public sealed record LimitReason(
    int Finding,
    FindingMeasure? Measure,
    double? Measured,
    double? Limit,
    VerdictKind Outcome,
    string Rule,
    string Source,
    bool FromMemory
);

/// <summary>A verdict: what decided it, and what was looked at and passed.</summary>
public sealed record Verdict(VerdictKind Kind, IReadOnlyList<LimitReason> Reasons, IReadOnlyList<LimitReason> Passed);

/// <summary>Judges what was seen and measured against the visual limits of a profile.</summary>
public static class VisualJudge
{
    /// <summary>
    /// The verdict. One limit passed over rejects, whatever else is unmeasured; without one, a limit whose measure is missing leaves the
    /// verdict open. A kind that the profile does not limit passes, and says that there is no limit.
    /// </summary>
    public static Verdict Judge(AcceptanceProfile profile, InspectedJoint joint, IReadOnlyList<MeasuredFinding> findings)
    {
        if (!profile.LimitsEntered)
        {
            var why = $"{profile.Name} cannot judge until the school enters the limits of its own copy.";
            return new Verdict(
                VerdictKind.CannotJudge,
                [new LimitReason(-1, null, null, null, VerdictKind.CannotJudge, why, profile.Name, false)],
                []
            );
        }

        var all = findings.SelectMany((finding, index) => JudgeOne(profile, joint, finding, index)).ToList();
        var rejected = all.Any(reason => reason.Outcome == VerdictKind.Reject);
        var open = all.Any(reason => reason.Outcome == VerdictKind.CannotJudge);
        return new Verdict(
            rejected ? VerdictKind.Reject
                : open ? VerdictKind.CannotJudge
                : VerdictKind.Accept,
            [.. all.Where(reason => reason.Outcome != VerdictKind.Accept).OrderBy(reason => reason.Outcome)],
            [.. all.Where(reason => reason.Outcome == VerdictKind.Accept)]
        );
    }

    private static IEnumerable<LimitReason> JudgeOne(AcceptanceProfile profile, InspectedJoint joint, MeasuredFinding finding, int index)
    {
        var rules = profile.Visual.Where(rule => rule.Kinds.Contains(finding.Kind) && (rule.When?.Holds(joint) ?? true)).ToList();
        return rules.Count == 0
            ?
            [
                new LimitReason(
                    index,
                    null,
                    null,
                    null,
                    VerdictKind.Accept,
                    $"{profile.Name} sets no visual limit for this here.",
                    profile.Name,
                    true
                ),
            ]
            : rules.Select(rule => Apply(rule, joint, finding, index));
    }

    private static LimitReason Apply(AcceptanceRule rule, InspectedJoint joint, MeasuredFinding finding, int index)
    {
        var measured = finding.Of(rule.Measure);
        var limit = LimitOf(rule, joint, finding.WidthMm ?? 0);
        LimitReason Reason(VerdictKind outcome, FindingMeasure measure, double? value, double? most) =>
            new(index, measure, value, most, outcome, rule.Rule, rule.Source, rule.FromMemory);

        if (measured is null)
        {
            // "None at all" needs no measure: that it was found is enough.
            if (limit == 0 && !NeedsWidth(rule))
            {
                return Reason(VerdictKind.Reject, rule.Measure, null, limit);
            }

            return Reason(VerdictKind.CannotJudge, rule.Measure, null, NeedsWidth(rule) && finding.WidthMm is null ? null : limit);
        }

        if (measured <= limit)
        {
            return Reason(VerdictKind.Accept, rule.Measure, measured, limit);
        }

        // Over the limit for a weld of no width: only the missing width can tell, unless no width could save it.
        if (finding.WidthMm is null && NeedsWidth(rule) && measured <= LimitOf(rule, joint, double.PositiveInfinity))
        {
            return Reason(VerdictKind.CannotJudge, FindingMeasure.WidthMm, null, null);
        }

        var decided = finding.WidthMm is null && NeedsWidth(rule) ? LimitOf(rule, joint, double.PositiveInfinity) : limit;
        return Reason(VerdictKind.Reject, rule.Measure, measured, decided);
    }

    private static bool NeedsWidth(AcceptanceRule rule) => rule.Limit.Any(term => term.PerWidth > 0);

    private static double LimitOf(AcceptanceRule rule, InspectedJoint joint, double widthMm) =>
        rule.Limit.Min(term => term.Base + (term.PerThickness * joint.ThicknessMm) + (term.PerWidth > 0 ? term.PerWidth * widthMm : 0));
}
