using System.Text.Json;
using System.Text.Json.Serialization;

namespace Gradus.Core;

/// <summary>How the core's own data files are read: camelCase, enums by name, nothing unknown, nothing required left out.</summary>
public static class CoreJson
{
    /// <summary>The options for templates, profiles and tables.</summary>
    public static JsonSerializerOptions Options { get; } = Build();

    /// <summary>The names of an enumeration as they stand in JSON, one after another, for whoever has to choose one.</summary>
    public static string Names<TEnum>()
        where TEnum : struct, Enum =>
        string.Join(", ", Enum.GetValues<TEnum>().Select(value => JsonNamingPolicy.CamelCase.ConvertName(value.ToString())));

    /// <summary>Reads a data file that ships inside the assembly.</summary>
    /// <exception cref="InvalidOperationException">The file is missing or does not hold a <typeparamref name="T"/>.</exception>
    internal static T ReadEmbedded<T>(string name)
    {
        using var stream =
            typeof(CoreJson).Assembly.GetManifestResourceStream(name) ?? throw new InvalidOperationException($"The data file {name} is missing.");
        return JsonSerializer.Deserialize<T>(stream, Options) ?? throw new InvalidOperationException($"The data file {name} is empty.");
    }

    /// <summary>The names of the data files in a folder of the core.</summary>
    internal static IEnumerable<string> EmbeddedIn(string folder) =>
        typeof(CoreJson)
            .Assembly.GetManifestResourceNames()
            .Where(name => name.StartsWith(folder, StringComparison.Ordinal))
            .Order(StringComparer.Ordinal);

    private static JsonSerializerOptions Build()
    {
        var options = new JsonSerializerOptions(JsonSerializerDefaults.Web)
        {
            NumberHandling = JsonNumberHandling.Strict,
            UnmappedMemberHandling = JsonUnmappedMemberHandling.Disallow,
            RespectNullableAnnotations = true,
            RespectRequiredConstructorParameters = true,
            WriteIndented = true,
        };
        options.Converters.Add(new JsonStringEnumConverter(JsonNamingPolicy.CamelCase, allowIntegerValues: false));
        options.MakeReadOnly(populateMissingResolver: true);
        return options;
    }
}
