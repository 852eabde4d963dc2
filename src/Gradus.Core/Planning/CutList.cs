namespace Gradus.Core.Planning;

/// <summary>Pieces to cut from one section of stock. Lengths in mm, over 0.</summary>
/// <param name="For">Whose coupon it is for, in words; shown on the sheet of the saw.</param>
public sealed record CutPiece(double LengthMm, int Count, string For);

/// <summary>Bars of one length on the rack. <paramref name="OffCut"/>: left over from earlier cutting, so used up first.</summary>
public sealed record RackBar(double LengthMm, int Count, bool OffCut);

/// <summary>How a saw cuts. In mm.</summary>
/// <param name="KerfMm">What each cut turns into chips.</param>
/// <param name="GripMm">What the vice holds at the end of a bar and cannot be cut.</param>
/// <param name="KeepMm">An off-cut at least this long goes back on the rack.</param>
public sealed record Saw(double KerfMm, double GripMm, double KeepMm);

/// <summary>One bar and the lengths cut from it, in order; what is left of it.</summary>
public sealed record CutBar(double LengthMm, bool OffCut, IReadOnlyList<double> Cuts, double LeftMm, bool Kept);

/// <summary>Bars to cut.</summary>
/// <param name="BoughtMm">Length of new bars that are begun.</param>
/// <param name="BoundMm">No way of cutting begins less.</param>
/// <param name="Missing">Pieces that the rack does not reach for.</param>
public sealed record CutPlan(IReadOnlyList<CutBar> Bars, double BoughtMm, double BoundMm, IReadOnlyList<CutPiece> Missing)
{
    private const double Slack = 1e-6;

    /// <summary>True when no other way begins less new stock.</summary>
    public bool Proved => BoughtMm <= BoundMm + Slack;

    /// <summary>Everything that is wrong with a plan, in words; worked out from the bars alone.</summary>
    public IReadOnlyList<string> Errors(IReadOnlyList<CutPiece> pieces, IReadOnlyList<RackBar> rack, Saw saw)
    {
        var errors = new List<string>();
        foreach (var bar in Bars)
        {
            var needed = bar.Cuts.Sum() + (saw.KerfMm * bar.Cuts.Count);

            // The last cut needs no kerf when the piece is all that is left over the grip.
            if (needed - saw.KerfMm > bar.LengthMm - saw.GripMm + Slack)
            {
                errors.Add($"{needed:0.#} mm out of a bar of {bar.LengthMm:0.#} mm.");
            }
        }

        var cut = Bars.SelectMany(bar => bar.Cuts)
            .Concat(Missing.SelectMany(piece => Enumerable.Repeat(piece.LengthMm, piece.Count)))
            .Order()
            .ToList();
        var wanted = pieces.SelectMany(piece => Enumerable.Repeat(piece.LengthMm, piece.Count)).Order().ToList();
        if (cut.Count != wanted.Count || cut.Zip(wanted).Any(pair => Math.Abs(pair.First - pair.Second) > Slack))
        {
            errors.Add("The pieces that are cut are not those that are wanted.");
        }

        errors.AddRange(
            Bars.GroupBy(bar => (bar.LengthMm, bar.OffCut))
                .Where(group =>
                    group.Count() > rack.Where(bar => bar.LengthMm == group.Key.LengthMm && bar.OffCut == group.Key.OffCut).Sum(bar => bar.Count)
                )
                .Select(group => $"More bars of {group.Key.LengthMm:0.#} mm than there are.")
        );
        return errors;
    }
}
