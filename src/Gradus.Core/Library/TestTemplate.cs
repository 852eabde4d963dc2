using System.Text.Json.Serialization;
using Gradus.Core.Inspection;
using Gradus.Core.Joints;
using Gradus.Core.Measure;

namespace Gradus.Core.Library;

/// <summary>A qualification test as the library holds it: what is built, how it is welded, checked, judged and drilled. Lengths in mm.</summary>
/// <param name="Id">Short and stable: <c>P8</c>.</param>
/// <param name="Version">Goes up with each change; a coupon keeps the version that it was made to.</param>
/// <param name="Kind">A test to be passed, or a drill of its own that qualifies nothing.</param>
/// <param name="Code">The acceptance profile that it starts with.</param>
/// <param name="Positions">Positions by AWS A3.0; more than one where a drill or fillet set is taken in several.</param>
/// <param name="Temperatures">Preheat and interpass limits, for metals that have them; null for the rest.</param>
/// <param name="Halves">The parts of a split coupon that are judged by themselves; empty when the coupon is one.</param>
/// <param name="HalvesBy">In which turn the halves of a split coupon are welded.</param>
/// <param name="SidesBy">Which side of a fixed pipe is welded first.</param>
/// <param name="RestartBy">How a stop of the root is taken up again, where schools differ; null where nothing is said.</param>
/// <param name="Repairing">What is made and repaired, in a drill of repairing; null in the rest.</param>
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
    bool FromMemory,
    HalfTurn HalvesBy = HalfTurn.Alternate,
    SideOrder SidesBy = SideOrder.DifficultFirst,
    RepairDrill? Repairing = null,
    RestartWay? RestartBy = null
)
{
    /// <summary>The stages that are welded, in order.</summary>
    [JsonIgnore]
    public IReadOnlyList<Stage> Stages => [.. Passes.Select(pass => pass.Stage).Distinct().Order()];

    /// <summary>The test in two words: 6G pipe.</summary>
    [JsonIgnore]
    public string Brief => $"{Positions[0]} {Product.ToString().ToLowerInvariant()}";

    /// <summary>True when nothing backs the root.</summary>
    [JsonIgnore]
    public bool OpenRoot => Joint.Backing.Kind is BackingKind.None or BackingKind.Gas;

    /// <summary>The joint as it is looked at.</summary>
    [JsonIgnore]
    public InspectedJoint Inspected => new(Product, Joint.ThicknessMm, OpenRoot, Weld, WeldLengthMm, Specimens.Any(one => one.Kind == "filletBreak"));

    /// <summary>Length of the weld as it is looked at, in mm: round the outside of a pipe; null where the joint has no length.</summary>
    [JsonIgnore]
    public double? WeldLengthMm => Joint.PipeSize() is { } pipe ? Joint.RoundMm(pipe.OutsideDiameter.Mm) : Joint.LengthMm;

    /// <summary>What a code cuts from the coupon of this test, as it is first described; null when the code takes no such coupon.</summary>
    public SpecimenPlan? CutBy(string code) =>
        SpecimenPlan.Of(
            code,
            new CutCoupon(
                Product,
                Weld,
                Positions[0],
                Joint.ThicknessMm,
                Joint.PipeSize()?.OutsideDiameter.Mm,
                Joint.Pipe is null ? Joint.LengthMm : null,
                Joint.Joins
            )
        );

    /// <summary>
    /// The test as it is judged by another code than its own: with that code's specimens. Null when the code takes no such coupon.
    /// </summary>
    public TestTemplate? JudgedBy(string code) =>
        code == Code ? this
        : CutBy(code) is { } plan ? this with { Specimens = plan.Specimens }
        : null;

    /// <summary>The test as it is made at a sitting: under its rules, and filmed where film is taken in place of what would be cut.</summary>
    /// <param name="rules">Null for those of the test.</param>
    public TestTemplate SatUnder(TestRules? rules, bool byFilm) =>
        this with
        {
            Rules = rules ?? Rules,
            Specimens = byFilm
                ? [new Specimen("radiograph", Joint.Pipe is null ? 0 : null, Joint.LengthMm, Joint.Pipe is null ? null : "12:00")]
                : Specimens,
        };

    /// <summary>The profiles that a coupon of this test can be judged by: its own first, then those whose code takes it.</summary>
    public IReadOnlyList<string> JudgeableBy(IEnumerable<AcceptanceProfile> profiles) =>
        Kind == TestKind.Drill
            ? [Code]
            :
            [
                Code,
                .. profiles
                    .Where(profile =>
                        profile.Id != Code && profile.LimitsEntered && CutBy(profile.Code) is not null && TestQualification.Takes(this, profile.Code)
                    )
                    .Select(profile => profile.Id),
            ];

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
                FitUp = FitUpOf(changed, option),
                HalvesBy = option.HalvesBy ?? changed.HalvesBy,
                SidesBy = option.SidesBy ?? changed.SidesBy,
                RestartBy = option.RestartBy ?? changed.RestartBy,
                Specimens = option.Specimens ?? changed.Specimens,
                Passes = option.Passes.Aggregate(changed.Passes, (passes, change) => [.. passes.Select(change.ApplyTo)]),
            };
        }

        return changed with
        {
            Passes = [.. changed.Passes.Where(pass => pass.Layers.Count > 0)],
        };
    }

    private static FitUpPlan FitUpOf(TestTemplate changed, VariantOption option)
    {
        var plan = option.Joint is null ? changed.FitUp : option.Joint.Around(changed.FitUp, changed.Joint);
        return option.FitUp?.ApplyTo(plan) ?? plan;
    }
}

