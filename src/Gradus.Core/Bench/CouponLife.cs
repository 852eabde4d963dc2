using Gradus.Core.Inspection;
using Gradus.Core.Joints;
using Gradus.Core.Library;
using Gradus.Core.Measure;

namespace Gradus.Core.Bench;

/// <summary>How far a coupon has come.</summary>
public enum CouponState
{
    Planned,
    Cut,
    FittedUp,
    InWeld,
    LookedAt,
    CutAndBroken,
    Closed,
    Void,
}

/// <summary>A timer that runs. Due at the given time; never for one that only counts.</summary>
public sealed record RunningTimer(Guid EventId, BenchTimer Timer, DateTimeOffset StartedAt, DateTimeOffset? DueAt);

/// <summary>A hold point that was called and not answered yet.</summary>
public sealed record OpenHold(Guid EventId, string Point, DateTimeOffset CalledAt);

/// <summary>A rule of the sitting that was broken, and what that does to the coupon.</summary>
/// <param name="Seen">True when an instructor recorded it, false when it follows from the record.</param>
public sealed record Breach(SittingRule Rule, string Says, bool Seen);

/// <summary>A pass as the rules of a sitting look at it.</summary>
/// <param name="Despite">What it was laid in spite of.</param>
public sealed record LaidPass(BeadTechnique Technique, DateTimeOffset At, IReadOnlyList<Concern>? Despite = null, StopDress? Stop = null);

/// <summary>A repair as the rules of a sitting look at it.</summary>
public sealed record MadeRepair(RepairAction Action, LoggedFinding Finding, bool AtTackOrStop);

/// <summary>What follows from the events of a coupon. Pure: the time is given.</summary>
public static class CouponLife
{
    /// <summary>How far it has come, by the furthest thing that happened.</summary>
    public static CouponState State(IReadOnlyList<BenchEvent> events, bool fittedUp, bool welded, bool closed) =>
        events.Any(one => one.Kind == BenchEventKind.Voided) ? CouponState.Void
        : closed ? CouponState.Closed
        : events.Any(one => one.Kind == BenchEventKind.SpecimenTested) ? CouponState.CutAndBroken
        : events.Any(one => one.Kind == BenchEventKind.Measured) ? CouponState.LookedAt
        : welded ? CouponState.InWeld
        : fittedUp ? CouponState.FittedUp
        : events.Any(one => one.Kind == BenchEventKind.Cut) ? CouponState.Cut
        : CouponState.Planned;

    /// <summary>The timers that run; of each kind the one that was started last and not stopped since.</summary>
    public static IReadOnlyList<RunningTimer> Timers(IReadOnlyList<BenchEvent> events) =>
        [
            .. events
                .Where(one => one.Kind is BenchEventKind.TimerStarted or BenchEventKind.TimerStopped)
                .GroupBy(one => one.Body.Timer)
                .Select(group => group.Last())
                .Where(last => last.Kind == BenchEventKind.TimerStarted)
                .Select(start => new RunningTimer(
                    start.Id,
                    start.Body.Timer!.Value,
                    start.At,
                    start.Body.Minutes is { } minutes ? start.At.AddMinutes(minutes) : null
                )),
        ];

    /// <summary>What is called where no hold point is meant: come and look.</summary>
    public const string Call = "Call";

    /// <summary>The hold points that wait for the instructor, oldest first.</summary>
    /// <param name="points">The hold points of the test.</param>
    public static IReadOnlyList<OpenHold> Holds(IReadOnlyList<BenchEvent> events, IReadOnlyList<HoldPoint> points) =>
        [
            .. events
                .Where(one => one.Kind is BenchEventKind.HoldCalled or BenchEventKind.HoldAnswered)
                .GroupBy(one => points.FirstOrDefault(point => Names(point, one.Body.Point))?.Title ?? one.Body.Point!)
                .Select(group => (Point: group.Key, Last: group.Last()))
                .Where(one => one.Last.Kind == BenchEventKind.HoldCalled)
                .OrderBy(one => one.Last.At)
                .Select(one => new OpenHold(one.Last.Id, one.Point, one.Last.At)),
        ];

