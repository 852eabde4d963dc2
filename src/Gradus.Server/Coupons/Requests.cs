using FluentValidation;
using Gradus.Core.Bench;
using Gradus.Core.Inspection;
using Gradus.Core.Joints;
using Gradus.Core.Library;
using Gradus.Core.Measure;
using Gradus.Server.Hosting;
using Gradus.Server.Library;

namespace Gradus.Server.Coupons;

/// <summary>Starts a coupon. <c>drillId</c> null means a full coupon; <c>asTest</c> means unaided, under the rules of the test.</summary>
/// <param name="JudgedBy">The profile that it is judged by; the test's own when it is left out.</param>
public sealed record StartCoupon(
    Guid? StudentId,
    string? TestId,
    string? DrillId,
    Dictionary<string, string>? Variants,
    Guid? BoothId,
    bool? AsTest,
    string? JudgedBy = null
);

/// <summary>A fit-up as measured.</summary>
public sealed record RecordFitUp(IReadOnlyList<FitUpPoint>? Points, IReadOnlyList<Tack>? Tacks, Dictionary<string, bool>? Answers);

/// <summary>A pass. Settings that the process does not have are left out.</summary>
/// <param name="Part">True for one of several runs that make the bead together, from <c>startAt</c> to <c>stopAt</c>.</param>
/// <param name="Side">On pipe the side by which it went, where from and to go either way.</param>
public sealed record RecordPass(
    string? BeadKey,
    Process? Process,
    string? ElectrodeClass,
    double? DiameterMm,
    Polarity? Polarity,
    double? Amps,
    double? Volts,
    double? WireFeedMmPerMin,
    string? Gas,
    BeadTechnique? Technique,
    Progression? Progression,
    OperatorHand? Hand,
    double? InterpassC = null,
    double? BelowFlushMm = null,
    string? StartAt = null,
    string? StopAt = null,
    bool? Part = null,
    PipeSide? Side = null,
    RunMeasures? Measured = null
);

/// <summary>A finding at its place: <c>clock</c> on pipe (<c>4:30</c>), <c>fromStartMm</c> on plate.</summary>
public sealed record RecordFinding(
    Guid? PassId,
    DiscontinuityKind? Kind,
    Stage? Stage,
    string? Clock,
    double? FromStartMm,
    double? DepthMm,
    double? HeightMm,
    double? LengthMm,
    double? DiameterMm,
    double? WidthMm,
    int? Count,
    JointMember? Toe = null,
    double? FaceHeightThereMm = null,
    FindingShape? Shape = null
);

public sealed record RecordNote(string? Text);

/// <summary>Anything else that happens to a coupon; the body carries what its kind needs.</summary>
public sealed record RecordEvent(BenchEventKind? Kind, BenchEventBody? Body);

/// <summary>Which verdict counts in readiness.</summary>
/// <param name="ClosingId">The closing; all of them when it is left out.</param>
/// <param name="Declined">True to let the signed one count, false for today's.</param>
public sealed record DeclineToday(Guid? ClosingId, bool? Declined);

/// <summary>Confirms what a student proposed.</summary>
/// <param name="Ids">Of the records, as they were seen.</param>
public sealed record ConfirmProposals(IReadOnlyList<Guid>? Ids);

public sealed class ConfirmProposalsValidator : AbstractValidator<ConfirmProposals>
{
    public ConfirmProposalsValidator() =>
        RuleFor(request => request.Ids)
            .Must(ids => ids is { Count: > 0 and <= Limits.RecordsPerCoupon })
            .WithMessage($"Give the ids of 1 to {Limits.RecordsPerCoupon} records.");
}

public sealed class DeclineTodayValidator : AbstractValidator<DeclineToday>
{
    public DeclineTodayValidator() =>
        RuleFor(request => request.Declined).NotNull().WithMessage("true to let the signed verdict count, false for today's.");
}

