using System.Collections.Concurrent;
using System.Globalization;

namespace Gradus.Core.Qualification;

/// <summary>What a passed coupon gives for one variable of a weld that is asked for.</summary>
/// <param name="Variable">The field of the question.</param>
/// <param name="Asked">What is asked; null when it is left open and must be covered at every value.</param>
/// <param name="Qualified">What the coupon gives, in words.</param>
/// <param name="Clause">Where it stands; written from memory, with how sure that is in per cent.</param>
public sealed record CoverReason(string Variable, string? Asked, string Qualified, string Clause, bool FromMemory);

/// <summary>Whether a weld is covered.</summary>
/// <param name="By">The coupons that cover it, by index; empty when it is not covered.</param>
/// <param name="Why">When it is covered what the coupon gives for each variable; else each variable that the nearest one fails.</param>
public sealed record CoverAnswer(bool Covered, IReadOnlyList<int> By, IReadOnlyList<CoverReason> Why);

/// <summary>
/// Whether passed coupons cover a weld by a code. A coupon is read into closed sets of variables; a weld is covered when one set holds all of them, so
/// that no thickness is taken from one coupon and the backing from another. Pure.
/// </summary>
public static partial class Covering
{
    private static readonly string[] Aws = ["F", "H", "V", "OH"];
    private static readonly string[] Iso = ["PA", "PB", "PC", "PD", "PE", "PF", "PG", "PH", "PJ", "H-L045", "J-L045"];
    private static readonly int[] FNumbers = [.. Range(1, 6), .. Range(21, 26), .. Range(31, 37), .. Range(41, 46), .. Range(51, 56), 61, 71, 72];
    private const int Cellulosic = 3; // F-numbers of ASME IX QW-432
    private const int LowHydrogen = 4;
    private const double Hair = 1e-3;
    private const double Vast = 1e5;

    /// <summary>The positions that a question may name in a code.</summary>
    public static IReadOnlyList<string> PositionsOf(CoveringRules rules) => Positions.Of(rules.Positions)!.IsIso ? Iso : Aws;

    /// <summary>The sets of variables that some coupons qualify; one more coupon only adds to them.</summary>
    public static IReadOnlyList<QualifiedSet> Sets(CoveringRules rules, IReadOnlyList<PassedCoupon> coupons) => QualifiedSets.Of(rules, coupons);

    /// <summary>Whether some coupons cover a weld, and why. What the question leaves open must be covered at every value.</summary>
    public static CoverAnswer Of(CoveringRules rules, IReadOnlyList<PassedCoupon> coupons, AskedWeld asked)
    {
        var sets = QualifiedSets.Of(rules, coupons);
        var by = new SortedSet<int>();
        List<Fact>? gives = null;
        foreach (var weld in Every(rules, asked))
        {
            // What cannot hold is left out before its words are made; of a weld without open sizes one set is enough.
            var holding = sets.Where(set => MayHold(set, weld) && Facts(rules, set, weld).TrueForAll(fact => fact.Holds))
                .Take(IsOpen(weld) ? sets.Count : 1)
                .ToList();
            if (Uncovered(holding, weld) is { } left)
            {
                return new CoverAnswer(false, [], Failing(rules, coupons, sets, asked, left));
            }

            gives ??= Facts(rules, holding[0], weld);
            by.UnionWith(IsOpen(weld) ? holding.SelectMany(set => set.By) : holding[0].By);
        }

        return new CoverAnswer(true, [.. by], [.. gives!.Select(fact => fact.Said(asked))]);
    }

