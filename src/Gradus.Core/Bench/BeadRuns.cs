using Gradus.Core.Joints;
using Gradus.Core.Library;
using Gradus.Core.Measure;
using Gradus.Core.Welding;

namespace Gradus.Core.Bench;

/// <summary>A run in which a bead is usually laid: from one place to another, on pipe by one side.</summary>
public sealed record PlannedRun(string From, string To, PipeSide? Side);

/// <summary>The runs of a bead: how they are usually laid, and whether those that were laid make it whole.</summary>
public static class BeadRuns
{
    /// <summary>
    /// The runs that a bead is usually laid in. On fixed pipe by sides, the difficult one first unless the variant says last: for a right-handed
    /// welder 6-9-12, for a left-handed one 6-3-12 (chosen default; practitioners differ); on large pipe by opposite quarters. A half of a split
    /// coupon is one run. Elsewhere a bead is one run from start to end, and on rolled or upright pipe once round.
    /// </summary>
    public static IReadOnlyList<PlannedRun> Of(TestTemplate test, PlannedBead bead, OperatorHand hand)
    {
        if (test.Product != Product.Pipe)
        {
            return [new PlannedRun("start", "end", null)];
        }

        var down = test.Passes[bead.Pass].Progression == Progression.Downhill;
        if (bead.Half is not null)
        {
            var half = test.Halves.First(one => one.Id == bead.Half);
            var side = Wanted(test, bead, 0).Side;
            var fromLow = ClockPosition.Parse(half.FromClock).MinutesFrom(ClockPosition.MinutesRound / 2) < ClockPosition.MinutesRound / 4;
            return [fromLow == down ? new PlannedRun(half.ToClock, half.FromClock, side) : new PlannedRun(half.FromClock, half.ToClock, side)];
        }

        if (!TestElements.IsZoned(test))
        {
            return [new PlannedRun("12", "12", null)];
        }

        var difficult = hand == OperatorHand.Right ? PipeSide.Nine : PipeSide.Three;
        var first = test.SidesBy == SideOrder.DifficultLast ? Other(difficult) : difficult;
        PlannedRun Side(PipeSide side) => down ? new PlannedRun("12", "6", side) : new PlannedRun("6", "12", side);
        PlannedRun Quarter(PipeSide side, bool low) =>
            (low, down) switch
            {
                (true, false) => new PlannedRun("6", Mid(side), side),
                (false, false) => new PlannedRun(Mid(side), "12", side),
                (true, true) => new PlannedRun(Mid(side), "6", side),
                (false, true) => new PlannedRun("12", Mid(side), side),
            };
        return test.Joint.PipeSize()?.OutsideDiameter.Mm >= TradeNumbers.Of("quartersFromMm")
            ? [Quarter(first, !down), Quarter(Other(first), down), Quarter(Other(first), !down), Quarter(first, down)]
            : [Side(first), Side(Other(first))];
    }

    /// <summary>Whether the runs of a bead make it whole: one that took it all, or several that cover it.</summary>
    public static bool AreWhole(TestTemplate test, PlannedBead bead, IReadOnlyCollection<LoggedPass> runs) =>
        runs.Any(run => !run.Part) || Cover(test, bead, runs);

    /// <summary>Whether some runs take the bead from its one end to its other, by where they were started and stopped.</summary>
    internal static bool Cover(TestTemplate test, PlannedBead bead, IReadOnlyCollection<LoggedPass> runs) =>
        Takes(test, runs, Wanted(test, bead, test.Joint.LengthMm ?? 0));

    /// <summary>Whether some runs together take all of a stretch.</summary>
    internal static bool Takes(TestTemplate test, IReadOnlyCollection<LoggedPass> runs, Reach wanted) =>
        runs.Count > 0
        && Stretch.Cover(
            runs.Select(run => run.Stretch?.On(test.Joint.LengthMm ?? 0)).OfType<Reach>(),
            wanted,
            test.Product == Product.Pipe,
            Slack(test)
        );

    /// <summary>The usual runs of a bead that were not laid yet, in order.</summary>
    public static IReadOnlyList<PlannedRun> Left(TestTemplate test, PlannedBead bead, OperatorHand hand, IReadOnlyCollection<LoggedPass> runs)
    {
        if (AreWhole(test, bead, runs))
        {
            return [];
        }

        return
        [
            .. Of(test, bead, hand)
                .Where(run =>
                    Place.TryParse(run.From, test.Product, out var from)
                    && Place.TryParse(run.To, test.Product, out var to)
                    && new Stretch(from, to, run.Side).On(test.Joint.LengthMm ?? 0) is { } reach
                    && !Takes(test, runs, reach)
                ),
        ];
    }

    private static PipeSide Other(PipeSide side) => side == PipeSide.Three ? PipeSide.Nine : PipeSide.Three;

    private static string Mid(PipeSide side) => side == PipeSide.Three ? "3" : "9";

    private static double Slack(TestTemplate test) => TradeNumbers.Of(test.Product == Product.Pipe ? "runSlackMinutes" : "runSlackMm");

    /// <summary>All that a bead has to take of the joint.</summary>
    private static Reach Wanted(TestTemplate test, PlannedBead bead, double lengthMm)
    {
        if (test.Product != Product.Pipe)
        {
            return new Reach(0, lengthMm);
        }

        return test.Halves.FirstOrDefault(one => one.Id == bead.Half) is { } half
            ? Reach.Clockwise(ClockPosition.Parse(half.FromClock), ClockPosition.Parse(half.ToClock))
            : new Reach(0, ClockPosition.MinutesRound);
    }
}
