using System.Net;
using System.Net.Http.Json;
using System.Text.Json;

namespace Gradus.Server.Tests;

/// <summary>Whatever happens to a coupon goes through the calls of the record, and can be taken back.</summary>
public sealed class AsItHappenedTests : IAsyncLifetime
{
    private readonly RunningServer server = new();
    private HttpClient client = null!;

    public async ValueTask InitializeAsync() => client = await server.SignedIn();

    public ValueTask DisposeAsync() => server.DisposeAsync();

    private async Task<(Guid Coupon, Guid Student)> Start(string test = "P8", bool asTest = false)
    {
        var student = await client.AddStudent(test);
        return (await client.StartCoupon(student, test, asTest), student);
    }

    private async Task Tell(Guid coupon, string kind, object body, Guid? id = null) =>
        (await client.PutEvent(coupon, kind, body, id)).EnsureSuccessStatusCode();

    private static object Run(string key, string from, string to, string? side = null, bool? part = true) =>
        new
        {
            beadKey = key,
            process = "smaw",
            electrodeClass = "E6010",
            diameterMm = 3.175,
            polarity = "dcep",
            amps = 88,
            technique = "whipAndPause",
            progression = "uphill",
            hand = "right",
            startAt = from,
            stopAt = to,
            side,
            part,
            measured = new { runLengthMm = 240.0, arcSeconds = 120.0 },
        };

    private static object Crack(string clock) =>
        new
        {
            kind = "crack",
            stage = "cap",
            clock,
        };

    private async Task<Guid> Find(Guid coupon, object finding)
    {
        var id = Guid.CreateVersion7();
        (await client.PutAsJsonAsync($"/api/coupons/{coupon}/findings/{id}", finding)).EnsureSuccessStatusCode();
        return id;
    }

    private async Task<string[]> Said(Guid coupon) =>
        [
            .. (await client.GetFromJsonAsync<JsonElement>($"/api/coupons/{coupon}/history"))
                .GetProperty("rows")
                .EnumerateArray()
                .Select(row => row.GetProperty("says").GetString()!),
        ];

    private static JsonElement Bead(JsonElement view, string key) =>
        view.GetProperty("beads").EnumerateArray().Single(bead => bead.GetProperty("key").GetString() == key);

    private static string Kind(JsonElement view) => view.GetProperty("verdict").GetProperty("kind").GetString()!;

    [Fact]
    public async Task A_bead_is_laid_in_two_runs_by_its_sides()
    {
        var (coupon, _) = await Start("R3");
        Assert.Equal(2, Bead(await client.Coupon(coupon), "root-1-1").GetProperty("runsLeft").GetArrayLength());
        (await client.PutPass(coupon, Guid.CreateVersion7(), Run("root-1-1", "6:00", "12:00", "nine"))).EnsureSuccessStatusCode();
        var half = Bead(await client.Coupon(coupon), "root-1-1");
        Assert.Equal(JsonValueKind.Null, half.GetProperty("pass").ValueKind);
        Assert.Equal("three", Assert.Single(half.GetProperty("runsLeft").EnumerateArray()).GetProperty("side").GetString());
        var numbers = half.GetProperty("runs")[0].GetProperty("numbers");
        Assert.Equal(120, numbers.GetProperty("travelMmPerMin").GetDouble(), 9); // 240 mm in two minutes
        Assert.Equal(["side"], await (await client.PutPass(coupon, Guid.CreateVersion7(), Run("root-1-1", "6:00", "12:00"))).Fields(400));
        (await client.PutPass(coupon, Guid.CreateVersion7(), Run("root-1-1", "6:00", "12:00", "three"))).EnsureSuccessStatusCode();
        var whole = Bead(await client.Coupon(coupon), "root-1-1");
        Assert.Equal((2, 0), (whole.GetProperty("runs").GetArrayLength(), whole.GetProperty("runsLeft").GetArrayLength()));
        Assert.Equal(JsonValueKind.Object, whole.GetProperty("pass").ValueKind);
        Assert.Equal(["beadKey"], await (await client.PutPass(coupon, Guid.CreateVersion7(), Run("root-1-1", "6:00", "3:00"))).Fields(409));
        Assert.Contains("Root, layer 1, bead 1, run from 6:00 to 12:00 by nine o'clock: E6010, 88 A, right hand.", await Said(coupon));

        // Who says from where to where, and no more, of two passes of a bead is understood as well.
        (await client.PutPass(coupon, Guid.CreateVersion7(), Run("fill-2-1", "6:00", "9:00", part: null))).EnsureSuccessStatusCode();
        (await client.PutPass(coupon, Guid.CreateVersion7(), Run("fill-2-1", "9:00", "12:00", part: null))).EnsureSuccessStatusCode();
    }

