using System.Text;
using System.Text.Json;
using Microsoft.AspNetCore.Diagnostics;
using Microsoft.AspNetCore.Http.Features;
using Microsoft.AspNetCore.Http.Json;
using Microsoft.AspNetCore.Http.Metadata;
using Microsoft.Extensions.Options;

namespace Gradus.Server.Hosting;

/// <summary>The one place where what went wrong becomes problem details (RFC 9457).</summary>
public static class Problems
{
    public static void Use(WebApplication app)
    {
        // A body that is larger than is read is not read to its end, and what is sent behind it on the same connection is lost: the sender is told
        // to take a new one.
        app.Use(
            (context, next) =>
            {
                if (context.Request.ContentLength > Limits.BodyBytes && HttpProtocol.IsHttp11(context.Request.Protocol))
                {
                    context.Response.OnStarting(() =>
                    {
                        if (context.Response.StatusCode >= StatusCodes.Status400BadRequest)
                        {
                            context.Response.Headers.Connection = "close";
                        }

                        return Task.CompletedTask;
                    });
                }

                return next(context);
            }
        );

        // A database file that is gone takes what is written to it along: nothing more is taken in or given out.
        app.Use(
            async (context, next) =>
            {
                var isAsked = context.Request.Path.StartsWithSegments("/api") && !context.Request.Path.StartsWithSegments("/api/health");
                if (isAsked && context.RequestServices.GetRequiredService<Storage>().Illness is { } illness)
                {
                    await StorageIll.Answer(StatusCodes.Status503ServiceUnavailable, illness).ToResult().ExecuteAsync(context);
                    return;
                }

                await next(context);
            }
        );
        app.UseExceptionHandler(
            new ExceptionHandlerOptions
            {
                ExceptionHandler = context => ToResult(context).ExecuteAsync(context),
                SuppressDiagnosticsCallback = context => context.Exception is BadHttpRequestException or RefusedException, // the sender's slip, not ours
            }
        );
        app.UseStatusCodePages();
    }

    /// <summary>Some refusals come from the framework itself, by their status alone: they name what they are about as well.</summary>
    public static void NameTheField(ProblemDetailsContext context)
    {
        var named = context.ProblemDetails.Status switch
        {
            StatusCodes.Status413PayloadTooLarge => ("body", TooLarge(context.HttpContext)),
            StatusCodes.Status415UnsupportedMediaType => ("body", Taken(context.HttpContext)),
            StatusCodes.Status429TooManyRequests => ("body", "Too many at once. Wait a minute."),
            _ => default((string Field, string Accepts)?),
        };
        if (named is { } one && !context.ProblemDetails.Extensions.ContainsKey("errors"))
        {
            context.ProblemDetails.Extensions["errors"] = new Dictionary<string, string[]> { [one.Field] = [one.Accepts] };
        }
    }

    // Photos, tables and cohorts may be larger than the rest.
    private static string TooLarge(HttpContext context) =>
        $"At most {(context.Features.Get<IHttpMaxRequestBodySizeFeature>()?.MaxRequestBodySize ?? Limits.BodyBytes) / 1024} kB.";

    private static string Taken(HttpContext context) => Send(context.GetEndpoint()?.Metadata.GetMetadata<IAcceptsMetadata>()?.ContentTypes ?? []);

    /// <summary>What a body has to be, in words.</summary>
    internal static string Send(IReadOnlyList<string> types) =>
        types.Count == 0 || types.Contains("application/json")
            ? "Send JSON, with content type application/json."
            : $"Send {string.Join(" or ", types)}, and say so in the content type.";

    private static IResult ToResult(HttpContext context) =>
        context.Features.Get<IExceptionHandlerFeature>()?.Error switch
        {
            RefusedException refused => refused.Refusal.ToResult(),
            BadHttpRequestException { StatusCode: StatusCodes.Status413PayloadTooLarge } => new Refusal(
                StatusCodes.Status413PayloadTooLarge,
                "That is too much at once.",
                new Dictionary<string, string[]> { ["body"] = [TooLarge(context)] }
            ).ToResult(),
            BadHttpRequestException { InnerException: JsonException error } => OfBody(error, context).ToResult(),
            BadHttpRequestException bad => new Refusal(
                bad.StatusCode,
                "The request cannot be read.",
                new Dictionary<string, string[]> { ["body"] = [WithoutTypeNames(bad, context)] }
            ).ToResult(),
            { } error when StorageIll.RefusalOf(error) is { } ill => ill.ToResult(),
            _ => TypedResults.Problem(
                statusCode: StatusCodes.Status500InternalServerError,
                title: "Something went wrong here. What was saved before is safe."
            ),
        };

    private static string WithoutTypeNames(BadHttpRequestException error, HttpContext context) =>
        error.StatusCode == StatusCodes.Status415UnsupportedMediaType ? Taken(context)
        : IsWithoutBody(context) ? "Send a JSON body."
        : "A value in the address cannot be read.";

    private static bool IsWithoutBody(HttpContext context) =>
        Accepted(context) is not null
        && (
            context.Request.Body is MemoryStream body
                ? Encoding.UTF8.GetString(body.GetBuffer(), 0, (int)body.Length).Trim() is "" or "null"
                : context.Request.ContentLength is null or 0
        );

    /// <summary>What the operation that was asked for takes as a body; null: none.</summary>
    private static IAcceptsMetadata? Accepted(HttpContext context) =>
        context.Features.Get<IExceptionHandlerFeature>()?.Endpoint?.Metadata.GetMetadata<IAcceptsMetadata>();

    /// <summary>Which field of a body cannot be taken, and what it takes.</summary>
    private static Refusal OfBody(JsonException error, HttpContext context)
    {
        if (error is ValueException)
        {
            return Refusal.Field(BodyFault.Place(error), error.Message);
        }

        var (field, says) = context.Request.Body is MemoryStream body
            ? BodyFault.Of(
                body.GetBuffer().AsMemory(0, (int)body.Length),
                Accepted(context)?.RequestType,
                error,
                context.RequestServices.GetRequiredService<IOptions<JsonOptions>>().Value.SerializerOptions
            )
            : ("body", "This is not well-formed JSON.");
        return Refusal.Field(field, says);
    }
}

/// <summary>Bounds on what is taken in and given out.</summary>
public static class Limits
{
    /// <summary>Largest request body.</summary>
    public const int BodyBytes = 256 * 1024;

    /// <summary>Most records of one kind on one coupon.</summary>
    public const int RecordsPerCoupon = 1000;

    /// <summary>Most rows of one page of a list.</summary>
    public const int PageRows = 100;

    /// <summary>Most students at once; those who left do not count.</summary>
    public const int ActiveStudents = 200;

    /// <summary>Most coupons in work that the floor reads, the latest first.</summary>
    public const int OpenCoupons = 3 * ActiveStudents;

    /// <summary>Of those who left, so many are listed, the latest first.</summary>
    public const int FormerStudents = 500;

    /// <summary>So many of those with a name alike are named.</summary>
    public const int AlikeShown = 5;

    /// <summary>How far back evidence is read: beyond it a coupon weighs under a thousandth.</summary>
    public const int EvidenceDays = 430;
}
