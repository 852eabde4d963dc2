using CsCheck;
using Gradus.Core.Library;
using Gradus.Core.Measure;
using Gradus.Core.Welding;

namespace Gradus.Core.Tests.Welding;

/// <summary>Preheat, plungers, travel and beads across, against what is published.</summary>
public class BenchMathTests
{
    /// <summary>The IIW equivalent by hand: a boiler steel at its limits, and a structural steel.</summary>
    [Theory]
    [InlineData(0.30, 1.06, 0.40, 0.15, 0.08, 0.40, 0.40, 0.656)] // pipe steel grade B at its limits: .30 + .1767 + .126 + .0533
    [InlineData(0.20, 1.50, 0, 0, 0, 0, 0, 0.45)] // the textbook 0.20 C, 1.5 Mn
    [InlineData(0.15, 0.45, 2.25, 1.0, 0, 0, 0, 0.875)] // 2 1/4 Cr 1 Mo
    public void The_carbon_equivalent_is_that_of_the_iiw(double c, double mn, double cr, double mo, double v, double ni, double cu, double ce)
    {
        var steel = new SteelAnalysis(c, mn, cr, mo, v, ni, cu, 0.3);
        Assert.Equal(ce, steel.CarbonEquivalent, 0.0005);
        Assert.Equal(ce + 0.05, steel.CarbonEquivalentWithSilicon, 0.0005);
    }

    /// <summary>EN 1011-2 method A: carbon 0.05 to 0.25 %, equivalent 0.30 to 0.70 %; from memory.</summary>
    [Theory]
    [InlineData(0.20, 1.5, true)]
    [InlineData(0.26, 0.9, false)]
    [InlineData(0.04, 1.8, false)]
    [InlineData(0.10, 0.6, false)] // equivalent 0.20
    public void Outside_its_span_the_equivalent_says_nothing(double c, double mn, bool holds) =>
        Assert.Equal(holds, new SteelAnalysis(c, mn).IsInSpan);

    /// <summary>AWS D1.1 Table 3.3 (2015), 5.8 (2020), in °F; from memory, 88 %. Piping by the stricter reading, 70 %.</summary>
    [Theory]
    [InlineData("A", 0.75, 32)]
    [InlineData("A", 1.0, 150)]
    [InlineData("A", 2.5, 225)]
    [InlineData("A", 3.0, 300)]
    [InlineData("B", 0.75, 32)]
    [InlineData("B", 0.8, 50)]
    [InlineData("B", 1.5, 50)]
    [InlineData("B", 2.0, 150)]
    [InlineData("B", 4.0, 225)]
    [InlineData("C", 0.5, 50)]
    [InlineData("C", 3.0, 300)]
    [InlineData("D", 3.0, 32)]
    [InlineData("P-4", 0.4, 300)]
    [InlineData("P-5A", 0.4, 350)]
    [InlineData("P-15E", 0.4, 400)]
    public void The_least_preheat_is_that_of_the_table(string category, double inches, double fahrenheit) =>
        Assert.Equal((fahrenheit - 32) / 1.8, Preheat.LeastC(category, inches * 25.4), 0.001);

    /// <summary>Steel under 32 °F is warmed to 70 °F whatever the table says (AWS D1.1; from memory).</summary>
    [Theory]
    [InlineData(0, -1, true)]
    [InlineData(0, 0, false)]
    [InlineData(10, 9, true)]
    [InlineData(10, 10, false)]
    public void Metal_that_is_too_cold_is_told(double least, double metal, bool below)
    {
        Assert.Equal(below, Preheat.IsBelow(least, metal));
        Assert.Equal(70, (Preheat.WarmToC * 1.8) + 32, 0.01);
    }

