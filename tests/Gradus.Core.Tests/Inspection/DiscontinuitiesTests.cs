using Gradus.Core.Inspection;

namespace Gradus.Core.Tests.Inspection;

public class DiscontinuitiesTests
{
    // ISO 6520-1 reference numbers.
    [Theory]
    [InlineData(DiscontinuityKind.Crack, "100")]
    [InlineData(DiscontinuityKind.CraterCrack, "104")]
    [InlineData(DiscontinuityKind.Porosity, "2011")]
    [InlineData(DiscontinuityKind.SlagInclusion, "301")]
    [InlineData(DiscontinuityKind.TungstenInclusion, "3041")]
    [InlineData(DiscontinuityKind.IncompleteFusion, "401")]
    [InlineData(DiscontinuityKind.IncompleteJointPenetration, "402")]
    [InlineData(DiscontinuityKind.Undercut, "501")]
    [InlineData(DiscontinuityKind.RootConcavity, "515")]
    [InlineData(DiscontinuityKind.ArcStrike, "601")]
    public void A_kind_carries_its_iso_number(DiscontinuityKind kind, string number) => Assert.Equal(number, Discontinuities.Of(kind).Iso6520);

    [Fact]
    public void Every_kind_is_in_the_catalogue_once_with_its_measures() =>
        Assert.All(
            Enum.GetValues<DiscontinuityKind>(),
            kind => Assert.NotEmpty(Assert.Single(Discontinuities.All, entry => entry.Kind == kind).Measures)
        );

    [Fact]
    public void Every_limit_compares_a_measure_that_its_kind_has() =>
        Assert.All(
            AcceptanceProfiles.Shipped.Values.SelectMany(profile => profile.Visual).Where(rule => rule.Measure != FindingMeasure.Count),
            rule => Assert.All(rule.Kinds, kind => Assert.Contains(rule.Measure, Discontinuities.Of(kind).Measures))
        );
}
