using System.Security.Claims;
using FluentValidation;
using Gradus.Core.Bench;
using Gradus.Core.Planning;
using Gradus.Core.Readiness;
using Gradus.Data;
using Gradus.Server.Accounts;
using Gradus.Server.Coupons;
using Gradus.Server.Hosting;
using Gradus.Server.Library;
using Gradus.Server.School;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Planning;

/// <summary>The steps of the school, those that need less first.</summary>
public sealed record StepsView(IReadOnlyList<StepView> Steps);

/// <param name="Depth">How many steps lie before it at least; the column that it is drawn in.</param>
public sealed record StepView(
    string Test,
    string Title,
    IReadOnlyList<IReadOnlyList<string>> After,
    bool Strict,
    string Why,
    string Source,
    int Depth
);

/// <summary>Steps to be saved.</summary>
public sealed record SaveSteps(IReadOnlyList<SaveStep?>? Steps);

/// <param name="After">Groups of tests; of each group one is ground enough.</param>
/// <param name="Strict">True when the step is never offered without its ground.</param>
public sealed record SaveStep(string? Test, IReadOnlyList<IReadOnlyList<string?>?>? After, bool? Strict, string? Why);

/// <summary>A student's way to the goal, and what to practise next on it.</summary>
public sealed record WayView(
    Guid StudentId,
    string StudentName,
    IReadOnlyList<string> Targets,
    string? Job,
    DateOnly? By,
    double CouponsPerWeek,
    IReadOnlyList<WayStep> Way,
    IReadOnlyList<PrescribedView> Items,
    IReadOnlyList<string> Withheld,
    bool IsLate
);

/// <param name="From">When it is expected to begin; null for one that is behind.</param>
/// <param name="When">When it is expected to be done, in words that claim no more than is known; null for one that is behind.</param>
public sealed record WayStep(
    string Test,
    string Title,
    StepState State,
    bool IsTarget,
    bool Credited,
    string? CreditedWhy,
    bool BySitting,
    int FullCoupons,
    double? Chance,
    int CouponsToBar,
    DateOnly? From,
    DateOnly? To,
    string? When,
    IReadOnlyList<string> Waits
);

/// <summary>An item with the settings that the student's next pass of its stage starts from.</summary>
public sealed record PrescribedView(PlanItem Item, PassCard? Card);

/// <param name="Tests">The tests that the job needs.</param>
public sealed record SaveGoal(IReadOnlyList<string?>? Tests, string? Job, DateOnly? By);

/// <param name="Why">Where it was passed.</param>
/// <param name="Day">The day on which it was passed; with it goes on what that is believed, and it counts as evidence of skill.</param>
public sealed record SaveCredit(string? Why, DateOnly? Day = null, Vouched? Vouched = null);

public sealed class SaveStepsValidator : AbstractValidator<SaveSteps>
{
    public SaveStepsValidator()
    {
        RuleFor(request => request.Steps)
            .Must(steps =>
                steps is { Count: >= 1 and <= 200 } && steps.All(step => step?.Test is not null && step.After is not null && step.Strict is not null)
            )
            .WithMessage("Give 1 to 200 steps, each with test, after and strict.");
        RuleFor(request => request.Steps)
            .Must(steps =>
                steps is null
                || steps.All(step => step?.After is null || step.After.All(group => group is not null && group.All(test => test is not null)))
            )
            .WithMessage("Of each step, after holds groups of test ids.");
        RuleForEach(request => request.Steps).ChildRules(step => step.RuleFor(one => one!.Why).NeedsText(300, "the reason for the order"));
    }
}

public sealed class SaveGoalValidator : AbstractValidator<SaveGoal>
{
    public SaveGoalValidator(SchoolLibrary library)
    {
        RuleFor(request => request.Tests)
            .Must(tests =>
                tests is { Count: >= 1 and <= 12 }
                && tests.Distinct().Count() == tests.Count
                && tests.All(test => test is not null && library.Tests.ContainsKey(test))
            )
            .WithMessage(_ => $"Give 1 to 12 tests, each once: any of {string.Join(", ", library.Tests.Keys)}.");
        RuleFor(request => request.Job).MaximumLength(200).WithMessage("At most 200 characters.");
    }
}

