using CsCheck;
using Gradus.Core.Measure;

namespace Gradus.Core.Tests.Measure;

public class LengthTests
{
    // Decimal equivalents of inch fractions (ASME B4.1 appendix and any machinist's table), times 25.4 mm exactly (ISO/IEC 80000-3).
    [Theory]
    [InlineData("1/64", 0.396875)]
    [InlineData("3/32", 2.38125)]
    [InlineData("3/32\"", 2.38125)]
    [InlineData("7/16", 11.1125)]
    [InlineData("63/64", 25.003125)]
    [InlineData("1 1/2", 38.1)]
    [InlineData("1-1/2 in", 38.1)]
    [InlineData("1½", 38.1)]
    [InlineData("½ in.", 12.7)]
    [InlineData("0.094in", 2.3876)]
    [InlineData(".045", 1.143)]
    [InlineData("2.4 mm", 2.4)]
    [InlineData("2,4 mm", 2.4)]
    [InlineData("10MM", 10)]
    [InlineData("0", 0)]
    public void A_length_is_read_as_the_shop_writes_it(string text, double mm)
    {
        Assert.True(LengthReader.TryRead(text, LengthUnit.Inch, out var length, out _));
        Assert.Equal(mm, length.Mm);
    }

    [Theory]
    [InlineData("")]
    [InlineData("abc")]
    [InlineData("1/0")]
    [InlineData("-1/8")]
    [InlineData("1 1")]
    [InlineData("1/2/3")]
    [InlineData("NaN")]
    [InlineData("1e9")]
    [InlineData("3/32 cm")]
    [InlineData("1,000")]
    [InlineData("99999999 in")]
    public void What_is_not_a_length_is_refused_with_a_reason(string text)
    {
        Assert.False(LengthReader.TryRead(text, LengthUnit.Inch, out _, out var error));
        Assert.NotEmpty(error);
    }

    [Fact]
    public void A_bare_number_without_an_assumed_unit_is_refused() => Assert.False(LengthReader.TryRead("3/32", null, out _, out _));

    // Common practice: electrode and gap sizes as they are spoken of.
    [Theory]
    [InlineData(2.4, "3/32")]
    [InlineData(3.2, "1/8")]
    [InlineData(38.1, "1 1/2")]
    [InlineData(25.4, "1")]
    [InlineData(0, "0")]
    [InlineData(0.1, "0.0039")]
    public void Inches_are_shown_in_lowest_terms_and_never_vanish(double mm, string text) =>
        Assert.StartsWith(text, Length.FromMm(mm).ToInchText(), StringComparison.Ordinal);

    [Fact]
    public void Every_sixty_fourth_survives_being_shown_and_read_again() =>
        Gen.Int[0, 64 * 100]
            .Sample(parts =>
            {
                var length = Length.FromInches(parts / 64.0);
                return LengthReader.TryRead(length.ToInchText(), LengthUnit.Inch, out var again, out _) && again == length;
            });

    [Theory]
    [InlineData(-0.001)]
    [InlineData(double.NaN)]
    [InlineData(double.PositiveInfinity)]
    [InlineData(100_001)]
    public void An_impossible_length_cannot_be_made(double mm) => Assert.Throws<ArgumentOutOfRangeException>(() => Length.FromMm(mm));
}
