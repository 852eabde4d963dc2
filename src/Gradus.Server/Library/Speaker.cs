using System.Security.Claims;
using Gradus.Core.Vocabulary;
using Gradus.Data;
using Gradus.Server.Accounts;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Library;

/// <summary>The coach's sentences as the school says them, kept in memory until one is changed.</summary>
public sealed class SchoolSentences
{
    private volatile IReadOnlyDictionary<string, SchoolWords>? known;
    private volatile int changes;

    /// <summary>By the sentence that each stands for.</summary>
    public async Task<IReadOnlyDictionary<string, SchoolWords>> Read(GradusContext db, CancellationToken cancel)
    {
        if (known is { } kept)
        {
            return kept;
        }

        // What was read while one was changed is good for this answer only.
        var before = changes;
        IReadOnlyDictionary<string, SchoolWords> read = (await db.Sentences.AsNoTracking().ToListAsync(cancel))
            .GroupBy(one => one.Sentence)
            .ToDictionary(
                group => group.Key,
                group => new SchoolWords(group.ToDictionary(one => one.Language, one => one.Says, StringComparer.Ordinal)),
                StringComparer.Ordinal
            );
        if (before == changes)
        {
            known = read;
        }

        return read;
    }

    /// <summary>One was changed: they are read anew.</summary>
    public void Forget()
    {
        Interlocked.Increment(ref changes);
        known = null;
    }
}

/// <summary>Speaks to whoever asks: in the language of their choice, with the school's own words.</summary>
public sealed class Speaker(IHttpContextAccessor context, SchoolSentences sentences, GradusContext db)
{
    private Wording? mine;

    /// <summary>The language of whoever asks; English for nobody.</summary>
    public async Task<Wording> Words(CancellationToken cancel) => mine ??= await In(await Language(cancel), cancel);

    /// <summary>A language, with the school's own words.</summary>
    public async Task<Wording> In(string? language, CancellationToken cancel) => Wording.In(language).With(await sentences.Read(db, cancel));

    private async Task<string?> Language(CancellationToken cancel) =>
        context.HttpContext?.User is { Identity.IsAuthenticated: true } user && user.FindFirstValue(ClaimTypes.NameIdentifier) is not null
            ? await db.People.Where(one => one.Id == user.PersonId()).Select(one => one.Language).FirstOrDefaultAsync(cancel)
            : null;
}
