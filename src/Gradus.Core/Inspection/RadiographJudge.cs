namespace Gradus.Core.Inspection;

/// <summary>The kind of an indication on a radiograph.</summary>
public enum IndicationKind
{
    Crack,
    IncompleteFusion,
    IncompletePenetration,
    ElongatedSlag,
    Rounded,
}

/// <summary>An indication: its length or diameter, and where it begins along the weld, in mm.</summary>
public sealed record Indication(IndicationKind Kind, double? SizeMm, double? AtMm);

/// <summary>A limit that holds up to a thickness: <c>base + perThickness·t</c>, in mm.</summary>
public sealed record ThicknessStep(double? ToMm, double Base, double PerThickness);

/// <summary>The limits of a profile on a radiograph. Lengths in mm.</summary>
/// <param name="Elongated">Longest slag by thickness, thinnest first.</param>
/// <param name="GroupWindowThicknesses">Aligned slag is summed over this many thicknesses...</param>
/// <param name="GroupSumThicknesses">...and may come to this many...</param>
/// <param name="GroupGapLengths">...unless the gaps are over this many times the longest of the group.</param>
/// <param name="RoundedShare">Largest rounded indication as a share of the thickness, at most <paramref name="RoundedMaxMm"/>.</param>
public sealed record RadiographLimits(
    IReadOnlyList<ThicknessStep> Elongated,
    double GroupWindowThicknesses,
    double GroupSumThicknesses,
    double GroupGapLengths,
    double RoundedShare,
    double RoundedMaxMm,
    string Source,
    bool FromMemory
);

/// <summary>Judges a radiograph.</summary>
public static class RadiographJudge
{
    /// <summary>The verdict on all indications of a weld of one thickness in mm.</summary>
    public static TestVerdict Judge(AcceptanceProfile profile, double thicknessMm, IReadOnlyList<Indication> indications) =>
        profile.Radiograph is not { } limits
            ? TestVerdict.NoLimits(profile.Name, "radiograph")
            : TestVerdict.From([
                .. indications.Select((one, index) => JudgeOne(limits, thicknessMm, one, index)),
                .. JudgeGroups(limits, thicknessMm, indications),
            ]);

    private static TestReason JudgeOne(RadiographLimits limits, double thickness, Indication one, int index)
    {
        TestReason Sized(double limit, string rule) =>
            new(
                index,
                null,
                "sizeMm",
                one.SizeMm,
                limit,
                one.SizeMm is null ? VerdictKind.CannotJudge
                    : one.SizeMm <= limit ? VerdictKind.Accept
                    : VerdictKind.Reject,
                rule,
                limits.Source,
                limits.FromMemory
            );
        return one.Kind switch
        {
            IndicationKind.ElongatedSlag => Sized(LongestSlag(limits, thickness), "Length of elongated slag."),
            IndicationKind.Rounded => Sized(Math.Min(limits.RoundedShare * thickness, limits.RoundedMaxMm), "Size of a rounded indication."),
            _ => new(
                index,
                null,
                "count",
                1,
                0,
                VerdictKind.Reject,
                "No crack, incomplete fusion or incomplete penetration.",
                limits.Source,
                limits.FromMemory
            ),
        };
    }

    private static double LongestSlag(RadiographLimits limits, double thickness)
    {
        var step = limits.Elongated.First(step => step.ToMm is null || thickness <= step.ToMm);
        return step.Base + (step.PerThickness * thickness);
    }

    /// <summary>Slag in line: from each indication on, those that follow without a gap of over so many of the longest, within the window.</summary>
    private static IEnumerable<TestReason> JudgeGroups(RadiographLimits limits, double thickness, IReadOnlyList<Indication> indications)
    {
        var slag = indications
            .Select((one, index) => (one, index))
            .Where(pair => pair.one is { Kind: IndicationKind.ElongatedSlag, SizeMm: not null })
            .ToList();
        if (slag.Count < 2)
        {
            yield break;
        }

        var most = limits.GroupSumThicknesses * thickness;
        TestReason Reason(int index, string measure, double? measured, VerdictKind outcome) =>
            new(index, null, measure, measured, most, outcome, "Sum of slag in line.", limits.Source, limits.FromMemory);
        if (slag.FirstOrDefault(pair => pair.one.AtMm is null) is { one: not null } unplaced)
        {
            // Wherever it lies, all of it together cannot be too much.
            var all = slag.Sum(pair => pair.one.SizeMm!.Value);
            yield return all <= most
                ? Reason(unplaced.index, "sumMm", all, VerdictKind.Accept)
                : Reason(unplaced.index, "atMm", null, VerdictKind.CannotJudge);
            yield break;
        }

        var line = slag.OrderBy(pair => pair.one.AtMm).ToList();
        var worst = (Sum: 0.0, Index: line[0].index);
        for (var from = 0; from < line.Count; from++)
        {
            var (sum, longest, end) = (0.0, 0.0, double.NaN);
            for (var to = from; to < line.Count; to++)
            {
                var (at, size) = (line[to].one.AtMm!.Value, line[to].one.SizeMm!.Value);
                longest = Math.Max(longest, size);
                if (at + size - line[from].one.AtMm!.Value > limits.GroupWindowThicknesses * thickness || at - end > limits.GroupGapLengths * longest)
                {
                    break;
                }

                (sum, end) = (sum + size, at + size);
                worst = sum > worst.Sum ? (sum, line[from].index) : worst;
            }
        }

        yield return Reason(worst.Index, "sumMm", worst.Sum, worst.Sum <= most ? VerdictKind.Accept : VerdictKind.Reject);
    }
}
