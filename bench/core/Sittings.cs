using Gradus.Core.Measure;
using Gradus.Core.Readiness;
using Gradus.Core.Vocabulary;
using MathNet.Numerics.Distributions;

namespace Gradus.Benchmarks;

/// <summary>
/// What it costs until a test is passed when students sit by the advice, by the bar alone, by counting, and by cost alone: the same simulated
/// students, whose truth is known, with hidden faults and a day of the sitting.
/// </summary>
internal static class Sittings
{
    private const int Students = 60;
    private const int Seed = 4_200;
    private const int CutEvery = 4;
    private const int MostCoupons = 40;
    private const int MostSittings = 12;
    private const double HandShare = 0.8;
    private const int HandLast = 8;

    private static readonly TestPolicy Policy = TestPolicy.Defaults;

    /// <summary>A way to say when to sit.</summary>
    /// <param name="Sits">From the student's record on the test whether to sit now.</param>
    private sealed record Rule(string Name, Func<Record, bool> Sits);

    private static readonly Rule[] Rules =
    [
        new("the advice, by the chance", record => Advice(record, ReadinessSchool.Probability).Kind == Advised.TestNow),
        new(
            "the bar alone (80 %, lower end 60 %)",
            record => record.Passing is { } now && now.Mean.Value >= Policy.BarMean && now.Lower.Value >= Policy.BarLower
        ),
        new("the advice, by cost", record => Advice(record, ReadinessSchool.Cost).Kind == Advised.TestNow),
        new("cost alone, without the gates", record => record.Made.Count > 0 && IsCheapest(record)),
        new("3 clean in a row", record => record.Run() >= 3),
        new("5 clean in a row", record => record.Run() >= 5),
        new(
            "7 of the last 8 clean, by hand",
            record => record.Made.Count >= HandLast && record.Made.TakeLast(HandLast).Average(one => one.Clean ? 1.0 : 0) >= HandShare
        ),
    ];

    /// <summary>What was seen of a student on one test.</summary>
    private sealed class Record(ReadinessState state, SkillTest test)
    {
        private Standing? standing;
        public double Day { get; set; }
        public List<RecentCoupon> Made { get; } = [];
        public int Full { get; private set; }
        public SatBefore? Sat { get; private set; }
        public SkillTest Test => test;

        public Standing Standing => standing ??= state.On(test, Day, Bar.Of(Policy));
        public ChanceBand? Passing => Made.Count == 0 ? null : standing?.Passing ?? state.Passing(test, Day);

        /// <summary>Clean ones up to now; a failed sitting ends a run.</summary>
        public int Run() => Made.AsEnumerable().Reverse().TakeWhile(one => one.Clean && (Sat is null || one.At >= Sat.From)).Count();

        public void See(CouponEvidence coupon)
        {
            state.Fold(test, coupon);
            standing = null;
            Full++;
            var cut = coupon.Inside is not null;
            Made.Add(new RecentCoupon(At(coupon.Day), true, coupon.AllClean, cut ? 1 : 0, coupon.Inside == false ? 1 : 0, true, []));
        }

        public void Sitting(bool passed)
        {
            state.Fold(test, new CouponEvidence(Day, true, false, new Dictionary<string, bool>(), SittingPassed: passed));
            standing = null;
            Sat = new SatBefore(DateOnly.FromDateTime(At(Day).UtcDateTime), passed, "", At(Day).AddMinutes(1));
        }

        public static DateTimeOffset At(double day) => new DateTimeOffset(2030, 1, 1, 8, 0, 0, TimeSpan.Zero).AddDays(day);
    }

    private sealed record Outcome(int Tests, int Sittings, int FirstPassed, int Coupons, double Cost);

    public static void Run()
    {
        Console.WriteLine();
        Console.WriteLine(
            $"Sitting by the advice and by its rivals: {Students} students of each make on all tests of their way; a sitting {Policy.SittingCost}, a coupon {Policy.CouponCost}, cutting one {Policy.CutCost}, the wait after a failure {Policy.RetestWaitCost}; each {CutEvery}th that is clean is cut open"
        );
        foreach (var (name, make) in CareerMaker.Makes)
        {
            Console.WriteLine($"\n{name}");
            Console.WriteLine("| sit by | passed at first | failed sittings per pass | coupons per pass | cost per pass |");
            Console.WriteLine("|---|---|---|---|---|");
            foreach (var rule in Rules)
            {
                var all = Enumerable.Range(0, Students).AsParallel().AsOrdered().Select(index => Walk(rule, make, index)).ToList();
                var tests = (double)all.Sum(one => one.Tests);
                Console.WriteLine(
                    $"| {rule.Name} | {all.Sum(one => one.FirstPassed) / tests:0 %} | {(all.Sum(one => one.Sittings) - tests) / tests:0.00} | {all.Sum(one => one.Coupons) / tests:0.0} | {all.Sum(one => one.Cost) / tests:0} |"
                );
            }
        }
    }

