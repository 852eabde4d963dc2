namespace Gradus.Core.Qualification;

/// <summary>Where and on what a set holds.</summary>
/// <param name="DiameterMm">For pipe; null for plate.</param>
/// <param name="Rotated">Only on pipe that is turned.</param>
public sealed record Reach(
    Product Product,
    IReadOnlyList<string> Positions,
    RangeMm? DiameterMm,
    bool NeedsBacking,
    bool Rotated,
    string Source,
    int Confidence
);

/// <summary>What one passed coupon qualifies for one kind of weld: a weld is covered when one set holds all of its variables.</summary>
/// <param name="By">The coupons that it comes of, by index; one, but for the few pairs that count as more.</param>
/// <param name="Coupon">The coupon whose other variables hold.</param>
/// <param name="Joints">Of pipe; null when the code does not tell.</param>
public sealed record QualifiedSet(
    IReadOnlyList<int> By,
    WeldKind Weld,
    PassedCoupon Coupon,
    IReadOnlyList<Reach> Reaches,
    RangeMm ThicknessMm,
    CoverRow ThicknessRow,
    IReadOnlyList<Backed> Backings,
    IReadOnlyList<string> Processes,
    IReadOnlyList<PipeJoint>? Joints
);

/// <summary>Reads passed coupons by a code.</summary>
internal static class QualifiedSets
{
    private static readonly Backed[] All = [.. Enum.GetValues<Backed>()];

    /// <summary>The sets of some coupons. One more coupon only adds to them.</summary>
    public static List<QualifiedSet> Of(CoveringRules rules, IReadOnlyList<PassedCoupon> coupons)
    {
        var table = Positions.Of(rules.Positions)!;
        var sets = coupons.SelectMany((coupon, index) => Of(rules, table, coupon, [index])).ToList();
        sets.AddRange(Pairs(rules, table, coupons));
        sets.AddRange(Multiple(rules, coupons));
        return sets;
    }

    private static IEnumerable<QualifiedSet> Of(CoveringRules rules, PositionTable table, PassedCoupon coupon, IReadOnlyList<int> by)
    {
        var tested = Positions.NameIn(table, coupon.Product, coupon.Position, coupon.Progression);
        return RuleOf(rules, table, coupon, tested) is { } rule && !coupon.Multiple && IsTested(rules, coupon) ? Of(rules, coupon, rule, by) : [];
    }

    private static PositionRule? RuleOf(CoveringRules rules, PositionTable table, PassedCoupon coupon, string tested) =>
        rules.NotPositions?.Contains(coupon.Position) == true
            ? null
            : table.Rules.FirstOrDefault(rule =>
                rule.Product == coupon.Product && rule.Weld == coupon.Weld && rule.Positions.Count == 1 && rule.Positions[0] == tested
            );

    // Whether the coupon was tested in a way that the code takes, and is still in force.
    private static bool IsTested(CoveringRules rules, PassedCoupon coupon) =>
        !(coupon.MonthsUnused >= rules.LapseMonths)
        && !(coupon.ByFilm && (rules.NoFilm.Contains(coupon.Process) || coupon.Weld == WeldKind.Fillet || IsMetalWithoutFilm(rules, coupon)));

    private static bool IsMetalWithoutFilm(CoveringRules rules, PassedCoupon coupon) =>
        rules.NoFilmMetals?.Contains(coupon.PNumber ?? 1) == true && coupon.Process != rules.NoFilmMetalsBut;

