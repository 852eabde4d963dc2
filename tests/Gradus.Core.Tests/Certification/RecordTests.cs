using System.Text.Json;
using CsCheck;
using Gradus.Core.Certification;
using Gradus.Core.Library;
using Gradus.Core.Qualification;

namespace Gradus.Core.Tests.Certification;

public class RecordTests
{
    private const double Beyond = 0.01;

    private static readonly DateOnly Day = new(2026, 3, 10);

    private static RecordSource Source(TestTemplate test, string code) =>
        new(
            7,
            1,
            null,
            "North Shop",
            new RecordWelder(Guid.Empty, "Iris Vega", "A7K"),
            test,
            code,
            new Dictionary<string, string>(),
            Day,
            Day.AddDays(1),
            "WPS 12 rev 2",
            new Dictionary<string, string> { ["heat"] = "H 4471", ["weather"] = "indoors" },
            [new RecordTest("root bend 1", "accepted", "no open fault", "L-18", "Ada Holm")],
            false,
            "Tom Reyes",
            "Ada Holm",
            "Ada Holm",
            null,
            "1.0.0",
            code,
            2
        );

    private static QualificationRecord Kept(QualificationRecord record) =>
        JsonSerializer.Deserialize<QualificationRecord>(JsonSerializer.Serialize(record, CoreJson.Options), CoreJson.Options)!;

    /// <summary>Every test of the library in every way that counts, by each of the five codes.</summary>
    private static IReadOnlyList<(string Code, TestTemplate Test)> Library => Ways.Value;

    private static readonly Lazy<IReadOnlyList<(string Code, TestTemplate Test)>> Ways = new(() =>
        [
            .. from code in Ranges.ByCode.Keys
            from test in TestLibrary.Shipped.Values
            from way in TestQualification.WaysOf(test, code)
            select (code, way.Test),
        ]
    );

    [Fact]
    public void What_stands_on_a_record_is_what_is_covered_at_every_limit_and_just_beyond()
    {
        var (records, questions) = (0, 0);
        var tried = new HashSet<(string, PassedCoupon)>();
        foreach (var (code, test) in Library)
        {
            if (RecordMaker.Of(Source(test, code)) is not { } made)
            {
                continue;
            }

            // As it is kept: nothing but what stands in the file.
            var record = Kept(made);
            records++;
            var rules = CoveringRules.ByCode[code];
            if (record.Parts.Any(part => tried.Add((code, part.Actual))))
            {
                foreach (var weld in Limits(rules, record))
                {
                    questions++;
                    var covered = record.Parts.Any(part => Covering.Of(rules, [part.Actual], weld).Covered);
                    Assert.True(covered == record.Covers(weld), $"{code} {test.Id} {weld}: covered {covered}");
                }
            }
        }

        Assert.InRange(records, 100, 1_000_000); // ways of the library by five codes
        Assert.InRange(questions, 20_000, 50_000_000);
    }

    [Fact]
    public void Two_hundred_generated_deposits_say_what_is_covered_at_every_limit_and_just_beyond()
    {
        string[] positions = ["1G", "2G", "3G", "4G", "5G", "6G", "2F", "3F", "4F"];
        (string, int)[] processes = [("SMAW", 3), ("SMAW", 4), ("GTAW", 6), ("GMAW", 6), ("GMAW-S", 6), ("FCAW-G", 6)];
        string?[] coverings = ["B", "C", "R"];
        var coupons = Gen.Select(
            Gen.Int[0, positions.Length - 1],
            Gen.Double[1.2, 40],
            Gen.Double[20, 700],
            Gen.Enum<Backed>(),
            Gen.Int[0, processes.Length - 1],
            Gen.Select(Gen.Bool, Gen.Int[0, 2], Gen.Int[1, 4], Gen.Bool),
            (position, thickness, outside, backing, process, more) =>
            {
                var isPipe = position is 4 or 5 || (position is 0 or 1 && more.Item4);
                return new PassedCoupon(
                    isPipe ? Product.Pipe : Product.Plate,
                    positions[position].EndsWith('F') ? WeldKind.Fillet : WeldKind.Groove,
                    positions[position],
                    thickness,
                    isPipe ? Math.Max(outside, 3 * thickness) : null,
                    backing,
                    processes[process].Item1,
                    processes[process].Item2,
                    !Positions.HasProgression(positions[position]) ? Progression.None
                        : more.Item1 ? Progression.Uphill
                        : Progression.Downhill,
                    more.Item3,
                    FillerGroup: processes[process].Item1 == "SMAW" ? null : "5",
                    Covering: processes[process].Item1 == "SMAW" ? coverings[more.Item2] : null
                );
            }
        );
        coupons.Sample(
            coupon =>
            {
                foreach (var code in Ranges.ByCode.Keys)
                {
                    var rules = CoveringRules.ByCode[code];
                    var mine = coupon with
                    {
                        FillerGroup =
                            code == "iso-9606-1" ? "FM1"
                            : code == "api-1104" ? coupon.FillerGroup
                            : null,
                    };
                    var sets = Covering.Sets(rules, [mine]).Select(set => Covering.Variables(rules, set)).ToList();
                    foreach (var weld in sets.SelectMany(set => Limits(rules, mine, set)))
                    {
                        Assert.Equal(Covering.Of(rules, [mine], weld).Covered, sets.Any(set => RecordReading.Holds(set, weld)));
                    }
                }
            },
            iter: 200
        );
    }

