namespace Gradus.Core.Joints;

/// <summary>What an instructor would work out of a fit-up at one point; null where it was not measured.</summary>
public sealed record PointNumbers(
    string At,
    double? IncludedAngleDeg,
    double? ProtractorDegA,
    double? ProtractorDegB,
    double? ShrinkageMm,
    double? GapLeftMm
);

/// <summary>What an instructor would work out of a whole fit-up. Lengths in mm.</summary>
/// <param name="StripLengthMm">Length of the strip with both overhangs; null without a strip.</param>
/// <param name="WeldFirst">
/// Where to weld first when the opening is uneven; null when all are alike. On pipe the wider side: it draws shut, and the tight one opens with
/// the tacks as its hinge. On one plate seam the opening ahead closes, so the wider end is welded last, and this is the tight one.
/// </param>
/// <param name="BestGapAt">Where the best gap belongs: at the bottom of a fixed pipe, its wider end up on vertical plate; null elsewhere.</param>
public sealed record FitUpNumbers(IReadOnlyList<PointNumbers> Points, double? StripLengthMm, string? WeldFirst, string? BestGapAt)
{
    private const double AlikeMm = 0.2; // half of a 1/64 in either way is not told apart

    /// <summary>The numbers of a fit-up as measured so far.</summary>
    public static FitUpNumbers Of(JointPlan joint, FitUpPlan plan, string position, FitUpMeasured measured)
    {
        var points = measured.Points.Where(point => plan.Points.Contains(point.At)).ToList();
        var gaps = points.Where(point => point.RootOpeningMm is not null).ToList();
        var (tight, wide) = (gaps.MinBy(point => point.RootOpeningMm), gaps.MaxBy(point => point.RootOpeningMm));
        var uneven = gaps.Count > 1 && wide!.RootOpeningMm - tight!.RootOpeningMm > AlikeMm;
        return new FitUpNumbers(
            [.. points.Select(point => Numbers(joint, point))],
            joint.Backing is { Kind: BackingKind.Strip, OverhangMm: { } overhang } && joint.LengthMm is { } length ? length + (2 * overhang) : null,
            !uneven ? null
                : joint.Pipe is null ? tight!.At
                : wide!.At,
            position switch
            {
                "5G" or "6G" or "6GR" => "6",
                "3G" when joint.Backing.Kind == BackingKind.None && uneven => wide!.At,
                _ => null,
            }
        );
    }

    private static PointNumbers Numbers(JointPlan joint, FitUpPoint point)
    {
        const double Square = 90;
        double? shrinkage = joint.Form is JointForm.TeeFillet or JointForm.LapFillet ? null : JointShape.Of(joint, point).ShrinkageMm;
        return new PointNumbers(
            point.At,
            point.BevelDegA + point.BevelDegB,
            Square - point.BevelDegA,
            Square - point.BevelDegB,
            shrinkage,
            point.RootOpeningMm is { } gap && shrinkage is { } closes ? Math.Max(0, gap - closes) : null
        );
    }
}
