using Gradus.Core.Library;
using Gradus.Core.Measure;

namespace Gradus.Core.Bench;

/// <summary>What follows from the length of a run and the time that its arc burnt; null where one of them is not known.</summary>
/// <param name="LengthMm">As it was measured; else that of its stretch, or of the whole bead.</param>
/// <param name="TravelMmPerMin">Length by arc time.</param>
/// <param name="HeatKJPerMm">60 V I / (1000 v), ASME QW-409.1.</param>
/// <param name="VoltsEstimated">
/// True when the voltage was not logged: that of the load lines of IEC 60974-1 stands in (20 + 0.04 I covered electrode, 10 + 0.04 I gas tungsten
/// arc, 14 + 0.05 I wire; from memory).
/// </param>
public sealed record RunNumbers(double? LengthMm, double? TravelMmPerMin, double? HeatKJPerMm, bool VoltsEstimated)
{
    private const double SecondsPerMinute = 60;

    /// <summary>The numbers of a run.</summary>
    public static RunNumbers Of(TestTemplate test, LoggedPass run)
    {
        var whole = CouponBudget.JointLengthMm(test);
        var reach = run.Stretch?.On(test.Joint.LengthMm ?? 0)?.Length;
        double? stretch =
            !run.Part ? whole
            : reach is { } length ? (test.Product == Product.Pipe ? length / ClockPosition.MinutesRound * whole : length)
            : null;
        var ran = run.Measured?.RunLengthMm ?? (stretch > 0 ? stretch : null);
        var travel = run.Measured?.ArcSeconds is > 0 and var seconds ? ran / seconds * SecondsPerMinute : null;
        var volts = run.Volts ?? LoadLine(run.Process, run.Amps);
        return new RunNumbers(ran, travel, travel > 0 ? 60 * volts * run.Amps / (1000 * travel) : null, run.Volts is null);
    }

    private static double LoadLine(Process process, double amps) =>
        process switch
        {
            Process.Smaw => 20 + (0.04 * amps),
            Process.Gtaw => 10 + (0.04 * amps),
            _ => 14 + (0.05 * amps),
        };
}
