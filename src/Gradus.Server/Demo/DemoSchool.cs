using Gradus.Core.Bench;
using Gradus.Core.Certification;
using Gradus.Core.Inspection;
using Gradus.Core.Joints;
using Gradus.Core.Library;
using Gradus.Core.Welding;
using Gradus.Data;
using Gradus.Server.Accounts;
using Gradus.Server.Coupons;
using Gradus.Server.Decisions;
using Gradus.Server.Hosting;
using Gradus.Server.Library;
using Gradus.Server.Planning;
using Gradus.Server.Qualifications;
using Gradus.Server.Readiness;
using Gradus.Server.School;
using Gradus.Server.Sittings;
using Gradus.Server.Students;
using Microsoft.AspNetCore.Identity;

namespace Gradus.Server.Demo;

/// <summary>
/// Makes the demo school: a small simulator with a fixed seed lets each invented student weld, and writes what comes of it through the same
/// recorder that the server uses. The history ends today, so that ages and chances look as they would on a live floor.
/// </summary>
public sealed class DemoSchool
{
    private const string Zone = "Europe/Oslo";
    private const int Seed = 20_260;
    private const int HistoryDays = 98;
    private const int CouponsToSafety = 3;
    private const int BoothCount = 12;
    private const double DaysBetweenCoupons = 2.6;
    private const double DaySpread = 0.5;
    private const int BendsTested = 2;
    private const int OpensInOneOf = 12;
    private const double AlwaysClean = 50;

    private readonly GradusContext db;
    private readonly TimeProvider time;
    private readonly SchoolLibrary library;
    private readonly PeopleBook people;
    private readonly RecordSigner signer;
    private readonly Writes writes;
    private readonly SimulatedClock clock;
    private readonly SchoolClock days;
    private Random random = new(Seed);
    private readonly Random sittings = new(Seed + 1); // of its own, so that the coupons stay as they are
    private readonly Random steps = new(Seed + 2); // likewise, for what the rules of a test want done

    public DemoSchool(GradusContext db, TimeProvider time, SchoolLibrary library, PeopleBook people, RecordSigner signer, Writes writes)
    {
        (this.db, this.time, this.library, this.people, this.signer, this.writes) = (db, time, library, people, signer, writes);
        clock = new SimulatedClock(time.GetUtcNow());
        days = new SchoolClock(clock);
        days.Use(Zone);
    }

