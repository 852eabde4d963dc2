using Gradus.Core.Library;
using Gradus.Core.Planning;

namespace Gradus.Core.Tests.Planning;

/// <summary>A plan changed by hand: what stands after it, or why it cannot.</summary>
public sealed class PlanChangeTests
{
    private static readonly Guid Ines = Guid.Parse("00000000-0000-7000-8000-000000000001");
    private static readonly Guid Dev = Guid.Parse("00000000-0000-7000-8000-000000000002");
    private static readonly Guid One = Guid.Parse("00000000-0000-7000-8000-000000000011");
    private static readonly Guid Two = Guid.Parse("00000000-0000-7000-8000-000000000012");
    private static readonly Dictionary<Guid, string> Names = new() { [Ines] = "Ines", [Dev] = "Dev" };

    private static WeekItem Item(string id, string process, int holds = 2) =>
        new(id, process, BoothTraits.None, holds, [0.1], new Dictionary<string, double>());

    private static WeekProblem Week(int holdPoints = 10) =>
        new(
            15,
            WeekProblem.Holds(15, holdPoints),
            [new WeekBooth(One.ToString(), ["SMAW", "GTAW"], BoothTraits.Pipe, []), new WeekBooth(Two.ToString(), ["SMAW"], BoothTraits.None, [4])],
            [
                new WeekStudent(Ines.ToString(), [0, 1, 4], 0, 5, [Item("root", "SMAW"), Item("tig", "GTAW")]),
                new WeekStudent(Dev.ToString(), [0, 1, 4], 0, 5, [Item("cap", "SMAW"), Item("tig", "GTAW")]),
            ],
            new Dictionary<string, double>(),
            [],
            [],
            0
        );

    private static PlannedCell Cell(Guid student, int slot, string item, Guid booth) =>
        new(student, slot, booth, item, "P8", ItemKind.UnderRules, null, item, new Dictionary<string, string>(), "", 0.1, 1, false);

    private static (IReadOnlyList<PlannedCell>? Cells, NotPossible? Why) Change(
        PlanMove move,
        IReadOnlyList<PlannedCell> plan,
        int holdPoints = 10
    ) =>
        PlanChange.Apply(
            Week(holdPoints),
            plan,
            move,
            Names,
            cell => Cell(Guid.Parse(cell.Student), cell.Period, cell.Item, Guid.Parse(cell.Booth!))
        );

    private static PlanMove Move(Guid student, int slot, string? item, Guid? booth = null, int? from = null) =>
        new(student, slot, item, booth, from, true);

    [Fact]
    public void A_pin_is_taken_off_also_where_the_booth_is_out_by_now()
    {
        var week = Week() with { Booths = [Week().Booths[0] with { Closed = [0] }, Week().Booths[1]] };
        var pinned = Cell(Ines, 0, "root", One) with { Pinned = true };
        var (cells, why) = PlanChange.Apply(
            week,
            [pinned],
            new PlanMove(Ines, 0, "root", One, null, false),
            Names,
            _ => throw new InvalidOperationException()
        );
        Assert.Null(why);
        Assert.Equal([pinned with { Pinned = false }], cells);
    }

    [Fact]
    public void An_item_is_put_into_a_free_booth_that_fits_and_stays_there()
    {
        var cell = Assert.Single(Change(Move(Ines, 0, "tig"), []).Cells!);
        Assert.Equal((One, "tig", true), (cell.BoothId, cell.ItemId, cell.Pinned));
        Assert.Empty(Change(Move(Ines, 0, null), [cell]).Cells!);
        Assert.Equal("root", Assert.Single(Change(Move(Ines, 0, "root"), [cell]).Cells!).ItemId); // one thing at a time
    }

    [Theory]
    [InlineData(0, "cap", "itemId")] // another student's
    [InlineData(2, "root", "slot")] // does not come then
    public void What_the_student_cannot_do_is_refused_by_its_field(int slot, string item, string field) =>
        Assert.Equal(field, Change(Move(Ines, slot, item), []).Why!.Field);

