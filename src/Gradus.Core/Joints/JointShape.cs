using Gradus.Core.Measure;
using MathNet.Numerics.RootFinding;

namespace Gradus.Core.Joints;

/// <summary>
/// The section of any joint of the library as two walls over a root opening: single V with equal or unequal bevels, J on one or both members,
/// square butt; a fillet is the 90° groove between its two members, of the depth of its throat. Wall A runs up from (0, 0), wall B from
/// (opening, 0); both as offsets from their root corner. All in mm.
/// </summary>
public sealed class JointShape
{
    private const int ArcSteps = 24;
    private readonly SectionPoint[] wallA;
    private readonly SectionPoint[] wallB;

    private JointShape(JointForm form, double thickness, double opening, SectionPoint[] wallA, SectionPoint[] wallB, double? leg)
    {
        (Form, ThicknessMm, OpeningMm, LegMm) = (form, thickness, opening, leg);
        (this.wallA, this.wallB) = (wallA, wallB);
    }

    /// <summary>The form of the joint.</summary>
    public JointForm Form { get; }

    /// <summary>Depth that is filled: the thickness of a butt joint, the throat of a fillet.</summary>
    public double ThicknessMm { get; }

    /// <summary>Root opening.</summary>
    public double OpeningMm { get; }

    /// <summary>Height of the square root face of wall A; a square butt is all face.</summary>
    public double RootFaceMm => wallA.Length > 1 && wallA[1].X == 0 ? wallA[1].Y : 0;

    /// <summary>Leg of a fillet; null for a butt joint.</summary>
    public double? LegMm { get; }

    /// <summary>True for a fillet between two members.</summary>
    public bool IsFillet => LegMm is not null;

    /// <summary>Width of the groove at the face.</summary>
    public double FaceWidthMm => WidthAt(ThicknessMm);

    /// <summary>Area to be filled up to flush, without reinforcement, in mm².</summary>
    public double AreaMm2 => AreaTo(ThicknessMm);

    /// <summary>Width of the groove at a height above the root.</summary>
    public double WidthAt(double height) => OpeningMm + OutA(height) + OutB(height);

    /// <summary>Mean width of the groove: its area over its depth.</summary>
    public double MeanWidthMm => AreaMm2 / ThicknessMm;

    /// <summary>Area from the root up to a height, in mm²; exact for the outline that is drawn.</summary>
    public double AreaTo(double height) => (OpeningMm * height) + AreaBeside(wallA, height) + AreaBeside(wallB, height);

    /// <summary>Height at which the groove holds an area, by bisection.</summary>
    public double HeightOf(double areaMm2) =>
        areaMm2 <= 0 ? 0
        : areaMm2 >= AreaMm2 ? ThicknessMm
        : Bisection.FindRoot(height => AreaTo(height) - areaMm2, 0, ThicknessMm, 1e-9);

    /// <summary>How far wall A stands back from its root corner at a height.</summary>
    internal double OutA(double height) => Out(wallA, height);

    /// <summary>How far wall B stands back from its root corner at a height.</summary>
    internal double OutB(double height) => Out(wallB, height);

    /// <summary>The corners of wall A between the root and the face, from below; X is the distance back from the root corner.</summary>
    internal IReadOnlyList<SectionPoint> CornersA => wallA[1..];

    /// <inheritdoc cref="CornersA"/>
    internal IReadOnlyList<SectionPoint> CornersB => wallB[1..];

    /// <summary>The joint as planned, or as it was measured at a point; what was not measured is as planned.</summary>
    /// <exception cref="ArgumentException">The measures make no joint: a root face over the thickness, or a J deeper than it.</exception>
    public static JointShape Of(JointPlan joint, FitUpPoint? measured = null)
    {
        if (joint.Form is JointForm.TeeFillet or JointForm.LapFillet)
        {
            return Fillet(joint.Form, joint.LegMm ?? throw new ArgumentException("A fillet has a leg.", nameof(joint)));
        }

        var thickness = joint.ThicknessMm;
        var face = joint.Form == JointForm.SquareButt ? thickness : Math.Min(measured?.RootFaceMm ?? joint.RootFaceMm, thickness);
        var radius = joint.Form == JointForm.SingleJ ? joint.JRadiusMm ?? 0 : 0;
        return new JointShape(
            joint.Form,
            thickness,
            measured?.RootOpeningMm ?? joint.RootOpeningMm,
            Wall(thickness, face, measured?.BevelDegA ?? joint.BevelDegA, radius),
            Wall(thickness, face, measured?.BevelDegB ?? joint.BevelDegB, radius),
            null
        );
    }

