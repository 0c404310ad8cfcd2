using MathNet.Numerics.Distributions;

namespace VividSleuth.Core.Measures;

/// <summary>Probability that several figures lie above nothing at once, when they share influences.</summary>
public static class AllAtOnce
{
    /// <summary>Points over what is shared; two bases of the sequence are enough for three digits.</summary>
    private const int Points = 512;

    private static readonly int[] Primes = [2, 3, 5, 7, 11, 13];

    /// <summary>
    /// P(all &gt; 0) of figures with normal influences. What two or more share is integrated over by Halton's sequence; given it the rest are independent and
    /// their probabilities multiply. Source: J. H. Halton, Numerische Mathematik 2 (1960), for the points; conditioning on common factors: any text
    /// on reliability (one-factor and several-factor normal models).
    /// </summary>
    /// <param name="margins">Each with its uncertainty, same unit. Of what is shared the six greatest influences are kept as shared.</param>
    /// <returns>1 of none.</returns>
    public static double Above(IReadOnlyList<Estimate> margins)
    {
        if (margins.Count == 0)
        {
            return 1;
        }

        var shared = margins
            .SelectMany(m => m.Influences)
            .GroupBy(i => i.Key, StringComparer.Ordinal)
            .Where(g => g.Count() > 1)
            .Select(g => (g.Key, Weight: g.Sum(i => i.Standard * i.Standard)))
            .Where(s => s.Weight > 0)
            .OrderByDescending(s => s.Weight)
            .ThenBy(s => s.Key, StringComparer.Ordinal)
            .Take(Primes.Length)
            .Select(s => s.Key)
            .ToArray();
        var of = margins
            .Select(m =>
            {
                var common = shared.Select(k => m.Influences.Where(i => i.Key == k).Sum(i => i.Standard)).ToArray();
                return (m.Value, Common: common, Own: Math.Sqrt(Math.Max(0, (m.Standard * m.Standard) - common.Sum(c => c * c))));
            })
            .ToArray();
        if (shared.Length == 0)
        {
            return of.Aggregate(1.0, (p, m) => p * Given(m.Value, m.Own));
        }

        var sum = 0.0;
        var z = new double[shared.Length];
        for (var n = 1; n <= Points; n++)
        {
            for (var d = 0; d < z.Length; d++)
            {
                z[d] = Normal.InvCDF(0, 1, Halton(n, Primes[d]));
            }

            var p = 1.0;
            foreach (var (value, common, own) in of)
            {
                var at = value;
                for (var d = 0; d < z.Length; d++)
                {
                    at += common[d] * z[d];
                }

                p *= Given(at, own);
            }

            sum += p;
        }

        return sum / Points;
    }

    private static double Given(double value, double own) =>
        own > 0 ? Normal.CDF(0, 1, value / own)
        : value > 0 ? 1
        : 0;

    /// <summary>The digits of n in the base, mirrored at the point.</summary>
    private static double Halton(int n, int prime)
    {
        double value = 0,
            share = 1;
        for (; n > 0; n /= prime)
        {
            share /= prime;
            value += n % prime * share;
        }

        return value;
    }
}
