using Gradus.Server.Instruments;
using Gradus.Server.Qualifications;
using Gradus.Server.School;
using Gradus.Server.Sittings;

namespace Gradus.Server.Floor;

/// <summary>What is due on the floor beside the coupons: the sittings of today, those that wait for a result, what ends soon, and what laboratories have returned.</summary>
public sealed record DueView(IReadOnlyList<SittingRow> Sittings, IReadOnlyList<EndingRow> Ending, IReadOnlyList<LabDue> Lab);

/// <summary>What is due.</summary>
public static class Due
{
    // A result is not looked for longer than this.
    private const int WaitingDays = 30;

    public static void MapDue(this IEndpointRouteBuilder routes) => routes.MapGet("/api/floor/due", Read).WithTags("Floor").Produces<DueView>();

    private static async Task<IResult> Read(SittingReader sittings, HoldsReader holds, LabBook lab, SchoolClock clock, CancellationToken cancel) =>
        TypedResults.Ok(
            new DueView(
                await sittings.On(clock.Today.AddDays(-WaitingDays), clock.Today, cancel),
                await holds.Ending(null, cancel),
                await lab.Due(cancel)
            )
        );
}
