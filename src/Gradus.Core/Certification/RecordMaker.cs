using System.Globalization;
using Gradus.Core.Joints;
using Gradus.Core.Library;
using Gradus.Core.Measure;
using Gradus.Core.Qualification;

namespace Gradus.Core.Certification;

/// <summary>All that a record is made from.</summary>
/// <param name="Test">The test as it was made: its ways applied, in the code that it was judged by.</param>
/// <param name="Code">The code that it qualifies by.</param>
/// <param name="Said">What only a person can say, by the key of its field.</param>
/// <param name="ByFilm">True when film was taken in place of bends.</param>
/// <param name="Route">The route of renewal; null for the shortest of the code.</param>
public sealed record RecordSource(
    long Number,
    int Revision,
    string? Because,
    string School,
    RecordWelder Welder,
    TestTemplate Test,
    string Code,
    IReadOnlyDictionary<string, string> Variants,
    DateOnly TestedOn,
    DateOnly CertifiedOn,
    string Procedure,
    IReadOnlyDictionary<string, string> Said,
    IReadOnlyList<RecordTest> Tests,
    bool ByFilm,
    string? Witness,
    string Evaluator,
    string CertifiedBy,
    string? Route,
    string Program,
    string ProfileId,
    int ProfileVersion
);

/// <summary>Makes records of qualification. Pure.</summary>
public static class RecordMaker
{
    /// <summary>What stands on every record, once.</summary>
    public const string Caution =
        "Ranges are by rules written from memory, the narrower reading where editions differ. The governing edition, the contract and a qualified inspector decide.";

    private static readonly Dictionary<string, string> IsoProcess = new()
    {
        ["SMAW"] = "111",
        ["GTAW"] = "141",
        ["GMAW"] = "135",
        ["GMAW-S"] = "135-D",
        ["FCAW-G"] = "136",
        ["FCAW-S"] = "114",
    };

    private static readonly Dictionary<BaseMetal, (string Name, int PNumber)> Metals = new()
    {
        // ASME IX QW-422, from memory: the commonest grade of each in schools.
        [BaseMetal.CarbonSteel] = ("carbon steel", 1),
        [BaseMetal.StainlessSteel] = ("austenitic stainless steel", 8),
        [BaseMetal.ChromeMoly] = ("chromium-molybdenum steel", 4),
        [BaseMetal.Aluminium] = ("aluminium", 23),
        [BaseMetal.NickelAlloy] = ("nickel alloy", 43),
    };

    /// <summary>The deposits of a test as its code reads them, with the groups of their fillers; empty when the code has no such coupon.</summary>
    public static IReadOnlyList<PassedCoupon> CouponsOf(TestTemplate test, string code, bool byFilm = false) =>
        !CoveringRules.ByCode.ContainsKey(code) || !Ranges.ByCode.ContainsKey(code) || IsOfAnotherPart(test, code)
            ? []
            : [.. TestQualification.PassesOf(test, code).Select(pass => CouponOf(test, code, pass, byFilm))];

    /// <summary>Makes a record; null when the code qualifies nothing by such a coupon.</summary>
    public static QualificationRecord? Of(RecordSource source)
    {
        var rules = CoveringRules.ByCode.GetValueOrDefault(source.Code);
        var fields = RecordFields.ByCode.GetValueOrDefault(source.Code);
        var coupons = CouponsOf(source.Test, source.Code, source.ByFilm);
        if (rules is null || fields is null || coupons.Count == 0)
        {
            return null;
        }

        var parts = coupons.Select(coupon => PartOf(source, rules, fields, coupon)).Where(part => part.Covers.Count > 0).ToList();
        if (parts.Count == 0)
        {
            return null;
        }

        var continuity = Ranges.ByCode[source.Code].Continuity;
        var route = source.Route ?? Continuity.ShortestRoute(continuity);
        var kept = Continuity.Of(continuity, source.TestedOn, [], source.TestedOn, route);
        return new QualificationRecord(
            QualificationRecord.Shape,
            source.Number,
            source.Revision,
            source.Because,
            source.School,
            source.Welder,
            source.Code,
            rules.Edition,
            source.Test.Title,
            source.Variants,
            source.TestedOn,
            source.CertifiedOn,
            source.Procedure,
            rules.Coverings is null ? null : Designation(source.Test, [.. parts.Select(part => part.Actual)]),
            [.. RecordFields.Every.Concat(fields.Whole).Select(row => new RecordField(row.Key, row.Label, WholeValue(source, row.Key)))],
            parts,
            source.Tests,
            source.Witness,
            source.Evaluator,
            source.CertifiedBy,
            new RecordValidity(kept.UseBy, kept.RenewBy, route, continuity.Rule, continuity.Source),
            new RecordRules(source.Program, source.ProfileId, source.ProfileVersion, source.Test.Id, source.Test.Version),
            Caution
        );
    }

