using CsCheck;
using Gradus.Core.Qualification;

namespace Gradus.Core.Tests.Qualification;

/// <summary>Facts of five codes, each with its clause; all from memory, with how sure that is. Where editions or readings differ, the narrower one.</summary>
public class CoveringTests
{
    private static readonly PassedCoupon Plate3G = new(
        Product.Plate,
        WeldKind.Groove,
        "3G",
        9.525,
        null,
        Backed.Steel,
        "SMAW",
        4,
        Progression.Uphill,
        4
    );
    private static readonly PassedCoupon Pipe6G = new(
        Product.Pipe,
        WeldKind.Groove,
        "6G",
        7.11,
        168.3,
        Backed.None,
        "SMAW",
        4,
        Progression.Uphill,
        4
    );
    private static readonly PassedCoupon Fillet3F = Plate3G with { Weld = WeldKind.Fillet, Position = "3F", Backing = Backed.None, Layers = 1 };
    private static readonly PassedCoupon Gtaw6G = Pipe6G with { Process = "GTAW", FNumber = 6 };
    private static readonly PassedCoupon IsoPlate = Plate3G with
    {
        Position = "PF",
        FNumber = null,
        ThicknessMm = 10,
        FillerGroup = "FM1",
        Covering = "B",
    };

    private static readonly AskedWeld OnPlate = new(Product.Plate, WeldKind.Groove, "V", 9.525, null, Backed.Steel, "SMAW", 4, Progression.Uphill);
    private static readonly AskedWeld OnPipe = OnPlate with { Product = Product.Pipe, ThicknessMm = 7.11, OutsideDiameterMm = 168.3 };
    private static readonly AskedWeld Fillet = OnPlate with { Weld = WeldKind.Fillet, Backing = Backed.None };

    private sealed record Row(string Code, string Clause, int Sure, PassedCoupon[] Passed, AskedWeld Asked, bool Covered);

    private static Row Is(string code, string clause, int sure, PassedCoupon passed, AskedWeld asked, bool covered) =>
        new(code, clause, sure, [passed], asked, covered);

