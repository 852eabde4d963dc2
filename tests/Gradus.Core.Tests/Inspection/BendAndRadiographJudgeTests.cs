using CsCheck;
using Gradus.Core.Inspection;

namespace Gradus.Core.Tests.Inspection;

public class BendAndRadiographJudgeTests
{
    private const double Inch = 25.4;

    private static VerdictKind Bend(string profile, double? wallIn, params (double? SizeIn, bool Corner, bool Fault)[] found) =>
        BendJudge
            .Judge(
                AcceptanceProfiles.Shipped[profile],
                [new BendSpecimen(wallIn * Inch, [.. found.Select(one => new BendDiscontinuity(one.SizeIn * Inch, one.Corner, one.Fault))])]
            )
            .Kind;

    // AWS D1.1 bend acceptance; ASME IX QW-163; API 1104.
    [Theory]
    [InlineData("aws-d1.1", 1.0 / 8, false, false, VerdictKind.Accept)]
    [InlineData("aws-d1.1", 9.0 / 64, false, false, VerdictKind.Reject)]
    [InlineData("aws-d1.1", 1.0 / 4, true, false, VerdictKind.Accept)]
    [InlineData("aws-d1.1", 17.0 / 64, true, false, VerdictKind.CannotJudge)] // void: a replacement is cut
    [InlineData("aws-d1.1", 9.0 / 64, true, true, VerdictKind.Reject)]
    [InlineData("asme-ix", 1.0 / 8, false, false, VerdictKind.Accept)]
    [InlineData("asme-ix", 9.0 / 64, false, false, VerdictKind.Reject)]
    [InlineData("asme-ix", 1.0, true, false, VerdictKind.Accept)]
    [InlineData("asme-ix", 9.0 / 64, true, true, VerdictKind.Reject)]
    [InlineData("api-1104", 1.0 / 8, false, false, VerdictKind.Accept)]
    [InlineData("api-1104", 15.0 / 64, true, false, VerdictKind.Accept)]
    [InlineData("api-1104", 1.0 / 4, true, false, VerdictKind.Reject)]
    public void A_discontinuity_on_a_bend(string profile, double sizeIn, bool corner, bool fault, VerdictKind verdict) =>
        Assert.Equal(verdict, Bend(profile, 0.5, (sizeIn, corner, fault)));

    [Fact]
    public void D1_1_sums_those_over_a_32nd_up_to_three_eighths()
    {
        Assert.Equal(VerdictKind.Accept, Bend("aws-d1.1", null, (1.0 / 8, false, false), (1.0 / 8, false, false), (1.0 / 8, false, false)));
        Assert.Equal(
            VerdictKind.Reject,
            Bend("aws-d1.1", null, (1.0 / 8, false, false), (1.0 / 8, false, false), (1.0 / 8, false, false), (3.0 / 64, false, false))
        );
        Assert.Equal(VerdictKind.Accept, Bend("aws-d1.1", null, [.. Enumerable.Repeat<(double?, bool, bool)>((1.0 / 32, false, false), 20)]));
    }

    [Fact]
    public void Api_1104_takes_half_the_wall_when_that_is_less_and_asks_for_the_wall()
    {
        Assert.Equal(VerdictKind.Reject, Bend("api-1104", 0.125, (5.0 / 64, false, false)));
        Assert.Equal(VerdictKind.CannotJudge, Bend("api-1104", null, (5.0 / 64, false, false)));
    }

    [Fact]
    public void A_size_that_was_not_measured_never_passes() => Assert.Equal(VerdictKind.CannotJudge, Bend("aws-d1.1", null, (null, false, false)));

    private static TestVerdict Radiograph(double thicknessIn, params (IndicationKind Kind, double? SizeIn, double? AtIn)[] found) =>
        RadiographJudge.Judge(
            AcceptanceProfiles.Shipped["asme-ix"],
            new FilmedWeld(thicknessIn * Inch),
            [.. found.Select(one => new Indication(one.Kind, one.SizeIn * Inch, one.AtIn * Inch))]
        );

