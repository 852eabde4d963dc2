using System.IO.Compression;
using System.Net.Http.Json;
using System.Security.Cryptography;
using System.Text;
using System.Text.Json;
using System.Text.Json.Nodes;
using Gradus.Data;
using Gradus.Server.Hosting;
using Gradus.Server.School;
using Microsoft.AspNetCore.Identity;
using Microsoft.Data.Sqlite;
using Microsoft.Extensions.DependencyInjection;
using NJsonSchema;
using SkiaSharp;

namespace Gradus.Server.Tests;

/// <summary>The whole school as one open archive: another Gradus reads it to the same answers, and any program can read it.</summary>
public sealed class OpenArchiveTests : IDisposable
{
    private readonly string work = Directory.CreateTempSubdirectory("gradus-archive-").FullName;
    private static readonly DateTimeOffset Now = new(2031, 3, 4, 10, 0, 0, TimeSpan.Zero);

    public void Dispose() => Directory.Delete(work, recursive: true);

    private static GradusOptions Options(string folder, bool demo = true) => new("127.0.0.1", 0, folder, demo);

    [Fact]
    public async Task Another_program_of_the_kind_reads_it_to_the_same_answers()
    {
        await using var first = new RunningServer(RunningServer.DemoFolder(), demo: true);
        using var client = await first.SignedIn();
        var coupon = (await client.GetFromJsonAsync<JsonElement>("/api/floor"))
            .GetProperty("students")
            .EnumerateArray()
            .Select(one => one.GetProperty("open"))
            .First(one => one.ValueKind == JsonValueKind.Object)
            .GetProperty("id")
            .GetGuid();
        (
            await client.PutAsJsonAsync($"/api/coupons/{coupon}/notes/{Guid.NewGuid()}", new { text = "Says: \"hot\", 3/8 in ½ – œ\nand more" })
        ).EnsureSuccessStatusCode();
        using (var bitmap = new SKBitmap(60, 40))
        using (var data = bitmap.Encode(SKEncodedImageFormat.Jpeg, 80))
        {
            (await client.PutPhoto(coupon, Guid.CreateVersion7(), data.ToArray())).EnsureSuccessStatusCode();
        }

        var records = Rows(Path.Combine(first.Folder, "demo.db"), "SELECT Id FROM Certificates");
        Assert.NotEmpty(records);
        var before = await Answers(client, records);

        var archive = OpenArchive.Make(Options(first.Folder), work, nameless: false, Now);
        await EveryLineIsWhatItsSchemaSays(archive);
        var folder = Path.Combine(work, "other");
        var lines = OpenArchive.Take(archive, Options(folder));
        Assert.True(lines["coupons"] > 200 && lines["passes"] > 1000);

        // Row by row what it was, but for what guards a sign-in and what is worked out anew.
        foreach (var kind in ArchiveKinds.All)
        {
            var columns = string.Join(", ", kind.Members.Where(one => one.Filler is null).Select(one => $"\"{one.Column}\""));
            var sql = $"SELECT {columns} FROM \"{kind.Table}\" ORDER BY 1, 2";
            Assert.Equal(Rows(Path.Combine(first.Folder, "demo.db"), sql), Rows(Path.Combine(folder, "demo.db"), sql));
        }

        Assert.Equal(Files(Path.Combine(first.Folder, "photos")), Files(Path.Combine(folder, "photos")));

        await using var other = new RunningServer(folder, demo: true);
        using (other.CreateClient()) { }
        await GivePin(other);
        using var again = await other.SignedIn();
        var after = await Answers(again, records);
        Assert.Equal(before.Keys, after.Keys);
        Assert.All(before, one => AreSame(one.Value, after[one.Key], one.Key));
        var students = after["/api/floor"]!["students"]!.AsArray();
        await Walk.EveryView(again, [(Guid)students[0]!["id"]!]);
    }

    /// <summary>The schemas are published with the project; <c>./gradus docs</c> writes them.</summary>
    [Fact]
    public void The_published_schemas_are_those_of_the_archives()
    {
        var folder = Path.Combine(AppContext.BaseDirectory, "../../../../..", "docs/archive");
        var made = ArchiveKinds.All.ToDictionary(kind => $"{kind.Name}.schema.json", kind => OpenArchive.SchemaText(kind) + "\n");
        if (Environment.GetEnvironmentVariable("GRADUS_WRITE_DOCS") == "1")
        {
            Directory.CreateDirectory(folder);
            Directory.GetFiles(folder, "*.schema.json").ToList().ForEach(File.Delete);
            made.ToList().ForEach(one => File.WriteAllText(Path.Combine(folder, one.Key), one.Value));
        }

        Assert.Equal(
            made.Keys.Order(StringComparer.Ordinal),
            Directory.GetFiles(folder, "*.schema.json").Select(file => Path.GetFileName(file)).Order(StringComparer.Ordinal)
        );
        Assert.All(made, one => Assert.True(File.ReadAllText(Path.Combine(folder, one.Key)) == one.Value, $"{one.Key} is stale: run ./gradus docs."));
    }

