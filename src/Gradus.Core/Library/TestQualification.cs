using System.Collections.Immutable;
using Gradus.Core.Joints;
using Gradus.Core.Measure;
using Gradus.Core.Qualification;

namespace Gradus.Core.Library;

/// <summary>What a test of the library counts as for the codes.</summary>
public static class TestQualification
{
    /// <summary>
    /// The passed tests that a test counts as: one for each half and process, each on its own variables. Where a code goes by the deposit,
    /// the thickness is that of the layers which the process laid; what another part of the same test covers already is left out. Empty for a drill, and where the code takes no such test piece.
    /// </summary>
    /// <param name="code">A code that has a position table.</param>
    public static IReadOnlyList<PassedTest> PassesOf(TestTemplate test, string code)
    {
        if (test.Kind == TestKind.Drill || !Takes(test, code))
        {
            return [];
        }

        var byDeposit = Ranges.ByCode[code].ThicknessIs != "plate or wall";
        var backed = test.Joint.Backing.Kind == BackingKind.Strip;
        string?[] counted = [.. test.Halves.Where(half => Counts(test, code, half)).Select(half => half.Id)];
        string?[] halves = test.Halves.Count == 0 ? [null] : [.. test.Halves.Select(half => half.Id)];
        var parts =
            from position in PositionsIn(test, code)
            from half in halves
            let beads = test.Section(null, half).Beads
            let own = test.Passes.Where(pass => pass.Half is null || (pass.Half == half && counted.Contains(half))).ToList()
            from deposit in own.GroupBy(pass => (NameOf(pass), pass.Filler.FNumber, Run(position, pass)))
            let layers = beads.Where(bead => deposit.Contains(test.Passes[bead.Pass])).Select(bead => bead.Layer).Distinct().ToList()
            let wholeArea = beads.Sum(bead => bead.AreaMm2)
            let share = beads.Where(bead => layers.Contains(bead.Layer)).Sum(bead => bead.AreaMm2) / wholeArea
            let rooted = layers.Contains(1)
            select new PassedTest(
                test.Product,
                test.Weld,
                position,
                byDeposit && test.Weld == WeldKind.Groove ? DepositMm(test, share, rooted) : test.Joint.ThicknessMm,
                test.Joint.PipeSize()?.OutsideDiameter.Mm,
                // What is laid on another filler's root is laid against metal: it counts as backed.
                backed || !rooted,
                deposit.Key.Item1,
                deposit.Key.FNumber,
                deposit.Key.Item3,
                layers.Count,
                test.Joint.Joins
            );
        return
        [
            .. parts
                .GroupBy(part => (part.Position, part.Process, part.FNumber, part.Progression, part.Backing))
                .Select(same => same.MaxBy(part => (part.ThicknessMm, part.Layers))!),
        ];
    }

    /// <summary>
    /// The ways in which a test can be taken that differ in what they qualify: each with the options of its variants, the test with them applied, and what
    /// it counts as. Where the options change nothing that a code asks for, the test as it is first described stands for all.
    /// </summary>
    /// <inheritdoc cref="PassesOf" path="/param"/>
    public static IReadOnlyList<TestWay> WaysOf(TestTemplate test, string code)
    {
        if (test.Kind == TestKind.Drill)
        {
            return [];
        }

        // Only groups of which some option counts otherwise than another are gone through, up to a bound that no shipped test comes near.
        string Counted(TestTemplate way) => string.Join('|', PassesOf(way, code));
        var plain = Counted(test);
        var telling = test
            .Variants.Where(group =>
                group.Options.Any(option => Counted(test.With(new Dictionary<string, string> { [group.Id] = option.Id })) != plain)
            )
            .ToList();
        IEnumerable<ImmutableDictionary<string, string>> choices = [ImmutableDictionary<string, string>.Empty];
        foreach (var group in telling)
        {
            choices = choices.SelectMany(chosen => group.Options.Select(option => chosen.Add(group.Id, option.Id)));
        }

        return
        [
            .. choices
                .Take(MostWays)
                .Select(chosen => (Chosen: chosen, Test: test.With(chosen)))
                .Select(one => new TestWay(one.Chosen, one.Test, PassesOf(one.Test, code), Said(one.Chosen)))
                .Where(way => way.Passes.Count > 0)
                .DistinctBy(way => string.Join('|', way.Passes)),
        ];

        string? Said(ImmutableDictionary<string, string> chosen) =>
            chosen.Count == 0 ? null : string.Join(", ", telling.Select(group => group.Options.First(option => option.Id == chosen[group.Id]).Name));
    }

