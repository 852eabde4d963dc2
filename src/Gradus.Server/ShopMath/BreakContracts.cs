using FluentValidation;
using Gradus.Core.Inspection;
using Gradus.Server.Hosting;
using Gradus.Server.Library;
using Microsoft.AspNetCore.Http.HttpResults;

namespace Gradus.Server.ShopMath;

/// <summary>Nick-breaks and the profile to judge them by. What was not looked at or measured is left out.</summary>
public sealed record NickBreakRequest(string? Profile, IReadOnlyList<NickBreakSpecimenRequest>? Specimens);

public sealed record NickBreakSpecimenRequest(
    bool? CompletePenetration,
    bool? CompleteFusion,
    double? WallMm,
    double? PorePercent,
    IReadOnlyList<double?>? PoresMm,
    IReadOnlyList<BreakSlag>? Slag
);

/// <summary>Broken fillets and the profile to judge them by.</summary>
public sealed record FilletBreakRequest(string? Profile, IReadOnlyList<FilletBreakSpecimenRequest>? Specimens);

/// <param name="LengthMm">Length of weld in the specimen.</param>
/// <param name="Product">Plate when it is left out; a quarter of pipe has a limit of its own in some codes.</param>
/// <param name="ThroatMm">For codes whose limits go by the throat.</param>
/// <param name="PorePercent">What the pores cover of the broken face, where a code limits it.</param>
public sealed record FilletBreakSpecimenRequest(
    bool? BentFlat,
    bool? FusionToRoot,
    bool? Crack,
    IReadOnlyList<double?>? InclusionsMm,
    double? LengthMm,
    Product? Product,
    double? ThroatMm,
    double? PorePercent
);

/// <summary>Macro sections and the profile to judge them by. Legs, convexity and concavity are for fillets.</summary>
public sealed record MacroRequest(string? Profile, IReadOnlyList<MacroSpecimenRequest>? Specimens);

public sealed record MacroSpecimenRequest(
    bool? Fillet,
    bool? Crack,
    bool? FusionComplete,
    double? RootIndicationMm,
    double? LegAskedMm,
    double? LegAMm,
    double? LegBMm,
    double? FaceWidthMm,
    double? ConvexityMm,
    double? ConcavityMm,
    double? UndercutMm,
    double? ThroatMm,
    double? ThicknessMm
);

public sealed class NickBreakRequestValidator : AbstractValidator<NickBreakRequest>
{
    public NickBreakRequestValidator(SchoolLibrary library)
    {
        RuleFor(request => request.Profile).NeedsOneOf(() => library.Profiles.Keys);
        RuleFor(request => request.Specimens).NeedsSpecimens();
        RuleForEach(request => request.Specimens)
            .ChildRules(specimen =>
            {
                specimen.RuleFor(one => one.WallMm).MayBe(0.1, 200, "The wall in mm");
                specimen.RuleFor(one => one.PorePercent).MayBe(0, 100, "The share of pores in percent");
                specimen.RuleForEach(one => one.PoresMm).MayBe(0, 200, "A pore in mm");
                specimen.RuleFor(one => one.PoresMm).Must(list => list is null or { Count: <= 200 }).WithMessage("At most 200 pores.");
                specimen
                    .RuleFor(one => one.Slag)
                    .Must(list =>
                        list is null
                        || (
                            list.Count <= 200
                            && list.All(piece =>
                                piece is not null
                                && new[] { piece.DepthMm, piece.LengthMm, piece.ApartMm }.All(size => size is null or (>= 0 and <= 1000))
                            )
                        )
                    )
                    .WithMessage("At most 200 pieces of slag, each size from 0 to 1000 mm or left out.");
            });
    }
}

public sealed class FilletBreakRequestValidator : AbstractValidator<FilletBreakRequest>
{
    public FilletBreakRequestValidator(SchoolLibrary library)
    {
        RuleFor(request => request.Profile).NeedsOneOf(() => library.Profiles.Keys);
        RuleFor(request => request.Specimens).NeedsSpecimens();
        RuleForEach(request => request.Specimens)
            .ChildRules(specimen =>
            {
                specimen.RuleFor(one => one.LengthMm).MayBeOver0(JudgeBounds.MostWeldMm, "The length of weld in mm");
                specimen.RuleFor(one => one.ThroatMm).MayBeOver0(FilletMeasures.MostMm, "The throat in mm");
                specimen.RuleFor(one => one.PorePercent).MayBe(0, 100, "The share of pores in percent");
                specimen.RuleForEach(one => one.InclusionsMm).MayBe(0, 200, "A pore or inclusion in mm");
                specimen.RuleFor(one => one.InclusionsMm).Must(list => list is null or { Count: <= 200 }).WithMessage("At most 200 of them.");
            });
    }
}

