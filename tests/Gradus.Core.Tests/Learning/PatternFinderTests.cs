using Gradus.Core.Inspection;
using Gradus.Core.Learning;

namespace Gradus.Core.Tests.Learning;

public class PatternFinderTests
{
    private static readonly DateTimeOffset Begin = new(2031, 3, 3, 9, 0, 0, TimeSpan.Zero);
    private static readonly Guid Student = Guid.CreateVersion7();
    private static readonly FaultSeen Undercut = new(DiscontinuityKind.Undercut, Stage.Cap, null, false);

    private static LearnCoupon Coupon(int day, bool clean, bool gapClosed = false, Guid? student = null, FaultSeen? fault = null) =>
        new(
            student ?? Student,
            Begin.AddDays(day),
            true,
            false,
            new Dictionary<Stage, bool> { [Stage.Root] = true, [Stage.Cap] = clean },
            clean ? [] : [fault ?? Undercut],
            gapClosed,
            false
        );

    [Fact]
    public void A_fault_is_counted_with_its_trend_and_the_faults_come_in_order()
    {
        var slag = new FaultSeen(DiscontinuityKind.SlagInclusion, Stage.Fill, "bottom", true);
        var found = PatternFinder.Find([
            .. Enumerable.Range(0, 6).Select(day => Coupon(day, day > 3)),
            .. Enumerable.Range(6, 6).Select(day => Coupon(day, day != 8, fault: slag)),
        ]);
        Assert.Equal((12, 5, false), (found.Coupons, found.Rejected, found.Few));
        Assert.Equal((4, 4, 0, 0.8), (found.Faults[0].Coupons, found.Faults[0].Earlier, found.Faults[0].Later, found.Faults[0].Share));
        Assert.Equal((DiscontinuityKind.SlagInclusion, "bottom", 1.0), (found.Faults[1].Kind, found.Faults[1].Zone, found.Faults[1].Share));
        Assert.Contains(found.GoesWith, one => one is { Condition: "faults that lay at a start or stop", WithRejected: 1, With: 5 });
    }

    [Fact]
    public void What_goes_with_rejections_is_told_with_its_counts_and_small_numbers_are_called_small()
    {
        LearnCoupon[] coupons =
        [
            .. Enumerable.Range(0, 6).Select(day => Coupon(day, day == 0, gapClosed: true)),
            .. Enumerable.Range(6, 6).Select(day => Coupon(day, day != 6)),
        ];
        var gap = PatternFinder.Find(coupons).GoesWith.Single(one => one.Condition.Contains("gap", StringComparison.Ordinal));
        Assert.Equal((5, 6, 1, 6, false), (gap.WithRejected, gap.With, gap.WithoutRejected, gap.Without, gap.Few));
        Assert.True(gap.ChanceWorse > 0.95);
        Assert.True(PatternFinder.Find(coupons[3..8]).GoesWith.Single(one => one.Condition.Contains("gap", StringComparison.Ordinal)).Few);
    }

    [Fact]
    public void A_slump_and_a_plateau_are_noticed_and_a_steady_climb_is_not()
    {
        string? Notice(string record) =>
            PatternFinder.Find([.. record.Select((mark, day) => Coupon(day, mark == '+'))]).Notices.SingleOrDefault()?.Kind;
        Assert.Equal("slump", Notice("++++++" + "+-----"));
        Assert.Equal("plateau", Notice("+-+-+-" + "-+-+--"));
        Assert.Null(Notice("------" + "++++++"));
        Assert.Null(Notice("++++-"));
    }

    [Fact]
    public void Time_to_clean_counts_to_the_third_in_a_row()
    {
        var found = PatternFinder.Find([.. "-+-+++".Select((mark, day) => Coupon(day, mark == '+'))]);
        Assert.Equal(3, found.ToClean.Single(one => one.Stage == Stage.Root).Coupons);
        Assert.Equal(6, found.ToClean.Single(one => one.Stage == Stage.Cap).Coupons);
        Assert.Null(PatternFinder.Find([Coupon(0, false)]).ToClean.Single(one => one.Stage == Stage.Cap).Coupons);
    }

    [Fact]
    public void The_time_to_clean_is_told_in_days_and_in_the_hours_that_are_known()
    {
        var hours = new double?[] { 1.5, null, 2 };
        var clean = PatternFinder.Find([.. hours.Select((one, index) => Coupon(4 * index, true) with { Hours = one })]).ToClean[0];
        Assert.Equal((3, 8.0, 3.5), (clean.Coupons, clean.Days, clean.Hours));
    }

    /// <summary>3 March 2031 is a Monday.</summary>
    [Fact]
    public void Weeks_begin_on_a_monday_and_those_without_a_coupon_are_left_out()
    {
        var weeks = PatternFinder.Find([Coupon(0, true), Coupon(6, false), Coupon(7, true), Coupon(22, false)]).Weeks;
        Assert.Equal([new WeekOfCoupons(new(2031, 3, 3), 2, 1), new(new(2031, 3, 10), 1, 0), new(new(2031, 3, 24), 1, 1)], weeks);
    }

    [Fact]
    public void A_class_is_counted_by_students_and_nothing_is_said_of_nobody()
    {
        var found = PatternFinder.Find([.. Enumerable.Range(0, 5).Select(day => Coupon(day, false, student: Guid.CreateVersion7()))]);
        Assert.Equal(5, found.Faults[0].Students);
        Assert.Empty(found.Notices);
        Assert.Empty(PatternFinder.Find([]).Faults);
    }
}
