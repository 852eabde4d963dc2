using System.Text.Json;
using System.Text.Json.Nodes;
using Gradus.Core;
using Gradus.Core.Inspection;
using Gradus.Core.Library;

namespace Gradus.Server.Library;

/// <summary>Something in which a school's own version is not as the program ships it.</summary>
/// <param name="Where">The part, in words.</param>
/// <param name="Yours">As the school has it; null where it has nothing there.</param>
/// <param name="Shipped">As it ships; null where it has nothing there.</param>
public sealed record Difference(string Where, string? Yours, string? Shipped);

/// <summary>What the program ships in place of a school's own version, for a lead to take or leave.</summary>
/// <param name="Total">How many differences there are; the first of them are told.</param>
public sealed record Offer(int Total, IReadOnlyList<Difference> Differences);

/// <summary>Compares what a school made its own with what ships.</summary>
public static class Offers
{
    private const int Told = 60;
    private const int MostText = 200;
    private static readonly HashSet<string> Own = ["id", "version", "name", "note", "basedOn", "limitsEntered", "title"];

    /// <summary>What ships for a test, when the school has its own version of it and that is another.</summary>
    public static Offer? Of(TestTemplate test, bool shipped) =>
        shipped || !TestLibrary.Shipped.TryGetValue(test.Id, out var ships) ? null : Between(test, ships);

    /// <summary>What ships for the profile that a school's copy began from, when that is another.</summary>
    public static Offer? Of(AcceptanceProfile profile) =>
        profile.BasedOn is { } basis && AcceptanceProfiles.Shipped.TryGetValue(basis, out var ships) ? Between(profile, ships) : null;

    /// <summary>In what a test that is being changed is not as the school has it now; null when in nothing.</summary>
    public static Offer? Changes(TestTemplate draft, TestTemplate now) => Between(draft, now);

    private static Offer? Between<T>(T yours, T ships)
    {
        var found = new List<Difference>();
        Compare("", JsonSerializer.SerializeToNode(yours, CoreJson.Options), JsonSerializer.SerializeToNode(ships, CoreJson.Options), found);
        return found.Count == 0 ? null : new Offer(found.Count, [.. found.Take(Told)]);
    }

    private static void Compare(string where, JsonNode? yours, JsonNode? ships, List<Difference> found)
    {
        if (JsonNode.DeepEquals(yours, ships))
        {
            return;
        }

        switch (yours, ships)
        {
            case (JsonObject mine, JsonObject theirs):
                foreach (
                    var key in mine.Select(one => one.Key).Union(theirs.Select(one => one.Key)).Where(key => where.Length > 0 || !Own.Contains(key))
                )
                {
                    Compare($"{where} {Words(key)}".Trim(), mine[key], theirs[key], found);
                }

                break;
            case (JsonArray mine, JsonArray theirs):
                // By what stands in it and not by its place: one more at the front is one difference.
                var (left, right) = (mine.Select(Text).ToList(), theirs.Select(Text).ToList());
                found.AddRange(
                    mine.Where(one => !theirs.Any(other => JsonNode.DeepEquals(one, other)))
                        .Select(one => new Difference(where, Cut(Text(one)), null))
                );
                found.AddRange(
                    theirs
                        .Where(one => !mine.Any(other => JsonNode.DeepEquals(one, other)))
                        .Select(one => new Difference(where, null, Cut(Text(one))))
                );
                if (left.Order().SequenceEqual(right.Order()) && !left.SequenceEqual(right))
                {
                    found.Add(new Difference(where, "in another order", null));
                }

                break;
            default:
                found.Add(new Difference(where, yours is null ? null : Cut(Text(yours)), ships is null ? null : Cut(Text(ships))));
                break;
        }
    }

    /// <summary>A value in words: of a rule what it says, of a thing its parts.</summary>
    private static string Text(JsonNode? node) =>
        node switch
        {
            null => "nothing",
            JsonObject rule when rule["rule"] is JsonValue says => says.ToString(),
            JsonObject thing => string.Join(", ", thing.Where(one => one.Value is not null).Select(one => $"{Words(one.Key)} {Text(one.Value)}")),
            JsonArray many => string.Join(" and ", many.Select(Text)),
            _ => node.ToString(),
        };

    private static string Cut(string text) => text.Length <= MostText ? text : text[..(MostText - 1)] + "…";

    private static string Words(string name)
    {
        var spaced = string.Concat(name.Select(letter => char.IsUpper(letter) ? $" {char.ToLowerInvariant(letter)}" : $"{letter}"));
        return spaced.EndsWith(" mm", StringComparison.Ordinal) ? $"{spaced[..^3]} (mm)" : spaced;
    }
}
