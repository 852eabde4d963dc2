using Gradus.Core.Qualification;

namespace Gradus.Core.Certification;

/// <summary>Until when a qualification holds.</summary>
/// <param name="UseBy">The process must be used again by this day.</param>
/// <param name="RenewBy">The day by which it is renewed, on the chosen route; null when the code asks for no renewal.</param>
/// <param name="EndsOn">The earlier of both.</param>
public sealed record Validity(DateOnly UseBy, DateOnly? RenewBy, DateOnly EndsOn, string Rule, string Source, bool FromMemory)
{
    /// <summary>
    /// The dates for a qualification. A month that is too short ends on its last day (31 August and six months is 28 February).
    /// </summary>
    /// <param name="qualifiedOn">The day of the test, or of the last renewal.</param>
    /// <param name="lastUsedOn">The last day on which the process was used; not before the day of the test.</param>
    /// <param name="renewalYears">The route of renewal, one of the code's; null for the longest.</param>
    /// <exception cref="ArgumentException">Used before it was qualified, or a route that the code does not have.</exception>
    public static Validity Of(ContinuityRule rule, DateOnly qualifiedOn, DateOnly lastUsedOn, int? renewalYears = null)
    {
        if (lastUsedOn < qualifiedOn)
        {
            throw new ArgumentException("The last use is not before the test.", nameof(lastUsedOn));
        }

        if (renewalYears is { } years && !rule.RenewalYears.Contains(years))
        {
            throw new ArgumentException(
                rule.RenewalYears.Count == 0 ? "This code asks for no renewal." : $"One of: {string.Join(", ", rule.RenewalYears)} years.",
                nameof(renewalYears)
            );
        }

        int? longest = rule.RenewalYears.Count == 0 ? null : rule.RenewalYears.Max();
        var (useBy, renewBy, endsOn) = Continuity.EndOf(rule, lastUsedOn, qualifiedOn, renewalYears ?? longest);
        return new Validity(useBy, renewBy, endsOn, rule.Rule, rule.Source, rule.FromMemory);
    }
}
