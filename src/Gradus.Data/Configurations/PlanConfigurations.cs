using Gradus.Core.Planning;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.ChangeTracking;
using Microsoft.EntityFrameworkCore.Metadata.Builders;

namespace Gradus.Data.Configurations;

internal sealed class BoothConfiguration : IEntityTypeConfiguration<Booth>
{
    public void Configure(EntityTypeBuilder<Booth> builder)
    {
        builder.Property(booth => booth.Processes).AsList().HasDefaultValueSql("'[\"SMAW\",\"GTAW\",\"GMAW\",\"FCAW-G\",\"FCAW-S\"]'"); // booths from before they were told apart
        builder.Property(booth => booth.Has).HasConversion<int>();
        builder.HasIndex(booth => booth.Number).IsUnique();
    }
}

internal sealed class PlanSetupConfiguration : IEntityTypeConfiguration<PlanSetup>
{
    public void Configure(EntityTypeBuilder<PlanSetup> builder)
    {
        builder.Property(setup => setup.Week).AsKept();
        builder.Property(setup => setup.Steps).AsWritten();
        builder.Property(setup => setup.Prices).AsWritten();
        builder.Property(setup => setup.Saw).AsKept();
        builder.HasIndex(setup => setup.SavedAt);
        builder.HasIndex(setup => setup.FeedKey);
    }
}

internal sealed class CreditConfiguration : IEntityTypeConfiguration<StepCredit>
{
    public void Configure(EntityTypeBuilder<StepCredit> builder)
    {
        builder.HasKey(credit => new { credit.StudentId, credit.TestId });
        builder.HasOne<Student>().WithMany().HasForeignKey(credit => credit.StudentId).OnDelete(DeleteBehavior.Cascade);
    }
}

internal sealed class GoalConfiguration : IEntityTypeConfiguration<StudentGoal>
{
    public void Configure(EntityTypeBuilder<StudentGoal> builder)
    {
        builder.HasKey(goal => goal.StudentId);
        builder.Property(goal => goal.Tests).AsList();
        builder.HasOne<Student>().WithMany().HasForeignKey(goal => goal.StudentId).OnDelete(DeleteBehavior.Cascade);
    }
}

internal sealed class AbsenceConfiguration : IEntityTypeConfiguration<Absence>
{
    public void Configure(EntityTypeBuilder<Absence> builder)
    {
        builder.HasIndex(absence => new { absence.Day, absence.StudentId });
        builder.HasOne<Student>().WithMany().HasForeignKey(absence => absence.StudentId).OnDelete(DeleteBehavior.Cascade);
    }
}

internal sealed class StockConfiguration : IEntityTypeConfiguration<StockMove>
{
    public void Configure(EntityTypeBuilder<StockMove> builder) => builder.HasIndex(move => new { move.Stock, move.LengthMm });
}

internal sealed class WeekPlanConfiguration : IEntityTypeConfiguration<WeekPlan>
{
    public void Configure(EntityTypeBuilder<WeekPlan> builder)
    {
        builder.Property(plan => plan.Cells).AsWritten();
        builder.HasIndex(plan => new { plan.Monday, plan.AcceptedAt });
    }
}
