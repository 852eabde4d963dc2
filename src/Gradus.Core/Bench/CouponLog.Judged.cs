using Gradus.Core.Coaching;
using Gradus.Core.Inspection;
using Gradus.Core.Joints;
using Gradus.Core.Library;
using Gradus.Core.Measure;
using Gradus.Core.Welding;

namespace Gradus.Core.Bench;

// What a coupon is judged by: its verdict, what closing it keeps, and the rules of the sitting.
public sealed partial class CouponLog
{
    private const double SecondsPerMinute = 60;

    /// <summary>What has to be done before a pass of a stage is laid, under the rules of a test; empty on a coached coupon.</summary>
    /// <inheritdoc cref="Wanting" path="/param"/>
    public IReadOnlyList<OpenConcern> Concerns(Stage stage, double? interpassC, DateTimeOffset at) => AsTest ? Wanting(stage, interpassC, at) : [];

    /// <summary>
    /// What the rules of a test would want done before a pass of a stage: hold points answered, the position witnessed, preheat and purge, the
    /// interpass limit, safety signed off, a timed sitting timed. It is kept with each pass, also of a coached coupon: that may turn out to have
    /// been as under test.
    /// </summary>
    /// <param name="interpassC">What was measured before the pass; null when it was not.</param>
    public IReadOnlyList<OpenConcern> Wanting(Stage stage, double? interpassC, DateTimeOffset at)
    {
        var found = HoldsBefore(stage)
            .Select(point => new OpenConcern(Concern.HoldPoint, $"{point.Title}: not seen by the instructor yet."))
            .ToList();
        var asked = Test.FitUp.Questions.Any(question => question.Id == "position") || Events.Any(one => one.Kind == BenchEventKind.TakenDown);
        if (asked && !PositionStands)
        {
            found.Add(new OpenConcern(Concern.Position, "The position is not witnessed."));
        }

        if (Test.Temperatures?.PreheatMinC is { } least && (interpassC ?? TradeNumbers.Of("shopWarmC")) < least)
        {
            found.Add(
                new OpenConcern(
                    Concern.Preheat,
                    interpassC is null
                        ? $"The preheat is not measured; {least:0} °C at least."
                        : $"{interpassC:0} °C; preheat to {least:0} °C at least."
                )
            );
        }

        if (interpassC > Test.Temperatures?.InterpassMaxC)
        {
            found.Add(new OpenConcern(Concern.Interpass, $"{interpassC:0} °C; let it cool under {Test.Temperatures!.InterpassMaxC:0} °C."));
        }

        var purge = CouponBudget.PurgeOf(Test).Minutes;
        var purged = CouponLife.Minutes(Events, BenchTimer.Purge, at);
        if (stage is Stage.Root or Stage.Hot && purged < purge)
        {
            found.Add(new OpenConcern(Concern.Purge, $"Purged for {purged:0.#} min; {purge:0.#} are needed."));
        }

        if (!safetySigned)
        {
            found.Add(new OpenConcern(Concern.Safety, "Safety is not signed off for this welder."));
        }

        if (Test.Rules.TimeLimitMinutes is not null && !CouponLife.Timers(Events).Any(timer => timer.Timer == BenchTimer.Sitting))
        {
            found.Add(new OpenConcern(Concern.SittingTimer, "The sitting is timed, and its timer does not run."));
        }

        return found;
    }

    /// <summary>The rules of the sitting that were broken, as they stand at a moment.</summary>
    public IReadOnlyList<Breach> Breaches(DateTimeOffset now) =>
        CouponLife.Breaches(
            Test.Rules,
            Events,
            [.. Passes.Select(pass => new LaidPass(pass.Technique, pass.At, AsTest ? pass.Despite : null, pass.Measured?.StopDress))],
            [.. Seen.Take(Findings.Count)],
            [
                .. Events
                    .Where(one => one.Kind == BenchEventKind.Repaired)
                    .Select(one => (Action: one.Body.Action!.Value, Finding: Findings.FirstOrDefault(finding => finding.Id == one.Body.FindingId)))
                    .Where(one => one.Finding is not null)
                    .Select(one => new MadeRepair(one.Action, one.Finding!, IsAtTackOrStop(one.Finding!))),
            ],
            FirstClosing?.At ?? now,
            Test.RestartBy
        );

    /// <summary>What the rules of this sitting say to a repair of a finding. A coached coupon is under no rules.</summary>
    public RepairLeave LeaveFor(LoggedFinding finding, RepairAction action) =>
        AsTest ? Repairs.Leave(Test.Rules.Grinder, action, finding, IsAtTackOrStop(finding)) : RepairLeave.Allowed;

