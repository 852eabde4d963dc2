namespace Gradus.Core.Qualification;

/// <summary>One end of a range: <c>base + per·x</c>, x the size that was tested, within the least and the most; mm.</summary>
public sealed record CoverEnd(double Base = 0, double Per = 0, double AtLeast = 0, double? AtMost = null)
{
    internal double At(double tested) => Math.Min(Math.Max(AtLeast, Base + (Per * tested)), AtMost ?? double.PositiveInfinity);
}

/// <summary>A range that a coupon of some size qualifies. The first row of a list that holds for a coupon is the one that counts; mm.</summary>
/// <param name="Max">Null for unlimited.</param>
/// <param name="Source">The clause, in short. All are written from memory.</param>
/// <param name="Confidence">How sure the memory is, in per cent.</param>
public sealed record CoverRow(
    CoverEnd Min,
    CoverEnd? Max,
    string Source,
    int Confidence,
    Product? Product = null,
    WeldKind? Weld = null,
    string? Position = null,
    string? Process = null,
    double? ThicknessFromMm = null,
    double? ThicknessToMm = null,
    double? ThicknessBelowMm = null,
    double? DiameterFromMm = null,
    double? DiameterToMm = null,
    double? DiameterBelowMm = null,
    int? LeastLayers = null
)
{
    internal bool Holds(PassedCoupon coupon) =>
        (Product is null || Product == coupon.Product)
        && (Weld is null || Weld == coupon.Weld)
        && (Position is null || Position == coupon.Position)
        && (Process is null || Process == coupon.Process)
        && (ThicknessFromMm is null || coupon.ThicknessMm >= ThicknessFromMm - RangeMm.SlackMm)
        && (ThicknessToMm is null || coupon.ThicknessMm <= ThicknessToMm + RangeMm.SlackMm)
        && (ThicknessBelowMm is null || coupon.ThicknessMm < ThicknessBelowMm - RangeMm.SlackMm)
        && (DiameterFromMm is null || coupon.OutsideDiameterMm >= DiameterFromMm - RangeMm.SlackMm)
        && (DiameterToMm is null || coupon.OutsideDiameterMm <= DiameterToMm + RangeMm.SlackMm)
        && (DiameterBelowMm is null || coupon.OutsideDiameterMm < DiameterBelowMm - RangeMm.SlackMm)
        && (LeastLayers is null || coupon.Layers >= LeastLayers);

    internal RangeMm For(double tested) => new(Min.At(tested), Max?.At(tested));
}

/// <summary>Pipe that a plate coupon reaches.</summary>
/// <param name="FromMm">The least outside diameter.</param>
/// <param name="Column">Which column of the position table holds there: <c>plate</c> or <c>pipe</c>.</param>
/// <param name="Rotated">Only pipe that is turned while it is welded.</param>
/// <param name="Only">Only in these positions; null for all of the column.</param>
public sealed record PlateReach(
    double FromMm,
    string Column,
    bool NeedsBacking,
    string Source,
    int Confidence,
    bool Rotated = false,
    IReadOnlyList<string>? Only = null
);

/// <summary>Two positions on the same diameter that count as a third together.</summary>
public sealed record PositionPair(IReadOnlyList<string> Positions, string Gives);

/// <summary>A butt and a branch that qualify together for nearly all; mm.</summary>
public sealed record MultipleRule(double LeastDiameterMm, double LeastWallMm, double AllFromMm, string Source, int Confidence);

