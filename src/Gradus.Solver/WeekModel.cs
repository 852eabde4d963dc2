using Google.OrTools.LinearSolver;
using Gradus.Core.Planning;
using LinearSolver = Google.OrTools.LinearSolver.Solver;

namespace Gradus.Solver;

/// <summary>
/// The week in linear form. x[student, period, item] is yes or no; how many of each kind of work go into booths of each kind in a period is a
/// flow, whole by itself; z counts an item's times, and fills in their order because gains fall. A need that is not met costs a large penalty
/// instead of making the model impossible.
/// </summary>
internal sealed class WeekModel
{
    // Of the package's solvers the quickest on the generated schools of bench/: proved in 0.2 to 2 s.
    private const string ExactSolver = "SCIP";

    // What is asked for is worth more than any single gain.
    private const double AskedWeight = 2;
    private const double Whole = 1e-6;

    // Where what is asked for stands in the order of a fair week.
    private const int AskedAt = 1;
    private readonly WeekProblem week;
    private readonly double needPenalty;
    private readonly double pinPenalty;
    private readonly double askedWorth;
    private readonly List<Choice> choices = [];
    private readonly List<WeekCell> pins;
    private readonly Dictionary<(string, int), WeekCell> before;

    private sealed record Choice(WeekStudent Student, int Period, WeekItem Item, WeekCell? Pin);

    /// <param name="needWeight">What a period short of a need costs, in the largest gains.</param>
    public WeekModel(WeekProblem week, double needWeight, double pinWeight)
    {
        this.week = week;
        var largest = Math.Max(
            week.KeepWorth,
            week.Students.SelectMany(student => student.Items).Select(item => item.FirstGain).DefaultIfEmpty(0).Max()
        );
        largest = largest > 0 ? largest : 1;
        askedWorth = AskedWeight * largest;
        (needPenalty, pinPenalty) = (needWeight * largest, pinWeight * largest);
        before = week.Before.GroupBy(cell => (cell.Student, cell.Period)).ToDictionary(group => group.Key, group => group.First());
        pins = [.. Pins(week)];
        var pinned = pins.ToDictionary(pin => (pin.Student, pin.Period));
        foreach (var student in week.Students)
        {
            foreach (var period in student.Available)
            {
                var pin = pinned.GetValueOrDefault((student.Id, period));
                choices.AddRange(
                    student
                        .Items.Where(item => item.IsSitting ? pin?.Item == item.Id : week.Booths.Any(booth => WeekProblem.Fits(booth, item, period)))
                        .Where(item => pin is null || pin.Item == item.Id)
                        .Select(item => new Choice(student, period, item, pin))
                );
            }
        }
    }

    /// <summary>The pins that can be kept by themselves: the student comes, has the item, and the booth takes it.</summary>
    private static IEnumerable<WeekCell> Pins(WeekProblem week)
    {
        var booths = new HashSet<(string, int)>();
        var students = new HashSet<(string, int)>();
        foreach (var pin in week.Pins)
        {
            var student = week.Students.FirstOrDefault(one => one.Id == pin.Student);
            var item = student?.Items.FirstOrDefault(one => one.Id == pin.Item);
            var isPossible =
                item is not null
                && student!.Available.Contains(pin.Period)
                && week.Booths.Any(booth => (pin.Booth is null || booth.Id == pin.Booth) && WeekProblem.Fits(booth, item, pin.Period))
                && !students.Contains((pin.Student, pin.Period))
                && (pin.Booth is null || !booths.Contains((pin.Booth, pin.Period)));
            if (isPossible)
            {
                students.Add((pin.Student, pin.Period));
                if (pin.Booth is not null)
                {
                    booths.Add((pin.Booth, pin.Period));
                }

                yield return pin;
            }
        }
    }

    /// <summary>The worth of a plan as the model counts it: gains, what is asked for, what was kept, less the penalties.</summary>
    public double ValueOf(IReadOnlyList<WeekCell> cells) => week.Worth(cells) + Beside(cells);

    private double Beside(IReadOnlyList<WeekCell> cells) =>
        (week.Fair ? 0 : askedWorth * week.AskedMet(cells)) + (week.KeepWorth * Kept(cells)) - Penalty(cells);

    /// <summary>A bound of the model as a bound on gains alone, for plans that meet and keep as much as this one.</summary>
    public double GainsAlone(double bound, IReadOnlyList<WeekCell> cells) => Math.Max(week.Worth(cells), bound - Beside(cells));

