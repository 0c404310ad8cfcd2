using VividSleuth.Core.Engines;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Look;
using VividSleuth.Core.Measures;
using VividSleuth.Core.Strip;

namespace VividSleuth.Core.Verdict;

/// <summary>What an order is made from.</summary>
/// <param name="Engine">What the engine is called.</param>
/// <param name="Candidates">All that were offered or came, also those that were taken back.</param>
public sealed record OrderLog(
    string Engine,
    IReadOnlyList<OrderLine> Lines,
    IReadOnlyList<OrderMove> Moves,
    IReadOnlyList<SupplyOffer> Offers,
    IReadOnlyList<Candidate> Candidates,
    VerdictLog Verdict
);

/// <summary>Where a line is, by its moves.</summary>
/// <param name="Back">When something of it last went back; null where nothing did.</param>
internal sealed record Whereabouts(
    OrderStage Stage,
    decimal Here,
    decimal Outstanding,
    DateOnly? Expected,
    string Reference,
    string Label,
    DateTimeOffset? Back,
    OrderMove? Last
)
{
    public static Whereabouts Of(OrderLine line, IEnumerable<OrderMove> moves)
    {
        var now = new Whereabouts(OrderStage.Wanted, 0, line.Quantity, null, "", "", null, null);
        foreach (var move in moves.Where(m => m.Stands()).OrderBy(m => m.At).ThenBy(m => m.To).ThenBy(m => m.Id))
        {
            var here = move.To switch
            {
                OrderStage.Arrived => now.Here + (move.Count ?? now.Outstanding),
                OrderStage.SentBack => Math.Max(0, now.Here - (move.Count ?? now.Here)),
                _ => now.Here,
            };
            now = now with
            {
                Stage = move.To,
                Here = here,
                Outstanding = Math.Max(0, line.Quantity - here),
                Expected = move.To is OrderStage.Ordered or OrderStage.Expected or OrderStage.SentBack ? move.Day ?? now.Expected : now.Expected,
                Reference = move.Reference.Length > 0 ? move.Reference : now.Reference,
                Label = move.To == OrderStage.Arrived ? move.Label : now.Label,
                Back = move.To == OrderStage.SentBack ? move.At : now.Back,
                Last = move,
            };
        }

        return now;
    }

    public IReadOnlyList<OrderStage> Next =>
        Stage switch
        {
            OrderStage.Wanted => [OrderStage.Asked, OrderStage.Ordered],
            OrderStage.Asked => [OrderStage.Ordered],
            OrderStage.Ordered => [OrderStage.Expected, OrderStage.Arrived],
            OrderStage.Expected => [OrderStage.Arrived, OrderStage.Expected],
            OrderStage.Arrived when Outstanding > 0 => [OrderStage.Arrived, OrderStage.Expected, OrderStage.SentBack],
            OrderStage.Arrived => [OrderStage.Checked, OrderStage.SentBack],
            OrderStage.Checked => [OrderStage.Fitted, OrderStage.SentBack],
            OrderStage.SentBack => [OrderStage.Expected, OrderStage.Arrived, OrderStage.Ordered],
            _ => [],
        };
}

/// <summary>The order of an engine: what the verdicts ask for, how far each line is, and what stands before it.</summary>
public sealed class OrderPlanner
{
    private readonly OrderLog _log;
    private readonly AddressTable _table;
    private readonly Supplies _supplies;
    private readonly DateOnly _today;
    private readonly OrderGates _gates;
    private readonly ReceivingBench _bench;
    private readonly OrderNeeds _needs;
    private readonly ILookup<Guid, OrderMove> _moves;

    /// <param name="sheetOf">Sheet with a candidate in the engine, by its letter; of the engine as it is for none.</param>
    /// <param name="today">The day by which what is expected is late.</param>
    public OrderPlanner(
        OrderLog log,
        AddressTable table,
        KnowledgeBase knowledge,
        Schools schools,
        Supplies supplies,
        IReadOnlyList<VerdictAdvice> advice,
        IReadOnlyList<MachiningPlan> plans,
        FitBoard fits,
        Cracks cracks,
        StripPlan strip,
        Func<string, GaugeSheet> sheetOf,
        DateOnly today
    )
    {
        (_log, _table, _supplies, _today) = (log, table, supplies, today);
        _gates = new OrderGates(table, knowledge, log.Verdict.Examinations, log.Verdict.Verdicts, plans, cracks);
        _bench = new ReceivingBench(table, knowledge, log.Candidates, sheetOf);
        _needs = new OrderNeeds(log.Verdict, table, knowledge, log.Engine, schools, sheetOf(""), advice, plans, fits, strip);
        _moves = log.Moves.ToLookup(m => m.Line);
    }