/// <summary>The rules by which one code and edition reads a passed coupon. Written from memory: where it or editions differ, the narrower reading.</summary>
/// <param name="Processes">The processes that a question may name.</param>
/// <param name="FilletDiameter">For a fillet coupon in pipe.</param>
/// <param name="PlatesPipe">Pipe that a plate coupon reaches.</param>
/// <param name="PlatesFilletPipeFromMm">The pipe on which a plate coupon qualifies fillets; null for none.</param>
/// <param name="GrooveFilletAnyDiameter">Whether a groove qualifies fillets on every diameter.</param>
/// <param name="GroovesFillets">Whether a groove qualifies fillets at all.</param>
/// <param name="PipePlatesFromMm">The pipe coupon from which plate is qualified as well; null for none.</param>
/// <param name="Backing">By the backing of the coupon what it covers.</param>
/// <param name="Fillers">By process (or <c>*</c>) and F-number what it covers; with <c>b</c> and <c>o</c> where the code tells backed from open. Empty where the code goes by filler group.</param>
/// <param name="FillerSets">F-numbers of which each covers all of its set.</param>
/// <param name="Groups">By filler group of the coupon what it covers; one that is not named covers itself.</param>
/// <param name="Coverings">By covering of the electrode what it covers.</param>
/// <param name="PGroups">Base metals by P-number of which each covers all of its group; empty when the metal is no variable.</param>
/// <param name="GasNeeds">P-numbers for which a coupon with gas does not cover without.</param>
/// <param name="NoFilm">Processes that are not qualified by film alone.</param>
public sealed record CoveringRules(
    string Code,
    string Edition,
    string Positions,
    IReadOnlyList<string> Processes,
    IReadOnlyList<CoverRow> Thickness,
    IReadOnlyList<CoverRow> Diameter,
    IReadOnlyList<CoverRow> FilletDiameter,
    IReadOnlyList<PlateReach> PlatesPipe,
    double? PlatesFilletPipeFromMm,
    bool GrooveFilletAnyDiameter,
    bool GroovesFillets,
    double? PipePlatesFromMm,
    IReadOnlyDictionary<Backed, IReadOnlyList<Backed>> Backing,
    string BackingSource,
    int BackingConfidence,
    IReadOnlyDictionary<string, IReadOnlyDictionary<string, IReadOnlyList<string>>> Fillers,
    string FillerSource,
    int FillerConfidence,
    IReadOnlyDictionary<string, IReadOnlyList<string>> ProcessCovers,
    string ProcessSource,
    int ProcessConfidence,
    IReadOnlyList<IReadOnlyList<int>> PGroups,
    string MetalSource,
    int MetalConfidence,
    IReadOnlyList<string> NoFilm,
    string FilmSource,
    int FilmConfidence,
    int LapseMonths,
    string LapseSource,
    int LapseConfidence,
    IReadOnlyList<string>? NotPositions = null,
    IReadOnlyList<IReadOnlyList<int>>? FillerSets = null,
    IReadOnlyDictionary<string, IReadOnlyList<string>>? Groups = null,
    string? GroupSource = null,
    int GroupConfidence = 0,
    IReadOnlyDictionary<string, IReadOnlyList<string>>? Coverings = null,
    string? CoveringSource = null,
    int CoveringConfidence = 0,
    IReadOnlyList<int>? GasNeeds = null,
    IReadOnlyList<int>? NoFilmMetals = null,
    string? NoFilmMetalsBut = null,
    MultipleRule? Multiple = null,
    IReadOnlyList<PositionPair>? Pairs = null,
    string? PairSource = null,
    int PairConfidence = 0
)
{
    /// <summary>The rules of every code.</summary>
    public static IReadOnlyDictionary<string, CoveringRules> ByCode { get; } =
        CoreJson.ReadEmbedded<IReadOnlyList<CoveringRules>>("Qualification/covering.json").ToDictionary(rules => rules.Code, StringComparer.Ordinal);

    /// <summary>The clauses by which a passed test qualifies what it does, variable by variable, each with how sure the memory of it is.</summary>
    public IReadOnlyList<Clause> ClausesOf(PassedTest test)
    {
        var coupon = test.Coupon;
        var table = Qualification.Positions.Of(Positions)!;
        var thickness = Thickness.FirstOrDefault(row => row.Holds(coupon));
        var diameter = (test.Weld == WeldKind.Fillet && FilletDiameter.Count > 0 ? FilletDiameter : Diameter).FirstOrDefault(row =>
            row.Holds(coupon)
        );
        var reach = test.OutsideDiameterMm is null ? PlatesPipe.FirstOrDefault(one => !one.Rotated) : null;
        List<Clause?> all =
        [
            new("position", table.Source, null),
            thickness is null ? null : new("thicknessMm", thickness.Source, thickness.Confidence),
            test.OutsideDiameterMm is null
                ? reach is null
                    ? null
                    : new("outsideDiameterMm", reach.Source, reach.Confidence)
                : diameter is null
                    ? null
                    : new("outsideDiameterMm", diameter.Source, diameter.Confidence),
            test.Weld == WeldKind.Groove ? new("backing", BackingSource, BackingConfidence) : null,
            new("fNumber", FillerSource, FillerConfidence),
            GroupSource is null ? null : new("fillerGroup", GroupSource, GroupConfidence),
            new("process", ProcessSource, ProcessConfidence),
        ];
        return [.. all.OfType<Clause>()];
    }
}

