using System.Data.Common;
using System.Net.Http.Json;
using System.Text.Json;
using Gradus.Data;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;

namespace Gradus.Server.Tests;

public sealed class DemoTests(DemoTests.Demo demo) : IClassFixture<DemoTests.Demo>
{
    public sealed class Demo : IAsyncLifetime
    {
        public RunningServer Server { get; } = new(RunningServer.DemoFolder(), demo: true);
        public HttpClient Client { get; private set; } = null!;

        public async ValueTask InitializeAsync()
        {
            Client = await Server.SignedIn();
            await Server.Renewed();
        }

        public ValueTask DisposeAsync() => Server.DisposeAsync();
    }

    [Fact]
    public async Task The_demo_has_all_fourteen_students_in_twelve_booths_with_work_under_way()
    {
        var floor = await demo.Client.GetFromJsonAsync<JsonElement>("/api/floor");
        var students = floor.GetProperty("students").EnumerateArray().ToList();
        Assert.Equal(14, students.Count);
        Assert.Equal(12, floor.GetProperty("booths").GetArrayLength());
        Assert.Contains(students, student => student.GetProperty("open").ValueKind == JsonValueKind.Object);
        Assert.Equal(["P8", "R3"], students.Select(student => student.GetProperty("targetTestId").GetString()).Distinct().Order());
    }

    [Fact]
    public async Task Nobody_is_without_a_period_next_week_while_a_booth_is_free()
    {
        var week = await demo.Client.GetFromJsonAsync<JsonElement>("/api/weeks/2031-03-10");
        var planned = week.GetProperty("cells").EnumerateArray().Select(cell => cell.GetProperty("studentId").GetGuid()).ToHashSet();
        foreach (var student in week.GetProperty("students").EnumerateArray())
        {
            var without = student.GetProperty("without").GetString();
            Assert.Equal(planned.Contains(student.GetProperty("id").GetGuid()), without is null);
            Assert.NotEqual("A booth is free: plan again.", without);

            // Whoever is asked for coupons under test rules is given one before anything else that week, as far as their periods reach.
            var asked = student.GetProperty("items").EnumerateArray().Where(item => item.GetProperty("asked").GetInt32() > 0).ToList();
            var ids = asked.Select(item => item.GetProperty("id").GetString()).ToHashSet();
            Assert.True(
                asked.Count == 0
                    || without is not null
                    || week.GetProperty("cells")
                        .EnumerateArray()
                        .Any(cell =>
                            cell.GetProperty("studentId").GetGuid() == student.GetProperty("id").GetGuid()
                            && ids.Contains(cell.GetProperty("itemId").GetString())
                        )
            );
        }
    }

    [Fact]
    public async Task The_same_seed_makes_the_same_history()
    {
        await using var other = new RunningServer(demo: true);
        var client = await other.SignedIn();
        await other.Renewed();
        var again = await client.GetFromJsonAsync<JsonElement>("/api/floor");
        var first = await demo.Client.GetFromJsonAsync<JsonElement>("/api/floor");
        Assert.Equal(first.GetProperty("students").GetRawText(), again.GetProperty("students").GetRawText());
    }

    [Fact]
    public async Task The_file_is_write_ahead_logged_fully_synced_and_keeps_its_foreign_keys()
    {
        using var scope = demo.Server.Services.CreateScope();
        var db = scope.ServiceProvider.GetRequiredService<GradusContext>();
        await db.Database.OpenConnectionAsync();
        Assert.Equal("wal", await Pragma(db.Database.GetDbConnection(), "journal_mode"));
        Assert.Equal("2", await Pragma(db.Database.GetDbConnection(), "synchronous"));
        Assert.Equal("1", await Pragma(db.Database.GetDbConnection(), "foreign_keys"));
        static async Task<string?> Pragma(DbConnection connection, string name)
        {
            await using var command = connection.CreateCommand();
            command.CommandText =
                "PRAGMA "
                + name switch
                {
                    "journal_mode" => "journal_mode",
                    "synchronous" => "synchronous",
                    _ => "foreign_keys",
                };
            return (await command.ExecuteScalarAsync())?.ToString();
        }
    }

    [Fact]
    public async Task The_coupon_list_goes_on_page_by_page_without_a_gap_or_a_double()
    {
        var floor = await demo.Client.GetFromJsonAsync<JsonElement>("/api/floor");
        var dev = floor
            .GetProperty("students")
            .EnumerateArray()
            .Single(student => student.GetProperty("name").GetString() == "Dev Pillai")
            .GetProperty("id")
            .GetGuid();
        var seen = new List<Guid>();
        string? before = null;
        do
        {
            var page = await demo.Client.GetFromJsonAsync<JsonElement>(
                $"/api/students/{dev}/coupons" + (before is null ? "" : $"?before={Uri.EscapeDataString(before)}")
            );
            seen.AddRange(page.GetProperty("rows").EnumerateArray().Select(row => row.GetProperty("id").GetGuid()));
            before = page.GetProperty("next").GetString();
        } while (before is not null);

        Assert.Equal(25, seen.Count); // 15 on the target test, 9 on the two before it, and the one in work
        Assert.Equal(seen.Distinct(), seen);
    }
}
