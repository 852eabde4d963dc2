using CsCheck;
using Gradus.Core.Inspection;

namespace Gradus.Core.Tests.Inspection;

public class BreakAndMacroJudgeTests
{
    private const double Inch = 25.4;

    private static TestVerdict Nick(double? wall = 0.5, double? percent = 1, double?[]? pores = null, params BreakSlag[] slag) =>
        BreakAndMacroJudge.NickBreak(
            AcceptanceProfiles.Shipped["api-1104"],
            [new NickBreakSpecimen(true, true, wall * Inch, percent, pores ?? [], slag)]
        );

    [Fact]
    public void A_sound_nick_break_passes() => Assert.Equal(VerdictKind.Accept, Nick().Kind);

    [Theory] // API 1104: pore 1/16 in
    [InlineData(1.0 / 16, VerdictKind.Accept)]
    [InlineData(5.0 / 64, VerdictKind.Reject)]
    public void The_largest_pore_decides(double inches, VerdictKind verdict) => Assert.Equal(verdict, Nick(pores: [inches * Inch]).Kind);

    [Fact]
    public void Pores_over_2_percent_of_the_surface_reject() => Assert.Equal(VerdictKind.Reject, Nick(percent: 2.5).Kind);

    [Fact]
    public void Pores_without_their_share_leave_it_open() => Assert.Equal("porePercent", Nick(percent: null, pores: [0.5]).Reasons.Single().Measure);

    [Theory] // API 1104: 1/32 deep; 1/8 in or half the wall long, whichever is smaller; 1/2 in apart
    [InlineData(1.0 / 32, 1.0 / 8, 0.5, VerdictKind.Accept)]
    [InlineData(3.0 / 64, 1.0 / 8, 0.5, VerdictKind.Reject)]
    [InlineData(1.0 / 32, 9.0 / 64, 0.5, VerdictKind.Reject)]
    [InlineData(1.0 / 32, 1.0 / 8, 0.2, VerdictKind.Reject)]
    [InlineData(1.0 / 32, 1.0 / 8, null, VerdictKind.CannotJudge)]
    public void Slag_is_held_to_depth_length_and_wall(double depth, double length, double? wall, VerdictKind verdict) =>
        Assert.Equal(verdict, Nick(wall, 1, null, new BreakSlag(depth * Inch, length * Inch, null)).Kind);

    [Fact]
    public void Two_pieces_of_slag_too_close_reject()
    {
        BreakSlag Piece(double? apart) => new(0.5, 2, apart);
        Assert.Equal(VerdictKind.Reject, Nick(slag: [Piece(0.4 * Inch), Piece(null)]).Kind);
        Assert.Equal(VerdictKind.Accept, Nick(slag: [Piece(0.5 * Inch), Piece(null)]).Kind);
        Assert.Equal(VerdictKind.CannotJudge, Nick(slag: [Piece(null), Piece(null)]).Kind);
    }

    private static TestVerdict Break(string profile, bool? flat, bool? fused, params double?[] sizes) =>
        BreakAndMacroJudge.FilletBreak(AcceptanceProfiles.Shipped[profile], [new FilletBreakSpecimen(flat, fused, false, sizes)]);

    [Fact]
    public void A_fillet_that_bends_flat_on_itself_passes() => Assert.Equal(VerdictKind.Accept, Break("aws-d1.1", true, null).Kind);

    [Theory] // AWS D1.1: 3/32 in the largest; all of them not over 3/8 in together
    [InlineData(VerdictKind.Accept, 3.0 / 32)]
    [InlineData(VerdictKind.Reject, 7.0 / 64)]
    [InlineData(VerdictKind.Accept, 3.0 / 32, 3.0 / 32, 3.0 / 32, 3.0 / 32)]
    [InlineData(VerdictKind.Reject, 3.0 / 32, 3.0 / 32, 3.0 / 32, 3.0 / 32, 1.0 / 16)]
    [InlineData(VerdictKind.Reject, 3.0 / 32, 3.0 / 32, 3.0 / 32, 3.0 / 32, 1.0 / 64)]
    public void A_broken_fillet_is_held_to_its_inclusions(VerdictKind verdict, params double[] inches) =>
        Assert.Equal(verdict, Break("aws-d1.1", false, true, [.. inches.Select(size => (double?)(size * Inch))]).Kind);

    [Fact]
    public void What_was_not_looked_at_is_never_a_pass()
    {
        Assert.Equal("fusionToRoot", Break("aws-d1.1", false, null).Reasons.Single().Measure);
        Assert.Equal(VerdictKind.CannotJudge, Break("aws-d1.1", false, true, [null]).Kind);
        Assert.Equal(VerdictKind.CannotJudge, Break("aws-d17.1", false, true).Kind); // no limits here
        Assert.Equal(VerdictKind.CannotJudge, Break("asme-ix", null, true).Kind);
    }

    private static TestVerdict Macro(string profile, double? convexity, double? face, double legA = 8, double? legB = 8, double? undercut = 0) =>
        BreakAndMacroJudge.Macro(
            AcceptanceProfiles.Shipped[profile],
            [new MacroSpecimen(true, false, true, null, 8, legA, legB, face, convexity, null, undercut)]
        );

    [Theory] // AWS D1.1, weld profiles: 1/16 in on faces to 5/16, 1/8 to 1 in, 3/16 above
    [InlineData(1.5, 7.0, VerdictKind.Accept)]
    [InlineData(2.0, 7.0, VerdictKind.Reject)]
    [InlineData(3.0, 12.0, VerdictKind.Accept)]
    [InlineData(3.5, 12.0, VerdictKind.Reject)]
    [InlineData(4.5, 30.0, VerdictKind.Accept)]
    [InlineData(1.5, null, VerdictKind.Accept)] // flat enough for any width
    [InlineData(2.0, null, VerdictKind.CannotJudge)]
    [InlineData(5.0, null, VerdictKind.Reject)] // too round for any width
    public void Convexity_goes_by_the_width_of_the_face(double convexity, double? face, VerdictKind verdict) =>
        Assert.Equal(verdict, Macro("aws-d1.1", convexity, face).Kind);

    [Fact]
    public void A_leg_under_the_size_asked_for_rejects() => Assert.Equal(VerdictKind.Reject, Macro("aws-d1.1", 0, 7, legA: 7.9).Kind);

    [Fact]
    public void Asme_holds_the_legs_to_an_eighth_of_each_other() // QW-184
    {
        Assert.Equal(VerdictKind.Accept, Macro("asme-ix", 1, 7, 8, 11).Kind);
        Assert.Equal(VerdictKind.Reject, Macro("asme-ix", 1, 7, 8, 11.5).Kind);
    }

    [Fact]
    public void A_larger_fault_never_helps() =>
        Gen.Select(Gen.Double[0, 6], Gen.Double[0, 6], Gen.Double[2, 40])
            .Sample(
                (one, other, face) =>
                    Macro("aws-d1.1", Math.Max(one, other), face).Kind != VerdictKind.Accept
                    || Macro("aws-d1.1", Math.Min(one, other), face).Kind == VerdictKind.Accept,
                iter: 500
            );
}
