using Gradus.Core.Library;
using Gradus.Core.Welding;

namespace Gradus.Core.Bench;

/// <summary>The beads of a coupon: those of its test, with what was added to them and left out, and the place of each pass among them.</summary>
/// <param name="Test">The test with the numbers of beads that its layers have on this coupon.</param>
/// <param name="Beads">In the order of welding, patches with them.</param>
/// <param name="Passes">The passes; one that names a bead of another plan lies on the next free bead of its stage.</param>
internal sealed record CouponBeads(TestTemplate Test, IReadOnlyList<PlannedBead> Beads, IReadOnlyList<LoggedPass> Passes)
{
    private const string PatchKey = "patch-";
    private const int PatchKeyDigits = 12;

    /// <summary>The key of the patch that an event added.</summary>
    public static string KeyOf(BenchEvent added) => PatchKey + added.Id.ToString("N")[^PatchKeyDigits..];

    /// <summary>Whether a key is that of a patch.</summary>
    public static bool IsPatch(string key) => key.StartsWith(PatchKey, StringComparison.Ordinal);

    /// <summary>The beads of a coupon.</summary>
    /// <param name="events">What happened to it, in order.</param>
    /// <param name="passes">Its passes, in order.</param>
    public static CouponBeads Of(TestTemplate test, IReadOnlyList<BenchEvent> events, IReadOnlyList<LoggedPass> passes)
    {
        var more = new Dictionary<(Stage, int, string?), int>();
        foreach (var one in events)
        {
            if (one.Kind is BenchEventKind.BeadAdded or BenchEventKind.BeadLeftOut && one.Body.Patch != true && LayerOf(test, one.Body) is { } layer)
            {
                more[layer] = more.GetValueOrDefault(layer) + (one.Kind == BenchEventKind.BeadAdded ? 1 : -1);
            }
        }

        var patches = events.Where(one => one is { Kind: BenchEventKind.BeadAdded, Body.Patch: true }).Select(KeyOf).ToList();
        while (true)
        {
            var adjusted = test.Adjusted(more);
            var beads = WithPatches(adjusted.Beads(), adjusted, patches);
            var (placed, homeless) = Place(beads, passes);
            if (homeless is not { } pass || LayerOf(test, new BenchEventBody(Stage: pass.Stage)) is not { } layer)
            {
                return new CouponBeads(adjusted, beads, placed);
            }

            // More were laid of this stage than are planned: the plan gives way to what happened.
            more[layer] = more.GetValueOrDefault(layer) + 1;
        }
    }

    /// <summary>The layer that a bead is added to or left out of: that of the bead that is named, or the last one of a stage.</summary>
    public static (Stage Stage, int Layer, string? Half)? LayerOf(TestTemplate test, BenchEventBody body)
    {
        var beads = test.Beads();
        var named = body.BeadKey is { } key
            ? beads.LastOrDefault(bead => SameLayer(bead.Key, key))
            : beads.LastOrDefault(bead => bead.Stage == body.Stage);
        return named is null ? null : (named.Stage, named.Layer, named.Half);
    }

    /// <summary>Whether two keys are of beads of one layer and half: they differ in the number of the bead alone.</summary>
    private static bool SameLayer(string a, string b)
    {
        static (string Layer, string Half) Parts(string key)
        {
            var at = key.IndexOf('@', StringComparison.Ordinal);
            var bead = at < 0 ? key : key[..at];
            var last = bead.LastIndexOf('-');
            return (last < 0 ? bead : bead[..last], at < 0 ? "" : key[at..]);
        }

        return Parts(a) == Parts(b);
    }

    private static IReadOnlyList<PlannedBead> WithPatches(IReadOnlyList<PlannedBead> beads, TestTemplate test, List<string> patches)
    {
        if (patches.Count == 0 || beads.Count == 0)
        {
            return beads;
        }

        // A patch brings a low stretch up before the cap.
        var under = beads.LastOrDefault(bead => bead.Stage < Stage.Cap) ?? beads[^1];
        var size = test.Section(null, under.Half);
        var after = beads.ToList().FindLastIndex(bead => bead.Stage == under.Stage);
        return
        [
            .. beads.Take(after + 1),
            .. patches.Select(
                (key, index) =>
                {
                    var outline = BeadPlanner.Patch(size, index, patches.Count);
                    return new PlannedBead(key, under.Stage, under.Layer, index + 1, under.Pass, null, BeadPlanner.Area(outline), outline);
                }
            ),
            .. beads.Skip(after + 1),
        ];
    }

    private static (IReadOnlyList<LoggedPass> Passes, LoggedPass? Homeless) Place(IReadOnlyList<PlannedBead> beads, IReadOnlyList<LoggedPass> passes)
    {
        var known = beads.Select(bead => bead.Key).ToHashSet(StringComparer.Ordinal);
        if (passes.All(pass => known.Contains(pass.BeadKey)))
        {
            return (passes, null);
        }

        var taken = passes.Select(pass => pass.BeadKey).Where(known.Contains).ToHashSet(StringComparer.Ordinal);
        var moved = new Dictionary<string, string>(StringComparer.Ordinal);
        foreach (var pass in passes.Where(pass => !known.Contains(pass.BeadKey) && !moved.ContainsKey(pass.BeadKey)))
        {
            if (beads.FirstOrDefault(bead => bead.Stage == pass.Stage && !taken.Contains(bead.Key)) is not { } free)
            {
                return (passes, pass);
            }

            moved[pass.BeadKey] = free.Key;
            taken.Add(free.Key);
        }

        return ([.. passes.Select(pass => moved.TryGetValue(pass.BeadKey, out var key) ? pass with { BeadKey = key } : pass)], null);
    }
}
