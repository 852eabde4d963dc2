using static Gradus.Core.Traces.TraceThresholds;

namespace Gradus.Core.Traces;

/// <summary>When the arc burnt: its runs, the starts that failed, and when the electrode stuck.</summary>
/// <param name="Usual">The usual current while an arc burns; null where none does and no card says it.</param>
internal sealed record Arcs(IReadOnlyList<Samples> Runs, IReadOnlyList<Samples> Failed, IReadOnlyList<Samples> Stuck, double? Usual);

/// <summary>Finds when the arc burnt.</summary>
internal static class ArcFinder
{
    /// <summary>Whether an arc burns by one sample.</summary>
    public static bool IsOn(Process process, double amps, double volts) =>
        amps > Of(process == Process.Gtaw ? "arcAmpsGtaw" : "arcAmps") && volts > Of("arcVoltsMin") && volts < Of("arcVoltsMax");

    /// <summary>Whether a sample within a run is of its arc: of a wire also one in short, as a meter has it.</summary>
    public static bool IsOfRun(Process process, double amps, double volts) =>
        IsOn(process, amps, volts) || (process is not (Process.Smaw or Process.Gtaw) && IsShort(amps, volts));

    private static bool IsShort(double amps, double volts) => amps > Of("arcAmps") && volts <= Of("arcVoltsMin");

    /// <summary>The arcs of a trace.</summary>
    public static Arcs In(ArcTrace trace, TraceCard card)
    {
        var (hz, count) = (trace.Hz, trace.Amps.Count);
        var on = new bool[count];
        for (var at = 0; at < count; at++)
        {
            // A wire in short burns on: it has its current, and its volts for the next moment.
            on[at] =
                IsOn(trace.Process, trace.Amps[at], trace.Volts[at])
                || (at > 0 && on[at - 1] && trace.Process is not (Process.Smaw or Process.Gtaw) && IsShort(trace.Amps[at], trace.Volts[at]));
        }

        var arcs = Joined(trace, on).Where(arc => On(on, arc) >= (Of("arcLeastS") * hz) - Half).ToList();
        var failed = arcs.Where(arc => arc.Count < Of("failedS") * hz && IsWhole(trace, arc)).ToList();
        var runs = arcs.Except(failed).ToList();
        var usual =
            Signal.Median((runs.Count > 0 ? runs : failed).SelectMany(Over).Where(at => on[at]).Select(at => trace.Amps[at]))
            ?? (card.Amps is { } range ? (range.Min + range.Max) / 2 : null);
        return new Arcs(runs, failed, Stuck(trace, usual), usual);
    }

    /// <summary>The samples of a stretch.</summary>
    public static IEnumerable<int> Over(Samples stretch) => Enumerable.Range(stretch.From, stretch.Count);

    private const double Half = 0.5; // a sample stands for half of one to each side

    private static int On(bool[] on, Samples stretch) => Over(stretch).Count(at => on[at]);

    /// <summary>Arcs that go on over what is short or was not received.</summary>
    private static List<Samples> Joined(ArcTrace trace, bool[] on)
    {
        var (join, bridge) = (Of(trace.Process == Process.Gtaw ? "joinGtawS" : "joinS") * trace.Hz, Of("bridgeS") * trace.Hz);
        var arcs = new List<Samples>();
        foreach (var next in Signal.Stretches(new Samples(0, on.Length), at => on[at]))
        {
            if (arcs.Count > 0)
            {
                var between = new Samples(arcs[^1].To, next.From);
                var lost = Over(between).Count(at => IsLost(trace, at));
                if (between.Count - lost < join - Half && lost <= bridge + Half)
                {
                    arcs[^1] = arcs[^1] with { To = next.To };
                    continue;
                }
            }

            arcs.Add(next);
        }

        return arcs;
    }

    /// <summary>Whether both of its ends were seen: what the trace cuts off, or what was not received around it, is no failed start.</summary>
    private static bool IsWhole(ArcTrace trace, Samples arc) =>
        arc.From > 0 && arc.To < trace.Amps.Count && !IsLost(trace, arc.From - 1) && !IsLost(trace, arc.To);

    private static bool IsLost(ArcTrace trace, int at) => double.IsNaN(trace.Amps[at]) || double.IsNaN(trace.Volts[at]);

    private static List<Samples> Stuck(ArcTrace trace, double? usual)
    {
        // A wire shorts all the time, and at these rates a sample does not tell for how long.
        if (usual is not { } current || trace.Process is not (Process.Smaw or Process.Gtaw))
        {
            return [];
        }

        var (amps, volts) = (Signal.MiddleOfThree(trace.Amps), Signal.MiddleOfThree(trace.Volts));
        var (most, least) = (Of("stuckVolts"), Of("stuckAmpsShare") * current);
        return
        [
            .. Signal
                .Stretches(new Samples(0, amps.Length), at => volts[at] < most && amps[at] > least, join: 1)
                .Where(one => one.Count >= (Of("stuckS") * trace.Hz) - Half),
        ];
    }
}
