using Gradus.Benchmarks;
using Gradus.Core.Traces;
using Gradus.Simulators;

namespace Gradus.Core.Tests.Traces;

/// <summary>What is read from traces: by hand, and from a hand whose habits are known.</summary>
public class TraceAnalyserTests
{
    private const int Hz = 50;
    private static readonly TraceCard Nothing = new();

    private static readonly double[] Off = [0, 72];

    private sealed class Drawn(Process process = Process.Smaw, ElectrodeFamily family = ElectrodeFamily.LowHydrogen, int hz = Hz)
    {
        private readonly List<(double Amps, double Volts, double Feed)> points = [];

        public Drawn For(double seconds, double amps, double volts, double feed = 5000) => For(seconds, _ => (amps, volts, feed));

        public Drawn For(double seconds, Func<double, (double, double, double)> at)
        {
            points.AddRange(Enumerable.Range(0, (int)Math.Round(seconds * hz)).Select(step => at((double)step / hz)));
            return this;
        }

        public Drawn Rest(double seconds) => For(seconds, Off[0], Off[1], 0);

        public Drawn Lost(double seconds) => For(seconds, double.NaN, double.NaN, double.NaN);

        public TraceReading Read(TraceCard? card = null) =>
            TraceAnalyser.Read(
                new ArcTrace(
                    process,
                    family,
                    hz,
                    [.. points.Select(one => one.Amps)],
                    [.. points.Select(one => one.Volts)],
                    process is Process.Smaw or Process.Gtaw ? null : [.. points.Select(one => one.Feed)]
                ),
                card ?? Nothing
            );
    }

    private static IEnumerable<MomentKind> Kinds(TraceReading reading) => reading.Moments.Select(one => one.What);

    [Theory]
    [InlineData(50, 1.0, 0.02)]
    [InlineData(20, 1.0, 0.02)]
    public void Of_known_habits_nineteen_in_twenty_are_found_and_one_in_fifty_is_false(int hz, double noise, double lost)
    {
        var scores = TraceScores.Score(100, hz, noise, lost);
        var (was, found, wrong) = (scores.Sum(one => one.True), scores.Sum(one => one.Found), scores.Sum(one => one.False));
        Assert.True(was > 80, $"{was} are too few to say so.");
        Assert.True(found >= 0.95 * was, $"{found} of {was}: {string.Join("; ", scores)}");
        Assert.True(wrong <= 0.02 * (found + wrong), $"{wrong} of {found + wrong}: {string.Join("; ", scores)}");
    }

    [Fact]
    public void Heat_and_travel_are_those_of_the_handbook() // 60 V I / (1000 v), ASME QW-409.1: 25 V and 120 A at 150 mm/min are 1.2 kJ/mm
    {
        var run = Assert.Single(new Drawn().Rest(2).For(60, 120, 25).Rest(2).Read(new TraceCard(RunLengthMm: 150)).Runs);
        Assert.Equal(60, run.ArcSeconds, 0.03);
        Assert.Equal(150, run.TravelMmPerMin!.Value, 0.1);
        Assert.Equal(1.2, run.HeatKJPerMm!.Value, 0.001);
        Assert.Equal((2.0, 62.0), (run.FromS, run.ToS));
        Assert.Equal(0, run.OutsideCardShare ?? 0);
        Assert.Equal(0, run.DriftVolts!.Value, 0.001);
    }

    [Fact]
    public void A_length_is_shared_out_by_arc_time()
    {
        var runs = new Drawn().Rest(1).For(30, 120, 25).Rest(5).For(10, 120, 25).Rest(1).Read(new TraceCard(RunLengthMm: 200)).Runs;
        Assert.Equal(2, runs.Count);
        Assert.All(runs, run => Assert.Equal(300, run.TravelMmPerMin!.Value, 0.1)); // 200 mm in 40 s
    }