    private static IEnumerable<AskedWeld> Limits(CoveringRules rules, QualificationRecord record) =>
        record.Parts.SelectMany(part => part.Covers.SelectMany(set => Limits(rules, part.Actual, set))).Distinct();

    // Each end of each range on both sides, in every position, on plate and pipe, and every other variable as tested and otherwise.
    private static IEnumerable<AskedWeld> Limits(CoveringRules rules, PassedCoupon tested, CoveredVariables set)
    {
        var thicknesses = Ends(set.ThicknessMm).ToList();
        var diameters = set.Reaches.Select(reach => reach.DiameterMm).OfType<RangeMm>().SelectMany(Ends).Append(60.3).Distinct().ToList();
        var inside = set.ThicknessMm.Min + Beyond;
        AskedWeld At(Product product, string position, double thickness, double? diameter) =>
            new(
                product,
                set.Weld,
                position,
                thickness,
                diameter,
                set.Weld == WeldKind.Groove ? tested.Backing : Backed.None,
                tested.Process,
                tested.FNumber,
                position == "V" ? tested.Progression : Progression.None
            );

        var reached = set.Reaches.SelectMany(reach => reach.Positions).Distinct().ToList();
        string?[] probed = [reached.FirstOrDefault(), reached.LastOrDefault(), Covering.PositionsOf(rules).Except(reached).FirstOrDefault()];
        foreach (var position in Covering.PositionsOf(rules))
        {
            yield return At(Product.Plate, position, inside, null);
            yield return At(Product.Pipe, position, inside, diameters[^1]);

            // The rest in two positions that it reaches, and one that it does not.
            if (!probed.Contains(position))
            {
                continue;
            }

            foreach (var thickness in thicknesses)
            {
                yield return At(Product.Plate, position, thickness, null);
            }

            foreach (var diameter in diameters)
            {
                yield return At(Product.Pipe, position, inside, diameter);
                yield return At(Product.Pipe, position, inside, diameter) with
                {
                    Rotated = true,
                };
            }

            foreach (var backing in Enum.GetValues<Backed>())
            {
                foreach (var number in (int[])[1, 2, 3, 4, 5, 6])
                {
                    if (rules.Multiple is null || number is 3 or 4 || tested.Process != "SMAW")
                    {
                        yield return At(Product.Plate, position, inside, null) with
                        {
                            Backing = backing,
                            FNumber = number,
                        };
                    }
                }
            }

            foreach (var process in rules.Processes)
            {
                yield return At(Product.Pipe, position, inside, 900) with
                {
                    Process = process,
                };
            }

            foreach (var metal in (int[])[1, 4, 8, 23, 43, 51])
            {
                yield return At(Product.Plate, position, inside, null) with
                {
                    PNumber = metal,
                };
            }

            if (rules.Coverings is not null)
            {
                foreach (var covering in (string[])["A", "B", "C", "R"])
                {
                    yield return At(Product.Plate, position, inside, null) with
                    {
                        Covering = covering,
                        Layers = 2,
                    };
                }

                foreach (var group in (string[])["FM1", "FM2", "FM3", "FM5", "FM6"])
                {
                    yield return At(Product.Plate, position, inside, null) with
                    {
                        FillerGroup = group,
                    };
                }
            }

            yield return At(Product.Plate, position, inside, null) with
            {
                Progression =
                    position != "V" ? Progression.None
                    : tested.Progression == Progression.Uphill ? Progression.Downhill
                    : Progression.Uphill,
            };
        }
    }

