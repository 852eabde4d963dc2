using System.Text.Json;
using Gradus.Core.Bench;

namespace Gradus.Core.Readiness;

/// <summary>A coupon as readiness sees it.</summary>
public static class CouponSeen
{
    private const double MillisecondsPerDay = 24.0 * 60 * 60 * 1000;

    /// <summary>What a coupon tells, as it stands at a moment, with a verdict on it.</summary>
    public static CouponEvidence Evidence(this CouponLog log, CouponVerdict verdict, DateTimeOffset at) =>
        new(
            Days(at),
            Full: log.DrillId is null && verdict.Decides && !log.IsHidden(at),
            Aided: !log.AsTest || log.Breaches(at).Count > 0,
            log.ElementClean(verdict)
        );

    /// <summary>Days since the epoch, with fractions.</summary>
    public static double Days(DateTimeOffset at) => at.ToUnixTimeMilliseconds() / MillisecondsPerDay;

    /// <summary>The element that a whole stage is.</summary>
    public static string ElementOf(Stage stage) => JsonNamingPolicy.CamelCase.ConvertName(stage.ToString());
}