public sealed class SaveCreditValidator : AbstractValidator<SaveCredit>
{
    public SaveCreditValidator(SchoolClock clock)
    {
        RuleFor(request => request.Why).NeedsText(200, "where and when it was passed");
        RuleFor(request => request.Vouched)
            .Must((request, vouched) => vouched is null == request.Day is null && (vouched is null || Enum.IsDefined(vouched.Value)))
            .WithMessage("Give both the day and on what it is believed (papers, word or student), or neither.");
        RuleFor(request => request.Day)
            .Must(day => day is null || (day.Value.Year >= 1950 && day.Value <= clock.Today))
            .WithMessage("A day since 1950 that has come.");
    }
}

/// <summary>Steps, ways and prescriptions. For signed-in instructors.</summary>
public static class StepEndpoints
{
    public static void MapSteps(this IEndpointRouteBuilder routes)
    {
        var group = routes.MapGroup("/api").WithTags("Plan");
        group.MapGet("/steps", Steps).Produces<StepsView>();
        group.MapPut("/steps", Save).Validated<SaveSteps>().Writes().Produces<StepsView>();
        group.MapGet("/students/{studentId:guid}/way", Way).Produces<WayView>().ProducesProblem(404);
        group.MapPut("/students/{studentId:guid}/goal", SaveGoal).Validated<SaveGoal>().Writes().Produces<Written>().ProducesProblem(404);
        group
            .MapPut("/students/{studentId:guid}/credits/{testId}", PutCredit)
            .Validated<SaveCredit>()
            .Writes()
            .Produces<Written>()
            .ProducesProblem(409)
            .ProducesProblem(404);
        group.MapDelete("/students/{studentId:guid}/credits/{testId}", DeleteCredit).Writes().Produces<Written>().ProducesProblem(404);
    }

    private static async Task<Ok<StepsView>> Steps(SetupBook setups, SchoolLibrary library, CancellationToken cancel) =>
        TypedResults.Ok(View((await setups.Read(cancel)).Graph, library));

    private static StepsView View(StepGraph graph, SchoolLibrary library) =>
        new([
            .. graph.Steps.Select(step => new StepView(
                step.Test,
                library.Tests[step.Test].Title,
                step.After,
                step.Strict,
                step.Why,
                step.Source,
                graph.Depth(step.Test)
            )),
        ]);

    private static async Task<IResult> Save(
        SaveSteps request,
        SetupBook setups,
        SchoolLibrary library,
        ClaimsPrincipal user,
        CancellationToken cancel
    )
    {
        List<Step> steps =
        [
            .. request.Steps!.Select(step => new Step(
                step!.Test!,
                [.. step.After!.Select(group => (IReadOnlyList<string>)[.. group!.Select(test => test!)])],
                step.Strict!.Value,
                step.Why!,
                "The school"
            )),
        ];
        var errors = StepGraph.Errors(steps, library.Tests.Keys);
        if (errors.Count > 0)
        {
            return Refusal.Field("steps", string.Join(" ", errors)).ToResult();
        }

        await setups.Save(user.PersonId(), cancel, steps: steps);
        return TypedResults.Ok(View((await setups.Read(cancel)).Graph, library));
    }

    private static async Task<IResult> Way(
        Guid studentId,
        PracticeBook practice,
        Readiness.ReadinessBook readiness,
        GradusContext db,
        SchoolLibrary library,
        SchoolClock clock,
        CancellationToken cancel
    )
    {
        if (await practice.Read([studentId], cancel) is not [var one])
        {
            return UnknownStudent();
        }

        var goal = await db.StudentGoals.AsNoTracking().FirstOrDefaultAsync(row => row.StudentId == studentId, cancel);
        var credits = (await Credits.Read(db, [studentId], cancel))[studentId].ToDictionary(credit => credit.TestId, StringComparer.Ordinal);
        var records = (await readiness.Read([studentId], cancel)).ToDictionary(row => row.TestId);
        var recent = await RecentPasses.Read(db, [studentId], clock.Now, cancel);
        var today = clock.Today;
        DateOnly? Day(double? days) => days is { } count ? today.AddDays((int)Math.Ceiling(count)) : null;
        var way = one
            .Way.Select(step =>
            {
                var record = records.GetValueOrDefault(step.Test);
                return new WayStep(
                    step.Test,
                    library.Tests[step.Test].Title,
                    step.State,
                    step.IsTarget,
                    credits.ContainsKey(step.Test),
                    credits.GetValueOrDefault(step.Test)?.Why,
                    credits.GetValueOrDefault(step.Test)?.BySitting ?? false,
                    record?.Coupons ?? 0,
                    record is { Coupons: > 0 } ? record.Standing.Passing.Mean.Value : null,
                    step.CouponsToBar,
                    Day(step.From),
                    Day(step.To),
                    step.Soonest is null ? null : RoughDays.Between(Day(step.Soonest)!.Value, Day(step.Latest), today),
                    step.Waits
                );
            })
            .ToList();
        return TypedResults.Ok(
            new WayView(
                studentId,
                one.Student.Name,
                one.Targets,
                goal?.Job,
                one.By,
                one.CouponsPerWeek,
                way,
                [.. one.Items.Select(item => new PrescribedView(PlanItem.From(item), Card(item, one.Student, recent, library)))],
                one.Withheld,
                one.By is { } by && way.Exists(step => step.To > by)
            )
        );
    }

