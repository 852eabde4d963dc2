using System.Net.Http.Json;
using System.Text;
using System.Text.Json;
using Gradus.Data;
using Gradus.Server.Hosting;
using Microsoft.Extensions.DependencyInjection;

namespace Gradus.Server.Tests;

/// <summary>Classes begin and end, students come by file, booths come and go; what was is kept.</summary>
public sealed class ClassTests : IAsyncDisposable
{
    private readonly RunningServer server = new();

    public ValueTask DisposeAsync() => server.DisposeAsync();

    private static async Task<Guid> AddClass(HttpClient lead, string name)
    {
        var id = Guid.CreateVersion7();
        (await lead.PutAsJsonAsync($"/api/classes/{id}", new { name, meetsOn = new[] { "monday", "thursday" } })).EnsureSuccessStatusCode();
        return id;
    }

    private static async Task<JsonElement> Import(HttpClient lead, string rows, bool take)
    {
        var body = new StringContent("name;class;test;hand\n" + rows, Encoding.UTF8, "text/csv");
        var answer = await lead.PostAsync($"/api/students/import?take={(take ? "true" : "false")}", body);
        answer.EnsureSuccessStatusCode();
        return await answer.Content.ReadFromJsonAsync<JsonElement>();
    }

    [Fact]
    public async Task A_class_ends_with_who_goes_on_and_the_rest_leave_signed_out()
    {
        var school = await SharedSchool.Make(server, 2);
        var (goes, leaves) = (school.Students[0], school.Students[1]);
        var old = (await school.Lead.GetFromJsonAsync<JsonElement>("/api/classes"))[0].GetProperty("id").GetGuid();
        Assert.Equal(["id"], await (await school.Lead.PutAsJsonAsync($"/api/classes/{old}/ended", new { goOn = Array.Empty<object>() })).Fields(409));
        var next = await AddClass(school.Lead, "Spring class");
        var stranger = new[] { new { studentId = Guid.NewGuid(), classId = next } };
        Assert.Equal(["goOn"], await (await school.Lead.PutAsJsonAsync($"/api/classes/{old}/ended", new { goOn = stranger })).Fields(400));
        var goOn = new[] { new { studentId = goes.Id, classId = next } };
        (await school.Lead.PutAsJsonAsync($"/api/classes/{old}/ended", new { goOn })).EnsureSuccessStatusCode();
        var again = await (await school.Lead.PutAsJsonAsync($"/api/classes/{old}/ended", new { goOn })).Content.ReadFromJsonAsync<JsonElement>();
        Assert.False(again.GetProperty("isNew").GetBoolean());
        Assert.Equal(200, (int)(await goes.Client.GetAsync("/api/me")).StatusCode);
        Assert.Equal(401, (int)(await leaves.Client.GetAsync("/api/me")).StatusCode);
        var left = await school.Lead.GetFromJsonAsync<JsonElement>("/api/students/left");
        Assert.Equal([leaves.Name], left.EnumerateArray().Select(one => one.GetProperty("name").GetString()));
        Assert.Single((await school.Lead.GetFromJsonAsync<JsonElement>("/api/classes")).EnumerateArray());
        Assert.Equal(2, (await school.Lead.GetFromJsonAsync<JsonElement>("/api/classes?ended=true")).GetArrayLength());

        // Nobody is put into a class that is over, and its name is free again.
        var late = new
        {
            name = "Late Comer",
            classGroupId = old,
            hand = "right",
            targetTestId = "P8",
        };
        Assert.Equal(["classGroupId"], await (await school.Lead.PutAsJsonAsync($"/api/students/{Guid.CreateVersion7()}", late)).Fields(404));
        await AddClass(school.Lead, "Day class");
        await Walk.EveryView(school.Lead, coupons: [goes.Coupon, leaves.Coupon]);
    }

    [Fact]
    public async Task A_class_list_is_looked_at_before_it_is_taken_and_taken_whole_or_not()
    {
        var lead = await server.SignedIn();
        await lead.AddStudent(name: "Noor Haddix");
        const string Good = "Ada Moss;Day class;P8;\nÅse Berg;day class;r3;left\n";
        var seen = await Import(lead, Good, take: false);
        Assert.Equal(
            (2, 0, false),
            (seen.GetProperty("good").GetInt32(), seen.GetProperty("bad").GetInt32(), seen.GetProperty("taken").GetBoolean())
        );
        var bad = await Import(
            lead,
            Good + "noor  hadix;Day class;P8;\nX;No class;P8;\nY;Day class;Q9;\nZ;Day class;P8;both\nAda Moss;Day class;P8;\n",
            take: true
        );
        Assert.Equal((2, 5, false), (bad.GetProperty("good").GetInt32(), bad.GetProperty("bad").GetInt32(), bad.GetProperty("taken").GetBoolean()));
        Assert.Equal(1, (await lead.GetFromJsonAsync<JsonElement>("/api/floor")).GetProperty("students").GetArrayLength());
        Assert.True((await Import(lead, Good, take: true)).GetProperty("taken").GetBoolean());
        var students = (await lead.GetFromJsonAsync<JsonElement>("/api/floor")).GetProperty("students");
        Assert.Equal(3, students.GetArrayLength());
    }

