using FluentValidation;
using Gradus.Core.Planning;
using Gradus.Data;
using Gradus.Server.Hosting;

namespace Gradus.Server.Planning;

/// <summary>A week as it is planned, with what it is planned from.</summary>
/// <param name="Days">The days on which anybody comes, with the slots of their periods.</param>
/// <param name="Proposal">Cells of a solved week that waits to be accepted; null when there is none.</param>
/// <param name="Gain">What is still ahead of the accepted plan adds over all students, in chances.</param>
/// <param name="FirstOpen">The first slot that is not over; the number of slots of the week where all are.</param>
/// <param name="Done">What was made in the week so far.</param>
public sealed record WeekView(
    DateOnly Monday,
    IReadOnlyList<WeekDay> Days,
    IReadOnlyList<string> PeriodNames,
    double HoursPerPeriod,
    int HoldPointsPerPeriod,
    IReadOnlyList<PlanBooth> Booths,
    IReadOnlyList<PlanStudent> Students,
    IReadOnlyList<PlannedCell> Cells,
    IReadOnlyList<PlannedCell>? Proposal,
    JobView? Job,
    DateTimeOffset? AcceptedAt,
    double Gain,
    double Cost,
    int FirstOpen,
    IReadOnlyList<SlotDone> Done
);

/// <summary>What a student made in a slot, whatever was planned.</summary>
/// <param name="CouponId">The last of them.</param>
/// <param name="Clean">Of how many nothing was rejected.</param>
/// <param name="Open">How many are in work still.</param>
public sealed record SlotDone(Guid StudentId, int Slot, Guid CouponId, int Made, int Clean, int Open);

public sealed record WeekDay(DateOnly Day, IReadOnlyList<int> Slots);

public sealed record PlanBooth(
    Guid Id,
    int Number,
    IReadOnlyList<string> Processes,
    IReadOnlyList<string> Has,
    int Column,
    int Row,
    string? ClosedWhy
)
{
    public static PlanBooth From(Booth booth) =>
        new(
            booth.Id,
            booth.Number,
            booth.Processes,
            [.. Traits.Where(trait => booth.Has.HasFlag(trait)).Select(trait => trait.ToString().ToLowerInvariant())],
            booth.Column,
            booth.Row,
            booth.ClosedAt is null ? null : booth.ClosedWhy ?? "Closed"
        );

    private static readonly BoothTraits[] Traits = [.. Enum.GetValues<BoothTraits>().Where(trait => trait != BoothTraits.None)];
}

/// <param name="Comes">The slots in which the student comes.</param>
/// <param name="Away">Those in which they would, and are put down as absent.</param>
/// <param name="TestId">The test that they work on first; null where they have nothing to practise.</param>
/// <param name="Sound">The chance that a coupon of it which is clean by eye is sound inside: what a gain is worth for passing.</param>
/// <param name="Chance">The chance of passing what they work on first; null where too little is known or they have nothing to practise.</param>
/// <param name="Without">Why they have no place in what is left of the week; null when they have one.</param>
public sealed record PlanStudent(
    Guid Id,
    string Name,
    string ClassName,
    IReadOnlyList<int> Comes,
    IReadOnlyList<int> Away,
    IReadOnlyList<PlanItem> Items,
    IReadOnlyList<string> Withheld,
    string? TestId,
    double? Chance,
    double Sound,
    string? Without
);

/// <summary>An item as the week board and the student's way show it.</summary>
/// <param name="Fault">The fault that came back and that it works on, in words.</param>
public sealed record PlanItem(
    string Id,
    string TestId,
    ItemKind Kind,
    string? DrillId,
    string Name,
    double Gain,
    double GainPerHour,
    double GainPerCost,
    Stage Stage,
    string? Place,
    string? Fault,
    IReadOnlyDictionary<string, string> Variants,
    string Process,
    double Minutes,
    int FromCoupons,
    double Cost,
    int HoldPoints,
    string Why,
    int Asked,
    IReadOnlyList<PeriodPart> Parts
)
{
    public static PlanItem From(PrescribedItem item) =>
        new(
            item.Id,
            item.TestId,
            item.Kind,
            item.DrillId,
            item.Name,
            item.Gains[0],
            item.GainPerHour,
            item.GainPerCost,
            item.Stage,
            item.Place,
            item.Fault is { } fault
                ? $"{Core.Inspection.Discontinuities.Of(fault.Kind).Name} came back in {fault.Coupons} of the last {fault.OfCoupons} full coupons"
                : null,
            item.Variants,
            item.Process,
            item.Work.BoothMinutes,
            item.Work.FromCoupons,
            item.Work.Cost,
            item.HoldPoints,
            item.Why,
            item.Asked,
            item.Parts
        );
}

