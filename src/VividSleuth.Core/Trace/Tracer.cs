using VividSleuth.Core.Engines;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Look;
using VividSleuth.Core.Strip;

namespace VividSleuth.Core.Trace;

/// <summary>How the engine stands on the bench, for what to look at next.</summary>
/// <param name="Next">The strip's next step; null where there is none.</param>
/// <param name="MinutesTo">Minutes of work that lay a place open.</param>
/// <param name="Destroyed">Whether what a sign shows at a place is gone already.</param>
public sealed record OnTheBench(PlannedStep? Next, Func<Address, double> MinutesTo, Func<KnownSign, Address, bool> Destroyed)
{
    /// <summary>All open, nothing destroyed and no step next.</summary>
    public static OnTheBench Open { get; } = new(null, _ => 0, (_, _) => false);
}

/// <summary>Lays the causes of the knowledge base over one engine and its evidence, and answers what started it.</summary>
public sealed class Tracer
{
    private const int Ranked = 10;

    /// <summary>Of a cause's kinds and of what it brought about, a share below this is not told.</summary>
    private const double Told = 0.1;

    /// <summary>A sign from figures establishes a cause from this probability on.</summary>
    private const double Measured = 0.95;

    private readonly TraceModel _model;
    private readonly TraceState _state;
    private readonly TraceState[] _states;
    private readonly double _unknown;
    private readonly EvidenceWeights _weights;
    private readonly OnTheBench _bench;

    private Tracer(TraceModel model, OnTheBench bench)
    {
        _model = model;
        _bench = bench;
        _states = [new TraceState(model, unknown: false), new TraceState(model, unknown: true)];
        _unknown = 1 / (1 + Math.Exp(Math.Clamp(_states[0].LogWeight - _states[1].LogWeight, -500, 500)));
        // What is explained, and what to look at next, goes by the likelier of the two; the figures are of both.
        _state = _states[_unknown > 0.5 ? 1 : 0];
        _weights = new EvidenceWeights(_state);
    }

    /// <param name="measured">Signs that Gauge made of the readings, and patterns over places.</param>
    public static TraceAnswer Answer(
        TraceLog log,
        AddressTable table,
        KnowledgeBase knowledge,
        IReadOnlyList<MeasuredSign> measured,
        OnTheBench? bench = null
    ) => new Tracer(new TraceModel(log, table, knowledge, measured), bench ?? OnTheBench.Open).Answer(whole: true);

    /// <summary>As <see cref="Answer(TraceLog, AddressTable, KnowledgeBase, IReadOnlyList{MeasuredSign}, OnTheBench)"/>, without what to look at or ask next and what it hangs on.</summary>
    public static TraceAnswer Ranking(TraceLog log, AddressTable table, KnowledgeBase knowledge, IReadOnlyList<MeasuredSign>? measured = null) =>
        new Tracer(new TraceModel(log, table, knowledge, measured ?? []), OnTheBench.Open).Answer(whole: false);

    private TraceAnswer Answer(bool whole)
    {
        var order = Enumerable
            .Range(0, _model.Hypotheses.Count)
            .Where(h => !_model.IsKind(h))
            .OrderByDescending(h => Root(h).Probability)
            .ThenBy(h => _model.Hypotheses[h].Cause.Id, StringComparer.Ordinal)
            .ThenBy(h => _model.Hypotheses[h].Station)
            .ToArray();
        // What nothing speaks for has only its base rate, and is not told as if it had been found.
        var ranking = order
            .Where(h => _state.SpokenFor(h) && Root(h).Probability > TraceState.Raised * _model.Hypotheses[h].Prior)
            .Take(Ranked)
            .ToArray();
        var leading =
            ranking.Length > 0 ? ranking[0]
            : order.Length > 0 ? order[0]
            : -1;
        return new TraceAnswer(
            [.. ranking.Select(Rank)],
            Mix(s => s.Posterior.NoneFound),
            _unknown,
            Established(),
            Shares(),
            DamageAccount.Of(_state, [.. _model.Hypotheses.Where(h => DefinedBy(h).Any())]),
            whole && ranking.Length > 0 ? _weights.Hanging(leading) : [],
            whole && leading >= 0 ? new NextChecks(_state, _bench, h => Root(h).Probability).Of([.. order.Take(Ranked)]) : [],
            whole && leading >= 0 ? RiskQuestions.Of(_model, ranking.Length > 0 ? ranking : order, h => Root(h).Probability) : [],
            _model.Assumptions(),
            _model.Contradictions,
            _model.Evidence.Count
        );
    }

