using Gradus.Core.Bench;
using Gradus.Data;
using Gradus.Server.Accounts;
using Gradus.Server.Library;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Coupons;

/// <summary>Who did what to a coupon and when, in words. What was taken back stays in it, and so does the taking back.</summary>
public static class History
{
    private const int PageRows = 50;
    private static readonly TimeSpan AMoment = TimeSpan.FromMinutes(1);

    public static void Map(RouteGroupBuilder coupon) => coupon.MapGet("/history", Read).Produces<HistoryPage>();

    private static async Task<IResult> Read(
        Guid couponId,
        DateTimeOffset? before,
        CouponRecorder recorder,
        GradusContext db,
        SchoolLibrary library,
        CancellationToken cancel
    )
    {
        if (await recorder.Load(couponId, cancel) is not { } coupon)
        {
            return CouponRecorder.UnknownCoupon().ToResult();
        }

        var names = await Names.Of(db, cancel);
        var words = await WordsOf(coupon, db, library, cancel);
        var rows = coupon
            .AllRecords()
            .SelectMany(record => Rows(record, words, names))
            .Append(
                new HistoryRow(
                    coupon.StartedAt,
                    names[coupon.StartedBy],
                    $"Coupon {coupon.Stamp} started",
                    false,
                    Late(coupon.StartedAt, coupon.ArrivedAt),
                    coupon.SentBy is { } sender ? names[sender] : null
                )
            )
            .Where(row => before is null || row.At < before)
            .OrderByDescending(row => row.At)
            .ToList();

        // Rows of one moment stay on one page, so that none is skipped between two.
        var last = rows.Count > PageRows ? rows[PageRows - 1].At : (DateTimeOffset?)null;
        return TypedResults.Ok(
            new HistoryPage([.. rows.TakeWhile(row => last is null || row.At >= last)], rows.Any(row => row.At < last) ? last : null)
        );
    }

    private static async Task<HistoryWords> WordsOf(Coupon coupon, GradusContext db, SchoolLibrary library, CancellationToken cancel)
    {
        var said = coupon.Events.SelectMany(one => new[] { one.Body.Was, one.Body.Correction }).OfType<CouponCorrection>().ToList();
        var students = said.Select(one => one.StudentId).OfType<Guid>().Distinct().ToList();
        var booths = said.Select(one => one.BoothId).OfType<Guid>().Distinct().ToList();
        return new HistoryWords(
            coupon,
            CouponLogs.Of(coupon, library),
            students.Count == 0
                ? new Dictionary<Guid, string>()
                : await db.Students.Where(one => students.Contains(one.Id)).ToDictionaryAsync(one => one.Id, one => one.Name, cancel),
            booths.Count == 0
                ? new Dictionary<Guid, int>()
                : await db.Booths.Where(one => booths.Contains(one.Id)).ToDictionaryAsync(one => one.Id, one => one.Number, cancel)
        );
    }

    private static IEnumerable<HistoryRow> Rows(CouponRecord record, HistoryWords words, IReadOnlyDictionary<Guid, string> names)
    {
        var says = record.Proposed ? $"Proposed: {words.Says(record)}" : words.Says(record);
        yield return new HistoryRow(
            record.HappenedAt,
            names[record.RecordedBy],
            says,
            false,
            Late(record.HappenedAt, record.RecordedAt),
            record.SentBy is { } sender ? names[sender] : null
        );
        if (record is { ConfirmedAt: { } confirmed, ConfirmedBy: { } confirmer })
        {
            yield return new HistoryRow(confirmed, names[confirmer], $"Confirmed: {words.Says(record)}", false, null, null);
        }

        if (record is { WithdrawnAt: { } at, WithdrawnBy: { } by })
        {
            yield return new HistoryRow(at, names[by], says, true, null, null);
        }
    }

    /// <summary>When it arrived, where that was more than a moment after it happened.</summary>
    private static DateTimeOffset? Late(DateTimeOffset happened, DateTimeOffset? arrived) => arrived - happened > AMoment ? arrived : null;
}
