using Gradus.Core.Readiness;
using Gradus.Data;

namespace Gradus.Server.Readiness;

/// <summary>The policies of a school.</summary>
/// <param name="saved">All that were ever saved: the latest of a test holds.</param>
public sealed class SchoolPolicies(IReadOnlyCollection<PolicyRecord> saved)
{
    private readonly Dictionary<string, TestPolicy> own = saved
        .GroupBy(row => row.TestId)
        .ToDictionary(group => group.Key, group => group.MaxBy(row => row.SavedAt)!.Policy, StringComparer.Ordinal);

    /// <summary>How many were saved: with one more, another may hold.</summary>
    public int Saved => saved.Count;

    /// <summary>The policy of a test: the school's own, or the shipped one.</summary>
    public TestPolicy Of(string testId) => own.GetValueOrDefault(testId) ?? TestPolicy.Defaults;
}
