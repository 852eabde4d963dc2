using Gradus.Core.Planning;
using Gradus.Data;
using Gradus.Server.Hosting;

namespace Gradus.Server.Planning;

/// <summary>Changes an accepted plan by hand, and says in words why a change cannot stand.</summary>
public static class PlanEdit
{
    /// <summary>The cells after the change, or why it is refused.</summary>
    public static Outcome<IReadOnlyList<PlannedCell>> Apply(WeekFacts facts, EditCell request)
    {
        var id = request.StudentId!.Value;
        if (!facts.Practice.TryGetValue(id, out var practice))
        {
            return Refusal.NotFound("studentId", "The id of a student.");
        }

        var slot = request.Slot!.Value;
        var cells = (facts.Plan?.Cells ?? []).ToList();
        var moved = cells.Find(cell => cell.StudentId == id && cell.Slot == (request.FromSlot ?? slot));
        if (request.FromSlot is { } from && from != slot && cells.Exists(cell => cell.StudentId == id && cell.Slot == slot))
        {
            return Refusal.Conflict("slot", $"{practice.Student.Name} has something else then. Take it out first.");
        }

        cells.RemoveAll(cell => cell.StudentId == id && (cell.Slot == slot || cell.Slot == request.FromSlot));
        if (request.ItemId is null && request.FromSlot is null)
        {
            return cells;
        }

        var itemId = request.ItemId ?? moved?.ItemId;
        var student = facts.Week.Students.First(one => one.Id == id.ToString());
        var item = student.Items.FirstOrDefault(one => one.Id == itemId);
        if (item is null)
        {
            return Refusal.Field(
                "itemId",
                $"{practice.Student.Name} can be given: {string.Join(", ", student.Items.Select(one => one.Id).DefaultIfEmpty("nothing"))}."
            );
        }

        if (!student.Available.Contains(slot))
        {
            return Refusal.Conflict("slot", $"{practice.Student.Name} does not come then.");
        }

        var taken = cells.Where(cell => cell.Slot == slot).Select(cell => cell.BoothId).ToHashSet();
        var fitting = facts.Week.Booths.Where(booth => WeekProblem.Fits(booth, item, slot)).Select(booth => Guid.Parse(booth.Id)).ToList();
        if (request.BoothId is { } wanted && !fitting.Contains(wanted))
        {
            return Refusal.Conflict("boothId", $"That booth does not take {item.Process} with what the item needs, or is closed.");
        }

        if (request.BoothId is { } full && cells.Find(cell => cell.Slot == slot && cell.BoothId == full) is { } other)
        {
            // Whoever is there takes the booth that becomes free, where the item of that student can be made in it.
            if (moved is null || moved.Slot != slot || ItemOf(facts, other) is not { } others || !Takes(facts, moved.BoothId, others, slot))
            {
                return Refusal.Conflict("boothId", "Another student has that booth then, and cannot go on in the booth that becomes free.");
            }

            cells[cells.IndexOf(other)] = other with { BoothId = moved.BoothId };
            taken.Remove(full);
        }

        var choices = request.BoothId is { } one ? [one] : fitting.Where(booth => !taken.Contains(booth)).ToList();
        if (choices.Count == 0)
        {
            return Refusal.Conflict("slot", $"No booth that takes {item.Process} is free then.");
        }

        var booth = moved is not null && choices.Contains(moved.BoothId) ? moved.BoothId : choices[0];
        var holds = cells.Where(cell => cell.Slot == slot).Sum(cell => HoldPoints(facts, cell)) + item.HoldPoints;
        if (holds > facts.Week.HoldPointsPerPeriod)
        {
            return Refusal.Conflict("slot", $"That would be {holds} hold points in the period; {facts.Week.HoldPointsPerPeriod} can be answered.");
        }

        var described = facts.Describe([new WeekCell(student.Id, slot, item.Id, booth.ToString())])[0];
        cells.Add(described with { Pinned = request.Pinned || described.Kind is null });
        return cells;
    }

    private static bool Takes(WeekFacts facts, Guid booth, WeekItem item, int slot) =>
        facts.Week.Booths.Any(one => one.Id == booth.ToString() && WeekProblem.Fits(one, item, slot));

    private static int HoldPoints(WeekFacts facts, PlannedCell cell) => ItemOf(facts, cell)?.HoldPoints ?? 0;

    /// <summary>The item of a cell; null for a sitting, which stays where it is.</summary>
    private static WeekItem? ItemOf(WeekFacts facts, PlannedCell cell) =>
        facts.Week.Students.FirstOrDefault(one => one.Id == cell.StudentId.ToString())?.Items.FirstOrDefault(one => one.Id == cell.ItemId);
}
