using System.Globalization;
using System.Text.RegularExpressions;
using Gradus.Core.Library;
using Gradus.Core.Measure;
using Gradus.Core.Welding;

namespace Gradus.Core.Coaching;

/// <summary>What the root of a joint is laid against, as far as it changes how it is welded.</summary>
public enum CoachJoint
{
    Open,
    Strip,
    Insert,
    Fillet,

    /// <summary>Sheet in a fixture.</summary>
    Sheet,

    /// <summary>A hole that is filled onto the member under it.</summary>
    Plug,
}

/// <summary>What the tip does relative to the travel: ahead of the bead, back at it, or neither.</summary>
public enum TravelAngle
{
    Push,
    Drag,
}

/// <summary>The picture of the hand's rhythm.</summary>
public enum Motion
{
    Straight,
    Whip,
    Weave,
    Flick,
    Circles,
    Steps,
    Dip,
    SideStep,
    ToAndFro,
}

/// <summary>Where a card, a difference or a role holds; null is anywhere.</summary>
/// <param name="Positions">By AWS A3.0.</param>
public sealed record CoachWhen(
    IReadOnlyList<Process>? Processes = null,
    ElectrodeFamily? Family = null,
    CoachJoint? Joint = null,
    IReadOnlyList<Stage>? Stages = null,
    IReadOnlyList<BeadTechnique>? Techniques = null,
    IReadOnlyList<Progression>? Progressions = null,
    IReadOnlyList<string>? Positions = null,
    IReadOnlyList<BaseMetal>? Metals = null
)
{
    internal bool Holds(CoachPlace place) =>
        (Processes is null || Processes.Contains(place.Process))
        && (Metals is null || Metals.Contains(place.Metal))
        && (Family is null || Family == place.Family)
        && (Joint is null || Joint == place.Joint)
        && (Stages is null || Stages.Contains(place.Stage))
        && (Techniques is null || Techniques.Contains(place.Technique))
        && (Progressions is null || Progressions.Contains(place.Progression))
        && (Positions is null || Positions.Contains(place.Position));
}

/// <summary>An angle along the travel, in degrees from square.</summary>
public sealed record CoachAngle(
    TravelAngle Travel,
    double MinDeg,
    double MaxDeg,
    IReadOnlyList<Stage>? Stages = null,
    IReadOnlyList<Progression>? Progressions = null,
    IReadOnlyList<string>? Positions = null
)
{
    internal bool Holds(CoachPlace place) => new CoachWhen(null, null, null, Stages, null, Progressions, Positions).Holds(place);
}

/// <summary>How far the arc is kept: its length, or for wire the way from the contact tip to the work.</summary>
/// <param name="Kind"><c>arc</c> or <c>stickOut</c>.</param>
/// <param name="MinOfD">In diameters of the electrode; else in mm.</param>
public sealed record CoachArc(string Kind, string Says, double? MinOfD = null, double? MaxOfD = null, double? MinMm = null, double? MaxMm = null);

/// <summary>What the hand does.</summary>
public sealed record CoachMotion(Motion Draw, string Says);

/// <summary>What is usual of a pace: inches of bead from a rod, or inches in a minute.</summary>
/// <param name="Per"><c>rodIn</c> or <c>inPerMin</c>.</param>
public sealed record UsualPace(string Per, double Min, double Max);

/// <summary>How a kind of bead is laid, wherever it is laid. Lengths in braces are so many diameters of the electrode: <c>{1.5d}</c>.</summary>
/// <param name="Angles">The first that holds.</param>
/// <param name="Mistakes">What goes wrong first.</param>
/// <param name="Right">How it looks when it is right.</param>
public sealed record CoachBase(
    string Id,
    string Name,
    CoachWhen When,
    IReadOnlyList<CoachAngle> Angles,
    CoachArc Arc,
    CoachMotion Motion,
    string Watch,
    string Stop,
    string Mistakes,
    string Right,
    string Source,
    UsualPace? Pace = null
);

