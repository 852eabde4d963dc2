using Gradus.Core.Inspection;
using Gradus.Core.Joints;
using Gradus.Core.Measure;
using Gradus.Core.Qualification;
using Gradus.Core.Safety;
using Gradus.Core.Welding;

namespace Gradus.Core.Tests;

/// <summary>
/// Values as they are published, one row each, beside the source they are remembered from. The expected side is never worked out by the code
/// under test: where a standard prints a result (a weight, a strain, a time), the result is what is compared.
/// </summary>
public class PublishedValuesTests
{
    private const double Inch = 25.4;
    private static readonly List<Row> Rows =
    [
        .. Lengths(),
        .. PipeWeights(),
        .. Geometry(),
        .. Calculations(),
        .. Limits(),
        .. Qualified(),
        .. Shades(),
    ];

    private sealed record Row(string Source, string What, double Expected, double Actual, double Tolerance);

    public static TheoryData<int> All => [.. Enumerable.Range(0, Rows.Count)];

    [Theory]
    [MemberData(nameof(All))]
    public void A_published_value_is_met(int row)
    {
        var one = Rows[row];
        Assert.True(Math.Abs(one.Expected - one.Actual) <= one.Tolerance, $"{one.Source}, {one.What}: published {one.Expected}, got {one.Actual}.");
    }

    [Fact]
    public void There_are_enough_of_them() =>
        Assert.True(Rows.Count >= 150 && Rows.Select(row => row.Source).Distinct().Count() >= 12, $"{Rows.Count} values");

    // Decimal equivalents of fractions, as every handbook of the trade prints them.
    private static IEnumerable<Row> Lengths() =>
        new (string Text, double Mm)[]
        {
            ("1/64", 0.396875),
            ("1/32", 0.79375),
            ("3/64", 1.190625),
            ("1/16", 1.5875),
            ("5/64", 1.984375),
            ("3/32", 2.38125),
            ("7/64", 2.778125),
            ("1/8", 3.175),
            ("5/32", 3.96875),
            ("3/16", 4.7625),
            ("1/4", 6.35),
            ("5/16", 7.9375),
            ("3/8", 9.525),
            ("1/2", 12.7),
            ("5/8", 15.875),
            ("3/4", 19.05),
            ("1", 25.4),
            ("1 1/2", 38.1),
        }.Select(one => new Row(
            "Machinery's handbooks, decimal equivalents of fractions",
            one.Text,
            one.Mm,
            LengthReader.TryRead(one.Text, LengthUnit.Inch, out var length, out _) ? length.Mm : double.NaN,
            1e-9
        ));

    // Plain-end weights in lb/ft: they are printed beside the walls and follow from them by 10.69 (D - t) t, so a wrong wall shows.
    private static IEnumerable<Row> PipeWeights() =>
        new (string Nps, string Schedule, double PoundsPerFoot)[]
        {
            ("1/2", "40", 0.85),
            ("1/2", "80", 1.09),
            ("1/2", "160", 1.31),
            ("1/2", "XXS", 1.71),
            ("3/4", "40", 1.13),
            ("3/4", "80", 1.47),
            ("3/4", "160", 1.94),
            ("3/4", "XXS", 2.44),
            ("1", "40", 1.68),
            ("1", "80", 2.17),
            ("1", "160", 2.84),
            ("1", "XXS", 3.66),
            ("1-1/4", "40", 2.27),
            ("1-1/4", "80", 3.00),
            ("1-1/4", "160", 3.76),
            ("1-1/4", "XXS", 5.21),
            ("1-1/2", "40", 2.72),
            ("1-1/2", "80", 3.63),
            ("1-1/2", "160", 4.86),
            ("1-1/2", "XXS", 6.41),
            ("2", "40", 3.65),
            ("2", "80", 5.02),
            ("2", "160", 7.46),
            ("2", "XXS", 9.03),
            ("2-1/2", "40", 5.79),
            ("2-1/2", "80", 7.66),
            ("2-1/2", "160", 10.01),
            ("2-1/2", "XXS", 13.69),
            ("3", "40", 7.58),
            ("3", "80", 10.25),
            ("3", "160", 14.32),
            ("3", "XXS", 18.58),
            ("4", "40", 10.79),
            ("4", "80", 14.98),
            ("4", "120", 19.00),
            ("4", "160", 22.51),
            ("4", "XXS", 27.54),
            ("5", "40", 14.62),
            ("5", "80", 20.78),
            ("5", "120", 27.04),
            ("5", "160", 32.96),
            ("5", "XXS", 38.55),
            ("6", "40", 18.97),
            ("6", "80", 28.57),
            ("6", "120", 36.39),
            ("6", "160", 45.35),
            ("6", "XXS", 53.16),
            ("8", "40", 28.55),
            ("8", "60", 35.64),
            ("8", "80", 43.39),
            ("8", "120", 60.71),
            ("8", "160", 74.69),
            ("8", "XXS", 72.42),
            ("10", "40", 40.48),
            ("10", "60", 54.74),
            ("10", "80", 64.43),
            ("10", "120", 89.29),
            ("10", "160", 115.64),
            ("12", "40", 53.52),
            ("12", "60", 73.15),
            ("12", "80", 88.63),
            ("12", "120", 125.49),
            ("12", "160", 160.27),
            ("14", "40", 63.44),
            ("14", "80", 106.13),
            ("16", "40", 82.77),
            ("16", "80", 136.61),
            ("18", "40", 104.67),
            ("18", "80", 170.92),
            ("20", "40", 123.11),
            ("20", "80", 208.87),
            ("24", "40", 171.29),
            ("24", "80", 296.58),
        }.Select(one =>
        {
            var size = PipeSizes.Find(one.Nps, one.Schedule)!;
            var weight = 10.69 * (size.OutsideDiameter.Inches - size.Wall.Inches) * size.Wall.Inches;
            return new Row(
                "ASME B36.10M, plain-end weights",
                $"NPS {one.Nps} Sch {one.Schedule}",
                one.PoundsPerFoot,
                weight,
                0.006 * one.PoundsPerFoot + 0.005
            );
        });

