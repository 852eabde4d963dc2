namespace Gradus.Core.Traces;

/// <summary>What was measured at a machine, evenly sampled. What was not received is <see cref="double.NaN"/>.</summary>
/// <param name="Family">How a covered electrode is run; <see cref="ElectrodeFamily.Other"/> for the rest.</param>
/// <param name="Hz">Measurements in a second, 10 to 50.</param>
/// <param name="Amps">Current in A.</param>
/// <param name="Volts">As many, in V, at the arc: what is lost in the leads is taken off before.</param>
/// <param name="FeedMmPerMin">As many, of a wire; null where it is not measured.</param>
public sealed record ArcTrace(
    Process Process,
    ElectrodeFamily Family,
    double Hz,
    IReadOnlyList<double> Amps,
    IReadOnlyList<double> Volts,
    IReadOnlyList<double>? FeedMmPerMin = null
);

/// <summary>What a trace is held against; null where nothing is known.</summary>
/// <param name="Amps">Range of the card in A; so for the volts, and for the feed in mm/min.</param>
/// <param name="RunLengthMm">What was welded in all runs of the trace together.</param>
/// <param name="OwnVolts">The volts of the student's own clean beads; stands where the card says none.</param>
public sealed record TraceCard(Span? Amps = null, Span? Volts = null, Span? FeedMmPerMin = null, double? RunLengthMm = null, double? OwnVolts = null);

/// <summary>The rhythm of a whip or a weave.</summary>
/// <param name="PeriodS">Median period.</param>
/// <param name="Cv">Standard deviation of the periods by their mean.</param>
public sealed record Rhythm(double PeriodS, double Cv);

/// <summary>One run: from where the arc was struck to where it went out. Nulls where nothing can be said: with under five seconds of arc, or without what it is held against.</summary>
/// <param name="FromS">Seconds from the start of the trace.</param>
/// <param name="ArcSeconds">How long the arc burnt.</param>
/// <param name="LostSeconds">How much of that was not received; it is taken as arc.</param>
/// <param name="MeanAmps">While the arc burnt.</param>
/// <param name="ReferenceVolts">What a long arc is told by: the card's, the student's own, or that of the load line.</param>
/// <param name="LongArcShare">Share of the arc time with a long arc.</param>
/// <param name="Rhythm">Null where none is seen.</param>
/// <param name="FailedStarts">Arcs before it that went out at once...</param>
/// <param name="Stuck">...and times that the electrode stuck before it.</param>
/// <param name="DriftVolts">How much the volts rose over the run.</param>
/// <param name="OutsideCardShare">Share of the arc time at which current, volts or feed stood outside of the card.</param>
/// <param name="TipDriftShare">By how much the current of a wire came to change at a constant feed, as a share; null without a wire.</param>
/// <param name="FeedSpread">Standard deviation of the feed by its mean.</param>
/// <param name="DipsPerMin">Falls of the current with a rise of the volts, of a wire.</param>
/// <param name="HeatKJPerMm">Mean of V × I, by the travel (ASME QW-409.1). Not for pulsed current: that is measured by the machine.</param>
public sealed record ArcRun(
    double FromS,
    double ToS,
    double ArcSeconds,
    double LostSeconds,
    double MeanAmps,
    double MeanVolts,
    double? ReferenceVolts,
    double? LongArcShare,
    Rhythm? Rhythm,
    int FailedStarts,
    int Stuck,
    double? DriftVolts,
    double? OutsideCardShare,
    double? TipDriftShare,
    double? FeedSpread,
    double? DipsPerMin,
    double? HeatKJPerMm,
    double? TravelMmPerMin
);

/// <summary>What a moment of a trace shows.</summary>
public enum MomentKind
{
    LongArc,
    StuckStart,
    FailedStart,
    Irregular,
    TipDrift,
    FeedTrouble,
    OutsideCard,
}

/// <summary>A moment of a trace that is worth looking at. It is a ground for a cause, never a verdict.</summary>
/// <param name="AtS">Seconds from the start of the trace.</param>
/// <param name="LastsS">How long it lasts.</param>
public sealed record TraceMoment(double AtS, MomentKind What, double LastsS);

/// <summary>A trace as it was read.</summary>
/// <param name="Version">Of the thresholds that it was read by.</param>
public sealed record TraceReading(int Version, IReadOnlyList<ArcRun> Runs, IReadOnlyList<TraceMoment> Moments)
{
    private const int Most = 3;

    // What is done something about first stands first.
    private static readonly MomentKind[] Order =
    [
        MomentKind.OutsideCard,
        MomentKind.LongArc,
        MomentKind.FeedTrouble,
        MomentKind.TipDrift,
        MomentKind.StuckStart,
        MomentKind.Irregular,
        MomentKind.FailedStart,
    ];

    /// <summary>The three moments to look at: the longest of each kind first, in the order in which something is done about them.</summary>
    public static IReadOnlyList<TraceMoment> Best(IEnumerable<TraceMoment> moments) =>
        [
            .. moments
                .GroupBy(one => one.What)
                .SelectMany(kind => kind.OrderByDescending(one => one.LastsS).Select((one, place) => (one, place)))
                .OrderBy(one => one.place)
                .ThenBy(one => Array.IndexOf(Order, one.one.What))
                .Take(Most)
                .Select(one => one.one)
                .OrderBy(one => one.AtS),
        ];
}
