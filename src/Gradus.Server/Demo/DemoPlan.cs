using Gradus.Core.Planning;
using Gradus.Data;
using Gradus.Server.Coupons;
using Gradus.Server.Hosting;
using Gradus.Server.Library;
using Gradus.Server.Planning;
using Gradus.Server.Qualifications;
using Gradus.Server.Readiness;
using Gradus.Server.School;
using Gradus.Solver;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Demo;

/// <summary>What the demo school plans with: its booths, its periods, what lies on the racks, a booked sitting, and this week solved and accepted.</summary>
internal static class DemoPlan
{
    private const double SolveSeconds = 5;
    private const double NewBarMm = 6096;

    public static async Task Build(
        GradusContext db,
        SchoolLibrary library,
        TimeProvider time,
        SchoolClock clock,
        Writes writes,
        Guid lead,
        CancellationToken cancel
    )
    {
        var now = time.GetUtcNow();
        foreach (var booth in await db.Booths.ToListAsync(cancel))
        {
            (booth.Processes, booth.Has) = booth.Number switch
            {
                <= 4 => ((List<string>)["SMAW"], BoothTraits.None),
                <= 8 => (["SMAW", "GTAW"], BoothTraits.Pipe),
                9 or 10 => (["FCAW-G", "FCAW-S", "GMAW"], BoothTraits.None),
                _ => (
                    ["SMAW", "GTAW", "GMAW", "FCAW-G", "FCAW-S"],
                    BoothTraits.Pipe | BoothTraits.Purge | BoothTraits.Extraction | BoothTraits.Positioner
                ),
            };
        }

        var students = await db.Students.AsNoTracking().ToListAsync(cancel);
        // What was practised before is behind them, also where no sitting was passed yet.
        var passed = (
            await db.SittingResults.Where(one => one.Passed).Select(one => new { one.StudentId, one.TestId }).ToListAsync(cancel)
        ).ToHashSet();
        db.StepCredits.AddRange(
            DemoPeople.Students.SelectMany(person =>
                person
                    .Earlier.Select(one => new { StudentId = students.Single(student => student.Name == person.Name).Id, one.TestId })
                    .Where(one => !passed.Contains(one))
                    .Select(one => new StepCredit
                    {
                        StudentId = one.StudentId,
                        TestId = one.TestId,
                        Why = "Passed with the class before.",
                        RecordedAt = now,
                        RecordedBy = lead,
                    })
            )
        );

        // Those who are far on 6G came with 5G behind them.
        db.StepCredits.AddRange(
            DemoPeople
                .Students.Where(person => person.TestId == "R3" && person.Coupons >= 9 && person.Earlier.All(one => one.TestId is not ("R1" or "R2")))
                .Select(person => new StepCredit
                {
                    StudentId = students.Single(one => one.Name == person.Name).Id,
                    TestId = "R2",
                    Why = "Brought along from the yard.",
                    RecordedAt = now,
                    RecordedBy = lead,
                })
        );
        await Stock(db, library, now, lead, cancel);
        var classes = await db.ClassGroups.AsNoTracking().ToListAsync(cancel);
        var setups = new SetupBook(db, library, time);
        await setups.Save(
            lead,
            cancel,
            SetupBook.DefaultWeek with
            {
                HoldPointsPerPeriod = 14,
                ClassPeriods = classes.ToDictionary(one => one.Id, one => (IReadOnlyList<int>)(one.Name == "Evening class" ? [2] : [0, 1])),
            }
        );
        var monday = clock.Monday;
        var dev = students.Single(one => one.Name == "Dev Pillai");
        db.Sittings.Add(
            new Sitting
            {
                Id = Guid.CreateVersion7(now),
                StudentId = dev.Id,
                TestId = dev.TargetTestId,
                Day = monday.AddDays(11),
                Period = 0,
                BookedBy = lead,
                BookedAt = now,
                Procedure = "WPS 21 rev 3",
                InspectorId = lead,
            }
        );
        await db.SaveChangesAsync(cancel);
        db.ChangeTracker.Clear();

        var readiness = new ReadinessBook(db, new EvidenceReader(db, clock), library, new ModelInUse(), clock, writes);
        var weeks = new WeekBuilder(
            db,
            new PracticeBook(db, readiness, setups, new WorkLog(db), library, new HoldsReader(db, clock), time),
            setups,
            new StockBook(db),
            library,
            clock
        );
        foreach (var start in new[] { monday, monday.AddDays(7) })
        {
            var facts = await weeks.Build(start, false, cancel, OpenFrom.Monday);
            var solved = WeekSolver.Solve(facts.Week, SolveSeconds, cancel: cancel);
            db.WeekPlans.Add(
                new WeekPlan
                {
                    Id = Guid.CreateVersion7(now),
                    Monday = start,
                    Cells = facts.Describe(solved.Cells),
                    Objective = solved.Objective,
                    Bound = solved.Bound,
                    AcceptedAt = now,
                    AcceptedBy = lead,
                }
            );

            // The week after is planned from what this one brings.
            await db.SaveChangesAsync(cancel);
            db.ChangeTracker.Clear();
        }
    }

    /// <summary>Some of everything that the demo's tests take, a few things short, and two off-cuts.</summary>
    private static async Task Stock(GradusContext db, SchoolLibrary library, DateTimeOffset now, Guid lead, CancellationToken cancel)
    {
        var prices = Price.Shipped.ToDictionary(price => price.Id, price => price.Amount);
        var tests = await db.Coupons.Select(coupon => coupon.TestId).Distinct().OrderBy(id => id).ToListAsync(cancel);
        var works = tests.ConvertAll(id => ItemWork.Of(library.Tests[id], null, LoggedWork.None, prices));
        void In(string stock, string unit, double amount, double? length = null, bool offCut = false) =>
            db.StockMoves.Add(
                new StockMove
                {
                    Id = Guid.CreateVersion7(now),
                    Stock = stock,
                    Unit = unit,
                    LengthMm = length,
                    OffCut = offCut,
                    Amount = amount,
                    Why = "Counted",
                    At = now,
                    By = lead,
                }
            );
        foreach (var steel in works.SelectMany(work => work.Steel).Select(piece => piece.Stock).Distinct())
        {
            In(steel, "mm", steel.StartsWith("Pipe", StringComparison.Ordinal) ? 3 : 12, NewBarMm);
        }

        foreach (var steel in works.SelectMany(work => work.Steel).Select(piece => piece.Stock).Distinct().Take(2))
        {
            In(steel, "mm", 1, 1420, offCut: true);
        }

        foreach (var draw in works.SelectMany(work => work.Draws).Where(draw => draw.Unit != "mm").DistinctBy(draw => draw.Stock))
        {
            In(
                draw.Stock,
                draw.Unit,
                draw.Unit == "L" ? 20_000
                    : draw.Unit == "kg" ? 25
                    : 120
            );
        }
    }
}
