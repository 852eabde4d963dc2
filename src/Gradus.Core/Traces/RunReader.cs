using Gradus.Core.Welding;
using static Gradus.Core.Traces.TraceThresholds;

namespace Gradus.Core.Traces;

/// <summary>Reads one run of a trace, and adds the moments that it finds.</summary>
internal sealed class RunReader
{
    private const double SecondsPerMinute = 60;
    private const double JoulesPerKilojoule = 1000;
    private const int MostOfAKind = 5; // moments of one run
    private const double EvenS = 0.3; // what is said of an arc is not said of single samples
    private const double DipS = 0.1;
    private const double MomentLeastS = 0.5;
    private const double TroubleJoinS = 5;
    private const double LeastDips = 2;
    private const double LeastForMedian = 25; // samples: with fewer the shorts of a wire move it
    private const double FineHz = 20; // under it shorts say too little of a current
    private const int TipParts = 5; // of a run, of which the first and the last are held against each other
    private const double TipMostS = 10;
    private const double Sure = 2; // standard errors: shorts make single samples of a current say little

    private readonly ArcTrace trace;
    private readonly TraceCard card;
    private readonly Samples run;
    private readonly Samples settled;
    private readonly List<TraceMoment> moments;
    private readonly double[] amps;
    private readonly double[] volts;
    private readonly bool isCellulosic;
    private readonly bool isWire;

    public RunReader(ArcTrace trace, TraceCard card, Samples run, List<TraceMoment> moments)
    {
        (this.trace, this.card, this.run, this.moments) = (trace, card, run, moments);
        isCellulosic = trace.Process == Process.Smaw && trace.Family == ElectrodeFamily.Cellulosic;
        isWire = trace.Process.IsWire();
        // The samples of the run alone, and of them those with an arc.
        var over = ArcFinder.Over(run).ToList();
        var on = over.Select(at => ArcFinder.IsOfRun(trace.Process, trace.Amps[at], trace.Volts[at])).ToList();
        // A drop that bridges the gap of a covered electrode is one sample, and no part of how the arc is held.
        var middle = Signal.MiddleOfThree([.. over.Select(at => trace.Volts[at])]);
        amps = [.. over.Select((at, place) => on[place] ? trace.Amps[at] : double.NaN)];
        volts = [.. over.Select((at, place) => on[place] ? (isWire ? trace.Volts[at] : middle[place]) : double.NaN)];
        var settle = (int)Math.Round(Of("settleS") * trace.Hz);
        settled = new Samples(Math.Min(settle, run.Count), Math.Max(Math.Min(settle, run.Count), run.Count - settle));
    }

    /// <summary>The run.</summary>
    /// <param name="lengthMm">What was welded in it; null where that is not known.</param>
    public ArcRun Read(int failed, int stuck, double? lengthMm)
    {
        var seconds = run.Count / trace.Hz;
        var says = seconds >= Of("statementS");
        var meanAmps = amps.Where(value => !double.IsNaN(value)).Average();
        var meanVolts = volts.Where(value => !double.IsNaN(value)).Average();
        var watts = amps.Zip(volts, (a, v) => a * v).Where(value => !double.IsNaN(value)).Average();
        var reference = Reference();
        var stretched = reference is { } usual && !isWire ? LongArcs(usual) : [];
        var rhythm = says && !isWire ? RhythmReader.Read(WithoutLong(stretched), trace.Hz) : null;
        if (rhythm is { } beat && beat.IsIrregular)
        {
            Add(MomentKind.Irregular, new Samples(settled.From + beat.Longest.From, settled.From + beat.Longest.To));
        }

        var feed = says && isWire ? FeedSpread() : null;
        var dips = says && isWire ? Dips() : null;
        AddFeedTrouble(feed, dips);
        return new ArcRun(
            run.From / trace.Hz,
            run.To / trace.Hz,
            seconds,
            ArcFinder.Over(run).Count(at => double.IsNaN(trace.Amps[at]) || double.IsNaN(trace.Volts[at])) / trace.Hz,
            meanAmps,
            meanVolts,
            reference,
            says && !isWire ? LongArc(stretched) : null,
            rhythm?.Rhythm,
            failed,
            stuck,
            says ? Drift() : null,
            says ? OutsideCard() : null,
            says && isWire ? TipDrift() : null,
            feed,
            dips is { } some ? some.Count * SecondsPerMinute / seconds : null,
            lengthMm > 0 ? watts * seconds / (JoulesPerKilojoule * lengthMm) : null,
            lengthMm > 0 ? lengthMm * SecondsPerMinute / seconds : null
        );
    }

