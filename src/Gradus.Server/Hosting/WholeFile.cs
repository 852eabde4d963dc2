namespace Gradus.Server.Hosting;

/// <summary>Writes a file beside its place, and on the disk before it has its name: a server that is killed leaves no half of one.</summary>
public static class WholeFile
{
    /// <summary>Writes a file, over the one that was there; its folder is made where it is not.</summary>
    /// <exception cref="IOException">The disk is full or cannot be written to.</exception>
    public static void Write(string path, Action<Stream> write)
    {
        Directory.CreateDirectory(Path.GetDirectoryName(path)!);
        var beside = path + ".new";
        using (var file = new FileStream(beside, FileMode.Create, FileAccess.Write))
        {
            write(file);
            file.Flush(flushToDisk: true);
        }

        File.Move(beside, path, overwrite: true);
    }

    /// <summary>Writes bytes as a file.</summary>
    /// <inheritdoc cref="Write(string, Action{Stream})"/>
    public static void Write(string path, byte[] bytes) => Write(path, file => file.Write(bytes));
}