    [Fact]
    public async Task What_is_not_whole_or_does_not_hold_together_changes_nothing_and_says_where()
    {
        await using var server = new RunningServer();
        var school = await SharedSchool.Make(server);
        var archive = OpenArchive.Make(Options(server.Folder, demo: false), work, nameless: false, Now);
        var folder = Path.Combine(work, "other");
        string Refused(string file, string to) => Assert.Throws<StorageException>(() => OpenArchive.Take(file, Options(to, demo: false))).Message;

        Assert.Contains("There is a school", Refused(archive, Filled()), StringComparison.Ordinal);
        Assert.Contains(
            "read it without GRADUS_DEMO",
            Assert.Throws<StorageException>(() => OpenArchive.Take(archive, Options(folder))).Message,
            StringComparison.Ordinal
        );

        var student = school.Students[0].Id.ToString();
        Assert.Contains(
            "students.jsonl is not what it was",
            Refused(Changed("data/students.jsonl", text => text.Replace("Ines", "Inez", StringComparison.Ordinal), mend: false), folder),
            StringComparison.Ordinal
        );
        Assert.Contains(
            "students.jsonl, line 2",
            Refused(Changed("data/students.jsonl", text => text.Replace("\n{", "\n{\"shoe\":44,", StringComparison.Ordinal)), folder),
            StringComparison.Ordinal
        );
        Assert.Contains("students.jsonl, line 1", Refused(Changed("data/students.jsonl", text => $"{{{text}"), folder), StringComparison.Ordinal);
        Assert.Contains(
            "startedAt",
            Refused(
                Changed("data/coupons.jsonl", text => text.Replace("\"startedAt\":\"", "\"startedAt\":7,\"x\":\"", StringComparison.Ordinal)),
                folder
            ),
            StringComparison.Ordinal
        );
        Assert.Contains(
            "does not hold together",
            Refused(
                Changed(
                    "data/coupons.jsonl",
                    text => text.Replace(student, Guid.NewGuid().ToString().ToUpperInvariant(), StringComparison.OrdinalIgnoreCase)
                ),
                folder
            ),
            StringComparison.Ordinal
        );
        Assert.Contains(
            "newer Gradus",
            Refused(Changed("manifest.json", text => text.Replace("\"version\": 1", "\"version\": 2", StringComparison.Ordinal)), folder),
            StringComparison.Ordinal
        );
        Assert.Contains("not an archive", Refused(Plain(), folder), StringComparison.Ordinal);
        Assert.Contains(
            "names nobody",
            Refused(OpenArchive.Make(Options(server.Folder, demo: false), work, nameless: true, Now), folder),
            StringComparison.Ordinal
        );
        Assert.DoesNotContain(Directory.EnumerateFiles(folder), file => file.EndsWith(".db", StringComparison.Ordinal));

        // The whole one is taken all the same.
        Assert.Equal(2, OpenArchive.Take(archive, Options(folder, demo: false))["students"]);

        string Filled()
        {
            var filled = Directory.CreateDirectory(Path.Combine(work, "filled")).FullName;
            File.Copy(Path.Combine(server.Folder, "gradus.db"), Path.Combine(filled, "gradus.db"));
            return filled;
        }

        string Plain()
        {
            var file = Path.Combine(work, "plain.zip");
            using var zip = ZipFile.Open(file, ZipArchiveMode.Create);
            zip.CreateEntry("readme.txt");
            return file;
        }

        string Changed(string name, Func<string, string> change, bool mend = true)
        {
            var file = Path.Combine(work, $"{Guid.NewGuid():N}.zip");
            File.Copy(archive, file);
            using var zip = ZipFile.Open(file, ZipArchiveMode.Update);
            var (before, after) = (Text(zip, name), change(Text(zip, name)));
            Assert.NotEqual(before, after);
            Replace(zip, name, after);
            if (mend && name != "manifest.json")
            {
                string Hash(string text) => Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(text)));
                Replace(zip, "manifest.json", Text(zip, "manifest.json").Replace(Hash(before), Hash(after), StringComparison.Ordinal));
            }

