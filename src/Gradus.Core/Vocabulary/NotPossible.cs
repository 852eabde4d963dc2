namespace Gradus.Core.Vocabulary;

/// <summary>Of what kind the reason is.</summary>
public enum NotPossibleKind
{
    /// <summary>It names something that is not there.</summary>
    Unknown,

    /// <summary>It cannot be so at all.</summary>
    Unfit,

    /// <summary>It could be, but not with what stands already.</summary>
    Conflict,
}

/// <summary>Why something cannot be recorded or planned: the field that is at fault, and what would be accepted.</summary>
public sealed record NotPossible(NotPossibleKind Kind, string Field, string Accepts)
{
    internal static NotPossible Unknown(string field, string accepts) => new(NotPossibleKind.Unknown, field, accepts);

    internal static NotPossible Unfit(string field, string accepts) => new(NotPossibleKind.Unfit, field, accepts);

    internal static NotPossible Conflict(string field, string why) => new(NotPossibleKind.Conflict, field, why);
}
