using System.Globalization;
using System.Text;
using CsvHelper;
using CsvHelper.Configuration;
using Gradus.Core.Planning;
using Gradus.Data;
using Gradus.Server.Hosting;
using Gradus.Server.Library;
using Gradus.Server.School;
using Ical.Net.CalendarComponents;
using Ical.Net.DataTypes;
using Ical.Net.Serialization;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Planning;

/// <summary>The week as files: a calendar (RFC 5545) and tables. For signed-in instructors; the calendar feed for whoever has its address.</summary>
public static class ExportEndpoints
{
    private const int FeedWeeks = 8;
    private static readonly CsvConfiguration Csv = new(CultureInfo.InvariantCulture) { InjectionOptions = InjectionOptions.Escape };

    public static void MapExports(this IEndpointRouteBuilder routes)
    {
        var week = routes.MapGroup("/api/weeks/{monday}").WithTags("Plan").OnMondays();
        week.MapGet("/plan.csv", PlanCsv).Produces<string>(contentType: "text/csv");
        week.MapGet("/cutlist.csv", CutCsv).Produces<string>(contentType: "text/csv");
        week.MapGet("/draws.csv", DrawsCsv).Produces<string>(contentType: "text/csv");
        week.MapGet("/calendar.ics", WeekCalendar).Produces<string>(contentType: "text/calendar");
        routes.MapGet("/calendar/{key}.ics", Feed).WithTags("Plan").Produces<string>(contentType: "text/calendar").ProducesProblem(404);
    }

    private sealed record Entry(
        DateOnly Day,
        string Period,
        TimeOnly Starts,
        double Hours,
        string Student,
        Guid StudentId,
        int Booth,
        PlannedCell Cell,
        Guid PlanId
    );

    private static async Task<List<Entry>> Entries(GradusContext db, WeekBuilder weeks, Setup setup, DateOnly monday, CancellationToken cancel)
    {
        if (await weeks.Plan(monday, cancel) is not { } plan)
        {
            return [];
        }

        var names = await db.Students.Select(one => new { one.Id, one.Name }).ToDictionaryAsync(one => one.Id, one => one.Name, cancel);
        var numbers = await db.Booths.ToDictionaryAsync(one => one.Id, one => one.Number, cancel);
        return
        [
            .. plan
                .Cells.Where(cell => cell.Slot < setup.Slots && names.ContainsKey(cell.StudentId) && numbers.ContainsKey(cell.BoothId))
                .OrderBy(cell => cell.Slot)
                .ThenBy(cell => numbers[cell.BoothId])
                .Select(cell => new Entry(
                    setup.DayOf(monday, cell.Slot),
                    setup.Week.PeriodNames[setup.PeriodOf(cell.Slot)],
                    setup.Week.PeriodStarts[setup.PeriodOf(cell.Slot)],
                    setup.Week.HoursPerPeriod,
                    names[cell.StudentId],
                    cell.StudentId,
                    numbers[cell.BoothId],
                    cell,
                    plan.Id
                )),
        ];
    }

    private static async Task<IResult> PlanCsv(DateOnly monday, GradusContext db, WeekBuilder weeks, SetupBook setups, CancellationToken cancel)
    {
        var entries = await Entries(db, weeks, await setups.Read(cancel), monday, cancel);
        return Table(
            $"plan-{monday:yyyy-MM-dd}.csv",
            ["day", "period", "booth", "student", "test", "item", "pinned", "gain", "cost", "why"],
            entries.Select(one =>
                (object?[])
                    [
                        $"{one.Day:yyyy-MM-dd}",
                        one.Period,
                        one.Booth,
                        one.Student,
                        one.Cell.TestId,
                        one.Cell.Name,
                        one.Cell.Pinned,
                        one.Cell.Gain,
                        one.Cell.Cost,
                        one.Cell.Why,
                    ]
            )
        );
    }

