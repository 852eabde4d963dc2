namespace Gradus.Core.Vocabulary;

/// <summary>What is measured of a fit-up.</summary>
public enum FitUpMeasure
{
    /// <summary>Bevel angle of member A, degrees.</summary>
    BevelDegA,

    /// <summary>Bevel angle of member B, degrees.</summary>
    BevelDegB,

    /// <summary>Sum of both bevels, degrees; worked out, never entered.</summary>
    IncludedAngleDeg,
    RootOpeningMm,
    RootFaceMm,

    /// <summary>Hi-lo between the members.</summary>
    OffsetMm,

    /// <summary>Gap between the backing strip and the plates.</summary>
    StripGapMm,

    /// <summary>Gap between the ends of a consumable insert ring.</summary>
    RingGapMm,
}

/// <summary>How the fit-up of a test is checked.</summary>
/// <param name="Points">Where it is measured: clock positions on pipe, <c>start</c> / <c>end</c> on plate.</param>
/// <param name="Questions">What is answered with yes or no.</param>
public sealed record FitUpPlan(
    IReadOnlyList<string> Points,
    IReadOnlyList<FitUpTolerance> Tolerances,
    TackPlan Tacks,
    IReadOnlyList<FitUpQuestion> Questions
);

/// <summary>The range that a measured value must lie in.</summary>
/// <param name="WarnAbove">Above this it is still allowed, but worth mending.</param>
/// <param name="MendLow">What to do when it is under the range.</param>
/// <param name="MendHigh">What to do when it is over the range.</param>
public sealed record FitUpTolerance(
    FitUpMeasure Measure,
    double Min,
    double Max,
    double? WarnAbove,
    string? MendLow,
    string? MendHigh,
    string Source,
    bool FromMemory
)
{
    internal FitUpTolerance Moved(double by) => this with { Min = Math.Max(0, Min + by), Max = Max + by, WarnAbove = WarnAbove + by };
}

/// <summary>How many tacks, how long (mm), and where they may not be.</summary>
/// <param name="Where">In words: on the back, clear of the specimens.</param>
/// <param name="Bridged">True when they are bridges over the gap, which are cut out as the root comes to them.</param>
public sealed record TackPlan(
    int MinCount,
    int MaxCount,
    double MinLengthMm,
    double MaxLengthMm,
    bool Feathered,
    string Where,
    string Source,
    bool Bridged = false
);

/// <summary>A question of the fit-up, and what to do when the answer is no.</summary>
public sealed record FitUpQuestion(string Id, string Text, string Mend, string Source);
