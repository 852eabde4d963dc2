using System.Globalization;
using System.IO.Compression;
using System.Text.Json;
using Gradus.Core;
using Gradus.Server.Hosting;
using Microsoft.Data.Sqlite;

namespace Gradus.Server.School;

/// <summary>What is in a backup, written into it as <c>manifest.json</c>.</summary>
/// <param name="Format">The version of this format.</param>
/// <param name="Migration">The last migration of the database.</param>
/// <param name="Rows">How many rows each table has.</param>
/// <param name="Files">SHA-256 in hex of each file in the archive, by its name.</param>
/// <param name="HasKeys">True when the keys are in it, behind a passphrase.</param>
/// <param name="Beside">SHA-256 in hex of each photo that lies in the folder of the archive, by its name from there; null: all are in the archive.</param>
public sealed record BackupManifest(
    int Format,
    string Program,
    DateTimeOffset MadeAt,
    string? School,
    bool IsDemo,
    string Migration,
    IReadOnlyDictionary<string, long> Rows,
    IReadOnlyDictionary<string, string> Files,
    bool HasKeys,
    IReadOnlyDictionary<string, string>? Beside = null
);

/// <summary>
/// A backup: one archive (zip) with a whole copy of the database, its photos, and, behind a passphrase, the keys. Those that are made every night
/// leave the photos in one folder beside them. It is made while the server runs, and counts only once it was opened again and checked.
/// </summary>
public static class BackupArchive
{
    public const int Format = 2;
    private const int WithPhotosInside = 1;
    public const string Database = "school.db";
    public const string Manifest = "manifest.json";
    public const string Keys = "keys.bin";
    public const string Erased = "erased.json";

    /// <summary>Makes a backup and verifies it.</summary>
    /// <param name="options">The school.</param>
    /// <param name="folder">Where it is put.</param>
    /// <param name="passphrase">Guards the keys; null leaves them out.</param>
    /// <param name="now">The moment, by which it is named.</param>
    /// <param name="shelf">For one that is made by itself: where its photos lie beside it.</param>
    /// <returns>The archive.</returns>
    /// <exception cref="StorageException">There is nothing to back up, or the backup is not whole.</exception>
    public static string Make(GradusOptions options, string folder, string? passphrase, DateTimeOffset now, BackupShelf? shelf = null)
    {
        if (!File.Exists(options.DatabaseFile))
        {
            throw new StorageException($"There is no school in {options.DataFolder} to back up.");
        }

        Directory.CreateDirectory(folder);
        var begins = $"{shelf?.Night ?? BackupShelf.ByHand}{now.UtcDateTime.ToString(BackupShelf.Stamp, CultureInfo.InvariantCulture)}";
        var archive = Path.Combine(folder, $"{begins}.zip");
        for (var count = 2; File.Exists(archive); count++)
        {
            archive = Path.Combine(folder, $"{begins}-{count}.zip");
        }

        var partial = $"{archive}.{Guid.NewGuid():N}.partial";
        var copy = partial + ".db";
        try
        {
            // The database first: a photo lies in its place before its row is written, so every row of the copy finds its photo.
            DatabaseCopy.Make(options.DatabaseFile, copy);
            Write(options, partial, copy, passphrase, now, shelf);
            Verify(partial);
            File.Move(partial, archive);
            return archive;
        }
        finally
        {
            File.Delete(copy);
            File.Delete(partial);
        }
    }

    /// <summary>What a backup says of itself.</summary>
    /// <exception cref="StorageException">It is not a backup.</exception>
    public static BackupManifest ManifestOf(string archive)
    {
        try
        {
            using var zip = ZipFile.OpenRead(archive);
            return ReadManifest(zip, archive);
        }
        catch (Exception error) when (error is InvalidDataException or JsonException)
        {
            throw new StorageException($"{archive} is not a backup of Gradus, or not whole: {error.Message}", error);
        }
    }

