using FluentValidation;
using Gradus.Server.Hosting;
using Gradus.Server.Library;

namespace Gradus.Server.Students;

/// <summary>Adds a student under an id made by the client.</summary>
/// <param name="EvenIfAlike">True when somebody looked: it is another person than whoever has a name like this.</param>
public sealed record AddStudent(string? Name, Guid? ClassGroupId, OperatorHand? Hand, string? TargetTestId, string? Note, bool EvenIfAlike = false);

/// <summary>What is said of a student from now on.</summary>
public sealed record EditStudent(string? Name, Guid? ClassGroupId, OperatorHand? Hand, string? TargetTestId, string? Note);

public sealed class AddStudentValidator : AbstractValidator<AddStudent>
{
    public AddStudentValidator(SchoolLibrary library)
    {
        RuleFor(request => request.Name).NeedsText(StudentRules.NameLength, StudentRules.NameAsked);
        RuleFor(request => request.ClassGroupId).NotNull().WithMessage(StudentRules.ClassAsked);
        RuleFor(request => request.Hand).NeedsOneOf();
        RuleFor(request => request.TargetTestId).NeedsOneOf(() => library.Tests.Keys);
        RuleFor(request => request.Note).Must(StudentRules.IsNote).WithMessage(StudentRules.NoteAsked);
    }
}

public sealed class EditStudentValidator : AbstractValidator<EditStudent>
{
    public EditStudentValidator(SchoolLibrary library)
    {
        RuleFor(request => request.Name).NeedsText(StudentRules.NameLength, StudentRules.NameAsked);
        RuleFor(request => request.ClassGroupId).NotNull().WithMessage(StudentRules.ClassAsked);
        RuleFor(request => request.Hand).NeedsOneOf();
        RuleFor(request => request.TargetTestId).NeedsOneOf(() => library.Tests.Keys);
        RuleFor(request => request.Note).Must(StudentRules.IsNote).WithMessage(StudentRules.NoteAsked);
    }
}

internal static class StudentRules
{
    public const int NameLength = 80;
    public const string NameAsked = "the student's name";
    public const string ClassAsked = "Choose a class.";
    public const string NoteAsked = "At most 500 characters.";

    public static bool IsNote(string? note) => note is null or { Length: <= 500 };

    public static string? NoteOf(string? note) => string.IsNullOrWhiteSpace(note) ? null : note.Trim();
}
