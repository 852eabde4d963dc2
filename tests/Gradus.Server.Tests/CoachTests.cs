using System.Net;
using System.Net.Http.Json;
using System.Text.Json;

namespace Gradus.Server.Tests;

/// <summary>What the coach says over HTTP: beside a bead, before the arc, in the language and the words of whoever asks.</summary>
public sealed class CoachTests : IAsyncLifetime
{
    private readonly RunningServer server = new();

    public ValueTask InitializeAsync() => ValueTask.CompletedTask;

    public async ValueTask DisposeAsync() => await server.DisposeAsync();

    private static Task<JsonElement> Coach(HttpClient client, Guid coupon, string query = "") =>
        client.GetFromJsonAsync<JsonElement>($"/api/coupons/{coupon}/coach{query}");

    private static JsonElement Bead(JsonElement coach, string key) => coach.GetProperty("beads").GetProperty(key);

    private static JsonElement CardOf(JsonElement coach, string key) => coach.GetProperty("cards")[Bead(coach, key).GetProperty("card").GetInt32()];

    private static string Watch(JsonElement coach, string key) => CardOf(coach, key).GetProperty("watch").GetProperty("says").GetString()!;

    private static List<string> Texts(JsonElement list) => [.. list.EnumerateArray().Select(one => one.GetString()!)];

    [Fact]
    public async Task Under_the_rules_of_a_test_nothing_is_said_but_what_can_hurt()
    {
        var client = await server.SignedIn();
        var ann = await client.AddStudent();
        var coached = await Coach(client, await client.StartCoupon(ann, "P8", asTest: false));
        var tested = await Coach(client, await client.StartCoupon(ann, "P8", asTest: true));
        Assert.Equal("drag", CardOf(coached, "root-1-1").GetProperty("travel").GetString());
        Assert.NotEmpty(Bead(coached, "root-1-1").GetProperty("preflight").EnumerateArray());
        Assert.True(tested.GetProperty("silent").GetBoolean());
        Assert.Empty(tested.GetProperty("cards").EnumerateArray());
        Assert.Equal(Texts(Bead(coached, "root-1-1").GetProperty("cautions")), Texts(Bead(tested, "root-1-1").GetProperty("cautions")));
        Assert.DoesNotContain("tip points", tested.GetRawText(), StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.NotFound, (await client.GetAsync($"/api/coupons/{Guid.CreateVersion7()}/coach")).StatusCode);
    }

    [Fact]
    public async Task A_no_says_what_to_mend_and_a_sitting_is_asked_once()
    {
        var client = await server.SignedIn();
        var ann = await client.AddStudent();
        var coupon = await client.StartCoupon(ann, "P8", asTest: false);
        object Answer(params string[] no) => new { beadKey = "root-1-1", no };
        Assert.Equal(["body.no"], await (await client.PutEvent(coupon, "preflight", Answer("horoscope"))).Fields(400));
        Assert.Equal(
            ["body.beadKey"],
            await (await client.PutEvent(coupon, "preflight", new { beadKey = "root-9-9", no = Array.Empty<string>() })).Fields(400)
        );
        (await client.PutEvent(coupon, "preflight", Answer("polarity"))).EnsureSuccessStatusCode();
        var asked = Bead(await Coach(client, coupon), "root-1-1");
        Assert.Empty(asked.GetProperty("preflight").EnumerateArray());
        Assert.Contains("Swap the leads", Assert.Single(Texts(asked.GetProperty("mend"))), StringComparison.Ordinal);
        (await client.PutEvent(coupon, "preflight", Answer())).EnsureSuccessStatusCode();
        Assert.Empty(Bead(await Coach(client, coupon), "root-1-1").GetProperty("mend").EnumerateArray());
        var history = await client.GetStringAsync($"/api/coupons/{coupon}/history");
        Assert.Contains("all as it should be", history, StringComparison.Ordinal);

        // The next coupon with the same wire in the same booth: nothing changed, nothing is asked.
        var next = await client.StartCoupon(ann, "P8", asTest: false);
        Assert.Empty(Bead(await Coach(client, next), "root-1-1").GetProperty("preflight").EnumerateArray());
        var other = Texts(
            JsonSerializer.SerializeToElement(
                Bead(await Coach(client, await client.StartCoupon(ann, "P4", asTest: false)), "root-1-1")
                    .GetProperty("preflight")
                    .EnumerateArray()
                    .Select(one => one.GetProperty("id").GetString())
            )
        );
        Assert.Contains("polarity", other); // another process asks what belongs to it
        Assert.DoesNotContain("workLead", other);
        await server.Renewed();
    }

