using System.Net;
using System.Net.Http.Json;
using System.Text.Json;

namespace Gradus.Server.Tests;

/// <summary>Reads every main view, as somebody who walks through all pages.</summary>
internal static class Walk
{
    /// <summary>Reads them all, those of some students and coupons too; each has to answer.</summary>
    public static async Task EveryView(HttpClient client, IReadOnlyCollection<Guid>? students = null, IReadOnlyCollection<Guid>? coupons = null)
    {
        var floor = await Get(client, "/api/floor");
        students ??= [.. floor.GetProperty("students").EnumerateArray().Select(one => one.GetProperty("id").GetGuid())];
        var monday = DateOnly.Parse(floor.GetProperty("today").GetString()!, System.Globalization.CultureInfo.InvariantCulture);
        monday = Core.Planning.WeekDays.MondayOf(monday);
        List<string> paths =
        [
            "/api/session",
            "/api/ready",
            "/api/results",
            "/api/model",
            "/api/learn/class",
            "/api/steps",
            "/api/stock",
            "/api/plan/setup",
            "/api/students/left",
            $"/api/weeks/{monday:yyyy-MM-dd}",
            $"/api/weeks/{monday:yyyy-MM-dd}/cutlist",
        ];
        foreach (var student in students)
        {
            paths.AddRange([
                $"/api/students/{student}",
                $"/api/students/{student}/coupons",
                $"/api/students/{student}/way",
                $"/api/learn/students/{student}",
                $"/api/students/{student}/tests/P8/grounds",
                $"/api/students/{student}/tests/P8/readiness",
            ]);
        }

        foreach (var coupon in coupons ?? [])
        {
            paths.AddRange([$"/api/coupons/{coupon}", $"/api/coupons/{coupon}/history", $"/api/coupons/{coupon}/tag.svg"]);
        }

        foreach (var path in paths)
        {
            await Get(client, path);
        }
    }

    private static async Task<JsonElement> Get(HttpClient client, string path)
    {
        var answer = await client.GetAsync(path);
        Assert.True(answer.StatusCode == HttpStatusCode.OK, $"{path}: {(int)answer.StatusCode} {await answer.Content.ReadAsStringAsync()}");
        return answer.Content.Headers.ContentType?.MediaType == "application/json" ? await answer.Content.ReadFromJsonAsync<JsonElement>() : default;
    }
}

/// <summary>Every transition of a coupon and of a student, and after each of them every main view.</summary>
public sealed class WalkTests : IAsyncLifetime
{
    private readonly RunningServer server = new();
    private HttpClient client = null!;
    private Guid student;

    public async ValueTask InitializeAsync()
    {
        client = await server.SignedIn();
        student = await client.AddStudent();
    }

    public ValueTask DisposeAsync() => server.DisposeAsync();

    private async Task<Guid> Put(Guid coupon, string what, object? body)
    {
        var id = Guid.CreateVersion7();
        var answer = await client.PutAsJsonAsync($"/api/coupons/{coupon}/{what}/{id}", body);
        Assert.True(answer.IsSuccessStatusCode, $"{what}: {await answer.Content.ReadAsStringAsync()}");
        return id;
    }

    private Task<Guid> Event(Guid coupon, string kind, object? body = null) => Put(coupon, "events", new { kind, body = body ?? new { } });

    private async Task Back(Guid coupon, string what, Guid id) =>
        (await client.DeleteAsync($"/api/coupons/{coupon}/{what}/{id}")).EnsureSuccessStatusCode();

    private async Task<(string State, string Next, bool Closed)> Look(Guid coupon)
    {
        server.Clock.Advance(TimeSpan.FromMinutes(7));
        await Walk.EveryView(client, [student], [coupon]);
        var view = await client.Coupon(coupon);
        return (
            view.GetProperty("life").GetProperty("state").GetString()!,
            view.GetProperty("next").GetProperty("kind").GetString()!,
            view.GetProperty("closedAt").ValueKind != JsonValueKind.Null
        );
    }

