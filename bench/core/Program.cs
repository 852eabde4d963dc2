using System.Diagnostics;
using BenchmarkDotNet.Attributes;
using BenchmarkDotNet.Configs;
using BenchmarkDotNet.Jobs;
using BenchmarkDotNet.Running;
using BenchmarkDotNet.Toolchains.InProcess.Emit;
using Gradus.Core.Coaching;
using Gradus.Core.Inspection;
using Gradus.Core.Joints;
using Gradus.Core.Library;
using Gradus.Core.Measure;
using Gradus.Core.Qualification;
using Gradus.Core.Welding;
using Microsoft.Data.Sqlite;

namespace Gradus.Benchmarks;

public static class Program
{
    private const int LargeSchool = 100_000;

    /// <summary>
    /// Without arguments the core is measured; <c>multiply FILE</c> fills a school's file up to a large school for the server's bench, and
    /// <c>enrol FILE</c> to 60 students on eight tests each; <c>raw FILE COUPON</c> reads the rows of its pages by plain SQL.
    /// </summary>
    public static void Main(string[] args)
    {
        if (args is ["multiply" or "enrol", var file])
        {
            using var connection = new SqliteConnection($"Data Source={file}");
            connection.Open();
            using var command = connection.CreateCommand();
#pragma warning disable CA2100 // A script of this repository.
            command.CommandText = File.ReadAllText(
                Path.Combine(AppContext.BaseDirectory, args[0] == "enrol" ? "whole-school.sql" : "large-school.sql")
            );
#pragma warning restore CA2100
            command.Parameters.AddWithValue("$coupons", LargeSchool);
            Console.WriteLine($"{command.ExecuteNonQuery():N0} rows written");
            return;
        }

        if (args is ["raw", var school, var coupon])
        {
            RawSql.Run(school, coupon);
            return;
        }

        if (args is ["plans"])
        {
            Plans();
            return;
        }

        if (args is ["traces"])
        {
            Traces();
            return;
        }

        if (args is ["practice"])
        {
            Practice.Run();
            return;
        }

        if (args is ["weeks"])
        {
            Weeks.Run();
            Console.WriteLine();
            Practice.Run();
            return;
        }

        if (args is ["readiness", .. var files])
        {
            var careers = files.Where(Careers.IsCareers).ToList();
            Careers.Run(careers);
            Sittings.Run();
            Cohorts.Speed();
            Forecasts.Run(files);
            Cohorts.RunAdversaries();
            Cohorts.Run(files.Except(careers));
            return;
        }

        BenchmarkRunner.Run<CoreBench>(
            DefaultConfig.Instance.AddJob(Job.ShortRun.WithToolchain(InProcessEmitToolchain.Instance)).WithOptions(ConfigOptions.DisableLogFile),
            args
        );
    }

    /// <summary>How long every test of the library takes to plan, in each of its ways: the slowest first.</summary>
    private static void Traces()
    {
        const int beads = 600;
        foreach (var (hz, noise, lost) in new[] { (50, 1.0, 0.02), (20, 1.0, 0.02), (50, 2.0, 0.05), (20, 2.0, 0.05), (10, 1.0, 0.02) })
        {
            var scores = TraceScores.Score(beads, hz, noise, lost);
            Console.WriteLine(
                $"\n{hz} Hz, noise x{noise}, {lost:P0} of the seconds lost, {beads} beads\n\n| habit | true | found | missed | false |\n|---|---|---|---|---|"
            );
            foreach (var one in scores)
            {
                Console.WriteLine($"| {one.Habit} | {one.True} | {one.Found} ({one.FoundShare:P1}) | {one.True - one.Found} | {one.False} |");
            }

            var (was, found, wrong) = (scores.Sum(one => one.True), scores.Sum(one => one.Found), scores.Sum(one => one.False));
            Console.WriteLine(
                $"| together | {was} | {(double)found / was:P1} | {was - found} | {wrong} ({(double)wrong / (found + wrong):P1} of what is told) |"
            );
        }
    }

