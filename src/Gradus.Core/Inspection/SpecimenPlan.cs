using System.Globalization;

namespace Gradus.Core.Inspection;

/// <summary>A coupon that specimens are cut from. Lengths in mm.</summary>
/// <param name="Position">By AWS A3.0.</param>
/// <param name="ThicknessMm">Of the plate or the wall; a code that goes by the weld metal takes all of it together.</param>
/// <param name="OutsideDiameterMm">Of pipe; null for plate.</param>
/// <param name="LengthMm">Length of the joint on plate; null for pipe.</param>
public sealed record CutCoupon(
    Product Product,
    WeldKind Weld,
    string Position,
    double ThicknessMm,
    double? OutsideDiameterMm = null,
    double? LengthMm = null,
    PipeJoint Joint = PipeJoint.Butt
);

/// <summary>What a code cuts from a coupon.</summary>
/// <param name="Specimens">The specimens with their places: along a plate from its start, round a pipe by the clock.</param>
/// <param name="Instead">Kinds that may be cut in their place, in the same number of places; null for none.</param>
/// <param name="WidthMm">Width of a strip, or length of weld that is broken; null where the code goes by the part.</param>
/// <param name="LeastLengthMm">The least length of joint on plate; null where the code says none here.</param>
/// <param name="Fits">False when the coupon is shorter than that, or too short for its specimens.</param>
/// <param name="Confidence">How sure it is, in percent: all of it is from memory.</param>
public sealed record SpecimenPlan(
    IReadOnlyList<Specimen> Specimens,
    IReadOnlyList<string>? Instead,
    double? WidthMm,
    double? LeastLengthMm,
    bool Fits,
    string? Note,
    string Source,
    int Confidence
)
{
    private static readonly Table Data = CoreJson.ReadEmbedded<Table>("Inspection/specimens.json");

    /// <summary>So much at each end of a plate is left out, where nothing else is said.</summary>
    private const double EndMm = 12.7;

    /// <summary>A section is sawn out in this width.</summary>
    private const double MacroMm = 6.35;

    /// <summary>Width of a strip where the code goes by the part: 1 1/2 in, common practice.</summary>
    private const double StripMm = 38.1;

    /// <summary>Every row of the table, for whoever lists it.</summary>
    public static IReadOnlyList<SpecimenRow> Rows => Data.Rows;

    /// <summary>The codes that the table has.</summary>
    public static IReadOnlyList<string> Codes { get; } = [.. Data.Rows.Select(row => row.Code).Distinct()];

    /// <summary>What a code cuts from a coupon; null when it takes no such coupon (API 1104 takes pipe alone, AWS D1.3 sheet).</summary>
    public static SpecimenPlan? Of(string code, CutCoupon coupon)
    {
        if (Data.Rows.FirstOrDefault(row => row.Code == code && row.Holds(coupon)) is not { } row)
        {
            return null;
        }

        var least = coupon.Product == Product.Pipe ? null : row.LeastLengthMm;
        var placed =
            coupon.Product == Product.Pipe ? Round(row.Specimens) : Along(row, coupon.LengthMm ?? row.LeastLengthMm ?? double.PositiveInfinity);
        var fits =
            coupon.LengthMm is not { } length
            || (length + 1e-6 >= (least ?? 0) && placed.All(one => !(one.FromMm < -1e-6) && !(one.ToMm > length + 1e-6)));
        return new SpecimenPlan(placed, row.Or, row.WidthMm, least, fits, row.Note, row.Source, row.Confidence);
    }

    /// <summary>Evenly round the pipe, off the start at twelve by half a step; two stand at three and nine.</summary>
    private static List<Specimen> Round(IReadOnlyList<string> kinds)
    {
        var step = 12.0 / kinds.Count;
        return [.. kinds.Select((kind, index) => new Specimen(kind, null, null, kinds.Count == 1 ? "12:00" : Clock((index + 0.5) * step)))];
    }

    private static string Clock(double hours)
    {
        var minutes = (int)Math.Round(hours * 60);
        var hour = minutes / 60 % 12;
        return string.Create(CultureInfo.InvariantCulture, $"{(hour == 0 ? 12 : hour)}:{minutes % 60:00}");
    }

    /// <summary>Side by side about the middle of the plate; a fillet is broken from near its start, and a section stands beyond the break.</summary>
    private static List<Specimen> Along(SpecimenRow row, double lengthMm)
    {
        if (row.Weld is WeldKind.Plug or WeldKind.Tack)
        {
            // The whole of it is broken; a plug is sawn through its middle.
            return [.. row.Specimens.Select(kind => new Specimen(kind, 0, double.IsFinite(lengthMm) ? lengthMm : row.WidthMm ?? MacroMm, null))];
        }

        if (row.Weld == WeldKind.Fillet)
        {
            var at = EndMm;
            var cut = new List<Specimen>();
            foreach (var kind in row.Specimens)
            {
                var wide = kind == "macro" ? MacroMm : row.WidthMm ?? MacroMm;
                cut.Add(new Specimen(kind, at, at + wide, null));
                at += wide + EndMm;
            }

            return cut;
        }

        var width = row.WidthMm ?? StripMm;
        var from = ((double.IsFinite(lengthMm) ? lengthMm : row.Specimens.Count * width) - (row.Specimens.Count * width)) / 2;
        return [.. row.Specimens.Select((kind, index) => new Specimen(kind, from + (index * width), from + ((index + 1) * width), null))];
    }

    private sealed record Table(IReadOnlyList<SpecimenRow> Rows);
}

/// <summary>What a code cuts from coupons of one sort; the first row that holds counts. Lengths in mm; null means any.</summary>
/// <param name="ThicknessToMm">Up to this thickness, itself included...</param>
/// <param name="ThicknessBelowMm">...or below it.</param>
/// <param name="Or">Kinds that may be cut instead.</param>
/// <param name="WidthMm">Width of a strip, or length of weld that is broken.</param>
public sealed record SpecimenRow(
    string Code,
    WeldKind Weld,
    IReadOnlyList<string> Specimens,
    double? WidthMm,
    string Source,
    int Confidence,
    Product? Product = null,
    IReadOnlyList<string>? Positions = null,
    double? ThicknessFromMm = null,
    double? ThicknessBelowMm = null,
    double? ThicknessToMm = null,
    double? DiameterToMm = null,
    IReadOnlyList<string>? Or = null,
    string? Note = null,
    double? LeastLengthMm = null,
    PipeJoint Joint = PipeJoint.Butt
)
{
    // What an inch fraction loses on the way to mm is no other thickness.
    private const double Rounding = 1e-6;

    internal bool Holds(CutCoupon coupon) =>
        Weld == coupon.Weld
        && (Product is null ? coupon.Product != Vocabulary.Product.Sheet : Product == coupon.Product)
        && Joint == coupon.Joint
        && (Positions is null || Positions.Contains(coupon.Position))
        && !(coupon.ThicknessMm < ThicknessFromMm - Rounding)
        && !(coupon.ThicknessMm > ThicknessBelowMm - Rounding)
        && !(coupon.ThicknessMm > ThicknessToMm + Rounding)
        && !(coupon.OutsideDiameterMm > DiameterToMm);
}
