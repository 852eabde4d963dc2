using System.Collections.Concurrent;
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

    /// <summary>Of how many of the latest full coupons the faults are kept.</summary>
    public const int FaultsKept = 6;
    private static readonly ConcurrentDictionary<string, Standing> Unbegun = new(StringComparer.Ordinal);
    private const double WidestInterval = 0.6;
    private const int LeastCoupons = 2;

    private sealed record Pair(Guid StudentId, string TestId);

    /// <summary>How the model works, in a sentence.</summary>
    public const string Method =
        "Each stage (and on fixed pipe each zone) has a start and what practice adds, and shares both with others of its process, stage and position; every coupon moves what is believed of them, a good or bad day is allowed for, and time off is forgotten a little. The band holds 90 % of what fits the coupons. Faults hidden inside are weighed apart, by what was cut and broken.";

    /// <summary>What a state is good for: the constants, and the elements that the test has now.</summary>
    private string VersionOf(string testId) =>
        library.Tests.TryGetValue(testId, out var test) ? $"{model.Constants.Version} {string.Join(' ', TestElements.Of(test))}" : "";

    /// <summary>The kept readiness of some students on their tests, brought up to date; without its state and, unless asked for, its trace.</summary>
    public async Task<IReadOnlyList<ReadinessRecord>> Read(
        IReadOnlyCollection<Guid> studentIds,
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
        if (testId is not null && kept is [{ Stale: false } one] && one.ConstantsVersion == VersionOf(one.TestId) && one.StandingDay == today)
        {
            return kept;
        }

        var old = kept.Where(row => row.Stale || row.ConstantsVersion != VersionOf(row.TestId) || row.StandingDay != today)
            .Select(row => (row.StudentId, row.TestId))
            .ToList();

        // Each student and test is looked up by itself: reading all coupons to find which there are takes long in a large school.
        var students = JsonSerializer.Serialize(studentIds.Select(id => id.ToString().ToUpperInvariant()));
        var tests = JsonSerializer.Serialize(library.Tests.Keys);
        var begun = await db
            .Database.SqlQuery<Pair>(
                $"""
                SELECT S.value AS StudentId, T.value AS TestId FROM json_each({students}) S, json_each({tests}) T
                WHERE EXISTS (SELECT 1 FROM Coupons C WHERE C.StudentId = S.value AND C.TestId = T.value AND C.ClosedAt IS NOT NULL)
                AND NOT EXISTS (SELECT 1 FROM Readiness R WHERE R.StudentId = S.value AND R.TestId = T.value)
                """
            )
            .ToListAsync(cancel);
        var needed = old.Concat(begun.Select(one => (one.StudentId, one.TestId))).ToList();
        if (needed.Count == 0)
        {
            return kept;
        }

        foreach (var (student, test) in needed)
        {
            await Renew(student, test, today, cancel);
        }

        db.ChangeTracker.Clear();
        return await Kept(studentIds, testId, withTrace, cancel);
    }

    /// <summary>The kept readiness of some students on what each works toward, brought up to date; without state, trace and the latest coupons.</summary>
    /// <param name="only">Only these students; null for all who come.</param>
    public async Task<IReadOnlyDictionary<Guid, ReadinessRecord>> OfTargets(IReadOnlyCollection<Guid>? only, CancellationToken cancel)
    {
        var today = Today();
        var kept = await KeptOfTargets(only, cancel);
        var old = kept.Where(row => row.Stale || row.ConstantsVersion != VersionOf(row.TestId) || row.StandingDay != today)
            .Select(row => (row.StudentId, row.TestId))
            .ToList();
        var known = kept.Select(row => row.StudentId).ToList();

        // Those without a row have most often not begun; who has is worked out once.
        var begun = await db
            .Students.Present()
            .Where(student => (only == null || only.Contains(student.Id)) && !known.Contains(student.Id))
            .Where(student => db.Coupons.Any(one => one.StudentId == student.Id && one.TestId == student.TargetTestId && one.ClosedAt != null))
            .Select(student => new { student.Id, student.TargetTestId })
            .ToListAsync(cancel);
        foreach (var (student, test) in old.Concat(begun.Select(one => (one.Id, one.TargetTestId))))
        {
            await Renew(student, test, today, cancel);
        }

        return (old.Count + begun.Count == 0 ? kept : await KeptOfTargets(only, cancel)).ToDictionary(row => row.StudentId);
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
                Recent = new List<RecentCoupon>(),
                Trace = new List<TracePoint>(),
                State = Array.Empty<byte>(),
            })
            .ToListAsync(cancel);

    /// <summary>Readiness of one student on one test; that of somebody who has not begun when there is no coupon.</summary>
    public async Task<ReadinessRecord> Read(Guid studentId, string testId, CancellationToken cancel) =>
        (await Read([studentId], cancel, withTrace: true, testId)).FirstOrDefault(row => row.TestId == testId) ?? Begin(studentId, testId);

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
        var record = (await Read([studentId], cancel, closed, testId)).FirstOrDefault(row => row.TestId == testId) ?? Begin(studentId, testId);
        var at = record.Trace.FindIndex(point => point.CouponId == couponId);
        if (at >= 0)
        {
            var before = at > 0 ? record.Trace[at - 1].Chance : Begin(studentId, testId).Standing.Whole;
            return (record, before, record.Trace[at].Chance);
        }

        var asked = SkillTest.Of(library.Tests[testId]);
        var stored = await StateOf(db, studentId, testId);
        var state = stored is null ? ReadinessState.New(asked, model.Constants) : ReadinessState.FromBytes(asked, model.Constants, stored);
        return (record, record.Standing.Whole, evidenceNow.Clean.Count == 0 ? record.Standing.Whole : state.With(evidenceNow));
    }

    /// <summary>The kept states of some students, by student and test.</summary>
    public async Task<IReadOnlyDictionary<(Guid StudentId, string TestId), byte[]>> States(
        IReadOnlyCollection<Guid> studentIds,
        CancellationToken cancel
    ) =>
        await db
            .Readiness.AsNoTracking()
            .Where(row => studentIds.Contains(row.StudentId))
            .Select(row => new
            {
                row.StudentId,
                row.TestId,
                row.State,
            })
            .ToDictionaryAsync(row => (row.StudentId, row.TestId), row => row.State, cancel);

    /// <summary>What each item of a record's test adds, the first time and each further one; see <see cref="Core.Planning.Prescription.Worked(Core.Library.TestTemplate)"/>.</summary>
    /// <param name="kept">The kept state; null for somebody who has not begun.</param>
    public IReadOnlyList<IReadOnlyList<double>> Gains(ReadinessRecord record, byte[]? kept)
    {
        var test = library.Tests[record.TestId];
        var asked = SkillTest.Of(test);
        var state = kept is null ? ReadinessState.New(asked, model.Constants) : ReadinessState.FromBytes(asked, model.Constants, kept);
        return state.Gains(Math.Max(record.LastDay, Today()), Core.Planning.Prescription.Worked(test), Core.Planning.Prescription.TimesAhead);
    }

    /// <summary>A record as the views of a student show it.</summary>
    public static ReadinessEstimate Estimate(ReadinessRecord record)
    {
        ChanceEstimate Of(ChanceBand band) =>
            new(
                band.Mean,
                band.Lower,
                band.Upper,
                record.Coupons,
                record.CleanCoupons,
                record.Coupons,
                record.Coupons < LeastCoupons || band.Upper.Value - band.Lower.Value > WidestInterval
            );
        return new ReadinessEstimate(
            Of(record.Standing.Whole),
            record.Standing.Stages.ToDictionary(one => one.Key, one => Of(one.Value)),
            Method,
            record.ConstantsVersion.Split(' ')[0]
        );
    }

    /// <summary>The advice for a student who stands as recorded.</summary>
    public async Task<Advice> Advise(ReadinessRecord record, CancellationToken cancel)
    {
        var signed = await db.Students.Where(one => one.Id == record.StudentId).Select(one => one.SafetySignedAt).FirstOrDefaultAsync(cancel);
        return Advise(record, await Policy(record.TestId, cancel), signed is not null);
    }

    /// <summary>What would have been said at a moment of the chance of passing everything, and on how many full coupons that stands.</summary>
    public async Task<(ChanceBand Said, int Coupons)> SaidBefore(Guid studentId, string testId, DateTimeOffset at, CancellationToken cancel)
    {
        var coupons = (await evidence.Read(studentId, testId, cancel)).Where(one => one.At < at).ToList();
        var state = ReadinessState.New(SkillTest.Of(library.Tests[testId]), model.Constants);
        foreach (var coupon in coupons)
        {
            state.Fold(coupon.Evidence, withChance: false);
        }

        var full = coupons.Where(one => one.Evidence.Full).ToList();
        var record = Begin(studentId, testId);
        record.Standing = state.On(CouponSeen.Days(at), TestPolicy.Defaults.BarMean);
        record.Recent = RecentOf(full);
        return (Advise(record, TestPolicy.Defaults, true).Passing, full.Count);
    }

    /// <summary>The same with policy and safety at hand.</summary>
    public Advice Advise(ReadinessRecord record, TestPolicy policy, bool safetySigned)
    {
        var facts = RecentCoupon.Facts(
            record.Recent,
            policy,
            clock.Now,
            library.Profiles[library.Tests[record.TestId].Code].LimitsEntered,
            safetySigned
        );
        return DecisionAdvice.Of(policy, record.Standing, facts);
    }

    /// <summary>The policy of a test: the school's own, or the shipped one.</summary>
    public async Task<TestPolicy> Policy(string testId, CancellationToken cancel) =>
        (
            await db.Policies.AsNoTracking().Where(row => row.TestId == testId).OrderByDescending(row => row.SavedAt).FirstOrDefaultAsync(cancel)
        )?.Policy
        ?? TestPolicy.Defaults;

    /// <summary>The day at the school, counted since the epoch.</summary>
    private int Today() => clock.Today.DayNumber - DateOnly.FromDateTime(DateTime.UnixEpoch).DayNumber;

    private static readonly Func<GradusContext, Guid, string, Task<byte[]?>> StateOf = EF.CompileAsyncQuery(
        (GradusContext db, Guid student, string test) =>
            db.Readiness.AsNoTracking().Where(row => row.StudentId == student && row.TestId == test).Select(row => row.State).FirstOrDefault()
    );

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
                    Trace = new List<TracePoint>(),
                    State = Array.Empty<byte>(),
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
                Trace = withTrace ? row.Trace : new List<TracePoint>(),
                State = Array.Empty<byte>(),
            })
            .ToListAsync(cancel);

    private Standing UnbegunOf(SkillTest test) =>
        Unbegun.GetOrAdd(
            $"{model.Constants.Version} {test.Id} {string.Join(' ', test.Elements)}",
            _ => ReadinessState.New(test, model.Constants).On(0, TestPolicy.Defaults.BarMean)
        );

    // Faults are asked for of the last few only.
    private static List<RecentCoupon> RecentOf(List<ClosedCoupon> full)
    {
        var first = Math.Max(0, full.Count - RecentKept);
        return [.. full.Skip(first).Select((coupon, index) => Recent(coupon, withFaults: first + index >= full.Count - FaultsKept))];
    }

    private static RecentCoupon Recent(ClosedCoupon coupon, bool withFaults) =>
        new(
            coupon.At,
            !coupon.Evidence.Aided,
            coupon.Evidence.AllClean,
            coupon.Facts?.Tested ?? 0,
            coupon.Facts?.Failed ?? 0,
            coupon.Facts?.FitUpGo,
            withFaults ? coupon.Facts?.Faults ?? [] : []
        );

    /// <summary>Readiness of somebody who has not begun on a test.</summary>
    public ReadinessRecord Begin(Guid studentId, string testId) =>
        new()
        {
            StudentId = studentId,
            TestId = testId,
            ConstantsVersion = VersionOf(testId),
            StandingDay = Today(),
            Standing = UnbegunOf(SkillTest.Of(library.Tests[testId])),
            Recent = [],
            Trace = [],
            State = [],
        };

    /// <summary>Works out one record again: only what came since when nothing else changed, all of it otherwise.</summary>
    private async Task Renew(Guid studentId, string testId, int today, CancellationToken cancel)
    {
        if (!library.Tests.TryGetValue(testId, out var test))
        {
            return;
        }

        // As a write of its own: nobody closes a coupon between the reading and the keeping.
        await writes.Whole(Keep, _ => true, cancel);
        db.ChangeTracker.Clear();

        async Task<bool> Keep()
        {
            var asked = SkillTest.Of(test);
            var version = VersionOf(testId);
            var row = await db.Readiness.FirstOrDefaultAsync(one => one.StudentId == studentId && one.TestId == testId, cancel);
            var bar = (await Policy(testId, cancel)).BarMean;
            if (row is { Stale: false } && row.ConstantsVersion == version)
            {
                row.Standing = ReadinessState.FromBytes(asked, model.Constants, row.State).On(At(row.LastDay, today), bar);
                row.StandingDay = today;
            }
            else
            {
                var coupons = await evidence.Read(studentId, testId, cancel);
                var (state, trace) = Continue(row?.ConstantsVersion == version ? row : null, asked, coupons);
                if (row is null)
                {
                    row = new ReadinessRecord
                    {
                        StudentId = studentId,
                        TestId = testId,
                        ConstantsVersion = version,
                        Standing = null!,
                        Recent = [],
                        Trace = [],
                        State = [],
                    };
                    db.Readiness.Add(row);
                }

                var full = coupons.Where(one => one.Evidence.Full).ToList();
                (row.Stale, row.ConstantsVersion, row.StandingDay) = (false, version, today);
                (row.Coupons, row.CleanCoupons) = (full.Count, full.Count(one => one.Evidence.AllClean));
                row.LastDay = coupons.Count == 0 ? 0 : coupons[^1].Evidence.Day;
                row.Standing = state.On(At(row.LastDay, today), bar);
                row.Recent = RecentOf(full);
                row.Trace = trace;
                row.State = state.ToBytes();
            }

            await db.SaveChangesAsync(cancel);
            return true;
        }

        // A day counts from its beginning, but never before the last coupon.
        static double At(double lastDay, int day) => Math.Max(lastDay, day);
    }

    private (ReadinessState State, List<TracePoint> Trace) Continue(ReadinessRecord? row, SkillTest asked, IReadOnlyList<ClosedCoupon> coupons)
    {
        var known = row?.Trace ?? [];

        // Only what came at the end: the coupons that were folded in are the same ones, with the same outcome.
        var folded = coupons.Count - 1;
        var isLonger =
            known.Count > 0
            && known.Count < TraceKept
            && coupons.Count == known.Count + 1
            && known.Zip(coupons).All(pair => Same(pair.First, pair.Second));
        if (isLonger)
        {
            var kept = ReadinessState.FromBytes(asked, model.Constants, row!.State);
            return (kept, [.. known, Point(coupons[folded], kept.Fold(coupons[folded].Evidence))]);
        }

        var state = ReadinessState.New(asked, model.Constants);
        var trace = new List<TracePoint>();
        for (var index = 0; index < coupons.Count; index++)
        {
            var isShown = index >= coupons.Count - TraceKept;
            var chance = state.Fold(coupons[index].Evidence, isShown);
            if (isShown)
            {
                trace.Add(Point(coupons[index], chance));
            }
        }

        return (state, trace);
    }

    private static bool Same(TracePoint point, ClosedCoupon coupon) =>
        point.CouponId == coupon.CouponId && point.At == coupon.At && point.Clean == coupon.Evidence.AllClean && point.Aided == coupon.Evidence.Aided;

    private static TracePoint Point(ClosedCoupon coupon, ChanceBand chance) =>
        new(coupon.CouponId, coupon.At, coupon.Evidence.Full, coupon.Evidence.Aided, coupon.Evidence.AllClean, chance);
}
