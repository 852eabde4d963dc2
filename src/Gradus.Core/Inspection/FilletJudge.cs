using System.Text.Json.Serialization;

namespace Gradus.Core.Inspection;

/// <summary>How far a fillet face may bulge, by its width: up to a width in mm, the most in mm. The last step has no end.</summary>
/// <param name="Below">True when the width that ends the step belongs to the next.</param>
public sealed record ConvexityStep(double? FaceToMm, double MaxMm, bool Below = false)
{
    /// <summary>True when it holds for a width in mm; the first that does counts.</summary>
    internal bool Holds(double widthMm) => FaceToMm is not { } to || (Below ? widthMm < to : widthMm <= to);
}

/// <summary>The limits of a profile on the size and shape of a fillet. Lengths in mm; null where the profile sets none.</summary>
/// <param name="LegsAsAsked">True when neither leg may be under the leg asked for.</param>
/// <param name="ThroatAsAsked">True when the throat may not be under the throat asked for.</param>
/// <param name="ThroatPerLeg">The throat is at least this share of the leg asked for, where no throat was.</param>
/// <param name="LegDifference">The most that the legs may differ by, from the throat: <c>base + perWidth·a</c>.</param>
/// <param name="ThroatOver">The most that the throat may be over the one asked for: the least of <c>base + perWidth·a</c>.</param>
/// <param name="Convexity">The most that the face may bulge, in steps of its width.</param>
/// <param name="ConvexityBy">The same as the least of <c>base + perWidth·b</c>.</param>
/// <param name="NoLimit">What the code leaves unlimited, in words; null when it limits the fillet.</param>
public sealed record FilletLimits(
    bool LegsAsAsked,
    bool ThroatAsAsked,
    double? ThroatPerLeg,
    LimitTerm? LegDifference,
    IReadOnlyList<LimitTerm>? ThroatOver,
    IReadOnlyList<ConvexityStep>? Convexity,
    IReadOnlyList<LimitTerm>? ConvexityBy,
    string? NoLimit,
    string Source,
    bool FromMemory,
    int? Confidence = null
);

/// <summary>A fillet as it was measured, in mm; what was not measured is null.</summary>
/// <param name="FaceWidthMm">Width of the face, or of the single bead.</param>
public sealed record FilletMeasures(
    double? LegAskedMm = null,
    double? LegAMm = null,
    double? LegBMm = null,
    double? ThroatAskedMm = null,
    double? ThroatMm = null,
    double? FaceWidthMm = null,
    double? ConvexityMm = null
)
{
    /// <summary>True when nothing was measured of the weld itself.</summary>
    [JsonIgnore]
    public bool IsEmpty => (LegAMm, LegBMm, ThroatMm, ConvexityMm) == (null, null, null, null);

    /// <summary>The largest size that any of them can have, in mm.</summary>
    public const double MostMm = 200;

    /// <summary>True when each size is one that a fillet can have, or was not measured.</summary>
    [JsonIgnore]
    public bool AreSizes =>
        new[] { LegAskedMm, LegAMm, LegBMm, ThroatAskedMm, ThroatMm, FaceWidthMm, ConvexityMm }.All(size => size is null or (>= 0 and <= MostMm));
}

