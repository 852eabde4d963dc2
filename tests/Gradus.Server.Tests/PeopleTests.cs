using System.Net;
using System.Net.Http.Json;
using System.Text.Json;

namespace Gradus.Server.Tests;

/// <summary>People and their sessions: what ends one ends it on the server, and what was signed stays signed.</summary>
public sealed class PeopleTests : IAsyncDisposable
{
    private readonly RunningServer server = new();

    public ValueTask DisposeAsync() => server.DisposeAsync();

    private static async Task<HttpStatusCode> Floor(HttpClient client) => (await client.GetAsync("/api/floor")).StatusCode;

    private static Task<HttpResponseMessage> SignIn(HttpClient client, Guid id, string pin) =>
        client.PostAsJsonAsync("/api/session", new { instructorId = id, pin });

    private static Task<HttpResponseMessage> ByName(HttpClient client, string name, string pin) =>
        client.PostAsJsonAsync("/api/session", new { name, pin });

    [Fact]
    public async Task Signing_out_ends_that_session_on_the_server_and_no_other()
    {
        var school = await SharedSchool.Make(server, 1);
        var other = await SharedSchool.In(server, school.InstructorId, SharedSchool.Pin);

        // A copy of the cookie is worth nothing once its owner signed out.
        var stolen = new HttpRequestMessage(HttpMethod.Get, "/api/floor");
        var bare = new HttpClient(new HttpClientHandler { UseCookies = false }) { BaseAddress = school.Lead.BaseAddress };
        var signed = await bare.PostAsJsonAsync("/api/session", new { instructorId = school.InstructorId, pin = SharedSchool.Pin });
        var cookie = signed.Headers.GetValues("Set-Cookie").Single(one => one.StartsWith("gradus=", StringComparison.Ordinal)).Split(';')[0];
        stolen.Headers.Add("Cookie", cookie);
        Assert.Equal(HttpStatusCode.OK, (await bare.SendAsync(stolen)).StatusCode);
        var out_ = new HttpRequestMessage(HttpMethod.Delete, "/api/session");
        out_.Headers.Add("Cookie", cookie);
        Assert.Equal(HttpStatusCode.NoContent, (await bare.SendAsync(out_)).StatusCode);
        var again = new HttpRequestMessage(HttpMethod.Get, "/api/floor");
        again.Headers.Add("Cookie", cookie);
        Assert.Equal(HttpStatusCode.Unauthorized, (await bare.SendAsync(again)).StatusCode);
        Assert.Equal(HttpStatusCode.OK, await Floor(other));
        Assert.Equal(HttpStatusCode.OK, await Floor(school.Instructor));

        // Everywhere is everywhere.
        (await other.PostAsync("/api/session/everywhere", null)).EnsureSuccessStatusCode();
        Assert.Equal(HttpStatusCode.Unauthorized, await Floor(other));
        Assert.Equal(HttpStatusCode.Unauthorized, await Floor(school.Instructor));
        Assert.Equal(HttpStatusCode.OK, await Floor(school.Lead));
    }

    [Fact]
    public async Task A_new_pin_ends_the_sessions_of_the_old_one_but_the_one_that_asked()
    {
        var school = await SharedSchool.Make(server, 1);
        var here = await SharedSchool.In(server, school.InstructorId, SharedSchool.Pin);
        Assert.Equal(["pin"], await (await here.PutAsJsonAsync("/api/session/pin", new { pin = "000001", newPin = "551903" })).Fields(403));
        Assert.Equal(["newPin"], await (await here.PutAsJsonAsync("/api/session/pin", new { pin = SharedSchool.Pin, newPin = "1234" })).Fields(400));
        (await here.PutAsJsonAsync("/api/session/pin", new { pin = SharedSchool.Pin, newPin = "551903" })).EnsureSuccessStatusCode();
        Assert.Equal(HttpStatusCode.OK, await Floor(here));
        Assert.Equal(HttpStatusCode.Unauthorized, await Floor(school.Instructor));
        Assert.Equal(HttpStatusCode.Unauthorized, (await SignIn(server.CreateClient(), school.InstructorId, SharedSchool.Pin)).StatusCode);

        // One that the lead gives ends them all.
        (await school.Lead.PutAsJsonAsync($"/api/people/{school.InstructorId}/pin", new { pin = "664201" })).EnsureSuccessStatusCode();
        Assert.Equal(HttpStatusCode.Unauthorized, await Floor(here));
        (await SignIn(here, school.InstructorId, "664201")).EnsureSuccessStatusCode();
    }

