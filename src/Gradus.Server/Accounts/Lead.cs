using System.Security.Claims;
using Gradus.Data;
using Gradus.Server.Hosting;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Accounts;

/// <summary>What only the lead instructor does.</summary>
public static class Lead
{
    /// <summary>Why somebody may not; null for a lead.</summary>
    public static async Task<Refusal?> Refuse(GradusContext db, ClaimsPrincipal user, string why, CancellationToken cancel)
    {
        var id = user.InstructorId();
        return await db.Instructors.AnyAsync(one => one.Id == id && one.IsLead, cancel)
            ? null
            : new Refusal(
                StatusCodes.Status403Forbidden,
                why,
                new Dictionary<string, string[]> { ["session"] = ["Sign in as the lead instructor."] }
            );
    }
}
