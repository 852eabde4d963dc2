using System.Globalization;
using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using System.Text.RegularExpressions;

namespace Gradus.Server.Tests;

/// <summary>Two people, or one impatient tablet, at the same moment: right every time.</summary>
public sealed class RaceTests : IAsyncLifetime
{
    private readonly RunningServer server = new();
    private HttpClient client = null!;
    private Guid student;

    public async ValueTask InitializeAsync()
    {
        client = await server.SignedIn();
        student = await client.AddStudent();
    }

    public ValueTask DisposeAsync() => server.DisposeAsync();

    private Task<HttpResponseMessage> Crack(Guid coupon) =>
        client.PutAsJsonAsync(
            $"/api/coupons/{coupon}/findings/{Guid.CreateVersion7()}",
            new
            {
                kind = "crack",
                stage = "cap",
                fromStartMm = 40,
            }
        );

    [Fact]
    public async Task A_crack_that_is_sent_together_with_the_closing_is_judged_or_refused_but_never_passed_over()
    {
        for (var round = 0; round < 12; round++)
        {
            var coupon = await client.StartCoupon(student);
            await client.LayAllBeads(coupon);
            var first = round % 2 == 0 ? client.Close(coupon) : null;
            var crack = Crack(coupon);
            await (first ?? client.Close(coupon));
            var found = await crack;
            var view = await client.Coupon(coupon);
            Assert.Equal(found.IsSuccessStatusCode ? "reject" : "accept", view.GetProperty("verdict").GetProperty("kind").GetString());
            Assert.Equal(found.IsSuccessStatusCode ? 1 : 0, view.GetProperty("findings").GetArrayLength());
            Assert.Contains(found.StatusCode, new[] { HttpStatusCode.OK, HttpStatusCode.Conflict });
        }
    }

    [Fact]
    public async Task Of_two_closings_at_once_one_stands()
    {
        for (var round = 0; round < 6; round++)
        {
            var coupon = await client.StartCoupon(student);
            await client.LayAllBeads(coupon);
            var answers = await Task.WhenAll(Enumerable.Range(0, 4).Select(_ => client.Close(coupon)));
            Assert.Equal(1, answers.Count(answer => answer.StatusCode == HttpStatusCode.OK));
            Assert.All(answers.Where(answer => !answer.IsSuccessStatusCode), answer => Assert.Equal(HttpStatusCode.Conflict, answer.StatusCode));
        }
    }

    /// <summary>Everything that can be sent under an id of its own: where to, what, and one thing changed in it.</summary>
    private async Task<(string Path, object Body, object Other, string Differs)[]> Records()
    {
        var coupon = await client.StartCoupon(student);
        var group = (await client.GetFromJsonAsync<JsonElement>("/api/classes"))[0].GetProperty("id").GetGuid();
        object Start(bool asTest) =>
            new
            {
                studentId = student,
                testId = "P8",
                asTest,
            };
        object Fit(double gap) =>
            new
            {
                points = new[] { new { at = "start", rootOpeningMm = gap } },
                tacks = Array.Empty<object>(),
                answers = new Dictionary<string, bool>(),
            };
        object Finding(double at) =>
            new
            {
                kind = "undercut",
                stage = "cap",
                fromStartMm = at,
                depthMm = 0.5,
            };
        object Student(string hand) =>
            new
            {
                name = "Somebody Else",
                classGroupId = group,
                hand,
                targetTestId = "P8",
            };
        object Decision(string reason) =>
            new
            {
                studentId = student,
                testId = "P8",
                kind = "hold",
                reason,
            };
        object Result(string note) =>
            new
            {
                studentId = student,
                testId = "P8",
                day = "2031-03-04",
                passed = true,
                note,
            };
        object Away(string day) =>
            new
            {
                studentId = student,
                day,
                period = 0,
            };
        object Sit(int period) =>
            new
            {
                studentId = student,
                testId = "P8",
                day = "2031-03-10",
                period,
                despite = "As agreed.",
            };
        object Stock(double amount) =>
            new
            {
                stock = "E7018 1/8",
                unit = "kg",
                amount,
                why = "Counted",
            };
        (await client.PutAsync($"/api/students/{student}/safety", null)).EnsureSuccessStatusCode();
        return
        [
            ("/api/coupons/{0}", Start(true), Start(false), "asTest"),
            ($"/api/coupons/{coupon}/fit-ups/{{0}}", Fit(6), Fit(7), "points"),
            ($"/api/coupons/{coupon}/passes/{{0}}", Calls.Pass("root-1-1"), Calls.Pass("root-1-1", 210), "amps"),
            ($"/api/coupons/{coupon}/findings/{{0}}", Finding(40), Finding(41), "fromStartMm"),
            ($"/api/coupons/{coupon}/notes/{{0}}", new { text = "One" }, new { text = "Two" }, "text"),
            ($"/api/coupons/{coupon}/events/{{0}}", new { kind = "cut", body = new { } }, new { kind = "takenDown", body = new { } }, "kind"),
            ("/api/students/{0}", Student("left"), Student("right"), "hand"),
            ("/api/decisions/{0}", Decision("Steady"), Decision("Not yet"), "reason"),
            ("/api/results/{0}", Result("One"), Result("Two"), "note"),
            ("/api/absences/{0}", Away("2031-03-05"), Away("2031-03-06"), "day"),
            ("/api/sittings/{0}", Sit(0), Sit(1), "period"),
            ("/api/stock/moves/{0}", Stock(5), Stock(6), "amount"),
        ];
    }

