using Gradus.Core.Readiness;
using MathNet.Numerics.Distributions;

namespace Gradus.Benchmarks;

/// <summary>How a simulated school's students learn and come to practise. Of another make than the engine's model on purpose.</summary>
/// <param name="LeapChance">Chance that a coupon brings a sudden insight.</param>
/// <param name="BreakChance">Chance of three to ten weeks off after a coupon.</param>
/// <param name="FatTails">True when students differ by a heavy-tailed distribution instead of a normal one.</param>
/// <param name="Spoilt">By how much, in log-odds, a bad fit-up makes all that is welded on it worse.</param>
/// <param name="Pulled">By how much a lost root makes the stages on it worse.</param>
/// <param name="Slump">By how much a student falls behind at a moment between a third and two thirds of the way; half of it comes back in time.</param>
/// <param name="Misread">Share of the elements whose result is read the wrong way round.</param>
/// <param name="Hidden">True when there are faults inside that nobody looks for: the truth is that of passing everything.</param>
internal sealed record SchoolKind(
    string Name,
    string[] Elements,
    int Coupons,
    double LeapChance = 0,
    double BreakChance = 0,
    double AidedShare = 0,
    double DrillShare = 0,
    bool FatTails = false,
    double Spoilt = 0,
    double Pulled = 0,
    double Slump = 0,
    double Misread = 0,
    bool Hidden = false
);

/// <summary>Makes cohorts of students whose truth is known: each element follows a power law of practice, with leaps, breaks and moods that last.</summary>
internal static class CohortMaker
{
    private const int Students = 60;
    private static readonly string[] Plate = ["root", "hot", "fill", "cap"];
    private static readonly string[] Pipe = [.. Plate.SelectMany(stage => new[] { "bottom", "side", "top" }.Select(zone => $"{stage}/{zone}"))];

    public static IReadOnlyList<SchoolKind> Kinds { get; } =
    [
        new("plate, sparse", Plate, 15),
        new("plate, leaps and plateaus", Plate, 40, LeapChance: 0.05),
        new("pipe, drills and aided coupons", Pipe, 40, AidedShare: 0.3, DrillShare: 0.3),
        new("pipe, long breaks", Pipe, 30, BreakChance: 0.08, FatTails: true),
        new("root and cap only", ["root", "cap"], 30, FatTails: true),
    ];

    /// <summary>Cohorts in which something goes on that the model does not have, or has another way.</summary>
    public static IReadOnlyList<SchoolKind> Adversaries { get; } =
    [
        new("a bad fit-up spoils all", ["fitUp/all", .. Plate.Select(stage => stage + "/all")], 30, Spoilt: 1.5),
        new("a lost root pulls down what is on it", Plate, 30, Pulled: 1.2),
        new("a slump", Plate, 40, Slump: 1.6),
        new("results misread", Pipe, 40, Misread: 0.03),
        new("seen by eye only", Plate, 30, Hidden: true),
    ];

    public static List<CohortStudent> Make(SchoolKind kind, int seed)
    {
        var random = new Random(seed);
        return [.. Enumerable.Range(0, Students).Select(_ => Student(kind, random))];
    }

