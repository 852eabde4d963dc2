namespace Gradus.Server.Hosting;

/// <summary>What the program says to whoever started it.</summary>
public static class ExitCodes
{
    public const int Fine = 0;

    /// <summary>What was asked about is not so.</summary>
    public const int Differs = 1;

    /// <summary>The command was not understood.</summary>
    public const int Misused = 2;

    /// <summary>The data cannot be used.</summary>
    public const int StorageIll = 3;
}
