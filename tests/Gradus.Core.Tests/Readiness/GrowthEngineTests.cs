using CsCheck;
using Gradus.Core.Readiness;

namespace Gradus.Core.Tests.Readiness;

public class GrowthEngineTests
{
    private static readonly string[] Plate = ["root", "hot", "fill", "cap"];
    private static readonly string[] Pipe = [.. Plate.SelectMany(stage => new[] { "bottom", "side", "top" }.Select(zone => $"{stage}/{zone}"))];

    private static CouponEvidence Coupon(double day, IEnumerable<string> elements, Func<string, bool> clean, bool aided = false) =>
        new(day, true, aided, elements.ToDictionary(element => element, clean));

    private static GrowthEstimate Evaluate(string[] elements, IEnumerable<CouponEvidence> coupons, double today, bool trace = false) =>
        GrowthEngine.Evaluate(Asked(elements), [.. coupons], today, ReadinessConstants.Defaults, trace);

    private static SkillTest Asked(string[] elements) => new("asked", null, elements);

    private static double Mean(string[] elements, IEnumerable<CouponEvidence> coupons, double today) =>
        Evaluate(elements, coupons, today).Whole.Mean.Value;

    private static readonly Gen<CouponEvidence[]> History = Gen.Select(Gen.Int[0, 3], Gen.Bool, Gen.Int[0, 15])
        .Array[0, 8]
        .Select(steps =>
        {
            var day = 0.0;
            return steps
                .Select(step => Coupon(day += step.Item1, Plate, name => (step.Item3 >> Array.IndexOf(Plate, name) & 1) == 1, step.Item2))
                .ToArray();
        });

    [Fact]
    public void Without_evidence_a_beginner_is_far_from_ready_and_nothing_is_sure()
    {
        var nothing = Evaluate(Pipe, [], 0).Whole;
        Assert.InRange(nothing.Mean.Value, 0.1, 0.35);
        Assert.True(nothing.Upper.Value - nothing.Lower.Value > 0.4);
    }

    [Fact]
    public void A_year_of_clean_coupons_is_ready_and_a_year_of_rejected_ones_is_not()
    {
        IEnumerable<CouponEvidence> Year(bool clean) => Enumerable.Range(0, 100).Select(index => Coupon(index * 3.65, Pipe, _ => clean));
        var (good, bad) = (Evaluate(Pipe, Year(true), 365).Whole, Evaluate(Pipe, Year(false), 365).Whole);
        Assert.InRange(good.Lower.Value, 0.85, 1);
        Assert.InRange(bad.Upper.Value, 0, 0.01);
        Assert.True(good.Upper.Value - good.Lower.Value < 0.15);
    }

    [Fact]
    public void Two_years_off_lower_the_chance_and_widen_its_band()
    {
        var coupons = Enumerable.Range(0, 30).Select(index => Coupon(index * 2, Plate, name => name != "cap" || index % 4 > 0)).ToList();
        var (before, after) = (Evaluate(Plate, coupons, 58).Whole, Evaluate(Plate, coupons, 58 + 730).Whole);
        Assert.True(after.Mean.Value < before.Mean.Value);
        Assert.True(after.Upper.Value - after.Lower.Value > before.Upper.Value - before.Lower.Value);
        Assert.True(after.Mean.Value > Mean(Plate, [], 0)); // what was learned is not all gone
    }

    /// <summary>Both by themselves: what was practised is forgotten, and what is known becomes less sure.</summary>
    [Fact]
    public void Two_years_off_tell_by_what_is_forgotten_and_by_what_is_no_longer_known()
    {
        List<CouponEvidence> coupons = [.. Enumerable.Range(0, 30).Select(index => Coupon(index * 2, Plate, name => name != "cap" || index % 4 > 0))];
        ChanceBand After(int days, ReadinessConstants constants) => GrowthEngine.Evaluate(Asked(Plate), coupons, 58 + days, constants).Whole;
        static double Width(ChanceBand band) => band.Upper.Value - band.Lower.Value;
        var sure = ReadinessConstants.Defaults with { WanderPerDay = 0 };
        Assert.True(After(730, sure).Mean.Value < After(0, sure).Mean.Value - 0.2);
        var neverForgets = ReadinessConstants.Defaults with { ForgetDays = 90_000 };
        Assert.Equal(After(0, neverForgets).Mean.Value, After(730, neverForgets).Mean.Value, 0.03);
        Assert.True(Width(After(730, neverForgets)) > Width(After(730, neverForgets with { WanderPerDay = 0 })) + 0.03);
    }

