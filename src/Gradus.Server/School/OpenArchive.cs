using System.Globalization;
using System.IO.Compression;
using System.Text;
using System.Text.Json;
using Gradus.Core;
using Gradus.Data;
using Gradus.Server.Hosting;
using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.School;

/// <summary>What is in an open archive, written into it as <c>manifest.json</c>.</summary>
/// <param name="Format">Always <c>gradus-archive</c>.</param>
/// <param name="Version">Of the format.</param>
/// <param name="Migration">The last migration of the database that it was made of.</param>
/// <param name="Nameless">True when nobody is named in it: to be counted, not to be read back.</param>
/// <param name="Lines">How many lines each kind has.</param>
/// <param name="Files">SHA-256 in hex of each file, by its name.</param>
public sealed record ArchiveManifest(
    string Format,
    int Version,
    string Program,
    DateTimeOffset MadeAt,
    string School,
    bool IsDemo,
    string Migration,
    bool Nameless,
    IReadOnlyDictionary<string, long> Lines,
    IReadOnlyDictionary<string, string> Files
);

/// <summary>
/// The whole school in open formats: a zip with one file of JSON lines and one JSON Schema for each kind, the photos and scans as they were given, and
/// a manifest with checksums. Another Gradus reads it to the same answers, and any other program can read it.
/// </summary>
public static class OpenArchive
{
    public const string Format = "gradus-archive";
    public const string Manifest = "manifest.json";
    private const string Given = "files/";
    private static readonly byte[] EndOfLine = [(byte)'\n'];
    private static readonly JsonSerializerOptions Readable = new(CoreJson.Options) { WriteIndented = true };

    /// <summary>Writes the school into an archive.</summary>
    /// <param name="nameless">Leaves out who people are, and what they wrote in words: for whoever counts.</param>
    /// <returns>The archive's place.</returns>
    /// <exception cref="StorageException">There is no school.</exception>
    public static string Make(GradusOptions options, string folder, bool nameless, DateTimeOffset now)
    {
        if (!File.Exists(options.DatabaseFile))
        {
            throw new StorageException($"There is no school in {options.DataFolder}.");
        }

        Directory.CreateDirectory(folder);
        var archive = Path.Combine(
            folder,
            $"school{(nameless ? "-nameless" : "")}-{now.UtcDateTime.ToString("yyyyMMdd'T'HHmmss'Z'", CultureInfo.InvariantCulture)}.zip"
        );
        if (File.Exists(archive))
        {
            throw new StorageException($"{archive} is there already.");
        }

        var partial = $"{archive}.{Guid.NewGuid():N}.partial";
        var copy = partial + ".db";
        try
        {
            DatabaseCopy.Make(options.DatabaseFile, copy);
            Write(options, partial, copy, nameless, now);
            Check(partial);
            File.Move(partial, archive);
            return archive;
        }
        finally
        {
            File.Delete(copy);
            File.Delete(partial);
        }
    }

    /// <summary>The schema of a kind, as it lies in an archive and in the project's documents.</summary>
    public static string SchemaText(ArchiveKind kind) => ArchiveKinds.Schema(kind).ToJsonString(Readable);

    /// <summary>What an archive says of itself, once each of its files was held against its checksum.</summary>
    /// <exception cref="StorageException">It is none, of a later version, or not whole.</exception>
    public static ArchiveManifest Check(string archive)
    {
        try
        {
            using var zip = ZipFile.OpenRead(archive);
            var manifest = Read(zip, archive);
            return HashedZip.Fault(zip, manifest.Files) is { } fault ? throw new StorageException($"{archive} is not whole: {fault}.") : manifest;
        }
        catch (Exception error) when (error is InvalidDataException or JsonException or FileNotFoundException)
        {
            throw new StorageException($"{archive} is not an archive of a school: {error.Message}", error);
        }
    }

