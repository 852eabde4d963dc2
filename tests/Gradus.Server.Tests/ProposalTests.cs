using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using Gradus.Core.Readiness;
using Gradus.Data;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;

namespace Gradus.Server.Tests;

/// <summary>What students write of their own coupons is proposed: it stands, says so, and is confirmed or counts for less.</summary>
public sealed class ProposalTests : IAsyncDisposable
{
    private readonly RunningServer server = new();

    public ValueTask DisposeAsync() => server.DisposeAsync();

    private static object Undercut() =>
        new
        {
            kind = "undercut",
            stage = "cap",
            fromStartMm = 40,
            depthMm = 0.4,
            lengthMm = 6,
        };

    private static async Task<List<Guid>> Proposed(HttpClient client, Guid coupon) =>
        [.. (await client.Coupon(coupon)).GetProperty("proposals").EnumerateArray().Select(one => one.GetProperty("id").GetGuid())];

    private static Task<HttpResponseMessage> Confirm(HttpClient client, Guid coupon, IEnumerable<Guid> ids) =>
        client.PutAsJsonAsync($"/api/coupons/{coupon}/confirmed", new { ids });

    [Fact]
    public async Task A_student_logs_an_instructor_confirms_in_one_tap_and_the_history_says_both()
    {
        var school = await SharedSchool.Make(server, 1);
        var (_, name, _, coupon, student) = school.Students[0];
        var bead = (await student.Coupon(coupon)).GetProperty("beads")[0].GetProperty("key").GetString()!;
        (await student.PutPass(coupon, Guid.CreateVersion7(), Calls.Pass(bead))).EnsureSuccessStatusCode();
        (await student.PutAsJsonAsync($"/api/coupons/{coupon}/findings/{Guid.CreateVersion7()}", Undercut())).EnsureSuccessStatusCode();
        (await student.PutEvent(coupon, "holdCalled", new { point = "root" })).EnsureSuccessStatusCode();
        var view = await school.Instructor.Coupon(coupon);
        Assert.Equal(3, view.GetProperty("proposals").GetArrayLength());
        Assert.All(view.GetProperty("proposals").EnumerateArray(), one => Assert.Equal(name, one.GetProperty("by").GetString()));
        Assert.Equal(JsonValueKind.Object, view.GetProperty("beads")[0].GetProperty("pass").ValueKind);

        // What came in after it was looked at is not confirmed unseen.
        var seen = await Proposed(school.Instructor, coupon);
        (
            await student.PutAsJsonAsync($"/api/coupons/{coupon}/notes/{Guid.CreateVersion7()}", new { text = "Arc was long" })
        ).EnsureSuccessStatusCode();
        (await Confirm(school.Instructor, coupon, seen)).EnsureSuccessStatusCode();
        Assert.Single(await Proposed(school.Instructor, coupon));
        var again = await (await Confirm(school.Instructor, coupon, seen)).Content.ReadFromJsonAsync<JsonElement>();
        Assert.False(again.GetProperty("isNew").GetBoolean());
        var history = (await school.Lead.GetFromJsonAsync<JsonElement>($"/api/coupons/{coupon}/history")).GetRawText();
        Assert.Contains("Proposed: ", history, StringComparison.Ordinal);
        Assert.Contains("Confirmed: ", history, StringComparison.Ordinal);
        await Walk.EveryView(school.Lead, coupons: [coupon]);
    }

    [Fact]
    public async Task A_student_takes_back_only_what_they_proposed_and_nobody_confirmed()
    {
        var school = await SharedSchool.Make(server, 1);
        var (_, _, _, coupon, student) = school.Students[0];
        var (mine, theirs) = (Guid.CreateVersion7(), Guid.CreateVersion7());
        (await student.PutAsJsonAsync($"/api/coupons/{coupon}/findings/{mine}", Undercut())).EnsureSuccessStatusCode();
        (await school.Instructor.PutAsJsonAsync($"/api/coupons/{coupon}/findings/{theirs}", Undercut())).EnsureSuccessStatusCode();
        Assert.Equal(["id"], await (await student.DeleteAsync($"/api/coupons/{coupon}/findings/{theirs}")).Fields(409));
        (await Confirm(school.Instructor, coupon, [mine, theirs])).EnsureSuccessStatusCode();
        Assert.Equal(["id"], await (await student.DeleteAsync($"/api/coupons/{coupon}/findings/{mine}")).Fields(409));
        var third = Guid.CreateVersion7();
        (await student.PutAsJsonAsync($"/api/coupons/{coupon}/findings/{third}", Undercut())).EnsureSuccessStatusCode();
        (await student.DeleteAsync($"/api/coupons/{coupon}/findings/{third}")).EnsureSuccessStatusCode();
        Assert.Equal(2, (await student.Coupon(coupon)).GetProperty("findings").GetArrayLength());
    }

