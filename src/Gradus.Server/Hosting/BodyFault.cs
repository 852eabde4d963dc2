using System.Text.Json;
using System.Text.Json.Serialization.Metadata;

namespace Gradus.Server.Hosting;

/// <summary>What a reader of ours says of a value that it cannot take; the message is for whoever sent it.</summary>
public sealed class ValueException(string says) : JsonException(says);

/// <summary>
/// What does not fit in a body, found by holding it against the types of its contract: a field that there is none of, one that is missing, a value of
/// another kind. The reader's own words, made for programmers, are not needed for it.
/// </summary>
public static class BodyFault
{
    private const string NoSuchField = "There is no such field here. The OpenAPI document at /openapi/v1.json names those that there are.";
    private const string Missing = "A required field is missing.";
    private const string OtherKind = "The value is not of the kind that belongs here. Numbers are plain, names are spelled as in /openapi/v1.json.";

    /// <summary>The field and what it takes.</summary>
    /// <param name="body">As it was sent.</param>
    /// <param name="type">What it should be; null where that is not known.</param>
    /// <param name="error">What the reader made of it: says how far it came.</param>
    public static (string Field, string Says) Of(ReadOnlyMemory<byte> body, Type? type, JsonException error, JsonSerializerOptions options)
    {
        try
        {
            using var sent = JsonDocument.Parse(body);
            return type is null ? ("body", OtherKind) : Of(sent.RootElement, options.GetTypeInfo(type), "") ?? ("body", OtherKind);
        }
        catch (JsonException)
        {
            return (Place(error), "This is not well-formed JSON.");
        }
    }

    /// <summary>The field at which the reader stopped; the body where it names none.</summary>
    public static string Place(JsonException error) => error.Path?.TrimStart('$').TrimStart('.') is { Length: > 0 } path ? path : "body";

    private static (string Field, string Says)? Of(JsonElement sent, JsonTypeInfo contract, string path)
    {
        var (field, isNull) = (path.Length == 0 ? "body" : path, sent.ValueKind == JsonValueKind.Null);
        switch (contract.Kind)
        {
            case JsonTypeInfoKind.Object when contract.PolymorphismOptions is null:
                return isNull ? null
                    : sent.ValueKind != JsonValueKind.Object ? (field, OtherKind)
                    : OfMembers(sent, contract, path);
            case JsonTypeInfoKind.Enumerable when contract.ElementType is { } element:
                return isNull ? null
                    : sent.ValueKind != JsonValueKind.Array ? (field, OtherKind)
                    : First(sent.EnumerateArray().Select((one, at) => Of(one, contract.Options.GetTypeInfo(element), $"{path}[{at}]")));
            case JsonTypeInfoKind.Dictionary when contract.ElementType is { } element:
                return isNull ? null
                    : sent.ValueKind != JsonValueKind.Object ? (field, OtherKind)
                    : First(sent.EnumerateObject().Select(one => Of(one.Value, contract.Options.GetTypeInfo(element), In(path, one.Name))));
            default:
                return OfValue(sent, contract, field);
        }
    }

    private static (string Field, string Says)? OfMembers(JsonElement sent, JsonTypeInfo contract, string path)
    {
        var comparer = contract.Options.PropertyNameCaseInsensitive ? StringComparer.OrdinalIgnoreCase : StringComparer.Ordinal;
        var members = contract.Properties.Where(one => one.Set is not null || one.AssociatedParameter is not null).ToList();
        foreach (var one in sent.EnumerateObject())
        {
            if (members.Find(member => comparer.Equals(member.Name, one.Name)) is not { } member)
            {
                return (In(path, one.Name), NoSuchField);
            }

            // What a converter of its own reads, that converter tells.
            if (member.CustomConverter is null && Of(one.Value, contract.Options.GetTypeInfo(member.PropertyType), In(path, one.Name)) is { } fault)
            {
                return fault;
            }
        }

        return members.Find(member => member.IsRequired && !sent.EnumerateObject().Any(one => comparer.Equals(member.Name, one.Name))) is { } missing
            ? (In(path, missing.Name), Missing)
            : null;
    }

    private static (string Field, string Says)? OfValue(JsonElement sent, JsonTypeInfo contract, string field)
    {
        try
        {
            sent.Deserialize(contract);
            return null;
        }
        catch (ValueException said)
        {
            return (field, said.Message);
        }
        catch (Exception error) when (error is JsonException or NotSupportedException or InvalidOperationException)
        {
            var type = Nullable.GetUnderlyingType(contract.Type) ?? contract.Type;
            return type.IsEnum
                ? (field, $"Give one of: {string.Join(", ", Enum.GetNames(type).Select(JsonNamingPolicy.CamelCase.ConvertName))}.")
                : (field, OtherKind);
        }
    }

    private static (string Field, string Says)? First(IEnumerable<(string Field, string Says)?> faults) =>
        faults.FirstOrDefault(one => one is not null);

    private static string In(string path, string name) => path.Length == 0 ? name : $"{path}.{name}";
}
