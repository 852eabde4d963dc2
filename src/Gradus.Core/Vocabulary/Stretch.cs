using Gradus.Core.Measure;

namespace Gradus.Core.Vocabulary;

/// <summary>The side of a pipe by which a bead goes, told by the clock position at its middle.</summary>
public enum PipeSide
{
    /// <summary>By three o'clock: 6-3-12, or 12-3-6 downhill.</summary>
    Three,

    /// <summary>By nine o'clock: 6-9-12, or 12-9-6 downhill.</summary>
    Nine,
}

/// <summary>How much of a joint something takes: on pipe minutes of the clock, from where it begins clockwise; on plate mm from the start.</summary>
public readonly record struct Reach(double From, double Length)
{
    /// <summary>The way round a pipe from one place clockwise to another; from a place to itself it is once round.</summary>
    public static Reach Clockwise(ClockPosition from, ClockPosition to) =>
        new(from.Minutes, ((to.Minutes - from.Minutes + ClockPosition.MinutesRound - 1) % ClockPosition.MinutesRound) + 1);

    /// <summary>Whether a place lies in it, its ends as well.</summary>
    /// <param name="at">Minutes past twelve on pipe, mm from the start on plate.</param>
    /// <param name="round">True on pipe, where it may run over twelve o'clock.</param>
    public bool Holds(double at, bool round)
    {
        var away = at - From;
        return (round ? (away + ClockPosition.MinutesRound) % ClockPosition.MinutesRound : away) is var along && along >= 0 && along <= Length;
    }

    /// <summary>The side of the pipe on which its middle lies.</summary>
    public PipeSide Side => SideAt((From + (Length / 2)) % ClockPosition.MinutesRound);

    /// <summary>The side of a pipe on which a place lies, in minutes past twelve; twelve belongs to three o'clock's, six to nine o'clock's.</summary>
    public static PipeSide SideAt(double minutes) => minutes < ClockPosition.MinutesRound / 2.0 ? PipeSide.Three : PipeSide.Nine;
}

/// <summary>A stretch of a joint, as it was welded: from one place to another.</summary>
/// <param name="Side">On pipe the side by which it went; null: the shorter way.</param>
public readonly record struct Stretch(Place From, Place To, PipeSide? Side)
{
    private const double HalfRound = ClockPosition.MinutesRound / 2.0;

    /// <summary>
    /// What it takes of a joint. Null where that cannot be told: half round a pipe without its side, or a place that is none of this joint.
    /// The same clock position at both ends is once round.
    /// </summary>
    /// <param name="lengthMm">Length of a plate's joint; not used on pipe.</param>
    public Reach? On(double lengthMm)
    {
        if (From.Clock is { } from && To.Clock is { } to)
        {
            var way = Reach.Clockwise(from, to);
            var back = new Reach(to.Minutes, ClockPosition.MinutesRound - way.Length);
            return Side is { } side ? (back.Length > 0 && back.Side == side ? back : way)
                : way.Length == HalfRound ? null
                : way.Length < HalfRound || back.Length == 0 ? way
                : back;
        }

        return From.AlongMm(lengthMm) is { } a && To.AlongMm(lengthMm) is { } b ? new Reach(Math.Min(a, b), Math.Abs(b - a)) : null;
    }

    /// <summary>Whether some stretches together take all of another, up to a gap of <paramref name="slack"/> anywhere.</summary>
    /// <param name="round">True on pipe, where a stretch may run over twelve o'clock.</param>
    public static bool Cover(IEnumerable<Reach> taken, Reach wanted, bool round, double slack)
    {
        var pieces = taken
            .SelectMany(reach =>
            {
                var at = reach.From - wanted.From;
                double[] starts = round ? [at - ClockPosition.MinutesRound, at, at + ClockPosition.MinutesRound] : [at];
                return starts.Select(start => (From: start, To: start + reach.Length));
            })
            .OrderBy(piece => piece.From);
        var done = 0.0;
        foreach (var (from, to) in pieces)
        {
            if (from > done + slack)
            {
                break;
            }

            done = Math.Max(done, to);
        }

        return done >= wanted.Length - slack;
    }
}
