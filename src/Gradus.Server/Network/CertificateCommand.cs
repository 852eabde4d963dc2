using System.Security.Cryptography.X509Certificates;
using Gradus.Server.Hosting;

namespace Gradus.Server.Network;

/// <summary><c>certificate</c>: makes the local authority and the server's certificate, or says what there is.</summary>
public static class CertificateCommand
{
    public static bool IsAsked(string[] args) => args is ["certificate"];

    public static int Run()
    {
        var options = GradusOptions.FromEnvironment();
        try
        {
            var store = new CertificateStore(options, TimeProvider.System);
            using var shown = store.Renew();
            var where = shown.Extensions.OfType<X509SubjectAlternativeNameExtension>().FirstOrDefault();
            Console.WriteLine($"Good until {shown.NotAfter.ToUniversalTime():yyyy-MM-dd}, and made anew by itself before that. It is for:");
            foreach (var name in (where?.EnumerateDnsNames() ?? []).Concat(where?.EnumerateIPAddresses().Select(one => one.ToString()) ?? []))
            {
                Console.WriteLine($"  {name}");
            }

            Console.WriteLine(
                options.Certificate is not null
                    ? "It is the school's own."
                    : $"The authority lies in {store.Folder}. A tablet learns of it from the page at http://THIS-MACHINE:{options.Port}/ when GRADUS_HOST opens it to the shop."
            );
            Console.WriteLine(
                options.HttpsPort is { } port
                    ? $"The shop is served at https://THIS-MACHINE:{port}/."
                    : "Set GRADUS_HTTPS_PORT to serve the shop, and GRADUS_HOST=0.0.0.0 to open the page that brings the authority."
            );
            return ExitCodes.Fine;
        }
        catch (Exception error) when (error is StorageException or IOException or UnauthorizedAccessException)
        {
            Console.Error.WriteLine(error.Message);
            return ExitCodes.StorageIll;
        }
    }
}
