using System.Security.Claims;
using Gradus.Core.Bench;
using Gradus.Server.Accounts;

namespace Gradus.Server.Floor;

/// <summary>The floor as it hangs on the wall: no full name, no chance, no decision, nothing to tap.</summary>
/// <param name="Waiting">Who has no booth, as they are named here.</param>
/// <param name="WaitingUnnamed">How many more have none.</param>
public sealed record WallView(
    DateOnly Today,
    string PeriodName,
    IReadOnlyList<WallBooth> Booths,
    IReadOnlyList<WallCall> Calls,
    IReadOnlyList<string> Waiting,
    int WaitingUnnamed
);

/// <param name="Name">Who is in it; null for nobody, or nobody who is named here.</param>
/// <param name="Planned">Who comes into it in this period.</param>
public sealed record WallBooth(int Number, int Column, int Row, string? ClosedWhy, string? Name, WallCoupon? Coupon, string? Planned);

public sealed record WallCoupon(string Stamp, string TestTitle, bool AsTest, NextStep Next, int BeadsLaid, int BeadsPlanned, SectionSketch Section);

public sealed record WallCall(int? Booth, string? Name, string Stamp, string Point, DateTimeOffset CalledAt);

/// <summary>What a wall screen shows.</summary>
public static class Wall
{
    public static void MapWall(this IEndpointRouteBuilder routes) => routes.MapGet("/api/wall", Read).WithTags("Floor").Produces<WallView>();

    private static async Task<IResult> Read(ClaimsPrincipal user, FloorReader reader, CancellationToken cancel) =>
        TypedResults.Ok(Of(await reader.Read(cancel), user.WallNames() ?? WallNames.First));

    /// <summary>The floor as a wall screen may show it.</summary>
    public static WallView Of(FloorView floor, WallNames names)
    {
        var shown = Named(floor.Students, names);
        var absent = floor.Absent.ToHashSet();
        var inBooths = floor.Students.Where(one => one.Open?.Booth is not null).ToLookup(one => one.Open!.Booth!.Value);
        var planned = floor.Planned.Where(one => one.Period == floor.Period && !absent.Contains(one.StudentId)).ToLookup(one => one.Booth);
        var placed = planned.SelectMany(group => group).Select(one => one.StudentId).ToHashSet();
        var waiting = floor
            .Students.Where(one => one.ExpectedToday && one.Open?.Booth is null && !absent.Contains(one.Id) && !placed.Contains(one.Id))
            .Select(one => shown[one.Id])
            .ToList();
        return new WallView(
            floor.Today,
            floor.PeriodNames.ElementAtOrDefault(floor.Period) ?? "",
            [
                .. floor.Booths.Select(booth =>
                {
                    var student = inBooths[booth.Number].OrderByDescending(one => one.Open!.StartedAt).FirstOrDefault();
                    return new WallBooth(
                        booth.Number,
                        booth.Column,
                        booth.Row,
                        booth.ClosedWhy,
                        student is null ? null : shown[student.Id],
                        student?.Open is { } open
                            ? new WallCoupon(open.Stamp, open.TestTitle, open.AsTest, open.Next, open.BeadsLaid, open.BeadsPlanned, open.Section)
                            : null,
                        student is null ? planned[booth.Number].Select(one => shown.GetValueOrDefault(one.StudentId)).FirstOrDefault() : null
                    );
                }),
            ],
            [.. floor.Holds.Select(hold => new WallCall(hold.Booth, shown.GetValueOrDefault(hold.StudentId), hold.Stamp, hold.Point, hold.CalledAt))],
            [.. waiting.OfType<string>()],
            waiting.Count(name => name is null)
        );
    }

    private static Dictionary<Guid, string?> Named(IReadOnlyList<FloorStudent> students, WallNames names)
    {
        if (names == WallNames.Stamps)
        {
            return students.ToDictionary(one => one.Id, one => one.Open?.Stamp);
        }

        var parts = students.ToDictionary(one => one.Id, one => one.Name.Split(' ', StringSplitOptions.RemoveEmptyEntries));
        var alike = parts
            .Values.GroupBy(one => one[0], StringComparer.OrdinalIgnoreCase)
            .Where(group => group.Count() > 1)
            .Select(group => group.Key);
        var doubled = alike.ToHashSet(StringComparer.OrdinalIgnoreCase);
        return parts.ToDictionary(
            one => one.Key,
            one => doubled.Contains(one.Value[0]) && one.Value.Length > 1 ? $"{one.Value[0]} {one.Value[^1][0]}." : one.Value[0]
        )!;
    }
}
