using System.Data.Common;
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
            .UseSqlite(
                new SqliteConnectionStringBuilder
                {
                    DataSource = path,
                    ForeignKeys = true,
                    DefaultTimeout = 10,
                }.ToString(),
                sqlite => sqlite.UseQuerySplittingBehavior(QuerySplittingBehavior.SplitQuery)
            )
            .AddInterceptors(Pragmas.Instance);

    private sealed class Pragmas : DbConnectionInterceptor
    {
        public static readonly Pragmas Instance = new();

        // WAL lets the floor read while a pass is being written. FULL syncs the log at every commit: with NORMAL a power cut could drop
        // the last acknowledged passes, and one write a few times a minute can afford the sync.
        private const string Text = "PRAGMA journal_mode = WAL; PRAGMA synchronous = FULL;";

        public override void ConnectionOpened(DbConnection connection, ConnectionEndEventData eventData)
        {
            using var command = connection.CreateCommand();
            command.CommandText = Text;
            command.ExecuteNonQuery();
        }

        public override async Task ConnectionOpenedAsync(
            DbConnection connection,
            ConnectionEndEventData eventData,
            CancellationToken cancellationToken = default
        )
        {
            await using var command = connection.CreateCommand();
            command.CommandText = Text;
            await command.ExecuteNonQueryAsync(cancellationToken);
        }
    }
}
