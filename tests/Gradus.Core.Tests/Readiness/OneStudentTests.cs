using CsCheck;
using Gradus.Core.Readiness;
using Gradus.Core.Vocabulary;

namespace Gradus.Core.Tests.Readiness;

/// <summary>What the work on one test tells of another, and what was seen inside and at sittings.</summary>
public class OneStudentTests
{
    private const double Slack = 1e-3; // the model rounds nothing; this is the slack of its draws
    private static readonly string[] Stages = ["root", "fill", "cap"];
    private static readonly string[] Zoned = [.. Stages.SelectMany(stage => new[] { "bottom", "side", "top" }.Select(zone => $"{stage}/{zone}"))];
    private static readonly SkillTest Asked = Test("asked", "SMAW", "3G");
    private static readonly SkillTest FixedPipe = new("5G", new TestTraits("SMAW", Product.Pipe, "5G", Progression.Uphill, true), Zoned);

    private static SkillTest Test(string id, string process, string position, bool openRoot = true, Progression progression = Progression.Uphill) =>
        new(id, new TestTraits(process, Product.Plate, position, progression, openRoot), Stages);

    private static CouponEvidence Coupon(double day, SkillTest test, Func<string, bool> clean, bool? inside = null) =>
        new(day, true, false, test.Elements.ToDictionary(element => element, clean), inside);

    private static CouponEvidence Sitting(double day, bool passed) => new(day, true, false, new Dictionary<string, bool>(), SittingPassed: passed);

    private static List<CouponEvidence> Row(int count, SkillTest test, bool clean) =>
        [.. Enumerable.Range(0, count).Select(day => Coupon(day, test, _ => clean))];

    private static GrowthEstimate Evaluate(SkillTest asked, IReadOnlyList<CouponEvidence> coupons, double today, params TestHistory[] earlier) =>
        GrowthEngine.Evaluate(asked, coupons, today, ReadinessConstants.Defaults, earlier: earlier);

    private static double AfterCleanOn(SkillTest earlier, SkillTest? asked = null) =>
        Evaluate(asked ?? Asked, [], 12, new TestHistory(earlier, Row(10, earlier, true))).Whole.Mean.Value;

    [Fact]
    public void The_more_an_earlier_test_has_in_common_the_more_it_lends()
    {
        var begun = Evaluate(Asked, [], 12).Whole.Mean.Value;
        var same = AfterCleanOn(Test("a", "SMAW", "3G"));
        Assert.True(same > AfterCleanOn(Test("a", "SMAW", "2G")));
        Assert.True(same > AfterCleanOn(Test("a", "SMAW", "3G", openRoot: false)));
        Assert.True(same > AfterCleanOn(Test("a", "SMAW", "3G", progression: Progression.Downhill)));
        Assert.True(AfterCleanOn(Test("a", "SMAW", "2G")) > AfterCleanOn(Test("a", "GTAW", "2G")));
        Assert.True(AfterCleanOn(Test("a", "GTAW", "2G")) > begun); // the hand is the same one
    }

    /// <summary>Common practice: the bottom of fixed pipe is overhead work, its top lies flat.</summary>
    [Fact]
    public void Overhead_plate_speaks_to_the_bottom_of_fixed_pipe_and_flat_plate_to_its_top()
    {
        double Share(string position, string zone)
        {
            var plate = Test("plate", "SMAW", position);
            var chances = Evaluate(FixedPipe, [], 12, new TestHistory(plate, Row(10, plate, true))).Elements;
            var begun = Evaluate(FixedPipe, [], 12).Elements;
            double Odds(IReadOnlyList<Gradus.Core.Measure.Chance> of) =>
                Math.Log(of[Zoned.IndexOf($"root/{zone}")].Value / (1 - of[Zoned.IndexOf($"root/{zone}")].Value));
            return Odds(chances) - Odds(begun);
        }

        Assert.True(Share("4G", "bottom") > Share("4G", "top"));
        Assert.True(Share("1G", "top") > Share("1G", "bottom"));
    }

