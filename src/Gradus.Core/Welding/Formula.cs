namespace Gradus.Core.Welding;

/// <summary>How a calculation of the shop is done: the formula in words and symbols, with its source.</summary>
/// <param name="Call">The call of the interface that answers it.</param>
public sealed record Formula(string Id, string Title, string Text, string Source, bool FromMemory, string Call);

/// <summary>The calculations, as they are shown and listed.</summary>
public static class Formulas
{
    /// <summary>Every calculation, in the order of the shop.</summary>
    public static IReadOnlyList<Formula> All { get; } = CoreJson.ReadEmbedded<IReadOnlyList<Formula>>("Welding/formulas.json");
}