    private static bool IsCheapest(Record record) => SittingCosts.Of(Policy, record.Standing).Steps[0].Step == SittingStep.Sit;

    private static Advice Advice(Record record, ReadinessSchool school) =>
        DecisionAdvice.Of(
            Policy with
            {
                School = school,
            },
            record.Test,
            record.Standing,
            RecentCoupon.Facts(record.Made, record.Full, Policy, Record.At(record.Day), canJudge: true, safetySigned: true, record.Sat)
        );

    /// <summary>A student goes all the way, each test until it is passed.</summary>
    private static Outcome Walk(Rule rule, Func<Random, ICareerStudent> make, int index)
    {
        // What the student is, and what comes of each coupon, are drawn apart: by every rule the same students.
        var (born, luck) = (new Random(Seed + index), new Random(Seed + 1_000 + index));
        var student = make(born);
        var hidden = new Hidden(born);
        var state = ReadinessState.New(ReadinessConstants.Defaults);
        var (day, tests, sittings, first, coupons, cost) = (0.0, 0, 0, 0, 0, 0.0);
        foreach (var test in CareerMaker.WayOf(index))
        {
            var record = new Record(state, Careers.ToTest(test)) { Day = day };
            var (passed, sat, made, cleanSeen) = (false, 0, 0, 0);
            while (!passed && sat < MostSittings)
            {
                if (record.Made.Count > 0 && (made >= MostCoupons || rule.Sits(record)))
                {
                    var (isClean, _) = Weld(student, test, luck);
                    passed = isClean && hidden.IsSound(test, luck);
                    student.Practise(test, test.Elements);
                    record.Sitting(passed);
                    (sat, cost) = (sat + 1, cost + Policy.SittingCost + (passed ? 0 : Policy.RetestWaitCost));
                    first += passed && sat == 1 ? 1 : 0;
                    if (!passed)
                    {
                        hidden.Found(test, luck);
                        made = Math.Min(made, MostCoupons - 2); // whoever has practised long sits again after two more
                    }
                }
                else
                {
                    var (isClean, clean) = Weld(student, test, luck);
                    cleanSeen += isClean ? 1 : 0;
                    bool? inside = isClean && cleanSeen % CutEvery == 0 ? hidden.IsSound(test, luck) : null;
                    student.Practise(test, test.Elements);
                    record.See(new CouponEvidence(day, true, false, clean, inside));
                    if (inside == false)
                    {
                        hidden.Found(test, luck);
                    }

                    (made, coupons, cost) = (made + 1, coupons + 1, cost + Policy.CouponCost + (inside is null ? 0 : Policy.CutCost));
                }

                student.Rest(2);
                record.Day = day += 2;
            }

            (tests, sittings) = (tests + 1, sittings + sat);
        }

        return new Outcome(tests, sittings, first, coupons, cost);
    }

    private static (bool IsClean, Dictionary<string, bool> Seen) Weld(ICareerStudent student, CareerTest test, Random luck)
    {
        var today = Normal.Sample(luck, 0, student.DaySpread);
        var truly = test.Elements.ToDictionary(element => element, element => luck.NextDouble() < student.Clean(test, element, today, aided: false));
        var seen = truly.ToDictionary(one => one.Key, one => one.Value ^ (luck.NextDouble() < student.Misread));
        return (truly.Values.All(clean => clean), seen);
    }

    /// <summary>A habit that nobody sees by eye, with some, by process and kind of root; whoever is shown what it did often loses it.</summary>
    private sealed class Hidden(Random born)
    {
        private const double HasOne = 0.25;
        private const double SoundWith = 0.65;
        private const double SoundWithout = 0.97;
        private const double Learns = 0.5;
        private readonly Dictionary<string, bool> habits = [];

        public bool IsSound(CareerTest test, Random luck) => luck.NextDouble() < (Has(test) ? SoundWith : SoundWithout);

        public void Found(CareerTest test, Random luck)
        {
            if (luck.NextDouble() < Learns)
            {
                habits[KeyOf(test)] = false;
            }
        }

        private bool Has(CareerTest test)
        {
            if (!habits.TryGetValue(KeyOf(test), out var has))
            {
                habits[KeyOf(test)] = has = born.NextDouble() < HasOne;
            }

            return has;
        }

        private static string KeyOf(CareerTest test) => $"{test.Process} {test.OpenRoot}";
    }
}
