using System.IO.Compression;
using System.Net;
using System.Text;
using System.Text.RegularExpressions;

namespace Gradus.Server.Tests;

/// <summary>The built interface as a browser gets it: packed, kept where its name carries its content, asked for again where not.</summary>
public sealed class PagesTests
{
    [Theory]
    [InlineData("br", "br")]
    [InlineData("gzip, br", "br")]
    [InlineData("gzip", "gzip")]
    [InlineData("br;q=0, gzip", "gzip")]
    [InlineData("br;q=0, gzip;q=0", null)]
    [InlineData("deflate", null)]
    [InlineData(null, null)]
    public async Task A_script_is_packed_as_the_browser_takes_it_and_kept_for_good(string? accept, string? packed)
    {
        await using var server = new RunningServer();
        using var client = server.CreateClient();
        var page = await client.GetStringAsync(new Uri("/", UriKind.Relative));
        var script = Regex.Match(page, @"/_app/immutable/entry/start\.[^""]+\.js").Value;
        var plain = await client.GetByteArrayAsync(new Uri(script, UriKind.Relative));

        using var asked = new HttpRequestMessage(HttpMethod.Get, script);
        asked.Headers.TryAddWithoutValidation("Accept-Encoding", accept);
        using var answer = await client.SendAsync(asked);
        Assert.Equal(HttpStatusCode.OK, answer.StatusCode);
        Assert.Equal(packed, answer.Content.Headers.ContentEncoding.SingleOrDefault());
        Assert.Equal("text/javascript", answer.Content.Headers.ContentType?.MediaType);
        Assert.Contains("immutable", answer.Headers.CacheControl!.ToString(), StringComparison.Ordinal);
        Assert.Contains("Accept-Encoding", answer.Headers.Vary);
        Assert.Equal(plain, await Unpacked(answer, packed));
    }

    [Fact]
    public async Task The_page_is_asked_for_each_time_under_any_of_its_paths_and_what_is_not_there_is_said()
    {
        await using var server = new RunningServer();
        using var client = server.CreateClient();
        foreach (var path in new[] { "/", "/plan", "/library/aws-d1.1" })
        {
            using var answer = await client.GetAsync(new Uri(path, UriKind.Relative));
            Assert.True(answer.Headers.CacheControl!.NoCache, path);
            Assert.Contains("<!doctype html>", await answer.Content.ReadAsStringAsync(), StringComparison.OrdinalIgnoreCase);
        }

        using var asked = new HttpRequestMessage(HttpMethod.Get, "/api/nothing.js");
        asked.Headers.TryAddWithoutValidation("Accept-Encoding", "br");
        using var missing = await client.SendAsync(asked);
        Assert.Equal(HttpStatusCode.NotFound, missing.StatusCode);
    }

    [Fact]
    public async Task What_is_read_is_packed_too_and_the_feed_is_not()
    {
        await using var server = new RunningServer();
        using var client = await server.SignedIn();
        client.DefaultRequestHeaders.TryAddWithoutValidation("Accept-Encoding", "gzip");
        using var tests = await client.GetAsync(new Uri("/api/tests", UriKind.Relative));
        Assert.Equal("gzip", tests.Content.Headers.ContentEncoding.SingleOrDefault());
        Assert.StartsWith("[", Encoding.UTF8.GetString(await Unpacked(tests, "gzip")), StringComparison.Ordinal);
        using var feed = await client.GetAsync(new Uri("/api/floor/events", UriKind.Relative), HttpCompletionOption.ResponseHeadersRead);
        Assert.Equal("identity", feed.Content.Headers.ContentEncoding.SingleOrDefault());
    }

    private static async Task<byte[]> Unpacked(HttpResponseMessage answer, string? packed)
    {
        await using var body = await answer.Content.ReadAsStreamAsync();
        await using Stream plain = packed switch
        {
            "br" => new BrotliStream(body, CompressionMode.Decompress),
            "gzip" => new GZipStream(body, CompressionMode.Decompress),
            _ => body,
        };
        using var read = new MemoryStream();
        await plain.CopyToAsync(read);
        return read.ToArray();
    }
}
