using Gradus.Core.Measure;

namespace Gradus.Core.Joints;

/// <summary>A pipe size: nominal size and schedule, with what they mean in steel.</summary>
/// <param name="Nps">Nominal pipe size, as it is spoken of: <c>6</c>, <c>1-1/2</c>.</param>
/// <param name="Schedule"><c>10S</c>, <c>10</c>, <c>40</c>, <c>60</c>, <c>80</c>, <c>120</c>, <c>160</c> or <c>XXS</c>.</param>
public sealed record PipeSize(string Nps, string Schedule, Length OutsideDiameter, Length Wall)
{
    /// <summary>Outside diameter less twice the wall.</summary>
    public Length InsideDiameter => Length.FromMm(OutsideDiameter.Mm - (2 * Wall.Mm));
}

/// <summary>Pipe sizes NPS 1/2 to 24 (ASME B36.10M and B36.19M).</summary>
public static class PipeSizes
{
    private static readonly Table Data = CoreJson.ReadEmbedded<Table>("Joints/pipe-sizes.json");

    /// <summary>The published source of the table.</summary>
    public static string Source => Data.Source;

    /// <summary>True: the table was written from memory and is to be checked against the standard.</summary>
    public static bool FromMemory => Data.FromMemory;

    /// <summary>The nominal sizes, smallest first.</summary>
    public static IReadOnlyList<string> NominalSizes { get; } = [.. Data.Sizes.Select(row => row.Nps)];

    /// <summary>The schedules of a nominal size; empty when there is no such size.</summary>
    public static IReadOnlyList<string> SchedulesOf(string nps) => [.. Row(nps)?.WallIn.Keys ?? Enumerable.Empty<string>()];

    /// <summary>The size, or null when the standard has no such size or schedule. The schedule is read without regard to case.</summary>
    public static PipeSize? Find(string nps, string schedule)
    {
        var row = Row(nps);
        var name = row?.WallIn.Keys.FirstOrDefault(key => key.Equals(schedule, StringComparison.OrdinalIgnoreCase));
        return row is null || name is null
            ? null
            : new PipeSize(row.Nps, name, Length.FromInches(row.OutsideDiameterIn), Length.FromInches(row.WallIn[name]));
    }

    private static SizeRow? Row(string nps) => Data.Sizes.FirstOrDefault(row => row.Nps == nps.Trim());

    private sealed record Table(string Source, bool FromMemory, IReadOnlyList<SizeRow> Sizes);

    private sealed record SizeRow(string Nps, double OutsideDiameterIn, IReadOnlyDictionary<string, double> WallIn);

    /// <summary>The pipe size of a joint, or null for plate and sheet.</summary>
    /// <exception cref="InvalidOperationException">The size is not in the table.</exception>
    public static PipeSize? PipeSize(this JointPlan joint) =>
        joint.Pipe is not { } pipe
            ? null
            : Find(pipe.Nps, pipe.Schedule) ?? throw new InvalidOperationException($"NPS {pipe.Nps} schedule {pipe.Schedule} is not a pipe size.");
}
