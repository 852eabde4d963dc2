using Gradus.Core.Inspection;
using Gradus.Core.Library;

namespace Gradus.Core.Bench;

/// <summary>What a repair is made with, as far as a sitting has a rule about it.</summary>
public enum RepairTool
{
    None,
    Grinder,
    File,
}

/// <summary>What the rules of a sitting say to a repair.</summary>
public enum RepairLeave
{
    Allowed,

    /// <summary>Against the rules: on a coupon under test it counts as coached work only.</summary>
    Breach,

    /// <summary>It hides a fault from the eye: no evidence of a test at all.</summary>
    Void,
}

/// <summary>What an element tells when all that was rejected in it was repaired and is sound.</summary>
public enum RepairWeight
{
    Clean,

    /// <summary>Nothing, either way.</summary>
    Silent,
    Fault,
}

/// <summary>How far the repair of a finding has come.</summary>
public enum RepairState
{
    /// <summary>Nothing was done about it.</summary>
    None,

    /// <summary>Repaired, and not looked at since.</summary>
    Begun,

    /// <summary>Looked at again: it holds.</summary>
    Sound,

    /// <summary>Looked at again: it does not hold.</summary>
    NotSound,
}

/// <summary>The repair of a finding.</summary>
/// <param name="Tries">Refills so far.</param>
/// <param name="CooledMinutes">Minutes that it was let cool, where they were told.</param>
public sealed record Repair(
    RepairState State,
    IReadOnlyList<RepairAction> Actions,
    int Tries,
    double? CooledMinutes,
    double? HoleMm,
    double? TaperMm
);

/// <summary>How one place of a repair drill came out.</summary>
/// <param name="At">The clock position.</param>
/// <param name="Passed">Null while it is not settled.</param>
/// <param name="Says">What is wanting, or what was done, in words.</param>
public sealed record RepairScore(string At, bool? Passed, string Says, int Tries, double? CooledMinutes);

/// <summary>What a repair is, what a sitting says to it, and what it tells of the welder.</summary>
public static class Repairs
{
    private static readonly Table Data = CoreJson.ReadEmbedded<Table>("Bench/repairs.json");

    // The places of a repair drill lie three hours apart; a fault belongs to the one that it is nearest to, within half of that.
    private const int NearMinutes = 90;

    /// <summary>What an element tells when all that was rejected in it was repaired and is sound.</summary>
    public static RepairWeight WeightOf(TestTemplate test) => test.Repairing is null ? Data.OnTest : Data.OnRepairDrill;

    /// <summary>What the rules of a sitting say to a repair.</summary>
    /// <param name="atTackOrStop">Whether the finding lies at a tack, a start or a stop.</param>
    public static RepairLeave Leave(GrinderRule rule, RepairAction action, LoggedFinding finding, bool atTackOrStop)
    {
        if (Hides(action, finding) is not null)
        {
            return RepairLeave.Void;
        }

        var allowed = Data.Tools.First(one => one.Action == action).Tool switch
        {
            RepairTool.Grinder => rule == GrinderRule.Free || (rule == GrinderRule.TacksAndStopsOnly && atTackOrStop),
            RepairTool.File => rule != GrinderRule.None,
            _ => true,
        };
        return allowed ? RepairLeave.Allowed : RepairLeave.Breach;
    }

    /// <summary>Why a repair hides a fault; null when it does not.</summary>
    internal static string? Hides(RepairAction action, LoggedFinding finding) =>
        Data.Hides.FirstOrDefault(one => one.Action == action && one.Stages.Contains(finding.Stage) && one.Kinds.Contains(finding.Kind))?.Says;