    [Fact]
    public async Task The_same_id_eight_times_at_once_is_one_record_and_another_content_is_refused_by_its_name()
    {
        foreach (var (path, body, other, differs) in await Records())
        {
            var to = string.Format(System.Globalization.CultureInfo.InvariantCulture, path, Guid.CreateVersion7());
            var answers = await Task.WhenAll(Enumerable.Range(0, 8).Select(_ => client.PutAsJsonAsync(to, body)));
            Assert.All(answers, answer => Assert.True(answer.StatusCode == HttpStatusCode.OK, $"{to}: {answer.StatusCode}"));
            var written = await Task.WhenAll(answers.Select(answer => answer.Content.ReadFromJsonAsync<JsonElement>()));
            Assert.Single(written, one => one.GetProperty("isNew").GetBoolean());
            Assert.Equal([differs], await (await client.PutAsJsonAsync(to, other)).Fields(409));
        }
    }

    [Fact]
    public async Task Somebody_else_who_sends_the_same_changes_nothing()
    {
        var coupon = await client.StartCoupon(student);
        var id = Guid.CreateVersion7();
        (await client.PutPass(coupon, id, Calls.Pass("root-1-1"))).EnsureSuccessStatusCode();
        using var other = await server.SignedIn();
        server.Clock.Advance(TimeSpan.FromMinutes(3));
        var again = await (await other.PutPass(coupon, id, Calls.Pass("root-1-1"))).Content.ReadFromJsonAsync<JsonElement>();
        Assert.False(again.GetProperty("isNew").GetBoolean());
        var elsewhere = await client.StartCoupon(student);
        Assert.Equal(["couponId"], await (await client.PutPass(elsewhere, id, Calls.Pass("root-1-1"))).Fields(409));
    }

    [Fact]
    public async Task Of_parallel_savings_of_a_test_each_is_a_version_or_is_refused()
    {
        var test = await client.GetFromJsonAsync<JsonElement>("/api/tests/P8/file");
        Task<HttpResponseMessage> Save(int basedOn, int by) =>
            client.PutAsJsonAsync(
                "/api/tests/P8",
                new
                {
                    test,
                    basedOnVersion = basedOn,
                    why = $"Change {by}",
                }
            );
        var kept = 0;
        for (var version = 1; version <= 4; version++)
        {
            var from = version;
            var answers = await Task.WhenAll(Enumerable.Range(0, 6).Select(by => Save(from, by)));
            kept += answers.Count(answer => answer.IsSuccessStatusCode);
            Assert.All(answers.Where(answer => !answer.IsSuccessStatusCode), answer => Assert.Equal(HttpStatusCode.Conflict, answer.StatusCode));
            Assert.Equal(version, kept);
        }

        var history = (await client.GetFromJsonAsync<JsonElement>("/api/tests/P8")).GetProperty("history");
        Assert.Equal([5, 4, 3, 2, 1], history.EnumerateArray().Select(one => one.GetProperty("version").GetInt32()));
    }

    [Fact]
    public async Task A_bead_that_two_tablets_lay_at_once_is_laid_once()
    {
        var coupon = await client.StartCoupon(student);
        var answers = await Task.WhenAll(Enumerable.Range(0, 6).Select(_ => client.PutPass(coupon, Guid.CreateVersion7(), Calls.Pass("root-1-1"))));
        Assert.Equal(1, answers.Count(answer => answer.IsSuccessStatusCode));
        Assert.All(answers.Where(answer => !answer.IsSuccessStatusCode), answer => Assert.Equal(HttpStatusCode.Conflict, answer.StatusCode));
    }

    [Fact]
    public async Task The_feed_tells_what_was_committed_and_goes_on_over_what_was_refused()
    {
        var coupon = await client.StartCoupon(student);
        using var feed = await client.GetAsync("/api/floor/events", HttpCompletionOption.ResponseHeadersRead);
        using var reader = new StreamReader(await feed.Content.ReadAsStreamAsync());
        using var limit = new CancellationTokenSource(TimeSpan.FromSeconds(60));

        // What the set-up wrote may be told together with the first pass, as a change of everything: a screen then reads the floor, and so does this.
        (await client.PutPass(coupon, Guid.CreateVersion7(), Calls.Pass("root-1-1"))).EnsureSuccessStatusCode();
        var lines = await Until("\"beadsLaid\":1");
        Assert.Equal(HttpStatusCode.BadRequest, (await client.PutPass(coupon, Guid.CreateVersion7(), Calls.Pass("cap-9-9"))).StatusCode);
        Assert.Equal(HttpStatusCode.Conflict, (await client.PutPass(coupon, Guid.CreateVersion7(), Calls.Pass("root-1-1"))).StatusCode);
        (await client.PutPass(coupon, Guid.CreateVersion7(), Calls.Pass("fill-2-1"))).EnsureSuccessStatusCode();
        lines.AddRange(await Until("\"beadsLaid\":2"));

        // How soon the started coupon is told, by itself or with what came next, is the feed's; nothing is told that was not committed.
        var laid = lines.ConvertAll(line => int.Parse(Regex.Match(line, "\"beadsLaid\":(\\d+)").Groups[1].Value, CultureInfo.InvariantCulture));
        Assert.All(laid, beads => Assert.InRange(beads, 0, 2));

        async Task<List<string>> Until(string told)
        {
            var heard = new List<string>();
            while (!heard.Exists(line => line.Contains(told, StringComparison.Ordinal)))
            {
                if (await reader.ReadLineAsync(limit.Token) is { Length: > 0 } line && line.StartsWith("data: {", StringComparison.Ordinal))
                {
                    heard.Add(line.Contains("\"whole\":true", StringComparison.Ordinal) ? await client.GetStringAsync("/api/floor") : line);
                }
            }

            return heard;
        }
    }
}
