using Gradus.Core.Bench;
using Gradus.Core.Library;
using Gradus.Core.Traces;
using Gradus.Data;
using Gradus.Server.Coupons;
using Gradus.Server.Hosting;
using Gradus.Server.Library;
using Gradus.Server.School;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Instruments;

/// <summary>Finds the bead of each trace, and reads the trace for it.</summary>
public sealed class TraceBook(GradusContext db, TraceFiles files, SchoolLibrary library, SchoolClock clock, Writes writes)
{
    // What nobody wrote down until the next day is asked about no more.
    private static readonly TimeSpan Young = TimeSpan.FromHours(16);
    private const int MostAtOnce = 500;
    private const int MostBeads = 5000;

    /// <summary>Gives traces that fit one bead to it.</summary>
    /// <returns>Those that fit several, with these.</returns>
    public async Task<IReadOnlyList<ArcFit>> Match(CancellationToken cancel)
    {
        var since = clock.Now - Young;
        var loose = await db
            .Traces.AsNoTracking()
            .Where(trace => trace.ArcEndedAt >= since && trace.SaidBy == null)
            // Also one whose bead was taken back: it was welded all the same, and may be written down anew.
            .Where(trace => trace.PassId == null || db.Passes.Any(pass => pass.Id == trace.PassId && pass.WithdrawnAt != null))
            .OrderBy(trace => trace.ArcEndedAt)
            .Take(MostAtOnce)
            .ToListAsync(cancel);
        var asked = new List<ArcFit>();
        foreach (var inBooth in loose.GroupBy(trace => trace.BoothId))
        {
            var first = inBooth.Min(trace => trace.FromAt);
            var beads = (
                await db
                    .Passes.AsNoTracking()
                    .Where(pass => pass.WithdrawnAt == null && pass.HappenedAt >= first)
                    .Where(pass => db.Coupons.Any(coupon => coupon.Id == pass.CouponId && coupon.BoothId == inBooth.Key))
                    .OrderBy(pass => pass.HappenedAt)
                    .Take(MostBeads)
                    .Select(pass => new
                    {
                        pass.Id,
                        pass.CouponId,
                        pass.HappenedAt,
                    })
                    .ToListAsync(cancel)
            ).Select(pass => new WrittenBead(pass.Id, pass.CouponId, pass.HappenedAt));
            foreach (var fit in ArcMatch.Of(inBooth.Select(trace => new BurntArc(trace.Id, trace.FromAt, trace.ArcEndedAt)), beads))
            {
                if (fit.Beads.Count == 1)
                {
                    await Give(fit.Arc, fit.Beads[0], null, cancel);
                }
                else if (fit.Beads.Count > 1)
                {
                    asked.Add(fit);
                }
            }
        }

        return asked;
    }

    /// <summary>Gives a trace to a bead, or to none.</summary>
    /// <param name="by">Who says so; null where the time does.</param>
    public Task<Outcome<Written>> Give(Guid traceId, Guid? passId, Guid? by, CancellationToken cancel) =>
        writes.Whole<Written>(
            async () =>
            {
                if (await db.Traces.FirstOrDefaultAsync(one => one.Id == traceId, cancel) is not { } trace)
                {
                    return Refusal.NotFound("traceId", "A trace of this school.");
                }

                if (passId is null)
                {
                    var was = trace.PassId is not null || trace.SaidBy is null;
                    (trace.PassId, trace.CouponId, trace.StudentId, trace.Reading, trace.SaidBy) = (null, null, null, null, by);
                    await db.SaveChangesAsync(cancel);
                    return new Written(traceId, was);
                }

                if (await db.Passes.AsNoTracking().FirstOrDefaultAsync(one => one.Id == passId && one.WithdrawnAt == null, cancel) is not { } pass)
                {
                    return Refusal.NotFound("passId", "A bead that stands.");
                }

                if (by is null && trace.SaidBy is not null)
                {
                    return new Written(traceId, false); // somebody said otherwise in the meantime
                }

                var coupon = await db.Coupons.AsNoTracking().FirstAsync(one => one.Id == pass.CouponId, cancel);
                if (coupon.BoothId != trace.BoothId)
                {
                    return Refusal.Conflict("passId", "That bead was welded in another booth.");
                }

                var isNew = trace.PassId != passId;
                (trace.PassId, trace.CouponId, trace.StudentId) = (pass.Id, coupon.Id, coupon.StudentId);
                trace.SaidBy = by ?? trace.SaidBy;
                trace.Reading = await Read(trace, pass, coupon, cancel) ?? trace.Reading;
                await db.SaveChangesAsync(cancel);
                return new Written(traceId, isNew);
            },
            cancel
        );

