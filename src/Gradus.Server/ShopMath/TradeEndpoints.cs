using System.Collections.Concurrent;
using System.Runtime.CompilerServices;
using Gradus.Core.Certification;
using Gradus.Core.Coaching;
using Gradus.Core.Joints;
using Gradus.Core.Library;
using Gradus.Core.Measure;
using Gradus.Core.Qualification;
using Gradus.Core.Safety;
using Gradus.Core.Welding;
using Gradus.Server.Hosting;
using Gradus.Server.Library;
using Gradus.Solver;
using Microsoft.AspNetCore.Http.HttpResults;

namespace Gradus.Server.ShopMath;

/// <summary>A code as the shop math shows it: its positions and what they qualify, its rules of continuity and retest.</summary>
public sealed record CodeView(
    string Code,
    string Source,
    bool FromMemory,
    IReadOnlyList<PositionRule> Positions,
    ContinuityRule Continuity,
    RetestRule Retest
);

/// <summary>More calculations that need no record: open to anyone who can reach the server.</summary>
public static class TradeEndpoints
{
    public static void Map(RouteGroupBuilder calc)
    {
        calc.MapPost("/calc/bead-plan", Plan).Validated<BeadPlanRequest>().Produces<BeadPlanAnswer>();
        calc.MapPost("/calc/lens", Lens).Validated<LensRequest>().Produces<LensAnswer>();
        calc.MapPost("/calc/continuity", Continuity).Validated<ContinuityRequest>().Produces<Validity>();
        calc.MapPost("/causes", Causes).Validated<CausesRequest>().Produces<IReadOnlyList<LikelyCause>>();
        calc.MapPost("/coverage", Cover).Validated<CoverageRequest>().Produces<CoverageAnswer>();
        calc.MapGet("/codes", Codes).Produces<IReadOnlyList<CodeView>>();
        calc.MapGet("/formulas", () => TypedResults.Ok(Formulas.All)).Produces<IReadOnlyList<Formula>>();
    }

    private static IResult Plan(BeadPlanRequest request)
    {
        try
        {
            return TypedResults.Ok(Answer(request));
        }
        catch (ArgumentException error)
        {
            // What only the geometry can tell: a radius that does not fit, beads too small to fill it.
            return Refusal
                .Field(
                    error.ParamName switch
                    {
                        "radius" => "jRadiusMm",
                        _ => error.ParamName ?? "form",
                    },
                    error.Message.Split(" (Parameter")[0]
                )
                .ToResult();
        }
    }

    private static BeadPlanAnswer Answer(BeadPlanRequest request)
    {
        var joint = new JointPlan(
            request.Form!.Value,
            request.ThicknessMm!.Value,
            null,
            request.BevelDegA ?? 0,
            request.BevelDegB ?? 0,
            request.RootOpeningMm ?? 0,
            request.RootFaceMm ?? 0,
            request.JRadiusMm,
            request.LegMm,
            null,
            0,
            new Backing(request.Strip == true ? BackingKind.Strip : BackingKind.None),
            null,
            null
        );
        var shape = JointShape.Of(joint);
        Length? width = request.BeadWidthMm is { } given ? Length.FromMm(given) : null;
        var overlap = request.Overlap ?? TradeNumbers.Of("beadOverlap");
        var suggested = request.Layers is null ? LayerPlanner.Suggest(shape, request.BeadAreaMm2!.Value, width!.Value, overlap) : null;
        var layers = request.Layers ?? suggested!.Layers;
        var section = BeadPlanner.Plan(joint, layers, request.Position ?? "1G");
        return new BeadPlanAnswer(
            layers,
            section,
            suggested?.FilledMm2 ?? section.Beads.Sum(bead => bead.AreaMm2),
            BeadPlanner.ToFillMm2(shape, joint.Backing.Kind),
            shape.ShrinkageMm,
            shape.MeanWidthMm,
            request.FillBelowFlushMm is { } below && width is { } bead1 ? LayerPlanner.Cap(shape, below, bead1, overlap) : null,
            TradeNumbers.All.Single(number => number.Id == "shrinkageShare").Source
        );
    }

    private static Ok<LensAnswer> Lens(LensRequest request)
    {
        var shade = Cautions.Shade(request.Process!.Value, request.Amps!.Value)!;
        return TypedResults.Ok(
            new LensAnswer(
                shade.Least,
                shade.Suggested,
                shade.Source,
                shade.FromMemory,
                [
                    .. Cautions
                        .All.Where(rule =>
                            rule.Step == CautionStep.FirstArc && rule.When.Metals is null
                            || rule.When.Processes?.Contains(request.Process.Value) == true
                        )
                        .Select(rule => rule.Text),
                ],
                Cautions.OtherShades
            )
        );
    }

    private static Ok<Validity> Continuity(ContinuityRequest request) =>
        TypedResults.Ok(
            Validity.Of(Ranges.ByCode[request.Code!].Continuity, request.QualifiedOn!.Value, request.LastUsedOn!.Value, request.RenewalYears)
        );

    private static Ok<IReadOnlyList<LikelyCause>> Causes(CausesRequest request) =>
        TypedResults.Ok(CauseFinder.Rank(request.Kind!.Value, request.Facts!));

    private static Ok<CoverageAnswer> Cover(CoverageRequest request, SchoolLibrary library, CancellationToken cancel)
    {
        var table = Positions.Of(request.Code!)!;
        var tests = library.Tests.Values.Where(test => test.Kind == TestKind.Test && (request.Tests?.Contains(test.Id) ?? true));
        return TypedResults.Ok(
            CoverageFinder.Find(
                table,
                [.. request.Welds!.Select(weld => weld!.Asked)],
                [
                    .. tests
                        .OrderBy(test => test.Id, StringComparer.Ordinal)
                        .SelectMany(test =>
                            Ways(test, request.Code!)
                                .Select(way => way with { Cost = request.Costs?.TryGetValue(test.Id, out var cost) == true ? cost : way.Cost })
                        ),
                ],
                request.Aim!.Value,
                cancel
            )
        );
    }

    // A version of a test never changes: what its ways count as is worked out once.
    private static readonly ConditionalWeakTable<TestTemplate, ConcurrentDictionary<string, IReadOnlyList<CandidateTest>>> Known = [];

    private static IReadOnlyList<CandidateTest> Ways(TestTemplate test, string code) =>
        Known
            .GetOrCreateValue(test)
            .GetOrAdd(
                code,
                _ =>
                    [
                        .. TestQualification
                            .WaysOf(test, code)
                            .Select(way => new CandidateTest(
                                test.Id,
                                CouponBudget.Of(way.Test).BoothMinutes,
                                way.Passes,
                                way.Choices.Count == 0 ? null : way.Choices,
                                way.Name
                            )),
                    ]
            );

    private static Ok<IReadOnlyList<CodeView>> Codes() =>
        TypedResults.Ok<IReadOnlyList<CodeView>>([
            .. Positions.Codes.Select(code =>
            {
                var (table, rules) = (Positions.Of(code)!, Ranges.ByCode[code]);
                return new CodeView(code, table.Source, table.FromMemory, table.Rules, rules.Continuity, rules.Retest);
            }),
        ]);
}