    private void Add(MomentKind what, Samples inRun) =>
        moments.Add(TraceAnalyser.Moment(trace, what, new Samples(run.From + inRun.From, run.From + inRun.To)));

    /// <summary>The longest stretches; those under half a second only where there is none longer.</summary>
    private void AddLongest(MomentKind what, IEnumerable<Samples> stretches)
    {
        var longest = stretches.OrderByDescending(one => one.Count).Take(MostOfAKind).ToList();
        foreach (var one in longest.Where((one, place) => place == 0 || one.Count >= MomentLeastS * trace.Hz))
        {
            Add(what, one);
        }
    }

    private double? Reference()
    {
        if (card.Volts is { } range)
        {
            return (range.Min + range.Max) / 2;
        }

        if (card.OwnVolts is { } own)
        {
            return own;
        }

        return Signal.Median(amps) is { } current ? LoadLine.Volts(trace.Process, current) + (isCellulosic ? Of("cellulosicVolts") : 0) : null;
    }

    /// <summary>Where the arc was long.</summary>
    private List<Samples> LongArcs(double usual)
    {
        var over =
            usual
            + Of(
                isCellulosic ? "longVoltsCellulosic"
                : trace.Process == Process.Gtaw ? "longVoltsGtaw"
                : "longVolts"
            );
        var even = Signal.Mean(volts, EvenS * trace.Hz);
        var least = isCellulosic ? Of("longCellulosicS") * trace.Hz : 0;
        return [.. Signal.Stretches(settled, at => even[at] > over).Where(one => one.Count > least)];
    }

    private double? LongArc(List<Samples> stretched)
    {
        var share = Share(stretched, volts);
        if (share > Of("longWatch"))
        {
            AddLongest(MomentKind.LongArc, Near(stretched, 1));
        }

        return share;
    }

    private double? OutsideCard()
    {
        var wanted = new[] { (card.Amps, amps), (card.Volts, volts), (card.FeedMmPerMin, isWire ? Feed() : null) };
        var held = wanted
            .Where(one => one.Item1 is not null && one.Item2 is not null)
            .Select(one => (Range: one.Item1!, Even: Signal.Medians(one.Item2!, Math.Max(Of("cardMeanS") * trace.Hz, LeastForMedian))))
            .ToList();
        if (held.Count == 0)
        {
            return null;
        }

        var outside = Signal.Stretches(settled, at => held.Exists(one => one.Even[at] < one.Range.Min || one.Even[at] > one.Range.Max));
        var share = Share(outside, held[0].Even);
        if (share > Of("cardWatch"))
        {
            AddLongest(MomentKind.OutsideCard, Near(outside, 2));
        }

        return share;
    }

    /// <summary>The volts of the settled part without those of arcs that were long for longer than a beat: they are no part of a rhythm.</summary>
    private double[] WithoutLong(IEnumerable<Samples> stretched)
    {
        var kept = volts[settled.From..settled.To];
        var edge = (int)(EvenS * trace.Hz);
        foreach (var one in stretched.Where(one => one.Count > Of("longCellulosicS") * trace.Hz))
        {
            var (from, to) = (Math.Max(0, one.From - settled.From - edge), Math.Min(kept.Length, one.To - settled.From + edge));
            Array.Fill(kept, double.NaN, from, to - from);
        }

        return kept;
    }

    /// <summary>What stretches take of what is known of the settled part.</summary>
    private double? Share(IEnumerable<Samples> stretches, double[] of)
    {
        var known = ArcFinder.Over(settled).Count(at => !double.IsNaN(of[at]));
        return known == 0 ? null : (double)stretches.Sum(one => one.Count) / known;
    }

    private List<Samples> Near(IEnumerable<Samples> stretches, double seconds) => Signal.Joined(stretches, seconds * trace.Hz);

