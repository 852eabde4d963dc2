using System.Security.Claims;
using Gradus.Core.Bench;
using Gradus.Data;
using Gradus.Server.Accounts;
using Gradus.Server.Hosting;
using Gradus.Server.Readiness;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Coupons;

/// <summary>Coupons and what happens to them. Every write is a PUT under an id made by the client.</summary>
public static class Endpoints
{
    public static void MapCoupons(this IEndpointRouteBuilder routes)
    {
        var today = routes.MapGroup("/api/verdicts/today").WithTags("Coupons");
        today.MapGet("", async (TodaysBook book, CancellationToken cancel) => TypedResults.Ok(await book.List(cancel))).Produces<TodaysList>();
        today
            .MapPut("", Decline)
            .Validated<DeclineToday>()
            .WithPin()
            .Writes()
            .Produces<Written>()
            .ProducesProblem(StatusCodes.Status403Forbidden)
            .ProducesProblem(StatusCodes.Status404NotFound);
        var group = routes.MapGroup("/api/coupons/{couponId:guid}").WithTags("Coupons").ProducesProblem(StatusCodes.Status404NotFound);
        group.MapGet("", Read).Produces<CouponView>();
        group
            .MapPut(
                "",
                async (Guid couponId, StartCoupon body, Provenance from, CouponRecorder recorder, CancellationToken cancel) =>
                    (await recorder.Start(couponId, body, from, cancel)).ToResult()
            )
            .Validated<StartCoupon>()
            .Recorded();
        group
            .MapPut(
                "/fit-ups/{id:guid}",
                async (Guid couponId, Guid id, RecordFitUp body, Provenance from, CouponRecorder recorder, CancellationToken cancel) =>
                    (await recorder.FitUp(couponId, id, body, from, cancel)).ToResult()
            )
            .Validated<RecordFitUp>()
            .Recorded();
        group
            .MapPut(
                "/passes/{id:guid}",
                async (Guid couponId, Guid id, RecordPass body, Provenance from, CouponRecorder recorder, CancellationToken cancel) =>
                    (await recorder.Pass(couponId, id, body, from, cancel)).ToResult()
            )
            .Validated<RecordPass>()
            .Recorded();
        group
            .MapPut(
                "/findings/{id:guid}",
                async (Guid couponId, Guid id, RecordFinding body, Provenance from, CouponRecorder recorder, CancellationToken cancel) =>
                    (await recorder.Finding(couponId, id, body, from, cancel)).ToResult()
            )
            .Validated<RecordFinding>()
            .Recorded();
        group
            .MapPost("/findings/preview", Preview)
            .Validated<RecordFinding>()
            .Produces<FindingPreview>()
            .ProducesProblem(StatusCodes.Status409Conflict);
        group
            .MapPut(
                "/events/{id:guid}",
                async (Guid couponId, Guid id, RecordEvent body, Provenance from, CouponRecorder recorder, CancellationToken cancel) =>
                    (await recorder.Event(couponId, id, body, from, cancel)).ToResult()
            )
            .Validated<RecordEvent>()
            .Recorded();
        group
            .MapPut(
                "/notes/{id:guid}",
                async (Guid couponId, Guid id, RecordNote body, Provenance from, CouponRecorder recorder, CancellationToken cancel) =>
                    (await recorder.Note(couponId, id, body, from, cancel)).ToResult()
            )
            .Validated<RecordNote>()
            .Recorded();
        group
            .MapPut(
                "/closings/{id:guid}",
                async (
                    Guid couponId,
                    Guid id,
                    Provenance from,
                    PinCheck pins,
                    HttpContext context,
                    CouponRecorder recorder,
                    CancellationToken cancel
                ) => (await recorder.Close(couponId, id, from, () => pins.Sign(context, cancel), cancel)).ToResult()
            )
            .MayAskForPin()
            .Recorded();
        group
            .MapPut(
                "/confirmed",
                async (Guid couponId, ConfirmProposals body, Provenance from, CouponRecorder recorder, CancellationToken cancel) =>
                    (await recorder.Confirm(couponId, [.. body.Ids!], from, cancel)).ToResult()
            )
            .Validated<ConfirmProposals>()
            .Recorded();
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

    private static async Task<IResult> Read(Guid couponId, ClaimsPrincipal user, GradusContext db, CouponReader reader, CancellationToken cancel)
    {
        if (await reader.Read(couponId, cancel) is not { } view)
        {
            return CouponRecorder.UnknownCoupon().ToResult();
        }

        // A student sees the chance where the school shows it.
        var isHidden = user.Role() == PersonRole.Student && !await db.Schools.Select(school => school.StudentsSeeChance).SingleAsync(cancel);
        return TypedResults.Ok(isHidden ? view with { Readiness = null } : view);
    }

    /// <summary>What a finding would come to; nothing is kept. Its place may still be missing.</summary>
    private static async Task<IResult> Decline(
        DeclineToday request,
        ClaimsPrincipal user,
        TodaysBook book,
        ReadinessRenewal readiness,
        Writes writes,
        CancellationToken cancel
    )
    {
        writes.OnCommit(readiness.Start);
        return (await book.Decline(request.ClosingId, request.Declined!.Value, user.PersonId(), cancel)).ToResult();
    }

    private static async Task<IResult> Preview(Guid couponId, RecordFinding body, CouponReader reader, CancellationToken cancel) =>
        (await reader.Preview(couponId, body, cancel)).ToResult();

    private static void Recorded(this RouteHandlerBuilder route) => route.Writes().Produces<Written>().ProducesProblem(StatusCodes.Status409Conflict);

    private static void Withdraw<T>(RouteGroupBuilder group, string path)
        where T : CouponRecord =>
        group
            .MapDelete(
                path + "/{id:guid}",
                async (Guid couponId, Guid id, Provenance from, CouponRecorder recorder, CancellationToken cancel) =>
                    (await recorder.Withdraw<T>(couponId, id, from, cancel)).ToResult()
            )
            .Recorded();
}
