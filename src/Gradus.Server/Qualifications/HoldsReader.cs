using Gradus.Core.Certification;
using Gradus.Core.Library;
using Gradus.Core.Qualification;
using Gradus.Data;
using Gradus.Server.School;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Qualifications;

/// <summary>A process of a record that counts, and how long it holds.</summary>
public sealed record Held(
    Guid Id,
    long Number,
    int Revision,
    Guid StudentId,
    string Code,
    string? TestId,
    string Title,
    IReadOnlyList<string> Positions,
    string Process,
    DateOnly QualifiedOn,
    string? Route,
    bool Outside,
    Keeping Keeping
);

/// <summary>Use of a process that a coupon shows and nobody has signed for.</summary>
public sealed record OpenUse(Guid CouponId, string Stamp, string TestId, string Process, DateOnly Day);

/// <summary>A qualification that ends soon when nothing is done.</summary>
/// <param name="Open">Whether a closed coupon shows the use, and waits to be signed for.</param>
public sealed record EndingRow(Guid StudentId, string StudentName, Held Held, bool Open);

/// <summary>Reads who holds what and until when, from records, signed uses and renewals.</summary>
public sealed class HoldsReader(GradusContext db, SchoolClock clock)
{
    /// <summary>The most records that are read at once: two hundred students with ten each.</summary>
    public const int MostRecords = 2000;

    private const int MostEnding = 100;

    /// <summary>The most uses that are listed of a student, the latest ones.</summary>
    public const int MostUses = 200;

    /// <summary>What some students hold, or everybody who has not left; each process of each record that counts.</summary>
    public async Task<IReadOnlyList<Held>> Read(IReadOnlyCollection<Guid>? students, CancellationToken cancel)
    {
        var records = await db
            .Certificates.AsNoTracking()
            .Where(one => one.ReplacedBy == null && one.RevokedAt == null)
            .Where(one =>
                students == null
                    ? db.Students.Any(student => student.Id == one.StudentId && student.LeftAt == null)
                    : students.Contains(one.StudentId)
            )
            .OrderByDescending(one => one.IssuedAt)
            .Take(MostRecords)
            .Select(one => new
            {
                one.Id,
                one.Number,
                one.Revision,
                one.StudentId,
                one.Code,
                one.TestId,
                one.Title,
                one.Positions,
                one.Processes,
                one.QualifiedOn,
                one.Route,
                one.Outside,
            })
            .ToListAsync(cancel);
        if (records.Count == 0)
        {
            return [];
        }

        // What was used longer ago than any record counts for nothing.
        var since = records.Min(one => one.QualifiedOn);
        var proofs = await db
            .UseProofs.AsNoTracking()
            .Where(one => one.WithdrawnAt == null && one.Day >= since)
            .Where(one => students == null || students.Contains(one.StudentId))
            .Select(one => new
            {
                one.StudentId,
                one.Process,
                one.Day,
                one.Within,
            })
            .ToListAsync(cancel);
        var used = proofs.ToLookup(one => (one.StudentId, one.Process));
        var numbers = records.ConvertAll(one => one.Number);
        var renewals = (
            students is null
                ? await db.CertificateRenewals.AsNoTracking().ToListAsync(cancel)
                : await db.CertificateRenewals.AsNoTracking().Where(one => numbers.Contains(one.Number)).ToListAsync(cancel)
        ).ToLookup(one => one.Number, one => one.Day);
        var today = clock.Today;
        return
        [
            .. from record in records
            from process in record.Processes
            select new Held(
                record.Id,
                record.Number,
                record.Revision,
                record.StudentId,
                record.Code,
                record.TestId,
                record.Title,
                record.Positions,
                process,
                record.QualifiedOn,
                record.Route,
                record.Outside,
                Continuity.Of(
                    Ranges.ByCode[record.Code].Continuity,
                    record.QualifiedOn,
                    used[(record.StudentId, process)]
                        .Where(one => !NeedsRange(record.Code) || one.Within.Contains(record.Number))
                        .Select(one => one.Day),
                    today,
                    record.Route,
                    renewals[record.Number]
                )
            ),
        ];
    }

