using System.Net;
using Gradus.Server.Hosting;
using Microsoft.AspNetCore.Builder;
using Microsoft.Extensions.Logging;

namespace Gradus.Server.Tests;

/// <summary>The logs make way for newer ones and name nobody; the numbers are told to the machine itself when it asks.</summary>
public sealed class WatchTests : IDisposable
{
    private static readonly Action<ILogger, string, Exception?> Write = LoggerMessage.Define<string>(LogLevel.Error, default, "{Line}");
    private readonly string folder = Directory.CreateTempSubdirectory("gradus-logs-").FullName;

    public void Dispose() => Directory.Delete(folder, recursive: true);

    [Fact]
    public void Logs_fill_no_disk()
    {
        var options = new GradusOptions("127.0.0.1", 0, folder, false);
        for (var start = 0; start < 2; start++)
        {
            var builder = WebApplication.CreateBuilder();
            builder.Logging.ClearProviders();
            builder.AddLogs(options);
            using var app = builder.Build();
            var log = app.Services.GetService(typeof(ILoggerFactory)) as ILoggerFactory;
            var line = new string('x', 200_000);
            for (var count = 0; count < (Logs.Days + 4) * Logs.MostBytes / line.Length / 2; count++)
            {
                Write(log!.CreateLogger("Test"), line, null);
            }
        }

        var files = Directory.GetFiles(options.LogFolder);
        Assert.Equal(Logs.Days, files.Length);
        Assert.All(files, file => Assert.True(new FileInfo(file).Length < Logs.MostBytes + 300_000));
    }

    [Fact]
    public async Task What_is_logged_names_the_operation_and_nobody()
    {
        await using var server = new RunningServer();
        using var client = await server.SignedIn();
        var student = await client.AddStudent(name: "Wilhelmina Oddsdottir");
        await client.GetAsync("/api/find?q=Wilhelmina");
        File.Delete(Path.Combine(server.Folder, "gradus.db"));
        Assert.Equal(HttpStatusCode.ServiceUnavailable, (await client.GetAsync($"/api/students/{student}")).StatusCode);
        var written = string.Concat(
            Directory
                .GetFiles(Path.Combine(server.Folder, "logs"))
                .Select(file =>
                {
                    using var reader = new StreamReader(new FileStream(file, FileMode.Open, FileAccess.Read, FileShare.ReadWrite));
                    return reader.ReadToEnd();
                })
        );
        Assert.Contains("GET /api/students/{id:guid} was answered with 503", written, StringComparison.Ordinal);
        Assert.DoesNotContain("Wilhelmina", written, StringComparison.OrdinalIgnoreCase);
        Assert.DoesNotContain(student.ToString(), written, StringComparison.OrdinalIgnoreCase);
    }

    [Fact]
    public async Task Numbers_are_told_when_that_is_asked_for_and_not_else()
    {
        await using (var silent = new RunningServer())
        {
            using var client = await silent.SignedIn();
            Assert.DoesNotContain("http_server_request_duration", await client.GetStringAsync("/metrics"), StringComparison.Ordinal); // the interface's page
        }

        await using var server = new RunningServer { TellsMetrics = true };
        using var lead = await server.SignedIn();
        var student = await lead.AddStudent(name: "Wilhelmina Oddsdottir");
        await lead.GetAsync($"/api/students/{student}");
        var numbers = await lead.GetStringAsync("/metrics");
        Assert.Contains("http_server_request_duration_seconds_count", numbers, StringComparison.Ordinal);
        Assert.Contains("gradus_write_wait_seconds", numbers, StringComparison.Ordinal);
        Assert.Contains("/api/students/{id:guid}", numbers, StringComparison.Ordinal);
        Assert.DoesNotContain(student.ToString(), numbers, StringComparison.OrdinalIgnoreCase);
    }
}
