using Gradus.Core.Bench;
using Gradus.Core.Coaching;
using Gradus.Core.Library;
using Gradus.Core.Planning;
using Gradus.Core.Safety;
using Gradus.Core.Vocabulary;
using Gradus.Core.Welding;
using Gradus.Data;
using Gradus.Server.Coupons;
using Gradus.Server.Hosting;
using Gradus.Server.Library;
using Gradus.Server.School;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Planning;

/// <summary>A planned period as a card to weld from.</summary>
/// <param name="Title">The test.</param>
/// <param name="Variants">The options that are taken this time, in words.</param>
/// <param name="FitUp">The numbers of the fit-up; empty where nothing is fitted.</param>
/// <param name="Passes">The passes that are laid, in order, with the settings that this student starts from.</param>
/// <param name="Cues">What to mind at the arc, pass by pass; empty under the rules of a test.</param>
public sealed record BoothCard(
    Guid StudentId,
    string StudentName,
    int Slot,
    int Booth,
    string TestId,
    string Title,
    string Position,
    string Name,
    string Why,
    IReadOnlyList<PeriodPart> Parts,
    IReadOnlyList<string> Variants,
    double? RootOpeningMm,
    double ThicknessMm,
    string? Pipe,
    IReadOnlyList<FitUpTolerance> FitUp,
    TackPlan? Tacks,
    IReadOnlyList<CardPass> Passes,
    IReadOnlyList<string> HoldPoints,
    IReadOnlyList<string> Cues,
    IReadOnlyList<string> Cautions
);

/// <param name="Beads">How many beads it is laid in, over its layers.</param>
public sealed record CardPass(PassCard Card, int Layers, int Beads);

/// <summary>The cards of a week: what is still ahead of it.</summary>
/// <param name="Codes">By student a QR code, as SVG, that opens the student's page from any tablet that reaches the server.</param>
public sealed record CardsView(DateOnly Monday, IReadOnlyList<BoothCard> Cards, IReadOnlyDictionary<Guid, string> Codes);

/// <summary>Makes the cards that hang in the booths.</summary>
public sealed class BoothCards(WeekBuilder weeks, SetupBook setups, SchoolLibrary library, SchoolClock clock, GradusContext db, Speaker speaker)
{
    private const int MostCards = 400;
    private const int PixelsPerModule = 3;

    public async Task<CardsView> Read(DateOnly monday, string host, CancellationToken cancel)
    {
        var setup = await setups.Read(cancel);
        var open = weeks.FirstOpen(setup, monday, OpenFrom.NotOver);
        var cells = ((await weeks.Plan(monday, cancel))?.Cells ?? [])
            .Where(cell => cell.Slot >= open && library.Tests.ContainsKey(cell.TestId))
            .OrderBy(cell => cell.Slot)
            .Take(MostCards)
            .ToList();
        var ids = cells.Select(cell => cell.StudentId).Distinct().ToList();
        var students = await db.Students.AsNoTracking().Where(one => ids.Contains(one.Id)).ToDictionaryAsync(one => one.Id, cancel);
        var booths = await db.Booths.AsNoTracking().ToDictionaryAsync(one => one.Id, one => one.Number, cancel);
        var recent = await RecentPasses.Read(db, ids, clock.Now, cancel);
        var address = await db.Schools.Select(school => school.Address).SingleOrDefaultAsync(cancel) ?? host;
        var languages = await db.People.Where(one => ids.Contains(one.Id)).ToDictionaryAsync(one => one.Id, one => one.Language, cancel);
        var words = new Dictionary<Guid, Wording>();
        foreach (var id in ids)
        {
            words[id] = await speaker.In(languages.GetValueOrDefault(id), cancel);
        }

        var codes = ids.ToDictionary(id => id, id => QrPicture.Of($"{address}/students/{id}", PixelsPerModule));
        return new CardsView(
            monday,
            [
                .. cells
                    .Where(cell => students.ContainsKey(cell.StudentId) && booths.ContainsKey(cell.BoothId))
                    .Select(cell =>
                        Card(cell, students[cell.StudentId], booths[cell.BoothId], recent[(cell.StudentId, cell.TestId)], words[cell.StudentId])
                    ),
            ],
            codes
        );
    }

    /// <summary>What to mind at each pass that is laid: how the hand goes, what to watch, when to stop.</summary>
    private static List<string> Cues(TestTemplate test, IReadOnlyList<PlannedBead> beads, HashSet<Stage> stages, Wording words) =>
        [
            .. beads
                .Where(bead => stages.Contains(bead.Stage))
                .DistinctBy(bead => bead.Pass)
                .Select(bead => CoachBook.Card(CoachBook.PlaceOf(test, beads, bead, CoachBook.ZonesOf(test)[0]), words))
                .DistinctBy(card => card.Name)
                .Select(card =>
                    $"{card.Name}. {card.Angle.Says}. {card.Motion.Says}. {card.Watch.Says}. {card.Stop}.{(card.Pace is { } pace ? $" {pace}." : "")}"
                ),
        ];

    private BoothCard Card(PlannedCell cell, Student student, int booth, IEnumerable<RecentPass> recent, Wording words)
    {
        var plain = library.Tests[cell.TestId];
        var test = plain.With(cell.Variants);

        // A sitting and a coupon lay all; a drill only its stages.
        var stages = cell
            .Filling.SelectMany(part => test.Drills.FirstOrDefault(drill => drill.Id == part.DrillId)?.Stages ?? [Stage.FitUp, .. test.Stages])
            .ToHashSet();
        var isFitted = stages.Contains(Stage.FitUp) || stages.Contains(Stage.Root);
        var beads = test.Beads();
        return new BoothCard(
            student.Id,
            student.Name,
            cell.Slot,
            booth,
            cell.TestId,
            plain.Title,
            test.Positions[0],
            cell.Name,
            cell.Why,
            cell.Filling,
            [
                .. cell
                    .Variants.Select(choice =>
                        plain
                            .Variants.FirstOrDefault(group => group.Id == choice.Key)
                            ?.Options.FirstOrDefault(option => option.Id == choice.Value)
                            ?.Name
                    )
                    .OfType<string>(),
            ],
            isFitted ? test.Joint.RootOpeningMm : null,
            test.Joint.ThicknessMm,
            test.Joint.Pipe is { } pipe ? $"NPS {pipe.Nps} schedule {pipe.Schedule}" : null,
            isFitted ? test.FitUp.Tolerances : [],
            isFitted ? test.FitUp.Tacks : null,
            [
                .. PassCards
                    .Build(test, student.Hand, recent)
                    .Select((card, index) => (Card: card, Own: beads.Where(bead => bead.Pass == index).ToList()))
                    .Where(one => stages.Contains(one.Card.Stage) && one.Own.Count > 0)
                    .Select(one => new CardPass(one.Card, one.Own.Select(bead => (bead.Layer, bead.Half)).Distinct().Count(), one.Own.Count)),
            ],
            [.. test.Rules.HoldPoints.Where(point => point.Stage is not { } stage || stages.Contains(stage)).Select(point => point.Title)],
            cell.Kind == ItemKind.UnderRules ? [] : Cues(test, beads, stages, words),
            [
                .. Cautions
                    .Of(test)
                    .Where(caution => caution.Stage is not { } stage || stages.Contains(stage))
                    .Select(caution => words.Say(caution.Text))
                    .Distinct(),
                words.Say(Cautions.Line),
            ]
        );
    }
}
