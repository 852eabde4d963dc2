using System.Globalization;

namespace Gradus.Core.Joints;

/// <summary>What was measured at one point of the joint; null where it was not. Lengths in mm, angles in degrees.</summary>
/// <param name="At">A clock position on pipe, or <c>start</c> / <c>end</c> on plate.</param>
public sealed record FitUpPoint(
    string At,
    double? BevelDegA = null,
    double? BevelDegB = null,
    double? RootOpeningMm = null,
    double? RootFaceMm = null,
    double? OffsetMm = null,
    double? StripGapMm = null,
    double? RingGapMm = null
)
{
    /// <summary>The value of a measure; the included angle is worked out from both bevels.</summary>
    public double? Of(FitUpMeasure measure) =>
        measure switch
        {
            FitUpMeasure.BevelDegA => BevelDegA,
            FitUpMeasure.BevelDegB => BevelDegB,
            FitUpMeasure.IncludedAngleDeg => BevelDegA + BevelDegB,
            FitUpMeasure.RootOpeningMm => RootOpeningMm,
            FitUpMeasure.RootFaceMm => RootFaceMm,
            FitUpMeasure.OffsetMm => OffsetMm,
            FitUpMeasure.StripGapMm => StripGapMm,
            _ => RingGapMm,
        };
}

/// <summary>A tack as it was made: length in mm.</summary>
/// <param name="At">A clock position on pipe; <c>start</c>, <c>end</c> or mm from the start on plate.</param>
/// <param name="Bridged">A bridge over the gap that is cut out as the root comes to it, so it needs no feathering.</param>
public sealed record Tack(string At, double LengthMm, bool Feathered, bool Bridged = false)
{
    /// <summary>How far from the start of a plate it lies, in mm; null where that was not measured.</summary>
    public double? FromStartMm => double.TryParse(At, NumberStyles.Float, CultureInfo.InvariantCulture, out var mm) ? mm : null;
}

/// <summary>A fit-up as it was measured.</summary>
/// <param name="Answers">Answers to the template's questions, by their id.</param>
public sealed record FitUpMeasured(IReadOnlyList<FitUpPoint> Points, IReadOnlyList<Tack> Tacks, IReadOnlyDictionary<string, bool> Answers);

/// <summary>How one line of the fit-up came out.</summary>
public enum FitUpOutcome
{
    Go,

    /// <summary>Allowed, but worth mending.</summary>
    Warn,

    /// <summary>To be mended before an arc is struck.</summary>
    Mend,

    /// <summary>Not measured or not answered yet.</summary>
    Open,
}

/// <summary>One line of the fit-up check.</summary>
/// <param name="Measure">The measure, or null for a question or the tacks.</param>
/// <param name="QuestionId">The question, or null.</param>
/// <param name="Advice">What to do, in words; null when it is right.</param>
public sealed record FitUpLine(
    string? At,
    FitUpMeasure? Measure,
    string? QuestionId,
    double? Measured,
    double? Min,
    double? Max,
    FitUpOutcome Outcome,
    string? Advice,
    string Source
);

/// <summary>The whole fit-up check; its outcome is the worst of its lines.</summary>
public sealed record FitUpReport(FitUpOutcome Outcome, IReadOnlyList<FitUpLine> Lines);

/// <summary>Checks a fit-up against its plan before an arc is struck.</summary>
public static class FitUpCheck
{
    // A dimension set from a 1/64 scale is not sharper than this; it keeps an exact 1/4 in from failing by a rounding error.
    private const double ReadingSlackMm = 1e-6;

    /// <summary>The check, line by line.</summary>
    /// <param name="specimens">The strips that will be cut from a plate; a tack may not lie in one.</param>
    public static FitUpReport Check(FitUpPlan plan, FitUpMeasured measured, IReadOnlyList<Specimen>? specimens = null)
    {
        var lines = plan
            .Points.SelectMany(at => plan.Tolerances.Select(tolerance => CheckPoint(at, tolerance, measured)))
            .Append(CheckTacks(plan.Tacks, measured.Tacks, specimens ?? []))
            .Concat(plan.Questions.Select(question => CheckQuestion(question, measured)))
            .ToList();
        return new FitUpReport(Worst(lines), lines);
    }

