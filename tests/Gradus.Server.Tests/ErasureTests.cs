using System.Net;
using System.Net.Http.Json;
using System.Text;
using System.Text.Json;
using Gradus.Server.School;
using Microsoft.Data.Sqlite;
using SkiaSharp;

namespace Gradus.Server.Tests;

/// <summary>A student takes along what is kept of them, and is erased: name, words and photos, also after an older backup was put back.</summary>
public sealed class ErasureTests : IAsyncLifetime
{
    private const string Name = "Quirina Uniquely";
    private readonly RunningServer server = new();
    private SharedSchool school = null!;
    private Guid student;
    private Guid coupon;
    private Guid photo;

    public async ValueTask InitializeAsync()
    {
        school = await SharedSchool.Make(server, 1);
        student = await school.Lead.AddStudent(name: Name);
        coupon = await school.Lead.StartCoupon(student, asTest: false);
        await school.Lead.LayAllBeads(coupon);
        photo = Guid.CreateVersion7();
        using var bitmap = new SKBitmap(60, 40);
        using var data = bitmap.Encode(SKEncodedImageFormat.Jpeg, 80);
        (await school.Lead.PutPhoto(coupon, photo, data.ToArray())).EnsureSuccessStatusCode();
        await Put($"/api/coupons/{coupon}/notes/{Guid.CreateVersion7()}", new { text = $"{Name} hurried" });
        await Put(
            $"/api/coupons/{coupon}/events/{Guid.CreateVersion7()}",
            new { kind = "breach", body = new { rule = "help", note = $"{Name} was helped" } }
        );
        await Put(
            $"/api/students/{student}/details",
            new
            {
                name = Name,
                classGroupId = (await Of($"/api/students/{student}")).GetProperty("classGroupId").GetGuid(),
                hand = "right",
                targetTestId = "P8",
                note = $"{Name}'s father calls",
            }
        );
        await Put($"/api/students/{student}/pin", new { pin = "805177" });
        await Put($"/api/absences/{Guid.CreateVersion7()}", new { studentId = student, day = "2031-03-05" });
    }

    public ValueTask DisposeAsync() => server.DisposeAsync();

