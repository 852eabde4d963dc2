using System.Numerics;
using System.Numerics.Tensors;
using System.Runtime.InteropServices;

namespace Gradus.Core.Readiness;

/// <summary>
/// What is known of one student, on all tests together. The log-odds that an element is clean are the sum over its parts of
/// start + gain · (1 - exp(-practice / pace)), all starts and gains Gaussian; a coupon adds a day that its elements share. Pace, forgetting, misreading
/// and the doubt about the constants are not Gaussian: they are carried by a fixed set of hypotheses, each with its own Gaussian and its own weight by
/// how well it foretold what came (Rao-Blackwellised particles on a fixed low-discrepancy set). Each observation is folded in by matching moments
/// along the one direction that it tells of.
/// </summary>
internal sealed class SkillFilter
{
    // Whoever begins with a test of many small elements begins higher on each, and has the less to gain on it. Chosen on simulated students.
    private const double GainLostByStart = 0.65;
    private const int FewElements = 3;

    // A slump: of what was worse than foretold so much is remembered at the next coupon, so much is borne, and the rest, squared, lets the wander
    // grow. Chosen on simulated students.
    private const double SurpriseKept = 0.7;
    private const double SurpriseBorne = 0.8;
    private const double SurpriseCounts = 100;

    // The days between two coupons of a student, until it is known; a longer break tells nothing of them.
    private const double GapBefore = 3;
    private const double LongestGap = 14;
    private const double GapKept = 0.8;
    private const double Hopeless = 16; // in log-odds: one in nine million
    private const int Square = 8;
    private const int Day = 0; // index of the day's effect in the state
    private readonly ReadinessConstants constants;
    private readonly Hypothesis[] hypotheses;
    private readonly List<Part> parts = [];
    private readonly List<SkillTest> tests = [];
    private readonly Dictionary<string, int> partAt = new(StringComparer.Ordinal);
    private readonly Dictionary<string, int> gainAt = new(StringComparer.Ordinal);
    private readonly Dictionary<string, TestRows> rows = new(StringComparer.Ordinal);
    private int used = 1;
    private double? day;
    private double gap = GapBefore;
    private double middling = double.NaN;

    public SkillFilter(ReadinessConstants constants, int count = HypothesisSet.Count)
    {
        this.constants = constants;
        hypotheses = [.. HypothesisSet.Points.Take(count).Select(point => new Hypothesis(constants, point))];
    }

    private SkillFilter(SkillFilter other)
    {
        (constants, used, day, gap, middling) = (other.constants, other.used, other.day, other.gap, other.middling);
        hypotheses = [.. other.hypotheses.Select(one => one.Copy())];
        (parts, tests) = ([.. other.parts], [.. other.tests]);
        partAt = new(other.partAt, StringComparer.Ordinal);
        gainAt = new(other.gainAt, StringComparer.Ordinal);
        rows = new(other.rows, StringComparer.Ordinal);
    }

    /// <summary>A part that elements share: where its start and its gain are in the state.</summary>
    internal readonly record struct Part(PartKind Kind, int Start, int Gain);

    /// <summary>A test in the state.</summary>
    /// <param name="Of">Of each element its parts, one of each kind.</param>
    /// <param name="Counts">Every part of the test, and how many of its elements have it.</param>
    internal sealed record TestRows(int[][] Of, (int Part, int Count)[] Counts);

    public IReadOnlyList<Hypothesis> Hypotheses => hypotheses;
    public IReadOnlyList<Part> Parts => parts;
    public IReadOnlyList<SkillTest> Tests => tests;

    /// <summary>
    /// By how many days two coupons are further apart, as the student goes of late, than is usual. What is forgotten in the usual days is in the pace
    /// already: counted once more, the rise that was foretold late came out a fifth too small on simulated students.
    /// </summary>
    public double LongerGap => Math.Max(0, gap - GapBefore);

    public SkillFilter Copy() => new(this);

    /// <summary>Whether a test is in the state.</summary>
    public bool Holds(SkillTest test) => rows.ContainsKey(test.Id);

    /// <summary>Where a test stands in the state; taken in when it was not there.</summary>
    public TestRows Begin(SkillTest test)
    {
        if (rows.TryGetValue(test.Id, out var known))
        {
            return known;
        }

        // Whatever a student begins with, a middling beginner's first full coupon is as likely clean.
        if (double.IsNaN(middling))
        {
            middling = Middling(test.Elements.Count);
        }

        tests.Add(test);
        int[][] of = [.. test.Elements.Select(name => PartsOf(test, Element.Parse(name)))];
        return rows[test.Id] = new TestRows(of, [.. of.SelectMany(one => one).GroupBy(part => part).Select(group => (group.Key, group.Count()))]);
    }