    private static readonly Row[] Facts =
    [
        // AWS D1.1
        Is("aws-d1.1", "Table 4.11: 3/8 in plate to 3/4 in", 96, Plate3G, OnPlate with { ThicknessMm = 19.05 }, true),
        Is("aws-d1.1", "Table 4.11: and no further", 96, Plate3G, OnPlate with { ThicknessMm = 19.1 }, false),
        Is("aws-d1.1", "Table 4.11: from 1/8 in", 96, Plate3G, OnPlate with { ThicknessMm = 3.0 }, false),
        Is("aws-d1.1", "Table 4.11: 1 in plate, unlimited", 97, Plate3G with { ThicknessMm = 25.4 }, OnPlate with { ThicknessMm = 200 }, true),
        Is("aws-d1.1", "Table 4.10: 3G covers F, H, V", 95, Plate3G, OnPlate with { Position = "H", Progression = null }, true),
        Is("aws-d1.1", "Table 4.10: and not overhead", 97, Plate3G, OnPlate with { Position = "OH", Progression = null }, false),
        Is("aws-d1.1", "Table 4.12: up and down apart", 97, Plate3G, OnPlate with { Progression = Progression.Downhill }, false),
        Is("aws-d1.1", "Table 4.12(2): F3 does not cover F4", 93, Plate3G with { FNumber = 3 }, OnPlate, false),
        Is("aws-d1.1", "Table 4.12: with backing does not cover open", 95, Plate3G, OnPlate with { Backing = Backed.None }, false),
        Is("aws-d1.1", "Table 4.12: open covers backed", 92, Plate3G with { Backing = Backed.None }, OnPlate, true),
        Is("aws-d1.1", "Table 4.12: backing covers back-gouged", 92, Plate3G, OnPlate with { Backing = Backed.BackWelded }, true),
        Is("aws-d1.1", "GMAW-S is a process of its own", 92, Plate3G with { Process = "GMAW" }, OnPlate with { Process = "GMAW-S" }, false),
        Is("aws-d1.1", "Plate to pipe over 24 in, with backing", 93, Plate3G, OnPipe with { OutsideDiameterMm = 762 }, true),
        Is(
            "aws-d1.1",
            "Plate to pipe over 24 in, not without",
            93,
            Plate3G with
            {
                Backing = Backed.None,
            },
            OnPipe with
            {
                OutsideDiameterMm = 762,
                Backing = Backed.None,
            },
            false
        ),
        Is("aws-d1.1", "Plate to pipe over 24 in, and 610 mm is 24 in", 93, Plate3G, OnPipe with { OutsideDiameterMm = 610 }, false),
        Is("aws-d1.1", "Plate to pipe: not at 20 in", 93, Plate3G, OnPipe with { OutsideDiameterMm = 508 }, false),
        Is(
            "aws-d1.1",
            "NPS 2 Sch 80 to 3/4 in",
            94,
            Pipe6G with
            {
                OutsideDiameterMm = 60.325,
                ThicknessMm = 5.537,
            },
            OnPipe with
            {
                OutsideDiameterMm = 60.3,
                ThicknessMm = 19.05,
            },
            true
        ),
        Is(
            "aws-d1.1",
            "NPS 2 Sch 80 to NPS 4",
            94,
            Pipe6G with
            {
                OutsideDiameterMm = 60.325,
                ThicknessMm = 5.537,
            },
            OnPipe with
            {
                OutsideDiameterMm = 141.3,
                ThicknessMm = 6,
            },
            false
        ),
        Is("aws-d1.1", "NPS 6 Sch 120 without limit", 95, Pipe6G with { ThicknessMm = 14.27 }, OnPipe with { ThicknessMm = 60 }, true),
        Is(
            "aws-d1.1",
            "Job size over NPS 4: from half the OD",
            88,
            Pipe6G with
            {
                OutsideDiameterMm = 323.85,
            },
            OnPipe with
            {
                OutsideDiameterMm = 141.3,
            },
            false
        ),
        Is("aws-d1.1", "Table 4.11 note: groove covers fillets of any size", 92, Plate3G, Fillet with { ThicknessMm = 100 }, true),
        Is("aws-d1.1", "A fillet covers no groove", 97, Fillet3F, OnPlate, false),
        Is("aws-d1.1", "6 months without the process", 92, Plate3G with { MonthsUnused = 6 }, OnPlate, false),
        Is("aws-d1.1", "used within 6 months", 92, Plate3G with { MonthsUnused = 5 }, OnPlate, true),
        Is(
            "aws-d1.1",
            "Film is not for short-circuiting",
            93,
            Plate3G with
            {
                Process = "GMAW-S",
                ByFilm = true,
            },
            OnPlate with
            {
                Process = "GMAW-S",
            },
            false
        ),
        Is("aws-d1.6", "F5 by itself", 70, Plate3G with { FNumber = 5 }, OnPlate with { FNumber = 5 }, true),
        Is("aws-d1.6", "F5 covers no F4", 70, Plate3G with { FNumber = 5 }, OnPlate, false),
        // ASME IX
        Is("asme-ix", "QW-452.1(b): twice the deposit", 96, Plate3G, OnPlate with { ThicknessMm = 19.05 }, true),
        Is("asme-ix", "QW-452.1(b): and no more", 96, Plate3G, OnPlate with { ThicknessMm = 19.2 }, false),
        Is(
            "asme-ix",
            "QW-452.1(b): 1/2 in in three layers, no limit",
            96,
            Plate3G with
            {
                ThicknessMm = 12.7,
                Layers = 3,
            },
            OnPlate with
            {
                ThicknessMm = 90,
            },
            true
        ),
        Is(
            "asme-ix",
            "QW-452.1(b): 1/2 in in two, twice",
            96,
            Plate3G with
            {
                ThicknessMm = 12.7,
                Layers = 2,
            },
            OnPlate with
            {
                ThicknessMm = 26,
            },
            false
        ),
        Is("asme-ix", "QW-461.9: 3G plate on 6 in pipe only flat", 95, Plate3G, OnPipe, false),
        Is("asme-ix", "QW-461.9: 3G plate on 6 in pipe, flat", 95, Plate3G, OnPipe with { Position = "F", Progression = null }, true),
        Is("asme-ix", "QW-461.9: 3G gives fillets F, H, V", 95, Plate3G, Fillet with { Position = "H", Progression = null }, true),
        Is(
            "asme-ix",
            "QW-452.3: 2 in covers from 1 in",
            97,
            Pipe6G with
            {
                OutsideDiameterMm = 60.3,
            },
            OnPipe with
            {
                OutsideDiameterMm = 26.7,
            },
            true
        ),
        Is(
            "asme-ix",
            "QW-452.3: 2 in does not cover 3/4 in OD",
            97,
            Pipe6G with
            {
                OutsideDiameterMm = 60.3,
            },
            OnPipe with
            {
                OutsideDiameterMm = 19,
            },
            false
        ),
        Is("asme-ix", "QW-303.1: groove covers fillets on any OD", 95, Pipe6G, Fillet with { Product = Product.Pipe, OutsideDiameterMm = 20 }, true),
        Is("asme-ix", "QW-433: F4 open does not cover F3 open", 93, Pipe6G, OnPipe with { FNumber = 3, Backing = Backed.None }, false),
        Is("asme-ix", "QW-433: F4 open covers F3 with backing", 93, Pipe6G, OnPipe with { FNumber = 3 }, true),
        Is("asme-ix", "QW-433: F5 by itself", 85, Pipe6G with { FNumber = 5 }, OnPipe with { FNumber = 1 }, false),
        Is("asme-ix", "QW-433: F43 covers F41", 93, Gtaw6G with { FNumber = 43 }, OnPipe with { Process = "GTAW", FNumber = 41 }, true),
        Is("asme-ix", "QW-433: nickel does not cover F6", 93, Gtaw6G with { FNumber = 43 }, OnPipe with { Process = "GTAW", FNumber = 6 }, false),
        Is(
            "asme-ix",
            "QW-408.8: gas left out is a change",
            92,
            Gtaw6G with
            {
                Backing = Backed.Gas,
            },
            OnPipe with
            {
                Process = "GTAW",
                FNumber = 6,
                Backing = Backed.None,
            },
            false
        ),
        Is("asme-ix", "QW-408.8: gas added is none", 92, Gtaw6G, OnPipe with { Process = "GTAW", FNumber = 6, Backing = Backed.Gas }, true),
        Is(
            "asme-ix",
            "QW-404.22: insert covers no open root",
            92,
            Gtaw6G with
            {
                Backing = Backed.Insert,
            },
            OnPipe with
            {
                Process = "GTAW",
                FNumber = 6,
                Backing = Backed.None,
            },
            false
        ),
        Is(
            "asme-ix",
            "QW-409.2: spray does not cover short-circuiting",
            96,
            Plate3G with
            {
                Process = "GMAW",
                FNumber = 6,
            },
            OnPlate with
            {
                Process = "GMAW-S",
                FNumber = 6,
            },
            false
        ),
        Is(
            "asme-ix",
            "QW-355: FCAW with or without outer gas",
            88,
            Plate3G with
            {
                Process = "FCAW-G",
                FNumber = 6,
            },
            OnPlate with
            {
                Process = "FCAW-S",
                FNumber = 6,
            },
            true
        ),
        Is("asme-ix", "QW-423.1: P-1 covers P-8", 92, Plate3G, OnPlate with { PNumber = 8 }, true),
        Is("asme-ix", "QW-452.5: thin fillet coupon to twice", 90, Fillet3F with { ThicknessMm = 3 }, Fillet with { ThicknessMm = 9.5 }, false),
        Is("asme-ix", "QW-461.9 has no 6GR", 95, Pipe6G with { Position = "6GR" }, OnPipe, false),
        // API 1104
        Is("api-1104", "Pipe coupons only", 95, Plate3G, OnPlate, false),
        Is("api-1104", "6.2.2: wall to 3/4 in", 90, Pipe6G, OnPipe with { Backing = Backed.None, ThicknessMm = 19.05 }, true),
        Is("api-1104", "6.2.2: wall over 3/4 in", 90, Pipe6G, OnPipe with { Backing = Backed.None, ThicknessMm = 20 }, false),
        Is(
            "api-1104",
            "6.2.2: OD 2.375 in belongs to the middle",
            90,
            Pipe6G,
            OnPipe with
            {
                Backing = Backed.None,
                OutsideDiameterMm = 60.325,
            },
            true
        ),
        Is("api-1104", "6.2.2: OD under 2.375 in", 90, Pipe6G, OnPipe with { Backing = Backed.None, OutsideDiameterMm = 48.3 }, false),
        Is("api-1104", "6.2.2: direction", 90, Pipe6G, OnPipe with { Backing = Backed.None, Progression = Progression.Downhill }, false),
        Is(
            "api-1104",
            "6.2.2: 5G covers no horizontal",
            90,
            Pipe6G with
            {
                Position = "5G",
            },
            OnPipe with
            {
                Backing = Backed.None,
                Position = "H",
                Progression = null,
            },
            false
        ),
        Is("api-1104", "6.2.2: a backing strip added is not claimed", 70, Pipe6G, OnPipe, false),
        Is("api-1104", "a butt covers no branch", 90, Pipe6G, OnPipe with { Backing = Backed.None, Joint = PipeJoint.Branch }, false),
        Is(
            "api-1104",
            "groups 1 and 2 cover each other",
            94,
            Pipe6G with
            {
                FillerGroup = "1",
            },
            OnPipe with
            {
                Backing = Backed.None,
                FillerGroup = "2",
            },
            true
        ),
        new(
            "api-1104",
            "6.3.2: butt and branch on 12.750 in cover every OD",
            92,
            [
                Pipe6G with
                {
                    OutsideDiameterMm = 323.85,
                    Multiple = true,
                },
                Pipe6G with
                {
                    OutsideDiameterMm = 323.85,
                    Multiple = true,
                    Joint = PipeJoint.Branch,
                },
            ],
            OnPipe with
            {
                Backing = Backed.None,
                OutsideDiameterMm = 914,
                ThicknessMm = 25,
            },
            true
        ),
        Is("api-1104", "6.3.2: the butt alone does not", 92, Pipe6G with { Multiple = true }, OnPipe with { Backing = Backed.None }, false),
        // ISO 9606-1
        Is("iso-9606-1", "butt 10 mm to 20 mm", 93, IsoPlate, OnPlate with { Position = "PF", ThicknessMm = 20, FNumber = null }, true),
        Is("iso-9606-1", "and not 21 mm", 93, IsoPlate, OnPlate with { Position = "PF", ThicknessMm = 21, FNumber = null }, false),
        Is(
            "iso-9606-1",
            "12 mm in three layers: no limit",
            93,
            IsoPlate with
            {
                ThicknessMm = 12,
            },
            OnPlate with
            {
                Position = "PF",
                ThicknessMm = 80,
                FNumber = null,
            },
            true
        ),
        Is("iso-9606-1", "PF covers PA", 93, IsoPlate, OnPlate with { Position = "PA", FNumber = null }, true),
        Is("iso-9606-1", "PF covers no PE", 93, IsoPlate, OnPlate with { Position = "PE", FNumber = null }, false),
        Is("iso-9606-1", "a butt covers no fillet", 92, IsoPlate, Fillet with { Position = "PF", FNumber = null }, false),
        Is(
            "iso-9606-1",
            "plate covers rotating pipe from 75 mm in PA",
            93,
            IsoPlate,
            OnPipe with
            {
                Position = "PA",
                FNumber = null,
                Rotated = true,
            },
            true
        ),
        Is("iso-9606-1", "and not fixed pipe", 93, IsoPlate, OnPipe with { Position = "PA", FNumber = null }, false),
        Is(
            "iso-9606-1",
            "plate covers fixed pipe from 500 mm",
            93,
            IsoPlate,
            OnPipe with
            {
                Position = "PF",
                FNumber = null,
                OutsideDiameterMm = 508,
            },
            true
        ),
        Is("iso-9606-1", "pipe over 25 mm covers plate", 93, Pipe6G, OnPlate with { Position = "PF", FNumber = null }, true),
        Is(
            "iso-9606-1",
            "FM3 covers FM2",
            94,
            IsoPlate with
            {
                FillerGroup = "FM3",
            },
            OnPlate with
            {
                Position = "PF",
                FNumber = null,
                FillerGroup = "FM2",
            },
            true
        ),
        Is("iso-9606-1", "FM1 covers no FM3", 94, IsoPlate, OnPlate with { Position = "PF", FNumber = null, FillerGroup = "FM3" }, false),
        Is("iso-9606-1", "B covers R with backing", 93, IsoPlate, OnPlate with { Position = "PF", FNumber = null, Covering = "R" }, true),
        Is(
            "iso-9606-1",
            "an open root by the tested covering only",
            93,
            IsoPlate with
            {
                Backing = Backed.None,
            },
            OnPlate with
            {
                Position = "PF",
                FNumber = null,
                Covering = "R",
                Backing = Backed.None,
            },
            false
        ),
        Is(
            "iso-9606-1",
            "dip covers spray",
            92,
            IsoPlate with
            {
                Process = "GMAW-S",
            },
            OnPlate with
            {
                Position = "PF",
                FNumber = null,
                Process = "GMAW",
            },
            true
        ),
        Is(
            "iso-9606-1",
            "a single layer fillet covers no more",
            94,
            Fillet3F with
            {
                FNumber = null,
            },
            Fillet with
            {
                Position = "PF",
                FNumber = null,
                Layers = 3,
            },
            false
        ),
        new(
            "iso-9606-1",
            "PH and PC on one diameter make the inclined axis",
            85,
            [Pipe6G with { Position = "PH" }, Pipe6G with { Position = "PC", Progression = Progression.None }],
            OnPipe with
            {
                Position = "H-L045",
                FNumber = null,
            },
            true
        ),
        Is("iso-9606-1", "PH alone does not", 93, Pipe6G with { Position = "PH" }, OnPipe with { Position = "H-L045", FNumber = null }, false),
    ];