    private static IEnumerable<Row> Geometry()
    {
        const string Worked = "Worked examples of a groove in shop units";
        SingleVGroove Groove(double t, double bevel, double gap, double face) =>
            new(Length.FromInches(t), BevelAngle.FromDegrees(bevel), BevelAngle.FromDegrees(bevel), Length.FromInches(gap), Length.FromInches(face));
        var (narrow, wide, open, pipe) = (
            Groove(0.375, 22.5, 0.25, 0),
            Groove(0.375, 30, 0.25, 0),
            Groove(0.5, 30, 5.0 / 32, 1.0 / 16),
            Groove(0.432, 37.5, 3.0 / 32, 3.0 / 32)
        );
        yield return new(Worked, "3/8 plate 45 included, face width in", 0.5607, narrow.FaceWidthMm / Inch, 5e-5);
        yield return new(Worked, "3/8 plate 45 included, area in2", 0.15200, narrow.AreaMm2 / Inch / Inch, 5e-6);
        yield return new(Worked, "3/8 plate 60 included, face width in", 0.6830, wide.FaceWidthMm / Inch, 5e-5);
        yield return new(Worked, "3/8 plate 60 included, area in2", 0.17494, wide.AreaMm2 / Inch / Inch, 5e-6);
        yield return new(Worked, "1/2 plate open root, face width mm", 16.800, open.FaceWidthMm, 5e-4);
        yield return new(Worked, "1/2 plate open root, area mm2", 121.70, open.AreaMm2, 5e-3);
        yield return new(Worked, "NPS 6 Sch 80, face width mm", 15.566, pipe.FaceWidthMm, 5e-4);
        yield return new(Worked, "NPS 6 Sch 80, area mm2", 82.77, pipe.AreaMm2, 5e-3);
        yield return new(Worked, "NPS 6 Sch 80, volume mm3", 41_836, pipe.PipeVolumeMm3(Length.FromInches(6.625)), 1);

        // The throat of an equal-leg fillet is 0.707 of its leg, and its section half the square of the leg: every handbook has it.
        foreach (var (leg, throat) in new[] { (1.0 / 4, 0.177), (5.0 / 16, 0.221), (3.0 / 8, 0.265), (1.0 / 2, 0.354) })
        {
            var fillet = JointShape.Fillet(JointForm.TeeFillet, leg * Inch);
            yield return new("AISC Manual, effective throat of a fillet", $"leg {leg}", throat, fillet.ThicknessMm / Inch, 5e-4);
            yield return new("AISC Manual, effective throat of a fillet", $"area, leg {leg}", leg * leg / 2, fillet.AreaMm2 / Inch / Inch, 1e-9);
        }

        yield return new(
            "Blodgett, Design of Welded Structures: 0.10 of the mean width",
            "3/8 plate 60 included, 1/4 gap, in",
            0.0467,
            JointShape
                .Butt(
                    Length.FromInches(0.375),
                    BevelAngle.FromDegrees(30),
                    BevelAngle.FromDegrees(30),
                    Length.FromInches(0.25),
                    Length.FromMm(0),
                    Length.FromMm(0)
                )
                .ShrinkageMm / Inch,
            5e-5
        );
    }