public sealed class StartCouponValidator : AbstractValidator<StartCoupon>
{
    public StartCouponValidator(SchoolLibrary library)
    {
        RuleFor(request => request.StudentId).NotNull().WithMessage("Choose a student.");
        RuleFor(request => request.AsTest).NotNull().WithMessage("Say true for a coupon under test rules, false for a coached one.");
        RuleFor(request => request.TestId).NeedsOneOf(() => library.Tests.Keys);
        When(
            request => request.TestId is not null && library.Tests.ContainsKey(request.TestId),
            () =>
            {
                RuleFor(request => request.DrillId)
                    .Must((request, drill) => drill is null || library.Tests[request.TestId!].Drills.Any(one => one.Id == drill))
                    .WithMessage(request =>
                        $"Leave out for a full coupon, or give one of: {string.Join(", ", library.Tests[request.TestId!].Drills.Select(one => one.Id))}."
                    );
                RuleFor(request => request.Variants)
                    .Must((request, chosen) => chosen is null || chosen.All(one => IsOption(library.Tests[request.TestId!], one)))
                    .WithMessage("Give for each variant group of the test one of its options.");
                RuleFor(request => request.JudgedBy)
                    .Must((request, by) => by is null || library.JudgeableBy(request.TestId!).Contains(by))
                    .WithMessage(request =>
                        $"Leave out for the test's own, or give one of: {string.Join(", ", library.JudgeableBy(request.TestId!))}."
                    );
            }
        );
    }

    private static bool IsOption(TestTemplate template, KeyValuePair<string, string> chosen) =>
        template.Variants.Any(group => group.Id == chosen.Key && group.Options.Any(option => option.Id == chosen.Value));
}

public sealed class RecordFitUpValidator : AbstractValidator<RecordFitUp>
{
    private const int MostPoints = 24;
    private const int MostPlaceLength = 24; // a distance with all digits of a double

    public RecordFitUpValidator()
    {
        RuleFor(request => request.Points)
            .Must(points => points is { Count: <= MostPoints } && points.All(point => point is not null))
            .WithMessage($"Give the points that were measured, at most {MostPoints}.");
        RuleForEach(request => request.Points)
            .ChildRules(point =>
            {
                point.RuleFor(one => one.At).NeedsText(8, "the point: a clock position, start or end");
                point.RuleFor(one => one.BevelDegA).MayBe(0, BevelAngle.MaxDegrees, "A bevel angle in degrees from square");
                point.RuleFor(one => one.BevelDegB).MayBe(0, BevelAngle.MaxDegrees, "A bevel angle in degrees from square");
                point.RuleFor(one => one.RootOpeningMm).MayBe(0, 50, "A root opening in mm");
                point.RuleFor(one => one.RootFaceMm).MayBe(0, 50, "A root face in mm");
                point.RuleFor(one => one.OffsetMm).MayBe(0, 25, "An offset in mm");
                point.RuleFor(one => one.StripGapMm).MayBe(0, 25, "A gap at the strip in mm");
                point.RuleFor(one => one.RingGapMm).MayBe(0, 25, "A gap of the ring in mm");
            });
        RuleFor(request => request.Tacks)
            .Must(tacks =>
                tacks is { Count: <= MostPoints }
                && tacks.All(tack => tack is { At: { Length: > 0 and <= MostPlaceLength }, LengthMm: > 0 and <= 200 })
            )
            .WithMessage($"Give the tacks, at most {MostPoints}, each with its place and a length over 0 and at most 200 mm.");
        RuleFor(request => request.Answers).NotNull().WithMessage("Give the answers, an empty map when none is answered yet.");
    }
}