    /// <summary>The record of what another school or employer tested, as its paper says; what that covers is by the rules kept here.</summary>
    /// <param name="paper">Who issued it, and its number.</param>
    /// <param name="enteredBy">Who has read the paper.</param>
    public static QualificationRecord Entered(
        long number,
        string paper,
        RecordWelder welder,
        string code,
        string title,
        DateOnly testedOn,
        DateOnly enteredOn,
        PassedCoupon coupon,
        IReadOnlyList<CoveredVariables> covers,
        Keeping kept,
        string? route,
        string enteredBy,
        string program
    )
    {
        var rules = CoveringRules.ByCode[code];
        var continuity = Ranges.ByCode[code].Continuity;
        List<RecordField> lines =
        [
            new("process", "Process", coupon.Process, Listed(covers.SelectMany(one => one.Processes).Distinct()), rules.ProcessSource),
            new("position", "Test position", coupon.Position),
            new("deposit", ThicknessLabel(code, coupon), Sized(coupon.ThicknessMm)),
            .. coupon.OutsideDiameterMm is { } diameter ? [new RecordField("diameter", "Outside diameter", Sized(diameter))] : (RecordField[])[],
            .. covers.SelectMany(one =>
                (RecordField[])
                    [
                        new RecordField("thickness", $"Thickness, {Word(one.Weld)}", null, Sized(one.ThicknessMm)),
                        .. one.Reaches.Select(reach => new RecordField("positions", ReachLabel(one, reach), null, Listed(reach.Positions))),
                    ]
            ),
            new(
                "backing",
                "Backing",
                BackingWord(coupon.Backing),
                Listed(covers.SelectMany(one => one.Backings ?? []).Distinct().Select(BackingWord))
            ),
            new("progression", "Progression", ProgressionWord(coupon.Progression), ProgressionWord(coupon.Progression)),
        ];
        if (coupon.FNumber is { } filler)
        {
            lines.Insert(1, new RecordField("fNumber", "F-number", $"F{filler}", Fillers([.. covers]), rules.FillerSource));
        }

        return new QualificationRecord(
            QualificationRecord.Shape,
            number,
            1,
            null,
            paper,
            welder,
            code,
            rules.Edition,
            title,
            new Dictionary<string, string>(),
            testedOn,
            enteredOn,
            "",
            null,
            [],
            [new RecordPart(coupon.Process, coupon, lines, covers)],
            [],
            null,
            paper,
            $"{paper}; entered by {enteredBy}",
            new RecordValidity(kept.UseBy, kept.RenewBy, route ?? Continuity.ShortestRoute(continuity), continuity.Rule, continuity.Source),
            new RecordRules(program, code, 0, "", 0),
            Caution
        );
    }

