using System.Net.Http.Json;
using System.Text;
using System.Text.Json;
using System.Text.Json.Nodes;

namespace Gradus.Server.Tests;

/// <summary>The calls beside the ones that the contract names: their answers, and that nonsense is refused by its field.</summary>
public sealed class TradeContractTests(ShopMathTests.Fixture fixture) : IClassFixture<ShopMathTests.Fixture>
{
    private readonly HttpClient client = fixture.Server.CreateClient();

    private const string Plan =
        """{"form":"singleV","thicknessMm":9.525,"bevelDegA":22.5,"bevelDegB":22.5,"rootOpeningMm":6.35,"rootFaceMm":0,"strip":true,"position":"2G","layers":[1,2,2,3]}""";
    private const string Suggest =
        """{"form":"singleV","thicknessMm":9.525,"bevelDegA":22.5,"bevelDegB":22.5,"rootOpeningMm":6.35,"rootFaceMm":0,"beadAreaMm2":16,"beadWidthMm":9.525,"overlap":0.5,"fillBelowFlushMm":2.5}""";
    private const string Lens = """{"process":"smaw","amps":120}""";
    private const string Continuity = """{"code":"iso-9606-1","qualifiedOn":"2024-01-10","lastUsedOn":"2025-12-01","renewalYears":2}""";
    private const string Causes = """{"kind":"incompleteJointPenetration","facts":{"stage":"root","gapMm":1.5875,"plannedGapMm":2.38125}}""";
    private const string Coverage =
        """{"code":"aws-d1.1","aim":"fewest","welds":[{"name":"w","product":"plate","weld":"groove","position":"V","thicknessMinMm":5,"thicknessMaxMm":16,"backing":true,"process":"SMAW","fNumber":4,"progression":"uphill"}]}""";
    private const string Nick =
        """{"profile":"api-1104","specimens":[{"completePenetration":true,"completeFusion":true,"wallMm":6,"porePercent":1,"poresMm":[1],"slag":[]}]}""";
    private const string FilletBreak =
        """{"profile":"aws-d1.1","specimens":[{"bentFlat":false,"fusionToRoot":true,"crack":false,"inclusionsMm":[1.0]}]}""";
    private const string Macro =
        """{"profile":"aws-d1.1","specimens":[{"fillet":true,"crack":false,"fusionComplete":true,"legAskedMm":8,"legAMm":8,"legBMm":8.5,"faceWidthMm":11,"convexityMm":1,"undercutMm":0}]}""";

    private async Task<HttpResponseMessage> Post(string path, string json) =>
        await client.PostAsync($"/api/{path}", new StringContent(json, Encoding.UTF8, "application/json"));

    private async Task<JsonElement> Answer(string path, string json)
    {
        var answer = await Post(path, json);
        answer.EnsureSuccessStatusCode();
        return await answer.Content.ReadFromJsonAsync<JsonElement>();
    }

    [Fact]
    public async Task A_bead_plan_has_its_section_and_the_shrinkage_to_expect()
    {
        var plan = await Answer("calc/bead-plan", Plan);
        Assert.Equal(8, plan.GetProperty("section").GetProperty("beads").GetArrayLength());
        Assert.Equal("bottomUp", plan.GetProperty("section").GetProperty("order").GetString());
        Assert.Equal(1.0, plan.GetProperty("filledMm2").GetDouble() / plan.GetProperty("neededMm2").GetDouble(), 0.03);

        // Blodgett: a tenth of the mean width, which is the published area of 0.15200 in2 over 3/8 in.
        Assert.Equal(0.1 * 0.15200 / 0.375 * 25.4, plan.GetProperty("shrinkageMm").GetDouble(), 0.001);
        var suggested = await Answer("calc/bead-plan", Suggest);
        Assert.Equal(1, suggested.GetProperty("layers")[0].GetInt32());
        Assert.True(suggested.GetProperty("cap").GetProperty("fillFirst").GetBoolean());
    }

    [Fact]
    public async Task The_other_calls_answer_as_the_trade_has_it()
    {
        Assert.Equal(
            (8, 10),
            ((await Answer("calc/lens", Lens)).GetProperty("least").GetInt32(), (await Answer("calc/lens", Lens)).GetProperty("suggested").GetInt32())
        ); // ANSI Z49.1
        Assert.Equal("2026-01-10", (await Answer("calc/continuity", Continuity)).GetProperty("endsOn").GetString());
        Assert.Equal("gapClosed", (await Answer("causes", Causes))[0].GetProperty("id").GetString());
        Assert.Equal("accept", (await Answer("judge/nick-break", Nick)).GetProperty("verdict").GetString());
        Assert.Equal("accept", (await Answer("judge/fillet-break", FilletBreak)).GetProperty("verdict").GetString());
        Assert.Equal("accept", (await Answer("judge/macro", Macro)).GetProperty("verdict").GetString());
        var coverage = await Answer("coverage", Coverage);
        Assert.True(coverage.GetProperty("proved").GetBoolean());
        Assert.Equal(1, coverage.GetProperty("tests").GetArrayLength());
        Assert.Equal(7, (await client.GetFromJsonAsync<JsonElement>("/api/codes")).GetArrayLength());
    }

