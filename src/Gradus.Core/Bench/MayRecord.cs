using Gradus.Core.Coaching;
using Gradus.Core.Inspection;
using Gradus.Core.Joints;
using Gradus.Core.Library;

namespace Gradus.Core.Bench;

/// <summary>What kind of record it is.</summary>
public enum BenchRecord
{
    FitUp,
    Pass,
    Finding,
    Note,
    Event,
    Photo,
    Closing,
}

/// <summary>Whether a record can be, on the coupon that it is for. Null means that it may be; otherwise which field is at fault, and why.</summary>
public static class MayRecord
{
    private const double MostMinutes = 24 * 60;
    private const double MostHeightMm = 25;
    private const double MostMm = 500;
    private const int MostBeads = 200;

    // A tap on the drawing of a plate may land a hair behind its end.
    private const double EndSlackMm = 0.5;

    private static readonly NotPossible Closed = NotPossible.Conflict("couponId", "The coupon is closed. Open it again first.");

    /// <summary>
    /// An event that a student proposes of their own coupon: what they did and measured. What is witnessed, allowed, judged or put right is an
    /// instructor's; common practice.
    /// </summary>
    public static NotPossible? Propose(BenchEventKind kind) =>
        kind
            is BenchEventKind.Cut
                or BenchEventKind.HoldCalled
                or BenchEventKind.Preflight
                or BenchEventKind.TimerStarted
                or BenchEventKind.TimerStopped
                or BenchEventKind.Repaired
                or BenchEventKind.Measured
                or BenchEventKind.BeadAdded
                or BenchEventKind.BeadLeftOut
            ? null
            : NotPossible.Conflict("kind", "An instructor records that.");

    /// <summary>A fit-up as measured.</summary>
    public static NotPossible? FitUp(CouponLog log, FitUpMeasured measured)
    {
        if (IsClosed(log))
        {
            return Closed;
        }

        var points = log.Test.FitUp.Points;
        if (measured.Points.FirstOrDefault(point => !points.Contains(point.At)) is { } strange)
        {
            return NotPossible.Unfit("points", $"'{strange.At}' is not a point of this test. Give: {string.Join(", ", points)}.");
        }

        if (measured.Points.Any(point => point.RootFaceMm > log.Test.Joint.ThicknessMm))
        {
            return NotPossible.Unfit("points", $"A root face cannot be thicker than the material ({log.Test.Joint.ThicknessMm:0.##} mm).");
        }

        if (measured.Tacks.FirstOrDefault(tack => !IsOn(log, tack.At)) is { } off)
        {
            return NotPossible.Unfit("tacks", $"'{off.At}' is no place of this joint. {PlacesOf(log)}");
        }

        var questions = log.Test.FitUp.Questions.Select(question => question.Id).ToList();
        return measured.Answers.Keys.FirstOrDefault(key => !questions.Contains(key)) is { } unknown
            ? NotPossible.Unfit("answers", $"'{unknown}' is not asked for this test. Give: {string.Join(", ", questions)}.")
            : null;
    }

