using Gradus.Core.Inspection;
using Gradus.Core.Joints;
using Gradus.Core.Measure;
using Gradus.Core.Qualification;
using Gradus.Core.Welding;
using Gradus.Server.Hosting;
using Gradus.Server.Library;
using Microsoft.AspNetCore.Http.HttpResults;

namespace Gradus.Server.ShopMath;

/// <summary>Calculations that need no record: open to anyone who can reach the server.</summary>
public static class Endpoints
{
    public static void MapShopMath(this IEndpointRouteBuilder routes)
    {
        var calc = routes.MapGroup("/api").WithTags("Shop math");
        calc.MapPost("/calc/length", Read).Validated<LengthRequest>().Produces<LengthAnswer>();
        calc.MapPost("/calc/groove", Groove).Validated<GrooveRequest>().Produces<GrooveAnswer>();
        calc.MapPost("/calc/beads", Beads).Validated<BeadsRequest>().Produces<BeadsAnswer>();
        calc.MapPost("/calc/heat-input", Heat).Validated<HeatInputRequest>().Produces<HeatInputAnswer>();
        calc.MapPost("/calc/purge", PurgeTime).Validated<PurgeRequest>().Produces<PurgeAnswer>();
        calc.MapPost("/calc/electrode", Electrode).Validated<ElectrodeRequest>().Produces<ElectrodeAnswer>();
        calc.MapPost("/calc/wire", Wire).Validated<WireRequest>().Produces<WireAnswer>();
        calc.MapPost("/calc/bend", Strain).Validated<BendStrainRequest>().Produces<BendStrainAnswer>();
        calc.MapPost("/judge/bend", JudgeBend).Validated<BendRequest>().Produces<TestVerdictAnswer>();
        calc.MapPost("/judge/radiograph", JudgeRadiograph).Validated<RadiographRequest>().Produces<TestVerdictAnswer>();
        calc.MapPost("/qualifies", Qualifies.Answer).Validated<QualifiesRequest>().Produces<Qualified>();
        calc.MapPost("/covered", Covered.Answer).Validated<CoveredRequest>().Produces<CoverAnswer>();
        calc.MapGet("/pipe-sizes", Sizes);
        calc.MapGet("/pipe-sizes/{nps}/{schedule}", Size).Produces<PipeSizeAnswer>().ProducesProblem(StatusCodes.Status404NotFound);
        calc.MapGet("/pipe-sizes/{inches}/{parts}/{schedule}", (string inches, string parts, string schedule) => Size($"{inches}/{parts}", schedule))
            .ExcludeFromDescription(); // NPS 1-1/2 written with its slash as it is
        BreakEndpoints.Map(calc);
        TradeEndpoints.Map(calc);
        BenchMathEndpoints.Map(calc);
        calc.MapPost("/judge/visual", Judge).Validated<VisualRequest>().Produces<VerdictAnswer>();
    }

    private static IResult Read(LengthRequest request)
    {
        LengthUnit? assume = request.Assume switch
        {
            "in" => LengthUnit.Inch,
            "mm" => LengthUnit.Mm,
            _ => null,
        };
        return LengthReader.TryRead(request.Text, assume, out var length, out var error)
            ? TypedResults.Ok(new LengthAnswer(length.Mm, length.ToInchText(), length.ToMmText()))
            : Refusal.Field("text", error).ToResult();
    }

    private static Ok<GrooveAnswer> Groove(GrooveRequest request)
    {
        var groove = new SingleVGroove(
            Length.FromMm(request.ThicknessMm!.Value),
            BevelAngle.FromDegrees(request.BevelDegA!.Value),
            BevelAngle.FromDegrees(request.BevelDegB!.Value),
            Length.FromMm(request.RootOpeningMm!.Value),
            Length.FromMm(request.RootFaceMm!.Value)
        );
        var height = Length.FromMm(request.ReinforcementMm!.Value);
        var lap = Length.FromMm(request.ToeOverlapMm!.Value);
        var (volume, reinforcement) = request.PipeOutsideDiameterMm is { } diameter
            ? (groove.PipeVolumeMm3(Length.FromMm(diameter)), groove.PipeReinforcementVolumeMm3(Length.FromMm(diameter), height, lap))
            : (groove.PlateVolumeMm3(Length.FromMm(request.LengthMm!.Value)), groove.ReinforcementAreaMm2(height, lap) * request.LengthMm!.Value);
        const double CubicMmPerM3 = 1e9;
        return TypedResults.Ok(
            new GrooveAnswer(
                groove.IncludedAngleDegrees,
                groove.BevelA.ProtractorDegrees,
                groove.BevelB.ProtractorDegrees,
                groove.FaceWidthMm,
                groove.CapWidthMm(lap),
                groove.AreaMm2,
                groove.ReinforcementAreaMm2(height, lap),
                volume,
                reinforcement,
                (volume + reinforcement) / CubicMmPerM3 * request.DensityKgPerM3!.Value
            )
        );
    }

    private static Ok<BeadsAnswer> Beads(BeadsRequest request)
    {
        var (width, bead) = (Length.FromMm(request.WidthMm!.Value), Length.FromMm(request.BeadWidthMm!.Value));
        var count = BeadsAcross.Count(width, bead, request.Overlap!.Value);
        return TypedResults.Ok(
            new BeadsAnswer(
                count,
                BeadsAcross.SpacingMm(width, bead, count),
                BeadsAcross.WidthEachMm(width, count, request.Overlap.Value),
                count == 1 ? null : BeadsAcross.WidthEachMm(width, count - 1, request.Overlap.Value)
            )
        );
    }

