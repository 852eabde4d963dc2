using System.Text.Json;
using Gradus.Core.Joints;
using Gradus.Core.Library;
using Gradus.Core.Welding;
using NJsonSchema;

namespace Gradus.Core.Tests.Library;

public class TestLibraryTests
{
    public static TheoryData<string> Ids => [.. TestLibrary.Shipped.Keys];

    [Theory]
    [MemberData(nameof(Ids))]
    public async Task A_shipped_test_keeps_to_the_published_schema_and_survives_a_round_trip(string id)
    {
        var schema = await JsonSchema.FromJsonAsync(TestLibrary.Schema().ToJsonString(), TestContext.Current.CancellationToken);
        var json = JsonSerializer.Serialize(TestLibrary.Shipped[id], CoreJson.Options);
        Assert.Empty(schema.Validate(json));
        Assert.Equal(json, JsonSerializer.Serialize(TestLibrary.Parse(json), CoreJson.Options));
    }

    [Theory]
    [InlineData("\"title\"", "\"titel\"")]
    [InlineData("\"rootFaceMm\": 0", "\"rootFaceMm\": 99")]
    [InlineData("\"code\": \"aws-d1.1\"", "\"code\": \"unknown\"")]
    [InlineData("\"bevelDegA\": 22.5", "\"bevelDegA\": 95")]
    public void A_test_that_does_not_hold_together_is_refused(string was, string becomes)
    {
        var json = JsonSerializer.Serialize(TestLibrary.Shipped["P8"], CoreJson.Options);
        Assert.Contains(was, json, StringComparison.Ordinal);
        Assert.ThrowsAny<Exception>(() => TestLibrary.Parse(json.Replace(was, becomes, StringComparison.Ordinal)));
    }

    [Fact]
    public void The_pipe_test_has_the_wall_of_nps_6_schedule_80() => // ASME B36.10M
        Assert.Equal(0.432 * 25.4, TestLibrary.Shipped["R3"].Joint.ThicknessMm, 3);

    [Fact]
    public void Pipe_specimens_are_cut_at_45_degrees_off_top() => // AWS D1.1 and ASME IX: 5G and 6G, four specimens
        Assert.Equal(["1:30", "4:30", "7:30", "10:30"], TestLibrary.Shipped["R3"].Specimens.Select(specimen => specimen.Clock));

    [Theory]
    [MemberData(nameof(Ids))]
    public void Planned_beads_fill_the_groove_and_the_cap_within_3_percent(string id)
    {
        var template = TestLibrary.Shipped[id];
        var joint = template.Joint;
        var groove = new SingleVGroove(
            Core.Measure.Length.FromMm(joint.ThicknessMm),
            Core.Measure.BevelAngle.FromDegrees(joint.BevelDegA),
            Core.Measure.BevelAngle.FromDegrees(joint.BevelDegB),
            Core.Measure.Length.FromMm(joint.RootOpeningMm),
            Core.Measure.Length.FromMm(joint.RootFaceMm)
        );
        var planned = BeadPlanner.Plan(groove, 0, template.Passes, joint.Backing).Beads.Sum(bead => bead.AreaMm2);
        var toFill =
            groove.AreaMm2
            + groove.ReinforcementAreaMm2(Core.Measure.Length.FromMm(BeadPlanner.CapHeightMm), Core.Measure.Length.FromMm(BeadPlanner.ToeOverlapMm))
            + (template.OpenRoot ? 2.0 / 3 * joint.RootOpeningMm * BeadPlanner.RootReinforcementMm : 0);
        Assert.InRange(planned / toFill, 0.97, 1.03);
    }

    [Fact]
    public void Choosing_a_variant_changes_the_layers_that_are_planned() =>
        Assert.Equal(
            3,
            TestLibrary
                .Shipped["R3"]
                .With(new Dictionary<string, string> { ["cap"] = "three" })
                .Passes.Single(pass => pass.Stage == Stage.Cap)
                .Layers.Single()
        );

    [Fact]
    public void A_stamp_tells_a_wrong_character() =>
        Assert.All(
            Enumerable.Range(0, 3000).Select(number => Stamp.Of(number)),
            stamp =>
            {
                Assert.True(Stamp.IsValid(stamp));
                for (var place = 0; place < stamp.Length; place++)
                {
                    var other = stamp[place] == 'A' ? 'C' : 'A';
                    Assert.False(Stamp.IsValid(stamp[..place] + other + stamp[(place + 1)..]));
                }
            }
        );
}
