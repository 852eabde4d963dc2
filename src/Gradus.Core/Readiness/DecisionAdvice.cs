using System.Collections.Concurrent;
using System.Globalization;
using MathNet.Numerics.Distributions;

namespace Gradus.Core.Readiness;

/// <summary>Weighs readiness and gates into one advice. Pure.</summary>
public static class DecisionAdvice
{
    private const double Confidence = 0.9;

    // Wider than this the number says nothing. A chosen default.
    private const double WidestInterval = 0.6;

    // After fewer whole coupons nobody is sent back to something else, however they came out. A chosen default.
    private const int Some = 5;

    // A chance so near to the bar is called just over or just under it.
    private const double Just = 0.03;

    // What so many more coupons add, in the mean, is called little below that.
    private const int LooksAhead = 4;
    private const double Little = 0.03;

    // The weakest stage is worked on first when it stands so much below the next. A chosen default.
    internal const double ClearlyWeaker = 0.08;

    private static readonly string[] Small =
    [
        "no",
        "one",
        "two",
        "three",
        "four",
        "five",
        "six",
        "seven",
        "eight",
        "nine",
        "ten",
        "eleven",
        "twelve",
    ];

    // Quantiles take a search each, and a board of hundreds asks for the same few: by the length of a run.
    private static readonly ConcurrentDictionary<int, RunShows> Runs = new();

    /// <summary>Whether so little is known that the chance is not shown as a number.</summary>
    public static bool TooLittleToTell(ChanceBand passing) => passing.Upper.Value - passing.Lower.Value > WidestInterval;