    /// <summary>Whether a code counts only work in the range of the record: ISO 9606-1, 9.2.</summary>
    public static bool NeedsRange(string code) => Continuity.RoutesOf(Ranges.ByCode[code].Continuity).Count > 0;

    /// <summary>The uses that closed coupons of a student show since a day and nobody has signed for, the latest first.</summary>
    public async Task<IReadOnlyList<OpenUse>> Open(Guid studentId, DateOnly since, CancellationToken cancel)
    {
        var from = clock.BeginningOf(since);
        var rows = await db
            .Passes.AsNoTracking()
            .Where(pass => pass.WithdrawnAt == null && pass.HappenedAt >= from)
            .Join(
                db.Coupons.Where(coupon =>
                    coupon.StudentId == studentId && coupon.ClosedAt != null && coupon.VoidedAt == null && coupon.ClosedAt >= from
                ),
                pass => pass.CouponId,
                coupon => coupon.Id,
                (pass, coupon) =>
                    new
                    {
                        coupon.Id,
                        coupon.Stamp,
                        coupon.TestId,
                        pass.Process,
                        IsShort = pass.Process == Process.Gmaw && pass.Technique == BeadTechnique.ShortArc,
                        pass.HappenedAt,
                    }
            )
            .GroupBy(one => new
            {
                one.Id,
                one.Stamp,
                one.TestId,
                one.Process,
                one.IsShort,
            })
            .Select(group => new { group.Key, At = group.Max(one => one.HappenedAt) })
            .OrderByDescending(one => one.At)
            .Take(MostUses)
            .ToListAsync(cancel);
        var signed = (
            await db
                .UseProofs.AsNoTracking()
                .Where(one => one.StudentId == studentId && one.WithdrawnAt == null && one.CouponId != null)
                .Select(one => new { one.CouponId, one.Process })
                .ToListAsync(cancel)
        )
            .Select(one => (one.CouponId!.Value, one.Process))
            .ToHashSet();
        return
        [
            .. rows.Select(one => new OpenUse(
                    one.Key.Id,
                    one.Key.Stamp,
                    one.Key.TestId,
                    one.Key.IsShort ? TestQualification.ShortArc : TestQualification.Name(one.Key.Process),
                    clock.DayOf(one.At)
                ))
                .Where(one => !signed.Contains((one.CouponId, one.Process))),
        ];
    }

    /// <summary>What ends within sixty days, the soonest first; of several records of one person, code and process the one that holds longest.</summary>
    public async Task<IReadOnlyList<EndingRow>> Ending(IReadOnlyCollection<Guid>? students, CancellationToken cancel)
    {
        var soon = (await Read(students, cancel))
            .GroupBy(one => (one.StudentId, one.Code, one.Process, Number: NeedsRange(one.Code) ? one.Number : 0))
            .Select(group => group.MaxBy(one => one.Keeping.EndsOn)!)
            .Where(one => one.Keeping.Kind == HoldKind.EndsSoon)
            .OrderBy(one => one.Keeping.EndsOn)
            .Take(MostEnding)
            .ToList();
        var ids = soon.Select(one => one.StudentId).Distinct().ToList();
        var names = await db.Students.Where(one => ids.Contains(one.Id)).ToDictionaryAsync(one => one.Id, one => one.Name, cancel);
        var open = new Dictionary<Guid, IReadOnlyList<OpenUse>>();
        foreach (var own in soon.GroupBy(one => one.StudentId))
        {
            open[own.Key] = await Open(own.Key, own.Min(one => one.Keeping.LastUsedOn).AddDays(1), cancel);
        }

        return
        [
            .. soon.Select(one => new EndingRow(
                one.StudentId,
                names[one.StudentId],
                one,
                open[one.StudentId].Any(use => use.Process == one.Process && use.Day > one.Keeping.LastUsedOn)
            )),
        ];
    }
}