    private int Kept(IEnumerable<WeekCell> cells) => cells.Count(IsKept);

    private bool IsKept(WeekCell cell) => before.TryGetValue((cell.Student, cell.Period), out var then) && then.Item == cell.Item;

    private double Penalty(IReadOnlyList<WeekCell> cells)
    {
        var counts = cells.GroupBy(cell => cell.Student).ToDictionary(group => group.Key, group => group.Count());
        return (needPenalty * week.Students.Sum(student => Math.Max(0, student.MinPeriods - counts.GetValueOrDefault(student.Id))))
            + (pinPenalty * (pins.Count - PinsKept(cells)));
    }

    private int PinsKept(IReadOnlyList<WeekCell> cells)
    {
        var given = cells.Select(cell => (cell.Student, cell.Period, cell.Item)).ToHashSet();
        return pins.Count(pin => given.Contains((pin.Student, pin.Period, pin.Item)));
    }

    /// <summary>The most that one number of <see cref="WeekProblem.Order"/> can be, where those before it are as given.</summary>
    /// <param name="best">A plan that has those before it.</param>
    /// <returns>The most there can be, and a plan that has it; not proved to be the most where time ran out.</returns>
    public (int Most, IReadOnlyList<WeekCell> Plan, bool Proved) Level(
        IReadOnlyList<int> before,
        IReadOnlyList<WeekCell> best,
        double seconds,
        CancellationToken cancel
    )
    {
        var level = before.Count;
        var reached = week.Order(best)[level];
        if (cancel.IsCancellationRequested)
        {
            return (reached, best, false);
        }

        double Value(IReadOnlyList<WeekCell> cells) => (PinShare * PinsKept(cells)) + week.Order(cells)[level];
        using (var relaxed = Create("GLOP"))
        {
            Build(relaxed, whole: false, _ => null, before, level);
            if (relaxed.Solve() == LinearSolver.ResultStatus.OPTIMAL && Math.Floor(relaxed.Objective().Value() + Whole) <= Value(best))
            {
                return (reached, best, true);
            }
        }

        using var solver = Create(ExactSolver);
        var variables = Build(solver, whole: true, _ => null, before, level);
        Hint(solver, variables, best);
        solver.SetTimeLimit((long)(seconds * 1000));
        using var stop = cancel.Register(() => solver.InterruptSolve());
        var status = solver.Solve();
        var cells = status is LinearSolver.ResultStatus.OPTIMAL or LinearSolver.ResultStatus.FEASIBLE ? Cells(variables) : null;
        var isProved = status == LinearSolver.ResultStatus.OPTIMAL;
        return cells is not null && Value(cells) > Value(best) && IsAtLeast(week.Order(cells), before)
            ? (week.Order(cells)[level], cells, isProved)
            : (reached, best, isProved);
    }

    private static bool IsAtLeast(IReadOnlyList<int> shares, IReadOnlyList<int> before) => !before.Where((least, at) => shares[at] < least).Any();

    // In a step that shares out, a pin that is kept counts more than everybody together.
    private double PinShare => week.Students.Sum(student => student.Had + student.MaxPeriods) + 1;

    private void Hint(LinearSolver solver, Variable[] variables, IReadOnlyList<WeekCell> start)
    {
        var given = start.Select(cell => (cell.Student, cell.Period, cell.Item)).ToHashSet();
        solver.SetHint([.. variables], [.. choices.Select(choice => given.Contains((choice.Student.Id, choice.Period, choice.Item.Id)) ? 1.0 : 0.0)]);
    }

    /// <summary>The bound of the linear relaxation and the share of each choice in it; null when it could not be solved.</summary>
    /// <param name="shares">The first numbers of <see cref="WeekProblem.Order"/>; kept.</param>
    public (double Bound, double[] Values)? Relaxed(IReadOnlyList<int> shares)
    {
        using var solver = Create("GLOP");
        var variables = Build(solver, whole: false, _ => null, shares);
        return solver.Solve() == LinearSolver.ResultStatus.OPTIMAL
            ? (solver.Objective().Value(), [.. variables.Select(variable => variable.SolutionValue())])
            : null;
    }

