using System.Text.Json;
using System.Text.Json.Nodes;
using Gradus.Core;
using Gradus.Core.Readiness;
using Microsoft.EntityFrameworkCore.Metadata.Builders;

namespace Gradus.Data;

/// <summary>
/// Values of the core that are kept as JSON in a column. They are written once and never changed in place, so a row of any release has to be
/// readable for as long as the school keeps its record: each shape has a version, written first in it, and the steps that bring an older one up
/// to date. What a newer program added is passed over, and what an older one did not know yet is left out.
/// </summary>
public static class Kept
{
    private const string Mark = "{\"v\":";

    private static readonly JsonSerializerOptions Writing = new(CoreJson.Options) { WriteIndented = false };

    private static readonly JsonSerializerOptions Reading = new(Writing)
    {
        UnmappedMemberHandling = System.Text.Json.Serialization.JsonUnmappedMemberHandling.Skip,
        RespectRequiredConstructorParameters = false,
        RespectNullableAnnotations = false,
    };

    /// <summary>A value as it is kept.</summary>
    /// <param name="version">The version of its shape.</param>
    public static string Write<T>(T value, int version)
    {
        var json = JsonSerializer.Serialize(value, Writing);
        return json.StartsWith('{') ? $"{Mark}{version}{(json.Length > 2 ? "," : "")}{json[1..]}" : json;
    }

    /// <summary>Reads a value that was kept.</summary>
    /// <param name="steps">Step n brings a shape of version n to version n + 1; rows from before there were versions are of version 0.</param>
    /// <exception cref="JsonException">It is not of this shape in any version.</exception>
    public static T Read<T>(string stored, params IReadOnlyList<Action<JsonObject>> steps)
    {
        var version = VersionOf(stored);
        if (version >= steps.Count)
        {
            return JsonSerializer.Deserialize<T>(stored, Reading) ?? throw new JsonException("A kept value is empty.");
        }

        var shape = JsonNode.Parse(stored) as JsonObject ?? throw new JsonException("A kept value has no shape.");
        for (var step = version; step < steps.Count; step++)
        {
            steps[step](shape);
        }

        return shape.Deserialize<T>(Reading) ?? throw new JsonException("A kept value is empty.");
    }

    private static int VersionOf(string stored)
    {
        if (!stored.StartsWith(Mark, StringComparison.Ordinal))
        {
            return 0;
        }

        var end = Mark.Length;
        while (end < stored.Length && char.IsAsciiDigit(stored[end]))
        {
            end++;
        }

        return int.Parse(stored.AsSpan(Mark.Length, end - Mark.Length), System.Globalization.CultureInfo.InvariantCulture);
    }

    /// <summary>A value as it is kept, in the version of its shape that stands.</summary>
    public static string Keep<T>(T value) => Write(value, KeptShapes.Of(typeof(T)).Count);

    /// <summary>Reads a value that was kept in whatever version of its shape.</summary>
    /// <exception cref="JsonException">It is not of this shape in any version.</exception>
    public static T Take<T>(string stored) => Read<T>(stored, KeptShapes.Of(typeof(T)));

    /// <summary>A list or a table as it is kept: it has no version.</summary>
    public static string KeepList<T>(T value) => JsonSerializer.Serialize(value, Writing);

    /// <summary>Reads a list or a table; its items are read as leniently.</summary>
    public static T TakeList<T>(string stored) => JsonSerializer.Deserialize<T>(stored, Reading)!;

    /// <summary>Keeps a value under a version of its shape.</summary>
    internal static PropertyBuilder<T> AsKept<T>(this PropertyBuilder<T> property) => property.HasConversion<KeptConverter<T>>();

    /// <summary>Keeps a list that is changed in place.</summary>
    internal static PropertyBuilder<List<T>> AsList<T>(this PropertyBuilder<List<T>> property) =>
        property.HasConversion<KeptListConverter<List<T>>, ListComparer<T>>();

    /// <summary>Keeps a list or a table that is written once and never changed in place.</summary>
    internal static PropertyBuilder<T> AsWritten<T>(this PropertyBuilder<T> property)
        where T : class? => property.HasConversion<KeptListConverter<T>, WrittenComparer<T>>();

    /// <summary>Keeps a table.</summary>
    internal static PropertyBuilder<Dictionary<TKey, TValue>> AsTable<TKey, TValue>(this PropertyBuilder<Dictionary<TKey, TValue>> property)
        where TKey : notnull => property.HasConversion<KeptListConverter<Dictionary<TKey, TValue>>, TableComparer<TKey, TValue>>();
}

/// <summary>The shapes that have changed since they were first kept, each with its steps.</summary>
internal static class KeptShapes
{
    /// <summary>The steps of a shape; it has as many versions as there are steps.</summary>
    public static IReadOnlyList<Action<JsonObject>> Of(Type shape) =>
        shape == typeof(Standing) ? Standings
        : shape == typeof(Advice) ? Advices
        : Marked;

    /// <summary>Version 1 only began to be marked: what was kept before has the same shape.</summary>
    private static readonly IReadOnlyList<Action<JsonObject>> Marked = [_ => { }];

    /// <summary>Version 2 tells the inside and the chance of passing everything; until a row is worked out anew, as much as was known.</summary>
    private static readonly IReadOnlyList<Action<JsonObject>> Standings =
    [
        .. Marked,
        shape => (shape["inside"], shape["passing"]) = (shape["whole"]?.DeepClone(), shape["whole"]?.DeepClone()),
    ];

    /// <summary>Version 2 says the advice in a few words and a sentence, where there were only reasons.</summary>
    private static readonly IReadOnlyList<Action<JsonObject>> Advices =
    [
        .. Marked,
        shape =>
        {
            shape["says"] = (string?)shape["kind"] switch
            {
                "testNow" => "Test now",
                "practise" => $"Practise {shape["coupons"]} more",
                _ => "Hold",
            };
            shape["why"] = string.Join(' ', (shape["reasons"] as JsonArray ?? []).Select(one => (string?)one));
            shape["weakest"] = "";
            foreach (var gate in (shape["gates"] as JsonArray ?? []).OfType<JsonObject>())
            {
                gate["lifts"] = "";
            }
        },
    ];
}
