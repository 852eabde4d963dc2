using Gradus.Core.Bench;
using Gradus.Core.Coaching;
using Gradus.Core.Inspection;
using Gradus.Core.Library;
using Gradus.Core.Measure;
using Gradus.Data;
using Gradus.Server.Library;
using Gradus.Server.Readiness;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Coupons;

/// <summary>Puts together what the bench shows of a coupon.</summary>
public sealed class CouponReader(GradusContext db, CouponRecorder recorder, ReadinessBook readiness, SchoolLibrary library, TimeProvider time)
{
    private const int CausesShown = 3;

    public async Task<CouponView?> Read(Guid couponId, CancellationToken cancel)
    {
        var coupon = await recorder.Load(couponId, cancel);
        if (coupon is null)
        {
            return null;
        }

        var facts = new CouponFacts(coupon, library);
        var names = await db.Instructors.AsNoTracking().ToDictionaryAsync(one => one.Id, one => one.Name, cancel);
        var recent = await PassCards.Recent(db, [coupon.StudentId], time.GetUtcNow(), cancel, [coupon.TestId]);
        var closing = facts.Closing;
        var verdict = closing?.Verdict ?? facts.Verdict();
        var passes = facts.Passes.ToDictionary(pass => pass.BeadKey);
        return new CouponView(
            coupon.Id,
            coupon.Stamp,
            new CouponStudent(coupon.StudentId, coupon.Student!.Name, coupon.Student.Hand),
            TestOf(facts),
            coupon.DrillId,
            coupon.Variants,
            coupon.Booth?.Number,
            coupon.AsTest,
            coupon.StartedAt,
            coupon.ClosedAt,
            new FitUpView(facts.FitUp?.Id, facts.FitUp?.Measured, facts.FitUpReport.Outcome, facts.FitUpReport.Lines),
            facts.Sections(),
            [
                .. facts.Beads.Select(bead => new BeadView(
                    bead.Key,
                    bead.Stage,
                    bead.Layer,
                    bead.BeadInLayer,
                    bead.Half,
                    bead.Pass,
                    PassOf(passes.GetValueOrDefault(bead.Key), names)
                )),
            ],
            facts.Next(),
            PassCards.Build(facts.Template, coupon.Student.Hand, recent[(coupon.StudentId, coupon.TestId)], coupon.BoothId),
            [.. facts.Findings.Select((finding, index) => FindingOf(facts, finding, index, verdict, names))],
            [
                .. coupon
                    .Notes.Where(note => note.WithdrawnAt is null)
                    .OrderBy(note => note.RecordedAt)
                    .Select(note => new NoteView(note.Id, note.Text, names[note.RecordedBy], note.RecordedAt)),
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
                closing?.RecordedAt,
                closing is null ? null : names[closing.RecordedBy],
                verdict.Halves ?? []
            ),
            await Shift(coupon, facts, verdict, closing?.RecordedAt, cancel),
            facts.FitUpNumbers,
            LifeOf(coupon, facts, names),
            [
                .. coupon
                    .Photos.Where(photo => photo.WithdrawnAt is null)
                    .OrderBy(photo => photo.RecordedAt)
                    .Select(photo => new PhotoView(photo.Id, photo.WidthPx, photo.HeightPx, names[photo.RecordedBy], photo.RecordedAt)),
            ]
        );
    }

    private async Task<ReadinessShift> Shift(
        Coupon coupon,
        CouponFacts facts,
        CouponVerdict verdict,
        DateTimeOffset? closedAt,
        CancellationToken cancel
    )
    {
        var seen = facts.Evidence(verdict, closedAt ?? time.GetUtcNow());
        var (record, before, after) = await readiness.Shift(coupon.StudentId, coupon.TestId, coupon.Id, seen, closedAt is not null, cancel);
        return new ReadinessShift(ChanceView.From(record, before), ChanceView.From(record, after));
    }

    private LifeView LifeOf(Coupon coupon, CouponFacts facts, Dictionary<Guid, string> names)
    {
        var breaches = facts.Breaches(time.GetUtcNow());
        List<EventView> events =
        [
            .. facts.EventRecords.Select(one => new EventView(one.Id, one.Kind, one.Body, names[one.RecordedBy], one.RecordedAt)),
        ];
        return new LifeView(
            facts.State,
            events.LastOrDefault(one => one.Kind == BenchEventKind.Voided)?.Body.Reason,
            facts.PositionStands,
            CouponLife.Timers(facts.Events),
            CouponLife.Holds(facts.Events),
            facts.HoldsDue,
            breaches,
            coupon.AsTest && breaches.Count > 0,
            [.. events.Where(one => one.Kind == BenchEventKind.Measured)],
            facts.Specimens(),
            events
        );
    }

    private static CouponTest TestOf(CouponFacts facts)
    {
        var template = facts.Template;
        return new CouponTest(
            template.Id,
            template.Title,
            template.Product,
            template.Positions[0],
            facts.Profile.Id,
            facts.Profile.Name,
            template.Joint.ThicknessMm,
            template.Joint.LengthMm,
            facts.Stages,
            template.FitUp,
            template.Joint,
            Core.Safety.Cautions.Of(template),
            template.Specimens,
            template.Rules.HoldPoints,
            template.Rules,
            template.Temperatures,
            template.Halves
        );
    }

    private static PassView? PassOf(PassRecord? pass, Dictionary<Guid, string> names) =>
        pass is null
            ? null
            : new PassView(
                pass.Id,
                pass.RecordedAt,
                names[pass.RecordedBy],
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
                pass.StartAt,
                pass.StopAt
            );

    private static FindingView FindingOf(CouponFacts facts, FindingRecord finding, int index, CouponVerdict verdict, Dictionary<Guid, string> names)
    {
        var events = facts.EventRecords.Where(one => one.Body.FindingId == finding.Id).ToList();
        var deciding =
            verdict.Visual.Reasons.FirstOrDefault(reason => reason.Finding == index)
            ?? verdict.Visual.Passed.FirstOrDefault(reason => reason.Finding == index);
        return new FindingView(
            finding.Id,
            finding.Kind,
            Discontinuities.Of(finding.Kind).Name,
            finding.Stage,
            finding.ClockMinutes is { } minutes ? ClockPosition.FromMinutes(minutes).ToString() : null,
            finding.FromStartMm,
            finding.DepthMm,
            finding.HeightMm,
            finding.LengthMm,
            finding.DiameterMm,
            finding.WidthMm,
            finding.Count,
            deciding?.Outcome ?? VerdictKind.CannotJudge,
            deciding,
            [.. CauseFinder.Rank(finding.Kind, facts.CauseFactsOf(finding)).Take(CausesShown)],
            events.LastOrDefault(one => one.Kind == BenchEventKind.CauseChosen)?.Body.CauseId,
            CouponLife.Threatened(
                facts.Template.Specimens,
                finding.ClockMinutes,
                finding.FromStartMm,
                facts.Template.Joint.Pipe is null ? 0 : CouponBudget.JointLengthMm(facts.Template)
            ),
            [
                .. events
                    .Where(one => one.Kind == BenchEventKind.Repaired)
                    .Select(one => new RepairView(one.Id, one.Body.Action!.Value, names[one.RecordedBy], one.RecordedAt)),
            ],
            names[finding.RecordedBy],
            finding.RecordedAt
        );
    }
}
