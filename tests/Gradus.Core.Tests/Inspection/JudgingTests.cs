using System.Collections.Concurrent;
using CsCheck;
using Gradus.Core.Inspection;

namespace Gradus.Core.Tests.Inspection;

/// <summary>
/// What each code makes of each kind by eye, and every limit of every shipped profile at its end and just over it. All of it is from memory: each
/// row names its clause and how sure it is. Where memories or editions differ, the stricter limit stands.
/// </summary>
public sealed class JudgingTests
{
    private const double Inch = 25.4;
    private const double Over = 0.02;
    private const string D1 = "aws-d1.1";
    private const string Ix = "asme-ix";
    private const string Api = "api-1104";
    private const string Iso = "iso-9606-1";

    /*
     * 0 none allowed; # a number; x the code truly sets none by eye; ? something else decides; H inside, so no eye decides.
     * AWS D1.1 4.9.1 (2015), 6.10.1 (2020); ASME IX QW-194; API 1104 6.4; ISO 5817 B and C. None 95 %, x 88 %, stricter readings 70 %.
     */
    private const string ByEye = """
        kind                       stage groove fillet ix api iso
        crack                      cap   0      0      0  0   0
        craterCrack                cap   0      0      0  0   0
        porosity                   cap   0      ?      x  ?   0
        wormholes                  cap   0      ?      x  ?   0
        porosity                   fill  H      H      H  H   H
        wormholes                  fill  H      H      H  H   H
        slagInclusion              cap   H      H      H  H   H
        tungstenInclusion          root  H      H      H  H   H
        incompleteFusion           fill  H      H      H  H   H
        incompleteFusion           root  0      0      0  0   0
        incompleteFusion           cap   0      0      0  0   0
        incompleteJointPenetration root  0      ?      0  0   0
        undercut                   cap   #      #      x  #   #
        excessFaceReinforcement    cap   #      #      x  w   #
        excessPenetration          root  #      ?      x  x   #
        overlap                    cap   0      0      0  ?   0
        burnThrough                root  0      0      0  0   0
        underfill                  cap   #      0      x  0   #
        rootConcavity              root  #      ?      x  x   #
        poorRestart                cap   #      #      x  ?   0
        misalignment               root  x      x      x  x   #
        spatter                    cap   x      x      x  x   ?
        arcStrike                  cap   x      x      x  x   0
        oxidisedRoot               root  ?      ?      x  ?   0
        unmeltedWire               root  0      ?      0  ?   ?
        grindGouge                 cap   ?      ?      x  ?   ?
        """;

    public static TheoryData<DiscontinuityKind, Stage, string, string> Kinds
    {
        get
        {
            var data = new TheoryData<DiscontinuityKind, Stage, string, string>();
            string[] columns = ["groove", "fillet", Ix, Api, Iso];
            foreach (var line in ByEye.Split('\n').Skip(1))
            {
                var cells = line.Split(' ', StringSplitOptions.RemoveEmptyEntries);
                for (var column = 0; column < columns.Length; column++)
                {
                    data.Add(Enum.Parse<DiscontinuityKind>(cells[0], true), Enum.Parse<Stage>(cells[1], true), columns[column], cells[column + 2]);
                }
            }

            return data;
        }
    }

    [Theory]
    [MemberData(nameof(Kinds))]
    public void A_kind_by_eye_is_what_the_code_makes_of_it(DiscontinuityKind kind, Stage stage, string code, string cell)
    {
        var weld = code == "fillet" ? WeldKind.Fillet : WeldKind.Groove;
        Verdict Of(double mm) =>
            VisualJudge.Judge(
                AcceptanceProfiles.Shipped[code is "groove" or "fillet" ? D1 : code],
                new InspectedJoint(Product.Plate, 10, true, weld, 150),
                [new(kind, stage, mm, mm, mm, mm, 10, 1, FaceHeightThereMm: mm)]
            );
        var large = Of(20);
        switch (cell)
        {
            case "0":
                Assert.Equal(VerdictKind.Reject, Of(0.01).Kind);
                break;
            case "#":
                Assert.Equal((VerdictKind.Accept, VerdictKind.Reject), (Of(0).Kind, large.Kind));
                Assert.All(large.Reasons, reason => Assert.NotNull(reason.Limit));
                break;
            case "x":
                Assert.Equal((VerdictKind.Accept, true), (large.Kind, large.Passed.Single().NoLimit));
                break;
            case "w":
                Assert.Equal((VerdictKind.Accept, true), (large.Kind, large.Passed.Single().Warns));
                break;
            default:
                Assert.Equal((VerdictKind.CannotJudge, cell == "H"), (large.Kind, large.Reasons.Single().Inside));
                Assert.NotEqual("", large.Reasons.Single().Rule);
                break;
        }
    }

    [Fact]
    public void Every_kind_is_in_the_table_and_in_every_profile_that_judges()
    {
        var named = Kinds.Select(row => row.Data.Item1).Distinct().ToList();
        Assert.Equal(Enum.GetValues<DiscontinuityKind>().Order(), named.Order());
        foreach (var profile in AcceptanceProfiles.Shipped.Values.Where(one => one.LimitsEntered))
        {
            Assert.Equal(named.Order(), profile.Visual.SelectMany(rule => rule.Kinds).Distinct().Order());
            Assert.All(profile.Visual, rule => Assert.InRange(rule.Confidence ?? 0, 50, 100));
        }
    }

    /// <summary>A kind that a school's own profile does not name is never accepted.</summary>
    [Fact]
    public void A_kind_absent_from_a_profile_is_not_judged()
    {
        var bare = AcceptanceProfiles.Shipped[D1] with { Visual = [AcceptanceProfiles.Shipped[D1].Visual[0]] };
        var verdict = VisualJudge.Judge(bare, new InspectedJoint(Product.Plate, 10, true), [new(DiscontinuityKind.Undercut, DepthMm: 0.1)]);
        Assert.Equal((VerdictKind.CannotJudge, false), (verdict.Kind, verdict.Reasons.Single().Inside));
    }

    private sealed record Fact(string Clause, int Sure, string What, VerdictKind Want, Func<VerdictKind> Of);

