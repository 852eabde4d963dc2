using Google.OrTools.Sat;
using Gradus.Core.Planning;

namespace Gradus.Solver;

/// <summary>The small second step: which booth each cell gets, period after period, with as few moves and changeovers as may be.</summary>
internal static class BoothChoice
{
    // In order of weight: the booth of the plan before, a student staying put, a booth going on with its process, plain booths for plain work.
    private const int Moved = 1000;
    private const int Elsewhere = 60;
    private const int Changeover = 100;
    private const int SpareTrait = 1;

    /// <summary>Gives every cell a booth. A cell that finds none, as only an impossible pin can bring about, is left out.</summary>
    public static IReadOnlyList<WeekCell> Place(WeekProblem week, IReadOnlyList<WeekCell> cells)
    {
        var items = week
            .Students.SelectMany(student => student.Items.Select(item => (student.Id, item)))
            .ToDictionary(one => (one.Id, one.item.Id), one => one.item);
        var before = week.Before.GroupBy(cell => (cell.Student, cell.Period)).ToDictionary(group => group.Key, group => group.First().Booth);
        var lastProcess = new Dictionary<string, string>(StringComparer.Ordinal);
        var lastBooth = new Dictionary<string, string>(StringComparer.Ordinal);
        var placed = new List<WeekCell>();
        foreach (var group in cells.GroupBy(cell => cell.Period).OrderBy(group => group.Key))
        {
            var own = group.OrderBy(cell => cell.Student, StringComparer.Ordinal).ToList();
            var pinned = week.Pins.Where(pin => pin.Period == group.Key && pin.Booth is not null).ToDictionary(pin => pin.Student, pin => pin.Booth!);
            var model = new CpModel();
            var taken = week.Booths.ToDictionary(booth => booth.Id, _ => new List<ILiteral>(), StringComparer.Ordinal);
            var costs = new List<(BoolVar Variable, int Cost, WeekCell Cell)>();
            foreach (var cell in own)
            {
                var item = items[(cell.Student, cell.Item)];
                var seats = new List<ILiteral>();
                foreach (var booth in week.Booths.Where(booth => WeekProblem.Fits(booth, item, cell.Period)))
                {
                    if (pinned.TryGetValue(cell.Student, out var must) && must != booth.Id)
                    {
                        continue;
                    }

                    var cost =
                        (before.TryGetValue((cell.Student, cell.Period), out var then) && then is not null && then != booth.Id ? Moved : 0)
                        + (lastBooth.TryGetValue(cell.Student, out var there) && there != booth.Id ? Elsewhere : 0)
                        + (lastProcess.TryGetValue(booth.Id, out var process) && process != item.Process ? Changeover : 0)
                        + (SpareTrait * (System.Numerics.BitOperations.PopCount((uint)(booth.Has & ~item.Needs)) + booth.Processes.Count));
                    var variable = model.NewBoolVar("");
                    seats.Add(variable);
                    taken[booth.Id].Add(variable);
                    costs.Add((variable, cost, cell with { Booth = booth.Id }));
                }

                var left = model.NewBoolVar("");
                costs.Add((left, Moved * Moved, cell with { Booth = null }));
                model.AddExactlyOne(seats.Append(left));
            }

            foreach (var seats in taken.Values.Where(seats => seats.Count > 1))
            {
                model.AddAtMostOne(seats);
            }

            model.Minimize(LinearExpr.WeightedSum(costs.Select(one => one.Variable), costs.Select(one => (long)one.Cost)));
            var solver = new CpSolver { StringParameters = "num_workers:1,random_seed:1,max_time_in_seconds:2" };
            if (solver.Solve(model) is not (CpSolverStatus.Optimal or CpSolverStatus.Feasible))
            {
                continue;
            }

            foreach (var (_, _, cell) in costs.Where(one => solver.BooleanValue(one.Variable) && one.Cell.Booth is not null))
            {
                placed.Add(cell);
                lastBooth[cell.Student] = cell.Booth!;
                lastProcess[cell.Booth!] = items[(cell.Student, cell.Item)].Process;
            }
        }

        return placed;
    }
}
