using Gradus.Core.Bench;
using Gradus.Data;
using Gradus.Server.Accounts;
using Gradus.Server.Hosting;

namespace Gradus.Server.Coupons;

/// <summary>Coupons and what happens to them. Signed-in instructors only. Every write is a PUT under an id made by the client.</summary>
public static class Endpoints
{
    public static void MapCoupons(this IEndpointRouteBuilder routes)
    {
        var group = routes
            .MapGroup("/api/coupons/{couponId:guid}")
            .WithTags("Coupons")
            .RequireAuthorization()
            .ProducesProblem(StatusCodes.Status404NotFound);
        group.MapGet("", Read).Produces<CouponView>();
        Write<StartCoupon>(group, "", (recorder, ids, body, from, cancel) => recorder.Start(ids.Coupon, body, from, cancel), ownId: false);
        Write<RecordFitUp>(
            group,
            "/fit-ups/{id:guid}",
            (recorder, ids, body, from, cancel) => recorder.FitUp(ids.Coupon, ids.Record, body, from, cancel)
        );
        Write<RecordPass>(
            group,
            "/passes/{id:guid}",
            (recorder, ids, body, from, cancel) => recorder.Pass(ids.Coupon, ids.Record, body, from, cancel)
        );
        Write<RecordFinding>(
            group,
            "/findings/{id:guid}",
            (recorder, ids, body, from, cancel) => recorder.Finding(ids.Coupon, ids.Record, body, from, cancel)
        );
        group
            .MapPost("/findings/preview", Preview)
            .Validated<RecordFinding>()
            .Produces<FindingPreview>()
            .ProducesProblem(StatusCodes.Status409Conflict);
        Write<RecordEvent>(
            group,
            "/events/{id:guid}",
            (recorder, ids, body, from, cancel) => recorder.Event(ids.Coupon, ids.Record, body, from, cancel)
        );
        Write<RecordNote>(
            group,
            "/notes/{id:guid}",
            (recorder, ids, body, from, cancel) => recorder.Note(ids.Coupon, ids.Record, body, from, cancel)
        );
        group
            .MapPut(
                "/closings/{id:guid}",
                async (Guid couponId, Guid id, Provenance from, CouponRecorder recorder, CancellationToken cancel) =>
                    (await recorder.Close(couponId, id, from, cancel)).ToResult()
            )
            .Writes()
            .Produces<Written>()
            .ProducesProblem(StatusCodes.Status409Conflict);
        Tag.Map(group);
        History.Map(group);
        Photos.Map(group);
        Withdraw<FitUpRecord>(group, "/fit-ups");
        Withdraw<PassRecord>(group, "/passes");
        Withdraw<FindingRecord>(group, "/findings");
        Withdraw<NoteRecord>(group, "/notes");
        Withdraw<EventRecord>(group, "/events");
        Withdraw<PhotoRecord>(group, "/photos");
        Withdraw<ClosingRecord>(group, "/closings");
    }

    private static async Task<IResult> Read(Guid couponId, CouponReader reader, CancellationToken cancel) =>
        await reader.Read(couponId, cancel) is { } view ? TypedResults.Ok(view) : CouponRecorder.UnknownCoupon().ToResult();

    /// <summary>What a finding would come to; nothing is kept. Its place may still be missing.</summary>
    private static async Task<IResult> Preview(Guid couponId, RecordFinding body, CouponReader reader, CancellationToken cancel) =>
        (await reader.Preview(couponId, body, cancel)).ToResult();

    private delegate Task<Outcome<Written>> Recording<T>(
        CouponRecorder recorder,
        (Guid Coupon, Guid Record) ids,
        T body,
        Provenance from,
        CancellationToken cancel
    );

    private static void Write<T>(RouteGroupBuilder group, string path, Recording<T> record, bool ownId = true)
        where T : class
    {
        RouteHandlerBuilder route = ownId
            ? group.MapPut(
                path,
                async (Guid couponId, Guid id, T body, Provenance from, CouponRecorder recorder, CancellationToken cancel) =>
                    (await record(recorder, (couponId, id), body, from, cancel)).ToResult()
            )
            : group.MapPut(
                path,
                async (Guid couponId, T body, Provenance from, CouponRecorder recorder, CancellationToken cancel) =>
                    (await record(recorder, (couponId, couponId), body, from, cancel)).ToResult()
            );
        route.Validated<T>().Writes().Produces<Written>().ProducesProblem(StatusCodes.Status409Conflict);
    }

    private static void Withdraw<T>(RouteGroupBuilder group, string path)
        where T : CouponRecord =>
        group
            .MapDelete(
                path + "/{id:guid}",
                async (Guid couponId, Guid id, Provenance from, CouponRecorder recorder, CancellationToken cancel) =>
                    (await recorder.Withdraw<T>(couponId, id, from, cancel)).ToResult()
            )
            .Writes()
            .Produces<Written>()
            .ProducesProblem(StatusCodes.Status409Conflict);
}
