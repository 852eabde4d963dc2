using System.Security.Claims;
using FluentValidation;
using Gradus.Data;
using Gradus.Server.Accounts;
using Gradus.Server.Hosting;
using Gradus.Server.Instruments;
using Gradus.Server.School;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Students;

/// <summary>How long things are kept.</summary>
/// <param name="StudentsYears">So many years after they have left students are erased; null: nobody is by itself.</param>
/// <param name="ActsYears">For so many years it is kept who did what; null: for good.</param>
/// <param name="TracesDays">For so many days the measurements of arcs are kept; null: as it stands. What was read from them stays.</param>
public sealed record KeepRule(int? StudentsYears, int? ActsYears, int? TracesDays);

public sealed class KeepRuleValidator : AbstractValidator<KeepRule>
{
    public KeepRuleValidator()
    {
        RuleFor(rule => rule.StudentsYears).Must(IsSpan).WithMessage("Give 1 to 50 years, or nothing.");
        RuleFor(rule => rule.TracesDays).Must(days => days is null or (>= 1 and <= 3660)).WithMessage("Give 1 to 3660 days, or nothing.");
        RuleFor(rule => rule.ActsYears).Must(IsSpan).WithMessage("Give 1 to 50 years, or nothing.");
    }

    private static bool IsSpan(int? years) => years is null or >= 1 and <= 50;
}

/// <summary>Somebody whom the rule erases soon.</summary>
public sealed record SoonErased(Guid StudentId, string Name, DateTimeOffset LeftAt, DateOnly On);

/// <summary>The rule, and whom it is about to erase.</summary>
/// <param name="SaidBy">Who set it last; null: nobody did.</param>
/// <param name="Soon">Those who are erased within ninety days, the next first.</param>
public sealed record KeepView(int? StudentsYears, int? ActsYears, int TracesDays, string? SaidBy, IReadOnlyList<SoonErased> Soon);

/// <summary>
/// What is older than the school keeps it goes by itself. A clock that is wrong erases nobody: the rule waits until the school was in use on a day
/// before this one and not long ago.
/// </summary>
public sealed class Keeping(GradusContext db, Erasure erasure, TraceFiles traces, Writes writes, SchoolClock clock, ClockWatch watch)
{
    private const int MostShown = 50;
    private const int SoonDays = 90;
    private const int MostTracesAtOnce = 500;
    private static readonly TimeSpan InUseWithin = TimeSpan.FromDays(60);
    private static readonly TimeSpan NotOnlyToday = TimeSpan.FromDays(1);

    /// <summary>Does what the rule asks for.</summary>
    /// <returns>How many students were erased.</returns>
    public async Task<int> Apply(CancellationToken cancel)
    {
        if (await db.Schools.AsNoTracking().FirstOrDefaultAsync(cancel) is not { } school || watch.Jump is not null || !await IsInUse(cancel))
        {
            return 0;
        }

        var erased = 0;
        if (school is { KeepStudentsYears: { } years, KeepSaidBy: { } by })
        {
            var due = await Leaving(clock.Now.AddYears(-years)).Select(student => student.Id).ToListAsync(cancel);
            foreach (var id in due)
            {
                await writes.Whole(
                    async () =>
                    {
                        var outcome = await erasure.Erase(id, by, writes, cancel);
                        db.Acts.Add(
                            new Act
                            {
                                At = clock.Now,
                                PersonId = by,
                                Operation = "PUT /api/students/{id}/erased",
                                SubjectId = id,
                                Detail = $"by the rule, {years} {(years == 1 ? "year" : "years")} after leaving",
                            }
                        );
                        await db.SaveChangesAsync(cancel);
                        return outcome;
                    },
                    cancel
                );
                erased++;
            }
        }

        if (school.KeepActsYears is { } acts)
        {
            var oldest = clock.Now.AddYears(-acts);
            await db.Acts.Where(one => one.At < oldest).ExecuteDeleteAsync(cancel);
        }

        await TakeMeasurements(school.KeepTracesDays, cancel);
        return erased;
    }

