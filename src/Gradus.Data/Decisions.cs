using Gradus.Core.Readiness;

namespace Gradus.Data;

/// <summary>What an instructor decided.</summary>
public enum DecisionKind
{
    TestNow,
    Practise,
    Hold,
}

/// <summary>A signed decision with the numbers that it was made on.</summary>
public sealed class Decision
{
    public Guid Id { get; init; }
    public Guid StudentId { get; init; }
    public required string TestId { get; init; }
    public DecisionKind Kind { get; init; }

    /// <summary>Why, in the words of who signed; empty when it was signed as advised.</summary>
    public required string Reason { get; init; }

    /// <summary>The readiness of that moment.</summary>
    public required ReadinessEstimate Estimate { get; init; }

    /// <summary>What was advised at that moment; null on decisions from before advice was given.</summary>
    public Advice? Advice { get; init; }
    public DateTimeOffset SignedAt { get; init; }
    public Guid SignedBy { get; init; }

    /// <summary>When it was taken back; null while it holds. It stays in the history.</summary>
    public DateTimeOffset? WithdrawnAt { get; set; }
    public Guid? WithdrawnBy { get; set; }
    public string? WithdrawnReason { get; set; }

    /// <summary>What was signed: a retried signature has the same content.</summary>
    public object Content =>
        new
        {
            StudentId,
            TestId,
            Kind,
            Reason,
        };
}

/// <summary>How a sitting of a test came out, beside what was said of the chance before it.</summary>
public sealed class SittingResult
{
    public Guid Id { get; init; }
    public Guid StudentId { get; init; }
    public required string TestId { get; init; }
    public DateOnly Day { get; init; }
    public bool Passed { get; init; }
    public required string Note { get; init; }

    /// <summary>The chance of passing everything, as it was said before the sitting.</summary>
    public required ChanceBand Said { get; init; }

    /// <summary>How many full coupons that stood on; 0 when it was only what is believed of anybody.</summary>
    public int Coupons { get; init; }
    public DateTimeOffset RecordedAt { get; init; }
    public Guid RecordedBy { get; init; }

    /// <summary>The booked sitting that it is of; null for one that was put down by itself.</summary>
    public Guid? SittingId { get; init; }

    /// <summary>By which part it was failed; null when it was passed, or when that was not said.</summary>
    public string? FailedBy { get; init; }

    /// <summary>What is to be taken down for the sitting, in the money of the school; null where nobody booked it.</summary>
    public double? Cost { get; init; }

    /// <summary>What was recorded: a retried result has the same content.</summary>
    public object Content =>
        new
        {
            StudentId,
            TestId,
            Day,
            Passed,
            Note,
        };
}