    /// <summary>Lets days pass until a coupon is made.</summary>
    public void AdvanceToCoupon(double made)
    {
        if (day is { } last)
        {
            gap = (GapKept * gap) + ((1 - GapKept) * Math.Clamp(made - last, 0, LongestGap));
        }

        Advance(made);
    }

    /// <summary>Lets days pass: practice is forgotten, and the state becomes less sure.</summary>
    public void Advance(double today)
    {
        var days = day is { } last ? Math.Max(0, today - last) : 0;
        day = Math.Max(today, day ?? today);
        if (days == 0)
        {
            return;
        }

        foreach (var one in Held())
        {
            var kept = Math.Exp(-days / one.ForgetDays);
            for (var part = 0; part < parts.Count; part++)
            {
                one.Practice[part] *= kept;
            }

            Wander(one, one.ForgetDays * (1 - kept) * one.WanderPerDay * one.WanderPerDay, Enumerable.Range(0, parts.Count));
        }
    }

    /// <summary>Folds one coupon in; answers the logarithm of the chance that was foretold for just these outcomes.</summary>
    /// <param name="observed">Elements of the test by index, in rising order, and whether they were clean.</param>
    /// <param name="trust">How far it is believed, 0 to 1. What is not, is as likely as not the other way round.</param>
    public double Observe(SkillTest test, IReadOnlyList<(int Element, bool Clean)> observed, bool aided, double trust = 1)
    {
        var own = Begin(test);
        if (observed.Count == 0)
        {
            return 0;
        }

        var size = hypotheses[0].Size;
        Span<double> alongs = new double[observed.Count * size];
        Span<double> times = stackalloc double[observed.Count];
        Span<double> risen = new double[parts.Count];
        var taught = Taught(own, observed).ConvertAll(one => (one.Part, one.Coupons * trust));
        var before = LogSum();
        foreach (var one in Held())
        {
            var misread = Math.Max(one.Misread, (1 - trust) / 2);
            BeginDay(one, aided);
            Risen(one, own, risen);
            var (unforetold, variances) = (0.0, 0.0);
            for (var at = 0; at < observed.Count; at++)
            {
                var (element, clean) = observed[at];
                var of = own.Of[element];
                var along = alongs.Slice(at * size, size);
                Along(one, of, risen, along);

                // The covariance takes over all of the coupon at once, at the end: until then what was seen before is put on top of it.
                for (var seen = 0; seen < at; seen++)
                {
                    var earlier = alongs.Slice(seen * size, size);
                    TensorPrimitives.MultiplyAdd(earlier, times[seen] * Dot(of, risen, earlier), along, along);
                }

                var mean = Dot(of, risen, one.Mean);
                var variance = Dot(of, risen, along);
                var (logChance, toMean, toVariance) = LogisticMoments.Of(mean, variance, clean, misread);
                one.LogWeight += logChance;
                var chance = Math.Exp(logChance);
                unforetold += clean ? 1 - chance : chance - 1;
                variances += chance * (1 - chance);
                TensorPrimitives.MultiplyAdd(along, toMean / variance, one.Mean, one.Mean);
                times[at] = (toVariance - variance) / (variance * variance);
            }

            Update(one, alongs, times);
            Surprise(one, unforetold, variances, OwnRisen(own, observed, risen));
            Practise(one, own, taught);
        }

        var after = LogSum();
        Forsake();
        return after - before;
    }

