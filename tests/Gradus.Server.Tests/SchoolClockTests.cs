using System.Net.Http.Json;
using System.Text.Json;
using Gradus.Server.School;
using Microsoft.Extensions.Time.Testing;

namespace Gradus.Server.Tests;

/// <summary>The school's day is the day at the school, wherever the server and its tablets think they are.</summary>
public sealed class SchoolClockTests
{
    private static SchoolClock At(string zone, string utc)
    {
        var clock = new SchoolClock(new FakeTimeProvider(DateTimeOffset.Parse(utc, System.Globalization.CultureInfo.InvariantCulture)));
        clock.Use(zone);
        return clock;
    }

    // IANA time zone database: Chicago is 6 h behind UTC in winter and 5 h in summer, Oslo 1 h and 2 h before it.
    [Theory]
    [InlineData("America/Chicago", "2031-03-05T03:00:00Z", "2031-03-04", "21:00", "2031-03-03")]
    [InlineData("America/Chicago", "2031-03-03T05:59:00Z", "2031-03-02", "23:59", "2031-02-24")] // Sunday night
    [InlineData("Europe/Oslo", "2031-03-02T23:30:00Z", "2031-03-03", "00:30", "2031-03-03")]
    [InlineData("Europe/Oslo", "2031-07-01T22:30:00Z", "2031-07-02", "00:30", "2031-06-30")]
    [InlineData("Pacific/Auckland", "2031-03-04T11:00:00Z", "2031-03-05", "00:00", "2031-03-03")]
    public void Today_is_the_day_at_the_school(string zone, string utc, string today, string time, string monday)
    {
        var clock = At(zone, utc);
        Assert.Equal(
            (
                DateOnly.Parse(today, System.Globalization.CultureInfo.InvariantCulture),
                TimeOnly.Parse(time, System.Globalization.CultureInfo.InvariantCulture),
                DateOnly.Parse(monday, System.Globalization.CultureInfo.InvariantCulture)
            ),
            (clock.Today, clock.TimeOfDay, clock.Monday)
        );
    }

    // 2031: the clocks of the EU go forward on 30 March and back on 26 October at 01:00 UTC, those of the US on 9 March and 2 November at 2 in the night.
    [Theory]
    [InlineData("Europe/Oslo", "2031-03-30", 23)]
    [InlineData("Europe/Oslo", "2031-10-26", 25)]
    [InlineData("America/Chicago", "2031-03-09", 23)]
    [InlineData("America/Chicago", "2031-11-02", 25)]
    [InlineData("America/Chicago", "2031-03-04", 24)]
    public void A_day_is_as_long_as_its_clocks_make_it(string zone, string day, int hours)
    {
        var clock = At(zone, "2031-01-01T12:00:00Z");
        var date = DateOnly.Parse(day, System.Globalization.CultureInfo.InvariantCulture);
        var (begins, next) = (clock.BeginningOf(date), clock.BeginningOf(date.AddDays(1)));
        Assert.Equal(hours, (next - begins).TotalHours);
        Assert.Equal((date, date), (clock.DayOf(begins), clock.DayOf(next.AddMilliseconds(-1))));
        Assert.Equal(date.AddDays(1), clock.DayOf(next));
    }

    // Of whatever zones the machine knows: a day begins once, after the one before, and all of it lies on it.
    [Fact]
    public void In_every_zone_each_day_of_a_year_begins_once_and_they_follow_each_other()
    {
        var wrong = new List<string>();
        foreach (var zone in TimeZoneInfo.GetSystemTimeZones())
        {
            var clock = At(zone.Id, "2031-01-01T12:00:00Z");
            for (var day = new DateOnly(2031, 1, 1); day.Year == 2031; day = day.AddDays(1))
            {
                var (begins, next) = (clock.BeginningOf(day), clock.BeginningOf(day.AddDays(1)));
                var hours = (next - begins).TotalHours;
                if (
                    clock.DayOf(begins) != day
                    || clock.DayOf(begins.AddMilliseconds(-1)) != day.AddDays(-1)
                    || clock.DayOf(next.AddMilliseconds(-1)) != day
                    || hours is < 22 or > 26
                )
                {
                    wrong.Add($"{zone.Id} {day}: {hours} h");
                }
            }
        }

        Assert.Empty(wrong);
    }

    [Fact]
    public void A_time_that_the_clocks_skip_is_the_first_that_there_is_and_one_that_they_show_twice_is_the_first()
    {
        var oslo = At("Europe/Oslo", "2031-01-01T12:00:00Z");
        Assert.Equal(new DateTimeOffset(2031, 3, 30, 1, 0, 0, TimeSpan.Zero), oslo.At(new DateOnly(2031, 3, 30), new TimeOnly(2, 30)));
        Assert.Equal(new DateTimeOffset(2031, 10, 26, 0, 30, 0, TimeSpan.Zero), oslo.At(new DateOnly(2031, 10, 26), new TimeOnly(2, 30)));
        Assert.Equal(
            new DateOnly(2031, 9, 7),
            At("America/Santiago", "2031-01-01T12:00:00Z").DayOf(At("America/Santiago", "2031-01-01T12:00:00Z").BeginningOf(new DateOnly(2031, 9, 7)))
        ); // midnight itself is skipped
    }

    [Theory]
    [InlineData("America/Chicago", "2031-03-04T03:00:00Z", "2031-03-03")] // a Monday evening there, Tuesday in UTC
    [InlineData("Europe/Oslo", "2031-03-03T23:30:00Z", "2031-03-04")] // Tuesday there already
    [InlineData("America/Chicago", "2031-03-09T07:30:00Z", "2031-03-09")] // half an hour before the clocks go forward
    [InlineData("America/Chicago", "2031-11-02T06:30:00Z", "2031-11-02")] // the hour that comes twice
    public async Task Every_page_goes_by_the_same_day(string zone, string utc, string today)
    {
        await using var server = new RunningServer { Zone = zone };
        var at = DateTimeOffset.Parse(utc, System.Globalization.CultureInfo.InvariantCulture);
        server.Clock.AdjustTime(at);
        var client = await server.SignedIn();
        var student = await client.AddStudent();
        Assert.Equal(today, (await client.GetFromJsonAsync<JsonElement>("/api/session")).GetProperty("today").GetString());
        Assert.Equal(today, (await client.GetFromJsonAsync<JsonElement>("/api/floor")).GetProperty("today").GetString());
        object Result(string day) =>
            new
            {
                studentId = student,
                testId = "P8",
                day,
                passed = true,
            };
        (await client.PutAsJsonAsync($"/api/results/{Guid.CreateVersion7()}", Result(today))).EnsureSuccessStatusCode();
        var tomorrow = DateOnly.Parse(today, System.Globalization.CultureInfo.InvariantCulture).AddDays(1);
        Assert.Equal(
            ["day"],
            await (await client.PutAsJsonAsync($"/api/results/{Guid.CreateVersion7()}", Result($"{tomorrow:yyyy-MM-dd}"))).Fields(400)
        );
        await Walk.EveryView(client, [student]);
    }
}
