using System.Globalization;
using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using Gradus.Server.Accounts;
using Microsoft.Extensions.DependencyInjection;

namespace Gradus.Server.Tests;

/// <summary>When it happened beside when it arrived, and who wrote it beside who sent it.</summary>
public sealed class ProvenanceTests : IAsyncLifetime
{
    private readonly RunningServer server = new();
    private HttpClient lead = null!;
    private Guid coupon;

    public async ValueTask InitializeAsync()
    {
        lead = await server.SignedIn();
        coupon = await lead.StartCoupon(await lead.AddStudent());
    }

    public ValueTask DisposeAsync() => server.DisposeAsync();

    private async Task<HttpClient> Second()
    {
        var id = Guid.CreateVersion7();
        var second = new
        {
            name = "Second",
            role = "instructor",
            pin = "1905",
        };
        (await lead.PutAsJsonAsync($"/api/people/{id}", second)).EnsureSuccessStatusCode();
        var client = server.CreateClient();
        (await client.PostAsJsonAsync("/api/session", new { instructorId = id, pin = "1905" })).EnsureSuccessStatusCode();
        return client;
    }

    private static async Task<string> Ticket(HttpClient client) =>
        (await client.GetFromJsonAsync<JsonElement>("/api/session")).GetProperty("authorTicket").GetString()!;

    private Task<HttpResponseMessage> Late(
        HttpClient from,
        DateTimeOffset happened,
        DateTimeOffset sent,
        string? author = null,
        string key = "root-1-1"
    )
    {
        var request = new HttpRequestMessage(HttpMethod.Put, $"/api/coupons/{coupon}/passes/{Guid.CreateVersion7()}")
        {
            Content = JsonContent.Create(Calls.Pass(key)),
        };
        request.Headers.Add(Provenance.HappenedHeader, happened.ToUnixTimeMilliseconds().ToString(CultureInfo.InvariantCulture));
        request.Headers.Add(Provenance.SentHeader, sent.ToUnixTimeMilliseconds().ToString(CultureInfo.InvariantCulture));
        if (author is not null)
        {
            request.Headers.Add(Provenance.AuthorHeader, author);
        }

        return from.SendAsync(request);
    }

    private async Task<DateTimeOffset> PassAt() =>
        (await lead.Coupon(coupon)).GetProperty("beads")[0].GetProperty("pass").GetProperty("recordedAt").GetDateTimeOffset();

    [Fact]
    public async Task Fridays_pass_that_arrives_on_Monday_is_Fridays_and_its_author_s()
    {
        var second = await Second();
        var ticket = await Ticket(second);
        var friday = server.Clock.GetUtcNow().AddHours(1);
        server.Clock.Advance(TimeSpan.FromDays(3));
        lead = await server.SignedIn();
        (await Late(lead, friday, server.Clock.GetUtcNow(), ticket)).EnsureSuccessStatusCode();
        Assert.Equal(friday, await PassAt());
        var row = (await lead.GetFromJsonAsync<JsonElement>($"/api/coupons/{coupon}/history")).GetProperty("rows")[0];
        Assert.Equal(
            ("Second", "Lead", friday, server.Clock.GetUtcNow()),
            (
                row.GetProperty("by").GetString(),
                row.GetProperty("sentBy").GetString(),
                row.GetProperty("at").GetDateTimeOffset(),
                row.GetProperty("arrivedAt").GetDateTimeOffset()
            )
        );
        Assert.Equal("Second", (await lead.Coupon(coupon)).GetProperty("beads")[0].GetProperty("pass").GetProperty("recordedBy").GetString());
    }

