using Gradus.Server.Hosting;

namespace Gradus.Server.Planning;

/// <summary>Weeks are named by their Monday; every path with one passes here.</summary>
internal static class Mondays
{
    private const string Name = "monday";

    /// <summary>Refuses a day in the path that is no Monday, before anything is read.</summary>
    public static TBuilder OnMondays<TBuilder>(this TBuilder routes)
        where TBuilder : IEndpointConventionBuilder =>
        routes.AddEndpointFilter(
            async (context, next) =>
                context.Arguments.OfType<DateOnly>().FirstOrDefault() is { DayOfWeek: DayOfWeek.Monday, Year: > 2000 and < 2200 }
                    ? await next(context)
                    : Refusal.Field(Name, "Give the Monday of the week, as 2026-11-23.").ToResult()
        );
}