    /// <summary>Plungers for a specimen of 3/8 in (AWS D1.1, ASME IX QW-466, API 1104) and of 10 mm (ISO 9606-1), and what the die gapes; from memory.</summary>
    [Theory]
    [InlineData("aws-d1.1", "to50", 0.375, 1.5, 2.375)]
    [InlineData("aws-d1.1", "to90", 0.375, 2.0, 2.875)]
    [InlineData("aws-d1.1", "from90", 0.375, 2.5, 3.375)]
    [InlineData("asme-ix", "ductile", 0.375, 1.5, 2.375)]
    [InlineData("asme-ix", "p11", 0.375, 2.5, 3.375)]
    [InlineData("asme-ix", "p51", 0.375, 3.0, 3.875)]
    [InlineData("asme-ix", "p52", 0.375, 3.75, 4.625)]
    [InlineData("asme-ix", "p23", 0.125, 2.0625, 2.4375)] // 2 1/16 in, die 2 7/16
    [InlineData("api-1104", "any", 0.25, 3.5, 4.125)]
    public void A_plunger_is_that_of_the_code(string code, string group, double thickness, double plunger, double die)
    {
        var row = BendJig.Plungers.Single(one => one.Code == code && one.Group == group);
        var specimen = Length.FromInches(thickness);
        var made = BendJig.Plunger(row, specimen);
        Assert.Equal(plunger, made.Inches, 0.001);
        Assert.Equal(die, BendJig.DieGap(made, specimen).Inches, 0.001);
    }

    /// <summary>ISO 9606-1: 4 t, and under 20 % elongation 100 t/A − t, which meet at 20 %.</summary>
    [Fact]
    public void By_iso_a_brittle_metal_is_bent_over_a_larger_plunger()
    {
        var rows = BendJig.Plungers.Where(one => one.Code == "iso-9606-1").ToDictionary(one => one.Group);
        var specimen = Length.FromMm(10);
        Assert.Equal(40, BendJig.Plunger(rows["ductile"], specimen).Mm, 9);
        Assert.Equal(40, BendJig.Plunger(rows["brittle"], specimen, 20).Mm, 9);
        Assert.Equal(90, BendJig.Plunger(rows["brittle"], specimen, 10).Mm, 9);
        Assert.Throws<ArgumentException>(() => BendJig.Plunger(rows["brittle"], specimen));
    }

    /// <summary>A 1/8 in E7018 at 120 A burns about a minute to a minute and a half, and 7 in from it is 5 to 7 in/min (common practice).</summary>
    [Fact]
    public void A_rod_burns_as_long_as_it_does_in_the_shop()
    {
        var grams = Deposit.GramsPerRod(Length.FromInches(0.125), Length.FromInches(14), Length.FromInches(2), 1.1, 7850);
        var seconds = Travel.RodSeconds(grams, 120);
        Assert.InRange(seconds, 55, 95);
        Assert.InRange(Travel.MmPerMin(Length.FromInches(7), seconds) / 25.4, 4.5, 7.5);
        Assert.Equal(254, Travel.MmPerMin(Length.FromInches(5), 30), 9); // 5 in in half a minute is 10 in/min
    }

    [Fact]
    public void So_many_beads_of_their_own_width_cover_the_width() =>
        Gen.Select(Gen.Double[2, 100], Gen.Int[1, 12], Gen.Double[0, 0.8])
            .Sample(
                (width, count, overlap) =>
                {
                    var each = BeadsAcross.WidthEachMm(Length.FromMm(width), count, overlap);
                    return BeadsAcross.Count(Length.FromMm(width), Length.FromMm(each), overlap) == count;
                },
                iter: 2000
            );

    /// <summary>Beads across agree with the plans: the beads of each cap, as wide as they have to be, are so many by the formula, and no wider than a welder can run.</summary>
    [Fact]
    public void The_caps_of_the_library_are_what_the_formula_counts() =>
        Assert.All(
            TestLibrary.Shipped.Values.Where(test => test.Weld == WeldKind.Groove && test.Halves.Count == 0 && test.Product != Product.Sheet),
            test =>
            {
                var section = test.Section();
                var cap = section.Beads.Where(bead => bead.Layer == section.Beads[^1].Layer).ToList();
                var width = Length.FromMm(section.FaceWidthMm + (2 * TradeNumbers.Of("capLapMm")));
                var each = BeadsAcross.WidthEachMm(width, cap.Count, TradeNumbers.Of("beadOverlap"));
                Assert.Equal(cap.Count, BeadsAcross.Count(width, Length.FromMm(each), TradeNumbers.Of("beadOverlap")));

                // A weave runs to six diameters of the rod, a stringer of wire or rod to about half an inch (common practice).
                Assert.True(each < 19.05, $"{test.Id}: {cap.Count} of {each / 25.4:0.00} in");
            }
        );
}
