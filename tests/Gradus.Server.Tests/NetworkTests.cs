using System.Net;
using System.Security.Cryptography;
using System.Security.Cryptography.X509Certificates;
using Gradus.Server.Hosting;
using Gradus.Server.Network;
using Microsoft.AspNetCore.Builder;
using Microsoft.AspNetCore.Hosting;
using Microsoft.AspNetCore.Http;
using Microsoft.Extensions.DependencyInjection;
using Microsoft.Extensions.Time.Testing;

namespace Gradus.Server.Tests;

/// <summary>
/// The local authority, its certificates, and what goes over HTTP from elsewhere. Chains are checked by the platform's own verifier (OpenSSL), which
/// keeps to RFC 5280.
/// </summary>
public sealed class NetworkTests
{
    private static readonly DateTimeOffset Now = DateTimeOffset.UtcNow;
    private static readonly string[] Names = ["shop", "shop.local", "localhost"];
    private static readonly IPAddress[] Addresses = [IPAddress.Parse("192.168.20.5"), IPAddress.Loopback];

    private static X509ChainStatusFlags Check(X509Certificate2 certificate, X509Certificate2 authority)
    {
        using var chain = new X509Chain();
        chain.ChainPolicy.TrustMode = X509ChainTrustMode.CustomRootTrust;
        chain.ChainPolicy.CustomTrustStore.Add(authority);
        chain.ChainPolicy.RevocationMode = X509RevocationMode.NoCheck;
        chain.ChainPolicy.ApplicationPolicy.Add(new Oid("1.3.6.1.5.5.7.3.1"));
        chain.Build(certificate);
        return chain.ChainStatus.Aggregate(X509ChainStatusFlags.NoError, (all, one) => all | one.Status);
    }

    [Fact]
    public void A_certificate_of_the_authority_is_good_for_the_machine_and_for_no_longer_than_browsers_take()
    {
        using var authority = Certificates.MakeAuthority("Test school", Names, Now);
        using var server = Certificates.Make(authority, Names, Addresses, Now);
        Assert.Equal(X509ChainStatusFlags.NoError, Check(server, authority));
        Assert.True(server.HasPrivateKey);
        Assert.True(server.MatchesHostname("shop.local"));
        Assert.True(server.MatchesHostname("192.168.20.5"));
        Assert.False(server.MatchesHostname("192.168.20.6"));
        Assert.True(server.NotAfter - server.NotBefore <= TimeSpan.FromDays(825)); // as browsers take it of a local authority, from memory
        Assert.True(authority.NotAfter > Now.AddYears(9));
    }

    [Theory]
    [InlineData("bank.example", null)]
    [InlineData("shop.example", null)]
    [InlineData(null, "93.184.216.34")]
    [InlineData(null, "2606:2800:220:1::1")]
    public void The_authority_speaks_for_nobody_outside_the_shop(string? name, string? address)
    {
        using var authority = Certificates.MakeAuthority("Test school", Names, Now);
        using var key = ECDsa.Create(ECCurve.NamedCurves.nistP256);
        var request = new CertificateRequest("CN=x", key, HashAlgorithmName.SHA256);
        var where = new SubjectAlternativeNameBuilder();
        if (name is not null)
        {
            where.AddDnsName(name);
        }
        else
        {
            where.AddIpAddress(IPAddress.Parse(address!));
        }

        request.CertificateExtensions.Add(where.Build());
        request.CertificateExtensions.Add(new X509EnhancedKeyUsageExtension([new Oid("1.3.6.1.5.5.7.3.1")], false));
        using var forged = request.Create(authority, Now.AddDays(-1), Now.AddDays(90), [1, 2, 3]);
        Assert.NotEqual(X509ChainStatusFlags.NoError, Check(forged, authority));
    }

    [Fact]
    public void A_public_address_of_the_machine_is_left_out_and_what_changed_asks_for_a_new_certificate()
    {
        using var authority = Certificates.MakeAuthority("Test school", Names, Now);
        var addresses = Addresses.Append(IPAddress.Parse("93.184.216.34")).ToList();
        using var server = Certificates.Make(authority, Names, addresses, Now);
        Assert.Equal(X509ChainStatusFlags.NoError, Check(server, authority));
        Assert.True(Certificates.IsGood(server, Names, addresses, Now));
        Assert.False(Certificates.IsGood(server, Names.Append("press"), addresses, Now));
        Assert.False(Certificates.IsGood(server, Names, addresses.Append(IPAddress.Parse("10.0.0.7")), Now));
        Assert.True(Certificates.IsGood(server, Names, addresses, Now.AddDays(300)));
        Assert.False(Certificates.IsGood(server, Names, addresses, Now.AddDays(365)));
    }

