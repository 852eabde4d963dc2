using Gradus.Data;
using Gradus.Server.Hosting;
using Gradus.Server.School;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Accounts;

/// <summary>Something that was done.</summary>
/// <param name="Id">Counts up in the order in which they were done; asks for those before it.</param>
/// <param name="Person">Who did it, by the name that they have now.</param>
/// <param name="Does">What was done, in words.</param>
/// <param name="Subject">Whom or what it was done to, by the name that they have now; null: the school, or what has no name.</param>
/// <param name="Detail">What else was said by the address: a test, a day.</param>
public sealed record ActView(
    long Id,
    DateTimeOffset At,
    Guid PersonId,
    string? Person,
    string Does,
    Guid? SubjectId,
    string? Subject,
    string? Detail
);

/// <summary>What was done, the latest first.</summary>
/// <param name="Before">Asks for the next ones; null: these were all.</param>
public sealed record ActsView(IReadOnlyList<ActView> Acts, long? Before);

/// <summary>Who did what, for the lead.</summary>
public static class ActEndpoints
{
    private const int MostAtOnce = 100;

    public static void MapActs(this IEndpointRouteBuilder routes) =>
        routes.MapGroup("/api/acts").WithTags("People").MapGet("", Read).Produces<ActsView>();

    /// <param name="personId">Only those of somebody.</param>
    /// <param name="subjectId">Only those that were done to somebody or something.</param>
    /// <param name="from">From the beginning of a day on, by the school's clock.</param>
    /// <param name="to">To the end of a day.</param>
    /// <param name="before">Only those before one of this number.</param>
    private static async Task<ActsView> Read(
        Guid? personId,
        Guid? subjectId,
        DateOnly? from,
        DateOnly? to,
        long? before,
        GradusContext db,
        SchoolClock clock,
        CancellationToken cancel
    )
    {
        var found = db.Acts.AsNoTracking();
        if (personId is { } person)
        {
            found = found.Where(one => one.PersonId == person);
        }

        if (subjectId is { } subject)
        {
            found = found.Where(one => one.SubjectId == subject);
        }

        // Before the calendar of any school, and after it, nothing was done.
        if (from is { Year: > 1900 and < 9999 } first)
        {
            var begins = clock.BeginningOf(first);
            found = found.Where(one => one.At >= begins);
        }

        if (to is { Year: > 1900 and < 9999 } last)
        {
            var ends = clock.BeginningOf(last.AddDays(1));
            found = found.Where(one => one.At < ends);
        }

        if (before is { } number)
        {
            found = found.Where(one => one.Id < number);
        }

        var acts = await found.OrderByDescending(one => one.Id).Take(MostAtOnce + 1).ToListAsync(cancel);
        var shown = acts.Take(MostAtOnce).ToList();
        var names = await Names(
            db,
            [.. shown.Select(one => one.PersonId).Concat(shown.Select(one => one.SubjectId).OfType<Guid>()).Distinct()],
            cancel
        );
        return new ActsView(
            [
                .. shown.Select(one => new ActView(
                    one.Id,
                    one.At,
                    one.PersonId,
                    names.GetValueOrDefault(one.PersonId),
                    ApiOperations.SummaryOf(one.Operation),
                    one.SubjectId,
                    one.SubjectId is { } of ? names.GetValueOrDefault(of) : null,
                    one.Detail
                )),
            ],
            acts.Count > MostAtOnce ? shown[^1].Id : null
        );
    }

    /// <summary>Whose or what's the ids are: people, students, classes, booths, tablets, coupons, and of sittings and records their student.</summary>
    private static async Task<Dictionary<Guid, string>> Names(GradusContext db, IReadOnlyCollection<Guid> ids, CancellationToken cancel)
    {
        var found = await db
            .People.Where(one => ids.Contains(one.Id))
            .Select(one => new { one.Id, one.Name })
            .Concat(db.Students.Where(one => ids.Contains(one.Id)).Select(one => new { one.Id, one.Name }))
            .Concat(db.ClassGroups.Where(one => ids.Contains(one.Id)).Select(one => new { one.Id, one.Name }))
            .Concat(db.Tablets.Where(one => ids.Contains(one.Id)).Select(one => new { one.Id, one.Name }))
            .Concat(db.Booths.Where(one => ids.Contains(one.Id)).Select(one => new { one.Id, Name = "Booth " + one.Number }))
            .Concat(
                from sitting in db.Sittings
                join student in db.Students on sitting.StudentId equals student.Id
                where ids.Contains(sitting.Id)
                select new { sitting.Id, student.Name }
            )
            .Concat(
                from record in db.Certificates
                join student in db.Students on record.StudentId equals student.Id
                where ids.Contains(record.Id)
                select new { record.Id, student.Name }
            )
            .Concat(
                from decision in db.Decisions
                join student in db.Students on decision.StudentId equals student.Id
                where ids.Contains(decision.Id)
                select new { decision.Id, student.Name }
            )
            .ToListAsync(cancel);
        return found.DistinctBy(one => one.Id).ToDictionary(one => one.Id, one => one.Name);
    }
}
