using System.Globalization;
using System.IO.Compression;
using Gradus.Server.Hosting;

namespace Gradus.Server.School;

/// <summary><c>backup [FOLDER]</c> and <c>restore FILE [--dry-run]</c>, as the program is started with them.</summary>
public static class BackupCommands
{
    private const string Passphrase = GradusOptions.PassphraseName;

    public static bool IsAsked(string[] args) => args is ["backup" or "restore", ..];

    /// <summary>Runs the command on the school that the environment names; the answer is the program's exit code.</summary>
    public static int Run(string[] args) => Run(args, GradusOptions.FromEnvironment(), Console.Out, Console.Error);

    /// <summary>Runs the command; the answer is the program's exit code.</summary>
    public static int Run(string[] args, GradusOptions options, TextWriter says, TextWriter complains)
    {
        var passphrase = options.BackupPassphrase;
        try
        {
            switch (args)
            {
                case ["backup"]:
                    return Backup(options, options.BackupFolder, passphrase, says);
                case ["backup", var folder]:
                    return Backup(options, folder, passphrase, says);
                case ["restore", _, "--dry-run"]:
                    return DryRun(options, args[1], says);
                case ["restore", var file] when !file.StartsWith('-'):
                    return Restore(options, file, passphrase, says);
                default:
                    complains.WriteLine("backup [FOLDER], or restore FILE [--dry-run]");
                    return ExitCodes.Misused;
            }
        }
        catch (Exception error)
            when (error is StorageException or IOException or UnauthorizedAccessException or Microsoft.Data.Sqlite.SqliteException)
        {
            complains.WriteLine(error.Message);
            return ExitCodes.StorageIll;
        }
    }

    private static int Backup(GradusOptions options, string folder, string? passphrase, TextWriter says)
    {
        var archive = BackupArchive.Make(options, folder, passphrase, TimeProvider.System.GetUtcNow());
        says.WriteLine($"{archive}: {new FileInfo(archive).Length / 1024:N0} kB, opened again and checked.");
        says.WriteLine(
            passphrase is null
                ? $"The keys are not in it: after a restore everybody signs in again. Set {Passphrase} to take them along."
                : "The keys are in it, behind the passphrase."
        );
        return ExitCodes.Fine;
    }

    private static int DryRun(GradusOptions options, string file, TextWriter says)
    {
        Compare(BackupArchive.Verify(file), options, says);
        says.WriteLine("Nothing was changed.");
        return ExitCodes.Fine;
    }

    private static int Restore(GradusOptions options, string file, string? passphrase, TextWriter says)
    {
        var manifest = BackupArchive.Verify(file);
        Compare(manifest, options, says);
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
            Fetch(manifest, file, coming);
            if (manifest.HasKeys && passphrase is not null)
            {
                SealedKeys.Unseal(
                    File.ReadAllBytes(Path.Combine(coming, BackupArchive.Keys)),
                    passphrase,
                    Path.Combine(coming, "keys"),
                    Path.Combine(coming, "certificates")
                );
            }

            Directory.CreateDirectory(aside);
            foreach (var end in new[] { "", "-wal", "-shm" })
            {
                MoveFile(options.DatabaseFile + end, Path.Combine(aside, Path.GetFileName(options.DatabaseFile) + end));
            }

            // Whoever was erased since, or before, stays so: the next start goes through the list.
            ErasureList.Merge(Path.Combine(coming, BackupArchive.Erased), options.ErasureFile);

            // A photo never changes under its id: those of the backup come beside those that are there.
            MoveInto(Path.Combine(coming, "photos"), options.PhotoFolder);
            File.Move(Path.Combine(coming, BackupArchive.Database), options.DatabaseFile);
            foreach (var folder in new[] { options.KeyFolder, options.CertificateFolder })
            {
                var name = Path.GetFileName(folder);
                if (Directory.Exists(Path.Combine(coming, name)))
                {
                    MoveFolder(folder, Path.Combine(aside, name));
                    MoveFolder(Path.Combine(coming, name), folder);
                }
            }
        }
        finally
        {
            if (Directory.Exists(coming))
            {
                Directory.Delete(coming, recursive: true);
            }
        }

        says.WriteLine($"Restored. What was there before is in {aside}.");
        return ExitCodes.Fine;
    }

    /// <summary>What the backup holds beside what is there.</summary>
    private static void Compare(BackupManifest manifest, GradusOptions options, TextWriter says)
    {
        says.WriteLine(
            $"{manifest.School ?? "A school that is not set up"}{(manifest.IsDemo ? " (demo)" : "")}, backed up {manifest.MadeAt.UtcDateTime:yyyy-MM-dd HH:mm} UTC by Gradus {manifest.Program}, whole."
        );
        if (RowsThere(options.DatabaseFile) is not { } there)
        {
            says.WriteLine($"{options.DatabaseFile} cannot be read.");
            there = [];
        }

        says.WriteLine(
            there.Count == 0
                ? $"There is no school that can be read in {options.DataFolder} now."
                : "Rows that would change, as they are and as they would be:"
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
                says.WriteLine($"  {table, -16}{now, 10:N0} -> {then, 10:N0}{(then < now ? $"  ({now - then:N0} fewer)" : "")}");
            }
        }

        var photos = manifest
            .Files.Keys.Concat(manifest.Beside?.Keys ?? [])
            .Count(name => name.EndsWith(".jpg", StringComparison.Ordinal) && !name.EndsWith(".small.jpg", StringComparison.Ordinal));
        says.WriteLine(
            $"  {photos:N0} photos; the keys are {(manifest.HasKeys ? $"in it, behind {Passphrase}" : "not in it, everybody signs in again")}."
        );
    }

    /// <summary>What is there now; null when it is damaged, which is when a backup is wanted most.</summary>
    private static SortedDictionary<string, long>? RowsThere(string database)
    {
        try
        {
            return File.Exists(database) ? DatabaseFacts.Rows(database) : [];
        }
        catch (Microsoft.Data.Sqlite.SqliteException)
        {
            return null;
        }
    }

    private static void Unpack(string file, string folder)
    {
        using var zip = ZipFile.OpenRead(file);
        foreach (var entry in zip.Entries)
        {
            var path = Inside(folder, entry.FullName, file);
            Directory.CreateDirectory(Path.GetDirectoryName(path)!);
            entry.ExtractToFile(path);
        }
    }

    /// <summary>Photos that lie beside the backup are fetched, and are what they were.</summary>
    private static void Fetch(BackupManifest manifest, string file, string folder)
    {
        var shelf = Path.GetDirectoryName(Path.GetFullPath(file))!;
        foreach (var (name, hash) in manifest.Beside ?? new Dictionary<string, string>())
        {
            var place = Inside(folder, name, file);
            if (BackupShelf.Copy(Inside(shelf, name, file), place) != hash)
            {
                throw new StorageException($"{Path.Combine(shelf, name)} is not what it was. Take an older backup.");
            }
        }
    }

    private static string Inside(string folder, string name, string file) =>
        HashedZip.PlaceOf(folder, name) ?? throw new StorageException($"{file} is not a backup of Gradus: {name} lies outside of it.");

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
