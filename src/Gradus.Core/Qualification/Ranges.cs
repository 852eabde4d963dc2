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

    /// <summary>True when a length lies in it; a hair over an end, as unit conversion leaves it, still does.</summary>
    public bool Holds(double mm) => mm >= Min - SlackMm && (Max is null || mm <= Max + SlackMm);

    internal const double SlackMm = 1e-6;
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

/// <summary>One end of a range: <c>base + per·x</c>, x the size that was tested, and never under <c>atLeast</c>; mm.</summary>
public sealed record RangeEnd(double Base = 0, double Per = 0, double AtLeast = 0)
{
    internal double At(double tested) => Math.Max(AtLeast, Base + (Per * tested));
}

/// <summary>A range that a test of some size qualifies. The first rule of a list that holds for a test is the one that counts.</summary>
/// <param name="Max">Null for unlimited.</param>
public sealed record RangeRule(
    RangeEnd Min,
    RangeEnd? Max,
    string Source,
    bool FromMemory,
    Product? Product = null,
    WeldKind? Weld = null,
    double? ThicknessFromMm = null,
    double? ThicknessBelowMm = null,
    double? DiameterToMm = null,
    double? DiameterBelowMm = null,
    int? LeastLayers = null
)
{
    // A size converted from inches may miss a boundary by a hair.
    private const double SlackMm = 1e-6;

    internal bool Holds(PassedTest test) =>
        (Product is null || Product == test.Product)
        && (Weld is null || Weld == test.Weld)
        && (ThicknessFromMm is null || test.ThicknessMm >= ThicknessFromMm - SlackMm)
        && (ThicknessBelowMm is null || test.ThicknessMm < ThicknessBelowMm - SlackMm)
        && (DiameterToMm is null || test.OutsideDiameterMm <= DiameterToMm + SlackMm)
        && (DiameterBelowMm is null || test.OutsideDiameterMm < DiameterBelowMm - SlackMm)
        && (LeastLayers is null || test.Layers >= LeastLayers);

    internal RangeMm For(double tested) => new(Min.At(tested), Max?.At(tested));
}

/// <summary>How long a qualification holds.</summary>
/// <param name="Months">It ends when the process was not used for this long.</param>
/// <param name="RenewalYears">The routes of renewal, in years; empty when none is asked for.</param>
public sealed record ContinuityRule(int Months, IReadOnlyList<int> RenewalYears, string Rule, string Source, bool FromMemory);

/// <summary>What follows a failed test.</summary>
/// <param name="ImmediateCoupons">Coupons for each that failed when it is repeated at once; all must pass.</param>
/// <param name="AfterTrainingCoupons">Coupons after further training.</param>
public sealed record RetestRule(int ImmediateCoupons, int AfterTrainingCoupons, string Rule, string Source, bool FromMemory);

/// <summary>The ranges and rules of a code beside its table of positions.</summary>
/// <param name="FillersCoverDownTo">The F-numbers of which each covers those below it as well; any other covers only itself.</param>
/// <param name="LeastThicknessMm">The thinnest test piece of the code.</param>
/// <param name="ThicknessIs">Which thickness the code goes by.</param>
public sealed record CodeRules(
    string Code,
    IReadOnlyList<RangeRule> Thickness,
    IReadOnlyList<RangeRule> Diameter,
    IReadOnlyList<int> FillersCoverDownTo,
    string FillerSource,
    string Process,
    ContinuityRule Continuity,
    RetestRule Retest,
    string ThicknessIs,
    double LeastThicknessMm
);

/// <summary>The ranges of thickness, diameter and filler that one test qualifies, by code. Written from memory; check against your edition.</summary>
public static class Ranges
{
    /// <summary>The rules of every code.</summary>
    public static IReadOnlyDictionary<string, CodeRules> ByCode { get; } =
        CoreJson.ReadEmbedded<IReadOnlyList<CodeRules>>("Qualification/ranges.json").ToDictionary(rules => rules.Code, StringComparer.Ordinal);

    /// <summary>True when a code tests at this thickness: AWS D1.1 begins at 1/8 in.</summary>
    public static bool Tested(string code, PassedTest test) => test.ThicknessMm >= ByCode[code].LeastThicknessMm - 1e-9;

    /// <summary>The thickness that a test qualifies.</summary>
    public static RangeMm Thickness(string code, PassedTest test) => ByCode[code].Thickness.First(rule => rule.Holds(test)).For(test.ThicknessMm);

    /// <summary>The outside diameter that a test qualifies; a plate test qualifies large pipe.</summary>
    public static RangeMm Diameter(string code, PassedTest test) =>
        ByCode[code].Diameter.First(rule => rule.Holds(test)).For(test.OutsideDiameterMm ?? 0);

    /// <summary>The F-numbers that a test qualifies.</summary>
    public static IReadOnlyList<int> FNumbers(string code, PassedTest test) =>
        ByCode[code].FillersCoverDownTo.Contains(test.FNumber)
            ? [.. ByCode[code].FillersCoverDownTo.Where(number => number <= test.FNumber)]
            : [test.FNumber];
}
