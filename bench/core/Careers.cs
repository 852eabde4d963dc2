using System.Text.Json;
using Gradus.Core.Learning;
using Gradus.Core.Readiness;
using Gradus.Core.Vocabulary;

namespace Gradus.Benchmarks;

/// <summary>Measures the readiness engine on students who go from test to test, with what earlier tests showed and without.</summary>
internal static class Careers
{
    // The constants were set on the seed 100; this one was looked at afterwards.
    private const int FirstSeed = 900;

    private static readonly (string Name, int From, int To)[] Stretches =
    [
        ("0", 0, 0),
        ("1 to 3", 1, 3),
        ("4 to 8", 4, 8),
        ("9 and more", 9, int.MaxValue),
    ];

    private sealed record Said(int Coupons, ChanceBand Chance, double Truth);

    // What the other tests tell of the asked one: nothing; what the student's hand is like, and no more (a filter for each test, which begins where a
    // filter of the student stands); or all parts that they share.
    private enum Lends
    {
        Nothing,
        Hand,
        Parts,
    }

    public static List<Career> Read(string file) =>
        [.. File.ReadLines(file).Where(line => line.Length > 0).Select(line => JsonSerializer.Deserialize<Career>(line, JsonSerializerOptions.Web)!)];

    /// <summary>True when a file holds careers, not histories of one test each.</summary>
    public static bool IsCareers(string file) =>
        JsonDocument.Parse(File.ReadLines(file).First(line => line.Length > 0)).RootElement.TryGetProperty("tests", out _);

    public static void Run(IEnumerable<string> files)
    {
        var made = CareerMaker.Makes.Select((make, index) => ($"careers, {make.Name}", CareerMaker.Make(make.Student, FirstSeed + index)));
        foreach (var (name, careers) in files.Select(file => (Path.GetFileNameWithoutExtension(file), Read(file))).Concat(made))
        {
            Console.WriteLine($"\n{name}: {careers.Count} students, {careers.Sum(career => career.Tests.Length)} tests begun");
            Console.WriteLine("| coupons on the test | | RMSE to truth | bias | coverage | width |");
            Console.WriteLine("|---|---|---|---|---|---|");
            var ways = Enum.GetValues<Lends>()
                .ToDictionary(way => way, way => careers.AsParallel().AsOrdered().SelectMany(one => Judge(one, way)).ToList());
            var noticed = Noticed(careers);
            foreach (var (stretch, from, to) in Stretches)
            {
                foreach (
                    var (way, how) in new[]
                    {
                        (Lends.Nothing, "each test alone"),
                        (Lends.Hand, "each test, begun from the hand"),
                        (Lends.Parts, "one student"),
                    }
                )
                {
                    var of = ways[way].Where(one => one.Coupons >= from && one.Coupons <= to).ToList();
                    Console.WriteLine(
                        $"| {stretch} | {how} | {Math.Sqrt(of.Average(one => Math.Pow(one.Chance.Mean.Value - one.Truth, 2))):0.000} | {of.Average(one => one.Chance.Mean.Value - one.Truth):+0.000;-0.000} | {of.Average(one => one.Truth >= one.Chance.Lower.Value && one.Truth <= one.Chance.Upper.Value ? 1.0 : 0):0.00} | {of.Average(one => one.Chance.Upper.Value - one.Chance.Lower.Value):0.00} |"
                    );
                }
            }

            Console.WriteLine($"Told of a slump, ever, of students who have none: {noticed:0.0 %} (at most 5 %)");
        }
    }

    /// <summary>Of how many students it is ever noticed that fewer come clean than foreseen, though nothing befell them.</summary>
    private static double Noticed(List<Career> careers) =>
        careers
            .AsParallel()
            .AsOrdered()
            .Average(career =>
            {
                var tests = career.Tests.ToDictionary(test => test.Id, ToTest);
                var state = ReadinessState.New(ReadinessConstants.Defaults);
                var seen = new List<(bool Clean, double Foreseen)>();
                var isNoticed = false;
                foreach (var coupon in career.Coupons)
                {
                    var (test, made) = (tests[coupon.Test], Evidence(coupon));
                    if (made is { Full: true, Aided: false })
                    {
                        seen.Add((made.AllClean, Math.Min(1, state.Now(test).Mean.Value / state.Inside(test).Mean.Value)));
                        isNoticed |= SlumpWatch.Since(seen) is not null;
                    }

                    state.Fold(test, made);
                }

                return isNoticed ? 1.0 : 0;
            });

    /// <summary>A career as the engine takes it, test by test.</summary>
    public static List<TestHistory> Histories(Career career) =>
        [.. career.Tests.Select(test => new TestHistory(ToTest(test), [.. career.Coupons.Where(coupon => coupon.Test == test.Id).Select(Evidence)]))];

    /// <summary>A test as the engine takes it.</summary>
    public static SkillTest ToTest(CareerTest test) =>
        new(
            test.Id,
            new TestTraits(
                test.Process,
                Enum.Parse<Product>(test.Product, ignoreCase: true),
                test.Position,
                Enum.Parse<Progression>(test.Progression, ignoreCase: true),
                test.OpenRoot
            ),
            test.Elements
        );

    private static CouponEvidence Evidence(CareerCoupon coupon) =>
        new(coupon.Day, coupon.Kind == "full", coupon.Aided, coupon.Elements.Zip(coupon.Clean).ToDictionary(one => one.First, one => one.Second));

    /// <summary>What is said of each test before its first coupon and right after each.</summary>
    private static IEnumerable<Said> Judge(Career career, Lends lends)
    {
        var histories = Histories(career);
        foreach (var (at, own) in histories.Index())
        {
            var first = own.Coupons[0].Day;
            var earlier = histories
                .Where(other => other != own && lends != Lends.Nothing)
                .Select(other => lends == Lends.Hand ? other with { Test = other.Test with { Traits = null } } : other)
                .ToList();
            yield return new Said(
                0,
                GrowthEngine
                    .Evaluate(
                        own.Test,
                        [],
                        first,
                        ReadinessConstants.Defaults,
                        withTrace: false,
                        [.. earlier.Select(other => other with { Coupons = [.. other.Coupons.Where(coupon => coupon.Day < first)] })]
                    )
                    .Whole,
                career.Tests[at].TruthFirst
            );
            var trace = GrowthEngine.Evaluate(own.Test, own.Coupons, own.Coupons[^1].Day, ReadinessConstants.Defaults, earlier: earlier).Trace;
            var truths = career.Coupons.Where(coupon => coupon.Test == own.Test.Id).Select(coupon => coupon.Truth);
            foreach (var (index, (said, truth)) in trace.Zip(truths).Index())
            {
                yield return new Said(index + 1, said, truth);
            }
        }
    }
}
