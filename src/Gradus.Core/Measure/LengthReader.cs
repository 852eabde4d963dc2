using System.Diagnostics.CodeAnalysis;
using System.Globalization;
using System.Text;
using System.Text.RegularExpressions;

namespace Gradus.Core.Measure;

/// <summary>Reads a length as it is written in the shop: <c>1 1/2</c>, <c>1-1/2 in</c>, <c>3/32"</c>, <c>½</c>, <c>0.094in</c>, <c>2.4 mm</c>, <c>2,4 mm</c>.</summary>
public static partial class LengthReader
{
    private const int LongestText = 40;

    private static readonly (string Vulgar, string Fraction)[] VulgarFractions =
    [
        ("¼", "1/4"),
        ("½", "1/2"),
        ("¾", "3/4"),
        ("⅛", "1/8"),
        ("⅜", "3/8"),
        ("⅝", "5/8"),
        ("⅞", "7/8"),
        ("⅓", "1/3"),
        ("⅔", "2/3"),
    ];

    /// <summary>What is accepted, in words, for an error message.</summary>
    public const string Accepts = "a length of 0 or more such as 3/32, 1 1/2, 1-1/2 in, 0.094in, 3/32\" or 2.4 mm (a decimal comma is read too)";

    /// <summary>Reads a length.</summary>
    /// <param name="text">What was written. A unit in it (<c>in</c>, <c>inch</c>, <c>"</c>, <c>mm</c>) wins over <paramref name="assume"/>.</param>
    /// <param name="assume">The unit of a bare number; null when a unit must be written.</param>
    /// <param name="length">The length that was read.</param>
    /// <param name="error">Why nothing was read, in words for the person who wrote it.</param>
    public static bool TryRead(string? text, LengthUnit? assume, out Length length, [NotNullWhen(false)] out string? error)
    {
        length = default;
        error = null;
        if (string.IsNullOrWhiteSpace(text) || text.Length > LongestText)
        {
            error = $"Write {Accepts}.";
            return false;
        }

        var match = Shape().Match(Plain(text));
        if (!match.Success)
        {
            error = $"'{text.Trim()}' is not a length. Write {Accepts}.";
            return false;
        }

        if (ThousandsOrDecimal().IsMatch(match.Groups["decimal"].Value))
        {
            error = $"'{text.Trim()}' could mean thousands or decimals. Write the decimals with a point.";
            return false;
        }

        var unit = UnitOf(match.Groups["unit"].Value) ?? assume;
        if (unit is null)
        {
            error = $"'{text.Trim()}' has no unit, and none was assumed. Add in or mm.";
            return false;
        }

        if (match.Groups["bottom"].Success && Number(match.Groups["bottom"]) == 0)
        {
            error = $"'{text.Trim()}' divides by zero.";
            return false;
        }

        var value = match.Groups["decimal"].Success
            ? Number(match.Groups["decimal"])
            : (match.Groups["whole"].Success ? Number(match.Groups["whole"]) : 0) + (Number(match.Groups["top"]) / Number(match.Groups["bottom"]));
        var mm = unit == LengthUnit.Inch ? value * Length.MmPerInch : value;
        if (!Length.IsPossible(mm))
        {
            error = $"'{text.Trim()}' is out of range: a length is at most 100 m.";
            return false;
        }

        length = unit == LengthUnit.Inch ? Length.FromInches(value) : Length.FromMm(value);
        return true;
    }

    /// <summary>Vulgar fractions (½) become 1/2, typographic quotes and slashes their plain forms.</summary>
    private static string Plain(string text)
    {
        var plain = new StringBuilder(text.Trim());
        foreach (var (vulgar, fraction) in VulgarFractions)
        {
            plain.Replace(vulgar, " " + fraction);
        }

        return plain
            .Replace('\u2044', '/')
            .Replace('\u2033', '"')
            .Replace('\u201d', '"')
            .Replace("\u2032\u2032", "\"")
            .Replace("''", "\"")
            .ToString()
            .Trim();
    }

    private static LengthUnit? UnitOf(string unit) =>
        unit.ToLowerInvariant() switch
        {
            "" => null,
            "mm" => LengthUnit.Mm,
            _ => LengthUnit.Inch,
        };

    private static double Number(Capture capture) =>
        double.Parse(capture.Value.Replace(',', '.'), NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture);

    [GeneratedRegex(
        """^(?:(?:(?<whole>\d{1,9})(?:\s+|\s*-\s*))?(?<top>\d{1,9})\s*/\s*(?<bottom>\d{1,9})|(?<decimal>\d{1,12}(?:[.,]\d{0,12})?|[.,]\d{1,12}))\s*(?<unit>mm|in\.?|inch|inches|")?$""",
        RegexOptions.IgnoreCase | RegexOptions.CultureInvariant
    )]
    private static partial Regex Shape();

    [GeneratedRegex(@"^[1-9]\d{0,2},\d{3}$")]
    private static partial Regex ThousandsOrDecimal();
}