    private double Mix(Func<TraceState, double> of) => ((1 - _unknown) * of(_states[0])) + (_unknown * of(_states[1]));

    private (double Probability, double Lower, double Upper) Root(int h) =>
        (Mix(s => s.Posterior.Groups[h].Probability), Mix(s => s.Posterior.Groups[h].Lower), Mix(s => s.Posterior.Groups[h].Upper));

    /// <summary>Probability that a cause is there, as a root or because another brought it about.</summary>
    private double There(int h) => Mix(s => s.Posterior.Groups[_model.There(h)].Probability);

    /// <summary>
    /// A cause with its kinds: told as that kind which has more than half of it, else as the whole.
    /// </summary>
    private RankedHypothesis Rank(int whole)
    {
        var (together, lower, upper) = Root(whole);
        var kinds = KindsOf(whole).OrderByDescending(k => Root(k).Probability).ToArray();
        var h = whole;
        if (kinds.Length > 0 && Root(kinds[0]) is var first && first.Probability > together / 2)
        {
            (h, lower, upper) = (kinds[0], first.Lower, first.Upper);
        }

        var hypothesis = _model.Hypotheses[h];
        var weights = _weights.Of(h);
        return new RankedHypothesis(
            hypothesis.Cause.Id,
            hypothesis.Cause.Name,
            hypothesis.Cause.Family,
            ToldPlace.Of(_model, hypothesis),
            hypothesis.Seat,
            Root(h).Probability,
            lower,
            upper,
            together,
            kinds.Length == 0 ? "" : _model.Hypotheses[whole].Cause.Name,
            Calibration.Trust(Root(h).Probability),
            DefinedBy(hypothesis).Any(),
            [
                .. kinds
                    .Where(k => k != h && Root(k).Probability > Told * together)
                    .Select(k => new CauseShare(
                        _model.Hypotheses[k].Cause.Id,
                        _model.Hypotheses[k].Cause.Name,
                        ToldPlace.Of(_model, _model.Hypotheses[k]),
                        Root(k).Probability
                    )),
            ],
            Then(h, Root(h).Probability),
            [.. hypothesis.Cause.Chain.Select((l, i) => Traced(l.Says, hypothesis.Links[i]))],
            [.. weights.Where(w => w.Decibans >= 0)],
            [.. weights.Where(w => w.Decibans < 0)],
            hypothesis.Cause.Prove,
            hypothesis.Cause.Prevent,
            hypothesis.Cause.Caution,
            hypothesis.Cause.Provenance,
            hypothesis.Cause.Shop
        );
    }

    private IEnumerable<int> KindsOf(int whole) => Enumerable.Range(0, _model.Hypotheses.Count).Where(k => k != whole && _model.ParentOf(k) == whole);

    /// <summary>What a cause brought about, where something that was found speaks for it.</summary>
    private IReadOnlyList<CauseShare> Then(int h, double whole)
    {
        var hypothesis = _model.Hypotheses[h];
        var then = new List<CauseShare>();
        for (var w = 0; w < _model.Ways.Count; w++)
        {
            var (of, way) = _model.Ways[w];
            if (of == h && way.Follows >= 0 && Mix(s => s.Posterior.Probability[w]) is var p && p > Told * whole)
            {
                var follows = _model.Hypotheses[way.Follows];
                then.Add(new CauseShare(follows.Cause.Id, follows.Cause.Name, ToldPlace.Of(_model, follows), p));
            }
        }

        return hypothesis.Cause.Brings.Count == 0 ? [] : [.. then.OrderByDescending(t => t.Probability)];
    }

