using FluentValidation;
using Gradus.Core.Inspection;
using Gradus.Core.Measure;
using Gradus.Server.Hosting;
using Gradus.Server.Library;

namespace Gradus.Server.ShopMath;

/// <summary>A length as it was written, and the unit of a bare number (<c>in</c> or <c>mm</c>).</summary>
public sealed record LengthRequest(string? Text, string? Assume);

/// <summary>A length read: millimetres, and both ways of showing it (inch to the nearest 1/64).</summary>
public sealed record LengthAnswer(double Mm, string InchText, string MmText);

public sealed class LengthRequestValidator : AbstractValidator<LengthRequest>
{
    public LengthRequestValidator()
    {
        RuleFor(request => request.Text).NotEmpty().WithMessage($"Write {LengthReader.Accepts}.");
        RuleFor(request => request.Assume).Must(unit => unit is null or "in" or "mm").WithMessage("Give in or mm.");
    }
}

/// <summary>A single-V groove. Give the length of a plate joint or the outside diameter of a pipe, one of the two.</summary>
public sealed record GrooveRequest(
    double? ThicknessMm,
    double? BevelDegA,
    double? BevelDegB,
    double? RootOpeningMm,
    double? RootFaceMm,
    double? ReinforcementMm,
    double? ToeOverlapMm,
    double? LengthMm,
    double? PipeOutsideDiameterMm,
    double? DensityKgPerM3
);

/// <summary>The groove's geometry, unrounded.</summary>
public sealed record GrooveAnswer(
    double IncludedAngleDeg,
    double ProtractorDegA,
    double ProtractorDegB,
    double FaceWidthMm,
    double CapWidthMm,
    double GrooveAreaMm2,
    double ReinforcementAreaMm2,
    double GrooveVolumeMm3,
    double ReinforcementVolumeMm3,
    double MassKg
);

public sealed class GrooveRequestValidator : AbstractValidator<GrooveRequest>
{
    public GrooveRequestValidator()
    {
        RuleFor(request => request.ThicknessMm).NeedsOver0(500, "the thickness in mm");
        RuleFor(request => request.BevelDegA).NeedsBevel();
        RuleFor(request => request.BevelDegB).NeedsBevel();
        RuleFor(request => request.RootOpeningMm).Needs(0, 100, "the root opening in mm");
        RuleFor(request => request.RootFaceMm).Needs(0, 500, "the root face in mm");
        RuleFor(request => request.RootFaceMm)
            .Must((request, face) => !(face > request.ThicknessMm))
            .WithMessage("The root face cannot be thicker than the material.");
        RuleFor(request => request.ReinforcementMm).Needs(0, 50, "the height of the reinforcement in mm");
        RuleFor(request => request.ToeOverlapMm).Needs(0, 50, "the lap of the cap over each edge in mm");
        RuleFor(request => request.DensityKgPerM3).Needs(500, 25_000, "the density in kg per cubic metre");
        RuleFor(request => request.LengthMm).MayBe(0, Length.MaxMm, "The length of the joint in mm");
        RuleFor(request => request.PipeOutsideDiameterMm)
            .Must((request, diameter) => diameter is null || (diameter <= 5000 && diameter > 2 * request.ThicknessMm))
            .WithMessage("The outside diameter of the pipe in mm is over twice the wall and at most 5000.");
        RuleFor(request => request.LengthMm)
            .Must((request, length) => length is null != request.PipeOutsideDiameterMm is null)
            .WithMessage("Give the length of a plate joint or the outside diameter of a pipe, one of the two.");
    }
}

/// <summary>A pipe size of the standard.</summary>
public sealed record PipeSizeAnswer(double OutsideDiameterMm, double WallMm, double InsideDiameterMm, int Dn);

/// <summary>A nominal size of pipe with the walls that it comes in.</summary>
/// <param name="Nps">As it is spoken of: <c>1-1/2</c>.</param>
/// <param name="Dn">By ISO 6708.</param>
public sealed record PipeSizeRow(string Nps, int Dn, double OutsideDiameterMm, IReadOnlyList<PipeWall> Walls);

/// <summary>A schedule and the wall that it means.</summary>
public sealed record PipeWall(string Schedule, double WallMm);

/// <summary>The table of pipe sizes.</summary>
/// <param name="FromMemory">True: to be checked against the standard.</param>
public sealed record PipeSizeTable(string Source, bool FromMemory, IReadOnlyList<PipeSizeRow> Sizes);

