namespace Gradus.Data;

/// <summary>Who counts, and what stands in the shop.</summary>
public static class PresentStudents
{
    /// <summary>The booths that stand; one that was removed is read on old coupons only.</summary>
    public static IQueryable<Booth> Standing(this IQueryable<Booth> booths) => booths.Where(booth => booth.RemovedAt == null);

    /// <summary>The sittings that stand: neither called off nor void.</summary>
    public static IQueryable<Sitting> Standing(this IQueryable<Sitting> sittings) =>
        sittings.Where(sitting => sitting.CancelledAt == null && sitting.VoidedAt == null);

    /// <summary>Those who come; whoever has left counts nowhere.</summary>
    public static IQueryable<Student> Present(this IQueryable<Student> students) => students.Where(student => student.LeftAt == null);
}
