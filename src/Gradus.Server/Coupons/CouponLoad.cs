using Gradus.Data;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Coupons;

/// <summary>
/// Loads a coupon with everything that belongs to it. One small compiled query for each kind of record, each through its index: put together as
/// one query with its parts, translating and joining cost several times what the rows do.
/// </summary>
internal static class CouponLoad
{
    private static readonly Func<GradusContext, Guid, Task<Coupon?>> OfId = EF.CompileAsyncQuery(
        (GradusContext db, Guid id) =>
            db.Coupons.AsNoTracking().Include(one => one.Student).Include(one => one.Booth).FirstOrDefault(one => one.Id == id)
    );

    private static readonly Func<GradusContext, Guid, IAsyncEnumerable<FitUpRecord>> FitUps = EF.CompileAsyncQuery(
        (GradusContext db, Guid id) => db.FitUps.AsNoTracking().Where(one => one.CouponId == id)
    );

    private static readonly Func<GradusContext, Guid, IAsyncEnumerable<PassRecord>> Passes = EF.CompileAsyncQuery(
        (GradusContext db, Guid id) => db.Passes.AsNoTracking().Where(one => one.CouponId == id)
    );

    private static readonly Func<GradusContext, Guid, IAsyncEnumerable<FindingRecord>> Findings = EF.CompileAsyncQuery(
        (GradusContext db, Guid id) => db.Findings.AsNoTracking().Where(one => one.CouponId == id)
    );

    private static readonly Func<GradusContext, Guid, IAsyncEnumerable<NoteRecord>> Notes = EF.CompileAsyncQuery(
        (GradusContext db, Guid id) => db.Notes.AsNoTracking().Where(one => one.CouponId == id)
    );

    private static readonly Func<GradusContext, Guid, IAsyncEnumerable<EventRecord>> Events = EF.CompileAsyncQuery(
        (GradusContext db, Guid id) => db.Events.AsNoTracking().Where(one => one.CouponId == id)
    );

    private static readonly Func<GradusContext, Guid, IAsyncEnumerable<PhotoRecord>> Photos = EF.CompileAsyncQuery(
        (GradusContext db, Guid id) => db.Photos.AsNoTracking().Where(one => one.CouponId == id)
    );

    private static readonly Func<GradusContext, Guid, IAsyncEnumerable<ClosingRecord>> Closings = EF.CompileAsyncQuery(
        (GradusContext db, Guid id) => db.Closings.AsNoTracking().Where(one => one.CouponId == id)
    );

    private static readonly Func<GradusContext, Guid, IAsyncEnumerable<TraceRecord>> Traces = EF.CompileAsyncQuery(
        (GradusContext db, Guid id) => db.Traces.AsNoTracking().Where(one => one.CouponId == id && one.Reading != null)
    );

    /// <summary>The coupon, not tracked; null when there is none. What was taken back is in it as well.</summary>
    public static async Task<Coupon?> Whole(GradusContext db, Guid id, CancellationToken cancel)
    {
        // One connection for all of it: each opening costs as much as a small query.
        await db.Database.OpenConnectionAsync(cancel);
        try
        {
            if (await OfId(db, id) is not { } coupon)
            {
                return null;
            }

            await Fill(coupon.FitUps, FitUps(db, id), cancel);
            await Fill(coupon.Passes, Passes(db, id), cancel);
            await Fill(coupon.Findings, Findings(db, id), cancel);
            await Fill(coupon.Notes, Notes(db, id), cancel);
            await Fill(coupon.Events, Events(db, id), cancel);
            await Fill(coupon.Photos, Photos(db, id), cancel);
            await Fill(coupon.Closings, Closings(db, id), cancel);
            await Fill(coupon.Traces, Traces(db, id), cancel);
            return coupon;
        }
        finally
        {
            await db.Database.CloseConnectionAsync();
        }
    }

    /// <summary>Gives a coupon that was loaded otherwise what was measured of its arcs.</summary>
    public static async Task AddTraces(GradusContext db, Coupon coupon, CancellationToken cancel)
    {
        coupon.Traces.Clear();
        await Fill(coupon.Traces, Traces(db, coupon.Id), cancel);
    }

    /// <summary>The coupons in work of some students, the latest first, with what stands on them. None is closed, so none has a closing.</summary>
    public static async Task<IReadOnlyList<Coupon>> Open(GradusContext db, IReadOnlyCollection<Guid> studentIds, CancellationToken cancel)
    {
        var coupons = await db
            .Coupons.AsNoTracking()
            .Where(coupon => coupon.ClosedAt == null && studentIds.Contains(coupon.StudentId))
            .OrderByDescending(coupon => coupon.StartedAt)
            .Take(Hosting.Limits.OpenCoupons)
            .Include(coupon => coupon.Booth)
            .Include(coupon => coupon.Student)
            .ToListAsync(cancel);
        var known = coupons.ToDictionary(coupon => coupon.Id);
        var ids = known.Keys.ToList();
        async Task Add<T>(DbSet<T> records, Func<Coupon, List<T>> to)
            where T : CouponRecord
        {
            foreach (
                var record in await records.AsNoTracking().Where(one => ids.Contains(one.CouponId) && one.WithdrawnAt == null).ToListAsync(cancel)
            )
            {
                to(known[record.CouponId]).Add(record);
            }
        }

        await Add(db.FitUps, coupon => coupon.FitUps);
        await Add(db.Passes, coupon => coupon.Passes);
        await Add(db.Findings, coupon => coupon.Findings);
        await Add(db.Events, coupon => coupon.Events);
        return coupons;
    }

    private static async Task Fill<T>(List<T> list, IAsyncEnumerable<T> rows, CancellationToken cancel)
    {
        await foreach (var row in rows.WithCancellation(cancel))
        {
            list.Add(row);
        }
    }
}
