using System.Net;
using System.Net.Http.Json;
using System.Text;
using System.Text.Json;
using Ical.Net;

namespace Gradus.Server.Tests;

/// <summary>The plan through the contract: weeks, steps, stock, files and the floor's feed.</summary>
public sealed class PlanTests : IAsyncDisposable
{
    private const string Monday = "2031-03-03"; // the clock stands on the Tuesday of that week
    private readonly RunningServer server = new();

    public ValueTask DisposeAsync() => server.DisposeAsync();

    private static async Task<JsonElement> Json(Task<HttpResponseMessage> call) => await (await call).Content.ReadFromJsonAsync<JsonElement>();

    private const string Booths = """[{"id":"a","processes":["SMAW"],"pipe":true,"purge":false}]""";
    private const string Ann =
        """[{"id":"Ann","available":[0,1],"minPeriods":0,"maxPeriods":2,"items":[{"id":"full","process":"SMAW","needsPipe":true,"needsPurge":false,"holdPoints":2,"gains":[0.1,0.06]}]}]""";

    private async Task<HttpResponseMessage> Solve(
        string booths = Booths,
        string students = Ann,
        string rest = "\"periods\":2,\"holdPointsPerPeriod\":2,\"secondsLimit\":5"
    ) =>
        await (await server.SignedIn()).PostAsync(
            "/api/plan/solve",
            new StringContent($$"""{{{rest}},"booths":{{booths}},"students":{{students}}}""", Encoding.UTF8, "application/json")
        );

    [Fact]
    public async Task The_contract_solves_a_week_by_itself()
    {
        var answer = await Json(Solve());
        Assert.Equal("optimal", answer.GetProperty("status").GetString());
        Assert.Equal(0.16, answer.GetProperty("objective").GetDouble(), 1e-9);
        Assert.Equal(2, answer.GetProperty("assignments").GetArrayLength());
        var first = answer.GetProperty("assignments")[0];
        Assert.Equal(
            ("Ann", 0, "a", "full"),
            (
                first.GetProperty("student").GetString(),
                first.GetProperty("period").GetInt32(),
                first.GetProperty("booth").GetString(),
                first.GetProperty("item").GetString()
            )
        );
    }

    [Theory]
    [InlineData("\"periods\":0,\"holdPointsPerPeriod\":2,\"secondsLimit\":5", Booths, Ann, "periods")]
    [InlineData("\"periods\":2,\"holdPointsPerPeriod\":-1,\"secondsLimit\":5", Booths, Ann, "holdPointsPerPeriod")]
    [InlineData("\"periods\":2,\"holdPointsPerPeriod\":2,\"secondsLimit\":0", Booths, Ann, "secondsLimit")]
    [InlineData("\"periods\":2,\"holdPointsPerPeriod\":2,\"secondsLimit\":5", "null", Ann, "booths")]
    [InlineData(
        "\"periods\":2,\"holdPointsPerPeriod\":2,\"secondsLimit\":5",
        "[{\"id\":\"a\",\"processes\":[\"GLUE\"]}]",
        Ann,
        "booths[0].processes"
    )]
    [InlineData("\"periods\":1,\"holdPointsPerPeriod\":2,\"secondsLimit\":5", Booths, Ann, "students")]
    [InlineData(
        "\"periods\":2,\"holdPointsPerPeriod\":2,\"secondsLimit\":5",
        Booths,
        "[{\"id\":\"Ann\",\"available\":[0,0],\"items\":[]}]",
        "students[0].available"
    )]
    [InlineData(
        "\"periods\":2,\"holdPointsPerPeriod\":2,\"secondsLimit\":5",
        Booths,
        "[{\"id\":\"Ann\",\"available\":[0],\"items\":[{\"id\":\"i\",\"process\":\"SMAW\",\"gains\":[0.1,0.2]}]}]",
        "students[0].items[0].gains"
    )]
    [InlineData(
        "\"periods\":2,\"holdPointsPerPeriod\":2,\"secondsLimit\":5",
        Booths,
        "[{\"id\":\"Ann\",\"available\":[0],\"minPeriods\":3,\"maxPeriods\":2,\"items\":[]}]",
        "students[0].maxPeriods"
    )]
    public async Task A_week_that_makes_no_sense_is_refused_by_field(string rest, string booths, string students, string field) =>
        Assert.Contains(field, await (await Solve(booths, students, rest)).Fields(400));