/// <summary>What was found by eye, and the profile to judge it by.</summary>
/// <param name="Weld">A groove when it is left out.</param>
/// <param name="Fillet">What was measured of a fillet itself.</param>
/// <param name="WeldLengthMm">Length of the weld; of pipe the girth when it is left out.</param>
/// <param name="Broken">True for a fillet or tack that is broken open after it was looked at.</param>
public sealed record VisualRequest(
    string? Profile,
    Product? Product,
    double? ThicknessMm,
    bool? OpenRoot,
    IReadOnlyList<VisualFinding>? Findings,
    WeldKind? Weld,
    FilletMeasures? Fillet,
    double? WeldLengthMm,
    double? OutsideDiameterMm,
    bool? Broken
);

/// <summary>One discontinuity; a measure that was not taken is left out.</summary>
public sealed record VisualFinding(
    DiscontinuityKind? Kind,
    Stage? Stage,
    double? DepthMm,
    double? HeightMm,
    double? LengthMm,
    double? DiameterMm,
    int? Count,
    double? WidthMm,
    double? AtMm,
    double? FaceHeightThereMm
);

/// <summary>A verdict: <c>accept</c>, <c>reject</c> or <c>cannot-judge</c>, the limits that decided it, and those that were kept.</summary>
/// <param name="NoLimit">True when something of it is accepted because the code truly sets no limit there; which, say the reasons that passed.</param>
public sealed record VerdictAnswer(VerdictKind Verdict, IReadOnlyList<LimitReason> Reasons, IReadOnlyList<LimitReason> Passed, bool NoLimit)
{
    public static VerdictAnswer From(Verdict verdict) =>
        new(verdict.Kind, verdict.Reasons, verdict.Passed, verdict.Kind == VerdictKind.Accept && verdict.Passed.Any(reason => reason.NoLimit));
}

public sealed class VisualRequestValidator : AbstractValidator<VisualRequest>
{
    public const int MostFindings = 500;

    public VisualRequestValidator(SchoolLibrary library)
    {
        RuleFor(request => request.Profile).NeedsOneOf(() => library.Profiles.Keys);
        RuleFor(request => request.Product).NeedsOneOf();
        RuleFor(request => request.ThicknessMm).NeedsOver0(500, "the thickness in mm");
        RuleFor(request => request.OpenRoot).NotNull().WithMessage("Say true for an open root, false for a backed one.");
        RuleFor(request => request.Findings)
            .Must(findings => findings is { Count: <= MostFindings } && findings.All(finding => finding is not null))
            .WithMessage($"Give a list of at most {MostFindings} findings; an empty one when nothing was found.");
        RuleForEach(request => request.Findings).SetValidator(new VisualFindingValidator());
        RuleFor(request => request.WeldLengthMm).MayBeOver0(JudgeBounds.MostWeldMm, "The length of the weld in mm");
        RuleFor(request => request.OutsideDiameterMm).MayBeOver0(JudgeBounds.MostPipeMm, "The outside diameter in mm");
        RuleFor(request => request.Fillet)
            .Must((request, fillet) => fillet is null || request.Weld == WeldKind.Fillet)
            .WithMessage("What is measured of a fillet goes with \"weld\": \"fillet\".");
        RuleFor(request => request.Fillet)
            .Must(fillet => fillet?.AreSizes != false)
            .WithMessage($"Sizes of a fillet are from 0 to {FilletMeasures.MostMm} mm, or left out.");
    }
}

public sealed class VisualFindingValidator : AbstractValidator<VisualFinding>
{
    private const double MostMm = 20_000;

    public VisualFindingValidator()
    {
        RuleFor(finding => finding.Kind).NeedsOneOf();
        RuleFor(finding => finding.DepthMm).MayBe(0, MostMm, "A depth in mm");
        RuleFor(finding => finding.HeightMm).MayBe(0, MostMm, "A height in mm");
        RuleFor(finding => finding.LengthMm).MayBe(0, MostMm, "A length in mm");
        RuleFor(finding => finding.DiameterMm).MayBe(0, MostMm, "A diameter in mm");
        RuleFor(finding => finding.WidthMm).MayBe(0, MostMm, "A width in mm");
        RuleFor(finding => finding.AtMm).MayBe(0, MostMm, "A place along the weld in mm");
        RuleFor(finding => finding.FaceHeightThereMm).MayBe(-MostMm, MostMm, "The height of the face there in mm");
        RuleFor(finding => finding.Count)
            .Must(count => count is null or (>= 0 and <= 10_000))
            .WithMessage("A count is a whole number from 0 to 10000, or left out.");
    }
}