    private static Ok<HeatInputAnswer> Heat(HeatInputRequest request)
    {
        var kJPerMm = HeatInput.KjPerMm(request.Volts!.Value, request.Amps!.Value, request.TravelMmPerMin!.Value, request.ThermalEfficiency ?? 1);
        return TypedResults.Ok(new HeatInputAnswer(kJPerMm, kJPerMm * Length.MmPerInch));
    }

    private static Ok<PurgeAnswer> PurgeTime(PurgeRequest request)
    {
        var volume = Purge.VolumeL(Length.FromMm(request.InsideDiameterMm!.Value), Length.FromMm(request.LengthMm!.Value));
        return TypedResults.Ok(new PurgeAnswer(volume, Purge.Minutes(volume, request.VolumeChanges!.Value, request.FlowLPerMin!.Value)));
    }

    private static Ok<ElectrodeAnswer> Electrode(ElectrodeRequest request)
    {
        var grams = Deposit.GramsPerRod(
            Length.FromMm(request.DiameterMm!.Value),
            Length.FromMm(request.LengthMm!.Value),
            Length.FromMm(request.StubMm!.Value),
            request.Recovery!.Value,
            request.DensityKgPerM3!.Value
        );
        return TypedResults.Ok(new ElectrodeAnswer(grams, Deposit.Rods(request.RequiredKg!.Value, grams)));
    }

    private static Ok<WireAnswer> Wire(WireRequest request)
    {
        var (diameter, feed, recovery) = (Length.FromMm(request.DiameterMm!.Value), request.FeedMmPerMin!.Value, request.Recovery!.Value);
        return TypedResults.Ok(
            new WireAnswer(
                Deposit.WireKgPerH(diameter, feed, recovery, request.DensityKgPerM3!.Value),
                Deposit.WireBeadAreaMm2(diameter, feed, request.TravelMmPerMin!.Value, recovery)
            )
        );
    }

    private static Ok<BendStrainAnswer> Strain(BendStrainRequest request) =>
        TypedResults.Ok(
            new BendStrainAnswer(
                BendJig.OuterStrainPercent(Length.FromMm(request.SpecimenThicknessMm!.Value), Length.FromMm(request.PlungerDiameterMm!.Value))
            )
        );

    private static Ok<TestVerdictAnswer> JudgeBend(BendRequest request, SchoolLibrary library)
    {
        var specimens = request
            .Specimens!.Select(one => new BendSpecimen(
                one.WallMm,
                [.. one.Discontinuities!.Select(found => new BendDiscontinuity(found.SizeMm, found.Corner ?? false, found.FromSlagOrFusion ?? false))]
            ))
            .ToList();
        return TypedResults.Ok(TestVerdictAnswer.From(BendJudge.Judge(library.Profiles[request.Profile!], specimens)));
    }

    private static Ok<TestVerdictAnswer> JudgeRadiograph(RadiographRequest request, SchoolLibrary library)
    {
        var indications = request
            .Indications!.Select(one => new Indication(one.Kind!.Value, one.SizeMm, one.AtMm, one.WidthMm, one.DenserThanBase))
            .ToList();
        var weld = new FilmedWeld(
            request.ThicknessMm!.Value,
            request.Process,
            request.Product,
            request.OutsideDiameterMm,
            request.WeldLengthMm,
            request.InsideChart
        );
        return TypedResults.Ok(TestVerdictAnswer.From(RadiographJudge.Judge(library.Profiles[request.Profile!], weld, indications)));
    }

    // The table of the standards, which does not grow.
    private static Ok<PipeSizeTable> Sizes() =>
        TypedResults.Ok(
            new PipeSizeTable(
                PipeSizes.Source,
                PipeSizes.FromMemory,
                [
                    .. PipeSizes
                        .NominalSizes.Select(nps => PipeSizes.SchedulesOf(nps).Select(schedule => PipeSizes.Find(nps, schedule)!).ToList())
                        .Select(walls => new PipeSizeRow(
                            walls[0].Nps,
                            walls[0].Dn,
                            walls[0].OutsideDiameter.Mm,
                            [.. walls.Select(size => new PipeWall(size.Schedule, size.Wall.Mm))]
                        )),
                ]
            )
        );

    private static IResult Size(string nps, string schedule)
    {
        nps = Uri.UnescapeDataString(nps);
        if (PipeSizes.Find(nps, schedule) is { } size)
        {
            return TypedResults.Ok(new PipeSizeAnswer(size.OutsideDiameter.Mm, size.Wall.Mm, size.InsideDiameter.Mm, size.Dn));
        }

        var schedules = PipeSizes.SchedulesOf(nps);
        return schedules.Count == 0
            ? Refusal.NotFound("nps", $"One of: {string.Join(", ", PipeSizes.NominalSizes)}.").ToResult()
            : Refusal.NotFound("schedule", $"NPS {nps} comes in: {string.Join(", ", schedules)}.").ToResult();
    }

    private static Ok<VerdictAnswer> Judge(VisualRequest request, SchoolLibrary library)
    {
        var joint = new InspectedJoint(
            request.Product!.Value,
            request.ThicknessMm!.Value,
            request.OpenRoot!.Value,
            request.Weld ?? WeldKind.Groove,
            request.WeldLengthMm ?? (request.OutsideDiameterMm * Math.PI),
            request.Broken ?? false
        );
        var findings = request
            .Findings!.Select(one => new MeasuredFinding(
                one.Kind!.Value,
                one.Stage,
                one.DepthMm,
                one.HeightMm,
                one.LengthMm,
                one.DiameterMm,
                one.WidthMm,
                one.Count,
                null,
                one.AtMm,
                one.FaceHeightThereMm
            ))
            .ToList();
        return TypedResults.Ok(
            VerdictAnswer.From(VisualJudge.Judge(library.Profiles[request.Profile!], joint, findings, request.Fillet is { } fillet ? [fillet] : null))
        );
    }
}
