using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Strip;

namespace VividSleuth.Core.Trace;

/// <summary>What to look at next.</summary>
/// <param name="next">The strip's next step as it stands; null where there is none.</param>
internal sealed class NextChecks(TraceModel model, PlannedStep? next)
{
    private const int Checks = 6;

    // A check that is lost soon goes first if it is worth a tenth of the best one.
    private const double WorthFirst = 0.1;

    // A check moves the leading cause where either outcome changes its probability by this much.
    private const double Moves = 0.03;

    /// <summary>
    /// Expected information about the leading component's scenarios per minute of looking, for every sign that some scenario
    /// predicts and nobody has recorded. What the strip's next step destroys goes first; of equals, what washing or dismantling would destroy.
    /// </summary>
    public IReadOnlyList<NextCheck> Of(Posterior posterior, int[] ranked, int[] componentOf, int componentIndex)
    {
        var component = posterior.Components[componentIndex];
        var total = component.Scenarios.Sum(s => s.Weight);
        // Per sign that nobody recorded: the scenarios that predict it, each with its product of (1 − w).
        var open = new Dictionary<(string Sign, string Place), List<(int Scenario, double Product)>>();
        var predicted = component.Hypotheses.ToDictionary(h => h, h => Unrecorded(model.Hypotheses[h]));
        for (var i = 0; i < component.Scenarios.Count; i++)
        {
            foreach (var (by, strength) in component.Scenarios[i].Hypotheses.SelectMany(h => predicted[h]))
            {
                if (by.Count > 0 && by[^1].Scenario == i)
                {
                    by[^1] = (i, by[^1].Product * (1 - strength));
                }
                else
                {
                    by.Add((i, 1 - strength));
                }
            }
        }

        (List<(int Scenario, double Product)> By, double Strength)[] Unrecorded(Hypothesis hypothesis) =>
            [
                .. hypothesis
                    .Strongest()
                    // A pattern comes of itself when its parts are looked at; nobody is sent to look for it.
                    .Where(p => !model.Evidence.ContainsKey((p.Sign, p.Place)) && model.Knowledge.Sign(p.Sign)!.Pattern is null)
                    .Select(p => (open.TryGetValue((p.Sign, p.Place), out var by) ? by : open[(p.Sign, p.Place)] = [], p.Strength)),
            ];

        var lost = LostNext();
        var movable = ranked
            .Where(h => componentOf[h] == componentIndex)
            .Select(h => (Hypothesis: h, Holds: EvidenceWeights.Holds(h, component)))
            .ToArray();
        var shares = component.Scenarios.Select(s => s.Weight / total).ToArray();
        var found = new List<(KnownSign Sign, string Place, double Bits, double Mean, string Lost, List<(int Scenario, double Product)> By)>();
        var leaks = Leaks(open.Keys, componentOf, componentIndex, posterior);
        foreach (var ((id, place), by) in open.Where(o => o.Value.Count > 0))
        {
            var sign = model.Knowledge.Sign(id)!;
            var leak = leaks[(id, place)];
            // Scenarios that do not predict it show it as often as it appears for no reason.
            var rest = 1.0;
            double mean = 0,
                entropy = 0;
            foreach (var (i, product) in by)
            {
                var p = 1 - ((1 - leak) * product);
                mean += shares[i] * p;
                entropy += shares[i] * Entropy(p);
                rest -= shares[i];
            }

            mean += rest * leak;
            entropy += rest * Entropy(leak);
            var bits = Math.Max(0, Entropy(mean) - entropy) / sign.Minutes;
            found.Add((sign, place, bits, mean, lost.Contains((id, place)) ? next!.Name : "", by));
        }

        // What the next step of the strip destroys is looked at first, where it is worth looking at all.
        var worth = found.Count > 0 ? WorthFirst * found.Max(c => c.Bits) : 0;
        return
        [
            .. found
                .OrderByDescending(c => c.Lost.Length > 0 && c.Bits > worth)
                .ThenByDescending(c => Math.Round(c.Bits, 6))
                .ThenByDescending(c => c.Sign.DestroyedBy.Count)
                .ThenBy(c => c.Place, StringComparer.Ordinal)
                .ThenBy(c => c.Sign.Id, StringComparer.Ordinal)
                .Take(Checks)
                .Select(c =>
                {
                    var (about, present, absent) = Moved(leaks[(c.Sign.Id, c.Place)], c.Mean, c.By);
                    var hypothesis = model.Hypotheses[about];
                    return new NextCheck(
                        c.Sign.Id,
                        c.Sign.Name,
                        c.Place,
                        c.Sign.How,
                        c.Sign.With,
                        c.Sign.Minutes,
                        c.Bits,
                        hypothesis.Cause.Name,
                        hypothesis.Seat,
                        posterior.Probability[about],
                        present,
                        absent,
                        c.Sign.Measured,
                        c.Sign.DestroyedBy,
                        c.Lost
                    );
                }),
        ];

        // The hypothesis that a check moves: the leading one if it does, else the ranked one that it moves most, with what either outcome
        // makes of it. The scenarios kept give the Bayes factor, the posterior what it is applied to.
        (int About, double Present, double Absent) Moved(double leak, double mean, List<(int Scenario, double Product)> by)
        {
            (int About, double Present, double Absent) best = (ranked[0], posterior.Probability[ranked[0]], posterior.Probability[ranked[0]]);
            var most = 0.0;
            foreach (var (h, holds) in movable)
            {
                double share = 0,
                    present = 0;
                for (var i = 0; i < shares.Length; i++)
                {
                    share += holds[i] ? shares[i] : 0;
                }

                var told = 0.0;
                foreach (var (i, product) in by.Where(x => holds[x.Scenario]))
                {
                    present += shares[i] * (1 - ((1 - leak) * product));
                    told += shares[i];
                }

                present += (share - told) * leak;
                if (share is <= 0 or >= 1)
                {
                    continue;
                }

                var (given, otherwise) = (present / share, (mean - present) / (1 - share));
                var p = posterior.Probability[h];
                var ifPresent = p * given / ((p * given) + ((1 - p) * otherwise));
                var ifAbsent = p * (1 - given) / ((p * (1 - given)) + ((1 - p) * (1 - otherwise)));
                var moves = Math.Max(Math.Abs(ifPresent - p), Math.Abs(ifAbsent - p));
                if (h == ranked[0] && moves >= Moves)
                {
                    return (h, ifPresent, ifAbsent);
                }

                if (moves > most)
                {
                    (most, best) = (moves, (h, ifPresent, ifAbsent));
                }
            }

            return best;
        }
    }