    private static readonly List<Fact> Table = [.. Eye(), .. Fillets(), .. Bends(), .. Breaks(), .. Films()];

    public static TheoryData<int> Facts => [.. Enumerable.Range(0, Table.Count)];

    [Theory]
    [MemberData(nameof(Facts))]
    public void A_limit_is_what_its_clause_has(int index)
    {
        var one = Table[index];
        var found = one.Of();
        Assert.True(one.Want == found, $"{one.Clause} ({one.Sure} %), {one.What}: {found}, not {one.Want}.");
    }

    private static IEnumerable<Fact> Pair(string clause, int sure, string what, double limit, Func<double, VerdictKind> of) =>
        [
            new(clause, sure, $"{what}: {limit}", VerdictKind.Accept, () => of(limit)),
            new(clause, sure, $"{what}: over {limit}", VerdictKind.Reject, () => of(limit + Over)),
        ];

    private static VerdictKind See(string code, InspectedJoint joint, params MeasuredFinding[] found)
    {
        var verdict = VisualJudge.Judge(AcceptanceProfiles.Shipped[code], joint, found);
        foreach (var reason in verdict.Reasons)
        {
            Decided[(code, reason.Rule)] = true;
        }

        return verdict.Kind;
    }

    private static readonly InspectedJoint Leg = new(Product.Plate, 12.7, false, WeldKind.Fillet, 203.2);

    private static InspectedJoint Groove(double thickness = 10, double? length = 150, Product product = Product.Plate, bool open = true) =>
        new(product, thickness, open, WeldKind.Groove, length);