    /// <summary>Four of four is what somebody who never fails shows as well (common sense; the Jeffreys interval of 4 of 4 ends at 1).</summary>
    [Fact]
    public void A_few_clean_coupons_do_not_rule_out_that_nearly_all_come_clean()
    {
        var four = Evaluate(Plate, [.. Enumerable.Range(0, 4).Select(day => Coupon(day, Plate, _ => true))], 4).Whole;
        Assert.True(four.Upper.Value > 0.995);
        Assert.True(four.Lower.Value < 0.7);
    }

    /// <summary>Whoever is coached has it easier: to come clean proves less, and to fail all the same proves more.</summary>
    [Fact]
    public void Were_it_known_how_much_help_helps_a_coached_failure_would_weigh_more_than_one_alone()
    {
        var known = ReadinessConstants.Defaults with { AidSpread = 0 };
        double After(bool clean, bool aided) => GrowthEngine.Evaluate(Asked(Plate), [Coupon(0, Plate, _ => clean, aided)], 0, known).Whole.Mean.Value;
        Assert.True(After(true, true) < After(true, false) - 0.01);
        Assert.True(After(false, true) < After(false, false));
    }

    [Fact]
    public void Five_thousand_coupons_are_judged()
    {
        var random = new Random(3);
        var coupons = Enumerable.Range(0, 5000).Select(index => Coupon(index, Plate, _ => random.NextDouble() < 0.9)).ToList();
        Assert.InRange(Mean(Plate, coupons, 5000), 0.45, 0.8); // 0.9^4 = 0.66, and a day's effect
    }

    [Fact]
    public void The_same_coupons_in_any_order_give_the_same_bits()
    {
        var random = new Random(5);
        var coupons = Enumerable.Range(0, 12).Select(index => Coupon(index / 3, Pipe, _ => random.NextDouble() < 0.8, index % 4 == 0)).ToList();
        var first = Evaluate(Pipe, coupons, 20, trace: true);
        var again = Evaluate(Pipe, coupons.OrderBy(_ => random.Next()).ToList(), 20, trace: true);
        Assert.Equal(first.Whole, again.Whole);
        Assert.Equal(first.Elements, again.Elements);
        Assert.Equal(first.Trace, again.Trace);
    }

    /// <summary>A program that runs for long is compiled anew with other instructions: that may not show in the last bit.</summary>
    [Fact]
    public async Task The_same_coupons_give_the_same_bits_however_long_the_program_has_run()
    {
        var coupons = Enumerable.Range(0, 3).Select(index => Coupon(index, Pipe, name => name.Length % 3 > 0)).ToList();
        var first = Evaluate(Pipe, coupons, 3);
        for (var round = 0; round < 4; round++)
        {
            await Task.Delay(150, TestContext.Current.CancellationToken); // recompiling begins when nothing new was called for a moment
            foreach (var again in Enumerable.Range(0, 60).Select(_ => Evaluate(Pipe, coupons, 3)))
            {
                Assert.Equal(first.Whole, again.Whole);
                Assert.Equal(first.Elements, again.Elements);
            }
        }
    }

    [Fact]
    public void A_coupon_folded_into_a_kept_state_gives_the_same_bits_as_all_of_them_at_once()
    {
        var coupons = Enumerable.Range(0, 9).Select(index => Coupon(index, Pipe, name => name.Length % 3 > 0 || index > 4)).ToList();
        var state = ReadinessState.New(ReadinessConstants.Defaults);
        coupons.Take(8).ToList().ForEach(coupon => state.Fold(Asked(Pipe), coupon));
        var kept = ReadinessState.FromBytes(ReadinessConstants.Defaults, state.ToBytes());
        kept.Fold(Asked(Pipe), coupons[8]);
        Assert.Equal(Evaluate(Pipe, coupons, 8).Passing, kept.Now(Asked(Pipe)));
        Assert.Throws<ArgumentException>(() => ReadinessState.FromBytes(ReadinessConstants.Defaults, state.ToBytes().AsSpan(0, 400)));
        Assert.Throws<ArgumentException>(() => ReadinessState.FromBytes(ReadinessConstants.Defaults, [1]));
    }

