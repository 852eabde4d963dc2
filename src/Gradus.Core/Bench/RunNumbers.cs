using Gradus.Core.Library;
using Gradus.Core.Measure;
using Gradus.Core.Welding;

namespace Gradus.Core.Bench;

/// <summary>What follows from the length of a run and the time that its arc burnt; null where one of them is not known.</summary>
/// <param name="LengthMm">As it was measured; else that of its stretch, or of the whole bead.</param>
/// <param name="TravelMmPerMin">Length by arc time.</param>
/// <param name="HeatKJPerMm">60 V I / (1000 v), ASME QW-409.1.</param>
/// <param name="VoltsEstimated">
/// True when the voltage was neither logged nor measured at the arc: that of the load lines of IEC 60974-1 stands in (20 + 0.04 I covered electrode, 10 + 0.04 I gas tungsten
/// arc, 14 + 0.05 I wire; from memory).
/// </param>
/// <param name="TravelEstimated">True when the arc was not timed: the time that its rods burn stands in, by their deposit and the current.</param>
public sealed record RunNumbers(double? LengthMm, double? TravelMmPerMin, double? HeatKJPerMm, bool VoltsEstimated, bool TravelEstimated)
{
    private const double SecondsPerMinute = 60;
    private const int Cellulosic = 3; // F-number of ASME IX QW-432

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
        var timed = (run.Measured?.ArcSeconds ?? run.Arc?.ArcSeconds) is > 0 and var seconds ? seconds / SecondsPerMinute : (double?)null;
        var minutes = timed ?? RodMinutes(test, run);
        var travel = minutes > 0 ? ran / minutes : null;
        var volts = run.Volts ?? run.Arc?.MeanVolts ?? LoadLine.Volts(run.Process, run.Amps);
        return new RunNumbers(
            ran,
            travel,
            travel > 0 ? 60 * volts * run.Amps / (1000 * travel) : null,
            run.Volts is null && run.Arc is null,
            travel is not null && timed is null
        );
    }

    /// <summary>How long the rods of a covered-electrode run burnt; null where they were not counted.</summary>
    private static double? RodMinutes(TestTemplate test, LoggedPass run)
    {
        if (run.Process != Process.Smaw || run.Measured?.RodsUsed is not (> 0 and var rods) || run.Amps <= 0)
        {
            return null;
        }

        var filler = test.Passes.FirstOrDefault(pass => pass.Filler.Classification == run.ElectrodeClass)?.Filler;
        var grams = Deposit.GramsPerRod(
            Length.FromMm(run.DiameterMm),
            Length.FromMm(TradeNumbers.Of("rodLengthMm")),
            Length.FromMm(TradeNumbers.Of("stubMm")),
            TradeNumbers.Of(filler is null || filler.FNumber == Cellulosic ? "recoveryCellulosic" : "recoveryBasic"),
            TradeNumbers.Of("densitySteel")
        );
        return rods * grams / (TradeNumbers.Of("smawGPerMinPerAmp") * run.Amps);
    }
}
