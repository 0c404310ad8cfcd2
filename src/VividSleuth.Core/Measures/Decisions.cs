namespace VividSleuth.Core.Measures;

/// <summary>
/// Choosing under doubt, by costs: the smaller the better. Source: any text on decision analysis, for instance B. Render and R. M. Stair, Quantitative Analysis
/// for Management, chapter on decision analysis (expected value, minimax regret, sensitivity).
/// </summary>
public static class Decisions
{
    /// <summary>Expected cost: each state's cost times its probability.</summary>
    public static double Expected(IReadOnlyList<double> costs, IReadOnlyList<double> probabilities) =>
        costs.Zip(probabilities, (c, p) => c * p).Sum();

    /// <summary>Standard deviation of the cost over the states.</summary>
    public static double Spread(IReadOnlyList<double> costs, IReadOnlyList<double> probabilities)
    {
        var mean = Expected(costs, probabilities);
        return Math.Sqrt(costs.Zip(probabilities, (c, p) => p * (c - mean) * (c - mean)).Sum());
    }

    /// <summary>
    /// Of each alternative the greatest regret: how much more it costs in some state than the alternative that is best in that state. The least of these is
    /// the choice by regret (L. J. Savage, 1951).
    /// </summary>
    /// <param name="costs">Alternatives by states.</param>
    public static double[] GreatestRegret(IReadOnlyList<IReadOnlyList<double>> costs)
    {
        if (costs.Count == 0)
        {
            return [];
        }

        var best = Enumerable.Range(0, costs[0].Count).Select(s => costs.Min(a => a[s])).ToArray();
        return [.. costs.Select(a => a.Select((c, s) => c - best[s]).DefaultIfEmpty(0).Max())];
    }

    /// <summary>
    /// Value at which two costs that grow evenly with it are one: where a₀ + a₁ x = b₀ + b₁ x.
    /// </summary>
    /// <returns>Null where they grow alike.</returns>
    public static double? BreakEven(double a0, double a1, double b0, double b1) => Math.Abs(a1 - b1) < 1e-12 ? null : (b0 - a0) / (a1 - b1);
}
