using Gradus.Core.Certification;
using Gradus.Data;
using Gradus.Server.Qualifications;
using Gradus.Server.School;
using Gradus.Server.Sittings;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Floor;

/// <summary>A qualification that ends soon when nothing is done.</summary>
/// <param name="Open">Whether a closed coupon shows the use, and waits to be signed for.</param>
public sealed record EndingRow(Guid StudentId, string StudentName, Held Held, bool Open);

/// <summary>What is due on the floor beside the coupons: the sittings of today, those that wait for a result, and what ends soon.</summary>
public sealed record DueView(IReadOnlyList<SittingRow> Sittings, IReadOnlyList<EndingRow> Ending);

/// <summary>What is due.</summary>
public static class Due
{
    private const int MostEnding = 100;

    // A result is not looked for longer than this.
    private const int WaitingDays = 30;

    public static void MapDue(this IEndpointRouteBuilder routes) => routes.MapGet("/api/floor/due", Read).WithTags("Floor").Produces<DueView>();

    private static async Task<IResult> Read(
        GradusContext db,
        SittingReader sittings,
        HoldsReader holds,
        SchoolClock clock,
        CancellationToken cancel
    ) =>
        TypedResults.Ok(
            new DueView(
                [
                    .. (await sittings.On(clock.Today.AddDays(-WaitingDays), clock.Today, cancel)).Where(one =>
                        one.State is SittingState.Today or SittingState.Waiting
                    ),
                ],
                await Ending(db, holds, cancel)
            )
        );

    /// <summary>What ends within sixty days, the soonest first; of several records of one person, code and process the one that holds longest.</summary>
    public static async Task<IReadOnlyList<EndingRow>> Ending(GradusContext db, HoldsReader holds, CancellationToken cancel)
    {
        var soon = (await holds.Read(null, cancel))
            .GroupBy(one => (one.StudentId, one.Code, one.Process, Number: HoldsReader.NeedsRange(one.Code) ? one.Number : 0))
            .Select(group => group.MaxBy(one => one.Keeping.EndsOn)!)
            .Where(one => one.Keeping.Kind == HoldKind.EndsSoon)
            .OrderBy(one => one.Keeping.EndsOn)
            .Take(MostEnding)
            .ToList();
        var ids = soon.Select(one => one.StudentId).Distinct().ToList();
        var names = await db.Students.Where(one => ids.Contains(one.Id)).ToDictionaryAsync(one => one.Id, one => one.Name, cancel);
        var open = new Dictionary<Guid, IReadOnlyList<OpenUse>>();
        foreach (var own in soon.GroupBy(one => one.StudentId))
        {
            open[own.Key] = await holds.Open(own.Key, own.Min(one => one.Keeping.LastUsedOn).AddDays(1), cancel);
        }

        return
        [
            .. soon.Select(one => new EndingRow(
                one.StudentId,
                names[one.StudentId],
                one,
                open[one.StudentId].Any(use => use.Process == one.Process && use.Day > one.Keeping.LastUsedOn)
            )),
        ];
    }
}
