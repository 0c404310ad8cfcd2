namespace VividSleuth.Core.Trace;

/// <summary>What each sign weighs, by leaving it out of the scenarios found (I. J. Good's decibans).</summary>
internal sealed class EvidenceWeights(TraceModel model)
{
    // Weights below this say nothing that a person should read.
    private const double LeastDecibans = 0.3;

    /// <summary>Signs that speak for or against a hypothesis, the weightiest first.</summary>
    public EvidenceWeight[] Of(int h, SolvedComponent component, double[][] products)
    {
        var holds = Holds(h, component);
        return
        [
            .. model
                .Net.Links[h]
                .Select(l => Weigh(l, component, holds, products))
                .Where(w => Math.Abs(w.Decibans) >= LeastDecibans)
                .OrderByDescending(w => Math.Abs(w.Decibans))
                .ThenBy(w => w.Place, StringComparer.Ordinal)
                .ThenBy(w => w.Sign, StringComparer.Ordinal),
        ];
    }

    /// <summary>For each scenario of a component and each recorded sign, the product of (1 − w) over the hypotheses that hold.</summary>
    public double[][] Products(SolvedComponent component) =>
        [
            .. component.Scenarios.Select(scenario =>
            {
                var q = new double[model.Signs.Count];
                Array.Fill(q, 1);
                foreach (var link in scenario.Hypotheses.SelectMany(h => model.Net.Links[h]))
                {
                    q[link.Sign] *= 1 - link.Weight;
                }

                return q;
            }),
        ];

    /// <summary>
    /// Signs of the leading component without which another hypothesis would lead: the scenarios found are re-weighted with the sign left out.
    /// </summary>
    public IReadOnlyList<HangsOn> Hanging(int leading, SolvedComponent component, double[][] products)
    {
        var hanging = new List<HangsOn>();
        var touched = component.Hypotheses.SelectMany(h => model.Net.Links[h]).Select(l => l.Sign).Distinct().Order();
        var mass = new double[model.Hypotheses.Count];
        var members = component.Scenarios.Select(s => s.Hypotheses.ToArray()).ToArray();
        foreach (var sign in touched)
        {
            var net = model.Net.Signs[sign];
            Array.Clear(mass);
            var total = 0.0;
            for (var i = 0; i < products.Length; i++)
            {
                var without = component.Scenarios[i].Weight / Math.Max(net.Likelihood(products[i][sign]), 1e-12);
                total += without;
                foreach (var h in members[i])
                {
                    mass[h] += without;
                }
            }

            var then = component.Hypotheses.MaxBy(h => mass[h]);
            if (then != leading && mass[then] > mass[leading] * 1.05)
            {
                var (id, place) = model.Signs[sign];
                hanging.Add(
                    new HangsOn(
                        id,
                        model.Knowledge.Sign(id)!.Name,
                        place,
                        model.Evidence[(id, place)].Seen,
                        model.Hypotheses[then].Cause.Name,
                        model.Hypotheses[then].Seat,
                        mass[then] / total
                    )
                );
            }
        }

        return [.. hanging.OrderByDescending(x => x.Probability).ThenBy(x => x.Place, StringComparer.Ordinal).Take(4)];
    }

    /// <summary>In which of the scenarios found a hypothesis holds.</summary>
    public static bool[] Holds(int h, SolvedComponent component) => [.. component.Scenarios.Select(s => s.Hypotheses.Contains(h))];

    private EvidenceWeight Weigh(NetLink link, SolvedComponent component, bool[] holds, double[][] products)
    {
        var sign = model.Net.Signs[link.Sign];
        double with = 0,
            without = 0,
            restWith = 0,
            restWithout = 0;
        for (var i = 0; i < products.Length; i++)
        {
            var weight = component.Scenarios[i].Weight;
            // The likelihood of a sign that holds for certain is zero only where its leak is; the floor keeps the ratio finite.
            var likelihood = Math.Max(sign.Likelihood(products[i][link.Sign]), 1e-12);
            var rest = sign.IfPresent == 0 && sign.IfAbsent > 0 ? likelihood / (sign.IfAbsent * (1 - sign.Leak)) : likelihood;
            if (holds[i])
            {
                with += weight;
                without += weight / rest;
            }
            else
            {
                restWith += weight;
                restWithout += weight / rest;
            }
        }

        var decibans = with > 0 && restWith > 0 ? 10 * Math.Log10(with / restWith / (without / restWithout)) : 0;
        var (id, place) = model.Signs[link.Sign];
        var evidence = model.Evidence[(id, place)];
        return new EvidenceWeight(id, model.Knowledge.Sign(id)!.Name, place, evidence.Seen, decibans, evidence.Words);
    }
}