    /// <summary>Causes whose defining sign is seen at their seat, and what may have brought them about.</summary>
    private IReadOnlyList<EstablishedCause> Established() =>
        [
            .. _model
                .Hypotheses.Select((hypothesis, h) => (hypothesis, h))
                .SelectMany(x => DefinedBy(x.hypothesis).Take(1).Select(d => (x.hypothesis, x.h, Sign: d)))
                .Select(x => new EstablishedCause(
                    x.hypothesis.Cause.Id,
                    x.hypothesis.Cause.Name,
                    x.hypothesis.Seat,
                    x.Sign.Sign,
                    _model.Knowledge.Sign(x.Sign.Sign)!.Name,
                    x.Sign.Place,
                    _model.Evidence[x.Sign].Words,
                    There(x.h),
                    [
                        .. _model
                            .Groups[_model.There(x.h)]
                            .Select(w => _model.Ways[w].Hypothesis)
                            .Where(h => h != x.h)
                            .Distinct()
                            .Select(h => new CauseShare(
                                _model.Hypotheses[h].Cause.Id,
                                _model.Hypotheses[h].Cause.Name,
                                ToldPlace.Of(_model, _model.Hypotheses[h]),
                                Root(h).Probability
                            ))
                            .Where(b => b.Probability > Told)
                            .OrderByDescending(b => b.Probability),
                    ]
                )),
        ];

    /// <summary>The defining signs of a cause that were seen at the places of its station.</summary>
    private IEnumerable<(string Sign, string Place)> DefinedBy(Hypothesis hypothesis) =>
        hypothesis.Wide
            ? []
            : hypothesis
                .Cause.Defines.Where(d => _model.Knowledge.Sign(d.Sign) is not null)
                .SelectMany(d =>
                    _model
                        .Knowledge.Sign(d.Sign)!
                        .On.SelectMany(k => Places.Resolve(_model.Table, hypothesis.Cause.Anchor, hypothesis.Station, k, Relation.Same))
                        .Select(a => (d.Sign, Place: a.Code, d.From))
                )
                .Where(d =>
                    _model.Evidence.TryGetValue((d.Sign, d.Place), out var e)
                    && e.Seen == Seen.Present
                    && (e.IfAbsent == 0 ? e.Level == 0 || e.Level >= d.From : e.IfPresent >= Measured)
                )
                .Select(d => (d.Sign, d.Place));

    private TracedLink Traced(string says, IReadOnlyList<Predicted> predicted)
    {
        var signs = predicted
            .Select(p => new PredictedSign(
                p.Sign,
                _model.Knowledge.Sign(p.Sign)!.Name,
                p.Place,
                p.Strength,
                _model.Evidence.TryGetValue((p.Sign, p.Place), out var e) ? e.Seen : null
            ))
            .ToArray();
        // A link is contradicted by what it should leave more often than not; rare traces that are missing say little.
        var status =
            Array.Exists(signs, s => s.Seen == Seen.Present) ? LinkStatus.Ticked
            : Array.Exists(signs, s => s.Seen == Seen.Absent && s.Strength >= Frequency.Often.Probability()) ? LinkStatus.Contradicted
            : LinkStatus.Open;
        return new TracedLink(says, status, signs);
    }

    private List<ScenarioShare> Shares()
    {
        var main = _state
            .Posterior.Components.Where(c => c.Touched)
            .OrderByDescending(c => c.Scenarios.Where(s => s.Hypotheses.Count > 0).Sum(s => s.Weight) / c.Total)
            .FirstOrDefault();
        if (main is null)
        {
            return [];
        }

        // Ways of one cause are one to whoever reads it.
        string[] Causes(Scenario s) => [.. s.Hypotheses.Select(w => _model.Ways[w].Hypothesis).Distinct().Order().Select(h => $"{h}")];
        return
        [
            .. main
                .Scenarios.GroupBy(s => string.Join(',', Causes(s)))
                .Select(g => (First: g.First(), Weight: g.Sum(s => s.Weight)))
                .OrderByDescending(g => g.Weight)
                .Take(4)
                .Select(g => new ScenarioShare(
                    [
                        .. g
                            .First.Hypotheses.Select(w => _model.Hypotheses[_model.Ways[w].Hypothesis])
                            .Distinct()
                            .Select(h => Fact.Of("trace.cause-at", ("cause", h.Cause.Name), ("place", ToldPlace.Of(_model, h)))),
                    ],
                    g.Weight / (main.Total + (main.LeftOut / 2))
                )),
        ];
    }
}
