namespace Gradus.Core.Qualification;

/// <summary>A weld that a job asks for, by its essential variables. Lengths in mm.</summary>
/// <param name="Position">As ranges name it: F, H, V, OH, or by ISO 6947.</param>
/// <param name="DiameterMm">Outside diameter of the pipe; null for plate.</param>
/// <param name="Backing">True when the production weld is backed.</param>
/// <param name="Progression">Where the position has one.</param>
public sealed record JobWeld(
    string Name,
    Product Product,
    WeldKind Weld,
    string Position,
    double ThicknessMinMm,
    double ThicknessMaxMm,
    double? DiameterMm,
    bool Backing,
    string Process,
    int FNumber,
    Progression Progression
);

/// <summary>An essential variable that what is qualified does not reach.</summary>
/// <param name="Variable">The field of the job's weld.</param>
/// <param name="Needed">What the job asks for, in words.</param>
/// <param name="Qualified">What is qualified, in words.</param>
public sealed record Shortfall(string Variable, string Needed, string Qualified);

/// <summary>A test that may be taken: its cost, and what passing it counts as (a split test or one of several processes counts as several).</summary>
/// <param name="Choices">The options of its variants that it is taken with; null as it is first described.</param>
/// <param name="Way">Those options in words.</param>
public sealed record CandidateTest(
    string Id,
    double Cost,
    IReadOnlyList<PassedTest> Passes,
    IReadOnlyDictionary<string, string>? Choices = null,
    string? Way = null
)
{
    /// <summary>As it is said: the test, with its way where it has several.</summary>
    public string Name => Way is null ? Id : $"{Id} ({Way})";
}

/// <summary>Compares what a job asks for with what tests qualify.</summary>
public static class Coverage
{
    /// <summary>The essential variables of a weld that the nearest of some tests does not reach; empty when one covers it. Nothing is taken from one test and the rest from another.</summary>
    public static IReadOnlyList<Shortfall> Missing(PositionTable table, JobWeld weld, IReadOnlyList<PassedTest> tests)
    {
        var own = tests.Where(test => test.Process == weld.Process).ToList();
        if (own.Count == 0)
        {
            return
            [
                new Shortfall("process", weld.Process, tests.Count == 0 ? "none" : string.Join(", ", tests.Select(test => test.Process).Distinct())),
            ];
        }

        return own.Select(test => Missing(weld, Qualifier.Combine(table, [test]))).MinBy(gaps => gaps.Count)!;
    }

    private static List<Shortfall> Missing(JobWeld weld, Qualified qualified)
    {
        var positions = weld.Weld is WeldKind.Plug or WeldKind.Tack
            ? qualified.Own?.Weld == weld.Weld
                ? qualified.Own.Positions
                : []
            : weld.Weld == WeldKind.Fillet
                ? qualified.Fillet
                : weld.Product == Product.Pipe
                    ? qualified.PipeGroove
                    : qualified.PlateGroove;
        // Only a groove has a root to back.
        var backed = weld.Backing || weld.Weld != WeldKind.Groove;
        var fillers = backed ? qualified.FNumbers : qualified.FNumbersWithoutBacking;
        List<(bool Short, Shortfall What)> all =
        [
            (qualified.BranchOnly, new("joint", "butt", "branch")),
            (!positions.Contains(weld.Position), new("position", weld.Position, Listed(positions))),
            (
                !Holds(qualified.ThicknessMm, weld.ThicknessMinMm) || !Holds(qualified.ThicknessMm, weld.ThicknessMaxMm),
                new("thickness", Said(new RangeMm(weld.ThicknessMinMm, weld.ThicknessMaxMm)), Said(qualified.ThicknessMm))
            ),
            (
                weld.DiameterMm is { } diameter && !Holds(qualified.OutsideDiameterMm, diameter),
                new("diameter", $"{weld.DiameterMm:0.##} mm", Said(qualified.OutsideDiameterMm))
            ),
            (!backed && !qualified.WithoutBacking, new("backing", "without backing", "with backing only")),
            (!fillers.Contains(weld.FNumber), new("fNumber", $"F{weld.FNumber}", Listed(fillers.Select(number => $"F{number}")))),
            (
                weld.Progression != Progression.None && Positions.Climbs(weld.Position) && !qualified.Progressions.Contains(weld.Progression),
                new(
                    "progression",
                    weld.Progression.ToString().ToLowerInvariant(),
                    Listed(qualified.Progressions.Select(one => one.ToString().ToLowerInvariant()))
                )
            ),
        ];

        // A weld without backing that no test was made without needs that said once, not as a filler as well.
        var backing = all.Exists(one => one is { Short: true, What.Variable: "backing" });
        return [.. all.Where(one => one.Short && !(backing && one.What.Variable == "fNumber")).Select(one => one.What)];
    }

    /// <summary>
    /// For each weld the tests of which each covers it alone: indices into the candidates. No code makes two tests more than their union but for what
    /// it names.
    /// </summary>
    public static IReadOnlyList<IReadOnlyList<int>> Covering(
        PositionTable table,
        IReadOnlyList<JobWeld> welds,
        IReadOnlyList<CandidateTest> candidates
    )
    {
        var qualified = candidates
            .Select(one => one.Passes.Select(pass => (pass.Process, Gives: Qualifier.Combine(table, [pass]))).ToList())
            .ToList();
        return
        [
            .. welds.Select(weld =>
                (IReadOnlyList<int>)
                    [
                        .. Enumerable
                            .Range(0, candidates.Count)
                            .Where(index => qualified[index].Exists(pass => pass.Process == weld.Process && Missing(weld, pass.Gives).Count == 0)),
                    ]
            ),
        ];
    }

    private static bool Holds(RangeMm? range, double mm) => range?.Holds(mm) ?? false;

    private static string Listed(IEnumerable<string> items) => string.Join(", ", items) is { Length: > 0 } text ? text : "none";

    private static string Said(RangeMm? range) =>
        range is null ? "nothing in common"
        : range.Max is null ? $"{range.Min:0.##} mm and up"
        : $"{range.Min:0.##} to {range.Max:0.##} mm";
}
