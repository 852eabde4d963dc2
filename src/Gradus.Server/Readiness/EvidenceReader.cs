using Gradus.Core.Bench;
using Gradus.Core.Readiness;
using Gradus.Data;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Readiness;

/// <summary>A closed coupon as evidence.</summary>
public sealed record ClosedCoupon(Guid CouponId, string TestId, DateTimeOffset At, CouponEvidence Evidence, ClosingFacts? Facts);

/// <summary>Reads the evidence of closed coupons.</summary>
public sealed class EvidenceReader(GradusContext db)
{
    // The latest ones of a student: more than anyone welds in a decade of school.
    private const int MostCoupons = 6000;

    /// <summary>The evidence of a student, oldest first; of one test or of all.</summary>
    public async Task<IReadOnlyList<ClosedCoupon>> Read(Guid studentId, string? testId, CancellationToken cancel)
    {
        var rows = await db
            .Coupons.AsNoTracking()
            .Where(coupon => coupon.StudentId == studentId && (testId == null || coupon.TestId == testId))
            .Where(coupon => coupon.ClosedAt != null && coupon.VoidedAt == null)
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
                        closing.Decides,
                        closing.StageClean,
                        closing.Facts,
                        closing.Downgraded,
                    }
            )
            .ToListAsync(cancel);
        return
        [
            .. rows.Select(row => new ClosedCoupon(
                    row.Id,
                    row.TestId,
                    row.At,
                    new CouponEvidence(
                        CouponSeen.Days(row.At),
                        Full: row.DrillId is null && row.Decides,
                        Aided: !row.AsTest || row.Downgraded,
                        row.Facts?.ElementClean
                            ?? row.StageClean.ToDictionary(one => CouponSeen.ElementOf(one.Key), one => one.Value, StringComparer.Ordinal),
                        Inside: row.Facts is { Tested: > 0 } facts ? facts.Failed == 0 : null
                    ),
                    row.Facts
                ))
                .OrderBy(one => one.At)
                .ThenBy(one => one.CouponId),
        ];
    }
}
