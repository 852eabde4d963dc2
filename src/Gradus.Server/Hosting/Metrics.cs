using System.Diagnostics.Metrics;
using System.Net;
using OpenTelemetry.Metrics;

namespace Gradus.Server.Hosting;

/// <summary>How the program does, in numbers, for whoever watches the machine: only when it is asked for, and only on the machine itself.</summary>
public static class Metrics
{
    public const string Name = "Gradus";
    private const string Path = "/metrics";
    private static readonly Meter Meter = new(Name);
    private static readonly Histogram<double> WriteWait = Meter.CreateHistogram<double>(
        "gradus.write.wait",
        "s",
        "How long a write waited for those before it."
    );

    /// <summary>A write waited for its turn.</summary>
    public static void Waited(TimeSpan time) => WriteWait.Record(time.TotalSeconds);

    /// <summary>Adds a number that is asked for when the metrics are.</summary>
    public static void Gauge(string name, string unit, string says, Func<double?> value) =>
        Meter.CreateObservableGauge(
            name,
            () => value() is { } number ? [new Measurement<double>(number)] : (IEnumerable<Measurement<double>>)[],
            unit,
            says
        );

    public static void AddMetrics(this WebApplicationBuilder builder, GradusOptions options)
    {
        if (options.TellsMetrics)
        {
            builder
                .Services.AddOpenTelemetry()
                .WithMetrics(metrics =>
                    metrics
                        .AddAspNetCoreInstrumentation()
                        .AddMeter("System.Runtime", "Microsoft.AspNetCore.Server.Kestrel", Name)
                        .AddPrometheusExporter()
                );
        }
    }

    public static void UseMetrics(this WebApplication app, GradusOptions options)
    {
        if (options.TellsMetrics)
        {
            app.UseOpenTelemetryPrometheusScrapingEndpoint(context =>
                context.Request.Path == Path && context.Connection.RemoteIpAddress is { } from && IPAddress.IsLoopback(from)
            );
        }
    }
}