    // Each weld that the question stands for: every value of what it leaves open, but for sizes.
    private static IEnumerable<AskedWeld> Every(CoveringRules rules, AskedWeld asked) =>
        from product in asked.Product is { } one ? [one] : new[] { Product.Plate, Product.Pipe }
        from weld in asked.Weld is { } kind ? [kind] : new[] { WeldKind.Groove, WeldKind.Fillet }
        from position in asked.Position is { } lies ? [lies] : PositionsOf(rules)
        from process in asked.Process is { } given ? [given] : rules.Processes
        from filler in Fillers(rules, process, asked)
        from backing in asked.Backing is { } behind ? [behind]
        : weld == WeldKind.Fillet ? [Backed.None]
        : Enum.GetValues<Backed>()
        from progression in position != "V" ? [Progression.None]
        : asked.Progression is { } runs && runs != Progression.None ? [runs]
        : new[] { Progression.Uphill, Progression.Downhill }
        select asked with
        {
            Product = product,
            Weld = weld,
            Position = position,
            Process = process,
            FNumber = filler,
            Backing = backing,
            Progression = progression,
            OutsideDiameterMm = product == Product.Pipe ? asked.OutsideDiameterMm : null,
        };

    private static bool IsOpen(AskedWeld weld) => weld.ThicknessMm is null || (weld.Product == Product.Pipe && weld.OutsideDiameterMm is null);

    // A size of the weld that none of the sets reaches, all of which hold the rest of it; null when there is none. Tried on both sides of every end.
    private static AskedWeld? Uncovered(List<QualifiedSet> holding, AskedWeld weld)
    {
        var areas = holding
            .SelectMany(set => Reaching(set, weld).Select(reach => (Thickness: set.ThicknessMm, Diameter: reach.DiameterMm ?? new RangeMm(0, null))))
            .ToList();
        double[] thicknesses = weld.ThicknessMm is { } mm ? [mm] : Ends(areas.Select(area => area.Thickness));
        double[] diameters =
            weld.Product == Product.Plate ? [Vast]
            : weld.OutsideDiameterMm is { } outside ? [outside]
            : Ends(areas.Select(area => area.Diameter));
        foreach (var thickness in thicknesses)
        {
            foreach (var diameter in diameters)
            {
                if (!areas.Exists(area => area.Thickness.Holds(thickness) && area.Diameter.Holds(diameter)))
                {
                    return weld with { ThicknessMm = thickness, OutsideDiameterMm = weld.Product == Product.Plate ? null : diameter };
                }
            }
        }

        return null;
    }

    private static bool MayHold(QualifiedSet set, AskedWeld weld) =>
        set.Weld == weld.Weld
        && set.Processes.Contains(weld.Process!)
        && (weld.ThicknessMm is not { } thickness || set.ThicknessMm.Holds(thickness))
        && Reaching(set, weld).Any(reach => weld.OutsideDiameterMm is not { } outside || reach.DiameterMm?.Holds(outside) == true);

    private static IEnumerable<Reach> Reaching(QualifiedSet set, AskedWeld weld) =>
        set.Reaches.Where(reach =>
            reach.Product == weld.Product
            && (!reach.Rotated || weld.Rotated)
            && reach.Positions.Contains(weld.Position!)
            && (!reach.NeedsBacking || weld.Weld == WeldKind.Fillet || IsBacked(weld))
        );

    private static bool IsBacked(AskedWeld weld) => weld.Backing is Backed.Steel or Backed.BackWelded;

    private static double[] Ends(IEnumerable<RangeMm> ranges) =>
        [
            Hair,
            .. ranges
                .SelectMany(range => new[] { range.Min, range.Max ?? Vast })
                .Distinct()
                .SelectMany(end => new[] { end - Hair, end, end + Hair })
                .Where(end => end > 0),
            Vast,
        ];

    private static IEnumerable<int?> Fillers(CoveringRules rules, string process, AskedWeld asked) =>
        asked.FNumber is not null ? [asked.FNumber]
        : TableOf(rules, process) is not { } table
            // A code that goes by groups of its own has them by these numbers.
            ? GroupOf(rules, asked.FillerGroup, process, null) is null && GroupOf(rules, null, process, Cellulosic) is not null
                    ? [Cellulosic, LowHydrogen]
                : [null]
        : table.Keys.All(key => key.Length == 1) && rules.FillerSets is null
            ? table.Keys.Select(key => (int?)int.Parse(key, CultureInfo.InvariantCulture))
        : FNumbers.Select(number => (int?)number);

