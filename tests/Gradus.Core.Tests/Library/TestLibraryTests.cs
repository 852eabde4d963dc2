using System.Text.Json;
using Gradus.Core.Bench;
using Gradus.Core.Inspection;
using Gradus.Core.Library;
using Gradus.Core.Qualification;
using Gradus.Core.Safety;
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

    /// <summary>Every test as it stands and with each of its options by itself.</summary>
    public static TheoryData<string, string, string> Ways =>
        new(
            TestLibrary.Shipped.Values.SelectMany(test =>
                test.Variants.SelectMany(group => group.Options.Select(option => (test.Id, group.Id, option.Id))).Append((test.Id, "", ""))
            )
        );

    [Theory]
    [MemberData(nameof(Ways))]
    public void Planned_beads_fill_the_joint_and_its_face_within_3_percent(string id, string group, string option)
    {
        var test = TestLibrary.Shipped[id].With(new Dictionary<string, string> { [group] = option });
        var joint = test.Joint;
        string?[] halves = test.Halves.Count == 0 ? [null] : [.. test.Halves.Select(half => half.Id)];
        Assert.All(
            halves,
            half =>
            {
                var section = test.Section(null, half);
                Assert.InRange(section.Beads.Sum(bead => bead.AreaMm2) / ToFill(joint), 0.97, 1.03);
                Assert.Equal(section.Beads.Count, section.Beads.Select(bead => bead.Key).Distinct().Count());
            }
        );
    }

    /// <summary>From the symbols of the joint alone: groove or fillet area, parabola of the face, parabola of a bare root.</summary>
    private static double ToFill(JointPlan joint)
    {
        const double Sixteenth = 25.4 / 16;
        if (joint.LegMm is { } leg && joint.Form is JointForm.TeeFillet or JointForm.LapFillet)
        {
            return (leg * leg / 2) + (2.0 / 3 * leg * Math.Sqrt(2) * 0.8);
        }

        double Tan(double degrees) => Math.Tan(degrees * Math.PI / 180);
        var (t, g) = (joint.ThicknessMm, joint.RootOpeningMm);
        if (joint.JRadiusMm is { } radius && joint.Form == JointForm.SingleJ)
        {
            // One side of a J: a level arc above the face, then the bevel, summed in thin slices.
            var (f, bevel) = (joint.RootFaceMm, joint.BevelDegA * Math.PI / 180);
            var arcTop = f + (radius * (1 - Math.Sin(bevel)));
            double Out(double y) =>
                y <= f ? 0
                : y <= arcTop ? Math.Sqrt((radius * radius) - ((f + radius - y) * (f + radius - y)))
                : (radius * Math.Cos(bevel)) + ((y - arcTop) * Math.Tan(bevel));
            var side = Enumerable.Range(0, 2000).Sum(slice => Out((slice + 0.5) * t / 2000) * t / 2000);
            var faceWidth = g + (2 * Out(t)) + (2 * Math.Min(Sixteenth, t / 2));
            return (g * t) + (2 * side) + (2.0 / 3 * faceWidth * Math.Min(Sixteenth, 0.3 * t)) + (2.0 / 3 * g * Math.Min(0.8, t / 4));
        }

        var depth = joint.Form == JointForm.SquareButt ? 0 : t - joint.RootFaceMm;
        var tans = Tan(joint.BevelDegA) + Tan(joint.BevelDegB);
        var width = g + (depth * tans) + (2 * Math.Min(Sixteenth, t / 2));
        var root = joint.Backing.Kind == BackingKind.Strip ? 0 : 2.0 / 3 * g * Math.Min(0.8, t / 4);
        return (g * t) + (depth * depth * tans / 2) + (2.0 / 3 * width * Math.Min(Sixteenth, 0.3 * t)) + root;
    }

    [Fact]
    public void The_library_has_every_row() => // the ids that a school will look for
        Assert.Equal(
            [
                .. Enumerable.Range(1, 10).Select(number => $"F{number}"),
                .. Enumerable.Range(1, 20).Select(number => $"P{number}"),
                .. Enumerable.Range(1, 17).Select(number => $"R{number}"),
            ],
            TestLibrary.Shipped.Keys.OrderBy(id => id[0]).ThenBy(id => int.Parse(id[1..], System.Globalization.CultureInfo.InvariantCulture))
        );

    /// <summary>
    /// The scopes of the codes (common practice): D1.1 carbon steel, D1.2 aluminium, D1.3 sheet steel, D1.6 stainless, API 1104 steel pipe, ISO 9606-1
    /// steels. Tacks and plugs are tests of D1.1 alone, a branch of API 1104 alone, and the ring of 6GR is D1.1's.
    /// </summary>
    internal static bool IsOf(TestTemplate test, string code)
    {
        var isWorked = test.BaseMetal is BaseMetal.CarbonSteel or BaseMetal.ChromeMoly;
        var isUsual =
            test is { Product: Product.Plate or Product.Pipe, Weld: WeldKind.Groove or WeldKind.Fillet }
            && test.Joint.Form != JointForm.Branch
            && test.Positions[0] != "6GR";
        return code switch
        {
            "aws-d1.1" => test.BaseMetal == BaseMetal.CarbonSteel && test.Product != Product.Sheet && test.Joint.Form != JointForm.Branch,
            "aws-d1.2" => isUsual && test.BaseMetal == BaseMetal.Aluminium,
            "aws-d1.3" => test is { Product: Product.Sheet, BaseMetal: BaseMetal.CarbonSteel },
            "aws-d1.6" => isUsual && test.BaseMetal == BaseMetal.StainlessSteel,
            "api-1104" => isWorked && test.Product == Product.Pipe && test.Positions[0] != "6GR",
            "iso-9606-1" => isUsual && (isWorked || test.BaseMetal == BaseMetal.StainlessSteel),
            _ => isUsual,
        };
    }

    [Theory]
    [MemberData(nameof(Ids))]
    public void A_test_says_what_it_qualifies_by_the_codes_that_take_it(string id)
    {
        var test = TestLibrary.Shipped[id];
        Assert.All(
            Positions.Codes,
            code =>
            {
                var passes = TestQualification.PassesOf(test, code);

                Assert.Equal(test.Kind == TestKind.Test && IsOf(test, code), passes.Count > 0);
                Assert.All(
                    passes,
                    passed =>
                    {
                        var qualified = Qualifier.Combine(Positions.Of(code)!, [passed]);
                        Assert.NotEmpty(
                            qualified.Own?.Positions
                                ?? (
                                    test.Weld == WeldKind.Fillet ? qualified.Fillet
                                    : test.Product == Product.Pipe ? qualified.PipeGroove
                                    : qualified.PlateGroove
                                )
                        );
                        Assert.NotNull(qualified.ThicknessMm);
                    }
                );
            }
        );
        Assert.True(
            test.Kind == TestKind.Drill || test.Code == "aws-d17.1" || TestQualification.PassesOf(test, test.Code).Count > 0,
            "none by its own code"
        );
    }

    [Theory]
    [MemberData(nameof(Ids))]
    public void A_test_shows_the_cautions_of_its_work(string id)
    {
        var test = TestLibrary.Shipped[id];
        var shown = string.Join(" ", Cautions.Of(test).Select(caution => caution.Text));

        // The shade follows from the process and the amps of each pass; every pass has one.
        Assert.DoesNotContain("Lens shade", shown, StringComparison.Ordinal);
        Assert.All(test.Passes, pass => Assert.NotNull(Cautions.Shade(pass.Process, pass.Settings.Amps.Max)));
        var asked = Cautions.For(test).Select(rule => rule.Id).ToList();
        Assert.All(
            new[] { ("chromium", "Chromium VI"), ("overhead", "leather, cap, ear cover"), ("shock", "dry gloves"), ("fire", "35 ft") },
            caution => Assert.True(!asked.Contains(caution.Item1) || shown.Contains(caution.Item2, StringComparison.Ordinal), caution.Item1)
        );
        Assert.True(
            test.Joint.Pipe is null || test.Joint.Backing.Kind == BackingKind.None || shown.Contains("19.5 % oxygen", StringComparison.Ordinal)
        );
    }

    [Fact]
    public void The_aerospace_row_judges_nothing_until_the_school_enters_limits()
    {
        var sheet = TestLibrary.Shipped["F2"];
        var verdict = CouponJudge.Judge(sheet, AcceptanceProfiles.Shipped[sheet.Code], null, _ => sheet.Stages, []);
        Assert.Equal(VerdictKind.CannotJudge, verdict.Kind);
        Assert.Contains("until the school enters", verdict.Visual.Reasons.Single().Rule, StringComparison.Ordinal);
    }

    [Fact]
    public void A_split_test_qualifies_each_half_on_its_own_variables()
    {
        var passes = TestQualification.PassesOf(TestLibrary.Shipped["R4"], "aws-d1.1");
        Assert.Contains(passes, one => one is { FNumber: 4, Progression: Progression.Uphill });
        Assert.Contains(passes, one => one is { FNumber: 3, Progression: Progression.Downhill, Layers: 5 });
        Assert.DoesNotContain(passes, one => one is { FNumber: 4, Progression: Progression.Downhill });
    }

    /// <summary>No code grants a half by name: it counts only with as many specimens of its own as a whole coupon gives (60 %).</summary>
    [Fact]
    public void A_half_that_is_cut_like_half_a_coupon_qualifies_nothing()
    {
        var split = TestLibrary.Shipped["R4"];
        var few = split with { Specimens = [.. split.Specimens.Where((_, index) => index % 2 == 0)] };
        Assert.DoesNotContain(TestQualification.PassesOf(few, "aws-d1.1"), one => one.FNumber == 4);
        Assert.Contains(TestQualification.PassesOf(split, "aws-d1.1"), one => one.FNumber == 4);
        Assert.DoesNotContain(TestQualification.PassesOf(split, "api-1104"), one => one.FNumber == 4); // six are cut there
    }

    [Fact]
    public void Deposits_of_two_processes_add_up_to_the_plate() // ASME IX goes by the deposit of each process
    {
        var passes = TestQualification.PassesOf(TestLibrary.Shipped["P6"], "asme-ix");
        Assert.Equal(["GTAW", "SMAW"], passes.Select(one => one.Process).Order());
        Assert.Equal(9.525, passes.Sum(one => one.ThicknessMm), 0.01);
        Assert.Equal([false, true], passes.OrderBy(one => one.Process).Select(one => one.Backing));
    }

    [Theory]
    [MemberData(nameof(Ids))]
    public void A_coupon_takes_a_believable_amount_of_metal_and_time(string id)
    {
        var budget = CouponBudget.Of(TestLibrary.Shipped[id]);
        Assert.All(budget.Fillers, filler => Assert.InRange(filler.DepositKg, 0.0005, 3));
        Assert.All(budget.Fillers, filler => Assert.True(filler.UsedKg >= filler.DepositKg * 0.7 && filler.UsedKg < filler.DepositKg * 4 + 0.1));
        Assert.InRange(budget.ArcMinutes, 0.2, 120); // common practice: an arc burns for minutes on sheet, for an hour or two on heavy pipe
        Assert.True(budget.BoothMinutes > budget.ArcMinutes);
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
