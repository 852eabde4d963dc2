using System.Security.Claims;
using FluentValidation;
using Gradus.Core.Readiness;
using Gradus.Data;
using Gradus.Server.Accounts;
using Gradus.Server.Hosting;
using Gradus.Server.Library;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Readiness;

/// <summary>How a sitting came out.</summary>
/// <param name="Day">When it was sat; not after today.</param>
public sealed record RecordResult(Guid? StudentId, string? TestId, DateOnly? Day, bool? Passed, string? Note);

/// <param name="Said">The chance of passing everything as it was said before.</param>
/// <param name="Coupons">The full coupons that it stood on.</param>
public sealed record ResultView(
    Guid Id,
    Guid StudentId,
    string StudentName,
    string TestId,
    DateOnly Day,
    bool Passed,
    string Note,
    BandView Said,
    int Coupons,
    string RecordedBy,
    Guid? SittingId
);

/// <summary>A class of what was said, with how many were passed.</summary>
public sealed record ReliabilityClassView(double From, double To, int Sittings, int Passed, double? Said, BandView? Share);

/// <summary>How well it was foretold: said so much, passed how many.</summary>
public sealed record TrackRecord(
    int Sittings,
    int Passed,
    double Expected,
    double? Brier,
    double? BrierOfShare,
    double? Departs,
    IReadOnlyList<ReliabilityClassView> Classes,
    IReadOnlyList<ResultView> Latest
);

/// <summary>A fit of the constants to the school's own history.</summary>
public sealed record ModelFitView(DateTimeOffset At, string By, int Students, int Coupons, double ScoreBefore, double ScoreAfter, bool Adopted);

/// <summary>The constants in use, and the last fit.</summary>
/// <param name="IsFitted">True when the school's own constants are in use, false with the shipped ones.</param>
/// <param name="StudentsAtHand">Students with enough coupons to fit by now.</param>
public sealed record ModelView(
    bool IsFitted,
    ReadinessConstants Constants,
    ReadinessConstants Shipped,
    ModelFitView? LastFit,
    FittingState State,
    int StudentsAtHand,
    int LeastStudents
);

public sealed class RecordResultValidator : AbstractValidator<RecordResult>
{
    public RecordResultValidator(SchoolLibrary library)
    {
        RuleFor(request => request.StudentId).NotNull().WithMessage("Choose a student.");
        RuleFor(request => request.TestId).NeedsOneOf(() => library.Tests.Keys);
        RuleFor(request => request.Day).NotNull().WithMessage("The day of the sitting.");
        RuleFor(request => request.Passed).NotNull().WithMessage("true when it was passed, false when not.");
        RuleFor(request => request.Note).MaximumLength(500).WithMessage("At most 500 characters.");
    }
}

/// <summary>Results of sittings, how well they were foretold, and the constants that foretell them. For signed-in instructors.</summary>
public static class ModelEndpoints
{
    public static void MapModel(this IEndpointRouteBuilder routes)
    {
        var group = routes.MapGroup("/api").WithTags("Readiness");
        group.MapGet("/results", Results).Produces<TrackRecord>();
        group.MapPut("/results/{id:guid}", Record).Validated<RecordResult>().Writes().Produces<Written>().ProducesProblem(404).ProducesProblem(409);
        group.MapDelete("/results/{id:guid}", Remove).MayAskForPin().Writes().Produces<Written>().ProducesProblem(404).ProducesProblem(409);
        group.MapGet("/model", Read).Produces<ModelView>();
        group.MapPost("/model/fit", Fit).Produces<ModelView>(StatusCodes.Status202Accepted).ProducesProblem(409);
        group.MapPost("/model/shipped", UseShipped).Writes().Produces<ModelView>().ProducesProblem(409);
    }

