using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.ChangeTracking;
using Microsoft.EntityFrameworkCore.Metadata.Builders;

namespace Gradus.Data.Configurations;

internal sealed class DeviceConfiguration : IEntityTypeConfiguration<Device>
{
    public void Configure(EntityTypeBuilder<Device> builder)
    {
        builder.HasIndex(device => device.KeyHash).IsUnique();
    }
}

internal sealed class ArcBatchConfiguration : IEntityTypeConfiguration<ArcBatch>
{
    public void Configure(EntityTypeBuilder<ArcBatch> builder) => builder.HasKey(batch => new { batch.DeviceId, batch.Sequence });
}

// No keys to passes and coupons: a trace stands by itself, and its bead may be taken back.
internal sealed class TraceConfiguration : IEntityTypeConfiguration<TraceRecord>
{
    public void Configure(EntityTypeBuilder<TraceRecord> builder)
    {
        builder.Property(trace => trace.Reading).AsKept();
        builder.HasIndex(trace => new { trace.BoothId, trace.ArcEndedAt });
        builder.HasIndex(trace => trace.ArcEndedAt);
        builder.HasIndex(trace => trace.CouponId);
        builder.HasIndex(trace => new { trace.StudentId, trace.ArcEndedAt });
        builder.HasIndex(trace => new { trace.RawGoneAt, trace.ArcEndedAt });
    }
}

// No key to its coupon either: tables that are there are not made anew for it.
internal sealed class LabOrderConfiguration : IEntityTypeConfiguration<LabOrder>
{
    public void Configure(EntityTypeBuilder<LabOrder> builder)
    {
        builder.Property(order => order.Specimens).AsList();
        builder.Property(order => order.Report).AsKept();
        builder.HasIndex(order => order.CouponId);
        builder.HasIndex(order => new
        {
            order.DeviceId,
            order.DoneAt,
            order.ReturnedAt,
        });
        builder.HasIndex(order => new { order.DoneAt, order.ReturnedAt });
    }
}
