using Gradus.Core.Qualification;

namespace Gradus.Core.Tests.Qualification;

public class QualifierTests
{
    private const double Inch = 25.4;

    private static PassedTest Plate(
        string position,
        double inches = 0.375,
        bool backing = true,
        int f = 4,
        Progression progression = Progression.Uphill,
        int? layers = null
    ) =>
        new(
            Product.Plate,
            position.EndsWith('F') ? WeldKind.Fillet : WeldKind.Groove,
            position,
            Core.Measure.Length.FromInches(inches).Mm,
            null,
            backing,
            "SMAW",
            f,
            progression,
            layers
        );

    private static PassedTest Pipe(
        string position,
        double outsideIn = 6.625,
        double wallIn = 0.432,
        bool backing = false,
        Progression progression = Progression.Uphill
    ) => new(Product.Pipe, WeldKind.Groove, position, wallIn * Inch, outsideIn * Inch, backing, "SMAW", 4, progression, 5);

    private static Qualified Of(string code, params PassedTest[] tests) => Qualifier.Combine(Positions.Of(code)!, tests);

    // AWS D1.1 and ASME IX QW-461.9. The two codes differ at 3G: D1.1 adds horizontal.
    [Theory]
    [InlineData("aws-d1.1", "1G", "F", "F H")]
    [InlineData("aws-d1.1", "2G", "F H", "F H")]
    [InlineData("aws-d1.1", "3G", "F H V", "F H V")]
    [InlineData("aws-d1.1", "4G", "F OH", "F H OH")]
    [InlineData("aws-d1.1", "3G 4G", "F H V OH", "F H V OH")]
    [InlineData("asme-ix", "1G", "F", "F")]
    [InlineData("asme-ix", "2G", "F H", "F H")]
    [InlineData("asme-ix", "3G", "F V", "F H V")]
    [InlineData("asme-ix", "4G", "F OH", "F H OH")]
    [InlineData("asme-ix", "3G 4G", "F V OH", "F H V OH")]
    [InlineData("asme-ix", "2G 3G 4G", "F H V OH", "F H V OH")]
    [InlineData("aws-d1.1", "3F 4F", "", "F H V OH")]
    [InlineData("asme-ix", "2F", "", "F H")]
    public void Plate_tests_qualify_positions(string code, string tested, string groove, string fillet)
    {
        var qualified = Of(code, [.. tested.Split(' ').Select(position => Plate(position))]);
        Assert.Equal(groove, string.Join(' ', qualified.PlateGroove));
        Assert.Equal(fillet, string.Join(' ', qualified.Fillet));
    }

    [Theory]
    [InlineData("aws-d1.1", "5G", "F V OH", "F V OH")]
    [InlineData("aws-d1.1", "6G", "F H V OH", "F H V OH")]
    [InlineData("aws-d1.1", "2G 5G", "F H V OH", "F H V OH")]
    [InlineData("asme-ix", "5G", "F V OH", "F H V OH")]
    [InlineData("asme-ix", "2G 5G", "F H V OH", "F H V OH")]
    [InlineData("iso-9606-1", "6G", "PA PC PE PF PH H-L045", "")]
    [InlineData("iso-9606-1", "5G", "PA PE PF PH", "")]
    public void Pipe_tests_qualify_positions(string code, string tested, string groove, string fillet)
    {
        var qualified = Of(code, [.. tested.Split(' ').Select(position => Pipe(position))]);
        Assert.Equal(groove, string.Join(' ', qualified.PipeGroove));
        Assert.Equal(fillet, string.Join(' ', qualified.Fillet));
    }

    [Fact]
    public void Downhill_is_a_position_of_its_own_in_iso_9606_1() =>
        Assert.Equal(["PG"], Of("iso-9606-1", Plate("3G", progression: Progression.Downhill)).PlateGroove);

    [Fact]
    public void Asme_plate_tests_reach_pipe_flat_and_with_2g_horizontal() // QW-461.9
    {
        Assert.Equal(["F"], Of("asme-ix", Plate("3G"), Plate("4G")).PipeGroove);
        Assert.Equal(["F", "H"], Of("asme-ix", Plate("2G"), Plate("3G")).PipeGroove);
        Assert.Equal(73, Of("asme-ix", Plate("3G")).OutsideDiameterMm!.Min, 9);
    }

