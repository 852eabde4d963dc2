using System.Collections.Immutable;
using System.Text.Json;
using Gradus.Core;
using Gradus.Core.Inspection;
using Gradus.Core.Library;
using Gradus.Data;
using Gradus.Server.Accounts;
using Gradus.Server.Hosting;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Library;

/// <summary>
/// The tests and profiles of the school, every version of them, kept in memory: they are few, and everything asks for them. The database has
/// the last word; what ships with the program enters it as the first version of each.
/// </summary>
public sealed class SchoolLibrary(TimeProvider time)
{
    private volatile Snapshot now = new(
        [.. TestLibrary.Shipped.Values.Select(test => new Stored<TestTemplate>(test, true, null, null, null))],
        [.. AcceptanceProfiles.Shipped.Values.Select(profile => new Stored<AcceptanceProfile>(profile, true, null, null, null))]
    );

    /// <summary>A profile has a new version.</summary>
    public event Action? LimitsSaved;

    /// <summary>The newest version of each test, by id.</summary>
    public IReadOnlyDictionary<string, TestTemplate> Tests => now.Tests;

    /// <summary>The newest version of each profile, by id.</summary>
    public IReadOnlyDictionary<string, AcceptanceProfile> Profiles => now.Profiles;

    /// <summary>A test in the version that a coupon was made to.</summary>
    public TestTemplate Test(string id, int version) =>
        now.TestVersions.LastOrDefault(one => one.Value.Id == id && one.Value.Version == version)?.Value ?? Tests[id];

    /// <summary>The profiles that a coupon of a test can be judged by, its own first; none where there is no such test.</summary>
    public IReadOnlyList<string> JudgeableBy(string testId) =>
        Tests.TryGetValue(testId, out var test) ? test.JudgeableBy(Profiles.Values.OrderBy(one => one.Id, StringComparer.Ordinal)) : [];

    /// <summary>The versions of a test, newest first.</summary>
    public IReadOnlyList<Stored<TestTemplate>> TestHistory(string id) => [.. now.TestVersions.Where(one => one.Value.Id == id).Reverse()];

    /// <summary>The versions of a profile, newest first.</summary>
    public IReadOnlyList<Stored<AcceptanceProfile>> ProfileHistory(string id) => [.. now.ProfileVersions.Where(one => one.Value.Id == id).Reverse()];

    /// <summary>Brings what ships into the database, as far as the school has not made it its own, and reads it all.</summary>
    public async Task Load(GradusContext db, CancellationToken cancel)
    {
        var entries = await Entries(db, cancel);
        var newest = entries.GroupBy(entry => (entry.Kind, entry.Key)).ToDictionary(group => group.Key, group => group.Last());
        foreach (var test in TestLibrary.Shipped.Values)
        {
            Ship(LibraryKind.Test, test.Id, version => Json(test with { Version = version }));
        }

        foreach (var profile in AcceptanceProfiles.Shipped.Values)
        {
            Ship(LibraryKind.Profile, profile.Id, version => Json(profile with { Version = version }));
        }

        await db.SaveChangesAsync(cancel);
        now = await Snapshot.Of(db, cancel);

        void Ship(LibraryKind kind, string key, Func<int, string> body)
        {
            var last = newest.GetValueOrDefault((kind, key));
            if (last is null || (last.Shipped && last.Body != body(last.Version)))
            {
                Add(db, kind, key, (last?.Version ?? 0) + 1, body, null, null);
            }
        }
    }

    /// <summary>Reads it all and changes nothing in the database.</summary>
    public async Task Read(GradusContext db, CancellationToken cancel) => now = await Snapshot.Of(db, cancel);

    /// <summary>Saves a test as its next version, or as a new test.</summary>
    /// <param name="basedOn">The version that was changed; null for a new test.</param>
    public Task<Outcome<SavedVersion>> SaveTest(
        GradusContext db,
        Writes writes,
        string id,
        JsonElement test,
        int? basedOn,
        string why,
        Guid by,
        CancellationToken cancel
    ) =>
        Save(
            db,
            writes,
            LibraryKind.Test,
            id,
            "test",
            Tests.GetValueOrDefault(id)?.Version,
            basedOn,
            why,
            by,
            () =>
            {
                var read = TestLibrary.Parse(test.GetRawText(), Profiles.Keys);
                return (read.Id, version => Json(read with { Version = version }));
            },
            cancel
        );

    /// <summary>Saves a school's copy of a profile as its next version, or as a new one.</summary>
    /// <inheritdoc cref="SaveTest" path="/param"/>
    public Task<Outcome<SavedVersion>> SaveProfile(
        GradusContext db,
        Writes writes,
        string id,
        JsonElement profile,
        int? basedOn,
        string why,
        Guid by,
        CancellationToken cancel
    ) =>
        Save(
            db,
            writes,
            LibraryKind.Profile,
            id,
            "profile",
            Profiles.GetValueOrDefault(id)?.Version,
            basedOn,
            why,
            by,
            () =>
            {
                var read = AcceptanceProfiles.Parse(profile.GetRawText());
                return (read.Id, version => Json(read with { Version = version }));
            },
            cancel
        );