    /// <summary>
    /// Folds in that a full coupon of a test was not passed, and nothing more is known. Along the direction in which its chance falls fastest, that of
    /// the weakest elements, what is left is weighed by one less the chance that all was clean and sound.
    /// </summary>
    /// <param name="sound">The chance, 0 to 1, that a clean one is sound inside.</param>
    /// <returns>The logarithm of the chance that was foretold for it, and the chance that the coupon was clean by eye.</returns>
    public (double Foretold, double Clean) ObserveNotAllClean(SkillTest test, double sound)
    {
        var own = Begin(test);
        Span<double> along = new double[hypotheses[0].Size];
        Span<double> risen = new double[parts.Count];
        var means = new double[own.Of.Length];
        var slopes = new double[own.Of.Length];
        var taught = Taught(own, [.. own.Of.Index().Select(one => (one.Index, false))]); // something in it was rejected
        var (before, clean) = (LogSum(), 0.0);
        foreach (var one in Held())
        {
            BeginDay(one, aided: false);
            Risen(one, own, risen);

            // How much each number of the state counts: by how likely the elements that it is in are rejected.
            Span<double> counts = new double[one.Size];
            for (var element = 0; element < means.Length; element++)
            {
                means[element] = Dot(own.Of[element], risen, one.Mean);
                var rejected = 1 / (1 + Math.Exp(means[element]));
                counts[Day] += rejected;
                foreach (var part in own.Of[element])
                {
                    counts[parts[part].Start] += rejected;
                    counts[parts[part].Gain] += rejected * risen[part];
                }
            }

            along.Clear();
            for (var row = 0; row < used; row++)
            {
                var covariance = Row(one, row);
                var into = MemoryMarshal.Cast<double, Vector<double>>(along);
                var times = new Vector<double>(counts[row]);
                for (var at = 0; at < Vectors(); at++)
                {
                    into[at] += covariance[at] * times;
                }
            }

            var variance = 0.0;
            for (var row = 0; row < used; row++)
            {
                variance += counts[row] * along[row];
            }

            for (var element = 0; element < slopes.Length; element++)
            {
                slopes[element] = Dot(own.Of[element], risen, along) / Math.Sqrt(variance);
            }

            var weight = Math.Exp(one.LogWeight - before);
            var (chance, toMean, toVariance, allClean) = LogisticMoments.NotAll(means, slopes, sound);
            clean += weight * allClean;
            one.LogWeight += Math.Log(chance);
            TensorPrimitives.MultiplyAdd(along, toMean / Math.Sqrt(variance), one.Mean, one.Mean);
            Update(one, along, [(toVariance - 1) / variance]);
            Practise(one, own, taught);
        }

        var after = LogSum();
        Forsake();
        return (after - before, clean);
    }

    /// <summary>How likely each hypothesis is by now; they add up to 1.</summary>
    public double[] Weights()
    {
        var sum = LogSum();
        return [.. hypotheses.Select(one => Math.Exp(one.LogWeight - sum))];
    }

    /// <summary>What one item adds to the practice of each part, when the marked elements of the test are worked on.</summary>
    public double[] Practised(SkillTest test, IReadOnlyList<bool> worked) => Practised(test, [.. worked.Select(one => one ? 1.0 : 0)]);

    /// <summary>What one full coupon adds to the practice of each part, when each element comes clean so often: a rejected one teaches less.</summary>
    public double[] PractisedFull(SkillTest test, IReadOnlyList<double> clean) => Practised(test, clean, [.. clean.Select(_ => 1.0)]);

    /// <summary>The same of elements that are made so many times each.</summary>
    public double[] Practised(SkillTest test, IReadOnlyList<double> clean, IReadOnlyList<double> times) =>
        Practised(test, [.. clean.Zip(times, (chance, count) => count * (chance + ((1 - chance) * constants.FailedPractice)))]);

    private double[] Practised(SkillTest test, double[] counts)
    {
        var own = Begin(test);
        var practised = new double[parts.Count];
        foreach (var (element, of) in own.Of.Index())
        {
            foreach (var part in of)
            {
                practised[part] += counts[element];
            }
        }

        foreach (var (part, count) in own.Counts)
        {
            practised[part] /= count;
        }

        return practised;
    }

    /// <summary>All that the filter holds beside its tests, as numbers in a fixed order: the day first, NaN before the first coupon, then the gap.</summary>
    public IEnumerable<double> Numbers() =>
        hypotheses
            .SelectMany(one =>
                one.Mean.Skip(1)
                    .Take(used - 1)
                    .Concat(Triangle().Select(at => one.Covariance[at]))
                    .Concat(one.Practice)
                    .Append(one.Surprise)
                    .Append(one.LogWeight)
            )
            .Prepend(gap)
            .Prepend(day ?? double.NaN);

    /// <summary>Takes over numbers that <see cref="Numbers"/> gave, once the same tests were begun in the same order.</summary>
    public void Restore(double[] numbers)
    {
        var triangle = Triangle().ToList();
        var each = used - 1 + triangle.Count + parts.Count + 2;
        if (numbers.Length != 2 + (each * hypotheses.Length))
        {
            throw new ArgumentException("The numbers are not of this filter.", nameof(numbers));
        }

        (day, gap) = (double.IsNaN(numbers[0]) ? null : numbers[0], numbers[1]);
        foreach (var (index, one) in hypotheses.Index())
        {
            var own = numbers.AsSpan(2 + (index * each), each);
            own[..(used - 1)].CopyTo(one.Mean.AsSpan(1));
            for (var at = 0; at < triangle.Count; at++)
            {
                var (row, column) = (triangle[at] / one.Size, triangle[at] % one.Size);
                one.Covariance[(row * one.Size) + column] = one.Covariance[(column * one.Size) + row] = own[used - 1 + at];
            }

            for (var part = 0; part < parts.Count; part++)
            {
                one.Practice[part] = own[used - 1 + triangle.Count + part];
            }

            (one.Surprise, one.LogWeight) = (own[^2], own[^1]);
        }
    }

