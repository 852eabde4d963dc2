using System.Text.Json.Serialization;
using Gradus.Core.Joints;
using Gradus.Core.Measure;

namespace Gradus.Core.Welding;

/// <summary>A bead of the plan, with its outline in the section.</summary>
/// <param name="Key">Stage, layer and bead: <c>fill-2-1</c>; on a split coupon with its half: <c>fill-3-1@left</c>. A logged pass names it.</param>
/// <param name="Layer">Layer of the whole joint, from 1 at the root.</param>
/// <param name="BeadInLayer">From 1 in the order in which it is laid.</param>
/// <param name="Pass">Which of the test's passes it belongs to, from 0.</param>
/// <param name="Half">The half of a split coupon that it belongs to; null for the whole.</param>
public sealed record PlannedBead(
    string Key,
    Stage Stage,
    int Layer,
    int BeadInLayer,
    int Pass,
    string? Half,
    double AreaMm2,
    IReadOnlyList<SectionPoint> Outline
);

/// <summary>In which order the beads of a layer are laid.</summary>
public enum BeadOrder
{
    /// <summary>From the lower member up, so that each bead lies on a shelf. Member A of the section is the lower one.</summary>
    BottomUp,

    /// <summary>From one side to the other.</summary>
    SideToSide,
}

/// <summary>A joint section: the outlines of both members and the backing, and the beads that fill the groove. All in mm.</summary>
/// <param name="Insert">The consumable insert before it is melted into the root bead.</param>
/// <param name="RestrictionRing">The ring that leaves little room beside the groove; null where none stands.</param>
/// <param name="CapBeadMm">How wide each bead of the face layer has to be, half over half, to cover it; null for a fillet.</param>
/// <param name="FillBelowFlushMm">How far below flush the fill is to stop.</param>
/// <param name="CapHeightMm">The planned height of the face layer over flush.</param>
public sealed record JointSection(
    IReadOnlyList<SectionPoint> MemberA,
    IReadOnlyList<SectionPoint> MemberB,
    IReadOnlyList<SectionPoint>? Strip,
    IReadOnlyList<SectionPoint>? Insert,
    IReadOnlyList<PlannedBead> Beads,
    BeadOrder Order,
    double FaceWidthMm,
    double GrooveAreaMm2,
    double FillBelowFlushMm,
    double CapHeightMm,
    double OpeningMm,
    double RootFaceMm,
    double OffsetMm,
    double ThicknessMm,
    IReadOnlyList<SectionPoint>? RestrictionRing = null,
    double? CapBeadMm = null
);

/// <summary>Plans the beads that fill a joint.</summary>
public static class BeadPlanner
{
    private const double MemberShownMm = 15;
    private const double RingThickMm = 12.7;
    private const int ArcSteps = 10;

    /// <summary>How far below flush the fill stops, in mm.</summary>
    public static double FillBelowFlushMm(JointShape shape) =>
        Math.Min(TradeNumbers.Of("fillBelowFlushMm"), TradeNumbers.Of("fillBelowFlushShare") * shape.ThicknessMm);

    /// <summary>Planned height of the face layer: the cap of a groove, the convexity of a fillet; mm.</summary>
    public static double CapHeightMm(JointShape shape) =>
        shape.IsFillet
            ? TradeNumbers.Of("filletConvexityMm")
            : Math.Min(TradeNumbers.Of("capHeightMm"), TradeNumbers.Of("capHeightShare") * shape.ThicknessMm);

    /// <summary>Planned lap of the cap over each edge; a fillet ends at its toes; mm.</summary>
    public static double CapLapMm(JointShape shape) =>
        shape.IsFillet ? 0 : Math.Min(TradeNumbers.Of("capLapMm"), TradeNumbers.Of("capLapShare") * shape.ThicknessMm);

    /// <summary>Planned reinforcement of a root that nothing backs, in mm.</summary>
    public static double RootReinforcementMm(JointShape shape) =>
        shape.IsFillet ? 0 : Math.Min(TradeNumbers.Of("rootReinforcementMm"), TradeNumbers.Of("rootReinforcementShare") * shape.ThicknessMm);

    /// <summary>The order for a position by AWS A3.0: from the bottom up where the weld runs level on a wall (2G, 2F, 6G), else side to side.</summary>
    public static BeadOrder OrderIn(string position) => position is "2G" or "2F" or "6G" or "6GR" ? BeadOrder.BottomUp : BeadOrder.SideToSide;

