using Gradus.Data;
using Gradus.Server.Library;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Qualifications;

/// <summary>Reads who holds what over the whole school, and how certifying went class by class.</summary>
public sealed class BoardReader(GradusContext db, HoldsReader holds, SchoolLibrary library)
{
    // A decade of classes.
    private const int MostClasses = 100;
    private const double Z95 = 1.959964;

    /// <summary>Who holds what: everybody who has not left and holds something.</summary>
    public async Task<HoldsBoard> Board(CancellationToken cancel)
    {
        var held = await holds.Read(null, cancel);
        var ids = held.Select(one => one.StudentId).Distinct().ToList();
        var people = await db
            .Students.AsNoTracking()
            .Where(student => ids.Contains(student.Id))
            .OrderBy(student => student.Name)
            .Select(student => new
            {
                student.Id,
                student.Name,
                Class = student.ClassGroup!.Name,
            })
            .ToListAsync(cancel);
        var mine = held.ToLookup(one => one.StudentId);
        return new HoldsBoard(
            [
                .. held.Select(one => (one.Code, one.Process))
                    .Distinct()
                    .OrderBy(one => one.Code, StringComparer.Ordinal)
                    .ThenBy(one => one.Process, StringComparer.Ordinal)
                    .Select(one => new BoardColumn(one.Code, NameOf(one.Code), one.Process)),
            ],
            [
                .. people.Select(person => new BoardRow(
                    person.Id,
                    person.Name,
                    person.Class,
                    [.. mine[person.Id].OrderByDescending(one => one.Keeping.EndsOn)]
                )),
            ],
            held.Select(one => one.Id).Distinct().Count()
        );
    }

    /// <summary>The code as its profile is called.</summary>
    public string NameOf(string code) => library.Profiles.Values.FirstOrDefault(profile => profile.Code == code)?.Name ?? code;

    /// <summary>How certifying went in each class, those that still meet first, and in all of them together last.</summary>
    public async Task<IReadOnlyList<ClassFigures>> Figures(CancellationToken cancel)
    {
        var classes = await db
            .ClassGroups.AsNoTracking()
            .OrderBy(one => one.EndedAt != null)
            .ThenByDescending(one => one.EndedAt)
            .ThenBy(one => one.Name)
            .Take(MostClasses)
            .ToListAsync(cancel);
        var students = await db
            .Students.GroupBy(student => student.ClassGroupId)
            .Select(group => new { group.Key, Count = group.Count() })
            .ToDictionaryAsync(one => one.Key, one => one.Count, cancel);
        var issued = await db
            .Certificates.Where(one => one.ReplacedBy == null && one.RevokedAt == null && !one.Outside)
            .Join(db.Students, one => one.StudentId, student => student.Id, (one, student) => student.ClassGroupId)
            .GroupBy(id => id)
            .Select(group => new { group.Key, Count = group.Count() })
            .ToDictionaryAsync(one => one.Key, one => one.Count, cancel);
        var sat = await db
            .SittingResults.Join(
                db.Students,
                result => result.StudentId,
                student => student.Id,
                (result, student) =>
                    new
                    {
                        student.ClassGroupId,
                        result.Passed,
                        result.Cost,
                        IsFirst = !db.SittingResults.Any(other =>
                            other.StudentId == result.StudentId
                            && other.TestId == result.TestId
                            && (other.Day < result.Day || (other.Day == result.Day && other.RecordedAt < result.RecordedAt))
                        ),
                    }
            )
            .GroupBy(one => one.ClassGroupId)
            .Select(group => new
            {
                group.Key,
                First = group.Count(one => one.IsFirst),
                Passed = group.Count(one => one.IsFirst && one.Passed),
                Cost = group.Sum(one => one.Cost ?? 0),
            })
            .ToDictionaryAsync(one => one.Key, cancel);
        var rows = classes
            .Select(one =>
                Row(
                    one.Id,
                    one.Name,
                    one.TermEnds,
                    one.EndedAt is not null,
                    students.GetValueOrDefault(one.Id),
                    issued.GetValueOrDefault(one.Id),
                    sat.GetValueOrDefault(one.Id)?.First ?? 0,
                    sat.GetValueOrDefault(one.Id)?.Passed ?? 0,
                    sat.GetValueOrDefault(one.Id)?.Cost ?? 0
                )
            )
            .ToList();
        rows.Add(
            Row(
                null,
                "The school",
                null,
                false,
                students.Values.Sum(),
                issued.Values.Sum(),
                sat.Values.Sum(one => one.First),
                sat.Values.Sum(one => one.Passed),
                sat.Values.Sum(one => one.Cost)
            )
        );
        return rows;
    }

    private static ClassFigures Row(Guid? id, string name, DateOnly? ends, bool over, int students, int issued, int first, int passed, double cost) =>
        new(id, name, ends, over, students, issued, first, passed, Rate(passed, first), cost, issued == 0 ? null : cost / issued);

    /// <summary>A share with its 95 % interval by Wilson (1927), which holds for few tries too; null for none.</summary>
    public static RateView? Rate(int passed, int tries)
    {
        if (tries == 0)
        {
            return null;
        }

        var (share, square) = ((double)passed / tries, Z95 * Z95);
        var middle = (share + (square / (2 * tries))) / (1 + (square / tries));
        var half = Z95 * Math.Sqrt((share * (1 - share) / tries) + (square / (4.0 * tries * tries))) / (1 + (square / tries));
        return new RateView(share, Math.Max(0, middle - half), Math.Min(1, middle + half));
    }
}
