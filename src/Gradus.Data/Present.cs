namespace Gradus.Data;

/// <summary>Who counts.</summary>
public static class PresentStudents
{
    /// <summary>Those who come; whoever has left counts nowhere.</summary>
    public static IQueryable<Student> Present(this IQueryable<Student> students) => students.Where(student => student.LeftAt == null);
}
