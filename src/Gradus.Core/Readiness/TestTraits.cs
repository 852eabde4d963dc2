using Gradus.Core.Library;

namespace Gradus.Core.Readiness;

/// <summary>What a test has in common with others: by this the practice on one counts on another.</summary>
/// <param name="Process">As the field writes it: SMAW, GTAW, GMAW, GMAW-S, FCAW-G, FCAW-S.</param>
/// <param name="Position">AWS (3G, 6GR) or ISO (PF, H-L045).</param>
/// <param name="OpenRoot">True when nothing solid backs the root.</param>
public sealed record TestTraits(string Process, Product Product, string Position, Progression Progression, bool OpenRoot)
{
    /// <summary>The traits of a test of the library: of the process it begins with, and of its first position.</summary>
    public static TestTraits Of(TestTemplate test) =>
        new(TestQualification.Name(test.Passes[0].Process), test.Product, test.Positions[0], test.Progression, test.OpenRoot);
}

/// <summary>What two tests have in common.</summary>
/// <param name="Words">In words: the process, the root, pipe or plate, where gravity leaves the puddle.</param>
/// <param name="Elements">The elements of the other test that speak to one of this: the same stage of the same process, or the same pull of gravity.</param>
public sealed record SharedSkill(IReadOnlyList<string> Words, IReadOnlyList<string> Elements);

/// <summary>A test as readiness sees it.</summary>
/// <param name="Id">Tells it from the other tests of a student.</param>
/// <param name="Traits">Null when nothing is known of it but its elements: then it has nothing in common with another test but the student.</param>
/// <param name="Elements">At least one, none twice.</param>
/// <param name="StageProcesses">By stage the process where it is not that of the traits: a root by one process, filled by another. Null for none.</param>
public sealed record SkillTest(
    string Id,
    TestTraits? Traits,
    IReadOnlyList<string> Elements,
    IReadOnlyDictionary<string, string>? StageProcesses = null
)
{
    /// <summary>A test of the library.</summary>
    public static SkillTest Of(TestTemplate test)
    {
        var traits = TestTraits.Of(test);
        var others = test
            .Passes.GroupBy(pass => CouponSeen.ElementOf(pass.Stage), pass => TestQualification.Name(pass.Process))
            .Where(stage => stage.First() != traits.Process)
            .ToDictionary(stage => stage.Key, stage => stage.First(), StringComparer.Ordinal);
        return new(test.Id, traits, TestElements.Of(test), others.Count == 0 ? null : others);
    }

    /// <summary>The process that a stage is welded with; null when nothing is known of the test but its elements.</summary>
    public string? ProcessOf(string stage) => StageProcesses?.GetValueOrDefault(stage) ?? Traits?.Process;

    /// <summary>All processes that it is welded with.</summary>
    internal IEnumerable<string> Processes() =>
        Elements.Select(name => ProcessOf(Element.Parse(name).Stage)).OfType<string>().Distinct(StringComparer.Ordinal);

    /// <summary>What another test has in common with this one, by which practice on it counts here.</summary>
    public SharedSkill SharedWith(SkillTest other) => SkillParts.Between(this, other);

    /// <summary>Whether what was cut open of another test tells of the inside of this one.</summary>
    public bool SharesInside(SkillTest other) => InsideBelief.KeyOf(this) == InsideBelief.KeyOf(other);

    /// <summary>The positions of which it is known how the joint lies: AWS A3.0 and ISO 6947.</summary>
    public static IReadOnlyList<string> Positions => SkillParts.Positions;
}
