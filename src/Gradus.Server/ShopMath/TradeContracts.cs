using FluentValidation;
using Gradus.Core.Coaching;
using Gradus.Core.Inspection;
using Gradus.Core.Measure;
using Gradus.Core.Qualification;
using Gradus.Core.Safety;
using Gradus.Core.Welding;
using Gradus.Server.Hosting;
using Gradus.Solver;

namespace Gradus.Server.ShopMath;

/// <summary>
/// A joint to be planned: give <c>layers</c> (beads in each, from the root up), or the size of a bead to have them worked out. A fillet has a
/// leg; its thickness is that of its members. The position by AWS A3.0 sets the order of the beads.
/// </summary>
public sealed record BeadPlanRequest(
    JointForm? Form,
    double? ThicknessMm,
    double? BevelDegA,
    double? BevelDegB,
    double? RootOpeningMm,
    double? RootFaceMm,
    double? JRadiusMm,
    double? LegMm,
    bool? Strip,
    string? Position,
    IReadOnlyList<int>? Layers,
    double? BeadAreaMm2,
    double? BeadWidthMm,
    double? Overlap,
    double? FillBelowFlushMm
);

/// <summary>The planned section, with what follows from the joint.</summary>
/// <param name="FilledMm2">Area of the planned beads; of suggested layers the metal that they bring.</param>
/// <param name="NeededMm2">Area of the groove, the cap and the root reinforcement.</param>
/// <param name="ShrinkageMm">How far the opening is likely to close.</param>
/// <param name="Cap">Advice for the cap, when the fill level and a bead width were given.</param>
public sealed record BeadPlanAnswer(
    IReadOnlyList<int> Layers,
    JointSection Section,
    double FilledMm2,
    double NeededMm2,
    double ShrinkageMm,
    double MeanWidthMm,
    CapAdvice? Cap,
    string ShrinkageSource
);

public sealed record LensRequest(Process? Process, double? Amps);

/// <summary>The lens by the table; <c>suggested</c> null where it gives the least only.</summary>
public sealed record LensAnswer(
    int Least,
    int? Suggested,
    string Source,
    bool FromMemory,
    IReadOnlyList<string> Cautions,
    IReadOnlyList<OtherShade> Others
);

/// <summary>When a qualification ends. Dates as 2026-11-23.</summary>
public sealed record ContinuityRequest(string? Code, DateOnly? QualifiedOn, DateOnly? LastUsedOn, int? RenewalYears);

/// <summary>A finding with what was recorded around it; what was not is left out.</summary>
public sealed record CausesRequest(DiscontinuityKind? Kind, CauseFacts? Facts);

/// <summary>What a job asks for, and the tests that may be taken for it; left out: those of the library, at the booth time that each takes.</summary>
public sealed record CoverageRequest(
    string? Code,
    CoverageAim? Aim,
    IReadOnlyList<JobWeldRequest>? Welds,
    IReadOnlyList<string>? Tests,
    IReadOnlyDictionary<string, double>? Costs
);

/// <summary>A weld of the job. The position as ranges name it: F, H, V, OH, or by ISO 6947.</summary>
public sealed record JobWeldRequest(
    string? Name,
    Product? Product,
    WeldKind? Weld,
    string? Position,
    double? ThicknessMinMm,
    double? ThicknessMaxMm,
    double? DiameterMm,
    bool? Backing,
    string? Process,
    int? FNumber,
    Progression? Progression
)
{
    /// <summary>The weld, once it was validated.</summary>
    internal JobWeld Asked =>
        new(
            Name!,
            Product!.Value,
            Weld!.Value,
            Position!,
            ThicknessMinMm!.Value,
            ThicknessMaxMm!.Value,
            DiameterMm,
            Backing!.Value,
            Process!,
            FNumber!.Value,
            Progression ?? Core.Vocabulary.Progression.None
        );
}

public sealed class BeadPlanRequestValidator : AbstractValidator<BeadPlanRequest>
{
    private const int MostLayers = 40;
    private const int MostBeads = 20;