    [Fact]
    public async Task Their_own_file_has_every_row_that_is_theirs_and_nobody_elses()
    {
        using var own = await SharedSchool.In(server, student, "805177");
        var text = await own.GetStringAsync($"/api/students/{student}/file.json");
        var kept = JsonDocument.Parse(text).RootElement.GetProperty("kept");
        foreach (var table in (string[])["students", "people", "coupons", "passes", "notes", "photos", "absences"])
        {
            Assert.True(kept.TryGetProperty(table, out var rows) && rows.GetArrayLength() > 0, table);
        }

        Assert.Equal(8, kept.GetProperty("passes").GetArrayLength());
        Assert.Contains("2031-03-04T09:00:00.000Z", text, StringComparison.Ordinal);
        Assert.DoesNotContain("passwordHash", text, StringComparison.OrdinalIgnoreCase);
        Assert.DoesNotContain(school.Students[0].Id.ToString(), text, StringComparison.OrdinalIgnoreCase);

        // Every table with rows of a student or a coupon is in it, or would be when it had any.
        Assert.Equal(HttpStatusCode.Forbidden, (await own.GetAsync($"/api/students/{school.Students[0].Id}/file.json")).StatusCode);
        Assert.Equal(HttpStatusCode.Forbidden, (await school.Instructor.GetAsync($"/api/students/{student}/file.json")).StatusCode);
        Assert.Equal(HttpStatusCode.OK, (await school.Lead.GetAsync($"/api/students/{student}/file.json")).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await school.Lead.GetAsync($"/api/students/{Guid.CreateVersion7()}/file.json")).StatusCode);
    }

    [Fact]
    public async Task Whoever_is_erased_is_named_nowhere_their_counts_stay_and_an_older_backup_does_not_bring_them_back()
    {
        var options = new Hosting.GradusOptions("127.0.0.1", 0, server.Folder, false);
        var older = BackupArchive.Make(options, Path.Combine(server.Folder, "out"), null, DateTimeOffset.UtcNow);
        var before = (await Of($"/api/students/{student}")).GetProperty("coupons").GetProperty("rows").GetArrayLength();

        Assert.Equal(HttpStatusCode.Conflict, (await school.Lead.PutAsync($"/api/students/{student}/erased", null)).StatusCode); // is here
        await Put($"/api/students/{student}/left", new { });
        Assert.Equal(HttpStatusCode.Forbidden, (await school.Instructor.PutAsync($"/api/students/{student}/erased", null)).StatusCode);
        await Put($"/api/students/{student}/erased", null);
        await Put($"/api/students/{student}/erased", null); // twice is once

        await IsErased(school.Lead, server.Folder, before);
        Assert.Equal(HttpStatusCode.Conflict, (await school.Lead.DeleteAsync($"/api/students/{student}/left")).StatusCode);
        Assert.Equal(1, (await Of("/api/session")).GetProperty("erased").GetInt32());
        using var stranger = server.CreateClient();
        Assert.NotEqual(
            HttpStatusCode.OK,
            (await stranger.PostAsJsonAsync("/api/session", new { instructorId = student, pin = "805177" })).StatusCode
        );

        // A backup from before names them; put back, here or on another machine, it is gone through again.
        var newer = BackupArchive.Make(options, Path.Combine(server.Folder, "out"), null, DateTimeOffset.UtcNow.AddMinutes(1));
        await server.DisposeAsync();
        Assert.Equal(Hosting.ExitCodes.Fine, BackupTests.Run(server.Folder, null, "restore", older).Code);
        await using (var restored = new RunningServer(server.Folder))
        {
            using var lead = await restored.SignedIn();
            await IsErased(lead, server.Folder, before);
        }

        var elsewhere = Directory.CreateTempSubdirectory("gradus-").FullName;
        Assert.Equal(Hosting.ExitCodes.Fine, BackupTests.Run(elsewhere, null, "restore", newer).Code);
        Assert.Single(new ErasureList(options with { DataFolder = elsewhere }).Read());
    }

    [Fact]
    public async Task A_school_opens_where_the_photos_of_whoever_was_erased_never_were()
    {
        new ErasureList(new Hosting.GradusOptions("127.0.0.1", 0, server.Folder, false)).Add(
            new Erased(student, DateTimeOffset.UtcNow, school.InstructorId)
        );
        await server.DisposeAsync();
        Directory.Delete(Path.Combine(server.Folder, "photos"), recursive: true);
        await using var opened = new RunningServer(server.Folder);
        using var lead = await opened.SignedIn();
        Assert.DoesNotContain("Quirina", await lead.GetStringAsync($"/api/students/{student}"), StringComparison.Ordinal);
    }

    /// <summary>Neither a page nor the file of the database has the name, the photo is gone, and what was welded is there.</summary>
    private async Task IsErased(HttpClient client, string folder, int coupons)
    {
        await Walk.EveryView(client, [student], [coupon]);
        foreach (
            var path in (string[])
                [
                    $"/api/students/{student}",
                    $"/api/coupons/{coupon}",
                    $"/api/coupons/{coupon}/history",
                    "/api/students/left",
                    "/api/find?q=Quirina",
                    "/api/floor",
                    "/api/results",
                ]
        )
        {
            Assert.DoesNotContain("Quirina", await client.GetStringAsync(path), StringComparison.Ordinal);
        }

        var view = await client.GetFromJsonAsync<JsonElement>($"/api/students/{student}");
        Assert.StartsWith("Erased student", view.GetProperty("name").GetString(), StringComparison.Ordinal);
        Assert.Equal(coupons, view.GetProperty("coupons").GetProperty("rows").GetArrayLength());
        Assert.Equal(HttpStatusCode.NotFound, (await client.GetAsync($"/api/coupons/{coupon}/photos/{photo}")).StatusCode);
        Assert.Empty(Directory.GetFiles(Path.Combine(folder, "photos"), $"{photo}*", SearchOption.AllDirectories));
        SqliteConnection.ClearAllPools();
        var copy = Path.Combine(folder, $"{Guid.NewGuid():N}.copy");
        Hosting.DatabaseCopy.Make(Path.Combine(folder, "gradus.db"), copy);
        Assert.Equal(-1, (await File.ReadAllBytesAsync(copy)).AsSpan().IndexOf(Encoding.UTF8.GetBytes("Quirina")));
        File.Delete(copy);
    }

    private async Task<JsonElement> Of(string path) => await school.Lead.GetFromJsonAsync<JsonElement>(path);

    private async Task Put(string path, object? body)
    {
        var answer = body is null ? await school.Lead.PutAsync(path, null) : await school.Lead.PutAsJsonAsync(path, body);
        Assert.True(answer.IsSuccessStatusCode, $"{path}: {await answer.Content.ReadAsStringAsync()}");
    }
}
