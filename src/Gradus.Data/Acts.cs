namespace Gradus.Data;

/// <summary>That somebody changed something, or took along what is kept of a person. What is entered on a coupon carries who and when on itself.</summary>
public sealed class Act
{
    /// <summary>In the order in which they were done.</summary>
    public long Id { get; init; }
    public DateTimeOffset At { get; init; }
    public Guid PersonId { get; init; }

    /// <summary>The operation, as the API names it: method and path.</summary>
    public required string Operation { get; init; }

    /// <summary>Whom or what it was done to; null where that is the school.</summary>
    public Guid? SubjectId { get; init; }

    /// <summary>What else the path says: a test, a day; null where it says nothing else.</summary>
    public string? Detail { get; init; }
}
