using Gradus.Core.Bench;
using Gradus.Core.Readiness;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.ChangeTracking;
using Microsoft.EntityFrameworkCore.Metadata.Builders;

namespace Gradus.Data.Configurations;

internal sealed class PersonConfiguration : IEntityTypeConfiguration<Person>
{
    public void Configure(EntityTypeBuilder<Person> builder)
    {
        // Students may be called alike; those who sign may not.
        builder.HasIndex(person => person.Name).IsUnique().HasFilter("\"Role\" <> 'Student'");
        builder.HasIndex(person => person.NormalizedUserName).IsUnique();
        builder.Property(person => person.ConcurrencyStamp).IsConcurrencyToken();

        // A name, a PIN and a stamp are all that is needed; wrong PINs are braked, nobody is locked out.
        builder.Ignore(person => person.Email).Ignore(person => person.NormalizedEmail).Ignore(person => person.EmailConfirmed);
        builder.Ignore(person => person.PhoneNumber).Ignore(person => person.PhoneNumberConfirmed).Ignore(person => person.TwoFactorEnabled);
        builder.Ignore(person => person.LockoutEnd).Ignore(person => person.LockoutEnabled).Ignore(person => person.AccessFailedCount);
    }
}

internal sealed class SessionConfiguration : IEntityTypeConfiguration<SignedSession>
{
    public void Configure(EntityTypeBuilder<SignedSession> builder)
    {
        builder.HasIndex(session => session.PersonId);
        builder.HasOne<Person>().WithMany().HasForeignKey(session => session.PersonId).OnDelete(DeleteBehavior.Cascade);
    }
}

internal sealed class ClassGroupConfiguration : IEntityTypeConfiguration<ClassGroup>
{
    public void Configure(EntityTypeBuilder<ClassGroup> builder)
    {
        builder.Property(group => group.MeetsOn).AsList();
        builder.HasIndex(group => group.Name).IsUnique().HasFilter("\"EndedAt\" IS NULL");
    }
}

internal sealed class StudentConfiguration : IEntityTypeConfiguration<Student>
{
    public void Configure(EntityTypeBuilder<Student> builder)
    {
        builder.HasIndex(student => student.Name);
        builder.HasOne(student => student.ClassGroup).WithMany().HasForeignKey(student => student.ClassGroupId).OnDelete(DeleteBehavior.Restrict);
    }
}

internal sealed class LibraryConfiguration : IEntityTypeConfiguration<LibraryEntry>
{
    public void Configure(EntityTypeBuilder<LibraryEntry> builder)
    {
        builder
            .HasIndex(entry => new
            {
                entry.Kind,
                entry.Key,
                entry.Version,
            })
            .IsUnique();
        builder.HasOne<Person>().WithMany().HasForeignKey(entry => entry.SavedBy).OnDelete(DeleteBehavior.Restrict);
    }
}

internal sealed class SchoolSentenceConfiguration : IEntityTypeConfiguration<SchoolSentence>
{
    public void Configure(EntityTypeBuilder<SchoolSentence> builder)
    {
        builder.HasIndex(one => new { one.Sentence, one.Language }).IsUnique();
        builder.HasOne<Person>().WithMany().HasForeignKey(one => one.By).OnDelete(DeleteBehavior.Restrict);
    }
}

