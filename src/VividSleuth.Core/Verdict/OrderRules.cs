using VividSleuth.Core.Engines;
using VividSleuth.Core.Gauge;
using VividSleuth.Core.Knowledge;
using VividSleuth.Core.Measures;

namespace VividSleuth.Core.Verdict;

/// <summary>What a line and a move of the order may be.</summary>
public static class OrderRules
{
    public const decimal MostMoney = 1_000_000_000_000m;

    public const decimal MostDays = 3650;

    /// <summary>Lines of one case.</summary>
    public const int MostLines = 10_000;

    /// <summary>What is wrong with a line; nothing of one that may stand.</summary>
    public static IEnumerable<Problem> Check(OrderLine line, AddressTable table, KnowledgeBase knowledge)
    {
        if (string.IsNullOrWhiteSpace(line.What))
        {
            yield return Problem.Of("what", "verdict.order.needs-words");
        }

        if (line.Item.Length > 0 && CandidateSets.KindsOf(line.Item).Count == 0)
        {
            yield return Problem.Of("item", "verdict.order.no-such-item", ("item", line.Item));
        }

        if (line.Course.Length > 0 && knowledge.Course(line.Course) is null)
        {
            yield return Problem.Of("course", "verdict.order.no-such-course", ("course", line.Course));
        }

        if (line.Quantity is <= 0 or > 100_000)
        {
            yield return Problem.Of("quantity", "verdict.order.quantity", ("what", line.What));
        }

        if (line.Price is < 0 or > MostMoney)
        {
            yield return Problem.Of("price", "verdict.order.price", ("what", line.What));
        }

        if (line.Price is not null && !Currencies.Has(line.Currency))
        {
            yield return Problem.Of("currency", "verdict.option.unknown-currency", ("currency", line.Currency));
        }

        if (line.Days is < 0 or > MostDays)
        {
            yield return Problem.Of("days", "verdict.order.days", ("what", line.What));
        }

        if (line.Places.Find(p => table.Find(p) is null) is { } place)
        {
            yield return Problem.Of("places", "casebook.no-address", ("place", place));
        }

        foreach (var want in line.Wants)
        {
            if (knowledge.Characteristic(want.Characteristic) is null)
            {
                yield return Problem.Of("wants", "verdict.order.no-such-figure", ("figure", want.Characteristic));
            }

            if (PartKinds.Find(want.Of) is null && table.Find(want.Of) is null)
            {
                yield return Problem.Of("wants", "verdict.order.no-such-item", ("item", want.Of));
            }

            if (want.Least > want.Most || (want.Least is null && want.Most is null))
            {
                yield return Problem.Of("wants", "verdict.order.bounds", ("figure", want.Characteristic));
            }
        }
    }

    /// <param name="gates">Before a line that is sent.</param>
    /// <param name="receiving">Of a line that is let in.</param>
    internal static IEnumerable<Problem> Check(
        OrderMove move,
        OrderLine line,
        Whereabouts now,
        IReadOnlyList<GateState> gates,
        Receiving? receiving,
        Ordering school
    )
    {
        if (!now.Next.Contains(move.To))
        {
            yield return Problem.Of("to", "verdict.order.not-from-here", ("what", line.What), ("stage", now.Stage), ("to", move.To));
            yield break;
        }

        if (move.To == OrderStage.Ordered && line.Supplier.Length == 0)
        {
            yield return Problem.Of("supplier", "verdict.order.from-whom", ("what", line.What));
        }

        if (move.To == OrderStage.Expected && move.Day is null)
        {
            yield return Problem.Of("day", "verdict.order.which-day", ("what", line.What));
        }

        var most = move.To switch
        {
            OrderStage.Arrived => now.Outstanding,
            OrderStage.SentBack => now.Here,
            _ => (decimal?)null,
        };
        if (most is { } m && (move.Count is <= 0 || move.Count > m))
        {
            yield return Problem.Of("count", "verdict.order.so-many", ("what", line.What), ("most", new Number((double)m)));
        }

        if (move.To == OrderStage.SentBack && string.IsNullOrWhiteSpace(move.Note))
        {
            yield return Problem.Of("note", "verdict.order.why-back", ("what", line.What));
        }

        foreach (var gate in gates.Where(g => g.Stands != GateStands.Open))
        {
            if (gate.Stands == GateStands.Failed)
            {
                yield return Problem.Of(
                    "gate",
                    "verdict.order.gate-is-failed",
                    ("what", line.What),
                    ("gate", gate.Name),
                    ("evidence", gate.Evidence)
                );
            }
            else if (school == Ordering.HoldAll)
            {
                yield return Problem.Of("gate", "verdict.order.gate-holds", ("what", line.What), ("gate", gate.Name), ("evidence", gate.Evidence));
            }
            else if (!Given(move, gate.Gate))
            {
                yield return Problem.Of(
                    "reasons",
                    "verdict.order.name-the-risk",
                    ("what", line.What),
                    ("gate", gate.Name),
                    ("evidence", gate.Evidence)
                );
            }
        }

        if (receiving is not null)
        {
            foreach (var problem in LetIn(move, line, receiving))
            {
                yield return problem;
            }
        }

        var told = move.Reasons.Values.Select(v => v.Trim()).Where(v => v.Length > 0).ToArray();
        if (told.Distinct(StringComparer.OrdinalIgnoreCase).Count() < told.Length)
        {
            yield return Problem.Of("reasons", "verdict.order.one-reason-each");
        }
    }

    private static IEnumerable<Problem> LetIn(OrderMove move, OrderLine line, Receiving receiving)
    {
        if (receiving.Refused is { } refused)
        {
            yield return Problem.Of("to", "verdict.order.refused", ("what", line.What), ("why", refused));
            yield break;
        }

        foreach (var group in receiving.Figures.Where(f => f.Stands != FigureStands.Inside).GroupBy(f => f.Key).Where(g => !Given(move, g.Key)))
        {
            yield return Problem.Of(
                "reasons",
                "verdict.order.measure-it",
                ("what", line.What),
                ("figure", group.First().Name),
                ("places", group.Select(f => f.Place).ToArray())
            );
        }

        if (receiving.Label is { } label && receiving.Figures.All(f => f.Stands != FigureStands.Inside))
        {
            yield return Problem.Of("to", "verdict.order.wrong-box", ("what", line.What), ("label", label));
        }

        if (receiving.Figures.Count == 0 && string.IsNullOrWhiteSpace(move.Note))
        {
            yield return Problem.Of("note", "verdict.order.say-what-you-saw", ("what", line.What));
        }
    }

    private static bool Given(OrderMove move, string key) => move.Reasons.GetValueOrDefault(key) is { } reason && !string.IsNullOrWhiteSpace(reason);
}
