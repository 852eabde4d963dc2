using System.Net.Http.Json;
using System.Text.Json;

namespace Gradus.Server.Tests;

/// <summary>What happens to a coupon beside its passes: life, timers, hold points, repairs, measurements, specimens, breaches.</summary>
public sealed class BenchEventTests : IAsyncDisposable
{
    private readonly RunningServer server = new();

    public ValueTask DisposeAsync() => server.DisposeAsync();

    private static Task<HttpResponseMessage> Tell(HttpClient client, Guid coupon, string kind, object? body = null, Guid? id = null) =>
        client.PutAsJsonAsync($"/api/coupons/{coupon}/events/{id ?? Guid.CreateVersion7()}", new { kind, body = body ?? new { } });

    private async Task<(HttpClient Client, Guid Coupon)> Begin(string testId = "P8", bool asTest = true)
    {
        var client = await server.SignedIn();
        return (client, await client.StartCoupon(await client.AddStudent(testId), testId, asTest));
    }

    private static async Task<JsonElement> Life(HttpClient client, Guid coupon) => (await client.Coupon(coupon)).GetProperty("life");

    [Fact]
    public async Task A_coupon_goes_through_its_life_and_each_step_can_be_taken_back()
    {
        var (client, coupon) = await Begin();
        async Task<string?> State() => (await Life(client, coupon)).GetProperty("state").GetString();
        Assert.Equal("planned", await State());
        (await Tell(client, coupon, "cut")).EnsureSuccessStatusCode();
        Assert.Equal("cut", await State());
        await client.LayAllBeads(coupon);
        Assert.Equal("inWeld", await State());
        (
            await Tell(
                client,
                coupon,
                "measured",
                new
                {
                    side = "face",
                    at = "middle",
                    heightMm = 1.5,
                }
            )
        ).EnsureSuccessStatusCode();
        Assert.Equal("lookedAt", await State());
        (
            await Tell(client, coupon, "specimenTested", new { specimen = 0, bend = new { discontinuities = Array.Empty<object>() } })
        ).EnsureSuccessStatusCode();
        Assert.Equal("cutAndBroken", await State());
        var voided = Guid.CreateVersion7();
        (await Tell(client, coupon, "voided", new { reason = "quenched" }, voided)).EnsureSuccessStatusCode();
        Assert.Equal("void", await State());
        Assert.Equal("quenched", (await Life(client, coupon)).GetProperty("voidReason").GetString());
        (await client.DeleteAsync($"/api/coupons/{coupon}/events/{voided}")).EnsureSuccessStatusCode();
        Assert.Equal("cutAndBroken", await State());
    }

    [Fact]
    public async Task Records_of_two_kinds_under_one_id_break_no_page()
    {
        var (client, coupon) = await Begin();
        var id = Guid.CreateVersion7();
        (await Tell(client, coupon, "cut", id: id)).EnsureSuccessStatusCode();
        (await client.PutAsJsonAsync($"/api/coupons/{coupon}/notes/{id}", new { text = "Two of a kind." })).EnsureSuccessStatusCode();
        Assert.Equal("cut", (await Life(client, coupon)).GetProperty("state").GetString());
        (await client.GetAsync($"/api/coupons/{coupon}/history")).EnsureSuccessStatusCode();
    }

    [Fact]
    public async Task A_voided_coupon_is_no_evidence()
    {
        var (client, coupon) = await Begin();
        await client.LayAllBeads(coupon);
        (await client.Close(coupon)).EnsureSuccessStatusCode();
        var student = (await client.Coupon(coupon)).GetProperty("student").GetProperty("id").GetGuid();
        async Task<int> Coupons() =>
            (await client.GetFromJsonAsync<JsonElement>($"/api/students/{student}"))
                .GetProperty("tests")[0]
                .GetProperty("whole")
                .GetProperty("coupons")
                .GetInt32();
        Assert.Equal(1, await Coupons());
        (await Tell(client, coupon, "voided", new { reason = "capBuiltToMask" })).EnsureSuccessStatusCode();
        Assert.Equal(0, await Coupons());
    }

    [Fact]
    public async Task A_hold_point_waits_on_the_floor_until_it_is_answered()
    {
        var (client, coupon) = await Begin();
        (await Tell(client, coupon, "holdCalled", new { point = "Root" })).EnsureSuccessStatusCode();
        var queue = (await client.GetFromJsonAsync<JsonElement>("/api/floor")).GetProperty("holds");
        Assert.Equal("Root", queue[0].GetProperty("point").GetString());
        (await Tell(client, coupon, "holdAnswered", new { point = "Root", go = true })).EnsureSuccessStatusCode();
        Assert.Equal(0, (await client.GetFromJsonAsync<JsonElement>("/api/floor")).GetProperty("holds").GetArrayLength());
        Assert.Equal(["body.point"], await (await Tell(client, coupon, "holdAnswered", new { point = "Lunch", go = true })).Fields(400));
    }