    private static IReadOnlyDictionary<string, IReadOnlyList<string>>? TableOf(CoveringRules rules, string process) =>
        rules.Fillers.GetValueOrDefault(process) ?? rules.Fillers.GetValueOrDefault("*");

    private sealed record Fact(string Variable, bool Holds, string? Asked, string Qualified, string Clause, int Confidence)
    {
        public CoverReason Said(AskedWeld question) =>
            new(Variable, IsOpen(question) ? null : Asked, Qualified, $"{Clause} (from memory, {Confidence} %)", true);

        private bool IsOpen(AskedWeld question) =>
            Variable switch
            {
                "product" => question.Product is null,
                "weld" => question.Weld is null,
                "position" => question.Position is null,
                "thicknessMm" => question.ThicknessMm is null,
                "outsideDiameterMm" => question.OutsideDiameterMm is null,
                "backing" => question.Backing is null,
                "process" => question.Process is null,
                "fNumber" => question.FNumber is null,
                "progression" => question.Progression is null,
                _ => false,
            };
    }

    // Of each variable what the set gives, and whether that holds the weld; sizes that are left open are not asked here.
    private static List<Fact> Facts(CoveringRules rules, QualifiedSet set, AskedWeld weld)
    {
        var coupon = set.Coupon;
        var isGroove = weld.Weld == WeldKind.Groove;
        var isBacked = IsBacked(weld);
        var source = Positions.Of(rules.Positions)!.Source;
        var products = set
            .Reaches.Where(reach => reach.Product == weld.Product && reach.Positions.Count > 0 && (!reach.Rotated || weld.Rotated))
            .ToList();
        var positions = products.Where(reach => reach.Positions.Contains(weld.Position!)).ToList();
        var diameters = positions.Where(reach => weld.OutsideDiameterMm is not { } outside || reach.DiameterMm?.Holds(outside) == true).ToList();
        var reaches = diameters.Where(reach => !reach.NeedsBacking || !isGroove || isBacked).ToList();
        var about = reaches.Concat(diameters).Concat(positions).Concat(products).FirstOrDefault();
        List<Fact> facts =
        [
            new("weld", set.Weld == weld.Weld, Name(weld.Weld), Name(set.Weld), source, 95),
            new(
                "product",
                products.Count > 0,
                Name(weld.Product),
                Listed(set.Reaches.Where(reach => reach.Positions.Count > 0).Select(reach => Name(reach.Product)).Distinct()),
                source,
                95
            ),
            new(
                "position",
                products.Count == 0 || positions.Count > 0,
                weld.Position,
                Listed(Positions.Sorted((products.Count > 0 ? products : set.Reaches).SelectMany(reach => reach.Positions))),
                about?.Source ?? source,
                about?.Confidence ?? 95
            ),
            new("process", set.Processes.Contains(weld.Process!), weld.Process, Listed(set.Processes), rules.ProcessSource, rules.ProcessConfidence),
        ];
        var row = set.ThicknessRow;
        var thickness = weld.ThicknessMm;
        facts.Add(
            new(
                "thicknessMm",
                thickness is not { } tested || set.ThicknessMm.Holds(tested),
                thickness is { } mm ? Mm(mm) : null,
                Said(set.ThicknessMm),
                row.Source,
                row.Confidence
            )
        );
        if (weld.Product == Product.Pipe)
        {
            facts.Add(
                new(
                    "outsideDiameterMm",
                    positions.Count == 0 || diameters.Count > 0,
                    weld.OutsideDiameterMm is { } outer ? Mm(outer) : null,
                    Listed((positions.Count > 0 ? positions : products).Select(reach => reach.DiameterMm).OfType<RangeMm>().Select(Said).Distinct()),
                    about?.Source ?? source,
                    about?.Confidence ?? 90
                )
            );
        }

        if (isGroove)
        {
            var isGasNeeded = isBacked && coupon.Backing is Backed.Gas or Backed.Insert && rules.GasNeeds?.Contains(weld.PNumber ?? 1) == true;
            var holds = set.Backings.Contains(weld.Backing!.Value) && !isGasNeeded && (diameters.Count == 0 || reaches.Count > 0);
            facts.Add(
                new("backing", holds, Name(weld.Backing), Listed(set.Backings.Select(one => Name(one))), rules.BackingSource, rules.BackingConfidence)
            );
        }

        if (TableOf(rules, weld.Process!) is { } table && weld.FNumber is { } number)
        {
            var covers = Covers(rules, table, coupon, set.Weld);
            var isToldApart = table.Keys.Any(key => key.EndsWith('o'));
            var token = !isToldApart ? $"{number}" : $"{number}{(isGroove && !isBacked ? "o" : "b")}";
            facts.Add(
                new(
                    "fNumber",
                    covers.Contains(token) || covers.Contains($"{number}"),
                    $"F{number}",
                    Listed(covers.Select(one => $"F{one.TrimEnd('b', 'o')}{(one.EndsWith('o') ? " open" : one.EndsWith('b') ? " backed" : "")}")),
                    rules.FillerSource,
                    rules.FillerConfidence
                )
            );
        }

        if (weld.Progression is Progression.Uphill or Progression.Downhill)
        {
            facts.Add(new("progression", coupon.Progression == weld.Progression, Name(weld.Progression), Name(coupon.Progression), source, 95));
        }

        Metals(rules, coupon, weld, facts);
        Groups(rules, coupon, weld, isGroove, facts);
        if (set.Joints is { } joints)
        {
            facts.Add(
                new(
                    "joint",
                    joints.Contains(weld.Joint),
                    Name(weld.Joint),
                    Listed(joints.Select(one => Name(one))),
                    $"{rules.Code}: butt and branch",
                    90
                )
            );
        }

        if (rules.Coverings is not null && !isGroove && coupon.Layers == 1 && weld.Layers is { } layers)
        {
            facts.Add(new("layers", layers == 1, $"{layers}", "single", "ISO 9606-1, fillet: single layer covers single layer", 94));
        }

        return facts;
    }