    [Fact]
    public async Task A_student_is_spoken_to_in_the_language_of_their_choice()
    {
        var school = await SharedSchool.Make(server, 1);
        var (_, _, _, coupon, student) = school.Students[0];
        var english = Watch(await Coach(student, coupon), "root-1-1");
        Assert.Equal(["language"], await (await student.PutAsJsonAsync("/api/session/likes", new { language = "xx" })).Fields(400));
        Assert.Equal(["units"], await (await student.PutAsJsonAsync("/api/session/likes", new { units = "cubits" })).Fields(400));
        (await student.PutAsJsonAsync("/api/session/likes", new { language = "es", units = "mm" })).EnsureSuccessStatusCode();
        var person = (await SharedSchool.Session(student)).GetProperty("person");
        Assert.Equal(("es", "mm"), (person.GetProperty("language").GetString(), person.GetProperty("units").GetString()));
        (await student.PutAsJsonAsync("/api/session/likes", new { units = "in" })).EnsureSuccessStatusCode(); // the language stays
        var spanish = await Coach(student, coupon);
        Assert.Equal("es", spanish.GetProperty("language").GetString());
        (await student.PutEvent(coupon, "preflight", new { beadKey = "root-1-1", no = new[] { "polarity" } })).EnsureSuccessStatusCode();
        var mend = Assert.Single(Texts(Bead(await Coach(student, coupon), "root-1-1").GetProperty("mend")));
        Assert.StartsWith("Cambia los cables", mend, StringComparison.Ordinal);
        Assert.NotEqual(english, Watch(spanish, "root-1-1"));
        Assert.Equal(english, Watch(await Coach(student, coupon, "?language=en"), "root-1-1"));
        Assert.Equal(english, Watch(await Coach(school.Lead, coupon), "root-1-1")); // whoever else asks hears their own
        Assert.DoesNotContain("[en]", spanish.GetRawText(), StringComparison.Ordinal);
    }

    [Fact]
    public async Task The_school_says_a_sentence_in_its_own_words()
    {
        var school = await SharedSchool.Make(server, 1);
        var (_, _, _, coupon, student) = school.Students[0];
        var sentence = Watch(await Coach(school.Lead, coupon), "root-1-1");
        Task<HttpResponseMessage> Put(HttpClient client, string what, string? says) =>
            client.PutAsJsonAsync(
                "/api/coach/sentences",
                new
                {
                    sentence = what,
                    language = "en",
                    says,
                }
            );
        Assert.Equal(HttpStatusCode.Forbidden, (await Put(school.Instructor, sentence, "Ours")).StatusCode);
        Assert.Equal(["sentence"], await (await Put(school.Lead, "Nobody says that", "Ours")).Fields(400));
        Assert.Equal(["says"], await (await Put(school.Lead, sentence, " ")).Fields(400));
        (await Put(school.Lead, sentence, "Ours")).EnsureSuccessStatusCode();
        Assert.Equal("Ours", Watch(await Coach(student, coupon), "root-1-1"));
        Assert.Equal("Ours [en]", Watch(await Coach(student, coupon, "?language=es"), "root-1-1"));
        (await Put(school.Lead, sentence, null)).EnsureSuccessStatusCode();
        Assert.Equal(sentence, Watch(await Coach(student, coupon), "root-1-1"));
        var book = await school.Instructor.GetFromJsonAsync<JsonElement>("/api/coach");
        Assert.True(book.GetProperty("sentences").GetArrayLength() > 300);
    }