    /// <summary>The section of a joint as planned, or as measured at a point; on a split coupon with the beads of one half.</summary>
    /// <param name="passes">Every pass of the test; a bead names its own by its place among them.</param>
    /// <param name="half">The half whose beads are wanted; null for a coupon that is one.</param>
    public static JointSection Plan(
        JointPlan joint,
        IReadOnlyList<PassPlan> passes,
        string position,
        FitUpPoint? measured = null,
        string? half = null
    ) =>
        Plan(
            JointShape.Of(joint, measured),
            measured?.OffsetMm ?? 0,
            [.. passes.Select((pass, index) => (pass, index)).Where(one => one.pass.Half is null || one.pass.Half == half)],
            joint,
            OrderIn(position)
        );

    /// <summary>The section of a joint with so many beads in each layer, from the root up, all of one size; the last layer is the cap.</summary>
    public static JointSection Plan(JointPlan joint, IReadOnlyList<int> layers, string position)
    {
        var any = new SettingRanges(new Span(1, 1));
        PassPlan Pass(Stage stage, IReadOnlyList<int> beads) =>
            new(
                stage,
                null,
                Process.Smaw,
                new Filler("", 0, "", 0),
                Polarity.Dcep,
                null,
                Progression.None,
                BeadTechnique.Stringer,
                beads,
                1,
                any,
                null
            );
        List<PassPlan> passes = [Pass(Stage.Root, [layers[0]])];
        if (layers.Count > 2)
        {
            passes.Add(Pass(Stage.Fill, [.. layers.Skip(1).SkipLast(1)]));
        }

        if (layers.Count > 1)
        {
            passes.Add(Pass(Stage.Cap, [layers[^1]]));
        }

        return Plan(joint, passes, position);
    }

    /// <summary>Area of the joint, its planned face and, where nothing backs it, its root reinforcement; mm².</summary>
    public static double ToFillMm2(JointShape shape, BackingKind backing) =>
        shape.AreaMm2
        + (2.0 / 3 * (shape.FaceWidthMm + (2 * CapLapMm(shape))) * CapHeightMm(shape))
        + (backing == BackingKind.Strip ? 0 : 2.0 / 3 * shape.OpeningMm * RootReinforcementMm(shape));

    /// <summary>
    /// The section of a joint with its beads. Layers follow the passes; inside the groove each takes an area in proportion to its beads and
    /// their share, found by bisection on the area of the outline itself; the last layer makes the face.
    /// </summary>
    /// <param name="offsetMm">Hi-lo: how far member B lies above member A, 0 or more.</param>
    private static JointSection Plan(
        JointShape shape,
        double offsetMm,
        IReadOnlyList<(PassPlan Pass, int Index)> passes,
        JointPlan joint,
        BeadOrder order
    )
    {
        var walls = new Walls(shape, shape.IsFillet ? 0 : offsetMm);
        var layers = passes
            .OrderBy(one => one.Pass.Stage)
            .SelectMany(one => one.Pass.Layers.Select(beads => (one.Pass, one.Index, Beads: beads)))
            .Select((layer, index) => new Layer(layer.Pass, layer.Index, layer.Beads, index + 1))
            .Where(layer => layer.Beads > 0)
            .ToList();
        var strip = joint.Backing.Kind == BackingKind.Strip;
        var beads = BeadsOf(walls, layers, rootBare: !strip);
        var turn = shape.IsFillet ? Turned : (Func<IEnumerable<SectionPoint>, IReadOnlyList<SectionPoint>>)(points => [.. points]);
        return new JointSection(
            shape.IsFillet ? Web(shape, joint) : walls.MemberA(MemberShownMm),
            shape.IsFillet ? Flange(shape, joint) : walls.MemberB(Math.Max(MemberShownMm, (joint.RingMm ?? 0) + RingThickMm)),
            strip ? Strip(shape.OpeningMm, joint.Backing) : null,
            joint.Insert is null ? null : Ring(shape),
            [.. beads.Select(bead => bead with { Outline = turn(bead.Outline) })],
            order,
            shape.FaceWidthMm,
            shape.AreaMm2,
            HasCap(shape, layers) ? FillBelowFlushMm(shape) : 0,
            CapHeightMm(shape),
            shape.OpeningMm,
            shape.RootFaceMm,
            shape.IsFillet ? 0 : offsetMm,
            shape.ThicknessMm,
            joint.RingMm is { } off && !shape.IsFillet ? walls.Ring(off) : null,
            CapBeadMm(shape, layers)
        );
    }

    private static double? CapBeadMm(JointShape shape, List<Layer> layers) =>
        shape.IsFillet || layers.Count == 0
            ? null
            : BeadsAcross.WidthEachMm(Length.FromMm(shape.FaceWidthMm + (2 * CapLapMm(shape))), layers[^1].Beads, TradeNumbers.Of("beadOverlap"));