    /// <summary>
    /// A pass: a whole bead, or one of several runs of it. A bead takes a further run while it is not whole, from its one end to its other; a
    /// bead that was logged without saying where it went is whole.
    /// </summary>
    /// <param name="part">True for a run that makes the bead only together with others.</param>
    public static NotPossible? Pass(CouponLog log, string beadKey, string? startAt, string? stopAt, bool part = false, PipeSide? side = null)
    {
        if (IsClosed(log))
        {
            return Closed;
        }

        if (log.Beads.FirstOrDefault(bead => bead.Key == beadKey) is not { } bead)
        {
            return NotPossible.Unfit("beadKey", $"One of the beads of this coupon: {string.Join(", ", log.Beads.Select(one => one.Key))}.");
        }

        if ((Place(log, "startAt", startAt) ?? Place(log, "stopAt", stopAt)) is { } off)
        {
            return off;
        }

        var runs = log.RunsOf(beadKey);
        if (side is not null && log.Test.Product != Product.Pipe)
        {
            return NotPossible.Unfit("side", "Only pipe has a side by three and one by nine o'clock; leave it out.");
        }

        var stretch = log.PlaceOf(startAt) is { } from && log.PlaceOf(stopAt) is { } to ? new Stretch(from, to, side) : (Stretch?)null;
        if (part && stretch is null)
        {
            return NotPossible.Unfit(startAt is null ? "startAt" : "stopAt", "A run that is part of a bead says from where to where it went.");
        }

        if (stretch is { } ran && (part || runs.Count > 0) && ran.On(log.Test.Joint.LengthMm ?? 0) is null)
        {
            return NotPossible.Unfit("side", $"From {startAt} to {stopAt} goes either way: say by which side, one of {CoreJson.Names<PipeSide>()}.");
        }

        if (part && stretch?.On(log.Test.Joint.LengthMm ?? 0) is { Length: 0 })
        {
            return NotPossible.Unfit("stopAt", "A run goes from one place to another.");
        }

        if (stretch?.On(log.Test.Joint.LengthMm ?? 0) is { } reach && BeadRuns.Takes(log.Test, runs, reach))
        {
            return NotPossible.Conflict("beadKey", "That run is logged already. Take it back first.");
        }

        return runs.Count > 0 && (stretch is null || runs.Any(run => run.Stretch is null) || BeadRuns.Cover(log.Test, bead, runs))
            ? NotPossible.Conflict("beadKey", "That bead is logged already. Take it back first.")
            : null;
    }

    /// <summary>A finding.</summary>
    /// <param name="clock">Where it was said to lie on pipe.</param>
    /// <param name="fromStartMm">Where it was said to lie on plate.</param>
    public static NotPossible? Finding(CouponLog log, Guid? passId, Stage stage, string? clock, double? fromStartMm)
    {
        if (IsClosed(log))
        {
            return Closed;
        }

        if (passId is not null && log.Passes.All(pass => pass.Id != passId))
        {
            return NotPossible.Unknown("passId", "A pass of this coupon.");
        }

        if (stage != Stage.FitUp && !log.Stages.Contains(stage))
        {
            return NotPossible.Unfit("stage", "A stage that this coupon has.");
        }

        return log.Test.Product == Product.Pipe
            ? log.PlaceOf(clock)?.Clock is null || fromStartMm is not null
                ? NotPossible.Unfit("clock", "Say where on the clock, 1:00 to 12:59; pipe has no start.")
                : null
            : fromStartMm is null || clock is not null || fromStartMm > (log.Test.Joint.LengthMm ?? 0) + EndSlackMm
                ? NotPossible.Unfit("fromStartMm", $"Say how far from the start, 0 to {log.Test.Joint.LengthMm:0.##} mm; plate has no clock.")
                : null;
    }

