using Gradus.Core.Library;
using Gradus.Core.Readiness;
using Gradus.Data;
using Gradus.Server.Hosting;
using Gradus.Server.Library;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Readiness;

/// <summary>Where the fitting of the constants is.</summary>
public enum FittingState
{
    Idle,
    Running,
    Failed,
}

/// <summary>Fits the constants to the school's own history, in the background. They are taken over only when they score better on students held out.</summary>
public sealed partial class ModelFitting(IServiceScopeFactory scopes, ModelInUse inUse, TimeProvider time, ILogger<ModelFitting> log)
{
    /// <summary>Fewer students than this tell nothing of others.</summary>
    public const int LeastStudents = 6;

    // The latest ones: enough to fit by, and done in a minute or two.
    private const int MostHistories = 120;

    /// <summary>A history with fewer coupons on a test is left out.</summary>
    public const int LeastCoupons = 3;
    private int state = (int)FittingState.Idle;

    public FittingState State => (FittingState)Volatile.Read(ref state);

    /// <summary>Begins to fit; false when it runs already.</summary>
    public bool Start(Guid by)
    {
        if (Interlocked.Exchange(ref state, (int)FittingState.Running) == (int)FittingState.Running)
        {
            return false;
        }

        _ = Task.Run(() => Run(by));
        return true;
    }

    /// <summary>The histories to fit by: of each student all tests with enough coupons, of those who welded last.</summary>
    private static async Task<List<StudentHistory>> Histories(
        GradusContext db,
        EvidenceReader evidence,
        SchoolLibrary library,
        CancellationToken cancel
    )
    {
        var some = await db
            .Coupons.AsNoTracking()
            .Where(coupon => coupon.ClosedAt != null && coupon.VoidedAt == null)
            .GroupBy(coupon => new { coupon.StudentId, coupon.TestId })
            .Where(group => group.Count() >= LeastCoupons)
            .OrderByDescending(group => group.Max(coupon => coupon.ClosedAt))
            .Select(group => group.Key)
            .Take(MostHistories)
            .ToListAsync(cancel);
        var histories = new List<StudentHistory>();
        foreach (var student in some.Where(one => library.Tests.ContainsKey(one.TestId)).GroupBy(one => one.StudentId, one => one.TestId))
        {
            var seen = (await evidence.Read(student.Key, cancel)).ToLookup(one => one.TestId, one => one.Evidence);
            histories.Add(new StudentHistory([.. student.Select(test => new TestHistory(SkillTest.Of(library.Tests[test]), [.. seen[test]]))]));
        }

        return histories;
    }

    private async Task Run(Guid by)
    {
        var ended = FittingState.Idle;
        try
        {
            await using var scope = scopes.CreateAsyncScope();
            var db = scope.ServiceProvider.GetRequiredService<GradusContext>();
            var histories = await Histories(
                db,
                scope.ServiceProvider.GetRequiredService<EvidenceReader>(),
                scope.ServiceProvider.GetRequiredService<SchoolLibrary>(),
                CancellationToken.None
            );
            var fitted = ConstantsFit.Fit(histories, ReadinessConstants.Defaults);
            var id = Guid.CreateVersion7();
            db.ModelChanges.Add(
                new ModelChange
                {
                    Id = id,
                    Constants = fitted.Adopted ? fitted.Constants with { Version = $"{fitted.Constants.Version}-{id:N}" } : null,
                    ScoreBefore = fitted.ScoreBefore,
                    ScoreAfter = fitted.ScoreAfter,
                    Students = histories.Count,
                    Coupons = histories.Sum(one => one.Coupons),
                    Adopted = fitted.Adopted,
                    At = time.GetUtcNow(),
                    By = by,
                }
            );
            await scope.ServiceProvider.GetRequiredService<Writes>().Whole(() => db.SaveChangesAsync(), _ => true, CancellationToken.None);
            await inUse.Load(db, CancellationToken.None);
        }
#pragma warning disable CA1031 // Whatever goes wrong is shown, and the constants stay as they were.
        catch (Exception error)
#pragma warning restore CA1031
        {
            Failed(log, error);
            ended = FittingState.Failed;
        }

        Volatile.Write(ref state, (int)ended);
    }

    [LoggerMessage(LogLevel.Error, "The constants could not be fitted.")]
    private static partial void Failed(ILogger log, Exception error);
}
