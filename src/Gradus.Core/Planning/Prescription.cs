using System.Globalization;
using System.Text.Json;
using Gradus.Core.Inspection;
using Gradus.Core.Library;
using Gradus.Core.Measure;
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
/// <param name="Variants">How each variant option was used lately, by <c>group/option</c>.</param>
/// <param name="Asked">What the advice asks for; null for nothing.</param>
public sealed record PractiserFacts(
    bool SafetySigned,
    int FullCoupons,
    ReturningFault? Returning,
    IReadOnlyDictionary<string, VariantUse> Variants,
    LoggedWork Logged,
    AskedFor? Asked = null
);

/// <summary>How often a variant was made lately, and how often it came out clean.</summary>
public sealed record VariantUse(int Made, int Clean);

/// <summary>Whole coupons under test rules that the advice asks for before anything else.</summary>
/// <param name="Coupons">1 or more.</param>
/// <param name="CutOne">Whether one of them is to be cut open.</param>
/// <param name="Says">The advice in its own words.</param>
public sealed record AskedFor(int Coupons, bool CutOne, string Says)
{
    /// <summary>What an advice asks for; null when it asks for no coupon under test rules.</summary>
    public static AskedFor? Of(Advice advice) => advice.AsTest > 0 ? new(advice.AsTest, advice.CutOne, advice.Says) : null;
}