    [Fact]
    public void A_booth_that_does_not_fit_or_is_closed_or_taken_is_refused()
    {
        Assert.Equal("boothId", Change(Move(Ines, 0, "tig", Two), []).Why!.Field); // no GTAW there
        Assert.Equal("boothId", Change(Move(Ines, 4, "root", Two), []).Why!.Field); // closed then
        Assert.Equal("boothId", Change(Move(Ines, 0, "root", One), [Cell(Dev, 0, "cap", One)]).Why!.Field);
        Assert.Equal("slot", Change(Move(Ines, 0, "tig"), [Cell(Dev, 0, "cap", One)]).Why!.Field); // the only one that fits is taken
    }

    [Fact]
    public void Two_change_booths_in_one_act_where_both_can_go_on()
    {
        PlannedCell[] plan = [Cell(Ines, 0, "root", One), Cell(Dev, 0, "cap", Two)];
        var changed = Change(Move(Ines, 0, "root", Two, 0), plan).Cells!;
        Assert.Equal((Two, One), (changed.Single(cell => cell.StudentId == Ines).BoothId, changed.Single(cell => cell.StudentId == Dev).BoothId));
        PlannedCell[] stuck = [Cell(Ines, 0, "root", Two), Cell(Dev, 0, "tig", One)];
        Assert.Equal("boothId", Change(Move(Ines, 0, "root", One, 0), stuck).Why!.Field); // Dev's needs GTAW
    }

    [Fact]
    public void A_move_empties_where_it_came_from_and_keeps_its_booth()
    {
        var moved = Assert.Single(Change(Move(Ines, 1, null, from: 0), [Cell(Ines, 0, "root", Two)]).Cells!);
        Assert.Equal((1, "root", Two), (moved.Slot, moved.ItemId, moved.BoothId));
        Assert.Equal("slot", Change(Move(Ines, 1, null, from: 0), [Cell(Ines, 0, "root", Two), Cell(Ines, 1, "tig", One)]).Why!.Field);
    }

    [Fact]
    public void More_hold_points_than_can_be_answered_are_refused()
    {
        Assert.NotNull(Change(Move(Ines, 0, "root"), [Cell(Dev, 0, "cap", One)], holdPoints: 4).Cells);
        Assert.Equal("slot", Change(Move(Ines, 0, "root"), [Cell(Dev, 0, "cap", One)], holdPoints: 3).Why!.Field);
    }

    [Fact]
    public void Somebody_who_is_no_student_is_unknown() =>
        Assert.Equal(NotPossibleKind.Unknown, Change(Move(Guid.NewGuid(), 0, "root"), []).Why!.Kind);

    [Theory]
    [InlineData(28, 1)] // four weeks off: as anybody
    [InlineData(100, 1)]
    [InlineData(14, 1.75)] // half way
    [InlineData(0, 2.5)]
    [InlineData(-3, 2.5)] // past, and not more than now
    public void The_gains_of_somebody_whose_day_is_near_count_more(int days, double weight)
    {
        var monday = new DateOnly(2031, 3, 3);
        Assert.Equal(weight, Nearness.Weight([monday.AddDays(days)], monday), 9);
        Assert.Equal(weight, Nearness.Weight([monday.AddDays(days), monday.AddDays(days + 50)], monday), 9); // the nearest counts
        Assert.Equal(1, Nearness.Weight([], monday));
    }

    [Fact]
    public void A_test_is_withheld_for_its_ground_for_safety_or_for_want_of_a_booth()
    {
        var plate = TestLibrary.Shipped["P8"];
        Assert.Null(Prescription.Withheld(plate, true, false, [BoothTraits.None]));
        Assert.Contains("the ground before it", Prescription.Withheld(plate, false, true, [BoothTraits.None]), StringComparison.Ordinal);
        var chrome = TestLibrary.Shipped.Values.First(test => Prescription.Needs(test).HasFlag(BoothTraits.Extraction));
        const BoothTraits All = BoothTraits.Pipe | BoothTraits.Purge | BoothTraits.Extraction | BoothTraits.Positioner;
        Assert.Contains("safety", Prescription.Withheld(chrome, true, false, [All]), StringComparison.Ordinal); // chromium VI: OSHA 1910.1026
        Assert.Null(Prescription.Withheld(chrome, true, true, [All]));
        Assert.Contains("extraction", Prescription.Withheld(chrome, true, true, [All & ~BoothTraits.Extraction]), StringComparison.Ordinal);
        Assert.Contains(
            "all that it needs together",
            Prescription.Withheld(chrome, true, true, [BoothTraits.Extraction, All & ~BoothTraits.Extraction]),
            StringComparison.Ordinal
        );
    }
}
