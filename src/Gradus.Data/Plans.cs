using Gradus.Core.Planning;
using Gradus.Core.Readiness;

namespace Gradus.Data;

/// <summary>What planning goes by; the latest one holds. Null parts are the shipped ones.</summary>
public sealed class PlanSetup
{
    public Guid Id { get; init; }
    public WeekSetup? Week { get; init; }
    public IReadOnlyList<Step>? Steps { get; init; }
    public Dictionary<string, double>? Prices { get; init; }
    public Saw? Saw { get; init; }

    /// <summary>The secret in the address of the calendar feed.</summary>
    public required string FeedKey { get; init; }
    public DateTimeOffset SavedAt { get; init; }
    public Guid SavedBy { get; init; }
}

/// <summary>A test that an instructor puts down as passed, or as brought along from elsewhere.</summary>
public sealed class StepCredit
{
    public Guid StudentId { get; init; }
    public required string TestId { get; init; }
    public required string Why { get; init; }

    /// <summary>When it was passed, and on what that is believed: then it is evidence. Both null: it only counts as a step behind.</summary>
    public DateOnly? Day { get; init; }
    public Vouched? Vouched { get; init; }
    public DateTimeOffset RecordedAt { get; init; }
    public Guid RecordedBy { get; init; }
}

/// <summary>What a student is on the way to: the tests that a job needs.</summary>
public sealed class StudentGoal
{
    public Guid StudentId { get; init; }
    public required List<string> Tests { get; set; }
    public string? Job { get; set; }
    public DateOnly? By { get; set; }
}

/// <summary>A student who does not come on a day, or in one period of it.</summary>
public sealed class Absence
{
    public Guid Id { get; init; }
    public Guid StudentId { get; init; }
    public DateOnly Day { get; init; }

    /// <summary>The period of the day; null for all of them.</summary>
    public int? Period { get; init; }
    public DateTimeOffset RecordedAt { get; init; }
    public Guid RecordedBy { get; init; }

    /// <summary>What was recorded, without who and when.</summary>
    public object Content =>
        new
        {
            StudentId,
            Day,
            Period,
        };
}

/// <summary>Something that came into the store or went out of it. A level is the sum.</summary>
public sealed class StockMove
{
    public Guid Id { get; init; }

    /// <summary>The stock by its trade name.</summary>
    public required string Stock { get; init; }

    /// <summary><c>kg</c>, <c>L</c>, <c>each</c>; of bars <c>mm</c>, and the amount counts bars.</summary>
    public required string Unit { get; init; }

    /// <summary>Length of a bar; null for what is not sawn.</summary>
    public double? LengthMm { get; init; }
    public bool OffCut { get; init; }
    public double Amount { get; init; }
    public required string Why { get; init; }
    public DateTimeOffset At { get; init; }
    public Guid By { get; init; }

    /// <summary>What was moved, without who and when.</summary>
    public object Content =>
        new
        {
            Stock,
            Unit,
            LengthMm,
            OffCut,
            Amount,
            Why,
        };
}

/// <summary>An accepted week; the latest one of a Monday holds.</summary>
public sealed class WeekPlan
{
    public Guid Id { get; init; }
    public DateOnly Monday { get; init; }
    public required IReadOnlyList<PlannedCell> Cells { get; set; }
    public double Objective { get; init; }
    public double Bound { get; init; }
    public DateTimeOffset AcceptedAt { get; init; }
    public Guid AcceptedBy { get; init; }
}
