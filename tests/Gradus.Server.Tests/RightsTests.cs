using System.Net.Http.Headers;
using System.Net.Http.Json;
using System.Text.Json;
using Gradus.Server.Accounts;
using Microsoft.AspNetCore.Routing;
using Microsoft.Extensions.DependencyInjection;

namespace Gradus.Server.Tests;

/// <summary>An operation of the program.</summary>
/// <param name="Type">What it takes, when that is not JSON.</param>
internal sealed record Operation(string Method, string Path, string? Type);

/// <summary>Who may do what: the table against the program and the OpenAPI document, and every operation tried by everybody.</summary>
public sealed class RightsTests : IAsyncDisposable
{
    private readonly RunningServer server = new();

    public ValueTask DisposeAsync() => server.DisposeAsync();

    /// <summary>Every operation that the program answers.</summary>
    internal static List<Operation> Operations(RunningServer server)
    {
        server.CreateClient().Dispose();
        return
        [
            .. server
                .Services.GetRequiredService<IEnumerable<EndpointDataSource>>()
                .SelectMany(source => source.Endpoints)
                .OfType<RouteEndpoint>()
                .Where(endpoint => !endpoint.RoutePattern.RawText!.Contains("{*", StringComparison.Ordinal))
                .SelectMany(endpoint =>
                    (endpoint.Metadata.GetMetadata<HttpMethodMetadata>()?.HttpMethods ?? ["GET"]).Select(method => new Operation(
                        method,
                        endpoint.RoutePattern.RawText!,
                        endpoint.Metadata.GetMetadata<Microsoft.AspNetCore.Http.Metadata.IAcceptsMetadata>()?.ContentTypes[0]
                    ))
                ),
        ];
    }

    /// <summary>What an operation answers to somebody, with ids that are nobody's unless others are given.</summary>
    internal static async Task<int> Ask(HttpClient client, Operation operation, Guid? student = null, Guid? coupon = null)
    {
        var path = string.Join(
            '/',
            operation
                .Path.Split('/')
                .Select(part =>
                    !part.StartsWith('{') ? part
                    : part.Contains("couponId", StringComparison.Ordinal) ? $"{coupon ?? Guid.Empty}"
                    : part.Contains("studentId", StringComparison.Ordinal) ? $"{student ?? Guid.Empty}"
                    : part.StartsWith("{id:guid", StringComparison.Ordinal) && operation.Path.StartsWith("/api/students/", StringComparison.Ordinal)
                        ? $"{student ?? Guid.Empty}"
                    : part.Contains("guid", StringComparison.Ordinal) ? $"{Guid.Empty}"
                    : part.Contains("monday", StringComparison.Ordinal) ? "2031-03-03"
                    : "x"
                )
        );
        using var request = new HttpRequestMessage(new HttpMethod(operation.Method), path);
        if (operation.Method != "GET")
        {
            request.Content = new StringContent("{}");
            request.Content.Headers.ContentType = new MediaTypeHeaderValue(operation.Type ?? "application/json");
        }

        using var answer = await client.SendAsync(request, HttpCompletionOption.ResponseHeadersRead);
        return (int)answer.StatusCode;
    }

    [Fact]
    public async Task The_table_names_every_operation_and_no_other()
    {
        var client = server.CreateClient();
        var document = await client.GetFromJsonAsync<JsonElement>("/openapi/v1.json");
        var stated = document
            .GetProperty("paths")
            .EnumerateObject()
            .SelectMany(path => path.Value.EnumerateObject().Select(one => (Key: $"{one.Name.ToUpperInvariant()} {path.Name}", Says: one.Value)))
            .ToList();
        Assert.True(stated.Count > 130);
        Assert.Empty(stated.Select(one => one.Key).Except(Rights.Operations));
        Assert.Empty(
            Rights
                .Operations.Except(stated.Select(one => one.Key))
                .Except([
                    "GET /openapi/{documentName}.json",
                    "GET /api/schemas/test-template",
                    "GET /api/schemas/qualification-record",
                    "GET /authority.crt",
                    "GET /network.json",
                    "GET /api/pipe-sizes/{inches}/{parts}/{schedule}",
                ])
        );

        // The document says it, too, in words that are those of the table.
        Assert.All(stated, one => Assert.Contains("May: ", one.Says.GetProperty("description").GetString(), StringComparison.Ordinal));
        Assert.Contains(
            "May: lead.",
            stated.Single(one => one.Key == "PUT /api/profiles/{id}").Says.GetProperty("description").GetString(),
            StringComparison.Ordinal
        );
        Assert.DoesNotContain(Operations(server), one => Rights.Of(one.Method, one.Path) is null);
    }

    [Fact]
    public async Task Every_operation_is_refused_to_everybody_whom_the_table_does_not_name()
    {
        var school = await SharedSchool.Make(server);
        var (own, another) = (school.Students[0], school.Students[1]);
        (string Name, HttpClient Client, Who Who, Guid Student, Guid Coupon)[] everybody =
        [
            ("nobody", server.CreateClient(), Who.Anybody, own.Id, own.Coupon),
            ("student, own", own.Client, Who.Student | Who.Own, own.Id, own.Coupon),
            ("student, another's", own.Client, Who.Student, another.Id, another.Coupon),
            ("inspector", school.Inspector, Who.Inspector, own.Id, own.Coupon),
            ("instructor", school.Instructor, Who.Instructor, own.Id, own.Coupon),
            ("lead", school.Lead, Who.Lead, own.Id, own.Coupon),
        ];

        // What ends the session of whoever asks is tried where that is the point.
        string[] ending = ["DELETE /api/session", "POST /api/session/everywhere", "POST /api/session/wall", "GET /api/floor/events"];
        var wrong = new List<string>();
        var tried = 0;
        foreach (var operation in Operations(server).Where(one => !ending.Contains($"{one.Method} {one.Path}")))
        {
            var may = Rights.Of(operation.Method, operation.Path)!.Value;
            foreach (var (name, client, who, student, coupon) in everybody)
            {
                var lets = (may & (who | Who.Anybody)) != 0;
                if (lets && operation is { Method: "PUT" or "DELETE", Path: "/api/students/{id:guid}/left" or "/api/students/{id:guid}/pin" })
                {
                    continue; // it would send the student away
                }

                var status = await Ask(client, operation, student, coupon);
                tried++;
                if (operation.Path.StartsWith("/api/lab/", StringComparison.Ordinal))
                {
                    // A device shows a key of its own; without one it is refused, whoever is signed in.
                    if (status is not (400 or 401))
                    {
                        wrong.Add($"{operation.Method} {operation.Path} as {name}: {status}");
                    }

                    continue;
                }

                if (lets == (status is 401 or 403) || (!lets && (status == 401) != (name == "nobody")))
                {
                    wrong.Add($"{operation.Method} {operation.Path} as {name}: {status}");
                }
            }
        }

        Assert.Empty(wrong);
        Assert.True(tried > 800, $"Only {tried} were tried.");
    }
}