    /// <summary>Opens a backup and checks all that is in it, and that its photos lie beside it where they are not in it.</summary>
    /// <exception cref="StorageException">It is not a backup, or not whole.</exception>
    public static BackupManifest Verify(string archive)
    {
        var unpacked = Path.Combine(Path.GetDirectoryName(Path.GetFullPath(archive))!, $".{Guid.NewGuid():N}.check.db");
        try
        {
            using var zip = ZipFile.OpenRead(archive);
            var manifest = ReadManifest(zip, archive);
            if (HashedZip.Fault(zip, manifest.Files) is { } changed)
            {
                throw Broken(archive, changed);
            }

            var folder = Path.GetDirectoryName(Path.GetFullPath(archive))!;
            if (manifest.Beside?.Keys.Count(name => !File.Exists(Path.Combine(folder, name))) is > 0 and var missing)
            {
                throw Broken(archive, $"{missing} photos are missing in the folder {BackupShelf.PhotoFolder} beside it");
            }

            zip.GetEntry(Database)!.ExtractToFile(unpacked);
            if (DatabaseCopy.Fault(unpacked) is { } fault)
            {
                throw Broken(archive, fault);
            }

            return DatabaseFacts.Rows(unpacked).SequenceEqual(manifest.Rows.OrderBy(one => one.Key, StringComparer.Ordinal))
                ? manifest
                : throw Broken(archive, "rows are missing");
        }
        catch (InvalidDataException error)
        {
            throw new StorageException($"{archive} is not a backup of Gradus, or not whole: {error.Message}", error);
        }
        catch (JsonException error)
        {
            throw new StorageException($"{archive} is not a backup of Gradus: its manifest cannot be read.", error);
        }
        finally
        {
            File.Delete(unpacked);
        }
    }

    private static BackupManifest ReadManifest(ZipArchive zip, string archive)
    {
        using var stream = (zip.GetEntry(Manifest) ?? throw Broken(archive, "it has no manifest")).Open();
        var manifest = JsonSerializer.Deserialize<BackupManifest>(stream, CoreJson.Options) ?? throw Broken(archive, "its manifest is empty");
        return manifest.Format > Format
                ? throw new StorageException($"{archive} was made by a newer Gradus ({manifest.Program}). Restore it with that one.")
            : manifest.Files.ContainsKey(Database) && zip.GetEntry(Database) is not null ? manifest
            : throw Broken(archive, "it has no database");
    }

    private static void Write(GradusOptions options, string partial, string copy, string? passphrase, DateTimeOffset now, BackupShelf? shelf)
    {
        using var file = new FileStream(partial, FileMode.CreateNew, FileAccess.ReadWrite);
        using (var zip = new ZipArchive(file, ZipArchiveMode.Create, leaveOpen: true))
        {
            var files = new SortedDictionary<string, string>(StringComparer.Ordinal) { [Database] = Add(zip, Database, File.OpenRead(copy)) };
            var beside = shelf is null ? null : new SortedDictionary<string, string>(StringComparer.Ordinal);
            var known = beside is null ? null : HashesOfTheLast(shelf!);
            foreach (var photo in PhotoFiles(copy))
            {
                // One that is missing is missing in the school as well; the bench asks for it.
                var (path, name) = (Path.Combine(options.PhotoFolder, photo), $"{BackupShelf.PhotoFolder}/{photo}");
                if (!File.Exists(path))
                {
                    continue;
                }

                if (beside is null)
                {
                    files[name] = Add(zip, name, File.OpenRead(path));
                }
                else
                {
                    var place = Path.Combine(shelf!.Folder, name);
                    beside[name] = File.Exists(place) && known!.TryGetValue(name, out var hash) ? hash : BackupShelf.Copy(path, place);
                }
            }

            if (File.Exists(options.ErasureFile))
            {
                files[Erased] = Add(zip, Erased, File.OpenRead(options.ErasureFile));
            }

            var hasKeys = passphrase is not null && Directory.Exists(options.KeyFolder);
            if (hasKeys)
            {
                files[Keys] = Add(zip, Keys, new MemoryStream(SealedKeys.Seal(options, passphrase!)));
            }

            var (school, isDemo) = DatabaseFacts.School(copy);
            var manifest = new BackupManifest(
                beside is null ? WithPhotosInside : Format,
                ThisProgram.Version,
                now,
                school,
                isDemo,
                DatabaseFacts.Migration(copy),
                DatabaseFacts.Rows(copy),
                files,
                hasKeys,
                beside
            );
            Add(zip, Manifest, new MemoryStream(JsonSerializer.SerializeToUtf8Bytes(manifest, CoreJson.Options)));
        }

        file.Flush(flushToDisk: true);
    }

    /// <summary>The files of photos, reports and scans that a database names, as they lie in the folder of the photos.</summary>
    internal static IEnumerable<string> PhotoFiles(string database) =>
        DatabaseFacts
            .Photos(database)
            .SelectMany(one => PhotoNames.Both(one.Coupon, one.Photo))
            .Concat(DatabaseFacts.Given(database).Select(one => $"{one.Owner}/{one.File}.given"))
            .Concat(DatabaseFacts.Traces(database).Select(one => PhotoNames.Trace(one.Device, one.Trace)));

