using System.Text.Json;
using System.Text.Json.Serialization;
using FluentValidation;
using Gradus.Core.Qualification;
using Gradus.Server.Hosting;
using Microsoft.AspNetCore.Http.HttpResults;

namespace Gradus.Server.ShopMath;

/// <summary>Passed coupons, the code to read them by, and the weld that is asked for.</summary>
public sealed record CoveredRequest(string? Code, IReadOnlyList<CoveringTest?>? Tests, CoveredAsk? Asks);

/// <summary>How a coupon was tested.</summary>
public enum TestedBy
{
    /// <summary>Specimens were bent or broken.</summary>
    Bends,

    /// <summary>It was radiographed.</summary>
    Film,
}

/// <summary>A passed coupon, one record for each process and filler. Positions by AWS A3.0 or ISO 6947; lengths in mm.</summary>
/// <param name="ThicknessMm">Of plate or wall; by ASME IX and ISO 9606-1 of the deposit of this process.</param>
/// <param name="Backing">none, gas, insert, steel or backWelded; true is steel, false none.</param>
/// <param name="FillerGroup">By API 1104 1 to 9, by ISO 9606-1 FM1 to FM6.</param>
/// <param name="Scope">API 1104: single, or multiple for one of the two coupons that qualify for nearly all.</param>
/// <param name="Coupon">Names the coupon; processes of a combined one share it.</param>
public sealed record CoveringTest(
    Product? Product,
    WeldKind? Weld,
    string? Position,
    double? ThicknessMm,
    double? OutsideDiameterMm,
    [property: JsonConverter(typeof(BackedOrBool))] Backed? Backing,
    string? Process,
    int? FNumber,
    Progression? Progression,
    int? Layers = null,
    int? PNumber = null,
    [property: JsonConverter(typeof(TextOrNumber))] string? FillerGroup = null,
    string? Covering = null,
    string? Coupon = null,
    TestedBy? TestedBy = null,
    int? MonthsSinceProcessUsed = null,
    string? Scope = null,
    PipeJoint? Joint = null
);

/// <summary>The weld that is asked for. Of the first nine what is null must be covered at every value.</summary>
public sealed record CoveredAsk(
    Product? Product,
    WeldKind? Weld,
    string? Position,
    double? ThicknessMm,
    double? OutsideDiameterMm,
    [property: JsonConverter(typeof(BackedOrBool))] Backed? Backing,
    string? Process,
    int? FNumber,
    Progression? Progression,
    int? PNumber = null,
    [property: JsonConverter(typeof(TextOrNumber))] string? FillerGroup = null,
    string? Covering = null,
    PipeJoint? Joint = null,
    bool? Rotated = null,
    int? Layers = null
);

/// <summary>A backing by its name; true is steel and false none, as where backing is only told from open.</summary>
public sealed class BackedOrBool : JsonConverter<Backed?>
{
    private const string Known = "Give one of: none, gas, insert, steel, backWelded; or true or false.";

    public override Backed? Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options) =>
        reader.TokenType switch
        {
            JsonTokenType.Null => null,
            JsonTokenType.True => Backed.Steel,
            JsonTokenType.False => Backed.None,
            JsonTokenType.String => Named(reader.GetString()),
            _ => throw new ValueException(Known),
        };

    public override void Write(Utf8JsonWriter writer, Backed? value, JsonSerializerOptions options) =>
        writer.WriteStringValue(value is null ? null : JsonNamingPolicy.CamelCase.ConvertName($"{value}"));

    private static Backed Named(string? name)
    {
        foreach (var one in Enum.GetValues<Backed>())
        {
            if (JsonNamingPolicy.CamelCase.ConvertName($"{one}") == name)
            {
                return one;
            }
        }

        throw new ValueException(Known);
    }
}

