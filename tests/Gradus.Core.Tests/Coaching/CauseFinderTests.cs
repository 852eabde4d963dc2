using CsCheck;
using Gradus.Core.Coaching;
using Gradus.Core.Inspection;

namespace Gradus.Core.Tests.Coaching;

/// <summary>Common practice throughout: what an instructor would say of these records.</summary>
public class CauseFinderTests
{
    private static string First(DiscontinuityKind kind, CauseFacts facts) => CauseFinder.Rank(kind, facts)[0].Id;

    [Fact]
    public void A_closed_gap_explains_missing_penetration_before_anything_else()
    {
        var causes = CauseFinder.Rank(
            DiscontinuityKind.IncompleteJointPenetration,
            new CauseFacts(Stage.Root, GapMm: 1.5875, PlannedGapMm: 2.38125, Amps: 88, CardAmps: new(80, 95))
        );
        Assert.Equal("gapClosed", causes[0].Id);
        Assert.Equal(["The gap here is 1/16 in; planned 3/32 in."], causes[0].Grounds);
        Assert.Contains("cut-off wheel", causes[0].DoNow, StringComparison.Ordinal);
    }

    [Fact]
    public void With_the_gap_as_planned_low_amps_are_to_blame() =>
        Assert.Equal(
            "ampsLowRoot",
            First(
                DiscontinuityKind.IncompleteJointPenetration,
                new CauseFacts(Stage.Root, GapMm: 2.4, PlannedGapMm: 2.4, Amps: 70, CardAmps: new(80, 95))
            )
        );

    [Fact]
    public void The_same_fault_on_another_record_has_another_cause()
    {
        Assert.Equal("faceThin", First(DiscontinuityKind.BurnThrough, new CauseFacts(Stage.Root, FaceMm: 1, PlannedFaceMm: 2.4)));
        Assert.Equal("gapWide", First(DiscontinuityKind.BurnThrough, new CauseFacts(Stage.Root, GapMm: 4, PlannedGapMm: 2.4)));
        Assert.Equal("ampsHighRoot", First(DiscontinuityKind.BurnThrough, new CauseFacts(Stage.Root, Amps: 110, CardAmps: new(80, 95))));
        Assert.Equal("hotSlow", First(DiscontinuityKind.BurnThrough, new CauseFacts(Stage.Hot)));
    }

    [Theory]
    [InlineData(DiscontinuityKind.Undercut, "fillLow")]
    [InlineData(DiscontinuityKind.Underfill, "fillLow")]
    public void A_cap_started_low_undercuts(DiscontinuityKind kind, string cause) =>
        Assert.Equal(cause, First(kind, new CauseFacts(Stage.Cap, FillBelowFlushMm: 3)));

    [Fact]
    public void A_pore_at_a_start_is_a_start_on_the_stop() =>
        Assert.Equal("startOnStop", First(DiscontinuityKind.Porosity, new CauseFacts(Stage.Fill, StartStopAwayMm: 3)));

    [Fact]
    public void Sag_at_six_o_clock_is_the_rod_angle() =>
        Assert.Equal("rodAngleSag", First(DiscontinuityKind.Overlap, new CauseFacts(Stage.Cap, ClockMinutes: 360)));

    [Fact]
    public void Every_kind_has_a_cause_and_every_sign_is_one_that_is_worked_out()
    {
        Assert.All(
            Discontinuities.All,
            entry => Assert.Contains(entry.Stages, stage => CauseFinder.Rank(entry.Kind, new CauseFacts(stage)).Count > 0)
        );
        Assert.All(CauseFinder.Rules.SelectMany(rule => rule.Signs), sign => Assert.Contains(sign.Fact, CauseFinder.KnownFacts));
    }

    [Fact]
    public void More_evidence_for_a_cause_never_moves_it_down() =>
        Gen.Select(Gen.Double[0, 3], Gen.Double[0, 3])
            .Sample(
                (near, far) =>
                {
                    var (small, large) = (Math.Min(near, far), Math.Max(near, far));
                    int Rank(double shortBy) =>
                        CauseFinder
                            .Rank(DiscontinuityKind.IncompleteJointPenetration, new CauseFacts(Stage.Root, GapMm: 5 - shortBy, PlannedGapMm: 5))
                            .Select((cause, index) => (cause.Id, index))
                            .Single(one => one.Id == "gapClosed")
                            .index;
                    return Rank(large) <= Rank(small);
                },
                iter: 300
            );
}
