using Gradus.Core.Library;
using Gradus.Core.Planning;

namespace Gradus.Core.Tests.Planning;

public class StepGraphTests
{
    private static readonly StepGraph Shipped = StepGraph.Of(StepGraph.Shipped, TestLibrary.Shipped.Keys);

    private static Dictionary<string, StepEvidence> Evidence(params StepEvidence[] all) => all.ToDictionary(one => one.Test);

    private static StepEvidence Practised(string test, double chance, int coupons = 6) => new(test, false, coupons, chance, 8);

    private static StepEvidence Credited(string test) => new(test, true, 0, 0, 0);

    private static Step Step(string test, params string[][] after) => new(test, after, false, "Because.", "Common practice");

    [Fact]
    public void Every_shipped_test_has_its_place_and_plate_comes_before_pipe() // common practice
    {
        Assert.Equal(TestLibrary.Shipped.Keys.Order(), Shipped.Steps.Select(step => step.Test).Order());
        Assert.True(Shipped.Depth("R3") > Shipped.Depth("R1"));
        Assert.True(Shipped.Depth("R1") > Shipped.Depth("F3"));
    }

    [Fact]
    public void Pipe_in_6G_is_not_given_before_2G_or_5G() // common practice
    {
        Assert.False(Shipped.IsSafe("R3", Evidence(Practised("R3", 0.7), Practised("P4", 0.9))));
        Assert.True(Shipped.IsSafe("R3", Evidence(Practised("R2", 0.6))));
        Assert.False(Shipped.IsSafe("R3", Evidence(Practised("R2", 0.9, coupons: 1)))); // one good coupon is no ground
        Assert.True(Shipped.IsSafe("R3", Evidence(Credited("R1"))));
    }

    [Fact]
    public void The_way_takes_each_step_after_what_it_waits_for_and_dates_run_on()
    {
        var way = Shipped.Way(["R6"], Evidence(Credited("F1")), couponsPerWeek: 2, unbegun: 10);
        var ahead = way.Where(step => step.State != StepState.Behind).ToList();
        Assert.Equal("R6", ahead[^1].Test);
        Assert.Equal(StepState.Now, ahead[0].State);
        for (var index = 0; index < ahead.Count; index++)
        {
            Assert.All(ahead[index].Waits, wait => Assert.Contains(wait, ahead.Take(index).Select(step => step.Test)));
            Assert.Equal(35, ahead[index].To - ahead[index].From); // ten coupons at two a week
            Assert.Equal(index == 0 ? 0 : ahead[index - 1].To, ahead[index].From);
        }
    }

    [Fact]
    public void A_step_that_was_begun_goes_on_unless_its_ground_is_strict()
    {
        Assert.Equal(StepState.Now, Shipped.Way(["P8"], Evidence(Practised("P8", 0.3)), 2, 10).Single().State);
        Assert.Equal(StepState.Ahead, Shipped.Way(["R3"], Evidence(Practised("R3", 0.3)), 2, 10)[^1].State);
    }

    [Fact]
    public void A_goal_that_is_reached_leaves_nothing_that_only_led_to_it()
    {
        var graph = StepGraph.Of([Step("A"), Step("B", ["A"]), Step("C", ["B"]), Step("D", ["B"]), Step("X")], ["A", "B", "C", "D", "X"]);
        Assert.All(graph.Way(["C"], Evidence(Credited("C")), 2, 10), step => Assert.Equal(StepState.Behind, step.State));
        Assert.True(graph.Way(["C"], Evidence(Credited("C")), 2, 10).Single(step => step.Test == "C").IsTarget);

        // What C shows to be behind is ground for D, too; what has nothing to do with it is still asked for.
        var more = graph.Way(["C", "D", "X"], Evidence(Credited("C")), 2, 10);
        Assert.Equal(["D", "X"], more.Where(step => step.State != StepState.Behind).Select(step => step.Test));
        Assert.Equal(["A", "B", "C"], more.Where(step => step.State == StepState.Behind).Select(step => step.Test));

        // Of a choice only what was begun is shown.
        var choice = StepGraph.Of([Step("A"), Step("B"), Step("C", ["A", "B"])], ["A", "B", "C"]);
        Assert.Equal(["C"], choice.Way(["C"], Evidence(Credited("C")), 2, 10).Select(step => step.Test));
        Assert.Equal(["A", "C"], choice.Way(["C"], Evidence(Credited("C"), Practised("A", 0.2)), 2, 10).Select(step => step.Test));
    }

    [Fact]
    public void The_spread_of_a_way_widens_from_step_to_step_and_is_open_once_a_forecast_is()
    {
        var graph = StepGraph.Of([Step("A"), Step("B", ["A"])], ["A", "B"]);
        StepEvidence Begun(string test, int? most) => new(test, false, 0, 0.2, 8, 4, most);
        var way = graph.Way(["B"], Evidence(Begun("A", 12), Begun("B", 20)), couponsPerWeek: 2, unbegun: 10);
        Assert.Equal([(14.0, 42.0), (28.0, 112.0)], way.Select(step => (step.Soonest!.Value, step.Latest!.Value))); // four to twelve, then four to twenty more, at two a week
        Assert.Null(graph.Way(["B"], Evidence(Begun("A", null), Begun("B", 20)), 2, 10)[1].Latest);
    }

    [Fact]
    public void A_circle_an_unknown_test_and_a_step_twice_are_named()
    {
        string[] tests = ["A", "B", "C"];
        Assert.Contains("circle", StepGraph.Errors([Step("A", ["B"]), Step("B", ["A"])], tests).Single());
        Assert.Contains("There is no test X", StepGraph.Errors([Step("A", ["X"])], tests).Single());
        Assert.Contains("A is there twice", StepGraph.Errors([Step("A"), Step("A")], tests).Single());
        Assert.Throws<ArgumentException>(() => StepGraph.Of([Step("A", ["A"])], tests));
    }
}
