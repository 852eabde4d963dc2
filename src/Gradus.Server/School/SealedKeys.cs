using System.IO.Compression;
using System.Security.Cryptography;
using Gradus.Server.Hosting;

namespace Gradus.Server.School;

/// <summary>
/// The keys, and the shop's authority with its certificates, behind a passphrase: a zip of their folders, encrypted with AES-256-GCM under a key that PBKDF2 (SHA-256, 600 000 rounds, as OWASP
/// recommended in 2023) makes from the passphrase. Salt, nonce and tag stand before it.
/// </summary>
public static class SealedKeys
{
    private const int Rounds = 600_000;
    private const int SaltBytes = 16;
    private const int KeyBytes = 32;

    private const string Certificates = "certificates/";

    public static byte[] Seal(GradusOptions options, string passphrase)
    {
        using var zipped = new MemoryStream();
        using (var zip = new ZipArchive(zipped, ZipArchiveMode.Create, leaveOpen: true))
        {
            foreach (var (folder, begins) in new[] { (options.KeyFolder, ""), (options.CertificateFolder, Certificates) })
            {
                foreach (var file in Directory.Exists(folder) ? Directory.EnumerateFiles(folder) : [])
                {
                    zip.CreateEntryFromFile(file, begins + Path.GetFileName(file));
                }
            }
        }

        var plain = zipped.ToArray();
        var salt = RandomNumberGenerator.GetBytes(SaltBytes);
        var nonce = RandomNumberGenerator.GetBytes(AesGcm.NonceByteSizes.MaxSize);
        var tag = new byte[AesGcm.TagByteSizes.MaxSize];
        var cipher = new byte[plain.Length];
        using var aes = new AesGcm(Key(passphrase, salt), tag.Length);
        aes.Encrypt(nonce, plain, cipher, tag);
        return [.. salt, .. nonce, .. tag, .. cipher];
    }

    /// <summary>Puts the keys into one folder, and what the shop is served with into another; a backup from before that was taken along has none.</summary>
    /// <exception cref="StorageException">The passphrase is not theirs.</exception>
    public static void Unseal(byte[] sealedKeys, string passphrase, string keys, string certificates)
    {
        var (nonceAt, tagAt) = (SaltBytes, SaltBytes + AesGcm.NonceByteSizes.MaxSize);
        var cipherAt = tagAt + AesGcm.TagByteSizes.MaxSize;
        var plain = new byte[Math.Max(0, sealedKeys.Length - cipherAt)];
        try
        {
            using var aes = new AesGcm(Key(passphrase, sealedKeys[..SaltBytes]), AesGcm.TagByteSizes.MaxSize);
            aes.Decrypt(sealedKeys.AsSpan(nonceAt..tagAt), sealedKeys.AsSpan(cipherAt..), sealedKeys.AsSpan(tagAt..cipherAt), plain);
        }
        catch (Exception error) when (error is CryptographicException or ArgumentException)
        {
            throw new StorageException(
                "That is not the passphrase of the keys in this backup. Without GRADUS_BACKUP_PASSPHRASE they are left out.",
                error
            );
        }

        using var zip = new ZipArchive(new MemoryStream(plain), ZipArchiveMode.Read);
        foreach (var entry in zip.Entries)
        {
            var folder = entry.FullName.StartsWith(Certificates, StringComparison.Ordinal) ? certificates : keys;
            Directory.CreateDirectory(folder);
            entry.ExtractToFile(Path.Combine(folder, Path.GetFileName(entry.Name)), overwrite: true);
        }
    }

    private static byte[] Key(string passphrase, byte[] salt) =>
        Rfc2898DeriveBytes.Pbkdf2(passphrase, salt, Rounds, HashAlgorithmName.SHA256, KeyBytes);
}
