using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using Gradus.Server.School;
using SkiaSharp;

namespace Gradus.Server.Tests;

/// <summary>The school is backed up by itself, into a second folder as well, and the lead is told when it is not.</summary>
public sealed class NightlyBackupTests : IAsyncLifetime
{
    private readonly string second = Directory.CreateTempSubdirectory("gradus-stick-").FullName;
    private RunningServer server = null!;
    private HttpClient client = null!;

    private BackupShelf Shelf => new(Path.Combine(server.Folder, "backups"), false);

    public async ValueTask InitializeAsync()
    {
        server = new RunningServer { BacksUpByItself = true, BackupCopy = second };
        client = await server.SignedIn();
    }

    public ValueTask DisposeAsync() => server.DisposeAsync();

    [Fact]
    public async Task Each_night_has_its_backup_with_every_photo_once_and_one_taken_back_goes_only_when_no_backup_names_it()
    {
        var coupon = await client.StartCoupon(await client.AddStudent());
        var (stays, goes) = (await Photo(coupon), await Photo(coupon));
        await Night(TimeSpan.FromMinutes(3), 1); // two minutes after the start: none was ever made
        var first = Assert.Single(Shelf.Backups());
        Assert.Equal(4, BackupArchive.Verify(Path.Combine(Shelf.Folder, first.Name)).Beside!.Count);
        var written = File.GetLastWriteTimeUtc(InPool(coupon, stays));

        (await client.DeleteAsync($"/api/coupons/{coupon}/photos/{goes}")).EnsureSuccessStatusCode();
        Assert.True(File.Exists(Live(coupon, goes)));
        await Night(TimeSpan.FromDays(1), 2);
        Assert.False(File.Exists(Live(coupon, goes))); // a backup has it
        Assert.True(File.Exists(Live(coupon, stays)));
        Assert.True(File.Exists(InPool(coupon, goes)));
        Assert.Equal(written, File.GetLastWriteTimeUtc(InPool(coupon, stays))); // not copied again

        // The second folder has the same, and a school is put back from it where nothing else is.
        Assert.Equal(2, new BackupShelf(second, false).Backups().Count);
        var empty = Directory.CreateTempSubdirectory("gradus-").FullName;
        Assert.Equal(Hosting.ExitCodes.Fine, BackupTests.Run(empty, null, "restore", Path.Combine(second, first.Name)).Code);
        await using (var restored = new RunningServer(empty))
        {
            using var again = await restored.SignedIn();
            Assert.Equal(await File.ReadAllBytesAsync(Live(coupon, stays)), await again.GetByteArrayAsync($"/api/coupons/{coupon}/photos/{stays}"));
            Assert.NotEmpty(await again.GetByteArrayAsync($"/api/coupons/{coupon}/photos/{goes}")); // as it was then
        }

        // A photo that is not what it was is not put back.
        File.WriteAllText(InPool(coupon, stays), "another");
        Assert.Contains(
            "is not what it was",
            BackupTests.Run(Directory.CreateTempSubdirectory("gradus-").FullName, null, "restore", Path.Combine(Shelf.Folder, first.Name)).Says,
            StringComparison.Ordinal
        );
        Assert.False(File.Exists(Path.Combine(empty, "photos", "coupon")));

        // What else lies on a stick is nobody's business here.
        await File.WriteAllTextAsync(Path.Combine(second, "holiday.zip"), "palms", TestContext.Current.CancellationToken);
        await File.WriteAllTextAsync(Path.Combine(Shelf.Folder, "holiday.zip"), "palms", TestContext.Current.CancellationToken);

        // When the last archive that names it has gone, so has the photo.
        File.Delete(Path.Combine(Shelf.Folder, first.Name));
        for (var night = 3; night <= 16; night++)
        {
            await Night(TimeSpan.FromDays(1), null);
        }

        Assert.False(File.Exists(InPool(coupon, goes)));
        Assert.True(File.Exists(InPool(coupon, stays)));
        Assert.InRange(Shelf.Backups().Count, 8, 10);
        Assert.True(File.Exists(Path.Combine(second, "holiday.zip")));

        // An archive that cannot be read may name any photo: none is taken away.
        var named = Path.Combine(Shelf.Photos, "named-by-it.jpg");
        await File.WriteAllTextAsync(named, "photo", TestContext.Current.CancellationToken);
        await File.WriteAllTextAsync(Path.Combine(Shelf.Folder, "gradus-20300101T000000Z.zip"), "half", TestContext.Current.CancellationToken);
        string[] copies = [Path.Combine(Shelf.Folder, "gradus-before-20250101_Old.db"), Path.Combine(Shelf.Folder, "gradus-before-20260101_New.db")];
        copies.ToList().ForEach(copy => File.WriteAllText(copy, "as it was"));
        File.SetLastWriteTimeUtc(copies[0], DateTime.UtcNow.AddDays(-400));
        Shelf.Tidy(_ => new DateOnly(2031, 3, 4)); // all of one day: the last one stays
        Assert.Equal([false, true], copies.Select(File.Exists)); // from before a migration: a year
        Assert.Equal(2, Shelf.Backups().Count);
        Assert.True(File.Exists(named));
    }

