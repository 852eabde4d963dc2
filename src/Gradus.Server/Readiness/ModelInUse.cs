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
    public async Task Load(GradusContext db, CancellationToken cancel)
    {
        var last = await db
            .ModelChanges.AsNoTracking()
            .Where(change => change.Adopted)
            .OrderByDescending(change => change.At)
            .ThenByDescending(change => change.Id)
            .FirstOrDefaultAsync(cancel);

        // What was fitted to an earlier model is not of this one.
        constants = last?.Constants is { } own && own.IsOfThisModel ? own : ReadinessConstants.Defaults;
    }
}
