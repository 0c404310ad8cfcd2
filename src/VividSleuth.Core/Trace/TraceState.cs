namespace VividSleuth.Core.Trace;

/// <summary>The net with or without something unknown in it, solved; causes placed are spoken of by their index, the net's hypotheses are their ways.</summary>
internal sealed class TraceState
{
    /// <summary>What stands no higher than this many times its base rate was not raised by what was found, and is not told.</summary>
    public const double Raised = 1.5;

    private readonly Dictionary<int, double[][]> _likelihoods = [];
    private readonly int[] _componentOfWay;

    public TraceState(TraceModel model, bool unknown)
    {
        Model = model;
        Unknown = unknown;
        (Net, var scale) = model.Net(unknown);
        Posterior = ScenarioSearch.Solve(Net);
        LogWeight = Posterior.LogEvidence + scale + Math.Log(unknown ? TraceModel.UnknownPrior : 1 - TraceModel.UnknownPrior);
        _componentOfWay = new int[Net.Odds.Count];
        for (var c = 0; c < Posterior.Components.Count; c++)
        {
            foreach (var w in Posterior.Components[c].Hypotheses)
            {
                _componentOfWay[w] = c;
            }
        }
    }

    public TraceModel Model { get; }

    public bool Unknown { get; }

    public CausalNet Net { get; }

    public Posterior Posterior { get; }

    /// <summary>Logarithm of prior times probability of the record; of two states the difference counts.</summary>
    public double LogWeight { get; }

    /// <summary>The component in which most of a cause's weight lies.</summary>
    public int ComponentOf(int h) => Model.Groups[h].Select(w => _componentOfWay[w]).Distinct().MaxBy(c => Share(h, c));

    /// <summary>Whether something that was found may be its doing: a sign that it leaves more often than it appears of itself.</summary>
    /// <param name="without">A fact that does not count.</param>
    public bool SpokenFor(int h, int without = -1) =>
        Model
            .Groups[h]
            .Any(w => Net.Links[w].Any(l => l.Sign != without && Net.Signs[l.Sign] is var s && s.IfPresent > s.IfAbsent && l.Weight > s.Leak / 2));

    /// <summary>Causes placed that have a part in a component and are told by themselves, in their order.</summary>
    public int[] ToldIn(int component) =>
        [.. Posterior.Components[component].Groups.Keys.Where(g => g < Model.Hypotheses.Count && !Model.IsKind(g)).Order()];

    /// <summary>In which of the scenarios found of a component a cause holds.</summary>
    public bool[] Holds(int h, int component)
    {
        var ways = Model.Groups[h].ToHashSet();
        return [.. Posterior.Components[component].Scenarios.Select(s => s.Hypotheses.Any(ways.Contains))];
    }

    /// <summary>For each scenario found of a component and each fact its likelihood, relative to a constant of the fact.</summary>
    public double[][] Likelihoods(int component)
    {
        if (!_likelihoods.TryGetValue(component, out var made))
        {
            made = [.. Posterior.Components[component].Scenarios.Select(Likelihood)];
            _likelihoods[component] = made;
        }

        return made;
    }

    private double[] Likelihood(Scenario scenario)
    {
        var q = new double[Net.Signs.Count];
        var fold = new double[Net.Signs.Count];
        Array.Fill(q, 1);
        Array.Fill(fold, 1);
        foreach (var link in scenario.Hypotheses.SelectMany(w => Net.Links[w]))
        {
            q[link.Sign] *= 1 - link.Weight;
            fold[link.Sign] *= link.Fold;
        }

        for (var f = 0; f < q.Length; f++)
        {
            // What only speaks against was folded into the odds without its leak. The floor keeps the ratio of certain signs finite.
            q[f] = (Net.Signs[f].Factors ? q[f] : Math.Max(Net.Signs[f].Likelihood(q[f]), 1e-12)) * fold[f];
        }

        return q;
    }

    private double Share(int h, int component) => Posterior.Components[component].Groups.GetValueOrDefault(h) / Posterior.Components[component].Total;
}
