using System.Text.Json;
using System.Text.Json.Nodes;
using Gradus.Core;

namespace Gradus.Server.Hosting;

/// <summary>What was written, and whether this call wrote it (false: it was there already and nothing changed).</summary>
public sealed record Written(Guid Id, bool IsNew);

/// <summary>
/// The same id twice. With the same content it is one record, whoever sends it and how often; with other content it is refused, and the refusal
/// names what differs.
/// </summary>
public static class Twins
{
    private const int MostShown = 60;

    /// <summary>What to answer to a record whose id is taken.</summary>
    /// <param name="kept">The content that stands under the id, by the names that the request has.</param>
    /// <param name="sent">The content that was sent, by the same names.</param>
    public static Outcome<Written> Answer(Guid id, object kept, object sent)
    {
        var (before, now) = (Shape(kept), Shape(sent));
        var differing = before
            .Select(field => field.Key)
            .Union(now.Select(field => field.Key))
            .Where(name => !JsonNode.DeepEquals(before[name], now[name]))
            .ToDictionary(name => name, name => new[] { $"Recorded under this id already, as {Shown(before[name])}." });
        return differing.Count == 0
            ? new Written(id, false)
            : new Refusal(StatusCodes.Status409Conflict, "Something else is recorded under this id.", differing);
    }

    private static JsonObject Shape(object content) => JsonSerializer.SerializeToNode(content, content.GetType(), CoreJson.Options)!.AsObject();

    private static string Shown(JsonNode? value)
    {
        var text = value?.ToJsonString() ?? "nothing";
        return text.Length <= MostShown ? text : $"{text[..MostShown]}…";
    }
}