    [Fact]
    public async Task A_bead_more_is_welded_and_one_less_is_not_missed()
    {
        var (coupon, _) = await Start();
        await client.LayAllBeads(coupon);
        var added = Guid.CreateVersion7();
        await Tell(coupon, "beadAdded", new { stage = "cap" }, added);
        var view = await client.Coupon(coupon);
        Assert.Equal("cannot-judge", Kind(view));
        var key = view.GetProperty("beads").EnumerateArray().Single(bead => bead.GetProperty("pass").ValueKind == JsonValueKind.Null);
        (await client.PutPass(coupon, Guid.CreateVersion7(), Calls.Pass(key.GetProperty("key").GetString()!))).EnsureSuccessStatusCode();
        Assert.Equal("accept", Kind(await client.Coupon(coupon)));

        var patch = Guid.CreateVersion7();
        await Tell(coupon, "beadAdded", new { patch = true }, patch);
        Assert.Equal("cannot-judge", Kind(await client.Coupon(coupon)));
        (await client.DeleteAsync($"/api/coupons/{coupon}/events/{patch}")).EnsureSuccessStatusCode();
        Assert.Equal("accept", Kind(await client.Coupon(coupon)));
        Assert.Equal(["body.stage"], await (await client.PutEvent(coupon, "beadAdded", new { stage = "hot" })).Fields(400)); // P8 has none
    }

    [Fact]
    public async Task A_repair_that_is_sound_turns_the_verdict_and_taking_the_look_back_turns_it_again()
    {
        var (coupon, _) = await Start("R3");
        await client.LayAllBeads(coupon);
        var hole = await Find(
            coupon,
            new
            {
                kind = "burnThrough",
                stage = "root",
                clock = "5:30",
            }
        );
        Assert.Equal(["findingId"], await (await client.PutEvent(coupon, "lookedAgain", new { findingId = hole, sound = true })).Fields(409));
        await Tell(
            coupon,
            "repaired",
            new
            {
                findingId = hole,
                action = "cool",
                minutes = 5,
            }
        );
        await Tell(
            coupon,
            "repaired",
            new
            {
                findingId = hole,
                action = "taper",
                taperMm = 25.4,
            }
        );
        await Tell(coupon, "repaired", new { findingId = hole, action = "refill" });
        Assert.Equal("reject", Kind(await client.Coupon(coupon)));
        var look = Guid.CreateVersion7();
        await Tell(coupon, "lookedAgain", new { findingId = hole, sound = true }, look);
        var view = await client.Coupon(coupon);
        Assert.Equal("accept", Kind(view));
        var finding = view.GetProperty("findings")[0];
        Assert.Equal(
            ("sound", "accept"),
            (finding.GetProperty("repair").GetProperty("state").GetString(), finding.GetProperty("outcome").GetString())
        );
        Assert.Contains("Repair of the burn-through in the root at 5:30 looked at again: sound.", await Said(coupon));
        (await client.DeleteAsync($"/api/coupons/{coupon}/events/{look}")).EnsureSuccessStatusCode();
        Assert.Equal("reject", Kind(await client.Coupon(coupon)));
    }

