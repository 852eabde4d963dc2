using System.Globalization;
using System.Security.Cryptography;
using Gradus.Server.Hosting;

namespace Gradus.Server.School;

/// <summary>A backup that lies on a shelf.</summary>
/// <param name="Name">The name of its archive.</param>
public sealed record ShelvedBackup(string Name, DateTimeOffset MadeAt, long Bytes, bool ByItself);

/// <summary>
/// A folder of backups: their archives, and one folder with the photos of all of them. A photo never changes under its name, so it lies there once
/// and not in each archive.
/// </summary>
/// <param name="Folder">Where they lie.</param>
/// <param name="IsDemo">Whether they are the demo school's; both may share a folder.</param>
public sealed record BackupShelf(string Folder, bool IsDemo)
{
    public const string PhotoFolder = "photos";
    public const string Stamp = "yyyyMMdd'T'HHmmss'Z'";
    public const string ByHand = "gradus-";
    private const string DemoNight = "demo-night-";
    private static readonly string[] Ours = [ByHand, DemoNight];

    /// <summary>How the name of one that is made by itself begins.</summary>
    public string Night => IsDemo ? DemoNight : $"{ByHand}night-";

    /// <summary>Where the photos of its backups lie.</summary>
    public string Photos => Path.Combine(Folder, PhotoFolder);

    /// <summary>The backups on it, the latest first.</summary>
    public IReadOnlyList<ShelvedBackup> Backups() =>
        !Directory.Exists(Folder)
            ? []
            :
            [
                .. new DirectoryInfo(Folder)
                    .EnumerateFiles("*.zip")
                    .Select(file => (File: file, At: MadeAt(file.Name)))
                    .Where(one => one.At is not null)
                    .Select(one => new ShelvedBackup(
                        one.File.Name,
                        one.At!.Value,
                        one.File.Length,
                        one.File.Name.StartsWith(Night, StringComparison.Ordinal)
                    ))
                    .OrderByDescending(one => one.MadeAt),
            ];

    /// <summary>Takes away what the rule does not keep of those that were made by themselves, and the photos that no archive names any more.</summary>
    public void Tidy(Func<DateTimeOffset, DateOnly> dayOf)
    {
        // What a power cut left half made.
        foreach (var half in Directory.EnumerateFiles(Folder, "*.partial*").Concat(Directory.EnumerateFiles(Folder, ".*.check.db")))
        {
            if (File.GetLastWriteTimeUtc(half) < DateTime.UtcNow.AddDays(-1))
            {
                File.Delete(half);
            }
        }

        // Copies from before a migration: by now the backups of the months have the same.
        foreach (var copy in Directory.EnumerateFiles(Folder, "*-before-*.db"))
        {
            if (File.GetLastWriteTimeUtc(copy) < DateTime.UtcNow.AddYears(-1))
            {
                File.Delete(copy);
            }
        }

        var nights = Backups().Where(one => one.ByItself).ToList();
        var kept = BackupRule.Kept(nights.Select(one => one.MadeAt), dayOf);
        var gone = nights.Where(one => !kept.Contains(one.MadeAt)).ToList();
        gone.ForEach(one => File.Delete(Path.Combine(Folder, one.Name)));
        if (gone.Count == 0 || !Directory.Exists(Photos))
        {
            return;
        }

        if (Named() is not { } named)
        {
            return;
        }

        foreach (var photo in Directory.EnumerateFiles(Photos, "*", SearchOption.AllDirectories))
        {
            if (!named.Contains(Path.GetRelativePath(Folder, photo)))
            {
                File.Delete(photo);
            }
        }
    }

    /// <summary>The photos that an archive here names, the other school's too; null when one cannot be read: what it names is not known then.</summary>
    private HashSet<string>? Named()
    {
        try
        {
            return Directory
                .EnumerateFiles(Folder, "*.zip")
                .Where(file => Ours.Any(begins => Path.GetFileName(file).StartsWith(begins, StringComparison.Ordinal)))
                .SelectMany(archive => BackupArchive.ManifestOf(archive).Beside?.Keys ?? [])
                .ToHashSet(StringComparer.Ordinal);
        }
        catch (StorageException)
        {
            return null;
        }
    }

    /// <summary>Puts a backup of another shelf onto this one, and reads it again there.</summary>
    /// <exception cref="StorageException">What arrived is not what was sent.</exception>
    public void Take(string archive)
    {
        var from = new BackupShelf(Path.GetDirectoryName(archive)!, IsDemo);
        foreach (var name in BackupArchive.ManifestOf(archive).Beside?.Keys ?? [])
        {
            if (!File.Exists(Path.Combine(Folder, name)))
            {
                Copy(Path.Combine(from.Folder, name), Path.Combine(Folder, name));
            }
        }

        // The archive last: what is on the shelf has its photos there.
        Copy(archive, Path.Combine(Folder, Path.GetFileName(archive)));
        BackupArchive.Verify(Path.Combine(Folder, Path.GetFileName(archive)));
    }

    /// <summary>Copies a file onto the disk under its whole name only once it is whole.</summary>
    /// <returns>SHA-256 of it in hex.</returns>
    public static string Copy(string from, string to)
    {
        Directory.CreateDirectory(Path.GetDirectoryName(to)!);
        var partial = to + ".partial";
        try
        {
            using var hash = SHA256.Create();
            using (var source = File.OpenRead(from))
            using (var target = new FileStream(partial, FileMode.Create, FileAccess.Write))
            {
                using (var both = new CryptoStream(target, hash, CryptoStreamMode.Write, leaveOpen: true))
                {
                    source.CopyTo(both);
                }

                target.Flush(flushToDisk: true);
            }

            File.Move(partial, to, overwrite: true);
            return Convert.ToHexStringLower(hash.Hash!);
        }
        finally
        {
            File.Delete(partial);
        }
    }

    private DateTimeOffset? MadeAt(string name)
    {
        foreach (var begins in IsDemo ? [Night] : (string[])[Night, ByHand])
        {
            var stamp = name.StartsWith(begins, StringComparison.Ordinal) ? name[begins.Length..] : "";
            if (
                stamp.Length >= 16
                && DateTimeOffset.TryParseExact(stamp[..16], Stamp, CultureInfo.InvariantCulture, DateTimeStyles.AssumeUniversal, out var at)
            )
            {
                return at;
            }
        }

        return null;
    }
}
