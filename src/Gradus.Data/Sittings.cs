using Gradus.Core.Certification;
using Gradus.Core.Library;

namespace Gradus.Data;

/// <summary>A sitting of a test that is booked: where, when, before whom and under which rules.</summary>
public sealed class Sitting
{
    public Guid Id { get; init; }
    public Guid StudentId { get; init; }
    public required string TestId { get; init; }
    public DateOnly Day { get; set; }
    public int Period { get; set; }
    public Guid BookedBy { get; init; }

    /// <summary>When it was booked; null on sittings from before it was kept.</summary>
    public DateTimeOffset? BookedAt { get; init; }

    /// <summary>The signed decision that it stands on; null when there was none.</summary>
    public Guid? DecisionId { get; init; }
    public Guid? BoothId { get; set; }

    /// <summary>The chosen ways of the test; null for as it is first described.</summary>
    public Dictionary<string, string>? Variants { get; init; }

    /// <summary>The profile that it is judged by in place of its test's own; null for that.</summary>
    public string? JudgedBy { get; init; }

    /// <summary>The welding procedure, as the school names it.</summary>
    public string? Procedure { get; init; }

    /// <summary>Who inspects: someone of the school, or a name from outside.</summary>
    public Guid? InspectorId { get; init; }
    public string? InspectorName { get; init; }

    /// <summary>The rules of this sitting; null for those of the test.</summary>
    public TestRules? Rules { get; init; }

    /// <summary>True when film is taken in place of bends.</summary>
    public bool ByFilm { get; init; }

    /// <summary>As what it is taken, and how many coupons have to pass.</summary>
    public SittingTurn Turn { get; init; }
    public int Coupons { get; init; } = 1;

    /// <summary>What it was booked in spite of, and why; null when nothing spoke against it.</summary>
    public string? Despite { get; init; }

    /// <summary>Where it was before it was moved.</summary>
    public List<SittingMove> Moves { get; set; } = [];

    /// <summary>When it was called off; null while it stands.</summary>
    public DateTimeOffset? CancelledAt { get; set; }
    public Guid? CancelledBy { get; set; }
    public string? CancelledWhy { get; set; }

    /// <summary>When it was declared void: it says nothing of the welder. Null while it was not.</summary>
    public DateTimeOffset? VoidedAt { get; set; }
    public Guid? VoidedBy { get; set; }
    public string? VoidedWhy { get; set; }

    /// <summary>What was booked, without by whom.</summary>
    public object Content
    {
        get
        {
            var was = Moves.Count > 0 ? Moves[0] : null;
            return new
            {
                StudentId,
                TestId,
                Day = was?.Day ?? Day,
                Period = was?.Period ?? Period,
                DecisionId,
                Variants = Variants is null ? null : new SortedDictionary<string, string>(Variants, StringComparer.Ordinal),
                JudgedBy,
                Procedure,
                InspectorId,
                InspectorName,
                Rules,
                ByFilm,
                Turn,
            };
        }
    }
}

/// <summary>Where a sitting was before it was moved.</summary>
public sealed record SittingMove(DateOnly Day, int Period, Guid? BoothId, string Why, Guid By, DateTimeOffset At);

/// <summary>A point of the day's list that was done. Written once; taken back it stays.</summary>
public sealed class SittingMark
{
    public Guid Id { get; init; }
    public Guid SittingId { get; init; }

    /// <summary>Which point of the list.</summary>
    public required string Check { get; init; }

    /// <summary>What was read off: a heat number, a lot.</summary>
    public required string Text { get; init; }
    public DateTimeOffset At { get; init; }
    public Guid By { get; init; }

    /// <summary>Who witnessed it with their own PIN; null when nobody did.</summary>
    public Guid? WitnessId { get; init; }

    /// <summary>Who witnessed it with a signature on the tablet, and its strokes as the path of a drawing; null when nobody did.</summary>
    public string? WitnessName { get; init; }
    public string? Signature { get; init; }
    public DateTimeOffset? WithdrawnAt { get; set; }
    public Guid? WithdrawnBy { get; set; }

    /// <summary>What was marked, without who and when.</summary>
    public object Content =>
        new
        {
            SittingId,
            Check,
            Text,
            WitnessId,
            WitnessName,
            Signature,
        };
}

/// <summary>A report that came with a sitting or a record, kept as it was given; the bytes lie in a file named by the id.</summary>
public sealed class SittingFile
{
    public Guid Id { get; init; }

    /// <summary>The sitting, the qualification from outside or the order of a laboratory that it belongs to.</summary>
    public Guid OwnerId { get; init; }
    public required string Name { get; init; }
    public required string MediaType { get; init; }
    public long Bytes { get; init; }

    /// <summary>SHA-256 of it, in hex.</summary>
    public required string Hash { get; init; }

    /// <summary>True for a report that stands in place of what would be judged here.</summary>
    public bool Settles { get; init; }
    public DateTimeOffset At { get; init; }
    public Guid By { get; init; }
}