    [Fact]
    public async Task A_bend_that_comes_back_on_thursday_stands_beside_the_signed_verdict()
    {
        var (coupon, student) = await Start();
        await client.LayAllBeads(coupon);
        (await client.Close(coupon)).EnsureSuccessStatusCode();
        var signed = (await client.Coupon(coupon)).GetProperty("verdict").GetProperty("closings")[0].GetProperty("id").GetGuid();
        object Bend(int specimen, double mm) =>
            new
            {
                specimen,
                bend = new
                {
                    wallMm = 9.525,
                    discontinuities = new[]
                    {
                        new
                        {
                            sizeMm = mm,
                            corner = false,
                            fromSlagOrFusion = false,
                        },
                    },
                },
            };
        var (good, bad) = (Guid.CreateVersion7(), Guid.CreateVersion7());
        await Tell(coupon, "specimenTested", Bend(0, 1), good);
        Assert.Equal("accept", Kind(await client.Coupon(coupon)));
        await Tell(coupon, "specimenTested", Bend(1, 5), bad);
        await Tell(coupon, "specimenTested", Bend(1, 5), bad); // sent twice
        var verdict = (await client.Coupon(coupon)).GetProperty("verdict");
        Assert.Equal(
            ("reject", "accept", "reject"),
            (verdict.GetProperty("kind").GetString(), verdict.GetProperty("byEye").GetString(), verdict.GetProperty("inside").GetString())
        );
        Assert.Equal("accept by eye, rejected by root bend 2", verdict.GetProperty("sentence").GetString());
        var closings = verdict.GetProperty("closings").EnumerateArray().ToList();
        Assert.Equal(
            (3, signed, "accept by eye"),
            (closings.Count, closings[0].GetProperty("id").GetGuid(), closings[0].GetProperty("sentence").GetString())
        );

        // Counted once, and as not clean, wherever coupons are counted.
        var row = (await client.GetFromJsonAsync<JsonElement>($"/api/students/{student}")).GetProperty("coupons").GetProperty("rows")[0];
        Assert.Equal("reject", row.GetProperty("verdict").GetString());
        Assert.Contains("root bend 2", row.GetProperty("rejectedFor").EnumerateArray().Select(one => one.GetString()));

        (await client.DeleteAsync($"/api/coupons/{coupon}/events/{bad}")).EnsureSuccessStatusCode();
        Assert.Equal(
            ("accept", 2),
            (Kind(await client.Coupon(coupon)), (await client.Coupon(coupon)).GetProperty("verdict").GetProperty("closings").GetArrayLength())
        );
        (await client.DeleteAsync($"/api/coupons/{coupon}/events/{good}")).EnsureSuccessStatusCode();
        Assert.Equal(1, (await client.Coupon(coupon)).GetProperty("verdict").GetProperty("closings").GetArrayLength());
    }

    [Fact]
    public async Task Any_instructor_opens_a_closed_coupon_again_with_a_reason_that_stays_in_the_history()
    {
        var (coupon, _) = await Start();
        await client.LayAllBeads(coupon);
        (await client.Close(coupon)).EnsureSuccessStatusCode();
        Assert.Equal(["body.note"], await (await client.PutEvent(coupon, "reopened", new { })).Fields(400));
        var reopened = Guid.CreateVersion7();
        await Tell(coupon, "reopened", new { note = "A finding was forgotten" }, reopened);
        await Tell(coupon, "reopened", new { note = "A finding was forgotten" }, reopened);
        Assert.Equal(JsonValueKind.Null, (await client.Coupon(coupon)).GetProperty("closedAt").ValueKind);
        Assert.Contains("Opened again: A finding was forgotten", await Said(coupon));

        // Taken back it is closed as it was; closed anew since, it is not taken back.
        (await client.DeleteAsync($"/api/coupons/{coupon}/events/{reopened}")).EnsureSuccessStatusCode();
        Assert.NotEqual(JsonValueKind.Null, (await client.Coupon(coupon)).GetProperty("closedAt").ValueKind);
        var second = Guid.CreateVersion7();
        await Tell(coupon, "reopened", new { note = "Once more" }, second);
        (await client.Close(coupon)).EnsureSuccessStatusCode();
        Assert.Equal(HttpStatusCode.Conflict, (await client.DeleteAsync($"/api/coupons/{coupon}/events/{second}")).StatusCode);
        Assert.Equal(
            HttpStatusCode.Conflict,
            (
                await client.PutEvent(
                    coupon,
                    "measured",
                    new
                    {
                        side = "face",
                        at = "start",
                        heightMm = 1,
                    }
                )
            ).StatusCode
        );
    }