    [Fact]
    public void Starts_that_fail_or_stick_count_on_the_run_that_follows()
    {
        var reading = new Drawn()
            .Rest(1)
            .For(0.8, 120, 25)
            .Rest(1)
            .For(0.5, 180, 3)
            .Rest(1)
            .For(20, 120, 25)
            .Rest(1)
            .For(1, 120, 25)
            .Rest(1)
            .For(20, 120, 25)
            .Rest(1)
            .Read();
        Assert.Equal([(1, 1), (1, 0)], reading.Runs.Select(run => (run.FailedStarts, run.Stuck)));
        Assert.Equal([MomentKind.FailedStart, MomentKind.StuckStart, MomentKind.FailedStart], Kinds(reading));
        Assert.Equal(2.8, reading.Moments[1].AtS, 0.03);
    }

    [Theory]
    [InlineData(0.28, 0)]
    [InlineData(0.3, 1)]
    public void An_electrode_sticks_from_three_tenths_of_a_second(double seconds, int stuck) =>
        Assert.Equal(stuck, new Drawn().Rest(1).For(seconds, 180, 3).Rest(1).For(20, 120, 25).Rest(1).Read().Runs[0].Stuck);

    [Theory]
    [InlineData(0.28, 1)]
    [InlineData(0.3, 2)]
    public void An_arc_that_is_out_for_less_goes_on(double seconds, int runs) =>
        Assert.Equal(runs, new Drawn().Rest(1).For(10, 120, 25).Rest(seconds).For(10, 120, 25).Rest(1).Read().Runs.Count);

    [Fact]
    public void What_was_not_received_is_taken_as_arc_and_said()
    {
        var run = Assert.Single(new Drawn().Rest(1).For(10, 120, 25).Lost(2).For(10, 120, 25).Rest(1).Read().Runs);
        Assert.Equal(22, run.ArcSeconds, 0.03);
        Assert.Equal(2, run.LostSeconds, 0.03);
        Assert.Equal(2, new Drawn().Rest(1).For(10, 120, 25).Lost(4).For(10, 120, 25).Rest(1).Read().Runs.Count);
    }

    [Fact]
    public void What_the_trace_cuts_off_is_no_failed_start() =>
        Assert.Empty(new Drawn().For(1, 120, 25).Rest(2).For(10, 120, 25).Lost(5).For(1, 120, 25).Read().Moments);

    [Fact]
    public void Of_less_than_five_seconds_of_arc_nothing_is_said()
    {
        var run = Assert.Single(new Drawn().Rest(1).For(4.9, 200, 35).Rest(1).Read(new TraceCard(new Span(100, 140))).Runs);
        Assert.Equal(200, run.MeanAmps);
        Assert.Null(run.LongArcShare);
        Assert.Null(run.OutsideCardShare);
        Assert.Null(run.DriftVolts);
        Assert.Null(run.Rhythm);
    }

    [Theory]
    [InlineData(ElectrodeFamily.LowHydrogen, 3.5, true)] // over the load line of 24.8 V
    [InlineData(ElectrodeFamily.LowHydrogen, 2.5, false)]
    [InlineData(ElectrodeFamily.Cellulosic, 10.5, false)] // its line is 5 V higher, and 6 V are allowed
    [InlineData(ElectrodeFamily.Cellulosic, 11.5, true)]
    public void A_long_arc_is_told_by_the_load_line(ElectrodeFamily family, double more, bool isLong)
    {
        var reading = new Drawn(family: family).Rest(1).For(20, 120, 24.8).For(8, 120, 24.8 + more).For(20, 120, 24.8).Rest(1).Read();
        Assert.Equal(isLong, Kinds(reading).Contains(MomentKind.LongArc));
        Assert.Equal(isLong ? 8.0 / 47 : 0, reading.Runs[0].LongArcShare!.Value, 0.01);
    }

