namespace Gradus.Simulators;

/// <summary>How a process burns at its machine.</summary>
public enum ArcKind
{
    /// <summary>Covered electrode with a cellulosic coating, at constant current.</summary>
    Cellulosic,

    /// <summary>Covered electrode with a basic coating, at constant current.</summary>
    Basic,

    /// <summary>Gas tungsten arc, at constant current.</summary>
    Tungsten,

    /// <summary>Solid wire in short arc, at constant voltage.</summary>
    ShortArc,

    /// <summary>Cored wire, at constant voltage.</summary>
    Cored,
}

/// <summary>What a hand does in a bead that is to be seen in its trace.</summary>
public enum Habit
{
    /// <summary>Holds the arc long for a while, again and again.</summary>
    LongArc,

    /// <summary>Whips or weaves without keeping time.</summary>
    Irregular,

    /// <summary>The electrode sticks as the arc is struck.</summary>
    Stuck,

    /// <summary>The arc goes out at once as it is struck.</summary>
    Failed,

    /// <summary>The tip moves away from the work.</summary>
    TipDrift,

    /// <summary>The wire stutters.</summary>
    Stutter,

    /// <summary>The machine is set off the card.</summary>
    OffCard,
}

/// <summary>A bead to be welded.</summary>
/// <param name="Amps">What the machine is set to; with a wire what comes of its feed.</param>
/// <param name="Seconds">How long its arc burns.</param>
/// <param name="PeriodS">Of the whip or weave; null for a straight bead.</param>
/// <param name="PeriodCv">How unevenly it is kept.</param>
/// <param name="WireVolts">What a machine for wire is set to; 0 for what is usual.</param>
public sealed record Bead(
    ArcKind Kind,
    double Amps,
    double Seconds,
    double? PeriodS,
    double PeriodCv,
    IReadOnlySet<Habit> Habits,
    double FeedMmPerMin = 0,
    double WireVolts = 0
);

/// <summary>What is true of a trace: a habit, from when to when.</summary>
public sealed record TrueMoment(Habit Habit, double FromS, double ToS);

/// <summary>One measured point.</summary>
public readonly record struct Point(double Amps, double Volts, double Feed);

/// <summary>
/// A welder at a machine: a power source with its slope, an arc whose volts follow its length, and a hand that holds that length, in
/// steps of a millisecond. The numbers are those of a shop as it is known (common practice), not of any one machine.
/// </summary>
public sealed class Hand(int seed)
{
    private const double Step = 0.001;
    private readonly Random random = new(seed);
    private readonly List<TrueMoment> truth = [];
    private readonly List<double> periods = [];
    private double wander;
    private double phase;
    private double rate = 90;

    /// <summary>What was done, in seconds from the first point.</summary>
    public IReadOnlyList<TrueMoment> Truth => truth;

    /// <summary>The periods that were kept, in the order in which they were welded.</summary>
    public IReadOnlyList<double> Periods => periods;

    /// <summary>Seconds so far.</summary>
    public double Clock { get; private set; }

    /// <summary>Nothing burns.</summary>
    public IEnumerable<Point> Rest(ArcKind kind, double seconds) => For(seconds, _ => new Point(0, Open(kind), 0));

    /// <summary>A bead, with what comes before it.</summary>
    public IEnumerable<Point> Weld(Bead bead)
    {
        foreach (var point in Strike(bead))
        {
            yield return point;
        }

        var (began, plan) = (Clock, new Plan(bead, random));
        truth.AddRange(plan.Moments.Select(one => one with { FromS = began + one.FromS, ToS = began + one.ToS }));
        periods.AddRange(plan.Periods);
        foreach (var point in For(bead.Seconds, t => Burn(bead, plan, t)))
        {
            yield return point;
        }
    }

    private static double Open(ArcKind kind) => kind is ArcKind.Cellulosic or ArcKind.Basic ? 72 : 0;

    private IEnumerable<Point> Strike(Bead bead)
    {
        if (bead.Habits.Contains(Habit.Failed))
        {
            for (var left = random.Next(2, 4); left > 0; left--)
            {
                var (began, burns) = (Clock, 0.35 + (0.75 * random.NextDouble()));
                foreach (var point in For(burns, t => Burn(bead with { PeriodS = null }, Plan.None, t)))
                {
                    yield return point;
                }

                truth.Add(new TrueMoment(Habit.Failed, began, Clock));
                foreach (var point in Rest(bead.Kind, 0.8 + random.NextDouble()))
                {
                    yield return point;
                }
            }
        }

        if (bead.Habits.Contains(Habit.Stuck))
        {
            var (began, holds) = (Clock, 0.5 + random.NextDouble());
            foreach (var point in For(holds, _ => new Point(bead.Amps * 1.5, 2.5 + (0.3 * Normal()), 0)))
            {
                yield return point;
            }

            truth.Add(new TrueMoment(Habit.Stuck, began, Clock));
            foreach (var point in Rest(bead.Kind, 0.5 + random.NextDouble()))
            {
                yield return point;
            }
        }

        foreach (var point in For(0.06, _ => new Point(bead.Kind == ArcKind.Tungsten ? bead.Amps : bead.Amps * 1.4, 3, 0)))
        {
            yield return point;
        }
    }

