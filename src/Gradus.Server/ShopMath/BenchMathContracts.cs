using FluentValidation;
using Gradus.Core.Coaching;
using Gradus.Core.Measure;
using Gradus.Core.Vocabulary;
using Gradus.Core.Welding;
using Gradus.Server.Hosting;

namespace Gradus.Server.ShopMath;

/// <summary>A steel by its analysis in percent, and the parts that are joined.</summary>
/// <param name="Category">A group of the table; see <see cref="PreheatView.Categories"/>.</param>
/// <param name="PathsMm">The thickness of each path for the heat, the mean over 75 mm; at most four.</param>
/// <param name="MetalC">How warm the metal is, in °C; may be left out.</param>
public sealed record PreheatRequest(
    double? Carbon,
    double? Manganese,
    double? Chromium,
    double? Molybdenum,
    double? Vanadium,
    double? Nickel,
    double? Copper,
    double? Silicon,
    string? Category,
    IReadOnlyList<double?>? PathsMm,
    double? MetalC
);

/// <summary>A group that the table of preheat tells apart.</summary>
public sealed record PreheatGroup(string Id, string Name, string Source, int Confidence);

/// <summary>What is known of preheat. Never that none is needed: a procedure may ask for more.</summary>
/// <param name="InSpan">False where the equivalent says nothing of preheat: outside the steels that its charts are for.</param>
/// <param name="LeastC">The least before the first pass and between passes, in °C.</param>
/// <param name="WarmToC">What steel under <paramref name="ColdC"/> is warmed to first.</param>
/// <param name="IsBelow">Whether the metal is colder than that; null when its temperature was not given.</param>
public sealed record PreheatView(
    double CarbonEquivalent,
    double CarbonEquivalentWithSilicon,
    bool InSpan,
    double CombinedThicknessMm,
    double LeastC,
    double ColdC,
    double WarmToC,
    bool? IsBelow,
    string Source,
    int Confidence,
    IReadOnlyList<PreheatGroup> Categories
);

/// <summary>A specimen to be bent by a code.</summary>
/// <param name="Group">A group of metals as the code tells them apart; see <see cref="PlungerView.Groups"/>.</param>
/// <param name="ElongationPercent">Only where the group goes by it.</param>
public sealed record PlungerRequest(string? Code, string? Group, double? SpecimenThicknessMm, double? ElongationPercent);

/// <summary>A group of metals.</summary>
public sealed record PlungerGroup(string Code, string Group, string Name, bool NeedsElongation);

/// <summary>The plunger and the die.</summary>
public sealed record PlungerView(
    double PlungerMm,
    double DieGapMm,
    double OuterStrainPercent,
    string Source,
    int Confidence,
    IReadOnlyList<PlungerGroup> Groups
);

/// <summary>A bead as it was run. Where nobody took the time, a covered rod burns as long as its amps melt it.</summary>
/// <param name="Seconds">The time of the arc; null for a covered rod that was burnt down.</param>
public sealed record TravelRequest(
    double? RunMm,
    double? Seconds,
    double? Amps,
    double? Volts,
    double? RodDiameterMm,
    double? RodLengthMm,
    double? StubMm,
    double? Recovery,
    double? DensityKgPerM3
);

/// <summary>How fast it was run.</summary>
/// <param name="FromRod">True when the time is worked out from the rod.</param>
/// <param name="BeadAreaMm2">Of a covered rod: its deposit over the run; null without a rod.</param>
/// <param name="HeatKjPerMm">Null without amps and volts.</param>
public sealed record TravelAnswer(double Seconds, bool FromRod, double MmPerMin, double? BeadAreaMm2, double? HeatKjPerMm);

/// <summary>An open root as it was fitted.</summary>
/// <param name="DiameterMm">Of the rod or wire.</param>
/// <param name="IsHeld">Bridged or clamped.</param>
public sealed record GapLeftRequest(
    Product? Product,
    double? ThicknessMm,
    double? BevelDegA,
    double? BevelDegB,
    double? RootOpeningMm,
    double? RootFaceMm,
    double? DiameterMm,
    int? Tacks,
    bool? IsHeld
);

/// <summary>What a way of welding the root makes of a gap.</summary>
public sealed record GapWay(string Base, string Name, GapVerdict Verdict, string Says);

/// <summary>What is left where the root is tied in.</summary>
/// <param name="EndMm">At the end of the seam, or of the half that is welded first.</param>
/// <param name="Ways">For each way of welding an open root: what to do with the least of it.</param>
public sealed record GapLeftAnswer(double ClosesMm, double EndMm, double? SecondStartMm, double? SecondEndMm, IReadOnlyList<GapWay> Ways);

