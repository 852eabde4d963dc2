using System.Security.Claims;
using Gradus.Core.Library;
using Gradus.Core.Readiness;
using Gradus.Data;
using Gradus.Server.Accounts;
using Gradus.Server.Hosting;
using Gradus.Server.Library;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Readiness;

/// <summary>Readiness: the model by itself for anyone, the school's own students for signed-in instructors.</summary>
public static class Endpoints
{
    // A cohort of a school's history is larger than what anybody writes by hand.
    private const int CohortBytes = 16 * 1024 * 1024;

    // More are weighed for whoever is signed in, one request after another.
    private const int LightCoupons = 2000;

    public static void MapReadiness(this IEndpointRouteBuilder routes)
    {
        var model = routes.MapGroup("/api/readiness").WithTags("Readiness").WithMetadata(new RequestSizeLimitAttribute(CohortBytes));
        model.MapPost("/evaluate", Evaluate).Validated<EvaluateRequest>().Produces<EvaluateAnswer>().ProducesProblem(401);
        model.MapPost("/fit", Fit).Validated<FitRequest>().Produces<FitAnswer>();

        var group = routes.MapGroup("/api").WithTags("Readiness");
        group.MapGet("/ready", Board).Produces<ReadyBoard>();
        group.MapGet("/students/{studentId:guid}/tests/{testId}/readiness", Read).Produces<ReadinessView>().ProducesProblem(404);
        group.MapGet("/students/{studentId:guid}/tests/{testId}/reached", Reached).Produces<ReachedView>().ProducesProblem(404);
        group.MapPut("/students/{studentId:guid}/safety", SignSafety).Writes().Produces<Written>().ProducesProblem(404);
        group.MapDelete("/students/{studentId:guid}/safety", UnsignSafety).Writes().Produces<Written>().ProducesProblem(404);
        group.MapGet("/policies/{testId}", ReadPolicy).Produces<PolicyView>().ProducesProblem(404);
        group.MapPut("/policies/{testId}", SavePolicy).Validated<TestPolicy>().Writes().Produces<PolicyView>().ProducesProblem(404);
    }

    private static async Task<IResult> Evaluate(EvaluateRequest request, ClaimsPrincipal user, HeavyWork heavy, CancellationToken cancel)
    {
        var asked = request.ToTest();
        var (own, earlier) = (request.Coupons!.Select(coupon => coupon!.ToEvidence()).ToList(), request.ToEarlier());
        var isHeavy = own.Count + (earlier?.Sum(test => test.Coupons.Count) ?? 0) > LightCoupons;
        if (isHeavy && user.Identity?.IsAuthenticated != true)
        {
            return Refusal.Of(StatusCodes.Status401Unauthorized, "Sign in first.", "coupons", $"Up to {LightCoupons} without signing in.").ToResult();
        }

        GrowthEstimate Work(CancellationToken stop) =>
            GrowthEngine.Evaluate(asked, own, request.Today!.Value, request.Constants ?? ReadinessConstants.Defaults, earlier: earlier, cancel: stop);
        var estimate = isHeavy ? await heavy.Do(Work, cancel) : Work(cancel);
        return TypedResults.Ok(
            new EvaluateAnswer(
                estimate.Whole.Mean.Value,
                estimate.Whole.Lower.Value,
                estimate.Whole.Upper.Value,
                [.. asked.Elements.Zip(estimate.Elements).Select(one => new ElementChance(one.First, one.Second.Value))],
                [.. estimate.Trace.Select(BandView.From)],
                BandView.From(estimate.Passing)
            )
        );
    }

    private static async Task<Ok<FitAnswer>> Fit(FitRequest request, HeavyWork heavy, CancellationToken cancel)
    {
        List<StudentHistory> students = [.. request.Students!.Select(student => student!.ToHistory())];
        var fitted = await heavy.Do(stop => ConstantsFit.Fit(students, ReadinessConstants.Defaults, stop), cancel);
        return TypedResults.Ok(new FitAnswer(fitted.Constants, fitted.ScoreBefore, fitted.ScoreAfter, fitted.Adopted));
    }

    private static async Task<Ok<ReadyBoard>> Board(bool? all, ReadyReader reader, ReadinessRenewal renewal, CancellationToken cancel)
    {
        var board = await reader.Read(all == true, cancel);
        if (board.AreOld)
        {
            renewal.Start();
        }

        return TypedResults.Ok(board);
    }

