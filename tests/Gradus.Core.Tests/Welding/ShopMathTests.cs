using CsCheck;
using Gradus.Core.Joints;
using Gradus.Core.Measure;
using Gradus.Core.Welding;

namespace Gradus.Core.Tests.Welding;

public class ShopMathTests
{
    private const double Inch = 25.4;
    private const double Steel = 7850; // kg/m3, engineering handbooks

    [Fact]
    public void Heat_input_of_24_volts_200_amps_250_mm_a_minute() => // ASME IX QW-409.1, worked by hand
        Assert.Equal(1.152, HeatInput.KjPerMm(24, 200, 250), 9);

    [Theory]
    [InlineData(0.8, 0.9216)] // EN 1011-1: SMAW, GMAW, FCAW
    [InlineData(0.6, 0.6912)] // EN 1011-1: GTAW
    public void Thermal_efficiency_lowers_it(double efficiency, double kJPerMm) =>
        Assert.Equal(kJPerMm, HeatInput.KjPerMm(24, 200, 250, efficiency), 9);

    // Common practice: half over half.
    [Theory]
    [InlineData(0.686, 0.375, 0.5, 3)]
    [InlineData(0.375, 0.375, 0.5, 1)]
    [InlineData(0.2, 0.375, 0.5, 1)]
    [InlineData(0.750, 0.375, 0.5, 3)]
    [InlineData(0.750, 0.375, 0, 2)]
    public void Beads_across_a_width(double width, double bead, double overlap, int count) =>
        Assert.Equal(count, BeadsAcross.Count(Length.FromInches(width), Length.FromInches(bead), overlap));

    [Fact]
    public void Beads_spread_evenly_cover_the_width_with_at_least_the_overlap_asked_for() =>
        Gen.Select(Gen.Double[1, 100], Gen.Double[1, 20], Gen.Double[0, 0.8])
            .Sample(
                (width, bead, overlap) =>
                {
                    var count = BeadsAcross.Count(Length.FromMm(width), Length.FromMm(bead), overlap);
                    var spacing = BeadsAcross.SpacingMm(Length.FromMm(width), Length.FromMm(bead), count);
                    return spacing <= (bead * (1 - overlap)) + 1e-6 && (count == 1 || Math.Abs(bead + ((count - 1) * spacing) - width) < 1e-6);
                }
            );

    [Fact]
    public void Purging_two_feet_of_nps_6_schedule_40_five_times_takes_six_minutes() // AWS D10.11; ASME B36.10M for the bore
    {
        const double LitresPerCubicFoot = 28.316846592;
        var volume = Purge.VolumeL(PipeSizes.Find("6", "40")!.InsideDiameter, Length.FromInches(24));
        Assert.Equal(6.02, Purge.Minutes(volume, 5, 20 * LitresPerCubicFoot / 60), 2);
    }

    // Core area x (14 in - 2 in stub) x density x nominal recovery (EN ISO 2401), worked by hand.
    [Theory]
    [InlineData(1.0 / 8, 1.10, 20.84)]
    [InlineData(1.0 / 8, 0.90, 17.05)]
    [InlineData(3.0 / 32, 1.10, 11.72)]
    public void A_14_inch_rod_leaves_so_many_grams(double diameter, double recovery, double grams) =>
        Assert.Equal(grams, Deposit.GramsPerRod(Length.FromInches(diameter), Length.FromInches(14), Length.FromInches(2), recovery, Steel), 2);

    [Theory]
    [InlineData(1.0, 20.0, 50)]
    [InlineData(1.001, 20.0, 51)]
    [InlineData(0.0, 20.0, 0)]
    public void Rods_are_rounded_up(double kg, double grams, long rods) => Assert.Equal(rods, Deposit.Rods(kg, grams));

    [Fact]
    public void Deposition_is_bead_area_times_travel_times_density() => // conservation of mass
        Gen.Select(Gen.Double[0.6, 2], Gen.Double[1000, 15000], Gen.Double[50, 1000], Gen.Double[0.5, 1])
            .Sample(
                (diameter, feed, travel, recovery) =>
                {
                    var kgPerH = Deposit.WireBeadAreaMm2(Length.FromMm(diameter), feed, travel, recovery) * travel * 60 * Steel / 1e9;
                    return Math.Abs((kgPerH / Deposit.WireKgPerH(Length.FromMm(diameter), feed, recovery, Steel)) - 1) < 1e-9;
                }
            );

    [Fact]
    public void Solid_035_wire_weighs_what_the_handbook_says() => // The Procedure Handbook of Arc Welding: 3650 in of 0.035 steel wire to the pound, from memory
        Assert.InRange(Deposit.WireKgPerH(Length.FromInches(0.035), 3650 * Inch / 60, 1, Steel), 0.43, 0.47);

    // ASME IX QW-466 and AWS D1.1: 3/8 in specimen.
    [Theory]
    [InlineData(1.5, 20.0)]
    [InlineData(2.0, 15.8)]
    [InlineData(2.5, 13.0)]
    public void Outer_strain_of_the_bend_jig(double plunger, double percent) =>
        Assert.Equal(percent, BendJig.OuterStrainPercent(Length.FromInches(0.375), Length.FromInches(plunger)), 1);
}
