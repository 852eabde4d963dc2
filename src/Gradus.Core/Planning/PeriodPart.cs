using Gradus.Core.Library;
using Gradus.Core.Measure;
using Gradus.Core.Readiness;

namespace Gradus.Core.Planning;

/// <summary>A piece of what fills a period.</summary>
/// <param name="DrillId">Null for a full coupon.</param>
/// <param name="Name">As it is called in a list.</param>
/// <param name="Times">How often in a row; 1 or more.</param>
/// <param name="Minutes">For all of them.</param>
public sealed record PeriodPart(string? DrillId, string Name, int Times, double Minutes)
{
    /// <summary>What is made, in words: root only, 2 times.</summary>
    [System.Text.Json.Serialization.JsonIgnore]
    public string Words => Times > 1 ? $"{Name}, {Times} times" : Name;

    /// <summary>How many times the parts make each element of a test: a repeat in one go teaches less than the one before it.</summary>
    public static IReadOnlyDictionary<string, double> Practice(TestTemplate test, IEnumerable<PeriodPart> parts)
    {
        var made = new Dictionary<string, double>(StringComparer.Ordinal);
        foreach (var part in parts)
        {
            var drill = part.DrillId is { } id ? test.Drills.FirstOrDefault(one => one.Id == id) : null;
            if (part.DrillId is not null && drill is null)
            {
                continue; // A drill that the school has taken out since.
            }

            var share = TradeNumbers.Of("repeatShare");
            var times = (1 - Math.Pow(share, part.Times)) / (1 - share);
            foreach (var element in TestElements.Of(test).Where(name => drill is null || Prescription.Works(drill, name)))
            {
                made[element] = made.GetValueOrDefault(element) + times;
            }
        }

        return made;
    }
}

/// <summary>What may fill a period of one student on one test, before it is known what that is worth.</summary>
/// <param name="Periods">Periods that it takes; 1 for what fits into one.</param>
/// <param name="Work">What all of it takes.</param>
/// <param name="Practice">How many times it makes each element.</param>
public sealed record PeriodOffer(
    ItemKind Kind,
    IReadOnlyList<PeriodPart> Parts,
    int Periods,
    ItemWork Work,
    IReadOnlyDictionary<string, double> Practice
);