    private static FitUpOutcome Worst(List<FitUpLine> lines) =>
        lines.Any(line => line.Outcome == FitUpOutcome.Mend) ? FitUpOutcome.Mend
        : lines.Any(line => line.Outcome == FitUpOutcome.Open) ? FitUpOutcome.Open
        : lines.Any(line => line.Outcome == FitUpOutcome.Warn) ? FitUpOutcome.Warn
        : FitUpOutcome.Go;

    private static FitUpLine CheckPoint(string at, FitUpTolerance tolerance, FitUpMeasured measured)
    {
        var value = measured.Points.LastOrDefault(point => point.At == at)?.Of(tolerance.Measure);
        var (outcome, advice) = value switch
        {
            null => (FitUpOutcome.Open, null),
            _ when value < tolerance.Min - ReadingSlackMm => (FitUpOutcome.Mend, tolerance.MendLow),
            _ when value > tolerance.Max + ReadingSlackMm => (FitUpOutcome.Mend, tolerance.MendHigh),
            _ when value > tolerance.WarnAbove + ReadingSlackMm => (FitUpOutcome.Warn, tolerance.MendHigh),
            _ => (FitUpOutcome.Go, (string?)null),
        };
        return new FitUpLine(at, tolerance.Measure, null, value, tolerance.Min, tolerance.Max, outcome, advice, tolerance.Source);
    }

    private static FitUpLine CheckTacks(TackPlan plan, IReadOnlyList<Tack> tacks, IReadOnlyList<Specimen> specimens)
    {
        // All that is wrong is told, the worst first.
        (bool Is, FitUpOutcome Outcome, string Advice)[] faults =
        [
            (tacks.Count < plan.MinCount, FitUpOutcome.Mend, $"Add tacks: at least {plan.MinCount}."),
            (
                tacks.Any(tack => specimens.Any(strip => tack.FromStartMm >= strip.FromMm && tack.FromStartMm <= strip.ToMm)),
                FitUpOutcome.Mend,
                "A tack lies in a strip that will be cut: move it out."
            ),
            (
                plan.Feathered && tacks.Any(tack => !tack.Feathered && !tack.Bridged),
                FitUpOutcome.Mend,
                "Feather both ends of each tack, or bridge it and cut the bridge out."
            ),
            (
                plan.Bridged && tacks.Any(tack => !tack.Bridged),
                FitUpOutcome.Warn,
                "Bridges are planned: a tack in the root has to be feathered or cut out."
            ),
            (tacks.Count > plan.MaxCount, FitUpOutcome.Warn, $"More tacks than the {plan.MaxCount} that are planned."),
            (tacks.Any(tack => tack.LengthMm > plan.MaxLengthMm + ReadingSlackMm), FitUpOutcome.Warn, "A tack is longer than planned."),
            (
                tacks.Any(tack => tack.LengthMm < plan.MinLengthMm - ReadingSlackMm),
                FitUpOutcome.Warn,
                "A tack is shorter than planned: it may crack."
            ),
        ];
        var wrong = tacks.Count == 0 ? [] : faults.Where(fault => fault.Is).ToList();
        var outcome =
            tacks.Count == 0 ? FitUpOutcome.Open
            : wrong.Count == 0 ? FitUpOutcome.Go
            : wrong[0].Outcome;
        var advice = wrong.Count == 0 ? null : string.Join(" ", wrong.Select(fault => fault.Advice));
        double? count = tacks.Count == 0 ? null : tacks.Count;
        return new FitUpLine(null, null, "tacks", count, plan.MinCount, plan.MaxCount, outcome, advice, plan.Source);
    }

    private static FitUpLine CheckQuestion(FitUpQuestion question, FitUpMeasured measured)
    {
        bool? answer = measured.Answers.TryGetValue(question.Id, out var given) ? given : null;
        var outcome = answer switch
        {
            null => FitUpOutcome.Open,
            true => FitUpOutcome.Go,
            false => FitUpOutcome.Mend,
        };
        return new FitUpLine(null, null, question.Id, null, null, null, outcome, answer == false ? question.Mend : null, question.Source);
    }
}
