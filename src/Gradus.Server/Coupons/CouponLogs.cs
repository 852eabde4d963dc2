using Gradus.Core.Bench;
using Gradus.Core.Inspection;
using Gradus.Core.Library;
using Gradus.Core.Measure;
using Gradus.Core.Traces;
using Gradus.Data;
using Gradus.Server.Hosting;
using Gradus.Server.Library;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Coupons;

/// <summary>A coupon as it is kept, as the plain values that the core goes by.</summary>
public static class CouponLogs
{
    /// <summary>The test that a coupon is of, as it is welded, cut and judged; and what it is judged by.</summary>
    public static (TestTemplate Test, AcceptanceProfile Profile) TestOf(Coupon coupon, SchoolLibrary library)
    {
        var own = library.Test(coupon.TestId, coupon.TestVersion).With(coupon.Variants);

        // Judged by another code it is cut as that code has it, too.
        var profile = library.Profiles.GetValueOrDefault(coupon.JudgedBy ?? own.Code) ?? library.Profiles[own.Code];
        var cut = coupon.JudgedBy is null ? own : own.JudgedBy(profile.Code) ?? own;
        return (coupon.Terms is { } terms ? cut.SatUnder(terms.Rules, terms.ByFilm) : cut, profile);
    }

    /// <summary>The log of a coupon that was loaded with its records.</summary>
    public static CouponLog Of(Coupon coupon, SchoolLibrary library)
    {
        var (test, profile) = TestOf(coupon, library);
        var closings = FollowUp
            .Chain(coupon)
            .Reverse()
            .Select(one => new LoggedClosing(one.Id, one.HappenedAt, one.Verdict, one.Because, one.EventId))
            .ToList();
        return new CouponLog(
            test,
            profile,
            coupon.DrillId,
            coupon.AsTest,
            new CouponRecords(
                [.. Standing(coupon.FitUps).Select(one => new LoggedFitUp(one.Id, one.HappenedAt, one.Measured))],
                [.. Standing(coupon.Passes).Select(one => Of(one, test.Product, coupon.Traces))],
                [.. Standing(coupon.Findings).Select(Of)],
                [.. Standing(coupon.Events).Select(one => new BenchEvent(one.Id, one.Kind, one.HappenedAt, one.Body))],
                closings.FirstOrDefault(),
                [.. closings.Skip(1)],
                coupon.Student?.SafetySignedAt is not null
            )
        );
    }

    /// <summary>With all that a log is made from.</summary>
    public static IQueryable<Coupon> WithRecords(this IQueryable<Coupon> coupons) =>
        coupons
            .AsSplitQuery()
            .Include(coupon => coupon.Student)
            .Include(coupon => coupon.FitUps)
            .Include(coupon => coupon.Passes)
            .Include(coupon => coupon.Findings)
            .Include(coupon => coupon.Events)
            .Include(coupon => coupon.Closings);

    /// <summary>A finding as the core has it.</summary>
    public static LoggedFinding Of(FindingRecord one) =>
        new(
            one.Id,
            one.HappenedAt,
            one.PassId,
            one.Kind,
            one.Stage,
            one.ClockMinutes is { } minutes ? Place.At(ClockPosition.FromMinutes(minutes))
                : one.FromStartMm is { } mm ? Place.At(Math.Min(mm, Place.MostMm))
                : null,
            one.DepthMm,
            one.HeightMm,
            one.LengthMm,
            one.DiameterMm,
            one.WidthMm,
            one.Count,
            one.Toe,
            one.FaceHeightThereMm,
            one.Shape
        );

    private static LoggedPass Of(PassRecord one, Product product, IEnumerable<TraceRecord> traces) =>
        new(
            one.Id,
            one.HappenedAt,
            one.BeadKey,
            one.Stage,
            one.Layer,
            one.Process,
            one.ElectrodeClass,
            one.DiameterMm,
            one.Polarity,
            one.Amps,
            one.Volts,
            one.WireFeedMmPerMin,
            one.Gas,
            one.Technique,
            one.Progression,
            one.Hand,
            one.InterpassC,
            one.BelowFlushMm,
            Place.TryParse(one.StartAt, product, out var start) ? start : null,
            Place.TryParse(one.StopAt, product, out var stop) ? stop : null,
            one.Part,
            one.Side,
            one.Measured,
            one.Despite,
            BeadArc.Of(traces.Where(trace => trace.PassId == one.Id).OrderBy(trace => trace.FromAt).Select(trace => trace.Reading!))
        );

    private static IEnumerable<T> Standing<T>(IEnumerable<T> records)
        where T : CouponRecord => records.Where(record => record.WithdrawnAt is null);
}
