using System.Text.Json;
using Gradus.Core.Readiness;
using Gradus.Core.Vocabulary;
using MathNet.Numerics.Distributions;
using MathNet.Numerics.Statistics;

namespace Gradus.Benchmarks;

/// <summary>One simulated student, with the true chance right after each coupon.</summary>
/// <param name="Falls">The coupon before which a slump begins; under 0 for none.</param>
internal sealed record CohortStudent(TestHistory History, IReadOnlyList<double> Truth, int Falls = -1);

/// <summary>How well a way of judging did on a cohort.</summary>
internal sealed record Scored(string Name, double LogScore, double Brier, double Rmse, double Bias, double? Coverage, double? Width);

/// <summary>Measures the readiness engine on cohorts of simulated students whose truth is known, beside the rules of thumb.</summary>
internal static class Cohorts
{
    // The width of the band was chosen on cohorts of the seeds 100 to 104 and 300 to 304; these were looked at afterwards.
    private const int FirstSeed = 700;

    private sealed record Line(string Student, string[] Elements, CouponLine[] Coupons);

    private sealed record CouponLine(double Day, string Kind, bool Aided, string[] Elements, bool[] Clean, double Truth);

    public static List<CohortStudent> Read(string file) =>
        [
            .. File.ReadLines(file)
                .Where(line => line.Length > 0)
                .Select(line => JsonSerializer.Deserialize<Line>(line, JsonSerializerOptions.Web)!)
                .Select(line => new CohortStudent(
                    new TestHistory(
                        new SkillTest("asked", null, line.Elements),
                        [
                            .. line.Coupons.Select(coupon => new CouponEvidence(
                                coupon.Day,
                                coupon.Kind == "full",
                                coupon.Aided,
                                coupon.Elements.Zip(coupon.Clean).ToDictionary(one => one.First, one => one.Second)
                            )),
                        ]
                    ),
                    [.. line.Coupons.Select(coupon => coupon.Truth)]
                )),
        ];

    public static void Run(IEnumerable<string> files)
    {
        var made = CohortMaker.Kinds.Select((kind, index) => (kind.Name, Students: CohortMaker.Make(kind, FirstSeed + index)));
        var read = files.Select(file => (Path.GetFileNameWithoutExtension(file), Read(file)));
        foreach (var (name, students) in read.Concat(made))
        {
            var watch = System.Diagnostics.Stopwatch.StartNew();
            var (rules, defaults) = WithDefaults(students);
            var fittedRows = new List<(CohortStudent Student, List<Said> Said)>();
            var took = watch.Elapsed;
            watch.Restart();
            foreach (var parity in new[] { 0, 1 })
            {
                var fitted = ConstantsFit.Fit(
                    [.. students.Where((_, index) => index % 2 == parity).Select(one => new StudentHistory([one.History]))],
                    ReadinessConstants.Defaults
                );
                Console.WriteLine($"{fitted.ScoreBefore:0.000} -> {fitted.ScoreAfter:0.000} {fitted.Adopted}");
                fittedRows.AddRange(students.Where((_, index) => index % 2 != parity).Select(one => (one, Engine(one, fitted.Constants))));
            }

            var all = fittedRows.ToDictionary(one => one.Student, one => one.Said);
            var fittedScore = Score("engine, fitted on the other half", students, student => all[student]);
            Console.WriteLine(
                $"\n{name}: {students.Count} students; judged in {took.TotalSeconds:0.0} s, fitted in {watch.Elapsed.TotalSeconds:0.0} s"
            );
            Print([.. rules, defaults, fittedScore]);
        }
    }

    /// <summary>The cohorts in which something goes on that the model does not have; with the default constants.</summary>
    public static void RunAdversaries()
    {
        foreach (var (index, kind) in CohortMaker.Adversaries.Index())
        {
            var students = CohortMaker.Make(kind, FirstSeed + 50 + index);
            var (rules, defaults) = WithDefaults(students, passing: kind.Hidden);
            Console.WriteLine($"\n{kind.Name}: {students.Count} students");
            Print([.. rules, defaults]);
            if (kind.Slump > 0)
            {
                PrintSlump(students);
            }
        }
    }

