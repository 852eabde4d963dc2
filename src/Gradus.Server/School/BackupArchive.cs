using System.IO.Compression;
using System.Security.Cryptography;
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
public sealed record BackupManifest(
    int Format,
    string Program,
    DateTimeOffset MadeAt,
    string? School,
    bool IsDemo,
    string Migration,
    IReadOnlyDictionary<string, long> Rows,
    IReadOnlyDictionary<string, string> Files,
    bool HasKeys
);

/// <summary>
/// A backup: one archive (zip) with a whole copy of the database, its photos, and, behind a passphrase, the keys. It is made while the server
/// runs, and counts only once it was opened again and checked.
/// </summary>
public static class BackupArchive
{
    public const int Format = 1;
    public const string Database = "school.db";
    public const string Manifest = "manifest.json";
    public const string Keys = "keys.bin";
    private const string PhotoFolder = "photos";

    /// <summary>Makes a backup and verifies it.</summary>
    /// <param name="passphrase">Guards the keys; null leaves them out.</param>
    /// <returns>The archive.</returns>
    /// <exception cref="StorageException">There is nothing to back up, or the backup is not whole.</exception>
    public static string Make(GradusOptions options, string folder, string? passphrase, DateTimeOffset now)
    {
        if (!File.Exists(options.DatabaseFile))
        {
            throw new StorageException($"There is no school in {options.DataFolder} to back up.");
        }

        Directory.CreateDirectory(folder);
        var archive = Path.Combine(folder, $"gradus-{now.UtcDateTime:yyyyMMdd'T'HHmmss'Z'}.zip");
        for (var count = 2; File.Exists(archive); count++)
        {
            archive = Path.Combine(folder, $"gradus-{now.UtcDateTime:yyyyMMdd'T'HHmmss'Z'}-{count}.zip");
        }

        var partial = $"{archive}.{Guid.NewGuid():N}.partial";
        var copy = partial + ".db";
        try
        {
            // The database first: a photo lies in its place before its row is written, so every row of the copy finds its photo.
            DatabaseCopy.Make(options.DatabaseFile, copy);
            Write(options, partial, copy, passphrase, now);
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

    /// <summary>Opens a backup and checks all that is in it.</summary>
    /// <exception cref="StorageException">It is not a backup, or not whole.</exception>
    public static BackupManifest Verify(string archive)
    {
        var unpacked = Path.Combine(Path.GetDirectoryName(Path.GetFullPath(archive))!, $".{Guid.NewGuid():N}.check.db");
        try
        {
            using var zip = ZipFile.OpenRead(archive);
            var manifest = ReadManifest(zip, archive);
            foreach (var (name, hash) in manifest.Files)
            {
                using var stream = (zip.GetEntry(name) ?? throw Broken(archive, $"{name} is missing")).Open();
                if (Convert.ToHexStringLower(SHA256.HashData(stream)) != hash)
                {
                    throw Broken(archive, $"{name} is not what it was");
                }
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

    private static void Write(GradusOptions options, string partial, string copy, string? passphrase, DateTimeOffset now)
    {
        using var file = new FileStream(partial, FileMode.CreateNew, FileAccess.ReadWrite);
        using (var zip = new ZipArchive(file, ZipArchiveMode.Create, leaveOpen: true))
        {
            var files = new SortedDictionary<string, string>(StringComparer.Ordinal) { [Database] = Add(zip, Database, File.OpenRead(copy)) };
            foreach (var (coupon, photo) in DatabaseFacts.Photos(copy))
            {
                foreach (var name in new[] { $"{photo}.jpg", $"{photo}.small.jpg" })
                {
                    // One that is missing is missing in the school as well; the bench asks for it.
                    var path = Path.Combine(options.PhotoFolder, coupon.ToString(), name);
                    if (File.Exists(path))
                    {
                        files[$"{PhotoFolder}/{coupon}/{name}"] = Add(zip, $"{PhotoFolder}/{coupon}/{name}", File.OpenRead(path));
                    }
                }
            }

            foreach (var (owner, given) in DatabaseFacts.Given(copy))
            {
                var name = $"{owner}/{given}.given";
                var path = Path.Combine(options.PhotoFolder, name);
                if (File.Exists(path))
                {
                    files[$"{PhotoFolder}/{name}"] = Add(zip, $"{PhotoFolder}/{name}", File.OpenRead(path));
                }
            }

            var hasKeys = passphrase is not null && Directory.Exists(options.KeyFolder);
            if (hasKeys)
            {
                files[Keys] = Add(zip, Keys, new MemoryStream(SealedKeys.Seal(options.KeyFolder, passphrase!)));
            }

            var (school, isDemo) = DatabaseFacts.School(copy);
            var manifest = new BackupManifest(
                Format,
                ThisProgram.Version,
                now,
                school,
                isDemo,
                DatabaseFacts.Migration(copy),
                DatabaseFacts.Rows(copy),
                files,
                hasKeys
            );
            Add(zip, Manifest, new MemoryStream(JsonSerializer.SerializeToUtf8Bytes(manifest, CoreJson.Options)));
        }

        file.Flush(flushToDisk: true);
    }

    private static string Add(ZipArchive zip, string name, Stream from)
    {
        using var source = from;
        using var hash = SHA256.Create();
        using var entry = zip.CreateEntry(
                name,
                name.EndsWith(".jpg", StringComparison.Ordinal) ? CompressionLevel.NoCompression : CompressionLevel.Fastest
            )
            .Open();
        using (var both = new CryptoStream(entry, hash, CryptoStreamMode.Write, leaveOpen: true))
        {
            source.CopyTo(both);
        }

        return Convert.ToHexStringLower(hash.Hash!);
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
