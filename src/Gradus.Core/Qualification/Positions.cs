namespace Gradus.Core.Qualification;

/// <summary>What a test in some positions qualifies. With several positions: only when all of them were tested.</summary>
/// <param name="Own">What a plug or a tack qualifies of its own kind; null for a groove or a fillet.</param>
public sealed record PositionRule(
    Product Product,
    WeldKind Weld,
    IReadOnlyList<string> Positions,
    IReadOnlyList<string> PlateGroove,
    IReadOnlyList<string> PipeGroove,
    IReadOnlyList<string> Fillet,
    IReadOnlyList<string>? Own = null
);

/// <summary>The position table of a code.</summary>
public sealed record PositionTable(string Code, string Source, bool FromMemory, IReadOnlyList<PositionRule> Rules)
{
    /// <summary>True when the table is in ISO 6947 positions.</summary>
    public bool IsIso => Code == "iso-9606-1";

    /// <summary>The test positions that a product and weld can have in this code.</summary>
    public IReadOnlyList<string> PositionsOf(Product product, WeldKind weld) =>
        [.. Rules.Where(rule => rule.Product == product && rule.Weld == weld).SelectMany(rule => rule.Positions).Distinct()];
}

/// <summary>The position tables, and how AWS positions are named by ISO 6947.</summary>
public static class Positions
{
    private static readonly TableFile Data = CoreJson.ReadEmbedded<TableFile>("Qualification/positions.json");

    /// <summary>Every order in which lists of positions are given.</summary>
    private static readonly string[] Order = ["F", "H", "V", "OH", "PA", "PB", "PC", "PD", "PE", "PF", "PG", "PH", "PJ", "H-L045", "J-L045"];

    /// <summary>The codes whose ranges are told test by test; more are known to <see cref="Covering"/>.</summary>
    public static IReadOnlyList<string> Codes { get; } = [.. Data.Codes.Select(table => table.Code).Where(Ranges.ByCode.ContainsKey)];

    /// <summary>The table of a code; null when there is none.</summary>
    public static PositionTable? Of(string code) => Data.Codes.FirstOrDefault(table => table.Code == code);

    /// <summary>The position as the table names it: ISO 6947 for ISO 9606-1, else as given.</summary>
    public static string NameIn(PositionTable table, Product product, string position, Progression progression) =>
        !table.IsIso
            ? position
            : (position, product == Product.Pipe, progression == Progression.Downhill) switch
            {
                ("1G" or "1F", _, _) => "PA",
                ("2G", _, _) => "PC",
                ("2F" or "2FR", _, _) => "PB",
                ("3G" or "3F", _, false) => "PF",
                ("3G" or "3F", _, true) => "PG",
                ("4G", _, _) => "PE",
                ("4F", _, _) => "PD",
                ("5G" or "5F", true, false) => "PH",
                ("5G" or "5F", true, true) => "PJ",
                ("6G", true, false) => "H-L045",
                ("6G", true, true) => "J-L045",
                _ => position,
            };

    /// <summary>True when the weld climbs or falls in this position, so that its progression is an essential variable.</summary>
    public static bool HasProgression(string position) =>
        position is "3G" or "3F" or "5G" or "5F" or "6G" or "6GR" or "PF" or "PG" or "PH" or "PJ" or "H-L045" or "J-L045";

    /// <summary>True when a weld in this position of a range is run up or down.</summary>
    public static bool Climbs(string position) => position is "V" or "PF" or "PG" or "PH" or "PJ" or "H-L045" or "J-L045";

    /// <summary>A list without doubles in the order of the standards.</summary>
    public static IReadOnlyList<string> Sorted(IEnumerable<string> positions) =>
        [.. positions.Distinct().OrderBy(position => Array.IndexOf(Order, position))];

    private sealed record TableFile(IReadOnlyList<PositionTable> Codes);
}