    private static CohortStudent Student(SchoolKind kind, Random random)
    {
        var normal = new Normal(0, 1, random);
        var tails = new StudentT(0, 0.8, 4, random);
        double Differ(double spread) => spread * (kind.FatTails ? tails.Sample() : normal.Sample());
        var ease = 2.0 + Math.Log(kind.Elements.Length / 4.0);
        var talent = Differ(0.6);
        var start = kind.Elements.Select(name => ease - Hardness(name) + talent + Differ(0.6)).ToArray();
        var rate = Math.Exp(Differ(0.4)) * 0.75;
        var (mood, leaps, days) = (0.0, 0.0, 0.0);
        var sound = kind.Hidden ? Beta.Sample(random, 8, 1.2) : 1;
        var (falls, fallen) = (kind.Slump > 0 ? random.Next(kind.Coupons / 3, kind.Coupons * 2 / 3) : -1, 0.0);
        var practised = new double[kind.Elements.Length];
        var coupons = new List<CouponEvidence>();
        var truths = new List<double>();
        for (var coupon = 0; coupon < kind.Coupons; coupon++)
        {
            var stages = kind.Elements.Select(name => name.Split('/')[0]).Distinct().ToArray();
            var drill = random.NextDouble() < kind.DrillShare ? stages[random.Next(stages.Length)] : null;
            var aided = random.NextDouble() < kind.AidedShare;
            var at = Enumerable.Range(0, kind.Elements.Length).Where(e => drill is null || kind.Elements[e].Split('/')[0] == drill).ToArray();
            mood = (0.4 * mood) + (0.5 * normal.Sample());
            fallen = coupon == falls ? kind.Slump : Math.Max(fallen - (kind.Slump / 30), Math.Min(fallen, kind.Slump / 2));
            double Odds(int e) => start[e] + leaps - fallen + (rate * Math.Log(1 + practised[e]));
            var clean = new Dictionary<string, bool>();
            foreach (var e in at)
            {
                // A bad fit-up and a lost root are there before what comes on them; how it is read is another matter.
                var worse = Worse(kind, stages, kind.Elements[e], name => !clean[name]);
                clean[kind.Elements[e]] = random.NextDouble() < Share(Odds(e) + mood - worse + (aided ? 0.6 : 0));
            }

            coupons.Add(
                new CouponEvidence(
                    days,
                    drill is null,
                    aided,
                    kind.Misread == 0 ? clean : clean.ToDictionary(one => one.Key, one => one.Value ^ random.NextDouble() < kind.Misread)
                )
            );
            foreach (var e in at)
            {
                practised[e] += 1;
            }

            leaps += random.NextDouble() < kind.LeapChance ? 0.8 : 0;
            truths.Add(sound * Truth(Odds, kind.Elements.Length, 0.5 / Math.Sqrt(1 - 0.16)));
            var off = random.NextDouble() < kind.BreakChance ? 21 + (49 * random.NextDouble()) : 1 + random.Next(5);
            for (var e = 0; e < practised.Length; e++)
            {
                practised[e] *= off > 14 ? 0.6 : 1;
            }

            days += off;
        }

        return new CohortStudent(new TestHistory(new SkillTest("asked", null, kind.Elements), coupons), truths, falls);
    }

    private static double Worse(SchoolKind kind, string[] stages, string element, Func<string, bool> isRejected)
    {
        var stage = element.Split('/')[0];
        var isOnFitUp = kind.Spoilt > 0 && stage != "fitUp" && isRejected("fitUp/all");
        var isOnRoot = kind.Pulled > 0 && stage != stages[0] && isRejected(kind.Elements[0]);
        return (isOnFitUp ? kind.Spoilt : 0) + (isOnRoot ? kind.Pulled : 0);
    }

    private static double Hardness(string name) =>
        (
            name.StartsWith("fitUp", StringComparison.Ordinal) ? -0.5
            : name.StartsWith("root", StringComparison.Ordinal) ? 0.8
            : name.StartsWith("cap", StringComparison.Ordinal) ? 0.5
            : 0
        ) + (name.EndsWith("bottom", StringComparison.Ordinal) ? 0.5 : 0);

    private static double Share(double odds) => 1 / (1 + Math.Exp(-odds));

    /// <summary>The chance that all elements are clean on a day like any other: over 41 even steps of the mood.</summary>
    private static double Truth(Func<int, double> odds, int elements, double spread)
    {
        const int Steps = 41;
        return Enumerable
            .Range(0, Steps)
            .Select(step => Normal.InvCDF(0, spread, (step + 0.5) / Steps))
            .Average(mood => Enumerable.Range(0, elements).Aggregate(1.0, (all, e) => all * Share(odds(e) + mood)));
    }
}
