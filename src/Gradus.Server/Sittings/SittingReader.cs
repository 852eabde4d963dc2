using Gradus.Core.Bench;
using Gradus.Core.Certification;
using Gradus.Core.Inspection;
using Gradus.Core.Library;
using Gradus.Core.Qualification;
using Gradus.Data;
using Gradus.Server.Accounts;
using Gradus.Server.Coupons;
using Gradus.Server.Hosting;
using Gradus.Server.Library;
using Gradus.Server.Planning;
using Gradus.Server.Qualifications;
using Gradus.Server.School;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Sittings;

/// <summary>Reads sittings: as a list, by themselves, and what a booking begins with.</summary>
public sealed class SittingReader(
    GradusContext db,
    SchoolLibrary library,
    SetupBook setups,
    SittingBook book,
    CertificateBook certificates,
    GivenFiles files,
    SchoolClock clock
)
{
    /// <summary>The most that are listed, of those to come and of those that are done.</summary>
    public const int MostListed = 200;

    // Three weeks of a timetable.
    private const int OfferedDays = 21;
    private const int OfferedTimes = 12;
    private const int MostProcedures = 8;

    /// <summary>The sittings of the school, or of one student.</summary>
    public async Task<SittingList> List(Guid? studentId, CancellationToken cancel)
    {
        var mine = db.Sittings.AsNoTracking().Where(one => studentId == null || one.StudentId == studentId);
        var open = mine.Standing().Where(one => !db.SittingResults.Any(result => result.SittingId == one.Id));

        // What was booked before sittings had results is over with its day.
        var opened = await open.Where(one => one.BookedAt != null || one.Day >= clock.Today)
            .OrderBy(one => one.Day)
            .ThenBy(one => one.Period)
            .Take(MostListed)
            .ToListAsync(cancel);
        var done = await mine.Where(one =>
                one.CancelledAt != null || one.VoidedAt != null || db.SittingResults.Any(result => result.SittingId == one.Id)
            )
            .OrderByDescending(one => one.Day)
            .ThenByDescending(one => one.Id)
            .Take(MostListed)
            .ToListAsync(cancel);
        return new SittingList(await Rows(opened, cancel), await Rows(done, cancel));
    }

    /// <summary>The sittings of some days that stand and have no result yet, by time.</summary>
    public async Task<IReadOnlyList<SittingRow>> On(DateOnly from, DateOnly to, CancellationToken cancel) =>
        await Rows(
            await db
                .Sittings.AsNoTracking()
                .Standing()
                .Where(one => one.Day >= from && one.Day <= to)
                .Where(one => one.BookedAt != null || one.Day >= clock.Today) // as above
                .Where(one => !db.SittingResults.Any(result => result.SittingId == one.Id))
                .OrderBy(one => one.Day)
                .ThenBy(one => one.Period)
                .Take(MostListed)
                .ToListAsync(cancel),
            cancel
        );

    /// <summary>A sitting, whole; null when there is none.</summary>
    public async Task<SittingView?> Read(Guid id, CancellationToken cancel)
    {
        if (await db.Sittings.AsNoTracking().FirstOrDefaultAsync(one => one.Id == id, cancel) is not { } sitting)
        {
            return null;
        }

        var row = (await Rows([sitting], cancel)).Single();
        var names = await Names.Of(db, cancel);
        var (test, rules) = book.TestOf(sitting);
        var profile = library.Profiles[sitting.JudgedBy ?? library.Tests[sitting.TestId].Code];
        var marks = (
            await db.SittingMarks.AsNoTracking().Where(mark => mark.SittingId == id && mark.WithdrawnAt == null).ToListAsync(cancel)
        ).ToDictionary(mark => mark.Check);
        var result = await db.SittingResults.AsNoTracking().FirstOrDefaultAsync(one => one.SittingId == id, cancel);
        var decision = sitting.DecisionId is { } decisionId
            ? await db.Decisions.AsNoTracking().FirstOrDefaultAsync(one => one.Id == decisionId, cancel)
            : null;
        var made = await certificates.Made(sitting, cancel);
        var shown = await book.Shown(sitting, made, cancel);
        var code = Ranges.ByCode.GetValueOrDefault(profile.Code);
        var setup = await setups.Read(cancel);
        return new SittingView(
            row,
            sitting.BoothId,
            profile.Name,
            profile.Code,
            profile.Id,
            sitting.Procedure,
            sitting.InspectorId,
            decision?.SignedAt,
            decision is null ? null : names.GetValueOrDefault(decision.SignedBy),
            [
                .. library
                    .Tests[sitting.TestId]
                    .Variants.Select(group =>
                        group.Options.FirstOrDefault(option => option.Id == sitting.Variants?.GetValueOrDefault(group.Id))?.Name
                    )
                    .OfType<string>(),
            ],
            rules,
            [.. test.Specimens.Select(Named)],
            sitting.ByFilm,
            sitting.Coupons,
            sitting.Despite,
            [
                .. sitting.Moves.Select(move =>
                    $"Was on {RecordPdf.Day(move.Day)}, {PeriodName(setup, move.Period)}. {move.Why} ({names.GetValueOrDefault(move.By)})"
                ),
            ],
            [.. DayList.Of(test, rules).Select(point => View(point, marks.GetValueOrDefault(point.Id), names))],
            [.. made.Select(one => View(one.Coupon, one.Log))],
            result is not null
                    ? new OutcomeView(
                        result.Passed ? SittingOutcome.Passed : SittingOutcome.Failed,
                        result.FailedBy,
                        result.Note,
                        result.Day,
                        names.GetValueOrDefault(result.RecordedBy, "")
                    )
                : sitting.VoidedAt is { } voided
                    ? new OutcomeView(
                        SittingOutcome.Void,
                        null,
                        sitting.VoidedWhy ?? "",
                        clock.DayOf(voided),
                        names.GetValueOrDefault(sitting.VoidedBy!.Value, "")
                    )
                : null,
            made.Count == 0 ? null
                : shown.Failed is { } failed ? new SignResult(SittingOutcome.Failed, failed, null)
                : shown.Lacking.Count == 0 ? new SignResult(SittingOutcome.Passed, null, null)
                : null,
            shown.Lacking,
            result is { Passed: false } && code is not null ? Retests.After(code.Retest, sitting.Turn) : [],
            result is { Passed: false } ? code?.Retest.Rule : null,
            await files.Of(id, cancel),
            RecordFields.AskedFor(profile.Code),
            code is null ? [] : Continuity.RoutesOf(code.Continuity),
            sitting.VoidedAt,
            sitting.CancelledAt
        );
    }

    /// <summary>What a booking begins with; null when there is no such student or test.</summary>
    public async Task<BookingForm?> Form(Guid studentId, string testId, CancellationToken cancel)
    {
        var student = await db.Students.AsNoTracking().Include(one => one.ClassGroup).FirstOrDefaultAsync(one => one.Id == studentId, cancel);
        if (student is null || !library.Tests.TryGetValue(testId, out var test) || test.Kind != TestKind.Test)
        {
            return null;
        }

        var setup = await setups.Read(cancel);
        var chosen = await book.LastVariants(studentId, testId, cancel);
        var way = test.With(chosen);
        var decision = await book.Decision(null, studentId, testId, cancel);
        List<string> concerns = student.SafetySignedAt is null ? [$"Safety is not signed off for {student.Name}. Sign it off first."] : [];
        concerns.AddRange(await book.Concerns(studentId, testId, decision, cancel));
        var ways = await book.Ways(studentId, testId, library.Profiles[test.Code].Code, cancel);
        var booths = (await db.Booths.Standing().AsNoTracking().OrderBy(one => one.Number).ToListAsync(cancel)).FindAll(booth =>
            SittingBook.Takes(booth, way)
        );
        return new BookingForm(
            studentId,
            student.Name,
            testId,
            test.Title,
            decision?.Id,
            decision?.SignedAt,
            concerns,
            await Times(student, setup, booths, cancel),
            [.. booths.Select(booth => new OfferedBooth(booth.Id, booth.Number))],
            [.. (
                    await db
                        .People.AsNoTracking()
                        .Where(one => one.LeftAt == null && one.Role != PersonRole.Student)
                        .OrderBy(one => one.Name)
                        .Select(one => new
                        {
                            one.Id,
                            one.Name,
                            one.Role,
                        })
                        .ToListAsync(cancel)
                ).OrderByDescending(one => one.Role == PersonRole.Inspector).Select(one => new OfferedPerson(one.Id, one.Name, one.Role == PersonRole.Inspector))],
            [
                .. test.Variants.Select(group => new OfferedGroup(
                    group.Id,
                    group.Name,
                    [.. group.Options.Select(option => new OfferedOption(option.Id, option.Name))]
                )),
            ],
            chosen,
            [.. library.JudgeableBy(testId).Select(id => new OfferedOption(id, library.Profiles[id].Name))],
            test.Code,
            [
                .. (
                    await db
                        .Sittings.AsNoTracking()
                        .Where(one => one.TestId == testId && one.Procedure != null)
                        .OrderByDescending(one => one.BookedAt)
                        .Select(one => one.Procedure!)
                        .Take(MostListed)
                        .ToListAsync(cancel)
                )
                    .Distinct()
                    .Take(MostProcedures),
            ],
            way.Rules,
            [.. way.Specimens.Select(Named)],
            TestQualification.TakesFilm(way, library.Profiles[test.Code].Code),
            ways,
            ways.Count > 0 ? Ranges.ByCode[library.Profiles[test.Code].Code].Retest.Rule : null
        );
    }

    private async Task<IReadOnlyList<OfferedTime>> Times(Student student, Setup setup, List<Booth> booths, CancellationToken cancel)
    {
        var (start, end) = (clock.Today, clock.Today.AddDays(OfferedDays));
        var absent = await db
            .Absences.AsNoTracking()
            .Where(one => one.StudentId == student.Id && one.Day >= start && one.Day <= end)
            .ToListAsync(cancel);
        var booked = await db
            .Sittings.AsNoTracking()
            .Standing()
            .Where(one => one.Day >= start && one.Day <= end)
            .Select(one => new
            {
                one.StudentId,
                one.BoothId,
                one.Day,
                one.Period,
            })
            .ToListAsync(cancel);
        var now = setup.PeriodAt(clock.TimeOfDay);
        return
        [
            .. (
                from day in Enumerable.Range(0, OfferedDays).Select(start.AddDays)
                from period in Enumerable.Range(0, setup.Week.PeriodNames.Count)
                where setup.Meets(student.ClassGroup!, day, period)
                where day > start || period >= now
                where !absent.Exists(one => one.Day == day && (one.Period is null || one.Period == period))
                let taken = booked.FindAll(one => one.Day == day && one.Period == period)
                where !taken.Exists(one => one.StudentId == student.Id)
                select new OfferedTime(
                    day,
                    period,
                    setup.Week.PeriodNames[period],
                    setup.Week.PeriodStarts[period],
                    [.. booths.Where(booth => !taken.Exists(one => one.BoothId == booth.Id)).Select(booth => booth.Id)]
                )
            ).Take(OfferedTimes),
        ];
    }

    private async Task<IReadOnlyList<SittingRow>> Rows(List<Sitting> sittings, CancellationToken cancel)
    {
        if (sittings.Count == 0)
        {
            return [];
        }

        var (ids, students, booths) = (
            sittings.ConvertAll(one => one.Id),
            sittings.Select(one => one.StudentId).Distinct().ToList(),
            sittings.Select(one => one.BoothId).OfType<Guid>().Distinct().ToList()
        );
        var called = await db.Students.Where(one => students.Contains(one.Id)).ToDictionaryAsync(one => one.Id, one => one.Name, cancel);
        var numbers = await db.Booths.Where(one => booths.Contains(one.Id)).ToDictionaryAsync(one => one.Id, one => one.Number, cancel);
        var results = await db
            .SittingResults.AsNoTracking()
            .Where(one => one.SittingId != null && ids.Contains(one.SittingId.Value))
            .ToDictionaryAsync(one => one.SittingId!.Value, cancel);
        var records = await db
            .Certificates.Where(one => one.SittingId != null && ids.Contains(one.SittingId.Value) && one.ReplacedBy == null && one.RevokedAt == null)
            .Select(one => new { one.SittingId, one.Id })
            .ToDictionaryAsync(one => one.SittingId!.Value, one => one.Id, cancel);
        var names = await Names.Of(db, cancel);
        var setup = await setups.Read(cancel);
        return
        [
            .. sittings.Select(one =>
            {
                var result = results.GetValueOrDefault(one.Id);
                return new SittingRow(
                    one.Id,
                    one.StudentId,
                    called[one.StudentId],
                    one.TestId,
                    library.Tests.GetValueOrDefault(one.TestId)?.Title ?? one.TestId,
                    one.Day,
                    one.Period,
                    PeriodName(setup, one.Period),
                    one.BoothId is { } booth && numbers.TryGetValue(booth, out var number) ? number : null,
                    one.InspectorName ?? (one.InspectorId is { } inspector ? names.GetValueOrDefault(inspector) : null),
                    one.Turn,
                    StateOf(one, result),
                    records.TryGetValue(one.Id, out var record) ? record : null,
                    one.CancelledWhy ?? one.VoidedWhy ?? result?.FailedBy
                );
            }),
        ];
    }

    private SittingState StateOf(Sitting one, SittingResult? result) =>
        one.CancelledAt is not null ? SittingState.Cancelled
        : one.VoidedAt is not null ? SittingState.Void
        : result is not null
            ? result.Passed ? SittingState.Passed
                : SittingState.Failed
        : one.Day > clock.Today ? SittingState.Booked
        : one.Day == clock.Today ? SittingState.Today
        : SittingState.Waiting;

    private static string PeriodName(Setup setup, int period) =>
        period < setup.Week.PeriodNames.Count ? setup.Week.PeriodNames[period] : $"Period {period + 1}";

    private static PointView View(DayPoint point, SittingMark? mark, IReadOnlyDictionary<Guid, string> names) =>
        new(
            point.Id,
            point.Title,
            point.Asks,
            point.Witnessed,
            mark?.Id,
            mark?.Text,
            mark?.At,
            mark is null ? null : names.GetValueOrDefault(mark.By),
            mark?.WitnessName ?? (mark?.WitnessId is { } witness ? names.GetValueOrDefault(witness) : null)
        );

    private MadeCoupon View(Coupon coupon, CouponLog log)
    {
        var verdict = log.Verdict();
        var tested = (verdict.Specimens ?? []).ToDictionary(one => one.Specimen);
        return new MadeCoupon(
            coupon.Id,
            coupon.Stamp,
            coupon.ClosedAt is not null,
            verdict.Seen == VerdictKind.CannotJudge && verdict.Visual.IsOpenInside && verdict.Missing.Count == 0 ? VerdictKind.Accept : verdict.Seen,
            verdict.Inside,
            verdict.Kind,
            [.. verdict.Missing.Select(stage => stage.ToString().ToLowerInvariant())],
            [
                .. log.Test.Specimens.Select(
                    (one, index) =>
                        new SpecimenView(
                            index,
                            one.Kind,
                            Named(one, index),
                            Place(one),
                            tested.GetValueOrDefault(index)?.Verdict.Kind,
                            tested.GetValueOrDefault(index) is { Verdict.Reasons: [var reason, ..] } ? reason.Rule : null
                        )
                ),
            ],
            [.. log.Breaches(coupon.ClosedAt ?? clock.Now).Select(breach => breach.Says)],
            log.Test.Joint.ThicknessMm
        );
    }

    private static string Named(Specimen one, int index) => SpecimenVerdict.NameOf(one.Kind, index).Capital();

    private static string? Place(Specimen one) => one.Clock is { } clock ? $"{clock}" : null;
}
