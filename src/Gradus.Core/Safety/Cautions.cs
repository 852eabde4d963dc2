using Gradus.Core.Library;

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

/// <summary>What can hurt at the work, and where it is shown.</summary>
/// <param name="When">The work that it belongs to; everything named must hold.</param>
/// <param name="Says">Words by which a caution in other words is known to say the same; null where it is shown as it is.</param>
public sealed record SafetyRule(string Id, string Text, SafetyScope When, string? Says, string Source, bool FromMemory);

/// <summary>Narrows a caution to some work; null means any.</summary>
/// <param name="Gas">True: only where the root is purged.</param>
/// <param name="Overhead">True: only where metal falls toward the welder.</param>
/// <param name="Activity">What is being done: <c>weld</c>, <c>grind</c>, <c>purge</c>, <c>tungsten</c>, <c>cut</c>.</param>
public sealed record SafetyScope(
    IReadOnlyList<Process>? Processes = null,
    IReadOnlyList<BaseMetal>? Metals = null,
    bool? Gas = null,
    bool? Overhead = null,
    string? Activity = null
);

/// <summary>Lens shades and cautions. Local codes, the governing edition and a qualified inspector decide.</summary>
public static class Cautions
{
    private static readonly SafetyFile Data = CoreJson.ReadEmbedded<SafetyFile>("Safety/safety.json");

    /// <summary>The line that stands on every page that judges or plans.</summary>
    public static string Line => Data.Line;

    /// <summary>Every row of the lens table.</summary>
    public static IReadOnlyList<LensShade> Shades => Data.Shades;

    /// <summary>Every caution.</summary>
    public static IReadOnlyList<SafetyRule> All => Data.Rules;

    /// <summary>The lens for a process and current; at a boundary the darker one. Null when the table says nothing of it.</summary>
    public static LensShade? Shade(Process process, double amps) =>
        Data.Shades.LastOrDefault(row => row.Processes.Contains(process) && amps >= row.AmpsFrom && (row.AmpsBelow is null || amps <= row.AmpsBelow));

    /// <summary>
    /// The cautions of a test: its own, and those that its metal, purge or position asks for when it does not have them in words of its own.
    /// </summary>
    public static IReadOnlyList<Caution> Of(TestTemplate test) =>
        [
            .. test.Cautions,
            .. For(test)
                .Where(rule => rule.Says is { } says && !test.Cautions.Any(own => own.Text.Contains(says, StringComparison.OrdinalIgnoreCase)))
                .Select(rule => new Caution(rule.Text, null, rule.Source)),
        ];

    /// <summary>The rules that the work of a test falls under: by its processes, metal, purge and positions.</summary>
    public static IReadOnlyList<SafetyRule> For(TestTemplate test)
    {
        var processes = test.Passes.Select(pass => pass.Process).Distinct().ToList();
        var gas = test.Joint.Backing.Kind is BackingKind.Gas or BackingKind.Insert;
        var overhead = test.Positions.Any(position => position is "4G" or "5G" or "6G" or "6GR" or "4F" or "5F");
        return
        [
            .. Data.Rules.Where(rule =>
                (rule.When.Processes is null || rule.When.Processes.Any(processes.Contains))
                && (rule.When.Metals is null || rule.When.Metals.Contains(test.BaseMetal))
                && (rule.When.Gas is null || rule.When.Gas == gas)
                && (rule.When.Overhead is null || rule.When.Overhead == overhead)
            ),
        ];
    }

    private sealed record SafetyFile(string Line, IReadOnlyList<LensShade> Shades, IReadOnlyList<SafetyRule> Rules);
}