    [Fact]
    public void A_test_of_which_nothing_is_known_lends_through_the_student_alone()
    {
        var unknown = new SkillTest("unknown", null, Stages);
        var from = AfterCleanOn(unknown);
        Assert.True(from > Evaluate(Asked, [], 12).Whole.Mean.Value);
        Assert.True(from < AfterCleanOn(Test("a", "SMAW", "3G")));
    }

    [Fact]
    public void One_element_clean_instead_of_rejected_on_the_last_coupon_of_an_earlier_test_never_lowers_the_asked_one() =>
        Gen.Select(Gen.Int[0, 7].Array[1, 8], Gen.Int[0, 2])
            .Sample(
                (patterns, element) =>
                {
                    var earlier = Test("a", "SMAW", "4G");
                    double With(bool clean) =>
                        Evaluate(
                            Asked,
                            [],
                            patterns.Length,
                            new TestHistory(
                                earlier,
                                [
                                    .. patterns.Select(
                                        (pattern, day) =>
                                            Coupon(
                                                day,
                                                earlier,
                                                name =>
                                                    day == patterns.Length - 1 && name == Stages[element]
                                                        ? clean
                                                        : (pattern >> Stages.IndexOf(name) & 1) == 1
                                            )
                                    ),
                                ]
                            )
                        ).Whole.Mean.Value;
                    Assert.True(With(true) >= With(false) - Slack);
                },
                iter: 100
            );

    [Fact]
    public void A_failed_sitting_lowers_the_chance_and_a_passed_one_raises_it()
    {
        var coupons = Row(8, Asked, true);
        var before = Evaluate(Asked, coupons, 9);
        var failed = Evaluate(Asked, [.. coupons, Sitting(9, false)], 9);
        var passed = Evaluate(Asked, [.. coupons, Sitting(9, true)], 9);
        Assert.True(failed.Whole.Mean.Value < before.Whole.Mean.Value - 0.01);
        Assert.True(failed.Passing.Mean.Value < before.Passing.Mean.Value - 0.03); // what was hidden is blamed too
        Assert.True(passed.Passing.Mean.Value > before.Passing.Mean.Value);
        Assert.Equal(9, failed.Trace.Count);
    }

    [Fact]
    public void Each_failed_sitting_lowers_it_further_and_three_leave_nobody_at_the_bar()
    {
        var coupons = Row(12, Asked, true);
        double After(int sittings) =>
            Evaluate(Asked, [.. coupons, .. Enumerable.Range(0, sittings).Select(index => Sitting(12 + index, false))], 15).Passing.Mean.Value;
        Assert.True(After(0) > TestPolicy.Defaults.BarMean);
        Assert.True(After(1) < After(0) && After(2) < After(1) && After(3) < After(2));
        Assert.True(After(3) < TestPolicy.Defaults.BarMean - 0.1);
    }

    /// <summary>A failed sitting blames what was weakest most.</summary>
    [Fact]
    public void A_failed_sitting_is_held_most_against_the_weakest_stage()
    {
        List<CouponEvidence> coupons = [.. Enumerable.Range(0, 8).Select(day => Coupon(day, Asked, name => name != "root" || day % 3 > 0))];
        var before = Evaluate(Asked, coupons, 9).Elements;
        var after = Evaluate(Asked, [.. coupons, Sitting(9, false)], 9).Elements;
        Assert.True(before[0].Value - after[0].Value > before[1].Value - after[1].Value);
    }

    [Fact]
    public void A_coupon_that_failed_inside_is_not_clean_and_tells_of_the_inside_alone()
    {
        var coupons = Row(5, Asked, true);
        var looksClean = Coupon(5, Asked, _ => true);
        var (eye, failed) = (Evaluate(Asked, [.. coupons, looksClean], 6), Evaluate(Asked, [.. coupons, looksClean with { Inside = false }], 6));
        Assert.False((looksClean with { Inside = false }).AllClean);
        Assert.Equal(eye.Whole, failed.Whole);
        Assert.True(failed.Passing.Mean.Value < eye.Passing.Mean.Value);
        Assert.True(Evaluate(Asked, [.. coupons, looksClean with { Inside = true }], 6).Passing.Mean.Value > eye.Passing.Mean.Value);

        // Another process hides other faults.
        var gtaw = Test("gtaw", "GTAW", "3G");
        var elsewhere = new TestHistory(gtaw, [Coupon(5, gtaw, _ => true, inside: false)]);
        var unharmed = new TestHistory(gtaw, [Coupon(5, gtaw, _ => true)]);
        Assert.Equal(Evaluate(Asked, coupons, 6, unharmed).Passing.Mean.Value, Evaluate(Asked, coupons, 6, elsewhere).Passing.Mean.Value, 12);
    }

