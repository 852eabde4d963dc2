using Gradus.Data;
using Gradus.Server.Accounts;
using Gradus.Server.Hosting;
using Gradus.Server.School;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Students;

/// <summary>Students and how they stand.</summary>
public static class Endpoints
{
    public static void MapStudents(this IEndpointRouteBuilder routes)
    {
        var group = routes.MapGroup("/api").WithTags("Students");
        group.MapGet("/students/left", Left).Produces<IReadOnlyList<FormerStudent>>();
        group.MapPut("/students/{id:guid}", Add).Validated<AddStudent>().Writes().Produces<Written>().ProducesProblem(404).ProducesProblem(409);
        group.MapPut("/students/{id:guid}/details", Edit).Validated<EditStudent>().Writes().Produces<Written>().ProducesProblem(404);
        group.MapPut("/students/{id:guid}/left", Leave).Writes().Produces<Written>().ProducesProblem(404);
        group.MapDelete("/students/{id:guid}/left", ComeBack).Writes().Produces<Written>().ProducesProblem(404).ProducesProblem(409);
        group.MapGet("/students/{id:guid}", Read).Produces<StudentView>().ProducesProblem(404);
        group.MapGet("/students/{id:guid}/coupons", Coupons).Produces<CouponPage>().ProducesProblem(400).ProducesProblem(404);
    }

    /// <summary>Those who left last.</summary>
    private static Task<List<FormerStudent>> Left(GradusContext db, CancellationToken cancel) =>
        db
            .Students.AsNoTracking()
            .Where(student => student.LeftAt != null && student.ErasedAt == null)
            .OrderByDescending(student => student.LeftAt)
            .Take(Limits.FormerStudents)
            .Select(student => new FormerStudent(student.Id, student.Name, student.ClassGroup!.Name, student.LeftAt!.Value))
            .ToListAsync(cancel);

    private static async Task<IResult> Add(Guid id, AddStudent request, GradusContext db, SchoolClock clock, CancellationToken cancel)
    {
        var student = new Student
        {
            Id = id,
            Name = request.Name!.Trim(),
            ClassGroupId = request.ClassGroupId!.Value,
            Hand = request.Hand!.Value,
            TargetTestId = request.TargetTestId!,
            Note = StudentRules.NoteOf(request.Note),
            CreatedAt = clock.Now,
        };
        if (await db.Students.AsNoTracking().FirstOrDefaultAsync(one => one.Id == id, cancel) is { } known)
        {
            return Twins.Answer(id, known.Content, student.Content).ToResult();
        }

        if (!await db.ClassGroups.AnyAsync(group => group.Id == request.ClassGroupId && group.EndedAt == null, cancel))
        {
            return UnknownClass();
        }

        if (await IsFull(db, cancel) is { } full)
        {
            return full;
        }

        if (!request.EvenIfAlike && await Alike(db, student.Name, cancel) is { Count: > 0 } alike)
        {
            return new Refusal(
                StatusCodes.Status409Conflict,
                "There is somebody of that name.",
                new Dictionary<string, string[]> { ["evenIfAlike"] = [.. alike] }
            ).ToResult();
        }

        db.Students.Add(student);
        await db.SaveChangesAsync(cancel);
        return TypedResults.Ok(new Written(id, true));
    }

    private static async Task<IResult> Edit(Guid id, EditStudent request, GradusContext db, CancellationToken cancel)
    {
        if (await db.Students.FirstOrDefaultAsync(one => one.Id == id, cancel) is not { } student)
        {
            return UnknownStudent();
        }

        if (!await db.ClassGroups.AnyAsync(group => group.Id == request.ClassGroupId, cancel))
        {
            return UnknownClass();
        }

        (student.Name, student.ClassGroupId, student.Hand) = (request.Name!.Trim(), request.ClassGroupId!.Value, request.Hand!.Value);
        await db.People.Where(one => one.Id == id).ExecuteUpdateAsync(set => set.SetProperty(one => one.Name, student.Name), cancel);
        (student.TargetTestId, student.Note) = (request.TargetTestId!, StudentRules.NoteOf(request.Note));
        return TypedResults.Ok(new Written(id, await db.SaveChangesAsync(cancel) > 0));
    }

    /// <summary>The student comes no more. The record stays; the student counts nowhere until they come back.</summary>
    private static async Task<IResult> Leave(Guid id, GradusContext db, PeopleBook people, SchoolClock clock, CancellationToken cancel)
    {
        if (await db.Students.FirstOrDefaultAsync(one => one.Id == id, cancel) is not { } student)
        {
            return UnknownStudent();
        }

        student.LeftAt ??= clock.Now;
        var isNew = await db.SaveChangesAsync(cancel) > 0;
        await StudentPins.End(db, people, id, clock.Now, cancel);
        return TypedResults.Ok(new Written(id, isNew));
    }

    private static async Task<IResult> ComeBack(Guid id, GradusContext db, CancellationToken cancel)
    {
        if (await db.Students.FirstOrDefaultAsync(one => one.Id == id, cancel) is not { } student)
        {
            return UnknownStudent();
        }

        if (student.ErasedAt is not null)
        {
            return Refusal.Conflict("id", "Whoever was erased does not come back: add them anew.").ToResult();
        }

        if (student.LeftAt is not null && await IsFull(db, cancel) is { } full)
        {
            return full;
        }

        student.LeftAt = null;
        return TypedResults.Ok(new Written(id, await db.SaveChangesAsync(cancel) > 0));
    }

    private static async Task<IResult> Read(Guid id, StudentReader reader, CancellationToken cancel) =>
        await reader.Read(id, cancel) is { } view ? TypedResults.Ok(view) : UnknownStudent();

    private static async Task<IResult> Coupons(Guid id, DateTimeOffset? before, StudentReader reader, GradusContext db, CancellationToken cancel) =>
        await db.Students.AnyAsync(student => student.Id == id, cancel)
            ? TypedResults.Ok(await reader.Coupons(id, before, cancel))
            : UnknownStudent();

    /// <summary>Whoever has a name like this already, in words.</summary>
    private static async Task<List<string>> Alike(GradusContext db, string name, CancellationToken cancel) => (
            await db
                .Students.AsNoTracking()
                .Select(one => new
                {
                    one.Name,
                    Class = one.ClassGroup!.Name,
                    one.LeftAt,
                })
                .ToListAsync(cancel)
        ).Where(one => NameLikeness.IsAlike(one.Name, name)).Select(one => one.LeftAt is null ? $"{one.Name} is in the {one.Class} already." : $"{one.Name} was in the {one.Class} and has left.").Take(Limits.AlikeShown).ToList();

    internal static async Task<IResult?> IsFull(GradusContext db, CancellationToken cancel) =>
        await db.Students.Present().CountAsync(cancel) >= Limits.ActiveStudents
            ? Refusal.Conflict("name", $"A school has at most {Limits.ActiveStudents} students at once; those who left do not count.").ToResult()
            : null;

    private static IResult UnknownStudent() => Refusal.NotFound("id", "A student of this school.").ToResult();

    private static IResult UnknownClass() => Refusal.NotFound("classGroupId", "A class of this school that is not over.").ToResult();
}
