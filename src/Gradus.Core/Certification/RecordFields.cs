namespace Gradus.Core.Certification;

/// <summary>A field that a record carries.</summary>
/// <param name="Asked">True when nobody but a person can say it.</param>
public sealed record FieldRow(string Key, string Label, bool Asked = false);

/// <summary>What a record of a code carries beside what every record does.</summary>
/// <param name="Part">For each process and filler.</param>
public sealed record CodeFields(string Code, IReadOnlyList<FieldRow> Whole, IReadOnlyList<FieldRow> Part);

/// <summary>The fields of records, code by code. From memory.</summary>
public static class RecordFields
{
    private static readonly Table Data = CoreJson.ReadEmbedded<Table>("Certification/fields.json");

    /// <summary>What every record carries of the whole coupon.</summary>
    public static IReadOnlyList<FieldRow> Every => Data.Every;

    /// <summary>What a code adds to that.</summary>
    public static IReadOnlyDictionary<string, CodeFields> ByCode { get; } = Data.Codes.ToDictionary(one => one.Code, StringComparer.Ordinal);

    /// <summary>What has to be asked of a person for a record of a code; empty for one that has no records.</summary>
    public static IReadOnlyList<FieldRow> AskedFor(string code) =>
        ByCode.TryGetValue(code, out var fields) ? [.. Data.Every.Concat(fields.Whole).Where(row => row.Asked)] : [];

    private sealed record Table(string Note, bool FromMemory, int Confidence, IReadOnlyList<FieldRow> Every, IReadOnlyList<CodeFields> Codes);
}