    private static IEnumerable<QualifiedSet> Of(CoveringRules rules, PassedCoupon coupon, PositionRule rule, IReadOnlyList<int> by)
    {
        if (rules.Thickness.FirstOrDefault(row => row.Holds(coupon)) is not { } row)
        {
            yield break;
        }

        IReadOnlyList<string> processes = [coupon.Process, .. rules.ProcessCovers.GetValueOrDefault(coupon.Process, [])];
        IReadOnlyList<PipeJoint>? joints = rules.Multiple is null ? null : [coupon.Joint];
        if (rule.Own is { } own)
        {
            // A plug or a tack qualifies its own kind, on plate, and nothing beside it.
            Reach[] plate = [new(coupon.Product, own, null, false, false, PositionSource(rules), 85)];
            yield return new QualifiedSet(by, coupon.Weld, coupon, plate, row.For(coupon.ThicknessMm), row, All, processes, joints);
            yield break;
        }

        if (coupon.Weld == WeldKind.Groove)
        {
            yield return new QualifiedSet(
                by,
                WeldKind.Groove,
                coupon,
                Reaches(rules, coupon, rule),
                row.For(coupon.ThicknessMm),
                row,
                rules.Backing[coupon.Backing],
                processes,
                joints
            );
        }

        if (coupon.Weld == WeldKind.Fillet || (rules.GroovesFillets && rule.Fillet.Count > 0 && coupon.Joint == PipeJoint.Butt))
        {
            // What a groove qualifies of fillets, it does on any thickness that the code has fillets for.
            var sizes =
                coupon.Weld == WeldKind.Fillet ? row : rules.Thickness.First(one => one.Weld != WeldKind.Groove && HoldsForFillet(one, coupon));
            yield return new QualifiedSet(
                by,
                WeldKind.Fillet,
                coupon,
                FilletReaches(rules, coupon, rule),
                sizes.For(coupon.ThicknessMm),
                sizes,
                All,
                processes,
                joints
            );
        }
    }

    private static bool HoldsForFillet(CoverRow row, PassedCoupon groove) =>
        row.Weld == WeldKind.Fillet ? row.ThicknessBelowMm is null : row.Holds(groove);

    private static List<Reach> Reaches(CoveringRules rules, PassedCoupon coupon, PositionRule rule)
    {
        if (coupon.Product != Product.Pipe)
        {
            return
            [
                new Reach(coupon.Product, rule.PlateGroove, null, false, false, PositionSource(rules), 95),
                .. rules.PlatesPipe.Select(reach => new Reach(
                    Product.Pipe,
                    [.. (reach.Column == "plate" ? rule.PlateGroove : rule.PipeGroove).Where(one => reach.Only?.Contains(one) != false)],
                    new RangeMm(reach.FromMm, null),
                    reach.NeedsBacking,
                    reach.Rotated,
                    reach.Source,
                    reach.Confidence
                )),
            ];
        }

        var row = rules.Diameter.First(one => one.Holds(coupon));
        List<Reach> reaches =
        [
            new Reach(Product.Pipe, rule.PipeGroove, row.For(coupon.OutsideDiameterMm!.Value), false, false, row.Source, row.Confidence),
        ];
        if (coupon.OutsideDiameterMm > rules.PipePlatesFromMm)
        {
            reaches.Add(new Reach(Product.Plate, rule.PlateGroove, null, false, false, PositionSource(rules), 95));
        }

        return reaches;
    }

    private static List<Reach> FilletReaches(CoveringRules rules, PassedCoupon coupon, PositionRule rule)
    {
        var reaches = new List<Reach>();
        if (coupon.Product != Product.Pipe || coupon.OutsideDiameterMm > rules.PipePlatesFromMm)
        {
            reaches.Add(
                new Reach(coupon.Product == Product.Sheet ? Product.Sheet : Product.Plate, rule.Fillet, null, false, false, PositionSource(rules), 93)
            );
        }

        RangeMm? pipe;
        var (source, confidence) = (PositionSource(rules), 90);
        if (coupon.Weld == WeldKind.Groove && rules.GrooveFilletAnyDiameter)
        {
            pipe = new RangeMm(0, null);
        }
        else if (coupon.Product != Product.Pipe)
        {
            pipe = rules.PlatesFilletPipeFromMm is { } from ? new RangeMm(from, null) : null;
        }
        else
        {
            var row = (coupon.Weld == WeldKind.Fillet ? rules.FilletDiameter : rules.Diameter).First(one => one.Holds(coupon));
            (pipe, source, confidence) = (row.For(coupon.OutsideDiameterMm!.Value), row.Source, row.Confidence);
        }

        if (pipe is not null)
        {
            reaches.Add(new Reach(Product.Pipe, rule.Fillet, pipe, false, false, source, confidence));
        }

        return reaches;
    }