    private static IEnumerable<Row> Calculations()
    {
        foreach (var (thickness, plunger, strain) in new[] { (0.375, 1.5, 20.0), (0.375, 2.0, 15.8), (0.375, 2.5, 13.0) })
        {
            yield return new(
                "ASME IX QW-466, bend jigs",
                $"3/8 on {plunger}",
                strain,
                BendJig.OuterStrainPercent(Length.FromInches(thickness), Length.FromInches(plunger)),
                0.06
            );
        }

        yield return new("ASME IX QW-409.1", "24 V 200 A 250 mm/min, kJ/mm", 1.152, HeatInput.KjPerMm(24, 200, 250), 1e-9);
        yield return new(
            "EN 1011-1",
            "the same with 0.8, kJ/mm",
            0.9216,
            HeatInput.KjPerMm(24, 200, 250, TradeNumbers.Of("thermalEfficiencyArc")),
            1e-9
        );
        yield return new(
            "EN 1011-1",
            "GTAW 12 V 100 A 60 mm/min with 0.6, kJ/mm",
            0.72,
            HeatInput.KjPerMm(12, 100, 60, TradeNumbers.Of("thermalEfficiencyGtaw")),
            1e-9
        );

        double Grams(double d, double recovery) =>
            Deposit.GramsPerRod(Length.FromInches(d), Length.FromInches(14), Length.FromInches(2), recovery, TradeNumbers.Of("densitySteel"));
        yield return new("EN ISO 2401, nominal recovery", "1/8 x 14 low-hydrogen, g", 20.84, Grams(0.125, TradeNumbers.Of("recoveryBasic")), 5e-3);
        yield return new("EN ISO 2401, nominal recovery", "1/8 x 14 cellulosic, g", 17.05, Grams(0.125, TradeNumbers.Of("recoveryCellulosic")), 5e-3);
        yield return new(
            "EN ISO 2401, nominal recovery",
            "3/32 x 14 low-hydrogen, g",
            11.72,
            Grams(3.0 / 32, TradeNumbers.Of("recoveryBasic")),
            5e-3
        );

        var bore = PipeSizes.Find("6", "40")!.InsideDiameter;
        const double LitresPerCubicFoot = 28.316846592;
        yield return new(
            "AWS D10.11, volume changes",
            "NPS 6 Sch 40, 24 in, 5 changes at 20 ft3/h, min",
            6.02,
            Purge.Minutes(Purge.VolumeL(bore, Length.FromInches(24)), TradeNumbers.Of("purgeChanges"), 20 * LitresPerCubicFoot / 60),
            5e-3
        );
        yield return new(
            "Common practice",
            "0.686 in of 3/8 beads, half over half",
            3,
            BeadsAcross.Count(Length.FromInches(0.686), Length.FromInches(0.375), 0.5),
            0
        );
        yield return new("Common practice", "bore of a No. 6 cup, in", 0.375, DialIn.CupBore(6).Inches, 1e-9);
        yield return new("Common practice", "bore of a No. 8 cup, in", 0.5, DialIn.CupBore(8).Inches, 1e-9);
        yield return new("Common practice", "0.035 wire at 112.5 A, in/min", 180, DialIn.WireFeedMmPerMin("0.035", 112.5) / Inch, 1e-9);
        yield return new("Common practice", "0.045 wire at 200 A, in/min", 200, DialIn.WireFeedMmPerMin("0.045", 200) / Inch, 1e-9);
        yield return new("Common practice", "0.030 wire at 90 A, in/min", 180, DialIn.WireFeedMmPerMin("0.030", 90) / Inch, 1e-9);
        yield return new(
            "Common practice",
            "3/32 tungsten, longest stick-out, in",
            9.0 / 32,
            DialIn.TungstenStickOut(Length.FromInches(3.0 / 32)).MostMm / Inch,
            1e-9
        );

        // 0.045 in wire weighs 0.00045 lb an inch: 350 in/min are 9.45 lb/h of wire.
        yield return new(
            "AWS Welding Handbook, inches of wire in a pound",
            "0.045 in steel at 350 in/min, lb/h",
            9.45,
            Deposit.WireKgPerH(Length.FromInches(0.045), 350 * Inch, 1, 7850) / 0.45359237,
            0.1
        );

        // 3650 in of 0.035 and 2210 in of 0.045 steel wire in a pound; 1000 in of 1/16 in rod hold 1150 to 1155.
        foreach (var (diameter, inches) in new[] { (0.030, 5000.0), (0.035, 3650.0), (0.045, 2210.0), (0.0625, 1150.0) })
        {
            var pounds = Deposit.WireKgPerH(Length.FromInches(diameter), Inch, 1, 7850) / 60 / 0.45359237;
            yield return new("AWS Welding Handbook, inches of wire in a pound", $"{diameter}", inches, 1 / pounds, 0.02 * inches);
        }
    }