    private static List<Fact> Eye()
    {
        const string Aws = "AWS D1.1 4.9.1 / 6.10.1";
        return
        [
            .. Pair(
                "AWS D1.1 5.23 / 7.23",
                92,
                "convexity found on a fillet, face 3/8",
                Inch / 8,
                mm => See(D1, Leg, new MeasuredFinding(DiscontinuityKind.ExcessFaceReinforcement, HeightMm: mm, WidthMm: 9.5))
            ),
            .. Pair(
                "AWS D1.1 4.9.1 / 6.10.1",
                80,
                "restart by its height",
                Inch / 8,
                mm => See(D1, Groove(), new MeasuredFinding(DiscontinuityKind.PoorRestart, HeightMm: mm))
            ),
            .. Pair(
                "AWS D1.1 5.23 / 7.23",
                80,
                "restart on a fillet, narrow",
                Inch / 16,
                mm => See(D1, Leg, new MeasuredFinding(DiscontinuityKind.PoorRestart, HeightMm: mm, WidthMm: 7))
            ),
            .. Pair(
                "ISO 5817 501 C",
                92,
                "undercut, T 3",
                0.3,
                mm => See(Iso, Groove(3), new MeasuredFinding(DiscontinuityKind.Undercut, DepthMm: mm, LengthMm: 10))
            ),
            .. Pair(
                "ISO 5817 503 C",
                92,
                "convexity found on a fillet, b 10",
                2.5,
                mm => See(Iso, Leg, new MeasuredFinding(DiscontinuityKind.ExcessFaceReinforcement, HeightMm: mm, WidthMm: 10))
            ),
            .. Pair(
                "ISO 5817 511 B",
                92,
                "underfill, short",
                25,
                mm => See(Iso, Groove(20), new MeasuredFinding(DiscontinuityKind.Underfill, DepthMm: 0.3, LengthMm: mm))
            ),
            .. Pair(
                "ISO 5817 507 B",
                92,
                "offset of sheet, T 2",
                0.4,
                mm => See(Iso, Groove(2), new MeasuredFinding(DiscontinuityKind.Misalignment, HeightMm: mm))
            ),
            .. Pair(
                Aws,
                95,
                "reinforcement",
                Inch / 8,
                mm => See(D1, Groove(), new MeasuredFinding(DiscontinuityKind.ExcessFaceReinforcement, HeightMm: mm))
            ),
            .. Pair(
                Aws,
                95,
                "undercut at any length",
                Inch / 32,
                mm => See(D1, Groove(), new MeasuredFinding(DiscontinuityKind.Undercut, DepthMm: mm, LengthMm: 500))
            ),
            .. Pair(
                Aws,
                95,
                "melt-through",
                Inch / 8,
                mm => See(D1, Groove(), new MeasuredFinding(DiscontinuityKind.ExcessPenetration, HeightMm: mm))
            ),
            .. Pair(
                Aws,
                95,
                "concavity, face high enough",
                Inch / 16,
                mm => See(D1, Groove(), new MeasuredFinding(DiscontinuityKind.RootConcavity, DepthMm: mm, FaceHeightThereMm: 3))
            ),
            new(
                Aws,
                92,
                "concavity, thickness not kept",
                VerdictKind.Reject,
                () => See(D1, Groove(), new MeasuredFinding(DiscontinuityKind.RootConcavity, DepthMm: 1, FaceHeightThereMm: 0.9))
            ),
            new(
                Aws,
                92,
                "concavity, face not measured",
                VerdictKind.CannotJudge,
                () => See(D1, Groove(), new MeasuredFinding(DiscontinuityKind.RootConcavity, DepthMm: 1))
            ),
            new(Aws, 95, "below flush", VerdictKind.Reject, () => See(D1, Groove(), new MeasuredFinding(DiscontinuityKind.Underfill, DepthMm: 0.1))),
            new(
                Aws,
                92,
                "pore on a coupon that is broken",
                VerdictKind.Reject,
                () =>
                    See(
                        D1,
                        new InspectedJoint(Product.Plate, 12.7, false, WeldKind.Fillet, 203, true),
                        new MeasuredFinding(DiscontinuityKind.Porosity, Stage.Cap, DiameterMm: 0.5)
                    )
            ),
            .. Pair(
                "API 1104 6.4",
                93,
                "undercut in thick wall",
                Inch / 32,
                mm => See(Api, Groove(12.7, 1000, Product.Pipe), new MeasuredFinding(DiscontinuityKind.Undercut, DepthMm: mm, LengthMm: 10))
            ),
            .. Pair(
                "API 1104 6.4",
                93,
                "undercut, 12.5 % of 4.8",
                0.6,
                mm => See(Api, Groove(4.8, 1000, Product.Pipe), new MeasuredFinding(DiscontinuityKind.Undercut, DepthMm: mm, LengthMm: 10))
            ),
            .. Pair("API 1104 6.4", 93, "undercut in one, 2 in of 12", 50.8, mm => See(Api, Groove(12.7, 1000, Product.Pipe), Cut(100, mm))),
            .. Pair(
                "API 1104 6.4",
                93,
                "undercut in two within 12 in",
                25.8,
                mm => See(Api, Groove(12.7, 1000, Product.Pipe), Cut(100, 25), Cut(300, mm))
            ),
            new(
                "API 1104 6.4",
                93,
                "undercut in two 12 in apart",
                VerdictKind.Accept,
                () => See(Api, Groove(12.7, 1000, Product.Pipe), Cut(0, 40), Cut(350, 40))
            ),
            new(
                "API 1104 6.4",
                93,
                "undercut over twelve o'clock",
                VerdictKind.Reject,
                () => See(Api, Groove(12.7, 1000, Product.Pipe), Cut(20, 40), Cut(950, 40))
            ),
            new(
                "API 1104 6.4",
                93,
                "undercut without a place, 2 in in all",
                VerdictKind.Accept,
                () => See(Api, Groove(12.7, 1000, Product.Pipe), Cut(null, 25), Cut(null, 25))
            ),
            new(
                "API 1104 6.4",
                93,
                "undercut without a place, over 2 in in all",
                VerdictKind.CannotJudge,
                () => See(Api, Groove(12.7, 1000, Product.Pipe), Cut(null, 30), Cut(null, 30))
            ),
            .. Pair("API 1104 9.7", 75, "undercut, a sixth of a short weld", 30, mm => See(Api, Groove(12.7, 180, Product.Pipe), Cut(10, mm))),
            new(
                "API 1104 9.7",
                75,
                "shallow undercut over a sixth",
                VerdictKind.Accept,
                () => See(Api, Groove(12.7, 180, Product.Pipe), Cut(10, 45) with { DepthMm = 0.35 })
            ),
            .. Pair(
                "ISO 5817 501 C",
                92,
                "undercut, T 4",
                0.4,
                mm => See(Iso, Groove(4), new MeasuredFinding(DiscontinuityKind.Undercut, DepthMm: mm))
            ),
            .. Pair(
                "ISO 5817 501 C",
                92,
                "undercut, T 20",
                0.5,
                mm => See(Iso, Groove(20), new MeasuredFinding(DiscontinuityKind.Undercut, DepthMm: mm))
            ),
            .. Pair(
                "ISO 5817 501 C",
                92,
                "undercut, T 3, short",
                25,
                mm => See(Iso, Groove(3), new MeasuredFinding(DiscontinuityKind.Undercut, DepthMm: 0.2, LengthMm: mm))
            ),
            .. Pair(
                "ISO 5817, short",
                92,
                "a quarter of a weld under 100 mm",
                20,
                mm => See(Iso, Groove(3, 80), new MeasuredFinding(DiscontinuityKind.Undercut, DepthMm: 0.2, LengthMm: mm))
            ),
            new(
                "ISO 5817, short",
                92,
                "no length",
                VerdictKind.CannotJudge,
                () => See(Iso, Groove(), new MeasuredFinding(DiscontinuityKind.RootConcavity, DepthMm: 0.3))
            ),
            new("ISO 5817, short", 92, "two within 100 mm", VerdictKind.Reject, () => See(Iso, Groove(), Suck(10, 15), Suck(60, 15))),
            new("ISO 5817, short", 92, "two 100 mm apart", VerdictKind.Accept, () => See(Iso, Groove(), Suck(0, 15), Suck(120, 15))),
            .. Pair("ISO 5817 515 B", 92, "concavity, T 8", 0.4, mm => See(Iso, Groove(8), Suck(10, 15) with { DepthMm = mm })),
            .. Pair(
                "ISO 5817 511 B",
                92,
                "underfill, T 20",
                0.5,
                mm => See(Iso, Groove(20), new MeasuredFinding(DiscontinuityKind.Underfill, DepthMm: mm, LengthMm: 10))
            ),
            .. Pair(
                "ISO 5817 502 C",
                92,
                "weld metal, b 10",
                2.5,
                mm => See(Iso, Groove(), new MeasuredFinding(DiscontinuityKind.ExcessFaceReinforcement, HeightMm: mm, WidthMm: 10))
            ),
            .. Pair(
                "ISO 5817 504 C",
                92,
                "penetration, b 3",
                2.8,
                mm => See(Iso, Groove(), new MeasuredFinding(DiscontinuityKind.ExcessPenetration, HeightMm: mm, WidthMm: 3))
            ),
            .. Pair(
                "ISO 5817 504 C",
                92,
                "penetration, T 3, b 3",
                1.9,
                mm => See(Iso, Groove(3), new MeasuredFinding(DiscontinuityKind.ExcessPenetration, HeightMm: mm, WidthMm: 3))
            ),
            .. Pair(
                "ISO 5817 507 B",
                92,
                "offset of plate, T 10",
                1,
                mm => See(Iso, Groove(), new MeasuredFinding(DiscontinuityKind.Misalignment, HeightMm: mm))
            ),
            .. Pair(
                "ISO 5817 507 B",
                92,
                "offset of pipe, T 10",
                2,
                mm => See(Iso, Groove(product: Product.Pipe), new MeasuredFinding(DiscontinuityKind.Misalignment, HeightMm: mm))
            ),
            .. Pair(
                "AWS D1.6, as D1.1",
                62,
                "undercut",
                Inch / 32,
                mm => See("aws-d1.6", Groove(), new MeasuredFinding(DiscontinuityKind.Undercut, DepthMm: mm))
            ),
        ];

        static MeasuredFinding Cut(double? at, double mm) => new(DiscontinuityKind.Undercut, Stage.Cap, DepthMm: 0.5, LengthMm: mm, AtMm: at);
        static MeasuredFinding Suck(double at, double mm) => new(DiscontinuityKind.RootConcavity, Stage.Root, DepthMm: 0.3, LengthMm: mm, AtMm: at);
    }

