using System.IO.Compression;
using System.Net;
using System.Net.Http.Json;
using System.Text;
using System.Text.Json;
using Gradus.Data;
using Gradus.Server.Hosting;
using Gradus.Server.Instruments;
using Gradus.Server.School;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using UglyToad.PdfPig;

namespace Gradus.Server.Tests;

/// <summary>What a laboratory returns stands beside the coupon until an instructor takes it over; its file is kept byte for byte.</summary>
public sealed class LabTests : IAsyncLifetime
{
    private static readonly byte[] Report = Encoding.ASCII.GetBytes("%PDF-1.7 as the laboratory wrote it");
    private readonly RunningServer server = new();
    private HttpClient lead = null!;
    private readonly Guid lab = Guid.CreateVersion7();
    private string key = null!;
    private Guid coupon;
    private string student = "";

    public async ValueTask InitializeAsync()
    {
        lead = await server.SignedIn();
        key = await Pair(lab, "Bend shop");
        student = $"Student {Guid.NewGuid():N}";
        coupon = await lead.StartCoupon(await lead.AddStudent(name: student), asTest: false);
    }

    public ValueTask DisposeAsync() => server.DisposeAsync();

    private async Task<string> Pair(Guid id, string name)
    {
        var answer = await lead.PutAsJsonAsync($"/api/devices/{id}", new { kind = "laboratory", name });
        answer.EnsureSuccessStatusCode();
        return (await answer.Content.ReadFromJsonAsync<JsonElement>()).GetProperty("key").GetString()!;
    }

    private async Task<Guid> Send(params int[] specimens)
    {
        var id = Guid.CreateVersion7();
        (await Put($"/api/coupons/{coupon}/lab/{id}", new { deviceId = lab, specimens })).EnsureSuccessStatusCode();
        return id;
    }

    private Task<HttpResponseMessage> Put(string path, object body) => lead.PutAsJsonAsync(path, body);

    /// <summary>As the laboratory does: nobody is signed in, and its key is shown.</summary>
    private async Task<HttpResponseMessage> ByKey(HttpMethod method, string path, HttpContent? body = null, string? with = null)
    {
        using var anybody = server.CreateClient();
        using var request = new HttpRequestMessage(method, path) { Content = body };
        request.Headers.Add(DeviceKeys.Header, with ?? key);
        return await anybody.SendAsync(request);
    }

    private Task<HttpResponseMessage> Returns(Guid order, object report) =>
        ByKey(HttpMethod.Put, $"/api/lab/orders/{order}/report", JsonContent.Create(report));

    private Task<HttpResponseMessage> Attaches(Guid order, Guid file, byte[] bytes) =>
        ByKey(HttpMethod.Put, $"/api/lab/orders/{order}/files/{file}?name=B-7.pdf", Pdf(bytes));

    private static ByteArrayContent Pdf(byte[] bytes)
    {
        var content = new ByteArrayContent(bytes);
        content.Headers.ContentType = new("application/pdf");
        return content;
    }

    private static object Bend(int specimen, params double?[] openedMm) =>
        new
        {
            specimen,
            bend = new
            {
                wallMm = (double?)null,
                discontinuities = openedMm.Select(mm => new
                {
                    sizeMm = mm,
                    corner = false,
                    fromSlagOrFusion = false,
                }),
            },
        };

    private async Task<JsonElement> Order() => (await lead.GetFromJsonAsync<JsonElement>($"/api/coupons/{coupon}/lab")).GetProperty("orders")[0];

    private async Task<List<JsonElement>> Asked(string query = "") =>
        [.. (await (await ByKey(HttpMethod.Get, $"/api/lab/orders{query}")).Content.ReadFromJsonAsync<JsonElement>()).EnumerateArray()];

    private async Task<JsonElement> Specimens() => (await lead.Coupon(coupon)).GetProperty("life").GetProperty("specimens");

    private async Task<List<JsonElement>> Due() =>
        [.. (await lead.GetFromJsonAsync<JsonElement>("/api/floor/due")).GetProperty("lab").EnumerateArray()];

