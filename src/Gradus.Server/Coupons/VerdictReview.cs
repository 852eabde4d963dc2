using Gradus.Core.Bench;
using Gradus.Core.Inspection;
using Gradus.Data;
using Gradus.Server.Library;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Coupons;

/// <summary>A closing whose verdict is not the one that its record gives.</summary>
public sealed record WrongVerdict(
    Guid CouponId,
    string Stamp,
    string Student,
    string TestId,
    DateTimeOffset ClosedAt,
    VerdictKind Kept,
    VerdictKind Now
);

/// <summary>
/// Judges every closed coupon again by its own record, with the test that it was made to and the limits of today. It lists and changes nothing:
/// an instructor opens such a coupon again and closes it.
/// </summary>
public sealed class VerdictReview(GradusContext db, SchoolLibrary library)
{
    private const int AtOnce = 200;

    /// <summary>The wrong ones, oldest first.</summary>
    public async Task<IReadOnlyList<WrongVerdict>> Wrong(CancellationToken cancel)
    {
        var wrong = new List<WrongVerdict>();
        var last = 0L;
        while (true)
        {
            var coupons = await db
                .Coupons.AsNoTracking()
                .Where(coupon => coupon.ClosedAt != null && coupon.VoidedAt == null && coupon.Number > last)
                .OrderBy(coupon => coupon.Number)
                .Take(AtOnce)
                .WithRecords()
                .ToListAsync(cancel);
            if (coupons.Count == 0)
            {
                return wrong;
            }

            last = coupons[^1].Number;
            foreach (var coupon in coupons)
            {
                var log = CouponLogs.Of(coupon, library);
                if (
                    log.Closing is { } closing
                    && log.Verdict() is var now
                    && now.Kind != closing.Verdict.Kind
                    && IsOfTheSameRules(closing.Verdict, now)
                )
                {
                    wrong.Add(
                        new WrongVerdict(coupon.Id, coupon.Stamp, coupon.Student!.Name, coupon.TestId, closing.At, closing.Verdict.Kind, now.Kind)
                    );
                }
            }
        }
    }

    /// <summary>A verdict by other limits than today's is not wrong for that.</summary>
    private static bool IsOfTheSameRules(CouponVerdict kept, CouponVerdict now) =>
        (kept.ProfileId, kept.ProfileVersion, kept.TemplateId, kept.TemplateVersion)
        == (now.ProfileId, now.ProfileVersion, now.TemplateId, now.TemplateVersion);
}
