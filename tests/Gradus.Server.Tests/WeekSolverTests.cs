using CsCheck;
using Gradus.Core.Planning;
using Gradus.Solver;

namespace Gradus.Server.Tests;

public class WeekSolverTests
{
    private static readonly Dictionary<string, double> Nothing = [];

    private static WeekItem Item(string id, string process, BoothTraits needs, int holds, params double[] gains) =>
        new(id, process, needs, holds, gains, Nothing);

    private static WeekStudent Student(string id, int[] comes, int least, params WeekItem[] items) => new(id, comes, least, comes.Length, items);

    private static WeekBooth Booth(string id, string process, BoothTraits has = BoothTraits.None) => new(id, [process], has, []);

    private static WeekProblem Week(int periods, int holds, WeekBooth[] booths, WeekStudent[] students) =>
        new(periods, WeekProblem.Holds(periods, holds), booths, students, Nothing, [], [], 0);

    private static readonly Gen<WeekProblem> Small = Gen.Select(
        Gen.Int[0, 3],
        Gen.Select(Gen.Int[0, 1], Gen.Int[0, 1]).Array[1, 2],
        Gen.Select(Gen.Int[0, 3], Gen.Select(Gen.Int[0, 1], Gen.Int[0, 1], Gen.Int[0, 2], Gen.Int[1, 9]).Array[1, 2]).Array[1, 3],
        (holds, booths, students) =>
            Week(
                2,
                holds,
                [.. booths.Select((one, index) => Booth($"b{index}", one.Item1 == 0 ? "SMAW" : "GTAW", (BoothTraits)one.Item2))],
                [
                    .. students.Select(
                        (one, index) =>
                            Student(
                                $"s{index}",
                                [.. Enumerable.Range(0, 2).Where(period => (one.Item1 >> period & 1) == 1)],
                                0,
                                [
                                    .. one.Item2.Select(
                                        (item, number) =>
                                            Item(
                                                $"i{number}",
                                                item.Item1 == 0 ? "SMAW" : "GTAW",
                                                (BoothTraits)item.Item2,
                                                item.Item3,
                                                item.Item4,
                                                item.Item4 / 2.0
                                            )
                                    ),
                                ]
                            )
                    ),
                ]
            )
    );

    /// <summary>Every plan there is, booths included.</summary>
    private static double Best(WeekProblem week)
    {
        var best = 0.0;
        Every(week, cells => best = Math.Max(best, week.Worth(cells)));
        return best;
    }

    private static void Every(WeekProblem week, Action<IReadOnlyList<WeekCell>> take)
    {
        var seats = week.Students.SelectMany(student => student.Available.Select(period => (student, period))).ToList();
        void Try(int at, List<WeekCell> cells)
        {
            if (at == seats.Count)
            {
                if (WeekCheck.Errors(week, cells).Count == 0)
                {
                    take(cells);
                }

                return;
            }

            Try(at + 1, cells);
            foreach (var (item, booth) in seats[at].student.Items.SelectMany(item => week.Booths.Select(booth => (item, booth))))
            {
                Try(at + 1, [.. cells, new WeekCell(seats[at].student.Id, seats[at].period, item.Id, booth.Id)]);
            }
        }

        Try(0, []);
    }

