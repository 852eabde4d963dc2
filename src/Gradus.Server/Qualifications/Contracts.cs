using FluentValidation;
using Gradus.Core.Certification;
using Gradus.Core.Qualification;
using Gradus.Server.Coupons;
using Gradus.Server.Hosting;

namespace Gradus.Server.Qualifications;

/// <summary>A record to be certified on a sitting that was passed.</summary>
/// <param name="Said">What only a person can say, by the key of its field; see the sitting.</param>
/// <param name="Route">The route of renewal, where the code has several; null for the shortest.</param>
/// <param name="Replaces">The record that this is a correction of...</param>
/// <param name="Because">...and why.</param>
public sealed record CertifyRequest(
    Guid? SittingId,
    Dictionary<string, string>? Said,
    string? Procedure,
    string? Route,
    string? Witness,
    string? Evaluator,
    Guid? Replaces,
    string? Because
);

/// <summary>Why a record does not stand any more.</summary>
public sealed record RevokeRequest(string? Why);

/// <summary>A renewal on the chosen route.</summary>
/// <param name="Evidence">Reports, or the two welds.</param>
public sealed record RenewRequest(DateOnly? Day, string? Evidence);

/// <summary>Use of a process to be signed for.</summary>
/// <param name="CouponId">The coupon that shows it; null for work elsewhere.</param>
/// <param name="Says">The job or weld, for work elsewhere.</param>
/// <param name="Within">For work elsewhere: the records in whose range it was, where the code asks for that.</param>
public sealed record SignUse(Guid? Id, Guid? CouponId, string? Process, DateOnly? Day, string? Says, IReadOnlyList<long>? Within);

/// <summary>Uses to be signed for at once.</summary>
public sealed record SignUses(Guid? StudentId, IReadOnlyList<SignUse?>? Uses);

/// <summary>A qualification from another school or employer, as its paper says. Lengths in mm.</summary>
/// <param name="Paper">Who issued it, and its number.</param>
/// <param name="LastUsedOn">The last use that the paper confirms; null for the day of the test.</param>
public sealed record OutsideRequest(
    string? Code,
    string? Paper,
    string? Title,
    string? Process,
    Core.Vocabulary.Product? Product,
    Core.Vocabulary.WeldKind? Weld,
    string? Position,
    Core.Vocabulary.Progression? Progression,
    double? ThicknessMm,
    double? OutsideDiameterMm,
    Backed? Backing,
    int? FNumber,
    string? FillerGroup,
    string? Covering,
    DateOnly? TestedOn,
    DateOnly? LastUsedOn,
    string? Route
);

/// <summary>A revision of a record.</summary>
public sealed record RevisionView(Guid Id, int Revision, DateTimeOffset IssuedAt, string IssuedBy, string? Because);

/// <summary>A renewal that was recorded.</summary>
public sealed record RenewalView(Guid Id, DateOnly Day, string Evidence, string By);

/// <summary>A record as it is shown.</summary>
/// <param name="Held">Each of its processes and until when it holds; empty when another revision counts, or when it was revoked.</param>
/// <param name="Routes">The routes by which it can be renewed; empty where the code has none.</param>
public sealed record CertificateView(
    Guid Id,
    Guid StudentId,
    Guid? SittingId,
    string CodeName,
    bool Outside,
    QualificationRecord Record,
    string? Signature,
    string? PublicKey,
    IReadOnlyList<Held> Held,
    IReadOnlyList<RevisionView> Revisions,
    IReadOnlyList<RenewalView> Renewals,
    IReadOnlyList<RenewalRoute> Routes,
    Guid? ReplacedBy,
    DateTimeOffset? RevokedAt,
    string? RevokedWhy,
    IReadOnlyList<FileView> Files
);

/// <summary>A use that was signed for.</summary>
/// <param name="Keeps">The records that it keeps alive, by number.</param>
public sealed record UseView(
    Guid Id,
    Guid? CouponId,
    string? Stamp,
    string Process,
    DateOnly Day,
    string Says,
    string SignedBy,
    IReadOnlyList<long> Keeps
);

/// <summary>What a student holds, with the proof.</summary>
public sealed record HoldsView(
    Guid StudentId,
    string StudentName,
    IReadOnlyList<Held> Held,
    IReadOnlyList<UseView> Proofs,
    IReadOnlyList<OpenUse> ToSign
);

/// <summary>A weld of a job, and what of a student's covers it.</summary>
/// <param name="Number">The record; null when none does.</param>
/// <param name="EndsOn">Until when that holds.</param>
public sealed record HeldFor(string Name, Guid? RecordId, long? Number, DateOnly? EndsOn);

/// <summary>Who holds what: a row for each student, with what is held of each code and process.</summary>
public sealed record HoldsBoard(IReadOnlyList<BoardColumn> Columns, IReadOnlyList<BoardRow> Rows, int Records);

/// <summary>A code and process that somebody holds.</summary>
public sealed record BoardColumn(string Code, string CodeName, string Process);