    /// <summary>Reads an archive into an empty folder of data: the school is there at the next start.</summary>
    /// <returns>How many lines of each kind were read.</returns>
    /// <exception cref="StorageException">There is a school already, or a line is not what its schema says: nothing was changed.</exception>
    public static IReadOnlyDictionary<string, long> Take(string archive, GradusOptions options)
    {
        var manifest = Check(archive);
        if (manifest.Nameless)
        {
            throw new StorageException($"{archive} names nobody: it is there to be counted, and no school can be made of it.");
        }

        if (manifest.IsDemo != options.Demo)
        {
            throw new StorageException(
                $"This is {(manifest.IsDemo ? "the demo school: read it with GRADUS_DEMO=1" : "no demo school: read it without GRADUS_DEMO")}."
            );
        }

        using var storage = new Storage(options);
        storage.Take();
        if (File.Exists(options.DatabaseFile))
        {
            throw new StorageException($"There is a school in {options.DataFolder} already. Give an empty folder in GRADUS_DATA.");
        }

        var coming = Path.Combine(options.DataFolder, $".import-{Guid.NewGuid():N}.db");
        try
        {
            Empty(coming, manifest, archive);
            using var zip = ZipFile.OpenRead(archive);
            Fill(coming, zip, archive);
            if (DatabaseCopy.Fault(coming) is { } fault)
            {
                throw new StorageException($"{archive} does not hold together: {fault}.");
            }

            foreach (var name in manifest.Files.Keys.Where(name => name.StartsWith(Given, StringComparison.Ordinal)))
            {
                var place =
                    HashedZip.PlaceOf(options.PhotoFolder, name[Given.Length..])
                    ?? throw new StorageException($"{archive} is not an archive of a school: {name} lies outside of it.");
                Directory.CreateDirectory(Path.GetDirectoryName(place)!);
                zip.GetEntry(name)!.ExtractToFile(place, overwrite: true);
            }

            zip.GetEntry(BackupArchive.Erased)?.ExtractToFile(options.ErasureFile, overwrite: true);
            File.Move(coming, options.DatabaseFile);
            return manifest.Lines;
        }
        finally
        {
            foreach (var end in new[] { "", "-wal", "-shm" })
            {
                File.Delete(coming + end);
            }
        }
    }