    /// <summary>
    /// An event. A coupon that was closed can still be given up, once; what comes to be known of its specimens is added to it, it can be opened
    /// again, and whose and where it was can be put right.
    /// </summary>
    public static NotPossible? Event(CouponLog log, BenchEventKind kind, BenchEventBody body)
    {
        if (kind == BenchEventKind.Voided)
        {
            return log.Standing.VoidedAt is not null
                ? NotPossible.Conflict("kind", "The coupon was given up already.")
                : Needs(body.Reason is not null, "reason", $"Give one of: {CoreJson.Names<VoidReason>()}.")
                    ?? Needs(body.Reason != VoidReason.Other || !string.IsNullOrWhiteSpace(body.Note), "note", "Say in words why.");
        }

        if (kind == BenchEventKind.Reopened)
        {
            return log.Standing.VoidedAt is not null ? NotPossible.Conflict("kind", "The coupon was given up. Take that back instead.")
                : log.Closings.Count == 0 ? NotPossible.Conflict("kind", "The coupon is open.")
                : Needs(!string.IsNullOrWhiteSpace(body.Note), "note", "Say why it is opened again.");
        }

        if (kind == BenchEventKind.Corrected)
        {
            return Correction(log, body.Correction);
        }

        var opens = kind == BenchEventKind.SpecimenTested && log.Standing.VoidedAt is null;
        return IsClosed(log) && !opens
            ? Closed
            : kind switch
            {
                BenchEventKind.HoldCalled => Point(log, body),
                BenchEventKind.HoldAnswered => Point(log, body) ?? Needs(body.Go is not null, "go", "Say true to go on, false to mend first."),
                BenchEventKind.TimerStarted or BenchEventKind.TimerStopped => Needs(
                    body.Timer is not null,
                    "timer",
                    $"Give one of: {CoreJson.Names<BenchTimer>()}."
                ) ?? Needs(body.Minutes is null or (> 0 and <= MostMinutes), "minutes", $"Over 0 and at most {MostMinutes:0} minutes, or left out."),
                BenchEventKind.Repaired => OfRepair(log, body)
                    ?? Needs(body.Action is not null, "action", $"Give one of: {CoreJson.Names<RepairAction>()}.")
                    ?? Needs(body.Minutes is null or (> 0 and <= MostMinutes), "minutes", $"Over 0 and at most {MostMinutes:0} minutes, or left out.")
                    ?? Needs(body.HoleMm is null or (> 0 and <= MostMm), "holeMm", $"The width of the hole, over 0 and at most {MostMm:0} mm.")
                    ?? Needs(body.TaperMm is null or (> 0 and <= MostMm), "taperMm", $"The length of the taper, over 0 and at most {MostMm:0} mm."),
                BenchEventKind.LookedAgain => OfRepair(log, body)
                    ?? Needs(body.Sound is not null, "sound", "Say true when it holds, false when it does not.")
                    ?? (
                        Repairs.Of(body.FindingId, log.Events).State == RepairState.None
                            ? NotPossible.Conflict("findingId", "Nothing was repaired there yet.")
                            : null
                    ),
                BenchEventKind.FindingCorrected => OfFinding(log, body) ?? Values(log, body.Finding),
                BenchEventKind.BeadAdded => Needs(
                    body.Patch == true || CouponBeads.LayerOf(log.Test, body) is not null,
                    "stage",
                    $"The stage of this coupon that takes one more bead, or beadKey: a bead of the layer. Stages: {string.Join(", ", log.Stages.Where(one => one != Stage.FitUp).Select(one => one.ToString().ToLowerInvariant()))}."
                ) ?? (log.Beads.Count() >= MostBeads ? NotPossible.Conflict("beadKey", $"A coupon holds at most {MostBeads} beads.") : null),
                BenchEventKind.BeadLeftOut => Needs(
                    log.Beads.Any(bead => bead.Key == body.BeadKey && !CouponBeads.IsPatch(bead.Key)),
                    "beadKey",
                    $"A planned bead of this coupon: {string.Join(", ", log.Beads.Select(one => one.Key))}."
                ) ?? (log.RunsOf(body.BeadKey!).Count > 0 ? NotPossible.Conflict("beadKey", "That bead is laid. Take it back first.") : null),
                BenchEventKind.CauseChosen => OfFinding(log, body)
                    ?? Needs(CauseFinder.Rules.Any(rule => rule.Id == body.CauseId), "causeId", "One of the causes that the finding is shown with."),
                BenchEventKind.Preflight => Needs(
                    log.Beads.Any(bead => bead.Key == body.BeadKey),
                    "beadKey",
                    $"A bead of this coupon: {string.Join(", ", log.Beads.Select(one => one.Key))}."
                )
                    ?? Needs(
                        body.No is { } no && no.All(id => Procedures.Preflight.Any(check => check.Id == id)),
                        "no",
                        $"The questions that were answered with no, or none: {string.Join(", ", Procedures.Preflight.Select(check => check.Id))}."
                    ),
                BenchEventKind.Measured => Measured(log, body),
                BenchEventKind.SpecimenTested => Specimen(log.Test, body),
                BenchEventKind.Breach => Needs(body.Rule is not null, "rule", $"Give one of: {CoreJson.Names<SittingRule>()}."),
                _ => null,
            };
    }

    /// <summary>A closing with a verdict.</summary>
    internal static NotPossible? Close(CouponLog log, CouponVerdict verdict) =>
        IsClosed(log) ? Closed
        : verdict.StageClean.Count == 0
            ? NotPossible.Conflict("passes", "No stage is finished and nothing was rejected: there is nothing to judge yet.")
        : !log.Profile.LimitsEntered ? NotPossible.Conflict("profile", verdict.Visual.Reasons[0].Rule)
        : verdict.Visual.Kind == VerdictKind.CannotJudge
        && verdict.Visual.Reasons.Any(reason => reason is { Outcome: VerdictKind.CannotJudge, Measure: not null })
            ? verdict.Visual.Reasons.Any(reason => reason is { Outcome: VerdictKind.CannotJudge, Finding: < 0 })
                    ? NotPossible.Conflict(
                        "fillet",
                        "The fillet still lacks a measure that its limit needs: the other leg, or the width of its face."
                    )
                : NotPossible.Conflict("findings", "A finding still lacks a measure that its limit needs.")
        : null;

