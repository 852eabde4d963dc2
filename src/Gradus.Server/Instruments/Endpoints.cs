using System.Security.Claims;
using Gradus.Core.Traces;
using Gradus.Data;
using Gradus.Server.Accounts;
using Gradus.Server.Hosting;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Instruments;

/// <summary>Devices that send by themselves, and what is read from the arcs that they measure.</summary>
public static class Endpoints
{
    private const int TraceBytes = 4 * 1024 * 1024;
    private const int MostPoints = 2000;
    private const int UsualPoints = 800;

    public static void MapInstruments(this IEndpointRouteBuilder routes)
    {
        var group = routes.MapGroup("/api").WithTags("Instruments");
        group
            .MapPost("/trace/analyse", Analyse)
            .WithMetadata(new RequestSizeLimitAttribute(TraceBytes))
            .Validated<TraceRequest>()
            .Produces<TraceAnswer>();
        group.MapGet("/devices", (DeviceBook book, CancellationToken cancel) => book.All(cancel)).Produces<IReadOnlyList<DeviceView>>();
        group
            .MapPut("/devices/{id:guid}", Pair)
            .Validated<DeviceRequest>()
            .Writes()
            .Produces<PairedDevice>()
            .ProducesProblem(404)
            .ProducesProblem(409);
        group.MapPut("/devices/{id:guid}/removed", Remove).Writes().Produces<Written>().ProducesProblem(404);
        group
            .MapPut("/arc/batches/{sequence:long}", Take)
            .Validated<ArcBatchRequest>()
            .Produces<ArcBatchTaken>()
            .ProducesProblem(401)
            .ProducesProblem(409)
            .ProducesProblem(410)
            .ProducesProblem(503);
        group.MapGet("/coupons/{couponId:guid}/arcs", OfCoupon).Produces<CouponArcs>().ProducesProblem(404);
        group.MapGet("/coupons/{couponId:guid}/arcs/live", LiveOf).Produces<CouponLive>().ProducesProblem(404);
        group.MapGet("/coupons/{couponId:guid}/arcs/{traceId:guid}/points", Points).Produces<TracePoints>().ProducesProblem(404);
        group.MapGet("/coupons/{couponId:guid}/arcs/{traceId:guid}/file", Raw).Produces(200, contentType: "application/gzip").ProducesProblem(404);
        group
            .MapPut("/coupons/{couponId:guid}/arcs/{traceId:guid}/bead", Settle)
            .Writes()
            .Produces<Written>()
            .ProducesProblem(400)
            .ProducesProblem(404)
            .ProducesProblem(409);
        group.MapGet("/students/{studentId:guid}/arcs", OfStudent).Produces<StudentArcs>();
    }

    private static async Task<Ok<TraceAnswer>> Analyse(TraceRequest request, HeavyWork heavy, CancellationToken cancel)
    {
        static double[] Column(IReadOnlyList<double?> of) => [.. of.Select(one => one ?? double.NaN)];
        var trace = new ArcTrace(
            request.Process!.Value,
            request.Process == Core.Vocabulary.Process.Smaw ? Electrodes.FamilyOf(request.ElectrodeClass) : ElectrodeFamily.Other,
            request.Hz!.Value,
            Column(request.Amps!),
            Column(request.Volts!),
            request.FeedMmPerMin is { } feed ? Column(feed) : null
        );
        var card = new TraceCard(request.Card?.Amps, request.Card?.Volts, request.Card?.FeedMmPerMin, request.RunLengthMm, request.OwnVolts);
        var read = await heavy.Do(_ => TraceAnalyser.Read(trace, card), cancel);
        return TypedResults.Ok(new TraceAnswer(read.Runs, [.. read.Moments.Select(MomentView.From)], read.Version));
    }

    private static async Task<IResult> Pair(Guid id, DeviceRequest request, ClaimsPrincipal user, DeviceBook book, CancellationToken cancel) =>
        (await book.Pair(id, request, user.PersonId(), cancel)).ToResult();

    private static async Task<IResult> Remove(Guid id, DeviceBook book, CancellationToken cancel) => (await book.Remove(id, cancel)).ToResult();

