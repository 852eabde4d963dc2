using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using Gradus.Data;
using Gradus.Server.Planning;

namespace Gradus.Server.Tests;

/// <summary>The week knows today: what is over, what changed while it was solved, and what the weeks before will bring.</summary>
public sealed class PlanTodayTests : IAsyncDisposable
{
    // The clock stands on the Tuesday, ten in the morning at the school: Monday is over, Tuesday morning has begun.
    private const string Monday = "2031-03-03";
    private const int PerDay = 3;
    private const int TuesdayMorning = PerDay;
    private readonly RunningServer server = new();

    public ValueTask DisposeAsync() => server.DisposeAsync();

    private static Task<JsonElement> Week(HttpClient client, string monday = Monday) => client.GetFromJsonAsync<JsonElement>($"/api/weeks/{monday}");

    private static List<(Guid Student, int Slot, string Item, Guid Booth, double Gain)> Cells(JsonElement week, string name = "cells") =>
        [
            .. week.GetProperty(name)
                .EnumerateArray()
                .Select(cell =>
                    (
                        cell.GetProperty("studentId").GetGuid(),
                        cell.GetProperty("slot").GetInt32(),
                        cell.GetProperty("itemId").GetString()!,
                        cell.GetProperty("boothId").GetGuid(),
                        cell.GetProperty("gain").GetDouble()
                    )
                ),
        ];

    private static async Task Solve(HttpClient client, string monday = Monday)
    {
        (await client.PostAsJsonAsync($"/api/weeks/{monday}/solve", new { seconds = 5 })).EnsureSuccessStatusCode();
        using var limit = new CancellationTokenSource(TimeSpan.FromSeconds(60));
        while ((await client.GetFromJsonAsync<JsonElement>($"/api/weeks/{monday}/job", limit.Token)).GetProperty("state").GetString() == "running")
        {
            await Task.Delay(50, limit.Token);
        }
    }

    private static Task<HttpResponseMessage> Accept(HttpClient client, string monday = Monday) =>
        client.PostAsync($"/api/weeks/{monday}/accept", null);

    private static Task<HttpResponseMessage> Edit(HttpClient client, Guid studentId, int slot, string? itemId) =>
        client.PutAsJsonAsync(
            $"/api/weeks/{Monday}/cells",
            new
            {
                studentId,
                slot,
                itemId,
                pinned = true,
            }
        );

    [Fact]
    public async Task What_is_over_stays_and_is_shown_as_what_came_of_it()
    {
        var client = await server.SignedIn();
        var ann = await client.AddStudent("P4");
        await Solve(client);
        (await Accept(client)).EnsureSuccessStatusCode();
        var week = await Week(client);
        Assert.Equal(TuesdayMorning, week.GetProperty("firstOpen").GetInt32());
        Assert.All(Cells(week), cell => Assert.True(cell.Slot > TuesdayMorning)); // what has begun is not planned any more

        // A coupon of this morning shows in its slot, planned or not.
        var coupon = await client.StartCoupon(ann, "P4", asTest: false);
        await client.LayAllBeads(coupon);
        (await client.Close(coupon)).EnsureSuccessStatusCode();
        var done = Assert.Single((await Week(client)).GetProperty("done").EnumerateArray());
        Assert.Equal(
            (ann, TuesdayMorning, 1),
            (done.GetProperty("studentId").GetGuid(), done.GetProperty("slot").GetInt32(), done.GetProperty("made").GetInt32())
        );

        // A day later what was planned for Tuesday afternoon is history, whatever is planned anew.
        var planned = Cells(week).Where(cell => cell.Slot < 2 * PerDay).ToList();
        Assert.NotEmpty(planned);
        server.Clock.Advance(TimeSpan.FromDays(1));
        client = await server.SignedIn();
        await Solve(client);
        (await Accept(client)).EnsureSuccessStatusCode();
        var later = await Week(client);
        Assert.Equal(planned, Cells(later).Where(cell => cell.Slot < 2 * PerDay));
        Assert.All(Cells(later).Except(Cells(week)), cell => Assert.True(cell.Slot > 2 * PerDay));
        Assert.True(Cells(later).Count(cell => cell.Student == ann) <= 5); // what was had counts towards the most
        Assert.Equal(["slot"], await (await Edit(client, ann, planned[0].Slot, null)).Fields(409));
        Assert.Equal(planned, Cells(await Week(client)).Where(cell => cell.Slot < 2 * PerDay));

        // A week that is over holds nothing to plan, and one that comes is open from its beginning.
        Assert.Equal(7 * PerDay, (await Week(client, "2031-02-24")).GetProperty("firstOpen").GetInt32());
        Assert.Equal(0, (await Week(client, "2031-03-10")).GetProperty("firstOpen").GetInt32());
    }

