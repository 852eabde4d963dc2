using Gradus.Core.Measure;
using MathNet.Numerics.Distributions;

namespace Gradus.Core.Readiness;

/// <summary>How often a coupon that looks clean passes its bend, break, section or film: of one student, for each process and kind of root.</summary>
internal sealed class InsideBelief
{
    // Nine of ten before any was cut, worth ten coupons. A chosen default.
    private const double SoundBefore = 9;
    private const double FailedBefore = 1;
    private readonly Dictionary<string, InsideSeen> seen;

    // Quantiles take a search each, and are asked for with every coupon that is shown: kept until something more is seen.
    private readonly Dictionary<string, ChanceBand> told = new(StringComparer.Ordinal);

    public InsideBelief(IReadOnlyDictionary<string, InsideSeen>? seen = null) =>
        this.seen = new(seen ?? new Dictionary<string, InsideSeen>(), StringComparer.Ordinal);

    /// <summary>What was seen, by process and kind of root.</summary>
    public IReadOnlyDictionary<string, InsideSeen> Seen => seen;

    public InsideBelief Copy() => new(seen);

    /// <summary>A coupon was cut open, or would have been: so much of it was sound, so much failed.</summary>
    public void See(SkillTest test, double sound, double failed)
    {
        var before = seen.GetValueOrDefault(KeyOf(test));
        seen[KeyOf(test)] = new InsideSeen(before.Sound + sound, before.Failed + failed);
        told.Remove(KeyOf(test));
    }

    /// <summary>The chance that one that looks clean is sound, with its 90 % interval.</summary>
    public ChanceBand Of(SkillTest test)
    {
        if (told.TryGetValue(KeyOf(test), out var known))
        {
            return known;
        }

        var (sound, failed) = seen.GetValueOrDefault(KeyOf(test));
        var beta = new Beta(SoundBefore + sound, FailedBefore + failed);
        return told[KeyOf(test)] = new ChanceBand(
            Chance.Of(beta.Mean),
            Chance.Of(beta.InverseCumulativeDistribution(0.05)),
            Chance.Of(beta.InverseCumulativeDistribution(0.95))
        );
    }

    /// <summary>Tests with the same key share what is known of the inside.</summary>
    public static string KeyOf(SkillTest test) => test.Traits is { } traits ? $"{traits.Process} {traits.OpenRoot}" : test.Id;
}

/// <summary>Coupons that were sound inside and that failed; a sitting that failed for what nobody knows counts in part.</summary>
internal readonly record struct InsideSeen(double Sound, double Failed);
