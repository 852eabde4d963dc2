using Gradus.Core.Measure;

namespace Gradus.Core.Tests.Measure;

public class ClockPositionTests
{
    // Common practice: the bottom of a fixed pipe runs from 4:30 to 7:30, the top from 10:30 to 1:30.
    [Theory]
    [InlineData("12", PipeZone.Top)]
    [InlineData("1:30", PipeZone.Top)]
    [InlineData("1:31", PipeZone.Side)]
    [InlineData("3:00", PipeZone.Side)]
    [InlineData("4:30", PipeZone.Bottom)]
    [InlineData("6", PipeZone.Bottom)]
    [InlineData("7:30", PipeZone.Bottom)]
    [InlineData("9:00", PipeZone.Side)]
    [InlineData("10:30", PipeZone.Top)]
    public void A_place_on_the_clock_lies_in_its_zone(string clock, PipeZone zone) => Assert.Equal(zone, ClockPosition.Parse(clock).Zone);

    [Theory]
    [InlineData("13:00")]
    [InlineData("0:30")]
    [InlineData("4:60")]
    [InlineData("4:3")]
    [InlineData("-1:00")]
    [InlineData("six")]
    [InlineData(null)]
    public void What_is_not_on_the_clock_is_refused(string? clock) => Assert.False(ClockPosition.TryParse(clock, out _));

    [Fact]
    public void A_place_reads_back_as_it_is_written() =>
        Assert.All(
            Enumerable.Range(0, 720),
            minutes => Assert.Equal(minutes, ClockPosition.Parse(ClockPosition.FromMinutes(minutes).ToString()).Minutes)
        );
}
