using System.Globalization;
using System.Text.Json;
using Gradus.Core.Inspection;
using Gradus.Core.Library;
using Gradus.Core.Readiness;
using Gradus.Core.Welding;

namespace Gradus.Core.Planning;

/// <summary>How an item is made.</summary>
public enum ItemKind
{
    /// <summary>A full coupon under the rules of the test.</summary>
    UnderRules,

    /// <summary>A full coupon with the instructor beside.</summary>
    Coached,

    /// <summary>A part of it by itself.</summary>
    Drill,
}

/// <summary>A fault that came back: in how many of the last full coupons.</summary>
public sealed record ReturningFault(DiscontinuityKind Kind, Stage Stage, string? Zone, int Coupons, int OfCoupons);

/// <summary>What is known of a student when practice is chosen.</summary>
/// <param name="SafetySigned">Without it nothing is made under the rules of a test.</param>
/// <param name="Returning">The fault that came back most; null when none did.</param>
/// <param name="VariantUses">How often each variant option was used lately, by <c>group/option</c>.</param>
public sealed record PractiserFacts(
    bool SafetySigned,
    int FullCoupons,
    ReturningFault? Returning,
    IReadOnlyDictionary<string, int> VariantUses,
    LoggedWork Logged
);

/// <summary>An item that a student may be given next.</summary>
/// <param name="Gains">What the first, second ... time adds to the chance of a clean full coupon; falling.</param>
/// <param name="Stage">The stage that it works on most.</param>
/// <param name="Place">The zone of the clock; null where there is none.</param>
/// <param name="Variants">The option of each variant group to take this time.</param>
/// <param name="Process">All processes that the booth must run, joined by a plus.</param>
/// <param name="Why">Why, in a sentence.</param>
public sealed record PrescribedItem(
    string Id,
    string TestId,
    ItemKind Kind,
    string? DrillId,
    string Name,
    IReadOnlyList<double> Gains,
    double GainPerHour,
    double GainPerCost,
    Stage Stage,
    string? Place,
    ReturningFault? Fault,
    IReadOnlyDictionary<string, string> Variants,
    string Process,
    BoothTraits Needs,
    int HoldPoints,
    ItemWork Work,
    string Why
)
{
    /// <summary>True for what keeps a qualification alive and adds nothing to a chance.</summary>
    [System.Text.Json.Serialization.JsonIgnore]
    public bool IsToKeep => Id.StartsWith($"{Prescription.KeepAlive}:", StringComparison.Ordinal);
}

/// <summary>Chooses and ranks what a student practises next, by running the readiness model one item ahead.</summary>
public static class Prescription
{
    // Below this chance a whole coupon is better made with the instructor beside. A chosen default.
    private const double CoachBelow = 0.35;

    /// <summary>How many times of an item are looked ahead.</summary>
    public const int TimesAhead = 16;

    private const double MinutesPerHour = 60;

    // The model lets a drill help the other stages a little; what it says of a drill is counted in part, so that one is only chosen where it
    // clearly gains more. Chosen on simulated students that learn without such help (bench/).
    private const double DrillTrust = 0.7;

    /// <summary>What is asked of the readiness model: the elements that a full coupon works on, then those of each drill.</summary>
    public static IReadOnlyList<IReadOnlyCollection<string>> Worked(TestTemplate test)
    {
        var elements = TestElements.Of(test);
        return
        [
            [.. elements],
            .. test.Drills.Select(drill => (IReadOnlyCollection<string>)[.. elements.Where(element => Works(drill, Split(element)))]),
        ];
    }

    private static bool Works(Drill drill, (Stage Stage, string? Place) part) =>
        drill.Stages.Contains(part.Stage)
        && (drill.Zone is not { } zone || part.Place is null || part.Place == JsonNamingPolicy.CamelCase.ConvertName(zone.ToString()));

