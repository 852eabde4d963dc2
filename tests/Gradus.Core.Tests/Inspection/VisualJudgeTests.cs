using CsCheck;
using Gradus.Core.Inspection;

namespace Gradus.Core.Tests.Inspection;

public class VisualJudgeTests
{
    private const double Inch = 25.4;

    private static Verdict Judge(
        string profile,
        MeasuredFinding finding,
        double thickness = 10,
        bool openRoot = true,
        Product product = Product.Pipe
    ) => VisualJudge.Judge(AcceptanceProfiles.Shipped[profile], new InspectedJoint(product, thickness, openRoot), [finding]);

    // AWS D1.1, visual criteria of the welder qualification test.
    [Theory]
    [InlineData(DiscontinuityKind.Undercut, 1.0 / 32, VerdictKind.Accept)]
    [InlineData(DiscontinuityKind.Undercut, 3.0 / 64, VerdictKind.Reject)]
    [InlineData(DiscontinuityKind.RootConcavity, 1.0 / 16, VerdictKind.Accept)]
    [InlineData(DiscontinuityKind.RootConcavity, 5.0 / 64, VerdictKind.Reject)]
    [InlineData(DiscontinuityKind.Underfill, 0, VerdictKind.Accept)]
    [InlineData(DiscontinuityKind.Underfill, 1.0 / 64, VerdictKind.Reject)]
    public void D1_1_limits_depth(DiscontinuityKind kind, double depthIn, VerdictKind verdict) =>
        Assert.Equal(verdict, Judge("aws-d1.1", new(kind, DepthMm: depthIn * Inch, FaceHeightThereMm: Inch / 8)).Kind);

    [Theory]
    [InlineData(DiscontinuityKind.ExcessFaceReinforcement, 1.0 / 8, VerdictKind.Accept)]
    [InlineData(DiscontinuityKind.ExcessFaceReinforcement, 9.0 / 64, VerdictKind.Reject)]
    [InlineData(DiscontinuityKind.ExcessPenetration, 1.0 / 8, VerdictKind.Accept)]
    [InlineData(DiscontinuityKind.ExcessPenetration, 9.0 / 64, VerdictKind.Reject)]
    public void D1_1_limits_height(DiscontinuityKind kind, double heightIn, VerdictKind verdict) =>
        Assert.Equal(verdict, Judge("aws-d1.1", new(kind, HeightMm: heightIn * Inch)).Kind);

    [Theory]
    [InlineData(DiscontinuityKind.Crack)]
    [InlineData(DiscontinuityKind.CraterCrack)]
    [InlineData(DiscontinuityKind.IncompleteFusion)]
    [InlineData(DiscontinuityKind.IncompleteJointPenetration)]
    public void Both_codes_reject_these_whatever_their_size(DiscontinuityKind kind)
    {
        Assert.Equal(VerdictKind.Reject, Judge("aws-d1.1", new(kind, LengthMm: 0.1)).Kind);
        Assert.Equal(VerdictKind.Reject, Judge("iso-9606-1", new(kind)).Kind);
    }

    // ISO 5817: level C for undercut, excess weld metal and excess penetration in ISO 9606-1, level B for the rest. Limits in mm.
    [Theory]
    [InlineData(DiscontinuityKind.Undercut, FindingMeasure.DepthMm, 4, null, 0.4)]
    [InlineData(DiscontinuityKind.Undercut, FindingMeasure.DepthMm, 10, null, 0.5)]
    [InlineData(DiscontinuityKind.RootConcavity, FindingMeasure.DepthMm, 8, null, 0.4)]
    [InlineData(DiscontinuityKind.RootConcavity, FindingMeasure.DepthMm, 20, null, 0.5)]
    [InlineData(DiscontinuityKind.ExcessFaceReinforcement, FindingMeasure.HeightMm, 10, 10.0, 2.5)]
    [InlineData(DiscontinuityKind.ExcessFaceReinforcement, FindingMeasure.HeightMm, 10, 50.0, 7.0)]
    [InlineData(DiscontinuityKind.ExcessPenetration, FindingMeasure.HeightMm, 10, 2.0, 2.2)]
    [InlineData(DiscontinuityKind.ExcessPenetration, FindingMeasure.HeightMm, 10, 8.0, 4.0)]
    [InlineData(DiscontinuityKind.Misalignment, FindingMeasure.HeightMm, 3, null, 1.5)]
    [InlineData(DiscontinuityKind.Misalignment, FindingMeasure.HeightMm, 10, null, 2.0)]
    public void Iso_5817_limits_follow_thickness_and_width(
        DiscontinuityKind kind,
        FindingMeasure measure,
        double thickness,
        double? width,
        double limit
    )
    {
        MeasuredFinding Of(double value) =>
            measure switch
            {
                FindingMeasure.DepthMm => new(kind, DepthMm: value, LengthMm: 20, WidthMm: width),
                _ => new(kind, HeightMm: value, WidthMm: width),
            };
        var over = Judge("iso-9606-1", Of(limit + 0.01), thickness);
        Assert.Equal(VerdictKind.Accept, Judge("iso-9606-1", Of(limit - 1e-9), thickness).Kind);
        Assert.Equal(VerdictKind.Reject, over.Kind);
        Assert.Equal(limit, over.Reasons[0].Limit!.Value, 9);
    }

