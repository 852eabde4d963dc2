namespace Gradus.Core.Readiness;

/// <summary>The first step that costs are asked for.</summary>
public enum SittingStep
{
    Sit,
    Practise,
    CutOpen,
}

/// <summary>What it costs in the mean until the test is passed, when this is the next step and the cheapest ones follow.</summary>
public sealed record StepCost(SittingStep Step, double Cost);

/// <summary>What waiting and sitting cost, in the policy's money.</summary>
/// <param name="Steps">The steps, cheapest first.</param>
/// <param name="BreakEven">Practising one first is only cheaper where a failed sitting costs more than this, retest and all; null when no cost makes it so.</param>
/// <param name="FailedSitting">What a failed sitting costs as the policy has it, with the clean coupons and the wait before the next.</param>
/// <param name="CleanToSit">After so many clean ones in a row sitting is the cheapest; 0 when it is now, null when not within the horizon.</param>
public sealed record CostOutlook(IReadOnlyList<StepCost> Steps, double? BreakEven, double FailedSitting, int? CleanToSit);

/// <summary>
/// A small dynamic programme over what is believed of a student: sit, practise one more, or practise one and cut it open. A clean or a rejected
/// coupon, a sound or an unsound cut and a failed sitting change the belief; a failed sitting costs the policy's clean coupons and its wait.
/// After <see cref="Horizon"/> steps the test is sat until it is passed.
/// </summary>
public static class SittingCosts
{
    /// <summary>How many steps are looked ahead.</summary>
    public const int Horizon = 12;

    private const int MostCuts = 2;
    private const double LeastChance = 0.01;
    private const double MostTimes = 1024;
    private const double Near = 0.01;

    // The middle half of the inside's Beta and its mean give its weight, coarsely; the steps only need the mean and how fast it moves.
    private const double QuartersOfNormal = 0.6745;

    /// <summary>The costs for a student who stands as given.</summary>
    public static CostOutlook Of(TestPolicy policy, Standing standing)
    {
        var beliefs = new Beliefs(policy, standing);
        var table = new Table(policy, beliefs, failure: 1, cuts: MostCuts);
        var steps = Enum.GetValues<SittingStep>().Select(step => new StepCost(step, table.Cost(step))).OrderBy(one => one.Cost).ToList();
        return new CostOutlook(steps, BreakEven(policy, beliefs), table.FailedSitting, table.CleanToSit());
    }

    // The dearer a failure, the more practice pays: halved between a failure that costs nothing more and one that costs a thousand times as much.
    private static double? BreakEven(TestPolicy policy, Beliefs beliefs)
    {
        double? At(double times) =>
            new Table(policy, beliefs, times, cuts: 0) is var one && one.Cost(SittingStep.Practise) < one.Cost(SittingStep.Sit)
                ? one.FailedSitting
                : null;
        if (At(0) is { } always)
        {
            return always;
        }

        if (At(MostTimes) is null)
        {
            return null;
        }

        var (low, high) = (0.0, MostTimes);
        while (high - low > Near * Math.Max(1, low))
        {
            var middle = (low + high) / 2;
            (low, high) = At(middle) is null ? (middle, high) : (low, middle);
        }

        return At(high);
    }

    /// <summary>What was seen on the way, beyond what is known today.</summary>
    private readonly record struct Seen(int Clean, int Rejected, int Failed, int Sound, int Unsound)
    {
        public int Practised => Clean + Rejected;

        public int Steps => Practised + Failed;
    }

    /// <summary>What is believed after what was seen; it does not depend on what anything costs.</summary>
    private sealed class Beliefs
    {
        private readonly int cleanAfterFailed;
        private readonly IReadOnlyList<IReadOnlyList<double>> ways;
        private readonly double sound;
        private readonly double unsound;
        private readonly Dictionary<Seen, (double Clean, double Inside)> known = [];

        public Beliefs(TestPolicy policy, Standing standing)
        {
            cleanAfterFailed = policy.CleanAfterFailed;
            ways = standing.Forecast.Ways ?? [standing.Forecast.Means];
            var (mean, half) = (standing.Inside.Mean.Value, (standing.Inside.Upper.Value - standing.Inside.Lower.Value) / 2);
            var spread = half / QuartersOfNormal;
            var weight = spread > 0 ? Math.Max(1, (mean * (1 - mean) / (spread * spread)) - 1) : 1;
            (sound, unsound) = (mean * weight, (1 - mean) * weight);
        }

