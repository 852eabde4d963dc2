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
        CoreJson.Options.GetJsonSchemaAsNode(
            typeof(TestTemplate),
            new JsonSchemaExporterOptions
            {
                TreatNullObliviousAsNonNullable = true,
                TransformSchemaNode = (context, schema) => context.TypeInfo.Type == typeof(HoldPoint) ? JsonNode.Parse(HoldPointShape)! : schema,
            }
        );

    // Written by hand, since a hold point is read from its bare title as well.
    private const string HoldPointShape = """
        {
          "anyOf": [
            {"type": "string"},
            {
              "type": "object",
              "properties": {
                "id": {"type": "string"},
                "title": {"type": "string"},
                "stage": {"enum": ["fitUp", "root", "hot", "fill", "cap", null]}
              },
              "required": ["id", "title", "stage"],
              "additionalProperties": false
            }
          ]
        }
        """;

    /// <summary>Reads a test from JSON and checks it.</summary>
    /// <exception cref="JsonException">The text does not have the shape of a test.</exception>
    /// <exception cref="InvalidOperationException">It has the shape, but does not hold together; the message says why.</exception>
    /// <param name="profiles">The acceptance profiles that there are; null for the shipped ones.</param>
    public static TestTemplate Parse(string json, IEnumerable<string>? profiles = null)
    {
        var test = JsonSerializer.Deserialize<TestTemplate>(json, CoreJson.Options) ?? throw new JsonException("Empty.");
        var errors = TemplateCheck.Errors(test, profiles ?? AcceptanceProfiles.Shipped.Keys);
        return Sound(test, "The test", errors.Count > 0 ? errors : TemplateCheck.PlanErrors(test));
    }

    // That the shipped ones can be planned in every way is shown by the tests; planning them all would slow down each start.
    private static TestTemplate Read(string name)
    {
        var test = CoreJson.ReadEmbedded<TestTemplate>(name);
        return Sound(test, name, TemplateCheck.Errors(test, AcceptanceProfiles.Shipped.Keys));
    }

    private static TestTemplate Sound(TestTemplate test, string name, IReadOnlyList<string> errors) =>
        errors.Count == 0 ? test : throw new InvalidOperationException($"{name}: {string.Join(" ", errors)}");
}
