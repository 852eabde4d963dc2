using Gradus.Core.Library;
using Gradus.Core.Welding;

namespace Gradus.Core.Safety;

/// <summary>Lens shades for a process and a range of amps, both ends allowed; no upper end means and above.</summary>
/// <param name="Suggested">The shade to start from; null where the table gives the least only.</param>
public sealed record LensShade(
    IReadOnlyList<Process> Processes,
    double AmpsFrom,
    double? AmpsBelow,
    int Least,
    int? Suggested,
    string Source,
    bool FromMemory
);

/// <summary>Lens shades for work with heat that is no welding.</summary>
public sealed record OtherShade(string Work, int Least, int Suggested, string Source, bool FromMemory);

/// <summary>The step of the work at which a caution is said, once.</summary>
public enum CautionStep
{
    /// <summary>Grinding, cleaning and fitting up.</summary>
    Prepare,
    Purge,
    Preheat,
    FirstArc,

    /// <summary>The first pass of a process.</summary>
    Pass,

    /// <summary>The first pass with electrodes that it is about.</summary>
    Rods,
    Tungsten,
    Overhead,

    /// <summary>After the first bead, before it is ground.</summary>
    Grind,

    /// <summary>When specimens are bent or etched.</summary>
    Bend,

    /// <summary>Cutting material.</summary>
    Cut,
}

/// <summary>What can hurt at the work, and where it is said.</summary>
/// <param name="When">The work that it belongs to; everything named must hold.</param>
/// <param name="Says">Words by which a test's own caution is known to say the same; null where none does.</param>
public sealed record SafetyRule(string Id, CautionStep Step, string Text, SafetyScope When, string? Says, string Source, bool FromMemory);

/// <summary>Narrows a caution to some work; null means any.</summary>
/// <param name="Gas">True: only where the root is purged.</param>
/// <param name="Overhead">True: only where metal falls toward the welder.</param>
public sealed record SafetyScope(
    IReadOnlyList<Process>? Processes = null,
    IReadOnlyList<BaseMetal>? Metals = null,
    IReadOnlyList<ElectrodeFamily>? Families = null,
    bool? Gas = null,
    bool? Overhead = null
)
{
    /// <summary>Whether a pass is the work that it belongs to.</summary>
    internal bool Holds(PassPlan pass) =>
        (Processes is null || Processes.Contains(pass.Process)) && (Families is null || Families.Contains(pass.Family));
}

/// <summary>What is said at a step of a coupon: <c>fitUp</c>, the key of a bead, or <c>look</c>.</summary>
public sealed record CautionsAt(string At, IReadOnlyList<string> Texts);

/// <summary>Lens shades and cautions. Local codes, the governing edition and a qualified inspector decide.</summary>
public static class Cautions
{
    /// <summary>The step of fitting up, and that of looking at what was made.</summary>
    public const string FitUpStep = "fitUp";

    /// <inheritdoc cref="FitUpStep"/>
    public const string LookStep = "look";

    private static readonly SafetyFile Data = CoreJson.ReadEmbedded<SafetyFile>("Safety/safety.json");

    /// <summary>The line that stands on every page that judges or plans.</summary>
    public static string Line => Data.Line;

    /// <summary>Every row of the lens table.</summary>
    public static IReadOnlyList<LensShade> Shades => Data.Shades;

    /// <summary>Shades for gouging and cutting.</summary>
    public static IReadOnlyList<OtherShade> OtherShades => Data.OtherShades;

    /// <summary>Every caution.</summary>
    public static IReadOnlyList<SafetyRule> All => Data.Rules;

    /// <summary>The lens for a process and current; at a boundary the darker one. Null when the table says nothing of it.</summary>
    public static LensShade? Shade(Process process, double amps) =>
        Data.Shades.LastOrDefault(row => row.Processes.Contains(process) && amps >= row.AmpsFrom && (row.AmpsBelow is null || amps <= row.AmpsBelow));

    /// <summary>The cautions of a test: its own, and those that its work asks for when it does not have them in words of its own.</summary>
    public static IReadOnlyList<Caution> Of(TestTemplate test)
    {
        var own = Own(test);
        return
        [
            .. own,
            .. For(test)
                .Where(rule => rule.Says is not { } says || !own.Any(one => one.Text.Contains(says, StringComparison.OrdinalIgnoreCase)))
                .Select(rule => new Caution(rule.Text, rule.Step is CautionStep.Prepare or CautionStep.Purge ? Stage.FitUp : null, rule.Source)),
        ];
    }

    /// <summary>The rules that the work of a test falls under: by its processes, electrodes, metal, purge and positions.</summary>
    public static IReadOnlyList<SafetyRule> For(TestTemplate test)
    {
        var gas = test.Joint.Backing.Kind is BackingKind.Gas or BackingKind.Insert;
        var overhead = test.Positions.Any(position => position is "4G" or "5G" or "6G" or "6GR" or "4F" or "5F");
        return
        [
            .. Data.Rules.Where(rule =>
                test.Passes.Any(rule.When.Holds)
                && (rule.When.Metals is null || rule.When.Metals.Contains(test.BaseMetal))
                && (rule.When.Gas is null || rule.When.Gas == gas)
                && (rule.When.Overhead is null || rule.When.Overhead == overhead)
                && rule.Step != CautionStep.Cut
            ),
        ];
    }

    /// <summary>Each caution of a coupon at the one step at which it is said: where its work comes first.</summary>
    /// <param name="beads">The beads of the coupon in the order of welding.</param>
    public static IReadOnlyList<CautionsAt> BySteps(TestTemplate test, IReadOnlyList<PlannedBead> beads)
    {
        var said = new Dictionary<string, List<string>>(StringComparer.Ordinal);
        void Say(string? at, string text)
        {
            if (at is not null)
            {
                if (!said.TryGetValue(at, out var texts))
                {
                    said[at] = texts = [];
                }

                texts.Add(text);
            }
        }

        string? First(Func<PassPlan, bool> holds) => beads.FirstOrDefault(bead => holds(test.Passes[bead.Pass]))?.Key;
        var own = Own(test);
        foreach (var caution in own)
        {
            Say(
                caution.Stage switch
                {
                    Stage.FitUp => FitUpStep,
                    { } stage => First(pass => pass.Stage == stage),
                    null => First(_ => true),
                },
                caution.Text
            );
        }

        foreach (
            var rule in For(test).Where(rule => !own.Any(one => rule.Says is { } says && one.Text.Contains(says, StringComparison.OrdinalIgnoreCase)))
        )
        {
            Say(
                rule.Step switch
                {
                    CautionStep.Prepare or CautionStep.Purge or CautionStep.Preheat => FitUpStep,
                    CautionStep.Bend => LookStep,
                    CautionStep.Grind => beads.Count > 1 ? beads[1].Key : LookStep,
                    _ => First(rule.When.Holds),
                },
                rule.Text
            );
        }

        return [.. said.Select(one => new CautionsAt(one.Key, one.Value))];
    }

    /// <summary>A test's own, but for a lens shade that was written into it: the shade follows from the process and the amps of the pass.</summary>
    private static List<Caution> Own(TestTemplate test) =>
        [.. test.Cautions.Where(one => !one.Text.StartsWith("Lens shade", StringComparison.OrdinalIgnoreCase))];

    private sealed record SafetyFile(
        string Line,
        IReadOnlyList<LensShade> Shades,
        IReadOnlyList<OtherShade> OtherShades,
        IReadOnlyList<SafetyRule> Rules
    );
}
