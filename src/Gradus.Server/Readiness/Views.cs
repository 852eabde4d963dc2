using FluentValidation;
using Gradus.Core.Readiness;
using Gradus.Data;
using Gradus.Server.Hosting;

namespace Gradus.Server.Readiness;

public sealed record ElementChance(string Element, double Chance);

public sealed record BandView(double Mean, double Lower, double Upper)
{
    public static BandView From(ChanceBand band) => new(band.Mean.Value, band.Lower.Value, band.Upper.Value);
}

/// <summary>How a student's readiness for a test came to be.</summary>
public sealed record ReadinessView(
    string TestId,
    double Bar,
    BandView Passing,
    IReadOnlyList<ElementChance> Elements,
    IReadOnlyList<TraceView> Trace,
    Forecast Forecast,
    IReadOnlyList<ItemWorth> Worth,
    string Method,
    string ConstantsVersion
);

public sealed record TraceView(Guid CouponId, DateTimeOffset At, bool Full, bool Aided, bool Clean, double Mean, double Lower, double Upper)
{
    public static TraceView From(TracePoint point) =>
        new(
            point.CouponId,
            point.At,
            point.Full,
            point.Aided,
            point.Clean,
            point.Chance.Mean.Value,
            point.Chance.Lower.Value,
            point.Chance.Upper.Value
        );
}

/// <summary>Where a student stands on the board: by what there is to do.</summary>
public enum ReadyGroup
{
    /// <summary>Ready and not signed, or signed and not ready any more.</summary>
    Decide,
    Practise,
    NotYet,

    /// <summary>"Test now" is signed: the sitting comes next.</summary>
    ToSit,
    Passed,
}

/// <summary>A whole coupon on the way: the chance of passing everything right after it, and whether it was clean.</summary>
public sealed record WayPoint(DateTimeOffset At, double Passing, bool Clean);

/// <summary>A student on a test, as the ready board lists them.</summary>
/// <param name="TestShort">The test in two words: 6G pipe.</param>
/// <param name="Says">The advice in a few words, and why in a sentence: the same as wherever else it is shown.</param>
/// <param name="Bar">The chance that the school asks for.</param>
/// <param name="Way">The latest whole coupons, oldest first.</param>
/// <param name="SignedAt">When the decision in force was signed, if there is one.</param>
public sealed record ReadyRow(
    Guid StudentId,
    string StudentName,
    string TestId,
    string TestShort,
    string TestTitle,
    bool IsTarget,
    ReadyGroup Group,
    Advised Advised,
    string Says,
    string Why,
    bool TakeBack,
    BandView Passing,
    bool TooLittleToTell,
    double Bar,
    IReadOnlyList<WayPoint> Way,
    int FullCoupons,
    DecisionKind? Decided,
    DateTimeOffset? SignedAt
);

/// <summary>The board: who needs a decision first. Bounded by the students of the school.</summary>
/// <param name="AreOld">Whether the numbers are those that were kept last, while they are worked out anew.</param>
/// <param name="Of">The day that the oldest of them are of; null when nobody knows.</param>
/// <param name="Others">How many rows there are besides: students on tests that are not their target.</param>
public sealed record ReadyBoard(IReadOnlyList<ReadyRow> Rows, bool AreOld, DateOnly? Of, int Others);

/// <summary>A policy with why its defaults are what they are.</summary>
public sealed record PolicyView(string TestId, TestPolicy Policy, bool IsOwn, TestPolicy Defaults, IReadOnlyDictionary<string, string> Reasons);