    [Fact]
    public void It_is_kept_renewed_by_itself_and_readable_by_its_owner_only()
    {
        var folder = Directory.CreateTempSubdirectory("gradus-").FullName;
        var clock = new FakeTimeProvider(Now);
        var store = new CertificateStore(new GradusOptions("127.0.0.1", 0, folder, false), clock);
        var first = store.Renew();
        Assert.Equal(first.Thumbprint, store.Renew().Thumbprint);
        Assert.Equal(first.Thumbprint, new CertificateStore(new GradusOptions("127.0.0.1", 0, folder, false), clock).Shown.Thumbprint);
        using var authority = X509CertificateLoader.LoadCertificate(store.Authority!);
        Assert.False(authority.HasPrivateKey);
        clock.Advance(TimeSpan.FromDays(370));
        var second = store.Renew();
        Assert.NotEqual(first.Thumbprint, second.Thumbprint);
        using var same = X509CertificateLoader.LoadCertificate(store.Authority!);
        Assert.Equal(authority.Thumbprint, same.Thumbprint); // tablets go on trusting it
        Assert.All(
            Directory.GetFiles(store.Folder),
            file => Assert.True(OperatingSystem.IsWindows() || File.GetUnixFileMode(file) == (UnixFileMode.UserRead | UnixFileMode.UserWrite))
        );
    }

    [Theory]
    [InlineData(true)]
    [InlineData(false)]
    public void A_certificate_of_the_schools_own_is_taken_and_one_that_cannot_be_read_says_so(bool pem)
    {
        var folder = Directory.CreateTempSubdirectory("gradus-").FullName;
        using var authority = Certificates.MakeAuthority("Elsewhere", Names, Now);
        using var own = Certificates.Make(authority, Names, Addresses, Now);
        var file = Path.Combine(folder, pem ? "own.pem" : "own.pfx");
        var key = Path.Combine(folder, "own.key");
        if (pem)
        {
            File.WriteAllText(file, own.ExportCertificatePem());
            File.WriteAllText(key, own.GetECDsaPrivateKey()!.ExportPkcs8PrivateKeyPem());
        }
        else
        {
            File.WriteAllBytes(file, own.Export(X509ContentType.Pfx, "secret"));
        }

        GradusOptions Options(string? password) =>
            new("127.0.0.1", 0, folder, false)
            {
                Certificate = file,
                CertificateKey = pem ? key : null,
                CertificatePassword = password,
            };
        var shown = new CertificateStore(Options(pem ? null : "secret"), TimeProvider.System).Shown;
        Assert.Equal(own.Thumbprint, shown.Thumbprint);
        Assert.True(shown.HasPrivateKey);
        var wrong = Assert.Throws<StorageException>(() => new CertificateStore(Options("wrong"), TimeProvider.System).Renew());
        Assert.Contains("GRADUS_CERTIFICATE", wrong.Message, StringComparison.Ordinal);
    }

    /// <summary>Lets a test say from where it asks.</summary>
    private sealed class From : IStartupFilter
    {
        public const string Header = "X-Test-From";

        public Action<IApplicationBuilder> Configure(Action<IApplicationBuilder> next) =>
            app =>
            {
                app.Use(
                    (context, go) =>
                    {
                        if (context.Request.Headers[Header].FirstOrDefault() is { } from)
                        {
                            context.Connection.RemoteIpAddress = IPAddress.Parse(from);
                        }

                        return go(context);
                    }
                );
                next(app);
            };
    }

    [Fact]
    public async Task From_elsewhere_over_http_nothing_of_the_school_is_answered_and_every_page_leads_on()
    {
        await using var server = new RunningServer { Filter = new From() };
        var known = RightsTests.Operations(server);
        var here = await server.SignedIn();
        here.DefaultRequestHeaders.Add(From.Header, "192.168.20.9");
        var let = new List<string>();
        foreach (var one in known.Where(one => one.Path.StartsWith("/api/", StringComparison.Ordinal)))
        {
            if (await RightsTests.Ask(here, one) is not 403 and var status)
            {
                let.Add($"{one.Method} {one.Path}: {status}");
            }
        }

        Assert.Empty(let);
        foreach (var path in (string[])["/", "/coupons/1", "/moved.html"])
        {
            var answer = await here.GetAsync(path);
            Assert.True(answer.StatusCode is HttpStatusCode.OK or HttpStatusCode.NotFound); // without a built interface there is no page
        }

        Assert.Equal(HttpStatusCode.OK, (await here.GetAsync("/network.json")).StatusCode);
    }

    [Theory]
    [InlineData("127.0.0.1", true)]
    [InlineData("192.168.7.7", true)]
    [InlineData("localhost", true)]
    [InlineData("shop.press.example", false)]
    public async Task Names_that_nobody_gave_this_machine_are_refused_and_addresses_are_not(string host, bool isKnown)
    {
        await using var server = new RunningServer();
        var client = server.CreateClient();
        var request = new HttpRequestMessage(HttpMethod.Get, "/api/session");
        request.Headers.Host = host;
        var answer = await client.SendAsync(request);
        Assert.Equal(isKnown ? HttpStatusCode.OK : HttpStatusCode.MisdirectedRequest, answer.StatusCode);
    }

    [Fact]
    public async Task Every_answer_says_what_a_browser_is_to_keep_to()
    {
        await using var server = new RunningServer();
        var client = await server.SignedIn();
        var answer = await client.GetAsync("/api/floor");
        string Of(string name) => string.Join(",", answer.Headers.TryGetValues(name, out var values) ? values : []);
        Assert.Equal("nosniff", Of("X-Content-Type-Options"));
        Assert.Equal("frame-ancestors 'none'", Of("Content-Security-Policy"));
        Assert.Equal("same-origin", Of("Referrer-Policy"));
        Assert.Contains("geolocation=()", Of("Permissions-Policy"), StringComparison.Ordinal);
        Assert.Equal("no-store", Of("Cache-Control"));
        Assert.Empty(Of("Server"));
    }
}
