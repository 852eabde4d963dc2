namespace Gradus.Core.Planning;

/// <summary>Plans as they are made by hand: what a solved week is measured against, and a first plan while it is solved.</summary>
public static class HandRules
{
    /// <summary>Period by period, students with the fewest periods so far first; each gets what would add most of what a free booth can take.</summary>
    public static IReadOnlyList<WeekCell> Greedy(WeekProblem week) => Fill(week, (student, _) => student.Items);

    /// <summary>The same, but everyone goes on with one and the same item: the first of their list.</summary>
    public static IReadOnlyList<WeekCell> EveryoneRepeats(WeekProblem week) =>
        Fill(week, (student, _) => [.. student.Items.Where(item => !item.IsSitting).Take(1)]);

    private static List<WeekCell> Fill(WeekProblem week, Func<WeekStudent, int, IReadOnlyList<WeekItem>> offered)
    {
        var cells = new List<WeekCell>();
        var given = new Dictionary<(string, string), int>();
        var counts = week.Students.ToDictionary(student => student.Id, _ => 0, StringComparer.Ordinal);
        var stock = week.Stock.ToDictionary(StringComparer.Ordinal);
        for (var period = week.FirstOpen; period < week.Periods; period++)
        {
            var free = week.Booths.ToList();
            var holds = week.HoldPoints[period];
            var coming = week
                .Students.Where(student => student.Available.Contains(period) && counts[student.Id] < student.MaxPeriods)
                .OrderByDescending(student => week.Pins.Any(pin => pin.Student == student.Id && pin.Period == period))
                .ThenBy(student => counts[student.Id] >= student.MinPeriods)
                .ThenBy(student => counts[student.Id] + student.Had);
            foreach (var student in coming)
            {
                var pin = week.Pins.FirstOrDefault(one => one.Student == student.Id && one.Period == period);
                var choice = (
                    pin is null ? offered(student, period).Where(item => !item.IsSitting) : student.Items.Where(item => item.Id == pin.Item)
                )
                    .Where(item =>
                        (item.Most is not { } most || given.GetValueOrDefault((student.Id, item.Id)) < most)
                        && item.HoldPoints <= holds
                        && item.Draws.All(draw => !stock.TryGetValue(draw.Key, out var left) || left >= draw.Value)
                    )
                    // The plainest booth that will do: those with more are left for who needs them.
                    .Select(item =>
                        (
                            Item: item,
                            Booth: free.Where(booth => WeekProblem.Fits(booth, item, period) && (pin?.Booth is null || pin.Booth == booth.Id))
                                .MinBy(booth => (int)booth.Has + booth.Processes.Count)
                        )
                    )
                    .Where(one => one.Booth is not null)
                    .OrderByDescending(one => one.Item.Asked > given.GetValueOrDefault((student.Id, one.Item.Id)))
                    .ThenByDescending(one =>
                        one.Item.Gains.ElementAtOrDefault(given.GetValueOrDefault((student.Id, one.Item.Id)))
                        + (one.Item.Shared?.ElementAtOrDefault(given.GetValueOrDefault((student.Id, $"\n{one.Item.Group}"))) ?? 0)
                    )
                    .FirstOrDefault();
                if (choice.Item is not { } item)
                {
                    continue;
                }

                cells.Add(new WeekCell(student.Id, period, item.Id, choice.Booth!.Id));
                free.Remove(choice.Booth);
                holds -= item.HoldPoints;
                counts[student.Id]++;
                foreach (var key in new[] { item.Id, $"\n{item.Group}" })
                {
                    given[(student.Id, key)] = given.GetValueOrDefault((student.Id, key)) + 1;
                }

                foreach (var (id, amount) in item.Draws.Where(draw => stock.ContainsKey(draw.Key)))
                {
                    stock[id] -= amount;
                }
            }
        }

        return cells;
    }
}
