using Gradus.Core.Readiness;
using Gradus.Data;
using Gradus.Server.Library;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Readiness;

/// <summary>Reads the board: each student on the target, or on every test, with the advice.</summary>
public sealed class ReadyReader(GradusContext db, ReadinessBook book, SchoolLibrary library)
{
    /// <summary>So many are worked out while whoever asks waits; a whole school on a new day is not.</summary>
    public const int MostAtOnce = 6;
    private const int WayShown = 8;

    /// <summary>The board at once; see <see cref="ReadyBoard.AreOld"/>.</summary>
    /// <param name="all">Every test that a student has practised, not only the target.</param>
    public async Task<ReadyBoard> Read(bool all, CancellationToken cancel)
    {
        var students = await db.Students.Present().AsNoTracking().ToListAsync(cancel);
        var ids = students.ConvertAll(one => one.Id);
        IEnumerable<ReadinessRecord> kept;
        bool areOld;
        if (all)
        {
            (var rows, areOld) = await book.AsOf(ids, MostAtOnce, cancel);
            kept = rows.Where(row => library.Tests.ContainsKey(row.TestId));
        }
        else
        {
            (var rows, areOld) = await book.OfTargets(null, MostAtOnce, cancel);
            kept = rows.Values;
        }

        var records = kept.ToLookup(record => record.StudentId);
        var policies = await book.Policies(cancel);
        var decisions = await LastDecisions.Of(db, ids, cancel);
        var board = students
            .SelectMany(student =>
                records[student.Id]
                    .Concat(
                        records[student.Id].Any(record => record.TestId == student.TargetTestId)
                            ? []
                            : [book.Begin(student.Id, student.TargetTestId, null)]
                    )
                    .Select(record => Row(student, record, policies.Of(record.TestId), decisions.GetValueOrDefault((student.Id, record.TestId))))
            )
            .OrderBy(row => row.Group)
            .ThenBy(row => row.TooLittleToTell)
            .ThenByDescending(row => row.Passing.Mean)
            .ThenBy(row => row.StudentName, StringComparer.Ordinal)
            .ToList();
        var oldest = records.SelectMany(own => own).Select(record => record.StandingDay).DefaultIfEmpty().Min();
        var others = all
            ? 0
            : await db.Readiness.CountAsync(
                row => row.Coupons > 0 && db.Students.Any(one => one.Id == row.StudentId && one.LeftAt == null && one.TargetTestId != row.TestId),
                cancel
            );
        return new ReadyBoard(board, areOld, areOld && oldest > 0 ? DateOnly.FromDateTime(DateTime.UnixEpoch).AddDays(oldest) : null, others);
    }

    private ReadyRow Row(Student student, ReadinessRecord record, TestPolicy policy, LastDecision? decision)
    {
        var test = library.Tests[record.TestId];
        var advice = book.Advise(record, policy, student.SafetySignedAt is not null, decision);
        return new ReadyRow(
            student.Id,
            student.Name,
            record.TestId,
            test.Brief,
            test.Title,
            student.TargetTestId == record.TestId,
            Group(advice, decision),
            advice.Kind,
            advice.Says,
            advice.Why,
            advice.TakeBack,
            BandView.From(advice.Passing),
            advice.TooLittleToTell,
            policy.BarMean,
            [
                .. record
                    .Recent.Where(coupon => coupon.Passing is not null)
                    .TakeLast(WayShown)
                    .Select(coupon => new WayPoint(coupon.At, coupon.Passing!.Value, coupon.Clean)),
            ],
            record.Coupons,
            decision?.Kind,
            decision?.SignedAt
        );
    }

    private static ReadyGroup Group(Advice advice, LastDecision? decision) =>
        advice.TakeBack
            ? ReadyGroup.Decide
            : advice.Kind switch
            {
                Advised.Passed => ReadyGroup.Passed,
                Advised.TestNow => decision?.Kind == DecisionKind.TestNow ? ReadyGroup.ToSit : ReadyGroup.Decide,
                Advised.Practise => ReadyGroup.Practise,
                _ => ReadyGroup.NotYet,
            };
}