    /// <summary>The share of its gain that each part of a test has by now.</summary>
    public static void Risen(Hypothesis one, TestRows own, Span<double> risen)
    {
        foreach (var (part, _) in own.Counts)
        {
            risen[part] = 1 - Math.Exp(-one.Practice[part] / one.Pace);
        }
    }

    private int[] PartsOf(SkillTest test, Element element)
    {
        var names = SkillParts.Of(test, element);
        var of = new int[SkillParts.Count];
        for (var kind = PartKind.General; kind <= PartKind.Own; kind++)
        {
            var name = names[(int)kind];
            if (!partAt.TryGetValue(name, out of[(int)kind]))
            {
                var about = constants.Of(kind);
                var offset = kind switch
                {
                    PartKind.General => middling,
                    PartKind.Stage => constants.Offsets.GetValueOrDefault(element.Stage),
                    PartKind.Own when element.Zone is { } zone => constants.Offsets.GetValueOrDefault(zone),
                    _ => 0,
                };
                var start = Take(offset, about.Spread);
                var lost = kind == PartKind.General ? GainLostByStart * Math.Max(0, middling - Middling(FewElements)) : 0;
                var gain = Gain(kind == PartKind.Own ? $"own {test.Id}" : name, about with { Gain = Math.Max(0, about.Gain - lost) });
                if (kind == PartKind.General)
                {
                    Couple(start, gain, constants.GainWithStart * about.Spread * about.GainSpread);
                }

                of[(int)kind] = partAt[name] = parts.Count;
                parts.Add(new Part(kind, start, gain));
                Array.ForEach(hypotheses, one => one.Practice.Add(0));
            }
        }

        return of;
    }

    private int Gain(string name, PartConstants about) =>
        gainAt.TryGetValue(name, out var known) ? known : gainAt[name] = Take(about.Gain, about.GainSpread);

    /// <summary>One more number of the state, which nothing is known of yet.</summary>
    private int Take(double mean, double spread)
    {
        Array.ForEach(hypotheses, one => one.Take(used, mean, spread));
        return used++;
    }

    private void Couple(int start, int gain, double covariance)
    {
        foreach (var one in Held())
        {
            one.Covariance[(start * one.Size) + gain] = one.Covariance[(gain * one.Size) + start] = one.Scale * covariance;
        }
    }

    // A coupon counts for a part by the share of the part's elements that it exercised; a rejected one teaches less.
    private List<(int Part, double Coupons)> Taught(TestRows own, IReadOnlyList<(int Element, bool Clean)> observed)
    {
        var sums = new double[parts.Count];
        foreach (var (element, clean) in observed)
        {
            foreach (var part in own.Of[element])
            {
                sums[part] += clean ? 1 : constants.FailedPractice;
            }
        }

        return [.. own.Counts.Where(one => sums[one.Part] > 0).Select(one => (one.Part, sums[one.Part] / one.Count))];
    }

    // Whoever fails on a test that is new learns it; it is a slump when it was known.
    private static void Surprise(Hypothesis one, double unforetold, double variance, double known)
    {
        var news = variance > 0 ? known * unforetold / Math.Sqrt(variance) : 0;
        one.Surprise = (SurpriseKept * one.Surprise) + (Math.Sqrt(1 - (SurpriseKept * SurpriseKept)) * news);
    }

    // How much of what is to be learned of these elements themselves is.
    private static double OwnRisen(TestRows own, IReadOnlyList<(int Element, bool Clean)> observed, ReadOnlySpan<double> risen)
    {
        var sum = 0.0;
        foreach (var (element, _) in observed)
        {
            sum += risen[own.Of[element][(int)PartKind.Own]];
        }

        return sum / observed.Count;
    }

    /// <summary>A coupon was made: its practice counts, and what the curve does not tell changes.</summary>
    private void Practise(Hypothesis one, TestRows own, List<(int Part, double Coupons)> taught)
    {
        foreach (var (part, coupons) in taught)
        {
            one.Practice[part] += coupons;
        }

        var worse = Math.Max(0, -one.Surprise - SurpriseBorne);
        Wander(one, one.WanderPerCoupon * one.WanderPerCoupon * (1 + (SurpriseCounts * worse * worse)), own.Counts.Select(part => part.Part));
    }

