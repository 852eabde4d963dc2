using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using Gradus.Data;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;

namespace Gradus.Server.Tests;

/// <summary>What a tablet's queue may do to a coupon: send everything again, send it in another order, and send very much of it.</summary>
public sealed class QueueTests : IAsyncDisposable
{
    private readonly RunningServer server = new();

    public ValueTask DisposeAsync() => server.DisposeAsync();

    private sealed record Waiting(HttpMethod Method, string Path, object? Body);

    private static object Undercut(double fromStartMm, Guid? passId = null) =>
        new
        {
            passId,
            kind = "undercut",
            stage = "cap",
            fromStartMm,
            depthMm = 0.5,
        };

    [Fact]
    public async Task A_queue_that_arrives_in_any_order_and_twice_ends_as_it_was_written()
    {
        var client = await server.SignedIn();
        var student = await client.AddStudent();
        var ended = new List<string>();
        foreach (var seed in new[] { 0, 1, 2 })
        {
            var coupon = await client.StartCoupon(student);
            var queue = await Queue(client, coupon);
            var random = new Random(seed);
            var waiting = seed == 0 ? queue : [.. queue.Concat(queue).OrderBy(_ => random.Next())];

            // What is refused waits and is sent again, as a tablet does; each round lets something through, or the queue would be stuck.
            for (var round = 0; waiting.Count > 0; round++)
            {
                Assert.InRange(round, 0, queue.Count);
                var refused = new List<Waiting>();
                foreach (var item in waiting)
                {
                    using var request = new HttpRequestMessage(item.Method, $"/api/coupons/{coupon}{item.Path}");
                    request.Content = item.Body is null ? null : JsonContent.Create(item.Body);
                    var answer = await client.SendAsync(request);
                    Assert.Contains(answer.StatusCode, new[] { HttpStatusCode.OK, HttpStatusCode.NotFound });
                    if (answer.StatusCode == HttpStatusCode.NotFound)
                    {
                        refused.Add(item);
                    }
                }

                waiting = refused;
            }

            var view = await client.Coupon(coupon);
            ended.Add(
                JsonSerializer.Serialize(
                    new
                    {
                        laid = view.GetProperty("beads").EnumerateArray().Count(bead => bead.GetProperty("pass").ValueKind != JsonValueKind.Null),
                        found = view.GetProperty("findings").GetArrayLength(),
                        notes = view.GetProperty("notes").GetArrayLength(),
                        cut = view.GetProperty("life").GetProperty("events").GetArrayLength(),
                        verdict = view.GetProperty("verdict").GetProperty("kind").GetString(),
                    }
                )
            );
        }

        Assert.Single(ended.Distinct());
        Assert.Contains("\"laid\":7", ended[0], StringComparison.Ordinal);
    }

    private static async Task<List<Waiting>> Queue(HttpClient client, Guid coupon)
    {
        var beads = (await client.Coupon(coupon)).GetProperty("beads").EnumerateArray().Select(bead => bead.GetProperty("key").GetString()!).ToList();
        var passes = beads.ToDictionary(bead => bead, _ => Guid.CreateVersion7());
        var last = passes[beads[^1]];
        return
        [
            .. passes.Select(pass => new Waiting(HttpMethod.Put, $"/passes/{pass.Value}", Calls.Pass(pass.Key))),
            new(HttpMethod.Put, $"/findings/{Guid.CreateVersion7()}", Undercut(40, passes[beads[0]])),
            new(HttpMethod.Put, $"/notes/{Guid.CreateVersion7()}", new { text = "Long arc." }),
            new(HttpMethod.Put, $"/events/{Guid.CreateVersion7()}", new { kind = "cut", body = new { } }),
            new(HttpMethod.Delete, $"/passes/{last}", null),
        ];
    }

    [Fact]
    public async Task Five_hundred_findings_are_kept_shown_and_judged_and_a_coupon_that_is_full_says_so()
    {
        var client = await server.SignedIn();
        var coupon = await client.StartCoupon(await client.AddStudent());
        await client.LayAllBeads(coupon);
        Task<HttpResponseMessage> Find(int index) =>
            client.PutAsJsonAsync($"/api/coupons/{coupon}/findings/{Guid.CreateVersion7()}", Undercut(index % 150));
        (await Find(0)).EnsureSuccessStatusCode();
        await Repeat(coupon, 498);
        (await Find(499)).EnsureSuccessStatusCode();
        var view = await client.Coupon(coupon);
        Assert.Equal(500, view.GetProperty("findings").GetArrayLength());
        Assert.All(view.GetProperty("findings").EnumerateArray(), finding => Assert.Equal("accept", finding.GetProperty("outcome").GetString()));
        await Repeat(coupon, 499);
        (await Find(999)).EnsureSuccessStatusCode();
        Assert.Equal(["couponId"], await (await Find(1000)).Fields(409));
    }

    /// <summary>Lays more findings down beside the first, as if each had been sent.</summary>
    private async Task Repeat(Guid coupon, int times)
    {
        using var scope = server.Services.CreateScope();
        var db = scope.ServiceProvider.GetRequiredService<GradusContext>();
        var first = await db.Findings.FirstAsync(one => one.CouponId == coupon);
        db.Findings.AddRange(
            Enumerable
                .Range(1, times)
                .Select(index => new FindingRecord
                {
                    Id = Guid.CreateVersion7(),
                    CouponId = coupon,
                    HappenedAt = first.HappenedAt,
                    RecordedAt = first.RecordedAt,
                    RecordedBy = first.RecordedBy,
                    Kind = first.Kind,
                    Stage = first.Stage,
                    FromStartMm = index % 150,
                    DepthMm = first.DepthMm,
                })
        );
        await db.SaveChangesAsync();
    }

    [Fact]
    public async Task The_history_says_who_did_what_and_keeps_what_was_taken_back()
    {
        var client = await server.SignedIn();
        var coupon = await client.StartCoupon(await client.AddStudent());
        var pass = Guid.CreateVersion7();
        var key = (await client.Coupon(coupon)).GetProperty("beads")[0].GetProperty("key").GetString()!;
        (await client.PutPass(coupon, pass, Calls.Pass(key))).EnsureSuccessStatusCode();
        server.Clock.Advance(TimeSpan.FromMinutes(1));
        (await client.DeleteAsync($"/api/coupons/{coupon}/passes/{pass}")).EnsureSuccessStatusCode();
        for (var index = 0; index < 60; index++)
        {
            server.Clock.Advance(TimeSpan.FromMinutes(1));
            (
                await client.PutAsJsonAsync($"/api/coupons/{coupon}/notes/{Guid.CreateVersion7()}", new { text = $"{index}" })
            ).EnsureSuccessStatusCode();
        }

        var rows = new List<JsonElement>();
        string? before = null;
        do
        {
            var page = await client.GetFromJsonAsync<JsonElement>($"/api/coupons/{coupon}/history{before}");
            rows.AddRange(page.GetProperty("rows").EnumerateArray());
            Assert.InRange(page.GetProperty("rows").GetArrayLength(), 1, 60);
            before = page.GetProperty("older").GetString() is { } older ? $"?before={Uri.EscapeDataString(older)}" : null;
        } while (before is not null);
        Assert.Equal(63, rows.Count);
        Assert.True(rows[^3].GetProperty("takenBack").GetBoolean());
        Assert.Equal(rows[^3].GetProperty("says").GetString(), rows[^2].GetProperty("says").GetString());
        Assert.All(rows, row => Assert.NotEmpty(row.GetProperty("by").GetString()!));
    }
}
