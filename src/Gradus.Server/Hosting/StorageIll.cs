using Microsoft.Data.Sqlite;

namespace Gradus.Server.Hosting;

/// <summary>Result codes of SQLite that tell of the storage itself (sqlite.org/rescode.html).</summary>
internal static class SqliteCodes
{
    public const int Busy = 5;
    public const int Locked = 6;
    public const int ReadOnly = 8;
    public const int InputOutput = 10;
    public const int Corrupt = 11;
    public const int Full = 13;
    public const int CannotOpen = 14;
    public const int NotADatabase = 26;
}

/// <summary>What is wrong with the storage, in a sentence.</summary>
internal static class StorageIll
{
    private const int NoSpace = 28; // ENOSPC
    private const int OverQuota = 122; // EDQUOT

    /// <summary>The code by which an error tells that the storage is ill; null when it tells of something else.</summary>
    public static int? CodeOf(Exception? error) =>
        error switch
        {
            null => null,
            SqliteException sqlite when Sentence(sqlite.SqliteErrorCode) is not null => sqlite.SqliteErrorCode,
            IOException io when IsFull(io) => SqliteCodes.Full,
            _ => CodeOf(error.InnerException),
        };

    /// <summary>True when the disk or the quota is used up.</summary>
    public static bool IsFull(IOException error) => error.HResult is NoSpace or OverQuota;

    /// <summary>The answer to whoever wanted something saved; null when the error tells of something else.</summary>
    public static Refusal? RefusalOf(Exception? error) =>
        CodeOf(error) is not { } code
            ? null
            : Answer(code == SqliteCodes.Full ? StatusCodes.Status507InsufficientStorage : StatusCodes.Status503ServiceUnavailable, Sentence(code)!);

    /// <summary>An answer that the storage cannot be used.</summary>
    public static Refusal Answer(int status, string sentence) => new(status, sentence, new Dictionary<string, string[]> { ["storage"] = [sentence] });

    public static string? Sentence(int code) =>
        code switch
        {
            SqliteCodes.Full => "The disk is full: this was not saved. What was saved before is safe. Make room on the server, and send it again.",
            SqliteCodes.Busy or SqliteCodes.Locked => "The database is in use by something else: this was not saved. Send it again.",
            SqliteCodes.ReadOnly => "The database cannot be written to: this was not saved. Whoever keeps the server has to give the right to.",
            SqliteCodes.InputOutput => "The disk of the server fails: this was not saved. Keep the tablets as they are, and look after the server.",
            SqliteCodes.Corrupt or SqliteCodes.NotADatabase =>
                "The database is damaged: this was not saved. Stop the server and restore the latest backup.",
            SqliteCodes.CannotOpen => "The database cannot be opened: this was not saved. Whoever keeps the server has to look at its folder.",
            _ => null,
        };
}