    /// <summary>Fills an empty database.</summary>
    public async Task Build(CancellationToken cancel)
    {
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        var today = time.GetUtcNow();
        db.Schools.Add(
            new Data.School
            {
                Id = NewId(),
                Name = "Skerrow Harbour Technical College",
                TimeZone = Zone,
                IsDemo = true,
            }
        );
        var lead = await Join(Guid.CreateVersion7(), DemoPeople.Lead, PersonRole.Lead);
        var second = await Join(Guid.CreateVersion7(), DemoPeople.Second, PersonRole.Instructor);
        var day = new ClassGroup
        {
            Id = NewId(),
            Name = "Day class",
            MeetsOn = [DayOfWeek.Monday, DayOfWeek.Tuesday, DayOfWeek.Wednesday, DayOfWeek.Thursday, DayOfWeek.Friday],
        };
        var evening = new ClassGroup
        {
            Id = NewId(),
            Name = "Evening class",
            MeetsOn = [DayOfWeek.Monday, DayOfWeek.Wednesday, DayOfWeek.Thursday, DayOfWeek.Saturday],
        };
        db.ClassGroups.AddRange(day, evening);
        var booths = Enumerable.Range(1, BoothCount).Select(number => Booth.New(NewId(), number)).ToList();
        db.Booths.AddRange(booths);
        await db.SaveChangesAsync(cancel);

        var nextBooth = 0;
        List<(SimulatedStudent Person, Guid StudentId, Guid By, Guid Id)> certified = [];
        foreach (var person in DemoPeople.Students)
        {
            var student = new Student
            {
                Id = NewId(),
                Name = person.Name,
                ClassGroupId = person.Evening ? evening.Id : day.Id,
                Hand = person.Hand,
                TargetTestId = person.TestId,
                Note = person.Note,
                CreatedAt = today.AddDays(-90),
            };
            db.Students.Add(student);
            await Join(student.Id, student.Name, PersonRole.Student);
            await db.SaveChangesAsync(cancel);
            var instructor = person.Evening ? second.Id : lead.Id;
            if (person.Coupons >= CouponsToSafety)
            {
                (student.SafetySignedAt, student.SafetySignedBy) = (today.AddDays(-60), instructor);
            }

            var before = person.Earlier.Sum(one => one.Coupons);
            var first = person.LastDaysAgo + (person.Coupons * DaysBetweenCoupons);
            var step = before == 0 ? 0 : Math.Min(DaysBetweenCoupons, Math.Max(0.3, (HistoryDays - first) / before));
            foreach (var (testId, index) in person.Earlier.SelectMany(one => Enumerable.Range(0, one.Coupons).Select(index => (one.TestId, index))))
            {
                clock.Now = today.AddDays(-(first + (before-- * step))).AddMinutes(random.Next(-90, 0));
                var then = person with { TestId = testId, Weak = null, WeakClock = null };
                await Weld(then, student.Id, instructor, booths[random.Next(booths.Count)].Id, index, null, cancel);
                if (index == person.Earlier.First(one => one.TestId == testId).Coupons - 1)
                {
                    await Sit(then, student.Id, instructor, index, cancel);
                }
            }

            for (var index = 0; index < person.Coupons; index++)
            {
                var daysAgo = person.LastDaysAgo + ((person.Coupons - 1 - index) * DaysBetweenCoupons);
                clock.Now = today.AddDays(-daysAgo).AddMinutes(random.Next(-90, 0));
                await Weld(person, student.Id, instructor, booths[random.Next(booths.Count)].Id, index, null, cancel);
            }

            if (person.OpenStage is not null)
            {
                clock.Now = today.AddMinutes(-70 + (nextBooth * 4));
                await Weld(person, student.Id, instructor, booths[nextBooth++].Id, person.Coupons, person.OpenStage, cancel);
            }

            if (person.Sat is { } sat)
            {
                clock.Now = today.AddDays(-sat.DaysAgo);
                if (sat.Passed)
                {
                    certified.Add((person, student.Id, instructor, NewId(sittings)));
                }
                else
                {
                    await Result(student.Id, person.TestId, sat.Passed, sat.Note, instructor, cancel);
                }
            }

            if (person.Decision is { } decision)
            {
                clock.Now = today.AddDays(-decision.DaysAgo);
                var book = new DecisionBook(db, Readiness(), clock);
                Require(await book.Sign(NewId(), new SignDecision(student.Id, person.TestId, decision.Kind, decision.Reason), instructor, cancel));
            }

            db.ChangeTracker.Clear();
        }

        random = new Random(Seed + 3); // of its own, as above
        foreach (var (person, studentId, by, id) in certified)
        {
            clock.Now = today.AddDays(-person.Sat!.Value.DaysAgo);
            await Certify(person, studentId, by, booths[^1].Id, id, cancel);
        }

        clock.Now = today;
        await transaction.CommitAsync(cancel);
        await DemoPlan.Build(db, library, time, days, writes, lead.Id, cancel);
    }

    /// <summary>Lets a student sit a test, each day once until it is passed.</summary>
    private async Task Sit(SimulatedStudent person, Guid studentId, Guid by, int practice, CancellationToken cancel)
    {
        const int MostSittings = 4;
        var test = library.Tests[person.TestId];
        var bends = Math.Min(BendsTested, test.Specimens.Count(one => IsBend(one.Kind)));
        for (var (sat, passed) = (0, false); sat < MostSittings && !passed; sat++)
        {
            // As any coupon of theirs: a good or a bad day for all stages, and what only the bends show.
            clock.Now = clock.Now.AddDays(1);
            var goodDay = MathNet.Numerics.Distributions.Normal.Sample(sittings, 0, DaySpread);
            var clean = test.Stages.All(_ => sittings.NextDouble() < 1 / (1 + Math.Exp(-(person.Skill + (person.Gain * practice) + goodDay))));
            passed = Enumerable.Range(0, bends).All(_ => sittings.Next(OpensInOneOf) > 0) && clean;
            await Result(studentId, person.TestId, passed, "", by, cancel);
        }
    }

