using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using Gradus.Data;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;

namespace Gradus.Server.Tests;

/// <summary>One advice on every page, sittings as evidence, decisions that can be taken back, and a board that answers at once.</summary>
public sealed class AdviceTests : IAsyncDisposable
{
    private readonly RunningServer server = new();

    public ValueTask DisposeAsync() => server.DisposeAsync();

    private async Task Weld(HttpClient client, Guid student, int coupons, string test = "P8")
    {
        for (var index = 0; index < coupons; index++)
        {
            server.Clock.Advance(TimeSpan.FromHours(1));
            var coupon = await client.StartCoupon(student, test);
            await client.LayAllBeads(coupon);
            (await client.Close(coupon)).EnsureSuccessStatusCode();
        }
    }

    private static Task<JsonElement> Grounds(HttpClient client, Guid student, string test = "P8") =>
        client.GetFromJsonAsync<JsonElement>($"/api/students/{student}/tests/{test}/grounds");

    private static double Passing(JsonElement grounds) => grounds.GetProperty("advice").GetProperty("passing").GetProperty("mean").GetDouble();

    private static bool IsMet(JsonElement grounds, string gate) =>
        grounds
            .GetProperty("advice")
            .GetProperty("gates")
            .EnumerateArray()
            .Single(one => one.GetProperty("id").GetString() == gate)
            .GetProperty("met")
            .GetBoolean();

    private static async Task<JsonElement> Row(HttpClient client, Guid student) =>
        (await client.GetFromJsonAsync<JsonElement>("/api/ready"))
            .GetProperty("rows")
            .EnumerateArray()
            .Single(row => row.GetProperty("studentId").GetGuid() == student);

    private static object Decision(Guid student, string kind, string reason) =>
        new
        {
            studentId = student,
            testId = "P8",
            kind,
            reason,
        };

    [Fact]
    public async Task A_failed_sitting_is_evidence_and_holds_until_it_is_answered_or_taken_back()
    {
        var client = await server.SignedIn();
        var student = await client.AddStudent();
        await Weld(client, student, 3);
        var before = await Grounds(client, student);
        Assert.True(IsMet(before, "cleanAfterFailed"));
        var result = new
        {
            studentId = student,
            testId = "P8",
            day = "2031-03-04",
            passed = false,
            note = "Root not through",
        };
        var id = Guid.CreateVersion7();
        server.Clock.Advance(TimeSpan.FromHours(1));
        (await client.PutAsJsonAsync($"/api/results/{id}", result)).EnsureSuccessStatusCode();
        var failed = await Grounds(client, student);
        Assert.True(Passing(failed) < Passing(before) - 0.05);
        Assert.False(IsMet(failed, "cleanAfterFailed"));
        var advice = failed.GetProperty("advice");
        Assert.Equal(
            ("hold", "Two clean ones first", "Failed 4 March: root not through."),
            (advice.GetProperty("kind").GetString(), advice.GetProperty("says").GetString(), advice.GetProperty("why").GetString())
        );

        // The same words wherever the student is looked at.
        var row = await Row(client, student);
        var target = (await client.GetFromJsonAsync<JsonElement>($"/api/students/{student}")).GetProperty("tests")[0];
        var floor = (await client.GetFromJsonAsync<JsonElement>("/api/floor"))
            .GetProperty("students")
            .EnumerateArray()
            .Single(one => one.GetProperty("id").GetGuid() == student);
        foreach (var view in new[] { row, target, floor })
        {
            Assert.Equal(advice.GetProperty("says").GetString(), view.GetProperty("says").GetString());
            Assert.Equal(advice.GetProperty("why").GetString(), view.GetProperty("why").GetString());
        }

        Assert.Equal(Passing(failed), row.GetProperty("passing").GetProperty("mean").GetDouble());
        Assert.Equal(Passing(failed), target.GetProperty("whole").GetProperty("mean").GetDouble());
        Assert.Equal(Passing(failed), floor.GetProperty("chance").GetProperty("mean").GetDouble());

        await Weld(client, student, 1);
        Assert.False(IsMet(await Grounds(client, student), "cleanAfterFailed"));
        server.Clock.Advance(TimeSpan.FromMinutes(1));
        var signed = await client.PutAsJsonAsync($"/api/decisions/{Guid.CreateVersion7()}", Decision(student, "testNow", "He knows what it was."));
        signed.EnsureSuccessStatusCode();
        Assert.True(IsMet(await Grounds(client, student), "cleanAfterFailed"));

        (await client.DeleteAsync($"/api/results/{id}")).EnsureSuccessStatusCode();
        Assert.True(Passing(await Grounds(client, student)) > Passing(before)); // one more clean, and nothing failed
    }

