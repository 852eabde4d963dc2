using Gradus.Core.Inspection;

namespace Gradus.Core.Tests.Inspection;

/// <summary>In which order the kinds are offered: by what a school finds, and by common practice until it has found enough.</summary>
public sealed class FindingOrderTests
{
    public static TheoryData<Stage> Stages => [Stage.Root, Stage.Hot, Stage.Fill, Stage.Cap];

    [Theory]
    [MemberData(nameof(Stages))]
    public void A_new_school_sees_what_is_usual_first(Stage stage)
    {
        var kinds = Discontinuities.Ordered(stage, _ => 0).ToList();
        var usual = kinds.Count(kind => kind.Usual?.Contains(stage) == true);
        Assert.True(usual >= 4);
        Assert.All(kinds[..usual], kind => Assert.Contains(stage, kind.Usual!));
        Assert.All(kinds, kind => Assert.Contains(stage, kind.Stages));
    }

    [Theory]
    [MemberData(nameof(Stages))]
    public void What_is_found_more_never_stands_behind_what_is_found_less_among_equals(Stage stage)
    {
        var random = new Random(7);
        var counts = Enum.GetValues<DiscontinuityKind>().ToDictionary(kind => kind, _ => random.Next(40));
        var kinds = Discontinuities.Ordered(stage, kind => counts[kind]).ToList();
        Assert.Equal(Discontinuities.All.Count(kind => kind.Stages.Contains(stage)), kinds.Count);
        foreach (var isUsual in new[] { true, false })
        {
            var own = kinds.Where(kind => (kind.Usual?.Contains(stage) == true) == isUsual).Select(kind => counts[kind.Kind]).ToList();
            Assert.Equal(own.OrderDescending(), own);
        }
    }

    [Fact]
    public void Six_findings_weigh_more_than_being_usual_and_five_do_not()
    {
        var rare = Discontinuities.Ordered(Stage.Cap, _ => 0).Last().Kind;
        Assert.Equal(rare, Discontinuities.Ordered(Stage.Cap, kind => kind == rare ? 6 : 0).First().Kind);
        Assert.NotEqual(rare, Discontinuities.Ordered(Stage.Cap, kind => kind == rare ? 5 : 0).First().Kind);
    }
}
