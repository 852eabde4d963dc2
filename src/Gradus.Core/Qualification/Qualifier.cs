namespace Gradus.Core.Qualification;

/// <summary>What passed tests qualify together.</summary>
/// <param name="ThicknessMm">What every one of the tests covers; null when they have nothing in common.</param>
/// <param name="OutsideDiameterMm">As thickness.</param>
/// <param name="FNumbers">With backing where the tests say so; see <paramref name="FNumbersWithoutBacking"/>.</param>
/// <param name="FNumbersWithoutBacking">The F-numbers that hold without backing: those of the tests made without it.</param>
public sealed record Qualified(
    IReadOnlyList<string> PlateGroove,
    IReadOnlyList<string> PipeGroove,
    IReadOnlyList<string> Fillet,
    RangeMm? ThicknessMm,
    RangeMm? OutsideDiameterMm,
    bool WithBacking,
    bool WithoutBacking,
    IReadOnlyList<int> FNumbers,
    IReadOnlyList<int> FNumbersWithoutBacking,
    IReadOnlyList<Progression> Progressions,
    string Source,
    bool FromMemory
);

/// <summary>Works out what passed tests of one process qualify.</summary>
public static class Qualifier
{
    /// <summary>
    /// Positions add up, and some add up to more than their sum (2G with 5G is all). Thickness and diameter are those that every test
    /// covers, so that no position is claimed for a size that its own test does not reach. Backing and progression qualify themselves.
    /// </summary>
    /// <param name="tests">At least one; all of one process, in positions that the table has.</param>
    public static Qualified Combine(PositionTable table, IReadOnlyList<PassedTest> tests)
    {
        bool Tested(PositionRule rule, string position) =>
            tests.Any(test =>
                test.Product == rule.Product
                && test.Weld == rule.Weld
                && Positions.NameIn(table, test.Product, test.Position, test.Progression) == position
            );
        var rules = table.Rules.Where(rule => rule.Positions.All(position => Tested(rule, position))).ToList();
        return new Qualified(
            Positions.Sorted(rules.SelectMany(rule => rule.PlateGroove)),
            Positions.Sorted(rules.SelectMany(rule => rule.PipeGroove)),
            Positions.Sorted(rules.SelectMany(rule => rule.Fillet)),
            tests.Select(test => Ranges.Thickness(table.Code, test)).Aggregate<RangeMm, RangeMm?>(new RangeMm(0, null), (all, one) => all?.And(one)),
            tests.Select(test => Ranges.Diameter(table.Code, test)).Aggregate<RangeMm, RangeMm?>(new RangeMm(0, null), (all, one) => all?.And(one)),
            WithBacking: true,
            tests.Any(test => !test.Backing),
            [.. tests.SelectMany(test => Ranges.FNumbers(table.Code, test)).Distinct().Order()],
            [.. tests.Where(test => !test.Backing).Select(test => test.FNumber).Distinct().Order()],
            [
                .. tests
                    .Where(test => Positions.HasProgression(test.Position))
                    .Select(test => test.Progression)
                    .Where(one => one != Progression.None)
                    .Distinct()
                    .Order(),
            ],
            table.Source,
            table.FromMemory
        );
    }
}