    private async Task Result(Guid studentId, string testId, bool passed, string note, Guid by, CancellationToken cancel)
    {
        var day = days.DayOf(clock.Now);
        Require(
            await new ResultBook(db, Readiness(), days).Record(NewId(sittings), new RecordResult(studentId, testId, day, passed, note), by, cancel)
        );
    }

    /// <summary>A sitting from its booking to the record, on one day: by the same books that the server uses.</summary>
    private async Task Certify(SimulatedStudent person, Guid studentId, Guid by, Guid boothId, Guid sittingId, CancellationToken cancel)
    {
        var setups = new SetupBook(db, library, clock);
        var certificates = new CertificateBook(db, library, signer, days);
        var recorder = new CouponRecorder(db, library, new FollowUp(db, library));
        var book = new SittingBook(db, library, setups, Readiness(), certificates, recorder, days);
        var decisions = new DecisionBook(db, Readiness(), clock);
        Require(
            await decisions.Sign(
                NewId(),
                new SignDecision(studentId, person.TestId, DecisionKind.TestNow, "Ready, by all that was seen."),
                by,
                cancel
            )
        );
        clock.Advance(30);
        Require(
            await book.Book(
                sittingId,
                new SittingRequest(
                    studentId,
                    person.TestId,
                    days.Today,
                    0,
                    null,
                    boothId,
                    null,
                    null,
                    "WPS 08 rev 1",
                    by,
                    null,
                    null,
                    null,
                    null,
                    "Booked as the class went."
                ),
                by,
                cancel
            )
        );
        var couponId = NewId();
        Require(await book.Start(sittingId, couponId, Now(by), cancel));
        await Make(person with { Skill = AlwaysClean, Weak = null }, by, couponId, true, 0, null, true, cancel);
        var read = new Dictionary<string, string>
        {
            [DayList.Identity] = "college card",
            [DayList.Material] = "H 20418",
            [DayList.Filler] = "lot 7731",
        };
        foreach (var point in DayList.Of(library.Tests[person.TestId], library.Tests[person.TestId].Rules))
        {
            var mark = new MarkPoint(point.Id, read.GetValueOrDefault(point.Id), point.Witnessed ? by : null, null, null);
            Require(await book.Mark(sittingId, NewId(), mark, Now(by), _ => Task.FromResult<Refusal?>(null), cancel));
        }

        clock.Advance(60);
        Require(await book.Sign(sittingId, new SignResult(SittingOutcome.Passed, null, null), by, cancel));
        Require(await certificates.Certify(NewId(), new CertifyRequest(sittingId, null, null, null, null, null, null, null), by, cancel));
        db.ChangeTracker.Clear();
    }

    private ReadinessBook Readiness() => new(db, new EvidenceReader(db, days), library, new ModelInUse(), days, writes);

    private async Task<Person> Join(Guid id, string name, PersonRole role) =>
        (await people.Add(id, name, role, Accounts.Endpoints.DemoPin)).Value ?? throw new InvalidOperationException($"{name} could not be added.");

    private Provenance Now(Guid by) => Provenance.Direct(by, clock.Now);

    /// <summary>Lets a student weld a coupon. With <paramref name="stopAt"/> it is left open in that stage.</summary>
    private async Task Weld(SimulatedStudent person, Guid studentId, Guid by, Guid boothId, int practice, Stage? stopAt, CancellationToken cancel)
    {
        var recorder = new CouponRecorder(db, library, new FollowUp(db, library));
        var template = library.Tests[person.TestId];
        var id = NewId();
        var asTest = practice >= 2 && random.NextDouble() < 0.7;
        Require(await recorder.Start(id, new StartCoupon(studentId, template.Id, null, null, boothId, asTest), Now(by), cancel));
        if (stopAt != Stage.FitUp)
        {
            await Make(person, by, id, asTest, practice, stopAt, false, cancel);
        }
    }

