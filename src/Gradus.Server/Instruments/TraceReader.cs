using Gradus.Core.Bench;
using Gradus.Core.Traces;
using Gradus.Data;
using Gradus.Server.Coupons;
using Gradus.Server.Library;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Instruments;

/// <summary>What is shown of arcs: of a coupon, of a student, of a booth right now.</summary>
public sealed class TraceReader(GradusContext db, TraceBook book, TraceFiles files, Inflow inflow, SchoolLibrary library)
{
    private const int MostBeads = 40;
    private const int MostTraces = 200;
    private const int LivePoints = 300;

    /// <summary>The arcs of a coupon; null when there is none.</summary>
    /// <param name="tellsWhom">Whether whoever asks may read the names of others in the booth.</param>
    public async Task<CouponArcs?> OfCoupon(Guid couponId, bool tellsWhom, CancellationToken cancel)
    {
        await inflow.Pack(cancel);
        var asked = await book.Match(cancel);
        if (await CouponLoad.Whole(db, couponId, cancel) is not { } coupon)
        {
            return null;
        }

        var traces = await db
            .Traces.AsNoTracking()
            .Where(trace => trace.CouponId == couponId && trace.Reading != null)
            .OrderBy(trace => trace.FromAt)
            .Take(MostTraces)
            .ToListAsync(cancel);
        var log = CouponLogs.Of(coupon, library);
        var beads = new List<BeadArcView>();
        foreach (var bead in traces.GroupBy(trace => trace.PassId!.Value))
        {
            if (coupon.Passes.FirstOrDefault(pass => pass.Id == bead.Key && pass.WithdrawnAt is null) is { } pass)
            {
                beads.Add(await View(coupon, pass, log, [.. bead], cancel));
            }
        }

        return new CouponArcs(
            beads,
            await Asked(coupon, asked, tellsWhom, cancel),
            coupon.ClosedAt is null
                && coupon.BoothId is { } booth
                && await db.Devices.AnyAsync(device => device.BoothId == booth && device.RemovedAt == null, cancel)
        );
    }

    /// <summary>The arcs of a student's last beads, the latest first.</summary>
    public async Task<StudentArcs> OfStudent(Guid studentId, CancellationToken cancel)
    {
        var traces = await db
            .Traces.AsNoTracking()
            .Where(trace => trace.StudentId == studentId && trace.Reading != null)
            .OrderByDescending(trace => trace.ArcEndedAt)
            .Take(MostTraces)
            .ToListAsync(cancel);
        if (traces.Count == 0)
        {
            return new StudentArcs([]);
        }

        var ids = traces.Select(trace => trace.PassId!.Value).Distinct().Take(MostBeads).ToList();
        var passes = await db.Passes.AsNoTracking().Where(pass => ids.Contains(pass.Id) && pass.WithdrawnAt == null).ToListAsync(cancel);
        var coupons = passes.Select(pass => pass.CouponId).Distinct().ToList();
        var of = await db.Coupons.AsNoTracking().Where(coupon => coupons.Contains(coupon.Id)).ToDictionaryAsync(coupon => coupon.Id, cancel);
        var found = await db
            .Findings.AsNoTracking()
            .Where(finding => finding.PassId != null && ids.Contains(finding.PassId.Value) && finding.WithdrawnAt == null)
            .Select(finding => finding.PassId!.Value)
            .ToListAsync(cancel);
        return new StudentArcs([
            .. passes
                .OrderByDescending(pass => pass.HappenedAt)
                .Select(pass =>
                {
                    var own = traces.Where(trace => trace.PassId == pass.Id).OrderBy(trace => trace.FromAt).ToList();
                    return BeadArc.Of(own.Select(trace => trace.Reading!)) is { } arc
                        ? new StudentArc(
                            pass.Id,
                            pass.CouponId,
                            of[pass.CouponId].Stamp,
                            of[pass.CouponId].TestId,
                            pass.Stage,
                            pass.Process,
                            pass.ElectrodeClass,
                            pass.HappenedAt,
                            of[pass.CouponId].ClosedAt is null ? null : !found.Contains(pass.Id),
                            arc,
                            [.. TraceReading.Best(own.SelectMany(trace => trace.Reading!.Moments)).Select(MomentView.From)]
                        )
                        : null;
                })
                .OfType<StudentArc>(),
        ]);
    }

