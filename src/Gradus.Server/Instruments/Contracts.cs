using FluentValidation;
using Gradus.Core.Traces;
using Gradus.Data;
using Gradus.Server.Hosting;

namespace Gradus.Server.Instruments;

/// <summary>A device to be paired.</summary>
/// <param name="BoothId">The booth whose machine an arc logger measures.</param>
/// <param name="LeadVolts">What is lost in the leads there, 0 to 5 V; left out for nothing.</param>
public sealed record DeviceRequest(DeviceKind? Kind, string? Name, Guid? BoothId, double? LeadVolts);

/// <summary>A device that was paired.</summary>
/// <param name="Key">What it shows in the header Gradus-Key. It is told once; null where the device was known.</param>
public sealed record PairedDevice(Guid Id, string? Key);

/// <summary>A device of the school.</summary>
/// <param name="HeardAt">When something last came from it since the program runs; null: nothing.</param>
/// <param name="AheadMs">By how many milliseconds the school's clock is ahead of its own.</param>
/// <param name="Waiting">Seconds of measurement that are not in a trace yet.</param>
public sealed record DeviceView(
    Guid Id,
    DeviceKind Kind,
    string Name,
    Guid? BoothId,
    int? Booth,
    double LeadVolts,
    DateTimeOffset PairedAt,
    DateTimeOffset? HeardAt,
    long? AheadMs,
    int Waiting
);

/// <summary>A second of measurements, or so. The number under which it is sent runs on and never goes back; it may be sent again.</summary>
/// <param name="At">When the first was made, by the device's clock.</param>
/// <param name="SentAt">When it was sent, by the same clock.</param>
/// <param name="Hz">Measurements in a second, 10 to 50.</param>
/// <param name="FeedMmPerMin">Of a wire; left out where it is not measured.</param>
public sealed record ArcBatchRequest(
    DateTimeOffset? At,
    DateTimeOffset? SentAt,
    int? Hz,
    IReadOnlyList<double>? Amps,
    IReadOnlyList<double>? Volts,
    IReadOnlyList<double>? FeedMmPerMin
);

/// <summary>What was written.</summary>
/// <param name="Again">True when it was there already.</param>
public sealed record ArcBatchTaken(long Sequence, bool Again);

/// <summary>A trace to be read. Evenly sampled; a measurement that was not received is null.</summary>
public sealed record TraceRequest(
    Process? Process,
    string? ElectrodeClass,
    TraceCardRequest? Card,
    double? RunLengthMm,
    double? Hz,
    IReadOnlyList<double?>? Amps,
    IReadOnlyList<double?>? Volts,
    IReadOnlyList<double?>? FeedMmPerMin,
    double? OwnVolts
);

/// <summary>What it is held against.</summary>
public sealed record TraceCardRequest(Core.Vocabulary.Span? Amps, Core.Vocabulary.Span? Volts, Core.Vocabulary.Span? FeedMmPerMin);

/// <summary>What was read: the runs, and the moments that are worth looking at.</summary>
/// <param name="Version">Of the thresholds.</param>
public sealed record TraceAnswer(IReadOnlyList<ArcRun> Runs, IReadOnlyList<MomentView> Moments, int Version);

/// <summary>A moment.</summary>
public sealed record MomentView(double AtS, MomentKind What, double LastsS)
{
    public static MomentView From(TraceMoment one) => new(one.AtS, one.What, one.LastsS);
}

/// <summary>Which bead a trace is of.</summary>
/// <param name="PassId">The bead as it was written down; null: of none.</param>
public sealed record TraceBeadRequest(Guid? PassId);

/// <summary>The traces of the beads of a coupon.</summary>
/// <param name="Asked">Those that fit several beads.</param>
/// <param name="HasLogger">Whether an arc logger is paired with its booth, and the coupon is open.</param>
public sealed record CouponArcs(IReadOnlyList<BeadArcView> Beads, IReadOnlyList<AskedTrace> Asked, bool HasLogger);