    [Fact]
    public void One_misread_element_after_many_clean_ones_does_not_undo_them()
    {
        var coupons = Row(30, Asked, true);
        var before = Evaluate(Asked, coupons, 31).Whole.Mean.Value;
        var after = Evaluate(Asked, [.. coupons, Coupon(31, Asked, name => name != "cap")], 31).Whole.Mean.Value;
        Assert.InRange(before - after, 0, 0.06);
    }

    /// <summary>Thirty coupons with one of ten rejected, then every other one: a count of the last ten would say half.</summary>
    [Fact]
    public void Whoever_knew_a_test_and_fails_now_is_believed_to_have_fallen_and_to_be_less_sure()
    {
        List<CouponEvidence> Made(int from, int count, int each) =>
            [.. Enumerable.Range(from, count).Select(day => Coupon(day, Asked, element => element != Stages[day % 3] || day % each != 0))];
        List<CouponEvidence> known = [.. Made(0, 30, 10)];
        List<CouponEvidence> fallen = [.. known, .. Made(30, 10, 2)];
        var (before, after) = (Evaluate(Asked, known, 30).Whole, Evaluate(Asked, fallen, 40).Whole);
        Assert.True(before.Mean.Value > 0.8);
        Assert.InRange(after.Mean.Value, 0.5, 0.86);
        Assert.True(after.Upper.Value - after.Lower.Value > before.Upper.Value - before.Lower.Value);
    }

    [Fact]
    public void Who_comes_once_a_fortnight_is_foreseen_to_rise_less_by_as_many_coupons()
    {
        double Rise(int gap)
        {
            var state = ReadinessState.New(ReadinessConstants.Defaults);
            for (var coupon = 0; coupon < 6; coupon++)
            {
                state.Fold(Asked, Coupon(coupon * gap, Asked, element => element != Stages[coupon % 3]));
            }

            var forecast = state.On(Asked, 5 * gap, new Bar(0.8, 0.6)).Forecast;
            return forecast.Means[^1] - forecast.Means[0];
        }

        Assert.True(Rise(14) < 0.9 * Rise(2));
        Assert.Equal(Rise(1), Rise(2), 0.03);
    }

    /// <summary>A root by one process and the rest by another (common practice on pipe): each stage learns from its own.</summary>
    [Fact]
    public void A_test_of_two_processes_takes_of_each_what_belongs_to_it()
    {
        var mixed = new SkillTest(
            "mixed",
            new TestTraits("GTAW", Product.Plate, "3G", Progression.Uphill, true),
            Stages,
            new Dictionary<string, string> { ["fill"] = "SMAW", ["cap"] = "SMAW" }
        );
        double Odds(SkillTest asked, string stage, string process)
        {
            var earlier = Test("a", process, "3G");
            var chance = Evaluate(asked, [], 12, new TestHistory(earlier, Row(10, earlier, true))).Elements[Stages.IndexOf(stage)].Value;
            return Math.Log(chance / (1 - chance));
        }

        Assert.True(Odds(mixed, "fill", "SMAW") > Odds(mixed, "fill", "GTAW"));
        Assert.True(Odds(mixed, "root", "GTAW") > Odds(mixed, "root", "SMAW"));
        var shipped = SkillTest.Of(Gradus.Core.Library.TestLibrary.Shipped["P6"]);
        Assert.Equal(("GTAW", "SMAW"), (shipped.ProcessOf("root"), shipped.ProcessOf("cap")));
    }

