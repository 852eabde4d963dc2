using System.Runtime.InteropServices;
using Gradus.Core.Traces;
using Gradus.Data;

namespace Gradus.Server.Instruments;

/// <summary>A batch in memory, as it lies in the database until it is part of a trace.</summary>
internal sealed record HeldBatch(ArcBatch Row)
{
    private const int Columns = 3;

    // By whatever process: gas tungsten arc burns with the least.
    private static readonly float ArcAmps = (float)TraceThresholds.Of("arcAmpsGtaw");
    private static readonly float ArcVoltsMin = (float)TraceThresholds.Of("arcVoltsMin");
    private static readonly float ArcVoltsMax = (float)TraceThresholds.Of("arcVoltsMax");

    public int Count => Row.Samples.Length / (Columns * sizeof(float));

    public double Seconds => (double)Count / Row.Hz;

    public DateTimeOffset EndsAt => Row.DeviceAt.AddSeconds(Seconds);

    /// <summary>Whether an arc burns anywhere in it.</summary>
    public bool HasArc { get; } = Any(Row.Samples, (amps, volts) => amps > ArcAmps && volts > ArcVoltsMin && volts < ArcVoltsMax);

    public float this[int at, int column] => Numbers(Row.Samples)[(at * Columns) + column];

    public static byte[] Pack(IReadOnlyList<double> amps, IReadOnlyList<double> volts, IReadOnlyList<double>? feed)
    {
        var numbers = new float[amps.Count * Columns];
        for (var at = 0; at < amps.Count; at++)
        {
            numbers[at * Columns] = (float)amps[at];
            numbers[(at * Columns) + 1] = (float)volts[at];
            numbers[(at * Columns) + 2] = feed is null ? float.NaN : (float)feed[at];
        }

        return MemoryMarshal.AsBytes(numbers.AsSpan()).ToArray();
    }

    private static ReadOnlySpan<float> Numbers(byte[] samples) => MemoryMarshal.Cast<byte, float>(samples);

    private static bool Any(byte[] samples, Func<float, float, bool> holds)
    {
        var numbers = Numbers(samples);
        for (var at = 0; at < numbers.Length; at += Columns)
        {
            if (holds(numbers[at], numbers[at + 1]))
            {
                return true;
            }
        }

        return false;
    }
}

/// <summary>Measurements in columns, evenly spaced; what was not received is not a number.</summary>
/// <param name="Feed">Null where it is not measured.</param>
public sealed record RawTrace(int Hz, double[] Amps, double[] Volts, double[]? Feed)
{
    /// <summary>As the core reads it, with what the leads take taken off.</summary>
    public ArcTrace For(Process process, ElectrodeFamily family, double leadVolts) =>
        new(process, family, Hz, Amps, leadVolts == 0 ? Volts : [.. Volts.Select(one => one > leadVolts ? one - leadVolts : one)], Feed);

    /// <summary>The measurements drawn together to at most so many points.</summary>
    public TracePoints Points(int most)
    {
        var size = Math.Max(1, (int)Math.Ceiling((double)Amps.Length / most));
        var count = (Amps.Length + size - 1) / size;
        double?[] Each(double[] of, Func<IEnumerable<double>, double> how) =>
            [
                .. Enumerable
                    .Range(0, count)
                    .Select(point =>
                    {
                        var known = of.Skip(point * size).Take(size).Where(one => !double.IsNaN(one)).ToList();
                        return known.Count == 0 ? (double?)null : how(known);
                    }),
            ];
        return new TracePoints(
            (double)size / Hz,
            Each(Amps, Enumerable.Average),
            Each(Volts, Enumerable.Average),
            Each(Volts, Enumerable.Min),
            Each(Volts, Enumerable.Max),
            Feed is null ? null : Each(Feed, Enumerable.Average)
        );
    }

    /// <summary>Batches in a row, with what lies missing between them.</summary>
    internal static RawTrace Of(IReadOnlyList<HeldBatch> batches)
    {
        var hz = batches[0].Row.Hz;
        var (amps, volts, feed) = (new List<double>(), new List<double>(), new List<double>());
        for (var place = 0; place < batches.Count; place++)
        {
            var batch = batches[place];
            if (place > 0 && batch.Row.Sequence > batches[place - 1].Row.Sequence + 1)
            {
                // So many as the device's clock says, and no more than there can have been.
                var missing = (int)Math.Round((batch.Row.DeviceAt - batches[place - 1].EndsAt).TotalSeconds * hz);
                var most = (batch.Row.Sequence - batches[place - 1].Row.Sequence - 1) * 2 * hz;
                for (var left = Math.Clamp(missing, 0, most); left > 0; left--)
                {
                    amps.Add(double.NaN);
                    volts.Add(double.NaN);
                    feed.Add(double.NaN);
                }
            }

            for (var at = 0; at < batch.Count; at++)
            {
                amps.Add(batch[at, 0]);
                volts.Add(batch[at, 1]);
                feed.Add(batch[at, 2]);
            }
        }

        return new RawTrace(hz, [.. amps], [.. volts], feed.TrueForAll(double.IsNaN) ? null : [.. feed]);
    }
}