    [Fact]
    public async Task A_plan_is_accepted_by_what_is_true_then_and_says_what_changed()
    {
        var client = await server.SignedIn();
        var (ann, bo) = (await client.AddStudent("P4", "Ann Aas"), await client.AddStudent("P8"));
        await Solve(client);
        var proposal = Cells(await Week(client), "proposal");
        var hers = proposal.First(cell => cell.Student == ann);
        async Task Close(string? why) => (await client.PutAsJsonAsync($"/api/booths/{hers.Booth}/closed", new { why })).EnsureSuccessStatusCode();
        await Close("the gas hose leaks");
        var refused = await Accept(client);
        Assert.Equal(HttpStatusCode.Conflict, refused.StatusCode);
        var words = await refused.Content.ReadAsStringAsync();
        Assert.Contains("is out: the gas hose leaks.", words, StringComparison.Ordinal);
        Assert.Matches(@"Booth \d+ in (Tue|Wed|Thu|Fri|Sat) \d Mar \w+: it is closed", words);
        Assert.DoesNotContain(hers.Booth.ToString(), words, StringComparison.Ordinal);
        Assert.Empty(Cells(await Week(client))); // nothing of it was taken over
        await Close(null);

        // So does an absence.
        var absence = new
        {
            studentId = ann,
            day = "2031-03-03",
            period = (int?)null,
        };
        var day = new DateOnly(2031, 3, 3).AddDays(hers.Slot / PerDay);
        (await client.PutAsJsonAsync($"/api/absences/{Guid.CreateVersion7()}", absence with { day = $"{day:yyyy-MM-dd}" })).EnsureSuccessStatusCode();
        Assert.Contains("Ann Aas is put down as absent on ", await (await Accept(client)).Content.ReadAsStringAsync(), StringComparison.Ordinal);
        (await client.DeleteAsync($"/api/absences/{ann}/{day:yyyy-MM-dd}")).EnsureSuccessStatusCode();

        // A pin that was set meanwhile stands in place of what was solved.
        var his = proposal.First(cell => cell.Student == bo);
        var students = (await Week(client)).GetProperty("students").EnumerateArray();
        var other = students
            .First(one => one.GetProperty("id").GetGuid() == bo)
            .GetProperty("items")
            .EnumerateArray()
            .Select(item => item.GetProperty("id").GetString()!)
            .First(id => id != his.Item);
        (await Edit(client, bo, his.Slot, other)).EnsureSuccessStatusCode();
        (await Accept(client)).EnsureSuccessStatusCode();
        var accepted = Cells(await Week(client));
        Assert.Equal(other, accepted.Single(cell => cell.Student == bo && cell.Slot == his.Slot).Item);
        Assert.Equal(proposal.Count, accepted.Count);
    }

    [Fact]
    public async Task Two_weeks_in_a_row_do_not_count_the_same_gain_twice()
    {
        var client = await server.SignedIn();
        var ann = await client.AddStudent("P4");
        (await client.PutAsync($"/api/students/{ann}/safety", null)).EnsureSuccessStatusCode();
        const string Next = "2031-03-10";
        async Task<double> First(string monday) =>
            (await Week(client, monday))
                .GetProperty("students")[0]
                .GetProperty("items")
                .EnumerateArray()
                .Max(item => item.GetProperty("gain").GetDouble());
        var alone = await First(Next);
        await Solve(client);
        (await Accept(client)).EnsureSuccessStatusCode();
        var after = await First(Next);
        Assert.True(after < 0.8 * alone, $"{after} of {alone}");

        // What the advice asks for is asked for once: the first week holds it, the second no more than what is left of it.
        int Asked(JsonElement week) =>
            week.GetProperty("students")[0].GetProperty("items").EnumerateArray().Max(item => item.GetProperty("asked").GetInt32());
        Assert.True(Asked(await Week(client)) > 0);
        Assert.Equal(0, Asked(await Week(client, Next)));
    }

