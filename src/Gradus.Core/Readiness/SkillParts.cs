namespace Gradus.Core.Readiness;

/// <summary>What elements of tests share, each with a start and with what practice of it adds.</summary>
internal enum PartKind
{
    /// <summary>What a student brings to every weld.</summary>
    General,
    Process,

    /// <summary>A stage welded with a process; the root apart, by whether it is open or backed.</summary>
    Stage,

    /// <summary>Where gravity leaves the puddle.</summary>
    Gravity,
    Product,

    /// <summary>The element on this very test. What practice of it adds is shared by the elements of the test.</summary>
    Own,
}

/// <summary>The parts of an element, by name.</summary>
internal static class SkillParts
{
    public const int Count = 6;

    private const string Vertical = "vertical";
    private const string FitUp = "fitUp";

    // Rows of the table of positions of AWS A3.0 and ISO 6947; fixed pipe, which goes from overhead to flat, is told apart by its zones.
    private static readonly Dictionary<string, string> Lies = new(StringComparer.Ordinal)
    {
        ["1G"] = "flat",
        ["1F"] = "flat",
        ["PA"] = "flat",
        ["2G"] = "horizontal",
        ["2F"] = "horizontal",
        ["PB"] = "horizontal",
        ["PC"] = "horizontal",
        ["4G"] = "overhead",
        ["4F"] = "overhead",
        ["PD"] = "overhead",
        ["PE"] = "overhead",
        ["3G"] = Vertical,
        ["3F"] = Vertical,
        ["PF"] = Vertical,
        ["PG"] = Vertical,
        ["5G"] = Vertical,
        ["5F"] = Vertical,
        ["6G"] = Vertical,
        ["6GR"] = Vertical,
        ["6F"] = Vertical,
        ["PH"] = Vertical,
        ["PJ"] = Vertical,
        ["H-L045"] = Vertical,
        ["J-L045"] = Vertical,
    };

    /// <summary>The positions of which it is known how the joint lies.</summary>
    public static IReadOnlyList<string> Positions { get; } = [.. Lies.Keys];

    /// <summary>
    /// Of each kind the part that an element has, in the order of <see cref="PartKind"/>. The bottom, sides and top of fixed pipe are welded
    /// overhead, vertical and flat (common practice), so a plate overhead speaks to the bottom of 5G.
    /// </summary>
    public static string[] Of(SkillTest test, Element element)
    {
        // What nothing is known of is shared with nothing else.
        var process = test.ProcessOf(element.Stage) ?? $"of {test.Id}";
        // Fitting up is done at the table: the same for every process and position.
        if (element.Stage == FitUp)
        {
            return
            [
                "general",
                $"process {FitUp}",
                $"stage {FitUp}",
                $"gravity {FitUp}",
                $"product {ProductOf(test)}",
                $"own {test.Id} {element.Name}",
            ];
        }

        var stage = element.Stage == "root" ? (test.Traits is { OpenRoot: false } ? "backed root" : "open root") : element.Stage;
        return
        [
            "general",
            $"process {process}",
            $"stage {stage} {process}",
            $"gravity {Gravity(test, element)}",
            $"product {ProductOf(test)}",
            $"own {test.Id} {element.Name}",
        ];
    }

    private static string ProductOf(SkillTest test) => test.Traits?.Product.ToString() ?? test.Id;

    /// <summary>What another test has in common with the asked one.</summary>
    public static SharedSkill Between(SkillTest asked, SkillTest other)
    {
        string[] Named(SkillTest test, PartKind kind) =>
            [.. test.Elements.Select(name => Of(test, Element.Parse(name))[(int)kind]).Distinct(StringComparer.Ordinal)];
        string[] Both(PartKind kind) => [.. Named(asked, kind).Intersect(Named(other, kind), StringComparer.Ordinal)];
        string[] stages = Both(PartKind.Stage);
        string[] gravities = Both(PartKind.Gravity);
        if (asked.Traits is not { } traits || other.Traits is not { } others)
        {
            return new SharedSkill([], []);
        }

        List<string> words = [];
        string[] processes = [.. asked.Processes().Intersect(other.Processes(), StringComparer.Ordinal)];
        if (processes.Length > 0)
        {
            words.AddRange(processes);
            words.AddRange(
                stages.Any(stage => stage.Contains("root", StringComparison.Ordinal)) ? [traits.OpenRoot ? "open root" : "backed root"] : []
            );
        }

        words.AddRange(traits.Product == others.Product ? [traits.Product.ToString().ToLowerInvariant()] : []);
        words.AddRange(gravities.Select(gravity => gravity["gravity ".Length..]));
        return new SharedSkill(
            words,
            [
                .. other.Elements.Where(name =>
                {
                    var own = Of(other, Element.Parse(name));
                    return stages.Contains(own[(int)PartKind.Stage]) || gravities.Contains(own[(int)PartKind.Gravity]);
                }),
            ]
        );
    }

    private static string Gravity(SkillTest test, Element element)
    {
        var lies = element.Zone switch
        {
            "bottom" => "overhead",
            "side" => Vertical,
            "top" => "flat",
            _ when test.Traits is null => $"of {test.Id}",
            _ => Lies.GetValueOrDefault(test.Traits.Position, Vertical),
        };
        return lies == Vertical && test.Traits?.Progression == Progression.Downhill ? "vertical, downhill" : lies;
    }
}
