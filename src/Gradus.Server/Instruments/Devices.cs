using System.Collections.Concurrent;
using System.Security.Cryptography;
using System.Text;
using Gradus.Data;
using Gradus.Server.Hosting;
using Gradus.Server.School;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Instruments;

/// <summary>A device as it is known by its key.</summary>
public sealed record KnownDevice(Guid Id, DeviceKind Kind);

/// <summary>Knows devices by their keys, from memory: an arc logger shows its key each second.</summary>
public sealed class DeviceKeys
{
    public const string Header = "Gradus-Key";
    private ConcurrentDictionary<string, KnownDevice>? known;

    /// <summary>The device that a request comes from; null when its key is that of none.</summary>
    public async ValueTask<KnownDevice?> Of(HttpContext context, DeviceKind kind, CancellationToken cancel)
    {
        if (context.Request.Headers[Header].ToString() is not { Length: > 0 and <= 100 } key)
        {
            return null;
        }

        var all = known ??= new(
            (
                await context
                    .RequestServices.GetRequiredService<GradusContext>()
                    .Devices.AsNoTracking()
                    .Where(device => device.RemovedAt == null)
                    .ToListAsync(cancel)
            ).Select(device => KeyValuePair.Create(device.KeyHash, new KnownDevice(device.Id, device.Kind)))
        );
        return all.TryGetValue(Hash(key), out var device) && device.Kind == kind ? device : null;
    }

    /// <summary>Devices have changed.</summary>
    public void Forget() => known = null;

    /// <summary>A new key; it is shown once and kept as its hash.</summary>
    public static string NewKey() => Convert.ToHexStringLower(RandomNumberGenerator.GetBytes(24));

    /// <summary>How a key is kept.</summary>
    public static string Hash(string key) => Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(key)));

    /// <summary>Refuses what has no key.</summary>
    public static IResult Unknown() =>
        Refusal
            .Of(StatusCodes.Status401Unauthorized, "This device is not paired.", "key", $"The key of a paired device, in the header {Header}.")
            .ToResult();
}

/// <summary>Pairs devices, and takes them away.</summary>
public sealed class DeviceBook(GradusContext db, DeviceKeys keys, Inflow inflow, SchoolClock clock, Writes writes)
{
    // A shop has some dozens of booths.
    private const int Most = 200;

    /// <summary>All devices of the school, by name.</summary>
    public async Task<IReadOnlyList<DeviceView>> All(CancellationToken cancel)
    {
        var booths = await db.Booths.AsNoTracking().ToDictionaryAsync(booth => booth.Id, booth => booth.Number, cancel);
        return
        [
            .. (await db.Devices.AsNoTracking().Where(device => device.RemovedAt == null).OrderBy(device => device.Id).Take(Most).ToListAsync(cancel))
                .OrderBy(device => device.Name, StringComparer.Ordinal)
                .Select(device =>
                {
                    var state = inflow.StateOf(device.Id);
                    return new DeviceView(
                        device.Id,
                        device.Kind,
                        device.Name,
                        device.BoothId,
                        device.BoothId is { } booth ? booths.GetValueOrDefault(booth) : null,
                        device.LeadVolts,
                        device.PairedAt,
                        state?.HeardAt,
                        state?.AheadMs,
                        state?.Waiting ?? 0
                    );
                }),
        ];
    }

    /// <summary>Pairs a device, or changes one that is paired; a new one gets its key.</summary>
    public async Task<Outcome<PairedDevice>> Pair(Guid id, DeviceRequest request, Guid by, CancellationToken cancel)
    {
        if (request.BoothId is { } booth && !await db.Booths.Standing().AnyAsync(one => one.Id == booth, cancel))
        {
            return Refusal.NotFound("boothId", "A booth of this school.");
        }

        if (
            request.Kind == DeviceKind.ArcLogger
            && await db.Devices.AnyAsync(one => one.BoothId == request.BoothId && one.Id != id && one.RemovedAt == null, cancel)
        )
        {
            return Refusal.Conflict("boothId", "That booth has an arc logger already. Take it away first.");
        }

        writes.OnCommit(keys.Forget);
        if (await db.Devices.FirstOrDefaultAsync(one => one.Id == id, cancel) is { } known)
        {
            if (known.RemovedAt is not null || known.Kind != request.Kind)
            {
                return Refusal.Conflict("id", "That is another device.");
            }

            (known.Name, known.BoothId, known.LeadVolts) = (request.Name!.Trim(), request.BoothId, request.LeadVolts ?? 0);
            await db.SaveChangesAsync(cancel);
            return new PairedDevice(id, null);
        }

        if (await db.Devices.CountAsync(one => one.RemovedAt == null, cancel) >= Most)
        {
            return Refusal.Conflict("id", $"At most {Most} devices.");
        }

        var key = DeviceKeys.NewKey();
        db.Devices.Add(
            new Device
            {
                Id = id,
                Kind = request.Kind!.Value,
                Name = request.Name!.Trim(),
                BoothId = request.BoothId,
                KeyHash = DeviceKeys.Hash(key),
                LeadVolts = request.LeadVolts ?? 0,
                PairedAt = clock.Now,
                PairedBy = by,
            }
        );
        await db.SaveChangesAsync(cancel);
        return new PairedDevice(id, key);
    }

    /// <summary>Takes a device away: its key opens nothing any more. What it measured stays.</summary>
    public async Task<Outcome<Written>> Remove(Guid id, CancellationToken cancel)
    {
        if (await db.Devices.FirstOrDefaultAsync(one => one.Id == id, cancel) is not { } known)
        {
            return Refusal.NotFound("id", "A device of this school.");
        }

        var isNew = known.RemovedAt is null;
        known.RemovedAt ??= clock.Now;
        await db.SaveChangesAsync(cancel);
        writes.OnCommit(keys.Forget);
        return new Written(id, isNew);
    }
}