    private static VerdictKind Fillet(string code, FilletMeasures measured) =>
        VisualJudge
            .Judge(AcceptanceProfiles.Shipped[code], new InspectedJoint(Product.Plate, 12.7, false, WeldKind.Fillet, 200), [], [measured])
            .Kind;

    private static IEnumerable<Fact> Fillets()
    {
        const string Aws = "AWS D1.1 4.9.1 / 6.10.1, weld profiles";
        return
        [
            new(Aws, 95, "legs as asked", VerdictKind.Accept, () => Fillet(D1, new FilletMeasures(8, 8, 11))),
            new(Aws, 95, "one leg short", VerdictKind.Reject, () => Fillet(D1, new FilletMeasures(8, 7.9, 8.5))),
            new(Aws, 95, "a leg not measured", VerdictKind.CannotJudge, () => Fillet(D1, new FilletMeasures(8, 8))),
            new(Aws, 92, "throat under 0.707 of the leg", VerdictKind.Reject, () => Fillet(D1, new FilletMeasures(8, 8, 8, ThroatMm: 5.6))),
            new(Aws, 92, "throat of 0.707 of the leg", VerdictKind.Accept, () => Fillet(D1, new FilletMeasures(8, 8, 8, ThroatMm: 5.66))),
            .. Pair(Aws, 92, "convexity, face 5/16", Inch / 16, mm => Fillet(D1, new FilletMeasures(FaceWidthMm: Inch * 5 / 16, ConvexityMm: mm))),
            .. Pair(Aws, 92, "convexity, face 1/2", Inch / 8, mm => Fillet(D1, new FilletMeasures(FaceWidthMm: Inch / 2, ConvexityMm: mm))),
            .. Pair(Aws, 92, "convexity, face 1", Inch * 3 / 16, mm => Fillet(D1, new FilletMeasures(FaceWidthMm: Inch, ConvexityMm: mm))),
            new(Aws, 92, "convexity, width not measured", VerdictKind.CannotJudge, () => Fillet(D1, new FilletMeasures(ConvexityMm: 2))),
            new("ASME IX QW-194", 90, "a short leg by eye", VerdictKind.Accept, () => Fillet(Ix, new FilletMeasures(8, 5, 9))),
            new("API 1104", 88, "a fillet by eye", VerdictKind.CannotJudge, () => Fillet(Api, new FilletMeasures(8, 5, 9))),
            .. Pair("ISO 5817 512 B", 91, "legs, a 5", 2.25, mm => Fillet(Iso, new FilletMeasures(null, 7, 7 + mm, 5, 5.2))),
            new("ISO 5817 512 B", 91, "legs far apart, throat not known", VerdictKind.CannotJudge, () => Fillet(Iso, new FilletMeasures(null, 7, 9))),
            new("ISO 5817 5213 B", 92, "throat short", VerdictKind.Reject, () => Fillet(Iso, new FilletMeasures(ThroatAskedMm: 5, ThroatMm: 4.9))),
            .. Pair("ISO 5817 5214 C", 92, "throat over, a 5", 7, mm => Fillet(Iso, new FilletMeasures(ThroatAskedMm: 5, ThroatMm: mm))),
            .. Pair("ISO 5817 503 C", 92, "convexity, b 10", 2.5, mm => Fillet(Iso, new FilletMeasures(FaceWidthMm: 10, ConvexityMm: mm))),
        ];
    }

    private static VerdictKind Bend(string code, double? wall, params (double Size, bool Corner, bool Fault)[] found) =>
        BendJudge
            .Judge(
                AcceptanceProfiles.Shipped[code],
                [new BendSpecimen(wall, [.. found.Select(one => new BendDiscontinuity(one.Size, one.Corner, one.Fault))])]
            )
            .Kind;

    private static IEnumerable<Fact> Bends()
    {
        const string Aws = "AWS D1.1 4.9.3.3 / 6.10.3.3";
        return
        [
            .. Pair(Aws, 95, "one", Inch / 8, mm => Bend(D1, null, (mm, false, false))),
            .. Pair(Aws, 95, "sum of those over 1/32", 3.175, mm => Bend(D1, null, (3.175, false, false), (3.175, false, false), (mm, false, false))),
            new(
                Aws,
                95,
                "a fourth of 1/32 is not summed",
                VerdictKind.Accept,
                () => Bend(D1, null, (3.175, false, false), (3.175, false, false), (3.175, false, false), (Inch / 32, false, false))
            ),
            new(Aws, 95, "corner to 1/4", VerdictKind.Accept, () => Bend(D1, null, (Inch / 4, true, false))),
            new(Aws, 91, "corner over 1/4 without a fault: void", VerdictKind.CannotJudge, () => Bend(D1, null, (6.5, true, false))),
            .. Pair(Aws, 95, "corner with slag", Inch / 8, mm => Bend(D1, null, (mm, true, true))),
            .. Pair("ASME IX QW-163", 95, "one", Inch / 8, mm => Bend(Ix, null, (mm, false, false))),
            new("ASME IX QW-163", 95, "no sum", VerdictKind.Accept, () => Bend(Ix, null, [.. Enumerable.Repeat((3.1, false, false), 6)])),
            new("ASME IX QW-163", 95, "corner", VerdictKind.Accept, () => Bend(Ix, null, (20, true, false))),
            .. Pair("ASME IX QW-163", 95, "corner with a fault", Inch / 8, mm => Bend(Ix, null, (mm, true, true))),
            .. Pair("API 1104 6.5", 92, "half a wall of 5 mm", 2.5, mm => Bend(Api, 5, (mm, false, false))),
            .. Pair("API 1104 6.5", 92, "corner with a fault, half a wall of 5 mm", 2.5, mm => Bend(Api, 5, (mm, true, true))),
            .. Pair("API 1104 6.5", 92, "one, thick wall", Inch / 8, mm => Bend(Api, 12, (mm, false, false))),
            new("API 1104 6.5", 92, "corner under 1/4", VerdictKind.Accept, () => Bend(Api, 12, (6.3, true, false))),
            new("API 1104 6.5", 92, "corner of 1/4", VerdictKind.Reject, () => Bend(Api, 12, (6.35, true, false))),
            new("API 1104 6.5", 92, "wall not known", VerdictKind.CannotJudge, () => Bend(Api, null, (2, false, false))),
            new("ISO 9606-1", 88, "under 3 mm", VerdictKind.Accept, () => Bend(Iso, null, (2.99, false, false))),
            new("ISO 9606-1", 88, "3 mm", VerdictKind.Reject, () => Bend(Iso, null, (3, false, false))),
            new("ISO 9606-1", 88, "five of 2 mm", VerdictKind.Accept, () => Bend(Iso, null, [.. Enumerable.Repeat((2.0, false, false), 5)])),
            new(
                "ISO 9606-1",
                88,
                "ten of 1 mm and one more",
                VerdictKind.Reject,
                () => Bend(Iso, null, [.. Enumerable.Repeat((1.0, false, false), 11)])
            ),
            new("ISO 9606-1", 88, "many under 1 mm", VerdictKind.Accept, () => Bend(Iso, null, [.. Enumerable.Repeat((0.9, false, false), 20)])),
            new("ISO 9606-1", 90, "edge", VerdictKind.Accept, () => Bend(Iso, null, (8, true, false))),
            new("ISO 9606-1", 90, "edge with a fault", VerdictKind.Reject, () => Bend(Iso, null, (3, true, true))),
        ];
    }

