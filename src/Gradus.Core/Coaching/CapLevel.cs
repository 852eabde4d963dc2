using Gradus.Core.Measure;
using Gradus.Core.Welding;

namespace Gradus.Core.Coaching;

/// <summary>What the fill asks for before the cap.</summary>
public enum CapStep
{
    /// <summary>It stands proud or flush: no edge guides the cap.</summary>
    NoGuide,
    Cap,

    /// <summary>Short stringers in the low stretch.</summary>
    Patch,

    /// <summary>A thin layer with a smaller electrode.</summary>
    ThinFill,
    FillLayer,
}

/// <summary>What to do before the cap.</summary>
/// <param name="Beads">Of the fill layer; 0 where none is asked for.</param>
/// <param name="LowAt">The places that are too low.</param>
/// <param name="CapBeads">How many beads the cap takes at the width there.</param>
public sealed record CapLevelAdvice(CapStep Step, string Says, int Beads, IReadOnlyList<string> LowAt, int CapBeads);

/// <summary>The level of the fill before the cap, at three or four places.</summary>
public static class CapLevel
{
    private const double Inch = 25.4;

    /// <summary>Depths below flush at which the answer changes: 1/32, 1/16, 3/32 and 1/8 in.</summary>
    private static readonly double[] Steps = [Inch / 32, Inch / 16, Inch * 3 / 32, Inch / 8];

    // A patch where less than a quarter of the places is low: with four places one of them, with three none is.
    private const double PatchShare = 0.34;

    /// <summary>What the levels ask for; null where none was measured.</summary>
    /// <param name="faceWidthMm">Width of the face with both laps.</param>
    /// <param name="beadWidthMm">Of a cap bead.</param>
    /// <param name="beadAreaMm2">Deposited by one fill bead.</param>
    public static CapLevelAdvice? Of(IReadOnlyCollection<FillLevel> levels, double faceWidthMm, double beadWidthMm, double beadAreaMm2, Wording words)
    {
        if (levels.Count == 0)
        {
            return null;
        }

        var deepest = levels.Max(one => one.BelowFlushMm);
        var low = levels.Where(one => one.BelowFlushMm > Steps[1] + Slack).Select(one => one.At).ToList();
        var cap = BeadsAcross.Count(Length.FromMm(faceWidthMm), Length.FromMm(beadWidthMm), TradeNumbers.Of("beadOverlap"));

        // The layer brings the joint to the middle of where a fill should stop: 3/64 in below flush.
        var beads = Math.Max(1, (int)Math.Ceiling((deepest - (Inch * 3 / 64)) * faceWidthMm / beadAreaMm2));
        CapLevelAdvice Advice(CapStep step, string says, int fill = 0) => new(step, words.Say(says, ("beads", fill)), fill, low, cap);
        return deepest <= 0 ? Advice(CapStep.NoGuide, "No guide is left: grind level, or cut a shallow line at each edge; flat, quick beads")
            : deepest < Steps[0] - Slack ? Advice(CapStep.Cap, "Cap it, a little quicker")
            : low.Count == 0 ? Advice(CapStep.Cap, "Cap it")
            : deepest <= Steps[2] + Slack && low.Count <= levels.Count * PatchShare
                ? Advice(CapStep.Patch, "Patch the low stretch with short stringers first")
            : deepest <= Steps[2] + Slack ? Advice(CapStep.ThinFill, "A thin fill first, with one size smaller")
            : deepest <= Steps[3] + Slack ? Advice(CapStep.FillLayer, "A fill layer of {beads} first", beads)
            : Advice(CapStep.FillLayer, "A fill layer of {beads} first, then measure again", beads);
    }

    /// <summary>A depth read to the nearest 1/64 in lies this much to either side.</summary>
    private const double Slack = Inch / 128;
}
