using CsCheck;
using Gradus.Core.Joints;
using Gradus.Core.Measure;
using MathNet.Numerics.Integration;

namespace Gradus.Core.Tests.Joints;

public class SingleVGrooveTests
{
    private const double Inch = 25.4;

    private static SingleVGroove Groove(double thickness, double bevel, double opening, double face) =>
        new(Length.FromMm(thickness), BevelAngle.FromDegrees(bevel), BevelAngle.FromDegrees(bevel), Length.FromMm(opening), Length.FromMm(face));

    // Worked by hand with a four-place table of tangents (tan 22.5 = 0.4142, tan 30 = 0.5774, tan 37.5 = 0.7673).
    [Theory]
    [InlineData(3.0 / 8, 22.5, 1.0 / 4, 0, 0.5607, 0.15200)]
    [InlineData(3.0 / 8, 30, 1.0 / 4, 0, 0.6830, 0.17494)]
    [InlineData(1.0 / 2, 30, 5.0 / 32, 1.0 / 16, 16.800 / Inch, 121.70 / Inch / Inch)]
    [InlineData(0.432, 37.5, 3.0 / 32, 3.0 / 32, 15.566 / Inch, 82.77 / Inch / Inch)]
    public void Face_width_and_area_match_the_worked_example(double t, double bevel, double g, double f, double widthIn, double areaIn2)
    {
        var groove = Groove(t * Inch, bevel, g * Inch, f * Inch);
        Assert.Equal(widthIn, groove.FaceWidthMm / Inch, 4);
        Assert.Equal(areaIn2, groove.AreaMm2 / Inch / Inch, 4);
        Assert.Equal(2 * bevel, groove.IncludedAngleDegrees);
    }

    [Fact]
    public void Volume_round_a_pipe_matches_numerical_integration_through_the_wall()
    {
        // Reference: Gauss-Legendre quadrature of a general-purpose library over width(z) x 2 pi (ri + z).
        const double Wall = 0.432 * Inch,
            Outside = 6.625 * Inch,
            Opening = 3 * Inch / 32,
            Face = 3 * Inch / 32;
        var tangent = Math.Tan(37.5 * Math.PI / 180);
        double Ring(double z) => (Opening + (2 * tangent * Math.Max(0, z - Face))) * 2 * Math.PI * ((Outside / 2) - Wall + z);
        var expected = GaussLegendreRule.Integrate(Ring, 0, Face, 20) + GaussLegendreRule.Integrate(Ring, Face, Wall, 20);
        var groove = Groove(Wall, 37.5, Opening, Face);
        Assert.Equal(expected, groove.PipeVolumeMm3(Length.FromMm(Outside)), 6);
        Assert.Equal(41_836, groove.PipeVolumeMm3(Length.FromMm(Outside)), 0);
    }

    [Fact]
    public void Reinforcement_round_a_pipe_matches_numerical_integration_over_the_parabola()
    {
        const double Outside = 168.275,
            Height = 2,
            Lap = 1.5;
        var groove = Groove(10, 30, 3, 1);
        var width = groove.FaceWidthMm + (2 * Lap);
        double Strip(double x)
        {
            var h = Height * (1 - Math.Pow(2 * x / width, 2));
            return Math.PI * (Math.Pow((Outside / 2) + h, 2) - Math.Pow(Outside / 2, 2));
        }

        var expected = GaussLegendreRule.Integrate(Strip, -width / 2, width / 2, 20);
        Assert.Equal(expected, groove.PipeReinforcementVolumeMm3(Length.FromMm(Outside), Length.FromMm(Height), Length.FromMm(Lap)), 6);
    }

    [Fact]
    public void A_protractor_on_the_plate_reads_what_is_left_to_square() => Assert.Equal(67.5, BevelAngle.FromDegrees(22.5).ProtractorDegrees);

    [Fact]
    public void A_wider_gap_or_a_steeper_bevel_never_lowers_the_area() =>
        Gen.Select(Gen.Double[1, 50], Gen.Double[0, 60], Gen.Double[0, 10], Gen.Double[0, 1], Gen.Double[0, 5])
            .Sample(
                (t, bevel, gap, faceShare, more) =>
                {
                    var area = Groove(t, bevel, gap, faceShare * t).AreaMm2;
                    return Groove(t, bevel, gap + more, faceShare * t).AreaMm2 >= area && Groove(t, bevel + more, gap, faceShare * t).AreaMm2 >= area;
                }
            );

    [Theory]
    [InlineData(95)]
    [InlineData(-1)]
    [InlineData(double.NaN)]
    public void An_impossible_bevel_cannot_be_made(double degrees) =>
        Assert.Throws<ArgumentOutOfRangeException>(() => BevelAngle.FromDegrees(degrees));

    [Fact]
    public void A_root_face_thicker_than_the_plate_is_refused() => Assert.Throws<ArgumentException>(() => Groove(10, 30, 3, 10.1));

    [Fact]
    public void A_wall_as_thick_as_the_radius_is_refused() =>
        Assert.Throws<ArgumentException>(() => Groove(10, 30, 3, 1).PipeVolumeMm3(Length.FromMm(20)));
}
