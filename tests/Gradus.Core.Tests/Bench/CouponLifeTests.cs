using CsCheck;
using Gradus.Core.Bench;
using Gradus.Core.Inspection;
using Gradus.Core.Joints;
using Gradus.Core.Library;
using MathNet.Numerics.Distributions;

namespace Gradus.Core.Tests.Bench;

public class CouponLifeTests
{
    private static readonly DateTimeOffset Noon = new(2031, 3, 4, 12, 0, 0, TimeSpan.Zero);
    private static readonly TestRules Strict = TestLibrary.Shipped["R3"].Rules with { TimeLimitMinutes = 60, Grinder = GrinderRule.FileOnly };

    private static BenchEvent At(double minute, BenchEventKind kind, BenchEventBody? body = null) =>
        new(Guid.CreateVersion7(), kind, Noon.AddMinutes(minute), body ?? new BenchEventBody());

    private static string Broken(IReadOnlyList<BenchEvent> events, double now = 10, LaidPass[]? passes = null, params MeasuredFinding[] findings) =>
        string.Join(" ", CouponLife.Breaches(Strict, events, passes ?? [], findings, [], Noon.AddMinutes(now)).Select(breach => breach.Rule));

    [Fact]
    public void A_sitting_over_its_time_is_a_breach_and_a_pause_is_not_counted()
    {
        var (start, stop) = (new BenchEventBody(Timer: BenchTimer.Sitting), new BenchEventBody(Timer: BenchTimer.Sitting));
        Assert.Equal("", Broken([At(0, BenchEventKind.TimerStarted, start)], 59));
        Assert.Equal("TimeLimit", Broken([At(0, BenchEventKind.TimerStarted, start)], 61));
        Assert.Equal(
            "",
            Broken(
                [At(0, BenchEventKind.TimerStarted, start), At(30, BenchEventKind.TimerStopped, stop), At(50, BenchEventKind.TimerStarted, start)],
                79
            )
        );
    }

    [Fact]
    public void What_the_sitting_forbids_is_found_in_the_record()
    {
        Assert.Equal("TakeDown", Broken([At(1, BenchEventKind.TakenDown)]));
        Assert.Equal("Help", Broken([At(1, BenchEventKind.Breach, new(Rule: SittingRule.Help))]));
        Assert.Equal("ArcStrike", Broken([], 10, null, new MeasuredFinding(DiscontinuityKind.ArcStrike, Stage.Cap)));
    }

    [Fact]
    public void A_pass_after_a_take_down_needs_the_position_witnessed_again()
    {
        var down = At(1, BenchEventKind.TakenDown);
        LaidPass[] pass = [new(BeadTechnique.Stringer, Noon.AddMinutes(3))];
        Assert.Equal("TakeDown PositionNotWitnessed", Broken([down], 10, pass));
        Assert.Equal("TakeDown", Broken([down, At(2, BenchEventKind.PositionWitnessed)], 10, pass));
        Assert.Equal("TakeDown PositionNotWitnessed", Broken([down, At(4, BenchEventKind.PositionWitnessed)], 10, pass));
    }

    [Fact]
    public void Holds_wait_oldest_first_and_a_second_call_of_one_point_is_one()
    {
        BenchEvent Call(double at, string point) => At(at, BenchEventKind.HoldCalled, new(Point: point));
        var holds = CouponLife.Holds(
            [Call(5, "root"), Call(1, "Fit-up"), At(6, BenchEventKind.HoldAnswered, new(Point: "Root", Go: true)), Call(7, "Root")],
            [new HoldPoint("fitUp", "Fit-up", Stage.FitUp), new HoldPoint("root", "Root", Stage.Root)]
        );
        Assert.Equal(["Fit-up", "Root"], holds.Select(hold => hold.Point)); // by its id or as it is said, it is one point
    }