    private static bool HasCap(JointShape shape, List<Layer> layers) => layers is [.., { Pass.Stage: Stage.Cap }] && !shape.IsFillet;

    /// <param name="Number">Layer of the whole joint; one that was left out keeps its number.</param>
    private sealed record Layer(PassPlan Pass, int Index, int Beads, int Number);

    private static List<PlannedBead> BeadsOf(Walls walls, List<Layer> layers, bool rootBare)
    {
        var beads = new List<PlannedBead>();
        var levels = Levels(walls.Shape, layers);
        var below = rootBare ? walls.RootSurface(RootReinforcementMm(walls.Shape)) : walls.Level(0, 1);
        for (var index = 0; index < layers.Count; index++)
        {
            var (pass, which, count, number) = layers[index];
            var above = index == layers.Count - 1 ? walls.Face(count) : walls.Level(levels[index], count);
            for (var bead = 0; bead < count; bead++)
            {
                // Of a fillet's beads the first lies on the flange, which is member B.
                var outline = Outline(walls, below, above, walls.Shape.IsFillet ? count - 1 - bead : bead, count);
                var key = $"{StageKey(pass.Stage)}-{number}-{bead + 1}{(pass.Half is null ? "" : "@" + pass.Half)}";
                beads.Add(new PlannedBead(key, pass.Stage, number, bead + 1, which, pass.Half, Area(outline), outline));
            }

            below = above;
        }

        return beads;
    }

    /// <summary>The height in mm at which each layer under the face layer ends.</summary>
    private static double[] Levels(JointShape shape, List<Layer> layers)
    {
        var top = shape.ThicknessMm - FillBelowFlushMm(shape);
        var inside = layers.Take(layers.Count - 1).ToList();

        // Without a cap the last layer takes its share of the groove and the face as well.
        var sharing = HasCap(shape, layers) ? inside : layers;
        var total = sharing.Sum(layer => layer.Beads * layer.Pass.BeadShare);
        var whole = sharing == inside ? shape.AreaTo(top) : shape.AreaMm2;
        var sum = 0.0;
        return
        [
            .. inside.Select(layer =>
            {
                sum += layer.Beads * layer.Pass.BeadShare;
                return shape.HeightOf(whole * sum / total);
            }),
            shape.ThicknessMm,
        ];
    }

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

