using Gradus.Server.Hosting;

namespace Gradus.Server.Qualifications;

/// <summary><c>verify FILE</c>: says whether the file of a record is as it was signed.</summary>
public static class VerifyCommand
{
    private const int MostBytes = 4 * 1024 * 1024;

    public static bool IsAsked(string[] args) => args is ["verify", _];

    public static int Run(string[] args)
    {
        string text;
        try
        {
            if (new FileInfo(args[1]).Length > MostBytes)
            {
                Console.Error.WriteLine("That is no record: it is too large.");
                return ExitCodes.Differs;
            }

            text = File.ReadAllText(args[1]);
        }
        catch (Exception error) when (error is IOException or UnauthorizedAccessException)
        {
            Console.Error.WriteLine(error.Message);
            return ExitCodes.Misused;
        }

        var state = new RecordSigner(GradusOptions.FromEnvironment()).Check(text);
        Console.WriteLine(
            state switch
            {
                FileState.Genuine => "Genuine: signed by this school, and unchanged.",
                FileState.SignedElsewhere =>
                    "Unchanged since it was signed, but not by the key of this school. Ask whoever issued it for the public key that stands in the file.",
                FileState.Changed => "CHANGED: it is not what was signed.",
                _ => "That is no record with a signature.",
            }
        );
        return state == FileState.Genuine ? ExitCodes.Fine : ExitCodes.Differs;
    }
}
