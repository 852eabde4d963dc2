using Gradus.Core.Planning;
using Microsoft.AspNetCore.Identity;

namespace Gradus.Data;

/// <summary>The school; one row.</summary>
public sealed class School
{
    public Guid Id { get; init; }
    public required string Name { get; set; }

    /// <summary>IANA time zone in which days and times are shown.</summary>
    public required string TimeZone { get; set; }
    public bool IsDemo { get; init; }

    /// <summary>In which prices and costs are told; three letters of ISO 4217.</summary>
    public string Currency { get; set; } = DefaultCurrency;

    /// <summary>Where the school is reached in the shop's network, for the codes on tags; null: where it was asked from.</summary>
    public string? Address { get; set; }

    /// <summary>Whether students see the chance that is worked out for them.</summary>
    public bool StudentsSeeChance { get; set; }

    /// <summary>After so many minutes without a touch a tablet of the shop asks who is there.</summary>
    public int IdleMinutes { get; set; } = DefaultIdleMinutes;

    /// <summary>So many years after a student has left they are erased; null: nobody is, unless somebody does it.</summary>
    public int? KeepStudentsYears { get; set; }

    /// <summary>For so many years it is kept who did what; null: for good.</summary>
    public int? KeepActsYears { get; set; }

    /// <summary>For so many days the measurements of arcs are kept; what was read from them stays.</summary>
    public int KeepTracesDays { get; set; } = DefaultTracesDays;

    /// <summary>Who said how long things are kept; whoever is erased by the rule is so in their name.</summary>
    public Guid? KeepSaidBy { get; set; }

    /// <summary>Of a school that has said nothing else: a term. Chosen.</summary>
    public const int DefaultTracesDays = 120;

    /// <summary>Of a school that has said nothing else.</summary>
    public const string DefaultCurrency = "USD";

    /// <summary>Of a school that has said nothing else.</summary>
    public const int DefaultIdleMinutes = 10;
}

/// <summary>What somebody is at the school.</summary>
public enum PersonRole
{
    /// <summary>Owns the school's people, policies, prices, limits and library, beside all that an instructor does.</summary>
    Lead,

    /// <summary>Logs, judges, plans, decides.</summary>
    Instructor,

    /// <summary>Of a sitting: reads, witnesses, signs.</summary>
    Inspector,

    /// <summary>Sees what is their own and proposes what they did; the id is that of the student.</summary>
    Student,
}

/// <summary>Someone who can sign in. The user name is the id; the PIN is the password, kept as a salted hash.</summary>
public sealed class Person : IdentityUser<Guid>
{
    public required string Name { get; set; }
    public PersonRole Role { get; set; }
    public DateTimeOffset CreatedAt { get; init; }

    /// <summary>Since when they have left; null while they are here. What they signed stays signed.</summary>
    public DateTimeOffset? LeftAt { get; set; }

    /// <summary>The language in which they are spoken to, by ISO 639-1; null for English.</summary>
    public string? Language { get; set; }

    /// <summary>The units that they read, <c>in</c> or <c>mm</c>; null where they chose none.</summary>
    public string? Units { get; set; }

    /// <summary>Somebody new; the PIN is given by the accounts.</summary>
    public static Person New(Guid id, string name, PersonRole role, DateTimeOffset now) =>
        new()
        {
            Id = id,
            UserName = id.ToString(),
            Name = name,
            Role = role,
            CreatedAt = now,
        };
}

/// <summary>A sign-in that lasts on one device. It ends on the server: by signing out, by a new PIN, by leaving.</summary>
public sealed class SignedSession
{
    public Guid Id { get; init; }
    public Guid PersonId { get; init; }
    public DateTimeOffset StartedAt { get; init; }
}

/// <summary>A tablet of the shop: it shows who is in the class to whoever signs in on it.</summary>
public sealed class Tablet
{
    public Guid Id { get; init; }
    public required string Name { get; set; }
    public Guid PairedBy { get; init; }
    public DateTimeOffset PairedAt { get; init; }

    /// <summary>Since when it is a tablet of the shop no more; null while it is.</summary>
    public DateTimeOffset? EndedAt { get; set; }
}

/// <summary>A class: the students who come on the same days.</summary>
public sealed class ClassGroup
{
    public Guid Id { get; init; }
    public required string Name { get; set; }

    /// <summary>Days on which it meets.</summary>
    public required List<DayOfWeek> MeetsOn { get; set; }

    /// <summary>When its term is to end; null while that is open.</summary>
    public DateOnly? TermEnds { get; set; }

    /// <summary>Since when it is over; null while it meets. Its record stays.</summary>
    public DateTimeOffset? EndedAt { get; set; }
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

    /// <summary>Since when it is no booth of the shop any more; null while it is. Its number stays on the record.</summary>
    public DateTimeOffset? RemovedAt { get; set; }

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

    /// <summary>When name, words and photos were erased; null while they are there. What was welded stays without them.</summary>
    public DateTimeOffset? ErasedAt { get; set; }
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
