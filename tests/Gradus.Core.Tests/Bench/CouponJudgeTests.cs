using Gradus.Core.Bench;
using Gradus.Core.Inspection;
using Gradus.Core.Library;

namespace Gradus.Core.Tests.Inspection;

public class CouponJudgeTests
{
    private static readonly TestTemplate Pipe = TestLibrary.Shipped["R3"];

    private static CouponVerdict Judge(Stage[] logged, params MeasuredFinding[] findings) =>
        CouponJudge.Judge(Pipe, AcceptanceProfiles.Shipped["aws-d1.1"], null, _ => logged, findings);

    [Fact]
    public void A_coupon_without_its_cap_is_not_judged_yet()
    {
        var verdict = Judge([Stage.Root, Stage.Fill]);
        Assert.Equal((VerdictKind.CannotJudge, false), (verdict.Kind, verdict.Decides));
        Assert.Equal([Stage.Cap], verdict.Missing);
    }

    [Fact]
    public void A_lost_root_decides_even_when_nothing_was_welded_over_it()
    {
        var verdict = Judge([Stage.Root], new MeasuredFinding(DiscontinuityKind.IncompleteJointPenetration, Stage.Root));
        Assert.Equal((VerdictKind.Reject, true), (verdict.Kind, verdict.Decides));
        Assert.False(verdict.StageClean[Stage.Root]);
    }

    [Fact]
    public void A_rejected_finding_is_never_lost_from_the_stages() => // not even on a stage with no pass
        Assert.False(Judge([Stage.Root], new MeasuredFinding(DiscontinuityKind.Crack, Stage.Cap)).StageClean[Stage.Cap]);

    [Fact]
    public void Each_half_of_a_split_coupon_gets_its_own_verdict()
    {
        var split = TestLibrary.Shipped["R4"];
        Stage[] all = [Stage.Root, Stage.Hot, Stage.Fill, Stage.Cap];
        var verdict = CouponJudge.Judge(
            split,
            AcceptanceProfiles.Shipped["aws-d1.1"],
            null,
            half => half == "cellulosic" ? all[..3] : all,
            [new MeasuredFinding(DiscontinuityKind.Undercut, Stage.Cap, DepthMm: 2, ClockMinutes: 4 * 60)]
        );
        Assert.Equal(
            [("lowHydrogen", VerdictKind.Reject), ("cellulosic", VerdictKind.CannotJudge)],
            verdict.Halves!.Select(half => (half.HalfId, half.Kind))
        );
        Assert.Equal(VerdictKind.Reject, verdict.Kind);
    }

    [Theory] // from 12 clockwise to 6, the start itself included
    [InlineData(0, true, false)]
    [InlineData(359, true, false)]
    [InlineData(360, false, true)]
    [InlineData(719, false, true)]
    [InlineData(null, true, true)]
    public void A_finding_belongs_to_the_half_it_lies_in(int? minutes, bool first, bool second) =>
        Assert.Equal([first, second], TestLibrary.Shipped["R4"].Halves.Select(half => CouponJudge.LiesIn(half, minutes)));

    [Fact]
    public void A_fault_within_its_limit_leaves_the_stage_clean()
    {
        var verdict = Judge([Stage.Root, Stage.Fill, Stage.Cap], new MeasuredFinding(DiscontinuityKind.Undercut, Stage.Cap, DepthMm: 25.4 / 64));
        Assert.Equal(VerdictKind.Accept, verdict.Kind);
        Assert.All(verdict.StageClean.Values, Assert.True);
    }
}
