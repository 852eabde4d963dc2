using Gradus.Core.Qualification;

namespace Gradus.Core.Certification;

/// <summary>Reads what stands on a record, without the rules that made it.</summary>
public static class RecordReading
{
    /// <summary>Whether a weld of which everything is said lies within a set; a question that leaves one of the first nine variables open does not.</summary>
    public static bool Holds(CoveredVariables set, AskedWeld weld)
    {
        var isGroove = weld.Weld == WeldKind.Groove;
        var isBacked = weld.Backing is Backed.Steel or Backed.BackWelded;
        return set.Weld == weld.Weld
            && weld.Process is { } process
            && set.Processes.Contains(process)
            && weld.ThicknessMm is { } thickness
            && set.ThicknessMm.Holds(thickness)
            && set.Reaches.Any(reach => Holds(reach, weld, isGroove && !isBacked))
            && (!isGroove || (weld.Backing is { } backing && set.Backings!.Contains(backing)))
            && !(isGroove && isBacked && set.NotBackedPNumbers?.Contains(weld.PNumber ?? 1) == true)
            && Allows(isGroove && !isBacked ? set.FNumbersOpen : set.FNumbersBacked, weld.FNumber)
            && (weld.Progression is null or Progression.None || set.Progressions.Contains(weld.Progression.Value))
            && Allows(set.PNumbers, weld.PNumber)
            && (set.FillerGroups is not { } groups || weld.FillerGroup is not { } group || groups.Contains(group))
            && HoldsCovering(set, weld, isGroove && weld.Backing == Backed.None)
            && (set.Joints is not { } joints || joints.Contains(weld.Joint))
            && !(set.SingleLayerOnly && weld.Layers > 1);
    }

    private static bool Holds(CoveredReach reach, AskedWeld weld, bool isOpen) =>
        reach.Product == weld.Product
        && weld.Position is { } position
        && reach.Positions.Contains(position)
        && (!reach.Rotated || weld.Rotated)
        && (!reach.NeedsBacking || !isOpen)
        && (reach.DiameterMm is not { } range || (weld.OutsideDiameterMm is { } diameter && range.Holds(diameter)));

    private static bool HoldsCovering(CoveredVariables set, AskedWeld weld, bool isOpen) =>
        weld.Covering is not { } covering || (isOpen ? set.CoveringsOpen : set.Coverings) is not { } covers || covers.Contains(covering);

    private static bool Allows(IReadOnlyList<int>? numbers, int? number) => numbers is null || number is null || numbers.Contains(number.Value);
}
