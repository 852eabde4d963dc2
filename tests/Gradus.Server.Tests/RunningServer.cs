using System.Net.Http.Json;
using System.Text.Json;
using Gradus.Data;
using Microsoft.AspNetCore.Hosting;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Mvc.Testing;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using Microsoft.Extensions.Time.Testing;

namespace Gradus.Server.Tests;

/// <summary>The server on Kestrel with a real SQLite file in a folder of its own, and a clock that the test moves.</summary>
public sealed class RunningServer : WebApplicationFactory<Program>
{
    /// <summary>The PIN of the lead.</summary>
    public const string Pin = "4711";

    // Made once: a new school's file, brought up to date and shipped with the library, is the same for every test; and so is the demo school's.
    private static readonly Lazy<byte[]> NewSchool = new(() => FileOf(demo: false));
    private static readonly Lazy<byte[]> DemoSchool = new(() => FileOf(demo: true));

    /// <summary>A new folder with the demo school in it.</summary>
    public static string DemoFolder()
    {
        var folder = Directory.CreateTempSubdirectory("gradus-").FullName;
        File.WriteAllBytes(Path.Combine(folder, "demo.db"), DemoSchool.Value);
        return folder;
    }

    private static byte[] FileOf(bool demo)
    {
        var folder = Directory.CreateTempSubdirectory("gradus-new-").FullName;
        var server = new RunningServer(folder, demo);
        server.CreateClient().Dispose();
        Task.Run(async () => await server.DisposeAsync()).GetAwaiter().GetResult();
        var copy = Path.Combine(folder, "copy.db");
        Hosting.DatabaseCopy.Make(Path.Combine(folder, demo ? "demo.db" : "gradus.db"), copy);
        var file = File.ReadAllBytes(copy);
        Directory.Delete(folder, recursive: true);
        return file;
    }

    /// <param name="folder">A folder with whatever is in it; null for a new school in a new folder.</param>
    public RunningServer(string? folder = null, bool demo = false)
    {
        Folder = folder ?? Directory.CreateTempSubdirectory("gradus-").FullName;
        Demo = demo;
        if (folder is null && !demo)
        {
            File.WriteAllBytes(Path.Combine(Folder, "gradus.db"), NewSchool.Value);
        }

        UseKestrel(0);
    }

    public string Folder { get; }
    public FakeTimeProvider Clock { get; } = new(new DateTimeOffset(2031, 3, 4, 9, 0, 0, TimeSpan.Zero));
    public List<Microsoft.EntityFrameworkCore.Diagnostics.IInterceptor> Interceptors { get; } = [];
    private bool Demo { get; }

    /// <summary>What stands before the program, when a test has it so.</summary>
    public IStartupFilter? Filter { get; init; }

    /// <summary>Whether it is backed up every night; a test that turns the clock on by days does not ask for it.</summary>
    public bool BacksUpByItself { get; init; }

    /// <summary>A second folder for backups.</summary>
    public string? BackupCopy { get; init; }

    /// <summary>Whether the machine is told how the program does.</summary>
    public bool TellsMetrics { get; init; }

    /// <summary>The zone that the school is set up in.</summary>
    public string Zone { get; init; } = "Europe/Oslo";

    /// <summary>A client that is signed in as the lead instructor of a school of four booths.</summary>
    public async Task<HttpClient> SignedIn()
    {
        var client = CreateClient();

        // What is signed is signed by the lead; a test of signing itself takes a client of its own.
        client.DefaultRequestHeaders.Add(Accounts.Signing.Header, Demo ? "2468" : Pin);
        var setup = new
        {
            schoolName = "Test school",
            timeZone = Zone,
            instructorName = "Lead",
            pin = Pin,
            booths = 4,
        };
        var answer = await client.PostAsJsonAsync("/api/setup", setup);
        if (!answer.IsSuccessStatusCode)
        {
            var session = await client.GetFromJsonAsync<JsonElement>("/api/session");
            var instructorId = session.GetProperty("instructors")[0].GetProperty("id").GetGuid();
            (await client.PostAsJsonAsync("/api/session", new { instructorId, pin = Demo ? "2468" : Pin })).EnsureSuccessStatusCode();
        }

        return client;
    }

    /// <summary>Waits until everybody's readiness is of today; before anybody looked, so that nothing goes on behind what a test asks.</summary>
    public async Task Renewed()
    {
        var renewal = Services.GetRequiredService<Readiness.ReadinessRenewal>();
        var done = new TaskCompletionSource(TaskCreationOptions.RunContinuationsAsynchronously);
        renewal.Renewed += () => done.TrySetResult();
        renewal.Start();
        await done.Task.WaitAsync(TimeSpan.FromMinutes(2));
    }

    /// <summary>Ends it, and waits until its folder is free again: the program ends on a thread of its own.</summary>
    public override async ValueTask DisposeAsync()
    {
        await base.DisposeAsync();
        using var limit = new CancellationTokenSource(TimeSpan.FromSeconds(30));
        while (true)
        {
            try
            {
                new FileStream(Path.Combine(Folder, "gradus.lock"), FileMode.OpenOrCreate, FileAccess.ReadWrite, FileShare.None).Dispose();
                break;
            }
            catch (IOException)
            {
                await Task.Delay(20, limit.Token);
            }
        }

        GC.SuppressFinalize(this);
    }

