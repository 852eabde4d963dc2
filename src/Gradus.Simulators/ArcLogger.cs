using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Serialization;

namespace Gradus.Simulators;

/// <summary>What a link does to what is sent over it.</summary>
/// <param name="Lost">Share of the seconds that are never measured: the logger was busy or without power.</param>
/// <param name="Doubled">Share that is sent twice.</param>
/// <param name="Late">Share that is held back for some seconds, so that others come before it.</param>
/// <param name="AheadS">By how much the logger's own clock is ahead.</param>
public sealed record Link(double Lost = 0, double Doubled = 0, double Late = 0, double AheadS = 0);

/// <summary>A second as it is sent.</summary>
public sealed record Batch(
    [property: JsonIgnore] long Sequence,
    DateTimeOffset At,
    DateTimeOffset SentAt,
    int Hz,
    double[] Amps,
    double[] Volts,
    double[]? FeedMmPerMin
);

/// <summary>
/// An arc logger at the machine of a booth: measures all the time, sends a second at once under a number that runs on, and keeps it until it is
/// acknowledged. What it cannot keep any more is lost, and it says so.
/// </summary>
public sealed class ArcLogger(HttpClient client, string key, int hz, Link link, int seed)
{
    private const int MostKept = 900;
    private const int AtOnce = 20;
    private readonly Random random = new(seed);
    private readonly LinkedList<Batch> kept = [];
    private long next = DateTimeOffset.UtcNow.ToUnixTimeSeconds();
    private int held;

    /// <summary>The numbers that were acknowledged.</summary>
    public HashSet<long> Acknowledged { get; } = [];

    /// <summary>What was refused, and why.</summary>
    public List<string> Refused { get; } = [];

    /// <summary>Seconds that were dropped because too many waited.</summary>
    public int Dropped { get; private set; }

    /// <summary>Seconds that were acknowledged before and came back as new: the other side has lost them.</summary>
    public int Forgotten { get; private set; }

    /// <summary>How often in a row nobody answered.</summary>
    public int Unanswered { get; private set; }

    /// <summary>Keeps a second of measurements, to be sent.</summary>
    public void Measured(IReadOnlyList<Point> points, bool hasFeed)
    {
        var sequence = next++;
        if (random.NextDouble() < link.Lost)
        {
            return;
        }

        if (kept.Count >= MostKept)
        {
            kept.RemoveFirst();
            Dropped++;
        }

        var at = Now.AddSeconds(-(double)points.Count / hz);
        kept.AddLast(
            new Batch(
                sequence,
                at,
                at,
                hz,
                [.. points.Select(one => Math.Round(one.Amps, 1))],
                [.. points.Select(one => Math.Round(one.Volts, 2))],
                hasFeed ? [.. points.Select(one => Math.Round(one.Feed))] : null
            )
        );
    }

    /// <summary>Sends what waits, the oldest first, until the other side does not answer.</summary>
    public async Task Send(CancellationToken cancel)
    {
        if (held > 0)
        {
            held--;
            return;
        }

        if (random.NextDouble() < link.Late)
        {
            held = 3;
        }

        for (var sent = 0; sent < AtOnce && kept.First is { Value: var batch }; sent++)
        {
            var again = random.NextDouble() < link.Doubled;
            var answers = await Task.WhenAll(Enumerable.Range(0, again ? 2 : 1).Select(_ => Put(batch, cancel)));
            if (answers.All(one => one is null))
            {
                Unanswered++;
                return; // it is sent again
            }

            Unanswered = 0;
            kept.RemoveFirst();
            if (answers.Any(one => one?.Status == HttpStatusCode.OK))
            {
                Acknowledged.Add(batch.Sequence);
            }
            else
            {
                Refused.Add($"{batch.Sequence}: {(int)answers.First(one => one is not null)!.Status}");
            }
        }
    }

    /// <summary>Sends what was acknowledged once more, as it was: the other side has to know it.</summary>
    public async Task Check(IReadOnlyDictionary<long, Batch> sent, CancellationToken cancel)
    {
        var answers = await Task.WhenAll(Acknowledged.Select(sequence => Put(sent[sequence], cancel)));
        Forgotten += answers.Count(answer => answer is not { Status: HttpStatusCode.OK, Again: true });
    }

    /// <summary>What waits to be sent.</summary>
    public IEnumerable<Batch> Kept => kept;

    private DateTimeOffset Now => DateTimeOffset.FromUnixTimeMilliseconds(DateTimeOffset.UtcNow.AddSeconds(link.AheadS).ToUnixTimeMilliseconds());

    private async Task<Answer?> Put(Batch batch, CancellationToken cancel)
    {
        try
        {
            using var request = new HttpRequestMessage(HttpMethod.Put, $"api/arc/batches/{batch.Sequence}")
            {
                Content = JsonContent.Create(batch with { SentAt = Now }),
            };
            request.Headers.Add("Gradus-Key", key);
            using var response = await client.SendAsync(request, cancel);
            return (int)response.StatusCode is 429 or >= 500 ? null
                : response.IsSuccessStatusCode
                    ? new Answer(response.StatusCode, (await response.Content.ReadFromJsonAsync<Taken>(cancel))?.Again == true)
                : new Answer(response.StatusCode, false);
        }
        catch (Exception error) when (error is HttpRequestException or TaskCanceledException && !cancel.IsCancellationRequested)
        {
            return null;
        }
    }

    private sealed record Answer(HttpStatusCode Status, bool Again);

    private sealed record Taken(long Sequence, bool Again);
}
