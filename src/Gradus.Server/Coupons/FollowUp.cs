using System.Text.Json;
using Gradus.Core;
using Gradus.Core.Bench;
using Gradus.Core.Library;
using Gradus.Data;
using Gradus.Server.Hosting;
using Gradus.Server.Library;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Coupons;

/// <summary>
/// What an event does to its coupon beside standing on it: opens it again, puts right what it is, or brings a later closing to stand beside the
/// signed one. And what taking it back undoes.
/// </summary>
public sealed class FollowUp(GradusContext db, SchoolLibrary library)
{
    /// <summary>Whether what is put right is there: the student, the test with its drill and variants, the booth.</summary>
    public async Task<Refusal?> Check(Coupon coupon, CouponCorrection correction, CancellationToken cancel)
    {
        if (correction.StudentId is { } studentId)
        {
            if (await db.Students.AsNoTracking().FirstOrDefaultAsync(one => one.Id == studentId, cancel) is not { } student)
            {
                return Refusal.NotFound("body.correction.studentId", "A student of this school.");
            }

            if (student.LeftAt is not null)
            {
                return Refusal.Conflict("body.correction.studentId", $"{student.Name} has left. Let the student come back first.");
            }
        }

        if (correction.BoothId is { } booth && !await db.Booths.AnyAsync(one => one.Id == booth, cancel))
        {
            return Refusal.NotFound("body.correction.boothId", "A booth of this school.");
        }

        if (correction.TestId is { } testId && !library.Tests.ContainsKey(testId))
        {
            return Refusal.Field("body.correction.testId", $"Give one of: {string.Join(", ", library.Tests.Keys.Order(StringComparer.Ordinal))}.");
        }

        var now = After(coupon, correction);
        var test = library.Test(now.TestId!, now.TestVersion!.Value);
        if (now.DrillId is not null && test.Drills.All(drill => drill.Id != now.DrillId))
        {
            return Refusal.Field(
                "body.correction.drillId",
                $"Say full, or give a drill of {test.Id}: {string.Join(", ", test.Drills.Select(drill => drill.Id))}."
            );
        }

        if (
            correction.Variants?.All(chosen => test.Variants.Any(group => group.Id == chosen.Key && group.Options.Any(one => one.Id == chosen.Value)))
            == false
        )
        {
            return Refusal.Field("body.correction.variants", "Give for each variant group of the test one of its options.");
        }

        if (correction.JudgedBy is { } by && !library.JudgeableBy(test.Id).Contains(by))
        {
            return Refusal.Field("body.correction.judgedBy", $"Give one of: {string.Join(", ", library.JudgeableBy(test.Id))}.");
        }

        var stages = test.With(now.Variants!).StagesOf(now.DrillId);
        var lost = coupon
            .Passes.Where(one => one.WithdrawnAt is null)
            .Select(one => one.Stage)
            .Concat(coupon.Findings.Where(one => one.WithdrawnAt is null && one.Stage != Core.Vocabulary.Stage.FitUp).Select(one => one.Stage))
            .Where(stage => !stages.Contains(stage))
            .Distinct()
            .ToList();
        return lost.Count == 0
            ? null
            : Refusal.Conflict(
                "body.correction",
                $"{test.Id} has no {string.Join(" or ", lost.Select(stage => stage.ToString().ToLowerInvariant()))} pass{(now.DrillId is null ? "" : " in that drill")}: take back what was logged of it first."
            );
    }

    /// <summary>What a recorded event does. It stands on the coupon already.</summary>
    public async Task Follow(Coupon coupon, EventRecord told, CancellationToken cancel)
    {
        switch (told.Kind)
        {
            case BenchEventKind.Reopened:
                Chain(coupon)[0].EndedBy = told.Id;
                break;
            case BenchEventKind.Corrected:
                coupon.StartedAs ??= coupon.Said();
                Apply(coupon, After(coupon, told.Body.Correction!));
                break;
            case BenchEventKind.SpecimenTested:
                await Beside(coupon, told, cancel);
                break;
            default:
                break;
        }
    }

