using Gradus.Core.Readiness;
using Gradus.Data;

namespace Gradus.Server.Readiness;

/// <summary>A chance with its band, and what it stands on.</summary>
public sealed record ChanceView(double Mean, double Lower, double Upper, int Coupons, int CleanCoupons, double EffectiveCoupons, bool TooLittleToTell)
{
    public static ChanceView From(ChanceEstimate estimate) =>
        new(
            estimate.Mean.Value,
            estimate.Lower.Value,
            estimate.Upper.Value,
            estimate.Coupons,
            estimate.CleanCoupons,
            estimate.EffectiveCoupons,
            estimate.TooLittleToTell
        );

    /// <summary>A chance that stands on the coupons of a record.</summary>
    public static ChanceView From(ReadinessRecord record, ChanceBand band) =>
        From(ReadinessBook.Estimate(record with { Standing = record.Standing with { Passing = band } }).Whole);
}