    public static TheoryData<int> All => [.. Enumerable.Range(0, Facts.Length)];

    private static CoverAnswer Of(string code, IReadOnlyList<PassedCoupon> passed, AskedWeld asked) =>
        Covering.Of(CoveringRules.ByCode[code], passed, asked);

    [Theory]
    [MemberData(nameof(All))]
    public void A_rule_of_a_code_holds(int index)
    {
        var (code, clause, sure, passed, asked, covered) = Facts[index];
        Assert.InRange(sure, 60, 100);
        var answer = Of(code, passed, asked);
        Assert.True(covered == answer.Covered, $"{code}, {clause}: {string.Join("; ", answer.Why)}");
        Assert.NotEmpty(answer.Why);
    }

    /// <summary>Decision of the house: an open root in one position with a backed one in another claims neither for both.</summary>
    [Fact]
    public void Nothing_is_taken_from_one_coupon_and_the_rest_from_another()
    {
        PassedCoupon[] two = [Plate3G with { Backing = Backed.None }, Plate3G with { Position = "4G", ThicknessMm = 25.4 }];
        AskedWeld overhead = OnPlate with { Position = "OH", Progression = null };
        Assert.False(Of("aws-d1.1", two, overhead with { Backing = Backed.None }).Covered);
        Assert.True(Of("aws-d1.1", two, overhead with { ThicknessMm = 60 }).Covered);
        Assert.False(Of("aws-d1.1", two, OnPlate with { ThicknessMm = 60 }).Covered);
        Assert.Single(Of("aws-d1.1", two, overhead with { Backing = Backed.None }).Why); // either the position or the backing is missing, by one of them
    }

