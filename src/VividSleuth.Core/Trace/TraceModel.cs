using VividSleuth.Core.Engines;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Look;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Trace;

/// <summary>What is known of a sign at a place, with the likelihoods of what was seen or read.</summary>
/// <param name="Level">1 to 3 where it was seen by a person in one of three grades; 0 otherwise.</param>
internal sealed record Evidence(double IfPresent, double IfAbsent, Seen Seen, Fact Words, int Level = 0)
{
    /// <summary>How much it says, whichever way.</summary>
    public double Says => Math.Abs(Math.Log(Math.Max(IfPresent, 1e-9) / Math.Max(IfAbsent, 1e-9)));
}

/// <summary>A fact of the net: one sign at one place, or several that are ways to know the same.</summary>
/// <param name="Of">The signs and places; the first is the one by which it is told.</param>
internal sealed record KnownFact(IReadOnlyList<(string Sign, string Place)> Of, Evidence Evidence);

/// <summary>One engine with its evidence as a net of causes and signs.</summary>
internal sealed class TraceModel
{
    /// <summary>How often the hand tells what is not there. Common practice, no source.</summary>
    private const double FeltWrongly = 0.1;

    /// <summary>How often the hand misses what is there: a bearing felt tight that is worn. Common practice, no source.</summary>
    private const double MissedByFeel = 0.35;

    /// <summary>
    /// Probability that something which the knowledge base does not know has a part in it. Then every sign appears of itself this many times as often,
    /// so that what stays without a story raises it, and many alike are no proofs apart. Both are ours (common practice, no source).
    /// </summary>
    public const double UnknownPrior = 0.05;

    private const double UnknownTimes = 3;

    /// <summary>From this ratio of likelihoods down a figure is taken as a sign that is not there.</summary>
    private const double AsAbsent = 0.06;

    /// <summary>What a plain no does to a cause that cannot be without what was asked for.</summary>
    private const double RuledOut = 0.02;

    private readonly Dictionary<(string Sign, string Place), Evidence> _evidence = [];
    private readonly int[] _factOf;
    private readonly int[] _parents;
    private readonly IReadOnlyList<double> _odds;
    private readonly IReadOnlyList<IReadOnlyList<NetLink>> _links;
    private readonly List<Fact> _contradictions = [];
    private readonly TraceLog _log;

    /// <param name="measured">Signs that Gauge made of the readings, and patterns over places.</param>
    public TraceModel(TraceLog log, AddressTable table, KnowledgeBase knowledge, IReadOnlyList<MeasuredSign> measured)
    {
        _log = log;
        Risks = Answered(log, knowledge);
        Table = table;
        Knowledge = knowledge;
        Gather(log.Findings, measured);
        Facts = Together();
        var laid = Trace.Hypotheses.Over(table, knowledge);
        _factOf = new int[laid.Keys.Count];
        Array.Fill(_factOf, -1);
        for (var f = 0; f < Facts.Count; f++)
        {
            foreach (var of in Facts[f].Of)
            {
                if (laid.Keys.TryGetValue(of, out var key))
                {
                    _factOf[key] = f;
                }
            }
        }

        Hypotheses = laid.Hypotheses;
        var laidOut = Hypotheses.SelectMany((h, i) => LayOut(h).Select(w => (Hypothesis: i, w.Way, w.Odds, w.Links))).ToArray();
        Ways = [.. laidOut.Select(w => (w.Hypothesis, w.Way))];
        _odds = [.. laidOut.Select(w => w.Odds)];
        _links = [.. laidOut.Select(w => w.Links)];
        _parents = [.. Enumerable.Range(0, Hypotheses.Count).Select(FindParent)];
        Groups = GroupsOf();
    }

    /// <summary>How many signs at places the causes speak of; each has a <see cref="Predicted.Key"/>.</summary>
    public int Keys => _factOf.Length;

    public AddressTable Table { get; }