public sealed class RecordPassValidator : AbstractValidator<RecordPass>
{
    public RecordPassValidator()
    {
        RuleFor(request => request.BeadKey).NeedsText(40, "the bead that was laid");
        RuleFor(request => request.Process).NeedsOneOf();
        RuleFor(request => request.ElectrodeClass).NeedsText(40, "the electrode classification");
        RuleFor(request => request.DiameterMm).NeedsOver0(12, "the electrode diameter in mm");
        RuleFor(request => request.Polarity).NeedsOneOf();
        RuleFor(request => request.Amps).NeedsOver0(1000, "the current in amps");
        RuleFor(request => request.Volts).MayBe(1, 100, "The voltage");
        RuleFor(request => request.WireFeedMmPerMin).MayBe(100, 50_000, "The wire feed in mm/min");
        RuleFor(request => request.Gas).Must(gas => gas is null or { Length: <= 40 }).WithMessage("At most 40 characters.");
        RuleFor(request => request.Technique).NeedsOneOf();
        RuleFor(request => request.Progression).NeedsOneOf();
        RuleFor(request => request.Hand).NeedsOneOf();
        RuleFor(request => request.InterpassC).MayBe(-40, 1200, "The temperature before the pass in °C");
        RuleFor(request => request.BelowFlushMm).MayBe(0, 200, "The fill level below flush in mm");
        RuleFor(request => request.StartAt).Must(at => at is null or { Length: <= 24 }).WithMessage("A place on the joint, at most 24 characters.");
        RuleFor(request => request.StopAt).Must(at => at is null or { Length: <= 24 }).WithMessage("A place on the joint, at most 24 characters.");
        RuleFor(request => request.Measured!)
            .ChildRules(run =>
            {
                run.RuleFor(one => one.GasFlowLPerMin).MayBe(0, 100, "A gas flow in L/min");
                run.RuleFor(one => one.CupNumber).Must(cup => cup is null or (>= 3 and <= 20)).WithMessage("A cup by its number, 3 to 20.");
                run.RuleFor(one => one.StickOutMm).MayBe(0, 100, "A stick-out in mm");
                run.RuleFor(one => one.RunLengthMm).MayBe(0, 5000, "The length of a run in mm");
                run.RuleFor(one => one.ArcSeconds).MayBe(0, 7200, "The arc time in seconds");
                run.RuleFor(one => one.RodsUsed).MayBe(0, 100, "The rods that it took");
                run.RuleFor(one => one.Restarts).Must(count => count is null or (>= 0 and <= 100)).WithMessage("A whole number from 0 to 100.");
                run.RuleFor(one => one.GapAtTieInMm).MayBe(0, 50, "The root opening at the tie-in in mm");
                run.RuleFor(one => one.BeadWidthMm).MayBe(0, 100, "The width of the bead in mm");
                run.RuleFor(one => one.RodOutHours).MayBe(0, 1000, "Hours out of the oven");
                run.RuleFor(one => one.OxygenPercent).MayBe(0, 21, "Oxygen in per cent");
                run.RuleFor(one => one.Levels)
                    .Must(levels =>
                        levels is null
                        || (levels.Count <= 24 && levels.All(one => one is { At.Length: > 0 and <= 24, BelowFlushMm: >= -25 and <= 200 }))
                    )
                    .WithMessage("At most 24 levels, each with its place and how far below flush it is, -25 to 200 mm.");
            })
            .When(request => request.Measured is not null);
    }
}

public sealed class RecordFindingValidator : AbstractValidator<RecordFinding>
{
    private const double MostMm = 2000;

    public RecordFindingValidator()
    {
        RuleFor(request => request.Kind).NeedsOneOf();
        RuleFor(request => request.Stage).NeedsOneOf();
        RuleFor(request => request.Clock)
            .Must(clock => clock is null || ClockPosition.TryParse(clock, out _))
            .WithMessage("A place on the clock, 1:00 to 12:59.");
        RuleFor(request => request.FromStartMm).MayBe(0, MostMm, "The distance from the start in mm");
        RuleFor(request => request.DepthMm).MayBe(0, MostMm, "A depth in mm");
        RuleFor(request => request.HeightMm).MayBe(0, MostMm, "A height in mm");
        RuleFor(request => request.LengthMm).MayBe(0, MostMm, "A length in mm");
        RuleFor(request => request.DiameterMm).MayBe(0, MostMm, "A diameter in mm");
        RuleFor(request => request.WidthMm).MayBe(0, MostMm, "A width in mm");
        RuleFor(request => request.FaceHeightThereMm).MayBe(-20, 20, "The height of the face over flush in mm");
        RuleFor(request => request.Count)
            .Must(count => count is null or (>= 1 and <= 1000))
            .WithMessage("A count is a whole number from 1 to 1000, or left out.");
    }
}

public sealed class RecordEventValidator : AbstractValidator<RecordEvent>
{
    public RecordEventValidator()
    {
        RuleFor(request => request.Kind).NeedsOneOf();
        RuleFor(request => request.Body).NotNull().WithMessage("Give what the kind needs; an empty object when it needs nothing.");
        RuleFor(request => request.Body!.Note)
            .Must(note => note is null or { Length: <= 500 })
            .WithMessage("At most 500 characters.")
            .When(request => request.Body is not null);
        RuleFor(request => request.Body!.BeadKey)
            .Must(key => key is null or { Length: <= 60 })
            .WithMessage("A bead by its key.")
            .When(request => request.Body is not null);
        RuleFor(request => request.Body!.Correction!.Variants)
            .Must(variants => variants is null or { Count: <= 30 })
            .WithMessage("At most 30 variants.")
            .When(request => request.Body?.Correction is not null);
    }
}

public sealed class RecordNoteValidator : AbstractValidator<RecordNote>
{
    public RecordNoteValidator() => RuleFor(request => request.Text).NeedsText(2000, "the note");
}
