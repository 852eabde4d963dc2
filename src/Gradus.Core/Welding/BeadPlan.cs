using System.Text.Json.Serialization;
using Gradus.Core.Joints;
using Gradus.Core.Library;

namespace Gradus.Core.Welding;

/// <summary>A point of the joint section in mm: x across from the root corner of member A, y up from the back of member A.</summary>
public readonly record struct SectionPoint([property: JsonRequired] double X, [property: JsonRequired] double Y);

/// <summary>A bead of the plan, with its outline in the section.</summary>
/// <param name="Key">Stage, layer and bead: <c>fill-2-1</c>. A logged pass names it.</param>
/// <param name="Layer">Layer of the whole joint, from 1 at the root.</param>
/// <param name="BeadInLayer">From 1 in the order in which it is laid.</param>
public sealed record PlannedBead(string Key, Stage Stage, int Layer, int BeadInLayer, double AreaMm2, IReadOnlyList<SectionPoint> Outline);

/// <summary>A joint section: the outlines of both members and the backing, and the beads that fill the groove. All in mm.</summary>
public sealed record JointSection(
    IReadOnlyList<SectionPoint> MemberA,
    IReadOnlyList<SectionPoint> MemberB,
    IReadOnlyList<SectionPoint>? Strip,
    IReadOnlyList<PlannedBead> Beads,
    double FaceWidthMm,
    double GrooveAreaMm2
);

/// <summary>Plans the beads that fill a groove.</summary>
public static class BeadPlanner
{
    /// <summary>Fill stops this far below flush, so that the edges guide the cap: 1/32 to 1/16 in, common practice; mm.</summary>
    public const double FillBelowFlushMm = 1.2;

    /// <summary>The planned height of the cap: about 1/16 in, common practice; mm.</summary>
    public const double CapHeightMm = 1.5875;

    /// <summary>The lap of the cap over each edge: about 1/16 in, common practice; mm.</summary>
    public const double ToeOverlapMm = 1.5875;

    /// <summary>The planned root reinforcement of an open root: within flush to 1/16 in, common practice; mm.</summary>
    public const double RootReinforcementMm = 0.8;

    private const double MostBelowFlush = 0.2; // of the thickness, so that thin sheet keeps some fill under its cap
    private const double MemberShownMm = 15;
    private const int ArcSteps = 10;

    /// <summary>
    /// The section of a single-V joint with its beads. Layers follow the pass plan; inside the groove each takes an area in proportion to its
    /// beads and their share, found by bisection on the area of the outlines themselves; the cap stands on the last 1.2 mm.
    /// </summary>
    /// <param name="groove">The groove, planned or as measured.</param>
    /// <param name="offsetMm">Hi-lo: how far member B lies above member A, 0 or more.</param>
    /// <param name="passes">The passes in the order of welding.</param>
    /// <param name="backing">The backing; without a strip the root gets a small reinforcement.</param>
    public static JointSection Plan(SingleVGroove groove, double offsetMm, IReadOnlyList<PassPlan> passes, Backing backing)
    {
        var walls = new Walls(groove, offsetMm);
        var layers = passes
            .OrderBy(pass => pass.Stage)
            .SelectMany(pass => pass.Layers.Select(beads => (pass.Stage, Beads: beads, pass.BeadShare)))
            .ToList();
        var strip = backing.Kind == BackingKind.Strip;
        return new JointSection(
            walls.MemberA(MemberShownMm),
            walls.MemberB(MemberShownMm),
            strip ? Strip(groove.RootOpening.Mm, backing) : null,
            Beads(walls, layers, openRoot: !strip),
            groove.FaceWidthMm,
            groove.AreaMm2
        );
    }

    private static List<PlannedBead> Beads(Walls walls, List<(Stage Stage, int Beads, double BeadShare)> layers, bool openRoot)
    {
        var beads = new List<PlannedBead>();
        var levels = Levels(walls, layers);
        var below = openRoot ? walls.RootSurface(RootReinforcementMm) : walls.Level(0);
        for (var index = 0; index < layers.Count; index++)
        {
            var (stage, count, _) = layers[index];
            var isCap = stage == Stage.Cap && index == layers.Count - 1;
            var above = isCap ? walls.Cap(count) : walls.Level(levels[index], count);
            for (var bead = 0; bead < count; bead++)
            {
                var outline = Outline(walls, below, above, bead, count);
                beads.Add(new PlannedBead($"{StageKey(stage)}-{index + 1}-{bead + 1}", stage, index + 1, bead + 1, Area(outline), outline));
            }

            below = above;
        }

        return beads;
    }

