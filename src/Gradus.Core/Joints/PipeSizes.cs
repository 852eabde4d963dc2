using Gradus.Core.Measure;

namespace Gradus.Core.Joints;

/// <summary>A pipe size: nominal size and schedule, with what they mean in steel.</summary>
/// <param name="Nps">Nominal pipe size, as it is spoken of: <c>6</c>, <c>1-1/2</c>.</param>
/// <param name="Schedule"><c>STD</c>, <c>XS</c>, <c>XXS</c>, a number from <c>5</c> to <c>160</c>, or one with an S from <c>5S</c> to <c>80S</c>.</param>
/// <param name="Dn">Nominal diameter by ISO 6708: 150 for NPS 6.</param>
public sealed record PipeSize(string Nps, string Schedule, Length OutsideDiameter, Length Wall, int Dn)
{
    /// <summary>Outside diameter less twice the wall.</summary>
    public Length InsideDiameter => Length.FromMm(OutsideDiameter.Mm - (2 * Wall.Mm));
}

/// <summary>Pipe sizes NPS 1/8 to 24 (ASME B36.10M and B36.19M).</summary>
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

    /// <summary>The size, or null when the standard has no such size or schedule. The schedule is read without regard to case; a size may be named by DN.</summary>
    /// <param name="nps"><c>6</c>, <c>1-1/2</c>, or <c>DN 150</c>.</param>
    public static PipeSize? Find(string nps, string schedule)
    {
        var row = Row(nps);
        var name = row?.WallIn.Keys.FirstOrDefault(key => key.Equals(schedule, StringComparison.OrdinalIgnoreCase));
        return row is null || name is null
            ? null
            : new PipeSize(row.Nps, name, Length.FromInches(row.OutsideDiameterIn), Length.FromInches(row.WallIn[name]), row.Dn);
    }

    private static SizeRow? Row(string nps)
    {
        var name = nps.Trim();
        return name.StartsWith("DN", StringComparison.OrdinalIgnoreCase)
            ? Data.Sizes.FirstOrDefault(row => row.Dn.ToString(System.Globalization.CultureInfo.InvariantCulture) == name[2..].Trim())
            : Data.Sizes.FirstOrDefault(row => row.Nps == name);
    }

    private sealed record Table(string Source, bool FromMemory, IReadOnlyList<SizeRow> Sizes);

    private sealed record SizeRow(string Nps, int Dn, double OutsideDiameterIn, IReadOnlyDictionary<string, double> WallIn);

    /// <summary>The way round a joint of pipe at a diameter, in mm: a circle; of a branch on a run of its own size two half ellipses, √2 as long as wide.</summary>
    public static double RoundMm(this JointPlan joint, double diameterMm)
    {
        if (joint.Form != JointForm.Branch)
        {
            return Math.PI * diameterMm;
        }

        // Ramanujan's formula for the way round an ellipse.
        var (a, b) = (diameterMm / 2 * Math.Sqrt(2), diameterMm / 2);
        var h = (a - b) * (a - b) / ((a + b) * (a + b));
        return Math.PI * (a + b) * (1 + (3 * h / (10 + Math.Sqrt(4 - (3 * h)))));
    }

    /// <summary>The pipe size of a joint, or null for plate and sheet.</summary>
    /// <exception cref="InvalidOperationException">The size is not in the table.</exception>
    public static PipeSize? PipeSize(this JointPlan joint) =>
        joint.Pipe is not { } pipe
            ? null
            : Find(pipe.Nps, pipe.Schedule) ?? throw new InvalidOperationException($"NPS {pipe.Nps} schedule {pipe.Schedule} is not a pipe size.");
}
