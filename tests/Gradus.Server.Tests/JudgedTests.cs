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
