using Gradus.Data;
using Gradus.Server.Hosting;
using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.School;

/// <summary>
/// Backs the school up by itself: once a night, or as soon as the machine is on again; onto a second folder as well where one is named. What went
/// wrong is kept for the lead until it goes well.
/// </summary>
public sealed partial class NightlyBackup(
    GradusOptions options,
    SchoolClock clock,
    TimeProvider time,
    HeavyWork turn,
    IServiceScopeFactory scopes,
    ILogger<NightlyBackup> log
) : BackgroundService
{
    private static readonly TimeSpan AfterStart = TimeSpan.FromMinutes(2);
    private static readonly TimeSpan Every = TimeSpan.FromMinutes(10);
    private readonly SemaphoreSlim gate = new(1);
    private volatile string? failure;
    private volatile string? copyFailure;

    /// <summary>Where they lie.</summary>
    public BackupShelf Shelf { get; } = new(options.BackupFolder, options.Demo);

    /// <summary>The second folder; null where none is named.</summary>
    public BackupShelf? Second { get; } = options.BackupCopy is { } folder ? new BackupShelf(folder, options.Demo) : null;

    /// <summary>Why the last one was not made; null when it was.</summary>
    public string? Failure => failure;

    /// <summary>Why the last one does not lie in the second folder; null when it does.</summary>
    public string? CopyFailure => copyFailure;

    /// <summary>What is said of a folder that is not there: a stick that is not in. Nothing is made in its stead.</summary>
    public static string? Missing(BackupShelf shelf) => Directory.Exists(shelf.Folder) ? null : $"{shelf.Folder} is not there.";

    /// <summary>Makes one now, and puts it into the second folder.</summary>
    public async Task Make(CancellationToken cancel)
    {
        // One at a time, to its end: what another has put on the shelf and not named yet is not to be tidied away.
        await gate.WaitAsync(cancel);
        try
        {
            var began = clock.Now;
            var archive = await turn.Do(_ => BackupArchive.Make(options, options.BackupFolder, options.BackupPassphrase, began, Shelf), cancel);
            failure = null;
            await Sweep(began, cancel);
            Shelf.Tidy(clock.DayOf);
            await PutAside(archive, cancel);
        }
        catch (Exception error) when (IsOfTheDisk(error))
        {
            failure = error.Message;
            Failed(log, error);
        }
        finally
        {
            gate.Release();
        }
    }

    public override void Dispose()
    {
        gate.Dispose();
        base.Dispose();
    }

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        if (!options.BacksUpByItself)
        {
            return;
        }

        await Task.Delay(AfterStart, time, stoppingToken);
        using var timer = new PeriodicTimer(Every, time);
        do
        {
            try
            {
                if (await IsDue(stoppingToken))
                {
                    await Make(stoppingToken);
                }
            }
#pragma warning disable CA1031 // The school goes on without; the lead is told, and it is tried again.
            catch (Exception error) when (error is not OperationCanceledException)
#pragma warning restore CA1031
            {
                failure = error.Message;
                Failed(log, error);
            }
        } while (await timer.WaitForNextTickAsync(stoppingToken));
    }

    private async Task<bool> IsDue(CancellationToken cancel)
    {
        var last = Shelf.Backups().Where(one => one.ByItself).Select(one => (DateTimeOffset?)one.MadeAt).FirstOrDefault(at => at <= clock.Now);
        if (!BackupRule.IsDue(last, clock.Now, clock))
        {
            return false;
        }

        // A school that nobody has set up has nothing to lose.
        await using var scope = scopes.CreateAsyncScope();
        return await scope.ServiceProvider.GetRequiredService<GradusContext>().Schools.AnyAsync(cancel);
    }

    private async Task PutAside(string archive, CancellationToken cancel)
    {
        if (Second is not { } second)
        {
            return;
        }

        try
        {
            if (Missing(second) is { } missing)
            {
                throw new StorageException(missing);
            }

            await turn.Do(
                _ =>
                {
                    second.Take(archive);
                    second.Tidy(clock.DayOf);
                    return true;
                },
                cancel
            );
            copyFailure = null;
        }
        catch (Exception error) when (IsOfTheDisk(error))
        {
            copyFailure = error.Message;
            NotCopied(log, error);
        }
    }

    /// <summary>The files of photos that were taken back go once a backup has them.</summary>
    private async Task Sweep(DateTimeOffset began, CancellationToken cancel)
    {
        await using var scope = scopes.CreateAsyncScope();
        var db = scope.ServiceProvider.GetRequiredService<GradusContext>();
        await foreach (
            var photo in db
                .Photos.AsNoTracking()
                .Where(photo => photo.WithdrawnAt != null && photo.WithdrawnAt < began)
                .Select(photo => new { photo.CouponId, photo.Id })
                .AsAsyncEnumerable()
                .WithCancellation(cancel)
        )
        {
            PhotoNames.Delete(options.PhotoFolder, photo.CouponId, photo.Id);
        }
    }

    private static bool IsOfTheDisk(Exception error) => error is StorageException or IOException or UnauthorizedAccessException or SqliteException;

    [LoggerMessage(LogLevel.Error, "The school could not be backed up.")]
    private static partial void Failed(ILogger log, Exception error);

    [LoggerMessage(LogLevel.Error, "The backup could not be put into the second folder.")]
    private static partial void NotCopied(ILogger log, Exception error);
}
