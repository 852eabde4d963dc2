using Gradus.Data;
using Gradus.Server.Demo;
using Gradus.Server.Hosting;
using Gradus.Server.Library;
using Gradus.Server.Readiness;
using Gradus.Server.School;
using Gradus.Server.Students;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server;

/// <summary>What has to be done before anybody is served.</summary>
public static class Startup
{
    /// <summary>Takes the folder, brings the database up to date, and makes the demo school when it is asked for and not there yet.</summary>
    /// <exception cref="StorageException">The data cannot be used; the message says what to do.</exception>
    public static async Task PrepareDatabase(WebApplication app)
    {
        var options = app.Services.GetRequiredService<GradusOptions>();
        var storage = app.Services.GetRequiredService<Storage>();
        storage.Take();
        Privacy.Tighten(options);
        storage.Inspect();
        await using var scope = app.Services.CreateAsyncScope();
        var db = scope.ServiceProvider.GetRequiredService<GradusContext>();
        await storage.Migrate(db, CancellationToken.None);
        storage.Watch();
        await scope.ServiceProvider.GetRequiredService<Erasure>().Again(CancellationToken.None);
        await app.Services.GetRequiredService<SchoolLibrary>().Load(db, CancellationToken.None);
        await app.Services.GetRequiredService<ModelInUse>().Load(db, CancellationToken.None);
        if (options.Demo && !await db.Schools.AnyAsync())
        {
            await scope.ServiceProvider.GetRequiredService<DemoSchool>().Build(CancellationToken.None);
        }

        await app.Services.GetRequiredService<SchoolClock>().Load(db, CancellationToken.None);
    }
}
