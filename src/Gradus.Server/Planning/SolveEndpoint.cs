using Gradus.Server.Hosting;
using Gradus.Solver;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;

namespace Gradus.Server.Planning;

/// <summary>Planning a week by itself: stateless, for anyone.</summary>
public static class SolveEndpoint
{
    private const int WeekBytes = 8 * 1024 * 1024;

    // A small machine solves one after another; a school's own week never waits behind more than one of these.
    private static readonly SemaphoreSlim Turn = new(1);

    public static void MapSolve(this IEndpointRouteBuilder routes) =>
        routes
            .MapPost("/api/plan/solve", Solve)
            .WithTags("Plan")
            .AllowAnonymous()
            .WithMetadata(new RequestSizeLimitAttribute(WeekBytes))
            .Validated<SolveRequest>()
            .Produces<SolveAnswer>();

    private static async Task<Ok<SolveAnswer>> Solve(SolveRequest request, CancellationToken cancel)
    {
        var week = request.ToWeek();
        await Turn.WaitAsync(cancel);
        try
        {
            return TypedResults.Ok(
                SolveAnswer.From(await Task.Run(() => WeekSolver.Solve(week, request.SecondsLimit!.Value, cancel: cancel), cancel))
            );
        }
        finally
        {
            Turn.Release();
        }
    }
}