    [Fact]
    public async Task Safety_is_signed_for_the_class_once_and_keeps_its_first_day()
    {
        var school = await SharedSchool.Make(server, 2);
        var group = (await school.Lead.GetFromJsonAsync<JsonElement>("/api/classes"))[0].GetProperty("id").GetGuid();
        Task<HttpResponseMessage> Sign(params Guid[] students) => school.Instructor.PutAsJsonAsync($"/api/classes/{group}/safety", new { students });
        Assert.Equal(["students"], await (await Sign(school.Students[0].Id, Guid.NewGuid())).Fields(404));
        (await Sign(school.Students[0].Id)).EnsureSuccessStatusCode();
        var first = server.Clock.GetUtcNow();
        server.Clock.Advance(TimeSpan.FromHours(10));
        (await Sign(school.Students[0].Id, school.Students[1].Id)).EnsureSuccessStatusCode();
        var list = (await school.Lead.GetFromJsonAsync<JsonElement>($"/api/classes/{group}/students")).EnumerateArray().ToList();
        Assert.Equal([first, server.Clock.GetUtcNow()], list.Select(one => one.GetProperty("safetySignedAt").GetDateTimeOffset()).Order());
    }

    [Fact]
    public async Task A_booth_that_is_taken_out_keeps_its_number_on_the_record_and_gives_it_to_nobody()
    {
        var lead = await server.SignedIn();
        var floor = await lead.GetFromJsonAsync<JsonElement>("/api/floor");
        var booth = floor.GetProperty("booths")[3].GetProperty("id").GetGuid();
        var student = await lead.AddStudent();
        var coupon = await lead.StartCoupon(student, asTest: false, boothId: booth);
        Assert.Equal(["id"], await (await lead.PutAsync($"/api/booths/{booth}/removed", null)).Fields(409));
        await lead.LayAllBeads(coupon);
        (await lead.Close(coupon)).EnsureSuccessStatusCode();
        (await lead.PutAsync($"/api/booths/{booth}/removed", null)).EnsureSuccessStatusCode();
        Assert.Equal(4, (await lead.Coupon(coupon)).GetProperty("booth").GetInt32());
        Assert.Equal(3, (await lead.GetFromJsonAsync<JsonElement>("/api/floor")).GetProperty("booths").GetArrayLength());
        var body = new
        {
            processes = new[] { "SMAW" },
            pipe = true,
            purge = false,
            extraction = false,
            positioner = false,
            column = 0,
            row = 2,
        };
        (await lead.PutAsJsonAsync($"/api/booths/{Guid.CreateVersion7()}", body)).EnsureSuccessStatusCode();
        var numbers = (await lead.GetFromJsonAsync<JsonElement>("/api/floor"))
            .GetProperty("booths")
            .EnumerateArray()
            .Select(one => one.GetProperty("number").GetInt32());
        Assert.Equal([1, 2, 3, 5], numbers);
        await Walk.EveryView(lead, coupons: [coupon]);
    }

    [Fact]
    public async Task Two_thousand_who_left_stand_in_nobodys_way()
    {
        var lead = await server.SignedIn();
        await using (var scope = server.Services.CreateAsyncScope())
        {
            var db = scope.ServiceProvider.GetRequiredService<GradusContext>();
            var group = db.ClassGroups.Single().Id;
            db.Students.AddRange(
                Enumerable
                    .Range(0, 2120)
                    .Select(index => new Student
                    {
                        Id = Guid.CreateVersion7(),
                        Name = $"Weld{index:D4} Hand{index * 7919 % 9973:D4}",
                        ClassGroupId = group,
                        TargetTestId = "P8",
                        CreatedAt = server.Clock.GetUtcNow(),
                        LeftAt = index < 2000 ? server.Clock.GetUtcNow().AddDays(-index) : null,
                    })
            );
            await db.SaveChangesAsync(TestContext.Current.CancellationToken);
        }

        Assert.Equal(120, (await lead.GetFromJsonAsync<JsonElement>("/api/floor")).GetProperty("students").GetArrayLength());
        Assert.Equal(Limits.FormerStudents, (await lead.GetFromJsonAsync<JsonElement>("/api/students/left")).GetArrayLength());
        var found = await lead.GetFromJsonAsync<JsonElement>("/api/find?q=Weld1999");
        Assert.Contains("Weld1999", found.GetRawText(), StringComparison.Ordinal);
        var classId = (await lead.GetFromJsonAsync<JsonElement>("/api/classes"))[0];
        Assert.Equal(120, classId.GetProperty("students").GetInt32());
        await lead.AddStudent(name: "Somebody New");
    }
}
