using System.Collections.Concurrent;
using System.Globalization;
using System.Net.ServerSentEvents;
using System.Runtime.CompilerServices;
using System.Text.Json;
using System.Threading.Channels;
using Gradus.Server.Readiness;
using Microsoft.AspNetCore.Http.Json;
using Microsoft.Extensions.Options;

namespace Gradus.Server.Floor;

/// <summary>What changed on the floor: these students as they are now, or all of it.</summary>
/// <param name="Whole">True when everything is to be read again: booths, plan, absences, or more than is remembered.</param>
/// <param name="Students">The students that changed, as they are now.</param>
/// <param name="Holds">All hold points of those students that wait now.</param>
/// <param name="Coupons">The coupons that something was recorded on, open or closed.</param>
public sealed record FloorChange(bool Whole, IReadOnlyList<FloorStudent> Students, IReadOnlyList<FloorHold> Holds, IReadOnlyList<Guid> Coupons);

/// <summary>
/// Tells every open screen what changed. A change is read once, however many screens follow; the last ones are remembered, so that a screen that
/// lost its connection catches up.
/// </summary>
public sealed partial class FloorFeed(IServiceScopeFactory scopes, ReadinessRenewal renewal, IOptions<JsonOptions> json, ILogger<FloorFeed> log)
    : BackgroundService
{
    private const int Remembered = 500;
    private const int MostBehind = 200;
    private static readonly TimeSpan Together = TimeSpan.FromMilliseconds(60);
    private static readonly TimeSpan Beat = TimeSpan.FromSeconds(15);
    private static readonly FloorChange All = new(true, [], [], []);

    // Written out once, however many screens it goes to.
    private readonly string all = JsonSerializer.Serialize(All, json.Value.SerializerOptions);

    // A number means something only within one run of the server.
    private readonly string run = Guid.CreateVersion7().ToString("N");
    private readonly Channel<(Guid? Student, Guid? Coupon)> waiting = Channel.CreateUnbounded<(Guid?, Guid?)>();
    private readonly Lock gate = new();
    private readonly Queue<(long Number, string Change)> past = new();
    private readonly ConcurrentDictionary<Guid, Channel<(long Number, string Change)>> screens = new();
    private long number;

    /// <summary>A student or a coupon changed; both null when it was anything else of the floor.</summary>
    public void Changed(Guid? student, Guid? coupon) => waiting.Writer.TryWrite((student, coupon));

    /// <summary>Follows the changes from after the given event on.</summary>
    /// <param name="lastEventId">The id of the last event that the screen has; null or unknown asks it to read all.</param>
    public async IAsyncEnumerable<SseItem<string>> Follow(string? lastEventId, [EnumeratorCancellation] CancellationToken cancel)
    {
        var id = Guid.NewGuid();
        var channel = Channel.CreateBounded<(long Number, string Change)>(new BoundedChannelOptions(MostBehind));
        var missed = new List<(long Number, string Change)>();
        lock (gate)
        {
            screens[id] = channel;
            var since = Since(lastEventId);
            var oldest = past.TryPeek(out var first) ? first.Number : number + 1;
            missed.AddRange(since is null || since < oldest - 1 ? [(number, all)] : past.Where(one => one.Number > since));
        }

        try
        {
            foreach (var one in missed)
            {
                yield return Item(one.Number, one.Change);
            }

            while (true)
            {
                (long Number, string Change)? next = null;
                using (var beat = CancellationTokenSource.CreateLinkedTokenSource(cancel))
                {
                    beat.CancelAfter(Beat);
                    try
                    {
                        next = await channel.Reader.ReadAsync(beat.Token);
                    }
                    catch (OperationCanceledException) when (!cancel.IsCancellationRequested)
                    {
                        // Nothing happened for a while; a beat tells a dead connection from a quiet floor.
                    }
                    catch (Exception error) when (error is ChannelClosedException or OperationCanceledException)
                    {
                        yield break;
                    }
                }

                yield return next is { } one ? Item(one.Number, one.Change) : new SseItem<string>("", "beat");
            }
        }
        finally
        {
            screens.TryRemove(id, out _);
        }
    }

    private SseItem<string> Item(long at, string change) =>
        new(change, "change") { EventId = string.Create(CultureInfo.InvariantCulture, $"{run}-{at}") };

    private long? Since(string? lastEventId)
    {
        var parts = lastEventId?.Split('-');
        return parts is [var ofRun, var at] && ofRun == run && long.TryParse(at, CultureInfo.InvariantCulture, out var since) ? since : null;
    }

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        renewal.Renewed += () => Changed(null, null);
        while (await waiting.Reader.WaitToReadAsync(stoppingToken))
        {
            await Task.Delay(Together, stoppingToken);
            var (students, coupons, whole) = (new HashSet<Guid>(), new HashSet<Guid>(), false);
            while (waiting.Reader.TryRead(out var one))
            {
                whole |= one.Student is null && one.Coupon is null;
                if (one.Student is { } student)
                {
                    students.Add(student);
                }

                if (one.Coupon is { } coupon)
                {
                    coupons.Add(coupon);
                }
            }

            FloorChange change;
            try
            {
                change = whole || screens.IsEmpty ? All : await Read(students, coupons, stoppingToken);
            }
#pragma warning disable CA1031 // A change that cannot be read is told as a change of everything; the feed goes on.
            catch (Exception error) when (error is not OperationCanceledException)
#pragma warning restore CA1031
            {
                Failed(log, error);
                change = All;
            }

            Tell(JsonSerializer.Serialize(change, json.Value.SerializerOptions));
        }
    }

    private async Task<FloorChange> Read(HashSet<Guid> students, HashSet<Guid> coupons, CancellationToken cancel)
    {
        await using var scope = scopes.CreateAsyncScope();
        var reader = scope.ServiceProvider.GetRequiredService<FloorReader>();
        students.UnionWith(await reader.StudentsOf(coupons, cancel));
        var (rows, holds) = await reader.Some(students, cancel);
        return new FloorChange(false, rows, holds, [.. coupons]);
    }

    private void Tell(string change)
    {
        lock (gate)
        {
            number++;
            past.Enqueue((number, change));
            if (past.Count > Remembered)
            {
                past.Dequeue();
            }

            foreach (var screen in screens.Values.Where(screen => !screen.Writer.TryWrite((number, change))))
            {
                // Too far behind: it connects again and catches up from what is remembered.
                screen.Writer.TryComplete();
            }
        }
    }

    [LoggerMessage(LogLevel.Error, "A change of the floor could not be read.")]
    private static partial void Failed(ILogger log, Exception error);
}
