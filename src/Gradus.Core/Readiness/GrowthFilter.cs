using System.Numerics;
using System.Runtime.InteropServices;

namespace Gradus.Core.Readiness;

/// <summary>
/// What is known of one student on one test. The log-odds of element e are start(e) + gain · (1 - exp(-practice(e) / pace)), the start of all
/// elements and the gain Gaussian; a coupon adds a day that its elements share. Pace, forgetting and the doubt about the constants are not
/// Gaussian: they are carried by a fixed set of hypotheses, each with its own Gaussian and its own weight by how well it foretold what came
/// (Rao-Blackwellised particles on a fixed low-discrepancy set). Each observation is folded in by matching moments along the one direction that it tells of.
/// </summary>
internal sealed class GrowthFilter
{
    private readonly Element[] elements;
    private readonly Hypothesis[] hypotheses;
    private readonly ReadinessConstants constants;
    private readonly int gain; // index of the gain in the state; the day's effect is the next one
    private readonly int size;
    private double? day;

    public GrowthFilter(IReadOnlyList<string> elements, ReadinessConstants constants, int count = HypothesisSet.Count)
    {
        this.constants = constants;
        this.elements = [.. elements.Select(Element.Parse)];
        (gain, size) = (elements.Count, Hypothesis.SizeFor(elements.Count));
        hypotheses = [.. HypothesisSet.Points.Take(count).Select(point => new Hypothesis(this.elements, constants, point))];
    }

    private GrowthFilter(GrowthFilter other)
    {
        (elements, constants, gain, size, day) = (other.elements, other.constants, other.gain, other.size, other.day);
        hypotheses = [.. other.hypotheses.Select(one => one.Copy())];
    }

    public int Elements => elements.Length;
    public IReadOnlyList<Hypothesis> Hypotheses => hypotheses;

    public GrowthFilter Copy() => new(this);

    /// <summary>Index of an element; -1 when the test does not have it.</summary>
    public int IndexOf(string element) => Array.FindIndex(elements, one => one.Name == element);

    /// <summary>Lets days pass: practice is forgotten, and the state becomes less sure.</summary>
    public void Advance(double today)
    {
        var days = day is { } last ? Math.Max(0, today - last) : 0;
        day = Math.Max(today, day ?? today);
        if (days == 0)
        {
            return;
        }

        foreach (var one in hypotheses)
        {
            var kept = Math.Exp(-days / one.ForgetDays);
            for (var e = 0; e < elements.Length; e++)
            {
                one.Practice[e] *= kept;
            }

            var wandered = one.ForgetDays * (1 - kept) * one.WanderPerDay * one.WanderPerDay;
            Wander(one, wandered);
        }
    }

    /// <summary>Folds one coupon in; answers the logarithm of the chance that was foretold for just these outcomes.</summary>
    /// <param name="observed">Elements by index, in rising order, and whether they were clean.</param>
    public double Observe(IReadOnlyList<(int Element, bool Clean)> observed, bool aided)
    {
        if (observed.Count == 0)
        {
            return 0;
        }

        Span<double> along = stackalloc double[size];
        var before = LogSum();
        foreach (var one in hypotheses)
        {
            BeginDay(one, aided);
            foreach (var (element, clean) in observed)
            {
                var risen = 1 - Math.Exp(-one.Practice[element] / one.Pace);
                Along(one, element, risen, along);
                var variance = along[element] + (risen * along[gain]) + along[gain + 1];
                var mean = one.Mean[element] + (risen * one.Mean[gain]) + one.Mean[gain + 1];
                var (logChance, toMean, toVariance) = LogisticMoments.Of(mean, variance, clean);
                one.LogWeight += logChance;
                Update(one, along, toMean / variance, (toVariance - variance) / (variance * variance));
            }

            Practise(one, observed);
            Wander(one, one.WanderPerCoupon * one.WanderPerCoupon);
        }

        return LogSum() - before;
    }

    /// <summary>How likely each hypothesis is by now; they add up to 1.</summary>
    public double[] Weights()
    {
        var sum = LogSum();
        return [.. hypotheses.Select(one => Math.Exp(one.LogWeight - sum))];
    }

    /// <summary>What one item adds to the practice of each element, when the marked ones are worked on.</summary>
    public double[] Practised(IReadOnlyList<bool> worked)
    {
        var all = constants.PracticeShared * worked.Count(one => one) / elements.Length;
        return [.. worked.Select(one => all + (one ? 1 - constants.PracticeShared : 0))];
    }

    /// <summary>All that the filter holds, as numbers in a fixed order: the day first, NaN before the first coupon.</summary>
    public IEnumerable<double> Numbers() =>
        hypotheses
            .SelectMany(one => one.Mean.Take(gain + 1).Concat(Triangle().Select(at => one.Covariance[at])).Concat(one.Practice).Append(one.LogWeight))
            .Prepend(day ?? double.NaN);

