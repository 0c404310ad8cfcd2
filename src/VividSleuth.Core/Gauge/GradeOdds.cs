using MathNet.Numerics;
using MathNet.Numerics.Distributions;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Gauge;

/// <summary>How likely a part is of a grade, given its size.</summary>
public sealed record GradeOdds(Grade Grade, double P)
{
    /// <summary>Wear of a used journal on its diameter, on average, mm; and of a shell's lining. Ours, no source: it only says that much wear is rarer.</summary>
    private const double JournalWear = 0.015;

    private const double ShellWear = 0.006;

    /// <summary>Half-width of what grinding and making leave, mm. Common practice, no source.</summary>
    public const double Making = 0.010;

    /// <inheritdoc cref="Making"/>
    public const double ShellMaking = 0.004;

    /// <summary>
    /// Probabilities of the usual grades of a journal: its size when ground, less a wear of unknown size (exponential), read with a normal
    /// error: an exponentially modified normal density, weighed by how often each grade is met. Bayes' rule.
    /// </summary>
    /// <param name="standard">Standard diameter, mm.</param>
    /// <param name="found">As measured.</param>
    /// <returns>The likeliest first; grades below one in ten thousand are left out.</returns>
    public static IReadOnlyList<GradeOdds> OfJournal(decimal standard, Measured found, SizeSteps steps) =>
        Weigh(steps, g => Worn((double)(standard - g.Under) - found.Value, Spread(found, Making), JournalWear));

    /// <summary>Probabilities of the grades for which a shell was made, by its wall: half the undersize is added to it.</summary>
    public static IReadOnlyList<GradeOdds> OfShell(decimal standardWall, Measured found, SizeSteps steps) =>
        Weigh(steps, g => Worn((double)(standardWall + (g.Under / 2)) - found.Value, Spread(found, ShellMaking), ShellWear));

    /// <summary>Probability that two parts are of one grade; grades that no micrometer tells apart count as one.</summary>
    public static double Agree(IReadOnlyList<GradeOdds> a, IReadOnlyList<GradeOdds> b) =>
        Math.Clamp(a.Sum(x => b.Where(y => y.Grade.IsLike(x.Grade)).Sum(y => x.P * y.P)), 0, 1);

    /// <summary>How often the shells of a bearing are of its journal's grade. Ours, no source: mixed sets are met, and seldom.</summary>
    private const double Matched = 0.9;

    /// <summary>How often a stamp says what the part is. Ours, no source.</summary>
    private const double StampRight = 0.9;

    /// <summary>How likely a shell is as it was measured and stamped, were it of a grade; 1 of one that is neither.</summary>
    /// <param name="wall">As measured; null where nobody did.</param>
    /// <param name="stamp">Grades that its stamp may mean; empty without one.</param>
    internal static Func<Grade, double> Half(decimal standardWall, Measured? wall, IReadOnlyList<Grade> stamp) =>
        g =>
            (wall is null ? 1 : Worn((double)(standardWall + (g.Under / 2)) - wall.Value, Spread(wall, ShellMaking), ShellWear))
            * (
                stamp.Count == 0 ? 1
                : stamp.Any(s => s.IsLike(g)) ? StampRight
                : 1 - StampRight
            );

    /// <summary>
    /// Grades of a journal with its shells at hand: a stamp or a wall that agrees with the journal raises the odds of both, so that a journal .002 under
    /// with shells marked .002 is simply right. Bayes' rule over journal and halves, of which most are of the journal's grade and the others of any.
    /// </summary>
    /// <param name="journal">By its own size.</param>
    /// <returns>The likeliest first, and the probability that all halves are of the journal's grade.</returns>
    internal static (IReadOnlyList<GradeOdds> Journal, double Agree) Together(
        IReadOnlyList<GradeOdds> journal,
        IReadOnlyList<Func<Grade, double>> halves,
        SizeSteps steps
    )
    {
        var sum = steps.All.Sum(Prior);
        double Other(Func<Grade, double> half) => steps.All.Sum(g => Prior(g) / sum * half(g));
        var weighed = journal
            .Select(o =>
                (
                    o.Grade,
                    All: halves.Aggregate(o.P, (p, h) => p * ((Matched * h(o.Grade)) + ((1 - Matched) * Other(h)))),
                    Agree: halves.Aggregate(o.P, (p, h) => p * Matched * h(o.Grade))
                )
            )
            .ToArray();
        var all = weighed.Sum(w => w.All);
        return all > 0
            ? (
                [.. weighed.Select(w => new GradeOdds(w.Grade, w.All / all)).OrderByDescending(w => w.P).ThenBy(w => w.Grade.Under)],
                weighed.Sum(w => w.Agree) / all
            )
            : (journal, 0);
    }

    private static double Spread(Measured found, double making) => Uncertainty.Combine([found.StandardUncertainty, Uncertainty.Rectangular(making)]);

    /// <summary>Density of d = wear + error, wear exponential of the given mean, error normal. The exponentially modified normal.</summary>
    private static double Worn(double d, double u, double mean)
    {
        var rate = 1 / mean;
        var z = ((rate * u * u) - d) / (u * Math.Sqrt(2));
        // erfc underflows far out; there the density is that of the normal's tail, which is nothing.
        var tail = SpecialFunctions.Erfc(z);
        return tail <= 0 ? 0 : rate / 2 * Math.Exp((rate / 2 * ((rate * u * u) - (2 * d))) + Math.Log(tail));
    }

    private static IReadOnlyList<GradeOdds> Weigh(SizeSteps steps, Func<Grade, double> likelihood)
    {
        var weighed = steps.All.Select(g => (Grade: g, W: Prior(g) * likelihood(g))).Where(g => double.IsFinite(g.W)).ToArray();
        var sum = weighed.Sum(g => g.W);
        return sum > 0
            ?
            [
                .. weighed
                    .Select(g => new GradeOdds(g.Grade, g.W / sum))
                    .Where(g => g.P >= 1e-4)
                    .OrderByDescending(g => g.P)
                    .ThenBy(g => g.Grade.Under),
            ]
            : [];
    }

    /// <summary>How often a grade is met. Ours, no source: standard in half of all engines, the odd small steps seldom.</summary>
    private static double Prior(Grade grade) =>
        grade.Under == 0 ? 0.5
        : grade.Odd ? 0.03
        : 0.06;
}
