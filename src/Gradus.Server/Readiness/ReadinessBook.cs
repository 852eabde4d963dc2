using System.Collections.Concurrent;
using System.Security.Cryptography;
using System.Text;
using System.Text.Json;
using Gradus.Core.Library;
using Gradus.Core.Readiness;
using Gradus.Data;
using Gradus.Server.Hosting;
using Gradus.Server.Library;
using Gradus.Server.School;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Readiness;

/// <summary>
/// Readiness of the school's students, kept in the database: what did not change is read, what changed is worked out again from the coupons.
/// </summary>
public sealed class ReadinessBook(
    GradusContext db,
    EvidenceReader evidence,
    SchoolLibrary library,
    ModelInUse model,
    SchoolClock clock,
    Writes writes
)
{
    private const int TraceKept = 200;
    private const int RecentKept = 30;

    // Of so many of the latest it is kept what was foreseen right before, also where the one before was of another test.
    private const int ForeseenKept = 60;
    private const int MostTries = 3;

    /// <summary>Of how many of the latest full coupons the faults are kept.</summary>
    public const int FaultsKept = 6;
    private static readonly ConcurrentDictionary<string, Standing> Unbegun = new(StringComparer.Ordinal);

    // One set from beginning to end: others may be adopted while somebody is weighed, and what is kept says by which it was worked out.
    private readonly ReadinessConstants constants = model.Constants;

    private sealed record Pair(Guid StudentId, string TestId);

    /// <summary>How the model works, in a sentence.</summary>
    public const string Method =
        "Each stage (and on fixed pipe each zone) has a start and what practice adds, and shares both with others of its process, stage and position; every coupon moves what is believed of them, a good or bad day is allowed for, and time off is forgotten a little. The band holds 90 % of what fits the coupons. Faults hidden inside are weighed apart, by what was cut and broken.";

    /// <summary>What a state is good for: the constants, and the elements that the test has now.</summary>
    private string VersionOf(string testId) =>
        library.Tests.TryGetValue(testId, out var test) ? $"{constants.Version} {string.Join(' ', TestElements.Of(test))}" : "";

    /// <summary>The kept readiness of some students on their tests, brought up to date; without its trace unless that is asked for.</summary>
    public async Task<IReadOnlyList<ReadinessRecord>> Read(
        IReadOnlyCollection<Guid> studentIds,
        CancellationToken cancel,
        bool withTrace = false,
        string? testId = null
    ) => (await AsOf(studentIds, int.MaxValue, cancel, withTrace, testId)).Rows;

    /// <summary>The same at once: when more rows than so many would have to be worked out anew, all are answered as they were kept last.</summary>
    /// <returns>The rows, and whether some of them are not of today.</returns>
    public async Task<(IReadOnlyList<ReadinessRecord> Rows, bool AreOld)> AsOf(
        IReadOnlyCollection<Guid> studentIds,
        int most,
        CancellationToken cancel,
        bool withTrace = false,
        string? testId = null
    )
    {
        var today = Today();
        // Of one student on one test is what the bench asks with every pass: a query of its own, compiled.
        var kept =
            testId is not null && studentIds.Count == 1
                ? await OneKept(withTrace ? OneWithTrace(db, studentIds.First(), testId) : One(db, studentIds.First(), testId), cancel)
                : await Kept(studentIds, testId, withTrace, cancel);
        if (testId is not null && kept is [var one] && !IsOld(one, today))
        {
            return (kept, false);
        }

        var old = kept.Where(row => IsOld(row, today)).Select(row => (row.StudentId, row.TestId)).ToList();

        // Each student and test is looked up by itself: reading all coupons to find which there are takes long in a large school.
        var students = JsonSerializer.Serialize(studentIds.Select(id => id.ToString().ToUpperInvariant()));
        var tests = JsonSerializer.Serialize(library.Tests.Keys);
        var begun = await db
            .Database.SqlQuery<Pair>(
                $"""
                SELECT S.value AS StudentId, T.value AS TestId FROM json_each({students}) S, json_each({tests}) T
                WHERE (
                    EXISTS (SELECT 1 FROM Coupons C WHERE C.StudentId = S.value AND C.TestId = T.value AND C.ClosedAt IS NOT NULL)
                    OR (
                        EXISTS (SELECT 1 FROM Students W WHERE W.Id = S.value AND W.TargetTestId = T.value)
                        AND (
                            EXISTS (SELECT 1 FROM Coupons C WHERE C.StudentId = S.value AND C.ClosedAt IS NOT NULL)
                            OR EXISTS (SELECT 1 FROM StepCredits P WHERE P.StudentId = S.value AND P.Vouched IS NOT NULL)
                        )
                    )
                )
                AND NOT EXISTS (SELECT 1 FROM Readiness R WHERE R.StudentId = S.value AND R.TestId = T.value)
                """
            )
            .ToListAsync(cancel);
        var needed = old.Concat(begun.Select(one => (one.StudentId, one.TestId))).ToList();
        if (needed.Count == 0 || needed.Count > most)
        {
            return (kept, needed.Count > 0);
        }

        await Renew(needed, today, cancel);
        return (await Kept(studentIds, testId, withTrace, cancel), false);
    }

    private bool IsOld(ReadinessRecord row, int today) => row.Stale || row.ConstantsVersion != VersionOf(row.TestId) || row.StandingDay != today;

    /// <summary>The kept readiness of some students on what each works toward, without its trace: brought up to date, unless that were more than so many rows.</summary>
    /// <param name="only">Only these students; null for all who come.</param>
    /// <returns>The rows, and whether some of them are not of today.</returns>
    public async Task<(IReadOnlyDictionary<Guid, ReadinessRecord> Rows, bool AreOld)> OfTargets(
        IReadOnlyCollection<Guid>? only,
        int most,
        CancellationToken cancel
    )
    {
        var today = Today();
        var kept = await KeptOfTargets(only, cancel);
        var old = kept.Where(row => IsOld(row, today)).Select(row => (row.StudentId, row.TestId)).ToList();
        var known = kept.Select(row => row.StudentId).ToList();

        // Those without a row have most often not begun; who has is worked out once.
        var begun = await db
            .Students.Present()
            .Where(student => (only == null || only.Contains(student.Id)) && !known.Contains(student.Id))
            .Where(student =>
                db.Coupons.Any(one => one.StudentId == student.Id && one.ClosedAt != null)
                || db.StepCredits.Any(one => one.StudentId == student.Id && one.Vouched != null)
            )
            .Select(student => new { student.Id, student.TargetTestId })
            .ToListAsync(cancel);
        var needed = old.Count + begun.Count;
        var areOld = needed > most;
        if (needed > 0 && !areOld)
        {
            await Renew([.. old.Concat(begun.Select(one => (one.Id, one.TargetTestId)))], today, cancel);
            kept = await KeptOfTargets(only, cancel);
        }

        return (kept.ToDictionary(row => row.StudentId), areOld);
    }

    // From the students to their rows: the other way round every row of the school would be read.
    private async Task<List<ReadinessRecord>> KeptOfTargets(IReadOnlyCollection<Guid>? only, CancellationToken cancel) =>
        await db
            .Readiness.FromSql(
                $"SELECT R.* FROM Students S CROSS JOIN Readiness R WHERE S.LeftAt IS NULL AND R.StudentId = S.Id AND R.TestId = S.TargetTestId"
            )
            .AsNoTracking()
            .Where(row => only == null || only.Contains(row.StudentId))
            .Select(row => new ReadinessRecord
            {
                StudentId = row.StudentId,
                TestId = row.TestId,
                Stale = row.Stale,
                ConstantsVersion = row.ConstantsVersion,
                Coupons = row.Coupons,
                CleanCoupons = row.CleanCoupons,
                LastDay = row.LastDay,
                StandingDay = row.StandingDay,
                Standing = row.Standing,
                Recent = row.Recent,
                LastSitting = row.LastSitting,
                Trace = new List<TracePoint>(),
            })
            .ToListAsync(cancel);

    /// <summary>Readiness of one student on one test; that of somebody who has not begun when there is no coupon.</summary>
    public async Task<ReadinessRecord> Read(Guid studentId, string testId, CancellationToken cancel) =>
        (await Read([studentId], cancel, withTrace: true, testId)).FirstOrDefault(row => row.TestId == testId)
        ?? await Lent(studentId, testId, cancel);

    /// <summary>The chance before and after a coupon: as it was then for a closed one, as it would be for an open one.</summary>
    public async Task<(ReadinessRecord Record, ChanceBand Before, ChanceBand After)> Shift(
        Guid studentId,
        string testId,
        Guid couponId,
        CouponEvidence evidenceNow,
        bool closed,
        CancellationToken cancel
    )
    {
        var record = (await Read([studentId], cancel, closed, testId)).FirstOrDefault(row => row.TestId == testId);
        var at = record?.Trace.FindIndex(point => point.CouponId == couponId) ?? -1;
        if (at >= 0)
        {
            var point = record!.Trace[at];
            var before = point.Before ?? (at > 0 ? record.Trace[at - 1].Chance : Begin(studentId, testId, null).Standing.Passing);
            return (record, before, point.Chance);
        }

        record ??= await Lent(studentId, testId, cancel);
        var stored = await StateOf(studentId);
        var after = evidenceNow.Clean.Count == 0 ? record.Standing.Passing : StateFrom(stored).With(SkillTest.Of(library.Tests[testId]), evidenceNow);
        return (record, record.Standing.Passing, after);
    }

    /// <summary>The kept states of some students; one who has not begun has none, nor whose state is of other constants.</summary>
    public async Task<IReadOnlyDictionary<Guid, byte[]>> States(IReadOnlyCollection<Guid> studentIds, CancellationToken cancel)
    {
        var version = constants.Version + " ";
        return await db
            .Skills.AsNoTracking()
            .Where(row => studentIds.Contains(row.StudentId) && row.Version.StartsWith(version))
            .Select(row => new { row.StudentId, row.State })
            .ToDictionaryAsync(row => row.StudentId, row => row.State, cancel);
    }

    /// <summary>What each offer for a period on a record's test adds, the first time and each further one.</summary>
    /// <param name="kept">The kept state; null for somebody who has not begun.</param>
    /// <param name="ahead">What is planned before: how many times it makes each element; null for nothing.</param>
    public IReadOnlyList<IReadOnlyList<double>> Gains(
        ReadinessRecord record,
        byte[]? kept,
        IReadOnlyList<Core.Planning.PeriodOffer> offers,
        IReadOnlyDictionary<string, double>? ahead
    )
    {
        var test = library.Tests[record.TestId];
        return StateFrom(kept)
            .Gains(
                SkillTest.Of(test),
                Math.Max(record.LastDay, Today()),
                [.. offers.Select(offer => offer.Practice)],
                Core.Planning.Prescription.TimesAhead,
                ahead
            );
    }

    private ReadinessState StateFrom(byte[]? kept) => kept is null ? ReadinessState.New(constants) : ReadinessState.FromBytes(constants, kept);

    /// <summary>
    /// What was foreseen of the latest coupons of some students, each right before it: that a whole one made without help comes clean by eye. As it was
    /// kept: a coupon that is not weighed yet is not in it.
    /// </summary>
    public async Task<IReadOnlyDictionary<Guid, double>> Foreseen(IReadOnlyCollection<Guid> studentIds, CancellationToken cancel)
    {
        var kept = await db
            .Readiness.AsNoTracking()
            .Where(row => studentIds.Contains(row.StudentId))
            .Select(row => new { row.Trace, row.Standing })
            .ToListAsync(cancel);
        return kept.SelectMany(row =>
                row.Trace.Where(point => point.Before is not null)
                    .Select(point => (point.CouponId, Clean: Math.Min(1, point.Before!.Mean.Value / row.Standing.Inside.Mean.Value)))
            )
            .DistinctBy(one => one.CouponId)
            .ToDictionary(one => one.CouponId, one => one.Clean);
    }

    /// <summary>A record as the views of a student show it.</summary>
    public static ReadinessEstimate Estimate(ReadinessRecord record)
    {
        ChanceEstimate Of(ChanceBand band) =>
            new(band.Mean, band.Lower, band.Upper, record.Coupons, record.CleanCoupons, record.Coupons, DecisionAdvice.TooLittleToTell(band));
        return new ReadinessEstimate(
            Of(record.Standing.Passing),
            record.Standing.Stages.ToDictionary(one => one.Key, one => Of(one.Value)),
            Method,
            record.ConstantsVersion.Split(' ')[0]
        );
    }

    /// <summary>The advice for a student who stands as recorded.</summary>
    public async Task<Advice> Advise(ReadinessRecord record, CancellationToken cancel)
    {
        var signed = await db.Students.Where(one => one.Id == record.StudentId).Select(one => one.SafetySignedAt).FirstOrDefaultAsync(cancel);
        var decisions = await LastDecisions.Of(db, [record.StudentId], cancel);
        return Advise(
            record,
            await Policy(record.TestId, cancel),
            signed is not null,
            decisions.GetValueOrDefault((record.StudentId, record.TestId))
        );
    }

    /// <summary>What would have been said at a moment of the chance of passing everything, and on how many full coupons that stands.</summary>
    public async Task<(ChanceBand Said, int Coupons)> SaidBefore(Guid studentId, string testId, DateTimeOffset at, CancellationToken cancel)
    {
        var all = (await evidence.Read(studentId, cancel)).Where(one => one.At < at && library.Tests.ContainsKey(one.TestId)).ToList();
        var state = ReadinessState.New(await ModelInUse.At(db, at, cancel));
        foreach (var coupon in all)
        {
            state.Fold(SkillTest.Of(library.Tests[coupon.TestId]), coupon.Evidence);
        }

        var full = all.Count(one => one.TestId == testId && one.IsCoupon && one.Evidence.Full);
        return (state.On(SkillTest.Of(library.Tests[testId]), CouponSeen.Days(at), Bar.Of(TestPolicy.Defaults)).Passing, full);
    }

    /// <summary>The same with policy, safety and the decision in force at hand.</summary>
    public Advice Advise(ReadinessRecord record, TestPolicy policy, bool safetySigned, LastDecision? decision)
    {
        var test = library.Tests[record.TestId];
        var facts = RecentCoupon.Facts(
            record.Recent,
            record.Coupons,
            policy,
            clock.Now,
            library.Profiles[test.Code].LimitsEntered,
            safetySigned,
            record.LastSitting,
            decision is { Kind: DecisionKind.TestNow } ? decision.SignedAt : null
        );
        return DecisionAdvice.Of(policy, SkillTest.Of(test), record.Standing, facts);
    }

    /// <summary>The chance of passing everything after one more whole coupon made as under test: all clean, and with the weakest element rejected.</summary>
    public async Task<(ChanceBand Clean, ChanceBand Rejected)> After(ReadinessRecord record, string weakest, CancellationToken cancel)
    {
        var test = SkillTest.Of(library.Tests[record.TestId]);
        var state = StateFrom(await StateOf(record.StudentId));
        var day = CouponSeen.Days(clock.Now);
        CouponEvidence Coupon(string? rejected) =>
            new(day, Full: true, Aided: false, test.Elements.ToDictionary(name => name, name => name != rejected));
        return (state.With(test, Coupon(null)), state.With(test, Coupon(weakest)));
    }

    /// <summary>The school's policies for all tests.</summary>
    public async Task<SchoolPolicies> Policies(CancellationToken cancel) => new(await db.Policies.AsNoTracking().ToListAsync(cancel));

    /// <summary>The policy of a test: the school's own, or the shipped one.</summary>
    public async Task<TestPolicy> Policy(string testId, CancellationToken cancel) =>
        (
            await db.Policies.AsNoTracking().Where(row => row.TestId == testId).OrderByDescending(row => row.SavedAt).FirstOrDefaultAsync(cancel)
        )?.Policy
        ?? TestPolicy.Defaults;

    /// <summary>The day at the school, counted since the epoch.</summary>
    private int Today() => clock.Today.DayNumber - DateOnly.FromDateTime(DateTime.UnixEpoch).DayNumber;

    private static readonly Func<GradusContext, Guid, string, Task<byte[]?>> StateWith = EF.CompileAsyncQuery(
        (GradusContext db, Guid student, string version) =>
            db
                .Skills.AsNoTracking()
                .Where(row => row.StudentId == student && row.Version.StartsWith(version))
                .Select(row => row.State)
                .FirstOrDefault()
    );

    private Task<byte[]?> StateOf(Guid student) => StateWith(db, student, constants.Version + " ");

    private static readonly Func<GradusContext, Guid, string, IAsyncEnumerable<ReadinessRecord>> OneWithTrace = EF.CompileAsyncQuery(
        (GradusContext db, Guid student, string test) => db.Readiness.AsNoTracking().Where(row => row.StudentId == student && row.TestId == test)
    );

    private static readonly Func<GradusContext, Guid, string, IAsyncEnumerable<ReadinessRecord>> One = EF.CompileAsyncQuery(
        (GradusContext db, Guid student, string test) =>
            db
                .Readiness.AsNoTracking()
                .Where(row => row.StudentId == student && row.TestId == test)
                .Select(row => new ReadinessRecord
                {
                    StudentId = row.StudentId,
                    TestId = row.TestId,
                    Stale = row.Stale,
                    ConstantsVersion = row.ConstantsVersion,
                    Coupons = row.Coupons,
                    CleanCoupons = row.CleanCoupons,
                    LastDay = row.LastDay,
                    StandingDay = row.StandingDay,
                    Standing = row.Standing,
                    Recent = row.Recent,
                    LastSitting = row.LastSitting,
                    Trace = new List<TracePoint>(),
                })
    );

    private static async Task<List<ReadinessRecord>> OneKept(IAsyncEnumerable<ReadinessRecord> rows, CancellationToken cancel)
    {
        var kept = new List<ReadinessRecord>();
        await foreach (var row in rows.WithCancellation(cancel))
        {
            kept.Add(row);
        }

        return kept;
    }

    private async Task<List<ReadinessRecord>> Kept(IReadOnlyCollection<Guid> studentIds, string? testId, bool withTrace, CancellationToken cancel) =>
        await db
            .Readiness.AsNoTracking()
            .Where(row => studentIds.Contains(row.StudentId) && (testId == null || row.TestId == testId))
            .Select(row => new ReadinessRecord
            {
                StudentId = row.StudentId,
                TestId = row.TestId,
                Stale = row.Stale,
                ConstantsVersion = row.ConstantsVersion,
                Coupons = row.Coupons,
                CleanCoupons = row.CleanCoupons,
                LastDay = row.LastDay,
                StandingDay = row.StandingDay,
                Standing = row.Standing,
                Recent = row.Recent,
                LastSitting = row.LastSitting,
                Trace = withTrace ? row.Trace : new List<TracePoint>(),
            })
            .ToListAsync(cancel);

    private Standing UnbegunOf(SkillTest test) =>
        Unbegun.GetOrAdd(
            $"{constants.Version} {test.Id} {string.Join(' ', test.Elements)}",
            _ => ReadinessState.New(constants).On(test, 0, Bar.Of(TestPolicy.Defaults))
        );

    // Faults are asked for of the last few only.
    private static List<RecentCoupon> RecentOf(List<Witnessed> full, List<TracePoint> trace)
    {
        var first = Math.Max(0, full.Count - RecentKept);
        var chances = trace.ToDictionary(point => point.CouponId, point => point.Chance.Mean.Value);
        return
        [
            .. full.Skip(first)
                .Select(
                    (coupon, index) =>
                        Recent(
                            coupon,
                            withFaults: first + index >= full.Count - FaultsKept,
                            chances.TryGetValue(coupon.Id, out var chance) ? chance : null
                        )
                ),
        ];
    }

    private static RecentCoupon Recent(Witnessed coupon, bool withFaults, double? passing) =>
        new(
            coupon.At,
            !coupon.Evidence.Aided,
            coupon.Evidence.AllClean,
            coupon.Facts?.Tested ?? 0,
            coupon.Facts?.Failed ?? 0,
            coupon.Facts?.FitUpGo,
            withFaults ? coupon.Facts?.Faults ?? [] : [],
            passing
        );

    /// <summary>Readiness of somebody who has not begun on a test: what others lend to it, or that of a beginner.</summary>
    /// <param name="kept">The kept state of the student; null for one who has not begun at all.</param>
    public ReadinessRecord Begin(Guid studentId, string testId, byte[]? kept)
    {
        var test = SkillTest.Of(library.Tests[testId]);
        return new()
        {
            StudentId = studentId,
            TestId = testId,
            ConstantsVersion = VersionOf(testId),
            StandingDay = Today(),
            Standing = kept is null ? UnbegunOf(test) : StateFrom(kept).On(test, Today(), Bar.Of(TestPolicy.Defaults)),
            Recent = [],
            Trace = [],
        };
    }

    /// <summary>Readiness on a test that was not begun, with all that was made on others by now.</summary>
    private async Task<ReadinessRecord> Lent(Guid studentId, string testId, CancellationToken cancel)
    {
        var version = constants.Version + " ";
        var old = await db
            .Readiness.Where(row => row.StudentId == studentId && (row.Stale || !row.ConstantsVersion.StartsWith(version)))
            .Select(row => row.TestId)
            .ToListAsync(cancel);
        if (old.Count == 0 && await StateOf(studentId) is null)
        {
            // Nothing was made here yet: what was passed elsewhere lends.
            old = await db.StepCredits.Where(one => one.StudentId == studentId && one.Vouched != null).Select(one => one.TestId).ToListAsync(cancel);
        }

        await Renew([.. old.Select(test => (studentId, test))], Today(), cancel);
        return Begin(studentId, testId, await StateOf(studentId));
    }

    /// <summary>Works out again what some students know, and how they stand on some tests.</summary>
    private async Task Renew(IReadOnlyCollection<(Guid StudentId, string TestId)> needed, int today, CancellationToken cancel)
    {
        foreach (var student in needed.Where(one => library.Tests.ContainsKey(one.TestId)).GroupBy(one => one.StudentId, one => one.TestId))
        {
            List<string> tests = [.. student];
            for (var tries = 1; ; tries++)
            {
                // Worked out beside the writes of the floor, and kept when nothing came in between; the last time nobody else may write meanwhile.
                var weighed = tries < MostTries ? await Weigh(student.Key, tests, today, cancel) : null;
                var isKept = await writes.Whole(
                    async () => await Keep(weighed ?? await Weigh(student.Key, tests, today, cancel), cancel),
                    kept => kept,
                    cancel
                );
                db.ChangeTracker.Clear();
                if (isKept || tries >= MostTries)
                {
                    break;
                }
            }
        }
    }

    /// <summary>What a student knows and how he or she stands, worked out and not kept yet.</summary>
    /// <param name="Rows">All rows of the student; those that are new are not in the database.</param>
    /// <param name="Mark">Of the evidence that it was worked out from.</param>
    /// <param name="Before">What was kept before, on which it was built.</param>
    /// <param name="Policies">How many policies there were.</param>
    private sealed record Weighed(
        Guid StudentId,
        IReadOnlyCollection<ReadinessRecord> Rows,
        SkillRecord Skill,
        string Mark,
        (string Version, string Digest)? Before,
        int Policies
    );

    private async Task<Weighed> Weigh(Guid studentId, List<string> testIds, int today, CancellationToken cancel)
    {
        // The state before its rows: whoever keeps both in between is found out by the state, which is then another.
        var skill = await db.Skills.AsNoTracking().FirstOrDefaultAsync(one => one.StudentId == studentId, cancel);
        (string, string)? before = skill is null ? null : (skill.Version, skill.Digest);
        var rows = await db.Readiness.AsNoTracking().Where(one => one.StudentId == studentId).ToDictionaryAsync(one => one.TestId, cancel);
        var policies = await Policies(cancel);
        var mark = await evidence.Mark(studentId, cancel);
        ReadinessState state;
        if (skill?.Version == SkillVersion(rows.Values) && !rows.Values.Any(row => row.Stale || row.ConstantsVersion != VersionOf(row.TestId)))
        {
            state = StateFrom(skill.State);
        }
        else
        {
            var coupons = (await evidence.Read(studentId, cancel)).Where(one => library.Tests.ContainsKey(one.TestId)).ToList();
            var canGoOn =
                skill?.Version == SkillVersion(rows.Values)
                && skill.Coupons <= coupons.Count
                && skill.Digest == DigestOf(coupons.Take(skill.Coupons));
            state = canGoOn ? StateFrom(skill!.State) : ReadinessState.New(constants);
            FoldIn(state, studentId, coupons, canGoOn ? skill!.Coupons : 0, rows);
            skill = new SkillRecord
            {
                StudentId = studentId,
                Version = SkillVersion(rows.Values),
                Coupons = coupons.Count,
                Digest = DigestOf(coupons),
                LastDay = coupons.Count == 0 ? 0 : coupons[^1].Evidence.Day,
                State = state.ToBytes(),
            };
        }

        foreach (var testId in testIds)
        {
            var row = rows.TryGetValue(testId, out var known) ? known : Row(studentId, testId, rows);
            if (row.StandingDay != today)
            {
                // A day counts from its beginning, but never before the last coupon.
                row.Standing = state.On(SkillTest.Of(library.Tests[testId]), Math.Max(skill.LastDay, today), Bar.Of(policies.Of(testId)));
                row.StandingDay = today;
            }
        }

        return new Weighed(studentId, rows.Values, skill, mark, before, policies.Saved);
    }

    /// <summary>Keeps what was worked out; false when something came in between.</summary>
    private async Task<bool> Keep(Weighed weighed, CancellationToken cancel)
    {
        var (studentId, skill) = (weighed.StudentId, weighed.Skill);
        var kept = await db
            .Skills.Where(one => one.StudentId == studentId)
            .Select(one => new { one.Version, one.Digest })
            .FirstOrDefaultAsync(cancel);
        if (
            weighed.Before?.Version != kept?.Version
            || weighed.Before?.Digest != kept?.Digest
            || weighed.Policies != await db.Policies.CountAsync(cancel)
            || weighed.Mark != await evidence.Mark(studentId, cancel)
            || !await db.Students.AnyAsync(one => one.Id == studentId, cancel)
        )
        {
            return false;
        }

        var known = await db.Readiness.Where(one => one.StudentId == studentId).Select(one => one.TestId).ToListAsync(cancel);
        foreach (var row in weighed.Rows)
        {
            db.Entry(row).State = known.Contains(row.TestId) ? EntityState.Modified : EntityState.Added;
        }

        db.Entry(skill).State = kept is null ? EntityState.Added : EntityState.Modified;
        await db.SaveChangesAsync(cancel);
        return true;
    }

    private ReadinessRecord Row(Guid studentId, string testId, Dictionary<string, ReadinessRecord> rows)
    {
        var row = Begin(studentId, testId, null);
        row.StandingDay = 0;
        return rows[testId] = row;
    }

    /// <summary>Folds the coupons from one on in, and notes of each what it changed.</summary>
    private void FoldIn(ReadinessState state, Guid studentId, List<Witnessed> coupons, int from, Dictionary<string, ReadinessRecord> rows)
    {
        var traces = rows.ToDictionary(row => row.Key, row => from == 0 ? [] : row.Value.Trace.ToList(), StringComparer.Ordinal);
        var ahead = coupons.Skip(from).GroupBy(one => one.TestId).ToDictionary(test => test.Key, test => test.Count(), StringComparer.Ordinal);
        (string Test, ChanceBand Chance)? last = null;
        foreach (var (index, coupon) in coupons.Index().Skip(from))
        {
            var test = SkillTest.Of(library.Tests[coupon.TestId]);
            var isShown = ahead[coupon.TestId]-- <= TraceKept && coupon.IsCoupon;
            var before =
                !isShown ? null
                : last is { } one && one.Test == coupon.TestId ? one.Chance
                : index >= coupons.Count - ForeseenKept ? state.Now(test)
                : null;
            state.Fold(test, coupon.Evidence);
            last = null;
            if (isShown)
            {
                last = (coupon.TestId, state.Now(test));
                if (!traces.TryGetValue(coupon.TestId, out var trace))
                {
                    traces[coupon.TestId] = trace = [];
                }

                trace.Add(
                    new TracePoint(
                        coupon.Id,
                        coupon.At,
                        coupon.Evidence.Full,
                        coupon.Evidence.Aided,
                        coupon.Evidence.AllClean,
                        last.Value.Chance,
                        before
                    )
                );
            }
        }

        var made = coupons.ToLookup(one => one.TestId);
        foreach (var testId in rows.Keys.Union(made.Select(test => test.Key)).ToList())
        {
            var row = rows.TryGetValue(testId, out var known) ? known : Row(studentId, testId, rows);
            var full = made[testId].Where(one => one.Evidence.Full && one.IsCoupon).ToList();
            (row.Stale, row.ConstantsVersion, row.StandingDay) = (false, VersionOf(testId), 0);
            (row.Coupons, row.CleanCoupons) = (full.Count, full.Count(one => one.Evidence.AllClean));
            row.LastDay = made[testId].Select(one => one.Evidence.Day).LastOrDefault();
            row.Trace = [.. traces.GetValueOrDefault(testId, []).TakeLast(TraceKept)];
            row.Recent = RecentOf(full, row.Trace);
            row.LastSitting = made[testId].LastOrDefault(one => one.Sitting is not null)?.Sitting;
        }
    }

    /// <summary>The constants, and the tests of a student as they are now: with others the state is worked out anew.</summary>
    private string SkillVersion(IEnumerable<ReadinessRecord> rows)
    {
        // Those without a coupon are not in the state.
        var begun = rows.Where(row => row.LastDay > 0).Select(row => row.TestId).Order(StringComparer.Ordinal);
        return $"{constants.Version} {Digest(string.Join('\n', begun.Select(VersionOf)))}";
    }

    private static string DigestOf(IEnumerable<Witnessed> coupons) =>
        Digest(
            string.Join(
                '\n',
                coupons.Select(one =>
                    $"{one.Id} {one.TestId} {one.At.UtcTicks} {one.Evidence.Full} {one.Evidence.Aided} {one.Evidence.Inside} {one.Sitting} {one.Elsewhere} {string.Join(' ', one.Evidence.Clean.OrderBy(seen => seen.Key, StringComparer.Ordinal).Select(seen => $"{seen.Key}={seen.Value}"))}"
                )
            )
        );

    private static string Digest(string text) => Convert.ToHexString(SHA256.HashData(Encoding.UTF8.GetBytes(text)));
}
