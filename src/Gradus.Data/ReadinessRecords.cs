using Gradus.Core.Readiness;

namespace Gradus.Data;

/// <summary>Readiness of a student on a test, kept so that nothing is worked out twice. Whatever touches its closings marks it stale in the database.</summary>
public sealed record ReadinessRecord
{
    public Guid StudentId { get; init; }
    public required string TestId { get; init; }
    public bool Stale { get; set; }

    /// <summary>The constants that it was worked out with.</summary>
    public required string ConstantsVersion { get; set; }
    public int Coupons { get; set; }
    public int CleanCoupons { get; set; }

    /// <summary>Day of the last coupon, in days since the epoch.</summary>
    public double LastDay { get; set; }

    /// <summary>The day, counted since the epoch, that <see cref="Standing"/> is for.</summary>
    public int StandingDay { get; set; }
    public required Standing Standing { get; set; }

    /// <summary>The latest full coupons, oldest first: what the gates look at.</summary>
    public required List<RecentCoupon> Recent { get; set; }

    /// <summary>The last sitting of the test; null before the first.</summary>
    public SatBefore? LastSitting { get; set; }

    /// <summary>The chance of passing everything right after each of the latest coupons.</summary>
    public required List<TracePoint> Trace { get; set; }
}

/// <summary>The chance right after a coupon, and before it: what was made on another test in between is in both.</summary>
public sealed record TracePoint(Guid CouponId, DateTimeOffset At, bool Full, bool Aided, bool Clean, ChanceBand Chance, ChanceBand? Before = null);

/// <summary>What is known of one student on all tests, kept so that one more coupon is folded in without the earlier ones.</summary>
public sealed class SkillRecord
{
    public Guid StudentId { get; init; }

    /// <summary>The constants that it was worked out with, and the tests as they were.</summary>
    public required string Version { get; set; }

    /// <summary>How many coupons are folded in...</summary>
    public int Coupons { get; set; }

    /// <summary>...and a digest of what they were: only what came at the end is folded in anew.</summary>
    public required string Digest { get; set; }

    /// <summary>Day of the last coupon, in days since the epoch.</summary>
    public double LastDay { get; set; }

    /// <summary>The state, as the core keeps it.</summary>
    public required byte[] State { get; set; }
}

/// <summary>A school's policy for a test; the latest one holds.</summary>
public sealed class PolicyRecord
{
    public Guid Id { get; init; }
    public required string TestId { get; init; }
    public required TestPolicy Policy { get; init; }
    public DateTimeOffset SavedAt { get; init; }
    public Guid SavedBy { get; init; }
}

/// <summary>A change of the constants that readiness goes by; the latest one holds.</summary>
public sealed class ModelChange
{
    public Guid Id { get; init; }

    /// <summary>Fitted to the school's own history; null for the shipped ones.</summary>
    public ReadinessConstants? Constants { get; init; }

    /// <summary>Mean log score of a coupon, one step ahead, on students held out: with the constants from before, and with the fitted ones.</summary>
    public double? ScoreBefore { get; init; }
    public double? ScoreAfter { get; init; }
    public int Students { get; init; }
    public int Coupons { get; init; }

    /// <summary>False when the fitted ones scored no better and everything stayed as it was.</summary>
    public bool Adopted { get; init; }
    public DateTimeOffset At { get; init; }
    public Guid By { get; init; }
}