internal sealed class CouponConfiguration : IEntityTypeConfiguration<Coupon>
{
    public void Configure(EntityTypeBuilder<Coupon> builder)
    {
        builder.HasIndex(coupon => coupon.Number).IsUnique();
        builder.HasIndex(coupon => coupon.Stamp).IsUnique();
        builder.HasIndex(coupon => new { coupon.StudentId, coupon.StartedAt });
        builder.HasIndex(coupon => new
        {
            coupon.StudentId,
            coupon.TestId,
            coupon.ClosedAt,
        });
        builder.HasIndex(coupon => new { coupon.StudentId, coupon.ClosedAt });
        builder.HasIndex(coupon => coupon.ClosedAt);
        builder.Property(coupon => coupon.Variants).AsTable();
        builder.Property(coupon => coupon.StartedAs).AsKept();
        builder.Property(coupon => coupon.Terms).AsKept();
        builder.Ignore(coupon => coupon.Traces);
        builder.HasIndex(coupon => coupon.SittingId);
        builder.HasOne(coupon => coupon.Student).WithMany().HasForeignKey(coupon => coupon.StudentId).OnDelete(DeleteBehavior.Restrict);
        builder.HasOne(coupon => coupon.Booth).WithMany().HasForeignKey(coupon => coupon.BoothId).OnDelete(DeleteBehavior.Restrict);
        builder.HasOne<Person>().WithMany().HasForeignKey(coupon => coupon.StartedBy).OnDelete(DeleteBehavior.Restrict);
        builder.HasMany(coupon => coupon.FitUps).WithOne().HasForeignKey(record => record.CouponId).OnDelete(DeleteBehavior.Restrict);
        builder.HasMany(coupon => coupon.Passes).WithOne().HasForeignKey(record => record.CouponId).OnDelete(DeleteBehavior.Restrict);
        builder.HasMany(coupon => coupon.Findings).WithOne().HasForeignKey(record => record.CouponId).OnDelete(DeleteBehavior.Restrict);
        builder.HasMany(coupon => coupon.Notes).WithOne().HasForeignKey(record => record.CouponId).OnDelete(DeleteBehavior.Restrict);
        builder.HasMany(coupon => coupon.Events).WithOne().HasForeignKey(record => record.CouponId).OnDelete(DeleteBehavior.Restrict);
        builder.HasMany(coupon => coupon.Photos).WithOne().HasForeignKey(record => record.CouponId).OnDelete(DeleteBehavior.Restrict);
        builder.HasMany(coupon => coupon.Closings).WithOne().HasForeignKey(record => record.CouponId).OnDelete(DeleteBehavior.Restrict);
    }
}

internal sealed class EventConfiguration : IEntityTypeConfiguration<EventRecord>
{
    public void Configure(EntityTypeBuilder<EventRecord> builder)
    {
        builder.Property(record => record.Body).AsKept();
        builder.HasIndex(record => new { record.CouponId, record.RecordedAt });
    }
}

internal sealed class FitUpConfiguration : IEntityTypeConfiguration<FitUpRecord>
{
    public void Configure(EntityTypeBuilder<FitUpRecord> builder)
    {
        builder.Property(record => record.Measured).AsKept();
        builder.HasIndex(record => new { record.CouponId, record.RecordedAt });
    }
}

internal sealed class PassConfiguration : IEntityTypeConfiguration<PassRecord>
{
    public void Configure(EntityTypeBuilder<PassRecord> builder)
    {
        builder.HasIndex(record => new { record.CouponId, record.RecordedAt });

        // A bead is laid once: two tablets that log it at the same moment do not make two of it. Runs that are part of it may be several.
        builder.HasIndex(record => new { record.CouponId, record.BeadKey }).IsUnique().HasFilter("\"WithdrawnAt\" IS NULL AND \"Part\" = 0");
        builder.Property(record => record.Measured).AsKept();
        builder.Property(record => record.Despite!).AsList();
    }
}

internal sealed class FindingConfiguration : IEntityTypeConfiguration<FindingRecord>
{
    public void Configure(EntityTypeBuilder<FindingRecord> builder)
    {
        builder.HasIndex(record => new { record.CouponId, record.RecordedAt });
        builder.HasOne<PassRecord>().WithMany().HasForeignKey(record => record.PassId).OnDelete(DeleteBehavior.Restrict);
    }
}

internal sealed class ClosingConfiguration : IEntityTypeConfiguration<ClosingRecord>
{
    public void Configure(EntityTypeBuilder<ClosingRecord> builder)
    {
        builder.Property(record => record.Verdict).AsKept();
        builder.Property(record => record.StageClean).AsTable();
        builder.Property(record => record.Facts).AsKept();
        builder.HasIndex(record => record.CouponId).IsUnique().HasFilter("\"WithdrawnAt\" IS NULL AND \"EndedBy\" IS NULL"); // one closing counts
        builder.HasIndex(record => new { record.CouponId, record.RecordedAt });
    }
}