    /// <summary>Reads a trace as the arc of a bead; null where its measurements are gone.</summary>
    private async Task<TraceReading?> Read(TraceRecord trace, PassRecord pass, Coupon coupon, CancellationToken cancel)
    {
        if (files.Read(trace.DeviceId, trace.Id, trace.Hz) is not { } raw)
        {
            return null;
        }

        var test = library.Test(coupon.TestId, coupon.TestVersion).With(coupon.Variants);
        var plan = PlanOf(test, pass);
        // What was welded in this trace alone is not known where the bead has several: each is read by its own time, and length is of the bead.
        return TraceAnalyser.Read(
            raw.For(pass.Process, Electrodes.FamilyOf(pass.ElectrodeClass), trace.LeadVolts),
            new TraceCard(
                plan?.Settings.Amps,
                plan?.Settings.Volts,
                plan?.Settings.WireFeedMmPerMin,
                OwnVolts: await OwnVolts(coupon.StudentId, pass, cancel)
            )
        );
    }

    /// <summary>The card that a bead is welded by.</summary>
    internal static PassPlan? PlanOf(TestTemplate test, PassRecord pass) =>
        test.Passes.FirstOrDefault(plan => plan.Stage == pass.Stage && plan.Filler.Classification == pass.ElectrodeClass)
        ?? test.Passes.FirstOrDefault(plan => plan.Stage == pass.Stage && plan.Process == pass.Process);

    /// <summary>The volts of a student's own clean beads with an electrode: the median of the last, once there are enough.</summary>
    internal async Task<double?> OwnVolts(Guid studentId, PassRecord pass, CancellationToken cancel)
    {
        var enough = (int)TraceThresholds.Of("referenceBeads");
        var volts = (await CleanTraces(studentId, pass, 3 * enough, cancel))
            .Select(one => BeadArc.Of([one.Reading!])?.MeanVolts)
            .OfType<double>()
            .Order()
            .ToList();
        return volts.Count < enough ? null : (volts[(volts.Count - 1) / 2] + volts[volts.Count / 2]) / 2;
    }

    /// <summary>The last traces of beads of one kind in which nothing was found, on coupons that are closed.</summary>
    internal Task<List<TraceRecord>> CleanTraces(Guid studentId, PassRecord pass, int most, CancellationToken cancel) =>
        db
            .Traces.AsNoTracking()
            .Where(trace => trace.StudentId == studentId && trace.PassId != pass.Id && trace.Reading != null)
            .Where(trace =>
                db.Passes.Any(one =>
                    one.Id == trace.PassId
                    && one.WithdrawnAt == null
                    && one.ElectrodeClass == pass.ElectrodeClass
                    && one.Process == pass.Process
                    && one.Stage == pass.Stage
                )
            )
            .Where(trace => db.Coupons.Any(coupon => coupon.Id == trace.CouponId && coupon.ClosedAt != null && coupon.VoidedAt == null))
            .Where(trace => !db.Findings.Any(finding => finding.PassId == trace.PassId && finding.WithdrawnAt == null))
            .OrderByDescending(trace => trace.ArcEndedAt)
            .Take(most)
            .ToListAsync(cancel);
}