    /// <summary>The items of a test for a student, the one that gains most in an hour first. Drills that gain less than a full coupon are left out.</summary>
    /// <param name="gains">What the first, second ... time of each of <see cref="Worked(TestTemplate)"/> adds, falling.</param>
    public static IReadOnlyList<PrescribedItem> Of(
        TestTemplate test,
        Standing standing,
        IReadOnlyList<IReadOnlyList<double>> gains,
        PractiserFacts facts,
        IReadOnlyDictionary<string, double> prices
    )
    {
        var weakest = TestElements.Of(test).Zip(standing.Elements).MinBy(one => one.Second.Value);
        var (stage, place) = Split(weakest.First);
        var isCoached = !facts.SafetySigned || standing.Whole.Mean.Value < CoachBelow;
        var whole = Item(
            test,
            isCoached ? ItemKind.Coached : ItemKind.UnderRules,
            null,
            gains[0],
            stage,
            place,
            facts,
            prices,
            Why(isCoached, facts, standing, stage, place, weakest.Second.Value)
        );
        var drills = test
            .Drills.Select((drill, index) => (Drill: drill, Gains: (IReadOnlyList<double>)[.. gains[index + 1].Select(gain => gain * DrillTrust)]))
            .Where(one => one.Gains[0] > 0)
            .Select(one =>
            {
                var worked = Weakest(test, one.Drill, standing);
                return Item(test, ItemKind.Drill, one.Drill, one.Gains, worked.Stage, worked.Place, facts, prices, "");
            })
            .Where(item => item.GainPerHour > whole.GainPerHour)
            // Drills of the same part are one item: the first that the test names, which is the plainest.
            .DistinctBy(item => string.Join(',', test.StagesOf(item.DrillId)) + item.Place)
            .Select(item => item with { Why = DrillWhy(item, whole, standing, test) });
        return [.. drills.Prepend(whole).OrderByDescending(item => item.GainPerHour)];
    }

    private static PrescribedItem Item(
        TestTemplate test,
        ItemKind kind,
        Drill? drill,
        IReadOnlyList<double> gains,
        Stage stage,
        string? place,
        PractiserFacts facts,
        IReadOnlyDictionary<string, double> prices,
        string why
    )
    {
        var work = ItemWork.Of(test, drill, facts.Logged, prices);
        var fault = facts.Returning is { } returning && (drill is null || drill.Stages.Contains(returning.Stage)) ? returning : null;
        return new PrescribedItem(
            $"{test.Id}:{(drill is null ? JsonNamingPolicy.CamelCase.ConvertName(kind.ToString()) : drill.Id)}",
            test.Id,
            kind,
            drill?.Id,
            drill?.Name ?? (kind == ItemKind.Coached ? "Full coupon, coached" : "Full coupon, as under test"),
            gains,
            gains[0] / (work.BoothMinutes / MinutesPerHour),
            gains[0] / work.Cost,
            stage,
            place,
            fault,
            test.Variants.ToDictionary(
                group => group.Id,
                group => group.Options.MinBy(option => facts.VariantUses.GetValueOrDefault($"{group.Id}/{option.Id}"))!.Id
            ),
            ProcessOf(test, drill),
            Needs(test),
            kind switch
            {
                ItemKind.UnderRules => Math.Max(1, test.Rules.HoldPoints.Count),
                ItemKind.Coached => test.Stages.Count,
                _ => 1,
            },
            work,
            why
        );
    }

    /// <summary>How the id of an item that keeps a qualification alive begins.</summary>
    public const string KeepAlive = "keep";

    /// <summary>
    /// The shortest piece of a test that uses a process, for whoever has to use it: a drill that lays a pass of it, or the whole coupon with the instructor beside
    /// where no drill does. It adds nothing to a chance. Null when the test does not use the process.
    /// </summary>
    /// <param name="process">As the codes call it.</param>
    /// <param name="why">Why, in a sentence.</param>
    public static PrescribedItem? ToKeep(
        TestTemplate test,
        string process,
        string why,
        PractiserFacts facts,
        IReadOnlyDictionary<string, double> prices
    )
    {
        bool Uses(Drill? drill) =>
            test.Passes.Any(pass => TestQualification.NameOf(pass) == process && (drill is null || drill.Stages.Contains(pass.Stage)));
        if (test.Kind == TestKind.Drill || !Uses(null))
        {
            return null;
        }

        var drill = test.Drills.Where(Uses).MinBy(one => ItemWork.Of(test, one, facts.Logged, prices).BoothMinutes);
        var stage = drill?.Stages[0] ?? test.Stages[0];
        var item = Item(
            test,
            drill is null ? ItemKind.Coached : ItemKind.Drill,
            drill,
            [0],
            stage,
            null,
            facts with
            {
                Returning = null,
            },
            prices,
            why
        );
        return item with { Id = $"{KeepAlive}:{process}:{item.Id}", Name = $"{item.Name}, to keep {process}" };
    }

