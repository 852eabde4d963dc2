namespace Gradus.Core.Vocabulary;

/// <summary>The kind of a weld.</summary>
public enum WeldKind
{
    Groove,
    Fillet,

    /// <summary>A hole in one member, filled onto the other.</summary>
    Plug,

    /// <summary>A tack, tested by itself.</summary>
    Tack,
}

/// <summary>A joint of pipe: end to end, or one set on the other.</summary>
public enum PipeJoint
{
    /// <summary>End to end.</summary>
    Butt,

    /// <summary>A branch.</summary>
    Branch,
}

/// <summary>Base metal by family; the family brings its own questions and cautions.</summary>
public enum BaseMetal
{
    CarbonSteel,
    StainlessSteel,
    ChromeMoly,
    Aluminium,
    NickelAlloy,
}

/// <summary>The form of the joint.</summary>
public enum JointForm
{
    SingleV,
    SingleJ,
    SquareButt,
    TeeFillet,
    LapFillet,

    /// <summary>A branch set on a run of pipe of its own size: the branch is bevelled, the run is not.</summary>
    Branch,

    /// <summary>A hole through the upper member, its width the root opening; the lower member stands as its backing.</summary>
    Plug,
}

/// <summary>The joint as it is to be fitted.</summary>
/// <param name="ThicknessMm">Plate or sheet thickness; for pipe the wall that the size gives.</param>
/// <param name="JRadiusMm">Radius at the root of a J preparation.</param>
/// <param name="LegMm">Leg of a fillet.</param>
/// <param name="LengthMm">Length of the joint on plate or sheet; null for pipe.</param>
/// <param name="WidthMm">Width of each plate, or length of each nipple.</param>
/// <param name="RingMm">How far from the groove a ring stands round the member that has no bevel, so that there is little room; null where none does.</param>
public sealed record JointPlan(
    JointForm Form,
    double ThicknessMm,
    PipeReference? Pipe,
    double BevelDegA,
    double BevelDegB,
    double RootOpeningMm,
    double RootFaceMm,
    double? JRadiusMm,
    double? LegMm,
    double? LengthMm,
    double WidthMm,
    Backing Backing,
    ConsumableInsert? Insert,
    Fixture? Fixture,
    [property: System.Text.Json.Serialization.JsonIgnore(Condition = System.Text.Json.Serialization.JsonIgnoreCondition.WhenWritingNull)]
        double? RingMm = null
)
{
    /// <summary>How pipe is joined.</summary>
    [System.Text.Json.Serialization.JsonIgnore]
    public PipeJoint Joins => Form == JointForm.Branch ? PipeJoint.Branch : PipeJoint.Butt;
}

/// <summary>A pipe size by name.</summary>
public sealed record PipeReference(string Nps, string Schedule);

/// <summary>What backs the root.</summary>
public enum BackingKind
{
    None,
    Strip,
    Gas,
    Insert,
}

/// <summary>The backing. Sizes of a strip in mm; the overhang is at each end.</summary>
public sealed record Backing(BackingKind Kind, double? ThicknessMm = null, double? WidthMm = null, double? OverhangMm = null);

/// <summary>A consumable insert ring: the most its ends may gape, and the pitch of its tacks, in mm.</summary>
public sealed record ConsumableInsert(string Shape, double MaxRingGapMm, double TackPitchMinMm, double TackPitchMaxMm);

/// <summary>A clamping fixture for sheet.</summary>
public sealed record Fixture(string Description, bool BackingGasBothSides, IReadOnlyList<string> SetUpSteps);
