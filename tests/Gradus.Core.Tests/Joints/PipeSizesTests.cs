using Gradus.Core.Joints;

namespace Gradus.Core.Tests.Joints;

public class PipeSizesTests
{
    // ASME B36.10M; 10S from ASME B36.19M.
    [Theory]
    [InlineData("1/2", "80", 0.840, 0.147)]
    [InlineData("1-1/2", "40", 1.900, 0.145)]
    [InlineData("2", "80", 2.375, 0.218)]
    [InlineData("2", "xxs", 2.375, 0.436)]
    [InlineData("5", "40", 5.563, 0.258)]
    [InlineData("6", "40", 6.625, 0.280)]
    [InlineData("6", "80", 6.625, 0.432)]
    [InlineData("6", "10S", 6.625, 0.134)]
    [InlineData("8", "60", 8.625, 0.406)]
    [InlineData("24", "40", 24.000, 0.688)]
    public void A_size_has_the_diameter_and_wall_of_the_standard(string nps, string schedule, double outside, double wall)
    {
        var size = PipeSizes.Find(nps, schedule)!;
        Assert.Equal(outside * 25.4, size.OutsideDiameter.Mm, 9);
        Assert.Equal(wall * 25.4, size.Wall.Mm, 9);
        Assert.Equal((outside - (2 * wall)) * 25.4, size.InsideDiameter.Mm, 9);
    }

    // The metric columns of ASME B36.10M and B36.19M, which round each wall to 0.01 mm: DN, outside diameter and wall (from memory).
    [Theory]
    [InlineData("1/8", "STD", 6, 10.3, 1.73)]
    [InlineData("1/4", "XS", 8, 13.7, 3.02)]
    [InlineData("3/8", "30", 10, 17.1, 1.85)]
    [InlineData("1/2", "5S", 15, 21.3, 1.65)]
    [InlineData("2", "STD", 50, 60.3, 3.91)]
    [InlineData("2", "10S", 50, 60.3, 2.77)]
    [InlineData("2-1/2", "XXS", 65, 73.0, 14.02)]
    [InlineData("4", "120", 100, 114.3, 11.13)]
    [InlineData("6", "XS", 150, 168.3, 10.97)]
    [InlineData("8", "STD", 200, 219.1, 8.18)]
    [InlineData("8", "20", 200, 219.1, 6.35)]
    [InlineData("8", "140", 200, 219.1, 20.62)]
    [InlineData("10", "STD", 250, 273.0, 9.27)]
    [InlineData("10", "XS", 250, 273.0, 12.70)]
    [InlineData("12", "STD", 300, 323.8, 9.53)]
    [InlineData("12", "80S", 300, 323.8, 12.70)]
    [InlineData("14", "10S", 350, 355.6, 4.78)]
    [InlineData("16", "100", 400, 406.4, 26.19)]
    [InlineData("18", "30", 450, 457.2, 11.13)]
    [InlineData("20", "STD", 500, 508.0, 9.53)]
    [InlineData("24", "XS", 600, 609.6, 12.70)]
    [InlineData("24", "160", 600, 609.6, 59.54)]
    public void A_size_has_the_metric_measures_of_the_standard(string nps, string schedule, int dn, double outside, double wall)
    {
        var size = PipeSizes.Find(nps, schedule)!;
        Assert.Equal(dn, size.Dn);
        Assert.Equal(outside, size.OutsideDiameter.Mm, 0.1);
        Assert.Equal(wall, size.Wall.Mm, 0.011);
        Assert.Equal(size, PipeSizes.Find($"DN {dn}", schedule));
    }

    /// <summary>Standard weight is schedule 40 up to NPS 10 and 3/8 in from there; extra strong is 80 up to NPS 8 and 1/2 in from there (ASME B36.10M).</summary>
    [Fact]
    public void Weights_by_name_are_the_schedules_that_the_trade_knows() =>
        Assert.All(
            PipeSizes.NominalSizes,
            nps =>
            {
                var outside = PipeSizes.Find(nps, "STD")!.OutsideDiameter.Inches;
                Assert.Equal(outside > 11 ? 0.375 : PipeSizes.Find(nps, "40")!.Wall.Inches, PipeSizes.Find(nps, "STD")!.Wall.Inches, 9);
                Assert.Equal(outside > 9 ? 0.5 : PipeSizes.Find(nps, "80")!.Wall.Inches, PipeSizes.Find(nps, "XS")!.Wall.Inches, 9);
                Assert.Equal("1/8", PipeSizes.NominalSizes[0]);
                Assert.Equal("24", PipeSizes.NominalSizes[^1]);
            }
        );

    [Fact]
    public void From_14_up_the_nominal_size_is_the_outside_diameter_in_inches() => // ASME B36.10M
        Assert.All(
            PipeSizes.NominalSizes.Where(nps => int.TryParse(nps, out var inches) && inches >= 14),
            nps =>
                Assert.Equal(
                    double.Parse(nps, System.Globalization.CultureInfo.InvariantCulture),
                    PipeSizes.Find(nps, "80")!.OutsideDiameter.Inches,
                    9
                )
        );

    [Fact]
    public void Within_a_size_the_numbered_schedules_get_thicker() =>
        Assert.All(
            PipeSizes.NominalSizes,
            nps =>
            {
                var walls = new[] { "5", "10", "20", "30", "40", "60", "80", "100", "120", "140", "160" }
                    .Select(schedule => PipeSizes.Find(nps, schedule))
                    .OfType<PipeSize>()
                    .Select(size => size.Wall.Mm)
                    .ToList();
                Assert.Equal(walls.Order(), walls);
                Assert.Equal(walls.Count, walls.Distinct().Count());
            }
        );

    [Theory]
    [InlineData("7", "40")]
    [InlineData("6", "77")]
    [InlineData("", "")]
    [InlineData("DN 155", "40")]
    [InlineData("14", "80S")] // only to NPS 12 here
    public void A_size_that_the_standard_does_not_have_is_not_found(string nps, string schedule) => Assert.Null(PipeSizes.Find(nps, schedule));
}