        /// <summary>The chance of a clean coupon by eye, and of one that is sound inside.</summary>
        public (double Clean, double Inside) After(Seen seen)
        {
            if (known.TryGetValue(seen, out var before))
            {
                return before;
            }

            var inside = (sound + seen.Sound) / (sound + unsound + seen.Sound + seen.Unsound);
            var (all, clean) = (0.0, 0.0);
            foreach (var way in ways)
            {
                // How likely the way is: the chance along it, in the middle of what was practised, counts for each coupon.
                var middle = Math.Clamp(At(way, seen with { Clean = seen.Clean / 2, Rejected = seen.Rejected / 2 }), LeastChance, 1 - LeastChance);
                var now = At(way, seen);
                var likely =
                    Math.Pow(middle, seen.Clean)
                    * Math.Pow(1 - middle, seen.Rejected)
                    * Math.Pow(Math.Max(LeastChance, 1 - (now * inside)), seen.Failed);
                (all, clean) = (all + likely, clean + (likely * now));
            }

            return known[seen] = (clean / all, inside);
        }

        // The clean coupons before a retest are practice as well.
        private double At(IReadOnlyList<double> way, Seen seen)
        {
            var coupons = seen.Practised + (seen.Failed * cleanAfterFailed);
            var step = 0;
            while (step + 1 < way.Count && Forecast.Coupons[step + 1] <= coupons)
            {
                step++;
            }

            return way[step];
        }
    }

    /// <summary>What each state costs from there on.</summary>
    private sealed class Table
    {
        private readonly TestPolicy policy;
        private readonly Beliefs beliefs;
        private readonly double failure;
        private readonly int cuts;
        private readonly Dictionary<Seen, double> cheapest = [];

        /// <param name="failure">By how much the extra cost of a failed sitting is multiplied.</param>
        /// <param name="cuts">How many coupons are cut open at most.</param>
        public Table(TestPolicy policy, Beliefs beliefs, double failure, int cuts) =>
            (this.policy, this.beliefs, this.failure, this.cuts) = (policy, beliefs, failure, cuts);

        /// <summary>What a failed sitting costs, from booking it to being where one may sit again.</summary>
        public double FailedSitting => policy.SittingCost + Again(default);

        public double Cost(SittingStep step) => Cost(step, default);

        public int? CleanToSit()
        {
            for (var clean = 0; clean < Horizon; clean++)
            {
                var seen = new Seen(clean, 0, 0, 0, 0);
                if (Cost(SittingStep.Sit, seen) <= Cost(SittingStep.Practise, seen))
                {
                    return clean;
                }
            }

            return null;
        }

        private double Cheapest(Seen seen)
        {
            if (cheapest.TryGetValue(seen, out var known))
            {
                return known;
            }

            return cheapest[seen] =
                seen.Steps >= Horizon
                    ? UntilPassed(seen)
                    : Math.Min(
                        Math.Min(Cost(SittingStep.Sit, seen), Cost(SittingStep.Practise, seen)),
                        seen.Sound + seen.Unsound < cuts ? Cost(SittingStep.CutOpen, seen) : double.PositiveInfinity
                    );
        }

        private double Cost(SittingStep step, Seen seen)
        {
            var (clean, inside) = beliefs.After(seen);
            var (one, none) = (seen with { Clean = seen.Clean + 1 }, seen with { Rejected = seen.Rejected + 1 });
            return step switch
            {
                SittingStep.Sit => policy.SittingCost + ((1 - (clean * inside)) * (Again(seen) + Cheapest(seen with { Failed = seen.Failed + 1 }))),
                SittingStep.Practise => policy.CouponCost + (clean * Cheapest(one)) + ((1 - clean) * Cheapest(none)),

                // What is rejected by eye is not cut.
                _ => policy.CouponCost
                    + (clean * (policy.CutCost + (inside * Cheapest(one with { Sound = one.Sound + 1 }))))
                    + (clean * (1 - inside) * Cheapest(one with { Unsound = one.Unsound + 1 }))
                    + ((1 - clean) * Cheapest(none)),
            };
        }

        // A failed sitting: the wait, and as many coupons as it takes to have the clean ones.
        private double Again(Seen seen) =>
            failure * (policy.RetestWaitCost + (policy.CouponCost * policy.CleanAfterFailed / Math.Max(LeastChance, beliefs.After(seen).Clean)));

        private double UntilPassed(Seen seen)
        {
            var (clean, inside) = beliefs.After(seen);
            var passes = Math.Max(LeastChance, clean * inside);
            return (policy.SittingCost / passes) + (((1 / passes) - 1) * Again(seen));
        }
    }
}
