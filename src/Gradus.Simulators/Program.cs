using System.Diagnostics;
using System.Globalization;
using System.Net.Http.Json;
using System.Text.Json;
using Gradus.Simulators;

const string Help = """
    Devices as they would stand in a shop, for trying Gradus without them.

      sim arc --url URL --key KEY [--kind basic|cellulosic|tungsten|shortArc|cored] [--hz 50] [--seconds N]
              [--lost 0.02] [--doubled 0.02] [--late 0.02] [--ahead SECONDS] [--seed N]
          An arc logger at the machine of a booth, and a hand that welds there: a bead, a rest, a bead.
      sim booths --url URL --keys FILE [--hz 50] [--seconds N]
          One logger for each key in the file, all welding; says at the end what was acknowledged, and asks whether it is still known.
      sim lab --url URL --key KEY [--after 20] [--returns both|results|report] [--seconds N] [--seed N]
          A laboratory: takes the specimens that are given to it, and returns what it sees on them after so many seconds.
      sim gauge --reads "2.1 1/16in 3mm" [--pause 2] [--seed N]
      sim scanner --reads "ADDRESS STAMP" [--pause 2] [--seed N]
          A keypad: writes each key as it is pressed, a line for each, for whatever types it into a browser.
      sim demo --url URL [--booth N] [--wait SECONDS]
          Pairs a logger with a booth of the demo school in which somebody welds, and welds along; and a laboratory that answers.
    """;

var said = new Dictionary<string, string>();
for (var at = 1; at + 1 < args.Length; at += 2)
{
    said[args[at].TrimStart('-')] = args[at + 1];
}

double Number(string name, double otherwise) => said.TryGetValue(name, out var text) ? double.Parse(text, CultureInfo.InvariantCulture) : otherwise;
using var stop = new CancellationTokenSource();
Console.CancelKeyPress += (_, pressed) =>
{
    pressed.Cancel = true;
    stop.Cancel();
};
using var client = new HttpClient(new SocketsHttpHandler { MaxConnectionsPerServer = 100 })
{
    BaseAddress = new Uri(said.GetValueOrDefault("url", "http://127.0.0.1:5080").TrimEnd('/') + "/"),
    Timeout = TimeSpan.FromSeconds(10),
};
var (hz, seconds, seed) = ((int)Number("hz", 50), Number("seconds", double.MaxValue), (int)Number("seed", 1));
switch (args.FirstOrDefault())
{
    case "arc" when said.TryGetValue("key", out var key):
        var link = new Link(Number("lost", 0), Number("doubled", 0), Number("late", 0), Number("ahead", 0));
        await Weld(new ArcLogger(client, key, hz, link, seed), Shift(Kind(), seed));
        return 0;
    case "lab" when said.TryGetValue("key", out var labKey):
        return await Bend(labKey);
    case "gauge" or "scanner" when said.TryGetValue("reads", out var reads):
        await Type(reads.Split(' ', StringSplitOptions.RemoveEmptyEntries));
        return 0;
    case "demo":
        return await Demo();
    case "booths" when said.TryGetValue("keys", out var file):
        return await Booths(await File.ReadAllLinesAsync(file));
    default:
        Console.WriteLine(Help);
        return args.Length == 0 || args[0] is "help" or "--help" ? 0 : 2;
}

ArcKind Kind() => Enum.Parse<ArcKind>(said.GetValueOrDefault("kind", "basic"), ignoreCase: true);

// A bead, a rest, a bead, each with a habit or none, for as long as it is asked.
IEnumerable<Point> Shift(ArcKind kind, int from, Bead? card = null)
{
    var random = new Random(from);
    var hand = new Hand(from);
    while (true)
    {
        foreach (
            var point in hand.Rest(kind, 3)
                .Concat(
                    hand.Weld(
                        card is null
                            ? BeadOf(kind, random)
                            : BeadOf(kind, random) with
                            {
                                Amps = card.Amps,
                                FeedMmPerMin = card.FeedMmPerMin,
                                WireVolts = card.WireVolts,
                            }
                    )
                )
                .Concat(hand.Rest(kind, 25))
        )
        {
            yield return point;
        }
    }
}

