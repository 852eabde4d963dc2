using System.IO.Compression;
using System.Net.Http.Json;
using System.Text.Json;
using Gradus.Core.Bench;
using Gradus.Core.Readiness;
using Gradus.Data;
using Gradus.Server.Hosting;
using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;

namespace Gradus.Server.Tests;

/// <summary>The demo school as the release before made it (0.1.0): it opens, and reads the same.</summary>
internal static class OldSchool
{
    public static void Unpack(string file)
    {
        using var packed = new GZipStream(
            File.OpenRead(Path.Combine(AppContext.BaseDirectory, "samples", "demo-0.1.0.db.gz")),
            CompressionMode.Decompress
        );
        using var target = File.Create(file);
        packed.CopyTo(target);
    }
}

public sealed class OldSchoolTests
{
    private static List<T> Rows<T>(string file, string sql, Func<SqliteDataReader, T> map)
    {
        using var connection = DatabaseCopy.Open(file, SqliteOpenMode.ReadOnly);
        using var command = connection.CreateCommand();
        command.CommandText = sql;
        using var reader = command.ExecuteReader();
        var rows = new List<T>();
        while (reader.Read())
        {
            rows.Add(map(reader));
        }

        return rows;
    }

    [Fact]
    public async Task The_demo_of_the_release_before_opens_and_reads_the_same()
    {
        var folder = Directory.CreateTempSubdirectory("gradus-").FullName;
        var file = Path.Combine(folder, "demo.db");
        OldSchool.Unpack(file);
        var before = School.DatabaseFacts.Rows(file);
        var closed = Rows(
            file,
            "SELECT C.Id, C.StudentId, L.Kind, json_extract(L.Verdict, '$.kind'), C.ClosedAt, (SELECT COUNT(*) FROM Findings F WHERE F.CouponId = C.Id AND F.WithdrawnAt IS NULL), (SELECT COUNT(*) FROM Passes P WHERE P.CouponId = C.Id AND P.WithdrawnAt IS NULL) FROM Coupons C JOIN Closings L ON L.CouponId = C.Id AND L.WithdrawnAt IS NULL",
            row =>
                (
                    Id: row.GetGuid(0),
                    Student: row.GetGuid(1),
                    Kind: row.GetString(3),
                    At: row.GetInt64(4),
                    Findings: row.GetInt32(5),
                    Passes: row.GetInt32(6)
                )
        );
        Assert.True(closed.Count > 150);
        int Fresh() => Rows(file, "SELECT COUNT(*) FROM Readiness WHERE Stale = 0", row => row.GetInt32(0))[0];
        Assert.True(Fresh() > 0);
        await using var server = new RunningServer(folder, demo: true);
        var client = await server.SignedIn();
        // It was weighed test by test: what is asked for is weighed anew, and nothing that was kept before is taken for it.
        Assert.Equal(
            0,
            Rows(
                file,
                "SELECT COUNT(*) FROM Readiness R WHERE R.Stale = 0 AND NOT EXISTS (SELECT 1 FROM Skills S WHERE S.StudentId = R.StudentId)",
                row => row.GetInt32(0)
            )[0]
        );
        foreach (var one in closed.Where((_, index) => index % 6 == 0))
        {
            var view = await client.Coupon(one.Id);
            Assert.Equal(one.Kind, view.GetProperty("verdict").GetProperty("kind").GetString());
            Assert.Equal(one.At, view.GetProperty("closedAt").GetDateTimeOffset().ToUnixTimeMilliseconds());
            Assert.Equal(one.Findings, view.GetProperty("findings").GetArrayLength());
            Assert.Equal(
                one.Passes,
                view.GetProperty("beads").EnumerateArray().Count(bead => bead.GetProperty("pass").ValueKind == JsonValueKind.Object)
            );
            Assert.NotEmpty((await client.GetFromJsonAsync<JsonElement>($"/api/coupons/{one.Id}/history")).GetProperty("rows").EnumerateArray());
        }

        await Walk.EveryView(client);
        Assert.True(Fresh() > 0);
        var after = School.DatabaseFacts.Rows(file);
        Assert.True(after["Library"] >= before["Library"]); // tests that ship changed come as their next version, beside those that are used
        Assert.Equal(before["Instructors"], after["People"]); // with their PINs: the demo's signed in above
        Assert.All(
            before.Where(one => one.Key is not ("Instructors" or "__EFMigrationsHistory" or "Readiness" or "Library")),
            one => Assert.Equal(one.Value, after[one.Key])
        );
    }

