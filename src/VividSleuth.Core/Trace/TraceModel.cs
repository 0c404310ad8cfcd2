using VividSleuth.Core.Engines;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Look;

namespace VividSleuth.Core.Trace;

/// <summary>What is known of a sign at a place, with the likelihoods of what was seen or read.</summary>
internal sealed record Evidence(double IfPresent, double IfAbsent, Seen Seen, Fact Words);

/// <summary>One engine with its evidence as a net of causes and signs.</summary>
internal sealed class TraceModel
{
    private readonly Dictionary<(string Sign, string Place), Evidence> _evidence = [];
    private readonly List<Fact> _contradictions = [];

    /// <param name="measured">Signs that Gauge made of the readings, and patterns over places.</param>
    public TraceModel(TraceLog log, AddressTable table, KnowledgeBase knowledge, IReadOnlyList<MeasuredSign> measured)
    {
        Risks = log.Risks;
        Table = table;
        Knowledge = knowledge;
        Gather(log.Findings, measured);
        Signs = [.. _evidence.Keys.OrderBy(k => k.Sign, StringComparer.Ordinal).ThenBy(k => k.Place, StringComparer.Ordinal)];
        Hypotheses = Trace.Hypotheses.Of(table, knowledge);
        Net = NetOf([.. Hypotheses.Select(h => h.Prior / (1 - h.Prior) * RiskFactor(h.Cause))]);
    }

    public AddressTable Table { get; }

    public KnowledgeBase Knowledge { get; }

    public IReadOnlyDictionary<string, bool> Risks { get; }

    public IReadOnlyList<Hypothesis> Hypotheses { get; }

    /// <summary>Signs of which something is known, in the order of the net.</summary>
    public IReadOnlyList<(string Sign, string Place)> Signs { get; }

    public IReadOnlyDictionary<(string Sign, string Place), Evidence> Evidence => _evidence;

    public CausalNet Net { get; }

    /// <summary>What is recorded both ways, and so counts for nothing.</summary>
    public IReadOnlyList<Fact> Contradictions => _contradictions;

    /// <summary>How often a sign appears for no reason known here.</summary>
    public double Leak(string sign) => Knowledge.Sign(sign)!.Leak.Probability();

    /// <summary>What is taken for granted for lack of record.</summary>
    public IReadOnlyList<Fact> Assumptions()
    {
        var assumed = new List<Fact>();
        if (_evidence.Count == 0)
        {
            assumed.Add(Fact.Of("trace.nothing-been-looked-measured-yet"));
        }

        if (Table.Engine.OilRoute.Count > 0)
        {
            assumed.Add(Fact.Of("trace.oil-taken-reach-bearings-one"));
        }

        var asked = Knowledge.Risks.Where(r => !Risks.ContainsKey(r.Id)).Select(r => r.Name).ToArray();
        if (asked.Length > 0)
        {
            assumed.Add(Fact.Of("trace.not-answered-arrival-taken-unknown", ("risks", asked)));
        }

        return assumed;
    }

    private void Gather(IReadOnlyList<Finding> findings, IReadOnlyList<MeasuredSign> measured)
    {
        foreach (var group in findings.Where(f => f.Stands()).GroupBy(f => (f.Sign, f.Place)))
        {
            if (Knowledge.Sign(group.Key.Sign) is not { } sign || Table.Find(group.Key.Place) is not { } place)
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

    private double RiskFactor(KnownCause cause)
    {
        var factor = 1.0;
        foreach (var risk in cause.Risks)
        {
            if (Risks.TryGetValue(risk.Risk, out var so))
            {
                factor *= so ? risk.Times : 1 / Math.Sqrt(risk.Times);
            }
        }

        return factor;
    }

    private CausalNet NetOf(IReadOnlyList<double> odds)
    {
        var index = Signs.Select((s, i) => (s, i)).ToDictionary(x => x.s, x => x.i);
        var signs = Signs.Select(s => new NetSign(Leak(s.Sign), _evidence[s].IfPresent, _evidence[s].IfAbsent)).ToArray();
        var links = Hypotheses
            .Select(h =>
                (IReadOnlyList<NetLink>)
                    h.Strongest()
                        .Where(p => index.ContainsKey((p.Sign, p.Place)))
                        .Select(p => new NetLink(index[(p.Sign, p.Place)], p.Strength))
                        .ToArray()
            )
            .ToArray();
        return new CausalNet(odds, signs, links);
    }
}
