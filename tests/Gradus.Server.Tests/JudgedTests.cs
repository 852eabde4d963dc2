using System.Net.Http.Json;
using System.Text.Json;

namespace Gradus.Server.Tests;

/// <summary>What the judges say, as the contract has it.</summary>
public sealed class JudgedTests(CoveredTests.Running running) : IClassFixture<CoveredTests.Running>
{
    // Each with its clause and how sure it is; from memory.
    private static readonly JsonElement[] Cases =
    [
        .. JsonDocument.Parse(File.ReadAllText(Path.Combine(AppContext.BaseDirectory, "samples", "judge.json"))).RootElement.EnumerateArray(),
    ];

    public static TheoryData<int> All => [.. Enumerable.Range(0, Cases.Length)];

    /// <summary>ASME IX QW-194 sets no limit on undercut by eye (88 %), API 1104 none on overlap that it names (88 %).</summary>
    [Theory]
    [InlineData("asme-ix", "undercut", "accept", true)]
    [InlineData("api-1104", "overlap", "cannot-judge", false)]
    [InlineData("aws-d1.1", "undercut", "accept", false)]
    public async Task No_limit_is_said_and_not_taken_for_a_missing_rule(string profile, string kind, string verdict, bool noLimit)
    {
        var body = new
        {
            profile,
            product = "pipe",
            thicknessMm = 10,
            openRoot = true,
            findings = new[] { new { kind, depthMm = 0.5 } },
        };
        var answer = await (await running.Client.PostAsJsonAsync("/api/judge/visual", body)).Content.ReadFromJsonAsync<JsonElement>();
        Assert.Equal((verdict, noLimit), (answer.GetProperty("verdict").GetString(), answer.GetProperty("noLimit").GetBoolean()));
        var reason = answer.GetProperty(verdict == "accept" ? "passed" : "reasons")[0];
        Assert.Equal(noLimit, reason.GetProperty("noLimit").GetBoolean());
        Assert.NotEqual("", reason.GetProperty("rule").GetString());
    }

    [Theory]
    [MemberData(nameof(All))]
    public async Task A_case_is_judged_as_its_clause_has_it(int index)
    {
        var (path, body, want) = (Cases[index].GetProperty("path").GetString(), Cases[index].GetProperty("body"), Cases[index].GetProperty("want"));
        var answer = await running.Client.PostAsJsonAsync(path, body);
        var text = await answer.Content.ReadAsStringAsync();
        Assert.True(answer.IsSuccessStatusCode, text);
        using var read = JsonDocument.Parse(text);
        Assert.True(
            want.GetProperty("verdict").GetString() == read.RootElement.GetProperty("verdict").GetString(),
            $"{Cases[index].GetProperty("clause")}: {text}"
        );
    }
}
