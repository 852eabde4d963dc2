namespace Gradus.Core.Welding;

/// <summary>What a steel is made of, in percent by mass.</summary>
public sealed record SteelAnalysis(
    double Carbon,
    double Manganese,
    double Chromium = 0,
    double Molybdenum = 0,
    double Vanadium = 0,
    double Nickel = 0,
    double Copper = 0,
    double Silicon = 0
)
{
    /// <summary>CE = C + Mn/6 + (Cr + Mo + V)/5 + (Ni + Cu)/15, in percent (IIW).</summary>
    public double CarbonEquivalent => Carbon + (Manganese / 6) + ((Chromium + Molybdenum + Vanadium) / 5) + ((Nickel + Copper) / 15);

    /// <summary>The same with Si/6, as the annex of AWS D1.1 on preheat has it; from memory.</summary>
    public double CarbonEquivalentWithSilicon => CarbonEquivalent + (Silicon / 6);

    /// <summary>
    /// Whether the charts of EN 1011-2 method A are for such a steel: carbon from 0.05 to 0.25 % and the equivalent from 0.30 to 0.70 %. From memory;
    /// outside it the equivalent says nothing of preheat.
    /// </summary>
    public bool IsInSpan => Carbon is >= 0.05 and <= 0.25 && CarbonEquivalent is >= 0.30 and <= 0.70;
}

/// <summary>The least preheat up to a thickness, in °C.</summary>
/// <param name="UpToMm">This thickness included; null for all over the row before.</param>
public sealed record PreheatRow(double? UpToMm, double LeastC);

/// <summary>A group of steels and fillers that a code asks the same preheat for.</summary>
/// <param name="Confidence">How sure it is, in percent: all of it is from memory.</param>
public sealed record PreheatCategory(string Id, string Name, IReadOnlyList<PreheatRow> Rows, string Source, int Confidence);

/// <summary>The least preheat and interpass temperature that a code names. A procedure may ask for more, and never for less.</summary>
public static class Preheat
{
    private static readonly PreheatFile File = CoreJson.ReadEmbedded<PreheatFile>("Welding/preheat.json");

    /// <summary>The groups.</summary>
    public static IReadOnlyList<PreheatCategory> Categories => File.Categories;

    /// <summary>Steel that is colder than this is warmed first, whatever the table says, in °C (AWS D1.1; from memory).</summary>
    public static double ColdC => File.ColdC;

    /// <summary>To this, in °C.</summary>
    public static double WarmToC => File.WarmToC;

    /// <summary>The least temperature for the thicker of two parts, in °C.</summary>
    /// <exception cref="ArgumentException">No such group.</exception>
    public static double LeastC(string category, double thickerMm) =>
        (Categories.FirstOrDefault(one => one.Id == category) ?? throw new ArgumentException($"No group '{category}'.", nameof(category)))
            .Rows.First(row => row.UpToMm is not { } most || thickerMm <= most + Rounding)
            .LeastC;

    /// <summary>Whether metal of this temperature is too cold for the arc.</summary>
    public static bool IsBelow(double leastC, double metalC) => metalC < leastC || metalC < ColdC;

    // What an inch fraction loses on the way to mm is no other thickness.
    private const double Rounding = 1e-6;

    private sealed record PreheatFile(double ColdC, double WarmToC, IReadOnlyList<PreheatCategory> Categories);
}