/// <summary>Judges the size and shape of a fillet.</summary>
internal static class FilletJudge
{
    /// <summary>How what was measured stands against each limit; what a limit needs and was not measured leaves it open.</summary>
    internal static IEnumerable<LimitReason> Judge(AcceptanceProfile profile, FilletMeasures one)
    {
        if (profile.Fillet is not { } limits)
        {
            yield return new LimitReason(
                -1,
                null,
                null,
                null,
                VerdictKind.CannotJudge,
                $"{profile.Name} has no rule here for the size of a fillet: the procedure or a qualified inspector decides.",
                profile.Name,
                true
            );
            yield break;
        }

        LimitReason Reason(FindingMeasure? measure, double? value, double? limit, VerdictKind outcome, string rule) =>
            new(-1, measure, value, limit, outcome, rule, limits.Source, limits.FromMemory, measure is null);
        LimitReason Missing(FindingMeasure measure, string rule) => Reason(measure, null, null, VerdictKind.CannotJudge, rule);
        LimitReason AtLeast(FindingMeasure measure, double value, double limit, string rule) =>
            Reason(measure, value, limit, limit.Within(value) ? VerdictKind.Accept : VerdictKind.Reject, rule);
        LimitReason AtMost(FindingMeasure measure, double value, double limit, string rule) =>
            Reason(measure, value, limit, value.Within(limit) ? VerdictKind.Accept : VerdictKind.Reject, rule);

        if (limits.NoLimit is { } free)
        {
            yield return Reason(null, null, null, VerdictKind.Accept, free);
            yield break;
        }

        if (limits.LegsAsAsked && (one.LegAskedMm ?? one.LegAMm ?? one.LegBMm) is not null)
        {
            const string Rule = "Each leg at least as asked.";
            foreach (var (measure, leg) in new[] { (FindingMeasure.LegAMm, one.LegAMm), (FindingMeasure.LegBMm, one.LegBMm) })
            {
                yield return (leg, one.LegAskedMm) switch
                {
                    (null, _) => Missing(measure, Rule),
                    (_, null) => Missing(FindingMeasure.LegAskedMm, Rule),
                    ({ } size, { } asked) => AtLeast(measure, size, asked, Rule),
                };
            }
        }

        var leastThroat = one.ThroatAskedMm ?? (limits.ThroatPerLeg * one.LegAskedMm);
        if (
            (limits.ThroatAsAsked && (one.ThroatAskedMm ?? one.ThroatMm) is not null) || (limits.ThroatPerLeg is not null && one.ThroatMm is not null)
        )
        {
            const string Rule = "The throat at least as asked.";
            yield return (one.ThroatMm, leastThroat) switch
            {
                (null, _) => Missing(FindingMeasure.ThroatMm, Rule),
                (_, null) => Missing(FindingMeasure.ThroatAskedMm, Rule),
                ({ } throat, { } asked) => AtLeast(FindingMeasure.ThroatMm, throat, asked, Rule),
            };
        }

        if (limits.ThroatOver is { } over && one is { ThroatMm: { } thick, ThroatAskedMm: { } wanted })
        {
            yield return AtMost(
                FindingMeasure.ThroatMm,
                thick,
                wanted + Limits.Least(over, 0, wanted),
                "The throat not too far over the one asked for."
            );
        }

        if (limits.LegDifference is { } uneven && one is { LegAMm: { } a, LegBMm: { } b })
        {
            const string Rule = "The legs not too far apart.";
            var apart = Math.Abs(a - b);
            yield return (one.ThroatAskedMm ?? (uneven.PerWidth > 0 ? null : 0), apart <= uneven.Base) switch
            {
                (_, true) => AtMost(FindingMeasure.LegDifferenceMm, apart, uneven.Base + (uneven.PerWidth * (one.ThroatAskedMm ?? 0)), Rule),
                (null, _) => Missing(FindingMeasure.ThroatAskedMm, Rule),
                ({ } throat, _) => AtMost(FindingMeasure.LegDifferenceMm, apart, uneven.Base + (uneven.PerWidth * throat), Rule),
            };
        }

        if (one.ConvexityMm is { } convex && (limits.Convexity is not null || limits.ConvexityBy is not null))
        {
            const string Rule = "Convexity of the face, by its width.";
            var (least, most) = one.FaceWidthMm is { } width ? (At(width), At(width)) : (At(0), At(double.PositiveInfinity));
            yield return convex.Within(least) ? AtMost(FindingMeasure.ConvexityMm, convex, least, Rule)
            : !convex.Within(most) ? AtMost(FindingMeasure.ConvexityMm, convex, most, Rule)
            : Missing(FindingMeasure.FaceWidthMm, Rule);
        }

        double At(double width) => Limits.At(limits.Convexity, limits.ConvexityBy, 0, width);
    }
}
