using System.Net.Http.Json;
using System.Text.Json;
using System.Text.Json.Nodes;

namespace Gradus.Server.Tests;

/// <summary>Whether passed coupons cover a weld, as the contract has it.</summary>
public sealed class CoveredTests(CoveredTests.Running running) : IClassFixture<CoveredTests.Running>
{
    public sealed class Running : IAsyncDisposable
    {
        private readonly RunningServer server = new();
        public HttpClient Client => field ??= server.CreateClient();

        public ValueTask DisposeAsync() => server.DisposeAsync();
    }

    // Each with its clause and how sure it is; from memory.
    private static readonly JsonElement[] Cases =
    [
        .. JsonDocument.Parse(File.ReadAllText(Path.Combine(AppContext.BaseDirectory, "samples", "covered.json"))).RootElement.EnumerateArray(),
    ];

    public static TheoryData<int> All => [.. Enumerable.Range(0, Cases.Length)];

    private async Task<JsonElement> Ask(object body)
    {
        var answer = await running.Client.PostAsJsonAsync("/api/covered", body);
        Assert.True(answer.IsSuccessStatusCode, await answer.Content.ReadAsStringAsync());
        return await answer.Content.ReadFromJsonAsync<JsonElement>();
    }

    [Theory]
    [MemberData(nameof(All))]
    public async Task A_case_is_answered_as_its_clause_has_it(int index)
    {
        var (body, want) = (Cases[index].GetProperty("body"), Cases[index].GetProperty("want").GetProperty("covered").GetBoolean());
        var answer = await Ask(body);
        Assert.True(want == answer.GetProperty("covered").GetBoolean(), $"{Cases[index].GetProperty("clause")}: {answer}");
        Assert.NotEqual(0, answer.GetProperty("why").GetArrayLength());
        Assert.Equal(want, answer.GetProperty("by").GetArrayLength() > 0);
    }

    [Fact]
    public async Task What_is_left_open_is_told_with_what_the_coupon_gives()
    {
        var body = JsonNode.Parse(Cases[0].GetProperty("body").GetRawText())!;
        body["asks"]!["thicknessMm"] = null;
        var answer = await Ask(body);
        Assert.False(answer.GetProperty("covered").GetBoolean());
        var why = answer.GetProperty("why").EnumerateArray().Single();
        Assert.Equal("thicknessMm", why.GetProperty("variable").GetString());
        Assert.Equal(JsonValueKind.Null, why.GetProperty("asked").ValueKind);
        Assert.Equal("3.18 mm to 19.05 mm", why.GetProperty("qualified").GetString());
        Assert.True(why.GetProperty("fromMemory").GetBoolean());
    }

    [Theory]
    [InlineData("code", "\"x\"", "code")]
    [InlineData("tests", "[]", "tests")]
    [InlineData("tests", "[null]", "tests")]
    [InlineData("asks", "null", "asks")]
    public async Task What_is_wrong_is_named(string field, string json, string named)
    {
        var body = JsonNode.Parse(Cases[0].GetProperty("body").GetRawText())!;
        body[field] = JsonNode.Parse(json);
        Assert.Contains(named, await (await running.Client.PostAsJsonAsync("/api/covered", body)).Fields(400));
    }

    [Theory]
    [InlineData("position", "\"9G\"", "tests[0].position")]
    [InlineData("progression", "null", "tests[0].progression")]
    [InlineData("thicknessMm", "0", "tests[0].thicknessMm")]
    [InlineData("outsideDiameterMm", "100", "tests[0].outsideDiameterMm")]
    [InlineData("process", "\"SAW\"", "tests[0]")]
    [InlineData("scope", "\"some\"", "tests[0].scope")]
    public async Task What_is_wrong_with_a_coupon_is_named(string field, string json, string named)
    {
        var body = JsonNode.Parse(Cases[0].GetProperty("body").GetRawText())!;
        body["tests"]![0]![field] = JsonNode.Parse(json);
        Assert.Contains(named, await (await running.Client.PostAsJsonAsync("/api/covered", body)).Fields(400));
    }
}
