namespace Gradus.Core.Readiness;

/// <summary>How a school settles whether a student is ready.</summary>
public enum ReadinessSchool
{
    /// <summary>By the chance of a clean full coupon and how sure it is.</summary>
    Probability,

    /// <summary>By so many clean full coupons one after another.</summary>
    RunOfClean,

    /// <summary>By what it costs until the test is passed: as soon as one more coupon costs more than it saves.</summary>
    Cost,
}

/// <summary>What a school asks for before a student sits a test. Money in whatever the school counts in.</summary>
/// <param name="BarMean">With <see cref="ReadinessSchool.Probability"/>: the least mean chance, 0 to 1.</param>
/// <param name="BarLower">...and the least lower end of its 90 % interval, 0 to 1.</param>
/// <param name="RunLength">With <see cref="ReadinessSchool.RunOfClean"/>: how many in a row.</param>
/// <param name="LeastFullCoupons">Full coupons under test rules, unaided, in the last <paramref name="WithinDays"/> days.</param>
/// <param name="LastClean">Whether the last of them must be clean.</param>
/// <param name="Destructive">Whether one of the student's coupons must have been bent, broken, etched or shot.</param>
/// <param name="NoRepeatedFault">Whether the same rejected fault in all of the last three full coupons holds the student back.</param>
/// <param name="FitUpUnaided">Whether a fit-up must have passed unaided.</param>
/// <param name="SafetySignOff">Whether safety must be signed off.</param>
/// <param name="SittingCost">What a sitting costs: fee, plates, laboratory, lost time.</param>
/// <param name="CouponCost">What one more practice coupon costs: material and booth time.</param>
/// <param name="CutCost">What it costs besides to cut one open: saw, bends, etching, film.</param>
/// <param name="CleanAfterFailed">After a failed sitting: so many clean full coupons under test rules before the next; 0 for none.</param>
/// <param name="RetestWaitCost">What a failed sitting costs besides: the wait until the next.</param>
public sealed record TestPolicy(
    ReadinessSchool School,
    double BarMean,
    double BarLower,
    int RunLength,
    int LeastFullCoupons,
    int WithinDays,
    bool LastClean,
    bool Destructive,
    bool NoRepeatedFault,
    bool FitUpUnaided,
    bool SafetySignOff,
    double SittingCost,
    double CouponCost,
    double CutCost = 15,
    int CleanAfterFailed = 2,
    double RetestWaitCost = 100
)
{
    /// <summary>The shipped policy, used for every test until the school sets its own.</summary>
    public static TestPolicy Defaults { get; } = CoreJson.ReadEmbedded<TestPolicyFile>("Readiness/policy.json").Policy;

    /// <summary>Why each default is what it is, by the name of the setting.</summary>
    public static IReadOnlyDictionary<string, string> Reasons { get; } = CoreJson.ReadEmbedded<TestPolicyFile>("Readiness/policy.json").Reasons;

    private sealed record TestPolicyFile(TestPolicy Policy, IReadOnlyDictionary<string, string> Reasons);
}
