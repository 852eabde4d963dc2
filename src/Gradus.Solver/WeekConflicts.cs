using System.Globalization;
using Gradus.Core.Planning;

namespace Gradus.Solver;

/// <summary>Which needs of a week clash, in words.</summary>
internal static class WeekConflicts
{
    /// <summary>What the plan could not meet and why; empty when it meets everything.</summary>
    public static IReadOnlyList<string> Of(WeekProblem week, IReadOnlyList<WeekCell> cells)
    {
        var conflicts = new List<string>();
        var given = cells.Select(cell => (cell.Student, cell.Period, cell.Item)).ToHashSet();
        conflicts.AddRange(
            week.Pins.Where(pin => !given.Contains((pin.Student, pin.Period, pin.Item)))
                .Select(pin => $"{pin.Student} in period {pin.Period}: {PinWhy(week, pin)}")
        );
        var counts = cells.GroupBy(cell => cell.Student).ToDictionary(group => group.Key, group => group.Count());
        var shared = new List<(string Student, int Short)>();
        foreach (var student in week.Students)
        {
            var lacking = student.MinPeriods - counts.GetValueOrDefault(student.Id);
            if (lacking <= 0)
            {
                continue;
            }

            var comes = student.Available.Count;
            var usable = student.Available.Count(period =>
                student.Items.Any(item => !item.IsSitting && week.Booths.Any(booth => WeekProblem.Fits(booth, item, period)))
            );
            if (comes < student.MinPeriods)
            {
                conflicts.Add($"{student.Id} needs {student.MinPeriods} periods and comes in {comes}.");
            }
            else if (student.Items.Count == 0)
            {
                conflicts.Add($"{student.Id} needs {student.MinPeriods} periods and has nothing to practise.");
            }
            else if (usable < student.MinPeriods)
            {
                conflicts.Add(
                    $"{student.Id} needs {student.MinPeriods} periods; in {usable} of them an open booth takes {string.Join(" or ", student.Items.Select(Asks).Distinct())}."
                );
            }
            else
            {
                shared.Add((student.Id, lacking));
            }
        }

        if (shared.Count > 0)
        {
            conflicts.Add(Shared(week, cells, shared));
        }

        if (week.Booths.Count == 0 && week.Students.Count > 0)
        {
            conflicts.Insert(0, "There are no booths, so nobody can be given a place.");
        }

        return conflicts;
    }

    /// <summary>Students who would fit one by one and do not fit together: what is full.</summary>
    private static string Shared(WeekProblem week, IReadOnlyList<WeekCell> cells, List<(string Student, int Short)> shared)
    {
        var names = shared.ConvertAll(one => one.Student).ToHashSet();
        var students = week.Students.Where(student => names.Contains(student.Id)).ToList();
        var items = week
            .Students.SelectMany(student => student.Items.Select(item => (student.Id, item)))
            .ToDictionary(one => (one.Id, one.item.Id), one => one.item);
        var free = students
            .SelectMany(student => student.Available.Where(period => !cells.Any(cell => cell.Student == student.Id && cell.Period == period)))
            .Distinct()
            .ToList();
        var full = new List<string>();
        var noBooth = free.Where(period => week.Booths.Count(booth => !booth.Closed.Contains(period)) <= cells.Count(cell => cell.Period == period))
            .Count();
        var least = students
            .SelectMany(student => student.Items)
            .Where(item => !item.IsSitting)
            .Select(item => item.HoldPoints)
            .DefaultIfEmpty(0)
            .Min();
        var noHold = free.Where(period =>
                cells.Where(cell => cell.Period == period).Sum(cell => items[(cell.Student, cell.Item)].HoldPoints) + least > week.HoldPoints[period]
            )
            .Count();
        if (noBooth > 0)
        {
            full.Add($"every open booth is taken in {noBooth} of the {free.Count} periods they could come in");
        }

        if (noHold > 0)
        {
            full.Add($"the hold points are used up in {noHold}");
        }

        foreach (var (stock, there) in week.Stock)
        {
            var used = cells.Sum(cell => items[(cell.Student, cell.Item)].Draws.GetValueOrDefault(stock));
            var needs = students
                .SelectMany(student => student.Items)
                .Select(item => item.Draws.GetValueOrDefault(stock))
                .Where(amount => amount > 0)
                .ToList();
            if (needs.Count > 0 && used + needs.Min() > there)
            {
                full.Add(string.Create(CultureInfo.InvariantCulture, $"{stock} runs out ({there:0.##} there)"));
            }
        }

        if (full.Count == 0)
        {
            full.Add($"booths for {string.Join(" and ", students.SelectMany(student => student.Items).Select(Asks).Distinct())} are taken by others");
        }

        return $"{string.Join(", ", shared.Select(one => $"{one.Student} ({one.Short} short)"))}: {string.Join("; ", full)}.";
    }

    private static string PinWhy(WeekProblem week, WeekCell pin)
    {
        var student = week.Students.FirstOrDefault(one => one.Id == pin.Student);
        var item = student?.Items.FirstOrDefault(one => one.Id == pin.Item);
        return item is null ? $"pinned to {pin.Item}, which is not among what can be given."
            : !student!.Available.Contains(pin.Period) ? $"pinned to {pin.Item}, and the student does not come then."
            : week.Pins.Any(other => other != pin && other.Student == pin.Student && other.Period == pin.Period) ? "pinned to two things at once."
            : pin.Booth is { } booth && week.Pins.Any(other => other != pin && other.Booth == booth && other.Period == pin.Period)
                ? $"two students are pinned to booth {booth}."
            : !week.Booths.Any(one => (pin.Booth is null || one.Id == pin.Booth) && WeekProblem.Fits(one, item, pin.Period))
                ? $"pinned to {pin.Item}, and {(pin.Booth is null ? "no open booth takes" : $"booth {pin.Booth} does not take")} {Asks(item)} then."
            : $"pinned to {pin.Item}; booths, hold points or stock do not reach for all that is pinned.";
    }

    private static string Asks(WeekItem item) =>
        item.Needs == BoothTraits.None ? item.Process : $"{item.Process} with {item.Needs.ToString().ToLowerInvariant()}";
}
