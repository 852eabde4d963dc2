using System.Collections.Frozen;
using System.Text;
using Gradus.Core.Inspection;
using Gradus.Core.Library;
using Gradus.Data;
using Gradus.Server.Hosting;
using Gradus.Server.Library;
using Gradus.Server.School;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Search;

/// <summary>What answers to what was typed; of each kind at most eight.</summary>
public sealed record Found(IReadOnlyList<FoundStudent> Students, IReadOnlyList<FoundCoupon> Coupons, IReadOnlyList<FoundTest> Tests);

/// <param name="HasLeft">Whoever left is found too.</param>
public sealed record FoundStudent(Guid Id, string Name, string ClassName, string TargetTestId, bool HasLeft);

/// <param name="StartedOn">The day at the school.</param>
/// <param name="Verdict">Null while it is open.</param>
public sealed record FoundCoupon(Guid Id, string Stamp, string StudentName, string TestId, DateOnly StartedOn, VerdictKind? Verdict, bool GivenUp);

public sealed record FoundTest(string Id, string Title);

/// <summary>Finds a student, a coupon or a test by what is typed of it. Signed-in instructors only.</summary>
public static class Endpoints
{
    /// <summary>So many of each kind.</summary>
    public const int Most = 8;
    private const int LongestText = 80;
    private const int MostStudents = 20_000;

    public static void MapFind(this IEndpointRouteBuilder routes) =>
        routes.MapGet("/api/find", Find).WithTags("Find").Produces<Found>().ProducesProblem(StatusCodes.Status400BadRequest);

    private static async Task<IResult> Find(string? q, GradusContext db, SchoolLibrary library, SchoolClock clock, CancellationToken cancel)
    {
        var typed = Words(q ?? "");
        if (q is { Length: > LongestText })
        {
            return Refusal.Field("q", $"What is looked for, at most {LongestText} characters.").ToResult();
        }

        if (typed.Count == 0)
        {
            return TypedResults.Ok(new Found([], [], []));
        }

        return TypedResults.Ok(
            new Found(
                await Students(typed, db, cancel),
                await Coupons(string.Concat(typed), db, clock, cancel),
                [
                    .. library
                        .Tests.Values.Where(test => Answers(typed, Words(TextOf(test))))
                        .OrderByDescending(test => Words(test.Id).SequenceEqual(typed))
                        .ThenBy(test => test.Id, StringComparer.Ordinal)
                        .Take(Most)
                        .Select(test => new FoundTest(test.Id, test.Title)),
                ]
            )
        );
    }

    private static async Task<IReadOnlyList<FoundStudent>> Students(List<string> typed, GradusContext db, CancellationToken cancel)
    {
        // Names have letters that the database does not fold: they are few enough to be looked at here.
        var names = await db
            .Students.AsNoTracking()
            .Where(student => student.ErasedAt == null)
            .OrderByDescending(student => student.CreatedAt)
            .Select(student => new { student.Id, student.Name })
            .Take(MostStudents)
            .ToListAsync(cancel);
        var ids = names.Where(one => Answers(typed, Words(one.Name))).Select(one => one.Id).ToList();
        return await db
            .Students.AsNoTracking()
            .Where(student => ids.Contains(student.Id))
            .OrderBy(student => student.LeftAt != null)
            .ThenBy(student => student.Name)
            .Take(Most)
            .Select(student => new FoundStudent(student.Id, student.Name, student.ClassGroup!.Name, student.TargetTestId, student.LeftAt != null))
            .ToListAsync(cancel);
    }

    /// <summary>By the beginning of the stamp, through its index.</summary>
    private static async Task<IReadOnlyList<FoundCoupon>> Coupons(string stamp, GradusContext db, SchoolClock clock, CancellationToken cancel)
    {
        var (from, to) = (stamp.ToUpperInvariant(), stamp.ToUpperInvariant() + '\uffff');
        var rows = await db
            .Coupons.AsNoTracking()
            .Where(coupon => string.Compare(coupon.Stamp, from) >= 0 && string.Compare(coupon.Stamp, to) < 0)
            .OrderBy(coupon => coupon.Stamp)
            .Take(Most)
            .Select(coupon => new
            {
                coupon.Id,
                coupon.Stamp,
                coupon.Student!.Name,
                coupon.TestId,
                coupon.StartedAt,
                coupon.ClosedAt,
                coupon.VoidedAt,
                Verdict = coupon
                    .Closings.Where(one => one.WithdrawnAt == null && one.EndedBy == null)
                    .Select(one => (VerdictKind?)one.Kind)
                    .FirstOrDefault(),
            })
            .ToListAsync(cancel);
        return
        [
            .. rows.Select(one => new FoundCoupon(
                one.Id,
                one.Stamp,
                one.Name,
                one.TestId,
                clock.DayOf(one.StartedAt),
                one.ClosedAt is null ? null : one.Verdict,
                one.VoidedAt is not null
            )),
        ];
    }

    private static string TextOf(TestTemplate test) =>
        string.Join(' ', [test.Id, test.Title, test.Code, $"{test.Kind}", $"{test.Product}", $"{test.BaseMetal}", .. test.Positions]);

    /// <summary>True when every word that was typed begins one of those of the thing.</summary>
    private static bool Answers(List<string> typed, List<string> words) =>
        typed.All(one => words.Exists(word => word.StartsWith(one, StringComparison.Ordinal)));

    /// <summary>The words of a text, without case and accents.</summary>
    private static List<string> Words(string text)
    {
        var words = new List<string>();
        var word = new StringBuilder();
        foreach (var letter in text)
        {
            if (char.IsLetterOrDigit(letter))
            {
                var lower = char.ToLowerInvariant(letter);
                word.Append(Plain.GetValueOrDefault(lower, lower));
            }
            else if (word.Length > 0)
            {
                words.Add(word.ToString());
                word.Clear();
            }
        }

        return word.Length > 0 ? [.. words, word.ToString()] : words;
    }

    // The program runs without the tables by which accents are taken off, and those leave ø and ł as they are: Latin-1 and Latin Extended-A.
    private static readonly FrozenDictionary<char, char> Plain = new[]
    {
        "aàáâãäåāăą",
        "cçćĉċč",
        "dðďđ",
        "eèéêëēĕėęě",
        "gĝğġģ",
        "hĥħ",
        "iìíîïĩīĭįı",
        "jĵ",
        "kķ",
        "lĺļľŀł",
        "nñńņň",
        "oòóôõöøōŏő",
        "rŕŗř",
        "sśŝşšș",
        "tţťŧț",
        "uùúûüũūŭůűų",
        "wŵ",
        "yýÿŷ",
        "zźżž",
    }
        .SelectMany(row => row[1..].Select(accented => (Accented: accented, Letter: row[0])))
        .ToFrozenDictionary(one => one.Accented, one => one.Letter);
}