    private static double Limit(
        string profile,
        DiscontinuityKind kind,
        FindingMeasure measure,
        double thickness,
        double? width = null,
        Product product = Product.Pipe
    )
    {
        // The largest size that still passes, found from outside by halving: the verdict is what is tested, not the file.
        bool Passes(double size)
        {
            var finding = measure switch
            {
                FindingMeasure.DepthMm => new MeasuredFinding(kind, Stage.Cap, DepthMm: size, LengthMm: 1, WidthMm: width, FaceHeightThereMm: size),
                FindingMeasure.HeightMm => new MeasuredFinding(kind, Stage.Cap, HeightMm: size, WidthMm: width),
                FindingMeasure.LengthMm => new MeasuredFinding(kind, Stage.Cap, LengthMm: size, DepthMm: 0.1),
                _ => new MeasuredFinding(kind, Stage.Cap, DiameterMm: size, LengthMm: 0, DepthMm: 0),
            };
            return VisualJudge.Judge(AcceptanceProfiles.Shipped[profile], new InspectedJoint(product, thickness, true), [finding]).Kind
                == VerdictKind.Accept;
        }

        var (low, high) = (0.0, 100.0);
        for (var step = 0; step < 60; step++)
        {
            (low, high) = Passes((low + high) / 2) ? ((low + high) / 2, high) : (low, (low + high) / 2);
        }

        return low;
    }