    // ASME IX QW-191.1.2.
    [Theory]
    [InlineData(0.375, IndicationKind.ElongatedSlag, 0.125, VerdictKind.Accept)]
    [InlineData(0.375, IndicationKind.ElongatedSlag, 0.126, VerdictKind.Reject)]
    [InlineData(0.75, IndicationKind.ElongatedSlag, 0.249, VerdictKind.Accept)]
    [InlineData(0.75, IndicationKind.ElongatedSlag, 0.251, VerdictKind.Reject)]
    [InlineData(3.0, IndicationKind.ElongatedSlag, 0.75, VerdictKind.Accept)]
    [InlineData(3.0, IndicationKind.ElongatedSlag, 0.76, VerdictKind.Reject)]
    [InlineData(0.375, IndicationKind.Rounded, 0.074, VerdictKind.Accept)]
    [InlineData(0.375, IndicationKind.Rounded, 0.076, VerdictKind.Reject)]
    [InlineData(1.0, IndicationKind.Rounded, 0.126, VerdictKind.Reject)]
    [InlineData(0.375, IndicationKind.Crack, 0.01, VerdictKind.Reject)]
    [InlineData(0.375, IndicationKind.IncompleteFusion, 0.01, VerdictKind.Reject)]
    [InlineData(0.375, IndicationKind.IncompletePenetration, 0.01, VerdictKind.Reject)]
    public void An_indication_on_a_radiograph(double thicknessIn, IndicationKind kind, double sizeIn, VerdictKind verdict) =>
        Assert.Equal(verdict, Radiograph(thicknessIn, (kind, sizeIn, 0)).Kind);

    [Fact]
    public void Slag_in_line_is_summed_unless_the_gaps_are_over_six_of_the_longest() // t = 3/8, each 1/8 long
    {
        static (IndicationKind, double?, double?) Slag(double at) => (IndicationKind.ElongatedSlag, 0.125, at);
        Assert.Equal(VerdictKind.Reject, Radiograph(0.375, Slag(0), Slag(0.5), Slag(1), Slag(1.5)).Kind);
        Assert.Equal(VerdictKind.Accept, Radiograph(0.375, Slag(0), Slag(1), Slag(2), Slag(3)).Kind);
        Assert.Equal(VerdictKind.Accept, Radiograph(0.375, Slag(0), Slag(0.5), Slag(1)).Kind);
    }

    [Fact]
    public void Slag_of_unknown_place_is_judged_only_when_its_place_cannot_matter()
    {
        var slag = (IndicationKind.ElongatedSlag, (double?)0.125, (double?)null);
        Assert.Equal(VerdictKind.Accept, Radiograph(0.375, slag, slag).Kind);
        var four = Radiograph(0.375, slag, slag, slag, slag);
        Assert.Equal((VerdictKind.CannotJudge, "atMm"), (four.Kind, four.Reasons[0].Measure));
    }

    [Fact]
    public void A_larger_indication_never_comes_out_better() =>
        Gen.Select(Gen.Double[1, 60], Gen.Double[0, 20], Gen.Double[0, 10], Gen.Bool)
            .Sample(
                (thickness, size, more, rounded) =>
                {
                    var kind = rounded ? IndicationKind.Rounded : IndicationKind.ElongatedSlag;
                    VerdictKind Of(double mm) =>
                        RadiographJudge.Judge(AcceptanceProfiles.Shipped["asme-ix"], new FilmedWeld(thickness), [new(kind, mm, 0)]).Kind;
                    return Of(size) == VerdictKind.Accept || Of(size + more) == VerdictKind.Reject;
                }
            );

    [Fact]
    public void A_profile_without_limits_says_that_it_cannot_judge()
    {
        var profile = AcceptanceProfiles.Shipped["aws-d17.1"];
        Assert.Equal(VerdictKind.CannotJudge, BendJudge.Judge(profile, [new BendSpecimen(null, [])]).Kind);
        Assert.Equal(VerdictKind.CannotJudge, RadiographJudge.Judge(profile, new FilmedWeld(3), []).Kind);
        var visual = VisualJudge.Judge(profile, new InspectedJoint(Product.Sheet, 2, true), []);
        Assert.Equal(VerdictKind.CannotJudge, visual.Kind);
        Assert.Contains("cannot judge until the school enters", visual.Reasons[0].Rule, StringComparison.Ordinal);
    }
}
