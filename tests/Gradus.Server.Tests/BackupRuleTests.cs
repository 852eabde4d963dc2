using Gradus.Server.School;
using Microsoft.Extensions.Time.Testing;

namespace Gradus.Server.Tests;

/// <summary>When a backup is due, and which stay: seven days, four weeks, twelve months.</summary>
public sealed class BackupRuleTests
{
    private static readonly DateTimeOffset Start = new(2031, 3, 4, 2, 0, 0, TimeSpan.Zero);

    private static SchoolClock Clock(string zone)
    {
        var clock = new SchoolClock(new FakeTimeProvider(Start));
        clock.Use(zone);
        return clock;
    }

    // Chicago is six hours behind UTC in winter and five in summer: two at night there is 08:00 or 07:00 UTC (IANA, America/Chicago).
    [Theory]
    [InlineData(null, "2031-03-04T12:00", true)] // never
    [InlineData("2031-03-04T08:00", "2031-03-04T12:00", false)] // last night
    [InlineData("2031-03-04T08:00", "2031-03-05T07:59", false)] // until the next
    [InlineData("2031-03-04T08:00", "2031-03-05T08:00", true)]
    [InlineData("2031-03-03T15:00", "2031-03-04T15:00", true)] // the machine was off at night
    [InlineData("2031-03-03T15:00", "2031-03-04T07:00", false)] // by the school's night, not by Greenwich's
    [InlineData("2031-03-09T07:30", "2031-03-09T08:30", true)] // the night of the 9th, when the clocks skip two: it is at three, 08:00 UTC
    [InlineData("2031-03-09T08:30", "2031-03-10T06:59", false)]
    [InlineData("2031-03-09T08:30", "2031-03-10T07:00", true)] // and from then on at 07:00 UTC
    [InlineData("2033-01-01T00:00", "2031-03-04T12:00", true)] // the clock was put back
    public void One_is_due_once_a_night_of_the_school(string? last, string now, bool isDue) =>
        Assert.Equal(isDue, BackupRule.IsDue(last is null ? null : Utc(last), Utc(now), Clock("America/Chicago")));

    [Fact]
    public void A_year_of_nights_leaves_seven_days_four_weeks_and_twelve_months()
    {
        // Each night for 400 days, and after each the rule has its way, as it does.
        var made = new List<DateTimeOffset>();
        for (var night = 0; night < 400; night++)
        {
            made.Add(Start.AddDays(night));
            made = [.. made.Where(BackupRule.Kept(made, Day).Contains)];
        }

        var last = Start.AddDays(399); // 2032-04-07, a Wednesday
        Assert.Equal(Enumerable.Range(0, 7).Select(ago => last.AddDays(-ago)), made.OrderDescending().Take(7));
        // The last of each week before: Sundays, the second of them within the seven days.
        Assert.All([new DateOnly(2032, 4, 4), new DateOnly(2032, 3, 28), new DateOnly(2032, 3, 21)], day => Assert.Contains(day, made.Select(Day)));
        // The last of each month before.
        for (var month = 1; month < 12; month++)
        {
            var end = new DateOnly(2032, 4, 1).AddMonths(1 - month).AddDays(-1);
            Assert.Contains(end, made.Select(Day));
        }

        Assert.InRange(made.Count, 18, BackupRule.Days + BackupRule.Weeks + BackupRule.Months);
    }

    [Fact]
    public void Nights_without_one_do_not_cost_the_older_ones_their_place()
    {
        // Summer: nothing for ten weeks, then one.
        var made = Enumerable.Range(0, 7).Select(day => Start.AddDays(day)).Append(Start.AddDays(77)).ToList();
        Assert.Equal(made.Skip(1).ToHashSet(), BackupRule.Kept(made, Day).ToHashSet());
    }

    [Fact]
    public void The_lead_is_told_after_two_days_or_when_none_could_ever_be_made()
    {
        Assert.False(BackupRule.IsLate(Start, false, Start.AddDays(2)));
        Assert.True(BackupRule.IsLate(Start, false, Start.AddDays(2).AddSeconds(1)));
        Assert.False(BackupRule.IsLate(null, false, Start));
        Assert.True(BackupRule.IsLate(null, true, Start));
    }

    private static DateTimeOffset Utc(string text) => DateTimeOffset.Parse(text + "Z", System.Globalization.CultureInfo.InvariantCulture);

    private static DateOnly Day(DateTimeOffset at) => DateOnly.FromDateTime(at.UtcDateTime);
}
