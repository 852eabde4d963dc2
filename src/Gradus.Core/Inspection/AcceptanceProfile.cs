using System.Text.Json;
using System.Text.Json.Serialization;

namespace Gradus.Core.Inspection;

/// <summary>The acceptance limits of one code or school.</summary>
/// <param name="Id">As in the contract: <c>aws-d1.1</c>.</param>
/// <param name="Version">Goes up with each change, so that a verdict can name the limits it was made with.</param>
/// <param name="Note">What the profile leaves to others, in words.</param>
/// <param name="LimitsEntered">False for a profile that a school has to fill from its own copy: it judges nothing until then.</param>
/// <param name="Bend">Limits on guided bends; null when the profile has none here.</param>
/// <param name="Radiograph">Limits on a radiograph; null when the profile has none here.</param>
/// <param name="NickBreak">Limits on nick-breaks; null when the profile has none here.</param>
/// <param name="FilletBreak">Limits on broken fillets; null when the profile has none here.</param>
/// <param name="BasedOn">The shipped profile that a school's copy began from; null for a shipped one.</param>
/// <param name="Macro">Limits on macro sections; null when the profile has none here.</param>
public sealed record AcceptanceProfile(
    string Id,
    int Version,
    string Name,
    string Note,
    bool LimitsEntered,
    IReadOnlyList<AcceptanceRule> Visual,
    BendLimits? Bend,
    RadiographLimits? Radiograph,
    NickBreakLimits? NickBreak,
    FilletBreakLimits? FilletBreak,
    MacroLimits? Macro,
    string? BasedOn = null
)
{
    /// <summary>The code whose position tables and ranges go with it.</summary>
    [JsonIgnore]
    public string Code => BasedOn ?? Id;
}

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

    /// <summary>Reads a school's copy from JSON and checks it.</summary>
    /// <exception cref="JsonException">The text does not have the shape of a profile.</exception>
    /// <exception cref="InvalidOperationException">It has the shape, but does not hold together; the message says why.</exception>
    public static AcceptanceProfile Parse(string json)
    {
        var profile = JsonSerializer.Deserialize<AcceptanceProfile>(json, CoreJson.Options) ?? throw new JsonException("Empty.");
        List<(bool Wrong, string Error)> checks =
        [
            (profile.Id.Length is 0 or > 30 || profile.Name.Length is 0 or > 80, "An id has 1 to 30 characters, a name 1 to 80."),
            (profile.BasedOn is null || !Shipped.ContainsKey(profile.BasedOn), "A school's copy names the shipped profile that it began from."),
            (Shipped.ContainsKey(profile.Id), "The shipped profiles stay as they are: give the copy an id of its own."),
            (profile.LimitsEntered && profile.Visual.Count == 0, "A profile with its limits entered has at least one visual limit."),
            (profile.Visual.Any(rule => rule.Kinds.Count == 0 || rule.Limit.Count == 0), "A limit names what it limits, and a value."),
            (
                profile
                    .Visual.SelectMany(rule => rule.Limit)
                    .Any(term => !IsLimit(term.Base) || !IsLimit(term.PerThickness) || !IsLimit(term.PerWidth)),
                "A limit is a number from 0 to 1000."
            ),
        ];
        var errors = checks.Where(check => check.Wrong).Select(check => check.Error).ToList();
        return errors.Count == 0 ? profile : throw new InvalidOperationException(string.Join(" ", errors));
    }

    private static bool IsLimit(double value) => value is >= 0 and <= 1000;
}