    private static VerdictKind Break(string code, FilletBreakSpecimen one) =>
        BreakAndMacroJudge.FilletBreak(AcceptanceProfiles.Shipped[code], [one]).Kind;

    private static VerdictKind Etch(string code, params MacroSpecimen[] cut) =>
        BreakAndMacroJudge.Macro(AcceptanceProfiles.Shipped[code], cut, all: true).Kind;

    private static IEnumerable<Fact> Breaks()
    {
        const string Aws = "AWS D1.1 4.9.4 / 6.10.4";
        var flat = new FilletBreakSpecimen(true, null, null, []);
        var sound = new FilletBreakSpecimen(false, true, false, []);
        var section = new MacroSpecimen(true, false, true, 0, 8, 8, 8, 10, 0.5, 0, 0);
        return
        [
            new(Aws, 92, "bent flat", VerdictKind.Accept, () => Break(D1, flat)),
            .. Pair(Aws, 92, "one", Inch * 3 / 32, mm => Break(D1, sound with { InclusionsMm = [mm] })),
            .. Pair(Aws, 92, "sum, without a floor", 0.525, mm => Break(D1, sound with { InclusionsMm = [2, 2, 2, 2, 1, mm], LengthMm = 152.4 })),
            .. Pair(Aws, 92, "sum of a specimen of 3 in", 0.7625, mm => Break(D1, sound with { InclusionsMm = [2, 2, mm], LengthMm = 76.2 })),
            new("ASME IX QW-182", 92, "bent flat", VerdictKind.Accept, () => Break(Ix, flat)),
            .. Pair("ASME IX QW-182", 92, "sum", 9.525, mm => Break(Ix, sound with { InclusionsMm = [mm] })),
            .. Pair(
                "ASME IX QW-182",
                82,
                "a tenth of a quarter of pipe",
                4,
                mm => Break(Ix, sound with { InclusionsMm = [mm], LengthMm = 40, Pipe = true })
            ),
            new("ISO 9017", 82, "bent flat", VerdictKind.CannotJudge, () => Break(Iso, flat)),
            .. Pair(
                "ISO 5817 301 B",
                82,
                "a fifth of a throat of 5",
                1,
                mm => Break(Iso, sound with { InclusionsMm = [mm], ThroatMm = 5, PorePercent = 0.5 })
            ),
            new(
                "ISO 5817 2011 B",
                82,
                "pores over 1 %",
                VerdictKind.Reject,
                () => Break(Iso, sound with { InclusionsMm = [0.5], ThroatMm = 5, PorePercent = 1.5 })
            ),
            new(
                "ISO 5817 2011 B",
                82,
                "throat not known",
                VerdictKind.CannotJudge,
                () => Break(Iso, sound with { InclusionsMm = [0.5], PorePercent = 0.5 })
            ),
            .. Pair("ASME IX QW-184", 92, "root line", Inch / 32, mm => Etch(Ix, section with { RootIndicationMm = mm })),
            .. Pair("ASME IX QW-184", 92, "convexity", Inch / 16, mm => Etch(Ix, section with { ConvexityMm = mm })),
            .. Pair("ASME IX QW-184", 92, "legs", Inch / 8, mm => Etch(Ix, section with { LegAMm = 5, LegBMm = 5 + mm })),
            new("AWS D1.1 4.9.2 / 6.10.2", 92, "leg short", VerdictKind.Reject, () => Etch(D1, section with { LegAMm = 7.5 })),
            new("AWS D1.1 4.9.2 / 6.10.2", 92, "root line", VerdictKind.Reject, () => Etch(D1, section with { RootIndicationMm = 0.3 })),
            .. Pair("AWS D1.1 4.9.2 / 6.10.2", 92, "undercut", Inch / 32, mm => Etch(D1, section with { UndercutMm = mm })),
            new("ISO 17639", 82, "one section", VerdictKind.CannotJudge, () => Etch(Iso, section with { ThicknessMm = 10 })),
            new(
                "ISO 17639",
                82,
                "two sections",
                VerdictKind.Accept,
                () => Etch(Iso, section with { ThicknessMm = 10 }, section with { ThicknessMm = 10 })
            ),
            .. Pair(
                "ISO 5817 501 C",
                82,
                "undercut of a section, T 4",
                0.4,
                mm => Etch(Iso, section with { ThicknessMm = 4, UndercutMm = mm }, section with { ThicknessMm = 4 })
            ),
            .. Pair(
                "ISO 5817 512 B",
                82,
                "legs of a section, a 4",
                2.1,
                mm => Etch(Iso, section with { ThicknessMm = 10, ThroatMm = 4, LegBMm = 8 + mm }, section with { ThicknessMm = 10 })
            ),
        ];
    }