    /// <summary>The repair of a finding, from what happened to a coupon in order.</summary>
    /// <param name="findingId">Null for a repair that is practised where nothing was wrong.</param>
    public static Repair Of(Guid? findingId, IReadOnlyList<BenchEvent> events)
    {
        var own = events.Where(one => one.Kind is BenchEventKind.Repaired or BenchEventKind.LookedAgain && one.Body.FindingId == findingId).ToList();
        var done = own.Where(one => one.Kind == BenchEventKind.Repaired).ToList();
        var state =
            done.Count == 0 ? RepairState.None
            : own[^1].Kind == BenchEventKind.Repaired ? RepairState.Begun
            : own[^1].Body.Sound == true ? RepairState.Sound
            : RepairState.NotSound;
        var cooled = done.Where(one => one.Body.Action == RepairAction.Cool && one.Body.Minutes is not null).ToList();
        return new Repair(
            state,
            [.. done.Select(one => one.Body.Action!.Value)],
            done.Count(one => one.Body.Action == RepairAction.Refill),
            cooled.Count == 0 ? null : cooled.Sum(one => one.Body.Minutes),
            done.LastOrDefault(one => one.Body.HoleMm is not null)?.Body.HoleMm,
            done.LastOrDefault(one => one.Body.TaperMm is not null)?.Body.TaperMm
        );
    }

    /// <summary>
    /// How each place of a repair drill came out: passed when a fault was made there, cooled, tapered and refilled within its tries, and looked
    /// at again as sound. Empty when the test is no such drill.
    /// </summary>
    public static IReadOnlyList<RepairScore> Scores(RepairDrill? drill, IReadOnlyList<LoggedFinding> findings, IReadOnlyList<BenchEvent> events)
    {
        if (drill is null)
        {
            return [];
        }

        return [.. drill.Points.Select(Score)];

        RepairScore Score(string at)
        {
            var point = Measure.ClockPosition.Parse(at);
            var made = findings
                .Where(one => one.Kind == drill.Fault && one.ClockMinutes is { } minutes && point.MinutesFrom(minutes) < NearMinutes)
                .Select(one => Of(one.Id, events))
                .ToList();
            if (made.Count == 0)
            {
                return new RepairScore(at, null, "Not made yet.", 0, null);
            }

            // Of several at one place the worst counts.
            var repair = made.MinBy(one => (one.State == RepairState.Sound, -one.Tries))!;
            var (passed, says) = repair switch
            {
                { State: RepairState.Sound } when repair.Tries > drill.MostTries => (
                    (bool?)false,
                    $"Sound after {repair.Tries} tries; {drill.MostTries} at most."
                ),
                { State: RepairState.Sound } when Wanting(repair) is { } step => (false, $"Sound, but {step}."),
                { State: RepairState.Sound } => (true, $"Sound at try {repair.Tries}."),
                { State: RepairState.NotSound } when repair.Tries >= drill.MostTries => (false, $"Not sound after {repair.Tries} tries."),
                { State: RepairState.NotSound } => (null, "Not sound: cool, grind and try again."),
                { State: RepairState.Begun } => (null, "Look at it again: sound or not."),
                _ => (null, "Let it cool, grind the taper, refill."),
            };
            return new RepairScore(at, passed, says, repair.Tries, repair.CooledMinutes);
        }
    }

    private static string? Wanting(Repair repair) =>
        !repair.Actions.Contains(RepairAction.Cool) ? "it was not let cool"
        : !repair.Actions.Contains(RepairAction.Taper) && !repair.Actions.Contains(RepairAction.Grind) ? "no taper was ground"
        : repair.Tries == 0 ? "it was not refilled"
        : null;

    private sealed record ToolOf(RepairAction Action, RepairTool Tool);

    private sealed record Hiding(
        RepairAction Action,
        IReadOnlyList<Stage> Stages,
        IReadOnlyList<DiscontinuityKind> Kinds,
        string Says,
        string Source
    );

    private sealed record Table(
        IReadOnlyList<ToolOf> Tools,
        IReadOnlyList<Hiding> Hides,
        RepairWeight OnTest,
        RepairWeight OnRepairDrill,
        string Meaning,
        string Source
    );
}