    [Fact]
    public async Task A_decision_is_taken_back_with_a_reason_and_stays_in_the_history()
    {
        var client = await server.SignedIn();
        var student = await client.AddStudent();
        await Weld(client, student, 2);
        var id = Guid.CreateVersion7();
        var differs = await client.PutAsJsonAsync($"/api/decisions/{id}", Decision(student, "testNow", ""));
        Assert.Equal(["reason"], await differs.Fields(400));
        (await client.PutAsJsonAsync($"/api/decisions/{id}", Decision(student, "testNow", "Steady hand"))).EnsureSuccessStatusCode();
        Assert.Equal("testNow", (await Row(client, student)).GetProperty("decided").GetString());
        Assert.StartsWith("Take back: ", (await Row(client, student)).GetProperty("says").GetString(), StringComparison.Ordinal);

        var path = $"/api/decisions/{id}/withdrawal";
        Assert.Equal(["reason"], await (await client.PutAsJsonAsync(path, new { reason = " " })).Fields(400));
        Assert.Equal(
            ["id"],
            await (await client.PutAsJsonAsync($"/api/decisions/{Guid.CreateVersion7()}/withdrawal", new { reason = "x" })).Fields(404)
        );
        (await client.PutAsJsonAsync(path, new { reason = "Wrong student" })).EnsureSuccessStatusCode();
        var again = await (await client.PutAsJsonAsync(path, new { reason = "Another" })).Content.ReadFromJsonAsync<JsonElement>();
        Assert.False(again.GetProperty("isNew").GetBoolean());
        Assert.Equal(JsonValueKind.Null, (await Row(client, student)).GetProperty("decided").ValueKind);
        var kept = (await Grounds(client, student)).GetProperty("decisions")[0];
        Assert.Equal("Wrong student", kept.GetProperty("withdrawn").GetProperty("reason").GetString());
        Assert.Equal("Steady hand", kept.GetProperty("reason").GetString());

        // As advised needs no words.
        var advised = await client.PutAsJsonAsync($"/api/decisions/{Guid.CreateVersion7()}", Decision(student, "practise", ""));
        advised.EnsureSuccessStatusCode();
        Assert.Equal(HttpStatusCode.Unauthorized, (await server.CreateClient().PutAsJsonAsync(path, new { reason = "x" })).StatusCode);
    }

    [Fact]
    public async Task The_first_board_of_a_day_answers_with_the_last_numbers_and_their_day_and_then_with_todays()
    {
        var client = await server.SignedIn();
        List<Guid> students = [];
        for (var index = 0; index < 8; index++)
        {
            students.Add(await client.AddStudent());
            await Weld(client, students[^1], 1);
        }

        // The first time nothing was kept yet: it is worked out behind, and there a moment later.
        var board = await Settled(client);
        Assert.Equal(8, board.GetProperty("rows").GetArrayLength());
        Assert.All(board.GetProperty("rows").EnumerateArray(), row => Assert.Equal(1, row.GetProperty("fullCoupons").GetInt32()));

        server.Clock.Advance(TimeSpan.FromDays(40));
        client = await server.SignedIn();
        var old = await client.GetFromJsonAsync<JsonElement>("/api/ready");
        Assert.True(old.GetProperty("areOld").GetBoolean());
        Assert.Equal("2031-03-04", old.GetProperty("of").GetString());
        Assert.Equal(Means(board), Means(old));
        var now = await Settled(client);
        Assert.Equal(JsonValueKind.Null, now.GetProperty("of").ValueKind);
        Assert.All(Means(now).Zip(Means(board)), one => Assert.NotEqual(one.First, one.Second)); // forty days fade

        static List<double> Means(JsonElement view) =>
            [.. view.GetProperty("rows").EnumerateArray().Select(row => row.GetProperty("passing").GetProperty("mean").GetDouble())];
    }

    private static async Task<JsonElement> Settled(HttpClient client)
    {
        for (var tries = 0; tries < 200; tries++)
        {
            var board = await client.GetFromJsonAsync<JsonElement>("/api/ready");
            if (!board.GetProperty("areOld").GetBoolean())
            {
                return board;
            }

            await Task.Delay(50, TestContext.Current.CancellationToken);
        }

        throw new TimeoutException("The board was not brought up to date.");
    }

    [Fact]
    public async Task What_an_earlier_version_kept_of_a_student_is_weighed_anew_also_where_it_only_lends()
    {
        var client = await server.SignedIn();
        var student = await client.AddStudent();
        await Weld(client, student, 2);
        Task<JsonElement> Readiness(string test) => client.GetFromJsonAsync<JsonElement>($"/api/students/{student}/tests/{test}/readiness");
        var begun = (await Readiness("P8")).GetProperty("passing").GetRawText();
        var lent = (await Readiness("R3")).GetProperty("passing").GetRawText();
        foreach (var test in new[] { "R3", "P8" })
        {
            using (var scope = server.Services.CreateScope())
            {
                await scope
                    .ServiceProvider.GetRequiredService<GradusContext>()
                    .Database.ExecuteSqlAsync(
                        $"UPDATE Skills SET Version = 'skill-0 x', State = X'00'; UPDATE Readiness SET ConstantsVersion = 'skill-0 x'",
                        TestContext.Current.CancellationToken
                    );
            }

            Assert.Equal(test == "P8" ? begun : lent, (await Readiness(test)).GetProperty("passing").GetRawText());
        }
    }

