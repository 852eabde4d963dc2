using System.Collections.Concurrent;
using System.Globalization;
using Gradus.Core.Measure;
using MathNet.Numerics.Distributions;

namespace Gradus.Core.Readiness;

/// <summary>What the record says that the gates ask for. Null where nothing was recorded.</summary>
/// <param name="DestructivelyTested">Coupons that were bent, broken, etched or shot...</param>
/// <param name="DestructivelyFailed">...and those of which a specimen failed.</param>
/// <param name="CanJudge">False while the limits that the test is judged by are not entered.</param>
/// <param name="FullInWindow">Full coupons under test rules, unaided, within the policy's days.</param>
/// <param name="CleanRun">Clean full coupons under test rules up to now, without a rejected one between.</param>
/// <param name="RepeatedFault">The fault, in words, that all of the last three full coupons were rejected for.</param>
public sealed record DecisionFacts(
    bool CanJudge,
    int FullInWindow,
    bool? LastFullClean,
    int CleanRun,
    int DestructivelyTested,
    int DestructivelyFailed,
    string? RepeatedFault,
    bool? FitUpUnaided,
    bool SafetySignedOff
);

/// <summary>What is advised.</summary>
public enum Advised
{
    TestNow,
    Practise,
    Hold,
}

/// <summary>A gate: what the policy asks for first, and whether it is met.</summary>
/// <param name="Id">The setting of the policy that asks for it, or <c>canJudge</c>.</param>
public sealed record Gate(string Id, string Asks, bool Met);

/// <summary>The expected cost of practising so many full coupons first and then sitting the test until it is passed.</summary>
public sealed record LookAhead(int Coupons, double Chance, double Cost);

/// <summary>What a run of clean coupons shows.</summary>
/// <param name="Reliability90">With 90 % confidence the chance of a clean coupon is at least this: success run, C = 1 - R^k.</param>
/// <param name="JeffreysLower">Lower end of the one-sided 95 % Jeffreys interval of k clean ones of k.</param>
public sealed record RunShows(int Clean, double Reliability90, double JeffreysLower);

/// <summary>The advice with its grounds. An instructor decides.</summary>
/// <param name="Passing">The chance of passing everything: a clean coupon times no hidden fault.</param>
/// <param name="HiddenFree">The chance that a coupon which looks clean passes its bends, breaks or film.</param>
/// <param name="Coupons">With <see cref="Advised.Practise"/>: how many full coupons.</param>
/// <param name="Reasons">Why, in sentences.</param>
/// <param name="WouldChange">What would change the answer, in sentences.</param>
public sealed record Advice(
    Advised Kind,
    int Coupons,
    ChanceBand Passing,
    Chance HiddenFree,
    IReadOnlyList<Gate> Gates,
    IReadOnlyList<LookAhead> Ahead,
    RunShows Run,
    IReadOnlyList<string> Reasons,
    IReadOnlyList<string> WouldChange
);

/// <summary>Weighs readiness, gates and costs into an advice. Pure.</summary>
public static class DecisionAdvice
{
    private const int MostAhead = 12;
    private const double Confidence = 0.9;

    // When the bar is not in sight: so many coupons, then it is weighed anew. A chosen default.
    private const int LookAgainAfter = 3;

    // Of coupons that look clean, how many pass inside: nine of ten before any was cut, worth ten coupons. A chosen default.
    private const double HiddenFreeBefore = 9;
    private const double HiddenFailedBefore = 1;

    // Quantiles take a search each, and a board of hundreds asks for the same few: by what was cut and failed, and by the length of a run.
    private static readonly ConcurrentDictionary<(int Tested, int Failed), (double Mean, double Lower, double Upper)> Inside = new();
    private static readonly ConcurrentDictionary<int, RunShows> Runs = new();

    /// <summary>The advice for a student who stands as given, under a policy.</summary>
    public static Advice Of(TestPolicy policy, Standing standing, DecisionFacts facts)
    {
        var inside = Inside.GetOrAdd((facts.DestructivelyTested, facts.DestructivelyFailed), InsideOf);
        Chance Times(Chance chance, double factor) => Chance.Of(chance.Value * factor);
        var passing = new ChanceBand(
            Times(standing.Whole.Mean, inside.Mean),
            Times(standing.Whole.Lower, inside.Lower),
            Times(standing.Whole.Upper, inside.Upper)
        );
        var gates = Gates(policy, facts).ToList();
        var ahead = Enumerable
            .Range(0, MostAhead + 1)
            .Select(coupons =>
            {
                var chance = Math.Max(standing.Forecast.Means[coupons] * inside.Mean, 1e-3);
                return new LookAhead(coupons, chance, (coupons * policy.CouponCost) + (policy.SittingCost / chance));
            })
            .ToList();
        var cheapest = ahead.MinBy(one => one.Cost)!;
        var run = RunOf(facts.CleanRun);
        var enough =
            policy.School == ReadinessSchool.Probability
                ? passing.Mean.Value >= policy.BarMean && passing.Lower.Value >= policy.BarLower
                : facts.CleanRun >= policy.RunLength;
        var missing = gates.Where(gate => !gate.Met).ToList();
        var coupons =
            policy.School == ReadinessSchool.Probability
                ? ahead.FirstOrDefault(one => one.Coupons > 0 && one.Chance >= policy.BarMean)?.Coupons ?? LookAgainAfter
                : Math.Max(1, policy.RunLength - facts.CleanRun);
        var kind =
            missing.Count > 0 ? Advised.Hold
            : enough ? Advised.TestNow
            : Advised.Practise;
        return new Advice(
            kind,
            kind == Advised.Practise ? coupons : 0,
            passing,
            Chance.Of(inside.Mean),
            gates,
            ahead,
            run,
            [.. Reasons(policy, facts, passing, inside.Mean, missing, cheapest, ahead[0])],
            [.. WouldChange(policy, facts, missing, enough, coupons, ahead, inside.Mean)]
        );
    }

