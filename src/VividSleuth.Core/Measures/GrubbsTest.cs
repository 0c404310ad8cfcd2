using MathNet.Numerics.Distributions;
using MathNet.Numerics.Statistics;

namespace VividSleuth.Core.Measures;

/// <summary>Outcome of an outlier test: the statistic, what it must exceed, and which value stood out most.</summary>
public sealed record OutlierTest(double G, double Critical, int Index)
{
    public bool IsOutlier => G > Critical;
}

/// <summary>Test for a value that stands out of its like.</summary>
public static class GrubbsTest
{
    /// <summary>
    /// Grubbs' test for one outlier. G = max |x − mean| / s, against (n − 1)/√n · √(t² / (n − 2 + t²)) with t the upper critical
    /// value of Student's t with n − 2 degrees of freedom at α/n (one-sided) or α/2n (two-sided).
    /// Source: NIST/SEMATECH e-Handbook of Statistical Methods, 1.3.5.17.1.
    /// </summary>
    /// <param name="values">At least three values; alike in unit.</param>
    /// <param name="alpha">Level of the test.</param>
    /// <param name="oneSided">True when only the greatest value is in question.</param>
    /// <returns>Null where the test says nothing: fewer than three values, or all alike.</returns>
    public static OutlierTest? Of(IReadOnlyList<double> values, double alpha = 0.05, bool oneSided = false)
    {
        var n = values.Count;
        var (mean, s) = values.MeanStandardDeviation();
        if (n < 3 || s <= 0)
        {
            return null;
        }

        var distances = values.Select(v => (oneSided ? v - mean : Math.Abs(v - mean)) / s).ToArray();
        var index = Array.IndexOf(distances, distances.Max());
        var t = StudentT.InvCDF(0, 1, n - 2, 1 - (alpha / (oneSided ? n : 2.0 * n)));
        var critical = (n - 1) / Math.Sqrt(n) * Math.Sqrt(t * t / (n - 2 + (t * t)));
        return new OutlierTest(distances[index], critical, index);
    }
}