    private static IEnumerable<Row> Limits()
    {
        const string D1 = "AWS D1.1, visual acceptance of the welder test";
        yield return new(D1, "undercut, in", 1.0 / 32, Limit("aws-d1.1", DiscontinuityKind.Undercut, FindingMeasure.DepthMm, 9.525) / Inch, 1e-9);
        yield return new(
            D1,
            "face reinforcement, in",
            1.0 / 8,
            Limit("aws-d1.1", DiscontinuityKind.ExcessFaceReinforcement, FindingMeasure.HeightMm, 9.525) / Inch,
            1e-9
        );
        yield return new(
            D1,
            "root concavity, in",
            1.0 / 16,
            Limit("aws-d1.1", DiscontinuityKind.RootConcavity, FindingMeasure.DepthMm, 9.525) / Inch,
            1e-9
        );
        yield return new(
            D1,
            "melt-through, in",
            1.0 / 8,
            Limit("aws-d1.1", DiscontinuityKind.ExcessPenetration, FindingMeasure.HeightMm, 9.525) / Inch,
            1e-9
        );
        yield return new(D1, "underfill", 0, Limit("aws-d1.1", DiscontinuityKind.Underfill, FindingMeasure.DepthMm, 9.525), 1e-9);
        const string Api = "API 1104, visual examination";
        yield return new(
            Api,
            "undercut in 1/2 wall, in",
            1.0 / 32,
            Limit("api-1104", DiscontinuityKind.Undercut, FindingMeasure.DepthMm, 12.7) / Inch,
            1e-9
        );
        yield return new(
            Api,
            "undercut in 0.154 wall, in: 12.5 %",
            0.01925,
            Limit("api-1104", DiscontinuityKind.Undercut, FindingMeasure.DepthMm, 0.154 * Inch) / Inch,
            1e-9
        );
        yield return new(Api, "length of undercut, in", 2, Limit("api-1104", DiscontinuityKind.Undercut, FindingMeasure.LengthMm, 12.7) / Inch, 1e-9);
        const string Iso = "ISO 5817, levels B and C as ISO 9606-1 uses them";
        yield return new(Iso, "undercut, 4 mm: 0.1 t", 0.4, Limit("iso-9606-1", DiscontinuityKind.Undercut, FindingMeasure.DepthMm, 4), 1e-9);
        yield return new(Iso, "undercut, 20 mm", 0.5, Limit("iso-9606-1", DiscontinuityKind.Undercut, FindingMeasure.DepthMm, 20), 1e-9);
        yield return new(
            Iso,
            "excess weld metal, 10 mm wide",
            2.5,
            Limit("iso-9606-1", DiscontinuityKind.ExcessFaceReinforcement, FindingMeasure.HeightMm, 10, 10),
            1e-9
        );
        yield return new(
            Iso,
            "excess weld metal, 60 mm wide",
            7,
            Limit("iso-9606-1", DiscontinuityKind.ExcessFaceReinforcement, FindingMeasure.HeightMm, 10, 60),
            1e-9
        );
        yield return new(
            Iso,
            "excess penetration, 3 mm wide",
            2.8,
            Limit("iso-9606-1", DiscontinuityKind.ExcessPenetration, FindingMeasure.HeightMm, 10, 3),
            1e-9
        );
        yield return new(
            Iso,
            "excess penetration, 10 mm wide",
            4,
            Limit("iso-9606-1", DiscontinuityKind.ExcessPenetration, FindingMeasure.HeightMm, 10, 10),
            1e-9
        );
        yield return new(
            Iso,
            "root concavity, 8 mm: 0.05 t",
            0.4,
            Limit("iso-9606-1", DiscontinuityKind.RootConcavity, FindingMeasure.DepthMm, 8),
            1e-9
        );
        yield return new(Iso, "root concavity, 30 mm", 0.5, Limit("iso-9606-1", DiscontinuityKind.RootConcavity, FindingMeasure.DepthMm, 30), 1e-9);
        yield return new(
            Iso,
            "misalignment, 10 mm plate",
            1,
            Limit("iso-9606-1", DiscontinuityKind.Misalignment, FindingMeasure.HeightMm, 10, product: Product.Plate),
            1e-9
        );
        yield return new(
            Iso,
            "misalignment, 50 mm plate",
            3,
            Limit("iso-9606-1", DiscontinuityKind.Misalignment, FindingMeasure.HeightMm, 50, product: Product.Plate),
            1e-9
        );

        (string Name, string Number)[] numbers =
        [
            ("crack", "100"),
            ("craterCrack", "104"),
            ("porosity", "2011"),
            ("wormholes", "2016"),
            ("slagInclusion", "301"),
            ("tungstenInclusion", "3041"),
            ("incompleteFusion", "401"),
            ("incompleteJointPenetration", "402"),
            ("undercut", "501"),
            ("excessFaceReinforcement", "502"),
            ("excessPenetration", "504"),
            ("overlap", "506"),
            ("misalignment", "507"),
            ("burnThrough", "510"),
            ("oxidisedRoot", "516"),
            ("underfill", "511"),
            ("rootConcavity", "515"),
            ("poorRestart", "517"),
            ("arcStrike", "601"),
            ("spatter", "602"),
        ];
        foreach (var (name, number) in numbers)
        {
            var found = Discontinuities.Of(Enum.Parse<DiscontinuityKind>(name, ignoreCase: true)).Iso6520;
            yield return new("ISO 6520-1, reference numbers", name, double.Parse(number), double.Parse(found!), 0);
        }
    }

