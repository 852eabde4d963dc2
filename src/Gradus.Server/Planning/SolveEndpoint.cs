using Gradus.Server.Hosting;
using Gradus.Solver;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;

namespace Gradus.Server.Planning;

/// <summary>Planning a week by itself: stateless, for whoever is signed in, since it takes long.</summary>
public static class SolveEndpoint
{
    private const int WeekBytes = 8 * 1024 * 1024;

    public static void MapSolve(this IEndpointRouteBuilder routes) =>
        routes
            .MapPost("/api/plan/solve", Solve)
            .WithTags("Plan")
            .WithMetadata(new RequestSizeLimitAttribute(WeekBytes))
            .Validated<SolveRequest>()
            .Produces<SolveAnswer>();

    private static async Task<Ok<SolveAnswer>> Solve(SolveRequest request, HeavyWork heavy, CancellationToken cancel)
    {
        var week = request.ToWeek();
        var solved = await heavy.Do(stop => WeekSolver.Solve(week, request.SecondsLimit!.Value, cancel: stop), cancel);
        return TypedResults.Ok(SolveAnswer.From(solved));
    }
}
