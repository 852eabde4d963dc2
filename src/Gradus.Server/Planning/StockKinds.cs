using System.Runtime.CompilerServices;
using System.Text.RegularExpressions;
using Gradus.Core.Library;
using Gradus.Core.Planning;
using Gradus.Server.Library;

namespace Gradus.Server.Planning;

/// <summary>A kind of stock that something in the library is made of.</summary>
/// <param name="Unit"><c>kg</c>, <c>L</c>, <c>each</c>, or <c>mm</c> for what is sawn.</param>
public sealed record StockKind(string Stock, string Unit);

/// <summary>What the plan's items are made of: the names by which stock is found again.</summary>
public sealed partial class StockKinds(SchoolLibrary library)
{
    // A test's kinds do not change while it does not; a test that was changed is another one.
    private static readonly ConditionalWeakTable<TestTemplate, List<StockKind>> Known = [];
    private static readonly Dictionary<string, double> Prices = Price.Shipped.ToDictionary(price => price.Id, price => price.Amount);

    private Dictionary<string, StockKind>? byPlain;

    /// <summary>All of them, by name.</summary>
    public IReadOnlyList<StockKind> All { get; } =
    [.. library.Tests.Values.SelectMany(test => Known.GetValue(test, Of)).Distinct().OrderBy(kind => kind.Stock, StringComparer.Ordinal)];

    private static List<StockKind> Of(TestTemplate test) =>
        [
            .. test
                .Variants.SelectMany(group => group.Options.Select(option => test.With(new Dictionary<string, string> { [group.Id] = option.Id })))
                .Prepend(test)
                .Select(one => (Test: one, Drill: (Drill?)null))
                .Concat(test.Drills.Select(drill => (Test: test, Drill: (Drill?)drill)))
                .SelectMany(one => ItemWork.Of(one.Test, one.Drill, LoggedWork.None, Prices).Draws)
                .Select(draw => new StockKind(draw.Stock, draw.Unit))
                .Distinct(),
        ];

    /// <summary>The kind that a name typed in another way stands for: other capitals, spaces, or x for the sign of times. Null when there is none.</summary>
    public StockKind? Match(string name)
    {
        byPlain ??= All.GroupBy(kind => Plain(kind.Stock)).ToDictionary(group => group.Key, group => group.First());
        return byPlain.GetValueOrDefault(Plain(name));
    }

    private static string Plain(string name) => Spaces().Replace(name, "").Replace('×', 'x').ToUpperInvariant();

    [GeneratedRegex(@"\s+")]
    private static partial Regex Spaces();
}
