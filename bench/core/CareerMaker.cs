using MathNet.Numerics.Distributions;

namespace Gradus.Benchmarks;

/// <summary>One test on the way of a simulated student, as the contract names its traits.</summary>
internal sealed record CareerTest(
    string Id,
    string Process,
    string Product,
    string Position,
    string Progression,
    bool OpenRoot,
    string[] Elements,
    double TruthFirst
);

/// <summary>One coupon on that way, with the true chance of a clean full coupon of its test right after it.</summary>
internal sealed record CareerCoupon(string Test, double Day, string Kind, bool Aided, string[] Elements, bool[] Clean, double Truth);

/// <summary>A simulated student who goes from test to test.</summary>
internal sealed record Career(string Student, CareerTest[] Tests, CareerCoupon[] Coupons);

/// <summary>How a simulated student learns: of another make than the engine's model on purpose.</summary>
internal interface ICareerStudent
{
    /// <summary>The chance that an element comes clean, on a day that is so much better (over 0) or worse than others.</summary>
    double Clean(CareerTest test, string element, double day, bool aided);

    void Practise(CareerTest test, IReadOnlyList<string> elements);

    void Rest(double days);

    /// <summary>How far good and bad days go.</summary>
    double DaySpread { get; }

    /// <summary>Share of the elements whose result is read the wrong way round.</summary>
    double Misread { get; }
}

/// <summary>Makes careers whose truth is known: students who go from test to test, of three makes.</summary>
internal static class CareerMaker
{
    private const int Students = 60;
    private const int Least = 5;
    private const int Most = 14;
    private static readonly string[] Plate = ["root/all", "fill/all", "cap/all"];
    private static readonly string[] Open = ["root/all", "hot/all", "fill/all", "cap/all"];
    private static readonly string[] Pipe =
    [
        .. new[] { "root", "hot", "fill", "cap" }.SelectMany(stage => new[] { "bottom", "side", "top" }.Select(zone => $"{stage}/{zone}")),
    ];

    private static readonly CareerTest[][] Ways =
    [
        [
            Of("A1", "SMAW", "plate", "2G", false),
            Of("A2", "SMAW", "plate", "3G", false),
            Of("A3", "SMAW", "plate", "4G", false),
            Fixed("A4", "SMAW", "5G"),
        ],
        [Of("A2", "SMAW", "plate", "3G", false), Of("B2", "SMAW", "plate", "3G", true), Fixed("A4", "SMAW", "5G"), Fixed("A5", "SMAW", "6G")],
        [Of("C1", "GMAW", "plate", "3G", false, "downhill"), Of("C2", "FCAW-G", "plate", "3G", false), Of("C3", "FCAW-G", "plate", "4G", false)],
        [Of("D1", "GTAW", "plate", "3G", true), Of("D2", "GTAW", "pipe", "2G", true), Fixed("D3", "GTAW", "6G")],
        [
            Of("A1", "SMAW", "plate", "2G", false),
            Of("B2", "SMAW", "plate", "3G", true),
            Of("D1", "GTAW", "plate", "3G", true),
            Fixed("D4", "GTAW", "5G"),
        ],
    ];

    public static IReadOnlyList<(string Name, Func<Random, ICareerStudent> Student)> Makes { get; } =
    [
        ("alike practice counts, without end", random => new KernelStudent(random)),
        ("faults that are unlearned one by one", random => new HazardStudent(random)),
        ("leaps, and results read wrongly", random => new LeapStudent(random)),
    ];

    /// <summary>The tests that the student of a number goes through.</summary>
    public static IReadOnlyList<CareerTest> WayOf(int index) => Ways[index % Ways.Length];

    public static List<Career> Make(Func<Random, ICareerStudent> make, int seed)
    {
        var random = new Random(seed);
        return [.. Enumerable.Range(0, Students).Select(index => One($"s{index:000}", Ways[index % Ways.Length], make(random), random))];
    }

