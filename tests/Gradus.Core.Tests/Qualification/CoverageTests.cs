using Gradus.Core.Certification;
using Gradus.Core.Library;
using Gradus.Core.Qualification;

namespace Gradus.Core.Tests.Qualification;

public class CoverageTests
{
    private static readonly PositionTable D1 = Positions.Of("aws-d1.1")!;

    private static PassedTest Plate(string position, bool backing = true, int f = 4, double mm = 9.525, Progression run = Progression.Uphill) =>
        new(Product.Plate, WeldKind.Groove, position, mm, null, backing, "SMAW", f, run, 4);

    private static JobWeld Weld(string position, double thickness = 12, bool backing = true, int f = 4, Progression run = Progression.Uphill) =>
        new("w", Product.Plate, WeldKind.Groove, position, thickness, thickness, null, backing, "SMAW", f, run);

    private static string Short(JobWeld weld, params PassedTest[] tests) =>
        string.Join(" ", Coverage.Missing(D1, weld, tests).Select(gap => gap.Variable));

    [Fact]
    public void A_plate_test_in_3g_covers_vertical_to_twice_its_thickness() // AWS D1.1
    {
        Assert.Equal("", Short(Weld("V", 19.05), Plate("3G")));
        Assert.Equal("thickness", Short(Weld("V", 20), Plate("3G")));
    }

    [Fact]
    public void Each_essential_variable_that_changes_is_named()
    {
        Assert.Equal("position", Short(Weld("OH"), Plate("3G")));
        Assert.Equal("backing", Short(Weld("V", backing: false), Plate("3G")));
        Assert.Equal("fNumber", Short(Weld("V", f: 5), Plate("3G")));
        Assert.Equal("progression", Short(Weld("V", run: Progression.Downhill), Plate("3G")));
        Assert.Equal("process", Short(Weld("V") with { Process = "GTAW" }, Plate("3G")));
        Assert.Equal("diameter", Short(Weld("V") with { Product = Product.Pipe, DiameterMm = 60.3 }, Plate("3G")));
        Assert.Equal("process", Short(Weld("V")));
    }

    private static string Sets(JobWeld weld, params CandidateTest[] candidates) =>
        string.Join(" | ", Coverage.Covering(D1, [weld], candidates)[0].Select(index => candidates[index].Id));

    [Fact]
    public void Two_tests_cover_together_what_neither_does() // AWS D1.1 pipe: 2G with 5G is all
    {
        PassedTest Pipe(string position) =>
            new(Product.Pipe, WeldKind.Groove, position, 10.97, 168.3, false, "SMAW", 4, position == "2G" ? Progression.None : Progression.Uphill, 5);
        var weld = Weld("H", backing: false) with { Product = Product.Pipe, DiameterMm = 168.3 };
        var vertical = weld with { Position = "V" };
        CandidateTest[] tests = [new("2G", 1, [Pipe("2G")]), new("5G", 1, [Pipe("5G")]), new("6G", 1, [Pipe("6G")])];
        Assert.Equal("2G | 6G", Sets(weld, tests));
        Assert.Equal("5G | 6G", Sets(vertical, tests));
    }

    [Fact]
    public void What_two_tests_reach_is_never_mixed_into_one_claim()
    {
        // Vertical with backing and flat without do not make vertical without; uphill low-hydrogen and downhill cellulosic not the reverse.
        Assert.Equal(
            "",
            Sets(
                Weld("V", backing: false),
                new CandidateTest("a", 1, [Plate("3G")]),
                new CandidateTest("b", 1, [Plate("1G", false, run: Progression.None)])
            )
        );
        var split = new CandidateTest("split", 1, TestQualification.PassesOf(TestLibrary.Shipped["R4"], "aws-d1.1"));
        var pipe = Weld("V", backing: true) with { Product = Product.Pipe, DiameterMm = 168.3 };
        Assert.Equal("split", Sets(pipe with { FNumber = 4 }, split));
        Assert.Equal("split", Sets(pipe with { FNumber = 3, Progression = Progression.Downhill, Backing = false }, split));
        Assert.Equal("", Sets(pipe with { FNumber = 4, Progression = Progression.Downhill }, split));
    }

    [Fact]
    public void Continuity_ends_on_the_last_day_of_a_short_month()
    {
        var rule = Ranges.ByCode["aws-d1.1"].Continuity;
        Assert.Equal(new DateOnly(2027, 2, 28), Validity.Of(rule, new(2026, 3, 1), new(2026, 8, 31)).EndsOn);
        Assert.Null(Validity.Of(rule, new(2026, 3, 1), new(2026, 8, 31)).RenewBy);
        Assert.Throws<ArgumentException>(() => Validity.Of(rule, new(2026, 3, 1), new(2026, 2, 28)));
        Assert.Throws<ArgumentException>(() => Validity.Of(rule, new(2026, 3, 1), new(2026, 3, 1), 3));
    }

    [Fact]
    public void An_iso_qualification_ends_with_its_renewal_or_its_confirmation_whichever_is_earlier()
    {
        var rule = Ranges.ByCode["iso-9606-1"].Continuity;
        Assert.Equal(new DateOnly(2026, 1, 10), Validity.Of(rule, new(2024, 1, 10), new(2025, 12, 1), 2).EndsOn);
        Assert.Equal(new DateOnly(2026, 6, 1), Validity.Of(rule, new(2024, 1, 10), new(2025, 12, 1), 3).EndsOn);
    }

    [Theory] // AWS D1.1, ASME IX QW-321
    [InlineData("aws-d1.1")]
    [InlineData("asme-ix")]
    public void At_once_two_coupons_for_each_that_failed_after_training_one(string code) =>
        Assert.Equal((2, 1), (Ranges.ByCode[code].Retest.ImmediateCoupons, Ranges.ByCode[code].Retest.AfterTrainingCoupons));
}
