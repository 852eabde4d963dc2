namespace Gradus.Core.Planning;

/// <summary>What a test asks for before it: of each group at least one.</summary>
/// <param name="After">Groups of test ids; of each group any one is ground enough.</param>
/// <param name="Strict">True where the ground is a matter of safety or of not wasting steel: the step is not offered without it.</param>
public sealed record Step(string Test, IReadOnlyList<IReadOnlyList<string>> After, bool Strict, string Why, string Source);

/// <summary>Where a student is with a step.</summary>
public enum StepState
{
    /// <summary>The ground is laid: credited, or practised to the ground chance.</summary>
    Behind,

    /// <summary>Worked on now, or may be begun.</summary>
    Now,

    /// <summary>Something before it is missing.</summary>
    Ahead,
}

/// <summary>What a student has shown on a test.</summary>
/// <param name="Credited">An instructor has put it down as passed or brought along.</param>
/// <param name="CouponsToBar">Full coupons still needed by the forecast: of the middle student who fits the evidence.</param>
/// <param name="Least">Of the quickest in twenty of them...</param>
/// <param name="Most">...and of the slowest; null when that is further than the forecast looks.</param>
public sealed record StepEvidence(string Test, bool Credited, int FullCoupons, double Chance, int CouponsToBar, int? Least = null, int? Most = null);

/// <summary>A step of a student's way.</summary>
/// <param name="From">When it is expected to begin, in days from today; null for one that is behind.</param>
/// <param name="To">When it is expected to be done.</param>
/// <param name="Soonest">When the quickest in twenty would be done with it and all before it...</param>
/// <param name="Latest">...and the slowest; null when that is further than the forecast looks.</param>
public sealed record StepOnWay(
    string Test,
    StepState State,
    bool IsTarget,
    int CouponsToBar,
    double? From,
    double? To,
    IReadOnlyList<string> Waits,
    double? Soonest = null,
    double? Latest = null
);

/// <summary>What leads to what, from the first fillet to pipe in any position. Editable by the school.</summary>
public sealed class StepGraph
{
    /// <summary>With this chance on a test the ground for the next is laid. A chosen default.</summary>
    public const double GroundChance = 0.5;

    private const int LeastCoupons = 2;

    // Where nothing was seen and nothing is forecast: from half of the usual number of coupons to twice it. A chosen default.
    private const double SoonShare = 0.5;
    private const double LateShare = 2;
    private readonly Dictionary<string, Step> steps;

    private StepGraph(IReadOnlyList<Step> steps) => this.steps = steps.ToDictionary(step => step.Test, StringComparer.Ordinal);

    /// <summary>The graph that ships with the program.</summary>
    public static IReadOnlyList<Step> Shipped { get; } = CoreJson.ReadEmbedded<StepFile>("Planning/steps.json").Steps;

    /// <summary>The steps, those that need less before those that need more.</summary>
    public IReadOnlyList<Step> Steps => [.. steps.Values.OrderBy(step => Depth(step.Test)).ThenBy(step => step.Test, StringComparer.Ordinal)];

    /// <summary>Makes a graph.</summary>
    /// <exception cref="ArgumentException">A step twice, an unknown test, an empty group, or a circle; the message says which.</exception>
    public static StepGraph Of(IReadOnlyList<Step> steps, IEnumerable<string> tests)
    {
        var errors = Errors(steps, tests);
        return errors.Count == 0 ? new StepGraph(steps) : throw new ArgumentException(string.Join(" ", errors), nameof(steps));
    }

    /// <summary>What keeps steps from being a graph, in words.</summary>
    public static IReadOnlyList<string> Errors(IReadOnlyList<Step> steps, IEnumerable<string> tests)
    {
        var known = tests.ToHashSet(StringComparer.Ordinal);
        var errors = steps.GroupBy(step => step.Test).Where(group => group.Count() > 1).Select(group => $"{group.Key} is there twice.").ToList();
        errors.AddRange(
            steps
                .SelectMany(step => step.After.SelectMany(group => group).Prepend(step.Test))
                .Distinct()
                .Where(test => !known.Contains(test))
                .Select(test => $"There is no test {test}.")
        );
        errors.AddRange(steps.Where(step => step.After.Any(group => group.Count == 0)).Select(step => $"{step.Test} has an empty group."));
        if (errors.Count > 0)
        {
            return errors;
        }

        // Steps that are laid one after another, as long as all that they name is laid: what is left goes round in a circle.
        var left = steps.ToList();
        var laid = known.Except(steps.Select(step => step.Test)).ToHashSet(StringComparer.Ordinal);
        while (left.FirstOrDefault(step => step.After.All(group => group.All(laid.Contains))) is { } next)
        {
            left.Remove(next);
            laid.Add(next.Test);
        }

        return left.Count == 0 ? [] : [$"{string.Join(", ", left.Select(step => step.Test))} lead round in a circle."];
    }

    /// <summary>How many steps lie before a test at least.</summary>
    public int Depth(string test) =>
        steps.TryGetValue(test, out var step) && step.After.Count > 0 ? 1 + step.After.Max(group => group.Min(Depth)) : 0;

