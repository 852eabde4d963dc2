using Gradus.Core.Measure;
using MathNet.Numerics.Distributions;

namespace Gradus.Core.Readiness;

/// <summary>Of the sittings of which about so much was said: how many were passed.</summary>
/// <param name="From">The least chance that was said in this class, 0 to 1...</param>
/// <param name="To">...and the most.</param>
/// <param name="Said">The mean of what was said; null with no sitting.</param>
/// <param name="Share">The share that was passed with its 90 % Jeffreys interval; null with no sitting.</param>
public sealed record ReliabilityClass(double From, double To, int Sittings, int Passed, double? Said, ChanceBand? Share);

/// <summary>What was said before sittings beside what came of them.</summary>
/// <param name="Expected">How many were to be passed by what was said.</param>
/// <param name="Brier">Mean square of what was said less what came, 0 (always right and sure) to 1; null with no sitting.</param>
/// <param name="BrierOfShare">The same for one who always says the share that was passed: what was said is worth something when it is under this.</param>
/// <param name="Departs">How likely a difference this large between expected and passed is by chance alone, two-sided, 0 to 1; null with no sitting.</param>
public sealed record ReliabilityPicture(
    int Sittings,
    int Passed,
    double Expected,
    double? Brier,
    double? BrierOfShare,
    Chance? Departs,
    IReadOnlyList<ReliabilityClass> Classes
);

/// <summary>Whether what was said came true: said 80 %, passed how many. Pure.</summary>
public static class Reliability
{
    private const int Classes = 5;
    private const double Prior = 0.5; // Jeffreys

    /// <summary>The picture over all sittings.</summary>
    /// <param name="sittings">What was said, 0 to 1, and whether it was passed.</param>
    public static ReliabilityPicture Of(IReadOnlyList<(double Said, bool Passed)> sittings)
    {
        var passed = sittings.Count(one => one.Passed);
        double? Brier(Func<double, double> said) =>
            sittings.Count == 0 ? null : sittings.Average(one => Math.Pow(said(one.Said) - (one.Passed ? 1 : 0), 2));
        return new ReliabilityPicture(
            sittings.Count,
            passed,
            sittings.Sum(one => one.Said),
            Brier(said => said),
            Brier(_ => (double)passed / sittings.Count),
            sittings.Count == 0 ? null : Departs([.. sittings.Select(one => one.Said)], passed),
            [.. Enumerable.Range(0, Classes).Select(index => Class(index, [.. sittings.Where(one => ClassOf(one.Said) == index)]))]
        );
    }

    /// <summary>The share of successes with its 90 % Jeffreys interval (Brown, Cai and DasGupta 2001): its ends are 0 and 1 with none and with all.</summary>
    public static ChanceBand Share(int passed, int sittings)
    {
        var beta = new Beta(passed + Prior, sittings - passed + Prior);
        return new ChanceBand(
            Chance.Of((double)passed / sittings),
            Chance.Of(passed == 0 ? 0 : beta.InverseCumulativeDistribution(0.05)),
            Chance.Of(passed == sittings ? 1 : beta.InverseCumulativeDistribution(0.95))
        );
    }

    private static int ClassOf(double said) => Math.Min(Classes - 1, (int)(said * Classes));

    private static ReliabilityClass Class(int index, List<(double Said, bool Passed)> own) =>
        new(
            (double)index / Classes,
            (index + 1.0) / Classes,
            own.Count,
            own.Count(one => one.Passed),
            own.Count == 0 ? null : own.Average(one => one.Said),
            own.Count == 0 ? null : Share(own.Count(one => one.Passed), own.Count)
        );

    /// <summary>Exact: the number passed is a sum of unequal coins (the Poisson binomial), built up one sitting at a time.</summary>
    private static Chance Departs(double[] said, int passed)
    {
        var chances = new double[said.Length + 1];
        chances[0] = 1;
        foreach (var chance in said)
        {
            for (var count = said.Length; count > 0; count--)
            {
                chances[count] = (chances[count] * (1 - chance)) + (chances[count - 1] * chance);
            }

            chances[0] *= 1 - chance;
        }

        // As or less likely than what came; the slack is for sums in another order.
        const double Slack = 1 + 1e-9;
        return Chance.Of(Math.Clamp(chances.Where(chance => chance <= chances[passed] * Slack).Sum(), 0, 1));
    }
}
