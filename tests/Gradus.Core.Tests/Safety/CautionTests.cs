using Gradus.Core.Joints;
using Gradus.Core.Library;
using Gradus.Core.Safety;
using Gradus.Core.Vocabulary;
using Gradus.Core.Welding;

namespace Gradus.Core.Tests.Safety;

/// <summary>People can be hurt by the work: each caution is said once, where its work is done, and to whoever does that work.</summary>
public sealed class CautionTests
{
    public static TheoryData<string> Tests => [.. TestLibrary.Shipped.Values.Where(test => test.Kind == TestKind.Test).Select(test => test.Id)];

    private static TestTemplate Test(string id) => TestLibrary.Shipped[id];

    private static string? Said(TestTemplate test, string rule)
    {
        var text = Cautions.All.Single(one => one.Id == rule).Text;
        return Cautions.BySteps(test, test.Beads()).SingleOrDefault(step => step.Texts.Contains(text))?.At;
    }

    private static string First(TestTemplate test, Func<PassPlan, bool> holds) => test.Beads().First(bead => holds(test.Passes[bead.Pass])).Key;

    [Theory]
    [MemberData(nameof(Tests))]
    public void Each_is_said_once_at_a_step_that_there_is(string id)
    {
        var test = Test(id);
        var steps = Cautions.BySteps(test, test.Beads());
        var said = steps.SelectMany(step => step.Texts).ToList();
        Assert.Equal(said.Distinct(), said);
        Assert.Equal(
            Cautions.Of(test).Select(one => one.Text).Where(text => !text.StartsWith("Lens shade", StringComparison.OrdinalIgnoreCase)).Order(),
            said.Order()
        );
        string[] known = [Cautions.FitUpStep, Cautions.LookStep, .. test.Beads().Select(bead => bead.Key)];
        Assert.All(steps, step => Assert.Contains(step.At, known));
    }

    // Common practice: what falls, falls on whoever welds over their head, and on nobody else.
    [Theory]
    [MemberData(nameof(Tests))]
    public void Leather_against_sparks_is_asked_for_where_metal_falls_toward_the_welder(string id)
    {
        var test = Test(id);
        var falls = test.Positions.Any(position => position is "4F" or "4G" or "5F" or "5G" or "6G" or "6GR");
        Assert.Equal(falls, Cautions.For(test).Any(rule => rule.Id == "overhead"));
    }

    // Common practice: inert gas in a pipe is invisible and displaces air; who does not purge is not warned of it.
    [Theory]
    [MemberData(nameof(Tests))]
    public void Gas_is_warned_of_before_the_arc_where_the_root_is_purged_and_nowhere_else(string id)
    {
        var test = Test(id);
        var purges = test.Joint.Backing.Kind is BackingKind.Gas or BackingKind.Insert;
        Assert.Equal(purges, Cautions.For(test).Any(rule => rule.Id == "argon"));
        if (purges)
        {
            // In the test's own words or in those of the rule, and before anything is lit.
            var before = Cautions.BySteps(test, test.Beads()).Single(step => step.At == Cautions.FitUpStep).Texts;
            Assert.Contains(before, text => text.Contains("19.5 %", StringComparison.Ordinal));
        }
    }

    // Common practice: low-hydrogen rods come out of an oven, cellulosic ones are ruined by it.
    [Theory]
    [MemberData(nameof(Tests))]
    public void The_oven_is_spoken_of_at_the_first_bead_of_the_rods_that_it_is_about(string id)
    {
        var test = Test(id);
        foreach (var (family, rule) in new[] { (ElectrodeFamily.LowHydrogen, "oven"), (ElectrodeFamily.Cellulosic, "noOven") })
        {
            var burns = test.Passes.Any(pass => pass.Process == Process.Smaw && pass.Family == family);
            Assert.Equal(burns ? First(test, pass => pass.Process == Process.Smaw && pass.Family == family) : null, Said(test, rule));
        }
    }

