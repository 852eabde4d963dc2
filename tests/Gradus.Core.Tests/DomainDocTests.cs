namespace Gradus.Core.Tests;

/// <summary>The table of sources in <c>docs/domain.md</c> is made from the data that the rules read; <c>./gradus docs</c> writes it.</summary>
public class DomainDocTests
{
    private const string Begin = "<!-- generated: sources -->";
    private const string End = "<!-- end of generated -->";

    [Fact]
    public void The_table_of_sources_is_that_of_the_data()
    {
        var path = Path.Combine(Root(), "docs", "domain.md");
        var text = File.ReadAllText(path);
        var (from, to) = (text.IndexOf(Begin, StringComparison.Ordinal) + Begin.Length, text.IndexOf(End, StringComparison.Ordinal));
        Assert.True(from >= Begin.Length && to >= from, "The marks of the generated table are missing.");
        var fresh = text[..from] + "\n\n" + Table() + "\n" + text[to..];
        if (Environment.GetEnvironmentVariable("GRADUS_WRITE_DOCS") == "1")
        {
            File.WriteAllText(path, fresh);
        }
        else
        {
            Assert.True(text == fresh, "docs/domain.md is stale: run ./gradus docs.");
        }
    }

    [Fact]
    public void Every_value_has_a_source() =>
        Assert.All(Sources.All(), value => Assert.False(string.IsNullOrWhiteSpace(value.Source), $"{value.Where}: {value.What}"));

    [Fact]
    public void What_a_standard_is_named_for_is_marked_as_from_memory() => // the school checks it against its edition
        Assert.All(
            Sources.All().Where(value => value.Where.EndsWith("limits", StringComparison.Ordinal)),
            value => Assert.True(value.FromMemory, value.What)
        );

    private static string Table()
    {
        var lines = new List<string>();
        foreach (var part in Sources.All().GroupBy(value => value.Where))
        {
            lines.AddRange(["### " + part.Key, "", "| what | value | source | from memory |", "|---|---|---|---|"]);
            lines.AddRange(part.Select(one => $"| {Cell(one.What)} | {Cell(one.Value)} | {Cell(one.Source)} | {(one.FromMemory ? "yes" : "")} |"));
            lines.Add("");
        }

        return string.Join("\n", lines);
    }

    private static string Cell(string text) => text.Replace("|", "\\|", StringComparison.Ordinal);

    private static string Root()
    {
        var folder = new DirectoryInfo(AppContext.BaseDirectory);
        while (folder is not null && !File.Exists(Path.Combine(folder.FullName, "Gradus.slnx")))
        {
            folder = folder.Parent;
        }

        return folder?.FullName ?? throw new InvalidOperationException("The repository is not around the tests.");
    }
}
