using Gradus.Core.Measure;

namespace Gradus.Core.Joints;

/// <summary>
/// A single-V groove in plate, or in the wall of a pipe. The two bevels may differ; a bevel of 0 is a square edge. All results follow from
/// plane geometry, in the symbols T thickness, β₁ and β₂ bevel angles, g root opening, f root face.
/// </summary>
public sealed record SingleVGroove
{
    /// <summary>A groove whose root face is no thicker than the material.</summary>
    /// <exception cref="ArgumentException">No thickness, or a root face thicker than the material.</exception>
    public SingleVGroove(Length thickness, BevelAngle bevelA, BevelAngle bevelB, Length rootOpening, Length rootFace)
    {
        if (thickness.Mm <= 0)
        {
            throw new ArgumentException("The material must have a thickness.", nameof(thickness));
        }

        if (rootFace > thickness)
        {
            throw new ArgumentException("The root face cannot be thicker than the material.", nameof(rootFace));
        }

        (Thickness, BevelA, BevelB, RootOpening, RootFace) = (thickness, bevelA, bevelB, rootOpening, rootFace);
    }

    /// <summary>T, thickness of the plate or of the pipe wall.</summary>
    public Length Thickness { get; }

    /// <summary>β₁, from square.</summary>
    public BevelAngle BevelA { get; }

    /// <summary>β₂, from square.</summary>
    public BevelAngle BevelB { get; }

    /// <summary>g, root opening (gap).</summary>
    public Length RootOpening { get; }

    /// <summary>f, root face (land).</summary>
    public Length RootFace { get; }

    /// <summary>Groove angle (included): β₁ + β₂, in degrees.</summary>
    public double IncludedAngleDegrees => BevelA.Degrees + BevelB.Degrees;

    /// <summary>Width of the groove at the face: g + (T − f)(tan β₁ + tan β₂), in mm.</summary>
    public double FaceWidthMm => RootOpening.Mm + (BevelDepthMm * TanSum);

    /// <summary>Cross-section area of the groove without reinforcement: g·T + (T − f)²(tan β₁ + tan β₂)/2, in mm².</summary>
    public double AreaMm2 => (RootOpening.Mm * Thickness.Mm) + (BevelDepthMm * BevelDepthMm * TanSum / 2);

    private double BevelDepthMm => Thickness.Mm - RootFace.Mm;

    private double TanSum => BevelA.Tan + BevelB.Tan;

    /// <summary>Width of the cap: the face width and the lap of the cap over each edge, in mm.</summary>
    public double CapWidthMm(Length toeOverlap) => FaceWidthMm + (2 * toeOverlap.Mm);

    /// <summary>Area of the reinforcement taken as a parabola of height h over the cap width w: 2/3·w·h, in mm².</summary>
    public double ReinforcementAreaMm2(Length height, Length toeOverlap) => 2.0 / 3 * CapWidthMm(toeOverlap) * height.Mm;

    /// <summary>Volume of the groove along a plate joint, in mm³.</summary>
    public double PlateVolumeMm3(Length jointLength) => AreaMm2 * jointLength.Mm;

    /// <summary>
    /// Volume of the groove round a pipe, exact: ∫₀ᵀ width(z)·2π(rᵢ + z) dz with rᵢ the inside radius, in mm³. The groove is widest where
    /// the pipe is widest, so area times the mean circumference would come out low.
    /// </summary>
    public double PipeVolumeMm3(Length outsideDiameter)
    {
        var inside = InsideRadiusMm(outsideDiameter);
        var (t, d) = (Thickness.Mm, BevelDepthMm);
        var opening = RootOpening.Mm * ((inside * t) + (t * t / 2));
        var bevels = TanSum * (((inside + RootFace.Mm) * d * d / 2) + (d * d * d / 3));
        return 2 * Math.PI * (opening + bevels);
    }

    /// <summary>
    /// Volume of the reinforcement round a pipe, exact for the parabola standing on the outside radius rₒ: 2π(rₒ·A + 4/15·w·h²), in mm³.
    /// </summary>
    public double PipeReinforcementVolumeMm3(Length outsideDiameter, Length height, Length toeOverlap)
    {
        _ = InsideRadiusMm(outsideDiameter);
        var moment = 4.0 / 15 * CapWidthMm(toeOverlap) * height.Mm * height.Mm;
        return 2 * Math.PI * ((outsideDiameter.Mm / 2 * ReinforcementAreaMm2(height, toeOverlap)) + moment);
    }

    private double InsideRadiusMm(Length outsideDiameter)
    {
        var inside = (outsideDiameter.Mm / 2) - Thickness.Mm;
        return inside > 0 ? inside : throw new ArgumentException("The wall must be thinner than the radius of the pipe.", nameof(outsideDiameter));
    }
}