    private static async Task<Ok<TrackRecord>> Results(ResultBook book, CancellationToken cancel)
    {
        var picture = await book.Picture(cancel);
        return TypedResults.Ok(
            new TrackRecord(
                picture.Sittings,
                picture.Passed,
                picture.Expected,
                picture.Brier,
                picture.BrierOfShare,
                picture.Departs?.Value,
                [
                    .. picture.Classes.Select(one => new ReliabilityClassView(
                        one.From,
                        one.To,
                        one.Sittings,
                        one.Passed,
                        one.Said,
                        one.Share is { } share ? BandView.From(share) : null
                    )),
                ],
                await book.Latest(null, null, cancel)
            )
        );
    }

    private static async Task<IResult> Record(Guid id, RecordResult request, ClaimsPrincipal user, ResultBook book, CancellationToken cancel) =>
        (await book.Record(id, request, user.PersonId(), cancel)).ToResult();

    private static async Task<IResult> Remove(Guid id, ResultBook book, PinCheck pins, HttpContext context, CancellationToken cancel) =>
        (await book.Remove(id, () => pins.Sign(context, cancel), cancel)).ToResult();

    private static async Task<Ok<ModelView>> Read(GradusContext db, ModelInUse inUse, ModelFitting fitting, CancellationToken cancel) =>
        TypedResults.Ok(await View(db, inUse, fitting, cancel));

    private static async Task<IResult> Fit(
        GradusContext db,
        ModelInUse inUse,
        ModelFitting fitting,
        ClaimsPrincipal user,
        CancellationToken cancel
    ) =>
        await StudentsAtHand(db, cancel) < ModelFitting.LeastStudents
            ? Refusal
                .Conflict(
                    "students",
                    $"Fitting takes {ModelFitting.LeastStudents} students with three closed coupons on a test; there are not so many yet."
                )
                .ToResult()
        : fitting.Start(user.PersonId()) ? TypedResults.Json(await View(db, inUse, fitting, cancel), statusCode: StatusCodes.Status202Accepted)
        : Refusal.Conflict("state", "It is being fitted already.").ToResult();

    private static async Task<IResult> UseShipped(
        GradusContext db,
        ModelInUse inUse,
        ModelFitting fitting,
        ClaimsPrincipal user,
        TimeProvider time,
        Writes writes,
        CancellationToken cancel
    )
    {
        if (fitting.State == FittingState.Running)
        {
            return Refusal.Conflict("state", "Wait until the fitting is done.").ToResult();
        }

        db.ModelChanges.Add(
            new ModelChange
            {
                Id = Guid.CreateVersion7(),
                Adopted = true,
                At = time.GetUtcNow(),
                By = user.PersonId(),
            }
        );
        await db.SaveChangesAsync(cancel);
        var before = inUse.Constants;
        await inUse.Load(db, cancel);
        writes.OnRollback(() => inUse.Use(before));
        return TypedResults.Ok(await View(db, inUse, fitting, cancel));
    }

    private static async Task<ModelView> View(GradusContext db, ModelInUse inUse, ModelFitting fitting, CancellationToken cancel)
    {
        var last = await db
            .ModelChanges.AsNoTracking()
            .Where(change => change.ScoreBefore != null)
            .OrderByDescending(change => change.At)
            .Join(db.People, change => change.By, instructor => instructor.Id, (change, instructor) => new { change, instructor.Name })
            .FirstOrDefaultAsync(cancel);
        return new ModelView(
            inUse.Constants.Version != ReadinessConstants.Defaults.Version,
            inUse.Constants,
            ReadinessConstants.Defaults,
            last is null
                ? null
                : new ModelFitView(
                    last.change.At,
                    last.Name,
                    last.change.Students,
                    last.change.Coupons,
                    last.change.ScoreBefore!.Value,
                    last.change.ScoreAfter!.Value,
                    last.change.Adopted
                ),
            fitting.State,
            await StudentsAtHand(db, cancel),
            ModelFitting.LeastStudents
        );
    }

    private static async Task<int> StudentsAtHand(GradusContext db, CancellationToken cancel) =>
        await db
            .Readiness.AsNoTracking()
            .Where(row => row.Coupons >= ModelFitting.LeastCoupons)
            .Select(row => row.StudentId)
            .Distinct()
            .CountAsync(cancel);
}
