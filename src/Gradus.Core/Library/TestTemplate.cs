using System.Text.Json.Serialization;
using Gradus.Core.Inspection;
using Gradus.Core.Joints;
using Gradus.Core.Measure;
using Gradus.Core.Welding;

namespace Gradus.Core.Library;

/// <summary>A qualification test as the library holds it: what is built, how it is welded, checked, judged and drilled. Lengths in mm.</summary>
/// <param name="Id">Short and stable: <c>P8</c>.</param>
/// <param name="Version">Goes up with each change; a coupon keeps the version that it was made to.</param>
/// <param name="Kind">A test to be passed, or a drill of its own that qualifies nothing.</param>
/// <param name="Code">The acceptance profile that it starts with.</param>
/// <param name="Positions">Positions by AWS A3.0; more than one where a drill or fillet set is taken in several.</param>
/// <param name="Temperatures">Preheat and interpass limits, for metals that have them; null for the rest.</param>
/// <param name="Halves">The parts of a split coupon that are judged by themselves; empty when the coupon is one.</param>
/// <param name="Variants">Where practitioners differ: groups of named choices, one of which is recorded on a coupon.</param>
public sealed record TestTemplate(
    string Id,
    int Version,
    string Title,
    TestKind Kind,
    string Code,
    Product Product,
    WeldKind Weld,
    IReadOnlyList<string> Positions,
    Progression Progression,
    BaseMetal BaseMetal,
    JointPlan Joint,
    IReadOnlyList<Half> Halves,
    FitUpPlan FitUp,
    Temperatures? Temperatures,
    IReadOnlyList<PassPlan> Passes,
    IReadOnlyList<VariantGroup> Variants,
    IReadOnlyList<Drill> Drills,
    TestRules Rules,
    IReadOnlyList<Specimen> Specimens,
    IReadOnlyList<Caution> Cautions,
    string Source,
    bool FromMemory
)
{
    /// <summary>The stages that are welded, in order.</summary>
    [JsonIgnore]
    public IReadOnlyList<Stage> Stages => [.. Passes.Select(pass => pass.Stage).Distinct().Order()];

    /// <summary>True when nothing backs the root.</summary>
    [JsonIgnore]
    public bool OpenRoot => Joint.Backing.Kind is BackingKind.None or BackingKind.Gas;

    /// <summary>The stages that a drill exercises, or all of them for a full coupon (null).</summary>
    /// <exception cref="ArgumentException">The template has no such drill.</exception>
    public IReadOnlyList<Stage> StagesOf(string? drillId) =>
        drillId is null
            ? Stages
            : (Drills.FirstOrDefault(drill => drill.Id == drillId) ?? throw new ArgumentException($"No drill '{drillId}'.", nameof(drillId))).Stages;

    /// <summary>The template with the chosen variants' changes made. An unknown choice changes nothing.</summary>
    public TestTemplate With(IReadOnlyDictionary<string, string> choices)
    {
        var changed = this;
        foreach (var option in Variants.SelectMany(group => group.Options.Where(option => choices.GetValueOrDefault(group.Id) == option.Id)))
        {
            changed = changed with
            {
                Positions = option.Position is null ? changed.Positions : [option.Position],
                BaseMetal = option.BaseMetal ?? changed.BaseMetal,
                Weld = option.Weld ?? changed.Weld,
                Joint = option.Joint?.ApplyTo(changed.Joint) ?? changed.Joint,
                FitUp = option.Joint is null ? changed.FitUp : changed.FitUp.Around(option.Joint, changed.Joint),
                Specimens = option.Specimens ?? changed.Specimens,
                Passes = option.Passes.Aggregate(changed.Passes, (passes, change) => [.. passes.Select(change.ApplyTo)]),
            };
        }

        return changed with
        {
            Passes = [.. changed.Passes.Where(pass => pass.Layers.Count > 0)],
        };
    }
}

/// <summary>A test to be passed, or a drill that stands by itself.</summary>
public enum TestKind
{
    Test,
    Drill,
}

/// <summary>Groove or fillet weld.</summary>
public enum WeldKind
{
    Groove,
    Fillet,
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
}

