namespace Gradus.Core.Inspection;

/// <summary>How one specimen or indication stands against one limit.</summary>
/// <param name="Finding">Index of the specimen or indication; -1 when the profile has no limits to judge by.</param>
/// <param name="Discontinuity">Index of the discontinuity in a specimen; null for a limit on their sum, and on a radiograph.</param>
public sealed record TestReason(
    int Finding,
    int? Discontinuity,
    string Measure,
    double? Measured,
    double? Limit,
    VerdictKind Outcome,
    string Rule,
    string Source,
    bool FromMemory
);

/// <summary>A verdict on bends or a radiograph.</summary>
public sealed record TestVerdict(VerdictKind Kind, IReadOnlyList<TestReason> Reasons, IReadOnlyList<TestReason> Passed)
{
    internal static TestVerdict From(IReadOnlyList<TestReason> all) =>
        new(
            all.Any(reason => reason.Outcome == VerdictKind.Reject) ? VerdictKind.Reject
                : all.Any(reason => reason.Outcome == VerdictKind.CannotJudge) ? VerdictKind.CannotJudge
                : VerdictKind.Accept,
            [.. all.Where(reason => reason.Outcome != VerdictKind.Accept).OrderBy(reason => reason.Outcome)],
            [.. all.Where(reason => reason.Outcome == VerdictKind.Accept)]
        );

    internal static TestVerdict NoLimits(string profile, string of) =>
        From([
            new TestReason(
                -1,
                null,
                "limits",
                null,
                null,
                VerdictKind.CannotJudge,
                $"{profile} has no {of} limits here until the school enters them from its own copy.",
                profile,
                false
            ),
        ]);
}