    private static async Task<IResult> Take(
        long sequence,
        ArcBatchRequest request,
        HttpContext context,
        DeviceKeys keys,
        Inflow inflow,
        TimeProvider time,
        CancellationToken cancel
    )
    {
        if (await keys.Of(context, DeviceKind.ArcLogger, cancel) is not { } device)
        {
            return DeviceKeys.Unknown();
        }

        if (sequence <= 0)
        {
            return Refusal.Field("sequence", "Numbers over 0 that run on.").ToResult();
        }

        var now = time.GetUtcNow();
        var batch = new ArcBatch
        {
            DeviceId = device.Id,
            Sequence = sequence,
            // As it is kept: to the millisecond.
            DeviceAt = DateTimeOffset.FromUnixTimeMilliseconds(request.At!.Value.ToUnixTimeMilliseconds()),
            AheadMs = now.ToUnixTimeMilliseconds() - request.SentAt!.Value.ToUnixTimeMilliseconds(),
            ArrivedAt = now,
            Hz = request.Hz!.Value,
            Samples = HeldBatch.Pack(request.Amps!, request.Volts!, request.FeedMmPerMin),
        };
        var fate = await inflow.Take(batch, cancel);
        switch (fate)
        {
            case BatchFate.Kept or BatchFate.Again:
                return TypedResults.Ok(new ArcBatchTaken(sequence, fate == BatchFate.Again));
            case BatchFate.Another:
                return Refusal.Conflict("sequence", "Another batch is kept under this number.").ToResult();
            case BatchFate.WentBack:
                return Refusal.Conflict("sequence", "Numbers never go back: go on above the last one.").ToResult();
            case BatchFate.TooLate:
                return Refusal.Of(StatusCodes.Status410Gone, "It came too late.", "sequence", "Its trace was closed without it.").ToResult();
            default:
                context.Response.Headers.RetryAfter = "1";
                return Refusal
                    .Of(StatusCodes.Status503ServiceUnavailable, "More comes in than is written.", "sequence", "Send it again in a second.")
                    .ToResult();
        }
    }

    private static async Task<IResult> OfCoupon(Guid couponId, ClaimsPrincipal user, TraceReader reader, CancellationToken cancel) =>
        await reader.OfCoupon(couponId, user.Role() is not PersonRole.Student, cancel) is { } arcs
            ? TypedResults.Ok(arcs)
            : Refusal.NotFound("couponId", "A coupon.").ToResult();

    private static async Task<IResult> LiveOf(Guid couponId, GradusContext db, TraceReader reader, CancellationToken cancel) =>
        await db.Coupons.AsNoTracking().Where(one => one.Id == couponId).Select(one => new { one.BoothId, one.ClosedAt }).FirstOrDefaultAsync(cancel)
            is { } coupon
            ? TypedResults.Ok(new CouponLive(coupon is { ClosedAt: null, BoothId: { } booth } ? await reader.Live(booth, cancel) : null))
            : Refusal.NotFound("couponId", "A coupon.").ToResult();

    private static async Task<IResult> Points(
        Guid couponId,
        Guid traceId,
        int? most,
        GradusContext db,
        TraceFiles files,
        HeavyWork heavy,
        CancellationToken cancel
    )
    {
        var points = Math.Clamp(most ?? UsualPoints, 2, MostPoints);
        return
            await Shown(db, couponId, traceId, cancel) is { } trace
            && await heavy.Do(_ => files.Read(trace.DeviceId, trace.Id, trace.Hz), cancel) is { } raw
            ? TypedResults.Ok(raw.Points(points))
            : NoTrace();
    }

    private static async Task<IResult> Raw(Guid couponId, Guid traceId, GradusContext db, TraceFiles files, CancellationToken cancel) =>
        await Shown(db, couponId, traceId, cancel) is { } trace && File.Exists(files.PathOf(trace.DeviceId, trace.Id))
            ? TypedResults.PhysicalFile(files.PathOf(trace.DeviceId, trace.Id), "application/gzip", $"{trace.Id}.csv.gz")
            : NoTrace();

    /// <summary>A trace of a coupon, or of a clean bead of the same student that it is held beside.</summary>
    private static async Task<TraceRecord?> Shown(GradusContext db, Guid couponId, Guid traceId, CancellationToken cancel) =>
        await db
            .Traces.AsNoTracking()
            .FirstOrDefaultAsync(
                one => one.Id == traceId && db.Coupons.Any(coupon => coupon.Id == couponId && coupon.StudentId == one.StudentId),
                cancel
            );

    private static IResult NoTrace() => Refusal.NotFound("traceId", "A trace of this coupon whose measurements are kept.").ToResult();

    private static async Task<IResult> Settle(
        Guid couponId,
        Guid traceId,
        TraceBeadRequest request,
        ClaimsPrincipal user,
        GradusContext db,
        TraceBook book,
        CancellationToken cancel
    ) =>
        await db.Coupons.AnyAsync(one => one.Id == couponId, cancel)
            ? (await book.Give(traceId, request.PassId, user.PersonId(), cancel)).ToResult()
            : Refusal.NotFound("couponId", "A coupon.").ToResult();

    private static async Task<Ok<StudentArcs>> OfStudent(Guid studentId, TraceReader reader, CancellationToken cancel) =>
        TypedResults.Ok(await reader.OfStudent(studentId, cancel));
}
