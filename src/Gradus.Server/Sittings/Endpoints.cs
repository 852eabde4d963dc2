using System.Security.Claims;
using Gradus.Data;
using Gradus.Server.Accounts;
using Gradus.Server.Coupons;
using Gradus.Server.Hosting;
using Gradus.Server.Qualifications;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Sittings;

/// <summary>Sittings: booked, moved, called off, held, and signed.</summary>
public static class Endpoints
{
    public static void MapSittings(this IEndpointRouteBuilder routes)
    {
        var group = routes.MapGroup("/api/sittings").WithTags("Sittings");
        group
            .MapGet("", async (SittingReader reader, CancellationToken cancel) => TypedResults.Ok(await reader.List(null, cancel)))
            .Produces<SittingList>();
        var one = group.MapGroup("/{id:guid}");
        one.MapGet(
                "",
                async (Guid id, SittingReader reader, CancellationToken cancel) =>
                    await reader.Read(id, cancel) is { } view ? TypedResults.Ok(view) : SittingBook.Unknown().ToResult()
            )
            .Produces<SittingView>()
            .ProducesProblem(404);
        one.MapPut(
                "",
                async (Guid id, SittingRequest body, ClaimsPrincipal user, SittingBook book, CancellationToken cancel) =>
                    (await book.Book(id, body, user.PersonId(), cancel)).ToResult()
            )
            .Validated<SittingRequest>()
            .Kept();
        one.MapPut(
                "/moved",
                async (Guid id, MoveSitting body, ClaimsPrincipal user, SittingBook book, CancellationToken cancel) =>
                    (await book.Move(id, body, user.PersonId(), cancel)).ToResult()
            )
            .Validated<MoveSitting>()
            .Kept();
        one.MapPut(
                "/cancelled",
                async (Guid id, EndSitting body, ClaimsPrincipal user, SittingBook book, CancellationToken cancel) =>
                    (await book.Cancel(id, body.Why!, user.PersonId(), cancel)).ToResult()
            )
            .Validated<EndSitting>()
            .Kept();
        one.MapPut(
                "/coupons/{madeId:guid}",
                async (Guid id, Guid madeId, Provenance from, SittingBook book, CancellationToken cancel) =>
                    (await book.Start(id, madeId, from, cancel)).ToResult()
            )
            .Kept();
        one.MapPut("/marks/{markId:guid}", Mark).Validated<MarkPoint>().MayAskForPin().Kept();
        one.MapDelete(
                "/marks/{markId:guid}",
                async (Guid id, Guid markId, ClaimsPrincipal user, SittingBook book, CancellationToken cancel) =>
                    (await book.Unmark(id, markId, user.PersonId(), cancel)).ToResult()
            )
            .Kept();
        one.MapPut(
                "/result",
                async (Guid id, SignResult body, ClaimsPrincipal user, SittingBook book, CancellationToken cancel) =>
                    (await book.Sign(id, body, user.PersonId(), cancel)).ToResult()
            )
            .Validated<SignResult>()
            .WithPin()
            .Kept();
        one.MapPut("/files/{fileId:guid}", TakeReport).TakesFile();
        one.MapGet("/files/{fileId:guid}", (Guid id, Guid fileId, GivenFiles files, CancellationToken cancel) => files.Show(id, fileId, cancel))
            .Produces(200, contentType: "application/pdf")
            .ProducesProblem(404);

        var student = routes.MapGroup("/api/students/{studentId:guid}").WithTags("Sittings");
        student
            .MapGet(
                "/sittings",
                async (Guid studentId, SittingReader reader, CancellationToken cancel) => TypedResults.Ok(await reader.List(studentId, cancel))
            )
            .Produces<SittingList>();
        student
            .MapGet(
                "/tests/{testId}/booking",
                async (Guid studentId, string testId, SittingReader reader, CancellationToken cancel) =>
                    await reader.Form(studentId, testId, cancel) is { } form
                        ? TypedResults.Ok(form)
                        : Refusal.NotFound("testId", "A student of this school and a test of the library.").ToResult()
            )
            .Produces<BookingForm>()
            .ProducesProblem(404);
    }

    private static void Kept(this RouteHandlerBuilder route) => route.Writes().Produces<Written>().ProducesProblem(404).ProducesProblem(409);

    private static async Task<IResult> Mark(
        Guid id,
        Guid markId,
        MarkPoint body,
        Provenance from,
        PinCheck pins,
        HttpContext context,
        GradusContext db,
        SittingBook book,
        CancellationToken cancel
    )
    {
        return (await book.Mark(id, markId, body, from, Witness, cancel)).ToResult();

        // The witness types the PIN on the tablet of whoever is signed in.
        async Task<Refusal?> Witness(Guid who)
        {
            if (
                await db.People.FirstOrDefaultAsync(one => one.Id == who && one.LeftAt == null && one.Role != PersonRole.Student, cancel)
                is not { } person
            )
            {
                return Refusal.NotFound("witnessId", "Somebody of the school.");
            }

            return await pins.SignAs(person, $"{person.Name} gives the PIN.", context, cancel);
        }
    }

    private static async Task<IResult> TakeReport(
        Guid id,
        Guid fileId,
        string? name,
        bool? settles,
        HttpRequest request,
        ClaimsPrincipal user,
        GradusContext db,
        GivenFiles files,
        Writes writes,
        CancellationToken cancel
    )
    {
        if (!await db.Sittings.AnyAsync(one => one.Id == id, cancel))
        {
            return SittingBook.Unknown().ToResult();
        }

        if (await db.SittingResults.AnyAsync(one => one.SittingId == id, cancel))
        {
            return Refusal.Conflict("id", "Its result is signed.").ToResult();
        }

        return await files.Take(fileId, id, name, "report", settles == true, request, user.PersonId(), writes, cancel);
    }
}
