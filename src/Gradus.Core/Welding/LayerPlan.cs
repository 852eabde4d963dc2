using Gradus.Core.Joints;
using Gradus.Core.Measure;

namespace Gradus.Core.Welding;

/// <summary>Layers and beads that settings would fill a joint with.</summary>
/// <param name="Layers">Beads in each layer, from the root up; the last one is the cap.</param>
/// <param name="FilledMm2">Area that those beads hold together.</param>
/// <param name="NeededMm2">Area of the groove and the planned cap.</param>
public sealed record SuggestedLayers(IReadOnlyList<int> Layers, double FilledMm2, double NeededMm2);

/// <summary>What to do at the top of a groove before and with the cap.</summary>
/// <param name="FillFirst">True when the fill is too low: bring it up with short stringers before the cap.</param>
/// <param name="TooFull">True when no edge is left to guide the cap.</param>
/// <param name="Beads">Cap beads across the face with both laps.</param>
public sealed record CapAdvice(bool FillFirst, bool TooFull, int Beads, double CapWidthMm, double SpacingMm);

/// <summary>From the size of a bead to the number of layers and beads.</summary>
public static class LayerPlanner
{
    private const int MostLayers = 60;

    /// <summary>
    /// Fills a joint from the root with beads of one area and width: in each layer as many as cover the width there, each as high as its area
    /// makes it, until the fill stops below flush; then the cap. The root is a single bead.
    /// </summary>
    /// <param name="beadAreaMm2">Deposited area of one bead, from its settings.</param>
    /// <param name="overlap">Share of a bead that the next covers, 0 up to below 1.</param>
    /// <exception cref="ArgumentException">A bead too small for the joint: over 60 layers.</exception>
    public static SuggestedLayers Suggest(JointShape shape, double beadAreaMm2, Length beadWidth, double overlap)
    {
        var layers = new List<int> { 1 };
        var filled = beadAreaMm2;
        var top = shape.AreaTo(shape.ThicknessMm - BeadPlanner.FillBelowFlushMm(shape));
        while (filled < top)
        {
            if (layers.Count >= MostLayers)
            {
                throw new ArgumentException($"A bead this small would need more than {MostLayers} layers.", nameof(beadAreaMm2));
            }

            var width = Length.FromMm(shape.WidthAt(shape.HeightOf(filled)));
            var beads = BeadsAcross.Count(width, beadWidth, overlap);

            // The last layer needs no more beads than the room that is left, nor less than one.
            beads = Math.Max(1, Math.Min(beads, (int)Math.Ceiling((top - filled) / beadAreaMm2)));
            layers.Add(beads);
            filled += beads * beadAreaMm2;
        }

        var cap = Cap(shape, BeadPlanner.FillBelowFlushMm(shape), beadWidth, overlap);
        layers.Add(cap.Beads);
        return new SuggestedLayers(
            layers,
            filled + (cap.Beads * beadAreaMm2),
            shape.AreaMm2 + (2.0 / 3 * cap.CapWidthMm * BeadPlanner.CapHeightMm(shape))
        );
    }

    /// <summary>What the fill level, as measured below flush, asks for before the cap, and how many beads the cap takes.</summary>
    public static CapAdvice Cap(JointShape shape, double belowFlushMm, Length beadWidth, double overlap)
    {
        var width = Length.FromMm(shape.FaceWidthMm + (2 * BeadPlanner.CapLapMm(shape)));
        var beads = BeadsAcross.Count(width, beadWidth, overlap);
        return new CapAdvice(
            belowFlushMm > TradeNumbers.Of("fillBelowFlushMaxMm"),
            belowFlushMm < Math.Min(TradeNumbers.Of("fillBelowFlushMinMm"), BeadPlanner.FillBelowFlushMm(shape)),
            beads,
            width.Mm,
            BeadsAcross.SpacingMm(width, beadWidth, beads)
        );
    }

    /// <summary>Usual width of a stringer: 2 to 3 core diameters.</summary>
    public static double StringerWidthMm(Length coreDiameter) => TradeNumbers.Of("stringerDiameters") * coreDiameter.Mm;
}
