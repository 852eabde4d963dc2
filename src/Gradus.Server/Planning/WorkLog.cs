using Gradus.Core.Planning;
using Gradus.Data;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Planning;

/// <summary>What full coupons took lately, by test: what planning learns minutes and filler from.</summary>
public sealed class WorkLog(GradusContext db)
{
    private const int MostLogs = 400;

    /// <summary>By test; <see cref="LoggedWork.None"/> is for one that is not named.</summary>
    public async Task<IReadOnlyDictionary<string, LoggedWork>> Read(CancellationToken cancel)
    {
        var rows = await db
            .Coupons.AsNoTracking()
            .Where(coupon => coupon.ClosedAt != null && coupon.VoidedAt == null && coupon.DrillId == null)
            .OrderByDescending(coupon => coupon.ClosedAt)
            .Take(MostLogs)
            .SelectMany(
                coupon => coupon.Closings.Where(closing => closing.WithdrawnAt == null && closing.EndedBy == null),
                (coupon, closing) => new { coupon.TestId, closing.Facts }
            )
            .ToListAsync(cancel);
        return rows.Where(row => row.Facts is not null)
            .GroupBy(row => row.TestId, row => row.Facts!)
            .ToDictionary(
                test => test.Key,
                test => new LoggedWork(
                    [.. test.Select(facts => facts.Minutes).OfType<double>().Where(minutes => minutes > 0)],
                    [.. test.Select(facts => facts.FillShare).OfType<double>()],
                    [.. test.Select(facts => facts.ArcMinutes).OfType<double>().Where(minutes => minutes > 0)]
                ),
                StringComparer.Ordinal
            );
    }
}
