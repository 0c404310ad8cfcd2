namespace VividSleuth.Core.Trace;

/// <summary>One sign of the net with what was learned about it.</summary>
/// <param name="Leak">Probability that it appears though no hypothesis of the net causes it.</param>
/// <param name="IfPresent">Likelihood of what was recorded if the sign is truly there (l1).</param>
/// <param name="IfAbsent">Likelihood of what was recorded if it is not (l0). Present for certain is 1, 0; absent 0, 1.</param>
public sealed record NetSign(double Leak, double IfPresent, double IfAbsent)
{
    public static NetSign Present(double leak) => new(leak, 1, 0);

    public static NetSign Absent(double leak) => new(leak, 0, 1);

    /// <summary>
    /// Likelihood of the record given the product q of (1 − w) over the hypotheses that hold: l1 + (l0 − l1)·(1 − leak)·q, which
    /// is the leaky noisy-OR with soft evidence.
    /// </summary>
    public double Likelihood(double q) => IfPresent + ((IfAbsent - IfPresent) * (1 - Leak) * q);

    /// <summary>The record can only be explained away, so that it factors over the hypotheses.</summary>
    internal bool Factors => IfPresent == 0;
}

/// <summary>A link: hypothesis causes sign with this probability.</summary>
public readonly record struct NetLink(int Sign, double Weight);

/// <summary>
/// Two layers: hypotheses that hold independently with their prior odds, and signs that follow by leaky noisy-OR
/// (Pearl 1988; Henrion 1989). Signs nobody looked for are not in it: they sum to one.
/// </summary>
/// <param name="Odds">Prior odds p/(1 − p) of each hypothesis.</param>
/// <param name="Signs">Signs with a record.</param>
/// <param name="Links">For each hypothesis, the signs it causes; each sign at most once.</param>
public sealed record CausalNet(IReadOnlyList<double> Odds, IReadOnlyList<NetSign> Signs, IReadOnlyList<IReadOnlyList<NetLink>> Links)
{
    /// <summary>
    /// Noisy-OR: probability of an effect given which causes hold, 1 − (1 − leak)·∏(1 − w).
    /// </summary>
    /// <param name="weights">Of the causes that hold, the probability with which each brings the effect about.</param>
    /// <param name="leak">Probability of the effect with no cause.</param>
    public static double NoisyOr(IEnumerable<double> weights, double leak = 0) => 1 - weights.Aggregate(1 - leak, (q, w) => q * (1 - w));
}

/// <summary>Hypotheses that hold together, and their weight; weights of one component compare, but do not sum to one.</summary>
public sealed record Scenario(IReadOnlyList<int> Hypotheses, double Weight);

/// <summary>A part of the net that shares no present sign with any other, solved on its own.</summary>
/// <param name="Hypotheses">Its hypotheses.</param>
/// <param name="Scenarios">The weightiest scenarios found, in falling order; the empty one is among them.</param>
/// <param name="Mass">For each hypothesis, the weight of all scenarios found that hold it.</param>
/// <param name="Total">Weight of all scenarios found.</param>
/// <param name="LeftOut">Bound on the weight of all that were not looked at.</param>
public sealed record SolvedComponent(
    IReadOnlyList<int> Hypotheses,
    IReadOnlyList<Scenario> Scenarios,
    IReadOnlyList<double> Mass,
    double Total,
    double LeftOut
);

/// <summary>Posterior probability of each hypothesis, with bounds where scenarios were left out.</summary>
public sealed record Posterior(
    IReadOnlyList<double> Probability,
    IReadOnlyList<double> Lower,
    IReadOnlyList<double> Upper,
    IReadOnlyList<SolvedComponent> Components
)
{
    /// <summary>Probability that no hypothesis of the net holds.</summary>
    public double None =>
        Components.Aggregate(1.0, (p, c) => p * c.Scenarios.First(s => s.Hypotheses.Count == 0).Weight / (c.Total + (c.LeftOut / 2)));
}
