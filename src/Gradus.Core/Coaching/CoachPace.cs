using Gradus.Core.Measure;
using Gradus.Core.Welding;

namespace Gradus.Core.Coaching;

/// <summary>How fast a bead of the plan goes, said as it is felt at the arc.</summary>
internal static class CoachPace
{
    private const double MmPerInch = 25.4;
    private const double SecondsPerMinute = 60;
    private const double HalfInches = 2; // a run is read to the half inch
    private const double NearestSeconds = 5;

    /// <summary>The pace, and why it is not usual; nulls where nothing is deposited by plan.</summary>
    public static (string? Says, string? Off) Of(UsualPace? usual, CoachPlace place, Wording words)
    {
        if (place.BeadAreaMm2 <= 0)
        {
            return (null, null);
        }

        if (place.Process == Process.Smaw)
        {
            var run = RunPerRodMm(place) / MmPerInch;
            var off = usual is { Per: "rodIn" } && (run < usual.Min || run > usual.Max);
            return (
                words.Say("One rod makes {length}", ("length", InText(run))),
                !off ? null
                : run > usual!.Max ? words.Say("Usual is {min} to {max} in from a rod: fewer, larger beads", ("min", usual.Min), ("max", usual.Max))
                : words.Say("Usual is {min} to {max} in from a rod: one bead more", ("min", usual.Min), ("max", usual.Max))
            );
        }

        return PerMinuteMm3(place) is { } deposit ? Timed(deposit / place.BeadAreaMm2 / MmPerInch, usual, words) : (null, null);
    }

    /// <summary>Deposit in mm³ a minute: of wire by its feed, of a rod that is melted in by hand by what a student melts.</summary>
    private static double? PerMinuteMm3(CoachPlace place)
    {
        if (place.Process == Process.Gtaw)
        {
            return TradeNumbers.Of("rodFeedGtawGPerMin") * 1e6 / place.DensityKgPerM3;
        }

        var (recovery, metal) = Deposit.WireShares(place.Process);
        return place.WireFeedMmPerMin * (Math.PI / 4) * place.DiameterMm * place.DiameterMm * recovery * metal;
    }

    private static double RunPerRodMm(CoachPlace place) =>
        Deposit.GramsPerRod(
            Length.FromMm(place.DiameterMm),
            Length.FromMm(TradeNumbers.Of("rodLengthMm")),
            Length.FromMm(TradeNumbers.Of("stubMm")),
            TradeNumbers.Of(place.Family == ElectrodeFamily.LowHydrogen ? "recoveryBasic" : "recoveryCellulosic"),
            place.DensityKgPerM3
        )
        * 1e6
        / place.DensityKgPerM3
        / place.BeadAreaMm2;

    private static (string? Says, string? Off) Timed(double inchesPerMinute, UsualPace? usual, Wording words)
    {
        var seconds = SecondsPerMinute / inchesPerMinute;
        var read = seconds < NearestSeconds * 2 ? Math.Round(seconds) : Math.Round(seconds / NearestSeconds) * NearestSeconds;
        var off = usual is { Per: "inPerMin" } && (inchesPerMinute < usual.Min || inchesPerMinute > usual.Max);
        return (
            words.Say("1 in every {seconds} s", ("seconds", Math.Max(1, read))),
            off ? words.Say("Usual is {min} to {max} in each minute: change the feed, not the beads", ("min", usual!.Min), ("max", usual.Max)) : null
        );
    }

    private static string InText(double inches) =>
        Length.FromMm(Math.Max(1, Math.Round(inches * HalfInches)) / HalfInches * MmPerInch).ToInchText() + " in";
}