/// <summary>What a position, on fixed pipe a zone of it, changes.</summary>
/// <param name="MostDeg">The most that is pushed there.</param>
public sealed record CoachPosition(
    string Id,
    IReadOnlyList<string> Positions,
    string Source,
    string? Angle = null,
    string? Hold = null,
    string? Heat = null,
    string? Watch = null,
    string? Body = null,
    PipeZone? Zone = null,
    double? MostDeg = null,
    CoachJoint? Joint = null,
    IReadOnlyList<Stage>? Stages = null,
    IReadOnlyList<Progression>? Progressions = null
)
{
    internal bool Holds(CoachPlace place) =>
        (Zone is null || Zone == place.Zone) && new CoachWhen(null, null, Joint, Stages, null, Progressions, Positions).Holds(place);
}

/// <summary>What a bead's place in its layer asks for.</summary>
/// <param name="LeanDeg">Across the joint, as it is drawn in the section: to the left of it when negative.</param>
public sealed record CoachRole(
    string Id,
    string Aim,
    string Covers,
    double LeanDeg,
    string Source,
    IReadOnlyList<string>? Positions = null,
    IReadOnlyList<Process>? Processes = null
)
{
    internal bool Holds(CoachPlace place) => Id == place.Role && new CoachWhen(Processes, null, null, null, null, null, Positions).Holds(place);
}

/// <summary>The key of a card: everything that decides how a bead is laid.</summary>
/// <param name="Zone">Of a fixed pipe; null elsewhere.</param>
/// <param name="Role">The bead's place in its layer: an id of the roles.</param>
/// <param name="BeadAreaMm2">Of the bead as it is planned.</param>
/// <param name="WireFeedMmPerMin">The middle of the range, or what the student sets; null where nothing is fed.</param>
public sealed record CoachPlace(
    Process Process,
    ElectrodeFamily Family,
    CoachJoint Joint,
    Stage Stage,
    BeadTechnique Technique,
    Progression Progression,
    string Position,
    PipeZone? Zone,
    string Role,
    double DiameterMm,
    double BeadAreaMm2,
    double? WireFeedMmPerMin,
    double DensityKgPerM3,
    BaseMetal Metal = BaseMetal.CarbonSteel
);

/// <summary>One of the four things to mind. Each line is at most 60 characters.</summary>
/// <param name="Here">What this position or bead adds; null when nothing.</param>
public sealed record CoachCue(string Says, string? Here);

/// <summary>What is said beside a bead.</summary>
/// <param name="Id">The base card that it stands on.</param>
/// <param name="ArcMm">The least and the most of the arc or the stick-out, in mm.</param>
/// <param name="Place">Where to aim; what it covers is its second line.</param>
/// <param name="Pace">How fast, from the bead plan; null where nothing is deposited by plan.</param>
/// <param name="PaceOff">Why the plan is not usual; null when it is.</param>
/// <param name="Stop">When to stop or call.</param>
/// <param name="LeanDeg">Across the joint as the section is drawn.</param>
public sealed record CoachCard(
    string Id,
    string Name,
    CoachCue Angle,
    TravelAngle Travel,
    double MinDeg,
    double MaxDeg,
    CoachCue Arc,
    bool IsStickOut,
    Span? ArcMm,
    CoachCue Motion,
    Motion Draw,
    CoachCue Watch,
    CoachCue Place,
    double LeanDeg,
    string? Pace,
    string? PaceOff,
    string Stop,
    string? Body,
    string Mistakes,
    string Right,
    string Source
);

/// <summary>Finds and says the card of a bead: how its kind is laid, then its position, then its place in the layer.</summary>
public static partial class CoachBook
{
    private static readonly CoachFile File = CoreJson.ReadEmbedded<CoachFile>("Coaching/coach.json");

