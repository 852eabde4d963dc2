using Gradus.Server.Hosting;
using Microsoft.Data.Sqlite;

namespace Gradus.Server.School;

/// <summary><c>export</c>, <c>import</c> and <c>join</c>: the school as an open archive, as the program is started with them.</summary>
public static class ArchiveCommands
{
    private const string Usage = """
        export [--nameless] [FOLDER]   writes the whole school as an open archive, or what can be counted of it
        import FILE                    reads an archive into an empty folder of data
        join DATABASE FILE...          joins archives of several schools in one database to be asked
        """;

    public static bool IsAsked(string[] args) => args is ["export" or "import" or "join", ..];

    /// <summary>Runs the command on the school that the environment names; the answer is the program's exit code.</summary>
    public static int Run(string[] args) => Run(args, GradusOptions.FromEnvironment(), Console.Out, Console.Error);

    /// <summary>Runs the command; the answer is the program's exit code.</summary>
    public static int Run(string[] args, GradusOptions options, TextWriter says, TextWriter complains)
    {
        try
        {
            switch (args)
            {
                case ["export"]:
                    return Export(options, ".", nameless: false, says);
                case ["export", "--nameless"]:
                    return Export(options, ".", nameless: true, says);
                case ["export", "--nameless", var folder]:
                    return Export(options, folder, nameless: true, says);
                case ["export", var folder] when !folder.StartsWith('-'):
                    return Export(options, folder, nameless: false, says);
                case ["import", var file]:
                    var lines = OpenArchive.Take(file, options);
                    says.WriteLine($"Read: {lines.Values.Sum():N0} lines of {lines.Count(one => one.Value > 0)} kinds.");
                    says.WriteLine("PINs are in no archive: give the lead one with 'people pin NAME', and start Gradus.");
                    return ExitCodes.Fine;
                case ["join", var database, _, ..]:
                    says.WriteLine($"{database}: {OpenArchive.Join(database, args[2..]):N0} lines of {args.Length - 2} schools.");
                    return ExitCodes.Fine;
                default:
                    complains.WriteLine(Usage);
                    return ExitCodes.Misused;
            }
        }
        catch (Exception error) when (error is StorageException or IOException or UnauthorizedAccessException or SqliteException)
        {
            complains.WriteLine(error.Message);
            return ExitCodes.StorageIll;
        }
    }

    private static int Export(GradusOptions options, string folder, bool nameless, TextWriter says)
    {
        var archive = OpenArchive.Make(options, folder, nameless, TimeProvider.System.GetUtcNow());
        says.WriteLine($"{archive}: {new FileInfo(archive).Length / 1024:N0} kB, read again and held against its checksums.");
        says.WriteLine(
            nameless
                ? "Nobody is named in it, and nothing is in it that was written in words. Small classes can be told apart all the same: share it with care."
                : "All that the school keeps of people is in it, without PINs: guard it."
        );
        return ExitCodes.Fine;
    }
}
