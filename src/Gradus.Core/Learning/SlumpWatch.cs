namespace Gradus.Core.Learning;

/// <summary>
/// Watches over a term whether coupons come out clean as often as was foreseen, coupon by coupon, and says when they do not. A bet against what was
/// foreseen is begun at every coupon, each with the same share of one stake, and pays at fair odds: who foresaw rightly sees the stake grow to
/// twenty-fold with a chance of one in twenty at most, however often it is looked at (Ville's inequality; the mixture over the beginnings as in
/// sequential change detection by e-processes).
/// </summary>
public static class SlumpWatch
{
    /// <summary>The chance of a notice, ever, where all is as foreseen: at most this.</summary>
    public const double FalseNotices = 0.05;

    // The bet: the log-odds of a clean coupon have fallen by so much. A chosen default.
    private const double Fall = 1.6;

    /// <summary>How many coupons a term has at most: the latest so many are watched.</summary>
    public const int Term = 60;
    private const double LeastChance = 0.02;

    /// <summary>Where fewer come clean than foreseen: from which coupon on, counted from 0; null when nothing is out of order now.</summary>
    /// <param name="coupons">In their order: whether it was clean, and what was foreseen of that, 0 to 1.</param>
    public static int? Since(IReadOnlyList<(bool Clean, double Foreseen)> coupons)
    {
        var begin = Math.Max(0, coupons.Count - Term);
        var (stake, best, from) = (0.0, 0.0, begin);
        for (var index = begin; index < coupons.Count; index++)
        {
            var (clean, foreseen) = coupons[index];
            var chance = Math.Clamp(foreseen, LeastChance, 1 - LeastChance);
            var lower = 1 / (1 + ((1 - chance) / chance * Math.Exp(Fall)));
            var pays = clean ? lower / chance : (1 - lower) / (1 - chance);

            stake = pays * (stake + (1.0 / Term));

            // The bet that has done best tells since when.
            if (best <= 1)
            {
                (best, from) = (1, index);
            }

            best *= pays;
        }

        return stake >= 1 / FalseNotices ? from : null;
    }
}
