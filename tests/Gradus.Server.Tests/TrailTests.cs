using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using Gradus.Data;
using Gradus.Server.Students;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using UglyToad.PdfPig;

namespace Gradus.Server.Tests;

/// <summary>Who did what is kept with what was done, and what is older than the school keeps it goes.</summary>
public sealed class TrailTests : IAsyncLifetime
{
    private readonly RunningServer server = new();
    private SharedSchool school = null!;

    public async ValueTask InitializeAsync() => school = await SharedSchool.Make(server);

    public ValueTask DisposeAsync() => server.DisposeAsync();

    private async Task<List<(string Person, string Does, string? Subject, string? Detail)>> Acts(string query = "") =>
        [
            .. (await school.Lead.GetFromJsonAsync<JsonElement>($"/api/acts{query}"))
                .GetProperty("acts")
                .EnumerateArray()
                .Select(one =>
                    (
                        one.GetProperty("person").GetString()!,
                        one.GetProperty("does").GetString()!,
                        one.GetProperty("subject").GetString(),
                        one.GetProperty("detail").GetString()
                    )
                ),
        ];

    [Fact]
    public async Task What_is_changed_names_who_and_whom_once()
    {
        var (id, name, _, _, _) = school.Students[0];
        var (from, before) = (server.Clock.GetUtcNow(), await Acts());

        // Sent twice, as a tablet does that did not hear the answer: done once.
        for (var time = 0; time < 2; time++)
        {
            (await school.Instructor.PutAsync($"/api/students/{id}/left", null)).EnsureSuccessStatusCode();
        }

        Assert.Equal(("Ana Quist", "Says that a student has left.", name, null), (await Acts())[0]);
        Assert.Equal(before.Count + 1, (await Acts()).Count);

        // What is refused was not done; what is read neither.
        Assert.Equal(HttpStatusCode.NotFound, (await school.Instructor.PutAsync($"/api/students/{Guid.NewGuid()}/left", null)).StatusCode);
        (await school.Instructor.GetAsync($"/api/students/{id}")).EnsureSuccessStatusCode();
        Assert.Equal(before.Count + 1, (await Acts()).Count);

        // What is kept of a person was taken along, by the lead and by themselves.
        (await school.Lead.GetAsync($"/api/students/{id}/file.json")).EnsureSuccessStatusCode();
        (await school.Students[1].Client.GetAsync($"/api/students/{school.Students[1].Id}/file.pdf")).EnsureSuccessStatusCode();
        Assert.Equal([school.Students[1].Name, "Lead"], (await Acts()).Take(2).Select(one => one.Person));

        Assert.All(await Acts($"?personId={school.InstructorId}"), one => Assert.Equal("Ana Quist", one.Person));
        Assert.Contains("Says that a student has left.", (await Acts($"?subjectId={id}")).Select(one => one.Does));
        Assert.All(await Acts($"?subjectId={id}"), one => Assert.Equal(name, one.Subject));
        var day = DateOnly.FromDateTime(from.UtcDateTime).ToString("O");
        Assert.Equal(await Acts(), await Acts($"?from={day}&to={day}"));
        Assert.Empty(await Acts("?to=2031-03-03"));
    }

    [Fact]
    public async Task They_are_read_a_hundred_at_once_and_only_by_the_lead()
    {
        await Rows(250, server.Clock.GetUtcNow());
        var seen = new List<long>();
        long? before = long.MaxValue;
        while (before is not null)
        {
            var page = await school.Lead.GetFromJsonAsync<JsonElement>($"/api/acts?before={before}");
            seen.AddRange(page.GetProperty("acts").EnumerateArray().Select(one => one.GetProperty("id").GetInt64()));
            before = page.GetProperty("before") is { ValueKind: JsonValueKind.Number } next ? next.GetInt64() : null;
        }

        Assert.True(seen.Count > 250);
        Assert.Equal(seen.OrderDescending().Distinct(), seen);
        foreach (var other in new[] { school.Instructor, school.Inspector, school.Students[0].Client })
        {
            Assert.Equal(HttpStatusCode.Forbidden, (await other.GetAsync("/api/acts")).StatusCode);
            Assert.Equal(HttpStatusCode.Forbidden, (await other.GetAsync("/api/school/keeping")).StatusCode);
        }
    }

