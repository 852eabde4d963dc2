using Gradus.Core.Welding;

namespace Gradus.Core.Inspection;

/// <summary>The acceptance limits of one code or school.</summary>
/// <param name="Id">As in the contract: <c>aws-d1.1</c>.</param>
/// <param name="Version">Goes up with each change, so that a verdict can name the limits it was made with.</param>
/// <param name="Note">What the profile leaves to others, in words.</param>
/// <param name="LimitsEntered">False for a profile that a school has to fill from its own copy: it judges nothing until then.</param>
/// <param name="Bend">Limits on guided bends; null when the profile has none here.</param>
/// <param name="Radiograph">Limits on a radiograph; null when the profile has none here.</param>
public sealed record AcceptanceProfile(
    string Id,
    int Version,
    string Name,
    string Note,
    bool LimitsEntered,
    IReadOnlyList<AcceptanceRule> Visual,
    BendLimits? Bend,
    RadiographLimits? Radiograph
);

/// <summary>One limit: a measure of some kinds of discontinuity may not be over a value.</summary>
/// <param name="Kinds">The kinds that it limits.</param>
/// <param name="Measure">What is compared. <see cref="FindingMeasure.Count"/> with a limit of 0 means: none at all.</param>
/// <param name="Limit">The limit is the least of these terms.</param>
/// <param name="When">Narrows the rule to some joints; null when it always holds.</param>
/// <param name="Rule">The rule in words.</param>
/// <param name="Source">Where it is published.</param>
/// <param name="FromMemory">True when the value was written from memory and is to be checked against the edition in force.</param>
public sealed record AcceptanceRule(
    IReadOnlyList<DiscontinuityKind> Kinds,
    FindingMeasure Measure,
    IReadOnlyList<LimitTerm> Limit,
    string Rule,
    string Source,
    bool FromMemory,
    RuleScope? When = null
);

/// <summary>A limit in mm (or a count): <c>base + perThickness·T + perWidth·b</c>, with b the width of the weld.</summary>
public sealed record LimitTerm(double Base = 0, double PerThickness = 0, double PerWidth = 0);

/// <summary>The joints that a rule holds for. Null means any.</summary>
/// <param name="ThicknessOverMm">Only material thicker than this.</param>
/// <param name="ThicknessToMm">Only material up to this thickness, the value itself included.</param>
public sealed record RuleScope(
    bool? OpenRoot = null,
    IReadOnlyList<Product>? Products = null,
    double? ThicknessOverMm = null,
    double? ThicknessToMm = null
)
{
    internal bool Holds(InspectedJoint joint) =>
        (OpenRoot is null || OpenRoot == joint.OpenRoot)
        && (Products is null || Products.Contains(joint.Product))
        && (ThicknessOverMm is null || joint.ThicknessMm > ThicknessOverMm)
        && (ThicknessToMm is null || joint.ThicknessMm <= ThicknessToMm);
}

/// <summary>The profiles that ship with the program.</summary>
public static class AcceptanceProfiles
{
    /// <summary>Every shipped profile, by id.</summary>
    public static IReadOnlyDictionary<string, AcceptanceProfile> Shipped { get; } =
        CoreJson
            .EmbeddedIn("Inspection/profiles/")
            .Select(CoreJson.ReadEmbedded<AcceptanceProfile>)
            .ToDictionary(profile => profile.Id, StringComparer.Ordinal);
}
