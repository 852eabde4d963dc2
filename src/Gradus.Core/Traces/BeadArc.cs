namespace Gradus.Core.Traces;

/// <summary>What the arc of one bead says, of all runs of its traces together; null where none of them says it.</summary>
/// <param name="ArcSeconds">How long the arc burnt.</param>
/// <param name="Starts">Runs that it took, with those starts that failed.</param>
/// <param name="RhythmCv">Of the longest run with a rhythm.</param>
/// <param name="DriftVolts">The largest rise over a run.</param>
/// <param name="TipDriftShare">The largest change of the current at a constant feed.</param>
/// <param name="FeedSpread">The largest spread of the feed.</param>
public sealed record BeadArc(
    double ArcSeconds,
    double LostSeconds,
    double MeanAmps,
    double MeanVolts,
    int Starts,
    int FailedStarts,
    int Stuck,
    double? LongArcShare,
    double? RhythmPeriodS,
    double? RhythmCv,
    double? DriftVolts,
    double? OutsideCardShare,
    double? TipDriftShare,
    double? FeedSpread
)
{
    /// <summary>The arc of a bead by its traces; null where none of them has an arc.</summary>
    public static BeadArc? Of(IEnumerable<TraceReading> traces)
    {
        var runs = traces.SelectMany(trace => trace.Runs).ToList();
        if (runs.Count == 0)
        {
            return null;
        }

        var seconds = runs.Sum(run => run.ArcSeconds);
        double? Mean(Func<ArcRun, double?> of)
        {
            var told = runs.Where(run => of(run) is not null).ToList();
            return told.Count == 0 ? null : told.Sum(run => of(run) * run.ArcSeconds) / told.Sum(run => run.ArcSeconds);
        }

        double? Largest(Func<ArcRun, double?> of) => runs.Select(of).OfType<double>().OrderByDescending(Math.Abs).Cast<double?>().FirstOrDefault();
        var rhythm = runs.Where(run => run.Rhythm is not null).MaxBy(run => run.ArcSeconds)?.Rhythm;
        return new BeadArc(
            seconds,
            runs.Sum(run => run.LostSeconds),
            runs.Sum(run => run.MeanAmps * run.ArcSeconds) / seconds,
            runs.Sum(run => run.MeanVolts * run.ArcSeconds) / seconds,
            runs.Sum(run => run.FailedStarts + 1),
            runs.Sum(run => run.FailedStarts),
            runs.Sum(run => run.Stuck),
            Mean(run => run.LongArcShare),
            rhythm?.PeriodS,
            rhythm?.Cv,
            runs.Max(run => run.DriftVolts),
            Mean(run => run.OutsideCardShare),
            Largest(run => run.TipDriftShare),
            runs.Max(run => run.FeedSpread)
        );
    }
}
