using System.Net.Http.Json;
using System.Text.Json;
using Gradus.Server.School;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using Microsoft.Extensions.Logging.Abstractions;

namespace Gradus.Server.Tests;

/// <summary>A clock that is set while the program runs is noticed, one that is kept right is not.</summary>
public sealed class ClockWatchTests : IDisposable
{
    /// <summary>A machine whose clock on the wall can be set without time passing.</summary>
    private sealed class Machine : TimeProvider
    {
        private static readonly DateTimeOffset Began = new(2031, 3, 4, 9, 0, 0, TimeSpan.Zero);
        public TimeSpan Passed { get; set; }
        public TimeSpan Wrong { get; set; }
        public override long TimestampFrequency => TimeSpan.TicksPerSecond;

        public override DateTimeOffset GetUtcNow() => Began + Passed + Wrong;

        public override long GetTimestamp() => Passed.Ticks;
    }

    private readonly Machine machine = new();
    private readonly ClockWatch watch;

    public ClockWatchTests() =>
        watch = new ClockWatch(
            machine,
            new ServiceCollection().BuildServiceProvider().GetRequiredService<IServiceScopeFactory>(),
            NullLogger<ClockWatch>.Instance
        );

    public void Dispose() => watch.Dispose();

    private double? After(TimeSpan passed, TimeSpan set)
    {
        (machine.Passed, machine.Wrong) = (machine.Passed + passed, machine.Wrong + set);
        watch.Look();
        return watch.Jump?.Seconds;
    }

    [Fact]
    public void Time_that_passes_and_seconds_that_are_put_right_are_no_jump()
    {
        for (var day = 0; day < 30; day++)
        {
            Assert.Null(After(TimeSpan.FromHours(24), TimeSpan.FromSeconds(day % 2 == 0 ? 40 : -70)));
        }
    }

    [Theory]
    [InlineData(3600)] // an hour: a zone that was set as if it were the time
    [InlineData(-3600)]
    [InlineData(-121)]
    [InlineData(400 * 86400.0)]
    public void A_clock_that_is_set_is_noticed_for_a_day(double seconds)
    {
        Assert.Null(After(TimeSpan.FromMinutes(5), TimeSpan.Zero));
        Assert.Equal(seconds, After(TimeSpan.FromMinutes(5), TimeSpan.FromSeconds(seconds)));
        Assert.Equal(seconds, After(TimeSpan.FromHours(23), TimeSpan.Zero));
        Assert.Null(After(TimeSpan.FromHours(2), TimeSpan.Zero));
    }

    [Fact]
    public async Task What_is_on_the_record_from_later_than_now_says_that_the_clock_is_behind()
    {
        await using var server = new RunningServer();
        using var client = await server.SignedIn();
        async Task<bool> IsBehind() => (await client.GetFromJsonAsync<JsonElement>("/api/school/clock")).GetProperty("isBehind").GetBoolean();
        Assert.False(await IsBehind());
        await using var scope = server.Services.CreateAsyncScope();
        var db = scope.ServiceProvider.GetRequiredService<Data.GradusContext>();
        var later = server.Clock.GetUtcNow().AddHours(1);
        db.Acts.Add(
            new Data.Act
            {
                At = later,
                PersonId = Guid.NewGuid(),
                Operation = "PUT /api/school",
            }
        );
        await db.SaveChangesAsync();
        Assert.True(await IsBehind());
        server.Clock.Advance(TimeSpan.FromHours(1));
        Assert.False(await IsBehind());
    }
}
