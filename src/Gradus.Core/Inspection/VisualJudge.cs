using System.Text.Json.Serialization;

namespace Gradus.Core.Inspection;

/// <summary>The joint that is looked at. Lengths in mm.</summary>
/// <param name="ThicknessMm">Of the plate, or of the wall of the pipe.</param>
/// <param name="LengthMm">Length of the weld, round the girth on pipe; null when it is not known.</param>
/// <param name="Broken">True for a fillet or tack that is broken open after it was looked at.</param>
public sealed record InspectedJoint(
    Product Product,
    double ThicknessMm,
    bool OpenRoot,
    WeldKind Weld = WeldKind.Groove,
    double? LengthMm = null,
    bool Broken = false
);

/// <summary>A discontinuity as it was found and measured; a measure that was not taken is null.</summary>
/// <param name="ClockMinutes">Where it lies on pipe, in minutes past twelve; it tells the halves of a split coupon apart.</param>
/// <param name="AtMm">Where it begins along the weld.</param>
/// <param name="FaceHeightThereMm">How high the face stands over the plate at this place, for what is missing at the root.</param>
public sealed record MeasuredFinding(
    DiscontinuityKind Kind,
    Stage? Stage = null,
    double? DepthMm = null,
    double? HeightMm = null,
    double? LengthMm = null,
    double? DiameterMm = null,
    double? WidthMm = null,
    int? Count = null,
    int? ClockMinutes = null,
    double? AtMm = null,
    double? FaceHeightThereMm = null
)
{
    /// <summary>True when it was found in a layer that others were laid over: no eye sees it any more.</summary>
    [JsonIgnore]
    public bool IsCovered => Stage is Vocabulary.Stage.Hot or Vocabulary.Stage.Fill;

    /// <summary>The measure's value; a finding without a count is one.</summary>
    public double? Of(FindingMeasure measure) =>
        measure switch
        {
            FindingMeasure.DepthMm => DepthMm,
            FindingMeasure.HeightMm => HeightMm,
            FindingMeasure.LengthMm => LengthMm,
            FindingMeasure.DiameterMm => DiameterMm,
            FindingMeasure.WidthMm => WidthMm,
            FindingMeasure.Count => Count ?? 1,
            _ => null,
        };

    /// <summary>True when it was measured, and every measure of its size came out as nothing: a flush face is no finding.</summary>
    internal bool IsNothing =>
        Count == 0 || ((DepthMm ?? HeightMm ?? DiameterMm) is not null && (DepthMm ?? 0, HeightMm ?? 0, DiameterMm ?? 0) == (0, 0, 0));
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
/// <param name="Finding">Index of the finding that was judged; -1 for the weld itself, and when the profile has no limits to judge by.</param>
/// <param name="Measure">The measure that decided; null when the profile sets no limit for the kind.</param>
/// <param name="Measured">What was measured; null when it was not.</param>
/// <param name="Limit">The limit for this joint; null when the profile sets none, or when it cannot be worked out without a missing measure.</param>
/// <param name="Outcome">How this one limit came out.</param>
/// <param name="Rule">The limit in words.</param>
/// <param name="NoLimit">True when the code truly sets no limit here.</param>
/// <param name="Inside">True when it lies inside and what is cut open or filmed decides.</param>
/// <param name="Warns">True when it is accepted over a value that the code only advises.</param>
public sealed record LimitReason(
    int Finding,
    FindingMeasure? Measure,
    double? Measured,
    double? Limit,
    VerdictKind Outcome,
    string Rule,
    string Source,
    bool FromMemory,
    bool NoLimit = false,
    bool Inside = false,
    bool Warns = false
);

/// <summary>A verdict: what decided it, and what was looked at and passed.</summary>
public sealed record Verdict(VerdictKind Kind, IReadOnlyList<LimitReason> Reasons, IReadOnlyList<LimitReason> Passed)
{
    /// <summary>True when all that is open lies inside: what is cut open or filmed settles it.</summary>
    [JsonIgnore]
    public bool IsOpenInside => Kind == VerdictKind.CannotJudge && Reasons.All(reason => reason.Inside);
}

/// <summary>Judges what was seen and measured against the visual limits of a profile.</summary>
public static class VisualJudge
{
    /// <summary>
    /// The verdict. One limit passed over rejects, whatever else is unmeasured; without one, a limit whose measure is missing leaves the
    /// verdict open, and so does a kind that the profile has no rule for. Where the code truly sets no limit it is accepted, and says so.
    /// </summary>
    /// <param name="fillets">What was measured of a fillet itself, place by place; null when nothing was.</param>
    public static Verdict Judge(
        AcceptanceProfile profile,
        InspectedJoint joint,
        IReadOnlyList<MeasuredFinding> findings,
        IReadOnlyList<FilletMeasures>? fillets = null
    )
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

        List<LimitReason> all =
        [
            .. findings.SelectMany((finding, index) => JudgeOne(profile, joint, finding, index)),
            .. profile.Visual.Where(rule => rule.Together is not null).SelectMany(rule => Lengths.Judge(rule, joint, findings)),
            .. joint.Weld == WeldKind.Fillet && fillets is not null ? fillets.SelectMany(one => FilletJudge.Judge(profile, one)) : [],
        ];
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

    /// <summary>
    /// Whether a finding is a fault of the pass that it was found in: the profile rejects it, or would if it were not covered since. A fault that
    /// was left under the next layer is no verdict on the coupon, and no clean pass either.
    /// </summary>
    public static bool IsFault(AcceptanceProfile profile, InspectedJoint joint, MeasuredFinding finding) =>
        Judge(profile, joint, [finding with { Stage = finding.IsCovered ? Stage.Cap : finding.Stage }]).Kind == VerdictKind.Reject;

    private static IEnumerable<LimitReason> JudgeOne(AcceptanceProfile profile, InspectedJoint joint, MeasuredFinding finding, int index)
    {
        var rules = profile
            .Visual.Where(rule => rule.Together is null && rule.Kinds.Contains(finding.Kind) && (rule.When?.Holds(joint, finding) ?? true))
            .ToList();
        return rules.Count > 0 ? rules.Select(rule => Apply(rule, joint, finding, index))
            : finding.IsNothing ? []
            :
            [
                new LimitReason(
                    index,
                    null,
                    null,
                    null,
                    VerdictKind.CannotJudge,
                    $"{profile.Name} has no rule here for this: the governing edition, the procedure or a qualified inspector decides.",
                    profile.Name,
                    true
                ),
            ];
    }

    private static LimitReason Apply(AcceptanceRule rule, InspectedJoint joint, MeasuredFinding finding, int index)
    {
        LimitReason Reason(VerdictKind outcome, FindingMeasure? measure, double? value, double? most) =>
            new(
                index,
                measure,
                value,
                most,
                outcome,
                rule.Rule,
                rule.Source,
                rule.FromMemory,
                rule.Says == RuleVerdict.NoLimit,
                rule.Says == RuleVerdict.Inside
            );

        if (!rule.IsLimit)
        {
            var accepted = rule.Says == RuleVerdict.NoLimit || finding.IsNothing;
            return Reason(accepted ? VerdictKind.Accept : VerdictKind.CannotJudge, null, null, null);
        }

        var measured = finding.Of(rule.Measure);
        var byWidth = rule.Steps is not null || rule.Limit.Any(term => term.PerWidth > 0);
        var (least, most) =
            byWidth && finding.WidthMm is null
                ? (LimitAt(rule, joint, 0), LimitAt(rule, joint, double.PositiveInfinity))
                : (LimitAt(rule, joint, finding.WidthMm ?? 0), LimitAt(rule, joint, finding.WidthMm ?? 0));
        if (measured is null)
        {
            // "None at all" needs no measure: that it was found is enough.
            return most == 0
                ? Reason(VerdictKind.Reject, rule.Measure, null, most)
                : Reason(VerdictKind.CannotJudge, rule.Measure, null, least < most ? null : most);
        }

        if (measured.Value.Within(least))
        {
            return rule.KeepsThickness && measured > 0 ? Thick() : Reason(VerdictKind.Accept, rule.Measure, measured, least);
        }

        if (!measured.Value.Within(most))
        {
            return rule.Says == RuleVerdict.Warn
                ? Reason(VerdictKind.Accept, rule.Measure, measured, most) with
                {
                    Warns = true,
                }
                : Reason(VerdictKind.Reject, rule.Measure, measured, most);
        }

        // Over the limit for a weld of no width, and not over that of a wide one: only the missing width can tell.
        return Reason(VerdictKind.CannotJudge, FindingMeasure.WidthMm, null, null);

        // What is missing at the root has to stand at the face.
        LimitReason Thick() =>
            finding.FaceHeightThereMm is not { } face ? Reason(VerdictKind.CannotJudge, FindingMeasure.FaceHeightThereMm, null, measured)
            : measured.Value.Within(face) ? Reason(VerdictKind.Accept, rule.Measure, measured, least)
            : Reason(VerdictKind.Reject, FindingMeasure.FaceHeightThereMm, face, measured);
    }

    private static double LimitAt(AcceptanceRule rule, InspectedJoint joint, double widthMm) =>
        Limits.At(rule.Steps, rule.Limit, joint.ThicknessMm, widthMm);
}