    // Common practice: fire and shock with the first arc; the grinder once there is a bead to grind; the ram when it is bent.
    [Theory]
    [MemberData(nameof(Tests))]
    public void Fire_and_shock_come_with_the_first_arc_and_the_wheel_before_the_second_bead(string id)
    {
        var test = Test(id);
        var beads = test.Beads();
        Assert.Equal(beads[0].Key, Said(test, "fire"));
        Assert.Equal(beads[0].Key, Said(test, "shock"));
        Assert.Equal(beads.Count > 1 ? beads[1].Key : Cautions.LookStep, Said(test, "wheel"));
        Assert.Equal(Cautions.LookStep, Said(test, "bend"));
        Assert.Equal(Cautions.FitUpStep, Said(test, "coating"));
        Assert.Null(Said(test, "torch")); // nobody cuts while they weld
    }

    // Common practice: thoria is in tungsten and in nothing else; chromium VI comes of metal with chromium in it.
    [Theory]
    [MemberData(nameof(Tests))]
    public void Smoke_and_dust_are_those_of_the_metal_and_the_process(string id)
    {
        var test = Test(id);
        var rules = Cautions.For(test).Select(rule => rule.Id).ToHashSet();
        Assert.Equal(test.Passes.Any(pass => pass.Process == Process.Gtaw), rules.Contains("thorium"));
        Assert.Equal(test.BaseMetal is BaseMetal.StainlessSteel or BaseMetal.ChromeMoly or BaseMetal.NickelAlloy, rules.Contains("chromium"));
        Assert.Equal(test.BaseMetal == BaseMetal.Aluminium, rules.Contains("ozone"));
        Assert.Equal(test.Passes.Any(pass => pass.Process is Process.FcawG or Process.FcawS), rules.Contains("fluorideCored"));
    }

    // ANSI Z49.1, shade numbers: each row reaches from its current to the next; where two meet, the darker protects at both.
    [Theory]
    [InlineData(Process.Smaw, 59.9, 7)]
    [InlineData(Process.Smaw, 60, 8)]
    [InlineData(Process.Smaw, 160, 10)]
    [InlineData(Process.Smaw, 250, 11)]
    [InlineData(Process.Gtaw, 50, 8)]
    [InlineData(Process.Gtaw, 150, 10)]
    [InlineData(Process.Gmaw, 60, 10)]
    [InlineData(Process.Gmaw, 250, 10)]
    public void Where_two_rows_meet_the_darker_lens_is_said(Process process, double amps, int least) =>
        Assert.Equal(least, Cautions.Shade(process, amps)!.Least);

    [Theory]
    [InlineData(Process.Smaw, 550, 551)]
    [InlineData(Process.Gtaw, 500, 501)]
    [InlineData(Process.FcawG, 500, 501)]
    public void More_current_is_never_given_a_lighter_lens_and_beyond_the_table_nothing_is_said(Process process, double last, double beyond)
    {
        var (least, suggested) = (0, 0);
        for (var amps = 0.0; amps <= last; amps += 0.5)
        {
            var shade = Cautions.Shade(process, amps)!;
            Assert.True(shade.Least >= least && (shade.Suggested ?? shade.Least) >= suggested, $"{process} at {amps} A");
            (least, suggested) = (shade.Least, shade.Suggested ?? shade.Least);
        }

        Assert.Null(Cautions.Shade(process, beyond));
        Assert.Null(Cautions.Shade(process, -1));
    }

    [Fact]
    public void A_test_that_says_it_in_its_own_words_does_not_hear_it_twice()
    {
        var rule = Cautions.All.Single(one => one.Id == "hot");
        var test = Test("P8");
        Assert.Contains(Cautions.Of(test), one => one.Text == rule.Text);
        var own = test with { Cautions = [.. test.Cautions, new Caution("HOT METAL is chalked.", null, "common practice")] };
        Assert.DoesNotContain(Cautions.Of(own), one => one.Text == rule.Text);
        Assert.DoesNotContain(Cautions.BySteps(own, own.Beads()).SelectMany(step => step.Texts), text => text == rule.Text);
    }
}
