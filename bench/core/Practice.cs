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
        Console.WriteLine(
            "| students | chance at first | full coupons only | prescribed | better by | standard error | who knows the truth | better by | share of that | drills | on a truly weak element |"
        );
        Console.WriteLine("|---|---|---|---|---|---|---|---|---|---|---|");
        foreach (var kind in Kinds)
        {
            var runs = Enumerable
                .Range(0, Students)
                .AsParallel()
                .AsOrdered()
                .Select(index =>
                    (Full: One(kind, index, Chooser.Full), Prescribed: One(kind, index, Chooser.Prescribed), Oracle: One(kind, index, Chooser.Oracle))
                )
                .ToList();
            var gains = runs.Select(run => run.Prescribed.After - run.Full.After).ToList();
            var error = MathNet.Numerics.Statistics.Statistics.StandardDeviation(gains) / Math.Sqrt(Students);
            var best = runs.Average(run => run.Oracle.After - run.Full.After);
            var (drills, weak) = (runs.Sum(run => run.Prescribed.Drills), runs.Sum(run => run.Prescribed.OnWeak));
            Console.WriteLine(
                $"| {kind.Name} | {runs.Average(run => run.Full.Before):0.00} | {runs.Average(run => run.Full.After):0.000} | {runs.Average(run => run.Prescribed.After):0.000} | {gains.Average():+0.000;-0.000} | {error:0.000} | {runs.Average(run => run.Oracle.After):0.000} | {best:+0.000;-0.000} | {gains.Average() / best:0 %} | {drills} | {(drills == 0 ? 0 : (double)weak / drills):0 %} |"
            );
        }
    }

    private enum Chooser
    {
        Full,
        Prescribed,
        Oracle,
    }

    // What a repeat in one go, and what a rejected element, really teach: not the numbers that Gradus reckons with.
    private const double TrueRepeat = 0.75;
    private const double TrueFailed = 0.6;

    private static (double Before, double After, int Drills, int OnWeak) One(Kind kind, int index, Chooser by)
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
        double Odds(int e, double more = 0) => start[e] + (rate * Math.Log(1 + practised[e] + more));
        double Truth(Func<int, double>? more = null) =>
            Enumerable.Range(0, elements.Count).Aggregate(1.0, (all, e) => all / (1 + Math.Exp(-Odds(e, more?.Invoke(e) ?? 0))));
        var before = Truth();
        var asked = SkillTest.Of(test);
        var state = ReadinessState.New(ReadinessConstants.Defaults);
        var (day, drills, onWeak) = (0.0, 0, 0);
        var blanks = new Dictionary<string, int> { [ItemWork.BlankName(test.Id, true)] = 0, [ItemWork.BlankName(test.Id, false)] = 0 };
        for (var period = 0; period < Periods; period++, day += DaysBetween)
        {
            var facts = new PractiserFacts(true, period, null, new Dictionary<string, VariantUse>(), LoggedWork.None);
            var standing = state.On(asked, day, new Bar(0.8, 0.6));
            bool IsThere(ItemWork work) => work.Draws.All(draw => !blanks.TryGetValue(draw.Stock, out var there) || there >= draw.Amount);
            var offers = by == Chooser.Oracle ? AllOffers(test) : Prescription.Offers(test, standing, facts, Prices, HoursPerPeriod);
            IReadOnlyList<PeriodPart> parts;
            ItemWork work;
            if (by == Chooser.Oracle)
            {
                double More(PeriodOffer offer, int e) =>
                    offer.Parts.Sum(part =>
                        Worked(test, part, elements[e])
                            ? (1 - Math.Pow(TrueRepeat, part.Times)) / (1 - TrueRepeat) * Teaches(1 / (1 + Math.Exp(-Odds(e))))
                            : 0
                    );
                var chosen = offers.Where(offer => IsThere(offer.Work)).MaxBy(offer => Truth(e => More(offer, e)))!;
                (parts, work) = (chosen.Parts, chosen.Work);
            }
            else
            {
                var gains = state.Gains(asked, day, [.. offers.Select(offer => offer.Practice)], Prescription.TimesAhead);
                var items = Prescription.Of(test, standing, offers, gains, facts);
                var chosen = items
                    .Where(item => IsThere(item.Work) && (by == Chooser.Prescribed || item.Parts.All(part => part.DrillId is null or "fitUpOnly")))
                    .MaxBy(item => item.Gains[0])!;
                (parts, work) = (chosen.Parts, chosen.Work);
            }

            foreach (var draw in work.Draws.Where(draw => blanks.ContainsKey(draw.Stock)))
            {
                blanks[draw.Stock] -= (int)draw.Amount;
            }

            // Weak is what truly stands under the middle of the test.
            var middle = Enumerable.Range(0, elements.Count).Average(e => Odds(e));
            var weakest = Enumerable.Range(0, elements.Count).Where(e => Odds(e) < middle).ToHashSet();
            foreach (var part in parts)
            {
                var worked = Enumerable.Range(0, elements.Count).Where(e => Worked(test, part, elements[e])).ToList();
                if (part.DrillId is not null && worked.Count > 0)
                {
                    drills++;
                    onWeak += worked.Exists(weakest.Contains) ? 1 : 0;
                }

                for (var time = 0; time < part.Times && worked.Count > 0; time++)
                {
                    var mood = 0.5 * normal.Sample();
                    var clean = worked.ToDictionary(e => elements[e], e => random.NextDouble() < 1 / (1 + Math.Exp(-(Odds(e) + mood))));
                    state.Fold(asked, new CouponEvidence(day, part.DrillId is null, false, clean));
                    foreach (var e in worked)
                    {
                        practised[e] += Math.Pow(TrueRepeat, time) * (clean[elements[e]] ? 1 : TrueFailed);
                    }

                    // A rejected coupon is kept: its cap ground off, it is a filled blank.
                    if (part.DrillId is null && clean.ContainsValue(false))
                    {
                        blanks[ItemWork.BlankName(test.Id, true)]++;
                    }
                }
            }
        }

        return (before, Truth(), drills, onWeak);
    }

    private static double Teaches(double chance) => chance + ((1 - chance) * TrueFailed);

    private static bool Worked(TestTemplate test, PeriodPart part, string element) => PeriodPart.Practice(test, [part]).ContainsKey(element);

    /// <summary>Every filling of a period that there is: whoever knows the truth chooses among all drills, not only those that Gradus thinks of.</summary>
    private static List<PeriodOffer> AllOffers(TestTemplate test) =>
        All.GetOrAdd(
            test.Id,
            _ =>
            {
                var whole = new PeriodPart(null, "", 1, 0);
                var fit = SlotFit.Of(ItemWork.Of(test, null, LoggedWork.None, Prices).BoothMinutes, HoursPerPeriod);
                List<IReadOnlyList<PeriodPart>> filled =
                [
                    [whole with { Times = fit.Times }],
                ];
                foreach (var times in Enumerable.Range(1, 4))
                {
                    foreach (var drill in test.Drills.Where(drill => drill.Stages.Any(stage => stage != Stage.FitUp)))
                    {
                        var part = new PeriodPart(drill.Id, drill.Name, times, 0);
                        filled.Add([part]);
                        filled.AddRange(
                            Enumerable.Range(1, fit.Times).Select(coupons => (IReadOnlyList<PeriodPart>)[whole with { Times = coupons }, part])
                        );
                    }
                }

                return
                [
                    .. filled
                        .Select(parts => new PeriodOffer(
                            ItemKind.UnderRules,
                            parts,
                            1,
                            ItemWork.OfParts(test, parts, LoggedWork.None, Prices),
                            PeriodPart.Practice(test, parts)
                        ))
                        .Where((offer, at) => at == 0 || offer.Work.BoothMinutes <= HoursPerPeriod * 60),
                ];
            }
        );

    private static readonly System.Collections.Concurrent.ConcurrentDictionary<string, List<PeriodOffer>> All = new();
}
