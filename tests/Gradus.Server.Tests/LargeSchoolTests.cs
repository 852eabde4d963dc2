using System.Collections.Concurrent;
using System.Data.Common;
using System.Net.Http.Json;
using System.Text.Json;
using System.Text.RegularExpressions;
using Gradus.Data;
using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Diagnostics;
using Microsoft.Extensions.DependencyInjection;

namespace Gradus.Server.Tests;

/// <summary>The main views on a file with 100 000 closed coupons: bounded, a fixed number of commands, and through an index each time.</summary>
public sealed class LargeSchoolTests(LargeSchoolTests.School school) : IClassFixture<LargeSchoolTests.School>
{
    private readonly RunningServer server = school.Server;
    private readonly Recorder recorder = school.Asked;
    private readonly HttpClient client = school.Client;
    private readonly Guid student = school.Student;
    private readonly Guid coupon = school.Coupon;

    [Theory]
    [InlineData("/api/floor", 22)]
    [InlineData("/api/wall", 22)]
    [InlineData("/api/find?q=AAC", 4)]
    [InlineData("/api/students/{student}", 14)]
    [InlineData("/api/students/{student}/coupons", 4)]
    [InlineData("/api/coupons/{coupon}", 16)]
    [InlineData("/api/coupons/{coupon}/arcs", 12)]
    [InlineData("/api/students/{student}/arcs", 5)]
    [InlineData("/api/coupons/{coupon}/lab", 6)]
    [InlineData("/api/floor/due", 14)]
    [InlineData("/api/students/{student}/tests/P8/grounds", 17)]
    [InlineData("/api/ready", 6)]
    [InlineData("/api/ready?all=true", 7)]
    [InlineData("/api/students/{student}/tests/P8/readiness", 6)]
    [InlineData("/api/coupons/{coupon}/history", 12)]
    [InlineData("/api/learn/students/{student}", 8)]
    [InlineData("/api/learn/class", 7)]
    [InlineData("/api/results", 4)]
    [InlineData("/api/model", 4)]
    [InlineData("/api/weeks/2031-03-03", 24)]
    [InlineData("/api/students/{student}/way", 24)]
    [InlineData("/api/weeks/2031-03-03/cutlist", 8)]
    public async Task A_main_view_asks_a_fixed_number_of_questions_and_each_goes_through_an_index(string path, int most)
    {
        path = path.Replace("{student}", $"{student}", StringComparison.Ordinal).Replace("{coupon}", $"{coupon}", StringComparison.Ordinal);
        await client.GetAsync(path); // readiness is worked out once, and kept
        recorder.Commands.Clear();
        var answer = await client.GetAsync(path);
        answer.EnsureSuccessStatusCode();
        Assert.InRange(recorder.Commands.Count, 1, most);
        using var scope = server.Services.CreateScope();
        var connection = scope.ServiceProvider.GetRequiredService<GradusContext>().Database.GetDbConnection();
        await connection.OpenAsync();
        foreach (var asked in recorder.Commands.ToList())
        {
            var scanned = (await Plan(connection, asked))
                .Select(step => Scan.Match(step))
                .Where(match => match.Success)
                .Select(match => TableOf(asked, match.Groups[1].Value));
            Assert.Empty(scanned.Intersect(Growing));
        }
    }

    [Fact]
    public async Task A_stamp_is_looked_up_by_its_beginning_and_not_by_walking_all_of_them()
    {
        recorder.Commands.Clear();
        (await client.GetAsync("/api/find?q=AAC")).EnsureSuccessStatusCode();
        using var scope = server.Services.CreateScope();
        var connection = scope.ServiceProvider.GetRequiredService<GradusContext>().Database.GetDbConnection();
        await connection.OpenAsync();
        var ofCoupons = recorder.Commands.Single(asked => asked.Text.Contains("\"Coupons\"", StringComparison.Ordinal));
        Assert.Contains(await Plan(connection, ofCoupons), step => step.Contains("USING INDEX IX_Coupons_Stamp (Stamp>", StringComparison.Ordinal));
    }