    /// <summary>Names the place in a file that does not have the shape of its schema.</summary>
    internal static Refusal Misshapen(string field, JsonException error)
    {
        var path = error.Path?.TrimStart('$').TrimStart('.');
        return Refusal.Field(
            string.IsNullOrEmpty(path) ? field : $"{field}.{path}",
            error.Message.Contains("missing required", StringComparison.Ordinal)
                ? $"A part is missing: {error.Message.Split(':')[^1].Split('.')[0].Trim()}."
                : "This is not what belongs here. Tests have the shape of the schema at /api/schemas/test-template."
        );
    }

    private async Task<Outcome<SavedVersion>> Save(
        GradusContext db,
        Writes writes,
        LibraryKind kind,
        string id,
        string field,
        int? standing,
        int? basedOn,
        string why,
        Guid by,
        Func<(string Id, Func<int, string> Body)> parse,
        CancellationToken cancel
    )
    {
        string readId;
        Func<int, string> body;
        try
        {
            (readId, body) = parse();
        }
        catch (JsonException error)
        {
            return Misshapen(field, error);
        }
        catch (InvalidOperationException error)
        {
            return Refusal.Field(field, error.Message);
        }

        if (readId != id)
        {
            return Refusal.Field($"{field}.id", $"The same id as in the address: {id}.");
        }

        if (standing != basedOn)
        {
            return Refusal.Conflict(
                "basedOnVersion",
                standing is null ? "There is no such entry yet: leave it out."
                    : basedOn is null ? $"There is one with this id already (version {standing})."
                    : $"Somebody saved version {standing} meanwhile. Look again."
            );
        }

        var version = (standing ?? 0) + 1;
        Add(db, kind, id, version, body, by, why);
        await db.SaveChangesAsync(cancel);

        // What is in memory changes with the commit: a version that was not kept is never given out.
        var read = await Snapshot.Of(db, cancel);
        writes.OnCommit(() =>
        {
            now = read;
            if (kind == LibraryKind.Profile)
            {
                LimitsSaved?.Invoke();
            }
        });
        return new SavedVersion(id, version);
    }

    private void Add(GradusContext db, LibraryKind kind, string key, int version, Func<int, string> body, Guid? by, string? why) =>
        db.Library.Add(
            new LibraryEntry
            {
                Id = Guid.CreateVersion7(time.GetUtcNow()),
                Kind = kind,
                Key = key,
                Version = version,
                Body = body(version),
                Shipped = by is null,
                SavedAt = time.GetUtcNow(),
                SavedBy = by,
                Why = why,
            }
        );

    private static Task<List<LibraryEntry>> Entries(GradusContext db, CancellationToken cancel) =>
        db.Library.AsNoTracking().OrderBy(entry => entry.Version).ToListAsync(cancel);

    private static string Json<T>(T value) => JsonSerializer.Serialize(value, CoreJson.Options);

    private sealed class Snapshot(ImmutableArray<Stored<TestTemplate>> tests, ImmutableArray<Stored<AcceptanceProfile>> profiles)
    {
        public ImmutableArray<Stored<TestTemplate>> TestVersions { get; } = tests;
        public ImmutableArray<Stored<AcceptanceProfile>> ProfileVersions { get; } = profiles;
        public Dictionary<string, TestTemplate> Tests { get; } = Newest(tests, test => test.Id);
        public Dictionary<string, AcceptanceProfile> Profiles { get; } = Newest(profiles, profile => profile.Id);

        /// <summary>The library as the database has it.</summary>
        public static async Task<Snapshot> Of(GradusContext db, CancellationToken cancel)
        {
            var entries = await Entries(db, cancel);
            var names = await Names.Of(db, cancel);
            return new Snapshot(Values<TestTemplate>(LibraryKind.Test), Values<AcceptanceProfile>(LibraryKind.Profile));

            ImmutableArray<Stored<T>> Values<T>(LibraryKind kind) =>
                [
                    .. entries
                        .Where(entry => entry.Kind == kind)
                        .Select(entry => new Stored<T>(
                            JsonSerializer.Deserialize<T>(entry.Body, CoreJson.Options)!,
                            entry.Shipped,
                            entry.SavedAt,
                            entry.SavedBy is { } by ? names.GetValueOrDefault(by) : null,
                            entry.Why
                        )),
                ];
        }

        private static Dictionary<string, T> Newest<T>(ImmutableArray<Stored<T>> versions, Func<T, string> id) =>
            versions.GroupBy(one => id(one.Value)).ToDictionary(group => group.Key, group => group.Last().Value, StringComparer.Ordinal);
    }
}

/// <summary>One version with where it came from.</summary>
public sealed record Stored<T>(T Value, bool Shipped, DateTimeOffset? SavedAt, string? SavedBy, string? Why);

/// <summary>The version that was written.</summary>
public sealed record SavedVersion(string Id, int Version);
