using Gradus.Core.Inspection;
using Gradus.Core.Library;
using Gradus.Core.Measure;
using Gradus.Core.Welding;

namespace Gradus.Core.Coaching;

/// <summary>What was recorded around a finding. Null where it was not. Lengths in mm, angles in degrees, feed in mm/min.</summary>
/// <param name="CardAmps">The range of the test's settings; so for the other cards.</param>
/// <param name="StartStopAwayMm">Distance along the joint to the nearest start or stop.</param>
/// <param name="FillBelowFlushMm">How far below flush the fill was before the cap.</param>
/// <param name="ClockMinutes">Place on pipe, in minutes past twelve.</param>
/// <param name="GapAtTieInMm">What was left of the opening where the root closed; beside the diameter of the electrode or wire.</param>
/// <param name="RodOutHours">How long the electrode had been out of its oven.</param>
/// <param name="StopAsIs">Whether a stop was left undressed.</param>
/// <param name="Process">By which it was welded; what that process cannot have is left out. So for position, joint, electrode and metal.</param>
/// <param name="Shape">How it lies.</param>
/// <param name="PurgeMinutes">How long it was purged before the root, and how long it should have been.</param>
/// <param name="LongArcShare">Share of its arc time with a long arc, as a logger measured it; so for those that follow.</param>
/// <param name="RhythmCv">Standard deviation of the periods of its whip or weave by their mean.</param>
/// <param name="ArcDriftVolts">How much the volts rose over it.</param>
/// <param name="TipDriftShare">How the current of a wire came to change at a constant feed, as a share.</param>
/// <param name="FeedSpread">Standard deviation of the feed by its mean.</param>
/// <param name="AtTheArc">True when current and volts are what was measured, and not what was set.</param>
public sealed record CauseFacts(
    Stage Stage,
    double? GapMm = null,
    double? PlannedGapMm = null,
    double? FaceMm = null,
    double? PlannedFaceMm = null,
    double? OffsetMm = null,
    double? StripGapMm = null,
    double? Amps = null,
    Span? CardAmps = null,
    double? Volts = null,
    Span? CardVolts = null,
    double? WireFeedMmPerMin = null,
    Span? CardWireFeed = null,
    double? StickOutMm = null,
    Span? CardStickOut = null,
    double? GasFlowLPerMin = null,
    Span? CardGasFlow = null,
    double? StartStopAwayMm = null,
    double? FillBelowFlushMm = null,
    int? CapBeads = null,
    int? PlannedCapBeads = null,
    int? ClockMinutes = null,
    double? PurgeMinutes = null,
    double? PurgeNeededMinutes = null,
    bool? KeyholeLarge = null,
    double? GapAtTieInMm = null,
    double? ElectrodeMm = null,
    double? RodOutHours = null,
    bool? BrushedOnly = null,
    bool? StopAsIs = null,
    double? OxygenPercent = null,
    int? CupNumber = null,
    Process? Process = null,
    string? Position = null,
    CoachJoint? Joint = null,
    ElectrodeFamily? Family = null,
    BaseMetal? Metal = null,
    FindingShape? Shape = null,
    double? LongArcShare = null,
    double? RhythmCv = null,
    double? ArcDriftVolts = null,
    double? TipDriftShare = null,
    double? FeedSpread = null,
    int? FailedStarts = null,
    bool AtTheArc = false
)
{
    /// <summary>What is known of a pass of a test before anything is logged of it.</summary>
    public static CauseFacts Of(TestTemplate test, PassPlan pass) =>
        new(
            pass.Stage,
            Process: pass.Process,
            Position: test.Positions[0],
            Joint: CoachBook.JointOf(test),
            Family: pass.Family,
            Metal: test.BaseMetal
        );
}

/// <summary>Something recorded that points to a cause: a sign, over a threshold, adds its weight.</summary>
public sealed record CauseSign(string Fact, double Over, double Weight);

