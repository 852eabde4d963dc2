using System.Globalization;
using System.IO.Compression;
using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using Gradus.Data;
using Gradus.Server.Hosting;
using Gradus.Server.Instruments;
using Gradus.Server.School;
using Gradus.Server.Students;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;

namespace Gradus.Server.Tests;

/// <summary>What arc loggers send is written before it is acknowledged, comes into traces whatever its order, and finds its bead.</summary>
public sealed class ArcTests : IAsyncLifetime
{
    private const int Hz = 20;
    private readonly RunningServer server = new();
    private HttpClient lead = null!;
    private Guid booth;
    private string key = null!;
    private readonly Guid device = Guid.CreateVersion7();
    private long next = 1000;

    public async ValueTask InitializeAsync()
    {
        lead = await server.SignedIn();
        booth = await BoothOf(0);
        key = await Pair(device, booth);
    }

    public ValueTask DisposeAsync() => server.DisposeAsync();

    private async Task<Guid> BoothOf(int place) =>
        (await lead.GetFromJsonAsync<JsonElement>("/api/floor")).GetProperty("booths")[place].GetProperty("id").GetGuid();

    private async Task<string> Pair(Guid id, Guid boothId)
    {
        var answer = await lead.PutAsJsonAsync(
            $"/api/devices/{id}",
            new
            {
                kind = "arcLogger",
                name = "Logger",
                boothId,
            }
        );
        answer.EnsureSuccessStatusCode();
        return (await answer.Content.ReadFromJsonAsync<JsonElement>()).GetProperty("key").GetString()!;
    }

    /// <summary>A second of measurements: an arc, or none.</summary>
    private static object Second(DateTimeOffset at, bool arc, double amps = 190, double volts = 19.2) =>
        new
        {
            at,
            sentAt = at.AddSeconds(1),
            hz = Hz,
            amps = Enumerable.Repeat(arc ? amps : 0, Hz),
            volts = Enumerable.Repeat(arc ? volts : 0, Hz),
            feedMmPerMin = Enumerable.Repeat(arc ? 4064.0 : 0, Hz),
        };

    private async Task<HttpResponseMessage> Put(long sequence, object batch, string? with = null, HttpClient? by = null)
    {
        using var request = new HttpRequestMessage(HttpMethod.Put, $"/api/arc/batches/{sequence}") { Content = JsonContent.Create(batch) };
        request.Headers.Add(DeviceKeys.Header, with ?? key);
        return await (by ?? lead).SendAsync(request);
    }

    private static async Task<bool> Again(HttpResponseMessage answer)
    {
        Assert.Equal(HttpStatusCode.OK, answer.StatusCode);
        return (await answer.Content.ReadFromJsonAsync<JsonElement>()).GetProperty("again").GetBoolean();
    }

    /// <summary>Welds from now on: a lead of two seconds, the arc, and silence; the clock goes along.</summary>
    private async Task Weld(int seconds, double clockAhead = 0, Func<int, bool>? isSent = null, double volts = 19.2, int quiet = 18)
    {
        var began = server.Clock.GetUtcNow();
        var count = 2 + seconds + quiet;
        server.Clock.Advance(TimeSpan.FromSeconds(count));
        var answers = await Task.WhenAll(
            Enumerable
                .Range(0, count)
                .Where(second => isSent?.Invoke(second) != false)
                .Select(second =>
                {
                    var at = began.AddSeconds(second + clockAhead);
                    var batch = new
                    {
                        at,
                        // As it arrives now: what waited was sent late, by the same clock.
                        sentAt = server.Clock.GetUtcNow().AddSeconds(clockAhead),
                        hz = Hz,
                        amps = Enumerable.Repeat(IsArc(second) ? 190.0 : 0, Hz),
                        volts = Enumerable.Repeat(IsArc(second) ? volts : 0, Hz),
                        feedMmPerMin = Enumerable.Repeat(IsArc(second) ? 4064.0 : 0, Hz),
                    };
                    return Put(next + second, batch);
                })
        );
        next += count;
        Assert.All(answers, answer => Assert.Equal(HttpStatusCode.OK, answer.StatusCode));
        bool IsArc(int second) => second >= 2 && second < 2 + seconds;
    }