    /// <summary>Takes away what was measured of arcs longer ago; what was read from it stays.</summary>
    private async Task TakeMeasurements(int days, CancellationToken cancel)
    {
        var (now, oldest) = (clock.Now, clock.Now.AddDays(-days));
        while (
            await db
                .Traces.AsNoTracking()
                .Where(trace => trace.RawGoneAt == null && trace.ArcEndedAt < oldest)
                .OrderBy(trace => trace.ArcEndedAt)
                .Take(MostTracesAtOnce)
                .Select(trace => new { trace.DeviceId, trace.Id })
                .ToListAsync(cancel)
                is { Count: > 0 } old
        )
        {
            var ids = old.Select(trace => trace.Id).ToList();
            await writes.Whole(
                async () =>
                    await db
                        .Traces.Where(trace => ids.Contains(trace.Id))
                        .ExecuteUpdateAsync(set => set.SetProperty(one => one.RawGoneAt, now), cancel),
                _ => true,
                cancel
            );
            old.ForEach(trace => traces.Remove(trace.DeviceId, trace.Id));
        }

        // What never came into a trace, as of a logger that was taken away.
        await writes.Whole(() => db.ArcBatches.Where(batch => batch.ArrivedAt < oldest).ExecuteDeleteAsync(cancel), _ => true, cancel);
    }

    /// <summary>The rule as it stands.</summary>
    public async Task<KeepView> View(CancellationToken cancel)
    {
        var school = await db.Schools.AsNoTracking().SingleAsync(cancel);
        List<SoonErased> soon = [];
        if (school.KeepStudentsYears is { } years)
        {
            soon =
            [
                .. (
                    await Leaving(clock.Now.AddDays(SoonDays).AddYears(-years)).OrderBy(student => student.LeftAt).Take(MostShown).ToListAsync(cancel)
                ).Select(student => new SoonErased(
                    student.Id,
                    student.Name,
                    student.LeftAt!.Value,
                    clock.DayOf(student.LeftAt.Value.AddYears(years))
                )),
            ];
        }

        var by = school.KeepSaidBy is { } id ? await db.People.Where(one => one.Id == id).Select(one => one.Name).FirstOrDefaultAsync(cancel) : null;
        return new KeepView(school.KeepStudentsYears, school.KeepActsYears, school.KeepTracesDays, by, soon);
    }

    /// <summary>Sets the rule.</summary>
    public async Task<KeepView> Say(KeepRule rule, Guid by, CancellationToken cancel)
    {
        var school = await db.Schools.SingleAsync(cancel);
        (school.KeepStudentsYears, school.KeepActsYears, school.KeepSaidBy) = (rule.StudentsYears, rule.ActsYears, by);
        school.KeepTracesDays = rule.TracesDays ?? school.KeepTracesDays;
        await db.SaveChangesAsync(cancel);
        return await View(cancel);
    }

    private IQueryable<Student> Leaving(DateTimeOffset before) =>
        db.Students.AsNoTracking().Where(student => student.LeftAt != null && student.LeftAt <= before && student.ErasedAt == null);

    private Task<bool> IsInUse(CancellationToken cancel)
    {
        var (from, to) = (clock.Now - InUseWithin, clock.Now - NotOnlyToday);
        return db.Acts.AnyAsync(one => one.At >= from && one.At <= to, cancel);
    }
}

/// <summary>Goes through what is kept every few hours.</summary>
public sealed partial class KeepingTurn(IServiceScopeFactory scopes, TimeProvider time, ILogger<KeepingTurn> log) : BackgroundService
{
    private static readonly TimeSpan Every = TimeSpan.FromHours(6);

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        using var timer = new PeriodicTimer(Every, time);
        while (await timer.WaitForNextTickAsync(stoppingToken))
        {
            try
            {
                await using var scope = scopes.CreateAsyncScope();
                if (await scope.ServiceProvider.GetRequiredService<Keeping>().Apply(stoppingToken) is > 0 and var erased)
                {
                    Erased(log, erased);
                }
            }
#pragma warning disable CA1031 // The school goes on; it is tried again.
            catch (Exception error) when (error is not OperationCanceledException)
#pragma warning restore CA1031
            {
                Failed(log, error);
            }
        }
    }

    [LoggerMessage(LogLevel.Information, "{Count} students were erased by the rule of the school.")]
    private static partial void Erased(ILogger log, int count);

    [LoggerMessage(LogLevel.Error, "What is older than the school keeps it could not be cleared.")]
    private static partial void Failed(ILogger log, Exception error);
}

/// <summary>How long things are kept, for the lead.</summary>
public static class KeepingEndpoints
{
    public static void MapKeeping(this IEndpointRouteBuilder routes)
    {
        var group = routes.MapGroup("/api/school/keeping").WithTags("School");
        group.MapGet("", (Keeping keeping, CancellationToken cancel) => keeping.View(cancel)).Produces<KeepView>();
        group
            .MapPut(
                "",
                (KeepRule rule, Keeping keeping, ClaimsPrincipal user, CancellationToken cancel) => keeping.Say(rule, user.PersonId(), cancel)
            )
            .Validated<KeepRule>()
            .WithPin()
            .Writes()
            .Produces<KeepView>();
    }
}
