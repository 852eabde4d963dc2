namespace Gradus.Core.Inspection;

/// <summary>A kind of discontinuity, by its standard name (AWS A3.0, ISO 6520-1).</summary>
public enum DiscontinuityKind
{
    Crack,
    CraterCrack,
    Porosity,
    Wormholes,
    SlagInclusion,
    TungstenInclusion,
    IncompleteFusion,
    IncompleteJointPenetration,
    Undercut,
    ExcessFaceReinforcement,
    ExcessPenetration,
    Overlap,
    BurnThrough,
    Underfill,
    RootConcavity,
    PoorRestart,
    Misalignment,
    Spatter,
    ArcStrike,
    OxidisedRoot,
    UnmeltedWire,
    GrindGouge,
}

/// <summary>How a finding lies in the weld.</summary>
public enum FindingShape
{
    /// <summary>A single spot.</summary>
    Point,
    Cluster,
    Scatter,
    CentreLine,
    OneWall,
    UpperToe,
    LowerToe,
    BothToes,
    AtStart,
    AtStop,
    AtTack,
    Whole,
}

/// <summary>What can be measured of a discontinuity. Lengths in mm.</summary>
public enum FindingMeasure
{
    DepthMm,
    HeightMm,
    LengthMm,
    DiameterMm,
    WidthMm,
    Count,

    // What is measured of the weld and not of a finding.
    LegAMm,
    LegBMm,
    LegAskedMm,
    LegDifferenceMm,
    ThroatMm,
    ThroatAskedMm,
    ConvexityMm,
    FaceWidthMm,
    FaceHeightThereMm,
    AtMm,
    WeldLengthMm,
}

/// <summary>A kind of discontinuity as the catalogue has it.</summary>
/// <param name="Name">The standard name, in words.</param>
/// <param name="ShopName">What the shop calls it, when that differs.</param>
/// <param name="Iso6520">Reference number of ISO 6520-1; null when the standard has none.</param>
/// <param name="Stages">The stages in which it shows.</param>
/// <param name="Hidden">True when it usually lies inside and only a bend, break, macro or radiograph finds it.</param>
/// <param name="Measures">The measures that size it, the deciding one first.</param>
/// <param name="Usual">The stages in which it is among the commonest, common practice; null for none.</param>
public sealed record Discontinuity(
    DiscontinuityKind Kind,
    string Name,
    string? ShopName,
    string? Iso6520,
    IReadOnlyList<Stage> Stages,
    bool Hidden,
    IReadOnlyList<FindingMeasure> Measures,
    IReadOnlyList<Stage>? Usual = null
);

/// <summary>The catalogue of discontinuities.</summary>
public static class Discontinuities
{
    private static readonly Catalogue Data = CoreJson.ReadEmbedded<Catalogue>("Inspection/discontinuities.json");

    /// <summary>Where the names and numbers come from.</summary>
    public static string Source => Data.Source;

    /// <summary>Every kind, in the order of the catalogue.</summary>
    public static IReadOnlyList<Discontinuity> All => Data.Kinds;

    /// <summary>The entry of a kind.</summary>
    public static Discontinuity Of(DiscontinuityKind kind) => Data.Kinds.Single(entry => entry.Kind == kind);

    /// <summary>
    /// The kinds of a stage, commonest first: by what a school found, and by common practice until it has found enough. What is usual counts as
    /// <see cref="UsualCounts"/> findings beforehand; kinds that come out alike keep the order of the catalogue.
    /// </summary>
    /// <param name="found">How often a kind was found in the stage.</param>
    public static IEnumerable<Discontinuity> Ordered(Stage stage, Func<DiscontinuityKind, int> found) =>
        All.Where(entry => entry.Stages.Contains(stage))
            .OrderByDescending(entry => found(entry.Kind) + (entry.Usual?.Contains(stage) == true ? UsualCounts : 0));

    /// <summary>So many findings is being usual worth; chosen.</summary>
    public const int UsualCounts = 5;

    private sealed record Catalogue(string Source, bool FromMemory, IReadOnlyList<Discontinuity> Kinds);
}
