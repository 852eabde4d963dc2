using Gradus.Core.Measure;

namespace Gradus.Core.Planning;

/// <summary>How much more the gains of somebody count whose day is near.</summary>
public static class Nearness
{
    /// <summary>1 for somebody without a day, or with one far off; up to <c>nearWeight</c> as the nearest of them comes.</summary>
    /// <param name="days">The days of sittings, and until when a job needs the student.</param>
    /// <param name="monday">The Monday of the week that is planned.</param>
    public static double Weight(IEnumerable<DateOnly> days, DateOnly monday)
    {
        var ahead = days.Select(day => day.DayNumber - monday.DayNumber).ToList();
        return ahead.Count == 0 ? 1 : 1 + ((TradeNumbers.Of("nearWeight") - 1) * Math.Clamp(1 - (ahead.Min() / TradeNumbers.Of("nearDays")), 0, 1));
    }
}