    [Fact]
    public async Task A_coupon_goes_through_its_whole_life_and_every_view_can_be_read_after_each_step()
    {
        var coupon = await client.StartCoupon(student);
        Assert.Equal(("planned", "fitUp", false), await Look(coupon));
        await Event(coupon, "cut");
        Assert.Equal(("cut", "fitUp", false), await Look(coupon));
        var fit = new
        {
            points = new[] { new { at = "start", rootOpeningMm = 6.35 } },
            tacks = new[]
            {
                new
                {
                    at = "57.150000000000006",
                    lengthMm = 12.7,
                    feathered = true,
                },
            },
            answers = new Dictionary<string, bool> { ["position"] = true },
        };
        var fitUp = await Put(coupon, "fit-ups", fit);
        Assert.Equal(("fittedUp", "pass", false), await Look(coupon));
        await Back(coupon, "fit-ups", fitUp);
        Assert.Equal(("cut", "fitUp", false), await Look(coupon));
        await Put(coupon, "fit-ups", fit);
        await Event(coupon, "holdCalled", new { point = "Fit-up" });
        await Look(coupon);
        await Event(coupon, "holdAnswered", new { point = "Fit-up", go = true });
        await Event(coupon, "timerStarted", new { timer = "cool", minutes = 5 });
        await Look(coupon);
        await Event(coupon, "timerStopped", new { timer = "cool" });
        await Event(coupon, "takenDown");
        await Look(coupon);
        await Event(coupon, "positionWitnessed");
        await client.LayAllBeads(coupon);
        Assert.Equal(("inWeld", "look", false), await Look(coupon));
        var finding = await Put(
            coupon,
            "findings",
            new
            {
                kind = "undercut",
                stage = "cap",
                fromStartMm = 40,
                depthMm = 2,
            }
        );
        await Event(coupon, "repaired", new { findingId = finding, action = "grind" });
        await Look(coupon);
        await Event(
            coupon,
            "measured",
            new
            {
                side = "face",
                at = "middle",
                heightMm = 1.5,
            }
        );
        Assert.Equal(("lookedAt", "look", false), await Look(coupon));
        await Event(coupon, "specimenTested", new { specimen = 0, bend = new { discontinuities = Array.Empty<object>() } });
        Assert.Equal(("cutAndBroken", "look", false), await Look(coupon));
        await Put(coupon, "notes", new { text = "Long arc." });
        var closing = await Put(coupon, "closings", null);
        Assert.Equal(("closed", "closed", true), await Look(coupon));
        var voided = await Event(coupon, "voided", new { reason = "quenched" });
        Assert.Equal(("void", "closed", true), await Look(coupon));
        await Back(coupon, "closings", closing); // given up all the same
        Assert.Equal("void", (await Look(coupon)).State);
        await Back(coupon, "events", voided);
        Assert.Equal(("cutAndBroken", "look", false), await Look(coupon)); // open again, for its closing was taken back
        await Put(coupon, "closings", null);
        Assert.Equal(("closed", "closed", true), await Look(coupon));
    }

    [Fact]
    public async Task A_coupon_that_was_given_up_while_open_stands_in_nobody_s_way()
    {
        var coupon = await client.StartCoupon(student);
        var voided = await Event(coupon, "voided", new { reason = "moved" });
        Assert.Equal("void", (await Look(coupon)).State);
        var view = await client.GetFromJsonAsync<JsonElement>($"/api/students/{student}");
        Assert.NotEqual(JsonValueKind.Null, view.GetProperty("coupons").GetProperty("rows")[0].GetProperty("voidedAt").ValueKind);
        Assert.Equal(
            ["kind"],
            await (
                await client.PutAsJsonAsync(
                    $"/api/coupons/{coupon}/events/{Guid.CreateVersion7()}",
                    new { kind = "voided", body = new { reason = "moved" } }
                )
            ).Fields(409)
        );
        await Back(coupon, "events", voided);
        Assert.Equal(("planned", "fitUp", false), await Look(coupon));
    }

    [Fact]
    public async Task A_student_is_added_edited_leaves_and_comes_back_and_counts_only_while_there()
    {
        var coupon = await client.StartCoupon(student);
        await client.LayAllBeads(coupon);
        (await client.Close(coupon)).EnsureSuccessStatusCode();
        var open = await client.StartCoupon(student);
        await Look(open);
        var group = (await client.GetFromJsonAsync<JsonElement>("/api/classes"))[0].GetProperty("id").GetGuid();
        object Details(string name, string test) =>
            new
            {
                name,
                classGroupId = group,
                hand = "left",
                targetTestId = test,
                note = "Shoulder: no overhead this week",
            };
        (await client.PutAsJsonAsync($"/api/students/{student}/details", Details("Ines H. Halvorsen-Strand", "R3"))).EnsureSuccessStatusCode();
        await Look(open);
        var view = await client.GetFromJsonAsync<JsonElement>($"/api/students/{student}");
        Assert.Equal(
            ("Ines H. Halvorsen-Strand", "left", "R3", "Shoulder: no overhead this week"),
            (
                view.GetProperty("name").GetString(),
                view.GetProperty("hand").GetString(),
                view.GetProperty("targetTestId").GetString(),
                view.GetProperty("note").GetString()
            )
        );
        Assert.Equal(
            ["name", "targetTestId"],
            await (await client.PutAsJsonAsync($"/api/students/{student}/details", Details("", "X9"))).Fields(400)
        );

        (await client.PutAsync($"/api/students/{student}/left", null)).EnsureSuccessStatusCode();
        await Walk.EveryView(client, [student], [coupon, open]); // the record stays
        Assert.Equal((0, 0, 0), await Counted());
        Assert.Equal(student, (await client.GetFromJsonAsync<JsonElement>("/api/students/left"))[0].GetProperty("id").GetGuid());
        var refused = await client.PutAsJsonAsync(
            $"/api/coupons/{Guid.CreateVersion7()}",
            new
            {
                studentId = student,
                testId = "P8",
                asTest = true,
            }
        );
        Assert.Equal(["studentId"], await refused.Fields(409));

        (await client.DeleteAsync($"/api/students/{student}/left")).EnsureSuccessStatusCode();
        await Look(open);
        Assert.Equal((1, 1, 1), await Counted()); // ready: the target...
        var all = await client.GetFromJsonAsync<JsonElement>("/api/ready?all=true");
        Assert.Equal(2, all.GetProperty("rows").GetArrayLength()); // ...and the test that was welded

        async Task<(int Floor, int Ready, int Class)> Counted() =>
            (
                (await client.GetFromJsonAsync<JsonElement>("/api/floor")).GetProperty("students").GetArrayLength(),
                (await client.GetFromJsonAsync<JsonElement>("/api/ready")).GetProperty("rows").GetArrayLength(),
                (await client.GetFromJsonAsync<JsonElement>("/api/learn/class")).GetProperty("students").GetInt32()
            );
    }

