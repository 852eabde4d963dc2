using Gradus.Data;
using Gradus.Server.Coupons;
using Gradus.Server.Hosting;
using Gradus.Server.Readiness;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Decisions;

/// <summary>Keeps signed decisions with the numbers that they were made on.</summary>
public sealed class DecisionBook(GradusContext db, ReadinessBook readiness, TimeProvider time)
{
    /// <summary>Signs a decision. The same one sent again changes nothing.</summary>
    public async Task<Outcome<Written>> Sign(Guid id, SignDecision request, Guid by, CancellationToken cancel)
    {
        if (await db.Decisions.AsNoTracking().FirstOrDefaultAsync(decision => decision.Id == id, cancel) is { } known)
        {
            var same =
                (known.StudentId, known.TestId, known.Kind, known.Reason)
                == (request.StudentId, request.TestId, request.Kind, request.Reason!.Trim());
            return same ? new Written(id, false) : Refusal.Conflict("id", "Another decision has this id.");
        }

        if (!await db.Students.AnyAsync(student => student.Id == request.StudentId, cancel))
        {
            return Refusal.NotFound("studentId", "A student of this school.");
        }

        var (studentId, testId) = (request.StudentId!.Value, request.TestId!);
        var record = await readiness.Read(studentId, testId, cancel);
        db.Decisions.Add(
            new Decision
            {
                Id = id,
                StudentId = studentId,
                TestId = testId,
                Kind = request.Kind!.Value,
                Reason = request.Reason!.Trim(),
                Estimate = ReadinessBook.Estimate(record),
                Advice = await readiness.Advise(record, cancel),
                SignedAt = time.GetUtcNow(),
                SignedBy = by,
            }
        );
        await db.SaveChangesAsync(cancel);
        return new Written(id, true);
    }

    /// <summary>The last decision for each student and test.</summary>
    public static async Task<Dictionary<(Guid StudentId, string TestId), (DecisionKind Kind, DateTimeOffset SignedAt)>> Last(
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
