using Gradus.Data;
using Gradus.Server.Hosting;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Readiness;

/// <summary>Works out anew, in the background and student by student, what is not of today; then every screen is told once.</summary>
public sealed class ReadinessRenewal(IServiceScopeFactory scopes, ILogger<ReadinessRenewal> log) : WorkOnDemand(log)
{
    /// <summary>All is of today.</summary>
    public event Action? Renewed;

    protected override string Failing => "Readiness could not be brought up to date in the background."; // whoever asks next works it out

    protected override async Task Work(CancellationToken stop)
    {
        await Renew(stop);
        Renewed?.Invoke();
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
}
