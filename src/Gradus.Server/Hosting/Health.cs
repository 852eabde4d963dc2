namespace Gradus.Server.Hosting;

/// <summary>Whether the database is migrated and readable, and which program this is.</summary>
public sealed record HealthView(string Status, string Version);

/// <summary>How the server is; anybody may ask.</summary>
public static class Health
{
    public static void MapHealth(this IEndpointRouteBuilder routes)
    {
        var group = routes.MapGroup("/api/health").WithTags("Health");
        group.MapGet("", Ready).Produces<HealthView>().ProducesProblem(StatusCodes.Status503ServiceUnavailable);
        group.MapGet("/ready", Ready).Produces<HealthView>().ProducesProblem(StatusCodes.Status503ServiceUnavailable);

        // The program runs and answers, whatever its storage does.
        group.MapGet("/live", () => TypedResults.Ok(new HealthView("ok", ThisProgram.Version))).Produces<HealthView>();
    }

    private static IResult Ready(Storage storage) =>
        storage.Examine() is { } illness
            ? StorageIll.Answer(StatusCodes.Status503ServiceUnavailable, illness).ToResult()
            : TypedResults.Ok(new HealthView("ok", ThisProgram.Version));
}