/// <summary>A usual cause of some discontinuities, with its cure.</summary>
/// <param name="Prior">How usual it is when nothing recorded points anywhere; the larger the likelier.</param>
/// <param name="Stages">The stages in which it can be; null for any. So for processes, positions, joints, electrodes and metals.</param>
/// <param name="Shapes">The shapes that point to it.</param>
/// <param name="Why">What happens in the arc and the metal.</param>
/// <param name="DoNow">What is done about it on this coupon.</param>
/// <param name="Cure">What is done next time.</param>
public sealed record CauseRule(
    string Id,
    IReadOnlyList<DiscontinuityKind> Kinds,
    IReadOnlyList<Stage>? Stages,
    string Cause,
    string Why,
    string DoNow,
    string Cure,
    double Prior,
    IReadOnlyList<CauseSign> Signs,
    string Source,
    IReadOnlyList<Process>? Processes = null,
    IReadOnlyList<string>? Positions = null,
    IReadOnlyList<CoachJoint>? Joints = null,
    IReadOnlyList<ElectrodeFamily>? Families = null,
    IReadOnlyList<BaseMetal>? Metals = null,
    IReadOnlyList<FindingShape>? Shapes = null
)
{
    /// <summary>Whether it can be the cause of a kind under what is known of the work.</summary>
    public bool IsPossible(DiscontinuityKind kind, CauseFacts facts) =>
        Kinds.Contains(kind)
        && (Stages is null || Stages.Contains(facts.Stage))
        && May(Processes, facts.Process)
        && May(Joints, facts.Joint)
        && May(Metals, facts.Metal)
        // Only of covered electrodes is the family known.
        && (Families is null || facts.Process is not (null or Process.Smaw) || May(Families, facts.Family))
        && (Positions is null || facts.Position is null || Positions.Contains(facts.Position));

    private static bool May<T>(IReadOnlyList<T>? takes, T? known)
        where T : struct => takes is null || known is not { } value || takes.Contains(value);
}

/// <summary>A likely cause with its grounds: what was recorded that points to it.</summary>
/// <param name="Why">What happens in the arc and the metal.</param>
/// <param name="DoNow">What is done about it on this coupon.</param>
/// <param name="Cure">What is done next time.</param>
/// <param name="Grounds">Empty when it is only a usual cause.</param>
/// <param name="Score">Prior and weights together; only the order counts.</param>
public sealed record LikelyCause(
    string Id,
    string Cause,
    string Why,
    string DoNow,
    string Cure,
    IReadOnlyList<string> Grounds,
    double Score,
    string Source
)
{
    /// <summary>The same in another language; the grounds are as they were logged.</summary>
    public LikelyCause In(Wording words) =>
        this with
        {
            Cause = words.Say(Cause),
            Why = words.Say(Why),
            DoNow = words.Say(DoNow),
            Cure = words.Say(Cure),
        };
}

/// <summary>Ranks the causes of a discontinuity by what was recorded.</summary>
public static class CauseFinder
{
    /// <summary>The rules, in the order of the file.</summary>
    public static IReadOnlyList<CauseRule> Rules { get; } = CoreJson.ReadEmbedded<IReadOnlyList<CauseRule>>("Coaching/causes.json");

    // A shape says about as much as a setting off its card. A chosen default.
    private const double ShapeWeight = 3;

    /// <summary>How a finding that lies so is said.</summary>
    public static IReadOnlyDictionary<FindingShape, string> Shapes { get; } =
        new Dictionary<FindingShape, string>
        {
            [FindingShape.Point] = "It is a single spot.",
            [FindingShape.Cluster] = "It lies in a cluster.",
            [FindingShape.Scatter] = "It is scattered.",
            [FindingShape.CentreLine] = "It runs along the centre line.",
            [FindingShape.OneWall] = "It lies along one wall.",
            [FindingShape.UpperToe] = "It lies along the upper toe.",
            [FindingShape.LowerToe] = "It lies along the lower toe.",
            [FindingShape.BothToes] = "It lies along both toes.",
            [FindingShape.AtStart] = "It lies at a start.",
            [FindingShape.AtStop] = "It lies at a stop.",
            [FindingShape.AtTack] = "It lies at a tack.",
            [FindingShape.Whole] = "It goes all the way.",
        };

    /// <summary>The signs that rules can ask for.</summary>
    public static IReadOnlyCollection<string> KnownFacts { get; } =
    [
        .. Signs(
                new(
                    Stage.Root,
                    1,
                    1,
                    1,
                    1,
                    0,
                    0,
                    1,
                    new(1, 1),
                    1,
                    new(1, 1),
                    1,
                    new(1, 1),
                    1,
                    new(1, 1),
                    1,
                    new(1, 1),
                    1,
                    1,
                    1,
                    1,
                    0,
                    1,
                    1,
                    true,
                    1,
                    1,
                    1,
                    true,
                    true,
                    1,
                    CupNumber: 5,
                    LongArcShare: 1,
                    RhythmCv: 1,
                    ArcDriftVolts: 1,
                    TipDriftShare: 1,
                    FeedSpread: 1,
                    FailedStarts: 1
                )
            )
            .Select(sign => sign.Fact),
    ];