    [Fact]
    public void Fitting_up_is_the_same_whatever_it_is_welded_with()
    {
        SkillTest With(string id, string process) =>
            new(id, new TestTraits(process, Product.Plate, "3G", Progression.Uphill, true), ["fitUp/all", "root/all"]);
        var (earlier, asked) = (With("a", "SMAW"), With("b", "GTAW"));
        double Lent(string practised, int element)
        {
            List<CouponEvidence> drills =
            [
                .. Enumerable.Range(0, 10).Select(day => new CouponEvidence(day, false, false, new Dictionary<string, bool> { [practised] = true })),
            ];
            return Evaluate(asked, [], 12, new TestHistory(earlier, drills)).Elements[element].Value;
        }

        Assert.True(Lent("fitUp/all", 0) > Lent("root/all", 0));
        Assert.True(Lent("root/all", 1) > Lent("fitUp/all", 1));
    }

    [Fact]
    public void Two_chances_that_must_both_come_true_are_less_sure_than_either_and_a_certain_one_changes_nothing() =>
        Gen.Select(Gen.Double[0.05, 0.95], Gen.Double[0, 1], Gen.Double[0, 1], Gen.Double[0.05, 0.95], Gen.Double[0, 1], Gen.Double[0, 1])
            .Sample(
                (one, below, above, two, under, over) =>
                {
                    static ChanceBand Band(double mean, double below, double above) =>
                        new(
                            Gradus.Core.Measure.Chance.Of(mean),
                            Gradus.Core.Measure.Chance.Of(mean * below),
                            Gradus.Core.Measure.Chance.Of(mean + ((1 - mean) * above))
                        );
                    var (first, second) = (Band(one, below, above), Band(two, under, over));
                    var both = first.And(second);
                    Assert.Equal(one * two, both.Mean.Value, 1e-12);
                    Assert.InRange(both.Lower.Value, first.Lower.Value * second.Lower.Value - 1e-12, both.Mean.Value);
                    Assert.InRange(both.Upper.Value, both.Mean.Value, Math.Min(first.Upper.Value, second.Upper.Value) + 1e-12);
                    Assert.True(both.Lower.Value <= (two * first.Lower.Value) + 1e-12); // what is not known of the one stays in doubt
                    var certain = first.And(Band(1, 1, 1));
                    Assert.Equal(first.Lower.Value, certain.Lower.Value, 1e-9);
                    Assert.Equal(first.Upper.Value, certain.Upper.Value, 1e-9);
                },
                iter: 2000
            );

    [Fact]
    public void What_is_not_believed_at_all_tells_nothing_and_what_is_believed_wholly_is_a_sitting()
    {
        var earlier = Test("a", "SMAW", "4G");
        double With(double trust) => Evaluate(Asked, [], 10, new TestHistory(earlier, [Sitting(9, true) with { Trust = trust }])).Passing.Mean.Value;
        Assert.Equal(Evaluate(Asked, [], 10).Passing.Mean.Value, With(0), 0.002);
        Assert.Equal(Evaluate(Asked, [], 10, new TestHistory(earlier, [Sitting(9, true)])).Passing.Mean.Value, With(1), 1e-12);
        Assert.True(With(1) > With(0.8) && With(0.8) > With(0.3) && With(0.3) > With(0));

        // Of the inside as well; the mean of a Beta distribution is the share of its first number (any handbook of statistics).
        var state = ReadinessState.New(ReadinessConstants.Defaults);
        state.Fold(earlier, Sitting(9, true) with { Trust = 0.3 });
        Assert.Equal(9.3 / 10.3, state.Inside(earlier).Mean.Value, 1e-12);
    }

    [Fact]
    public void The_clean_coupons_that_are_said_to_be_wanted_lift_the_lower_end_and_one_less_does_not()
    {
        var (bar, state) = (new Bar(0.5, 0.62), ReadinessState.New(ReadinessConstants.Defaults));
        Row(3, Asked, true).ForEach(coupon => state.Fold(Asked, coupon));
        var wanted = state.On(Asked, 2, bar).Forecast.CleanToBar;
        Assert.NotNull(wanted);
        double Lower(int more)
        {
            var then = ReadinessState.FromBytes(ReadinessConstants.Defaults, state.ToBytes());
            for (var coupon = 0; coupon < more; coupon++)
            {
                then.Fold(Asked, Coupon(2, Asked, _ => true));
            }

            return then.Now(Asked).Lower.Value;
        }

        Assert.True(Lower(wanted.Value) >= bar.Lower);
        Assert.True(Lower(wanted.Value - 1) < bar.Lower);
    }