    /// <summary>True when a coupon under test broke a rule of the sitting: it counts as coached work only.</summary>
    public bool IsDowngraded(DateTimeOffset now) => AsTest && Breaches(now).Count > 0;

    /// <summary>True when a coupon under test was worked on in a way that hides a fault: it is no evidence of a whole test.</summary>
    public bool IsHidden(DateTimeOffset now) => AsTest && Breaches(now).Any(breach => breach.Rule == SittingRule.Hidden);

    /// <summary>
    /// The specimens as they were tested last, by their number in the test. One that the coupon is not cut into any more, since it was put under another test or
    /// code, counts no more.
    /// </summary>
    public IReadOnlyList<SpecimenVerdict> Specimens() =>
        [
            .. Events
                .Where(one =>
                    one.Kind == BenchEventKind.SpecimenTested
                    && one.Body.Specimen < Test.Specimens.Count
                    && CouponLife.SeenOn(Test.Specimens[one.Body.Specimen.Value].Kind, one.Body).Given
                )
                .GroupBy(one => one.Body.Specimen!.Value)
                .Select(group => group.Last())
                .Select(one => (one.Body.Specimen, Verdict: CouponLife.Judge(Profile, Test, one.Body)))
                .Where(one => one.Verdict is not null)
                .Select(one => new SpecimenVerdict(one.Specimen!.Value, Test.Specimens[one.Specimen.Value].Kind, one.Verdict!))
                .OrderBy(one => one.Specimen),
        ];

    /// <summary>
    /// The verdict as it stands. A stage counts once all its beads are laid: half a cap is not a clean cap. What was repaired and is sound is
    /// judged no more; what a drill of repairing has made on purpose is scored instead.
    /// </summary>
    public CouponVerdict Verdict()
    {
        var judged = Findings
            .Select(
                (finding, index) =>
                    (
                        Finding: Seen[index],
                        Index: index,
                        Judged: RepairOf(finding).State != RepairState.Sound && finding.Kind != Test.Repairing?.Fault
                    )
            )
            .Where(one => one.Judged)
            .Select(one => (one.Finding, one.Index))
            .Concat(Measures.Select((finding, index) => (Finding: finding, Index: Findings.Count + index)))
            .ToList();
        var verdict = CouponJudge.Judge(Test, Profile, DrillId, Finished, [.. judged.Select(one => one.Finding)], Specimens(), Fillets);
        return Practised(
            verdict with
            {
                Visual = verdict.Visual with
                {
                    Reasons = [.. verdict.Visual.Reasons.Select(Named)],
                    Passed = [.. verdict.Visual.Passed.Select(Named)],
                },
            }
        );

        // A reason names its finding among all of the coupon; -1 where there are no limits to judge by.
        LimitReason Named(LimitReason reason) => reason.Finding < 0 ? reason : reason with { Finding = judged[reason.Finding].Index };

        IReadOnlyCollection<Stage> Finished(string? half)
        {
            var stages = Beads
                .Where(bead => half is null || bead.Half is null || bead.Half == half)
                .GroupBy(bead => bead.Stage)
                .Where(stage => stage.All(bead => laid.Contains(bead.Key)))
                .Select(stage => stage.Key);
            return [.. FitUp is null ? stages : stages.Append(Stage.FitUp)];
        }
    }

