using Gradus.Data;
using Gradus.Server.Hosting;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.School;

/// <summary>The machine's clock jumped.</summary>
/// <param name="NoticedAt">When that was noticed, by the clock as it is now.</param>
/// <param name="Seconds">By how much: forward above zero, back below.</param>
public sealed record ClockJump(DateTimeOffset NoticedAt, double Seconds);

/// <summary>What the machine's clock shows.</summary>
/// <param name="Jump">The last jump, for a day; null: there was none.</param>
/// <param name="IsBehind">True when something is on the record from a moment that the clock has not reached.</param>
public sealed record ClockView(DateTimeOffset Now, string TimeZone, ClockJump? Jump, bool IsBehind);

/// <summary>
/// Holds the clock of the wall against one that only counts: where they part, the clock was set, or the machine slept. Times on the record are those of
/// the wall.
/// </summary>
public sealed partial class ClockWatch(TimeProvider time, IServiceScopeFactory scopes, ILogger<ClockWatch> log) : BackgroundService
{
    private static readonly TimeSpan Every = TimeSpan.FromMinutes(5);

    /// <summary>Less than this a clock is set by, many times a day, by whatever keeps it right.</summary>
    public static readonly TimeSpan Least = TimeSpan.FromMinutes(2);
    private static readonly TimeSpan Told = TimeSpan.FromDays(1);
    private volatile ClockJump? jump;
    private (DateTimeOffset Wall, long Count) last = (time.GetUtcNow(), time.GetTimestamp());

    /// <summary>The last jump, for a day.</summary>
    public ClockJump? Jump => jump is { } noticed && (time.GetUtcNow() - noticed.NoticedAt).Duration() < Told ? noticed : null;

    /// <summary>Looks at both clocks.</summary>
    public void Look()
    {
        var (wall, count) = (time.GetUtcNow(), time.GetTimestamp());
        var by = wall - last.Wall - time.GetElapsedTime(last.Count, count);
        last = (wall, count);
        if (by.Duration() >= Least)
        {
            jump = new ClockJump(wall, by.TotalSeconds);
            Jumped(log, (int)by.TotalSeconds);
        }
    }

    /// <summary>Whether somebody signed in, or a coupon was closed, at a moment that the clock has not reached.</summary>
    public async Task<bool> IsBehind(CancellationToken cancel)
    {
        await using var scope = scopes.CreateAsyncScope();
        var db = scope.ServiceProvider.GetRequiredService<GradusContext>();
        var ahead = time.GetUtcNow() + Least;
        return await db.Acts.AnyAsync(one => one.At > ahead, cancel) || await db.Coupons.AnyAsync(one => one.ClosedAt > ahead, cancel);
    }

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        using var timer = new PeriodicTimer(Every, time);
        while (await timer.WaitForNextTickAsync(stoppingToken))
        {
            Look();
        }
    }

    [LoggerMessage(LogLevel.Warning, "The clock of the machine jumped by {Seconds} s.")]
    private static partial void Jumped(ILogger log, int seconds);
}

/// <summary>What the machine's clock shows.</summary>
public static class ClockEndpoints
{
    public static void MapClock(this IEndpointRouteBuilder routes) =>
        routes
            .MapGroup("/api/school/clock")
            .WithTags("School")
            .MapGet(
                "",
                async (ClockWatch watch, SchoolClock clock, CancellationToken cancel) =>
                    new ClockView(clock.Now, clock.Zone.Id, watch.Jump, await watch.IsBehind(cancel))
            )
            .Produces<ClockView>();
}
