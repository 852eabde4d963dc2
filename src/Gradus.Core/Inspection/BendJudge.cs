namespace Gradus.Core.Inspection;

/// <summary>The limits of a profile on the convex face of a guided bend. Lengths in mm.</summary>
/// <param name="MaxMm">The largest discontinuity in any direction.</param>
/// <param name="MaxShareOfWall">The largest as a share of the wall, when that is less; null when the wall plays no part.</param>
/// <param name="SumMaxMm">The most that those over <paramref name="SumCountsOverMm"/> and not over <paramref name="MaxMm"/> may come to together; null for no such limit.</param>
/// <param name="CornerMaxMm">The largest crack at a corner; null when corner cracks are not counted.</param>
/// <param name="CornerBelow">True when a corner crack must be smaller than the limit, not as large.</param>
/// <param name="CornerFaultMaxMm">The largest at a corner where slag or fusion shows.</param>
public sealed record BendLimits(
    double MaxMm,
    double? MaxShareOfWall,
    double? SumCountsOverMm,
    double? SumMaxMm,
    double? CornerMaxMm,
    bool CornerBelow,
    double CornerFaultMaxMm,
    string Source,
    bool FromMemory
);

/// <summary>A discontinuity on the convex face of a bend; <paramref name="FromSlagOrFusion"/> when slag or lack of fusion shows in it.</summary>
public sealed record BendDiscontinuity(double? SizeMm, bool Corner, bool FromSlagOrFusion);

/// <summary>A bent specimen. The wall is that of the pipe, where a limit depends on it.</summary>
public sealed record BendSpecimen(double? WallMm, IReadOnlyList<BendDiscontinuity> Discontinuities);

/// <summary>Judges guided bends.</summary>
public static class BendJudge
{
    /// <summary>The verdict on all specimens. A size that was not measured, or a wall that a limit needs, leaves it open.</summary>
    public static TestVerdict Judge(AcceptanceProfile profile, IReadOnlyList<BendSpecimen> specimens) =>
        profile.Bend is not { } limits
            ? TestVerdict.NoLimits(profile.Name, "bend")
            : TestVerdict.From([.. specimens.SelectMany((specimen, index) => JudgeOne(limits, specimen, index))]);

    private static IEnumerable<TestReason> JudgeOne(BendLimits limits, BendSpecimen specimen, int index)
    {
        TestReason Reason(int? which, string measure, double? measured, double? limit, VerdictKind outcome, string rule) =>
            new(index, which, measure, measured, limit, outcome, rule, limits.Source, limits.FromMemory);

        for (var which = 0; which < specimen.Discontinuities.Count; which++)
        {
            var one = specimen.Discontinuities[which];
            if (one.SizeMm is not { } size)
            {
                yield return Reason(which, "sizeMm", null, null, VerdictKind.CannotJudge, "The size was not measured.");
            }
            else if (one.Corner && !one.FromSlagOrFusion && limits.CornerMaxMm is null)
            {
                yield return Reason(
                    which,
                    "sizeMm",
                    size,
                    null,
                    VerdictKind.Accept,
                    "A crack at a corner is not counted when no slag or fusion shows in it."
                );
            }
            else if (one.Corner)
            {
                var limit = one.FromSlagOrFusion ? limits.CornerFaultMaxMm : limits.CornerMaxMm!.Value;
                var kept = limits.CornerBelow && !one.FromSlagOrFusion ? size < limit : size <= limit;
                yield return Reason(which, "sizeMm", size, limit, kept ? VerdictKind.Accept : VerdictKind.Reject, "Crack at a corner.");
            }
            else if (limits.MaxShareOfWall is { } share && specimen.WallMm is null && size <= limits.MaxMm)
            {
                yield return Reason(which, "wallMm", null, null, VerdictKind.CannotJudge, "The limit depends on the wall.");
            }
            else
            {
                var limit = limits.MaxShareOfWall is { } part && specimen.WallMm is { } wall ? Math.Min(limits.MaxMm, part * wall) : limits.MaxMm;
                yield return Reason(
                    which,
                    "sizeMm",
                    size,
                    limit,
                    size <= limit ? VerdictKind.Accept : VerdictKind.Reject,
                    "Discontinuity on the convex face, in any direction."
                );
            }
        }

        if (limits.SumMaxMm is { } most)
        {
            var sum = specimen
                .Discontinuities.Where(one => !one.Corner && one.SizeMm > limits.SumCountsOverMm && one.SizeMm <= limits.MaxMm)
                .Sum(one => one.SizeMm!.Value);
            yield return Reason(
                null,
                "sumMm",
                sum,
                most,
                sum <= most ? VerdictKind.Accept : VerdictKind.Reject,
                "Sum of the smaller discontinuities."
            );
        }
    }
}
