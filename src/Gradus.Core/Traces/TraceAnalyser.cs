using static Gradus.Core.Traces.TraceThresholds;

namespace Gradus.Core.Traces;

/// <summary>Reads from a trace what an instructor sees in passing: rhythm, long arcs, drift, starts, feed. What it says is a ground, never a verdict.</summary>
public static class TraceAnalyser
{
    /// <summary>Reads a trace.</summary>
    /// <param name="card">What it is held against; what is null there is not held against anything.</param>
    /// <exception cref="ArgumentException">The columns are not of one length, or the rate is not over 0.</exception>
    public static TraceReading Read(ArcTrace trace, TraceCard card)
    {
        if (trace.Hz <= 0 || trace.Volts.Count != trace.Amps.Count || (trace.FeedMmPerMin is { } feed && feed.Count != trace.Amps.Count))
        {
            throw new ArgumentException("Columns of one length, at a rate over 0.", nameof(trace));
        }

        var arcs = ArcFinder.In(trace, card);
        var whole = arcs.Runs.Sum(run => run.Count);
        var moments = new List<TraceMoment>();
        moments.AddRange(arcs.Failed.Select(one => Moment(trace, MomentKind.FailedStart, one)));
        moments.AddRange(arcs.Stuck.Select(one => Moment(trace, MomentKind.StuckStart, one)));
        var runs = new List<ArcRun>();
        var after = 0;
        foreach (var run in arcs.Runs)
        {
            var before = new Samples(after, run.From + 1);
            runs.Add(
                new RunReader(trace, card, run, moments).Read(
                    arcs.Failed.Count(one => one.From >= before.From && one.From < before.To),
                    arcs.Stuck.Count(one => one.From >= before.From && one.From < before.To),
                    card.RunLengthMm * run.Count / whole
                )
            );
            after = run.From + 1;
        }

        return new TraceReading(Standing.Version, runs, [.. moments.OrderBy(one => one.AtS).ThenBy(one => one.What)]);
    }

    /// <summary>When an arc burnt, whatever the process: seconds from the start of the trace, starts that failed with them.</summary>
    public static IReadOnlyList<(double FromS, double ToS)> ArcsOf(ArcTrace trace)
    {
        var arcs = ArcFinder.In(trace with { Process = Process.Gtaw }, new TraceCard());
        return [.. arcs.Runs.Concat(arcs.Failed).OrderBy(arc => arc.From).Select(arc => (arc.From / trace.Hz, arc.To / trace.Hz))];
    }

    internal static TraceMoment Moment(ArcTrace trace, MomentKind what, Samples stretch) =>
        new(stretch.From / trace.Hz, what, stretch.Count / trace.Hz);
}
