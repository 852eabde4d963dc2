using System.Globalization;
using Gradus.Data;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Planning;

/// <summary>A test that counts as passed, and why.</summary>
/// <param name="BySitting">True when a sitting was passed; false when an instructor put it down.</param>
public sealed record Credit(Guid StudentId, string TestId, string Why, bool BySitting);

/// <summary>Reads what counts as passed: sittings that were passed, and what an instructor put down as brought along.</summary>
public static class Credits
{
    /// <summary>The credits of some students, each test once.</summary>
    public static async Task<ILookup<Guid, Credit>> Read(GradusContext db, IReadOnlyCollection<Guid> studentIds, CancellationToken cancel)
    {
        var sat = await db
            .SittingResults.AsNoTracking()
            .Where(result => result.Passed && studentIds.Contains(result.StudentId))
            .GroupBy(result => new { result.StudentId, result.TestId })
            .Select(group => new
            {
                group.Key.StudentId,
                group.Key.TestId,
                Day = group.Max(result => result.Day),
            })
            .ToListAsync(cancel);
        var byHand = await db.StepCredits.AsNoTracking().Where(credit => studentIds.Contains(credit.StudentId)).ToListAsync(cancel);
        return sat.Select(one => new Credit(one.StudentId, one.TestId, $"Passed on {Text(one.Day)}.", true))
            .Concat(
                byHand.Select(one => new Credit(
                    one.StudentId,
                    one.TestId,
                    one.Day is { } day ? $"{one.Why.TrimEnd('.')}, {Text(day)}." : one.Why,
                    false
                ))
            )
            .DistinctBy(one => (one.StudentId, one.TestId))
            .ToLookup(one => one.StudentId);
        static string Text(DateOnly day) => day.ToString("d MMMM yyyy", CultureInfo.InvariantCulture);
    }
}
