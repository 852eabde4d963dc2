namespace Gradus.Core.Welding;

/// <summary>The flow of shielding gas that a gas cup takes: under it the pool stands bare, over it the stream draws air in.</summary>
/// <param name="FromCup">The smallest cup by its number (sixteenths of an inch of bore)...</param>
/// <param name="ToCup">...and the largest that it holds for.</param>
public sealed record CupFlow(int FromCup, int ToCup, double MinLPerMin, double MaxLPerMin, string Source)
{
    /// <summary>All rows, smallest cup first.</summary>
    public static IReadOnlyList<CupFlow> All { get; } = CoreJson.ReadEmbedded<IReadOnlyList<CupFlow>>("Welding/cup-flow.json");

    /// <summary>The row of a cup; null where none is known.</summary>
    public static CupFlow? Of(int cup) => All.FirstOrDefault(row => cup >= row.FromCup && cup <= row.ToCup);
}
