using Gradus.Core.Bench;
using Gradus.Core.Traces;
using Gradus.Data;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Coupons;

/// <summary>Reads what the cards of a student's next passes start from.</summary>
public static class RecentPasses
{
    private const int RecentDays = 90;
    private const int MostPasses = 4000;

    // What was measured lately says enough of a machine; each is some kilobytes to read.
    private const int MostTraces = 60;

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
                coupon => coupon.Closings.Where(closing => closing.WithdrawnAt == null && closing.EndedBy == null),
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

    private sealed record Row(
        Guid PassId,
        Guid CouponId,
        Guid? BoothId,
        string BeadKey,
        Stage Stage,
        Process Process,
        string ElectrodeClass,
        double DiameterMm,
        double Amps,
        double? Volts,
        double? WireFeedMmPerMin,
        OperatorHand Hand
    );

    private sealed record Judged(Guid CouponId, Dictionary<Stage, bool> StageClean);

    private static readonly Func<GradusContext, Guid, string, DateTimeOffset, IAsyncEnumerable<Row>> PassesOf = EF.CompileAsyncQuery(
        (GradusContext db, Guid student, string test, DateTimeOffset since) =>
            db
                .Coupons.AsNoTracking()
                .Where(coupon => coupon.StudentId == student && coupon.TestId == test && coupon.StartedAt >= since)
                .SelectMany(coupon => coupon.Passes.Where(pass => pass.WithdrawnAt == null), (coupon, pass) => new { coupon, pass })
                .OrderByDescending(one => one.pass.HappenedAt)
                .Take(MostPasses)
                .Select(one => new Row(
                    one.pass.Id,
                    one.coupon.Id,
                    one.coupon.BoothId,
                    one.pass.BeadKey,
                    one.pass.Stage,
                    one.pass.Process,
                    one.pass.ElectrodeClass,
                    one.pass.DiameterMm,
                    one.pass.Amps,
                    one.pass.Volts,
                    one.pass.WireFeedMmPerMin,
                    one.pass.Hand
                ))
    );

    private static readonly Func<GradusContext, Guid, string, DateTimeOffset, IAsyncEnumerable<Judged>> JudgedOf = EF.CompileAsyncQuery(
        (GradusContext db, Guid student, string test, DateTimeOffset since) =>
            db
                .Coupons.AsNoTracking()
                .Where(coupon => coupon.StudentId == student && coupon.TestId == test && coupon.StartedAt >= since)
                .Where(coupon => coupon.ClosedAt != null && coupon.VoidedAt == null)
                .SelectMany(
                    coupon => coupon.Closings.Where(closing => closing.WithdrawnAt == null && closing.EndedBy == null),
                    (coupon, closing) => new Judged(coupon.Id, closing.StageClean)
                )
    );

    private sealed record Measured(Guid PassId, TraceReading Reading);

    private static readonly Func<GradusContext, Guid, DateTimeOffset, IAsyncEnumerable<Measured>> ArcsOf = EF.CompileAsyncQuery(
        (GradusContext db, Guid student, DateTimeOffset since) =>
            db
                .Traces.AsNoTracking()
                .Where(trace => trace.StudentId == student && trace.ArcEndedAt >= since && trace.PassId != null && trace.Reading != null)
                .OrderByDescending(trace => trace.ArcEndedAt)
                .Take(MostTraces)
                .Select(trace => new Measured(trace.PassId!.Value, trace.Reading!))
    );

    /// <summary>The passes of one student on one test in the last 90 days, latest first: compiled, for the bench asks with every pass.</summary>
    public static async Task<IReadOnlyList<RecentPass>> Read(
        GradusContext db,
        Guid studentId,
        string testId,
        DateTimeOffset now,
        CancellationToken cancel
    )
    {
        var since = now.AddDays(-RecentDays);
        var clean = new Dictionary<Guid, Dictionary<Stage, bool>>();
        await foreach (var one in JudgedOf(db, studentId, testId, since).WithCancellation(cancel))
        {
            clean[one.CouponId] = one.StageClean;
        }

        var arcs = new Dictionary<Guid, List<TraceReading>>();
        await foreach (var one in ArcsOf(db, studentId, since).WithCancellation(cancel))
        {
            (arcs.TryGetValue(one.PassId, out var of) ? of : arcs[one.PassId] = []).Add(one.Reading);
        }

        var recent = new List<RecentPass>();
        await foreach (var row in PassesOf(db, studentId, testId, since).WithCancellation(cancel))
        {
            recent.Add(
                new RecentPass(
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
                    clean.TryGetValue(row.CouponId, out var stages) && stages.TryGetValue(row.Stage, out var was) ? was : null,
                    arcs.TryGetValue(row.PassId, out var read) ? BeadArc.Of(read) : null
                )
            );
        }

        return recent;
    }
}
