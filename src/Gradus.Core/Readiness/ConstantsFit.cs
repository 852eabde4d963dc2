using MathNet.Numerics.LinearAlgebra;
using MathNet.Numerics.Optimization;
using MathNet.Numerics.Statistics;

namespace Gradus.Core.Readiness;

/// <summary>A student's history: what he or she made on each test.</summary>
public sealed record StudentHistory(IReadOnlyList<TestHistory> Tests)
{
    /// <summary>How many coupons there are in it.</summary>
    public int Coupons => Tests.Sum(test => test.Coupons.Count);
}

/// <summary>Constants as they were fitted on a school's own history, and how they score on students that they were not fitted on.</summary>
/// <param name="Constants">The fitted ones when they scored better, else those that were there before.</param>
/// <param name="ScoreBefore">Mean one-step-ahead log score of a coupon before, on the students held out.</param>
/// <param name="ScoreAfter">The same with the fitted ones.</param>
public sealed record FittedConstants(ReadinessConstants Constants, double ScoreBefore, double ScoreAfter, bool Adopted);

/// <summary>Fits the constants of the growth model by the one-step-ahead log score.</summary>
public static class ConstantsFit
{
    private const double Penalty = 0.5; // of a standard unit away from where the fit began, squared
    private const int MostIterations = 12;
    private const double Step = 1e-3;
    private const int Hypotheses = 8;
    private const double Errors = 2;
    private const double Steepness = 100;

    private sealed record Free(
        string Name,
        double Scale,
        Func<ReadinessConstants, double> Get,
        Func<ReadinessConstants, double, ReadinessConstants> Set
    );

    // What is fitted, each on a scale without bounds, and how far a standard unit of prior doubt goes on it.
    private static readonly Free[] Parameters =
    [
        new("start", 0.7, c => Logit(c.StartChance), (c, x) => c with { StartChance = Logistic(x) }),
        new("general", 0.4, c => Math.Log(c.General.Spread), (c, x) => c with { General = c.General with { Spread = Math.Exp(x) } }),
        new("stage", 0.5, c => Math.Log(c.Stage.Spread), (c, x) => c with { Stage = c.Stage with { Spread = Math.Exp(x) } }),
        new("gravity", 0.5, c => Math.Log(c.Gravity.Spread), (c, x) => c with { Gravity = c.Gravity with { Spread = Math.Exp(x) } }),
        new("own", 0.5, c => Math.Log(c.Own.Spread), (c, x) => c with { Own = c.Own with { Spread = Math.Exp(x) } }),
        new("gain", 0.8, c => c.General.Gain, (c, x) => c with { General = c.General with { Gain = x } }),
        new("ownGain", 0.6, c => c.Own.Gain, (c, x) => c with { Own = c.Own with { Gain = x } }),
        new("gainSpread", 0.4, c => Math.Log(c.General.GainSpread), (c, x) => c with { General = c.General with { GainSpread = Math.Exp(x) } }),
        new("gainWithStart", 0.4, c => Math.Atanh(c.GainWithStart), (c, x) => c with { GainWithStart = Math.Tanh(x) * 0.95 }),
        new("pace", 0.6, c => Math.Log(c.PaceCoupons), (c, x) => c with { PaceCoupons = Math.Exp(x) }),
        new("paceSpread", 0.4, c => Math.Log(c.PaceSpread), (c, x) => c with { PaceSpread = Math.Exp(x) }),
        new("day", 0.4, c => Math.Log(c.DaySpread), (c, x) => c with { DaySpread = Math.Exp(x) }),
        new("wander", 0.7, c => Math.Log(c.WanderPerCoupon), (c, x) => c with { WanderPerCoupon = Math.Exp(x) }),
        new("wanderDay", 0.7, c => Math.Log(c.WanderPerDay), (c, x) => c with { WanderPerDay = Math.Exp(x) }),
        new("forget", 0.7, c => Math.Log(c.ForgetDays), (c, x) => c with { ForgetDays = Math.Exp(x) }),
        new("misread", 0.7, c => Math.Log(c.Misread), (c, x) => c with { Misread = Math.Min(ReadinessConstants.MostMisread, Math.Exp(x)) }),
    ];

    /// <summary>
    /// Fits on every other student and scores on the rest; when the fitted constants score better there by more than chance would have it, fits once
    /// more on all of them and adopts.
    /// </summary>
    public static FittedConstants Fit(IReadOnlyList<StudentHistory> students, ReadinessConstants before, CancellationToken cancel = default)
    {
        List<StudentHistory> Every(int remainder) => [.. students.Where((_, index) => index % 2 == remainder)];
        var held = Every(1);
        var half = Best(Every(0), before, cancel);
        var (old, fitted) = (Scores(held, before, cancel), Scores(held, half, cancel));
        var coupons = Math.Max(1, held.Sum(student => student.Coupons));
        var (scoreBefore, scoreAfter) = (old.Sum() / coupons, fitted.Sum() / coupons);
        return IsClearlyBetter([.. fitted.Zip(old, (after, earlier) => after - earlier)])
            ? new FittedConstants(Best(students, half, cancel), scoreBefore, scoreAfter, true)
            : new FittedConstants(before, scoreBefore, scoreAfter, false);
    }