    [Fact]
    public void Every_rule_has_a_source_and_says_how_sure_it_is() =>
        Assert.All(
            CoveringRules.ByCode.Values,
            rules =>
            {
                Assert.All(
                    rules.Thickness.Concat(rules.Diameter).Concat(rules.FilletDiameter),
                    row =>
                    {
                        Assert.False(string.IsNullOrWhiteSpace(row.Source));
                        Assert.InRange(row.Confidence, 60, 100);
                    }
                );
                Assert.Equal(Enum.GetValues<Backed>().Length, rules.Backing.Count);
            }
        );

    private static Gen<T> Any<T>(params T[] of) => Gen.Int[0, of.Length - 1].Select(at => of[at]);

    private static readonly Gen<PassedCoupon> Coupons = Gen.Select(
        Any("2G", "3G", "4G", "5G", "6G", "3F", "4F"),
        Gen.Double[1, 40],
        Gen.Double[15, 700],
        Any(Enum.GetValues<Backed>()),
        Any(("SMAW", 3), ("SMAW", 4), ("GTAW", 6), ("GMAW", 6), ("GMAW-S", 6)),
        Gen.Bool,
        Gen.Int[1, 5],
        (position, thickness, outside, backing, process, up, layers) =>
        {
            var isPipe = position is "5G" or "6G";
            return new PassedCoupon(
                isPipe ? Product.Pipe : Product.Plate,
                position.EndsWith('F') ? WeldKind.Fillet : WeldKind.Groove,
                position,
                thickness,
                isPipe ? Math.Max(outside, 3 * thickness) : null,
                backing,
                process.Item1,
                process.Item2,
                up ? Progression.Uphill : Progression.Downhill,
                layers
            );
        }
    );

