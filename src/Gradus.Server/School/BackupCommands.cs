using System.Globalization;
using System.IO.Compression;
using Gradus.Server.Hosting;

namespace Gradus.Server.School;

/// <summary><c>backup [FOLDER]</c> and <c>restore FILE [--dry-run]</c>, as the program is started with them.</summary>
public static class BackupCommands
{
    private const string Passphrase = "GRADUS_BACKUP_PASSPHRASE";

    public static bool IsAsked(string[] args) => args is ["backup" or "restore", ..];

    /// <summary>Runs the command; the answer is the program's exit code.</summary>
    public static int Run(string[] args)
    {
        var options = GradusOptions.FromEnvironment();
        var passphrase = Environment.GetEnvironmentVariable(Passphrase) is { Length: > 0 } given ? given : null;
        try
        {
            switch (args)
            {
                case ["backup"]:
                    return Backup(options, options.BackupFolder, passphrase);
                case ["backup", var folder]:
                    return Backup(options, folder, passphrase);
                case ["restore", _, "--dry-run"]:
                    return DryRun(options, args[1]);
                case ["restore", var file] when !file.StartsWith('-'):
                    return Restore(options, file, passphrase);
                default:
                    Console.Error.WriteLine("backup [FOLDER], or restore FILE [--dry-run]");
                    return ExitCodes.Misused;
            }
        }
        catch (Exception error)
            when (error is StorageException or IOException or UnauthorizedAccessException or Microsoft.Data.Sqlite.SqliteException)
        {
            Console.Error.WriteLine(error.Message);
            return ExitCodes.StorageIll;
        }
    }

    private static int Backup(GradusOptions options, string folder, string? passphrase)
    {
        var archive = BackupArchive.Make(options, folder, passphrase, TimeProvider.System.GetUtcNow());
        Console.WriteLine($"{archive}: {new FileInfo(archive).Length / 1024:N0} kB, opened again and checked.");
        Console.WriteLine(
            passphrase is null
                ? $"The keys are not in it: after a restore everybody signs in again. Set {Passphrase} to take them along."
                : "The keys are in it, behind the passphrase."
        );
        return ExitCodes.Fine;
    }

    private static int DryRun(GradusOptions options, string file)
    {
        Says(BackupArchive.Verify(file), options);
        Console.WriteLine("Nothing was changed.");
        return ExitCodes.Fine;
    }

    private static int Restore(GradusOptions options, string file, string? passphrase)
    {
        var manifest = BackupArchive.Verify(file);
        Says(manifest, options);
        if (manifest.IsDemo != options.Demo)
        {
            throw new StorageException(
                $"This is {(manifest.IsDemo ? "the demo school: restore it with GRADUS_DEMO=1" : "no demo school: restore it without GRADUS_DEMO")}."
            );
        }

        // A server that runs has the folder: nothing is replaced under it.
        using var storage = new Storage(options);
        storage.Take();
        var coming = Path.Combine(options.DataFolder, $".restore-{Guid.NewGuid():N}");
        var aside = Path.Combine(
            options.DataFolder,
            $"replaced-{TimeProvider.System.GetUtcNow().UtcDateTime.ToString("yyyyMMdd'T'HHmmss'Z'", CultureInfo.InvariantCulture)}"
        );
        try
        {
            // All of it is unpacked before anything is moved: a full disk leaves the school as it is.
            Unpack(file, coming);
            if (manifest.HasKeys && passphrase is not null)
            {
                SealedKeys.Unseal(File.ReadAllBytes(Path.Combine(coming, BackupArchive.Keys)), passphrase, Path.Combine(coming, "keys"));
            }

            Directory.CreateDirectory(aside);
            foreach (var end in new[] { "", "-wal", "-shm" })
            {
                MoveFile(options.DatabaseFile + end, Path.Combine(aside, Path.GetFileName(options.DatabaseFile) + end));
            }

            // A photo never changes under its id: those of the backup come beside those that are there.
            MoveInto(Path.Combine(coming, "photos"), options.PhotoFolder);
            File.Move(Path.Combine(coming, BackupArchive.Database), options.DatabaseFile);
            if (Directory.Exists(Path.Combine(coming, "keys")))
            {
                MoveFolder(options.KeyFolder, Path.Combine(aside, "keys"));
                MoveFolder(Path.Combine(coming, "keys"), options.KeyFolder);
            }
        }
        finally
        {
            if (Directory.Exists(coming))
            {
                Directory.Delete(coming, recursive: true);
            }
        }

        Console.WriteLine($"Restored. What was there before is in {aside}.");
        return ExitCodes.Fine;
    }

    /// <summary>What the backup holds beside what is there.</summary>
    private static void Says(BackupManifest manifest, GradusOptions options)
    {
        Console.WriteLine(
            $"{manifest.School ?? "A school that is not set up"}{(manifest.IsDemo ? " (demo)" : "")}, backed up {manifest.MadeAt.UtcDateTime:yyyy-MM-dd HH:mm} UTC by Gradus {manifest.Program}, whole."
        );
        var there = File.Exists(options.DatabaseFile) ? DatabaseFacts.Rows(options.DatabaseFile) : [];
        Console.WriteLine(
            there.Count == 0 ? $"There is no school in {options.DataFolder} now." : "Rows that would change, as they are and as they would be:"
        );
        foreach (
            var table in there
                .Keys.Union(manifest.Rows.Keys)
                .Where(name => !name.StartsWith("__", StringComparison.Ordinal))
                .Order(StringComparer.Ordinal)
        )
        {
            var (now, then) = (there.GetValueOrDefault(table), manifest.Rows.GetValueOrDefault(table));
            if (now != then)
            {
                Console.WriteLine($"  {table, -16}{now, 10:N0} -> {then, 10:N0}{(then < now ? $"  ({now - then:N0} fewer)" : "")}");
            }
        }

        var photos = manifest.Files.Keys.Count(name =>
            name.EndsWith(".jpg", StringComparison.Ordinal) && !name.EndsWith(".small.jpg", StringComparison.Ordinal)
        );
        Console.WriteLine(
            $"  {photos:N0} photos; the keys are {(manifest.HasKeys ? $"in it, behind {Passphrase}" : "not in it, everybody signs in again")}."
        );
    }

    private static void Unpack(string file, string folder)
    {
        using var zip = ZipFile.OpenRead(file);
        var root = Path.GetFullPath(folder) + Path.DirectorySeparatorChar;
        foreach (var entry in zip.Entries)
        {
            var path = Path.GetFullPath(Path.Combine(folder, entry.FullName));
            if (!path.StartsWith(root, StringComparison.Ordinal))
            {
                throw new StorageException($"{file} is not a backup of Gradus: {entry.FullName} lies outside of it.");
            }

            Directory.CreateDirectory(Path.GetDirectoryName(path)!);
            entry.ExtractToFile(path);
        }
    }

    private static void MoveFile(string from, string to)
    {
        if (File.Exists(from))
        {
            File.Move(from, to);
        }
    }

    private static void MoveInto(string from, string to)
    {
        foreach (var file in Directory.Exists(from) ? Directory.EnumerateFiles(from, "*", SearchOption.AllDirectories) : [])
        {
            var place = Path.Combine(to, Path.GetRelativePath(from, file));
            Directory.CreateDirectory(Path.GetDirectoryName(place)!);
            File.Move(file, place, overwrite: true);
        }
    }

    private static void MoveFolder(string from, string to)
    {
        if (Directory.Exists(from))
        {
            Directory.Move(from, to);
        }
    }
}
