using System.Security.Claims;
using FluentValidation;
using Gradus.Core.Readiness;
using Gradus.Data;
using Gradus.Server.Accounts;
using Gradus.Server.Coupons;
using Gradus.Server.Hosting;
using Gradus.Server.Library;
using Gradus.Server.Readiness;
using Gradus.Server.Students;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Decisions;

/// <summary>A decision to be signed by whoever is signed in.</summary>
public sealed record SignDecision(Guid? StudentId, string? TestId, DecisionKind? Kind, string? Reason);

/// <summary>What a decision stands on.</summary>
public sealed record Grounds(
    Guid StudentId,
    string StudentName,
    StudentTest Test,
    Advice Advice,
    TestPolicy Policy,
    DateTimeOffset? SafetySignedAt,
    IReadOnlyList<CouponRow> Recent,
    IReadOnlyList<DecisionView> Decisions,
    IReadOnlyList<ResultView> Results
);

public sealed class SignDecisionValidator : AbstractValidator<SignDecision>
{
    public SignDecisionValidator(SchoolLibrary library)
    {
        RuleFor(request => request.StudentId).NotNull().WithMessage("Choose a student.");
        RuleFor(request => request.TestId).NeedsOneOf(() => library.Tests.Keys);
        RuleFor(request => request.Kind).NeedsOneOf();
        RuleFor(request => request.Reason).NeedsText(1000, "the reason in your own words");
    }
}

/// <summary>The grounds of a decision, and its signature. Signed-in instructors only.</summary>
public static class Endpoints
{
    public static void MapDecisions(this IEndpointRouteBuilder routes)
    {
        var group = routes.MapGroup("/api").WithTags("Decisions").RequireAuthorization();
        group.MapGet("/students/{studentId:guid}/tests/{testId}/grounds", Read).Produces<Grounds>().ProducesProblem(404);
        group.MapPut("/decisions/{id:guid}", Sign).Validated<SignDecision>().Writes().Produces<Written>().ProducesProblem(404).ProducesProblem(409);
    }

    private static async Task<IResult> Read(
        Guid studentId,
        string testId,
        GradusContext db,
        StudentReader reader,
        ReadinessBook readiness,
        ResultBook results,
        SchoolLibrary library,
        CancellationToken cancel
    )
    {
        var student = await db.Students.AsNoTracking().FirstOrDefaultAsync(one => one.Id == studentId, cancel);
        if (student is null)
        {
            return Refusal.NotFound("studentId", "A student of this school.").ToResult();
        }

        if (!library.Tests.ContainsKey(testId))
        {
            return Refusal.NotFound("testId", $"One of: {string.Join(", ", library.Tests.Keys)}.").ToResult();
        }

        var record = await readiness.Read(studentId, testId, cancel);
        return TypedResults.Ok(
            new Grounds(
                student.Id,
                student.Name,
                await reader.Test(record, cancel),
                await readiness.Advise(record, cancel),
                await readiness.Policy(testId, cancel),
                student.SafetySignedAt,
                [.. (await reader.Coupons(studentId, null, cancel)).Rows.Where(row => row.TestId == testId && row.Verdict is not null).Take(8)],
                [.. (await reader.Decisions(studentId, cancel)).Where(decision => decision.TestId == testId)],
                await results.Latest(studentId, testId, cancel)
            )
        );
    }

    private static async Task<IResult> Sign(Guid id, SignDecision request, ClaimsPrincipal user, DecisionBook book, CancellationToken cancel) =>
        (await book.Sign(id, request, user.InstructorId(), cancel)).ToResult();
}
