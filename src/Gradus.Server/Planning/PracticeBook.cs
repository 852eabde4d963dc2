using Gradus.Core.Library;
using Gradus.Core.Planning;
using Gradus.Data;
using Gradus.Server.Library;
using Gradus.Server.Qualifications;
using Gradus.Server.Readiness;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Planning;

/// <summary>A student's way and what to practise next on it.</summary>
/// <param name="Withheld">Steps that are not offered, and why, in words.</param>
public sealed record StudentPractice(
    Student Student,
    IReadOnlyList<string> Targets,
    DateOnly? By,
    IReadOnlyList<StepOnWay> Way,
    IReadOnlyList<PrescribedItem> Items,
    IReadOnlyList<string> Withheld,
    double CouponsPerWeek
);

/// <summary>Works out ways and prescriptions of students from what is kept of their readiness.</summary>
public sealed class PracticeBook(
    GradusContext db,
    ReadinessBook readiness,
    SetupBook setups,
    WorkLog log,
    SchoolLibrary library,
    HoldsReader holds,
    TimeProvider time
)
{
    private const int PaceDays = 56;
    private const double DaysPerWeek = 7;
    private const double UsualPace = 2.5;
    private const int VariantDays = 60;
    private const int MostCoupons = 5000;
    private const int TestsAtOnce = 2;
    private const int UnbegunCoupons = 20;

    public async Task<IReadOnlyList<StudentPractice>> Read(IReadOnlyCollection<Guid> studentIds, CancellationToken cancel)
    {
        var setup = await setups.Read(cancel);
        var students = await db.Students.AsNoTracking().Where(one => studentIds.Contains(one.Id)).OrderBy(one => one.Name).ToListAsync(cancel);
        var goals = await db
            .StudentGoals.AsNoTracking()
            .Where(one => studentIds.Contains(one.StudentId))
            .ToDictionaryAsync(one => one.StudentId, cancel);
        var credits = await Credits.Read(db, studentIds, cancel);
        var booths = await db.Booths.Standing().AsNoTracking().ToListAsync(cancel);
        var records = (await readiness.Read(studentIds, cancel)).ToLookup(one => one.StudentId);
        var since = time.GetUtcNow().AddDays(-VariantDays);
        var welded = (
            await db
                .Coupons.AsNoTracking()
                .Where(one => studentIds.Contains(one.StudentId) && one.StartedAt >= since)
                .OrderByDescending(one => one.StartedAt)
                .Take(MostCoupons)
                .Select(one => new
                {
                    one.StudentId,
                    one.TestId,
                    one.DrillId,
                    one.Variants,
                    one.StartedAt,
                })
                .ToListAsync(cancel)
        ).ToLookup(one => one.StudentId);
        var logged = await log.Read(cancel);
        var states = await readiness.States(studentIds, cancel);
        var ending = (await holds.Ending(studentIds, cancel)).Where(one => !one.Open).ToLookup(one => one.StudentId);
        var practice = new List<StudentPractice>();
        foreach (var student in students)
        {
            var goal = goals.GetValueOrDefault(student.Id);
            List<string> targets = goal is null ? [student.TargetTestId] : [.. goal.Tests.Where(library.Tests.ContainsKey)];
            var evidence = Evidence(records[student.Id], [.. credits[student.Id].Select(one => one.TestId)]);
            var pace = time.GetUtcNow().AddDays(-PaceDays);
            var made = welded[student.Id].Count(one => one.DrillId is null && one.StartedAt >= pace);
            var perWeek = made >= 4 ? made / (PaceDays / DaysPerWeek) : UsualPace;
            var way = setup.Graph.Way(targets, evidence, perWeek, UnbegunCoupons);
            var withheld = new List<string>();
            var items = new List<PrescribedItem>();
            foreach (var step in way.Where(one => one.State == StepState.Now).Take(TestsAtOnce))
            {
                var why = Prescription.Withheld(
                    library.Tests[step.Test],
                    setup.Graph.IsSafe(step.Test, evidence),
                    student.SafetySignedAt is not null,
                    booths.ConvertAll(booth => booth.Has)
                );
                if (why is not null)
                {
                    withheld.Add(why);
                    continue;
                }

                var record =
                    records[student.Id].FirstOrDefault(one => one.TestId == step.Test)
                    ?? readiness.Begin(student.Id, step.Test, states.GetValueOrDefault(student.Id));
                var uses = welded[student.Id]
                    .Where(one => one.TestId == step.Test)
                    .SelectMany(one => one.Variants)
                    .GroupBy(choice => $"{choice.Key}/{choice.Value}")
                    .ToDictionary(group => group.Key, group => group.Count());
                items.AddRange(
                    Prescription.Of(
                        library.Tests[step.Test],
                        record.Standing,
                        readiness.Gains(record, states.GetValueOrDefault(student.Id)),
                        new PractiserFacts(
                            student.SafetySignedAt is not null,
                            record.Coupons,
                            Returning(record),
                            uses,
                            logged.GetValueOrDefault(step.Test, LoggedWork.None)
                        ),
                        setup.Prices
                    )
                );
            }

            var keeping = ending[student.Id]
                .DistinctBy(one => one.Held.Process)
                .Select(one => ToKeep(one.Held, student, welded[student.Id].Count(), logged, setup))
                .OfType<PrescribedItem>();
            withheld.AddRange(
                way.Where(one => one.State == StepState.Ahead && one.Waits.Count > 0)
                    .Select(one =>
                        $"{library.Tests[one.Test].Title} waits for {string.Join(" and ", one.Waits.Select(test => library.Tests[test].Title.ToLowerInvariant()))}."
                    )
            );
            practice.Add(
                new StudentPractice(
                    student,
                    targets,
                    goal?.By,
                    way,
                    [.. keeping, .. items.OrderByDescending(one => one.GainPerHour)],
                    withheld,
                    perWeek
                )
            );
        }

        return practice;
    }

    // What ends soon is kept by one short coupon of its process; of the test that it was passed on, where the library has it.
    private PrescribedItem? ToKeep(Held held, Student student, int made, IReadOnlyDictionary<string, LoggedWork> logged, Setup setup)
    {
        var test =
            (held.TestId is { } id ? library.Tests.GetValueOrDefault(id) : null)
            ?? library
                .Tests.Values.Where(one => one.Kind == TestKind.Test && one.Passes.Any(pass => TestQualification.NameOf(pass) == held.Process))
                .OrderBy(one => one.Passes.Count)
                .ThenBy(one => one.Id, StringComparer.Ordinal)
                .FirstOrDefault();
        return test is null
            ? null
            : Prescription.ToKeep(
                test,
                held.Process,
                $"{held.Process} ends on {RecordPdf.Day(held.Keeping.EndsOn)} unless it is used: one short coupon, and it is signed for.",
                new PractiserFacts(
                    student.SafetySignedAt is not null,
                    made,
                    null,
                    new Dictionary<string, int>(),
                    logged.GetValueOrDefault(test.Id, LoggedWork.None)
                ),
                setup.Prices
            );
    }

    private static Dictionary<string, StepEvidence> Evidence(IEnumerable<ReadinessRecord> records, HashSet<string> credited)
    {
        var evidence = records.ToDictionary(
            one => one.TestId,
            one => new StepEvidence(
                one.TestId,
                credited.Contains(one.TestId),
                one.Coupons,
                one.Standing.Passing.Mean.Value,
                one.Standing.Forecast.ToBar ?? UnbegunCoupons
            ),
            StringComparer.Ordinal
        );
        foreach (var test in credited.Where(test => !evidence.ContainsKey(test)))
        {
            evidence[test] = new StepEvidence(test, true, 0, 0, 0);
        }

        return evidence;
    }

    private static ReturningFault? Returning(ReadinessRecord record)
    {
        var last = record.Recent.TakeLast(ReadinessBook.FaultsKept).ToList();
        return last.SelectMany(coupon => coupon.Faults.Select(fault => (fault.Kind, fault.Stage, fault.Zone)).Distinct())
            .GroupBy(fault => fault)
            .Where(group => group.Count() > 1)
            .OrderByDescending(group => group.Count())
            .Select(group => new ReturningFault(group.Key.Kind, group.Key.Stage, group.Key.Zone, group.Count(), last.Count))
            .FirstOrDefault();
    }
}
