using System.Security.Claims;
using FluentValidation;
using Gradus.Data;
using Gradus.Server.Accounts;
using Gradus.Server.Hosting;
using Gradus.Server.Library;
using Gradus.Server.School;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Students;

/// <summary>A class as it is from now on; under a new id a new one.</summary>
public sealed record SaveClass(string? Name, IReadOnlyList<DayOfWeek>? MeetsOn, DateOnly? TermEnds);

/// <summary>Ends a class: whoever is named goes on in another one, the others leave.</summary>
public sealed record EndClass(IReadOnlyList<GoesOn?>? GoOn);

/// <summary>A student who goes on, and the class in which.</summary>
public sealed record GoesOn(Guid? StudentId, Guid? ClassId);

/// <summary>Signs off safety for students of a class.</summary>
public sealed record SignSafetyOfClass(IReadOnlyList<Guid>? Students);

public sealed class SaveClassValidator : AbstractValidator<SaveClass>
{
    public SaveClassValidator()
    {
        RuleFor(request => request.Name).NeedsText(60, "the name of the class");
        RuleFor(request => request.MeetsOn)
            .Must(days => days is { Count: >= 1 } && days.Distinct().Count() == days.Count)
            .WithMessage("Give the days on which it meets, each once.");
        RuleFor(request => request.TermEnds)
            .Must(day => day is null or { Year: >= 2000 and < 2200 })
            .WithMessage("Give the day on which the term ends, as 2026-12-18, or leave it out.");
    }
}

public sealed class EndClassValidator : AbstractValidator<EndClass>
{
    public EndClassValidator() =>
        RuleFor(request => request.GoOn)
            .Must(rows =>
                rows is { Count: <= Limits.ActiveStudents }
                && rows.All(row => row is { StudentId: not null, ClassId: not null })
                && rows.Select(row => row!.StudentId).Distinct().Count() == rows.Count
            )
            .WithMessage("Name whoever goes on, each once, with the class in which; nobody is an empty list.");
}

public sealed class SignSafetyOfClassValidator : AbstractValidator<SignSafetyOfClass>
{
    public SignSafetyOfClassValidator() =>
        RuleFor(request => request.Students)
            .Must(students => students is { Count: >= 1 and <= Limits.ActiveStudents })
            .WithMessage("Name the students whose safety you sign off.");
}

/// <summary>Classes: who is in them, when they meet, how they end.</summary>
public static class ClassEndpoints
{
    private const int MostClasses = 40;

    public static void MapClasses(this IEndpointRouteBuilder routes)
    {
        var group = routes.MapGroup("/api").WithTags("Students");
        group.MapGet("/classes", Read).Produces<IReadOnlyList<ClassView>>();
        group.MapGet("/classes/{id:guid}/students", Students).Produces<IReadOnlyList<ClassStudent>>().ProducesProblem(404);
        group.MapPut("/classes/{id:guid}", Save).Validated<SaveClass>().Writes().Produces<Written>().ProducesProblem(409);
        group.MapPut("/classes/{id:guid}/ended", End).Validated<EndClass>().Writes().Produces<Written>().ProducesProblem(404).ProducesProblem(409);
        group.MapPut("/classes/{id:guid}/safety", Sign).Validated<SignSafetyOfClass>().Writes().Produces<Written>().ProducesProblem(404);
        group.MapPost("/students/import", Import).TakesCsv();
    }

    /// <summary>Those that meet; with <paramref name="ended"/> those that are over as well, latest first.</summary>
    private static Task<List<ClassView>> Read(GradusContext db, CancellationToken cancel, bool ended = false) =>
        db
            .ClassGroups.AsNoTracking()
            .Where(one => ended || one.EndedAt == null)
            .OrderBy(one => one.EndedAt != null)
            .ThenByDescending(one => one.EndedAt)
            .ThenBy(one => one.Name)
            .Take(Limits.PageRows)
            .Select(one => new ClassView(
                one.Id,
                one.Name,
                one.MeetsOn,
                db.Students.Count(student => student.ClassGroupId == one.Id && student.LeftAt == null),
                one.TermEnds,
                one.EndedAt
            ))
            .ToListAsync(cancel);

    private static async Task<IResult> Students(Guid id, GradusContext db, CancellationToken cancel)
    {
        if (!await db.ClassGroups.AnyAsync(one => one.Id == id, cancel))
        {
            return Unknown();
        }

        var students = await db
            .Students.Present()
            .Where(one => one.ClassGroupId == id)
            .OrderBy(one => one.Name)
            .Take(Limits.ActiveStudents)
            .Select(one => new ClassStudent(
                one.Id,
                one.Name,
                one.SafetySignedAt,
                db.People.Any(person => person.Id == one.Id && person.LeftAt == null)
            ))
            .ToListAsync(cancel);
        return TypedResults.Ok((IReadOnlyList<ClassStudent>)students);
    }

    private static async Task<IResult> Save(Guid id, SaveClass request, GradusContext db, CancellationToken cancel)
    {
        var name = request.Name!.Trim();
        if (await db.ClassGroups.AnyAsync(one => one.Id != id && one.EndedAt == null && one.Name == name, cancel))
        {
            return Refusal.Conflict("name", "There is a class of that name.").ToResult();
        }

        var known = await db.ClassGroups.FirstOrDefaultAsync(one => one.Id == id, cancel);
        if (known is { EndedAt: not null })
        {
            return Refusal.Conflict("id", "That class is over.").ToResult();
        }

        if (known is null)
        {
            if (await db.ClassGroups.CountAsync(one => one.EndedAt == null, cancel) >= MostClasses)
            {
                return Refusal.Conflict("name", $"At most {MostClasses} classes meet at once.").ToResult();
            }

            known = new ClassGroup
            {
                Id = id,
                Name = name,
                MeetsOn = [],
            };
            db.ClassGroups.Add(known);
        }

        (known.Name, known.MeetsOn, known.TermEnds) = (name, [.. request.MeetsOn!.Order()], request.TermEnds);
        return TypedResults.Ok(new Written(id, await db.SaveChangesAsync(cancel) > 0));
    }

