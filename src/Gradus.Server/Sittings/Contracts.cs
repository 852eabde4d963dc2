using FluentValidation;
using Gradus.Core.Certification;
using Gradus.Core.Inspection;
using Gradus.Core.Library;
using Gradus.Server.Coupons;
using Gradus.Server.Hosting;
using Gradus.Server.Library;
using Gradus.Server.Qualifications;

namespace Gradus.Server.Sittings;

/// <summary>A sitting to be booked.</summary>
/// <param name="DecisionId">The signed "test now" that it stands on; null for the one in force.</param>
/// <param name="Variants">The ways of the test; null for those of the last coupon made as under test.</param>
/// <param name="JudgedBy">The profile that it is judged by; null for the test's own.</param>
/// <param name="Rules">The rules of this sitting; null for those of the test.</param>
/// <param name="ByFilm">True when film is taken in place of bends.</param>
/// <param name="Despite">Why it is booked although something speaks against it; null to be told what does.</param>
public sealed record SittingRequest(
    Guid? StudentId,
    string? TestId,
    DateOnly? Day,
    int? Period,
    Guid? DecisionId,
    Guid? BoothId,
    Dictionary<string, string>? Variants,
    string? JudgedBy,
    string? Procedure,
    Guid? InspectorId,
    string? InspectorName,
    TestRules? Rules,
    bool? ByFilm,
    SittingTurn? Turn,
    string? Despite
);

/// <summary>Where a sitting is moved to, and why.</summary>
public sealed record MoveSitting(DateOnly? Day, int? Period, Guid? BoothId, string? Why, string? Despite);

/// <summary>Why a sitting is called off or void.</summary>
public sealed record EndSitting(string? Why);

/// <summary>A point of the day's list, done.</summary>
/// <param name="Text">What was read off; empty where nothing is.</param>
/// <param name="WitnessId">Who witnesses with their own PIN, sent in the header...</param>
/// <param name="WitnessName">...or signs on the tablet...</param>
/// <param name="Signature">...and the strokes, as an SVG path of M and L in a field of 600 by 200.</param>
public sealed record MarkPoint(string? Check, string? Text, Guid? WitnessId, string? WitnessName, string? Signature);

/// <summary>How a sitting came out.</summary>
public enum SittingOutcome
{
    Passed,
    Failed,
    Void,
}

/// <summary>A result to be signed.</summary>
/// <param name="FailedBy">By which part; null for what the record shows.</param>
public sealed record SignResult(SittingOutcome? Outcome, string? FailedBy, string? Note);

/// <summary>How far a sitting has come.</summary>
public enum SittingState
{
    Booked,
    Today,

    /// <summary>Its day is over, and there is no result.</summary>
    Waiting,
    Passed,
    Failed,
    Void,
    Cancelled,
}

/// <summary>A sitting as it is listed.</summary>
public sealed record SittingRow(
    Guid Id,
    Guid StudentId,
    string StudentName,
    string TestId,
    string Title,
    DateOnly Day,
    int Period,
    string PeriodName,
    int? Booth,
    string? Inspector,
    SittingTurn Turn,
    SittingState State,
    Guid? CertificateId,
    string? Why
);

/// <summary>The sittings: those to come and those that wait for a result, and those that are done, the latest first.</summary>
public sealed record SittingList(IReadOnlyList<SittingRow> Open, IReadOnlyList<SittingRow> Done);

/// <summary>A point of the day's list, with what was marked of it.</summary>
/// <param name="MarkId">Null while it is not done.</param>
/// <param name="Witness">Who saw it; null when nobody did.</param>
public sealed record PointView(
    string Id,
    string Title,
    string? Asks,
    bool Witnessed,
    Guid? MarkId,
    string? Text,
    DateTimeOffset? At,
    string? By,
    string? Witness
);

/// <summary>A specimen that is cut, and what became of it.</summary>
/// <param name="Verdict">Null while it was not looked at.</param>
public sealed record SpecimenView(int Index, string Kind, string Name, string? Place, VerdictKind? Verdict, string? Why);

/// <summary>A coupon of a sitting.</summary>
public sealed record MadeCoupon(
    Guid Id,
    string Stamp,
    bool Closed,
    VerdictKind Seen,
    VerdictKind? Inside,
    VerdictKind Whole,
    IReadOnlyList<string> Missing,
    IReadOnlyList<SpecimenView> Specimens,
    IReadOnlyList<string> Breaches,
    double ThicknessMm
);