    [Fact]
    public async Task A_laboratory_reads_what_it_is_asked_and_nobodys_name()
    {
        var order = await Send(1, 0);
        var asked = Assert.Single(await Asked());
        var stamp = (await lead.Coupon(coupon)).GetProperty("stamp").GetString();
        Assert.Equal((order, stamp), (asked.GetProperty("id").GetGuid(), asked.GetProperty("stamp").GetString()));
        Assert.Equal(
            [$"{stamp}-1", $"{stamp}-2"],
            asked.GetProperty("specimens").EnumerateArray().Select(one => one.GetProperty("mark").GetString()!)
        );
        Assert.All(asked.GetProperty("specimens").EnumerateArray(), one => Assert.Equal("bend", one.GetProperty("shows").GetString()));
        Assert.DoesNotContain(student, asked.ToString(), StringComparison.Ordinal);
        Assert.Single(await Asked($"?stamp={stamp}"));
        Assert.Empty(await Asked("?stamp=ZZZZ"));
    }

    [Fact]
    public async Task Only_the_laboratory_that_was_asked_is_heard()
    {
        var order = await Send(0);
        var other = await Pair(Guid.CreateVersion7(), "Another shop");
        foreach (var (with, status) in new[] { ("no such key", HttpStatusCode.Unauthorized), (other, HttpStatusCode.NotFound) })
        {
            Assert.Equal(
                status,
                (
                    await ByKey(HttpMethod.Put, $"/api/lab/orders/{order}/report", JsonContent.Create(new { found = new[] { Bend(0) } }), with)
                ).StatusCode
            );
            Assert.Equal(status, (await ByKey(HttpMethod.Put, $"/api/lab/orders/{order}/received", with: with)).StatusCode);
            Assert.Equal(
                status,
                (await ByKey(HttpMethod.Put, $"/api/lab/orders/{order}/files/{Guid.CreateVersion7()}", Pdf(Report), with)).StatusCode
            );
        }

        Assert.Equal(HttpStatusCode.Unauthorized, (await ByKey(HttpMethod.Get, "/api/lab/orders", with: "no such key")).StatusCode);
        Assert.Equal("[]", await (await ByKey(HttpMethod.Get, "/api/lab/orders", with: other)).Content.ReadAsStringAsync());
        Assert.Equal(JsonValueKind.Null, (await Order()).GetProperty("receivedAt").ValueKind);

        (await Put($"/api/devices/{lab}/removed", new { })).EnsureSuccessStatusCode();
        Assert.Equal(HttpStatusCode.Unauthorized, (await ByKey(HttpMethod.Get, "/api/lab/orders")).StatusCode);
    }

    [Fact]
    public async Task What_it_saw_is_judged_once_it_is_taken_over_and_no_sooner()
    {
        var order = await Send(0, 1);
        (await ByKey(HttpMethod.Put, $"/api/lab/orders/{order}/received")).EnsureSuccessStatusCode();
        var report = new { found = new[] { Bend(0, 1), Bend(1, 5) }, remark = "Bent in the morning." };
        (await Returns(order, report)).EnsureSuccessStatusCode();
        Assert.Empty((await Specimens()).EnumerateArray());
        var view = await Order();
        // D1.1, guided bends: 3 mm in any direction at most (from memory).
        Assert.Equal(
            ["accept", "reject"],
            view.GetProperty("found").EnumerateArray().Select(one => one.GetProperty("verdict").GetProperty("kind").GetString()!)
        );
        var due = Assert.Single(await Due());
        Assert.Equal(
            (student, 2, true),
            (due.GetProperty("student").GetString(), due.GetProperty("specimens").GetInt32(), due.GetProperty("hasReport").GetBoolean())
        );
        Assert.Empty(await Asked());

        var taken = $"/api/coupons/{coupon}/lab/{order}/taken";
        (await Put(taken, new { })).EnsureSuccessStatusCode();
        Assert.False((await (await Put(taken, new { })).Content.ReadFromJsonAsync<JsonElement>()).GetProperty("isNew").GetBoolean()); // a double tap
        Assert.Equal(
            ["accept", "reject"],
            (await Specimens()).EnumerateArray().Select(one => one.GetProperty("verdict").GetProperty("kind").GetString()!)
        );
        Assert.Equal(2, (await Events()).Count);
        Assert.All(await Events(), one => Assert.Equal(order, one.GetProperty("body").GetProperty("labOrder").GetGuid()));
        Assert.Empty(await Due());
        Assert.True((await Order()).GetProperty("isTaken").GetBoolean());
        Assert.Contains(
            "Root bend 2 tested by the laboratory: rejected.",
            (await lead.GetFromJsonAsync<JsonElement>($"/api/coupons/{coupon}/history"))
                .GetProperty("rows")
                .EnumerateArray()
                .Select(row => row.GetProperty("says").GetString())
        );
        Assert.Equal(HttpStatusCode.Conflict, (await Put($"/api/coupons/{coupon}/lab/{order}/ended", new { })).StatusCode);
    }

