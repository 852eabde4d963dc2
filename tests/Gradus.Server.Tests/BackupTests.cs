using System.IO.Compression;
using System.Net.Http.Json;
using System.Text.Json;
using Gradus.Server.Hosting;
using Gradus.Server.School;
using SkiaSharp;

namespace Gradus.Server.Tests;

/// <summary>A backup is made while the server runs, counts once it was opened again, and brings the school back.</summary>
public sealed class BackupTests : IAsyncLifetime
{
    private readonly RunningServer server = new();
    private HttpClient client = null!;
    private Guid student;
    private Guid coupon;
    private Guid photo;

    public async ValueTask InitializeAsync()
    {
        client = await server.SignedIn();
        student = await client.AddStudent();
        coupon = await client.StartCoupon(student);
        await client.LayAllBeads(coupon);
        photo = Guid.CreateVersion7();
        using var bitmap = new SKBitmap(60, 40);
        using var data = bitmap.Encode(SKEncodedImageFormat.Jpeg, 80);
        (await client.PutPhoto(coupon, photo, data.ToArray())).EnsureSuccessStatusCode();
    }

    public ValueTask DisposeAsync() => server.DisposeAsync();

    private GradusOptions Options => new("127.0.0.1", 0, server.Folder, false);

    private string Make(string? passphrase = null) =>
        BackupArchive.Make(Options, Path.Combine(server.Folder, "out"), passphrase, DateTimeOffset.UtcNow);

    internal static (int Code, string Says) Run(string folder, string? passphrase, params string[] args)
    {
        using var writer = new StringWriter();
        var options = new GradusOptions("127.0.0.1", 0, folder, false) { BackupPassphrase = passphrase };
        return (BackupCommands.Run(args, options, writer, writer), writer.ToString());
    }

    [Fact]
    public async Task A_backup_made_while_it_is_written_to_has_everything_that_was_acknowledged_before_it_began()
    {
        var done = false;
        var acknowledged = 0;
        var writing = Task.Run(async () =>
        {
            while (!Volatile.Read(ref done))
            {
                (await client.PutAsJsonAsync($"/api/coupons/{coupon}/notes/{Guid.CreateVersion7()}", new { text = "n" })).EnsureSuccessStatusCode();
                Interlocked.Increment(ref acknowledged);
            }
        });
        for (var round = 0; round < 4; round++)
        {
            var before = Volatile.Read(ref acknowledged);
            var manifest = BackupArchive.Verify(Make());
            Assert.True(manifest.Rows["Notes"] >= before, $"{manifest.Rows["Notes"]} of {before}");
            Assert.Equal(8, manifest.Rows["Passes"]);
            Assert.Contains($"photos/{coupon}/{photo}.jpg", manifest.Files.Keys);
        }

        Volatile.Write(ref done, true);
        await writing;
    }

    [Fact]
    public async Task What_is_restored_is_the_school_as_it_was_and_what_was_there_is_kept_aside()
    {
        var archive = Make("open sesame");
        await client.AddStudent();
        (await client.PutAsJsonAsync($"/api/coupons/{coupon}/notes/{Guid.CreateVersion7()}", new { text = "After" })).EnsureSuccessStatusCode();
        Assert.Contains("Another Gradus runs", Run(server.Folder, null, "restore", archive).Says, StringComparison.Ordinal);
        await server.DisposeAsync();

        var rows = DatabaseFacts.Rows(Options.DatabaseFile);
        var dry = Run(server.Folder, null, "restore", archive, "--dry-run");
        Assert.Equal(ExitCodes.Fine, dry.Code);
        Assert.Matches("Students +2 -> +1  \\(1 fewer\\)", dry.Says);
        Assert.Contains("Nothing was changed.", dry.Says, StringComparison.Ordinal);
        Assert.Equal(rows, DatabaseFacts.Rows(Options.DatabaseFile));

        Directory.Delete(Options.PhotoFolder, recursive: true);
        Assert.Equal(ExitCodes.StorageIll, Run(server.Folder, "not it", "restore", archive).Code); // nothing is moved for a wrong passphrase
        Assert.Equal(rows, DatabaseFacts.Rows(Options.DatabaseFile));
        Assert.Equal(ExitCodes.Fine, Run(server.Folder, "open sesame", "restore", archive).Code);
        Assert.True(File.Exists(Path.Combine(Assert.Single(Directory.GetDirectories(server.Folder, "replaced-*")), "gradus.db")));
        await using var restored = new RunningServer(server.Folder);
        using var again = await restored.SignedIn();
        var floor = await again.GetFromJsonAsync<JsonElement>("/api/floor");
        Assert.Equal(student, Assert.Single(floor.GetProperty("students").EnumerateArray()).GetProperty("id").GetGuid());
        Assert.NotEmpty(await again.GetByteArrayAsync($"/api/coupons/{coupon}/photos/{photo}"));
        await Walk.EveryView(again, [student], [coupon]);
    }

