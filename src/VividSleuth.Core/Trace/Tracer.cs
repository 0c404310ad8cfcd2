using VividSleuth.Core.Engines;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Look;
using VividSleuth.Core.Measures;
using VividSleuth.Core.Strip;

namespace VividSleuth.Core.Trace;

/// <summary>Lays the causes of the knowledge base over one engine and its evidence, and answers what started it.</summary>
public sealed class Tracer
{
    private const int Ranked = 10;
    private const int Checks = 6;

    // A check that is lost soon goes first if it is worth a tenth of the best one.
    private const double WorthFirst = 0.1;

    // A check moves the leading cause where either outcome changes its probability by this much.
    private const double Moves = 0.03;

    // Weights below this say nothing that a person should read.
    private const double LeastDecibans = 0.3;

    private readonly KnowledgeBase _knowledge;
    private readonly AddressTable _table;
    private readonly IReadOnlyList<Hypothesis> _hypotheses;
    private readonly double[] _odds;
    private readonly Dictionary<(string Sign, string Place), Evidence> _evidence = [];
    private readonly List<(string Sign, string Place)> _signs = [];
    private readonly List<Fact> _contradictions = [];
    private readonly IReadOnlyDictionary<string, bool> _risks;
    private readonly CausalNet _net;
    private readonly PlannedStep? _next;

    /// <param name="measured">Signs that Gauge made of the readings, and patterns over places.</param>
    /// <param name="next">The strip's next step as it stands; null where there is none.</param>
    public Tracer(TraceLog log, AddressTable table, KnowledgeBase knowledge, IReadOnlyList<MeasuredSign> measured, PlannedStep? next = null)
    {
        _next = next;
        _risks = log.Risks;
        _table = table;
        _knowledge = knowledge;
        Gather(log.Findings, measured);
        _signs.AddRange(_evidence.Keys.OrderBy(k => k.Sign, StringComparer.Ordinal).ThenBy(k => k.Place, StringComparer.Ordinal));
        _hypotheses = Hypotheses.Of(table, knowledge);
        _odds = [.. _hypotheses.Select(h => h.Prior / (1 - h.Prior) * RiskFactor(h.Cause))];
        _net = Net();
    }

    public static TraceAnswer Answer(
        TraceLog log,
        AddressTable table,
        KnowledgeBase knowledge,
        IReadOnlyList<MeasuredSign> measured,
        PlannedStep? next = null
    ) => new Tracer(log, table, knowledge, measured, next).Answer();

    public TraceAnswer Answer()
    {
        var posterior = ScenarioSearch.Solve(_net);
        var componentOf = new int[_hypotheses.Count];
        for (var c = 0; c < posterior.Components.Count; c++)
        {
            foreach (var h in posterior.Components[c].Hypotheses)
            {
                componentOf[h] = c;
            }
        }

        var order = Enumerable
            .Range(0, _hypotheses.Count)
            .OrderByDescending(h => posterior.Probability[h])
            .ThenBy(h => _hypotheses[h].Cause.Id, StringComparer.Ordinal)
            .ThenBy(h => _hypotheses[h].Station)
            .Take(Ranked)
            .ToArray();
        var products = posterior.Components.Select((c, i) => Array.Exists(order, h => componentOf[h] == i) ? Products(c) : []).ToArray();
        var ranking = order.Select(h => Rank(h, posterior, posterior.Components[componentOf[h]], products[componentOf[h]])).ToArray();
        return new TraceAnswer(
            ranking,
            posterior.None,
            Shares(posterior),
            Damage(posterior),
            order.Length > 0 ? Hanging(order[0], posterior.Components[componentOf[order[0]]], products[componentOf[order[0]]]) : [],
            order.Length > 0 ? Next(posterior, order, componentOf, componentOf[order[0]]) : [],
            Assumptions(),
            _contradictions,
            _evidence.Count
        );
    }

