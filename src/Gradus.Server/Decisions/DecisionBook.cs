using Gradus.Core.Readiness;
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
        var advice = await readiness.Advise(record, cancel);
        if (request.Reason!.Trim().Length == 0 && !Agrees(advice.Kind, request.Kind!.Value))
        {
            return Refusal.Field("reason", $"The advice is \"{advice.Says}\". Give the reason for another decision in your own words.");
        }

        db.Decisions.Add(
            new Decision
            {
                Id = id,
                StudentId = studentId,
                TestId = testId,
                Kind = request.Kind!.Value,
                Reason = request.Reason!.Trim(),
                Estimate = ReadinessBook.Estimate(record),
                Advice = advice,
                SignedAt = time.GetUtcNow(),
                SignedBy = by,
            }
        );
        await db.SaveChangesAsync(cancel);
        return new Written(id, true);
    }

    /// <summary>Takes a decision back. It stays in the history, with who took it back and why.</summary>
    public async Task<Outcome<Written>> Withdraw(Guid id, string reason, Guid by, CancellationToken cancel)
    {
        if (await db.Decisions.FirstOrDefaultAsync(decision => decision.Id == id, cancel) is not { } decision)
        {
            return Refusal.NotFound("id", "A decision of this school.");
        }

        if (decision.WithdrawnAt is not null)
        {
            return new Written(id, false);
        }

        (decision.WithdrawnAt, decision.WithdrawnBy, decision.WithdrawnReason) = (time.GetUtcNow(), by, reason.Trim());
        await db.SaveChangesAsync(cancel);
        return new Written(id, true);
    }

    // Whoever has not shown enough practises: that is as advised.
    private static bool Agrees(Advised advised, DecisionKind decided) =>
        advised switch
        {
            Advised.TestNow => decided == DecisionKind.TestNow,
            Advised.Hold => decided == DecisionKind.Hold,
            _ => decided == DecisionKind.Practise,
        };
}
