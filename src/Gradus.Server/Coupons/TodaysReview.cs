using Gradus.Server.Hosting;
using Gradus.Server.Library;
using Gradus.Server.Readiness;

namespace Gradus.Server.Coupons;

/// <summary>Judges signed coupons anew in the background: when the program starts, and when a lead saves limits.</summary>
public sealed class TodaysReview(IServiceScopeFactory scopes, SchoolLibrary library, ReadinessRenewal readiness, ILogger<TodaysReview> log)
    : WorkOnDemand(log)
{
    public override Task StartAsync(CancellationToken cancellationToken)
    {
        library.LimitsSaved += Start;
        return base.StartAsync(cancellationToken);
    }

    protected override string Failing => "Signed verdicts could not be judged by today's limits.";

    protected override async Task Work(CancellationToken stop)
    {
        await using var scope = scopes.CreateAsyncScope();
        if (await scope.ServiceProvider.GetRequiredService<TodaysBook>().Review(stop) > 0)
        {
            readiness.Start();
        }
    }
}
