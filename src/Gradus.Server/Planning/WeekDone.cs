using Gradus.Core.Inspection;
using Gradus.Data;
using Gradus.Server.School;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Planning;

/// <summary>What was made in a week, by the slot in which it was begun.</summary>
public sealed class WeekDone(GradusContext db, SchoolClock clock)
{
    private const int MostCoupons = 20_000;

    public async Task<IReadOnlyList<SlotDone>> Read(WeekFacts facts, CancellationToken cancel)
    {
        var (from, to) = (clock.BeginningOf(facts.Monday), clock.BeginningOf(facts.Monday.AddDays(Core.Planning.WeekDays.Count)));
        if (from > clock.Now)
        {
            return [];
        }

        var students = facts.Practice.Keys.ToList();
        var coupons = await db
            .Coupons.AsNoTracking()
            .Where(one => one.StartedAt >= from && one.StartedAt < to && one.VoidedAt == null && students.Contains(one.StudentId))
            .OrderBy(one => one.StartedAt)
            .Take(MostCoupons)
            .Select(one => new
            {
                one.Id,
                one.StudentId,
                one.StartedAt,
                IsOpen = one.ClosedAt == null,
                IsClean = one.Closings.Any(closing => closing.WithdrawnAt == null && closing.Kind == VerdictKind.Accept),
            })
            .ToListAsync(cancel);
        return
        [
            .. coupons
                .GroupBy(one => (one.StudentId, Slot: SlotOf(facts, one.StartedAt)))
                .Select(made => new SlotDone(
                    made.Key.StudentId,
                    made.Key.Slot,
                    made.Last().Id,
                    made.Count(),
                    made.Count(one => !one.IsOpen && one.IsClean),
                    made.Count(one => one.IsOpen)
                )),
        ];
    }

    private int SlotOf(WeekFacts facts, DateTimeOffset at) =>
        facts.Setup.SlotOf(clock.DayOf(at), facts.Monday, facts.Setup.PeriodAt(clock.TimeOfDayAt(at)));
}