    private static void Metals(CoveringRules rules, PassedCoupon coupon, AskedWeld weld, List<Fact> facts)
    {
        if (rules.PGroups is [[var plain, ..], ..] && weld.PNumber is { } metal)
        {
            var tested = coupon.PNumber ?? plain;
            var group = rules.PGroups.FirstOrDefault(one => one.Contains(tested)) ?? [tested];
            facts.Add(
                new("pNumber", group.Contains(metal), $"P-{metal}", Listed(group.Select(one => $"P-{one}")), rules.MetalSource, rules.MetalConfidence)
            );
        }
    }

    private static void Groups(CoveringRules rules, PassedCoupon coupon, AskedWeld weld, bool isGroove, List<Fact> facts)
    {
        if (rules.Groups is { } groups && GroupOf(rules, weld.FillerGroup, weld.Process!, weld.FNumber) is { } asked)
        {
            var tested = GroupOf(rules, coupon.FillerGroup, coupon.Process, coupon.FNumber);
            var covers = tested is null ? [] : groups.GetValueOrDefault(tested, [tested]);
            facts.Add(new("fillerGroup", covers.Contains(asked), asked, Listed(covers), rules.GroupSource!, rules.GroupConfidence));
        }

        if (rules.Coverings is { } coverings && weld is { Process: "SMAW", Covering: { } covering })
        {
            IReadOnlyList<string> covers =
                coupon.Covering is not { } tested ? []
                : isGroove && weld.Backing == Backed.None ? [tested]
                : coverings.GetValueOrDefault(tested, [tested]);
            facts.Add(new("covering", covers.Contains(covering), covering, Listed(covers), rules.CoveringSource!, rules.CoveringConfidence));
        }
    }

