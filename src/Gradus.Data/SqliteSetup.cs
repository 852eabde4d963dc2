using System.Data.Common;
using System.Runtime.CompilerServices;
using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Diagnostics;

namespace Gradus.Data;

/// <summary>How the SQLite file is opened.</summary>
public static class SqliteSetup
{
    /// <summary>Uses a file with foreign keys on, write-ahead log, and a full sync at each commit.</summary>
    public static DbContextOptionsBuilder UseGradusFile(this DbContextOptionsBuilder options, string path) =>
        options
            .UseSqlite(Connection(path), sqlite => sqlite.UseQuerySplittingBehavior(QuerySplittingBehavior.SplitQuery))
            // A test holds the migrations against the model; to do so at each start would build the model that is made ahead once more.
            .ConfigureWarnings(warnings => warnings.Ignore(RelationalEventId.PendingModelChangesWarning))
            .AddInterceptors(Pragmas.Instance);

    /// <summary>The school in a file, outside of the server.</summary>
    public static GradusContext Open(string path)
    {
        var options = new DbContextOptionsBuilder<GradusContext>();
        options.UseGradusFile(path);
        return new GradusContext(options.Options);
    }

    /// <summary>Closes the connections to a file that wait in the pool.</summary>
    public static void CloseIdle(string path)
    {
        using var one = new SqliteConnection(Connection(path));
        SqliteConnection.ClearPool(one);
    }

    private static string Connection(string path) =>
        new SqliteConnectionStringBuilder
        {
            DataSource = path,
            ForeignKeys = true,
            DefaultTimeout = 10,
        }.ToString();

    private sealed class Pragmas : DbConnectionInterceptor
    {
        public static readonly Pragmas Instance = new();

        // A connection that comes back from the pool is set already.
        private static readonly ConditionalWeakTable<object, object> Set = [];

        // WAL lets the floor read while a pass is being written. FULL syncs the log at every commit: with NORMAL a power cut could drop
        // the last acknowledged passes, and one write a few times a minute can afford the sync. Another program on the file, as a backup, is
        // waited for.
        private const string Text = "PRAGMA busy_timeout = 10000; PRAGMA journal_mode = WAL; PRAGMA synchronous = FULL;";

        public override void ConnectionOpened(DbConnection connection, ConnectionEndEventData eventData)
        {
            if (connection is not SqliteConnection { Handle: { } handle } || Set.TryGetValue(handle, out _))
            {
                return;
            }

            using var command = connection.CreateCommand();
            command.CommandText = Text;
            command.ExecuteNonQuery();
            Set.AddOrUpdate(handle, Text);
        }

        public override Task ConnectionOpenedAsync(
            DbConnection connection,
            ConnectionEndEventData eventData,
            CancellationToken cancellationToken = default
        )
        {
            // SQLite has nothing to wait for here.
            ConnectionOpened(connection, eventData);
            return Task.CompletedTask;
        }
    }
}
