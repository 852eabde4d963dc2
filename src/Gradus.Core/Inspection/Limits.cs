namespace Gradus.Core.Inspection;

/// <summary>Limits in mm as they are worked out, and sizes against them.</summary>
internal static class Limits
{
    private const double Slack = 1e-10;

    /// <summary>True when a size in mm is not over a limit; what differs by the rounding of the arithmetic alone is the same.</summary>
    internal static bool Within(this double size, double limit) => size <= limit + Slack;

    /// <summary>The least of some terms, for a thickness and a width of weld in mm.</summary>
    internal static double Least(IEnumerable<LimitTerm> terms, double thicknessMm, double widthMm) =>
        terms.Min(term =>
            term.Base + (term.PerThickness > 0 ? term.PerThickness * thicknessMm : 0) + (term.PerWidth > 0 ? term.PerWidth * widthMm : 0)
        );

    /// <summary>A limit that goes by steps of the width in mm where there are any, else by terms.</summary>
    internal static double At(IReadOnlyList<ConvexityStep>? steps, IReadOnlyList<LimitTerm>? terms, double thicknessMm, double widthMm) =>
        steps is not null ? steps.First(step => step.Holds(widthMm)).MaxMm : Least(terms!, thicknessMm, widthMm);
}