    // Which rule of which code has decided a fact, so that none stands unchecked.
    private static readonly ConcurrentDictionary<(string Code, string Rule), bool> Decided = [];

    private static VerdictKind Film(string code, FilmedWeld weld, params Indication[] seen)
    {
        var verdict = RadiographJudge.Judge(AcceptanceProfiles.Shipped[code], weld, seen);
        foreach (var reason in verdict.Reasons)
        {
            Decided[(code, reason.Rule)] = true;
        }

        return verdict.Kind;
    }

    private static Indication Slag(double mm, double? at = 50, double? width = 1) => new(IndicationKind.ElongatedSlag, mm, at, width);

    private static IEnumerable<Fact> Films()
    {
        const string Qw = "ASME IX QW-191.1.2";
        const string Aws = "AWS D1.1 4.9.3.2 / 6.10.3.2";
        const string Line = "API 1104 9.3";
        var plate = new FilmedWeld(9.525, "SMAW", Product.Plate, null, 200);
        var pipe = new FilmedWeld(9.525, "SMAW", Product.Pipe, 323.9);
        var small = new FilmedWeld(5.5, "SMAW", Product.Pipe, 48.3);
        Indication[] pores(int count, double mm) =>
            [.. Enumerable.Range(0, count).Select(index => new Indication(IndicationKind.Rounded, mm, 50 + (5 * index)))];
        Indication One(IndicationKind kind, double mm, double? at = 50) => new(kind, mm, at, 1, true);
        Indication[] Pieces(int count) =>
            [.. Enumerable.Range(0, count).Select(index => new Indication(IndicationKind.IsolatedSlag, 2, 20 * index, 1))];
        return
        [
            new(Qw, 94, "crack", VerdictKind.Reject, () => Film(Ix, plate, One(IndicationKind.Crack, 0.5))),
            new(Qw, 94, "incomplete penetration", VerdictKind.Reject, () => Film(Ix, plate, One(IndicationKind.IncompletePenetration, 0.5))),
            new(Line, 89, "crack", VerdictKind.Reject, () => Film(Api, pipe, One(IndicationKind.Crack, 0.5))),
            .. Pair(
                Line,
                89,
                "incomplete penetration, 8 % of a short weld",
                12,
                mm => Film(Api, small with { LengthMm = 150 }, One(IndicationKind.IncompletePenetration, mm))
            ),
            .. Pair(Line, 89, "high-low in two", 36.2, mm => Film(Api, pipe, One(IndicationKind.HighLow, 40), One(IndicationKind.HighLow, mm, 200))),
            .. Pair(Line, 89, "incomplete fusion", Inch, mm => Film(Api, pipe, One(IndicationKind.IncompleteFusion, mm))),
            .. Pair(
                Line,
                89,
                "incomplete fusion in two",
                12.4,
                mm => Film(Api, pipe, One(IndicationKind.IncompleteFusion, 13), One(IndicationKind.IncompleteFusion, mm, 200))
            ),
            .. Pair(Line, 89, "cold lap, 8 % of the weld", 40, mm => Film(Api, pipe with { LengthMm = 500 }, One(IndicationKind.ColdLap, mm))),
            .. Pair(Line, 89, "isolated slag, width", Inch / 8, mm => Film(Api, pipe, new Indication(IndicationKind.IsolatedSlag, 5, 50, mm))),
            new(Line, 85, "four pieces of isolated slag", VerdictKind.Accept, () => Film(Api, pipe, Pieces(4))),
            new(Line, 85, "five pieces of isolated slag", VerdictKind.Reject, () => Film(Api, pipe, Pieces(5))),
            .. Pair(
                Line,
                89,
                "isolated slag of two walls, small pipe",
                11,
                mm => Film(Api, small, new Indication(IndicationKind.IsolatedSlag, mm, 50, 3))
            ),
            new(
                Line,
                89,
                "narrow isolated slag, small pipe",
                VerdictKind.Accept,
                () => Film(Api, small, new Indication(IndicationKind.IsolatedSlag, 11.5, 50, 2))
            ),
            .. Pair(Line, 89, "cluster, largest pore", Inch / 16, mm => Film(Api, pipe, new Indication(IndicationKind.Cluster, 5, 50, mm))),
            .. Pair(
                Line,
                89,
                "hollow bead in five",
                10.8,
                mm =>
                    Film(
                        Api,
                        pipe,
                        One(IndicationKind.HollowBead, 10, 0),
                        One(IndicationKind.HollowBead, 10, 61),
                        One(IndicationKind.HollowBead, 10, 122),
                        One(IndicationKind.HollowBead, 10, 183),
                        One(IndicationKind.HollowBead, mm, 244)
                    )
            ),
            .. Pair(Line, 89, "hollow bead, 8 % of the weld", 8, mm => Film(Api, small with { LengthMm = 100 }, One(IndicationKind.HollowBead, mm))),
            .. Pair(
                Line,
                89,
                "undercut, a sixth of a short weld",
                25,
                mm => Film(Api, small with { LengthMm = 150 }, One(IndicationKind.Undercut, mm))
            ),
            new("ISO 5817 100 B", 92, "crack", VerdictKind.Reject, () => Film(Iso, plate, One(IndicationKind.Crack, 0.5))),
            new("ISO 5817 401 B", 92, "lack of fusion", VerdictKind.Reject, () => Film(Iso, plate, One(IndicationKind.IncompleteFusion, 0.5))),
            new("ISO 5817 2011 B", 85, "several pores: their area", VerdictKind.CannotJudge, () => Film(Iso, plate, pores(2, 1))),
            .. Pair(Qw, 94, "slag, t 3/8", Inch / 8, mm => Film(Ix, plate, Slag(mm))),
            .. Pair(Qw, 94, "rounded, t 3/8", 1.905, mm => Film(Ix, plate, new Indication(IndicationKind.Rounded, mm, 50))),
            // The gap goes by the longest of the group, not by the piece at it: 10 mm are under six times 3.1 and over six times 1.
            new(
                Qw,
                94,
                "slag in line, a short one behind a gap",
                VerdictKind.Reject,
                () => Film(Ix, plate, Slag(3.1, 50), Slag(3.1, 63.1), Slag(3.1, 76.2), Slag(1, 89.3))
            ),
            new(
                Qw,
                94,
                "slag in line, the gap over six of the longest",
                VerdictKind.Accept,
                () => Film(Ix, plate, Slag(3.1, 30), Slag(3.1, 43.1), Slag(3.1, 56.2), Slag(1, 78))
            ),
            new(Qw, 90, "many under 1/32, t 3/8", VerdictKind.Accept, () => Film(Ix, plate, pores(30, 0.7))),
            new(Qw, 90, "two counted: the chart", VerdictKind.CannotJudge, () => Film(Ix, plate, pores(2, 1))),
            new(Qw, 90, "two counted, inside the chart", VerdictKind.Accept, () => Film(Ix, plate with { InsideChart = true }, pores(2, 1))),
            new(Qw, 94, "twelve, t under 1/8", VerdictKind.Accept, () => Film(Ix, plate with { ThicknessMm = 3 }, pores(12, 0.5))),
            new(Qw, 94, "thirteen, t under 1/8", VerdictKind.Reject, () => Film(Ix, plate with { ThicknessMm = 3 }, pores(13, 0.5))),
            new("ASME IX QW-304", 90, "no film of short arc", VerdictKind.CannotJudge, () => Film(Ix, plate with { Process = "GMAW-S" })),
            new("ASME IX QW-302.2", 90, "film of under 6 in", VerdictKind.CannotJudge, () => Film(Ix, plate with { LengthMm = 140 })),
            new(Aws, 99, "crack", VerdictKind.Reject, () => Film(D1, pipe, One(IndicationKind.Crack, 1))),
            new(Aws, 75, "incomplete fusion", VerdictKind.Reject, () => Film(D1, pipe, One(IndicationKind.IncompleteFusion, 1))),
            .. Pair(Aws, 75, "slag of a third of 3/8", Inch / 8, mm => Film(D1, pipe, Slag(mm))),
            .. Pair(Aws, 75, "slag in thick metal", Inch / 2, mm => Film(D1, pipe with { ThicknessMm = 60 }, Slag(mm))),
            new(Aws, 75, "two, nine times apart", VerdictKind.Accept, () => Film(D1, pipe, Slag(3, 50), Slag(2, 80))),
            new(Aws, 75, "two, too near", VerdictKind.Reject, () => Film(D1, pipe, Slag(3, 50), Slag(2, 79))),
            new(Aws, 75, "fine ones, 3/8 in an inch", VerdictKind.Accept, () => Film(D1, pipe, pores(6, 1.5))),
            new(
                Aws,
                75,
                "fine ones, over 3/8 in an inch",
                VerdictKind.Reject,
                () => Film(D1, pipe, [.. Enumerable.Range(0, 7).Select(index => Slag(1.5, 50 + (3.5 * index)))])
            ),
            new("AWS D1.1, film of plate", 90, "the ends are left out", VerdictKind.Accept, () => Film(D1, plate, Slag(10, 5))),
            new("AWS D1.1, film of plate", 93, "no film of short arc", VerdictKind.CannotJudge, () => Film(D1, plate with { Process = "GMAW-S" })),
            .. Pair(Line, 89, "incomplete penetration", Inch, mm => Film(Api, pipe, One(IndicationKind.IncompletePenetration, mm))),
            .. Pair(
                Line,
                89,
                "incomplete penetration in two",
                12.4,
                mm => Film(Api, pipe, One(IndicationKind.IncompletePenetration, 13), One(IndicationKind.IncompletePenetration, mm, 200))
            ),
            .. Pair(
                Line,
                89,
                "incomplete fusion, 8 % of a short weld",
                12,
                mm => Film(Api, small with { LengthMm = 150 }, One(IndicationKind.IncompleteFusion, mm))
            ),
            .. Pair(Line, 89, "high-low", 50.8, mm => Film(Api, pipe, One(IndicationKind.HighLow, mm))),
            .. Pair(Line, 89, "cold lap", 50.8, mm => Film(Api, pipe, One(IndicationKind.ColdLap, mm))),
            .. Pair(Line, 89, "cross penetration", 50.8, mm => Film(Api, pipe, One(IndicationKind.CrossPenetration, mm))),
            .. Pair(Line, 89, "slag line", 50.8, mm => Film(Api, pipe, Slag(mm))),
            .. Pair(Line, 89, "slag line, width", Inch / 16, mm => Film(Api, pipe, Slag(10, 50, mm))),
            new(Line, 89, "slag line, width not known", VerdictKind.CannotJudge, () => Film(Api, pipe, Slag(10, 50, null))),
            .. Pair(Line, 89, "isolated slag in 12 in", 12.7, mm => Film(Api, pipe, One(IndicationKind.IsolatedSlag, mm))),
            .. Pair(Line, 89, "slag line of three walls, small pipe", 10.5, mm => Film(Api, small with { ThicknessMm = 3.5 }, Slag(mm))),
            .. Pair(Line, 89, "pore, a quarter of the wall", 1.375, mm => Film(Api, small, new Indication(IndicationKind.Rounded, mm, 10))),
            new(Line, 89, "several pores: the chart", VerdictKind.CannotJudge, () => Film(Api, pipe, pores(3, 1))),
            .. Pair(Line, 89, "cluster", 12.7, mm => Film(Api, pipe, One(IndicationKind.Cluster, mm))),
            .. Pair(Line, 89, "hollow bead", 12.7, mm => Film(Api, pipe, One(IndicationKind.HollowBead, mm))),
            new(
                Line,
                89,
                "hollow beads too near",
                VerdictKind.Reject,
                () => Film(Api, pipe, One(IndicationKind.HollowBead, 8), One(IndicationKind.HollowBead, 8, 100))
            ),
            .. Pair(Line, 89, "burn-through, dense", Inch / 4, mm => Film(Api, pipe, One(IndicationKind.BurnThrough, mm))),
            new(
                Line,
                89,
                "two burn-throughs, small pipe",
                VerdictKind.Reject,
                () => Film(Api, small, One(IndicationKind.BurnThrough, 1, 10), One(IndicationKind.BurnThrough, 1, 60))
            ),
            new(
                Line,
                89,
                "concavity, no denser",
                VerdictKind.Accept,
                () => Film(Api, pipe, new Indication(IndicationKind.Concavity, 300, 50, null, false))
            ),
            new(
                Line,
                89,
                "concavity, density not known",
                VerdictKind.CannotJudge,
                () => Film(Api, pipe, new Indication(IndicationKind.Concavity, 30, 50))
            ),
            .. Pair(Line, 89, "undercut", 50.8, mm => Film(Api, pipe, One(IndicationKind.Undercut, mm))),
            .. Pair(Line, 89, "all together", 20.8, mm => Film(Api, pipe, Slag(30, 50), One(IndicationKind.ColdLap, mm, 200))),
            new(Line, 89, "pipe size not known", VerdictKind.CannotJudge, () => Film(Api, new FilmedWeld(9.525), Slag(40))),
            .. Pair(
                "ISO 5817 2011 B",
                90,
                "pore, s 10",
                2,
                mm => Film(Iso, plate with { ThicknessMm = 10 }, new Indication(IndicationKind.Rounded, mm, 50))
            ),
            .. Pair("ISO 5817 301 B", 90, "slag, s 10, length", 10, mm => Film(Iso, plate with { ThicknessMm = 10 }, Slag(mm))),
            .. Pair("ISO 5817 301 B", 90, "slag, s 5, width", 1, mm => Film(Iso, plate with { ThicknessMm = 5 }, Slag(3, 50, mm))),
            new("ISO 5817", 85, "undercut on film", VerdictKind.CannotJudge, () => Film(Iso, plate, One(IndicationKind.Undercut, 5))),
        ];
    }

