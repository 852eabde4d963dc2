using Gradus.Core.Learning;
using Gradus.Data;
using Gradus.Server.Coupons;
using Gradus.Server.Hosting;
using Gradus.Server.Library;
using Gradus.Server.Readiness;
using Gradus.Server.School;
using Gradus.Server.Students;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Learning;

/// <summary>What a student's coupons tell, on one test or on all.</summary>
/// <param name="Worked">On each test the ways and the settings with which this student's passes came out clean.</param>
public sealed record StudentPatterns(Guid StudentId, string StudentName, string? TestId, Patterns Patterns, IReadOnlyList<WhatWorked> Worked);

/// <summary>What a class needs: its patterns over some weeks, and the faults that most of its students have had of late.</summary>
/// <param name="Demonstrate">Faults of the last <see cref="RecentDays"/> days, those of most students first.</param>
public sealed record ClassPatterns(
    string? ClassName,
    int Days,
    int RecentDays,
    int Students,
    IReadOnlyList<FaultPattern> Demonstrate,
    Patterns Patterns
);

/// <summary>Patterns in what was closed. Signed-in instructors only.</summary>
public static class Endpoints
{
    private const int ClassDays = 98;
    private const int RecentDays = 14;
    private const int MostOfStudent = 400;
    private const int MostOfClass = 4000;
    private const int Demonstrations = 3;

    // A coupon that lay longer than a school day was not worked on all the while.
    private const double MostHoursAtOnce = 10;

    public static void MapLearning(this IEndpointRouteBuilder routes)
    {
        var group = routes.MapGroup("/api/learn").WithTags("Learn");
        group.MapGet("/students/{studentId:guid}", OfStudent).Produces<StudentPatterns>().ProducesProblem(404);
        group.MapGet("/class", OfClass).Produces<ClassPatterns>().ProducesProblem(404);
    }

    private static async Task<IResult> OfStudent(
        Guid studentId,
        string? testId,
        GradusContext db,
        StudentReader reader,
        ReadinessBook readiness,
        SchoolLibrary library,
        SchoolClock clock,
        CancellationToken cancel
    )
    {
        var student = await db.Students.AsNoTracking().FirstOrDefaultAsync(one => one.Id == studentId, cancel);
        if (student is null)
        {
            return Refusal.NotFound("studentId", "A student of this school.").ToResult();
        }

        if (testId is not null && !library.Tests.ContainsKey(testId))
        {
            return Refusal.NotFound("testId", $"One of: {string.Join(", ", library.Tests.Keys)}.").ToResult();
        }

        var coupons = await Read(
            db.Coupons.Where(one => one.StudentId == studentId && (testId == null || one.TestId == testId)),
            MostOfStudent,
            clock,
            cancel,
            await readiness.Foreseen([studentId], cancel)
        );
        return TypedResults.Ok(
            new StudentPatterns(student.Id, student.Name, testId, PatternFinder.Find(coupons), await reader.Worked(student, testId, cancel))
        );
    }

    private static async Task<IResult> OfClass(Guid? classId, GradusContext db, ReadinessBook readiness, SchoolClock clock, CancellationToken cancel)
    {
        var group = classId is null ? null : await db.ClassGroups.AsNoTracking().FirstOrDefaultAsync(one => one.Id == classId, cancel);
        if (classId is not null && group is null)
        {
            return Refusal.NotFound("classId", "A class of this school.").ToResult();
        }

        var now = clock.Now;
        var students = await db
            .Students.Present()
            .Where(one => classId == null || one.ClassGroupId == classId)
            .Select(one => one.Id)
            .ToListAsync(cancel);
        var since = now.AddDays(-ClassDays);
        var coupons = await Read(
            db.Coupons.Where(one => students.Contains(one.StudentId) && one.ClosedAt >= since),
            MostOfClass,
            clock,
            cancel,
            await readiness.Foreseen(students, cancel)
        );
        var recent = PatternFinder.Find([.. coupons.Where(one => one.At >= now.AddDays(-RecentDays))]);
        return TypedResults.Ok(
            new ClassPatterns(
                group?.Name,
                ClassDays,
                RecentDays,
                students.Count,
                [.. recent.Faults.OrderByDescending(one => one.Students).ThenByDescending(one => one.Coupons).Take(Demonstrations)],
                PatternFinder.Find(coupons)
            )
        );
    }

    private static async Task<List<LearnCoupon>> Read(
        IQueryable<Coupon> coupons,
        int most,
        SchoolClock clock,
        CancellationToken cancel,
        IReadOnlyDictionary<Guid, double>? foreseen = null
    )
    {
        var rows = await coupons
            .AsNoTracking()
            .Where(one => one.ClosedAt != null && one.VoidedAt == null)
            .OrderByDescending(one => one.ClosedAt)
            .Take(most)
            .SelectMany(
                coupon => coupon.Closings.Where(closing => closing.WithdrawnAt == null && closing.EndedBy == null),
                (coupon, closing) =>
                    new
                    {
                        coupon.Id,
                        coupon.StudentId,
                        coupon.DrillId,
                        coupon.AsTest,
                        coupon.StartedAt,
                        At = coupon.ClosedAt!.Value,
                        closing.Downgraded,
                        closing.StageClean,
                        closing.Facts,
                    }
            )
            .ToListAsync(cancel);
        return
        [
            .. rows.Select(row => new LearnCoupon(
                row.StudentId,
                TimeZoneInfo.ConvertTime(row.At, clock.Zone), // weeks are those of the school
                row.DrillId is null,
                !row.AsTest || row.Downgraded,
                row.StageClean,
                [.. (row.Facts?.Faults ?? []).Select(fault => new FaultSeen(fault.Kind, fault.Stage, fault.Zone, fault.AtStop))],
                row.Facts?.GapClosed ?? false,
                row.Facts?.AmpsOffCard ?? false,
                row.At - row.StartedAt is { } took && took.TotalHours <= MostHoursAtOnce ? took.TotalHours : null,
                foreseen is not null && foreseen.TryGetValue(row.Id, out var chance) ? chance : null
            )),
        ];
    }
}
