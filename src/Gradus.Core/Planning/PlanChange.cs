namespace Gradus.Core.Planning;

/// <summary>Who is where on what, as planned.</summary>
/// <param name="Slot">Period of the week, counted from 0 over days and their periods.</param>
/// <param name="DrillId">Null for a full coupon.</param>
/// <param name="Gain">What this time adds to the chance.</param>
/// <param name="Parts">What fills the period; null of plans from before that was told, and of a sitting.</param>
/// <param name="Periods">Periods that the item takes; 1 for what fits into one.</param>
public sealed record PlannedCell(
    Guid StudentId,
    int Slot,
    Guid BoothId,
    string ItemId,
    string TestId,
    ItemKind? Kind,
    string? DrillId,
    string Name,
    IReadOnlyDictionary<string, string> Variants,
    string Why,
    double Gain,
    double Cost,
    bool Pinned,
    IReadOnlyList<PeriodPart>? Parts = null,
    int Periods = 1
)
{
    /// <summary>What fills the period; of a plan from before that was told the one piece that it names.</summary>
    [System.Text.Json.Serialization.JsonIgnore]
    public IReadOnlyList<PeriodPart> Filling => Parts ?? [new PeriodPart(DrillId, Name, 1, 0)];

    /// <summary>The cell as a week is solved with it.</summary>
    [System.Text.Json.Serialization.JsonIgnore]
    public WeekCell Bare => new(StudentId.ToString(), Slot, ItemId, BoothId.ToString());
}

/// <summary>A change by hand to the plan of a week: what stands in a student's slot.</summary>
/// <param name="ItemId">One of the student's items; null takes out what is there.</param>
/// <param name="BoothId">Null lets the plan choose one that is free and fits.</param>
/// <param name="FromSlot">The slot that it is moved from; it is emptied. Null when nothing is moved.</param>
public sealed record PlanMove(Guid StudentId, int Slot, string? ItemId, Guid? BoothId, int? FromSlot, bool Pinned);

/// <summary>Changes an accepted plan by hand, and says in words why a change cannot stand.</summary>
public static class PlanChange
{
    /// <summary>The cells after the change, or why it is not possible.</summary>
    /// <param name="names">The students of the week, by their id.</param>
    /// <param name="describe">What a cell of the week stands for.</param>
    public static (IReadOnlyList<PlannedCell>? Cells, NotPossible? Why) Apply(
        WeekProblem week,
        IReadOnlyList<PlannedCell> plan,
        PlanMove move,
        IReadOnlyDictionary<Guid, string> names,
        Func<WeekCell, PlannedCell> describe
    )
    {
        var (id, slot) = (move.StudentId, move.Slot);
        if (!names.TryGetValue(id, out var name))
        {
            return No(NotPossible.Unknown("studentId", "The id of a student."));
        }

        if (slot < week.FirstOpen || move.FromSlot < week.FirstOpen)
        {
            return No(NotPossible.Conflict("slot", "That period is over. What was done in it stays."));
        }

        var cells = plan.ToList();
        var moved = cells.Find(cell => cell.StudentId == id && cell.Slot == (move.FromSlot ?? slot));
        if (move.FromSlot is { } from && from != slot && cells.Exists(cell => cell.StudentId == id && cell.Slot == slot))
        {
            return No(NotPossible.Conflict("slot", $"{name} has something else then. Take it out first."));
        }

        // Whether it is pinned changes nothing else, also where the booth is out by now.
        if (moved is not null && moved.Slot == slot && move.ItemId == moved.ItemId && move.BoothId == moved.BoothId && moved.Pinned != move.Pinned)
        {
            cells[cells.IndexOf(moved)] = moved with { Pinned = move.Pinned };
            return (cells, null);
        }

        cells.RemoveAll(cell => cell.StudentId == id && (cell.Slot == slot || cell.Slot == move.FromSlot));
        if (move.ItemId is null && move.FromSlot is null)
        {
            return (cells, null);
        }

        var itemId = move.ItemId ?? moved?.ItemId;
        var student = week.Students.First(one => one.Id == id.ToString());
        if (student.Items.FirstOrDefault(one => one.Id == itemId) is not { } item)
        {
            var given = string.Join(", ", student.Items.Select(one => one.Id).DefaultIfEmpty("nothing"));
            return No(NotPossible.Unfit("itemId", $"{name} can be given: {given}."));
        }

        if (!student.Available.Contains(slot))
        {
            return No(NotPossible.Conflict("slot", $"{name} does not come then."));
        }

        var (booth, why) = Booth(week, cells, move, moved, item);
        if (booth is not { } chosen)
        {
            return No(why!);
        }

        var holds = cells.Where(cell => cell.Slot == slot).Sum(cell => ItemOf(week, cell)?.HoldPoints ?? 0) + item.HoldPoints;
        if (holds > week.HoldPoints[slot])
        {
            return No(NotPossible.Conflict("slot", $"That would be {holds} hold points in the period; {week.HoldPoints[slot]} can be answered."));
        }

        var described = describe(new WeekCell(student.Id, slot, item.Id, chosen.ToString()));
        cells.Add(described with { Pinned = move.Pinned || described.Kind is null });
        return (cells, null);
    }

    /// <summary>The booth that the item is given; whoever has the one that was asked for takes the one that becomes free.</summary>
    private static (Guid? Booth, NotPossible? Why) Booth(WeekProblem week, List<PlannedCell> cells, PlanMove move, PlannedCell? moved, WeekItem item)
    {
        var slot = move.Slot;
        var taken = cells.Where(cell => cell.Slot == slot).Select(cell => cell.BoothId).ToHashSet();
        var fitting = week.Booths.Where(booth => WeekProblem.Fits(booth, item, slot)).Select(booth => Guid.Parse(booth.Id)).ToList();
        if (move.BoothId is { } wanted)
        {
            if (!fitting.Contains(wanted))
            {
                return (null, NotPossible.Conflict("boothId", $"That booth does not take {item.Process} with what the item needs, or is closed."));
            }

            if (cells.Find(cell => cell.Slot == slot && cell.BoothId == wanted) is { } other)
            {
                if (moved is null || moved.Slot != slot || ItemOf(week, other) is not { } others || !Takes(week, moved.BoothId, others, slot))
                {
                    return (
                        null,
                        NotPossible.Conflict("boothId", "Another student has that booth then, and cannot go on in the booth that becomes free.")
                    );
                }

                cells[cells.IndexOf(other)] = other with { BoothId = moved.BoothId };
            }

            return (wanted, null);
        }

        var choices = fitting.Where(booth => !taken.Contains(booth)).ToList();
        return choices.Count == 0
            ? (null, NotPossible.Conflict("slot", $"No booth that takes {item.Process} is free then."))
            : (moved is not null && choices.Contains(moved.BoothId) ? moved.BoothId : choices[0], null);
    }

    private static (IReadOnlyList<PlannedCell>?, NotPossible?) No(NotPossible why) => (null, why);

    private static bool Takes(WeekProblem week, Guid booth, WeekItem item, int slot) =>
        week.Booths.Any(one => one.Id == booth.ToString() && WeekProblem.Fits(one, item, slot));

    /// <summary>The item of a cell; null for a sitting, which stays where it is.</summary>
    private static WeekItem? ItemOf(WeekProblem week, PlannedCell cell) =>
        week.Students.FirstOrDefault(one => one.Id == cell.StudentId.ToString())?.Items.FirstOrDefault(one => one.Id == cell.ItemId);
}