    /// <summary>A plan near the relaxation: what it is sure of is settled, and the rest is solved with what it uses at all.</summary>
    public IReadOnlyList<WeekCell>? Near(double[] relaxed, IReadOnlyList<int> shares, double seconds)
    {
        const double Sure = 0.999;
        const double Unused = 1e-7;
        using var solver = Create(ExactSolver);
        var variables = Build(
            solver,
            whole: true,
            index =>
                relaxed[index] >= Sure ? 1
                : relaxed[index] <= Unused && choices[index].Pin is null ? 0
                : null,
            shares
        );
        solver.SetTimeLimit((long)(seconds * 1000));
        return solver.Solve() is LinearSolver.ResultStatus.OPTIMAL or LinearSolver.ResultStatus.FEASIBLE ? Cells(variables) : null;
    }

    /// <summary>The whole model until it is proved or time is up.</summary>
    /// <param name="start">A plan to start from.</param>
    public (double Bound, IReadOnlyList<WeekCell>? Cells) Exact(
        IReadOnlyList<WeekCell> start,
        IReadOnlyList<int> shares,
        double seconds,
        CancellationToken cancel
    )
    {
        using var solver = Create(ExactSolver);
        var variables = Build(solver, whole: true, _ => null, shares);
        Hint(solver, variables, start);
        solver.SetTimeLimit((long)(seconds * 1000));
        using var stop = cancel.Register(() => solver.InterruptSolve());
        var isFound = solver.Solve() is LinearSolver.ResultStatus.OPTIMAL or LinearSolver.ResultStatus.FEASIBLE;
        return (isFound ? solver.Objective().BestBound() : double.PositiveInfinity, isFound ? Cells(variables) : null);
    }

    private static LinearSolver Create(string name) =>
        LinearSolver.CreateSolver(name) ?? throw new InvalidOperationException($"The solver {name} is missing.");

    private List<WeekCell> Cells(Variable[] variables) =>
        [
            .. choices
                .Zip(variables)
                .Where(one => one.Second.SolutionValue() > 0.5)
                .Select(one => new WeekCell(one.First.Student.Id, one.First.Period, one.First.Item.Id, one.First.Pin?.Booth)),
        ];