    private async Task<List<JsonElement>> Events() =>
        [
            .. (await lead.Coupon(coupon))
                .GetProperty("life")
                .GetProperty("events")
                .EnumerateArray()
                .Where(one => one.GetProperty("kind").GetString() == "specimenTested"),
        ];

    [Fact]
    public async Task Nobody_says_by_hand_that_a_laboratory_saw_it()
    {
        var order = await Send(0);
        (
            await lead.PutEvent(
                coupon,
                "specimenTested",
                new
                {
                    specimen = 0,
                    bend = new { discontinuities = Array.Empty<object>() },
                    labOrder = order,
                }
            )
        ).EnsureSuccessStatusCode();
        var body = Assert.Single(await Events()).GetProperty("body");
        Assert.True(!body.TryGetProperty("labOrder", out var said) || said.ValueKind == JsonValueKind.Null);
    }

    [Fact]
    public async Task A_report_stays_as_it_was_returned()
    {
        var order = await Send(0);
        (await Returns(order, new { found = new[] { Bend(0, 1) } })).EnsureSuccessStatusCode();
        var again = await Returns(order, new { found = new[] { Bend(0, 1) } });
        Assert.False((await again.Content.ReadFromJsonAsync<JsonElement>()).GetProperty("isNew").GetBoolean());
        Assert.Equal(["found"], await (await Returns(order, new { found = new[] { Bend(0) } })).Fields(409));
        Assert.Equal(
            1,
            (await Order())
                .GetProperty("found")[0]
                .GetProperty("found")
                .GetProperty("bend")
                .GetProperty("discontinuities")[0]
                .GetProperty("sizeMm")
                .GetDouble()
        );
    }

    [Fact]
    public async Task Two_reports_at_once_leave_one()
    {
        var order = await Send(0);
        var answers = await Task.WhenAll(Enumerable.Range(0, 6).Select(place => Returns(order, new { found = new[] { Bend(0, place) } })));
        Assert.Single(answers, answer => answer.StatusCode == HttpStatusCode.OK);
        Assert.Equal(5, answers.Count(answer => answer.StatusCode == HttpStatusCode.Conflict));
    }

    [Theory]
    [InlineData("""{}""", "found")]
    [InlineData("""{"found":[]}""", "found")]
    [InlineData("""{"found":[null]}""", "found")]
    [InlineData("""{"found":[{"specimen":1,"bend":{"discontinuities":[]}}]}""", "found")] // not of this order
    [InlineData("""{"found":[{"specimen":-1,"bend":{"discontinuities":[]}}]}""", "found")]
    [InlineData("""{"found":[{"specimen":0,"macro":{"fillet":true}}]}""", "found.bend")] // another kind than it is
    [InlineData("""{"found":[{"specimen":0,"bend":{"discontinuities":[{"sizeMm":-4,"corner":false,"fromSlagOrFusion":false}]}}]}""", "found.bend")]
    [InlineData("""{"found":[{"specimen":0,"bend":{"discontinuities":[]}},{"specimen":0,"bend":{"discontinuities":[]}}]}""", "found")]
    public async Task A_report_that_cannot_be_is_refused_by_its_field(string json, string field)
    {
        var order = await Send(0);
        var answer = await ByKey(HttpMethod.Put, $"/api/lab/orders/{order}/report", new StringContent(json, Encoding.UTF8, "application/json"));
        Assert.Equal([field], await answer.Fields(400));
        Assert.Equal(JsonValueKind.Null, (await Order()).GetProperty("returnedAt").ValueKind);
    }