    [Fact]
    public async Task Its_verdicts_are_those_that_the_record_gives_today()
    {
        var folder = Directory.CreateTempSubdirectory("gradus-").FullName;
        OldSchool.Unpack(Path.Combine(folder, "demo.db"));
        await using var server = new RunningServer(folder, demo: true);
        using var client = await server.SignedIn();
        await using var scope = server.Services.CreateAsyncScope();
        var wrong = await scope.ServiceProvider.GetRequiredService<Coupons.VerdictReview>().Wrong(TestContext.Current.CancellationToken);
        Assert.Empty(wrong);

        // A crack that was let in beside the closing, as could happen before: it is found and named.
        var db = scope.ServiceProvider.GetRequiredService<GradusContext>();
        var clean = await db
            .Coupons.Include(one => one.Closings)
            .FirstAsync(
                one => one.Closings.Any(closing => closing.Kind == Gradus.Core.Inspection.VerdictKind.Accept),
                TestContext.Current.CancellationToken
            );
        db.Findings.Add(
            new FindingRecord
            {
                Id = Guid.CreateVersion7(),
                CouponId = clean.Id,
                Kind = Gradus.Core.Inspection.DiscontinuityKind.Crack,
                Stage = Stage.Cap,
                FromStartMm = 40,
                HappenedAt = clean.ClosedAt!.Value,
                RecordedAt = clean.ClosedAt.Value,
                RecordedBy = clean.StartedBy,
            }
        );
        await db.SaveChangesAsync(TestContext.Current.CancellationToken);
        await db.TodaysVerdicts.Where(one => one.CouponId == clean.Id).ExecuteDeleteAsync(TestContext.Current.CancellationToken);
        var book = scope.ServiceProvider.GetRequiredService<Coupons.TodaysBook>();
        Assert.True(await book.Review(TestContext.Current.CancellationToken) > 0);
        Assert.Equal(0, await book.Review(TestContext.Current.CancellationToken)); // once for each version of the limits

        // The signature stays; today's stands beside it, is listed, and counts until a lead declines it.
        async Task<JsonElement> Listed() =>
            (await client.GetFromJsonAsync<JsonElement>("/api/verdicts/today"))
                .GetProperty("rows")
                .EnumerateArray()
                .Single(row => row.GetProperty("couponId").GetGuid() == clean.Id);
        var row = await Listed();
        Assert.Equal(
            ("accept", "reject", true),
            (row.GetProperty("kept").GetString(), row.GetProperty("today").GetString(), row.GetProperty("counts").GetBoolean())
        );
        Assert.Equal("No crack of any size.", row.GetProperty("says").GetString());
        var verdict = (await client.Coupon(clean.Id)).GetProperty("verdict");
        Assert.Equal(("accept", "reject"), (verdict.GetProperty("kind").GetString(), verdict.GetProperty("today").GetProperty("kind").GetString()));
        async Task<bool> CapIsClean() =>
            (await scope.ServiceProvider.GetRequiredService<Readiness.EvidenceReader>().Read(clean.StudentId, TestContext.Current.CancellationToken))
                .Single(one => one.Id == clean.Id)
                .Evidence.Clean.Any(one => one.Key.StartsWith("cap", StringComparison.Ordinal) && one.Value);
        Assert.False(await CapIsClean());
        var reader = scope.ServiceProvider.GetRequiredService<Readiness.EvidenceReader>();
        var before = await reader.Mark(clean.StudentId, TestContext.Current.CancellationToken);
        (
            await client.PutAsJsonAsync("/api/verdicts/today", new { closingId = row.GetProperty("closingId").GetGuid(), declined = true })
        ).EnsureSuccessStatusCode();
        Assert.False((await Listed()).GetProperty("counts").GetBoolean());
        Assert.True(await CapIsClean());
        Assert.NotEqual(before, await reader.Mark(clean.StudentId, TestContext.Current.CancellationToken));

        // A closing that is taken back is listed and counted no more.
        async Task<int> Total() => (await client.GetFromJsonAsync<JsonElement>("/api/verdicts/today")).GetProperty("total").GetInt32();
        var total = await Total();
        (await client.DeleteAsync($"/api/coupons/{clean.Id}/closings/{row.GetProperty("closingId").GetGuid()}")).EnsureSuccessStatusCode();
        Assert.Equal(total - 1, await Total());
    }

    [Fact]
    public void A_kept_value_is_read_whatever_a_newer_or_an_older_program_wrote_into_it()
    {
        var body = new BenchEventBody(Reason: VoidReason.Quenched, Note: "In the tank");
        var kept = Kept.Write(body, 1);
        Assert.StartsWith("{\"v\":1,", kept, StringComparison.Ordinal);
        Assert.Equal(body, Kept.Read<BenchEventBody>(kept, _ => { }));
        Assert.Equal(body, Kept.Read<BenchEventBody>("{\"reason\":\"quenched\",\"note\":\"In the tank\"}", _ => { })); // before versions
        Assert.Equal(body, Kept.Read<BenchEventBody>("{\"v\":7,\"reason\":\"quenched\",\"note\":\"In the tank\",\"mood\":\"poor\"}", _ => { })); // a newer one
        Assert.Equal(
            body,
            Kept.Read<BenchEventBody>(
                "{\"v\":1,\"why\":\"quenched\",\"note\":\"In the tank\"}",
                _ => throw new InvalidOperationException(),
                shape => shape["reason"] = shape["why"]!.DeepClone()
            )
        ); // a step runs only on what is older than it
        Assert.Throws<JsonException>(() => Kept.Read<BenchEventBody>("[]", _ => { }));
        Assert.Throws<JsonException>(() => Kept.Read<ChanceBand>("null", _ => { }));
    }
}