    [Fact]
    public void A_reject_names_measure_value_limit_and_source()
    {
        var reason = Assert.Single(Judge("aws-d1.1", new(DiscontinuityKind.Undercut, Stage.Cap, DepthMm: 1.2)).Reasons);
        Assert.Equal(
            (0, FindingMeasure.DepthMm, 1.2, Inch / 32, true),
            (reason.Finding, reason.Measure, reason.Measured, reason.Limit, reason.FromMemory)
        );
        Assert.Contains("AWS D1.1", reason.Source, StringComparison.Ordinal);
    }

    [Fact]
    public void A_missing_measure_is_named_and_never_passes()
    {
        var verdict = Judge("aws-d1.1", new(DiscontinuityKind.Undercut, LengthMm: 10));
        Assert.Equal(VerdictKind.CannotJudge, verdict.Kind);
        Assert.Equal(FindingMeasure.DepthMm, Assert.Single(verdict.Reasons).Measure);
    }

    [Fact]
    public void A_limit_that_needs_the_width_asks_for_it_only_when_it_matters()
    {
        // ISO 5817 level C: 1 mm + 0.15 b, at most 7 mm.
        Assert.Equal(VerdictKind.Accept, Judge("iso-9606-1", new(DiscontinuityKind.ExcessFaceReinforcement, HeightMm: 0.9)).Kind);
        Assert.Equal(VerdictKind.Reject, Judge("iso-9606-1", new(DiscontinuityKind.ExcessFaceReinforcement, HeightMm: 7.1)).Kind);
        var between = Judge("iso-9606-1", new(DiscontinuityKind.ExcessFaceReinforcement, HeightMm: 3));
        Assert.Equal(VerdictKind.CannotJudge, between.Kind);
        Assert.Equal(FindingMeasure.WidthMm, between.Reasons[0].Measure);
    }

    [Fact]
    public void One_reject_decides_whatever_else_is_unmeasured()
    {
        var joint = new InspectedJoint(Product.Plate, 10, false);
        var verdict = VisualJudge.Judge(
            AcceptanceProfiles.Shipped["aws-d1.1"],
            joint,
            [new(DiscontinuityKind.Undercut), new(DiscontinuityKind.Crack)]
        );
        Assert.Equal(VerdictKind.Reject, verdict.Kind);
        Assert.Equal(1, verdict.Reasons[0].Finding);
    }

    [Fact]
    public void What_stands_through_a_backed_root_is_for_the_inspector()
    {
        Assert.Equal(VerdictKind.CannotJudge, Judge("aws-d1.1", new(DiscontinuityKind.ExcessPenetration, HeightMm: 9), openRoot: false).Kind);
        Assert.Equal(VerdictKind.Accept, Judge("aws-d1.1", new(DiscontinuityKind.ExcessPenetration, HeightMm: 0), openRoot: false).Kind);
    }

    [Fact]
    public void A_larger_finding_never_comes_out_better() =>
        Gen.Select(
                Gen.Int[0, Enum.GetValues<DiscontinuityKind>().Length - 1].Select(index => Enum.GetValues<DiscontinuityKind>()[index]),
                Gen.Bool.Select(us => us ? "aws-d1.1" : "iso-9606-1"),
                Gen.Double[0, 12],
                Gen.Double[0, 5],
                Gen.Double[1, 40],
                Gen.Bool
            )
            .Sample(
                (kind, profile, size, more, thickness, openRoot) =>
                {
                    MeasuredFinding Of(double mm) => new(kind, null, mm, mm, mm, mm, 10, 1);
                    return Judge(profile, Of(size), thickness, openRoot).Kind != VerdictKind.Reject
                        || Judge(profile, Of(size + more), thickness, openRoot).Kind == VerdictKind.Reject;
                }
            );
}
