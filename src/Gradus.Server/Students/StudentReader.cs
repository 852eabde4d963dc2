using Gradus.Core.Bench;
using Gradus.Core.Inspection;
using Gradus.Core.Library;
using Gradus.Core.Readiness;
using Gradus.Data;
using Gradus.Server.Coupons;
using Gradus.Server.Hosting;
using Gradus.Server.Library;
using Gradus.Server.Readiness;
using Gradus.Server.School;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Students;

/// <summary>Puts together how a student stands.</summary>
public sealed class StudentReader(GradusContext db, ReadinessBook readiness, SchoolLibrary library, SchoolClock clock)
{
    private const int CouponsCompared = 60;
    private const int CouponsShown = 20;
    private const int DecisionsShown = 20;
    private const int CouponsForFaults = 10;
    private const int FaultsShown = 5;

    public async Task<StudentView?> Read(Guid id, CancellationToken cancel)
    {
        var student = await db.Students.AsNoTracking().Include(one => one.ClassGroup).FirstOrDefaultAsync(one => one.Id == id, cancel);
        if (student is null)
        {
            return null;
        }

        var known = await readiness.Read([id], cancel);
        var policies = await readiness.Policies(cancel);
        var decisions = await LastDecisions.Of(db, [id], cancel);
        var tests = new List<StudentTest>();
        foreach (
            var testId in known
                .Select(record => record.TestId)
                .Append(student.TargetTestId)
                .Distinct()
                .OrderBy(test => test != student.TargetTestId)
                .ThenBy(test => test)
        )
        {
            var record = known.FirstOrDefault(one => one.TestId == testId) ?? readiness.Begin(id, testId, null);
            var policy = policies.Of(testId);
            var advice = readiness.Advise(record, policy, student.SafetySignedAt is not null, decisions.GetValueOrDefault((id, testId)));
            tests.Add(await Test(record, advice, policy, cancel));
        }

        return new StudentView(
            student.Id,
            student.Name,
            student.ClassGroupId,
            student.ClassGroup!.Name,
            student.Hand,
            student.Note,
            student.LeftAt,
            student.TargetTestId,
            tests,
            await Coupons(id, null, cancel),
            await Decisions(id, known, cancel),
            student.SafetySignedAt,
            student.ErasedAt
        );
    }

    /// <summary>How a student stands on a test, as the student page and the decision show it.</summary>
    public async Task<StudentTest> Test(ReadinessRecord record, Advice advice, TestPolicy policy, CancellationToken cancel)
    {
        var (studentId, testId) = (record.StudentId, record.TestId);
        var template = library.Tests[testId];
        var estimate = ReadinessBook.Estimate(record);
        var stages = template
            .Stages.Select(stage => new StageChance(stage, ChanceView.From(estimate.Elements[CouponSeen.ElementOf(stage)])))
            .ToList();
        return new StudentTest(
            testId,
            template.Title,
            template.Brief,
            ChanceView.From(estimate.Whole),
            policy.BarMean,
            advice.Kind,
            advice.Says,
            advice.Why,
            advice.TakeBack,
            stages,
            stages.Where(one => !one.Chance.TooLittleToTell).OrderBy(one => one.Chance.Mean).FirstOrDefault()?.Stage,
            await Faults(studentId, testId, cancel)
        );
    }

    /// <summary>On each test that a student has welded: the ways compared, and the settings of the stages that came out clean.</summary>
    public async Task<IReadOnlyList<WhatWorked>> Worked(Student student, string? testId, CancellationToken cancel)
    {
        var recent = await RecentPasses.Read(db, [student.Id], clock.Now, cancel);
        var worked = new List<WhatWorked>();
        foreach (var test in recent.Select(group => group.Key.TestId).Where(id => testId == null || id == testId).Order(StringComparer.Ordinal))
        {
            if (library.Tests.TryGetValue(test, out var template))
            {
                worked.Add(
                    new WhatWorked(
                        test,
                        await Variants(student.Id, template, cancel),
                        [.. PassCards.Build(template, student.Hand, recent[(student.Id, test)]).Where(card => card.Clean is not null)]
                    )
                );
            }
        }

        return worked;
    }