    private async Task<Guid> LaidBead(Guid coupon, string bead)
    {
        var id = Guid.CreateVersion7();
        (await lead.PutPass(coupon, id, Calls.Pass(bead))).EnsureSuccessStatusCode();
        return id;
    }

    private Task<JsonElement> Arcs(Guid coupon) => lead.GetFromJsonAsync<JsonElement>($"/api/coupons/{coupon}/arcs");

    private async Task<Guid> Started(string? name = null) => await lead.StartCoupon(await lead.AddStudent(name: name), asTest: false, boothId: booth);

    private async Task<T> InDatabase<T>(Func<GradusContext, Task<T>> ask)
    {
        await using var scope = server.Services.CreateAsyncScope();
        return await ask(scope.ServiceProvider.GetRequiredService<GradusContext>());
    }

    [Fact]
    public async Task A_batch_is_written_once_however_often_it_is_sent()
    {
        var batch = Second(server.Clock.GetUtcNow(), arc: true);
        Assert.False(await Again(await Put(7, batch)));
        Assert.True(await Again(await Put(7, batch)));
        var together = await Task.WhenAll(Enumerable.Range(0, 6).Select(_ => Put(8, batch)));
        Assert.Equal(1, (await Task.WhenAll(together.Select(Again))).Count(again => !again));
        Assert.Equal(HttpStatusCode.Conflict, (await Put(8, Second(server.Clock.GetUtcNow(), arc: false))).StatusCode);
        Assert.Equal(2, await InDatabase(db => db.ArcBatches.CountAsync()));
    }

