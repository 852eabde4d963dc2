using Gradus.Core.Inspection;
using Gradus.Core.Joints;
using Gradus.Core.Library;
using Gradus.Core.Measure;
using Gradus.Core.Readiness;
using Gradus.Core.Welding;
using Gradus.Data;
using Gradus.Server.Library;

namespace Gradus.Server.Coupons;

/// <summary>What follows from a coupon's record: its plan, its sections, what is next, its verdict. Pure; the record is loaded before.</summary>
public sealed class CouponFacts
{
    private readonly Coupon coupon;
    private readonly IReadOnlyList<PlannedBead> plannedBeads;

    public CouponFacts(Coupon coupon, SchoolLibrary library)
    {
        this.coupon = coupon;
        Template = library.Test(coupon.TestId, coupon.TestVersion).With(coupon.Variants);
        Profile = library.Profiles[Template.Code];
        Stages = Template.StagesOf(coupon.DrillId);
        FitUp = Standing(coupon.FitUps).LastOrDefault();
        Passes = [.. Standing(coupon.Passes)];
        Findings = [.. Standing(coupon.Findings)];
        FitUpReport = FitUpCheck.Check(Template.FitUp, FitUp?.Measured ?? new FitUpMeasured([], [], new Dictionary<string, bool>()));
        plannedBeads = BeadPlanner.Beads(Template);
    }

    public TestTemplate Template { get; }
    public AcceptanceProfile Profile { get; }
    public IReadOnlyList<Stage> Stages { get; }
    public FitUpRecord? FitUp { get; }
    public IReadOnlyList<PassRecord> Passes { get; }
    public IReadOnlyList<FindingRecord> Findings { get; }
    public FitUpReport FitUpReport { get; }

    /// <summary>The beads of the coupon or drill, in the order of welding.</summary>
    public IEnumerable<PlannedBead> Beads => plannedBeads.Where(bead => Stages.Contains(bead.Stage));

    public ClosingRecord? Closing => Standing(coupon.Closings).LastOrDefault();

    public NextStep Next()
    {
        if (Closing is not null)
        {
            return new NextStep(NextKind.Closed, null, null, null, null);
        }

        var laid = Passes.Select(pass => pass.BeadKey).ToHashSet();
        var bead = Beads.FirstOrDefault(bead => !laid.Contains(bead.Key));
        return FitUp is null ? new NextStep(NextKind.FitUp, null, null, null, null)
            : bead is null ? new NextStep(NextKind.Look, null, null, null, null)
            : new NextStep(NextKind.Pass, bead.Key, bead.Stage, bead.Layer, bead.BeadInLayer, bead.Pass);
    }

    /// <summary>The verdict as it stands. A stage counts once all its planned beads are laid: half a cap is not a clean cap.</summary>
    public CouponVerdict Verdict()
    {
        var laid = Passes.Select(pass => pass.BeadKey).ToHashSet();
        return CouponJudge.Judge(Template, Profile, coupon.DrillId, Finished, [.. Findings.Select(finding => finding.ToMeasured())]);

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

    /// <summary>The section at each point where the fit-up was measured, or the planned one before that.</summary>
    public IReadOnlyList<SectionView> Sections()
    {
        var measured = (FitUp?.Measured.Points ?? []).Where(point => Template.FitUp.Points.Contains(point.At)).ToList();
        return measured.Count == 0
            ? Template.Halves.Count == 0
                ? [new SectionView(null, BeadPlanner.Plan(Template))]
                : [.. Template.FitUp.Points.Select(at => new SectionView(at, BeadPlanner.Plan(Template, null, HalfAt(at))))]
            : [.. measured.Select(point => new SectionView(point.At, BeadPlanner.Plan(Template, point, HalfAt(point.At))))];
    }

    /// <summary>What the coupon tells of readiness, as it stands on a day.</summary>
    public CouponEvidence Evidence(CouponVerdict verdict, DateTimeOffset at) =>
        EvidenceOf(coupon.DrillId, coupon.AsTest, verdict.Decides, verdict.StageClean, at);

    /// <summary>A verdict as the readiness model takes it.</summary>
    public static CouponEvidence EvidenceOf(
        string? drillId,
        bool asTest,
        bool decides,
        IReadOnlyDictionary<Stage, bool> stageClean,
        DateTimeOffset at
    ) =>
        new(
            Days(at),
            Full: drillId is null && decides,
            Aided: !asTest,
            Clean: stageClean.ToDictionary(one => ElementOf(one.Key), one => one.Value, StringComparer.Ordinal)
        );

    /// <summary>The element of the readiness model that a stage is.</summary>
    public static string ElementOf(Stage stage) => System.Text.Json.JsonNamingPolicy.CamelCase.ConvertName(stage.ToString());

    /// <summary>Days since the epoch, with fractions.</summary>
    public static double Days(DateTimeOffset at) => at.ToUnixTimeMilliseconds() / (24.0 * 60 * 60 * 1000);

    /// <summary>The half of a split coupon in which a clock position lies; null for a coupon that is one.</summary>
    private string? HalfAt(string at) => Template.Halves.FirstOrDefault(half => CouponJudge.LiesIn(half, ClockPosition.Parse(at).Minutes))?.Id;

    private static IEnumerable<T> Standing<T>(IEnumerable<T> records)
        where T : CouponRecord =>
        records.Where(record => record.WithdrawnAt is null).OrderBy(record => record.RecordedAt).ThenBy(record => record.Id);
}
