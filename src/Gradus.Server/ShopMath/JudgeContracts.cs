using FluentValidation;
using Gradus.Core.Inspection;
using Gradus.Server.Hosting;
using Gradus.Server.Library;

namespace Gradus.Server.ShopMath;

/// <summary>Bent specimens and the profile to judge them by.</summary>
/// <param name="Process">Its letters; bends are held to the same limits whatever it was.</param>
public sealed record BendRequest(string? Profile, IReadOnlyList<BendSpecimenRequest>? Specimens, string? Process);

/// <summary>A specimen: <c>root</c>, <c>face</c> or <c>side</c>.</summary>
public sealed record BendSpecimenRequest(string? Kind, double? ThicknessMm, double? WallMm, IReadOnlyList<BendDiscontinuityRequest>? Discontinuities);

/// <summary>A discontinuity; one that is not said to be at a corner is held to the stricter limit of the face.</summary>
public sealed record BendDiscontinuityRequest(double? SizeMm, bool? Corner, bool? FromSlagOrFusion);

/// <summary>Indications on a radiograph and the profile to judge them by.</summary>
/// <param name="Process">Its letters; some codes take no film of some processes.</param>
/// <param name="WeldLengthMm">Length of weld on the film; of pipe the girth when it is left out.</param>
/// <param name="InsideChart">True once the rounded indications were compared with the charts of the code and lie inside, false when they do not.</param>
public sealed record RadiographRequest(
    string? Profile,
    double? ThicknessMm,
    IReadOnlyList<IndicationRequest>? Indications,
    string? Process,
    Product? Product,
    double? OutsideDiameterMm,
    double? WeldLengthMm,
    bool? InsideChart
);

/// <summary>An indication; the width of a cluster is that of its largest pore.</summary>
public sealed record IndicationRequest(IndicationKind? Kind, double? SizeMm, double? AtMm, double? WidthMm, bool? DenserThanBase);

/// <summary>How large what is judged can be.</summary>
internal static class JudgeBounds
{
    public const double MostWeldMm = 20_000;
    public const double MostPipeMm = 5000;
    private const int MostLetters = 12;

    /// <summary>The letters of a process, or left out.</summary>
    public static void MayBeProcess<T>(this IRuleBuilder<T, string?> rule) =>
        rule.Must(letters => letters is null or { Length: > 0 and <= MostLetters })
            .WithMessage("The letters of a process, as SMAW or GMAW-S, or left out.");
}

/// <summary>A verdict; <c>finding</c> is the index of the specimen or indication, -1 when the profile has no limits to judge by.</summary>
public sealed record TestVerdictAnswer(VerdictKind Verdict, IReadOnlyList<TestReason> Reasons, IReadOnlyList<TestReason> Passed)
{
    public static TestVerdictAnswer From(TestVerdict verdict) => new(verdict.Kind, verdict.Reasons, verdict.Passed);
}

internal static class ListRule
{
    /// <summary>Required list of at most so many, none of them null.</summary>
    public static IRuleBuilderOptions<T, IReadOnlyList<TItem>?> NeedsList<T, TItem>(
        this IRuleBuilder<T, IReadOnlyList<TItem>?> rule,
        int most,
        string what
    ) =>
        rule.Must(list => list is not null && list.Count <= most && list.All(item => item is not null))
            .WithMessage($"Give a list of at most {most} {what}; it may be empty.");
}

public sealed class BendRequestValidator : AbstractValidator<BendRequest>
{
    public BendRequestValidator(SchoolLibrary library)
    {
        RuleFor(request => request.Profile).NeedsOneOf(() => library.Profiles.Keys);
        RuleFor(request => request.Process).MayBeProcess();
        RuleFor(request => request.Specimens)
            .Must(list => list is { Count: >= 1 and <= 20 } && list.All(one => one is not null))
            .WithMessage("Give 1 to 20 specimens.");
        RuleForEach(request => request.Specimens)
            .ChildRules(specimen =>
            {
                specimen.RuleFor(one => one.Kind).Must(kind => kind is "root" or "face" or "side").WithMessage("Give one of: root, face, side.");
                specimen.RuleFor(one => one.ThicknessMm).MayBe(0.1, 200, "The thickness of the specimen in mm");
                specimen.RuleFor(one => one.WallMm).MayBe(0.1, 200, "The wall of the pipe in mm");
                specimen.RuleFor(one => one.Discontinuities).NeedsList(200, "discontinuities");
                specimen
                    .RuleForEach(one => one.Discontinuities)
                    .ChildRules(found =>
                    {
                        found.RuleFor(one => one.SizeMm).MayBe(0, 1000, "A size in mm");
                        found
                            .RuleFor(one => one.FromSlagOrFusion)
                            .Must((one, shows) => one.Corner != true || shows is not null)
                            .WithMessage("Say for a corner whether slag or fusion shows in it: true or false.");
                    });
            });
    }
}

public sealed class RadiographRequestValidator : AbstractValidator<RadiographRequest>
{
    public RadiographRequestValidator(SchoolLibrary library)
    {
        RuleFor(request => request.Profile).NeedsOneOf(() => library.Profiles.Keys);
        RuleFor(request => request.ThicknessMm).NeedsOver0(500, "the thickness in mm");
        RuleFor(request => request.Process).MayBeProcess();
        RuleFor(request => request.OutsideDiameterMm).MayBeOver0(JudgeBounds.MostPipeMm, "The outside diameter in mm");
        RuleFor(request => request.WeldLengthMm).MayBeOver0(JudgeBounds.MostWeldMm, "The length of the weld in mm");
        RuleFor(request => request.Indications).NeedsList(500, "indications");
        RuleForEach(request => request.Indications)
            .ChildRules(indication =>
            {
                indication.RuleFor(one => one.Kind).NeedsOneOf();
                indication.RuleFor(one => one.SizeMm).MayBe(0, 20_000, "A size in mm");
                indication.RuleFor(one => one.AtMm).MayBe(0, 20_000, "A place along the weld in mm");
                indication.RuleFor(one => one.WidthMm).MayBe(0, 1000, "A width in mm");
            });
    }
}
