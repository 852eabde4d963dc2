using Gradus.Core.Measure;

namespace Gradus.Core.Welding;

/// <summary>Arc energy and heat input.</summary>
public static class HeatInput
{
    /// <summary>H = 60·V·I / (1000·v)·k in kJ/mm, v in mm/min (ASME IX QW-409.1 with k = 1; EN 1011-1 with the thermal efficiency k).</summary>
    public static double KjPerMm(double volts, double amps, double travelMmPerMin, double thermalEfficiency = 1) =>
        60 * volts * amps / (1000 * travelMmPerMin) * thermalEfficiency;
}

/// <summary>Beads side by side across a width.</summary>
public static class BeadsAcross
{
    // A width that is a whole number of beads is not one more because of a rounding error.
    private const double Slack = 1e-9;

    /// <summary>How many beads of one width cover a width, each overlapping the last by a share: ⌈1 + (W/b − 1)/(1 − o)⌉, at least 1. Common practice.</summary>
    public static int Count(Length width, Length bead, double overlap) =>
        Math.Max(1, (int)Math.Ceiling(1 + (((width.Mm / bead.Mm) - 1) / (1 - overlap)) - Slack));

    /// <summary>How wide each of so many beads has to be to cover a width: W/(1 + (n − 1)(1 − o)), in mm.</summary>
    public static double WidthEachMm(Length width, int count, double overlap) => width.Mm / (1 + ((count - 1) * (1 - overlap)));

    /// <summary>Centre to centre when the beads are spread evenly over the width, in mm; 0 for a single bead.</summary>
    public static double SpacingMm(Length width, Length bead, int count) => count == 1 ? 0 : (width.Mm - bead.Mm) / (count - 1);
}

/// <summary>The purge of a closed pipe length.</summary>
public static class Purge
{
    /// <summary>V = π/4·d²·L in litres.</summary>
    public static double VolumeL(Length insideDiameter, Length length) => Math.PI / 4 * insideDiameter.Mm * insideDiameter.Mm * length.Mm / 1e6;

    /// <summary>Minutes until the volume was changed so many times: changes·V / flow (AWS D10.11; 4 to 6 changes usual).</summary>
    public static double Minutes(double volumeL, double changes, double flowLPerMin) => changes * volumeL / flowLPerMin;
}

/// <summary>What a covered electrode or a wire leaves in the joint.</summary>
public static class Deposit
{
    /// <summary>Grams from one covered electrode: π/4·d²·(L − stub)·ρ·R, R the recovery (EN ISO 2401), ρ in kg/m³.</summary>
    public static double GramsPerRod(Length diameter, Length length, Length stub, double recovery, double densityKgPerM3) =>
        Area(diameter) * (length.Mm - stub.Mm) * densityKgPerM3 / 1e6 * recovery;

    /// <summary>Whole rods for a mass in kg, rounded up.</summary>
    public static long Rods(double requiredKg, double gramsPerRod) => (long)Math.Ceiling((requiredKg * 1000 / gramsPerRod) - 1e-9);

    /// <summary>What is left of a wire by its process: the share that is deposited, and the share of its section that is metal, the rest being core.</summary>
    public static (double Recovery, double Metal) WireShares(Process process) =>
        (
            TradeNumbers.Of(
                process switch
                {
                    Process.FcawG => "recoveryCoredGas",
                    Process.FcawS => "recoveryCoredSelf",
                    _ => "recoverySolidWire",
                }
            ),
            process == Process.Gmaw ? 1 : TradeNumbers.Of("coredWireSteelShare")
        );

    /// <summary>Deposition of a wire in kg/h: wire area × feed × ρ × recovery.</summary>
    public static double WireKgPerH(Length diameter, double feedMmPerMin, double recovery, double densityKgPerM3) =>
        Area(diameter) * feedMmPerMin * 60 * densityKgPerM3 / 1e9 * recovery;

    /// <summary>Bead area of a wire process in mm²: wire area × feed × recovery / travel speed.</summary>
    public static double WireBeadAreaMm2(Length diameter, double feedMmPerMin, double travelMmPerMin, double recovery) =>
        Area(diameter) * feedMmPerMin * recovery / travelMmPerMin;

    /// <summary>Bead area in mm² of a covered electrode: its deposit over the length that one rod ran out to.</summary>
    public static double RodBeadAreaMm2(double gramsPerRod, Length runOut, double densityKgPerM3) => gramsPerRod * 1e6 / densityKgPerM3 / runOut.Mm;

