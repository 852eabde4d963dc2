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
/// <param name="TackBreak">Limits on a tack that is broken; null when the profile has none here.</param>
/// <param name="Fillet">Limits on the size and shape of a fillet as it is looked at; null when the profile has none here.</param>
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
    string? BasedOn = null,
    FilletLimits? Fillet = null,
    [property: JsonIgnore(Condition = JsonIgnoreCondition.WhenWritingNull)] FilletBreakLimits? TackBreak = null
)
{
    /// <summary>The code whose position tables and ranges go with it.</summary>
    [JsonIgnore]
    public string Code => BasedOn ?? Id;
}

/// <summary>One limit: a measure of some kinds of discontinuity may not be over a value.</summary>
/// <param name="Kinds">The kinds that it limits.</param>
/// <param name="Measure">What is compared. <see cref="FindingMeasure.Count"/> with a limit of 0 means: none at all.</param>
/// <param name="Limit">The limit is the least of these terms; empty for a rule that has no limit, and for one that goes by <paramref name="Steps"/>.</param>
/// <param name="When">Narrows the rule to some joints; null when it always holds.</param>
/// <param name="Rule">The rule in words.</param>
/// <param name="Source">Where it is published.</param>
/// <param name="FromMemory">True when the value was written from memory and is to be checked against the edition in force.</param>
/// <param name="Says">What the rule comes to: a limit, or that there is none, or that something else decides.</param>
/// <param name="Confidence">How sure a value from memory is, in percent; null where that was never said.</param>
/// <param name="Together">The lengths are added up along the weld and not held to the limit one by one; null for the plain limit.</param>
/// <param name="Steps">The limit by the width of the weld, where it goes in steps.</param>
/// <param name="KeepsThickness">True when the weld must be as thick there as the metal: what is missing at the root has to stand at the face.</param>
public sealed record AcceptanceRule(
    IReadOnlyList<DiscontinuityKind> Kinds,
    FindingMeasure Measure,
    IReadOnlyList<LimitTerm> Limit,
    string Rule,
    string Source,
    bool FromMemory,
    RuleScope? When = null,
    RuleVerdict Says = RuleVerdict.Limit,
    int? Confidence = null,
    Extent? Together = null,
    IReadOnlyList<ConvexityStep>? Steps = null,
    bool KeepsThickness = false
)
{
    /// <summary>True when the limit is a number, so that there has to be one.</summary>
    [JsonIgnore]
    internal bool IsLimit => Says is RuleVerdict.Limit or RuleVerdict.Warn;
}

/// <summary>What a rule on a kind of discontinuity comes to.</summary>
public enum RuleVerdict
{
    /// <summary>Over the limit it rejects.</summary>
    Limit,

    /// <summary>Over the limit it is accepted with a warning: the code says "should".</summary>
    Warn,

    /// <summary>The code truly sets no limit by eye: accepted, and said so.</summary>
    NoLimit,

    /// <summary>Something else than this profile decides, and the rule names it: not to be judged here.</summary>
    Elsewhere,

    /// <summary>It lies inside, where no eye sees it: only a bend, a break, a section or a film decides.</summary>
    Inside,
}

/// <summary>How far findings may reach together along the weld. Lengths in mm.</summary>
/// <param name="WindowMm">They are added up within any such length; null for the whole weld.</param>
/// <param name="ShareOfWeld">What they may come to as a share of the weld, in place of the rule's limit.</param>
/// <param name="ShareIfShorter">The same, for a weld shorter than the window only.</param>
/// <param name="DeeperThan">Those deeper than the least of these count; null for all.</param>
public sealed record Extent(
    double? WindowMm = null,
    double? ShareOfWeld = null,
    double? ShareIfShorter = null,
    IReadOnlyList<LimitTerm>? DeeperThan = null
);

/// <summary>A limit in mm (or a count): <c>base + perThickness·T + perWidth·b</c>, with b the width of the weld.</summary>
public sealed record LimitTerm(double Base = 0, double PerThickness = 0, double PerWidth = 0);

/// <summary>The joints and places that a rule holds for. Null means any.</summary>
/// <param name="ThicknessOverMm">Only material thicker than this.</param>
/// <param name="ThicknessToMm">Only material up to this thickness, the value itself included.</param>
/// <param name="Weld">Only one kind of weld.</param>
/// <param name="Broken">Only a coupon that is broken open afterwards, or only one that is not.</param>
/// <param name="Inside">Only what was found in a layer that is covered since, or only what is open to the face or the root.</param>
/// <param name="Stage">Only what was found in one stage.</param>
public sealed record RuleScope(
    bool? OpenRoot = null,
    IReadOnlyList<Product>? Products = null,
    double? ThicknessOverMm = null,
    double? ThicknessToMm = null,
    WeldKind? Weld = null,
    bool? Broken = null,
    bool? Inside = null,
    Stage? Stage = null
)
{
    internal bool Holds(InspectedJoint joint, MeasuredFinding finding) =>
        (OpenRoot is null || OpenRoot == joint.OpenRoot)
        && (Weld is null || Weld == joint.Weld)
        && (Broken is null || Broken == joint.Broken)
        && (Inside is null || Inside == finding.IsCovered)
        && (Stage is null || Stage == finding.Stage)
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
            (
                profile.Visual.Any(rule => rule.Kinds.Count == 0 || (rule.IsLimit && rule.Limit.Count == 0 && rule.Steps is null or [])),
                "A limit names what it limits, and a value."
            ),
            (
                profile.Visual.Any(rule =>
                    rule.Measure > FindingMeasure.Count || (rule.Together is not null && rule.Measure != FindingMeasure.LengthMm)
                ),
                "A limit goes by what is measured of a finding; lengths alone are added up."
            ),
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