    public KnowledgeBase Knowledge { get; }

    public IReadOnlyDictionary<string, bool> Risks { get; }

    public IReadOnlyList<Hypothesis> Hypotheses { get; }

    /// <summary>The net's hypotheses: each way of each cause placed.</summary>
    public IReadOnlyList<(int Hypothesis, Way Way)> Ways { get; }

    /// <summary>
    /// The net's groups: for each cause placed the ways by which it is a root, with those of its kinds; after them for each the ways by which it is
    /// there at all, as a root or because another brought it about.
    /// </summary>
    public IReadOnlyList<IReadOnlyList<int>> Groups { get; }

    /// <summary>Number of the group of the ways by which a cause placed is there at all.</summary>
    public int There(int h) => Hypotheses.Count + h;

    /// <summary>What is known, in the order of the net's signs.</summary>
    public IReadOnlyList<KnownFact> Facts { get; }

    public IReadOnlyDictionary<(string Sign, string Place), Evidence> Evidence => _evidence;

    /// <summary>What is recorded both ways, and so counts for nothing.</summary>
    public IReadOnlyList<Fact> Contradictions => _contradictions;

    /// <summary>Number of the fact that a sign at a place is, or −1 where nothing is known of it.</summary>
    public int FactOf(Predicted predicted) => _factOf[predicted.Key];

    /// <summary>Whether a cause placed is told within another of which it is a kind.</summary>
    public bool IsKind(int h) => _parents[h] >= 0;

    /// <summary>The cause placed within which another is told; −1 where it is told by itself.</summary>
    public int ParentOf(int h) => _parents[h];

    /// <summary>How often a sign appears for no reason known here.</summary>
    /// <param name="unknown">With something in it that the knowledge base does not know.</param>
    public double Leak(string sign, bool unknown) => Leak(Knowledge.Sign(sign)!.Leak.Probability(), unknown);

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

        var told = Knowledge
            .Risks.Where(r => Risks.ContainsKey(r.Id) && !_log.Risks.ContainsKey(r.Id))
            .Select(r => Fact.Of(Risks[r.Id] ? "trace.risk-so" : "trace.risk-not-so", ("risk", r.Name)))
            .ToArray();
        if (told.Length > 0)
        {
            assumed.Add(Fact.Of("trace.taken-from-the-hours", ("hours", new Number(_log.Hours!.Value, 0)), ("risks", told)));
        }

