using Gradus.Server.Hosting;

namespace Gradus.Server.School;

/// <summary>A folder of backups, as it is.</summary>
/// <param name="LastAt">When the last one that lies there was made; null: there is none.</param>
/// <param name="IsLate">True when two days have gone by without one, or none could ever be made.</param>
/// <param name="Failure">What went wrong the last time; null when nothing did.</param>
public sealed record BackupPlace(string Folder, DateTimeOffset? LastAt, bool IsLate, string? Failure);

/// <summary>How safe the school is.</summary>
/// <param name="ByItself">Whether it is backed up every night by itself.</param>
/// <param name="Second">The second folder; null where none is named.</param>
/// <param name="HasKeys">Whether the keys come into backups, behind a passphrase.</param>
/// <param name="Kept">Those in the first folder, the latest first.</param>
public sealed record BackupsView(bool ByItself, bool HasKeys, BackupPlace First, BackupPlace? Second, IReadOnlyList<ShelvedBackup> Kept);

/// <summary>The backups of the school, for the lead.</summary>
public static class BackupEndpoints
{
    private const int MostShown = 60;

    public static void MapBackups(this IEndpointRouteBuilder routes)
    {
        var group = routes.MapGroup("/api/school/backups").WithTags("School");
        group.MapGet("", Read).Produces<BackupsView>();
        group.MapPost("", Make).Produces<BackupsView>();
    }

    private static async Task<BackupsView> Make(NightlyBackup backup, GradusOptions options, SchoolClock clock, CancellationToken cancel)
    {
        await backup.Make(cancel);
        return Read(backup, options, clock);
    }

    private static BackupsView Read(NightlyBackup backup, GradusOptions options, SchoolClock clock)
    {
        var kept = backup.Shelf.Backups();
        return new BackupsView(
            options.BacksUpByItself,
            options.BackupPassphrase is not null,
            Place(backup.Shelf, kept, backup.Failure),
            backup.Second is { } second ? Place(second, second.Backups(), backup.CopyFailure ?? NightlyBackup.Missing(second)) : null,
            [.. kept.Take(MostShown)]
        );

        BackupPlace Place(BackupShelf shelf, IReadOnlyList<ShelvedBackup> backups, string? failure)
        {
            var last = backups.Select(one => (DateTimeOffset?)one.MadeAt).FirstOrDefault(at => at <= clock.Now);
            return new BackupPlace(shelf.Folder, last, BackupRule.IsLate(last, failure is not null, clock.Now), failure);
        }
    }
}