            return file;
        }
    }

    [Fact]
    public async Task A_college_asks_several_schools_at_once_and_reads_no_name()
    {
        var archives = new List<string>();
        foreach (var name in new[] { "North shop", "South shop" })
        {
            await using var server = new RunningServer();
            var school = await SharedSchool.Make(server, students: name == "North shop" ? 2 : 3);
            var settings = (await school.Lead.GetFromJsonAsync<JsonObject>("/api/school"))!;
            settings["name"] = name;
            (await school.Lead.PutAsJsonAsync("/api/school", settings)).EnsureSuccessStatusCode();
            for (var at = 0; at < school.Students.Count; at++)
            {
                var result = new
                {
                    studentId = school.Students[at].Id,
                    testId = "P8",
                    day = "2031-03-03",
                    passed = at == 0,
                    note = "Bo Rask was there",
                };
                (await school.Lead.PutAsJsonAsync($"/api/results/{Guid.NewGuid()}", result)).EnsureSuccessStatusCode();
            }

            (
                await school.Lead.PutAsJsonAsync(
                    $"/api/students/{school.Students[0].Id}/details",
                    new
                    {
                        name = "Ines Aune",
                        classGroupId = await ClassOf(school.Lead),
                        hand = "right",
                        targetTestId = "P8",
                        note = "cousin of Tor",
                    }
                )
            ).EnsureSuccessStatusCode();
            archives.Add(OpenArchive.Make(Options(server.Folder, demo: false), work, nameless: true, Now.AddMinutes(archives.Count)));
            using var zip = ZipFile.OpenRead(archives[^1]);
            var all = string.Join(
                '\n',
                zip.Entries.Where(entry => entry.FullName.StartsWith("data/", StringComparison.Ordinal)).Select(entry => Text(zip, entry.FullName))
            );
            Assert.All(
                (string[])["Ines", "Aune", "Quist", "Rask", "Tor ", "Bakke", "\"Lead\",\"pass"],
                word => Assert.DoesNotContain(word, all, StringComparison.Ordinal)
            );
        }

        var database = Path.Combine(work, "college.db");
        Assert.True(OpenArchive.Join(database, archives) > 10);
        Assert.Equal(["North shop|P8|2|1|50.0", "South shop|P8|3|1|33.3"], Rows(database, WorkedQuery()));
        Assert.Contains("already", Assert.Throws<StorageException>(() => OpenArchive.Join(database, archives)).Message, StringComparison.Ordinal);
    }

    private static async Task EveryLineIsWhatItsSchemaSays(string archive)
    {
        using var zip = ZipFile.OpenRead(archive);
        foreach (var kind in ArchiveKinds.All)
        {
            var text = Text(zip, $"schema/{kind.Name}.schema.json");
            var schema = await JsonSchema.FromJsonAsync(text);
            var wrong = Lines(zip, kind.Name).Take(40).SelectMany(line => schema.Validate(line)).Take(3).Select(one => $"{kind.Name}: {one}");
            Assert.Empty(wrong);

            // What it means stands beside it, and the documents of the project have the same.
            Assert.True(((string?)JsonNode.Parse(text)!["description"])!.Length > 90, kind.Name);
        }

        // A line that is not so is told: the check can fail.
        var coupons = await JsonSchema.FromJsonAsync(Text(zip, "schema/coupons.schema.json"));
        var one = JsonNode.Parse(Lines(zip, "coupons").First())!.AsObject();
        one["number"] = "seven";
        Assert.NotEmpty(coupons.Validate(one.ToJsonString()));

        Assert.DoesNotContain(
            zip.Entries.Where(entry => entry.Name.EndsWith(".jsonl", StringComparison.Ordinal)),
            entry =>
                Text(zip, entry.FullName).Contains("passwordHash", StringComparison.OrdinalIgnoreCase)
                || Text(zip, entry.FullName).Contains("AQAAAA", StringComparison.Ordinal)
        );
    }

    /// <summary>The query of docs/district.md, as it stands there.</summary>
    private static string WorkedQuery()
    {
        var text = File.ReadAllText(Path.Combine(AppContext.BaseDirectory, "../../../../..", "docs/district.md"));
        return text.Split("```sql")[1].Split("```")[0];
    }

    private static async Task<string> ClassOf(HttpClient client) =>
        (await client.GetFromJsonAsync<JsonElement>("/api/classes"))[0].GetProperty("id").GetString()!;

    /// <summary>Verdicts, chances, ranges: all that is answered from what was logged.</summary>
    private static async Task<SortedDictionary<string, JsonNode?>> Answers(HttpClient client, IEnumerable<string> records)
    {
        var answers = new SortedDictionary<string, JsonNode?>(StringComparer.Ordinal);
        async Task<JsonNode> Ask(string path) => answers[path] = (await client.GetFromJsonAsync<JsonNode>(path))!;
        while ((await client.GetFromJsonAsync<JsonElement>("/api/ready?all=true")).GetProperty("areOld").GetBoolean())
        {
            await Task.Delay(200); // chances that were never worked out here are worked out behind it
        }

        var floor = await Ask("/api/floor");
        foreach (var id in floor!["students"]!.AsArray().Select(one => (string)one!["id"]!).Take(5))
        {
            var student = (await Ask($"/api/students/{id}"))!;
            var test = (string)student["targetTestId"]!;
            await Ask($"/api/students/{id}/tests/{test}/readiness");
            await Ask($"/api/students/{id}/holds");
            foreach (var coupon in (await Ask($"/api/students/{id}/coupons"))!["rows"]!.AsArray().Take(4))
            {
                await Ask($"/api/coupons/{coupon!["id"]}");
            }
        }

        foreach (var record in records)
        {
            await Ask($"/api/certificates/{record}");
        }

        await Ask("/api/certificates/board");

        await Ask("/api/ready");
        await Ask("/api/sittings");
        await Ask("/api/learn/class");
        return answers;
    }

    /// <summary>The same, numbers to one in a thousand million.</summary>
    private static void AreSame(JsonNode? a, JsonNode? b, string place)
    {
        switch (a, b)
        {
            case (JsonObject x, JsonObject y):
                Assert.True(x.Select(one => one.Key).SequenceEqual(y.Select(one => one.Key)), place);
                foreach (var (key, value) in x)
                {
                    AreSame(value, y[key], $"{place}.{key}");
                }

                break;
            case (JsonArray x, JsonArray y):
                Assert.True(x.Count == y.Count, place);
                for (var at = 0; at < x.Count; at++)
                {
                    AreSame(x[at], y[at], $"{place}[{at}]");
                }

                break;
            case (JsonValue x, JsonValue y) when x.GetValueKind() == JsonValueKind.Number && y.GetValueKind() == JsonValueKind.Number:
                var (was, then) = (x.GetValue<double>(), y.GetValue<double>());
                Assert.True(Math.Abs(was - then) <= 1e-9 * Math.Max(1, Math.Abs(was)), $"{place}: {was:R} and {then:R}");
                break;
            default:
                Assert.True(JsonNode.DeepEquals(a, b), $"{place}: {a?.ToJsonString()} and {b?.ToJsonString()}");
                break;
        }
    }

    /// <summary>As <c>people pin</c> does it: an archive has no PINs.</summary>
    private static async Task GivePin(RunningServer server)
    {
        await using var scope = server.Services.CreateAsyncScope();
        var db = scope.ServiceProvider.GetRequiredService<GradusContext>();
        foreach (var lead in db.People.Where(one => one.Role == PersonRole.Lead).ToList())
        {
            Assert.Equal("", lead.PasswordHash);
            lead.PasswordHash = scope.ServiceProvider.GetRequiredService<IPasswordHasher<Person>>().HashPassword(lead, "2468");
        }

        await db.SaveChangesAsync();
    }

    private static string Text(ZipArchive zip, string name)
    {
        using var reader = new StreamReader(zip.GetEntry(name)!.Open());
        return reader.ReadToEnd();
    }

    private static string[] Lines(ZipArchive zip, string kind) => Text(zip, $"data/{kind}.jsonl").Split('\n', StringSplitOptions.RemoveEmptyEntries);

    private static void Replace(ZipArchive zip, string name, string text)
    {
        zip.GetEntry(name)!.Delete();
        using var to = new StreamWriter(zip.CreateEntry(name).Open());
        to.Write(text);
    }

    private static List<string> Rows(string database, string sql)
    {
        using var connection = DatabaseCopy.Open(database, SqliteOpenMode.ReadOnly);
        using var command = connection.CreateCommand();
        command.CommandText = sql;
        using var reader = command.ExecuteReader();
        var rows = new List<string>();
        while (reader.Read())
        {
            rows.Add(
                string.Join(
                    '|',
                    Enumerable
                        .Range(0, reader.FieldCount)
                        .Select(at =>
                            reader.GetValue(at) switch
                            {
                                DBNull => "",
                                byte[] bytes => Convert.ToHexString(bytes),
                                IFormattable number => number.ToString(null, System.Globalization.CultureInfo.InvariantCulture),
                                var value => value.ToString(),
                            }
                        )
                )
            );
        }

        return rows;
    }

    private static List<string> Files(string folder) =>
        [
            .. Directory
                .EnumerateFiles(folder, "*", SearchOption.AllDirectories)
                .Select(file => $"{Path.GetRelativePath(folder, file)} {Convert.ToHexString(SHA256.HashData(File.ReadAllBytes(file)))}")
                .Order(StringComparer.Ordinal),
        ];
}