    [Fact]
    public async Task An_empty_school_is_answered_in_words()
    {
        var none = await Json(Solve(booths: "[]"));
        Assert.Equal("infeasible", none.GetProperty("status").GetString());
        Assert.Contains("no booths", none.GetProperty("conflicts")[0].GetString());
        Assert.Equal("optimal", (await Json(Solve(students: "[]"))).GetProperty("status").GetString());
        var needs = """[{"id":"Ann","available":[],"minPeriods":2,"maxPeriods":2,"items":[]}]""";
        Assert.Contains("Ann needs 2 periods and comes in 0", (await Json(Solve(students: needs))).GetProperty("conflicts")[0].GetString());
    }

    private static async Task<JsonElement> SolvedWeek(HttpClient client, bool fewestMoves = false)
    {
        (await client.PostAsJsonAsync($"/api/weeks/{Monday}/solve", new { seconds = 5, fewestMoves })).EnsureSuccessStatusCode();
        for (var tries = 0; tries < 200; tries++)
        {
            var job = await client.GetFromJsonAsync<JsonElement>($"/api/weeks/{Monday}/job");
            if (job.GetProperty("state").GetString() != "running")
            {
                Assert.Equal("done", job.GetProperty("state").GetString());
                return job;
            }

            await Task.Delay(50);
        }

        throw new TimeoutException("The week was not solved.");
    }

    private static Task<JsonElement> Week(HttpClient client) => client.GetFromJsonAsync<JsonElement>($"/api/weeks/{Monday}");

    [Fact]
    public async Task Two_students_swap_their_booths_in_one_act_and_not_where_one_could_not_go_on()
    {
        var client = await server.SignedIn();
        var (ann, bo) = (await client.AddStudent("P4"), await client.AddStudent("P8"));
        var students = (await Week(client)).GetProperty("students").EnumerateArray().ToList();
        JsonElement Of(Guid student) => students.First(one => one.GetProperty("id").GetGuid() == student);
        var open = (await Week(client)).GetProperty("firstOpen").GetInt32();
        var slot = Of(ann).GetProperty("comes").EnumerateArray().Select(one => one.GetInt32()).First(one => one >= open);
        async Task<HttpResponseMessage> Give(Guid student, Guid? boothId = null) =>
            await client.PutAsJsonAsync(
                $"/api/weeks/{Monday}/cells",
                new
                {
                    studentId = student,
                    slot,
                    itemId = Of(student).GetProperty("items")[0].GetProperty("id").GetString(),
                    boothId,
                }
            );
        async Task<Guid> Booth(Guid student) =>
            (await Week(client))
                .GetProperty("cells")
                .EnumerateArray()
                .Single(cell => cell.GetProperty("studentId").GetGuid() == student)
                .GetProperty("boothId")
                .GetGuid();
        (await Give(ann)).EnsureSuccessStatusCode();
        (await Give(bo)).EnsureSuccessStatusCode();
        var (hers, his) = (await Booth(ann), await Booth(bo));
        (await Give(ann, his)).EnsureSuccessStatusCode();
        Assert.Equal((his, hers), (await Booth(ann), await Booth(bo)));

        // Ann's booth now runs nothing that his item needs: he could not go on there.
        var plain = new
        {
            processes = new[] { "GTAW" },
            pipe = false,
            purge = false,
            extraction = false,
            column = 30,
            row = 0,
        };
        (await client.PutAsJsonAsync($"/api/booths/{his}", plain)).EnsureSuccessStatusCode();
        Assert.Equal(["boothId"], await (await Give(ann, hers)).Fields(409));
        Assert.Equal((his, hers), (await Booth(ann), await Booth(bo)));
    }

