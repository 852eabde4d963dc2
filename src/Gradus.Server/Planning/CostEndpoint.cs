using FluentValidation;
using Gradus.Core.Planning;
using Gradus.Server.Hosting;
using Gradus.Server.Library;

namespace Gradus.Server.Planning;

/// <summary>A coupon of a test, with the options of its variants.</summary>
/// <param name="DrillId">A part of it; null for a full coupon.</param>
public sealed record CostRequest(string? TestId, Dictionary<string, string>? Choices, string? DrillId);

/// <summary>What a coupon takes and costs at the school's prices.</summary>
/// <param name="BoothCost">The booth for its minutes.</param>
/// <param name="TotalCost">Everything together, in the school's currency.</param>
public sealed record CostView(double BoothMinutes, double BoothCost, IReadOnlyList<StockDraw> Draws, double TotalCost);

public sealed class CostRequestValidator : AbstractValidator<CostRequest>
{
    public CostRequestValidator()
    {
        RuleFor(request => request.TestId).NeedsText(12, "the test");
        RuleFor(request => request.Choices).Must(choices => choices is null or { Count: <= 40 }).WithMessage("At most 40 choices.");
    }
}

/// <summary>The cost of a coupon.</summary>
public static class CostEndpoint
{
    public static void MapCost(this IEndpointRouteBuilder routes) =>
        routes.MapGroup("/api").WithTags("Plan").MapPost("/calc/cost", Cost).Validated<CostRequest>().Produces<CostView>().ProducesProblem(404);

    private static async Task<IResult> Cost(CostRequest request, SchoolLibrary library, SetupBook setups, CancellationToken cancel)
    {
        if (!library.Tests.TryGetValue(request.TestId!, out var shipped))
        {
            return Refusal.NotFound("testId", "No such test in the library.").ToResult();
        }

        var test = shipped.With(request.Choices ?? []);
        var drill = test.Drills.FirstOrDefault(one => one.Id == request.DrillId);
        if (request.DrillId is not null && drill is null)
        {
            return Refusal.NotFound("drillId", "The test has no such drill.").ToResult();
        }

        var prices = (await setups.Read(cancel)).Prices;
        var work = ItemWork.Of(test, drill, LoggedWork.None, prices);
        var booth = work.BoothMinutes / MinutesPerHour * prices["boothHour"];
        return TypedResults.Ok(new CostView(work.BoothMinutes, booth, work.Draws, work.Cost));
    }

    private const double MinutesPerHour = 60;
}
