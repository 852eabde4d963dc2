using System.Globalization;
using System.Text.Json;
using System.Text.RegularExpressions;

namespace Gradus.Server.Hosting;

/// <summary>
/// What no field of any body may hold, also one that nobody reads: characters that are not seen or turn the direction of what stands behind them,
/// numbers beyond any measure of the trade, days outside of anybody's working life.
/// </summary>
public static partial class CleanBodies
{
    private const double MostNumber = 1e15; // a moment in milliseconds has thirteen digits
    private const int FirstYear = 1900;
    private const int LastYear = 2199;

    /// <summary>Refuses a JSON body with such a value, naming the field.</summary>
    public static void UseCleanBodies(this WebApplication app) =>
        app.Use(
            async (context, next) =>
            {
                if (context.Request.HasJsonContentType())
                {
                    var body = new MemoryStream();
                    context.Response.RegisterForDispose(body);
                    await context.Request.Body.CopyToAsync(body, context.RequestAborted);
                    if (Fault(body.GetBuffer().AsSpan(0, (int)body.Length)) is var (field, says))
                    {
                        await Refusal.Field(field, says).ToResult().ExecuteAsync(context);
                        return;
                    }

                    body.Position = 0;
                    context.Request.Body = body;
                }

                await next(context);
            }
        );

    /// <summary>The field that cannot be taken and what it takes; null when there is none. What is no JSON is for its reader to say.</summary>
    public static (string Field, string Says)? Fault(ReadOnlySpan<byte> json)
    {
        var reader = new Utf8JsonReader(json, new JsonReaderOptions { MaxDepth = 64 });
        var field = "body";
        try
        {
            while (reader.Read())
            {
                var says = reader.TokenType switch
                {
                    JsonTokenType.PropertyName => OfText(field = reader.GetString()!),
                    JsonTokenType.String => OfText(reader.GetString()!),
                    JsonTokenType.Number => OfNumber(reader.GetDouble()),
                    _ => null,
                };
                if (says is not null)
                {
                    return (OfText(field) is null ? field : "body", says);
                }
            }
        }
        catch (InvalidOperationException)
        {
            return (field, NotSeen); // half of a surrogate pair
        }
        catch (FormatException)
        {
            return (field, TooFar);
        }
        catch (JsonException)
        {
            return null;
        }

        return null;
    }

    /// <summary>What a text may not hold, in words; null when it holds none of it.</summary>
    public static string? OfText(string text) =>
        text.Any(IsNotSeen) ? NotSeen
        : Day().Match(text) is { Success: true } day && int.Parse(day.Groups[1].Value, CultureInfo.InvariantCulture) is < FirstYear or > LastYear
            ? $"Give a day of the years {FirstYear} to {LastYear}."
        : null;

    private const string NotSeen = "Give text without control characters and without marks that turn its direction.";

    private static string? OfNumber(double number) => Math.Abs(number) <= MostNumber ? null : TooFar;

    private const string TooFar = "Give a number of a size that can be measured.";

    /// <summary>
    /// Controls (C0, C1), marks of direction (Unicode Standard Annex 9, Bidi_Control), line and paragraph separators, and what is no character.
    /// Tabs and ends of lines may be.
    /// </summary>
    private static bool IsNotSeen(char one) =>
        one
            is (< ' ' and not ('\t' or '\n' or '\r'))
                or (>= '\u007f' and <= '\u009f')
                or '\u061c'
                or '\u200e'
                or '\u200f'
                or (>= '\u2028' and <= '\u202e')
                or (>= '\u2066' and <= '\u2069')
                or '\ufeff'
                or >= '\ufffe';

    [GeneratedRegex(@"^(\d{4})-\d{2}-\d{2}(T[\d:.]+(Z|[+-]\d{2}:\d{2})?)?$")]
    private static partial Regex Day();
}