    /// <summary>
    /// The hold points of a test that stand before its next pass and were not answered with a go: those of the fit-up before the first, the
    /// root's between the root and what comes over it, and the one before the cap.
    /// </summary>
    /// <param name="next">The stage of the next pass; null when all are laid.</param>
    /// <param name="laid">The stages that have a pass.</param>
    public static IReadOnlyList<HoldPoint> HoldsDue(
        IReadOnlyList<HoldPoint> holdPoints,
        IReadOnlyList<BenchEvent> events,
        Stage? next,
        IReadOnlyCollection<Stage> laid
    )
    {
        return [.. holdPoints.Where(point => IsReached(point) && !HasGo(point))];

        bool IsReached(HoldPoint point) =>
            point.Stage switch
            {
                null => false,
                Stage.FitUp => next is not null && laid.Count == 0,
                Stage.Root => next > Stage.Root && laid.Contains(Stage.Root) && laid.All(one => one <= Stage.Root),
                var stage => next == stage && !laid.Contains(stage.Value),
            };

        bool HasGo(HoldPoint point) =>
            events.LastOrDefault(one => one.Kind == BenchEventKind.HoldAnswered && Names(point, one.Body.Point)) is { Body.Go: true };
    }

    /// <summary>Whether a hold point is named, by its id or as it is said.</summary>
    public static bool Names(HoldPoint point, string? named) => point.Id == named || point.Title == named;

    /// <summary>True when the position stands witnessed: since the coupon was last taken down, and at all.</summary>
    public static bool PositionStands(IReadOnlyList<BenchEvent> events, bool witnessedAtFitUp)
    {
        var last = events.LastOrDefault(one => one.Kind is BenchEventKind.PositionWitnessed or BenchEventKind.TakenDown);
        return last is null ? witnessedAtFitUp : last.Kind == BenchEventKind.PositionWitnessed;
    }

    /// <summary>
    /// The rules of the sitting that were broken: those that an instructor saw, and those that follow from the record. On a coupon under test
    /// a breach makes it evidence of coached work only.
    /// </summary>
    /// <param name="until">The moment up to which a sitting that still runs is counted.</param>
    public static IReadOnlyList<Breach> Breaches(
        TestRules rules,
        IReadOnlyList<BenchEvent> events,
        IReadOnlyList<LaidPass> passes,
        IReadOnlyList<MeasuredFinding> findings,
        IReadOnlyList<MadeRepair> repairs,
        DateTimeOffset until,
        RestartWay? restartBy = null
    )
    {
        var found = events
            .Where(one => one.Kind == BenchEventKind.Breach)
            .Select(one => new Breach(one.Body.Rule!.Value, one.Body.Note ?? "Seen by the instructor.", true))
            .ToList();
        foreach (var repair in repairs)
        {
            var leave = Repairs.Leave(rules.Grinder, repair.Action, repair.Finding, repair.AtTackOrStop);
            if (leave == RepairLeave.Void)
            {
                found.Add(new Breach(SittingRule.Hidden, Repairs.Hides(repair.Action, repair.Finding)!, false));
            }
            else if (leave == RepairLeave.Breach)
            {
                found.Add(new Breach(SittingRule.Grinder, "A repair used a tool that this sitting forbids.", false));
            }
        }

        var despite = passes.SelectMany(pass => pass.Despite ?? []).Distinct().Order().ToList();
        if (despite.Count > 0)
        {
            found.Add(new Breach(SittingRule.WentOn, $"Work went on {string.Join(", ", despite.Select(InWords))}.", false));
        }

        if (!rules.TakeDownAllowed && events.Any(one => one.Kind == BenchEventKind.TakenDown))
        {
            found.Add(new Breach(SittingRule.TakeDown, "The coupon was taken down.", false));
        }

        if (rules.ArcStrikeOutsideFails && findings.Any(finding => finding.Kind == DiscontinuityKind.ArcStrike))
        {
            found.Add(new Breach(SittingRule.ArcStrike, "An arc strike outside the groove fails this test.", false));
        }

        if (
            passes.Any(pass => pass.Stop == StopDress.CutOut)
            && (restartBy == RestartWay.Dip || rules.Grinder is GrinderRule.FileOnly or GrinderRule.None)
        )
        {
            found.Add(new Breach(SittingRule.Grinder, "A stop was cut out with the grinder; this sitting restarts without one.", false));
        }

        if (rules.StringersOnly && passes.Any(pass => pass.Technique == BeadTechnique.Weave))
        {
            found.Add(new Breach(SittingRule.StringersOnly, "A bead was woven; this sitting allows stringers only.", false));
        }

        if (passes.Any(pass => LaidUnwitnessed(events, pass.At)))
        {
            found.Add(
                new Breach(
                    SittingRule.PositionNotWitnessed,
                    "A pass was laid after the coupon was taken down, before its position was witnessed.",
                    false
                )
            );
        }

        if (rules.TimeLimitMinutes is { } limit && SittingMinutes(events, until) > limit)
        {
            found.Add(new Breach(SittingRule.TimeLimit, $"Over the {limit} minutes of the sitting.", false));
        }

        return [.. found.Distinct()];
    }