    protected override void ConfigureWebHost(IWebHostBuilder builder)
    {
        builder.UseSetting("GRADUS_DATA", Folder);
        builder.UseSetting("GRADUS_DEMO", Demo ? "1" : "0");
        builder.UseSetting("GRADUS_BACKUP_COPY", BackupCopy ?? "");
        builder.UseSetting("GRADUS_BACKUP_NIGHTLY", BacksUpByItself ? "1" : "0");
        builder.UseSetting("GRADUS_METRICS", TellsMetrics ? "1" : "0");
        builder.UseSetting("urls", "http://127.0.0.1:0");
        builder.ConfigureServices(services =>
        {
            services.AddSingleton<TimeProvider>(Clock);

            // A PIN is slow to check on purpose; how slow is measured in bench/, and no test hangs on it.
            services.Configure<PasswordHasherOptions>(hashing => hashing.IterationCount = 1000);
            if (Filter is not null)
            {
                services.AddSingleton(Filter);
            }

            services.ConfigureDbContext<GradusContext>(db => db.AddInterceptors(Interceptors));
        });
    }
}

/// <summary>Requests as a client makes them.</summary>
internal static class Calls
{
    public static async Task<Guid> AddStudent(this HttpClient client, string testId = "P8", string? name = null)
    {
        var classes = await client.GetFromJsonAsync<JsonElement>("/api/classes");
        var id = Guid.CreateVersion7();
        var student = new
        {
            name = name ?? "Student " + id,
            classGroupId = classes[0].GetProperty("id").GetGuid(),
            hand = "right",
            targetTestId = testId,
        };
        (await client.PutAsJsonAsync($"/api/students/{id}", student)).EnsureSuccessStatusCode();
        return id;
    }

    public static async Task<Guid> StartCoupon(this HttpClient client, Guid studentId, string testId = "P8", bool asTest = true, Guid? boothId = null)
    {
        var id = Guid.CreateVersion7();
        (
            await client.PutAsJsonAsync(
                $"/api/coupons/{id}",
                new
                {
                    studentId,
                    testId,
                    asTest,
                    boothId,
                }
            )
        ).EnsureSuccessStatusCode();
        return id;
    }

    public static object Pass(string beadKey, double amps = 200) =>
        new
        {
            beadKey,
            process = "fcawS",
            electrodeClass = "E71T-11",
            diameterMm = 1.143,
            polarity = "dcen",
            amps,
            volts = 19.2,
            wireFeedMmPerMin = 4064,
            technique = "stringer",
            progression = "uphill",
            hand = "right",
        };

    public static Task<HttpResponseMessage> PutPass(this HttpClient client, Guid coupon, Guid id, object pass) =>
        client.PutAsJsonAsync($"/api/coupons/{coupon}/passes/{id}", pass);

    public static Task<HttpResponseMessage> PutEvent(this HttpClient client, Guid coupon, string kind, object body, Guid? id = null) =>
        client.PutAsJsonAsync($"/api/coupons/{coupon}/events/{id ?? Guid.CreateVersion7()}", new { kind, body });

    public static Task<HttpResponseMessage> PutPhoto(this HttpClient client, Guid coupon, Guid id, byte[] bytes, string type = "image/jpeg")
    {
        var body = new ByteArrayContent(bytes);
        body.Headers.ContentType = new System.Net.Http.Headers.MediaTypeHeaderValue(type);
        return client.PutAsync($"/api/coupons/{coupon}/photos/{id}", body);
    }

    public static Task<JsonElement> Coupon(this HttpClient client, Guid coupon) => client.GetFromJsonAsync<JsonElement>($"/api/coupons/{coupon}");

    /// <summary>Lays every bead. Under the rules of a test with all that they want done before: safety, the position, each hold point.</summary>
    public static async Task LayAllBeads(this HttpClient client, Guid coupon)
    {
        var view = await client.Coupon(coupon);
        if (view.GetProperty("asTest").GetBoolean())
        {
            var student = view.GetProperty("student").GetProperty("id").GetGuid();
            (await client.PutAsync($"/api/students/{student}/safety", null)).EnsureSuccessStatusCode();
            (await client.PutEvent(coupon, "positionWitnessed", new { })).EnsureSuccessStatusCode();
            foreach (var point in view.GetProperty("test").GetProperty("holdPoints").EnumerateArray())
            {
                (await client.PutEvent(coupon, "holdAnswered", new { point = point.GetString(), go = true })).EnsureSuccessStatusCode();
            }
        }

        foreach (var bead in (await client.Coupon(coupon)).GetProperty("beads").EnumerateArray())
        {
            (await client.PutPass(coupon, Guid.CreateVersion7(), Pass(bead.GetProperty("key").GetString()!))).EnsureSuccessStatusCode();
        }
    }

    public static Task<HttpResponseMessage> Close(this HttpClient client, Guid coupon) =>
        client.PutAsync($"/api/coupons/{coupon}/closings/{Guid.CreateVersion7()}", null);

    /// <summary>The field names of a problem's error map; asserts the status and the media type.</summary>
    public static async Task<List<string>> Fields(this HttpResponseMessage answer, int status)
    {
        Assert.Equal(status, (int)answer.StatusCode);
        Assert.Equal("application/problem+json", answer.Content.Headers.ContentType?.MediaType);
        var problem = await answer.Content.ReadFromJsonAsync<JsonElement>();
        Assert.Equal(status, problem.GetProperty("status").GetInt32());
        return [.. problem.GetProperty("errors").EnumerateObject().Select(field => field.Name)];
    }
}
