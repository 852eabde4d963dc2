using Gradus.Data;
using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

namespace Gradus.Server.Hosting;

/// <summary>The school's data cannot be used; the message is a sentence for whoever runs the program, with what to do.</summary>
public sealed class StorageException(string message, Exception? inner = null) : Exception(message, inner);

/// <summary>The folder of the school's data: held by one program at a time, and watched while it runs.</summary>
public sealed class Storage(GradusOptions options) : IDisposable
{
    private const string LockName = "gradus.lock";
    private const int TriesToEnd = 40;
    private const int TryAgainMs = 50;
    private readonly Lock gate = new();
    private FileStream? folderLock;
    private FileStream? watched;
    private string? place;
    private SqliteConnection? probe;
    private string? schoolId;
    private volatile string? illness;

    /// <summary>Takes the folder, so that no other program writes into it.</summary>
    /// <exception cref="StorageException">It cannot be made or written to, or another program has it.</exception>
    public void Take()
    {
        try
        {
            Directory.CreateDirectory(options.DataFolder);
            folderLock = new FileStream(Path.Combine(options.DataFolder, LockName), FileMode.OpenOrCreate, FileAccess.ReadWrite, FileShare.None);
        }
        catch (UnauthorizedAccessException error)
        {
            throw new StorageException(
                $"The folder {options.DataFolder} cannot be written to. Give the user that runs Gradus the right to, or name another folder in GRADUS_DATA.",
                error
            );
        }
        catch (IOException error) when (StorageIll.IsFull(error))
        {
            throw new StorageException($"The disk of {options.DataFolder} is full. Make room and start again.", error);
        }
        catch (IOException error)
        {
            throw new StorageException(
                $"Another Gradus runs on the folder {options.DataFolder}. Stop it first, or give this one a folder of its own in GRADUS_DATA.",
                error
            );
        }
    }

    /// <summary>Looks at the database before it is touched.</summary>
    /// <exception cref="StorageException">It is damaged, cannot be written to, or is missing though its log is there.</exception>
    public void Inspect()
    {
        var file = options.DatabaseFile;
        if (!File.Exists(file))
        {
            if (File.Exists(file + "-wal") && new FileInfo(file + "-wal").Length > 0)
            {
                throw new StorageException(
                    $"{file} is missing, though its write-ahead log is there. Put the file back, or restore a backup: ./gradus restore FILE. To begin anew, move {file}-wal away."
                );
            }

            return;
        }

        try
        {
            using var stream = new FileStream(file, FileMode.Open, FileAccess.ReadWrite, FileShare.ReadWrite);
            Span<byte> head = stackalloc byte[16];
            var read = stream.ReadAtLeast(head, head.Length, throwOnEndOfStream: false);
            if (read > 0 && !head[..read].SequenceEqual("SQLite format 3\0"u8))
            {
                throw Damaged(file, null);
            }
        }
        catch (UnauthorizedAccessException error)
        {
            throw ReadOnly(file, error);
        }
        catch (IOException error)
        {
            throw ReadOnly(file, error);
        }
    }

    /// <summary>Brings the database up to date; a copy of it as it was is kept first.</summary>
    /// <exception cref="StorageException">It is damaged, cannot be written to, belongs to a newer program, or the disk is full.</exception>
    public async Task Migrate(GradusContext db, CancellationToken cancel)
    {
        try
        {
            var known = db.GetService<IMigrationsAssembly>().Migrations.Keys;
            var applied = (await db.Database.GetAppliedMigrationsAsync(cancel)).ToList();
            if (applied.Except(known).ToList() is { Count: > 0 } newer)
            {
                throw new StorageException(
                    $"{options.DatabaseFile} was made by a newer Gradus ({newer[^1]}). Run that one or a later one; nothing was changed."
                );
            }

            if (applied.Count > 0 && known.Count() > applied.Count)
            {
                // Nobody else can be migrating: the folder is ours. What a killed migration left behind is in the way.
                await db.Database.ExecuteSqlRawAsync("DROP TABLE IF EXISTS \"__EFMigrationsLock\"", cancel);
                // Named by what comes next: one that was killed half way keeps the copy from before it.
                DatabaseCopy.Make(
                    options.DatabaseFile,
                    Path.Combine(
                        Directory.CreateDirectory(options.BackupFolder).FullName,
                        $"{Path.GetFileNameWithoutExtension(options.DatabaseFile)}-before-{known.Except(applied).First()}.db"
                    )
                );
            }

            if (known.Count() > applied.Count)
            {
                await db.Database.MigrateAsync(cancel);
            }
        }
        catch (Exception error) when (StorageIll.CodeOf(error) is { } code)
        {
            throw code switch
            {
                SqliteCodes.Full => new StorageException(
                    $"The disk of {options.DataFolder} is full. Make room and start again; nothing was changed.",
                    error
                ),
                SqliteCodes.Corrupt or SqliteCodes.NotADatabase => Damaged(options.DatabaseFile, error),
                SqliteCodes.ReadOnly or SqliteCodes.CannotOpen => ReadOnly(options.DatabaseFile, error),
                _ => new StorageException($"{options.DatabaseFile} cannot be used: {error.GetBaseException().Message}", error),
            };
        }
    }

