using System.Globalization;
using Gradus.Core.Inspection;
using Gradus.Core.Planning;
using MathNet.Numerics.Distributions;

namespace Gradus.Core.Learning;

/// <summary>A fault as it was found: what, in which stage, and in which zone of a fixed pipe.</summary>
public sealed record FaultSeen(DiscontinuityKind Kind, Stage Stage, string? Zone, bool AtStop);

/// <summary>A closed coupon as the search for patterns looks at it.</summary>
/// <param name="Stages">Stages that were finished, and whether they were clean.</param>
/// <param name="Hours">From its start to its close; null when it lay over night or longer.</param>
/// <param name="Foreseen">What was foreseen of a clean coupon made without help, right before it, 0 to 1; null where nothing was.</param>
public sealed record LearnCoupon(
    Guid StudentId,
    DateTimeOffset At,
    bool Full,
    bool Aided,
    IReadOnlyDictionary<Stage, bool> Stages,
    IReadOnlyList<FaultSeen> Faults,
    bool GapClosed,
    bool AmpsOffCard,
    double? Hours = null,
    double? Foreseen = null
)
{
    /// <summary>True when every stage was clean.</summary>
    public bool Clean => Stages.Values.All(clean => clean);
}

/// <summary>How often a fault came, and whether it comes more or less often than before.</summary>
/// <param name="Earlier">Coupons with it in the earlier half...</param>
/// <param name="Later">...and in the later half.</param>
/// <param name="Share">Share of all faults that this one and those before it in the list make up.</param>
public sealed record FaultPattern(
    DiscontinuityKind Kind,
    string Name,
    Stage Stage,
    string? Zone,
    int Coupons,
    int OfCoupons,
    int Earlier,
    int EarlierOf,
    int Later,
    int LaterOf,
    int Students,
    double Share
);

/// <summary>How rejected coupons go with a condition: of those with it and of those without.</summary>
/// <param name="ChanceWorse">
/// Chance, 0 to 1, that coupons with it are rejected more often than was foreseen of them, against those without; drawn toward no difference, so that
/// of a page of comparisons none is called worse by luck. Of few it says nothing, and is one half.
/// </param>
public sealed record Association(string Condition, int WithRejected, int With, int WithoutRejected, int Without, double ChanceWorse, bool Few);

/// <summary>How many coupons it took until a stage came out clean three times running; null while it has not.</summary>
/// <param name="Days">Days from the first of them to the last; null while it has not.</param>
/// <param name="Hours">Hours at those coupons, as far as they are known; null while it has not.</param>
public sealed record TimeToClean(Stage Stage, int? Coupons, int CouponsSoFar, double? Days, double? Hours);

/// <summary>How a week went.</summary>
/// <param name="Begins">The Monday of it, in UTC.</param>
public sealed record WeekOfCoupons(DateOnly Begins, int Coupons, int Rejected);

/// <summary>A notice that fewer coupons come clean than was foreseen; see <see cref="SlumpWatch"/>.</summary>
/// <param name="Clean">How many of them were clean...</param>
/// <param name="Coupons">...of how many full coupons without help...</param>
/// <param name="Foreseen">...where so many were foreseen.</param>
public sealed record Notice(string Kind, string Says, int Clean, int Coupons, double Foreseen);

/// <summary>What the coupons of a student, or of a class, tell.</summary>
public sealed record Patterns(
    int Coupons,
    int Rejected,
    bool Few,
    IReadOnlyList<FaultPattern> Faults,
    IReadOnlyList<Association> GoesWith,
    IReadOnlyList<TimeToClean> ToClean,
    IReadOnlyList<Notice> Notices,
    IReadOnlyList<WeekOfCoupons> Weeks
);

/// <summary>Looks for patterns in closed coupons. Every claim carries its counts; small numbers are called small. Pure.</summary>
public static class PatternFinder
{
    private const int FewCoupons = 8;
    private const int FewOfEach = 4;
    private const int MostFaults = 15;
    private const int RunToClean = 3;