    [Fact]
    public async Task What_was_found_last_is_said_where_it_was_and_shown_to_the_class()
    {
        var client = await server.SignedIn();
        var ann = await client.AddStudent();
        var first = await client.StartCoupon(ann, "P8", asTest: false);
        await client.LayAllBeads(first);
        var sheet = "/api/coach/demonstration?kind=porosity&stage=fill";
        Assert.Equal(["kind"], await (await client.GetAsync(sheet)).Fields(404));
        Assert.Equal(["kind"], await (await client.GetAsync("/api/coach/demonstration?kind=bad&stage=fill")).Fields(400));
        Assert.Equal(["stage"], await (await client.GetAsync("/api/coach/demonstration?kind=porosity&stage=9")).Fields(400));
        var finding = new
        {
            kind = "porosity",
            stage = "fill",
            fromStartMm = 40,
            diameterMm = 2,
            shape = "atStart",
        };
        var preview = await client.PostAsJsonAsync($"/api/coupons/{first}/findings/preview", finding);
        var causes = (await preview.Content.ReadFromJsonAsync<JsonElement>()).GetProperty("causes");
        Assert.Equal("notClipped", causes[0].GetProperty("id").GetString()); // self-shielded wire that was not clipped
        Assert.Contains("Clip before every start", causes[0].GetProperty("cure").GetString(), StringComparison.Ordinal);
        (await client.PutAsJsonAsync($"/api/coupons/{first}/findings/{Guid.CreateVersion7()}", finding)).EnsureSuccessStatusCode();
        var kept = (await client.Coupon(first)).GetProperty("findings")[0];
        Assert.Equal("atStart", kept.GetProperty("shape").GetString());

        var coach = await Coach(client, await client.StartCoupon(ann, "P8", asTest: false));
        Assert.StartsWith("Last time here: Porosity.", Bead(coach, "fill-2-1").GetProperty("last").GetString(), StringComparison.Ordinal);
        Assert.Equal(JsonValueKind.Null, Bead(coach, "root-1-1").GetProperty("last").ValueKind);
        var shown = await client.GetFromJsonAsync<JsonElement>(sheet + "&language=es");
        Assert.Equal(("Porosidad", "P8"), (shown.GetProperty("fault").GetString(), shown.GetProperty("testId").GetString()));
        Assert.All(
            shown.GetProperty("causes").EnumerateArray(),
            cause => Assert.DoesNotContain("[en]", cause.GetRawText(), StringComparison.Ordinal)
        );
    }

    [Fact]
    public async Task A_call_is_heard_on_the_floor_and_taken_back()
    {
        var school = await SharedSchool.Make(server, 1);
        var (_, name, _, coupon, student) = school.Students[0];
        var call = Guid.CreateVersion7();
        (await student.PutEvent(coupon, "holdCalled", new { point = "Call" }, call)).EnsureSuccessStatusCode();
        async Task<List<string?>> Calls() =>
            [
                .. (await school.Lead.GetFromJsonAsync<JsonElement>("/api/floor"))
                    .GetProperty("holds")
                    .EnumerateArray()
                    .Select(hold => $"{hold.GetProperty("studentName").GetString()} {hold.GetProperty("point").GetString()}"),
            ];
        Assert.Equal([$"{name} Call"], await Calls());
        (await student.DeleteAsync($"/api/coupons/{coupon}/events/{call}")).EnsureSuccessStatusCode();
        Assert.Empty(await Calls());
        Assert.Equal(["body.point"], await (await student.PutEvent(coupon, "holdCalled", new { point = "Lunch" })).Fields(400));
    }

    /// <summary>The gap as it was fitted, what becomes of it, and what the fill asks for, all from what was measured.</summary>
    [Fact]
    public async Task The_gap_and_the_level_that_were_measured_say_what_to_do()
    {
        var client = await server.SignedIn();
        var ann = await client.AddStudent("P5");
        var coupon = await client.StartCoupon(ann, "P5", asTest: false);
        Assert.Equal(JsonValueKind.Null, (await Coach(client, coupon)).GetProperty("gap").ValueKind);
        object Point(string at, double gap) =>
            new
            {
                at,
                rootOpeningMm = gap,
                rootFaceMm = 2.4,
                offsetMm = 0,
            };
        var fitUp = new
        {
            points = new[] { Point("start", 2.4), Point("end", 1.2) },
            tacks = new[]
            {
                new
                {
                    at = "start",
                    lengthMm = 12,
                    feathered = true,
                },
                new
                {
                    at = "end",
                    lengthMm = 12,
                    feathered = true,
                },
            },
            answers = new Dictionary<string, bool>(),
        };
        (await client.PutAsJsonAsync($"/api/coupons/{coupon}/fit-ups/{Guid.CreateVersion7()}", fitUp)).EnsureSuccessStatusCode();
        var points = (await Coach(client, coupon)).GetProperty("gap").GetProperty("points").EnumerateArray().ToList();
        Assert.Equal(["goOn", "reCut"], points.Select(point => point.GetProperty("now").GetProperty("verdict").GetString()));
        Assert.All(points, point => Assert.True(point.GetProperty("endMm").GetDouble() < point.GetProperty("gapMm").GetDouble()));
    }
}