    private static readonly Gen<(string Code, AskedWeld Weld)> Questions = Gen.Select(
        Any([.. CoveringRules.ByCode.Keys]),
        Gen.Int[0, 100],
        Gen.Double[1, 60],
        Gen.Double[15, 900],
        Any(Enum.GetValues<Backed>()),
        Any(("SMAW", 3), ("SMAW", 4), ("GTAW", 6), ("GMAW", 6)),
        Gen.Select(Gen.Bool, Gen.Bool, Gen.Bool),
        (code, position, thickness, outside, backing, process, kinds) =>
        {
            var positions = Covering.PositionsOf(CoveringRules.ByCode[code]);
            return (
                code,
                new AskedWeld(
                    kinds.Item1 ? Product.Pipe : Product.Plate,
                    kinds.Item2 ? WeldKind.Groove : WeldKind.Fillet,
                    positions[position % positions.Count],
                    thickness,
                    kinds.Item1 ? outside : null,
                    backing,
                    process.Item1,
                    process.Item2,
                    kinds.Item3 ? Progression.Uphill : Progression.Downhill
                )
            );
        }
    );

    [Fact]
    public void One_more_coupon_never_takes_anything_away() =>
        Gen.Select(Coupons.Array[1, 4], Coupons, Questions)
            .Sample(
                (passed, more, question) =>
                {
                    var (code, weld) = question;
                    if (Of(code, passed, weld).Covered)
                    {
                        Assert.True(Of(code, [.. passed, more], weld).Covered);
                    }

                    Assert.True(
                        Covering.Sets(CoveringRules.ByCode[code], [.. passed, more]).Count >= Covering.Sets(CoveringRules.ByCode[code], passed).Count
                    );
                },
                iter: 3000
            );