    [Theory]
    [InlineData("", Stage.Root, "Fit-up and position")]
    [InlineData("Root", Stage.Root, "")]
    [InlineData("Root", Stage.Hot, "Root")]
    [InlineData("Root Hot", Stage.Fill, "")]
    [InlineData("Root Hot Fill", Stage.Cap, "Before the cap")]
    [InlineData("Root Hot Fill Cap", Stage.Cap, "")]
    [InlineData("Root Hot Fill Cap", null, "")]
    public void A_hold_point_is_due_before_the_pass_that_would_cover_what_it_looks_at(string laid, Stage? next, string due)
    {
        var points = TestLibrary.Shipped["R3"].Rules.HoldPoints;
        Stage[] stages = [.. laid.Split(' ', StringSplitOptions.RemoveEmptyEntries).Select(Enum.Parse<Stage>)];
        Assert.Equal(due, string.Join(", ", CouponLife.HoldsDue(points, [], next, stages).Select(point => point.Title)));
        var answered = points.Select(point => At(1, BenchEventKind.HoldAnswered, new(Point: point.Id, Go: true))).ToList();
        Assert.Empty(CouponLife.HoldsDue(points, answered, next, stages));
        Assert.Equal(
            due.Length > 0,
            CouponLife.HoldsDue(points, [.. answered, At(2, BenchEventKind.HoldAnswered, new(Point: due, Go: false))], next, stages).Count > 0
        );
    }

    [Fact]
    public void An_instructor_would_work_out_the_same_numbers_of_a_fit_up()
    {
        var test = TestLibrary.Shipped["R3"];
        FitUpPoint Point(string at, double gap) => new(at, 37.5, 35, gap, 2.4, 0);
        var numbers = FitUpNumbers.Of(
            test.Joint,
            test.FitUp,
            test.Positions[0],
            new FitUpMeasured([Point("12", 3.2), Point("6", 2.4)], [], new Dictionary<string, bool>())
        );
        Assert.Equal((72.5, 52.5, 55.0), (numbers.Points[0].IncludedAngleDeg, numbers.Points[0].ProtractorDegA, numbers.Points[0].ProtractorDegB));
        Assert.Equal("12", numbers.WeldFirst); // common practice: on pipe the wider side first; it draws shut and the tight one opens
        Assert.Equal("6", numbers.BestGapAt); // and the best gap at the bottom of a fixed pipe
        Assert.Null(numbers.StripLengthMm);
        var seam = TestLibrary.Shipped["P5"];
        FitUpPoint End(string at, double gap) => new(at, 30, 30, gap, 2.4, 0);
        var ends = new FitUpMeasured([End("start", 3.2), End("end", 2.4)], [], new Dictionary<string, bool>());
        // On one plate seam the opening ahead closes, so the wider end is welded last.
        Assert.Equal("end", FitUpNumbers.Of(seam.Joint, seam.FitUp, seam.Positions[0], ends).WeldFirst);
        var backed = TestLibrary.Shipped["P4"];
        var plate = FitUpNumbers.Of(backed.Joint, backed.FitUp, backed.Positions[0], new FitUpMeasured([], [], new Dictionary<string, bool>()));
        Assert.Equal(8 * 25.4, plate.StripLengthMm!.Value, 6); // 6 in plate, strip 8 in long
    }

    [Theory] // a strip of 1 1/2 in at 4:30 on NPS 6 reaches from about 4:03 to 4:57
    [InlineData(270, 1)]
    [InlineData(290, 1)]
    [InlineData(310, 0)]
    [InlineData(180, 0)]
    public void A_finding_inside_a_specimen_strip_threatens_that_bend(int minutes, int threatened)
    {
        var test = TestLibrary.Shipped["R3"];
        Assert.Equal(threatened, CouponLife.Threatened(test.Specimens, minutes, null, CouponBudget.JointLengthMm(test)).Count);
        Assert.Equal([0], CouponLife.Threatened(TestLibrary.Shipped["P8"].Specimens, null, 50, 0));
    }

    [Fact]
    public void The_chance_that_one_way_is_better_is_that_of_two_beta_distributions()
    {
        Assert.Equal(0.5, StudentCard.ChanceBetter(3, 5, 3, 5).Value, 1e-6);

        // Against a library's random draws of both shares.
        var random = new Random(7);
        var (first, second) = (new Beta(8.5, 2.5, random), new Beta(3.5, 6.5, random));
        const int Draws = 200_000;
        var drawn = Enumerable.Range(0, Draws).Count(_ => first.Sample() > second.Sample()) / (double)Draws;
        Assert.Equal(drawn, StudentCard.ChanceBetter(8, 10, 3, 9).Value, 0.005);
    }

    [Fact]
    public void Chances_of_better_and_worse_add_up_to_one() =>
        Gen.Select(Gen.Int[0, 20], Gen.Int[0, 20], Gen.Int[0, 20], Gen.Int[0, 20])
            .Sample(
                (a, b, c, d) =>
                    Math.Abs(StudentCard.ChanceBetter(a, a + b, c, c + d).Value + StudentCard.ChanceBetter(c, c + d, a, a + b).Value - 1) < 1e-5,
                iter: 100
            );
}
