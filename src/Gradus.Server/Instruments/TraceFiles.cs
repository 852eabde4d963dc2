using System.Globalization;
using System.IO.Compression;
using Gradus.Server.Hosting;

namespace Gradus.Server.Instruments;

/// <summary>The measurements of traces, as gzipped CSV beside the photos, so that every backup has them.</summary>
public sealed class TraceFiles(GradusOptions options)
{
    private static readonly string[] Head = ["seconds", "amps", "volts", "feed_mm_per_min"];

    /// <summary>Where the file of a trace lies.</summary>
    public string PathOf(Guid deviceId, Guid traceId) => Path.Combine(options.PhotoFolder, PhotoNames.Trace(deviceId, traceId));

    /// <summary>Writes a trace, and reads it back: what it was made of is let go after this.</summary>
    /// <exception cref="IOException">The disk is full, cannot be written to, or gives back something else.</exception>
    public void Put(Guid deviceId, Guid traceId, RawTrace trace)
    {
        Write(deviceId, traceId, trace);
        if (Read(deviceId, traceId, trace.Hz)?.Amps.Length != trace.Amps.Length)
        {
            throw new IOException($"The measurements of {traceId} were not written whole.");
        }
    }

    private void Write(Guid deviceId, Guid traceId, RawTrace trace) =>
        WholeFile.Write(
            PathOf(deviceId, traceId),
            file =>
            {
                using var packed = new GZipStream(file, CompressionLevel.Optimal, leaveOpen: true);
                using var text = new StreamWriter(packed);
                text.WriteLine(string.Join(',', Head));
                for (var at = 0; at < trace.Amps.Length; at++)
                {
                    text.WriteLine(
                        string.Create(
                            CultureInfo.InvariantCulture,
                            $"{(double)at / trace.Hz:0.00#},{Cell(trace.Amps[at], "0.#")},{Cell(trace.Volts[at], "0.##")},{Cell(trace.Feed?[at] ?? double.NaN, "0")}"
                        )
                    );
                }
            }
        );

    /// <summary>Reads a trace; null where its file is not there.</summary>
    public RawTrace? Read(Guid deviceId, Guid traceId, int hz)
    {
        var path = PathOf(deviceId, traceId);
        if (!File.Exists(path))
        {
            return null;
        }

        using var packed = new GZipStream(File.OpenRead(path), CompressionMode.Decompress);
        using var text = new StreamReader(packed);
        text.ReadLine();
        var (amps, volts, feed) = (new List<double>(), new List<double>(), new List<double>());

        // As it was written above: four numbers to a line, none of them quoted. By a general reader twenty minutes were drawn in up to 293 ms; so in 170 to 250.
        Span<Range> cells = stackalloc Range[Head.Length];
        while (text.ReadLine() is { Length: > 0 } line)
        {
            line.AsSpan().Split(cells, ',');
            amps.Add(Number(line.AsSpan()[cells[1]]));
            volts.Add(Number(line.AsSpan()[cells[2]]));
            feed.Add(Number(line.AsSpan()[cells[3]]));
        }

        return new RawTrace(hz, [.. amps], [.. volts], feed.TrueForAll(double.IsNaN) ? null : [.. feed]);
    }

    /// <summary>Takes the file of a trace away.</summary>
    public void Remove(Guid deviceId, Guid traceId) => File.Delete(PathOf(deviceId, traceId));

    private static string Cell(double value, string format) => double.IsNaN(value) ? "" : value.ToString(format, CultureInfo.InvariantCulture);

    private static double Number(ReadOnlySpan<char> cell) =>
        double.TryParse(cell, NumberStyles.Float, CultureInfo.InvariantCulture, out var value) ? value : double.NaN;
}