    [Fact]
    public void To_fix_what_was_left_open_never_turns_yes_to_no() =>
        Gen.Select(Coupons.Array[1, 4], Questions, Gen.Int[0, 255])
            .Sample(
                (passed, question, open) =>
                {
                    var (code, weld) = question;
                    AskedWeld wide = weld with
                    {
                        Product = (open & 1) > 0 && weld.OutsideDiameterMm is null ? null : weld.Product,
                        Weld = (open & 2) > 0 ? null : weld.Weld,
                        Position = (open & 4) > 0 ? null : weld.Position,
                        ThicknessMm = (open & 8) > 0 ? null : weld.ThicknessMm,
                        OutsideDiameterMm = (open & 16) > 0 ? null : weld.OutsideDiameterMm,
                        Backing = (open & 32) > 0 ? null : weld.Backing,
                        FNumber = (open & 64) > 0 ? null : weld.FNumber,
                        Progression = (open & 128) > 0 ? null : weld.Progression,
                    };
                    if (Of(code, passed, wide).Covered)
                    {
                        Assert.True(Of(code, passed, weld).Covered);
                    }
                },
                iter: 3000
            );

    [Fact]
    public void A_filler_that_is_left_open_is_covered_only_when_each_group_is()
    {
        // API 1104 goes by groups of electrodes: one that was tested with E7018 says nothing of E6010.
        PassedCoupon pipe = new(Product.Pipe, WeldKind.Groove, "6G", 12, 323.9, Backed.None, "SMAW", 4, Progression.Uphill, 4);
        AskedWeld asked = new(Product.Pipe, WeldKind.Groove, "V", 12, 323.9, Backed.None, "SMAW", 4, Progression.Uphill);
        Assert.True(Of("api-1104", [pipe], asked).Covered);
        Assert.False(Of("api-1104", [pipe], asked with { FNumber = 3 }).Covered);
        Assert.False(Of("api-1104", [pipe], asked with { FNumber = null }).Covered);
        Assert.True(Of("api-1104", [pipe], asked with { FNumber = null, FillerGroup = "3" }).Covered);
    }

