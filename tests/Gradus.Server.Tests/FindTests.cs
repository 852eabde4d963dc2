using System.Net.Http.Json;
using System.Text.Json;
using Gradus.Data;
using Microsoft.Extensions.DependencyInjection;

namespace Gradus.Server.Tests;

/// <summary>Any student, coupon or test is found by what is typed of it.</summary>
public sealed class FindTests : IAsyncDisposable
{
    private readonly RunningServer server = new();

    public ValueTask DisposeAsync() => server.DisposeAsync();

    private static async Task<List<string>> Find(HttpClient client, string text, string kind, string field)
    {
        var found = await client.GetFromJsonAsync<JsonElement>($"/api/find?q={Uri.EscapeDataString(text)}");
        return [.. found.GetProperty(kind).EnumerateArray().Select(one => one.GetProperty(field).GetString()!)];
    }

    private static Task<List<string>> Students(HttpClient client, string text) => Find(client, text, "students", "name");

    [Fact]
    public async Task A_student_is_found_by_the_beginning_of_any_part_of_the_name_with_or_without_accents()
    {
        var client = await server.SignedIn();
        await client.AddStudent(name: "Zoë Øvregård-Łukasik");
        await client.AddStudent(name: "Bo Zander");
        Assert.Equal(["Zoë Øvregård-Łukasik"], await Students(client, "zoe"));
        Assert.Equal(["Zoë Øvregård-Łukasik"], await Students(client, "ZOË"));
        Assert.Equal(["Bo Zander", "Zoë Øvregård-Łukasik"], await Students(client, "z"));
        Assert.Equal(["Bo Zander"], await Students(client, " zan  bo "));
        Assert.Empty(await Students(client, "ander"));
        Assert.Empty(await Students(client, "zander zoe"));
    }

    [Fact]
    public async Task Whoever_has_left_is_found_after_those_who_come()
    {
        var client = await server.SignedIn();
        var gone = await client.AddStudent(name: "Ada First");
        await client.AddStudent(name: "Ada Second");
        (await client.PutAsync($"/api/students/{gone}/left", null)).EnsureSuccessStatusCode();
        Assert.Equal(["Ada Second", "Ada First"], await Students(client, "ada"));
    }

    [Fact]
    public async Task A_stamp_is_found_open_and_closed_and_given_up_however_it_is_typed()
    {
        var client = await server.SignedIn();
        var student = await client.AddStudent();
        var coupon = await client.StartCoupon(student);
        var other = await client.StartCoupon(student);
        var stamp = (await client.Coupon(coupon)).GetProperty("stamp").GetString()!;
        async Task<JsonElement> One(string text) =>
            (await client.GetFromJsonAsync<JsonElement>($"/api/find?q={Uri.EscapeDataString(text)}"))
                .GetProperty("coupons")
                .EnumerateArray()
                .Single();
        Assert.Equal(JsonValueKind.Null, (await One(stamp)).GetProperty("verdict").ValueKind);
        Assert.Equal(coupon, (await One(stamp.ToLowerInvariant())).GetProperty("id").GetGuid());
        Assert.Equal(coupon, (await One($"{stamp[..2]} {stamp[2..]}")).GetProperty("id").GetGuid());
        // Two running numbers share their first three characters.
        Assert.Equal(2, (await Find(client, stamp[..3], "coupons", "stamp")).Count);

        await client.LayAllBeads(coupon);
        (await client.Close(coupon)).EnsureSuccessStatusCode();
        Assert.Equal("accept", (await One(stamp)).GetProperty("verdict").GetString());
        (await client.PutEvent(other, "voided", new { reason = "quenched" })).EnsureSuccessStatusCode();
        Assert.True((await One((await client.Coupon(other)).GetProperty("stamp").GetString()!)).GetProperty("givenUp").GetBoolean());
    }

    [Theory]
    [InlineData("p8", "P8")]
    [InlineData("6g stainless", "R5")]
    [InlineData("STAINLESS", "R5")]
    public async Task A_test_is_found_by_its_words(string text, string id) =>
        Assert.Contains(id, await Find(await server.SignedIn(), text, "tests", "id"));

    [Fact]
    public async Task The_test_whose_name_it_is_comes_first()
    {
        var client = await server.SignedIn();
        Assert.Equal("P1", (await Find(client, "p1", "tests", "id"))[0]);
        Assert.DoesNotContain("R5", await Find(client, "stainless p1", "tests", "id"));
    }

    [Fact]
    public async Task Nothing_typed_finds_nothing_and_too_much_is_refused()
    {
        var client = await server.SignedIn();
        await client.AddStudent();
        Assert.Empty(await Students(client, "  -%_' "));
        Assert.Empty(await Students(client, "%"));
        Assert.Contains("q", await (await client.GetAsync("/api/find?q=" + new string('a', 81))).Fields(400));
        Assert.Contains("session", await (await server.CreateClient().GetAsync("/api/find?q=a")).Fields(401));
    }

    [Fact]
    public async Task No_more_than_eight_of_a_kind_come()
    {
        var client = await server.SignedIn();
        for (var index = 0; index < 10; index++)
        {
            await client.AddStudent();
        }

        Assert.Equal(8, (await Students(client, "student")).Count);
    }
}
