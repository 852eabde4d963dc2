namespace Gradus.Server.Hosting;

/// <summary>What is typed, and how it is said.</summary>
public static class Texts
{
    /// <summary>What was said, trimmed; null when that is nothing.</summary>
    public static string? Said(this string? text) => string.IsNullOrWhiteSpace(text) ? null : text.Trim();

    /// <summary>With a capital, as a sentence begins.</summary>
    public static string Capital(this string text) => text.Length == 0 ? text : char.ToUpperInvariant(text[0]) + text[1..];
}
