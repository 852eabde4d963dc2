using Gradus.Core.Bench;
using Gradus.Core.Library;
using Gradus.Data;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Coupons;

/// <summary>A pass with the booth it was welded in and how its stage came out; null while its coupon is open.</summary>
public sealed record RecentPass(PassRecord Pass, Guid? BoothId, bool? Clean);

/// <summary>The settings that a student's next pass starts from.</summary>
public static class PassCards
{
    private const int RecentDays = 90;
    private const int MostPasses = 4000;

    // So many judged passes in one booth, that is on one machine, say more than all machines together.
    private const int EnoughOfOneBooth = 3;
    private const double SameDiameterMm = 0.01;

    /// <summary>The passes of some students in the last 90 days, latest first, by student and test.</summary>
    /// <param name="testIds">Only those of these tests; all when left out.</param>
    public static async Task<ILookup<(Guid StudentId, string TestId), RecentPass>> Recent(
        GradusContext db,
        IReadOnlyCollection<Guid> studentIds,
        DateTimeOffset now,
        CancellationToken cancel,
        IReadOnlyCollection<string>? testIds = null
    )
    {
        var since = now.AddDays(-RecentDays);
        var rows = await db
            .Coupons.AsNoTracking()
            .Where(coupon => studentIds.Contains(coupon.StudentId) && coupon.StartedAt >= since)
            .Where(coupon => testIds == null || testIds.Contains(coupon.TestId))
            .SelectMany(
                coupon => coupon.Passes.Where(pass => pass.WithdrawnAt == null),
                (coupon, pass) =>
                    new
                    {
                        coupon.StudentId,
                        coupon.TestId,
                        coupon.BoothId,
                        pass,
                    }
            )
            .OrderByDescending(row => row.pass.RecordedAt)
            .Take(MostPasses)
            .ToListAsync(cancel);
        var closings = await db
            .Coupons.AsNoTracking()
            .Where(coupon => studentIds.Contains(coupon.StudentId) && coupon.StartedAt >= since && coupon.ClosedAt != null && coupon.VoidedAt == null)
            .Where(coupon => testIds == null || testIds.Contains(coupon.TestId))
            .SelectMany(
                coupon => coupon.Closings.Where(closing => closing.WithdrawnAt == null),
                (coupon, closing) => new { coupon.Id, closing.StageClean }
            )
            .ToListAsync(cancel);
        var clean = closings.ToDictionary(row => row.Id, row => row.StageClean);
        return rows.ToLookup(
            row => (row.StudentId, row.TestId),
            row => new RecentPass(
                row.pass,
                row.BoothId,
                clean.GetValueOrDefault(row.pass.CouponId) is { } stages && stages.TryGetValue(row.pass.Stage, out var was) ? was : null
            )
        );
    }

    /// <summary>The cards, from passes ordered latest first.</summary>
    /// <param name="boothId">Where the next pass is welded: settings that came out clean on its machine come first.</param>
    public static IReadOnlyList<PassCard> Build(
        TestTemplate template,
        OperatorHand hand,
        IEnumerable<RecentPass> latestFirst,
        Guid? boothId = null
    ) => [.. template.Passes.Select(plan => Card(plan, hand, [.. latestFirst.Where(one => IsOf(plan, one.Pass))], boothId))];

    /// <summary>The settings that came out clean before; else the last ones; else the middle of the test's range.</summary>
    private static PassCard Card(PassPlan plan, OperatorHand hand, List<RecentPass> own, Guid? boothId)
    {
        if (own.Count == 0)
        {
            return FromTemplate(plan, hand);
        }

        var last = FromLast(plan, own[0].Pass);
        var judged = own.Where(one => one.Clean is not null).ToList();
        var here = judged.Where(one => boothId is not null && one.BoothId == boothId).ToList();
        var sameBooth = here.Count >= EnoughOfOneBooth && here.Exists(one => one.Clean == true);
        judged = sameBooth ? here : judged;
        return
            StudentCard.Of([.. judged.Select(one => new CardPass(one.Pass.Amps, one.Pass.Volts, one.Pass.WireFeedMmPerMin, one.Clean!.Value))])
                is { } clean
            ? last with
            {
                Amps = Math.Round(clean.Amps),
                Volts = clean.Volts ?? last.Volts,
                WireFeedMmPerMin = clean.WireFeedMmPerMin ?? last.WireFeedMmPerMin,
                Clean = clean,
                SameBooth = sameBooth,
            }
            : last;
    }

    private static bool IsOf(PassPlan plan, PassRecord pass) =>
        pass.Stage == plan.Stage
        && pass.Process == plan.Process
        && pass.ElectrodeClass == plan.Filler.Classification
        && Math.Abs(pass.DiameterMm - plan.Filler.DiameterMm) < SameDiameterMm
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
            plan.Note,
            Clean: null,
            SameBooth: false
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