    /// <summary>What k clean coupons in a row really show.</summary>
    public static RunShows RunOf(int clean) =>
        Runs.GetOrAdd(
            clean,
            count => new RunShows(
                count,
                count == 0 ? 0 : Math.Pow(1 - Confidence, 1.0 / count),
                new Beta(count + 0.5, 0.5).InverseCumulativeDistribution(0.05)
            )
        );

    private static (double Mean, double Lower, double Upper) InsideOf((int Tested, int Failed) cut)
    {
        var beta = new Beta(HiddenFreeBefore + cut.Tested - cut.Failed, HiddenFailedBefore + cut.Failed);
        return (beta.Mean, beta.InverseCumulativeDistribution(0.25), beta.InverseCumulativeDistribution(0.75));
    }

    private static IEnumerable<Gate> Gates(TestPolicy policy, DecisionFacts facts)
    {
        yield return new Gate("canJudge", "The limits that the test is judged by are entered.", facts.CanJudge);
        yield return new Gate(
            "leastFullCoupons",
            $"At least {policy.LeastFullCoupons} full coupons under test rules, unaided, in the last {policy.WithinDays} days: {facts.FullInWindow} so far.",
            facts.FullInWindow >= policy.LeastFullCoupons
        );
        if (policy.LastClean)
        {
            yield return new Gate("lastClean", "The last full coupon under test rules was clean.", facts.LastFullClean == true);
        }

        if (policy.Destructive)
        {
            yield return new Gate("destructive", "At least one coupon was bent, broken, etched or shot.", facts.DestructivelyTested > 0);
        }

        if (policy.NoRepeatedFault)
        {
            yield return new Gate(
                "noRepeatedFault",
                facts.RepeatedFault is { } fault
                    ? $"No fault in each of the last three full coupons: {fault} was."
                    : "No fault in each of the last three full coupons.",
                facts.RepeatedFault is null
            );
        }

        if (policy.FitUpUnaided)
        {
            yield return new Gate("fitUpUnaided", "A fit-up passed unaided.", facts.FitUpUnaided == true);
        }

        if (policy.SafetySignOff)
        {
            yield return new Gate("safetySignOff", "Safety is signed off.", facts.SafetySignedOff);
        }
    }

    private static IEnumerable<string> Reasons(
        TestPolicy policy,
        DecisionFacts facts,
        ChanceBand passing,
        double inside,
        List<Gate> missing,
        LookAhead cheapest,
        LookAhead now
    )
    {
        if (missing.Count > 0)
        {
            yield return $"Not met yet: {string.Join(" ", missing.Select(gate => gate.Asks))}";
        }

        yield return policy.School == ReadinessSchool.Probability
            ? $"The chance of passing everything is {Percent(passing.Mean)}, between {Percent(passing.Lower)} and {Percent(passing.Upper)}; the bar is {Percent(policy.BarMean)}, and {Percent(policy.BarLower)} for the lower end."
            : $"{facts.CleanRun} clean in a row; the bar is {policy.RunLength}. {policy.RunLength} in a row only show that the chance is at least {Percent(RunOf(policy.RunLength).Reliability90)}, with 90 % confidence.";
        yield return facts.DestructivelyTested == 0
            ? $"Nothing was cut open yet: {Percent(inside)} of those clean by eye are expected to be sound inside."
            : $"{facts.DestructivelyTested - facts.DestructivelyFailed} of {facts.DestructivelyTested} coupons that were cut open passed, so {Percent(inside)} of those clean by eye are expected to be sound inside.";
        yield return cheapest.Coupons == 0
            ? $"Testing now is also the cheapest: about {Money(now.Cost)} until it is passed."
            : $"By cost alone, {cheapest.Coupons} more {(cheapest.Coupons == 1 ? "coupon" : "coupons")} first: about {Money(cheapest.Cost)} until it is passed, against {Money(now.Cost)} when testing now.";
    }

    private static IEnumerable<string> WouldChange(
        TestPolicy policy,
        DecisionFacts facts,
        List<Gate> missing,
        bool enough,
        int coupons,
        List<LookAhead> ahead,
        double inside
    )
    {
        if (missing.Count > 0)
        {
            yield return $"Meeting {(missing.Count == 1 ? "that gate" : $"those {missing.Count} gates")} opens the question.";
        }

        if (enough)
        {
            yield return "A rejected full coupon would bring it back to practice.";
        }
        else if (policy.School == ReadinessSchool.RunOfClean)
        {
            yield return $"{policy.RunLength - facts.CleanRun} more clean in a row would do.";
        }
        else if (ahead[Math.Min(coupons, ahead.Count - 1)].Chance >= policy.BarMean)
        {
            yield return $"About {coupons} more full coupons at the usual rate of learning bring the chance to {Percent(ahead[coupons].Chance)}; clean ones bring it sooner.";
        }
        else if (ahead[^1].Chance / inside >= policy.BarMean)
        {
            yield return $"Looks alone cannot reach the bar: sound bends, breaks or films of the next {LookAgainAfter} coupons would help.";
        }
        else
        {
            yield return $"Even {ahead.Count - 1} more coupons by routine are not expected to reach the bar: change what is practised, and look again after {LookAgainAfter}.";
        }
    }

    private static string Percent(Chance chance) => Percent(chance.Value);

    private static string Percent(double share) => string.Create(CultureInfo.InvariantCulture, $"{share * 100:0} %");

    private static string Money(double value) => value.ToString("0", CultureInfo.InvariantCulture);
}