    [Fact]
    public void A_size_that_is_left_open_is_covered_only_when_every_size_is()
    {
        // ASME IX QW-452.1(b) and QW-452.3: no limit of thickness and of diameter from 73 mm up, so not under it.
        var thick = Pipe6G with
        {
            ThicknessMm = 14.3,
            Layers = 5,
        };
        AskedWeld open = OnPipe with { Backing = Backed.None, ThicknessMm = null };
        Assert.True(Of("asme-ix", [thick], open).Covered);
        Assert.Contains(Of("asme-ix", [thick], open).Why, one => one is { Variable: "thicknessMm", Asked: null, Qualified: "0 mm and up" });
        Assert.False(Of("asme-ix", [thick], open with { OutsideDiameterMm = null }).Covered);
        Assert.Equal(["outsideDiameterMm"], Of("asme-ix", [thick], open with { OutsideDiameterMm = null }).Why.Select(one => one.Variable));

        // Two that meet cover what neither does alone.
        PassedCoupon[] meeting = [Gtaw6G with { OutsideDiameterMm = 20, ThicknessMm = 14.3 }, thick with { Process = "GTAW", FNumber = 6 }];
        AskedWeld gtaw = open with { Process = "GTAW", FNumber = 6, OutsideDiameterMm = null };
        Assert.False(Of("asme-ix", meeting, gtaw).Covered); // under 20 mm nothing is covered
    }

    [Fact]
    public void Without_a_progression_a_vertical_weld_needs_both_and_another_none()
    {
        var down = Plate3G with { Progression = Progression.Downhill };
        Assert.False(Of("aws-d1.1", [Plate3G], OnPlate with { Progression = null }).Covered);
        Assert.True(Of("aws-d1.1", [Plate3G, down], OnPlate with { Progression = null }).Covered);
        Assert.Equal([0, 1], Of("aws-d1.1", [Plate3G, down], OnPlate with { Progression = null }).By);
        Assert.True(Of("aws-d1.1", [Plate3G], OnPlate with { Position = "F", Progression = null }).Covered);
    }
}
