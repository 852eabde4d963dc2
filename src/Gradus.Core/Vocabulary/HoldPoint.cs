using System.Text.Json;
using System.Text.Json.Serialization;

namespace Gradus.Core.Vocabulary;

/// <summary>A place in the work where the instructor must look before it goes on.</summary>
/// <param name="Id">Short and stable: <c>root</c>.</param>
/// <param name="Title">As it is said: <c>Before the cap</c>.</param>
/// <param name="Stage">
/// Where it stands in the work: <see cref="Stage.FitUp"/> before the first pass, <see cref="Stage.Root"/> between the root and what comes over it,
/// a later stage before its first pass; null when it is called when it comes.
/// </param>
[JsonConverter(typeof(HoldPointJson))]
public sealed record HoldPoint(string Id, string Title, Stage? Stage);

/// <summary>Reads a hold point as it is written now, or as its bare title, as tests were kept before hold points had an id.</summary>
public sealed class HoldPointJson : JsonConverter<HoldPoint>
{
    private static readonly Dictionary<string, (string Id, Stage? Stage)> Titles = new(StringComparer.Ordinal)
    {
        ["Fit-up"] = ("fitUp", Stage.FitUp),
        ["Fit-up and position"] = ("fitUp", Stage.FitUp),
        ["Fit-up measured by the instructor"] = ("fitUp", Stage.FitUp),
        ["Position before the start"] = ("position", Stage.FitUp),
        ["Fixture and cleaning"] = ("fitUp", Stage.FitUp),
        ["Root"] = ("root", Stage.Root),
        ["Before the cap"] = ("cap", Stage.Cap),
    };

    /// <inheritdoc/>
    public override HoldPoint Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options)
    {
        if (reader.TokenType == JsonTokenType.String)
        {
            var title = reader.GetString()!;
            var (id, stage) = Titles.GetValueOrDefault(title, (title, null));
            return new HoldPoint(id, title, stage);
        }

        var read = JsonSerializer.Deserialize<Written>(ref reader, options) ?? throw new JsonException("A hold point is empty.");
        return new HoldPoint(read.Id, read.Title, read.Stage);
    }

    /// <inheritdoc/>
    public override void Write(Utf8JsonWriter writer, HoldPoint value, JsonSerializerOptions options) =>
        JsonSerializer.Serialize(writer, new Written(value.Id, value.Title, value.Stage), options);

    private sealed record Written(string Id, string Title, Stage? Stage);
}
