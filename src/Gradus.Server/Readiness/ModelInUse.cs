using Gradus.Core.Readiness;
using Gradus.Data;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Readiness;

/// <summary>The constants that readiness goes by: the shipped ones, or those fitted to the school's own history.</summary>
public sealed class ModelInUse
{
    private volatile ReadinessConstants constants = ReadinessConstants.Defaults;

    public ReadinessConstants Constants => constants;

    /// <summary>Goes by some constants from now on.</summary>
    public void Use(ReadinessConstants value) => constants = value;

    /// <summary>Takes over what the school adopted last.</summary>
    public async Task Load(GradusContext db, CancellationToken cancel) => constants = await At(db, DateTimeOffset.MaxValue, cancel);

    /// <summary>The constants that the school went by at a moment.</summary>
    public static async Task<ReadinessConstants> At(GradusContext db, DateTimeOffset at, CancellationToken cancel)
    {
        var last = await db
            .ModelChanges.AsNoTracking()
            .Where(change => change.Adopted && change.At <= at)
            .OrderByDescending(change => change.At)
            .ThenByDescending(change => change.Id)
            .FirstOrDefaultAsync(cancel);

        // What was fitted to an earlier model is not of this one.
        return last?.Constants is { } own && own.IsOfThisModel ? own : ReadinessConstants.Defaults;
    }
}