/// <summary>How a sitting came out, as it is shown.</summary>
public sealed record OutcomeView(SittingOutcome Outcome, string? FailedBy, string Note, DateOnly Day, string By);

/// <summary>A sitting, whole.</summary>
/// <param name="Variants">The chosen ways in words.</param>
/// <param name="Suggested">The result that the record shows by now; null while it shows none.</param>
/// <param name="Lacking">What is wanting before it can be passed; empty when nothing is.</param>
/// <param name="Retest">After a failure: how it may be taken again.</param>
/// <param name="Asked">What only a person can say on the record of this code.</param>
/// <param name="Routes">Routes of renewal of the code; empty for none.</param>
public sealed record SittingView(
    SittingRow Row,
    Guid? BoothId,
    string CodeName,
    string Code,
    string ProfileId,
    string? Procedure,
    Guid? InspectorId,
    DateTimeOffset? DecidedAt,
    string? DecidedBy,
    IReadOnlyList<string> Variants,
    TestRules Rules,
    IReadOnlyList<string> Specimens,
    bool ByFilm,
    int Coupons,
    string? Despite,
    IReadOnlyList<string> Moves,
    IReadOnlyList<PointView> Points,
    IReadOnlyList<MadeCoupon> Made,
    OutcomeView? Result,
    SignResult? Suggested,
    IReadOnlyList<string> Lacking,
    IReadOnlyList<RetestWay> Retest,
    string? RetestRule,
    IReadOnlyList<FileView> Files,
    IReadOnlyList<FieldRow> Asked,
    IReadOnlyList<Core.Qualification.RenewalRoute> Routes,
    DateTimeOffset? VoidedAt,
    DateTimeOffset? CancelledAt
);

/// <summary>A time that is offered for a sitting: the class meets then.</summary>
/// <param name="Booths">Booths by number that can, and in which no other sitting is booked.</param>
public sealed record OfferedTime(DateOnly Day, int Period, string PeriodName, TimeOnly Starts, IReadOnlyList<Guid> Booths);

public sealed record OfferedBooth(Guid Id, int Number);

public sealed record OfferedPerson(Guid Id, string Name, bool Inspects);

public sealed record OfferedOption(string Id, string Name);

public sealed record OfferedGroup(string Id, string Name, IReadOnlyList<OfferedOption> Options);

/// <summary>What a booking begins with.</summary>
/// <param name="Concerns">What speaks against it, whatever the day; empty when nothing does.</param>
/// <param name="Chosen">The ways of the last coupon made as under test.</param>
/// <param name="Ways">After a failure: how it may be taken again; else empty.</param>
/// <param name="Procedures">Procedures that were named for this test before, the latest first.</param>
/// <param name="TakesFilm">Whether the code takes film in place of bends.</param>
public sealed record BookingForm(
    Guid StudentId,
    string StudentName,
    string TestId,
    string Title,
    Guid? DecisionId,
    DateTimeOffset? DecidedAt,
    IReadOnlyList<string> Concerns,
    IReadOnlyList<OfferedTime> Times,
    IReadOnlyList<OfferedBooth> Booths,
    IReadOnlyList<OfferedPerson> People,
    IReadOnlyList<OfferedGroup> Variants,
    IReadOnlyDictionary<string, string> Chosen,
    IReadOnlyList<OfferedOption> Profiles,
    string ProfileId,
    IReadOnlyList<string> Procedures,
    TestRules Rules,
    IReadOnlyList<string> Specimens,
    bool TakesFilm,
    IReadOnlyList<RetestWay> Ways,
    string? RetestRule
);

public sealed class SittingRequestValidator : AbstractValidator<SittingRequest>
{
    private const int MostMinutes = 24 * 60;