/// <summary>A text that may be written as a number.</summary>
public sealed class TextOrNumber : JsonConverter<string?>
{
    public override string? Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options) =>
        reader.TokenType switch
        {
            JsonTokenType.Number when reader.TryGetInt32(out var number) => $"{number}",
            JsonTokenType.String => reader.GetString(),
            JsonTokenType.Null => null,
            _ => throw new ValueException("Give a text or a whole number."),
        };

    public override void Write(Utf8JsonWriter writer, string? value, JsonSerializerOptions options) => writer.WriteStringValue(value);
}

public sealed class CoveredRequestValidator : AbstractValidator<CoveredRequest>
{
    private const double MostMm = 500;
    private const double MostDiameterMm = 5000;

    public CoveredRequestValidator()
    {
        RuleFor(request => request.Code).NeedsOneOf([.. CoveringRules.ByCode.Keys]);
        RuleFor(request => request.Tests)
            .Must(tests => tests is { Count: >= 1 and <= 100 } && tests.All(test => test is not null))
            .WithMessage("Give 1 to 100 passed coupons.");
        RuleFor(request => request.Asks).NotNull().WithMessage("Say which weld is asked for.");
        When(
            request => request.Code is not null && CoveringRules.ByCode.ContainsKey(request.Code),
            () =>
            {
                RuleForEach(request => request.Tests)
                    .ChildRules(test =>
                    {
                        test.RuleFor(one => one!.Product)
                            .Must(product => product is Product.Plate or Product.Pipe)
                            .WithMessage("Give one of: plate, pipe.");
                        test.RuleFor(one => one!.Weld).NeedsOneOf();
                        test.RuleFor(one => one!.ThicknessMm).NeedsOver0(MostMm, "the thickness in mm");
                        test.RuleFor(one => one!.OutsideDiameterMm)
                            .Must((one, diameter) => one!.Product == Product.Pipe ? diameter is > 0 and <= MostDiameterMm : diameter is null)
                            .WithMessage("For pipe, give the outside diameter in mm, at most 5000; leave it out for plate.");
                        test.RuleFor(one => one!.Backing)
                            .NotNull()
                            .WithMessage("Give one of: none, gas, insert, steel, backWelded; or true or false.");
                        test.RuleFor(one => one!.FNumber)
                            .Must(number => number is null or (>= 1 and <= 72))
                            .WithMessage("Give the F-number, 1 to 72, or leave it out.");
                        test.RuleFor(one => one!.Scope)
                            .Must(scope => scope is null or "single" or "multiple")
                            .WithMessage("Give one of: single, multiple; or leave it out.");
                        test.RuleFor(one => one!.PNumber)
                            .Must(number => number is null or (>= 1 and <= 62))
                            .WithMessage("Give the P-number, 1 to 62, or leave it out.");
                        test.RuleFor(one => one!.Layers)
                            .Must(layers => layers is null or (>= 1 and <= 500))
                            .WithMessage("The number of layers is from 1 to 500, or left out.");
                        test.RuleFor(one => one!.MonthsSinceProcessUsed)
                            .Must(months => months is null or (>= 0 and <= 1200))
                            .WithMessage("The months since the process was used are from 0 to 1200, or left out.");
                        test.RuleFor(one => one!.Progression)
                            .Must(
                                (one, progression) =>
                                    !Positions.HasProgression(one!.Position ?? "")
                                    || progression is Progression.Uphill or Progression.Downhill
                                    || IsIso(one.Position!)
                            )
                            .WithMessage("In this position, say uphill or downhill.");
                        test.RuleFor(one => one!.Position)
                            .Must(
                                (one, position) => one!.Product is not { } product || one.Weld is not { } weld || IsPosition(product, weld, position)
                            )
                            .WithMessage("Not a test position of that product and weld by AWS A3.0 or ISO 6947.");
                    });
                RuleForEach(request => request.Tests)
                    .Must((request, test) => test is null || CoveringRules.ByCode[request.Code!].Processes.Contains(test.Process))
                    .OverridePropertyName("tests")
                    .WithMessage(request => $"The process is one of: {string.Join(", ", CoveringRules.ByCode[request.Code!].Processes)}.");
                RuleFor(request => request.Asks!.Position)
                    .Must((request, position) => position is null || Covering.PositionsOf(CoveringRules.ByCode[request.Code!]).Contains(position))
                    .When(request => request.Asks is not null)
                    .OverridePropertyName("asks.position")
                    .WithMessage(request =>
                        $"One of: {string.Join(", ", Covering.PositionsOf(CoveringRules.ByCode[request.Code!]))}; or null for all."
                    );
                RuleFor(request => request.Asks!.Process)
                    .Must((request, process) => process is null || CoveringRules.ByCode[request.Code!].Processes.Contains(process))
                    .When(request => request.Asks is not null)
                    .OverridePropertyName("asks.process")
                    .WithMessage(request => $"One of: {string.Join(", ", CoveringRules.ByCode[request.Code!].Processes)}; or null for all.");
            }
        );
        RuleFor(request => request.Asks!)
            .ChildRules(asks =>
            {
                asks.RuleFor(one => one.Product)
                    .Must(product => product is null or Product.Plate or Product.Pipe)
                    .WithMessage("Give one of: plate, pipe; or null for both.");
                asks.RuleFor(one => one.ThicknessMm)
                    .Must(mm => mm is null or (> 0 and <= MostMm))
                    .WithMessage("The thickness is over 0 and at most 500 mm, or null for any.");
                asks.RuleFor(one => one.OutsideDiameterMm)
                    .Must((one, mm) => mm is null || (one.Product != Product.Plate && mm is > 0 and <= MostDiameterMm))
                    .WithMessage("The outside diameter of pipe is over 0 and at most 5000 mm, or null for any; plate has none.");
                asks.RuleFor(one => one.FNumber)
                    .Must(number => number is null or (>= 1 and <= 72))
                    .WithMessage("Give the F-number, 1 to 72, or null for all.");
            })
            .When(request => request.Asks is not null);
    }

