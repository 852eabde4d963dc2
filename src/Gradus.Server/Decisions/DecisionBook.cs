using Gradus.Data;
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
            return Twins.Answer(
                id,
                known.Content,
                new
                {
                    StudentId = request.StudentId!.Value,
                    request.TestId,
                    Kind = request.Kind!.Value,
                    Reason = request.Reason!.Trim(),
                }
            );
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
}
