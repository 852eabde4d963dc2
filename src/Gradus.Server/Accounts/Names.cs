using Gradus.Data;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Accounts;

/// <summary>The names of those who record and sign; of those who left, too.</summary>
public static class Names
{
    /// <summary>All of them, by id.</summary>
    public static async Task<IReadOnlyDictionary<Guid, string>> Of(GradusContext db, CancellationToken cancel) =>
        await db.People.AsNoTracking().Select(one => new { one.Id, one.Name }).ToDictionaryAsync(one => one.Id, one => one.Name, cancel);
}