    private const int MostWays = 400;

    /// <summary>Whether a code takes a coupon of this product, joint, metal, kind of weld and position at all.</summary>
    public static bool Takes(TestTemplate test, string code) =>
        Ranges.ByCode.TryGetValue(code, out var rules)
        && rules.Metals.Contains(test.BaseMetal)
        && rules.Products.Contains(test.Product)
        && rules.Joints.Contains(test.Joint.Joins)
        && PositionsIn(test, code).Any();

    /// <summary>The positions of a test in which the code takes a test piece: ASME IX knows no 6GR.</summary>
    private static IEnumerable<string> PositionsIn(TestTemplate test, string code) =>
        Positions.Of(code) is { } table && table.PositionsOf(test.Product, test.Weld) is var taken
            ? test.Positions.Where(position => taken.Contains(Positions.NameIn(table, test.Product, position, test.Progression)))
            : [];

    /// <summary>
    /// Whether a half of a split coupon counts by itself: no code grants it by name, so it does only where it goes from bottom to top by one whole side
    /// and gives alone as many specimens as the code cuts from a whole coupon.
    /// </summary>
    private static bool Counts(TestTemplate test, string code, Half half) =>
        half.IsWholeSide
        && test.CutBy(code) is { } plan
        && test.Specimens.Count(one => one.Clock is { } clock && half.Holds(ClockPosition.Parse(clock).Minutes)) >= plan.Specimens.Count;

    /// <summary>The letters of a process as the contract has them.</summary>
    public static string Name(Process process) =>
        process switch
        {
            Process.Smaw => "SMAW",
            Process.Gtaw => "GTAW",
            Process.Gmaw => "GMAW",
            Process.FcawG => "FCAW-G",
            _ => "FCAW-S",
        };

    /// <summary>
    /// Whether a code takes film of this test in place of bends: never of a fillet, and not of what the code bends in any case, short-arc wire by most.
    /// </summary>
    public static bool TakesFilm(TestTemplate test, string code) =>
        test.Weld == WeldKind.Groove
        && CoveringRules.ByCode.TryGetValue(code, out var rules)
        && !test.Passes.Any(pass => rules.NoFilm.Contains(NameOf(pass)));

    /// <summary>The letters of a pass's process; the codes take short-arc transfer for a process of its own.</summary>
    public static string NameOf(PassPlan pass) =>
        pass is { Process: Process.Gmaw, Technique: BeadTechnique.ShortArc } ? ShortArc : Name(pass.Process);

    /// <summary>Solid wire with short-arc transfer.</summary>
    public const string ShortArc = "GMAW-S";

    private static Progression Run(string position, PassPlan pass) => Positions.HasProgression(position) ? pass.Progression : Progression.None;

    /// <summary>Depth of a part of the groove that holds a share of its area, from the root up or from the face down; without reinforcement.</summary>
    private static double DepositMm(TestTemplate test, double share, bool rooted)
    {
        var shape = JointShape.Of(test.Joint);
        return share >= 1 - 1e-9 ? shape.ThicknessMm
            : rooted ? shape.HeightOf(share * shape.AreaMm2)
            : shape.ThicknessMm - shape.HeightOf((1 - share) * shape.AreaMm2);
    }
}

/// <summary>A way in which a test can be taken.</summary>
/// <param name="Choices">The options that tell it from others; empty when nothing does.</param>
/// <param name="Name">Those options in words; null when nothing does.</param>
public sealed record TestWay(IReadOnlyDictionary<string, string> Choices, TestTemplate Test, IReadOnlyList<PassedTest> Passes, string? Name);
