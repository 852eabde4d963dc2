namespace Gradus.Simulators;

/// <summary>A key that is pressed.</summary>
/// <param name="Name">As a keyboard tells it.</param>
/// <param name="AfterMs">So long after the one before it.</param>
public sealed record Key(string Name, int AfterMs);

/// <summary>A device that is a keyboard to the tablet: a scanner that reads a tag, a weld gauge that sends what it measured. It types faster than a hand, and ends with Enter.</summary>
public static class Keypad
{
    /// <summary>The keys of one reading.</summary>
    public static IReadOnlyList<Key> Type(string reading, Random random) =>
        [.. reading.Select(letter => new Key(letter.ToString(), random.Next(2, 12))), new Key("Enter", random.Next(2, 12))];
}