    public BeadPlanRequestValidator()
    {
        RuleFor(request => request.Form).NeedsOneOf();
        RuleFor(request => request.ThicknessMm).NeedsOver0(200, "the thickness in mm");
        When(
                request => request.Form is JointForm.TeeFillet or JointForm.LapFillet,
                () => RuleFor(request => request.LegMm).NeedsOver0(100, "the leg of the fillet in mm")
            )
            .Otherwise(WhenButt);
        RuleFor(request => request.Position)
            .Must(position => position is null or { Length: <= 8 })
            .WithMessage("A position by AWS A3.0, or left out.");
        RuleFor(request => request.Layers)
            .Must(layers => layers is null || (layers.Count is >= 1 and <= MostLayers && layers.All(beads => beads is >= 1 and <= MostBeads)))
            .WithMessage($"1 to {MostLayers} layers of 1 to {MostBeads} beads, or left out.");
        When(
            request => request.Layers is null,
            () =>
            {
                RuleFor(request => request.BeadAreaMm2).Needs(1, 1000, "the area of a bead in mm2, or the layers");
                RuleFor(request => request.BeadWidthMm).Needs(0.5, 100, "the width of a bead in mm, or the layers");
                RuleFor(request => request.Overlap).Needs(0, 0.9, "the overlap as a share of a bead, or the layers");
            }
        );
        RuleFor(request => request.FillBelowFlushMm).MayBe(0, 200, "The fill level below flush in mm");
    }

    private void WhenButt()
    {
        RuleFor(request => request.BevelDegA).NeedsBevel();
        RuleFor(request => request.BevelDegB).NeedsBevel();
        RuleFor(request => request.RootOpeningMm).Needs(0, 50, "the root opening in mm");
        RuleFor(request => request.RootFaceMm).Needs(0, 200, "the root face in mm");
        RuleFor(request => request.RootFaceMm)
            .Must((request, face) => !(face > request.ThicknessMm))
            .WithMessage("The root face cannot be thicker than the material.");
        RuleFor(request => request.JRadiusMm)
            .Must((request, radius) => request.Form == JointForm.SingleJ ? radius is > 0 and <= 50 : radius is null or >= 0 and <= 50)
            .WithMessage("A J preparation has a root radius, a number over 0 and at most 50 mm.");
    }
}

public sealed class LensRequestValidator : AbstractValidator<LensRequest>
{
    public LensRequestValidator()
    {
        RuleFor(request => request.Process).NeedsOneOf();
        RuleFor(request => request.Amps)
            .Must((request, amps) => amps > 0 && (request.Process is not { } process || Cautions.Shade(process, amps.Value) is not null))
            .WithMessage("Give the current in amps, over 0 and at most what the table reaches to (500; 550 for covered electrodes).");
    }
}

public sealed class ContinuityRequestValidator : AbstractValidator<ContinuityRequest>
{
    public ContinuityRequestValidator()
    {
        RuleFor(request => request.Code).NeedsOneOf(Positions.Codes);
        RuleFor(request => request.QualifiedOn).Must(IsDay).WithMessage("Give the day of the test, 1950-01-01 to 2200-12-31.");
        RuleFor(request => request.LastUsedOn).Must(IsDay).WithMessage("Give the last day of use, 1950-01-01 to 2200-12-31.");
        RuleFor(request => request.LastUsedOn)
            .Must((request, day) => day is null || request.QualifiedOn is null || day >= request.QualifiedOn)
            .WithMessage("The last use is not before the test.");
        RuleFor(request => request.RenewalYears)
            .Must(
                (request, years) =>
                    years is null
                    || (
                        request.Code is { } code
                        && Ranges.ByCode.TryGetValue(code, out var rules)
                        && rules.Continuity.RenewalYears.Contains(years.Value)
                    )
            )
            .WithMessage("One of the code's routes of renewal in years (ISO 9606-1: 2 or 3), or left out.");
    }

    private static bool IsDay(DateOnly? day) => day is { Year: >= 1950 and <= 2200 };
}

public sealed class CausesRequestValidator : AbstractValidator<CausesRequest>
{
    public CausesRequestValidator()
    {
        RuleFor(request => request.Kind).NeedsOneOf();
        RuleFor(request => request.Facts).NotNull().WithMessage("Give what was recorded, with the stage at least.");
        RuleFor(request => request.Facts)
            .Must(facts => facts is null || Numbers(facts).All(value => value is null or (>= 0 and <= 100_000)))
            .WithMessage("Each number is from 0 to 100 000, or left out.");
        RuleFor(request => request.Facts)
            .Must(facts => facts is null || Spans(facts).All(span => span is null || (span.Min > 0 && span.Max >= span.Min)))
            .WithMessage("A card runs from a number over 0 to one at least as large.");
        RuleFor(request => request.Facts)
            .Must(facts => facts?.ClockMinutes is null or (>= 0 and < 720))
            .WithMessage("Clock minutes are from 0 to 719.");
    }

