using Gradus.Server.Hosting;

namespace Gradus.Server.Accounts;

/// <summary>
/// Slows wrong PINs down: per person and device, per device, per person over devices that they have not used, and over all. A wait grows with the
/// guesses and always ends, and who is right on a device that they use waits for nobody else's mistakes: nobody is locked out.
/// </summary>
public sealed class PinBrake(TimeProvider time)
{
    /// <summary>Wrong PINs of one person on one device that cost nothing: a wet glove.</summary>
    public const int Free = 3;

    private const int FreeOfDevice = 6;
    private const int FreeOfPerson = 10;
    private const int FreeOfAll = 60;
    private const int MostKept = 20_000;
    private static readonly TimeSpan Remembered = TimeSpan.FromMinutes(30);
    private static readonly TimeSpan LongestOfPair = TimeSpan.FromMinutes(1);
    private static readonly TimeSpan LongestElsewhere = TimeSpan.FromSeconds(30);
    private static readonly TimeSpan OfAll = TimeSpan.FromSeconds(10);

    private readonly Lock gate = new();
    private readonly Dictionary<(string Kind, string Key), Tries> tries = [];
    private readonly HashSet<(Guid, string)> known = [];
    private readonly SemaphoreSlim[] turns = [.. Enumerable.Range(0, 64).Select(_ => new SemaphoreSlim(1, 1))];
    private DateTimeOffset swept;

    /// <summary>Waits until no other PIN is being checked on this device; ends when what is returned is disposed.</summary>
    public async Task<IDisposable> Turn(string device, CancellationToken cancel)
    {
        var one = turns[(uint)StringComparer.Ordinal.GetHashCode(device) % turns.Length];
        await one.WaitAsync(cancel);
        return new Held(one);
    }

    /// <summary>
    /// Begins a try. It counts as wrong until <see cref="Right"/> says otherwise, so that many at once are as many.
    /// </summary>
    /// <param name="person">Whose PIN it is said to be; null for a name that is nobody's.</param>
    /// <param name="device">The paired tablet, or the address that asks.</param>
    /// <returns>How long to wait first; then nothing was tried. Null when it may be tried now.</returns>
    public TimeSpan? Begin(Guid? person, string device)
    {
        lock (gate)
        {
            var now = time.GetUtcNow();
            Forget(now);
            var pair = Of("pair", $"{person} {device}");
            var (ofDevice, ofPerson, ofAll) = (Of("device", device), Of("person", $"{person}{(person is null ? device : "")}"), Of("all", ""));
            var isKnown = person is { } id && known.Contains((id, device));
            TimeSpan[] waits =
            [
                pair.Left(now, Doubling(pair.Count - Free, LongestOfPair)),
                isKnown && pair.Count == 0 ? default : ofDevice.Left(now, Doubling(ofDevice.Count - FreeOfDevice, LongestElsewhere)),
                isKnown ? default : ofPerson.Left(now, Doubling(ofPerson.Count - FreeOfPerson, LongestElsewhere)),
                ofAll.Count >= FreeOfAll && ofDevice.Count > 0 && !(isKnown && pair.Count == 0) ? ofDevice.Left(now, OfAll) : default,
            ];
            if (waits.Max() is var wait && wait > default(TimeSpan))
            {
                return wait;
            }

            foreach (var one in new[] { pair, ofDevice, ofPerson, ofAll })
            {
                (one.Count, one.Last) = (one.Count + 1, now);
            }

            return null;
        }
    }

    /// <summary>The try was right: it was no guess, and whoever it was is known on this device from now on.</summary>
    /// <param name="person">As the try began: of several of one name the first.</param>
    /// <param name="found">Whose PIN it was.</param>
    public void Right(Guid person, string device, Guid? found = null)
    {
        lock (gate)
        {
            known.Add((found ?? person, device));
            tries.Remove(("pair", $"{person} {device}"));
            foreach (var one in new[] { Of("device", device), Of("person", $"{person}"), Of("all", "") })
            {
                one.Count = Math.Max(0, one.Count - 1);
            }
        }
    }

    /// <summary>The refusal of a try that has to wait.</summary>
    public static Refusal Refuse(TimeSpan wait) =>
        new(
            StatusCodes.Status429TooManyRequests,
            "Too many wrong PINs.",
            new Dictionary<string, string[]> { ["pin"] = [$"Too many wrong PINs. Wait {Math.Max(1, (int)Math.Ceiling(wait.TotalSeconds))} seconds."] }
        );

    private static TimeSpan Doubling(int over, TimeSpan longest) =>
        over < 0 ? default : TimeSpan.FromSeconds(Math.Min(longest.TotalSeconds, Math.Pow(2, Math.Min(over + 1, 20))));

    private Tries Of(string kind, string key) => tries.TryGetValue((kind, key), out var one) ? one : tries[(kind, key)] = new Tries();

    // What was long ago is forgotten; over all within the minute.
    private void Forget(DateTimeOffset now)
    {
        if (tries.TryGetValue(("all", ""), out var all) && now - all.Since > TimeSpan.FromMinutes(1))
        {
            (all.Count, all.Since) = (0, now);
        }

        if (now - swept < TimeSpan.FromSeconds(10) && tries.Count <= MostKept)
        {
            return;
        }

        swept = now;
        var old = tries.Where(one => one.Key.Kind != "all" && now - one.Value.Last > Remembered).Select(one => one.Key).ToList();
        old.AddRange(tries.Count - old.Count > MostKept ? tries.OrderBy(one => one.Value.Last).Take(MostKept / 2).Select(one => one.Key) : []);
        old.ForEach(key => tries.Remove(key));
    }

    private sealed class Held(SemaphoreSlim turn) : IDisposable
    {
        public void Dispose() => turn.Release();
    }

    private sealed class Tries
    {
        public int Count { get; set; }
        public DateTimeOffset Last { get; set; }
        public DateTimeOffset Since { get; set; }

        public TimeSpan Left(DateTimeOffset now, TimeSpan wait) => wait == default || now - Last >= wait ? default : wait - (now - Last);
    }
}
