namespace Gradus.Core.Planning;

/// <summary>Checks a finished plan against the week, cell by cell. It knows nothing of how the plan was found.</summary>
public static class WeekCheck
{
    private const double Slack = 1e-6;

    /// <summary>Everything that is wrong with a plan, in words; nothing when it holds.</summary>
    /// <param name="needsMet">Whether every student's least number of periods must be met; not so for the best part of an impossible week.</param>
    public static IReadOnlyList<string> Errors(WeekProblem week, IReadOnlyList<WeekCell> cells, bool needsMet = true)
    {
        var errors = new List<string>();
        var students = week.Students.ToDictionary(student => student.Id, StringComparer.Ordinal);
        var booths = week.Booths.ToDictionary(booth => booth.Id, StringComparer.Ordinal);
        var taken = new HashSet<(string, int)>();
        var seated = new HashSet<(string, int)>();
        var holds = new int[week.Periods];
        var used = new Dictionary<string, double>(StringComparer.Ordinal);
        foreach (var cell in cells)
        {
            var where = $"{cell.Student} in period {cell.Period}";
            if (!students.TryGetValue(cell.Student, out var student))
            {
                errors.Add($"{where}: there is no such student.");
                continue;
            }

            if (student.Items.FirstOrDefault(one => one.Id == cell.Item) is not { } item)
            {
                errors.Add($"{where}: {cell.Item} is not one of the student's items.");
                continue;
            }

            if (cell.Period < 0 || cell.Period >= week.Periods || !student.Available.Contains(cell.Period))
            {
                errors.Add($"{where}: the student does not come then.");
                continue;
            }

            if (cell.Period < week.FirstOpen)
            {
                errors.Add($"{where}: that period is over.");
            }

            if (!seated.Add((cell.Student, cell.Period)))
            {
                errors.Add($"{where}: two things at once.");
            }

            if (cell.Booth is null || !booths.TryGetValue(cell.Booth, out var booth))
            {
                errors.Add($"{where}: no booth.");
            }
            else
            {
                if (!taken.Add((cell.Booth, cell.Period)))
                {
                    errors.Add($"Booth {cell.Booth} in period {cell.Period}: two students.");
                }

                if (booth.Closed.Contains(cell.Period))
                {
                    errors.Add($"Booth {cell.Booth} in period {cell.Period}: it is closed.");
                }

                if (!booth.Processes.Contains(item.Process))
                {
                    errors.Add($"{where}: booth {cell.Booth} does not run {item.Process}.");
                }

                if ((item.Needs & ~booth.Has) != BoothTraits.None)
                {
                    errors.Add($"{where}: booth {cell.Booth} lacks {item.Needs & ~booth.Has}.");
                }
            }

            if (item.IsSitting && !week.Pins.Any(pin => pin.Student == cell.Student && pin.Period == cell.Period && pin.Item == cell.Item))
            {
                errors.Add($"{where}: a sitting that was not booked there.");
            }

            holds[cell.Period] += item.HoldPoints;
            foreach (var (stock, amount) in item.Draws)
            {
                used[stock] = used.GetValueOrDefault(stock) + amount;
            }
        }

        errors.AddRange(
            Enumerable
                .Range(0, week.Periods)
                .Where(period => holds[period] > week.HoldPoints[period])
                .Select(period => $"Period {period}: {holds[period]} hold points, {week.HoldPoints[period]} can be answered.")
        );
        errors.AddRange(
            used.Where(one => week.Stock.TryGetValue(one.Key, out var there) && one.Value > there + Slack)
                .Select(one => $"Stock {one.Key}: {one.Value:0.###} taken, {week.Stock[one.Key]:0.###} there.")
        );
        errors.AddRange(
            cells
                .CountBy(cell => (cell.Student, cell.Item))
                .Where(one =>
                    students.GetValueOrDefault(one.Key.Student)?.Items.FirstOrDefault(item => item.Id == one.Key.Item)?.Most is { } most
                    && one.Value > most
                )
                .Select(one => $"{one.Key.Student}: {one.Key.Item} more often than it is wanted.")
        );
        foreach (var student in week.Students)
        {
            var count = cells.Count(cell => cell.Student == student.Id);
            if (count > student.MaxPeriods || (needsMet && count < student.MinPeriods))
            {
                errors.Add($"{student.Id}: {count} periods, {student.MinPeriods} to {student.MaxPeriods} are wanted.");
            }
        }

        if (needsMet)
        {
            errors.AddRange(
                week.Pins.Where(pin => !cells.Any(cell => cell.Student == pin.Student && cell.Period == pin.Period && cell.Item == pin.Item))
                    .Select(pin => $"{pin.Student} in period {pin.Period}: pinned to {pin.Item}, and not given it.")
            );
        }

        return errors;
    }
}
