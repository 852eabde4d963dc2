using System.Collections.Concurrent;
using Gradus.Core.Planning;
using Gradus.Solver;

namespace Gradus.Server.Planning;

/// <summary>Where the solving of a week is.</summary>
public enum JobState
{
    Running,
    Done,
    Cancelled,
    Failed,
}

/// <summary>A week being solved, or solved and waiting to be accepted.</summary>
/// <param name="Best">Worth of the best plan so far.</param>
/// <param name="Bound">What no plan can exceed; null while it is not known.</param>
public sealed record JobView(
    Guid Id,
    DateOnly Monday,
    JobState State,
    double Best,
    double? Bound,
    double Seconds,
    double SecondsLimit,
    WeekStatus? Status,
    IReadOnlyList<string> Conflicts,
    int? Moves
);

/// <summary>Solves weeks in the background, one for each Monday. A solution waits here until it is accepted; the plan stays as it was meanwhile.</summary>
public sealed partial class WeekJobs(ILogger<WeekJobs> log) : IDisposable
{
    private readonly ConcurrentDictionary<DateOnly, Job> jobs = new();

    // Two cores: one week at a time.
    private readonly SemaphoreSlim turn = new(1);

    private sealed class Job(Guid id, WeekFacts facts, double limit) : IProgress<WeekProgress>, IDisposable
    {
        public Guid Id => id;
        public WeekFacts Facts => facts;
        public double Limit => limit;
        public CancellationTokenSource Cancel { get; } = new();
        public volatile WeekProgress Last = new(0, double.PositiveInfinity, 0);
        public volatile WeekSolution? Solution;
        public volatile JobState State = JobState.Running;

        public void Report(WeekProgress value) => Last = value;

        public void Dispose() => Cancel.Dispose();
    }

    /// <summary>Begins to solve a week; one that runs for the same Monday is cancelled.</summary>
    public JobView Start(WeekFacts facts, double seconds)
    {
        var job = new Job(Guid.CreateVersion7(), facts, seconds);
        if (jobs.TryGetValue(facts.Monday, out var old))
        {
            old.Cancel.Cancel();
        }

        jobs[facts.Monday] = job;
        _ = Task.Run(() => Run(job));
        return View(job);
    }

    /// <summary>The job of a Monday; null when there is none.</summary>
    public JobView? Of(DateOnly monday) => jobs.TryGetValue(monday, out var job) ? View(job) : null;

    /// <summary>Stops it; the best plan so far can still be accepted.</summary>
    public JobView? Stop(DateOnly monday)
    {
        if (!jobs.TryGetValue(monday, out var job))
        {
            return null;
        }

        job.Cancel.Cancel();
        return View(job);
    }

    /// <summary>The cells of a finished job; null while it runs or when there is none.</summary>
    public (WeekFacts Facts, WeekSolution Solution)? Finished(DateOnly monday) =>
        jobs.TryGetValue(monday, out var job) && job.Solution is { } solution ? (job.Facts, solution) : null;

    /// <summary>Forgets a job that was accepted or discarded.</summary>
    public void Forget(DateOnly monday)
    {
        if (jobs.TryRemove(monday, out var job))
        {
            job.Cancel.Cancel();
        }
    }

    private async Task Run(Job job)
    {
        await turn.WaitAsync();
        try
        {
            var solution = WeekSolver.Solve(job.Facts.Week, job.Limit, job, job.Cancel.Token);
            job.Solution = solution;
            job.State = job.Cancel.IsCancellationRequested ? JobState.Cancelled : JobState.Done;
        }
#pragma warning disable CA1031 // Whatever goes wrong is shown, and the school's plan stays as it was.
        catch (Exception error)
#pragma warning restore CA1031
        {
            Failed(log, error);
            job.State = JobState.Failed;
        }
        finally
        {
            turn.Release();
        }
    }

    [LoggerMessage(LogLevel.Error, "A week could not be solved.")]
    private static partial void Failed(ILogger log, Exception error);

    private static JobView View(Job job)
    {
        var solution = job.Solution;
        var bound = solution?.Bound ?? job.Last.Bound;
        var before = job.Facts.Week.Before.Select(cell => (cell.Student, cell.Period, cell.Item)).ToHashSet();
        return new JobView(
            job.Id,
            job.Facts.Monday,
            job.State,
            solution?.Objective ?? job.Last.Best,
            double.IsFinite(bound) ? bound : null,
            solution?.Seconds ?? job.Last.Seconds,
            job.Limit,
            solution?.Status,
            [.. (solution?.Conflicts ?? []).Select(job.Facts.InWords)],
            solution is null || before.Count == 0
                ? null
                : before.Count(cell => !solution.Cells.Any(one => (one.Student, one.Period, one.Item) == cell))
        );
    }

    public void Dispose()
    {
        foreach (var job in jobs.Values)
        {
            job.Cancel.Cancel();
            job.Dispose();
        }

        turn.Dispose();
    }
}
