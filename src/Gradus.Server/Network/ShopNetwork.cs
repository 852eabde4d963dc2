using System.Net;
using Gradus.Server.Hosting;
using Microsoft.AspNetCore.Server.Kestrel.Core;

namespace Gradus.Server.Network;

/// <summary>Where the shop is served over HTTPS, and whether a tablet has to learn of the authority first.</summary>
public sealed record WayIn(int? HttpsPort, bool HasAuthority);

/// <summary>
/// What goes over the shop's network. Everything over HTTPS; over HTTP everything on this machine, and from elsewhere only the page that brings the
/// authority to a tablet, takes along what waits in it, and leads on.
/// </summary>
public static class ShopNetwork
{
    /// <summary>The authority, as a tablet takes it.</summary>
    public const string AuthorityPath = "/authority.crt";
    private const string WayInPath = "/network.json";
    private const string MovedPage = "/moved.html";

    private static readonly string[] OpenWithoutHttps = [AuthorityPath, WayInPath, MovedPage, "/moved.js", "/moved.css", "/icon.svg"];

    /// <summary>Listens on both ports, where the shop is served.</summary>
    public static void Listen(KestrelServerOptions kestrel, GradusOptions options)
    {
        if (options.HttpsPort is not { } port)
        {
            return;
        }

        if (string.Equals(options.Host, "localhost", StringComparison.OrdinalIgnoreCase))
        {
            kestrel.ListenLocalhost(options.Port);
        }
        else if (IPAddress.TryParse(options.Host, out var address))
        {
            kestrel.Listen(address, options.Port);
        }
        else
        {
            kestrel.ListenAnyIP(options.Port);
        }

        kestrel.ListenAnyIP(
            port,
            listen =>
                listen.UseHttps(https =>
                    https.ServerCertificateSelector = (_, _) => listen.ApplicationServices.GetRequiredService<CertificateStore>().Shown
                )
        );
    }

    /// <summary>Names that are known, headers that a browser keeps to, and no PIN in clear across the shop.</summary>
    public static void UseShopNetwork(this WebApplication app)
    {
        var options = app.Services.GetRequiredService<GradusOptions>();
        var names = Certificates.Names(options.Names).ToHashSet(StringComparer.OrdinalIgnoreCase);
        app.Use(
            async (context, next) =>
            {
                var headers = context.Response.Headers;
                headers.XContentTypeOptions = "nosniff";
                headers["Referrer-Policy"] = "same-origin";
                headers["Permissions-Policy"] = "camera=(self), microphone=(), geolocation=(), payment=(), usb=()";
                headers.ContentSecurityPolicy = "frame-ancestors 'none'"; // the rest stands in the page, with the hashes of its own scripts
                if (context.Request.Path.StartsWithSegments("/api"))
                {
                    headers.CacheControl = "no-store"; // what is kept for a day without a network is kept by the page, and goes with its reader
                }

                if (!IsKnown(context.Request.Host.Host, names))
                {
                    await Refusal
                        .Of(
                            StatusCodes.Status421MisdirectedRequest,
                            "This machine does not go by that name.",
                            "host",
                            "Name it in GRADUS_NAMES, or use the machine's address."
                        )
                        .ToResult()
                        .ExecuteAsync(context);
                    return;
                }

                if (context.Request.IsHttps || IsHere(context.Connection.RemoteIpAddress))
                {
                    await next(context);
                    return;
                }

                if (context.Request.Path.StartsWithSegments("/api"))
                {
                    await Refusal
                        .Of(
                            StatusCodes.Status403Forbidden,
                            "Over HTTPS only.",
                            "scheme",
                            "Nothing of the school goes over the shop's network in clear."
                        )
                        .ToResult()
                        .ExecuteAsync(context);
                    return;
                }

                if (!OpenWithoutHttps.Contains(context.Request.Path.Value, StringComparer.Ordinal))
                {
                    context.Request.Path = MovedPage;
                    context.SetEndpoint(null); // a file from here on, whatever the path would have led to
                }

                await next(context);
            }
        );
    }

    /// <summary>The page that brings the authority, and its code for a tablet's camera.</summary>
    public static void MapShopNetwork(this IEndpointRouteBuilder routes)
    {
        routes
            .MapGet(
                AuthorityPath,
                (CertificateStore store, GradusOptions options) =>
                    options.Certificate is null && store.Authority is { } authority
                        ? Results.File(authority, "application/x-x509-ca-cert", "gradus-authority.crt")
                        : Refusal.NotFound("path", "There is no local authority here: the school shows a certificate of its own.").ToResult()
            )
            .ExcludeFromDescription();
        routes
            .MapGet(
                WayInPath,
                (CertificateStore store, GradusOptions options) =>
                    TypedResults.Ok(new WayIn(options.HttpsPort, options.Certificate is null && store.Authority is not null))
            )
            .ExcludeFromDescription();
        routes
            .MapGet("/api/school/way-in.svg", Code)
            .WithTags("School")
            .Produces(StatusCodes.Status200OK, contentType: "image/svg+xml")
            .ProducesProblem(StatusCodes.Status404NotFound);
    }

    private static IResult Code(GradusOptions options)
    {
        if (options.HttpsPort is null || Certificates.Addresses().FirstOrDefault(one => !IPAddress.IsLoopback(one)) is not { } address)
        {
            return Refusal.NotFound("path", "The shop is served once GRADUS_HTTPS_PORT is set and this machine is in a network.").ToResult();
        }

        return TypedResults.Text(QrPicture.Of(new UriBuilder("http", $"{address}", options.Port).Uri.ToString()), "image/svg+xml");
    }

    private static bool IsHere(IPAddress? address) =>
        address is null || IPAddress.IsLoopback(address.IsIPv4MappedToIPv6 ? address.MapToIPv4() : address);

    private static bool IsKnown(string host, HashSet<string> names) => IPAddress.TryParse(host.Trim('[', ']'), out _) || names.Contains(host);
}