    [Fact]
    public async Task Only_a_paired_device_is_heard()
    {
        var batch = Second(server.Clock.GetUtcNow(), arc: true);
        Assert.Equal(HttpStatusCode.Unauthorized, (await Put(1, batch, with: "no such key")).StatusCode);
        using (var request = new HttpRequestMessage(HttpMethod.Put, "/api/arc/batches/1") { Content = JsonContent.Create(batch) })
        {
            Assert.Equal(HttpStatusCode.Unauthorized, (await lead.SendAsync(request)).StatusCode);
        }

        (await lead.PutAsync($"/api/devices/{device}/removed", null)).EnsureSuccessStatusCode();
        Assert.Equal(HttpStatusCode.Unauthorized, (await Put(1, batch)).StatusCode);
        Assert.Equal(0, (await lead.GetFromJsonAsync<JsonElement>("/api/devices")).GetArrayLength());

        // The key is nowhere in the school's file.
        Assert.DoesNotContain(key, await InDatabase(db => db.Devices.Select(one => one.KeyHash).SingleAsync()), StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_booth_has_one_logger_and_its_key_is_told_once()
    {
        var other = new
        {
            kind = "arcLogger",
            name = "Second",
            boothId = booth,
        };
        Assert.Equal(HttpStatusCode.Conflict, (await lead.PutAsJsonAsync($"/api/devices/{Guid.CreateVersion7()}", other)).StatusCode);
        var renamed = await lead.PutAsJsonAsync(
            $"/api/devices/{device}",
            new
            {
                kind = "arcLogger",
                name = "By the door",
                boothId = booth,
            }
        );
        Assert.Equal(JsonValueKind.Null, (await renamed.Content.ReadFromJsonAsync<JsonElement>()).GetProperty("key").ValueKind);
        Assert.False(await Again(await Put(1, Second(server.Clock.GetUtcNow(), arc: true))));
    }

    [Theory]
    [InlineData("{\"hz\":60}", "hz")]
    [InlineData("{\"hz\":20,\"amps\":[1,2],\"volts\":[1]}", "volts")]
    [InlineData("{\"hz\":20,\"amps\":[1],\"volts\":[1],\"feedMmPerMin\":[-1]}", "feedMmPerMin")]
    [InlineData("{\"hz\":20,\"amps\":[],\"volts\":[]}", "amps")]
    [InlineData("{\"at\":\"2031-03-04T09:00:02Z\",\"sentAt\":\"2031-03-04T09:00:01Z\",\"hz\":20,\"amps\":[1],\"volts\":[1]}", "at")]
    public async Task A_batch_that_cannot_be_is_refused_by_its_field(string json, string field)
    {
        var answer = await Put(1, JsonSerializer.Deserialize<JsonElement>(json));
        Assert.Equal(HttpStatusCode.BadRequest, answer.StatusCode);
        Assert.True((await answer.Content.ReadFromJsonAsync<JsonElement>()).GetProperty("errors").TryGetProperty(field, out _));
        Assert.Equal(0, await InDatabase(db => db.ArcBatches.CountAsync()));
    }

    [Fact]
    public async Task An_arc_finds_the_bead_that_is_written_down_after_it()
    {
        var coupon = await Started();
        await Weld(30);
        var first = await LaidBead(coupon, "root-1-1");
        await Weld(40);
        var second = await LaidBead(coupon, "fill-2-1");
        var arcs = await Arcs(coupon);
        Assert.Equal([first, second], arcs.GetProperty("beads").EnumerateArray().Select(bead => bead.GetProperty("passId").GetGuid()));
        Assert.Equal(
            [30.0, 40.0],
            arcs.GetProperty("beads").EnumerateArray().Select(bead => Math.Round(bead.GetProperty("arc").GetProperty("arcSeconds").GetDouble(), 1))
        );
        Assert.Equal(0, arcs.GetProperty("asked").GetArrayLength());
        // A length by the time of the arc: 7 in plates of the test in half a minute.
        var length = (await lead.Coupon(coupon)).GetProperty("test").GetProperty("lengthMm").GetDouble();
        Assert.Equal(length * 2, arcs.GetProperty("beads")[0].GetProperty("travel").GetDouble(), 1.0);
        Assert.Equal(0, await InDatabase(db => db.ArcBatches.CountAsync(one => one.Sequence < next - 20)));
    }

    /// <summary>How long the arc burnt is kept with the verdict, and what burnt in clean beads is told with the card of the next.</summary>
    [Fact]
    public async Task What_was_measured_teaches_the_card_and_the_minutes()
    {
        var coupon = await Started();
        var keys = (await lead.Coupon(coupon)).GetProperty("beads").EnumerateArray().Select(bead => bead.GetProperty("key").GetString()!).ToList();
        foreach (var bead in keys)
        {
            await Weld(30, volts: 16);
            await LaidBead(coupon, bead);
        }

        Assert.Equal(keys.Count, (await Arcs(coupon)).GetProperty("beads").GetArrayLength());
        (await lead.Close(coupon)).EnsureSuccessStatusCode();
        var facts = await InDatabase(db => db.Closings.Where(one => one.CouponId == coupon).Select(one => one.Facts).SingleAsync());
        Assert.Equal(keys.Count * 0.5, facts!.ArcMinutes!.Value, 0.01);
        // Written down a turn of 50 s after another, and the first arc burnt before the first of those.
        Assert.Equal(((keys.Count - 1) * 50 / 60.0) + 0.5, facts.Minutes!.Value, 0.02);

        var student = (await lead.Coupon(coupon)).GetProperty("student").GetProperty("id").GetGuid();
        var next = await lead.StartCoupon(student, asTest: false, boothId: booth);
        var fill = (await lead.Coupon(next)).GetProperty("cards").EnumerateArray().Single(card => card.GetProperty("stage").GetString() == "fill");
        var atArc = fill.GetProperty("clean").GetProperty("atArc");
        Assert.Equal((190, 16), (atArc.GetProperty("amps").GetDouble(), atArc.GetProperty("volts").GetDouble()));
        Assert.Equal(4, atArc.GetProperty("passes").GetInt32());
        Assert.InRange(atArc.GetProperty("offShare").GetDouble(), -0.2, -0.1); // 16 V at the arc of a machine that was set to more
    }

    [Fact]
    public async Task A_bead_that_is_taken_back_and_written_down_anew_has_its_arc_again()
    {
        var coupon = await Started();
        await Weld(30);
        var first = await LaidBead(coupon, "root-1-1");
        Assert.Single((await Arcs(coupon)).GetProperty("beads").EnumerateArray());
        (await lead.DeleteAsync($"/api/coupons/{coupon}/passes/{first}")).EnsureSuccessStatusCode();
        Assert.Equal(0, (await Arcs(coupon)).GetProperty("beads").GetArrayLength());
        var again = await LaidBead(coupon, "root-1-1");
        Assert.Equal(again, Assert.Single((await Arcs(coupon)).GetProperty("beads").EnumerateArray()).GetProperty("passId").GetGuid());
    }

    [Theory]
    [InlineData(3600)]
    [InlineData(-90)]
    public async Task A_clock_that_is_wrong_changes_no_match(double ahead)
    {
        var coupon = await Started();
        await Weld(20, clockAhead: ahead);
        var bead = await LaidBead(coupon, "root-1-1");
        var found = Assert.Single((await Arcs(coupon)).GetProperty("beads").EnumerateArray());
        Assert.Equal(bead, found.GetProperty("passId").GetGuid());
    }

    [Fact]
    public async Task Beads_entered_together_are_asked_about_and_somebody_answers()
    {
        var coupon = await Started();
        await Weld(30);
        await Weld(30);
        var first = await LaidBead(coupon, "root-1-1");
        server.Clock.Advance(TimeSpan.FromSeconds(5));
        var second = await LaidBead(coupon, "fill-2-1");
        var asked = (await Arcs(coupon)).GetProperty("asked");
        Assert.Equal(2, asked.GetArrayLength());
        Assert.Equal(2, asked[0].GetProperty("beads").GetArrayLength());
        var (early, late) = (asked[0].GetProperty("id").GetGuid(), asked[1].GetProperty("id").GetGuid());

        (await lead.PutAsJsonAsync($"/api/coupons/{coupon}/arcs/{early}/bead", new { passId = first })).EnsureSuccessStatusCode();
        (await lead.PutAsJsonAsync($"/api/coupons/{coupon}/arcs/{late}/bead", new { passId = (Guid?)null })).EnsureSuccessStatusCode();
        var arcs = await Arcs(coupon);
        Assert.Equal(0, arcs.GetProperty("asked").GetArrayLength());
        Assert.Equal(first, Assert.Single(arcs.GetProperty("beads").EnumerateArray()).GetProperty("passId").GetGuid());

        // What was said can be said otherwise.
        (await lead.PutAsJsonAsync($"/api/coupons/{coupon}/arcs/{late}/bead", new { passId = second })).EnsureSuccessStatusCode();
        Assert.Equal(2, (await Arcs(coupon)).GetProperty("beads").GetArrayLength());
    }

    [Fact]
    public async Task Two_coupons_in_one_booth_are_asked_about_and_a_student_reads_no_other_name()
    {
        var (one, other) = (await Started("Ines Aune"), await Started("Tor Bakke"));
        await Weld(30);
        await LaidBead(one, "root-1-1");
        await LaidBead(other, "root-1-1");
        var beads = (await Arcs(one)).GetProperty("asked")[0].GetProperty("beads");
        Assert.Equal(["Ines Aune", "Tor Bakke"], beads.EnumerateArray().Select(bead => bead.GetProperty("student").GetString()).Order());

        var student = (await lead.Coupon(one)).GetProperty("student").GetProperty("id").GetGuid();
        (await lead.PutAsJsonAsync($"/api/students/{student}/pin", new { pin = "805517" })).EnsureSuccessStatusCode();
        var own = await SharedSchool.In(server, student, "805517");
        var seen = (await own.GetFromJsonAsync<JsonElement>($"/api/coupons/{one}/arcs")).GetProperty("asked")[0].GetProperty("beads");
        Assert.Equal(["", "Ines Aune"], seen.EnumerateArray().Select(bead => bead.GetProperty("student").GetString()).Order());
        Assert.Equal(HttpStatusCode.Forbidden, (await own.GetAsync($"/api/coupons/{other}/arcs")).StatusCode);
    }

    [Fact]
    public async Task What_comes_out_of_order_is_put_in_order_and_what_is_missing_is_waited_for()
    {
        var coupon = await Started();
        var began = server.Clock.GetUtcNow();
        await Weld(30, isSent: second => second is not (10 or 11));
        var bead = await LaidBead(coupon, "root-1-1");
        // Two seconds are on their way: nothing is closed without them.
        Assert.Equal(0, (await Arcs(coupon)).GetProperty("beads").GetArrayLength());
        foreach (var second in new[] { 11, 10 })
        {
            var late = new
            {
                at = began.AddSeconds(second),
                sentAt = server.Clock.GetUtcNow(),
                hz = Hz,
                amps = Enumerable.Repeat(190.0, Hz),
                volts = Enumerable.Repeat(19.2, Hz),
                feedMmPerMin = Enumerable.Repeat(4064.0, Hz),
            };
            Assert.False(await Again(await Put(1000 + second, late)));
        }

        var arc = Assert.Single((await Arcs(coupon)).GetProperty("beads").EnumerateArray());
        Assert.Equal(bead, arc.GetProperty("passId").GetGuid());
        Assert.Equal(0, arc.GetProperty("arc").GetProperty("lostSeconds").GetDouble());
        Assert.Equal(30, arc.GetProperty("arc").GetProperty("arcSeconds").GetDouble(), 0.01);
    }

    [Fact]
    public async Task What_never_comes_is_said_to_be_lost_and_is_refused_when_it_comes_after_all()
    {
        var coupon = await Started();
        var began = server.Clock.GetUtcNow();
        await Weld(30, isSent: second => second is not (10 or 11));
        await LaidBead(coupon, "root-1-1");
        server.Clock.Advance(TimeSpan.FromSeconds(61));
        var arc = Assert.Single((await Arcs(coupon)).GetProperty("beads").EnumerateArray()).GetProperty("arc");
        Assert.Equal(2, arc.GetProperty("lostSeconds").GetDouble(), 0.01);
        Assert.Equal(30, arc.GetProperty("arcSeconds").GetDouble(), 0.01);
        Assert.Equal(HttpStatusCode.Gone, (await Put(1010, Second(began.AddSeconds(10), arc: true))).StatusCode);
        // One that is in the trace is acknowledged as before, and a number that goes back is refused.
        Assert.Equal(HttpStatusCode.Conflict, (await Put(1009, Second(server.Clock.GetUtcNow(), arc: true))).StatusCode);
        Assert.True(await Again(await Put(1009, Second(began.AddSeconds(9), arc: true))));
    }

    [Fact]
    public async Task What_was_acknowledged_is_there_after_a_start()
    {
        var folder = Directory.CreateTempSubdirectory("gradus-arc-").FullName;
        var batch = Second(server.Clock.GetUtcNow(), arc: true);
        Assert.False(await Again(await Put(5, batch)));
        // The files as they lie there at this moment, as after a power cut.
        CopyOf(server.Folder, folder);
        await using var again = new RunningServer(folder);
        var client = again.CreateClient();
        Assert.True(await Again(await Put(5, batch, by: client)));
    }

    private static void CopyOf(string from, string to)
    {
        Directory.CreateDirectory(to);
        foreach (var file in Directory.GetFiles(from).Where(file => !file.EndsWith(".lock", StringComparison.Ordinal)))
        {
            File.Copy(file, Path.Combine(to, Path.GetFileName(file)));
        }
    }

    [Fact]
    public async Task The_measurements_are_a_table_that_any_program_reads()
    {
        var coupon = await Started();
        await Weld(30);
        await LaidBead(coupon, "root-1-1");
        var trace = (await Arcs(coupon)).GetProperty("beads")[0].GetProperty("traces")[0];
        var file = await lead.GetByteArrayAsync($"/api/coupons/{coupon}/arcs/{trace.GetProperty("id").GetGuid()}/file");
        using var text = new StreamReader(new GZipStream(new MemoryStream(file), CompressionMode.Decompress));
        Assert.Equal("seconds,amps,volts,feed_mm_per_min", text.ReadLine());
        var rows = text.ReadToEnd().Split('\n', StringSplitOptions.RemoveEmptyEntries).Select(row => row.Split(',')).ToList();
        Assert.Equal(30 * Hz, rows.Count(row => double.Parse(row[1], CultureInfo.InvariantCulture) > 100));
        Assert.All(rows.Where(row => row[1] != "0"), row => Assert.Equal(["190", "19.2", "4064"], row[1..]));
        Assert.Equal("0.05", rows[1][0]);

        var points = await lead.GetFromJsonAsync<JsonElement>($"/api/coupons/{coupon}/arcs/{trace.GetProperty("id").GetGuid()}/points?most=10");
        Assert.Equal(10, points.GetProperty("amps").GetArrayLength());
        // Of somebody else's coupon they are not to be had.
        var other = await Started();
        Assert.Equal(
            HttpStatusCode.NotFound,
            (await lead.GetAsync($"/api/coupons/{other}/arcs/{trace.GetProperty("id").GetGuid()}/file")).StatusCode
        );
    }

    [Fact]
    public async Task A_long_arc_is_a_ground_for_a_cause_and_no_verdict()
    {
        var coupon = await Started();
        await Weld(30, volts: 29);
        var pass = await LaidBead(coupon, "root-1-1");
        var before = (await lead.Coupon(coupon)).GetProperty("verdict").ToString();
        await Arcs(coupon);
        var finding = new
        {
            kind = "porosity",
            stage = "root",
            passId = pass,
            diameterMm = 1.0,
            count = 1,
            fromStartMm = 50,
        };
        (await lead.PutAsJsonAsync($"/api/coupons/{coupon}/findings/{Guid.CreateVersion7()}", finding)).EnsureSuccessStatusCode();
        var view = await lead.Coupon(coupon);
        var causes = view.GetProperty("findings")[0].GetProperty("causes").EnumerateArray().ToList();
        Assert.Contains(
            causes.SelectMany(cause => cause.GetProperty("grounds").EnumerateArray()),
            ground => ground.GetString()!.Contains("At the arc 29 V; the card has", StringComparison.Ordinal)
        );
        (
            await lead.DeleteAsync($"/api/coupons/{coupon}/findings/{view.GetProperty("findings")[0].GetProperty("id").GetGuid()}")
        ).EnsureSuccessStatusCode();
        Assert.Equal(before, (await lead.Coupon(coupon)).GetProperty("verdict").ToString());
    }

    [Fact]
    public async Task Old_measurements_go_and_what_was_read_stays()
    {
        var coupon = await Started();
        await Weld(30);
        await LaidBead(coupon, "root-1-1");
        var trace = (await Arcs(coupon)).GetProperty("beads")[0].GetProperty("traces")[0];
        Assert.True(trace.GetProperty("hasPoints").GetBoolean());
        (await lead.PutAsJsonAsync("/api/school/keeping", new { tracesDays = 30 })).EnsureSuccessStatusCode();
        (await Put(next, Second(server.Clock.GetUtcNow().AddSeconds(-1), arc: true))).EnsureSuccessStatusCode();
        (await lead.PutAsJsonAsync($"/api/devices/{device}/removed", new { })).EnsureSuccessStatusCode();
        server.Clock.Advance(TimeSpan.FromDays(29));
        await Keep();
        Assert.NotEqual(0, await InDatabase(db => db.ArcBatches.CountAsync()));
        Assert.Single(Directory.GetFiles(server.Folder, "*.csv.gz", SearchOption.AllDirectories));
        server.Clock.Advance(TimeSpan.FromDays(2));
        await Keep();
        lead = await server.SignedIn(); // a session does not last for a month
        Assert.Equal(0, await InDatabase(db => db.ArcBatches.CountAsync()));
        Assert.Empty(Directory.GetFiles(server.Folder, "*.csv.gz", SearchOption.AllDirectories));
        var after = (await Arcs(coupon)).GetProperty("beads")[0];
        Assert.False(after.GetProperty("traces")[0].GetProperty("hasPoints").GetBoolean());
        Assert.Equal(30, after.GetProperty("arc").GetProperty("arcSeconds").GetDouble(), 0.01);
    }

    private async Task Keep()
    {
        // The school is in use: a rule waits else.
        await using var scope = server.Services.CreateAsyncScope();
        var db = scope.ServiceProvider.GetRequiredService<GradusContext>();
        db.Acts.Add(
            new Act
            {
                At = server.Clock.GetUtcNow().AddDays(-2),
                PersonId = Guid.NewGuid(),
                Operation = "PUT /api/school/keeping",
            }
        );
        await db.SaveChangesAsync();
        await scope.ServiceProvider.GetRequiredService<Keeping>().Apply(CancellationToken.None);
    }

    [Fact]
    public async Task An_archive_and_a_backup_take_the_measurements_along()
    {
        var coupon = await Started();
        await Weld(30);
        await LaidBead(coupon, "root-1-1");
        await Arcs(coupon);
        var work = Directory.CreateTempSubdirectory("gradus-arc-").FullName;
        GradusOptions Of(string folder) => new("127.0.0.1", 0, folder, Demo: false);
        var archive = OpenArchive.Make(Of(server.Folder), work, nameless: false, DateTimeOffset.UtcNow);
        var other = Path.Combine(work, "other");
        OpenArchive.Take(archive, Of(other));
        byte[] Measured(string folder) => File.ReadAllBytes(Assert.Single(Directory.GetFiles(folder, "*.csv.gz", SearchOption.AllDirectories)));
        Assert.Equal(Measured(server.Folder), Measured(other));
        var backup = BackupArchive.Make(Of(server.Folder), work, null, DateTimeOffset.UtcNow);
        using var zip = ZipFile.OpenRead(backup);
        Assert.Contains(zip.Entries, entry => entry.FullName.EndsWith(".csv.gz", StringComparison.Ordinal));
        Directory.Delete(work, recursive: true);
    }

    [Fact]
    public async Task A_trace_is_read_by_anybody()
    {
        using var anybody = server.CreateClient();
        var amps = Enumerable.Repeat(0.0, 50).Concat(Enumerable.Repeat(120.0, 3000)).Concat(Enumerable.Repeat(0.0, 50)).ToList();
        var volts = amps.ConvertAll(one => one > 0 ? 25.0 : 72);
        var answer = await anybody.PostAsJsonAsync(
            "/api/trace/analyse",
            new
            {
                process = "smaw",
                electrodeClass = "E7018",
                card = new { amps = new { min = 100, max = 140 }, volts = (object?)null },
                runLengthMm = 150,
                hz = 50,
                amps,
                volts,
            }
        );
        answer.EnsureSuccessStatusCode();
        var run = Assert.Single((await answer.Content.ReadFromJsonAsync<JsonElement>()).GetProperty("runs").EnumerateArray());
        Assert.Equal(1.2, run.GetProperty("heatKJPerMm").GetDouble(), 0.001); // 60 × 25 V × 120 A / (1000 × 150 mm/min), ASME QW-409.1
        Assert.Equal(150, run.GetProperty("travelMmPerMin").GetDouble(), 0.1);
        Assert.Equal(0, run.GetProperty("outsideCardShare").GetDouble());

        var uneven = await anybody.PostAsJsonAsync(
            "/api/trace/analyse",
            new
            {
                process = "smaw",
                hz = 5,
                amps,
                volts = volts.Take(5),
            }
        );
        Assert.Equal(HttpStatusCode.BadRequest, uneven.StatusCode);
        var errors = (await uneven.Content.ReadFromJsonAsync<JsonElement>()).GetProperty("errors");
        Assert.True(errors.TryGetProperty("hz", out _) && errors.TryGetProperty("volts", out _));
    }
}
