using Gradus.Core.Bench;
using Gradus.Core.Certification;
using Gradus.Core.Inspection;
using Gradus.Core.Library;
using Gradus.Core.Planning;
using Gradus.Core.Qualification;
using Gradus.Core.Readiness;
using Gradus.Data;
using Gradus.Server.Accounts;
using Gradus.Server.Coupons;
using Gradus.Server.Hosting;
using Gradus.Server.Library;
using Gradus.Server.Planning;
using Gradus.Server.Qualifications;
using Gradus.Server.Readiness;
using Gradus.Server.School;
using Gradus.Server.Students;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Sittings;

/// <summary>Books sittings, and keeps what happens at them until there is a result.</summary>
public sealed class SittingBook(
    GradusContext db,
    SchoolLibrary library,
    SetupBook setups,
    ReadinessBook readiness,
    CertificateBook certificates,
    CouponRecorder recorder,
    SchoolClock clock
)
{
    /// <summary>Books a sitting. What cannot be is refused; what should not be is asked about once, and booked with the reason.</summary>
    public async Task<Outcome<Written>> Book(Guid id, SittingRequest request, Guid by, CancellationToken cancel)
    {
        var (studentId, testId) = (request.StudentId!.Value, request.TestId!);
        var before = await db.Sittings.AsNoTracking().FirstOrDefaultAsync(one => one.Id == id, cancel);
        var student = await db.Students.AsNoTracking().Include(one => one.ClassGroup).FirstOrDefaultAsync(one => one.Id == studentId, cancel);
        if (student is null)
        {
            return Refusal.NotFound("studentId", "The id of a student.");
        }

        var decision = await Decision(request.DecisionId, studentId, testId, cancel);
        if (before is null && request.DecisionId is not null && decision is null)
        {
            return Refusal.Conflict("decisionId", "A signed \"test now\" for this student and test that was not taken back.");
        }

        var setup = await setups.Read(cancel);
        if (request.Period >= setup.Week.PeriodNames.Count)
        {
            return Refusal.Field("period", $"A day has {setup.Week.PeriodNames.Count} periods, counted from 0.");
        }

        var turn = request.Turn ?? SittingTurn.First;
        var code = library.Profiles[request.JudgedBy ?? library.Tests[testId].Code].Code;
        var sitting = new Sitting
        {
            Id = id,
            StudentId = studentId,
            TestId = testId,
            Day = request.Day!.Value,
            Period = request.Period!.Value,
            BookedBy = by,
            BookedAt = clock.Now,
            DecisionId = before is null ? decision?.Id : request.DecisionId ?? before.DecisionId,
            BoothId = request.BoothId,
            Variants = request.Variants,
            JudgedBy = request.JudgedBy == library.Tests[testId].Code ? null : request.JudgedBy,
            Procedure = request.Procedure.Said(),
            InspectorId = request.InspectorId,
            InspectorName = request.InspectorName.Said(),
            Rules = request.Rules,
            ByFilm = request.ByFilm == true,
            Turn = turn,
            Coupons = turn == SittingTurn.AtOnce && Ranges.ByCode.TryGetValue(code, out var rules) ? rules.Retest.ImmediateCoupons : 1,
            Despite = request.Despite.Said(),
        };
        if (before is not null)
        {
            return Twins.Answer(id, before.Content, sitting.Content);
        }

        if (student.LeftAt is not null)
        {
            return Refusal.Conflict("studentId", $"{student.Name} has left. Let the student come back first.");
        }

        if (student.SafetySignedAt is null)
        {
            return Refusal.Conflict("studentId", $"Safety is not signed off for {student.Name}. Sign it off first.");
        }

        if (
            sitting.InspectorId is { } inspector
            && !await db.People.AnyAsync(one => one.Id == inspector && one.LeftAt == null && one.Role != PersonRole.Student, cancel)
        )
        {
            return Refusal.NotFound("inspectorId", "Somebody of the school.");
        }

        if (sitting.ByFilm && !TestQualification.TakesFilm(library.Tests[testId], code))
        {
            return Refusal.Conflict("byFilm", "The code takes no film of this test in place of bends.");
        }

        if (turn != SittingTurn.First && !(await Ways(studentId, testId, code, cancel)).Any(way => way.Turn == turn))
        {
            return Refusal.Conflict(
                "turn",
                turn == SittingTurn.AtOnce ? "It is repeated at once only after a failure, and not twice." : "Only after a failure."
            );
        }

        if (await CannotBe(sitting, student, cancel) is { } refusal)
        {
            return refusal;
        }

        var concerns = await Concerns(sitting, student, setup, decision, cancel);
        if (concerns.Count > 0 && sitting.Despite is null)
        {
            return AskedAbout(concerns, "Book");
        }

        db.Sittings.Add(sitting);
        await db.SaveChangesAsync(cancel);
        return new Written(id, true);
    }

    /// <summary>Moves a sitting to another time or booth.</summary>
    public async Task<Outcome<Written>> Move(Guid id, MoveSitting request, Guid by, CancellationToken cancel)
    {
        var (sitting, refusal) = await Open(id, cancel);
        if (sitting is null)
        {
            return refusal!;
        }

        var setup = await setups.Read(cancel);
        if (request.Period >= setup.Week.PeriodNames.Count)
        {
            return Refusal.Field("period", $"A day has {setup.Week.PeriodNames.Count} periods, counted from 0.");
        }

        if ((sitting.Day, sitting.Period, sitting.BoothId) == (request.Day!.Value, request.Period!.Value, request.BoothId))
        {
            return new Written(id, false);
        }

        if (await db.Coupons.AnyAsync(coupon => coupon.SittingId == id && coupon.VoidedAt == null, cancel))
        {
            return Refusal.Conflict("id", "A coupon was begun at it. Void that first.");
        }

        sitting.Moves = [.. sitting.Moves, new SittingMove(sitting.Day, sitting.Period, sitting.BoothId, request.Why!.Trim(), by, clock.Now)];
        (sitting.Day, sitting.Period, sitting.BoothId) = (request.Day.Value, request.Period.Value, request.BoothId);
        var student = await db.Students.AsNoTracking().Include(one => one.ClassGroup).SingleAsync(one => one.Id == sitting.StudentId, cancel);
        if (await CannotBe(sitting, student, cancel) is { } cannot)
        {
            return cannot;
        }

        var concerns = await Times(sitting, student, setup, cancel);
        if (concerns.Count > 0 && request.Despite.Said() is null)
        {
            return AskedAbout(concerns, "Move");
        }

        await db.SaveChangesAsync(cancel);
        return new Written(id, true);
    }

    /// <summary>Calls a sitting off. It stays in the list, with the reason.</summary>
    public async Task<Outcome<Written>> Cancel(Guid id, string why, Guid by, CancellationToken cancel)
    {
        if (await db.Sittings.FirstOrDefaultAsync(one => one.Id == id, cancel) is { CancelledAt: not null })
        {
            return new Written(id, false);
        }

        var (sitting, refusal) = await Open(id, cancel);
        if (sitting is null)
        {
            return refusal!;
        }

        if (await db.Coupons.AnyAsync(coupon => coupon.SittingId == id && coupon.VoidedAt == null, cancel))
        {
            return Refusal.Conflict("id", "A coupon was begun at it: give its result, or declare it void.");
        }

        (sitting.CancelledAt, sitting.CancelledBy, sitting.CancelledWhy) = (clock.Now, by, why.Trim());
        await db.SaveChangesAsync(cancel);
        return new Written(id, true);
    }

    /// <summary>Starts a coupon of a sitting, as it was booked: nothing is typed again.</summary>
    public async Task<Outcome<Written>> Start(Guid id, Guid couponId, Provenance from, CancellationToken cancel)
    {
        if (await db.Coupons.AsNoTracking().FirstOrDefaultAsync(one => one.Id == couponId, cancel) is { } known)
        {
            return known.SittingId == id ? new Written(couponId, false) : Refusal.Conflict("couponId", "Another coupon is recorded under this id.");
        }

        var (sitting, refusal) = await Open(id, cancel);
        if (sitting is null)
        {
            return refusal!;
        }

        if (sitting.Day > clock.Today)
        {
            return Refusal.Conflict("id", "Its day has not come. Move it to today first.");
        }

        if (await db.Coupons.CountAsync(coupon => coupon.SittingId == id && coupon.VoidedAt == null, cancel) >= sitting.Coupons)
        {
            return Refusal.Conflict(
                "id",
                sitting.Coupons == 1 ? "Its coupon was begun already." : $"All {sitting.Coupons} coupons were begun already."
            );
        }

        return await recorder.Start(
            couponId,
            new StartCoupon(
                sitting.StudentId,
                sitting.TestId,
                null,
                sitting.Variants ?? await LastVariants(sitting.StudentId, sitting.TestId, cancel),
                sitting.BoothId ?? await PlannedBooth(sitting, cancel),
                true,
                sitting.JudgedBy
            ),
            from,
            cancel,
            sitting
        );
    }

    /// <summary>Marks a point of the day's list as done. What answers a hold point is told to the coupon as well.</summary>
    /// <param name="witness">Asks for the PIN of whoever witnesses; null when it was theirs.</param>
    public async Task<Outcome<Written>> Mark(
        Guid id,
        Guid markId,
        MarkPoint request,
        Provenance from,
        Func<Guid, Task<Refusal?>> witness,
        CancellationToken cancel
    )
    {
        var mark = new SittingMark
        {
            Id = markId,
            SittingId = id,
            Check = request.Check!,
            Text = request.Text?.Trim() ?? "",
            At = from.HappenedAt,
            By = from.By,
            WitnessId = request.WitnessId,
            WitnessName = request.WitnessName.Said(),
            Signature = request.Signature,
        };
        if (await db.SittingMarks.AsNoTracking().FirstOrDefaultAsync(one => one.Id == markId, cancel) is { } known)
        {
            return Twins.Answer(markId, known.Content, mark.Content);
        }

        var (sitting, refusal) = await Open(id, cancel);
        if (sitting is null)
        {
            return refusal!;
        }

        var (test, rules) = TestOf(sitting);
        if (DayList.Of(test, rules).FirstOrDefault(one => one.Id == request.Check) is not { } point)
        {
            return Refusal.Field("check", "A point of the day's list.");
        }

        if (point.Asks is not null && mark.Text.Length == 0)
        {
            return Refusal.Field("text", $"{point.Asks}.");
        }

        if (point.Witnessed && mark.WitnessId is null && mark.Signature is null)
        {
            return Refusal.Field("witnessId", "The witness gives a PIN or signs.");
        }

        if (mark.WitnessId is { } who && await witness(who) is { } notTheirs)
        {
            return notTheirs;
        }

        if (await db.SittingMarks.AnyAsync(one => one.SittingId == id && one.Check == mark.Check && one.WithdrawnAt == null, cancel))
        {
            return Refusal.Conflict("check", "It is marked already. Take that back first.");
        }

        db.SittingMarks.Add(mark);
        await db.SaveChangesAsync(cancel);
        await Tell(sitting, point, from, cancel);
        return new Written(markId, true);
    }

    /// <summary>Takes a mark back. It stays.</summary>
    public async Task<Outcome<Written>> Unmark(Guid id, Guid markId, Guid by, CancellationToken cancel)
    {
        var (sitting, refusal) = await Open(id, cancel);
        if (sitting is null)
        {
            return refusal!;
        }

        if (await db.SittingMarks.FirstOrDefaultAsync(one => one.Id == markId && one.SittingId == id, cancel) is not { } mark)
        {
            return Refusal.NotFound("markId", "A mark of this sitting.");
        }

        if (mark.WithdrawnAt is not null)
        {
            return new Written(markId, false);
        }

        (mark.WithdrawnAt, mark.WithdrawnBy) = (clock.Now, by);
        await db.SaveChangesAsync(cancel);
        return new Written(markId, true);
    }

    /// <summary>Signs how it came out. Passed is only what the record shows as passed.</summary>
    public async Task<Outcome<Written>> Sign(Guid id, SignResult request, Guid by, CancellationToken cancel)
    {
        var outcome = request.Outcome!.Value;
        if (await db.Sittings.FirstOrDefaultAsync(one => one.Id == id, cancel) is not { } sitting)
        {
            return Unknown();
        }

        if (await db.SittingResults.AsNoTracking().FirstOrDefaultAsync(one => one.SittingId == id, cancel) is { } known)
        {
            return known.Passed == (outcome == SittingOutcome.Passed) && outcome != SittingOutcome.Void
                ? new Written(id, false)
                : Refusal.Conflict("outcome", "A result is signed already. Take that back first.");
        }

        if (sitting.VoidedAt is not null)
        {
            return outcome == SittingOutcome.Void ? new Written(id, false) : Refusal.Conflict("outcome", "It was declared void.");
        }

        if (sitting.CancelledAt is not null)
        {
            return Refusal.Conflict("id", "It was called off.");
        }

        if (sitting.Day > clock.Today)
        {
            return Refusal.Conflict("id", "Its day has not come.");
        }

        if (outcome == SittingOutcome.Void)
        {
            (sitting.VoidedAt, sitting.VoidedBy, sitting.VoidedWhy) = (clock.Now, by, request.Note!.Trim());
            await db.SaveChangesAsync(cancel);
            return new Written(id, true);
        }

        var shown = await Shown(sitting, await certificates.Made(sitting, cancel), cancel);
        if (outcome == SittingOutcome.Passed && (shown.Failed is not null || shown.Lacking.Count > 0))
        {
            return new Refusal(
                StatusCodes.Status409Conflict,
                "The record does not show that it was passed.",
                new Dictionary<string, string[]> { ["outcome"] = shown.Failed is { } failed ? [$"Failed by {failed}."] : [.. shown.Lacking] }
            );
        }

        var policy = await readiness.Policy(sitting.TestId, cancel);
        var (said, coupons) = await readiness.SaidBefore(sitting.StudentId, sitting.TestId, clock.BeginningOf(sitting.Day), cancel);
        var decided = sitting.DecisionId is { } decision
            ? await db.Decisions.AsNoTracking().FirstOrDefaultAsync(one => one.Id == decision, cancel)
            : null;
        db.SittingResults.Add(
            new SittingResult
            {
                Id = id,
                StudentId = sitting.StudentId,
                TestId = sitting.TestId,
                Day = sitting.Day,
                Passed = outcome == SittingOutcome.Passed,
                Note = request.Note?.Trim() ?? "",
                Said = decided?.Advice?.Passing ?? said,
                Coupons = coupons,
                RecordedAt = clock.Now,
                RecordedBy = by,
                SittingId = id,
                FailedBy = outcome == SittingOutcome.Failed ? request.FailedBy.Said() ?? shown.Failed : null,
                Cost = policy.SittingCost + (sitting.Coupons * (policy.CouponCost + (shown.WasCut ? policy.CutCost : 0))),
            }
        );
        await db.SaveChangesAsync(cancel);
        return new Written(id, true);
    }

    /// <summary>What the record of a sitting shows: by which part it failed, or what is wanting before it is passed.</summary>
    /// <param name="made">Its coupons, as they were read.</param>
    public async Task<(string? Failed, IReadOnlyList<string> Lacking, bool WasCut)> Shown(
        Sitting sitting,
        IReadOnlyList<(Coupon Coupon, CouponLog Log)> made,
        CancellationToken cancel
    )
    {
        var settles = await db.SittingFiles.AnyAsync(file => file.OwnerId == sitting.Id && file.Settles, cancel);
        List<string> lacking = [];
        if (made.Count < sitting.Coupons)
        {
            lacking.Add(made.Count == 0 ? "Its coupon was not begun." : $"{sitting.Coupons} coupons are to be made; {made.Count} were begun.");
        }

        foreach (var (coupon, log) in made)
        {
            var name = made.Count > 1 ? $", {coupon.Stamp}" : "";
            var verdict = log.Verdict();
            if (log.Breaches(coupon.ClosedAt ?? clock.Now) is [var breach, ..])
            {
                return ($"a broken rule: {breach.Says}{name}", lacking, verdict.Specimens is { Count: > 0 });
            }

            if (verdict.Seen == VerdictKind.Reject)
            {
                return ($"the look{name}", lacking, verdict.Specimens is { Count: > 0 });
            }

            if ((verdict.Specimens ?? []).FirstOrDefault(one => one.Verdict.Kind == VerdictKind.Reject) is { } rejected)
            {
                return ($"{rejected.Name}{name}", lacking, true);
            }

            if (coupon.ClosedAt is null)
            {
                lacking.Add($"Coupon {coupon.Stamp} is not closed.");
            }

            if (settles)
            {
                continue;
            }

            var tested = (verdict.Specimens ?? []).Where(one => one.Verdict.Kind == VerdictKind.Accept).Select(one => one.Specimen).ToHashSet();
            lacking.AddRange(
                log.Test.Specimens.Index()
                    .Where(one => !tested.Contains(one.Index))
                    .Select(one => $"{SpecimenVerdict.NameOf(one.Item.Kind, one.Index).Capital()}{name} is not judged.")
            );
            if (verdict.Seen == VerdictKind.CannotJudge && !verdict.Visual.IsOpenInside)
            {
                lacking.Add($"The look at {coupon.Stamp} leaves something open.");
            }
        }

        return (null, lacking, made.Any(one => one.Log.Specimens().Count > 0));
    }

    /// <summary>How a failed test may be taken again by this student; empty when the last sitting was not failed.</summary>
    public async Task<IReadOnlyList<RetestWay>> Ways(Guid studentId, string testId, string code, CancellationToken cancel)
    {
        var last = await db
            .SittingResults.AsNoTracking()
            .Where(one => one.StudentId == studentId && one.TestId == testId)
            .OrderByDescending(one => one.Day)
            .ThenByDescending(one => one.RecordedAt)
            .FirstOrDefaultAsync(cancel);
        if (last is not { Passed: false } || !Ranges.ByCode.TryGetValue(code, out var rules))
        {
            return [];
        }

        var turn = await db.Sittings.Where(one => one.Id == last.SittingId).Select(one => (SittingTurn?)one.Turn).FirstOrDefaultAsync(cancel);
        return Retests.After(rules.Retest, turn ?? SittingTurn.First);
    }

    /// <summary>What speaks against a sitting whatever its day.</summary>
    public async Task<IReadOnlyList<string>> Concerns(Guid studentId, string testId, Decision? decision, CancellationToken cancel)
    {
        List<string> found = [];
        if (decision is null)
        {
            found.Add("No \"test now\" is signed for it.");
        }

        // Whoever has signed against them has said why.
        if (decision is not { Reason.Length: > 0 })
        {
            var advice = await readiness.Advise(await readiness.Read(studentId, testId, cancel), cancel);
            found.AddRange(advice.Gates.Where(gate => !gate.Met && gate.Kind == GateKind.Stop).Select(gate => gate.Lifts));
        }

        return found;
    }

    /// <summary>The signed "test now" of a student for a test: the one that is named, or the one in force, when no sitting came after it.</summary>
    public async Task<Decision?> Decision(Guid? id, Guid studentId, string testId, CancellationToken cancel)
    {
        var last = await db
            .Decisions.AsNoTracking()
            .Where(one => one.StudentId == studentId && one.TestId == testId && one.WithdrawnAt == null && (id == null || one.Id == id))
            .OrderByDescending(one => one.SignedAt)
            .FirstOrDefaultAsync(cancel);
        if (last is not { Kind: DecisionKind.TestNow })
        {
            return null;
        }

        var since = clock.DayOf(last.SignedAt);
        return await db.SittingResults.AnyAsync(
            one => one.StudentId == studentId && one.TestId == testId && one.Day >= since && one.RecordedAt > last.SignedAt,
            cancel
        )
            ? null
            : last;
    }

    /// <summary>The test of a sitting as it is made there, and the rules that it is under.</summary>
    public (TestTemplate Test, TestRules Rules) TestOf(Sitting sitting)
    {
        var own = library.Tests[sitting.TestId].With(sitting.Variants ?? []);
        var test = own.JudgedBy(library.Profiles[sitting.JudgedBy ?? own.Code].Code) ?? own;
        return (test.SatUnder(sitting.Rules, sitting.ByFilm), sitting.Rules ?? test.Rules);
    }

    /// <summary>The ways of the last coupon that a student made as under test; those that the test is first described with before the first.</summary>
    public async Task<Dictionary<string, string>> LastVariants(Guid studentId, string testId, CancellationToken cancel) =>
        await db
            .Coupons.AsNoTracking()
            .Where(coupon => coupon.StudentId == studentId && coupon.TestId == testId && coupon.DrillId == null && coupon.VoidedAt == null)
            .OrderByDescending(coupon => coupon.AsTest)
            .ThenByDescending(coupon => coupon.StartedAt)
            .Select(coupon => coupon.Variants)
            .FirstOrDefaultAsync(cancel)
        ?? library.Tests[testId].Variants.ToDictionary(group => group.Id, group => group.Options[0].Id);

    // Where the week has put it, when it was booked without a booth; where somebody is still at work there, a free one that can.
    private async Task<Guid?> PlannedBooth(Sitting sitting, CancellationToken cancel)
    {
        var plan = await WeekBuilder.Latest(db, WeekDays.MondayOf(sitting.Day), cancel);
        var item = $"{WeekFacts.SittingItem}:{sitting.Id}";
        var planned = plan?.Cells.FirstOrDefault(cell => cell.ItemId == item)?.BoothId;
        var taken = await db
            .Coupons.Where(coupon => coupon.ClosedAt == null && coupon.VoidedAt == null && coupon.BoothId != null)
            .Select(coupon => coupon.BoothId!.Value)
            .Distinct()
            .ToListAsync(cancel);
        var test = TestOf(sitting).Test;
        return (await db.Booths.Standing().AsNoTracking().OrderBy(one => one.Number).ToListAsync(cancel))
            .Where(booth => Takes(booth, test) && !taken.Contains(booth.Id))
            .OrderByDescending(booth => booth.Id == planned)
            .FirstOrDefault()
            ?.Id;
    }

    /// <summary>Whether a booth can take a test.</summary>
    public static bool Takes(Booth booth, TestTemplate test) =>
        booth.ClosedAt is null
        && Prescription.ProcessOf(test).Split('+').All(booth.Processes.Contains)
        && (booth.Has & Prescription.Needs(test)) == Prescription.Needs(test);

    internal static Refusal Unknown() => Refusal.NotFound("id", "The id of a booked sitting.");

    private async Task<(Sitting? Sitting, Refusal? Refusal)> Open(Guid id, CancellationToken cancel)
    {
        if (await db.Sittings.FirstOrDefaultAsync(one => one.Id == id, cancel) is not { } sitting)
        {
            return (null, Unknown());
        }

        return sitting.CancelledAt is not null ? (null, Refusal.Conflict("id", "It was called off."))
            : sitting.VoidedAt is not null ? (null, Refusal.Conflict("id", "It was declared void."))
            : await db.SittingResults.AnyAsync(one => one.SittingId == id, cancel) ? (null, Refusal.Conflict("id", "Its result is signed."))
            : (sitting, null);
    }

    private static Refusal AskedAbout(IEnumerable<string> concerns, string verb) =>
        new(
            StatusCodes.Status409Conflict,
            "Something speaks against it.",
            new Dictionary<string, string[]> { ["despite"] = [.. concerns, $"{verb} it all the same with the reason, or choose otherwise."] }
        );

    // The other sittings at the same time.
    private IQueryable<Sitting> Beside(Sitting sitting) =>
        db.Sittings.Standing().Where(one => one.Id != sitting.Id && one.Day == sitting.Day && one.Period == sitting.Period);

    private async Task<Refusal?> CannotBe(Sitting sitting, Student student, CancellationToken cancel)
    {
        if (sitting.Day < clock.Today)
        {
            return Refusal.Field("day", "A day that has not gone by.");
        }

        var taken = Beside(sitting).Where(one => !db.SittingResults.Any(result => result.SittingId == one.Id)); // it may be repeated at once
        if (await taken.AnyAsync(one => one.StudentId == sitting.StudentId, cancel))
        {
            return Refusal.Conflict("period", $"{student.Name} has a sitting then already.");
        }

        if (sitting.BoothId is not { } boothId)
        {
            return null;
        }

        if (await db.Booths.Standing().AsNoTracking().FirstOrDefaultAsync(one => one.Id == boothId, cancel) is not { } booth)
        {
            return Refusal.NotFound("boothId", "A booth of this school.");
        }

        return booth.ClosedAt is not null ? Refusal.Conflict("boothId", $"Booth {booth.Number} is closed: {booth.ClosedWhy}")
            : !Takes(booth, TestOf(sitting).Test) ? Refusal.Conflict("boothId", $"Booth {booth.Number} is not set up for this test.")
            : await taken.AnyAsync(one => one.BoothId == boothId, cancel)
                ? Refusal.Conflict("boothId", $"Another sitting is booked in booth {booth.Number} then.")
            : null;
    }

    private async Task<List<string>> Concerns(Sitting sitting, Student student, Setup setup, Decision? decision, CancellationToken cancel) =>
        [.. await Concerns(sitting.StudentId, sitting.TestId, decision, cancel), .. await Times(sitting, student, setup, cancel)];

    // What speaks against a time.
    private async Task<List<string>> Times(Sitting sitting, Student student, Setup setup, CancellationToken cancel)
    {
        List<string> found = [];
        if (!setup.Meets(student.ClassGroup!, sitting.Day, sitting.Period))
        {
            found.Add($"{student.ClassGroup!.Name} does not meet then.");
        }

        if (
            await db.Absences.AnyAsync(
                one => one.StudentId == student.Id && one.Day == sitting.Day && (one.Period == null || one.Period == sitting.Period),
                cancel
            )
        )
        {
            found.Add($"{student.Name} is absent then.");
        }

        if (sitting.InspectorId is { } inspector && await Beside(sitting).AnyAsync(one => one.InspectorId == inspector, cancel))
        {
            found.Add("The inspector has another sitting then.");
        }

        return found;
    }

    // The bench goes by the same: what was witnessed here is answered there.
    private async Task Tell(Sitting sitting, DayPoint point, Provenance from, CancellationToken cancel)
    {
        var told =
            point.HoldPoint is { } hold ? new RecordEvent(BenchEventKind.HoldAnswered, new BenchEventBody(Point: hold, Go: true))
            : point.Id == DayList.Position ? new RecordEvent(BenchEventKind.PositionWitnessed, new BenchEventBody())
            : null;
        if (told is null)
        {
            return;
        }

        var coupons = await db
            .Coupons.Where(one => one.SittingId == sitting.Id && one.ClosedAt == null && one.VoidedAt == null)
            .Select(one => one.Id)
            .ToListAsync(cancel);
        foreach (var coupon in coupons)
        {
            await recorder.Event(coupon, Guid.CreateVersion7(), told, from, cancel);
        }
    }
}