    private static double?[] Numbers(CauseFacts facts) =>
        [
            facts.GapMm,
            facts.PlannedGapMm,
            facts.FaceMm,
            facts.PlannedFaceMm,
            facts.OffsetMm,
            facts.StripGapMm,
            facts.Amps,
            facts.Volts,
            facts.WireFeedMmPerMin,
            facts.StickOutMm,
            facts.GasFlowLPerMin,
            facts.StartStopAwayMm,
            facts.FillBelowFlushMm,
            facts.CapBeads,
            facts.PlannedCapBeads,
            facts.PurgeMinutes,
            facts.PurgeNeededMinutes,
        ];

    private static Core.Vocabulary.Span?[] Spans(CauseFacts facts) =>
        [facts.CardAmps, facts.CardVolts, facts.CardWireFeed, facts.CardStickOut, facts.CardGasFlow];
}

public sealed class CoverageRequestValidator : AbstractValidator<CoverageRequest>
{
    private const int MostWelds = 20;
    private const double MostCost = 1_000_000;

    public CoverageRequestValidator(Library.SchoolLibrary library)
    {
        RuleFor(request => request.Code).NeedsOneOf(Positions.Codes);
        RuleFor(request => request.Aim).NeedsOneOf();
        RuleFor(request => request.Tests)
            .Must(tests => tests is null || (tests.Count >= 1 && tests.All(id => id is not null && library.Tests.ContainsKey(id))))
            .WithMessage(_ => $"Leave out for every test, or give some of: {string.Join(", ", library.Tests.Keys)}.");
        RuleFor(request => request.Costs)
            .Must(costs => costs is null || costs.All(one => library.Tests.ContainsKey(one.Key) && one.Value is >= 0 and <= MostCost))
            .WithMessage($"A cost from 0 to {MostCost:0} for tests of the library, or left out.");
        RuleFor(request => request.Welds)
            .Must(welds => welds is { Count: >= 1 and <= MostWelds } && welds.All(weld => weld is not null))
            .WithMessage($"Give 1 to {MostWelds} welds of the job.");
        RuleForEach(request => request.Welds)
            .ChildRules(weld =>
            {
                weld.RuleFor(one => one.Name).NeedsText(80, "a name for the weld");
                weld.RuleFor(one => one.Product).Must(product => product is Product.Plate or Product.Pipe).WithMessage("Give one of: plate, pipe.");
                weld.RuleFor(one => one.Weld).NeedsOneOf();
                weld.RuleFor(one => one.ThicknessMinMm).NeedsOver0(500, "the least thickness in mm");
                weld.RuleFor(one => one.ThicknessMaxMm)
                    .Must((one, most) => most <= 500 && most >= one.ThicknessMinMm)
                    .WithMessage("Give the greatest thickness in mm, at least the least and at most 500.");
                weld.RuleFor(one => one.DiameterMm)
                    .Must((one, diameter) => one.Product == Product.Pipe ? diameter is > 0 and <= 5000 : diameter is null)
                    .WithMessage("For pipe, give the outside diameter in mm; leave it out for plate.");
                weld.RuleFor(one => one.Backing).NotNull().WithMessage("Say true for a weld with backing, false for one without.");
                weld.RuleFor(one => one.Process).NeedsOneOf(["SMAW", "GTAW", "GMAW", "GMAW-S", "FCAW-G", "FCAW-S"]);
                weld.RuleFor(one => one.FNumber).Must(number => number is >= 1 and <= 72).WithMessage("Give the F-number, 1 to 72.");
            });
        RuleForEach(request => request.Welds)
            .Must((request, weld) => weld?.Position is { } position && IsPosition(request.Code, position))
            .OverridePropertyName("welds")
            .WithMessage((request, weld) => $"'{weld?.Position}' is not a position of ranges in that code.");
    }

    private static bool IsPosition(string? code, string position) =>
        code is null
        || Positions.Of(code) is not { } table
        || table.Rules.Any(rule => rule.PlateGroove.Contains(position) || rule.PipeGroove.Contains(position) || rule.Fillet.Contains(position));
}
