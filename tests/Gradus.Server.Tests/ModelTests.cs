using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using Gradus.Core.Readiness;
using Gradus.Server.Readiness;
using Microsoft.Extensions.DependencyInjection;

namespace Gradus.Server.Tests;

/// <summary>Results of sittings, how well they were foretold, and the constants that the school goes by.</summary>
public sealed class ModelTests : IAsyncDisposable
{
    private readonly RunningServer server = new();

    public ValueTask DisposeAsync() => server.DisposeAsync();

    private static object Result(Guid student, string day, bool passed, string testId = "P8") =>
        new
        {
            studentId = student,
            testId,
            day,
            passed,
            note = "",
        };

    private async Task Weld(HttpClient client, Guid student, int coupons)
    {
        for (var index = 0; index < coupons; index++)
        {
            var coupon = await client.StartCoupon(student);
            await client.LayAllBeads(coupon);
            (await client.Close(coupon)).EnsureSuccessStatusCode();
            server.Clock.Advance(TimeSpan.FromHours(2));
        }
    }

    [Fact]
    public async Task A_result_keeps_what_was_said_before_it_and_counts_as_a_step_passed()
    {
        var client = await server.SignedIn();
        var student = await client.AddStudent();
        await Weld(client, student, 2);
        server.Clock.Advance(TimeSpan.FromDays(1));
        client = await server.SignedIn();
        (
            await client.PutAsJsonAsync(
                $"/api/decisions/{Guid.CreateVersion7()}",
                new
                {
                    studentId = student,
                    testId = "P8",
                    kind = "testNow",
                    reason = "Steady",
                }
            )
        ).EnsureSuccessStatusCode();
        var before = await client.GetFromJsonAsync<JsonElement>($"/api/students/{student}/tests/P8/grounds");
        var signed = before.GetProperty("advice").GetProperty("passing").GetProperty("mean").GetDouble();
        var id = Guid.CreateVersion7();
        (await client.PutAsJsonAsync($"/api/results/{id}", Result(student, "2031-03-05", true))).EnsureSuccessStatusCode();
        var again = await client.PutAsJsonAsync($"/api/results/{id}", Result(student, "2031-03-05", true));
        Assert.False((await again.Content.ReadFromJsonAsync<JsonElement>()).GetProperty("isNew").GetBoolean());
        Assert.Equal(["passed"], await (await client.PutAsJsonAsync($"/api/results/{id}", Result(student, "2031-03-05", false))).Fields(409));

        // What comes after the sitting does not change what was said before it.
        var grounds = await client.GetFromJsonAsync<JsonElement>($"/api/students/{student}/tests/P8/grounds");
        var said = grounds.GetProperty("results")[0].GetProperty("said").GetProperty("mean").GetDouble();
        Assert.Equal(signed, said, 12);
        var now = grounds.GetProperty("advice");
        Assert.True(now.GetProperty("passing").GetProperty("mean").GetDouble() > said + 0.02); // the sitting itself counts
        Assert.Equal("passed", now.GetProperty("kind").GetString());
        var sat = grounds.GetProperty("decisions")[0].GetProperty("since").GetProperty("sat");
        Assert.Equal((true, "2031-03-05"), (sat.GetProperty("passed").GetBoolean(), sat.GetProperty("day").GetString()));
        await Weld(client, student, 1);
        var record = await client.GetFromJsonAsync<JsonElement>("/api/results");
        Assert.Equal((1, 1), (record.GetProperty("sittings").GetInt32(), record.GetProperty("passed").GetInt32()));
        Assert.Equal(said, record.GetProperty("expected").GetDouble(), 12);
        Assert.Equal(2, record.GetProperty("latest")[0].GetProperty("coupons").GetInt32());

        var way = await client.GetFromJsonAsync<JsonElement>($"/api/students/{student}/way");
        var step = way.GetProperty("way").EnumerateArray().Single(one => one.GetProperty("test").GetString() == "P8");
        Assert.Equal("Passed on 5 March 2031.", step.GetProperty("creditedWhy").GetString());
        (await client.DeleteAsync($"/api/results/{id}")).EnsureSuccessStatusCode();
        Assert.Equal(["id"], await (await client.DeleteAsync($"/api/results/{id}")).Fields(404));
        Assert.Equal(0, (await client.GetFromJsonAsync<JsonElement>("/api/results")).GetProperty("sittings").GetInt32());
    }