    [Fact]
    public async Task A_week_with_the_cells_and_the_sitting_of_somebody_who_left_can_be_read_and_solved()
    {
        (await client.PutAsync($"/api/students/{student}/safety", null)).EnsureSuccessStatusCode();
        (
            await client.PutAsJsonAsync(
                $"/api/sittings/{Guid.CreateVersion7()}",
                new
                {
                    studentId = student,
                    testId = "P8",
                    day = "2031-03-06",
                    period = 0,
                    despite = "As agreed.",
                }
            )
        ).EnsureSuccessStatusCode();
        var other = await client.AddStudent();
        (await client.PostAsJsonAsync("/api/weeks/2031-03-03/solve", new { seconds = 5 })).EnsureSuccessStatusCode();
        await Done();
        (await client.PostAsync("/api/weeks/2031-03-03/accept", null)).EnsureSuccessStatusCode();
        (await client.PutAsync($"/api/students/{student}/left", null)).EnsureSuccessStatusCode();
        await Walk.EveryView(client, [other]);
        var week = await client.GetFromJsonAsync<JsonElement>("/api/weeks/2031-03-03");
        Assert.All(week.GetProperty("cells").EnumerateArray(), cell => Assert.Equal(other, cell.GetProperty("studentId").GetGuid()));
        (await client.PostAsJsonAsync("/api/weeks/2031-03-03/solve", new { seconds = 5 })).EnsureSuccessStatusCode();
        Assert.Equal("done", await Done());

        async Task<string> Done()
        {
            using var limit = new CancellationTokenSource(TimeSpan.FromSeconds(60));
            while (true)
            {
                var state = (await client.GetFromJsonAsync<JsonElement>("/api/weeks/2031-03-03/job", limit.Token)).GetProperty("state").GetString()!;
                if (state != "running")
                {
                    return state;
                }

                await Task.Delay(50, limit.Token);
            }
        }
    }

    [Fact]
    public async Task A_likely_double_is_asked_about_and_added_when_it_is_another_person()
    {
        var group = (await client.GetFromJsonAsync<JsonElement>("/api/classes"))[0].GetProperty("id").GetGuid();
        Task<HttpResponseMessage> Add(string name, bool evenIfAlike = false) =>
            client.PutAsJsonAsync(
                $"/api/students/{Guid.CreateVersion7()}",
                new
                {
                    name,
                    classGroupId = group,
                    hand = "right",
                    targetTestId = "P8",
                    evenIfAlike,
                }
            );
        (await Add("Noor Haddix")).EnsureSuccessStatusCode();
        Assert.Equal(["evenIfAlike"], await (await Add("noor  haddix ")).Fields(409));
        Assert.Equal(["evenIfAlike"], await (await Add("Haddix, Noor")).Fields(409));
        Assert.Equal(["evenIfAlike"], await (await Add("Noor Hadix")).Fields(409));
        (await Add("Noor Haddix", evenIfAlike: true)).EnsureSuccessStatusCode();
        (await Add("Noor Peake")).EnsureSuccessStatusCode();
    }

    [Theory]
    [InlineData("Åse Ñandú", "ase nandu", true)]
    [InlineData("Ann Lee", "Anne Lee", true)]
    [InlineData("Ann Lee", "Lee Ann", true)]
    [InlineData("Tobias Okoro", "Tobais Okoro", true)] // two letters swapped
    [InlineData("Ian", "Ivan", false)] // too short to be a slip
    [InlineData("Priya Venn", "Priya Vann-Lee", false)]
    public void Names_are_alike_but_for_case_order_accents_and_one_slip(string one, string other, bool alike)
    {
        Assert.Equal(alike, Students.NameLikeness.IsAlike(one, other));
        Assert.Equal(alike, Students.NameLikeness.IsAlike(other, one));
    }

    [Fact]
    public async Task The_school_takes_more_than_a_hundred_students_and_those_who_left_do_not_count()
    {
        for (var index = 1; index < 121; index++)
        {
            await client.AddStudent();
        }

        Assert.Equal(121, (await client.GetFromJsonAsync<JsonElement>("/api/floor")).GetProperty("students").GetArrayLength());
    }
}