    /// <param name="shares">The first numbers of <see cref="WeekProblem.Order"/>; none may be less.</param>
    /// <param name="level">The one that is made as large as can be, in place of the worth; null for the worth.</param>
    private Variable[] Build(LinearSolver solver, bool whole, Func<int, int?> settled, IReadOnlyList<int> shares, int? level = null)
    {
        var objective = solver.Objective();
        objective.SetMaximization();
        double Counts(double worth) => level is null ? worth : 0;
        var steps = Enumerable
            .Range(0, week.Fair ? Math.Max(shares.Count, (level ?? -1) + 1) : 0)
            .Select(at => solver.MakeConstraint(at < shares.Count ? shares[at] : double.NegativeInfinity, double.PositiveInfinity))
            .ToList();
        var variables = new Variable[choices.Count];
        for (var index = 0; index < choices.Count; index++)
        {
            var value = settled(index);
            variables[index] = solver.MakeVar(value ?? 0, value ?? 1, whole, "");
            var choice = choices[index];
            var worth = IsKept(new WeekCell(choice.Student.Id, choice.Period, choice.Item.Id, null)) ? week.KeepWorth : 0;
            if (choice.Pin is not null)
            {
                // What a missed pin costs, counted as what a kept one brings.
                worth += pinPenalty;
            }

            objective.SetCoefficient(variables[index], level is not null && choice.Pin is not null ? PinShare : Counts(worth));
        }

        objective.SetOffset(Counts(-pinPenalty * pins.Count));
        var rows = choices.Select((choice, index) => (Choice: choice, Variable: variables[index])).ToList();
        foreach (var group in rows.GroupBy(row => (row.Choice.Student.Id, row.Choice.Period)))
        {
            Sum(solver, group, 0, 1);
        }

        foreach (var student in week.Students)
        {
            var own = rows.Where(row => row.Choice.Student == student).ToList();
            var limit = Sum(solver, own, Math.Min(student.MinPeriods, student.MaxPeriods), student.MaxPeriods);
            if (student.MinPeriods > 0)
            {
                var missed = solver.MakeNumVar(0, student.MinPeriods, "");
                limit.SetCoefficient(missed, 1);
                objective.SetCoefficient(missed, Counts(-needPenalty));
            }

            if (steps.Count > 0)
            {
                // So many periods are so many steps, and the first come first because no fewer may have them.
                var sum = Sum(solver, own, 0, 0);
                for (var at = 0; at < student.Had + student.MaxPeriods; at++)
                {
                    var step = at < student.Had ? null : solver.MakeNumVar(0, 1, "");
                    if (step is not null)
                    {
                        sum.SetCoefficient(step, -1);
                    }

                    Counted(at == 0 ? 0 : at + 1, step ?? solver.MakeNumVar(1, 1, ""));
                }
            }

            foreach (var times in own.GroupBy(row => row.Choice.Item))
            {
                if (times.Key.Most is { } most)
                {
                    Sum(solver, times, 0, most);
                }

                Falling(times, times.Key.Gains);
            }

            foreach (var together in own.Where(row => row.Choice.Item.Shared is not null).GroupBy(row => row.Choice.Item.Group))
            {
                Falling(together, together.First().Choice.Item.Shared!);
            }

            foreach (var asked in own.Where(row => row.Choice.Item.Asked > 0).GroupBy(row => row.Choice.Item.Group ?? row.Choice.Item.Id))
            {
                // Met so often = the smaller of how often it is given and how often it is asked for.
                var met = solver.MakeNumVar(0, asked.Max(row => row.Choice.Item.Asked), "");
                Sum(solver, asked, 0, double.PositiveInfinity).SetCoefficient(met, -1);
                if (!week.Fair)
                {
                    objective.SetCoefficient(met, askedWorth);
                }

                Counted(AskedAt, met);
            }
        }

        void Counted(int at, Variable variable)
        {
            if (at < steps.Count)
            {
                steps[at].SetCoefficient(variable, 1);
                if (at == level)
                {
                    objective.SetCoefficient(variable, 1);
                }
            }
        }

        void Falling(IEnumerable<(Choice Choice, Variable Variable)> given, IReadOnlyList<double> gains)
        {
            // Given so often = times that count + times beyond those that add anything.
            var count = Sum(solver, given, 0, 0);
            count.SetCoefficient(solver.MakeNumVar(0, week.Periods, ""), -1);
            foreach (var gain in gains.Where(gain => gain > 0))
            {
                var time = solver.MakeNumVar(0, 1, "");
                count.SetCoefficient(time, -1);
                objective.SetCoefficient(time, Counts(gain));
            }
        }

        foreach (var group in rows.GroupBy(row => row.Choice.Period))
        {
            var holds = solver.MakeConstraint(double.NegativeInfinity, week.HoldPoints[group.Key]);
            foreach (var (choice, variable) in group.Where(row => row.Choice.Item.HoldPoints > 0))
            {
                holds.SetCoefficient(variable, choice.Item.HoldPoints);
            }

            Booths(solver, group.Key, [.. group]);
        }

        foreach (var (stock, there) in week.Stock)
        {
            var limit = solver.MakeConstraint(double.NegativeInfinity, there);
            foreach (var (choice, variable) in rows.Where(row => row.Choice.Item.Draws.ContainsKey(stock)))
            {
                limit.SetCoefficient(variable, choice.Item.Draws[stock]);
            }
        }

        return variables;
    }

    /// <summary>Work of one kind flows into booths of one kind; no more than there are of them.</summary>
    private void Booths(LinearSolver solver, int period, List<(Choice Choice, Variable Variable)> rows)
    {
        var reserved = pins.Where(pin => pin.Period == period && pin.Booth is not null).Select(pin => pin.Booth!).ToHashSet();
        var kinds = week
            .Booths.Where(booth => !booth.Closed.Contains(period) && !reserved.Contains(booth.Id))
            .GroupBy(booth => (string.Join('|', booth.Processes.Order(StringComparer.Ordinal)), booth.Has))
            .Select(group => (Booth: group.First(), Limit: solver.MakeConstraint(double.NegativeInfinity, group.Count())))
            .ToList();
        foreach (var work in rows.Where(row => row.Choice.Pin?.Booth is null).GroupBy(row => (row.Choice.Item.Process, row.Choice.Item.Needs)))
        {
            var placed = Sum(solver, work, 0, 0);
            foreach (var (booth, limit) in kinds.Where(kind => WeekProblem.Fits(kind.Booth, work.First().Choice.Item, period)))
            {
                var flow = solver.MakeNumVar(0, double.PositiveInfinity, "");
                placed.SetCoefficient(flow, -1);
                limit.SetCoefficient(flow, 1);
            }
        }
    }

    private static Constraint Sum(LinearSolver solver, IEnumerable<(Choice Choice, Variable Variable)> rows, double least, double most)
    {
        var sum = solver.MakeConstraint(least, most);
        foreach (var (_, variable) in rows)
        {
            sum.SetCoefficient(variable, 1);
        }

        return sum;
    }
}