    [Theory]
    [InlineData(0, 90, 90, 90)] // the tablet's clock is right
    [InlineData(600, 90, 90, 90)] // ten hours fast: its own span counts
    [InlineData(-600, 90, 90, 90)] // ten hours slow
    [InlineData(0, -5, 0, 0)] // it happens after it is sent: now
    [InlineData(0, 60 * 24 * 400, 120, 120)] // longer ago than the coupon: when that was started
    public async Task A_tablets_clock_is_compared_before_it_is_believed(int fastMinutes, int agoMinutes, int expectedAgo, int atMost)
    {
        server.Clock.Advance(TimeSpan.FromMinutes(120));
        var sent = server.Clock.GetUtcNow().AddMinutes(fastMinutes);
        (await Late(lead, sent.AddMinutes(-agoMinutes), sent)).EnsureSuccessStatusCode();
        Assert.Equal(server.Clock.GetUtcNow().AddMinutes(-expectedAgo), await PassAt());
        Assert.InRange(expectedAgo, 0, atMost);
    }

    [Fact]
    public async Task A_time_that_is_none_is_refused_and_nothing_is_kept()
    {
        foreach (var nonsense in new[] { "yesterday", "-5", "1e9", "99999999999999999999" })
        {
            var request = new HttpRequestMessage(HttpMethod.Put, $"/api/coupons/{coupon}/passes/{Guid.CreateVersion7()}")
            {
                Content = JsonContent.Create(Calls.Pass("root-1-1")),
            };
            request.Headers.Add(Provenance.HappenedHeader, nonsense);
            Assert.Equal([Provenance.HappenedHeader], await (await lead.SendAsync(request)).Fields(400));
        }

        Assert.Equal(JsonValueKind.Null, (await lead.Coupon(coupon)).GetProperty("beads")[0].GetProperty("pass").ValueKind);
    }

    [Fact]
    public async Task A_ticket_says_who_wrote_and_signs_nobody_in()
    {
        var ticket = await Ticket(lead);
        var stranger = server.CreateClient();
        var now = server.Clock.GetUtcNow();
        Assert.Equal(HttpStatusCode.Unauthorized, (await Late(stranger, now, now, ticket)).StatusCode);

        // One that is made up, or too old, says nothing: the sender is the author.
        var second = await Second();
        (await Late(second, now, now, ticket[..^4] + "AAAA")).EnsureSuccessStatusCode();
        var row = (await lead.GetFromJsonAsync<JsonElement>($"/api/coupons/{coupon}/history")).GetProperty("rows")[0];
        Assert.Equal(("Second", null), (row.GetProperty("by").GetString(), row.GetProperty("sentBy").GetString()));
        var nobody = server.Services.GetRequiredService<AuthorTickets>().Issue(Guid.NewGuid()); // of a record that was restored to an earlier day
        (await Late(second, now, now, nobody, "fill-2-1")).EnsureSuccessStatusCode();
        await Walk.EveryView(lead, coupons: [coupon]);
        server.Clock.Advance(TimeSpan.FromDays(AuthorTickets.MostDays + 1));
        Assert.Null(server.Services.GetRequiredService<AuthorTickets>().AuthorOf(ticket));
    }

    [Fact]
    public async Task A_decision_is_signed_by_who_is_signed_in_whatever_ticket_comes_along()
    {
        var second = await Second();
        var request = new HttpRequestMessage(HttpMethod.Put, $"/api/decisions/{Guid.CreateVersion7()}")
        {
            Content = JsonContent.Create(
                new
                {
                    studentId = (await lead.Coupon(coupon)).GetProperty("student").GetProperty("id").GetGuid(),
                    testId = "P8",
                    kind = "hold",
                    reason = "Not yet",
                }
            ),
        };
        request.Headers.Add(Provenance.AuthorHeader, await Ticket(lead));
        request.Headers.Add(Signing.Header, "1905");
        (await second.SendAsync(request)).EnsureSuccessStatusCode();
        var student = (await lead.Coupon(coupon)).GetProperty("student").GetProperty("id").GetGuid();
        var view = await lead.GetFromJsonAsync<JsonElement>($"/api/students/{student}");
        Assert.Equal("Second", view.GetProperty("decisions")[0].GetProperty("signedBy").GetString());
    }
}
