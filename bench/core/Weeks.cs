using Gradus.Core.Planning;
using Gradus.Solver;

namespace Gradus.Benchmarks;

/// <summary>Solves the weeks of generated schools, beside a plan by hand and beside everyone going on with the same coupon.</summary>
internal static class Weeks
{
    private const int Schools = 6;
    private const int FairSchools = 3;
    private const int Students = 60;
    private const int Booths = 20;
    private const int Periods = 15;
    private const double Seconds = 10;
    private const double GoodAfter = 2;
    private static readonly string[] Processes = ["SMAW", "GTAW", "FCAW-G", "GMAW"];

    public static void Run()
    {
        Console.WriteLine(
            "| school | by hand | repeats | solved | bound | gap | after 2 s | s | status | booth changeovers | errors | students with 1, 2 ... periods |"
        );
        Console.WriteLine("|---|---|---|---|---|---|---|---|---|---|---|---|---|");
        foreach (
            var (seed, fair) in Enumerable
                .Range(1, Schools)
                .Select(seed => (seed, false))
                .Concat(Enumerable.Range(1, FairSchools).Select(seed => (seed, true)))
        )
        {
            var week = fair ? Filled(seed) : Make(seed);
            var steps = new Steps();
            var answer = WeekSolver.Solve(week, Seconds, steps);
            var hand = week.Worth(HandRules.Greedy(week));
            var repeats = week.Worth(HandRules.EveryoneRepeats(week));
            var early = steps.Seen.Where(one => one.Seconds <= GoodAfter).Select(one => one.Best).DefaultIfEmpty(0).Max();
            Console.WriteLine(
                $"| {seed}{(fair ? ", fair, filled" : "")} | {hand:0.000} | {repeats:0.000} | {answer.Objective:0.000} | {answer.Bound:0.000} | {(answer.Bound - answer.Objective) / answer.Bound:0.00 %} | {(answer.Bound - early) / answer.Bound:0.00 %} off | {answer.Seconds:0.0} | {answer.Status} | {Changeovers(week, answer.Cells)} | {WeekCheck.Errors(week, answer.Cells, answer.Status != WeekStatus.Infeasible).Count} | {string.Join(' ', week.Shares(answer.Cells))} | {week.AskedMet(answer.Cells)} |"
            );
        }
    }

    private static int Changeovers(WeekProblem week, IReadOnlyList<WeekCell> cells)
    {
        var processes = week
            .Students.SelectMany(student => student.Items.Select(item => (student.Id, item)))
            .ToDictionary(one => (one.Id, one.item.Id), one => one.item.Process);
        return cells
            .GroupBy(cell => cell.Booth)
            .Sum(group =>
            {
                var run = group.OrderBy(cell => cell.Period).Select(cell => processes[(cell.Student, cell.Item)]).ToList();
                return run.Zip(run.Skip(1)).Count(pair => pair.First != pair.Second);
            });
    }

    /// <summary>A school of its own for each seed: tight booths, a few of them for pipe and purge, and students who come two days in three.</summary>
    public static WeekProblem Make(int seed)
    {
        var random = new Random(seed);
        var booths = Enumerable
            .Range(0, Booths)
            .Select(index =>
            {
                string[] runs = index switch
                {
                    < 9 => ["SMAW"],
                    < 13 => ["SMAW", "GTAW"],
                    < 17 => ["FCAW-G", "GMAW"],
                    _ => [.. Processes],
                };
                var has =
                    (index % 2 == 0 ? BoothTraits.Pipe : BoothTraits.None)
                    | (index is 10 or 11 or 12 or 18 ? BoothTraits.Purge | BoothTraits.Pipe | BoothTraits.Extraction : BoothTraits.None);
                return new WeekBooth($"b{index + 1}", runs, has, random.NextDouble() < 0.05 ? [random.Next(Periods)] : []);
            })
            .ToList();
        var students = Enumerable
            .Range(0, Students)
            .Select(index =>
            {
                var daytime = random.NextDouble() < 0.6;
                var comes = Enumerable.Range(0, Periods).Where(period => (period % 3 < 2) == daytime && random.NextDouble() < 0.85).ToList();
                var main = Processes[Math.Min(3, random.Next(6))];
                var pipe = random.NextDouble() < 0.4;
                var items = Enumerable.Range(0, 3 + random.Next(5)).Select(number => Item(random, number, main, pipe)).ToList();
                return new WeekStudent($"s{index + 1}", comes, Math.Min(comes.Count, random.Next(3)), Math.Min(5, comes.Count), items);
            })
            .ToList();
        return new WeekProblem(
            Periods,
            WeekProblem.Holds(Periods, 14 + random.Next(10)),
            booths,
            students,
            new Dictionary<string, double> { ["pipe"] = 60 },
            [],
            [],
            0
        );
    }

    private static WeekItem Item(Random random, int number, string main, bool pipe)
    {
        var process = random.NextDouble() < 0.8 ? main : Processes[random.Next(4)];
        var isPipe = pipe && random.NextDouble() < 0.7;
        var first = number == 0 ? 0.06 + (0.06 * random.NextDouble()) : 0.02 + (0.1 * random.NextDouble());
        var falls = 0.5 + (0.4 * random.NextDouble());
        return new WeekItem(
            $"i{number}",
            process,
            (isPipe ? BoothTraits.Pipe : BoothTraits.None)
                | (isPipe && process == "GTAW" && random.NextDouble() < 0.5 ? BoothTraits.Purge : BoothTraits.None),
            random.Next(3),
            [.. Enumerable.Range(0, 4).Select(time => first * Math.Pow(falls, time))],
            isPipe ? new Dictionary<string, double> { ["pipe"] = 1 } : new Dictionary<string, double>()
        );
    }

    /// <summary>The same school as it plans for real: periods shared out first, each filled with a coupon and a drill beside it, some of it asked for, blanks on the rack.</summary>
    public static WeekProblem Filled(int seed)
    {
        var week = Make(seed);
        var random = new Random(100 + seed);
        return week with
        {
            Fair = true,
            Stock = new Dictionary<string, double>(week.Stock) { ["blank"] = 20 },
            Students =
            [
                .. week.Students.Select(student =>
                    student with
                    {
                        Items =
                        [
                            .. student.Items.Take(3).SelectMany((item, index) => WeekProblem.Together(item.Id, [.. Bundles(random, item, index)])),
                        ],
                    }
                ),
            ],
        };
    }

    private static IEnumerable<WeekItem> Bundles(Random random, WeekItem item, int index)
    {
        yield return item with
        {
            Asked = index == 0 ? random.Next(4) : 0,
        };
        var more = 1.1 + (0.4 * random.NextDouble());
        yield return item with
        {
            Id = $"{item.Id}+",
            HoldPoints = item.HoldPoints + 1,
            Gains = [.. item.Gains.Select(gain => gain * more)],
            Draws = new Dictionary<string, double>(item.Draws) { ["blank"] = 2 },
            Asked = index == 0 ? 1 : 0,
        };
    }

    private sealed class Steps : IProgress<WeekProgress>
    {
        public List<WeekProgress> Seen { get; } = [];

        public void Report(WeekProgress value) => Seen.Add(value);
    }
}
