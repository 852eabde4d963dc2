using System.Security.Cryptography;
using System.Security.Cryptography.X509Certificates;
using Gradus.Server.Hosting;

namespace Gradus.Server.Network;

/// <summary>
/// The certificate that the server shows: the school's own where it names one, else one of the local authority, made anew by itself before it
/// ends and when the machine is reached at another name or address.
/// </summary>
public sealed class CertificateStore(GradusOptions options, TimeProvider time)
{
    private const string AuthorityFile = "authority.pfx";
    private const string ServerFile = "server.pfx";
    private readonly Lock gate = new();
    private volatile X509Certificate2? shown;

    /// <summary>Where the authority and its certificates lie; as secret as the keys beside them.</summary>
    public string Folder => options.CertificateFolder;

    /// <summary>The certificate that is shown now.</summary>
    /// <exception cref="StorageException">There is none yet, or the school's own cannot be read.</exception>
    public X509Certificate2 Shown => shown ?? Renew();

    /// <summary>The authority as a tablet takes it, without its key; null where there is none.</summary>
    public byte[]? Authority
    {
        get
        {
            using var authority = Read(AuthorityFile);
            return authority?.Export(X509ContentType.Cert);
        }
    }

    /// <summary>Makes what is missing or soon at its end; the certificate that is to be shown from now on.</summary>
    public X509Certificate2 Renew()
    {
        lock (gate)
        {
            if (options.Certificate is { } own)
            {
                return shown = ReadOwn(own, options.CertificateKey, options.CertificatePassword);
            }

            var now = time.GetUtcNow();
            var (names, addresses) = (Certificates.Names(options.Names), Certificates.Addresses());
            var authority = Read(AuthorityFile);
            if (authority is null || authority.NotAfter - now < Certificates.Lasts)
            {
                authority = Certificates.MakeAuthority("this shop", names, now);
                Write(AuthorityFile, authority);
            }

            using (authority)
            {
                if (Read(ServerFile) is { } known && IsOf(known, authority) && Certificates.IsGood(known, names, addresses, now))
                {
                    return shown = known;
                }

                var made = Certificates.Make(authority, names, addresses, now);
                Write(ServerFile, made);
                return shown = Read(ServerFile)!;
            }
        }
    }

    private static bool IsOf(X509Certificate2 certificate, X509Certificate2 authority) =>
        certificate.IssuerName.RawData.SequenceEqual(authority.SubjectName.RawData)
        && certificate
            .Extensions.OfType<X509AuthorityKeyIdentifierExtension>()
            .Any(one =>
                one.KeyIdentifier is { } id
                && authority
                    .Extensions.OfType<X509SubjectKeyIdentifierExtension>()
                    .Any(key => key.SubjectKeyIdentifierBytes.Span.SequenceEqual(id.Span))
            );

    private static X509Certificate2 ReadOwn(string file, string? keyFile, string? password)
    {
        try
        {
            if (Path.GetExtension(file).ToUpperInvariant() is ".PFX" or ".P12")
            {
                return X509CertificateLoader.LoadPkcs12FromFile(file, password);
            }

            using var read = password is null
                ? X509Certificate2.CreateFromPemFile(file, keyFile)
                : X509Certificate2.CreateFromEncryptedPemFile(file, password, keyFile);
            return X509CertificateLoader.LoadPkcs12(read.Export(X509ContentType.Pfx), null);
        }
        catch (Exception error) when (error is CryptographicException or IOException or UnauthorizedAccessException or ArgumentException)
        {
            throw new StorageException(
                $"The certificate {file} cannot be used: {error.Message} Name a PEM or PFX file in GRADUS_CERTIFICATE, its key in GRADUS_CERTIFICATE_KEY and its password in GRADUS_CERTIFICATE_PASSWORD.",
                error
            );
        }
    }

    private X509Certificate2? Read(string name)
    {
        var file = Path.Combine(Folder, name);
        return File.Exists(file) ? X509CertificateLoader.LoadPkcs12FromFile(file, null, X509KeyStorageFlags.Exportable) : null;
    }

    private void Write(string name, X509Certificate2 certificate)
    {
        Directory.CreateDirectory(Folder);
        var file = Path.Combine(Folder, name);
        var how = new FileStreamOptions { Mode = FileMode.Create, Access = FileAccess.Write };
        if (!OperatingSystem.IsWindows())
        {
            File.SetUnixFileMode(Folder, UnixFileMode.UserRead | UnixFileMode.UserWrite | UnixFileMode.UserExecute);
            how.UnixCreateMode = UnixFileMode.UserRead | UnixFileMode.UserWrite;
        }

        using var target = new FileStream(file, how);
        target.Write(certificate.Export(X509ContentType.Pfx));
    }
}