    /// <summary>The causes of a kind of discontinuity in a stage, likeliest first.</summary>
    public static IReadOnlyList<LikelyCause> Rank(DiscontinuityKind kind, CauseFacts facts)
    {
        var signs = Signs(facts).ToDictionary(sign => sign.Fact, StringComparer.Ordinal);
        return
        [
            .. Rules
                .Where(rule => rule.IsPossible(kind, facts))
                .Select(rule =>
                {
                    var shown = rule.Signs.Where(sign => signs.TryGetValue(sign.Fact, out var fact) && fact.Value > sign.Over).ToList();
                    var shape = facts.Shape is { } lies && rule.Shapes?.Contains(lies) == true ? lies : (FindingShape?)null;
                    return new LikelyCause(
                        rule.Id,
                        rule.Cause,
                        rule.Why,
                        rule.DoNow,
                        rule.Cure,
                        [.. shown.Select(sign => signs[sign.Fact].Says), .. shape is { } seen ? [Shapes[seen]] : Array.Empty<string>()],
                        rule.Prior + shown.Sum(sign => sign.Weight) + (shape is null ? 0 : ShapeWeight),
                        rule.Source
                    );
                })
                .OrderByDescending(cause => cause.Score)
                .ThenBy(cause => cause.Id, StringComparer.Ordinal),
        ];
    }

    private static IEnumerable<(string Fact, double Value, string Says)> Signs(CauseFacts f)
    {
        if (f.GapMm is { } gap && f.PlannedGapMm is { } plannedGap)
        {
            var says = $"The gap here is {In(gap)}; planned {In(plannedGap)}.";
            yield return ("gapShortMm", plannedGap - gap, says);
            yield return ("gapWideMm", gap - plannedGap, says);
        }

        if (f.FaceMm is { } face && f.PlannedFaceMm is { } plannedFace)
        {
            var says = $"The root face here is {In(face)}; planned {In(plannedFace)}.";
            yield return ("faceThickMm", face - plannedFace, says);
            yield return ("faceThinMm", plannedFace - face, says);
        }

        if (f.OffsetMm is { } offset)
        {
            yield return ("offsetMm", offset, $"Offset of {In(offset)} here.");
        }

        if (f.StripGapMm is { } strip)
        {
            yield return ("stripGapMm", strip, $"The strip stood off by {In(strip)}.");
        }

        foreach (var sign in OffCard("amps", "A", f.Amps, f.CardAmps, f.AtTheArc).Concat(OffCard("volts", "V", f.Volts, f.CardVolts, f.AtTheArc)))
        {
            yield return sign;
        }

        foreach (
            var sign in OffCard("feed", "mm/min wire feed", f.WireFeedMmPerMin, f.CardWireFeed)
                .Concat(OffCard("stickOut", "mm stick-out", f.StickOutMm, f.CardStickOut))
                .Concat(OffCard("flow", "L/min gas", f.GasFlowLPerMin, f.CardGasFlow))
        )
        {
            yield return sign;
        }

        if (f.StartStopAwayMm is { } away)
        {
            // Over 0 within reach, so that a rule can ask for it with a threshold of 0.
            yield return ("nearStartStop", TradeNumbers.Of("restartReachMm") - away, $"A start or stop lies {In(away)} away.");
        }

        if (f.FillBelowFlushMm is { } below)
        {
            yield return ("fillLowMm", below - TradeNumbers.Of("fillBelowFlushMaxMm"), $"The fill was {In(below)} below flush before the cap.");
            yield return ("fillHighMm", TradeNumbers.Of("fillBelowFlushMinMm") - below, $"The fill was {In(below)} below flush before the cap.");
        }

        if (f.CapBeads is { } beads && f.PlannedCapBeads is { } planned)
        {
            yield return ("capBeadsShort", planned - beads, $"The cap took {beads} beads; planned {planned}.");
        }

        if (f.ClockMinutes is { } minutes)
        {
            var at = ClockPosition.FromMinutes(minutes);
            yield return ("atBottom", at.Zone == PipeZone.Bottom ? 1 : 0, $"It lies at {at}, in the bottom.");
        }

        if (f.PurgeMinutes is { } purged && f.PurgeNeededMinutes is { } needed)
        {
            yield return ("purgeShortMinutes", needed - purged, $"Purged for {purged:0.#} min; {needed:0.#} were needed.");
        }

        foreach (var sign in Told(f).Concat(Traced(f)))
        {
            yield return sign;
        }
    }