    private void Gather(IReadOnlyList<Finding> findings, IReadOnlyList<MeasuredSign> measured)
    {
        foreach (var group in findings.Where(f => f.Stands()).GroupBy(f => (f.Sign, f.Place)))
        {
            if (_knowledge.Sign(group.Key.Sign) is not { } sign || _table.Find(group.Key.Place) is not { } place)
            {
                continue;
            }

            var present = group.Any(f => f.Seen == Seen.Present);
            var absent = group.Any(f => f.Seen == Seen.Absent);
            if (present && absent)
            {
                _contradictions.Add(Fact.Of("trace.recorded-both-seen-not-there", ("sign", sign.Name), ("place", place.Code)));
                continue;
            }

            var level = group.Max(f => f.Level);
            var words = present
                ? (level is >= 1 and <= 3 && sign.Levels.Count == 3 ? Fact.Text(sign.Levels[level - 1]) : Fact.Of("trace.seen"))
                : Fact.Of("trace.looked-not-there");
            _evidence[(sign.Id, place.Code)] = new Evidence(present ? 1 : 0, present ? 0 : 1, present ? Seen.Present : Seen.Absent, words);
        }

        foreach (var sign in measured)
        {
            var seen = sign.SpeaksFor ? Seen.Present : Seen.Absent;
            _evidence[(sign.Sign, sign.Place)] = new Evidence(sign.IfPresent, sign.IfAbsent, seen, sign.Words);
        }
    }

    private double RiskFactor(CauseEntry cause)
    {
        var factor = 1.0;
        foreach (var risk in cause.Risks)
        {
            if (_risks.TryGetValue(risk.Risk, out var so))
            {
                factor *= so ? risk.Times : 1 / Math.Sqrt(risk.Times);
            }
        }

        return factor;
    }

    private CausalNet Net()
    {
        var index = _signs.Select((s, i) => (s, i)).ToDictionary(x => x.s, x => x.i);
        var signs = _signs.Select(s => new NetSign(Leak(s.Sign), _evidence[s].IfPresent, _evidence[s].IfAbsent)).ToArray();
        var links = _hypotheses
            .Select(h =>
                (IReadOnlyList<NetLink>)
                    h.Strongest()
                        .Where(p => index.ContainsKey((p.Sign, p.Place)))
                        .Select(p => new NetLink(index[(p.Sign, p.Place)], p.Strength))
                        .ToArray()
            )
            .ToArray();
        return new CausalNet(_odds, signs, links);
    }

    private double Leak(string sign) => _knowledge.Sign(sign)!.Leak.Probability();

    private RankedHypothesis Rank(int h, Posterior posterior, SolvedComponent component, double[][] products)
    {
        var hypothesis = _hypotheses[h];
        var holds = Holds(h, component);
        var weights = _net.Links[h]
            .Select(l => Weigh(l, component, holds, products))
            .Where(w => Math.Abs(w.Decibans) >= LeastDecibans)
            .OrderByDescending(w => Math.Abs(w.Decibans))
            .ThenBy(w => w.Place, StringComparer.Ordinal)
            .ThenBy(w => w.Sign, StringComparer.Ordinal)
            .ToArray();
        return new RankedHypothesis(
            hypothesis.Cause.Id,
            hypothesis.Cause.Name,
            hypothesis.Cause.Family,
            hypothesis.Seat,
            posterior.Probability[h],
            posterior.Lower[h],
            posterior.Upper[h],
            [.. hypothesis.Cause.Chain.Select((l, i) => Traced(l.Says, hypothesis.Links[i]))],
            [.. weights.Where(w => w.Decibans > 0)],
            [.. weights.Where(w => w.Decibans < 0)],
            hypothesis.Cause.Prove,
            hypothesis.Cause.Prevent,
            hypothesis.Cause.Caution,
            hypothesis.Cause.Provenance,
            hypothesis.Cause.Shop
        );
    }

    private TracedLink Traced(string says, IReadOnlyList<Predicted> predicted)
    {
        var signs = predicted
            .Select(p => new PredictedSign(
                p.Sign,
                _knowledge.Sign(p.Sign)!.Name,
                p.Place,
                p.Strength,
                _evidence.TryGetValue((p.Sign, p.Place), out var e) ? e.Seen : null
            ))
            .ToArray();
        // A link is contradicted by what it should leave more often than not; rare traces that are missing say little.
        var status =
            Array.Exists(signs, s => s.Seen == Seen.Present) ? LinkStatus.Ticked
            : Array.Exists(signs, s => s.Seen == Seen.Absent && s.Strength >= Frequency.Often.Probability()) ? LinkStatus.Contradicted
            : LinkStatus.Open;
        return new TracedLink(says, status, signs);
    }

