using CsCheck;

namespace Gradus.Core.Tests.Vocabulary;

public sealed class PlaceTests
{
    [Theory]
    [InlineData("6:30", Product.Pipe, "6:30")]
    [InlineData("6", Product.Pipe, "6:00")] // a bare number is an hour on pipe...
    [InlineData("6", Product.Plate, "6")] // ...and a distance on plate
    [InlineData("start", Product.Plate, "start")]
    [InlineData("Middle", Product.Sheet, "middle")]
    [InlineData("end", Product.Plate, "end")]
    [InlineData("57.150000000000006", Product.Plate, "57.150000000000006")] // 2 1/4 in as a drawing in a browser has it
    [InlineData("0", Product.Plate, "0")]
    [InlineData("2000", Product.Plate, "2000")]
    public void A_place_is_read_as_it_is_written(string text, Product product, string says)
    {
        Assert.True(Place.TryParse(text, product, out var place));
        Assert.Equal(says, place.ToString());
    }

    [Theory]
    [InlineData("", Product.Plate)]
    [InlineData(null, Product.Pipe)]
    [InlineData("13:00", Product.Pipe)]
    [InlineData("6:60", Product.Pipe)]
    [InlineData("-1", Product.Plate)]
    [InlineData("2000.1", Product.Plate)]
    [InlineData("NaN", Product.Plate)]
    [InlineData("Infinity", Product.Plate)]
    [InlineData("top", Product.Plate)]
    public void What_is_no_place_is_not_read(string? text, Product product) => Assert.False(Place.TryParse(text, product, out _));

    [Fact]
    public void What_is_written_is_read_back_to_the_same_place()
    {
        Gen.Double[0, Place.MostMm]
            .Sample(mm => Assert.Equal(Place.At(mm), Place.TryParse(Place.At(mm).ToString(), Product.Plate, out var back) ? back : default));
        Gen.Int[0, 719]
            .Sample(minutes =>
            {
                var at = Place.At(Gradus.Core.Measure.ClockPosition.FromMinutes(minutes));
                Assert.Equal(at, Place.TryParse(at.ToString(), Product.Pipe, out var back) ? back : default);
            });
    }

    [Fact]
    public void Marks_lie_along_a_plate_of_any_length()
    {
        Assert.Equal((0, 76.2, 152.4), (Along(PlateMark.Start), Along(PlateMark.Middle), Along(PlateMark.End)));
        Assert.Null(Place.At(Gradus.Core.Measure.ClockPosition.Parse("3")).AlongMm(152.4));
        static double? Along(PlateMark mark) => Place.At(mark).AlongMm(152.4);
    }
}
