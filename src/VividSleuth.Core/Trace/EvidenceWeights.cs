namespace VividSleuth.Core.Trace;

/// <summary>What each sign weighs, by leaving it out of the scenarios found (I. J. Good's decibans).</summary>
internal sealed class EvidenceWeights(TraceState state)
{
    // Weights below this say nothing that a person should read.
    private const double LeastDecibans = 0.3;

    private const int MostHanging = 2;

    // By how much another must lead to be named.
    private const double Leads = 1.25;

    private readonly TraceModel _model = state.Model;

    /// <summary>Signs that speak for or against a cause placed, the weightiest first.</summary>
    public EvidenceWeight[] Of(int h)
    {
        var component = state.ComponentOf(h);
        var holds = state.Holds(h, component);
        return
        [
            .. _model
                .Groups[h]
                .SelectMany(w => state.Net.Links[w])
                .Select(l => l.Sign)
                .Distinct()
                .Order()
                .Select(f => (Fact: f, Weight: Weigh(f, component, holds)))
                // What it leaves and was found is told also where its rivals leave it as often, so that it tells nothing apart.
                .Where(w => Math.Abs(w.Weight.Decibans) >= LeastDecibans || Leaves(h, w.Fact))
                .Select(w => Math.Abs(w.Weight.Decibans) >= LeastDecibans ? w.Weight : w.Weight with { Decibans = 0 })
                .OrderByDescending(w => Math.Abs(w.Decibans))
                .ThenBy(w => w.Place, StringComparer.Ordinal)
                .ThenBy(w => w.Sign, StringComparer.Ordinal),
        ];
    }

    /// <summary>
    /// Signs of the leading component without which another cause would lead: the scenarios found are re-weighted with the sign left out.
    /// </summary>
    public IReadOnlyList<HangsOn> Hanging(int leading)
    {
        var hanging = new List<(int Fact, HangsOn Told)>();
        var index = state.ComponentOf(leading);
        var component = state.Posterior.Components[index];
        var likelihoods = state.Likelihoods(index);
        var told = state.ToldIn(index);
        var holders = told.Select(h => state.Holds(h, index)).ToArray();
        var mass = new double[told.Length];
        foreach (var f in component.Hypotheses.SelectMany(w => state.Net.Links[w]).Select(l => l.Sign).Distinct().Order())
        {
            Array.Clear(mass);
            var total = 0.0;
            for (var i = 0; i < likelihoods.Length; i++)
            {
                var without = component.Scenarios[i].Weight / likelihoods[i][f];
                total += without;
                for (var h = 0; h < told.Length; h++)
                {
                    mass[h] += holders[h][i] ? without : 0;
                }
            }

            var then = Array.IndexOf(mass, mass.Max());
            if (told[then] != leading && mass[then] > mass[Array.IndexOf(told, leading)] * Leads)
            {
                var fact = _model.Facts[f];
                var (id, place) = fact.Of[0];
                hanging.Add(
                    (
                        f,
                        new HangsOn(
                            id,
                            _model.Knowledge.Sign(id)!.Name,
                            place,
                            fact.Evidence.Seen,
                            _model.Hypotheses[told[then]].Cause.Name,
                            _model.Hypotheses[told[then]].Seat,
                            mass[then] / total
                        )
                    )
                );
            }
        }

        return
        [
            .. hanging
                .OrderByDescending(x => x.Told.Probability)
                .ThenBy(x => x.Told.Place, StringComparer.Ordinal)
                .Take(MostHanging)
                .Where(x => Turns(leading, x.Fact, told))
                .Select(x => x.Told),
        ];
    }

    /// <summary>Whether without a sign another cause does lead: the scenarios kept are those that the sign made weighty, so it is solved again.</summary>
    private bool Turns(int leading, int fact, int[] told)
    {
        var without = ScenarioSearch.Solve(state.Net.Without(fact));
        return told.Any(h =>
            h != leading
            && state.SpokenFor(h, without: fact)
            && without.Groups[h].Probability > TraceState.Raised * _model.Hypotheses[h].Prior
            && without.Groups[h].Probability > without.Groups[leading].Probability * Leads
        );
    }

    private bool Leaves(int h, int f) =>
        state.Net.Signs[f] is var s
        && s.IfPresent > s.IfAbsent
        && _model.Groups[h].Any(w => state.Net.Links[w].Any(l => l.Sign == f && l.Weight > s.Leak));

    private EvidenceWeight Weigh(int f, int component, bool[] holds)
    {
        var likelihoods = state.Likelihoods(component);
        double with = 0,
            without = 0,
            restWith = 0,
            restWithout = 0;
        for (var i = 0; i < likelihoods.Length; i++)
        {
            var weight = state.Posterior.Components[component].Scenarios[i].Weight;
            if (holds[i])
            {
                with += weight;
                without += weight / likelihoods[i][f];
            }
            else
            {
                restWith += weight;
                restWithout += weight / likelihoods[i][f];
            }
        }

        var decibans = with > 0 && restWith > 0 ? 10 * Math.Log10(with / restWith / (without / restWithout)) : 0;
        var fact = _model.Facts[f];
        var (id, place) = fact.Of[0];
        return new EvidenceWeight(id, _model.Knowledge.Sign(id)!.Name, place, fact.Evidence.Seen, decibans, fact.Evidence.Words);
    }
}