    [Fact]
    public async Task What_a_coupon_is_can_be_put_right_and_back()
    {
        var (coupon, student) = await Start();
        await client.LayAllBeads(coupon);
        var other = await client.AddStudent();
        var put = Guid.CreateVersion7();
        await Tell(
            coupon,
            "corrected",
            new
            {
                correction = new
                {
                    testId = "P7",
                    studentId = other,
                    asTest = true,
                },
            },
            put
        );
        await Tell(
            coupon,
            "corrected",
            new
            {
                correction = new
                {
                    testId = "P7",
                    studentId = other,
                    asTest = true,
                },
            },
            put
        );
        var view = await client.Coupon(coupon);
        Assert.Equal(
            ("P7", other, true),
            (
                view.GetProperty("test").GetProperty("id").GetString(),
                view.GetProperty("student").GetProperty("id").GetGuid(),
                view.GetProperty("asTest").GetBoolean()
            )
        );
        Assert.All(
            view.GetProperty("beads").EnumerateArray().Take(3),
            bead => Assert.Equal(JsonValueKind.Object, bead.GetProperty("pass").ValueKind)
        );
        Assert.Contains(
            await Said(coupon),
            said =>
                said.StartsWith("Put right: welded by Student", StringComparison.Ordinal)
                && said.Contains("test P7, not P8", StringComparison.Ordinal)
        );

        // The start that is sent again is still the same start.
        Assert.Equal(
            HttpStatusCode.OK,
            (
                await client.PutAsJsonAsync(
                    $"/api/coupons/{coupon}",
                    new
                    {
                        studentId = student,
                        testId = "P8",
                        asTest = false,
                    }
                )
            ).StatusCode
        );
        (await client.DeleteAsync($"/api/coupons/{coupon}/events/{put}")).EnsureSuccessStatusCode();
        view = await client.Coupon(coupon);
        Assert.Equal(
            ("P8", student, false),
            (
                view.GetProperty("test").GetProperty("id").GetString(),
                view.GetProperty("student").GetProperty("id").GetGuid(),
                view.GetProperty("asTest").GetBoolean()
            )
        );
    }

    [Fact]
    public async Task A_correction_that_cannot_be_says_why()
    {
        var (coupon, _) = await Start("R3");
        (await client.PutPass(coupon, Guid.CreateVersion7(), Run("fill-2-1", "6", "12", "nine"))).EnsureSuccessStatusCode();
        Task<HttpResponseMessage> Correct(object correction) => client.PutEvent(coupon, "corrected", new { correction });
        Assert.Equal(["body.correction.testId"], await (await Correct(new { testId = "Z9" })).Fields(400));
        Assert.Equal(["body.correction.studentId"], await (await Correct(new { studentId = Guid.CreateVersion7() })).Fields(404));
        Assert.Equal(["body.correction.boothId"], await (await Correct(new { boothId = Guid.CreateVersion7() })).Fields(404));
        Assert.Equal(["body.correction.drillId"], await (await Correct(new { drillId = "none" })).Fields(400));
        Assert.Equal(["body.correction"], await (await Correct(new { testId = "R9" })).Fields(409)); // R9 is a root alone
        Assert.Equal(["body.correction"], await (await Correct(new { })).Fields(400));
    }

    [Fact]
    public async Task The_readiness_of_both_is_worked_out_again_when_a_closed_coupon_was_another_students()
    {
        var (coupon, student) = await Start();
        await client.LayAllBeads(coupon);
        (await client.Close(coupon)).EnsureSuccessStatusCode();
        var other = await client.AddStudent();
        async Task<int> Coupons(Guid of) =>
            (await client.GetFromJsonAsync<JsonElement>($"/api/students/{of}/tests/P8/readiness")).GetProperty("trace").GetArrayLength();
        Assert.Equal((1, 0), (await Coupons(student), await Coupons(other)));
        await Tell(coupon, "corrected", new { correction = new { studentId = other } });
        Assert.Equal((0, 1), (await Coupons(student), await Coupons(other)));
    }

