using Gradus.Core;
using Gradus.Core.Inspection;
using Gradus.Data;
using Gradus.Server.School;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Library;

/// <summary>How often each kind was found in each stage at this school. Counted anew once an hour: every finding of ten years is read for it.</summary>
public sealed class FindingCounts(IServiceScopeFactory scopes, SchoolClock clock)
{
    private static readonly TimeSpan Fresh = TimeSpan.FromHours(1);
    private volatile Counted? kept;

    /// <summary>The counts; 0 for what was never found.</summary>
    public async Task<Func<(Stage Stage, DiscontinuityKind Kind), int>> Read(CancellationToken cancel)
    {
        if (kept is not { } counted || clock.Now - counted.At > Fresh)
        {
            await using var scope = scopes.CreateAsyncScope();
            var db = scope.ServiceProvider.GetRequiredService<GradusContext>();
            var rows = await db
                .Findings.Where(one => one.WithdrawnAt == null)
                .GroupBy(one => new { one.Stage, one.Kind })
                .Select(group => new
                {
                    group.Key.Stage,
                    group.Key.Kind,
                    Count = group.Count(),
                })
                .ToListAsync(cancel);
            kept = counted = new Counted(clock.Now, rows.ToDictionary(row => (row.Stage, row.Kind), row => row.Count));
        }

        return key => counted.Counts.GetValueOrDefault(key);
    }

    private sealed record Counted(DateTimeOffset At, IReadOnlyDictionary<(Stage, DiscontinuityKind), int> Counts);
}