    [Fact]
    public async Task A_result_that_cannot_be_is_refused_by_field()
    {
        var client = await server.SignedIn();
        var student = await client.AddStudent();
        async Task<List<string>> Refused(object result, int status = 400) =>
            await (await client.PutAsJsonAsync($"/api/results/{Guid.CreateVersion7()}", result)).Fields(status);
        Assert.Equal(["day"], await Refused(Result(student, "2031-03-06", true)));
        Assert.Equal(["testId"], await Refused(Result(student, "2031-03-01", true, "X1")));
        Assert.Equal(["studentId"], await Refused(Result(Guid.CreateVersion7(), "2031-03-01", true), 404));
        Assert.Equal(["day", "passed", "studentId", "testId"], (await Refused(new { note = "" })).Order());
        Assert.Equal(HttpStatusCode.Unauthorized, (await server.CreateClient().GetAsync("/api/results")).StatusCode);
    }

    /// <summary>Constants that are adopted while somebody is weighed are not said of numbers that were begun with others.</summary>
    [Fact]
    public async Task Who_is_weighed_is_weighed_by_one_set_of_constants()
    {
        var client = await server.SignedIn();
        var student = await client.AddStudent();
        await Weld(client, student, 2);
        await using var early = server.Services.CreateAsyncScope();
        var begun = early.ServiceProvider.GetRequiredService<ReadinessBook>();
        var shipped = ReadinessConstants.Defaults;
        server.Services.GetRequiredService<ModelInUse>().Use(shipped with { Version = $"{shipped.Version}-other" });
        var first = await begun.Read(student, "P8", CancellationToken.None);
        Assert.StartsWith($"{shipped.Version} ", first.ConstantsVersion, StringComparison.Ordinal);
        await using var later = server.Services.CreateAsyncScope();
        var second = await later.ServiceProvider.GetRequiredService<ReadinessBook>().Read(student, "P8", CancellationToken.None);
        Assert.StartsWith($"{shipped.Version}-other ", second.ConstantsVersion, StringComparison.Ordinal);
    }

    [Fact]
    public async Task The_constants_are_fitted_to_the_school_and_taken_over_only_when_they_foretell_better()
    {
        var client = await server.SignedIn();
        Assert.Equal(["students"], await (await client.PostAsync("/api/model/fit", null)).Fields(409));
        var students = new List<Guid>();
        for (var index = 0; index < 6; index++)
        {
            students.Add(await client.AddStudent());
            await Weld(client, students[^1], 3);
        }

        async Task<double> Chance() =>
            (await client.GetFromJsonAsync<JsonElement>($"/api/students/{students[0]}/tests/P8/readiness"))
                .GetProperty("passing")
                .GetProperty("mean")
                .GetDouble();
        var shipped = await Chance();
        (await client.GetAsync("/api/ready")).EnsureSuccessStatusCode();
        Assert.Equal(HttpStatusCode.Accepted, (await client.PostAsync("/api/model/fit", null)).StatusCode);
        JsonElement model;
        using var limit = new CancellationTokenSource(TimeSpan.FromMinutes(2));
        do
        {
            await Task.Delay(100, limit.Token);
            model = await client.GetFromJsonAsync<JsonElement>("/api/model");
        } while (model.GetProperty("state").GetString() == "running");

        // Beginners of whom every coupon is clean: the shipped constants expect far less of them.
        Assert.Equal("idle", model.GetProperty("state").GetString());
        var fit = model.GetProperty("lastFit");
        Assert.Equal(
            (6, 18, true),
            (fit.GetProperty("students").GetInt32(), fit.GetProperty("coupons").GetInt32(), fit.GetProperty("adopted").GetBoolean())
        );
        Assert.True(fit.GetProperty("scoreAfter").GetDouble() > fit.GetProperty("scoreBefore").GetDouble());
        Assert.True(model.GetProperty("isFitted").GetBoolean());
        Assert.True(await Chance() > shipped);

        await server.DisposeAsync(); // one server has the folder at a time
        await using var restarted = new RunningServer(server.Folder);
        restarted.Clock.AdjustTime(server.Clock.GetUtcNow());
        client = await restarted.SignedIn();
        Assert.True((await client.GetFromJsonAsync<JsonElement>("/api/model")).GetProperty("isFitted").GetBoolean());
        var back = await (await client.PostAsync("/api/model/shipped", null)).Content.ReadFromJsonAsync<JsonElement>();
        Assert.False(back.GetProperty("isFitted").GetBoolean());
        Assert.Equal(shipped, await Chance());
    }
}
