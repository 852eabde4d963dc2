using System.Security.Cryptography;
using System.Text;
using System.Text.Json.Nodes;
using Gradus.Server.Hosting;

namespace Gradus.Server.Qualifications;

/// <summary>What a file of a record turned out to be.</summary>
public enum FileState
{
    /// <summary>Signed by this school, and as it was signed.</summary>
    Genuine,

    /// <summary>As it was signed, but by a key that is not of this school: whose it is has to be known otherwise.</summary>
    SignedElsewhere,

    /// <summary>Not as it was signed.</summary>
    Changed,

    /// <summary>No record with a signature.</summary>
    NoRecord,
}

/// <summary>
/// The school's signature on its records: ECDSA on P-256 with SHA-256 over the canonical JSON. The key is made when the first record is certified and lies
/// with the other keys.
/// </summary>
public sealed class RecordSigner(GradusOptions options)
{
    /// <summary>How it is signed, as the file says it.</summary>
    public const string Algorithm = "ECDSA P-256, SHA-256, over the record in canonical JSON";

    private readonly Lock making = new();

    private string KeyFile => Path.Combine(options.KeyFolder, "records.pem");

    /// <summary>Signs a record; both parts in Base64.</summary>
    public (string Signature, string PublicKey) Sign(string canonical)
    {
        using var key = Key();
        return (
            Convert.ToBase64String(key.SignData(Encoding.UTF8.GetBytes(canonical), HashAlgorithmName.SHA256)),
            Convert.ToBase64String(key.ExportSubjectPublicKeyInfo())
        );
    }

    /// <summary>The file of a record: what was signed, the signature and the key that checks it.</summary>
    public static string FileOf(string canonical, string? signature, string? publicKey)
    {
        var file = new JsonObject { ["record"] = JsonNode.Parse(canonical) };
        if (signature is not null)
        {
            file["signature"] = new JsonObject
            {
                ["algorithm"] = Algorithm,
                ["value"] = signature,
                ["publicKey"] = publicKey,
            };
        }

        return CanonicalJson.Of(file);
    }

    /// <summary>What a file is.</summary>
    public FileState Check(string text)
    {
        try
        {
            if (
                JsonNode.Parse(text) is not JsonObject file
                || file["record"] is not JsonObject record
                || file["signature"] is not JsonObject signature
                || (string?)signature["value"] is not { } value
                || (string?)signature["publicKey"] is not { } publicKey
            )
            {
                return FileState.NoRecord;
            }

            using var key = ECDsa.Create();
            key.ImportSubjectPublicKeyInfo(Convert.FromBase64String(publicKey), out _);
            var holds = key.VerifyData(Encoding.UTF8.GetBytes(CanonicalJson.Of(record)), Convert.FromBase64String(value), HashAlgorithmName.SHA256);
            return !holds ? FileState.Changed
                : IsOurs(publicKey) ? FileState.Genuine
                : FileState.SignedElsewhere;
        }
        catch (System.Text.Json.JsonException)
        {
            return FileState.NoRecord;
        }
        catch (Exception error) when (error is FormatException or CryptographicException or InvalidOperationException)
        {
            return FileState.Changed;
        }
    }

    private bool IsOurs(string publicKey)
    {
        if (!File.Exists(KeyFile))
        {
            return false;
        }

        using var key = Key();
        return Convert.ToBase64String(key.ExportSubjectPublicKeyInfo()) == publicKey;
    }

    private ECDsa Key()
    {
        lock (making)
        {
            if (!File.Exists(KeyFile))
            {
                Directory.CreateDirectory(options.KeyFolder);
                using var made = ECDsa.Create(ECCurve.NamedCurves.nistP256);
                var beside = KeyFile + ".new";
                using (var file = new FileStream(beside, FileMode.Create, FileAccess.Write))
                {
                    if (!OperatingSystem.IsWindows())
                    {
                        File.SetUnixFileMode(beside, UnixFileMode.UserRead | UnixFileMode.UserWrite);
                    }

                    file.Write(Encoding.ASCII.GetBytes(made.ExportPkcs8PrivateKeyPem()));
                    file.Flush(flushToDisk: true);
                }

                File.Move(beside, KeyFile);
            }

            var key = ECDsa.Create();
            key.ImportFromPem(File.ReadAllText(KeyFile));
            return key;
        }
    }
}