    /// <summary>What a booth's logger measures right now; null where nothing comes.</summary>
    public async Task<LiveArc?> Live(Guid boothId, CancellationToken cancel)
    {
        var device = await db.Devices.AsNoTracking().FirstOrDefaultAsync(one => one.BoothId == boothId && one.RemovedAt == null, cancel);
        if (device is null || inflow.Live(device.Id) is not var (at, raw))
        {
            return null;
        }

        var last = Math.Max(0, raw.Amps.Length - raw.Hz);
        var (amps, volts) = (Known(raw.Amps[last..]), Known(raw.Volts[last..]));
        return new LiveArc(
            at,
            amps > TraceThresholds.Of("arcAmps") && volts > TraceThresholds.Of("arcVoltsMin"),
            amps,
            volts,
            raw.Points(LivePoints)
        );
    }

    private static double Known(double[] values) => values.Where(one => !double.IsNaN(one)).DefaultIfEmpty(0).Average();

    private async Task<BeadArcView> View(Coupon coupon, PassRecord pass, CouponLog log, List<TraceRecord> traces, CancellationToken cancel)
    {
        var arc = BeadArc.Of(traces.Select(trace => trace.Reading!))!;
        var numbers = log.Passes.FirstOrDefault(one => one.Id == pass.Id) is { } logged ? RunNumbers.Of(log.Test, logged) : null;
        var clean = (await book.CleanTraces(coupon.StudentId, pass, 1, cancel)).FirstOrDefault();
        var from = clean is null ? null : await db.Coupons.AsNoTracking().FirstOrDefaultAsync(one => one.Id == clean.CouponId, cancel);
        return new BeadArcView(
            pass.Id,
            [
                .. traces.Select(trace => new ArcTraceView(
                    trace.Id,
                    trace.StartsAt,
                    (trace.ArcEndedAt - trace.StartsAt).TotalSeconds,
                    trace.Hz,
                    trace.Reading!.Runs,
                    [.. trace.Reading.Moments.Select(MomentView.From)],
                    [.. TraceReading.Best(trace.Reading.Moments).Select(MomentView.From)],
                    HasPoints(trace)
                )),
            ],
            arc,
            numbers?.TravelMmPerMin,
            numbers?.HeatKJPerMm,
            await book.OwnVolts(coupon.StudentId, pass, cancel),
            clean is { PassId: { } cleanPass } && from is not null && BeadArc.Of([clean.Reading!]) is { } cleanArc
                ? new CleanArc(cleanPass, from.Id, from.Stamp, clean.ArcEndedAt, clean.Id, cleanArc, HasPoints(clean))
                : null
        );
    }

    private bool HasPoints(TraceRecord trace) => trace.RawGoneAt is null && File.Exists(files.PathOf(trace.DeviceId, trace.Id));

    private async Task<IReadOnlyList<AskedTrace>> Asked(Coupon coupon, IReadOnlyList<ArcFit> asked, bool tellsWhom, CancellationToken cancel)
    {
        var own = coupon.Passes.Select(pass => pass.Id).ToHashSet();
        var mine = asked.Where(fit => fit.Beads.Any(own.Contains)).ToList();
        if (mine.Count == 0)
        {
            return [];
        }

        var arcs = mine.Select(fit => fit.Arc).ToList();
        var ids = mine.SelectMany(fit => fit.Beads).Distinct().ToList();
        var beads = await (
            from pass in db.Passes.AsNoTracking()
            join one in db.Coupons.AsNoTracking() on pass.CouponId equals one.Id
            join student in db.Students.AsNoTracking() on one.StudentId equals student.Id
            where ids.Contains(pass.Id)
            select new FittingBead(pass.Id, one.Id, one.Stamp, tellsWhom || one.Id == coupon.Id ? student.Name : "", pass.BeadKey, pass.HappenedAt)
        ).ToListAsync(cancel);
        return
        [
            .. (await db.Traces.AsNoTracking().Where(trace => arcs.Contains(trace.Id)).OrderBy(trace => trace.FromAt).ToListAsync(cancel)).Select(
                trace => new AskedTrace(
                    trace.Id,
                    trace.FromAt,
                    trace.ArcEndedAt,
                    trace.ArcSeconds,
                    [.. mine.First(fit => fit.Arc == trace.Id).Beads.Select(id => beads.First(bead => bead.PassId == id))]
                )
            ),
        ];
    }
}