    /// <summary>A single V, or with a root radius a J (U where both members have a bevel). A member without a bevel stays square.</summary>
    /// <exception cref="ArgumentException">As <see cref="Of"/>.</exception>
    public static JointShape Butt(Length thickness, BevelAngle bevelA, BevelAngle bevelB, Length opening, Length face, Length radius) =>
        new(
            radius.Mm > 0 ? JointForm.SingleJ : JointForm.SingleV,
            thickness.Mm,
            opening.Mm,
            Wall(thickness.Mm, face.Mm, bevelA.Degrees, radius.Mm),
            Wall(thickness.Mm, face.Mm, bevelB.Degrees, radius.Mm),
            null
        );

    /// <summary>An equal-leg fillet: throat = leg/√2, area = leg²/2.</summary>
    public static JointShape Fillet(JointForm form, double legMm)
    {
        if (legMm <= 0)
        {
            throw new ArgumentException("The leg is over 0.", nameof(legMm));
        }

        var throat = legMm / Math.Sqrt(2);
        SectionPoint[] wall = [new(0, 0), new(throat, throat)];
        return new JointShape(form, throat, 0, wall, wall, legMm);
    }

    /// <summary>Transverse shrinkage to be expected across the joint: a tenth of the mean width of the weld (Blodgett).</summary>
    public double ShrinkageMm => TradeNumbers.Of("shrinkageShare") * MeanWidthMm;

    private static SectionPoint[] Wall(double thickness, double face, double bevelDeg, double radius)
    {
        if (face > thickness)
        {
            throw new ArgumentException("The root face cannot be thicker than the material.", nameof(face));
        }

        var bevel = BevelAngle.FromDegrees(bevelDeg);
        var wall = new List<SectionPoint> { new(0, 0) };
        if (face > 0)
        {
            wall.Add(new SectionPoint(0, face));
        }

        var (x, y) = (0.0, face);
        if (radius > 0 && bevel.Degrees > 0)
        {
            // The arc leaves the root face level and ends where it runs along the bevel.
            var turn = (Math.PI / 2) - (bevel.Degrees * Math.PI / 180);
            if (face + (radius * (1 - Math.Cos(turn))) > thickness)
            {
                throw new ArgumentException("The radius of the J does not fit into the thickness.", nameof(radius));
            }

            for (var step = 1; step <= ArcSteps; step++)
            {
                var angle = turn * step / ArcSteps;
                (x, y) = (radius * Math.Sin(angle), face + (radius * (1 - Math.Cos(angle))));
                wall.Add(new SectionPoint(x, y));
            }
        }

        if (y < thickness)
        {
            wall.Add(new SectionPoint(x + ((thickness - y) * bevel.Tan), thickness));
        }

        return [.. wall];
    }

    private static double Out(SectionPoint[] wall, double height)
    {
        for (var index = 1; index < wall.Length; index++)
        {
            var (low, high) = (wall[index - 1], wall[index]);
            if (height <= high.Y)
            {
                return high.Y - low.Y < 1e-12 ? high.X : low.X + ((high.X - low.X) * (height - low.Y) / (high.Y - low.Y));
            }
        }

        return wall[^1].X;
    }

    private static double AreaBeside(SectionPoint[] wall, double height)
    {
        var area = 0.0;
        for (var index = 1; index < wall.Length && wall[index - 1].Y < height; index++)
        {
            var top = Math.Min(height, wall[index].Y);
            area += (top - wall[index - 1].Y) * (wall[index - 1].X + Out(wall, top)) / 2;
        }

        return area;
    }
}
