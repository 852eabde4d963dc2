using System.Net;
using System.Net.Http.Json;
using System.Text;
using System.Text.Json;
using Gradus.Server.Hosting;

namespace Gradus.Server.Tests;

/// <summary>What no field of a body may hold, and what is said of a body that is too large or of another kind.</summary>
public sealed class CleanBodiesTests
{
    // The marks of direction are those with the property Bidi_Control in the Unicode Character Database (PropList.txt).
    [Theory]
    [InlineData("""{"name":"Ann\u0000"}""", "name")]
    [InlineData("""{"name":"\u202eexe.png"}""", "name")]
    [InlineData("""{"a":{"b":["ok","\u2067x"]}}""", "b")]
    [InlineData("""{"name":"\ud800"}""", "name")]
    [InlineData("""{"\u0007":1}""", "body")]
    [InlineData("""{"name":"\u0085"}""", "name")]
    [InlineData("""{"day":"0001-01-01"}""", "day")]
    [InlineData("""{"at":"9999-12-31T23:59:59Z"}""", "at")]
    [InlineData("""{"mm":1e300}""", "mm")]
    [InlineData("""{"mm":-1e400}""", "mm")]
    [InlineData("""[1,{"n":99999999999999999999}]""", "n")]
    public void It_names_the_field_that_cannot_be_taken(string json, string field) =>
        Assert.Equal(field, CleanBodies.Fault(Encoding.UTF8.GetBytes(json))?.Field);

    [Theory]
    [InlineData("""{"name":"Zoë O’Brien, 溶接 👩‍🏭","says":"one\ntwo\tthree","at":"2031-03-04T09:00:00Z","n":-0.0001}""")]
    [InlineData("""{"says":"In 1850-01-01 nobody welded"}""")]
    [InlineData("""{"ms":[1922784000000]}""")]
    [InlineData("not JSON: for its reader to say")]
    [InlineData("")]
    public void What_people_write_is_taken(string json) => Assert.Null(CleanBodies.Fault(Encoding.UTF8.GetBytes(json)));

    [Fact]
    public async Task A_body_that_is_too_large_or_of_another_kind_is_told_what_this_one_takes()
    {
        await using var server = new RunningServer();
        using var client = await server.SignedIn();
        var student = await client.AddStudent();

        async Task<(HttpStatusCode Code, string Says)> Send(HttpMethod method, string path, byte[] body, string type)
        {
            using var content = new ByteArrayContent(body);
            content.Headers.ContentType = new(type);
            using var answer = await client.SendAsync(new HttpRequestMessage(method, path) { Content = content });
            var problem = await answer.Content.ReadFromJsonAsync<JsonElement>();
            Assert.True(problem.TryGetProperty("errors", out var errors) && errors.TryGetProperty("body", out _), $"{path}: {problem}");
            return (answer.StatusCode, errors.GetProperty("body")[0].GetString()!);
        }

        var large = new byte[900 * 1024];
        Assert.Equal((HttpStatusCode.RequestEntityTooLarge, "At most 256 kB."), await Send(HttpMethod.Put, "/api/school", large, "application/json"));
        Assert.Equal(
            (HttpStatusCode.RequestEntityTooLarge, "At most 512 kB."),
            await Send(HttpMethod.Post, "/api/students/import", large, "text/csv")
        );
        var (code, says) = await Send(HttpMethod.Post, "/api/students/import", [1], "application/json");
        Assert.Equal((HttpStatusCode.UnsupportedMediaType, "Send text/csv, and say so in the content type."), (code, says));
        (code, says) = await Send(HttpMethod.Put, $"/api/students/{student}/details", [1], "text/csv");
        Assert.Equal((HttpStatusCode.UnsupportedMediaType, "Send JSON, with content type application/json."), (code, says));

        // Refused before it was read: what follows on the same connection would be lost, so there is none.
        using var unread = new ByteArrayContent(large);
        unread.Headers.ContentType = new("text/csv");
        using var refused = await client.PutAsync($"/api/students/{student}/details", unread);
        Assert.Equal((HttpStatusCode.UnsupportedMediaType, true), (refused.StatusCode, refused.Headers.ConnectionClose));

        using var other = await client.PatchAsync($"/api/students/{student}", null);
        Assert.Equal(HttpStatusCode.MethodNotAllowed, other.StatusCode);
        Assert.Equal(["GET", "PUT"], other.Content.Headers.Allow.Order());
        Assert.Equal(HttpStatusCode.NotFound, (await client.GetAsync("/api/nothing")).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await client.GetAsync("/api/students/nobody")).StatusCode); // no id

        // A table is read by the same rule.
        Assert.Contains(
            "control characters",
            (await Send(HttpMethod.Post, "/api/students/import", "name\n\u202eAnn\n"u8.ToArray(), "text/csv")).Says,
            StringComparison.Ordinal
        );
    }
}
