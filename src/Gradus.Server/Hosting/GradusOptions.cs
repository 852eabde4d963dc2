namespace Gradus.Server.Hosting;

/// <summary>Where the server listens and keeps its data.</summary>
/// <param name="DataFolder">The folder of the database and keys.</param>
/// <param name="Demo">True for the demo school, in a database file of its own.</param>
public sealed record GradusOptions(string Host, int Port, string DataFolder, bool Demo)
{
    public const int DefaultPort = 5080;
    public const string PassphraseName = "GRADUS_BACKUP_PASSPHRASE";

    /// <summary>Where the shop is served over HTTPS; null: nowhere.</summary>
    public int? HttpsPort { get; init; }

    /// <summary>The school's own certificate, as PFX or PEM; null: one of the local authority.</summary>
    public string? Certificate { get; init; }

    /// <summary>The key of a PEM certificate, where it lies in a file of its own.</summary>
    public string? CertificateKey { get; init; }
    public string? CertificatePassword { get; init; }

    /// <summary>Names by which the shop's network calls this machine, beside its own.</summary>
    public IReadOnlyList<string> Names { get; init; } = [];

    /// <summary>Whether the school is backed up every night by itself.</summary>
    public bool BacksUpByItself { get; init; } = true;

    /// <summary>A second folder for those backups; null: none.</summary>
    public string? BackupCopy { get; init; }

    /// <summary>Guards the keys in a backup; null leaves them out.</summary>
    public string? BackupPassphrase { get; init; }

    /// <summary>Whether the machine itself is told how the program does, at <c>/metrics</c>.</summary>
    public bool TellsMetrics { get; init; }

    /// <summary>Where the program writes what went wrong.</summary>
    public string LogFolder => Path.Combine(DataFolder, "logs");

    public string DatabaseFile => Path.Combine(DataFolder, Demo ? "demo.db" : "gradus.db");

    /// <summary>Where the photos lie.</summary>
    public string PhotoFolder => Path.Combine(DataFolder, "photos");

    /// <summary>Where the database is copied to before it is brought up to date.</summary>
    public string BackupFolder => Path.Combine(DataFolder, "backups");

    /// <summary>Where the keys lie that sign sessions and tickets.</summary>
    public string KeyFolder => Path.Combine(DataFolder, "keys");

    /// <summary>Who was erased, so that a backup from before does not bring them back.</summary>
    public string ErasureFile => Path.Combine(DataFolder, Demo ? "erased-demo.json" : "erased.json");

    /// <summary>Where the shop's authority and the certificates lie.</summary>
    public string CertificateFolder => Path.Combine(DataFolder, "certificates");

    /// <summary>
    /// Reads <c>GRADUS_PORT</c>, <c>GRADUS_HTTPS_PORT</c>, <c>GRADUS_HOST</c>, <c>GRADUS_NAMES</c>, <c>GRADUS_CERTIFICATE</c> with <c>_KEY</c> and
    /// <c>_PASSWORD</c>, <c>GRADUS_DATA</c>, <c>GRADUS_DEMO</c>, <c>GRADUS_METRICS</c>, and <c>GRADUS_BACKUP_COPY</c>, <c>_NIGHTLY</c> and
    /// <c>_PASSPHRASE</c>.
    /// </summary>
    /// <exception cref="InvalidOperationException">A port is not a port.</exception>
    public static GradusOptions From(IConfiguration configuration) =>
        new GradusOptions(
            configuration["GRADUS_HOST"] is { Length: > 0 } host ? host : "127.0.0.1",
            PortOf(configuration, "GRADUS_PORT") ?? DefaultPort,
            Path.GetFullPath(configuration["GRADUS_DATA"] is { Length: > 0 } folder ? folder : "var"),
            configuration["GRADUS_DEMO"] == "1"
        )
        {
            HttpsPort = PortOf(configuration, "GRADUS_HTTPS_PORT"),
            Certificate = Said(configuration, "GRADUS_CERTIFICATE"),
            CertificateKey = Said(configuration, "GRADUS_CERTIFICATE_KEY"),
            CertificatePassword = Said(configuration, "GRADUS_CERTIFICATE_PASSWORD"),
            BacksUpByItself = configuration["GRADUS_BACKUP_NIGHTLY"] != "0",
            BackupCopy = Said(configuration, "GRADUS_BACKUP_COPY") is { } copy ? Path.GetFullPath(copy) : null,
            BackupPassphrase = Said(configuration, PassphraseName),
            TellsMetrics = configuration["GRADUS_METRICS"] == "1",
            Names = (configuration["GRADUS_NAMES"] ?? "").Split([',', ' '], StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries),
        };

    /// <summary>As the environment has it, for a command.</summary>
    public static GradusOptions FromEnvironment() => From(new ConfigurationBuilder().AddEnvironmentVariables().Build());

    private static string? Said(IConfiguration configuration, string name) => configuration[name] is { Length: > 0 } text ? text : null;

    private static int? PortOf(IConfiguration configuration, string name) =>
        Said(configuration, name) is not { } text ? null
        : int.TryParse(text, out var number) && number is >= 0 and <= 65535 ? number
        : throw new InvalidOperationException($"{name} is '{text}'; it must be a port from 0 to 65535.");
}
