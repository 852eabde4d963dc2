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
    int? Layers,
    PipeJoint Joint = PipeJoint.Butt
)
{
    /// <summary>The same as a coupon: backing is steel, and the metal plain.</summary>
    internal PassedCoupon Coupon =>
        new(
            Product,
            Weld,
            Position,
            ThicknessMm,
            OutsideDiameterMm,
            Backing ? Backed.Steel : Backed.None,
            Process,
            FNumber,
            Progression,
            Layers,
            Joint: Joint
        );
}

/// <summary>How long a qualification holds.</summary>
/// <param name="Months">It ends when the process was not used for this long.</param>
/// <param name="RenewalYears">The routes of renewal, in years; empty when none is asked for.</param>
/// <param name="Confidence">How sure it is, in percent.</param>
/// <param name="Renewals">By which routes it is kept or won back.</param>
public sealed record ContinuityRule(
    int Months,
    IReadOnlyList<int> RenewalYears,
    string Rule,
    string Source,
    bool FromMemory,
    int Confidence,
    IReadOnlyList<RenewalRoute> Renewals
);

/// <summary>A route by which a qualification is kept or won back.</summary>
/// <param name="Id">The clause, or <c>lapsed</c> for one that has ended.</param>
/// <param name="Years">How long it holds by this route; null without an end.</param>
/// <param name="Coupons">New coupons that it takes.</param>
public sealed record RenewalRoute(string Id, int? Years, int Coupons, string Rule);

/// <summary>What follows a failed test.</summary>
/// <param name="ImmediateCoupons">Coupons for each that failed when it is repeated at once; all must pass.</param>
/// <param name="AfterTrainingCoupons">Coupons after further training.</param>
/// <param name="Confidence">How sure it is, in percent.</param>
/// <param name="ImmediateNeeds">What must be shown before it is repeated at once; null for nothing.</param>
public sealed record RetestRule(
    int ImmediateCoupons,
    int AfterTrainingCoupons,
    string Rule,
    string Source,
    bool FromMemory,
    int Confidence,
    string? ImmediateNeeds = null
);

/// <summary>What a code rules beside what a test covers.</summary>
/// <param name="LeastThicknessMm">The thinnest test piece of the code.</param>
/// <param name="ThicknessIs">Which thickness the code goes by.</param>
/// <param name="Metals">The metals that the code is for.</param>
/// <param name="Products">What it takes test pieces of.</param>
/// <param name="Joints">The joints of pipe that it takes.</param>
public sealed record CodeRules(
    string Code,
    ContinuityRule Continuity,
    RetestRule Retest,
    string ThicknessIs,
    double LeastThicknessMm,
    IReadOnlyList<BaseMetal> Metals,
    IReadOnlyList<Product> Products,
    IReadOnlyList<PipeJoint> Joints
);

/// <summary>The ranges of thickness, diameter and filler that one test qualifies, by code. Written from memory; check against your edition.</summary>
public static class Ranges
{
    /// <summary>The rules of every code.</summary>
    public static IReadOnlyDictionary<string, CodeRules> ByCode { get; } =
        CoreJson.ReadEmbedded<IReadOnlyList<CodeRules>>("Qualification/ranges.json").ToDictionary(rules => rules.Code, StringComparer.Ordinal);

    /// <summary>True when a code tests at this thickness: AWS D1.1 begins at 1/8 in.</summary>
    public static bool Tested(string code, PassedTest test) => test.ThicknessMm >= ByCode[code].LeastThicknessMm - RangeMm.SlackMm;

    /// <summary>The thickness that a test qualifies.</summary>
    public static RangeMm Thickness(string code, PassedTest test) =>
        CoveringRules.ByCode[code].Thickness.First(rule => rule.Holds(test.Coupon)).For(test.ThicknessMm);

    /// <summary>The outside diameter of pipe that a test qualifies; a plate test qualifies large pipe.</summary>
    public static RangeMm Diameter(string code, PassedTest test) =>
        test.OutsideDiameterMm is { } outside
            ? CoveringRules.ByCode[code].Diameter.First(rule => rule.Holds(test.Coupon)).For(outside)
            : new RangeMm(CoveringRules.ByCode[code].PlatesPipe.Where(reach => !reach.Rotated).Min(reach => reach.FromMm), null);
}