    [Fact]
    public async Task A_week_is_solved_accepted_changed_by_hand_and_planned_again_with_few_moves()
    {
        var client = await server.SignedIn();
        var (ann, bo) = (await client.AddStudent("P4"), await client.AddStudent("P8"));
        await SolvedWeek(client);
        Assert.Equal(0, (await Week(client)).GetProperty("cells").GetArrayLength()); // the old plan stands until it is accepted
        (await client.PostAsync($"/api/weeks/{Monday}/accept", null)).EnsureSuccessStatusCode();
        var week = await Week(client);
        var cells = week.GetProperty("cells").EnumerateArray().ToList();
        Assert.Equal(10, cells.Count); // two students, five periods each at most
        Assert.All(cells, cell => Assert.NotEqual("", cell.GetProperty("why").GetString()));
        Assert.Contains("monday", await (await client.PostAsync($"/api/weeks/{Monday}/accept", null)).Fields(409));

        // Ann's first cell is given another item by hand, which pins it; then she is absent in it.
        var first = cells.First(cell => cell.GetProperty("studentId").GetGuid() == ann);
        var slot = first.GetProperty("slot").GetInt32();
        var items = week.GetProperty("students").EnumerateArray().First(one => one.GetProperty("id").GetGuid() == ann).GetProperty("items");
        var other = items
            .EnumerateArray()
            .Select(item => item.GetProperty("id").GetString())
            .First(id => id != first.GetProperty("itemId").GetString());
        (
            await client.PutAsJsonAsync(
                $"/api/weeks/{Monday}/cells",
                new
                {
                    studentId = ann,
                    slot,
                    itemId = other,
                    pinned = true,
                }
            )
        ).EnsureSuccessStatusCode();
        Assert.Contains(
            (await Week(client)).GetProperty("cells").EnumerateArray(),
            cell => cell.GetProperty("itemId").GetString() == other && cell.GetProperty("pinned").GetBoolean()
        );
        var taken = cells.First(cell => cell.GetProperty("studentId").GetGuid() == bo);
        Assert.Contains(
            "slot",
            await (
                await client.PutAsJsonAsync(
                    $"/api/weeks/{Monday}/cells",
                    new
                    {
                        studentId = bo,
                        slot = 20,
                        itemId = taken.GetProperty("itemId").GetString(),
                    }
                )
            ).Fields(409)
        );

        var periods = week.GetProperty("periodNames").GetArrayLength();
        var day = DateOnly.Parse(Monday, System.Globalization.CultureInfo.InvariantCulture).AddDays(slot / periods);
        (
            await client.PutAsJsonAsync(
                $"/api/absences/{Guid.CreateVersion7()}",
                new
                {
                    studentId = ann,
                    day,
                    period = slot % periods,
                }
            )
        ).EnsureSuccessStatusCode();
        var job = await SolvedWeek(client, fewestMoves: true);
        Assert.Equal("infeasible", job.GetProperty("status").GetString());
        Assert.Contains("does not come then", job.GetProperty("conflicts")[0].GetString());
        Assert.Equal(1, job.GetProperty("moves").GetInt32());
    }

