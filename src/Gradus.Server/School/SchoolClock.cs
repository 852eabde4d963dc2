using Gradus.Data;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.School;

/// <summary>The one clock of the school: what day it is there, on which day a moment lies, when a day begins.</summary>
public sealed class SchoolClock(TimeProvider time)
{
    private volatile TimeZoneInfo zone = TimeZoneInfo.Utc;

    /// <summary>The zone in which the school's days are counted.</summary>
    public TimeZoneInfo Zone => zone;

    /// <summary>The moment, in UTC.</summary>
    public DateTimeOffset Now => time.GetUtcNow();

    /// <summary>The day that it is at the school.</summary>
    public DateOnly Today => DayOf(Now);

    /// <summary>The time of day at the school.</summary>
    public TimeOnly TimeOfDay => TimeOfDayAt(Now);

    /// <summary>The time of day at the school at a moment.</summary>
    public TimeOnly TimeOfDayAt(DateTimeOffset at) => TimeOnly.FromDateTime(Local(at));

    /// <summary>The Monday of the school's week.</summary>
    public DateOnly Monday => Core.Planning.WeekDays.MondayOf(Today);

    /// <summary>The day on which a moment lies at the school.</summary>
    public DateOnly DayOf(DateTimeOffset at) => DateOnly.FromDateTime(Local(at));

    /// <summary>When a day begins at the school; where the clocks skip midnight, the first moment that there is.</summary>
    public DateTimeOffset BeginningOf(DateOnly day) => At(day, TimeOnly.MinValue);

    /// <summary>The moment at which the school's clocks show a time: the first of two, and after a gap the first that there is.</summary>
    public DateTimeOffset At(DateOnly day, TimeOnly time)
    {
        var local = day.ToDateTime(time);
        while (zone.IsInvalidTime(local))
        {
            local = local.AddMinutes(15);
        }

        var offset = zone.IsAmbiguousTime(local) ? zone.GetAmbiguousTimeOffsets(local).Max() : zone.GetUtcOffset(local);
        return new DateTimeOffset(local, offset).ToUniversalTime();
    }

    /// <summary>Takes the zone over from the school, once there is one.</summary>
    public async Task Load(GradusContext db, CancellationToken cancel)
    {
        if (await db.Schools.AsNoTracking().Select(school => school.TimeZone).SingleOrDefaultAsync(cancel) is { } id)
        {
            Use(id);
        }
    }

    /// <summary>Takes a zone over.</summary>
    /// <exception cref="TimeZoneNotFoundException">There is no such zone.</exception>
    public void Use(string timeZone) => zone = TimeZoneInfo.FindSystemTimeZoneById(timeZone);

    private DateTime Local(DateTimeOffset at) => TimeZoneInfo.ConvertTime(at, zone).DateTime;
}