    private static PassCard? Card(
        PrescribedItem item,
        Student student,
        ILookup<(Guid StudentId, string TestId), RecentPass> recent,
        SchoolLibrary library
    )
    {
        var test = library.Tests[item.TestId].With(item.Variants);
        var at = test.Passes.ToList().FindIndex(pass => pass.Stage == item.Stage);
        return at < 0 ? null : PassCards.Build(test, student.Hand, recent[(student.Id, item.TestId)])[at];
    }

    private static async Task<IResult> SaveGoal(Guid studentId, SaveGoal request, GradusContext db, CancellationToken cancel)
    {
        if (await db.Students.FirstOrDefaultAsync(one => one.Id == studentId, cancel) is not { } student)
        {
            return UnknownStudent();
        }

        var goal = await db.StudentGoals.FirstOrDefaultAsync(one => one.StudentId == studentId, cancel);
        var isNew = goal is null;
        if (goal is null)
        {
            goal = new StudentGoal { StudentId = studentId, Tests = [] };
            db.StudentGoals.Add(goal);
        }

        (goal.Tests, goal.Job, goal.By) = ([.. request.Tests!.Select(test => test!)], request.Job, request.By);
        if (!goal.Tests.Contains(student.TargetTestId))
        {
            student.TargetTestId = goal.Tests[^1];
        }

        await db.SaveChangesAsync(cancel);
        return TypedResults.Ok(new Written(studentId, isNew));
    }

    private static async Task<IResult> PutCredit(
        Guid studentId,
        string testId,
        SaveCredit request,
        GradusContext db,
        SchoolLibrary library,
        TimeProvider time,
        ClaimsPrincipal user,
        CancellationToken cancel
    )
    {
        if (!library.Tests.ContainsKey(testId))
        {
            return Refusal.NotFound("testId", $"One of: {string.Join(", ", library.Tests.Keys)}.").ToResult();
        }

        if (!await db.Students.AnyAsync(one => one.Id == studentId, cancel))
        {
            return UnknownStudent();
        }

        if (await db.StepCredits.AsNoTracking().FirstOrDefaultAsync(one => one.StudentId == studentId && one.TestId == testId, cancel) is { } known)
        {
            return Twins
                .Answer(
                    studentId,
                    new
                    {
                        known.Why,
                        known.Day,
                        known.Vouched,
                    },
                    new
                    {
                        Why = request.Why!,
                        request.Day,
                        request.Vouched,
                    }
                )
                .ToResult();
        }

        db.StepCredits.Add(
            new StepCredit
            {
                StudentId = studentId,
                TestId = testId,
                Why = request.Why!,
                Day = request.Day,
                Vouched = request.Vouched,
                RecordedAt = time.GetUtcNow(),
                RecordedBy = user.PersonId(),
            }
        );
        await db.SaveChangesAsync(cancel);
        return TypedResults.Ok(new Written(studentId, true));
    }

    private static async Task<IResult> DeleteCredit(Guid studentId, string testId, GradusContext db, CancellationToken cancel)
    {
        if (await db.StepCredits.FirstOrDefaultAsync(one => one.StudentId == studentId && one.TestId == testId, cancel) is not { } credit)
        {
            return Refusal.NotFound("testId", "A test that was put down for the student.").ToResult();
        }

        db.StepCredits.Remove(credit);
        await db.SaveChangesAsync(cancel);
        return TypedResults.Ok(new Written(studentId, false));
    }

    private static IResult UnknownStudent() => Refusal.NotFound("studentId", "The id of a student.").ToResult();
}