    /// <summary>What is asked besides the limits: a ball through the bore; in a drill of repairing its places scored, or its repair made and sound.</summary>
    private CouponVerdict Practised(CouponVerdict verdict)
    {
        List<(bool? Passed, string Says)> asked = [.. Scores.Select(score => (score.Passed, $"{score.At} o'clock: {score.Says}"))];
        if (Test.Rules.BallPasses && Passes.LastOrDefault(pass => pass.Measured?.BallPassed is not null)?.Measured?.BallPassed == false)
        {
            asked.Add((false, "The ball did not pass the bore: the root stands too far into it."));
        }

        if (Test.Drills.FirstOrDefault(drill => drill.Id == DrillId)?.Repair is { } wanted)
        {
            Repair[] made = [Repairs.Of(null, Events), .. Findings.Select(RepairOf)];
            var done = made.Where(one => one.Actions.Contains(wanted)).Select(one => one.State).ToList();
            asked.Add(
                done.Contains(RepairState.NotSound) ? (false, "The repair that is practised is not sound.")
                : done.Contains(RepairState.Sound) ? (true, "The repair that is practised is sound.")
                : done.Count > 0 ? (null, "Look at the repair again: sound or not.")
                : (null, "The repair that is practised was not made yet.")
            );
        }

        if (asked.Count == 0)
        {
            return verdict;
        }

        var seen = CouponJudge.Worst([
            verdict.Seen,
            .. asked.Select(one =>
                one.Passed switch
                {
                    true => VerdictKind.Accept,
                    false => VerdictKind.Reject,
                    null => VerdictKind.CannotJudge,
                }
            ),
        ]);
        return verdict with
        {
            Kind = CouponJudge.Whole(
                seen,
                verdict.IsOpenInside && verdict.Specimens!.Count >= Test.Specimens.Count && asked.TrueForAll(one => one.Passed == true),
                [.. verdict.Specimens!.Select(one => one.Verdict.Kind)]
            ),
            ByEye = seen,
            Says = [.. asked.Where(one => one.Passed != true).Select(one => one.Says)],
            StageClean = asked.Exists(one => one.Passed == false)
                ? verdict.StageClean.ToDictionary(one => one.Key, one => one.Value && one.Key != Stage.Root)
                : verdict.StageClean,
        };
    }

    /// <summary>
    /// The closing that stands beside the signed one once more is known of the inside: what was seen stays as it was signed, the specimens are
    /// added. Null while nothing is closed.
    /// </summary>
    public (Closing Made, string Because)? Later()
    {
        if (FirstClosing is not { } signed)
        {
            return null;
        }

        var specimens = Specimens();
        var verdict = signed.Verdict with
        {
            Kind = CouponJudge.Whole(
                signed.Verdict.Seen,
                signed.Verdict.IsOpenInside && specimens.Count >= Test.Specimens.Count,
                [.. specimens.Select(one => one.Verdict.Kind)]
            ),
            ByEye = signed.Verdict.Seen,
            Specimens = specimens,
        };
        return (new Closing(verdict, FactsOf(verdict), IsDowngraded(signed.At), IsHidden(signed.At)), Inspected(specimens));
    }

    /// <summary>What the limits of today make of the record, beside the closing that stands; null while nothing is closed.</summary>
    /// <param name="facts">What was kept of that closing; null on those from before it was kept.</param>
    public (Closing Made, bool Differs)? Today(ClosingFacts? facts)
    {
        if (Closing is not { } standing || FirstClosing is not { } signed)
        {
            return null;
        }

        var verdict = Verdict();
        var now = FactsOf(verdict);
        var differs =
            verdict.Kind != standing.Verdict.Kind
            || verdict.Decides != standing.Verdict.Decides
            || (facts is not null && !now.ElementClean.OrderBy(one => one.Key).SequenceEqual(facts.ElementClean.OrderBy(one => one.Key)));
        return (new Closing(verdict, now, IsDowngraded(signed.At), IsHidden(signed.At)), differs);
    }

    /// <summary>A verdict in a sentence: what the eye says, and what was cut open.</summary>
    public static string Sentence(CouponVerdict verdict) =>
        verdict.Inside is null ? $"{Word(verdict.Seen)} by eye" : $"{Word(verdict.Seen)} by eye, {Inspected(verdict.Specimens!)}";

    private static string Word(VerdictKind kind) =>
        kind switch
        {
            VerdictKind.Accept => "accept",
            VerdictKind.Reject => "reject",
            _ => "not to be judged",
        };

    private static string Inspected(IReadOnlyList<SpecimenVerdict> specimens)
    {
        var (bad, open) = (
            specimens.Where(one => one.Verdict.Kind == VerdictKind.Reject).Select(one => one.Name).ToList(),
            specimens.Where(one => one.Verdict.Kind == VerdictKind.CannotJudge).Select(one => one.Name).ToList()
        );
        return bad.Count > 0 ? $"rejected by {string.Join(" and ", bad)}"
            : open.Count > 0 ? $"{string.Join(" and ", open)} not to be judged"
            : specimens.Count == 0 ? "no specimen"
            : $"accepted by {string.Join(" and ", specimens.Select(one => one.Name))}";
    }

    /// <summary>The closing of this moment, with everything that is kept of it; or why it cannot be closed.</summary>
    public (Closing? Made, NotPossible? Refusal) Close(DateTimeOffset at)
    {
        var verdict = Verdict();
        return MayRecord.Close(this, verdict) is { } refusal
            ? (null, refusal)
            : (new Closing(verdict, FactsOf(verdict), IsDowngraded(at), IsHidden(at)), null);
    }

