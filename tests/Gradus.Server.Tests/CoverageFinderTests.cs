using CsCheck;
using Gradus.Core.Library;
using Gradus.Core.Qualification;
using Gradus.Solver;

namespace Gradus.Server.Tests;

public class CoverageFinderTests
{
    private static readonly PositionTable Table = Positions.Of("aws-d1.1")!;
    private static readonly string[] TestPositions = ["1G", "2G", "3G", "4G"];
    private static readonly string[] JobPositions = ["F", "H", "V", "OH"];

    private static JobWeld Weld(string position, double most, bool backing) =>
        new($"{position} {most} {backing}", Product.Plate, WeldKind.Groove, position, most, most, null, backing, "SMAW", 4, Progression.None);

    private static CandidateTest Test(int index, string position, double mm, bool backing, double cost) =>
        new($"T{index}", cost, [new PassedTest(Product.Plate, WeldKind.Groove, position, mm, null, backing, "SMAW", 4, Progression.Uphill, 4)]);

    /// <summary>Against every choice of tests there is: what is covered is all that can be, and nothing smaller or cheaper covers it.</summary>
    [Fact]
    public void No_choice_of_tests_beats_the_answer() =>
        Gen.Select(
                Gen.Select(
                    Gen.Int[0, 3].Select(index => TestPositions[index]),
                    Gen.Bool.Select(thick => thick ? 25.4 : 9.525),
                    Gen.Bool,
                    Gen.Int[1, 9]
                ).Array[1, 6],
                Gen.Select(Gen.Int[0, 3].Select(index => JobPositions[index]), Gen.Bool.Select(thick => thick ? 30.0 : 12.0), Gen.Bool).Array[1, 4]
            )
            .Sample(
                (tests, jobs) =>
                {
                    var candidates = tests.Select((one, index) => Test(index, one.Item1, one.Item2, one.Item3, one.Item4)).ToList();
                    var welds = jobs.Select(one => Weld(one.Item1, one.Item2, one.Item3)).ToList();
                    var covering = Coverage.Covering(Table, welds, candidates);
                    var fewest = CoverageFinder.Find(Table, welds, candidates, CoverageAim.Fewest);
                    var cheapest = CoverageFinder.Find(Table, welds, candidates, CoverageAim.Cheapest);
                    var choices = Enumerable
                        .Range(0, 1 << candidates.Count)
                        .Select(mask => Enumerable.Range(0, candidates.Count).Where(index => (mask >> index & 1) == 1).ToList())
                        .Where(chosen => covering.All(ones => ones.Count == 0 || ones.Any(chosen.Contains)))
                        .ToList();
                    return fewest.Proved
                        && fewest.Tests.Count == choices.Min(chosen => chosen.Count)
                        && Math.Abs(cheapest.Cost - choices.Min(chosen => chosen.Sum(index => candidates[index].Cost))) < 0.01
                        && fewest.Uncovered.Count == covering.Count(ones => ones.Count == 0)
                        && fewest.Covered.Count == covering.Count(ones => ones.Count > 0);
                },
                iter: 150
            );

    /// <summary>Over every way in which the tests of the library can be taken, against trying every choice of up to three.</summary>
    [Fact]
    public void Over_the_ways_of_the_library_no_choice_beats_the_answer()
    {
        var candidates = TestLibrary
            .Shipped.Values.SelectMany(test =>
                TestQualification.WaysOf(test, "aws-d1.1").Select(way => new CandidateTest(test.Id, 1, way.Passes, way.Choices, way.Name))
            )
            .ToList();
        Assert.Contains(candidates, one => one.Id == "F1" && one.Choices!["position"] == "4F" && one.Choices["process"] == "gmaw");
        JobWeld Fillet(string position, string process) =>
            new(
                position + process,
                Product.Plate,
                WeldKind.Fillet,
                position,
                6,
                12,
                null,
                true,
                process,
                process == "SMAW" ? 4 : 6,
                Progression.Uphill
            );
        JobWeld[] welds = [Fillet("OH", "GMAW-S"), Fillet("H", "FCAW-G"), Weld("V", 12, true), Weld("OH", 12, true)];
        var answer = CoverageFinder.Find(Table, welds, candidates, CoverageAim.Fewest);
        Assert.True(answer.Proved);
        Assert.Empty(answer.Uncovered);
        var covering = Coverage.Covering(Table, welds, candidates);
        var useful = covering.SelectMany(ones => ones).Distinct().ToList();
        bool Covers(params int[] chosen) => covering.All(ones => ones.Any(chosen.Contains));
        Assert.True(Covers([.. answer.Chosen.Select(one => candidates.FindIndex(other => other.Id == one.Test && other.Way == one.Way))]));
        for (var fewer = 1; fewer < answer.Chosen.Count; fewer++)
        {
            Assert.DoesNotContain(Choose(useful, fewer), chosen => Covers(chosen));
        }

        static IEnumerable<int[]> Choose(List<int> from, int count) =>
            count == 0
                ?
                [
                    [],
                ]
                : from.SelectMany((one, index) => Choose(from[(index + 1)..], count - 1).Select(rest => (int[])[one, .. rest]));
    }

    [Fact]
    public void What_stays_uncovered_names_the_nearest_test_and_what_it_lacks()
    {
        var answer = CoverageFinder.Find(Table, [Weld("V", 30, true)], [Test(0, "3G", 9.525, true, 1)], CoverageAim.Fewest);
        Assert.Empty(answer.Tests);
        Assert.Equal("T0", answer.Uncovered.Single().Nearest);
        Assert.Equal("thickness", answer.Uncovered.Single().Missing.Single().Variable); // 3/8 in reaches 3/4 in only
    }
}
