using System.Collections.Concurrent;
using Gradus.Data;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Accounts;

/// <summary>
/// Which sessions stand, and as what. Every request asks; the answer is kept in memory until something about that person changes, so that asking
/// costs nothing.
/// </summary>
public sealed class SessionBook(IServiceScopeFactory scopes)
{
    private readonly ConcurrentDictionary<Guid, Standing> known = new();
    private int changes;

    /// <summary>What the bearer of a session is now; null when it has ended, or its stamp is of an earlier PIN.</summary>
    public async ValueTask<PersonRole?> Check(Guid session, Guid person, string stamp)
    {
        if (!known.TryGetValue(session, out var standing))
        {
            var before = Volatile.Read(ref changes);
            await using var scope = scopes.CreateAsyncScope();
            var db = scope.ServiceProvider.GetRequiredService<GradusContext>();
            standing = await db
                .Sessions.Where(one => one.Id == session)
                .Join(
                    db.People.Where(one => one.LeftAt == null),
                    one => one.PersonId,
                    one => one.Id,
                    (_, one) => new Standing(one.Id, one.SecurityStamp!, one.Role)
                )
                .FirstOrDefaultAsync();
            if (standing is null)
            {
                return null;
            }

            // What changed while it was read is read again the next time.
            if (before == Volatile.Read(ref changes))
            {
                known[session] = standing;
            }
        }

        return standing.PersonId == person && standing.Stamp == stamp ? standing.Role : null;
    }

    /// <summary>Something about somebody changed: their sessions are looked up anew.</summary>
    public void Changed(Guid person)
    {
        Interlocked.Increment(ref changes);
        foreach (var (id, standing) in known)
        {
            if (standing.PersonId == person)
            {
                known.TryRemove(id, out _);
            }
        }
    }

    private sealed record Standing(Guid PersonId, string Stamp, PersonRole Role);
}
