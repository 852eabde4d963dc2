namespace Gradus.Core.Planning;

/// <summary>Weeks begin on a Monday (ISO 8601).</summary>
public static class WeekDays
{
    /// <summary>Days in a week.</summary>
    public const int Count = 7;

    /// <summary>The Monday of the week that a day lies in.</summary>
    public static DateOnly MondayOf(DateOnly day) => day.AddDays(-(((int)day.DayOfWeek + Count - 1) % Count));
}