    [Fact]
    public async Task The_bench_says_which_hold_point_the_next_pass_stands_before()
    {
        var (client, coupon) = await Begin();
        async Task<string?[]> Due() => [.. (await Life(client, coupon)).GetProperty("holdsDue").EnumerateArray().Select(one => one.GetString())];
        var nothing = new
        {
            points = Array.Empty<object>(),
            tacks = Array.Empty<object>(),
            answers = new { },
        };
        (await client.PutAsJsonAsync($"/api/coupons/{coupon}/fit-ups/{Guid.CreateVersion7()}", nothing)).EnsureSuccessStatusCode();
        Assert.Equal(["Fit-up"], await Due());
        (await Tell(client, coupon, "holdAnswered", new { point = "Fit-up", go = false })).EnsureSuccessStatusCode();
        Assert.Equal(["Fit-up"], await Due());
        (await Tell(client, coupon, "holdAnswered", new { point = "Fit-up", go = true })).EnsureSuccessStatusCode();
        Assert.Empty(await Due());
    }

    [Fact]
    public async Task A_timer_runs_until_it_is_stopped_and_says_when_it_is_due()
    {
        var (client, coupon) = await Begin();
        (await Tell(client, coupon, "timerStarted", new { timer = "cool", minutes = 5 })).EnsureSuccessStatusCode();
        var timer = (await Life(client, coupon)).GetProperty("timers")[0];
        Assert.Equal(server.Clock.GetUtcNow().AddMinutes(5), timer.GetProperty("dueAt").GetDateTimeOffset());
        (await Tell(client, coupon, "timerStopped", new { timer = "cool" })).EnsureSuccessStatusCode();
        Assert.Equal(0, (await Life(client, coupon)).GetProperty("timers").GetArrayLength());
    }

    [Fact]
    public async Task Taken_down_under_test_it_is_a_breach_and_the_position_must_be_witnessed_again()
    {
        var (client, coupon) = await Begin();
        (await Tell(client, coupon, "positionWitnessed")).EnsureSuccessStatusCode();
        Assert.True((await Life(client, coupon)).GetProperty("positionStands").GetBoolean());
        server.Clock.Advance(TimeSpan.FromMinutes(1));
        (await Tell(client, coupon, "takenDown")).EnsureSuccessStatusCode();
        var life = await Life(client, coupon);
        Assert.False(life.GetProperty("positionStands").GetBoolean());
        Assert.True(life.GetProperty("downgraded").GetBoolean());
        Assert.Equal("takeDown", life.GetProperty("breaches")[0].GetProperty("rule").GetString());
    }

    [Fact]
    public async Task A_rejected_specimen_rejects_the_coupon_whatever_it_looks_like()
    {
        var (client, coupon) = await Begin();
        await client.LayAllBeads(coupon);
        (
            await Tell(
                client,
                coupon,
                "specimenTested",
                new
                {
                    specimen = 1,
                    bend = new
                    {
                        discontinuities = new[]
                        {
                            new
                            {
                                sizeMm = 4.0,
                                corner = false,
                                fromSlagOrFusion = false,
                            },
                        },
                    },
                }
            )
        ).EnsureSuccessStatusCode(); // AWS D1.1: 1/8 in
        Assert.Equal("reject", (await client.Coupon(coupon)).GetProperty("verdict").GetProperty("kind").GetString());
    }

    [Theory] // AWS D1.1: cap 1/8 in, none below flush
    [InlineData("face", 3.0, "accept")]
    [InlineData("face", 3.5, "reject")]
    [InlineData("face", -0.5, "reject")]
    public async Task A_height_that_is_measured_is_judged(string side, double heightMm, string verdict)
    {
        var (client, coupon) = await Begin();
        await client.LayAllBeads(coupon);
        (
            await Tell(
                client,
                coupon,
                "measured",
                new
                {
                    side,
                    at = "start",
                    heightMm,
                }
            )
        ).EnsureSuccessStatusCode();
        Assert.Equal(verdict, (await client.Coupon(coupon)).GetProperty("verdict").GetProperty("kind").GetString());
    }

    [Fact]
    public async Task A_finding_is_shown_with_its_causes_and_keeps_the_chosen_one_and_its_repairs()
    {
        var (client, coupon) = await Begin();
        await client.LayAllBeads(coupon);
        var finding = Guid.CreateVersion7();
        (
            await client.PutAsJsonAsync(
                $"/api/coupons/{coupon}/findings/{finding}",
                new
                {
                    kind = "undercut",
                    stage = "cap",
                    fromStartMm = 40,
                    depthMm = 1.0,
                }
            )
        ).EnsureSuccessStatusCode();
        (await Tell(client, coupon, "causeChosen", new { findingId = finding, causeId = "noPause" })).EnsureSuccessStatusCode();
        (await Tell(client, coupon, "repaired", new { findingId = finding, action = "grind" })).EnsureSuccessStatusCode();
        var view = (await client.Coupon(coupon)).GetProperty("findings")[0];
        Assert.NotEqual(0, view.GetProperty("causes").GetArrayLength());
        Assert.Equal("noPause", view.GetProperty("chosenCause").GetString());
        Assert.Equal("grind", view.GetProperty("repairs")[0].GetProperty("action").GetString());
    }