    /// <summary>In which of the scenarios found a hypothesis holds.</summary>
    private static bool[] Holds(int h, SolvedComponent component) => [.. component.Scenarios.Select(s => s.Hypotheses.Contains(h))];

    /// <summary>Weight of evidence by leaving the sign out of the scenarios found (I. J. Good's decibans).</summary>
    private EvidenceWeight Weigh(NetLink link, SolvedComponent component, bool[] holds, double[][] products)
    {
        var sign = _net.Signs[link.Sign];
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
        var (id, place) = _signs[link.Sign];
        var evidence = _evidence[(id, place)];
        return new EvidenceWeight(id, _knowledge.Sign(id)!.Name, place, evidence.Seen, decibans, evidence.Words);
    }

    /// <summary>
    /// What was found, told by the likeliest scenario of every component together: each present sign goes to the link that brings it about most
    /// often.
    /// </summary>
    private List<DamageTold> Damage(Posterior posterior)
    {
        var held = posterior.Components.SelectMany(c => c.Scenarios.MaxBy(s => s.Weight)!.Hypotheses).Select(h => _hypotheses[h]).ToArray();
        return
        [
            .. _signs
                .Where(s => _evidence[s].Seen == Seen.Present)
                .Select(s =>
                {
                    var best = held.SelectMany(h =>
                            h.Links.SelectMany(
                                (l, i) => l.Where(p => p.Sign == s.Sign && p.Place == s.Place).Select(p => (Hypothesis: h, Link: i, p.Strength))
                            )
                        )
                        .OrderByDescending(x => x.Strength)
                        .ThenBy(x => x.Link)
                        .FirstOrDefault();
                    var name = _knowledge.Sign(s.Sign)!.Name;
                    return best.Hypothesis is { } h
                        ? new DamageTold(s.Sign, name, s.Place, h.Cause.Name, h.Seat, best.Link, h.Cause.Chain[best.Link].Says)
                        : new DamageTold(s.Sign, name, s.Place, "", "", -1, "");
                })
                .OrderBy(d => d.Link < 0)
                .ThenBy(d => d.By, StringComparer.Ordinal)
                .ThenBy(d => d.ByPlace, StringComparer.Ordinal)
                .ThenBy(d => d.Link),
        ];
    }

    /// <summary>
    /// Signs of the leading component without which another hypothesis would lead: the scenarios found are re-weighted with the sign left out.
    /// </summary>
    private List<HangsOn> Hanging(int leading, SolvedComponent component, double[][] products)
    {
        var hanging = new List<HangsOn>();
        var touched = component.Hypotheses.SelectMany(h => _net.Links[h]).Select(l => l.Sign).Distinct().Order();
        var mass = new double[_hypotheses.Count];
        var members = component.Scenarios.Select(s => s.Hypotheses.ToArray()).ToArray();
        foreach (var sign in touched)
        {
            var net = _net.Signs[sign];
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
                var (id, place) = _signs[sign];
                hanging.Add(
                    new HangsOn(
                        id,
                        _knowledge.Sign(id)!.Name,
                        place,
                        _evidence[(id, place)].Seen,
                        _hypotheses[then].Cause.Name,
                        _hypotheses[then].Seat,
                        mass[then] / total
                    )
                );
            }
        }

