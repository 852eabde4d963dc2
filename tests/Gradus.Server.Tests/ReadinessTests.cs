using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using System.Text.Json.Nodes;
using Gradus.Core.Readiness;
using Gradus.Data;
using Gradus.Server.Readiness;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;

namespace Gradus.Server.Tests;

/// <summary>Readiness through the contract, and kept for the school's own students.</summary>
public sealed class ReadinessTests : IAsyncDisposable
{
    private readonly RunningServer server = new();

    public ValueTask DisposeAsync() => server.DisposeAsync();

    private static readonly string[] Plate = ["root", "fill", "cap"];

    private static object Coupon(double day, params bool[] clean) =>
        new
        {
            day,
            kind = "full",
            aided = false,
            elements = Plate,
            clean,
        };

    [Fact]
    public async Task The_contract_answers_with_a_trace_and_takes_fitted_constants_back()
    {
        var client = server.CreateClient();
        object[] coupons = [Coupon(0, true, true, false), Coupon(2, true, true, true), Coupon(4, true, true, true)];
        var request = new
        {
            elements = Plate,
            coupons,
            today = 5,
        };
        var answer = await (await client.PostAsJsonAsync("/api/readiness/evaluate", request)).Content.ReadFromJsonAsync<JsonElement>();
        Assert.Equal(3, answer.GetProperty("trace").GetArrayLength());
        Assert.Equal(Plate, answer.GetProperty("elements").EnumerateArray().Select(one => one.GetProperty("element").GetString()));
        Assert.InRange(answer.GetProperty("mean").GetDouble(), answer.GetProperty("lower").GetDouble(), answer.GetProperty("upper").GetDouble());

        var students = Enumerable.Range(0, 6).Select(_ => new { elements = Plate, coupons });
        Assert.Equal(HttpStatusCode.Unauthorized, (await client.PostAsJsonAsync("/api/readiness/fit", new { students })).StatusCode);
        client = await server.SignedIn();
        var fitted = await (await client.PostAsJsonAsync("/api/readiness/fit", new { students })).Content.ReadFromJsonAsync<JsonElement>();
        Assert.True(
            !fitted.GetProperty("adopted").GetBoolean()
                || fitted.GetProperty("scoreAfter").GetDouble() > fitted.GetProperty("scoreBefore").GetDouble()
        );
        var again = await client.PostAsJsonAsync(
            "/api/readiness/evaluate",
            new
            {
                elements = Plate,
                coupons,
                today = 5,
                constants = fitted.GetProperty("constants"),
            }
        );
        Assert.Equal(HttpStatusCode.OK, again.StatusCode);
    }

    [Theory]
    [InlineData("""{"elements":[],"coupons":[],"today":0}""", "elements")]
    [InlineData("""{"elements":["root","root"],"coupons":[],"today":0}""", "elements")]
    [InlineData("""{"elements":["root"],"today":0}""", "coupons")]
    [InlineData("""{"elements":["root"],"coupons":[]}""", "today")]
    [InlineData("""{"elements":["root"],"coupons":[{"day":0,"kind":"half","elements":["root"],"clean":[true]}],"today":0}""", "coupons[0].kind")]
    [InlineData("""{"elements":["root"],"coupons":[{"day":0,"kind":"full","elements":["root"],"clean":[]}],"today":0}""", "coupons[0].clean")]
    [InlineData("""{"elements":["root"],"coupons":[{"day":0,"kind":"full","elements":["cap"],"clean":[true]}],"today":0}""", "coupons[0]")]
    [InlineData("""{"elements":["root"],"coupons":[{"day":0,"kind":"sitting"}],"today":0}""", "coupons[0].passed")]
    [InlineData(
        """{"elements":["root"],"coupons":[{"day":0,"kind":"sitting","passed":true,"elements":["root"],"clean":[true]}],"today":0}""",
        "coupons[0].elements"
    )]
    [InlineData(
        """{"elements":["root"],"coupons":[{"day":0,"kind":"full","passed":true,"elements":["root"],"clean":[true]}],"today":0}""",
        "coupons[0].passed"
    )]
    [InlineData("""{"elements":["root"],"coupons":[],"today":0,"traits":{"process":"SMAW"}}""", "traits.position")]
    [InlineData(
        """{"elements":["root"],"coupons":[],"today":0,"earlier":[{"process":"SMAW","product":"plate","position":"3G","progression":"uphill","openRoot":true,"elements":["root"],"coupons":[]}]}""",
        "traits"
    )]
    [InlineData(
        """{"elements":["root"],"coupons":[],"today":0,"traits":{"process":"SMAW","product":"plate","position":"3G","progression":"uphill","openRoot":true},"earlier":[{"process":"LASER","product":"plate","position":"3G","openRoot":true,"elements":["root"],"coupons":[{"day":0,"kind":"full","elements":["cap"],"clean":[true]}]}]}""",
        "earlier[0].process"
    )]
    [InlineData(
        """{"elements":["root"],"coupons":[],"today":0,"traits":{"process":"SMAW","product":"plate","position":"3G","openRoot":true},"earlier":[null]}""",
        "earlier"
    )]
    public async Task What_cannot_be_judged_is_refused_by_field(string body, string field)
    {
        var answer = await server.CreateClient().PostAsync("/api/readiness/evaluate", new StringContent(body, null, "application/json"));
        Assert.Contains(field, await answer.Fields(400));
    }