    private Point Burn(Bead bead, Plan plan, double t)
    {
        // The hand trembles about the length that it means to hold, and comes back to it in about a second and a half.
        wander += (-wander * Step / 1.5) + (0.16 * Math.Sqrt(2 * Step / 1.5) * Normal());
        return bead.Kind switch
        {
            ArcKind.Cellulosic => Rod(bead, 15.5, 2.6, 3.2, plan.Length(t), t),
            ArcKind.Basic => Rod(bead, 14, 2.4, 2.4, plan.Length(t), t),
            ArcKind.Tungsten => Torch(bead, plan.Length(t)),
            _ => Wire(bead, plan, t),
        };
    }

    private Point Rod(Bead bead, double drop, double perMm, double usualMm, double more, double t)
    {
        var length = Math.Max(0.6, usualMm + wander + more);
        var volts = drop + (perMm * length) + (0.03 * bead.Amps);
        var amps = bead.Amps - (0.9 * (volts - (20 + (0.04 * bead.Amps)))); // the slope of the machine
        if (t < 0.4)
        {
            amps *= 1.25; // hot start
        }

        // Drops bridge the gap four times in a second, for eight thousandths of one.
        return random.NextDouble() < 4 * 0.008 ? new Point(amps * 1.3, 9, 0) : new Point(amps, volts, 0);
    }

    private Point Torch(Bead bead, double more) => new(bead.Amps, 8.6 + (0.03 * bead.Amps) + (1.25 * Math.Max(0.5, 2 + (0.7 * wander) + more)), 0);

    private Point Wire(Bead bead, Plan plan, double t)
    {
        var feed = bead.FeedMmPerMin * plan.Feed(t);
        var share = plan.Feed(t) * plan.Tip(t);
        if (bead.Kind == ArcKind.Cored)
        {
            return new Point(
                bead.Amps * share * (1 + (0.04 * Normal())),
                (bead.WireVolts > 0 ? bead.WireVolts : 25.5) + (9 * (1 - Math.Min(1, plan.Feed(t)))) + (0.5 * Normal()),
                feed
            );
        }

        // It shorts some ninety times in a second, no two alike: a sample falls anywhere in that.
        phase += Step * rate;
        if (phase >= 1)
        {
            (phase, rate) = (phase - 1, 90 * (1 + (0.25 * Math.Clamp(Normal(), -2, 2))));
        }

        var (volts, amps) =
            phase < 0.22
                ? (4.5, 1.35 + (0.3 * phase))
                : ((bead.WireVolts > 0 ? bead.WireVolts + 3.4 : 20.5) - (2 * phase), 1.3 - (0.7 * (phase - 0.22)));
        return new Point(bead.Amps * share * amps / 1.08, volts + (8 * (1 - Math.Min(1, plan.Feed(t)))), feed);
    }

    private IEnumerable<Point> For(double seconds, Func<double, Point> at)
    {
        var steps = (int)(seconds / Step);
        for (var step = 0; step < steps; step++)
        {
            Clock += Step;
            yield return at(step * Step);
        }
    }

    private double Normal() => Normal(random);

    internal static double Normal(Random random) => Math.Sqrt(-2 * Math.Log(1 - random.NextDouble())) * Math.Cos(2 * Math.PI * random.NextDouble());

    /// <summary>What a hand means to do over a bead.</summary>
    private sealed class Plan
    {
        public static readonly Plan None = new(new Bead(ArcKind.Basic, 0, 0, null, 0, new HashSet<Habit>()), new Random(0));

        private readonly Bead bead;
        private readonly List<(double From, double To)> beats = [];
        private readonly List<(double From, double To)> longs = [];
        private readonly List<(double From, double To)> stutters = [];
        private readonly double drifts;
        private readonly double driftsAt;
        private readonly double strong;