    private static async Task<IResult> End(
        Guid id,
        EndClass request,
        GradusContext db,
        PeopleBook people,
        SchoolClock clock,
        CancellationToken cancel
    )
    {
        if (await db.ClassGroups.FirstOrDefaultAsync(one => one.Id == id, cancel) is not { } group)
        {
            return Unknown();
        }

        if (group.EndedAt is not null)
        {
            return TypedResults.Ok(new Written(id, false));
        }

        var open = await db.ClassGroups.Where(one => one.EndedAt == null && one.Id != id).Select(one => one.Id).ToListAsync(cancel);
        if (open.Count == 0)
        {
            return Refusal.Conflict("id", "A school needs a class. Add the next one first.").ToResult();
        }

        var students = await db.Students.Present().Where(one => one.ClassGroupId == id).ToListAsync(cancel);
        var goesOn = request.GoOn!.ToDictionary(row => row!.StudentId!.Value, row => row!.ClassId!.Value);
        if (goesOn.Keys.Except(students.Select(one => one.Id)).Any() || goesOn.Values.Except(open).Any())
        {
            return Refusal.Field("goOn", "Students of this class, and classes that are not over.").ToResult();
        }

        foreach (var student in students)
        {
            if (goesOn.TryGetValue(student.Id, out var next))
            {
                student.ClassGroupId = next;
            }
            else
            {
                student.LeftAt = clock.Now;
                await StudentPins.End(db, people, student.Id, clock.Now, cancel);
            }
        }

        group.EndedAt = clock.Now;
        await db.SaveChangesAsync(cancel);
        return TypedResults.Ok(new Written(id, true));
    }

    /// <summary>Signs off safety for whoever has not been; whoever has keeps the day on which they were.</summary>
    private static async Task<IResult> Sign(
        Guid id,
        SignSafetyOfClass request,
        GradusContext db,
        SchoolClock clock,
        ClaimsPrincipal user,
        CancellationToken cancel
    )
    {
        var students = await db.Students.Present().Where(one => one.ClassGroupId == id && request.Students!.Contains(one.Id)).ToListAsync(cancel);
        if (students.Count != request.Students!.Distinct().Count())
        {
            return Refusal.NotFound("students", "Students of this class who have not left.").ToResult();
        }

        foreach (var student in students.Where(one => one.SafetySignedAt is null))
        {
            (student.SafetySignedAt, student.SafetySignedBy) = (clock.Now, user.PersonId());
        }

        return TypedResults.Ok(new Written(id, await db.SaveChangesAsync(cancel) > 0));
    }

    private static async Task<IResult> Import(
        HttpRequest request,
        GradusContext db,
        SchoolLibrary library,
        SchoolClock clock,
        Writes writes,
        CancellationToken cancel,
        bool take = false
    )
    {
        var classes = await db.ClassGroups.AsNoTracking().Where(one => one.EndedAt == null).ToListAsync(cancel);
        var names = await db.Students.Present().Select(one => one.Name).ToListAsync(cancel);
        return await CsvImport.Read(
            request,
            ["name", "class", "test", "hand"],
            take,
            csv =>
            {
                string? Field(string column) => csv.GetField(column)?.Trim() is { Length: > 0 } text ? text : null;
                var (name, testId) = (Field("name"), Field("test"));
                var group = classes.Find(one => string.Equals(one.Name, Field("class"), StringComparison.OrdinalIgnoreCase));
                var test = library.Tests.Values.FirstOrDefault(one => string.Equals(one.Id, testId, StringComparison.OrdinalIgnoreCase));
                var isHand = Enum.TryParse<OperatorHand>(Field("hand") ?? $"{OperatorHand.Right}", true, out var hand) && Enum.IsDefined(hand);
                var error =
                    name is null || name.Length > StudentRules.NameLength ? "Give a name of 1 to 80 characters."
                    : names.FirstOrDefault(one => NameLikeness.IsAlike(one, name)) is { } alike ? $"{name}: {alike} is at the school already."
                    : names.Count >= Limits.ActiveStudents ? $"A school has at most {Limits.ActiveStudents} students at once."
                    : group is null ? $"{name}: there is no class '{Field("class")}'; there are {string.Join(", ", classes.Select(one => one.Name))}."
                    : test is null ? $"{name}: there is no test '{testId}'; there are {string.Join(", ", library.Tests.Keys)}."
                    : !isHand ? $"{name}: the hand is right or left."
                    : null;
                if (error is not null)
                {
                    return (null, error, null);
                }

                names.Add(name!);
                return (
                    $"{name}, {group!.Name}, {test!.Title}, {(hand == OperatorHand.Left ? "left" : "right")} hand",
                    null,
                    () =>
                        db.Students.Add(
                            new Student
                            {
                                Id = Guid.CreateVersion7(),
                                Name = name!,
                                ClassGroupId = group.Id,
                                Hand = hand,
                                TargetTestId = test.Id,
                                CreatedAt = clock.Now,
                            }
                        )
                );
            },
            db,
            writes,
            cancel
        );
    }

    private static IResult Unknown() => Refusal.NotFound("id", "A class of this school.").ToResult();
}
