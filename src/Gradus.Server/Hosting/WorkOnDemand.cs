using System.Threading.Channels;

namespace Gradus.Server.Hosting;

/// <summary>Work in the background that is done when it is asked for. Asked for again while it runs, it runs once more.</summary>
public abstract partial class WorkOnDemand(ILogger log) : BackgroundService
{
    private readonly Channel<bool> asked = Channel.CreateBounded<bool>(new BoundedChannelOptions(1) { FullMode = BoundedChannelFullMode.DropWrite });

    /// <summary>Begins, or goes on; answers at once.</summary>
    public void Start() => asked.Writer.TryWrite(true);

    /// <summary>What is said when it fails.</summary>
    protected abstract string Failing { get; }

    /// <summary>Does it once.</summary>
    protected abstract Task Work(CancellationToken stop);

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        await foreach (var _ in asked.Reader.ReadAllAsync(stoppingToken))
        {
            try
            {
                await Work(stoppingToken);
            }
#pragma warning disable CA1031 // What was there before stands; the service goes on.
            catch (Exception error) when (error is not OperationCanceledException)
#pragma warning restore CA1031
            {
                Failed(log, Failing, error);
            }
        }
    }

    [LoggerMessage(LogLevel.Error, "{What}")]
    private static partial void Failed(ILogger log, string what, Exception error);
}
