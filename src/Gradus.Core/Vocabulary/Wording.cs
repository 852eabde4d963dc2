using System.Collections.Frozen;
using System.Globalization;

namespace Gradus.Core.Vocabulary;

/// <summary>
/// A language that what is said to a student can be said in. Every sentence is written in English where it belongs, and that is its key; a file for
/// each further language says it in that language, so a new one needs only a file.
/// </summary>
public sealed class Wording
{
    /// <summary>The language that everything is written in.</summary>
    public const string Source = "en";

    /// <summary>Marks a sentence that there is only in English.</summary>
    public const string OnlyEnglish = " [en]";

    private static readonly FrozenDictionary<string, Wording> Known = CoreJson
        .EmbeddedIn("Vocabulary/wording/")
        .Select(CoreJson.ReadEmbedded<WordingFile>)
        .Select(file => new Wording(file.Language, file.Name, file.Says.ToFrozenDictionary(StringComparer.Ordinal), null))
        .Append(new Wording(Source, "English", null, null))
        .ToFrozenDictionary(one => one.Language, StringComparer.Ordinal);

    private readonly FrozenDictionary<string, string>? says;
    private readonly IReadOnlyDictionary<string, SchoolWords>? school;

    private Wording(string language, string name, FrozenDictionary<string, string>? says, IReadOnlyDictionary<string, SchoolWords>? school) =>
        (Language, Name, this.says, this.school) = (language, name, says, school);

    /// <summary>By ISO 639-1: <c>es</c>.</summary>
    public string Language { get; }

    /// <summary>As those who speak it call it.</summary>
    public string Name { get; }

    /// <summary>The languages there are, the source first.</summary>
    public static IReadOnlyList<Wording> All { get; } =
    [.. Known.Values.OrderBy(one => one.Language != Source).ThenBy(one => one.Language, StringComparer.Ordinal)];

    /// <summary>English, as it ships.</summary>
    public static Wording English => Known[Source];

    /// <summary>A language by its letters; English where there is no such one.</summary>
    public static Wording In(string? language) => Known.GetValueOrDefault(language ?? Source) ?? English;

    /// <summary>The same language with what the school says in its own words, by the English sentence that it stands for.</summary>
    public Wording With(IReadOnlyDictionary<string, SchoolWords> words) => words.Count == 0 ? this : new(Language, Name, says, words);

    /// <summary>True when a sentence is said in this language as it ships.</summary>
    public bool Knows(string english) => says is null || says.ContainsKey(english);

    /// <summary>A sentence in this language; in English and marked where it is not to be had.</summary>
    public string Say(string english) =>
        school?.GetValueOrDefault(english) is { } own
            ? own.In.GetValueOrDefault(Language) ?? (Language == Source ? english : Marked(own.In.GetValueOrDefault(Source) ?? english))
        : says is null ? english
        : says.GetValueOrDefault(english) ?? Marked(english);

    /// <summary>A sentence with what its braces stand for put in: <c>{seconds} s an inch</c>.</summary>
    public string Say(string english, params ReadOnlySpan<(string Name, object Value)> filled)
    {
        var text = Say(english);
        foreach (var (name, value) in filled)
        {
            text = text.Replace("{" + name + "}", Convert.ToString(value, CultureInfo.InvariantCulture), StringComparison.Ordinal);
        }

        return text;
    }

    private static string Marked(string english) => english + OnlyEnglish;

    private sealed record WordingFile(string Language, string Name, IReadOnlyDictionary<string, string> Says);
}

/// <summary>A sentence in the school's own words, by language.</summary>
public sealed record SchoolWords(IReadOnlyDictionary<string, string> In);
