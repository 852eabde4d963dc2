namespace Gradus.Core.Qualification;

/// <summary>Where a qualification reaches.</summary>
/// <param name="DiameterMm">Outside diameters of pipe; null for plate.</param>
/// <param name="NeedsBacking">Only with backing or a gouged back.</param>
/// <param name="Rotated">Only on pipe that is turned.</param>
public sealed record CoveredReach(Product Product, IReadOnlyList<string> Positions, RangeMm? DiameterMm, bool NeedsBacking, bool Rotated);

/// <summary>
/// What one set qualifies, every variable spelled out, so that it can be read without the rules that made it: a weld is covered when all of its
/// variables lie within. Null where the code does not go by a variable.
/// </summary>
/// <param name="ThicknessMm">Of the metal or of the deposit, as the code goes.</param>
/// <param name="Backings">What may lie behind the root of a groove; null for fillets.</param>
/// <param name="FNumbersBacked">Of welds with backing or a gouged back, and of fillets...</param>
/// <param name="FNumbersOpen">...and of welds without.</param>
/// <param name="Progressions">Of welds that climb; empty when it was tested in no position that does.</param>
/// <param name="NotBackedPNumbers">Base metals for which the gas may not be left out for backing.</param>
/// <param name="CoveringsOpen">Of grooves without any backing.</param>
/// <param name="SingleLayerOnly">True when it was laid in one layer and covers one layer.</param>
public sealed record CoveredVariables(
    WeldKind Weld,
    IReadOnlyList<CoveredReach> Reaches,
    RangeMm ThicknessMm,
    IReadOnlyList<string> Processes,
    IReadOnlyList<Backed>? Backings,
    IReadOnlyList<int>? FNumbersBacked,
    IReadOnlyList<int>? FNumbersOpen,
    IReadOnlyList<Progression> Progressions,
    IReadOnlyList<int>? PNumbers,
    IReadOnlyList<int>? NotBackedPNumbers,
    IReadOnlyList<string>? FillerGroups,
    IReadOnlyList<string>? Coverings,
    IReadOnlyList<string>? CoveringsOpen,
    IReadOnlyList<PipeJoint>? Joints,
    bool SingleLayerOnly
);

public static partial class Covering
{
    private static readonly int[] ApiNumbers = [3, 4];

    /// <summary>Spells out what a set of <see cref="Sets"/> qualifies.</summary>
    public static CoveredVariables Variables(CoveringRules rules, QualifiedSet set)
    {
        var coupon = set.Coupon;
        var isGroove = set.Weld == WeldKind.Groove;
        var goesByNumber = TableOf(rules, coupon.Process) is not null;
        var tested = coupon.PNumber ?? (rules.PGroups.Count > 0 ? rules.PGroups[0][0] : 1);
        var group = GroupOf(rules, coupon.FillerGroup, coupon.Process, coupon.FNumber);
        IReadOnlyList<string>? groups =
            rules.Groups is not { } table ? null
            : group is null ? []
            : table.GetValueOrDefault(group, [group]);
        var isByCovering = rules.Coverings is not null && coupon.Process == "SMAW";

        // API 1104 groups electrodes by classification; those with F-numbers 3 and 4 are told by them as well.
        IReadOnlyList<int>? byGroup =
            rules.Multiple is null || coupon.Process != "SMAW"
                ? null
                : [.. ApiNumbers.Where(number => groups!.Contains(GroupOf(rules, null, coupon.Process, number)))];
        return new CoveredVariables(
            set.Weld,
            [
                .. set
                    .Reaches.Where(reach => reach.Positions.Count > 0)
                    .Select(reach => new CoveredReach(
                        reach.Product,
                        [.. Positions.Sorted(reach.Positions)],
                        reach.DiameterMm,
                        reach.NeedsBacking && isGroove,
                        reach.Rotated
                    )),
            ],
            set.ThicknessMm,
            set.Processes,
            isGroove ? set.Backings : null,
            goesByNumber ? FNumbersOf(rules, set, backed: true) : byGroup,
            !isGroove ? null
                : goesByNumber ? FNumbersOf(rules, set, backed: false)
                : byGroup,
            coupon.Progression == Progression.None ? [] : [coupon.Progression],
            rules.PGroups.Count == 0 ? null : rules.PGroups.FirstOrDefault(one => one.Contains(tested)) ?? [tested],
            isGroove && coupon.Backing is Backed.Gas or Backed.Insert ? rules.GasNeeds : null,
            groups,
            !isByCovering ? null
                : coupon.Covering is { } covering ? rules.Coverings!.GetValueOrDefault(covering, [covering])
                : [],
            !isByCovering || !isGroove ? null
                : coupon.Covering is { } own ? [own]
                : [],
            set.Joints,
            rules.Coverings is not null && !isGroove && coupon.Layers == 1
        );
    }
}