    private static bool IsIso(string position) => position.StartsWith('P') || position.EndsWith("L045", StringComparison.Ordinal);

    private static bool IsPosition(Product product, WeldKind weld, string? position) =>
        position is not null
        && CoveringRules.ByCode.Values.Any(rules =>
        {
            var table = Positions.Of(rules.Positions)!;
            // A plate coupon is none of API 1104, and no less a coupon for that.
            return table
                .PositionsOf(product, weld)
                .Any(known =>
                    known == position
                    || known == Positions.NameIn(table, product, position, Progression.Uphill)
                    || known == Positions.NameIn(table, product, position, Progression.Downhill)
                );
        });
}

/// <summary>Whether passed coupons cover a weld.</summary>
public static class Covered
{
    public static Ok<CoverAnswer> Answer(CoveredRequest request)
    {
        var asks = request.Asks!;
        return TypedResults.Ok(
            Covering.Of(
                CoveringRules.ByCode[request.Code!],
                [.. request.Tests!.Select(test => CouponOf(test!))],
                new AskedWeld(
                    asks.Product,
                    asks.Weld,
                    asks.Position,
                    asks.ThicknessMm,
                    asks.OutsideDiameterMm,
                    asks.Backing,
                    asks.Process,
                    asks.FNumber,
                    asks.Progression,
                    asks.PNumber,
                    asks.FillerGroup,
                    asks.Covering,
                    asks.Joint ?? PipeJoint.Butt,
                    asks.Rotated ?? false,
                    asks.Layers
                )
            )
        );
    }

    private static PassedCoupon CouponOf(CoveringTest test) =>
        new(
            test.Product!.Value,
            test.Weld!.Value,
            test.Position!,
            test.ThicknessMm!.Value,
            test.OutsideDiameterMm,
            test.Backing!.Value,
            test.Process!,
            test.FNumber,
            test.Progression ?? Progression.None,
            test.Layers,
            test.PNumber,
            test.FillerGroup,
            test.Covering,
            test.TestedBy == TestedBy.Film,
            test.MonthsSinceProcessUsed,
            test.Scope == "multiple",
            test.Joint ?? PipeJoint.Butt
        );
}