    private static (List<Scored> Rules, Scored Defaults) WithDefaults(List<CohortStudent> students, bool passing = false) =>
        (
            [.. Rules.Select(rule => Score(rule.Name, students, student => Bands(student, rule.Judge)))],
            Score("engine, defaults", students, student => Engine(student, ReadinessConstants.Defaults, passing))
        );

    private static void Print(List<Scored> rows)
    {
        var best = rows.Where(row => !row.Name.StartsWith("engine", StringComparison.Ordinal)).Min(row => row.Rmse);
        Console.WriteLine("| | log score | Brier | RMSE to truth | of the best rule's | bias | coverage | width |");
        Console.WriteLine("|---|---|---|---|---|---|---|---|");
        foreach (var row in rows)
        {
            Console.WriteLine(
                $"| {row.Name} | {row.LogScore:0.000} | {row.Brier:0.000} | {row.Rmse:0.0000} | {row.Rmse / best:0.000} | {row.Bias:+0.000;-0.000} | {row.Coverage:0.00} | {row.Width:0.00} |"
            );
        }
    }

    // How much too high the chance stands so many coupons after the fall.
    private static void PrintSlump(List<CohortStudent> students)
    {
        var said = students.AsParallel().AsOrdered().Select(student => (student, said: Engine(student, ReadinessConstants.Defaults))).ToList();
        foreach (var after in new[] { 1, 3, 5, 8, 12 })
        {
            var of = said.Where(one => one.student.Falls + after <= one.said.Count)
                .Select(one => (Said: one.said[one.student.Falls + after - 1].Mean, Truth: one.student.Truth[one.student.Falls + after - 1]))
                .ToList();
            Console.WriteLine($"{after} coupons into the slump: said {of.Average(one => one.Said):0.00}, true {of.Average(one => one.Truth):0.00}");
        }
    }

    private static readonly (string[] Processes, string[] Positions) EightTests = (["SMAW", "GTAW", "FCAW-G", "GMAW"], ["5G", "6G"]);

    /// <summary>A school of 60 students on 8 tests each with 100 000 element observations: all of it from nothing, then one coupon more.</summary>
    public static void Speed()
    {
        const int Students = 60;
        var pipe = CohortMaker.Kinds.First(kind => kind.Elements.Length == 12);
        SkillTest[] tests =
        [
            .. from process in EightTests.Processes
            from position in EightTests.Positions
            let traits = new TestTraits(process, Product.Pipe, position, Progression.Uphill, process is "SMAW" or "GTAW")
            select new SkillTest($"{process} {position}", traits, pipe.Elements),
        ];
        var made = tests.Select((_, test) => CohortMaker.Make(pipe with { Coupons = 18, DrillShare = 0 }, 500 + test)).ToList();
        List<(SkillTest Test, CouponEvidence Coupon)> Of(int student) =>
            [
                .. tests.SelectMany(
                    (test, at) => made[at][student].History.Coupons.Select(coupon => (test, coupon with { Day = coupon.Day + (at * 100) }))
                ),
            ];
        var students = Enumerable.Range(0, Students).Select(Of).ToList();
        var observations = students.Sum(student => student.Sum(one => one.Coupon.Clean.Count));
        ReadinessState Judge(List<(SkillTest Test, CouponEvidence Coupon)> student)
        {
            var state = ReadinessState.New(ReadinessConstants.Defaults);
            student.ForEach(one => state.Fold(one.Test, one.Coupon));
            foreach (var test in tests)
            {
                state.On(test, 1000, new Bar(0.8, 0.6));
            }

            return state;
        }

        // The first time the program is still being compiled as it runs.
        var times = new List<double>();
        var watch = new System.Diagnostics.Stopwatch();
        for (var round = 0; round < 4; round++)
        {
            watch.Restart();
            Parallel.ForEach(students, student => Judge(student));
            times.Add(watch.Elapsed.TotalSeconds);
        }

        var kept = Judge(students[0]);
        var bytes = kept.ToBytes();
        watch.Restart();
        const int More = 20;
        for (var coupon = 0; coupon < More; coupon++)
        {
            kept.Fold(tests[^1], students[0][^1].Coupon with { Day = 1000 + coupon });
            kept.Now(tests[^1]);
        }

        Console.WriteLine(
            $"\n{Students} students x {tests.Length} tests, {observations:N0} observations: {times.Skip(1).Median():0.00} s from nothing (bar 6 s; {times[0]:0.00} s in a program that has just started); one coupon folded in and its chance {watch.Elapsed.TotalMilliseconds / More:0.0} ms (bar 10 ms); {bytes.Length / 1e6:0.0} MB kept a student; {GC.GetTotalMemory(true) / 1e6:0} MB held"
        );
    }

