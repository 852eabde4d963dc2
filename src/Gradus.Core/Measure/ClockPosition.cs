using System.Globalization;
using System.Text.RegularExpressions;

namespace Gradus.Core.Measure;

/// <summary>The part of a fixed pipe that a clock position lies in.</summary>
public enum PipeZone
{
    /// <summary>10:30 over the top to 1:30.</summary>
    Top,

    /// <summary>Between the top and the bottom, either side.</summary>
    Side,

    /// <summary>4:30 under the pipe to 7:30.</summary>
    Bottom,
}

/// <summary>A place round a pipe, read like a clock face looked at from the welder's usual side: 12 at the top, minutes as on a clock.</summary>
public readonly partial record struct ClockPosition
{
    /// <summary>Minutes once round the clock.</summary>
    public const int MinutesRound = 12 * 60;

    private ClockPosition(int minutes) => Minutes = minutes;

    /// <summary>Minutes past twelve, 0 to 719.</summary>
    public int Minutes { get; }

    /// <summary>Angle from twelve o'clock, clockwise, 0 to under 360 degrees.</summary>
    public double Degrees => Minutes * 360.0 / MinutesRound;

    /// <summary>The zone it lies in; the borders 4:30 and 7:30 belong to the bottom, 10:30 and 1:30 to the top.</summary>
    public PipeZone Zone =>
        Minutes switch
        {
            >= 270 and <= 450 => PipeZone.Bottom,
            <= 90 or >= 630 => PipeZone.Top,
            _ => PipeZone.Side,
        };

    /// <summary>The shorter way round to another place, in minutes: 0 to 360.</summary>
    public int MinutesFrom(int otherMinutes)
    {
        var apart = Math.Abs(Minutes - otherMinutes) % MinutesRound;
        return Math.Min(apart, MinutesRound - apart);
    }

    /// <summary>A clock position from minutes past twelve.</summary>
    /// <exception cref="ArgumentOutOfRangeException">Not from 0 to 719.</exception>
    public static ClockPosition FromMinutes(int minutes) =>
        minutes is >= 0 and < MinutesRound
            ? new ClockPosition(minutes)
            : throw new ArgumentOutOfRangeException(nameof(minutes), minutes, "Minutes past twelve are from 0 to 719.");

    /// <summary>Reads <c>4:30</c>, <c>12</c> or <c>6:00</c>: hours 1 to 12, minutes 00 to 59.</summary>
    public static bool TryParse(string? text, out ClockPosition position)
    {
        position = default;
        var match = Shape().Match(text ?? "");
        if (!match.Success)
        {
            return false;
        }

        var hour = int.Parse(match.Groups["h"].ValueSpan, CultureInfo.InvariantCulture);
        var minute = match.Groups["m"].Success ? int.Parse(match.Groups["m"].ValueSpan, CultureInfo.InvariantCulture) : 0;
        if (hour is < 1 or > 12 || minute > 59)
        {
            return false;
        }

        position = new ClockPosition((hour % 12 * 60) + minute);
        return true;
    }

    /// <summary>As <see cref="TryParse"/>.</summary>
    /// <exception cref="FormatException">Not a place on the clock.</exception>
    public static ClockPosition Parse(string text) =>
        TryParse(text, out var position) ? position : throw new FormatException($"'{text}' is not a place on the clock (1:00 to 12:59).");

    /// <inheritdoc/>
    public override string ToString() => string.Create(CultureInfo.InvariantCulture, $"{(Minutes / 60 == 0 ? 12 : Minutes / 60)}:{Minutes % 60:00}");

    [GeneratedRegex(@"^(?<h>\d{1,2})(:(?<m>\d{2}))?$")]
    private static partial Regex Shape();
}
