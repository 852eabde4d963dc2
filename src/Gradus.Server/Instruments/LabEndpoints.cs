using System.Security.Claims;
using Gradus.Data;
using Gradus.Server.Accounts;
using Gradus.Server.Coupons;
using Gradus.Server.Hosting;

namespace Gradus.Server.Instruments;

/// <summary>Laboratories: specimens are given to them on the coupon, and they answer by a key of their own.</summary>
public static class LabEndpoints
{
    public static void MapLaboratories(this IEndpointRouteBuilder routes)
    {
        var coupon = routes.MapGroup("/api/coupons/{couponId:guid}/lab").WithTags("Instruments").ProducesProblem(404);
        coupon.MapGet("", OfCoupon).Produces<CouponLab>();
        coupon
            .MapPut(
                "/{id:guid}",
                async (Guid couponId, Guid id, LabOrderRequest request, ClaimsPrincipal user, LabBook book, CancellationToken cancel) =>
                    (await book.Send(couponId, id, request, user.PersonId(), cancel)).ToResult()
            )
            .Validated<LabOrderRequest>()
            .Writes()
            .Produces<Written>()
            .ProducesProblem(409);
        coupon
            .MapPut(
                "/{id:guid}/taken",
                async (Guid couponId, Guid id, Provenance from, LabBook book, CancellationToken cancel) =>
                    (await book.TakeOver(couponId, id, from, cancel)).ToResult()
            )
            .Writes()
            .Produces<Written>()
            .ProducesProblem(400)
            .ProducesProblem(409);
        coupon
            .MapPut(
                "/{id:guid}/ended",
                async (Guid couponId, Guid id, ClaimsPrincipal user, LabBook book, CancellationToken cancel) =>
                    (await book.End(couponId, id, user.PersonId(), cancel)).ToResult()
            )
            .Writes()
            .Produces<Written>()
            .ProducesProblem(409);
        coupon.MapGet("/{id:guid}/files/{fileId:guid}", ShowFile).Produces(200, contentType: "application/pdf");

        var lab = routes.MapGroup("/api/lab/orders").WithTags("Instruments").ProducesProblem(401);
        lab.MapGet("", Asked).Produces<IReadOnlyList<LabAsked>>();
        lab.MapPut(
                "/{id:guid}/received",
                (Guid id, HttpContext context, DeviceKeys keys, LabBook book, CancellationToken cancel) =>
                    By(context, keys, device => book.Received(device, id, cancel), cancel)
            )
            .Writes()
            .Produces<Written>()
            .ProducesProblem(404)
            .ProducesProblem(409);
        lab.MapPut(
                "/{id:guid}/report",
                (Guid id, LabReportRequest request, HttpContext context, DeviceKeys keys, LabBook book, CancellationToken cancel) =>
                    By(context, keys, device => book.Return(device, id, request, cancel), cancel)
            )
            .Validated<LabReportRequest>()
            .Writes()
            .Produces<Written>()
            .ProducesProblem(404)
            .ProducesProblem(409);
        lab.MapPut("/{id:guid}/files/{fileId:guid}", Attach).TakesFile();
    }

    private static async Task<IResult> OfCoupon(Guid couponId, LabBook book, CancellationToken cancel) =>
        await book.OfCoupon(couponId, cancel) is { } lab ? TypedResults.Ok(lab) : CouponRecorder.UnknownCoupon().ToResult();

    private static Task<IResult> ShowFile(Guid couponId, Guid id, Guid fileId, LabBook book, CancellationToken cancel) =>
        book.ShowFile(couponId, id, fileId, cancel);

    private static async Task<IResult> Asked(string? stamp, HttpContext context, DeviceKeys keys, LabBook book, CancellationToken cancel) =>
        await keys.Of(context, DeviceKind.Laboratory, cancel) is { } device
            ? TypedResults.Ok(await book.Asked(device.Id, stamp, cancel))
            : DeviceKeys.Unknown();

    private static async Task<IResult> Attach(
        Guid id,
        Guid fileId,
        string? name,
        HttpContext context,
        DeviceKeys keys,
        LabBook book,
        CancellationToken cancel
    )
    {
        // Nothing is read for somebody who has no key.
        if (await keys.Of(context, DeviceKind.Laboratory, cancel) is not { } device)
        {
            return DeviceKeys.Unknown();
        }

        var sent = await GivenFiles.Sent(context.Request, cancel);
        return (await book.Attach(device.Id, id, fileId, name, sent, cancel)).ToResult();
    }

    private static async Task<IResult> By(HttpContext context, DeviceKeys keys, Func<Guid, Task<Outcome<Written>>> act, CancellationToken cancel) =>
        await keys.Of(context, DeviceKind.Laboratory, cancel) is { } device ? (await act(device.Id)).ToResult() : DeviceKeys.Unknown();
}
