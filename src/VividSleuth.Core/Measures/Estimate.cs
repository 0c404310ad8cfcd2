using System.Collections.Concurrent;
using MathNet.Numerics.Distributions;
using VividSleuth.Core.Trace;

namespace VividSleuth.Core.Measures;

/// <summary>One influence on a figure.</summary>
/// <param name="Key">What it comes from. Influences of one key are one and the same error: in a difference they cancel, in a sum they add.</param>
/// <param name="Name">What it is.</param>
/// <param name="Standard">Standard uncertainty with its sign: the sensitivity is already in it. Unit of the figure.</param>
/// <param name="Freedom">Degrees of freedom; infinity where the half-width is taken as known.</param>
public sealed record Influence(string Key, Fact Name, double Standard, double Freedom = double.PositiveInfinity);

/// <summary>
/// A figure with its uncertainty, kept influence by influence, so that what two figures share cancels in their difference. Source: JCGM 100:2008
/// (GUM) 5.1.2 for independent influences; those of one key are fully correlated (GUM 5.2.2, note 1).
/// </summary>
public sealed class Estimate
{
    /// <summary>Level of confidence of what is told: that of k = 2 under a normal distribution.</summary>
    public const double Confidence = 0.9545;

    private static readonly ConcurrentDictionary<int, double> Factors = new();

    private Estimate(double value, IReadOnlyList<Influence> influences)
    {
        Value = value;
        Influences = influences;
        double squares = 0,
            spent = 0;
        foreach (var i in influences)
        {
            var square = i.Standard * i.Standard;
            squares += square;
            spent += double.IsPositiveInfinity(i.Freedom) ? 0 : square * square / i.Freedom;
        }

        Standard = Math.Sqrt(squares);
        Freedom = spent > 0 ? squares * squares / spent : double.PositiveInfinity;
    }

    public double Value { get; }

    public IReadOnlyList<Influence> Influences { get; }

    /// <summary>Combined standard uncertainty. Source: GUM 5.1.2.</summary>
    public double Standard { get; }

    /// <summary>Effective degrees of freedom by Welch and Satterthwaite. Source: GUM G.4.1.</summary>
    public double Freedom { get; }

    /// <summary>Coverage factor: Student's t at the effective degrees of freedom, cut down to a whole number (GUM G.4.1); 2 where they are many.</summary>
    public double Factor =>
        double.IsPositiveInfinity(Freedom) || Freedom > 1000
            ? 2
            : Factors.GetOrAdd(Math.Max(1, (int)Freedom), v => StudentT.InvCDF(0, 1, v, 1 - ((1 - Confidence) / 2)));

    /// <summary>Expanded uncertainty, about 95 %. Source: GUM 6.2.</summary>
    public double Expanded => Factor * Standard;

    /// <summary>
    /// Expanded uncertainty at another level of confidence: Student's t at the effective degrees of freedom, cut down to a whole number, times
    /// the combined standard uncertainty; the normal factor where they are without end. Source: GUM G.4.1 and G.6.4.
    /// </summary>
    public double ExpandedAt(double confidence)
    {
        var tail = 1 - ((1 - confidence) / 2);
        var factor = double.IsPositiveInfinity(Freedom) ? Normal.InvCDF(0, 1, tail) : StudentT.InvCDF(0, 1, Math.Floor(Freedom), tail);
        return factor * Standard;
    }

    public Measured AsMeasured() => new(Value, Factor * Standard / 2);

    public static Estimate Of(double value, params IReadOnlyList<Influence> influences) => new(value, Merge(influences));

    /// <summary>
    /// The same figure as one of another time: none of its influences is that of another figure any more, though it goes by the same name. A gauge may have been
    /// adjusted between, and what scattered then does not scatter again alike.
    /// </summary>
    public Estimate OfAnotherTime(string time) => new(Value, [.. Influences.Select(i => i with { Key = $"{time}/{i.Key}" })]);

    /// <summary>A figure taken as it is.</summary>
    public static Estimate Exact(double value) => new(value, []);

    /// <summary>Sum of figures, each times a factor.</summary>
    public static Estimate Sum(params IReadOnlyList<(double Factor, Estimate Of)> terms) =>
        new(
            terms.Sum(t => t.Factor * t.Of.Value),
            Merge([.. terms.SelectMany(t => t.Of.Influences.Select(i => i with { Standard = t.Factor * i.Standard }))])
        );

    public static Estimate Mean(IReadOnlyList<Estimate> of) => of.Count == 1 ? of[0] : Sum([.. of.Select(e => (1.0 / of.Count, e))]);

    /// <summary>
    /// Two estimates of one and the same figure as one: the weighted mean of least variance, with what they share told once. Weight of the first is
    /// (u₂² − u₁₂) / (u₁² + u₂² − 2 u₁₂), held between none and all. Source: best linear unbiased estimate, any text on adjustment (Gauss and Markov).
    /// </summary>
    public static Estimate Together(Estimate a, Estimate b)
    {
        var of = b.Influences.ToDictionary(i => i.Key, i => i.Standard, StringComparer.Ordinal);
        var shared = a.Influences.Sum(i => i.Standard * of.GetValueOrDefault(i.Key));
        var (ua, ub) = (a.Standard * a.Standard, b.Standard * b.Standard);
        var between = ua + ub - (2 * shared);
        var weight = between > 0 ? Math.Clamp((ub - shared) / between, 0, 1) : 0.5;
        return Sum((weight, a), (1 - weight, b));
    }

    public static Estimate operator -(Estimate a, Estimate b) => Sum((1, a), (-1, b));

    public static Estimate operator +(Estimate a, Estimate b) => Sum((1, a), (1, b));

    /// <summary>
    /// A figure worked out of others by a formula that is smooth over their uncertainty: sensitivities are central differences over one
    /// standard uncertainty. Source: GUM 5.1.3, note 2.
    /// </summary>
    public static Estimate Through(Func<IReadOnlyList<double>, double> formula, params IReadOnlyList<Estimate> of)
    {
        var values = of.Select(e => e.Value).ToArray();
        var influences = new List<Influence>();
        for (var i = 0; i < of.Count; i++)
        {
            var step = of[i].Standard;
            if (step <= 0)
            {
                continue;
            }

            var at = values[i];
            values[i] = at + step;
            var above = formula(values);
            values[i] = at - step;
            var below = formula(values);
            values[i] = at;
            influences.AddRange(of[i].Influences.Select(f => f with { Standard = (above - below) / (2 * step) * f.Standard }));
        }

        return new Estimate(formula(values), Merge(influences));
    }

    private static IReadOnlyList<Influence> Merge(IReadOnlyList<Influence> influences)
    {
        if (influences.Count < 2)
        {
            return influences;
        }

        var merged = new List<Influence>(influences.Count);
        var at = new Dictionary<string, int>(influences.Count, StringComparer.Ordinal);
        foreach (var i in influences)
        {
            if (at.TryGetValue(i.Key, out var index))
            {
                merged[index] = merged[index] with { Standard = merged[index].Standard + i.Standard };
            }
            else
            {
                at[i.Key] = merged.Count;
                merged.Add(i);
            }
        }

        return merged;
    }
}