        return [.. hanging.OrderByDescending(x => x.Probability).ThenBy(x => x.Place, StringComparer.Ordinal).Take(4)];
    }

    /// <summary>For each scenario of a component and each recorded sign, the product of (1 − w) over the hypotheses that hold.</summary>
    private double[][] Products(SolvedComponent component) =>
        [
            .. component.Scenarios.Select(scenario =>
            {
                var q = new double[_signs.Count];
                Array.Fill(q, 1);
                foreach (var link in scenario.Hypotheses.SelectMany(h => _net.Links[h]))
                {
                    q[link.Sign] *= 1 - link.Weight;
                }

                return q;
            }),
        ];

    private List<ScenarioShare> Shares(Posterior posterior)
    {
        var main = posterior
            .Components.OrderByDescending(c => c.Scenarios.Where(s => s.Hypotheses.Count > 0).Sum(s => s.Weight) / c.Total)
            .FirstOrDefault();
        return main is null
            ? []
            :
            [
                .. main
                    .Scenarios.OrderByDescending(s => s.Weight)
                    .Take(4)
                    .Select(s => new ScenarioShare(
                        [.. s.Hypotheses.Select(h => $"{_hypotheses[h].Cause.Name} ({_hypotheses[h].Seat})")],
                        s.Weight / (main.Total + (main.LeftOut / 2))
                    )),
            ];
    }

    /// <summary>
    /// Expected information about the leading component's scenarios per minute of looking, for every sign that some scenario
    /// predicts and nobody has recorded. What the strip's next step destroys goes first; of equals, what washing or dismantling would destroy.
    /// </summary>
    private List<NextCheck> Next(Posterior posterior, int[] ranked, int[] componentOf, int componentIndex)
    {
        var component = posterior.Components[componentIndex];
        var total = component.Scenarios.Sum(s => s.Weight);
        // Per sign that nobody recorded: the scenarios that predict it, each with its product of (1 − w).
        var open = new Dictionary<(string Sign, string Place), List<(int Scenario, double Product)>>();
        var predicted = component.Hypotheses.ToDictionary(h => h, h => Unrecorded(_hypotheses[h]));
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
                    .Where(p => !_evidence.ContainsKey((p.Sign, p.Place)) && _knowledge.Sign(p.Sign)!.Pattern is null)
                    .Select(p => (open.TryGetValue((p.Sign, p.Place), out var by) ? by : open[(p.Sign, p.Place)] = [], p.Strength)),
            ];

        var lost = LostNext();
        var movable = ranked.Where(h => componentOf[h] == componentIndex).Select(h => (Hypothesis: h, Holds: Holds(h, component))).ToArray();
        var shares = component.Scenarios.Select(s => s.Weight / total).ToArray();
        var found = new List<(SignEntry Sign, string Place, double Bits, double Mean, string Lost, List<(int Scenario, double Product)> By)>();
        var leaks = Leaks(open.Keys, componentOf, componentIndex, posterior);
        foreach (var ((id, place), by) in open.Where(o => o.Value.Count > 0))
        {
            var sign = _knowledge.Sign(id)!;
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
            found.Add((sign, place, bits, mean, lost.Contains((id, place)) ? _next!.Name : "", by));
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
                    var hypothesis = _hypotheses[about];
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
        var none = signs.ToDictionary(s => s, s => 1 - Leak(s.Sign));
        for (var h = 0; h < _hypotheses.Count; h++)
        {
            foreach (var p in componentOf[h] == component ? [] : _hypotheses[h].Strongest())
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
            .. (_next?.Unread ?? []).SelectMany(u =>
                _knowledge
                    .SignsOn(_table.Find(u.Place)!.Kind.Id)
                    .Where(s => u.Signs.Count == 0 || u.Signs.Contains(s.Name))
                    .Select(s => (s.Id, u.Place))
            ),
        ];

    /// <summary>Binary entropy in bits.</summary>
    private static double Entropy(double p) => p is <= 0 or >= 1 ? 0 : -((p * Math.Log2(p)) + ((1 - p) * Math.Log2(1 - p)));

    private List<Fact> Assumptions()
    {
        var assumed = new List<Fact>();
        if (_evidence.Count == 0)
        {
            assumed.Add(Fact.Of("trace.nothing-been-looked-measured-yet"));
        }

        if (_table.Engine.OilRoute.Count > 0)
        {
            assumed.Add(Fact.Of("trace.oil-taken-reach-bearings-one"));
        }

        var asked = _knowledge.Risks.Where(r => !_risks.ContainsKey(r.Id)).Select(r => r.Name).ToArray();
        if (asked.Length > 0)
        {
            assumed.Add(Fact.Of("trace.not-answered-arrival-taken-unknown", ("risks", asked)));
        }

        return assumed;
    }

    private sealed record Evidence(double IfPresent, double IfAbsent, Seen Seen, Fact Words);
}