/// <summary>The joint as it is to be fitted.</summary>
/// <param name="ThicknessMm">Plate or sheet thickness; for pipe the wall that the size gives.</param>
/// <param name="JRadiusMm">Radius at the root of a J preparation.</param>
/// <param name="LegMm">Leg of a fillet.</param>
/// <param name="LengthMm">Length of the joint on plate or sheet; null for pipe.</param>
/// <param name="WidthMm">Width of each plate, or length of each nipple.</param>
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
    Fixture? Fixture
)
{
    /// <summary>The pipe size, or null for plate and sheet.</summary>
    /// <exception cref="InvalidOperationException">The size is not in the table.</exception>
    public PipeSize? PipeSize() =>
        Pipe is null
            ? null
            : PipeSizes.Find(Pipe.Nps, Pipe.Schedule)
                ?? throw new InvalidOperationException($"NPS {Pipe.Nps} schedule {Pipe.Schedule} is not a pipe size.");
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

/// <summary>One part of a split coupon, from a clock position clockwise to another.</summary>
public sealed record Half(string Id, string Name, string FromClock, string ToClock, Progression Progression);

/// <summary>A range of a setting; both ends allowed.</summary>
public sealed record Span(double Min, double Max);

/// <summary>The filler metal of a pass.</summary>
/// <param name="Classification">As the standard has it: <c>E7018</c>.</param>
/// <param name="DiameterText">As the trade says the size: <c>1/8</c>, <c>0.045</c>.</param>
/// <param name="FNumber">F-number of ASME IX QW-432.</param>
public sealed record Filler(string Classification, double DiameterMm, string DiameterText, int FNumber);

/// <summary>Starting ranges for a pass. Null where the setting has no meaning for the process.</summary>
public sealed record SettingRanges(
    Span Amps,
    Span? Volts = null,
    Span? WireFeedMmPerMin = null,
    Span? GasFlowLPerMin = null,
    Span? StickOutMm = null,
    Span? TravelAngleDeg = null,
    Span? WorkAngleDeg = null,
    Span? CupNumber = null
);

/// <summary>The least preheat and the most between passes, in °C; logged with each pass.</summary>
public sealed record Temperatures(double? PreheatMinC, double? InterpassMaxC, string Source, bool FromMemory);

/// <summary>The passes of one stage by one process.</summary>
/// <param name="Half">The half that it belongs to on a split coupon; null for all.</param>
/// <param name="Layers">Beads in each layer, from the root up.</param>
/// <param name="BeadShare">How large a bead of this stage is beside one of the others; only the proportion counts.</param>
public sealed record PassPlan(
    Stage Stage,
    string? Half,
    Process Process,
    Filler Filler,
    Polarity Polarity,
    string? Gas,
    Progression Progression,
    BeadTechnique Technique,
    IReadOnlyList<int> Layers,
    double BeadShare,
    SettingRanges Settings,
    string? Note
);

/// <summary>A place where schools of practice differ.</summary>
public sealed record VariantGroup(string Id, string Name, IReadOnlyList<VariantOption> Options);

/// <summary>One school's way. The first option of a group is the one that the template itself describes.</summary>
/// <param name="Position">The one position that it is made in, where the test is taken in several.</param>
public sealed record VariantOption(
    string Id,
    string Name,
    string? Position = null,
    BaseMetal? BaseMetal = null,
    WeldKind? Weld = null,
    JointChange? Joint = null,
    IReadOnlyList<PassChange>? PassChanges = null,
    IReadOnlyList<Specimen>? Specimens = null
)
{
    /// <summary>What changes in the passes; empty when nothing does.</summary>
    internal IReadOnlyList<PassChange> Passes => PassChanges ?? [];
}

/// <summary>What a variant changes in the joint. A pipe brings its own wall with it.</summary>
public sealed record JointChange(
    JointForm? Form = null,
    PipeReference? Pipe = null,
    double? ThicknessMm = null,
    double? LegMm = null,
    double? RootOpeningMm = null,
    double? RootFaceMm = null,
    double? BevelDegA = null,
    double? BevelDegB = null
)
{
    internal JointPlan ApplyTo(JointPlan joint)
    {
        var changed = joint with
        {
            Form = Form ?? joint.Form,
            Pipe = Pipe ?? joint.Pipe,
            LegMm = LegMm ?? joint.LegMm,
            RootOpeningMm = RootOpeningMm ?? joint.RootOpeningMm,
            RootFaceMm = RootFaceMm ?? joint.RootFaceMm,
            BevelDegA = BevelDegA ?? joint.BevelDegA,
            BevelDegB = BevelDegB ?? joint.BevelDegB,
        };
        return changed with { ThicknessMm = ThicknessMm ?? (Pipe is null ? joint.ThicknessMm : changed.PipeSize()!.Wall.Mm) };
    }
}

/// <summary>What a variant changes in the passes of a stage (on a split coupon: of one half). No layers leave the stage out.</summary>
public sealed record PassChange(
    Stage Stage,
    string? Half = null,
    IReadOnlyList<int>? Layers = null,
    BeadTechnique? Technique = null,
    Progression? Progression = null,
    Process? Process = null,
    Filler? Filler = null,
    Polarity? Polarity = null,
    string? Gas = null,
    SettingRanges? Settings = null
)
{
    internal PassPlan ApplyTo(PassPlan pass) =>
        pass.Stage != Stage || (Half is not null && pass.Half != Half)
            ? pass
            : pass with
            {
                Layers = Layers ?? pass.Layers,
                Technique = Technique ?? pass.Technique,
                Progression = Progression ?? pass.Progression,
                Process = Process ?? pass.Process,
                Filler = Filler ?? pass.Filler,
                Polarity = Polarity ?? pass.Polarity,

                // Another process brings its own gas, and its own want of one.
                Gas = Gas ?? (Process is null ? pass.Gas : null),
                Settings = Settings ?? pass.Settings,
            };
}

/// <summary>A part of the test practised by itself.</summary>
public sealed record Drill(string Id, string Name, IReadOnlyList<Stage> Stages, PipeZone? Zone = null);

/// <summary>How far the grinder may be used in the sitting.</summary>
public enum GrinderRule
{
    Free,
    TacksAndStopsOnly,
    FileOnly,
    None,
}

/// <summary>The rules of the sitting.</summary>
/// <param name="TimeLimitMinutes">Null when the sitting is not timed.</param>
/// <param name="StringersOnly">True when no weave is allowed.</param>
/// <param name="HoldPoints">Where the inspector must look before work goes on.</param>
public sealed record TestRules(
    GrinderRule Grinder,
    bool ArcStrikeOutsideFails,
    int? TimeLimitMinutes,
    bool HelpAllowed,
    bool TakeDownAllowed,
    bool StringersOnly,
    double? WeaveMaxWidthMm,
    IReadOnlyList<string> HoldPoints
);

/// <summary>A specimen that is cut from the coupon: on plate by its span from the start, on pipe by its clock position.</summary>
public sealed record Specimen(string Kind, double? FromMm, double? ToMm, string? Clock);

/// <summary>A caution with the stage where it is shown; null for the whole job.</summary>
public sealed record Caution(string Text, Stage? Stage, string Source);
