namespace Gradus.Core.Traces;

/// <summary>How covered electrodes are run, by their classification.</summary>
public static class Electrodes
{
    /// <summary>
    /// The family of a classification by the last two digits of AWS A5.1 and A5.5: 10 and 11 are cellulosic; 15, 16, 18, 28 and 48 low hydrogen;
    /// the rest, and what is no covered electrode, is <see cref="ElectrodeFamily.Other"/>. From memory.
    /// </summary>
    public static ElectrodeFamily FamilyOf(string? classification)
    {
        if (classification is not ['E' or 'e', ..])
        {
            return ElectrodeFamily.Other;
        }

        var digits = new string([.. classification.Skip(1).TakeWhile(char.IsAsciiDigit)]);
        return digits.Length is not (4 or 5)
            ? ElectrodeFamily.Other
            : digits[^2..] switch
            {
                "10" or "11" => ElectrodeFamily.Cellulosic,
                "15" or "16" or "18" or "28" or "48" => ElectrodeFamily.LowHydrogen,
                _ => ElectrodeFamily.Other,
            };
    }
}