    /// <summary>Fits up, welds and looks at a coupon that was started; at a sitting all of it is cut.</summary>
    private async Task Make(
        SimulatedStudent person,
        Guid by,
        Guid id,
        bool asTest,
        int practice,
        Stage? stopAt,
        bool atSitting,
        CancellationToken cancel
    )
    {
        var recorder = new CouponRecorder(db, library, new FollowUp(db, library));
        var template = library.Tests[person.TestId];
        clock.Advance(12);
        var closedGap = practice % 5 == 1 && random.NextDouble() < 0.6;
        Require(await recorder.FitUp(id, NewId(), FitUpOf(template, closedGap), Now(by), cancel));
        var goodDay = Normal() * DaySpread;
        var cards = PassCards.Build(template, person.Hand, []);
        var beads = CouponLogs.Of((await recorder.Load(id, cancel))!, library).Beads.ToList();
        var hot = random.NextDouble() < 0.12;
        foreach (var stage in template.Stages)
        {
            if (asTest)
            {
                await Ready(recorder, id, stage, by, cancel);
            }

            var laying = beads.Where(bead => bead.Stage == stage).ToList();
            foreach (var bead in stage == stopAt ? laying.Take(laying.Count / 2) : laying)
            {
                clock.Advance(5 + random.Next(4));
                Require(await recorder.Pass(id, NewId(), PassOf(bead, cards[bead.Pass], hot, template.Temperatures?.PreheatMinC), Now(by), cancel));
            }

            if (stage == stopAt)
            {
                return;
            }

            var lag = person.Weak is { } weak && weak.Stage == stage ? weak.By + (goodDay * 0.5) : 0;
            lag -= (closedGap && stage == Stage.Root ? 1.4 : 0) + (hot ? 0.8 : 0);
            var clean = random.NextDouble() < 1 / (1 + Math.Exp(-(person.Skill + (person.Gain * practice) + goodDay + lag)));
            if (DemoFaults.Pick(random, template, stage, clean, person.WeakClock) is { } finding)
            {
                Require(await recorder.Finding(id, NewId(), finding, Now(by), cancel));
            }

            // A root that is lost is not welded over: the coupon ends there.
            if (!clean && stage == Stage.Root && random.NextDouble() < 0.4)
            {
                break;
            }
        }

        clock.Advance(6);
        if (template.Weld == WeldKind.Fillet)
        {
            var leg = template.Joint.LegMm!.Value;
            var fillet = new FilletMeasures(LegAMm: leg + 0.4, LegBMm: leg + 0.8, FaceWidthMm: leg * 1.5, ConvexityMm: 0.8);
            var body = new BenchEventBody(Side: JointSide.Face, At: "middle", Fillet: fillet);
            Require(await recorder.Event(id, NewId(steps), new RecordEvent(BenchEventKind.Measured, body), Now(by), cancel));
        }

        if (atSitting)
        {
            foreach (var (_, index) in template.Specimens.Select((one, index) => (one.Kind, index)).Where(one => IsBend(one.Kind)))
            {
                var body = new BenchEventBody(Specimen: index, Bend: new BendSpecimen(template.Joint.ThicknessMm, []));
                Require(await recorder.Event(id, NewId(), new RecordEvent(BenchEventKind.SpecimenTested, body), Now(by), cancel));
            }
        }
        else
        {
            await Bend(recorder, id, template, practice, by, cancel);
        }

        Require(await recorder.Close(id, NewId(), Now(by), () => Task.FromResult<Refusal?>(null), cancel));
        db.ChangeTracker.Clear();
    }

    /// <summary>What the rules of a test want done before a stage is welded.</summary>
    private async Task Ready(CouponRecorder recorder, Guid id, Stage stage, Guid by, CancellationToken cancel)
    {
        var log = CouponLogs.Of((await recorder.Load(id, cancel))!, library);
        foreach (var concern in log.Concerns(stage, log.Test.Temperatures?.PreheatMinC, clock.Now))
        {
            (BenchEventKind Kind, BenchEventBody Body)[] done = concern.Concern switch
            {
                Concern.Position => [(BenchEventKind.PositionWitnessed, new BenchEventBody())],
                Concern.Purge => [(BenchEventKind.TimerStarted, new BenchEventBody(Timer: BenchTimer.Purge))],
                Concern.SittingTimer => [(BenchEventKind.TimerStarted, new BenchEventBody(Timer: BenchTimer.Sitting))],
                _ => [],
            };
            foreach (var (kind, body) in done)
            {
                Require(await recorder.Event(id, NewId(steps), new RecordEvent(kind, body), Now(by), cancel));
            }

            if (concern.Concern == Concern.Purge)
            {
                clock.Advance((int)Math.Ceiling(CouponBudget.PurgeOf(log.Test).Minutes));
            }
        }

        foreach (var hold in log.HoldsBefore(stage))
        {
            var body = new BenchEventBody(Point: hold.Id, Go: true);
            Require(await recorder.Event(id, NewId(steps), new RecordEvent(BenchEventKind.HoldAnswered, body), Now(by), cancel));
        }
    }