    /// <summary>The test piece in the letters of ISO 9606-1: process, product, weld, filler, thickness, diameter, position, details.</summary>
    public static string Designation(TestTemplate test, IReadOnlyList<PassedCoupon> parts)
    {
        var first = parts[0];
        var table = Positions.Of("iso-9606-1")!;
        var isGroove = first.Weld == WeldKind.Groove;
        string[] words =
        [
            "ISO 9606-1",
            Joined(parts.Select(one => IsoProcess.GetValueOrDefault(one.Process, one.Process))),
            first.Product == Product.Pipe ? "T" : "P",
            isGroove ? "BW" : "FW",
            Joined(parts.Select(one => one.FillerGroup ?? "FM-")),
            Joined(
                parts.Select(one => one.Covering ?? (one.Process is "GTAW" or "GMAW" or "GMAW-S" ? "S" : "")).Where(type => type.Length > 0) // the type of a cored wire stands on its certificate
            ),
            (isGroove ? "s" : "t") + Joined(parts.Select(one => Plain(one.ThicknessMm))),
            first.OutsideDiameterMm is { } diameter ? $"D{Plain(diameter)}" : "",
            Positions.NameIn(table, first.Product, first.Position, first.Progression),
            isGroove ? DetailsOf(first.Backing) : "",
            !isGroove && first.Layers == 1 ? "sl"
            : !isGroove ? "ml"
            : "",
        ];
        return string.Join(' ', words.Where(word => word.Length > 0));

        static string Joined(IEnumerable<string> parts) => string.Join('/', parts.Distinct());
    }

    // ISO 9606-1 is for steel; aluminium and nickel have parts of their own.
    private static bool IsOfAnotherPart(TestTemplate test, string code) =>
        code == "iso-9606-1" && test.BaseMetal is BaseMetal.Aluminium or BaseMetal.NickelAlloy;

    private static string DetailsOf(Backed backing) =>
        backing switch
        {
            Backed.None => "ss nb",
            Backed.Gas => "ss gb",
            Backed.Insert => "ci",
            Backed.Steel => "ss mb",
            _ => "bs",
        };

    private static PassedCoupon CouponOf(TestTemplate test, string code, PassedTest pass, bool byFilm)
    {
        var filler = test.Passes.First(one => TestQualification.NameOf(one) == pass.Process && one.Filler.FNumber == pass.FNumber).Filler;
        var group = FillerGroups.Of(filler.Classification);
        return pass.Coupon with
        {
            Backing = (pass.Backing, test.Joint.Backing.Kind) switch
            {
                (false, BackingKind.Gas) => Backed.Gas,
                (false, BackingKind.Insert) => Backed.Insert,
                _ => pass.Coupon.Backing,
            },
            PNumber = Metals[test.BaseMetal].PNumber,
            FillerGroup =
                code == "iso-9606-1" ? group?.Fm
                : code == "api-1104" ? group?.Api ?? filler.Classification
                : null,
            Covering = code == "iso-9606-1" ? group?.Covering : null,
            ByFilm = byFilm,
        };
    }

