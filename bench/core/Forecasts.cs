using Gradus.Core.Readiness;

namespace Gradus.Benchmarks;

/// <summary>Holds what is said of the coupons to come against what came: by how much the chance was said to rise, and by how much it did.</summary>
internal static class Forecasts
{
    // The seeds of the careers and of the cohorts that are printed beside this.
    private const int CareersSeed = 900;
    private const int CohortsSeed = 700;
    private static readonly int[] Ahead = [5, 10];
    private static readonly (string Name, int[] After)[] Stretches = [("2 and 4", [2, 4]), ("8 and 12", [8, 12]), ("16 and 20", [16, 20])];

    private sealed record Rise(int After, int Ahead, double Said, double True, double Miss);

    /// <param name="files">Careers and cohorts to be looked at beside those that are made.</param>
    public static void Run(IReadOnlyList<string> files)
    {
        Console.WriteLine("\n| | coupons on the test | ahead | said to rise by | rose by | said / true | RMSE of the chance then |");
        Console.WriteLine("|---|---|---|---|---|---|---|");
        foreach (var file in files)
        {
            Print(Path.GetFileNameWithoutExtension(file), Careers.IsCareers(file) ? Careers.Read(file).Select(Of) : Cohorts.Read(file).Select(Of));
        }

        foreach (var (index, make) in CareerMaker.Makes.Index())
        {
            Print($"careers, {make.Name}", CareerMaker.Make(make.Student, CareersSeed + index).Select(Of));
        }

        foreach (var (index, kind) in CohortMaker.Kinds.Index())
        {
            Print(kind.Name, CohortMaker.Make(kind, CohortsSeed + index).Select(Of));
        }
    }

    private static (List<TestHistory> Histories, IReadOnlyList<double> Truth) Of(Career career) =>
        (Careers.Histories(career), [.. career.Coupons.Select(coupon => coupon.Truth)]);

    private static (List<TestHistory> Histories, IReadOnlyList<double> Truth) Of(CohortStudent student) => ([student.History], student.Truth);

    private static void Print(string name, IEnumerable<(List<TestHistory> Histories, IReadOnlyList<double> Truth)> students)
    {
        var rises = students.AsParallel().AsOrdered().SelectMany(one => Rises(one.Histories, one.Truth)).ToList();
        foreach (var (stretch, after) in Stretches)
        {
            foreach (var ahead in Ahead)
            {
                var of = rises.Where(one => after.Contains(one.After) && one.Ahead == ahead).ToList();
                if (of.Count >= 20)
                {
                    Console.WriteLine(
                        $"| {name} | {stretch} | {ahead} | {of.Average(one => one.Said):+0.000;-0.000} | {of.Average(one => one.True):+0.000;-0.000} | {of.Sum(one => one.Said) / of.Sum(one => one.True):0.00} | {Math.Sqrt(of.Average(one => one.Miss * one.Miss)):0.000} |"
                    );
                }
            }
        }
    }

    // Truths are in the order of the coupons as they were made, test after test.
    private static List<Rise> Rises(List<TestHistory> histories, IReadOnlyList<double> truths)
    {
        var state = ReadinessState.New(ReadinessConstants.Defaults);
        var rises = new List<Rise>();
        var begins = 0;
        foreach (var (test, coupons) in histories)
        {
            var full = coupons.Index().Where(one => one.Item.Full).Select(one => one.Index).ToList();
            foreach (var (index, coupon) in coupons.Index())
            {
                state.Fold(test, coupon);
                var made = full.IndexOf(index) + 1;
                if (made == 0 || !Stretches.Any(stretch => stretch.After.Contains(made)) || !Ahead.Any(ahead => made + ahead <= full.Count))
                {
                    continue;
                }

                var standing = state.On(test, coupon.Day, new Bar(0.8, 0.6));
                var means = standing.Forecast.Means.Select(mean => mean / standing.Inside.Mean.Value).ToList();
                foreach (var ahead in Ahead.Where(ahead => made + ahead <= full.Count))
                {
                    var (now, then) = (truths[begins + index], truths[begins + full[made + ahead - 1]]);
                    rises.Add(new Rise(made, ahead, means[ahead] - means[0], then - now, means[ahead] - then));
                }
            }

            begins += coupons.Count;
        }

        return rises;
    }
}