/// <summary>Asks for a week to be solved.</summary>
/// <param name="FewestMoves">True to keep as many cells as can be kept.</param>
public sealed record SolveWeek(double? Seconds, bool FewestMoves = false);

/// <summary>A change by hand to the accepted plan: what stands in a student's slot.</summary>
/// <param name="ItemId">One of the student's items; null takes out what is there.</param>
/// <param name="BoothId">Null lets the plan choose one that is free and fits.</param>
/// <param name="FromSlot">The slot that it is moved from; it is emptied. Null when nothing is moved.</param>
public sealed record EditCell(Guid? StudentId, int? Slot, string? ItemId, Guid? BoothId, int? FromSlot, bool Pinned = true);

/// <summary>A student who does not come.</summary>
/// <param name="Period">The period of the day; null for all of it.</param>
public sealed record AbsenceRequest(Guid? StudentId, DateOnly? Day, int? Period);

/// <summary>A booth as the school has it.</summary>
public sealed record BoothRequest(
    IReadOnlyList<string>? Processes,
    bool? Pipe,
    bool? Purge,
    bool? Extraction,
    bool? Positioner,
    int? Column,
    int? Row
);

/// <param name="Why">Why it cannot be used; null opens it again.</param>
public sealed record CloseBooth(string? Why);

public sealed class SolveWeekValidator : AbstractValidator<SolveWeek>
{
    public SolveWeekValidator() => RuleFor(request => request.Seconds).MayBe(0.5, 60, "The time to solve in seconds");
}

public sealed class EditCellValidator : AbstractValidator<EditCell>
{
    public EditCellValidator()
    {
        RuleFor(request => request.StudentId).NotNull().WithMessage("Give the student's id.");
        RuleFor(request => request.Slot).Must(slot => slot is >= 0 and < 1000).WithMessage("Give the slot of the week, counted from 0.");
    }
}

public sealed class AbsenceRequestValidator : AbstractValidator<AbsenceRequest>
{
    public AbsenceRequestValidator()
    {
        RuleFor(request => request.StudentId).NotNull().WithMessage("Give the student's id.");
        RuleFor(request => request.Day).NotNull().WithMessage("Give the day, as 2026-11-23.");
        RuleFor(request => request.Period)
            .Must(period => period is null or (>= 0 and < 20))
            .WithMessage("Give the period of the day, counted from 0, or leave it out.");
    }
}

public sealed class BoothRequestValidator : AbstractValidator<BoothRequest>
{
    public static readonly string[] Processes = ["SMAW", "GTAW", "GMAW", "FCAW-G", "FCAW-S"];

    public BoothRequestValidator()
    {
        RuleFor(request => request.Processes)
            .Must(runs => runs is not null && runs.All(one => Processes.Contains(one)) && runs.Distinct().Count() == runs.Count)
            .WithMessage($"Give the processes that it runs, each once: any of {string.Join(", ", Processes)}.");
        RuleFor(request => request.Column).Must(at => at is >= 0 and < 40).WithMessage("Give the column, 0 to 39.");
        RuleFor(request => request.Row).Must(at => at is >= 0 and < 40).WithMessage("Give the row, 0 to 39.");
    }
}

public sealed class CloseBoothValidator : AbstractValidator<CloseBooth>
{
    public CloseBoothValidator() => RuleFor(request => request.Why).MaximumLength(200).WithMessage("At most 200 characters.");
}
