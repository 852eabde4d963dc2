using Gradus.Core.Library;
using Gradus.Core.Measure;
using Gradus.Core.Welding;

namespace Gradus.Core.Qualification;

/// <summary>From one length to another, in mm; no upper end means unlimited.</summary>
public sealed record RangeMm(double Min, double? Max)
{
    /// <summary>What lies in both; null when nothing does.</summary>
    public RangeMm? And(RangeMm other)
    {
        var min = Math.Max(Min, other.Min);
        double? max =
            Max is null ? other.Max
            : other.Max is null ? Max
            : Math.Min(Max.Value, other.Max.Value);
        return max < min ? null : new RangeMm(min, max);
    }
}

/// <summary>A passed test by its essential variables. Lengths in mm.</summary>
/// <param name="ThicknessMm">Of the plate, the wall or (ASME IX) the deposit.</param>
/// <param name="OutsideDiameterMm">Of the pipe; null for plate.</param>
/// <param name="Layers">Layers of the deposit; needed by ASME IX from 1/2 in up.</param>
public sealed record PassedTest(
    Product Product,
    WeldKind Weld,
    string Position,
    double ThicknessMm,
    double? OutsideDiameterMm,
    bool Backing,
    string Process,
    int FNumber,
    Progression Progression,
    int? Layers
);

/// <summary>The ranges of thickness, diameter and filler that one test qualifies, by code. Written from memory; check against your edition.</summary>
public static class Ranges
{
    private const double Inch = Length.MmPerInch;

    /// <summary>AWS D1.1 plate: 1/8 in to 2T, unlimited from 1 in up; pipe by size. ASME QW-452.1(b): 2t, or unlimited. ISO 9606-1: by s.</summary>
    public static RangeMm Thickness(string code, PassedTest test) =>
        code switch
        {
            "asme-ix" => new RangeMm(0, test.ThicknessMm >= Inch / 2 && test.Layers >= 3 ? null : 2 * test.ThicknessMm),
            "iso-9606-1" => test.ThicknessMm switch
            {
                < 3 => new RangeMm(test.ThicknessMm, Math.Max(3, 2 * test.ThicknessMm)),
                < 12 => new RangeMm(3, 2 * test.ThicknessMm),
                _ => new RangeMm(3, null),
            },
            _ when test.Product == Product.Pipe => test.OutsideDiameterMm <= 4 * Inch ? new RangeMm(Inch / 8, Inch * 3 / 4)
            : test.ThicknessMm >= Inch / 2 ? new RangeMm(Inch * 3 / 16, null)
            : new RangeMm(Inch / 8, 2 * test.ThicknessMm),
            _ => new RangeMm(Inch / 8, test.ThicknessMm >= Inch ? null : 2 * test.ThicknessMm),
        };

    /// <summary>ASME QW-452.3; ISO 9606-1; AWS D1.1 by the nominal sizes NPS 3/4, 4 and, from plate, 24.</summary>
    public static RangeMm Diameter(string code, PassedTest test) =>
        (code, test.OutsideDiameterMm) switch
        {
            ("asme-ix", < Inch) => new RangeMm(test.OutsideDiameterMm.Value, null),
            ("asme-ix", < 2.875 * Inch) => new RangeMm(Inch, null),
            ("asme-ix", _) => new RangeMm(2.875 * Inch, null),
            ("iso-9606-1", null) => new RangeMm(500, null),
            ("iso-9606-1", <= 25) => new RangeMm(test.OutsideDiameterMm.Value, 2 * test.OutsideDiameterMm.Value),
            ("iso-9606-1", _) => new RangeMm(Math.Max(25, test.OutsideDiameterMm.Value / 2), null),
            (_, null) => new RangeMm(24 * Inch, null),
            (_, <= 4 * Inch) => new RangeMm(1.050 * Inch, 4.5 * Inch),
            _ => new RangeMm(4.5 * Inch, null),
        };

    /// <summary>QW-433 and the D1.1 groups: F4 covers F1 to F4 and so down, F5 and up only themselves; ISO 9606-1 goes by itself here.</summary>
    public static IReadOnlyList<int> FNumbers(string code, PassedTest test) =>
        code != "iso-9606-1" && test.FNumber is >= 1 and <= 4 ? [.. Enumerable.Range(1, test.FNumber)] : [test.FNumber];
}
