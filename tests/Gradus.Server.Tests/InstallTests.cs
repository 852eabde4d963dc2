using System.Diagnostics;
using System.Globalization;
using System.Net;
using System.Net.Http.Json;
using System.Net.Sockets;
using System.Text.Json;

namespace Gradus.Server.Tests;

/// <summary>
/// The installer, as it is packed, in one folder: it installs, updates, and goes back when what is new does not answer well. The program is the one
/// that was built for these tests; that a self-contained one runs is tried where one is made.
/// </summary>
public sealed class InstallTests : IAsyncLifetime
{
    private static readonly string Root = Path.GetFullPath(Path.Combine(AppContext.BaseDirectory, "../../../../.."));
    private readonly string folder = Directory.CreateTempSubdirectory("gradus-install-").FullName;
    private readonly HttpClient client = new();
    private int port;

    private static string Machine => System.Runtime.InteropServices.RuntimeInformation.OSArchitecture.ToString().ToLowerInvariant();

    private string Installed => Path.Combine(folder, "here");

    private string Data => Path.Combine(Installed, "data");

    public ValueTask InitializeAsync()
    {
        using var probe = new TcpListener(IPAddress.Loopback, 0);
        probe.Start();
        port = ((IPEndPoint)probe.LocalEndpoint).Port;
        client.BaseAddress = new Uri($"http://127.0.0.1:{port}");
        Directory.CreateDirectory(Installed);
        File.WriteAllText(
            Path.Combine(Installed, "gradus.conf"),
            $"# A school's own\nGRADUS_HOST=127.0.0.1\nGRADUS_PORT={port}\nGRADUS_DATA=\"{Data}\"\nGRADUS_BACKUP_PASSPHRASE='$HOME and #1'\n"
        );
        return ValueTask.CompletedTask;
    }

    public async ValueTask DisposeAsync()
    {
        await Run(Path.Combine(Installed, "gradus"), "stop");
        client.Dispose();
        Directory.Delete(folder, recursive: true);
    }

    [Fact]
    public async Task It_installs_updates_and_goes_back_to_the_school_as_it_was_when_the_new_one_does_not_answer()
    {
        var (code, says) = await Install(await Package("1.0", null));
        Assert.True(code == 0, says);
        Assert.Contains("Gradus 1.0 runs", says, StringComparison.Ordinal);
        await SetUp("First");
        Assert.Equal("-rw-------", Mode(Path.Combine(Data, "gradus.db")));
        Assert.Equal("drwx------", Mode(Data));

        // The same once more changes nothing.
        Assert.Contains("installed already", (await Install(Path.Combine(folder, "1.0"))).Says, StringComparison.Ordinal);

        (code, says) = await Install(await Package("2.0", null));
        Assert.True(code == 0, says);
        await IsStill("First", "2.0");
        Assert.Single(Directory.GetFiles(Path.Combine(Data, "backups", "updates"), "gradus-*.zip"));
        Assert.Equal(["1.0", "2.0"], Releases());

        // One that ends at once: the one before is back, and what it had done is not touched.
        (code, says) = await Install(await Package("3.0", "exit 1"));
        Assert.True(code == 1, says);
        Assert.Contains("2.0 runs as before", says, StringComparison.Ordinal);
        await IsStill("First", "2.0");
        Assert.Equal(["1.0", "2.0"], Releases());
        Assert.Empty(Directory.GetDirectories(Data, "replaced-*"));

        // One that changes the database so that the one before cannot read it, and then does not answer: the backup is put back.
        (code, says) = await Install(await Package("4.0", $"echo of-a-later-gradus >\"{Data}/gradus.db\"; sleep 100"));
        Assert.True(code == 1, says);
        Assert.Contains("Restored.", says, StringComparison.Ordinal);
        await IsStill("First", "2.0");
        Assert.Equal("-rw-------", Mode(Path.Combine(Data, "gradus.db")));

        // A package that came off its stick damaged, and one for another machine: nothing is touched.
        var damaged = await Package("5.0", null);
        await File.AppendAllTextAsync(Path.Combine(damaged, "app", "appsettings.json"), " ", TestContext.Current.CancellationToken);
        Assert.Contains("not whole", (await Install(damaged)).Says, StringComparison.Ordinal);
        Assert.Contains("this package is for mips", (await Install(await Package("6.0", null, "mips"))).Says, StringComparison.Ordinal);
        await IsStill("First", "2.0");
    }