    /// <summary>For each place where schools differ, the two ways that this student used most, by their latest full coupons.</summary>
    private async Task<IReadOnlyList<VariantComparison>> Variants(Guid studentId, TestTemplate template, CancellationToken cancel)
    {
        var rows = await db
            .Coupons.AsNoTracking()
            .Where(coupon =>
                coupon.StudentId == studentId
                && coupon.TestId == template.Id
                && coupon.ClosedAt != null
                && coupon.DrillId == null
                && coupon.VoidedAt == null
            )
            .OrderByDescending(coupon => coupon.ClosedAt)
            .Take(CouponsCompared)
            .Select(coupon => new
            {
                coupon.Variants,
                Closings = coupon.Closings.Where(closing => closing.WithdrawnAt == null && closing.EndedBy == null).ToList(),
            })
            .ToListAsync(cancel);
        var judged = rows.Where(row => row.Closings.Count == 1 && row.Closings[0].Decides)
            .Select(row => (row.Variants, Clean: row.Closings[0].Kind == VerdictKind.Accept))
            .ToList();
        return
        [
            .. template
                .Variants.Select(group =>
                    group
                        .Options.Select(option =>
                        {
                            var own = judged.Where(one => one.Variants.GetValueOrDefault(group.Id) == option.Id).ToList();
                            return (option.Name, Coupons: own.Count, Clean: own.Count(one => one.Clean), Group: group.Name);
                        })
                        .Where(way => way.Coupons > 0)
                        .OrderByDescending(way => way.Coupons)
                        .Take(2)
                        .ToList()
                )
                .Where(ways => ways.Count == 2)
                .Select(ways => new VariantComparison(
                    ways[0].Group,
                    ways[0].Name,
                    ways[1].Name,
                    StudentCard.ChanceBetter(ways[0].Clean, ways[0].Coupons, ways[1].Clean, ways[1].Coupons).Value,
                    ways[0].Clean,
                    ways[0].Coupons,
                    ways[1].Clean,
                    ways[1].Coupons
                )),
        ];
    }

    public async Task<CouponPage> Coupons(Guid studentId, DateTimeOffset? before, CancellationToken cancel)
    {
        var rows = await db
            .Coupons.AsNoTracking()
            .Where(coupon => coupon.StudentId == studentId && (before == null || coupon.StartedAt < before))
            .OrderByDescending(coupon => coupon.StartedAt)
            .Take(CouponsShown + 1)
            .Select(coupon => new
            {
                Coupon = coupon,
                // As a list: asking the database for the first would number every closing of the school.
                Closings = coupon.Closings.Where(closing => closing.WithdrawnAt == null && closing.EndedBy == null).ToList(),
                Findings = coupon
                    .Findings.Where(finding => finding.WithdrawnAt == null)
                    .OrderBy(finding => finding.HappenedAt)
                    .ThenBy(finding => finding.Id)
                    .ToList(),
            })
            .ToListAsync(cancel);
        return new CouponPage(
            [
                .. rows.Take(CouponsShown)
                    .Select(row => (row.Coupon, row.Findings, Closing: row.Closings.SingleOrDefault()))
                    .Select(row => new CouponRow(
                        row.Coupon.Id,
                        row.Coupon.Stamp,
                        row.Coupon.TestId,
                        row.Coupon.DrillId,
                        row.Coupon.AsTest,
                        row.Coupon.StartedAt,
                        row.Coupon.ClosedAt,
                        row.Coupon.VoidedAt,
                        row.Closing?.Kind,
                        row.Closing is null ? [] : [.. Rejected(row.Closing, row.Findings).Select(Describe).Concat(Besides(row.Closing)).Distinct()]
                    )),
            ],
            rows.Count > CouponsShown ? rows[CouponsShown - 1].Coupon.StartedAt : null
        );
    }

    /// <summary>The signed decisions, latest first.</summary>
    /// <param name="known">How the student stands, on the tests of which what came after is told.</param>
    public async Task<IReadOnlyList<DecisionView>> Decisions(Guid studentId, IReadOnlyCollection<ReadinessRecord> known, CancellationToken cancel)
    {
        var rows = await db
            .Decisions.AsNoTracking()
            .Where(decision => decision.StudentId == studentId)
            .OrderByDescending(decision => decision.SignedAt)
            .Take(DecisionsShown)
            .Join(
                db.People,
                decision => decision.SignedBy,
                instructor => instructor.Id,
                (decision, instructor) =>
                    new
                    {
                        decision,
                        instructor.Name,
                        WithdrawnBy = db.People.Where(one => one.Id == decision.WithdrawnBy).Select(one => one.Name).FirstOrDefault(),
                    }
            )
            .ToListAsync(cancel);
        var sat = await db
            .SittingResults.AsNoTracking()
            .Where(result => result.StudentId == studentId)
            .OrderByDescending(result => result.Day)
            .Take(DecisionsShown)
            .Select(result => new SatView(result.TestId, result.Day, result.Passed))
            .ToListAsync(cancel);
        SinceThen Since(Decision decision)
        {
            var after = known.FirstOrDefault(one => one.TestId == decision.TestId)?.Recent.Where(one => one.At > decision.SignedAt).ToList() ?? [];
            var signed = clock.DayOf(decision.SignedAt);
            return new SinceThen(
                after.Count,
                after.Count(one => one.Clean),
                sat.LastOrDefault(result => result.TestId == decision.TestId && result.Day >= signed)
            );
        }

        return
        [
            .. rows.OrderByDescending(row => row.decision.SignedAt)
                .Select(row => new DecisionView(
                    row.decision.Id,
                    row.decision.TestId,
                    row.decision.Kind,
                    row.decision.Reason,
                    ChanceView.From(row.decision.Estimate.Whole),
                    row.decision.Estimate.Elements.ToDictionary(one => one.Key, one => ChanceView.From(one.Value)),
                    row.decision.Estimate.MethodVersion,
                    row.decision.SignedAt,
                    row.Name,
                    row.decision.Advice?.Kind,
                    row.decision.Advice?.Says,
                    row.decision.WithdrawnAt is { } at ? new WithdrawnView(at, row.WithdrawnBy ?? "", row.decision.WithdrawnReason ?? "") : null,
                    Since(row.decision)
                )),
        ];
    }

