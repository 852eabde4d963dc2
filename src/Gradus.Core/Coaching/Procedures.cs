using Gradus.Core.Library;

namespace Gradus.Core.Coaching;

/// <summary>How a bead is stopped and taken up again.</summary>
/// <param name="Strike">Where the arc is struck.</param>
public sealed record RestartPlan(string Id, CoachWhen When, string Stop, string Dress, string Strike, string GoOn, string Source);

/// <summary>A question that schools of practice answer in different ways.</summary>
/// <param name="Default">The way that is taken where nothing speaks for another, from 0.</param>
/// <param name="Variant">The group of choices of a test that it is; null where it is none.</param>
public sealed record SchoolQuestion(
    string Id,
    string Question,
    IReadOnlyList<SchoolWay> Ways,
    int Default,
    string Why,
    string Source,
    string? Variant = null
);

/// <param name="Suits">When it suits.</param>
public sealed record SchoolWay(string Name, string Suits);

/// <summary>A question before the arc, answered yes or no.</summary>
/// <param name="Mend">What a no asks for.</param>
/// <param name="Again">True when it is asked again after a change of process, wire or polarity.</param>
/// <param name="Purged">True only where the inside is purged.</param>
public sealed record PreflightCheck(
    string Id,
    string Ask,
    string Mend,
    string Why,
    bool Again,
    string Source,
    bool FromMemory,
    IReadOnlyList<Process>? Processes = null,
    IReadOnlyList<ElectrodeFamily>? Families = null,
    IReadOnlyList<Stage>? Stages = null,
    bool Purged = false,
    IReadOnlyList<BaseMetal>? Metals = null
)
{
    internal bool IsAsked(PassPlan pass, BaseMetal metal, bool purged) =>
        (Processes is null || Processes.Contains(pass.Process))
        && (Metals is null || Metals.Contains(metal))
        && (Families is null || Families.Contains(pass.Family))
        && (Stages is null || Stages.Contains(pass.Stage))
        && (!Purged || purged);
}

/// <summary>What is done in turn: before the arc, at a stop, at a hole; and where schools differ.</summary>
public static class Procedures
{
    /// <summary>Ways to stop and go on; the first that holds.</summary>
    public static IReadOnlyList<RestartPlan> Restarts { get; } = CoreJson.ReadEmbedded<IReadOnlyList<RestartPlan>>("Coaching/restarts.json");

    /// <summary>Every question before the arc, in the order in which it is asked.</summary>
    public static IReadOnlyList<PreflightCheck> Preflight { get; } = CoreJson.ReadEmbedded<IReadOnlyList<PreflightCheck>>("Coaching/preflight.json");

    /// <summary>What is done about a hole, step by step. Common practice; 60 °C is a chosen default.</summary>
    public static IReadOnlyList<string> BurnThrough { get; } = CoreJson.ReadEmbedded<IReadOnlyList<string>>("Coaching/burn-through.json");

    /// <summary>Where schools of practice differ.</summary>
    public static IReadOnlyList<SchoolQuestion> Schools { get; } = CoreJson.ReadEmbedded<IReadOnlyList<SchoolQuestion>>("Coaching/schools.json");

    /// <summary>How a bead is stopped and taken up again, in a language.</summary>
    public static RestartPlan RestartOf(CoachPlace place, Wording words)
    {
        var plan = Restarts.First(one => one.When.Holds(place));
        return plan with { Stop = words.Say(plan.Stop), Dress = words.Say(plan.Dress), Strike = words.Say(plan.Strike), GoOn = words.Say(plan.GoOn) };
    }

    /// <summary>
    /// What is asked before a pass: all of it at the first pass of a sitting, and what belongs to a process, electrode or polarity again where one of
    /// them changes from the pass before.
    /// </summary>
    /// <param name="before">The last pass that was asked for; null at the start of a sitting.</param>
    public static IReadOnlyList<PreflightCheck> PreflightOf(TestTemplate test, PassPlan pass, PassPlan? before)
    {
        var purged = test.Joint.Backing.Kind is BackingKind.Gas or BackingKind.Insert;
        var changed =
            before is null
            || before.Process != pass.Process
            || before.Polarity != pass.Polarity
            || before.Filler.Classification != pass.Filler.Classification
            || Math.Abs(before.Filler.DiameterMm - pass.Filler.DiameterMm) > SameDiameterMm;
        return
        [
            .. Preflight.Where(check =>
                check.IsAsked(pass, test.BaseMetal, purged)
                && (before is null || (changed && (check.Again || !check.IsAsked(before, test.BaseMetal, purged))))
            ),
        ];
    }

    /// <summary>Every sentence of the procedures, for whoever puts them into another language.</summary>
    public static IEnumerable<string> Sentences =>
        Restarts
            .SelectMany(one => new[] { one.Stop, one.Dress, one.Strike, one.GoOn })
            .Concat(Preflight.SelectMany(one => new[] { one.Ask, one.Mend, one.Why }))
            .Concat(BurnThrough)
            .Concat(Schools.SelectMany(one => one.Ways.SelectMany(way => new[] { way.Name, way.Suits }).Concat([one.Question, one.Why])))
            .Concat(GapLeft.All.SelectMany(one => one.Bands.Select(band => band.Says)))
            .Distinct();

    private const double SameDiameterMm = 0.01;
}
