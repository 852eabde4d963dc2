using System.Threading.Channels;
using Gradus.Data;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Readiness;

/// <summary>Works out anew, in the background and student by student, what is not of today; then every screen is told once.</summary>
public sealed partial class ReadinessRenewal(IServiceScopeFactory scopes, ILogger<ReadinessRenewal> log) : BackgroundService
{
    // Asked for again while it runs, it runs once more: what came in between may be old too.
    private readonly Channel<bool> asked = Channel.CreateBounded<bool>(new BoundedChannelOptions(1) { FullMode = BoundedChannelFullMode.DropWrite });

    /// <summary>All is of today.</summary>
    public event Action? Renewed;

    /// <summary>Begins, or goes on; answers at once.</summary>
    public void Start() => asked.Writer.TryWrite(true);

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        await foreach (var _ in asked.Reader.ReadAllAsync(stoppingToken))
        {
            try
            {
                await Renew(stoppingToken);
                Renewed?.Invoke();
            }
#pragma warning disable CA1031 // Whoever asks next works it out; the service goes on.
            catch (Exception error) when (error is not OperationCanceledException)
#pragma warning restore CA1031
            {
                Failed(log, error);
            }
        }
    }

    private async Task Renew(CancellationToken cancel)
    {
        List<Guid> students;
        await using (var scope = scopes.CreateAsyncScope())
        {
            students = await scope
                .ServiceProvider.GetRequiredService<GradusContext>()
                .Students.Present()
                .OrderBy(student => student.Name)
                .Select(student => student.Id)
                .ToListAsync(cancel);
        }

        // Two at a time on a small machine. A scope for each: what was read for one is let go before the next.
        var two = new ParallelOptions { MaxDegreeOfParallelism = 2, CancellationToken = cancel };
        await Parallel.ForEachAsync(
            students,
            two,
            async (student, stop) =>
            {
                await using var scope = scopes.CreateAsyncScope();
                await scope.ServiceProvider.GetRequiredService<ReadinessBook>().Read([student], stop);
            }
        );
    }

    [LoggerMessage(LogLevel.Error, "Readiness could not be brought up to date in the background.")]
    private static partial void Failed(ILogger log, Exception error);
}