    public SittingRequestValidator(SchoolLibrary library)
    {
        RuleFor(request => request.StudentId).NotNull().WithMessage("The id of a student.");
        RuleFor(request => request.TestId).NeedsOneOf(() => library.Tests.Values.Where(test => test.Kind == TestKind.Test).Select(test => test.Id));
        RuleFor(request => request.Day).NotNull().WithMessage("A date such as 2026-11-30.");
        RuleFor(request => request.Period).NotNull().GreaterThanOrEqualTo(0).WithMessage("A period of the day, from 0.");
        RuleFor(request => request.Procedure).MaximumLength(200).WithMessage("At most 200 characters.");
        RuleFor(request => request.InspectorName).MaximumLength(100).WithMessage("At most 100 characters.");
        RuleFor(request => request.Despite).MaximumLength(500).WithMessage("At most 500 characters.");
        RuleFor(request => request.InspectorName)
            .Must((request, name) => request.InspectorId is null || string.IsNullOrWhiteSpace(name))
            .WithMessage("Somebody of the school, or a name from outside: not both.");
        RuleFor(request => request.JudgedBy)
            .Must((request, profile) => profile is null || (request.TestId is { } id && library.JudgeableBy(id).Contains(profile)))
            .WithMessage("A profile that the test can be judged by.");
        RuleFor(request => request.Variants)
            .Must((request, chosen) => chosen is null || request.TestId is null || AreKnown(library, request.TestId, chosen))
            .WithMessage("The options that the test has.");
        RuleFor(request => request.Rules)
            .Must(rules =>
                rules is null
                || (
                    rules.TimeLimitMinutes is null or (> 0 and <= MostMinutes)
                    && rules.WeaveMaxWidthMm is null or (> 0 and <= 100)
                    && rules.HoldPoints is { Count: <= 20 }
                    && rules.HoldPoints.All(point => point is { Id.Length: > 0 and <= 40, Title.Length: > 0 and <= 100 })
                )
            )
            .WithMessage($"A time limit from 1 to {MostMinutes} min, a weave up to 100 mm, at most 20 hold points.");
    }

    private static bool AreKnown(SchoolLibrary library, string testId, Dictionary<string, string> chosen) =>
        !library.Tests.TryGetValue(testId, out var test)
        || chosen.All(one => test.Variants.FirstOrDefault(group => group.Id == one.Key)?.Options.Any(option => option.Id == one.Value) == true);
}

public sealed class MoveSittingValidator : AbstractValidator<MoveSitting>
{
    public MoveSittingValidator()
    {
        RuleFor(request => request.Day).NotNull().WithMessage("A date such as 2026-11-30.");
        RuleFor(request => request.Period).NotNull().GreaterThanOrEqualTo(0).WithMessage("A period of the day, from 0.");
        RuleFor(request => request.Why).NeedsText(500, "the reason");
        RuleFor(request => request.Despite).MaximumLength(500).WithMessage("At most 500 characters.");
    }
}

public sealed class EndSittingValidator : AbstractValidator<EndSitting>
{
    public EndSittingValidator() => RuleFor(request => request.Why).NeedsText(500, "the reason");
}

public sealed class MarkPointValidator : AbstractValidator<MarkPoint>
{
    private const int MostStrokes = 20_000;

    public MarkPointValidator()
    {
        RuleFor(request => request.Check).NeedsText(60, "a point of the day's list");
        RuleFor(request => request.Text).MaximumLength(200).WithMessage("At most 200 characters.");
        RuleFor(request => request.WitnessName).MaximumLength(100).WithMessage("At most 100 characters.");
        RuleFor(request => request.Signature)
            .Must(path => path is null || (path.Length is > 0 and <= MostStrokes && path.All(IsOfAPath)))
            .WithMessage($"An SVG path of M and L with numbers, at most {MostStrokes} characters.");
        RuleFor(request => request.WitnessName)
            .Must((request, name) => string.IsNullOrWhiteSpace(name) == request.Signature is null && (name is null || request.WitnessId is null))
            .WithMessage("A name with its signature, or somebody of the school with a PIN.");
    }

    private static bool IsOfAPath(char letter) => char.IsAsciiDigit(letter) || letter is 'M' or 'L' or ' ' or ',' or '.' or '-';
}

public sealed class SignResultValidator : AbstractValidator<SignResult>
{
    public SignResultValidator()
    {
        RuleFor(request => request.Outcome).NeedsOneOf();
        RuleFor(request => request.FailedBy).MaximumLength(200).WithMessage("At most 200 characters.");
        RuleFor(request => request.Note).MaximumLength(1000).WithMessage("At most 1000 characters.");
        RuleFor(request => request.Note)
            .Must((request, note) => request.Outcome != SittingOutcome.Void || !string.IsNullOrWhiteSpace(note))
            .WithMessage("Say why it is void.");
    }
}