    /// <summary>Watches the database from now on: this very file has to stay in its place.</summary>
    public void Watch()
    {
        lock (gate)
        {
            // Kept open to the end: closing any handle of the file would drop the locks that SQLite has on it in this process.
            watched = new FileStream(options.DatabaseFile, FileMode.Open, FileAccess.Read, FileShare.ReadWrite | FileShare.Delete);
            place = PlaceOf(watched);
            probe = new SqliteConnection(new SqliteConnectionStringBuilder { DataSource = options.DatabaseFile, Pooling = false }.ToString());
            probe.Open();
        }
    }

    /// <summary>Why the data cannot be used any more, in a sentence; null while it can. Costs next to nothing.</summary>
    public string? Illness
    {
        get
        {
            if (illness is null && watched is { } file && PlaceOf(file) != place)
            {
                illness =
                    $"The database file was moved, replaced or deleted while Gradus ran: nothing more is saved. Put {options.DatabaseFile} back or restore a backup, and start Gradus again.";
            }

            return illness;
        }
    }

    /// <summary>As <see cref="Illness"/>, having read from the database.</summary>
    public string? Examine()
    {
        if (Illness is { } known)
        {
            return known;
        }

        lock (gate)
        {
            if (probe is null)
            {
                return "The database is being brought up to date.";
            }

            try
            {
                using var command = probe.CreateCommand();
                command.CommandText = "SELECT Id FROM Schools LIMIT 1";
                var id = command.ExecuteScalar() as string;
                schoolId ??= id;
                if (id != schoolId)
                {
                    illness = $"{options.DatabaseFile} is another school's now. Put the right file back, and start Gradus again.";
                }

                return illness;
            }
            catch (SqliteException error)
            {
                return StorageIll.Sentence(error.SqliteErrorCode);
            }
        }
    }

    /// <summary>Leaves the file whole: what stands in the write-ahead log is brought into it, and nothing of it is held open.</summary>
    public void Dispose()
    {
        // A connection that is just being given back keeps the log busy for a moment.
        for (var tries = 0; probe is not null && Illness is null && tries < TriesToEnd && !IsLogBroughtIn(probe); tries++)
        {
            Thread.Sleep(TryAgainMs);
        }

        probe?.Dispose();
        watched?.Dispose();
        folderLock?.Dispose();
    }

    private bool IsLogBroughtIn(SqliteConnection connection)
    {
        SqliteSetup.CloseIdle(options.DatabaseFile);
        using var command = connection.CreateCommand();
        command.CommandText = "PRAGMA wal_checkpoint(TRUNCATE)";
        return command.ExecuteScalar() is 0L; // 1: something still reads
    }

    // Linux shows of an open file where it lies now: elsewhere when it was moved, "(deleted)" when it was deleted or replaced.
    private static string? PlaceOf(FileStream file) => new FileInfo($"/proc/self/fd/{file.SafeFileHandle.DangerousGetHandle()}").LinkTarget;

    private static StorageException Damaged(string file, Exception? inner) =>
        new(
            $"{file} is damaged. Restore the latest backup: ./gradus restore FILE (with --dry-run first). The damaged file is kept beside it.",
            inner
        );

    private static StorageException ReadOnly(string file, Exception inner) =>
        new($"{file} cannot be read and written. Give the user that runs Gradus the right to, and start again.", inner);
}
