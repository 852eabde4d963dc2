using Gradus.Core.Coaching;
using Gradus.Core.Inspection;
using Gradus.Core.Library;
using Gradus.Core.Safety;
using Gradus.Core.Vocabulary;
using Gradus.Data;
using Gradus.Server.Library;
using Gradus.Server.School;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Coaching;

/// <summary>Makes the sheet from which an instructor shows a class how a fault is avoided.</summary>
public sealed class Demonstration(GradusContext db, SchoolLibrary library, Speaker speaker, SchoolClock clock)
{
    private const int Days = 14;
    private const int CausesShown = 3;

    /// <summary>The sheet for a fault of a stage, on the test on which the class has it most of late; null when nobody has it.</summary>
    /// <param name="classId">The class; the whole school when left out.</param>
    public async Task<DemonstrationSheet?> Read(Guid? classId, DiscontinuityKind kind, Stage stage, string? language, CancellationToken cancel)
    {
        var since = clock.Now.AddDays(-Days);
        var tests = await db
            .Coupons.AsNoTracking()
            .Where(coupon => coupon.StartedAt >= since && (classId == null || coupon.Student!.ClassGroupId == classId))
            .Where(coupon => coupon.Findings.Any(one => one.WithdrawnAt == null && one.Kind == kind && one.Stage == stage))
            .GroupBy(coupon => coupon.TestId)
            .Select(group => new { group.Key, Coupons = group.Count() })
            .ToListAsync(cancel);
        var test = tests
            .Where(one => library.Tests.ContainsKey(one.Key))
            .OrderByDescending(one => one.Coupons)
            .ThenBy(one => one.Key, StringComparer.Ordinal)
            .Select(one => library.Tests[one.Key])
            .FirstOrDefault(one => one.Stages.Contains(stage));
        if (test is null)
        {
            return null;
        }

        var words = language is null ? await speaker.Words(cancel) : await speaker.In(language, cancel);
        var beads = test.Beads();
        var bead = beads.First(one => one.Stage == stage);
        var place = CoachBook.PlaceOf(test, beads, bead, CoachBook.ZonesOf(test)[0]);
        return new DemonstrationSheet(
            words.Say(Discontinuities.Of(kind).Name),
            stage,
            test.Id,
            words.Say(test.Title),
            bead.Key,
            test.Section(),
            test.Passes[bead.Pass].Progression,
            [.. CauseFinder.Rank(kind, CauseFacts.Of(test, test.Passes[bead.Pass])).Take(CausesShown).Select(cause => cause.In(words))],
            CoachBook.Card(place, words),
            Procedures.RestartOf(place, words),
            [
                .. Cautions
                    .BySteps(test, beads)
                    .Where(one => one.At == beads[0].Key || one.At == bead.Key)
                    .SelectMany(one => one.Texts)
                    .Select(words.Say),
            ],
            words.Say(Cautions.Line)
        );
    }
}
