using System.Buffers.Binary;
using System.Text.Json;
using Gradus.Core.Measure;

namespace Gradus.Core.Readiness;

/// <summary>What one more practice item is expected to add to the chance of a clean full coupon.</summary>
/// <param name="Stage">The stage that a drill works on; null for a full coupon.</param>
/// <param name="Adds">By how much the mean chance rises.</param>
public sealed record ItemWorth(string? Stage, double Adds);

/// <summary>
/// How the chance of passing everything is expected to go on with more full coupons, made as far apart as the student's of late: what is rejected
/// teaches less, and what is not practised is forgotten meanwhile.
/// </summary>
/// <param name="Means">The mean chance after 0, 1, 2 ... 12 more full coupons, then after 15, 20, 25 and 30: see <see cref="Coupons"/>.</param>
/// <param name="Lowers">The lower end of the 90 % interval after as many, were nothing more seen.</param>
/// <param name="ToBar">How many full coupons until the chance itself reaches the bar: the middle student of those who fit the evidence.</param>
/// <param name="ToBarLeast">The same for the quickest in twenty of them...</param>
/// <param name="ToBarMost">...and for the slowest; null when that is more than the forecast looks ahead.</param>
/// <param name="Ways">The chance of a clean coupon by eye along the same coupons, as it goes for the weakest seventh of the students who fit the evidence, the next ... the strongest; each as likely.</param>
/// <param name="CleanToBar">
/// Where the chance reaches the bar and its lower end does not: how many more clean full coupons would lift that too. Null elsewhere, and when not <see cref="MostClean"/> do.
/// </param>
public sealed record Forecast(
    IReadOnlyList<double> Means,
    IReadOnlyList<double> Lowers,
    int? ToBar,
    int? ToBarLeast,
    int? ToBarMost,
    IReadOnlyList<IReadOnlyList<double>>? Ways = null,
    int? CleanToBar = null
)
{
    /// <summary>How many clean coupons are looked at for <see cref="CleanToBar"/>.</summary>
    public const int MostClean = 6;

    /// <summary>The numbers of further full coupons that are looked at.</summary>
    public static IReadOnlyList<int> Coupons { get; } = [.. Enumerable.Range(0, 13), 15, 20, 25, 30];
}

/// <summary>Readiness as it stands on a day.</summary>
/// <param name="Whole">The chance that a full coupon is clean by eye.</param>
/// <param name="Elements">The chance of each element of the test, in its order.</param>
/// <param name="Stages">The chance that a whole stage is clean, by its name.</param>
/// <param name="Inside">The chance that a coupon which is clean by eye is sound inside, with its middle half.</param>
/// <param name="Passing">The chance of passing everything: clean by eye, and sound inside.</param>
public sealed record Standing(
    ChanceBand Whole,
    IReadOnlyList<Chance> Elements,
    IReadOnlyDictionary<string, ChanceBand> Stages,
    Forecast Forecast,
    IReadOnlyList<ItemWorth> Worth,
    ChanceBand Inside,
    ChanceBand Passing
);

/// <summary>What is asked for: the mean chance of passing everything, and the lower end of its interval; 0 to 1.</summary>
public sealed record Bar(double Mean, double Lower)
{
    /// <summary>The bar of a policy.</summary>
    public static Bar Of(TestPolicy policy) => new(policy.BarMean, policy.BarLower);
}

/// <summary>What is known of one student on all tests, kept so that one more coupon is folded in without reading the earlier ones again.</summary>
public sealed class ReadinessState
{
    private static readonly int[] LookedAt = [1, 2, 4, 8, 16, 32];
    private const int ThinBy = 4;
    private const int WaysTold = 7;
    private readonly SkillFilter filter;
    private readonly InsideBelief inside;

    private ReadinessState(SkillFilter filter, InsideBelief inside) => (this.filter, this.inside) = (filter, inside);

    // What stands before the numbers of a kept state.
    private sealed record Head(IReadOnlyList<SkillTest> Tests, IReadOnlyDictionary<string, InsideSeen> Inside);

    /// <summary>A student before the first coupon.</summary>
    public static ReadinessState New(ReadinessConstants constants) => new(new SkillFilter(constants), new InsideBelief());

    /// <summary>The tests that it holds coupons of.</summary>
    public IReadOnlyList<SkillTest> Tests => filter.Tests;