    private static IReadOnlyDictionary<string, string> HashesOfTheLast(BackupShelf shelf) =>
        shelf.Backups().FirstOrDefault(one => one.ByItself) is { } last
            ? ManifestOf(Path.Combine(shelf.Folder, last.Name)).Beside ?? new Dictionary<string, string>()
            : new Dictionary<string, string>();

    private static string Add(ZipArchive zip, string name, Stream from)
    {
        using var source = from;
        return HashedZip.Add(zip, name, CompressionLevel.Fastest, source.CopyTo);
    }

    private static StorageException Broken(string archive, string why) => new($"{archive} is not whole: {why}. Take an older backup.");
}

/// <summary>What a database file holds, read without the program's own model: an older one answers as well.</summary>
public static class DatabaseFacts
{
    /// <summary>How many rows each table has, by its name.</summary>
    public static SortedDictionary<string, long> Rows(string database)
    {
        using var connection = DatabaseCopy.Open(database, SqliteOpenMode.ReadOnly);
        var tables = Read(
            connection,
            "SELECT name FROM sqlite_master WHERE type = 'table' AND name NOT LIKE 'sqlite_%' ORDER BY name",
            row => row.GetString(0)
        );
        var rows = new SortedDictionary<string, long>(StringComparer.Ordinal);
        foreach (var table in tables)
        {
            rows[table] = Read(connection, $"SELECT COUNT(*) FROM \"{table}\"", row => row.GetInt64(0))[0];
        }

        return rows;
    }

    /// <summary>The photos that stand, as coupon and photo.</summary>
    public static IReadOnlyList<(Guid Coupon, Guid Photo)> Photos(string database)
    {
        using var connection = DatabaseCopy.Open(database, SqliteOpenMode.ReadOnly);
        return HasTable(connection, "Photos")
            ? Read(connection, "SELECT CouponId, Id FROM Photos ORDER BY Id", row => (row.GetGuid(0), row.GetGuid(1)))
            : [];
    }

    /// <summary>The reports and scans, as whose and which.</summary>
    public static IReadOnlyList<(Guid Owner, Guid File)> Given(string database)
    {
        using var connection = DatabaseCopy.Open(database, SqliteOpenMode.ReadOnly);
        return HasTable(connection, "SittingFiles")
            ? Read(connection, "SELECT OwnerId, Id FROM SittingFiles ORDER BY Id", row => (row.GetGuid(0), row.GetGuid(1)))
            : [];
    }

    /// <summary>The traces whose measurements are kept, as of which device and which.</summary>
    public static IReadOnlyList<(Guid Device, Guid Trace)> Traces(string database)
    {
        using var connection = DatabaseCopy.Open(database, SqliteOpenMode.ReadOnly);
        return HasTable(connection, "Traces")
            ? Read(connection, "SELECT DeviceId, Id FROM Traces WHERE RawGoneAt IS NULL ORDER BY Id", row => (row.GetGuid(0), row.GetGuid(1)))
            : [];
    }

    /// <summary>The name of the school, null before it is set up; and whether it is the demo.</summary>
    public static (string? Name, bool IsDemo) School(string database)
    {
        using var connection = DatabaseCopy.Open(database, SqliteOpenMode.ReadOnly);
        return Read(connection, "SELECT Name, IsDemo FROM Schools LIMIT 1", row => ((string?)row.GetString(0), row.GetBoolean(1))).FirstOrDefault();
    }

    /// <summary>The last migration that was applied.</summary>
    public static string Migration(string database)
    {
        using var connection = DatabaseCopy.Open(database, SqliteOpenMode.ReadOnly);
        return Read(connection, "SELECT MAX(MigrationId) FROM __EFMigrationsHistory", row => row.GetString(0))[0];
    }

    private static bool HasTable(SqliteConnection connection, string name) =>
        Read(connection, $"SELECT 1 FROM sqlite_master WHERE type = 'table' AND name = '{name}'", row => row.GetInt32(0)).Count > 0;

    private static List<T> Read<T>(SqliteConnection connection, string sql, Func<SqliteDataReader, T> map)
    {
        using var command = connection.CreateCommand();
        command.CommandText = sql;
        using var reader = command.ExecuteReader();
        var found = new List<T>();
        while (reader.Read())
        {
            found.Add(map(reader));
        }

        return found;
    }
}