    /// <summary>
    /// A fair week gives everybody a period, then what is asked for, and shares out the rest, as well as any plan does; of the plans that do so none gains more.
    /// </summary>
    [Fact]
    public void No_plan_there_is_is_fairer_and_of_the_fairest_none_is_worth_more() =>
        Small.Sample(
            drawn =>
            {
                var week = drawn with
                {
                    Fair = true,
                    Students =
                    [
                        .. drawn.Students.Select(
                            (student, at) =>
                                student with
                                {
                                    Had = at % 2,
                                    Items =
                                    [
                                        .. WeekProblem
                                            .Together("t", student.Items)
                                            .Select((item, number) => item with { Asked = number, Most = number == 0 ? 1 : null }),
                                    ],
                                }
                        ),
                    ],
                };

                static int Compare(IReadOnlyList<int> one, IReadOnlyList<int> other) =>
                    one.Zip(other).Select(pair => pair.First.CompareTo(pair.Second)).FirstOrDefault(sign => sign != 0);
                IReadOnlyList<int> fairest = week.Order([]);
                var most = 0.0;
                Every(
                    week,
                    cells =>
                    {
                        var sign = Compare(week.Order(cells), fairest);
                        if (sign >= 0)
                        {
                            (fairest, most) = (week.Order(cells), sign > 0 ? week.Worth(cells) : Math.Max(most, week.Worth(cells)));
                        }
                    }
                );
                var answer = WeekSolver.Solve(week, 5);
                Assert.Empty(WeekCheck.Errors(week, answer.Cells));
                Assert.Equal(fairest, week.Order(answer.Cells));
                Assert.Equal(most, answer.Objective, 1e-6);
            },
            iter: 60
        );

    [Fact]
    public void A_period_that_is_over_is_neither_planned_nor_accepted()
    {
        var week = Week(2, 9, [Booth("a", "SMAW")], [Student("Ann", [1], 0, Item("i", "SMAW", BoothTraits.None, 1, 1, 0.5))]) with { FirstOpen = 1 };
        Assert.Equal(1, Assert.Single(WeekSolver.Solve(week, 5).Cells).Period);
        var late = week with { Students = [week.Students[0] with { Available = [0, 1] }] };
        Assert.Contains("period is over", Assert.Single(WeekCheck.Errors(late, [new WeekCell("Ann", 0, "i", "a")])));
    }

    [Fact]
    public void No_plan_there_is_beats_the_answer() =>
        Small.Sample(
            week =>
            {
                var answer = WeekSolver.Solve(week, 5);
                Assert.Empty(WeekCheck.Errors(week, answer.Cells));
                Assert.Equal(WeekStatus.Optimal, answer.Status);
                Assert.Equal(Best(week), answer.Objective, 1e-6);
                Assert.True(answer.Bound >= answer.Objective - 1e-9);
                Assert.True(week.Worth(HandRules.Greedy(week)) <= answer.Objective + 1e-9);
            },
            iter: 60
        );

    [Fact]
    public void The_check_finds_each_way_of_breaking_a_week()
    {
        var week = Week(
            2,
            1,
            [Booth("a", "SMAW"), Booth("b", "GTAW")],
            [Student("s", [0], 1, Item("i", "SMAW", BoothTraits.None, 1, 1)), Student("t", [0, 1], 0, Item("i", "SMAW", BoothTraits.Purge, 1, 1))]
        );
        string Wrong(params WeekCell[] cells) => string.Join(" ", WeekCheck.Errors(week, cells));
        var good = new WeekCell("s", 0, "i", "a");
        Assert.Equal("", Wrong(good));
        Assert.Contains("0 periods, 1 to 1", Wrong());
        Assert.Contains("no such student", Wrong(good with { Student = "x" }));
        Assert.Contains("not one of the student's items", Wrong(good with { Item = "x" }));
        Assert.Contains("does not come then", Wrong(good with { Period = 1 }));
        Assert.Contains("does not run SMAW", Wrong(good with { Booth = "b" }));
        Assert.Contains("no booth", Wrong(good with { Booth = null }));
        Assert.Contains("two students", Wrong(good, new WeekCell("t", 0, "i", "a")));
        Assert.Contains("2 hold points, 1 can be answered", Wrong(good, new WeekCell("t", 0, "i", "a")));
        Assert.Contains("lacks Purge", Wrong(good, new WeekCell("t", 1, "i", "a")));
        Assert.Contains("two things at once", Wrong(good, good));
        Assert.Contains(
            "Stock rods",
            string.Join(
                " ",
                WeekCheck.Errors(
                    week with
                    {
                        Stock = new Dictionary<string, double> { ["rods"] = 1 },
                        Students =
                        [
                            week.Students[0] with
                            {
                                Items = [week.Students[0].Items[0] with { Draws = new Dictionary<string, double> { ["rods"] = 2 } }],
                            },
                        ],
                    },
                    [good]
                )
            )
        );
        Assert.Contains("it is closed", string.Join(" ", WeekCheck.Errors(week with { Booths = [week.Booths[0] with { Closed = [0] }] }, [good])));
        var once = week.Students[1] with { Items = [Item("i", "SMAW", BoothTraits.None, 0, 1) with { Most = 1 }] };
        Assert.Contains(
            "more often than it is wanted",
            string.Join(" ", WeekCheck.Errors(week with { Students = [once] }, [new("t", 0, "i", "a"), new("t", 1, "i", "a")]))
        );
        Assert.Contains("pinned to i", string.Join(" ", WeekCheck.Errors(week with { Pins = [good] }, [])));
    }

