using System.Security.Claims;
using FluentValidation;
using Gradus.Core.Bench;
using Gradus.Core.Inspection;
using Gradus.Core.Library;
using Gradus.Core.Readiness;
using Gradus.Data;
using Gradus.Server.Accounts;
using Gradus.Server.Coupons;
using Gradus.Server.Hosting;
using Gradus.Server.Library;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Students;

/// <summary>Adds a student under an id made by the client.</summary>
public sealed record AddStudent(string? Name, Guid? ClassGroupId, OperatorHand? Hand, string? TargetTestId, string? Note);

public sealed record ClassView(Guid Id, string Name);

/// <summary>A student with their tests, their latest coupons and decisions.</summary>
public sealed record StudentView(
    Guid Id,
    string Name,
    string ClassName,
    OperatorHand Hand,
    string? Note,
    string TargetTestId,
    IReadOnlyList<StudentTest> Tests,
    CouponPage Coupons,
    IReadOnlyList<DecisionView> Decisions
);

/// <summary>How a student stands on one test.</summary>
/// <param name="Weakest">The stage with the least chance among those that enough is known of; null when none is.</param>
/// <param name="Method">How the chances were reached.</param>
public sealed record StudentTest(
    string Id,
    string Title,
    ChanceView Whole,
    IReadOnlyList<StageChance> Stages,
    Stage? Weakest,
    IReadOnlyList<FaultCount> Faults,
    IReadOnlyList<VariantComparison> Variants,
    string Method,
    string MethodVersion
);

public sealed record StageChance(Stage Stage, ChanceView Chance);

/// <summary>A fault that a closed coupon was rejected for, and on how many coupons.</summary>
public sealed record FaultCount(DiscontinuityKind Kind, string Name, Stage Stage, int Coupons, int OfCoupons);

/// <summary>Coupons, latest first; <c>next</c> is what to pass as <c>before</c> for older ones, null at the end.</summary>
public sealed record CouponPage(IReadOnlyList<CouponRow> Rows, DateTimeOffset? Next);

public sealed record CouponRow(
    Guid Id,
    string Stamp,
    string TestId,
    string? DrillId,
    bool AsTest,
    DateTimeOffset StartedAt,
    DateTimeOffset? ClosedAt,
    VerdictKind? Verdict,
    IReadOnlyList<string> RejectedFor
);

/// <summary>A decision as it was signed, with the chance of that moment.</summary>
public sealed record DecisionView(
    Guid Id,
    string TestId,
    DecisionKind Kind,
    string Reason,
    ChanceView Whole,
    IReadOnlyDictionary<string, ChanceView> Stages,
    string MethodVersion,
    DateTimeOffset SignedAt,
    string SignedBy,
    Core.Readiness.Advised? Advised,
    SinceThen Since
);

/// <summary>What came after a decision: full coupons on the same test, how many of them were clean, and the first sitting.</summary>
public sealed record SinceThen(int Coupons, int Clean, SatView? Sat);

/// <summary>A sitting that came out.</summary>
public sealed record SatView(string TestId, DateOnly Day, bool Passed);

public sealed class AddStudentValidator : AbstractValidator<AddStudent>
{
    public AddStudentValidator(SchoolLibrary library)
    {
        RuleFor(request => request.Name).NeedsText(80, "the student's name");
        RuleFor(request => request.ClassGroupId).NotNull().WithMessage("Choose a class.");
        RuleFor(request => request.Hand).NeedsOneOf();
        RuleFor(request => request.TargetTestId).NeedsOneOf(() => library.Tests.Keys);
        RuleFor(request => request.Note).Must(note => note is null or { Length: <= 500 }).WithMessage("At most 500 characters.");
    }
}

/// <summary>Students and how they stand. Signed-in instructors only.</summary>
public static class Endpoints
{
    public static void MapStudents(this IEndpointRouteBuilder routes)
    {
        var group = routes.MapGroup("/api").WithTags("Students").RequireAuthorization();
        group.MapGet("/classes", Classes).Produces<IReadOnlyList<ClassView>>();
        group.MapPut("/students/{id:guid}", Add).Validated<AddStudent>().Produces<Written>().ProducesProblem(404).ProducesProblem(409);
        group.MapGet("/students/{id:guid}", Read).Produces<StudentView>().ProducesProblem(404);
        group.MapGet("/students/{id:guid}/coupons", Coupons).Produces<CouponPage>().ProducesProblem(400).ProducesProblem(404);
    }

    private static Task<List<ClassView>> Classes(GradusContext db, CancellationToken cancel) =>
        db.ClassGroups.OrderBy(one => one.Name).Select(one => new ClassView(one.Id, one.Name)).Take(Limits.PageRows).ToListAsync(cancel);

    private static async Task<IResult> Add(Guid id, AddStudent request, GradusContext db, TimeProvider time, CancellationToken cancel)
    {
        if (await db.Students.AsNoTracking().FirstOrDefaultAsync(student => student.Id == id, cancel) is { } known)
        {
            return known.Name == request.Name!.Trim()
                ? TypedResults.Ok(new Written(id, false))
                : Refusal.Conflict("id", "Another student has this id.").ToResult();
        }

        if (!await db.ClassGroups.AnyAsync(group => group.Id == request.ClassGroupId, cancel))
        {
            return Refusal.NotFound("classGroupId", "A class of this school.").ToResult();
        }

        if (await db.Students.CountAsync(cancel) >= Limits.PageRows)
        {
            return Refusal.Conflict("name", $"A floor holds at most {Limits.PageRows} students.").ToResult();
        }

        db.Students.Add(
            new Student
            {
                Id = id,
                Name = request.Name!.Trim(),
                ClassGroupId = request.ClassGroupId!.Value,
                Hand = request.Hand!.Value,
                TargetTestId = request.TargetTestId!,
                Note = string.IsNullOrWhiteSpace(request.Note) ? null : request.Note.Trim(),
                CreatedAt = time.GetUtcNow(),
            }
        );
        await db.SaveChangesAsync(cancel);
        return TypedResults.Ok(new Written(id, true));
    }

    private static async Task<IResult> Read(Guid id, StudentReader reader, CancellationToken cancel) =>
        await reader.Read(id, cancel) is { } view ? TypedResults.Ok(view) : Refusal.NotFound("id", "A student of this school.").ToResult();

    private static async Task<IResult> Coupons(Guid id, DateTimeOffset? before, StudentReader reader, GradusContext db, CancellationToken cancel) =>
        await db.Students.AnyAsync(student => student.Id == id, cancel)
            ? TypedResults.Ok(await reader.Coupons(id, before, cancel))
            : Refusal.NotFound("id", "A student of this school.").ToResult();
}