    private static Career One(string name, CareerTest[] way, ICareerStudent student, Random random)
    {
        var day = 0.0;
        var tests = new List<CareerTest>();
        var coupons = new List<CareerCoupon>();
        foreach (var test in way)
        {
            tests.Add(test with { TruthFirst = Truth(student, test) });
            var stages = test.Elements.Select(element => element.Split('/')[0]).Distinct().ToArray();
            var count = random.Next(Least, Most + 1);
            for (var coupon = 0; coupon < count; coupon++)
            {
                var stage = random.NextDouble() < 0.2 ? stages[random.Next(stages.Length)] : null;
                var worked = test.Elements.Where(element => stage is null || element.Split('/')[0] == stage).ToArray();
                var aided = random.NextDouble() < 0.1;
                var today = Normal.Sample(random, 0, student.DaySpread);
                bool[] clean =
                [
                    .. worked.Select(element =>
                        random.NextDouble() < student.Clean(test, element, today, aided) ^ random.NextDouble() < student.Misread
                    ),
                ];
                student.Practise(test, worked);
                coupons.Add(new CareerCoupon(test.Id, day, stage is null ? "full" : "drill", aided, worked, clean, Truth(student, test)));
                var off = random.NextDouble() < 0.03 ? 20 + (40 * random.NextDouble()) : 1 + random.Next(4);
                student.Rest(off);
                day += off;
            }
        }

        return new Career(name, [.. tests], [.. coupons]);
    }

    private static double Truth(ICareerStudent student, CareerTest test)
    {
        const int Steps = 41;
        return Enumerable
            .Range(0, Steps)
            .Select(step => Normal.InvCDF(0, student.DaySpread, (step + 0.5) / Steps))
            .Average(day => test.Elements.Aggregate(1.0, (all, element) => all * student.Clean(test, element, day, false)));
    }

    /// <summary>Where the pull of the earth leaves the puddle: what a zone of fixed pipe has in common with a plate in position.</summary>
    public static string Gravity(CareerTest test, string element) =>
        element.Split('/')[1] switch
        {
            "bottom" => "overhead",
            "side" => "vertical",
            "top" => "flat",
            _ => test.Position switch
            {
                "1G" => "flat",
                "2G" => "horizontal",
                "4G" => "overhead",
                _ => test.Progression,
            },
        };

    private static CareerTest Of(string id, string process, string product, string position, bool open, string progression = "uphill") =>
        new(id, process, product, position, progression, open, open ? Open : Plate, 0);

    private static CareerTest Fixed(string id, string process, string position) => new(id, process, "pipe", position, "uphill", true, Pipe, 0);
}

/// <summary>Every element that was ever practised counts for every other, the more the more alike they are; a power law, without an end.</summary>
internal sealed class KernelStudent : ICareerStudent
{
    private readonly List<(CareerTest Test, string Element, double Weight)> practised = [];
    private readonly Dictionary<string, double> quirks = [];
    private readonly Random random;
    private readonly double talent;
    private readonly double rate;

    public KernelStudent(Random random)
    {
        this.random = random;
        talent = Normal.Sample(random, 0.1, 0.6);
        rate = 1.05 * Math.Exp(Normal.Sample(random, 0, 0.3));
    }

    public double DaySpread => 0.55;
    public double Misread => 0;

    public double Clean(CareerTest test, string element, double day, bool aided)
    {
        var practice = practised.Sum(one => one.Weight * Alike(test, element, one.Test, one.Element));
        var hard = (Stage(element) == "root" ? (test.OpenRoot ? 0.7 : 0.3) : 0) + (Stage(element) == "cap" ? 0.3 : 0);
        return 1 / (1 + Math.Exp(-(talent - hard + Quirk(test, element) + (rate * Math.Log(1 + practice)) + day + (aided ? 0.6 : 0))));
    }

    public void Practise(CareerTest test, IReadOnlyList<string> elements) => practised.AddRange(elements.Select(element => (test, element, 1.0)));

    public void Rest(double days)
    {
        for (var index = 0; index < practised.Count && days > 14; index++)
        {
            practised[index] = practised[index] with { Weight = practised[index].Weight * 0.75 };
        }
    }

    private static string Stage(string element) => element.Split('/')[0];

    private static double Alike(CareerTest test, string element, CareerTest other, string otherElement) =>
        (test.Id == other.Id ? 1 : 0.5)
        * (test.Process == other.Process ? 1 : 0.4)
        * (Stage(element) == Stage(otherElement) ? 1 : 0.3)
        * (Stage(element) == "root" && test.OpenRoot != other.OpenRoot ? 0.5 : 1)
        * (CareerMaker.Gravity(test, element) == CareerMaker.Gravity(other, otherElement) ? 1 : 0.6)
        * (test.Product == other.Product ? 1 : 0.8);

    private double Quirk(CareerTest test, string element)
    {
        var key = $"{test.Id} {element}";
        if (!quirks.TryGetValue(key, out var quirk))
        {
            quirks[key] = quirk = Normal.Sample(random, 0, 0.45);
        }

        return quirk;
    }
}

