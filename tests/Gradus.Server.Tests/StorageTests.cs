using System.Data.Common;
using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using Gradus.Server.Hosting;
using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore.Diagnostics;

namespace Gradus.Server.Tests;

/// <summary>When the storage is ill: a sentence, nothing half-written, and nothing that was saved before is lost.</summary>
public sealed class StorageTests
{
    private static string NewFolder() => Directory.CreateTempSubdirectory("gradus-").FullName;

    /// <summary>The sentence with which a server does not start on a folder.</summary>
    private static StorageException NotStarted(string folder)
    {
        var options = new GradusOptions("127.0.0.1", 0, folder, false);
        return Assert.Throws<StorageException>(() =>
        {
            using var storage = new Storage(options);
            storage.Take();
            storage.Inspect();
        });
    }

    private static async Task<string> Folder()
    {
        await using var server = new RunningServer();
        (await server.SignedIn()).Dispose();
        return server.Folder;
    }

    [Fact]
    public async Task A_second_server_on_the_folder_refuses_and_the_first_goes_on()
    {
        await using var first = new RunningServer();
        var client = await first.SignedIn();
        Assert.Contains("Another Gradus runs on the folder", NotStarted(first.Folder).Message, StringComparison.Ordinal);
        await client.AddStudent();
    }

    [Fact]
    public async Task A_folder_that_was_left_behind_by_a_killed_server_is_free()
    {
        var folder = await Folder();
        Assert.True(File.Exists(Path.Combine(folder, "gradus.lock"))); // the file stays, the lock ends with the process
        await using var server = new RunningServer(folder);
        await (await server.SignedIn()).AddStudent();
    }

    [Fact]
    public async Task A_server_that_ends_leaves_one_whole_file()
    {
        await using var server = new RunningServer();
        var client = await server.SignedIn();
        await client.AddStudent();
        await server.DisposeAsync();
        var copy = Path.Combine(NewFolder(), "copy.db");
        File.Copy(Path.Combine(server.Folder, "gradus.db"), copy); // the file alone
        Assert.Equal(1, School.DatabaseFacts.Rows(copy)["Students"]);
        var log = new FileInfo(Path.Combine(server.Folder, "gradus.db-wal"));
        Assert.True(!log.Exists || log.Length == 0);
    }

