using Gradus.Data;
using Gradus.Server.Hosting;
using Gradus.Server.Library;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Coupons;

/// <summary><c>verdicts</c>: lists the closings whose verdict is not the one that their record gives; also while the server runs.</summary>
public static class VerdictCommand
{
    public static bool IsAsked(string[] args) => args is ["verdicts"];

    public static async Task<int> Run()
    {
        var options = GradusOptions.From(new ConfigurationBuilder().AddEnvironmentVariables().Build());
        if (!File.Exists(options.DatabaseFile))
        {
            await Console.Error.WriteLineAsync($"There is no school in {options.DataFolder}.");
            return ExitCodes.StorageIll;
        }

        var builder = new DbContextOptionsBuilder<GradusContext>();
        builder.UseGradusFile(options.DatabaseFile);
        await using var db = new GradusContext(builder.Options);
        if ((await db.Database.GetPendingMigrationsAsync()).Any())
        {
            await Console.Error.WriteLineAsync("The database is of an older Gradus: start this one once, then ask again.");
            return ExitCodes.StorageIll;
        }

        var library = new SchoolLibrary(TimeProvider.System);
        await library.Read(db, CancellationToken.None);
        var wrong = await new VerdictReview(db, library).Wrong(CancellationToken.None);
        foreach (var one in wrong)
        {
            Console.WriteLine(
                $"{one.Stamp}  {one.ClosedAt.UtcDateTime:yyyy-MM-dd HH:mm} UTC  {one.Student}, {one.TestId}: kept as {one.Kept}, the record says {one.Now}"
            );
        }

        Console.WriteLine(
            wrong.Count == 0
                ? "Every verdict is the one that its record gives."
                : $"{wrong.Count} to look at: open each again and close it. Nothing was changed."
        );
        return ExitCodes.Fine;
    }
}