    // The model rounds nothing; this is the slack of its draws.
    private const double Slack = 1e-3;

    [Fact]
    public void A_clean_coupon_never_lowers_the_chance_and_an_all_rejected_one_never_raises_it() =>
        History.Sample(
            coupons =>
            {
                var today = coupons.Length == 0 ? 0 : coupons[^1].Day;
                var before = Mean(Plate, coupons, today);
                Assert.True(Mean(Plate, [.. coupons, Coupon(today, Plate, _ => true)], today) >= before - Slack);
                Assert.True(Mean(Plate, [.. coupons, Coupon(today, Plate, _ => false)], today) <= before + Slack);
            },
            iter: 500
        );

    [Fact]
    public void One_element_clean_instead_of_rejected_never_lowers_the_chance_that_follows() =>
        Gen.Select(History.Where(coupons => coupons.Length > 0), Gen.Int[0, 3])
            .Sample(
                (coupons, element) =>
                {
                    var last = coupons[^1];
                    double With(bool clean) =>
                        Mean(
                            Plate,
                            coupons[..^1]
                                .Append(last with { Clean = last.Clean.ToDictionary(e => e.Key, e => e.Key == Plate[element] ? clean : e.Value) }),
                            last.Day
                        );
                    Assert.True(With(true) >= With(false) - Slack, $"{With(true)} after clean, {With(false)} after rejected");
                },
                iter: 500
            );

    [Fact]
    public void An_aided_coupon_tells_less_than_one_under_test_rules()
    {
        double After(bool aided) => Mean(Plate, Enumerable.Range(0, 5).Select(index => Coupon(index, Plate, _ => true, aided)), 5);
        Assert.True(After(true) < After(false));
    }

    [Fact]
    public void Evidence_carries_over_in_proportion_to_what_is_shared()
    {
        var bad = Enumerable.Range(0, 6).Select(index => Coupon(index, ["root/bottom"], _ => false)).ToList();
        var chances = Pipe.Zip(Evaluate(Pipe, bad, 6).Elements, (name, chance) => (name, chance.Value)).ToDictionary();
        var start = Pipe.Zip(Evaluate(Pipe, [], 0).Elements, (name, chance) => (name, chance.Value)).ToDictionary();
        double Fell(string name) => Math.Log(start[name] / (1 - start[name])) - Math.Log(chances[name] / (1 - chances[name]));
        Assert.True(Fell("root/top") > Fell("cap/bottom")); // the stage binds more than the zone
        Assert.True(Fell("cap/bottom") > Fell("cap/top"));
        Assert.True(Fell("cap/top") > 0);
    }

    [Fact]
    public void Fitting_scores_better_on_students_held_out_or_keeps_what_was_there()
    {
        var random = new Random(11);
        List<StudentHistory> School(double start, int students) =>
            [
                .. Enumerable
                    .Range(0, students)
                    .Select(_ => new StudentHistory([
                        new TestHistory(
                            Asked(Plate),
                            [.. Enumerable.Range(0, 12).Select(index => Coupon(index, Plate, _ => random.NextDouble() < start + (0.02 * index)))]
                        ),
                    ])),
            ];
        var fitted = ConstantsFit.Fit(School(0.72, 60), ReadinessConstants.Defaults);
        Assert.True(fitted.ScoreAfter > fitted.ScoreBefore);
        Assert.True(fitted.Adopted); // nobody differs from anybody here: far from the defaults

        // The same of a handful tells no more than chance would: better, and not taken over.
        var few = ConstantsFit.Fit(School(0.72, 6), ReadinessConstants.Defaults);
        Assert.False(few.Adopted);
        Assert.Same(ReadinessConstants.Defaults, few.Constants);
        Assert.Null(ReadinessConstants.Problem(fitted.Constants));
    }
}
