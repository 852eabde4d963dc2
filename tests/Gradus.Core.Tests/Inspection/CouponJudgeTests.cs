using Gradus.Core.Inspection;
using Gradus.Core.Library;
using Gradus.Core.Welding;

namespace Gradus.Core.Tests.Inspection;

public class CouponJudgeTests
{
    private static readonly TestTemplate Pipe = TestLibrary.Shipped["R3"];

    private static CouponVerdict Judge(Stage[] logged, params MeasuredFinding[] findings) =>
        CouponJudge.Judge(Pipe, AcceptanceProfiles.Shipped["aws-d1.1"], null, logged, findings);

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
    public void A_fault_within_its_limit_leaves_the_stage_clean()
    {
        var verdict = Judge([Stage.Root, Stage.Fill, Stage.Cap], new MeasuredFinding(DiscontinuityKind.Undercut, Stage.Cap, DepthMm: 25.4 / 64));
        Assert.Equal(VerdictKind.Accept, verdict.Kind);
        Assert.All(verdict.StageClean.Values, Assert.True);
    }
}