    [Fact]
    public async Task The_week_reads_back_from_a_calendar_and_from_tables()
    {
        var client = await server.SignedIn();
        await client.AddStudent("P4");
        await SolvedWeek(client);
        (await client.PostAsync($"/api/weeks/{Monday}/accept", null)).EnsureSuccessStatusCode();
        var cells = (await Week(client)).GetProperty("cells").GetArrayLength();
        var calendar = Calendar.Load(await client.GetStringAsync($"/api/weeks/{Monday}/calendar.ics"))!;
        Assert.Equal(cells, calendar.Events.Count);
        Assert.All(calendar.Events, one => Assert.StartsWith("Booth ", one.Location, StringComparison.Ordinal));
        Assert.Equal(cells, calendar.Events.Select(one => one.Uid).Distinct().Count());
        var starts = calendar.Events.Select(one => one.Start!.AsUtc).Min();
        Assert.True(starts >= new DateTime(2031, 3, 3, 7, 0, 0, DateTimeKind.Utc)); // eight in the morning in Oslo
        Assert.Equal(cells + 1, (await client.GetStringAsync($"/api/weeks/{Monday}/plan.csv")).TrimEnd().Split('\n').Length);
        Assert.StartsWith("stock,", await client.GetStringAsync($"/api/weeks/{Monday}/draws.csv"), StringComparison.Ordinal);

        // The feed needs no session, only its address, which exists once the school has set anything.
        (await client.PutAsJsonAsync("/api/plan/setup", new { prices = new { gas = 0.03 } })).EnsureSuccessStatusCode();
        var path = (await client.GetFromJsonAsync<JsonElement>("/api/plan/setup")).GetProperty("feedPath").GetString();
        Assert.Equal(cells, Calendar.Load(await server.CreateClient().GetStringAsync(path))!.Events.Count);
        Assert.Equal(HttpStatusCode.NotFound, (await server.CreateClient().GetAsync("/calendar/0123.ics")).StatusCode);

        // Whoever should not have it any more loses it with a new address; what was set stays.
        var renewed = await (await client.PostAsync("/api/plan/calendar-key", null)).Content.ReadFromJsonAsync<JsonElement>();
        Assert.Equal(HttpStatusCode.NotFound, (await server.CreateClient().GetAsync(path)).StatusCode);
        Assert.Equal(cells, Calendar.Load(await server.CreateClient().GetStringAsync(renewed.GetProperty("feedPath").GetString()))!.Events.Count);
        Assert.Equal(
            0.03,
            renewed.GetProperty("prices").EnumerateArray().Single(one => one.GetProperty("id").GetString() == "gas").GetProperty("amount").GetDouble()
        );
    }

    [Fact]
    public async Task Stock_is_counted_cut_and_never_goes_below_nothing()
    {
        var client = await server.SignedIn();
        await client.AddStudent("P4");
        Task<HttpResponseMessage> Move(object move) => client.PutAsJsonAsync($"/api/stock/moves/{Guid.CreateVersion7()}", move);
        await SolvedWeek(client);
        (await client.PostAsync($"/api/weeks/{Monday}/accept", null)).EnsureSuccessStatusCode();
        var before = await client.GetFromJsonAsync<JsonElement>($"/api/weeks/{Monday}/cutlist");
        var section = before.GetProperty("sections")[0];
        var stock = section.GetProperty("stock").GetString()!;
        Assert.True(section.GetProperty("toBuy").GetInt32() > 0); // an empty rack
        (
            await Move(
                new
                {
                    stock,
                    unit = "mm",
                    lengthMm = 3000,
                    amount = 9,
                    why = "Bought",
                }
            )
        ).EnsureSuccessStatusCode();
        section = (await client.GetFromJsonAsync<JsonElement>($"/api/weeks/{Monday}/cutlist")).GetProperty("sections")[0];
        Assert.Equal(0, section.GetProperty("toBuy").GetInt32());
        var bars = section.GetProperty("plan").GetProperty("bars").EnumerateArray().ToList();
        (
            await client.PutAsync($"/api/weeks/{Monday}/sawn/{Guid.CreateVersion7()}?stock={Uri.EscapeDataString(stock)}", null)
        ).EnsureSuccessStatusCode();
        var levels = (await client.GetFromJsonAsync<JsonElement>("/api/stock")).GetProperty("levels").EnumerateArray().ToList();
        Assert.Equal(9 - bars.Count, levels.Single(level => !level.GetProperty("offCut").GetBoolean()).GetProperty("amount").GetDouble());
        Assert.Equal(
            bars.Count(bar => bar.GetProperty("kept").GetBoolean()),
            levels.Where(level => level.GetProperty("offCut").GetBoolean()).Sum(level => level.GetProperty("amount").GetDouble())
        );
        Assert.Contains(
            "amount",
            await (
                await Move(
                    new
                    {
                        stock,
                        unit = "mm",
                        lengthMm = 3000,
                        amount = -99,
                        why = "Lost",
                    }
                )
            ).Fields(409)
        );
        Assert.Contains(
            "lengthMm",
            await (
                await Move(
                    new
                    {
                        stock,
                        unit = "mm",
                        amount = 1,
                        why = "Bought",
                    }
                )
            ).Fields(400)
        );
    }

