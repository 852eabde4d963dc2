using Gradus.Core.Bench;
using Gradus.Core.Inspection;
using Gradus.Core.Library;

namespace Gradus.Core.Tests.Bench;

/// <summary>What a laboratory saw is judged by what the test is: no dimension that it sends lets more pass.</summary>
public sealed class LabReportTests
{
    private static readonly Guid Order = Guid.NewGuid();

    private static TestTemplate Thin(string id)
    {
        var test = TestLibrary.Shipped[id];
        return test with { Joint = test.Joint with { ThicknessMm = 4 } };
    }

    /// <summary>API 1104, bends: 1/8 in or half the wall, whichever is less (from memory). Half of the 4 mm of this pipe is 2 mm.</summary>
    [Theory]
    [InlineData(null, 4, VerdictKind.Reject)]
    [InlineData(20.0, 4, VerdictKind.Reject)] // a wall that the pipe does not have
    [InlineData(3.0, 3, VerdictKind.Reject)]
    public void A_wall_is_at_most_that_of_the_test(double? saidMm, double wallMm, VerdictKind verdict)
    {
        var test = Thin("R15");
        var body = new LabFound(2, Bend: new BendSpecimen(saidMm, [new BendDiscontinuity(2.5, false, false)])).Body(test, Order);
        Assert.Equal(wallMm, body.Bend!.WallMm);
        Assert.Equal(verdict, CouponLife.Judge(AcceptanceProfiles.Shipped[test.Code], test, body)!.Kind);
        Assert.Equal(VerdictKind.Accept, Judged(new LabFound(2, Bend: new BendSpecimen(saidMm, [new BendDiscontinuity(1.4, false, false)])), test));
        var broken = new LabFound(1, NickBreak: new NickBreakSpecimen(true, true, saidMm, 0, [], [])).Body(test, Order);
        Assert.Equal(wallMm, broken.NickBreak!.WallMm);
    }

    [Fact]
    public void A_fillet_is_held_against_the_leg_that_was_asked_for_and_the_length_that_was_cut()
    {
        var test = TestLibrary.Shipped["F1"];
        var section = new MacroSpecimen(false, false, true, 0, 1, test.Joint.LegMm - 2, test.Joint.LegMm - 2, 6, 0.2, null, 0, ThicknessMm: 99);
        var body = new LabFound(1, Macro: section).Body(test, Order);
        Assert.Equal((true, test.Joint.LegMm), (body.Macro!.Fillet, body.Macro.LegAskedMm));
        Assert.Equal(test.Joint.ThicknessMm, body.Macro.ThicknessMm);
        Assert.Equal(VerdictKind.Reject, Judged(new LabFound(1, Macro: section), test)); // 2 mm short, whatever was said to be asked
        var broken = new LabFound(0, FilletBreak: new FilletBreakSpecimen(false, true, false, [], LengthMm: 9999)).Body(test, Order);
        Assert.Null(broken.FilletBreak!.LengthMm);
    }

    [Fact]
    public void Words_go_and_what_was_seen_stays()
    {
        var report = new LabReport([new LabFound(0, Indications: [], Remark: "Of somebody"), new LabFound(1, Indications: [])], "For somebody");
        var without = report.Without("erased");
        Assert.Equal(("erased", "erased", null), (without.Remark, without.Found[0].Remark, without.Found[1].Remark));
        Assert.Equal([0, 1], without.Found.Select(found => found.Specimen));
    }

    private static VerdictKind Judged(LabFound found, TestTemplate test) =>
        CouponLife.Judge(AcceptanceProfiles.Shipped[test.Code], test, found.Body(test, Order))!.Kind;
}
