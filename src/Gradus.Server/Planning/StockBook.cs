using Gradus.Core.Planning;
using Gradus.Data;
using Microsoft.EntityFrameworkCore;

namespace Gradus.Server.Planning;

/// <summary>How much of a stock there is. Of bars the amount counts bars of the length.</summary>
public sealed record StockLevel(string Stock, string Unit, double? LengthMm, bool OffCut, double Amount)
{
    /// <summary>What can be drawn from it in its unit; of bars the length that the saw can use.</summary>
    public double Usable(Saw saw) => LengthMm is { } length ? Math.Max(0, Amount) * Math.Max(0, length - saw.GripMm) : Math.Max(0, Amount);
}

/// <summary>The store: what came in less what went out.</summary>
public sealed class StockBook(GradusContext db)
{
    public async Task<IReadOnlyList<StockLevel>> Levels(CancellationToken cancel) =>
        await db
            .StockMoves.GroupBy(move => new
            {
                move.Stock,
                move.Unit,
                move.LengthMm,
                move.OffCut,
            })
            .Select(group => new StockLevel(group.Key.Stock, group.Key.Unit, group.Key.LengthMm, group.Key.OffCut, group.Sum(move => move.Amount)))
            .ToListAsync(cancel);
}