    /// <summary>Every number of every profile decides some row of the tables above.</summary>
    [Fact]
    public void No_limit_stands_unchecked()
    {
        Table.ForEach(fact => fact.Of());
        var never =
            from code in new[] { D1, Ix, Api, Iso }
            let profile = AcceptanceProfiles.Shipped[code]
            let numbers = profile.Visual.Where(rule =>
                rule.Limit.Any(term => term != new LimitTerm()) || rule.Steps is not null || rule.Together is not null
            )
            from rule in numbers
                .Where(rule => rule.Says == RuleVerdict.Limit)
                .Select(rule => rule.Rule)
                .Concat(profile.Radiograph!.Rules!.Where(rule => rule.Says == RuleVerdict.Limit).Select(rule => rule.Rule))
            where !Decided.ContainsKey((code, rule))
            select $"{code}: {rule}";
        var names = never.ToList();
        Assert.True(names.Count == 0, string.Join("\n", names));
    }

    [Fact]
    public void A_larger_size_or_one_more_never_comes_out_better() =>
        Gen.Select(
                OneOf(AcceptanceProfiles.Shipped.Values.Where(one => one.LimitsEntered).ToArray()),
                Gen.Select(
                    OneOf(Enum.GetValues<DiscontinuityKind>()),
                    OneOf(Stage.Root, Stage.Fill, Stage.Cap),
                    Gen.Double[0.001, 8],
                    Gen.Double[1, 60],
                    Gen.Double[0, 400]
                ).List[1, 5],
                Gen.Double[1, 6],
                Gen.Double[2, 30],
                Gen.Bool,
                Gen.Bool
            )
            .Sample(
                (profile, found, grown, thickness, open, fillet) =>
                {
                    var joint = new InspectedJoint(Product.Pipe, thickness, open, fillet ? WeldKind.Fillet : WeldKind.Groove, 500);
                    VerdictKind Of(double times, int count) =>
                        VisualJudge
                            .Judge(
                                profile,
                                joint,
                                [
                                    .. found
                                        .Take(count)
                                        .Select(one => new MeasuredFinding(
                                            one.Item1,
                                            one.Item2,
                                            one.Item3 * times,
                                            one.Item3 * times,
                                            one.Item4 * times,
                                            one.Item3 * times,
                                            10,
                                            AtMm: one.Item5,
                                            FaceHeightThereMm: 1
                                        )),
                                ]
                            )
                            .Kind;
                    return NoBetter(Of(1, found.Count), Of(grown, found.Count)) && NoBetter(Of(1, 1), Of(1, found.Count));
                },
                iter: 4000
            );