    [Fact]
    public async Task Whoever_leaves_is_out_at_once_and_what_they_signed_stays()
    {
        var school = await SharedSchool.Make(server, 1);
        var student = school.Students[0];
        await school.Instructor.LayAllBeads(student.Coupon);
        (await school.Instructor.Close(student.Coupon)).EnsureSuccessStatusCode();
        (await school.Lead.PutAsync($"/api/people/{school.InstructorId}/left", null)).EnsureSuccessStatusCode();
        Assert.Equal(HttpStatusCode.Unauthorized, await Floor(school.Instructor));
        Assert.Equal(HttpStatusCode.Unauthorized, (await SignIn(school.Instructor, school.InstructorId, SharedSchool.Pin)).StatusCode);
        Assert.Equal("Ana Quist", (await school.Lead.Coupon(student.Coupon)).GetProperty("verdict").GetProperty("closedBy").GetString());
        Assert.DoesNotContain("Ana Quist", (await SharedSchool.Session(server.CreateClient())).GetRawText(), StringComparison.Ordinal);
        await Walk.EveryView(school.Lead, coupons: [student.Coupon]);

        (await school.Lead.DeleteAsync($"/api/people/{school.InstructorId}/left")).EnsureSuccessStatusCode();
        (await SignIn(school.Instructor, school.InstructorId, SharedSchool.Pin)).EnsureSuccessStatusCode();
    }

    [Fact]
    public async Task There_is_always_a_lead()
    {
        var school = await SharedSchool.Make(server, 0);
        var lead = (await SharedSchool.Session(school.Lead)).GetProperty("person").GetProperty("id").GetGuid();
        Assert.Equal(["id"], await (await school.Lead.PutAsync($"/api/people/{lead}/left", null)).Fields(409));
        Assert.Equal(["id"], await (await school.Lead.PutAsJsonAsync($"/api/people/{lead}/role", new { role = "instructor" })).Fields(409));
        // A second lead makes the first one free; what somebody is takes effect on the session that they have by ending it.
        (await school.Lead.PutAsJsonAsync($"/api/people/{school.InstructorId}/role", new { role = "lead" })).EnsureSuccessStatusCode();
        Assert.Equal(HttpStatusCode.Unauthorized, await Floor(school.Instructor));
        (await SignIn(school.Instructor, school.InstructorId, SharedSchool.Pin)).EnsureSuccessStatusCode();
        (await school.Instructor.PutAsJsonAsync($"/api/people/{lead}/role", new { role = "instructor" })).EnsureSuccessStatusCode();
        (await SignIn(school.Lead, lead, RunningServer.Pin)).EnsureSuccessStatusCode();
        Assert.Equal(
            HttpStatusCode.Forbidden,
            (
                await school.Lead.PutAsJsonAsync(
                    $"/api/people/{Guid.CreateVersion7()}",
                    new
                    {
                        name = "x",
                        role = "instructor",
                        pin = "190573",
                    }
                )
            ).StatusCode
        );
        Assert.Equal(
            ["name"],
            await (
                await school.Instructor.PutAsJsonAsync(
                    $"/api/people/{Guid.CreateVersion7()}",
                    new
                    {
                        name = "Bo Rask",
                        role = "lead",
                        pin = "190573",
                    }
                )
            ).Fields(409)
        );
    }

    [Fact]
    public async Task The_class_is_listed_on_a_tablet_of_the_shop_and_nowhere_else()
    {
        var school = await SharedSchool.Make(server, 2);
        var tablet = await SharedSchool.In(server, school.InstructorId, SharedSchool.Pin);
        (await tablet.PostAsJsonAsync("/api/session/tablet", new { name = "Booth 3" })).EnsureSuccessStatusCode();
        (await tablet.DeleteAsync("/api/session")).EnsureSuccessStatusCode();
        var session = await SharedSchool.Session(tablet);
        Assert.Equal("Booth 3", session.GetProperty("tablet").GetString());
        Assert.Equal(
            ["Ines Aune", "Tor Bakke"],
            session.GetProperty("classes")[0].GetProperty("students").EnumerateArray().Select(one => one.GetProperty("name").GetString())
        );
        var elsewhere = server.CreateClient();
        Assert.DoesNotContain("Ines Aune", (await SharedSchool.Session(elsewhere)).GetRawText(), StringComparison.Ordinal);

        // Elsewhere a name is typed, in whatever case it was told; a wrong one takes as long and says as little.
        (await ByName(elsewhere, " ines  AUNE ", school.Students[0].Pin)).EnsureSuccessStatusCode();
        var wrongPin = await (await ByName(server.CreateClient(), "Ines Aune", "111222")).Content.ReadFromJsonAsync<JsonElement>();
        var wrongName = await (await ByName(server.CreateClient(), "Nobody Else", "111222")).Content.ReadFromJsonAsync<JsonElement>();
        Assert.Equal(wrongPin.GetProperty("errors").GetRawText(), wrongName.GetProperty("errors").GetRawText());

        // Two of one name are told apart by their PINs.
        var twin = Guid.CreateVersion7();
        var classId = session.GetProperty("classes")[0].GetProperty("id").GetGuid();
        (
            await school.Lead.PutAsJsonAsync(
                $"/api/students/{twin}",
                new
                {
                    name = "Ines Aune",
                    classGroupId = classId,
                    hand = "left",
                    targetTestId = "P8",
                    evenIfAlike = true,
                }
            )
        ).EnsureSuccessStatusCode();
        (await school.Lead.PutAsJsonAsync($"/api/students/{twin}/pin", new { pin = "730192" })).EnsureSuccessStatusCode();
        (await ByName(elsewhere, "Ines Aune", "730192")).EnsureSuccessStatusCode();
        Assert.Equal(twin, (await SharedSchool.Session(elsewhere)).GetProperty("person").GetProperty("id").GetGuid());

        // A tablet that is ended shows nobody.
        var people = await school.Lead.GetFromJsonAsync<JsonElement>("/api/people");
        var id = people.GetProperty("tablets")[0].GetProperty("id").GetGuid();
        (await school.Lead.DeleteAsync($"/api/tablets/{id}")).EnsureSuccessStatusCode();
        Assert.Empty((await SharedSchool.Session(tablet)).GetProperty("classes").EnumerateArray());
    }