    private async Task SetUp(string school) =>
        (
            await client.PostAsJsonAsync(
                "/api/setup",
                new
                {
                    schoolName = school,
                    timeZone = "Europe/Oslo",
                    instructorName = "Lead",
                    pin = "4711",
                    booths = 2,
                }
            )
        ).EnsureSuccessStatusCode();

    private async Task IsStill(string school, string version)
    {
        var session = await client.GetFromJsonAsync<JsonElement>("/api/session");
        Assert.Equal(school, session.GetProperty("school").GetProperty("name").GetString());
        Assert.Equal($"releases/{version}", new FileInfo(Path.Combine(Installed, "program", "current")).LinkTarget);
        Assert.Contains("answers well", (await Run(Path.Combine(Installed, "gradus"), "health")).Says, StringComparison.Ordinal);
    }

    private string[] Releases() =>
        [
            .. Directory
                .GetDirectories(Path.Combine(Installed, "program", "releases"))
                .Select(one => Path.GetFileName(one))
                .Order(StringComparer.Ordinal),
        ];

    /// <summary>A package; with a script, its program says its version and then does what the script says.</summary>
    private async Task<string> Package(string version, string? script, string? architecture = null)
    {
        var package = Path.Combine(folder, version);
        var app = Path.Combine(package, "app");
        Directory.CreateDirectory(package);
        if (script is null)
        {
            // Of what was built for every kind of machine, what this one runs.
            var built = Path.Combine(Root, "src/Gradus.Server/bin/Release/net10.0");
            Directory.CreateDirectory(app);
            await Run(
                "sh",
                "-c",
                "cd \"$1\" && cp Gradus.Server *.dll *.json \"$2\" && cp --parents -R runtimes/\"$3\" \"$2\"",
                "sh",
                built,
                app,
                $"linux-{Machine}"
            );
        }
        else
        {
            Directory.CreateDirectory(app);
            var program = Path.Combine(app, "Gradus.Server");
            await File.WriteAllTextAsync(
                program,
                $"#!/bin/sh\n[ \"$1\" = version ] && exit\n[ \"$1\" = health ] && {{ sleep 2; exit 1; }}\n{script}\n"
            );
            File.SetUnixFileMode(program, UnixFileMode.UserRead | UnixFileMode.UserWrite | UnixFileMode.UserExecute);
        }

        var (code, says) = await Run(Path.Combine(Root, "scripts/assemble.sh"), package, version, architecture ?? Machine);
        Assert.True(code == 0, says);
        return package;
    }

    private Task<(int Code, string Says)> Install(string package) => Run(Path.Combine(package, "install.sh"), "--folder", Installed);

    private static string Mode(string path)
    {
        var mode = (int)File.GetUnixFileMode(path);
        var letters = string.Concat(Enumerable.Range(0, 9).Select(bit => (mode & (256 >> bit)) != 0 ? "rwx"[bit % 3] : '-'));
        return (Directory.Exists(path) ? "d" : "-") + letters;
    }

    private static async Task<(int Code, string Says)> Run(string program, params string[] args)
    {
        // Into files: a server that is left running keeps hold of what it was started with.
        var log = Path.Combine(Path.GetTempPath(), $"gradus-{Guid.NewGuid():N}.log");
        var start = new ProcessStartInfo("/bin/sh") { UseShellExecute = false };
        foreach (var one in new[] { "-c", "log=$1; shift; exec \"$@\" >\"$log\" 2>&1 </dev/null", "sh", log, program }.Concat(args))
        {
            start.ArgumentList.Add(one);
        }

        foreach (var name in start.Environment.Keys.Where(name => name.StartsWith("GRADUS_", StringComparison.Ordinal)).ToList())
        {
            start.Environment.Remove(name);
        }

        // A machine that has other work waits longer; and a program that lives for seconds is not compiled twice.
        start.Environment["GRADUS_UPDATE_WAIT"] = "120";
        start.Environment["DOTNET_TC_CallCounting"] = "0";
        using var process = System.Diagnostics.Process.Start(start)!;
        using var limit = new CancellationTokenSource(TimeSpan.FromMinutes(2));
        await process.WaitForExitAsync(limit.Token);
        var says = await File.ReadAllTextAsync(log, CancellationToken.None);
        File.Delete(log);
        return (process.ExitCode, string.Create(CultureInfo.InvariantCulture, $"{says}(exit {process.ExitCode})"));
    }
}
