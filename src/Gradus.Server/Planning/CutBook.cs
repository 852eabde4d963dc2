using Gradus.Core.Measure;
using Gradus.Core.Planning;
using Gradus.Data;
using Gradus.Server.Library;
using Gradus.Solver;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Planning;

/// <summary>What to saw of one section for a week.</summary>
/// <param name="Rack">Bars there are of it.</param>
/// <param name="Plan">How to cut them, off-cuts first.</param>
/// <param name="ToBuy">Bars of <paramref name="BuyLengthMm"/> to be bought for what the rack does not reach for.</param>
public sealed record CutSection(
    string Stock,
    IReadOnlyList<CutPiece> Pieces,
    IReadOnlyList<RackBar> Rack,
    CutPlan Plan,
    bool Proved,
    int ToBuy,
    double BuyLengthMm
);

/// <summary>What a week draws from a stock, and what is left then.</summary>
/// <param name="Level">What there is now; null when the stock was never counted.</param>
/// <param name="WeeksLeft">How many such weeks the stock lasts; null when it was never counted.</param>
public sealed record WeekDraw(string Stock, string Unit, double Amount, double Cost, double? Level, double? WeeksLeft);

/// <summary>What has to lie in the booth for an item of a student: for all its coupons of the week.</summary>
/// <param name="Draws">Filler, gas and discs.</param>
/// <param name="Steel">The pieces, sawn to length.</param>
public sealed record ItemNeeds(
    Guid StudentId,
    string ItemId,
    int Coupons,
    string Position,
    IReadOnlyList<Process> Processes,
    IReadOnlyList<StockDraw> Draws,
    IReadOnlyList<SteelPiece> Steel
);

/// <summary>The sawing and drawing of a week.</summary>
public sealed record CutView(
    DateOnly Monday,
    Saw Saw,
    IReadOnlyList<CutSection> Sections,
    IReadOnlyList<WeekDraw> Draws,
    double Cost,
    IReadOnlyList<ItemNeeds> Needs
);

/// <summary>Works out what a planned week takes.</summary>
public sealed class CutBook(WeekBuilder weeks, SetupBook setups, StockBook stock, WorkLog log, SchoolLibrary library, GradusContext db)
{
    public async Task<CutView> Read(DateOnly monday, CancellationToken cancel)
    {
        var setup = await setups.Read(cancel);
        var plan = await weeks.Plan(monday, cancel);
        var levels = await stock.Levels(cancel);
        var logged = await log.Read(cancel);
        var names = await db.Students.Select(one => new { one.Id, one.Name }).ToDictionaryAsync(one => one.Id, one => one.Name, cancel);
        var pieces = new List<(string Stock, CutPiece Piece)>();
        var draws = new List<StockDraw>();
        var needs = new List<ItemNeeds>();
        foreach (var group in (plan?.Cells ?? []).GroupBy(cell => (cell.StudentId, cell.ItemId)))
        {
            var cell = group.First();
            if (!library.Tests.TryGetValue(cell.TestId, out var test))
            {
                continue;
            }

            var own = test.With(cell.Variants);
            var times = logged.GetValueOrDefault(test.Id, LoggedWork.None);
            var drill = test.Drills.FirstOrDefault(one => one.Id == cell.DrillId);

            // A plan from before the parts of a period were told holds one piece, as often as it fits.
            var work = cell.Parts is { } parts ? ItemWork.OfParts(own, parts, times, setup.Prices) : ItemWork.Of(own, drill, times, setup.Prices);
            var coupons = cell.Parts is null
                ? SlotFit.Of(work.BoothMinutes, setup.Week.HoursPerPeriod).Made(group.Count())
                : (int)Math.Ceiling((double)group.Count() / cell.Periods);
            var name = names.GetValueOrDefault(cell.StudentId, "");
            pieces.AddRange(work.Steel.Select(steel => (steel.Stock, new CutPiece(steel.LengthMm, steel.Count * coupons, $"{name}, {cell.TestId}"))));
            var taken = work.Draws.Select(draw => draw with { Amount = draw.Amount * coupons, Cost = draw.Cost * coupons }).ToList();
            draws.AddRange(taken);
            needs.Add(
                new ItemNeeds(
                    cell.StudentId,
                    cell.ItemId,
                    coupons,
                    test.Positions[0],
                    [.. test.Passes.Select(pass => pass.Process).Distinct()],
                    [.. taken.Where(draw => draw.Unit != "mm")],
                    [.. work.Steel.Select(steel => steel with { Count = steel.Count * coupons })]
                )
            );
        }

        return new CutView(
            monday,
            setup.Saw,
            [
                .. pieces
                    .GroupBy(one => one.Stock)
                    .OrderBy(group => group.Key, StringComparer.Ordinal)
                    .Select(group => Section(group.Key, [.. group.Select(one => one.Piece)], levels, setup.Saw)),
            ],
            [
                .. draws
                    .GroupBy(draw => (draw.Stock, draw.Unit))
                    .OrderBy(group => group.Key.Unit == "mm")
                    .ThenBy(group => group.Key.Stock, StringComparer.Ordinal)
                    .Select(group => Draw(group.Key.Stock, group.Key.Unit, [.. group], levels, setup.Saw)),
            ],
            draws.Sum(draw => draw.Cost),
            needs
        );
    }

    private static WeekDraw Draw(string name, string unit, List<StockDraw> draws, IReadOnlyList<StockLevel> levels, Saw saw)
    {
        var amount = draws.Sum(draw => draw.Amount);
        var own = levels.Where(level => level.Stock == name).ToList();
        double? there = own.Count == 0 ? null : own.Sum(level => level.Usable(saw));
        return new WeekDraw(name, unit, amount, draws.Sum(draw => draw.Cost), there, there is { } level && amount > 0 ? level / amount : null);
    }

    private static CutSection Section(string name, IReadOnlyList<CutPiece> pieces, IReadOnlyList<StockLevel> levels, Saw saw)
    {
        var rack = levels
            .Where(level => level.Stock == name && level.LengthMm is not null && level.Amount >= 1)
            .Select(level => new RackBar(level.LengthMm!.Value, (int)level.Amount, level.OffCut))
            .ToList();
        var plan = BarCutter.Cut(pieces, rack, saw);
        var length = TradeNumbers.Of("barLengthMm");
        var bought =
            plan.Missing.Count == 0
                ? 0
                : BarCutter.Cut(plan.Missing, [new RackBar(length, plan.Missing.Sum(piece => piece.Count), false)], saw).Bars.Count;
        return new CutSection(name, pieces, rack, plan, plan.Proved, bought, length);
    }
}
