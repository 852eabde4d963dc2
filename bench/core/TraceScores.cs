using Gradus.Core.Traces;
using Gradus.Simulators;

namespace Gradus.Benchmarks;

/// <summary>What was found of one habit.</summary>
public sealed record TraceScore(Habit Habit, int True, int Found, int False)
{
    /// <summary>Share that was found.</summary>
    public double FoundShare => True == 0 ? 1 : (double)Found / True;
}

/// <summary>
/// Reads traces of a hand whose habits are known. What is true comes from the simulator, which knows nothing of how traces are read; a moment
/// that is told within a second and a half of a true one of its kind is found, and one that lies near none is false.
/// </summary>
public static class TraceScores
{
    private const double Near = 1.5;

    /// <summary>The bead of a number: one of five processes, with no habit or one or two of those that its process can show.</summary>
    public static Bead BeadOf(int number)
    {
        var random = new Random(number * 7919);
        var kind = (ArcKind)(number % 5);
        Habit[] may = kind switch
        {
            ArcKind.Cellulosic => [Habit.LongArc, Habit.Irregular, Habit.Stuck, Habit.Failed, Habit.OffCard],
            ArcKind.Basic => [Habit.LongArc, Habit.Irregular, Habit.Stuck, Habit.Failed, Habit.OffCard],
            ArcKind.Tungsten => [Habit.LongArc, Habit.Stuck, Habit.Failed, Habit.OffCard],
            _ => [Habit.TipDrift, Habit.Stutter, Habit.OffCard],
        };
        var habits = may.OrderBy(_ => random.Next()).Take(number / 5 % 3).ToHashSet();
        if (habits.Contains(Habit.LongArc))
        {
            // A long arc hides a whip within it: what is true of its periods is not to be seen then.
            habits.Remove(Habit.Irregular);
        }

        var steady = number % 2 == 0 || habits.Contains(Habit.Irregular);
        return new Bead(
            kind,
            Middle(kind) * (habits.Contains(Habit.OffCard) ? 1.35 : 0.95 + (0.1 * random.NextDouble())),
            45 + random.Next(40),
            kind is ArcKind.Tungsten or ArcKind.ShortArc or ArcKind.Cored || !steady ? null
                : kind == ArcKind.Cellulosic ? 0.9
                : 1.5,
            habits.Contains(Habit.Irregular) ? 0.4 : 0.1,
            habits,
            kind is ArcKind.ShortArc or ArcKind.Cored ? 5000 : 0
        );
    }

    /// <summary>A trace of it, with some of its seconds lost, and what is true.</summary>
    public static (ArcTrace Trace, TraceCard Card, IReadOnlyList<TrueMoment> Truth) Make(int number, int hz, double noise, double lost)
    {
        var (bead, hand, random) = (BeadOf(number), new Hand(number), new Random(number + 31));
        Point[] points = [.. Probe.Sample(hand.Rest(bead.Kind, 2).Concat(hand.Weld(bead)).Concat(hand.Rest(bead.Kind, 2)), hz, number + 17, noise)];
        for (var second = 3; second < points.Length / hz; second++)
        {
            if (random.NextDouble() < lost)
            {
                Array.Fill(points, new Point(double.NaN, double.NaN, double.NaN), second * hz, hz);
            }
        }

        var isWire = bead.Kind is ArcKind.ShortArc or ArcKind.Cored;
        var (process, family) = bead.Kind switch
        {
            ArcKind.Cellulosic => (Process.Smaw, ElectrodeFamily.Cellulosic),
            ArcKind.Basic => (Process.Smaw, ElectrodeFamily.LowHydrogen),
            ArcKind.Tungsten => (Process.Gtaw, ElectrodeFamily.Other),
            ArcKind.ShortArc => (Process.Gmaw, ElectrodeFamily.Other),
            _ => (Process.FcawG, ElectrodeFamily.Other),
        };
        return (
            new ArcTrace(
                process,
                family,
                hz,
                [.. points.Select(point => point.Amps)],
                [.. points.Select(point => point.Volts)],
                isWire ? [.. points.Select(point => point.Feed)] : null
            ),
            new TraceCard(new Span(Middle(bead.Kind) * 0.72, Middle(bead.Kind) * 1.26)),
            hand.Truth
        );
    }

    /// <summary>The table over many beads.</summary>
    public static IReadOnlyList<TraceScore> Score(int beads, int hz, double noise, double lost)
    {
        var counts = Enum.GetValues<Habit>().ToDictionary(habit => habit, _ => (True: 0, Found: 0, False: 0));
        foreach (var number in Enumerable.Range(0, beads))
        {
            var (trace, card, truth) = Make(number, hz, noise, lost);
            var told = TraceAnalyser.Read(trace, card).Moments;
            foreach (var habit in counts.Keys)
            {
                var mine = told.Where(one => HabitOf(one.What) == habit).ToList();
                // A bead that shows it in several places is one: the longest of them are told.
                var wanted = truth.Where(one => one.Habit == habit).ToList();
                var each = habit is Habit.Stuck or Habit.Failed;
                var seen = wanted.Count(one => mine.Exists(told => Meets(told, one)));
                var (was, found, wrong) = counts[habit];
                counts[habit] = (
                    was + (each ? wanted.Count : Math.Min(1, wanted.Count)),
                    found + (each ? seen : Math.Min(1, seen)),
                    wrong + mine.Count(told => !wanted.Exists(one => Meets(told, one)))
                );
            }
        }

        return [.. counts.Select(one => new TraceScore(one.Key, one.Value.True, one.Value.Found, one.Value.False))];
    }

    private static bool Meets(TraceMoment told, TrueMoment truth) => told.AtS < truth.ToS + Near && told.AtS + told.LastsS > truth.FromS - Near;

    private static Habit HabitOf(MomentKind what) =>
        what switch
        {
            MomentKind.LongArc => Habit.LongArc,
            MomentKind.StuckStart => Habit.Stuck,
            MomentKind.FailedStart => Habit.Failed,
            MomentKind.Irregular => Habit.Irregular,
            MomentKind.TipDrift => Habit.TipDrift,
            MomentKind.FeedTrouble => Habit.Stutter,
            _ => Habit.OffCard,
        };

    private static double Middle(ArcKind kind) =>
        kind switch
        {
            ArcKind.Cellulosic => 82,
            ArcKind.Basic => 120,
            ArcKind.Tungsten => 100,
            ArcKind.ShortArc => 130,
            _ => 190,
        };
}