    [Fact]
    public async Task Earlier_tests_lend_sittings_count_and_what_failed_inside_lowers_what_passes_everything()
    {
        var client = server.CreateClient();
        object Coupon(double day, bool? inside = null) =>
            new
            {
                day,
                kind = "full",
                elements = Plate,
                clean = Plate.Select(_ => true),
                inside,
            };
        async Task<JsonElement> Ask(object[] coupons, string? position, bool? inside = null)
        {
            var traits = new
            {
                process = "SMAW",
                product = "plate",
                position = "3G",
                progression = "uphill",
                openRoot = true,
            };
            var earlier = new
            {
                traits.process,
                traits.product,
                position,
                traits.progression,
                traits.openRoot,
                elements = Plate,
                coupons = Enumerable.Range(0, 8).Select(day => Coupon(day, inside)),
            };
            var answer = await client.PostAsJsonAsync(
                "/api/readiness/evaluate",
                new
                {
                    elements = Plate,
                    coupons,
                    today = 20,
                    traits,
                    earlier = position is null ? [] : new[] { earlier },
                }
            );
            answer.EnsureSuccessStatusCode();
            return await answer.Content.ReadFromJsonAsync<JsonElement>();
        }

        static double Passing(JsonElement answer) => answer.GetProperty("passing").GetProperty("mean").GetDouble();
        var stranger = await Ask([], null);
        var lent = await Ask([], "4G");
        Assert.True(lent.GetProperty("mean").GetDouble() > stranger.GetProperty("mean").GetDouble() + 0.2);
        Assert.Equal(0, lent.GetProperty("trace").GetArrayLength());
        Assert.True(Passing(lent) < lent.GetProperty("mean").GetDouble());
        Assert.True(Passing(await Ask([], "4G", inside: false)) < Passing(lent));

        var failed = await Ask(
            [
                Coupon(12),
                new
                {
                    day = 13,
                    kind = "sitting",
                    passed = false,
                },
            ],
            "4G"
        );
        var passed = await Ask(
            [
                Coupon(12),
                new
                {
                    day = 13,
                    kind = "sitting",
                    passed = true,
                },
            ],
            "4G"
        );
        Assert.True(Passing(failed) < Passing(passed));
        Assert.Equal(2, failed.GetProperty("trace").GetArrayLength());
    }

    [Fact]
    public async Task More_elements_than_a_state_can_hold_are_refused_and_a_decade_of_tests_is_not()
    {
        var client = server.CreateClient();
        object Earlier(int elements) =>
            new
            {
                process = "SMAW",
                product = "plate",
                position = "3G",
                openRoot = true,
                elements = Enumerable.Range(0, elements).Select(index => $"e{index}"),
                coupons = Array.Empty<object>(),
            };
        Task<HttpResponseMessage> Ask(int tests, int elements) =>
            client.PostAsJsonAsync(
                "/api/readiness/evaluate",
                new
                {
                    elements = Plate,
                    coupons = Array.Empty<object>(),
                    today = 1,
                    traits = new
                    {
                        process = "SMAW",
                        product = "plate",
                        position = "3G",
                        openRoot = true,
                    },
                    earlier = Enumerable.Range(0, tests).Select(_ => Earlier(elements)),
                }
            );
        Assert.Equal(HttpStatusCode.OK, (await Ask(40, 12)).StatusCode);
        Assert.Contains("earlier", await (await Ask(11, 60)).Fields(400));
    }

