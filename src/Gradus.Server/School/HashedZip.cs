using System.IO.Compression;
using System.Security.Cryptography;

namespace Gradus.Server.School;

/// <summary>A zip whose manifest names each file with its SHA-256, as backups and open archives are.</summary>
internal static class HashedZip
{
    /// <summary>Puts a file into it.</summary>
    /// <param name="level">How hard it is compressed; a picture never is.</param>
    /// <returns>SHA-256 in hex.</returns>
    public static string Add(ZipArchive zip, string name, CompressionLevel level, Action<Stream> write)
    {
        using var hash = SHA256.Create();
        using var entry = zip.CreateEntry(name, name.EndsWith(".jpg", StringComparison.Ordinal) ? CompressionLevel.NoCompression : level).Open();
        using (var both = new CryptoStream(entry, hash, CryptoStreamMode.Write, leaveOpen: true))
        {
            write(both);
        }

        return Convert.ToHexStringLower(hash.Hash!);
    }

    /// <summary>Where one of its files goes in a folder; null when its name leads out of it.</summary>
    public static string? PlaceOf(string folder, string name) =>
        Path.GetFullPath(Path.Combine(folder, name)) is var place
        && place.StartsWith(Path.GetFullPath(folder) + Path.DirectorySeparatorChar, StringComparison.Ordinal)
            ? place
            : null;

    /// <summary>What is wrong with its files, in words; null when each is there and is what it was.</summary>
    public static string? Fault(ZipArchive zip, IReadOnlyDictionary<string, string> files)
    {
        foreach (var (name, hash) in files)
        {
            if (zip.GetEntry(name) is not { } entry)
            {
                return $"{name} is missing";
            }

            using var stream = entry.Open();
            if (Convert.ToHexStringLower(SHA256.HashData(stream)) != hash)
            {
                return $"{name} is not what it was";
            }
        }

        return null;
    }
}