    [Fact]
    public async Task Specimens_are_at_one_laboratory_at_a_time_and_can_be_called_back()
    {
        var order = await Send(0, 1);
        var second = Guid.CreateVersion7();
        object request = new { deviceId = lab, specimens = new[] { 1 } };
        Assert.Equal(["specimens"], await (await Put($"/api/coupons/{coupon}/lab/{second}", request)).Fields(409));
        (await Put($"/api/coupons/{coupon}/lab/{order}/ended", new { })).EnsureSuccessStatusCode();
        Assert.Empty(await Asked());
        Assert.Equal(["id"], await (await Returns(order, new { found = new[] { Bend(0) } })).Fields(409));
        Assert.Equal(["id"], await (await Attaches(order, Guid.CreateVersion7(), Report)).Fields(409));
        Assert.Equal(["id"], await (await Put($"/api/coupons/{coupon}/lab/{order}/taken", new { })).Fields(409));
        (await Put($"/api/coupons/{coupon}/lab/{second}", request)).EnsureSuccessStatusCode();
        Assert.Equal(
            ["specimens"],
            await (await Put($"/api/coupons/{coupon}/lab/{Guid.CreateVersion7()}", new { deviceId = lab, specimens = new[] { 40 } })).Fields(400)
        );
        Assert.Equal(
            ["deviceId"],
            await (
                await Put($"/api/coupons/{coupon}/lab/{Guid.CreateVersion7()}", new { deviceId = Guid.NewGuid(), specimens = new[] { 0 } })
            ).Fields(404)
        );
    }

    [Fact]
    public async Task A_file_alone_is_kept_byte_for_byte_and_no_result_is_made_of_it()
    {
        var order = await Send(0);
        var file = Guid.CreateVersion7();
        (await Attaches(order, file, Report)).EnsureSuccessStatusCode();
        (await Attaches(order, file, Report)).EnsureSuccessStatusCode(); // sent twice
        Assert.Equal(["file"], await (await Attaches(order, Guid.CreateVersion7(), "<html>"u8.ToArray())).Fields(400));
        var kept = Assert.Single((await Order()).GetProperty("files").EnumerateArray());
        Assert.Equal("B-7.pdf", kept.GetProperty("name").GetString());
        Assert.Equal(Report, await lead.GetByteArrayAsync($"/api/coupons/{coupon}/lab/{order}/files/{file}"));
        Assert.False(Assert.Single(await Due()).GetProperty("hasReport").GetBoolean());
        Assert.Equal(["id"], await (await Put($"/api/coupons/{coupon}/lab/{order}/taken", new { })).Fields(409));
        Assert.Single(await Asked()); // its results may still come

        // No other coupon shows it.
        var other = await lead.StartCoupon(await lead.AddStudent(), asTest: false);
        Assert.Equal(HttpStatusCode.NotFound, (await lead.GetAsync($"/api/coupons/{other}/lab/{order}/files/{file}")).StatusCode);

        var work = Directory.CreateTempSubdirectory("gradus-lab-").FullName;
        var backup = BackupArchive.Make(new GradusOptions("127.0.0.1", 0, server.Folder, Demo: false), work, null, DateTimeOffset.UtcNow);
        using var zip = ZipFile.OpenRead(backup);
        Assert.Contains(zip.Entries, entry => entry.FullName.EndsWith($"{file}.given", StringComparison.Ordinal));
        Directory.Delete(work, recursive: true);
    }

