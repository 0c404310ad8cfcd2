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
/// <param name="Fold">
/// Factor by which the record weighs on the hypothesis whatever else holds; with grades of severity the probability that it leaves no worse than
/// was seen, see <see cref="CausalNet.Graded"/>.
/// </param>
public readonly record struct NetLink(int Sign, double Weight, double Fold = 1);

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
    /// Hypotheses that are told as one, such as the extents of one cause: of each group the probability that at least one holds is wanted. A
    /// hypothesis may be in several. Empty where each is told by itself.
    /// </summary>
    public IReadOnlyList<IReadOnlyList<int>> Groups { get; init; } = [];

    /// <summary>For each hypothesis the set of which at most one holds, such as too much oil and too little; −1 for none. Empty where there is no such set.</summary>
    public IReadOnlyList<int> Apart { get; init; } = [];

    /// <summary>The net as if one sign had not been looked for.</summary>
    public CausalNet Without(int sign) =>
        this with
        {
            Signs = [.. Signs.Select((s, i) => i == sign ? s with { IfPresent = 1, IfAbsent = 1 } : s)],
            Links = [.. Links.Select(l => l.Any(x => x.Sign == sign) ? (IReadOnlyList<NetLink>)[.. l.Where(x => x.Sign != sign)] : l)],
        };

    /// <summary>
    /// A sign seen in a grade as a binary one. With grades the leaky noisy-OR becomes a noisy-MAX, whose distribution is a product,
    /// P(grade ≤ x) = ∏ P_h(grade ≤ x), so that P(grade = x) = ∏ a_h − ∏ b_h with a_h = P_h(≤ x) and b_h = P_h(&lt; x): the first product folds into the
    /// hypotheses' odds, and what is left is the noisy-OR with the weight 1 − b_h/a_h. Source: F. J. Díez, "Parameter adjustment in Bayes networks:
    /// the generalized noisy OR-gate", Uncertainty in Artificial Intelligence 1993.
    /// </summary>
    /// <param name="weight">Probability that the hypothesis brings the sign about at all.</param>
    /// <param name="shares">Shares of the grades among what it brings about, from the slightest; their sum is 1.</param>
    /// <param name="grade">The grade seen, from 1.</param>
    /// <returns>The weight of the binary link, and the factor a_h.</returns>
    public static (double Weight, double Fold) Graded(double weight, IReadOnlyList<double> shares, int grade)
    {
        var worse = weight * shares.Skip(grade).Sum();
        var fold = 1 - worse;
        return fold <= 0 ? (0, 0) : (weight * shares[grade - 1] / fold, fold);
    }

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
)
{
    /// <summary>Of the net's groups that have members here, the weight of all scenarios found that hold at least one of them.</summary>
    public IReadOnlyDictionary<int, double> Groups { get; init; } = new Dictionary<int, double>();

    /// <summary>True where something that was found speaks of its hypotheses, and not only their base rates.</summary>
    public bool Touched { get; init; }
}

/// <summary>Posterior probability of each hypothesis, with bounds where scenarios were left out.</summary>
public sealed record Posterior(
    IReadOnlyList<double> Probability,
    IReadOnlyList<double> Lower,
    IReadOnlyList<double> Upper,
    IReadOnlyList<SolvedComponent> Components
)
{
    /// <summary>Probability of each group of the net that at least one of it holds, with its bounds.</summary>
    public IReadOnlyList<(double Probability, double Lower, double Upper)> Groups { get; init; } = [];

    /// <summary>Natural logarithm of the probability of the record, up to a constant of the prior that all nets of the same odds share.</summary>
    public double LogEvidence { get; init; }

    /// <summary>Probability that no hypothesis of the net holds.</summary>
    public double None => NoneOf(Components);

    /// <summary>Probability that none holds of those of which something was found; of an engine with nothing found, that none holds at all.</summary>
    public double NoneFound => Components.Any(c => c.Touched) ? NoneOf(Components.Where(c => c.Touched)) : None;

    private static double NoneOf(IEnumerable<SolvedComponent> components) =>
        components.Aggregate(1.0, (p, c) => p * c.Scenarios.First(s => s.Hypotheses.Count == 0).Weight / (c.Total + (c.LeftOut / 2)));
}