    /// <summary>What taking an event back undoes. It stands on the coupon no more.</summary>
    public async Task Undo(Coupon coupon, EventRecord told, CancellationToken cancel)
    {
        switch (told.Kind)
        {
            case BenchEventKind.Reopened:
                foreach (var closing in coupon.Closings.Where(one => one.EndedBy == told.Id))
                {
                    closing.EndedBy = null;
                }

                break;
            case BenchEventKind.Corrected:
                Apply(coupon, told.Body.Was!);
                break;
            case BenchEventKind.SpecimenTested when Chain(coupon).Any(one => one.EventId == told.Id):
                var later = Chain(coupon).Where(one => one.EventId is not null).ToList();
                foreach (var one in later)
                {
                    (one.WithdrawnAt, one.WithdrawnBy) = (told.WithdrawnAt, told.WithdrawnBy);
                }

                await db.SaveChangesAsync(cancel); // one closing counts at a time, also between two statements
                coupon.Closings.First(one => one.WithdrawnAt is null && one.EndedBy == later[^1].Id).EndedBy = null;
                var left = later.Select(one => one.EventId).ToHashSet();
                if (coupon.Events.LastOrDefault(one => one.WithdrawnAt is null && left.Contains(one.Id)) is { } last)
                {
                    await Beside(coupon, last, cancel);
                }

                break;
            default:
                break;
        }
    }

    /// <summary>
    /// Whether a coupon shows something else than when it was opened again: then the closing of before does not fit it, and the opening is not
    /// taken back.
    /// </summary>
    public static bool HasMoved(Coupon coupon, EventRecord reopened, CouponLog now)
    {
        var kept = coupon.Closings.FirstOrDefault(one => one.WithdrawnAt is null && one.EndedBy == reopened.Id)?.Verdict;
        return kept is not null && Shown(kept) != Shown(now.Verdict());

        static string Shown(CouponVerdict verdict) =>
            JsonSerializer.Serialize(
                new
                {
                    verdict.Seen,
                    verdict.Visual,
                    verdict.Missing,
                    Specimens = verdict.Specimens ?? [],
                },
                CoreJson.Options
            );
    }

    /// <summary>The closings that stand on a coupon, the one that counts first and the signed one last.</summary>
    public static IReadOnlyList<ClosingRecord> Chain(Coupon coupon)
    {
        var standing = coupon.Closings.Where(one => one.WithdrawnAt is null).ToList();
        var chain = new List<ClosingRecord>();
        for (var next = standing.FirstOrDefault(one => one.EndedBy is null); next is not null; )
        {
            chain.Add(next);
            next = standing.FirstOrDefault(one => one.EndedBy == chain[^1].Id);
        }

        return chain;
    }

    /// <summary>A closing beside the signed one, when the coupon is closed: the signed verdict stays as it is.</summary>
    private async Task Beside(Coupon coupon, EventRecord told, CancellationToken cancel)
    {
        await CouponLoad.AddTraces(db, coupon, cancel);
        var log = CouponLogs.Of(coupon, library);
        if (log.Later() is not { } later)
        {
            return;
        }

        var closing = CouponRecorder.Closing(
            Guid.CreateVersion7(),
            coupon.Id,
            later.Made,
            told.HappenedAt,
            told.RecordedAt,
            told.RecordedBy,
            told.SentBy,
            CouponRecorder.Unconfirmed(coupon),
            later.Because,
            told.Id
        );
        Chain(coupon)[0].EndedBy = closing.Id;
        await db.SaveChangesAsync(cancel); // as above
        db.Closings.Add(closing);
    }

    private CouponCorrection After(Coupon coupon, CouponCorrection correction)
    {
        var was = coupon.Said();
        var changed = correction.TestId is { } id && id != coupon.TestId;
        var test = changed ? library.Tests[correction.TestId!] : library.Test(coupon.TestId, coupon.TestVersion);
        var drill = correction.Full == true ? null : correction.DrillId ?? was.DrillId;
        return new CouponCorrection(
            correction.StudentId ?? was.StudentId,
            test.Id,
            test.Version,
            drill,
            drill is null,
            test.Variants.ToDictionary(
                group => group.Id,
                group => correction.Variants?.GetValueOrDefault(group.Id) ?? Known(group, was.Variants!.GetValueOrDefault(group.Id))
            ),
            correction.BoothId ?? was.BoothId,
            correction.AsTest ?? was.AsTest,
            ByOf(test, correction.JudgedBy ?? was.JudgedBy)
        );
    }

    private static string Known(VariantGroup group, string? option) => group.Options.Any(one => one.Id == option) ? option! : group.Options[0].Id;

    /// <summary>Another profile than the test's own, as far as the test can be judged by it.</summary>
    private string? ByOf(TestTemplate test, string? judgedBy) =>
        judgedBy == test.Code || !library.JudgeableBy(test.Id).Contains(judgedBy) ? null : judgedBy;

    private static void Apply(Coupon coupon, CouponCorrection said)
    {
        (coupon.StudentId, coupon.TestId, coupon.TestVersion) = (said.StudentId!.Value, said.TestId!, said.TestVersion!.Value);
        (coupon.DrillId, coupon.Variants, coupon.BoothId, coupon.AsTest) = (said.DrillId, said.Variants!, said.BoothId, said.AsTest!.Value);
        coupon.JudgedBy = said.JudgedBy;
    }
}