    [Fact]
    public async Task The_coupon_list_of_a_student_comes_in_pages()
    {
        var page = await client.GetFromJsonAsync<JsonElement>($"/api/students/{student}/coupons");
        Assert.Equal(20, page.GetProperty("rows").GetArrayLength());
        Assert.NotEqual(JsonValueKind.Null, page.GetProperty("next").ValueKind);
    }

    private static readonly string[] Growing =
    [
        "Coupons",
        "Passes",
        "Traces",
        "LabOrders",
        "Findings",
        "FitUps",
        "Notes",
        "Closings",
        "Decisions",
        "Readiness",
        "WeekPlans",
        "StockMoves",
        "Absences",
        "Sittings",
        "SittingResults",
        "ModelChanges",
    ];

    // "SCAN c" reads a whole table; "SCAN c USING INDEX" walks an index.
    private static readonly Regex Scan = new(@"^SCAN (\w+)$");

    private static string TableOf(Query asked, string alias) => Regex.Match(asked.Text, $"\"(\\w+)\" AS \"{alias}\"").Groups[1].Value;

    private static async Task<List<string>> Plan(DbConnection connection, Query asked)
    {
        await using var command = connection.CreateCommand();
#pragma warning disable CA2100 // The text is the program's own query, read back.
        command.CommandText = "EXPLAIN QUERY PLAN " + asked.Text;
#pragma warning restore CA2100
        foreach (var (name, value) in asked.Values)
        {
            var parameter = command.CreateParameter();
            (parameter.ParameterName, parameter.Value) = (name, value ?? DBNull.Value);
            command.Parameters.Add(parameter);
        }

        var steps = new List<string>();
        await using var reader = await command.ExecuteReaderAsync();
        while (await reader.ReadAsync())
        {
            steps.Add(reader.GetString(3));
        }

        return steps;
    }

    /// <summary>A school with 100 000 closed coupons, made by copying one that went through the server.</summary>
    public sealed class School : IAsyncLifetime
    {
        private const int Coupons = 100_000;

        public RunningServer Server { get; } = new();
        internal Recorder Asked { get; } = new();
        public HttpClient Client { get; private set; } = null!;
        public Guid Student { get; private set; }
        public Guid Coupon { get; private set; }

        public async ValueTask InitializeAsync()
        {
            Server.Interceptors.Add(Asked);
            Client = await Server.SignedIn();
            var students = new List<Guid>();
            for (var index = 0; index < 20; index++)
            {
                students.Add(await Client.AddStudent());
            }

            Student = students[0];
            Coupon = await Client.StartCoupon(Student);
            await Client.LayAllBeads(Coupon);
            (await Client.Close(Coupon)).EnsureSuccessStatusCode();
            await Multiply();
            Coupon = await Client.StartCoupon(Student);
            await Server.Renewed();
        }

        public ValueTask DisposeAsync() => Server.DisposeAsync();

        private async Task Multiply()
        {
            using var scope = Server.Services.CreateScope();
            var database = scope.ServiceProvider.GetRequiredService<GradusContext>().Database;
            await database.ExecuteSqlRawAsync(
                await File.ReadAllTextAsync(Path.Combine(AppContext.BaseDirectory, "large-school.sql")),
                new SqliteParameter("$coupons", Coupons)
            );
        }
    }

    internal sealed record Query(string Text, IReadOnlyList<(string Name, object? Value)> Values);

    internal sealed class Recorder : DbCommandInterceptor
    {
        public ConcurrentQueue<Query> Commands { get; } = new();

        public override ValueTask<InterceptionResult<DbDataReader>> ReaderExecutingAsync(
            DbCommand command,
            CommandEventData eventData,
            InterceptionResult<DbDataReader> result,
            CancellationToken cancellationToken = default
        )
        {
            Commands.Enqueue(
                new Query(command.CommandText, [.. command.Parameters.Cast<DbParameter>().Select(one => (one.ParameterName, one.Value))])
            );
            return ValueTask.FromResult(result);
        }
    }
}
