using Gradus.Data;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Hosting;

/// <summary>The school's file, for a command that works beside the server or in its stead.</summary>
public static class SchoolFile
{
    /// <summary>Opens the school that the environment names; null when that cannot be, which is told on the error stream.</summary>
    public static async Task<GradusContext?> Open(GradusOptions options)
    {
        if (!File.Exists(options.DatabaseFile))
        {
            await Console.Error.WriteLineAsync($"There is no school in {options.DataFolder}.");
            return null;
        }

        var db = SqliteSetup.Open(options.DatabaseFile);
        if ((await db.Database.GetPendingMigrationsAsync()).Any())
        {
            await db.DisposeAsync();
            await Console.Error.WriteLineAsync("The database is of an older Gradus: start this one once, then ask again.");
            return null;
        }

        return db;
    }
}
