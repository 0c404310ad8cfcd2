using VividSleuth.Core.Engines;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Look;
using VividSleuth.Core.Strip;

namespace VividSleuth.Core.Trace;

/// <summary>Lays the causes of the knowledge base over one engine and its evidence, and answers what started it.</summary>
public sealed class Tracer
{
    private const int Ranked = 10;

    private readonly TraceModel _model;
    private readonly EvidenceWeights _weights;
    private readonly PlannedStep? _next;

    private Tracer(TraceModel of, PlannedStep? step)
    {
        _model = of;
        _next = step;
        _weights = new EvidenceWeights(of);
    }

    /// <param name="measured">Signs that Gauge made of the readings, and patterns over places.</param>
    /// <param name="next">The strip's next step as it stands; null where there is none.</param>
    public static TraceAnswer Answer(
        TraceLog log,
        AddressTable table,
        KnowledgeBase knowledge,
        IReadOnlyList<MeasuredSign> measured,
        PlannedStep? next = null
    ) => new Tracer(new TraceModel(log, table, knowledge, measured), next).Answer();

    private TraceAnswer Answer()
    {
        var posterior = ScenarioSearch.Solve(_model.Net);
        var componentOf = new int[_model.Hypotheses.Count];
        for (var c = 0; c < posterior.Components.Count; c++)
        {
            foreach (var h in posterior.Components[c].Hypotheses)
            {
                componentOf[h] = c;
            }
        }

        var order = Enumerable
            .Range(0, _model.Hypotheses.Count)
            .OrderByDescending(h => posterior.Probability[h])
            .ThenBy(h => _model.Hypotheses[h].Cause.Id, StringComparer.Ordinal)
            .ThenBy(h => _model.Hypotheses[h].Station)
            .Take(Ranked)
            .ToArray();
        var products = posterior.Components.Select((c, i) => Array.Exists(order, h => componentOf[h] == i) ? _weights.Products(c) : []).ToArray();
        var ranking = order.Select(h => Rank(h, posterior, posterior.Components[componentOf[h]], products[componentOf[h]])).ToArray();
        return new TraceAnswer(
            ranking,
            posterior.None,
            Shares(posterior),
            DamageAccount.Of(_model, posterior),
            order.Length > 0 ? _weights.Hanging(order[0], posterior.Components[componentOf[order[0]]], products[componentOf[order[0]]]) : [],
            order.Length > 0 ? new NextChecks(_model, _next).Of(posterior, order, componentOf, componentOf[order[0]]) : [],
            _model.Assumptions(),
            _model.Contradictions,
            _model.Evidence.Count
        );
    }

    private RankedHypothesis Rank(int h, Posterior posterior, SolvedComponent component, double[][] products)
    {
        var hypothesis = _model.Hypotheses[h];
        var weights = _weights.Of(h, component, products);
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
                        [
                            .. s.Hypotheses.Select(h =>
                                Fact.Of("trace.cause-at", ("cause", _model.Hypotheses[h].Cause.Name), ("place", _model.Hypotheses[h].Seat))
                            ),
                        ],
                        s.Weight / (main.Total + (main.LeftOut / 2))
                    )),
            ];
    }
}