    // How far conditions are believed to move the log-odds of a rejection before anything is seen. A chosen default: a condition that doubles them is rare.
    private const double EffectSpread = 0.5;
    private const double NoDifference = 0.5;
    private const double LeastChance = 0.02;
    private const double StudentWeight = 4;

    /// <summary>The patterns of coupons of one student or of many, whatever their order.</summary>
    public static Patterns Find(IReadOnlyList<LearnCoupon> given)
    {
        var coupons = given.OrderBy(one => one.At).ThenBy(one => one.StudentId).ToList();
        var half = coupons.Count / 2;
        return new Patterns(
            coupons.Count,
            coupons.Count(one => !one.Clean),
            coupons.Count < FewCoupons,
            Faults(coupons, half),
            [
                .. new[]
                {
                    Goes("the gap closed below its least", coupons, one => one.GapClosed),
                    Goes("amps outside the card", coupons, one => one.AmpsOffCard),
                    Goes("coached, not as under test", coupons, one => one.Aided),
                    Goes("the second coupon of a day or later", coupons, LateOnes(coupons).Contains),
                }.OfType<Association>(),
                .. AtStops(coupons),
            ],
            coupons.Select(one => one.StudentId).Distinct().Count() == 1 ? ToClean(coupons) : [],
            coupons.Select(one => one.StudentId).Distinct().Count() == 1 ? Notices(coupons) : [],
            Weeks(coupons)
        );
    }

    private static List<FaultPattern> Faults(List<LearnCoupon> coupons, int half)
    {
        var seen = coupons
            .SelectMany(
                (coupon, index) =>
                    coupon.Faults.Select(fault => (fault.Kind, fault.Stage, fault.Zone)).Distinct().Select(fault => (fault, coupon, index))
            )
            .ToList();
        var ranked = seen.GroupBy(one => one.fault)
            .OrderByDescending(group => group.Count())
            .ThenBy(group => group.Key.Stage)
            .ThenBy(group => group.Key.Kind)
            .ThenBy(group => group.Key.Zone, StringComparer.Ordinal)
            .ToList();
        var sum = 0;
        return
        [
            .. ranked
                .Take(MostFaults)
                .Select(group =>
                {
                    sum += group.Count();
                    return new FaultPattern(
                        group.Key.Kind,
                        Discontinuities.Of(group.Key.Kind).Name,
                        group.Key.Stage,
                        group.Key.Zone,
                        group.Count(),
                        coupons.Count,
                        group.Count(one => one.index < half),
                        half,
                        group.Count(one => one.index >= half),
                        coupons.Count - half,
                        group.Select(one => one.coupon.StudentId).Distinct().Count(),
                        (double)sum / seen.Count
                    );
                }),
        ];
    }

    private static HashSet<LearnCoupon> LateOnes(List<LearnCoupon> coupons) =>
        [.. coupons.GroupBy(one => (one.StudentId, one.At.UtcDateTime.Date)).SelectMany(day => day.Skip(1))];

    private static Association? Goes(string condition, List<LearnCoupon> coupons, Func<LearnCoupon, bool> has)
    {
        var with = coupons.Where(has).ToList();
        var without = coupons.Where(one => !has(one)).ToList();
        if (with.Count == 0 || without.Count == 0)
        {
            return null;
        }

        var isFew = Math.Min(with.Count, without.Count) < FewOfEach;
        return new Association(
            condition,
            with.Count(one => !one.Clean),
            with.Count,
            without.Count(one => !one.Clean),
            without.Count,
            isFew ? NoDifference : ChanceWorse(Effect(with, coupons), Effect(without, coupons)),
            isFew
        );
    }

