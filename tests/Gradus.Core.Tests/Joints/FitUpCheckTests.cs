using Gradus.Core.Joints;
using Gradus.Core.Library;

namespace Gradus.Core.Tests.Joints;

public class FitUpCheckTests
{
    private const double Inch = 25.4;
    private static readonly TestTemplate Plate = TestLibrary.Shipped["P8"];
    private static readonly TestTemplate Pipe = TestLibrary.Shipped["R3"];

    private static FitUpReport CheckPlate(
        double openingIn = 0.25,
        double bevel = 22.5,
        double offsetIn = 0,
        double strip = 0,
        bool stripClean = true
    ) =>
        FitUpCheck.Check(
            Plate.FitUp,
            new FitUpMeasured(
                [.. Plate.FitUp.Points.Select(at => new FitUpPoint(at, bevel, bevel, openingIn * Inch, 0, offsetIn * Inch, strip))],
                [new("start", 12.7, false), new("start", 12.7, false), new("end", 12.7, false)],
                Plate.FitUp.Questions.ToDictionary(question => question.Id, question => question.Id != "stripClean" || stripClean)
            )
        );

    [Fact]
    public void A_fit_up_as_drawn_is_go() => Assert.Equal(FitUpOutcome.Go, CheckPlate().Outcome);

    // AWS D1.1 as-fit-up tolerances of a backed groove: root opening -0 / +1/16 in, groove angle -5 / +10 degrees.
    [Theory]
    [InlineData(15.0 / 64, 22.5, FitUpOutcome.Mend)]
    [InlineData(16.0 / 64, 22.5, FitUpOutcome.Go)]
    [InlineData(20.0 / 64, 22.5, FitUpOutcome.Go)]
    [InlineData(21.0 / 64, 22.5, FitUpOutcome.Mend)]
    [InlineData(16.0 / 64, 20.0, FitUpOutcome.Go)]
    [InlineData(16.0 / 64, 19.9, FitUpOutcome.Mend)]
    [InlineData(16.0 / 64, 27.5, FitUpOutcome.Go)]
    [InlineData(16.0 / 64, 27.6, FitUpOutcome.Mend)]
    public void A_backed_groove_keeps_its_as_fit_up_tolerance(double openingIn, double bevel, FitUpOutcome outcome) =>
        Assert.Equal(outcome, CheckPlate(openingIn, bevel).Outcome);

    // Common practice: a warning above 1/32 in of hi-lo, refused above 1/16.
    [Theory]
    [InlineData(1.0 / 32, FitUpOutcome.Go)]
    [InlineData(3.0 / 64, FitUpOutcome.Warn)]
    [InlineData(1.0 / 16, FitUpOutcome.Warn)]
    [InlineData(5.0 / 64, FitUpOutcome.Mend)]
    public void Offset_warns_then_refuses(double offsetIn, FitUpOutcome outcome) => Assert.Equal(outcome, CheckPlate(offsetIn: offsetIn).Outcome);

    [Fact]
    public void A_gap_at_the_strip_is_mended_and_the_advice_says_how()
    {
        var line = CheckPlate(strip: 0.8).Lines.First(line => line.Measure == FitUpMeasure.StripGapMm);
        Assert.Equal(FitUpOutcome.Mend, line.Outcome);
        Assert.NotNull(line.Advice);
        Assert.NotEmpty(line.Source);
    }

    [Fact]
    public void A_question_answered_no_stops_the_fit_up() => Assert.Equal(FitUpOutcome.Mend, CheckPlate(stripClean: false).Outcome);

    [Fact]
    public void What_is_not_measured_is_open_and_never_go()
    {
        var report = FitUpCheck.Check(Pipe.FitUp, new FitUpMeasured([new("12", 37.5, 37.5, 2.38, 2.38, 0)], [], new Dictionary<string, bool>()));
        Assert.Equal(FitUpOutcome.Open, report.Outcome);
    }

    [Fact]
    public void Pipe_tacks_that_are_not_feathered_are_mended() // common practice
    {
        var report = FitUpCheck.Check(
            Pipe.FitUp,
            new FitUpMeasured([], [.. Pipe.FitUp.Points.Select(at => new Tack(at, 12.7, false))], new Dictionary<string, bool>())
        );
        Assert.Equal(FitUpOutcome.Mend, report.Lines.Single(line => line.QuestionId == "tacks").Outcome);
    }

    [Fact]
    public void A_variant_moves_its_tolerance_along()
    {
        var eighth = Pipe.With(new Dictionary<string, string> { ["faceGap"] = "1-8" });
        var opening = eighth.FitUp.Tolerances.Single(tolerance => tolerance.Measure == FitUpMeasure.RootOpeningMm);
        Assert.Equal(3.175, eighth.Joint.RootOpeningMm);
        Assert.InRange(3.175, opening.Min, opening.Max);
        Assert.Equal(3.175, (opening.Min + opening.Max) / 2, 9);
    }

    // Common practice: tacks on a plate stay out of the strips that will be cut; on pipe they are feathered, or bridged and cut out.
    [Fact]
    public void A_tack_lies_outside_the_strips_that_are_cut_and_is_feathered_or_bridged()
    {
        FitUpOutcome Tacks(TestTemplate test, params Tack[] tacks) =>
            FitUpCheck
                .Check(test.FitUp, new FitUpMeasured([], tacks, new Dictionary<string, bool>()), test.Specimens)
                .Lines.Single(line => line.QuestionId == "tacks")
                .Outcome;
        var strip = Plate.Specimens[0];
        Tack At(double mm) => new(mm.ToString(System.Globalization.CultureInfo.InvariantCulture), 12.7, false);
        Assert.Equal(FitUpOutcome.Go, Tacks(Plate, At(strip.FromMm!.Value - 1), new("end", 12.7, false), new("start", 12.7, false)));
        Assert.Equal(FitUpOutcome.Mend, Tacks(Plate, At(strip.FromMm!.Value + 1), new("start", 12.7, false), new("end", 12.7, false)));
        Tack[] three = [new("12", 19.05, true), new("3:00", 19.05, true), new("6", 19.05, false)];
        Assert.Equal(FitUpOutcome.Mend, Tacks(Pipe, three));
        Assert.Equal(FitUpOutcome.Go, Tacks(Pipe, [three[0], three[1], three[2] with { Bridged = true }]));
    }
}