    /// <summary>Folds one coupon of a test in. It may not be older than those before it, of whatever test.</summary>
    public void Fold(SkillTest test, CouponEvidence coupon) => GrowthEngine.Fold(filter, inside, test, coupon);

    /// <summary>The chance of passing everything with a coupon of a test, at the last coupon's moment.</summary>
    public ChanceBand Now(SkillTest test) => GrowthEngine.Now(filter.Holds(test) ? filter : filter.Copy(), test).And(inside.Of(test));

    /// <summary>The chance of passing everything right after one more coupon, which is not kept.</summary>
    public ChanceBand With(SkillTest test, CouponEvidence coupon)
    {
        var then = Copy();
        then.Fold(test, coupon);
        return then.Now(test);
    }

    /// <summary>The chance of passing everything on a day; the state itself stays where it is.</summary>
    public ChanceBand Passing(SkillTest test, double today)
    {
        var then = filter.Copy();
        then.Advance(today);
        return GrowthEngine.Now(then, test).And(inside.Of(test));
    }

    /// <summary>The chance that a coupon of a test which is clean by eye is sound inside, with its middle half.</summary>
    public ChanceBand Inside(SkillTest test) => inside.Of(test);

    /// <summary>Readiness on a day; the state itself stays where it is.</summary>
    public Standing On(SkillTest test, double today, Bar bar)
    {
        var elements = test.Elements;
        var then = filter.Copy();
        then.Advance(today);
        var outlook = new Outlook(then, test, withGains: true);
        var now = outlook.Chances();
        var whole = outlook.Band(now);
        var sound = inside.Of(test);
        var passing = whole.And(sound);

        // How it goes on is only a forecast: a part of the draws tells it, and its change is added to what is known of now.
        var thin = outlook.Thinned(ThinBy);
        var chances = outlook.ElementChances();
        var full = then.PractisedFull(test, chances);
        var later = Forecast.Coupons.Select(coupons => thin.Chances(full, coupons, then.LongerGap)).ToList();
        var start = thin.Mean(later[0]);
        var offset = outlook.Mean(now) - start;
        double Passes(double chance) => Math.Clamp(chance + offset, 0, 1) * sound.Mean.Value;
        var reached = Enumerable
            .Range(0, later[0].Length)
            .Select(draw => (double)later.FindIndex(chances => chances[draw] * sound.Mean.Value >= bar.Mean))
            .Select(at => at < 0 ? Forecast.Coupons.Count : at)
            .ToArray();
        var counts = thin.Quantiles(reached, 0.05, 0.5, 0.95);
        int? At(double step) => (int)Math.Round(step) is var at && at < Forecast.Coupons.Count ? Forecast.Coupons[at] : null;
        var stages = elements.Select(name => Element.Parse(name).Stage).Distinct(StringComparer.Ordinal).ToList();
        bool[] Of(string stage) => [.. elements.Select(name => Element.Parse(name).Stage == stage)];
        return new Standing(
            whole,
            [.. chances.Select(chance => Chance.Of(Math.Clamp(chance, 0, 1)))],
            stages.ToDictionary(stage => stage, stage => outlook.Band(outlook.Chances(only: Of(stage))), StringComparer.Ordinal),
            new Forecast(
                [.. later.Select(chances => Passes(thin.Mean(chances)))],
                [.. later.Select(chances => thin.Quantiles(chances, 0.05)[0] * sound.Lower.Value)],
                At(counts[1]),
                At(counts[0]),
                At(counts[2]),
                [.. thin.Ways(later, WaysTold).Select(way => (IReadOnlyList<double>)[.. way.Select(chance => Math.Clamp(chance + offset, 0, 1))])],
                passing.Mean.Value >= bar.Mean && passing.Lower.Value < bar.Lower ? CleanTo(test, today, bar) : null
            ),
            [
                new ItemWorth(null, (thin.Mean(thin.Chances(then.Practised(test, [.. elements.Select(_ => true)]))) - start) * sound.Mean.Value),
                .. stages.Select(stage => new ItemWorth(
                    stage,
                    (thin.Mean(thin.Chances(then.Practised(test, Of(stage)))) - start) * sound.Mean.Value
                )),
            ],
            sound,
            passing
        );
    }

    private int? CleanTo(SkillTest test, double today, Bar bar)
    {
        var then = Copy();
        var clean = new CouponEvidence(today, Full: true, Aided: false, test.Elements.ToDictionary(name => name, _ => true));
        for (var coupons = 1; coupons <= Forecast.MostClean; coupons++)
        {
            then.Fold(test, clean);
            if (then.Now(test) is var now && now.Mean.Value >= bar.Mean && now.Lower.Value >= bar.Lower)
            {
                return coupons;
            }
        }

        return null;
    }