/// <summary>Where a code says what it does of a variable.</summary>
/// <param name="Confidence">How sure the memory of it is, in percent; null where the table says it row by row.</param>
public sealed record Clause(string Variable, string Source, int? Confidence);

/// <summary>What lies behind the root of a groove.</summary>
public enum Backed
{
    /// <summary>Open: nothing behind it.</summary>
    None,

    /// <summary>A shielding gas.</summary>
    Gas,

    /// <summary>A consumable insert.</summary>
    Insert,

    /// <summary>Steel or other solid backing.</summary>
    Steel,

    /// <summary>Welded from both sides, the back gouged.</summary>
    BackWelded,
}

/// <summary>A coupon that was passed, by the variables that a code goes by; one record for each process and filler of it. Lengths in mm.</summary>
/// <param name="ThicknessMm">Of the plate or wall; for ASME IX and ISO 9606-1 of the deposit of this process.</param>
/// <param name="OutsideDiameterMm">Of the pipe; null for plate.</param>
/// <param name="FNumber">By ASME IX QW-432; null when the code has none.</param>
/// <param name="PNumber">Base metal; null is plain steel, P-1.</param>
/// <param name="FillerGroup">API 1104: 1 to 9; ISO 9606-1: FM1 to FM6; null when it is not known.</param>
/// <param name="Covering">ISO 9606-1, of an electrode: A, B, C, R, RA, RB, RC, RR.</param>
/// <param name="ByFilm">Tested by film and not by bends.</param>
/// <param name="MonthsUnused">Months since the process was used last; null for in use.</param>
/// <param name="Multiple">API 1104: part of a multiple qualification.</param>
public sealed record PassedCoupon(
    Product Product,
    WeldKind Weld,
    string Position,
    double ThicknessMm,
    double? OutsideDiameterMm,
    Backed Backing,
    string Process,
    int? FNumber,
    Progression Progression,
    int? Layers = null,
    int? PNumber = null,
    string? FillerGroup = null,
    string? Covering = null,
    bool ByFilm = false,
    int? MonthsUnused = null,
    bool Multiple = false,
    PipeJoint Joint = PipeJoint.Butt
);

/// <summary>A weld that is asked for. What is null among the first nine must be covered at every value; what is null of the rest is not asked. Lengths in mm.</summary>
/// <param name="Position">F, H, V, OH; by ISO 6947 for ISO 9606-1.</param>
/// <param name="Progression">Only asked where the position climbs; null there means both.</param>
/// <param name="Rotated">The pipe is turned while it is welded.</param>
public sealed record AskedWeld(
    Product? Product,
    WeldKind? Weld,
    string? Position,
    double? ThicknessMm,
    double? OutsideDiameterMm,
    Backed? Backing,
    string? Process,
    int? FNumber,
    Progression? Progression,
    int? PNumber = null,
    string? FillerGroup = null,
    string? Covering = null,
    PipeJoint Joint = PipeJoint.Butt,
    bool Rotated = false,
    int? Layers = null
);