    public OrderBoard Board()
    {
        var lines = _log.Lines.Where(l => l.Stands()).ToArray();
        var lined = lines
            .Where(l => l.Need.Length > 0)
            .GroupBy(l => l.Need, StringComparer.Ordinal)
            .ToDictionary(g => g.Key, g => g.Sum(l => l.Quantity), StringComparer.Ordinal);
        var needs = _needs.All(_supplies.Shelf, key => lined.GetValueOrDefault(key), _gates).ToArray();
        var byKey = needs.ToDictionary(n => n.Key, StringComparer.Ordinal);
        var states = lines.Select(l => State(l, byKey)).ToArray();
        var open = lines.Zip(states).Where(x => x.Second.Stage is OrderStage.Wanted or OrderStage.Asked).Select(x => x.First).ToArray();
        var byLine = _log.Offers.Where(o => o.Stands() && o.Line is not null).ToLookup(o => o.Line!.Value);
        var offers = open.ToDictionary(l => l.Id, l => byLine[l.Id].ToArray());
        var freight = _supplies
            .Suppliers.GroupBy(s => s.Name, StringComparer.OrdinalIgnoreCase)
            .ToDictionary(
                g => g.Key,
                g => _supplies.Exchange.InBase(new Money(g.First().Freight, g.First().Currency)),
                StringComparer.OrdinalIgnoreCase
            );
        return new OrderBoard(
            [.. needs.Where(n => n.Missing > 0 || n.Lined < n.Quantity)],
            states,
            LeastOrder.Of(
                [.. open.Select(l => (l.Id, l.Quantity))],
                id => offers[id],
                // Whom the shop did not enter brings it for nothing, as far as anybody knows.
                name => freight.TryGetValue(name, out var known) ? known : 0,
                _supplies.Exchange
            ),
            [.. open.Where(l => offers[l.Id].Length == 0).Select(l => l.Id)],
            states.Sum(s => s.Cost ?? 0),
            _supplies.Exchange.Base,
            states.Count(s => s.Cost is null),
            states.Where(s => s.Stage is OrderStage.Ordered or OrderStage.Expected or OrderStage.SentBack).Select(s => s.Expected).Max()
        );
    }

    /// <summary>How a line stands; <paramref name="needs"/> by their keys.</summary>
    private OrderLineState State(OrderLine line, Dictionary<string, OrderNeed> needs)
    {
        var now = Whereabouts.Of(line, _moves[line.Id]);
        var gates = GatesOf(line);
        var late = now.Stage is OrderStage.Ordered or OrderStage.Expected or OrderStage.SentBack && now.Expected < _today;
        var sent = now.Stage is not (OrderStage.Wanted or OrderStage.Asked);
        var need = needs.GetValueOrDefault(line.Need);
        List<Fact?> against =
        [
            need is not null && need.Step.Length > 0 && need.Step != line.Step && now.Stage != OrderStage.Fitted
                ? Fact.Of(sent ? "verdict.order.step-changed" : "verdict.order.step-is-now", ("step", line.Step), ("now", need.Step))
                : null,
            line.Need.Length > 0 && need is null && now.Stage is not (OrderStage.Fitted or OrderStage.SentBack)
                ? Fact.Of("verdict.order.nobody-asks")
                : null,
            late
                ? Fact.Of(
                    "verdict.order.late",
                    ("day", now.Expected!.Value.ToString("yyyy-MM-dd", System.Globalization.CultureInfo.InvariantCulture))
                )
                : null,
            now.Here > 0 && now.Outstanding > 0
                ? Fact.Of("verdict.order.part-of-it", ("here", new Number((double)now.Here)), ("all", new Number((double)line.Quantity)))
                : null,
            .. sent ? gates.Where(g => g.Stands == GateStands.Failed).Select(g => Fact.Of("verdict.order.gate-has-failed", ("gate", g.Name))) : [],
        ];
        return new OrderLineState(
            line.Id,
            now.Stage,
            now.Here,
            now.Outstanding,
            now.Expected,
            late,
            now.Reference,
            line.Price is { } price && Currencies.Has(line.Currency)
                ? _supplies.Exchange.InBase(new Money(price * line.Quantity, line.Currency))
                : null,
            sent ? [] : gates,
            now.Stage is OrderStage.Arrived or OrderStage.Checked ? _bench.Of(line, now.Back, now.Label) : null,
            [.. against.OfType<Fact>()],
            _needs.AlongWith(line),
            now.Next
        );
    }

    private IReadOnlyList<GateState> GatesOf(OrderLine line) => _gates.Before(OrderNeeds.KindsOf(line.Item, line.Places, _table));

    /// <summary>What keeps a move from being made; nothing where it may be.</summary>
    public IEnumerable<Problem> Check(OrderMove move, Ordering school)
    {
        if (_log.Lines.FirstOrDefault(l => l.Id == move.Line && l.Stands()) is not { } line)
        {
            return [Problem.Of("line", "verdict.order.no-such-line")];
        }

        var now = Whereabouts.Of(line, _moves[line.Id]);
        return OrderRules.Check(
            move,
            line,
            now,
            move.To == OrderStage.Ordered ? GatesOf(line) : [],
            move.To == OrderStage.Checked ? _bench.Of(line, now.Back, now.Label) : null,
            school
        );
    }

    /// <summary>Candidates that are still here: what went back to its supplier is offered no more.</summary>
    public static IReadOnlyList<Candidate> StillHere(
        IReadOnlyList<Candidate> candidates,
        IReadOnlyList<OrderLine> lines,
        IReadOnlyList<OrderMove> moves
    )
    {
        if (candidates.All(c => c.Line is null))
        {
            return candidates;
        }

        var back = lines.ToDictionary(l => l.Id, l => Whereabouts.Of(l, moves.Where(m => m.Line == l.Id)).Back);
        return [.. candidates.Where(c => c.Line is not { } line || back.GetValueOrDefault(line) is not { } went || c.At > went)];
    }
}
