using Gradus.Core.Coaching;
using Gradus.Core.Joints;
using Gradus.Core.Measure;
using Gradus.Core.Vocabulary;
using Gradus.Core.Welding;
using Gradus.Server.Hosting;
using Microsoft.AspNetCore.Http.HttpResults;

namespace Gradus.Server.ShopMath;

/// <summary>What is worked out at the bench: preheat, plunger, travel, the gap that is left. Open to anyone who can reach the server.</summary>
public static class BenchMathEndpoints
{
    public static void Map(RouteGroupBuilder calc)
    {
        calc.MapPost("/calc/preheat", PreheatOf).Validated<PreheatRequest>().Produces<PreheatView>();
        calc.MapPost("/calc/plunger", PlungerOf).Validated<PlungerRequest>().Produces<PlungerView>();
        calc.MapPost("/calc/travel", TravelOf).Validated<TravelRequest>().Produces<TravelAnswer>();
        calc.MapPost("/calc/gap-left", GapOf).Validated<GapLeftRequest>().Produces<GapLeftAnswer>();
    }

    private static Ok<PreheatView> PreheatOf(PreheatRequest request)
    {
        var steel = new SteelAnalysis(
            request.Carbon!.Value,
            request.Manganese!.Value,
            request.Chromium ?? 0,
            request.Molybdenum ?? 0,
            request.Vanadium ?? 0,
            request.Nickel ?? 0,
            request.Copper ?? 0,
            request.Silicon ?? 0
        );
        var group = Preheat.Categories.First(one => one.Id == request.Category);
        var paths = request.PathsMm!.Select(path => path!.Value).ToList();
        var least = Preheat.LeastC(group.Id, paths.Max());
        return TypedResults.Ok(
            new PreheatView(
                steel.CarbonEquivalent,
                steel.CarbonEquivalentWithSilicon,
                steel.IsInSpan,
                paths.Sum(),
                least,
                Preheat.ColdC,
                Preheat.WarmToC,
                request.MetalC is { } metal ? Preheat.IsBelow(least, metal) : null,
                group.Source,
                group.Confidence,
                [.. Preheat.Categories.Select(one => new PreheatGroup(one.Id, one.Name, one.Source, one.Confidence))]
            )
        );
    }

    private static Ok<PlungerView> PlungerOf(PlungerRequest request)
    {
        var row = BendJig.Plungers.First(one => one.Code == request.Code && one.Group == request.Group);
        var specimen = Length.FromMm(request.SpecimenThicknessMm!.Value);
        var plunger = BendJig.Plunger(row, specimen, request.ElongationPercent);
        return TypedResults.Ok(
            new PlungerView(
                plunger.Mm,
                BendJig.DieGap(plunger, specimen).Mm,
                BendJig.OuterStrainPercent(specimen, plunger),
                row.Source,
                row.Confidence,
                [.. BendJig.Plungers.Select(one => new PlungerGroup(one.Code, one.Group, one.Name, one.NeedsElongation))]
            )
        );
    }

    private static Ok<TravelAnswer> TravelOf(TravelRequest request)
    {
        var density = request.DensityKgPerM3 ?? TradeNumbers.Of("densitySteel");
        double? grams = request.RodDiameterMm is { } diameter
            ? Deposit.GramsPerRod(
                Length.FromMm(diameter),
                Length.FromMm(request.RodLengthMm ?? TradeNumbers.Of("rodLengthMm")),
                Length.FromMm(request.StubMm ?? TradeNumbers.Of("stubMm")),
                request.Recovery ?? 1,
                density
            )
            : null;
        var run = Length.FromMm(request.RunMm!.Value);
        var seconds = request.Seconds ?? Travel.RodSeconds(grams!.Value, request.Amps!.Value);
        var speed = Travel.MmPerMin(run, seconds);
        return TypedResults.Ok(
            new TravelAnswer(
                seconds,
                request.Seconds is null,
                speed,
                grams is { } deposit ? Deposit.RodBeadAreaMm2(deposit, run, density) : null,
                request is { Amps: { } amps, Volts: { } volts } ? HeatInput.KjPerMm(volts, amps, speed) : null
            )
        );
    }

    private static Ok<GapLeftAnswer> GapOf(GapLeftRequest request)
    {
        var shape = JointShape.Butt(
            Length.FromMm(request.ThicknessMm!.Value),
            BevelAngle.FromDegrees(request.BevelDegA!.Value),
            BevelAngle.FromDegrees(request.BevelDegB!.Value),
            Length.FromMm(request.RootOpeningMm!.Value),
            Length.FromMm(request.RootFaceMm!.Value),
            Length.FromMm(0)
        );
        var left = GapLeft.Forecast(
            request.RootOpeningMm.Value,
            shape.ShrinkageMm,
            request.Product!.Value,
            request.Tacks!.Value,
            request.IsHeld == true,
            []
        );
        var least = Math.Min(left.EndMm, left.SecondEndMm ?? left.EndMm);
        return TypedResults.Ok(
            new GapLeftAnswer(
                left.ClosesMm,
                left.EndMm,
                left.SecondStartMm,
                left.SecondEndMm,
                [
                    .. GapLeft
                        .All.SelectMany(bands => bands.Bases)
                        .Select(id =>
                            (
                                Base: CoachBook.Bases.First(one => one.Id == id),
                                Advice: GapLeft.Of(id, least, request.DiameterMm!.Value, Wording.English)!
                            )
                        )
                        .Select(one => new GapWay(one.Base.Id, one.Base.Name, one.Advice.Verdict, one.Advice.Says)),
                ]
            )
        );
    }
}
