namespace Gradus.Core.Qualification;

/// <summary>What passed tests qualify: of several the union of their sets, as far as it can be said in one.</summary>
/// <param name="ThicknessMm">Null when there is no one range.</param>
/// <param name="OutsideDiameterMm">Of pipe; null when there is none, or no one range.</param>
/// <param name="FNumbers">With backing; see <paramref name="FNumbersWithoutBacking"/>.</param>
/// <param name="FNumbersWithoutBacking">The F-numbers that hold without backing.</param>
/// <param name="Own">Of a plug or a tack: the positions of its own kind of weld; null else.</param>
/// <param name="BranchOnly">True when the pipe that it names is that of a branch, and no butt.</param>
/// <param name="Sets">Of several tests what each gives, alike ones once. A weld must lie within one of them. Null for one test.</param>
public sealed record Qualified(
    IReadOnlyList<string> PlateGroove,
    IReadOnlyList<string> PipeGroove,
    IReadOnlyList<string> Fillet,
    RangeMm? ThicknessMm,
    RangeMm? OutsideDiameterMm,
    bool WithBacking,
    bool WithoutBacking,
    IReadOnlyList<int> FNumbers,
    IReadOnlyList<int> FNumbersWithoutBacking,
    IReadOnlyList<Progression> Progressions,
    string Source,
    bool FromMemory,
    IReadOnlyList<Qualified>? Sets = null,
    OwnKind? Own = null,
    bool BranchOnly = false
);

/// <summary>A kind of weld that qualifies only itself, and the positions that it does in.</summary>
public sealed record OwnKind(WeldKind Weld, IReadOnlyList<string> Positions);

/// <summary>Tells what passed tests of one process qualify.</summary>
public static class Qualifier
{
    /// <summary>
    /// Each test keeps its own set, and one more never takes anything away. The fields unite where the sets are alike but for one variable (positions with
    /// their progression, thickness, diameter, backing, filler); where they differ in more, they are empty or null, and the sets tell.
    /// </summary>
    /// <param name="tests">At least one; all of one process, in positions that the table has.</param>
    public static Qualified Combine(PositionTable table, IReadOnlyList<PassedTest> tests)
    {
        var sets = tests.Select(test => Of(table, test)).DistinctBy(Key).ToList();
        if (sets.Count == 1)
        {
            return tests.Count == 1 ? sets[0] : sets[0] with { Sets = sets };
        }

        var differing = Variables.Count(variable => sets.Select(variable).Distinct(StringComparer.Ordinal).Count() > 1);

        // A branch and a butt reach no pipe together.
        return differing > 1 || sets.Exists(one => one.BranchOnly) != sets.TrueForAll(one => one.BranchOnly)
            ? Nothing(table, sets)
            : United(table, sets);
    }

    private static Qualified Of(PositionTable table, PassedTest test)
    {
        var rules = CoveringRules.ByCode[table.Code];
        var sets = Covering.Sets(rules, [test.Coupon]);
        var groove = sets.FirstOrDefault(set => set.Weld == WeldKind.Groove);
        var fillet = sets.FirstOrDefault(set => set.Weld == WeldKind.Fillet);
        var own = sets.FirstOrDefault(set => set.Weld is WeldKind.Plug or WeldKind.Tack);
        var main = groove ?? fillet ?? own;

        // Of a plate test that reaches more positions on larger pipe: what holds on all pipe that it reaches.
        static Reach? OnPipe(QualifiedSet? set) =>
            set?.Reaches.Where(reach => reach is { Product: Product.Pipe, Rotated: false }).MinBy(reach => reach.DiameterMm!.Min);
        static IReadOnlyList<string> OnPlate(QualifiedSet? set) =>
            set?.Reaches.FirstOrDefault(reach => reach.Product != Product.Pipe)?.Positions ?? [];
        return new Qualified(
            OnPlate(groove),
            OnPipe(groove)?.Positions ?? [],
            Positions.Sorted(fillet?.Reaches.SelectMany(reach => reach.Positions) ?? []),
            main?.ThicknessMm,
            OnPipe(main)?.DiameterMm,
            main?.Backings.Contains(Backed.Steel) == true,
            main?.Backings.Contains(Backed.None) == true,
            main is null ? [] : Covering.FNumbersOf(rules, main, backed: true),
            main?.Backings.Contains(Backed.None) == true ? Covering.FNumbersOf(rules, main, backed: false) : [],
            Positions.HasProgression(test.Position) && test.Progression != Progression.None ? [test.Progression] : [],
            table.Source,
            table.FromMemory,
            Own: own is null ? null : new OwnKind(own.Weld, OnPlate(own)),
            BranchOnly: test.Joint == PipeJoint.Branch
        );
    }

    private static string Text<T>(IEnumerable<T> items) => string.Join(' ', items);

    // In position and progression a set is one thing: without a vertical weld there is no progression to differ in.
    private static readonly Func<Qualified, string>[] Variables =
    [
        one =>
            $"{Text(one.PlateGroove)}|{Text(one.PipeGroove)}|{Text(one.Fillet)}|{Text(one.Progressions)}|{one.Own?.Weld} {Text(one.Own?.Positions ?? [])}|{one.BranchOnly}",
        one => $"{one.ThicknessMm}",
        one => $"{one.OutsideDiameterMm}",
        one => $"{one.WithBacking} {one.WithoutBacking}",
        one => one.WithoutBacking ? $"{Text(one.FNumbers)}|{Text(one.FNumbersWithoutBacking)}" : Text(one.FNumbers),
    ];

    private static string Key(Qualified one) => string.Join(';', Variables.Select(variable => variable(one)));

    private static Qualified United(PositionTable table, List<Qualified> sets) =>
        new(
            Positions.Sorted(sets.SelectMany(one => one.PlateGroove)),
            Positions.Sorted(sets.SelectMany(one => one.PipeGroove)),
            Positions.Sorted(sets.SelectMany(one => one.Fillet)),
            United(sets.Select(one => one.ThicknessMm)),
            United(sets.Select(one => one.OutsideDiameterMm)),
            sets.Exists(one => one.WithBacking),
            sets.Exists(one => one.WithoutBacking),
            [.. sets.SelectMany(one => one.FNumbers).Distinct().Order()],
            [.. sets.SelectMany(one => one.FNumbersWithoutBacking).Distinct().Order()],
            [.. sets.SelectMany(one => one.Progressions).Distinct().Order()],
            table.Source,
            table.FromMemory,
            sets,
            sets.FirstOrDefault(one => one.Own is not null)?.Own is { } own && sets.TrueForAll(one => one.Own?.Weld == own.Weld)
                ? own with
                {
                    Positions = Positions.Sorted(sets.SelectMany(one => one.Own!.Positions)),
                }
                : null,
            sets[0].BranchOnly
        );

    private static Qualified Nothing(PositionTable table, List<Qualified> sets) =>
        new([], [], [], null, null, false, false, [], [], [], table.Source, table.FromMemory, sets);

    // One range when they meet; null when there is a gap between them, or one of them is none.
    private static RangeMm? United(IEnumerable<RangeMm?> ranges)
    {
        RangeMm? all = null;
        foreach (var range in ranges.OrderBy(one => one?.Min ?? 0))
        {
            if (range is null)
            {
                return null;
            }

            if (all is null)
            {
                all = range;
            }
            else if (all.Max is { } max && range.Min > max + RangeMm.SlackMm)
            {
                return null;
            }
            else
            {
                all = all with { Max = all.Max is null || range.Max is null ? null : Math.Max(all.Max.Value, range.Max.Value) };
            }
        }

        return all;
    }
}
