using System.Collections.Concurrent;
using System.Numerics.Tensors;
using MathNet.Numerics.Distributions;
using MathNet.Numerics.LinearAlgebra;

namespace Gradus.Core.Readiness;

/// <summary>
/// A student as he or she may be on one day: a fixed number of draws of the element log-odds, spread evenly over what is known. The same
/// knowledge gives the same draws, to the bit.
/// </summary>
internal sealed class Outlook
{
    private const int Draws = 512;
    private const double LeastWeight = 1e-4;
    private const double Jitter = 1e-9;
    private static readonly ConcurrentDictionary<int, double[][]> Normals = new();

    private readonly List<Draw> draws = [];
    private readonly int elements;

    private sealed record Draw(double[] Odds, double Gain, double DaySpread, Hypothesis Of);

    public Outlook(GrowthFilter filter)
    {
        elements = filter.Elements;
        var gain = elements;
        var normals = Normals.GetOrAdd(elements + 1, StandardNormals);
        var next = 0;
        foreach (var (one, count) in Shares(filter))
        {
            var size = Hypothesis.SizeFor(elements);
            var covariance = Matrix<double>.Build.Dense(
                elements + 1,
                elements + 1,
                (row, column) => one.Covariance[(row * size) + column] + (row == column ? Jitter : 0)
            );
            var root = covariance.Cholesky().Factor;
            for (var index = 0; index < count; index++, next++)
            {
                var state = root * Vector<double>.Build.Dense(normals[next]);
                var ownGain = one.Mean[gain] + state[gain];
                var odds = new double[elements];
                for (var e = 0; e < elements; e++)
                {
                    odds[e] = one.Mean[e] + state[e] + (ownGain * (1 - Math.Exp(-one.Practice[e] / one.Pace)));
                }

                draws.Add(new Draw(odds, ownGain, one.DaySpread, one));
            }
        }
    }

    /// <summary>For each draw the chance that a full coupon is clean, after so much more practice on each element.</summary>
    public double[] Chances(IReadOnlyList<double>? more = null)
    {
        var odds = new double[elements];
        return [.. draws.Select(draw => AllClean(More(draw, more, odds), draw.DaySpread))];
    }

    /// <summary>The chance that each element is clean.</summary>
    public double[] ElementChances()
    {
        var chances = new double[elements];
        var day = new double[elements];
        foreach (var draw in draws)
        {
            for (var node = 0; node < LogisticMoments.StandardNodes.Count; node++)
            {
                TensorPrimitives.Add(draw.Odds, LogisticMoments.StandardNodes[node] * draw.DaySpread, day);
                TensorPrimitives.Sigmoid(day, day);
                TensorPrimitives.MultiplyAdd(day, LogisticMoments.StandardShares[node] / draws.Count, chances, chances);
            }
        }

        return [.. chances.Select(chance => Math.Clamp(chance, 0, 1))];
    }

    private double[] More(Draw draw, IReadOnlyList<double>? more, double[] into)
    {
        if (more is null)
        {
            return draw.Odds;
        }

        for (var e = 0; e < elements; e++)
        {
            var left = Math.Exp(-draw.Of.Practice[e] / draw.Of.Pace);
            into[e] = draw.Odds[e] + (draw.Gain * left * (1 - Math.Exp(-more[e] / draw.Of.Pace)));
        }

        return into;
    }

    private double AllClean(double[] odds, double daySpread)
    {
        Span<double> day = stackalloc double[elements];
        var sum = 0.0;
        for (var node = 0; node < LogisticMoments.StandardNodes.Count; node++)
        {
            TensorPrimitives.Add(odds, LogisticMoments.StandardNodes[node] * daySpread, day);
            TensorPrimitives.Sigmoid(day, day);
            sum += LogisticMoments.StandardShares[node] * TensorPrimitives.Product<double>(day);
        }

        return Math.Clamp(sum, 0, 1);
    }

    /// <summary>How many draws each hypothesis gets: by its weight, the rest to the largest remainders, in order.</summary>
    private static List<(Hypothesis One, int Count)> Shares(GrowthFilter filter)
    {
        var weights = filter.Weights();
        var kept = weights.Select(weight => weight < LeastWeight ? 0 : weight).ToArray();
        var sum = kept.Sum();
        var exact = kept.Select(weight => weight / sum * Draws).ToArray();
        var counts = exact.Select(share => (int)Math.Floor(share)).ToArray();
        var left = Draws - counts.Sum();
        foreach (var index in Enumerable.Range(0, exact.Length).OrderByDescending(index => exact[index] - counts[index]).Take(left))
        {
            counts[index]++;
        }

        return [.. filter.Hypotheses.Select((one, index) => (one, counts[index])).Where(one => one.Item2 > 0)];
    }

    // The points are taken out of their own order, so that the draws of each hypothesis fill the space by themselves.
    private static double[][] StandardNormals(int dimensions) =>
        [.. Enumerable.Range(0, Draws).Select(index => EvenPoints.At(index, dimensions).Select(share => Normal.InvCDF(0, 1, share)).ToArray())];
}