static Bead BeadOf(ArcKind kind, Random random)
{
    Habit[] may = kind is ArcKind.ShortArc or ArcKind.Cored
        ? [Habit.TipDrift, Habit.Stutter]
        : [Habit.LongArc, Habit.Irregular, Habit.Stuck, Habit.Failed];
    var habits = may.Where(_ => random.NextDouble() < 0.3).ToHashSet();
    return new Bead(
        kind,
        kind switch
        {
            ArcKind.Cellulosic => 80,
            ArcKind.Basic => 118,
            ArcKind.Tungsten => 100,
            ArcKind.ShortArc => 130,
            _ => 190,
        },
        45 + random.Next(30),
        kind switch
        {
            ArcKind.Cellulosic => 0.9,
            ArcKind.Basic => 1.5,
            _ => null,
        },
        habits.Contains(Habit.Irregular) ? 0.4 : 0.1,
        habits,
        kind is ArcKind.ShortArc or ArcKind.Cored ? 5000 : 0
    );
}

// A second of measurements each second, sent as the link lets it.
async Task Weld(ArcLogger logger, IEnumerable<Point> shift, Dictionary<long, Batch>? sent = null)
{
    var clock = Stopwatch.StartNew();
    using var points = Probe.Sample(shift, hz, seed + 17).GetEnumerator();
    for (var second = 1; second <= seconds && logger.Unanswered < Number("patience", 600) && !stop.IsCancellationRequested; second++)
    {
        var measured = new List<Point>();
        while (measured.Count < hz && points.MoveNext())
        {
            measured.Add(points.Current);
        }

        if (clock.Elapsed.TotalSeconds < second)
        {
            await Task.Delay(TimeSpan.FromSeconds(second) - clock.Elapsed).WaitAsync(stop.Token).ContinueWith(_ => { }, TaskScheduler.Default);
        }

        logger.Measured(measured, measured.Exists(one => one.Feed > 0));
        if (sent is not null)
        {
            foreach (var batch in logger.Kept)
            {
                sent[batch.Sequence] = batch;
            }
        }

        await logger.Send(CancellationToken.None);
    }

    for (var left = 0; left < 60 && logger.Kept.Any(); left++)
    {
        await logger.Send(CancellationToken.None);
        await Task.Delay(200);
    }
}

// Asks each second, until it is stopped.
async Task<int> Bend(string labKey)
{
    var lab = new Laboratory(
        client,
        labKey,
        TimeSpan.FromSeconds(Number("after", 20)),
        Enum.Parse<Returns>(said.GetValueOrDefault("returns", "both"), ignoreCase: true),
        seed
    );
    for (var second = 0; second < seconds && lab.Unanswered < Number("patience", 600) && !stop.IsCancellationRequested; second++)
    {
        await lab.Turn(CancellationToken.None);
        if (lab.Refused.Count > 0)
        {
            Console.Error.WriteLine(string.Join("\n", lab.Refused));
            return 1;
        }

        await Task.Delay(1000, stop.Token).ContinueWith(_ => { }, TaskScheduler.Default);
    }

    return 0;
}

async Task Type(string[] readings)
{
    var random = new Random(seed);
    foreach (var (place, reading) in readings.Index())
    {
        await Task.Delay(place == 0 ? 0 : (int)(1000 * Number("pause", 2)));
        foreach (var pressed in Keypad.Type(reading, random))
        {
            await Task.Delay(pressed.AfterMs);
            Console.WriteLine(pressed.Name);
        }
    }
}

async Task<int> Booths(string[] keys)
{
    var loggers = keys.Where(key => key.Length > 0)
        .Select((key, place) => new ArcLogger(client, key, hz, new Link(Doubled: 0.02, Late: 0.02), place))
        .ToList();
    var sent = loggers.Select(_ => new Dictionary<long, Batch>()).ToList();
    // Fifty hands in steps of a millisecond take more than a machine has: one welds, and each logger measures it.
    var shift = Probe.Sample(new Hand(seed).Weld(new Bead(ArcKind.Cored, 190, 300, null, 0, new HashSet<Habit>(), 5000)), hz, seed).ToList();
    IEnumerable<Point> Measured(int place) =>
        Enumerable.Range(place * 37, int.MaxValue / 2).SelectMany(at => Enumerable.Repeat(shift[at % shift.Count], 1000 / hz));
    await Task.WhenAll(loggers.Select((logger, place) => Weld(logger, Measured(place), sent[place])));
    foreach (var (logger, own) in loggers.Zip(sent))
    {
        await logger.Check(own, CancellationToken.None);
    }

    Console.WriteLine(
        JsonSerializer.Serialize(
            new
            {
                loggers = loggers.Count,
                acknowledged = loggers.Sum(one => one.Acknowledged.Count),
                refused = loggers.Sum(one => one.Refused.Count),
                dropped = loggers.Sum(one => one.Dropped),
                waiting = loggers.Sum(one => one.Kept.Count()),
                forgotten = loggers.Sum(one => one.Forgotten),
            }
        )
    );
    return loggers.TrueForAll(one => one is { Forgotten: 0, Refused.Count: 0 }) ? 0 : 1;
}

