namespace Gradus.Core.Measure;

/// <summary>A number of the trade, with what it means and where it comes from.</summary>
/// <param name="Unit">mm, %, g/min, ... ; empty for a plain ratio.</param>
/// <param name="FromMemory">True when a published value was written from memory and is to be checked against the edition in force.</param>
public sealed record TradeNumber(string Id, double Value, string Unit, string Meaning, string Source, bool FromMemory);

/// <summary>Single numbers that the calculations use. Tables, limits and ranges stand in data files of their own.</summary>
public static class TradeNumbers
{
    /// <summary>Every number, in the order of the file.</summary>
    public static IReadOnlyList<TradeNumber> All { get; } = CoreJson.ReadEmbedded<IReadOnlyList<TradeNumber>>("Measure/numbers.json");

    private static readonly Dictionary<string, TradeNumber> ById = All.ToDictionary(number => number.Id, StringComparer.Ordinal);

    /// <summary>The value of a number.</summary>
    /// <exception cref="KeyNotFoundException">There is no such number.</exception>
    public static double Of(string id) => ById[id].Value;
}
