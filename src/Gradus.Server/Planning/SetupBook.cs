using Gradus.Core.Measure;
using Gradus.Core.Planning;
using Gradus.Data;
using Gradus.Server.Library;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Planning;

/// <summary>What planning goes by, the school's own where it has set it.</summary>
public sealed record Setup(WeekSetup Week, StepGraph Graph, IReadOnlyDictionary<string, double> Prices, Saw Saw, string? FeedKey)
{
    public int Slots => WeekDays.Count * Week.PeriodNames.Count;

    /// <summary>The slot of a period of a day, Monday first.</summary>
    public int SlotOf(DateOnly day, DateOnly monday, int period) => ((day.DayNumber - monday.DayNumber) * Week.PeriodNames.Count) + period;

    public DateOnly DayOf(DateOnly monday, int slot) => monday.AddDays(slot / Week.PeriodNames.Count);

    public int PeriodOf(int slot) => slot % Week.PeriodNames.Count;

    /// <summary>Whether a class meets in a period of a day.</summary>
    public bool Meets(ClassGroup group, DateOnly day, int period) =>
        group.MeetsOn.Contains(day.DayOfWeek) && (!Week.ClassPeriods.TryGetValue(group.Id, out var periods) || periods.Contains(period));

    /// <summary>When a period of the day is over: when the next begins, the last of them with the day, as on the floor.</summary>
    public TimeOnly EndOf(int period) => period + 1 < Week.PeriodStarts.Count ? Week.PeriodStarts[period + 1] : TimeOnly.MaxValue;

    /// <summary>How many hold points can be answered in a slot: by everybody who teaches a class that meets then.</summary>
    public int HoldPointsIn(IReadOnlyList<ClassGroup> classes, DateOnly monday, int slot)
    {
        var meeting = classes.Where(group => Meets(group, DayOf(monday, slot), PeriodOf(slot))).ToList();
        var teachers = meeting.SelectMany(group => Week.ClassTeachers?.GetValueOrDefault(group.Id) ?? []).Distinct().ToList();

        // Classes of which nobody said who teaches them have one instructor together.
        var unnamed = meeting.Count == 0 || meeting.Exists(group => Week.ClassTeachers?.GetValueOrDefault(group.Id) is null or { Count: 0 });
        return teachers.Sum(teacher => Week.TeacherHoldPoints?.TryGetValue(teacher, out var own) == true ? own : Week.HoldPointsPerPeriod)
            + (unnamed ? Week.HoldPointsPerPeriod : 0);
    }

    /// <summary>The period of the day that has begun last; the first one before it begins.</summary>
    public int PeriodAt(TimeOnly time) => Math.Max(0, Week.PeriodStarts.Count(start => start <= time) - 1);
}

/// <summary>Reads and changes what planning goes by. Every change is a row of its own.</summary>
public sealed class SetupBook(GradusContext db, SchoolLibrary library, TimeProvider time)
{
    /// <summary>The week of a school that has set nothing: chosen defaults.</summary>
    public static WeekSetup DefaultWeek { get; } =
        new(
            ["Morning", "Afternoon", "Evening"],
            [new TimeOnly(8, 0), new TimeOnly(12, 30), new TimeOnly(17, 0)],
            TradeNumbers.Of("hoursPerPeriod"),
            12,
            1,
            5,
            new Dictionary<Guid, IReadOnlyList<int>>()
        );

    private static readonly Saw DefaultSaw = new(TradeNumbers.Of("kerfMm"), TradeNumbers.Of("gripMm"), TradeNumbers.Of("keepOffCutMm"));

    public async Task<Setup> Read(CancellationToken cancel)
    {
        var row = await Latest(cancel);
        var prices = Price.Shipped.ToDictionary(price => price.Id, price => price.Amount, StringComparer.Ordinal);
        foreach (var (id, amount) in row?.Prices ?? [])
        {
            prices[id] = amount;
        }

        return new Setup(row?.Week ?? DefaultWeek, Graph(row?.Steps ?? StepGraph.Shipped), prices, row?.Saw ?? DefaultSaw, row?.FeedKey);
    }

    /// <summary>Keeps what was changed; the rest stays as it was.</summary>
    public async Task Save(
        Guid by,
        CancellationToken cancel,
        WeekSetup? week = null,
        IReadOnlyList<Step>? steps = null,
        Dictionary<string, double>? prices = null,
        Saw? saw = null,
        bool isNewFeed = false
    )
    {
        var row = await Latest(cancel);
        var now = time.GetUtcNow();
        var at = row?.SavedAt >= now ? row.SavedAt.AddMilliseconds(1) : now; // the latest holds
        db.PlanSetups.Add(
            new PlanSetup
            {
                Id = Guid.CreateVersion7(at),
                Week = week ?? row?.Week,
                Steps = steps ?? row?.Steps,
                Prices = prices ?? row?.Prices,
                Saw = saw ?? row?.Saw,
                FeedKey =
                    isNewFeed || row is null
                        ? Convert.ToHexStringLower(System.Security.Cryptography.RandomNumberGenerator.GetBytes(16))
                        : row.FeedKey,
                SavedAt = at,
                SavedBy = by,
            }
        );
        await db.SaveChangesAsync(cancel);
    }

    private Task<PlanSetup?> Latest(CancellationToken cancel) =>
        db.PlanSetups.AsNoTracking().OrderByDescending(one => one.SavedAt).ThenByDescending(one => one.Id).FirstOrDefaultAsync(cancel);

    // A test that the school has taken out of its library since takes its step with it.
    private StepGraph Graph(IReadOnlyList<Step> steps) =>
        StepGraph.Of(
            [
                .. steps
                    .Where(step => library.Tests.ContainsKey(step.Test))
                    .Select(step =>
                        step with
                        {
                            After =
                            [
                                .. step
                                    .After.Select(group => (IReadOnlyList<string>)[.. group.Where(library.Tests.ContainsKey)])
                                    .Where(group => group.Count > 0),
                            ],
                        }
                    ),
            ],
            library.Tests.Keys
        );
}
