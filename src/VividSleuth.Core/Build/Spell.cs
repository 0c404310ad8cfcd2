using MathNet.Numerics.Distributions;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Build;

/// <summary>How long something takes, in hours: at the least, likely, and at the most.</summary>
/// <remarks>
/// Mean and spread as PERT takes them, (a + 4m + b)/6 and (b − a)/6: D. G. Malcolm, J. H. Roseboom, C. E. Clark and W. Fazar, “Application of a
/// technique for research and development program evaluation”, Operations Research 7 (1959) 646.
/// </remarks>
public readonly record struct Spell
{
    /// <exception cref="ProblemException">The three are not in order, or less than nothing.</exception>
    public Spell(double least, double likely, double most)
    {
        if (!(least >= 0 && likely >= least && most >= likely && double.IsFinite(most)))
        {
            throw new ProblemException(Problem.Of("takes", "build.spell-out-of-order", ("least", least), ("likely", likely), ("most", most)));
        }

        (Least, Likely, Most) = (least, likely, most);
    }

    public double Least { get; }

    public double Likely { get; }

    public double Most { get; }

    public double Mean => (Least + (4 * Likely) + Most) / 6;

    public double Deviation => (Most - Least) / 6;

    /// <summary>One that always takes as long.</summary>
    public static Spell Always(double hours) => new(hours, hours, hours);

    /// <summary>A draw from the beta distribution between the ends whose mode is the likely one and whose mean is that of PERT.</summary>
    public double Draw(Random random)
    {
        var width = Most - Least;
        return width == 0 ? Likely : Least + (width * Beta.Sample(random, 1 + (4 * (Likely - Least) / width), 1 + (4 * (Most - Likely) / width)));
    }
}
