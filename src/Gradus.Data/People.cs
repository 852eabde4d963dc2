using Gradus.Core.Planning;

namespace Gradus.Data;

/// <summary>The school; one row.</summary>
public sealed class School
{
    public Guid Id { get; init; }
    public required string Name { get; set; }

    /// <summary>IANA time zone in which days and times are shown.</summary>
    public required string TimeZone { get; set; }
    public bool IsDemo { get; init; }
}

/// <summary>Someone who logs coupons and signs decisions.</summary>
public sealed class Instructor
{
    public Guid Id { get; init; }
    public required string Name { get; set; }
    public bool IsLead { get; set; }

    /// <summary>Salted hash of the PIN.</summary>
    public required string PinHash { get; set; }
}

/// <summary>A class: the students who come on the same days.</summary>
public sealed class ClassGroup
{
    public Guid Id { get; init; }
    public required string Name { get; set; }

    /// <summary>Days on which it meets.</summary>
    public required List<DayOfWeek> MeetsOn { get; set; }
}

/// <summary>A welding booth.</summary>
public sealed class Booth
{
    private const int BoothsInRow = 6;

    public Guid Id { get; init; }
    public int Number { get; init; }

    /// <summary>The processes that it is set up for, by name.</summary>
    public required List<string> Processes { get; set; }
    public BoothTraits Has { get; set; }

    /// <summary>Where it stands in the shop: column and row from the top left corner.</summary>
    public int Column { get; set; }
    public int Row { get; set; }

    /// <summary>Since when and why it cannot be used; null while it can.</summary>
    public DateTimeOffset? ClosedAt { get; set; }
    public string? ClosedWhy { get; set; }

    /// <summary>A new booth that runs everything and takes pipe, in rows of six; the school says what it really has.</summary>
    public static Booth New(Guid id, int number) =>
        new()
        {
            Id = id,
            Number = number,
            Processes = ["SMAW", "GTAW", "GMAW", "FCAW-G", "FCAW-S"],
            Has = BoothTraits.Pipe,
            Column = (number - 1) % BoothsInRow,
            Row = (number - 1) / BoothsInRow,
        };
}

/// <summary>A student, with the test that they work toward.</summary>
public sealed class Student
{
    public Guid Id { get; init; }
    public required string Name { get; set; }
    public Guid ClassGroupId { get; set; }
    public OperatorHand Hand { get; set; }
    public required string TargetTestId { get; set; }
    public string? Note { get; set; }

    /// <summary>When and by whom safety was signed off; null while it is not.</summary>
    public DateTimeOffset? SafetySignedAt { get; set; }
    public Guid? SafetySignedBy { get; set; }
    public DateTimeOffset CreatedAt { get; init; }

    /// <summary>Since when the student has left; null while they come. Whoever has left counts nowhere, and can come back.</summary>
    public DateTimeOffset? LeftAt { get; set; }
    public ClassGroup? ClassGroup { get; init; }

    /// <summary>What is said of a student, without who and when: a retried addition has the same content.</summary>
    public object Content =>
        new
        {
            Name,
            ClassGroupId,
            Hand,
            TargetTestId,
            Note,
        };
}