    /// <summary>Takes over numbers that <see cref="Numbers"/> gave.</summary>
    public void Restore(double[] numbers)
    {
        var triangle = Triangle().ToList();
        var each = gain + 1 + triangle.Count + gain + 1;
        if (numbers.Length != 1 + (each * hypotheses.Length))
        {
            throw new ArgumentException("The numbers are not of this filter.", nameof(numbers));
        }

        day = double.IsNaN(numbers[0]) ? null : numbers[0];
        foreach (var (one, index) in hypotheses.Select((one, index) => (one, index)))
        {
            var own = numbers.AsSpan(1 + (index * each), each);
            own[..(gain + 1)].CopyTo(one.Mean);
            for (var at = 0; at < triangle.Count; at++)
            {
                var (row, column) = (triangle[at] / size, triangle[at] % size);
                one.Covariance[(row * size) + column] = one.Covariance[(column * size) + row] = own[gain + 1 + at];
            }

            own.Slice(gain + 1 + triangle.Count, gain).CopyTo(one.Practice);
            one.LogWeight = own[^1];
        }
    }

    // The starts and the gain; the day's effect is made anew with each coupon.
    private IEnumerable<int> Triangle() =>
        Enumerable.Range(0, gain + 1).SelectMany(row => Enumerable.Range(0, row + 1).Select(column => (row * size) + column));

    private double LogSum()
    {
        var most = hypotheses.Max(one => one.LogWeight);
        return most + Math.Log(hypotheses.Sum(one => Math.Exp(one.LogWeight - most)));
    }

    private void BeginDay(Hypothesis one, bool aided)
    {
        var effect = gain + 1;
        for (var other = 0; other < size; other++)
        {
            one.Covariance[(effect * size) + other] = one.Covariance[(other * size) + effect] = 0;
        }

        one.Mean[effect] = aided ? constants.AidLift : 0;
        one.Covariance[(effect * size) + effect] = (one.DaySpread * one.DaySpread) + (aided ? constants.AidSpread * constants.AidSpread : 0);
    }

    // The two loops below are where the time goes, so they are written on vectors: the state is padded to a whole number of them.
    private void Along(Hypothesis one, int element, double risen, Span<double> along)
    {
        var into = MemoryMarshal.Cast<double, Vector<double>>(along);
        var day = Row(one, gain + 1);
        var own = Row(one, element);
        var gained = Row(one, gain);
        var times = new Vector<double>(risen);
        for (var part = 0; part < into.Length; part++)
        {
            into[part] = day[part] + own[part] + (gained[part] * times);
        }
    }

    private void Update(Hypothesis one, Span<double> along, double toMean, double toCovariance)
    {
        var step = MemoryMarshal.Cast<double, Vector<double>>(along);
        var mean = MemoryMarshal.Cast<double, Vector<double>>(one.Mean.AsSpan());
        for (var part = 0; part < step.Length; part++)
        {
            mean[part] += step[part] * toMean;
        }

        var covariance = MemoryMarshal.Cast<double, Vector<double>>(one.Covariance.AsSpan());
        var times = new Vector<double>(toCovariance);
        for (var (row, at) = (0, 0); row <= gain + 1; row++)
        {
            // In this order the matrix stays symmetric to the last bit, and half of it is enough to keep.
            var own = new Vector<double>(along[row]);
            for (var part = 0; part < step.Length; part++, at++)
            {
                covariance[at] += step[part] * own * times;
            }
        }
    }

    private Span<Vector<double>> Row(Hypothesis one, int row) => MemoryMarshal.Cast<double, Vector<double>>(one.Covariance.AsSpan(row * size, size));

    private void Practise(Hypothesis one, IReadOnlyList<(int Element, bool Clean)> observed)
    {
        double Taught(bool clean) => clean ? 1 : constants.FailedPractice;
        var all = constants.PracticeShared * observed.Sum(seen => Taught(seen.Clean)) / elements.Length;
        for (var e = 0; e < elements.Length; e++)
        {
            one.Practice[e] += all;
        }

        foreach (var (element, clean) in observed)
        {
            one.Practice[element] += (1 - constants.PracticeShared) * Taught(clean);
        }
    }

    // Half of what changes beside the curve, changes for all elements alike.
    private void Wander(Hypothesis one, double variance)
    {
        var shared = variance / 2;
        for (var row = 0; row < elements.Length; row++)
        {
            for (var column = 0; column < elements.Length; column++)
            {
                one.Covariance[(row * size) + column] += row == column ? variance : shared;
            }
        }
    }
}
