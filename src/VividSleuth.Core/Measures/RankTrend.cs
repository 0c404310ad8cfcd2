namespace VividSleuth.Core.Measures;

/// <summary>Outcome of a trend test: Kendall's S and the probability of one at least as far from zero when order means nothing.</summary>
/// <param name="S">Pairs that rise less pairs that fall.</param>
/// <param name="P">Two-sided.</param>
public sealed record TrendTest(int S, double P);

/// <summary>Kendall's rank test for a trend, with the exact distribution of S also where values are tied.</summary>
public static class RankTrend
{
    /// <summary>
    /// Whether values grow or fall along their order. Source: M. G. Kendall, Rank Correlation Methods (S and its distribution); the
    /// number of falling pairs over all orders of a multiset has the Gaussian multinomial coefficients as its distribution
    /// (R. P. Stanley, Enumerative Combinatorics 1, inversions of multiset permutations), so ties need no approximation.
    /// </summary>
    /// <param name="values">In order of place; any unit, also levels.</param>
    /// <returns>Null with fewer than three values or when all are equal.</returns>
    public static TrendTest? Of(IReadOnlyList<double> values)
    {
        if (values.Count < 3 || values.All(v => v.Equals(values[0])))
        {
            return null;
        }

        var rises = 0;
        var falls = 0;
        for (var i = 0; i < values.Count; i++)
        {
            for (var j = i + 1; j < values.Count; j++)
            {
                rises += values[j] > values[i] ? 1 : 0;
                falls += values[j] < values[i] ? 1 : 0;
            }
        }

        var orders = Inversions([.. values.GroupBy(v => v).Select(g => g.Count())]);
        var fewest = Math.Min(rises, falls);
        var tail = orders.Take(fewest + 1).Sum() / orders.Sum();
        return new TrendTest(rises - falls, Math.Min(1, 2 * tail));
    }

    /// <summary>How many orders of a multiset have 0, 1, 2 … inversions.</summary>
    /// <param name="counts">How often each of the values occurs.</param>
    public static IReadOnlyList<double> Inversions(IReadOnlyList<int> counts)
    {
        double[] product = [1];
        var n = 0;
        foreach (var count in counts)
        {
            n += count;
            product = Times(product, GaussianBinomial(n, count));
        }

        return product;
    }

    /// <summary>Coefficients of the Gaussian binomial, by [n, k] = [n−1, k−1] + q^k [n−1, k].</summary>
    private static double[] GaussianBinomial(int n, int k)
    {
        var row = new double[n + 1][];
        row[0] = [1];
        for (var m = 1; m <= n; m++)
        {
            var next = new double[n + 1][];
            for (var j = 0; j <= Math.Min(m, k); j++)
            {
                var polynomial = new double[(j * (m - j)) + 1];
                if (j > 0)
                {
                    Add(polynomial, row[j - 1], 0);
                }

                if (j < m)
                {
                    Add(polynomial, row[j], j);
                }

                next[j] = polynomial;
            }

            row = next;
        }

        return row[k];
    }

    private static void Add(double[] to, double[] from, int shift)
    {
        for (var i = 0; i < from.Length; i++)
        {
            to[i + shift] += from[i];
        }
    }

    private static double[] Times(double[] a, double[] b)
    {
        var product = new double[a.Length + b.Length - 1];
        for (var i = 0; i < a.Length; i++)
        {
            for (var j = 0; j < b.Length; j++)
            {
                product[i + j] += a[i] * b[j];
            }
        }

        return product;
    }
}