    /// <summary>Each fourth coupon goes to the bend press; one specimen in twelve opens further than it may.</summary>
    private async Task Bend(CouponRecorder recorder, Guid id, TestTemplate template, int practice, Guid by, CancellationToken cancel)
    {
        const double TooFarMm = 4;
        var bends = template.Specimens.Select((one, index) => (one.Kind, index)).Where(one => IsBend(one.Kind)).ToList();
        if (practice % 4 != 3 || bends.Count == 0)
        {
            return;
        }

        foreach (var (_, index) in bends.Take(BendsTested))
        {
            List<BendDiscontinuity> opened = random.Next(OpensInOneOf) == 0 ? [new BendDiscontinuity(TooFarMm, false, false)] : [];
            var body = new BenchEventBody(Specimen: index, Bend: new BendSpecimen(template.Joint.ThicknessMm, opened));
            Require(await recorder.Event(id, NewId(), new RecordEvent(BenchEventKind.SpecimenTested, body), Now(by), cancel));
        }
    }

    private static bool IsBend(string kind) => kind is "root" or "face" or "side";

    private RecordFitUp FitUpOf(TestTemplate template, bool closedGap)
    {
        const double Sixtyfourth = 25.4 / 64;
        var joint = template.Joint;
        var points = template
            .FitUp.Points.Select(at => new FitUpPoint(
                at,
                joint.BevelDegA,
                joint.BevelDegB,
                Math.Max(0, joint.RootOpeningMm + ((closedGap ? -3 : random.Next(3)) * Sixtyfourth)),
                joint.RootFaceMm,
                random.Next(3) * Sixtyfourth,
                joint.Backing.Kind == BackingKind.Strip ? 0 : null
            ))
            .ToList();
        var tacks = (joint.Pipe is null ? ["start", "start", "end", "end"] : template.FitUp.Points.Take(template.FitUp.Tacks.MinCount))
            .Select(at => new Tack(at, 12.7, true))
            .ToList();
        return new RecordFitUp(points, tacks, template.FitUp.Questions.ToDictionary(question => question.Id, _ => true));
    }

    private RecordPass PassOf(PlannedBead bead, PassCard card, bool hot, double? interpassC) =>
        new(
            bead.Key,
            card.Process,
            card.ElectrodeClass,
            card.DiameterMm,
            card.Polarity,
            Math.Round((hot ? (card.Ranges.Amps?.Max ?? card.Amps) * 1.08 : card.Amps) + Normal()),
            card.Volts,
            card.WireFeedMmPerMin,
            card.Gas,
            card.Technique,
            card.Progression,
            card.Hand,
            interpassC
        );

    private double Normal() => MathNet.Numerics.Distributions.Normal.Sample(random, 0, 1);

    /// <summary>A version 7 id from the seed, so that the same demo is made each time but for its dates.</summary>
    private Guid NewId(Random? from = null)
    {
        var bytes = new byte[16];
        (from ?? random).NextBytes(bytes);
        var made = Guid.CreateVersion7(clock.Now).ToByteArray(bigEndian: true);
        made.AsSpan(0, 6).CopyTo(bytes);
        bytes[6] = (byte)(0x70 | (bytes[6] & 0x0F));
        bytes[8] = (byte)(0x80 | (bytes[8] & 0x3F));
        return new Guid(bytes, bigEndian: true);
    }

    private static void Require(Outcome<Written> outcome)
    {
        if (outcome.Refusal is { } refusal)
        {
            throw new InvalidOperationException($"The demo was refused: {string.Join(" ", refusal.Errors.SelectMany(error => error.Value))}");
        }
    }

    private sealed class SimulatedClock(DateTimeOffset start) : TimeProvider
    {
        public DateTimeOffset Now { get; set; } = start;

        public void Advance(int minutes) => Now = Now.AddMinutes(minutes);

        public override DateTimeOffset GetUtcNow() => Now;
    }
}