/// <summary>In which turn the halves of a split coupon are welded.</summary>
public enum HalfTurn
{
    /// <summary>Layer by layer, in turn.</summary>
    Alternate,

    /// <summary>One half out first.</summary>
    OneFirst,
}

/// <summary>Which side of a fixed pipe is welded first.</summary>
public enum SideOrder
{
    DifficultFirst,
    DifficultLast,
}

/// <summary>How a root that was stopped is taken up again.</summary>
public enum RestartWay
{
    /// <summary>The stop is cut out to a feather with the grinder, and the bead is run back into it.</summary>
    CutOut,

    /// <summary>The keyhole is opened again from behind the stop; no grinder.</summary>
    Dip,
}

/// <summary>What a variant changes in the check of the fit-up. Lengths in mm.</summary>
/// <param name="RootOpeningMinMm">The root opening that this way of welding the root takes.</param>
public sealed record FitUpChange(
    int? MinTacks = null,
    int? MaxTacks = null,
    bool? Feathered = null,
    bool? Bridged = null,
    string? Where = null,
    double? RootOpeningMinMm = null,
    double? RootOpeningMaxMm = null
)
{
    internal FitUpPlan ApplyTo(FitUpPlan plan) =>
        plan with
        {
            Tacks = plan.Tacks with
            {
                MinCount = MinTacks ?? plan.Tacks.MinCount,
                MaxCount = MaxTacks ?? plan.Tacks.MaxCount,
                Feathered = Feathered ?? plan.Tacks.Feathered,
                Bridged = Bridged ?? plan.Tacks.Bridged,
                Where = Where ?? plan.Tacks.Where,
            },
            Tolerances =
            [
                .. plan.Tolerances.Select(one =>
                    one.Measure == FitUpMeasure.RootOpeningMm
                        ? one with
                        {
                            Min = RootOpeningMinMm ?? one.Min,
                            Max = RootOpeningMaxMm ?? one.Max,
                        }
                        : one
                ),
            ],
        };
}

/// <summary>A test to be passed, or a drill that stands by itself.</summary>
public enum TestKind
{
    Test,
    Drill,
}

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
    IReadOnlyList<Specimen>? Specimens = null,
    FitUpChange? FitUp = null,
    HalfTurn? HalvesBy = null,
    SideOrder? SidesBy = null,
    RestartWay? RestartBy = null
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
    double? BevelDegB = null,
    [property: JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] double? JRadiusMm = null
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
            JRadiusMm = JRadiusMm ?? joint.JRadiusMm,
        };
        return changed with { ThicknessMm = ThicknessMm ?? (Pipe is null ? joint.ThicknessMm : changed.PipeSize()!.Wall.Mm) };
    }

    /// <summary>The fit-up plan with its tolerances moved along with the joint, their widths kept.</summary>
    internal FitUpPlan Around(FitUpPlan plan, JointPlan before) =>
        plan with
        {
            Tolerances =
            [
                .. plan.Tolerances.Select(tolerance =>
                    tolerance.Measure switch
                    {
                        FitUpMeasure.RootOpeningMm => tolerance.Moved((RootOpeningMm ?? before.RootOpeningMm) - before.RootOpeningMm),
                        FitUpMeasure.RootFaceMm => tolerance.Moved((RootFaceMm ?? before.RootFaceMm) - before.RootFaceMm),
                        FitUpMeasure.BevelDegA => tolerance.Moved((BevelDegA ?? before.BevelDegA) - before.BevelDegA),
                        FitUpMeasure.BevelDegB => tolerance.Moved((BevelDegB ?? before.BevelDegB) - before.BevelDegB),
                        FitUpMeasure.IncludedAngleDeg => tolerance.Moved(
                            (BevelDegA ?? before.BevelDegA) + (BevelDegB ?? before.BevelDegB) - before.BevelDegA - before.BevelDegB
                        ),
                        _ => tolerance,
                    }
                ),
            ],
        };
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
    SettingRanges? Settings = null,
    string? Note = null
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
                Note = Note ?? pass.Note,
            };
}

/// <summary>A drill in which the welder makes a fault on purpose and repairs it, at each of some places on the clock.</summary>
/// <param name="Fault">The fault that is made.</param>
/// <param name="Points">The clock positions at which it is done.</param>
/// <param name="MostTries">Refills within which it has to come out sound.</param>
public sealed record RepairDrill(DiscontinuityKind Fault, IReadOnlyList<string> Points, int MostTries);

/// <summary>A part of the test practised by itself.</summary>
/// <param name="Repair">The repair that it is for: it is passed once one was made and looked at again as sound. Null when it is for none.</param>
public sealed record Drill(string Id, string Name, IReadOnlyList<Stage> Stages, PipeZone? Zone = null, RepairAction? Repair = null);

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
/// <param name="BallPasses">True when a ball has to go through the bore of the pipe; its size is the school's.</param>
/// <param name="HoldPoints">Where the inspector must look before work goes on.</param>
public sealed record TestRules(
    GrinderRule Grinder,
    bool ArcStrikeOutsideFails,
    int? TimeLimitMinutes,
    bool HelpAllowed,
    bool TakeDownAllowed,
    bool StringersOnly,
    double? WeaveMaxWidthMm,
    IReadOnlyList<HoldPoint> HoldPoints,
    bool BallPasses = false
);

/// <summary>A caution with the stage where it is shown; null for the whole job.</summary>
public sealed record Caution(string Text, Stage? Stage, string Source);
