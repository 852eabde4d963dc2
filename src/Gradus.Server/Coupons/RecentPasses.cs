using Gradus.Core.Bench;
using Gradus.Data;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Coupons;

/// <summary>Reads what the cards of a student's next passes start from.</summary>
public static class RecentPasses
{
    private const int RecentDays = 90;
    private const int MostPasses = 4000;

    /// <summary>The passes of some students in the last 90 days, latest first, by student and test.</summary>
    /// <param name="testIds">Only those of these tests; all when left out.</param>
    public static async Task<ILookup<(Guid StudentId, string TestId), RecentPass>> Read(
        GradusContext db,
        IReadOnlyCollection<Guid> studentIds,
        DateTimeOffset now,
        CancellationToken cancel,
        IReadOnlyCollection<string>? testIds = null
    )
    {
        var since = now.AddDays(-RecentDays);
        var rows = await db
            .Coupons.AsNoTracking()
            .Where(coupon => studentIds.Contains(coupon.StudentId) && coupon.StartedAt >= since)
            .Where(coupon => testIds == null || testIds.Contains(coupon.TestId))
            .SelectMany(
                coupon => coupon.Passes.Where(pass => pass.WithdrawnAt == null),
                (coupon, pass) =>
                    new
                    {
                        coupon.StudentId,
                        coupon.TestId,
                        coupon.BoothId,
                        CouponId = coupon.Id,
                        pass.BeadKey,
                        pass.Stage,
                        pass.Process,
                        pass.ElectrodeClass,
                        pass.DiameterMm,
                        pass.Amps,
                        pass.Volts,
                        pass.WireFeedMmPerMin,
                        pass.Hand,
                        pass.HappenedAt,
                    }
            )
            .OrderByDescending(row => row.HappenedAt)
            .Take(MostPasses)
            .ToListAsync(cancel);
        var closings = await db
            .Coupons.AsNoTracking()
            .Where(coupon => studentIds.Contains(coupon.StudentId) && coupon.StartedAt >= since && coupon.ClosedAt != null && coupon.VoidedAt == null)
            .Where(coupon => testIds == null || testIds.Contains(coupon.TestId))
            .SelectMany(
                coupon => coupon.Closings.Where(closing => closing.WithdrawnAt == null),
                (coupon, closing) => new { coupon.Id, closing.StageClean }
            )
            .ToListAsync(cancel);
        var clean = closings.ToDictionary(row => row.Id, row => row.StageClean);
        return rows.ToLookup(
            row => (row.StudentId, row.TestId),
            row => new RecentPass(
                row.BeadKey,
                row.Stage,
                row.Process,
                row.ElectrodeClass,
                row.DiameterMm,
                row.Amps,
                row.Volts,
                row.WireFeedMmPerMin,
                row.Hand,
                row.BoothId,
                clean.GetValueOrDefault(row.CouponId) is { } stages && stages.TryGetValue(row.Stage, out var was) ? was : null
            )
        );
    }
}
