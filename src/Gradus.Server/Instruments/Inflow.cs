using System.Collections.Concurrent;
using System.Security.Cryptography;
using System.Threading.Channels;
using Gradus.Core.Traces;
using Gradus.Data;
using Gradus.Server.Hosting;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Instruments;

/// <summary>What became of a batch.</summary>
public enum BatchFate
{
    /// <summary>It is written.</summary>
    Kept,

    /// <summary>It was written before.</summary>
    Again,

    /// <summary>Another one is kept under its number.</summary>
    Another,

    /// <summary>Its trace was closed without it.</summary>
    TooLate,

    /// <summary>Its number went back: the device has to go on above the last.</summary>
    WentBack,

    /// <summary>More came in than is written: it has to be sent again.</summary>
    Full,
}

/// <summary>How a device stands.</summary>
/// <param name="HeardAt">When it was last heard since the program runs.</param>
/// <param name="Waiting">Seconds that are not in a trace yet.</param>
public sealed record DeviceState(DateTimeOffset? HeardAt, long? AheadMs, int Waiting);

/// <summary>
/// Takes in what arc loggers send. Those of some tenths of a second are written in one transaction, and only then acknowledged. Once an arc was out
/// for long its trace is put together, written to its file, and its batches go. What is missing is waited for; what waits is bounded.
/// </summary>
public sealed partial class Inflow(IServiceScopeFactory scopes, WriteGate gate, TraceFiles files, TimeProvider time, ILogger<Inflow> log)
    : BackgroundService
{
    private const int MostWaiting = 2000; // batches that are not written yet
    private const int MostAtOnce = 500;
    private const int MostLost = 500;
    private const int LeadBatches = 2; // from before the arc
    private const int MostTraceBatches = 30 * 60;
    private const int LiveSeconds = 60;
    private static readonly TimeSpan Together = TimeSpan.FromMilliseconds(150);
    private static readonly TimeSpan PackEvery = TimeSpan.FromSeconds(1);
    private static readonly TimeSpan Quiet = TimeSpan.FromSeconds(15);
    private static readonly TimeSpan WaitFor = TimeSpan.FromSeconds(60);
    private static readonly TimeSpan Silent = TimeSpan.FromMinutes(5);

    private readonly Channel<Coming> coming = Channel.CreateBounded<Coming>(MostWaiting);
    private readonly ConcurrentDictionary<Guid, Stream> streams = new();
    private readonly SemaphoreSlim packing = new(1, 1);
    private readonly TaskCompletionSource began = new(TaskCreationOptions.RunContinuationsAsynchronously);
    private readonly TaskCompletionSource loaded = new(TaskCreationOptions.RunContinuationsAsynchronously);

    /// <summary>Begins, once there is a database.</summary>
    public void Start() => began.TrySetResult();

    /// <summary>Writes a batch.</summary>
    public async Task<BatchFate> Take(ArcBatch batch, CancellationToken cancel)
    {
        var one = new Coming(batch);
        return coming.Writer.TryWrite(one) ? await one.Done.Task.WaitAsync(cancel) : BatchFate.Full;
    }

    /// <summary>How a device stands; null where nothing came from it since the program runs.</summary>
    public DeviceState? StateOf(Guid deviceId)
    {
        if (!streams.TryGetValue(deviceId, out var stream))
        {
            return null;
        }

        lock (stream)
        {
            return new DeviceState(stream.HeardAt, stream.AheadMs, (int)stream.Batches.Values.Sum(one => one.Seconds));
        }
    }

    /// <summary>The last minute of a device; null where nothing came within the last seconds.</summary>
    public (DateTimeOffset At, RawTrace Trace)? Live(Guid deviceId)
    {
        if (!streams.TryGetValue(deviceId, out var stream))
        {
            return null;
        }

        lock (stream)
        {
            var last = stream.Batches.Values.TakeLast(LiveSeconds).ToList();
            return last.Count == 0 || stream.HeardAt is not { } heard || time.GetUtcNow() - heard > TimeSpan.FromSeconds(5)
                ? null
                : (heard, RawTrace.Of([.. last.Where(one => one.Row.Hz == last[^1].Row.Hz)]));
        }
    }

    /// <summary>Closes what can be closed now: also of devices that have fallen silent.</summary>
    public async Task<int> Pack(CancellationToken cancel)
    {
        await loaded.Task.WaitAsync(cancel);
        await packing.WaitAsync(cancel);
        var closed = 0;
        try
        {
            foreach (var (id, stream) in streams)
            {
                while (await Pack(id, stream, cancel) is { } one)
                {
                    closed += one ? 1 : 0;
                }
            }
        }
        finally
        {
            packing.Release();
        }

        return closed;
    }

    public override void Dispose()
    {
        packing.Dispose();
        base.Dispose();
    }

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        await began.Task.WaitAsync(stoppingToken);
        await Load(stoppingToken);
        var packed = System.Diagnostics.Stopwatch.GetTimestamp();
        while (await coming.Reader.WaitToReadAsync(stoppingToken))
        {
            await Task.Delay(Together, stoppingToken);
            var group = new List<Coming>();
            while (group.Count < MostAtOnce && coming.Reader.TryRead(out var one))
            {
                group.Add(one);
            }

            try
            {
                await Write(group, stoppingToken);
                if (System.Diagnostics.Stopwatch.GetElapsedTime(packed) >= PackEvery)
                {
                    packed = System.Diagnostics.Stopwatch.GetTimestamp();
                    await Pack(stoppingToken);
                }
            }
#pragma warning disable CA1031 // The device sends it again; the service goes on.
            catch (Exception error) when (error is not OperationCanceledException)
#pragma warning restore CA1031
            {
                Failed(log, error);
                group.ForEach(one => one.Done.TrySetResult(BatchFate.Full));
            }
        }
    }

    private async Task Load(CancellationToken cancel)
    {
        await using var scope = scopes.CreateAsyncScope();
        var db = scope.ServiceProvider.GetRequiredService<GradusContext>();
        foreach (var device in await db.Devices.AsNoTracking().ToListAsync(cancel))
        {
            streams[device.Id] = new Stream(device);
        }

        await foreach (var row in db.ArcBatches.AsNoTracking().AsAsyncEnumerable().WithCancellation(cancel))
        {
            if (streams.TryGetValue(row.DeviceId, out var stream))
            {
                stream.Batches[row.Sequence] = new HeldBatch(row);
            }
        }

        loaded.TrySetResult();
    }

    private async Task Write(List<Coming> group, CancellationToken cancel)
    {
        var fresh = new List<Coming>();
        var now = new Dictionary<(Guid, long), Coming>();
        foreach (var one in group)
        {
            var fate = FateOf(one.Batch);
            if (fate is null && now.TryAdd((one.Batch.DeviceId, one.Batch.Sequence), one))
            {
                fresh.Add(one);
            }
            else
            {
                // One that came twice at once is answered as the other.
                one.Fate = fate ?? (IsSame(now[(one.Batch.DeviceId, one.Batch.Sequence)].Batch, one.Batch) ? BatchFate.Again : BatchFate.Another);
            }
        }

        if (fresh.Count > 0)
        {
            using var turn = await gate.Enter(cancel);
            await using var scope = scopes.CreateAsyncScope();
            var db = scope.ServiceProvider.GetRequiredService<GradusContext>();
            db.ArcBatches.AddRange(fresh.Select(one => one.Batch));
            await db.SaveChangesAsync(CancellationToken.None);
        }

        foreach (var one in fresh)
        {
            var stream = streams[one.Batch.DeviceId];
            lock (stream)
            {
                stream.Batches[one.Batch.Sequence] = new HeldBatch(one.Batch);
                (stream.HeardAt, stream.AheadMs) = (one.Batch.ArrivedAt, one.Batch.AheadMs);
            }

            one.Fate = BatchFate.Kept;
        }

        group.ForEach(one => one.Done.TrySetResult(one.Fate));
    }

    /// <summary>What became of it already; null: it is new.</summary>
    private BatchFate? FateOf(ArcBatch batch)
    {
        var stream = streams.GetOrAdd(batch.DeviceId, _ => new Stream(null));
        lock (stream)
        {
            return stream.Batches.TryGetValue(batch.Sequence, out var held) ? (IsSame(held.Row, batch) ? BatchFate.Again : BatchFate.Another)
                : batch.Sequence > stream.PackedThrough ? null
                : stream.Lost.Contains(batch.Sequence) ? BatchFate.TooLate
                : stream.PackedAt is { } last && batch.DeviceAt > last ? BatchFate.WentBack
                : BatchFate.Again;
        }
    }

    private static bool IsSame(ArcBatch a, ArcBatch b) => a.Hz == b.Hz && a.DeviceAt == b.DeviceAt && a.Samples.AsSpan().SequenceEqual(b.Samples);

    /// <summary>Closes the first trace of a device, or leaves out what is from before an arc.</summary>
    /// <returns>Whether a trace was closed; null where there is nothing to do.</returns>
    private async Task<bool?> Pack(Guid deviceId, Stream stream, CancellationToken cancel)
    {
        List<HeldBatch> taken;
        HashSet<long> lost;
        var isTrace = false;
        lock (stream)
        {
            var (run, missing) = stream.InOrder(time.GetUtcNow(), WaitFor);
            var isSilent = stream.Batches.Count > 0 && time.GetUtcNow() - stream.Batches.Values.Max(one => one.Row.ArrivedAt) > Silent;
            var first = run.FindIndex(one => one.HasArc);
            if (first < 0)
            {
                // Without an arc only the last moments are kept, as what may come before one.
                taken = [.. run.Take(Math.Max(0, run.Count - (isSilent ? 0 : Math.Max(LeadBatches, LiveSeconds))))];
            }
            else if (first > LeadBatches)
            {
                taken = [.. run.Take(first - LeadBatches)];
            }
            else
            {
                taken = Whole(run, first, isSilent);
                isTrace = taken.Count > 0;
            }

            if (taken.Count == 0)
            {
                return null;
            }

            var through = taken[^1].Row.Sequence;
            lost = [.. missing.Where(one => one < through)];
        }

        await Settle(deviceId, stream, taken, lost, isTrace, cancel);
        return isTrace;
    }

    /// <summary>From before an arc until it was out for long; nothing while it may go on.</summary>
    private static List<HeldBatch> Whole(List<HeldBatch> run, int first, bool isSilent)
    {
        var last = first;
        for (var at = first + 1; at < run.Count && at < MostTraceBatches; at++)
        {
            if (run[at].Row.Hz != run[first].Row.Hz || run[at].Row.DeviceAt - run[last].EndsAt > Quiet)
            {
                return [.. run.Take(Math.Min(at, last + 1 + LeadBatches))];
            }

            last = run[at].HasArc ? at : last;
        }

        var isLong = run.Count >= MostTraceBatches;
        return isSilent || isLong || run[^1].EndsAt - run[last].EndsAt > Quiet
            ? [.. run.Take(Math.Min(Math.Min(run.Count, MostTraceBatches), last + 1 + LeadBatches))]
            : [];
    }

    private async Task Settle(Guid deviceId, Stream stream, List<HeldBatch> taken, HashSet<long> lost, bool isTrace, CancellationToken cancel)
    {
        var (from, through) = (taken[0].Row.Sequence, taken[^1].Row.Sequence);
        var id = IdOf(deviceId, from);
        await using var scope = scopes.CreateAsyncScope();
        var db = scope.ServiceProvider.GetRequiredService<GradusContext>();
        TraceRecord? trace = null;
        var device = await db.Devices.FirstAsync(one => one.Id == deviceId, cancel);
        if (isTrace && device.BoothId is { } booth)
        {
            // The same file under the same name, should this be killed before the rows are written.
            var raw = RawTrace.Of([.. taken.Where(one => one.Row.Hz == taken[0].Row.Hz)]);
            var arcs = TraceAnalyser.ArcsOf(raw.For(Process.Gtaw, ElectrodeFamily.Other, device.LeadVolts));
            if (arcs.Count > 0)
            {
                files.Put(deviceId, id, raw);
                var at = taken[0].Row.DeviceAt.AddMilliseconds(taken.Min(one => one.Row.AheadMs));
                trace = new TraceRecord
                {
                    Id = id,
                    DeviceId = deviceId,
                    BoothId = booth,
                    FromAt = at.AddSeconds(arcs[0].FromS),
                    ArcEndedAt = at.AddSeconds(arcs[^1].ToS),
                    StartsAt = at,
                    Hz = raw.Hz,
                    ArcSeconds = arcs.Sum(arc => arc.ToS - arc.FromS),
                    LeadVolts = device.LeadVolts,
                };
            }
        }

        using (await gate.Enter(cancel))
        {
            await using var whole = await db.Database.BeginTransactionAsync(cancel);
            if (trace is not null && !await db.Traces.AnyAsync(one => one.Id == id, cancel))
            {
                db.Traces.Add(trace);
            }

            device.PackedThrough = through;
            device.PackedAt = taken[^1].Row.DeviceAt;
            device.Lost = [.. device.Lost.Concat(lost).Distinct().OrderDescending().Take(MostLost)];
            await db.SaveChangesAsync(cancel);
            await db.ArcBatches.Where(one => one.DeviceId == deviceId && one.Sequence <= through).ExecuteDeleteAsync(cancel);
            await whole.CommitAsync(CancellationToken.None);
        }

        lock (stream)
        {
            foreach (var key in stream.Batches.Keys.TakeWhile(key => key <= through).ToList())
            {
                stream.Batches.Remove(key);
            }

            (stream.PackedThrough, stream.PackedAt) = (through, device.PackedAt);
            stream.Lost.UnionWith(lost);
        }
    }

    private static Guid IdOf(Guid device, long sequence) =>
        new(SHA256.HashData([.. device.ToByteArray(), .. BitConverter.GetBytes(sequence)]).AsSpan(0, 16));

    [LoggerMessage(LogLevel.Error, "What arc loggers sent could not be written; they send it again.")]
    private static partial void Failed(ILogger log, Exception error);

    private sealed class Coming(ArcBatch batch)
    {
        public ArcBatch Batch { get; } = batch;
        public BatchFate Fate { get; set; } = BatchFate.Full;
        public TaskCompletionSource<BatchFate> Done { get; } = new(TaskCreationOptions.RunContinuationsAsynchronously);
    }

    /// <summary>What is known of one device.</summary>
    private sealed class Stream(Device? device)
    {
        public SortedDictionary<long, HeldBatch> Batches { get; } = [];
        public long PackedThrough { get; set; } = device?.PackedThrough ?? 0;
        public DateTimeOffset? PackedAt { get; set; } = device?.PackedAt;
        public HashSet<long> Lost { get; } = [.. device?.Lost ?? []];
        public DateTimeOffset? HeardAt { get; set; }
        public long? AheadMs { get; set; }

        /// <summary>The batches up to the first gap that is still waited for, and those that are missing in between for good.</summary>
        public (List<HeldBatch> Run, List<long> Missing) InOrder(DateTimeOffset now, TimeSpan wait)
        {
            var (run, missing) = (new List<HeldBatch>(), new List<long>());
            foreach (var (sequence, batch) in Batches)
            {
                var before = run.Count > 0 ? run[^1].Row.Sequence : PackedThrough;
                if (before > 0 && sequence > before + 1)
                {
                    if (now - batch.Row.ArrivedAt < wait)
                    {
                        break;
                    }

                    for (var gone = before + 1; gone < sequence && missing.Count < MostLost; gone++)
                    {
                        missing.Add(gone);
                    }
                }

                run.Add(batch);
            }

            return (run, missing);
        }
    }
}
