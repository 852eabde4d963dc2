using System.Text.Json;
using System.Text.Json.Nodes;
using System.Text.Json.Schema;
using Gradus.Core.Inspection;

namespace Gradus.Core.Library;

/// <summary>The tests that ship with the program, and the schema of their files.</summary>
public static class TestLibrary
{
    /// <summary>Every shipped test, by id.</summary>
    /// <exception cref="InvalidOperationException">A shipped file does not hold together.</exception>
    public static IReadOnlyDictionary<string, TestTemplate> Shipped { get; } =
        CoreJson.EmbeddedIn("Library/tests/").Select(Read).ToDictionary(template => template.Id, StringComparer.Ordinal);

    /// <summary>The JSON Schema of a test file, made from the records that read it.</summary>
    public static JsonNode Schema() =>
        CoreJson.Options.GetJsonSchemaAsNode(typeof(TestTemplate), new JsonSchemaExporterOptions { TreatNullObliviousAsNonNullable = true });

    /// <summary>Reads a test from JSON and checks it.</summary>
    /// <exception cref="JsonException">The text does not have the shape of a test.</exception>
    /// <exception cref="InvalidOperationException">It has the shape, but does not hold together; the message says why.</exception>
    /// <param name="profiles">The acceptance profiles that there are; null for the shipped ones.</param>
    public static TestTemplate Parse(string json, IEnumerable<string>? profiles = null) =>
        Checked(
            JsonSerializer.Deserialize<TestTemplate>(json, CoreJson.Options) ?? throw new JsonException("Empty."),
            "The test",
            profiles ?? AcceptanceProfiles.Shipped.Keys
        );

    private static TestTemplate Read(string name) => Checked(CoreJson.ReadEmbedded<TestTemplate>(name), name, AcceptanceProfiles.Shipped.Keys);

    private static TestTemplate Checked(TestTemplate template, string name, IEnumerable<string> profiles)
    {
        var errors = TemplateCheck.Errors(template, profiles);
        return errors.Count == 0 ? template : throw new InvalidOperationException($"{name}: {string.Join(" ", errors)}");
    }
}
