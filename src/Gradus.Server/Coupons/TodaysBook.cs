using System.Text.Json;
using Gradus.Core.Bench;
using Gradus.Core.Inspection;
using Gradus.Data;
using Gradus.Server.Hosting;
using Gradus.Server.Library;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Coupons;

/// <summary>A signed verdict that today's limits read otherwise.</summary>
/// <param name="Kept">As it was signed, by the limits of then; it stays so.</param>
/// <param name="Today">By the limits of today.</param>
/// <param name="Says">What decides today, in words.</param>
/// <param name="Counts">True when today's counts in readiness; false once a lead let the signed one count.</param>
public sealed record TodaysRow(
    Guid ClosingId,
    Guid CouponId,
    string Stamp,
    string Student,
    string TestId,
    DateTimeOffset ClosedAt,
    VerdictKind Kept,
    VerdictKind Today,
    string Says,
    bool Counts
);

/// <summary>The verdicts that today's limits read otherwise: the newest of them, and how many there are.</summary>
public sealed record TodaysList(int Total, IReadOnlyList<TodaysRow> Rows);

/// <summary>Judges signed coupons anew when limits have changed, and keeps what came of it beside the signature.</summary>
public sealed class TodaysBook(GradusContext db, SchoolLibrary library, Writes writes, TimeProvider time)
{
    private const int AtOnce = 100;

    // One review at a time: two would both keep what came of the same closing.
    private static readonly SemaphoreSlim Turn = new(1, 1);

    private sealed record Old(long Row, Guid CouponId);

    /// <summary>Judges every closing anew that was made, or judged anew last, by another version of its profile.</summary>
    /// <returns>How many read otherwise than before.</returns>
    public async Task<int> Review(CancellationToken cancel)
    {
        await Turn.WaitAsync(cancel);
        try
        {
            return await ReviewAll(cancel);
        }
        finally
        {
            Turn.Release();
        }
    }

    private async Task<int> ReviewAll(CancellationToken cancel)
    {
        var versions = JsonSerializer.Serialize(library.Profiles.ToDictionary(one => one.Key, one => one.Value.Version));
        var (last, changed) = (0L, 0);
        while (true)
        {
            var old = await db
                .Database.SqlQuery<Old>(
                    $"""
                    SELECT c.rowid AS "Row", c."CouponId" FROM "Closings" AS c
                    JOIN "Coupons" AS k ON k."Id" = c."CouponId"
                    LEFT JOIN "TodaysVerdicts" AS t ON t."ClosingId" = c."Id"
                    WHERE c.rowid > {last} AND c."WithdrawnAt" IS NULL AND c."EndedBy" IS NULL AND k."VoidedAt" IS NULL
                    AND coalesce(t."ProfileVersion", json_extract(c."Verdict", '$.profileVersion'))
                        <> (SELECT value FROM json_each({versions}) WHERE key = json_extract(c."Verdict", '$.profileId'))
                    ORDER BY c.rowid LIMIT {AtOnce}
                    """
                )
                .ToListAsync(cancel);
            if (old.Count == 0)
            {
                return changed;
            }

            last = old[^1].Row;

            // Judged first and kept then: nobody's write waits for the judging.
            changed += await Judge([.. old.Select(one => one.CouponId)], cancel);
            await writes.Whole(() => db.SaveChangesAsync(cancel), _ => true, cancel);
            db.ChangeTracker.Clear();
        }
    }