    private static IEnumerable<Row> Qualified()
    {
        static PassedTest Plate(double inches, int layers = 5) =>
            new(Product.Plate, WeldKind.Groove, "3G", inches * Inch, null, true, "SMAW", 4, Progression.Uphill, layers);
        static PassedTest Pipe(double od, double wall) =>
            new(Product.Pipe, WeldKind.Groove, "6G", wall * Inch, od * Inch, false, "SMAW", 4, Progression.Uphill, 5);
        double Max(string code, PassedTest test) => (Gradus.Core.Qualification.Ranges.Thickness(code, test).Max ?? double.PositiveInfinity) / Inch;
        yield return new("AWS D1.1, range of thickness qualified", "3/8 plate, most in", 0.75, Max("aws-d1.1", Plate(0.375)), 1e-9);
        yield return new(
            "AWS D1.1, range of thickness qualified",
            "3/8 plate, least in",
            0.125,
            Gradus.Core.Qualification.Ranges.Thickness("aws-d1.1", Plate(0.375)).Min / Inch,
            1e-9
        );
        yield return new(
            "AWS D1.1, range of thickness qualified",
            "1 in plate is unlimited",
            1,
            double.IsPositiveInfinity(Max("aws-d1.1", Plate(1))) ? 1 : 0,
            0
        );
        yield return new("AWS D1.1, range of thickness qualified", "NPS 2 Sch 80, most in", 0.75, Max("aws-d1.1", Pipe(2.375, 0.218)), 1e-9);
        yield return new(
            "AWS D1.1, range of thickness qualified",
            "NPS 8 Sch 80, least in",
            3.0 / 16,
            Gradus.Core.Qualification.Ranges.Thickness("aws-d1.1", Pipe(8.625, 0.5)).Min / Inch,
            1e-9
        );
        yield return new("ASME IX QW-452.1(b)", "3/8 deposit, most in", 0.75, Max("asme-ix", Plate(0.375)), 1e-9);
        yield return new(
            "ASME IX QW-452.1(b)",
            "1/2 in three layers is unlimited",
            1,
            double.IsPositiveInfinity(Max("asme-ix", Plate(0.5, 3))) ? 1 : 0,
            0
        );
        yield return new("ASME IX QW-452.1(b)", "1/2 in two layers, most in", 1, Max("asme-ix", Plate(0.5, 2)), 1e-9);
        double Least(string code, double od) => Gradus.Core.Qualification.Ranges.Diameter(code, Pipe(od, od / 12)).Min / Inch;
        yield return new("ASME IX QW-452.3", "NPS 1/2, least in", 0.84, Least("asme-ix", 0.84), 1e-9);
        yield return new("ASME IX QW-452.3", "NPS 2, least in", 1, Least("asme-ix", 2.375), 1e-9);
        yield return new("ASME IX QW-452.3", "NPS 6, least in", 2.875, Least("asme-ix", 6.625), 0.001); // printed as 73 mm as well
        yield return new("ISO 9606-1, diameter", "60.3 mm, least mm", 30.15, Least("iso-9606-1", 60.3 / Inch) * Inch, 1e-6);
        yield return new("ISO 9606-1, diameter", "33.7 mm, least mm", 25, Least("iso-9606-1", 33.7 / Inch) * Inch, 1e-6);
        yield return new("ISO 9606-1, thickness", "5 mm, most mm", 10, Max("iso-9606-1", Plate(5 / Inch)) * Inch, 1e-6);
        yield return new("ISO 9606-1, thickness", "1.2 mm, most mm", 3, Max("iso-9606-1", Plate(1.2 / Inch)) * Inch, 1e-6);
        yield return new("ISO 9606-1, thickness", "12 mm is unlimited", 1, double.IsPositiveInfinity(Max("iso-9606-1", Plate(12 / Inch))) ? 1 : 0, 0);

        foreach (var (code, renewals) in new[] { ("aws-d1.1", 0), ("asme-ix", 0), ("iso-9606-1", 2) })
        {
            var rules = Gradus.Core.Qualification.Ranges.ByCode[code].Continuity;
            yield return new("AWS D1.1, ASME IX QW-322.1, ISO 9606-1: six months", code, 6, rules.Months, 0);
            yield return new(
                "AWS D1.1, ASME IX QW-322.1, ISO 9606-1: six months",
                $"{code}, routes of renewal",
                renewals,
                rules.RenewalYears.Count,
                0
            );
        }
    }

    private static IEnumerable<Row> Shades()
    {
        foreach (
            var (process, amps, least, suggested) in new[]
            {
                (Process.Smaw, 100.0, 8, 10),
                (Process.Smaw, 200.0, 10, 12),
                (Process.Smaw, 300.0, 11, 14),
                (Process.Gtaw, 40.0, 8, 10),
                (Process.Gtaw, 100.0, 8, 12),
                (Process.Gtaw, 200.0, 10, 14),
                (Process.Gmaw, 120.0, 10, 11),
                (Process.FcawG, 200.0, 10, 12),
                (Process.FcawS, 200.0, 10, 12),
            }
        )
        {
            var shade = Cautions.Shade(process, amps)!;
            yield return new("ANSI Z49.1, shade numbers", $"{process} {amps} A, least", least, shade.Least, 0);
            yield return new("ANSI Z49.1, shade numbers", $"{process} {amps} A, suggested", suggested, shade.Suggested ?? 0, 0);
        }

        yield return new("OSHA 29 CFR 1910.146", "oxygen floor, %", 19.5, TradeNumbers.Of("oxygenFloorPercent"), 0);
    }
}
