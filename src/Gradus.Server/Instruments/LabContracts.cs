using FluentValidation;
using Gradus.Core.Bench;
using Gradus.Core.Inspection;
using Gradus.Core.Library;
using Gradus.Data;
using Gradus.Server.Coupons;
using Gradus.Server.Hosting;

namespace Gradus.Server.Instruments;

/// <summary>Specimens to be given to a laboratory.</summary>
/// <param name="Specimens">Which of the test's specimens, from 0.</param>
public sealed record LabOrderRequest(Guid? DeviceId, IReadOnlyList<int>? Specimens);

/// <summary>What a laboratory saw.</summary>
/// <param name="Found">Of each specimen that it looked at, as its kind shows it.</param>
public sealed record LabReportRequest(IReadOnlyList<LabFound>? Found, string? Remark);

/// <summary>What laboratories have of a coupon, and had.</summary>
/// <param name="Laboratories">Those that specimens can be given to.</param>
/// <param name="Orders">The latest first.</param>
public sealed record CouponLab(IReadOnlyList<LabPlace> Laboratories, IReadOnlyList<LabOrderView> Orders);

/// <summary>A laboratory of the school.</summary>
public sealed record LabPlace(Guid Id, string Name);

/// <summary>Specimens at a laboratory.</summary>
/// <param name="ReceivedAt">When it said that it has them.</param>
/// <param name="ReturnedAt">When its report or the first of its files came back.</param>
/// <param name="DoneAt">Since when nothing waits on it any more.</param>
/// <param name="IsTaken">Whether what it saw was taken over; otherwise it was called back or put aside.</param>
public sealed record LabOrderView(
    Guid Id,
    string Laboratory,
    IReadOnlyList<LabMark> Specimens,
    DateTimeOffset SentAt,
    string SentBy,
    DateTimeOffset? ReceivedAt,
    DateTimeOffset? ReturnedAt,
    string? Remark,
    IReadOnlyList<LabFoundView> Found,
    IReadOnlyList<FileView> Files,
    DateTimeOffset? DoneAt,
    bool IsTaken
);

/// <summary>A specimen with the mark that is struck into it.</summary>
public sealed record LabMark(int Specimen, string Mark, string Kind);

/// <summary>What was seen on a specimen.</summary>
/// <param name="Verdict">What the limits of the coupon say to it; it counts once it is taken over. Null where the coupon is cut otherwise by now.</param>
public sealed record LabFoundView(LabFound Found, TestVerdict? Verdict);

/// <summary>Specimens that a laboratory is asked to look at. Nobody's name is told.</summary>
/// <param name="Stamp">Of the coupon.</param>
/// <param name="ThicknessMm">Of the plate, or the wall of the pipe.</param>
/// <param name="LegMm">The leg that a fillet was asked for.</param>
public sealed record LabAsked(
    Guid Id,
    string Stamp,
    DateTimeOffset SentAt,
    DateTimeOffset? ReceivedAt,
    string Code,
    Product Product,
    WeldKind Weld,
    double ThicknessMm,
    double? OutsideDiameterMm,
    double? LegMm,
    IReadOnlyList<Process> Processes,
    IReadOnlyList<LabSpecimen> Specimens
);

/// <summary>A specimen that is asked about.</summary>
/// <param name="Specimen">Which, from 0; a report names it by this.</param>
/// <param name="Mark">What is struck into it.</param>
/// <param name="Shows">The member of a report that says what is seen on its kind.</param>
/// <param name="FromMm">Where it is cut along a plate.</param>
/// <param name="Clock">Where it is cut round a pipe.</param>
public sealed record LabSpecimen(int Specimen, string Mark, string Kind, string Shows, double? FromMm, double? ToMm, string? Clock);

/// <summary>Specimens that came back from a laboratory and wait to be taken over.</summary>
public sealed record LabDue(Guid CouponId, string Stamp, string Student, string Laboratory, int Specimens, bool HasReport, DateTimeOffset ReturnedAt);

public sealed class LabOrderRequestValidator : AbstractValidator<LabOrderRequest>
{
    private const int Most = 40;

    public LabOrderRequestValidator()
    {
        RuleFor(request => request.DeviceId).NotNull().WithMessage("Give the laboratory.");
        RuleFor(request => request.Specimens)
            .Must(list => list is { Count: >= 1 and <= Most } && list.Distinct().Count() == list.Count && list.All(one => one >= 0))
            .WithMessage($"Give 1 to {Most} specimens of the test, each once, from 0.");
    }
}

public sealed class LabReportRequestValidator : AbstractValidator<LabReportRequest>
{
    private const int Most = 40;
    private const int MostSeen = 100;
    private const int LongestRemark = 2000;

    public LabReportRequestValidator()
    {
        RuleFor(request => request.Found)
            .Must(list =>
                list is { Count: >= 1 and <= Most }
                && list.All(one => one is not null)
                && list.Select(one => one.Specimen).Distinct().Count() == list.Count
            )
            .WithMessage($"Give what was seen on 1 to {Most} specimens, each once.");
        RuleFor(request => request.Found)
            .Must(list => list is null || list.Where(one => one is not null).All(one => Seen(one) <= MostSeen))
            .WithMessage($"At most {MostSeen} of what is seen on a specimen.");
        RuleFor(request => request.Found)
            .Must(list => list is null || list.Where(one => one is not null).All(one => one.Remark is null or { Length: <= LongestRemark }))
            .WithMessage($"At most {LongestRemark} characters of a specimen.");
        RuleFor(request => request.Remark)
            .Must(remark => remark is null or { Length: <= LongestRemark })
            .WithMessage($"At most {LongestRemark} characters.");
    }

    private static int Seen(LabFound one) =>
        (one.Bend?.Discontinuities.Count ?? 0)
        + (one.NickBreak?.PoresMm.Count ?? 0)
        + (one.NickBreak?.Slag.Count ?? 0)
        + (one.FilletBreak?.InclusionsMm.Count ?? 0)
        + (one.Indications?.Count ?? 0);
}
