using System.Runtime.InteropServices;

namespace Gradus.Server.Hosting;

/// <summary>The school's files are read by nobody but whoever runs the program.</summary>
public static partial class Privacy
{
    private const uint NobodyElse = 0b000_111_111; // 077
    private const UnixFileMode Owner = UnixFileMode.UserRead | UnixFileMode.UserWrite;

    /// <summary>From now on what this process makes is its owner's alone.</summary>
    public static void KeepToOwner() => _ = Mask(NobodyElse);

    /// <summary>What an earlier program made is its owner's alone as well; what lies in a folder is guarded by the folder.</summary>
    public static void Tighten(GradusOptions options)
    {
        foreach (var file in Directory.EnumerateFiles(options.DataFolder, "*.db*"))
        {
            Narrow(file, Owner);
        }

        foreach (var folder in new[] { options.KeyFolder, options.PhotoFolder, options.BackupFolder }.Where(Directory.Exists))
        {
            Narrow(folder, Owner | UnixFileMode.UserExecute);
        }
    }

    private static void Narrow(string path, UnixFileMode mode)
    {
        try
        {
            if (File.GetUnixFileMode(path) != mode)
            {
                File.SetUnixFileMode(path, mode);
            }
        }
        catch (Exception error) when (error is IOException or UnauthorizedAccessException)
        {
            // It has gone, is another's, or lies on a disk that knows no owners.
        }
    }

    [LibraryImport("libc", EntryPoint = "umask")]
    private static partial uint Mask(uint mask);
}