    /// <summary>Which elements of the test were clean by a verdict. What a sound repair tells is data, see <see cref="Repairs.WeightOf"/>.</summary>
    public Dictionary<string, bool> ElementClean(CouponVerdict verdict)
    {
        var (judged, faults) = (Seen, FaultsOf(verdict));
        List<MeasuredFinding> rejected = [.. faults.Select(index => judged[index])];

        // The places of a repair drill are scored one by one: one that failed is not the fault of the others.
        var stages =
            Scores.Count == 0
                ? verdict.StageClean
                : verdict.StageClean.ToDictionary(one => one.Key, one => rejected.TrueForAll(finding => finding.Stage != one.Key));
        var clean = TestElements.Clean(Test, stages, rejected);

        // What nobody can judge yet says nothing of where it lies, unless what was cut open has settled it.
        if (verdict.Kind != VerdictKind.Accept)
        {
            var open = verdict
                .Visual.Reasons.Where(reason =>
                    reason.Outcome == VerdictKind.CannotJudge
                    && reason.Finding >= 0
                    && reason.Finding < judged.Count
                    && !faults.Contains(reason.Finding)
                )
                .SelectMany(reason => TestElements.In(Test, judged[reason.Finding]));
            foreach (var element in open.Where(one => clean.GetValueOrDefault(one)).ToList())
            {
                clean.Remove(element);
            }
        }

        foreach (var element in RepairedFaults().SelectMany(finding => TestElements.In(Test, AsMeasured(finding))).Where(clean.ContainsKey).ToList())
        {
            switch (Repairs.WeightOf(Test))
            {
                case RepairWeight.Silent when clean.GetValueOrDefault(element):
                    clean.Remove(element);
                    break;
                case RepairWeight.Fault:
                    clean[element] = false;
                    break;
                default:
                    break;
            }
        }

        foreach (var zone in Scores.GroupBy(score => TestElements.ZoneOf(ClockPosition.Parse(score.At).Minutes)))
        {
            var element = TestElements.IsZoned(Test) ? $"root/{zone.Key}" : "root";
            if (zone.Any(score => score.Passed == false))
            {
                clean[element] = false;
            }
            else if (zone.Any(score => score.Passed is null))
            {
                clean.Remove(element);
            }
        }

        return clean;
    }

    /// <summary>The findings and then the measures, as they are judged: in this order a verdict names them.</summary>
    private IReadOnlyList<MeasuredFinding> Seen => seen ??= [.. Findings.Select(AsMeasured), .. Measures];

    /// <summary>The faults that a verdict tells of, by their place among <see cref="Seen"/>.</summary>
    private IReadOnlyList<int> FaultsOf(CouponVerdict verdict) => CouponJudge.Faults(Profile, Test.Inspected, Seen, verdict.Visual);

    /// <summary>A finding as it is judged, with where it begins along the weld and how high the face was measured there.</summary>
    private MeasuredFinding AsMeasured(LoggedFinding finding) =>
        finding.ToMeasured() with
        {
            AtMm = AlongWeldMm(finding.Place),
            FaceHeightThereMm = finding.FaceHeightThereMm ?? FaceHeightAt(finding.Place),
        };

    /// <summary>
    /// A fillet as it was measured last at each place, beside the leg that the test asks for. Where nobody measured, the eye is taken to have found
    /// nothing short, as with the height of a face.
    /// </summary>
    public IReadOnlyList<FilletMeasures> Fillets
    {
        get
        {
            if (Test.Weld != WeldKind.Fillet)
            {
                return [];
            }

            var leg = Test.Joint.LegMm;
            var asked = Profile.Fillet?.LegsAsAsked == false ? new FilletMeasures(ThroatAskedMm: leg / Math.Sqrt(2)) : new FilletMeasures(leg);
            return
            [
                .. Events
                    .Where(one => one is { Kind: BenchEventKind.Measured, Body.Fillet: not null })
                    .GroupBy(one => one.Body.At)
                    .Select(place => place.Last().Body.Fillet! with { LegAskedMm = asked.LegAskedMm, ThroatAskedMm = asked.ThroatAskedMm }),
            ];
        }
    }

    /// <summary>How far along the weld a place lies, in mm; null where it has no place.</summary>
    private double? AlongWeldMm(Place? place) =>
        place is not { } at ? null
        : at.Clock is { } clock ? clock.Minutes * Test.WeldLengthMm / ClockPosition.MinutesRound
        : at.AlongMm(Test.WeldLengthMm ?? 0);