    /// <summary>Each call with one thing in it that cannot be: where it is, what it becomes, and the field that is named.</summary>
    public static TheoryData<string, string, string, string, string> Nonsense =>
        new()
        {
            { "calc/bead-plan", Plan, "thicknessMm", "-1", "thicknessMm" },
            { "calc/bead-plan", Plan, "thicknessMm", "\"3/8\"", "thicknessMm" },
            { "calc/bead-plan", Plan, "thicknessMm", "1e9", "thicknessMm" },
            { "calc/bead-plan", Plan, "bevelDegA", "95", "bevelDegA" },
            { "calc/bead-plan", Plan, "rootFaceMm", "12", "rootFaceMm" },
            { "calc/bead-plan", Plan, "form", "\"doubleV\"", "form" },
            { "calc/bead-plan", Plan, "form", "\"singleJ\"", "jRadiusMm" },
            { "calc/bead-plan", Plan, "form", "\"teeFillet\"", "legMm" },
            { "calc/bead-plan", Plan, "layers", "[0]", "layers" },
            { "calc/bead-plan", Plan, "layers", "[]", "layers" },
            { "calc/bead-plan", Plan, "layers", "null", "beadAreaMm2" },
            { "calc/bead-plan", Plan, "thicknessIn", "1", "thicknessIn" },
            { "calc/bead-plan", Suggest, "beadAreaMm2", "0.5", "beadAreaMm2" },
            { "calc/bead-plan", Suggest, "overlap", "1", "overlap" },
            { "calc/lens", Lens, "amps", "0", "amps" },
            { "calc/lens", Lens, "amps", "9000", "amps" },
            { "calc/lens", Lens, "process", "\"oxyfuel\"", "process" },
            { "calc/continuity", Continuity, "code", "\"aws-d17.1\"", "code" },
            { "calc/continuity", Continuity, "qualifiedOn", "\"yesterday\"", "qualifiedOn" },
            { "calc/continuity", Continuity, "lastUsedOn", "\"2020-01-01\"", "lastUsedOn" },
            { "calc/continuity", Continuity, "renewalYears", "5", "renewalYears" },
            { "causes", Causes, "kind", "\"ugliness\"", "kind" },
            { "causes", Causes, "facts", "null", "facts" },
            { "causes", Causes, "facts", "{\"stage\":\"root\",\"gapMm\":-1}", "facts" },
            { "causes", Causes, "facts", "{\"stage\":\"root\",\"amps\":90,\"cardAmps\":{\"min\":0,\"max\":0}}", "facts" },
            { "coverage", Coverage, "code", "\"aws-d17.1\"", "code" },
            { "coverage", Coverage, "aim", "null", "aim" },
            { "coverage", Coverage, "welds", "[]", "welds" },
            { "coverage", Coverage, "tests", "[\"Z9\"]", "tests" },
            { "coverage", Coverage, "costs", "{\"P1\":-4}", "costs" },
            { "judge/nick-break", Nick, "profile", "\"nobody\"", "profile" },
            { "judge/nick-break", Nick, "specimens", "[]", "specimens" },
            { "judge/nick-break", Nick, "specimens", "[{\"porePercent\":101}]", "specimens[0].porePercent" },
            { "judge/fillet-break", FilletBreak, "specimens", "[{\"inclusionsMm\":[-1]}]", "specimens[0].inclusionsMm[0]" },
            { "judge/macro", Macro, "specimens", "[{\"legAMm\":3}]", "specimens[0].fillet" },
            { "judge/macro", Macro, "specimens", "null", "specimens" },
        };

    [Theory]
    [MemberData(nameof(Nonsense))]
    public async Task Nonsense_is_refused_by_its_field(string path, string sound, string member, string value, string field)
    {
        var body = JsonNode.Parse(sound)!.AsObject();
        body[member] = JsonNode.Parse(value);
        Assert.Contains(field, await (await Post(path, body.ToJsonString())).Fields(400));
    }

    [Theory]
    [InlineData("position", "\"6G\"")] // a position of tests, not of ranges
    [InlineData("position", "\"PA\"")] // of another code
    [InlineData("diameterMm", "60")] // plate has none
    [InlineData("thicknessMaxMm", "4")]
    [InlineData("fNumber", "0")]
    public async Task A_weld_that_no_job_can_have_is_refused(string member, string value)
    {
        var body = JsonNode.Parse(Coverage)!.AsObject();
        body["welds"]![0]![member] = JsonNode.Parse(value);
        Assert.Contains(
            await (await Post("coverage", body.ToJsonString())).Fields(400),
            field => field.StartsWith("welds[0]", StringComparison.Ordinal)
        );
    }
}
