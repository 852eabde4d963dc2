using Microsoft.Data.Sqlite;

namespace Gradus.Server.Hosting;

/// <summary>A whole copy of the database while it is in use; its write-ahead log is in it.</summary>
public static class DatabaseCopy
{
    /// <summary>Copies and verifies. What was under the name before is replaced once the copy is whole.</summary>
    /// <exception cref="SqliteException">The disk is full, or the database is damaged.</exception>
    /// <exception cref="StorageException">The copy does not pass its integrity check.</exception>
    public static void Make(string database, string copy)
    {
        var partial = copy + ".partial";
        File.Delete(partial);
        try
        {
            using (var connection = Open(database, SqliteOpenMode.ReadWrite))
            using (var command = connection.CreateCommand())
            {
                command.CommandText = "VACUUM INTO $file";
                command.Parameters.AddWithValue("$file", partial);
                command.ExecuteNonQuery();
            }

            if (Fault(partial) is { } fault)
            {
                throw new StorageException($"The copy of {database} is not whole: {fault}");
            }

            using (var file = new FileStream(partial, FileMode.Open, FileAccess.ReadWrite))
            {
                file.Flush(flushToDisk: true);
            }

            File.Move(partial, copy, overwrite: true);
        }
        finally
        {
            File.Delete(partial);
        }
    }

    /// <summary>What the integrity checks say of a database file; null when it is sound.</summary>
    public static string? Fault(string database)
    {
        try
        {
            using var connection = Open(database, SqliteOpenMode.ReadOnly);
            return First(connection, "PRAGMA integrity_check(1)") is var said and not "ok" ? said ?? "empty"
                : First(connection, "PRAGMA foreign_key_check") is { } table ? $"{table} names something that is not there"
                : null;
        }
        catch (SqliteException error)
        {
            return error.Message;
        }
    }

    /// <summary>Opens a database file by itself, outside of any pool.</summary>
    public static SqliteConnection Open(string database, SqliteOpenMode mode)
    {
        var connection = new SqliteConnection(
            new SqliteConnectionStringBuilder
            {
                DataSource = database,
                Mode = mode,
                Pooling = false,
                DefaultTimeout = 60,
            }.ToString()
        );
        connection.Open();
        return connection;
    }

    private static string? First(SqliteConnection connection, string sql)
    {
        using var command = connection.CreateCommand();
        command.CommandText = sql;
        return command.ExecuteScalar()?.ToString();
    }
}
