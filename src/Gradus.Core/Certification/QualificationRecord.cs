using Gradus.Core.Qualification;

namespace Gradus.Core.Certification;

/// <summary>Whom a record is about.</summary>
/// <param name="Mark">What is struck into their coupons; null where nothing is.</param>
public sealed record RecordWelder(Guid Id, string Name, string? Mark);

/// <summary>A line of a record: what was, and what that qualifies.</summary>
/// <param name="Key">The variable, for whoever reads it by machine.</param>
/// <param name="Actual">Null when it was not said.</param>
/// <param name="Qualified">Null for what qualifies nothing by itself.</param>
/// <param name="Clause">Where the range stands; from memory.</param>
public sealed record RecordField(string Key, string Label, string? Actual, string? Qualified = null, string? Clause = null);

/// <summary>What one process and filler of the coupon was, and what it qualifies.</summary>
/// <param name="Actual">The deposit as the code reads it.</param>
/// <param name="Covers">Every set of variables that it qualifies, spelled out.</param>
public sealed record RecordPart(string Name, PassedCoupon Actual, IReadOnlyList<RecordField> Fields, IReadOnlyList<CoveredVariables> Covers);

/// <summary>A test of the coupon and how it came out.</summary>
/// <param name="Result">In words: accepted, rejected.</param>
/// <param name="Report">Number of the report; null where there is none.</param>
/// <param name="By">Who judged it.</param>
public sealed record RecordTest(string Name, string Result, string? Says, string? Report, string? By);

/// <summary>Until when it holds when nothing more is done, and by which rule.</summary>
/// <param name="Route">The route of renewal, by its clause; null where the code has none.</param>
public sealed record RecordValidity(DateOnly UseBy, DateOnly? RenewBy, string? Route, string Rule, string Source);

/// <summary>The versions of all that made a record: it is frozen with them.</summary>
public sealed record RecordRules(string Program, string ProfileId, int ProfileVersion, string TestId, int TestVersion);

/// <summary>
/// A welder's qualification: what was tested, what that qualifies, who saw it, until when it holds. Frozen when it is certified; a correction is a new
/// revision. Lengths in mm, days as at the school.
/// </summary>
/// <param name="Schema">Which shape this is.</param>
/// <param name="Number">Running number of the school.</param>
/// <param name="Because">Why this revision was made; null for the first.</param>
/// <param name="Variants">The ways of the test that were chosen, group by group.</param>
/// <param name="Fields">What is said of the whole coupon.</param>
/// <param name="Witness">Who saw it made; null when nobody is named.</param>
/// <param name="Evaluator">Who judged it.</param>
/// <param name="Caution">What the reader is told once.</param>
public sealed record QualificationRecord(
    string Schema,
    long Number,
    int Revision,
    string? Because,
    string School,
    RecordWelder Welder,
    string Code,
    string Edition,
    string Title,
    IReadOnlyDictionary<string, string> Variants,
    DateOnly TestedOn,
    DateOnly CertifiedOn,
    string Procedure,
    string? Designation,
    IReadOnlyList<RecordField> Fields,
    IReadOnlyList<RecordPart> Parts,
    IReadOnlyList<RecordTest> Tests,
    string? Witness,
    string Evaluator,
    string CertifiedBy,
    RecordValidity Validity,
    RecordRules Rules,
    string Caution
)
{
    /// <summary>The shape of today.</summary>
    public const string Shape = "gradus-qualification-record/1";

    /// <summary>The processes that it is for, each once.</summary>
    [System.Text.Json.Serialization.JsonIgnore]
    public IReadOnlyList<string> Processes => [.. Parts.Select(part => part.Actual.Process).Distinct()];

    /// <summary>Whether it covers a weld by itself, read from what stands on it alone.</summary>
    public bool Covers(AskedWeld weld) => Parts.Any(part => part.Covers.Any(set => RecordReading.Holds(set, weld)));
}
