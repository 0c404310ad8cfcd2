using MathNet.Numerics.Distributions;

namespace VividSleuth.Core.Measures;

/// <summary>A length known with uncertainty. Units mm.</summary>
/// <param name="Value">Best estimate.</param>
/// <param name="StandardUncertainty">One standard uncertainty, same unit.</param>
public sealed record Measured(double Value, double StandardUncertainty)
{
    /// <summary>Expanded uncertainty with k = 2, about 95 % (GUM 6.2).</summary>
    public double Expanded => 2 * StandardUncertainty;

    /// <summary>Probability that the true value is above a limit, taking the uncertainty as normal.</summary>
    public double ProbabilityAbove(double limit) =>
        StandardUncertainty > 0 ? Normal.CDF(limit, StandardUncertainty, Value)
        : Value > limit ? 1
        : 0;
}

/// <summary>Standard uncertainties after the Guide to the Expression of Uncertainty in Measurement (JCGM 100:2008, the GUM).</summary>
public static class Uncertainty
{
    /// <summary>Standard uncertainty of a rectangular distribution of half-width a: u = a/√3. Source: GUM 4.3.7.</summary>
    public static double Rectangular(double halfWidth) => halfWidth / Math.Sqrt(3);

    /// <summary>
    /// One reading of an instrument: its step and its permissible error, combined by root sum of squares (GUM 5.1.2).
    /// </summary>
    /// <param name="resolution">Smallest step of the scale.</param>
    /// <param name="permissibleError">Greatest error, either way.</param>
    public static double OfReading(double resolution, double permissibleError) =>
        Combine([Rectangular(resolution / 2), Rectangular(permissibleError)]);

    /// <summary>
    /// What the step of a scale adds to the mean of repeated readings. The step alone is rectangular, of half a step to either side
    /// (GUM F.2.2.1), and repeats that all show one line do not lessen it; but as far as it shows in their scatter it is in there already and
    /// is not counted twice (GUM 4.3.10). So scatter and this together are the greater of the two.
    /// </summary>
    /// <param name="resolution">Smallest step of the scale.</param>
    /// <param name="ofMean">Standard uncertainty of the mean from the scatter, s/√n; 0 for one reading.</param>
    public static double OfStep(double resolution, double ofMean)
    {
        var step = Rectangular(resolution / 2);
        return Math.Sqrt(Math.Max(0, (step * step) - (ofMean * ofMean)));
    }

    /// <summary>Root sum of squares of independent contributions. Source: GUM 5.1.2.</summary>
    public static double Combine(IEnumerable<double> contributions) => Math.Sqrt(contributions.Sum(u => u * u));
}

public enum Conformity
{
    Inside,
    Outside,
    Undecided,
}

public static class DecisionRule
{
    /// <summary>
    /// ISO 14253-1: inside is proven only when the value stands clear of the limit by the expanded uncertainty, outside likewise;
    /// between the two the measurement decides nothing. Either limit may be missing.
    /// </summary>
    public static Conformity Decide(Measured measured, double? least, double? most)
    {
        var u = measured.Expanded;
        if ((least is { } l && measured.Value < l - u) || (most is { } m && measured.Value > m + u))
        {
            return Conformity.Outside;
        }

        var clearOfLeast = least is not { } low || measured.Value >= low + u;
        var clearOfMost = most is not { } high || measured.Value <= high - u;
        return clearOfLeast && clearOfMost ? Conformity.Inside : Conformity.Undecided;
    }
}