    /// <summary>What the last closed coupons were rejected for, most frequent first.</summary>
    private async Task<IReadOnlyList<FaultCount>> Faults(Guid studentId, string testId, CancellationToken cancel)
    {
        var rows = await db
            .Coupons.AsNoTracking()
            .Where(coupon => coupon.StudentId == studentId && coupon.TestId == testId && coupon.ClosedAt != null && coupon.VoidedAt == null)
            .OrderByDescending(coupon => coupon.ClosedAt)
            .Take(CouponsForFaults)
            .Select(coupon => new
            {
                Closings = coupon.Closings.Where(closing => closing.WithdrawnAt == null && closing.EndedBy == null).ToList(),
                Findings = coupon
                    .Findings.Where(finding => finding.WithdrawnAt == null)
                    .OrderBy(finding => finding.HappenedAt)
                    .ThenBy(finding => finding.Id)
                    .ToList(),
            })
            .ToListAsync(cancel);
        return
        [
            .. rows.SelectMany(row => Rejected(row.Closings.Single(), row.Findings).Select(fault => (fault.Kind, fault.Stage)).Distinct())
                .GroupBy(fault => fault)
                .OrderByDescending(group => group.Count())
                .ThenBy(group => group.Key.Stage)
                .Take(FaultsShown)
                .Select(group => new FaultCount(group.Key.Kind, Discontinuities.Of(group.Key.Kind).Name, group.Key.Stage, group.Count(), rows.Count)),
        ];
    }

    /// <summary>
    /// What a closing rejected, findings and measures: as its facts have it, with the place of the finding. Closings from before there were facts
    /// have only their verdict.
    /// </summary>
    private static IEnumerable<(DiscontinuityKind Kind, Core.Vocabulary.Stage Stage, int? Clock)> Rejected(
        ClosingRecord closing,
        List<FindingRecord> findings
    )
    {
        var seen = closing
            .Verdict.Visual.Reasons.Where(reason => reason.Outcome == VerdictKind.Reject && reason.Finding < findings.Count)
            .Select(reason => reason.Finding)
            .Distinct()
            .Select(index => findings[index])
            .ToList();
        var told = closing.Facts?.Faults.Where(fault => !fault.ByMeasure).ToList();
        return seen.Select(
                (finding, index) =>
                    told is not null && told.Count == seen.Count
                        ? (told[index].Kind, told[index].Stage, finding.ClockMinutes)
                        : (finding.Kind, finding.Stage, finding.ClockMinutes)
            )
            .Concat((closing.Facts?.Faults ?? []).Where(fault => fault.ByMeasure).Select(fault => (fault.Kind, fault.Stage, (int?)null)));
    }

    /// <summary>What rejected a coupon besides: a specimen, a place of a repair drill, a height on closings from before heights were told.</summary>
    private static IEnumerable<string> Besides(ClosingRecord closing)
    {
        if (closing.Kind != VerdictKind.Reject)
        {
            return [];
        }

        List<string> said =
        [
            .. (closing.Verdict.Specimens ?? []).Where(one => one.Verdict.Kind == VerdictKind.Reject).Select(one => one.Name),
            .. closing.Verdict.Says ?? [],
        ];
        var named = said.Count > 0 || closing.Facts?.Faults.Count > 0 || closing.Verdict.Visual.Reasons.Count == 0;
        return named ? said : closing.Verdict.Visual.Reasons.Where(reason => reason.Outcome == VerdictKind.Reject).Select(reason => reason.Rule);
    }

    private static string Describe((DiscontinuityKind Kind, Core.Vocabulary.Stage Stage, int? Clock) fault) =>
        $"{Discontinuities.Of(fault.Kind).Name}, {CouponSeen.ElementOf(fault.Stage)}"
        + (fault.Clock is { } minutes ? $" at {Core.Measure.ClockPosition.FromMinutes(minutes)}" : "");
}
