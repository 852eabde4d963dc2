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
/// <param name="Reason">In the signer's own words; may be empty when the decision is as advised.</param>
public sealed record SignDecision(Guid? StudentId, string? TestId, DecisionKind? Kind, string? Reason);

/// <summary>A signed decision to be taken back.</summary>
public sealed record WithdrawDecision(string? Reason);

/// <summary>What one more whole coupon, made as under test, would do to the chance of passing everything.</summary>
/// <param name="Clean">When it is clean.</param>
/// <param name="Rejected">When the weakest place of it is rejected.</param>
public sealed record OneMore(BandView Clean, BandView Rejected);

/// <summary>What a decision stands on.</summary>
public sealed record Grounds(
    Guid StudentId,
    string StudentName,
    StudentTest Test,
    Advice Advice,
    OneMore OneMore,
    CostOutlook Costs,
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
        RuleFor(request => request.Reason).NotNull().WithMessage("The reason in your own words, or nothing when it is as advised.");
        RuleFor(request => request.Reason).MaximumLength(1000).WithMessage("At most 1000 characters.");
    }
}

public sealed class WithdrawDecisionValidator : AbstractValidator<WithdrawDecision>
{
    public WithdrawDecisionValidator() => RuleFor(request => request.Reason).NeedsText(1000, "the reason in your own words");
}

/// <summary>The grounds of a decision, and its signature.</summary>
public static class Endpoints
{
    public static void MapDecisions(this IEndpointRouteBuilder routes)
    {
        var group = routes.MapGroup("/api").WithTags("Decisions");
        group.MapGet("/students/{studentId:guid}/tests/{testId}/grounds", Read).Produces<Grounds>().ProducesProblem(404);
        group
            .MapPut("/decisions/{id:guid}", Sign)
            .Validated<SignDecision>()
            .WithPin()
            .Writes()
            .Produces<Written>()
            .ProducesProblem(404)
            .ProducesProblem(409);
        group
            .MapPut("/decisions/{id:guid}/withdrawal", Withdraw)
            .Validated<WithdrawDecision>()
            .WithPin()
            .Writes()
            .Produces<Written>()
            .ProducesProblem(404);
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
        var policy = await readiness.Policy(testId, cancel);
        var decided = (await LastDecisions.Of(db, [studentId], cancel)).GetValueOrDefault((studentId, testId));
        var advice = readiness.Advise(record, policy, student.SafetySignedAt is not null, decided);
        var (clean, rejected) = await readiness.After(record, advice.Weakest, cancel);
        return TypedResults.Ok(
            new Grounds(
                student.Id,
                student.Name,
                await reader.Test(record, advice, policy, cancel),
                advice,
                new OneMore(BandView.From(clean), BandView.From(rejected)),
                SittingCosts.Of(policy, record.Standing),
                policy,
                student.SafetySignedAt,
                [.. (await reader.Coupons(studentId, null, cancel)).Rows.Where(row => row.TestId == testId && row.Verdict is not null).Take(8)],
                [.. (await reader.Decisions(studentId, [record], cancel)).Where(decision => decision.TestId == testId)],
                await results.Latest(studentId, testId, cancel)
            )
        );
    }

    private static async Task<IResult> Withdraw(
        Guid id,
        WithdrawDecision request,
        ClaimsPrincipal user,
        DecisionBook book,
        CancellationToken cancel
    ) => (await book.Withdraw(id, request.Reason!, user.PersonId(), cancel)).ToResult();

    private static async Task<IResult> Sign(Guid id, SignDecision request, ClaimsPrincipal user, DecisionBook book, CancellationToken cancel) =>
        (await book.Sign(id, request, user.PersonId(), cancel)).ToResult();
}
