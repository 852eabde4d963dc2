using System.Data.Common;
using System.Runtime.CompilerServices;
using Gradus.Data;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Diagnostics;

namespace Gradus.Server.Floor;

/// <summary>Notices what is written, and tells the feed once it is committed. Nobody who writes has to think of it.</summary>
public sealed class FloorChanges(FloorFeed feed) : SaveChangesInterceptor, IDbTransactionInterceptor
{
    private readonly ConditionalWeakTable<DbContext, HashSet<(Guid? Student, Guid? Coupon)>> noticed = [];

    public override ValueTask<InterceptionResult<int>> SavingChangesAsync(
        DbContextEventData eventData,
        InterceptionResult<int> result,
        CancellationToken cancellationToken = default
    )
    {
        if (eventData.Context is { } context)
        {
            noticed.GetOrCreateValue(context).UnionWith(context.ChangeTracker.Entries().Where(IsWritten).SelectMany(entry => Of(entry.Entity)));
        }

        return ValueTask.FromResult(result);
    }

    public override ValueTask<int> SavedChangesAsync(
        SaveChangesCompletedEventData eventData,
        int result,
        CancellationToken cancellationToken = default
    )
    {
        if (eventData.Context is { Database.CurrentTransaction: null } context)
        {
            Tell(context);
        }

        return ValueTask.FromResult(result);
    }

    public Task TransactionCommittedAsync(DbTransaction transaction, TransactionEndEventData eventData, CancellationToken cancellationToken = default)
    {
        if (eventData.Context is { } context)
        {
            Tell(context);
        }

        return Task.CompletedTask;
    }

    private static bool IsWritten(Microsoft.EntityFrameworkCore.ChangeTracking.EntityEntry entry) =>
        entry.State is EntityState.Added or EntityState.Modified or EntityState.Deleted;

    private static IEnumerable<(Guid? Student, Guid? Coupon)> Of(object entity) =>
        entity switch
        {
            Coupon coupon => [(coupon.StudentId, null)],
            CouponRecord record => [(null, record.CouponId)],
            LabOrder order => [(null, order.CouponId)],
            Decision decision => [(decision.StudentId, null)],
            SittingResult result => [(result.StudentId, null)],
            Booth or Absence or WeekPlan or PlanSetup or Student or ClassGroup => [(null, null)],
            _ => [],
        };

    private void Tell(DbContext context)
    {
        if (noticed.TryGetValue(context, out var changes))
        {
            foreach (var (student, coupon) in changes)
            {
                feed.Changed(student, coupon);
            }

            changes.Clear();
        }
    }
}