    /// <summary>
    /// How often each sign appears though nothing of a component causes it: its leak, and the hypotheses outside, which hold independently of
    /// the component as things stand.
    /// </summary>
    private Dictionary<(string Sign, string Place), double> Leaks(
        IEnumerable<(string Sign, string Place)> signs,
        int[] componentOf,
        int component,
        Posterior posterior
    )
    {
        var none = signs.ToDictionary(s => s, s => 1 - model.Leak(s.Sign));
        for (var h = 0; h < model.Hypotheses.Count; h++)
        {
            foreach (var p in componentOf[h] == component ? [] : model.Hypotheses[h].Strongest())
            {
                if (none.TryGetValue((p.Sign, p.Place), out var q))
                {
                    none[(p.Sign, p.Place)] = q * (1 - (posterior.Probability[h] * p.Strength));
                }
            }
        }

        return none.ToDictionary(n => n.Key, n => 1 - n.Value);
    }

    /// <summary>Signs and places that the next step of the strip destroys unread.</summary>
    private HashSet<(string Sign, string Place)> LostNext() =>
        [
            .. (next?.Unread ?? []).SelectMany(u =>
                model
                    .Knowledge.SignsOn(model.Table.Find(u.Place)!.Kind.Id)
                    .Where(s => u.Signs.Count == 0 || u.Signs.Contains(s.Name))
                    .Select(s => (s.Id, u.Place))
            ),
        ];

    /// <summary>Binary entropy in bits.</summary>
    private static double Entropy(double p) => p is <= 0 or >= 1 ? 0 : -((p * Math.Log2(p)) + ((1 - p) * Math.Log2(1 - p)));
}