    // AWS D1.1 plate; ASME QW-452.1(b); ISO 9606-1. In mm; no maximum is unlimited.
    [Theory]
    [InlineData("aws-d1.1", 9.525, null, 3.175, 19.05)]
    [InlineData("aws-d1.1", 25.4, null, 3.175, null)]
    [InlineData("asme-ix", 9.525, 4, 0.0, 19.05)]
    [InlineData("asme-ix", 12.7, 3, 0.0, null)]
    [InlineData("asme-ix", 12.7, 2, 0.0, 25.4)]
    [InlineData("iso-9606-1", 2.0, null, 2.0, 4.0)]
    [InlineData("iso-9606-1", 1.0, null, 1.0, 3.0)]
    [InlineData("iso-9606-1", 10.0, null, 3.0, 20.0)]
    [InlineData("iso-9606-1", 12.0, 3, 3.0, null)]
    [InlineData("iso-9606-1", 12.0, null, 3.0, 24.0)] // the narrower reading where the layers are not known
    public void Thickness_is_qualified_over_a_range(string code, double tested, int? layers, double min, double? max) =>
        Assert.Equal(new RangeMm(min, max), Of(code, Plate("1G", layers: layers) with { ThicknessMm = tested }).ThicknessMm);

    // AWS D1.1 by nominal size; ASME QW-452.3; ISO 9606-1.
    [Theory]
    [InlineData("aws-d1.1", 2.375, 0.218, 1.050, 4.5)]
    [InlineData("aws-d1.1", 8.625, 0.500, 4.5, null)]
    [InlineData("asme-ix", 0.840, 0.147, 0.840, null)]
    [InlineData("asme-ix", 2.375, 0.218, 1.0, null)]
    [InlineData("asme-ix", 2.875, 0.276, 73 / Inch, null)] // at the boundary itself, 2 7/8 in, which the table has as 73 mm
    [InlineData("iso-9606-1", 0.840, 0.147, 0.840, 1.680)]
    [InlineData("iso-9606-1", 6.625, 0.280, 3.3125, null)]
    public void Diameter_is_qualified_over_a_range(string code, double outside, double wall, double min, double? max)
    {
        var range = Of(code, Pipe("6G", outside, wall)).OutsideDiameterMm!;
        Assert.Equal(min * Inch, range.Min, 6);
        Assert.Equal(max * Inch, range.Max);
    }

    [Fact]
    public void The_d1_1_pipe_sizes_that_are_named_qualify_the_thickness_that_is_named()
    {
        Assert.Equal(new RangeMm(3.175, 19.05), Of("aws-d1.1", Pipe("6G", 2.375, 0.218)).ThicknessMm);
        Assert.Equal(new RangeMm(4.7625, null), Of("aws-d1.1", Pipe("6G", 8.625, 0.500)).ThicknessMm);
    }

    [Fact]
    public void Backing_and_filler_qualify_as_qw_433_has_it()
    {
        var backed = Of("asme-ix", Plate("1G"));
        Assert.Equal((true, false), (backed.WithBacking, backed.WithoutBacking));
        Assert.Equal([1, 2, 3, 4], backed.FNumbers);
        Assert.Empty(backed.FNumbersWithoutBacking);
        Assert.Equal([3], Of("asme-ix", Plate("1G", backing: false, f: 3)).FNumbersWithoutBacking);
        Assert.Equal([6], Of("asme-ix", Plate("1G", f: 6)).FNumbers);
    }

    [Fact]
    public void Tests_that_differ_in_more_than_one_variable_are_told_set_by_set()
    {
        var both = Of("aws-d1.1", Plate("3G", 1), Plate("4G", 0.375));
        Assert.Empty(both.PlateGroove);
        Assert.Null(both.ThicknessMm);
        Assert.Equal([null, 19.05], both.Sets!.Select(one => one.ThicknessMm!.Max));
        Assert.Equal(["F H V", "F OH"], both.Sets!.Select(one => string.Join(' ', one.PlateGroove)));

        // Open in one position and backed in another: neither is claimed for both.
        var mixed = Of("aws-d1.1", Plate("3G", backing: false), Plate("4G"));
        Assert.Equal((2, 0), (mixed.Sets!.Count, mixed.PlateGroove.Count));
    }

    [Fact]
    public void Tests_that_differ_in_one_variable_unite()
    {
        Assert.Equal(new RangeMm(3.175, null), Of("aws-d1.1", Plate("3G", 1), Plate("3G", 0.375)).ThicknessMm); // the thick one narrows nothing
        var processes = Of("asme-ix", Plate("3G", f: 4), Plate("3G", f: 6));
        Assert.Equal([1, 2, 3, 4, 6], processes.FNumbers);
        Assert.Equal(
            [Progression.Uphill, Progression.Downhill],
            Of("aws-d1.1", Plate("3G"), Plate("3G", progression: Progression.Downhill)).Progressions
        );
        Assert.Null(Of("aws-d1.1", Plate("3G")).Sets);
    }

    [Fact]
    public void One_more_test_never_takes_a_position_away() =>
        Assert.All(
            new[] { "aws-d1.1", "asme-ix" },
            code =>
            {
                var positions = Positions.Of(code)!.PositionsOf(Product.Plate, WeldKind.Groove);
                Assert.All(
                    from first in positions
                    from second in positions
                    select (first, second),
                    pair => Assert.Empty(Of(code, Plate(pair.first)).PlateGroove.Except(Of(code, Plate(pair.first), Plate(pair.second)).PlateGroove))
                );
            }
        );
}
