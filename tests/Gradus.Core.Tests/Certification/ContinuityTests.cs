using Gradus.Core.Certification;
using Gradus.Core.Qualification;

namespace Gradus.Core.Tests.Certification;

/// <summary>AWS D1.1 and ASME IX QW-322.1: six months without the process end it. ISO 9606-1, 9.2 and 9.3: signed every six months, renewed by a route. From memory.</summary>
public class ContinuityTests
{
    private static readonly ContinuityRule Aws = Ranges.ByCode["aws-d1.1"].Continuity;
    private static readonly ContinuityRule Iso = Ranges.ByCode["iso-9606-1"].Continuity;

    private static DateOnly Day(string text) => DateOnly.Parse(text, System.Globalization.CultureInfo.InvariantCulture);

    private static IEnumerable<DateOnly> Days(string texts) => texts.Split(' ', StringSplitOptions.RemoveEmptyEntries).Select(Day);

    [Theory] // a month that is too short ends on its last day; leap years have their 29 February
    [InlineData("2026-03-10", "", "2026-09-10")]
    [InlineData("2025-08-31", "", "2026-02-28")]
    [InlineData("2023-08-31", "", "2024-02-29")]
    [InlineData("2024-02-29", "", "2024-08-29")]
    [InlineData("2026-01-05", "2026-06-30", "2026-12-30")]
    [InlineData("2026-01-05", "2026-07-05 2027-01-05", "2027-07-05")] // on the last day is in time, twice
    [InlineData("2026-01-05", "2026-07-06", "2026-07-05")] // a day late wins nothing back
    [InlineData("2026-01-05", "2026-07-06 2026-03-01", "2027-01-06")] // in any order; the earlier one carries the later
    [InlineData("2026-01-05", "2025-12-30", "2026-07-05")] // before the test
    public void A_process_holds_for_six_months_after_its_last_use(string tested, string used, string endsOn) =>
        Assert.Equal(Day(endsOn), Continuity.Of(Aws, Day(tested), Days(used), Day("2028-01-01")).EndsOn);

    [Theory]
    [InlineData("2026-07-11", HoldKind.Holds)] // 61 days before
    [InlineData("2026-07-12", HoldKind.EndsSoon)] // 60 days before
    [InlineData("2026-09-10", HoldKind.EndsSoon)] // its last day
    [InlineData("2026-09-11", HoldKind.Ended)]
    public void It_is_said_sixty_days_ahead_and_over_the_day_after(string today, HoldKind kind) =>
        Assert.Equal(kind, Continuity.Of(Aws, Day("2026-03-10"), [], Day(today)).Kind);

    [Fact]
    public void What_is_used_tomorrow_does_not_count_today() =>
        Assert.Equal(Day("2026-09-10"), Continuity.Of(Aws, Day("2026-03-10"), [Day("2026-04-02")], Day("2026-04-01")).EndsOn);

    [Theory] // 9.3a three years, 9.3b two, 9.3c without an end
    [InlineData("9.3a", "2029-03-01")]
    [InlineData("9.3b", "2028-03-01")]
    [InlineData("9.3c", null)]
    [InlineData(null, "2028-03-01")] // the shortest, where none was chosen
    public void A_route_of_renewal_has_its_own_end(string? route, string? renewBy) =>
        Assert.Equal(renewBy is null ? null : Day(renewBy), Continuity.Of(Iso, Day("2026-03-01"), [], Day("2026-03-02"), route).RenewBy);

    [Fact]
    public void Confirmed_every_six_months_it_still_ends_where_it_is_not_renewed()
    {
        var tested = Day("2024-02-29");
        var signed = Enumerable.Range(1, 12).Select(one => tested.AddMonths(5 * one)).ToList();
        var kept = Continuity.Of(Iso, tested, signed, Day("2026-02-28"), "9.3b");
        Assert.Equal((Day("2026-02-28"), HoldKind.EndsSoon), (kept.EndsOn, kept.Kind)); // two years after a leap day
        Assert.Equal(HoldKind.Ended, Continuity.Of(Iso, tested, signed, Day("2026-03-01"), "9.3b").Kind);

        // Renewed in time it goes on from there; renewed late it does not.
        Assert.Equal(Day("2028-02-20"), Continuity.Of(Iso, tested, signed, Day("2026-03-01"), "9.3b", [Day("2026-02-20")]).RenewBy);
        Assert.Equal(HoldKind.Ended, Continuity.Of(Iso, tested, signed, Day("2026-03-02"), "9.3b", [Day("2026-03-01")]).Kind);
    }

    [Fact]
    public void A_route_that_the_code_does_not_have_is_refused()
    {
        Assert.Throws<ArgumentException>(() => Continuity.Of(Iso, Day("2026-01-01"), [], Day("2026-01-01"), "9.3d"));
        Assert.Throws<ArgumentException>(() => Continuity.Of(Aws, Day("2026-01-01"), [], Day("2026-01-01"), "9.3a"));
    }

    [Theory] // AWS D1.1 and QW-321: two at once, one after training; ISO and API one; from memory
    [InlineData("aws-d1.1", 2, null)]
    [InlineData("asme-ix", 2, null)]
    [InlineData("iso-9606-1", 1, null)]
    [InlineData("api-1104", 1, "That the failure was beyond the welder's control.")]
    public void A_failed_test_is_repeated_at_once_or_taken_anew_after_training(string code, int atOnce, string? needs)
    {
        var rule = Ranges.ByCode[code].Retest;
        Assert.Equal(
            [(SittingTurn.AtOnce, atOnce, needs), (SittingTurn.AfterTraining, 1, "Further training or practice, on record.")],
            Retests.After(rule, SittingTurn.First).Select(way => (way.Turn, way.Coupons, way.Needs))
        );
        Assert.Equal([SittingTurn.AfterTraining], Retests.After(rule, SittingTurn.AtOnce).Select(way => way.Turn));
        Assert.Equal(2, Retests.After(rule, SittingTurn.AfterTraining).Count); // a new test is a new test
    }
}