    [Fact]
    public void The_card_comes_before_the_own_reference_and_that_before_the_load_line()
    {
        var drawn = new Drawn().Rest(1).For(20, 120, 25).Rest(1);
        Assert.Equal(22, drawn.Read(new TraceCard(Volts: new Span(20, 24), OwnVolts: 23)).Runs[0].ReferenceVolts);
        Assert.Equal(23, drawn.Read(new TraceCard(OwnVolts: 23)).Runs[0].ReferenceVolts);
        Assert.Equal(24.8, drawn.Read().Runs[0].ReferenceVolts!.Value, 0.001);
    }

    [Fact]
    public void A_whip_of_cellulosic_electrodes_is_no_long_arc()
    {
        var reading = new Drawn(family: ElectrodeFamily.Cellulosic)
            .Rest(1)
            .For(60, t => (80, t % 0.9 < 0.4 ? 37 : 27, 0)) // 0.4 s out in each 0.9 s
            .Rest(1)
            .Read();
        Assert.Empty(reading.Moments);
        Assert.Equal(0, reading.Runs[0].LongArcShare);
        Assert.Equal(0.9, reading.Runs[0].Rhythm!.PeriodS, 0.02);
        Assert.True(reading.Runs[0].Rhythm!.Cv < 0.05);
    }

    [Theory]
    [InlineData(10, 0.6, false)] // at ten measurements a second so short a period is not seen
    [InlineData(20, 0.6, true)]
    [InlineData(10, 1.2, true)]
    public void A_slow_logger_sees_only_a_slow_rhythm(int hz, double period, bool isSeen) =>
        Assert.Equal(
            isSeen,
            new Drawn(family: ElectrodeFamily.Cellulosic, hz: hz)
                .Rest(1)
                .For(60, t => (80, 30 + (4 * Math.Sin(2 * Math.PI * t / period)), 0))
                .Rest(1)
                .Read()
                .Runs[0]
                .Rhythm
                is not null
        );

    [Fact]
    public void A_swing_under_two_volts_is_no_rhythm() =>
        Assert.Null(new Drawn().Rest(1).For(60, t => (120, 25 + (0.9 * Math.Sin(2 * Math.PI * t)), 0)).Rest(1).Read().Runs[0].Rhythm);

    [Fact]
    public void Of_a_wire_no_rhythm_and_no_long_arc_is_told() // its shorts, 50 to 150 in a second, cannot be seen at these rates
    {
        var run = new Drawn(Process.Gmaw).Rest(1).For(60, t => (150, 18 + (4 * Math.Sin(9 * t)), 5000)).Rest(1).Read().Runs[0];
        Assert.Null(run.Rhythm);
        Assert.Null(run.LongArcShare);
    }

    [Fact]
    public void A_wire_in_short_counts_in_its_volts_as_on_a_meter() // a fifth of the time at 4 V, the rest at 21.5: a meter shows 18
    {
        var step = 0;
        var run = Assert.Single(new Drawn(Process.Gmaw).Rest(1).For(60, _ => (150, step++ % 5 == 0 ? 4 : 21.5, 5000)).Rest(1).Read().Runs);
        Assert.Equal(18, run.MeanVolts, 0.05);
        Assert.Equal(0, run.FailedStarts);
    }

    [Fact]
    public void An_arc_that_grows_is_told_in_volts_over_the_run()
    {
        var run = new Drawn().Rest(1).For(60, t => (120, 24 + (t / 20), 0)).Rest(1).Read().Runs[0];
        Assert.Equal(3, run.DriftVolts!.Value, 0.1);
    }