    private static IEnumerable<(string Fact, double Value, string Says)> Told(CauseFacts f)
    {
        if (f.KeyholeLarge is { } large)
        {
            yield return ("keyholeLarge", large ? 1 : 0, "The keyhole was over one and a half diameters.");
        }

        if (f.GapAtTieInMm is { } tieIn && f.ElectrodeMm is > 0 and var diameter)
        {
            yield return ("tieInClosedShare", 1 - (tieIn / diameter), $"The gap was {In(tieIn)} at the tie-in.");
        }

        if (f.RodOutHours is { } hours)
        {
            yield return ("rodOutHours", hours, $"The rod had been out of the oven for {hours:0.#} h.");
        }

        if (f.BrushedOnly is { } brushed)
        {
            yield return ("brushedOnly", brushed ? 1 : 0, "It was cleaned with the brush alone.");
        }

        if (f.StopAsIs is { } asIs)
        {
            yield return ("stopAsIs", asIs ? 1 : 0, "The stop was left as it was.");
        }

        if (f.CupNumber is { } cup && CupFlow.Of(cup) is { } takes && f.GasFlowLPerMin is { } flow)
        {
            var says = $"{flow:0.#} L/min through a cup {cup}, which takes {takes.MinLPerMin:0.#} to {takes.MaxLPerMin:0.#}.";
            yield return ("flowOverCup", (flow - takes.MaxLPerMin) / takes.MaxLPerMin, says);
            yield return ("flowUnderCup", (takes.MinLPerMin - flow) / takes.MinLPerMin, says);
        }

        if (f.OxygenPercent is { } oxygen)
        {
            yield return ("oxygenPercent", oxygen, $"{oxygen:0.##} % of oxygen came out of the purge.");
        }
    }

    /// <summary>What a logger saw of the arc.</summary>
    private static IEnumerable<(string Fact, double Value, string Says)> Traced(CauseFacts f)
    {
        if (f.LongArcShare is { } far)
        {
            yield return ("longArcShare", far, $"The logger saw a long arc for {far:P0} of the time.");
        }

        if (f.RhythmCv is { } cv)
        {
            yield return ("rhythmCv", cv, $"The rhythm was uneven: its periods vary by {cv:P0}.");
        }

        if (f.ArcDriftVolts is { } drift)
        {
            yield return ("arcDriftVolts", drift, $"The arc grew by {drift:0.#} V over the run.");
        }

        if (f.TipDriftShare is { } tip)
        {
            yield return ("tipOutShare", -tip, $"The current fell by {-tip:P0} at a constant feed: the tip moved out.");
            yield return ("tipInShare", tip, $"The current rose by {tip:P0} at a constant feed: the tip moved in.");
        }

        if (f.FeedSpread is { } spread)
        {
            yield return ("feedSpread", spread, $"The wire stuttered: its feed varies by {spread:P0}.");
        }

        if (f.FailedStarts is { } failed)
        {
            yield return ("failedStarts", failed, $"The arc went out {failed} times as it was struck.");
        }
    }

    /// <summary>How far a setting lies off its card, as a share of the nearer end.</summary>
    private static IEnumerable<(string Fact, double Value, string Says)> OffCard(
        string name,
        string unit,
        double? value,
        Span? card,
        bool isMeasured = false
    )
    {
        if (value is { } set && card is not null)
        {
            var says = $"{(isMeasured ? "At the arc" : "Set to")} {set:0.##} {unit}; the card has {card.Min:0.##} to {card.Max:0.##}.";
            yield return ($"{name}Low", (card.Min - set) / card.Min, says);
            yield return ($"{name}High", (set - card.Max) / card.Max, says);
        }
    }

    private static string In(double mm) => mm < 0 ? "-" : Length.FromMm(mm).ToInchText() + " in";
}