    [Fact]
    public async Task A_school_is_fitted_by_careers_too()
    {
        var client = await server.SignedIn();
        object Test(string id, string position) =>
            new
            {
                id,
                process = "SMAW",
                product = "plate",
                position,
                progression = "uphill",
                openRoot = false,
                elements = Plate,
                truthFirst = 0.2,
            };
        object Coupon(string test, int day) =>
            new
            {
                test,
                day,
                n = 1,
                kind = "full",
                aided = false,
                elements = Plate,
                clean = Plate.Select((_, index) => (day + index) % 4 > 0),
                truth = 0.5,
            };
        object[] tests = [Test("a", "1G"), Test("b", "3G")];
        object Student(IEnumerable<object> coupons) =>
            new
            {
                student = "k",
                tests,
                coupons,
            };
        var careers = Enumerable.Range(0, 4).Select(_ => Student(Enumerable.Range(0, 8).Select(day => Coupon(day < 4 ? "a" : "b", day))));
        var answer = await client.PostAsJsonAsync("/api/readiness/fit", new { students = careers });
        answer.EnsureSuccessStatusCode();
        var wrong = await client.PostAsJsonAsync("/api/readiness/fit", new { students = careers.Append(Student([Coupon("c", 1)])) });
        Assert.Contains("students[4].coupons[0]", await wrong.Fields(400));
    }

    [Fact]
    public async Task Kept_readiness_follows_what_is_closed_opened_again_and_voided()
    {
        var client = await server.SignedIn();
        var student = await client.AddStudent();
        async Task<(int Points, double Mean)> Now()
        {
            var view = await client.GetFromJsonAsync<JsonElement>($"/api/students/{student}/tests/P8/readiness");
            return (view.GetProperty("trace").GetArrayLength(), view.GetProperty("passing").GetProperty("mean").GetDouble());
        }

        var begin = await Now();
        Assert.Equal(0, begin.Points);
        var coupon = await client.StartCoupon(student);
        await client.LayAllBeads(coupon);
        var closing = Guid.CreateVersion7();
        (await client.PutAsync($"/api/coupons/{coupon}/closings/{closing}", null)).EnsureSuccessStatusCode();
        var one = await Now();
        Assert.Equal(1, one.Points);
        Assert.True(one.Mean > begin.Mean);
        server.Clock.Advance(TimeSpan.FromHours(1));
        var second = await client.StartCoupon(student);
        await client.LayAllBeads(second);
        (await client.Close(second)).EnsureSuccessStatusCode();
        Assert.Equal(2, (await Now()).Points);
        (await client.DeleteAsync($"/api/coupons/{coupon}/closings/{closing}")).EnsureSuccessStatusCode();
        Assert.Equal(1, (await Now()).Points);
        var voided = new { kind = "voided", body = new { reason = "helped" } };
        (await client.PutAsJsonAsync($"/api/coupons/{second}/events/{Guid.CreateVersion7()}", voided)).EnsureSuccessStatusCode();
        var none = await Now();
        Assert.Equal((0, begin.Mean), none);
    }

    [Fact]
    public async Task A_coupon_on_one_test_moves_the_others_of_its_student_and_nobody_elses()
    {
        var client = await server.SignedIn();
        var (student, other) = (await client.AddStudent(), await client.AddStudent());
        async Task<JsonElement> On(string testId, Guid whose) =>
            await client.GetFromJsonAsync<JsonElement>($"/api/students/{whose}/tests/{testId}/readiness");
        async Task<double> Mean(string testId, Guid whose) => (await On(testId, whose)).GetProperty("passing").GetProperty("mean").GetDouble();
        async Task<Guid> Weld()
        {
            server.Clock.Advance(TimeSpan.FromHours(1));
            var coupon = await client.StartCoupon(student);
            await client.LayAllBeads(coupon);
            (await client.Close(coupon)).EnsureSuccessStatusCode();
            return coupon;
        }

        var begun = await Mean("P10", student);
        Assert.Equal(begun, await Mean("P10", other));
        await Weld();
        var lent = await On("P10", student);
        Assert.True(lent.GetProperty("passing").GetProperty("mean").GetDouble() > begun);
        Assert.Equal(0, lent.GetProperty("trace").GetArrayLength());
        var last = await Weld();
        var more = await Mean("P10", student);
        Assert.True(more > lent.GetProperty("passing").GetProperty("mean").GetDouble());
        Assert.Equal(begun, await Mean("P10", other));

        // What it says on the coupon of another test before anything is closed on it is what was lent.
        var first = await client.StartCoupon(student, "P10");
        var shift = (await client.Coupon(first)).GetProperty("readiness");
        Assert.Equal(more, shift.GetProperty("before").GetProperty("mean").GetDouble(), 12);

        var voided = new { kind = "voided", body = new { reason = "helped" } };
        (await client.PutAsJsonAsync($"/api/coupons/{last}/events/{Guid.CreateVersion7()}", voided)).EnsureSuccessStatusCode();
        Assert.True(await Mean("P10", student) < more);
    }

