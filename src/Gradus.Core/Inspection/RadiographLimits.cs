namespace Gradus.Core.Inspection;

/// <summary>The kind of an indication on a radiograph.</summary>
public enum IndicationKind
{
    Crack,
    IncompleteFusion,
    IncompletePenetration,
    ElongatedSlag,
    Rounded,

    /// <summary>Incomplete penetration because the inside surfaces do not meet.</summary>
    HighLow,

    /// <summary>Incomplete penetration between the two sides of a weld made from both.</summary>
    CrossPenetration,

    /// <summary>Incomplete fusion between beads, or between a bead and the wall, not open to a surface.</summary>
    ColdLap,
    IsolatedSlag,

    /// <summary>Pores close together; its width is that of the largest pore in it.</summary>
    Cluster,
    HollowBead,
    Concavity,
    BurnThrough,
    Undercut,
}

/// <summary>An indication, in mm: its length or diameter, where it begins along the weld, its width; null where it was not measured.</summary>
/// <param name="DenserThanBase">Whether its image is denser than that of the thinnest base metal beside it; null where nobody looked.</param>
public sealed record Indication(IndicationKind Kind, double? SizeMm, double? AtMm, double? WidthMm = null, bool? DenserThanBase = null);

/// <summary>The weld that a film was taken of. Lengths in mm.</summary>
/// <param name="ThicknessMm">Of the plate, or of the thinner wall.</param>
/// <param name="Process">Its letters: <c>GMAW-S</c>; null when it is not said.</param>
/// <param name="LengthMm">Length of weld on the film; null when it is not known and no diameter tells it.</param>
/// <param name="InsideChart">True once somebody compared the rounded indications with the charts of the code and found them inside.</param>
public sealed record FilmedWeld(
    double ThicknessMm,
    string? Process = null,
    Product? Product = null,
    double? OutsideDiameterMm = null,
    double? LengthMm = null,
    bool? InsideChart = null
)
{
    /// <summary>Length of weld: as it is said, else once round the pipe.</summary>
    internal double? WeldMm => LengthMm ?? (OutsideDiameterMm * Math.PI);
}

/// <summary>A limit that holds up to a thickness: <c>base + perThickness·t</c>, in mm.</summary>
public sealed record ThicknessStep(double? ToMm, double Base, double PerThickness);

/// <summary>What a rule for film compares.</summary>
public enum FilmMeasure
{
    Size,
    Width,

    /// <summary>The sizes, added up within the window.</summary>
    Sum,

    /// <summary>How many there are within the window.</summary>
    Count,

    /// <summary>The clear distance to the next one: a least and not a most.</summary>
    Clear,
}

/// <summary>A limit in mm, or a count: <c>base + perThickness·T + perLength·L</c>, with L the length of weld.</summary>
public sealed record FilmTerm(double Base = 0, double PerThickness = 0, double PerLength = 0);

/// <summary>The welds and indications that a rule for film holds for. Lengths in mm; null means any.</summary>
/// <param name="OutsideFromMm">Only pipe of at least this outside diameter, and plate.</param>
/// <param name="OutsideBelowMm">Only pipe below it.</param>
/// <param name="WeldBelowMm">Only a weld shorter than this.</param>
/// <param name="ThicknessBelowMm">Only metal thinner than this.</param>
/// <param name="ThicknessFromMm">Only metal at least as thick.</param>
/// <param name="SizeFromMm">Only indications of at least this size...</param>
/// <param name="SizeBelowMm">...or only those below it.</param>
/// <param name="AnyWiderThan">Only when one of them is wider than the least of these.</param>
/// <param name="Dense">Only those whose image is denser than the base metal, or only the others.</param>
public sealed record FilmScope(
    double? OutsideFromMm = null,
    double? OutsideBelowMm = null,
    double? WeldBelowMm = null,
    double? ThicknessBelowMm = null,
    double? ThicknessFromMm = null,
    double? SizeFromMm = null,
    double? SizeBelowMm = null,
    IReadOnlyList<FilmTerm>? AnyWiderThan = null,
    bool? Dense = null
);

/// <summary>One limit for film.</summary>
/// <param name="Limit">The limit is the least of these; empty where the rule has none.</param>
/// <param name="WindowMm">Within any such length; null for the whole weld.</param>
/// <param name="TimesLarger">Of a clear distance: added to it, for each mm of the larger of the two.</param>
/// <param name="ByChart">True when a chart decides once more than the limit are counted: open until somebody compared.</param>
/// <param name="Says">What the rule comes to.</param>
/// <param name="Confidence">How sure the value from memory is, in percent.</param>
public sealed record FilmRule(
    IReadOnlyList<IndicationKind> Kinds,
    FilmMeasure Measure,
    IReadOnlyList<FilmTerm> Limit,
    string Rule,
    int Confidence,
    double? WindowMm = null,
    FilmScope? When = null,
    double TimesLarger = 0,
    bool ByChart = false,
    RuleVerdict Says = RuleVerdict.Limit
);

/// <summary>The limits of a profile on a radiograph. Lengths in mm.</summary>
/// <param name="Elongated">Longest slag by thickness, thinnest first; empty where the rules below have it.</param>
/// <param name="GroupWindowThicknesses">Aligned slag is summed over this many thicknesses...</param>
/// <param name="GroupSumThicknesses">...and may come to this many...</param>
/// <param name="GroupGapLengths">...unless the gaps are over this many times the longest of the group.</param>
/// <param name="RoundedShare">Largest rounded indication as a share of the thickness, at most <paramref name="RoundedMaxMm"/>.</param>
/// <param name="Rules">Further limits, or all of them; a kind that neither they nor the slag and rounded limits name is not to be judged.</param>
/// <param name="NotFor">Processes that the code takes no film for, by their letters.</param>
/// <param name="NotAlone">Processes for which film alone does not do.</param>
/// <param name="LeastWeldMm">The least length of weld that the code takes film of, on plate; null for any.</param>
/// <param name="LeavesOutMm">So much at each end of a plate is not looked at.</param>
/// <param name="Confidence">How sure the values from memory are, in percent.</param>
public sealed record RadiographLimits(
    IReadOnlyList<ThicknessStep> Elongated,
    double GroupWindowThicknesses,
    double GroupSumThicknesses,
    double GroupGapLengths,
    double RoundedShare,
    double RoundedMaxMm,
    string Source,
    bool FromMemory,
    IReadOnlyList<FilmRule>? Rules = null,
    IReadOnlyList<string>? NotFor = null,
    IReadOnlyList<string>? NotAlone = null,
    double? LeastWeldMm = null,
    double LeavesOutMm = 0,
    int? Confidence = null
);