    [Theory]
    [InlineData("voided", "{}", "body.reason")]
    [InlineData("holdCalled", """{"point":"Lunch"}""", "body.point")]
    [InlineData("timerStarted", """{"timer":"cool","minutes":-1}""", "body.minutes")]
    [InlineData("timerStarted", """{"minutes":1}""", "body.timer")]
    [InlineData("repaired", """{"findingId":"00000000-0000-7000-8000-000000000000","action":"grind"}""", "body.findingId")]
    [InlineData("measured", """{"side":"face","at":"12","heightMm":1}""", "body.at")] // a plate has no clock
    [InlineData("measured", """{"side":"face","at":"start","heightMm":900}""", "body.heightMm")]
    [InlineData("specimenTested", """{"specimen":7,"bend":{"discontinuities":[]}}""", "body.specimen")]
    [InlineData("specimenTested", """{"specimen":0}""", "body.bend")]
    [InlineData("breach", "{}", "body.rule")]
    [InlineData("explode", "{}", "kind")]
    [InlineData("cut", """{"x":1}""", "body.x")]
    public async Task An_event_that_cannot_be_is_refused_by_its_field(string kind, string body, string field)
    {
        var (client, coupon) = await Begin();
        Assert.Equal([field], await (await Tell(client, coupon, kind, JsonSerializer.Deserialize<JsonElement>(body))).Fields(400));
    }

    [Fact]
    public async Task Two_ways_that_a_student_tried_are_compared_with_their_evidence()
    {
        var client = await server.SignedIn();
        var student = await client.AddStudent();
        foreach (var (cap, clean) in new[] { ("three", true), ("three", true), ("two", false) })
        {
            var coupon = Guid.CreateVersion7();
            var variants = new Dictionary<string, string> { ["capBeads"] = cap };
            (
                await client.PutAsJsonAsync(
                    $"/api/coupons/{coupon}",
                    new
                    {
                        studentId = student,
                        testId = "P8",
                        asTest = true,
                        variants,
                    }
                )
            ).EnsureSuccessStatusCode();
            await client.LayAllBeads(coupon);
            if (!clean)
            {
                await client.PutAsJsonAsync(
                    $"/api/coupons/{coupon}/findings/{Guid.CreateVersion7()}",
                    new
                    {
                        kind = "crack",
                        stage = "cap",
                        fromStartMm = 4,
                    }
                );
            }

            (await client.Close(coupon)).EnsureSuccessStatusCode();
            server.Clock.Advance(TimeSpan.FromHours(1));
        }

        var worked = (await client.GetFromJsonAsync<JsonElement>($"/api/learn/students/{student}")).GetProperty("worked")[0];
        var compared = Assert.Single(worked.GetProperty("variants").EnumerateArray());
        Assert.Equal(("Three beads", "Two beads"), (compared.GetProperty("first").GetString(), compared.GetProperty("second").GetString()));
        Assert.InRange(compared.GetProperty("chanceBetter").GetDouble(), 0.85, 0.99);
    }

    [Fact]
    public async Task The_card_offers_what_came_out_clean_with_how_many_of_how_many()
    {
        var client = await server.SignedIn();
        var student = await client.AddStudent();
        foreach (var (amps, clean) in new[] { (196.0, true), (204.0, true), (230.0, false) })
        {
            var coupon = await client.StartCoupon(student);
            foreach (var bead in (await client.Coupon(coupon)).GetProperty("beads").EnumerateArray())
            {
                await client.PutPass(coupon, Guid.CreateVersion7(), Calls.Pass(bead.GetProperty("key").GetString()!, amps));
            }

            if (!clean)
            {
                await client.PutAsJsonAsync(
                    $"/api/coupons/{coupon}/findings/{Guid.CreateVersion7()}",
                    new
                    {
                        kind = "crack",
                        stage = "cap",
                        fromStartMm = 4,
                    }
                );
            }

            (await client.Close(coupon)).EnsureSuccessStatusCode();
            server.Clock.Advance(TimeSpan.FromHours(1));
        }

        var cap = (await client.Coupon(await client.StartCoupon(student))).GetProperty("cards").EnumerateArray().Last();
        Assert.Equal(200, cap.GetProperty("amps").GetDouble()); // the middle of the clean ones, not the last
        Assert.Equal(
            (6, 9),
            (cap.GetProperty("clean").GetProperty("cleanPasses").GetInt32(), cap.GetProperty("clean").GetProperty("passes").GetInt32())
        );
    }
}
