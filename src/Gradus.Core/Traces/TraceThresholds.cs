namespace Gradus.Core.Traces;

/// <summary>A number that traces are read by.</summary>
/// <param name="Unit">A, V, s; empty for a plain ratio.</param>
public sealed record TraceThreshold(string Id, double Value, string Unit, string Meaning, string Source);

/// <summary>All of them. They are chosen and not published; what was read by one version is read again when it changes.</summary>
public sealed record TraceThresholds(int Version, IReadOnlyList<TraceThreshold> Thresholds)
{
    /// <summary>Those that stand.</summary>
    public static TraceThresholds Standing { get; } = CoreJson.ReadEmbedded<TraceThresholds>("Traces/thresholds.json");

    private static readonly Dictionary<string, double> ById = Standing.Thresholds.ToDictionary(
        one => one.Id,
        one => one.Value,
        StringComparer.Ordinal
    );

    /// <summary>The value of a threshold.</summary>
    /// <exception cref="KeyNotFoundException">There is no such threshold.</exception>
    public static double Of(string id) => ById[id];
}