    private static string InWords(Concern concern) =>
        concern switch
        {
            Concern.HoldPoint => "past a hold point that was not answered",
            Concern.Position => "before the position was witnessed",
            Concern.Preheat => "without the preheat",
            Concern.Purge => "without the whole purge",
            Concern.Interpass => "over the interpass limit",
            Concern.Safety => "before safety was signed off",
            _ => "while the sitting was not timed",
        };

    /// <summary>Minutes that the sitting took so far: from its start to its stop, or to now.</summary>
    public static double SittingMinutes(IReadOnlyList<BenchEvent> events, DateTimeOffset until) => Minutes(events, BenchTimer.Sitting, until);

    /// <summary>Minutes that a timer ran in all, up to a moment.</summary>
    public static double Minutes(IReadOnlyList<BenchEvent> events, BenchTimer timer, DateTimeOffset until)
    {
        var (sum, running) = (0.0, (DateTimeOffset?)null);
        foreach (var one in events.Where(one => one.Body.Timer == timer).TakeWhile(one => one.At <= until))
        {
            if (one.Kind == BenchEventKind.TimerStarted)
            {
                running ??= one.At;
            }
            else if (one.Kind == BenchEventKind.TimerStopped && running is { } since)
            {
                sum += (one.At - since).TotalMinutes;
                running = null;
            }
        }

        return sum + (running is { } open ? Math.Max(0, (until - open).TotalMinutes) : 0);
    }

    private static bool LaidUnwitnessed(IReadOnlyList<BenchEvent> events, DateTimeOffset at) =>
        events.LastOrDefault(one => one.At <= at && one.Kind is BenchEventKind.PositionWitnessed or BenchEventKind.TakenDown)
            is { Kind: BenchEventKind.TakenDown } down
        && down.At <= at;

    /// <summary>
    /// What was measured at a place, as a finding: above flush a reinforcement of the face or the root, below it underfill or concavity.
    /// </summary>
    public static MeasuredFinding? Finding(BenchEventBody body, int? clockMinutes) =>
        (body.Side, body.HeightMm) switch
        {
            (JointSide.Face, >= 0) => new(DiscontinuityKind.ExcessFaceReinforcement, Stage.Cap, HeightMm: body.HeightMm, ClockMinutes: clockMinutes),
            (JointSide.Face, { } under) => new(DiscontinuityKind.Underfill, Stage.Cap, DepthMm: -under, ClockMinutes: clockMinutes),
            (JointSide.Root, >= 0) => new(DiscontinuityKind.ExcessPenetration, Stage.Root, HeightMm: body.HeightMm, ClockMinutes: clockMinutes),
            (JointSide.Root, { } under) => new(DiscontinuityKind.RootConcavity, Stage.Root, DepthMm: -under, ClockMinutes: clockMinutes),
            _ => null,
        };

