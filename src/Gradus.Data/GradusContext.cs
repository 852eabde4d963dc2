using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Storage.ValueConversion;

namespace Gradus.Data;

/// <summary>The school's record in one SQLite file.</summary>
public sealed class GradusContext(DbContextOptions<GradusContext> options) : DbContext(options)
{
    public DbSet<School> Schools => Set<School>();
    public DbSet<Person> People => Set<Person>();
    public DbSet<SignedSession> Sessions => Set<SignedSession>();
    public DbSet<Tablet> Tablets => Set<Tablet>();
    public DbSet<ClassGroup> ClassGroups => Set<ClassGroup>();
    public DbSet<Booth> Booths => Set<Booth>();
    public DbSet<Student> Students => Set<Student>();
    public DbSet<Coupon> Coupons => Set<Coupon>();
    public DbSet<FitUpRecord> FitUps => Set<FitUpRecord>();
    public DbSet<PassRecord> Passes => Set<PassRecord>();
    public DbSet<FindingRecord> Findings => Set<FindingRecord>();
    public DbSet<NoteRecord> Notes => Set<NoteRecord>();
    public DbSet<PhotoRecord> Photos => Set<PhotoRecord>();
    public DbSet<EventRecord> Events => Set<EventRecord>();
    public DbSet<ClosingRecord> Closings => Set<ClosingRecord>();
    public DbSet<LibraryEntry> Library => Set<LibraryEntry>();
    public DbSet<SchoolSentence> Sentences => Set<SchoolSentence>();
    public DbSet<Decision> Decisions => Set<Decision>();
    public DbSet<SittingResult> SittingResults => Set<SittingResult>();
    public DbSet<ModelChange> ModelChanges => Set<ModelChange>();
    public DbSet<ReadinessRecord> Readiness => Set<ReadinessRecord>();
    public DbSet<SkillRecord> Skills => Set<SkillRecord>();
    public DbSet<PolicyRecord> Policies => Set<PolicyRecord>();
    public DbSet<PlanSetup> PlanSetups => Set<PlanSetup>();
    public DbSet<StepCredit> StepCredits => Set<StepCredit>();
    public DbSet<StudentGoal> StudentGoals => Set<StudentGoal>();
    public DbSet<Absence> Absences => Set<Absence>();
    public DbSet<Sitting> Sittings => Set<Sitting>();
    public DbSet<SittingMark> SittingMarks => Set<SittingMark>();
    public DbSet<SittingFile> SittingFiles => Set<SittingFile>();
    public DbSet<Certificate> Certificates => Set<Certificate>();
    public DbSet<CertificateRenewed> CertificateRenewals => Set<CertificateRenewed>();
    public DbSet<UseProof> UseProofs => Set<UseProof>();
    public DbSet<StockMove> StockMoves => Set<StockMove>();
    public DbSet<TodaysVerdict> TodaysVerdicts => Set<TodaysVerdict>();
    public DbSet<WeekPlan> WeekPlans => Set<WeekPlan>();
    public DbSet<Act> Acts => Set<Act>();
    public DbSet<Device> Devices => Set<Device>();
    public DbSet<ArcBatch> ArcBatches => Set<ArcBatch>();
    public DbSet<TraceRecord> Traces => Set<TraceRecord>();
    public DbSet<LabOrder> LabOrders => Set<LabOrder>();

    protected override void OnModelCreating(ModelBuilder modelBuilder) =>
        modelBuilder.ApplyConfigurationsFromAssembly(typeof(GradusContext).Assembly);

    protected override void ConfigureConventions(ModelConfigurationBuilder configurationBuilder)
    {
        configurationBuilder.Properties<DateTimeOffset>().HaveConversion<UtcMilliseconds>();
        configurationBuilder.Properties<Enum>().HaveConversion<string>();
    }
}
