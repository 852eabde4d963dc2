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
                var walls = new[] { "10", "40", "60", "80", "120", "160" }
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
    public void A_size_that_the_standard_does_not_have_is_not_found(string nps, string schedule) => Assert.Null(PipeSizes.Find(nps, schedule));
}