    private static async Task<IResult> Read(
        Guid studentId,
        string testId,
        GradusContext db,
        ReadinessBook book,
        SchoolLibrary library,
        CancellationToken cancel
    )
    {
        if (!await db.Students.AnyAsync(one => one.Id == studentId, cancel))
        {
            return UnknownStudent();
        }

        if (!library.Tests.TryGetValue(testId, out var test))
        {
            return UnknownTest(library);
        }

        var record = await book.Read(studentId, testId, cancel);
        return TypedResults.Ok(
            new ReadinessView(
                testId,
                (await book.Policy(testId, cancel)).BarMean,
                BandView.From(record.Standing.Passing),
                [.. TestElements.Of(test).Zip(record.Standing.Elements).Select(one => new ElementChance(one.First, one.Second.Value))],
                [.. record.Trace.Select(TraceView.From)],
                record.Standing.Forecast,
                record.Standing.Worth,
                ReadinessBook.Method,
                record.ConstantsVersion
            )
        );
    }

    private static async Task<IResult> Reached(
        Guid studentId,
        string testId,
        GradusContext db,
        ReachedReader reader,
        SchoolLibrary library,
        CancellationToken cancel
    ) =>
        !await db.Students.AnyAsync(one => one.Id == studentId, cancel) ? UnknownStudent()
        : !library.Tests.ContainsKey(testId) ? UnknownTest(library)
        : TypedResults.Ok(await reader.Read(studentId, testId, cancel));

    private static async Task<IResult> SignSafety(Guid studentId, ClaimsPrincipal user, GradusContext db, TimeProvider time, CancellationToken cancel)
    {
        if (await db.Students.FirstOrDefaultAsync(one => one.Id == studentId, cancel) is not { } student)
        {
            return UnknownStudent();
        }

        var isNew = student.SafetySignedAt is null;
        if (isNew)
        {
            (student.SafetySignedAt, student.SafetySignedBy) = (time.GetUtcNow(), user.PersonId());
            await db.SaveChangesAsync(cancel);
        }

        return TypedResults.Ok(new Written(studentId, isNew));
    }

    private static async Task<IResult> UnsignSafety(Guid studentId, GradusContext db, CancellationToken cancel)
    {
        if (await db.Students.FirstOrDefaultAsync(one => one.Id == studentId, cancel) is not { } student)
        {
            return UnknownStudent();
        }

        var was = student.SafetySignedAt is not null;
        (student.SafetySignedAt, student.SafetySignedBy) = (null, null);
        await db.SaveChangesAsync(cancel);
        return TypedResults.Ok(new Written(studentId, was));
    }

    private static async Task<IResult> ReadPolicy(
        string testId,
        GradusContext db,
        ReadinessBook book,
        SchoolLibrary library,
        CancellationToken cancel
    ) => library.Tests.ContainsKey(testId) ? TypedResults.Ok(await PolicyOf(testId, db, book, cancel)) : UnknownTest(library);

    private static async Task<IResult> SavePolicy(
        string testId,
        TestPolicy policy,
        ClaimsPrincipal user,
        GradusContext db,
        ReadinessBook book,
        SchoolLibrary library,
        TimeProvider time,
        CancellationToken cancel
    )
    {
        if (!library.Tests.ContainsKey(testId))
        {
            return UnknownTest(library);
        }

        db.Policies.Add(
            new PolicyRecord
            {
                Id = Guid.CreateVersion7(),
                TestId = testId,
                Policy = policy,
                SavedAt = time.GetUtcNow(),
                SavedBy = user.PersonId(),
            }
        );
        await db.SaveChangesAsync(cancel);

        // The forecast looks toward the bar.
        await db.Readiness.Where(row => row.TestId == testId).ExecuteUpdateAsync(row => row.SetProperty(one => one.StandingDay, 0), cancel);
        return TypedResults.Ok(await PolicyOf(testId, db, book, cancel));
    }

    private static async Task<PolicyView> PolicyOf(string testId, GradusContext db, ReadinessBook book, CancellationToken cancel) =>
        new(
            testId,
            await book.Policy(testId, cancel),
            await db.Policies.AnyAsync(row => row.TestId == testId, cancel),
            TestPolicy.Defaults,
            TestPolicy.Reasons
        );

    private static IResult UnknownStudent() => Refusal.NotFound("studentId", "A student of this school.").ToResult();

    private static IResult UnknownTest(SchoolLibrary library) =>
        Refusal.NotFound("testId", $"One of: {string.Join(", ", library.Tests.Keys)}.").ToResult();
}
