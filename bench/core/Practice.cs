using Gradus.Core.Library;
using Gradus.Core.Planning;
using Gradus.Core.Readiness;
using MathNet.Numerics.Distributions;

namespace Gradus.Benchmarks;

/// <summary>
/// Students who practise what Gradus prescribes beside the same students who only make full coupons, in the same booth hours. They learn by a
/// power law of practice, which is not the engine's model; what counts is their true chance at the end.
/// </summary>
internal static class Practice
{
    private const int Students = 40;
    private const int Periods = 16;
    private const double HoursPerPeriod = 2.5;
    private const double DaysBetween = 1.4;
    private static readonly Dictionary<string, double> Prices = Price.Shipped.ToDictionary(price => price.Id, price => price.Amount);

    private sealed record Kind(string Name, string TestId, double Hard, string? Weak);

    private static readonly Kind[] Kinds =
    [
        new("plate 3G, even", "P4", 0, null),
        new("plate 3G, weak root", "P4", 0, "root"),
        new("plate 3G, weak cap", "P8", 0, "cap"),
        new("pipe 6G, even", "R3", 0.6, null),
        new("pipe 6G, weak at the bottom", "R3", 0.6, "bottom"),
    ];

    public static void Run()
    {
        Console.WriteLine("| students | chance at first | full coupons only | prescribed | better by | standard error |");
        Console.WriteLine("|---|---|---|---|---|---|");
        foreach (var kind in Kinds)
        {
            var runs = Enumerable
                .Range(0, Students)
                .AsParallel()
                .AsOrdered()
                .Select(index => (Full: One(kind, index, false), Prescribed: One(kind, index, true)))
                .ToList();
            var gains = runs.Select(run => run.Prescribed.After - run.Full.After).ToList();
            var error = MathNet.Numerics.Statistics.Statistics.StandardDeviation(gains) / Math.Sqrt(Students);
            Console.WriteLine(
                $"| {kind.Name} | {runs.Average(run => run.Full.Before):0.00} | {runs.Average(run => run.Full.After):0.000} | {runs.Average(run => run.Prescribed.After):0.000} | {gains.Average():+0.000;-0.000} | {error:0.000} |"
            );
        }
    }

    private static (double Before, double After) One(Kind kind, int index, bool prescribed)
    {
        var test = TestLibrary.Shipped[kind.TestId];
        var elements = TestElements.Of(test);
        var random = new Random(7000 + index);
        var normal = new Normal(0, 1, random);
        var start = elements
            .Select(name =>
                1.2
                + Math.Log(elements.Count / 4.0)
                - kind.Hard
                + (0.5 * normal.Sample())
                - (kind.Weak is { } weak && name.Contains(weak, StringComparison.Ordinal) ? 1.5 : 0)
            )
            .ToArray();
        var rate = 0.75 * Math.Exp(0.3 * normal.Sample());
        var practised = new double[elements.Count];
        double Odds(int e) => start[e] + (rate * Math.Log(1 + practised[e]));
        double Truth() => Enumerable.Range(0, elements.Count).Aggregate(1.0, (all, e) => all / (1 + Math.Exp(-Odds(e))));
        var before = Truth();
        var asked = SkillTest.Of(test);
        var state = ReadinessState.New(ReadinessConstants.Defaults);
        var day = 0.0;
        for (var period = 0; period < Periods; period++, day += DaysBetween)
        {
            var facts = new PractiserFacts(true, period, null, new Dictionary<string, int>(), LoggedWork.None);
            var items = Prescription.Of(
                test,
                state.On(asked, day, new Bar(0.8, 0.6)),
                state.Gains(asked, day, Prescription.Worked(test), Prescription.TimesAhead),
                facts,
                Prices
            );
            var chosen = prescribed
                ? items.MaxBy(item => SlotFit.Of(item.Work.BoothMinutes, HoursPerPeriod).Gains(item.Gains)[0])!
                : items.Single(item => item.Kind != ItemKind.Drill);
            var worked = chosen.DrillId is null
                ? Prescription.Worked(test)[0]
                : Prescription.Worked(test)[1 + test.Drills.ToList().FindIndex(drill => drill.Id == chosen.DrillId)];
            var times = SlotFit.Of(chosen.Work.BoothMinutes, HoursPerPeriod).Times;
            for (var time = 0; time < times; time++)
            {
                var mood = 0.5 * normal.Sample();
                var clean = Enumerable
                    .Range(0, elements.Count)
                    .Where(e => worked.Contains(elements[e]))
                    .ToDictionary(e => elements[e], e => random.NextDouble() < 1 / (1 + Math.Exp(-(Odds(e) + mood))));
                state.Fold(asked, new CouponEvidence(day, chosen.DrillId is null, false, clean));
                for (var e = 0; e < elements.Count; e++)
                {
                    practised[e] += worked.Contains(elements[e]) ? 1 : 0;
                }
            }
        }

        return (before, Truth());
    }
}
