using System.Text.Json;
using FluentValidation;
using Gradus.Core.Inspection;
using Gradus.Core.Library;
using Gradus.Core.Qualification;
using Gradus.Core.Welding;
using Gradus.Server.Hosting;

namespace Gradus.Server.Library;

/// <summary>A test to choose from.</summary>
/// <param name="JudgeableBy">The profiles that a coupon of it can be judged by, its own first.</param>
public sealed record TestRow(
    string Id,
    int Version,
    string Title,
    TestKind Kind,
    string Code,
    Product Product,
    IReadOnlyList<string> Positions,
    IReadOnlyList<Process> Processes,
    BaseMetal BaseMetal,
    IReadOnlyList<VariantGroup> Variants,
    IReadOnlyList<Drill> Drills,
    IReadOnlyList<Stage> Stages,
    IReadOnlyList<string> JudgeableBy
);

/// <summary>A kind of discontinuity to choose from, with the measures that size it.</summary>
/// <param name="Usual">The stages in which it is among the commonest, common practice.</param>
/// <param name="Shapes">How it can lie, as far as a cause goes by it.</param>
/// <param name="Order">Its place among the kinds of each stage, from 0: the commonest of this school first.</param>
public sealed record FindingKind(
    DiscontinuityKind Kind,
    string Name,
    string? ShopName,
    IReadOnlyList<Stage> Stages,
    bool Hidden,
    IReadOnlyList<FindingMeasure> Measures,
    IReadOnlyList<Stage> Usual,
    IReadOnlyDictionary<Stage, int> Order,
    IReadOnlyList<FindingShape> Shapes
);

/// <summary>A test with what follows from it, the chosen variants applied.</summary>
/// <param name="Profile">The acceptance profile that judges it.</param>
/// <param name="Sections">The planned section; of a split coupon one for each half.</param>
/// <param name="Qualifies">What passing it qualifies, by code; each half and process of it by itself.</param>
/// <param name="Cautions">Its own cautions, with those that its work asks for.</param>
/// <param name="History">Its versions, newest first; empty for a preview.</param>
/// <param name="Offer">What ships in place of the school's own version; null when there is nothing else, and for an earlier version.</param>
/// <param name="Change">Of a preview of a test that the school has: what saving it would mean.</param>
/// <param name="Cuts">What each code cuts from its coupon; a code that takes no such coupon is left out.</param>
public sealed record TestView(
    TestTemplate Test,
    ProfileRow Profile,
    IReadOnlyList<SectionOfHalf> Sections,
    CouponBudget Budget,
    IReadOnlyList<QualifiedBy> Qualifies,
    IReadOnlyList<Caution> Cautions,
    IReadOnlyList<VersionRow> History,
    Offer? Offer,
    IReadOnlyList<CutBy> Cuts,
    TestChange? Change = null
);

/// <summary>What saving a test that is being changed would mean.</summary>
/// <param name="FromVersion">The version that the school has now.</param>
/// <param name="OpenCoupons">Coupons that were begun to an earlier version and are still open: they keep theirs.</param>
/// <param name="Differences">In what it changes; null when in nothing. Yours is what is being written.</param>
public sealed record TestChange(int FromVersion, int OpenCoupons, Offer? Differences);

/// <summary>What a code cuts from the coupon of a test, from memory.</summary>
/// <param name="Kinds">The specimens, kind by kind.</param>
/// <param name="Specimens">The same with their places.</param>
/// <param name="Instead">Kinds that may be cut in their place; null for none.</param>
/// <param name="Film">True when the code takes film in place of bends.</param>
/// <param name="Fits">False when the coupon is too short for that code.</param>
public sealed record CutBy(
    string Code,
    IReadOnlyList<string> Kinds,
    IReadOnlyList<Specimen> Specimens,
    IReadOnlyList<string>? Instead,
    bool Film,
    double? LeastLengthMm,
    bool Fits,
    string? Note,
    string Source,
    int Confidence
);

/// <summary>The planned section of a half; <c>half</c> null for a coupon that is one.</summary>
public sealed record SectionOfHalf(string? Half, JointSection Section);

/// <summary>What one part of a test qualifies in one code.</summary>
/// <param name="Clauses">Where the code says so, variable by variable; all from memory.</param>
public sealed record QualifiedBy(string Code, PassedTest Test, Qualified Qualified, IReadOnlyList<Clause> Clauses);

/// <summary>A version with who saved it, when and why; shipped ones came with the program.</summary>
public sealed record VersionRow(int Version, bool Shipped, DateTimeOffset? SavedAt, string? SavedBy, string? Why);

/// <summary>An acceptance profile to choose from. <c>shipped</c> ones stay as they are; a school changes a copy.</summary>
public sealed record ProfileRow(string Id, string Name, int Version, bool Shipped, string? BasedOn, bool LimitsEntered, string Note);

/// <summary>A profile with its limits and versions.</summary>
/// <param name="Offer">What ships in place of a school's copy; null when there is nothing else.</param>
public sealed record ProfileView(AcceptanceProfile Profile, bool Shipped, IReadOnlyList<VersionRow> History, Offer? Offer);

/// <summary>A test to be saved. The file is that of the schema at <c>/api/schemas/test-template</c>; its version is given by the server.</summary>
/// <param name="BasedOnVersion">The version that was changed; left out for a new test.</param>
public sealed record SaveTest(JsonElement? Test, int? BasedOnVersion, string? Why);

/// <summary>A school's copy of a profile to be saved.</summary>
/// <inheritdoc cref="SaveTest" path="/param"/>
public sealed record SaveProfile(JsonElement? Profile, int? BasedOnVersion, string? Why);

/// <summary>A test to be looked at before it is saved, with chosen variants.</summary>
public sealed record PreviewTest(JsonElement? Test, Dictionary<string, string>? Variants);

public sealed class SaveTestValidator : AbstractValidator<SaveTest>
{
    public SaveTestValidator()
    {
        RuleFor(request => request.Test).Must(test => test is { ValueKind: JsonValueKind.Object }).WithMessage("Give the test as a JSON object.");
        RuleFor(request => request.Why).NeedsText(300, "the reason for the change");
    }
}

public sealed class SaveProfileValidator : AbstractValidator<SaveProfile>
{
    public SaveProfileValidator()
    {
        RuleFor(request => request.Profile)
            .Must(profile => profile is { ValueKind: JsonValueKind.Object })
            .WithMessage("Give the profile as a JSON object.");
        RuleFor(request => request.Why).NeedsText(300, "the reason for the change");
    }
}

public sealed class PreviewTestValidator : AbstractValidator<PreviewTest>
{
    public PreviewTestValidator() =>
        RuleFor(request => request.Test).Must(test => test is { ValueKind: JsonValueKind.Object }).WithMessage("Give the test as a JSON object.");
}