    /// <summary>By how much more or less often these were rejected than foreseen, in log-odds: one step of Newton from no difference, with its variance.</summary>
    private static (double Effect, double Variance) Effect(List<LearnCoupon> some, List<LearnCoupon> all)
    {
        // Where nothing was foreseen of a coupon, what its student comes to is; drawn toward the others.
        var rejected = (all.Count(one => !one.Clean) + 1.0) / (all.Count + 2.0);
        var own = all.GroupBy(one => one.StudentId)
            .ToDictionary(
                student => student.Key,
                student => (student.Count(one => !one.Clean) + (StudentWeight * rejected)) / (student.Count() + StudentWeight)
            );
        var chances = some.ConvertAll(one => Math.Clamp(one.Foreseen is { } clean ? 1 - clean : own[one.StudentId], LeastChance, 1 - LeastChance));
        var information = chances.Sum(chance => chance * (1 - chance));
        var beyond = some.Zip(chances, (one, chance) => (one.Clean ? 0 : 1) - chance).Sum();
        return (beyond / information, 1 / information);
    }

    private static double ChanceWorse((double Effect, double Variance) with, (double Effect, double Variance) without)
    {
        var (difference, variance) = (with.Effect - without.Effect, with.Variance + without.Variance);
        var prior = EffectSpread * EffectSpread;
        var mean = difference * prior / (prior + variance);
        return Normal.CDF(0, Math.Sqrt(prior * variance / (prior + variance)), mean);
    }

    /// <summary>Faults at starts and stops, of all faults: nothing is known of places without one, so there is no comparison.</summary>
    private static IEnumerable<Association> AtStops(List<LearnCoupon> coupons)
    {
        var faults = coupons.SelectMany(one => one.Faults).ToList();
        var at = faults.Count(fault => fault.AtStop);
        return at == 0 ? [] : [new Association("faults that lay at a start or stop", at, faults.Count, 0, 0, 0.5, faults.Count < FewOfEach)];
    }

    private static List<TimeToClean> ToClean(List<LearnCoupon> coupons) =>
        [
            .. coupons
                .SelectMany(coupon => coupon.Stages.Select(stage => (stage.Key, stage.Value, Coupon: coupon)))
                .GroupBy(one => one.Key)
                .OrderBy(group => group.Key)
                .Select(group =>
                {
                    var clean = group.Select(one => one.Value).ToList();
                    var end = Enumerable
                        .Range(RunToClean, Math.Max(0, clean.Count - RunToClean + 1))
                        .FirstOrDefault(count => clean.Skip(count - RunToClean).Take(RunToClean).All(one => one));
                    var until = group.Take(end).Select(one => one.Coupon).ToList();
                    return end == 0
                        ? new TimeToClean(group.Key, null, clean.Count, null, null)
                        : new TimeToClean(group.Key, end, clean.Count, (until[^1].At - until[0].At).TotalDays, until.Sum(one => one.Hours ?? 0));
                }),
        ];

    private static List<WeekOfCoupons> Weeks(List<LearnCoupon> coupons) =>
        [
            .. coupons
                .GroupBy(one => WeekDays.MondayOf(DateOnly.FromDateTime(one.At.DateTime)))
                .OrderBy(week => week.Key)
                .Select(week => new WeekOfCoupons(week.Key, week.Count(), week.Count(one => !one.Clean))),
        ];

    private static List<Notice> Notices(List<LearnCoupon> coupons)
    {
        var watched = coupons.Where(one => one is { Full: true, Aided: false, Foreseen: not null }).ToList();
        if (SlumpWatch.Since([.. watched.Select(one => (one.Clean, one.Foreseen!.Value))]) is not { } since)
        {
            return [];
        }

        var late = watched[since..];
        var (clean, foreseen) = (late.Count(one => one.Clean), late.Sum(one => one.Foreseen!.Value));
        var says = string.Create(
            CultureInfo.InvariantCulture,
            $"Fewer come clean than foreseen: {clean} of the last {late.Count} whole coupons, where {foreseen:0.0} were."
        );
        return [new Notice("slump", says, clean, late.Count, foreseen)];
    }
}