    /// <summary>The newest that read otherwise.</summary>
    public async Task<TodaysList> List(CancellationToken cancel)
    {
        // Of closings that stand: one that was taken back or followed by another is read by its follower.
        var differing = db
            .TodaysVerdicts.AsNoTracking()
            .Where(one => one.Differs)
            .Join(
                db.Closings.Where(one => one.WithdrawnAt == null && one.EndedBy == null),
                today => today.ClosingId,
                closing => closing.Id,
                (today, closing) => new { today, closing }
            );
        var rows = await differing
            .OrderByDescending(one => one.today.At)
            .ThenBy(one => one.today.ClosingId)
            .Join(
                db.Coupons,
                one => one.closing.CouponId,
                coupon => coupon.Id,
                (one, coupon) =>
                    new
                    {
                        one.today,
                        one.closing,
                        coupon,
                    }
            )
            .Take(Limits.PageRows)
            .Select(one => new
            {
                one.today,
                one.closing.Kind,
                one.coupon.Id,
                one.coupon.Stamp,
                one.coupon.TestId,
                one.coupon.ClosedAt,
                one.coupon.Student!.Name,
            })
            .ToListAsync(cancel);
        return new TodaysList(
            await differing.CountAsync(cancel),
            [
                .. rows.Select(one => new TodaysRow(
                    one.today.ClosingId,
                    one.Id,
                    one.Stamp,
                    one.Name,
                    one.TestId,
                    one.ClosedAt!.Value,
                    one.Kind,
                    one.today.Verdict!.Kind,
                    Says(one.today.Verdict),
                    one.today.DeclinedAt is null
                )),
            ]
        );
    }

    /// <summary>Lets the signed verdict count in readiness, or today's again; of one closing, or of all for null.</summary>
    public async Task<Outcome<Written>> Decline(Guid? closingId, bool declined, Guid by, CancellationToken cancel)
    {
        var own = await db.TodaysVerdicts.Where(one => one.Differs && (closingId == null || one.ClosingId == closingId)).ToListAsync(cancel);
        if (own.Count == 0 && closingId is not null)
        {
            return Refusal.NotFound("closingId", "A closing that today's limits read otherwise.");
        }

        foreach (var one in own.Where(one => one.DeclinedAt is not null != declined))
        {
            one.DeclinedAt = declined ? time.GetUtcNow() : null;
            one.DeclinedBy = declined ? by : null;
        }

        await db.SaveChangesAsync(cancel);
        return new Written(closingId ?? Guid.Empty, true);
    }

    /// <summary>What decides a verdict, in a sentence.</summary>
    internal static string Says(CouponVerdict verdict) =>
        verdict.Visual.Reasons.FirstOrDefault(reason => reason.Outcome == verdict.Kind)?.Rule
        ?? verdict.Specimens?.SelectMany(one => one.Verdict.Reasons).FirstOrDefault(reason => reason.Outcome == verdict.Kind)?.Rule
        ?? CouponLog.Sentence(verdict);

    private async Task<int> Judge(IReadOnlyList<Guid> couponIds, CancellationToken cancel)
    {
        var changed = 0;
        var coupons = await db.Coupons.AsNoTracking().Where(coupon => couponIds.Contains(coupon.Id)).WithRecords().ToListAsync(cancel);
        var known = await db.TodaysVerdicts.Where(one => couponIds.Contains(one.CouponId)).ToDictionaryAsync(one => one.ClosingId, cancel);
        foreach (var coupon in coupons)
        {
            if (FollowUp.Chain(coupon) is not [var standing, ..])
            {
                continue;
            }

            var log = CouponLogs.Of(coupon, library);
            if (log.Today(standing.Facts) is not { } today)
            {
                continue;
            }

            if (!known.TryGetValue(standing.Id, out var row))
            {
                row = new TodaysVerdict { ClosingId = standing.Id, CouponId = coupon.Id };
                db.TodaysVerdicts.Add(row);
            }

            // The profile is named by the closing: a coupon put under another code since is judged by that when it is closed anew.
            row.ProfileVersion = library.Profiles.GetValueOrDefault(standing.Verdict.ProfileId)?.Version ?? log.Profile.Version;
            if (row.Differs != today.Differs || row.Verdict?.Kind != (today.Differs ? today.Made.Verdict.Kind : null))
            {
                // What a lead declined was another reading.
                (row.DeclinedAt, row.DeclinedBy) = (null, null);
                changed++;
            }

            row.At = time.GetUtcNow();
            row.Differs = today.Differs;
            row.Verdict = today.Differs ? today.Made.Verdict : null;
            row.Facts = today.Differs ? today.Made.Facts : null;
            row.Decides = today.Made.Verdict.Decides && !today.Made.Hidden;
        }

        return changed;
    }
}