    [Fact]
    public async Task A_damaged_file_is_told_in_a_sentence_with_what_to_do()
    {
        var folder = await Folder();
        var file = Path.Combine(folder, "gradus.db");
        await File.WriteAllTextAsync(file, "This is no database. It was a shopping list once, and somebody saved it here.");
        Assert.Contains("damaged. Restore the latest backup: ./gradus restore", NotStarted(folder).Message, StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_database_that_is_gone_while_its_log_is_there_is_not_begun_anew()
    {
        var folder = await Folder();
        File.Delete(Path.Combine(folder, "gradus.db"));
        await File.WriteAllTextAsync(Path.Combine(folder, "gradus.db-wal"), "what was not in the file yet");
        Assert.Contains("is missing, though its write-ahead log is there", NotStarted(folder).Message, StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_newer_school_is_left_as_it_is()
    {
        var folder = await Folder();
        var file = Path.Combine(folder, "gradus.db");
        using (var connection = DatabaseCopy.Open(file, SqliteOpenMode.ReadWrite))
        using (var command = connection.CreateCommand())
        {
            command.CommandText = "INSERT INTO __EFMigrationsHistory VALUES ('29990101000000_Later', '10.0.15')";
            command.ExecuteNonQuery();
        }

        var before = School.DatabaseFacts.Rows(file);
        await using var server = new RunningServer(folder);
        var program = await Assert.ThrowsAnyAsync<Exception>(async () => await server.SignedIn()); // ends before it serves
        Assert.DoesNotContain("SqliteException", program.ToString(), StringComparison.Ordinal);
        Assert.Equal(before, School.DatabaseFacts.Rows(file));
    }

    [Fact]
    public async Task A_migration_that_was_killed_does_not_stand_in_the_way_of_the_next_and_a_copy_is_kept_before_it()
    {
        var folder = NewFolder();
        var file = Path.Combine(folder, "gradus.db");
        OldSchool.Unpack(file);
        using (var connection = DatabaseCopy.Open(file, SqliteOpenMode.ReadWrite))
        using (var command = connection.CreateCommand())
        {
            // As EF Core leaves it behind when the process dies while it migrates.
            command.CommandText = "INSERT INTO \"__EFMigrationsLock\" VALUES (1, '2031-01-01 00:00:00')";
            command.ExecuteNonQuery();
        }

        await using var server = new RunningServer(folder);
        Assert.Equal(HttpStatusCode.OK, (await server.CreateClient().GetAsync("/api/health")).StatusCode);
        var copy = Assert.Single(Directory.GetFiles(Path.Combine(folder, "backups")));
        Assert.Null(DatabaseCopy.Fault(copy));
        Assert.Equal(215, School.DatabaseFacts.Rows(copy)["Coupons"]); // the demo of the release before
    }

    [Theory]
    [InlineData("delete")]
    [InlineData("move")]
    [InlineData("replace")]
    public async Task A_database_file_that_is_taken_away_while_it_runs_is_noticed_before_anything_is_lost_in_it(string how)
    {
        await using var server = new RunningServer();
        var client = await server.SignedIn();
        var student = await client.AddStudent();
        var file = Path.Combine(server.Folder, "gradus.db");
        Assert.Equal(HttpStatusCode.OK, (await client.GetAsync("/api/health")).StatusCode);
        switch (how)
        {
            case "delete":
                File.Delete(file);
                break;
            case "move":
                File.Move(file, file + ".old");
                break;
            default:
                File.Copy(file, file + ".other");
                File.Move(file + ".other", file, overwrite: true);
                break;
        }

        var health = await client.GetAsync("/api/health");
        Assert.Equal(["storage"], await health.Fields(503));
        Assert.Equal(HttpStatusCode.OK, (await client.GetAsync("/api/health/live")).StatusCode);
        Assert.Equal(HttpStatusCode.ServiceUnavailable, (await client.GetAsync("/api/health/ready")).StatusCode);
        var write = await client.PutAsJsonAsync(
            $"/api/coupons/{Guid.CreateVersion7()}",
            new
            {
                studentId = student,
                testId = "P8",
                asTest = true,
            }
        );
        Assert.Equal(["storage"], await write.Fields(503));
    }

    [Fact]
    public async Task A_full_disk_is_told_with_507_and_leaves_nothing_half_written()
    {
        await using var server = new RunningServer();
        var full = new FullDisk();
        server.Interceptors.Add(full);
        var client = await server.SignedIn();
        var coupon = await client.StartCoupon(await client.AddStudent());
        var before = (await client.Coupon(coupon)).GetProperty("notes").GetArrayLength();
        full.IsFull = true;
        var answers = new List<HttpStatusCode>();
        for (var index = 0; index < 40 && !answers.Contains(HttpStatusCode.InsufficientStorage); index++)
        {
            var answer = await client.PutAsJsonAsync($"/api/coupons/{coupon}/notes/{Guid.CreateVersion7()}", new { text = new string('x', 2000) });
            answers.Add(answer.StatusCode);
            if (answer.StatusCode == HttpStatusCode.InsufficientStorage)
            {
                Assert.Equal(["storage"], await answer.Fields(507));
                Assert.Contains("The disk is full", await answer.Content.ReadAsStringAsync(), StringComparison.Ordinal);
            }
        }

        Assert.Contains(HttpStatusCode.InsufficientStorage, answers);
        var kept = answers.Count(answer => answer == HttpStatusCode.OK);
        Assert.Equal(before + kept, (await client.Coupon(coupon)).GetProperty("notes").GetArrayLength());
        full.IsFull = false;
        (await client.PutAsJsonAsync($"/api/coupons/{coupon}/notes/{Guid.CreateVersion7()}", new { text = "Room again" })).EnsureSuccessStatusCode();
    }

    [Fact]
    public async Task A_photo_that_cannot_be_written_down_leaves_no_file()
    {
        await using var server = new RunningServer();
        var full = new FullDisk { AtOnce = true };
        server.Interceptors.Add(full);
        var client = await server.SignedIn();
        var coupon = await client.StartCoupon(await client.AddStudent());
        using var bitmap = new SkiaSharp.SKBitmap(60, 40);
        using var data = bitmap.Encode(SkiaSharp.SKEncodedImageFormat.Jpeg, 80);
        full.IsFull = true;
        var answer = await client.PutPhoto(coupon, Guid.CreateVersion7(), data.ToArray());
        Assert.Equal(HttpStatusCode.InsufficientStorage, answer.StatusCode);
        Assert.Empty(Directory.GetFiles(Path.Combine(server.Folder, "photos"), "*", SearchOption.AllDirectories));
    }

    [Fact]
    public async Task Health_has_its_shape_and_names_the_version()
    {
        await using var server = new RunningServer();
        foreach (var path in new[] { "", "/live", "/ready" })
        {
            var health = await server.CreateClient().GetFromJsonAsync<JsonElement>("/api/health" + path);
            Assert.Equal("ok", health.GetProperty("status").GetString());
            Assert.NotEmpty(health.GetProperty("version").GetString()!);
        }
    }

    /// <summary>A disk on which the database cannot grow (SQLITE_FULL): by SQLite's own bound on its pages, or at once.</summary>
    private sealed class FullDisk : DbCommandInterceptor
    {
        private bool isFull;

        public bool AtOnce { get; init; }

        public bool IsFull
        {
            get => isFull;
            set => isFull = value;
        }

        private void Bound(DbCommand command)
        {
            if (AtOnce && isFull && command.CommandText.Contains("INSERT INTO", StringComparison.Ordinal))
            {
                throw new SqliteException("database or disk is full", 13);
            }

            if (!AtOnce && command.CommandText.Contains("INSERT INTO \"Notes\"", StringComparison.Ordinal))
            {
                using var pragma = command.Connection!.CreateCommand();
                pragma.Transaction = command.Transaction;
                pragma.CommandText = isFull ? "PRAGMA max_page_count = 1" : "PRAGMA max_page_count = 1073741823"; // never under what there is
                pragma.ExecuteScalar();
            }
        }

        public override ValueTask<InterceptionResult<DbDataReader>> ReaderExecutingAsync(
            DbCommand command,
            CommandEventData eventData,
            InterceptionResult<DbDataReader> result,
            CancellationToken cancellationToken = default
        )
        {
            Bound(command);
            return ValueTask.FromResult(result);
        }

        public override ValueTask<InterceptionResult<int>> NonQueryExecutingAsync(
            DbCommand command,
            CommandEventData eventData,
            InterceptionResult<int> result,
            CancellationToken cancellationToken = default
        )
        {
            Bound(command);
            return ValueTask.FromResult(result);
        }
    }
}