    private static void Plans()
    {
        var all = TestLibrary
            .Shipped.Values.SelectMany(test =>
                test.Variants.SelectMany(group =>
                        group.Options.Select(option =>
                            (Name: $"{test.Id} {option.Name}", Test: test.With(new Dictionary<string, string> { [group.Id] = option.Id }))
                        )
                    )
                    .Prepend((Name: test.Id, Test: test))
            )
            .Select(way =>
            {
                const int Times = 20;
                _ = way.Test.Beads();
                var took = new List<double>();
                for (var time = 0; time < Times; time++)
                {
                    var started = Stopwatch.GetTimestamp();
                    _ = way.Test.Beads();
                    took.Add(Stopwatch.GetElapsedTime(started).TotalMilliseconds);
                }

                return (way.Name, Beads: way.Test.Beads().Count, Median: took.Order().ElementAt(Times / 2), Most: took.Max());
            })
            .OrderByDescending(one => one.Median)
            .ToList();
        Console.WriteLine($"{all.Count} ways of {TestLibrary.Shipped.Count} tests");
        foreach (var (name, beads, median, most) in all.Take(5))
        {
            Console.WriteLine($"{name}: {beads} beads, {median:0.000} ms median, {most:0.000} ms at most");
        }

        Console.WriteLine($"slowest single plan of all: {all.Max(one => one.Most):0.000} ms");
    }
}

/// <summary>What the floor asks of the core: a bead plan under 5 ms, any calculation under 1 ms.</summary>
public class CoreBench
{
    private static readonly TestTemplate Heavy = TestLibrary.Shipped["P10"].With(new Dictionary<string, string> { ["thickness"] = "1" });
    private static readonly SingleVGroove Groove = new(
        Length.FromMm(10),
        BevelAngle.FromDegrees(30),
        BevelAngle.FromDegrees(30),
        Length.FromMm(3),
        Length.FromMm(1)
    );
    private static readonly AcceptanceProfile D1 = AcceptanceProfiles.Shipped["aws-d1.1"];
    private static readonly MeasuredFinding[] Findings =
    [
        .. Enumerable.Range(0, 20).Select(size => new MeasuredFinding(DiscontinuityKind.Undercut, Stage.Cap, DepthMm: size / 20.0)),
    ];
    private static readonly PassedCoupon[] Coupons =
    [
        .. Enumerable
            .Range(0, 10)
            .Select(size => new PassedCoupon(
                Product.Pipe,
                WeldKind.Groove,
                size % 2 == 0 ? "6G" : "5G",
                3 + size,
                20 + (30 * size),
                Backed.None,
                "SMAW",
                4,
                Progression.Uphill,
                1 + (size / 2)
            )),
    ];
    private static readonly AskedWeld Asked = new(null, null, "V", null, null, null, "SMAW", null, null);
    private static readonly IReadOnlyList<PassedTest> Split = TestQualification.PassesOf(TestLibrary.Shipped["R4"], "asme-ix");

    /// <summary>The largest plan of the library: 1 in plate overhead.</summary>
    [Benchmark]
    public JointSection BeadPlan() => Heavy.Section();

    [Benchmark]
    public SuggestedLayers LayersFromSettings() => LayerPlanner.Suggest(JointShape.Of(Heavy.Joint), 14, Length.FromMm(9), 0.5);

    [Benchmark]
    public double PipeVolume() => Groove.PipeVolumeMm3(Length.FromMm(168.3));

    [Benchmark]
    public bool ReadLength() => LengthReader.TryRead("1-1/2 in", LengthUnit.Inch, out _, out _);

    [Benchmark]
    public Verdict JudgeTwentyFindings() => VisualJudge.Judge(D1, new InspectedJoint(Product.Plate, 9.5, false), Findings);

    [Benchmark]
    public Qualified Qualifies() => Qualifier.Combine(Positions.Of("asme-ix")!, Split);

    /// <summary>Every thickness and diameter of a weld by ten coupons: bar 2 ms.</summary>
    [Benchmark]
    public CoverAnswer Covered() => Covering.Of(CoveringRules.ByCode["asme-ix"], Coupons, Asked);

    [Benchmark]
    public CouponBudget Budget() => CouponBudget.Of(Heavy);

    [Benchmark]
    public IReadOnlyList<LikelyCause> RankCauses() =>
        CauseFinder.Rank(DiscontinuityKind.BurnThrough, new CauseFacts(Stage.Root, GapMm: 4, PlannedGapMm: 3, Amps: 100, CardAmps: new(80, 95)));
}
