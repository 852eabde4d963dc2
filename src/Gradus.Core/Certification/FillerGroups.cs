namespace Gradus.Core.Certification;

/// <summary>In which form filler metal comes.</summary>
public enum FillerForm
{
    Covered,
    Solid,
    FluxCored,
    MetalCored,
}

/// <summary>A filler metal as the codes group it. All from memory.</summary>
/// <param name="Starts">How its classification begins; the longest that fits counts.</param>
/// <param name="Covering">Of an electrode by ISO 2560; null for the rest.</param>
/// <param name="Fm">ISO 9606-1; null where it has no group there: aluminium has its own part of the standard.</param>
/// <param name="Api">API 1104; null where it is listed in no group and qualifies itself.</param>
public sealed record FillerGroup(string Starts, FillerForm Form, string? Covering, string? Fm, string? Api);

/// <summary>Groups of filler metals by classification.</summary>
public static class FillerGroups
{
    private static readonly Table Data = CoreJson.ReadEmbedded<Table>("Certification/fillers.json");

    /// <summary>All rows, for whoever lists them.</summary>
    public static IReadOnlyList<FillerGroup> All => Data.Rows;

    /// <summary>How a classification is grouped; null when the table does not have it.</summary>
    public static FillerGroup? Of(string classification) =>
        Data.Rows.Where(row => classification.StartsWith(row.Starts, StringComparison.Ordinal)).MaxBy(row => row.Starts.Length);

    private sealed record Table(string Note, bool FromMemory, int Confidence, IReadOnlyList<FillerGroup> Rows);
}
