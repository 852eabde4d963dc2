using System.Text.Json.Serialization;
using FluentValidation;
using Gradus.Server.Hosting;

namespace Gradus.Server.ShopMath;

/// <summary>Beads of one width across a width; <c>overlap</c> is the share of a bead that the next one covers.</summary>
public sealed record BeadsRequest(double? WidthMm, double? BeadWidthMm, double? Overlap);

/// <summary>How many, and how far apart centre to centre when spread evenly (0 for one).</summary>
/// <param name="WidthEachMm">What each has to be wide so that these cover it with just that overlap.</param>
/// <param name="OneFewerMm">The same with one bead less; null for a single bead.</param>
public sealed record BeadsAnswer(int Count, double SpacingMm, double WidthEachMm, double? OneFewerMm);

/// <summary>Arc settings; the thermal efficiency may be left out and is then 1 (ASME IX).</summary>
public sealed record HeatInputRequest(double? Volts, double? Amps, double? TravelMmPerMin, double? ThermalEfficiency);

/// <summary>Heat input. The unit kJ keeps its own spelling.</summary>
public sealed record HeatInputAnswer(
    [property: JsonPropertyName("kJPerMm")] double KJPerMm,
    [property: JsonPropertyName("kJPerInch")] double KJPerInch
);

public sealed record PurgeRequest(double? InsideDiameterMm, double? LengthMm, double? VolumeChanges, double? FlowLPerMin);

public sealed record PurgeAnswer(double VolumeL, double Minutes);

public sealed record ElectrodeRequest(
    double? DiameterMm,
    double? LengthMm,
    double? StubMm,
    double? Recovery,
    double? DensityKgPerM3,
    double? RequiredKg
);

/// <summary>What one rod deposits, and the rods for the mass, rounded up.</summary>
public sealed record ElectrodeAnswer(double DepositGPerRod, long Rods);

public sealed record WireRequest(double? DiameterMm, double? FeedMmPerMin, double? TravelMmPerMin, double? Recovery, double? DensityKgPerM3);

public sealed record WireAnswer(double DepositionKgPerH, double BeadAreaMm2);

public sealed record BendStrainRequest(double? SpecimenThicknessMm, double? PlungerDiameterMm);

public sealed record BendStrainAnswer(double OuterStrainPercent);

public sealed class BeadsRequestValidator : AbstractValidator<BeadsRequest>
{
    public BeadsRequestValidator()
    {
        RuleFor(request => request.WidthMm).NeedsOver0(1000, "the width to cover in mm");
        RuleFor(request => request.BeadWidthMm).Needs(0.1, 100, "the width of a bead in mm");
        RuleFor(request => request.Overlap).Needs(0, 0.95, "the overlap as a share of a bead");
    }
}

public sealed class HeatInputRequestValidator : AbstractValidator<HeatInputRequest>
{
    public HeatInputRequestValidator()
    {
        RuleFor(request => request.Volts).NeedsOver0(200, "the arc voltage");
        RuleFor(request => request.Amps).NeedsOver0(3000, "the current in amps");
        RuleFor(request => request.TravelMmPerMin).Needs(0.1, 100_000, "the travel speed in mm/min");
        RuleFor(request => request.ThermalEfficiency)
            .Must(value => value is null or (> 0 and <= 1))
            .WithMessage("The thermal efficiency is over 0 and at most 1, or left out.");
    }
}

public sealed class PurgeRequestValidator : AbstractValidator<PurgeRequest>
{
    public PurgeRequestValidator()
    {
        RuleFor(request => request.InsideDiameterMm).NeedsOver0(5000, "the inside diameter in mm");
        RuleFor(request => request.LengthMm).NeedsOver0(100_000, "the purged length in mm");
        RuleFor(request => request.VolumeChanges).NeedsOver0(100, "the number of volume changes");
        RuleFor(request => request.FlowLPerMin).Needs(0.01, 1000, "the flow in litres a minute");
    }
}

public sealed class ElectrodeRequestValidator : AbstractValidator<ElectrodeRequest>
{
    public ElectrodeRequestValidator()
    {
        RuleFor(request => request.DiameterMm).Needs(0.5, 12, "the core diameter in mm");
        RuleFor(request => request.LengthMm).NeedsOver0(1000, "the length of the rod in mm");
        RuleFor(request => request.StubMm).Needs(0, 1000, "the length of the stub in mm");
        RuleFor(request => request.StubMm).Must((request, stub) => !(stub >= request.LengthMm)).WithMessage("The stub is shorter than the rod.");
        RuleFor(request => request.Recovery).Needs(0.1, 2.5, "the recovery (1.1 is 110 %)");
        RuleFor(request => request.DensityKgPerM3).Needs(500, 25_000, "the density in kg per cubic metre");
        RuleFor(request => request.RequiredKg).Needs(0, 100_000, "the mass to be deposited in kg");
    }
}

public sealed class WireRequestValidator : AbstractValidator<WireRequest>
{
    public WireRequestValidator()
    {
        RuleFor(request => request.DiameterMm).Needs(0.1, 12, "the wire diameter in mm");
        RuleFor(request => request.FeedMmPerMin).NeedsOver0(100_000, "the wire feed in mm/min");
        RuleFor(request => request.TravelMmPerMin).Needs(0.1, 100_000, "the travel speed in mm/min");
        RuleFor(request => request.Recovery).Needs(0.1, 1, "the recovery (0.95 is 95 %)");
        RuleFor(request => request.DensityKgPerM3).Needs(500, 25_000, "the density in kg per cubic metre");
    }
}

public sealed class BendStrainRequestValidator : AbstractValidator<BendStrainRequest>
{
    public BendStrainRequestValidator()
    {
        RuleFor(request => request.SpecimenThicknessMm).NeedsOver0(200, "the thickness of the specimen in mm");
        RuleFor(request => request.PlungerDiameterMm).NeedsOver0(2000, "the diameter of the plunger in mm");
    }
}
