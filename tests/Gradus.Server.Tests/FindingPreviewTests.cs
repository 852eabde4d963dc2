using System.Net.Http.Json;
using System.Text.Json;

namespace Gradus.Server.Tests;

/// <summary>What a finding would come to is told before it is kept.</summary>
public sealed class FindingPreviewTests : IAsyncDisposable
{
    private readonly RunningServer server = new();

    public ValueTask DisposeAsync() => server.DisposeAsync();

    private static object Undercut(double? fromStartMm, double? depthMm, string? toe = null) =>
        new
        {
            kind = "undercut",
            stage = "cap",
            fromStartMm,
            depthMm,
            toe,
        };

    private static Task<HttpResponseMessage> Ask(HttpClient client, Guid coupon, object finding) =>
        client.PostAsJsonAsync($"/api/coupons/{coupon}/findings/preview", finding);

    private static async Task<JsonElement> Preview(HttpClient client, Guid coupon, object finding)
    {
        var answer = await Ask(client, coupon, finding);
        answer.EnsureSuccessStatusCode();
        return await answer.Content.ReadFromJsonAsync<JsonElement>();
    }

    private async Task<(HttpClient Client, Guid Coupon)> Begin()
    {
        var client = await server.SignedIn();
        var coupon = await client.StartCoupon(await client.AddStudent(), asTest: false);
        await client.LayAllBeads(coupon);
        return (client, coupon);
    }

    // AWS D1.1 clause 6 (2020) limits undercut to 1/32 in (0.79 mm) on plate under 1 in; from memory, as the profile says.
    [Theory]
    [InlineData(0.5, "accept")]
    [InlineData(1.2, "reject")]
    [InlineData(null, "cannot-judge")]
    public async Task The_verdict_and_the_limit_are_there_before_it_is_kept(double? depthMm, string outcome)
    {
        var (client, coupon) = await Begin();
        var preview = await Preview(client, coupon, Undercut(60, depthMm));
        Assert.Equal(outcome, preview.GetProperty("outcome").GetString());
        Assert.Equal(0.79375, preview.GetProperty("limits")[0].GetProperty("limit").GetDouble(), 6);
        Assert.Empty((await client.Coupon(coupon)).GetProperty("findings").EnumerateArray());
    }

    [Theory]
    [InlineData(60.0, "face bend 1")]
    [InlineData(100.0, "root bend 2")]
    [InlineData(10.0, null)]
    [InlineData(null, null)]
    public async Task The_specimen_that_is_cut_there_is_named(double? fromStartMm, string? name)
    {
        var (client, coupon) = await Begin();
        var threatens = (await Preview(client, coupon, Undercut(fromStartMm, 0.5))).GetProperty("threatens").EnumerateArray();
        Assert.Equal(name is null ? [] : [name], threatens.Select(one => one.GetProperty("name").GetString()));
    }

    [Fact]
    public async Task Once_kept_it_is_what_was_foretold()
    {
        var (client, coupon) = await Begin();
        var said = Undercut(60, 1.2, "b");
        var preview = await Preview(client, coupon, said);
        (await client.PutAsJsonAsync($"/api/coupons/{coupon}/findings/{Guid.CreateVersion7()}", said)).EnsureSuccessStatusCode();
        var kept = (await client.Coupon(coupon)).GetProperty("findings")[0];
        Assert.Equal(preview.GetProperty("outcome").GetString(), kept.GetProperty("outcome").GetString());
        Assert.Equal(preview.GetProperty("limits")[0].GetRawText(), kept.GetProperty("deciding").GetRawText());
        Assert.NotEmpty(preview.GetProperty("causes").EnumerateArray());
        Assert.Equal(preview.GetProperty("causes").GetRawText(), kept.GetProperty("causes").GetRawText());
        Assert.Equal(
            preview.GetProperty("threatens").EnumerateArray().Select(one => one.GetProperty("specimen").GetInt32()),
            kept.GetProperty("threatens").EnumerateArray().Select(one => one.GetInt32())
        );
        Assert.Equal("b", kept.GetProperty("toe").GetString());
    }

    [Fact]
    public async Task A_place_off_the_coupon_a_stranger_and_a_closed_coupon_are_refused()
    {
        var (client, coupon) = await Begin();
        Assert.Contains("fromStartMm", await (await Ask(client, coupon, Undercut(400, 1))).Fields(400));
        Assert.Contains("couponId", await (await Ask(client, Guid.CreateVersion7(), Undercut(60, 1))).Fields(404));
        Assert.Contains("kind", await (await Ask(client, coupon, new { stage = "cap" })).Fields(400));
        (await client.Close(coupon)).EnsureSuccessStatusCode();
        Assert.Equal(409, (int)(await Ask(client, coupon, Undercut(60, 1))).StatusCode);
    }

    [Fact]
    public async Task The_kinds_come_in_the_order_of_what_this_school_finds()
    {
        var (client, coupon) = await Begin();
        async Task<List<string>> First() =>
            [
                .. (await client.GetFromJsonAsync<JsonElement>("/api/finding-kinds"))
                    .EnumerateArray()
                    .Where(kind => kind.GetProperty("order").TryGetProperty("cap", out _))
                    .OrderBy(kind => kind.GetProperty("order").GetProperty("cap").GetInt32())
                    .Select(kind => kind.GetProperty("kind").GetString()!),
            ];
        var before = await First();
        Assert.NotEqual("arcStrike", before[0]);
        for (var index = 0; index < 12; index++)
        {
            (
                await client.PutAsJsonAsync(
                    $"/api/coupons/{coupon}/findings/{Guid.CreateVersion7()}",
                    new
                    {
                        kind = "arcStrike",
                        stage = "cap",
                        fromStartMm = 20,
                    }
                )
            ).EnsureSuccessStatusCode();
        }

        Assert.Equal(before, await First()); // counted once an hour
        server.Clock.Advance(TimeSpan.FromMinutes(61));
        Assert.Equal("arcStrike", (await First())[0]);
        Assert.Equal(before.Where(kind => kind != "arcStrike"), (await First())[1..]);
    }
}