    private ReadinessState Copy() => new(filter.Copy(), inside.Copy());

    /// <summary>
    /// What the first, second ... time of each item adds to the mean chance of a clean full coupon; never rising. What is rejected teaches less, by the chance
    /// of each element now.
    /// </summary>
    /// <param name="items">Of each item how many times it makes each element.</param>
    /// <param name="times">How many times are looked at; 1 or more.</param>
    /// <param name="first">What will be practised before, in the same form: its gain is not counted again.</param>
    public IReadOnlyList<IReadOnlyList<double>> Gains(
        SkillTest test,
        double today,
        IReadOnlyList<IReadOnlyDictionary<string, double>> items,
        int times,
        IReadOnlyDictionary<string, double>? first = null
    )
    {
        // The rise flattens: a few points of it, and straight lines between them, are enough.
        int[] looked = [.. LookedAt.Where(at => at < times), times];
        var then = filter.Copy();
        then.Advance(today);
        var outlook = new Outlook(then, test, withGains: true);
        var clean = outlook.ElementChances();
        var thin = outlook.Thinned(ThinBy);
        double[] Practised(IReadOnlyDictionary<string, double> item) =>
            then.Practised(test, clean, [.. test.Elements.Select(name => item.GetValueOrDefault(name))]);
        var before = first is null ? null : Practised(first);
        var start = thin.Mean(before is null ? thin.Chances() : thin.Chances(before));
        return
        [
            .. items.Select(item =>
            {
                var practised = Practised(item);
                double[] After(int at) => [.. practised.Select((count, part) => (at * count) + (before?[part] ?? 0))];
                var gains = new List<double>();
                var (since, reached, least) = (0, 0.0, double.PositiveInfinity);
                foreach (var at in looked)
                {
                    var rise = thin.Mean(thin.Chances(After(at))) - start;
                    least = Math.Min(least, Math.Max(0, (rise - reached) / (at - since)));
                    gains.AddRange(Enumerable.Repeat(least, at - since));
                    (since, reached) = (at, rise);
                }

                return (IReadOnlyList<double>)gains;
            }),
        ];
    }

    /// <summary>The state as bytes, to be kept: the tests that are in it, then its numbers. Only good for the same constants.</summary>
    public byte[] ToBytes()
    {
        var head = JsonSerializer.SerializeToUtf8Bytes(new Head(filter.Tests, inside.Seen), CoreJson.Options);
        var numbers = filter.Numbers().ToArray();
        var bytes = new byte[sizeof(int) + head.Length + (numbers.Length * sizeof(double))];
        BinaryPrimitives.WriteInt32LittleEndian(bytes, head.Length);
        head.CopyTo(bytes, sizeof(int));
        for (var index = 0; index < numbers.Length; index++)
        {
            BinaryPrimitives.WriteDoubleLittleEndian(bytes.AsSpan(sizeof(int) + head.Length + (index * sizeof(double))), numbers[index]);
        }

        return bytes;
    }

    /// <summary>A state that was kept.</summary>
    /// <exception cref="ArgumentException">The bytes are not a state.</exception>
    public static ReadinessState FromBytes(ReadinessConstants constants, ReadOnlySpan<byte> bytes)
    {
        var length = bytes.Length < sizeof(int) ? -1 : BinaryPrimitives.ReadInt32LittleEndian(bytes);
        if (length < 0 || length > bytes.Length - sizeof(int))
        {
            throw new ArgumentException("The bytes are not a state.", nameof(bytes));
        }

        var head = JsonSerializer.Deserialize<Head>(bytes.Slice(sizeof(int), length), CoreJson.Options)!;
        var state = new ReadinessState(new SkillFilter(constants), new InsideBelief(head.Inside));
        foreach (var test in head.Tests)
        {
            state.filter.Begin(test);
        }

        var rest = bytes[(sizeof(int) + length)..];
        var numbers = new double[rest.Length / sizeof(double)];
        for (var index = 0; index < numbers.Length; index++)
        {
            numbers[index] = BinaryPrimitives.ReadDoubleLittleEndian(rest[(index * sizeof(double))..]);
        }

        state.filter.Restore(numbers);
        return state;
    }
}
