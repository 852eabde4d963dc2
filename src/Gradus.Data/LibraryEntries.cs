namespace Gradus.Data;

/// <summary>What a library entry holds.</summary>
public enum LibraryKind
{
    Test,
    Profile,
}

/// <summary>One version of a test or of an acceptance profile. Versions are added and never changed, so that a coupon finds its own again.</summary>
public sealed class LibraryEntry
{
    public Guid Id { get; init; }
    public LibraryKind Kind { get; init; }

    /// <summary>The id of the test or profile: <c>P8</c>, <c>aws-d1.1</c>.</summary>
    public required string Key { get; init; }
    public int Version { get; init; }

    /// <summary>The test or profile as the core reads it.</summary>
    public required string Body { get; init; }

    /// <summary>True when it came with the program and nobody of the school changed it.</summary>
    public bool Shipped { get; init; }
    public DateTimeOffset SavedAt { get; init; }

    /// <summary>Who of the school saved it; null for a shipped one.</summary>
    public Guid? SavedBy { get; init; }

    /// <summary>Why it was changed, in the words of who did.</summary>
    public string? Why { get; init; }
}

/// <summary>A sentence of the coach as the school says it, in one language.</summary>
public sealed class SchoolSentence
{
    public Guid Id { get; init; }

    /// <summary>The sentence that it stands for, as it ships in English.</summary>
    public required string Sentence { get; init; }

    /// <summary>By ISO 639-1.</summary>
    public required string Language { get; init; }
    public required string Says { get; set; }
    public DateTimeOffset At { get; set; }
    public Guid By { get; set; }
}