        public Plan(Bead bead, Random random)
        {
            this.bead = bead;
            if (bead.PeriodS is { } period)
            {
                for (double at = 0.6; at < bead.Seconds - 0.5; )
                {
                    // Always over a third of it: nobody whips faster than the hand goes.
                    var one = Math.Max(period / 3, period * (1 + (bead.PeriodCv * Normal(random))));
                    beats.Add((at, at + one));
                    at += one;
                }
            }

            Periods = [.. beats.Select(beat => beat.To - beat.From)];
            var share = 0.25 + (0.1 * random.NextDouble());
            if (bead.Habits.Contains(Habit.LongArc))
            {
                longs = Spread(random, bead.Seconds, share, 2, 6);
            }

            if (bead.Habits.Contains(Habit.Stutter))
            {
                stutters = Spread(random, bead.Seconds, 0.04, 0.25, 0.45);
            }

            drifts = bead.Habits.Contains(Habit.TipDrift) ? (random.NextDouble() < 0.5 ? -1 : 1) * (0.13 + (0.06 * random.NextDouble())) : 0;
            driftsAt = bead.Seconds * (0.25 + (0.2 * random.NextDouble()));
            strong = 1 + (0.3 * random.NextDouble());
            Moments =
            [
                .. longs.Select(one => new TrueMoment(Habit.LongArc, one.From, one.To)),
                .. stutters.Select(one => new TrueMoment(Habit.Stutter, one.From, one.To)),
                .. new[] { Habit.Irregular, Habit.TipDrift, Habit.OffCard }
                    .Where(bead.Habits.Contains)
                    .Select(habit => new TrueMoment(habit, 0, bead.Seconds)),
            ];
        }

        public IReadOnlyList<double> Periods { get; }

        public IReadOnlyList<TrueMoment> Moments { get; }

        /// <summary>By how much the arc is longer than usual, in mm.</summary>
        public double Length(double t)
        {
            if (longs.Exists(one => t >= one.From && t < one.To))
            {
                return LongMm * strong;
            }

            return beats.Find(one => t >= one.From && t < one.To) is { To: > 0 } beat ? Beat * Swing((t - beat.From) / (beat.To - beat.From)) : 0;
        }

        /// <summary>What comes through of the feed, as a share.</summary>
        public double Feed(double t) => stutters.Exists(one => t >= one.From && t < one.To) ? 0.25 : 1;

        /// <summary>What is left of the current as the tip moves, as a share.</summary>
        public double Tip(double t) => 1 + (drifts * Math.Clamp((t - driftsAt) / (bead.Seconds * 0.3), 0, 1));

        private double LongMm =>
            bead.Kind switch
            {
                ArcKind.Cellulosic => 4,
                ArcKind.Tungsten => 3.2,
                _ => 3,
            };

        private double Beat =>
            bead.Kind switch
            {
                ArcKind.Cellulosic => 3,
                ArcKind.Tungsten => 2.6,
                _ => 1.6,
            };

        // Out and back in the first four tenths, then held.
        private static double Swing(double share) => share < 0.4 ? (1 - Math.Cos(2 * Math.PI * share / 0.4)) / 2 : 0;

        private static List<(double From, double To)> Spread(Random random, double seconds, double share, double shortest, double longest)
        {
            var found = new List<(double From, double To)>();
            var (wanted, at) = (share * seconds, 2.0);
            var lengths = new List<double>();
            while (lengths.Sum() < wanted)
            {
                lengths.Add(shortest + ((longest - shortest) * random.NextDouble()));
            }

            var free = Math.Max(0, seconds - 3 - lengths.Sum()) / lengths.Count;
            foreach (var length in lengths)
            {
                at += free * (0.3 + (0.5 * random.NextDouble()));
                found.Add((at, at + length));
                at += length + (free * 0.2);
            }

            return found;
        }
    }
}

/// <summary>What a logger makes of what a hand does: points a few times in a second, with noise.</summary>
public static class Probe
{
    private const int StepsPerSecond = 1000;

    /// <summary>Points at a rate, each as it was at that moment.</summary>
    /// <param name="noise">As a share of an ordinary one: half a volt, one and a half parts in a hundred of the current and of the feed.</param>
    public static IEnumerable<Point> Sample(IEnumerable<Point> points, int hz, int seed, double noise = 1)
    {
        var random = new Random(seed);
        var step = 0;
        foreach (var point in points)
        {
            if (step++ % (StepsPerSecond / hz) == 0)
            {
                double More(double by) => noise * by * Hand.Normal(random);
                yield return new Point(
                    Math.Max(0, point.Amps + More(0.4 + (0.015 * point.Amps))),
                    Math.Max(0, point.Volts + More(0.5)),
                    Math.Max(0, point.Feed * (1 + More(0.015)))
                );
            }
        }
    }
}
