namespace Gradus.Server.Students;

/// <summary>Whether two names are likely one person's: the same words in any order, but for case, accents and one slip of a finger.</summary>
public static class NameLikeness
{
    private const int ShortestWithSlip = 6;

    public static bool IsAlike(string one, string other)
    {
        var (a, b) = (Plain(one), Plain(other));
        return a == b || (Math.Min(a.Length, b.Length) >= ShortestWithSlip && IsOneSlipAway(a, b));
    }

    // The program knows no cultures, so it does not take letters apart by itself: those of the Latin alphabets, in pairs.
    private const string Accented = "àáâãäåāăąæçćčďđèéêëēęěğìíîïīıłñńňòóôõöøōőřśšşșťțţùúûüūůűýÿžźż";
    private const string Bare = "aaaaaaaaaacccddeeeeeeegiiiiiilnnnoooooooorsssstttuuuuuuuyyzzz";

    private static string Plain(string name)
    {
        var letters = name.Select(char.ToLowerInvariant)
            .Select(letter => Accented.IndexOf(letter, StringComparison.Ordinal) is >= 0 and var at ? Bare[at] : letter)
            .Select(letter => char.IsLetterOrDigit(letter) ? letter : ' ');
        return string.Join(' ', new string([.. letters]).Split(' ', StringSplitOptions.RemoveEmptyEntries).Order(StringComparer.Ordinal));
    }

    /// <summary>One letter changed, left out, doubled or swapped with its neighbour.</summary>
    private static bool IsOneSlipAway(string a, string b)
    {
        if (a.Length > b.Length)
        {
            (a, b) = (b, a);
        }

        var same = 0;
        while (same < a.Length && a[same] == b[same])
        {
            same++;
        }

        var (restA, restB) = (a[same..], b[same..]);
        return (b.Length - a.Length) switch
        {
            0 => restA[1..] == restB[1..] || (restA.Length > 1 && restA[0] == restB[1] && restA[1] == restB[0] && restA[2..] == restB[2..]),
            1 => restA == restB[1..],
            _ => false,
        };
    }
}
