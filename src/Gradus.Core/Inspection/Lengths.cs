namespace Gradus.Core.Inspection;

/// <summary>A stretch along a weld, in mm: where it begins, null when that was not noted, and how long it is, null when that was not measured.</summary>
internal sealed record SummedLength(int Index, double? AtMm, double? LengthMm);

/// <summary>Adds up lengths along a weld, within a window that slides, round the girth on pipe.</summary>
internal static class Lengths
{
    /// <summary>How findings of a rule stand together; nothing when none counts.</summary>
    internal static IEnumerable<LimitReason> Judge(AcceptanceRule rule, InspectedJoint joint, IReadOnlyList<MeasuredFinding> findings)
    {
        var (extent, scope) = (rule.Together!, rule.When);
        var deeper = extent.DeeperThan is { } terms ? Limits.Least(terms, joint.ThicknessMm, 0) : 0;
        var counted = findings
            .Select((finding, index) => (finding, index))
            .Where(one =>
                rule.Kinds.Contains(one.finding.Kind)
                && (scope?.Holds(joint, one.finding) ?? true)
                && !one.finding.IsNothing
                && !(one.finding.DepthMm <= deeper && extent.DeeperThan is not null)
            )
            .Select(one => new SummedLength(one.index, one.finding.AtMm, one.finding.LengthMm))
            .ToList();
        if (counted.Count == 0)
        {
            yield break;
        }

        LimitReason Reason(int index, FindingMeasure measure, double? value, double? most, VerdictKind outcome) =>
            new(index, measure, value, most, outcome, rule.Rule, rule.Source, rule.FromMemory);
        var plain = rule.Limit.Count > 0 ? rule.Limit.Min(term => term.Base) : double.PositiveInfinity;
        var (limit, needsLength) = (extent.ShareOfWeld, extent.ShareIfShorter, joint.LengthMm) switch
        {
            ({ } share, _, { } length) => (share * length, false),
            ({ }, _, null) => (double.PositiveInfinity, true),
            (_, { } share, { } length) when length < extent.WindowMm => (share * length, false),
            _ => (plain, false),
        };
        if (needsLength)
        {
            // Without the length of the weld the plain limits decide alone; they stand in rules of their own.
            yield break;
        }

        var worst = Worst(counted, extent.WindowMm, joint.LengthMm, joint.Product == Product.Pipe);
        if (!worst.Known.Within(limit))
        {
            yield return Reason(worst.Index, FindingMeasure.LengthMm, worst.Known, limit, VerdictKind.Reject);
        }
        else if (counted.Find(one => one.LengthMm is null) is { } unmeasured)
        {
            yield return Reason(unmeasured.Index, FindingMeasure.LengthMm, null, limit, VerdictKind.CannotJudge);
        }
        else if (!worst.All.Within(limit))
        {
            yield return Reason(counted.First(one => one.AtMm is null).Index, FindingMeasure.AtMm, null, limit, VerdictKind.CannotJudge);
        }
        else
        {
            yield return Reason(worst.Index, FindingMeasure.LengthMm, worst.All, limit, VerdictKind.Accept);
        }
    }

    /// <summary>
    /// The most that lies within one window: by what is known of the places, and if all without a place lay in the worst of it.
    /// </summary>
    /// <param name="windowMm">Null for the whole weld.</param>
    /// <param name="weldMm">Length of the weld; null when it is not known.</param>
    /// <param name="round">True when the weld closes on itself.</param>
    internal static (int Index, double Known, double All) Worst(IReadOnlyList<SummedLength> stretches, double? windowMm, double? weldMm, bool round)
    {
        var total = stretches.Sum(one => one.LengthMm ?? 0);
        if (windowMm is not { } wanted || weldMm <= wanted)
        {
            return (stretches[0].Index, total, total);
        }

        var placed = stretches.Where(one => one is { AtMm: not null, LengthMm: not null }).ToList();
        var open = stretches.Where(one => one is { AtMm: null, LengthMm: not null }).ToList();
        var (index, known) = (stretches[0].Index, 0.0);
        foreach (var one in open.Where(one => Math.Min(one.LengthMm!.Value, wanted) > known))
        {
            (index, known) = (one.Index, Math.Min(one.LengthMm!.Value, wanted));
        }

        double[] turns = round && weldMm is { } girth ? [-girth, 0, girth] : [0];
        var inWindow = 0.0;
        foreach (
            var start in placed.SelectMany(one =>
                new[] { (one.Index, At: one.AtMm!.Value), (one.Index, At: one.AtMm!.Value + one.LengthMm!.Value - wanted) }
            )
        )
        {
            var sum = turns.Sum(turn => placed.Sum(one => Shared(one.AtMm!.Value + turn, one.LengthMm!.Value, start.At, wanted)));
            inWindow = Math.Max(inWindow, sum);
            if (sum > known)
            {
                (index, known) = (start.Index, sum);
            }
        }

        return (index, known, Math.Max(known, inWindow + open.Sum(one => Math.Min(one.LengthMm!.Value, wanted))));
    }

    private static double Shared(double at, double length, double from, double window) =>
        Math.Max(0, Math.Min(at + length, from + window) - Math.Max(at, from));
}