    /// <summary>
    /// Taking a record back. What decides a verdict stays while the coupon is closed; its closing, the giving up itself, and what was added to it
    /// or put right since can be taken back.
    /// </summary>
    public static NotPossible? TakeBack(CouponLog log, BenchRecord record, BenchEvent? told = null)
    {
        var added = told is not null && log.Closings.Any(one => one.EventId == told.Id);
        if (
            record is not (BenchRecord.Closing or BenchRecord.Note or BenchRecord.Photo)
            && told?.Kind is not (BenchEventKind.Voided or BenchEventKind.Corrected)
            && !added
            && IsClosed(log)
        )
        {
            return told?.Kind == BenchEventKind.Reopened ? NotPossible.Conflict("id", "The coupon was closed since.") : Closed;
        }

        return told?.Kind switch
        {
            BenchEventKind.BeadAdded when told.Body.Patch == true && log.RunsOf(CouponBeads.KeyOf(told)).Count > 0 => NotPossible.Conflict(
                "id",
                "The patch is laid. Take its pass back first."
            ),
            BenchEventKind.Corrected when log.Events.LastOrDefault(one => one.Kind == BenchEventKind.Corrected)?.Id != told.Id =>
                NotPossible.Conflict("id", "It was put right again since. Take that back first."),
            _ => null,
        };
    }

    private static bool IsClosed(CouponLog log) => log.Standing.ClosedAt is not null;

    private static NotPossible? Needs(bool holds, string field, string accepts) => holds ? null : NotPossible.Unfit($"body.{field}", accepts);

    private static NotPossible? Place(CouponLog log, string field, string? at) =>
        at is null || IsOn(log, at) ? null : NotPossible.Unfit(field, PlacesOf(log));

    private static bool IsOn(CouponLog log, string at) =>
        log.PlaceOf(at) is { } place
        && (log.Test.Joint.LengthMm is not { } length || place.AlongMm(length) is not { } along || along <= length + EndSlackMm);

    private static string PlacesOf(CouponLog log) =>
        log.Test.Product == Product.Pipe
            ? "Give a place on the clock, 1:00 to 12:59."
            : $"Give start, middle, end, or how far from the start: 0 to {log.Test.Joint.LengthMm:0.##} mm.";

    private static NotPossible? Point(CouponLog log, BenchEventBody body) =>
        Needs(
            log.HoldNamed(body.Point) is not null || body.Point == CouponLife.Call,
            "point",
            $"Give one of: {string.Join(", ", log.Test.Rules.HoldPoints.Select(point => point.Title).Append(CouponLife.Call))}."
        );

    /// <summary>A repair belongs to a finding; one that a drill practises can be made where nothing is wrong.</summary>
    private static NotPossible? OfRepair(CouponLog log, BenchEventBody body) =>
        body.FindingId is null && log.Test.Drills.Any(drill => drill.Id == log.DrillId && drill.Repair is not null) ? null : OfFinding(log, body);

    /// <summary>What a finding is said to be instead.</summary>
    private static NotPossible? Values(CouponLog log, FindingValues? values)
    {
        if (values is not { Kind: not null, Stage: { } stage })
        {
            return Needs(false, "finding", "The whole finding as it should be: its kind, stage, place and sizes.");
        }

        if (Finding(log, null, stage, values.Clock, values.FromStartMm) is { } off)
        {
            return off with { Field = $"body.finding.{off.Field}" };
        }

        double?[] sizes = [values.DepthMm, values.HeightMm, values.LengthMm, values.DiameterMm, values.WidthMm];
        return Needs(sizes.All(size => size is null or (>= 0 and <= 2000)), "finding", "Each size is from 0 to 2000 mm, or left out.")
            ?? Needs(
                values.FaceHeightThereMm is null or (>= -MostHeightMm and <= MostHeightMm),
                "finding.faceHeightThereMm",
                "The height of the face over flush in mm."
            )
            ?? Needs(values.Count is null or (>= 1 and <= 1000), "finding.count", "A count is a whole number from 1 to 1000, or left out.");
    }

