using Gradus.Core.Inspection;
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
/// <param name="Chance">The chance of passing the first step that is worked on; null where too little is known to tell.</param>
/// <param name="Sound">The chance that a coupon of that step which is clean by eye is sound inside.</param>
public sealed record StudentPractice(
    Student Student,
    IReadOnlyList<string> Targets,
    DateOnly? By,
    IReadOnlyList<StepOnWay> Way,
    IReadOnlyList<PrescribedItem> Items,
    IReadOnlyList<string> Withheld,
    double CouponsPerWeek,
    double? Chance,
    double Sound
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

    // Slots on the way of one student are dated by a forecast of their own; of a whole school that would take too long.
    private const int MostDated = 1;

    /// <summary>Ways and prescriptions as they stand today.</summary>
    /// <param name="ahead">What is planned for the students before that which is asked for; null for nothing.</param>
    public async Task<IReadOnlyList<StudentPractice>> Read(
        IReadOnlyCollection<Guid> studentIds,
        CancellationToken cancel,
        ILookup<Guid, PlannedCell>? ahead = null
    )
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
                    Clean = one.Closings.Any(closing => closing.WithdrawnAt == null && closing.Kind == VerdictKind.Accept),
                })
                .ToListAsync(cancel)
        ).ToLookup(one => one.StudentId);
        var logged = await log.Read(cancel);
        var states = await readiness.States(studentIds, cancel);
        var ending = (await holds.Ending(studentIds, cancel)).Where(one => !one.Open).ToLookup(one => one.StudentId);
        var policies = await readiness.Policies(cancel);
        var decisions = await LastDecisions.Of(db, studentIds, cancel);
        var practice = new List<StudentPractice>();
        foreach (var student in students)
        {
            var goal = goals.GetValueOrDefault(student.Id);
            List<string> targets = goal is null ? [student.TargetTestId] : [.. goal.Tests.Where(library.Tests.ContainsKey)];
            var evidence = Evidence(records[student.Id], [.. credits[student.Id].Select(one => one.TestId)]);
            var pace = time.GetUtcNow().AddDays(-PaceDays);
            var made = welded[student.Id].Count(one => one.DrillId is null && one.StartedAt >= pace);
            var perWeek = made >= 4 ? made / (PaceDays / DaysPerWeek) : UsualPace;
            if (studentIds.Count <= MostDated)
            {
                Foretell(setup.Graph.Way(targets, evidence, perWeek, UnbegunCoupons), evidence, student.Id, states.GetValueOrDefault(student.Id));
            }

            var way = setup.Graph.Way(targets, evidence, perWeek, UnbegunCoupons);
            var withheld = targets.TrueForAll(test => evidence.GetValueOrDefault(test) is { Credited: true })
                ? [$"{string.Join(" and ", targets.Select(test => library.Tests[test].Title))}: reached. Choose the next goal."]
                : new List<string>();
            var items = new List<PrescribedItem>();
            double? chance = null;
            double? sound = null;
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
                    .SelectMany(one => one.Variants.Select(choice => (choice.Key, choice.Value, one.Clean)))
                    .GroupBy(choice => $"{choice.Key}/{choice.Value}", choice => choice.Clean)
                    .ToDictionary(group => group.Key, group => new VariantUse(group.Count(), group.Count(clean => clean)));
                var test = library.Tests[step.Test];
                var before = ahead?[student.Id].Where(cell => cell.TestId == step.Test).ToList() ?? [];
                var advice = readiness.Advise(
                    record,
                    policies.Of(step.Test),
                    student.SafetySignedAt is not null,
                    decisions.GetValueOrDefault((student.Id, step.Test))
                );
                chance ??= advice.TooLittleToTell ? null : advice.Passing.Mean.Value;
                sound ??= record.Standing.Inside.Mean.Value;
                var asked = AskedFor.Of(advice) is { } all ? all with { Coupons = all.Coupons - before.Sum(CouponsOf) } : null;
                var facts = new PractiserFacts(
                    student.SafetySignedAt is not null,
                    record.Coupons,
                    Returning(record),
                    uses,
                    logged.GetValueOrDefault(step.Test, LoggedWork.None),
                    asked is { Coupons: > 0 } ? asked : null
                );
                var offers = Prescription.Offers(test, record.Standing, facts, setup.Prices, setup.Week.HoursPerPeriod);
                var gains = readiness.Gains(
                    record,
                    states.GetValueOrDefault(student.Id),
                    offers,
                    before.Count == 0 ? null : PracticeOf(test, before)
                );
                items.AddRange(Prescription.Of(test, record.Standing, offers, gains, facts));
            }

            var keeping = ending[student.Id]
                .DistinctBy(one => one.Held.Process)
                .Select(one => ToKeep(one.Held, student, welded[student.Id].Count(), logged, setup))
                .OfType<PrescribedItem>()
                .Where(item => ahead?[student.Id].Any(cell => cell.ItemId == item.Id) != true);
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
                    [.. keeping.Concat(items).OrderByDescending(one => one.Asked > 0).ThenByDescending(one => one.GainPerHour)],
                    withheld,
                    perWeek,
                    chance,
                    sound ?? 1
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
                    new Dictionary<string, VariantUse>(),
                    logged.GetValueOrDefault(test.Id, LoggedWork.None)
                ),
                setup.Prices,
                setup.Week.HoursPerPeriod
            );
    }

    private static int CouponsOf(PlannedCell cell) =>
        cell.Kind == ItemKind.UnderRules ? cell.Filling.Where(part => part.DrillId is null).Sum(part => part.Times) : 0;

    // A part of a coupon that takes several periods is as much of the practice.
    private static Dictionary<string, double> PracticeOf(TestTemplate test, IEnumerable<PlannedCell> cells) =>
        cells
            .SelectMany(cell => PeriodPart.Practice(test, cell.Filling).Select(one => (one.Key, Times: one.Value / cell.Periods)))
            .GroupBy(one => one.Key)
            .ToDictionary(group => group.Key, group => group.Sum(one => one.Times), StringComparer.Ordinal);

    // What has not been begun is foretold from what the student shows elsewhere.
    private void Foretell(IReadOnlyList<StepOnWay> way, Dictionary<string, StepEvidence> evidence, Guid student, byte[]? kept)
    {
        foreach (var step in way.Where(one => one.State != StepState.Behind && !evidence.ContainsKey(one.Test)))
        {
            var forecast = readiness.Begin(student, step.Test, kept).Standing.Forecast;
            evidence[step.Test] = new StepEvidence(
                step.Test,
                false,
                0,
                0,
                forecast.ToBar ?? UnbegunCoupons,
                forecast.ToBarLeast ?? forecast.ToBar ?? UnbegunCoupons,
                forecast.ToBarMost
            );
        }
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
                one.Standing.Forecast.ToBar ?? UnbegunCoupons,
                one.Standing.Forecast.ToBarLeast ?? one.Standing.Forecast.ToBar ?? UnbegunCoupons,
                one.Standing.Forecast.ToBarMost
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
