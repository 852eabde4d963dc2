using Gradus.Core.Library;
using Gradus.Core.Traces;

namespace Gradus.Core.Bench;

/// <summary>The settings that a pass of a stage starts from, ready to be logged in one tap.</summary>
/// <param name="Clean">The student's settings that came out clean, when there are any: they are the ones offered.</param>
/// <param name="SameBooth">True when those settings come from this booth alone, and so from its machine.</param>
/// <param name="FromLast">True when they are this student's last on this stage, false when they are the middle of the test's range.</param>
public sealed record PassCard(
    Stage Stage,
    string? Half,
    Process Process,
    string ElectrodeClass,
    double DiameterMm,
    string DiameterText,
    Polarity Polarity,
    double Amps,
    double? Volts,
    double? WireFeedMmPerMin,
    string? Gas,
    BeadTechnique Technique,
    Progression Progression,
    OperatorHand Hand,
    bool FromLast,
    SettingRanges Ranges,
    string? Note,
    CleanSettings? Clean,
    bool SameBooth
);

/// <summary>An earlier pass of a student, with what a card reads of it.</summary>
/// <param name="BoothId">The booth that it was welded in.</param>
/// <param name="Clean">How its stage came out; null while its coupon is open.</param>
/// <param name="Arc">What burnt, where it was measured.</param>
public sealed record RecentPass(
    string BeadKey,
    Stage Stage,
    Process Process,
    string ElectrodeClass,
    double DiameterMm,
    double Amps,
    double? Volts,
    double? WireFeedMmPerMin,
    OperatorHand Hand,
    Guid? BoothId,
    bool? Clean,
    BeadArc? Arc = null
);

/// <summary>The settings that a student's next pass starts from.</summary>
public static class PassCards
{
    // So many judged passes in one booth, that is on one machine, say more than all machines together.
    private const int EnoughOfOneBooth = 3;
    private const double SameDiameterMm = 0.01;

    /// <summary>A card for each of the test's passes, from the student's own passes ordered latest first.</summary>
    /// <param name="boothId">Where the next pass is welded: settings that came out clean on its machine come first.</param>
    public static IReadOnlyList<PassCard> Build(TestTemplate template, OperatorHand hand, IEnumerable<RecentPass> latestFirst, Guid? boothId = null)
    {
        var recent = latestFirst.ToList();
        return [.. template.Passes.Select(plan => Card(plan, hand, [.. recent.Where(one => IsOf(plan, one))], boothId))];
    }

    /// <summary>The settings that came out clean before; else the last ones; else the middle of the test's range.</summary>
    private static PassCard Card(PassPlan plan, OperatorHand hand, List<RecentPass> own, Guid? boothId)
    {
        if (own.Count == 0)
        {
            return FromTemplate(plan, hand);
        }

        var last = FromLast(plan, own[0]);
        var judged = own.Where(one => one.Clean is not null).ToList();
        var here = judged.Where(one => boothId is not null && one.BoothId == boothId).ToList();
        var sameBooth = here.Count >= EnoughOfOneBooth && here.Exists(one => one.Clean == true);
        judged = sameBooth ? here : judged;
        return
            StudentCard.Of(
                [.. judged.Select(one => new CardPass(one.Amps, one.Volts, one.WireFeedMmPerMin, one.Clean!.Value, one.Arc))],
                plan.Process.IsWire()
            )
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

    private static bool IsOf(PassPlan plan, RecentPass pass) =>
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

    private static PassCard FromLast(PassPlan plan, RecentPass last) =>
        FromTemplate(plan, last.Hand) with
        {
            Amps = last.Amps,
            Volts = last.Volts,
            WireFeedMmPerMin = last.WireFeedMmPerMin,
            FromLast = true,
        };

    private static double? Middle(Span? range) => range is null ? null : (range.Min + range.Max) / 2;
}