    /// <summary>The level, as a share of the thickness, at which each layer under the cap ends.</summary>
    private static double[] Levels(Walls walls, List<(Stage Stage, int Beads, double BeadShare)> layers)
    {
        var inside = layers.Count(layer => layer.Stage != Stage.Cap);
        var top = layers.Count == inside ? 1 : 1 - Math.Min(FillBelowFlushMm / walls.ThicknessMm, MostBelowFlush);
        var total = layers.Take(inside).Sum(layer => layer.Beads * layer.BeadShare);
        var whole = walls.AreaTo(top);
        var levels = new double[layers.Count];
        var sum = 0.0;
        for (var index = 0; index < inside; index++)
        {
            sum += layers[index].Beads * layers[index].BeadShare;
            levels[index] = index == inside - 1 ? top : Bisect(level => walls.AreaTo(level) - (whole * sum / total), 0, top);
        }

        return levels;
    }

    private static double Bisect(Func<double, double> f, double low, double high) =>
        MathNet.Numerics.RootFinding.Bisection.FindRoot(f, low, high, 1e-9);

    /// <summary>One bead of several between two surfaces, counter-clockwise; the outer ones follow the walls round their corners.</summary>
    private static List<SectionPoint> Outline(Walls walls, List<SectionPoint> below, List<SectionPoint> above, int bead, int count)
    {
        var outline = Cut(below, bead, count);
        if (bead == count - 1)
        {
            outline.AddRange(walls.RightCorners(below[^1], above[^1]));
        }

        outline.AddRange(Enumerable.Reverse(Cut(above, bead, count)));
        if (bead == 0)
        {
            outline.AddRange(walls.LeftCorners(below[0], above[0]));
        }

        return outline;
    }

    /// <summary>The share of a surface that belongs to one bead, its ends included.</summary>
    private static List<SectionPoint> Cut(List<SectionPoint> surface, int bead, int count)
    {
        var width = surface[^1].X - surface[0].X;
        var low = surface[0].X + (width * bead / count);
        var high = surface[0].X + (width * (bead + 1) / count);
        return
        [
            new SectionPoint(low, HeightAt(surface, low)),
            .. surface.Where(point => point.X > low + 1e-9 && point.X < high - 1e-9),
            new SectionPoint(high, HeightAt(surface, high)),
        ];
    }

    private static double HeightAt(List<SectionPoint> surface, double x)
    {
        for (var index = 1; index < surface.Count; index++)
        {
            var (a, b) = (surface[index - 1], surface[index]);
            if (x <= b.X)
            {
                return b.X - a.X < 1e-12 ? b.Y : a.Y + ((b.Y - a.Y) * Math.Max(0, x - a.X) / (b.X - a.X));
            }
        }

        return surface[^1].Y;
    }

    /// <summary>Area inside an outline (shoelace formula), mm².</summary>
    internal static double Area(IReadOnlyList<SectionPoint> outline)
    {
        var twice = 0.0;
        for (var index = 0; index < outline.Count; index++)
        {
            var (a, b) = (outline[index], outline[(index + 1) % outline.Count]);
            twice += (a.X * b.Y) - (b.X * a.Y);
        }

        return Math.Abs(twice) / 2;
    }

    private static List<SectionPoint> Strip(double opening, Backing backing)
    {
        var (half, depth) = ((backing.WidthMm ?? 25.4) / 2, backing.ThicknessMm ?? 6.35);
        var middle = opening / 2;
        return [new(middle - half, 0), new(middle + half, 0), new(middle + half, -depth), new(middle - half, -depth)];
    }

    private static string StageKey(Stage stage) => stage.ToString().ToLowerInvariant();

    /// <summary>The two bevelled walls. Member A's root corner is at (0, 0), member B's at (opening, offset).</summary>
    private sealed class Walls(SingleVGroove groove, double offset)
    {
        private readonly double opening = groove.RootOpening.Mm;

        public double ThicknessMm { get; } = groove.Thickness.Mm;