    [Fact]
    public async Task A_goal_that_is_reached_is_said_and_holds_nothing_to_practise()
    {
        var client = await server.SignedIn();
        var ann = await client.AddStudent("P8");
        (await client.PutAsJsonAsync($"/api/students/{ann}/credits/P8", new { why = "Passed elsewhere." })).EnsureSuccessStatusCode();
        var way = await client.GetFromJsonAsync<JsonElement>($"/api/students/{ann}/way");
        Assert.All(way.GetProperty("way").EnumerateArray(), step => Assert.Equal("behind", step.GetProperty("state").GetString()));
        Assert.Empty(way.GetProperty("items").EnumerateArray());
        Assert.Contains("reached. Choose the next goal.", way.GetProperty("withheld")[0].GetString(), StringComparison.Ordinal);
        await Solve(client);
        (await Accept(client)).EnsureSuccessStatusCode();
        var without = (await Week(client)).GetProperty("students")[0].GetProperty("without").GetString();
        Assert.Contains("Choose the next goal.", without, StringComparison.Ordinal);
    }

    [Fact]
    public async Task Two_booths_never_stand_in_one_place()
    {
        var client = await server.SignedIn();
        var booths = (await Week(client)).GetProperty("booths").EnumerateArray().ToList();
        Task<HttpResponseMessage> Put(Guid id, JsonElement at) =>
            client.PutAsJsonAsync(
                $"/api/booths/{id}",
                new
                {
                    processes = new[] { "SMAW" },
                    column = at.GetProperty("column").GetInt32(),
                    row = at.GetProperty("row").GetInt32(),
                }
            );
        Assert.Equal(["column"], await (await Put(Guid.CreateVersion7(), booths[0])).Fields(409));
        Assert.Equal(["column"], await (await Put(booths[1].GetProperty("id").GetGuid(), booths[0])).Fields(409));
        (await Put(booths[0].GetProperty("id").GetGuid(), booths[0])).EnsureSuccessStatusCode();
    }

    [Fact]
    public async Task Stock_typed_another_way_is_the_same_stock_and_is_counted_in_its_unit()
    {
        var client = await server.SignedIn();
        Task<HttpResponseMessage> Move(string stock, string unit, double amount = 2, double? lengthMm = null) =>
            client.PutAsJsonAsync(
                $"/api/stock/moves/{Guid.CreateVersion7()}",
                new
                {
                    stock,
                    unit,
                    amount,
                    lengthMm,
                    why = "Delivered",
                }
            );
        (await Move(" e7018  1/8 IN", "kg")).EnsureSuccessStatusCode();
        (await Move("E7018 1/8 in", "kg")).EnsureSuccessStatusCode();
        Assert.Equal(["unit"], await (await Move("e7018 1/8 in", "each")).Fields(400));
        Assert.Equal(["unit"], await (await Move("pipe nps 6 SCHEDULE 80", "each")).Fields(400));
        (await Move("pipe nps 6 SCHEDULE 80", "mm", 2, 6000)).EnsureSuccessStatusCode();
        (await Move("Chalk", "each")).EnsureSuccessStatusCode(); // what nothing is made of is kept as it was typed
        var stock = await client.GetFromJsonAsync<JsonElement>("/api/stock");
        Assert.Equal(
            [("Chalk", 2.0), ("E7018 1/8 in", 4.0), ("Pipe NPS 6 schedule 80", 2.0)],
            stock
                .GetProperty("levels")
                .EnumerateArray()
                .Select(level => (level.GetProperty("stock").GetString(), level.GetProperty("amount").GetDouble()))
                .Order()
        );
        var kinds = stock.GetProperty("kinds").EnumerateArray().Select(kind => kind.GetProperty("stock").GetString()).ToList();
        Assert.Contains("Blank P8, filled", kinds);
        Assert.DoesNotContain("Chalk", kinds);
    }

