using System.Formats.Asn1;
using System.Net;
using System.Net.NetworkInformation;
using System.Net.Sockets;
using System.Security.Cryptography;
using System.Security.Cryptography.X509Certificates;

namespace Gradus.Server.Network;

/// <summary>
/// A local authority for the shop's network, and certificates that it gives. The authority may speak for the machine's names and for private
/// addresses only (name constraints, RFC 5280 4.2.1.10), so that a tablet that trusts it trusts it for nothing else.
/// </summary>
public static class Certificates
{
    /// <summary>As long as browsers take a server certificate of a local authority without complaint, with room: 825 days at most.</summary>
    public static readonly TimeSpan Lasts = TimeSpan.FromDays(390);

    /// <summary>A certificate is made anew when less than this is left of it.</summary>
    public static readonly TimeSpan RenewBefore = TimeSpan.FromDays(30);

    private const int AuthorityYears = 10;
    private const string NameConstraintsOid = "2.5.29.30";
    private const string ServerAuthOid = "1.3.6.1.5.5.7.3.1";
    private const int SerialBytes = 16;

    /// <summary>The ranges of private and link-local addresses (RFC 1918, 3927, 4193, 4291), and this machine itself.</summary>
    private static readonly IPNetwork[] Private =
    [
        IPNetwork.Parse("10.0.0.0/8"),
        IPNetwork.Parse("172.16.0.0/12"),
        IPNetwork.Parse("192.168.0.0/16"),
        IPNetwork.Parse("169.254.0.0/16"),
        IPNetwork.Parse("127.0.0.0/8"),
        IPNetwork.Parse("fc00::/7"),
        IPNetwork.Parse("fe80::/10"),
        IPNetwork.Parse("::1/128"),
    ];

    /// <summary>A new authority that may speak for these names and for private addresses.</summary>
    public static X509Certificate2 MakeAuthority(string school, IReadOnlyCollection<string> names, DateTimeOffset now)
    {
        using var key = ECDsa.Create(ECCurve.NamedCurves.nistP256);
        var request = new CertificateRequest(Name($"Gradus of {school}"), key, HashAlgorithmName.SHA256);
        request.CertificateExtensions.Add(new X509BasicConstraintsExtension(true, true, 0, true));
        request.CertificateExtensions.Add(new X509KeyUsageExtension(X509KeyUsageFlags.KeyCertSign | X509KeyUsageFlags.CrlSign, true));
        request.CertificateExtensions.Add(new X509SubjectKeyIdentifierExtension(request.PublicKey, false));
        request.CertificateExtensions.Add(new X509Extension(NameConstraintsOid, Permitted(names), true));
        return request.CreateSelfSigned(now.AddDays(-1), now.AddYears(AuthorityYears));
    }

    /// <summary>A certificate for the names and addresses at which the server is reached.</summary>
    public static X509Certificate2 Make(
        X509Certificate2 authority,
        IReadOnlyCollection<string> names,
        IReadOnlyCollection<IPAddress> addresses,
        DateTimeOffset now
    )
    {
        using var key = ECDsa.Create(ECCurve.NamedCurves.nistP256);
        var request = new CertificateRequest(Name(names.First()), key, HashAlgorithmName.SHA256);
        var where = new SubjectAlternativeNameBuilder();
        foreach (var name in names)
        {
            where.AddDnsName(name);
        }

        foreach (var address in addresses.Where(IsPrivate))
        {
            where.AddIpAddress(address);
        }

        request.CertificateExtensions.Add(where.Build());
        request.CertificateExtensions.Add(new X509BasicConstraintsExtension(false, false, 0, true));
        request.CertificateExtensions.Add(new X509KeyUsageExtension(X509KeyUsageFlags.DigitalSignature, true));
        request.CertificateExtensions.Add(new X509EnhancedKeyUsageExtension([new Oid(ServerAuthOid)], false));
        request.CertificateExtensions.Add(X509AuthorityKeyIdentifierExtension.CreateFromCertificate(authority, true, false));
        var end = now + Lasts;
        var serial = RandomNumberGenerator.GetBytes(SerialBytes);
        serial[0] &= 0x7f; // a positive number
        using var bare = request.Create(authority, now.AddDays(-1), end < authority.NotAfter ? end : authority.NotAfter.AddDays(-1), serial);
        return bare.CopyWithPrivateKey(key);
    }