// Pairs a logger with a booth in which somebody of the demo school is welding, and welds along with what the card there says.
async Task<int> Demo()
{
    var until = DateTime.UtcNow.AddSeconds(Number("wait", 0));
    while (DateTime.UtcNow < until)
    {
        try
        {
            (await client.GetAsync("api/health/ready")).EnsureSuccessStatusCode();
            break;
        }
        catch (HttpRequestException)
        {
            await Task.Delay(500);
        }
    }

    var session = await Get("api/session");
    if (session.GetProperty("demoPin").GetString() is not { } pin)
    {
        Console.Error.WriteLine("This is not the demo school. Pair an arc logger under School, and give its key: sim arc --key KEY");
        return 1;
    }

    var lead = session.GetProperty("instructors").EnumerateArray().First(one => one.GetProperty("role").GetString() == "lead");
    (await client.PostAsJsonAsync("api/session", new { instructorId = lead.GetProperty("id").GetString(), pin })).EnsureSuccessStatusCode();
    var lab = Bend(await Pair("laboratory", null) ?? "");
    var floor = await Get("api/floor");
    var open = floor
        .GetProperty("students")
        .EnumerateArray()
        .Select(one => one.GetProperty("open"))
        .Where(one => one.ValueKind == JsonValueKind.Object && one.GetProperty("booth").ValueKind == JsonValueKind.Number)
        .Where(one => !said.TryGetValue("booth", out var wanted) || one.GetProperty("booth").GetRawText() == wanted)
        .ToList();
    foreach (var one in open)
    {
        var coupon = await Get($"api/coupons/{one.GetProperty("id").GetString()}");
        var next = coupon.GetProperty("next");
        if (next.GetProperty("card").ValueKind != JsonValueKind.Number)
        {
            continue;
        }

        var card = coupon.GetProperty("cards")[next.GetProperty("card").GetInt32()];
        var kind = (card.GetProperty("process").GetString(), card.GetProperty("electrodeClass").GetString()) switch
        {
            ("smaw", ['E', _, _, '1', '0' or '1', ..]) => ArcKind.Cellulosic,
            ("smaw", _) => ArcKind.Basic,
            ("gtaw", _) => ArcKind.Tungsten,
            ("gmaw", _) => ArcKind.ShortArc,
            _ => ArcKind.Cored,
        };
        var booth = coupon.GetProperty("boothId").GetString();
        if (await Pair("arcLogger", booth) is not { } paired)
        {
            return 1;
        }

        Console.WriteLine($"A logger in booth {coupon.GetProperty("booth")} welds {kind} for coupon {coupon.GetProperty("stamp").GetString()}.");
        double Set(string name) => card.GetProperty(name).ValueKind == JsonValueKind.Number ? card.GetProperty(name).GetDouble() : 0;
        var settings = new Bead(kind, Set("amps"), 0, null, 0, new HashSet<Habit>(), Set("wireFeedMmPerMin"), Set("volts"));
        await Weld(new ArcLogger(client, paired, hz, new Link(Doubled: 0.02, AheadS: -3), seed), Shift(kind, seed, settings));
        return await lab;
    }

    Console.Error.WriteLine("Nobody is welding in a booth.");
    return await lab;
}

// The one of an earlier turn, whose key nobody has any more, goes: a booth has one logger, and the demo one laboratory.
async Task<string?> Pair(string kind, string? booth)
{
    bool IsOfBefore(JsonElement one) => one.GetProperty("kind").GetString() == kind && one.GetProperty("boothId").GetString() == booth;
    foreach (var device in (await Get("api/devices")).EnumerateArray().Where(IsOfBefore))
    {
        (await client.PutAsync($"api/devices/{device.GetProperty("id").GetString()}/removed", null)).EnsureSuccessStatusCode();
    }

    using var answer = await client.PutAsJsonAsync(
        $"api/devices/{Guid.CreateVersion7()}",
        new
        {
            kind,
            name = booth is null ? "Laboratory" : "Arc logger",
            boothId = booth,
        }
    );
    var body = await answer.Content.ReadFromJsonAsync<JsonElement>();
    if (!answer.IsSuccessStatusCode)
    {
        Console.Error.WriteLine(body);
        return null;
    }

    return body.GetProperty("key").GetString();
}

async Task<JsonElement> Get(string path) => await client.GetFromJsonAsync<JsonElement>(path);
