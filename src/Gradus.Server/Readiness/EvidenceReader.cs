using Gradus.Core.Bench;
using Gradus.Core.Readiness;
using Gradus.Data;
using Gradus.Server.School;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Readiness;

/// <summary>A closed coupon, or a sitting that came out, as evidence.</summary>
/// <param name="Id">Of the coupon, or of the sitting's result.</param>
/// <param name="Sitting">How the sitting came out; null for a coupon.</param>
/// <param name="Elsewhere">For a test that was passed elsewhere on what that is believed; null for what was seen here.</param>
public sealed record Witnessed(
    Guid Id,
    string TestId,
    DateTimeOffset At,
    CouponEvidence Evidence,
    ClosingFacts? Facts,
    SatBefore? Sitting = null,
    Vouched? Elsewhere = null
)
{
    /// <summary>True for a coupon that was made here.</summary>
    public bool IsCoupon => Sitting is null && Elsewhere is null;
}

/// <summary>Reads the evidence of closed coupons, of sittings, and of what was passed elsewhere.</summary>
public sealed class EvidenceReader(GradusContext db, SchoolClock clock)
{
    private static readonly Dictionary<string, bool> Nothing = [];

    // The latest ones of a student: more than anyone welds in a decade of school.
    private const int MostCoupons = 6000;

    /// <summary>
    /// Marks the evidence of a student: another one when anything of it changed. A closing is never changed but by being taken back or followed by
    /// another, so it is enough which they are; that is read much faster than what they say.
    /// </summary>
    public async Task<string> Mark(Guid studentId, CancellationToken cancel)
    {
        var coupons = await Closed(studentId)
            .OrderBy(coupon => coupon.Id)
            .SelectMany(
                coupon => coupon.Closings.Where(closing => closing.WithdrawnAt == null && closing.EndedBy == null),
                (coupon, closing) =>
                    new
                    {
                        closing.Id,
                        coupon.TestId,
                        coupon.DrillId,
                        coupon.AsTest,
                        coupon.ClosedAt,
                        Today = db
                            .TodaysVerdicts.Where(one => one.ClosingId == closing.Id && one.Differs && one.DeclinedAt == null)
                            .Select(one => (int?)one.ProfileVersion)
                            .FirstOrDefault(),
                    }
            )
            .ToListAsync(cancel);
        var sittings = await db
            .SittingResults.AsNoTracking()
            .Where(result => result.StudentId == studentId)
            .OrderBy(result => result.Id)
            .ToListAsync(cancel);
        var elsewhere = await Elsewhere(studentId).OrderBy(credit => credit.TestId).ToListAsync(cancel);
        return string.Join(
            '\n',
            coupons
                .Select(one =>
                    $"{new { one.Id, one.TestId, one.DrillId, one.AsTest, one.ClosedAt }}{(one.Today is { } version ? $" {version}" : "")}"
                )
                .Concat(sittings.Select(one => $"{one.Id} {one.TestId} {one.Day} {one.Passed} {one.RecordedAt.UtcTicks}"))
                .Concat(elsewhere.Select(one => $"{one.TestId} {one.Day} {one.Vouched}"))
        );
    }

    // What was made at a sitting that has a result counts as that sitting, and not a second time as a coupon.
    private IQueryable<Coupon> Closed(Guid studentId) =>
        db
            .Coupons.AsNoTracking()
            .Where(coupon => coupon.StudentId == studentId && coupon.ClosedAt != null && coupon.VoidedAt == null)
            .Where(coupon => coupon.SittingId == null || !db.SittingResults.Any(result => result.SittingId == coupon.SittingId));

    private IQueryable<StepCredit> Elsewhere(Guid studentId) =>
        db.StepCredits.AsNoTracking().Where(credit => credit.StudentId == studentId && credit.Day != null && credit.Vouched != null);