    /// <summary>Mean one-step-ahead log score of a coupon.</summary>
    public static double Score(IReadOnlyList<StudentHistory> students, ReadinessConstants constants)
    {
        var coupons = students.Sum(student => student.Coupons);
        return coupons == 0 ? 0 : Sum(students, constants) / coupons;
    }

    private static ReadinessConstants Best(IReadOnlyList<StudentHistory> students, ReadinessConstants before, CancellationToken cancel)
    {
        if (students.Count == 0)
        {
            return before;
        }

        var from = before with { Offsets = Offsets(students), Version = $"{before.Version.Split('+')[0]}+fitted" };
        var begin = Vector<double>.Build.Dense(Parameters.Length, index => Parameters[index].Get(from));
        ReadinessConstants At(Vector<double> units) =>
            Parameters
                .Select((one, index) => (one, begin[index] + (units[index] * one.Scale)))
                .Aggregate(from, (to, one) => one.one.Set(to, one.Item2));
        // Per coupon, so that a first step along the slope is a small one.
        var coupons = Math.Max(1, students.Sum(student => student.Coupons));
        double Loss(Vector<double> units) => (-Sum(students, At(units), cancel) + (Penalty * units.DotProduct(units))) / coupons * Steepness;
        Vector<double> Slope(Vector<double> units)
        {
            var here = Loss(units);
            return Vector<double>.Build.Dense(
                Parameters.Length,
                index =>
                {
                    var beside = units.Clone();
                    beside[index] += Step;
                    return (Loss(beside) - here) / Step;
                }
            );
        }

        var objective = ObjectiveFunction.Gradient(Loss, Slope);
        try
        {
            var found = new BfgsMinimizer(1e-4, 1e-3, 1e-6, MostIterations).FindMinimum(objective, Vector<double>.Build.Dense(Parameters.Length));
            return At(found.MinimizingPoint);
        }
        catch (OptimizationException)
        {
            // The line search found nothing better: where it stands is as good as it gets.
            return At(objective.Point);
        }
    }

    // By two standard errors of the difference, student by student: what one student did on several tests is one piece of evidence.
    private static bool IsClearlyBetter(double[] gains) =>
        gains.Length > 1 && gains.Sum() > Errors * Math.Sqrt(gains.Length) * Statistics.StandardDeviation(gains);

    private static double Sum(IReadOnlyList<StudentHistory> students, ReadinessConstants constants, CancellationToken cancel = default) =>
        Scores(students, constants, cancel).Sum();

    private static double[] Scores(IReadOnlyList<StudentHistory> students, ReadinessConstants constants, CancellationToken cancel)
    {
        var scores = new double[students.Count];
        Parallel.For(
            0,
            students.Count,
            new ParallelOptions { CancellationToken = cancel },
            index => scores[index] = GrowthEngine.LogScore(students[index].Tests, constants, Hypotheses)
        );
        return scores;
    }

    /// <summary>How much harder or easier each stage and zone is than the middle of all, from how often it was clean.</summary>
    private static Dictionary<string, double> Offsets(IReadOnlyList<StudentHistory> students)
    {
        var seen = students
            .SelectMany(student => student.Tests)
            .SelectMany(test => test.Coupons)
            .SelectMany(coupon => coupon.Clean)
            .SelectMany(one => Parts(one.Key).Select(part => (part, one.Value)))
            .GroupBy(one => one.part, StringComparer.Ordinal)
            .Select(group => (group.Key, Odds: Logit((group.Count(one => one.Value) + 1.0) / (group.Count() + 2.0))))
            .ToList();
        var stages = seen.Where(one => !one.Key.StartsWith('/')).ToList();
        var zones = seen.Where(one => one.Key.StartsWith('/')).ToList();
        return stages
            .Select(one => (one.Key, one.Odds - stages.Average(other => other.Odds)))
            .Concat(zones.Select(one => (Key: one.Key[1..], one.Odds - zones.Average(other => other.Odds))))
            .GroupBy(one => one.Key, StringComparer.Ordinal)
            .ToDictionary(group => group.Key, group => group.First().Item2, StringComparer.Ordinal);

        static string[] Parts(string name) => Element.Parse(name) is { Zone: { } zone } element ? [element.Stage, $"/{zone}"] : [name];
    }

    private static double Logit(double share) => Math.Log(share / (1 - share));

    private static double Logistic(double odds) => 1 / (1 + Math.Exp(-odds));
}
