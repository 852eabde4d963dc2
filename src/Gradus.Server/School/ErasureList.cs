using System.Text.Json;
using Gradus.Core;
using Gradus.Server.Hosting;

namespace Gradus.Server.School;

/// <summary>Somebody whose name and photos were erased.</summary>
/// <param name="By">Who decided so.</param>
public sealed record Erased(Guid StudentId, DateTimeOffset At, Guid By);

/// <summary>
/// Who was erased, in a file beside the database: a backup from before would bring their names back, so it is gone through again whenever a school is
/// opened. It names nobody.
/// </summary>
public sealed class ErasureList(GradusOptions options)
{
    private readonly Lock gate = new();

    /// <summary>Those who were erased, in the order in which they were.</summary>
    public IReadOnlyList<Erased> Read() => Read(options.ErasureFile);

    /// <summary>Puts somebody on it, on the disk before anything is erased: what was asked for is done, whatever comes between.</summary>
    public void Add(Erased erased)
    {
        lock (gate)
        {
            var listed = Read();
            if (!listed.Any(one => one.StudentId == erased.StudentId))
            {
                Write(options.ErasureFile, [.. listed, erased]);
            }
        }
    }

    /// <summary>Adds those of another list, as a backup brings it.</summary>
    public static void Merge(string from, string to)
    {
        var (there, coming) = (Read(to), Read(from));
        if (coming.Count > 0)
        {
            Write(to, [.. there.Concat(coming).DistinctBy(one => one.StudentId).OrderBy(one => one.At)]);
        }
    }

    private static List<Erased> Read(string file) =>
        File.Exists(file) ? JsonSerializer.Deserialize<List<Erased>>(File.ReadAllBytes(file), CoreJson.Options) ?? [] : [];

    private static void Write(string file, IReadOnlyList<Erased> list) =>
        WholeFile.Write(file, JsonSerializer.SerializeToUtf8Bytes(list, CoreJson.Options));
}
