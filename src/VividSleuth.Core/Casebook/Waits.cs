using VividSleuth.Core.Index;
using VividSleuth.Core.Strip;
using VividSleuth.Core.Verdict;

namespace VividSleuth.Core.Casebook;

/// <summary>What a case waits for besides the next thing at the bench, and on whom.</summary>
/// <param name="ToSign">Hold points that are done and that nobody signed, or that changed since.</param>
/// <param name="Away">Parts in other hands.</param>
/// <param name="Coming">Lines of the order for which somebody was asked or that are ordered, and of which something is still to come.</param>
/// <param name="With">Who has the parts and from whom the lines come, each once.</param>
/// <param name="Due">The earliest day on which any of them was promised; null where nobody named one.</param>
public sealed record Waits(int ToSign, int Away, int Coming, IReadOnlyList<string> With, DateOnly? Due)
{
    public static Waits Of(EngineCase engineCase, StripPlan strip)
    {
        var away = engineCase.Parts.Where(p => p.Stands() && p.Custody.IsOut()).ToArray();
        var moves = engineCase.OrderMoves.ToLookup(m => m.Line);
        var coming = engineCase
            .OrderLines.Where(l => l.Stands())
            .Select(l => (Line: l, Now: Whereabouts.Of(l, moves[l.Id])))
            .Where(l => l.Now is { Outstanding: > 0, Stage: OrderStage.Asked or OrderStage.Ordered or OrderStage.Expected or OrderStage.Arrived })
            .ToArray();
        return new Waits(
            strip.Steps.Count(s => s.Unsettled(strip.Next is not null)),
            away.Length,
            coming.Length,
            [
                .. away.Select(p => p.Where)
                    .Concat(coming.Select(l => l.Line.Supplier))
                    .Select(w => w.Trim())
                    .Where(w => w.Length > 0)
                    .Distinct(StringComparer.OrdinalIgnoreCase),
            ],
            away.Select(p => p.DueBack).Concat(coming.Select(l => l.Now.Expected)).Min()
        );
    }
}