    /// <summary>
    /// The specimens that a finding threatens: those whose strip it lies in, on pipe within half a strip's width either way round.
    /// </summary>
    /// <param name="roundMm">Length of the joint round the pipe; 0 for plate.</param>
    public static IReadOnlyList<int> Threatened(IReadOnlyList<Specimen> specimens, int? clockMinutes, double? fromStartMm, double roundMm)
    {
        var halfStrip = TradeNumbers.Of("specimenWidthMm") / 2;
        return
        [
            .. specimens
                .Select((specimen, index) => (specimen, index))
                .Where(one =>
                    one.specimen.Clock is { } clock && clockMinutes is { } minutes && roundMm > 0
                        ? ClockPosition.Parse(clock).MinutesFrom(minutes) * roundMm / ClockPosition.MinutesRound <= halfStrip
                        : fromStartMm is { } from && from >= one.specimen.FromMm && from <= one.specimen.ToMm
                )
                .Select(one => one.index),
        ];
    }

    /// <summary>The verdict on one specimen of a test by its kind; null when nothing of that kind was entered.</summary>
    public static TestVerdict? Judge(AcceptanceProfile profile, TestTemplate test, BenchEventBody body) =>
        body switch
        {
            { Bend: { } bend } => BendJudge.Judge(profile, [bend with { WallMm = bend.WallMm ?? test.Joint.ThicknessMm }]),
            { NickBreak: { } nick } => BreakAndMacroJudge.NickBreak(profile, [nick]),
            { FilletBreak: { } fillet } => BreakAndMacroJudge.FilletBreak(
                profile,
                [fillet with { LengthMm = fillet.LengthMm ?? LengthOf(test, body.Specimen), Pipe = test.Product == Product.Pipe }],
                test.Weld
            ),
            { Macro: { } macro } => BreakAndMacroJudge.Macro(
                profile,
                [macro with { ThicknessMm = macro.ThicknessMm ?? test.Joint.ThicknessMm, Plug = test.Weld == WeldKind.Plug }]
            ),
            { Indications: { } film } => RadiographJudge.Judge(profile, FilmOf(test), film),
            _ => null,
        };

    /// <summary>What is seen on a specimen of a kind: the field that tells it, and whether it was given.</summary>
    public static (string Field, bool Given) SeenOn(string kind, BenchEventBody body) =>
        kind switch
        {
            // A tensile specimen that broke in the weld is looked at as a nick-break is; one that broke beside it shows sound faces.
            "nickBreak" or "tensile" => ("nickBreak", body.NickBreak is not null),
            "filletBreak" => ("filletBreak", body.FilletBreak is not null),
            "macro" => ("macro", body.Macro is not null),
            "radiograph" => ("indications", body.Indications is not null),
            _ => ("bend", body.Bend is not null),
        };

    /// <summary>The weld of a test as it is filmed; a short-arc process anywhere in it counts, since no film is taken of it.</summary>
    private static FilmedWeld FilmOf(TestTemplate test)
    {
        var processes = test.Passes.Select(TestQualification.NameOf).Distinct().ToList();
        return new FilmedWeld(
            test.Joint.ThicknessMm,
            processes.Find(name => name == TestQualification.ShortArc) ?? processes.FirstOrDefault(),
            test.Product,
            test.Joint.PipeSize()?.OutsideDiameter.Mm,
            test.WeldLengthMm
        );
    }

    private static double? LengthOf(TestTemplate test, int? specimen) =>
        specimen is { } number && number < test.Specimens.Count && test.Specimens[number] is { FromMm: { } from, ToMm: { } to } ? to - from : null;
}