    [Fact]
    public async Task A_file_is_shown_first_its_bad_rows_named_and_taken_only_when_all_are_good()
    {
        var client = await server.SignedIn();
        async Task<JsonElement> Import(string path, string text, bool take) =>
            await Json(client.PostAsync($"{path}?take={(take ? "true" : "false")}", new StringContent(text, Encoding.UTF8, "text/csv")));
        const string Good = "stock,unit,lengthMm,amount\nE7018 1/8 in,kg,,20\nPipe NPS 6 schedule 80,mm,6096,2\n";
        var bad = await Import("/api/stock/import", Good + "Discs,each,,-4\nRods,stone,,2\n", take: true);
        Assert.Equal((2, 2, false), (bad.GetProperty("good").GetInt32(), bad.GetProperty("bad").GetInt32(), bad.GetProperty("taken").GetBoolean()));
        Assert.Equal(4, bad.GetProperty("rows")[2].GetProperty("line").GetInt32());
        Assert.Contains("under 0", bad.GetProperty("rows")[2].GetProperty("says").GetString());
        Assert.Equal(0, (await client.GetFromJsonAsync<JsonElement>("/api/stock")).GetProperty("levels").GetArrayLength());
        Assert.False((await Import("/api/stock/import", Good, take: false)).GetProperty("taken").GetBoolean());
        Assert.True((await Import("/api/stock/import", Good, take: true)).GetProperty("taken").GetBoolean());
        Assert.Equal(2, (await client.GetFromJsonAsync<JsonElement>("/api/stock")).GetProperty("levels").GetArrayLength());

        var away = await Import("/api/attendance/import", "student,day,period\nNobody,2031-03-04,\nNobody,4.3.,\n", take: true);
        Assert.Equal(2, away.GetProperty("bad").GetInt32());
        Assert.Contains("no student 'Nobody'", away.GetProperty("rows")[0].GetProperty("says").GetString());
        Assert.Contains(
            "body",
            await (await client.PostAsync("/api/stock/import", new StringContent("nonsense", Encoding.UTF8, "text/csv"))).Fields(400)
        );
    }

    [Fact]
    public async Task Steps_are_kept_when_they_hold_together_and_a_goal_becomes_a_way()
    {
        var client = await server.SignedIn();
        var ann = await client.AddStudent("P4");
        var way = await client.GetFromJsonAsync<JsonElement>($"/api/students/{ann}/way");
        Assert.Equal("F1", way.GetProperty("way")[0].GetProperty("test").GetString());
        (await client.PutAsJsonAsync($"/api/students/{ann}/credits/F1", new { why = "At the yard, May 2030" })).EnsureSuccessStatusCode();
        (
            await client.PutAsJsonAsync(
                $"/api/students/{ann}/goal",
                new
                {
                    tests = new[] { "R5" },
                    job = "Stainless lines",
                    by = "2031-04-01",
                }
            )
        ).EnsureSuccessStatusCode();
        way = await client.GetFromJsonAsync<JsonElement>($"/api/students/{ann}/way");
        Assert.True(way.GetProperty("isLate").GetBoolean());
        Assert.Equal("R5", way.GetProperty("way").EnumerateArray().Last().GetProperty("test").GetString());
        Assert.DoesNotContain(way.GetProperty("items").EnumerateArray(), item => item.GetProperty("item").GetProperty("testId").GetString() == "R5");
        Assert.Contains("tests", await (await client.PutAsJsonAsync($"/api/students/{ann}/goal", new { tests = new[] { "X" } })).Fields(400));

        var round = new[]
        {
            new
            {
                test = "F1",
                after = new[] { new[] { "P1" } },
                strict = false,
                why = "a",
            },
            new
            {
                test = "P1",
                after = new[] { new[] { "F1" } },
                strict = false,
                why = "b",
            },
        };
        Assert.Contains("steps", await (await client.PutAsJsonAsync("/api/steps", new { steps = round })).Fields(400));
    }