    /// <summary>How each kind of bead is laid; the first that holds is the card.</summary>
    public static IReadOnlyList<CoachBase> Bases => File.Bases;

    /// <summary>What positions change; the first that holds.</summary>
    public static IReadOnlyList<CoachPosition> Positions => File.Positions;

    /// <summary>What the place in the layer asks for; the first that holds.</summary>
    public static IReadOnlyList<CoachRole> Roles => File.Roles;

    /// <summary>The zones in which a bead is coached by itself: three on fixed pipe, else one without a name.</summary>
    public static IReadOnlyList<PipeZone?> ZonesOf(TestTemplate test) =>
        TestElements.IsZoned(test) ? [PipeZone.Bottom, PipeZone.Side, PipeZone.Top] : [null];

    /// <summary>Where a bead of a test is laid, as far as it matters how.</summary>
    /// <param name="beads">The beads of the coupon, to see its place in the layer.</param>
    /// <param name="isPatch">True for a short bead in a low stretch.</param>
    public static CoachPlace PlaceOf(TestTemplate test, IReadOnlyList<PlannedBead> beads, PlannedBead bead, PipeZone? zone, bool isPatch = false)
    {
        var pass = test.Passes[bead.Pass];
        var joint = JointOf(test);
        return new CoachPlace(
            pass.Process,
            pass.Family,
            joint,
            bead.Stage,
            pass.Technique,
            pass.Progression,
            test.Positions[0],
            zone,
            isPatch ? "patch" : RoleOf(joint, beads, bead),
            pass.Filler.DiameterMm,
            bead.AreaMm2,
            pass.Settings.WireFeedMmPerMin is { } feed ? (feed.Min + feed.Max) / 2 : null,
            CouponBudget.DensityKgPerM3(test.BaseMetal),
            test.BaseMetal
        );
    }

    /// <summary>How the kind of bead of a place is laid, wherever it is.</summary>
    /// <exception cref="InvalidOperationException">Nothing is written for it.</exception>
    public static CoachBase BaseOf(CoachPlace place) =>
        Bases.FirstOrDefault(one => one.When.Holds(place)) ?? throw new InvalidOperationException($"No coach card for {place}.");

    /// <summary>The card of a place.</summary>
    /// <exception cref="InvalidOperationException">Nothing is written for the process, the position or the role.</exception>
    public static CoachCard Card(CoachPlace place, Wording words)
    {
        var laid = BaseOf(place);
        var role = Roles.FirstOrDefault(one => one.Holds(place)) ?? throw new InvalidOperationException($"No coach role for {place}.");
        var here = Positions.FirstOrDefault(one => one.Holds(place));
        var angle = laid.Angles.First(one => one.Holds(place));
        var most = Math.Min(angle.MaxDeg, here?.MostDeg ?? angle.MaxDeg);
        var least = Math.Min(angle.MinDeg, most);
        var (pace, paceOff) = CoachPace.Of(laid.Pace, place, words);

        string Say(string text) => Lengths(words.Say(text), place.DiameterMm);
        string? SayOf(string? text) => text is null ? null : Say(text);
        return new CoachCard(
            laid.Id,
            words.Say(laid.Name),
            new CoachCue(
                words.Say(
                    angle.Travel == TravelAngle.Push
                        ? "Push {min} to {max}°: the tip points ahead"
                        : "Drag {min} to {max}°: the tip points back at the bead",
                    ("min", least),
                    ("max", most)
                ),
                SayOf(here?.Angle)
            ),
            angle.Travel,
            least,
            most,
            new CoachCue(Say(laid.Arc.Says), SayOf(here?.Heat)),
            laid.Arc.Kind == "stickOut",
            ArcOf(laid.Arc, place.DiameterMm),
            new CoachCue(Say(laid.Motion.Says), SayOf(here?.Hold)),
            laid.Motion.Draw,
            new CoachCue(Say(laid.Watch), SayOf(here?.Watch)),
            new CoachCue(Say(role.Aim), Say(role.Covers)),
            role.LeanDeg,
            pace,
            paceOff,
            Say(laid.Stop),
            SayOf(here?.Body),
            Say(laid.Mistakes),
            Say(laid.Right),
            laid.Source
        );
    }

