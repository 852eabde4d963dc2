using Gradus.Core.Planning;

namespace Gradus.Core.Tests.Planning;

/// <summary>A forecast is told as roughly as it is known.</summary>
public sealed class RoughDaysTests
{
    private static readonly DateOnly Today = new(2026, 11, 30);

    [Theory]
    [InlineData("2027-02-11", "2027-03-31", "mid-February to late March")]
    [InlineData("2026-12-01", "2026-12-10", "early December")]
    [InlineData("2026-12-20", "2026-12-21", "mid-December to late December")]
    [InlineData("2027-02-28", "2027-10-01", "late February to early October 2027")]
    [InlineData("2027-02-28", null, "not before late February")]
    [InlineData("2027-02-28", "2030-02-28", "not before late February")]
    public void Days_are_told_by_thirds_of_months(string from, string? to, string words) =>
        Assert.Equal(
            words,
            RoughDays.Between(
                DateOnly.Parse(from, System.Globalization.CultureInfo.InvariantCulture),
                to is null ? null : DateOnly.Parse(to, System.Globalization.CultureInfo.InvariantCulture),
                Today
            )
        );
}