    [Fact]
    public void An_archive_that_is_not_whole_is_no_backup()
    {
        var archive = Make();
        var bytes = File.ReadAllBytes(archive);
        File.WriteAllBytes(archive + ".cut", bytes[..(bytes.Length * 2 / 3)]);
        Assert.Throws<StorageException>(() => BackupArchive.Verify(archive + ".cut"));
        File.WriteAllText(archive + ".txt", "Buy milk");
        Assert.Throws<StorageException>(() => BackupArchive.Verify(archive + ".txt"));
        File.Copy(archive, archive + ".changed");
        using (var zip = ZipFile.Open(archive + ".changed", ZipArchiveMode.Update))
        {
            zip.GetEntry($"photos/{coupon}/{photo}.jpg")!.Delete();
            using var stream = zip.CreateEntry($"photos/{coupon}/{photo}.jpg").Open();
            stream.Write("another"u8);
        }

        Assert.Contains(
            "is not what it was",
            Assert.Throws<StorageException>(() => BackupArchive.Verify(archive + ".changed")).Message,
            StringComparison.Ordinal
        );
        Assert.Empty(Directory.GetFiles(Path.GetDirectoryName(archive)!, "*.partial*"));
        Assert.Empty(Directory.GetFiles(Path.GetDirectoryName(archive)!, ".*"));
    }

    [Fact]
    public void Keys_are_behind_the_passphrase_or_not_in_it()
    {
        var without = BackupArchive.Verify(Make());
        Assert.False(without.HasKeys);
        Assert.DoesNotContain(without.Files.Keys, name => name.Contains("key", StringComparison.OrdinalIgnoreCase));
        Directory.CreateDirectory(Options.CertificateFolder);
        File.WriteAllText(Path.Combine(Options.CertificateFolder, "authority.pfx"), "an authority");
        var archive = Make("open sesame");
        Assert.True(BackupArchive.Verify(archive).HasKeys);
        using var zip = ZipFile.OpenRead(archive);
        using var stream = new MemoryStream();
        using (var entry = zip.GetEntry(BackupArchive.Keys)!.Open())
        {
            entry.CopyTo(stream);
        }

        Assert.DoesNotContain("<key", System.Text.Encoding.Latin1.GetString(stream.ToArray()), StringComparison.Ordinal);
        var folder = Path.Combine(server.Folder, "unsealed");
        Assert.Throws<StorageException>(() => SealedKeys.Unseal(stream.ToArray(), "open says me", folder, folder));
        Assert.Throws<StorageException>(() => SealedKeys.Unseal([1, 2, 3], "open sesame", folder, folder));
        SealedKeys.Unseal(stream.ToArray(), "open sesame", folder, folder + "-shop");
        Assert.Equal("an authority", File.ReadAllText(Path.Combine(folder + "-shop", "authority.pfx")));
        Assert.Equal(
            Directory.GetFiles(Options.KeyFolder).Select(Path.GetFileName).Order(),
            Directory.GetFiles(folder).Select(Path.GetFileName).Order()
        );
    }

    [Fact]
    public void A_folder_without_a_school_is_told_in_a_sentence()
    {
        var empty = Directory.CreateTempSubdirectory("gradus-").FullName;
        var (code, says) = Run(empty, null, "backup", Path.Combine(empty, "out"));
        Assert.Equal(ExitCodes.StorageIll, code);
        Assert.Contains("There is no school in", says, StringComparison.Ordinal);
        Assert.Equal(ExitCodes.Misused, Run(empty, null, "restore").Code);
    }
}
