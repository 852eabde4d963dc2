using Gradus.Data;
using Gradus.Server.Hosting;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Accounts;

/// <summary>A PIN that was given to a student, told once: it is kept as a hash only.</summary>
public sealed record GivenPin(Guid StudentId, string Name, string Pin);

/// <summary>The PINs with which students sign in: one by one, or for all of a class that have none.</summary>
public static class StudentPins
{
    public static void MapStudentPins(this IEndpointRouteBuilder routes)
    {
        var group = routes.MapGroup("/api").WithTags("People");
        group.MapPut("/students/{id:guid}/pin", GiveOne).Validated<GivePin>().Writes().Produces<Written>().ProducesProblem(404);
        group.MapDelete("/students/{id:guid}/pin", TakeAway).Writes().Produces<Written>().ProducesProblem(404);
        group.MapPost("/classes/{id:guid}/pins", GiveAll).Writes().Produces<IReadOnlyList<GivenPin>>().ProducesProblem(404);
    }

    /// <summary>A student who left cannot sign in; whoever comes back gets a PIN anew. To be called inside a whole write.</summary>
    public static async Task End(GradusContext db, PeopleBook people, Guid student, DateTimeOffset now, CancellationToken cancel)
    {
        if (await people.Find(student, cancel) is { Role: PersonRole.Student } person)
        {
            person.LeftAt = now;
            await people.End(person, cancel);
        }
    }

    private static async Task<IResult> GiveOne(Guid id, GivePin request, GradusContext db, PeopleBook people, CancellationToken cancel)
    {
        if (await db.Students.Present().FirstOrDefaultAsync(one => one.Id == id, cancel) is not { } student)
        {
            return Unknown();
        }

        return await Give(db, people, student, request.Pin!, cancel) is { } refusal ? refusal.ToResult() : TypedResults.Ok(new Written(id, true));
    }

    private static async Task<IResult> TakeAway(Guid id, GradusContext db, PeopleBook people, School.SchoolClock clock, CancellationToken cancel)
    {
        if (!await db.Students.AnyAsync(one => one.Id == id, cancel))
        {
            return Unknown();
        }

        await End(db, people, id, clock.Now, cancel);
        return TypedResults.Ok(new Written(id, true));
    }

    private static async Task<IResult> GiveAll(Guid id, GradusContext db, PeopleBook people, CancellationToken cancel)
    {
        if (!await db.ClassGroups.AnyAsync(one => one.Id == id, cancel))
        {
            return Refusal.NotFound("id", "A class of this school.").ToResult();
        }

        var students = await db
            .Students.Present()
            .Where(one => one.ClassGroupId == id && !db.People.Any(person => person.Id == one.Id && person.LeftAt == null))
            .OrderBy(one => one.Name)
            .Take(Limits.ActiveStudents)
            .ToListAsync(cancel);
        var given = new List<GivenPin>();
        foreach (var student in students)
        {
            var pin = PeopleBook.NewPin();
            if (await Give(db, people, student, pin, cancel) is { } refusal)
            {
                return refusal.ToResult();
            }

            given.Add(new GivenPin(student.Id, student.Name, pin));
        }

        return TypedResults.Ok((IReadOnlyList<GivenPin>)given);
    }

    private static async Task<Refusal?> Give(GradusContext db, PeopleBook people, Student student, string pin, CancellationToken cancel)
    {
        if (await db.People.FirstOrDefaultAsync(one => one.Id == student.Id, cancel) is not { } person)
        {
            return (await people.Add(student.Id, student.Name, PersonRole.Student, pin)).Refusal;
        }

        (person.LeftAt, person.Name) = (null, student.Name);
        return await people.GivePin(person, pin, cancel);
    }

    private static IResult Unknown() => Refusal.NotFound("id", "A student of this school who has not left.").ToResult();
}
