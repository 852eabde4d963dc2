namespace Gradus.Core.Library;

/// <summary>
/// The short mark of a coupon, struck into the steel: four characters and a check character, from an alphabet in which no two are confused
/// when struck with hand stamps (no 0 O D Q, 1 I L, 2 Z, 5 S, 8 B, U V).
/// </summary>
public static class Stamp
{
    private const string Alphabet = "ACEFHJKMNPRTWXY34679";
    private const int Digits = 4;

    /// <summary>The stamp of a running number, 0 or more. Beyond 159 999 it grows by a character.</summary>
    /// <exception cref="ArgumentOutOfRangeException">The number is negative.</exception>
    public static string Of(long number)
    {
        ArgumentOutOfRangeException.ThrowIfNegative(number);
        var body = "";
        for (var rest = number; body.Length < Digits || rest > 0; rest /= Alphabet.Length)
        {
            body = Alphabet[(int)(rest % Alphabet.Length)] + body;
        }

        return body + Check(body);
    }

    /// <summary>True when the check character fits: one wrong character is always noticed, and two neighbours swapped nearly always.</summary>
    public static bool IsValid(string stamp) =>
        stamp.Length > Digits && stamp.All(c => Alphabet.Contains(c, StringComparison.Ordinal)) && Check(stamp[..^1]) == stamp[^1];

    // Luhn's algorithm in base N (ISO/IEC 7812-1 carries the decimal one): every second character from the right is doubled and its digits summed.
    private static char Check(string body)
    {
        var n = Alphabet.Length;
        var sum = 0;
        for (var index = 0; index < body.Length; index++)
        {
            var value = Alphabet.IndexOf(body[body.Length - 1 - index], StringComparison.Ordinal);
            var weighed = index % 2 == 0 ? value * 2 : value;
            sum += (weighed / n) + (weighed % n);
        }

        return Alphabet[(n - (sum % n)) % n];
    }
}
