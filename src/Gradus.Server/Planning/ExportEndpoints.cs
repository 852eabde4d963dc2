using System.Text;
using Gradus.Core.Planning;
using Gradus.Data;
using Gradus.Server.Hosting;
using Gradus.Server.Library;
using Gradus.Server.Qualifications;
using Gradus.Server.School;
using Ical.Net.CalendarComponents;
using Ical.Net.DataTypes;
using Ical.Net.Serialization;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Planning;

/// <summary>The week as files: a calendar (RFC 5545) and tables. For signed-in instructors; the calendar feed for whoever has its address.</summary>
public static class ExportEndpoints
{
    private const int FeedWeeks = 8;
    private const int MostDates = 500;

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
        return CsvTable.File(
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
        return CsvTable.File(
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
        return CsvTable.File(
            $"draws-{monday:yyyy-MM-dd}.csv",
            ["stock", "unit", "amount", "cost", "level", "weeksLeft"],
            view.Draws.Select(draw => (object?[])[draw.Stock, draw.Unit, draw.Amount, draw.Cost, draw.Level, draw.WeeksLeft])
        );
    }

    private static async Task<IResult> WeekCalendar(
        DateOnly monday,
        GradusContext db,
        WeekBuilder weeks,
        SetupBook setups,
        SchoolLibrary library,
        CancellationToken cancel,
        Guid? student = null
    )
    {
        var setup = await setups.Read(cancel);
        return await Calendar(
            await Entries(db, weeks, setup, monday, cancel),
            await Dates(db, setup, library, monday, monday.AddDays(6), cancel),
            db,
            library,
            student,
            cancel
        );
    }

    private static async Task<IResult> Feed(
        string key,
        GradusContext db,
        WeekBuilder weeks,
        SetupBook setups,
        SchoolLibrary library,
        SchoolClock clock,
        HoldsReader holds,
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

        var to = monday.AddDays((7 * FeedWeeks) - 1);
        return await Calendar(
            entries,
            [.. await Dates(db, setup, library, monday, to, cancel), .. await Ends(db, holds, monday, to, cancel)],
            db,
            library,
            student,
            cancel
        );
    }

    // A date beside the plan: a sitting, or the last day of a qualification.
    private sealed record Dated(string Uid, Guid StudentId, string Summary, string? Detail, DateOnly Day, TimeOnly? Starts, double Hours, bool Off);

    private static async Task<List<Dated>> Dates(
        GradusContext db,
        Setup setup,
        SchoolLibrary library,
        DateOnly from,
        DateOnly to,
        CancellationToken cancel
    )
    {
        var rows = await db
            .Sittings.AsNoTracking()
            .Where(one => one.Day >= from && one.Day <= to)
            .OrderBy(one => one.Day)
            .Take(MostDates)
            .Join(db.Students, one => one.StudentId, student => student.Id, (one, student) => new { Sitting = one, student.Name })
            .ToListAsync(cancel);
        return
        [
            .. rows.Select(row =>
            {
                var one = row.Sitting;
                return new Dated(
                    $"sitting-{one.Id:N}@gradus",
                    one.StudentId,
                    $"Sitting: {row.Name}, {one.TestId}",
                    one.CancelledWhy
                        ?? string.Join(
                            ". ",
                            new[] { library.Tests.GetValueOrDefault(one.TestId)?.Title, one.Procedure, one.InspectorName }.OfType<string>()
                        ),
                    one.Day,
                    one.Period < setup.Week.PeriodStarts.Count ? setup.Week.PeriodStarts[one.Period] : null,
                    setup.Week.HoursPerPeriod,
                    one.CancelledAt is not null || one.VoidedAt is not null
                );
            }),
        ];
    }

    private static async Task<List<Dated>> Ends(GradusContext db, HoldsReader holds, DateOnly from, DateOnly to, CancellationToken cancel)
    {
        var ending = (await holds.Read(null, cancel)).Where(one => one.Keeping.EndsOn >= from && one.Keeping.EndsOn <= to).Take(MostDates).ToList();
        var ids = ending.Select(one => one.StudentId).Distinct().ToList();
        var names = await db.Students.Where(one => ids.Contains(one.Id)).ToDictionaryAsync(one => one.Id, one => one.Name, cancel);
        return ending.ConvertAll(one => new Dated(
            $"ends-{one.Id:N}-{one.Process}@gradus",
            one.StudentId,
            $"{names[one.StudentId]}: last day of {one.Process}, record {one.Number}",
            $"{one.Title}. It ends unless the process is used and signed for by then.",
            one.Keeping.EndsOn,
            null,
            0,
            false
        ));
    }

    private static async Task<IResult> Calendar(
        List<Entry> entries,
        List<Dated> dates,
        GradusContext db,
        SchoolLibrary library,
        Guid? student,
        CancellationToken cancel
    )
    {
        var school = await db.Schools.AsNoTracking().SingleAsync(cancel);
        var calendar = new Ical.Net.Calendar { ProductId = "-//Gradus//Week//EN" };
        calendar.AddTimeZone(VTimeZone.FromDateTimeZone(school.TimeZone));
        // A sitting stands there as itself, with its own time.
        foreach (
            var one in entries.Where(one =>
                (student is null || one.StudentId == student) && !one.Cell.ItemId.StartsWith(WeekFacts.SittingItem, StringComparison.Ordinal)
            )
        )
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

        foreach (var one in dates.Where(one => student is null || one.StudentId == student))
        {
            calendar.Events.Add(
                new CalendarEvent
                {
                    Uid = one.Uid,
                    Summary = one.Summary,
                    Description = one.Detail,
                    Status = one.Off ? "CANCELLED" : "CONFIRMED", // so that a calendar that has it takes it away
                    Start = one.Starts is { } starts ? new CalDateTime(one.Day.ToDateTime(starts), school.TimeZone) : new CalDateTime(one.Day),
                    Duration = one.Starts is null ? Duration.FromDays(1) : Duration.FromMinutes((int)(one.Hours * 60)),
                }
            );
        }

        return TypedResults.Text(new CalendarSerializer().SerializeToString(calendar) ?? "", "text/calendar; charset=utf-8");
    }
}
