using System.Threading.Channels;
using Gradus.Server.Library;
using Gradus.Server.Readiness;

namespace Gradus.Server.Coupons;

/// <summary>Judges signed coupons anew in the background: when the program starts, and when a lead saves limits.</summary>
public sealed partial class TodaysReview(IServiceScopeFactory scopes, LimitsChanged limits, ReadinessRenewal readiness, ILogger<TodaysReview> log)
    : BackgroundService
{
    private readonly Channel<bool> asked = Channel.CreateBounded<bool>(new BoundedChannelOptions(1) { FullMode = BoundedChannelFullMode.DropWrite });

    /// <summary>Begins, or goes on; answers at once.</summary>
    public void Start() => asked.Writer.TryWrite(true);

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        limits.Changed += Start;
        Start();
        await foreach (var _ in asked.Reader.ReadAllAsync(stoppingToken))
        {
            try
            {
                await using var scope = scopes.CreateAsyncScope();
                if (await scope.ServiceProvider.GetRequiredService<TodaysBook>().Review(stoppingToken) > 0)
                {
                    readiness.Start();
                }
            }
#pragma warning disable CA1031 // The signed verdicts stand; the service goes on.
            catch (Exception error) when (error is not OperationCanceledException)
#pragma warning restore CA1031
            {
                Failed(log, error);
            }
        }
    }

    [LoggerMessage(LogLevel.Error, "Signed verdicts could not be judged by today's limits.")]
    private static partial void Failed(ILogger log, Exception error);
}
