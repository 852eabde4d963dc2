namespace Gradus.Server.School;

/// <summary>When the school is backed up by itself, and which of those backups stay.</summary>
public static class BackupRule
{
    public const int Days = 7;
    public const int Weeks = 4;
    public const int Months = 12;

    /// <summary>Nobody welds then.</summary>
    public static readonly TimeOnly AtNight = new(2, 0);

    /// <summary>So long without a backup, and the lead is told.</summary>
    public static readonly TimeSpan LateAfter = TimeSpan.FromDays(2);

    /// <summary>Whether one is due: none was made since the last night. A machine that is off at night makes it when it is on again.</summary>
    /// <param name="last">When the last one was made; null: never. One from the future says nothing: the clock was put back.</param>
    /// <param name="now">The moment.</param>
    /// <param name="clock">The school's days and nights.</param>
    public static bool IsDue(DateTimeOffset? last, DateTimeOffset now, SchoolClock clock)
    {
        var today = clock.DayOf(now);
        var night = clock.At(today, AtNight) is var tonight && tonight <= now ? tonight : clock.At(today.AddDays(-1), AtNight);
        return last is not { } made || made > now || made < night;
    }

    /// <summary>Whether the lead is told that there is none that is new enough: one that was never made counts from when it failed.</summary>
    public static bool IsLate(DateTimeOffset? last, bool hasFailed, DateTimeOffset now) => last is { } made ? now - made > LateAfter : hasFailed;

    /// <summary>
    /// Which stay: the last of each of seven days, of four weeks and of twelve months that have one. A day without a backup does not cost an older
    /// one its place.
    /// </summary>
    /// <param name="made">When each was made.</param>
    /// <param name="dayOf">The school's day of a moment.</param>
    public static IReadOnlySet<DateTimeOffset> Kept(IEnumerable<DateTimeOffset> made, Func<DateTimeOffset, DateOnly> dayOf)
    {
        var latestFirst = made.Order().Reverse().Select(at => (At: at, Day: dayOf(at))).ToList();
        IEnumerable<DateTimeOffset> LastOf<TKey>(int count, Func<DateOnly, TKey> span) =>
            latestFirst.DistinctBy(one => span(one.Day)).Take(count).Select(one => one.At);
        return LastOf(Days, day => day)
            .Concat(LastOf(Weeks, Core.Planning.WeekDays.MondayOf))
            .Concat(LastOf(Months, day => (day.Year, day.Month)))
            .ToHashSet();
    }
}
