using Gradus.Core.Library;
using Gradus.Core.Welding;

namespace Gradus.Core.Bench;

/// <summary>Something that is asked of a run. All of it can be passed over: what is not said is no evidence.</summary>
/// <param name="Id">The field of <see cref="RunMeasures"/>.</param>
/// <param name="Unit">How it is shown: <c>length</c> mm, <c>flow</c> L/min, <c>hours</c>, <c>percent</c>, <c>seconds</c>, <c>choice</c>, <c>levels</c>, <c>rods</c>, <c>cup</c>, <c>yesNo</c>.</param>
/// <param name="Chips">The values that are offered, in the unit of the field.</param>
/// <param name="Processes">The processes that it is asked for; null for all. So for the stages.</param>
/// <param name="FirstOfProcess">True when it is asked once, with the first pass of a process.</param>
/// <param name="LowHydrogen">Only of covered low-hydrogen electrodes.</param>
/// <param name="LastBeforeCap">Only of the last bead under the cap.</param>
/// <param name="Ball">Only where a ball has to pass the bore.</param>
/// <param name="UsedBy">The signs of causes, the sums, or the verdict, that use it: what nothing uses is not asked.</param>
public sealed record Ask(
    string Id,
    string Name,
    string Unit,
    IReadOnlyList<string> UsedBy,
    IReadOnlyList<double>? Chips = null,
    IReadOnlyList<string>? Choices = null,
    IReadOnlyList<Process>? Processes = null,
    IReadOnlyList<Stage>? Stages = null,
    bool FirstOfProcess = false,
    bool LowHydrogen = false,
    bool OpenRoot = false,
    bool Purged = false,
    bool LastBeforeCap = false,
    bool Ball = false
);

/// <summary>What is asked of a run, and when.</summary>
public static class Asks
{
    /// <summary>Everything that can be asked.</summary>
    public static IReadOnlyList<Ask> All { get; } = CoreJson.ReadEmbedded<IReadOnlyList<Ask>>("Bench/asks.json");

    /// <summary>What is asked when a bead is laid.</summary>
    /// <param name="beads">All beads of the coupon, in order.</param>
    /// <param name="laid">What was laid so far.</param>
    public static IEnumerable<Ask> Of(TestTemplate test, PlannedBead bead, IReadOnlyList<PlannedBead> beads, IReadOnlyList<LoggedPass> laid)
    {
        var pass = test.Passes[bead.Pass];
        var first = laid.All(one => one.Process != pass.Process || one.BeadKey == bead.Key);
        var under = beads.LastOrDefault(one => one.Stage < Stage.Cap && one.Half == bead.Half);
        return All.Where(ask =>
            ask.Processes?.Contains(pass.Process) != false
            && ask.Stages?.Contains(bead.Stage) != false
            && (!ask.FirstOfProcess || first)
            && (!ask.LowHydrogen || pass.Family == ElectrodeFamily.LowHydrogen)
            && (!ask.OpenRoot || test.OpenRoot)
            && (!ask.Purged || CouponBudget.PurgeOf(test).Minutes > 0)
            && (!ask.Ball || test.Rules.BallPasses)
            && (!ask.LastBeforeCap || (beads.Any(one => one.Stage == Stage.Cap) && under?.Key == bead.Key))
        );
    }
}
