using Gradus.Server.Accounts;
using Microsoft.Extensions.Time.Testing;

namespace Gradus.Server.Tests;

/// <summary>How many PINs can be tried in an hour, and who waits for whom. The bounds are chosen; each test says what they come to.</summary>
public sealed class PinBrakeTests
{
    private const int Hour = 3600;
    private readonly FakeTimeProvider clock = new();

    /// <summary>Tries as often as it is let, one after another, for an hour.</summary>
    private int TriesInAnHour(PinBrake brake, Func<int, (Guid Person, string Device)> next)
    {
        var (tries, spent) = (0, TimeSpan.Zero);
        while (spent < TimeSpan.FromSeconds(Hour))
        {
            var (person, device) = next(tries);
            var wait = brake.Begin(person, device);
            tries += wait is null ? 1 : 0;
            var step = wait ?? TimeSpan.FromMilliseconds(100); // as long as one takes to be checked
            clock.Advance(step);
            spent += step;
        }

        return tries;
    }

    [Fact]
    public void One_persons_pin_is_tried_less_than_eighty_times_an_hour_from_one_device()
    {
        // Of four digits that is 0.7 % an hour: guessing it to one half takes two days and nights at the tablet.
        var person = Guid.NewGuid();
        Assert.InRange(TriesInAnHour(new PinBrake(clock), _ => (person, "a")), 40, 80);
    }

    [Fact]
    public void A_sprayed_class_list_is_tried_less_than_140_times_an_hour_in_all()
    {
        // Of sixty students with four digits each that is 1.4 % an hour that any of them is hit; with the six that are given, 0.014 %.
        var students = Enumerable.Range(0, 60).Select(_ => Guid.NewGuid()).ToList();
        Assert.InRange(TriesInAnHour(new PinBrake(clock), tries => (students[tries % 60], "a")), 60, 140);
    }

    [Fact]
    public void One_person_from_many_addresses_is_tried_less_than_140_times_an_hour()
    {
        var person = Guid.NewGuid();
        Assert.InRange(TriesInAnHour(new PinBrake(clock), tries => (person, $"{tries}")), 60, 140);
    }

    [Fact]
    public void Whoever_is_right_where_they_sign_in_waits_for_nobody()
    {
        var brake = new PinBrake(clock);
        var (me, other) = (Guid.NewGuid(), Guid.NewGuid());
        Assert.Null(brake.Begin(me, "mine"));
        brake.Right(me, "mine");

        // Somebody sprays the class from this very tablet, and tries me from a hundred others.
        for (var index = 0; index < 200; index++)
        {
            brake.Begin(Guid.NewGuid(), "mine");
            brake.Begin(me, $"else {index}");
            brake.Begin(other, "mine");
            clock.Advance(TimeSpan.FromMilliseconds(200));
        }

        Assert.Null(brake.Begin(me, "mine"));
        brake.Right(me, "mine");

        // My own slips count: after three it takes seconds, and never longer than a minute.
        for (var slip = 0; slip < 30; slip++)
        {
            if (brake.Begin(me, "mine") is { } wait)
            {
                Assert.InRange(wait.TotalSeconds, 0.001, 60);
                clock.Advance(wait);
            }
        }
    }

    [Fact]
    public void Nobody_waits_longer_than_a_minute_and_in_half_an_hour_all_is_forgotten()
    {
        var brake = new PinBrake(clock);
        var person = Guid.NewGuid();
        for (var index = 0; index < 500; index++)
        {
            if (brake.Begin(person, $"{index % 3}") is { } wait)
            {
                Assert.True(wait <= TimeSpan.FromMinutes(1));
                clock.Advance(wait);
            }
        }

        clock.Advance(TimeSpan.FromMinutes(31));
        Assert.Equal(PinBrake.Free, Enumerable.Range(0, 10).TakeWhile(_ => brake.Begin(person, "0") is null).Count());
    }

    [Fact]
    public void Many_at_once_are_as_many()
    {
        var brake = new PinBrake(clock);
        var person = Guid.NewGuid();
        var let = 0;
        Parallel.For(
            0,
            100,
            _ =>
            {
                if (brake.Begin(person, "a") is null)
                {
                    Interlocked.Increment(ref let);
                }
            }
        );
        Assert.Equal(PinBrake.Free, let);
    }

    [Theory]
    [InlineData("123", false)]
    [InlineData("1234", false)]
    [InlineData("9876", false)]
    [InlineData("0000", false)]
    [InlineData("2468", true)]
    [InlineData("4711", true)]
    [InlineData("190573", true)]
    [InlineData("1234567890123", false)]
    [InlineData("12a4", false)]
    [InlineData("١٢٣٥", false)] // digits, but not those of a keypad
    [InlineData(null, false)]
    public void A_pin_is_four_to_twelve_digits_that_nobody_tries_first(string? pin, bool will) => Assert.Equal(will, PinRules.Refuse(pin) is null);
}
