using Gradus.Core.Bench;
using Gradus.Core.Coaching;
using Gradus.Core.Inspection;
using Gradus.Core.Library;
using Gradus.Core.Measure;
using Gradus.Core.Readiness;
using Gradus.Core.Vocabulary;
using Gradus.Data;
using Gradus.Server.Accounts;
using Gradus.Server.Hosting;
using Gradus.Server.Library;
using Gradus.Server.Readiness;
using Gradus.Server.School;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Coupons;

/// <summary>Puts together what the bench shows of a coupon.</summary>
public sealed class CouponReader(
    GradusContext db,
    CouponRecorder recorder,
    ReadinessBook readiness,
    SchoolLibrary library,
    SchoolClock clock,
    PhotoStore photos,
    Speaker speaker
)
{
    private const int CausesShown = 3;

    private static List<ProposalView> Proposals(Coupon coupon, CouponLog log, Authors authors)
    {
        // A student puts nothing right: no names of other students or booths are needed.
        var words = new HistoryWords(coupon, log, new Dictionary<Guid, string>(), new Dictionary<Guid, int>());
        return [.. CouponRecorder.Proposals(coupon).Select(one => new ProposalView(one.Id, words.Says(one), authors.Of(one.Id), one.HappenedAt))];
    }

    public async Task<CouponView?> Read(Guid couponId, CancellationToken cancel)
    {
        // One connection for all that is read here: each opening costs as much as a small query.
        await db.Database.OpenConnectionAsync(cancel);
        var coupon = await recorder.Load(couponId, cancel);
        if (coupon is null)
        {
            return null;
        }

        var log = CouponLogs.Of(coupon, library);
        var words = await speaker.Words(cancel);
        var authors = new Authors(coupon, await Names.Of(db, cancel));
        var recent = await RecentPasses.Read(db, coupon.StudentId, coupon.TestId, clock.Now, cancel);
        var closing = coupon.Closings.FirstOrDefault(one => one.Id == log.Closing?.Id);
        var verdict = log.Closing?.Verdict ?? log.Verdict();
        var signed = coupon.Closings.FirstOrDefault(one => one.Id == log.FirstClosing?.Id);
        var today = closing is null
            ? null
            : await db.TodaysVerdicts.AsNoTracking().FirstOrDefaultAsync(one => one.ClosingId == closing.Id && one.Differs, cancel);
        return new CouponView(
            coupon.Id,
            coupon.Stamp,
            new CouponStudent(coupon.StudentId, coupon.Student!.Name, coupon.Student.Hand),
            TestOf(log),
            coupon.DrillId,
            coupon.Variants,
            coupon.Booth?.Number,
            coupon.AsTest,
            coupon.StartedAt,
            coupon.ClosedAt,
            new FitUpView(log.FitUp?.Id, log.FitUp?.Measured, log.FitUpReport.Outcome, log.FitUpReport.Lines),
            [.. log.Sections()],
            [
                .. log.Beads.Select(bead => new BeadView(
                    bead.Key,
                    bead.Stage,
                    bead.Layer,
                    bead.BeadInLayer,
                    bead.Half,
                    bead.Pass,
                    log.IsLaid(bead.Key) ? PassOf(log.RunsOf(bead.Key)[^1], log, authors) : null,
                    CouponLog.IsPatch(bead.Key),
                    [.. log.RunsOf(bead.Key).Select(run => PassOf(run, log, authors))],
                    log.RunsLeft(bead, coupon.Student.Hand),
                    [.. log.AskedOf(bead).Select(ask => ask.Id)],
                    log.LaidAt(bead)
                )),
            ],
            log.Next(),
            PassCards.Build(log.Test, coupon.Student.Hand, recent, coupon.BoothId),
            [.. log.Findings.Select((finding, index) => FindingOf(log, finding, index, verdict, authors, words))],
            [
                .. coupon
                    .Notes.Where(note => note.WithdrawnAt is null)
                    .OrderBy(note => note.HappenedAt)
                    .Select(note => new NoteView(note.Id, note.Text, authors.Of(note.Id), note.HappenedAt)),
            ],
            new VerdictView(
                verdict.Kind,
                verdict.Visual.Reasons,
                verdict.Visual.Passed,
                verdict.Missing,
                verdict.ProfileId,
                verdict.ProfileVersion,
                verdict.TemplateVersion,
                closing?.ProgramVersion,
                signed?.HappenedAt,
                signed is null ? null : authors.Of(signed.Id),
                verdict.Halves ?? [],
                verdict.Seen,
                verdict.Inside,
                CouponLog.Sentence(verdict),
                verdict.Says ?? [],
                [
                    .. log.Closings.Select(one => new ClosingView(
                        one.Id,
                        one.Verdict.Kind,
                        CouponLog.Sentence(one.Verdict),
                        one.Because,
                        authors.Of(one.Id),
                        one.At
                    )),
                ],
                today is null
                    ? null
                    : new TodayView(
                        today.Verdict!.Kind,
                        CouponLog.Sentence(today.Verdict),
                        TodaysBook.Says(today.Verdict),
                        today.ProfileVersion,
                        today.DeclinedAt is null
                    )
            ),
            await Shift(coupon, log, today is { DeclinedAt: null } ? today.Verdict! : verdict, cancel),
            log.FitUpNumbers,
            LifeOf(coupon, log, authors),
            [
                .. coupon
                    .Photos.Where(photo => photo.WithdrawnAt is null)
                    .OrderBy(photo => photo.HappenedAt)
                    .Select(photo => new PhotoView(
                        photo.Id,
                        photo.WidthPx,
                        photo.HeightPx,
                        authors.Of(photo.Id),
                        photo.HappenedAt,
                        !photos.IsThere(coupon.Id, photo.Id)
                    )),
            ],
            coupon.BoothId,
            Asks.All,
            Proposals(coupon, log, authors)
        );
    }

    /// <summary>What a finding would come to if it were recorded as it is said so far.</summary>
    public async Task<Outcome<FindingPreview>> Preview(Guid couponId, RecordFinding said, CancellationToken cancel)
    {
        if (await recorder.Load(couponId, cancel) is not { } coupon)
        {
            return CouponRecorder.UnknownCoupon();
        }

        var log = CouponLogs.Of(coupon, library);
        var unplaced = said.Clock is null && said.FromStartMm is null;
        if (!unplaced && MayRecord.Finding(log, said.PassId, said.Stage!.Value, said.Clock, said.FromStartMm) is { } off)
        {
            return off.ToRefusal();
        }

        var preview = log.Preview(CouponLogs.Of(CouponRecorder.ToRecord(couponId, Guid.Empty, said, Provenance.Direct(Guid.Empty, clock.Now))));
        var words = await speaker.Words(cancel);
        return preview with { Causes = [.. preview.Causes.Take(CausesShown).Select(cause => cause.In(words))] };
    }

    /// <summary>Who made each record of a coupon. Two of different kinds may have one id: whoever sends them chooses it.</summary>
    private sealed class Authors(Coupon coupon, IReadOnlyDictionary<Guid, string> names)
    {
        private readonly Dictionary<Guid, Guid> by = coupon.AllRecords().DistinctBy(one => one.Id).ToDictionary(one => one.Id, one => one.RecordedBy);

        public string Of(Guid recordId) => names[by[recordId]];
    }

    private async Task<ReadinessShift> Shift(Coupon coupon, CouponLog log, CouponVerdict verdict, CancellationToken cancel)
    {
        var seen = log.Evidence(verdict, log.FirstClosing?.At ?? clock.Now);
        var (record, before, after) = await readiness.Shift(coupon.StudentId, coupon.TestId, coupon.Id, seen, log.Closing is not null, cancel);
        return new ReadinessShift(ChanceView.From(record, before), ChanceView.From(record, after));
    }

    private LifeView LifeOf(Coupon coupon, CouponLog log, Authors authors)
    {
        var breaches = log.Breaches(clock.Now);
        List<EventView> events = [.. log.Events.Select(one => new EventView(one.Id, one.Kind, one.Body, authors.Of(one.Id), one.At))];
        return new LifeView(
            log.State,
            events.LastOrDefault(one => one.Kind == BenchEventKind.Voided)?.Body.Reason,
            log.PositionStands,
            CouponLife.Timers(log.Events),
            log.Holds,
            [.. log.HoldsDue.Select(point => point.Title)],
            breaches,
            log.AsTest && breaches.Count > 0,
            [.. events.Where(one => one is { Kind: BenchEventKind.Measured, Body.Fillet: null })],
            log.Specimens(),
            events,
            log.Next() is { Kind: NextKind.Pass, Stage: { } stage } ? log.Concerns(stage, null, clock.Now) : [],
            log.Scores,
            coupon.Student!.SafetySignedAt is not null,
            CouponBudget.PurgeOf(log.Test).Minutes,
            TradeNumbers.Of("coolMinutesPerLayer")
        );
    }

    private static CouponTest TestOf(CouponLog log)
    {
        var template = log.Test;
        return new CouponTest(
            template.Id,
            template.Title,
            template.Product,
            template.Positions[0],
            log.Profile.Id,
            log.Profile.Name,
            template.Joint.ThicknessMm,
            template.Joint.LengthMm,
            log.Stages,
            template.FitUp,
            template.Joint,
            Core.Safety.Cautions.Of(template),
            template.Specimens,
            [.. template.Rules.HoldPoints.Select(point => point.Title)],
            template.Rules,
            template.Temperatures,
            template.Halves
        );
    }

    private static PassView PassOf(LoggedPass pass, CouponLog log, Authors authors) =>
        new(
            pass.Id,
            pass.At,
            authors.Of(pass.Id),
            pass.Process,
            pass.ElectrodeClass,
            pass.DiameterMm,
            pass.Polarity,
            pass.Amps,
            pass.Volts,
            pass.WireFeedMmPerMin,
            pass.Gas,
            pass.Technique,
            pass.Progression,
            pass.Hand,
            pass.InterpassC,
            pass.BelowFlushMm,
            pass.StartAt?.ToString(),
            pass.StopAt?.ToString(),
            pass.Part,
            pass.Side,
            pass.Measured,
            log.AsTest ? pass.Despite ?? [] : [],
            RunNumbers.Of(log.Test, pass)
        );

    private static FindingView FindingOf(CouponLog log, LoggedFinding finding, int index, CouponVerdict verdict, Authors authors, Wording words)
    {
        var events = log.Events.Where(one => one.Body.FindingId == finding.Id).ToList();
        var repair = log.RepairOf(finding);
        var deciding =
            verdict.Visual.Reasons.FirstOrDefault(reason => reason.Finding == index)
            ?? verdict.Visual.Passed.FirstOrDefault(reason => reason.Finding == index);
        return new FindingView(
            finding.Id,
            finding.Kind,
            Discontinuities.Of(finding.Kind).Name,
            finding.Stage,
            finding.ClockMinutes is { } minutes ? ClockPosition.FromMinutes(minutes).ToString() : null,
            finding.Place?.FromStartMm,
            finding.DepthMm,
            finding.HeightMm,
            finding.LengthMm,
            finding.DiameterMm,
            finding.WidthMm,
            finding.Count,
            finding.Toe,
            finding.FaceHeightThereMm,
            finding.Shape,
            deciding?.Outcome ?? (repair.State == RepairState.Sound ? VerdictKind.Accept : VerdictKind.CannotJudge),
            deciding,
            [.. CauseFinder.Rank(finding.Kind, log.CauseFactsOf(finding)).Take(CausesShown).Select(cause => cause.In(words))],
            events.LastOrDefault(one => one.Kind == BenchEventKind.CauseChosen)?.Body.CauseId,
            log.Threatened(finding),
            [
                .. events
                    .Where(one => one.Kind == BenchEventKind.Repaired)
                    .Select(one => new RepairView(one.Id, one.Body.Action!.Value, authors.Of(one.Id), one.At)),
            ],
            authors.Of(finding.Id),
            finding.At,
            repair,
            [.. Enum.GetValues<RepairAction>().Select(action => new RepairChoice(action, log.LeaveFor(finding, action)))]
        );
    }
}