    private static string PositionSource(CoveringRules rules) => Positions.Of(rules.Positions)!.Source;

    // Two coupons alike in all but the position, on the same diameter: what both reach, in the position that they make together.
    private static IEnumerable<QualifiedSet> Pairs(CoveringRules rules, PositionTable table, IReadOnlyList<PassedCoupon> coupons)
    {
        foreach (var pair in rules.Pairs ?? [])
        {
            foreach (var (first, one) in coupons.Index())
            {
                foreach (var (second, other) in coupons.Index())
                {
                    if (
                        Positions.NameIn(table, one.Product, one.Position, one.Progression) == pair.Positions[0]
                        && Positions.NameIn(table, other.Product, other.Position, other.Progression) == pair.Positions[1]
                        && one is { Product: Product.Pipe, Weld: WeldKind.Groove }
                        && one with
                        {
                            Position = "",
                            Progression = Progression.None,
                            Layers = null,
                            ThicknessMm = 0,
                        } == other with { Position = "", Progression = Progression.None, Layers = null, ThicknessMm = 0 }
                    )
                    {
                        var thinner = one.ThicknessMm <= other.ThicknessMm ? one : other;
                        foreach (var set in Of(rules, table, thinner with { Position = pair.Gives }, [first, second]))
                        {
                            yield return set;
                        }
                    }
                }
            }
        }
    }

    private static IEnumerable<QualifiedSet> Multiple(CoveringRules rules, IReadOnlyList<PassedCoupon> coupons)
    {
        if (rules.Multiple is not { } rule)
        {
            yield break;
        }

        bool Counts(PassedCoupon coupon, PipeJoint joint) =>
            coupon is { Multiple: true, Product: Product.Pipe, Weld: WeldKind.Groove, Backing: Backed.None }
            && coupon.Joint == joint
            && IsTested(rules, coupon)
            && coupon.OutsideDiameterMm >= rule.LeastDiameterMm - RangeMm.SlackMm
            && coupon.ThicknessMm >= rule.LeastWallMm - RangeMm.SlackMm;
        foreach (var (first, butt) in coupons.Index().Where(one => Counts(one.Item, PipeJoint.Butt) && one.Item.Position is "5G" or "6G"))
        {
            foreach (var (second, branch) in coupons.Index().Where(one => Counts(one.Item, PipeJoint.Branch)))
            {
                if ((butt.Process, butt.Progression, butt.FillerGroup ?? "") != (branch.Process, branch.Progression, branch.FillerGroup ?? ""))
                {
                    continue;
                }

                var tested = Math.Min(butt.OutsideDiameterMm!.Value, branch.OutsideDiameterMm!.Value);
                var diameter = new RangeMm(0, tested >= rule.AllFromMm - RangeMm.SlackMm ? null : tested);
                var any = new CoverRow(new CoverEnd(), null, rule.Source, rule.Confidence);
                foreach (var weld in (WeldKind[])[WeldKind.Groove, WeldKind.Fillet])
                {
                    yield return new QualifiedSet(
                        [first, second],
                        weld,
                        butt,
                        [new Reach(Product.Pipe, ["F", "H", "V", "OH"], diameter, false, false, rule.Source, rule.Confidence)],
                        new RangeMm(0, null),
                        any,
                        weld == WeldKind.Fillet ? All : [Backed.None],
                        [butt.Process],
                        [PipeJoint.Butt, PipeJoint.Branch]
                    );
                }
            }
        }
    }
}
