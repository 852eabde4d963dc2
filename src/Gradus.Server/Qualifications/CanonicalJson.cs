using System.Text;
using System.Text.Encodings.Web;
using System.Text.Json;
using System.Text.Json.Nodes;
using Gradus.Core;

namespace Gradus.Server.Qualifications;

/// <summary>
/// JSON in one form: members in ordinal order, no spaces, no escapes that are not needed. What is the same is written the same, letter by letter, so
/// that a signature over it holds wherever it was copied to (after RFC 8785, but for numbers: they stand as they were first written).
/// </summary>
public static class CanonicalJson
{
    private static readonly JsonSerializerOptions Plain = new() { Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping };
    private static readonly JsonWriterOptions Bare = new() { Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping };

    /// <summary>A value in that form.</summary>
    public static string Of<T>(T value) => Of(JsonSerializer.SerializeToNode(value, CoreJson.Options));

    /// <summary>A document in that form.</summary>
    public static string Of(JsonNode? node)
    {
        using var stream = new MemoryStream();
        using (var writer = new Utf8JsonWriter(stream, Bare))
        {
            Write(writer, node);
        }

        return Encoding.UTF8.GetString(stream.ToArray());
    }

    private static void Write(Utf8JsonWriter writer, JsonNode? node)
    {
        switch (node)
        {
            case JsonObject members:
                writer.WriteStartObject();
                foreach (var (name, value) in members.OrderBy(member => member.Key, StringComparer.Ordinal))
                {
                    writer.WritePropertyName(name);
                    Write(writer, value);
                }

                writer.WriteEndObject();
                break;
            case JsonArray items:
                writer.WriteStartArray();
                foreach (var item in items)
                {
                    Write(writer, item);
                }

                writer.WriteEndArray();
                break;
            case null:
                writer.WriteNullValue();
                break;
            case JsonValue value when value.GetValueKind() == JsonValueKind.String:
                writer.WriteStringValue(value.GetValue<string>());
                break;
            default:
                writer.WriteRawValue(node.ToJsonString(Plain));
                break;
        }
    }
}
