using Gradus.Core.Readiness;
using Gradus.Data;
using Gradus.Server.Hosting;
using Gradus.Server.School;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Readiness;

/// <summary>Keeps how sittings came out, each beside what was said of it before.</summary>
public sealed class ResultBook(GradusContext db, ReadinessBook readiness, SchoolClock clock)
{
    // A school that sits a test every school day for ten years.
    private const int MostCompared = 2000;
    private const int MostListed = 100;

    /// <summary>Keeps a result. The same one sent again changes nothing.</summary>
    public async Task<Outcome<Written>> Record(Guid id, RecordResult request, Guid by, CancellationToken cancel)
    {
        var (studentId, testId, day) = (request.StudentId!.Value, request.TestId!, request.Day!.Value);
        if (await db.SittingResults.AsNoTracking().FirstOrDefaultAsync(result => result.Id == id, cancel) is { } known)
        {
            return Twins.Answer(
                id,
                known.Content,
                new
                {
                    StudentId = studentId,
                    TestId = testId,
                    Day = day,
                    Passed = request.Passed!.Value,
                    Note = request.Note?.Trim() ?? "",
                }
            );
        }

        if (!await db.Students.AnyAsync(student => student.Id == studentId, cancel))
        {
            return Refusal.NotFound("studentId", "A student of this school.");
        }

        if (day > clock.Today)
        {
            return Refusal.Field("day", "A day that has come.");
        }

        var (said, coupons) = await readiness.SaidBefore(studentId, testId, clock.BeginningOf(day), cancel);
        said = await Signed(studentId, testId, day, cancel) ?? said;
        db.SittingResults.Add(
            new SittingResult
            {
                Id = id,
                StudentId = studentId,
                TestId = testId,
                Day = day,
                Passed = request.Passed!.Value,
                Note = request.Note?.Trim() ?? "",
                Said = said,
                Coupons = coupons,
                RecordedAt = clock.Now,
                RecordedBy = by,
            }
        );
        await db.SaveChangesAsync(cancel);
        return new Written(id, true);
    }

    /// <summary>What was said when "test now" was signed for this sitting: after the sitting before it, and not after its day. Null when it was not.</summary>
    private async Task<ChanceBand?> Signed(Guid studentId, string testId, DateOnly day, CancellationToken cancel)
    {
        var end = clock.BeginningOf(day.AddDays(1));
        var before = await db
            .SittingResults.Where(result => result.StudentId == studentId && result.TestId == testId && result.Day < day)
            .MaxAsync(result => (DateOnly?)result.Day, cancel);
        var from = before is { } last ? clock.BeginningOf(last.AddDays(1)) : DateTimeOffset.UnixEpoch;
        var signed = await db
            .Decisions.AsNoTracking()
            .Where(decision => decision.StudentId == studentId && decision.TestId == testId && decision.WithdrawnAt == null)
            .Where(decision => decision.SignedAt >= from && decision.SignedAt < end)
            .OrderByDescending(decision => decision.SignedAt)
            .FirstOrDefaultAsync(cancel);
        return signed is { Kind: DecisionKind.TestNow } ? signed.Advice?.Passing : null;
    }

    /// <summary>Takes a result back that was entered by mistake.</summary>
    /// <param name="sign">Asks for the signature, where the result was signed at a sitting; null when it is given.</param>
    public async Task<Outcome<Written>> Remove(Guid id, Func<Task<Refusal?>> sign, CancellationToken cancel)
    {
        if (await db.SittingResults.AnyAsync(result => result.Id == id && result.SittingId != null, cancel) && await sign() is { } unsigned)
        {
            return unsigned;
        }

        if (
            await db.Certificates.AnyAsync(
                one =>
                    one.SittingId != null
                    && one.ReplacedBy == null
                    && one.RevokedAt == null
                    && db.SittingResults.Any(result => result.Id == id && result.SittingId == one.SittingId),
                cancel
            )
        )
        {
            return Refusal.Conflict("id", "A record of qualification stands on it. Revoke that first.");
        }

        return await db.SittingResults.Where(result => result.Id == id).ExecuteDeleteAsync(cancel) > 0
            ? new Written(id, true)
            : Refusal.NotFound("id", "A result of this school.");
    }

    /// <summary>The latest results of a student on a test, or of the whole school.</summary>
    public async Task<IReadOnlyList<ResultView>> Latest(Guid? studentId, string? testId, CancellationToken cancel)
    {
        var rows = await db
            .SittingResults.AsNoTracking()
            .Where(result => (studentId == null || result.StudentId == studentId) && (testId == null || result.TestId == testId))
            .OrderByDescending(result => result.Day)
            .ThenByDescending(result => result.Id)
            .Take(MostListed)
            .Join(db.Students, result => result.StudentId, student => student.Id, (result, student) => new { result, Student = student.Name })
            .Join(
                db.People,
                row => row.result.RecordedBy,
                instructor => instructor.Id,
                (row, by) =>
                    new
                    {
                        row.result,
                        row.Student,
                        By = by.Name,
                    }
            )
            .ToListAsync(cancel);
        return
        [
            .. rows.OrderByDescending(row => row.result.Day)
                .ThenByDescending(row => row.result.Id)
                .Select(row => new ResultView(
                    row.result.Id,
                    row.result.StudentId,
                    row.Student,
                    row.result.TestId,
                    row.result.Day,
                    row.result.Passed,
                    row.result.Note,
                    BandView.From(row.result.Said),
                    row.result.Coupons,
                    row.By,
                    row.result.SittingId
                )),
        ];
    }

    /// <summary>What was said beside what came, over the latest first sittings of a student on a test: those after a failure are not independent of it.</summary>
    public async Task<ReliabilityPicture> Picture(CancellationToken cancel)
    {
        var rows = await db
            .SittingResults.AsNoTracking()
            .Where(result => result.Coupons > 0) // without a coupon nothing was said of this student
            .Where(result =>
                !db.SittingResults.Any(other =>
                    other.StudentId == result.StudentId
                    && other.TestId == result.TestId
                    && (other.Day < result.Day || (other.Day == result.Day && other.RecordedAt < result.RecordedAt))
                )
            )
            .OrderByDescending(result => result.Day)
            .Take(MostCompared)
            .Select(result => new { result.Said, result.Passed })
            .ToListAsync(cancel);
        return Reliability.Of([.. rows.Select(row => (row.Said.Mean.Value, row.Passed))]);
    }
}