    /// <summary>The advice for a student who stands as given on a test with these elements, under a policy.</summary>
    public static Advice Of(TestPolicy policy, SkillTest test, Standing standing, DecisionFacts facts)
    {
        var gates = Gates(policy, standing, facts).ToList();
        var missing = gates.Where(gate => !gate.Met).ToList();
        var passing = standing.Passing;
        var costs = policy.School == ReadinessSchool.Cost ? SittingCosts.Of(policy, standing) : null;
        var enough = policy.School switch
        {
            ReadinessSchool.RunOfClean => facts.CleanRun >= policy.RunLength,
            ReadinessSchool.Cost => costs!.Steps[0].Step == SittingStep.Sit,
            _ => passing.Mean.Value >= policy.BarMean && passing.Lower.Value >= policy.BarLower,
        };

        // Who is under the bar practises, whatever else is missing; more coupons only to be sure help where the chance could be high enough.
        var isUnsure = missing.Exists(gate => gate.Id is "leastFullCoupons" or "bandWidth");
        var isSettled =
            !enough
            && (!isUnsure || (policy.School == ReadinessSchool.Probability && facts.FullCoupons >= Some && passing.Upper.Value < policy.BarMean));
        var kind =
            facts.LastSitting is { Passed: true } ? Advised.Passed
            : missing.Exists(gate => gate.Kind == GateKind.Stop) ? Advised.Hold
            : missing.Count > 0 && !isSettled ? Advised.NotEnough
            : enough ? Advised.TestNow
            : Advised.Practise;
        var more = kind == Advised.Practise ? MoreOf(policy, standing, facts, costs) : null;
        var weakest = test.Elements.Zip(standing.Elements).MinBy(one => one.Second.Value).First;
        var (says, why) = kind switch
        {
            Advised.Hold => Stopped(policy, missing.First(gate => gate.Kind == GateKind.Stop), facts),
            Advised.NotEnough => Needs(policy, missing, facts, passing),
            Advised.TestNow => Ready(policy, standing, facts, costs),
            Advised.Passed => ($"Passed {Day(facts.LastSitting!.Day)}", "Choose the next target."),
            _ => Practise(policy, standing, facts, more, weakest, missing.Exists(gate => gate.Id == "destructive")),
        };
        var takeBack = facts.SignedTestNow && kind is not (Advised.TestNow or Advised.Passed);
        return new Advice(
            kind,
            takeBack ? $"Take back: {Uncapital(says)}" : says,
            why,
            takeBack,
            more,
            weakest,
            passing,
            standing.Inside.Mean,
            TooLittleToTell(passing),
            gates,
            RunOf(facts.CleanRun),
            [.. WouldChange(policy, missing, kind, more, standing)],
            AsTest(policy, missing, kind, more, passing, facts),
            missing.Exists(gate => gate.Id == "destructive")
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

    // Stops first, the gravest before the others; then what is only not shown yet.
    private static IEnumerable<Gate> Gates(TestPolicy policy, Standing standing, DecisionFacts facts)
    {
        if (policy.SafetySignOff)
        {
            yield return new Gate("safetySignOff", GateKind.Stop, "Safety is signed off.", facts.SafetySignedOff, "Sign off safety.");
        }

        yield return new Gate(
            "canJudge",
            GateKind.Stop,
            "The limits that the test is judged by are entered.",
            facts.CanJudge,
            "Enter the limits in the library."
        );
        if (policy.CleanAfterFailed > 0)
        {
            var more = Math.Max(0, policy.CleanAfterFailed - facts.CleanSinceSitting);
            var isAnswered =
                facts.LastSitting is not { Passed: false } || facts.CleanSinceSitting >= policy.CleanAfterFailed || facts.SignedSinceSitting;
            yield return new Gate(
                "cleanAfterFailed",
                GateKind.Stop,
                $"After a failed sitting, {Whole(policy.CleanAfterFailed, "clean whole coupon")} under test rules.",
                isAnswered,
                $"{Capital(Whole(more, "more clean whole coupon"))} under test rules, or your signature under \"test now\"."
            );
        }

        if (policy.Destructive)
        {
            yield return new Gate(
                "destructive",
                facts.LatestCutSound == false ? GateKind.Stop : GateKind.Evidence,
                "The latest coupon that was cut open is sound inside.",
                facts.LatestCutSound == true,
                "Cut one open: bent, broken, etched or shot, it has to pass."
            );
        }

        if (policy.NoRepeatedFault)
        {
            yield return new Gate(
                "noRepeatedFault",
                GateKind.Stop,
                "No fault in each of the last three whole coupons.",
                facts.RepeatedFault is null,
                facts.RepeatedFault is { } fault ? $"A whole coupon without {fault}." : ""
            );
        }

        yield return new Gate(
            "leastFullCoupons",
            GateKind.Evidence,
            $"At least {Whole(policy.LeastFullCoupons, "whole coupon")} under test rules, unaided, in the last {policy.WithinDays} days: {Number(facts.FullInWindow)} so far.",
            facts.FullInWindow >= policy.LeastFullCoupons,
            $"{Capital(Number(Math.Max(0, policy.LeastFullCoupons - facts.FullInWindow)))} more under test rules."
        );
        if (policy.LastClean)
        {
            yield return new Gate(
                "lastClean",
                GateKind.Evidence,
                "The last whole coupon under test rules was clean.",
                facts.LastFullClean == true,
                "One clean whole coupon under test rules."
            );
        }

        if (policy.FitUpUnaided)
        {
            yield return new Gate(
                "fitUpUnaided",
                GateKind.Evidence,
                "A fit-up passed unaided.",
                facts.FitUpUnaided == true,
                "One fit-up without help."
            );
        }

        if (policy.School != ReadinessSchool.RunOfClean)
        {
            yield return new Gate(
                "bandWidth",
                GateKind.Evidence,
                "The chance is known well enough to say anything.",
                !TooLittleToTell(standing.Passing),
                "More whole coupons under test rules."
            );
        }
    }

    // Whole coupons under the rules are asked for where what is missing is to be shown, not learned.
    private static int AsTest(TestPolicy policy, List<Gate> missing, Advised kind, More? more, ChanceBand passing, DecisionFacts facts)
    {
        bool Lacks(string id) => missing.Exists(gate => gate.Id == id);
        return kind switch
        {
            Advised.NotEnough => Math.Max(1, policy.LeastFullCoupons - facts.FullInWindow),
            Advised.Hold when missing.First(gate => gate.Kind == GateKind.Stop).Id is "cleanAfterFailed" => policy.CleanAfterFailed
                - facts.CleanSinceSitting,
            Advised.Hold when Lacks("destructive") && missing.First(gate => gate.Kind == GateKind.Stop).Id is "destructive" => 1,
            Advised.Practise when passing.Mean.Value >= policy.BarMean => more?.Expected ?? 1,
            _ => 0,
        };
    }

    private static (string Says, string Why) Stopped(TestPolicy policy, Gate stop, DecisionFacts facts) =>
        stop.Id switch
        {
            "safetySignOff" => (
                "Sign off safety first",
                $"Safety is not signed off; {Number(facts.FullCoupons)} whole {Coupons(facts.FullCoupons)} so far."
            ),
            "canJudge" => ("Enter the limits first", "Nobody can judge this test yet: its limits are not in the library."),
            "cleanAfterFailed" => (
                $"{Capital(Whole(policy.CleanAfterFailed - facts.CleanSinceSitting, "clean one"))} first",
                $"Failed {Day(facts.LastSitting!.Day)}{(facts.LastSitting.Note.Length > 0 ? $": {Uncapital(facts.LastSitting.Note.TrimEnd('.'))}" : "")}{(facts.CleanSinceSitting > 0 ? $"; {Number(facts.CleanSinceSitting)} clean since" : "")}."
            ),
            "destructive" => ("One that is sound inside first", "The last coupon that was cut open failed."),
            _ => ("Change what causes it first", $"{Capital(facts.RepeatedFault!)} in each of the last three."),
        };

    private static (string Says, string Why) Needs(TestPolicy policy, List<Gate> missing, DecisionFacts facts, ChanceBand passing)
    {
        bool Lacks(string id) => missing.Exists(gate => gate.Id == id);
        var cut = Lacks("destructive");
        if (Lacks("leastFullCoupons"))
        {
            var needed = policy.LeastFullCoupons - facts.FullInWindow;
            return (
                $"{Capital(Number(needed))} more as under test{(cut ? ", one cut open" : "")}",
                facts.FullCoupons == 0
                    ? "No whole coupon on this test yet."
                    : $"{(facts.FullInWindow == 0 ? "None" : Capital(Number(facts.FullInWindow)))} under test rules in {policy.WithinDays} days{(cut ? "; none cut" : "")}."
            );
        }

        return Lacks("lastClean") ? ($"One clean coupon first{(cut ? ", and cut it open" : "")}", "The last whole coupon was not clean.")
            : cut ? ("Cut one open", "Clean by eye; nothing was cut and bent yet.")
            : Lacks("fitUpUnaided") ? ("One fit-up without help", "No fit-up passed unaided yet.")
            : ("Too early to say", $"The chance may lie anywhere from {Percent(passing.Lower.Value)} to {Percent(passing.Upper.Value)}.");
    }

    private static (string Says, string Why) Ready(TestPolicy policy, Standing standing, DecisionFacts facts, CostOutlook? costs)
    {
        var passing = standing.Passing.Mean.Value;
        if (costs is not null)
        {
            return ("Test now", $"{Percent(passing)} to pass; one more first would cost {Money(Extra(costs))} more.");
        }

        var adds = standing.Forecast.Means[LooksAhead] - standing.Forecast.Means[0];
        var run = facts.CleanRun > 1 ? $"{Capital(Number(facts.CleanRun))} clean in a row" : $"{Percent(passing)} to pass";
        var then =
            policy.School == ReadinessSchool.RunOfClean ? $"{Number(policy.RunLength)} asked"
            : passing - policy.BarMean < Just ? $"just over the {Percent(policy.BarMean)}"
            : adds < Little ? "more practice adds little"
            : $"{Number(LooksAhead)} more would bring {Percent(standing.Forecast.Means[LooksAhead])}";
        return ("Ready: test now", $"{run}; {then}.");
    }

    private static (string Says, string Why) Practise(TestPolicy policy, Standing standing, DecisionFacts facts, More? more, string weakest, bool cut)
    {
        var aim = Element.Parse(weakest);
        var stages = standing.Stages.Select(stage => stage.Value.Mean.Value).Order().ToList();
        var isOneStage = stages.Count > 1 && stages[1] - stages[0] > ClearlyWeaker;
        var (mean, lower) = (standing.Passing.Mean.Value, standing.Passing.Lower.Value);
        var fault =
            facts.Common is { } common ? $"{common.Words}, {common.Coupons} of the last {common.OfCoupons}"
            : facts.CleanRun > 1 ? $"{Number(facts.CleanRun)} clean in a row, but it may be as low as {Percent(lower)}"
            : $"{aim.Words} is weakest";
        var also = cut ? ", one cut open" : "";
        if (policy.School == ReadinessSchool.RunOfClean)
        {
            return (
                $"{Capital(Number(more!.Expected))} more clean in a row{also}",
                $"{Capital(Number(facts.CleanRun))} so far, {Number(policy.RunLength)} asked{(facts.Common is null ? "" : $"; {fault}")}."
            );
        }

        if (policy.School == ReadinessSchool.Cost)
        {
            return (
                more is null ? $"More whole coupons{also}" : $"{MoreClean(more)}{also}",
                $"{Percent(mean)} to pass: waiting still saves more than it costs; {fault}."
            );
        }

        if (mean >= policy.BarMean)
        {
            return (
                more is null ? $"More clean ones{also}" : $"{MoreClean(more)}{also}",
                $"Over the {Percent(policy.BarMean)}, but it may be as low as {Percent(lower)}; {Percent(policy.BarLower)} asked."
            );
        }

        if (more is null)
        {
            return ("Change what is practised", $"{Capital(fault)}.");
        }

        var stage = aim.Stage == "fitUp" ? "fit-up" : aim.Stage;
        return (
            isOneStage
                ? $"{Capital(Number(more.Expected))} more, {stage} first{also}"
                : $"{Capital(Number(more.Expected))} more whole {Coupons(more.Expected)}{also}",
            policy.BarMean - mean < Just ? $"Just under the {Percent(policy.BarMean)}; {fault}." : $"{Capital(fault)}."
        );
    }

    private static More? MoreOf(TestPolicy policy, Standing standing, DecisionFacts facts, CostOutlook? costs)
    {
        if (policy.School == ReadinessSchool.RunOfClean)
        {
            return new More(Math.Max(1, policy.RunLength - facts.CleanRun), null, null);
        }

        if (costs is not null)
        {
            return costs.CleanToSit is { } toSit ? new More(Math.Max(1, toSit), null, null) : null;
        }

        var forecast = standing.Forecast;
        return standing.Passing.Mean.Value >= policy.BarMean
            ? forecast.CleanToBar is { } clean
                ? new More(clean, clean, null)
                : null
            : forecast.ToBar is { } middle
                ? new More(Math.Max(1, middle), forecast.ToBarLeast, forecast.ToBarMost)
                : null;
    }

    private static IEnumerable<string> WouldChange(TestPolicy policy, List<Gate> missing, Advised kind, More? more, Standing standing)
    {
        foreach (var gate in kind == Advised.Passed ? [] : missing)
        {
            yield return gate.Lifts;
        }

        if (kind == Advised.Practise && policy.School == ReadinessSchool.Probability)
        {
            if (more is null)
            {
                yield return $"A change of what is practised, or of how: {Forecast.Coupons[^1]} more by routine would bring {Percent(standing.Forecast.Means[^1])} in the mean.";
            }
            else if (standing.Passing.Mean.Value < policy.BarMean)
            {
                var spread =
                    $"{(more.Least is 0 or null ? "at once" : Number(more.Least.Value))} for the quickest in twenty, {(more.Most is { } most ? Number(most) : $"more than {Forecast.Coupons[^1]}")} for the slowest";
                yield return $"About {Number(more.Expected)} more whole {Coupons(more.Expected)} at the usual rate of learning: {spread}. Clean ones bring it sooner.";
            }
        }
    }

    private static string Number(int count) => count >= 0 && count < Small.Length ? Small[count] : count.ToString(CultureInfo.InvariantCulture);

    private static string Whole(int count, string what) => $"{Number(count)} {what}{(count == 1 ? "" : "s")}";

    private static string MoreClean(More more) => Capital(Whole(more.Expected, "more clean one"));

    private static string Coupons(int count) => count == 1 ? "coupon" : "coupons";

    private static string Capital(string text) => char.ToUpperInvariant(text[0]) + text[1..];

    private static string Uncapital(string text) => char.ToLowerInvariant(text[0]) + text[1..];

    private static string Day(DateOnly day) => day.ToString("d MMMM", CultureInfo.InvariantCulture);

    private static double Extra(CostOutlook costs) =>
        costs.Steps.First(step => step.Step == SittingStep.Practise).Cost - costs.Steps.First(step => step.Step == SittingStep.Sit).Cost;

    private static string Money(double value) => value.ToString("0", CultureInfo.InvariantCulture);

    private static string Percent(double share) => string.Create(CultureInfo.InvariantCulture, $"{share * 100:0} %");
}