/// <summary>What is measured in the booth of a coupon right now.</summary>
/// <param name="Live">Null where nothing comes.</param>
public sealed record CouponLive(LiveArc? Live);

/// <summary>The arc of a bead.</summary>
/// <param name="Arc">Of all its traces together.</param>
/// <param name="Travel">Length by arc time, in mm/min; null where no length is known.</param>
/// <param name="Heat">In kJ/mm.</param>
/// <param name="OwnVolts">The volts of the student's own clean beads of this kind; null with too few.</param>
/// <param name="LastClean">The last bead of this kind that came out clean, to be held beside; null when there is none.</param>
public sealed record BeadArcView(
    Guid PassId,
    IReadOnlyList<ArcTraceView> Traces,
    BeadArc Arc,
    double? Travel,
    double? Heat,
    double? OwnVolts,
    CleanArc? LastClean
);

/// <summary>A trace of a bead.</summary>
/// <param name="Best">The three moments to look at.</param>
/// <param name="HasPoints">False when its measurements were taken away by the rule of keeping.</param>
public sealed record ArcTraceView(
    Guid Id,
    DateTimeOffset FromAt,
    double Seconds,
    int Hz,
    IReadOnlyList<ArcRun> Runs,
    IReadOnlyList<MomentView> Moments,
    IReadOnlyList<MomentView> Best,
    bool HasPoints
);

/// <summary>The last clean bead of the same kind.</summary>
public sealed record CleanArc(Guid PassId, Guid CouponId, string Stamp, DateTimeOffset At, Guid TraceId, BeadArc Arc, bool HasPoints);

/// <summary>A trace that fits several beads.</summary>
public sealed record AskedTrace(Guid Id, DateTimeOffset FromAt, DateTimeOffset ToAt, double ArcSeconds, IReadOnlyList<FittingBead> Beads);

/// <summary>A bead that a trace fits.</summary>
public sealed record FittingBead(Guid PassId, Guid CouponId, string Stamp, string Student, string BeadKey, DateTimeOffset At);

/// <summary>What is measured in a booth right now.</summary>
/// <param name="IsOn">Whether an arc burns.</param>
/// <param name="Points">The last minute.</param>
public sealed record LiveArc(DateTimeOffset At, bool IsOn, double Amps, double Volts, TracePoints Points);

/// <summary>The measurements of a trace, drawn together to so many points: the mean, and the least and most volts.</summary>
/// <param name="StepS">Seconds from one point to the next.</param>
/// <param name="Amps">Means; null where nothing was received.</param>
public sealed record TracePoints(
    double StepS,
    IReadOnlyList<double?> Amps,
    IReadOnlyList<double?> Volts,
    IReadOnlyList<double?> VoltsMin,
    IReadOnlyList<double?> VoltsMax,
    IReadOnlyList<double?>? Feed
);

/// <summary>The arcs of a student's last beads.</summary>
public sealed record StudentArcs(IReadOnlyList<StudentArc> Beads);

/// <summary>A bead with its arc.</summary>
/// <param name="Clean">Whether its coupon is closed and nothing was found in it; null while the coupon is open.</param>
public sealed record StudentArc(
    Guid PassId,
    Guid CouponId,
    string Stamp,
    string TestId,
    Stage Stage,
    Process Process,
    string ElectrodeClass,
    DateTimeOffset At,
    bool? Clean,
    BeadArc Arc,
    IReadOnlyList<MomentView> Best
);

public sealed class DeviceRequestValidator : AbstractValidator<DeviceRequest>
{
    private const double MostLeadVolts = 5;