    private static double Area(Length diameter) => Math.PI / 4 * diameter.Mm * diameter.Mm;
}

/// <summary>Rules of thumb for dialling in a machine; common practice.</summary>
public static class DialIn
{
    /// <summary>The solid wires that there is a rule for, by the trade's name of their size.</summary>
    public static IReadOnlyList<string> Wires { get; } = ["0.030", "0.035", "0.045"];

    /// <summary>Wire feed in mm/min for a current: so many inches a minute for each amp, by the size of a solid wire.</summary>
    /// <exception cref="ArgumentException">A size that there is no rule for.</exception>
    public static double WireFeedMmPerMin(string wire, double amps) =>
        Wires.Contains(wire)
            ? TradeNumbers.Of($"wireFeedPerAmp{wire[2..]}") * amps * Length.MmPerInch
            : throw new ArgumentException($"There is no rule for a {wire} in wire.", nameof(wire));

    /// <summary>Bore of a gas cup by its number: number × 1/16 in.</summary>
    public static Length CupBore(double number) => Length.FromMm(number * TradeNumbers.Of("cupSizeMm"));

    /// <summary>How far a tungsten stands out of the cup: two to three of its diameters, in mm.</summary>
    public static (double LeastMm, double MostMm) TungstenStickOut(Length electrode) =>
        (TradeNumbers.Of("tungstenStickOutMin") * electrode.Mm, TradeNumbers.Of("tungstenStickOutMax") * electrode.Mm);
}

/// <summary>The plunger that a code asks for.</summary>
/// <param name="Name">Which metals, as the code tells them apart.</param>
/// <param name="TimesThickness">Its diameter in thicknesses of the specimen; null where it goes otherwise.</param>
/// <param name="DiameterMm">The diameter where it is one and the same.</param>
/// <param name="Confidence">How sure it is, in percent: all of it is from memory.</param>
public sealed record PlungerRow(string Code, string Group, string Name, double? TimesThickness, double? DiameterMm, string Source, int Confidence)
{
    /// <summary>True when it goes by the elongation of the metal.</summary>
    [System.Text.Json.Serialization.JsonIgnore]
    public bool NeedsElongation => TimesThickness is null && DiameterMm is null;
}

/// <summary>How fast a bead was run.</summary>
public static class Travel
{
    /// <summary>Seconds that a covered rod burns: its deposit over what an amp melts in a minute.</summary>
    public static double RodSeconds(double gramsPerRod, double amps) => gramsPerRod / (TradeNumbers.Of("smawGPerMinPerAmp") * amps) * 60;

    /// <summary>Travel in mm/min of a bead that ran so far in so long.</summary>
    public static double MmPerMin(Length run, double seconds) => run.Mm / seconds * 60;
}

/// <summary>The guided bend jig.</summary>
public static class BendJig
{
    // The specimen passes with 1/8 in to spare in all.
    private const double ClearanceMm = 3.175;

    /// <summary>The plungers of every code.</summary>
    public static IReadOnlyList<PlungerRow> Plungers { get; } = CoreJson.ReadEmbedded<IReadOnlyList<PlungerRow>>("Welding/plungers.json");

    /// <summary>The plunger for a specimen; by elongation 100·t/A − t (ISO 9606-1).</summary>
    /// <param name="elongationPercent">Of the metal; only where the row goes by it.</param>
    /// <exception cref="ArgumentException">The row goes by the elongation and none was given.</exception>
    public static Length Plunger(PlungerRow row, Length specimen, double? elongationPercent = null) =>
        Length.FromMm(
            row.DiameterMm
                ?? (row.TimesThickness * specimen.Mm)
                ?? (
                    elongationPercent is { } elongation
                        ? (100 * specimen.Mm / elongation) - specimen.Mm
                        : throw new ArgumentException("It goes by the elongation.", nameof(elongationPercent))
                )
        );

    /// <summary>The gap of the die: plunger + 2·t + 1/8 in (AWS D1.1, ASME IX).</summary>
    public static Length DieGap(Length plunger, Length specimen) => Length.FromMm(plunger.Mm + (2 * specimen.Mm) + ClearanceMm);

    /// <summary>Strain of the outer fibre in percent: 100·t/(A + t), t specimen thickness, A plunger diameter (ASME IX QW-466, AWS D1.1).</summary>
    public static double OuterStrainPercent(Length specimenThickness, Length plungerDiameter) =>
        100 * specimenThickness.Mm / (plungerDiameter.Mm + specimenThickness.Mm);
}