    private static IEnumerable<double> Ends(RangeMm range) =>
        new[] { range.Min - Beyond, range.Min, range.Min + Beyond, (range.Max ?? 500) - Beyond, range.Max ?? 500, (range.Max ?? 500) + Beyond }.Where(
            mm => mm > 0
        );

    [Theory] // AWS D1.1 Table 4.11 (2015), QW-452.1(b), ISO 9606-1 Table 6, all from memory
    [InlineData("P1", "aws-d1.1", "thickness", "3.18 mm (1/8 in) to 19.05 mm (3/4 in)")]
    [InlineData("P1", "aws-d1.1", "fNumber", "F1, F2, F3, F4")]
    [InlineData("P1", "asme-ix", "thickness", "up to 19.05 mm (3/4 in)")]
    public void Its_lines_say_what_the_tables_say(string testId, string code, string key, string qualified)
    {
        var record = RecordMaker.Of(Source(TestLibrary.Shipped[testId], code))!;
        Assert.Contains(record.Parts.SelectMany(part => part.Fields), line => line.Key == key && line.Qualified == qualified);
    }

    [Fact]
    public void A_record_carries_every_field_that_its_code_asks_for()
    {
        foreach (var (code, test) in Library)
        {
            if (RecordMaker.Of(Source(test, code)) is { } record)
            {
                var fields = RecordFields.ByCode[code];
                Assert.Equal(RecordFields.Every.Concat(fields.Whole).Select(row => row.Key), record.Fields.Select(line => line.Key));
                Assert.All(record.Parts, part => Assert.Empty(fields.Part.Select(row => row.Key).Except(part.Fields.Select(line => line.Key))));

                // What nobody has to be asked for is never left out.
                var asked = RecordFields.AskedFor(code).Select(row => row.Key).ToHashSet();
                Assert.All(
                    record.Fields.Where(line => !asked.Contains(line.Key)),
                    line => Assert.False(string.IsNullOrEmpty(line.Actual), $"{code} {test.Id} {line.Key}")
                );
                Assert.All(
                    record.Parts.SelectMany(part => part.Fields),
                    line => Assert.False(string.IsNullOrEmpty(line.Actual ?? line.Qualified), $"{code} {test.Id} {line.Key}")
                );
            }
        }
    }

    [Theory] // ISO 9606-1:2012, examples of designation in its annex, by their pattern; from memory
    [InlineData("P1", "ISO 9606-1 111 P BW")]
    [InlineData("R3", "ISO 9606-1 111 T BW FM1 C/B")]
    [InlineData("R5", "ISO 9606-1 141 T BW FM5 S")]
    [InlineData("P8", "ISO 9606-1 114 P BW FM1 s9.5")]
    [InlineData("F1", "ISO 9606-1 111 P FW FM1 B t12.7")]
    public void An_iso_record_has_its_designation(string testId, string starts) =>
        Assert.StartsWith(starts, RecordMaker.Of(Source(TestLibrary.Shipped[testId], "iso-9606-1"))!.Designation, StringComparison.Ordinal);

    [Fact]
    public void Aluminium_and_nickel_have_no_record_by_the_code_for_steel()
    {
        foreach (var (code, test) in Library.Where(one => one.Test.BaseMetal is BaseMetal.Aluminium or BaseMetal.NickelAlloy))
        {
            Assert.True(code == "asme-ix" || RecordMaker.Of(Source(test, code)) is null || code == "api-1104", $"{code} {test.Id}");
        }
    }

    [Fact]
    public void Every_filler_of_the_library_is_known_to_the_groups() =>
        Assert.All(
            TestLibrary.Shipped.Values.SelectMany(test => test.Passes).Select(pass => pass.Filler.Classification).Distinct(),
            one => Assert.NotNull(FillerGroups.Of(one))
        );

    [Theory] // ISO 9606-1 Table 3, ISO 2560, API 1104 Table 1; from memory
    [InlineData("E7018", "B", "FM1", "3")]
    [InlineData("E6010", "C", "FM1", "1")]
    [InlineData("E8010-P1", "C", "FM2", "2")]
    [InlineData("E8018-B2", "B", "FM3", null)]
    [InlineData("E8018-C3", "B", "FM2", "3")]
    [InlineData("ER70S-6", null, "FM1", "5")]
    [InlineData("E71T-8", null, "FM1", null)]
    [InlineData("ER308L", null, "FM5", null)]
    public void Fillers_are_grouped_as_the_codes_group_them(string classification, string? covering, string? fm, string? api) =>
        Assert.Equal((covering, fm, api), FillerGroups.Of(classification) is { } group ? (group.Covering, group.Fm, group.Api) : default);
}
