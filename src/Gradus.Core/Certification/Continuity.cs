using Gradus.Core.Qualification;

namespace Gradus.Core.Certification;

/// <summary>Whether a qualification holds on a day.</summary>
public enum HoldKind
{
    Holds,

    /// <summary>It holds, and ends within <see cref="Continuity.SoonDays"/> days when nothing is done.</summary>
    EndsSoon,
    Ended,
}

/// <summary>How long a qualification holds by what was proven of it.</summary>
/// <param name="LastUsedOn">The last day that counts as use: the test, a signed use, or a renewal.</param>
/// <param name="UseBy">The process must be used again by this day, itself included.</param>
/// <param name="RenewBy">The last day for renewal on the chosen route; null when there is none.</param>
/// <param name="EndsOn">The last day on which it holds: the earlier of both.</param>
/// <param name="Counted">The days that counted, in order; what came after it had ended is not among them.</param>
public sealed record Keeping(HoldKind Kind, DateOnly LastUsedOn, DateOnly UseBy, DateOnly? RenewBy, DateOnly EndsOn, IReadOnlyList<DateOnly> Counted);

/// <summary>Works out until when qualifications hold. Pure; the day is handed in.</summary>
public static class Continuity
{
    /// <summary>So many days ahead it is said that something ends. Set here: time for a keep-alive coupon in most timetables.</summary>
    public const int SoonDays = 60;

    /// <summary>
    /// Until when a qualification holds. Each use carries it on for the code's months, but only while it still holds: what has ended is won back by a new
    /// test alone.
    /// </summary>
    /// <param name="qualifiedOn">The day of the test.</param>
    /// <param name="uses">Days of signed use, in any order; those before the test or after today count for nothing.</param>
    /// <param name="today">The day at the school.</param>
    /// <param name="route">The route of renewal, by its clause; null for the shortest that the code has.</param>
    /// <param name="renewals">Days of renewal on that route; each is a use as well.</param>
    /// <exception cref="ArgumentException">A route that the code does not have.</exception>
    public static Keeping Of(
        ContinuityRule rule,
        DateOnly qualifiedOn,
        IEnumerable<DateOnly> uses,
        DateOnly today,
        string? route = null,
        IEnumerable<DateOnly>? renewals = null
    )
    {
        var years = YearsOf(rule, route);
        var renewed = (renewals ?? []).ToHashSet();
        var (last, from) = (qualifiedOn, qualifiedOn);
        List<DateOnly> counted = [];
        foreach (var day in uses.Concat(renewed).Where(day => day >= qualifiedOn && day <= today).Distinct().Order())
        {
            if (day > EndOf(rule, last, from, years).EndsOn)
            {
                break;
            }

            (last, from) = (day, renewed.Contains(day) ? day : from);
            counted.Add(day);
        }

        var (useBy, renewBy, endsOn) = EndOf(rule, last, from, years);
        var kind =
            today > endsOn ? HoldKind.Ended
            : endsOn.DayNumber - today.DayNumber <= SoonDays ? HoldKind.EndsSoon
            : HoldKind.Holds;
        return new Keeping(kind, last, useBy, renewBy, endsOn, counted);
    }

    /// <summary>The routes of renewal by which a qualification can be kept; empty where the code asks for none.</summary>
    public static IReadOnlyList<RenewalRoute> RoutesOf(ContinuityRule rule) =>
        rule.RenewalYears.Count == 0 ? [] : [.. rule.Renewals.Where(one => one.Id != "lapsed")];

    private static int? YearsOf(ContinuityRule rule, string? route)
    {
        var routes = RoutesOf(rule);
        if (route is null)
        {
            return routes.Min(one => one.Years);
        }

        return (
            routes.FirstOrDefault(one => one.Id == route)
            ?? throw new ArgumentException(
                routes.Count == 0 ? "This code asks for no renewal." : $"One of: {string.Join(", ", routes.Select(one => one.Id))}.",
                nameof(route)
            )
        ).Years;
    }

    /// <summary>The route of renewal that ends first; null where the code asks for no renewal.</summary>
    public static string? ShortestRoute(ContinuityRule rule) => RoutesOf(rule).Where(one => one.Years is not null).MinBy(one => one.Years)?.Id;

    /// <summary>Until when use and renewal carry; a month that is too short ends on its last day.</summary>
    internal static (DateOnly UseBy, DateOnly? RenewBy, DateOnly EndsOn) EndOf(ContinuityRule rule, DateOnly last, DateOnly from, int? years)
    {
        var useBy = last.AddMonths(rule.Months);
        DateOnly? renewBy = years is { } count ? from.AddYears(count) : null;
        return (useBy, renewBy, renewBy < useBy ? renewBy.Value : useBy);
    }
}