    /// <summary>The evidence of a student on all tests, oldest first.</summary>
    public async Task<IReadOnlyList<Witnessed>> Read(Guid studentId, CancellationToken cancel)
    {
        var sittings = await db
            .SittingResults.AsNoTracking()
            .Where(result => result.StudentId == studentId)
            .OrderByDescending(result => result.Day)
            .Take(MostCoupons)
            .ToListAsync(cancel);
        var elsewhere = await Elsewhere(studentId).ToListAsync(cancel);
        var rows = await Closed(studentId)
            .OrderByDescending(coupon => coupon.ClosedAt)
            .Take(MostCoupons)
            .SelectMany(
                coupon => coupon.Closings.Where(closing => closing.WithdrawnAt == null && closing.EndedBy == null),
                (coupon, closing) =>
                    new
                    {
                        coupon.Id,
                        coupon.TestId,
                        coupon.DrillId,
                        coupon.AsTest,
                        At = coupon.ClosedAt!.Value, // when it was looked at; what was cut open later is of that day as well
                        ClosingId = closing.Id,
                        closing.Decides,
                        closing.StageClean,
                        closing.Facts,
                        closing.Downgraded,
                        closing.Unconfirmed,
                        Today = db.TodaysVerdicts.Any(one => one.ClosingId == closing.Id && one.Differs && one.DeclinedAt == null),
                    }
            )
            .ToListAsync(cancel);

        // What today's limits make of an earlier verdict counts in its stead.
        List<Guid> changed = [.. rows.Where(row => row.Today).Select(row => row.ClosingId)];
        var todays =
            changed.Count == 0
                ? []
                : await db
                    .TodaysVerdicts.AsNoTracking()
                    .Where(one => changed.Contains(one.ClosingId))
                    .ToDictionaryAsync(one => one.ClosingId, cancel);
        return
        [
            .. rows.Select(row =>
                {
                    var today = todays.GetValueOrDefault(row.ClosingId);
                    var facts = today is null ? row.Facts : today.Facts;
                    return new Witnessed(
                        row.Id,
                        row.TestId,
                        row.At,
                        new CouponEvidence(
                            CouponSeen.Days(row.At),
                            Full: row.DrillId is null && (today?.Decides ?? row.Decides),
                            Aided: !row.AsTest || row.Downgraded,
                            facts?.ElementClean
                                ?? row.StageClean.ToDictionary(one => CouponSeen.ElementOf(one.Key), one => one.Value, StringComparer.Ordinal),
                            Inside: facts is { Tested: > 0 } ? facts.Failed == 0 : null,
                            Trust: row.Unconfirmed > 0 ? Trust.Proposed : 1
                        ),
                        facts
                    );
                })
                .Concat(sittings.Select(Sat))
                .Concat(elsewhere.Select(Passed))
                .OrderBy(one => one.At)
                .ThenBy(one => one.Id),
        ];
    }

    private Witnessed Passed(StepCredit credit)
    {
        var at = clock.BeginningOf(credit.Day!.Value);
        var evidence = new CouponEvidence(
            CouponSeen.Days(at),
            Full: true,
            Aided: false,
            Nothing,
            SittingPassed: true,
            Trust: Trust.Of(credit.Vouched!.Value)
        );
        return new Witnessed(credit.StudentId, credit.TestId, at, evidence, null, Elsewhere: credit.Vouched);
    }

    // What was made on the day of the sitting came before it, unless its result was entered on that day: then what comes after that does.
    private Witnessed Sat(SittingResult result)
    {
        var nextDay = clock.BeginningOf(result.Day.AddDays(1));
        var from = result.RecordedAt < nextDay ? result.RecordedAt : nextDay;
        return new Witnessed(
            result.Id,
            result.TestId,
            from,
            new CouponEvidence(CouponSeen.Days(from), Full: true, Aided: false, Nothing, SittingPassed: result.Passed),
            null,
            new SatBefore(result.Day, result.Passed, result.Note, from)
        );
    }
}