    [Fact]
    public async Task Guesses_are_told_to_wait_and_the_right_pin_is_not_tried_meanwhile()
    {
        var school = await SharedSchool.Make(server, 1);
        var student = school.Students[0];
        var guesser = server.CreateClient();
        HttpResponseMessage answer;
        var wrong = 0;
        while ((answer = await SignIn(guesser, student.Id, "000001")).StatusCode == HttpStatusCode.Unauthorized)
        {
            wrong++;
        }

        Assert.InRange(wrong, 1, 3);
        Assert.Equal(HttpStatusCode.TooManyRequests, answer.StatusCode);
        Assert.True(answer.Headers.RetryAfter!.Delta >= TimeSpan.FromSeconds(1));
        Assert.Equal(HttpStatusCode.TooManyRequests, (await SignIn(guesser, student.Id, student.Pin)).StatusCode);
        server.Clock.Advance(TimeSpan.FromMinutes(1));
        (await SignIn(guesser, student.Id, student.Pin)).EnsureSuccessStatusCode();
    }

    [Fact]
    public async Task What_is_signed_asks_for_the_pin_of_whoever_signs()
    {
        var school = await SharedSchool.Make(server, 1);
        var student = school.Students[0];
        async Task<HttpResponseMessage> Put(string path, object? body, string? pin)
        {
            using var request = new HttpRequestMessage(HttpMethod.Put, path) { Content = body is null ? null : JsonContent.Create(body) };
            if (pin is not null)
            {
                request.Headers.Add(Accounts.Signing.Header, pin);
            }

            return await school.Instructor.SendAsync(request);
        }

        var id = Guid.CreateVersion7();
        var decision = new
        {
            studentId = student.Id,
            testId = "P8",
            kind = "hold",
            reason = "Not yet",
        };
        Assert.Equal(["pin"], await (await Put($"/api/decisions/{id}", decision, null)).Fields(400));
        Assert.Equal(["pin"], await (await Put($"/api/decisions/{id}", decision, RunningServer.Pin)).Fields(403));
        Assert.Equal(HttpStatusCode.OK, await Floor(school.Instructor)); // a wrong PIN signs nobody out
        (await Put($"/api/decisions/{id}", decision, SharedSchool.Pin)).EnsureSuccessStatusCode();
        Assert.Equal(["pin"], await (await Put($"/api/decisions/{id}/withdrawal", new { reason = "x" }, null)).Fields(400));

        // The first verdict is signed by whoever is signed in; one that is given later asks.
        await school.Lead.LayAllBeads(student.Coupon);
        Task<HttpResponseMessage> Close(string? pin) => Put($"/api/coupons/{student.Coupon}/closings/{Guid.CreateVersion7()}", null, pin);
        (await Close(null)).EnsureSuccessStatusCode();
        (await school.Lead.PutEvent(student.Coupon, "reopened", new { note = "Looked again" })).EnsureSuccessStatusCode();
        Assert.Equal(["pin"], await (await Close(null)).Fields(400));
        Assert.Equal(["pin"], await (await Close("999999")).Fields(403));
        (await Close(SharedSchool.Pin)).EnsureSuccessStatusCode();
    }
}