    [Fact]
    public async Task A_cap_by_itself_is_planned_only_where_a_blank_was_kept()
    {
        var client = await server.SignedIn();
        var ann = await client.AddStudent("P8");
        (await client.PutAsync($"/api/students/{ann}/safety", null)).EnsureSuccessStatusCode();
        for (var made = 0; made < 2; made++)
        {
            // The cap is what fails, so it is what a drill would work on.
            var coupon = await client.StartCoupon(ann, "P8");
            await client.LayAllBeads(coupon);
            var finding = new
            {
                kind = "undercut",
                stage = "cap",
                fromStartMm = 40,
                depthMm = 25.4 * 3 / 64,
            };
            (await client.PutAsJsonAsync($"/api/coupons/{coupon}/findings/{Guid.CreateVersion7()}", finding)).EnsureSuccessStatusCode();
            (await client.Close(coupon)).EnsureSuccessStatusCode();
        }

        static bool IsCap(string item) => item.Contains("capOnly", StringComparison.Ordinal);
        var items = (await Week(client)).GetProperty("students")[0].GetProperty("items").EnumerateArray().ToList();
        Assert.Contains(items, item => IsCap(item.GetProperty("id").GetString()!));
        await Solve(client);
        Assert.DoesNotContain(Cells(await Week(client), "proposal"), cell => IsCap(cell.Item));
        var blanks = new
        {
            stock = "Blank P8, filled",
            unit = "each",
            amount = 20,
            why = "Kept",
        };
        (await client.PutAsJsonAsync($"/api/stock/moves/{Guid.CreateVersion7()}", blanks)).EnsureSuccessStatusCode();
        await Solve(client);
        Assert.Contains(Cells(await Week(client), "proposal"), cell => IsCap(cell.Item));
        (await Accept(client)).EnsureSuccessStatusCode();
        var draws = (await client.GetFromJsonAsync<JsonElement>($"/api/weeks/{Monday}/cutlist")).GetProperty("draws").EnumerateArray();
        Assert.InRange(draws.Single(draw => draw.GetProperty("stock").GetString() == "Blank P8, filled").GetProperty("amount").GetDouble(), 1, 20);
    }

    [Fact]
    public async Task A_drill_over_what_is_laid_takes_a_blank_while_there_is_one()
    {
        var client = await server.SignedIn();
        var ann = await client.AddStudent("P8");
        async Task<double?> Kept() =>
            (await client.GetFromJsonAsync<JsonElement>("/api/stock"))
                .GetProperty("levels")
                .EnumerateArray()
                .Where(level => level.GetProperty("stock").GetString() == "Blank P8, filled")
                .Select(level => (double?)level.GetProperty("amount").GetDouble())
                .SingleOrDefault();
        async Task<Guid> Begin(string? drillId)
        {
            var id = Guid.CreateVersion7();
            var body = new
            {
                studentId = ann,
                testId = "P8",
                drillId,
                asTest = false,
            };
            (await client.PutAsJsonAsync($"/api/coupons/{id}", body)).EnsureSuccessStatusCode();
            (await client.PutAsJsonAsync($"/api/coupons/{id}", body)).EnsureSuccessStatusCode(); // sent twice is begun once
            return id;
        }

        await Begin("capOnly");
        Assert.Null(await Kept()); // none was kept, none goes
        var kept = new
        {
            stock = "Blank P8, filled",
            unit = "each",
            amount = 2,
            why = "Kept",
        };
        (await client.PutAsJsonAsync($"/api/stock/moves/{Guid.CreateVersion7()}", kept)).EnsureSuccessStatusCode();
        await Begin(null);
        Assert.Equal(2, await Kept());
        await Begin("capOnly");
        Assert.Equal(1, await Kept());
        await Begin("capOnly");
        await Begin("capOnly");
        Assert.Equal(0, await Kept());
    }