    [Fact]
    public async Task Whoever_left_longer_ago_than_the_rule_says_is_erased_and_nobody_by_a_clock_that_is_wrong()
    {
        var (id, name, _, _, _) = school.Students[0];
        (await school.Lead.PutAsync($"/api/students/{id}/left", null)).EnsureSuccessStatusCode();
        Assert.Equal(
            HttpStatusCode.BadRequest,
            (await school.Lead.PutAsJsonAsync("/api/school/keeping", new { studentsYears = 0, actsYears = 1 })).StatusCode
        );
        (await school.Lead.PutAsJsonAsync("/api/school/keeping", new { studentsYears = 1, actsYears = 1 })).EnsureSuccessStatusCode();

        async Task<int> Apply()
        {
            await using var scope = server.Services.CreateAsyncScope();
            return await scope.ServiceProvider.GetRequiredService<Keeping>().Apply(CancellationToken.None);
        }

        async Task<string> Name() => await Db(db => db.Students.Where(one => one.Id == id).Select(one => one.Name).SingleAsync());

        // More than a year on from one moment to the next: the school was in use on none of the days before.
        server.Clock.Advance(TimeSpan.FromDays(400));
        Assert.Equal((0, name), (await Apply(), await Name()));

        // It was in use yesterday: the clock is right.
        await Rows(1, server.Clock.GetUtcNow().AddDays(-2));
        Assert.Equal(1, await Apply());
        Assert.StartsWith("Erased student", await Name(), StringComparison.Ordinal);
        Assert.Equal(0, await Apply());

        // Of what was done the last year is left, and that somebody was erased by the rule.
        var left = await Db(db => db.Acts.AsNoTracking().ToListAsync());
        Assert.All(left, one => Assert.True(one.At > server.Clock.GetUtcNow().AddYears(-1)));
        Assert.Equal("by the rule, 1 year after leaving", Assert.Single(left, one => one.SubjectId == id).Detail);
    }

    [Fact]
    public async Task The_lead_sees_who_is_erased_next()
    {
        (await school.Lead.PutAsync($"/api/students/{school.Students[0].Id}/left", null)).EnsureSuccessStatusCode();
        (await school.Lead.PutAsJsonAsync("/api/school/keeping", new { studentsYears = 1, actsYears = (int?)null })).EnsureSuccessStatusCode();
        Assert.Empty(Soon(await school.Lead.GetFromJsonAsync<JsonElement>("/api/school/keeping")));
        server.Clock.Advance(TimeSpan.FromDays(280));
        var lead = await SharedSchool.In(server, await LeadId(), RunningServer.Pin); // signed in anew: a session lasts a day
        var view = await lead.GetFromJsonAsync<JsonElement>("/api/school/keeping");
        Assert.Equal(("2032-03-04", school.Students[0].Name), Assert.Single(Soon(view)));
        Assert.Equal("Lead", view.GetProperty("saidBy").GetString());
    }

    [Fact]
    public async Task What_is_kept_of_a_student_can_be_read_on_paper()
    {
        var (id, name, _, coupon, client) = school.Students[0];
        (
            await school.Instructor.PutAsJsonAsync($"/api/coupons/{coupon}/notes/{Guid.NewGuid()}", new { text = "Holds the arc long" })
        ).EnsureSuccessStatusCode();
        var pdf = await client.GetByteArrayAsync($"/api/students/{id}/file.pdf");
        using var read = PdfDocument.Open(pdf);
        var text = string.Join(' ', read.GetPages().SelectMany(page => page.GetWords()).Select(word => word.Text));
        Assert.Contains(name, text, StringComparison.Ordinal);
        Assert.Contains("Coupons (1)", text, StringComparison.Ordinal);
        Assert.Contains("notes 1", text, StringComparison.Ordinal);
        Assert.DoesNotContain("PasswordHash", text, StringComparison.OrdinalIgnoreCase);
        Assert.Equal(HttpStatusCode.Forbidden, (await client.GetAsync($"/api/students/{school.Students[1].Id}/file.pdf")).StatusCode);
        Assert.Equal(HttpStatusCode.Forbidden, (await school.Instructor.GetAsync($"/api/students/{id}/file.pdf")).StatusCode);
    }

    private static IEnumerable<(string? On, string? Name)> Soon(JsonElement view) =>
        view.GetProperty("soon").EnumerateArray().Select(one => (one.GetProperty("on").GetString(), one.GetProperty("name").GetString()));

    private Task<Guid> LeadId() => Db(db => db.People.Where(one => one.Role == PersonRole.Lead).Select(one => one.Id).SingleAsync());

    private Task<int> Rows(int count, DateTimeOffset at) =>
        Db(async db =>
        {
            db.Acts.AddRange(
                Enumerable
                    .Range(0, count)
                    .Select(_ => new Act
                    {
                        At = at,
                        PersonId = school.InstructorId,
                        Operation = "PUT /api/school",
                    })
            );
            return await db.SaveChangesAsync();
        });

    private async Task<T> Db<T>(Func<GradusContext, Task<T>> use)
    {
        await using var scope = server.Services.CreateAsyncScope();
        return await use(scope.ServiceProvider.GetRequiredService<GradusContext>());
    }
}