public sealed record BoardRow(Guid StudentId, string Name, string ClassName, IReadOnlyList<Held> Held);

/// <summary>How certifying went in a class.</summary>
/// <param name="Certificates">Records that count.</param>
/// <param name="FirstSittings">Tests that were sat for the first time, each student and test once...</param>
/// <param name="FirstPassed">...and those of them that were passed.</param>
/// <param name="PassRate">Share of them, with its 95 % interval; null before the first.</param>
/// <param name="Cost">What the sittings cost, in the money of the school.</param>
/// <param name="CostPerCertificate">Null before the first.</param>
public sealed record ClassFigures(
    Guid? ClassId,
    string Name,
    DateOnly? TermEnds,
    bool Over,
    int Students,
    int Certificates,
    int FirstSittings,
    int FirstPassed,
    RateView? PassRate,
    double Cost,
    double? CostPerCertificate
);

/// <summary>A share with its interval, 0 to 1.</summary>
public sealed record RateView(double Share, double Lower, double Upper);

public sealed class CertifyValidator : AbstractValidator<CertifyRequest>
{
    public CertifyValidator()
    {
        RuleFor(request => request.SittingId).NotNull().WithMessage("The sitting that was passed.");
        RuleFor(request => request.Procedure).MaximumLength(200).WithMessage("At most 200 characters.");
        RuleFor(request => request.Witness).MaximumLength(100).WithMessage("At most 100 characters.");
        RuleFor(request => request.Evaluator).MaximumLength(100).WithMessage("At most 100 characters.");
        RuleFor(request => request.Because).NeedsText(500, "why it is corrected").When(request => request.Replaces is not null);
        RuleFor(request => request.Said)
            .Must(said => said is null || (said.Count <= 20 && said.All(one => one.Key.Length <= 40 && one.Value is { Length: <= 300 })))
            .WithMessage("At most 20 fields of at most 300 characters.");
    }
}

public sealed class RevokeValidator : AbstractValidator<RevokeRequest>
{
    public RevokeValidator() => RuleFor(request => request.Why).NeedsText(500, "the reason");
}

public sealed class RenewValidator : AbstractValidator<RenewRequest>
{
    public RenewValidator()
    {
        RuleFor(request => request.Day).NotNull().WithMessage("The day of the renewal.");
        RuleFor(request => request.Evidence).NeedsText(500, "the reports or welds");
    }
}

public sealed class SignUsesValidator : AbstractValidator<SignUses>
{
    public SignUsesValidator()
    {
        RuleFor(request => request.StudentId).NotNull().WithMessage("Choose a student.");
        RuleFor(request => request.Uses)
            .Must(uses => uses is { Count: > 0 and <= HoldsReader.MostUses } && uses.All(one => one is not null))
            .WithMessage($"1 to {HoldsReader.MostUses} uses.");
        RuleForEach(request => request.Uses)
            .Must(use => use?.Id is not null && use.Process is { Length: > 0 and <= 10 } && use.Within is null or { Count: <= 50 })
            .WithMessage("Each with an id, and its process.");
        RuleForEach(request => request.Uses)
            .Must(use => use?.CouponId is not null || (use?.Day is not null && use.Says is { Length: > 0 and <= 300 }))
            .WithMessage("The coupon, or for work elsewhere the day and the job or weld, 1 to 300 characters.");
    }
}

public sealed class OutsideValidator : AbstractValidator<OutsideRequest>
{
    public OutsideValidator()
    {
        RuleFor(request => request.Code).NeedsOneOf(Ranges.ByCode.Keys);
        RuleFor(request => request.Paper).NeedsText(200, "who issued it, and its number");
        RuleFor(request => request.Title).NeedsText(200, "what was tested, in words");
        RuleFor(request => request.Process)
            .Must((request, process) => request.Code is { } code && CoveringRules.ByCode.GetValueOrDefault(code)?.Processes.Contains(process) == true)
            .WithMessage("A process of the code.");
        RuleFor(request => request.Product).NeedsOneOf();
        RuleFor(request => request.Weld).NeedsOneOf();
        RuleFor(request => request.Position).NeedsText(10, "the position of the test");
        RuleFor(request => request.Progression).NeedsOneOf();
        RuleFor(request => request.ThicknessMm).NeedsOver0(500, "the thickness in mm");
        RuleFor(request => request.OutsideDiameterMm).MayBeOver0(5000, "The outside diameter in mm");
        RuleFor(request => request.Backing).NeedsOneOf();
        RuleFor(request => request.FNumber).Must(number => number is null or (>= 1 and <= 72)).WithMessage("An F-number from 1 to 72, or left out.");
        RuleFor(request => request.FillerGroup).MaximumLength(20).WithMessage("At most 20 characters.");
        RuleFor(request => request.Covering).MaximumLength(4).WithMessage("At most 4 characters.");
        RuleFor(request => request.TestedOn).NotNull().WithMessage("The day of the test.");
        RuleFor(request => request.LastUsedOn).Must((request, last) => last is null || last >= request.TestedOn).WithMessage("Not before the test.");
    }
}