    private static async Task<IResult> CutCsv(DateOnly monday, CutBook book, CancellationToken cancel)
    {
        var view = await book.Read(monday, cancel);
        return Table(
            $"cutlist-{monday:yyyy-MM-dd}.csv",
            ["stock", "bar", "barMm", "offCut", "cutMm", "leftMm"],
            view.Sections.SelectMany(section =>
                section.Plan.Bars.SelectMany(
                    (bar, index) => bar.Cuts.Select(cut => (object?[])[section.Stock, index + 1, bar.LengthMm, bar.OffCut, cut, bar.LeftMm])
                )
            )
        );
    }

    private static async Task<IResult> DrawsCsv(DateOnly monday, CutBook book, CancellationToken cancel)
    {
        var view = await book.Read(monday, cancel);
        return Table(
            $"draws-{monday:yyyy-MM-dd}.csv",
            ["stock", "unit", "amount", "cost", "level", "weeksLeft"],
            view.Draws.Select(draw => (object?[])[draw.Stock, draw.Unit, draw.Amount, draw.Cost, draw.Level, draw.WeeksLeft])
        );
    }

    private static FileContentHttpResult Table(string name, string[] columns, IEnumerable<object?[]> rows)
    {
        var text = new StringWriter(CultureInfo.InvariantCulture);
        using (var csv = new CsvWriter(text, Csv))
        {
            foreach (var line in rows.Prepend(columns))
            {
                foreach (var field in line)
                {
                    csv.WriteField(field);
                }

                csv.NextRecord();
            }
        }

        return TypedResults.File(Encoding.UTF8.GetBytes(text.ToString()), "text/csv; charset=utf-8", name);
    }

    private static async Task<IResult> WeekCalendar(
        DateOnly monday,
        GradusContext db,
        WeekBuilder weeks,
        SetupBook setups,
        SchoolLibrary library,
        CancellationToken cancel,
        Guid? student = null
    ) => await Calendar(await Entries(db, weeks, await setups.Read(cancel), monday, cancel), db, library, student, cancel);

    private static async Task<IResult> Feed(
        string key,
        GradusContext db,
        WeekBuilder weeks,
        SetupBook setups,
        SchoolLibrary library,
        SchoolClock clock,
        CancellationToken cancel,
        Guid? student = null
    )
    {
        var setup = await setups.Read(cancel);
        if (
            setup.FeedKey is not { } right
            || !System.Security.Cryptography.CryptographicOperations.FixedTimeEquals(Encoding.UTF8.GetBytes(right), Encoding.UTF8.GetBytes(key))
        )
        {
            return Refusal.NotFound("key", "The address of the school's calendar, as the plan's settings show it.").ToResult();
        }

        var monday = clock.Monday.AddDays(-7);
        var entries = new List<Entry>();
        for (var index = 0; index < FeedWeeks; index++)
        {
            entries.AddRange(await Entries(db, weeks, setup, monday.AddDays(7 * index), cancel));
        }

        return await Calendar(entries, db, library, student, cancel);
    }

    private static async Task<IResult> Calendar(List<Entry> entries, GradusContext db, SchoolLibrary library, Guid? student, CancellationToken cancel)
    {
        var school = await db.Schools.AsNoTracking().SingleAsync(cancel);
        var calendar = new Ical.Net.Calendar { ProductId = "-//Gradus//Week//EN" };
        calendar.AddTimeZone(VTimeZone.FromDateTimeZone(school.TimeZone));
        foreach (var one in entries.Where(one => student is null || one.StudentId == student))
        {
            var start = new CalDateTime(one.Day.ToDateTime(one.Starts), school.TimeZone);
            calendar.Events.Add(
                new CalendarEvent
                {
                    // The same cell keeps its identity over changes of the plan, so that a calendar moves it instead of doubling it.
                    Uid = $"{one.StudentId:N}-{one.Day:yyyyMMdd}-{one.Cell.Slot}@gradus",
                    Summary = $"{one.Student}: {one.Cell.Name}, {one.Cell.TestId}",
                    Description = $"{library.Tests.GetValueOrDefault(one.Cell.TestId)?.Title}. {one.Cell.Why}",
                    Location = $"Booth {one.Booth}",
                    Start = start,
                    Duration = Duration.FromMinutes((int)(one.Hours * 60)),
                }
            );
        }

        return TypedResults.Text(new CalendarSerializer().SerializeToString(calendar) ?? "", "text/calendar; charset=utf-8");
    }
}