public sealed class MacroRequestValidator : AbstractValidator<MacroRequest>
{
    public MacroRequestValidator(SchoolLibrary library)
    {
        RuleFor(request => request.Profile).NeedsOneOf(() => library.Profiles.Keys);
        RuleFor(request => request.Specimens).NeedsSpecimens();
        RuleForEach(request => request.Specimens)
            .ChildRules(specimen =>
            {
                specimen.RuleFor(one => one.Fillet).NotNull().WithMessage("Say true for a fillet, false for a groove.");
                specimen.RuleFor(one => one.RootIndicationMm).MayBe(0, 200, "An indication in mm");
                specimen.RuleFor(one => one.LegAskedMm).MayBe(0.1, 200, "The leg asked for in mm");
                specimen.RuleFor(one => one.LegAMm).MayBe(0, 200, "A leg in mm");
                specimen.RuleFor(one => one.LegBMm).MayBe(0, 200, "A leg in mm");
                specimen.RuleFor(one => one.FaceWidthMm).MayBe(0, 500, "The width of the face in mm");
                specimen.RuleFor(one => one.ConvexityMm).MayBe(0, 100, "The convexity in mm");
                specimen.RuleFor(one => one.ConcavityMm).MayBe(0, 100, "The concavity in mm");
                specimen.RuleFor(one => one.UndercutMm).MayBe(0, 100, "The undercut in mm");
                specimen.RuleFor(one => one.ThroatMm).MayBeOver0(FilletMeasures.MostMm, "The throat in mm");
                specimen.RuleFor(one => one.ThicknessMm).MayBeOver0(500, "The thickness in mm");
            });
    }
}

/// <summary>Verdicts on what was broken open or cut through.</summary>
public static class BreakEndpoints
{
    public static void Map(RouteGroupBuilder judge)
    {
        judge.MapPost("/judge/nick-break", NickBreak).Validated<NickBreakRequest>().Produces<TestVerdictAnswer>();
        judge.MapPost("/judge/fillet-break", FilletBreak).Validated<FilletBreakRequest>().Produces<TestVerdictAnswer>();
        judge.MapPost("/judge/macro", Macro).Validated<MacroRequest>().Produces<TestVerdictAnswer>();
    }

    internal static IRuleBuilderOptions<T, IReadOnlyList<TItem>?> NeedsSpecimens<T, TItem>(this IRuleBuilder<T, IReadOnlyList<TItem>?> rule) =>
        rule.Must(list => list is { Count: >= 1 and <= 20 } && list.All(one => one is not null)).WithMessage("Give 1 to 20 specimens.");

    private static Ok<TestVerdictAnswer> NickBreak(NickBreakRequest request, SchoolLibrary library) =>
        TypedResults.Ok(
            TestVerdictAnswer.From(
                BreakAndMacroJudge.NickBreak(
                    library.Profiles[request.Profile!],
                    [
                        .. request.Specimens!.Select(one => new NickBreakSpecimen(
                            one.CompletePenetration,
                            one.CompleteFusion,
                            one.WallMm,
                            one.PorePercent,
                            one.PoresMm ?? [],
                            one.Slag ?? []
                        )),
                    ]
                )
            )
        );

    private static Ok<TestVerdictAnswer> FilletBreak(FilletBreakRequest request, SchoolLibrary library) =>
        TypedResults.Ok(
            TestVerdictAnswer.From(
                BreakAndMacroJudge.FilletBreak(
                    library.Profiles[request.Profile!],
                    [
                        .. request.Specimens!.Select(one => new FilletBreakSpecimen(
                            one.BentFlat,
                            one.FusionToRoot,
                            one.Crack,
                            one.InclusionsMm ?? [],
                            one.LengthMm,
                            one.Product == Product.Pipe,
                            one.ThroatMm,
                            one.PorePercent
                        )),
                    ]
                )
            )
        );

    private static Ok<TestVerdictAnswer> Macro(MacroRequest request, SchoolLibrary library) =>
        TypedResults.Ok(
            TestVerdictAnswer.From(
                BreakAndMacroJudge.Macro(
                    library.Profiles[request.Profile!],
                    [
                        .. request.Specimens!.Select(one => new MacroSpecimen(
                            one.Fillet!.Value,
                            one.Crack,
                            one.FusionComplete,
                            one.RootIndicationMm,
                            one.LegAskedMm,
                            one.LegAMm,
                            one.LegBMm,
                            one.FaceWidthMm,
                            one.ConvexityMm,
                            one.ConcavityMm,
                            one.UndercutMm,
                            one.ThroatMm,
                            one.ThicknessMm
                        )),
                    ],
                    all: true
                )
            )
        );
}
