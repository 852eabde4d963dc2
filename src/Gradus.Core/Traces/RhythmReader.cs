using static Gradus.Core.Traces.TraceThresholds;

namespace Gradus.Core.Traces;

/// <summary>A rhythm with its longest period, which shows best where it was lost.</summary>
/// <param name="Periods">How many it was told from.</param>
/// <param name="IsFine">Whether it was measured often enough that its periods are those of the hand, and not of the measuring.</param>
internal sealed record SeenRhythm(Rhythm Rhythm, int Periods, bool IsFine, Samples Longest)
{
    // Nine times in ten the spread of as many periods is told no further under what is true (normal approximation).
    private const double NineInTen = 1.28;

    /// <summary>Whether it is irregular as far as so few periods tell: it is a moment to look at, so in doubt it is shown.</summary>
    public bool IsIrregular => Rhythm.Cv * (IsFine ? 1 + (NineInTen / Math.Sqrt(2 * Periods)) : 1) > Of("rhythmUneven");
}

/// <summary>Finds the rhythm of a whip or a weave in the volts of a run.</summary>
internal static class RhythmReader
{
    private const double FineHz = 20; // under it only a slow rhythm is seen
    private const double Low = 0.1;
    private const double High = 0.9;
    private const double NormalSpan = 2.563; // from the tenth to the ninetieth percentile of a normal distribution, in standard deviations

    /// <summary>The rhythm; null where none is seen.</summary>
    /// <param name="volts">Of the settled part of a run.</param>
    public static SeenRhythm? Read(double[] volts, double hz)
    {
        var mean = Of("rhythmMeanS") * hz;
        // What goes more slowly than any rhythm is no part of it.
        var slow = Signal.Mean(volts, Of("rhythmMaxS") * hz);
        var even = Signal.Mean(volts, mean).Zip(slow, (value, level) => value - level).ToArray();
        if (Signal.Quantile(even, Low) is not { } low || Signal.Quantile(even, High) is not { } high)
        {
            return null;
        }

        var noise = NormalSpan * Signal.Noise(volts) / Math.Sqrt(Math.Max(1, mean));
        var span = high - low;
        if ((span * span) - (noise * noise) < Math.Pow(Of("rhythmSpanVolts"), 2))
        {
            return null;
        }

        var periods = Periods(even, low + (span / 3), low + (span * 2 / 3), hz);
        if (periods.Count < Of("rhythmPeriods"))
        {
            return null;
        }

        var median = Signal.Median(periods.Select(one => one.Seconds))!.Value;
        var (average, deviation) = Signal.Spread(periods.Select(one => one.Seconds))!.Value;
        return (hz < FineHz && median < Of("rhythmSlowS")) || deviation / average > Of("rhythmNone")
            ? null
            : new SeenRhythm(new Rhythm(median, deviation / average), periods.Count, hz >= FineHz, periods.MaxBy(one => one.Seconds).Over);
    }

    /// <summary>From one rise to the next, where everything in between is known.</summary>
    private static List<(double Seconds, Samples Over)> Periods(double[] even, double low, double high, double hz)
    {
        var periods = new List<(double, Samples)>();
        var (isLow, middle) = (false, (low + high) / 2);
        (double Exact, int At)? last = null;
        var foot = 0;
        for (var at = 1; at < even.Length; at++)
        {
            if (double.IsNaN(even[at]))
            {
                (last, isLow) = (null, false);
            }
            else if (even[at] < low)
            {
                (isLow, foot) = (true, at);
            }
            else if (isLow && even[at] < middle)
            {
                foot = at;
            }
            else if (isLow && even[at] > high)
            {
                isLow = false;
                // Where it began to rise: how steeply it does differs from beat to beat.
                var exact = foot + ((middle - even[foot]) / Math.Max(double.Epsilon, even[foot + 1] - even[foot]));
                if (last is { } before && (exact - before.Exact) / hz is var seconds && seconds >= Of("rhythmMinS") && seconds <= Of("rhythmMaxS"))
                {
                    periods.Add((seconds, new Samples(before.At, at)));
                }

                last = (exact, at);
            }
        }

        return periods;
    }
}