public sealed class PreheatRequestValidator : AbstractValidator<PreheatRequest>
{
    public PreheatRequestValidator()
    {
        RuleFor(request => request.Carbon).Needs(0, 2, "the carbon in percent");
        RuleFor(request => request.Manganese).Needs(0, 15, "the manganese in percent");
        RuleFor(request => request.Chromium).MayBe(0, 30, "The chromium in percent");
        RuleFor(request => request.Molybdenum).MayBe(0, 10, "The molybdenum in percent");
        RuleFor(request => request.Vanadium).MayBe(0, 5, "The vanadium in percent");
        RuleFor(request => request.Nickel).MayBe(0, 40, "The nickel in percent");
        RuleFor(request => request.Copper).MayBe(0, 10, "The copper in percent");
        RuleFor(request => request.Silicon).MayBe(0, 5, "The silicon in percent");
        RuleFor(request => request.Category).NeedsOneOf([.. Preheat.Categories.Select(one => one.Id)]);
        RuleFor(request => request.PathsMm)
            .Must(paths => paths is { Count: >= 1 and <= 4 } && paths.All(path => path is > 0 and <= 500))
            .WithMessage("Give the thickness of one to four paths for the heat, each over 0 and at most 500 mm.");
        RuleFor(request => request.MetalC).MayBe(-60, 1000, "The temperature of the metal in °C");
    }
}

public sealed class PlungerRequestValidator : AbstractValidator<PlungerRequest>
{
    public PlungerRequestValidator()
    {
        RuleFor(request => request.Code).NeedsOneOf([.. BendJig.Plungers.Select(row => row.Code).Distinct()]);
        RuleFor(request => request.Group)
            .Must((request, group) => BendJig.Plungers.Any(row => row.Code == request.Code && row.Group == group))
            .WithMessage(request =>
                $"One of: {string.Join(", ", BendJig.Plungers.Where(row => row.Code == request.Code).Select(row => row.Group))}."
            );
        RuleFor(request => request.SpecimenThicknessMm).NeedsOver0(200, "the thickness of the specimen in mm");
        RuleFor(request => request.ElongationPercent)
            .Must(
                (request, elongation) =>
                    BendJig.Plungers.FirstOrDefault(row => row.Code == request.Code && row.Group == request.Group) is not { NeedsElongation: true }
                    || elongation is >= 3 and < 20
            )
            .WithMessage("Give the elongation of the metal, from 3 to under 20 %.");
    }
}

public sealed class TravelRequestValidator : AbstractValidator<TravelRequest>
{
    public TravelRequestValidator()
    {
        RuleFor(request => request.RunMm).NeedsOver0(10_000, "the length of the run in mm");
        RuleFor(request => request.Seconds).MayBe(0.5, 3600, "The time of the arc in seconds");
        RuleFor(request => request.Volts).MayBe(1, 200, "The arc voltage");
        RuleFor(request => request.Amps)
            .Must((request, amps) => amps is > 0 and <= 3000 || (amps is null && request.Seconds is not null))
            .WithMessage("Give the amps, over 0 and at most 3000: a rod burns by them where nobody took the time.");
        RuleFor(request => request.RodDiameterMm)
            .Must((request, diameter) => diameter is >= 0.5 and <= 12 || (diameter is null && request.Seconds is not null))
            .WithMessage("Give the diameter of the rod, 0.5 to 12 mm, or the seconds of the arc.");
        RuleFor(request => request.RodLengthMm).MayBe(50, 1000, "The length of the rod in mm");
        RuleFor(request => request.StubMm)
            .Must((request, stub) => stub is null || (stub >= 0 && stub < (request.RodLengthMm ?? TradeNumbers.Of("rodLengthMm"))))
            .WithMessage("The stub is shorter than the rod.");
        RuleFor(request => request.Recovery).MayBe(0.1, 2.5, "The recovery (1.1 is 110 %)");
        RuleFor(request => request.DensityKgPerM3).MayBe(500, 25_000, "The density in kg per cubic metre");
    }
}

public sealed class GapLeftRequestValidator : AbstractValidator<GapLeftRequest>
{
    public GapLeftRequestValidator()
    {
        RuleFor(request => request.Product).NotNull().WithMessage("Give the product: plate, pipe, sheet.").IsInEnum();
        RuleFor(request => request.ThicknessMm).NeedsOver0(200, "the thickness in mm");
        RuleFor(request => request.BevelDegA).NeedsBevel();
        RuleFor(request => request.BevelDegB).NeedsBevel();
        RuleFor(request => request.RootOpeningMm).Needs(0, 25, "the root opening in mm");
        RuleFor(request => request.RootFaceMm)
            .Must((request, face) => face >= 0 && face <= request.ThicknessMm)
            .WithMessage("The root face is from 0 to the thickness.");
        RuleFor(request => request.DiameterMm).Needs(0.5, 12, "the diameter of the rod or wire in mm");
        RuleFor(request => request.Tacks).Must(tacks => tacks is >= 1 and <= 20).WithMessage("Give the number of tacks, 1 to 20.");
    }
}
