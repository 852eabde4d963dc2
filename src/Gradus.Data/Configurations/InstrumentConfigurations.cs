using Microsoft.EntityFrameworkCore;
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
        builder.Property(trace => trace.Reading).AsKept(KeptShapes.Marked);
        builder.HasIndex(trace => new { trace.BoothId, trace.ArcEndedAt });
        builder.HasIndex(trace => trace.ArcEndedAt);
        builder.HasIndex(trace => trace.CouponId);
        builder.HasIndex(trace => new { trace.StudentId, trace.ArcEndedAt });
        builder.HasIndex(trace => new { trace.RawGoneAt, trace.ArcEndedAt });
    }
}
