using Microsoft.AspNetCore.Http.Metadata;
using Microsoft.AspNetCore.Routing.Template;
using Microsoft.Net.Http.Headers;

namespace Gradus.Server.Hosting;

/// <summary>
/// What is said where no operation answers: that there is no such path, that it is not done by this method, or that its body is of another kind.
/// A path that takes everything would hide the last two from the framework.
/// </summary>
public static class Unmatched
{
    public static void MapUnmatched(this WebApplication app) => app.Map("/api/{**rest}", Answer).ExcludeFromDescription();

    private static IResult Answer(HttpContext context, EndpointDataSource endpoints)
    {
        var there = endpoints.Endpoints.OfType<RouteEndpoint>().Where(one => IsUnder(one, context.Request.Path)).ToList();
        var byMethod = there.Where(one => Methods(one).Contains(context.Request.Method, StringComparer.OrdinalIgnoreCase)).ToList();
        if (there.Count > 0 && byMethod.Count == 0)
        {
            var allowed = there.SelectMany(Methods).Distinct().Order(StringComparer.Ordinal).ToList();
            context.Response.Headers.Allow = string.Join(", ", allowed);
            return Refusal
                .Of(StatusCodes.Status405MethodNotAllowed, "That is not done here.", "method", $"One of: {string.Join(", ", allowed)}.")
                .ToResult();
        }

        return byMethod.Select(Taken).FirstOrDefault(types => types.Count > 0 && !IsOneOf(types, context.Request.ContentType)) is { } takes
            ? Refusal.Of(StatusCodes.Status415UnsupportedMediaType, "That is sent as something else.", "body", Problems.Send(takes)).ToResult()
            : Refusal.NotFound("path", "A path of the OpenAPI document at /openapi/v1.json.").ToResult();
    }

    private static bool IsUnder(RouteEndpoint endpoint, PathString path) =>
        !endpoint.RoutePattern.Parameters.Any(one => one.IsCatchAll)
        && new TemplateMatcher(new RouteTemplate(endpoint.RoutePattern), []).TryMatch(path, []);

    private static IReadOnlyList<string> Methods(RouteEndpoint endpoint) => endpoint.Metadata.GetMetadata<IHttpMethodMetadata>()?.HttpMethods ?? [];

    private static IReadOnlyList<string> Taken(RouteEndpoint endpoint) => endpoint.Metadata.GetMetadata<IAcceptsMetadata>()?.ContentTypes ?? [];

    private static bool IsOneOf(IReadOnlyList<string> types, string? sent) =>
        MediaTypeHeaderValue.TryParse(sent, out var type) && types.Any(one => type.IsSubsetOf(MediaTypeHeaderValue.Parse(one)));
}
