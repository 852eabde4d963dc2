using System.Globalization;
using System.Net;
using System.Net.Http.Json;
using System.Text.Json;

namespace Gradus.Server.Hosting;

/// <summary><c>health [--wait SECONDS] [--pid PID]</c>: whether this very program serves here and is well; and <c>version</c>.</summary>
public static class HealthCommand
{
    private static readonly TimeSpan Patience = TimeSpan.FromSeconds(5);
    private static readonly TimeSpan Pause = TimeSpan.FromMilliseconds(300);

    public static bool IsAsked(string[] args) => args is ["health" or "version", ..];

    /// <summary>Runs the command; the answer is the program's exit code.</summary>
    public static async Task<int> Run(string[] args)
    {
        switch (args)
        {
            case ["version"]:
                Console.WriteLine(ThisProgram.Version);
                return ExitCodes.Fine;
            case ["health"]:
                return await Wait(TimeSpan.Zero, null);
            case ["health", "--wait", var seconds] when Whole(seconds) is { } wait:
                return await Wait(TimeSpan.FromSeconds(wait), null);
            case ["health", "--pid", var pid] when Whole(pid) is not null:
                return await Wait(TimeSpan.Zero, null);
            case ["health", "--wait", var seconds, "--pid", var pid] when Whole(seconds) is { } wait && Whole(pid) is { } process:
                return await Wait(TimeSpan.FromSeconds(wait), process);
            default:
                await Console.Error.WriteLineAsync("health [--wait SECONDS] [--pid PID]");
                return ExitCodes.Misused;
        }
    }

    private static async Task<int> Wait(TimeSpan atMost, int? process)
    {
        var options = GradusOptions.FromEnvironment();
        using var client = new HttpClient { Timeout = Patience };
        var began = TimeProvider.System.GetTimestamp();
        while (true)
        {
            var (isWell, says) = await Ask(client, new Uri($"http://{Reached(options.Host)}:{options.Port}/api/health"));
            if (isWell)
            {
                Console.WriteLine(says);
                return ExitCodes.Fine;
            }

            if (process is { } one && !Directory.Exists($"/proc/{one}"))
            {
                await Console.Error.WriteLineAsync("The program has ended.");
                return ExitCodes.Differs;
            }

            if (TimeProvider.System.GetElapsedTime(began) >= atMost)
            {
                await Console.Error.WriteLineAsync(says);
                return ExitCodes.Differs;
            }

            await Task.Delay(Pause);
        }
    }

    private static async Task<(bool IsWell, string Says)> Ask(HttpClient client, Uri address)
    {
        try
        {
            using var answer = await client.GetAsync(address);
            if (!answer.IsSuccessStatusCode)
            {
                var problem = await answer.Content.ReadFromJsonAsync<JsonElement>();
                return (
                    false,
                    problem.TryGetProperty("title", out var title)
                        ? $"Gradus is not well: {title.GetString()}"
                        : $"{address} says {(int)answer.StatusCode}."
                );
            }

            var health = (await answer.Content.ReadFromJsonAsync<HealthView>())!;
            return health.Version == ThisProgram.Version
                ? (true, $"Gradus {health.Version} answers well.")
                : (false, $"Another one answers at {address}: Gradus {health.Version}, not {ThisProgram.Version}.");
        }
        catch (Exception error) when (error is HttpRequestException or TaskCanceledException or JsonException)
        {
            return (false, $"Nothing answers at {address}.");
        }
    }

    /// <summary>Where this machine reaches what listens on an address.</summary>
    private static string Reached(string host) =>
        !IPAddress.TryParse(host, out var address) || IPAddress.Any.Equals(address) || IPAddress.IPv6Any.Equals(address) ? "127.0.0.1"
        : address.AddressFamily == System.Net.Sockets.AddressFamily.InterNetworkV6 ? $"[{address}]"
        : host;

    private static int? Whole(string text) => int.TryParse(text, NumberStyles.None, CultureInfo.InvariantCulture, out var number) ? number : null;
}