    /// <summary>All processes that a booth must run for a coupon or a drill, joined by a plus; of a drill that lays nothing, the first of the test.</summary>
    public static string ProcessOf(TestTemplate test, Drill? drill = null) =>
        string.Join(
            '+',
            test.Passes.Where(pass => drill is null || drill.Stages.Contains(pass.Stage))
                .DefaultIfEmpty(test.Passes[0])
                .Select(pass => TestQualification.Name(pass.Process))
                .Distinct()
        );

    /// <summary>What a booth must have for a test.</summary>
    public static BoothTraits Needs(TestTemplate test) =>
        (test.Joint.Pipe is null ? BoothTraits.None : BoothTraits.Pipe)
        // Pipe in the flat positions is turned under the arc (AWS A3.0, 1G and 1F of pipe).
        | (test.Joint.Pipe is not null && test.Positions.Any(position => position is "1G" or "1F") ? BoothTraits.Positioner : BoothTraits.None)
        | (test.Joint.Backing.Kind is BackingKind.Gas or BackingKind.Insert ? BoothTraits.Purge : BoothTraits.None)
        | (test.BaseMetal is BaseMetal.StainlessSteel or BaseMetal.ChromeMoly or BaseMetal.NickelAlloy ? BoothTraits.Extraction : BoothTraits.None);

    /// <summary>Why a test is not offered, in words; null when it is.</summary>
    /// <param name="isGrounded">Whether the steps before it are laid.</param>
    /// <param name="booths">What each booth of the school has.</param>
    public static string? Withheld(TestTemplate test, bool isGrounded, bool safetySigned, IReadOnlyCollection<BoothTraits> booths)
    {
        var needs = Needs(test);
        if (!isGrounded)
        {
            return $"{test.Title}: the ground before it is not laid.";
        }

        if (!safetySigned && needs.HasFlag(BoothTraits.Extraction))
        {
            return $"{test.Title}: not before safety is signed off.";
        }

        if (booths.Any(has => (has & needs) == needs))
        {
            return null;
        }

        var lacking = Enum.GetValues<BoothTraits>()
            .Where(one => one != BoothTraits.None && needs.HasFlag(one) && !booths.Any(has => has.HasFlag(one)))
            .Select(one => one.ToString().ToLowerInvariant());
        return $"{test.Title}: no booth has {string.Join(", ", lacking.DefaultIfEmpty("all that it needs together"))}.";
    }

    private static (Stage Stage, string? Place) Weakest(TestTemplate test, Drill drill, Standing standing)
    {
        var own = TestElements
            .Of(test)
            .Zip(standing.Elements)
            .Select(one => (Part: Split(one.First), one.Second))
            .Where(one => Works(drill, one.Part))
            .ToList();
        return own.Count == 0 ? (drill.Stages[0], null) : own.MinBy(one => one.Second.Value).Part;
    }

    private static (Stage Stage, string? Place) Split(string element)
    {
        var one = Element.Parse(element);
        return (Enum.Parse<Stage>(one.Stage, ignoreCase: true), one.Zone);
    }

    private static string Why(bool coached, PractiserFacts facts, Standing standing, Stage stage, string? place, double weakest)
    {
        var part = Part(stage, place);
        return coached && !facts.SafetySigned ? "Safety is not signed off yet, so nothing is made under test rules."
            : facts.FullCoupons == 0 ? "The first coupon of this test, with you beside."
            : coached
                ? Text($"At {standing.Whole.Mean.Value:0 %} a whole coupon is better made with you beside; {part} is the weakest, {weakest:0 %}.")
            : Text($"All stages under the rules of the test; {part} is the weakest, {weakest:0 %}.");
    }

    private static string DrillWhy(PrescribedItem item, PrescribedItem whole, Standing standing, TestTemplate test)
    {
        var chance = TestElements
            .Of(test)
            .Zip(standing.Elements)
            .Where(one => Split(one.First) == (item.Stage, item.Place))
            .Select(one => one.Second.Value)
            .FirstOrDefault();
        return Text(
            $"{Capital(Part(item.Stage, item.Place))} stands at {chance:0 %}. In an hour this adds {100 * item.GainPerHour:0.0} % to the chance, a whole coupon {100 * whole.GainPerHour:0.0}."
        );
    }

    private static string Part(Stage stage, string? place) => new Element("", JsonNamingPolicy.CamelCase.ConvertName(stage.ToString()), place).Words;

    private static string Capital(string text) => char.ToUpperInvariant(text[0]) + text[1..];

    private static string Text(FormattableString text) => text.ToString(CultureInfo.InvariantCulture);
}
