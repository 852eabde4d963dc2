namespace Gradus.Core.Inspection;

/// <summary>The limits of a profile on the convex face of a guided bend. Lengths in mm.</summary>
/// <param name="MaxMm">The largest discontinuity in any direction.</param>
/// <param name="MaxBelow">True when it must be smaller than that, not as large.</param>
/// <param name="MaxShareOfWall">The largest as a share of the wall, when that is less; null when the wall plays no part.</param>
/// <param name="SumMaxMm">The most that those over <paramref name="SumCountsOverMm"/> and not over <paramref name="MaxMm"/> may come to together; null for no such limit.</param>
/// <param name="CornerMaxMm">The largest crack at a corner; null when corner cracks are not counted.</param>
/// <param name="CornerBelow">True when a corner crack must be smaller than the limit, not as large.</param>
/// <param name="CornerFaultMaxMm">The largest at a corner where slag or fusion shows.</param>
/// <param name="CornerFaultShareOfWall">The same as a share of the wall, when that is less; null when the wall plays no part.</param>
/// <param name="CornerVoids">True when a crack at a corner over the limit, without a fault in it, makes the specimen void: another is cut.</param>
/// <param name="SumCountsFrom">True when those of <paramref name="SumCountsOverMm"/> itself are summed too.</param>
/// <param name="Confidence">How sure the values from memory are, in percent.</param>
public sealed record BendLimits(
    double MaxMm,
    double? MaxShareOfWall,
    double? SumCountsOverMm,
    double? SumMaxMm,
    double? CornerMaxMm,
    bool CornerBelow,
    double CornerFaultMaxMm,
    string Source,
    bool FromMemory,
    bool MaxBelow = false,
    double? CornerFaultShareOfWall = null,
    bool CornerVoids = false,
    bool SumCountsFrom = false,
    int? Confidence = null
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
            else if (one is { Corner: true, FromSlagOrFusion: false })
            {
                var limit = limits.CornerMaxMm!.Value;
                var kept = Kept(size, limit, limits.CornerBelow);
                yield return Reason(
                    which,
                    "sizeMm",
                    size,
                    limit,
                    kept ? VerdictKind.Accept
                        : limits.CornerVoids ? VerdictKind.CannotJudge
                        : VerdictKind.Reject,
                    !kept && limits.CornerVoids
                        ? "A crack at a corner over the limit with no slag or fusion fault in it: the specimen is void, cut a replacement."
                        : "Crack at a corner."
                );
            }
            else
            {
                // A corner where a fault shows is held to a limit of its own, the rest of the face to that of the face.
                var (largest, share, rule) = one.Corner
                    ? (limits.CornerFaultMaxMm, limits.CornerFaultShareOfWall, "Crack at a corner, with slag or a fusion fault in it.")
                    : (limits.MaxMm, limits.MaxShareOfWall, "Discontinuity on the convex face, in any direction.");
                if (share is not null && specimen.WallMm is null && Kept(size, largest, limits.MaxBelow))
                {
                    yield return Reason(which, "wallMm", null, null, VerdictKind.CannotJudge, "The limit depends on the wall.");
                    continue;
                }

                var limit = share is { } part && specimen.WallMm is { } wall ? Math.Min(largest, part * wall) : largest;
                yield return Reason(which, "sizeMm", size, limit, Kept(size, limit, limits.MaxBelow) ? VerdictKind.Accept : VerdictKind.Reject, rule);
            }
        }

        if (limits.SumMaxMm is { } most)
        {
            var sum = specimen
                .Discontinuities.Where(one =>
                    (!one.Corner || one.FromSlagOrFusion) && Counts(one.SizeMm) && Kept(one.SizeMm!.Value, limits.MaxMm, limits.MaxBelow)
                )
                .Sum(one => one.SizeMm!.Value);
            yield return Reason(
                null,
                "sumMm",
                sum,
                most,
                sum.Within(most) ? VerdictKind.Accept : VerdictKind.Reject,
                "Sum of the smaller discontinuities."
            );
        }

        bool Counts(double? size) => limits.SumCountsFrom ? size >= limits.SumCountsOverMm : size > limits.SumCountsOverMm;
    }

    private static bool Kept(double size, double limit, bool below) => below ? size < limit : size.Within(limit);
}