internal sealed class TodaysVerdictConfiguration : IEntityTypeConfiguration<TodaysVerdict>
{
    public void Configure(EntityTypeBuilder<TodaysVerdict> builder)
    {
        builder.HasKey(one => one.ClosingId);
        builder.HasOne<ClosingRecord>().WithOne().HasForeignKey<TodaysVerdict>(one => one.ClosingId).OnDelete(DeleteBehavior.Cascade);
        builder.HasOne<Coupon>().WithMany().HasForeignKey(one => one.CouponId).OnDelete(DeleteBehavior.Cascade);
        builder.Property(one => one.Verdict).AsKept();
        builder.Property(one => one.Facts).AsKept();
        builder.HasIndex(one => new { one.Differs, one.At });
    }
}

internal sealed class DecisionConfiguration : IEntityTypeConfiguration<Decision>
{
    public void Configure(EntityTypeBuilder<Decision> builder)
    {
        builder.Property(decision => decision.Estimate).AsKept();
        builder.Property(decision => decision.Advice).AsKept();
        builder.HasIndex(decision => new { decision.StudentId, decision.SignedAt });
        builder.HasOne<Student>().WithMany().HasForeignKey(decision => decision.StudentId).OnDelete(DeleteBehavior.Restrict);
        builder.HasOne<Person>().WithMany().HasForeignKey(decision => decision.SignedBy).OnDelete(DeleteBehavior.Restrict);
    }
}

internal sealed class SittingResultConfiguration : IEntityTypeConfiguration<SittingResult>
{
    public void Configure(EntityTypeBuilder<SittingResult> builder)
    {
        builder.Property(result => result.Said).AsKept();
        builder.HasIndex(result => new { result.Day, result.Id });
        builder.HasIndex(result => new { result.StudentId, result.Day });
        builder.HasIndex(result => result.SittingId).IsUnique().HasFilter("\"SittingId\" IS NOT NULL"); // one result counts
        builder.HasOne<Student>().WithMany().HasForeignKey(result => result.StudentId).OnDelete(DeleteBehavior.Restrict);
        builder.HasOne<Person>().WithMany().HasForeignKey(result => result.RecordedBy).OnDelete(DeleteBehavior.Restrict);
    }
}

internal sealed class ModelChangeConfiguration : IEntityTypeConfiguration<ModelChange>
{
    public void Configure(EntityTypeBuilder<ModelChange> builder)
    {
        builder.Property(change => change.Constants).AsKept();
        builder.HasIndex(change => change.At);
    }
}

internal sealed class ReadinessConfiguration : IEntityTypeConfiguration<ReadinessRecord>
{
    public void Configure(EntityTypeBuilder<ReadinessRecord> builder)
    {
        builder.HasKey(record => new { record.StudentId, record.TestId });
        builder.HasIndex(record => new { record.Coupons, record.StudentId });
        builder.Property(record => record.Standing).AsKept();
        builder.Property(record => record.LastSitting).AsKept();
        builder.Property(record => record.Trace).AsList();
        builder.Property(record => record.Recent).AsList();
        builder.HasOne<Student>().WithMany().HasForeignKey(record => record.StudentId).OnDelete(DeleteBehavior.Cascade);
    }
}

internal sealed class SkillConfiguration : IEntityTypeConfiguration<SkillRecord>
{
    public void Configure(EntityTypeBuilder<SkillRecord> builder)
    {
        builder.HasKey(record => record.StudentId);
        builder.HasOne<Student>().WithOne().HasForeignKey<SkillRecord>(record => record.StudentId).OnDelete(DeleteBehavior.Cascade);
    }
}

internal sealed class PolicyConfiguration : IEntityTypeConfiguration<PolicyRecord>
{
    public void Configure(EntityTypeBuilder<PolicyRecord> builder)
    {
        builder.Property(record => record.Policy).AsKept();
        builder.HasIndex(record => new { record.TestId, record.SavedAt });
    }
}