    /// <summary>Joins archives of several schools in one database that is there to be asked: a table for each kind, with the school in front.</summary>
    /// <returns>How many lines were joined.</returns>
    /// <exception cref="StorageException">An archive is not whole, or the database is there already.</exception>
    public static long Join(string database, IReadOnlyList<string> archives)
    {
        if (File.Exists(database))
        {
            throw new StorageException($"{database} is there already.");
        }

        var partial = database + ".partial";
        File.Delete(partial);
        long joined = 0;
        try
        {
            using (var connection = DatabaseCopy.Open(partial, SqliteOpenMode.ReadWriteCreate))
            {
                using var whole = connection.BeginTransaction();
                foreach (var kind in ArchiveKinds.All)
                {
                    Execute(
                        connection,
                        $"CREATE TABLE \"{kind.Name}\" (school TEXT NOT NULL, {string.Join(", ", kind.Members.Select(one => $"\"{one.Name}\""))})"
                    );
                }

                foreach (var archive in archives)
                {
                    var manifest = Check(archive);
                    using var zip = ZipFile.OpenRead(archive);
                    foreach (var kind in ArchiveKinds.All)
                    {
                        string[] columns = ["school", .. kind.Members.Select(one => one.Name)];
                        using var insert = Insert(connection, kind.Name, columns);
                        foreach (var line in Lines(zip, kind, archive))
                        {
                            insert.Parameters[0].Value = manifest.School;
                            for (var at = 0; at < kind.Members.Count; at++)
                            {
                                insert.Parameters[at + 1].Value = line.TryGetProperty(kind.Members[at].Name, out var value)
                                    ? Plain(value)
                                    : DBNull.Value;
                            }

                            joined += insert.ExecuteNonQuery();
                        }
                    }
                }

                whole.Commit();
            }

            File.Move(partial, database);
            return joined;
        }
        finally
        {
            File.Delete(partial);
        }
    }

    private static object Plain(JsonElement value) =>
        value.ValueKind switch
        {
            JsonValueKind.String => value.GetString()!,
            JsonValueKind.True => 1L,
            JsonValueKind.False => 0L,
            JsonValueKind.Number => value.TryGetInt64(out var whole) ? whole : value.GetDouble(),
            JsonValueKind.Null => DBNull.Value,
            _ => value.GetRawText(),
        };

    private static ArchiveManifest Read(ZipArchive zip, string archive)
    {
        using var stream = (
            zip.GetEntry(Manifest) ?? throw new StorageException($"{archive} is not an archive of a school: it has no manifest.")
        ).Open();
        var manifest = JsonSerializer.Deserialize<ArchiveManifest>(stream, CoreJson.Options);
        return manifest is not { Format: Format } ? throw new StorageException($"{archive} is not an archive of a school.")
            : manifest.Version > ArchiveKinds.Version
                ? throw new StorageException($"{archive} was made by a newer Gradus ({manifest.Program}). Read it with that one.")
            : manifest;
    }

    private static void Write(GradusOptions options, string partial, string copy, bool nameless, DateTimeOffset now)
    {
        using var file = new FileStream(partial, FileMode.CreateNew, FileAccess.ReadWrite);
        using (var zip = new ZipArchive(file, ZipArchiveMode.Create, leaveOpen: true))
        {
            var files = new SortedDictionary<string, string>(StringComparer.Ordinal);
            var lines = new SortedDictionary<string, long>(StringComparer.Ordinal);
            using (var connection = DatabaseCopy.Open(copy, SqliteOpenMode.ReadOnly))
            {
                foreach (var kind in ArchiveKinds.All.Where(kind => !nameless || !kind.NamesPeople))
                {
                    files[SchemaOf(kind)] = Add(zip, SchemaOf(kind), to => to.Write(Encoding.UTF8.GetBytes(SchemaText(kind))));
                    files[DataOf(kind)] = Add(zip, DataOf(kind), to => lines[kind.Name] = Rows(connection, kind, nameless, to));
                }
            }

            foreach (var name in nameless ? [] : BackupArchive.PhotoFiles(copy))
            {
                // One that is missing is missing in the school as well.
                var place = Path.Combine(options.PhotoFolder, name);
                if (File.Exists(place))
                {
                    files[Given + name] = Add(
                        zip,
                        Given + name,
                        to =>
                        {
                            using var from = File.OpenRead(place);
                            from.CopyTo(to);
                        }
                    );
                }
            }

            if (File.Exists(options.ErasureFile))
            {
                files[BackupArchive.Erased] = Add(zip, BackupArchive.Erased, to => to.Write(File.ReadAllBytes(options.ErasureFile)));
            }

            var (school, isDemo) = DatabaseFacts.School(copy);
            var manifest = new ArchiveManifest(
                Format,
                ArchiveKinds.Version,
                ThisProgram.Version,
                now,
                school ?? throw new StorageException("The school is not set up yet."),
                isDemo,
                DatabaseFacts.Migration(copy),
                nameless,
                lines,
                files
            );
            Add(zip, Manifest, to => to.Write(JsonSerializer.SerializeToUtf8Bytes(manifest, Readable)));
        }

        file.Flush(flushToDisk: true);
    }

    private static long Rows(SqliteConnection connection, ArchiveKind kind, bool nameless, Stream to)
    {
        var members = kind.Members.Where(one => one.Filler is null).ToList();
        using var command = connection.CreateCommand();
        command.CommandText = $"SELECT {string.Join(", ", members.Select(one => $"\"{one.Column}\""))} FROM \"{kind.Table}\" ORDER BY 1";
        using var reader = command.ExecuteReader();
        var at = members.Select((one, index) => (one.Column, index)).ToDictionary(one => one.Column, one => one.index);
        object? Cell(string column) => reader.GetValue(at[column]) is var value and not DBNull ? value : null;
        long count = 0;
        using var line = new Utf8JsonWriter(to);
        while (reader.Read())
        {
            line.WriteStartObject();
            foreach (var member in members)
            {
                var value = nameless && member.Replaced is { } replaced ? replaced(Cell) : Cell(member.Column);
                if (value is not null)
                {
                    ArchiveKinds.Write(line, member, value);
                }
            }

            line.WriteEndObject();
            line.Flush();
            line.Reset();
            to.Write(EndOfLine);
            count++;
        }

        return count;
    }

    /// <summary>An empty database as the archive's program had it, or as this one has it.</summary>
    private static void Empty(string database, ArchiveManifest manifest, string archive)
    {
        using var db = SqliteSetup.Open(database);
        var known = db.Database.GetMigrations().ToList();
        if (!known.Contains(manifest.Migration))
        {
            throw new StorageException($"{archive} was made by a newer Gradus ({manifest.Program}). Read it with that one.");
        }

        db.Database.Migrate();
        SqliteSetup.CloseIdle(database);
    }

    private static void Fill(string database, ZipArchive zip, string archive)
    {
        using var connection = DatabaseCopy.Open(database, SqliteOpenMode.ReadWrite);
        Execute(connection, "PRAGMA foreign_keys = OFF"); // held against each other when all of it is there
        using (var whole = connection.BeginTransaction())
        {
            foreach (var kind in ArchiveKinds.All)
            {
                Execute(connection, $"DELETE FROM \"{kind.Table}\"");
                using var insert = Insert(connection, kind.Table, [.. kind.Members.Select(one => one.Column)]);
                var number = 0L;
                foreach (var line in Lines(zip, kind, archive))
                {
                    number++;
                    Put(insert, kind, line, $"{archive}, {DataOf(kind)}, line {number}");
                }
            }

            whole.Commit();
        }

        Execute(connection, "PRAGMA wal_checkpoint(TRUNCATE)");
        Execute(connection, "PRAGMA journal_mode = DELETE");
    }

    private static void Put(SqliteCommand insert, ArchiveKind kind, JsonElement line, string place)
    {
        try
        {
            var values = new Dictionary<string, object?>();
            foreach (var member in kind.Members.Where(one => one.Filler is null))
            {
                values[member.Column] = line.TryGetProperty(member.Name, out var value) ? ArchiveKinds.Column(member, value) : null;
            }

            var known = kind.Members.Where(one => one.Filler is null).Select(one => one.Name);
            if (line.EnumerateObject().Select(one => one.Name).Except(known).FirstOrDefault() is { } unknown)
            {
                throw new FormatException($"{unknown} is nothing that {kind.Name} have");
            }

            for (var at = 0; at < kind.Members.Count; at++)
            {
                var member = kind.Members[at];
                var value = member.Filler is { } filler ? filler(column => values[column]) : values[member.Column];
                insert.Parameters[at].Value = value ?? DBNull.Value;
            }

            insert.ExecuteNonQuery();
        }
        catch (Exception error) when (error is FormatException or InvalidOperationException or SqliteException)
        {
            throw new StorageException($"{place}: {error.Message}. Nothing was changed.", error);
        }
    }

    private static IEnumerable<JsonElement> Lines(ZipArchive zip, ArchiveKind kind, string archive)
    {
        if (zip.GetEntry(DataOf(kind)) is not { } entry)
        {
            yield break; // a kind that its program did not know yet, or that names people
        }

        using var reader = new StreamReader(entry.Open(), Encoding.UTF8);
        for (var number = 1L; reader.ReadLine() is { } text; number++)
        {
            JsonElement line;
            try
            {
                line = JsonElement.Parse(text);
            }
            catch (JsonException error)
            {
                throw new StorageException($"{archive}, {DataOf(kind)}, line {number}: {error.Message} Nothing was changed.", error);
            }

            yield return line;
        }
    }

    private static SqliteCommand Insert(SqliteConnection connection, string table, string[] columns)
    {
        var insert = connection.CreateCommand();
        insert.CommandText =
            $"INSERT INTO \"{table}\" ({string.Join(", ", columns.Select(one => $"\"{one}\""))}) VALUES ({string.Join(", ", columns.Select((_, at) => $"$p{at}"))})";
        for (var at = 0; at < columns.Length; at++)
        {
            insert.Parameters.Add(new SqliteParameter($"$p{at}", DBNull.Value));
        }

        return insert;
    }

    private static void Execute(SqliteConnection connection, string sql)
    {
        using var command = connection.CreateCommand();
        command.CommandText = sql;
        command.ExecuteNonQuery();
    }

    private static string DataOf(ArchiveKind kind) => $"data/{kind.Name}.jsonl";

    private static string SchemaOf(ArchiveKind kind) => $"schema/{kind.Name}.schema.json";

    private static string Add(ZipArchive zip, string name, Action<Stream> write) => HashedZip.Add(zip, name, CompressionLevel.Optimal, write);
}