/// <summary>What a student may be given in a period.</summary>
/// <param name="Parts">What fills it, one after another.</param>
/// <param name="Periods">Periods that it takes; 1 for what fits into one.</param>
/// <param name="Asked">In so many periods it is what the advice asks for, or what keeps a qualification alive; 0 for the rest.</param>
/// <param name="Gains">What the first, second ... period of it adds to the chance of a clean full coupon; falling.</param>
/// <param name="GainPerHour">In the first period.</param>
/// <param name="Stage">The stage that it works on most.</param>
/// <param name="Place">The zone of the clock; null where there is none.</param>
/// <param name="Variants">The option of each variant group to take this time.</param>
/// <param name="Process">All processes that the booth must run, joined by a plus.</param>
/// <param name="HoldPoints">How often somebody must come and look in a period of it.</param>
/// <param name="Work">What all of it takes.</param>
/// <param name="Why">Why, in a sentence.</param>
public sealed record PrescribedItem(
    string Id,
    string TestId,
    ItemKind Kind,
    string? DrillId,
    string Name,
    IReadOnlyList<PeriodPart> Parts,
    int Periods,
    int Asked,
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

/// <summary>
/// Chooses and ranks what a student practises next: what the advice asks for, then what works on the weakest link or on the fault that comes back. Each period is
/// filled; what that is worth is found by running the readiness model ahead.
/// </summary>
public static class Prescription
{
    // Below this chance a whole coupon is better made with the instructor beside. A chosen default.
    private const double CoachBelow = 0.35;

    /// <summary>How many periods of an item are looked ahead.</summary>
    public const int TimesAhead = 16;

    private const double MinutesPerHour = 60;

    // Work on the weakest link comes first among what gains about as much: twice the practice of it counts as so much more gain. Chosen on simulated students who learn
    // each element by itself, where the model lends some of it to the others (bench/).
    private const double LinkWorth = 0.15;

    private static readonly IReadOnlyList<(BoothTraits Trait, string Name)> Stands =
    [
        (BoothTraits.Pipe, "pipe stand"),
        (BoothTraits.Purge, "purge gas"),
        (BoothTraits.Extraction, "fume extraction"),
        (BoothTraits.Positioner, "positioner"),
    ];

    // One in so many elements of a test is weak, those with the least chance. A chosen default.
    private const int WeakShare = 3;

    // More drills than this are not weighed against each other, the shortest first. A chosen default.
    private const int MostDrills = 2;

    // Each option of a variant is tried so often before what worked decides; every so many coupons the one that was made least comes again. Chosen defaults.
    private const int TriedEnough = 2;
    private const int VarietyEvery = 4;

    /// <summary>Whether a drill works on an element.</summary>
    internal static bool Works(Drill drill, string element) => Works(drill, Split(element));

    private static bool Works(Drill drill, (Stage Stage, string? Place) part) =>
        drill.Stages.Contains(part.Stage)
        && (drill.Zone is not { } zone || part.Place is null || part.Place == JsonNamingPolicy.CamelCase.ConvertName(zone.ToString()));

    /// <summary>
    /// What may fill a period: the whole coupon as often as it fits, by itself, or with drills in the time that is left; and those drills alone. Only drills that work
    /// on the weakest element or on the fault that comes back; where none has room, the next coupon is fitted up.
    /// </summary>
    /// <param name="hoursPerPeriod">Booth time in a period; over 0.</param>
    public static IReadOnlyList<PeriodOffer> Offers(
        TestTemplate test,
        Standing standing,
        PractiserFacts facts,
        IReadOnlyDictionary<string, double> prices,
        double hoursPerPeriod
    )
    {
        var minutes = hoursPerPeriod * MinutesPerHour;
        var setUp = TradeNumbers.Of("setUpMinutes");
        var kind = KindOf(standing, facts);
        var whole = ItemWork.Of(test, null, facts.Logged, prices);
        var fit = SlotFit.Of(whole.BoothMinutes, hoursPerPeriod);
        var drills = test
            .Drills.Where(drill => drill.Stages.Any(stage => stage != Stage.FitUp) && Hits(test, drill, standing, facts))
            .Select(drill => (Drill: drill, Work: ItemWork.Of(test, drill, facts.Logged, prices)))
            .OrderBy(one => one.Work.BoothMinutes)
            .Take(MostDrills)
            .ToList();
        var fitUp = test
            .Drills.Where(drill => drill.Stages is [Stage.FitUp])
            .Select(drill => (Drill: drill, Work: ItemWork.Of(test, drill, facts.Logged, prices)))
            .FirstOrDefault();
        PeriodPart Coupon(int times) => new(null, NameOf(kind), times, whole.BoothMinutes * times);
        PeriodPart? Fill((Drill? Drill, ItemWork Work) piece, double left)
        {
            var times = piece.Drill is null ? 0 : Math.Min(SlotFit.MostTimes, (int)Math.Floor((left - setUp) / piece.Work.BoothMinutes));
            return times < 1 ? null : new PeriodPart(piece.Drill!.Id, piece.Drill.Name, times, piece.Work.BoothMinutes * times);
        }

        PeriodPart? Once((Drill? Drill, ItemWork Work) piece, double left) =>
            Fill(piece, left) is { } part ? part with { Times = 1, Minutes = piece.Work.BoothMinutes } : null;
        List<IReadOnlyList<PeriodPart>> filled = [];
        void Add(params PeriodPart?[] parts) => filled.Add([.. parts.OfType<PeriodPart>()]);
        var left = minutes - (whole.BoothMinutes * fit.Times);
        Add(Coupon(fit.Times), fit.Periods == 1 ? Once(fitUp, left) : null);
        foreach (var drill in drills)
        {
            if (fit.Periods == 1 && Fill(drill, left) is { } beside)
            {
                Add(Coupon(fit.Times), beside);
            }

            if (fit.Times > 1 && Fill(drill, left + whole.BoothMinutes) is { } more)
            {
                Add(Coupon(fit.Times - 1), more);
            }

            if (Fill(drill, minutes + setUp) is { } alone)
            {
                Add(alone, Once(fitUp, minutes - alone.Minutes));
            }
        }

        return
        [
            .. filled.Select(parts => new PeriodOffer(
                parts[0].DrillId is null ? kind : ItemKind.Drill,
                parts,
                parts[0].DrillId is null ? fit.Periods : 1,
                ItemWork.OfParts(test, parts, facts.Logged, prices),
                PeriodPart.Practice(test, parts)
            )),
        ];
    }

    private static ItemKind KindOf(Standing standing, PractiserFacts facts) =>
        !facts.SafetySigned || (facts.Asked is null && standing.Whole.Mean.Value < CoachBelow) ? ItemKind.Coached : ItemKind.UnderRules;

    private static string NameOf(ItemKind kind) => kind == ItemKind.Coached ? "Full coupon, coached" : "Full coupon, as under test";

    private static bool Hits(TestTemplate test, Drill drill, Standing standing, PractiserFacts facts) =>
        TestElements
            .Of(test)
            .Zip(standing.Elements)
            .OrderBy(one => one.Second.Value)
            .Take(Math.Max(1, standing.Elements.Count / WeakShare))
            .Any(one => Works(drill, one.First))
        || (
            facts.Returning is { } fault
            && drill.Stages.Contains(fault.Stage)
            && (drill.Zone is not { } zone || fault.Zone is null || fault.Zone == JsonNamingPolicy.CamelCase.ConvertName(zone.ToString()))
        );

    /// <summary>The element that stands clearly below the rest of its test: the weakest link. Null where none does.</summary>
    private static string? ClearLink(TestTemplate test, Standing standing)
    {
        var own = TestElements.Of(test).Zip(standing.Elements, (name, chance) => (name, chance.Value)).OrderBy(one => one.Value).ToList();
        return own.Count > 1 && own.Skip(1).Average(one => one.Value) - own[0].Value > DecisionAdvice.ClearlyWeaker ? own[0].name : null;
    }

    private static ((Stage Stage, string? Place) Part, double Chance) WeakestOf(TestTemplate test, Standing standing)
    {
        var (element, chance) = TestElements.Of(test).Zip(standing.Elements).MinBy(one => one.Second.Value);
        return (Split(element), chance.Value);
    }

    /// <summary>The items of a test for a student: what the advice asks for first, then what gains most in an hour. Drills that gain less in a period than full coupons do are left out.</summary>
    /// <param name="offers">From <see cref="Offers"/>.</param>
    /// <param name="gains">What the first, second ... time of each of them adds, falling.</param>
    public static IReadOnlyList<PrescribedItem> Of(
        TestTemplate test,
        Standing standing,
        IReadOnlyList<PeriodOffer> offers,
        IReadOnlyList<IReadOnlyList<double>> gains,
        PractiserFacts facts
    )
    {
        var (weakest, chance) = WeakestOf(test, standing);
        var link = ClearLink(test, standing);
        double Links(PeriodOffer offer) => link is null ? 0 : offer.Practice.GetValueOrDefault(link);
        var items = offers
            .Zip(
                gains,
                (offer, own) =>
                {
                    var more = Links(offers[0]) > 0 ? Math.Clamp((Links(offer) / Links(offers[0])) - 1, 0, 1) : 0;
                    return Item(test, offer, [.. own.Select(gain => gain * (1 + (LinkWorth * more)))], standing, facts);
                }
            )
            .ToList();
        var plain = items[0];
        return
        [
            .. items
                .Where(item => item.Kind != ItemKind.Drill || item.Gains[0] > plain.Gains[0])
                .Select(item => item with { Why = Why(item, plain, facts, standing, weakest, chance) })
                .OrderByDescending(item => item.Asked > 0)
                .ThenByDescending(item => item.GainPerHour),
        ];
    }

    private static PrescribedItem Item(TestTemplate test, PeriodOffer offer, IReadOnlyList<double> gains, Standing? standing, PractiserFacts facts)
    {
        var parts = offer.Parts;
        var drills = parts.Select(part => test.Drills.FirstOrDefault(drill => drill.Id == part.DrillId)).ToList();
        var main = drills[0];
        var (stage, place) = standing is null ? (main?.Stages[0] ?? test.Stages[0], null) : Weakest(test, main, standing);
        var fault = facts.Returning is { } returning && (main is null || main.Stages.Contains(returning.Stage)) ? returning : null;
        var times = parts[0].DrillId is null ? parts[0].Times : 0;
        var hours = offer.Work.BoothMinutes / MinutesPerHour;
        return new PrescribedItem(
            $"{test.Id}:{string.Join('+', parts.Select(part => part.DrillId ?? JsonNamingPolicy.CamelCase.ConvertName(offer.Kind.ToString())).Prepend(times > 1 ? $"{times}" : null).OfType<string>())}",
            test.Id,
            offer.Kind,
            parts[0].DrillId,
            string.Join(", then ", parts.Select((part, index) => index == 0 ? part.Words : Uncapital(part.Words))),
            parts,
            offer.Periods,
            times > 0 && facts.Asked is { } asked ? (int)Math.Ceiling((double)asked.Coupons / times) * offer.Periods : 0,
            [.. gains.SelectMany(gain => Enumerable.Repeat(gain / offer.Periods, offer.Periods))],
            gains[0] / hours,
            gains[0] / offer.Work.Cost,
            stage,
            place,
            fault,
            test.Variants.ToDictionary(group => group.Id, group => Choice(group, facts)),
            ProcessOf(test, [.. drills]),
            Needs(test),
            (int)Math.Ceiling((double)times * HoldsOf(test, offer.Kind) / offer.Periods) + parts.Count(part => part.DrillId is not null),
            offer.Work,
            ""
        );
    }

    private static int HoldsOf(TestTemplate test, ItemKind kind) =>
        kind switch
        {
            ItemKind.UnderRules => Math.Max(1, test.Rules.HoldPoints.Count),
            ItemKind.Coached => test.Stages.Count,
            _ => 0,
        };

    // What is not tried enough comes first; then what comes out clean most often, and now and then what was made least.
    private static string Choice(VariantGroup group, PractiserFacts facts)
    {
        var options = group
            .Options.Select(option => (option.Id, Use: facts.Variants.GetValueOrDefault($"{group.Id}/{option.Id}", new(0, 0))))
            .ToList();
        var isForVariety = options.Sum(one => one.Use.Made) % VarietyEvery == VarietyEvery - 1;
        return options.Exists(one => one.Use.Made < TriedEnough) || isForVariety
            ? options.MinBy(one => one.Use.Made).Id
            : options.MaxBy(one => (one.Use.Clean + 1.0) / (one.Use.Made + 2)).Id; // Laplace's rule of succession
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
        IReadOnlyDictionary<string, double> prices,
        double hoursPerPeriod
    )
    {
        bool Uses(Drill? drill) =>
            test.Passes.Any(pass => TestQualification.NameOf(pass) == process && (drill is null || drill.Stages.Contains(pass.Stage)));
        if (test.Kind == TestKind.Drill || !Uses(null))
        {
            return null;
        }

        // What needs a kept blank is not counted on.
        var drill = test
            .Drills.Where(one => Uses(one) && ItemWork.BlankOf(test, one) is null)
            .MinBy(one => ItemWork.Of(test, one, facts.Logged, prices).BoothMinutes);
        var kind = drill is null ? ItemKind.Coached : ItemKind.Drill;
        var work = ItemWork.Of(test, drill, facts.Logged, prices);
        var part = new PeriodPart(drill?.Id, drill?.Name ?? NameOf(kind), 1, work.BoothMinutes);
        var periods = SlotFit.Of(work.BoothMinutes, hoursPerPeriod).Periods;
        var item = Item(
            test,
            new PeriodOffer(kind, [part], periods, work, PeriodPart.Practice(test, [part])),
            [0],
            null,
            facts with
            {
                Returning = null,
            }
        );
        return item with { Id = $"{KeepAlive}:{process}:{item.Id}", Name = $"{item.Name}, to keep {process}", Asked = periods, Why = why };
    }

    /// <summary>All processes that a booth must run for a coupon or for drills, joined by a plus; where they lay nothing, the first of the test.</summary>
    public static string ProcessOf(TestTemplate test, params IReadOnlyCollection<Drill?> drills) =>
        string.Join(
            '+',
            test.Passes.Where(pass => drills.Count == 0 || drills.Any(drill => drill is null || drill.Stages.Contains(pass.Stage)))
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

    /// <summary>What a booth lacks for a coupon or a drill, in words: <c>no SMAW, no pipe stand</c>; null when it lacks nothing.</summary>
    /// <param name="runs">The processes that the booth is set up for, by name.</param>
    public static string? Lacks(TestTemplate test, Drill? drill, IReadOnlyCollection<string> runs, BoothTraits has)
    {
        var missing = Needs(test) & ~has;
        List<string> lacks =
        [
            .. ProcessOf(test, drill).Split('+').Where(process => !runs.Contains(process)).Select(process => $"no {process}"),
            .. Stands.Where(one => missing.HasFlag(one.Trait)).Select(one => $"no {one.Name}"),
        ];
        return lacks.Count == 0 ? null : string.Join(", ", lacks);
    }

    private static (Stage Stage, string? Place) Weakest(TestTemplate test, Drill? drill, Standing standing)
    {
        var own = TestElements
            .Of(test)
            .Zip(standing.Elements)
            .Select(one => (Part: Split(one.First), one.Second))
            .Where(one => drill is null || Works(drill, one.Part))
            .ToList();
        return own.Count == 0 ? (drill!.Stages[0], null) : own.MinBy(one => one.Second.Value).Part;
    }

    private static (Stage Stage, string? Place) Split(string element)
    {
        var one = Element.Parse(element);
        return (Enum.Parse<Stage>(one.Stage, ignoreCase: true), one.Zone);
    }

    private static string Why(
        PrescribedItem item,
        PrescribedItem plain,
        PractiserFacts facts,
        Standing standing,
        (Stage Stage, string? Place) weakest,
        double chance
    )
    {
        var part = Part(weakest.Stage, weakest.Place);
        if (item.Kind == ItemKind.Drill)
        {
            return Text(
                $"{Capital(Part(item.Stage, item.Place))} is what to work on. A period of it adds {100 * item.Gains[0]:0.0} % to the chance, whole coupons {100 * plain.Gains[0]:0.0}."
            );
        }

        var beside = item.Parts.FirstOrDefault(one => one.DrillId is not null) is { } rest
            ? $" The rest of the period: {Uncapital(rest.Words)}."
            : "";
        var first =
            item.Asked > 0 ? $"Asked for: {Uncapital(facts.Asked!.Says)}."
            : !facts.SafetySigned ? "Safety is not signed off yet, so nothing is made under test rules."
            : facts.FullCoupons == 0 ? "The first coupon of this test, with you beside."
            : item.Kind == ItemKind.Coached
                ? Text($"At {standing.Whole.Mean.Value:0 %} a whole coupon is better made with you beside; {part} is the weakest, {chance:0 %}.")
            : Text($"All stages under the rules of the test; {part} is the weakest, {chance:0 %}.");
        return first + beside;
    }

    private static string Part(Stage stage, string? place) => new Element("", JsonNamingPolicy.CamelCase.ConvertName(stage.ToString()), place).Words;

    private static string Capital(string text) => char.ToUpperInvariant(text[0]) + text[1..];

    private static string Uncapital(string text) => char.ToLowerInvariant(text[0]) + text[1..];

    private static string Text(FormattableString text) => text.ToString(CultureInfo.InvariantCulture);
}
