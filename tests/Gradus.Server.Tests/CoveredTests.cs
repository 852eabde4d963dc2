using System.Net.Http.Json;
using System.Text.Json;
using System.Text.Json.Nodes;

namespace Gradus.Server.Tests;

/// <summary>Whether passed coupons cover a weld, as the contract has it.</summary>
public sealed class CoveredTests(CoveredTests.Running running) : IClassFixture<CoveredTests.Running>
{
    public sealed class Running : IAsyncDisposable
    {
        public RunningServer Server { get; } = new();
        public HttpClient Client => field ??= Server.CreateClient();

        public ValueTask DisposeAsync() => Server.DisposeAsync();
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

    /// <summary>API 1104 6.2.2 (wall 4.8 to 19.1 mm, OD 60.3 to 323.9 mm) and AWS D1.6 read as D1.1; from memory, 90 and 70 %.</summary>
    [Theory]
    [InlineData("api-1104", 3, "F,H,V,OH", 4.7752, 19.05, 60.3, 323.9)]
    [InlineData("aws-d1.6", 5, "F,H,V,OH", 3.175, 14.22, 114.3, null)]
    public async Task A_pipe_test_is_read_by_the_codes_that_came_later(
        string code,
        int fNumber,
        string positions,
        double thinnest,
        double? thickest,
        double smallest,
        double? largest
    )
    {
        object test = new
        {
            product = "pipe",
            weld = "groove",
            position = "6G",
            thicknessMm = 7.11,
            outsideDiameterMm = 168.3,
            backing = false,
            process = "SMAW",
            fNumber,
            progression = "uphill",
            layers = 4,
        };
        var answer = await running.Client.PostAsJsonAsync("/api/qualifies", new { code, tests = new[] { test } });
        Assert.True(answer.IsSuccessStatusCode, await answer.Content.ReadAsStringAsync());
        var qualified = await answer.Content.ReadFromJsonAsync<JsonElement>();
        Assert.Equal(positions, string.Join(',', qualified.GetProperty("pipeGroove").EnumerateArray().Select(one => one.GetString())));
        double? End(string range, string end) =>
            qualified.GetProperty(range).GetProperty(end) is { ValueKind: JsonValueKind.Number } value ? Math.Round(value.GetDouble(), 4) : null;
        Assert.Equal((thinnest, thickest), (End("thicknessMm", "min"), End("thicknessMm", "max")));
        Assert.Equal((smallest, largest), (End("outsideDiameterMm", "min"), End("outsideDiameterMm", "max")));
        Assert.Equal(JsonValueKind.Null, qualified.GetProperty("sets").ValueKind);
    }

    [Fact]
    public async Task Several_tests_are_answered_with_their_sets()
    {
        object Test(string position, bool backing, double thicknessMm) =>
            new
            {
                product = "plate",
                weld = "groove",
                position,
                thicknessMm,
                backing,
                process = "SMAW",
                fNumber = 4,
                progression = "uphill",
            };
        async Task<JsonElement> Of(params object[] tests) =>
            await (await running.Client.PostAsJsonAsync("/api/qualifies", new { code = "aws-d1.1", tests })).Content.ReadFromJsonAsync<JsonElement>();
        var mixed = await Of(Test("3G", false, 9.525), Test("4G", true, 9.525));
        Assert.Equal(2, mixed.GetProperty("sets").GetArrayLength());
        Assert.Equal(0, mixed.GetProperty("plateGroove").GetArrayLength());
        Assert.Equal(JsonValueKind.Null, mixed.GetProperty("thicknessMm").ValueKind);
        Assert.False(mixed.GetProperty("withoutBacking").GetBoolean());
        var alike = await Of(Test("3G", true, 9.525), Test("4G", true, 9.525));
        Assert.Equal(["F", "H", "V", "OH"], alike.GetProperty("plateGroove").EnumerateArray().Select(one => one.GetString()));
        Assert.Equal(19.05, alike.GetProperty("thicknessMm").GetProperty("max").GetDouble(), 6);
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
    [InlineData("backing", "\"paper\"", "steel")]
    [InlineData("backing", "5", "steel")]
    [InlineData("fillerGroup", "[]", "whole number")]
    public async Task A_value_of_another_kind_is_answered_with_what_may_stand_there(string field, string json, string says)
    {
        var body = JsonNode.Parse(Cases[0].GetProperty("body").GetRawText())!;
        body["tests"]![0]![field] = JsonNode.Parse(json);
        var answer = await running.Client.PostAsJsonAsync("/api/covered", body);
        Assert.Equal(System.Net.HttpStatusCode.BadRequest, answer.StatusCode);
        var errors = (await answer.Content.ReadFromJsonAsync<JsonElement>()).GetProperty("errors");
        Assert.Contains(says, errors.GetProperty($"tests[0].{field}")[0].GetString());
    }

    [Fact]
    public async Task A_plate_coupon_is_none_of_api_1104()
    {
        var body = JsonNode.Parse(Cases[0].GetProperty("body").GetRawText())!;
        body["code"] = "api-1104";
        var why = (await Ask(body)).GetProperty("why").EnumerateArray().Single();
        Assert.Equal(("product", "plate"), (why.GetProperty("variable").GetString(), why.GetProperty("asked").GetString()));
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
