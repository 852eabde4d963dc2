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
    BandView Whole,
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

/// <summary>A student on a test, as the ready board lists them.</summary>
/// <param name="Decided">The last decision, and whether the student has welded since.</param>
public sealed record ReadyRow(
    Guid StudentId,
    string StudentName,
    string TestId,
    string TestTitle,
    bool IsTarget,
    Advised Advised,
    int Coupons,
    BandView Passing,
    IReadOnlyList<string> UnmetGates,
    string? Weakest,
    int FullCoupons,
    DateTimeOffset? LastAt,
    DecisionKind? Decided,
    bool DecidedStale
);

/// <summary>The board: who needs a decision first. Bounded by the students of the school.</summary>
public sealed record ReadyBoard(IReadOnlyList<ReadyRow> Rows);

/// <summary>A policy with why its defaults are what they are.</summary>
public sealed record PolicyView(string TestId, TestPolicy Policy, bool IsOwn, TestPolicy Defaults, IReadOnlyDictionary<string, string> Reasons);
