using System.Security.Claims;
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
        Write<StartCoupon>(group, "", (recorder, ids, body, by, cancel) => recorder.Start(ids.Coupon, body, by, cancel), ownId: false);
        Write<RecordFitUp>(
            group,
            "/fit-ups/{id:guid}",
            (recorder, ids, body, by, cancel) => recorder.FitUp(ids.Coupon, ids.Record, body, by, cancel)
        );
        Write<RecordPass>(group, "/passes/{id:guid}", (recorder, ids, body, by, cancel) => recorder.Pass(ids.Coupon, ids.Record, body, by, cancel));
        Write<RecordFinding>(
            group,
            "/findings/{id:guid}",
            (recorder, ids, body, by, cancel) => recorder.Finding(ids.Coupon, ids.Record, body, by, cancel)
        );
        Write<RecordEvent>(group, "/events/{id:guid}", (recorder, ids, body, by, cancel) => recorder.Event(ids.Coupon, ids.Record, body, by, cancel));
        Write<RecordNote>(group, "/notes/{id:guid}", (recorder, ids, body, by, cancel) => recorder.Note(ids.Coupon, ids.Record, body, by, cancel));
        group
            .MapPut(
                "/closings/{id:guid}",
                async (Guid couponId, Guid id, ClaimsPrincipal user, CouponRecorder recorder, CancellationToken cancel) =>
                    (await recorder.Close(couponId, id, user.InstructorId(), cancel)).ToResult()
            )
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

    private delegate Task<Outcome<Written>> Recording<T>(
        CouponRecorder recorder,
        (Guid Coupon, Guid Record) ids,
        T body,
        Guid by,
        CancellationToken cancel
    );

    private static void Write<T>(RouteGroupBuilder group, string path, Recording<T> record, bool ownId = true)
        where T : class
    {
        RouteHandlerBuilder route = ownId
            ? group.MapPut(
                path,
                async (Guid couponId, Guid id, T body, ClaimsPrincipal user, CouponRecorder recorder, CancellationToken cancel) =>
                    (await record(recorder, (couponId, id), body, user.InstructorId(), cancel)).ToResult()
            )
            : group.MapPut(
                path,
                async (Guid couponId, T body, ClaimsPrincipal user, CouponRecorder recorder, CancellationToken cancel) =>
                    (await record(recorder, (couponId, couponId), body, user.InstructorId(), cancel)).ToResult()
            );
        route.Validated<T>().Produces<Written>().ProducesProblem(StatusCodes.Status409Conflict);
    }

    private static void Withdraw<T>(RouteGroupBuilder group, string path)
        where T : CouponRecord =>
        group
            .MapDelete(
                path + "/{id:guid}",
                async (Guid couponId, Guid id, ClaimsPrincipal user, CouponRecorder recorder, CancellationToken cancel) =>
                    (await recorder.Withdraw<T>(couponId, id, user.InstructorId(), cancel)).ToResult()
            )
            .Produces<Written>()
            .ProducesProblem(StatusCodes.Status409Conflict);
}