    /// <summary>How high the face was measured at a place, in mm above flush; null where nobody measured it just there.</summary>
    private double? FaceHeightAt(Place? place) =>
        place is not { } at
            ? null
            : Events
                .LastOrDefault(one => one is { Kind: BenchEventKind.Measured, Body: { Side: JointSide.Face } } && PlaceOf(one.Body.At) == at)
                ?.Body.HeightMm;

    /// <summary>The findings that were repaired and are sound, of those that the limits would reject.</summary>
    private List<LoggedFinding> RepairedFaults()
    {
        var sound = Findings.Where(finding => RepairOf(finding).State == RepairState.Sound).ToList();
        return [.. sound.Where(finding => VisualJudge.IsFault(Profile, Test.Inspected, AsMeasured(finding)))];
    }

    private ClosingFacts FactsOf(CouponVerdict verdict)
    {
        var specimens = Specimens();
        var rejected = FaultsOf(verdict);
        var least = Test.FitUp.Tolerances.FirstOrDefault(one => one.Measure == FitUpMeasure.RootOpeningMm)?.Min;
        return new ClosingFacts(
            ElementClean(verdict),
            specimens.Count,
            specimens.Count(one => one.Verdict.Kind == VerdictKind.Reject),
            FitUp is null ? null : FitUpReport.Outcome is FitUpOutcome.Go or FitUpOutcome.Warn,
            [
                .. rejected.Where(index => index < Findings.Count).Select(index => Fault(Findings[index])),
                .. rejected.Where(index => index >= Findings.Count).Select(index => Fault(Measures[index - Findings.Count])),
            ],
            measured.Points.Any(point => point.RootOpeningMm < least),
            Passes.Any(pass => PlanOf(pass)?.Settings.Amps is { } range && (pass.Amps < range.Min || pass.Amps > range.Max)),
            Minutes(),
            FillShare(),
            [.. RepairedFaults().Select(Fault)],
            SidesSeen(rejected),
            Passes.Count > 0 && Passes.All(pass => pass.Arc is not null) ? Passes.Sum(pass => pass.Arc!.ArcSeconds) / SecondsPerMinute : null
        );
    }

    // A pass is written down once it is laid: the arc of the first one burnt before that.
    private double? Minutes()
    {
        if (Passes.Count < 2)
        {
            return null;
        }

        var first = Passes.MinBy(pass => pass.At)!;
        return (Passes.Max(pass => pass.At) - first.At).TotalMinutes + ((first.Arc?.ArcSeconds ?? 0) / SecondsPerMinute);
    }

    /// <summary>How each side came out that was welded as such, by the hand that welded it.</summary>
    private List<SideSeen> SidesSeen(IReadOnlyList<int> rejected)
    {
        var faults = rejected.Where(index => index < Findings.Count).Select(index => Findings[index].ClockMinutes).OfType<int>().ToList();
        return
        [
            .. Passes
                .Where(pass => pass.Side is not null)
                .Select(pass => (Side: pass.Side!.Value, pass.Hand))
                .Distinct()
                .Order()
                .Select(one => new SideSeen(one.Side, one.Hand, !faults.Exists(minutes => Reach.SideAt(minutes) == one.Side))),
        ];
    }

    private double? FillShare()
    {
        double ToFill(FitUpPoint? point) => BeadPlanner.ToFillMm2(JointShape.Of(Test.Joint, point), Test.Joint.Backing.Kind);
        var points = MeasuredPoints();
        var planned = ToFill(null);
        return points.Count == 0 || planned <= 0 ? null : points.Average(ToFill) / planned;
    }

    private SeenFault Fault(LoggedFinding finding)
    {
        var zoned = TestElements.IsZoned(Test) && finding.ClockMinutes is not null;
        var away = CauseFactsOf(finding).StartStopAwayMm;
        return new SeenFault(
            finding.Kind,
            finding.Stage,
            zoned ? TestElements.ZoneOf(finding.ClockMinutes!.Value) : null,
            Events.LastOrDefault(one => one.Kind == BenchEventKind.CauseChosen && one.Body.FindingId == finding.Id)?.Body.CauseId,
            away <= TradeNumbers.Of("restartReachMm")
        );
    }

    private SeenFault Fault(MeasuredFinding measure) =>
        new(
            measure.Kind,
            measure.Stage ?? Stage.Cap,
            TestElements.IsZoned(Test) && measure.ClockMinutes is { } minutes ? TestElements.ZoneOf(minutes) : null,
            null,
            false,
            ByMeasure: true
        );
}