    [Fact]
    public async Task What_went_wrong_is_told_to_the_lead_and_a_stick_that_is_out_costs_no_backup()
    {
        // Only when it is asked for: one that is made by itself once the clock is turned on would be there before it is missed.
        await server.DisposeAsync();
        server = new RunningServer { BackupCopy = second };
        client = await server.SignedIn();
        await File.WriteAllTextAsync(Shelf.Folder, "in the way", TestContext.Current.CancellationToken);
        var view = await Ask();
        Assert.Contains("backups", view.GetProperty("first").GetProperty("failure").GetString(), StringComparison.Ordinal);
        Assert.True(view.GetProperty("first").GetProperty("isLate").GetBoolean());

        File.Delete(Shelf.Folder);
        Directory.Delete(second);
        view = await Ask();
        Assert.Equal(JsonValueKind.Null, view.GetProperty("first").GetProperty("failure").ValueKind);
        Assert.False(view.GetProperty("first").GetProperty("isLate").GetBoolean());
        Assert.Equal($"{second} is not there.", view.GetProperty("second").GetProperty("failure").GetString());
        Assert.True(view.GetProperty("second").GetProperty("isLate").GetBoolean());
        Assert.False(Directory.Exists(second));

        Directory.CreateDirectory(second);
        view = await Ask();
        Assert.False(view.GetProperty("second").GetProperty("isLate").GetBoolean());
        Assert.NotEqual(JsonValueKind.Null, view.GetProperty("second").GetProperty("lastAt").ValueKind);

        server.Clock.Advance(BackupRule.LateAfter + TimeSpan.FromMinutes(1));
        client = await server.SignedIn(); // a session does not last two days
        Assert.True((await client.GetFromJsonAsync<JsonElement>("/api/school/backups")).GetProperty("first").GetProperty("isLate").GetBoolean());
    }

    [Fact]
    public async Task Only_the_lead_sees_them()
    {
        using var other = server.CreateClient();
        Assert.Equal(HttpStatusCode.Unauthorized, (await other.GetAsync("/api/school/backups")).StatusCode);
        Assert.Equal(HttpStatusCode.Unauthorized, (await other.PostAsync("/api/school/backups", null)).StatusCode);
    }

    private async Task<JsonElement> Ask()
    {
        var answer = await client.PostAsync("/api/school/backups", null);
        answer.EnsureSuccessStatusCode();
        return await answer.Content.ReadFromJsonAsync<JsonElement>();
    }

    /// <summary>Lets time go by until so many backups lie there; null: until there is one of this night.</summary>
    private async Task Night(TimeSpan later, int? count)
    {
        server.Clock.Advance(later);
        using var limit = new CancellationTokenSource(TimeSpan.FromSeconds(60));
        bool IsThere(BackupShelf shelf) =>
            shelf.Backups() is var all
            && (count is null ? all.Any(one => server.Clock.GetUtcNow() - one.MadeAt < TimeSpan.FromHours(12)) : all.Count == count);
        while (!IsThere(Shelf) || !IsThere(new BackupShelf(second, false)))
        {
            // The timer may be set a moment after the clock was turned on.
            await Task.Delay(30, limit.Token);
            server.Clock.Advance(TimeSpan.FromMinutes(1));
        }
    }

    private string Live(Guid coupon, Guid photo) => Path.Combine(server.Folder, "photos", coupon.ToString(), $"{photo}.jpg");

    private string InPool(Guid coupon, Guid photo) => Path.Combine(Shelf.Photos, coupon.ToString(), $"{photo}.jpg");

    private async Task<Guid> Photo(Guid coupon)
    {
        var photo = Guid.CreateVersion7();
        using var bitmap = new SKBitmap(60, 40);
        bitmap.Erase(new SKColor((uint)photo.GetHashCode() | 0xff000000));
        using var data = bitmap.Encode(SKEncodedImageFormat.Jpeg, 80);
        (await client.PutPhoto(coupon, photo, data.ToArray())).EnsureSuccessStatusCode();
        return photo;
    }
}