        assumed.AddRange(
            _log.Odds.Select(o =>
                Fact.Of(
                    "trace.odds-of-this-kind",
                    ("kind", (object?)o.Kind),
                    ("cause", o.Cause.Length > 0 ? Knowledge.Cause(o.Cause)?.Name ?? o.Cause : null),
                    ("cylinder", o.Cylinder),
                    ("times", new Number(o.Times, 1)),
                    ("seen", o.Seen),
                    ("of", o.Of)
                )
            )
        );
        return assumed;
    }

    /// <summary>What was answered at arrival, and what the hours say where nobody answered.</summary>
    private static IReadOnlyDictionary<string, bool> Answered(TraceLog log, KnowledgeBase knowledge)
    {
        if (log.Hours is not { } hours)
        {
            return log.Risks;
        }

        var answered = new Dictionary<string, bool>(log.Risks, StringComparer.Ordinal);
        foreach (var risk in knowledge.Risks)
        {
            if (risk.ByHours(hours) is { } so)
            {
                answered.TryAdd(risk.Id, so);
            }
        }

        return answered;
    }

    /// <summary>By how much an answer to a risk multiplies the odds of a cause.</summary>
    public static double RiskFactor(RiskFactor risk, bool so) =>
        so ? risk.Times
        : risk.Needed ? RuledOut
        : 1 / Math.Sqrt(risk.Times);

    /// <summary>The net, and the logarithm of the constant by which its record is less probable than the net says.</summary>
    /// <param name="unknown">With something in it that the knowledge base does not know.</param>
    public (CausalNet Net, double LogScale) Net(bool unknown)
    {
        var scale = 0.0;
        var signs = Facts
            .Select(f =>
            {
                var leak = Leak(f.Of.Min(o => Knowledge.Sign(o.Sign)!.Leak.Probability()), unknown);
                if (f.Evidence.Level == 0)
                {
                    return IsAsGoodAsAbsent(f.Evidence)
                        ? new NetSign(leak, 0, f.Evidence.IfAbsent)
                        : new NetSign(leak, f.Evidence.IfPresent, f.Evidence.IfAbsent);
                }

                var (weight, fold) = CausalNet.Graded(leak, Severity.Slight.Shares(), f.Evidence.Level);
                scale += Math.Log(fold);
                return new NetSign(weight, f.Evidence.IfPresent, f.Evidence.IfAbsent);
            })
            .ToArray();
        var sets = Knowledge.Causes.Select(c => c.OneOf).Where(s => s.Length > 0).Distinct().Order(StringComparer.Ordinal).ToList();
        var net = new CausalNet(_odds, signs, _links)
        {
            Groups = Groups,
            Apart = sets.Count == 0 ? [] : [.. Ways.Select(w => sets.IndexOf(Hypotheses[w.Hypothesis].Cause.OneOf))],
        };
        return (net, scale);
    }

    /// <summary>A leak, with or without something in it that the knowledge base does not know.</summary>
    public static double Leak(double leak, bool unknown) => unknown ? 1 - Math.Pow(1 - leak, UnknownTimes) : leak;

    /// <summary>
    /// The ways of a cause as hypotheses of the net. Those that what was found cannot tell apart are one: another cause that may have followed and of
    /// which nothing was found, and extents that differ in what was found at one place at most, whose mixture is then that of their means.
    /// </summary>
    private List<(Way Way, double Odds, IReadOnlyList<NetLink> Links)> LayOut(Hypothesis hypothesis)
    {
        var risks = RisksOf(hypothesis.Cause) * OddsOf(hypothesis);
        var ways = hypothesis.Ways.Select(w => (Way: w, Links: LinksOf(w))).ToArray();
        var plain = ways.Where(w => w.Way.Follows < 0).ToArray();
        var found = plain.SelectMany(w => w.Links).Where(IsFound).Select(l => l.Sign).ToHashSet();
        var then = ways.Where(w => w.Way.Follows >= 0 && w.Links.Any(l => IsFound(l) && !found.Contains(l.Sign))).ToArray();
        var lost = 1 - then.Sum(w => w.Way.Share);
        var rest = plain.Sum(w => w.Way.Share);
        double Odds(double share)
        {
            var prior = hypothesis.Prior * share;
            return prior / (1 - prior) * risks;
        }

        var made = then.Select(w => (w.Way, Odds(w.Way.Share), w.Links)).ToList();
        var shares = plain.Select(w => w.Way.Share / rest * lost).ToArray();
        if (plain.Length == 1 || found.Count(f => plain.Select(w => w.Links.FirstOrDefault(l => l.Sign == f).Weight).Distinct().Count() > 1) > 1)
        {
            made.InsertRange(0, plain.Select((w, i) => (w.Way with { Share = shares[i] }, Odds(shares[i]), w.Links)));
            return made;
        }

        var folded = plain.Select((w, i) => shares[i] * w.Links.Aggregate(1.0, (f, l) => f * l.Fold * Against(l))).ToArray();
        var sum = folded.Sum();
        var links = plain[0]
            .Links.Select(
                (l, at) =>
                    new NetLink(
                        l.Sign,
                        sum > 0 ? plain.Select((w, i) => folded[i] * w.Links[at].Weight).Sum() / sum : l.Weight,
                        sum > 0 ? plain.Select((w, i) => folded[i] * w.Links[at].Fold).Sum() / sum : l.Fold
                    )
            )
            .ToArray();
        // So that what speaks against weighs on the mean as on the mixture.
        var mean = links.Aggregate(1.0, (f, l) => f * l.Fold * Against(l));
        var odds = mean > 0 ? Odds(lost) * sum / (lost * mean) : 0;
        made.Insert(0, (plain[plain.Length / 2].Way with { Share = lost }, odds, links));
        return made;
    }

    /// <summary>
    /// A figure that speaks so strongly against a sign that it is taken as one looked for and not there, with the weights that leave each hypothesis by
    /// itself as it was: absent signs factor. Only of two hypotheses that would both bring it about is it a little too much.
    /// </summary>
    private static bool IsAsGoodAsAbsent(Evidence evidence) => evidence.IfPresent > 0 && evidence.IfPresent < AsAbsent * evidence.IfAbsent;

    private bool IsFound(NetLink link) => Facts[link.Sign].Evidence is var e && e.IfPresent > e.IfAbsent;

    /// <summary>What a fact that speaks against leaves of a hypothesis which would bring it about.</summary>
    private double Against(NetLink link) =>
        Facts[link.Sign].Evidence is not { } e || e.IfPresent >= e.IfAbsent ? 1
        : IsAsGoodAsAbsent(e) ? 1 - link.Weight
        : 1 - (link.Weight * (1 - (e.IfPresent / e.IfAbsent)));

    private IReadOnlyList<NetLink> LinksOf(Way way)
    {
        // A fact known in several ways counts by the way in which the cause shows it most often.
        var strongest = new SortedDictionary<int, (double Strength, Severity How)>();
        foreach (var left in way.Leaves)
        {
            if (FactOf(left.Of) is >= 0 and var fact && left.Strength > strongest.GetValueOrDefault(fact).Strength)
            {
                strongest[fact] = (left.Strength, left.Of.How);
            }
        }

        return
        [
            .. strongest.Select(s =>
            {
                var (strength, how) = s.Value;
                var evidence = Facts[s.Key].Evidence;
                var (weight, fold) =
                    IsAsGoodAsAbsent(evidence) ? (strength * (1 - (evidence.IfPresent / evidence.IfAbsent)), 1)
                    : evidence.Level == 0 ? (strength, 1)
                    : CausalNet.Graded(strength, how.Shares(), evidence.Level);
                return new NetLink(s.Key, weight, fold);
            }),
        ];
    }

    /// <summary>By how much the shop's closed cases of this kind of engine raise a cause or its cylinder.</summary>
    private double OddsOf(Hypothesis hypothesis)
    {
        if (_log.Odds.Count == 0)
        {
            return 1;
        }

        var cylinder = Table.Find(hypothesis.Seat) is { Kind.Scope: StationScope.Cylinder } at ? at.Station : 0;
        return _log
            .Odds.Where(o => (o.Cause.Length == 0 || o.Cause == hypothesis.Cause.Id) && (o.Cylinder is null || o.Cylinder == cylinder))
            .Aggregate(1.0, (f, o) => f * o.Times);
    }

    private double RisksOf(KnownCause cause) =>
        cause.Risks.Aggregate(1.0, (f, r) => Risks.TryGetValue(r.Risk, out var so) ? f * RiskFactor(r, so) : f);

    private int FindParent(int h)
    {
        var of = Hypotheses[h];
        if (of.Cause.KindOf.Length == 0)
        {
            return -1;
        }

        var found = -1;
        for (var p = 0; p < Hypotheses.Count; p++)
        {
            var parent = Hypotheses[p];
            if (parent.Cause.Id == of.Cause.KindOf && (parent.Station == of.Station || parent.Station == 0))
            {
                found = parent.Station == of.Station || found < 0 ? p : found;
            }
        }

        return found;
    }

    private IReadOnlyList<IReadOnlyList<int>> GroupsOf()
    {
        var roots = Hypotheses.Select(_ => new List<int>()).ToArray();
        var there = Hypotheses.Select(_ => new List<int>()).ToArray();
        for (var w = 0; w < Ways.Count; w++)
        {
            var (h, way) = Ways[w];
            roots[h].Add(w);
            there[h].Add(w);
            if (_parents[h] >= 0)
            {
                roots[_parents[h]].Add(w);
            }

            foreach (var follows in Accounts(h, way))
            {
                there[follows].Add(w);
            }
        }

        return [.. roots, .. there];
    }

    /// <summary>What a way accounts for beside its own cause: what it went on to, and what its cause accounts for itself.</summary>
    private IEnumerable<int> Accounts(int h, Way way) =>
        way.Follows >= 0 ? Hypotheses[h].Accounts.Where(o => o != way.Follows).Append(way.Follows) : Hypotheses[h].Accounts;

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
            var graded = level is >= 1 and <= 3 && sign.Levels.Count == 3;
            var words = present ? (graded ? Fact.Text(sign.Levels[level - 1]) : Fact.Of("trace.seen")) : Fact.Of("trace.looked-not-there");
            var seen = present ? Seen.Present : Seen.Absent;
            if (group.All(f => f.Felt))
            {
                var felt = Fact.Of("trace.felt-not-opened", ("words", words));
                _evidence[(sign.Id, place.Code)] = present
                    ? new Evidence(1 - FeltWrongly, FeltWrongly, seen, felt)
                    : new Evidence(MissedByFeel, 1 - FeltWrongly, seen, felt);
                continue;
            }

            // A hint of a sound weighs by its chance, the surest of several.
            if (group.All(f => f.Chance is not null))
            {
                var chance = group.Max(f => f.Chance!.Value);
                var hint = Fact.Of("trace.by-sound", ("words", words), ("share", new Percent(chance)));
                _evidence[(sign.Id, place.Code)] = present
                    ? new Evidence(chance, 1 - chance, seen, hint)
                    : new Evidence(1 - chance, chance, seen, hint);
                continue;
            }

            _evidence[(sign.Id, place.Code)] = new Evidence(present ? 1 : 0, present ? 0 : 1, seen, words, present && graded ? level : 0);
        }

        foreach (var sign in measured)
        {
            var seen = sign.SpeaksFor ? Seen.Present : Seen.Absent;
            _evidence[(sign.Sign, sign.Place)] = new Evidence(sign.IfPresent, sign.IfAbsent, seen, sign.Words);
        }
    }

    /// <summary>What is known, with what is one fact known in several ways counted once, by the way that says most.</summary>
    private IReadOnlyList<KnownFact> Together() =>
        [
            .. _evidence
                .OrderBy(e => e.Key.Sign, StringComparer.Ordinal)
                .ThenBy(e => e.Key.Place, StringComparer.Ordinal)
                .GroupBy(e => Spot(e.Key.Sign, e.Key.Place, e.Value.Seen))
                .Select(g =>
                {
                    var most = g.MaxBy(e => (e.Value.Says, e.Value.Level))!;
                    return new KnownFact([most.Key, .. g.Select(e => e.Key).Where(k => k != most.Key)], most.Value);
                }),
        ];

    private (string Fact, string At, Seen Seen) Spot(string sign, string place, Seen seen)
    {
        var known = Knowledge.Sign(sign)!;
        var at = Table.Find(place);
        if (known.Once.Length == 0 || at is null)
        {
            return (sign, place, seen);
        }

        // A pin with one rod is where that rod's shells are.
        var one = at.Kind.Scope == StationScope.Crankpin ? Table.Engine.OnCrankpin(at.Station).ToArray() : [];
        return one.Length == 1 ? (known.Once, $"{StationScope.Cylinder} {one[0].Number}", seen) : (known.Once, $"{at.Kind.Scope} {at.Station}", seen);
    }
}