    [Fact]
    public void Forty_tests_in_ten_years_are_judged()
    {
        string[] positions = ["1G", "2G", "3G", "4G"];
        string[] processes = ["SMAW", "GTAW", "FCAW-G", "GMAW-S", "GMAW"];
        var tests = Enumerable.Range(0, 40).Select(index => Test($"t{index}", processes[index % 5], positions[index / 5 % 4], index < 20)).ToList();
        var earlier = tests
            .Select((test, at) => new TestHistory(test, [.. Row(3, test, true).Select(coupon => coupon with { Day = (at * 90) + coupon.Day })]))
            .ToArray();
        var whole = Evaluate(Asked, [], 3600, earlier).Whole;
        Assert.InRange(whole.Mean.Value, 0.6, 0.99);
        Assert.True(whole.Lower.Value < whole.Mean.Value && whole.Mean.Value < whole.Upper.Value);
    }

    [Fact]
    public void The_order_in_which_tests_and_coupons_are_given_does_not_matter()
    {
        var (one, two) = (Test("one", "SMAW", "2G"), Test("two", "GTAW", "3G"));
        TestHistory[] earlier = [new(one, Row(4, one, true)), new(two, Row(3, two, false))];
        TestHistory[] turned = [.. earlier.Reverse().Select(history => history with { Coupons = [.. history.Coupons.Reverse()] })];
        Assert.Equal(Evaluate(Asked, Row(3, Asked, true), 6, earlier).Whole, Evaluate(Asked, Row(3, Asked, true), 6, turned).Whole);
    }

    [Fact]
    public void A_kept_state_with_other_tests_and_sittings_in_it_goes_on_to_the_same_bits()
    {
        var other = Test("other", "SMAW", "2G");
        List<CouponEvidence> own = [.. Row(4, Asked, true).Select(coupon => coupon with { Day = coupon.Day + 10 }), Sitting(14, false)];
        var state = ReadinessState.New(ReadinessConstants.Defaults);
        Row(4, other, true).ForEach(coupon => state.Fold(other, coupon));
        own.ForEach(coupon => state.Fold(Asked, coupon));
        var kept = ReadinessState.FromBytes(ReadinessConstants.Defaults, state.ToBytes());
        var last = Sitting(15, false);
        kept.Fold(Asked, last);
        Assert.Equal(Evaluate(Asked, [.. own, last], 15, new TestHistory(other, Row(4, other, true))).Passing, kept.Now(Asked));
    }

    [Fact]
    public void To_ask_of_a_test_that_was_not_begun_changes_nothing()
    {
        var begun = Test("begun", "SMAW", "2G");
        var state = ReadinessState.New(ReadinessConstants.Defaults);
        Row(4, begun, true).ForEach(coupon => state.Fold(begun, coupon));
        var before = state.ToBytes();
        var now = state.Now(Asked);
        Assert.Equal(now.Mean.Value, state.On(Asked, 3, new Bar(0.8, 0.6)).Passing.Mean.Value, 3);
        Assert.Equal(before, state.ToBytes());
        Assert.Equal(Evaluate(Asked, [], 3, new TestHistory(begun, Row(4, begun, true))).Passing, now);
    }

    [Fact]
    public void Careers_are_fitted_with_each_student_on_one_side_of_the_split()
    {
        var random = new Random(7);
        var other = Test("other", "SMAW", "4G");
        List<CouponEvidence> Some(SkillTest test, int from) =>
            [.. Enumerable.Range(from, 8).Select(day => Coupon(day, test, _ => random.NextDouble() < 0.8))];
        List<StudentHistory> school =
        [
            .. Enumerable
                .Range(0, 8)
                .Select(_ => new StudentHistory([new TestHistory(other, Some(other, 0)), new TestHistory(Asked, Some(Asked, 10))])),
        ];
        var fitted = ConstantsFit.Fit(school, ReadinessConstants.Defaults);
        Assert.True(!fitted.Adopted || fitted.ScoreAfter > fitted.ScoreBefore);
        Assert.Null(ReadinessConstants.Problem(fitted.Constants));
        Assert.True(fitted.Constants.IsOfThisModel);
    }
}