    [Fact]
    public void More_on_a_film_never_comes_out_better() =>
        Gen.Select(
                OneOf(AcceptanceProfiles.Shipped.Values.Where(one => one.Radiograph is not null).ToArray()),
                Gen.Select(OneOf(Enum.GetValues<IndicationKind>()), Gen.Double[0.1, 30], Gen.Double[0, 900], Gen.Bool).List[1, 6],
                Gen.Double[1, 5],
                Gen.Double[3, 25],
                OneOf(48.3, 168.3, 323.9)
            )
            .Sample(
                (profile, seen, grown, thickness, diameter) =>
                {
                    var weld = new FilmedWeld(thickness, "SMAW", Product.Pipe, diameter);
                    VerdictKind Of(double times, int count) =>
                        RadiographJudge
                            .Judge(
                                profile,
                                weld,
                                [
                                    .. seen.Take(count)
                                        .Select(one => new Indication(one.Item1, one.Item2 * times, one.Item3, one.Item2 * times / 4, one.Item4)),
                                ]
                            )
                            .Kind;
                    return NoBetter(Of(1, 1), Of(1, seen.Count)) && (seen.Count > 1 || NoBetter(Of(1, 1), Of(grown, 1)));
                },
                iter: 4000
            );

    private static Gen<T> OneOf<T>(params T[] ones) => Gen.Int[0, ones.Length - 1].Select(index => ones[index]);

    /// <summary>A reject stays a reject; what could not be judged may become one, and never a pass.</summary>
    private static bool NoBetter(VerdictKind before, VerdictKind after) =>
        before switch
        {
            VerdictKind.Reject => after == VerdictKind.Reject,
            VerdictKind.CannotJudge => after != VerdictKind.Accept,
            _ => true,
        };
}
