using System.Net.Http.Json;
using System.Text.Json;

namespace Gradus.Server.Tests;

/// <summary>A school of a lead, an instructor, an inspector and students who sign in, each on a device of their own.</summary>
internal sealed record SharedSchool(
    HttpClient Lead,
    HttpClient Instructor,
    HttpClient Inspector,
    Guid InstructorId,
    IReadOnlyList<(Guid Id, string Name, string Pin, Guid Coupon, HttpClient Client)> Students
)
{
    public const string Pin = "190573";
    private static readonly string[] Names = ["Ines Aune", "Tor Bakke", "Eli Dahl", "Per Foss", "Siri Grav", "Ola Holm"];

    public static async Task<SharedSchool> Make(RunningServer server, int students = 2)
    {
        var lead = await server.SignedIn();
        var (instructor, instructorId) = await Join(server, lead, "Ana Quist", "instructor");
        var (inspector, _) = await Join(server, lead, "Bo Rask", "inspector");
        var pupils = new List<(Guid, string, string, Guid, HttpClient)>();
        for (var index = 0; index < students; index++)
        {
            var name = Names[index];
            var id = await lead.AddStudent(name: name);
            var pin = $"80{index}517";
            (await lead.PutAsJsonAsync($"/api/students/{id}/pin", new { pin })).EnsureSuccessStatusCode();
            var coupon = await lead.StartCoupon(id, asTest: false);
            pupils.Add((id, name, pin, coupon, await In(server, id, pin)));
        }

        return new SharedSchool(lead, instructor, inspector, instructorId, pupils);
    }

    /// <summary>Somebody on a device of their own.</summary>
    public static async Task<HttpClient> In(RunningServer server, Guid id, string pin)
    {
        var client = server.CreateClient();
        (await client.PostAsJsonAsync("/api/session", new { instructorId = id, pin })).EnsureSuccessStatusCode();
        return client;
    }

    public static Task<JsonElement> Session(HttpClient client) => client.GetFromJsonAsync<JsonElement>("/api/session");

    private static async Task<(HttpClient Client, Guid Id)> Join(RunningServer server, HttpClient lead, string name, string role)
    {
        var id = Guid.CreateVersion7();
        var person = new
        {
            name,
            role,
            pin = Pin,
        };
        (await lead.PutAsJsonAsync($"/api/people/{id}", person)).EnsureSuccessStatusCode();
        return (await In(server, id, Pin), id);
    }
}
