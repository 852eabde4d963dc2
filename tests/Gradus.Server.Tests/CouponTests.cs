using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using static Gradus.Server.Tests.Calls;

namespace Gradus.Server.Tests;

public sealed class CouponTests : IAsyncLifetime
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

    private static object FitUp(double opening = 6.35, double face = 0) =>
        new
        {
            points = new[] { "start", "end" }.Select(at => new
            {
                at,
                bevelDegA = 22.5,
                bevelDegB = 22.5,
                rootOpeningMm = opening,
                rootFaceMm = face,
                offsetMm = 0,
                stripGapMm = 0,
            }),
            tacks = new[] { "start", "start", "end" }.Select(at => new
            {
                at,
                lengthMm = 12.7,
                feathered = false,
            }),
            answers = new Dictionary<string, bool>
            {
                ["stripClean"] = true,
                ["burr"] = true,
                ["cleaned"] = true,
                ["position"] = true,
            },
        };

    [Fact]
    public async Task A_coupon_goes_from_fit_up_to_a_verdict_with_the_rules_that_made_it()
    {
        var coupon = await client.StartCoupon(student);
        Assert.Equal("fitUp", (await client.Coupon(coupon)).GetProperty("next").GetProperty("kind").GetString());
        (await client.PutAsJsonAsync($"/api/coupons/{coupon}/fit-ups/{Guid.CreateVersion7()}", FitUp())).EnsureSuccessStatusCode();
        var fitted = await client.Coupon(coupon);
        Assert.Equal("go", fitted.GetProperty("fitUp").GetProperty("outcome").GetString());
        Assert.Equal(["start", "end"], fitted.GetProperty("sections").EnumerateArray().Select(section => section.GetProperty("at").GetString()));

        await client.LayAllBeads(coupon);
        var undercut = new
        {
            kind = "undercut",
            stage = "cap",
            fromStartMm = 40,
            depthMm = 25.4 * 3 / 64,
        };
        (await client.PutAsJsonAsync($"/api/coupons/{coupon}/findings/{Guid.CreateVersion7()}", undercut)).EnsureSuccessStatusCode();
        (await client.Close(coupon)).EnsureSuccessStatusCode();

        var closed = (await client.Coupon(coupon)).GetProperty("verdict");
        Assert.Equal("reject", closed.GetProperty("kind").GetString());
        Assert.Equal(25.4 / 32, closed.GetProperty("reasons")[0].GetProperty("limit").GetDouble()); // AWS D1.1
        Assert.Equal(
            ("aws-d1.1", 1, 1),
            (
                closed.GetProperty("profileId").GetString(),
                closed.GetProperty("profileVersion").GetInt32(),
                closed.GetProperty("templateVersion").GetInt32()
            )
        );
    }

    [Fact]
    public async Task A_retried_write_changes_nothing_and_another_one_under_its_id_is_refused()
    {
        var coupon = await client.StartCoupon(student);
        var id = Guid.CreateVersion7();
        (await client.PutPass(coupon, id, Pass("root-1-1", 200))).EnsureSuccessStatusCode();
        server.Clock.Advance(TimeSpan.FromMinutes(5));
        var before = (await client.Coupon(coupon)).GetProperty("beads").GetRawText();
        var again = await client.PutPass(coupon, id, Pass("root-1-1", 200));
        Assert.False((await again.Content.ReadFromJsonAsync<JsonElement>()).GetProperty("isNew").GetBoolean());
        Assert.Equal(["amps"], await (await client.PutPass(coupon, id, Pass("root-1-1", 210))).Fields(409)); // names what differs
        Assert.Equal(before, (await client.Coupon(coupon)).GetProperty("beads").GetRawText());
    }

    [Fact]
    public async Task The_same_write_sent_many_times_at_once_is_kept_once()
    {
        var coupon = await client.StartCoupon(student);
        var id = Guid.CreateVersion7();
        var answers = await Task.WhenAll(Enumerable.Range(0, 8).Select(_ => client.PutPass(coupon, id, Pass("root-1-1"))));
        Assert.All(answers, answer => Assert.Equal(HttpStatusCode.OK, answer.StatusCode));
        Assert.Single(
            (await client.Coupon(coupon)).GetProperty("beads").EnumerateArray(),
            bead => bead.GetProperty("pass").ValueKind == JsonValueKind.Object
        );
    }

    [Fact]
    public async Task Coupons_started_at_once_get_stamps_of_their_own()
    {
        var ids = await Task.WhenAll(Enumerable.Range(0, 6).Select(_ => client.StartCoupon(student)));
        var stamps = await Task.WhenAll(ids.Select(async id => (await client.Coupon(id)).GetProperty("stamp").GetString()));
        Assert.Equal(6, stamps.Distinct().Count());
    }

    [Fact]
    public async Task A_pass_taken_back_leaves_its_bead_open_and_a_late_retry_does_not_bring_it_back()
    {
        var coupon = await client.StartCoupon(student);
        var id = Guid.CreateVersion7();
        (await client.PutPass(coupon, id, Pass("root-1-1"))).EnsureSuccessStatusCode();
        (await client.DeleteAsync($"/api/coupons/{coupon}/passes/{id}")).EnsureSuccessStatusCode();
        (await client.PutPass(coupon, id, Pass("root-1-1"))).EnsureSuccessStatusCode();
        Assert.Equal(JsonValueKind.Null, (await client.Coupon(coupon)).GetProperty("beads")[0].GetProperty("pass").ValueKind);
    }

    [Fact]
    public async Task Half_a_stage_is_not_a_clean_stage()
    {
        var coupon = await client.StartCoupon(student);
        await client.LayAllBeads(coupon);
        var last = (await client.Coupon(coupon)).GetProperty("beads").EnumerateArray().Last().GetProperty("pass").GetProperty("id").GetGuid();
        (await client.DeleteAsync($"/api/coupons/{coupon}/passes/{last}")).EnsureSuccessStatusCode();
        (await client.Close(coupon)).EnsureSuccessStatusCode();
        var view = await client.Coupon(coupon);
        Assert.Equal("cannot-judge", view.GetProperty("verdict").GetProperty("kind").GetString());
        Assert.Equal(0, view.GetProperty("readiness").GetProperty("after").GetProperty("coupons").GetInt32());
    }

    [Fact]
    public async Task A_closed_coupon_takes_no_more_passes_until_it_is_opened_again()
    {
        var coupon = await client.StartCoupon(student);
        Assert.Contains("passes", await (await client.Close(coupon)).Fields(409));
        (await client.PutPass(coupon, Guid.CreateVersion7(), Pass("root-1-1"))).EnsureSuccessStatusCode();
        var closing = Guid.CreateVersion7();
        (await client.PutAsync($"/api/coupons/{coupon}/closings/{closing}", null)).EnsureSuccessStatusCode();
        Assert.Contains("couponId", await (await client.PutPass(coupon, Guid.CreateVersion7(), Pass("fill-2-1"))).Fields(409));
        (await client.DeleteAsync($"/api/coupons/{coupon}/closings/{closing}")).EnsureSuccessStatusCode();
        (await client.PutPass(coupon, Guid.CreateVersion7(), Pass("fill-2-1"))).EnsureSuccessStatusCode();
    }

    [Theory]
    [InlineData("P8", """{"kind":"undercut","stage":"cap","fromStartMm":200,"depthMm":1}""", "fromStartMm")]
    [InlineData("P8", """{"kind":"undercut","stage":"cap","clock":"6:00","depthMm":1}""", "fromStartMm")]
    [InlineData("R3", """{"kind":"undercut","stage":"cap","clock":"13:00","depthMm":1}""", "clock")]
    [InlineData("R3", """{"kind":"undercut","stage":"cap","depthMm":1}""", "clock")]
    [InlineData("R3", """{"kind":"undercut","stage":"hot","clock":"6:00"}""", "stage")]
    [InlineData("R3", """{"stage":"cap","clock":"6:00"}""", "kind")]
    public async Task A_finding_at_an_impossible_place_is_refused_and_not_half_saved(string testId, string json, string field)
    {
        var coupon = await client.StartCoupon(student, testId);
        var answer = await client.PutAsync(
            $"/api/coupons/{coupon}/findings/{Guid.CreateVersion7()}",
            new StringContent(json, System.Text.Encoding.UTF8, "application/json")
        );
        Assert.Contains(field, await answer.Fields(400));
        Assert.Empty((await client.Coupon(coupon)).GetProperty("findings").EnumerateArray());
    }

    [Fact]
    public async Task A_root_face_thicker_than_the_plate_is_refused()
    {
        var coupon = await client.StartCoupon(student);
        Assert.Contains(
            "points",
            await (await client.PutAsJsonAsync($"/api/coupons/{coupon}/fit-ups/{Guid.CreateVersion7()}", FitUp(face: 12))).Fields(400)
        );
    }

    [Fact]
    public async Task Unknown_ids_are_not_found()
    {
        var nobody = Guid.CreateVersion7();
        Assert.Contains("couponId", await (await client.GetAsync($"/api/coupons/{nobody}")).Fields(404));
        Assert.Contains("couponId", await (await client.PutPass(nobody, Guid.CreateVersion7(), Pass("root-1-1"))).Fields(404));
        Assert.Contains(
            "studentId",
            await (
                await client.PutAsJsonAsync(
                    $"/api/coupons/{nobody}",
                    new
                    {
                        studentId = nobody,
                        testId = "P8",
                        asTest = true,
                    }
                )
            ).Fields(404)
        );
        Assert.Contains(
            "testId",
            await (
                await client.PutAsJsonAsync(
                    $"/api/coupons/{nobody}",
                    new
                    {
                        studentId = student,
                        testId = "Z9",
                        asTest = true,
                    }
                )
            ).Fields(400)
        );
        Assert.Contains(
            "beadKey",
            await (await client.PutPass(await client.StartCoupon(student), Guid.CreateVersion7(), Pass("root-9-9"))).Fields(400)
        );
    }

    [Fact]
    public async Task Without_signing_in_the_record_is_closed()
    {
        using var stranger = server.CreateClient();
        Assert.Contains("session", await (await stranger.GetAsync("/api/floor")).Fields(401));
        Assert.Contains("session", await (await stranger.GetAsync($"/api/coupons/{Guid.CreateVersion7()}")).Fields(401));
    }

    [Fact]
    public async Task A_clean_coupon_moves_the_chance_and_a_signed_decision_is_there_after_a_restart()
    {
        var coupon = await client.StartCoupon(student);
        await client.LayAllBeads(coupon);
        (await client.Close(coupon)).EnsureSuccessStatusCode();
        var shift = (await client.Coupon(coupon)).GetProperty("readiness");
        Assert.True(shift.GetProperty("after").GetProperty("mean").GetDouble() > shift.GetProperty("before").GetProperty("mean").GetDouble());
        var decision = new
        {
            studentId = student,
            testId = "P8",
            kind = "practise",
            reason = "Two more.",
        };
        var id = Guid.CreateVersion7();
        (await client.PutAsJsonAsync($"/api/decisions/{id}", decision)).EnsureSuccessStatusCode();
        (await client.PutAsJsonAsync($"/api/decisions/{id}", decision)).EnsureSuccessStatusCode();
        Assert.Contains(
            "reason",
            await (await client.PutAsJsonAsync($"/api/decisions/{Guid.CreateVersion7()}", decision with { kind = "testNow", reason = " " })).Fields(
                400
            )
        );
        await server.DisposeAsync();

        await using var restarted = new RunningServer(server.Folder);
        var view = await (await restarted.SignedIn()).GetFromJsonAsync<JsonElement>($"/api/students/{student}");
        var kept = Assert.Single(view.GetProperty("decisions").EnumerateArray());
        Assert.Equal("Two more.", kept.GetProperty("reason").GetString());
        Assert.Equal(1, kept.GetProperty("whole").GetProperty("coupons").GetInt32());
    }

    [Theory]
    [InlineData("R4")] // a split coupon: each half has a section of its own
    [InlineData("P8")]
    public async Task The_floor_draws_the_section_that_the_next_bead_lies_in(string testId)
    {
        var coupon = await client.StartCoupon(student, testId, asTest: false);
        var none = new
        {
            points = Array.Empty<object>(),
            tacks = Array.Empty<object>(),
            answers = new { },
        };
        (await client.PutAsJsonAsync($"/api/coupons/{coupon}/fit-ups/{Guid.CreateVersion7()}", none)).EnsureSuccessStatusCode();
        foreach (var bead in (await client.Coupon(coupon)).GetProperty("beads").EnumerateArray())
        {
            var floor = await client.GetFromJsonAsync<JsonElement>("/api/floor");
            var open = Assert
                .Single(floor.GetProperty("students").EnumerateArray(), one => one.GetProperty("id").GetGuid() == student)
                .GetProperty("open");
            var next = open.GetProperty("next").GetProperty("beadKey").GetString();
            Assert.Equal(bead.GetProperty("key").GetString(), next);
            var drawn = Assert.Single(
                open.GetProperty("section").GetProperty("beads").EnumerateArray(),
                one => one.GetProperty("key").GetString() == next
            );
            Assert.False(drawn.GetProperty("laid").GetBoolean());
            Assert.True(drawn.GetProperty("outline").GetArrayLength() >= 6);
            (await client.PutPass(coupon, Guid.CreateVersion7(), Pass(next!))).EnsureSuccessStatusCode();
        }
    }
}