    public DeviceRequestValidator()
    {
        RuleFor(request => request.Kind).NeedsOneOf();
        RuleFor(request => request.Name).NeedsText(60, "a name for the device");
        RuleFor(request => request.LeadVolts).MayBe(0, MostLeadVolts, "What is lost in the leads");
        RuleFor(request => request.BoothId)
            .Must((request, booth) => (request.Kind == DeviceKind.ArcLogger) == booth is not null)
            .WithMessage("An arc logger is paired with a booth; a laboratory with none.");
    }
}

public sealed class ArcBatchRequestValidator : AbstractValidator<ArcBatchRequest>
{
    private const int MostSeconds = 2;

    public ArcBatchRequestValidator()
    {
        RuleFor(request => request.At).NotNull().WithMessage("Give when the first measurement was made.");
        RuleFor(request => request.SentAt).NotNull().WithMessage("Give when it was sent.");
        RuleFor(request => request.At)
            .Must((request, at) => request.SentAt is not { } sent || at <= sent)
            .WithMessage("It is measured before it is sent.");
        RuleFor(request => request.Hz).Must(hz => hz is >= 10 and <= 50).WithMessage("Give 10 to 50 measurements in a second.");
        RuleFor(request => request.Amps)
            .Must(
                (request, amps) =>
                    amps is { Count: >= 1 } && amps.Count <= MostSeconds * (request.Hz ?? 0) && amps.All(one => one is >= -5 and <= 2000)
            )
            .WithMessage($"Give the amps of at most {MostSeconds} seconds, each from 0 to 2000.");
        RuleFor(request => request.Volts)
            .Must((request, volts) => volts is not null && volts.Count == request.Amps?.Count && volts.All(one => one is >= -150 and <= 150))
            .WithMessage("Give as many volts as amps, each from 0 to 150.");
        RuleFor(request => request.FeedMmPerMin)
            .Must((request, feed) => feed is null || (feed.Count == request.Amps?.Count && feed.All(one => one is >= 0 and <= 50_000)))
            .WithMessage("Give as many feeds as amps, each from 0 to 50 000 mm/min, or none.");
    }
}

public sealed class TraceRequestValidator : AbstractValidator<TraceRequest>
{
    private const int MostSamples = 90_000; // half an hour at 50 in a second

    public TraceRequestValidator()
    {
        RuleFor(request => request.Process).NeedsOneOf();
        RuleFor(request => request.ElectrodeClass)
            .Must(name => name is null || name.Length is >= 1 and <= 40)
            .WithMessage("A classification of 1 to 40 characters, or left out.");
        RuleFor(request => request.Hz).Needs(10, 50, "the measurements in a second");
        RuleFor(request => request.RunLengthMm).MayBeOver0(100_000, "The length of the run in mm");
        RuleFor(request => request.OwnVolts).MayBe(5, 60, "The volts of the own clean beads");
        RuleFor(request => request.Amps)
            .Must(amps => amps is { Count: >= 1 and <= MostSamples } && amps.All(one => one is null or (>= -5 and <= 2000)))
            .WithMessage($"Give 1 to {MostSamples} amps, each from 0 to 2000, or null where nothing was received.");
        RuleFor(request => request.Volts)
            .Must(
                (request, volts) => volts is not null && volts.Count == request.Amps?.Count && volts.All(one => one is null or (>= -150 and <= 150))
            )
            .WithMessage("Give as many volts as amps, each from 0 to 150, or null where nothing was received.");
        RuleFor(request => request.FeedMmPerMin)
            .Must((request, feed) => feed is null || (feed.Count == request.Amps?.Count && feed.All(one => one is null or (>= 0 and <= 50_000))))
            .WithMessage("Give as many feeds as amps, each from 0 to 50 000 mm/min, or none at all.");
        RuleFor(request => request.Card)
            .Must(card =>
                card is null || new[] { card.Amps, card.Volts, card.FeedMmPerMin }.All(span => span is null || (span.Min > 0 && span.Max >= span.Min))
            )
            .WithMessage("A card runs from a number over 0 to one at least as large.");
    }
}