    private static RecordPart PartOf(RecordSource source, CoveringRules rules, CodeFields fields, PassedCoupon coupon)
    {
        var sets = Covering.Sets(rules, [coupon]);
        var covers = sets.Select(set => Covering.Variables(rules, set)).ToList();
        var pass = source.Test.Passes.First(one => TestQualification.NameOf(one) == coupon.Process && one.Filler.FNumber == coupon.FNumber);
        List<RecordField> lines =
        [
            new("process", "Process", coupon.Process, Listed(covers.SelectMany(one => one.Processes).Distinct()), rules.ProcessSource),
            new("filler", "Filler metal", $"{pass.Filler.Classification}, {Sized(pass.Filler.DiameterMm)}"),
        ];
        if (coupon.FNumber is { } number)
        {
            lines.Add(new("fNumber", "F-number", $"F{number}", Fillers(covers), rules.FillerSource));
        }

        if (rules.Groups is not null)
        {
            lines.Add(
                new(
                    "fillerGroup",
                    "Filler group",
                    coupon.FillerGroup,
                    Listed(covers.SelectMany(one => one.FillerGroups ?? []).Distinct()),
                    rules.GroupSource
                )
            );
        }

        if (rules.Coverings is not null && coupon.Process == "SMAW")
        {
            lines.Add(
                new(
                    "covering",
                    "Covering",
                    coupon.Covering,
                    Listed(covers.SelectMany(one => one.Coverings ?? []).Distinct())
                        + (coupon.Weld == WeldKind.Groove ? $"; open root {coupon.Covering ?? "none"}" : ""),
                    rules.CoveringSource
                )
            );
        }

        lines.Add(new("deposit", ThicknessLabel(rules.Code, coupon), Sized(coupon.ThicknessMm)));
        foreach (var (set, one) in sets.Zip(covers))
        {
            lines.Add(new("thickness", $"Thickness, {Word(one.Weld)}", null, Sized(one.ThicknessMm), set.ThicknessRow.Source));
            lines.AddRange(
                one.Reaches.Zip(
                    set.Reaches.Where(reach => reach.Positions.Count > 0),
                    (reach, from) => new RecordField("positions", ReachLabel(one, reach), null, Listed(reach.Positions), from.Source)
                )
            );
        }

        lines.Add(
            new(
                "backing",
                "Backing",
                BackingWord(coupon.Backing),
                Listed(covers.SelectMany(one => one.Backings ?? []).Distinct().Select(BackingWord)),
                rules.BackingSource
            )
        );
        lines.Add(new("progression", "Progression", ProgressionWord(coupon.Progression), ProgressionWord(coupon.Progression)));
        if (rules.PGroups.Count > 0)
        {
            lines.Add(
                new(
                    "metals",
                    "Base metals",
                    rules.Code == "asme-ix" ? $"P-{coupon.PNumber}" : Metals[source.Test.BaseMetal].Name,
                    rules.Code == "asme-ix"
                        ? Listed(covers.SelectMany(one => one.PNumbers ?? []).Distinct().Select(metal => $"P-{metal}"))
                        : "steels of the code",
                    rules.MetalSource
                )
            );
        }

        lines.AddRange(fields.Part.Select(row => new RecordField(row.Key, row.Label, PartValue(source.Test, coupon, pass, row.Key))));
        return new RecordPart($"{coupon.Process} {pass.Filler.Classification}", coupon, lines, covers);
    }

    private static string Fillers(List<CoveredVariables> covers)
    {
        var backed = covers.SelectMany(one => one.FNumbersBacked ?? []).Distinct().Order().Select(number => $"F{number}").ToList();
        var open = covers.SelectMany(one => one.FNumbersOpen ?? []).Distinct().Order().Select(number => $"F{number}").ToList();
        return backed.Count == 0 && open.Count == 0 ? "not a variable"
            : backed.SequenceEqual(open) ? Listed(backed)
            : $"with backing {Listed(backed)}; without {Listed(open)}";
    }

    private static string? WholeValue(RecordSource source, string key)
    {
        var test = source.Test;
        var (metal, number) = Metals[test.BaseMetal];
        return key switch
        {
            "baseMetal" => metal,
            "product" => test.Product.ToString().ToLowerInvariant(),
            "thickness" => Sized(test.Joint.ThicknessMm),
            "diameter" => test.Joint.PipeSize() is { } pipe ? $"NPS {test.Joint.Pipe!.Nps}, {Sized(pipe.OutsideDiameter.Mm)}" : "plate",
            "weld" => Word(test.Weld),
            "position" => Listed(test.Positions),
            "inspector" => source.Witness ?? source.Evaluator,
            "pNumber" => $"P-{number}",
            "weldDetails" => test.Weld == WeldKind.Groove ? DetailsOf(CouponsOf(test, source.Code)[0].Backing) : Word(test.Weld),
            "rolled" => test.Positions[0] is "1G" or "1F" ? "rolled" : "fixed",
            "joint" => test.Joint.Form switch
            {
                JointForm.SingleV => "single V butt",
                JointForm.SingleJ => "single J butt",
                JointForm.SquareButt => "square butt",
                JointForm.TeeFillet => "tee",
                JointForm.Branch => "branch",
                JointForm.Plug => "plug",
                _ => "lap",
            },
            _ => source.Said.GetValueOrDefault(key) is { Length: > 0 } said ? said : null,
        };
    }