    [Theory]
    [InlineData(-0.10, true)]
    [InlineData(-0.06, false)] // 1/8 in further out is about 5 %: not told yet
    [InlineData(0.10, true)]
    public void A_tip_that_moves_is_told_by_the_current_at_a_constant_feed(double share, bool isTold)
    {
        double Amps(double t) => 190 * (1 + (share * Math.Clamp((t - 15) / 15, 0, 1)));
        var steady = new Drawn(Process.FcawG).Rest(1).For(60, t => (Amps(t), 26, 5000)).Rest(1).Read();
        Assert.Equal(isTold, Kinds(steady).Contains(MomentKind.TipDrift));
        Assert.Equal(share, steady.Runs[0].TipDriftShare!.Value, 0.005);
        var turned = new Drawn(Process.FcawG).Rest(1).For(60, t => (Amps(t), 26, 26.3 * Amps(t))).Rest(1).Read();
        Assert.DoesNotContain(MomentKind.TipDrift, Kinds(turned)); // the feed was turned, not the tip moved
    }

    [Fact]
    public void A_wire_that_stands_still_is_feed_trouble()
    {
        var reading = new Drawn(Process.Gmaw).Rest(1).For(60, t => t % 15 is > 7 and < 7.4 ? (60, 24, 1000) : (150, 18, 5000)).Rest(1).Read();
        Assert.Contains(MomentKind.FeedTrouble, Kinds(reading));
        Assert.Equal(4, reading.Runs[0].DipsPerMin!.Value, 0.1);
        Assert.True(reading.Runs[0].FeedSpread > 0.05);
    }

    [Fact]
    public void What_stands_outside_of_the_card_is_told_as_a_share()
    {
        var card = new TraceCard(new Span(100, 140));
        var reading = new Drawn().Rest(1).For(45, 120, 25).For(15, 150, 25).Rest(1).Read(card);
        Assert.Equal(0.25, reading.Runs[0].OutsideCardShare!.Value, 0.02);
        Assert.Contains(MomentKind.OutsideCard, Kinds(reading));
        Assert.Null(new Drawn().Rest(1).For(45, 120, 25).Rest(1).Read().Runs[0].OutsideCardShare);
    }

    [Fact]
    public void A_hot_start_is_not_held_against_the_card() =>
        Assert.Equal(
            0,
            new Drawn().Rest(1).For(0.4, 170, 25).For(20, 120, 25).Rest(1).Read(new TraceCard(new Span(100, 140))).Runs[0].OutsideCardShare
        );

    [Fact]
    public void Three_moments_are_of_as_many_kinds_as_there_are()
    {
        TraceMoment[] all =
        [
            new(1, MomentKind.FailedStart, 1),
            new(5, MomentKind.LongArc, 2),
            new(20, MomentKind.LongArc, 4),
            new(30, MomentKind.OutsideCard, 9),
        ];
        Assert.Equal([1, 20, 30], TraceReading.Best(all).Select(one => one.AtS));
        Assert.Equal(3, TraceReading.Best(Enumerable.Range(0, 9).Select(at => new TraceMoment(at, MomentKind.StuckStart, 1))).Count);
    }

    [Fact]
    public void Noise_alone_is_nothing()
    {
        foreach (var seed in Enumerable.Range(0, 20))
        {
            var random = new Random(seed);
            var reading = new Drawn()
                .Rest(1)
                .For(60, _ => (120 + (6 * (random.NextDouble() - 0.5)), 25 + (4 * (random.NextDouble() - 0.5)), 0))
                .Rest(1)
                .Read(new TraceCard(new Span(110, 130)));
            Assert.Empty(reading.Moments);
            Assert.Null(reading.Runs[0].Rhythm);
        }
    }

    [Fact]
    public void A_trace_without_an_arc_has_no_run()
    {
        Assert.Empty(new Drawn().Rest(30).Read().Runs);
        Assert.Empty(new Drawn().Read().Moments);
        Assert.Empty(new Drawn().Lost(30).Read().Runs);
    }

    [Fact]
    public void Columns_are_of_one_length() =>
        Assert.Throws<ArgumentException>(() => TraceAnalyser.Read(new ArcTrace(Process.Smaw, ElectrodeFamily.Other, 50, [1, 2], [1]), Nothing));
}
