using Gradus.Data;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Readiness;

/// <summary>The decision in force for a student on a test.</summary>
public sealed record LastDecision(DecisionKind Kind, DateTimeOffset SignedAt);

/// <summary>What was decided last.</summary>
public static class LastDecisions
{
    /// <summary>For each student and test the last decision that was not taken back.</summary>
    public static async Task<Dictionary<(Guid StudentId, string TestId), LastDecision>> Of(
        GradusContext db,
        IReadOnlyCollection<Guid> studentIds,
        CancellationToken cancel
    )
    {
        var rows = await db
            .Decisions.Where(decision => studentIds.Contains(decision.StudentId) && decision.WithdrawnAt == null)
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
        return rows.ToDictionary(row => (row.StudentId, row.TestId), row => new LastDecision(row.Kind, row.SignedAt));
    }
}