        public List<SectionPoint> MemberA(double shown) =>
            [
                new(0, 0),
                Left(groove.RootFace.Mm),
                Left(ThicknessMm),
                new(Left(ThicknessMm).X - shown, ThicknessMm),
                new(Left(ThicknessMm).X - shown, 0),
            ];

        public List<SectionPoint> MemberB(double shown) =>
            [
                new(opening, offset),
                Right(groove.RootFace.Mm),
                Right(ThicknessMm),
                new(Right(ThicknessMm).X + shown, ThicknessMm + offset),
                new(Right(ThicknessMm).X + shown, offset),
            ];

        /// <summary>The surface at a share of the thickness; with beads under it, each stands a little proud between its edges.</summary>
        public List<SectionPoint> Level(double share, int beads = 1)
        {
            var (left, right) = (Left(share * ThicknessMm), Right(share * ThicknessMm));
            var proud = share is > 0 and < 1 ? Math.Min(0.45, (right.X - left.X) / beads * 0.08) : 0;
            return share == 0 ? [left, right] : Scalloped(left, right, beads, proud, 0);
        }

        /// <summary>The cap: from toe to toe, a parabola that each bead ripples slightly.</summary>
        public List<SectionPoint> Cap(int beads)
        {
            var (left, right) = (Left(ThicknessMm), Right(ThicknessMm));
            left = left with { X = left.X - ToeOverlapMm };
            right = right with { X = right.X + ToeOverlapMm };
            // The ripples are taken out of the crown, so that the whole keeps the area of the planned cap.
            var ripple = beads > 1 ? 0.25 : 0;
            return Scalloped(left, right, beads, ripple, CapHeightMm - ripple);
        }

        /// <summary>The root reinforcement under the opening.</summary>
        public List<SectionPoint> RootSurface(double height) => Scalloped(new(0, 0), new(opening, offset), 1, 0, -height);

        /// <summary>Area of the groove from the root to a share of the thickness.</summary>
        public double AreaTo(double share)
        {
            var outline = new List<SectionPoint> { new(0, 0), new(opening, offset) };
            var height = share * ThicknessMm;
            if (height > groove.RootFace.Mm)
            {
                outline.Add(Right(groove.RootFace.Mm));
            }

            outline.Add(Right(height));
            outline.Add(Left(height));
            if (height > groove.RootFace.Mm)
            {
                outline.Add(Left(groove.RootFace.Mm));
            }

            return Area(outline);
        }

        /// <summary>The corners of the left wall that lie between two ends on it, from the upper to the lower.</summary>
        public IEnumerable<SectionPoint> LeftCorners(SectionPoint below, SectionPoint above) =>
            new[] { Left(ThicknessMm), Left(groove.RootFace.Mm) }.Where(corner => LiesBetween(below, corner, above));

        /// <summary>The corners of the right wall that lie between two ends on it, from the lower to the upper.</summary>
        public IEnumerable<SectionPoint> RightCorners(SectionPoint below, SectionPoint above) =>
            new[] { Right(groove.RootFace.Mm), Right(ThicknessMm) }.Where(corner => LiesBetween(below, corner, above));

        // The toe of a cap stands level with the edge that it laps over, so a corner level with the upper end counts when it is not that end.
        private static bool LiesBetween(SectionPoint below, SectionPoint corner, SectionPoint above) =>
            corner.Y > below.Y + 1e-9 && corner.Y < above.Y + 1e-9 && Math.Abs(corner.X - above.X) > 1e-9;

        private SectionPoint Left(double height) => new(-Math.Max(0, height - groove.RootFace.Mm) * groove.BevelA.Tan, height);

        private SectionPoint Right(double height) => new(opening + (Math.Max(0, height - groove.RootFace.Mm) * groove.BevelB.Tan), height + offset);

        private static List<SectionPoint> Scalloped(SectionPoint left, SectionPoint right, int beads, double proud, double crown)
        {
            var steps = beads * ArcSteps;
            return
            [
                .. Enumerable
                    .Range(0, steps + 1)
                    .Select(step =>
                    {
                        var t = (double)step / steps;
                        var inBead = (t * beads) - Math.Min(beads - 1, Math.Floor(t * beads));
                        var rise = (crown * 4 * t * (1 - t)) + (proud * 4 * inBead * (1 - inBead));
                        return new SectionPoint(left.X + ((right.X - left.X) * t), left.Y + ((right.Y - left.Y) * t) + rise);
                    }),
            ];
        }
    }
}
