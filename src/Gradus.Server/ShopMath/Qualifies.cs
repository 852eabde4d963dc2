using FluentValidation;
using Gradus.Core.Qualification;
using Gradus.Server.Hosting;
using Microsoft.AspNetCore.Http.HttpResults;

namespace Gradus.Server.ShopMath;

/// <summary>Passed tests of one process, and the code to read them by.</summary>
public sealed record QualifiesRequest(string? Code, IReadOnlyList<PassedTestRequest>? Tests);

/// <summary>A passed test by its essential variables. Positions by AWS A3.0, or by ISO 6947 for ISO 9606-1.</summary>
public sealed record PassedTestRequest(
    Product? Product,
    WeldKind? Weld,
    string? Position,
    double? ThicknessMm,
    double? OutsideDiameterMm,
    bool? Backing,
    string? Process,
    int? FNumber,
    Progression? Progression,
    int? Layers
);

public sealed class QualifiesRequestValidator : AbstractValidator<QualifiesRequest>
{
    private static readonly string[] Processes = ["SMAW", "GTAW", "GMAW", "GMAW-S", "FCAW", "FCAW-G", "FCAW-S"];

    public QualifiesRequestValidator()
    {
        RuleFor(request => request.Code).NeedsOneOf([.. CoveringRules.ByCode.Keys]);
        RuleFor(request => request.Tests)
            .Must(tests => tests is { Count: >= 1 and <= 20 } && tests.All(test => test is not null))
            .WithMessage("Give 1 to 20 passed tests.");
        RuleFor(request => request.Tests)
            .Must(tests => tests is null || tests.Where(test => test is not null).Select(test => test.Process).Distinct().Count() <= 1)
            .WithMessage("Tests of one process combine. Ask for each process by itself.");
        RuleForEach(request => request.Tests)
            .ChildRules(test =>
            {
                test.RuleFor(one => one.Product).Must(product => product is Product.Plate or Product.Pipe).WithMessage("Give one of: plate, pipe.");
                test.RuleFor(one => one.Weld).NeedsOneOf();
                test.RuleFor(one => one.ThicknessMm).NeedsOver0(500, "the thickness in mm");
                test.RuleFor(one => one.OutsideDiameterMm)
                    .Must((one, diameter) => one.Product == Product.Pipe ? diameter > 2 * one.ThicknessMm && diameter <= 5000 : diameter is null)
                    .WithMessage("For pipe, give the outside diameter in mm, over twice the wall and at most 5000; leave it out for plate.");
                test.RuleFor(one => one.Backing).NotNull().WithMessage("Say true for a test with backing, false for one without.");
                test.RuleFor(one => one.Process).NeedsOneOf(Processes);
                test.RuleFor(one => one.FNumber).Must(number => number is >= 1 and <= 72).WithMessage("Give the F-number, 1 to 72.");
                test.RuleFor(one => one.Layers)
                    .Must(layers => layers is null or (>= 1 and <= 500))
                    .WithMessage("The number of layers is from 1 to 500, or left out.");
                test.RuleFor(one => one.Progression)
                    .Must(
                        (one, progression) =>
                            !Positions.HasProgression(one.Position ?? "") || progression is Progression.Uphill or Progression.Downhill
                    )
                    .WithMessage("In this position, say uphill or downhill.");
            });
        RuleForEach(request => request.Tests)
            .Must((request, test) => test is null || IsPosition(request.Code, test))
            .OverridePropertyName("tests")
            .WithMessage((_, test) => $"'{test?.Position}' is not a test position of that product and weld in that code.");
        RuleForEach(request => request.Tests)
            .Must((request, test) => request.Code != "asme-ix" || !(test?.ThicknessMm >= 12.7) || test.Layers is not null)
            .WithMessage("From 1/2 in up, ASME IX asks for the number of layers.");
        RuleForEach(request => request.Tests)
            .Must((request, test) => request.Code is not ("aws-d1.1" or "aws-d1.6") || !(test?.ThicknessMm < 3.175 - 1e-9))
            .WithMessage("Tests of AWS D1.1 and D1.6 begin at 1/8 in (3.175 mm).");
    }

    private static bool IsPosition(string? code, PassedTestRequest test) =>
        code is null
        || Positions.Of(code) is not { } table
        || test.Product is not { } product
        || test.Weld is not { } weld
        || table.PositionsOf(product, weld).Contains(Positions.NameIn(table, product, test.Position ?? "", test.Progression ?? Progression.None));
}

/// <summary>What passed tests qualify.</summary>
public static class Qualifies
{
    public static Ok<Qualified> Answer(QualifiesRequest request) =>
        TypedResults.Ok(
            Qualifier.Combine(
                Positions.Of(request.Code!)!,
                [
                    .. request.Tests!.Select(test => new PassedTest(
                        test.Product!.Value,
                        test.Weld!.Value,
                        test.Position!,
                        test.ThicknessMm!.Value,
                        test.OutsideDiameterMm,
                        test.Backing!.Value,
                        test.Process!,
                        test.FNumber!.Value,
                        test.Progression ?? Progression.None,
                        test.Layers
                    )),
                ]
            )
        );
}
