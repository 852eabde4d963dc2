using Gradus.Data;
using Gradus.Server.Coupons;
using Gradus.Server.Demo;
using Gradus.Server.Library;
using Gradus.Server.Readiness;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Hosting;

/// <summary>Whether the database is migrated and readable, and which program this is.</summary>
public sealed record HealthView(string Status, string Version);

public static class Startup
{
    /// <summary>Brings the database up to date, and makes the demo school when it is asked for and not there yet.</summary>
    public static async Task PrepareDatabase(WebApplication app)
    {
        var options = app.Services.GetRequiredService<GradusOptions>();
        Directory.CreateDirectory(options.DataFolder);
        await using var scope = app.Services.CreateAsyncScope();
        var db = scope.ServiceProvider.GetRequiredService<GradusContext>();
        await db.Database.MigrateAsync();
        await app.Services.GetRequiredService<SchoolLibrary>().Load(db, CancellationToken.None);
        await app.Services.GetRequiredService<ModelInUse>().Load(db, CancellationToken.None);
        if (options.Demo && !await db.Schools.AnyAsync())
        {
            await scope.ServiceProvider.GetRequiredService<DemoSchool>().Build(CancellationToken.None);
        }
    }

    public static void MapHealth(this IEndpointRouteBuilder routes) =>
        routes
            .MapGet(
                "/api/health",
                async Task<IResult> (GradusContext db, CancellationToken cancel) =>
                {
                    var pending = await db.Database.GetPendingMigrationsAsync(cancel);
                    return pending.Any()
                        ? TypedResults.Problem(
                            statusCode: StatusCodes.Status503ServiceUnavailable,
                            title: "The database is being brought up to date."
                        )
                        : TypedResults.Ok(new HealthView("ok", CouponRecorder.ProgramVersion));
                }
            )
            .WithTags("Health")
            .AllowAnonymous()
            .Produces<HealthView>()
            .ProducesProblem(StatusCodes.Status503ServiceUnavailable);
}
