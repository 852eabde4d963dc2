using System.Collections.Concurrent;
using System.Text.Json;
using System.Text.RegularExpressions;
using Microsoft.AspNetCore.OpenApi;
using Microsoft.AspNetCore.RateLimiting;
using Microsoft.OpenApi;

namespace Gradus.Server.Hosting;

/// <summary>How each operation is called in the OpenAPI document, what it is for, and what the house answers besides its own.</summary>
public static partial class ApiOperations
{
    private const string Problem = "ProblemDetails";
    private const string ProblemType = "application/problem+json";

    private static readonly Dictionary<string, string> Summaries = Read();
    private static readonly ConcurrentDictionary<string, string> Names = new();

    /// <summary>An operation by its method and path, as the document has it: without constraints of the route.</summary>
    public static string Named(string method, string path) => $"{method} {Names.GetOrAdd(path, one => Constraints().Replace(one, "}").TrimEnd('/'))}";

    /// <summary>What an operation is for; its name where that was never said.</summary>
    public static string SummaryOf(string operation) => Summaries.GetValueOrDefault(operation, operation);

    /// <summary>Where there are many of something, one of it.</summary>
    private static readonly Dictionary<string, string> Irregular = new() { ["people"] = "person", ["classes"] = "class" };

    /// <summary>A limit of so many a minute is answered by 429.</summary>
    public static Task StateLimits(OpenApiOperation operation, OpenApiOperationTransformerContext context, CancellationToken cancel)
    {
        if (context.Description.ActionDescriptor.EndpointMetadata.OfType<EnableRateLimitingAttribute>().Any())
        {
            Refuses(operation, StatusCodes.Status429TooManyRequests, context.Document);
        }

        return Task.CompletedTask;
    }

    /// <summary>Gives each operation its name and summary, and declares the refusals that come before its handler.</summary>
    public static Task Describe(OpenApiDocument document, OpenApiDocumentTransformerContext context, CancellationToken cancel)
    {
        foreach (var (path, item) in document.Paths)
        {
            foreach (var (method, operation) in item.Operations ?? [])
            {
                operation.OperationId = IdOf(method.Method, path);
                operation.Summary = Summaries.GetValueOrDefault($"{method.Method} {path}");
                if (operation.RequestBody is not null)
                {
                    Refuses(operation, StatusCodes.Status400BadRequest, document);
                    Refuses(operation, StatusCodes.Status413PayloadTooLarge, document);
                    Refuses(operation, StatusCodes.Status415UnsupportedMediaType, document);
                }

                if (operation.Parameters?.Any(one => one.In is ParameterLocation.Query or ParameterLocation.Path) == true)
                {
                    Refuses(operation, StatusCodes.Status400BadRequest, document);
                }

                if (operation.Parameters?.Any(one => one.In == ParameterLocation.Path) == true)
                {
                    Refuses(operation, StatusCodes.Status404NotFound, document);
                }

                if (path.StartsWith("/api/", StringComparison.Ordinal) && path != "/api/health/live")
                {
                    Refuses(operation, StatusCodes.Status503ServiceUnavailable, document);
                }
            }
        }

        return Task.CompletedTask;
    }

    /// <summary>Declares a refusal, unless the operation does so itself.</summary>
    public static void Refuses(OpenApiOperation operation, int status, OpenApiDocument? document)
    {
        var code = status.ToString(System.Globalization.CultureInfo.InvariantCulture);
        operation.Responses ??= [];
        operation.Responses.TryAdd(
            code,
            new OpenApiResponse
            {
                Description = Microsoft.AspNetCore.WebUtilities.ReasonPhrases.GetReasonPhrase(status),
                Content = new Dictionary<string, OpenApiMediaType>
                {
                    [ProblemType] = new() { Schema = new OpenApiSchemaReference(Problem, document) },
                },
            }
        );
    }

    /// <summary>The verb and what it is done to: <c>PUT /api/students/{id}/pin</c> is <c>putStudentPin</c>, and one of many is named as one.</summary>
    private static string IdOf(string method, string path)
    {
        var segments = path.Split('/', StringSplitOptions.RemoveEmptyEntries).Where(segment => segment != "api").ToList();
        var words = new List<string>();
        for (var at = 0; at < segments.Count; at++)
        {
            var segment = segments[at];
            if (segment.StartsWith('{'))
            {
                segment = segment.Contains('}', StringComparison.Ordinal) ? segment[(segment.IndexOf('}', StringComparison.Ordinal) + 1)..] : "";
            }
            else if (at + 1 < segments.Count && segments[at + 1].StartsWith('{'))
            {
                segment = OneOf(segment);
            }

            words.AddRange(segment.Split(['-', '.'], StringSplitOptions.RemoveEmptyEntries));
        }

        return method.ToLowerInvariant() + string.Concat(words.Select(Texts.Capital));
    }

    private static string OneOf(string many) =>
        Irregular.TryGetValue(many, out var one) ? one
        : many.EndsWith("ies", StringComparison.Ordinal) ? many[..^3] + "y"
        : many.TrimEnd('s');

    [GeneratedRegex(@":[^}/]*\}")]
    private static partial Regex Constraints();

    private static Dictionary<string, string> Read()
    {
        using var stream = typeof(ApiOperations).Assembly.GetManifestResourceStream("operations.json")!;
        return JsonSerializer.Deserialize<Dictionary<string, string>>(stream)!;
    }
}