    private sealed record Said(double Mean, double Lower, double Upper);

    private static List<Said> Engine(CohortStudent student, ReadinessConstants constants, bool passing = false) =>
        [
            .. GrowthEngine
                .Evaluate(student.History.Test, student.History.Coupons, student.History.Coupons[^1].Day, constants)
                .Trace.Select(one => passing ? one.And(ReadinessState.New(constants).Inside(student.History.Test)) : one)
                .Select(one => new Said(one.Mean.Value, one.Lower.Value, one.Upper.Value)),
        ];

    private static readonly (string Name, Func<List<bool>, (double Clean, double Weight)> Judge)[] Rules =
    [
        ("share of the last 3", full => Share(full, 3)),
        ("share of the last 5", full => Share(full, 5)),
        ("share of the last 10", full => Share(full, 10)),
        ("decayed Beta, 0.9 a coupon", full => Decayed(full, 0.9)),
        ("decayed Beta, 0.8 a coupon", full => Decayed(full, 0.8)),
    ];

    private static (double, double) Share(List<bool> full, int last) => (full.TakeLast(last).Count(one => one), Math.Min(last, full.Count));

    private static (double, double) Decayed(List<bool> full, double kept)
    {
        var (clean, weight) = (1.0, 2.0);
        for (var index = 0; index < full.Count; index++)
        {
            var counts = Math.Pow(kept, full.Count - 1 - index);
            (clean, weight) = (clean + (full[index] ? counts : 0), weight + counts);
        }

        return (clean, weight);
    }

    private static List<Said> Bands(CohortStudent student, Func<List<bool>, (double Clean, double Weight)> judge)
    {
        var (full, said) = (new List<bool>(), new List<Said>());
        foreach (var coupon in student.History.Coupons)
        {
            if (coupon.Full)
            {
                full.Add(coupon.AllClean);
            }

            var (clean, weight) = full.Count == 0 ? (1, 2) : judge(full);
            var beta = new Beta(clean + 0.5, weight - clean + 0.5);
            said.Add(new Said(clean / weight, beta.InverseCumulativeDistribution(0.05), beta.InverseCumulativeDistribution(0.95)));
        }

        return said;
    }

    private static Scored Score(string name, List<CohortStudent> students, Func<CohortStudent, List<Said>> judge)
    {
        var judged = students.AsParallel().AsOrdered().Select(student => (student, said: judge(student))).ToList();
        var pairs = judged.SelectMany(one => one.said.Zip(one.student.Truth)).ToList();
        var next = judged
            .SelectMany(one => one.student.History.Coupons.Skip(1).Select((coupon, index) => (coupon, said: one.said[index])))
            .Where(one => one.coupon.Full && !one.coupon.Aided)
            .Select(one => (Chance: Math.Clamp(one.said.Mean, 0.01, 0.99), one.coupon.AllClean))
            .ToList();
        return new Scored(
            name,
            next.Average(one => Math.Log(one.AllClean ? one.Chance : 1 - one.Chance)),
            next.Average(one => Math.Pow(one.Chance - (one.AllClean ? 1 : 0), 2)),
            Math.Sqrt(pairs.Average(pair => Math.Pow(pair.First.Mean - pair.Second, 2))),
            pairs.Average(pair => pair.First.Mean - pair.Second),
            pairs.Average(pair => pair.Second >= pair.First.Lower && pair.Second <= pair.First.Upper ? 1.0 : 0),
            pairs.Average(pair => pair.First.Upper - pair.First.Lower)
        );
    }
}