    [Fact]
    public async Task A_finding_is_put_right_where_it_is_seen()
    {
        var (coupon, _) = await Start("R3");
        await client.LayAllBeads(coupon);
        var crack = await Find(coupon, Crack("3:00"));
        Assert.Equal("reject", Kind(await client.Coupon(coupon)));
        object right = new
        {
            findingId = crack,
            finding = new
            {
                kind = "undercut",
                stage = "cap",
                clock = "4:30",
                depthMm = 0.3,
            },
        };
        await Tell(coupon, "findingCorrected", right);
        var finding = (await client.Coupon(coupon)).GetProperty("findings")[0];
        Assert.Equal(
            ("undercut", "4:30", "accept"),
            (finding.GetProperty("kind").GetString(), finding.GetProperty("clock").GetString(), finding.GetProperty("outcome").GetString())
        );
        Assert.Contains("Crack in the cap at 3:00 put right: undercut in the cap at 4:30.", await Said(coupon));
        (await client.Close(coupon)).EnsureSuccessStatusCode();
        Assert.Equal("accept", Kind(await client.Coupon(coupon)));
    }

    [Fact]
    public async Task Under_the_rules_of_a_test_a_pass_past_a_hold_point_is_in_the_record_and_counts_as_coached()
    {
        var (kept, _) = await Start(asTest: true);
        await client.LayAllBeads(kept);
        Assert.False((await client.Coupon(kept)).GetProperty("life").GetProperty("downgraded").GetBoolean());

        var (coupon, _) = await Start(asTest: true);
        var concerns = (await client.Coupon(coupon)).GetProperty("life");
        Assert.Equal(JsonValueKind.Array, concerns.GetProperty("concerns").ValueKind);
        (await client.PutPass(coupon, Guid.CreateVersion7(), Calls.Pass("root-1-1"))).EnsureSuccessStatusCode();
        var view = await client.Coupon(coupon);
        Assert.True(view.GetProperty("life").GetProperty("downgraded").GetBoolean());
        var despite = Bead(view, "root-1-1").GetProperty("pass").GetProperty("despite").EnumerateArray().Select(one => one.GetString());
        Assert.Equal(["holdPoint", "position", "safety"], despite);
        Assert.Contains(await Said(coupon), said => said.Contains("laid in spite of: hold point, position, safety", StringComparison.Ordinal));
    }

    [Fact]
    public async Task A_coached_coupon_that_was_as_under_test_is_held_to_the_rules_all_the_same()
    {
        var (coupon, _) = await Start();
        (await client.PutPass(coupon, Guid.CreateVersion7(), Calls.Pass("root-1-1"))).EnsureSuccessStatusCode();
        Assert.Empty(Bead(await client.Coupon(coupon), "root-1-1").GetProperty("pass").GetProperty("despite").EnumerateArray());
        await Tell(coupon, "corrected", new { correction = new { asTest = true } });
        Assert.True((await client.Coupon(coupon)).GetProperty("life").GetProperty("downgraded").GetBoolean());
    }

    [Fact]
    public async Task Another_reason_for_giving_up_is_kept_in_words()
    {
        var (coupon, _) = await Start();
        Assert.Equal(["body.note"], await (await client.PutEvent(coupon, "voided", new { reason = "other" })).Fields(400));
        await Tell(coupon, "voided", new { reason = "other", note = "Sawn up for the vice" });
        Assert.Contains("Given up as evidence: other: Sawn up for the vice", await Said(coupon));
    }

    [Fact]
    public async Task A_height_over_its_limit_is_named_where_reasons_are()
    {
        var (coupon, student) = await Start();
        await client.LayAllBeads(coupon);
        await Tell(
            coupon,
            "measured",
            new
            {
                side = "face",
                at = "middle",
                heightMm = 4.5,
            }
        );
        (await client.Close(coupon)).EnsureSuccessStatusCode();
        var row = (await client.GetFromJsonAsync<JsonElement>($"/api/students/{student}")).GetProperty("coupons").GetProperty("rows")[0];
        Assert.Equal(["Face reinforcement, cap"], row.GetProperty("rejectedFor").EnumerateArray().Select(one => one.GetString()));
    }
}