    /// <summary>What a coupon is said to be instead. What its verdict was made by stays while it is closed.</summary>
    private static NotPossible? Correction(CouponLog log, CouponCorrection? correction)
    {
        if (correction is null || correction == new CouponCorrection())
        {
            return Needs(false, "correction", "What is put right: the student, test, drill, variants, booth, or whether it is as under test.");
        }

        var judged =
            correction.TestId is not null
            || correction.DrillId is not null
            || correction.Full is not null
            || correction.Variants is not null
            || correction.JudgedBy is not null;
        return IsClosed(log) && (judged || correction.AsTest is not null)
            ? NotPossible.Conflict("couponId", "Its verdict was signed for what it is. Open it again first.")
            : null;
    }

    private static NotPossible? OfFinding(CouponLog log, BenchEventBody body) =>
        Needs(log.Findings.Any(finding => finding.Id == body.FindingId), "findingId", "A finding of this coupon.");

    private static NotPossible? Measured(CouponLog log, BenchEventBody body) =>
        Needs(body.Member is null || body.Side == JointSide.Root, "member", "Only the root is looked at from the side of a member.")
        ?? Needs(body.Side is not null, "side", $"Give one of: {CoreJson.Names<JointSide>()}.")
        ?? Needs(log.MeasuredPlaces.Contains(body.At ?? ""), "at", $"Give one of: {string.Join(", ", log.MeasuredPlaces)}.")
        ?? (body.Fillet is { } fillet ? Fillet(log, fillet) : null)
        ?? Needs(
            body.Fillet is not null || body.HeightMm is >= -MostHeightMm and <= MostHeightMm,
            "heightMm",
            $"The height over flush in mm, from {-MostHeightMm:0} (below flush) to {MostHeightMm:0}."
        );

    private static NotPossible? Fillet(CouponLog log, FilletMeasures fillet) =>
        Needs(log.Test.Weld == WeldKind.Fillet, "fillet", "Only a fillet has legs: give the height of the face or the root.")
        ?? Needs(!fillet.IsEmpty, "fillet", "Give what was measured: the legs, the throat, or how far the face bulges.")
        ?? Needs(fillet.AreSizes, "fillet", $"Each size is from 0 to {FilletMeasures.MostMm:0} mm, or left out.");

    /// <summary>What somebody saw on a specimen: one that the test has, with what its kind shows. Whether it may still be recorded is another question.</summary>
    public static NotPossible? Specimen(TestTemplate test, BenchEventBody body)
    {
        var specimens = test.Specimens;
        if (body.Specimen is not { } number || number < 0 || number >= specimens.Count)
        {
            return Needs(
                false,
                "specimen",
                specimens.Count == 0 ? "This test has no specimens." : $"A specimen of this test, 0 to {specimens.Count - 1}."
            );
        }

        var (field, given) = CouponLife.SeenOn(specimens[number].Kind, body);
        return Needs(given, field, "What was seen on this specimen.")
            ?? Needs(Sizes(body).All(size => size is null or (>= 0 and <= 1000)), field, "Each size is from 0 to 1000 mm, or left out.");
    }

    private static IEnumerable<double?> Sizes(BenchEventBody body) =>
        [
            .. body.Bend?.Discontinuities.Select(one => one.SizeMm) ?? [],
            body.Bend?.WallMm,
            .. body.NickBreak?.PoresMm ?? [],
            body.NickBreak?.PorePercent,
            .. body.NickBreak?.Slag.SelectMany(piece => new[] { piece.DepthMm, piece.LengthMm, piece.ApartMm }) ?? [],
            .. body.FilletBreak?.InclusionsMm ?? [],
            body.Macro?.ConvexityMm,
            body.Macro?.LegAMm,
            body.Macro?.LegBMm,
            body.Macro?.UndercutMm,
            .. body.Indications?.Select(one => one.SizeMm) ?? [],
        ];
}