/// <summary>An element is clean when none of its causes of faults strikes; each cause is unlearned by itself, quick students faster; a third of a ring is a third of the danger.</summary>
internal sealed class HazardStudent : ICareerStudent
{
    private readonly Dictionary<string, double> left = [];
    private readonly Random random;
    private readonly bool isQuick;
    private readonly double care;

    public HazardStudent(Random random)
    {
        this.random = random;
        isQuick = random.NextDouble() < 0.4;
        care = Math.Exp(Normal.Sample(random, 0, 0.45));
    }

    public double DaySpread => 0.5;
    public double Misread => 0.005;

    public double Clean(CareerTest test, string element, double day, bool aided)
    {
        var length = element.EndsWith("/all", StringComparison.Ordinal) ? 1 : 0.45;
        return Math.Exp(-care * Causes(test, element).Sum(one => one.Danger * Left(one.Cause)) * length * Math.Exp(-day - (aided ? 0.5 : 0)));
    }

    public void Practise(CareerTest test, IReadOnlyList<string> elements)
    {
        foreach (var cause in elements.SelectMany(element => Causes(test, element)).GroupBy(one => one.Cause, one => one.Danger))
        {
            var kept = isQuick ? 0.7 : 0.82;
            left[cause.Key] = Left(cause.Key) * Math.Pow(kept, (double)cause.Count() / elements.Count);
        }
    }

    public void Rest(double days)
    {
        foreach (var cause in left.Keys.ToList())
        {
            left[cause] = Math.Min(1.2, left[cause] * (1 + (0.002 * days)));
        }
    }

    private static (string Cause, double Danger)[] Causes(CareerTest test, string element)
    {
        var stage = element.Split('/')[0];
        var root = stage == "root" ? (test.OpenRoot ? "open root" : "backed root") : stage;
        return
        [
            ("arc length", 0.15),
            ("settings", 0.07),
            ($"hand of {test.Process}", 0.2),
            ($"{root} with {test.Process}", 0.15),
            ($"{root}", root == "open root" ? 0.2 : 0.08),
            ($"{CareerMaker.Gravity(test, element)}", 0.12),
            ($"standing at {test.Id}", 0.1),
        ];
    }

    private double Left(string cause)
    {
        if (!left.TryGetValue(cause, out var now))
        {
            left[cause] = now = Math.Exp(Normal.Sample(random, -0.1, 0.4));
        }

        return now;
    }
}

/// <summary>Skills stand still for long and leap; a new process sets back; some students are far from the others; results are misread now and then.</summary>
internal sealed class LeapStudent : ICareerStudent
{
    private readonly Dictionary<string, double> skills = [];
    private readonly Random random;
    private readonly double leap;
    private readonly double talent;

    public LeapStudent(Random random)
    {
        this.random = random;
        leap = 0.14 * Math.Exp(Normal.Sample(random, 0, 0.4));
        talent = StudentT.Sample(random, -0.1, 0.5, 4);
    }

    public double DaySpread => 0.45;
    public double Misread => 0.015;

    public double Clean(CareerTest test, string element, double day, bool aided) =>
        1 / (1 + Math.Exp(-(talent + Skills(test, element).Sum(Skill) + day + (aided ? 0.5 : 0))));

    public void Practise(CareerTest test, IReadOnlyList<string> elements)
    {
        foreach (var skill in elements.SelectMany(element => Skills(test, element)).Distinct().Order(StringComparer.Ordinal))
        {
            var most = skill == "all" ? 1.6 : 1.1;
            if (random.NextDouble() < leap)
            {
                skills[skill] = Skill(skill) + (0.6 * Math.Max(0, most - Skill(skill)));
            }
        }
    }

    public void Rest(double days)
    {
        foreach (var skill in skills.Keys.ToList())
        {
            skills[skill] *= Math.Exp(-days / 400);
        }
    }

    private static string[] Skills(CareerTest test, string element)
    {
        var stage = element.Split('/')[0];
        return
        [
            "all",
            test.Process,
            $"{stage} {(stage == "root" && test.OpenRoot ? "open" : "")} {test.Process}",
            CareerMaker.Gravity(test, element),
            $"{test.Id} {stage}",
        ];
    }

    private double Skill(string skill)
    {
        if (!skills.TryGetValue(skill, out var now))
        {
            skills[skill] = now = Normal.Sample(random, 0, 0.3);
        }

        return now;
    }
}
