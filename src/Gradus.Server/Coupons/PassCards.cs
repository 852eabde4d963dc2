using Gradus.Core.Library;
using Gradus.Core.Welding;
using Gradus.Data;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Coupons;

/// <summary>The settings that a student's next pass starts from.</summary>
public static class PassCards
{
    private const int RecentDays = 90;
    private const int MostPasses = 4000;

    /// <summary>The passes of some students in the last 90 days, latest first, by student and test.</summary>
    public static async Task<ILookup<(Guid StudentId, string TestId), PassRecord>> Recent(
        GradusContext db,
        IReadOnlyCollection<Guid> studentIds,
        DateTimeOffset now,
        CancellationToken cancel
    )
    {
        var since = now.AddDays(-RecentDays);
        var rows = await db
            .Coupons.AsNoTracking()
            .Where(coupon => studentIds.Contains(coupon.StudentId) && coupon.StartedAt >= since)
            .SelectMany(
                coupon => coupon.Passes.Where(pass => pass.WithdrawnAt == null),
                (coupon, pass) =>
                    new
                    {
                        coupon.StudentId,
                        coupon.TestId,
                        pass,
                    }
            )
            .OrderByDescending(row => row.pass.RecordedAt)
            .Take(MostPasses)
            .ToListAsync(cancel);
        return rows.ToLookup(row => (row.StudentId, row.TestId), row => row.pass);
    }

    /// <summary>The cards, from passes ordered latest first.</summary>
    public static IReadOnlyList<PassCard> Build(TestTemplate template, OperatorHand hand, IEnumerable<PassRecord> latestFirst) =>
        [
            .. template.Passes.Select(plan =>
                latestFirst.FirstOrDefault(pass => IsOf(plan, pass)) is { } last ? FromLast(plan, last) : FromTemplate(plan, hand)
            ),
        ];

    private static bool IsOf(PassPlan plan, PassRecord pass) =>
        pass.Stage == plan.Stage
        && pass.Process == plan.Process
        && pass.ElectrodeClass == plan.Filler.Classification
        && (plan.Half is null || pass.BeadKey.EndsWith($"@{plan.Half}", StringComparison.Ordinal));

    private static PassCard FromTemplate(PassPlan plan, OperatorHand hand) =>
        new(
            plan.Stage,
            plan.Half,
            plan.Process,
            plan.Filler.Classification,
            plan.Filler.DiameterMm,
            plan.Filler.DiameterText,
            plan.Polarity,
            Middle(plan.Settings.Amps)!.Value,
            Middle(plan.Settings.Volts),
            Middle(plan.Settings.WireFeedMmPerMin),
            plan.Gas,
            plan.Technique,
            plan.Progression,
            hand,
            FromLast: false,
            plan.Settings,
            plan.Note
        );

    private static PassCard FromLast(PassPlan plan, PassRecord last) =>
        FromTemplate(plan, last.Hand) with
        {
            Amps = last.Amps,
            Volts = last.Volts,
            WireFeedMmPerMin = last.WireFeedMmPerMin,
            FromLast = true,
        };

    private static double? Middle(Span? range) => range is null ? null : (range.Min + range.Max) / 2;
}