    [Fact]
    public async Task Constants_that_were_fitted_to_an_earlier_model_are_not_those_of_this_one()
    {
        await server.SignedIn();
        using var scope = server.Services.CreateScope();
        var db = scope.ServiceProvider.GetRequiredService<GradusContext>();
        await db.Database.ExecuteSqlAsync(
            $$$"""
            INSERT INTO ModelChanges (Id, Constants, Students, Coupons, Adopted, At, By)
            VALUES ({{{Guid.CreateVersion7()}}}, '{"v":1,"version":"growth-1+fitted-a","startChance":0.3,"gainMean":3,"offsets":{}}', 9, 90, 1, {{{DateTimeOffset.UnixEpoch}}}, {{{Guid.CreateVersion7()}}})
            """
        );
        var model = new ModelInUse();
        await model.Load(db, TestContext.Current.CancellationToken);
        Assert.Same(ReadinessConstants.Defaults, model.Constants);
    }

    [Fact]
    public async Task A_test_whose_stages_change_is_weighed_anew_by_those_it_has_now()
    {
        var client = await server.SignedIn();
        var student = await client.AddStudent();
        var coupon = await client.StartCoupon(student);
        await client.LayAllBeads(coupon);
        (await client.Close(coupon)).EnsureSuccessStatusCode();
        async Task<string?[]> Elements() =>
            [
                .. (await client.GetFromJsonAsync<JsonElement>($"/api/students/{student}/tests/P8/readiness"))
                    .GetProperty("elements")
                    .EnumerateArray()
                    .Select(one => one.GetProperty("element").GetString()),
            ];
        Assert.Equal(["root", "fill", "cap"], await Elements());
        var file = await client.GetStringAsync("/api/tests/P8/file");
        var test = JsonNode.Parse(file.Replace("\"fill\"", "\"hot\"", StringComparison.Ordinal));
        var change = new
        {
            test,
            basedOnVersion = 1,
            why = "We call it hot",
        };
        var saved = await client.PutAsJsonAsync("/api/tests/P8", change);
        Assert.True(saved.IsSuccessStatusCode, await saved.Content.ReadAsStringAsync());
        Assert.Equal(["root", "hot", "cap"], await Elements());
        (await client.GetAsync($"/api/coupons/{await client.StartCoupon(student)}")).EnsureSuccessStatusCode();
        (await client.GetAsync("/api/ready")).EnsureSuccessStatusCode();
    }

    [Fact]
    public async Task The_board_holds_until_the_gates_are_met_and_a_policy_can_be_changed()
    {
        var client = await server.SignedIn();
        var student = await client.AddStudent();
        for (var index = 0; index < 3; index++)
        {
            var coupon = await client.StartCoupon(student);
            await client.LayAllBeads(coupon);
            (await client.Close(coupon)).EnsureSuccessStatusCode();
        }

        async Task<JsonElement> Row() =>
            (await client.GetFromJsonAsync<JsonElement>("/api/ready"))
                .GetProperty("rows")
                .EnumerateArray()
                .Single(row => row.GetProperty("studentId").GetGuid() == student);
        Assert.Equal("practise", (await Row()).GetProperty("advised").GetString());
        Assert.EndsWith(", one cut open", (await Row()).GetProperty("says").GetString(), StringComparison.Ordinal);
        (await client.DeleteAsync($"/api/students/{student}/safety")).EnsureSuccessStatusCode();
        Assert.Equal("hold", (await Row()).GetProperty("advised").GetString());
        (await client.PutAsync($"/api/students/{student}/safety", null)).EnsureSuccessStatusCode();
        var policy = (await client.GetFromJsonAsync<JsonElement>("/api/policies/P8"))
            .GetProperty("policy")
            .Deserialize<Dictionary<string, JsonElement>>()!;
        object Value(string text) => JsonDocument.Parse(text).RootElement;
        var eased = policy.ToDictionary(one => one.Key, one => (object)one.Value);
        (eased["school"], eased["destructive"], eased["fitUpUnaided"]) = ("runOfClean", Value("false"), Value("false"));
        (await client.PutAsJsonAsync("/api/policies/P8", eased)).EnsureSuccessStatusCode();
        Assert.Equal("testNow", (await Row()).GetProperty("advised").GetString());
        Assert.Equal("decide", (await Row()).GetProperty("group").GetString());
        eased["barLower"] = Value("0.95");
        Assert.Equal(["barLower"], await (await client.PutAsJsonAsync("/api/policies/P8", eased)).Fields(400));
    }
}
