using System.Globalization;

namespace Gradus.Core.Measure;

/// <summary>The unit in which a bare number is read.</summary>
public enum LengthUnit
{
    /// <summary>Millimetre.</summary>
    Mm,

    /// <summary>Inch, 25.4 mm exactly (ISO/IEC 80000-3).</summary>
    Inch,
}

/// <summary>A measured length: zero or more, finite, at most <see cref="MaxMm"/>. Stored in millimetres.</summary>
public readonly record struct Length : IComparable<Length>
{
    /// <summary>Millimetres in an inch, exact (ISO/IEC 80000-3).</summary>
    public const double MmPerInch = 25.4;

    /// <summary>The longest length that is taken for a welding dimension rather than a slip: 100 m.</summary>
    public const double MaxMm = 100_000;

    private const int FinestFraction = 64;

    private Length(double mm) => Mm = mm;

    /// <summary>The length in millimetres.</summary>
    public double Mm { get; }

    /// <summary>The length in inches.</summary>
    public double Inches => Mm / MmPerInch;

    /// <summary>A length from millimetres.</summary>
    /// <exception cref="ArgumentOutOfRangeException">Negative, not finite, or over <see cref="MaxMm"/>.</exception>
    public static Length FromMm(double mm) =>
        IsPossible(mm) ? new Length(mm) : throw new ArgumentOutOfRangeException(nameof(mm), mm, "A length is a finite number from 0 to 100 000 mm.");

    /// <summary>A length from inches.</summary>
    /// <exception cref="ArgumentOutOfRangeException">As <see cref="FromMm"/>.</exception>
    public static Length FromInches(double inches) =>
        // In decimal, so that 1 1/2 in is 38.1 mm and not the nearest binary miss.
        inches is >= 0 and <= MaxMm / MmPerInch
            ? FromMm((double)((decimal)inches * (decimal)MmPerInch))
            : FromMm(inches * MmPerInch);

    /// <summary>True when the number of millimetres can be a length.</summary>
    public static bool IsPossible(double mm) => mm is >= 0 and <= MaxMm;

    /// <inheritdoc/>
    public int CompareTo(Length other) => Mm.CompareTo(other.Mm);

    /// <summary>
    /// Millimetres with at most <paramref name="decimals"/> decimals, no trailing zeros, no unit: <c>38.1</c>. For showing only.
    /// </summary>
    public string ToMmText(int decimals = 2) =>
        Math.Round(Mm, decimals, MidpointRounding.AwayFromZero).ToString("0.###", CultureInfo.InvariantCulture);

    /// <summary>
    /// Inches as the shop reads them, to the nearest 1/64 in lowest terms: <c>1 1/2</c>, <c>3/32</c>, <c>0</c>. A length that is not
    /// zero but would round to zero is given as a decimal (<c>0.004</c>), so that it never disappears. For showing only.
    /// </summary>
    public string ToInchText()
    {
        var parts = (long)Math.Round(Inches * FinestFraction, MidpointRounding.AwayFromZero);
        if (parts == 0)
        {
            return Mm == 0 ? "0" : Inches.ToString("0.000##", CultureInfo.InvariantCulture);
        }

        var (whole, rest) = Math.DivRem(parts, FinestFraction);
        if (rest == 0)
        {
            return whole.ToString(CultureInfo.InvariantCulture);
        }

        var divisor = (long)System.Numerics.BigInteger.GreatestCommonDivisor(rest, FinestFraction);
        var fraction = string.Create(CultureInfo.InvariantCulture, $"{rest / divisor}/{FinestFraction / divisor}");
        return whole == 0 ? fraction : string.Create(CultureInfo.InvariantCulture, $"{whole} {fraction}");
    }

    /// <inheritdoc/>
    public override string ToString() => ToMmText() + " mm";

    public static bool operator <(Length left, Length right) => left.Mm < right.Mm;

    public static bool operator >(Length left, Length right) => left.Mm > right.Mm;

    public static bool operator <=(Length left, Length right) => left.Mm <= right.Mm;

    public static bool operator >=(Length left, Length right) => left.Mm >= right.Mm;
}
