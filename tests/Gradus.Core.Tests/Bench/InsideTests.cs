using Gradus.Core.Bench;
using Gradus.Core.Inspection;
using Gradus.Core.Joints;
using Gradus.Core.Library;
using Gradus.Core.Measure;

namespace Gradus.Core.Tests.Bench;

/// <summary>What lies inside is no verdict by eye (AWS D1.1 4.9.1, 6.10.1; 95 %), and stays a fault of its pass.</summary>
public sealed class InsideTests
{
    private static readonly TestTemplate Pipe = TestLibrary.Shipped["R3"];
    private static readonly DateTimeOffset Noon = new(2026, 3, 2, 12, 0, 0, TimeSpan.Zero);

    private static Guid Id(int n) => new(n, 0, 0, new byte[8]);

    private static CouponLog Log(DiscontinuityKind kind, int bent, TestTemplate? test = null)
    {
        var own = test ?? Pipe;
        var passes = own.Beads()
            .Select(
                (bead, index) =>
                    new LoggedPass(
                        Id(100 + index),
                        Noon.AddMinutes(index * 5),
                        bead.Key,
                        bead.Stage,
                        bead.Layer,
                        own.Passes[bead.Pass].Process,
                        own.Passes[bead.Pass].Filler.Classification,
                        3.2,
                        own.Passes[bead.Pass].Polarity,
                        90,
                        null,
                        null,
                        null,
                        BeadTechnique.Stringer,
                        Progression.Uphill,
                        OperatorHand.Right,
                        null,
                        null
                    )
            )
            .ToList();
        var finding = new LoggedFinding(Id(1), Noon.AddMinutes(20), null, kind, Stage.Fill, Place.At(ClockPosition.Parse("6")), LengthMm: 5);
        var bends = Enumerable
            .Range(0, bent)
            .Select(index => new BenchEvent(
                Id(500 + index),
                BenchEventKind.SpecimenTested,
                Noon.AddHours(3).AddMinutes(index),
                new BenchEventBody(Specimen: index, Bend: new BendSpecimen(null, []))
            ))
            .ToList();
        var fitUp = new LoggedFitUp(Id(900), Noon.AddMinutes(-5), new FitUpMeasured([], [], new Dictionary<string, bool>()));
        return new CouponLog(own, AcceptanceProfiles.Shipped["aws-d1.1"], null, false, new CouponRecords([fitUp], passes, [finding], bends));
    }

    [Theory]
    [InlineData(DiscontinuityKind.SlagInclusion, null)]
    [InlineData(DiscontinuityKind.IncompleteFusion, false)]
    public void It_leaves_the_verdict_open_and_tells_of_its_pass_what_is_sure(DiscontinuityKind kind, bool? clean)
    {
        var (made, why) = Log(kind, 0).Close(Noon.AddDays(1));
        Assert.Null(why); // nothing is wanting that somebody could measure
        Assert.Equal((VerdictKind.CannotJudge, false), (made!.Verdict.Kind, made.Verdict.Decides));
        Assert.True(made.Verdict.Visual.IsOpenInside);
        Assert.Equal(clean, made.Facts.ElementClean.TryGetValue("fill/bottom", out var told) ? told : null);
        Assert.True(made.Facts.ElementClean["fill/top"]);
        Assert.True(made.Facts.ElementClean["cap/bottom"]);
    }

    [Fact]
    public void All_of_the_specimens_settle_it_and_some_do_not()
    {
        Assert.Equal(4, Pipe.Specimens.Count);
        Assert.Equal(VerdictKind.CannotJudge, Log(DiscontinuityKind.SlagInclusion, 3).Verdict().Kind);
        var whole = Log(DiscontinuityKind.SlagInclusion, 4).Verdict();
        Assert.Equal((VerdictKind.Accept, VerdictKind.CannotJudge, true), (whole.Kind, whole.Seen, whole.Decides));
        Assert.Equal(VerdictKind.Reject, Log(DiscontinuityKind.Crack, 4).Verdict().Kind); // a crack is none that bends could save
    }

    [Fact]
    public void A_specimen_that_the_coupon_is_not_cut_into_any_more_counts_no_more()
    {
        var by = Pipe.JudgedBy("asme-ix")!;
        Assert.Equal(4, Log(DiscontinuityKind.SlagInclusion, 4, by).Specimens().Count);
        Assert.Equal(2, Log(DiscontinuityKind.SlagInclusion, 4, Pipe with { Specimens = [.. Pipe.Specimens.Take(2)] }).Specimens().Count);
        Assert.Empty(Log(DiscontinuityKind.SlagInclusion, 4, Pipe with { Specimens = [new Specimen("nickBreak", null, null, "3:00")] }).Specimens());
    }
}
