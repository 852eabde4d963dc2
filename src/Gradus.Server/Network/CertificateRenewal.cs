namespace Gradus.Server.Network;

/// <summary>Looks twice a day whether the certificate is still good, and has it made anew when it is not.</summary>
public sealed partial class CertificateRenewal(CertificateStore store, TimeProvider time, ILogger<CertificateRenewal> log) : BackgroundService
{
    private static readonly TimeSpan Every = TimeSpan.FromHours(12);

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        using var timer = new PeriodicTimer(Every, time);
        while (await timer.WaitForNextTickAsync(stoppingToken))
        {
            try
            {
                store.Renew();
            }
#pragma warning disable CA1031 // The one that is shown goes on; it is tried again.
            catch (Exception error)
#pragma warning restore CA1031
            {
                Failed(log, error);
            }
        }
    }

    [LoggerMessage(LogLevel.Error, "The certificate could not be made anew.")]
    private static partial void Failed(ILogger log, Exception error);
}
