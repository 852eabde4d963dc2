using System.Net.Http.Json;
using System.Text.Json;
using Gradus.Server.Accounts;

namespace Gradus.Server.Tests;

/// <summary>A wall screen reads the wall and nothing else, and names nobody in full.</summary>
public sealed class WallTests : IAsyncDisposable
{
    private readonly RunningServer server = new();

    public ValueTask DisposeAsync() => server.DisposeAsync();

    private static async Task<Guid> Weld(HttpClient client, Guid student, int booth)
    {
        var booths = (await client.GetFromJsonAsync<JsonElement>("/api/floor")).GetProperty("booths");
        return await client.StartCoupon(student, asTest: false, boothId: booths[booth - 1].GetProperty("id").GetGuid());
    }

    /// <summary>A second screen, signed in and then made a wall.</summary>
    private async Task<HttpClient> WallOf(string names)
    {
        var wall = await server.SignedIn();
        (await wall.PostAsJsonAsync("/api/session/wall", new { names })).EnsureSuccessStatusCode();
        return wall;
    }

    [Fact]
    public async Task First_names_are_told_apart_by_a_letter_only_where_two_are_alike()
    {
        var client = await server.SignedIn();
        await Weld(client, await client.AddStudent(name: "Ana Quist"), 1);
        await Weld(client, await client.AddStudent(name: "ana Rask"), 2);
        await Weld(client, await client.AddStudent(name: "Bo Sand-Holm"), 3);
        await client.AddStudent(name: "Cleo Tveit");
        var wall = await WallOf("first");
        var view = await wall.GetFromJsonAsync<JsonElement>("/api/wall");
        Assert.Equal(
            ["Ana Q.", "ana R.", "Bo", null],
            view.GetProperty("booths").EnumerateArray().Select(booth => booth.GetProperty("name").GetString())
        );
        Assert.Equal(["Cleo"], view.GetProperty("waiting").EnumerateArray().Select(one => one.GetString()));
        var text = view.GetRawText();
        Assert.DoesNotContain("Quist", text, StringComparison.Ordinal);
        Assert.DoesNotContain("Tveit", text, StringComparison.Ordinal);
        Assert.DoesNotContain("chance", text, StringComparison.OrdinalIgnoreCase);
    }

    [Fact]
    public async Task By_stamps_nobody_is_named_and_whoever_has_none_is_counted()
    {
        var client = await server.SignedIn();
        var coupon = await Weld(client, await client.AddStudent(name: "Ana Quist"), 2);
        await client.AddStudent(name: "Cleo Tveit");
        (await client.PutEvent(coupon, "holdCalled", new { point = "root" })).EnsureSuccessStatusCode();
        var wall = await WallOf("stamps");
        var view = await wall.GetFromJsonAsync<JsonElement>("/api/wall");
        var stamp = (await client.Coupon(coupon)).GetProperty("stamp").GetString();
        Assert.Equal(stamp, view.GetProperty("booths")[1].GetProperty("name").GetString());
        Assert.Equal(stamp, view.GetProperty("calls")[0].GetProperty("name").GetString());
        Assert.Equal(1, view.GetProperty("waitingUnnamed").GetInt32());
        Assert.Empty(view.GetProperty("waiting").EnumerateArray());
        Assert.DoesNotContain("Ana", view.GetRawText(), StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_wall_screen_is_refused_everything_else_by_every_endpoint()
    {
        var wall = await WallOf("first");
        var paths = RightsTests
            .Operations(server)
            .Where(one => one.Path.StartsWith("/api/", StringComparison.Ordinal) && (Rights.Of(one.Method, one.Path) & Who.Wall) == 0)
            .ToList();
        Assert.True(paths.Count > 60, $"Only {paths.Count} calls were tried.");
        var let = new List<string>();
        foreach (var one in paths)
        {
            if (await RightsTests.Ask(wall, one) is not 403 and var status)
            {
                let.Add($"{one.Method} {one.Path}: {status}");
            }
        }

        Assert.Empty(let);
    }

    [Fact]
    public async Task It_says_what_it_is_and_is_ended_by_a_sign_in()
    {
        var wall = await WallOf("stamps");
        var session = await wall.GetFromJsonAsync<JsonElement>("/api/session");
        Assert.Equal("stamps", session.GetProperty("wall").GetString());
        Assert.Equal(JsonValueKind.Null, session.GetProperty("instructor").ValueKind);
        var instructorId = session.GetProperty("instructors")[0].GetProperty("id").GetGuid();
        (await wall.PostAsJsonAsync("/api/session", new { instructorId, pin = "4711" })).EnsureSuccessStatusCode();
        Assert.Equal(200, (int)(await wall.GetAsync("/api/floor")).StatusCode);
        Assert.Contains("names", await (await wall.PostAsJsonAsync("/api/session/wall", new { names = (string?)null })).Fields(400));
        Assert.Equal(401, (int)(await server.CreateClient().GetAsync("/api/wall")).StatusCode);
    }
}
