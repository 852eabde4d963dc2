using Gradus.Core.Inspection;
using Gradus.Core.Library;
using Gradus.Core.Welding;

namespace Gradus.Server.Library;

/// <summary>A test to choose from.</summary>
public sealed record TestRow(
    string Id,
    string Title,
    Product Product,
    IReadOnlyList<string> Positions,
    IReadOnlyList<VariantGroup> Variants,
    IReadOnlyList<Drill> Drills,
    IReadOnlyList<Stage> Stages
);

/// <summary>A kind of discontinuity to choose from, with the measures that size it.</summary>
public sealed record FindingKind(
    DiscontinuityKind Kind,
    string Name,
    string? ShopName,
    IReadOnlyList<Stage> Stages,
    bool Hidden,
    IReadOnlyList<FindingMeasure> Measures
);

/// <summary>What the library offers. Its bounds are those of the shipped data.</summary>
public static class Endpoints
{
    public static void MapLibrary(this IEndpointRouteBuilder routes)
    {
        var group = routes.MapGroup("/api").WithTags("Library").AllowAnonymous();
        group.MapGet("/tests", Tests).Produces<IReadOnlyList<TestRow>>();
        group.MapGet("/finding-kinds", Kinds).Produces<IReadOnlyList<FindingKind>>();
        group
            .MapGet("/schemas/test-template", () => TypedResults.Json(TestLibrary.Schema(), contentType: "application/schema+json"))
            .ExcludeFromDescription();
    }

    private static List<TestRow> Tests() =>
        [
            .. TestLibrary
                .Shipped.Values.OrderBy(test => test.Id, StringComparer.Ordinal)
                .Select(test => new TestRow(test.Id, test.Title, test.Product, test.Positions, test.Variants, test.Drills, test.Stages)),
        ];

    private static List<FindingKind> Kinds() =>
        [.. Discontinuities.All.Select(entry => new FindingKind(entry.Kind, entry.Name, entry.ShopName, entry.Stages, entry.Hidden, entry.Measures))];
}
