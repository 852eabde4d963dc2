namespace Gradus.Data.Migrations;

/// <summary>The triggers that make kept readiness stale: name, when, and whose coupon.</summary>
internal static class ReadinessTriggers
{
    public static readonly (string Name, string When, string Coupon)[] All =
    [
        ("ReadinessClosingMade", "INSERT ON Closings", "NEW.CouponId"),
        ("ReadinessClosingChanged", "UPDATE ON Closings", "NEW.CouponId"),
        ("ReadinessCouponVoided", "UPDATE OF VoidedAt, ClosedAt ON Coupons", "NEW.Id"),
    ];
}