    private static string? PartValue(TestTemplate test, PassedCoupon coupon, PassPlan pass, string key) =>
        key switch
        {
            "electrodes" => "one",
            "gas" => pass.Gas ?? "none",
            "current" => pass.Polarity switch
            {
                Polarity.Dcep => "DC, electrode positive",
                Polarity.Dcen => "DC, electrode negative",
                _ => "AC",
            },
            "transfer" => coupon.Process switch
            {
                TestQualification.ShortArc => "short-circuiting",
                "GMAW" => "spray",
                _ => "not a variable",
            },
            "layers" => test.Weld == WeldKind.Fillet || coupon.Layers is null
                ? Layered(coupon)
                : $"{(coupon.Layers >= 3 ? "yes" : "no")}: {Layered(coupon)}",
            "insert" => coupon.Backing == Backed.Insert ? "yes" : "no",
            "backingGas" => coupon.Backing == Backed.Gas || test.Joint.Backing.Kind == BackingKind.Gas ? "yes" : "no",
            "fillerForm" => FillerGroups.Of(pass.Filler.Classification)?.Form switch
            {
                FillerForm.Covered => "covered electrode",
                FillerForm.Solid => "solid",
                FillerForm.FluxCored => "flux-cored",
                FillerForm.MetalCored => "metal-cored",
                _ => null,
            },
            _ => null,
        };

    private static string Layered(PassedCoupon coupon) =>
        coupon.Layers is { } layers ? $"{layers} {(layers == 1 ? "layer" : "layers")}" : "not counted";

    private static string ThicknessLabel(string code, PassedCoupon coupon) =>
        coupon.Weld == WeldKind.Groove && Ranges.ByCode[code].ThicknessIs != "plate or wall" ? "Deposit of this process" : "Thickness tested";

    private static string ReachLabel(CoveredVariables set, CoveredReach reach) =>
        string.Concat(
            $"Positions, {Word(set.Weld)}, {(reach.Product == Product.Plate ? "plate" : "pipe")}",
            reach.DiameterMm is { } range ? $" {Sized(range)}" : "",
            reach.Rotated ? ", turned" : "",
            reach.NeedsBacking ? ", with backing" : ""
        );

    private static string Word(WeldKind weld) => weld.ToString().ToLowerInvariant();

    private static string BackingWord(Backed backing) =>
        backing switch
        {
            Backed.None => "open root",
            Backed.Gas => "gas",
            Backed.Insert => "consumable insert",
            Backed.Steel => "backing",
            _ => "both sides (gouged)",
        };

    private static string ProgressionWord(Progression progression) =>
        progression switch
        {
            Progression.Uphill => "uphill",
            Progression.Downhill => "downhill",
            _ => "not a variable",
        };

    private static string Listed(IEnumerable<string> items) => string.Join(", ", items) is { Length: > 0 } text ? text : "none";

    private static string Plain(double mm) => Math.Round(mm, 1).ToString("0.#", CultureInfo.InvariantCulture);

    /// <summary>A size in both units: paper has no switch. A fraction is given only where it is exact.</summary>
    private static string Sized(double mm)
    {
        var length = Length.FromMm(mm);
        var sixtyFourths = length.Inches * 64;
        var inches =
            Math.Abs(sixtyFourths - Math.Round(sixtyFourths)) < 1e-3
                ? length.ToInchText()
                : length.Inches.ToString("0.000", CultureInfo.InvariantCulture);
        return $"{length.ToMmText()} mm ({inches} in)";
    }

    private static string Sized(RangeMm range) =>
        range switch
        {
            { Max: null, Min: <= 0 } => "any",
            { Max: null } when Over(range.Min) is { } mm => $"over {Sized(mm)}",
            { Max: null } => $"{Sized(range.Min)} and up",
            { Min: <= 0 } => $"up to {Sized(range.Max.Value)}",
            _ => $"{Sized(range.Min)} to {Sized(range.Max.Value)}",
        };

    // The tables say "over 610 mm" as from a hair more.
    private static double? Over(double mm)
    {
        const double Hair = 0.01;
        var whole = Math.Round(mm - Hair);
        return Math.Abs(mm - Hair - whole) < 1e-6 ? whole : null;
    }
}
