using Gradus.Core.Inspection;
using Gradus.Core.Readiness;
using Gradus.Data;
using Gradus.Server.Hosting;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Coupons;

/// <summary>Reads the evidence of closed coupons.</summary>
public sealed class EvidenceReader(GradusContext db, TimeProvider time)
{
    /// <summary>The evidence of some students, by student and test; a coupon can be left out.</summary>
    public async Task<ILookup<(Guid StudentId, string TestId), CouponEvidence>> Read(
        IReadOnlyCollection<Guid> studentIds,
        CancellationToken cancel,
        Guid? without = null
    )
    {
        var since = time.GetUtcNow().AddDays(-Limits.EvidenceDays);
        var rows = await db
            .Coupons.AsNoTracking()
            .Where(coupon =>
                studentIds.Contains(coupon.StudentId)
                && coupon.ClosedAt != null
                && coupon.VoidedAt == null
                && coupon.ClosedAt >= since
                && coupon.Id != without
            )
            .SelectMany(
                coupon => coupon.Closings.Where(closing => closing.WithdrawnAt == null),
                (coupon, closing) =>
                    new
                    {
                        coupon.StudentId,
                        coupon.TestId,
                        coupon.DrillId,
                        coupon.AsTest,
                        At = closing.RecordedAt,
                        closing.Decides,
                        closing.StageClean,
                        closing.Downgraded,
                    }
            )
            .ToListAsync(cancel);
        return rows.ToLookup(
            row => (row.StudentId, row.TestId),
            row => CouponFacts.EvidenceOf(row.DrillId, row.AsTest && !row.Downgraded, row.Decides, row.StageClean, row.At)
        );
    }
}