    /// <summary>The outline of a short bead in a low place, on top of what lies under the cap; several stand side by side.</summary>
    /// <param name="index">Which of them, from 0, of how many.</param>
    public static IReadOnlyList<SectionPoint> Patch(JointSection section, int index, int count)
    {
        const double WidthShare = 0.3;
        const double LeastHeightMm = 0.8;
        var under = section.Beads.Where(bead => bead.Stage < Stage.Cap).DefaultIfEmpty(section.Beads[^1]).Last().Outline;
        var top = under.Max(point => point.Y);
        var left = section.Beads.Where(bead => bead.Stage < Stage.Cap).DefaultIfEmpty(section.Beads[^1]).SelectMany(bead => bead.Outline).ToList();
        var (from, to) = (left.Min(point => point.X), left.Max(point => point.X));
        var (width, height) = ((to - from) * WidthShare, Math.Max(LeastHeightMm, section.FillBelowFlushMm));
        var middle = from + ((to - from) * (index + 1) / (count + 1));
        return
        [
            .. Enumerable
                .Range(0, 2 * ArcSteps)
                .Select(step => step * Math.PI / ArcSteps)
                .Select(angle => new SectionPoint(middle + (width / 2 * Math.Cos(angle)), top + (height / 2 * Math.Sin(angle)))),
        ];
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

    /// <summary>The ring fills the opening and stands a little proud of the bore and of the root face.</summary>
    private static List<SectionPoint> Ring(JointShape shape)
    {
        var (width, proud) = (shape.OpeningMm, RootReinforcementMm(shape));
        var top = Math.Min(shape.ThicknessMm, width);
        return [new(0, -proud), new(width, -proud), new(width, top), new(0, top)];
    }

    /// <summary>From the frame in which a fillet's throat points up to one in which its flange lies flat and its web stands on the left.</summary>
    private static IReadOnlyList<SectionPoint> Turned(IEnumerable<SectionPoint> points)
    {
        var (sin, cos) = (-Math.Sqrt(0.5), Math.Sqrt(0.5));
        return [.. points.Select(point => new SectionPoint((point.X * cos) - (point.Y * sin), (point.X * sin) + (point.Y * cos)))];
    }

    private static List<SectionPoint> Web(JointShape shape, JointPlan joint)
    {
        // On a lap the upper sheet is only as high as it is thick.
        var (thick, high) =
            shape.Form == JointForm.LapFillet
                ? (shape.LegMm!.Value + MemberShownMm, joint.ThicknessMm)
                : (joint.ThicknessMm, shape.LegMm!.Value + MemberShownMm);
        return [new(0, 0), new(0, high), new(-thick, high), new(-thick, 0)];
    }

    private static List<SectionPoint> Flange(JointShape shape, JointPlan joint)
    {
        var (leg, thick) = (shape.LegMm!.Value, joint.ThicknessMm);
        var left = shape.Form == JointForm.LapFillet ? leg + MemberShownMm : joint.ThicknessMm + MemberShownMm;
        return [new(0, 0), new(leg, 0), new(leg + MemberShownMm, 0), new(leg + MemberShownMm, -thick), new(-left, -thick), new(-left, 0)];
    }

    private static string StageKey(Stage stage) => stage.ToString().ToLowerInvariant();

    /// <summary>The two walls in place. Member A's root corner is at (0, 0), member B's at (opening, offset).</summary>
    private sealed class Walls(JointShape shape, double offset)
    {
        public JointShape Shape { get; } = shape;

        private readonly List<SectionPoint> left = [.. shape.CornersA.Select(corner => new SectionPoint(-corner.X, corner.Y))];
        private readonly List<SectionPoint> right =
        [
            .. shape.CornersB.Select(corner => new SectionPoint(shape.OpeningMm + corner.X, corner.Y + offset)),
        ];

        public List<SectionPoint> MemberA(double shown) =>
            [new(0, 0), .. left, new(left[^1].X - shown, Shape.ThicknessMm), new(left[^1].X - shown, 0)];

        public List<SectionPoint> MemberB(double shown) =>
            [new(Shape.OpeningMm, offset), .. right, new(right[^1].X + shown, Shape.ThicknessMm + offset), new(right[^1].X + shown, offset)];

        /// <summary>A ring that stands on member B, at its distance from the edge of the groove.</summary>
        public List<SectionPoint> Ring(double off)
        {
            const double Shown = 8;
            var (near, foot) = (right[^1].X + off, Shape.ThicknessMm + offset);
            return [new(near, foot), new(near + RingThickMm, foot), new(near + RingThickMm, foot + Shown), new(near, foot + Shown)];
        }

        /// <summary>The surface at a height; with beads under it, each stands a little proud between its edges.</summary>
        public List<SectionPoint> Level(double height, int beads)
        {
            var (from, to) = (Left(height), Right(height));
            var proud = height > 0 ? Math.Min(0.45, (to.X - from.X) / beads * 0.08) : 0;
            return height == 0 ? [from, to] : Scalloped(from, to, beads, proud, 0);
        }

        /// <summary>The face: from toe to toe, a parabola that each bead ripples slightly.</summary>
        public List<SectionPoint> Face(int beads)
        {
            var lap = CapLapMm(Shape);
            var (from, to) = (left[^1] with { X = left[^1].X - lap }, right[^1] with { X = right[^1].X + lap });
            // The ripples are taken out of the crown, so that the whole keeps the area of the planned cap.
            var height = CapHeightMm(Shape);
            var ripple = beads > 1 ? Math.Min(0.25, height / 4) : 0;
            return Scalloped(from, to, beads, ripple, height - ripple);
        }

        /// <summary>The root reinforcement under the opening.</summary>
        public List<SectionPoint> RootSurface(double height) => Scalloped(new(0, 0), new(Shape.OpeningMm, offset), 1, 0, -height);

        /// <summary>The corners of the left wall that lie between two ends on it, from the upper to the lower.</summary>
        public IEnumerable<SectionPoint> LeftCorners(SectionPoint below, SectionPoint above) =>
            Enumerable.Reverse(left).Where(corner => LiesBetween(below, corner, above));

        /// <summary>The corners of the right wall that lie between two ends on it, from the lower to the upper.</summary>
        public IEnumerable<SectionPoint> RightCorners(SectionPoint below, SectionPoint above) =>
            right.Where(corner => LiesBetween(below, corner, above));

        // The toe of a cap stands level with the edge that it laps over, so a corner level with the upper end counts when it is not that end.
        private static bool LiesBetween(SectionPoint below, SectionPoint corner, SectionPoint above) =>
            corner.Y > below.Y + 1e-9 && corner.Y < above.Y + 1e-9 && Math.Abs(corner.X - above.X) > 1e-9;

        private SectionPoint Left(double height) => new(-Shape.OutA(height), height);

        private SectionPoint Right(double height) => new(Shape.OpeningMm + Shape.OutB(height), height + offset);

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