    [Fact]
    public void What_cannot_be_met_is_said_and_the_best_part_is_planned()
    {
        var smaw = Item("i", "SMAW", BoothTraits.None, 1, 1, 0.5);
        WeekStudent[] two = [Student("Ann", [0, 1], 2, smaw), Student("Bo", [0, 1], 2, smaw)];
        var crowded = WeekSolver.Solve(Week(2, 9, [Booth("a", "SMAW")], two), 5);
        Assert.Equal(WeekStatus.Infeasible, crowded.Status);
        Assert.Equal(2, crowded.Cells.Count);
        Assert.Contains("every open booth is taken", crowded.Conflicts.Single());
        var unseen = WeekSolver.Solve(Week(2, 0, [Booth("a", "SMAW"), Booth("b", "SMAW")], two), 5);
        Assert.Contains("the hold points are used up", unseen.Conflicts.Single());
        Assert.Contains("comes in 1", WeekSolver.Solve(Week(2, 9, [Booth("a", "SMAW")], [Student("Ann", [0], 2, smaw)]), 5).Conflicts.Single());
        Assert.Contains(
            "an open booth takes SMAW",
            WeekSolver.Solve(Week(2, 9, [Booth("a", "GTAW")], [Student("Ann", [0, 1], 1, smaw)]), 5).Conflicts.Single()
        );
        Assert.Contains("no booths", WeekSolver.Solve(Week(2, 9, [], two), 5).Conflicts[0]);
        Assert.Equal(WeekStatus.Optimal, WeekSolver.Solve(Week(2, 9, [Booth("a", "SMAW")], []), 5).Status);
        var twice = Week(2, 9, [Booth("a", "SMAW")], two) with { Pins = [new WeekCell("Ann", 0, "i", "a"), new WeekCell("Bo", 0, "i", "a")] };
        Assert.Contains("pinned to booth a", string.Join(" ", WeekSolver.Solve(twice, 5).Conflicts));
    }

    [Fact]
    public void Pins_and_sittings_stay_and_a_change_moves_as_little_as_may_be()
    {
        var items = new[] { Item("i", "SMAW", BoothTraits.None, 1, 3, 2, 1), Item("j", "SMAW", BoothTraits.None, 1, 2.9, 2, 1) };
        var students = Enumerable.Range(0, 6).Select(index => Student($"s{index}", [0, 1, 2, 3], 0, items)).ToArray();
        var booths = Enumerable.Range(0, 4).Select(index => Booth($"b{index}", "SMAW")).ToArray();
        var first = Week(4, 20, booths, students) with { Pins = [new WeekCell("s5", 2, "j", "b3")] };
        var planned = WeekSolver.Solve(first, 5);
        Assert.Contains(new WeekCell("s5", 2, "j", "b3"), planned.Cells);

        // s0 stays away in period 1: only that cell has to go.
        var away = first with
        {
            Students = [students[0] with { Available = [0, 2, 3] }, .. students[1..]],
            Before = planned.Cells,
            KeepWorth = 10,
        };
        var again = WeekSolver.Solve(away, 5);
        Assert.Empty(WeekCheck.Errors(away, again.Cells));
        Assert.All(planned.Cells.Where(cell => (cell.Student, cell.Period) != ("s0", 1)), cell => Assert.Contains(cell, again.Cells));
    }
}
