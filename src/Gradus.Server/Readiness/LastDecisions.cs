using Gradus.Data;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Readiness;

/// <summary>What was decided last.</summary>
public static class LastDecisions
{
    /// <summary>The last decision for each student and test.</summary>
    public static async Task<Dictionary<(Guid StudentId, string TestId), (DecisionKind Kind, DateTimeOffset SignedAt)>> Of(
        GradusContext db,
        IReadOnlyCollection<Guid> studentIds,
        CancellationToken cancel
    )
    {
        var rows = await db
            .Decisions.Where(decision => studentIds.Contains(decision.StudentId))
            .GroupBy(decision => new { decision.StudentId, decision.TestId })
            .Select(group =>
                group
                    .OrderByDescending(decision => decision.SignedAt)
                    .Select(decision => new
                    {
                        decision.StudentId,
                        decision.TestId,
                        decision.Kind,
                        decision.SignedAt,
                    })
                    .First()
            )
            .ToListAsync(cancel);
        return rows.ToDictionary(row => (row.StudentId, row.TestId), row => (row.Kind, row.SignedAt));
    }
}
