using System.Globalization;
using Gradus.Core.Planning;
using Gradus.Data;

namespace Gradus.Server.Planning;

/// <summary>A solved week brought onto what is true when it is accepted.</summary>
internal static class WeekMerge
{
    /// <summary>The cells of some periods, with what is pinned in them by now in place of what is not.</summary>
    /// <param name="to">The first period that is left out.</param>
    public static IReadOnlyList<WeekCell> Onto(WeekProblem now, int from, int to, IEnumerable<WeekCell> planned)
    {
        var cells = planned.Where(cell => cell.Period >= from && cell.Period < to).ToList();
        foreach (var pin in now.Pins.Where(pin => pin.Period >= from && pin.Period < to && !cells.Exists(cell => IsSame(pin, cell))))
        {
            var booth = pin.Booth ?? cells.Find(cell => cell.Student == pin.Student && cell.Period == pin.Period)?.Booth;
            cells.RemoveAll(cell => cell.Period == pin.Period && (cell.Student == pin.Student || (booth is not null && cell.Booth == booth)));
            cells.Add(pin with { Booth = booth ?? Free(now, cells, pin) });
        }

        return cells;
    }

    private static bool IsSame(WeekCell pin, WeekCell cell) =>
        (pin.Student, pin.Period, pin.Item) == (cell.Student, cell.Period, cell.Item) && (pin.Booth is null || pin.Booth == cell.Booth);

    private static string? Free(WeekProblem now, List<WeekCell> cells, WeekCell pin) =>
        now.Students.FirstOrDefault(one => one.Id == pin.Student)?.Items.FirstOrDefault(one => one.Id == pin.Item) is { } item
            ? now
                .Booths.FirstOrDefault(booth =>
                    WeekProblem.Fits(booth, item, pin.Period) && !cells.Exists(cell => cell.Period == pin.Period && cell.Booth == booth.Id)
                )
                ?.Id
            : null;

    /// <summary>What is not as it was when the week was put together to be solved, in sentences.</summary>
    public static IReadOnlyList<string> Changed(WeekFacts then, WeekFacts now)
    {
        var changed = new List<string>();
        var closed = then.Booths.Where(booth => booth.ClosedAt is not null).Select(booth => booth.Id).ToHashSet();
        changed.AddRange(
            now.Booths.Where(booth => booth.ClosedAt is not null && !closed.Contains(booth.Id))
                .Select(booth => $"Booth {booth.Number} is out{(booth.ClosedWhy is { Length: > 0 } why ? $": {why.TrimEnd('.')}" : "")}.")
        );
        changed.AddRange(
            then.Booths.Where(booth => now.Booths.All(other => other.Id != booth.Id)).Select(booth => $"Booth {booth.Number} was taken out.")
        );
        changed.AddRange(
            now.Booths.Where(booth =>
                    then.Booths.FirstOrDefault(one => one.Id == booth.Id) is { } before
                    && (before.Has != booth.Has || !before.Processes.SequenceEqual(booth.Processes))
                )
                .Select(booth => $"Booth {booth.Number} is set up otherwise.")
        );
        string Name(Guid student) => now.Practice.TryGetValue(student, out var one) ? one.Student.Name : "Somebody";
        string When(DateOnly day, int? period) =>
            string.Create(
                CultureInfo.InvariantCulture,
                $"{day:ddd d MMM}{(period is { } at ? $" {now.Setup.Week.PeriodNames[at].ToLowerInvariant()}" : "")}"
            );
        var away = then.Absences.Select(absence => absence.Id).ToHashSet();
        changed.AddRange(
            now.Absences.Where(absence => !away.Contains(absence.Id))
                .Select(absence => $"{Name(absence.StudentId)} is put down as absent on {When(absence.Day, absence.Period)}.")
        );
        var sat = then.Sittings.Select(sitting => (sitting.Id, sitting.Day, sitting.Period)).ToHashSet();
        changed.AddRange(
            now.Sittings.Where(sitting => !sat.Contains((sitting.Id, sitting.Day, sitting.Period)))
                .Select(sitting => $"{Name(sitting.StudentId)} sits {sitting.TestId} on {When(sitting.Day, sitting.Period)}.")
        );
        changed.AddRange(then.Practice.Values.Where(one => !now.Practice.ContainsKey(one.Student.Id)).Select(one => $"{one.Student.Name} has left."));
        if (now.Week.FirstOpen > then.Week.FirstOpen)
        {
            changed.Add("A period is over.");
        }

        return changed;
    }
}
