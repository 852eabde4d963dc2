namespace Gradus.Server.Hosting;

/// <summary>Where the server listens and keeps its data.</summary>
/// <param name="DataFolder">The folder of the database and keys.</param>
/// <param name="Demo">True for the demo school, in a database file of its own.</param>
public sealed record GradusOptions(string Host, int Port, string DataFolder, bool Demo)
{
    public const int DefaultPort = 5080;

    public string DatabaseFile => Path.Combine(DataFolder, Demo ? "demo.db" : "gradus.db");

    /// <summary>Where the photos lie.</summary>
    public string PhotoFolder => Path.Combine(DataFolder, "photos");

    /// <summary>Where the database is copied to before it is brought up to date.</summary>
    public string BackupFolder => Path.Combine(DataFolder, "backups");

    /// <summary>Where the keys lie that sign sessions and tickets.</summary>
    public string KeyFolder => Path.Combine(DataFolder, "keys");

    /// <summary>Reads <c>GRADUS_PORT</c>, <c>GRADUS_HOST</c>, <c>GRADUS_DATA</c> and <c>GRADUS_DEMO</c>.</summary>
    /// <exception cref="InvalidOperationException">The port is not a port.</exception>
    public static GradusOptions From(IConfiguration configuration)
    {
        var port = configuration["GRADUS_PORT"] is { Length: > 0 } text
            ? int.TryParse(text, out var number) && number is >= 0 and <= 65535
                ? number
                : throw new InvalidOperationException($"GRADUS_PORT is '{text}'; it must be a port from 0 to 65535.")
            : DefaultPort;
        return new GradusOptions(
            configuration["GRADUS_HOST"] is { Length: > 0 } host ? host : "127.0.0.1",
            port,
            Path.GetFullPath(configuration["GRADUS_DATA"] is { Length: > 0 } folder ? folder : "var"),
            configuration["GRADUS_DEMO"] == "1"
        );
    }
}