    /// <summary>The F-numbers that a set covers, with backing or without; that of the coupon itself where the code does not go by them.</summary>
    internal static IReadOnlyList<int> FNumbersOf(CoveringRules rules, QualifiedSet set, bool backed)
    {
        if (TableOf(rules, set.Coupon.Process) is not { } table)
        {
            return set.Coupon.FNumber is { } own ? [own] : [];
        }

        return
        [
            .. Covers(rules, table, set.Coupon, set.Weld)
                .Where(one => !one.EndsWith(backed ? 'o' : 'b'))
                .Select(one => int.Parse(one.TrimEnd('b', 'o'), CultureInfo.InvariantCulture))
                .Distinct()
                .Order(),
        ];
    }

    // API's groups go by classification: F3 is in 1 or 2, which cover each other, and F4 in 3.
    private static string? GroupOf(CoveringRules rules, string? given, string process, int? fNumber) =>
        given
        ?? (
            rules.Multiple is null || process != "SMAW" ? null
            : fNumber == Cellulosic ? "1"
            : fNumber == LowHydrogen ? "3"
            : null
        );

    private static IReadOnlyList<string> Covers(
        CoveringRules rules,
        IReadOnlyDictionary<string, IReadOnlyList<string>> table,
        PassedCoupon coupon,
        WeldKind weld
    )
    {
        if (coupon.FNumber is not { } number)
        {
            return [];
        }

        if (rules.FillerSets?.FirstOrDefault(set => set.Contains(number)) is { } all)
        {
            return [.. all.Select(one => $"{one}")];
        }

        var isOpen = weld == WeldKind.Groove && coupon.Backing is Backed.None or Backed.Gas or Backed.Insert;
        return (isOpen ? table.GetValueOrDefault($"{number}o") : null) ?? table.GetValueOrDefault($"{number}") ?? [$"{number}"];
    }

    private static IReadOnlyList<CoverReason> Failing(
        CoveringRules rules,
        IReadOnlyList<PassedCoupon> coupons,
        List<QualifiedSet> sets,
        AskedWeld asked,
        AskedWeld weld
    )
    {
        var nearest = sets.Select(set => Facts(rules, set, weld).Where(fact => !fact.Holds).ToList()).MinBy(facts => facts.Count);
        return nearest is not null
            ? [.. nearest.Select(fact => fact.Said(asked))]
            : [.. coupons.Select(coupon => WithoutSets(rules, coupon)).Distinct().Select(fact => fact.Said(asked))];
    }

    // Why a coupon qualifies nothing at all.
    private static Fact WithoutSets(CoveringRules rules, PassedCoupon coupon) =>
        coupon.MonthsUnused >= rules.LapseMonths
            ? new Fact("monthsSinceProcessUsed", false, null, $"under {rules.LapseMonths} months", rules.LapseSource, rules.LapseConfidence)
        : coupon.ByFilm ? new Fact("testedBy", false, null, "by bends", rules.FilmSource, rules.FilmConfidence)
        : coupon.Multiple && rules.Multiple is { } multiple
            ? new Fact("scope", false, null, "a butt and a branch of that size, both", multiple.Source, multiple.Confidence)
        : Positions.Of(rules.Positions)!.PositionsOf(coupon.Product, coupon.Weld).Count == 0
            ? new Fact("product", false, Name(coupon.Product), "no such coupon in this code", Positions.Of(rules.Positions)!.Source, 95)
        : new Fact("position", false, null, "no coupon of this code", Positions.Of(rules.Positions)!.Source, 95);

    private static IEnumerable<int> Range(int from, int to) => Enumerable.Range(from, to - from + 1);

    private static readonly ConcurrentDictionary<Enum, string> Names = new();

    private static string Name(Enum? value) =>
        value is null ? "" : Names.GetOrAdd(value, one => System.Text.Json.JsonNamingPolicy.CamelCase.ConvertName(one.ToString()));

    private static string Listed(IEnumerable<string> items) => string.Join(", ", items) is { Length: > 0 } text ? text : "none";

    private static string Mm(double mm) => $"{mm.ToString("0.##", CultureInfo.InvariantCulture)} mm";

    private static string Said(RangeMm range) => range.Max is { } max ? $"{Mm(range.Min)} to {Mm(max)}" : $"{Mm(range.Min)} and up";
}