    [Fact]
    public async Task Stainless_is_withheld_while_no_booth_has_extraction()
    {
        var client = await server.SignedIn();
        var ann = await client.AddStudent("R5");
        (await client.PutAsJsonAsync($"/api/students/{ann}/credits/R1", new { why = "Here" })).EnsureSuccessStatusCode();
        (await client.PutAsync($"/api/students/{ann}/safety", null)).EnsureSuccessStatusCode();
        async Task<JsonElement> Way() => await client.GetFromJsonAsync<JsonElement>($"/api/students/{ann}/way");
        Assert.Empty((await Way()).GetProperty("items").EnumerateArray());
        Assert.Contains("purge, extraction", (await Way()).GetProperty("withheld")[0].GetString());
        var booth = (await Week(client)).GetProperty("booths")[0].GetProperty("id").GetGuid();
        (
            await client.PutAsJsonAsync(
                $"/api/booths/{booth}",
                new
                {
                    processes = new[] { "GTAW" },
                    pipe = true,
                    purge = true,
                    extraction = true,
                    column = 0,
                    row = 0,
                }
            )
        ).EnsureSuccessStatusCode();
        Assert.NotEmpty((await Way()).GetProperty("items").EnumerateArray());
    }

    private static async Task<(string Id, JsonElement Change)> Next(StreamReader reader)
    {
        using var limit = new CancellationTokenSource(TimeSpan.FromSeconds(20));
        var (id, data) = ("", "");
        while (await reader.ReadLineAsync(limit.Token) is { } line)
        {
            id = line.StartsWith("id:", StringComparison.Ordinal) ? line[3..].Trim() : id;
            data = line.StartsWith("data:", StringComparison.Ordinal) ? line[5..] : data;
            if (line.Length == 0 && data.Length > 0 && id.Length > 0)
            {
                return (id, JsonDocument.Parse(data).RootElement);
            }
        }

        throw new EndOfStreamException();
    }

    private static async Task<StreamReader> Follow(HttpClient client, string? after = null)
    {
        using var request = new HttpRequestMessage(HttpMethod.Get, "/api/floor/events");
        if (after is not null)
        {
            request.Headers.Add("Last-Event-ID", after);
        }

        return new StreamReader(await (await client.SendAsync(request, HttpCompletionOption.ResponseHeadersRead)).Content.ReadAsStreamAsync());
    }

    [Fact]
    public async Task A_change_reaches_every_screen_and_a_screen_that_was_away_catches_up()
    {
        var client = await server.SignedIn();
        var (ann, bo) = (await client.AddStudent(), await client.AddStudent());
        using var one = await Follow(client);
        using var two = await Follow(client);
        Assert.True((await Next(one)).Change.GetProperty("whole").GetBoolean()); // nothing known yet: read it all
        await Next(two);
        async Task Start(Guid student) =>
            (
                await client.PutAsJsonAsync(
                    $"/api/coupons/{Guid.CreateVersion7()}",
                    new
                    {
                        studentId = student,
                        testId = "P8",
                        asTest = false,
                    }
                )
            ).EnsureSuccessStatusCode();
        // A change told together with one of the whole floor is told as the whole floor: it is made again.
        async Task<string> Told(StreamReader reader, Guid awaited)
        {
            while (true)
            {
                var (id, change) = await Next(reader);
                if (change.GetProperty("whole").GetBoolean())
                {
                    await Start(awaited);
                }
                else if (change.GetProperty("students").EnumerateArray().Any(row => row.GetProperty("id").GetGuid() == awaited))
                {
                    return id;
                }
            }
        }

        await Start(ann);
        var seen = await Told(one, ann);
        Assert.Equal(seen, await Told(two, ann));
        await Start(bo);
        using var back = await Follow(client, seen);
        await Told(back, bo);
        using var stranger = await Follow(client, "another-7");
        Assert.True((await Next(stranger)).Change.GetProperty("whole").GetBoolean());
    }
}
