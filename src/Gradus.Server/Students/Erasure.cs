using System.Security.Claims;
using Gradus.Data;
using Gradus.Server.Accounts;
using Gradus.Server.Coupons;
using Gradus.Server.Hosting;
using Gradus.Server.School;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Students;

/// <summary>
/// Erases a student: the name, what was written of them in words, their sign-in, absences and photos. What was welded and judged stays without a
/// name, or every count of the school would be another. Issued records stay as they were issued: how long a school has to keep them, its law says.
/// </summary>
public sealed class Erasure(GradusContext db, ErasureList list, PhotoStore photos, TimeProvider time)
{
    /// <summary>Erases those who are on the list and are there all the same: a backup from before was put back.</summary>
    public async Task Again(CancellationToken cancel)
    {
        var listed = list.Read();
        if (listed.Count == 0)
        {
            return;
        }

        var ids = listed.Select(one => one.StudentId).ToList();
        var back = await db.Students.Where(one => ids.Contains(one.Id) && one.ErasedAt == null).Select(one => one.Id).ToListAsync(cancel);
        await using (var whole = await db.Database.BeginTransactionAsync(cancel))
        {
            foreach (var one in listed.Where(one => back.Contains(one.StudentId)))
            {
                await Do(one.StudentId, one.By, cancel);
            }

            await whole.CommitAsync(cancel);
        }

        (await PhotosOf(back, cancel)).ForEach(photo => photos.Remove(photo.CouponId, photo.Id));
    }

    /// <summary>Erases a student who has left; once more changes nothing.</summary>
    public async Task<Outcome<Written>> Erase(Guid id, Guid by, Writes writes, CancellationToken cancel)
    {
        if (await db.Students.AsNoTracking().FirstOrDefaultAsync(one => one.Id == id, cancel) is not { } student)
        {
            return Refusal.NotFound("id", "A student.");
        }

        if (student.ErasedAt is not null)
        {
            return new Written(id, false);
        }

        if (student.LeftAt is null)
        {
            return Refusal.Conflict("id", "Say first that the student has left.");
        }

        list.Add(new Erased(id, time.GetUtcNow(), by));
        await Do(id, by, cancel);
        var files = await PhotosOf([id], cancel);
        writes.OnCommit(() => files.ForEach(photo => photos.Remove(photo.CouponId, photo.Id)));
        return new Written(id, true);
    }

    private Task<List<(Guid CouponId, Guid Id)>> PhotosOf(IReadOnlyCollection<Guid> students, CancellationToken cancel) =>
        db
            .Photos.Where(photo => db.Coupons.Any(coupon => coupon.Id == photo.CouponId && students.Contains(coupon.StudentId)))
            .Select(photo => new ValueTuple<Guid, Guid>(photo.CouponId, photo.Id))
            .ToListAsync(cancel);

    private async Task Do(Guid id, Guid by, CancellationToken cancel)
    {
        const string Gone = "erased";
        // What is overwritten is not left in free pages of the file.
        await db.Database.ExecuteSqlRawAsync("PRAGMA secure_delete = ON", cancel);
        var now = time.GetUtcNow();
        var name = $"Erased student {id.ToString("N")[^4..].ToUpperInvariant()}";
        var student = await db.Students.FirstAsync(one => one.Id == id, cancel);
        (student.Name, student.Note, student.ErasedAt) = (name, null, now);
        student.LeftAt ??= now;
        if (await db.People.FirstOrDefaultAsync(one => one.Id == id, cancel) is { } person)
        {
            (person.Name, person.PasswordHash, person.LeftAt) = (name, "", person.LeftAt ?? now);
        }

        await db.SaveChangesAsync(cancel);
        var coupons = db.Coupons.Where(coupon => coupon.StudentId == id).Select(coupon => coupon.Id);
        await db.Sessions.Where(one => one.PersonId == id).ExecuteDeleteAsync(cancel);
        await db.Absences.Where(one => one.StudentId == id).ExecuteDeleteAsync(cancel);
        await db.Notes.Where(one => coupons.Contains(one.CouponId)).ExecuteUpdateAsync(set => set.SetProperty(one => one.Text, Gone), cancel);
        await db
            .Photos.Where(one => coupons.Contains(one.CouponId) && one.WithdrawnAt == null)
            .ExecuteUpdateAsync(set => set.SetProperty(one => one.WithdrawnAt, now).SetProperty(one => one.WithdrawnBy, by), cancel);
        await db
            .Decisions.Where(one => one.StudentId == id && one.Reason != "")
            .ExecuteUpdateAsync(set => set.SetProperty(one => one.Reason, Gone), cancel);
        await db
            .Decisions.Where(one => one.StudentId == id && one.WithdrawnReason != null)
            .ExecuteUpdateAsync(set => set.SetProperty(one => one.WithdrawnReason, Gone), cancel);
        await db
            .SittingResults.Where(one => one.StudentId == id && one.Note != "")
            .ExecuteUpdateAsync(set => set.SetProperty(one => one.Note, Gone), cancel);
        await db.StepCredits.Where(one => one.StudentId == id).ExecuteUpdateAsync(set => set.SetProperty(one => one.Why, Gone), cancel);
        await db.Database.ExecuteSqlAsync(
            $"UPDATE Events SET Body = json_set(Body, '$.note', {Gone}) WHERE json_extract(Body, '$.note') IS NOT NULL AND CouponId IN (SELECT Id FROM Coupons WHERE StudentId = {id})",
            cancel
        );
        await db
            .Closings.Where(one => coupons.Contains(one.CouponId) && one.Because != null)
            .ExecuteUpdateAsync(set => set.SetProperty(one => one.Because, Gone), cancel);
        var sittings = db.Sittings.Where(one => one.StudentId == id);
        await sittings.Where(one => one.Despite != null).ExecuteUpdateAsync(set => set.SetProperty(one => one.Despite, Gone), cancel);
        await sittings.Where(one => one.CancelledWhy != null).ExecuteUpdateAsync(set => set.SetProperty(one => one.CancelledWhy, Gone), cancel);
        await sittings.Where(one => one.VoidedWhy != null).ExecuteUpdateAsync(set => set.SetProperty(one => one.VoidedWhy, Gone), cancel);
        foreach (var sitting in await sittings.ToListAsync(cancel))
        {
            sitting.Moves = [.. sitting.Moves.Select(move => move with { Why = Gone })];
        }

        foreach (var order in await db.LabOrders.Where(one => coupons.Contains(one.CouponId)).ToListAsync(cancel))
        {
            order.Report = order.Report?.Without(Gone);
        }

        await db.SaveChangesAsync(cancel);
    }
}

/// <summary>What belongs to a student: their own file, and that they are erased.</summary>
public static class OwnFileEndpoints
{
    public static void MapOwnFiles(this IEndpointRouteBuilder routes)
    {
        var group = routes.MapGroup("/api/students").WithTags("Students");
        group.MapPut("/{id:guid}/erased", Erase).WithPin().Writes().Produces<Written>().ProducesProblem(404).ProducesProblem(409);
        group.MapGet("/{studentId:guid}/file.json", OwnFile.Give).Kept().Produces<string>(contentType: "application/json").ProducesProblem(404);
    }

    private static async Task<IResult> Erase(Guid id, Erasure erasure, Writes writes, ClaimsPrincipal user, CancellationToken cancel) =>
        (await erasure.Erase(id, user.PersonId(), writes, cancel)).ToResult();
}
