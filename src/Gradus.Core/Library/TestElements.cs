using System.Text.Json;
using Gradus.Core.Inspection;
using Gradus.Core.Measure;

namespace Gradus.Core.Library;

/// <summary>The elements of a test: its stages, on fixed pipe each in three zones of the clock.</summary>
public static class TestElements
{
    private const int BottomFrom = (4 * 60) + 30;
    private const int BottomTo = (7 * 60) + 30;
    private const int TopTo = 60 + 30;
    private static readonly string[] Zones = ["bottom", "side", "top"];

    // Positions in which a welder goes from overhead to flat on one joint; on 2G and rolled pipe all of the joint lies alike.
    private static readonly string[] Fixed = ["5G", "6G", "6GR", "5F", "PH", "PJ", "H-L045", "J-L045"];

    /// <summary>The elements in order, each as <c>stage</c> or <c>stage/zone</c>.</summary>
    public static IReadOnlyList<string> Of(TestTemplate test) => [.. test.Stages.SelectMany(stage => Of(test, stage))];

    /// <summary>Whether the joint of a test is told apart by zones of the clock.</summary>
    public static bool IsZoned(TestTemplate test) => test.Product == Product.Pipe && Fixed.Contains(test.Positions[0]);

    /// <summary>Which elements of the finished stages were clean: a zone is, when nothing in it was rejected.</summary>
    /// <param name="rejected">The findings that the acceptance rejects.</param>
    public static Dictionary<string, bool> Clean(
        TestTemplate test,
        IReadOnlyDictionary<Stage, bool> stages,
        IReadOnlyCollection<MeasuredFinding> rejected
    )
    {
        var clean = new Dictionary<string, bool>(StringComparer.Ordinal);
        foreach (var (stage, isClean) in stages)
        {
            var own = rejected.Where(finding => finding.Stage == stage).ToList();
            foreach (var element in Of(test, stage))
            {
                // A rejection that has no place on the clock counts against the whole stage.
                var zone = element.Contains('/', StringComparison.Ordinal) ? element[(element.IndexOf('/', StringComparison.Ordinal) + 1)..] : null;
                clean[element] =
                    isClean
                    || (zone is not null && own.Count > 0 && own.All(finding => finding.ClockMinutes is { } minutes && ZoneOf(minutes) != zone));
            }
        }

        return clean;
    }

    /// <summary>The elements that a finding lies in: one, or all of its stage where it has no place on the clock.</summary>
    public static IReadOnlyList<string> In(TestTemplate test, MeasuredFinding finding)
    {
        var all = finding.Stage is { } stage ? Of(test, stage).ToList() : [];
        return all.Count > 1 && finding.ClockMinutes is { } minutes
            ? [.. all.Where(element => element.EndsWith("/" + ZoneOf(minutes), StringComparison.Ordinal))]
            : all;
    }

    /// <summary>The zone of a place on the clock: bottom from 4:30 to 7:30, top from 10:30 to 1:30, else side.</summary>
    public static string ZoneOf(int minutes) =>
        minutes is >= BottomFrom and <= BottomTo ? "bottom"
        : minutes <= TopTo || minutes >= ClockPosition.MinutesRound - TopTo ? "top"
        : "side";

    private static IEnumerable<string> Of(TestTemplate test, Stage stage)
    {
        var name = JsonNamingPolicy.CamelCase.ConvertName(stage.ToString());
        return stage != Stage.FitUp && IsZoned(test) ? Zones.Select(zone => $"{name}/{zone}") : [name];
    }
}
