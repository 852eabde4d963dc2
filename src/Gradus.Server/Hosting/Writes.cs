using Gradus.Data;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Hosting;

/// <summary>One write at a time: whoever writes waits here for a turn, not in the database.</summary>
public sealed class WriteGate : IDisposable
{
    private readonly SemaphoreSlim turn = new(1, 1);

    /// <summary>Waits for the turn; it ends when what is returned is disposed.</summary>
    public async Task<IDisposable> Enter(CancellationToken cancel)
    {
        var asked = System.Diagnostics.Stopwatch.GetTimestamp();
        await turn.WaitAsync(cancel);
        Metrics.Waited(System.Diagnostics.Stopwatch.GetElapsedTime(asked));
        return new Turn(turn);
    }

    public void Dispose() => turn.Dispose();

    private sealed class Turn(SemaphoreSlim turn) : IDisposable
    {
        private SemaphoreSlim? held = turn;

        public void Dispose() => Interlocked.Exchange(ref held, null)?.Release();
    }
}

/// <summary>
/// A write is whole: load, check and save are one turn and one transaction. What is refused or fails leaves nothing behind, and nothing is told
/// of a write before it is committed.
/// </summary>
public sealed class Writes(GradusContext db, WriteGate gate)
{
    private readonly List<Action> onCommit = [];
    private readonly List<Action> onRollback = [];

    /// <summary>Does something once the write is committed, and not at all when it is not.</summary>
    public void OnCommit(Action act) => onCommit.Add(act);

    /// <summary>Undoes something when the write is not kept.</summary>
    public void OnRollback(Action act) => onRollback.Add(act);

    /// <summary>Runs a write. Inside another one it is part of that.</summary>
    /// <param name="stands">Whether what came of it is to be kept.</param>
    public async Task<T> Whole<T>(Func<Task<T>> write, Func<T, bool> stands, CancellationToken cancel)
    {
        if (db.Database.CurrentTransaction is not null)
        {
            return await write();
        }

        using var turn = await gate.Enter(cancel);
        var isKept = false;
        try
        {
            // Begins by taking the write lock, so that nobody else's write comes between the reading and the saving.
            await using var transaction = await db.Database.BeginTransactionAsync(cancel);
            var result = await write();
            if (!stands(result))
            {
                await transaction.RollbackAsync(CancellationToken.None);
                return result;
            }

            // Whoever sent it may be gone by now; what was checked is kept all the same.
            await transaction.CommitAsync(CancellationToken.None);
            isKept = true;
            return result;
        }
        finally
        {
            (isKept ? onCommit : onRollback).ForEach(act => act());
            onCommit.Clear();
            onRollback.Clear();
        }
    }

    /// <summary>Runs a write that is kept unless it is refused.</summary>
    public Task<Outcome<T>> Whole<T>(Func<Task<Outcome<T>>> write, CancellationToken cancel)
        where T : class => Whole(write, outcome => outcome.Refusal is null, cancel);
}

/// <summary>Marks an endpoint whose handler is one whole write.</summary>
public sealed class WriteMark;

/// <summary>Endpoints that write.</summary>
public static class Writing
{
    /// <summary>Makes the whole handler one write: see <see cref="Writes"/>. The body was read and validated before its turn begins.</summary>
    public static RouteHandlerBuilder Writes(this RouteHandlerBuilder route) =>
        route
            .WithMetadata(new WriteMark())
            .AddEndpointFilter(
                async (context, next) =>
                {
                    var services = context.HttpContext.RequestServices;
                    return await services.GetRequiredService<Writes>().Whole(Do, Stands, context.HttpContext.RequestAborted);

                    async Task<object?> Do()
                    {
                        var result = await next(context);
                        if (Stands(result) && !Trail.IsRepeat(result))
                        {
                            await Trail.Keep(
                                context.HttpContext,
                                services.GetRequiredService<GradusContext>(),
                                services.GetRequiredService<TimeProvider>()
                            );
                        }

                        return result;
                    }
                }
            );

    private static bool Stands(object? result) => result is not IStatusCodeHttpResult { StatusCode: >= StatusCodes.Status400BadRequest };
}
