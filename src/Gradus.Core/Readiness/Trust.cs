namespace Gradus.Core.Readiness;

/// <summary>On what it is believed that a student passed a test elsewhere.</summary>
public enum Vouched
{
    /// <summary>The certificate or the record was looked at.</summary>
    Papers,

    /// <summary>Another school or a former employer says so.</summary>
    Word,

    /// <summary>The student says so.</summary>
    Student,
}

/// <summary>How far what was not seen here is believed.</summary>
public static class Trust
{
    /// <summary>
    /// How far a coupon is believed, 0 to 1, whose verdict stands on what its student proposed and no instructor confirmed: a chosen default. The
    /// instructor looked at the steel and signed, but not at each thing that was said of the passes beneath.
    /// </summary>
    public const double Proposed = 0.5;

    /// <summary>
    /// How far it is believed, 0 to 1, that somebody passed a test elsewhere as it is passed here. Chosen defaults on the low side: what was asked for
    /// there, who looked and what was let pass is not known.
    /// </summary>
    public static double Of(Vouched on) =>
        on switch
        {
            Vouched.Papers => 0.8,
            Vouched.Word => 0.6,
            _ => 0.3,
        };
}