    /// <summary>The slope of medians over three seconds, over the run.</summary>
    private double? Drift()
    {
        var window = (int)Math.Round(Of("medianS") * trace.Hz);
        var medians = Enumerable
            .Range(0, settled.Count / window)
            .Select(place => Signal.Median(volts.Skip(settled.From + (place * window)).Take(window)))
            .OfType<double>()
            .ToList();
        return medians.Count < LeastDips ? null : Signal.Slope(medians) * run.Count / window;
    }

    private double[]? Feed() => trace.FeedMmPerMin is { } feed ? [.. ArcFinder.Over(run).Select(at => feed[at])] : null;

    private double? FeedSpread() =>
        Feed() is { } feed && Signal.Spread(feed[settled.From..settled.To]) is { Mean: > 0 } spread ? spread.Sd / spread.Mean : null;

    /// <summary>Where the current fell and the volts rose: the wire stood still.</summary>
    private List<Samples>? Dips()
    {
        // Where the arc went out for a moment as well.
        var (current, pressure) = (
            Signal.Mean([.. ArcFinder.Over(run).Select(at => trace.Amps[at])], DipS * trace.Hz),
            Signal.Mean([.. ArcFinder.Over(run).Select(at => trace.Volts[at])], DipS * trace.Hz)
        );
        return Signal.Median(amps) is { } usualAmps && Signal.Median(volts) is { } usualVolts
            ? Signal.Stretches(settled, at => current[at] < (1 - Of("feedDipShare")) * usualAmps && pressure[at] > usualVolts, join: DipS * trace.Hz)
            : null;
    }

    private void AddFeedTrouble(double? spread, List<Samples>? dips)
    {
        var places = new List<Samples>();
        if (spread > Of("feedSpread") && Feed() is { } feed)
        {
            var usual = Signal.Median(feed[settled.From..settled.To]) ?? 0;
            places.AddRange(Signal.Stretches(settled, at => Math.Abs(feed[at] - usual) > 2 * Of("feedSpread") * usual));
        }

        if (dips is { Count: >= (int)LeastDips } && dips.Count * SecondsPerMinute * trace.Hz / run.Count >= Of("feedDipsPerMin"))
        {
            places.AddRange(dips);
        }

        AddLongest(MomentKind.FeedTrouble, Near([.. places.OrderBy(one => one.From)], TroubleJoinS));
    }

    /// <summary>
    /// How the current of a wire came to change at a constant feed from the first of the run to its last: its tip went further out, or came nearer.
    /// </summary>
    private double? TipDrift()
    {
        var window = (int)Math.Round(Math.Clamp(settled.Count / trace.Hz / TipParts, Of("medianS"), TipMostS) * trace.Hz);
        var feed = Feed();
        (double Mean, double Error)? Current(int from) =>
            Signal.Spread(amps.Skip(from).Take(window)) is { Mean: > 0 } spread ? (spread.Mean, spread.Sd / Math.Sqrt(window)) : null;
        double? Fed(int from) => feed is null ? 1 : Signal.Median(feed.Skip(from).Take(window));
        var start = settled.From;
        if (trace.Hz < FineHz || start + (2 * window) > settled.To || Current(start) is not { } first || Fed(start) is not ({ } fed and > 0))
        {
            return null;
        }

        double? Change(int from) =>
            Current(from) is { } now && Fed(from) is { } feeds && Math.Abs((feeds / fed) - 1) <= Of("tipFeedShare")
                ? (now.Mean / first.Mean) - 1
                : null;
        var end = settled.To - window;
        if (Change(end) is not { } last)
        {
            return null;
        }

        var sure = Sure * (first.Error + Current(end)!.Value.Error) / first.Mean;
        if (Math.Abs(last) >= Math.Max(Of("tipShare"), sure))
        {
            var step = Math.Max(1, window / TipParts);
            var from = end;
            while (from - step > start && Change(from - step) is { } before && before * Math.Sign(last) >= Of("tipShare"))
            {
                from -= step;
            }

            Add(MomentKind.TipDrift, new Samples(from, settled.To));
        }

        return last;
    }
}
