using Gradus.Core.Bench;
using Gradus.Core.Joints;
using Gradus.Core.Library;
using Gradus.Core.Planning;
using Gradus.Data;
using Gradus.Server.Coupons;
using Gradus.Server.Decisions;
using Gradus.Server.Hosting;
using Gradus.Server.Library;
using Gradus.Server.Planning;
using Gradus.Server.Readiness;
using Gradus.Server.Students;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Floor;

/// <summary>Today's floor: the booths with what is in them, and everyone who comes today.</summary>
/// <param name="ClassesToday">The classes that meet today; empty on a free day.</param>
/// <param name="Period">The period of the day that it is.</param>
public sealed record FloorView(
    DateOnly Today,
    IReadOnlyList<string> ClassesToday,
    IReadOnlyList<BoothView> Booths,
    IReadOnlyList<FloorStudent> Students,
    IReadOnlyList<FloorHold> Holds,
    IReadOnlyList<FloorPlanned> Planned,
    IReadOnlyList<Guid> Absent,
    int Period,
    IReadOnlyList<string> PeriodNames
);

/// <summary>What is planned for a student in a period of today.</summary>
/// <param name="Kind">Null for a booked sitting.</param>
public sealed record FloorPlanned(
    Guid StudentId,
    int Period,
    int Slot,
    Guid BoothId,
    int Booth,
    string ItemId,
    string TestId,
    ItemKind? Kind,
    string? DrillId,
    string Name,
    IReadOnlyDictionary<string, string> Variants,
    string Why
);

/// <summary>A hold point that waits for the instructor; the queue is oldest first.</summary>
public sealed record FloorHold(Guid CouponId, string Stamp, Guid StudentId, string StudentName, int? Booth, string Point, DateTimeOffset CalledAt);

public sealed record BoothView(Guid Id, int Number, int Column, int Row, string? ClosedWhy);

/// <summary>A booth as it is offered for a coupon.</summary>
/// <param name="Why">Why it cannot take it: it is closed, or what it lacks; null when it can.</param>
public sealed record BoothOffer(Guid Id, int Number, string? Why);

/// <param name="Chance">For a clean full coupon of the target test.</param>
/// <param name="Open">The coupon in work, if there is one.</param>
public sealed record FloorStudent(
    Guid Id,
    string Name,
    string ClassName,
    bool ExpectedToday,
    string TargetTestId,
    string TargetTitle,
    ChanceView Chance,
    Core.Readiness.Advised Advised,
    string Says,
    string Why,
    DateTimeOffset? LastClosedAt,
    FloorCoupon? Open
);

/// <summary>A coupon in work: enough to log its next pass clean in one tap.</summary>
public sealed record FloorCoupon(
    Guid Id,
    string Stamp,
    string TestId,
    string TestTitle,
    string? DrillId,
    bool AsTest,
    DateTimeOffset StartedAt,
    int? Booth,
    FitUpOutcome FitUp,
    int BeadsLaid,
    int BeadsPlanned,
    int Findings,
    NextStep Next,
    PassCard? NextCard,
    bool PositionStands,
    IReadOnlyList<RunningTimer> Timers,
    IReadOnlyList<string> Concerns,
    SectionSketch Section
);

/// <summary>The joint section in small, where the next bead lies. Outlines as x and y in turn, mm from the root, y up.</summary>
/// <param name="Steel">The members, and a strip or insert.</param>
public sealed record SectionSketch(IReadOnlyList<IReadOnlyList<double>> Steel, IReadOnlyList<BeadSketch> Beads);

/// <summary>A bead of the coupon in its section.</summary>
public sealed record BeadSketch(string Key, int Layer, int BeadInLayer, bool Laid, IReadOnlyList<double> Outline);

public static class Endpoints
{
    public static void MapFloor(this IEndpointRouteBuilder routes)
    {
        var group = routes.MapGroup("/api/floor").WithTags("Floor");
        group.MapGet("", (FloorReader reader, CancellationToken cancel) => reader.Read(cancel)).Produces<FloorView>();
        group.MapGet("/events", Events).Produces<FloorChange>(contentType: "text/event-stream");
        group.MapGet("/booths-for/{testId}", BoothsFor).Produces<IReadOnlyList<BoothOffer>>().ProducesProblem(StatusCodes.Status404NotFound);
    }

    /// <summary>Every booth with whether it can take a coupon of a test, or a drill of it.</summary>
    private static async Task<IResult> BoothsFor(string testId, string? drillId, SchoolLibrary library, GradusContext db, CancellationToken cancel)
    {
        var test = library.Tests.GetValueOrDefault(testId);
        var drill = test?.Drills.FirstOrDefault(one => one.Id == drillId);
        if (test is null || (drillId is not null && drill is null))
        {
            return Refusal.NotFound(test is null ? "testId" : "drillId", "A test of the library, and a drill of it.").ToResult();
        }

        var booths = await db.Booths.Standing().AsNoTracking().OrderBy(one => one.Number).Take(Limits.PageRows).ToListAsync(cancel);
        return TypedResults.Ok<IReadOnlyList<BoothOffer>>([
            .. booths.Select(booth => new BoothOffer(
                booth.Id,
                booth.Number,
                booth.ClosedAt is null ? Prescription.Lacks(test, drill, booth.Processes, booth.Has) : booth.ClosedWhy ?? "closed"
            )),
        ]);
    }

    /// <summary>Changes as they come. With Last-Event-ID what was missed comes first; what is too long ago is told as a change of the whole floor.</summary>
    private static ServerSentEventsResult<string> Events(HttpRequest request, FloorFeed feed, CancellationToken cancel) =>
        TypedResults.ServerSentEvents(feed.Follow(request.Headers["Last-Event-ID"].FirstOrDefault(), cancel));
}