    [Fact]
    public async Task The_laboratory_that_ships_answers_with_results_and_a_sheet_that_any_reader_opens()
    {
        // One test for each way in which a specimen is looked at.
        var shown = new HashSet<string>();
        foreach (var test in new[] { "P7", "F1", "R15", "F2" })
        {
            coupon = await lead.StartCoupon(await lead.AddStudent(test), test, asTest: false);
            var specimens = (await lead.Coupon(coupon)).GetProperty("test").GetProperty("specimens").GetArrayLength();
            await Send([.. Enumerable.Range(0, specimens)]);
            shown.UnionWith(
                from given in await Asked()
                from one in given.GetProperty("specimens").EnumerateArray()
                select one.GetProperty("shows").GetString()!
            );
            using var outside = server.CreateClient();
            var simulated = new Simulators.Laboratory(outside, key, TimeSpan.Zero, Simulators.Returns.Both, seed: 7);
            await simulated.Turn(CancellationToken.None);
            Assert.Empty(simulated.Refused);
            Assert.Equal(1, simulated.Answered);
            var order = await Order();
            Assert.Equal(specimens, order.GetProperty("found").GetArrayLength());
            Assert.All(order.GetProperty("found").EnumerateArray(), one => Assert.NotEqual(JsonValueKind.Null, one.GetProperty("verdict").ValueKind));
            var file = order.GetProperty("files")[0].GetProperty("id").GetGuid();
            using var sheet = PdfDocument.Open(
                await lead.GetByteArrayAsync($"/api/coupons/{coupon}/lab/{order.GetProperty("id").GetGuid()}/files/{file}")
            );
            Assert.Contains(order.GetProperty("specimens")[0].GetProperty("mark").GetString()!, sheet.GetPage(1).Text, StringComparison.Ordinal);
            (await Put($"/api/coupons/{coupon}/lab/{order.GetProperty("id").GetGuid()}/taken", new { })).EnsureSuccessStatusCode();
            Assert.Equal(specimens, (await Specimens()).GetArrayLength());
        }

        Assert.Equal(["bend", "filletBreak", "indications", "macro", "nickBreak"], shown.Order());
    }

    [Fact]
    public async Task A_signed_verdict_stays_and_the_laboratorys_stands_beside_it()
    {
        await lead.LayAllBeads(coupon);
        (await lead.Close(coupon)).EnsureSuccessStatusCode();
        var order = await Send(0, 1);
        (await Returns(order, new { found = new[] { Bend(0), Bend(1, 5) } })).EnsureSuccessStatusCode();
        Assert.Equal("accept", (await lead.Coupon(coupon)).GetProperty("verdict").GetProperty("kind").GetString());
        (await Put($"/api/coupons/{coupon}/lab/{order}/taken", new { })).EnsureSuccessStatusCode();
        var verdict = (await lead.Coupon(coupon)).GetProperty("verdict");
        Assert.Equal("accept by eye, rejected by root bend 2", verdict.GetProperty("sentence").GetString());
        Assert.Equal("accept by eye", verdict.GetProperty("closings")[0].GetProperty("sentence").GetString());
    }

    [Fact]
    public async Task What_does_not_fit_the_coupon_any_more_is_not_taken_over_in_part()
    {
        var order = await Send(0, 1);
        (await Returns(order, new { found = new[] { Bend(0), Bend(1) } })).EnsureSuccessStatusCode();
        (await lead.PutEvent(coupon, "voided", new { reason = "other", note = "The wrong plate." })).EnsureSuccessStatusCode();
        Assert.Equal(HttpStatusCode.Conflict, (await Put($"/api/coupons/{coupon}/lab/{order}/taken", new { })).StatusCode);
        Assert.Empty(await Events());
        Assert.False((await Order()).GetProperty("isTaken").GetBoolean());
        Assert.Equal(
            ["couponId"],
            await (await Put($"/api/coupons/{coupon}/lab/{Guid.CreateVersion7()}", new { deviceId = lab, specimens = new[] { 0 } })).Fields(409)
        );
    }

    [Fact]
    public async Task What_it_says_in_words_goes_when_a_student_is_erased()
    {
        var order = await Send(0);
        (await Returns(order, new { found = new[] { Bend(0) }, remark = $"Of {student}." })).EnsureSuccessStatusCode();
        var id = (await lead.Coupon(coupon)).GetProperty("student").GetProperty("id").GetGuid();
        var own = await lead.GetStringAsync($"/api/students/{id}/file.json");
        Assert.Contains("labOrders", own, StringComparison.Ordinal);
        (await Put($"/api/students/{id}/left", new { left = true })).EnsureSuccessStatusCode();
        (await Put($"/api/students/{id}/erased", new { })).EnsureSuccessStatusCode();
        await using var scope = server.Services.CreateAsyncScope();
        var kept = await scope.ServiceProvider.GetRequiredService<GradusContext>().LabOrders.SingleAsync();
        Assert.Equal("erased", kept.Report!.Remark);
        Assert.Single(kept.Report.Found);
    }
}
