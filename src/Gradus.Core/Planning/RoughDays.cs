using System.Globalization;

namespace Gradus.Core.Planning;

/// <summary>Days that are only a forecast, in words that claim no more than is known.</summary>
public static class RoughDays
{
    private const int MidFrom = 11;
    private const int LateFrom = 21;
    private const int DaysInYear = 365;

    /// <summary>From and to as thirds of months: mid-February to late March. Without an end: not before mid-February; open end.</summary>
    /// <param name="today">By it the year is told where it is another one.</param>
    public static string Between(DateOnly from, DateOnly? to, DateOnly today)
    {
        if (to is null || to.Value.DayNumber - from.DayNumber > 2 * DaysInYear)
        {
            return $"not before {Third(from, today)}";
        }

        var (first, last) = (Third(from, today), Third(to.Value, today));
        return first == last ? first : $"{first} to {last}";
    }

    private static string Third(DateOnly day, DateOnly today)
    {
        var month = day.ToString("MMMM", CultureInfo.InvariantCulture);
        var third =
            day.Day < MidFrom ? $"early {month}"
            : day.Day < LateFrom ? $"mid-{month}"
            : $"late {month}";
        return day.Year == today.Year || day.DayNumber - today.DayNumber < DaysInYear / 2 ? third : $"{third} {day.Year}";
    }
}