    /// <summary>Whether a certificate is good for these names and addresses for a while yet.</summary>
    public static bool IsGood(X509Certificate2 certificate, IEnumerable<string> names, IEnumerable<IPAddress> addresses, DateTimeOffset now)
    {
        var where = certificate.Extensions.OfType<X509SubjectAlternativeNameExtension>().FirstOrDefault();
        return where is not null
            && certificate.NotAfter - now > RenewBefore
            && !names.Except(where.EnumerateDnsNames(), StringComparer.OrdinalIgnoreCase).Any()
            && !addresses.Where(IsPrivate).Except(where.EnumerateIPAddresses()).Any();
    }

    /// <summary>The names of this machine, and whatever else it is to be called by.</summary>
    public static IReadOnlyList<string> Names(IEnumerable<string> more)
    {
        var host = Dns.GetHostName().ToLowerInvariant();
        return
        [
            .. new[] { host, host.Contains('.') ? host.Split('.')[0] : $"{host}.local", "localhost" }
                .Concat(more.Select(one => one.Trim().ToLowerInvariant()))
                .Where(one => Uri.CheckHostName(one) == UriHostNameType.Dns)
                .Distinct(),
        ];
    }

    /// <summary>The addresses at which this machine is reached now.</summary>
    public static IReadOnlyList<IPAddress> Addresses() =>
        [
            .. NetworkInterface
                .GetAllNetworkInterfaces()
                .Where(one => one.OperationalStatus == OperationalStatus.Up || one.NetworkInterfaceType == NetworkInterfaceType.Loopback)
                .SelectMany(one => one.GetIPProperties().UnicastAddresses)
                .Select(one => one.Address.AddressFamily == AddressFamily.InterNetworkV6 ? new IPAddress(one.Address.GetAddressBytes()) : one.Address)
                .Append(IPAddress.Loopback)
                .Append(IPAddress.IPv6Loopback)
                .Distinct()
                .OrderBy(one => one.AddressFamily != AddressFamily.InterNetwork)
                .ThenBy(one => one.ToString(), StringComparer.Ordinal),
        ];

    private static bool IsPrivate(IPAddress address) => Private.Any(range => range.Contains(address));

    private static X500DistinguishedName Name(string name)
    {
        const int MostCharacters = 64; // X.520 ub-common-name
        var builder = new X500DistinguishedNameBuilder();
        builder.AddCommonName(name.Length <= MostCharacters ? name : name[..MostCharacters]);
        return builder.Build();
    }

    // NameConstraints ::= SEQUENCE { permittedSubtrees [0] SEQUENCE OF GeneralSubtree }, each with a dNSName [2] or an iPAddress [7] with its mask.
    private static byte[] Permitted(IEnumerable<string> names)
    {
        var writer = new AsnWriter(AsnEncodingRules.DER);
        using (writer.PushSequence())
        using (writer.PushSequence(new Asn1Tag(TagClass.ContextSpecific, 0)))
        {
            foreach (var name in names)
            {
                using (writer.PushSequence())
                {
                    writer.WriteCharacterString(UniversalTagNumber.IA5String, name, new Asn1Tag(TagClass.ContextSpecific, 2));
                }
            }

            foreach (var range in Private)
            {
                using (writer.PushSequence())
                {
                    writer.WriteOctetString([.. range.BaseAddress.GetAddressBytes(), .. Mask(range)], new Asn1Tag(TagClass.ContextSpecific, 7));
                }
            }
        }

        return writer.Encode();
    }

    private static byte[] Mask(IPNetwork range)
    {
        var mask = new byte[range.BaseAddress.GetAddressBytes().Length];
        for (var bit = 0; bit < range.PrefixLength; bit++)
        {
            mask[bit / 8] |= (byte)(0x80 >> (bit % 8));
        }

        return mask;
    }
}
