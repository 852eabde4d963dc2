using System.Text.Json;

namespace Gradus.Server.Tests;

/// <summary>The OpenAPI document says of each operation what a client has to know.</summary>
public sealed class ApiDocumentTests : IAsyncLifetime
{
    private readonly RunningServer server = new();
    private List<(string Name, JsonElement Says)> operations = [];
    private JsonElement document;

    public async ValueTask InitializeAsync()
    {
        using var client = server.CreateClient();
        document = await JsonDocument.ParseAsync(await client.GetStreamAsync("/openapi/v1.json")) is var read ? read.RootElement : default;
        operations =
        [
            .. document
                .GetProperty("paths")
                .EnumerateObject()
                .SelectMany(path => path.Value.EnumerateObject().Select(one => ($"{one.Name.ToUpperInvariant()} {path.Name}", one.Value))),
        ];
    }

    public ValueTask DisposeAsync() => server.DisposeAsync();

    [Fact]
    public void Each_operation_has_a_name_of_its_own_and_says_what_it_is_for()
    {
        Assert.Empty(
            operations.Where(one => !one.Says.TryGetProperty("summary", out var says) || says.GetString()!.Length < 8).Select(one => one.Name)
        );
        Assert.Empty(
            operations.GroupBy(one => one.Says.GetProperty("operationId").GetString()).Where(same => same.Count() > 1).Select(same => same.Key)
        );
        Assert.All(operations, one => Assert.Matches("^(get|put|post|delete)[A-Z][A-Za-z0-9]+$", one.Says.GetProperty("operationId").GetString()));
        Assert.Equal("putStudentPin", Of("PUT /api/students/{id}/pin").GetProperty("operationId").GetString());
        Assert.Equal("getPerson", Of("PUT /api/people/{id}").GetProperty("operationId").GetString()!.Replace("put", "get", StringComparison.Ordinal));
    }

    [Fact]
    public void What_needs_a_session_says_so_and_declares_that_it_may_be_refused()
    {
        var scheme = document.GetProperty("components").GetProperty("securitySchemes").GetProperty("session");
        Assert.Equal(("apiKey", "cookie"), (scheme.GetProperty("type").GetString(), scheme.GetProperty("in").GetString()));
        foreach (var (name, says) in operations)
        {
            var isOpen = says.GetProperty("description").GetString()!.Contains("May: anybody", StringComparison.Ordinal);
            Assert.True(isOpen != says.TryGetProperty("security", out _), name);
            Assert.True(isOpen || (Declares(says, "401") && Declares(says, "403")), name);
            Assert.True(
                !says.TryGetProperty("requestBody", out _) || (Declares(says, "400") && Declares(says, "413") && Declares(says, "415")),
                name
            );
        }

        Assert.True(Declares(Of("PUT /api/coupons/{couponId}/photos/{id}"), "429"));
        Assert.True(Declares(Of("POST /api/session"), "429"));
    }

    private JsonElement Of(string name) => operations.Single(one => one.Name == name).Says;

    private static bool Declares(JsonElement says, string code) =>
        says.GetProperty("responses").TryGetProperty(code, out var answer)
        && answer.GetProperty("content").TryGetProperty("application/problem+json", out _);
}