    private IEnumerable<int> Triangle()
    {
        var size = hypotheses[0].Size;
        return Enumerable.Range(1, used - 1).SelectMany(row => Enumerable.Range(1, row).Select(column => (row * size) + column));
    }

    private double LogSum()
    {
        var most = hypotheses.Max(one => one.LogWeight);
        return most + Math.Log(hypotheses.Sum(one => Math.Exp(one.LogWeight - most)));
    }

    // The hypotheses that are still held.
    private IEnumerable<Hypothesis> Held() => hypotheses.Where(one => !double.IsNegativeInfinity(one.LogWeight));

    // What foretold so badly that it cannot come back is not carried along any further.
    private void Forsake()
    {
        var most = hypotheses.Max(one => one.LogWeight);
        foreach (var one in Held().Where(one => one.LogWeight < most - Hopeless))
        {
            one.LogWeight = double.NegativeInfinity;
        }
    }

    private void BeginDay(Hypothesis one, bool aided)
    {
        for (var other = 0; other < used; other++)
        {
            one.Covariance[other] = one.Covariance[other * one.Size] = 0;
        }

        one.Mean[Day] = aided ? constants.AidLift : 0;
        one.Covariance[Day] = (one.DaySpread * one.DaySpread) + (aided ? constants.AidSpread * constants.AidSpread : 0);
    }

    /// <summary>What an element's parts have in some numbers of the state, the day's effect among them.</summary>
    private double Dot(int[] of, Span<double> risen, ReadOnlySpan<double> numbers)
    {
        var sum = numbers[Day];
        foreach (var part in of)
        {
            sum += numbers[parts[part].Start] + (risen[part] * numbers[parts[part].Gain]);
        }

        return sum;
    }

    // The two loops below are where the time goes, so they are written on vectors: the state is padded to a whole number of them.
    private void Along(Hypothesis one, int[] of, Span<double> risen, Span<double> along)
    {
        var into = MemoryMarshal.Cast<double, Vector<double>>(along)[..Vectors()];
        Row(one, Day)[..into.Length].CopyTo(into);
        foreach (var part in of)
        {
            var start = Row(one, parts[part].Start);
            var gain = Row(one, parts[part].Gain);
            var times = new Vector<double>(risen[part]);
            for (var at = 0; at < into.Length; at++)
            {
                into[at] += start[at] + (gain[at] * times);
            }
        }
    }

    /// <summary>Adds the squares of some directions, each so many times, to the covariance.</summary>
    private void Update(Hypothesis one, Span<double> alongs, ReadOnlySpan<double> times)
    {
        var size = one.Size;
        var width = Vector<double>.Count;
        for (var row = 0; row < used; row++)
        {
            // Up to the diagonal; what is beyond it is the same.
            var covariance = Row(one, row)[..((row / width) + 1)];
            for (var seen = 0; seen < times.Length; seen++)
            {
                var along = MemoryMarshal.Cast<double, Vector<double>>(alongs.Slice(seen * size, size))[..covariance.Length];
                var own = new Vector<double>(alongs[(seen * size) + row] * times[seen]);
                for (var at = 0; at < covariance.Length; at++)
                {
                    covariance[at] += along[at] * own;
                }
            }
        }

        // Square by square, so that what is written lies close together.
        var numbers = one.Covariance;
        for (var down = 0; down < used; down += Square)
        {
            var until = Math.Min(down + Square, used);
            for (var across = 0; across <= down; across += Square)
            {
                for (var column = across; column < across + Square; column++)
                {
                    for (var row = Math.Max(down, column + 1); row < until; row++)
                    {
                        numbers[(column * size) + row] = numbers[(row * size) + column];
                    }
                }
            }
        }
    }

    private int Vectors() => (used + Vector<double>.Count - 1) / Vector<double>.Count;

    private static Span<Vector<double>> Row(Hypothesis one, int row) =>
        MemoryMarshal.Cast<double, Vector<double>>(one.Covariance.AsSpan(row * one.Size, one.Size));

    // Half of what changes beside the curve, changes for all tests alike; the rest by element.
    private void Wander(Hypothesis one, double variance, IEnumerable<int> touched)
    {
        foreach (var part in touched)
        {
            if (parts[part].Kind is PartKind.General or PartKind.Own)
            {
                one.Covariance[(parts[part].Start * one.Size) + parts[part].Start] += variance / 2;
            }
        }
    }

    private double Middling(int elements) => Odds(Math.Pow(constants.StartChance, 1.0 / elements));

    private static double Odds(double share) => Math.Log(share / (1 - share));
}