    [Theory]
    [InlineData("positionWitnessed")]
    [InlineData("holdAnswered")]
    [InlineData("voided")]
    [InlineData("corrected")]
    [InlineData("breach")]
    [InlineData("lookedAgain")]
    public async Task What_is_witnessed_allowed_or_put_right_is_not_a_students(string kind)
    {
        var school = await SharedSchool.Make(server, 1);
        Assert.Equal(["kind"], await (await school.Students[0].Client.PutEvent(school.Students[0].Coupon, kind, new { })).Fields(409));
    }

    [Fact]
    public async Task What_waited_on_the_tablet_goes_in_under_who_wrote_it()
    {
        var school = await SharedSchool.Make(server, 2);
        var (first, second) = (school.Students[0], school.Students[1]);
        async Task<HttpResponseMessage> Late(HttpClient from, string author)
        {
            var request = new HttpRequestMessage(HttpMethod.Put, $"/api/coupons/{first.Coupon}/findings/{Guid.CreateVersion7()}")
            {
                Content = JsonContent.Create(Undercut()),
            };
            request.Headers.Add(Accounts.Provenance.AuthorHeader, author);
            return await from.SendAsync(request);
        }

        async Task<string> Ticket(HttpClient client) => (await SharedSchool.Session(client)).GetProperty("authorTicket").GetString()!;

        // An instructor's ticket in a student's hand writes nothing; a student's sent by an instructor is still the student's.
        Assert.Equal(HttpStatusCode.Forbidden, (await Late(first.Client, await Ticket(school.Instructor))).StatusCode);
        (await Late(school.Instructor, await Ticket(first.Client))).EnsureSuccessStatusCode();
        var proposal = (await school.Lead.Coupon(first.Coupon)).GetProperty("proposals")[0];
        Assert.Equal(first.Name, proposal.GetProperty("by").GetString());
        Assert.Equal(HttpStatusCode.Forbidden, (await Late(second.Client, await Ticket(second.Client))).StatusCode);
    }

    [Fact]
    public async Task A_verdict_on_what_nobody_confirmed_counts_for_less()
    {
        var school = await SharedSchool.Make(server, 2);
        async Task Weld((Guid Id, string Name, string Pin, Guid Coupon, HttpClient Client) student, bool confirm)
        {
            foreach (var bead in (await student.Client.Coupon(student.Coupon)).GetProperty("beads").EnumerateArray())
            {
                (
                    await student.Client.PutPass(student.Coupon, Guid.CreateVersion7(), Calls.Pass(bead.GetProperty("key").GetString()!))
                ).EnsureSuccessStatusCode();
            }

            if (confirm)
            {
                (await Confirm(school.Instructor, student.Coupon, await Proposed(school.Instructor, student.Coupon))).EnsureSuccessStatusCode();
            }

            Assert.Equal(HttpStatusCode.Forbidden, (await student.Client.Close(student.Coupon)).StatusCode);
            (await school.Instructor.Close(student.Coupon)).EnsureSuccessStatusCode();
        }

        await Weld(school.Students[0], confirm: true);
        await Weld(school.Students[1], confirm: false);
        await using var scope = server.Services.CreateAsyncScope();
        var reader = scope.ServiceProvider.GetRequiredService<Readiness.EvidenceReader>();
        async Task<double> Trusted(Guid student) => (await reader.Read(student, TestContext.Current.CancellationToken)).Single().Evidence.Trust;
        Assert.Equal(1, await Trusted(school.Students[0].Id));
        Assert.Equal(Trust.Proposed, await Trusted(school.Students[1].Id));
        var db = scope.ServiceProvider.GetRequiredService<GradusContext>();
        Assert.Equal([0, 1], (await db.Closings.Select(one => one.Unconfirmed).ToListAsync()).Select(Math.Sign).Order());
    }

    [Fact]
    public async Task A_student_sees_their_own_page_and_the_chance_only_where_the_school_shows_it()
    {
        var school = await SharedSchool.Make(server, 1);
        var student = school.Students[0].Client;
        var mine = await student.GetFromJsonAsync<JsonElement>("/api/me");
        Assert.Equal("Ines Aune", mine.GetProperty("name").GetString());
        Assert.Equal(JsonValueKind.Null, mine.GetProperty("chance").ValueKind);
        Assert.Equal(JsonValueKind.Null, (await student.Coupon(school.Students[0].Coupon)).GetProperty("readiness").ValueKind);
        Assert.True(mine.GetProperty("steps").GetArrayLength() > 0);
        var settings = await school.Lead.GetFromJsonAsync<JsonElement>("/api/school");
        var shown = JsonSerializer.Deserialize<Dictionary<string, object?>>(settings.GetRawText())!;
        shown["studentsSeeChance"] = true;
        (await school.Lead.PutAsJsonAsync("/api/school", shown)).EnsureSuccessStatusCode();
        Assert.Equal(JsonValueKind.Object, (await student.GetFromJsonAsync<JsonElement>("/api/me")).GetProperty("chance").ValueKind);
        Assert.Equal(JsonValueKind.Object, (await student.Coupon(school.Students[0].Coupon)).GetProperty("readiness").ValueKind);
    }
}
