using Gradus.Core.Joints;
using Gradus.Core.Measure;

namespace Gradus.Core.Coaching;

/// <summary>What a gap that is left says to the welder.</summary>
public enum GapVerdict
{
    ReCut,
    RaiseHeat,
    GoOn,
    TooWide,
}

/// <summary>A band of gaps with what to do.</summary>
/// <param name="UpTo">Its upper end, which belongs to the next; null for all above.</param>
public sealed record GapBand(double? UpTo, GapVerdict Verdict, string Says);

/// <summary>The bands of some ways to weld a root.</summary>
/// <param name="Bases">The coach cards that they are for.</param>
/// <param name="Unit"><c>diameters</c> of the electrode or wire, or <c>mm</c>.</param>
public sealed record GapBands(IReadOnlyList<string> Bases, string Unit, IReadOnlyList<GapBand> Bands, string Source);

/// <summary>What to do with the gap that is left.</summary>
/// <param name="Share">The gap in diameters of the electrode or wire.</param>
public sealed record GapAdvice(GapVerdict Verdict, string Says, double Share);

/// <summary>How far a gap closes before its root is tied in.</summary>
/// <param name="ClosesMm">What the whole joint closes by.</param>
/// <param name="EndMm">At the end of the first half, or of the seam.</param>
/// <param name="SecondStartMm">Where the second half of a pipe begins; null on plate.</param>
/// <param name="SecondEndMm">Where it is tied in; null on plate.</param>
/// <param name="FromOwn">True when it is this student's own closing.</param>
public sealed record GapForecast(double ClosesMm, double EndMm, double? SecondStartMm, double? SecondEndMm, bool FromOwn);

/// <summary>The gap of an open root: what is left of it and what to do.</summary>
public static class GapLeft
{
    // So many roots of one's own say more than a handbook.
    private const int EnoughOwn = 5;
    private const int TwoTacks = 2;
    private const int ThreeTacks = 3;

    /// <summary>The bands.</summary>
    public static IReadOnlyList<GapBands> All { get; } = CoreJson.ReadEmbedded<IReadOnlyList<GapBands>>("Coaching/gap-left.json");

    /// <summary>What to do with a gap; null where no way of welding says anything of it.</summary>
    /// <param name="baseId">The coach card of the root.</param>
    public static GapAdvice? Of(string baseId, double gapMm, double diameterMm, Wording words)
    {
        if (All.FirstOrDefault(one => one.Bases.Contains(baseId)) is not { } bands)
        {
            return null;
        }

        var value = bands.Unit == "mm" ? gapMm : gapMm / diameterMm;
        var band = bands.Bands.First(one => one.UpTo is not { } end || value < end);
        return new GapAdvice(band.Verdict, words.Say(band.Says), gapMm / diameterMm);
    }

    /// <summary>
    /// What is left of a gap where the root is tied in. Transverse shrinkage of 0.1 times the mean width (Blodgett, Design of Welded Structures; from
    /// memory), as free as the tacks leave it; on pipe the half that is welded first draws its side shut and opens the other (chosen shares).
    /// </summary>
    /// <param name="shrinkageMm">Of the joint when nothing holds it.</param>
    /// <param name="tacks">How many there are; clamped or bridged joints hardly close.</param>
    /// <param name="own">What the student's earlier roots closed by.</param>
    public static GapForecast Forecast(double gapMm, double shrinkageMm, Product product, int tacks, bool isHeld, IReadOnlyCollection<double> own)
    {
        var isOwn = own.Count >= EnoughOwn;
        var closes = isOwn ? Median(own) : shrinkageMm * Freedom(tacks, isHeld);
        if (product != Product.Pipe)
        {
            return new GapForecast(closes, Math.Max(0, gapMm - closes), null, null, isOwn);
        }

        var hinge = TradeNumbers.Of(
            tacks <= TwoTacks ? "hingeTwoTacks"
            : tacks == ThreeTacks ? "hingeThreeTacks"
            : "hingeFourTacks"
        );
        return new GapForecast(closes, Math.Max(0, gapMm - closes), gapMm + (hinge * closes), Math.Max(0, gapMm + ((hinge - 1) * closes)), isOwn);
    }

    private static double Freedom(int tacks, bool isHeld) =>
        isHeld ? TradeNumbers.Of("closingHeld")
        : tacks <= TwoTacks ? 1
        : TradeNumbers.Of("closingManyTacks");

    private static double Median(IReadOnlyCollection<double> values)
    {
        var sorted = values.Order().ToList();
        var middle = sorted.Count / 2;
        return sorted.Count % 2 == 1 ? sorted[middle] : (sorted[middle - 1] + sorted[middle]) / 2;
    }
}
