using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.ChangeTracking;
using Microsoft.EntityFrameworkCore.Metadata.Builders;

namespace Gradus.Data.Configurations;

internal sealed class SittingConfiguration : IEntityTypeConfiguration<Sitting>
{
    public void Configure(EntityTypeBuilder<Sitting> builder)
    {
        builder.HasIndex(sitting => new { sitting.Day, sitting.StudentId });
        builder.HasIndex(sitting => new { sitting.StudentId, sitting.Day });
        builder.Property(sitting => sitting.Variants).AsWritten();
        builder.Property(sitting => sitting.Rules).AsKept();
        builder.Property(sitting => sitting.Coupons).HasDefaultValue(1);
        builder.Property(sitting => sitting.Turn).HasDefaultValue(Core.Certification.SittingTurn.First);
        builder.Property(sitting => sitting.Moves).AsList().HasDefaultValueSql("'[]'");
        builder.HasOne<Student>().WithMany().HasForeignKey(sitting => sitting.StudentId).OnDelete(DeleteBehavior.Cascade);
    }
}

internal sealed class SittingMarkConfiguration : IEntityTypeConfiguration<SittingMark>
{
    public void Configure(EntityTypeBuilder<SittingMark> builder)
    {
        builder.HasIndex(mark => mark.SittingId);
        builder.HasOne<Sitting>().WithMany().HasForeignKey(mark => mark.SittingId).OnDelete(DeleteBehavior.Restrict);
        builder.HasOne<Person>().WithMany().HasForeignKey(mark => mark.By).OnDelete(DeleteBehavior.Restrict);
        builder.HasOne<Person>().WithMany().HasForeignKey(mark => mark.WitnessId).OnDelete(DeleteBehavior.Restrict);
    }
}

internal sealed class SittingFileConfiguration : IEntityTypeConfiguration<SittingFile>
{
    public void Configure(EntityTypeBuilder<SittingFile> builder) => builder.HasIndex(file => file.OwnerId);
}

internal sealed class CertificateConfiguration : IEntityTypeConfiguration<Certificate>
{
    public void Configure(EntityTypeBuilder<Certificate> builder)
    {
        builder.HasIndex(one => new { one.Number, one.Revision }).IsUnique();
        builder.HasIndex(one => new { one.StudentId, one.IssuedAt });
        builder.HasIndex(one => one.SittingId);
        builder.HasIndex(one => one.IssuedAt);
        builder.Property(one => one.Processes).AsWritten();
        builder.Property(one => one.Positions).AsWritten();
        builder.HasOne<Student>().WithMany().HasForeignKey(one => one.StudentId).OnDelete(DeleteBehavior.Restrict);
        builder.HasOne<Sitting>().WithMany().HasForeignKey(one => one.SittingId).OnDelete(DeleteBehavior.Restrict);
        builder.HasOne<Person>().WithMany().HasForeignKey(one => one.IssuedBy).OnDelete(DeleteBehavior.Restrict);
    }
}

internal sealed class RenewalConfiguration : IEntityTypeConfiguration<CertificateRenewed>
{
    public void Configure(EntityTypeBuilder<CertificateRenewed> builder) => builder.HasIndex(one => one.Number);
}

internal sealed class UseProofConfiguration : IEntityTypeConfiguration<UseProof>
{
    public void Configure(EntityTypeBuilder<UseProof> builder)
    {
        builder.HasIndex(one => new { one.StudentId, one.Day });
        builder.Property(one => one.Within).AsWritten();

        // A coupon shows the use of a process once, whoever signs for it and how often.
        builder.HasIndex(one => new { one.CouponId, one.Process }).IsUnique().HasFilter("\"WithdrawnAt\" IS NULL AND \"CouponId\" IS NOT NULL");
        builder.HasOne<Student>().WithMany().HasForeignKey(one => one.StudentId).OnDelete(DeleteBehavior.Restrict);
        builder.HasOne<Person>().WithMany().HasForeignKey(one => one.SignedBy).OnDelete(DeleteBehavior.Restrict);
    }
}