    /// <summary>Every sentence that a card can be made of, for whoever puts them into another language or into the school's own words.</summary>
    public static IEnumerable<string> Sentences =>
        Bases
            .SelectMany(one => new[] { one.Name, one.Arc.Says, one.Motion.Says, one.Watch, one.Stop, one.Mistakes, one.Right })
            .Concat(Positions.SelectMany(one => new[] { one.Angle, one.Hold, one.Heat, one.Watch, one.Body }).OfType<string>())
            .Concat(Roles.SelectMany(one => new[] { one.Aim, one.Covers }))
            .Distinct();

    /// <summary>What the root of a test is laid against.</summary>
    public static CoachJoint JointOf(TestTemplate test) =>
        test.Joint.Fixture is not null ? CoachJoint.Sheet
        : test.Weld is WeldKind.Fillet or WeldKind.Tack ? CoachJoint.Fillet
        : test.Weld == WeldKind.Plug ? CoachJoint.Plug
        : test.Joint.Backing.Kind switch
        {
            BackingKind.Strip => CoachJoint.Strip,
            BackingKind.Insert => CoachJoint.Insert,
            _ => CoachJoint.Open,
        };

    private static string RoleOf(CoachJoint joint, IReadOnlyList<PlannedBead> beads, PlannedBead bead)
    {
        var layer = beads.Where(one => one.Layer == bead.Layer && one.Half == bead.Half && one.Stage == bead.Stage).ToList();
        var (index, count) = (layer.FindIndex(one => one.Key == bead.Key), layer.Count);
        string InLayer(string stage) =>
            count <= 1 ? stage + "Only"
            : index == 0 ? stage + "First"
            : index == count - 1 ? stage + "Last"
            : stage + "Middle";
        return (joint, bead.Stage) switch
        {
            (CoachJoint.Sheet, _) => "sheet",
            (CoachJoint.Plug, Stage.Root) => "plugFirst",
            (CoachJoint.Plug, _) => "plug",
            (CoachJoint.Fillet, _) => $"fillet{Math.Min(3, beads.TakeWhile(one => one.Key != bead.Key).Count() + 1)}",
            (CoachJoint.Strip, Stage.Root) => count <= 1 ? "stripOnly"
            : index == 0 ? "strip1"
            : index == count - 1 ? "strip2"
            : "fillMiddle",
            (CoachJoint.Insert, Stage.Root) => "insert",
            (_, Stage.Root) => "root",
            (_, Stage.Hot) => "hot",
            (_, Stage.Cap) => InLayer("cap"),
            _ => InLayer("fill"),
        };
    }

    private static Span? ArcOf(CoachArc arc, double diameterMm) =>
        arc is { MinOfD: { } least, MaxOfD: { } most } ? new Span(least * diameterMm, most * diameterMm)
        : arc is { MinMm: { } from, MaxMm: { } to } ? new Span(from, to)
        : null;

    /// <summary>Puts lengths in place of numbers of diameters: <c>{1.5d}</c> of a 1/8 in rod is 3/16 in.</summary>
    private static string Lengths(string text, double diameterMm) =>
        OfDiameter()
            .Replace(
                text,
                found => $"{Length.FromMm(double.Parse(found.Groups[1].ValueSpan, CultureInfo.InvariantCulture) * diameterMm).ToInchText()} in"
            );

    [GeneratedRegex(@"\{([0-9.]+)d\}")]
    private static partial Regex OfDiameter();

    private sealed record CoachFile(IReadOnlyList<CoachBase> Bases, IReadOnlyList<CoachPosition> Positions, IReadOnlyList<CoachRole> Roles);
}
