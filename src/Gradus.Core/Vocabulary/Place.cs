using System.Globalization;
using Gradus.Core.Measure;

namespace Gradus.Core.Vocabulary;

/// <summary>A named place along a plate.</summary>
public enum PlateMark
{
    Start,
    Middle,
    End,
}

/// <summary>A place on a joint: on pipe a clock position; on plate so many mm from the start, or its start, middle or end.</summary>
public readonly record struct Place
{
    /// <summary>The furthest from the start that a place on a plate can be, in mm.</summary>
    public const double MostMm = 2000;

    private Place(ClockPosition? clock, double? fromStartMm, PlateMark? mark) => (Clock, FromStartMm, Mark) = (clock, fromStartMm, mark);

    /// <summary>The place on the clock; null on plate.</summary>
    public ClockPosition? Clock { get; }

    /// <summary>Distance from the start in mm; null on pipe, and where only a mark was named.</summary>
    public double? FromStartMm { get; }

    /// <summary>The mark that was named; null where it was not.</summary>
    public PlateMark? Mark { get; }

    /// <summary>A place on pipe.</summary>
    public static Place At(ClockPosition clock) => new(clock, null, null);

    /// <summary>A place on plate.</summary>
    /// <exception cref="ArgumentOutOfRangeException">Not from 0 to <see cref="MostMm"/>.</exception>
    public static Place At(double fromStartMm) =>
        fromStartMm is >= 0 and <= MostMm
            ? new(null, fromStartMm, null)
            : throw new ArgumentOutOfRangeException(nameof(fromStartMm), fromStartMm, "A place on plate is from 0 to 2000 mm from its start.");

    /// <summary>A mark on plate.</summary>
    public static Place At(PlateMark mark) => new(null, null, mark);

    /// <summary>
    /// Reads a place as it is written: <c>4:30</c>, <c>start</c>, <c>middle</c>, <c>end</c>, or mm from the start. A bare number is an hour on pipe
    /// and a distance on plate.
    /// </summary>
    /// <returns>False when it is no place at all.</returns>
    public static bool TryParse(string? text, Product product, out Place place)
    {
        place = default;
        if (string.IsNullOrEmpty(text))
        {
            return false;
        }

        if ((product == Product.Pipe || text.Contains(':', StringComparison.Ordinal)) && ClockPosition.TryParse(text, out var clock))
        {
            place = At(clock);
        }
        else if (char.IsAsciiLetter(text[0]) && Enum.TryParse<PlateMark>(text, ignoreCase: true, out var mark))
        {
            place = At(mark);
        }
        else if (double.TryParse(text, NumberStyles.Float, CultureInfo.InvariantCulture, out var mm) && mm is >= 0 and <= MostMm)
        {
            place = At(mm);
        }
        else
        {
            return false;
        }

        return true;
    }

    /// <summary>Distance along a plate of a length, in mm; null on pipe.</summary>
    public double? AlongMm(double lengthMm) =>
        Mark switch
        {
            PlateMark.Start => 0,
            PlateMark.Middle => lengthMm / 2,
            PlateMark.End => lengthMm,
            _ => FromStartMm,
        };

    /// <summary>As it is written; <see cref="TryParse"/> reads it back to the same place.</summary>
    public override string ToString() =>
        Clock is { } clock ? clock.ToString()
        : Mark is { } mark ? mark.ToString().ToLowerInvariant()
        : FromStartMm is { } mm ? mm.ToString("R", CultureInfo.InvariantCulture)
        : "";
}
