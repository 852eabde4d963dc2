using System.Diagnostics;
using System.Globalization;
using Serilog;
using Serilog.Events;

namespace Gradus.Server.Hosting;

/// <summary>
/// What went wrong, in files of the data folder that make way for newer ones: a day each, at most so large, so many days. Operations are named by
/// their route and people by nothing at all.
/// </summary>
public static partial class Logs
{
    public const int Days = 14;
    public const int MostBytes = 5 * 1024 * 1024;
    private static readonly TimeSpan Slow = TimeSpan.FromSeconds(3);

    public static void AddLogs(this WebApplicationBuilder builder, GradusOptions options) =>
        builder.Logging.AddSerilog(
            new LoggerConfiguration()
                // Addresses with what was searched for are told at lower levels, values of a row by what writes it.
                .MinimumLevel.Warning()
                .MinimumLevel.Override("Gradus", LogEventLevel.Information)
                .MinimumLevel.Override("Microsoft.EntityFrameworkCore.Update", LogEventLevel.Fatal)
                .MinimumLevel.Override("Microsoft.EntityFrameworkCore.Database.Command", LogEventLevel.Fatal)
                .WriteTo.File(
                    Path.Combine(options.LogFolder, options.Demo ? "demo-.log" : "gradus-.log"),
                    formatProvider: CultureInfo.InvariantCulture,
                    outputTemplate: "{Timestamp:yyyy-MM-dd'T'HH:mm:ss.fffzzz} {Level:u3} {SourceContext}: {Message:lj}{NewLine}{Exception}",
                    rollingInterval: RollingInterval.Day,
                    rollOnFileSizeLimit: true,
                    fileSizeLimitBytes: MostBytes,
                    retainedFileCountLimit: Days
                )
                .CreateLogger(),
            dispose: true
        );

    /// <summary>Says which operation failed, or took long.</summary>
    public static void UseSlowLog(this WebApplication app)
    {
        var log = app.Services.GetRequiredService<ILoggerFactory>().CreateLogger("Gradus.Requests");
        app.Use(
            async (context, next) =>
            {
                var began = Stopwatch.GetTimestamp();
                await next(context);
                var took = Stopwatch.GetElapsedTime(began);
                var isStream = context.Response.ContentType?.StartsWith("text/event-stream", StringComparison.Ordinal) == true;
                if ((took > Slow && !isStream) || context.Response.StatusCode >= StatusCodes.Status500InternalServerError)
                {
                    var route = (context.GetEndpoint() as RouteEndpoint)?.RoutePattern.RawText ?? "no operation";
                    Took(log, context.Request.Method, route, context.Response.StatusCode, (int)took.TotalMilliseconds);
                }
            }
        );
    }

    [LoggerMessage(LogLevel.Warning, "{Method} {Route} was answered with {Status} after {Milliseconds} ms.")]
    private static partial void Took(Microsoft.Extensions.Logging.ILogger log, string method, string route, int status, int milliseconds);
}