    [Fact]
    public async Task What_was_passed_elsewhere_lends_by_how_far_it_is_believed_and_how_long_ago_until_it_is_taken_back()
    {
        var client = await server.SignedIn();
        var student = await client.AddStudent("P10");
        var credit = $"/api/students/{student}/credits/P8";
        async Task<double> Mean() =>
            (await client.GetFromJsonAsync<JsonElement>($"/api/students/{student}/tests/P10/readiness"))
                .GetProperty("passing")
                .GetProperty("mean")
                .GetDouble();
        async Task<double> With(string? day, string? vouched)
        {
            object body = new
            {
                why = "At the yard",
                day,
                vouched,
            };
            (await client.PutAsJsonAsync(credit, body)).EnsureSuccessStatusCode();
            (await client.PutAsJsonAsync(credit, body)).EnsureSuccessStatusCode(); // a double tap
            var mean = await Mean();
            (await client.DeleteAsync(credit)).EnsureSuccessStatusCode();
            return mean;
        }

        var before = await Mean();
        Assert.Equal(before, await With(null, null), 1e-12);
        var papers = await With("2031-02-20", "papers");
        var word = await With("2031-02-20", "word");
        Assert.True(papers > word && word > await With("2031-02-20", "student"));
        Assert.True(papers > await With("2021-02-20", "papers"));
        Assert.True(await With("2031-02-20", "student") > before);
        Assert.Equal(before, await Mean(), 1e-12);

        // Also for somebody of whom a state is kept; the board and the way it was reached tell of it.
        await Weld(client, student, 2, "P10");
        var welded = await Mean();
        (
            await client.PutAsJsonAsync(
                credit,
                new
                {
                    why = "At the yard",
                    day = "2031-02-20",
                    vouched = "papers",
                }
            )
        ).EnsureSuccessStatusCode();
        var now = await Mean();
        Assert.True(now > welded);
        Assert.Equal(now, (await Row(client, student)).GetProperty("passing").GetProperty("mean").GetDouble(), 1e-12);
        var reached = await client.GetFromJsonAsync<JsonElement>($"/api/students/{student}/tests/P10/reached");
        var loan = Assert.Single(reached.GetProperty("loans").EnumerateArray());
        Assert.Equal(
            ("P8", 0, "2031-02-20"),
            (loan.GetProperty("testId").GetString(), loan.GetProperty("coupons").GetInt32(), loan.GetProperty("passedElsewhere").GetString())
        );
        Assert.Equal(2, (await Row(client, student)).GetProperty("fullCoupons").GetInt32());

        Assert.Equal(["vouched"], await (await client.PutAsJsonAsync(credit, new { why = "x", day = "2031-02-20" })).Fields(400));
        Assert.Equal(["vouched"], await (await client.PutAsJsonAsync(credit, new { why = "x", vouched = "papers" })).Fields(400));
        var tomorrow = new
        {
            why = "x",
            day = "2031-03-09",
            vouched = "papers",
        };
        Assert.Equal(["day"], await (await client.PutAsJsonAsync(credit, tomorrow)).Fields(400));
    }

    [Fact]
    public async Task How_a_chance_was_reached_names_the_test_that_lends_and_what_it_has_in_common()
    {
        var client = await server.SignedIn();
        var student = await client.AddStudent();
        await Weld(client, student, 4);
        var path = $"/api/students/{student}/tests/P10/reached";
        var reached = await client.GetFromJsonAsync<JsonElement>(path);
        double Mean(string name) => reached.GetProperty(name).GetProperty("mean").GetDouble();
        Assert.Equal(Mean("passing"), Mean("lent"), 9); // nothing of its own yet
        Assert.Equal(Mean("assumed"), Mean("own"), 9);
        Assert.True(Mean("passing") > Mean("assumed"));
        var loan = Assert.Single(reached.GetProperty("loans").EnumerateArray());
        Assert.Equal(
            ("P8", 4, 4),
            (loan.GetProperty("testId").GetString(), loan.GetProperty("coupons").GetInt32(), loan.GetProperty("clean").GetInt32())
        );
        Assert.Equal(Mean("assumed"), loan.GetProperty("without").GetProperty("mean").GetDouble(), 9);
        Assert.Contains("plate", loan.GetProperty("shares").EnumerateArray().Select(one => one.GetString()));
        Assert.Equal(["testId"], await (await client.GetAsync($"/api/students/{student}/tests/X9/reached")).Fields(404));
        Assert.Equal(["studentId"], await (await client.GetAsync($"/api/students/{Guid.CreateVersion7()}/tests/P8/reached")).Fields(404));
    }
}