    [Fact]
    public async Task A_booth_says_what_keeps_it_from_taking_a_coupon()
    {
        var client = await server.SignedIn();
        var booths = (await client.GetFromJsonAsync<JsonElement>("/api/floor/booths-for/R5"))
            .EnumerateArray()
            .Select(booth => booth.GetProperty("id").GetGuid())
            .ToList();
        var (bare, shut) = (booths[0], booths[1]);
        var set = new
        {
            processes = new[] { "SMAW" },
            pipe = false,
            purge = true,
            extraction = false,
            positioner = false,
            column = 1,
            row = 1,
        };
        (await client.PutAsJsonAsync($"/api/booths/{bare}", set)).EnsureSuccessStatusCode();
        (await client.PutAsJsonAsync($"/api/booths/{shut}/closed", new { why = "Wire feeder" })).EnsureSuccessStatusCode();
        async Task<string?> Why(string test, Guid booth) =>
            (await client.GetFromJsonAsync<JsonElement>($"/api/floor/booths-for/{test}"))
                .EnumerateArray()
                .Single(one => one.GetProperty("id").GetGuid() == booth)
                .GetProperty("why")
                .GetString();
        Assert.Equal("no GTAW, no pipe stand, no fume extraction", await Why("R5", bare)); // stainless pipe under purge
        Assert.Equal("no pipe stand", await Why("R3", bare));
        Assert.Null(await Why("P4", bare));
        Assert.Equal("Wire feeder", await Why("P4", shut));
        Assert.Equal(["testId"], await (await client.GetAsync("/api/floor/booths-for/Q1")).Fields(404));
        Assert.Equal(["drillId"], await (await client.GetAsync("/api/floor/booths-for/P4?drillId=no")).Fields(404));
    }

    [Fact]
    public async Task A_card_holds_what_is_laid_with_what_and_what_comes_first()
    {
        var client = await server.SignedIn();
        var ann = await client.AddStudent("P8");
        await Solve(client);
        (await Accept(client)).EnsureSuccessStatusCode();
        var week = await Week(client);
        var view = await client.GetFromJsonAsync<JsonElement>($"/api/weeks/{Monday}/cards");
        var cards = view.GetProperty("cards").EnumerateArray().ToList();
        Assert.Equal(Cells(week).Select(cell => cell.Slot), cards.Select(card => card.GetProperty("slot").GetInt32()));
        Assert.StartsWith("<svg", view.GetProperty("codes").GetProperty(ann.ToString()).GetString(), StringComparison.Ordinal);
        Assert.All(
            cards,
            card =>
            {
                Assert.NotEqual("", card.GetProperty("position").GetString());
                Assert.NotEmpty(card.GetProperty("passes").EnumerateArray());
                Assert.All(
                    card.GetProperty("passes").EnumerateArray(),
                    pass => Assert.True(pass.GetProperty("card").GetProperty("amps").GetDouble() > 0)
                );
                Assert.NotEmpty(card.GetProperty("fitUp").EnumerateArray());
                Assert.NotEmpty(card.GetProperty("cautions").EnumerateArray());
                Assert.NotEmpty(card.GetProperty("holdPoints").EnumerateArray());
                var tested = card.GetProperty("name").GetString()!.Contains("as under test", StringComparison.Ordinal);
                Assert.Equal(tested, card.GetProperty("cues").GetArrayLength() == 0); // the coach is silent under the rules of a test
            }
        );
    }

    [Fact]
    public void Hold_points_are_answered_by_everybody_who_teaches_then()
    {
        static ClassGroup Meets(params DayOfWeek[] days) =>
            new()
            {
                Id = Guid.NewGuid(),
                Name = "",
                MeetsOn = [.. days],
            };
        var (day, night) = (Meets(DayOfWeek.Monday, DayOfWeek.Tuesday), Meets(DayOfWeek.Monday));
        var (lead, second) = (Guid.NewGuid(), Guid.NewGuid());
        var monday = new DateOnly(2031, 3, 3);
        int Holds(Dictionary<Guid, IReadOnlyList<Guid>>? teachers, int slot)
        {
            var week = SetupBook.DefaultWeek with
            {
                HoldPointsPerPeriod = 12,
                ClassTeachers = teachers,
                TeacherHoldPoints = new Dictionary<Guid, int> { [second] = 5 },
            };
            return new Setup(week, null!, null!, null!, null).HoldPointsIn([day, night], monday, slot);
        }

        Assert.Equal(12, Holds(null, 0));
        Assert.Equal(12 + 5, Holds(new() { [day.Id] = [lead, second], [night.Id] = [second] }, 0));
        Assert.Equal(12, Holds(new() { [day.Id] = [lead], [night.Id] = [second] }, TuesdayMorning)); // only the day class comes
        Assert.Equal(5 + 12, Holds(new() { [night.Id] = [second] }, 0)); // nobody is named for the day class: one more
    }
}