    /// <summary>Whether the ground for a test is laid; else the groups that are missing.</summary>
    public IReadOnlyList<IReadOnlyList<string>> Missing(string test, IReadOnlyDictionary<string, StepEvidence> evidence)
    {
        if (!steps.TryGetValue(test, out var step) || (!step.Strict && IsBegun(test, evidence)))
        {
            return [];
        }

        var shown = Shown(evidence);
        return [.. step.After.Where(group => !group.Any(one => shown.Contains(one) || IsLaid(one, evidence)))];
    }

    /// <summary>Steps that a later test shows to be behind: what it asks for, where it asks for that alone, and what was begun of a choice.</summary>
    private HashSet<string> Shown(IReadOnlyDictionary<string, StepEvidence> evidence)
    {
        var shown = new HashSet<string>(StringComparer.Ordinal);
        var later = new Stack<string>(evidence.Values.Where(one => one.Credited).Select(one => one.Test));
        while (later.TryPop(out var test))
        {
            foreach (
                var one in steps.TryGetValue(test, out var step)
                    ? step.After.SelectMany(group => group.Where(one => group.Count == 1 || evidence.ContainsKey(one)))
                    : []
            )
            {
                if (shown.Add(one))
                {
                    later.Push(one);
                }
            }
        }

        return shown;
    }

    // An instructor who let a student begin knew why; only a strict step asks for its ground all the same.
    private static bool IsBegun(string test, IReadOnlyDictionary<string, StepEvidence> evidence) =>
        evidence.TryGetValue(test, out var one) && one.FullCoupons >= LeastCoupons;

    /// <summary>Whether a step may be given to a student at all.</summary>
    public bool IsSafe(string test, IReadOnlyDictionary<string, StepEvidence> evidence) =>
        !steps.TryGetValue(test, out var step) || !step.Strict || Missing(test, evidence).Count == 0;

    /// <summary>Whether a test is ground enough for what follows it.</summary>
    public static bool IsLaid(string test, IReadOnlyDictionary<string, StepEvidence> evidence) =>
        evidence.TryGetValue(test, out var one) && (one.Credited || (one.FullCoupons >= LeastCoupons && one.Chance >= GroundChance));

    /// <summary>A student's way to their targets: every step that is still missing, in the order in which to take them, with days.</summary>
    /// <param name="couponsPerWeek">How many full coupons the student makes in a week; over 0.</param>
    /// <param name="unbegun">Full coupons that a test takes of somebody who has not begun it.</param>
    public IReadOnlyList<StepOnWay> Way(
        IReadOnlyCollection<string> targets,
        IReadOnlyDictionary<string, StepEvidence> evidence,
        double couponsPerWeek,
        int unbegun
    )
    {
        const double DaysPerWeek = 7;
        var needed = new List<string>();
        // A goal that is reached is behind, with all that only led to it.
        bool IsReached(string test) => evidence.TryGetValue(test, out var one) && one.Credited;
        foreach (var target in targets.Where(target => !IsReached(target)))
        {
            Need(target, evidence, needed);
        }

        var behind = evidence
            .Keys.Where(test => IsLaid(test, evidence) && !needed.Contains(test))
            .Concat(Shown(evidence))
            .Except(needed)
            .Distinct()
            .Order(StringComparer.Ordinal);
        var way = behind.Select(test => new StepOnWay(test, StepState.Behind, targets.Contains(test), 0, null, null, [])).ToList();
        var (day, soonest) = (0.0, 0.0);
        double? latest = 0;
        foreach (var test in needed)
        {
            var own = evidence.GetValueOrDefault(test);
            var waits = Missing(test, evidence).SelectMany(group => group.Where(needed.Contains).DefaultIfEmpty(group[0]).Take(1)).ToList();
            var isDone = own is { Credited: true };
            var coupons =
                isDone ? 0
                : own is { FullCoupons: > 0 } or { Least: not null } ? own.CouponsToBar
                : unbegun;
            double Days(double count) => isDone ? 0 : count / couponsPerWeek * DaysPerWeek;
            var to = day + Days(coupons);
            soonest += Days(own?.Least ?? coupons * SoonShare);
            latest = own is { Most: null, Least: not null } ? null : latest + Days(own?.Most ?? coupons * LateShare);
            way.Add(
                new StepOnWay(
                    test,
                    isDone ? StepState.Behind
                        : waits.Count == 0 ? StepState.Now
                        : StepState.Ahead,
                    targets.Contains(test),
                    coupons,
                    isDone ? null : day,
                    isDone ? null : to,
                    waits,
                    isDone ? null : soonest,
                    isDone ? null : latest
                )
            );
            day = to;
        }

        return way;
    }

    /// <summary>Adds a test after all that it still needs: of each group what has been begun, else what needs least before it.</summary>
    private void Need(string test, IReadOnlyDictionary<string, StepEvidence> evidence, List<string> needed)
    {
        if (needed.Contains(test))
        {
            return;
        }

        foreach (var group in Missing(test, evidence).Where(group => !group.Any(needed.Contains)))
        {
            Need(
                group
                    .OrderByDescending(one => evidence.GetValueOrDefault(one) is { FullCoupons: > 0 } begun ? begun.Chance : 0)
                    .ThenBy(Depth)
                    .First(),
                evidence,
                needed
            );
        }

        needed.Add(test);
    }

    private sealed record StepFile(IReadOnlyList<Step> Steps);
}
