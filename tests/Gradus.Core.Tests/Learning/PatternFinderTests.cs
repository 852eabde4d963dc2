using Gradus.Core.Inspection;
using Gradus.Core.Learning;

namespace Gradus.Core.Tests.Learning;

public class PatternFinderTests
{
    private static readonly DateTimeOffset Begin = new(2031, 3, 3, 9, 0, 0, TimeSpan.Zero);
    private static readonly Guid Student = Guid.CreateVersion7();
    private static readonly FaultSeen Undercut = new(DiscontinuityKind.Undercut, Stage.Cap, null, false);

    private static LearnCoupon Coupon(
        int day,
        bool clean,
        bool gapClosed = false,
        Guid? student = null,
        FaultSeen? fault = null,
        double? foreseen = null
    ) =>
        new(
            student ?? Student,
            Begin.AddDays(day),
            true,
            false,
            new Dictionary<Stage, bool> { [Stage.Root] = true, [Stage.Cap] = clean },
            clean ? [] : [fault ?? Undercut],
            gapClosed,
            false,
            Foreseen: foreseen
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
        Assert.InRange(gap.ChanceWorse, 0.8, 0.95); // six against six: likely, and not more
        Assert.True(PatternFinder.Find(coupons[3..8]).GoesWith.Single(one => one.Condition.Contains("gap", StringComparison.Ordinal)).Few);
    }

    [Fact]
    public void Fewer_than_foreseen_are_noticed_with_their_counts_and_what_was_foreseen_is_not()
    {
        Notice? Notice(string record, double foreseen) =>
            PatternFinder.Find([.. record.Select((mark, day) => Coupon(day, mark == '+', foreseen: foreseen))]).Notices.SingleOrDefault();
        var slump = Notice("++++++++--+-----", 0.85);
        Assert.Equal(("slump", 1, 8), (slump!.Kind, slump.Clean, slump.Coupons));
        Assert.Equal(8 * 0.85, slump.Foreseen, 9);
        Assert.Null(Notice("++++++++--+-----", 0.4)); // a beginner
        Assert.Null(Notice("++++++++++++++", 0.85));
        Assert.Null(Notice("++++-", 0.85));
    }

    // A property of any test of this kind, checked on draws: with what is foreseen right, at most one in twenty is ever noticed (Ville 1939).
    [Theory]
    [InlineData(0.3)]
    [InlineData(0.8)]
    [InlineData(0.95)]
    public void Where_all_is_as_foreseen_at_most_one_in_twenty_is_ever_noticed(double chance)
    {
        const int Students = 2000;
        const int Coupons = SlumpWatch.Term;
        var random = new Random(19);
        var noticed = 0;
        for (var student = 0; student < Students; student++)
        {
            var made = new List<(bool Clean, double Foreseen)>();
            for (var coupon = 0; coupon < Coupons; coupon++)
            {
                made.Add((random.NextDouble() < chance, chance));
                if (SlumpWatch.Since(made) is not null)
                {
                    noticed++;
                    break;
                }
            }
        }

        Assert.InRange((double)noticed / Students, 0, SlumpWatch.FalseNotices);
    }

    [Fact]
    public void Coached_early_and_alone_late_is_no_proof_that_coaching_is_worse()
    {
        // A student who learns is coached first: rejected more often then, as was foreseen.
        LearnCoupon[] coupons =
        [
            .. Enumerable.Range(0, 10).Select(day => Coupon(day, day % 3 == 0, foreseen: 0.35) with { Aided = true }),
            .. Enumerable.Range(10, 10).Select(day => Coupon(day, day % 5 != 0, foreseen: 0.8)),
        ];
        var fair = PatternFinder.Find(coupons).GoesWith.Single(one => one.Condition.StartsWith("coached", StringComparison.Ordinal));
        Assert.Equal((6, 10, 2, 10), (fair.WithRejected, fair.With, fair.WithoutRejected, fair.Without));
        Assert.InRange(fair.ChanceWorse, 0.3, 0.7);
        var blind = PatternFinder
            .Find([.. coupons.Select(one => one with { Foreseen = null })])
            .GoesWith.Single(one => one.Condition.StartsWith("coached", StringComparison.Ordinal));
        Assert.True(blind.ChanceWorse > 0.8); // without what was foreseen it looks so
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
